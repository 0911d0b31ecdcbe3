// Package merge puts two changes of one source file together: what Cobrik would write now, and what people made of what it wrote
// last. It works on syntax trees, so that lines, spaces and comments of what did not change stay as they are.
package merge

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"cobrik/core/source/syntax"
)

// Side is whose text stands where both changed.
type Side string

const (
	Theirs Side = "theirs" // the file's
	Ours   Side = "ours"   // what would be written
	Marked Side = "marked" // both, between marks
)

// Conflict is a place where both sides changed the same thing, and not the same way.
type Conflict struct {
	Key    string `json:"key"` // the same for the same place in every merge: ".root › padding-inline"
	What   string `json:"what"`
	Base   string `json:"base"` // empty where it was not there
	Ours   string `json:"ours"` // empty where it is gone
	Theirs string `json:"theirs"`
	Line   int    `json:"line"` // in their file, from 1
}

// Result is a merged file.
type Result struct {
	Text      string
	Conflicts []Conflict
}

// Merge puts the changes from base to ours and from base to theirs together. Of a conflict the side that is chosen for its
// key stands in the text; both between marks where none is. A side that changed nothing gives way to the other, byte for byte.
func Merge(name string, base, ours, theirs []byte, choose map[string]Side) Result {
	switch {
	case string(base) == string(theirs):
		return Result{Text: string(ours)}
	case string(base) == string(ours), string(ours) == string(theirs):
		return Result{Text: string(theirs)}
	}
	read := reader(name)
	whole := func(why string) Result {
		c := Conflict{Key: "file", What: why, Base: string(base), Ours: string(ours), Theirs: string(theirs), Line: 1}
		return Result{Text: chosen(c, choose["file"]), Conflicts: []Conflict{c}}
	}
	if read == nil {
		return whole("both changed the file")
	}
	var trees [3]*syntax.Tree
	for i, text := range [][]byte{base, ours, theirs} {
		tree, found := read(name, text)
		if tree == nil || found.Failed() {
			return whole("both changed the file, and it is not read whole: " + found.Error())
		}
		trees[i] = tree
	}
	m := merger{choose: choose, theirs: string(theirs)}
	m.node(trees[0].Root, trees[1].Root, trees[2].Root, nil)
	out := m.result()
	left := slices.ContainsFunc(m.conflicts, func(c Conflict) bool { return choose[c.Key] == "" || choose[c.Key] == Marked })
	if !left {
		if tree, found := read(name, []byte(out.Text)); tree == nil || found.Failed() {
			return whole("both changed the file in ways that do not go together")
		}
	}
	return out
}

// Edit puts a text in the place of bytes of a file.
type Edit struct {
	From, To int
	Text     string
}

// Edits lists the changes that make one version of a file another, as small as its syntax tells them apart, in the order of their places. A file of no known
// syntax, or that is not read whole, has one.
func Edits(name string, from, to []byte) []Edit {
	if string(from) == string(to) {
		return nil
	}
	whole := []Edit{{0, len(from), string(to)}}
	read := reader(name)
	if read == nil {
		return whole
	}
	a, foundA := read(name, from)
	b, foundB := read(name, to)
	if a == nil || b == nil || foundA.Failed() || foundB.Failed() {
		return whole
	}
	m := merger{theirs: string(from), fine: true}
	m.node(a.Root, b.Root, a.Root, nil)
	m.result() // in order
	var out []Edit
	for _, e := range m.edits {
		out = append(out, Edit{e.from, e.to, e.text})
	}
	return out
}

// Apply carries out edits of a text; one that lies in what another replaces is left out.
func Apply(text []byte, edits []Edit) []byte {
	m := merger{theirs: string(text)}
	for _, e := range edits {
		m.edits = append(m.edits, edit{e.From, e.To, e.Text})
	}
	return []byte(m.result().Text)
}

// reader gives what reads files of a name's ending; nil for none.
func reader(name string) func(string, []byte) (*syntax.Tree, problems) {
	switch path.Ext(name) {
	case ".css":
		return func(name string, text []byte) (*syntax.Tree, problems) {
			tree, found := syntax.CSS(name, text)
			return tree, problems{found}
		}
	case ".tsx", ".ts", ".jsx", ".js", ".mts", ".mjs":
		return func(name string, text []byte) (*syntax.Tree, problems) {
			tree, found := syntax.TSX(name, text)
			return tree, problems{found}
		}
	}
	return nil
}

// Marks around what both changed, as version control writes them.
const (
	markOurs   = "<<<<<<< contract\n"
	markMiddle = "=======\n"
	markTheirs = ">>>>>>> file\n"
)

func chosen(c Conflict, side Side) string {
	switch side {
	case Ours:
		return c.Ours
	case Theirs:
		return c.Theirs
	}
	line := func(text string) string {
		if text != "" && !strings.HasSuffix(text, "\n") {
			text += "\n"
		}
		return text
	}
	return markOurs + line(c.Ours) + markMiddle + line(c.Theirs) + markTheirs
}

// edit puts a text in the place of bytes of their file.
type edit struct {
	from, to int
	text     string
}

type merger struct {
	choose    map[string]Side
	theirs    string
	edits     []edit
	conflicts []Conflict
	keys      map[string]int
	fine      bool // pieces are told apart although theirs is as base
}

func (m *merger) result() Result {
	slices.SortStableFunc(m.edits, func(a, b edit) int {
		if a.from != b.from {
			return a.from - b.from
		}
		return a.to - b.to
	})
	var b strings.Builder
	at := 0
	for _, e := range m.edits {
		if e.from < at { // it lies in what is replaced already
			continue
		}
		b.WriteString(m.theirs[at:e.from])
		b.WriteString(e.text)
		at = e.to
	}
	b.WriteString(m.theirs[at:])
	return Result{Text: b.String(), Conflicts: m.conflicts}
}

// conflict notes that both changed something, and writes what is chosen in its place.
func (m *merger) conflict(trail []string, what, base, ours, theirs string, from, to int) {
	key := strings.Join(trail, " › ")
	if m.keys == nil {
		m.keys = map[string]int{}
	}
	if m.keys[key]++; m.keys[key] > 1 {
		key += fmt.Sprintf(" (%d)", m.keys[key])
	}
	c := Conflict{Key: key, What: what, Base: base, Ours: ours, Theirs: theirs, Line: 1 + strings.Count(m.theirs[:from], "\n")}
	m.conflicts = append(m.conflicts, c)
	switch side := m.choose[key]; side {
	case Theirs:
	case Ours:
		m.edits = append(m.edits, edit{from, to, ours})
	default: // marks stand on lines of their own
		before, after := "", ""
		if start := strings.LastIndexByte(m.theirs[:from], '\n') + 1; strings.TrimSpace(m.theirs[start:from]) == "" {
			from = start
		} else {
			before = "\n"
		}
		if end := strings.IndexByte(m.theirs[to:], '\n'); end >= 0 && strings.TrimSpace(m.theirs[to:to+end]) == "" {
			to += end + 1
		} else {
			after = "\n"
		}
		indent := m.theirs[from : from+len(m.theirs[from:])-len(strings.TrimLeft(m.theirs[from:], " \t"))]
		if ours != "" && before == "" {
			c.Ours = indent + ours
		}
		c.Theirs = strings.TrimSuffix(m.theirs[from:to], "\n")
		text := before + chosen(c, Marked) + after
		m.edits = append(m.edits, edit{from, to, strings.TrimSuffix(text, after) + strings.TrimPrefix(after, "\n")})
	}
}

// node merges three nodes that are the same one.
func (m *merger) node(b, o, t *syntax.Node, trail []string) {
	kb, ko, kt := meaning(b), meaning(o), meaning(t)
	switch {
	case kb == ko, ko == kt:
		return // as they have it
	case kb == kt && b.Text() == t.Text() && !(m.fine && b.Kind == o.Kind && !isLeaf(b)):
		m.edits = append(m.edits, edit{t.From, t.To, o.Text()})
		return
	}
	if b.Kind == o.Kind && o.Kind == t.Kind && !isLeaf(b) && m.list(b, o, t, trail) {
		return
	}
	if kb == kt { // they laid it out anew, and what is written now is otherwise
		m.edits = append(m.edits, edit{t.From, t.To, o.Text()})
		return
	}
	if t.Kind != "value" { // of a declaration, which the trail names
		trail = append(slices.Clone(trail), called(t))
	}
	m.conflict(trail, "both changed "+trail[len(trail)-1], b.Text(), o.Text(), t.Text(), t.From, t.To)
}
