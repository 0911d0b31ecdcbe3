package problem

import (
	"bytes"
	"errors"
	"io"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
)

type position struct{ line, column int }

// Limits of a JSON text that is read from outside.
type Limits struct {
	Bytes int // most bytes
	Depth int // most nested objects and arrays
}

// CheckJSON reads a text as one JSON value (RFC 8259) without building it:
// bad syntax, duplicate names, bad UTF-8, and what is past the limits are
// reported with line and column.
func CheckJSON(file string, text []byte, limits Limits) List {
	var found List
	if len(text) > limits.Bytes {
		found.Errorf("json-size", "", "split the file, or leave out what is not needed",
			"the file has %d bytes; at most %d are read", len(text), limits.Bytes)
		found[0].File = file
		return found
	}
	d := jsontext.NewDecoder(bytes.NewReader(text))
	fail := func(at int64, rule, fix, format string, args ...any) List {
		found.Errorf(rule, string(d.StackPointer()), fix, format, args...)
		p := &found[len(found)-1]
		where := lineColumn(text, at)
		p.File, p.Line, p.Column = file, where.line, where.column
		return found
	}
	for {
		_, err := d.ReadToken()
		switch {
		case errors.Is(err, io.EOF) && d.InputOffset() > 0:
			return found
		case errors.Is(err, io.EOF):
			return fail(0, "json-syntax", "one JSON value was expected", "the file is empty")
		case err != nil:
			at := d.InputOffset()
			var syntax *jsontext.SyntacticError
			if errors.As(err, &syntax) {
				at = syntax.ByteOffset
			}
			if errors.Is(err, io.ErrUnexpectedEOF) {
				return fail(int64(len(text)), "json-syntax", "the rest of the JSON text was expected", "the file ends in the middle of a value")
			}
			return fail(at, "json-syntax", "a JSON text (RFC 8259) was expected", "not valid JSON: %s", plain(err))
		}
		if d.StackDepth() > limits.Depth {
			return fail(d.InputOffset(), "json-depth", "flatten the nesting",
				"nested deeper than %d levels", limits.Depth)
		}
		if d.StackDepth() == 0 {
			if rest := bytes.TrimLeft(text[d.InputOffset():], " \t\r\n"); len(rest) > 0 {
				return fail(int64(len(text)-len(rest)), "json-syntax", "remove what follows", "more text after the JSON value")
			}
			return found
		}
	}
}

// plain words an error of jsontext for a person.
func plain(err error) string {
	var syntax *jsontext.SyntacticError
	if errors.As(err, &syntax) && syntax.Err != nil {
		if errors.Is(err, jsontext.ErrDuplicateName) {
			return "the name at " + string(syntax.JSONPointer) + " stands twice in one object"
		}
		return syntax.Err.Error()
	}
	return strings.TrimPrefix(err.Error(), "jsontext: ")
}

// locate fills in where the value of each wanted pointer begins. A pointer to
// something that is absent gets the place of its nearest ancestor.
func locate(text []byte, wanted map[string]position) {
	offsets := map[string]int64{"": 0}
	need := map[string]bool{}
	for p := range wanted {
		for q := p; q != ""; q = q[:strings.LastIndexByte(q, '/')] {
			need[q] = true
			if !strings.Contains(q, "/") {
				break
			}
		}
	}
	d := jsontext.NewDecoder(bytes.NewReader(text))
	for {
		tok, err := d.ReadToken()
		if err != nil {
			break
		}
		if k := tok.Kind(); k == '}' || k == ']' {
			continue
		}
		if in, n := d.StackIndex(d.StackDepth()); in == '{' && n%2 == 1 && tok.Kind() == '"' {
			continue // a member's name; its value comes next
		}
		at := string(d.StackPointer())
		if _, seen := offsets[at]; !seen && need[at] {
			offsets[at] = d.InputOffset()
		}
	}
	for p := range wanted {
		q := p
		for q != "" {
			if _, ok := offsets[q]; ok {
				break
			}
			i := strings.LastIndexByte(q, '/')
			if i < 0 {
				q = ""
				break
			}
			q = q[:i]
		}
		at := offsets[q]
		if at > 0 {
			at = valueStart(text, at)
		}
		wanted[p] = lineColumn(text, at)
	}
}

// valueStart walks back from the end of a token to its first byte.
func valueStart(text []byte, end int64) int64 {
	i := end - 1
	if text[i] == '"' {
		for i--; i > 0; i-- {
			if text[i] == '"' {
				back := i
				for back > 0 && text[back-1] == '\\' {
					back--
				}
				if (i-back)%2 == 0 {
					break
				}
			}
		}
		return i
	}
	for i > 0 && !strings.ContainsRune(" \t\r\n,:[]{}\"", rune(text[i-1])) && !strings.ContainsRune("[]{}", rune(text[i])) {
		i--
	}
	return i
}

func lineColumn(text []byte, offset int64) position {
	offset = min(offset, int64(len(text)))
	before := text[:offset]
	return position{1 + bytes.Count(before, []byte("\n")), int(offset) - bytes.LastIndexByte(before, '\n')}
}

// Token escapes one reference token of a JSON Pointer (RFC 6901, section 3).
func Token(name string) string {
	if !strings.ContainsAny(name, "~/") {
		return name
	}
	return escaped.Replace(name)
}

var escaped = strings.NewReplacer("~", "~0", "/", "~1")
