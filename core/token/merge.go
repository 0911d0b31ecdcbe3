package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// entry is a group or a token in the tree that all files are merged into.
type entry struct {
	name        string
	parent      *entry
	source      *source
	node        *jsontree.Node // the object that gave it last
	isToken     bool
	kind        string // $type
	description string
	deprecated  *string // $deprecated: nil when not said, empty for false
	extends     *jsontree.Node
	origin      string // path in its file
	children    []*entry
	index       map[string]*entry // made when there are many children
	state       state             // of $extends
}

// few is how many children are looked through before an index pays.
const few = 8

func (e *entry) child(name string) *entry {
	if e.index != nil {
		return e.index[name]
	}
	for _, c := range e.children {
		if c.name == name {
			return c
		}
	}
	return nil
}

func (e *entry) add(c *entry) {
	c.parent = e
	e.children = append(e.children, c)
	switch {
	case e.index != nil:
		e.index[c.name] = c
	case len(e.children) > few:
		e.index = make(map[string]*entry, 2*len(e.children))
		for _, c := range e.children {
			e.index[c.name] = c
		}
	}
}

// at finds an entry by path.
func (e *entry) at(path string) *entry {
	for name := range strings.SplitSeq(path, ".") {
		if e = e.child(name); e == nil {
			return nil
		}
	}
	return e
}

// path gives the entry's path.
func (e *entry) path() string {
	if e.parent == nil || e.parent.parent == nil {
		return e.name
	}
	return e.parent.path() + "." + e.name
}

// merger puts files into one tree. A later file's token replaces an earlier
// one's and keeps its place; a later group adds to an earlier one.
type merger struct {
	reports
	root      *entry
	slab      []entry
	inherited int // entries made by $extends
	tooMany   bool
}

func (m *merger) make() *entry {
	if len(m.slab) == 0 {
		m.slab = make([]entry, 256)
	}
	e := &m.slab[0]
	m.slab = m.slab[1:]
	return e
}

// older tells whether an object is a token as drafts before $value wrote it:
// {"value": …, "type": …}.
func older(n *jsontree.Node) bool {
	v := n.Get("value")
	if v == nil || n.Get("$value") != nil {
		return false
	}
	if v.Kind != jsontree.Object {
		return true
	}
	kind := n.Get("type")
	return kind != nil && kind.Kind == jsontree.String && v.Get("$value") == nil && v.Get("value") == nil
}

// isToken tells tokens from groups (Format Module, 5 and 6).
func isToken(n *jsontree.Node) bool {
	return n.Kind == jsontree.Object && (n.Get("$value") != nil || older(n))
}

// valueNode gives a token's value as written: $value, older drafts' value, or
// the token itself where it is a reference ({"$ref": …}).
func valueNode(n *jsontree.Node) *jsontree.Node {
	if v := n.Get("$value"); v != nil {
		return v
	}
	if older(n) {
		return n.Get("value")
	}
	if n.Get("$ref") != nil {
		return n
	}
	return nil
}

// group merges an object's members into a group. path is that of the object in
// its file.
func (m *merger) group(e *entry, s *source, n *jsontree.Node, path string) {
	if n.Kind != jsontree.Object {
		m.errorf("token-shape", s, n, pointerOf(path), "write an object with $value, or a group of tokens", "a token or group is an object, found %s", n.Kind)
		return
	}
	e.source, e.node, e.origin = s, n, path
	if e == m.root {
		e.kind = "" // one file's type is not the next one's
	}
	for _, c := range n.Children {
		if strings.HasPrefix(c.Name, "$") && c.Name != "$root" {
			m.property(e, s, c, path)
			continue
		}
		// Older drafts wrote a group's type and description without the dollar sign.
		if c.Kind == jsontree.String && (c.Name == "type" || c.Name == "description") {
			m.note(s, c, path, `write "$%s"`, c.Name)
			m.property(e, s, &jsontree.Node{Kind: c.Kind, Name: "$" + c.Name, Text: c.Text, Offset: c.Offset}, path)
			continue
		}
		at := join(path, c.Name)
		if c.Name != "$root" && (c.Name == "" || strings.ContainsAny(c.Name, "{}.")) {
			m.errorf("token-name", s, c, pointerOf(path)+"/"+problem.Token(c.Name), "use letters, digits, hyphens or spaces", "the name %q is empty or holds one of { } . (Format Module, 5.1.1)", c.Name)
			continue
		}
		if c.Name == "$root" && !isToken(c) {
			m.errorf("token-shape", s, c, pointerOf(at), "give it a $value", "$root is a group's own token")
			continue
		}
		m.member(e, s, c, at)
	}
}

func (m *merger) member(parent *entry, s *source, n *jsontree.Node, path string) {
	e := parent.child(n.Name)
	if e == nil {
		e = m.make()
		e.name = n.Name
		parent.add(e)
	}
	if !isToken(n) {
		if e.isToken {
			m.warnf("token-replaced", s, n, pointerOf(path), "rename one of them", "the group %s takes the place of a token of that name", path)
			*e = entry{name: e.name, parent: e.parent}
		}
		if parent == m.root && e.kind == "" {
			e.kind = m.root.kind
		}
		m.group(e, s, n, path)
		return
	}
	if len(e.children) > 0 {
		m.warnf("token-replaced", s, n, pointerOf(path), "rename one of them", "the token %s takes the place of a group of that name", path)
	}
	was := e.kind
	if parent == m.root && was == "" {
		was = m.root.kind
	}
	*e = entry{name: e.name, parent: e.parent, source: s, node: n, isToken: true, origin: path}
	m.token(e, s, n, path)
	if e.kind == "" && was != "" {
		e.kind = was // an override that gives only a value
	}
}

func (m *merger) token(e *entry, s *source, n *jsontree.Node, path string) {
	old := older(n)
	if old {
		m.note(s, n, path, `write "$value", "$type" and "$description"`)
	}
	for _, c := range n.Children {
		switch {
		case strings.HasPrefix(c.Name, "$"):
			m.property(e, s, c, path)
		case old && (c.Name == "value" || c.Name == "type" || c.Name == "description"):
			if c.Name != "value" {
				m.property(e, s, &jsontree.Node{Kind: c.Kind, Name: "$" + c.Name, Text: c.Text, Children: c.Children, Offset: c.Offset}, path)
			}
		case old && c.Kind != jsontree.Object: // drafts' tools left notes of their own here
		default:
			m.errorf("token-nested", s, c, pointerOf(path)+"/"+problem.Token(c.Name), "move it out of the token", "the token %s holds another token or group, %s", path, c.Name)
		}
	}
}

// property reads what begins with a dollar sign, of a token or a group.
func (m *merger) property(e *entry, s *source, c *jsontree.Node, path string) {
	at := func() string { return pointerOf(path) + "/" + problem.Token(c.Name) }
	switch c.Name {
	case "$value", "$schema":
	case "$extensions":
		if c.Kind != jsontree.Object {
			m.errorf("token-extensions", s, c, at(), `write {"vendor": …}`, "$extensions is an object, found %s", c.Short())
		}
	case "$type":
		e.kind = m.text(s, c, at)
		if e.kind != "" && !slices.Contains(Types, e.kind) {
			m.errorf("token-kind", s, c, at(), "use one of "+strings.Join(Types, ", "), "there is no type %q", e.kind)
		}
	case "$description":
		e.description = m.text(s, c, at)
	case "$deprecated":
		said := ""
		switch {
		case c.Kind == jsontree.Bool && c.Text == "true":
			said = "deprecated"
		case c.Kind != jsontree.Bool:
			said = m.text(s, c, at)
		}
		e.deprecated = &said
	case "$extends":
		if e.isToken {
			m.errorf("token-extends", s, c, at(), "point the token's $value at the other token", "a token cannot extend; only a group can (Format Module, 6.4)")
			return
		}
		e.extends = c
	case "$ref":
		if !e.isToken {
			e.extends = c // a token or a group, by what it points at
		}
	default:
		m.warnf("token-property", s, c, at(), "remove it, or put it under $extensions", "%s is not a property of the standard", c.Name)
	}
}

func (m *merger) text(s *source, n *jsontree.Node, pointer func() string) string {
	if n.Kind != jsontree.String {
		m.errorf("token-text", s, n, pointer(), "write it in quotes", "a string was expected, found %s", n.Short())
		return ""
	}
	return n.Text
}

// note says how today's standard writes what an older draft wrote.
func (m *merger) note(s *source, n *jsontree.Node, path, today string, args ...any) {
	noteOlder(&m.reports, s, n, pointerOf(path), today, args...)
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}
