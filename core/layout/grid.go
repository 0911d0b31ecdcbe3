package layout

import (
	"math"
	"slices"
)

// gridItem is one item while its container is laid out. Arrays are by logical
// axis: columns (inline) first, then rows (block).
type gridItem struct {
	n        *node
	at, span [2]int
	margin   [2][2]float64 // by physical axis and edge
	self     [2]align
	safe     [2]bool
	shim     [2]float64 // added before or after it by baseline alignment, in rows
	row      align      // baseline group it takes part in; alignAuto for none
}

// gridRun is one layout of a grid container.
type gridRun struct {
	s     *solver
	n     *node
	inner [2]float64
	items []*gridItem
	grid  *gridStyle
	// by logical axis
	explicit [2]int
	first    [2]int // index of the first explicit track: implicit ones may come before
	tracks   [2][]gridTrack
	gap      [2]float64
	before   [2]float64 // where the first track is
	ratios   bool       // some item's width depends on its row's height
	rows     bool       // the rows are sized
	percent  float64    // what the container's own percentages refer to, inline
}

func (g *gridRun) axis(logical int) uint8 { return uint8(g.n.axis(logical)) }

var plainGrid = &gridStyle{}

// newGrid places the items and makes the tracks (CSS Grid 2, 7 and 8). inner is
// the content box, NaN where it is not known.
func (s *solver) newGrid(n *node, inner, bounds [2]float64) *gridRun {
	g := &gridRun{s: s, n: n, inner: inner, grid: n.grid, percent: n.percentBase}
	if g.grid == nil {
		g.grid = plainGrid
	}
	for l := range 2 {
		g.gap[l] = n.gap[l].orZero(inner[g.axis(l)])
	}
	for _, c := range n.children {
		if c.position == absolute {
			continue
		}
		it := &gridItem{n: c, self: [2]align{c.justifySelf, c.alignSelf}, safe: [2]bool{c.safeJustifySelf, c.safeSelf}}
		for l, fallback := range [2]align{n.justifyItems, n.alignItems} {
			if it.self[l] == alignAuto {
				it.self[l], it.safe[l] = fallback, n.safeItems[l]
			}
		}
		g.ratios = g.ratios || c.ratioed && g.fillsBlock(it)
		g.items = append(g.items, it)
	}
	slices.SortStableFunc(g.items, func(a, b *gridItem) int { return a.n.order - b.n.order })
	var templates [2][]track
	var repeated [2][2]int
	for l := range 2 {
		templates[l], repeated[l] = g.template(l, bounds)
		g.explicit[l] = len(templates[l])
	}
	counts := g.placeItems()
	for l := range 2 {
		g.makeTracks(l, templates[l], repeated[l], counts[l])
	}
	return g
}

// gridFlow lays a grid container out (CSS Grid 2, 12).
func (s *solver) gridFlow(n *node, inner, bounds [2]float64, full bool) flow {
	g := s.newGrid(n, inner, bounds)
	i, b := n.inline, n.block()
	for _, it := range g.items {
		it.margin = s.marginsOf(it.n, nan)
	}
	justify, alignRows := n.justifyContent, n.alignContent
	g.size(0, inner[i], false, justify == alignNormal || justify == alignStretch, anything)
	for _, it := range g.items {
		it.margin = s.marginsOf(it.n, g.area(it, 0))
	}
	g.baselines()
	stretch := alignRows == alignNormal || alignRows == alignStretch
	g.size(1, inner[b], false, stretch, bounds)
	if g.ratios { // the columns once more, with what the rows make of them (12.1)
		g.rows = true
		g.size(0, inner[i], false, justify == alignNormal || justify == alignStretch, anything)
		g.rows = false
		g.size(1, inner[b], false, stretch, bounds)
	}
	natural := g.total(1)
	block := inner[b]
	if isNaN(block) {
		block = clamp(natural, bounds[0], bounds[1])
		// Percentages refer to the size they helped to make (12.1).
		relative := n.gap[1].relative()
		for k := range g.tracks[1] {
			relative = relative || g.tracks[1][k].declared.min.relative() || g.tracks[1][k].declared.max.relative()
		}
		if relative {
			g.gap[1] = n.gap[1].orZero(block)
			for k := range g.tracks[1] {
				if g.tracks[1][k].gap != 0 || k > 0 {
					g.tracks[1][k].gap = g.gap[1]
				}
			}
			g.size(1, block, false, stretch, bounds)
		}
	}
	f := flow{first: nan, last: nan, natural: natural}
	if !full {
		return f
	}
	sizes := [2]float64{inner[i], block}
	for l, how := range [2]align{justify, alignRows} {
		safe := [2]bool{n.safeJustify, n.safeAlign}[l]
		g.lay(l, how, safe, sizes[l])
	}
	for _, it := range g.items {
		g.finish(it)
	}
	f.first, f.last = g.baseline(false), g.baseline(true)
	g.keepAreas()
	for _, c := range n.children {
		if c.position == absolute {
			g.hypothetical(c, sizes)
		}
	}
	return f
}

// lay gives the tracks their places (CSS Box Alignment 3, 5.1.3).
func (g *gridRun) lay(l int, how align, safe bool, size float64) {
	free := size - g.total(l)
	count := 0
	for _, t := range g.tracks[l] {
		if !t.empty {
			count++
		}
	}
	axis := g.axis(l)
	if how == alignLeft || how == alignRight {
		if l == 1 {
			how = alignStart
		} else if (how == alignRight) != g.n.reversed[axis] {
			how = alignEnd
		} else {
			how = alignStart
		}
	}
	if free < 0 && safe {
		how = alignStart
	}
	before, between := distribute(flowAlign(how, false), free, count, safe)
	g.before[l] = before
	at, seen := before, false
	for k := range g.tracks[l] {
		t := &g.tracks[l][k]
		if !t.empty {
			if at += t.gap; seen {
				at += between
			}
			seen = true
		}
		t.at = at
		at += t.base
	}
}

// area gives the size of an item's grid area, gaps and what distribution adds
// included.
func (g *gridRun) area(it *gridItem, l int) float64 {
	sum := 0.0
	for k := it.at[l]; k < it.at[l]+it.span[l]; k++ {
		t := &g.tracks[l][k]
		sum += t.base
		if k > it.at[l] {
			sum += t.gap
		}
	}
	return sum
}

// placed is area once the tracks have their places.
func (g *gridRun) placed(it *gridItem, l int) (at, size float64) {
	first, last := &g.tracks[l][it.at[l]], &g.tracks[l][it.at[l]+it.span[l]-1]
	return first.at, last.at + last.base - first.at
}

// stretchable tells whether nothing but alignment decides an item's size.
func (g *gridRun) stretchable(it *gridItem, l int) bool {
	axis := g.axis(l)
	c := it.n
	return c.preferred[axis].kind == auto && c.margin[axis][0].kind != auto && c.margin[axis][1].kind != auto
}

// fillsBlock tells whether an item is as high as its area. One with a ratio is
// unless its width is made otherwise (6.2, as browsers read it).
func (g *gridRun) fillsBlock(it *gridItem) bool {
	if !g.stretchable(it, 1) {
		return false
	}
	if it.self[1] == alignStretch || it.n.aspect == 0 {
		return it.self[1] == alignStretch || it.self[1] == alignNormal
	}
	return it.self[1] == alignNormal && g.stretchable(it, 0) && it.self[0] == alignNormal
}

// fillsInline tells whether an item is as wide as its area, whose height is
// NaN when it is not known.
func (g *gridRun) fillsInline(it *gridItem, height float64) bool {
	if !g.stretchable(it, 0) {
		return false
	}
	if it.self[0] == alignStretch || it.n.aspect == 0 {
		return it.self[0] == alignStretch || it.self[0] == alignNormal
	}
	b := g.axis(1)
	high := !isNaN(it.n.used(&it.n.preferred[b], b, height)) || g.fillsBlock(it) && !isNaN(height)
	return it.self[0] == alignNormal && !high
}

// finish lays an item out in its area and aligns it (10.5).
func (g *gridRun) finish(it *gridItem) {
	c, n := it.n, g.n
	var at, room, base [2]float64 // by physical axis
	for l := range 2 {
		axis := g.axis(l)
		at[axis], room[axis] = g.placed(it, l)
	}
	base = room
	c.area = room
	percent := room[n.inline]
	it.margin = g.s.marginsOf(c, percent)
	g.s.edges(c, percent)
	size := [2]float64{nan, nan}
	i, b := c.inline, c.block()
	height := room[n.block()]
	fills := func(axis uint8) bool {
		if axis == n.inline {
			return g.fillsInline(it, height)
		}
		return g.fillsBlock(it)
	}
	outer := func(axis uint8) float64 { return it.margin[axis][0] + it.margin[axis][1] }
	if fills(b) {
		low, high := g.s.limits(c, b, base[b])
		size[b] = clamp(max(c.sum(b), room[b]-outer(b)), low, high)
	}
	if fills(i) {
		low, high := g.s.limits(c, i, base[i])
		size[i] = clamp(room[i]-outer(i), low, high)
	} else {
		size[i] = g.s.inlineSize(c, room[i]-outer(i), false, base, size[b])
	}
	r := g.s.layout(c, space{size: size, base: base}, true)
	for l := range 2 {
		axis := g.axis(l)
		start := n.start(axis)
		lead := it.margin[axis][start]
		free := room[axis] - r.size[axis] - outer(axis)
		startAuto, endAuto := c.margin[axis][start].kind == auto, c.margin[axis][1-start].kind == auto
		switch {
		case startAuto || endAuto:
			if free > 0 {
				if startAuto && endAuto {
					lead += free / 2
				} else if startAuto {
					lead += free
				}
			}
		case l == 1 && it.row != alignAuto:
			if it.row == alignBaseline {
				lead += it.shim[0]
			} else {
				lead += free - it.shim[1]
			}
		default:
			lead += g.selfAlign(it, l, free)
		}
		c.pos[axis] = at[axis] + lead
	}
}

// selfAlign gives what justify-self or align-self adds at the start.
func (g *gridRun) selfAlign(it *gridItem, l int, free float64) float64 {
	axis := g.axis(l)
	how := it.self[l]
	if free < 0 && it.safe[l] {
		return 0
	}
	switch how {
	case alignCenter:
		return free / 2
	case alignLastBaseline: // it falls back to a safe end
		return max(0, free)
	case alignEnd, alignFlexEnd:
		return free
	case alignSelfStart, alignSelfEnd:
		if (how == alignSelfEnd) != (it.n.reversed[axis] != g.n.reversed[axis]) {
			return free
		}
	case alignLeft, alignRight:
		if l == 0 && (how == alignRight) != g.n.reversed[axis] {
			return free
		}
	}
	return 0
}

// itemSpace is the space an item has before the rows are known.
func (g *gridRun) itemSpace(it *gridItem) space {
	n, c := g.n, it.n
	sp := space{size: [2]float64{nan, nan}, base: [2]float64{nan, nan}}
	i := n.inline
	width := g.area(it, 0)
	sp.base[i] = width
	it.margin = g.s.marginsOf(c, width)
	g.s.edges(c, width)
	if c.inline != i {
		avail := g.s.view[c.inline]
		if v := c.used(&c.preferred[c.inline], c.inline, nan); !isNaN(v) {
			avail = v
		}
		sp.size[c.inline] = g.s.inlineSize(c, avail, false, g.s.orthogonal(c, sp.base), nan)
		if g.fillsInline(it, nan) {
			sp.size[i] = width - it.margin[i][0] - it.margin[i][1]
		}
		return sp
	}
	room := width - it.margin[i][0] - it.margin[i][1]
	if g.fillsInline(it, nan) {
		low, high := g.s.limits(c, i, width)
		sp.size[i] = clamp(room, low, high)
	} else {
		sp.size[i] = g.s.inlineSize(c, room, false, sp.base, nan)
	}
	return sp
}

// baselines finds the shims that line up baselines in rows (10.6, 12.5 step 1).
func (g *gridRun) baselines() {
	type group struct {
		row  int
		last bool
	}
	groups := map[group]*baselineGroup{}
	ascents := make(map[*gridItem][2]float64)
	for _, it := range g.items {
		it.row, it.shim = alignAuto, [2]float64{}
		b := g.n.block()
		if !isBaseline(it.self[1]) || it.n.inline != g.n.inline || it.n.preferred[b].relative() || it.n.min[b].relative() {
			continue
		}
		if it.n.margin[b][0].kind == auto || it.n.margin[b][1].kind == auto {
			continue
		}
		sp := g.itemSpace(it)
		r := g.s.layout(it.n, sp, true)
		line, last := r.first, it.self[1] == alignLastBaseline
		row := it.at[1]
		if last {
			line, row = r.last, it.at[1]+it.span[1]-1
		}
		if isNaN(line) {
			if line = r.size[b]; b == horizontal {
				line /= 2
			}
		}
		start := g.n.start(b)
		up := it.margin[b][start] + line
		down := r.size[b] - line + it.margin[b][1-start]
		it.row = it.self[1]
		key := group{row, last}
		if groups[key] == nil {
			fresh := noGroup
			groups[key] = &fresh
		}
		groups[key].add(up, down)
		ascents[it] = [2]float64{up, down}
	}
	for it, up := range ascents {
		if it.row == alignBaseline {
			it.shim[0] = groups[group{it.at[1], false}].above - up[0]
		} else {
			it.shim[1] = groups[group{it.at[1] + it.span[1] - 1, true}].below - up[1]
		}
	}
}

// baseline gives the container's first or last baseline (10.6): of the first
// row that has items, those aligned by baseline first.
func (g *gridRun) baseline(last bool) float64 {
	var pick *gridItem
	for _, it := range g.items {
		if pick == nil {
			pick = it
			continue
		}
		a, b := it.at, pick.at
		if last {
			a[1], b[1] = -(it.at[1] + it.span[1]), -(pick.at[1] + pick.span[1])
			a[0], b[0] = -(it.at[0] + it.span[0]), -(pick.at[0] + pick.span[0])
		}
		switch {
		case a[1] != b[1]:
			if a[1] < b[1] {
				pick = it
			}
		case (it.row != alignAuto) != (pick.row != alignAuto):
			if it.row != alignAuto {
				pick = it
			}
		case a[0] < b[0]:
			pick = it
		}
	}
	if pick == nil {
		return nan
	}
	b := g.n.block()
	line := pick.n.result.first
	if last {
		line = pick.n.result.last
	}
	if isNaN(line) || pick.n.inline != g.n.inline {
		if line = pick.n.size[b]; b == horizontal {
			line /= 2
		}
	}
	return pick.n.pos[b] + line
}

// gridIntrinsic sizes the columns under a min-content and a max-content
// constraint (12.1, 5.2).
func (s *solver) gridIntrinsic(n *node, inner [2]float64) (low, high float64) {
	for k, minimal := range []bool{true, false} {
		g := s.newGrid(n, inner, [2]float64{0, math.Inf(1)})
		for _, it := range g.items {
			it.margin = s.marginsOf(it.n, nan)
		}
		g.size(0, nan, minimal, false, anything)
		if g.ratios {
			g.size(1, inner[n.block()], false, true, anything)
			g.rows = true
			g.size(0, nan, minimal, false, anything)
		}
		if total := g.total(0); k == 0 {
			low = total
		} else {
			high = total
		}
	}
	return low, max(low, high)
}
