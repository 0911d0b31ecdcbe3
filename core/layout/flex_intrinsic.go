package layout

import (
	"slices"
)

// flexIntrinsic gives the container's min-content and max-content inline size
// as browsers compute it: from the items' contributions, not from 9.9.1's ideal.
func (s *solver) flexIntrinsic(n *node, base [2]float64) (low, high float64) {
	m, _ := n.flexAxes()
	if n.flexColumn && n.wrap {
		return s.flexIntrinsicColumns(n)
	}
	count := 0
	for _, c := range n.children {
		if c.position == absolute {
			continue
		}
		count++
		l, h := s.contribution(c, n.inline, base, s.flexStretch(n, c, base))
		if m == n.inline {
			l, h = s.flexible(c, m, l, h)
		}
		if m != n.inline {
			low, high = max(low, l), max(high, h)
			continue
		}
		high += h
		if n.wrap {
			low = max(low, l)
		} else {
			low += l
		}
	}
	if m == n.inline && count > 1 {
		gaps := n.gap[0].orZero(nan) * float64(count-1)
		if high += gaps; !n.wrap {
			low += gaps
		}
	}
	return max(0, low), max(0, max(low, high))
}

// flexStretch gives the block size an item will be stretched to; NaN when it
// will not, or that is not known.
func (s *solver) flexStretch(n, c *node, base [2]float64) float64 {
	self := c.alignSelf
	if self == alignAuto {
		self = n.alignItems
	}
	b := n.block()
	stretched := self == alignNormal || self == alignStretch
	if n.flexColumn || n.wrap || !c.ratioed || !stretched || c.preferred[b].kind != auto || isNaN(base[b]) ||
		c.margin[b][0].kind == auto || c.margin[b][1].kind == auto {
		return nan
	}
	m := s.marginsOf(c, nan)
	s.edges(c, nan)
	low, high := s.limits(c, b, base[b])
	return clamp(base[b]-m[b][0]-m[b][1], low, high)
}

// flexible bounds a contribution by the flex base size: from above for what does
// not grow, from below for what does not shrink (9.9.3).
func (s *solver) flexible(c *node, m uint8, low, high float64) (float64, float64) {
	basis := c.basis
	if basis.kind == auto {
		basis = c.preferred[m]
	}
	margins := s.marginsOf(c, nan)
	v := c.used(&basis, m, nan)
	if isNaN(v) {
		return low, high
	}
	least, most := s.limits(c, m, nan)
	if c.min[m].kind == auto && !c.scrolls[m] && c.inline == m {
		content, _ := s.intrinsicOf(c, nan)
		least = max(least, min(content+c.sum(m), most))
		if stated := c.preferredSize(m, nan); !isNaN(stated) {
			least = min(least, max(stated, c.sum(m)))
		}
	}
	v = clamp(v, least, most) + margins[m][0] + margins[m][1]
	if c.shrink == 0 {
		low, high = max(low, v), max(high, v)
	}
	if c.grow == 0 {
		low, high = min(low, v), min(high, v)
	}
	return low, high
}

// flexIntrinsicColumns is flexIntrinsic for a column that wraps: its columns
// side by side.
func (s *solver) flexIntrinsicColumns(n *node) (low, high float64) {
	b := n.block()
	inner := [2]float64{nan, nan}
	least, most := s.limits(n, b, nan)
	room := most - n.sum(b)
	if v := n.preferredSize(b, nan); !isNaN(v) {
		inner[b] = clamp(v, least, most) - n.sum(b)
		room = inner[b]
	}
	items := s.take()
	defer func() { s.put(items) }()
	for _, c := range n.children {
		if c.position != absolute {
			items = append(items, flexItem{n: c})
		}
	}
	slices.SortStableFunc(items, func(a, b flexItem) int { return a.n.order - b.n.order })
	gap, across := n.gap[1].orZero(inner[b]), n.gap[0].orZero(nan)
	used, widest := 0.0, 0.0
	for k := range items {
		it := &items[k]
		s.flexBase(n, it, inner)
		outer := it.hypo + it.outer(b)
		l, h := s.contribution(it.n, n.inline, inner, nan)
		low = max(low, l)
		if k > 0 && used+gap+outer > room+slack {
			high += widest + across
			used, widest = 0, 0
		} else if k > 0 {
			used += gap
		}
		used += outer
		widest = max(widest, h)
	}
	return max(0, low), max(0, max(low, high+widest))
}
