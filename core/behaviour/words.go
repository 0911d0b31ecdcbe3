package behaviour

import (
	"cmp"
	"fmt"
	"strings"
)

// Sentences says a machine in words, a line a state: "in idle, on press of button: to running; after 300 ms: to draining".
func (m *Machine) Sentences() (out []string) {
	if m.Root == nil {
		return nil
	}
	for _, v := range m.Values {
		out = append(out, fmt.Sprintf("keeps %s, at first %v", v.Name, v.Initial))
	}
	m.Root.Walk(func(s, parent *State) {
		if s.Kind == History || s.Kind == DeepHistory {
			out = append(out, fmt.Sprintf("%s is what was left last in %s, at first %s", s.ID, parent.ID, strings.Join(s.Defaults, " and ")))
			return
		}
		var says []string
		if list := doing(s.Entry); list != "" {
			says = append(says, "on entry "+list)
		}
		for _, t := range s.On {
			says = append(says, t.sentence())
		}
		if list := doing(s.Exit); list != "" {
			says = append(says, "on exit "+list)
		}
		for _, set := range s.Sets {
			says = append(says, fmt.Sprintf("%s of %s is %s", set.Name, set.Part, set.Value))
		}
		what := "in " + s.ID
		switch {
		case s.Kind == Final:
			what = s.ID + " is the end"
		case s.Kind == Parallel:
			what += ", all at once: " + ids(s.States)
		case len(s.States) > 0:
			first := s.Initial
			if len(first) == 0 {
				first = []string{s.States[0].ID}
			}
			what += ", one of " + ids(s.States) + ", at first " + strings.Join(first, " and ")
		}
		if len(says) > 0 {
			what += ", " + strings.Join(says, "; ")
		}
		out = append(out, what)
	})
	return out
}

func ids(list []*State) string {
	var out []string
	for _, s := range list {
		if s.Kind != History && s.Kind != DeepHistory {
			out = append(out, s.ID)
		}
	}
	return strings.Join(out, ", ")
}

func (t Transition) sentence() string {
	what := t.words()
	if t.Event.Part != "" && t.Event.Kind != Own {
		bare := t.Event
		bare.Part = ""
		what = fmt.Sprintf("on %s of %s", bare, t.Event.Part)
	}
	var asks []string
	if !t.When.Always() {
		asks = append(asks, t.When.String())
	}
	if t.If != "" {
		asks = append(asks, t.If)
	}
	if len(asks) > 0 {
		what += " if " + strings.Join(asks, " and ")
	}
	var does []string
	if len(t.To) > 0 {
		does = append(does, "to "+strings.Join(t.To, " and "))
	}
	if list := doing(t.Do); list != "" {
		does = append(does, list)
	}
	return what + ": " + cmp.Or(strings.Join(does, ", "), "nothing")
}

func doing(list []Action) string {
	var out []string
	for _, a := range list {
		switch {
		case a.Assign != "":
			out = append(out, fmt.Sprintf("%s becomes %s", a.Assign, a.To))
		case a.Raise != "":
			out = append(out, "raise "+a.Raise)
		case a.Tell != "" && a.With != "":
			out = append(out, fmt.Sprintf("tell %s with %s", a.Tell, a.With))
		case a.Tell != "":
			out = append(out, "tell "+a.Tell)
		case a.Focus == Elsewhere:
			out = append(out, "the focus is elsewhere")
		case a.Focus != "":
			out = append(out, "focus "+a.Focus)
		}
	}
	return strings.Join(out, ", ")
}
