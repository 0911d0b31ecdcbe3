package layout

import (
	"math"
	"slices"

	"cobrik/core/design"
)

// slackBelow is how many px more than thrice the padding above read as room left
// over below: common practice, no source.
const slackBelow = 40

// paddingOf reads the room between a container's edges and its children. Along
// an axis in which children keep to one end, the smaller side counts for both.
func paddingOf(p *Part) Sides {
	if p.pad != nil {
		return *p.pad
	}
	if p.keepsSize() {
		return p.edge()
	}
	t := p.tight
	s := Sides{t.Y - p.Bounds.Y, p.Bounds.right() - t.right(), p.Bounds.bottom() - t.bottom(), t.X - p.Bounds.X}
	if room := p.roomAside(s); room >= 0 {
		s.Left, s.Right = room, room
	} else if math.Abs(s.Left-s.Right) <= uneven && max(s.Left, s.Right) <= gutter && p.solidSides() {
		s.Left, s.Right = apartOrSame(s.Left, s.Right)
	} else {
		s.Left, s.Right = bothSides(s.Left, s.Right)
	}
	if math.Abs(s.Top-s.Bottom) <= tolerance || s.Bottom > 3*s.Top+slackBelow || s.Top > 3*s.Bottom+slackBelow {
		s.Top, s.Bottom = bothSides(s.Top, s.Bottom)
	} else { // heights follow content: what is below is padding, too
		s.Top, s.Bottom = max(0, whole(s.Top)), max(0, whole(s.Bottom))
	}
	e := p.edge()
	return Sides{max(e.Top, s.Top), max(e.Right, s.Right), max(e.Bottom, s.Bottom), max(e.Left, s.Left)}
}

// roomAside gives the padding beside what stands in the middle of a box whose width comes from outside: what is
// left over there is no padding. Negative where nothing stands so.
func (p *Part) roomAside(s Sides) float64 {
	if p.Layer == "" || p.Width == Content || math.Abs(s.Left-s.Right) > tolerance || p.Kind != Stack && p.Kind != Row {
		return -1
	}
	limit := max(2.5*max(s.Top, s.Bottom), 48) // a root is drawn as wide as it is alone
	if p.Width == Fill {
		limit = 2*max(s.Top, s.Bottom) + tolerance
	}
	if s.Left <= limit {
		return -1
	}
	middle := p.Bounds.X + p.Bounds.Width/2
	for i := 1; p.Kind == Row && i < len(p.Children); i++ {
		if p.Children[i].Bounds.X-p.Children[i-1].Bounds.right() >= s.Left { // its ends are at both ends
			return -1
		}
	}
	if p.Kind == Stack {
		for _, c := range p.Children {
			if math.Abs(c.Bounds.X+c.Bounds.Width/2-middle) > tolerance {
				return -1
			}
		}
	}
	return whole(min(s.Left, max(s.Top, s.Bottom)))
}

// isLabel tells whether a painted box that fills a width holds one line of text in its middle.
func (p *Part) isLabel() bool {
	if p.Layer == "" || p.Width != Fill || len(p.Children) != 1 || !p.Children[0].Text || p.Children[0].layer.Text == nil {
		return false
	}
	t := p.Children[0]
	return t.Bounds.Height < 2*t.layer.Text.FontSize && math.Abs(t.Bounds.X+t.Bounds.Width/2-p.Bounds.X-p.Bounds.Width/2) <= tolerance
}

// Two sides that differ by no more than uneven, and are no wider than a gutter, are paddings of their own where what
// stands at both is no text: common practice, no source. px.
const (
	uneven = 24
	gutter = 64
)

// solidSides tells whether what stands furthest left and right is something else than text, whose box ends where
// its words do.
func (p *Part) solidSides() bool {
	var left, right *Part
	for _, c := range p.Children {
		if left == nil || c.Bounds.X < left.Bounds.X {
			left = c
		}
		if right == nil || c.Bounds.right() >= right.Bounds.right() {
			right = c
		}
	}
	return (left.Kind != Leaf || !left.Text) && right.solidEnd()
}

func (p *Part) solidEnd() bool {
	if p.Kind == Leaf {
		return !p.Text
	}
	return p.Layer != "" || slices.ContainsFunc(p.Children, func(c *Part) bool {
		return c.Bounds.right() >= p.Bounds.right()-0.5 && c.solidEnd()
	})
}

// keepsSize tells whether a painted box is as large as it is whatever it holds: round, or square, with one thing
// in its middle.
func (p *Part) keepsSize() bool {
	if p.layer == nil || len(p.Children) != 1 || p.Kind == Overlay || math.Abs(p.Bounds.Width-p.Bounds.Height) > tolerance || p.Bounds.Width > 2*largestMark {
		return false
	}
	c, b := p.Children[0].Bounds, p.Bounds
	if math.Abs(c.X+c.Width/2-b.X-b.Width/2) > tolerance || math.Abs(c.Y+c.Height/2-b.Y-b.Height/2) > tolerance {
		return false
	}
	round := slices.Min(corners(p.layer)) >= b.Height/2-tolerance
	return round || b.Width <= largestMark && c.Width <= b.Width-4 && c.Height <= b.Height-4
}

func corners(l *design.Layer) []float64 {
	c := l.Corners()
	return c[:]
}

// edge is the widths of a container's lines, which take room as borders do.
func (p *Part) edge() Sides {
	w := [4]float64{}
	if p.layer != nil {
		w = p.layer.Stroke.Widths()
	}
	for i, l := range p.lines {
		if l != nil {
			w[i] = max(w[i], lineWidth(l, i))
		}
	}
	return Sides{w[0], w[1], w[2], w[3]}
}

// lineWidth is how thick a line is that is drawn along a side.
func lineWidth(l *design.Layer, side int) float64 {
	if l.Kind == design.Vector {
		return l.Vector.Paths[0].Stroke.Width
	}
	return []float64{l.Bounds.Height, l.Bounds.Width}[side%2]
}

// line is the width of a container's widest line.
func (p *Part) line() float64 {
	e := p.edge()
	return max(e.Top, e.Right, e.Bottom, e.Left)
}

func apartOrSame(a, b float64) (float64, float64) {
	if math.Abs(a-b) <= tolerance {
		return bothSides(a, b)
	}
	return max(0, whole(a)), max(0, whole(b))
}

func bothSides(a, b float64) (float64, float64) {
	a, b = max(0, whole(a)), max(0, whole(b))
	least := min(a, b)
	return least, least
}
