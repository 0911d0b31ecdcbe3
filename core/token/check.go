package token

import (
	"fmt"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Check resolves every theme and lists what is wrong in any, each problem once,
// with what only a look at the whole shows: a semantic token that holds a raw
// value, a core token nobody refers to. Semantic is a file, or with one file an
// outermost group, where most tokens are aliases (common practice, no source).
func (l *Library) Check() problem.List {
	var found problem.List
	seen := map[string]bool{}
	add := func(more problem.List) {
		for _, p := range more {
			if key := fmt.Sprint(p.File, p.Line, p.Column, p.Rule, p.Message); !seen[key] {
				seen[key] = true
				found = append(found, p)
			}
		}
	}
	layers := &layers{whole: len(l.sources) > 1, units: map[string]*unit{}, used: map[*jsontree.Node]bool{}}
	for _, theme := range l.Themes() {
		set, more := l.Set(theme)
		add(more)
		layers.look(set)
	}
	add(layers.found())
	return sorted(found)
}

// layers tells core from semantic tokens.
type layers struct {
	whole bool // a file is a unit, not its groups
	units map[string]*unit
	order []*unit
	used  map[*jsontree.Node]bool // tokens, by what gave them, that another refers to
}

type unit struct {
	tokens       []*Token
	seen         map[*jsontree.Node]bool
	aliases, raw int
	groups       map[string]bool // outermost groups another unit refers to
}

func (l *layers) unitOf(t *Token) *unit {
	name := t.File
	if !l.whole {
		name += "\x00" + Group(t.Path)
	}
	u := l.units[name]
	if u == nil {
		u = &unit{seen: map[*jsontree.Node]bool{}, groups: map[string]bool{}}
		l.units[name] = u
		l.order = append(l.order, u)
	}
	return u
}

func (l *layers) look(set *Set) {
	for _, t := range set.list {
		u := l.unitOf(t)
		if !u.seen[t.node] {
			u.seen[t.node] = true
			u.tokens = append(u.tokens, t)
			if len(t.uses) > 0 {
				u.aliases++
			} else {
				u.raw++
			}
		}
		for _, other := range t.uses {
			l.used[other.node] = true
			if v := l.unitOf(other); v != u {
				v.groups[Group(other.Path)] = true
			}
		}
	}
}

func (l *layers) found() problem.List {
	r := &reports{}
	for _, u := range l.order {
		for _, t := range u.tokens {
			switch {
			case u.aliases > u.raw && len(t.uses) == 0 && t.Content != nil:
				r.warnf("token-raw", t.source, valueNode(t.node), t.Pointer()+"/$value", "point it at a core token, or add one",
					"the semantic token %s holds a raw value, %s", t.Path, t.Value)
			case u.aliases <= u.raw && len(t.uses) == 0 && !l.used[t.node] && u.groups[Group(t.Path)] && t.Deprecated == "":
				r.warnf("token-unused", t.source, t.node, t.Pointer(), "remove it, or point a semantic token at it",
					"nobody refers to the core token %s", t.Path)
			}
		}
	}
	return r.found
}

// Group gives the outermost group of a path.
func Group(path string) string {
	group, _, _ := strings.Cut(path, ".")
	return group
}
