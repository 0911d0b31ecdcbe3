package draft

import (
	"math"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// layerProps makes props of what layers hold, texts, pictures and where they lead, and flags of
// layers that some variants, or some items of a list, hide. A layer whose showing is decided by
// one flag axis alone is shown by that flag; any other gets a flag of its own.
func (d *drafter) layerProps() {
	d.contract.Walk(func(p, _ *contract.Part) {
		base, _ := LayerAt(d.family.Default().Root, p.Layer)
		d.contentProp(p, base)
		if base.Link != "" && p.Element == "a" {
			name := "href"
			if d.lists[p.ID] == "" && p != d.contract.Root {
				name = p.Name + "Href"
			}
			id := d.dataProp(p, name, "Link", func(prop *contract.Prop) { prop.Type = contract.Link{Initial: base.Link} })
			p.Attributes = map[string]contract.Attribute{"href": {Prop: id}}
		}
		d.shownProp(p, base)
		d.levelProp(p)
	})
	for i := range d.contract.Props {
		p := &d.contract.Props[i]
		if part := d.contract.Part(p.Part); p.Kind() == contract.ListKind && part != nil {
			l, _ := LayerAt(d.family.Default().Root, part.Layer)
			p.Example = drawnItems(d.contract, *p, l)
		}
	}
}

// bareLists gives the items of lists that say nothing of their items something to say: whether
// they are there.
func (d *drafter) bareLists() {
	d.contract.Walk(func(p, _ *contract.Part) {
		list := d.contract.Prop(p.Repeat)
		if list == nil || len(list.Type.(contract.List).Items) > 0 {
			return
		}
		id := d.dataProp(p, "shown", "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: true} })
		p.ShownWhen = contract.Of(contract.PropIs{Prop: id, Value: contract.FlagValue(true)})
		_, container := LayerAt(d.family.Default().Root, p.Layer)
		list.Example = drawnItems(d.contract, *list, container)
	})
}

// levelProp lets whoever uses the component say which level its headings have: that depends on the
// page.
func (d *drafter) levelProp(p *contract.Part) {
	if !contract.IsHeading(p.Element) {
		return
	}
	if d.level == "" {
		prop := d.prop("level", "OfHeading")
		least, most, initial := 2.0, 6.0, 3.0
		prop.Purpose = "Level of the heading, as the page needs it."
		prop.Type = contract.Number{Initial: &initial, Least: &least, Most: &most, Step: 1}
		d.contract.Props = append(d.contract.Props, prop)
		d.level = prop.ID
	}
	p.Level = d.level
}

// contentProp makes a prop of what a part's layer shows.
func (d *drafter) contentProp(p *contract.Part, base *design.Layer) {
	switch {
	case base.Kind == design.Text:
		drawn := TextOf(base)
		id := d.dataProp(p, p.Name, "Text", func(prop *contract.Prop) {
			rich, styled := drawn.(contract.RichValue)
			prop.Required = d.lists[p.ID] != "" // an item has its own
			switch {
			case styled && prop.Required:
				prop.Type = contract.Rich{Line: true}
			case styled:
				prop.Type = contract.Rich{Initial: rich, Line: true}
			case prop.Required:
				prop.Type = contract.Text{}
			default:
				prop.Type = contract.Text{Initial: drawn.String()}
			}
		})
		p.Content = contract.TextOf{Prop: id}
	case base.Flatten != "":
		d.sameFlattened(base, p.Layer)
	case base.Kind == design.Image && base.Image != nil:
		if v := pictureOf(base); v != nil {
			id := d.dataProp(p, p.Name, "Image", func(prop *contract.Prop) {
				prop.Type = contract.Image{Aspect: math.Round(base.Bounds.Width/base.Bounds.Height*1000) / 1000}
				if d.lists[p.ID] == "" {
					prop.Example = v
				}
			})
			p.Element, p.Content = "img", contract.ImageOf{Prop: id}
		}
	case base.Kind == design.Vector && d.icons[p.Layer] == "":
		d.sameDrawing(shown(d.family, base, p.Layer), p.Layer)
	}
}

// shownProp makes a flag of a part that is not always drawn.
func (d *drafter) shownProp(p *contract.Part, base *design.Layer) {
	if list := d.lists[p.ID]; list != "" {
		if d.hiddenInItems(p, list) {
			id := d.dataProp(p, "show"+contract.Capitalized(p.Name), "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: !base.Hidden} })
			p.ShownWhen = contract.Of(contract.PropIs{Prop: id, Value: contract.FlagValue(true)})
		}
		return
	}
	if _, icon := p.Content.(contract.IconOf); icon {
		return // it is there when there is one
	}
	var shown, hidden int
	for _, v := range d.family.Variants {
		if l, _ := LayerAt(v.Root, p.Layer); l.Hidden {
			hidden++
		} else {
			shown++
		}
	}
	if hidden == 0 || p.Layer == "" {
		return
	}
	if shown == 0 {
		d.found.Warnf("layer-hidden", "", "show it in a variant, or remove it", "the layer %s is hidden in every variant; its part starts hidden", base.ID)
	}
	if d.hiddenByWidth(p) {
		return // a rule takes it away
	}
	if asked := d.choiceThatShows(p.Layer); asked != nil {
		p.ShownWhen = contract.Of(asked)
		return
	}
	flag := d.flagThatShows(p.Layer)
	if flag == "" {
		flag = d.dataProp(p, "show"+contract.Capitalized(p.Name), "Flag", func(prop *contract.Prop) { prop.Type = contract.Flag{Initial: !base.Hidden} })
	}
	p.ShownWhen = contract.Of(contract.PropIs{Prop: flag, Value: contract.FlagValue(true)})
}

// hiddenByWidth tells whether the width alone decides whether a part's layer is hidden.
func (d *drafter) hiddenByWidth(p *contract.Part) bool {
	if len(d.contract.Widths) == 0 {
		return false
	}
	axis, hidden := d.contract.Widths[0].Axis, map[string]bool{}
	for _, v := range d.family.Variants {
		l, _ := LayerAt(v.Root, p.Layer)
		if was, known := hidden[v.Choices[axis]]; known && was != l.Hidden {
			return false
		}
		hidden[v.Choices[axis]] = l.Hidden
	}
	return true
}

// hiddenInItems tells whether a part's layer is hidden in some items of its list, and not by the
// width alone.
func (d *drafter) hiddenInItems(p *contract.Part, list string) bool {
	repeated := repeatedFor(d.contract, list)
	path, ok := under(p.Layer, repeated.Layer)
	if !ok || path == "" {
		return false
	}
	hidden := map[string]map[bool]bool{} // by width
	for _, v := range d.family.Variants {
		width := d.widthOf(v)
		if hidden[width] == nil {
			hidden[width] = map[bool]bool{}
		}
		_, container := LayerAt(v.Root, repeated.Layer)
		for _, item := range itemsOf(container) {
			l, _ := LayerAt(item, path)
			hidden[width][l == nil || l.Hidden] = true
		}
	}
	some, differs := false, false
	for _, h := range hidden {
		some, differs = some || h[true], differs || h[true] && h[false]
	}
	return some && (differs || len(hidden) == 1)
}

// widthOf gives what a variant chooses of the axis of widths; "" when there is none.
func (d *drafter) widthOf(v *design.Variant) string {
	if len(d.contract.Widths) == 0 {
		return ""
	}
	return v.Choices[d.contract.Widths[0].Axis]
}

// pictureOf gives what an image layer shows as an image's value; nil for nothing that one may be.
func pictureOf(l *design.Layer) contract.Value {
	if l == nil || l.Image == nil || l.Image.Shown == nil {
		return nil
	}
	a := l.Image.Shown
	v := contract.ImageValue{Source: a.Source, Alt: l.Alt, Width: a.Width, Height: a.Height}
	if !(contract.Image{}).Takes(v) {
		return nil
	}
	return v
}

// sameDrawing warns of an icon that is drawn with other paths in some variants:
// a part has one drawing.
func (d *drafter) sameDrawing(base *design.Layer, path string) {
	for _, v := range d.family.Variants {
		if l, _ := LayerAt(v.Root, path); !l.Hidden && !slices.Equal(l.Vector.Paths, base.Vector.Paths) {
			d.found.Warnf("layer-drawing", "", "draw it alike, or as two layers of which one is hidden", "%s is drawn with other paths than %s; the default's are kept", l.ID, base.ID)
			return
		}
	}
}

// sameFlattened warns of a flattened picture that is drawn otherwise in some variants.
func (d *drafter) sameFlattened(base *design.Layer, path string) {
	for _, v := range d.family.Variants {
		if l, _ := LayerAt(v.Root, path); l.Image.Shown.Source != base.Image.Shown.Source {
			d.found.Warnf("layer-drawing", "", "draw it alike, or as two layers of which one is hidden", "%s is flattened into another picture than %s; the default's is kept", l.ID, base.ID)
			return
		}
	}
}

// shownIf tells whether a layer is shown in just those variants that are so.
func (d *drafter) shownIf(path string, so func(v *design.Variant) bool) bool {
	return !slices.ContainsFunc(d.family.Variants, func(v *design.Variant) bool {
		l, _ := LayerAt(v.Root, path)
		return l.Hidden == so(v)
	})
}

// flagThatShows finds the flag, drawn as an axis or of a state, that alone decides whether a layer
// is shown.
func (d *drafter) flagThatShows(path string) string {
	for _, p := range d.contract.Props {
		if p.Kind() == contract.FlagKind && p.Axis != "" && d.shownIf(path, func(v *design.Variant) bool { return v.Choices[p.Axis] != p.Off }) {
			return p.ID
		}
	}
	for _, s := range d.contract.States {
		if flag := d.contract.StateFlag(s.State); flag != nil && d.shownIf(path, func(v *design.Variant) bool { return v.Choices[s.Axis] == s.Value }) {
			return flag.ID
		}
	}
	return ""
}

// choiceThatShows finds the option with which alone a layer is shown; nil for none.
func (d *drafter) choiceThatShows(path string) contract.Term {
	for _, p := range d.contract.Props {
		if p.Kind() != contract.ChoiceKind || p.Axis == "" {
			continue
		}
		for _, o := range p.Options() {
			if d.shownIf(path, func(v *design.Variant) bool { return contract.OptionOf(v.Choices[p.Axis]) == o }) {
				return contract.PropIs{Prop: p.ID, Value: contract.OptionValue(o)}
			}
		}
	}
	return nil
}
