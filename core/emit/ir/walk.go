package ir

import (
	"slices"
	"strings"

	"cobrik/core/contract"
)

// WalkNodes visits a node and all below it, whatever decides whether they are there; of a use
// what stands in its slots.
func WalkNodes(n Node, visit func(Node)) {
	visit(n)
	switch n := n.(type) {
	case Said:
		WalkNodes(n.Else, visit)
	case If:
		WalkNodes(n.Then, visit)
		if n.Else != nil {
			WalkNodes(n.Else, visit)
		}
	case For:
		WalkNodes(n.Each, visit)
	case Slot:
		for _, d := range n.Default {
			WalkNodes(d, visit)
		}
	case *Use:
		for _, g := range n.Given {
			for _, d := range g.Nodes {
				WalkNodes(d, visit)
			}
		}
	case Choose:
		for _, o := range n.Options {
			WalkNodes(o.Element, visit)
		}
	case *Element:
		for _, c := range n.Children {
			WalkNodes(c, visit)
		}
	}
}

// Walk visits every element.
func Walk(n Node, visit func(*Element)) {
	WalkNodes(n, func(n Node) {
		if e, ok := n.(*Element); ok {
			visit(e)
		}
	})
}

// Used names the props that the module does anything with, by their keys.
func (m *Module) Used() map[string]bool {
	used := map[string]bool{}
	for _, id := range m.Asks {
		used[id] = true
	}
	terms := func(list []contract.Term) {
		for _, t := range list {
			used[contract.PropOf(t)] = true
		}
	}
	classes := func(list []Class) {
		for _, c := range list {
			used[c.Prop] = true
			if c.While != nil {
				used[contract.PropOf(c.While)] = true
			}
		}
	}
	WalkNodes(m.Root, func(n Node) {
		switch n := n.(type) {
		case Text:
			used[n.Prop] = true
		case If:
			terms(n.When)
		case For:
			used[n.List] = true
		case Slot:
			used[n.Prop] = true
		case Choose:
			used[n.Prop] = true
		case *Use:
			classes(n.Classes)
			for _, g := range n.Given {
				used[g.From] = true
				for _, k := range g.Cases {
					terms(k.When)
				}
			}
		case *Element:
			used[n.Level] = true
			classes(n.Classes)
			for _, a := range n.Attributes {
				used[a.Prop] = true
			}
		}
	})
	return used
}

// Tells gives the type of what is called when the behaviour tells something, here or in a component that it is passed on to.
func (m *Module) Tells(p *Prop) string {
	var kinds []string
	add := func(kind string) {
		if !slices.Contains(kinds, kind) {
			kinds = append(kinds, kind)
		}
	}
	if m.Does != nil {
		for _, kind := range m.Does.Tells(p.Name, m.kindOf) {
			add(kind)
		}
	}
	WalkNodes(m.Root, func(n Node) {
		if u, ok := n.(*Use); ok {
			for _, g := range u.Given {
				if g.From == p.Key {
					add(u.Module.Tells(g.Prop))
				}
			}
		}
	})
	switch {
	case len(kinds) == 0, len(kinds) == 1 && kinds[0] == "":
		return "() => void"
	case len(kinds) == 1 && strings.HasPrefix(kinds[0], "("):
		return kinds[0]
	case slices.Contains(kinds, ""):
		return "(value?: " + strings.Join(slices.DeleteFunc(kinds, func(k string) bool { return k == "" }), " | ") + ") => void"
	}
	return "(value: " + strings.Join(kinds, " | ") + ") => void"
}

// kindOf gives the TypeScript of a prop's value, by its id.
func (m *Module) kindOf(id string) string {
	for _, p := range m.Props {
		if p.ID == id {
			return map[contract.Kind]string{contract.NumberKind: "number", contract.FlagKind: "boolean"}[p.Kind()]
		}
	}
	return ""
}
