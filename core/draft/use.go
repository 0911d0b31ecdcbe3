package draft

import (
	"encoding/json"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// GivenBy reads what a use of a family says of the props of the family's component: its
// choices, and the texts and layers of what it shows. Props that no drawing tells are left out.
func GivenBy(l *design.Layer, c *contract.Contract) contract.Values {
	out := contract.Values{}
	if l == nil || l.Instance == nil {
		return out
	}
	shown := held(l)
	for _, p := range c.Props {
		drawn, chosen := l.Instance.Choices[p.Axis]
		switch {
		case p.Axis != "" && !chosen:
			out[p.ID] = p.Default()
		case p.Axis != "":
			if v, known := axisValue(&p, drawn); known && v != nil {
				out[p.ID] = v
			}
		case p.From != nil:
			if part := c.Part(p.From.Part); part != nil && part.Use() != nil && part.Use().Of() != nil {
				inner, _ := LayerAt(shown, part.Layer)
				out[p.ID] = GivenBy(inner, part.Use().Of())[p.From.Prop]
			}
		default:
			part := c.Part(p.Part)
			if part == nil {
				continue
			}
			inner, _ := LayerAt(shown, part.Layer)
			if p.Kind() == contract.ListKind {
				out[p.ID] = drawnItems(c, p, inner)
			} else if v := drawnValue(p, inner); v != nil {
				out[p.ID] = v
			}
		}
	}
	for _, s := range c.States {
		if flag := c.StateFlag(s.State); flag != nil {
			out[flag.ID] = contract.FlagValue(l.Instance.Choices[s.Axis] == s.Value)
		}
	}
	return out
}

// drawnValue reads what a part's layer says of the prop that fills or shows the part, or says
// where it leads; nil for nothing.
func drawnValue(p contract.Prop, l *design.Layer) contract.Value {
	switch p.Type.(type) {
	case contract.Flag:
		return contract.FlagValue(l != nil && !l.Hidden)
	case contract.Text:
		if l != nil && l.Text != nil {
			return contract.TextValue(l.Text.Content)
		}
	case contract.Rich:
		if l != nil && l.Text != nil {
			if rich, ok := TextOf(l).(contract.RichValue); ok {
				return rich
			}
			return contract.Plain(l.Text.Content)
		}
	case contract.Image:
		if l != nil && !l.Hidden {
			return pictureOf(l)
		}
	case contract.Link:
		if l != nil && l.Link != "" {
			return contract.LinkValue(l.Link)
		}
	}
	return nil
}

// uses finds out what uses of components are given: constants, props of the family whose values
// they follow, values by cases, or, where the drawing leaves them to whoever uses the family,
// props that are passed on.
func (d *drafter) uses() {
	contract.NewLinker(func(name string) *contract.Contract {
		for _, v := range d.family.Variants {
			var found *contract.Contract
			v.Root.Walk(func(l *design.Layer, _, _ float64) {
				if l.Kind == design.Instance && found == nil {
					if c := d.components.of(l.Instance.Family); c != nil && c.Name == name {
						found = c
					}
				}
			})
			if found != nil {
				return found
			}
		}
		return nil
	}).Link(d.contract)
	cases := Cases(d.contract, d.family)
	for _, p := range d.contract.UsedParts() {
		u := p.Use()
		if u.Of() == nil {
			continue
		}
		if d.heldHeight(p, u.Of()) {
			d.found.Warnf("instance-height", "", "let "+u.Component+" be as high as its content, or as what it stands in", "the use %s is drawn higher or lower than %s, which has a height of its own at every width: it keeps that", p.Name, u.Component)
		}
		base, _ := LayerAt(d.family.Default().Root, p.Layer)
		drawn := make([]contract.Values, len(cases))
		for i, k := range cases {
			l, _ := LayerAt(k.Variant.Root, p.Layer)
			drawn[i] = GivenBy(l, u.Of())
		}
		own := GivenBy(base, u.Of())
		for _, q := range u.Of().Props {
			if own[q.ID] == nil {
				continue
			}
			if exposes(base.Instance, u.Of(), q) {
				id := d.contract.PassOn(p, q.ID, q.Name)
				passed := d.contract.Prop(id)
				passed.SetDefault(own[q.ID])
				continue
			}
			values := make([]contract.Value, len(cases))
			for i := range cases {
				values[i] = drawn[i][q.ID]
			}
			if g, ok := d.given(p, q, own[q.ID], cases, values); ok {
				if u.Given == nil {
					u.Given = map[string]contract.Given{}
				}
				u.Given[q.ID] = g
			}
		}
	}
	d.eachUse(d.family.Default().Root)
}

// eachUse tells of what the uses in a drawing cannot tell their components.
func (d *drafter) eachUse(l *design.Layer) {
	if l.Kind == design.Instance {
		if c := d.components.of(l.Instance.Family); c != nil {
			d.unreached(l, c)
		}
		return
	}
	for _, c := range l.Children {
		d.eachUse(c)
	}
}

// exposes tells whether a use leaves a prop to whoever uses what it stands in: its axis or its
// layer is named among what is exposed.
func exposes(use *design.InstanceContent, c *contract.Contract, p contract.Prop) bool {
	name := p.Axis
	if part := c.Part(p.Part); part != nil && name == "" {
		name = lastStep(part.Layer)
	}
	return name != "" && slices.Contains(use.Exposes, name)
}

// given says a prop's values in all cases in the shortest way; false for the default in all.
func (d *drafter) given(p *contract.Part, q contract.Prop, base contract.Value, cases []Case, values []contract.Value) (contract.Given, bool) {
	var cells []givenCell
	for i, k := range cases {
		if values[i] != nil {
			cells = append(cells, givenCell{k.Cell(""), values[i]})
		}
	}
	g, stated := shortest(d.contract, q, base, cells)
	if stated {
		d.found.Warnf("instance-state", "", "draw it alike, or give the states of "+p.Name+" to its own family", "%s: %s of the use %s is another in a state or at a width, and a component inside is told of props alone", d.family.Name, q.Name, p.Name)
	}
	return g, g.Value != nil || g.Prop != "" || len(g.Cases) > 0
}

// givenCell is what one case gives for a prop of a use.
type givenCell struct {
	Cell
	value contract.Value
}

// shortest says what a use gives in the shortest way: nothing where it is the default, a value,
// a prop that it follows, or values by cases. It tells whether a state decides, too: that cannot
// be said.
func shortest(c *contract.Contract, q contract.Prop, base contract.Value, cells []givenCell) (g contract.Given, stated bool) {
	same := !slices.ContainsFunc(cells, func(k givenCell) bool { return !contract.Equal(k.value, base) })
	if !contract.Equal(base, q.Default()) {
		g.Value = Encoded(base)
	}
	if same {
		return g, false
	}
	for _, prop := range c.Props {
		if prop.Axis == "" || prop.Kind() != q.Kind() {
			continue
		}
		follows := !slices.ContainsFunc(cells, func(k givenCell) bool { return !contract.Equal(k.value, k.Values[prop.ID]) })
		for _, v := range prop.Type.Nameable() {
			follows = follows && q.Type.Takes(v)
		}
		if follows {
			return contract.Given{Prop: prop.ID}, false
		}
	}
	t := &table{domains: domainsOf(c)}
	for _, k := range cells {
		t.cells = append(t.cells, cell{position(t.domains, k.Cell), string(Encoded(k.value))})
	}
	for _, a := range t.minimal(string(Encoded(base))) {
		when := t.condition(a)
		if !when.OfProps() {
			stated = true
			continue
		}
		g.Cases = append(g.Cases, contract.GivenCase{When: when, Value: json.RawMessage(a.value)})
	}
	return g, stated
}

// SetGiven makes a use give for a prop of its component what the cells say, case by case, in the
// shortest way. A cell's text is a value as JSON.
func SetGiven(c *contract.Contract, part, prop string, cells []Cell) {
	p := c.Part(part)
	if p == nil || p.Use() == nil || p.Use().Of() == nil || p.Use().Of().Prop(prop) == nil || len(cells) == 0 {
		return
	}
	u := p.Use()
	q := *u.Of().Prop(prop)
	var list []givenCell
	t := tableOf(c, cells)
	base, _ := t.base()
	for _, k := range cells {
		if v, err := q.Type.Decode(json.RawMessage(k.Text)); err == nil {
			list = append(list, givenCell{k, v})
		}
	}
	if len(list) == 0 {
		return
	}
	initial, err := q.Type.Decode(json.RawMessage(base))
	if err != nil {
		initial = list[0].value
	}
	g, _ := shortest(c, q, initial, list)
	delete(u.Given, prop)
	if g.Value != nil || g.Prop != "" || len(g.Cases) > 0 {
		if u.Given == nil {
			u.Given = map[string]contract.Given{}
		}
		u.Given[prop] = g
	}
}

// unreached tells of what a use changes that its component has no prop for.
func (d *drafter) unreached(l *design.Layer, c *contract.Contract) {
	filled, shown, pictured, lists := map[string]bool{}, map[string]bool{}, map[string]bool{}, false
	c.EachProp(func(_ string, p *contract.Prop) {
		lists = lists || p.Kind() == contract.ListKind
		if part := c.Part(p.Part); part != nil {
			name := lastStep(part.Layer)
			filled[name] = filled[name] || p.Kind() == contract.TextKind || p.Kind() == contract.RichKind
			shown[name] = shown[name] || p.Kind() == contract.FlagKind
			pictured[name] = pictured[name] || p.Kind() == contract.ImageKind
		}
	})
	for _, s := range c.States {
		if c.StateFlag(s.State) == nil && l.Instance.Choices[s.Axis] == s.Value {
			d.found.Warnf("instance-state", "", "draw the use in no state", "the use %s shows %s %s: a component comes into that by itself", l.ID, c.Name, s.Value)
		}
	}
	for _, o := range l.Instance.Overrides {
		if lost := o.Text != nil && !filled[o.Layer] || o.Hidden != nil && !shown[o.Layer] || (o.Asset != "" || o.Alt != nil) && !pictured[o.Layer]; lost && !lists { // items of lists have other names
			d.found.Warnf("instance-override", "", "give the family a layer of that name that a prop fills or shows", "the use %s changes its layer %s, for which %s has no prop", l.ID, o.Layer, c.Name)
		}
	}
	for _, name := range l.Instance.Exposes {
		known := slices.ContainsFunc(c.Props, func(p contract.Prop) bool {
			return exposes(&design.InstanceContent{Exposes: []string{name}}, c, p)
		})
		if !known {
			d.found.Warnf("instance-exposes", "", "name an axis or a layer of the family", "the use %s exposes %s, for which %s has no prop", l.ID, name, c.Name)
		}
	}
}

// lastStep is the name of the layer that a path leads to.
func lastStep(path string) string { return path[strings.LastIndex(path, "/")+1:] }

// Encoded writes a value as JSON.
func Encoded(v contract.Value) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // values are plain data
	}
	return text
}

// UsedFamilies lists the families that layers use, and those that these use, each after those it
// uses; the chain of one that uses itself: Card, Tag, Card.
func UsedFamilies(doc *design.Document, layers []*design.Layer) (out []*design.Family, cycle []string) {
	done := map[string]bool{}
	var chain []string
	var walk func(layers []*design.Layer)
	walk = func(layers []*design.Layer) {
		for _, top := range layers {
			top.Walk(func(l *design.Layer, _, _ float64) {
				if cycle != nil || l.Kind != design.Instance {
					return
				}
				used := doc.Family(l.Instance.Family)
				if used == nil || done[used.ID] {
					return
				}
				if at := slices.Index(chain, used.Name); at >= 0 {
					cycle = append(slices.Clone(chain[at:]), used.Name)
					return
				}
				chain = append(chain, used.Name)
				walk(Roots(used))
				chain = chain[:len(chain)-1]
				done[used.ID] = true
				out = append(out, used)
			})
		}
	}
	walk(layers)
	return out, cycle
}

// Roots lists the roots of a family's variants.
func Roots(f *design.Family) []*design.Layer {
	out := make([]*design.Layer, len(f.Variants))
	for i, v := range f.Variants {
		out[i] = v.Root
	}
	return out
}

// heldHeight tells whether a use says a height of its own, and its component has one inside of the
// box whose width it asks for: that box alone takes what a use says.
func (d *drafter) heldHeight(p *contract.Part, of *contract.Contract) bool {
	own := slices.ContainsFunc(of.ValueSites(), func(s contract.ValueSite) bool { return s.Part == of.Root.ID && s.Property == "height" })
	return own && len(of.SwitchPoints()) > 0 && slices.ContainsFunc(d.family.Variants, func(v *design.Variant) bool {
		l, _ := LayerAt(v.Root, p.Layer)
		return l != nil && l.Sizing.Height == "fixed"
	})
}
