package ir

import (
	"cobrik/core/contract"
	"cobrik/core/emit"
)

// classes are a style sheet's classes: one a part that has a style, one an option or
// flag that a rule names. No two are the same.
type classes struct {
	parts     map[string]string                    // by part id
	values    map[string]map[contract.Value]string // by prop id
	container string
	order     []string
}

func classesOf(c *contract.Contract) *classes {
	n := &classes{parts: map[string]string{}, values: map[string]map[contract.Value]string{}}
	scope := emit.NewScope(nil, "default") // what a style sheet's module gives by itself
	add := func(name string) string {
		name = scope.Name(name, "Value")
		n.order = append(n.order, name)
		return name
	}
	styled := map[string]bool{c.Root.ID: true}
	named := map[string]map[contract.Value]bool{}
	for _, r := range c.Rules {
		styled[r.Part] = true
		for _, t := range r.When.Terms() {
			if is, ok := t.(contract.PropIs); ok {
				if named[is.Prop] == nil {
					named[is.Prop] = map[contract.Value]bool{}
				}
				named[is.Prop][is.Value] = true
			}
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		if styled[p.ID] || len(p.Style) > 0 || len(resets[p.Element]) > 0 {
			n.parts[p.ID] = add(p.Name)
		}
	})
	for _, p := range c.Props {
		for _, v := range inOrder(p) {
			if !named[p.ID][v] {
				continue
			}
			if n.values[p.ID] == nil {
				n.values[p.ID] = map[contract.Value]string{}
			}
			n.values[p.ID][v] = add(valueClass(p, v))
		}
	}
	if len(c.SwitchPoints()) > 0 {
		n.container = add("container")
	}
	return n
}

// inOrder lists the values a rule may name: options as they stand, a flag set first.
func inOrder(p contract.Prop) []contract.Value {
	if p.Kind() == contract.FlagKind {
		return []contract.Value{contract.FlagValue(true), contract.FlagValue(false)}
	}
	var out []contract.Value
	for _, o := range p.Options() {
		out = append(out, contract.OptionValue(o))
	}
	return out
}

func valueClass(p contract.Prop, v contract.Value) string {
	switch v {
	case contract.FlagValue(true):
		return p.Name
	case contract.FlagValue(false):
		return "not" + contract.Capitalized(p.Name)
	}
	name := p.Name
	for _, word := range contract.Words(v.String()) {
		name += contract.Capitalized(word)
	}
	return name
}
