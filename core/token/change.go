package token

import (
	"slices"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// With gives the set as it would be with another $value for one token, and the
// tokens whose value that changes, the token itself included. Only the token
// and what depends on it is resolved anew.
func (s *Set) With(path string, value *jsontree.Node) (*Set, []*Token, problem.List) {
	t := s.Get(path)
	if t == nil {
		r := &reports{}
		r.errorf("token-unknown", nil, nil, "", "name a token that exists", "there is no token %s", path)
		return s, nil, r.found
	}
	affected := append([]*Token{t}, s.Dependents(path)...)
	out := &Set{list: slices.Clone(s.list), byPath: s.byPath, root: s.root, over: make(map[string]*Token, len(s.over)+len(affected))}
	for p, o := range s.over {
		out.over[p] = o
	}
	for _, old := range affected {
		fresh := &Token{Path: old.Path, Description: old.Description, Deprecated: old.Deprecated, File: old.File, own: old.own, group: old.group,
			source: old.source, node: old.node, origin: old.origin, place: old.place}
		if old == t {
			fresh.node = jsontree.NewObject(value.Clone().Named("$value"))
		}
		out.over[old.Path], out.list[old.place] = fresh, fresh
	}
	r := &resolution{set: out, root: s.root}
	var changed []*Token
	for _, old := range affected {
		fresh := out.list[old.place]
		r.token(fresh)
		if fresh.Value != old.Value || old == t {
			changed = append(changed, fresh)
		}
	}
	return out, changed, r.found
}
