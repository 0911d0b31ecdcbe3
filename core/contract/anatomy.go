package contract

import "slices"

// Influence is what a prop or a condition changes of a part.
type Influence struct {
	By   string   `json:"by" doc:"A prop's name, or a condition in words: state hover"`
	Prop string   `json:"prop,omitempty" doc:"The prop's id; none for other conditions"`
	What []string `json:"what" doc:"CSS properties and attributes by their names, else in words: its text, whether it is there"`
}

// Influences lists what changes a part, in the order of the props; states and other conditions are last.
func (c *Contract) Influences(p *Part) []Influence {
	var out []Influence
	note := func(by, prop, what string) {
		if by == "" {
			return
		}
		i := slices.IndexFunc(out, func(in Influence) bool { return in.By == by })
		if i < 0 {
			i = len(out)
			out = append(out, Influence{By: by, Prop: prop})
		}
		if !slices.Contains(out[i].What, what) {
			out[i].What = append(out[i].What, what)
		}
	}
	prop := func(id, what string) {
		if q := c.Prop(id); q != nil {
			note(q.Name, q.ID, what)
		}
	}
	when := func(w When, what string) {
		for _, t := range w.Terms() {
			if id := PropOf(t); id != "" {
				prop(id, what)
			} else {
				note(c.Words(Of(t)), "", what)
			}
		}
	}
	switch content := p.Content.(type) {
	case TextOf:
		prop(content.Prop, "its text")
	case ImageOf:
		prop(content.Prop, "its picture")
	case IconOf:
		prop(content.Prop, "its icon")
	case SlotOf:
		prop(content.Prop, "what stands in it")
	case *Use:
		for _, id := range sortedKeys(content.Given) {
			g := content.Given[id]
			name := id
			if content.of != nil && content.of.Prop(id) != nil {
				name = content.of.Prop(id).Name
			}
			prop(g.Prop, name+" of "+content.Component)
			for _, k := range g.Cases {
				when(k.When, name+" of "+content.Component)
			}
		}
	}
	prop(p.Level, "its level")
	prop(p.Repeat, "how many there are")
	when(p.ShownWhen, "whether it is there")
	for _, name := range sortedKeys(p.Attributes) {
		prop(p.Attributes[name].Prop, name)
	}
	for _, q := range c.Props {
		if event, ok := q.Type.(Event); ok && q.Part == p.ID {
			note(q.Name, q.ID, "what is called on "+event.On)
		}
	}
	for _, r := range c.Rules {
		if r.Part == p.ID {
			for _, property := range r.Set.Properties() {
				when(r.When, property)
			}
		}
	}
	rank := func(in Influence) int {
		if i := slices.IndexFunc(c.Props, func(q Prop) bool { return q.ID == in.Prop }); i >= 0 {
			return i
		}
		return len(c.Props)
	}
	slices.SortStableFunc(out, func(a, b Influence) int { return rank(a) - rank(b) })
	return out
}
