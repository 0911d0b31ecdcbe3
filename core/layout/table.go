package layout

import (
	"fmt"
	"math"
	"slices"
	"unicode"

	"cobrik/core/design"
)

// alike tells whether all cells are copies of one thing: as high, of as many layers, and alike in looks.
func (m *matrix) alike() bool {
	first := m.rows[0][0]
	is := look(first.parts)
	for i := range m.rows {
		for j := range m.rows[i] {
			c := &m.rows[i][j]
			if math.Abs(c.bounds.Height-first.bounds.Height) > 2*tolerance || len(c.parts) != len(first.parts) || look(c.parts) != is {
				return false
			}
		}
	}
	return true
}

// explained tells whether each row stands as it does by itself, so that no columns need be shared:
// its gaps are the same in all rows but for one, after which everything keeps to the far end.
func (m *matrix) explained() bool { return m.alone() != "" }

// alone says how rows stand by themselves: with one gap, or with their ends apart; empty when they do not.
func (m *matrix) alone() string {
	if m.blank {
		return ""
	}
	wide := -1
	for k := 1; k < len(m.columns); k++ {
		least, most, count := math.Inf(1), math.Inf(-1), 0
		for _, row := range m.rows {
			if k < len(row) {
				gap := row[k].bounds.X - row[k-1].bounds.right()
				least, most, count = min(least, gap), max(most, gap), count+1
			} else if len(row) > 1 && k > 1 {
				return ""
			}
		}
		if count < 2 {
			return ""
		}
		if most-least > even {
			if wide >= 0 {
				return ""
			}
			wide = k
		}
	}
	if wide < 0 {
		return "one gap"
	}
	last := m.columns[len(m.columns)-1]
	// What takes most of the row is no switch at its end, but a field beside its label.
	far := last.to - m.columns[wide].from
	if (last.by == byEnd || last.by == byBoth) && far < last.to-m.columns[0].from-far {
		return "ends apart"
	}
	return ""
}

// looks is what something is by what it shows: the rows of cards look alike, the columns of tables do.
type looks struct {
	kind         design.Kind // Image for all kinds of pictures; empty for a container
	size, weight float64     // of a text's type
}

// look says what a cell is by what it shows first.
func look(parts []*Part) looks {
	lowest := parts[0]
	for _, p := range parts {
		if p.order < lowest.order {
			lowest = p
		}
	}
	return lookOf(lowest)
}

func lookOf(p *Part) looks {
	switch {
	case p.layer == nil:
		return looks{}
	case p.Text && p.layer.Text != nil:
		return looks{design.Text, p.layer.Text.FontSize, p.layer.Text.FontWeight}
	case p.layer.Kind == design.Box:
		return looks{kind: design.Box}
	}
	return looks{kind: design.Image}
}

// rowsLookAlike tells whether the cells of each row look alike and rows differ, as in things side by side that
// are each a picture, a title and a price.
func (m *matrix) rowsLookAlike() bool {
	var first looks
	differ := false
	for i, row := range m.rows {
		of := look(row[0].parts)
		for _, c := range row[1:] {
			if look(c.parts) != of {
				return false
			}
		}
		if i == 0 {
			first = of
		}
		differ = differ || of != first
	}
	return differ
}

// columnsLookAlike tells whether the cells of each column look alike, and columns differ.
func (m *matrix) columnsLookAlike() bool {
	of := make([]looks, len(m.columns))
	for k := range m.columns {
		same, count := true, 0
		m.each(k, func(c *cell) {
			l := look(c.parts)
			same = same && (count == 0 || of[k] == l)
			of[k] = l
			count++
		})
		if !same {
			return false
		}
	}
	return slices.ContainsFunc(of, func(l looks) bool { return l != of[0] })
}

// airy is how many times a line's height the lines of a table stand apart at least: common practice, no source.
const airy = 1.5

// small is how wide the cells of a calendar or a pad of keys are at most, px: common practice, no source.
const small = 56

// table tells whether rows that line up are read as one grid, not as columns of their own.
func (m *matrix) table() bool {
	if m.tiny() {
		return true
	}
	if len(m.rows) < 2 || !m.full() {
		return false
	}
	differ, numbers, words := false, false, false
	for k, c := range m.columns {
		differ = differ || c.by != byBoth && c.by != m.columns[0].by && m.columns[0].by != byBoth
		if m.numeric(k) {
			numbers = true
		} else {
			words = true
		}
	}
	head, body := m.size(0), m.size(1)
	pictures := slices.ContainsFunc(m.rows, func(row []cell) bool { return look(row[0].parts).kind == design.Image })
	switch {
	case m.rowsLookAlike() && (len(m.rows) == 2 || pictures || head > body && body > 0):
		return false
	case differ || numbers && words || m.columnsLookAlike() || m.blank && m.headed():
		return true
	}
	if len(m.columns) == 2 && m.columns[1].from-m.columns[0].to <= gutter { // terms and what they say
		return true
	}
	down, height := m.pitch()
	return (len(m.rows) > 2 || len(m.columns) == 2) && down >= airy*height
}

// full tells whether the columns of a table hold cells in most rows: what stands beside the first of some
// lines is no cell.
func (m *matrix) full() bool {
	holes := 0
	for i := 1; i < len(m.rows)-1; i++ {
		if row := m.rows[i]; row[len(row)-1].column != len(row)-1 || len(row) < len(m.columns) {
			holes++
		}
	}
	if 4*holes > len(m.rows)-2 && !m.headed() {
		return false
	}
	for k := range m.columns {
		count := 0
		m.each(k, func(*cell) { count++ })
		if count < 2 {
			return false
		}
	}
	return true
}

// headed tells whether the first row names several columns whose cells stand in their middles, or fill them, as the days of
// a week do over what is done on some of them.
func (m *matrix) headed() bool {
	return len(m.columns) > 2 && len(m.rows[0]) == len(m.columns) &&
		!slices.ContainsFunc(m.columns, func(c column) bool { return c.by != byCenter && c.by != byBoth })
}

// period tells after how many columns the same steps between columns come again, as in two lists of terms side by side; 0
// when they do not, or all are alike.
func (m *matrix) period() int {
	n := len(m.columns)
	if m.blank && !m.ragged || m.short && !m.ragged || m.tiny() {
		return 0
	}
	for _, c := range m.columns {
		if c.by != byStart && c.by != byBoth {
			return 0
		}
	}
	pitch := func(j int) float64 { return m.columns[j+1].from - m.columns[j].from }
	for period := 2; 2*period <= n; period++ {
		if n%period != 0 {
			continue
		}
		again, even := true, true
		for j := 0; j+1 < n; j++ {
			even = even && math.Abs(pitch(j)-pitch(0)) <= 2*tolerance
			again = again && (j+1+period >= n || math.Abs(pitch(j+period)-pitch(j)) <= tolerance)
		}
		if again && !even {
			return period
		}
	}
	return 0
}

// tiny tells whether the cells are small, single and evenly spread, as days and keys are.
func (m *matrix) tiny() bool {
	if len(m.rows) < 3 || len(m.columns) < 3 {
		return false
	}
	for k, c := range m.columns {
		if c.by == "" || c.widest > small || k > 0 && k < len(m.columns)-1 && math.Abs(m.center(k+1)-2*m.center(k)+m.center(k-1)) > 2*tolerance {
			return false
		}
	}
	var is looks
	for i, row := range m.rows {
		for j := range row {
			l := look(row[j].parts)
			if len(row[j].parts) > 2 || i > 1 && l != is { // the first row may name the columns
				return false
			}
			is = l
		}
	}
	return true
}

// numeric tells whether all but the first cell of a column are numbers.
func (m *matrix) numeric(k int) bool {
	count, numbers := 0, 0
	m.each(k, func(c *cell) {
		if c.row == 0 {
			return
		}
		count++
		if p := c.parts[0]; p.Text && p.layer != nil && p.layer.Text != nil && isNumber(p.layer.Text.Content) {
			numbers++
		}
	})
	return count > 0 && numbers == count
}

// isNumber tells whether a text is a number, with what may stand around one: a unit, a currency, a percent sign.
func isNumber(text string) bool {
	digits, letters := 0, 0
	for _, r := range text {
		if unicode.IsDigit(r) {
			digits++
		} else if unicode.IsLetter(r) {
			letters++
		}
	}
	return digits > 0 && letters <= 3
}

// cards joins rows that stand close together into rows of things: nil when they are not as many in each, or do not look alike.
func cards(rows [][]*Part) [][]*Part {
	gaps := gapsOf(rows, 1)
	if len(gaps) < 3 || slices.Max(gaps)-slices.Min(gaps) <= even {
		return nil
	}
	limit := widestStep(gaps)
	var out [][]*Part
	var group []*Part
	count, each := 0, 0
	for i, row := range rows {
		group = append(group, row...)
		count++
		if i == len(rows)-1 || gaps[i] >= limit-1e-9 {
			if each != 0 && count != each {
				return nil
			}
			out, group, each, count = append(out, group), nil, count, 0
		}
	}
	if each < 2 || len(out) < 2 {
		return nil
	}
	return out
}

// sameInside tells whether the cells of a matrix hold the same different things, one below the other.
func (m *matrix) sameInside() bool {
	var first []looks
	for i := range m.rows {
		for j := range m.rows[i] {
			var is []looks
			for _, g := range cut(m.rows[i][j].parts, 1) {
				is = append(is, look(g))
			}
			if !slices.ContainsFunc(is, func(l looks) bool { return l != is[0] }) { // things of one kind are no card
				return false
			}
			if first != nil && !slices.Equal(is, first) {
				return false
			}
			first = is
		}
	}
	return true
}

// matrix tells whether rows of cells are a grid, a wrapping row or columns, and by what; else why they are not.
func (in *inferrer) matrix(rows [][]*Part) (kind string, m *matrix, why string) {
	if groups := cards(rows); groups != nil {
		if c := cellsOf(groups); c != nil {
			if m := matrixOf(c); m != nil && m.linesUp() && !m.blank && m.sameInside() && !(m.explained() && m.columns[len(m.columns)-1].by == byEnd) {
				return Grid, m, "the columns of what stands close together"
			}
		}
	}
	cells := cellsOf(rows)
	if cells == nil {
		return "", nil, ""
	}
	m = matrixOf(cells)
	if m == nil || !m.linesUp() {
		kind, why := in.ragged(cells, "its cells do not line up in columns")
		return kind, &matrix{rows: cells}, why
	}
	switch {
	case m.alike() && !m.blank && !m.short && !m.texts() && (len(rows) < 4 || evenGaps(rows)):
		if down, across := tightest(cells); across > 4*down {
			return "", m, fmt.Sprintf("its columns are %s px apart, its rows %s px", number(across), number(down))
		}
		return Grid, m, "their columns"
	case m.alone() == "ends apart" || m.alone() == "one gap" && !m.rowsLookAlike():
		return Stack, m, "each of its rows stands by itself"
	case m.period() > 0:
		return Row, m, "its columns come again after some"
	case m.table():
		return Grid, m, "their columns"
	case m.rowsLookAlike() && (!m.blank && !m.short || m.ragged):
		return Row, m, "what is in each column belongs together"
	}
	if kind, _ := in.ragged(cells, ""); kind != "" {
		return kind, m, "gaps and heights, and the next item never fitted"
	}
	return "", m, "its columns are read one by one"
}

// texts tells whether the cells are bare texts.
func (m *matrix) texts() bool {
	for _, row := range m.rows {
		for _, c := range row {
			if len(c.parts) > 1 || !c.parts[0].Text {
				return false
			}
		}
	}
	return true
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
	is := look(cells[0][0].parts)
	for _, row := range cells {
		for j := range row {
			if look(row[j].parts) != is {
				return "", why
			}
		}
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
func (in *inferrer) lines(kind string, m *matrix) *Part {
	var children []*Part
	next := 0 // the column that the flow of a grid goes on with
	for _, row := range m.rows {
		for _, c := range row {
			p := in.read(c.parts)
			if kind == Grid && c.column != next {
				p.Column = c.column + 1
			}
			p.column = c.column
			next = (c.column + 1) % max(1, len(m.columns))
			children = append(children, p)
		}
	}
	p := in.container(kind, children)
	if p.Columns = len(m.columns); kind == Grid {
		for _, c := range m.columns {
			p.by = append(p.by, c.by)
		}
	}
	return p
}
