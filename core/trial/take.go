package trial

import (
	"cmp"
	"fmt"
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
