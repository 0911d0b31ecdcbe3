package draft

import (
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/problem"
)

// Reflow lays a drawing out anew in a container of a width, in px: what its
// flows say becomes bounds, and texts are broken where they end. The drawing
// itself stays as it was. The result is nil on an error.
func Reflow(root *design.Layer, width float64, fonts *font.Library) (*design.Layer, problem.List) {
	out := cloneLayer(root)
	solved, found := layout.Solve(drawnBoxes(out, nil), layout.Options{Width: width, Fonts: fonts})
	if solved == nil {
		return nil, found
	}
	var place func(l *design.Layer, n *layout.Node, x, y float64)
	place = func(l *design.Layer, n *layout.Node, x, y float64) {
		b := n.Box
		put(l, n, x, y)
		inner := held(l)
		if inner != l {
			inner.Bounds = design.Rect{Width: b.Width, Height: b.Height}
		}
		i := 0
		for _, c := range inner.Children {
			if !c.Hidden {
				place(c, n.Children[i], b.X, b.Y)
				i++
			}
		}
	}
	place(out, solved, 0, 0)
	return out, found
}

// Redraw gives a case's drawing with its layers where the contract puts them:
// the resolved parts, solved. Layers of no part, or of one that is not shown,
// are hidden.
func Redraw(r *contract.Resolved, root *design.Layer, solved *layout.Node) *design.Layer {
	out := cloneLayer(root)
	out.Walk(func(l *design.Layer, _, _ float64) { l.Hidden = true })
	var place func(r *contract.Resolved, n *layout.Node, root *design.Layer, x, y float64)
	place = func(r *contract.Resolved, n *layout.Node, root *design.Layer, x, y float64) {
		if n.Box == nil { // taken away at this width
			return
		}
		if l, _ := LayerAt(root, r.Part.Layer); l != nil {
			l.Hidden = false
			put(l, n, x, y)
			x, y = n.Box.X, n.Box.Y
			if inner := held(l); inner != l && r.Inside != nil {
				place(r.Inside, n, inner, x, y)
				return
			}
		}
		for i, c := range r.Below() {
			place(c, n.Children[i], root, x, y)
		}
	}
	place(r, solved, out, 0, 0)
	return out
}

// put moves a layer to where a box was solved, from an origin, and breaks its
// text where lines end.
func put(l *design.Layer, n *layout.Node, x, y float64) {
	b := n.Box
	l.Bounds = design.Rect{X: b.X - x, Y: b.Y - y, Width: b.Width, Height: b.Height}
	if l.Text != nil && len(b.Ends) > 0 {
		l.Text.Content = brokenText(font.Collapse(l.Text.Content, n.Style["white-space"]), b.Ends)
	}
}

// brokenText puts line feeds where lines end.
func brokenText(text string, ends []int) string {
	runes := []rune(text)
	var lines []string
	from := 0
	for _, at := range append(slices.Clone(ends), len(runes)) {
		lines = append(lines, strings.TrimRight(string(runes[from:min(at, len(runes))]), " \n"))
		from = at
	}
	return strings.Join(lines, "\n")
}

// drawnBoxes writes a drawing as boxes to be solved; hidden layers are left out.
func drawnBoxes(l, parent *design.Layer) *layout.Node {
	bare := *l
	bare.Tokens = nil // as drawn, whatever the tokens say now
	n := &layout.Node{Name: l.ID, Style: layout.Style(StyleOf(&bare, parent))}
	if l.Text != nil {
		n.Text = l.Text.Content
	}
	if inner := held(l); inner != l { // one element: what it holds, standing as it does
		of := drawnBoxes(inner, nil)
		maps.Copy(of.Style, n.Style)
		of.Name = l.ID
		return of
	}
	for _, c := range l.Children {
		if !c.Hidden {
			n.Children = append(n.Children, drawnBoxes(c, l))
		}
	}
	return n
}

// cloneLayer gives a copy whose bounds, texts and children are its own.
func cloneLayer(l *design.Layer) *design.Layer {
	out := *l
	if l.Text != nil {
		text := *l.Text
		out.Text = &text
	}
	out.Children = make([]*design.Layer, len(l.Children))
	for i, c := range l.Children {
		out.Children[i] = cloneLayer(c)
	}
	return &out
}
