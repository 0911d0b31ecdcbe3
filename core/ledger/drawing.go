package ledger

import (
	"fmt"
	"hash/fnv"
	"reflect"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
)

// drawingOf begins the property of one of an icon's drawings: "drawing leaf".
const drawingOf = "drawing "

// drawings lists drawings and pictures that the design has otherwise than the contract.
func (s Agreed) drawings(f *design.Family, add func(kind MoveKind, facet css.Facet, part *contract.Part, property, from, to string, cases int, bump contract.Level)) {
	shows := func(p *contract.Part) (n int) {
		for _, v := range f.Variants {
			if l, _ := draft.LayerOf(v.Root, p); l != nil && !l.Hidden {
				n++
			}
		}
		return n
	}
	s.Contract.Walk(func(p, _ *contract.Part) {
		if now := draft.DrawingOf(f, p); now != nil && !reflect.DeepEqual(now, p.Content) {
			add(DrawingMoved, Content, p, strings.TrimSpace(drawingOf), drawingText(p.Content), drawingText(now), shows(p), contract.Patch)
		}
		shown, ok := p.Content.(contract.IconOf)
		if !ok {
			return
		}
		prop := s.Contract.Prop(shown.Prop)
		icon, _ := prop.Type.(contract.Icon)
		for _, o := range icon.Options {
			if now := draft.DrawnIcon(f, prop.Axis, o.Name, p); now != nil && !reflect.DeepEqual(*now, o.Vector) {
				add(DrawingMoved, Content, p, drawingOf+o.Name, drawingText(&o.Vector), drawingText(now), 1, contract.Patch)
			}
		}
	})
}

// drawingText tells a drawing from others, in as few words as that takes.
func drawingText(c contract.Content) string {
	hash := fnv.New32a()
	switch c := c.(type) {
	case *contract.Vector:
		fmt.Fprint(hash, *c)
		paths := "1 path"
		if n := len(c.Paths); n != 1 {
			paths = fmt.Sprintf("%d paths", n)
		}
		return fmt.Sprintf("%s of %s by %s, %08x", paths, css.FormatNumber(c.ViewBox[2]), css.FormatNumber(c.ViewBox[3]), hash.Sum32())
	case contract.Picture:
		fmt.Fprint(hash, c)
		return fmt.Sprintf("%s by %s px, %08x", css.FormatNumber(c.Width), css.FormatNumber(c.Height), hash.Sum32())
	}
	return ""
}

// redraw takes a drawing of the design.
func (t *taker) redraw(m Move) {
	p := t.out.Part(m.Part)
	if now := draft.DrawingOf(t.ledger.family, p); now != nil {
		p.Content = now
		return
	}
	shown, ok := p.Content.(contract.IconOf)
	if !ok {
		return
	}
	prop := t.out.Prop(shown.Prop)
	icon, _ := prop.Type.(contract.Icon)
	icon.Options = slices.Clone(icon.Options)
	for i, o := range icon.Options {
		if now := draft.DrawnIcon(t.ledger.family, prop.Axis, o.Name, p); now != nil && drawingOf+o.Name == m.Property {
			icon.Options[i].Vector = *now
		}
	}
	prop.Type = icon
}
