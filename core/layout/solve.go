package layout

import (
	"cobrik/core/css"
	"math"

	"cobrik/core/problem"
)

// Solve lays a tree out and gives the same tree with boxes. The style map and
// text are shared with the tree given. The solution is nil on an error.
func Solve(root *Node, o Options) (*Node, problem.List) {
	t, found := solve(root, o)
	if t == nil {
		return nil, found
	}
	out := solution{nodes: t.nodes, boxes: t.boxes()}
	return out.copy(root), found
}

func solve(root *Node, o Options) (*tree, problem.List) {
	if !(o.Width >= 0 && o.Width <= css.Largest) || !(o.Height >= 0 && o.Height <= css.Largest) || !(o.RootFont >= 0 && o.RootFont <= 10_000) {
		var found problem.List
		found.Errorf("layout-width", "", "give px from 0 to 33554432", "the width %g, height %g or root font size %g is out of range", o.Width, o.Height, o.RootFont)
		return nil, found
	}
	if o.Height == 0 {
		o.Height = 800
	}
	if o.RootFont == 0 {
		o.RootFont = css.RootFontSize
	}
	t, found := build(root, o, nil)
	if found.Failed() {
		return nil, found
	}
	t.solve(o)
	// Container units: a container's size does not depend on what is in it, so
	// every pass settles one more level of them.
	if t.relies && len(t.queries) > 0 {
		for range maxPasses {
			queried, same := map[*Node][2]float64{}, true
			for _, q := range t.queries {
				queried[q.source] = [2]float64{q.size[0] - q.sum(0), q.size[1] - q.sum(1)}
			}
			last := t
			t, _ = build(root, o, queried)
			t.solve(o)
			for i, q := range t.queries {
				same = same && q.size == last.queries[i].size
			}
			if same {
				break
			}
		}
	}
	return t, found
}

func (t *tree) solve(o Options) {
	s := &solver{view: [2]float64{o.Width, o.Height}}
	s.run(t, o)
}

// run lays the tree out anew.
func (s *solver) run(t *tree, o Options) {
	for _, n := range t.nodes {
		n.forget()
	}
	page := space{size: [2]float64{o.Width, nan}, base: [2]float64{o.Width, nan}}
	s.layout(t.nodes[0], page, true)
	s.placeAll(t)
}

// solver lays boxes out. Its scratch space is reused.
type solver struct {
	view     [2]float64
	spare    [][]flexItem
	memories []memory
}

// space is what a box is laid out in.
type space struct {
	size       [2]float64 // border box; the one along the inline axis is known, the other may be NaN
	base       [2]float64 // content box of the containing block; NaN where it is not definite
	content    bool       // its own block size and limits do not count
	indefinite bool       // a block size given does not make percentages inside definite
}

// apart is a size that is known along one axis only.
func apart(axis uint8, v float64) (size [2]float64) {
	size[axis], size[1-axis] = v, nan
	return size
}

func same(a, b float64) bool { return a == b || a != a && b != b }

func (a *space) equal(b *space) bool {
	return same(a.size[0], b.size[0]) && same(a.size[1], b.size[1]) && same(a.base[0], b.base[0]) && same(a.base[1], b.base[1]) && a.indefinite == b.indefinite && a.content == b.content
}

// outcome is what a laid out box says to its parent. Baselines are from its
// block-start border edge; NaN when it has none.
type outcome struct {
	size        [2]float64
	first, last float64
	top, bottom strut // margins of children that reach out of it
	collapses   bool  // its own margins meet: it is empty
}

type memo struct {
	space   space
	outcome outcome
	used    bool
}

type intrinsicMemo struct {
	block    float64
	min, max float64
	used     bool
}

// memory is what a box was measured to be, the last times. Most boxes need none.
type memory struct {
	layouts   [2]memo
	next      uint8
	intrinsic [2]intrinsicMemo
}

// remember gives a box its memory.
func (s *solver) remember(n *node) *memory {
	if n.memory == nil {
		if len(s.memories) == 0 {
			s.memories = make([]memory, 64)
		}
		n.memory, s.memories = &s.memories[0], s.memories[1:]
	}
	return n.memory
}

// flow is what laying out a box's content gives, in content-box coordinates of
// the block axis.
type flow struct {
	natural     float64 // the block size of the content
	first, last float64
	top, bottom strut
	collapses   bool
}

// edges resolves border and padding.
func (s *solver) edges(n *node, base float64) {
	if n.plain {
		return
	}
	for axis := range 2 {
		for e := range 2 {
			n.edge[axis][e] = n.border[axis][e] + max(0, n.padding[axis][e].orZero(base))
		}
	}
}

// marginsOf resolves margins; auto is 0.
func (s *solver) marginsOf(n *node, base float64) (m [2][2]float64) {
	if n.plain {
		return n.margins
	}
	for axis := range 2 {
		for e := range 2 {
			m[axis][e] = n.margin[axis][e].orZero(base)
		}
	}
	return m
}

// sum is the border and padding along an axis.
func (n *node) sum(axis uint8) float64 { return n.edge[axis][0] + n.edge[axis][1] }

// start is the edge an axis flows from.
func (s *style) start(axis uint8) int {
	if s.reversed[axis] {
		return 1
	}
	return 0
}

// layout lays a box out. In full, everything inside is left where it belongs
// and baselines are found; otherwise the box is only measured.
func (s *solver) layout(n *node, sp space, full bool) outcome {
	if n.done && n.performed.equal(&sp) {
		return n.result
	}
	i, b := n.inline, n.block()
	if !full {
		if n.memory != nil {
			for i := range n.memory.layouts {
				if m := &n.memory.layouts[i]; m.used && m.space.equal(&sp) {
					return m.outcome
				}
			}
		}
		if !isNaN(sp.size[b]) && n.bfc {
			return outcome{size: sp.size, first: nan, last: nan}
		}
	} else {
		// What lies around it no longer holds what it was laid out for.
		for p := n; p != nil && (p.done || p == n); p = p.parent {
			p.done = false
		}
	}
	n.percentBase = sp.base[i]
	s.edges(n, sp.base[n.edgeAxis])
	if full && n.bfc && n.empty() && !isNaN(sp.size[b]) { // there is nothing to find out
		n.automatic = false
		n.size, n.laid = sp.size, n.edge
		n.performed, n.result, n.done = sp, outcome{size: sp.size, first: nan, last: nan}, true
		return n.result
	}
	inner := [2]float64{nan, nan}
	inner[i] = max(0, sp.size[i]-n.sum(i))

	low, high := n.sum(b), math.Inf(1)
	if !sp.content {
		low, high = s.limits(n, b, sp.base[b])
	}
	size := sp.size[b]
	ratio := false
	n.automatic = false
	if isNaN(size) {
		if !sp.content {
			size = n.preferredSize(b, sp.base[b])
		}
		n.automatic = isNaN(size)
		if n.automatic && n.aspect > 0 && (sp.content || n.preferred[b].kind <= fixed) {
			size, ratio = n.fromRatio(b, sp.size[i]), true
		}
		if !isNaN(size) {
			size = clamp(size, low, high)
		}
	}
	given := size
	if sp.indefinite && !isNaN(sp.size[b]) {
		given = nan
	}
	if !isNaN(given) {
		inner[b] = max(0, given-n.sum(b))
	}
	bounds := [2]float64{max(0, low-n.sum(b)), max(0, high-n.sum(b))}
	if !isNaN(size) && isNaN(given) { // a size to fill, which percentages do not see
		bounds = [2]float64{size - n.sum(b), size - n.sum(b)}
	}
	if full {
		n.size[i] = sp.size[i]
	}
	if ratio && (sp.content || n.min[b].kind == auto && n.preferred[b].kind == auto) && !n.scrolls[b] {
		// The automatic minimum of a box with a ratio is its content's size
		// (CSS Sizing 4, 5.1.1).
		known := inner
		if n.display == displayFlex {
			known = apart(i, inner[i])
		}
		natural := s.content(n, known, bounds, false).natural + n.sum(b)
		if size = max(size, clamp(natural, low, high)); n.display != displayBlock {
			inner[b] = max(0, size-n.sum(b))
		}
	}
	f := s.content(n, inner, bounds, full)
	if isNaN(size) {
		size = clamp(f.natural+n.sum(b), low, high)
	}
	if size != f.natural+n.sum(b) {
		f.bottom = strut{} // the last child's margin does not reach the edge
	}
	start := n.edge[b][n.start(b)]
	out := outcome{first: f.first + start, last: f.last + start}
	out.size[i], out.size[b] = sp.size[i], size
	if !n.bfc {
		out.top, out.bottom = f.top, f.bottom
		out.collapses = f.collapses && size == 0
	}
	if full {
		n.size = out.size
		n.laid = n.edge
		s.settle(n, inner)
		n.performed, n.result, n.done = sp, out, true
		return out
	}
	m := s.remember(n)
	m.layouts[m.next] = memo{sp, out, true}
	m.next = (m.next + 1) % uint8(len(m.layouts))
	return out
}

// empty tells whether nothing is in a box that would make it larger than its
// edges.
func (n *node) empty() bool {
	return len(n.children) == 0 && n.text == nil && n.display != displayGrid && n.aspect == 0
}

func (s *solver) content(n *node, inner, bounds [2]float64, full bool) flow {
	switch {
	case n.text != nil:
		return s.textFlow(n, inner, full)
	case len(n.children) == 0 && n.display == displayFlex:
		return flow{natural: clamp(0, bounds[0], bounds[1]), first: nan, last: nan}
	case n.display == displayFlex:
		return s.flexFlow(n, inner, bounds, full)
	case n.display == displayGrid:
		return s.gridFlow(n, inner, bounds, full)
	}
	return s.blockFlow(n, inner, full)
}

// settle turns offsets from the content box's start into offsets from the left
// and top of the border box, and moves relatively placed children.
func (s *solver) settle(n *node, inner [2]float64) {
	for _, c := range n.children {
		if c.position == absolute {
			for axis := range 2 {
				if n.reversed[axis] {
					c.hypo[axis] = n.size[axis] - n.edge[axis][1] - c.hypo[axis] - c.hypoSize[axis]
					c.hypoAlign[axis] = 2 - c.hypoAlign[axis]
				} else {
					c.hypo[axis] += n.edge[axis][0]
				}
			}
			continue
		}
		for axis := range 2 {
			if n.reversed[axis] {
				c.pos[axis] = n.size[axis] - n.edge[axis][1] - c.pos[axis] - c.size[axis]
			} else {
				c.pos[axis] += n.edge[axis][0]
			}
		}
		if c.position == relative {
			if n.display == displayGrid {
				s.shift(n, c, c.area)
			} else {
				s.shift(n, c, inner)
			}
		}
	}
}

// shift moves a relatively placed box (CSS Positioned Layout 3, 3.3): the
// start inset wins over the end one.
func (s *solver) shift(n, c *node, inner [2]float64) {
	for axis := range 2 {
		start := n.start(uint8(axis))
		if v := c.inset[axis][start].resolve(inner[axis]); !isNaN(v) {
			c.pos[axis] += sign(start) * v
		} else if v := c.inset[axis][1-start].resolve(inner[axis]); !isNaN(v) {
			c.pos[axis] += sign(1-start) * v
		}
	}
}

// sign is the direction an inset of an edge moves a box.
func sign(edge int) float64 {
	if edge == 0 {
		return 1
	}
	return -1
}

// intrinsicOf gives the min-content and max-content size of a box's content
// along its inline axis. block is its border-box block size where that is made
// from outside, else NaN.
func (s *solver) intrinsicOf(n *node, block float64) (low, high float64) {
	if !n.ratioed {
		block = nan
	}
	if n.memory != nil {
		for i := range n.memory.intrinsic {
			if m := &n.memory.intrinsic[i]; m.used && same(m.block, block) {
				return m.min, m.max
			}
		}
	}
	inner := n.ownBlock()
	if !isNaN(block) {
		inner[n.block()] = block - n.sum(n.block())
	}
	switch {
	case n.container[0]:
	case n.text != nil:
		low, high = s.textIntrinsic(n)
	case len(n.children) == 0 && n.display != displayGrid:
	case n.display == displayFlex:
		low, high = s.flexIntrinsic(n, inner)
	case n.display == displayGrid:
		low, high = s.gridIntrinsic(n, inner)
	default:
		low, high = s.blockIntrinsic(n, inner)
	}
	if n.grid != nil && len(n.grid.tracks[0].repeat) > 0 && (n.min[n.inline].relative() || n.max[n.inline].relative()) {
		return low, high // it depends on what its limits refer to
	}
	m := s.remember(n)
	m.intrinsic[1] = m.intrinsic[0]
	m.intrinsic[0] = intrinsicMemo{block, low, high, true}
	return low, high
}

// ownBlock gives the content box as far as a box's own properties make it
// definite along its block axis.
func (n *node) ownBlock() [2]float64 {
	b := n.block()
	v := n.preferredSize(b, nan)
	if isNaN(v) {
		return [2]float64{nan, nan}
	}
	if low := n.used(&n.min[b], b, nan); !isNaN(low) {
		v = max(v, low)
	}
	return apart(b, v-n.sum(b))
}

// contribution gives the min-content and max-content contribution of a box
// along an axis, margins included (CSS Sizing 3, 5.2). block is its border-box
// block size where the parent makes it, else NaN.
func (s *solver) contribution(c *node, axis uint8, base [2]float64, block float64) (low, high float64) {
	s.edges(c, base[c.edgeAxis])
	c.percentBase = nan
	unknown := base
	unknown[axis] = nan
	v := c.preferredSize(axis, nan)
	switch {
	case !isNaN(v):
		low, high = v, v
	case axis == c.inline:
		v = nan
		if c.aspect > 0 {
			v = s.ratioInline(c, unknown, block)
		}
		if !isNaN(v) {
			low, high = v, v
			break
		}
		low, high = s.intrinsicOf(c, block)
		low, high = low+c.sum(axis), high+c.sum(axis)
		switch c.preferred[axis].kind {
		case minContent:
			high = low
		case maxContent:
			low = high
		}
		low, high = s.carry(c, low, unknown), s.carry(c, high, unknown)
	default:
		sp := space{size: [2]float64{nan, nan}, base: unknown}
		sp.size[c.inline] = s.inlineSize(c, s.across(c, base), false, unknown, nan)
		low = s.layout(c, sp, false).size[axis]
		high = low
		s.edges(c, base[c.edgeAxis])
	}
	least, most := s.limits(c, axis, nan)
	low, high = clamp(low, least, most), clamp(high, least, most)
	m := s.marginsOf(c, base[c.edgeAxis])
	return low + m[axis][0] + m[axis][1], high + m[axis][0] + m[axis][1]
}

// orthogonal gives the base for percentages of a box whose lines run across its
// parent's: what is there, where the parent's size is not definite (CSS Writing
// Modes 4, 7.3.1).
func (s *solver) orthogonal(c *node, base [2]float64) [2]float64 {
	if c.inline != c.parent.inline && isNaN(base[c.inline]) {
		base[c.inline] = s.view[c.inline]
	}
	return base
}

// across is what an orthogonal box has along its inline axis: the containing
// block's size where that is definite, else the viewport's (CSS Writing Modes
// 4, 7.3.1).
func (s *solver) across(c *node, base [2]float64) float64 {
	m := s.marginsOf(c, base[c.edgeAxis])
	avail := base[c.inline]
	if isNaN(avail) {
		avail = s.view[c.inline]
	}
	return avail - m[c.inline][0] - m[c.inline][1]
}

// maxPasses bounds how deep containers that are measured in units of containers
// may nest.
const maxPasses = 32
