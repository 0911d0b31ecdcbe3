package source

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/problem"
)

// Take gives the contract with the code's side of some moves, by their keys: rules as few as can be. What cannot be taken is an error
// with what to do; the contract is nil then.
func (v Versions) Take(c *contract.Contract, keys []string) (*contract.Contract, problem.List) {
	t := taking{v: v, out: c.Clone(), code: v.Code.Contract, styled: map[Subject]int{}}
	moves := v.Moves()
	byKey := map[string]Move{}
	for _, m := range moves {
		byKey[m.Key] = m
	}
	var chosen []Move
	for _, key := range keys {
		m, ok := byKey[key]
		switch {
		case !ok:
			t.found.Errorf("no-move", "", "read the code again", "there is no such move any more: %s", key)
		case m.Kind == CodeMoved:
			t.found.Errorf("code-of-its-own", "", "put it back, or leave it: no contract holds it", "%s of %s is a piece of code that no contract holds", strings.TrimPrefix(m.About.Property, codeOf), m.Name)
		default:
			chosen = append(chosen, m)
		}
	}
	if t.found.Failed() {
		return nil, t.found
	}
	// what comes first, then what is said of it, then what goes
	order := []MoveKind{PropRenamed, PropRetyped, OptionRenamed, PropAdded, OptionAdded, PartAdded, PartMoved, PartRenamed, OrderMoved, ValueMoved, OptionRemoved, PartRemoved, PropRemoved}
	slices.SortStableFunc(chosen, func(a, b Move) int { return slices.Index(order, a.Kind) - slices.Index(order, b.Kind) })
	for _, m := range chosen {
		t.take(m)
	}
	if t.found.Failed() {
		return nil, t.found
	}
	t.out.Prune()
	for at, n := range t.styled {
		if n > 1 { // one value that was changed alone stands where it was
			t.out.FewerRulesOf(at.ID, at.Property)
		}
	}
	return t.out, nil
}

type taking struct {
	v     Versions
	out   *contract.Contract
	code  *contract.Contract
	found problem.List

	styled map[Subject]int // how many values of a property were taken
}

func (t *taking) fail(m Move, why string) {
	t.found.Errorf("not-taken", "", "edit the contract by hand, or put the code back", "%s cannot be taken: %s", m.About, why)
}

func (t *taking) take(m Move) {
	id := m.About.ID
	switch m.Kind {
	case PropAdded:
		t.prop(id)
	case PropRemoved:
		if t.out.Prop(id) != nil {
			if _, err := t.out.RemoveProp(id); err != nil {
				t.fail(m, err.Error())
			}
		}
	case PropRenamed:
		if p := t.out.Prop(id); p != nil {
			p.Name = m.Code
		}
	case PropRetyped:
		t.retype(m)
	case OptionAdded, OptionRemoved:
		t.options(m)
	case OptionRenamed:
		t.renameOption(m)
	case PartAdded:
		t.part(m)
	case PartRemoved:
		if t.out.Part(id) != nil {
			if _, err := t.out.RemovePart(id); err != nil {
				t.fail(m, err.Error())
			}
		}
	case PartMoved:
		t.move(m)
	case PartRenamed:
		if p := t.code.Part(id); p != nil && m.Code != "" {
			if err := t.out.RenamePart(id, p.Name); err != nil {
				t.fail(m, err.Error())
			}
		}
	case OrderMoved:
		t.order(id)
	default:
		t.value(m)
	}
}

// prop adds a prop as the code has it, where the contract has none.
func (t *taking) prop(id string) {
	id, _, _ = strings.Cut(id, ".")
	if p := t.code.Prop(id); p != nil && t.out.Prop(id) == nil {
		at := slices.IndexFunc(t.code.Props, func(q contract.Prop) bool { return q.ID == id })
		t.out.Props = slices.Insert(t.out.Props, min(at, len(t.out.Props)), *p)
	}
}

// retype makes a prop one of the code's kind, with what goes along: what it begins with, whether it is asked for, and what parts show of it.
func (t *taking) retype(m Move) {
	t.propValue(Move{Kind: ValueMoved, About: m.About, Contract: m.Contract, Code: m.Code})
	p, q := t.out.Prop(m.About.ID), t.code.Prop(m.About.ID)
	if p == nil || q == nil {
		return
	}
	p.Type, p.Required = q.Type, q.Required
	for _, about := range slices.SortedFunc(maps.Keys(m.under), compareSubjects) {
		if three := m.under[about]; about.Kind == OfPart && t.out.Part(about.ID) != nil {
			t.partValue(Move{Kind: ValueMoved, About: about, Base: three[0], Contract: three[1], Code: three[2]})
		}
	}
}

// needed adds the props that a condition, or content, asks for.
func (t *taking) needed(ids ...string) {
	for _, id := range ids {
		if id != "" {
			t.prop(id)
		}
	}
}

func (t *taking) options(m Move) {
	p, q := t.out.Prop(m.About.ID), t.code.Prop(m.About.ID)
	if p == nil || q == nil {
		return
	}
	option := strings.TrimPrefix(m.About.Property, optionOf)
	switch old := p.Type.(type) {
	case contract.Choice:
		now := contract.Choice{Options: slices.Clone(old.Options), Initial: old.Initial}
		if m.Kind == OptionRemoved {
			now.Options = slices.DeleteFunc(now.Options, func(o string) bool { return o == option })
			if now.Initial == option {
				if d := q.Default(); d != nil {
					now.Initial = d.String()
				}
			}
		} else if !slices.Contains(now.Options, option) {
			at := len(now.Options)
			if own := slices.Index(q.Options(), option); own >= 0 {
				at = min(own, at)
			}
			now.Options = slices.Insert(now.Options, at, option)
		}
		if m.Kind == OptionRemoved {
			if _, err := t.out.RetypeProp(p.ID, now); err != nil {
				t.fail(m, err.Error())
			}
			return
		}
		p.Type = now // nothing that asks for the others changes
	case contract.Icon:
		icon, ok := q.Type.(contract.Icon)
		if !ok {
			t.fail(m, "the code draws no such icon")
			return
		}
		p.Type = icon
	}
}

func (t *taking) renameOption(m Move) {
	p := t.out.Prop(m.About.ID)
	choice, ok := p.Type.(contract.Choice)
	if !ok {
		t.fail(m, "it is no choice")
		return
	}
	now := contract.Choice{Options: slices.Clone(choice.Options), Initial: choice.Initial}
	for i, o := range now.Options {
		if o == m.Contract {
			now.Options[i] = m.Code
		}
	}
	if now.Initial == m.Contract {
		now.Initial = m.Code
	}
	if _, err := t.out.RetypeProp(p.ID, now); err != nil {
		t.fail(m, err.Error())
	}
}

// part adds a part with all that stands in it in the code, where the contract has none of it.
func (t *taking) part(m Move) {
	p := t.code.Part(m.About.ID)
	parent, at := t.code.Parent(m.About.ID)
	if p == nil || parent == nil {
		t.fail(m, "it stands in no part")
		return
	}
	into := t.out.Part(parent.ID)
	if into == nil {
		t.fail(m, "what it stands in is no part of the contract")
		return
	}
	copied := (&contract.Contract{Root: p}).Clone().Root
	var fresh []string
	var prune func(p *contract.Part)
	prune = func(p *contract.Part) {
		p.Children = slices.DeleteFunc(p.Children, func(c *contract.Part) bool { return t.out.Part(c.ID) != nil })
		fresh = append(fresh, p.ID)
		t.needed(propsOf(p)...)
		for _, c := range p.Children {
			prune(c)
		}
	}
	prune(copied)
	into.Children = slices.Insert(into.Children, min(at, len(into.Children)), copied)
	if u, given := into.Use(), parent.Use(); u != nil && given != nil {
		if slot := given.SlotOf(copied.ID); slot != "" {
			g := u.Given[slot]
			g.Parts = append(g.Parts, copied.ID)
			if u.Given == nil {
				u.Given = map[string]contract.Given{}
			}
			u.Given[slot] = g
		}
	}
	for _, r := range t.code.Rules {
		if slices.Contains(fresh, r.Part) {
			for _, term := range r.When.Terms() {
				t.needed(contract.PropOf(term))
			}
			t.out.Rules = append(t.out.Rules, contract.Rule{Part: r.Part, When: r.When, Set: maps.Clone(r.Set)})
		}
	}
}

// propsOf lists the props that a part itself asks for.
func propsOf(p *contract.Part) (out []string) {
	switch content := p.Content.(type) {
	case contract.TextOf:
		out = append(out, content.Prop)
	case contract.SlotOf:
		out = append(out, content.Prop)
	case contract.ImageOf:
		out = append(out, content.Prop)
	case contract.IconOf:
		out = append(out, content.Prop)
	case *contract.Use:
		for _, g := range content.Given {
			out = append(out, g.Prop)
			for _, k := range g.Cases {
				for _, term := range k.When.Terms() {
					out = append(out, contract.PropOf(term))
				}
			}
		}
	}
	for _, a := range p.Attributes {
		out = append(out, a.Prop)
	}
	for _, term := range p.ShownWhen.Terms() {
		out = append(out, contract.PropOf(term))
	}
	return append(out, p.Repeat, p.Level)
}

// move puts a part into the one that it stands in in the code.
func (t *taking) move(m Move) {
	parent, at := t.code.Parent(m.About.ID)
	old, from := t.out.Parent(m.About.ID)
	if parent == nil || old == nil {
		t.fail(m, "it is no part of both")
		return
	}
	into := t.out.Part(parent.ID)
	p := old.Children[from]
	if into == nil || (&contract.Contract{Root: p}).Part(into.ID) != nil {
		t.fail(m, "what it stands in is no part of the contract")
		return
	}
	old.Children = slices.Delete(old.Children, from, from+1)
	into.Children = slices.Insert(into.Children, min(at, len(into.Children)), p)
}

// order puts what stands in a part in the code's order; what the code does not have there keeps its place behind what it followed.
func (t *taking) order(id string) {
	p, q := t.out.Part(id), t.code.Part(id)
	if p == nil || q == nil {
		return
	}
	place := func(c *contract.Part) int {
		return slices.IndexFunc(q.Children, func(o *contract.Part) bool { return o.ID == c.ID })
	}
	rank := map[string]int{}
	last := -1
	for _, c := range p.Children {
		if at := place(c); at >= 0 {
			last = at
		}
		rank[c.ID] = last
	}
	for _, c := range p.Children {
		if at := place(c); at >= 0 {
			rank[c.ID] = at
		}
	}
	slices.SortStableFunc(p.Children, func(a, b *contract.Part) int { return rank[a.ID] - rank[b.ID] })
}

// value takes one value: of a style, of a part, of a prop, or of the component.
func (t *taking) value(m Move) {
	switch m.About.Kind {
	case OfPart:
		t.partValue(m)
	case OfProp:
		t.propValue(m)
	default:
		switch {
		case m.About.Property == "purpose":
			t.out.Purpose = m.Code
		case strings.HasPrefix(m.About.Property, "apart "):
			t.out.Apart = nil
			for _, group := range t.code.Apart {
				t.out.Apart = append(t.out.Apart, slices.Clone(group))
			}
		default:
			t.fail(m, "no contract holds it")
		}
	}
}

func (t *taking) propValue(m Move) {
	p, q := t.out.Prop(m.About.ID), t.code.Prop(m.About.ID)
	if p == nil || q == nil {
		t.fail(m, "it is no prop of both")
		return
	}
	switch property := m.About.Property; {
	case property == "type":
		if _, err := t.out.RetypeProp(p.ID, q.Type); err != nil {
			t.fail(m, err.Error())
		}
	case property == "default":
		if v := q.Default(); v != nil {
			setDefault(p, v)
		} else {
			setDefault(p, emptyOf(p))
		}
	case property == "required":
		p.Required = q.Required
	case property == "purpose":
		p.Purpose = m.Code
	case property == "deprecated":
		p.Deprecated = m.Code
	case property == "heard":
		p.Type, p.Part = q.Type, q.Part
	case strings.HasPrefix(property, "drawing "):
		if icon, ok := q.Type.(contract.Icon); ok {
			p.Type = icon
		}
	default:
		t.fail(m, fmt.Sprintf("%s is nothing that a prop says", property))
	}
}

// emptyOf gives what a prop begins with that nothing is said of.
func emptyOf(p *contract.Prop) contract.Value {
	switch p.Type.(type) {
	case contract.Text:
		return contract.TextValue("")
	case contract.Link:
		return contract.LinkValue("")
	case contract.Flag:
		return contract.FlagValue(false)
	case contract.Rich:
		return contract.RichValue(nil)
	}
	return nil
}

func (t *taking) partValue(m Move) {
	p, q := t.out.Part(m.About.ID), t.code.Part(m.About.ID)
	if p == nil || q == nil {
		t.fail(m, "it is no part of both")
		return
	}
	t.needed(propsOf(q)...)
	switch property := m.About.Property; {
	case property == "element":
		p.Element = q.Element
	case property == "level":
		p.Level = q.Level
	case property == "as":
		p.As = slices.Clone(q.As)
	case property == "shown":
		p.ShownWhen = q.ShownWhen
	case property == "repeat":
		p.Repeat = q.Repeat
	case property == "content":
		t.content(p, q)
	case property == "use":
		t.fail(m, "it is a use of another component")
	case strings.HasPrefix(property, "given "):
		t.given(m, p, q)
	case strings.HasPrefix(property, "attribute "):
		name := strings.TrimPrefix(property, "attribute ")
		if a, there := q.Attributes[name]; there {
			if p.Attributes == nil {
				p.Attributes = map[string]contract.Attribute{}
			}
			p.Attributes[name] = a
		} else {
			delete(p.Attributes, name)
		}
	default:
		t.style(m, p)
	}
}

// content takes what a part shows: rich text and a slot are one type in code, and stay what they were.
func (t *taking) content(p, q *contract.Part) {
	if slot, ok := q.Content.(contract.SlotOf); ok {
		if own := t.out.Prop(slot.Prop); own != nil && own.Kind() == contract.RichKind {
			p.Content = contract.TextOf(slot)
			return
		}
	}
	p.Content = q.Content
}

func (t *taking) given(m Move, p, q *contract.Part) {
	u, now := p.Use(), q.Use()
	if u == nil || now == nil {
		t.fail(m, "it is no use of both")
		return
	}
	name := strings.TrimPrefix(m.About.Property, "given ")
	id := name
	if of := now.Of(); of != nil {
		for _, prop := range of.Props {
			if prop.Name == name {
				id = prop.ID
			}
		}
	}
	if g, there := now.Given[id]; there {
		if u.Given == nil {
			u.Given = map[string]contract.Given{}
		}
		u.Given[id] = g
	} else {
		delete(u.Given, id)
	}
}

// style takes a value under a condition.
func (t *taking) style(m Move, p *contract.Part) {
	if m.Code == BrowsersOwn {
		t.fail(m, "the code leaves it to the browser, and a contract always says it")
		return
	}
	when, err := contract.ParseWhen(m.About.When)
	if m.About.When == "" {
		when, err = contract.When{}, nil
	}
	if err != nil {
		t.fail(m, err.Error())
		return
	}
	for _, term := range when.Terms() {
		t.needed(contract.PropOf(term))
	}
	t.apart(p, m.About.Property, when)
	t.styled[ofPart(p.ID, m.About.Property)]++
	t.out.SetValue(p.ID, m.About.Property, when, m.Code)
}

// apart writes a shorthand of the contract's that says the property, too, as what it stands for, so that the one value can be set.
func (t *taking) apart(p *contract.Part, property string, when contract.When) {
	fits := func(property, value string) bool { return contract.CheckValue(property, value, nil) == nil }
	split := func(style contract.Style) {
		for _, name := range style.Properties() {
			longs, ok := expanded(name, style[name], fits)
			if name == property || !ok || len(longs) < 2 || !slices.ContainsFunc(longs, func(s said) bool { return s.property == property }) {
				continue
			}
			delete(style, name)
			for _, s := range longs {
				if style[s.property] == "" {
					style[s.property] = s.value
				}
			}
		}
	}
	if when.Always() {
		split(p.Style)
		return
	}
	for _, r := range t.out.Rules {
		if r.Part == p.ID && r.When.Equal(when) {
			split(r.Set)
		}
	}
}
