package layout

import (
	"math"
	"slices"
)

// cell is what stands at one place of a matrix.
type cell struct {
	parts  []*Part
	bounds Rect
	row    int
	column int
}

// Edges of cells by which a column lines up.
const (
	byStart  = "start"
	byCenter = "center"
	byEnd    = "end"
	byBoth   = "both" // all are of one width
)

// matrix is rows of cells that stand in columns, over all rows.
type matrix struct {
	rows    [][]cell
	columns []column
	blank   bool // some row leaves a place empty before its last cell
	short   bool // the last rows have fewer cells
	ragged  bool // columns end before the last row, and nothing else is blank
}

type column struct {
	cells    []*cell
	from, to float64 // what its cells cover
	widest   float64
	by       string // the edge that lines up; empty when none does
}

// cellsOf cuts every row into cells; nil when no row has two.
func cellsOf(rows [][]*Part) [][]cell {
	out := make([][]cell, len(rows))
	several := false
	for i, row := range rows {
		groups := cut(row, 0)
		cells := make([]cell, len(groups))
		for j, g := range groups {
			cells[j] = cell{parts: g, bounds: boundsOf(g)}
		}
		several = several || len(cells) > 1
		out[i] = cells
	}
	if !several {
		return nil
	}
	return out
}

// matrixOf finds the columns that cells of rows stand in: where they leave room through all rows. nil
// when two cells of a row would share a column, or there is only one.
func matrixOf(cells [][]cell) *matrix {
	var all []*cell
	for i := range cells {
		for j := range cells[i] {
			cells[i][j].row = i
			all = append(all, &cells[i][j])
		}
	}
	slices.SortFunc(all, func(a, b *cell) int {
		switch {
		case a.bounds.X < b.bounds.X:
			return -1
		case a.bounds.X > b.bounds.X:
			return 1
		}
		return 0
	})
	m := &matrix{rows: cells}
	end := math.Inf(-1)
	for _, c := range all {
		if c.bounds.X >= end-tolerance || len(m.columns) == 0 {
			m.columns = append(m.columns, column{from: c.bounds.X})
		}
		k := len(m.columns) - 1
		c.column = k
		end = max(end, c.bounds.right())
		m.columns[k].to = end
		m.columns[k].widest = max(m.columns[k].widest, c.bounds.Width)
	}
	if len(m.columns) < 2 {
		return nil
	}
	for i, row := range cells {
		for j := 1; j < len(row); j++ {
			if row[j].column == row[j-1].column {
				if joined := joinedInColumns(cells); joined != nil {
					return matrixOf(joined)
				}
				return nil
			}
		}
		filled := len(row) > 0 && row[len(row)-1].column == len(row)-1
		m.blank = m.blank || !filled
		m.short = m.short || len(row) < len(m.columns) && i < len(cells)-1
	}
	if joined := m.joined(); joined != nil {
		return matrixOf(joined)
	}
	for i := range m.rows {
		for j := range m.rows[i] {
			c := &m.rows[i][j]
			m.columns[c.column].cells = append(m.columns[c.column].cells, c)
		}
	}
	m.ragged = m.short || m.blank
	for k := range m.columns {
		c := &m.columns[k]
		c.by = m.edge(k)
		m.ragged = m.ragged && c.cells[len(c.cells)-1].row == len(c.cells)-1
	}
	return m
}

// joinGap is how near, px, a picture stands to the text it belongs to: common practice, no source.
const joinGap = 16

// joinedInColumns joins small pictures to the texts beside them that stand in the same column; nil when others do.
func joinedInColumns(cells [][]cell) [][]cell {
	out := make([][]cell, len(cells))
	for i, row := range cells {
		for j, c := range row {
			if j == 0 || c.column != row[j-1].column {
				out[i] = append(out[i], c)
				continue
			}
			last := &out[i][len(out[i])-1]
			if c.bounds.X-last.bounds.right() > joinGap || last.parts[0].Text || last.bounds.Width > largestMark || len(c.parts) > 1 || !c.parts[0].Text {
				return nil
			}
			last.parts, last.bounds = slices.Concat(last.parts, c.parts), last.bounds.join(c.bounds)
		}
	}
	return out
}

// joined gives the cells with small pictures joined to the texts that stand beside them at one distance in all rows; nil
// when there are none. They are one cell.
func (m *matrix) joined() [][]cell {
	if m.blank || m.short || len(m.columns) < 3 {
		return nil
	}
	for k := 1; k < len(m.columns); k++ {
		least, most, fits := math.Inf(1), math.Inf(-1), true
		for _, row := range m.rows {
			if len(row) != len(m.columns) {
				return nil
			}
			gap := row[k].bounds.X - row[k-1].bounds.right()
			least, most = min(least, gap), max(most, gap)
			p := row[k-1].parts[0]
			fits = fits && !p.Text && row[k-1].bounds.Width <= largestMark && row[k-1].bounds.Height <= largestMark && row[k].parts[0].Text && len(row[k].parts) == 1
		}
		if !fits || most-least > even || most > joinGap {
			continue
		}
		out := make([][]cell, len(m.rows))
		for i, row := range m.rows {
			for j, c := range row {
				if j == k {
					last := &out[i][len(out[i])-1]
					last.parts, last.bounds = slices.Concat(last.parts, c.parts), last.bounds.join(c.bounds)
					continue
				}
				out[i] = append(out[i], c)
			}
		}
		return out
	}
	return nil
}

// edge tells by which edge the cells of a column line up.
func (m *matrix) edge(k int) string {
	low, high := [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	m.each(k, func(c *cell) {
		for e, at := range [3]float64{c.bounds.X, c.bounds.right(), c.bounds.X + c.bounds.Width/2} {
			low[e], high[e] = min(low[e], at), max(high[e], at)
		}
	})
	start, end, center := high[0]-low[0], high[1]-low[1], high[2]-low[2]
	switch {
	case start <= tolerance && end <= tolerance:
		return byBoth
	case start <= tolerance && start <= center+0.5:
		return byStart
	case end <= tolerance && end <= center+0.5:
		return byEnd
	case center <= tolerance:
		if m.framed(k) {
			return byBoth
		}
		return byCenter
	}
	return ""
}

// framed tells whether most cells of a column are as wide as it: the others stand in their middle.
func (m *matrix) framed(k int) bool {
	count, wide := 0, 0
	m.each(k, func(c *cell) {
		if count++; c.bounds.Width >= m.columns[k].widest-tolerance && !c.parts[0].Text {
			wide++
		}
	})
	return 2*wide > count
}

func (m *matrix) each(k int, visit func(c *cell)) {
	for _, c := range m.columns[k].cells {
		visit(c)
	}
}

// linesUp tells whether every column has an edge that lines up, and so has every row.
func (m *matrix) linesUp() bool {
	for _, row := range m.rows {
		if !level(row) {
			return false
		}
	}
	return !slices.ContainsFunc(m.columns, func(c column) bool { return c.by == "" })
}

// level tells whether cells side by side have their tops, middles or bottoms in a line.
func level(row []cell) bool {
	low, high := [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, [3]float64{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
	for _, c := range row {
		for e, at := range [3]float64{c.bounds.Y, c.bounds.bottom(), c.bounds.Y + c.bounds.Height/2} {
			low[e], high[e] = min(low[e], at), max(high[e], at)
		}
	}
	return min(high[0]-low[0], high[1]-low[1], high[2]-low[2]) <= 2*tolerance
}

func (m *matrix) center(k int) float64 { return (m.columns[k].from + m.columns[k].to) / 2 }

// size is the size of a row's type; 0 for none.
func (m *matrix) size(i int) float64 {
	for _, c := range m.rows[i] {
		if p := c.parts[0]; p.Text && p.layer != nil && p.layer.Text != nil {
			return p.layer.Text.FontSize
		}
	}
	return 0
}

// pitch is how far rows are apart from top to top, and how high they are, in the middle of all.
func (m *matrix) pitch() (down, height float64) {
	var steps, heights []float64
	top := math.Inf(1)
	for _, row := range m.rows {
		first, low := math.Inf(1), math.Inf(-1)
		for _, c := range row {
			first, low = min(first, c.bounds.Y), max(low, c.bounds.bottom())
		}
		heights = append(heights, low-first)
		if !math.IsInf(top, 1) {
			steps = append(steps, first-top)
		}
		top = first
	}
	return median(steps), median(heights)
}
