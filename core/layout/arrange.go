package layout

import (
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
	p.Padding, p.Border = paddingOf(p), p.edge()
	if p.Kind == Stack && p.pad == nil && p.definite(0) {
		p.padLikePlaces()
	}
	if p.Kind == Row && p.pad == nil && p.definite(0) {
		p.Padding = p.paddingOfPlaces(p.Padding)
	}
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
		if size >= room-tolerance && !c.stretched(axis) {
			return
		}
	}
	if axis == 0 && p.Width == Content {
		p.Width = Fixed
	} else if axis == 1 && p.Height == Content {
		p.Height = Fixed
	}
}

// stretched tells whether a container is larger along an axis than what is in it needs, because it fills.
func (p *Part) stretched(axis int) bool {
	if p.Kind == Leaf || p.Kind == Overlay || p.pad != nil {
		return false
	}
	_, room := p.inner().along(axis)
	_, needed := p.tight.along(axis)
	return []string{p.Width, p.Height}[axis] == Fill && room > needed+tolerance
}

// inner is the content box.
func (p *Part) inner() Rect {
	return Rect{p.Bounds.X + p.Padding.Left, p.Bounds.Y + p.Padding.Top,
		p.Bounds.Width - p.Padding.Left - p.Padding.Right, p.Bounds.Height - p.Padding.Top - p.Padding.Bottom}
}

// whole is the whole px nearby, which untidy edges were meant to be on; else the value with no more digits than anybody draws with.
func whole(v float64) float64 {
	if r := math.Round(v); math.Abs(v-r) <= 0.26 {
		return r
	}
	return round(v)
}

// median is the value in the middle, of two the smaller.
func median(values []float64) float64 {
	if len(values) == 0 {
		return 0
	}
	sorted := slices.Sorted(slices.Values(values))
	return whole(sorted[(len(sorted)-1)/2])
}

// beside gives how far a box is, along an axis, from standing in a room in a way.
func beside(c, room Rect, axis int, how string) float64 {
	at, size := c.along(axis)
	from, long := room.along(axis)
	before, after := at-from, from+long-at-size
	switch how {
	case Fill:
		return max(math.Abs(before), math.Abs(after))
	case "center":
		return math.Abs(before-after) / 2
	case "end":
		return math.Abs(after)
	}
	return math.Abs(before)
}

// placeOf says where a child lies in an axis of a content box: the reading with the least error; a quarter of a pixel more
// is no reason against an earlier one.
func placeOf(c, inner Rect, axis int) string {
	best, least := "", tolerance
	for _, how := range []string{Fill, "start", "center", "end"} {
		if off := beside(c, inner, axis, how); off <= tolerance && (best == "" || off < least-0.26) {
			best, least = how, off
		}
	}
	return best
}

// stands tells whether a box stands in a room as its neighbours do, so nearly that another reading of its own is no better.
func stands(c, room Rect, axis int, align, own string) bool {
	return align == own || beside(c, room, axis, align) <= beside(c, room, axis, own)+0.6
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
	kept := gaps[:0]
	alignAcross(p, inner, 1-axis)
	for i, gap := range gaps { // what closeness did not explain
		if math.Abs(gap-p.Gap) > even {
			p.Children[i+1].shift(axis, whole(gap-p.Gap))
		} else {
			kept = append(kept, gap)
		}
	}

	if len(kept) > 0 {
		p.drawn = &drawnGaps{along: kept}
	}

	// Along: who takes the room that is left.
	p.Distribute = "start"
	from, room := inner.along(axis)
	start, size := p.tight.along(axis)
	before, after := start-from, from+room-start-size
	sizeAlong := func(c *Part, how string) {
		if axis == 0 {
			c.Width = how
		} else {
			c.Height = how
		}
	}
	for _, c := range p.Children {
		switch {
		case c.fill:
			sizeAlong(c, Fill)
		case c.Kind == Leaf && !c.Text || c.keepsSize():
			sizeAlong(c, Fixed)
		default:
			sizeAlong(c, Content)
		}
	}
	if axis == 0 && p.share(inner) {
		return
	}
	switch {
	case p.keepsSize(), p.pad != nil && before > 0.26 && math.Abs(before-after) <= 0.5:
		p.Distribute = "center"
	case before <= tolerance && after <= tolerance:
		if axis == 1 || len(p.Children) < 2 || !p.definite(axis) {
			break
		}
		if same := equalPanels(p); same != nil {
			for _, c := range same {
				c.Width = Fill
			}
			evenSides(same)
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
		if role := c.role(); role == isMark || role == isTag || role == isButton { // they are as large as what they say
			continue
		}
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
		if c.Kind == Leaf || c.Layer == "" || math.Abs(c.Bounds.Width-first.Bounds.Width) > tolerance || c.keepsSize() || p.Gap < 0 || p.Gap > gutter {
			return nil
		}
	}
	return p.Children
}

// evenSides gives boxes of one width that hold things in their middles the least padding at their sides that one of
// them has: padding that differs would make their shares differ (CSS Flexbox 1, 9.2 and 9.7).
func evenSides(boxes []*Part) {
	least := math.Inf(1)
	pads := make([]Sides, len(boxes))
	differ := false
	for i, c := range boxes {
		pads[i] = paddingOf(c)
		if c.Kind != Stack || math.Abs(pads[i].Left-pads[i].Right) > 0.5 {
			return
		}
		for _, d := range c.Children {
			if math.Abs(d.Bounds.X+d.Bounds.Width/2-c.Bounds.X-c.Bounds.Width/2) > tolerance {
				return
			}
		}
		differ = differ || math.Abs(pads[i].Left-pads[0].Left) > 0.5
		least = min(least, pads[i].Left)
	}
	for i, c := range boxes {
		if differ {
			pads[i].Left, pads[i].Right = least, least
			c.pad = &pads[i]
		}
	}
}

// alignAcross finds the alignment most children share, and what each has of its
// own.
func alignAcross(p *Part, inner Rect, axis int) {
	votes := map[string]float64{}
	places := make([]string, len(p.Children))
	largestChild := 0.0
	for i, c := range p.Children {
		if places[i] = placeOf(c.Bounds, inner, axis); axis == 0 && places[i] != Fill && (c.shares(inner) || c.loose() && beside(c.Bounds, inner, 0, Fill) <= tolerance) {
			places[i] = Fill
		}
		if at, size := c.Bounds.along(axis); places[i] == "center" && p.line() > 0 && p.Bounds.holds(c.Bounds, 0.26) {
			if from, room := inner.along(axis); at < from && size > room { // from edge to edge, the line covered
				places[i] = Fill
			}
		}
		_, size := c.Bounds.along(axis)
		largestChild = max(largestChild, size)
		// What is nearly as large as the room says little of where it stands in it.
		votes[places[i]] += 0.1 + min(beside(c.Bounds, inner, axis, Fill), 2*tolerance)
	}
	if axis == 0 && p.isLabel() {
		places[0], votes = "center", map[string]float64{"center": 1}
	}
	p.Align = "start"
	best := 0.0
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
		if c.Kind == Leaf && !c.Text || c.keepsSize() {
			how = Fixed
		}
		switch place := places[i]; {
		case c.keepsSize():
			if place != "" && place != Fill && !stands(c.Bounds, inner, axis, p.Align, place) {
				c.Self = place
			}
		case place == Fill && (p.definite(axis) || len(p.Children) > 1 && !p.tallest(c, axis)) && (c.Kind != Leaf || c.Text || p.definite(axis)) && !(axis == 1 && c.Kind == Leaf):
			how = Fill
		case axis == 0 && c.setIn(place, inner), axis == 1 && c.full:
			how = Fill
		case place == "":
			at, _ := c.Bounds.along(axis)
			from, _ := inner.along(axis)
			c.Self = "start"
			c.shift(axis, whole(at-from))
		case place != Fill && !stands(c.Bounds, inner, axis, p.Align, place):
			c.Self = place
		}
		if axis == 0 {
			c.Width = how
		} else {
			c.Height = how
		}
	}
}

// loose tells whether a container has no edges of its own: it is as large as what was drawn in it.
func (p *Part) loose() bool { return p.Kind != Leaf && p.Kind != Overlay && p.Layer == "" }

// largestInset is how far a container may be set in, px: common practice, no source.
const largestInset = 96

// setIn gives a container without paint that reaches the far edge of a room, but begins further in than the others,
// padding for that.
func (p *Part) setIn(place string, inner Rect) bool {
	by := p.Bounds.X - inner.X
	if !p.loose() || p.pad != nil || place != "end" || by > largestInset || p.Bounds.Width < inner.Width/2 {
		return false
	}
	p.pad = &Sides{Left: whole(by)}
	p.Bounds.X, p.Bounds.Width = inner.X, inner.Width
	return true
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
	p.drawn = &drawnGaps{gaps, lines}
	for _, c := range p.Children {
		c.Width, c.Height = Content, Content
		if c.Kind == Leaf && !c.Text {
			c.Width, c.Height = Fixed, Fixed
		}
	}
	p.Columns = 0
}

// arrangeOverlay pins every layer but the base to the nearest edges.
func arrangeOverlay(p *Part) {
	base := p.Children[p.base]
	base.Width, base.Height = p.Width, p.Height
	if base.Kind == Leaf && !base.Text || base.keepsSize() {
		base.Width, base.Height = Fixed, Fixed
	}
	arrange(base)
	for i, c := range p.Children {
		if i == p.base {
			continue
		}
		c.Width, c.Height = Fixed, Fixed
		c.Pin = &Pin{}
		c.Pin.Horizontal, c.Pin.X = pinTo(c.Bounds, p.Bounds, 0, "left", "right")
		c.Pin.Vertical, c.Pin.Y = pinTo(c.Bounds, p.Bounds, 1, "top", "bottom")
		if c.thin(1) && c.Bounds.Height > p.Bounds.Height/2 && p.Kind == Overlay { // as long as what it connects
			c.Pin.Vertical, c.Pin.Y, c.Height = "both", whole(c.Bounds.Y-p.Bounds.Y), Fill
		}
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
