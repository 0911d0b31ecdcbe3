package survey

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// Wish is what people ask of a component that is drafted from a find.
type Wish struct {
	Left    []string          // ids of copies that are none
	Renamed map[string]string // new names of props, by those that are proposed
	Dropped []string          // props that are none
	Merged  map[string]string // props by those that they become one with
	Kinds   map[string]string // other kinds of props, by their names: of those that Kinds lists
}

// Kinds lists the kinds that a prop may be, the proposed first: a text may be rich, a text of numbers a text; a choice of two a flag.
func (p Prop) Kinds() []string {
	out := []string{p.Kind}
	switch kind := contract.Kind(p.Kind); {
	case kind == contract.TextKind:
		out = append(out, string(contract.RichKind))
	case kind == contract.NumberKind && p.isText():
		out = append(out, string(contract.TextKind))
	case kind == contract.ChoiceKind && len(p.Options) == 2 && p.chosen():
		out = append(out, string(contract.FlagKind))
	}
	return out
}

// chosen tells whether a choice is the copies' own: what a use in them chooses is its component's affair, and passed on.
func (p Prop) chosen() bool {
	return slices.ContainsFunc(p.Explain, func(e Explained) bool { return e.Values != nil })
}

// isText tells whether a number is what a text says.
func (p Prop) isText() bool {
	_, text := p.Default.(string)
	return text
}

// kindOf gives the kind that is asked of a prop, where that may be.
func (w Wish) kindOf(p Prop) contract.Kind {
	if k := w.Kinds[p.Name]; slices.Contains(p.Kinds(), k) {
		return contract.Kind(k)
	}
	return contract.Kind(p.Kind)
}

// Model gives the copy that a component is drafted from: one that shows all that others leave out, on a page. False where there is none on a page.
func (f *Find) Model(left []string) (out Member, ok bool) {
	most := -1
	for _, m := range f.Members {
		if m.Page == "" || slices.Contains(left, m.ID) {
			continue
		}
		shown := 0
		for _, p := range f.Props {
			if p.Kind == string(contract.FlagKind) && p.Values[m.ID] == true {
				shown++
			}
		}
		if shown > most {
			most, out, ok = shown, m, true
		}
	}
	return out, ok
}

// Origin says what a component drafted from one of its copies is drawn from.
func (m Member) Origin(document string, revision int) contract.Origin {
	return contract.Origin{Document: document, Layer: m.Layers[0], With: m.Layers[1:], Revision: revision}
}

// Extend gives a contract that was drafted from one copy the props that tell the others apart: texts, pictures and lists their names, and choices and flags with
// their rules. What it has no part for is told, a sentence each.
func (f *Find) Extend(doc *design.Document, c *contract.Contract, model string, w Wish) (notes []string) {
	copies := slices.DeleteFunc(slices.Clone(f.Members), func(m Member) bool { return slices.Contains(w.Left, m.ID) })
	for _, p := range f.Asked(w) {
		name := p.Name
		if w.Renamed[name] != "" {
			name = contract.Identifier(w.Renamed[name], name)
		}
		part := partDrawn(c, p.Layers[model])
		if part == nil {
			if p.differs(copies) {
				notes = append(notes, fmt.Sprintf("%s has no part of its own; add what it shows.", name))
			}
			continue
		}
		if p.Of != "" {
			notes = append(notes, p.passedOn(c, part, name, copies)...)
			continue
		}
		switch kind := w.kindOf(p); contract.Kind(p.Kind) {
		case contract.FlagKind:
			if !p.differs(copies) {
				continue
			}
			shown, _ := p.Values[model].(bool)
			id := c.AddProp(name, contract.Flag{Initial: shown}, "")
			for i, one := range append([]Prop{p}, p.Also...) {
				at := partDrawn(c, one.Layers[model])
				if at == nil || !slices.ContainsFunc(one.Explain, func(e Explained) bool { return e.Property == "" }) {
					continue
				}
				if at.ShownWhen = contract.Of(contract.PropIs{Prop: id, Value: contract.FlagValue(true)}); i == 0 {
					c.Prop(id).Part = at.ID
				}
			}
			p.rules(c, copies, model, func(value any) contract.Term {
				on, _ := value.(bool)
				return contract.PropIs{Prop: id, Value: contract.FlagValue(on)}
			})
		case contract.ChoiceKind:
			if !p.differs(copies) {
				continue
			}
			initial, _ := p.Values[model].(string)
			if kind == contract.FlagKind { // it is on where the model is not
				id := c.AddProp(name, contract.Flag{}, "")
				p.rules(c, copies, model, func(any) contract.Term { return contract.PropIs{Prop: id, Value: contract.FlagValue(true)} })
				continue
			}
			id := c.AddProp(name, contract.Choice{Options: p.drawnOptions(copies), Initial: initial}, "")
			p.rules(c, copies, model, func(value any) contract.Term {
				option, _ := value.(string)
				return contract.PropIs{Prop: id, Value: contract.OptionValue(option)}
			})
		case contract.SlotKind:
			notes = append(notes, p.slot(doc, c, part, name, copies)...)
		case contract.IconKind:
			notes = append(notes, f.icon(doc, c, p, part, name, copies, model)...)
		default:
			notes = append(notes, p.bound(c, part, name, kind, p.differs(copies))...)
			p.shownAgain(c, part, model)
		}
	}
	return notes
}

// bound gives the prop that a part shows a name and a kind.
func (p Prop) bound(c *contract.Contract, part *contract.Part, name string, kind contract.Kind, differs bool) []string {
	link := contract.Kind(p.Kind) == contract.LinkKind
	i := slices.IndexFunc(c.Props, func(q contract.Prop) bool {
		return q.Part == part.ID && q.Kind() != contract.FlagKind && (q.Kind() == contract.LinkKind) == link
	})
	if i < 0 {
		if differs && contract.Kind(p.Kind) == contract.NumberKind {
			return []string{fmt.Sprintf("%s stays as long as it is drawn: no prop says a length.", name)}
		}
		if differs {
			return []string{fmt.Sprintf("%s stays as drawn: copies differ there in a way that no prop of %s says.", name, part.Name)}
		}
		return nil
	}
	q := &c.Props[i]
	if q.Name != name {
		q.Name = free(c, name)
	}
	said, _ := q.Default().(contract.TextValue)
	switch {
	case q.Kind() != contract.TextKind:
	case kind == contract.RichKind:
		_, _ = c.RetypeProp(q.ID, contract.Rich{Initial: contract.RichValue{{Runs: []contract.Run{{Text: string(said)}}}}, Line: true}) // it is there, and nothing asks for it yet
	case kind == contract.NumberKind && p.isText():
		n, err := strconv.ParseFloat(string(said), 64)
		if err != nil || strconv.FormatFloat(n, 'f', -1, 64) != string(said) {
			return []string{fmt.Sprintf("%s is a text: as a number, %s would be written otherwise.", q.Name, said)}
		}
		_, _ = c.RetypeProp(q.ID, contract.Number{Initial: &n, Step: 1}) // as above
	}
	return nil
}

// free gives a name that no prop of a contract has.
func free(c *contract.Contract, name string) string {
	return contract.Free(name, "Text", func(n string) bool {
		return contract.IsReserved(n) || slices.ContainsFunc(c.Props, func(p contract.Prop) bool { return strings.EqualFold(p.Name, n) })
	})
}

// partDrawn finds the part that was drawn from a layer; nil for none.
func partDrawn(c *contract.Contract, layer string) (out *contract.Part) {
	c.Walk(func(p, _ *contract.Part) {
		if layer != "" && out == nil && slices.Contains(p.Drawn, layer) {
			out = p
		}
	})
	return out
}

// differs tells whether some copies say different things.
func (p *Prop) differs(copies []Member) bool {
	first, any := "", false
	for _, m := range copies {
		v := fmt.Sprint(p.Values[m.ID])
		if any && v != first {
			return true
		}
		first, any = v, true
	}
	return false
}

// drawnOptions lists the options that some copies have.
func (p *Prop) drawnOptions(copies []Member) []string {
	return slices.DeleteFunc(slices.Clone(p.Options), func(o string) bool {
		return !slices.ContainsFunc(copies, func(m Member) bool { return p.Values[m.ID] == o })
	})
}

// rules says what differs with a prop: for each of its values that is not the model's, what the first copy of that value says.
func (p *Prop) rules(c *contract.Contract, copies []Member, model string, term func(value any) contract.Term) {
	for _, e := range p.Explain {
		part := partDrawn(c, e.Layers[model])
		if e.Values == nil || part == nil || e.Property == "box-shadow" {
			continue
		}
		done := map[string]bool{fmt.Sprint(p.Values[model]): true}
		for _, m := range copies {
			value := p.Values[m.ID]
			said := declared(e.Values[m.ID])
			if value == nil || done[fmt.Sprint(value)] || said == "" {
				continue
			}
			done[fmt.Sprint(value)] = true
			if said != declared(e.Values[model]) {
				c.SetValue(part.ID, e.Property, contract.Of(term(value)), said)
			}
		}
	}
}

// declared gives what a copy says of a property as CSS has it; nothing for what is no value of one.
func declared(value string) string {
	switch {
	case value == "none":
		return "transparent"
	case value == "a gradient":
		return ""
	}
	return value
}
