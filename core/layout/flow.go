package layout

import (
	"fmt"
	"math"

	"cobrik/core/design"
)

// Drawing writes the tree as layers that flow: drawn, it is what it was read
// from. The root fills its container's width, unless its content makes it, and
// is as high as its content where that explains the drawing.
func (in *Inference) Drawing() *design.Layer {
	root := *in.Root
	root.Width = Fill
	if root.hugs() {
		root.Width = Content
	}
	root.Height = Content
	if again := (&Inference{Root: &root}); !again.provedWithin(in.Residual + 0.25) {
		root.Height = Fixed
	}
	w := flowWriter{}
	out := w.layer(&root, nil)
	out.Bounds.X, out.Bounds.Y = 0, 0
	return out
}

// hugs tells whether a container is as wide as its content makes it, which
// cannot shrink or grow: a row of things side by side with nothing between.
func (p *Part) hugs() bool {
	if p.Kind != Row || p.Distribute != "start" {
		return false
	}
	for _, c := range p.Children {
		if c.Width == Fill {
			return false
		}
	}
	return math.Abs(p.Bounds.right()-p.Padding.Right-p.tight.right()) <= tolerance
}

// provedWithin solves the tree as Infer's proof does, without keeping what it
// finds.
func (in *Inference) provedWithin(limit float64) bool {
	solved, _ := Solve(in.Root.Tree(), Options{Width: in.Root.Bounds.Width, Height: 800})
	if solved == nil {
		return false
	}
	within := true
	var walk func(p *Part, n *Node)
	walk = func(p *Part, n *Node) {
		if p.Layer != "" {
			within = within && p.beside(in.Root.Bounds, n.Box).furthest() <= limit
		}
		for i, c := range p.Children {
			walk(c, n.Children[i])
		}
	}
	walk(in.Root, solved)
	return within
}

type flowWriter struct{ containers int }

func (w *flowWriter) layer(p, parent *Part) *design.Layer {
	l := &design.Layer{Kind: design.Group}
	if p.layer != nil {
		*l = *p.layer
	} else {
		w.containers++
		l.ID = fmt.Sprintf("container-%d", w.containers)
	}
	l.Name, l.Children, l.Flow = p.Name, nil, nil
	for i, drawn := range p.lines {
		if drawn == nil {
			continue
		}
		if l.Kind = design.Box; l.Stroke == nil {
			colour, _ := lineOver(drawn)
			l.Stroke = &design.Stroke{Color: colour, Sides: make([]float64, 4)}
		}
		l.Stroke.Sides[i] = lineWidth(drawn, i)
		l.Stroke.Width = max(l.Stroke.Width, l.Stroke.Sides[i])
	}
	l.Bounds = design.Rect{X: p.Bounds.X, Y: p.Bounds.Y, Width: p.Bounds.Width, Height: p.Bounds.Height}
	if parent != nil {
		l.Bounds.X -= parent.Bounds.X
		l.Bounds.Y -= parent.Bounds.Y
	}
	l.Sizing = design.Sizing{Width: p.Width, Height: p.Height}
	l.Place = p.place(parent)
	if p.Kind != Leaf {
		l.Flow = p.flow()
	}
	for _, c := range p.Children {
		l.Children = append(l.Children, w.layer(c, p))
	}
	return l
}

func (p *Part) place(parent *Part) *design.Place {
	var out design.Place
	if p.Pin != nil {
		out.Pins = &design.Pins{Horizontal: p.Pin.Horizontal, Vertical: p.Pin.Vertical}
		return &out
	}
	out.Column = p.Column
	if parent != nil && (p.Self != parent.Align || parent.Kind == Grid || parent.Kind == Split) { // of a grid's cell it is across the column
		out.Self = p.Self
	}
	if p.Offset != nil {
		out.Offset = &design.Offset{X: p.Offset.X, Y: p.Offset.Y}
	}
	if out == (design.Place{}) {
		return nil
	}
	return &out
}

func (p *Part) flow() *design.Flow {
	f := &design.Flow{Direction: "row", Gap: p.Gap, Align: p.Align}
	e := p.edge() // a flow's padding is counted from the stroke's inner edge
	if s := p.Padding; s != e {
		f.Padding = []float64{round(s.Top - e.Top), round(s.Right - e.Right), round(s.Bottom - e.Bottom), round(s.Left - e.Left)}
	}
	switch p.Kind {
	case Stack, Overlay:
		f.Direction = "column"
	case Wrap:
		f.Wrap, f.Across = true, p.Across
	case Split:
		columns, _ := ColumnsOf(p.Shares)
		f.Direction, f.Columns = "grid", columns
	case Grid:
		f.Direction, f.Columns, f.Across = "grid", p.tracks, p.Across
	}
	if p.Kind == Row || p.Kind == Stack {
		f.Distribute = p.Distribute
		if p.Distribute == "space-between" {
			f.Gap = 0
		}
	}
	return f
}
