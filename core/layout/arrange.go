package layout

import (
	"fmt"
	"math"
	"slices"
)

// arrange finds gaps, paddings, alignment and sizing of a container whose
// bounds are known, then of those in it.
func arrange(p *Part) {
	if p.Kind == Leaf {
		return
	}
	if p.Kind == Overlay {
		arrangeOverlay(p)
		return
	}
	p.Padding = paddingOf(p)
	inner := p.inner()
	// Room its content does not need is its own.
	if p.Width == Content && inner.Width > p.tight.Width+tolerance {
		p.Width = Fixed
	}
	if p.Height == Content && inner.Height > p.tight.Height+tolerance {
		p.Height = Fixed
	}
	switch p.Kind {
	case Grid:
		arrangeGrid(p)
	case Wrap:
		arrangeWrap(p)
	default:
		arrangeLine(p, inner)
	}
	for _, c := range p.Children {
		arrange(c)
	}
	if p.Kind == Row || p.Kind == Stack {
		p.holdAcross(inner, 1-axisOf(p.Kind))
	}
	// What is only as wide as what fills it has to say how wide it is.
	if p.Width == Content && p.Kind != Wrap {
		fills, holds := false, false
		for _, c := range p.Children {
			fills = fills || c.Width == Fill
			holds = holds || c.Width != Fill && (p.Kind == Row || c.Bounds.Width >= inner.Width-tolerance)
		}
		if fills && (!holds || p.Kind == Row) {
			p.Width = Fixed
		}
	}
}

// holdAcross fixes a container's size across when none of its children makes it:
// some keep to the start, some to the end.
func (p *Part) holdAcross(inner Rect, axis int) {
	_, room := inner.along(axis)
	for _, c := range p.Children {
		_, size := c.Bounds.along(axis)
		if c.Offset != nil {
			size += []float64{c.Offset.X, c.Offset.Y}[axis]
		}
		if size >= room-tolerance {
			return
		}
	}
	if axis == 0 && p.Width == Content {
		p.Width = Fixed
	} else if axis == 1 && p.Height == Content {
		p.Height = Fixed
	}
}

// inner is the content box.
func (p *Part) inner() Rect {
	return Rect{p.Bounds.X + p.Padding.Left, p.Bounds.Y + p.Padding.Top,
		p.Bounds.Width - p.Padding.Left - p.Padding.Right, p.Bounds.Height - p.Padding.Top - p.Padding.Bottom}
}

// slackBelow is how many px more than thrice the padding above read as room left
// over below: common practice, no source.
const slackBelow = 40

// paddingOf reads the room between a container's edges and its children. Along
// an axis in which children keep to one end, the smaller side counts for both.
func paddingOf(p *Part) Sides {
	t := p.tight
	s := Sides{t.Y - p.Bounds.Y, p.Bounds.right() - t.right(), p.Bounds.bottom() - t.bottom(), t.X - p.Bounds.X}
	s.Left, s.Right = bothSides(s.Left, s.Right)
	if math.Abs(s.Top-s.Bottom) <= tolerance || s.Bottom > 3*s.Top+slackBelow || s.Top > 3*s.Bottom+slackBelow {
		s.Top, s.Bottom = bothSides(s.Top, s.Bottom)
	} else { // heights follow content: what is below is padding, too
		s.Top, s.Bottom = max(0, whole(s.Top)), max(0, whole(s.Bottom))
	}
	line := p.line()
	return Sides{max(line, s.Top), max(line, s.Right), max(line, s.Bottom), max(line, s.Left)}
}

// line is the width of a container's stroke, which takes room as a border does.
func (p *Part) line() float64 {
	if p.layer == nil || p.layer.Stroke == nil {
		return 0
	}
	return p.layer.Stroke.Width
}

func bothSides(a, b float64) (float64, float64) {
	a, b = max(0, whole(a)), max(0, whole(b))
	if math.Abs(a-b) <= tolerance {
		return min(a, b), min(a, b)
	}
	least := min(a, b)
	return least, least
}

// whole is the whole px nearby, which untidy edges were meant to be on; else the value with no more digits than anybody draws with.
func whole(v float64) float64 {
	if r := math.Round(v); math.Abs(v-r) <= 0.26 {
		return r
	}
	return round(v)
}

func median(values []float64) float64 {
	if len(values) == 0 {
		return 0
	}
	sorted := slices.Sorted(slices.Values(values))
	return whole(sorted[len(sorted)/2])
}

// place says where a child lies in an axis of a content box.
func placeOf(c, inner Rect, axis int) string {
	at, size := c.along(axis)
	from, room := inner.along(axis)
	before, after := at-from, from+room-at-size
	// The reading with the least error; a quarter of a pixel more is no reason against an
	// earlier one.
	best, least := "", tolerance
	for _, r := range []struct {
		how   string
		error float64
	}{
		{Fill, max(math.Abs(before), math.Abs(after))}, {"start", math.Abs(before)},
		{"center", math.Abs(before-after) / 2}, {"end", math.Abs(after)},
	} {
		if r.error <= tolerance && (best == "" || r.error < least-0.26) {
			best, least = r.how, r.error
		}
	}
	return best
}

func arrangeLine(p *Part, inner Rect) {
	axis := axisOf(p.Kind)
	var gaps []float64
	for i := 1; i < len(p.Children); i++ {
		at, size := p.Children[i-1].Bounds.along(axis)
		next, _ := p.Children[i].Bounds.along(axis)
		gaps = append(gaps, next-at-size)
	}
	p.Gap = median(gaps)
	alignAcross(p, inner, 1-axis)
	for i, gap := range gaps { // what closeness did not explain
		if math.Abs(gap-p.Gap) > even {
			p.Children[i+1].shift(axis, whole(gap-p.Gap))
		}
	}

	// Along: who takes the room that is left.
	p.Distribute = "start"
	from, room := inner.along(axis)
	start, size := p.tight.along(axis)
	before, after := start-from, from+room-start-size
	if before < -0.26 && before >= -p.line() { // drawn over the line
		p.Children[0].shift(axis, whole(before))
	}
	sizeAlong := func(c *Part, how string) {
		if axis == 0 {
			c.Width = how
		} else {
			c.Height = how
		}
	}
	for _, c := range p.Children {
		if c.Kind == Leaf && !c.Text {
			sizeAlong(c, Fixed)
		} else {
			sizeAlong(c, Content)
		}
	}
	switch {
	case before <= tolerance && after <= tolerance:
		if axis == 1 || len(p.Children) < 2 || !p.definite(axis) {
			break
		}
		if shares := sharesOf(p, inner); shares != "" && p.wanted != unsplit {
			p.Kind, p.Shares = Split, shares
			for _, c := range p.Children {
				c.Width = Fill
			}
			p.Others = append(p.Others, Reading{unsplit, "its two columns have shares of the width, " + shares, true})
			break
		} else if shares != "" {
			p.Others = append(p.Others, Reading{Split, chosen, true})
		}
		if same := equalPanels(p); same != nil {
			for _, c := range same {
				c.Width = Fill
			}
			break
		}
		widest := widestFlexible(p)
		apart, fixed := p.Gap >= wideGap, chosen
		between := "its gap of " + number(p.Gap) + " px is no wider than gutters are"
		switch {
		case p.wanted == fixedGap && apart && widest != nil:
			apart, between = false, chosen
		case p.wanted == spaceBetween && !apart:
			apart = true
		case apart:
			fixed = "its ends are at both ends, " + number(p.Gap) + " px apart"
		}
		if apart {
			p.Distribute = "space-between"
			p.Others = append(p.Others, Reading{fixedGap, fixed, widest != nil})
			break
		}
		if widest != nil {
			widest.Width = Fill
			p.Others = append(p.Others, Reading{spaceBetween, between, true})
		}
	case math.Abs(before-after) <= tolerance:
		p.Distribute = "center"
	case before > after:
		p.Distribute = "end"
	}
}

// Readings of a row whose ends are at both ends.
const (
	fixedGap     = Row + " with a fixed gap"
	spaceBetween = Row + " with space between"
	unsplit      = Row + " that is no split"
)

// wideGap is the least px between two ends that reads as room left over, not as
// a gutter: common practice, no source.
const wideGap = 40

// definite tells whether a container's size along an axis is more than its
// content's: it has an edge of its own, or fills something that has.
func (p *Part) definite(axis int) bool {
	if axis == 0 {
		return p.Width != Content
	}
	return p.Height != Content
}

// widestFlexible is the widest child that may grow: text or a container.
func widestFlexible(p *Part) *Part {
	var out *Part
	for _, c := range p.Children {
		if (c.Text || c.Kind != Leaf) && (out == nil || c.Bounds.Width > out.Bounds.Width) {
			out = c
		}
	}
	return out
}

// equalPanels gives the painted containers of one width, when they are all
// there is in a row.
func equalPanels(p *Part) []*Part {
	first := p.Children[0]
	for _, c := range p.Children {
		if c.Kind == Leaf || c.Layer == "" || math.Abs(c.Bounds.Width-first.Bounds.Width) > tolerance {
			return nil
		}
	}
	return p.Children
}

// sharesOf tells which shares of the width two columns have; empty when they have none that is usual.
func sharesOf(p *Part, inner Rect) string {
	if len(p.Children) != 2 || p.Kind != Row {
		return ""
	}
	a, b := p.Children[0].Bounds.Width, p.Children[1].Bounds.Width
	if p.Gap > min(a, b) { // columns are wider than the gutter between them
		return ""
	}
	for _, c := range p.Children {
		if c.Kind == Leaf && !c.paints() && !c.Text {
			return ""
		}
	}
	for _, shares := range [][2]float64{{1, 3}, {1, 2}, {1, 1}, {2, 1}, {3, 1}} {
		if math.Abs(a-(a+b)*shares[0]/(shares[0]+shares[1])) <= tolerance {
			return fmt.Sprintf("%g %g", shares[0], shares[1])
		}
	}
	return ""
}

// alignAcross finds the alignment most children share, and what each has of its
// own.
func alignAcross(p *Part, inner Rect, axis int) {
	votes := map[string]int{}
	places := make([]string, len(p.Children))
	largestChild := 0.0
	for i, c := range p.Children {
		places[i] = placeOf(c.Bounds, inner, axis)
		if at, size := c.Bounds.along(axis); places[i] == "center" && p.line() > 0 && p.Bounds.holds(c.Bounds, 0.26) {
			if from, room := inner.along(axis); at < from && size > room { // from edge to edge, the line covered
				places[i] = Fill
			}
		}
		_, size := c.Bounds.along(axis)
		largestChild = max(largestChild, size)
		votes[places[i]]++
	}
	p.Align = "start"
	best := 0
	for _, how := range []string{"start", "center", "end"} {
		if votes[how] > best {
			p.Align, best = how, votes[how]
		}
	}
	if best == 0 { // all of one size: a row's are usually centred, a stack's stretched
		p.Align = "stretch"
		if axis == 1 {
			p.Align = "center"
		}
	}
	for i, c := range p.Children {
		how := Content
		if c.Kind == Leaf && !c.Text {
			how = Fixed
		}
		switch place := places[i]; {
		case place == Fill && (p.definite(axis) || len(p.Children) > 1 && !p.tallest(c, axis)) && (c.Kind != Leaf || c.Text || p.definite(axis)) && !(axis == 1 && c.Kind == Leaf):
			how = Fill
		case place == "":
			at, _ := c.Bounds.along(axis)
			from, _ := inner.along(axis)
			c.Self = "start"
			c.shift(axis, whole(at-from))
		case place != Fill && place != p.Align:
			c.Self = place
		}
		if axis == 0 {
			c.Width = how
		} else {
			c.Height = how
		}
	}
}

// shift gives a part a margin at the start of an axis.
func (p *Part) shift(axis int, by float64) {
	if p.Offset == nil {
		p.Offset = &Offset{}
	}
	if axis == 0 {
		p.Offset.X = by
	} else {
		p.Offset.Y = by
	}
}

// tallest tells whether a child alone makes its container as large as it is.
func (p *Part) tallest(c *Part, axis int) bool {
	_, mine := c.Bounds.along(axis)
	for _, o := range p.Children {
		if o != c {
			if _, size := o.Bounds.along(axis); size >= mine-0.26 {
				return false
			}
		}
	}
	return true
}

func arrangeGrid(p *Part) {
	n := p.Columns
	var gaps, lines []float64
	starts, ends := columnEdges(p)
	for j := 1; j < n; j++ {
		gaps = append(gaps, starts[j]-ends[j-1])
	}
	for i := n; i < len(p.Children); i += n {
		lines = append(lines, boundsOf(p.Children[i:min(i+n, len(p.Children))]).Y-boundsOf(p.Children[i-n:i]).bottom())
	}
	p.Gap, p.Across = median(gaps), median(lines)
	p.Align = "start"
	for i, c := range p.Children {
		c.Width, c.Height = Content, Content
		if c.Kind == Leaf && !c.Text {
			c.Width, c.Height = Fixed, Fixed
		}
		if c.Kind != Leaf && c.Bounds.Width >= ends[i%n]-starts[i%n]-tolerance {
			c.Width = Fill
		}
		if c.Bounds.X > starts[i%n]+tolerance && c.Bounds.right() >= ends[i%n]-tolerance {
			c.Self = "end"
		}
	}
}

// columnEdges gives where a grid's columns start and end.
func columnEdges(p *Part) (starts, ends []float64) {
	starts, ends = make([]float64, p.Columns), make([]float64, p.Columns)
	for j := range p.Columns {
		starts[j], ends[j] = math.Inf(1), math.Inf(-1)
		for i := j; i < len(p.Children); i += p.Columns {
			starts[j] = min(starts[j], p.Children[i].Bounds.X)
			ends[j] = max(ends[j], p.Children[i].Bounds.right())
		}
	}
	return starts, ends
}

func arrangeWrap(p *Part) {
	var gaps, lines []float64
	for i := 1; i < len(p.Children); i++ {
		a, b := p.Children[i-1].Bounds, p.Children[i].Bounds
		if b.X > a.X {
			gaps = append(gaps, b.X-a.right())
		} else {
			lines = append(lines, b.Y-a.bottom())
		}
	}
	p.Gap, p.Across, p.Align = median(gaps), median(lines), "start"
	for _, c := range p.Children {
		c.Width, c.Height = Content, Content
		if c.Kind == Leaf && !c.Text {
			c.Width, c.Height = Fixed, Fixed
		}
	}
	p.Columns = 0
}

// arrangeOverlay pins every layer above the first to the nearest edges.
func arrangeOverlay(p *Part) {
	base := p.Children[0]
	base.Width, base.Height = p.Width, p.Height
	if base.Kind == Leaf && !base.Text {
		base.Width, base.Height = Fixed, Fixed
	}
	arrange(base)
	for _, c := range p.Children[1:] {
		c.Width, c.Height = Fixed, Fixed
		c.Pin = &Pin{}
		c.Pin.Horizontal, c.Pin.X = pinTo(c.Bounds, p.Bounds, 0, "left", "right")
		c.Pin.Vertical, c.Pin.Y = pinTo(c.Bounds, p.Bounds, 1, "top", "bottom")
		arrange(c)
	}
}

func pinTo(c, base Rect, axis int, low, high string) (string, float64) {
	at, size := c.along(axis)
	from, room := base.along(axis)
	before, after := at-from, from+room-at-size
	switch {
	case math.Abs(before-after) <= tolerance:
		return "center", 0
	case before < after:
		return low, whole(before)
	}
	return high, whole(after)
}
