package layout

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"cobrik/core/design"
)

// Lines between things are borders of what stands beside them; pieces of line between marks belong to the marks.

// thickest is how thick a line is at most, px.
const thickest = 4.0

// thin tells whether a leaf is a line along an axis.
func (p *Part) thin(axis int) bool {
	_, long := p.Bounds.along(axis)
	_, thick := p.Bounds.along(1 - axis)
	if p.Kind != Leaf || thick > thickest || long < 3*thick || long < 8 || p.layer == nil {
		return false
	}
	_, straight := lineOver(p.layer)
	return straight
}

// lineOver gives the colour of a layer that is one plain line.
func lineOver(l *design.Layer) (colour string, ok bool) {
	switch {
	case l.Kind == design.Box && l.Stroke == nil && len(l.Fills) == 0 && len(l.Shadows) == 0 && l.Fill != "":
		return l.Fill, true
	case l.Kind == design.Vector && l.Vector != nil && len(l.Vector.Paths) == 1:
		s := l.Vector.Paths[0].Stroke
		return s.Color, s.Width > 0 && s.Color != "" && s.Dash == ""
	}
	return "", false
}

// linesAmong tells the lines along an axis from the rest; without any, there is no rest either.
func linesAmong(parts []*Part, axis int) (lines, rest []*Part) {
	if !slices.ContainsFunc(parts, func(p *Part) bool { return p.thin(axis) }) {
		return nil, nil
	}
	for _, p := range parts {
		if p.thin(axis) {
			lines = append(lines, p)
		} else {
			rest = append(rest, p)
		}
	}
	return lines, rest
}

// divided reads parts that lines from side to side divide: a line is the border of what stands before it. nil
// where no line does.
func (in *inferrer) divided(parts []*Part) *Part {
	lines, rest := linesAmong(parts, 0)
	if len(lines) == 0 || len(rest) == 0 {
		return nil
	}
	span := boundsOf(rest)
	across := lines[:0:0]
	for _, l := range lines {
		if l.Bounds.X <= span.X+tolerance && l.Bounds.right() >= span.right()-tolerance && l.Bounds.Height <= thickest/2+0.5 {
			across = append(across, l)
		} else {
			rest = append(rest, l)
		}
	}
	rows := cut(rest, 1)
	for range maxTangledLines {
		var free []*Part
		bounds := make([]Rect, len(rows))
		for i, row := range rows {
			bounds[i] = boundsOf(row)
		}
		for _, l := range across {
			if liesOver(l, bounds) {
				rest = append(rest, l)
			} else {
				free = append(free, l)
			}
		}
		if len(free) == 0 {
			return nil
		}
		if len(free) == len(across) {
			break
		}
		across, rows = free, cut(rest, 1)
	}
	slices.SortFunc(across, func(a, b *Part) int { return cmp.Compare(a.Bounds.Y, b.Bounds.Y) })
	sections := make([][][]*Part, len(across)+1)
	i := 0
	for _, row := range rows {
		b := boundsOf(row)
		for i < len(across) && b.Y+b.Height/2 > across[i].Bounds.Y+across[i].Bounds.Height/2 {
			i++
		}
		sections[i] = append(sections[i], row)
	}
	for i := 1; i < len(across); i++ {
		if len(sections[i]) == 0 { // two lines with nothing between
			return nil
		}
	}
	if groups := apartFrom(across, sections); groups != nil {
		return in.line(Stack, groups, 0)
	}
	d := division{in: in, lines: across, sections: sections, span: span, before: make([][][]*Part, len(sections))}
	for _, l := range across {
		d.span = d.span.join(Rect{l.Bounds.X, d.span.Y, l.Bounds.Width, 0})
	}
	return d.read()
}

// apartFrom gives the rows of a list with lines as one group, and those that stand before and after it, further apart than
// lines from rows, as others; nil when there are none, or fewer than two lines.
func apartFrom(lines []*Part, sections [][][]*Part) [][]*Part {
	if len(lines) < 2 {
		return nil
	}
	reach := 0.0 // the furthest a row is from a line in the middle
	for i := 1; i < len(lines); i++ {
		all := boundsOf(slices.Concat(sections[i]...))
		reach = max(reach, all.Y-lines[i-1].Bounds.bottom(), lines[i].Bounds.Y-all.bottom())
	}
	apart := func(gap float64) bool { return gap > 1.5*reach+even }
	first, last := sections[0], sections[len(lines)]
	from, to := len(first), 0
	for from > 0 && (from == len(first) || !apart(gapsOf(first[from-1:from+1], 1)[0])) {
		from--
	}
	for to < len(last) && (to == 0 || !apart(gapsOf(last[to-1:to+1], 1)[0])) {
		to++
	}
	if from == 0 && to == len(last) {
		return nil
	}
	list := slices.Clone(lines)
	list = append(list, slices.Concat(first[from:]...)...)
	for _, s := range sections[1:len(lines)] {
		list = append(list, slices.Concat(s...)...)
	}
	list = append(list, slices.Concat(last[:to]...)...)
	groups := slices.Clone(first[:from])
	groups = append(groups, list)
	return append(groups, last[to:]...)
}

// maxTangledLines bounds how often lines that lie over something join rows, over which others then lie.
const maxTangledLines = 4

// liesOver tells whether a line lies over one of rows, which follow one another downwards.
func liesOver(line *Part, rows []Rect) bool {
	middle := line.Bounds.Y + line.Bounds.Height/2
	at := sort.Search(len(rows), func(i int) bool { return rows[i].bottom() > middle+1.5 })
	return at < len(rows) && rows[at].Y < middle-1.5
}

// division is sections with lines between, before or after them.
type division struct {
	in       *inferrer
	lines    []*Part
	sections [][][]*Part // rows; one more than lines, the first and the last may be empty
	span     Rect        // horizontally, what lines and sections cover
	before   [][][]*Part // rows that stand before those a line belongs to
}

// singleOut gives a line that follows several rows to the last of them, where others follow single rows.
func (d *division) singleOut() {
	for i := range d.lines {
		if rows := d.sections[i]; len(rows) > 1 {
			d.before[i], d.sections[i] = rows[:len(rows)-1], rows[len(rows)-1:]
		}
	}
}

func (d *division) section(i int) Rect { return boundsOf(slices.Concat(d.sections[i]...)) }

// room gives the distances between lines and what they divide: above and below each, as far as there is something.
func (d *division) room() (above, below []float64) {
	for i, l := range d.lines {
		if len(d.sections[i]) > 0 {
			above = append(above, l.Bounds.Y-d.section(i).bottom())
		}
		if len(d.sections[i+1]) > 0 && (i > 0 || len(d.sections[0]) > 0) { // what is above all belongs to none of the rows
			below = append(below, d.section(i+1).Y-l.Bounds.bottom())
		}
	}
	return above, below
}

func (d *division) read() *Part {
	above, below := d.room()
	spread := func(v []float64) bool { return len(v) > 1 && slices.Max(v)-slices.Min(v) <= even }
	regular := spread(above) && spread(below) || len(above) > 1 && spread(above) && len(below) == 1
	up, down := max(0, median(above)), max(0, median(below)) // to the line below, from the line above
	if regular {
		if p := d.table(up, down); p != nil {
			return p
		}
	}
	var children []*Part
	if !regular && len(d.lines) > 1 {
		d.singleOut()
	}
	bottom := math.NaN() // of what came before
	for i, rows := range d.sections {
		if len(rows) == 0 {
			continue
		}
		p := d.in.read(slices.Concat(rows...))
		if d.before[i] != nil {
			children = append(children, d.in.read(slices.Concat(d.before[i]...)))
		}
		lined := regular || i < len(d.lines) || i > 0 && len(d.sections[i-1]) == 0
		if !lined && p.Bounds.X-d.span.X <= tolerance {
			bottom = p.Bounds.bottom()
			children = append(children, p)
			continue
		}
		p = d.in.bare(p)
		edge := p.Bounds
		p.Bounds.X, p.Bounds.Width = d.span.X, d.span.Width
		pad := Sides{Left: max(0, whole(edge.X-d.span.X)), Right: max(0, whole(d.span.right()-edge.right()))}
		if p.tight.X-edge.X > 0.5 || p.Kind == Row && p.tight.Width < d.span.Width-tolerance { // it has room of its own
			pad.Right = min(pad.Left, pad.Right)
		}
		if pad.Right-pad.Left > tolerance {
			pad.Right = pad.Left
		}
		if i < len(d.lines) { // a line below
			l := d.lines[i]
			p.lines[2] = l.layer
			pad.Bottom = max(0, whole(l.Bounds.Y-edge.bottom()))
			p.Bounds.Height = l.Bounds.bottom() - p.Bounds.Y
			if regular {
				pad.Bottom = usual(pad.Bottom, up)
			}
		}
		if i > 0 && len(d.sections[i-1]) == 0 { // a line above that nothing stands before
			l := d.lines[i-1]
			p.lines[0] = l.layer
			pad.Top = max(0, whole(edge.Y-l.Bounds.bottom()))
			p.Bounds.Height += p.Bounds.Y - l.Bounds.Y
			p.Bounds.Y = l.Bounds.Y
		} else if regular && !math.IsNaN(bottom) {
			pad.Top = usual(max(0, whole(edge.Y-bottom)), down)
			p.Bounds.Height += p.Bounds.Y - bottom
			p.Bounds.Y = bottom
		}
		e := p.edge()
		p.pad = &Sides{pad.Top + e.Top, pad.Right + e.Right, pad.Bottom + e.Bottom, pad.Left + e.Left}
		bottom = p.Bounds.bottom()
		children = append(children, p)
	}
	if len(children) == 1 {
		return children[0]
	}
	out := d.in.container(Stack, children)
	d.in.shareColumns(out, "")
	if regular {
		out.lined = &Sides{Top: down, Bottom: up}
	}
	return out
}

// usual gives a row the distance from its line that the others have, unless its own is clearly another: a row of
// headings is often.
func usual(own, others float64) float64 {
	if math.Abs(own-others) <= 1 {
		return others
	}
	return own
}

// bare is a container without paint or lines of its own around a part, or the part where it is one.
func (in *inferrer) bare(p *Part) *Part {
	if p.Kind == Leaf || p.Kind == Overlay || p.Layer != "" || p.lines != [4]*design.Layer{} || p.pad != nil {
		return in.container(Stack, []*Part{p})
	}
	return p
}

// table reads sections as the rows of a table, whose lines are borders of its cells.
func (d *division) table(up, down float64) *Part {
	var rows [][]*Part
	for _, s := range d.sections {
		if len(s) > 0 {
			rows = append(rows, slices.Concat(s...))
		}
	}
	cells := cellsOf(rows)
	if cells == nil {
		return nil
	}
	m := matrixOf(cells)
	if m == nil || !m.linesUp() || m.blank || m.short || m.explained() || len(rows) < 2 {
		return nil
	}
	if want := d.in.want(slices.Concat(rows...)); want != "" && want != Grid {
		return nil
	}
	edges := m.tiles(d.span.X, d.span.right())
	var children []*Part
	first := 0
	for len(d.sections[first]) == 0 {
		first++
	}
	bottom := math.NaN()
	for i, row := range m.rows {
		var line *Part
		if first+i < len(d.lines) {
			line = d.lines[first+i]
		}
		b := boundsOf(rows[i])
		top, low := b.Y, b.bottom()
		pad := Sides{}
		if i > 0 {
			top, pad.Top = bottom, usual(max(0, whole(b.Y-bottom)), down)
		}
		if line != nil {
			low, pad.Bottom = line.Bounds.bottom(), usual(max(0, whole(line.Bounds.Y-b.bottom())), up)+line.Bounds.Height
		}
		for j := range row {
			c := d.in.container(Stack, []*Part{d.in.read(row[j].parts)})
			inner := c.Bounds
			c.Name = "cell"
			c.Bounds = Rect{edges[j], top, edges[j+1] - edges[j], low - top}
			c.pad = &Sides{pad.Top, 0, pad.Bottom, 0}
			switch by := m.columns[j].by; by {
			case byEnd:
				c.pad.Right = max(0, whole(c.Bounds.right()-inner.right()))
			case byCenter: // what is in it stands in the middle
				off := m.columns[j].from + m.columns[j].to - edges[j] - edges[j+1]
				c.pad.Left, c.pad.Right = max(0, whole(off)), max(0, whole(-off))
			default:
				c.pad.Left = max(0, whole(inner.X-c.Bounds.X))
			}
			if line != nil {
				c.lines[2] = line.layer
			}
			children = append(children, c)
		}
		bottom = low
	}
	out := d.in.container(Grid, children)
	out.Columns, out.Name = len(m.columns), "table"
	out.lined = &Sides{Top: down, Bottom: up}
	return out
}

// tiles divides a width among the columns of a table, so that each has room for its cells and begins, or
// ends, where they do.
func (m *matrix) tiles(from, to float64) []float64 {
	n := len(m.columns)
	out := make([]float64, n+1)
	out[0], out[n] = from, to
	for k := 1; k < n; k++ {
		left, right := m.columns[k-1], m.columns[k]
		switch {
		case left.by == byEnd:
			out[k] = left.to
		case right.by == byStart || right.by == byBoth:
			out[k] = right.from
		case left.by == byCenter && right.by == byCenter:
			out[k] = (m.center(k-1) + m.center(k)) / 2
		default:
			out[k] = math.Round((left.to + right.from) / 2)
		}
	}
	for k := n - 1; k > 0; k-- { // as far from a middle on the left as on the right
		if at := 2*m.center(k) - out[k+1]; m.columns[k].by == byCenter && m.columns[k-1].by != byCenter && at >= m.columns[k-1].to && at <= m.columns[k].from {
			out[k] = at
		}
	}
	return out
}

// stretch gives the first and the last row of what lines divide the room the others have, where there is so
// much in the container around.
func (p *Part) stretch(around Rect) {
	if p.lined == nil || len(p.Children) == 0 {
		return
	}
	row := max(1, p.Columns)
	grow := func(children []*Part, top, bottom float64) {
		for _, c := range children {
			c.Bounds.Y -= top
			c.Bounds.Height += top + bottom
			c.pad.Top += top
			c.pad.Bottom += bottom
		}
	}
	first, last := p.Children[:min(row, len(p.Children))], p.Children[max(0, len(p.Children)-row):]
	if first[0].lines[0] == nil && p.tight.Y-around.Y >= p.lined.Top-tolerance {
		grow(first, min(p.lined.Top, p.tight.Y-around.Y), 0)
	}
	if last[0].lines[2] == nil && around.bottom()-p.tight.bottom() >= p.lined.Bottom-tolerance {
		grow(last, 0, min(p.lined.Bottom, around.bottom()-p.tight.bottom()))
	}
	p.tight = boundsOf(p.Children)
	p.Bounds = p.Bounds.join(p.tight)
}

// largestMark is how large the marks of a time line are at most, px: common practice, no source.
const largestMark = 64

// connected reads rows whose marks a line connects, downwards: a piece of line belongs to the mark above it, a line
// through all marks is pinned behind them. nil where no line does.
func (in *inferrer) connected(parts []*Part) *Part {
	lines, rest := linesAmong(parts, 1)
	if len(lines) == 0 || len(rest) < 2 {
		return nil
	}
	middle := lines[0].Bounds.X + lines[0].Bounds.Width/2
	if slices.ContainsFunc(lines, func(l *Part) bool { return math.Abs(l.Bounds.X+l.Bounds.Width/2-middle) > tolerance }) {
		return nil
	}
	var rows [][]*Part // each begins with the mark
	var marks []*Part
	for _, row := range cut(rest, 1) {
		var mark *Part
		for _, p := range row {
			on := math.Abs(p.Bounds.X + p.Bounds.Width/2 - middle)
			if !p.Text && p.Bounds.Width <= largestMark && p.Bounds.Height <= largestMark && on <= tolerance && (mark == nil || p.Bounds.area() > mark.Bounds.area()) {
				mark = p
			}
		}
		switch {
		case mark != nil:
			rows, marks = append(rows, row), append(marks, mark)
		case len(rows) == 0:
			return nil
		default:
			rows[len(rows)-1] = append(rows[len(rows)-1], row...)
		}
	}
	if len(rows) < 2 || len(lines) > len(rows) || slices.ContainsFunc(rows, func(row []*Part) bool { return len(row) < 2 }) {
		return nil
	}
	after := make([]*Part, len(rows)) // the piece of line after each mark
	for _, l := range lines {
		placed := false
		// The mark it comes after is the last that begins above it.
		if i := sort.Search(len(marks), func(i int) bool { return marks[i].Bounds.Y >= l.Bounds.Y }) - 1; i >= 0 {
			next := math.Inf(1)
			if i+1 < len(marks) {
				next = marks[i+1].Bounds.Y
			}
			if l.Bounds.Y >= marks[i].Bounds.bottom()-tolerance && l.Bounds.bottom() <= next+tolerance {
				placed = after[i] == nil
				after[i] = l
			}
		}
		if !placed {
			if len(lines) == 1 && len(cut(parts, 1)) == 1 && l.Bounds.Y < marks[1].Bounds.bottom() && l.Bounds.bottom() > marks[len(marks)-2].Bounds.Y {
				return in.behind(l, rest)
			}
			return nil
		}
	}
	highest := 0.0
	for _, row := range rows[:len(rows)-1] {
		highest = max(highest, boundsOf(row).Height)
	}
	if boundsOf(rows[len(rows)-1]).Height > 1.5*highest+wideGap { // it holds more than a mark and its text
		return nil
	}
	var children []*Part
	for i, row := range rows {
		p := in.read(row)
		if line := after[i]; line != nil {
			bottom := line.Bounds.bottom()
			if i+1 < len(rows) {
				bottom = boundsOf(rows[i+1]).Y
			}
			p = in.marked(p, marks[i], line, bottom)
		}
		children = append(children, p)
	}
	return in.container(Stack, children)
}

// behind pins a line behind, or over, what it connects.
func (in *inferrer) behind(line *Part, rest []*Part) *Part {
	p := in.over(in.read(rest), [][]*Part{{line}})
	if line.order < p.Children[0].order {
		slices.Reverse(p.Children)
		p.base = 1
	}
	return p
}

// marked gives a row's mark the piece of line below it. The row reaches down to where the next begins. Over what is no row with
// the mark in it the line is pinned.
func (in *inferrer) marked(row, mark, line *Part, bottom float64) *Part {
	at := slices.IndexFunc(row.Children, func(c *Part) bool { return c == mark || c.Layer != "" && c.Layer == mark.Layer })
	if at < 0 || row.Kind != Row || row.Layer != "" || line.Bounds.bottom() > bottom+tolerance {
		return in.over(row, [][]*Part{{line}})
	}
	for i, c := range row.Children {
		inner := c
		if i == at {
			inner = in.container(Stack, []*Part{c, line})
		} else {
			inner = in.bare(c)
		}
		if row.Children[i] = inner; inner.Bounds.Y < bottom {
			inner.pad = &Sides{Bottom: max(0, whole(bottom-inner.Bounds.bottom()))}
			inner.Bounds.Height = bottom - inner.Bounds.Y
			inner.full = true
		}
	}
	line.fill = true
	return in.container(Row, row.Children)
}
