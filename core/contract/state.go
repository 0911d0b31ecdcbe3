package contract

import (
	"slices"
	"strings"
)

// DataStates are those that data sets, through a flag of their name; others come of what people
// do.
var DataStates = States[3:]

// StateFlag gives the flag that stands for a state by its name: disabled, readOnly; nil for none.
func (c *Contract) StateFlag(state string) *Prop {
	for i := range c.Props {
		if p := &c.Props[i]; p.Kind() == FlagKind && strings.Join(Words(p.Name), "-") == state {
			return p
		}
	}
	return nil
}

// StateOf gives the state that a flag of its name puts the component in, where a rule asks
// for it: a flag named loading or readOnly; empty for none.
func (c *Contract) StateOf(p Prop) string {
	if p.Kind() != FlagKind {
		return ""
	}
	name := strings.Join(Words(p.Name), "-")
	for _, r := range c.Rules {
		for _, t := range r.When.Terms() {
			if s, ok := t.(InState); ok && s.State == name {
				return name
			}
		}
	}
	return ""
}

// inStates gives an environment with the states that flags, and its behaviour, put the component in.
func (c *Contract) inStates(e Env) Env {
	e, _ = c.behaves(c.flagged(e))
	return e
}

// flagged gives an environment with the states that flags put the component in.
func (c *Contract) flagged(e Env) Env {
	for _, p := range c.Props {
		if s := c.StateOf(p); s != "" && e.Props[p.ID] == FlagValue(true) {
			e.States = append(e.States[:len(e.States):len(e.States)], s)
		}
	}
	return e
}

// AskedStates lists the states that a rule asks for, in the order of States, and those that the behaviour can be seen in.
func (c *Contract) AskedStates() (out []string) {
	var shown []string
	if c.Behaviour != nil {
		shown = c.Behaviour.Shown()
	}
	for _, name := range c.AllStates() {
		if slices.Contains(shown, name) || !c.HasState(name) && slices.ContainsFunc(c.Rules, func(r Rule) bool { return slices.Contains(r.When.Terms(), Term(InState{name})) }) {
			out = append(out, name)
		}
	}
	return out
}

// RemoveState leaves out all that is otherwise in a state, and that it is drawn; what goes along is told.
// A flag that puts the component in it stays: it may be bound to more.
func (c *Contract) RemoveState(name string) (taken []string) {
	taken = c.dropConditions(func(w When) (When, bool) { return w, !slices.Contains(w.Terms(), Term(InState{name})) })
	c.States = slices.DeleteFunc(c.States, func(s DrawnState) bool { return s.State == name })
	c.Prune()
	return taken
}
