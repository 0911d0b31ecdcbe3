package survey

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
)

// What copies draw otherwise becomes an icon or a slot of the contract here.

// placing are the properties by which a part stands in its container.
var placing = []string{"flex", "align-self", "justify-self", "margin-block", "margin-inline", "margin", "order", "grid-row", "grid-column", "position", "top", "right", "bottom", "left"}

// slot makes the place of a part one for anything, with the part as what stands there when nothing is given.
func (p Prop) slot(doc *design.Document, c *contract.Contract, part *contract.Part, name string, copies []Member) []string {
	there, shown := map[string]bool{}, map[string]bool{}
	for _, m := range copies {
		there[p.Layers[m.ID]] = true
	}
	doc.EachLayer(func(l *design.Layer) {
		if there[l.ID] {
			shown[madeOfKinds(l)] = true
		}
	})
	if len(shown) < 2 {
		return nil // those that differed were left out
	}
	stays := []string{fmt.Sprintf("%s stays as drawn: make what holds it a slot on the sheet.", name)}
	if q := c.Prop(propOf(part)); part == c.Root || part.Repeat != "" || q != nil && q.Kind() == contract.SlotKind {
		return stays
	}
	around, err := c.WrapParts([]string{part.ID})
	if err != nil {
		return stays
	}
	holder := c.Part(around)
	holder.Style = contract.Style{"display": "grid"} // as large as what stands in it, and that as large as it
	for _, property := range placing {
		if v, ok := part.Style[property]; ok {
			holder.Style[property] = v
			delete(part.Style, property)
		}
	}
	id, err := c.Offer(around, "slot")
	if err != nil {
		return stays
	}
	if c.Prop(id).Name != name {
		c.Prop(id).Name = free(c, name)
	}
	return nil
}

// madeOfKinds says what a layer is made of: kinds, and the families of uses.
func madeOfKinds(l *design.Layer) string {
	out := string(l.Kind)
	if l.Instance != nil {
		out += " " + l.Instance.Family
	}
	for _, c := range l.Children {
		out += "(" + madeOfKinds(c) + ")"
	}
	return out
}

// passedOn leaves what a use in the component is told to whoever uses the component.
func (p Prop) passedOn(c *contract.Contract, part *contract.Part, name string, copies []Member) []string {
	if !p.differs(copies) {
		return nil
	}
	u := part.Use()
	if u == nil || u.Of() == nil {
		return []string{fmt.Sprintf("%s stays as drawn: what stands there is no component yet.", name)}
	}
	i := slices.IndexFunc(u.Of().Props, func(q contract.Prop) bool {
		if q.Axis != "" || contract.Kind(p.Kind) == contract.ChoiceKind {
			return q.Axis == p.Of
		}
		of := u.Of().Part(q.Part)
		return of != nil && (q.Kind() == contract.FlagKind) == (contract.Kind(p.Kind) == contract.FlagKind) && of.Layer[strings.LastIndexByte(of.Layer, '/')+1:] == p.Of
	})
	if i < 0 {
		return []string{fmt.Sprintf("%s stays as drawn: %s has no prop for %s.", name, u.Component, p.Of)}
	}
	q := u.Of().Props[i]
	was := u.Given[q.ID]
	if was.Prop != "" { // it is passed on already
		if passed := c.Prop(was.Prop); passed != nil && passed.Name != name {
			passed.Name = free(c, name)
		}
		return nil
	}
	passed := c.Prop(c.PassOn(part, q.ID, name))
	if v, err := q.Type.Decode(was.Value); was.Value != nil && err == nil {
		passed.SetDefault(v)
	}
	return nil
}

// propOf gives the prop that a part shows; empty for none.
func propOf(part *contract.Part) string {
	switch content := part.Content.(type) {
	case contract.TextOf:
		return content.Prop
	case contract.SlotOf:
		return content.Prop
	}
	return ""
}

// icon makes the drawing of a part a prop, an option for each drawing that a copy shows there.
func (f *Find) icon(doc *design.Document, c *contract.Contract, p Prop, part *contract.Part, name string, copies []Member, model string) []string {
	if !p.differs(copies) {
		return nil
	}
	stays := []string{fmt.Sprintf("%s stays as drawn: copies show drawings there that are no icon of one drawing.", name)}
	if part.Vector() == nil || !slices.Contains(c.Offers(part.ID), "icon") {
		return stays
	}
	drawn := map[string]*design.Layer{}
	doc.EachLayer(func(l *design.Layer) { drawn[l.ID] = l })
	var icon contract.Icon
	for _, m := range append([]Member{{ID: model}}, copies...) { // the model's first
		id := p.Layers[m.ID]
		if id == "" {
			continue
		}
		v := onlyVector(drawn[id])
		if v == nil {
			return stays
		}
		vector := draft.VectorOf(*v)
		if slices.ContainsFunc(icon.Options, func(o contract.NamedIcon) bool {
			return slices.EqualFunc(o.Vector.Paths, vector.Paths, func(a, b contract.Path) bool { return a.D == b.D })
		}) {
			continue
		}
		option := contract.Free(f.called(m.ID, name), "", func(n string) bool { return icon.Named(n) != nil })
		icon.Options = append(icon.Options, contract.NamedIcon{Name: option, Vector: vector})
	}
	if len(icon.Options) < 2 {
		return nil
	}
	icon.Initial = icon.Options[0].Name
	icon.Options[0].Vector.Label = part.Vector().Label
	id, err := c.Offer(part.ID, "icon")
	if err != nil {
		return stays
	}
	q := c.Prop(id)
	if q.Name != name {
		q.Name = free(c, name)
	}
	q.Type = icon
	return nil
}

// onlyVector gives the drawing of a layer that holds no other; nil where it is not one.
func onlyVector(l *design.Layer) (out *design.VectorContent) {
	if l == nil {
		return nil
	}
	n := 0
	l.Walk(func(c *design.Layer, _, _ float64) {
		if c.Vector != nil {
			n++
			out = c.Vector
		}
	})
	if n > 1 {
		return nil
	}
	return out
}

// longestCall is how long a text of a copy may be that what it shows is called by.
const longestCall = 24

// called names what a copy shows by the first short text in which copies differ.
func (f *Find) called(copied, otherwise string) string {
	for _, p := range f.Props {
		if said, _ := p.Values[copied].(string); p.Kind == string(contract.TextKind) && said != "" && len(said) <= longestCall {
			return contract.OptionOf(said)
		}
	}
	return otherwise
}
