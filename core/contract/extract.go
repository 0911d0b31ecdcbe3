package contract

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Extract makes a part with all it holds a component of its own, of a name, and the part a use of it: in its place, and
// wherever else in the contract the same parts with the same rules stand, whatever props they are bound to. What it
// is bound to is given to it, or passed on where nothing else hangs on it. How the part stands where it is, and when
// it is there, stay the use's. It gives the component and how many parts are uses of it now; the error says what a
// component inside could not do.
func (c *Contract) Extract(id, name string) (own *Contract, uses int, err error) {
	p := c.Part(id)
	switch {
	case p == nil:
		return nil, 0, fmt.Errorf("there is no part %q", id)
	case p == c.Root:
		return nil, 0, fmt.Errorf("the root with all it holds is %s already", c.Name)
	case p.Use() != nil:
		return nil, 0, fmt.Errorf("%s is a use of %s already", p.Name, p.Use().Component)
	}
	e := extractionOf(c, p)
	if err := e.possible(); err != nil {
		return nil, 0, err
	}
	if own, err = e.component(name); err != nil {
		return nil, 0, err
	}
	return own, c.UseInstead(own, e.same()), nil
}

// Same stands for parts with their rules; those that are the same are equal, in whatever contract they stand and
// whatever props they are bound to.
type Same struct {
	shape string
	props int
}

// SameAs gives what a part with all it holds is the same as.
func (c *Contract) SameAs(id string) Same {
	if p := c.Part(id); p != nil {
		return extractionOf(c, p).same()
	}
	return Same{}
}

// UseInstead makes all parts that are the same as some, but for the root, uses of the component that these are, and
// gives how many.
func (c *Contract) UseInstead(own *Contract, as Same) int {
	var same []*extraction
	c.Walk(func(q, parent *Part) {
		if parent == nil || q.Use() != nil || slices.ContainsFunc(same, func(s *extraction) bool { return s.inside[q.ID] }) {
			return
		}
		if e := extractionOf(c, q); e.same() == as && e.possible() == nil {
			same = append(same, e)
		}
	})
	for _, e := range same {
		e.replace(own)
	}
	if len(same) > 0 {
		c.Prune()
	}
	return len(same)
}

func extractionOf(c *Contract, p *Part) *extraction {
	e := &extraction{c: c, part: p, inside: map[string]bool{}, names: map[string]string{}}
	e.walk(p, func(q *Part) { e.inside[q.ID] = true })
	return e
}

func (e *extraction) same() Same { return Same{e.shape(e.part), len(e.props())} }

type extraction struct {
	c      *Contract
	part   *Part
	inside map[string]bool   // ids of the parts that go
	names  map[string]string // ids that props have in the component, by those they have here
}

func (e *extraction) walk(p *Part, visit func(*Part)) {
	visit(p)
	for _, child := range p.Children {
		e.walk(child, visit)
	}
}

// possible tells what keeps the parts from being a component of their own.
func (e *extraction) possible() (err error) {
	c := e.c
	c.Walk(func(q, _ *Part) {
		for _, name := range sortedKeys(q.Attributes) {
			if to := q.Attributes[name].Part; to != "" && e.inside[q.ID] != e.inside[to] && err == nil {
				err = fmt.Errorf("%s of %s names %s, and what is inside of a component cannot be named from outside", name, q.Name, c.partName(to))
			}
		}
	})
	for _, r := range c.Rules {
		if !e.inside[r.Part] || err != nil {
			continue
		}
		for _, t := range r.When.Terms() {
			switch t := t.(type) {
			case InState:
				if c.StateFlag(t.State) == nil {
					err = fmt.Errorf("%s changes with the state %s of the whole, which a component inside knows nothing of", c.partName(r.Part), t.State)
				}
			case Container:
				if t.Name == "" {
					err = fmt.Errorf("%s changes with the width of the container, which would be another inside of a component", c.partName(r.Part))
				}
			}
		}
	}
	return err
}

// props lists the props that what goes is bound to, by their ids here, in the order they are met: what decides
// whether it is there, and for each of what, is not among them.
func (e *extraction) props() (out []string) {
	add := func(id string) {
		if id != "" && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	asks := func(w When) {
		for _, t := range w.Terms() {
			add(PropOf(t))
		}
	}
	lists := map[string]bool{} // repeated inside: an item's prop goes with its list
	e.walk(e.part, func(p *Part) {
		if p != e.part {
			lists[p.Repeat] = p.Repeat != ""
			add(p.Repeat)
			asks(p.ShownWhen)
		}
		for _, s := range shows {
			if id, ok := s.of(p.Content); ok {
				add(id)
			}
		}
		add(p.Level)
		for _, name := range sortedKeys(p.Attributes) {
			add(p.Attributes[name].Prop)
		}
		if u := p.Use(); u != nil {
			for _, given := range sortedKeys(u.Given) {
				add(u.Given[given].Prop)
				for _, k := range u.Given[given].Cases {
					asks(k.When)
				}
			}
		}
	})
	for _, r := range e.c.Rules {
		if e.inside[r.Part] {
			asks(r.When)
			for _, t := range r.When.Terms() {
				if s, ok := t.(InState); ok && e.c.StateFlag(s.State) != nil {
					add(e.c.StateFlag(s.State).ID)
				}
			}
		}
	}
	for _, p := range e.c.Props {
		if p.Kind() == EventKind && p.From == nil && e.inside[p.Part] {
			add(p.ID)
		}
	}
	return slices.DeleteFunc(out, func(id string) bool {
		list, _, item := strings.Cut(id, ".")
		return item && lists[list]
	})
}

// component makes the component's contract.
func (e *extraction) component(name string) (*Contract, error) {
	own := &Contract{Format: Format, Name: name, Props: []Prop{}}
	for _, id := range e.props() {
		was := e.c.Prop(id)
		if was == nil {
			return nil, fmt.Errorf("there is no prop %q", id)
		}
		called := freeProp(own.Props, was.Name)
		if was.Name == "children" && was.Kind() == SlotKind {
			called = "children"
		}
		e.names[id] = called
		p := Prop{ID: called, Name: called, Purpose: was.Purpose, Required: was.Required, Example: was.Example, Type: was.Type.clone()}
		if e.inside[was.Part] {
			p.Part = was.Part
		}
		own.Props = append(own.Props, p)
	}
	root := e.part.clone()
	root.ShownWhen, root.Repeat = When{}, ""
	e.rename(root)
	e.walk(root, func(p *Part) { p.Layer, p.Drawn = "", nil })
	if was := root.ID; was != "root" && !e.inside["root"] {
		root.ID, root.Name = "root", "root"
		e.walk(root, func(p *Part) {
			for name, a := range p.Attributes {
				if a.Part == was {
					p.Attributes[name] = Attribute{Part: "root"}
				}
			}
		})
		for i := range own.Props {
			if own.Props[i].Part == was {
				own.Props[i].Part = "root"
			}
		}
	}
	for property := range root.Style {
		if staysOutside(property) {
			delete(root.Style, property)
		}
	}
	own.Root = root
	for _, r := range e.c.Rules {
		if !e.inside[r.Part] {
			continue
		}
		set := maps.Clone(r.Set)
		part := r.Part
		if part == e.part.ID {
			part = root.ID
			maps.DeleteFunc(set, func(property, _ string) bool { return staysOutside(property) })
		}
		if len(set) > 0 {
			own.Rules = append(own.Rules, Rule{part, e.renamed(r.When), set})
		}
	}
	return own, nil
}

// rename lets parts refer to props by the ids they have in the component.
func (e *extraction) rename(root *Part) {
	to := func(id string) string {
		if n, ok := e.names[id]; ok {
			return n
		}
		if list, item, nested := strings.Cut(id, "."); nested && e.names[list] != "" {
			return e.names[list] + "." + item
		}
		return id
	}
	e.walk(root, func(p *Part) {
		switch content := p.Content.(type) {
		case TextOf:
			p.Content = TextOf{to(content.Prop)}
		case ImageOf:
			p.Content = ImageOf{to(content.Prop)}
		case IconOf:
			p.Content = IconOf{to(content.Prop)}
		case SlotOf:
			p.Content = SlotOf{to(content.Prop)}
		case *Use:
			for id, g := range content.Given {
				g.Prop = to(g.Prop)
				for i := range g.Cases {
					g.Cases[i].When = e.renamed(g.Cases[i].When)
				}
				content.Given[id] = g
			}
		}
		for name, a := range p.Attributes {
			if a.Prop != "" {
				p.Attributes[name] = Attribute{Prop: to(a.Prop)}
			}
		}
		p.Level, p.Repeat, p.ShownWhen = to(p.Level), to(p.Repeat), e.renamed(p.ShownWhen)
	})
}

func (e *extraction) renamed(w When) When {
	out := When{}
	for _, t := range w.Terms() {
		to := PropOf(t)
		if n, ok := e.names[to]; ok {
			to = n
		} else if list, item, nested := strings.Cut(to, "."); nested && e.names[list] != "" {
			to = e.names[list] + "." + item
		}
		switch t := t.(type) {
		case PropIs:
			out = out.With(PropIs{to, t.Value})
		case NumberIs:
			out = out.With(NumberIs{to, t.Low, t.High})
		case PropSet:
			out = out.With(PropSet{to, t.Set})
		default:
			out = out.With(t)
		}
	}
	return out
}

// staysOutside tells whether a property says how a part stands among those beside it, which is the affair of
// whoever uses it.
func staysOutside(property string) bool {
	return slices.Contains([]string{"flex", "align-self", "justify-self", "margin-left", "margin-top", "margin-inline", "position", "inset", "left", "top", "right", "bottom", "grid-area"}, property)
}

// replace makes the part a use of the component; its props stand in the order in which this part's are met.
func (e *extraction) replace(own *Contract) {
	c, p := e.c, e.part
	u := UseOf(own)
	mine := e.props()
	kept := map[string]bool{} // bound to something that stays
	for i, id := range mine {
		prop := own.Props[i].ID
		u.Given[prop] = Given{Prop: id}
		kept[id] = strings.Contains(id, ".")
	}
	bound := func(w When) {
		for _, t := range w.Terms() {
			kept[PropOf(t)] = true
		}
	}
	bound(p.ShownWhen)
	style := Style{}
	for property, value := range p.Style {
		if staysOutside(property) && slices.Contains(standing, property) {
			style[property] = value
		}
	}
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool {
		if !e.inside[r.Part] {
			bound(r.When)
			return false
		}
		maps.DeleteFunc(r.Set, func(property, _ string) bool { return !staysOutside(property) })
		if r.Part != p.ID || len(r.Set) == 0 {
			return true
		}
		bound(r.When)
		return false
	})
	*p = Part{ID: p.ID, Name: p.Name, Layer: p.Layer, Drawn: p.Drawn, ShownWhen: p.ShownWhen, Repeat: p.Repeat, Content: u}
	if len(style) > 0 {
		p.Style = style
	}
	c.Walk(func(q, _ *Part) {
		bound(q.ShownWhen)
		kept[q.Level], kept[q.Repeat] = true, true
		for _, s := range shows {
			if id, ok := s.of(q.Content); ok {
				kept[id] = true
			}
		}
		for _, a := range q.Attributes {
			kept[a.Prop] = true
		}
		if other := q.Use(); other != nil && q != p {
			for _, g := range other.Given {
				kept[g.Prop] = true
			}
		}
	})
	for i, id := range mine {
		q := c.Prop(id)
		if q == nil {
			continue
		}
		if e.inside[q.Part] {
			q.Part = ""
		}
		if !kept[id] || q.Kind() == EventKind || q.Kind() == SlotKind {
			q.From = &Passing{p.ID, own.Props[i].ID}
		}
	}
}

// shape writes the parts with their rules so that two of the same are the same text: names are left out, and props
// stand by the order in which they are met.
func (e *extraction) shape(root *Part) string {
	e.names = map[string]string{}
	for i, id := range e.props() {
		t := "?"
		if p := e.c.Prop(id); p != nil {
			t = string(p.Kind())
			switch kind := p.Type.(type) {
			case Choice:
				t += strings.Join(kind.Options, "|")
			case Icon:
				t += fmt.Sprint(kind.Options)
			}
		}
		e.names[id] = fmt.Sprintf("%s%d", t, i)
	}
	clone := root.clone()
	clone.ShownWhen, clone.Repeat = When{}, ""
	e.rename(clone)
	numbers := map[string]string{}
	e.walk(clone, func(p *Part) { numbers[p.ID] = fmt.Sprintf("p%d", len(numbers)) })
	e.walk(clone, func(p *Part) {
		p.ID, p.Name, p.Layer, p.Drawn = numbers[p.ID], "", "", nil
		for name, a := range p.Attributes {
			if a.Part != "" {
				p.Attributes[name] = Attribute{Part: numbers[a.Part]}
			}
		}
	})
	for property := range clone.Style {
		if staysOutside(property) {
			delete(clone.Style, property)
		}
	}
	var rules []Rule
	for _, r := range e.c.Rules {
		if e.inside[r.Part] {
			set := maps.Clone(r.Set)
			if r.Part == root.ID {
				maps.DeleteFunc(set, func(property, _ string) bool { return staysOutside(property) })
			}
			if len(set) > 0 {
				rules = append(rules, Rule{numbers[r.Part], e.renamed(r.When), set})
			}
		}
	}
	// Rules of different parts do not bear on each other: their order among themselves says nothing.
	slices.SortStableFunc(rules, func(a, b Rule) int { return strings.Compare(a.Part, b.Part) })
	return string((&Contract{Root: clone, Rules: rules}).JSON())
}
