package layout

// gridAreas keeps where a container's tracks lie, for boxes out of flow.
type gridAreas struct {
	starts, ends [2][]float64 // of tracks, from the content box's start
	explicit     [2]int       // tracks of the template
	first        [2]int       // index of the template's first track
	empty        [2]float64   // where the one line of a grid without tracks lies
}

func (g *gridRun) keepAreas() {
	a := &gridAreas{explicit: g.explicit, first: g.first, empty: g.before}
	for l := range 2 {
		for _, t := range g.tracks[l] {
			a.starts[l] = append(a.starts[l], t.at)
			a.ends[l] = append(a.ends[l], t.at+t.base)
		}
	}
	g.n.areas = a
}

// hypothetical places the static position of a box out of flow: in the content
// box, by its own alignment (9.2).
func (g *gridRun) hypothetical(c *node, sizes [2]float64) {
	for l := range 2 {
		axis := g.axis(l)
		c.hypo[axis], c.hypoSize[axis] = 0, sizes[l]
	}
	g.n.alignHypothetical(c)
}

// alignHypothetical aligns a box out of flow in the rectangle of its static
// position.
func (n *node) alignHypothetical(c *node) {
	for l, how := range [2]align{c.justifySelf, c.alignSelf} {
		axis := n.axis(l)
		if how == alignAuto && (l == 0 || n.display != displayBlock) {
			how = [2]align{n.justifyItems, n.alignItems}[l]
		}
		c.hypoAlign[axis], c.hypoSafe[axis] = 0, [2]bool{c.safeJustifySelf, c.safeSelf}[l]
		switch how {
		case alignCenter:
			c.hypoAlign[axis] = 1
		case alignEnd, alignFlexEnd, alignLastBaseline:
			c.hypoAlign[axis] = 2
		case alignSelfStart, alignSelfEnd:
			if (how == alignSelfEnd) != (c.reversed[axis] != n.reversed[axis]) {
				c.hypoAlign[axis] = 2
			}
		case alignLeft, alignRight:
			if l == 0 && (how == alignRight) != n.reversed[axis] {
				c.hypoAlign[axis] = 2
			}
		}
	}
}

// areaOf narrows the containing block to the lines a box out of flow names
// (9.1). origin is from its parent's border box.
func (s *solver) areaOf(h, n *node, origin, room *[2]float64) {
	for l := range 2 {
		axis := uint8(h.axis(l))
		p := n.place[l]
		if p.start == 0 && p.end == 0 {
			continue
		}
		count := len(h.areas.starts[l])
		// Offsets from the padding box's start.
		padding := h.edge[axis][h.start(axis)] - h.border[axis][h.start(axis)]
		low, high := 0.0, room[axis]
		line := func(v int) int {
			if v > 0 {
				v--
			} else {
				v = h.areas.explicit[l] + 1 + v
			}
			return v + h.areas.first[l]
		}
		startLine, endLine := 0, 0
		hasStart, hasEnd := p.start != 0, p.end != 0
		if hasStart {
			startLine = line(p.start)
		}
		if hasEnd {
			endLine = line(p.end)
		}
		if hasStart && !hasEnd && p.endSpan > 0 {
			endLine, hasEnd = startLine+p.endSpan, true
		}
		if hasEnd && !hasStart && p.startSpan > 0 {
			startLine, hasStart = endLine-p.startSpan, true
		}
		if hasStart && hasEnd && startLine > endLine {
			startLine, endLine = endLine, startLine
		}
		if hasStart && hasEnd && startLine == endLine {
			endLine++
		}
		// Lines outside of the grid count as auto.
		if hasStart && startLine >= 0 && startLine < count {
			low = padding + h.areas.starts[l][startLine]
		} else if hasStart && startLine == 0 {
			low = padding + h.areas.empty[l]
		} else if hasStart && startLine == count {
			low = padding + h.areas.ends[l][count-1]
		}
		if hasEnd && endLine > 0 && endLine <= count {
			high = padding + h.areas.ends[l][endLine-1]
		} else if hasEnd && endLine == 0 {
			high = padding + h.areas.empty[l]
		}
		if h.reversed[axis] {
			origin[axis] += room[axis] - high
		} else {
			origin[axis] += low
		}
		room[axis] = max(0, high-low)
	}
}
