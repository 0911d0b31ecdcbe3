package ir

import (
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
)

// classes are a style sheet's classes: one a part that has a style, one an option or
// flag that a rule names, one for what a rule asks of a number or whether a prop is set. No
// two are the same.
type classes struct {
	parts     map[string]string                    // by part id
	values    map[string]map[contract.Value]string // by prop id
	terms     map[contract.Term]string
	states    []string // of the behaviour, that rules ask for
	container string
	order     []string
}

func classesOf(c *contract.Contract) *classes {
	n := &classes{parts: map[string]string{}, values: map[string]map[contract.Value]string{}, terms: map[contract.Term]string{}}
	scope := emit.NewScope(nil, "default") // what a style sheet's module gives by itself
	add := func(name string) string {
		name = scope.Name(name, "Value")
		n.order = append(n.order, name)
		return name
	}
	styled := map[string]bool{c.Root.ID: true}
	named := map[string]map[contract.Value]bool{}
	var terms []contract.Term
	lists := map[string]bool{}
	for _, r := range c.Rules {
		styled[r.Part] = true
		for _, t := range r.When.Terms() {
			prop := contract.PropOf(t)
			if list, _, item := strings.Cut(prop, "."); item {
				lists[list] = true
			}
			switch is := t.(type) {
			case contract.PropIs:
				if named[is.Prop] == nil {
					named[is.Prop] = map[contract.Value]bool{}
				}
				named[is.Prop][is.Value] = true
			case contract.NumberIs, contract.PropSet:
				terms = append(terms, t)
			case contract.InState:
				if !slices.Contains(contract.States, is.State) && !slices.Contains(n.states, is.State) {
					n.states = append(n.states, is.State)
				}
			}
		}
	}
	chart := behaviour.Of(c)
	beside := map[string]bool{} // what may have something placed beside it, and layers
	c.Walk(func(p, _ *contract.Part) {
		if p.Element == "dialog" || p.Attributes["popover"].Text != "" {
			beside[p.ID] = true
		}
		for _, name := range []string{"aria-controls", "aria-describedby"} {
			if of := c.Part(p.Attributes[name].Part); of != nil && of.Style["position-area"] != "" {
				beside[p.ID] = true
			}
		}
	})
	c.Walk(func(p, _ *contract.Part) {
		if styled[p.ID] || beside[p.ID] || chart != nil && chart.Drags(p.ID) || len(p.Style) > 0 || len(resets[p.Element]) > 0 || lists[p.Repeat] {
			n.parts[p.ID] = add(p.Name)
		}
	})
	c.EachProp(func(id string, p *contract.Prop) {
		for _, v := range inOrder(*p) {
			if !named[id][v] {
				continue
			}
			if n.values[id] == nil {
				n.values[id] = map[contract.Value]string{}
			}
			n.values[id][v] = add(valueClass(*p, v))
		}
		for _, t := range terms {
			if contract.PropOf(t) == id && n.terms[t] == "" {
				n.terms[t] = add(termClass(p.Name, t))
			}
		}
	})
	for _, state := range n.states {
		n.terms[contract.InState{State: state}] = add(contract.Identifier(state, "state"))
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

// termClass names what is asked of a number, or whether a prop is set: countOver0,
// hasPicture.
func termClass(name string, t contract.Term) string {
	switch t := t.(type) {
	case contract.PropSet:
		if t.Set {
			return "has" + contract.Capitalized(name)
		}
		return "no" + contract.Capitalized(name)
	case contract.NumberIs:
		bound := func(b contract.Bound, inclusive, exclusive string) string {
			word := map[contract.BoundKind]string{contract.Inclusive: inclusive, contract.Exclusive: exclusive}[b.Kind]
			if word == "" {
				return ""
			}
			return word + strings.NewReplacer("-", "Minus", ".", "Point", "+", "", "e", "E").Replace(css.FormatNumber(b.At))
		}
		if t.Low == t.High && t.Low.Kind == contract.Inclusive {
			return name + bound(t.Low, "Is", "")
		}
		return name + bound(t.Low, "From", "Over") + bound(t.High, "UpTo", "Under")
	}
	return name
}
