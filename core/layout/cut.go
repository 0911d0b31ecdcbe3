package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"
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
		return in.dressed(paint, rest)
	}
	return in.loose(parts, 0)
}

// root reads a whole drawing, whose bounds are those of a box.
func (in *inferrer) root(parts []*Part, bounds Rect) *Part {
	if len(parts) > 1 && background(parts) == nil {
		if p := in.bleeding(bounds, parts); p != nil {
			return p
		}
	}
	return in.read(parts)
}

// loose reads parts without a background, at a level of closeness.
func (in *inferrer) loose(parts []*Part, level int) *Part {
	if p := in.connected(parts); p != nil {
		return p
	}
	if p := in.divided(parts); p != nil {
		return p
	}
	rows, columns := cut(parts, 1), cut(parts, 0)
	if len(rows) == 1 && len(columns) == 1 {
		return in.overlap(parts)
	}
	wanted := in.want(parts)
	var others []Reading
	columnsFirst, rowsFirst := false, false
	if len(rows) > 1 {
		kind, m, why := in.matrix(rows)
		switch {
		case kind == Row:
			columnsFirst = len(columns) > 1
			if period := m.period(); period > 0 && len(columns) == len(m.columns) {
				var joined [][]*Part
				for j := 0; j < len(columns); j += period {
					joined = append(joined, slices.Concat(columns[j:j+period]...))
				}
				columns = joined
			}
		case kind == Stack:
			rowsFirst = true
		case kind != "" && (!restructures(wanted) || wanted == kind):
			p := in.lines(kind, m)
			p.Others = append(p.Others, Reading{Stack, "its rows share " + why, true})
			if len(columns) > 1 && kind == Grid {
				p.Others = append(p.Others, Reading{Row, "its rows share " + why, true})
			}
			return p
		case kind != "":
			others = append(others, Reading{kind, chosen, true})
		case why != "":
			others = append(others, Reading{Grid, why, false})
		}
	}
	switch {
	case restructures(wanted) || columnsFirst:
	case len(rows) > 2:
		before := len(rows)
		rows = in.gridsAmong(rows)
		rowsFirst = rowsFirst || len(rows) < before && len(rows) > 1
	case len(rows) == 1 && len(columns) > 2:
		columns = in.gridsBeside(columns)
	}
	var p *Part
	switch {
	case len(columns) == 1:
		p = in.line(Stack, rows, level)
	case len(rows) == 1:
		p = in.line(Row, columns, level)
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
		if columnsFirst {
			byColumns, why = true, "what stands in each column belongs together"
		}
		if rowsFirst || byColumns && !columnsFirst && (lastAlone(rows, columns) || !sideBySide(rows, columns)) {
			byColumns, why = false, "each of its rows stands by itself"
		}
		if (wanted == Row || wanted == Stack) && byColumns != (wanted == Row) {
			byColumns, why = wanted == Row, chosen
		}
		if byColumns {
			p = in.line(Row, columns, level)
			if onlyLines := func(row []*Part) bool { return len(row) == 1 && row[0].thin(0) }; !slices.ContainsFunc(rows, onlyLines) {
				others = append(others, Reading{Stack, why, true})
			}
		} else {
			p = in.line(Stack, rows, level)
			others = append(others, Reading{Row, why, true})
		}
	}
	p.Others = append(p.Others, others...)
	if p.Kind == Stack {
		in.shareColumns(p, wanted)
	}
	return p
}

// restructures tells whether a chosen reading changes what is in which container, not only how that is spread.
func restructures(reading string) bool {
	return slices.Contains([]string{Stack, Row, Grid, Wrap, Overlay}, reading) || strings.HasSuffix(reading, withoutInner)
}

// gridsAmong joins rows that follow one another and are a grid, below a heading or above a row of buttons.
func (in *inferrer) gridsAmong(rows [][]*Part) [][]*Part {
	var out [][]*Part
	for from := 0; from < len(rows); {
		first := cut(rows[from], 0)
		to := from + 1
		for ; len(first) > 1 && to < len(rows) && standsUnder(first, rows[to]); to++ {
		}
		run := rows[from:to]
		if len(run) > 1 && len(run) < len(rows) && evenGaps(run) {
			if kind, _, _ := in.matrix(run); kind != "" && kind != Stack {
				run = [][]*Part{slices.Concat(run...)}
			}
		}
		out = append(out, run...)
		from = to
	}
	return out
}

// gridsBeside joins columns that follow one another and are a grid, beside something as high as all of it.
func (in *inferrer) gridsBeside(columns [][]*Part) [][]*Part {
	var out [][]*Part
	for from := 0; from < len(columns); {
		to := from
		for to < len(columns) && len(columns[to]) > 1 && len(cut(columns[to], 1)) > 1 {
			to++
		}
		run := columns[from:max(to, from+1)]
		if len(run) > 1 && len(run) < len(columns) {
			all := slices.Concat(run...)
			if rows := cut(all, 1); len(rows) > 1 {
				if kind, _, _ := in.matrix(rows); kind == Grid {
					run = [][]*Part{all}
				}
			}
		}
		out = append(out, run...)
		from = max(to, from+1)
	}
	return out
}

func evenGaps(rows [][]*Part) bool {
	gaps := gapsOf(rows, 1)
	return slices.Max(gaps)-slices.Min(gaps) <= even
}

// standsUnder tells whether each cell of a row begins, ends or has its middle where one of the row above does.
func standsUnder(above [][]*Part, row []*Part) bool {
	cells := cut(row, 0)
	if len(cells) < 2 && len(above) > 2 || len(cells) > len(above) {
		return false
	}
	for _, c := range cells {
		b := boundsOf(c)
		if !slices.ContainsFunc(above, func(g []*Part) bool {
			a := boundsOf(g)
			return math.Abs(a.X-b.X) <= tolerance || math.Abs(a.right()-b.right()) <= tolerance || math.Abs(a.X+a.Width/2-b.X-b.Width/2) <= tolerance
		}) {
			return false
		}
	}
	return true
}

// sideBySide tells whether anything left of the widest gap between columns stands in a row with something right of it.
func sideBySide(rows, columns [][]*Part) bool {
	gaps := gapsOf(columns, 0)
	at := slices.Index(gaps, slices.Max(gaps)) + 1
	from := boundsOf(slices.Concat(columns[at:]...)).X - tolerance
	return slices.ContainsFunc(rows, func(row []*Part) bool {
		left, right := false, false
		for _, p := range row {
			left, right = left || p.Bounds.X < from, right || p.Bounds.X >= from
		}
		return left && right
	})
}

// lastAlone tells whether all columns but the first have something in the last row alone, level with what they stand beside.
func lastAlone(rows, columns [][]*Part) bool {
	if len(rows) < 2 || len(columns) < 2 {
		return false
	}
	b := boundsOf(slices.Concat(columns[1:]...))
	for _, row := range rows[:len(rows)-1] {
		for _, p := range row {
			if p.Bounds.X >= b.X-tolerance {
				return false
			}
		}
	}
	var beside []*Part
	for _, p := range rows[len(rows)-1] {
		if p.Bounds.X < b.X-tolerance {
			beside = append(beside, p)
		}
	}
	return len(beside) > 0 && level([]cell{{bounds: boundsOf(beside)}, {bounds: b}})
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

// container makes a container around children in drawing order along an axis.
func (in *inferrer) container(kind string, children []*Part) *Part {
	p := in.part()
	p.Kind, p.Children, p.tight, p.order, p.rank = kind, children, boundsOf(children), children[0].order, children[0].rank
	p.Bounds = p.tight
	for _, c := range children {
		p.order = min(p.order, c.order)
		p.rank = [2]int32{min(p.rank[0], c.rank[0]), min(p.rank[1], c.rank[1])}
	}
	if kind == Grid {
		p.gridReading = &gridReading{}
	}
	return p
}

// even is how far gaps of one container may differ: each of two edges may be
// half a pixel or a whole one beside its place.
const even = 3.0

const maxClose = 4

// Readings of a stack or row with containers in it that nothing is painted for.
const (
	withoutInner = " without inner ones"
	withInner    = " with inner ones"
)

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
	flat := most-least > even && len(in.choices) > 0 && in.want(slices.Concat(groups...)) == kind+withoutInner
	if most-least <= even || level >= maxClose || flat || kind == Row && evenly(groups) {
		var children []*Part
		for _, g := range groups {
			children = append(children, in.read(g))
		}
		p := in.container(kind, children)
		if flat {
			p.Others = append(p.Others, Reading{kind + withInner, chosen, true})
		}
		return p
	}
	// Cut at the widest step between gap sizes, so that nothing is nested deeper
	// than its gaps tell.
	limit := widestStep(gaps)
	for outer := gaps; ; limit = widestStep(outer) { // the gaps between what is grouped are not clearly unlike either
		outer = slices.DeleteFunc(slices.Clone(outer), func(g float64) bool { return g < limit-1e-9 })
		if most, least := slices.Max(outer), slices.Min(outer); most-least <= 2*even || most < clearly*least {
			break
		}
	}
	var children []*Part
	from := 0
	for i := range groups {
		if i == len(groups)-1 || gaps[i] >= limit-1e-9 {
			if i == from {
				children = append(children, in.read(groups[i]))
			} else {
				children = append(children, in.loose(slices.Concat(groups[from:i+1]...), level+1))
			}
			from = i + 1
		}
	}
	p := in.container(kind, children)
	p.Others = append(p.Others, Reading{kind + withoutInner, fmt.Sprintf("its gaps run from %s to %s px: what is closer belongs together", number(least), number(most)), true})
	return p
}

// evenly tells whether groups begin, or have their middles, at equal steps, as columns of one width do.
func evenly(groups [][]*Part) bool {
	if len(groups) < 3 {
		return false
	}
	starts, middles := true, true
	for i := 2; i < len(groups); i++ {
		a, b, c := boundsOf(groups[i-2]), boundsOf(groups[i-1]), boundsOf(groups[i])
		starts = starts && math.Abs(a.X-2*b.X+c.X) <= tolerance
		middles = middles && math.Abs(a.X+a.Width/2-2*b.X-b.Width+c.X+c.Width/2) <= tolerance
	}
	return starts || middles
}

// clearly is how many times as large as another a gap is that tells groups of groups apart: common practice, no source.
const clearly = 1.5

// widestStep is the smallest of the gaps above the widest step between their sizes.
func widestStep(gaps []float64) float64 {
	sorted := slices.Clone(gaps)
	slices.Sort(sorted)
	limit, step := sorted[len(sorted)-1], 0.0
	for i := 1; i < len(sorted); i++ {
		if d := sorted[i] - sorted[i-1]; d >= step {
			limit, step = sorted[i], d
		}
	}
	return limit
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
