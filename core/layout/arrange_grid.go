package layout

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/css"
)

// arrangeGrid finds a grid's tracks: equal shares of its width, else as wide as what is in them with one gap
// between, else widths of their own.
func arrangeGrid(p *Part) {
	if len(p.by) != p.Columns { // cells that tile a table
		p.by = slices.Repeat([]string{byBoth}, p.Columns)
		for i, c := range p.Children {
			c.column = i % p.Columns
		}
	}
	inner := p.inner()
	rows := p.gridRows()
	var lines []float64
	for i := 1; i < len(rows); i++ {
		lines = append(lines, boundsOf(rows[i]).Y-boundsOf(rows[i-1]).bottom())
	}
	p.Across, p.drawn = median(lines), &drawnGaps{across: lines}
	for i, line := range lines {
		if math.Abs(line-p.Across) > even {
			for _, c := range rows[i+1] {
				c.shift(1, whole(line-p.Across))
			}
		}
	}
	p.alignRows(rows)
	from, to := p.tracksOf(inner)
	for _, c := range p.Children {
		c.Width, c.Height = Content, Content
		if c.Kind == Leaf && !c.Text || c.keepsSize() {
			c.Width, c.Height = Fixed, Fixed
		}
		left, right := from[c.column], to[c.column]
		spans := c.Bounds.X <= left+tolerance && c.Bounds.right() >= right-tolerance && c.Bounds.Width <= right-left+2*tolerance
		if c.keepsSize() && spans {
			continue
		}
		if spans && !p.asContent(c.column) && (c.Kind != Leaf || p.definite(0) && !c.Text) {
			c.Width = Fill
			continue
		}
		track := Rect{X: left, Width: right - left}
		usual := byStart
		if by := p.by[c.column]; by == byCenter || by == byEnd {
			usual = by
		}
		for _, how := range []string{usual, byStart, byCenter, byEnd} {
			if beside(c.Bounds, track, 0, how) <= tolerance {
				if c.Self = how; how == byStart {
					c.Self = ""
				}
				break
			}
		}
		if c.Self == "" && beside(c.Bounds, track, 0, byStart) > tolerance {
			c.shift(0, whole(c.Bounds.X-left))
		}
	}
}

// Tracks gives a grid's columns in CSS.
func (p *Part) Tracks() string {
	if p.gridReading == nil {
		return ""
	}
	return p.tracks
}

// gridRows gives the cells row by row.
func (p *Part) gridRows() [][]*Part {
	var out [][]*Part
	last := p.Columns
	for _, c := range p.Children {
		if c.column <= last || len(out) == 0 {
			out = append(out, nil)
		}
		last = c.column
		out[len(out)-1] = append(out[len(out)-1], c)
	}
	return out
}

// alignRows finds how cells stand in the height of their row, by what most do.
func (p *Part) alignRows(rows [][]*Part) {
	votes := map[string]float64{}
	stretched := 0
	for _, row := range rows {
		b := boundsOf(row)
		for _, c := range row {
			if how := placeOf(c.Bounds, b, 1); how == Fill && c.Kind != Leaf {
				stretched++
			} else if how != Fill {
				votes[how] += 0.1 + min(beside(c.Bounds, b, 1, Fill), 2*tolerance)
			}
		}
	}
	p.Align = byStart
	for _, how := range []string{byStart, byCenter, byEnd} {
		if votes[how] > votes[p.Align] {
			p.Align = how
		}
	}
	if votes[p.Align] == 0 && stretched > 0 && p.lined != nil {
		p.Align = "stretch"
	}
}

// tracksOf finds a grid's tracks and the gap between them, and gives where each begins and ends.
func (p *Part) tracksOf(inner Rect) (from, to []float64) {
	starts, ends := columnEdges(p)
	n := p.Columns
	boxes := make([]Rect, n)
	for j := range n {
		boxes[j] = Rect{starts[j], 0, ends[j] - starts[j], 0}
	}
	if s, ok := dividing(boxes, func(j int) string { return p.by[j] }, inner, true); ok && p.definite(0) {
		p.Gap = s.gap
		from, to = make([]float64, n), make([]float64, n)
		for j := range n {
			from[j] = inner.X + float64(j)*(s.width+s.gap)
			to[j] = from[j] + s.width
		}
		p.tracks = "repeat(" + strconv.Itoa(n) + ", minmax(0, 1fr))"
		return from, to
	}
	var gaps []float64
	for j := 1; j < n; j++ {
		gaps = append(gaps, starts[j]-ends[j-1])
	}
	if p.lined == nil && slices.Max(gaps)-slices.Min(gaps) <= even && !slices.Contains(p.by, byCenter) && math.Abs(starts[0]-inner.X) <= tolerance {
		p.Gap, p.drawn.along = median(gaps), gaps
		words := slices.Repeat([]string{"max-content"}, n)
		for _, c := range p.Children { // what is painted is wider than its content
			if j := c.column; c.Layer != "" && c.Kind != Leaf && !c.keepsSize() && c.Bounds.Width >= ends[j]-starts[j]-tolerance {
				words[j] = css.FormatNumber(whole(ends[j]-starts[j])) + "px"
			}
		}
		if p.definite(0) && p.fills(n-1, inner) {
			words[n-1] = "minmax(0, 1fr)"
			ends[n-1] = inner.right()
		}
		p.tracks = strings.Join(words, " ")
		return starts, ends
	}
	return p.ownTracks(starts, ends, inner)
}

// asContent tells whether a column is as wide as what is in it.
func (p *Part) asContent(column int) bool {
	words := strings.Fields(p.tracks)
	return len(words) == p.Columns && words[column] == "max-content"
}

// fills tells whether a cell of a column is as wide as the room after its start.
func (p *Part) fills(column int, inner Rect) bool {
	return slices.ContainsFunc(p.Children, func(c *Part) bool {
		return c.column == column && c.Bounds.right() >= inner.right()-tolerance && (c.Kind != Leaf || c.paints())
	})
}

// ownTracks gives columns widths of their own, the widest what is left where the grid's width is settled.
func (p *Part) ownTracks(starts, ends []float64, inner Rect) (from, to []float64) {
	n := p.Columns
	begins := func(j int) bool { return p.by[j] == byStart || p.by[j] == byBoth }
	finishes := func(j int) bool { return p.by[j] == byEnd || p.by[j] == byBoth }
	p.Gap = columnGap
	for j := 1; j < n; j++ {
		p.Gap = min(p.Gap, max(0, starts[j]-ends[j-1]))
	}
	for j := 1; j < n; j++ { // where one ends and the next begins, the gap is drawn
		if gap := starts[j] - ends[j-1]; begins(j) && finishes(j-1) && gap <= gutter {
			p.Gap = max(0, gap)
			break
		}
	}
	p.Gap = whole(p.Gap)
	from, to = make([]float64, n), slices.Clone(ends)
	from[0] = starts[0]
	if p.definite(0) {
		from[0] = min(inner.X, starts[0])
	}
	for j := range n {
		if j > 0 {
			if from[j] = to[j-1] + p.Gap; begins(j) {
				from[j] = starts[j]
				if !finishes(j - 1) {
					to[j-1] = from[j] - p.Gap
				}
			}
		}
		if p.by[j] == byCenter {
			to[j] = starts[j] + ends[j] - from[j]
		}
		if j == n-1 && p.definite(0) && !finishes(j) && p.by[j] != byCenter {
			to[j] = inner.right()
		}
	}
	widest := 0
	for j := range n {
		if to[j]-from[j] > to[widest]-from[widest] {
			widest = j
		}
	}
	words := make([]string, n)
	for j := range n {
		words[j] = css.FormatNumber(whole(to[j]-from[j])) + "px"
		if j == widest && p.definite(0) && math.Abs(to[n-1]-inner.right()) <= tolerance {
			words[j] = "minmax(0, 1fr)"
		}
	}
	p.tracks = strings.Join(words, " ")
	return from, to
}

// columnGap is how wide the gap between a table's columns is taken to be at most, px, where widths of their own
// explain them as well: common practice, no source.
const columnGap = 16

// columnEdges gives what the cells of each of a grid's columns cover.
func columnEdges(p *Part) (starts, ends []float64) {
	if p.starts != nil {
		return p.starts, p.ends
	}
	starts, ends = slices.Repeat([]float64{math.Inf(1)}, p.Columns), slices.Repeat([]float64{math.Inf(-1)}, p.Columns)
	for _, c := range p.Children {
		starts[c.column] = min(starts[c.column], c.Bounds.X)
		ends[c.column] = max(ends[c.column], c.Bounds.right())
	}
	return starts, ends
}
