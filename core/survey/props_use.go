package survey

import (
	"cmp"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// What uses of families in the copies choose and say.

// uses proposes what uses of a family choose and say; a slot where copies use different ones.
func (p *proposer) uses(s *spot) {
	if s.differs(func(c *shape) string { return c.layer.Instance.Family }) {
		p.add(s, p.slotName(s), "Slot", contract.SlotKind, func(i int) any { return idOf(s.cells[i]) })
		return
	}
	f := p.doc.Family(s.model.layer.Instance.Family)
	if f == nil {
		return
	}
	for _, a := range f.Axes {
		chosen := func(c *shape) string { return cmp.Or(c.layer.Instance.Choices[a.Name], a.Default) }
		if !s.differs(chosen) {
			continue
		}
		made := p.add(s, contract.Identifier(a.Name, "choice"), "Choice", contract.ChoiceKind, func(i int) any {
			if s.cells[i] == nil {
				return nil
			}
			return chosen(s.cells[i])
		})
		made.Options, made.Of = slices.Clone(a.Values), a.Name
		made.Explain = []Explained{{Layer: s.model.id(), Property: a.Name}}
	}
	shown := f.Variant(s.model.layer.Instance.Choices)
	if shown == nil {
		return
	}
	shown.Root.Walk(func(l *design.Layer, _, _ float64) { p.overrides(s, l) })
}

// overrides proposes what uses say of one layer of their family.
func (p *proposer) overrides(s *spot, l *design.Layer) {
	said := func(c *shape) (o design.Override) {
		for _, one := range c.layer.Instance.Overrides {
			if one.Layer == l.Name {
				o = one
			}
		}
		return o
	}
	name := contract.Identifier(l.Name, string(l.Kind))
	text := func(c *shape) string {
		if o := said(c); o.Text != nil {
			return *o.Text
		}
		return l.Text.Content
	}
	hidden := func(c *shape) bool {
		if o := said(c); o.Hidden != nil {
			return *o.Hidden
		}
		return l.Hidden
	}
	asset := func(c *shape) string {
		if o := said(c); o.Asset != "" || l.Image == nil {
			return o.Asset
		}
		return l.Image.Asset
	}
	value := func(kind contract.Kind, name string, say func(c *shape) any) {
		p.add(s, name, "Text", kind, func(i int) any {
			if s.cells[i] == nil {
				return nil
			}
			return say(s.cells[i])
		}).Of = l.Name
	}
	if l.Text != nil && s.differs(text) {
		value(contract.TextKind, name, func(c *shape) any { return text(c) })
	}
	if l.Kind == design.Image && s.differs(asset) {
		value(contract.ImageKind, name, func(c *shape) any { return asset(c) })
	}
	if s.differs(func(c *shape) string { return yes(hidden(c)) }) {
		value(contract.FlagKind, "show"+contract.Capitalized(name), func(c *shape) any { return !hidden(c) })
	}
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}
