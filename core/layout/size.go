package layout

import "math"

// used gives a definite size property as a border-box size; NaN otherwise.
func (n *node) used(l *length, axis uint8, base float64) float64 {
	v := l.resolve(base)
	if isNaN(v) {
		return v
	}
	if v = max(v, 0); n.borderBox {
		return max(v, n.sum(axis))
	}
	return v + n.sum(axis)
}

// preferredSize gives the border-box size of a box's width or height property; NaN where it is not definite.
func (n *node) preferredSize(axis uint8, base float64) float64 {
	if n.steady[axis] {
		return n.settled.preferred[axis]
	}
	return n.used(&n.preferred[axis], axis, base)
}

// limits gives the least and greatest border-box size of the min and max
// properties. Keywords count along the inline axis; auto is no limit.
func (s *solver) limits(n *node, axis uint8, base float64) (low, high float64) {
	if n.steady[axis] {
		return n.settled.low[axis], n.settled.high[axis]
	}
	low, high = n.sum(axis), math.Inf(1)
	if n.max[axis].kind == none && n.min[axis].kind == auto {
		return low, high
	}
	if v := n.used(&n.max[axis], axis, base); !isNaN(v) {
		high = v
	} else if axis == n.inline && n.max[axis].kind >= minContent && n.max[axis].kind <= fitContent {
		lo, hi := s.intrinsicOf(n, nan)
		if high = hi + n.sum(axis); n.max[axis].kind == minContent {
			high = lo + n.sum(axis)
		}
	}
	if n.min[axis].kind == fixed {
		// Percentages of what is not known count as 0 (CSS Sizing 3, 5.1.2).
		if v := n.used(&n.min[axis], axis, base); !isNaN(v) {
			low = v
		} else {
			low = n.used(&n.min[axis], axis, 0)
		}
	} else if axis == n.inline && n.min[axis].kind >= minContent && n.min[axis].kind <= fitContent {
		lo, hi := s.intrinsicOf(n, nan)
		if low = hi + n.sum(axis); n.min[axis].kind == minContent {
			low = lo + n.sum(axis)
		}
	}
	return low, high
}

// clamp applies limits; the lower one wins (CSS Sizing 3, 5.2).
func clamp(v, low, high float64) float64 { return max(low, min(v, high)) }

// fromRatio gives the border-box size along an axis that the preferred aspect
// ratio makes of the one across (CSS Sizing 4, 5.1).
func (n *node) fromRatio(axis uint8, across float64) float64 {
	ratio := n.aspect
	if axis == vertical {
		ratio = 1 / ratio
	}
	if n.borderBox {
		return max(across*ratio, n.sum(axis))
	}
	return max(0, across-n.sum(1-axis))*ratio + n.sum(axis)
}

// inlineSize gives the border-box size of a box along its own inline axis.
// avail is what there is, without margins; fill makes auto take all of it.
// block is its block size where that is known from outside.
func (s *solver) inlineSize(n *node, avail float64, fill bool, base [2]float64, block float64) float64 {
	i := n.inline
	n.percentBase = base[i]
	low, high := s.limits(n, i, base[i])
	v := n.preferredSize(i, base[i])
	if isNaN(v) {
		switch l := &n.preferred[i]; {
		case l.kind == minContent || l.kind == maxContent || l.kind == fitContent:
			if n.aspect > 0 {
				if v = s.ratioInline(n, base, block); !isNaN(v) {
					break
				}
			}
			lo, hi := s.intrinsicOf(n, block)
			switch l.kind {
			case minContent:
				v = lo
			case maxContent:
				v = hi
			default:
				v = min(hi, max(lo, avail-n.sum(i)))
			}
			v += n.sum(i)
			v = s.carry(n, v, base)
		default:
			if n.aspect > 0 {
				v = s.ratioInline(n, base, block)
			}
			if !isNaN(v) {
				break
			}
			if v = avail; !fill || isNaN(avail) {
				lo, hi := s.intrinsicOf(n, block)
				if v = hi; !isNaN(avail) {
					v = min(hi, max(lo, avail-n.sum(i)))
				}
				v += n.sum(i)
			}
			v = s.carry(n, v, base)
		}
	}
	return clamp(v, low, high)
}

// carry applies the limits across, which the aspect ratio carries over, to an
// automatic inline size (CSS Sizing 4, 5.1.2).
func (s *solver) carry(n *node, v float64, base [2]float64) float64 {
	if n.aspect == 0 {
		return v
	}
	low, high := s.limits(n, n.block(), base[n.block()])
	return clamp(v, n.transferred(n.inline, low), n.transferred(n.inline, high))
}

// transferred carries a limit over the aspect ratio; none stays none.
func (n *node) transferred(axis uint8, limit float64) float64 {
	if math.IsInf(limit, 1) {
		return limit
	}
	return n.fromRatio(axis, limit)
}

// ratioInline gives the inline size that a definite block size and the aspect
// ratio make; NaN when there is no definite block size.
func (s *solver) ratioInline(n *node, base [2]float64, block float64) float64 {
	i, b := n.inline, n.block()
	if isNaN(block) {
		if block = n.preferredSize(b, base[b]); isNaN(block) {
			return nan
		}
		low, high := s.limits(n, b, base[b])
		block = clamp(block, low, high)
	}
	v := n.fromRatio(i, block)
	// The automatic minimum of a box with a ratio (CSS Sizing 4, 5.1.1).
	if n.min[i].kind == auto && !n.scrolls[i] {
		lo, _ := s.intrinsicOf(n, nan)
		v = max(v, lo+n.sum(i))
	}
	return v
}
