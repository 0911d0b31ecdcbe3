package behaviour

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Redraw is a change of a machine as it is drawn.
type Redraw struct {
	Do    string `json:"do" enum:"add,rename,remove,lead,cut"`
	State string `json:"state,omitempty"` // that it is about; of one that is added, the one it follows
	To    string `json:"to,omitempty"`    // its name from now on, or the state that is led to
	On    string `json:"on,omitempty"`    // what leads there, in the contract's words: press of lamp, after 2000 ms
}

// Redrawn gives a contract whose machine is drawn otherwise: a state is added after another, called otherwise, or taken away with all that leads to it and all that rules say of it; or a way
// leads from one to another, or no longer. The error says why it cannot be.
func Redrawn(c *contract.Contract, r Redraw) (*contract.Contract, error) {
	chart := Of(c)
	if chart == nil {
		return nil, fmt.Errorf("%s has no behaviour", c.Name)
	}
	same := func(name string) string { return name }
	m := chart.Machine.renamed(same, same)
	m.Order = slices.Clone(m.Order)
	at := find(m, r.State)
	if (at == nil || at == m.Root) && (r.Do != "add" || r.State != "") {
		return nil, fmt.Errorf("there is no state %q", r.State)
	}
	out := c.Clone()
	switch r.Do {
	case "add":
		if find(m, r.To) != nil {
			return nil, fmt.Errorf("there is a state %s already", r.To)
		}
		added := &State{ID: r.To}
		if at == nil {
			m.Root.States = append(m.Root.States, added)
			break
		}
		m.Root.Walk(func(s, _ *State) {
			if i := slices.Index(s.States, at); i >= 0 {
				s.States = slices.Insert(s.States, i+1, added)
			}
		})
	case "rename":
		if find(m, r.To) != nil {
			return nil, fmt.Errorf("there is a state %s already", r.To)
		}
		if m.Given != "" && isOption(c.Prop(m.Given), r.State) {
			return nil, fmt.Errorf("%s is called as an option of %s, which says where it begins; rename the option", r.State, c.Prop(m.Given).Name)
		}
		eachID(m, func(id string) string {
			if id == r.State {
				return r.To
			}
			return id
		})
		asked(out, r.State, r.To)
	case "remove":
		gone := map[string]bool{}
		at.Walk(func(s, _ *State) { gone[s.ID] = true })
		m.Root.Walk(func(s, _ *State) {
			s.States = slices.DeleteFunc(s.States, func(o *State) bool { return o == at })
			lost := func(id string) bool { return gone[id] }
			s.On = slices.DeleteFunc(s.On, func(t Transition) bool { return slices.ContainsFunc(t.To, lost) })
			s.Initial, s.Defaults = slices.DeleteFunc(slices.Clone(s.Initial), lost), slices.DeleteFunc(slices.Clone(s.Defaults), lost)
		})
		m.Order = slices.DeleteFunc(m.Order, func(id string) bool { return gone[id] })
		for id := range gone {
			out.RemoveState(id)
			for i := range out.Cases {
				if out.Cases[i].State == id {
					out.Cases[i].State = ""
				}
			}
		}
	case "lead":
		if find(m, r.To) == nil {
			return nil, fmt.Errorf("there is no state %q to lead to", r.To)
		}
		t, err := wayOf(c, r.On, r.State, r.To)
		if err != nil {
			return nil, err
		}
		at.On = append(at.On, t)
	case "cut":
		before := len(at.On)
		at.On = slices.DeleteFunc(at.On, func(t Transition) bool { return slices.Contains(t.To, r.To) || len(t.To) == 0 && r.To == r.State })
		if len(at.On) == before {
			return nil, fmt.Errorf("nothing leads from %s to %s", r.State, r.To)
		}
	default:
		return nil, fmt.Errorf("nobody can %s a state", r.Do)
	}
	made, problems := Compile(m)
	if len(problems) > 0 {
		return nil, problems[0]
	}
	out.Behaviour = &contract.Behaviour{Machine: made}
	Tell(out)
	return out, nil
}

func find(m *Machine, id string) (out *State) {
	m.Root.Walk(func(s, _ *State) {
		if s.ID == id && id != "" {
			out = s
		}
	})
	return out
}

func isOption(p *contract.Prop, state string) bool {
	return p != nil && slices.ContainsFunc(p.Type.Nameable(), func(v contract.Value) bool { return StateOf(p.ID, v) == state })
}

// wayOf reads what leads from one state to another.
func wayOf(c *contract.Contract, words, from, to string) (Transition, error) {
	words = strings.TrimSpace(words)
	if words == "" || strings.ContainsAny(words, "\r\n") {
		return Transition{}, errors.New("say in one line what leads there: press of a part, or after 2000 ms")
	}
	first, _, _ := strings.Cut(words, " ")
	if !slices.Contains([]string{"on", "after", "at"}, first) {
		words = "on " + words
	}
	if !strings.Contains(words, ":") {
		words += ": to " + to
	}
	other := ""
	if to != from {
		other = "state " + to + "\n"
	}
	m, found := ParseText("machine way\nstate "+from+"\n  "+words+"\n"+other, c)
	if len(found) > 0 {
		return Transition{}, fmt.Errorf("%s; %s", found[0].Message, found[0].Fix)
	}
	if len(m.Root.States[0].On) != 1 {
		return Transition{}, fmt.Errorf("%q leads nowhere; say press of a part, or after 2000 ms", words)
	}
	return m.Root.States[0].On[0], nil
}

// inState is what asks in an expression whether a state is active.
var inState = regexp.MustCompile(`\bIn\(\s*['"]([^'"]*)['"]\s*\)`)

// eachID rewrites the ids of states wherever a machine names them.
func eachID(m *Machine, to func(id string) string) {
	list := func(ids []string) []string {
		out := make([]string, len(ids))
		for i, id := range ids {
			out[i] = to(id)
		}
		return out
	}
	expr := func(text string) string {
		return inState.ReplaceAllStringFunc(text, func(call string) string {
			return "In('" + to(inState.FindStringSubmatch(call)[1]) + "')"
		})
	}
	m.Order = list(m.Order)
	m.Root.Walk(func(s, _ *State) {
		s.ID = to(s.ID)
		s.Initial, s.Defaults = list(s.Initial), list(s.Defaults)
		for i := range s.On {
			t := &s.On[i]
			t.To, t.If = list(t.To), expr(t.If)
			if done, is := strings.CutPrefix(t.Event.Name, "done.state."); is && t.Event.Kind == Own {
				t.Event.Name = "done.state." + to(done)
			}
		}
		for i := range s.Sets {
			s.Sets[i].Value = expr(s.Sets[i].Value)
		}
	})
}

// asked lets what asks for a state ask for another.
func asked(c *contract.Contract, state, to string) {
	was, now := contract.InState{State: state}, contract.InState{State: to}
	for i := range c.Rules {
		if r := &c.Rules[i]; slices.Contains(r.When.Terms(), contract.Term(was)) {
			r.When = r.When.Without(was).With(now)
		}
	}
	for i := range c.Cases {
		if c.Cases[i].State == state {
			c.Cases[i].State = to
		}
	}
	for i := range c.States {
		if c.States[i].State == state {
			c.States[i].State = to
		}
	}
}
