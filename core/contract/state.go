package contract

import "strings"

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

// inStates gives an environment with the states that flags put the component in.
func (c *Contract) inStates(e Env) Env {
	for _, p := range c.Props {
		if s := c.StateOf(p); s != "" && e.Props[p.ID] == FlagValue(true) {
			e.States = append(e.States[:len(e.States):len(e.States)], s)
		}
	}
	return e
}
