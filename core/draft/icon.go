package draft

import (
	"cmp"
	"maps"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// iconAxis finds the drawing of paths that an axis changes, by its path, where it changes nothing
// else: such an axis is an icon that a use picks. Off is the value with which the drawing is not
// shown; empty where it always is.
func iconAxis(f *design.Family, a design.Axis) (path, off string, ok bool) {
	for _, v := range f.Variants {
		choices := maps.Clone(v.Choices)
		choices[a.Name] = a.Default
		base := f.Variant(choices)
		if base == nil {
			return "", "", false
		}
		changed, alone := changedDrawing(v.Root, base.Root)
		if !alone || changed != "" && path != "" && changed != path {
			return "", "", false
		}
		path = cmp.Or(changed, path)
	}
	if path == "" {
		return "", "", false
	}
	shown := map[string]*design.Layer{} // by value
	for _, v := range f.Variants {
		l, _ := LayerAt(v.Root, path)
		value := v.Choices[a.Name]
		if before := shown[value]; before != nil && !sameDrawn(before, l) { // it follows something else, too
			return "", "", false
		}
		if shown[value] = l; l.Hidden {
			if off != "" && off != value {
				return "", "", false
			}
			off = value
		}
	}
	var drawings []*design.Layer // whether one is there is a flag's or a choice's to say
	for _, l := range shown {
		if !l.Hidden && !slices.ContainsFunc(drawings, func(o *design.Layer) bool { return sameDrawn(o, l) }) {
			drawings = append(drawings, l)
		}
	}
	// A prop that is given nothing has its default: none can be said only where that is it.
	return path, off, len(drawings) > 1 && (off == "" || off == a.Default)
}

// changedDrawing gives the path of the one drawing of paths that two variants show otherwise, empty
// for none; false where anything else differs, or more than one.
func changedDrawing(a, b *design.Layer) (path string, alone bool) {
	alone = true
	var compare func(l, o, parent, otherParent *design.Layer, at string)
	compare = func(l, o, parent, otherParent *design.Layer, at string) {
		if l.Kind == design.Vector && at != "" && l.Link == "" && !sameDrawn(l, o) {
			alone = alone && path == ""
			path = at
		} else if l.Hidden != o.Hidden {
			alone = false
		}
		if !l.Hidden && !o.Hidden && (!maps.Equal(StyleOf(l, parent), StyleOf(o, otherParent)) || !sameContent(l, o)) {
			alone = false
		}
		if len(l.Children) != len(o.Children) || l.Repeats && !sameDrawings(l, o) { // an item has a drawing of its own
			alone = false
		}
		if !alone || l.Kind == design.Instance {
			return
		}
		for i, step := range steps(l) {
			compare(l.Children[i], o.Children[i], l, o, below(at, step))
		}
	}
	compare(a, b, nil, nil, "")
	return path, alone
}

// sameDrawn tells whether two layers show the same drawing, or neither shows one.
func sameDrawn(a, b *design.Layer) bool {
	if a.Vector == nil || b.Vector == nil {
		return a.Vector == b.Vector
	}
	return a.Hidden == b.Hidden && (a.Hidden || slices.Equal(a.Vector.Paths, b.Vector.Paths) && a.Vector.ViewBox == b.Vector.ViewBox && a.Alt == b.Alt)
}

// sameDrawings tells whether all that two layers hold shows the same drawings.
func sameDrawings(a, b *design.Layer) bool {
	return sameDrawn(a, b) && slices.EqualFunc(a.Children, b.Children, sameDrawings)
}

// sameContent tells whether two layers hold the same, drawings of paths aside.
func sameContent(a, b *design.Layer) bool {
	same := a.Name == b.Name && a.Kind == b.Kind && a.Link == b.Link && (a.Text == nil) == (b.Text == nil) && (a.Image == nil) == (b.Image == nil) && (a.Instance == nil) == (b.Instance == nil)
	if same && a.Text != nil {
		same = contract.Equal(TextOf(a), TextOf(b))
	}
	if same && a.Image != nil {
		same = a.Image.Asset == b.Image.Asset && a.Alt == b.Alt
	}
	if same && a.Instance != nil {
		same = maps.Equal(a.Instance.Choices, b.Instance.Choices) && slices.EqualFunc(a.Instance.Overrides, b.Instance.Overrides, func(x, y design.Override) bool {
			return x.Layer == y.Layer && equalPointer(x.Text, y.Text) && equalPointer(x.Hidden, y.Hidden) && x.Asset == y.Asset && equalPointer(x.Alt, y.Alt)
		})
	}
	return same
}

func equalPointer[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// DrawnIcon gives what the variant of an axis's value draws where a part shows an icon; nil for
// nothing.
func DrawnIcon(f *design.Family, axis, option string, part *contract.Part) *contract.Vector {
	for _, v := range f.Variants {
		if l, _ := LayerOf(v.Root, part); l != nil && l.Vector != nil && !l.Hidden && contract.OptionOf(v.Choices[axis]) == option {
			return vectorOf(l)
		}
	}
	return nil
}

// iconProp makes the prop of an axis that is an icon.
func (d *drafter) iconProp(p *contract.Prop, a design.Axis, path, off string) {
	icon := contract.Icon{}
	for _, value := range a.Values {
		name := contract.OptionOf(value)
		if value == off {
			continue
		}
		for _, v := range d.family.Variants {
			if l, _ := LayerAt(v.Root, path); v.Choices[a.Name] == value && icon.Named(name) == nil {
				icon.Options = append(icon.Options, contract.NamedIcon{Name: name, Vector: *vectorOf(l)})
			}
		}
	}
	if off == "" {
		icon.Initial = contract.OptionOf(a.Default)
	}
	p.Type, p.Off = icon, off
	d.icons[path] = p.ID
}

// axisValue reads an axis's value as the prop has it, nil for an icon that is not there; false for
// one that the prop does not know.
func axisValue(p *contract.Prop, drawn string) (contract.Value, bool) {
	option := contract.OptionOf(drawn)
	switch p.Kind() {
	case contract.FlagKind:
		return contract.FlagValue(drawn == p.On), drawn == p.On || drawn == p.Off
	case contract.IconKind:
		if p.Off != "" && drawn == p.Off {
			return nil, true
		}
		return contract.IconValue(option), p.Type.Takes(contract.IconValue(option))
	}
	return contract.OptionValue(option), p.Type.Takes(contract.OptionValue(option))
}
