package layout

import (
	"math"

	"cobrik/core/design"
)

// shareColumns makes grids with the same columns of rows that follow one another in a stack and whose cells line up
// where no row explains it by itself: the rows of a table that are boxes of their own.
func (in *inferrer) shareColumns(p *Part, wanted string) {
	if wanted == Stack {
		return
	}
	for from := 0; from < len(p.Children); {
		first := cellsIn(p.Children[from])
		if len(first) < 2 {
			from++
			continue
		}
		rows, parts := [][]cell{first}, []*Part{p.Children[from]}
		to := from + 1
		for ; to < len(p.Children); to++ {
			next := cellsIn(p.Children[to])
			if len(next) != len(first) || !sameSpan(p.Children[to], p.Children[from]) {
				break
			}
			rows, parts = append(rows, next), append(parts, p.Children[to])
		}
		if len(rows) > 1 && len(rows)*len(first) > 4 {
			if m := matrixOf(rows); m != nil && len(m.columns) == len(first) && m.linesUp() && !m.short && !m.blank && m.alone() == "" {
				for i, row := range parts {
					row.beColumns(m, i)
				}
			}
		}
		from = to
	}
}

// sameSpan tells whether two boxes begin and end at the same places from left to right; without paint or lines they
// have no place to end.
func sameSpan(a, b *Part) bool {
	open := func(p *Part) bool { return p.Layer == "" && p.lines == [4]*design.Layer{} }
	return open(a) || open(b) || math.Abs(a.Bounds.X-b.Bounds.X) <= tolerance && math.Abs(a.Bounds.right()-b.Bounds.right()) <= tolerance
}

// cellsIn gives what stands side by side in a row; what is grouped there by closeness alone counts one by one.
func cellsIn(p *Part) []cell {
	if p.Kind != Row {
		return nil
	}
	var out []cell
	for _, c := range p.Children {
		if c.Kind == Row && c.Layer == "" && c.lines == [4]*design.Layer{} && c.pad == nil {
			out = append(out, cellsIn(c)...)
		} else {
			out = append(out, cell{parts: []*Part{c}, bounds: c.Bounds})
		}
	}
	return out
}

// beColumns makes a row a grid of one line, with the columns of a matrix.
func (p *Part) beColumns(m *matrix, row int) {
	p.Kind, p.Columns, p.Children, p.Others, p.gridReading = Grid, len(m.columns), nil, nil, &gridReading{}
	p.starts, p.ends = make([]float64, p.Columns), make([]float64, p.Columns)
	for k, c := range m.columns {
		p.by = append(p.by, c.by)
		p.starts[k], p.ends[k] = c.from, c.to
	}
	for j, c := range m.rows[row] {
		c.parts[0].column = j
		p.Children = append(p.Children, c.parts[0])
	}
}
