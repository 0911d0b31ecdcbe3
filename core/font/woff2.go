package font

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"slices"

	"github.com/andybalholm/brotli"
	"github.com/go-text/typesetting/font/opentype"
)

// maxTables bounds what one font file may unpack to, in bytes.
const maxTables = 32 << 20

// knownTags are the table tags a WOFF2 directory gives by number (WOFF2, 4.1).
var knownTags = [63]string{
	"cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2", "post", "cvt ", "fpgm", "glyf", "loca", "prep", "CFF ", "VORG", "EBDT",
	"EBLC", "gasp", "hdmx", "kern", "LTSH", "PCLT", "VDMX", "vhea", "vmtx", "BASE", "GDEF", "GPOS", "GSUB", "EBSC", "JSTF", "MATH",
	"CBDT", "CBLC", "COLR", "CPAL", "SVG ", "sbix", "acnt", "avar", "bdat", "bloc", "bsln", "cvar", "fdsc", "feat", "fmtx", "fvar",
	"gvar", "hsty", "just", "lcar", "mort", "morx", "opbd", "prop", "trak", "Zapf", "Silf", "Glat", "Gloc", "Feat", "Sill",
}

// outlines are the tables measuring needs none of. Leaving them out saves
// undoing their transformation (WOFF2, 5.1 to 5.3).
var outlines = []string{"glyf", "loca", "gvar", "cvar", "fpgm", "prep", "cvt ", "DSIG"}

var errTruncated = errors.New("the WOFF2 file ends too soon")

// unpack turns a WOFF2 file into an OpenType file without outlines: enough to
// shape and measure text.
func unpack(file []byte) ([]byte, error) {
	if len(file) < 48 || string(file[:4]) != "wOF2" {
		return nil, errors.New("not a WOFF2 file")
	}
	type entry struct {
		tag         string
		length      int
		transformed bool
	}
	in := bytes.NewReader(file[48:])
	var entries []entry
	total := 0
	for range binary.BigEndian.Uint16(file[12:]) {
		flags, err := in.ReadByte()
		if err != nil {
			return nil, errTruncated
		}
		e := entry{}
		if known := flags & 63; int(known) < len(knownTags) {
			e.tag = knownTags[known]
		} else {
			var tag [4]byte
			if _, err := io.ReadFull(in, tag[:]); err != nil {
				return nil, errTruncated
			}
			e.tag = string(tag[:])
		}
		if e.length, err = readBase128(in); err != nil {
			return nil, err
		}
		// Version 3 is "as it is" for glyf and loca, version 0 for all else.
		version, plain := flags>>6, byte(0)
		if e.tag == "glyf" || e.tag == "loca" {
			plain = 3
		}
		if e.transformed = version != plain; e.transformed {
			if e.length, err = readBase128(in); err != nil {
				return nil, err
			}
		}
		if total += e.length; total > maxTables {
			return nil, fmt.Errorf("the font's tables are larger than %d MB", maxTables>>20)
		}
		entries = append(entries, e)
	}
	size := int(binary.BigEndian.Uint32(file[20:]))
	if size > in.Len() {
		return nil, errTruncated
	}
	packed := file[len(file)-in.Len():]
	data := make([]byte, total)
	if _, err := io.ReadFull(brotli.NewReader(bytes.NewReader(packed[:size])), data); err != nil {
		return nil, fmt.Errorf("the font's tables do not unpack: %w", err)
	}
	var tables []opentype.Table
	for _, e := range entries {
		content := data[:e.length:e.length] // WriteTTF pads tables in place
		data = data[e.length:]
		switch {
		case slices.Contains(outlines, e.tag):
			continue
		case e.transformed && e.tag == "hmtx":
			restored, err := restoreMetrics(content, tables)
			if err != nil {
				return nil, err
			}
			content = restored
		case e.transformed:
			return nil, fmt.Errorf("the table %q is packed in an unknown way", e.tag)
		}
		tables = append(tables, opentype.Table{Tag: opentype.MustNewTag(e.tag), Content: content})
	}
	slices.SortFunc(tables, func(a, b opentype.Table) int { return int(a.Tag>>1) - int(b.Tag>>1) })
	return opentype.WriteTTF(tables), nil
}

// restoreMetrics undoes the transformation of hmtx (WOFF2, 5.4). Side bearings
// left out there are in the outlines, and not needed: they become 0.
func restoreMetrics(packed []byte, before []opentype.Table) ([]byte, error) {
	at := slices.IndexFunc(before, func(t opentype.Table) bool { return t.Tag == opentype.MustNewTag("hhea") })
	if at < 0 || len(before[at].Content) < 36 {
		return nil, errTruncated
	}
	count := int(binary.BigEndian.Uint16(before[at].Content[34:]))
	if len(packed) < 1+2*count {
		return nil, errTruncated
	}
	out := make([]byte, 4*count)
	for i := range count {
		copy(out[4*i:], packed[1+2*i:3+2*i])
	}
	return out, nil
}

// readBase128 reads a UIntBase128 (WOFF2, 4.2).
func readBase128(in io.ByteReader) (int, error) {
	value := 0
	for i := range 5 {
		b, err := in.ReadByte()
		if err != nil {
			return 0, errTruncated
		}
		if i == 0 && b == 0x80 || value > 1<<25-1 {
			return 0, errors.New("a length in the WOFF2 file is written wrong")
		}
		value = value<<7 | int(b&0x7f)
		if b&0x80 == 0 {
			return value, nil
		}
	}
	return 0, errors.New("a length in the WOFF2 file is written wrong")
}
