package behaviour

import (
	"fmt"
	"slices"

	"cobrik/core/contract"
)

// Leads says who leads a component from one state to another, where a prop says in which it begins.
type Leads string

// Who leads: the component by itself; it and the prop, whenever that changes; or the prop alone, so that whoever uses it has the last word.
const (
	ByItself Leads = "itself"
	WithProp Leads = "both"
	ByProp   Leads = "prop"
)

// FromOptions turns a choice, or a flag, of a component into states that it is in: what rules ask of the prop they ask of the state, parts that are there for some options are
// hidden in the states of the others, and the prop says in which it begins. What leads from one to another is a time, where times are given, ms, in the order of the options; and
// the press of a part, where one is named for an option, which is a button from then on and tells of it. Where the prop alone leads, times lead nowhere, and a press only tells.
func FromOptions(c *contract.Contract, prop string, times []float64, pressed map[string]string, leads Leads) (*contract.Contract, error) {
	p := c.Prop(prop)
	if p == nil {
		return nil, fmt.Errorf("there is no prop %q", prop)
	}
	values := OptionsOf(p)
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
			if leads == ByProp {
				return nil, fmt.Errorf("times lead from one state to the next, and %s alone is to", p.Name)
			}
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
		m.Root.Sets = append(m.Root.Sets, says(part.ID, "hidden", "true"))
		states[v].Sets = append(states[v].Sets, says(part.ID, "hidden", "false"))
	})
	for _, v := range values {
		if id := pressed[v.String()]; id != "" {
			if err := pressing(out, m, states[v], id, tellsOf(p, v), leads); err != nil {
				return nil, err
			}
		}
	}
	if leads != ByItself {
		if !isName(p.ID) {
			return nil, fmt.Errorf("%s cannot be asked for by its id %q", p.Name, p.ID)
		}
		for _, v := range values {
			m.Root.On = append(m.Root.On, Transition{Event: Event{Kind: Changed, Name: p.ID}, If: isNow(p.ID, v) + " && !In('" + states[v].ID + "')", To: []string{states[v].ID}})
		}
	}
	slices.SortStableFunc(m.Root.Sets, func(a, b Set) int { return slices.Index(said, a.Name) - slices.Index(said, b.Name) })
	chart, found := Compile(m)
	if len(found) > 0 {
		return nil, found[0]
	}
	out.Behaviour = &contract.Behaviour{Machine: chart}
	Tell(out)
	return out, nil
}

// isNow asks whether a choice, or a flag, has a value.
func isNow(prop string, v contract.Value) string {
	switch v {
	case contract.FlagValue(true):
		return prop
	case contract.FlagValue(false):
		return "!" + prop
	}
	with, _ := valueOf(v)
	return prop + " == " + literal(with)
}

// OptionsOf lists the values of a choice in their order, or of a flag off first; none of other props.
func OptionsOf(p *contract.Prop) (out []contract.Value) {
	for _, o := range p.Options() {
		out = append(out, contract.OptionValue(o))
	}
	if p.Kind() == contract.FlagKind {
		out = []contract.Value{contract.FlagValue(false), contract.FlagValue(true)}
	}
	return out
}

// said is the order in which what is said of several parts stands.
var said = []string{"hidden", "aria-expanded", "aria-disabled"}

// tellsOf gives what is told when a component comes to be as a prop's value says.
func tellsOf(p *contract.Prop, v contract.Value) Action {
	with, _ := valueOf(v)
	return tell("on"+contract.Capitalized(p.Name), literal(with))
}

// pressing lets the press of a part lead to a state from all others. A heading becomes one around a button, and a part whose state shows what others hide says whether it is
// open, and that it cannot be closed by itself (ARIA Authoring Practices Guide, Accordion).
func pressing(c *contract.Contract, m *Machine, to *State, id string, tells Action, leads Leads) error {
	p := c.Part(id)
	switch {
	case p == nil:
		return fmt.Errorf("there is no part %q", id)
	case p.Use() != nil:
		return fmt.Errorf("%s is a use of %s, which hears by itself", p.Name, p.Use().Component)
	case contract.IsHeading(p.Element):
		around, err := c.WrapParts([]string{id})
		if err != nil {
			return err
		}
		heading := c.Part(around)
		heading.Element, heading.Level = p.Element, p.Level
		if err := c.RenamePart(around, p.Name+"Heading"); err != nil {
			return err
		}
		p.Element, p.Level = "button", ""
	case !slices.Contains([]string{"button", "a", "summary"}, p.Element):
		p.Element = "button"
	}
	shows := ""
	for _, s := range to.Sets {
		if s.Name == "hidden" && s.Value == "false" && shows == "" {
			shows = s.Part
		}
	}
	if shows != "" && p.Attributes["aria-controls"] == (contract.Attribute{}) {
		if p.Attributes == nil {
			p.Attributes = attrs{}
		}
		p.Attributes["aria-controls"] = contract.Attribute{Part: shows}
	}
	for _, s := range m.Root.States {
		switch {
		case s == to:
		case leads == ByProp: // whoever uses it is told, and changes the prop
			s.On = append(s.On, on(press(id)).doing(tells))
		default:
			s.On = append(s.On, on(press(id), to.ID).doing(tells))
		}
	}
	if shows != "" {
		m.Root.Sets = append(m.Root.Sets, says(id, "aria-expanded", "false"), says(id, "aria-disabled", "false"))
		to.Sets = append(to.Sets, says(id, "aria-expanded", "true"), says(id, "aria-disabled", "true"))
	}
	return nil
}

// Without gives a contract without its behaviour: what rules ask of states that a prop says, they ask of the prop again, parts that such a state shows are there for it, and what is
// otherwise in other states goes, as does what was told. What goes along is told.
func Without(c *contract.Contract) (out *contract.Contract, taken []string) {
	out = c.Clone()
	chart := Of(c)
	out.Behaviour = nil
	if chart == nil {
		return out, nil
	}
	back := map[string]contract.Term{}
	if p := out.Prop(chart.Machine.Given); p != nil {
		for _, v := range p.Type.Nameable() {
			back[StateOf(p.ID, v)] = contract.PropIs{Prop: p.ID, Value: v}
		}
	}
	for i, r := range out.Rules {
		for _, t := range r.When.Terms() {
			if s, ok := t.(contract.InState); ok && back[s.State] != nil && !slices.Contains(contract.States, s.State) {
				out.Rules[i].When = r.When.Without(t).With(back[s.State])
			}
		}
	}
	for _, s := range chart.Machine.Root.States {
		for _, set := range s.Sets {
			p := out.Part(set.Part)
			if p != nil && set.Name == "hidden" && set.Value == "false" && back[s.ID] != nil && slices.Contains(chart.Machine.Root.Sets, says(set.Part, "hidden", "true")) {
				p.ShownWhen = p.ShownWhen.With(back[s.ID])
			}
		}
	}
	for _, state := range chart.States() {
		if !slices.Contains(contract.States, state) {
			taken = append(taken, out.RemoveState(state)...)
		}
	}
	out.Props = slices.DeleteFunc(out.Props, func(p contract.Prop) bool {
		_, told := p.Type.(contract.Event)
		gone := told && p.Type.(contract.Event).On == contract.Told && p.From == nil
		if gone {
			taken = append(taken, "what is told by "+p.Name)
		}
		return gone
	})
	return out, taken
}
