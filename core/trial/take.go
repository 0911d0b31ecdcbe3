package trial

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// Design is what pages are taken over from.
type Design struct {
	Document   *design.Document
	Components draft.Components           // drafted from its families
	Copies     []Copy                     // drawings that are uses of components, though they are none of a family
	Finds      map[string]string          // names of finds that are no components yet, by the layers of their copies
	Like       func(*design.Layer) []Near // components that something drawn is like, the nearest first; nil for none
	Tokens     *token.Set
	Fonts      *font.Library
}

// Copy is something drawn that is a use of a component.
type Copy struct {
	Layers    []string // ids
	Component *contract.Contract
	Said      map[string]any // what it says, by the names of props; nil to be read from the drawing
}

// Near is a component that something drawn is like.
type Near struct {
	Name     string
	Likeness float64 // 0 to 1
}

// Taken is a page of a design as an outline.
type Taken struct {
	Rows     []*Row
	Pictures map[string]contract.ImageValue // by the names that rows call them
	Needs    []string                       // what is left to do, in sentences
}

// Drawn is one thing of a drawn page: a use, a text, or what nothing is there for.
type Drawn struct {
	Layer     string      `json:"layer"`
	Name      string      `json:"name"`
	Component string      `json:"component" doc:"Of a use; empty for others"`
	Text      string      `json:"text" doc:"What it says"`
	Gap       bool        `json:"gap" doc:"Nothing is there for it"`
	Box       design.Rect `json:"box" doc:"On the page"`
}

// Pieces lists what is drawn on a page, as Take reads it.
func Pieces(d Design, page *design.Page) []Drawn {
	t := newTaker(d)
	t.page(page)
	return t.drawn
}

// Take makes an outline of a page that is drawn at one width, or at several. Uses of families, and copies that are known, become uses
// of components with their values; what lies between them becomes primitives; texts stay texts; anything else is left as a gap. Of a
// page drawn at several widths, what is otherwise in a narrower drawing holds below a width between the two.
func Take(d Design, pages []*design.Page) Taken {
	t := newTaker(d)
	pages = slices.Clone(pages)
	slices.SortStableFunc(pages, func(a, b *design.Page) int { return cmp.Compare(b.Width, a.Width) })
	for i, p := range pages {
		rows := t.page(p)
		if i == 0 {
			t.taken.Rows = rows
			continue
		}
		m := merger{at: layout.SwitchPoint(p.Width, pages[i-1].Width), wide: pages[0].Width}
		t.taken.Rows = m.lists(t.taken.Rows, rows, "stack", nil)
	}
	return t.taken
}

func newTaker(d Design) *taker {
	t := &taker{Design: d, taken: Taken{Pictures: map[string]contract.ImageValue{}, Needs: []string{}}, copies: map[string]*Copy{}, wide: map[string]bool{}}
	for i := range d.Copies {
		for _, id := range d.Copies[i].Layers {
			t.copies[id] = &d.Copies[i]
		}
	}
	return t
}

type taker struct {
	Design
	taken  Taken
	copies map[string]*Copy
	leaves map[string]*Row // what a leaf of the drawing is, by its id
	wide   map[string]bool // names of components that fill the width there is
	drawn  []Drawn
	places map[string]design.Rect // of layers, on the page
}

// drawnPiece is one thing of a page: a use, a text, or what nothing is there for.
type drawnPiece struct {
	layer *design.Layer // with its place on the page
	of    *contract.Contract
	copy  *Copy
	gap   bool
}

// page reads one drawing of a page.
func (t *taker) page(p *design.Page) []*Row {
	t.leaves, t.places = map[string]*Row{}, map[string]design.Rect{}
	for _, l := range p.Layers {
		l.Walk(func(c *design.Layer, x, y float64) {
			t.places[c.ID] = design.Rect{X: l.Bounds.X + x, Y: l.Bounds.Y + y, Width: c.Bounds.Width, Height: c.Bounds.Height}
		})
	}
	root := &design.Layer{ID: p.ID, Name: p.Name, Kind: design.Box, Bounds: design.Rect{Width: p.Width, Height: p.Height}, Fill: p.Background, Children: t.pruned(p.Layers)}
	rows := t.laidOut(root)
	if len(rows) == 1 && rows[0].Kind != UseRow && p.Background != "" {
		background := draft.StyleWithTokens(&design.Layer{Kind: design.Box, Fill: p.Background}, nil, "", t.Tokens)["background-color"]
		if rows[0].arg("background-color") == nil && background != "" {
			rows[0].Args = append(rows[0].Args, styleArg("background-color", background))
		}
	}
	return rows
}

// laidOut gives the rows of layers in a root: those a use covers stand in its slot.
func (t *taker) laidOut(root *design.Layer) []*Row {
	if len(root.Children) == 0 {
		return nil
	}
	if len(root.Children) == 1 && t.leaves[root.Children[0].ID] != nil && root.Children[0].Kind != design.Text {
		return []*Row{t.leaves[root.Children[0].ID]}
	}
	in, _ := layout.Infer(root, layout.InferOptions{})
	if in == nil {
		var out []*Row
		root.Walk(func(l *design.Layer, _, _ float64) {
			if r := t.leaves[l.ID]; r != nil {
				out = append(out, r)
			}
		})
		return out
	}
	if in.Residual > mostBeside {
		t.need(fmt.Sprintf("%s is laid out up to %s px beside its drawing: see its differences.", root.Name, css.FormatNumber(math.Round(in.Residual))))
	}
	return []*Row{t.row(in.Drawing(), nil)}
}

// mostBeside is how many px what is laid out may be beside its drawing without a word.
const mostBeside = 4

// need says what is left to do, once.
func (t *taker) need(what string) {
	if !slices.Contains(t.taken.Needs, what) {
		t.taken.Needs = append(t.taken.Needs, what)
	}
}

// pruned gives layers in which uses, texts and gaps are leaves, and what they stand in is as it was.
func (t *taker) pruned(list []*design.Layer) (out []*design.Layer) {
	done := map[*Copy]bool{}
	for i := 0; i < len(list); i++ {
		l := list[i]
		if l.Hidden {
			continue
		}
		if k := t.copies[l.ID]; k != nil {
			if done[k] {
				continue
			}
			done[k] = true
			out = append(out, t.leaf(drawnPiece{layer: together(list, k.Layers), of: k.Component, copy: k}))
			continue
		}
		switch {
		case l.Kind == design.Instance:
			of := t.component(l.Instance.Family)
			if of == nil {
				out = append(out, t.leaf(drawnPiece{layer: l, gap: true}))
				continue
			}
			leaf := t.leaf(drawnPiece{layer: l, of: of})
			if slot := mainSlot(of); slot != nil {
				inside := lyingOn(l, list[i+1:])
				if len(inside) > 0 {
					t.fillSlot(leaf, l, of, slot, inside)
					list = slices.DeleteFunc(slices.Clone(list), func(o *design.Layer) bool { return slices.Contains(inside, o) })
				}
			}
			out = append(out, leaf)
		case l.Kind == design.Text:
			out = append(out, t.leaf(drawnPiece{layer: l}))
		case len(l.Children) > 0 && t.keeps(l):
			kept := *l
			kept.Children = t.pruned(l.Children)
			out = append(out, &kept)
		case l.Kind == design.Box && len(l.Children) == 0 && l.Image == nil && t.behind(l, list):
			kept := *l
			out = append(out, &kept)
		default:
			out = append(out, t.leaf(drawnPiece{layer: l, gap: true}))
		}
	}
	return out
}

func (t *taker) component(family string) *contract.Contract {
	if t.Components == nil {
		return nil
	}
	return t.Components(family)
}

// keeps tells whether a container is more than one thing that nothing is there for: something in it is known, or all in it is text.
func (t *taker) keeps(l *design.Layer) bool {
	known, other := false, false
	l.Walk(func(c *design.Layer, _, _ float64) {
		switch {
		case c == l || c.Hidden:
		case t.copies[c.ID] != nil, c.Kind == design.Instance && t.component(c.Instance.Family) != nil:
			known = true
		case c.Kind != design.Text && len(c.Children) == 0:
			other = true
		}
	})
	painted := l.Fill != "" || len(l.Fills) > 0 || l.Stroke != nil || len(l.Shadows) > 0
	return known || !other && !painted
}

// behind tells whether a box lies behind something else, which stands in it.
func (t *taker) behind(l *design.Layer, list []*design.Layer) bool {
	return slices.ContainsFunc(list[slices.Index(list, l)+1:], func(o *design.Layer) bool { return within(o.Bounds, l.Bounds) && t.known(o) })
}

func (t *taker) known(l *design.Layer) bool {
	return l.Kind == design.Text || t.copies[l.ID] != nil || l.Kind == design.Instance
}

func within(a, b design.Rect) bool {
	const slack = 0.5
	return a.X >= b.X-slack && a.Y >= b.Y-slack && a.X+a.Width <= b.X+b.Width+slack && a.Y+a.Height <= b.Y+b.Height+slack
}

// lyingOn lists the layers over another that lie within it.
func lyingOn(l *design.Layer, over []*design.Layer) (out []*design.Layer) {
	for _, o := range over {
		if !o.Hidden && within(o.Bounds, l.Bounds) {
			out = append(out, o)
		}
	}
	return out
}

// together gives a copy's layers as one, in the place they have.
func together(list []*design.Layer, ids []string) *design.Layer {
	var own []*design.Layer
	for _, l := range list {
		if slices.Contains(ids, l.ID) {
			own = append(own, l)
		}
	}
	if len(own) == 1 {
		return own[0]
	}
	b := own[0].Bounds
	for _, l := range own[1:] {
		right, bottom := max(b.X+b.Width, l.Bounds.X+l.Bounds.Width), max(b.Y+b.Height, l.Bounds.Y+l.Bounds.Height)
		b.X, b.Y = min(b.X, l.Bounds.X), min(b.Y, l.Bounds.Y)
		b.Width, b.Height = right-b.X, bottom-b.Y
	}
	out := &design.Layer{ID: own[0].ID, Name: own[0].Name, Kind: design.Group, Bounds: b}
	for _, l := range own {
		inner := *l
		inner.Bounds.X -= b.X
		inner.Bounds.Y -= b.Y
		out.Children = append(out.Children, &inner)
	}
	return out
}

// leaf makes the row of a piece, and gives a layer that stands for it where it is laid out.
func (t *taker) leaf(p drawnPiece) *design.Layer {
	l := *p.layer
	one := Drawn{Layer: l.ID, Name: called(p.layer), Gap: p.gap, Box: t.places[l.ID], Text: words(draft.Expanded(t.Document, p.layer, t.Fonts, t.Components))}
	if p.copy != nil && len(p.copy.Layers) > 1 {
		first := t.places[p.copy.Layers[0]]
		one.Box = first
		for _, id := range p.copy.Layers[1:] {
			if b, ok := t.places[id]; ok {
				right, bottom := max(one.Box.X+one.Box.Width, b.X+b.Width), max(one.Box.Y+one.Box.Height, b.Y+b.Height)
				one.Box.X, one.Box.Y = min(one.Box.X, b.X), min(one.Box.Y, b.Y)
				one.Box.Width, one.Box.Height = right-one.Box.X, bottom-one.Box.Y
			}
		}
	}
	if p.of != nil {
		one.Component = p.of.Name
	}
	t.drawn = append(t.drawn, one)
	switch {
	case p.gap:
		l.Kind, l.Children, l.Instance, l.Fill = design.Box, nil, nil, "#000000"
		r := &Row{Kind: GapRow, Head: "gap", Said: &Arg{Kind: TextArg, Value: called(p.layer)}}
		need := fmt.Sprintf("%s is left as a gap.", called(p.layer))
		if p.layer.Kind == design.Instance {
			if f := t.Document.Family(p.layer.Instance.Family); f != nil {
				r.Args = append(r.Args, styleArg("like", contract.ComponentName(f.Name)))
				need = fmt.Sprintf("%s is left as a gap: draft its family first.", called(p.layer))
			}
		} else if find := t.Finds[l.ID]; find != "" {
			need = fmt.Sprintf("%s is left as a gap: draft the find %s of the survey.", called(p.layer), find)
		} else if t.Like != nil {
			var names, words []string
			for _, n := range t.Like(p.layer) {
				names = append(names, n.Name)
				words = append(words, fmt.Sprintf("%s (%.0f %%)", n.Name, 100*n.Likeness))
			}
			if len(names) > 0 {
				r.Args = append(r.Args, styleArg("like", strings.Join(names, ",")))
				need = fmt.Sprintf("%s is left as a gap; the nearest there is: %s.", called(p.layer), strings.Join(words, ", "))
			}
		}
		if p.layer.Kind != design.Instance && t.Finds[l.ID] != "" && t.Like != nil {
			for _, n := range t.Like(p.layer) {
				if a := r.arg("like"); a == nil {
					r.Args = append(r.Args, styleArg("like", n.Name))
				} else {
					a.Value += "," + n.Name
				}
			}
		}
		t.need(need)
		t.leaves[l.ID] = r
	case p.of != nil:
		l.Kind, l.Children, l.Instance = design.Instance, nil, &design.InstanceContent{}
		t.leaves[l.ID] = t.used(p)
	default:
		t.leaves[l.ID] = &Row{Kind: ElementRow, Head: "p", Said: &Arg{Kind: TextArg, Value: escaped(unbroken(l.Text.Content))}}
	}
	return &l
}

// words are what a layer says, in the order of its texts.
func words(l *design.Layer) string {
	var out []string
	for _, text := range textsOf(l) {
		out = append(out, unbroken(text.Text.Content))
	}
	return strings.Join(out, " ")
}

func called(l *design.Layer) string {
	if l.HasDefaultName() || l.Name == "" {
		var words []string
		l.Walk(func(c *design.Layer, _, _ float64) {
			if c.Text != nil && len(words) < 3 {
				words = append(words, c.Text.Content)
			}
		})
		if len(words) > 0 {
			return strings.Join(words, ", ")
		}
	}
	return cmp.Or(l.Name, "Drawing")
}

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

// row makes a row of a layer that was laid out, with those inside of it.
func (t *taker) row(l, parent *design.Layer) *Row {
	style := draft.StyleWithTokens(l, parent, "", t.Tokens)
	if leaf := t.leaves[l.ID]; leaf != nil {
		r := *leaf
		switch r.Kind {
		case UseRow:
			r.Args = append(slices.Clone(r.Args), t.standing(l, style, r.Head)...)
		case GapRow:
			r.Args = append(r.Args, styleArg("height", css.FormatNumber(math.Round(l.Bounds.Height*100)/100)+"px"))
			if layout.LayerSizing(l).Width != layout.Fill {
				r.Args = append(r.Args, styleArg("width", css.FormatNumber(math.Round(l.Bounds.Width*100)/100)+"px"))
			}
			r.Args = append(r.Args, argsOf(style, func(p string) bool { return contract.Standing(p) && p != "width" && p != "height" && p != "box-sizing" })...)
		default:
			r.Head = textElement(l)
			r.Args = argsOf(style, func(p string) bool { return p != "font-family" && p != "box-sizing" && p != "height" })
			if strings.Contains(l.Text.Content, "\n") && r.arg("width") == nil { // it was broken at that width
				r.without("white-space")
				r.Args = append(r.Args, styleArg("max-width", css.FormatNumber(math.Ceil(l.Bounds.Width))+"px"))
			}
		}
		return &r
	}
	if l.Flow != nil && layout.LayerSizing(l).Height == layout.Fixed && l.Fill == "" && l.Stroke == nil {
		delete(style, "height")
	}
	if parent == nil {
		delete(style, "width")
		delete(style, "height")
	}
	r := rowOf(style)
	for _, c := range l.Children {
		r.Children = append(r.Children, t.row(c, l))
	}
	r.tidy()
	return r
}

// without takes what is given by a name away.
func (r *Row) without(name string) {
	r.Args = slices.DeleteFunc(r.Args, func(a Arg) bool { return a.Name == name })
}

// tidy leaves out what is so by itself in what lays out others: children of a stack or a grid shrink and break no sooner, and texts are
// as good where they are as wide as all others.
func (r *Row) tidy() {
	if r.Head != "stack" && r.Head != "grid" {
		return
	}
	wide := r.Head == "stack"
	some := false
	for _, c := range r.Children {
		c.without("flex")
		if c.Kind == ElementRow {
			c.without("white-space")
			continue
		}
		some = true
		a := c.arg("align-self")
		wide = wide && a != nil && a.Value == "stretch"
	}
	if wide && some {
		r.without("align")
	}
	align := "stretch"
	if a := r.arg("align"); a != nil {
		align = a.Value
	}
	for _, c := range r.Children {
		if a := c.arg("align-self"); a != nil && r.Head == "stack" && (a.Value == align || wide && some) {
			c.without("align-self")
		}
	}
}

// textElement is the element a text becomes by its size: a heading where it is larger than text is (common practice, no source).
func textElement(l *design.Layer) string {
	switch size := l.Text.FontSize; {
	case size >= 28:
		return "h1"
	case size >= 20:
		return "h2"
	}
	return "p"
}

// standing says how a use stands, where it does not as by itself.
func (t *taker) standing(l *design.Layer, style contract.Style, component string) []Arg {
	return argsOf(style, func(p string) bool {
		switch p {
		case "height", "min-height", "box-sizing", "display", "opacity":
			return false
		case "width":
			return layout.LayerSizing(l).Width == layout.Fixed && t.wide[component]
		}
		return contract.Standing(p)
	})
}

// argsOf writes a style as arguments, the properties in the order of style sheets.
func argsOf(style contract.Style, keep func(property string) bool) (out []Arg) {
	for _, property := range style.Properties() {
		if keep == nil || keep(property) {
			out = append(out, styleArg(property, style[property]))
		}
	}
	return out
}

// styleArg writes a value of CSS as an argument.
func styleArg(property, value string) Arg {
	refs := css.RefsIn(value)
	switch {
	case len(refs) == 1 && value == "{"+refs[0]+"}":
		return Arg{Name: property, Kind: FieldArg, Value: refs[0]}
	case bare.FindString(value) == value && value != "":
		return Arg{Name: property, Kind: BareArg, Value: value}
	}
	return Arg{Name: property, Kind: TextArg, Value: value}
}

// rowOf finds the primitive that a container's style is, and says the rest as CSS.
func rowOf(style contract.Style) *Row {
	rest := maps.Clone(style)
	r := &Row{Kind: PrimitiveRow, Head: boxHead}
	take := func(property, prop string, usual string) {
		if v := rest[property]; v != "" && v != usual {
			r.Args = append(r.Args, styleArg(prop, v))
		}
		delete(rest, property)
	}
	options := func(property, prop string, words map[string]string) {
		v := rest[property]
		if word, ok := words[v]; ok {
			if delete(rest, property); word != "" {
				r.Args = append(r.Args, styleArg(prop, word))
			}
		}
	}
	align := map[string]string{"": "", "stretch": "", "normal": "", "flex-start": "start", "start": "start", "center": "center", "flex-end": "end", "end": "end", "baseline": "baseline"}
	distribute := map[string]string{"": "", "normal": "", "flex-start": "", "start": "", "center": "center", "flex-end": "end", "end": "end", "space-between": "space-between"}
	switch rest["display"] {
	case "flex":
		r.Head = "row"
		if rest["flex-direction"] == "column" {
			r.Head = "stack"
		} else if rest["flex-wrap"] == "wrap" {
			delete(rest, "flex-wrap")
			defer func() { r.Args = append(r.Args, Arg{Name: "wrap", Kind: FlagArg}) }()
		}
		delete(rest, "display")
		delete(rest, "flex-direction")
		take("gap", "gap", "")
		options("align-items", "align", align)
		options("justify-content", "distribute", distribute)
	case "grid":
		tracks := rest["grid-template-columns"]
		var n int
		var minimum string
		switch {
		case scan(tracks, &n):
			r.Head = "grid"
			if n > 1 {
				r.Args = append(r.Args, styleArg("columns", fmt.Sprint(n)))
			}
		case autoFill(tracks, &minimum):
			r.Head = "grid"
			r.Args = append(r.Args, styleArg("minimum", minimum))
		default:
			shares, ok := layout.SharesOf(tracks)
			if !ok {
				break
			}
			r.Head = "split"
			delete(rest, "grid-auto-flow")
			delete(rest, "grid-auto-columns")
			r.Args = append(r.Args, styleArg("shares", shares))
		}
		if r.Head != boxHead {
			delete(rest, "display")
			delete(rest, "grid-template-columns")
			take("gap", "gap", "")
			options("align-items", "align", align)
		}
	case "":
		if rest["margin-inline"] == "auto" && rest["max-width"] != "" {
			r.Head = "container"
			delete(rest, "margin-inline")
			take("max-width", "maximum", "")
			take("padding-inline", "padding", "")
		}
	}
	r.Args = append(r.Args, argsOf(rest, nil)...)
	return r
}

// scan reads how many equal columns a grid has.
func scan(tracks string, n *int) bool {
	_, err := fmt.Sscanf(tracks, "repeat(%d, minmax(0, 1fr))", n)
	return err == nil && tracks == fmt.Sprintf("repeat(%d, minmax(0, 1fr))", *n)
}

// autoFill reads the least width of columns of which as many are there as fit.
func autoFill(tracks string, minimum *string) bool {
	rest, ok := strings.CutPrefix(tracks, "repeat(auto-fill, minmax(min(100%, ")
	if !ok {
		return false
	}
	*minimum, ok = strings.CutSuffix(rest, "), 1fr))")
	return ok
}
