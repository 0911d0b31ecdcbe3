package behaviour

import (
	"slices"
	"strings"

	"cobrik/core/contract"
)

// renamed gives the machine with other words for parts and props: people write their names, a contract keeps their ids.
func (m *Machine) renamed(part, prop func(string) string) *Machine {
	out := &Machine{Name: m.Name, Values: slices.Clone(m.Values), Order: m.Order}
	if m.Given != "" {
		out.Given = prop(m.Given)
	}
	own := map[string]bool{}
	for i := range out.Values {
		own[m.Values[i].Name] = true
		if v := &out.Values[i]; v.Prop != "" {
			v.Prop = prop(v.Prop)
		}
	}
	expr := func(text string) string {
		return eachName(text, func(name string) string {
			if own[name] || name == "event" || name == "true" || name == "false" || functions[name] != 0 {
				return name
			}
			return prop(name)
		})
	}
	actions := func(list []Action) []Action {
		list = slices.Clone(list)
		for i := range list {
			a := &list[i]
			a.To, a.With = expr(a.To), expr(a.With)
			if a.Focus != "" && a.Focus != Elsewhere {
				a.Focus = part(a.Focus)
			}
		}
		return list
	}
	var state func(s *State) *State
	state = func(s *State) *State {
		if s == nil {
			return nil
		}
		to := *s
		to.Entry, to.Exit, to.On, to.Sets, to.States = actions(s.Entry), actions(s.Exit), slices.Clone(s.On), slices.Clone(s.Sets), nil
		for i := range to.On {
			t := &to.On[i]
			if t.If = expr(t.If); t.Event.Part != "" {
				t.Event.Part = part(t.Event.Part)
			}
			if t.Event.Kind == Changed && t.Event.Name != "" {
				t.Event.Name = prop(t.Event.Name)
			}
			t.Do = actions(t.Do)
		}
		for i := range to.Sets {
			to.Sets[i].Part, to.Sets[i].Value = part(to.Sets[i].Part), expr(to.Sets[i].Value)
		}
		for _, c := range s.States {
			to.States = append(to.States, state(c))
		}
		return &to
	}
	out.Root = state(m.Root)
	return out
}

// eachName rewrites the names in an expression; texts in it stay.
func eachName(text string, name func(string) string) string {
	var b strings.Builder
	quote := byte(0)
	for i := 0; i < len(text); {
		c := text[i]
		end := i + 1
		if quote == 0 && isName(string(c)) {
			for end < len(text) && isName("_"+text[i:end+1]) {
				end++
			}
			b.WriteString(name(text[i:end]))
		} else {
			for quote == 0 && c >= '0' && c <= '9' && end < len(text) && text[end] >= '0' && text[end] <= '9' {
				end++
			}
			b.WriteString(text[i:end])
		}
		switch {
		case quote == c:
			quote = 0
		case quote == 0 && (c == '\'' || c == '"'):
			quote = c
		}
		i = end
	}
	return b.String()
}

// words gives what people call a contract's parts and props, by their ids.
func words(c *contract.Contract) (part, prop func(string) string) {
	parts := map[string]string{}
	if c.Root != nil {
		c.Walk(func(p, _ *contract.Part) { parts[p.ID] = p.Name })
	}
	part = func(id string) string {
		if name := parts[id]; isWord(name) && !strings.ContainsAny(name, ".*") {
			return name
		}
		return id
	}
	prop = func(id string) string {
		if p := c.Prop(id); p != nil && isName(p.Name) {
			return p.Name
		}
		return id
	}
	return part, prop
}

// ids gives the ids of a contract's parts and props, by what people call them.
func ids(c *contract.Contract) (part, prop func(string) string) {
	name, called := words(c)
	parts, props := map[string]string{}, map[string]string{}
	if c.Root != nil {
		c.Walk(func(p, _ *contract.Part) { parts[name(p.ID)] = p.ID })
	}
	for _, p := range c.Props {
		props[called(p.ID)] = p.ID
	}
	of := func(known map[string]string) func(string) string {
		return func(word string) string {
			if id := known[word]; id != "" {
				return id
			}
			return word
		}
	}
	return of(parts), of(props)
}
