package design

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"regexp"

	"github.com/beevik/etree"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/encoding/unicode"

	"cobrik/core/font"
	"cobrik/core/problem"
)

// Limits of an SVG file that is imported.
const (
	maxSVG      = 16 << 20 // bytes
	maxSVGDepth = 200
)

const svgNamespace = "http://www.w3.org/2000/svg"

// newImporter reads a file as far as its elements and style sheets; the problems say why it cannot be read.
func newImporter(file string, text []byte, fonts *font.Library) (*importer, *etree.Element, problem.List) {
	if len(text) > maxSVG {
		return nil, nil, failed(file, "svg-size", "export a part at a time", "the file has %d bytes; at most %d are read", len(text), maxSVG)
	}
	text, err := decoded(text)
	if err != nil {
		return nil, nil, failed(file, "svg-encoding", "save it as UTF-8", "%v", err)
	}
	if err := checkXML(text); err != nil {
		return nil, nil, failed(file, "svg-syntax", "an SVG file without entities was expected", "%v", err)
	}
	doc := etree.NewDocument()
	if err := doc.ReadFromBytes(text); err != nil {
		return nil, nil, failed(file, "svg-syntax", "an SVG file was expected", "not valid XML: %v", err)
	}
	root := doc.Root()
	if root == nil || root.Tag != "svg" {
		return nil, nil, failed(file, "svg-root", "an SVG file was expected", "the root element is no svg")
	}
	i := &importer{
		file: file, fonts: fonts, root: root, byID: map[string]*etree.Element{}, taken: map[string]bool{}, tried: map[string]int{}, reserved: map[string]bool{}, families: map[*etree.Element]*symbolFamily{},
		said: map[string]bool{}, own: map[*etree.Element]map[string]string{}, assets: map[string]string{}, pictured: map[*Layer]bool{}, read: map[*etree.Element]*readPicture{}, gradients: map[*etree.Element]svgGradient{}, outlines: map[outlineKey]*outline{},
	}
	i.index(root)
	return i, root, nil
}

// failed is the one problem that keeps a file from being read.
func failed(file, rule, fix, format string, args ...any) (found problem.List) {
	found.Errorf(rule, "", fix, format, args...)
	found[0].File = file
	return found
}

var declaration = regexp.MustCompile(`^\s*<\?xml[^>]*?(?:encoding\s*=\s*["']([A-Za-z0-9._:-]+)["'][^>]*)?\?>`)

// decoded gives a file as UTF-8 without its XML declaration: a byte order mark tells the encoding, else the declaration
// (XML 1.0, appendix F).
func decoded(text []byte) ([]byte, error) {
	var from encoding.Encoding
	switch {
	case bytes.HasPrefix(text, []byte("\xEF\xBB\xBF")):
		text = text[3:]
	case bytes.HasPrefix(text, []byte("\xFE\xFF")), bytes.HasPrefix(text, []byte("\x00<")):
		from = unicode.UTF16(unicode.BigEndian, unicode.UseBOM)
	case bytes.HasPrefix(text, []byte("\xFF\xFE")), bytes.HasPrefix(text, []byte("<\x00")):
		from = unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	default:
		if said := declaration.FindSubmatch(text[:min(len(text), 300)]); said != nil && len(said[1]) > 0 {
			var err error
			if from, err = htmlindex.Get(string(said[1])); err != nil {
				return nil, fmt.Errorf("its encoding, %s, is not known", said[1])
			}
		}
	}
	if from != nil {
		var err error
		if text, err = from.NewDecoder().Bytes(text); err != nil {
			return nil, fmt.Errorf("it is not in the encoding it says: %w", err)
		}
	}
	if said := declaration.FindIndex(text[:min(len(text), 300)]); said != nil {
		text = text[said[1]:]
	}
	return text, nil
}

// checkXML refuses what could make a small file large: entities, and nesting
// without end.
func checkXML(text []byte) error {
	d := xml.NewDecoder(bytes.NewReader(text))
	depth := 0
	for {
		t, err := d.RawToken()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return fmt.Errorf("not valid XML: %w", err)
		}
		switch t := t.(type) {
		case xml.Directive:
			if bytes.Contains(bytes.ToUpper(t), []byte("ENTITY")) {
				return fmt.Errorf("it declares entities, which are not read")
			}
		case xml.StartElement:
			if depth++; depth > maxSVGDepth {
				return fmt.Errorf("it is nested deeper than %d", maxSVGDepth)
			}
		case xml.EndElement:
			depth--
		}
	}
}

// index finds what others refer to, and the style sheets.
func (i *importer) index(e *etree.Element) {
	if id := e.SelectAttrValue("id", ""); id != "" && i.byID[id] == nil {
		i.byID[id] = e
		i.reserved[identifierOf(id, "")] = true
	}
	if e.Tag == "style" {
		i.styleSheet(e)
	}
	i.loud(e)
	for _, c := range e.ChildElements() {
		i.index(c)
	}
}

// ofSVG tells whether an element is one of SVG; those of other namespaces show nothing. A file may say no namespace at all.
func (i *importer) ofSVG(e *etree.Element) bool {
	ns := e.NamespaceURI()
	return ns == svgNamespace || ns == "" && i.root.NamespaceURI() == ""
}

// hrefOf gives what an element refers to; the attribute without a namespace comes first (SVG 2, linking).
func hrefOf(e *etree.Element) string {
	out := ""
	for _, a := range e.Attr {
		if a.Key == "href" && (a.Space == "" || out == "") {
			out = a.Value
			if a.Space == "" {
				break
			}
		}
	}
	return trim(out)
}

// referred gives the element that a text such as url(#id) or #id names; nil when it is not in the file.
func (i *importer) referred(text string) *etree.Element {
	text = trim(text)
	if inner, ok := cutFunction(text, "url"); ok {
		text = inner
	}
	if len(text) < 2 || text[0] != '#' {
		return nil
	}
	return i.byID[text[1:]]
}
