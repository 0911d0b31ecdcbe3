package layout

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// read finds the structure of parts: a background around the rest, lines cut
// apart, or layers over one another. Every part is looked at once a level of
// the tree, and sorted there.
func (in *inferrer) read(parts []*Part) *Part {
	if len(parts) == 1 {
		return parts[0]
	}
	if in.depth++; in.depth > maxNested { // boxes in boxes without end
		in.depth--
		return in.over(parts[0], single(parts[1:]))
	}
	defer func() { in.depth-- }()
	if paint := background(parts); paint != nil {
		rest := slices.DeleteFunc(slices.Clone(parts), func(p *Part) bool { return p == paint })
		return dress(paint, in.read(rest))
	}
	rows, columns := cut(parts, 1), cut(parts, 0)
	if len(rows) == 1 && len(columns) == 1 {
		return in.overlap(parts)
	}
	wanted := in.want(parts)
	var others []Reading
	if len(rows) > 1 {
		if cells := cellsOf(rows); cells != nil {
			kind, why := in.matrix(cells)
			if kind != "" && (wanted == "" || wanted == kind) {
				p := in.lines(kind, cells)
				p.Others = append(p.Others, Reading{Stack, "its rows share " + why, true})
				if len(columns) > 1 && kind == Grid {
					p.Others = append(p.Others, Reading{Row, "its rows share " + why, true})
				}
				return p
			}
			if kind == "" {
				others = append(others, Reading{Grid, why, false})
			} else {
				others = append(others, Reading{kind, chosen, true})
			}
		}
	}
	var p *Part
	switch {
	case len(columns) == 1:
		p = in.line(Stack, rows, 0)
	case len(rows) == 1:
		p = in.line(Row, columns, 0)
	default:
		down, across := largestGap(rows, 1), largestGap(columns, 0)
		byColumns := across > 1.5*down
		// What overlaps a little along one axis and not along the other was drawn
		// along the other.
		if tight := slices.Min(gapsOf(rows, 1)) < -0.5; tight != (slices.Min(gapsOf(columns, 0)) < -0.5) {
			byColumns = tight
		}
		why := fmt.Sprintf("its columns are %s px apart, its rows %s px: rows come first unless columns stand clearly apart", number(across), number(down))
		if byColumns {
			why = fmt.Sprintf("its columns are further apart, %s px, than its rows, %s px", number(across), number(down))
		}
		if (wanted == Row || wanted == Stack) && byColumns != (wanted == Row) {
			byColumns, why = wanted == Row, chosen
		}
		if byColumns {
			p = in.line(Row, columns, 0)
			others = append(others, Reading{Stack, why, true})
		} else {
			p = in.line(Stack, rows, 0)
			others = append(others, Reading{Row, why, true})
		}
	}
	p.Others = append(p.Others, others...)
	return p
}

func number(v float64) string { return fmt.Sprint(math.Round(v*10) / 10) }

func leavesOf(parts []*Part) []*Part {
	var out []*Part
	for _, p := range parts {
		p.walk(func(q *Part) {
			if q.Layer != "" {
				out = append(out, q)
			}
		})
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
func dress(paint, inner *Part) *Part {
	if inner.Kind == Leaf || inner.Layer != "" {
		inner = &Part{Kind: Stack, Children: []*Part{inner}, tight: inner.Bounds}
	}
	inner.Name, inner.Layer, inner.layer, inner.Bounds = paint.Name, paint.Layer, paint.layer, paint.Bounds
	inner.order = paint.order
	return inner
}

// frame gives the root the bounds of the drawing.
func frame(p *Part, bounds Rect) *Part {
	if p.Kind == Leaf || p.Layer != "" && !p.Bounds.holds(bounds, tolerance) {
		p = &Part{Kind: Stack, Children: []*Part{p}, tight: p.Bounds}
	}
	p.Bounds = p.Bounds.join(bounds)
	if p.Layer == "" {
		p.Bounds = bounds.join(p.tight)
	}
	p.Width, p.Height = Fixed, Fixed
	return p
}

// container makes a container around children in drawing order along an axis.
func container(kind string, children []*Part) *Part {
	p := &Part{Kind: kind, Children: children, tight: boundsOf(children), order: children[0].order}
	p.Bounds = p.tight
	for _, c := range children {
		p.order = min(p.order, c.order)
	}
	return p
}

// even is how far gaps of one container may differ: each of two edges may be
// half a pixel or a whole one beside its place.
const even = 3.0

const maxClose = 4

const withoutInner = " without inner ones"

// line makes a stack or a row of groups. Where gaps differ, what is close
// together belongs together: groups between the largest gaps become containers
// of their own.
// Past maxClose levels of closeness gaps tell nothing more.
func (in *inferrer) line(kind string, groups [][]*Part, level int) *Part {
	axis := axisOf(kind)
	if len(groups) == 1 {
		return in.read(groups[0])
	}
	gaps := gapsOf(groups, axis)
	most, least := slices.Max(gaps), slices.Min(gaps)
	flat := most-least > even && in.want(slices.Concat(groups...)) == kind+withoutInner
	if most-least <= even || level >= maxClose || flat {
		var children []*Part
		for _, g := range groups {
			children = append(children, in.read(g))
		}
		p := container(kind, children)
		if flat {
			p.Others = append(p.Others, Reading{kind + " with inner ones", chosen, true})
		}
		return p
	}
	// Cut at the widest step between gap sizes, so that nothing is nested deeper
	// than its gaps tell.
	sorted := slices.Clone(gaps)
	slices.Sort(sorted)
	limit, step := most, 0.0
	for i := 1; i < len(sorted); i++ {
		if d := sorted[i] - sorted[i-1]; d >= step {
			limit, step = sorted[i], d
		}
	}
	var children []*Part
	from := 0
	for i := range groups {
		if i == len(groups)-1 || gaps[i] >= limit-1e-9 {
			children = append(children, in.line(kind, groups[from:i+1], level+1))
			from = i + 1
		}
	}
	p := container(kind, children)
	p.Others = append(p.Others, Reading{kind + withoutInner, fmt.Sprintf("its gaps run from %s to %s px: what is closer belongs together", number(least), number(most)), true})
	return p
}

func axisOf(kind string) int {
	if kind == Stack {
		return 1
	}
	return 0
}

func gapsOf(groups [][]*Part, axis int) []float64 {
	var out []float64
	for i := 1; i < len(groups); i++ {
		at, size := boundsOf(groups[i-1]).along(axis)
		next, _ := boundsOf(groups[i]).along(axis)
		out = append(out, next-at-size)
	}
	return out
}

func largestGap(groups [][]*Part, axis int) float64 { return slices.Max(gapsOf(groups, axis)) }

// cell is what stands at one place of a matrix.
type cell struct {
	parts  []*Part
	bounds Rect
}

// cellsOf cuts every row into cells; nil when no row has two.
func cellsOf(rows [][]*Part) [][]cell {
	var out [][]cell
	several := false
	for _, row := range rows {
		var cells []cell
		for _, g := range cut(row, 0) {
			cells = append(cells, cell{g, boundsOf(g)})
		}
		several = several || len(cells) > 1
		out = append(out, cells)
	}
	if !several {
		return nil
	}
	return out
}

// matrix tells whether rows of cells are a grid or a wrapping row, and by what;
// else why they are not.
func (in *inferrer) matrix(cells [][]cell) (kind, why string) {
	columns := len(cells[0])
	if columns < 2 {
		return "", "its first row has one cell"
	}
	alike := true // the cells are copies of one thing
	for i, row := range cells {
		if len(row) > columns || len(row) < columns && i < len(cells)-1 {
			return in.ragged(cells, "its rows have different numbers of cells")
		}
		for _, c := range row {
			alike = alike && math.Abs(c.bounds.Height-cells[0][0].bounds.Height) <= 2*tolerance && len(c.parts) == len(cells[0][0].parts)
		}
	}
	for _, row := range cells[1:] {
		for j, c := range row {
			top := cells[0][j].bounds
			if math.Abs(c.bounds.X-top.X) > tolerance && math.Abs(c.bounds.right()-top.right()) > tolerance {
				return in.ragged(cells, "its cells do not line up in columns")
			}
		}
	}
	if down, across := tightest(cells); across > 4*down {
		return "", fmt.Sprintf("its columns are %s px apart, its rows %s px", number(across), number(down))
	}
	if !alike && (len(cells) < 3 || len(cells[len(cells)-1]) < columns) {
		return "", "its cells differ and there are only two rows"
	}
	return Grid, "their columns"
}

// tightest gives the least gap between rows and between cells side by side.
func tightest(cells [][]cell) (down, across float64) {
	down, across = math.Inf(1), math.Inf(1)
	low := math.Inf(-1)
	for i, row := range cells {
		top, bottom := math.Inf(1), math.Inf(-1)
		for j, c := range row {
			top, bottom = min(top, c.bounds.Y), max(bottom, c.bounds.bottom())
			if j > 0 {
				across = min(across, c.bounds.X-row[j-1].bounds.right())
			}
		}
		if i > 0 {
			down = min(down, top-low)
		}
		low = bottom
	}
	return max(down, 1), across
}

// ragged tells whether rows that do not line up are one row that wraps: equal
// gaps and heights, one left edge, and no room for the next item before it
// wrapped.
func (in *inferrer) ragged(cells [][]cell, why string) (string, string) {
	var gaps []float64
	count, right := 0, math.Inf(-1)
	first := cells[0][0].bounds
	for _, row := range cells {
		if math.Abs(row[0].bounds.X-first.X) > tolerance {
			return "", why
		}
		for j, c := range row {
			count++
			right = max(right, c.bounds.right())
			if math.Abs(c.bounds.Height-first.Height) > 2*tolerance {
				return "", why
			}
			if j > 0 {
				gaps = append(gaps, c.bounds.X-row[j-1].bounds.right())
			}
		}
	}
	if count < 4 || len(gaps) == 0 || slices.Max(gaps)-slices.Min(gaps) > even {
		return "", why
	}
	for i, row := range cells[1:] {
		last := cells[i][len(cells[i])-1].bounds
		if last.right()+slices.Min(gaps)+row[0].bounds.Width < right-tolerance {
			return "", why
		}
	}
	return Wrap, "gaps and heights, and the next item never fitted"
}

// lines makes a grid or wrapping row of cells.
func (in *inferrer) lines(kind string, cells [][]cell) *Part {
	var children []*Part
	for _, row := range cells {
		for _, c := range row {
			children = append(children, in.read(c.parts))
		}
	}
	p := container(kind, children)
	p.Columns = len(cells[0])
	return p
}

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
		return in.over(base, [][]*Part{sorted[1:]})
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
		p := container(kind, children)
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
	p := &Part{Kind: Overlay, Bounds: base.Bounds, tight: base.Bounds, order: base.order, Children: []*Part{base}}
	for _, l := range layers {
		if len(l) == 0 {
			continue
		}
		top := in.read(l)
		p.order = min(p.order, top.order)
		p.Children = append(p.Children, top)
	}
	return p
}
