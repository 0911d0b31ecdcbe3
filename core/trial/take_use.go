package trial

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/layout"
)

// used makes the row of a use, with what it is given.
func (t *taker) used(p drawnPiece) *Row {
	r := &Row{Kind: UseRow, Head: p.of.Name}
	values := t.values(p)
	t.wide[p.of.Name] = contract.Resolve(p.of, contract.EnvOf(p.of.Defaults().With(values)), t.Tokens).Values["width"].Value == "100%"
	for _, q := range p.of.Props {
		v := values[q.ID]
		if v == nil || contract.Equal(v, q.Default()) || q.Kind() == contract.SlotKind {
			continue
		}
		if a, ok := t.arg(q, v); ok {
			r.Args = append(r.Args, a)
		}
	}
	return r
}

// arg writes a value of a prop as an argument.
func (t *taker) arg(q contract.Prop, v contract.Value) (Arg, bool) {
	a := Arg{Name: q.Name, Kind: TextArg}
	switch v := v.(type) {
	case contract.FlagValue:
		if a.Kind = FlagArg; !v {
			a.Kind, a.Value = BareArg, "false"
		}
	case contract.NumberValue:
		a.Kind, a.Value = BareArg, v.String()
	case contract.OptionValue, contract.IconValue:
		if a.Value = v.String(); bare.FindString(a.Value) == a.Value {
			a.Kind = BareArg
		}
	case contract.RichValue:
		a.Value = escaped(v.Typed())
	case contract.ListValue:
		if len(v) == 0 {
			return a, false
		}
		a.Kind, a.Value = JSONArg, string(draft.Encoded(v))
	case contract.ImageValue:
		a.Kind, a.Value = BareArg, t.picture(q.Name, v)
	default:
		a.Value = escaped(unbroken(v.String()))
	}
	return a, true
}

// unbroken joins the lines that a drawing broke: where a text breaks is the width's affair.
func unbroken(text string) string { return strings.Join(strings.Fields(text), " ") }

// picture keeps a picture by a name, and gives it.
func (t *taker) picture(called string, v contract.ImageValue) string {
	for _, name := range slices.Sorted(maps.Keys(t.taken.Pictures)) {
		if t.taken.Pictures[name] == v {
			return name
		}
	}
	for n := 1; ; n++ {
		name := fmt.Sprintf("%s-%d", strings.Join(contract.Words(called), "-"), n)
		if _, taken := t.taken.Pictures[name]; !taken {
			t.taken.Pictures[name] = v
			return name
		}
	}
}

// values reads what a use says.
func (t *taker) values(p drawnPiece) contract.Values {
	if p.copy != nil && p.copy.Said != nil {
		out := t.modelled(p.of)
		for name, said := range p.copy.Said {
			q := propNamed(p.of, name)
			if q == nil {
				continue
			}
			text, err := json.Marshal(said)
			if err != nil {
				continue
			}
			if q.Kind() == contract.RichKind {
				if s, ok := said.(string); ok {
					out[q.ID] = contract.Plain(s)
				}
				continue
			}
			if v, err := q.Type.Decode(text); err == nil && q.Type.Takes(v) {
				out[q.ID] = v
			}
		}
		return out
	}
	l := p.layer
	if p.copy != nil {
		if l = t.asUse(p.layer, p.of); l == nil {
			return nil
		}
	} else {
		l = draft.Expanded(t.Document, l, t.Fonts, t.Components)
	}
	return draft.GivenBy(l, p.of)
}

// modelled reads what the drawing says that a component was drafted from: its copies say the same where they say nothing else.
func (t *taker) modelled(of *contract.Contract) contract.Values {
	if of.Origin == nil || of.Origin.Layer == "" || of.Origin.Document != t.Document.ID {
		return contract.Values{}
	}
	f, _ := draft.Source(t.Document, *of.Origin, t.Fonts, t.Components)
	if f == nil || f.Default() == nil {
		return contract.Values{}
	}
	root := f.Default().Root
	return draft.GivenBy(&design.Layer{Kind: design.Instance, Bounds: root.Bounds, Instance: &design.InstanceContent{}, Children: []*design.Layer{root}}, of)
}

// asUse gives a copy that lost its tie to its family as a use of it: the variant it looks like most, with the texts and the uses
// inside that it has; nil where the family is not in the document.
func (t *taker) asUse(l *design.Layer, of *contract.Contract) *design.Layer {
	if of.Origin == nil {
		return nil
	}
	f := t.Document.Family(of.Origin.Family)
	if f == nil || len(f.Variants) == 0 {
		return nil
	}
	best, most := f.Default(), -1
	for _, v := range f.Variants {
		if n := alike(v.Root, l); n > most || n == most && v == f.Default() {
			best, most = v, n
		}
	}
	use := &design.Layer{ID: l.ID, Name: f.Name, Kind: design.Instance, Bounds: l.Bounds, Instance: &design.InstanceContent{Family: f.ID, Choices: best.Choices}}
	mine, theirs := textsOf(l), textsOf(best.Root)
	for i, of := range theirs {
		said := -1
		for k, one := range mine {
			if one.Name == of.Name {
				said = k
				break
			}
		}
		if said < 0 && len(mine) == len(theirs) {
			said = i
		}
		o := design.Override{Layer: of.Name}
		if said >= 0 {
			o.Text = &mine[said].Text.Content
		} else {
			gone := true
			o.Hidden = &gone
		}
		use.Instance.Overrides = append(use.Instance.Overrides, o)
	}
	out := draft.Expanded(t.Document, use, t.Fonts, t.Components)
	uses := map[string][]*design.Layer{}
	l.Walk(func(c *design.Layer, _, _ float64) {
		if c.Kind == design.Instance && !c.Hidden {
			uses[c.Instance.Family] = append(uses[c.Instance.Family], c)
		}
	})
	var swap func(c *design.Layer)
	swap = func(c *design.Layer) {
		for i, inner := range c.Children {
			if inner.Kind != design.Instance {
				swap(inner)
				continue
			}
			if mine := uses[inner.Instance.Family]; len(mine) > 0 {
				own := draft.Expanded(t.Document, mine[0], t.Fonts, t.Components)
				own.Name = inner.Name
				c.Children[i], uses[inner.Instance.Family] = own, mine[1:]
			}
		}
	}
	swap(out)
	return out
}

// textsOf lists the texts that are shown, in their order.
func textsOf(l *design.Layer) (out []*design.Layer) {
	l.Walk(func(c *design.Layer, _, _ float64) {
		if c.Kind == design.Text && !c.Hidden {
			out = append(out, c)
		}
	})
	return out
}

// alike counts what two drawings of one thing have in common: names of layers, and the paint of the outermost.
func alike(a, b *design.Layer) (n int) {
	names := map[string]int{}
	count := func(l *design.Layer, by int) {
		l.Walk(func(c *design.Layer, _, _ float64) {
			if !c.Hidden && c != l {
				names[c.Name+" "+string(c.Kind)] += by
			}
		})
	}
	count(a, 1)
	count(b, -1)
	for _, left := range names {
		n -= max(left, -left)
	}
	same := func(is bool) {
		if is {
			n += 2
		}
	}
	same(a.Fill == b.Fill)
	same((a.Opacity == nil) == (b.Opacity == nil))
	same((a.Stroke == nil) == (b.Stroke == nil) && (a.Stroke == nil || a.Stroke.Color == b.Stroke.Color))
	return n + 1_000
}

// fillSlot puts layers that lie on a use into its slot.
func (t *taker) fillSlot(leaf, l *design.Layer, of *contract.Contract, slot *contract.Prop, inside []*design.Layer) {
	at := t.slotBox(l, of, slot.ID)
	content := &design.Layer{ID: l.ID + " slot", Name: slot.Name, Kind: design.Group, Bounds: at}
	bottom := at.Y
	for _, o := range t.pruned(inside) {
		o.Bounds.X -= at.X
		o.Bounds.Y -= at.Y
		content.Children = append(content.Children, o)
		bottom = max(bottom, at.Y+o.Bounds.Y+o.Bounds.Height)
	}
	content.Bounds.Height = max(at.Height, bottom-at.Y)
	content.Bounds.X, content.Bounds.Y = 0, 0
	rows := t.laidOut(content)
	for _, top := range rows { // as wide as the slot, however that aligns what stands in it
		if top.Kind == PrimitiveRow && top.arg("width") == nil {
			top.Args = append(top.Args, styleArg("width", "100%"))
		}
	}
	r := t.leaves[leaf.ID]
	if slot.Name != "children" && len(slotsOf(of)) > 1 {
		rows = []*Row{{Kind: SlotRow, Head: slot.Name, Children: rows}}
	}
	r.Children = append(r.Children, rows...)
}

func slotsOf(of *contract.Contract) (out []string) {
	for _, p := range of.Props {
		if p.Kind() == contract.SlotKind {
			out = append(out, p.Name)
		}
	}
	return out
}

// slotBox gives the room that a use leaves for what stands in a slot, on the page.
func (t *taker) slotBox(l *design.Layer, of *contract.Contract, slot string) design.Rect {
	var part string
	of.Walk(func(p, _ *contract.Part) {
		if s, ok := p.Content.(contract.SlotOf); ok && s.Prop == slot {
			part = p.ID
		}
	})
	values := of.Defaults().With(draft.GivenBy(draft.Expanded(t.Document, l, t.Fonts, t.Components), of))
	solved, _ := layout.Solve(contract.Resolve(of, contract.EnvOf(values).At(l.Bounds.Width), t.Tokens).Boxes(), layout.Options{Width: l.Bounds.Width, Fonts: t.Fonts})
	out := l.Bounds
	var find func(n *layout.Node)
	find = func(n *layout.Node) {
		if n.Name == part && n.Box != nil {
			out = design.Rect{X: l.Bounds.X + n.Box.Content.X, Y: l.Bounds.Y + n.Box.Content.Y, Width: n.Box.Content.Width}
		}
		for _, c := range n.Children {
			find(c)
		}
	}
	if solved != nil {
		find(solved)
	}
	return out
}
