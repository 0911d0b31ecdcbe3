package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
)

// Props are edited here; what refers to one follows. Each function changes the contract it is
// called on, and after an error may have done a part of it: edit a clone, and Check it.

// propsBeside gives the props among which one of an id stands, the component's or a list's items,
// and its place there; -1 when there is none.
func (c *Contract) propsBeside(id string) (among []Prop, set func([]Prop), at int) {
	list, item, nested := strings.Cut(id, ".")
	among, set = c.Props, func(p []Prop) { c.Props = p }
	at = slices.IndexFunc(among, func(p Prop) bool { return p.ID == list })
	if !nested || at < 0 {
		return among, set, at
	}
	holder := &c.Props[at]
	l, ok := holder.Type.(List)
	if !ok {
		return nil, nil, -1
	}
	set = func(p []Prop) {
		l.Items = p
		holder.Type = l
	}
	return l.Items, set, slices.IndexFunc(l.Items, func(p Prop) bool { return p.ID == item })
}

// freeProp gives an id and a name that no prop among some has, from one that is wished for.
func freeProp(among []Prop, name string) string {
	return Free(name, "", func(n string) bool {
		return IsReserved(n) || slices.ContainsFunc(among, func(p Prop) bool { return strings.EqualFold(p.Name, n) || strings.EqualFold(p.ID, n) })
	})
}

// AddProp declares a prop of a name, or of one like it that is free, behind the one of an id; as
// the last when there is none of that id. Behind an item of a list, links.label, it is an item's. It gives
// its id from outside.
func (c *Contract) AddProp(name string, t Type, after string) string {
	among, set, at := c.propsBeside(after)
	if at < 0 {
		after, among, set, at = "", c.Props, func(p []Prop) { c.Props = p }, len(c.Props)-1
	}
	name = freeProp(among, name)
	set(slices.Insert(slices.Clone(among), at+1, Prop{ID: name, Name: name, Type: t}))
	if list, _, nested := strings.Cut(after, "."); nested {
		return list + "." + name
	}
	return name
}

// DuplicateProp adds a prop like another behind it, bound to nothing, and gives its id.
func (c *Contract) DuplicateProp(id string) (string, error) {
	p := c.Prop(id)
	if p == nil {
		return "", fmt.Errorf("there is no prop %q", id)
	}
	if p.Kind() == EventKind {
		return "", fmt.Errorf("%s is called when its part hears %s, and one event is told once", p.Name, p.Type.(Event).On)
	}
	was := *p
	copied := c.AddProp(was.Name, was.Type.clone(), id)
	q := c.Prop(copied)
	q.Purpose, q.Required, q.Example = was.Purpose, was.Required, was.Example
	return copied, nil
}

// MoveProp moves a prop up among those beside it, or down where by is more than 0; at the end it
// stays.
func (c *Contract) MoveProp(id string, by int) {
	among, set, at := c.propsBeside(id)
	if at < 0 {
		return
	}
	set(moved(among, at, by))
}

// moved gives a list with one of it some places further on.
func moved[T any](list []T, at, by int) []T {
	one := list[at]
	out := slices.Delete(slices.Clone(list), at, at+1)
	return slices.Insert(out, min(max(0, at+by), len(out)), one)
}

// RetypeProp gives a prop another type, and lists what goes along with that: conditions and
// examples that ask for what it no longer takes. An option that stands in the place of another,
// in a list of as many, is that one renamed, and what asks for it follows.
func (c *Contract) RetypeProp(id string, t Type) (taken []string, err error) {
	p := c.Prop(id)
	if p == nil {
		return nil, fmt.Errorf("there is no prop %q", id)
	}
	if p.From != nil {
		return nil, fmt.Errorf("%s is passed on, and is what it is in the component inside", p.Name)
	}
	was := p.Type
	if d := was.Default(); d != nil && t.Takes(d) && was.Kind() == t.Kind() {
		t = t.withDefault(d)
	}
	if old, ok := was.(Choice); ok {
		if now, ok := t.(Choice); ok {
			t = c.renameOptions(id, old, now)
		}
	}
	p.Type = t
	if p.Example != nil && !t.Takes(p.Example) {
		p.Example = nil
		taken = append(taken, "the example of "+p.Name)
	}
	if was.Kind() != t.Kind() {
		p.Axis, p.On, p.Off = "", "", ""
	}
	valid := func(term Term) bool {
		switch term := term.(type) {
		case PropIs:
			return term.Prop != id || t.Nameable() != nil && t.Takes(term.Value)
		case NumberIs:
			return term.Prop != id || t.Kind() == NumberKind
		case PropSet:
			return term.Prop != id || t.Kind() != FlagKind && t.Kind() != ChoiceKind
		}
		return true
	}
	taken = append(taken, c.pruneCases()...)
	if was.Kind() != t.Kind() {
		taken = append(taken, c.rebind(id, Prop{Name: p.Name, Type: was, Example: p.Example})...)
	}
	return append(taken, c.dropConditions(func(w When) (When, bool) {
		return w, !slices.ContainsFunc(w.Terms(), func(t Term) bool { return !valid(t) })
	})...), nil
}

// rebind lets what is bound to a prop of another kind than before be bound to it in the way of
// its kind, or no longer.
func (c *Contract) rebind(id string, was Prop) (taken []string) {
	now := c.Prop(id)
	c.Walk(func(part, _ *Part) {
		for _, s := range shows {
			if prop, ok := s.of(part.Content); ok && prop == id && c.Show(part.ID, id) != nil {
				kept := part.Attributes
				if !c.unbind(part, was, id) {
					part.showing(nil)
				}
				part.Attributes = kept
				taken = append(taken, "what "+part.Name+" shows of it")
			}
		}
		for _, name := range sortedKeys(part.Attributes) {
			if a := part.Attributes[name]; a.Prop == id {
				if kind, _, _ := AttributeOf(part.Element, name); !slices.Contains(attributeProps[kind], now.Kind()) {
					delete(part.Attributes, name)
					taken = append(taken, name+" of "+part.Name)
				}
			}
		}
		if part.Level == id && now.Kind() != NumberKind {
			part.Level = ""
			taken = append(taken, "the level of "+part.Name)
		}
		if part.Repeat == id && now.Kind() != ListKind {
			part.Repeat = ""
			taken = append(taken, "that there is a "+part.Name+" for each item")
		}
		if u := part.Use(); u != nil {
			for _, given := range sortedKeys(u.Given) {
				g := u.Given[given]
				if q := u.of; g.Prop == id && (q == nil || q.Prop(given) == nil || q.Prop(given).Kind() != now.Kind()) {
					if g.Prop = ""; g.Value == nil && len(g.Cases) == 0 {
						delete(u.Given, given)
					} else {
						u.Given[given] = g
					}
					taken = append(taken, given+" of "+part.Name)
				}
			}
		}
	})
	return taken
}

// renameOptions lets conditions and uses follow options that are called otherwise, and gives the
// new choice with the old default, as it is called now.
func (c *Contract) renameOptions(id string, old, now Choice) Type {
	names := renamedOptions(old, now)
	if n, ok := names[old.Initial]; ok {
		now.Initial = n
	}
	c.followOptions(id, names)
	return now
}

// eachCondition changes every condition of the contract: of rules, of parts and of what uses are
// given.
func (c *Contract) eachCondition(change func(When) When) {
	for i := range c.Rules {
		c.Rules[i].When = change(c.Rules[i].When)
	}
	c.Walk(func(p, _ *Part) {
		p.ShownWhen = change(p.ShownWhen)
		if u := p.Use(); u != nil {
			for id, g := range u.Given {
				for i := range g.Cases {
					g.Cases[i].When = change(g.Cases[i].When)
				}
				u.Given[id] = g
			}
		}
	})
}

// dropConditions gives every condition another, and removes what hangs on those that can no
// longer hold: rules, given values and parts. It lists what it removed.
func (c *Contract) dropConditions(change func(When) (When, bool)) (taken []string) {
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool {
		_, holds := change(r.When)
		if !holds {
			taken = append(taken, "the rule of "+c.partName(r.Part)+" when "+c.Words(r.When))
		}
		return !holds
	})
	for i := range c.Rules {
		c.Rules[i].When, _ = change(c.Rules[i].When)
	}
	// A rule that no longer asks for anything is what the part says by itself.
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool {
		if !r.When.Always() {
			return false
		}
		if p := c.Part(r.Part); p != nil {
			if p.Style == nil {
				p.Style = Style{}
			}
			for property, value := range r.Set {
				p.Style[property] = value
			}
		}
		return true
	})
	var gone []string
	c.Walk(func(p, parent *Part) {
		w, holds := change(p.ShownWhen)
		if p.ShownWhen = w; !holds && parent != nil {
			gone = append(gone, p.ID)
		}
		if u := p.Use(); u != nil {
			for id, g := range u.Given {
				g.Cases = slices.DeleteFunc(g.Cases, func(k GivenCase) bool { _, holds := change(k.When); return !holds })
				for i := range g.Cases {
					g.Cases[i].When, _ = change(g.Cases[i].When)
				}
				if u.Given[id] = g; g.Value == nil && g.Prop == "" && len(g.Parts) == 0 && len(g.Cases) == 0 {
					delete(u.Given, id)
				}
			}
		}
	})
	for _, id := range gone {
		if c.Part(id) == nil { // gone with a part around it
			continue
		}
		name := c.partName(id)
		more, _ := c.RemovePart(id)
		taken = append(append(taken, "the part "+name+", which is never there then"), more...)
	}
	return taken
}

func (c *Contract) partName(id string) string {
	if p := c.Part(id); p != nil {
		return p.Name
	}
	return id
}

// RemoveProp removes a prop and lists what goes with it: rules, parts and values that are not
// without it. What it was by default stays: a text as a fixed one, rules that ask for its default
// without asking for it.
func (c *Contract) RemoveProp(id string) (taken []string, err error) {
	p := c.Prop(id)
	if p == nil {
		return nil, fmt.Errorf("there is no prop %q", id)
	}
	if p.From != nil {
		if part := c.Part(p.From.Part); part != nil && part.Use() != nil && part.Use().All {
			return nil, fmt.Errorf("%s passes on every prop of %s; name those it passes on to leave one out", part.Name, part.Use().Component)
		}
	}
	was := *p
	held := func(t Term) (holds, asked bool) {
		of := PropOf(t)
		if of != id && !strings.HasPrefix(of, id+".") {
			return false, false
		}
		return t.Holds(Env{Props: Values{id: p.Shown()}}), true
	}
	taken = c.dropConditions(func(w When) (When, bool) {
		out, possible := When{}, true
		for _, t := range w.Terms() {
			switch holds, asked := held(t); {
			case !asked:
				out = out.With(t)
			case !holds:
				possible = false
			}
		}
		if !possible {
			return w, false
		}
		return out, true
	})
	var gone []string
	c.Walk(func(part, parent *Part) {
		if !c.unbind(part, was, id) && parent != nil {
			gone = append(gone, part.ID)
		}
	})
	for _, part := range gone {
		if c.Part(part) == nil {
			continue
		}
		name := c.partName(part)
		more, _ := c.RemovePart(part)
		taken = append(append(taken, "the part "+name+", which shows it"), more...)
	}
	among, set, at := c.propsBeside(id)
	if at >= 0 {
		set(slices.Delete(slices.Clone(among), at, at+1))
	}
	taken = append(taken, c.pruneCases()...)
	c.Prune()
	return taken, nil
}

// unbind lets a part be without a prop; false when there is nothing left of it then.
func (c *Contract) unbind(part *Part, was Prop, id string) bool {
	of := func(prop string) bool { return prop == id || strings.HasPrefix(prop, id+".") }
	if of(part.Repeat) {
		return false
	}
	switch content := part.Content.(type) {
	case TextOf:
		if of(content.Prop) {
			text := ""
			if v := was.Shown(); v != nil {
				text = v.String()
			}
			part.Content = FixedText{text}
		}
	case SlotOf:
		if of(content.Prop) {
			part.Content = nil
		}
	case ImageOf:
		if of(content.Prop) {
			return false
		}
	case IconOf:
		if of(content.Prop) {
			icon, _ := was.Type.(Icon)
			v := was.Shown()
			if v == nil || icon.Named(v.String()) == nil {
				return false
			}
			part.Content = icon.Named(v.String())
		}
	case *Use:
		for given, g := range content.Given {
			if of(g.Prop) {
				if g.Prop = ""; was.Shown() != nil {
					g.Value = valueJSON(was.Shown())
				}
				if content.Given[given] = g; g.Value == nil && len(g.Cases) == 0 {
					delete(content.Given, given)
				}
			}
		}
	}
	for name, a := range part.Attributes {
		if of(a.Prop) {
			delete(part.Attributes, name)
			if v := was.Shown(); v != nil && v.String() != "" {
				part.Attributes[name] = Attribute{Text: v.String()}
			}
		}
	}
	if of(part.Level) {
		part.Level = ""
		if n, ok := was.Shown().(NumberValue); ok && n >= 1 && n <= 6 {
			part.Element = fmt.Sprintf("h%d", int(n))
		}
	}
	return true
}

func valueJSON(v Value) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(fmt.Errorf("value %s: %w", v, err)) // plain data always encodes
	}
	return text
}

// BoundTo lists what a prop is bound to, in words: parts, by name, and what of them; rules,
// counted. Empty where nothing of the component hangs on it.
func (c *Contract) BoundTo(id string) (out []string) {
	add := func(words string) {
		if !slices.Contains(out, words) {
			out = append(out, words)
		}
	}
	of := func(prop string) bool { return prop == id || strings.HasPrefix(prop, id+".") }
	asks := func(w When) bool {
		return slices.ContainsFunc(w.Terms(), func(t Term) bool { return of(PropOf(t)) })
	}
	p := c.Prop(id)
	if p == nil {
		return nil
	}
	c.Walk(func(part, _ *Part) {
		for _, s := range shows {
			if prop, ok := s.of(part.Content); ok && of(prop) {
				add(part.Name)
			}
		}
		for _, name := range sortedKeys(part.Attributes) {
			if of(part.Attributes[name].Prop) {
				add(name + " of " + part.Name)
			}
		}
		if of(part.Level) {
			add("level of " + part.Name)
		}
		if of(part.Repeat) {
			add("each " + part.Name)
		}
		if asks(part.ShownWhen) {
			add("whether " + part.Name + " is there")
		}
		if u := part.Use(); u != nil {
			for _, given := range sortedKeys(u.Given) {
				g := u.Given[given]
				if of(g.Prop) || slices.ContainsFunc(g.Cases, func(k GivenCase) bool { return asks(k.When) }) {
					add(given + " of " + part.Name)
				}
			}
		}
	})
	if p.Kind() == EventKind && c.Part(p.Part) != nil {
		add(c.partName(p.Part))
	}
	n := 0
	for _, r := range c.Rules {
		if asks(r.When) {
			n++
		}
	}
	if n == 1 {
		add("1 rule")
	} else if n > 1 {
		add(fmt.Sprintf("%d rules", n))
	}
	if s := c.StateOf(*p); s != "" {
		add("state " + s)
	}
	return out
}
