package layout

import "math"

// boxes gives the boxes of the nodes that were given, in the tree's order.
func (t *tree) boxes() []Box {
	origin := t.root.at
	t.measureReach()
	out := make([]Box, 0, len(t.nodes))
	for _, n := range t.nodes {
		if n.source == nil {
			continue
		}
		x, y := n.at[0]-origin[0], n.at[1]-origin[1]
		b := Box{X: round(x), Y: round(y), Width: round(n.size[0]), Height: round(n.size[1]), Lines: n.lines}
		b.Content = Rect{round(x + n.laid[0][0]), round(y + n.laid[1][0]),
			round(max(0, n.size[0]-n.laid[0][0]-n.laid[0][1])), round(max(0, n.size[1]-n.laid[1][0]-n.laid[1][1]))}
		if first := n.result.first; !isNaN(first) {
			if n.reversed[n.block()] {
				first = n.size[n.block()] - first
			}
			first = round(first)
			b.Baseline = &first
		}
		over := n.overflow()
		if over[0] > 0 || over[1] > 0 {
			b.Overflow = &Overflow{X: over[0], Y: over[1], Clip: n.clips[0] || n.clips[1]}
		}
		for _, c := range n.children { // text beside children lies in a box of its own
			if c.source == nil {
				b.Lines, b.Ends = c.lines, c.lineEnds()
			}
		}
		if b.Lines > 0 && b.Ends == nil {
			b.Ends = n.lineEnds()
		}
		i, block := n.inline, n.block()
		b.Gaps[i], b.Gaps[block] = n.gap[0].orZero(n.size[i]-n.laid[i][0]-n.laid[i][1]), n.gap[1].orZero(n.size[block]-n.laid[block][0]-n.laid[block][1])
		b.Padding = Sides{Top: n.laid[1][0] - n.border[1][0], Right: n.laid[0][1] - n.border[0][1], Bottom: n.laid[1][1] - n.border[1][1], Left: n.laid[0][0] - n.border[0][0]}
		out = append(out, b)
	}
	return out
}

// lineEnds lists the character after each line but the last.
func (n *node) lineEnds() (ends []int) {
	if n.text != nil && n.lines > 1 {
		i := n.inline
		n.breakLines(n.size[i]-n.laid[i][0]-n.laid[i][1], func(at int) { ends = append(ends, at) })
	}
	return ends
}

// overflow gives how far content reaches over the padding box at the flow's ends.
func (n *node) overflow() (over [2]float64) {
	for axis := range 2 {
		far := n.size[axis] - n.border[axis][1-n.start(uint8(axis))]
		if v := n.reach[axis] - far; v > 1.0/64 {
			over[axis] = round(v)
		}
	}
	return over
}

// measureReach finds how far every box's content reaches along each axis, from the
// edge its flow starts at.
func (t *tree) measureReach() {
	for _, n := range t.nodes {
		n.reach = [2]float64{}
	}
	for k := len(t.nodes) - 1; k >= 0; k-- { // children before what holds them
		t.nodes[k].addReach()
	}
}

// addReach counts a box's own text, and the box, in what its holder's content reaches.
func (n *node) addReach() {
	if n.text != nil {
		i, b := n.inline, n.block()
		n.reach[i] = max(n.reach[i], n.laid[i][n.start(i)]+n.textSize)
		n.reach[b] = max(n.reach[b], n.laid[b][n.start(b)]+float64(n.lines)*n.normalLine())
	}
	holder := n.parent
	if holder == nil {
		return
	}
	if n.position == absolute {
		holder = n.holder()
	}
	for axis := range 2 {
		start := holder.start(uint8(axis))
		at := n.at[axis] - holder.at[axis]
		if start == 1 {
			at = holder.size[axis] - at - n.size[axis]
		}
		end := at + n.size[axis]
		// A box whose content is cut off reaches no further than its own edge.
		if !n.clips[axis] && n.reversed[axis] == holder.reversed[axis] {
			end = max(end, at+n.reach[axis])
		}
		holder.reach[axis] = max(holder.reach[axis], end)
	}
}

// solution copies a tree with the boxes of its nodes, which come in the tree's order.
type solution struct {
	nodes []*node
	boxes []Box
}

func (b *solution) copy(n *Node) *Node {
	for len(b.nodes) > 0 && b.nodes[0].source == nil {
		b.nodes = b.nodes[1:]
	}
	out := *n
	if out.Box = nil; len(b.nodes) > 0 && b.nodes[0].source == n { // else it is not displayed
		out.Box = &b.boxes[0]
		b.nodes, b.boxes = b.nodes[1:], b.boxes[1:]
	}
	out.Children = make([]*Node, len(n.Children))
	for i, c := range n.Children {
		out.Children[i] = b.copy(c)
	}
	return &out
}

// round keeps a thousandth of a px, so that equal layouts print equally.
func round(v float64) float64 {
	if v = math.Round(v*1000) / 1000; v == 0 {
		return 0
	}
	return v
}
