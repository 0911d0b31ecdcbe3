package layout

// strut is a set of adjoining margins: they collapse to the largest positive
// plus the most negative of them (CSS 2.2, 8.3.1).
type strut struct{ positive, negative float64 }

func (t strut) with(margin float64) strut {
	return strut{max(t.positive, margin), min(t.negative, margin)}
}

func (t strut) and(o strut) strut {
	return strut{max(t.positive, o.positive), min(t.negative, o.negative)}
}

func (t strut) sum() float64 { return t.positive + t.negative }

// blockFlow stacks a block container's children (CSS 2.2, 9.4.1 and 10.3.3).
func (s *solver) blockFlow(n *node, inner [2]float64, full bool) flow {
	i, b := n.inline, n.block()
	startEdge, endEdge := n.start(b), 1-n.start(b)
	opens := !n.bfc && n.edge[b][startEdge] == 0
	closes := !n.bfc && n.edge[b][endEdge] == 0 && n.automatic

	f := flow{first: nan, last: nan}
	var pending strut
	cursor, atTop := 0.0, opens
	for _, c := range n.children {
		if c.position == absolute {
			if !full {
				continue
			}
			c.hypo[b], c.hypoSize[b], c.hypoAlign[b] = cursor, 0, 0
			if !atTop {
				c.hypo[b] += pending.sum()
			}
			c.hypo[i], c.hypoSize[i], c.hypoAlign[i] = 0, inner[i], 0
			n.alignHypothetical(c)
			continue
		}
		m := s.marginsOf(c, inner[i])
		sp := space{size: [2]float64{nan, nan}, base: inner}
		s.edges(c, inner[i])
		self, safe := c.justifySelf, c.safeJustifySelf
		if self == alignAuto {
			self, safe = n.justifyItems, n.safeItems[0]
		}
		is, ie := n.start(i), 1-n.start(i)
		if c.inline == i {
			sp.size[i] = s.inlineSize(c, inner[i]-m[i][0]-m[i][1], self == alignNormal || self == alignStretch, inner, nan)
		} else {
			sp.size[c.inline] = s.inlineSize(c, s.across(c, inner), false, s.orthogonal(c, inner), nan)
			if c.preferred[i].kind == auto && c.aspect == 0 { // its block size does not fill: it is its content's
				sp.size[i] = nan
			}
		}
		r := s.layout(c, sp, full)
		// Auto margins take what is left (CSS 2.2, 10.3.3).
		free := inner[i] - r.size[i] - m[i][0] - m[i][1]
		switch low, high := c.margin[i][is].kind == auto, c.margin[i][ie].kind == auto; {
		case !low && !high:
			if !safe || free > 0 {
				m[i][is] += s.justify(n, c, self, free)
			}
		case low && free > 0 && high:
			m[i][is] = free / 2
		case low && free > 0:
			m[i][is] = free
		}
		var at [2]float64
		at[i] = m[i][is]
		above := r.top.with(m[b][startEdge])
		if r.collapses {
			pending = pending.and(above)
			at[b] = cursor
			if !atTop {
				at[b] += pending.sum()
			}
			if full {
				c.pos = at
			}
			pending = pending.and(r.bottom).with(m[b][endEdge])
			continue
		}
		pending = pending.and(above)
		if atTop {
			f.top = pending
		} else {
			at[b] = cursor + pending.sum()
		}
		if full {
			c.pos = at
		}
		cursor = at[b] + r.size[b]
		atTop = false
		pending = r.bottom.with(m[b][endEdge])
		if c.inline == i {
			if isNaN(f.first) {
				f.first = at[b] + r.first
			}
			if !isNaN(r.last) {
				f.last = at[b] + r.last
			}
		}
	}
	switch {
	case atTop: // nothing but empty boxes: all margins are the parent's
		f.top = pending
		f.collapses = n.edge[b][endEdge] == 0
	case closes:
		f.bottom = pending
	default:
		cursor += pending.sum()
	}
	f.natural = max(0, cursor)
	if full && n.alignContent != alignNormal && inner[b] > f.natural {
		s.shiftBlocks(n, &f, inner[b]-f.natural)
	}
	return f
}

// justify gives what justify-self adds to a block's start (CSS Box Alignment 3,
// 6.1.1).
func (s *solver) justify(n, c *node, self align, free float64) float64 {
	i := n.inline
	switch self {
	case alignCenter:
		return free / 2
	case alignEnd, alignFlexEnd:
		return free
	case alignSelfStart, alignSelfEnd:
		if (self == alignSelfEnd) != (c.reversed[i] != n.reversed[i]) {
			return free
		}
	case alignLeft, alignRight:
		if (self == alignRight) != n.reversed[i] {
			return free
		}
	}
	return 0
}

// shiftBlocks aligns a block container's content as one (CSS Box Alignment 3,
// 5.1.1).
func (s *solver) shiftBlocks(n *node, f *flow, free float64) {
	before, _ := distribute(flowAlign(n.alignContent, false), free, 1, n.safeAlign)
	for _, c := range n.children {
		if c.position == absolute {
			c.hypo[n.block()] += before
		} else {
			c.pos[n.block()] += before
		}
	}
	f.first += before
	f.last += before
}

func (s *solver) blockIntrinsic(n *node, base [2]float64) (low, high float64) {
	for _, c := range n.children {
		if c.position == absolute {
			continue
		}
		l, h := s.contribution(c, n.inline, base, nan)
		low, high = max(low, l), max(high, h)
	}
	return low, high
}
