package contract

import (
	"fmt"
	"maps"
	"slices"
)

// Inline puts what a use is of in its place: parts and rules of the component as the use has it, bound to what it
// is given. The component itself, and its other uses, stay. The error says what cannot be said from outside of it.
func (c *Contract) Inline(id string) error {
	p := c.Part(id)
	if p == nil || p.Use() == nil {
		return fmt.Errorf("%s is no use of a component", c.partName(id))
	}
	u := p.Use()
	if u.of == nil {
		return fmt.Errorf("there is no component %s", u.Component)
	}
	own := u.of.Clone()
	own.linkLike(u.of)
	for _, r := range own.Rules {
		for _, t := range r.When.Terms() {
			switch t := t.(type) {
			case InState:
				if own.StateFlag(t.State) == nil {
					return fmt.Errorf("%s of %s changes with the state %s of itself, which a part of something larger has not", own.partName(r.Part), own.Name, t.State)
				}
			case Container:
				if t.Name == "" {
					return fmt.Errorf("%s of %s changes with the width of its own container", own.partName(r.Part), own.Name)
				}
			}
		}
	}
	// A state that a flag brings about is that flag's value here, whatever it is called.
	own.eachCondition(func(w When) When {
		for _, t := range w.Terms() {
			if s, ok := t.(InState); ok {
				w = w.without(func(o Term) bool { return o == t }).With(PropIs{own.StateFlag(s.State).ID, FlagValue(true)})
			}
		}
		return w
	})
	e := &extraction{c: own, part: own.Root, inside: map[string]bool{}, names: map[string]string{}}
	events := map[string]string{} // ids of events here, by the part of the component that tells of them
	slots := map[string][]string{}
	for _, q := range slices.Clone(own.Props) {
		g, given := u.Given[q.ID]
		switch {
		case len(g.Cases) > 0:
			return fmt.Errorf("%s of %s is given values by cases; give it a prop, or one value", q.Name, p.Name)
		case g.Prop != "" && q.Kind() == EventKind:
			events[g.Prop] = q.Part
		case g.Prop != "":
			e.names[q.ID] = g.Prop
		case len(g.Parts) > 0:
			slots[q.ID] = g.Parts
		case q.Kind() == EventKind || q.Kind() == SlotKind:
		default:
			v := q.Default()
			if given {
				v = u.Decoded(q.ID, g.Value)
			}
			if why := own.unfixed(q, v); why != "" {
				return fmt.Errorf("%s of %s %s; give it a prop first", q.Name, p.Name, why)
			}
			one := own.Prop(q.ID)
			if one.Example = v; v == nil { // nothing is given, and there is no default
				one.Type = emptied(one.Type)
			}
			one.Required, one.From = false, nil
			if _, err := own.RemoveProp(q.ID); err != nil {
				return err
			}
		}
	}
	root := own.Root
	e.rename(root)
	taken := map[string]bool{}
	c.Walk(func(q, _ *Part) { taken[q.ID], taken[q.Name] = true, true })
	ids := map[string]string{root.ID: p.ID}
	e.walk(root, func(q *Part) {
		if q == root {
			return
		}
		was := q.ID
		q.ID = Free(was, "", func(n string) bool { return taken[n] })
		q.Name = Free(q.Name, "", func(n string) bool { return taken[n] && n != q.ID })
		taken[q.ID], taken[q.Name] = true, true
		ids[was] = q.ID
		q.Layer, q.Drawn = "", nil
	})
	children := map[string]*Part{}
	for _, child := range p.Children {
		children[child.ID] = child
	}
	e.walk(root, func(q *Part) {
		for name, a := range q.Attributes {
			if a.Part != "" {
				q.Attributes[name] = Attribute{Part: ids[a.Part]}
			}
		}
		if inner := q.Use(); inner != nil {
			for given, g := range inner.Given {
				for i := range g.Parts {
					g.Parts[i] = ids[g.Parts[i]]
				}
				inner.Given[given] = g
			}
		}
		if s, ok := q.Content.(SlotOf); ok {
			switch parts, filled := slots[s.Prop]; {
			case filled:
				q.Content, q.Children = nil, nil
				for _, part := range parts {
					q.Children = append(q.Children, children[part])
				}
			case e.names[s.Prop] == "" && own.Prop(s.Prop) != nil && !slices.Contains(slices.Collect(maps.Values(e.names)), s.Prop):
				q.Content = nil // nobody fills it: what stands in it stands there
			}
		}
	})
	var rules []Rule
	for _, r := range own.Rules {
		rules = append(rules, Rule{ids[r.Part], e.renamed(r.When), r.Set})
	}
	c.Rules = append(rules, c.Rules...) // what the use said of how it stands is said later, and wins
	style := maps.Clone(root.Style)
	if style == nil {
		style = Style{}
	}
	maps.Copy(style, p.Style)
	if len(style) == 0 {
		style = nil
	}
	when, possible := p.ShownWhen, true
	for _, t := range root.ShownWhen.Terms() {
		if when, possible = merged(when, t); !possible {
			return fmt.Errorf("%s is never there as %s has it", p.Name, own.Name)
		}
	}
	*p = Part{ID: p.ID, Name: p.Name, Element: root.Element, Level: root.Level, Attributes: root.Attributes, Layer: p.Layer, Drawn: p.Drawn, Style: style, Content: root.Content,
		ShownWhen: when, Repeat: p.Repeat, Children: root.Children}
	for i := range c.Props {
		q := &c.Props[i]
		if part, told := events[q.ID]; told {
			q.Part = ids[part]
		}
		if q.From != nil && q.From.Part == p.ID {
			q.From = nil
		}
	}
	c.Prune()
	return nil
}

// unfixed tells why a prop's value cannot stand in the parts themselves; empty when it can.
func (c *Contract) unfixed(q Prop, v Value) string {
	switch v := v.(type) {
	case ListValue:
		if len(v) > 0 {
			return "is given a list, and its parts are there for each item"
		}
	case RichValue:
		if !Equal(v, Plain(v.String())) {
			return "is given text in several looks"
		}
	case ImageValue:
		return "is given a picture"
	case nil:
		instead := false
		c.Walk(func(p, _ *Part) {
			image, ok := p.Content.(ImageOf)
			instead = instead || ok && image.Prop == q.ID && len(p.Children) > 0
		})
		if instead {
			return "is given no picture, and other parts stand in place of it"
		}
	}
	return ""
}

// emptied gives a type without a default.
func emptied(t Type) Type {
	switch t := t.(type) {
	case Text:
		t.Initial = ""
		return t
	case Rich:
		t.Initial = nil
		return t
	case Number:
		t.Initial = nil
		return t
	case Link:
		t.Initial = ""
		return t
	case Icon:
		t.Initial = ""
		return t
	}
	return t
}

// linkLike ties the uses of a clone to what those of the contract are tied to.
func (c *Contract) linkLike(other *Contract) {
	tied := map[string]*Contract{}
	for _, p := range other.UsedParts() {
		tied[p.ID] = p.Use().of
	}
	for _, p := range c.UsedParts() {
		p.Use().of, p.Use().sought = tied[p.ID], true
	}
}
