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

// provedWithin tells whether no layer of the tree is further than so many px from where it is solved.
func (in *Inference) provedWithin(limit float64) bool {
	within := true
	found := in.solved(func(_ *Part, off Sides) { within = within && off.furthest() <= limit })
	return within && !found.Failed()
}

type flowWriter struct{ containers int }

func (w *flowWriter) layer(p, parent *Part) *design.Layer {
	out := &layerOfPart{}
	l := out.set(p, parent)
	if p.layer == nil {
		w.containers++
		l.ID = fmt.Sprintf("container-%d", w.containers)
	}
	for _, c := range p.Children {
		l.Children = append(l.Children, w.layer(c, p))
	}
	return l
}

// layerOfPart is the layer that a part is written as, with what it points at.
type layerOfPart struct {
	layer  design.Layer
	flow   design.Flow
	place  design.Place
	pins   design.Pins
	offset design.Offset
	stroke design.Stroke
	sides  [4]float64
	pad    [4]float64
}

// set makes the layer of a part, without children.
func (d *layerOfPart) set(p, parent *Part) *design.Layer {
	l := &d.layer
	*l = design.Layer{Kind: design.Group}
	if p.layer != nil {
		*l = *p.layer
	}
	l.Name, l.Children, l.Flow, l.Place = p.Name, nil, nil, nil
	l.Bounds = design.Rect{X: p.Bounds.X, Y: p.Bounds.Y, Width: p.Bounds.Width, Height: p.Bounds.Height}
	if parent != nil {
		l.Bounds.X = round(l.Bounds.X - parent.Bounds.X)
		l.Bounds.Y = round(l.Bounds.Y - parent.Bounds.Y)
	}
	l.Sizing = design.Sizing{Width: p.Width, Height: p.Height}
	d.setLines(p)
	d.setPlace(p, parent)
	if p.Kind != Leaf {
		d.setFlow(p)
	}
	return l
}

// setLines makes drawn lines the box's borders.
func (d *layerOfPart) setLines(p *Part) {
	l := &d.layer
	for i, drawn := range p.lines {
		if drawn == nil {
			continue
		}
		if l.Kind = design.Box; l.Stroke == nil {
			colour, _ := lineOver(drawn)
			d.sides = [4]float64{}
			d.stroke = design.Stroke{Color: colour, Sides: d.sides[:]}
			l.Stroke = &d.stroke
		}
		d.sides[i] = lineWidth(drawn, i)
		d.stroke.Width = max(d.stroke.Width, d.sides[i])
	}
}

func (d *layerOfPart) setPlace(p, parent *Part) {
	d.place = design.Place{}
	switch out := &d.place; {
	case p.Pin != nil:
		d.pins = design.Pins{Horizontal: p.Pin.Horizontal, Vertical: p.Pin.Vertical}
		out.Pins = &d.pins
	default:
		out.Column = p.Column
		if parent != nil && (p.Self != parent.Align || parent.Kind == Grid || parent.Kind == Split) { // of a grid's cell it is across the column
			out.Self = p.Self
		}
		if p.Offset != nil {
			d.offset = design.Offset{X: p.Offset.X, Y: p.Offset.Y}
			out.Offset = &d.offset
		}
	}
	if d.place != (design.Place{}) {
		d.layer.Place = &d.place
	}
}

func (d *layerOfPart) setFlow(p *Part) {
	f := &d.flow
	*f = design.Flow{Direction: "row", Gap: p.Gap, Align: p.Align}
	e := p.edge() // a flow's padding is counted from the stroke's inner edge
	if s := p.Padding; s != e {
		d.pad = [4]float64{round(s.Top - e.Top), round(s.Right - e.Right), round(s.Bottom - e.Bottom), round(s.Left - e.Left)}
		f.Padding = d.pad[:]
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
	d.layer.Flow = f
}
