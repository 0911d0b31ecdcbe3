package layout

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/design"
)

// Kinds of strips.
const (
	GapStrip     = "gap"     // what the container's gap makes
	PaddingStrip = "padding" // between a container's edge and its content
	RoomStrip    = "room"    // left over between children, by distribution or their own margins
	LapStrip     = "overlap" // where a child lies over the one before
)

// Strip is a measured piece of room inside a container.
type Strip struct {
	Part string      `json:"part"` // name of the container
	Kind string      `json:"kind"` // gap, padding, room or overlap
	Side string      `json:"side"` // of padding: top, right, bottom or left; else the axis it separates along: across or down
	Rect design.Rect `json:"rect"` // from the root's border box, px
	Size float64     `json:"size"` // px; negative where children overlap
}

// Strips measures the room inside every container of a solved tree: paddings,
// and what is between neighbours. Children out of flow count for nothing.
func Strips(solved *Node) []Strip {
	out := []Strip{}
	var walk func(n *Node)
	walk = func(n *Node) {
		out = append(out, paddingStrips(n)...)
		out = append(out, betweenStrips(n)...)
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(solved)
	return out
}

// least is the px below which room is rounding.
const leastStrip = 0.25

func paddingStrips(n *Node) (out []Strip) {
	if len(n.Children) == 0 && n.Text == "" {
		return nil
	}
	c, p := n.Box.Content, n.Box.Padding
	x, y := c.X-p.Left, c.Y-p.Top
	wide := p.Left + c.Width + p.Right
	for _, s := range []Strip{
		{Side: "top", Rect: design.Rect{X: x, Y: y, Width: wide, Height: p.Top}, Size: p.Top},
		{Side: "right", Rect: design.Rect{X: c.right(), Y: c.Y, Width: p.Right, Height: c.Height}, Size: p.Right},
		{Side: "bottom", Rect: design.Rect{X: x, Y: c.bottom(), Width: wide, Height: p.Bottom}, Size: p.Bottom},
		{Side: "left", Rect: design.Rect{X: x, Y: c.Y, Width: p.Left, Height: c.Height}, Size: p.Left},
	} {
		if s.Size > leastStrip {
			s.Part, s.Kind, s.Size = n.Name, PaddingStrip, round(s.Size)
			out = append(out, s)
		}
	}
	return out
}

// betweenStrips cuts the children into lines and measures between lines and
// between neighbours of a line.
func betweenStrips(n *Node) (out []Strip) {
	var boxes []Rect
	for _, c := range n.Children {
		if p := c.Style["position"]; p != "absolute" && p != "fixed" && c.Box != nil {
			boxes = append(boxes, Rect{c.Box.X, c.Box.Y, c.Box.Width, c.Box.Height})
		}
	}
	if len(boxes) < 2 {
		return nil
	}
	column := n.Style["flex-direction"] == "column" || n.Style["flex-direction"] == "column-reverse" || n.Style["display"] == "block"
	across, down := n.Box.Gaps[0], n.Box.Gaps[1]
	var lines [][]Rect
	slices.SortStableFunc(boxes, func(a, b Rect) int { return cmp.Compare(a.Y, b.Y) })
	for _, b := range boxes {
		if last := len(lines) - 1; last >= 0 && !column && b.Y < bottomOf(lines[last])-leastStrip {
			lines[last] = append(lines[last], b)
		} else {
			lines = append(lines, []Rect{b})
		}
	}
	c := n.Box.Content
	add := func(side string, gap, size float64, r Rect) {
		if math.Abs(size) <= leastStrip {
			return
		}
		kind := RoomStrip
		switch {
		case size < 0:
			kind = LapStrip
		case math.Abs(size-gap) <= 0.5:
			kind = GapStrip
		}
		out = append(out, Strip{Part: n.Name, Kind: kind, Side: side, Rect: design.Rect{X: round(r.X), Y: round(r.Y), Width: round(r.Width), Height: round(r.Height)}, Size: round(size)})
	}
	for i, line := range lines {
		if i > 0 {
			above, below := bottomOf(lines[i-1]), topOf(line)
			add("down", down, below-above, Rect{c.X, min(above, below), c.Width, math.Abs(below - above)})
		}
		slices.SortStableFunc(line, func(a, b Rect) int { return cmp.Compare(a.X, b.X) })
		top := topOf(line)
		for j := 1; j < len(line); j++ {
			end, start := line[j-1].right(), line[j].X
			add("across", across, start-end, Rect{min(end, start), top, math.Abs(start - end), bottomOf(line) - top})
		}
	}
	return out
}

func topOf(line []Rect) float64 {
	return slices.MinFunc(line, func(a, b Rect) int { return cmp.Compare(a.Y, b.Y) }).Y
}

func bottomOf(line []Rect) float64 {
	low := math.Inf(-1)
	for _, r := range line {
		low = max(low, r.bottom())
	}
	return low
}
