package token

import (
	"slices"
	"strings"

	"cobrik/core/jsontree"
)

// extend carries out every group's $extends (Format Module, 6.4): what the
// group does not hold itself, however deep, it takes from the other.
func (m *merger) extend(e *entry, chain []string) {
	if e.state != untouched {
		return
	}
	e.state = resolving
	for _, c := range slices.Clone(e.children) {
		if !c.isToken {
			m.extend(c, chain)
		}
	}
	if e.extends != nil {
		m.extendFrom(e, append(chain, e.path()))
	}
	e.state = resolved
}

func (m *merger) extendFrom(e *entry, chain []string) {
	at := pointerOf(e.origin) + "/" + e.extends.Name
	path, ok := groupPath(e.extends)
	if !ok {
		m.errorf("token-extends", e.source, e.extends, at, `write "{group}" or "#/group"`, "%s names a group, found %s", e.extends.Name, e.extends.Short())
		return
	}
	base := m.root.at(path)
	switch {
	case base == nil:
		m.errorf("token-extends", e.source, e.extends, at, "name a group that exists", "the group %s extends %s, which is not there", e.path(), path)
		return
	case base.isToken && e.extends.Name == "$ref":
		// {"$ref": "#/a/token"}: a token after all.
		e.isToken = true
		return
	case base.isToken:
		m.errorf("token-extends", e.source, e.extends, at, "point an alias at it instead", "the group %s extends %s, which is a token", e.path(), path)
		return
	case base.state == resolving:
		m.errorf("token-cycle", e.source, e.extends, at, "take one $extends out", "groups extend each other in a circle: %s", strings.Join(append(chain, path), " → "))
		return
	}
	m.extend(base, chain)
	m.inherit(e, base)
	if m.inherited > mostInherited && !m.tooMany {
		m.tooMany = true
		m.errorf("token-many", e.source, e.extends, at, "extend fewer groups", "groups extend each other to more than %d tokens and groups", mostInherited)
	}
}

// groupPath reads "{group}" or a JSON Pointer, "#/group", also as {"$ref": …}.
func groupPath(n *jsontree.Node) (string, bool) {
	if ref := n.Get("$ref"); ref != nil {
		n = ref
	}
	if n.Kind != jsontree.String {
		return "", false
	}
	if path, ok := bracePath(n.Text); ok {
		return path, true
	}
	if pointer, ok := strings.CutPrefix(n.Text, "#/"); ok {
		return strings.Join(jsontree.Steps("/"+pointer), "."), true
	}
	return "", false
}

// bracePath reads an alias, "{a.b}".
func bracePath(s string) (string, bool) {
	if len(s) > 2 && s[0] == '{' && s[len(s)-1] == '}' {
		return s[1 : len(s)-1], true
	}
	return "", false
}

// inherit puts into a group what a base holds and it does not. What is
// inherited comes first, in the base's order, as if it had been written there.
func (m *merger) inherit(e, base *entry) {
	if e.kind == "" {
		for at := base; at != nil && e.kind == ""; at = at.parent {
			e.kind = at.kind
		}
	}
	if e.description == "" {
		e.description = base.description
	}
	if e.deprecated == nil {
		e.deprecated = base.deprecated
	}
	var all []*entry
	for _, b := range base.children {
		c := e.child(b.name)
		switch {
		case c == nil:
			if m.inherited++; m.inherited > mostInherited {
				return
			}
			c = m.make()
			*c = *b
			c.children, c.index = nil, nil
			if !b.isToken {
				m.inherit(c, b)
			}
		case !c.isToken && !b.isToken:
			m.inherit(c, b)
		}
		all = append(all, c)
	}
	for _, c := range e.children {
		if base.child(c.name) == nil {
			all = append(all, c)
		}
	}
	e.children, e.index = nil, nil
	for _, c := range all {
		e.add(c)
	}
}

// mostInherited bounds what $extends may make of a small file.
const mostInherited = 200_000
