package layout

import (
	"math"
	"slices"

	"cobrik/core/design"
)

// dressed reads what lies in a box: what stands in a corner apart from the rest is pinned there.
func (in *inferrer) dressed(paint *Part, rest []*Part) *Part {
	if pinned, others := corner(paint.Bounds, rest); pinned != nil {
		return in.over(in.dressed(paint, others), [][]*Part{pinned})
	}
	if rest = paint.takeEdges(rest); len(rest) == 0 {
		return paint
	}
	in.uncover(paint, rest)
	e := paint.edge()
	b := paint.Bounds
	inner := in.bleeding(Rect{b.X + e.Left, b.Y + e.Top, b.Width - e.Left - e.Right, b.Height - e.Top - e.Bottom}, rest)
	if inner == nil {
		inner = in.read(rest)
	}
	return in.dress(paint, inner)
}

// takeEdges makes lines that are drawn along a box's edges its borders, and gives what else lies in it.
func (p *Part) takeEdges(parts []*Part) []*Part {
	if !slices.ContainsFunc(parts, func(q *Part) bool { return q.thin(0) || q.thin(1) }) {
		return parts
	}
	b := p.Bounds
	var rest []*Part
	for _, q := range parts {
		r, side := q.Bounds, -1
		switch {
		case q.thin(0) && r.Height <= thickest/2 && r.X <= b.X+tolerance && r.right() >= b.right()-tolerance:
			if r.Y <= b.Y+1 {
				side = 0
			} else if r.bottom() >= b.bottom()-1 {
				side = 2
			}
		case q.thin(1) && r.Y <= b.Y+tolerance && r.bottom() >= b.bottom()-tolerance:
			if r.X <= b.X+1 {
				side = 3
			} else if r.right() >= b.right()-1 {
				side = 1
			}
		}
		if side < 0 || p.lines[side] != nil || p.layer.Stroke != nil || !p.sameColour(q) {
			rest = append(rest, q)
			continue
		}
		p.lines[side] = q.layer
	}
	return rest
}

// sameColour tells whether a line is of the colour of the lines a box has.
func (p *Part) sameColour(line *Part) bool {
	is, _ := lineOver(line.layer)
	for _, l := range p.lines {
		if l != nil {
			if other, _ := lineOver(l); other != is {
				return false
			}
		}
	}
	return true
}

// uncover keeps what is drawn over a box's line within it: a border takes room, and nothing lies over it.
func (in *inferrer) uncover(paint *Part, parts []*Part) {
	e := paint.edge()
	if e == (Sides{}) {
		return
	}
	b := paint.Bounds
	for _, p := range parts {
		r := p.Bounds
		if p.Text || r.Width <= e.Left+e.Right || r.Height <= e.Top+e.Bottom {
			continue
		}
		x, y, right, bottom, over := r.X, r.Y, r.right(), r.bottom(), false
		if x >= b.X-0.5 && x < b.X+e.Left {
			x = b.X + e.Left
			over = true
		}
		if y >= b.Y-0.5 && y < b.Y+e.Top {
			y = b.Y + e.Top
			over = true
		}
		if right <= b.right()+0.5 && right > b.right()-e.Right {
			right = b.right() - e.Right
			over = true
		}
		if bottom <= b.bottom()+0.5 && bottom > b.bottom()-e.Bottom {
			bottom = b.bottom() - e.Bottom
			over = true
		}
		if over {
			p.Bounds = Rect{x, y, right - x, bottom - y}
			in.covering = append(in.covering, p.Name)
		}
	}
}

// corner finds the small thing that stands in a corner of a box, nearer to its edges than all others are to any, and
// diagonal to them: a badge, the cross of a dialog.
func corner(b Rect, parts []*Part) (pinned, others []*Part) {
	if len(parts) < 2 {
		return nil, nil
	}
	all := boundsOf(parts)
	tried := 0
	for _, p := range parts {
		r := p.Bounds
		if p.Text || r.Width > largestMark || r.Height > largestMark || r.area() > b.area()/4 || r.thinner() < thickest ||
			r.X > all.X && r.right() < all.right() || r.Y > all.Y && r.bottom() < all.bottom() {
			continue
		}
		if tried++; tried > 4 {
			break
		}
		pinned, others = nil, nil
		for _, q := range parts {
			if r.holds(q.Bounds, 0.5) {
				pinned = append(pinned, q)
			} else {
				others = append(others, q)
			}
		}
		if len(others) == 0 {
			continue
		}
		o := boundsOf(others)
		apart := func(axis int) bool {
			at, size := r.along(axis)
			from, long := o.along(axis)
			start, room := b.along(axis)
			shared := min(at+size, from+long) - max(at, from)
			near, far := min(at-start, start+room-at-size), min(from-start, start+room-from-long)
			return shared < size/2 && near < far-tolerance && near < room/4
		}
		if apart(0) && apart(1) {
			return pinned, others
		}
	}
	return nil, nil
}

// leastReach is how long things are at least, px, that are read as reaching from edge to edge of a box while others
// are set in.
const leastReach = 80

func (r Rect) thinner() float64 { return min(r.Width, r.Height) }

// bleeding reads a box of which some things reach both edges while others are set in: what is set in, from one of
// those to the next, is a container with padding. nil where there are not both.
func (in *inferrer) bleeding(b Rect, parts []*Part) *Part {
	if len(parts) < 2 {
		return nil
	}
	for axis, kind := range []string{Row, Stack} {
		across := 1 - axis
		from, room := b.along(across)
		reaches := func(p *Part) bool {
			at, size := p.Bounds.along(across)
			_, thick := p.Bounds.along(axis)
			return !p.Text && at <= from+tolerance && at+size >= from+room-tolerance && thick > thickest
		}
		if room < leastReach || !slices.ContainsFunc(parts, reaches) {
			continue
		}
		groups := withTheirLines(cut(parts, axis), axis)
		if len(groups) < 2 {
			continue
		}
		reach := make([]bool, len(groups))
		flat := in.want(parts) == kind+withoutInner
		some, inset := false, false
		for i, g := range groups {
			at, size := boundsOf(g).along(across)
			reach[i] = slices.ContainsFunc(g, reaches)
			some = some || reach[i]
			inset = inset || !reach[i] && at > from+tolerance && at+size < from+room+tolerance
		}
		if !some || !inset {
			continue
		}
		if flat {
			p := in.loose(parts, 0)
			if !slices.ContainsFunc(p.Others, func(r Reading) bool { return r.Kind == kind+withInner }) {
				p.Others = append(p.Others, Reading{kind + withInner, chosen, true})
			}
			return p
		}
		start, long := b.along(axis)
		end := start + long
		var children []*Part
		for i := 0; i < len(groups); {
			if reach[i] {
				p := in.read(groups[i])
				children = append(children, p)
				at, size := p.Bounds.along(axis)
				start = at + size
				i++
				continue
			}
			var run []*Part
			for ; i < len(groups) && !reach[i]; i++ {
				run = append(run, groups[i]...)
			}
			next := end
			if i < len(groups) {
				next, _ = boundsOf(groups[i]).along(axis)
			}
			p := in.bare(in.read(run))
			if axis == 1 {
				p.Bounds = Rect{from, start, room, next - start}
			} else {
				p.Bounds = Rect{start, from, next - start, room}
			}
			p.stretch(p.Bounds)
			p.body = true
			children = append(children, p)
		}
		p := in.container(kind, children)
		p.Others = append(p.Others, Reading{kind + withoutInner, "some of it reaches from edge to edge, the rest is set in", true})
		return p
	}
	return nil
}

// withTheirLines joins lines that touch what stands before them to it.
func withTheirLines(groups [][]*Part, axis int) [][]*Part {
	out := groups[:0:0]
	end := math.Inf(-1) // of the last
	for _, g := range groups {
		at, size := boundsOf(g).along(axis)
		if len(out) > 0 && len(g) == 1 && g[0].thin(1-axis) && at-end <= 1 {
			out[len(out)-1] = append(out[len(out)-1], g[0]) // groups have no room to grow, so it is a copy
		} else {
			out = append(out, g)
		}
		end = max(end, at+size)
	}
	return out
}

// background finds the box that all others lie in and on: the lowest one.
func background(parts []*Part) *Part {
	all := boundsOf(parts)
	lowest := parts[0]
	for _, p := range parts {
		if p.order < lowest.order {
			lowest = p
		}
	}
	if lowest.paints() && lowest.Bounds.holds(all, tolerance) {
		return lowest
	}
	return nil
}

// dress makes a box the paint of what lies in it.
func (in *inferrer) dress(paint, inner *Part) *Part {
	if inner.Kind == Leaf || inner.Kind == Overlay || inner.Layer != "" || inner.lines != [4]*design.Layer{} || inner.pad != nil {
		inner = in.container(Stack, []*Part{inner})
	}
	inner.stretch(paint.Bounds)
	inner.Name, inner.Layer, inner.layer, inner.Bounds = paint.Name, paint.Layer, paint.layer, paint.Bounds
	inner.order, inner.rank, inner.lines = paint.order, paint.rank, paint.lines
	return inner
}

// frame gives the root the bounds of the drawing.
func (in *inferrer) frame(p *Part, bounds Rect) *Part {
	if p.Kind == Leaf || (p.Layer != "" || p.Kind == Overlay && p.Children[p.base].Layer != "") && !p.Bounds.holds(bounds, tolerance) {
		p = in.container(Stack, []*Part{p})
	}
	p.Bounds = p.Bounds.join(bounds)
	if p.Layer == "" {
		p.stretch(bounds)
		p.Bounds = bounds.join(p.tight)
	}
	p.Width, p.Height = Fixed, Fixed
	return p
}
