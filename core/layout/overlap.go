package layout

import (
	"cmp"
	"math"
	"slices"
)

// maxNested bounds how deep containers are read.
const maxNested = 150

// maxTangle bounds how many layers that cannot be cut apart are compared with
// one another.
const maxTangle = 64

// overlap reads layers that lie over one another: equals that overlap by the
// same amount, or layers pinned over a larger one.
func (in *inferrer) overlap(parts []*Part) *Part {
	sorted := slices.Clone(parts)
	slices.SortFunc(sorted, func(a, b *Part) int {
		return cmp.Or(cmp.Compare(b.Bounds.area(), a.Bounds.area()), cmp.Compare(a.order, b.order))
	})
	base := sorted[0]
	if len(sorted) > maxTangle {
		return in.heap(sorted)
	}
	if base.Bounds.holds(boundsOf(parts), tolerance) { // the largest below, the rest over it
		return in.over(base, pins(base.Bounds, sorted[1:]))
	}
	// Units: a layer with all that lies in it.
	var units []*unit
	for _, p := range sorted {
		var home *unit
		for _, u := range units {
			if u.bounds.holds(p.Bounds, tolerance) && (home == nil || u.bounds.area() < home.bounds.area()) {
				home = u
			}
		}
		if home == nil || p.order < home.parts[0].order {
			units = append(units, &unit{parts: []*Part{p}, bounds: p.Bounds})
			continue
		}
		home.parts = append(home.parts, p)
	}
	axis, ok := equals(units)
	if ok && in.want(parts) != Overlay {
		slices.SortFunc(units, func(a, b *unit) int {
			p, _ := a.bounds.along(axis)
			q, _ := b.bounds.along(axis)
			return cmp.Compare(p, q)
		})
		var children []*Part
		for _, u := range units {
			children = append(children, in.read(u.parts))
		}
		kind := Row
		if axis == 1 {
			kind = Stack
		}
		p := in.container(kind, children)
		p.Others = append(p.Others, Reading{Overlay, "they are equals that overlap by the same amount", true})
		return p
	}
	if ok {
		p := in.over(base, single(sorted[1:]))
		p.Others = append(p.Others, Reading{[]string{Row, Stack}[axis], chosen, true})
		return p
	}
	// The smallest layer that overlaps another is pinned over the one it covers
	// most.
	for i := len(units) - 1; i > 0; i-- {
		var under *unit
		most := 0.0
		for _, u := range units {
			if u != units[i] {
				if shared := common(u.bounds, units[i].bounds); shared > most {
					under, most = u, shared
				}
			}
		}
		if under == nil {
			continue
		}
		var rest []*Part
		for _, u := range units {
			if u != units[i] && u != under {
				rest = append(rest, u.parts...)
			}
		}
		pinned := in.over(in.read(under.parts), [][]*Part{units[i].parts})
		return in.read(append(rest, pinned))
	}
	return in.over(base, [][]*Part{sorted[1:]})
}

// pins separates what lies over a box into what stands at different edges of it.
func pins(b Rect, parts []*Part) [][]*Part {
	groups := [][]*Part{parts}
	for axis := 1; axis >= 0; axis-- {
		_, room := b.along(axis)
		var out [][]*Part
		for _, g := range groups {
			if len(g) < 2 {
				out = append(out, g)
				continue
			}
			cuts := cut(g, axis)
			at := 0
			for i := 1; i <= len(cuts); i++ {
				if i < len(cuts) {
					gap := gapsOf(cuts[i-1:i+1], axis)[0]
					if gap < room/4 || gap < wideGap {
						continue
					}
				}
				out = append(out, slices.Concat(cuts[at:i]...))
				at = i
			}
		}
		groups = out
	}
	return groups
}

// heap reads many layers that cannot be cut apart: without the few largest of
// them the rest may be; else all are pinned over the largest.
func (in *inferrer) heap(sorted []*Part) *Part {
	for large := 1; large <= 4; large++ {
		rest := sorted[large:]
		if len(cut(rest, 1)) == 1 && len(cut(rest, 0)) == 1 && background(rest) == nil {
			continue
		}
		base, over := in.read(rest), sorted[:large]
		if sorted[0].Bounds.holds(base.Bounds, tolerance) {
			base, over = sorted[0], append([]*Part{base}, sorted[1:large]...)
		}
		return in.over(base, single(over))
	}
	return in.over(sorted[0], single(sorted[1:]))
}

// single makes a group of each part.
func single(parts []*Part) [][]*Part {
	out := make([][]*Part, len(parts))
	for i := range parts {
		out[i] = parts[i : i+1]
	}
	return out
}

type unit struct {
	parts  []*Part
	bounds Rect
}

func common(a, b Rect) float64 {
	w := min(a.right(), b.right()) - max(a.X, b.X)
	h := min(a.bottom(), b.bottom()) - max(a.Y, b.Y)
	if w <= 0 || h <= 0 {
		return 0
	}
	return w * h
}

// equals tells whether units of one size follow each other by one step, and
// along which axis.
func equals(units []*unit) (axis int, ok bool) {
	if len(units) < 2 {
		return 0, false
	}
	for axis := range 2 {
		sorted := slices.Clone(units)
		slices.SortFunc(sorted, func(a, b *unit) int {
			p, _ := a.bounds.along(axis)
			q, _ := b.bounds.along(axis)
			return cmp.Compare(p, q)
		})
		good := true
		var steps []float64
		for i, u := range sorted {
			good = good && math.Abs(u.bounds.Width-sorted[0].bounds.Width) <= tolerance && math.Abs(u.bounds.Height-sorted[0].bounds.Height) <= tolerance
			p, _ := u.bounds.along(1 - axis)
			q, _ := sorted[0].bounds.along(1 - axis)
			good = good && math.Abs(p-q) <= tolerance
			if i > 0 {
				p, size := u.bounds.along(axis)
				q, _ := sorted[i-1].bounds.along(axis)
				steps = append(steps, p-q)
				good = good && p-q < size && p-q > size/4
			}
		}
		if good && slices.Max(steps)-slices.Min(steps) <= even {
			return axis, true
		}
	}
	return 0, false
}

// over puts layers over a base. What is pinned does not count for its bounds.
func (in *inferrer) over(base *Part, layers [][]*Part) *Part {
	p := base
	if base.Kind != Overlay || base.Layer != "" {
		p = in.container(Overlay, []*Part{base})
	}
	for _, l := range layers {
		if len(l) == 0 {
			continue
		}
		top := in.read(l)
		p.order = min(p.order, top.order)
		p.Children = append(p.Children, top)
	}
	slices.SortStableFunc(p.Children[1:], func(a, b *Part) int { return a.order - b.order }) // as they are painted
	return p
}
