package layout

import (
	"math"
	"slices"
)

// flexItem is one item while its container is laid out (CSS Flexbox 1, 9).
// Sizes are of the border box.
type flexItem struct {
	n           *node
	margin      [2][2]float64
	auto        [2][2]bool // which margins are auto
	base, hypo  float64    // flex base size, hypothetical main size
	low, high   float64    // limits of the main size
	main, cross float64
	frozen      bool
	violation   float64 // how far limits moved its main size
	indefinite  bool    // its main size is not definite for what is in it
	self        align
	safe        bool
	first, last float64 // baselines from the block-start border edge
	offset      [2]float64
}

func (it *flexItem) outer(axis uint8) float64 { return it.margin[axis][0] + it.margin[axis][1] }

// flexAxes are a flex container's main and cross axis.
func (n *node) flexAxes() (main, cross uint8) {
	if n.flexColumn {
		return n.block(), n.inline
	}
	return n.inline, n.block()
}

// take gives scratch space for items; put returns it.
func (s *solver) take() []flexItem {
	if last := len(s.spare) - 1; last >= 0 {
		items := s.spare[last]
		s.spare = s.spare[:last]
		return items[:0]
	}
	return make([]flexItem, 0, 16)
}

func (s *solver) put(items []flexItem) { s.spare = append(s.spare, items) }

// baselineGroup is how far boxes that share a baseline reach above and below it.
type baselineGroup struct{ above, below float64 }

var noGroup = baselineGroup{math.Inf(-1), math.Inf(-1)}

func (g *baselineGroup) add(above, below float64) {
	g.above, g.below = max(g.above, above), max(g.below, below)
}

// flexLine is a range of items.
type flexLine struct {
	from, to      int
	cross, offset float64
	first, last   baselineGroup
}

func (s *solver) flexFlow(n *node, inner, bounds [2]float64, full bool) flow {
	m, x := n.flexAxes()
	items := s.take()
	ordered, floating := true, false
	for _, c := range n.children {
		if c.position == absolute {
			floating = true
			continue
		}
		items = append(items, flexItem{n: c})
		ordered = ordered && (len(items) == 1 || items[len(items)-2].n.order <= c.order)
	}
	if !ordered {
		slices.SortStableFunc(items, func(a, b flexItem) int { return a.n.order - b.n.order })
	}
	for i := range items {
		s.flexBase(n, &items[i], inner)
	}
	mainGap, crossGap := n.gap[0].orZero(inner[n.inline]), n.gap[1].orZero(inner[n.block()])
	if n.flexColumn {
		mainGap, crossGap = crossGap, mainGap
	}

	// 9.3: lines. A column without height is broken at its greatest height.
	available := inner[m]
	if isNaN(available) {
		available = bounds[1]
	}
	var few [4]flexLine
	lines := few[:0]
	longest := 0.0
	from, used := 0, 0.0
	for i := range items {
		outer := items[i].hypo + items[i].outer(m)
		if n.wrap && i > from && used+mainGap+outer > available+slack {
			lines = append(lines, flexLine{from: from, to: i})
			longest = max(longest, used)
			from, used = i, 0
		}
		if i > from {
			used += mainGap
		}
		used += outer
	}
	if from < len(items) {
		lines = append(lines, flexLine{from: from, to: len(items)})
		longest = max(longest, used)
	}
	mainSize := inner[m]
	if isNaN(mainSize) {
		mainSize = clamp(longest, bounds[0], bounds[1])
	}

	// 9.7 and 9.4: main sizes, then cross sizes.
	crossSize := inner[x]
	for l := range lines {
		line := &lines[l]
		s.flexLengths(items[line.from:line.to], m, mainSize-mainGap*float64(line.to-line.from-1))
		for i := line.from; i < line.to; i++ {
			s.flexCross(n, &items[i], inner)
		}
		s.flexLineCross(n, line, items, x)
	}
	single := !n.wrap
	if single && len(lines) == 1 {
		if !isNaN(crossSize) {
			lines[0].cross = crossSize
		} else {
			lines[0].cross = clamp(lines[0].cross, bounds[0], bounds[1])
		}
	}
	total := crossGap * float64(max(0, len(lines)-1))
	for _, line := range lines {
		total += line.cross
	}
	if isNaN(crossSize) {
		crossSize = clamp(total, bounds[0], bounds[1])
	}
	if !single {
		s.flexAlignLines(n, lines, crossSize-total, crossGap)
	}

	f := flow{first: nan, last: nan, natural: crossSize}
	if n.flexColumn {
		f.natural = mainSize
	}
	if !full {
		s.put(items)
		return f
	}
	for l := range lines {
		s.flexPlace(n, items, &lines[l], inner, mainSize, crossSize, mainGap)
	}
	for _, c := range n.children {
		if floating && c.position == absolute {
			s.flexHypothetical(n, c, mainSize, crossSize)
		}
	}

	if len(lines) > 0 {
		first, last := lines[0], lines[len(lines)-1]
		if n.wrapBack {
			first, last = last, first
		}
		f.first = s.flexBaseline(n, items[first.from:first.to], false)
		f.last = s.flexBaseline(n, items[last.from:last.to], true)
	}
	s.put(items)
	return f
}

// flexBase determines the flex base size and hypothetical main size (9.2).
func (s *solver) flexBase(n *node, it *flexItem, inner [2]float64) {
	m, x := n.flexAxes()
	c := it.n
	percent := inner[n.inline]
	inner = s.orthogonal(c, inner)
	it.margin = s.marginsOf(c, percent)
	it.auto = c.autoMargins
	it.self, it.safe = c.alignSelf, c.safeSelf
	if it.self == alignAuto {
		it.self, it.safe = n.alignItems, n.safeItems[1]
	}
	if it.self == alignNormal {
		it.self = alignStretch
	}
	s.edges(c, percent)
	it.low, it.high = s.limits(c, m, inner[m])
	// What the cross size will be, where that is known before (9.8).
	cross := c.preferredSize(x, inner[x])
	if isNaN(cross) && s.stretches(it, x) && !n.wrap && !isNaN(inner[x]) {
		cross = inner[x] - it.outer(x)
	}
	if !isNaN(cross) {
		low, high := s.limits(c, x, inner[x])
		cross = clamp(cross, low, high)
	}

	basis := &c.basis
	var v float64
	if basis.kind == auto {
		basis = &c.preferred[m]
		v = c.preferredSize(m, inner[m])
	} else {
		v = c.used(basis, m, inner[m])
	}
	it.indefinite = isNaN(v) && isNaN(inner[m])
	var natural float64 = nan // block size of its content, when that was needed
	if isNaN(v) {
		switch {
		case c.aspect > 0 && !isNaN(cross) && (basis.kind <= fixed || basis.kind == content):
			v = c.fromRatio(m, cross)
		case c.inline == m:
			low, high := s.intrinsicOf(c, cross)
			switch v = high; basis.kind {
			case minContent:
				v = low
			case fitContent:
				if !isNaN(inner[m]) {
					v = min(high, max(low, inner[m]-it.outer(m)-c.sum(m)))
				}
			}
			v = s.carry(c, v+c.sum(m), inner)
		default:
			natural = s.flexBlockSize(n, it, inner)
			v = natural
		}
	}
	it.base = v

	// 4.5: the automatic minimum size.
	if c.min[m].kind == auto && !c.scrolls[m] {
		least := 0.0
		if c.empty() {
			least = c.sum(m)
		} else if c.inline == m {
			low, _ := s.intrinsicOf(c, cross)
			least = low + c.sum(m)
		} else {
			if isNaN(natural) {
				natural = s.flexBlockSize(n, it, inner)
			}
			least = natural
		}
		switch {
		case c.aspect > 0 && !isNaN(cross):
			least = max(least, c.fromRatio(m, cross))
		case c.aspect > 0:
			bl, bh := s.limits(c, x, inner[x])
			least = clamp(least, c.transferred(m, bl), c.transferred(m, bh))
		}
		if stated := c.preferredSize(m, inner[m]); !isNaN(stated) {
			least = min(least, stated)
		}
		it.low = max(it.low, min(least, it.high))
	}
	it.hypo = clamp(it.base, it.low, it.high)
}

// stretches tells whether an item is stretched across (8.3).
func (s *solver) stretches(it *flexItem, x uint8) bool {
	return it.self == alignStretch && it.n.preferred[x].kind == auto && !it.auto[x][0] && !it.auto[x][1]
}

// flexInline gives the inline size of an item whose inline axis is the cross
// axis.
func (s *solver) flexInline(n *node, it *flexItem, inner [2]float64, block float64) float64 {
	c := it.n
	x := c.inline
	fill := s.stretches(it, x) && !n.wrap && !isNaN(inner[x])
	inner = s.orthogonal(c, inner)
	avail := inner[x]
	if fill { // a stretched size is definite: no ratio makes it
		low, high := s.limits(c, x, inner[x])
		return clamp(avail-it.outer(x), low, high)
	}
	return s.inlineSize(c, avail-it.outer(x), false, inner, block)
}

// flexBlockSize gives the size that the content of an item makes along the main
// axis, when that is its block axis.
func (s *solver) flexBlockSize(n *node, it *flexItem, inner [2]float64) float64 {
	c := it.n
	if c.empty() {
		return c.sum(c.block())
	}
	sp := space{size: [2]float64{nan, nan}, base: inner}
	sp.size[c.inline] = s.flexInline(n, it, inner, nan)
	b := c.block()
	sp.content = c.preferred[b].kind != auto || c.min[b].kind != auto || c.max[b].kind != none
	return s.layout(c, sp, false).size[b]
}

// forget drops remembered layouts and sizes.
func (n *node) forget() {
	n.done = false
	if m := n.memory; m != nil {
		for i := range 2 {
			m.layouts[i].used, m.intrinsic[i].used = false, false
		}
	}
}

// flexLengths resolves flexible lengths (9.7). room is the line's inner main
// size without gaps.
func (s *solver) flexLengths(items []flexItem, m uint8, room float64) {
	total := 0.0
	for i := range items {
		total += items[i].hypo + items[i].outer(m)
	}
	growing := total < room
	free, left := room, 0
	for i := range items {
		it := &items[i]
		factor := it.n.shrink
		if growing {
			factor = it.n.grow
		}
		it.main = it.hypo
		it.frozen = factor == 0 || growing && it.base > it.hypo || !growing && it.base < it.hypo
		if it.frozen {
			free -= it.main + it.outer(m)
		} else {
			free -= it.base + it.outer(m)
			left++
		}
	}
	initial := free
	for left > 0 {
		free = room
		factors, scaled := 0.0, 0.0
		for i := range items {
			it := &items[i]
			if it.frozen {
				free -= it.main + it.outer(m)
				continue
			}
			free -= it.base + it.outer(m)
			if growing {
				factors += it.n.grow
			} else {
				factors += it.n.shrink
				scaled += it.n.shrink * max(0, it.base-it.n.sum(m))
			}
		}
		if factors < 1 {
			if part := initial * factors; math.Abs(part) < math.Abs(free) {
				free = part
			}
		}
		violation := 0.0
		for i := range items {
			it := &items[i]
			if it.frozen {
				continue
			}
			size := it.base
			switch {
			case growing && factors > 0:
				size += free * it.n.grow / factors
			case !growing && scaled > 0:
				size += free * it.n.shrink * max(0, it.base-it.n.sum(m)) / scaled
			}
			it.main = clamp(size, it.low, it.high)
			it.violation = it.main - size
			violation += it.violation
		}
		for i := range items {
			it := &items[i]
			if it.frozen {
				continue
			}
			if math.Abs(violation) < 1e-9 || violation > 0 && it.violation > 0 || violation < 0 && it.violation < 0 {
				it.frozen = true
				left--
			}
		}
	}
}

// flexCross determines the hypothetical cross size (9.4, 7).
func (s *solver) flexCross(n *node, it *flexItem, inner [2]float64) {
	m, x := n.flexAxes()
	c := it.n
	s.edges(c, inner[n.inline])
	if c.inline == m && s.stretches(it, x) && !n.wrap && !isNaN(inner[x]) && !isBaseline(it.self) {
		// It will be as large as the line, which is known.
		low, high := s.limits(c, x, inner[x])
		it.cross = clamp(inner[x]-it.outer(x), low, high)
		return
	}
	if c.empty() { // there is nothing to measure
		it.first, it.last = nan, nan
		if c.inline != m {
			it.cross = s.flexInline(n, it, inner, it.main)
			return
		}
		size := c.preferredSize(x, inner[x])
		if isNaN(size) {
			size = c.sum(x)
		}
		low, high := s.limits(c, x, inner[x])
		it.cross = clamp(size, low, high)
		return
	}
	sp := s.flexSpace(n, it, inner)
	r := s.layout(c, sp, isBaseline(it.self))
	it.cross = r.size[x]
	it.first, it.last = r.first, r.last
}

// flexSpace is the space an item is laid out in before it is stretched.
func (s *solver) flexSpace(n *node, it *flexItem, inner [2]float64) space {
	m, _ := n.flexAxes()
	c := it.n
	sp := space{size: [2]float64{nan, nan}, base: inner}
	sp.size[m] = it.main
	if c.inline != m {
		sp.size[c.inline] = s.flexInline(n, it, inner, it.main)
		sp.indefinite = it.indefinite
	}
	return sp
}

func isBaseline(a align) bool { return a == alignBaseline || a == alignLastBaseline }

// shares tells whether an item is aligned by its baseline: only where its lines
// run along the main axis.
func (it *flexItem) shares(x uint8) bool {
	return isBaseline(it.self) && !it.auto[x][0] && !it.auto[x][1]
}

// ascent gives how far the item's baseline is from its start margin edge.
func (it *flexItem) ascent(n *node, x uint8) float64 {
	line := it.first
	if it.self == alignLastBaseline {
		line = it.last
	}
	if n.flexColumn { // along lines there is no baseline: their start edge stands in
		return it.margin[x][n.start(x)]
	}
	if isNaN(line) || it.n.inline == x { // from the border box (CSS Box Alignment 3, 9.1)
		line = it.cross
		if n.inline == vertical {
			line = it.cross / 2
		}
	}
	return it.margin[x][n.start(x)] + line
}

// flexLineCross determines a line's cross size (9.4, 8).
func (s *solver) flexLineCross(n *node, line *flexLine, items []flexItem, x uint8) {
	line.first, line.last = noGroup, noGroup
	for i := line.from; i < line.to; i++ {
		it := &items[i]
		outer := it.cross + it.outer(x)
		if !it.shares(x) {
			line.cross = max(line.cross, outer)
			continue
		}
		up := it.ascent(n, x)
		if it.self == alignLastBaseline {
			line.last.add(up, outer-up)
		} else {
			line.first.add(up, outer-up)
		}
	}
	line.cross = max(line.cross, max(line.first.above+line.first.below, line.last.above+line.last.below))
}
