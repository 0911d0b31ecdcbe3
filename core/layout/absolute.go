package layout

// placeAll lays out the boxes out of flow and gives every box its place from
// the root. Parents come before their children in the tree's order.
func (s *solver) placeAll(t *tree) {
	for _, n := range t.nodes {
		p := n.parent
		if p == nil {
			continue
		}
		if n.position == absolute {
			s.place(n)
		}
		n.at = [2]float64{p.at[0] + n.pos[0], p.at[1] + n.pos[1]}
	}
}

// holder gives the box whose padding box an absolutely placed box refers to.
func (n *node) holder() *node {
	p := n.parent
	for p.parent != nil && p.position == static {
		p = p.parent
	}
	return p
}

// place lays out an absolutely placed box (CSS Positioned Layout 3, 4).
func (s *solver) place(n *node) {
	p, h := n.parent, n.holder()
	var origin, room [2]float64 // the containing block, from the parent's border box
	for axis := range 2 {
		origin[axis] = h.at[axis] - p.at[axis] + h.border[axis][0]
		room[axis] = h.size[axis] - h.border[axis][0] - h.border[axis][1]
	}
	if h.display == displayGrid && h.areas != nil {
		s.areaOf(h, n, &origin, &room)
		if h == p { // it would have been alone in that area (CSS Grid 2, 9.2)
			n.hypo, n.hypoSize = origin, room
		}
	}
	base := room
	inlineBase := room[h.inline]
	s.edges(n, inlineBase)
	m := s.marginsOf(n, inlineBase)
	n.edgeAxis = h.inline

	var size [2]float64
	size[0], size[1] = nan, nan
	var inset [2][2]float64
	var avail [2]float64
	for axis := range 2 {
		for e := range 2 {
			inset[axis][e] = n.inset[axis][e].resolve(room[axis])
		}
		low, high := inset[axis][0], inset[axis][1]
		if isNaN(low) && isNaN(high) {
			avail[axis] = s.hypotheticalRoom(n, axis, origin[axis], room[axis])
		} else {
			if isNaN(low) {
				low = 0
			}
			if isNaN(high) {
				high = 0
			}
			avail[axis] = max(0, room[axis]-low-high)
		}
		avail[axis] -= m[axis][0] + m[axis][1]
	}
	i, b := n.inline, n.block()
	stretched := func(axis uint8) bool {
		self := n.alignSelf
		if axis == h.inline {
			self = n.justifySelf
		}
		return n.preferred[axis].kind == auto && !isNaN(inset[axis][0]) && !isNaN(inset[axis][1]) && (self == alignAuto || self == alignNormal || self == alignStretch)
	}
	// The block size first, where the insets alone make it.
	if stretched(b) && (n.aspect == 0 || stretched(i)) {
		low, high := s.limits(n, b, base[b])
		if n.aspect == 0 {
			size[b] = clamp(max(avail[b], n.sum(b)), low, high)
		}
	}
	known := size[b]
	if n.aspect > 0 && stretched(b) && n.preferred[i].kind == auto && !stretched(i) {
		low, high := s.limits(n, b, base[b])
		known = clamp(max(avail[b], n.sum(b)), low, high)
		least, most := s.limits(n, i, base[i])
		known = clamp(known, n.transferred(b, least), n.transferred(b, most))
		size[b] = known
	}
	size[i] = s.inlineSize(n, max(avail[i], 0), stretched(i) && (n.aspect == 0 || isNaN(known)), base, known)
	r := s.layout(n, space{size: size, base: base}, true)
	for axis := range 2 {
		free := avail[axis] - r.size[axis]
		lowAuto, highAuto := n.margin[axis][0].kind == auto, n.margin[axis][1].kind == auto
		low, high := inset[axis][0], inset[axis][1]
		if h.reversed[axis] && low+high > room[axis] { // the end inset gives way
			low = room[axis] - high
		}
		switch {
		case !isNaN(low) && !isNaN(high):
			lead := m[axis][0]
			switch {
			case lowAuto && highAuto && free < 0 && uint8(axis) == h.inline: // it keeps to the start
				if h.reversed[axis] {
					lead = free
				}
			case lowAuto && highAuto:
				lead = free / 2
			case lowAuto:
				lead = free
			case highAuto:
			default:
				lead = s.insetAlign(n, h, uint8(axis), free, low, m[axis], room[axis]) - low
			}
			n.pos[axis] = origin[axis] + low + lead
		case !isNaN(low):
			n.pos[axis] = origin[axis] + low + m[axis][0]
		case !isNaN(high):
			n.pos[axis] = origin[axis] + room[axis] - high - m[axis][1] - r.size[axis]
		default:
			outer := r.size[axis] + m[axis][0] + m[axis][1]
			if room := max(0, avail[axis]+m[axis][0]+m[axis][1]); n.hypoSafe[axis] && outer > room && n.hypoAlign[axis] > 0 {
				at := n.hypo[axis] + n.hypoSize[axis] - room
				if n.hypoAlign[axis] == 1 {
					at = n.hypo[axis] + (n.hypoSize[axis]-room)/2
				}
				if p.reversed[axis] {
					at += room - outer
				}
				n.pos[axis] = at + m[axis][0]
				continue
			}
			n.pos[axis] = n.hypo[axis] + (n.hypoSize[axis]-outer)*float64(n.hypoAlign[axis])/2 + m[axis][0]
		}
	}
}

// insetAlign gives where self-alignment puts a box between two insets (CSS Box
// Alignment 3, 4.4.1 and 6.1.2). low is the
// low inset, room the containing block's size.
func (s *solver) insetAlign(n, h *node, axis uint8, free, low float64, margin [2]float64, room float64) float64 {
	size, lead := n.size[axis], low+margin[0]
	self, safe := n.alignSelf, n.safeSelf
	if axis == h.inline {
		self, safe = n.justifySelf, n.safeJustifySelf
	}
	atEnd, atStart := free, 0.0
	if h.reversed[axis] {
		atEnd, atStart = 0, free
	}
	add := atStart
	switch self {
	case alignAuto, alignNormal:
		return lead + atStart
	case alignCenter:
		add = free / 2
	case alignEnd, alignFlexEnd, alignLastBaseline:
		add = atEnd
	case alignSelfStart, alignSelfEnd:
		if (self == alignSelfEnd) != (n.reversed[axis] != h.reversed[axis]) {
			add = atEnd
		}
	case alignLeft, alignRight:
		if (self == alignRight) != h.reversed[axis] {
			add = atEnd
		}
	}
	if free >= 0 {
		return lead + add
	}
	// It overflows its insets before the containing block.
	least := min(0, low) + margin[0]
	most := max(room, lead+free+size+margin[1]) - margin[1] - size
	if safe {
		return lead + atStart
	}
	if most < least {
		return least
	}
	return clamp(lead+add, least, most)
}

// hypotheticalRoom is what a box without insets has: from its static position
// to the end of the containing block.
func (s *solver) hypotheticalRoom(n *node, axis int, origin, room float64) float64 {
	at, size := n.hypo[axis], n.hypoSize[axis]
	switch n.hypoAlign[axis] {
	case 0:
		return origin + room - at
	case 2:
		return at + size - origin
	}
	middle := at + size/2
	return 2 * min(middle-origin, origin+room-middle)
}
