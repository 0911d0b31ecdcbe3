package behaviour

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/problem"
)

func init() {
	contract.RegisterMachines(func(text []byte) (contract.Machine, error) {
		m := new(Machine)
		if err := json.Unmarshal(text, m); err != nil {
			return nil, err
		}
		c, found := Compile(m)
		if len(found) > 0 {
			return nil, found[0]
		}
		return c, nil
	})
}

// Of gives a contract's behaviour; nil for none.
func Of(c *contract.Contract) *Chart {
	if c.Behaviour == nil {
		return nil
	}
	chart, _ := c.Behaviour.Machine.(*Chart)
	return chart
}

// MarshalJSON writes the machine.
func (c *Chart) MarshalJSON() ([]byte, error) { return json.Marshal(c.Machine) }

// States lists the ids of all states but the outermost and histories, in document order.
func (c *Chart) States() (out []string) {
	for _, n := range c.nodes {
		if n != c.root && n.Kind != History && n.Kind != DeepHistory {
			out = append(out, n.ID)
		}
	}
	return out
}

// Shown lists the states without others inside that are not left as soon as they are entered.
func (c *Chart) Shown() (out []string) {
	for _, id := range c.States() {
		n := c.byID[id]
		if len(n.children) == 0 && !slices.ContainsFunc(n.On, func(t Transition) bool { return t.eventless() && t.When.Always() && t.If == "" }) {
			out = append(out, id)
		}
	}
	return out
}

// In gives the states that are active in an environment, and what they say of parts: as it begins, or in those of its states that the environment asks for.
func (c *Chart) In(env contract.Env) ([]string, []Said) {
	asked := slices.ContainsFunc(env.States, func(id string) bool { n := c.byID[id]; return n != nil && n != c.root })
	var cfg Config
	if asked {
		cfg = c.Stand(env, env.States)
		maps.Copy(cfg.Values, env.Kept)
	} else {
		cfg, _ = c.Start(env)
	}
	return slices.DeleteFunc(slices.Clone(cfg.Active), func(id string) bool { return id == c.root.ID }), c.Says(cfg, env)
}

// Props lists the ids of the props that the machine asks for, and of those that it tells by in a contract.
func (c *Chart) Props(of *contract.Contract) (out []string) {
	add := func(id string) {
		if of.Prop(id) != nil && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	own := map[string]bool{}
	add(c.Machine.Given)
	for _, v := range c.Machine.Values {
		own[v.Name] = true
		add(v.Prop)
	}
	expr := func(text string) {
		if text == "" {
			return
		}
		for _, name := range c.expr(text).Names() {
			if !own[name] {
				add(name)
			}
		}
	}
	actions := func(list []Action) {
		for _, a := range list {
			expr(a.To)
			expr(a.With)
			for i := range of.Props {
				if p := &of.Props[i]; a.Tell != "" && p.Name == a.Tell && p.Kind() == contract.EventKind {
					add(p.ID)
				}
			}
		}
	}
	for _, n := range c.nodes {
		actions(n.Entry)
		actions(n.Exit)
		for _, t := range n.On {
			actions(t.Do)
			expr(t.If)
			if t.Event.Kind == Changed {
				add(t.Event.Name)
			}
			for _, term := range t.When.Terms() {
				add(contract.PropOf(term))
			}
		}
		for _, s := range n.Sets {
			expr(s.Value)
		}
	}
	return out
}

// Widths lists the widths of the component's container, px, that conditions ask for, each once.
func (c *Chart) Widths() (out []float64) {
	for _, n := range c.nodes {
		for _, t := range n.On {
			for _, term := range t.When.Terms() {
				w, ok := term.(contract.Container)
				if !ok || w.Name != "" {
					continue
				}
				for _, px := range []float64{w.From, w.Below} {
					if px > 0 && !slices.Contains(out, px) {
						out = append(out, px)
					}
				}
			}
		}
	}
	return out
}

// Drags tells whether anything waits for a part to be dragged.
func (c *Chart) Drags(part string) bool {
	return slices.ContainsFunc(c.nodes, func(n *node) bool {
		return slices.ContainsFunc(n.On, func(t Transition) bool { return t.Event.Kind == Dragged && t.Event.Part == part })
	})
}

// Tokens lists the durations that times are, by path.
func (c *Chart) Tokens() (out []string) {
	for _, n := range c.nodes {
		for _, t := range n.On {
			if path := tokenOf(t); path != "" && !slices.Contains(out, path) {
				out = append(out, path)
			}
		}
	}
	return out
}

// tokenOf gives the path of the duration that a time is.
func tokenOf(t Transition) string { return strings.TrimSuffix(strings.TrimPrefix(t.Token, "{"), "}") }

// WithTokens gives the machine with other durations, and how long each is, ms.
func (c *Chart) WithTokens(of func(path string) (string, float64)) contract.Machine {
	same := func(name string) string { return name }
	m := c.Machine.renamed(same, same)
	m.Root.Walk(func(s, _ *State) {
		for i := range s.On {
			if t := &s.On[i]; t.Token != "" {
				path, ms := of(tokenOf(*t))
				t.Token, t.After = "{"+path+"}", ms
			}
		}
	})
	if out, found := Compile(m); found == nil {
		return out
	}
	return c // a duration no timer takes: a check says so
}

// CheckIn lists what in the machine the contract does not have: parts, props, and events that are told; and what cannot be written as code.
func (c *Chart) CheckIn(of *contract.Contract, found *problem.List) {
	const at = "/behaviour"
	k := checking{c, of, found, map[string]bool{}}
	part := func(id, what string) *contract.Part {
		p := of.Part(id)
		if p == nil {
			k.once("behaviour-part", "name a part of the component, or add it", "%s: there is no part %q", what, id)
		}
		return p
	}
	for _, v := range c.Machine.Values {
		if v.Name == "focus" || v.Name == "event" || strings.HasPrefix(v.Name, "__") { // those mean something in code, or in an expression
			k.once("behaviour-value", "call it otherwise", "a value is called %s", v.Name)
		}
		if v.Prop != "" && of.Prop(v.Prop) == nil {
			k.once("behaviour-prop", "name a prop, or add it", "%s begins with the prop %q, and there is none", v.Name, v.Prop)
		}
	}
	if given := c.Machine.Given; given != "" {
		if p := of.Prop(given); p == nil || p.Type.Nameable() == nil {
			k.once("behaviour-prop", "name a choice or a flag, or add it", "it begins as %q says, and there is no such choice or flag", given)
		} else {
			for _, v := range p.Type.Nameable() {
				if n := c.byID[StateOf(given, v)]; n == nil || n == c.root {
					k.once("behaviour-prop", "call a state "+StateOf(given, v), "it begins as %s says, and no state is called as %s", p.Name, v)
				}
			}
		}
	}
	for _, n := range c.nodes {
		if strings.ContainsFunc(n.ID, func(r rune) bool { return !strings.ContainsRune("-_", r) && !isName("a"+string(r)) }) {
			k.once("behaviour-state", "name it of letters, digits, - and _", "a state is called %q", n.ID)
		}
		for _, t := range n.On {
			where := fmt.Sprintf("%s, %s", n.ID, t.words())
			if t.Event.Part != "" {
				k.hears(part(t.Event.Part, where), t.Event)
			}
			if t.Event.Kind == Changed && t.Event.Name != "" && of.Prop(t.Event.Name) == nil {
				k.once("behaviour-prop", "name a prop, or add it", "%s: there is no prop %q", where, t.Event.Name)
			}
			for _, term := range t.When.Terms() {
				if id := contract.PropOf(term); id != "" && of.Prop(id) == nil {
					k.once("behaviour-prop", "name a prop, or add it", "%s: there is no prop %q", where, id)
				}
			}
			if t.If != "" {
				k.names(where, t.If)
			}
			k.actions(where, t.Do, part)
		}
		k.actions(n.ID+", on entry", n.Entry, part)
		k.actions(n.ID+", on exit", n.Exit, part)
		for _, s := range n.Sets {
			where := fmt.Sprintf("%s, %s of %s", n.ID, s.Name, s.Part)
			k.names(where, s.Value)
			if p := part(s.Part, where); p != nil {
				k.says(p, s)
			}
		}
	}
	if !found.Failed() {
		_, problems := c.Flatten()
		for _, p := range problems {
			found.Errorf("behaviour-code", at, p.Fix, "%s", strings.TrimPrefix(p.State+": ", ": ")+p.Message)
		}
	}
}

type checking struct {
	*Chart
	of    *contract.Contract
	found *problem.List
	told  map[string]bool
}

// once tells of something the first time it is found.
func (k checking) once(rule, fix, format string, args ...any) {
	message := fmt.Sprintf(format, args...)
	if !k.told[message] {
		k.told[message] = true
		k.found.Errorf(rule, "/behaviour", fix, "%s", message)
	}
}

// hears looks whether a part can hear an event: a list's parts are one for each item, and a use's are its own.
func (k checking) hears(p *contract.Part, e Event) {
	switch {
	case p == nil:
	case p.Repeat != "" || k.repeated(p):
		k.once("behaviour-part", "let a part around the list hear it", "%s is there once for each item, and %s is not told apart", p.Name, e.Kind)
	case p.Use() != nil:
		k.once("behaviour-part", "put it in a part that hears it", "%s is a use of a component, which hears by itself", p.Name)
	}
}

// repeated tells whether a part stands in one that is there for each item of a list.
func (k checking) repeated(p *contract.Part) (out bool) {
	var walk func(at *contract.Part, around bool)
	walk = func(at *contract.Part, around bool) {
		around = around || at.Repeat != ""
		out = out || at == p && around
		for _, c := range at.Children {
			walk(c, around)
		}
	}
	walk(k.of.Root, false)
	return out
}

func (k checking) actions(where string, list []Action, part func(id, what string) *contract.Part) {
	for _, a := range list {
		for _, text := range []string{a.To, a.With} {
			if text != "" {
				k.names(where, text)
			}
		}
		if a.Focus != "" && a.Focus != Elsewhere {
			part(a.Focus, where)
		}
		if a.Tell == "" {
			continue
		}
		if p := k.event(a.Tell); p == nil {
			k.once("behaviour-event", "add an event of that name, told by the behaviour", "%s: %s is told, and there is no such prop", where, a.Tell)
		}
	}
}

// event finds the prop by which something is told.
func (k checking) event(name string) *contract.Prop {
	for i := range k.of.Props {
		p := &k.of.Props[i]
		if e, ok := p.Type.(contract.Event); ok && p.Name == name && e.On == contract.Told {
			return p
		}
	}
	return nil
}

// names looks for what an expression asks for and nothing has.
func (k checking) names(where, text string) {
	for _, name := range k.expr(text).Names() {
		if slices.ContainsFunc(k.Machine.Values, func(v Value) bool { return v.Name == name }) {
			continue
		}
		p := k.of.Prop(name)
		if p == nil {
			k.once("behaviour-prop", "name a value or a prop, or add it", "%s: there is nothing called %q", where, name)
		} else if !slices.Contains([]contract.Kind{contract.FlagKind, contract.NumberKind, contract.TextKind, contract.ChoiceKind}, p.Kind()) {
			k.once("behaviour-prop", "ask for a flag, a number, a text or a choice", "%s: %s is a %s", where, p.Name, p.Kind())
		}
	}
}

// says looks whether a state can say something of a part.
func (k checking) says(p *contract.Part, s Set) {
	if u := p.Use(); u != nil {
		if of := u.Of(); of != nil && !slices.ContainsFunc(of.Props, func(q contract.Prop) bool { return q.Name == s.Name }) {
			k.once("behaviour-set", "name a prop of it", "%s has no prop %s", u.Component, s.Name)
		}
		return
	}
	_, _, ok := contract.AttributeOf(p.Element, s.Name)
	switch {
	case strings.HasPrefix(s.Name, "data-"), contract.Shares[s.Name] != "":
	case s.Name == contract.TextSaid:
		if !p.IsText() {
			k.once("behaviour-set", "say it of a part that shows a text", "%s shows no text", p.Name)
		}
	case !ok:
		k.once("behaviour-set", "say hidden, an attribute of ARIA or of the element, or a share: share, start, rise or foot", "%s, a %s, has no %s", p.Name, p.Element, s.Name)
	}
	if k.repeated(p) {
		k.once("behaviour-part", "say it of a part around the list", "%s is there once for each item", p.Name)
	}
}

// OptionsFor gives what a contract's behaviour is explored in: as the component is by itself, with all that its props may come to be, on both sides of its switch points, with
// the roles that its parts have, and the states that rules ask for.
func OptionsFor(c *contract.Contract) Options {
	out := Options{Env: contract.EnvOf(c.Defaults()), Props: map[string][]contract.Value{}, Roles: map[string]string{}}
	chart := Of(c)
	if chart == nil {
		return out
	}
	out.Order = chart.Machine.Order
	for _, id := range chart.Props(c) {
		p := c.Prop(id)
		values := p.Type.Nameable()
		if values == nil && p.Kind() == contract.NumberKind {
			values = p.Type.Samples()
		}
		for _, v := range values {
			if v != nil {
				out.Props[id] = append(out.Props[id], v)
			}
		}
	}
	for _, px := range c.SwitchPoints() {
		out.Widths = append(out.Widths, px-1, px)
	}
	for _, r := range c.Rules {
		for _, t := range r.When.Terms() {
			if s, ok := t.(contract.InState); ok && c.HasState(s.State) && !slices.Contains(out.Styled, s.State) {
				out.Styled = append(out.Styled, s.State)
			}
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		if role := p.Attributes["role"].Text; RoleKeys[role] != nil {
			out.Roles[p.ID] = role
		}
	})
	return out
}
