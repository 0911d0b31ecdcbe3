package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Format rewrites a token file, or a resolver document, in today's form and
// Cobrik's layout, keeping the order of everything: what older drafts wrote
// becomes what the standard writes now. Formatting again changes nothing. It
// fails only on what is not JSON.
func Format(f File) ([]byte, problem.List) {
	root, found := jsontree.Read(f.Name, f.Text, limits)
	if root == nil {
		return nil, found
	}
	if !IsResolver(root) {
		modernGroup(root, "")
	}
	return Text(root), found
}

// widest is how long a token may be, in bytes, to stand on one line.
const widest = 120

// Text lays a token file out: a group's members a line each, a token on one
// line where it fits.
func Text(root *jsontree.Node) []byte {
	within := map[*jsontree.Node]bool{}
	var mark func(n *jsontree.Node, inside bool)
	mark = func(n *jsontree.Node, inside bool) {
		inside = inside || isToken(n) || n.Get("$ref") != nil || strings.HasPrefix(n.Name, "$") && n.Name != "$root" || n.Kind == jsontree.Array
		within[n] = inside
		for _, c := range n.Children {
			mark(c, inside)
		}
	}
	mark(root, false)
	within[root] = false
	layout := func(n *jsontree.Node) bool {
		return within[n] && len(n.Append(nil, oneLine)) <= widest
	}
	return append(root.Append(nil, layout), '\n')
}

// modernGroup rewrites a group's older forms; kind is its groups' type.
func modernGroup(n *jsontree.Node, kind string) {
	if n.Kind != jsontree.Object {
		return
	}
	for _, c := range n.Children {
		if c.Kind == jsontree.String && (c.Name == "type" || c.Name == "description") {
			c.Name = "$" + c.Name
		}
	}
	if t := n.Get("$type"); t != nil {
		kind = t.Text
	}
	for _, c := range n.Children {
		switch {
		case c.Kind != jsontree.Object || strings.HasPrefix(c.Name, "$") && c.Name != "$root":
		case isToken(c):
			modernToken(c, kind)
		default:
			modernGroup(c, kind)
		}
	}
}

func modernToken(n *jsontree.Node, kind string) {
	if older(n) {
		for _, c := range n.Children {
			if c.Name == "value" || c.Name == "type" || c.Name == "description" {
				c.Name = "$" + c.Name
			}
		}
	}
	if t := n.Get("$type"); t != nil {
		kind = t.Text
	}
	if v := n.Get("$value"); v != nil {
		if today := modernValue(v, kind); today != v {
			n.Set("$value", today)
		}
	}
}

// modernValue gives a value in today's form; what it cannot read stays.
func modernValue(n *jsontree.Node, kind string) *jsontree.Node {
	if isReference(n) {
		return n
	}
	if n.Kind == jsontree.String && slices.Contains([]string{"color", "dimension", "duration", "number", "fontWeight"}, kind) {
		r := &resolution{set: Empty()}
		v := r.value(place{t: &Token{source: &source{}}}, kind, n)
		if v == nil {
			return n
		}
		return v.JSON()
	}
	fields := composites[kind]
	for i, c := range n.Children {
		piece := lists[kind]
		if n.Kind == jsontree.Object {
			piece = ""
			for _, f := range fields {
				if f.name == c.Name {
					piece = f.kind
				}
			}
		}
		if today := modernValue(c, piece); today != c {
			today.Name = c.Name
			n.Children[i] = today
		}
	}
	return n
}
