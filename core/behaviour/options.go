package behaviour

import (
	"fmt"

	"cobrik/core/contract"
)

// FromOptions turns a choice, or a flag, of a component into states that it is in: what rules ask of the prop they ask of the state, parts that are there for some options are
// hidden in the states of the others, and the prop says in which it begins. Nothing leads from one to another yet, but after a time each, where times are given, ms, in the
// order of the options.
func FromOptions(c *contract.Contract, prop string, times []float64) (*contract.Contract, error) {
	p := c.Prop(prop)
	if p == nil {
		return nil, fmt.Errorf("there is no prop %q", prop)
	}
	values := p.Type.Nameable()
	if len(values) < 2 {
		return nil, fmt.Errorf("%s has no options to be states", p.Name)
	}
	out := c.Clone()
	m := &Machine{Name: c.Name, Given: p.ID, Root: &State{ID: "root"}}
	states := map[contract.Value]*State{}
	for i, v := range values {
		s := &State{ID: StateOf(p.ID, v)}
		for _, other := range m.Root.States {
			if other.ID == s.ID {
				return nil, fmt.Errorf("two options of %s would be one state, %s", p.Name, s.ID)
			}
		}
		states[v] = s
		m.Root.States = append(m.Root.States, s)
		if i < len(times) && times[i] >= 1 {
			s.On = []Transition{{After: times[i], To: []string{StateOf(p.ID, values[(i+1)%len(values)])}}}
		}
	}
	if first := states[p.Default()]; first != nil && first != m.Root.States[0] {
		m.Root.Initial = []string{first.ID}
	}
	asks := func(w contract.When) (v contract.Value, rest contract.When, asked bool) {
		for _, t := range w.Terms() {
			if is, ok := t.(contract.PropIs); ok && is.Prop == p.ID {
				return is.Value, w.WithoutProp(p.ID), true
			}
		}
		return nil, w, false
	}
	for i, r := range out.Rules {
		if v, rest, asked := asks(r.When); asked && states[v] != nil {
			out.Rules[i].When = rest.With(contract.InState{State: states[v].ID})
		}
	}
	out.Walk(func(part, _ *contract.Part) {
		v, rest, asked := asks(part.ShownWhen)
		if !asked || states[v] == nil {
			return
		}
		part.ShownWhen = rest
		for _, of := range values {
			states[of].Sets = append(states[of].Sets, Set{part.ID, "hidden", fmt.Sprint(of != v)})
		}
	})
	chart, found := Compile(m)
	if len(found) > 0 {
		return nil, found[0]
	}
	out.Behaviour = &contract.Behaviour{Machine: chart}
	return out, nil
}
