// Package printer lays code out: a document of texts and possible line breaks, in
// groups that stand on one line where they fit and are broken where they do not
// (Wadler, A prettier printer, 1998; the algorithm in use is Oppen's, as later formatters have it).
package printer

import (
	"strings"

	"github.com/rivo/uniseg"
)

// Doc is a piece of a document: a text, a line break, or docs put together.
type Doc interface{ isDoc() }

type (
	text   string
	line   struct{ soft, hard bool }
	concat []Doc
	indent struct{ inner Doc }
	group  struct {
		inner  Doc
		broken bool // it holds a break that cannot be joined
	}
	ifBreak struct{ broken, flat Doc }
	after   struct{ inner Doc }
	follow  struct {
		before *group
		inner  Doc
	}
)

func (text) isDoc()    {}
func (line) isDoc()    {}
func (concat) isDoc()  {}
func (indent) isDoc()  {}
func (*group) isDoc()  {}
func (ifBreak) isDoc() {}
func (after) isDoc()   {}
func (follow) isDoc()  {}

// Text is a text without line breaks.
func Text(s string) Doc { return text(s) }

var (
	// Line is a space, or a new line where its group is broken.
	Line Doc = line{}
	// SoftLine is nothing, or a new line where its group is broken.
	SoftLine Doc = line{soft: true}
	// HardLine is a new line, and breaks every group around it.
	HardLine Doc = line{hard: true}
)

// Concat puts docs one after another.
func Concat(docs ...Doc) Doc { return concat(docs) }

// Indent moves what follows line breaks within it in by two spaces.
func Indent(docs ...Doc) Doc { return indent{concat(docs)} }

// Group stands on one line where it fits, and is broken at all its own lines where not.
func Group(docs ...Doc) Doc {
	g := &group{inner: concat(docs)}
	g.broken = holdsHardLine(g.inner)
	return g
}

// Broken is a group that is broken in any case.
func Broken(docs ...Doc) Doc { return &group{inner: concat(docs), broken: true} }

// IfBreak is one doc where the group around is broken, and another where it is not.
func IfBreak(broken, flat string) Doc { return ifBreak{text(broken), text(flat)} }

// Either is one doc where it fits on the line, and another where it does not.
func Either(fitting, other Doc) Doc { return &group{inner: ifBreak{other, fitting}} }

// After is what follows an operator: behind a space where its first line fits, else indented
// on a line of its own.
func After(docs ...Doc) Doc { return after{concat(docs)} }

// Following is a group and what follows it: indented where the group had to be broken.
func Following(before, next Doc) Doc {
	g := &group{inner: before, broken: holdsHardLine(before)}
	return concat{g, follow{g, next}}
}

// Join puts a separator between docs.
func Join(separator Doc, docs ...Doc) Doc {
	var out concat
	for i, d := range docs {
		if i > 0 {
			out = append(out, separator)
		}
		out = append(out, d)
	}
	return out
}

func holdsHardLine(d Doc) bool {
	switch d := d.(type) {
	case line:
		return d.hard
	case concat:
		for _, one := range d {
			if holdsHardLine(one) {
				return true
			}
		}
	case indent:
		return holdsHardLine(d.inner)
	case follow:
		return holdsHardLine(d.inner)
	case *group:
		return d.broken
	}
	return false
}

// Breaks tells whether a doc cannot stand on one line.
func Breaks(d Doc) bool { return holdsHardLine(d) }

type command struct {
	in   int // columns of indentation
	flat bool
	doc  Doc
}

// Print writes a document in lines of at most so many columns, where that can be.
func Print(d Doc, columns int) string {
	var b strings.Builder
	at := 0
	broken := map[*group]bool{}
	stack := []command{{0, false, d}}
	for len(stack) > 0 {
		c := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		switch d := c.doc.(type) {
		case text:
			b.WriteString(string(d))
			at += Columns(string(d))
		case concat:
			for i := len(d) - 1; i >= 0; i-- {
				stack = append(stack, command{c.in, c.flat, d[i]})
			}
		case indent:
			stack = append(stack, command{c.in + 2, c.flat, d.inner})
		case *group:
			flat := command{c.in, true, d.inner}
			if !c.flat && (d.broken || !fits(flat, stack, columns-at)) {
				flat.flat = false
				broken[d] = true
			}
			stack = append(stack, flat)
		case follow:
			in := c.in
			if broken[d.before] {
				in += 2
			}
			stack = append(stack, command{in, c.flat, d.inner})
		case ifBreak:
			one := d.broken
			if c.flat {
				one = d.flat
			}
			stack = append(stack, command{c.in, c.flat, one})
		case after:
			if fits(command{c.in, true, text(" ")}, append(stack[:len(stack):len(stack)], command{c.in, c.flat, d.inner}), columns-at) {
				stack = append(stack, command{c.in, c.flat, concat{text(" "), d.inner}})
			} else {
				stack = append(stack, command{c.in + 2, c.flat, concat{HardLine, d.inner}})
			}
		case line:
			if c.flat && !d.hard {
				if !d.soft {
					b.WriteByte(' ')
					at++
				}
				continue
			}
			trimmed := strings.TrimRight(b.String(), " ")
			if len(trimmed) < b.Len() {
				b.Reset()
				b.WriteString(trimmed)
			}
			b.WriteByte('\n')
			b.WriteString(strings.Repeat(" ", c.in))
			at = c.in
		}
	}
	return b.String()
}

// fits tells whether a command, and what follows it up to the next line break, stands in
// so many columns.
func fits(first command, rest []command, room int) bool {
	stack := []command{first}
	next := len(rest)
	for room >= 0 {
		if len(stack) == 0 {
			if next == 0 {
				return true
			}
			next--
			stack = append(stack, rest[next])
			continue
		}
		c := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		switch d := c.doc.(type) {
		case text:
			room -= Columns(string(d))
		case concat:
			for i := len(d) - 1; i >= 0; i-- {
				stack = append(stack, command{c.in, c.flat, d[i]})
			}
		case indent:
			stack = append(stack, command{c.in, c.flat, d.inner})
		case follow:
			stack = append(stack, command{c.in, c.flat, d.inner})
		case *group:
			stack = append(stack, command{c.in, c.flat && !d.broken, d.inner})
		case ifBreak:
			one := d.broken
			if c.flat {
				one = d.flat
			}
			stack = append(stack, command{c.in, c.flat, one})
		case after:
			if !c.flat {
				return true
			}
			room--
			stack = append(stack, command{c.in, true, d.inner})
		case line:
			if !c.flat || d.hard {
				return true
			}
			if !d.soft {
				room--
			}
		}
	}
	return false
}

// Columns counts the columns of a text as terminals and formatters do: two for a wide
// letter or an emoji, none for a mark (Unicode Standard Annexes 11 and 29).
func Columns(s string) int { return uniseg.StringWidth(s) }
