package jsontree

import (
	"strings"

	"github.com/go-json-experiment/json/jsontext"
)

// Layout decides whether an object or list stands on one line.
type Layout func(n *Node) bool

// Append writes the value as JSON. Without a layout, all is on one line with no
// spaces; with one, what it does not put on a line is indented by two.
func (n *Node) Append(b []byte, layout Layout) []byte {
	w := writer{layout: layout}
	return w.value(b, n, 0, layout == nil)
}

type writer struct{ layout Layout }

func (w writer) value(b []byte, n *Node, depth int, inline bool) []byte {
	switch n.Kind {
	case String:
		return quote(b, n.Text)
	case Array:
		return w.container(b, n, depth, inline, '[', ']')
	case Object:
		return w.container(b, n, depth, inline, '{', '}')
	case Null:
		return append(b, "null"...)
	}
	return append(b, n.Text...)
}

func (w writer) container(b []byte, n *Node, depth int, inline bool, open, end byte) []byte {
	b = append(b, open)
	if len(n.Children) == 0 {
		return append(b, end)
	}
	inline = inline || w.layout(n)
	spaced := w.layout != nil
	for i, c := range n.Children {
		if i > 0 {
			b = append(b, ',')
		}
		switch {
		case !inline:
			b = append(b, '\n')
			b = append(b, strings.Repeat("  ", depth+1)...)
		case spaced && (i > 0 || n.Kind == Object):
			b = append(b, ' ')
		}
		if n.Kind == Object {
			b = append(quote(b, c.Name), ':')
			if spaced {
				b = append(b, ' ')
			}
		}
		b = w.value(b, c, depth+1, inline)
	}
	switch {
	case !inline:
		b = append(b, '\n')
		b = append(b, strings.Repeat("  ", depth)...)
	case spaced && n.Kind == Object:
		b = append(b, ' ')
	}
	return append(b, end)
}

func quote(b []byte, s string) []byte {
	// The only error is bytes that are not UTF-8, which it has replaced.
	out, _ := jsontext.AppendQuote(b, s)
	return out
}
