package layout

// distribute gives where the first of count things goes and what is added
// between them, for a content-distribution value (CSS Box Alignment 3, 5).
func distribute(how align, free float64, count int, safe bool) (before, between float64) {
	if free < 0 && (safe || how == alignBetween || how == alignAround || how == alignEvenly) {
		return 0, 0
	}
	switch how {
	case alignCenter:
		return free / 2, 0
	case alignEnd, alignFlexEnd:
		return free, 0
	case alignBetween:
		if count > 1 {
			return 0, free / float64(count-1)
		}
	case alignAround:
		if count > 0 {
			return free / float64(count) / 2, free / float64(count)
		}
	case alignEvenly:
		return free / float64(count+1), free / float64(count+1)
	}
	return 0, 0
}

// flexAlignLines packs the lines of a multi-line container (8.4).
func (s *solver) flexAlignLines(n *node, lines []flexLine, free, gap float64) {
	how := n.alignContent
	if how == alignNormal {
		how = alignStretch
	}
	if how == alignStretch && free > 0 && len(lines) > 0 {
		for l := range lines {
			lines[l].cross += free / float64(len(lines))
		}
		free = 0
	}
	how = flowAlign(how, n.wrapBack)
	before, between := distribute(how, free, len(lines), n.safeAlign)
	if n.wrapBack && free < 0 && (how == alignAround || how == alignEvenly || n.safeAlign) {
		before = free
	}
	at := before
	for l := range lines {
		lines[l].offset = at
		at += lines[l].cross + gap + between
	}
}

func (n *node) crossAxis() uint8 {
	_, x := n.flexAxes()
	return x
}

// flowAlign turns start and end into the direction things flow in, which may be
// reversed.
func flowAlign(how align, back bool) align {
	switch how {
	case alignStart, alignSelfStart:
		if back {
			return alignFlexEnd
		}
		return alignFlexStart
	case alignEnd, alignSelfEnd:
		if back {
			return alignFlexStart
		}
		return alignFlexEnd
	}
	return how
}

// mainAlign gives justify-content in the flow's direction.
func (s *solver) mainAlign(n *node) align {
	how := n.justifyContent
	m, _ := n.flexAxes()
	switch how {
	case alignNormal, alignStretch, alignAuto:
		return alignFlexStart
	case alignLeft, alignRight:
		if n.flexColumn { // no left along this axis: as start (CSS Box Alignment 3, 4.1)
			how = alignStart
			break
		}
		if (how == alignLeft) != n.reversed[m] {
			how = alignStart
		} else {
			how = alignEnd
		}
	}
	return flowAlign(how, n.flexBack)
}

// crossAlign gives an item's self-alignment in the flow's direction.
func (s *solver) crossAlign(n, c *node, how align) align {
	x := n.crossAxis()
	if how == alignSelfStart || how == alignSelfEnd {
		// By the item's own direction.
		if n.reversed[x] != c.reversed[x] {
			if how == alignSelfStart {
				how = alignEnd
			} else {
				how = alignStart
			}
		}
	}
	return flowAlign(how, n.wrapBack)
}

// withoutBaseline is what baseline alignment falls back to (CSS Box Alignment 3, 4.2).
func withoutBaseline(how align) align {
	if how == alignLastBaseline {
		return alignEnd
	}
	return alignStart
}

// flexPlace aligns and lays out the items of a line (9.5, 9.6).
func (s *solver) flexPlace(n *node, items []flexItem, line *flexLine, inner [2]float64, mainSize, crossSize, gap float64) {
	m, x := n.flexAxes()
	count := line.to - line.from
	free := mainSize - gap*float64(count-1)
	autos := 0
	for i := line.from; i < line.to; i++ {
		it := &items[i]
		free -= it.main + it.outer(m)
		for e := range 2 {
			if it.auto[m][e] {
				autos++
			}
		}
	}
	share := 0.0
	if autos > 0 && free > 0 {
		share = free / float64(autos)
		free = 0
	}
	how := s.mainAlign(n)
	before, between := 0.0, 0.0
	if autos == 0 || free < 0 {
		safe := n.safeJustify
		before, between = distribute(how, free, count, safe)
		if n.flexBack && free < 0 && (safe || how == alignAround || how == alignEvenly) {
			before = free // safe falls back to start, which is the flow's end here
		}
	}
	ms := n.start(m)
	if n.flexBack {
		ms = 1 - ms
	}
	at := before
	for i := line.from; i < line.to; i++ {
		it := &items[i]
		c := it.n
		lead, trail := it.margin[m][ms], it.margin[m][1-ms]
		if it.auto[m][ms] {
			lead += share
		}
		if it.auto[m][1-ms] {
			trail += share
		}
		// Lay out with the final cross size.
		s.edges(c, inner[n.inline])
		sp := s.flexSpace(n, it, inner)
		if s.stretches(it, x) {
			low, high := s.limits(c, x, inner[x])
			it.cross = clamp(line.cross-it.outer(x), low, high)
			sp.size[x] = it.cross
			if c.inline == x {
				sp.size[m] = it.main
			}
		}
		r := s.layout(c, sp, true)
		it.first, it.last = r.first, r.last
		it.cross = c.size[x]

		main := at + lead
		at += lead + it.main + trail + gap + between
		if n.flexBack {
			main = mainSize - main - it.main
		}
		cross := s.flexCrossOffset(n, it, line)
		if n.wrapBack {
			cross = crossSize - cross - it.cross
		}
		it.offset[m], it.offset[x] = main, cross
		c.pos[m], c.pos[x] = main, cross
	}
}

// flexCrossOffset gives an item's distance from the cross-start edge of its
// container, in the direction lines flow in.
func (s *solver) flexCrossOffset(n *node, it *flexItem, line *flexLine) float64 {
	_, x := n.flexAxes()
	start := n.start(x)
	if n.wrapBack {
		start = 1 - start
	}
	offset := 0.0
	if n.wrap {
		offset = line.offset
	}
	lead, trail := it.margin[x][start], it.margin[x][1-start]
	free := line.cross - it.cross - lead - trail
	if autos := it.auto[x][0] || it.auto[x][1]; autos {
		if free > 0 {
			switch {
			case it.auto[x][0] && it.auto[x][1]:
				lead += free / 2
			case it.auto[x][start]:
				lead += free
			}
		} else if n.wrapBack {
			// 9.6, 13: what does not fit overflows at the end of the block or
			// inline axis, not of the flow.
			lead += free
		}
		return offset + lead
	}
	how := it.self
	if it.shares(x) {
		up := it.ascent(n, x)
		outer := it.cross + it.outer(x)
		switch {
		case how == alignBaseline && n.wrapBack:
			return offset + line.first.below - (outer - up) + lead
		case how == alignBaseline:
			return offset + line.first.above - up + lead
		case n.wrapBack:
			return offset + line.cross - (line.last.above - up) - outer + lead
		}
		return offset + line.cross - line.last.below - up + lead
	} else if isBaseline(how) {
		how = withoutBaseline(how)
	}
	switch s.crossAlign(n, it.n, how) {
	case alignCenter:
		if it.safe && free < 0 {
			free = 0
		}
		lead += free / 2
	case alignFlexEnd:
		if it.safe && free < 0 {
			free = 0
		}
		lead += free
	}
	return offset + lead
}

// flexBaseline gives a container's baseline (8.5), from the first or last line.
func (s *solver) flexBaseline(n *node, items []flexItem, last bool) float64 {
	_, x := n.flexAxes()
	pick := &items[0]
	if last != n.flexBack { // the one at the start, or end, of the line
		pick = &items[len(items)-1]
	}
	if !n.flexColumn {
		for i := range items {
			if items[i].shares(x) {
				pick = &items[i]
				break
			}
		}
	}
	b := n.block()
	offset := pick.offset[b]
	line := pick.first
	if last {
		line = pick.last
	}
	if isNaN(line) || pick.n.inline != n.inline {
		line = pick.n.size[b]
		if n.inline == vertical {
			line /= 2
		}
	}
	return offset + line
}

// flexHypothetical places the static position of a box out of flow: as the sole
// item of the container (4.1).
func (s *solver) flexHypothetical(n, c *node, mainSize, crossSize float64) {
	m, x := n.flexAxes()
	side := func(a align, back bool) uint8 {
		switch {
		case a == alignCenter || a == alignAround || a == alignEvenly:
			return 1
		case (a == alignEnd || a == alignFlexEnd) != back:
			return 2
		}
		return 0
	}
	self := c.alignSelf
	if self == alignAuto {
		self = n.alignItems
	}
	if isBaseline(self) {
		self = withoutBaseline(self)
	}
	c.hypo, c.hypoSize = [2]float64{}, [2]float64{}
	c.hypoSize[m], c.hypoSize[x] = mainSize, crossSize
	c.hypoSafe = [2]bool{}
	c.hypoSafe[x] = c.safeSelf
	c.hypoAlign[m] = side(s.mainAlign(n), n.flexBack)
	c.hypoAlign[x] = side(s.crossAlign(n, c, self), n.wrapBack)
}
