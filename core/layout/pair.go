package layout

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cobrik/core/design"
	"cobrik/core/problem"
)

// Pair is one tree that explains two drawings of the same thing.
type Pair struct {
	Root   *Part    `json:"root"`             // as in the wide drawing, sized by what both say
	Narrow *Part    `json:"narrow"`           // the narrow drawing's reading
	Switch float64  `json:"switch,omitempty"` // px from which the wide arrangement holds; 0 when one arrangement explains both
	Wide   float64  `json:"wideResidual"`     // px, each at its drawn width
	Small  float64  `json:"narrowResidual"`
	Why    []string `json:"why"` // what tells fill from fixed, and what moved

	tree *Node
	same map[*Part]string // names a layer in both drawings
	rank map[*Part]int    // place among its siblings in the narrow drawing, where the order differs there; from 1
}

// Tree is the boxes to be solved, with the switch point in it.
func (p *Pair) Tree() *Node { return p.tree }

// InferPair reads one tree from a wide and a narrow drawing. Layers are the
// same by id, else by name and place in the order. What grew is fill, what
// stayed is fixed, what moved to the far end has space between; a container
// that turned gets a switch point. The pair is nil on an error, and when the
// drawings do not hold the same layers.
func InferPair(wide, narrow *design.Layer) (*Pair, problem.List) {
	if wide.Bounds.Width < narrow.Bounds.Width {
		wide, narrow = narrow, wide
	}
	a, found := Infer(wide, InferOptions{})
	if a == nil {
		return nil, found
	}
	b, more := Infer(narrow, InferOptions{})
	if found = append(found, more...); b == nil {
		return nil, found
	}
	p := &Pair{Root: a.Root, Narrow: b.Root, same: map[*Part]string{}, rank: map[*Part]int{}}
	p.names(a.Root)
	p.names(b.Root)
	if !p.match(a.Root, b.Root, &found) {
		return nil, found
	}
	p.explain(a.Root, b.Root)
	p.tree = p.Root.Tree()
	if p.prove(); max(p.Wide, p.Small) > tolerance {
		// One arrangement is not enough: the narrow one holds up to a width.
		p.Switch = SwitchPoint(b.Root.Bounds.Width, a.Root.Bounds.Width)
		p.tree = p.merge(a.Root.Tree(), b.Root.Tree(), b.Root)
		p.tree.Style["width"] = "100%"
		for _, at := range p.tree.At {
			delete(at.Style, "width")
		}
		p.prove()
	}
	return p, found
}

// SwitchPoint is where to change between two drawn widths: a usual width when
// one lies between, else the middle (common practice, no source).
func SwitchPoint(low, high float64) float64 {
	for _, usual := range []float64{768, 1024, 600, 480} {
		if usual > low && usual <= high {
			return usual
		}
	}
	return math.Round((low + high) / 2)
}

// names tells layers with the same name apart by their order.
func (p *Pair) names(root *Part) {
	seen := map[string]int{}
	var leaves []*Part
	root.walk(func(q *Part) {
		if q.Layer != "" {
			leaves = append(leaves, q)
		}
	})
	slices.SortStableFunc(leaves, func(a, b *Part) int { return a.order - b.order })
	for _, l := range leaves {
		key := l.Name
		if l.layer != nil {
			key = l.layer.Name
		}
		seen[key]++
		p.same[l] = fmt.Sprintf("%s#%d", key, seen[key])
	}
}

// what names everything a part holds.
func (p *Pair) what(of *Part) string {
	var out []string
	of.walk(func(q *Part) {
		if same := p.same[q]; same != "" {
			out = append(out, same)
		}
	})
	slices.Sort(out)
	return strings.Join(out, "\x00")
}

// match puts the narrow tree's children in the wide one's order; false when the
// trees do not hold the same.
func (p *Pair) match(a, b *Part, found *problem.List) bool {
	if p.what(a) != p.what(b) {
		found.Errorf("pair-layers", "", "draw the same layers at both widths, with the same names", "what is in %q at %g px is not what is in it at %g px", a.Name, p.Root.Bounds.Width, p.Narrow.Bounds.Width)
		return false
	}
	if len(a.Children) != len(b.Children) {
		return p.regroup(a, b, found)
	}
	byWhat := map[string]*Part{}
	for _, c := range b.Children {
		byWhat[p.what(c)] = c
	}
	ordered := make([]*Part, len(a.Children))
	for i, c := range a.Children {
		if ordered[i] = byWhat[p.what(c)]; ordered[i] == nil {
			return p.regroup(a, b, found)
		}
	}
	if !slices.Equal(ordered, b.Children) {
		for i, c := range b.Children {
			p.rank[c] = i + 1
		}
	}
	b.Children = ordered
	for i, c := range a.Children {
		if !p.match(c, ordered[i], found) {
			return false
		}
	}
	return true
}

// regroup gives up containers without paint that only one drawing has: what is
// close together at one width may not be at the other.
func (p *Pair) regroup(a, b *Part, found *problem.List) bool {
	for _, t := range []*Part{a, b} {
		var flat []*Part
		for _, c := range t.Children {
			if c.Layer == "" && c.Kind != Leaf && c.Kind != Overlay && axisOf(c.Kind) == axisOf(t.Kind) {
				flat = append(flat, c.Children...)
			} else {
				flat = append(flat, c)
			}
		}
		if len(flat) != len(t.Children) {
			t.Children = flat
			inner := t.inner()
			if t.Kind == Row || t.Kind == Stack {
				arrangeLine(t, inner)
			}
			return p.match(a, b, found)
		}
	}
	found.Errorf("pair-groups", "", "draw the same groups at both widths", "%q is grouped in one way at %g px and in another at %g px", a.Name, p.Root.Bounds.Width, p.Narrow.Bounds.Width)
	return false
}

// explain sizes the wide tree by what both drawings say.
func (p *Pair) explain(a, b *Part) {
	for i, c := range a.Children {
		d := b.Children[i]
		grew := c.Bounds.Width - d.Bounds.Width
		room := a.inner().Width - b.inner().Width
		along := a.Kind == Row && b.Kind == Row
		switch {
		case a.Kind == Overlay || a.Kind == Grid || a.Kind == Wrap || a.Kind == Split:
		case math.Abs(grew) <= tolerance:
			if c.Width == Fill && (along || c.Kind == Leaf && !c.Text) {
				p.say("%s stayed %s px wide: fixed", c.Name, number(c.Bounds.Width))
				c.Width = Fixed
			}
			if d.Width == Fill && along {
				d.Width = c.Width
			}
		case grew > tolerance && (along || math.Abs(grew-room) <= 2*tolerance):
			if c.Width != Fill {
				p.say("%s grew by %s px: fill", c.Name, number(grew))
			}
			c.Width, d.Width = Fill, Fill
		}
		p.explain(c, d)
	}
	if a.Kind == Row && b.Kind == Row && len(a.Children) > 1 {
		grows := slices.ContainsFunc(a.Children, func(c *Part) bool { return c.Width == Fill })
		switch moved := a.Gap - b.Gap; {
		case grows:
			a.Distribute, b.Distribute = "start", "start"
			a.Gap = min(a.Gap, b.Gap)
			b.Gap = a.Gap
		case moved > tolerance:
			p.say("the ends of %s are %s px apart, and %s px in the narrow drawing: space between", a.Name, number(a.Gap), number(b.Gap))
			a.Distribute, b.Distribute = "space-between", "space-between"
			if a.Width != Fixed {
				a.Width, b.Width = Fill, Fill
			}
		default:
			a.Distribute, b.Distribute = "start", "start"
			a.Gap = b.Gap
		}
	}
	if a.Kind != b.Kind {
		p.say("%s is a %s at %g px and a %s at %g px", a.Name, a.Kind, p.Root.Bounds.Width, b.Kind, p.Narrow.Bounds.Width)
	}
}

func (p *Pair) say(format string, args ...any) { p.Why = append(p.Why, fmt.Sprintf(format, args...)) }

// merge writes the narrow arrangement, and the wide one from the switch point
// on.
func (p *Pair) merge(wide, narrow *Node, part *Part) *Node {
	n := &Node{Name: wide.Name, Style: narrow.Style}
	if change := changes(narrow.Style, wide.Style); len(change) > 0 {
		n.At = []Switch{{From: p.Switch, Style: change}}
	}
	for i, c := range part.Children {
		child := p.merge(wide.Children[i], narrow.Children[i], c)
		if rank := p.rank[c]; rank > 0 {
			child.Style["order"] = fmt.Sprint(rank)
			if len(child.At) == 0 {
				child.At = []Switch{{From: p.Switch, Style: Style{}}}
			}
			child.At[0].Style["order"] = "0"
		}
		n.Children = append(n.Children, child)
	}
	return n
}

// reset is what a property is without being said.
var reset = map[string]string{
	"width": "auto", "height": "auto", "min-width": "auto", "box-sizing": "content-box", "padding-block": "0", "padding-inline": "0", "flex": "0 1 auto", "align-self": "auto", "justify-self": "auto", "align-items": "normal",
	"justify-content": "normal", "align-content": "normal", "flex-direction": "row", "flex-wrap": "nowrap", "gap": "0", "grid-template-columns": "none", "display": "block",
	"position": "static", "left": "auto", "right": "auto", "top": "auto", "bottom": "auto", "margin-left": "0", "margin-top": "0",
}

// changes is what has to be said to turn one style into another.
func changes(from, to Style) Style {
	out := Style{}
	for property := range maps.Keys(from) {
		if _, said := to[property]; !said {
			if initial, known := reset[property]; known {
				out[property] = initial
			}
		}
	}
	for property, value := range to {
		if from[property] != value {
			out[property] = value
		}
	}
	return out
}

// prove solves the tree at both widths.
func (p *Pair) prove() {
	for _, side := range []struct {
		root     *Part
		residual *float64
	}{{p.Root, &p.Wide}, {p.Narrow, &p.Small}} {
		n := p.tree
		if p.Switch == 0 { // the width drawn is the only thing that differs
			copied := *n
			copied.Style = maps.Clone(n.Style)
			copied.Style["width"] = "100%"
			n = &copied
		}
		*side.residual = 0
		solved, _ := Solve(n, Options{Width: side.root.Bounds.Width})
		if solved == nil {
			*side.residual = math.Inf(1)
			continue
		}
		origin := side.root.Bounds
		var walk func(q *Part, n *Node)
		walk = func(q *Part, n *Node) {
			if q.Layer != "" {
				*side.residual = max(*side.residual, math.Abs(q.Bounds.X-origin.X-n.Box.X), math.Abs(q.Bounds.right()-origin.X-n.Box.X-n.Box.Width),
					math.Abs(q.Bounds.Y-origin.Y-n.Box.Y))
			}
			for i, c := range q.Children {
				walk(c, n.Children[i])
			}
		}
		walk(side.root, solved)
		*side.residual = round(*side.residual)
	}
}
