package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
)

// resolution resolves a set's tokens: types, references, values.
type resolution struct {
	reports
	set   *Set
	root  *entry
	stack []*Token // tokens being resolved, outermost first
	walks int      // how deep JSON Pointers lead through each other

	pieces, leaves int  // pieces that pointers led to, and that values come to, of all tokens
	tooMany        bool // told
}

// Bounds of what references make of a few bytes: aliases between a token and its value; pieces of one value, and of all
// tokens of a theme, with every reference followed.
const (
	mostChain  = 64
	mostPieces = 10_000
	mostLeaves = 2_000_000
)

// collect lists the tree's tokens in order, with their groups' types.
func (s *Set) collect(e *entry, path, group string, deprecated *string) {
	if e.kind != "" && e.parent != nil {
		group = e.kind
	}
	if e.deprecated != nil {
		deprecated = e.deprecated
	}
	for _, c := range e.children {
		at := join(path, c.name)
		if !c.isToken {
			s.collect(c, at, group, deprecated)
			continue
		}
		if len(s.list) == mostTokens {
			return
		}
		t := &Token{Path: at, Description: c.description, File: c.source.name, own: c.kind, group: group,
			source: c.source, node: c.node, origin: c.origin, place: len(s.list)}
		if c.deprecated != nil {
			t.Deprecated = *c.deprecated
		} else if deprecated != nil {
			t.Deprecated = *deprecated
		}
		s.byPath[at] = t
		s.list = append(s.list, t)
	}
}

// token resolves one token, and first all that it refers to.
func (r *resolution) token(t *Token) {
	if t.state != untouched {
		return
	}
	t.state = resolving
	r.stack = append(r.stack, t)
	if t.Content = r.content(t); t.Content != nil && t.state == resolving && r.affords(t) {
		t.state = resolved
		if t.target != nil {
			t.Value = t.target.Value
		} else {
			t.Value = t.Content.CSS()
		}
	} else {
		t.state, t.Content = broken, nil
	}
	r.stack = r.stack[:len(r.stack)-1]
}

// affords tells whether a token's value, with every reference followed, is within bounds.
func (r *resolution) affords(t *Token) bool {
	n := t.Content.size()
	r.leaves += n
	switch {
	case t.target != nil && t.target.hops+1 > mostChain:
		r.errorf("token-chain", t.source, valueNode(t.node), t.Pointer()+"/$value", "point it at a token nearer to the value",
			"%s is %d aliases away from its value; at most %d are followed", t.Path, t.target.hops+1, mostChain)
		return false
	case n > mostPieces:
		r.errorf("token-large", t.source, valueNode(t.node), t.Pointer()+"/$value", "let fewer lists refer to lists",
			"%s comes to %d pieces with what it refers to; at most %d are followed", t.Path, n, mostPieces)
		return false
	case r.leaves > mostLeaves:
		if !r.tooMany {
			r.tooMany = true
			r.errorf("token-large", t.source, valueNode(t.node), t.Pointer()+"/$value", "split the project, or let fewer lists refer to lists",
				"from %s on, values are left out: with what they refer to they come to more than %d pieces", t.Path, mostLeaves)
		}
		return false
	}
	if t.target != nil {
		t.hops = t.target.hops + 1
	}
	return true
}

// content follows the standard's order for the type (Format Module, 6.3): the
// token's own $type, its reference's, its groups'.
func (r *resolution) content(t *Token) *Value {
	n := valueNode(t.node)
	p := place{t: t}
	path, property, reference := r.target(p, n)
	switch {
	case reference && path == "" && property == nil:
		return nil // reported
	case reference && path != "":
		target, ok := r.follow(p, n, path)
		t.Alias = path
		if !ok {
			return nil
		}
		t.target, t.Type = target, target.Type
		if t.own != "" && t.own != target.Type {
			end := target
			for end.target != nil { // at most mostChain steps
				end = end.target
			}
			r.errorf("token-alias-type", t.source, n, p.pointer(), "point it at a token of its own type, or leave out its $type",
				"%s is of type %s but the alias ends at %s, of type %s", t.Path, t.own, end.Path, end.Type)
			return nil
		}
		if t.own == "" && t.group != "" && t.group != target.Type {
			r.warnf("token-alias-group", t.source, n, p.pointer(), "move it to another group, or point it at another token",
				"%s stands in a group of type %s but points at %s, of type %s", t.Path, t.group, target.Path, target.Type)
		}
		return Reference(t.Type, path, target.Content)
	}
	if t.Type = t.own; t.Type == "" {
		t.Type = t.group
	}
	if t.Type == "" {
		r.errorf("token-type", t.source, n, p.pointer(), "add $type to the token or its group", "the token %s has no type", t.Path)
		return nil
	}
	if !slices.Contains(Types, t.Type) {
		return nil // reported where it was read
	}
	return r.value(p, t.Type, n)
}

// isReference tells whether a node is written as one.
func isReference(n *jsontree.Node) bool {
	if n.Kind == jsontree.String {
		_, ok := bracePath(n.Text)
		return ok
	}
	return n.Get("$ref") != nil
}

// reference reads a piece of a value that is a reference.
func (r *resolution) reference(p place, kind string, n *jsontree.Node) (v *Value, isReference bool) {
	path, property, is := r.target(p, n)
	switch {
	case !is:
		return nil, false
	case path == "" && property == nil:
		return nil, true
	case property != nil:
		r.pieces++
		if r.walks++; r.walks > 64 || r.pieces > 10*mostPieces {
			r.wrong("token-cycle", p, n, "point at a value", "its references lead through each other without end")
			return nil, true
		}
		defer func() { r.walks-- }()
		return r.value(p, kind, property), true
	}
	target, ok := r.follow(p, n, path)
	if !ok {
		return nil, true
	}
	if target.Type != kind {
		r.wrong("token-alias-type", p, n, "point it at a token of type "+kind, "%s wants a %s, but %s is of type %s",
			strings.TrimPrefix(p.steps, "/"), kind, target.Path, target.Type)
		return nil, true
	}
	return Reference(kind, path, target.Content), true
}

// follow finds a token that is referred to and resolves it. What is not there,
// and a circle, is reported with the whole chain.
func (r *resolution) follow(p place, n *jsontree.Node, path string) (*Token, bool) {
	target := r.set.Get(path)
	if target == nil {
		if root := r.set.Get(path + ".$root"); root != nil {
			r.wrong("token-unknown", p, n, "write {"+root.Path+"}", "%s is a group; its own token is %s", path, root.Path)
			return nil, false
		}
		fix := "name a token that exists"
		if near := r.set.Nearest(path); len(near) > 0 {
			fix = "did you mean " + strings.Join(near, " or ") + "?"
		}
		r.errorf("token-unknown", p.t.source, n, p.pointer(), fix, "the alias %s points at a token that is not there", r.chain(0, path))
		return nil, false
	}
	if !slices.Contains(p.t.uses, target) {
		p.t.uses = append(p.t.uses, target)
	}
	if target.state == resolving {
		from := slices.Index(r.stack, target)
		first := r.stack[from]
		r.errorf("token-cycle", first.source, valueNode(first.node), first.Pointer()+"/$value", "give one of them a value",
			"the aliases run in a circle: %s", r.chain(from, path))
		for _, t := range r.stack[from:] {
			t.state = broken
		}
		return nil, false
	}
	r.token(target)
	return target, target.state == resolved
}

func (r *resolution) chain(from int, end string) string {
	var names []string
	for _, t := range r.stack[from:] {
		names = append(names, t.Path)
	}
	return strings.Join(append(names, end), " → ")
}

// target reads a reference (Format Module, 7): an alias in braces or a JSON
// Pointer to a token gives its path; a pointer into a token's value gives that
// piece. Neither means that it leads nowhere, which has been reported.
func (r *resolution) target(p place, n *jsontree.Node) (path string, property *jsontree.Node, is bool) {
	if n.Kind == jsontree.String {
		path, is = bracePath(n.Text)
		return path, nil, is
	}
	ref := n.Get("$ref")
	if ref == nil {
		return "", nil, false
	}
	pointer, local := strings.CutPrefix(ref.Text, "#/")
	if ref.Kind != jsontree.String || !local {
		r.wrong("token-ref", p, n, `write a JSON Pointer, "#/group/token/$value"`, "$ref points within the tokens, found %s", ref.Short())
		return "", nil, true
	}
	path, steps, why := r.locate(pointer)
	switch {
	case why != "":
		r.wrong("token-unknown", p, n, "point at a token, or into its $value", "%s %s", ref.Short(), why)
		return "", nil, true
	case len(steps) == 0:
		return path, nil, true
	}
	return "", r.piece(p, n, path, steps), true
}

// locate follows a pointer to a token; what is left of it points into its
// $value. Else it says why not.
func (r *resolution) locate(pointer string) (path string, steps []string, why string) {
	at, steps := r.root, jsontree.Steps("/"+pointer)
	for len(steps) > 0 && !at.isToken {
		if at = at.child(steps[0]); at == nil {
			return "", nil, "leads nowhere"
		}
		steps = steps[1:]
	}
	if !at.isToken {
		return "", nil, "is a group"
	}
	if len(steps) > 0 && steps[0] == "$value" {
		steps = steps[1:]
	}
	return at.path(), steps, ""
}

// piece follows a pointer into a token's value, through its references.
func (r *resolution) piece(p place, n *jsontree.Node, path string, steps []string) *jsontree.Node {
	lost := func(format string, args ...any) *jsontree.Node {
		r.wrong("token-unknown", p, n, "point at a part that is there", n.Get("$ref").Short()+" leads nowhere: "+format, args...)
		return nil
	}
	for range 64 {
		t := r.set.Get(path)
		if t == nil {
			return lost("there is no %s", path)
		}
		if !slices.Contains(p.t.uses, t) && t != p.t {
			p.t.uses = append(p.t.uses, t)
		}
		at := valueNode(t.node)
		for len(steps) > 0 && !isReference(at) {
			next := at.Step(steps[0])
			if next == nil {
				return lost("%s has no %s", path, steps[0])
			}
			at, steps = next, steps[1:]
		}
		if len(steps) == 0 {
			return at
		}
		if alias, ok := bracePath(at.Text); ok && at.Kind == jsontree.String {
			path = alias
			continue
		}
		pointer, _ := strings.CutPrefix(at.Get("$ref").Text, "#/")
		further, more, why := r.locate(pointer)
		if why != "" {
			return lost("%s %s", at.Short(), why)
		}
		path, steps = further, append(slices.Clone(more), steps...)
	}
	return lost("its references do not end")
}
