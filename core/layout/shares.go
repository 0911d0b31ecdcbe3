package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// shared is a row of columns that divide a width equally.
type shared struct{ width, gap float64 }

// dividing tells whether boxes begin, are centred or end at equal parts of a room. by names the edge of each; what
// stands in a middle may reach over its part at both sides where wider says so.
func dividing(boxes []Rect, by func(i int) string, inner Rect, wider bool) (shared, bool) {
	n := float64(len(boxes))
	// Column i begins at i times the pitch; the pitch is what the anchors tell, and the gap what is left of the
	// room: anchor = i pitch + f (room - (n-1) pitch), f being 0, a half or 1.
	of := func(i int) (anchor, factor float64) {
		b := boxes[i]
		f := 0.0
		switch by(i) {
		case byCenter:
			f = 0.5
		case byEnd:
			f = 1
		}
		return b.X + f*b.Width - inner.X - f*inner.Width, float64(i) - f*(n-1)
	}
	var up, down float64
	for i := range boxes {
		a, k := of(i)
		up += a * k
		down += k * k
	}
	if down == 0 {
		return shared{}, false
	}
	pitch := up / down
	gap := n*pitch - inner.Width
	width := pitch - gap
	if gap < -tolerance || gap > gutter || width <= 0 {
		return shared{}, false
	}
	for i, b := range boxes {
		a, k := of(i)
		room := width
		if wider && by(i) == byCenter {
			room = pitch
		}
		if math.Abs(a-k*pitch) > tolerance || b.Width > room+tolerance {
			return shared{}, false
		}
	}
	gap = max(0, whole(gap))
	return shared{(inner.Width - (n-1)*gap) / n, gap}, true
}

// shares tells whether the children of a row without paint divide a room that is wider than they need.
func (p *Part) shares(inner Rect) bool {
	if p.Kind != Row || p.Layer != "" || len(p.Children) < 2 || p.pad != nil || p.solid() {
		return false
	}
	_, _, ok := p.sharing(inner)
	if ok = ok && !p.unsplit(); ok {
		p.Bounds.X, p.Bounds.Width = inner.X, inner.Width
		p.pad = &Sides{}
	}
	return ok
}

// sharing finds the columns that the children of a row divide its room into, and the edge by which they stand in them.
func (p *Part) sharing(inner Rect) (s shared, by string, ok bool) {
	boxes := make([]Rect, len(p.Children))
	for i, c := range p.Children {
		boxes[i] = c.Bounds
	}
	for _, by := range []string{byStart, byCenter} {
		if s, ok := dividing(boxes, func(int) string { return by }, inner, false); ok && (len(p.Children) > 2 || by == byStart && p.twins() && s.gap == nearest(s.gap, nil)) {
			return s, by, true
		}
	}
	return shared{}, "", false
}

// twins tells whether the two children of a row are containers of one kind that hold as much.
func (p *Part) twins() bool {
	a, b := p.Children[0], p.Children[1]
	return a.Kind == b.Kind && (a.Kind == Stack || a.Kind == Grid) && len(a.Children) == len(b.Children) && a.Columns == b.Columns
}

// paddingOfPlaces gives a row the padding beside equal places that hold things in their middles: the first and the
// last do not say where their places end.
func (p *Part) paddingOfPlaces(padding Sides) Sides {
	n := len(p.Children)
	if n < 3 || p.edge() != (Sides{}) || p.solid() {
		return padding
	}
	if _, _, ok := p.sharing(Rect{p.Bounds.X + padding.Left, 0, p.Bounds.Width - padding.Left - padding.Right, 0}); ok {
		return padding
	}
	middle := func(i int) float64 { return p.Children[i].Bounds.X + p.Children[i].Bounds.Width/2 }
	pitch := (middle(n-1) - middle(0)) / float64(n-1)
	side := max(0, whole((p.Bounds.Width-float64(n)*pitch)/2))
	s := padding
	s.Left, s.Right = side, side
	inner := Rect{p.Bounds.X + side, 0, p.Bounds.Width - 2*side, 0}
	if _, by, ok := p.sharing(inner); ok && by == byCenter {
		return s
	}
	return padding
}

// padLikePlaces gives a box the padding at its sides that it has above, where that leaves a row in it equal places for things that stand in
// their middles.
func (p *Part) padLikePlaces() {
	if p.Layer == "" {
		return
	}
	side := p.Padding.Top
	inner := Rect{p.Bounds.X + side, 0, p.Bounds.Width - 2*side, 0}
	for _, c := range p.Children {
		if c.Kind == Row && c.loose() && len(c.Children) > 2 && !c.solid() && side < p.Padding.Left {
			if s, by, ok := c.sharing(inner); ok && by == byCenter && s.gap <= tolerance {
				p.Padding.Left, p.Padding.Right = side, side
				return
			}
		}
	}
}

// solid tells whether a child of a row has edges of its own: then those say how wide its column is.
func (p *Part) solid() bool {
	return slices.ContainsFunc(p.Children, func(c *Part) bool { return c.Kind == Leaf && !c.Text || c.Layer != "" && c.Kind != Leaf })
}

// share makes a row whose children have shares of its width a split.
func (p *Part) share(inner Rect) bool {
	if p.Kind != Row || len(p.Children) < 2 || !p.definite(0) || p.wanted == fixedGap || p.wanted == spaceBetween {
		return false
	}
	if slices.ContainsFunc(p.Children, func(c *Part) bool { return c.Self != "" && beside(c.Bounds, inner, 1, p.Align) > 2*tolerance }) {
		return false // a split has one alignment
	}
	if len(p.Children) == 2 && p.shareOfTwo(inner) {
		return true
	}
	if p.solid() {
		return false
	}
	s, by, ok := p.sharing(inner)
	if !ok || p.unsplit() {
		return false
	}
	p.Kind, p.Gap, p.drawn, p.Distribute = Split, s.gap, nil, "start"
	p.Shares = strings.TrimSpace(strings.Repeat("1 ", len(p.Children)))
	p.Others = append(p.Others, Reading{unsplit, "its columns are equal shares of the width", true})
	for i, c := range p.Children {
		c.Offset, c.Self = nil, ""
		if c.Kind == Leaf {
			if by == byCenter {
				c.Self = "center"
			}
			continue
		}
		c.Width = Fill
		c.Bounds.X, c.Bounds.Width = inner.X+float64(i)*(s.width+s.gap), s.width
		c.pad = &Sides{}
	}
	return true
}

// shareOfTwo makes two columns with usual shares of the width a split.
func (p *Part) shareOfTwo(inner Rect) bool {
	a, b := p.Children[0].Bounds.Width, p.Children[1].Bounds.Width
	if p.Gap > min(a, b, gutter) || p.tight.X-inner.X > tolerance || inner.right()-p.tight.right() > tolerance { // columns are wider than the gutter between them
		return false
	}
	for _, c := range p.Children {
		if c.Kind == Leaf && !c.paints() && !c.Text && !p.Children[0].body && !p.Children[1].body {
			return false
		}
	}
	for _, shares := range [][2]float64{{1, 3}, {1, 2}, {1, 1}, {2, 1}, {3, 1}} {
		if math.Abs(a-(a+b)*shares[0]/(shares[0]+shares[1])) > tolerance {
			continue
		}
		if p.unsplit() {
			return false
		}
		p.Kind, p.Shares = Split, fmt.Sprintf("%g %g", shares[0], shares[1])
		p.Others = append(p.Others, Reading{unsplit, "its two columns have shares of the width, " + p.Shares, true})
		for _, c := range p.Children {
			c.Width, c.Self = Fill, ""
		}
		return true
	}
	return false
}

// unsplit tells whether somebody chose that a row is no split.
func (p *Part) unsplit() bool {
	if p.wanted == unsplit {
		p.Others = append(p.Others, Reading{Split, chosen, true})
	}
	return p.wanted == unsplit
}
