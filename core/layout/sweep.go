package layout

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/problem"
)

// Kinds of trouble a sweep finds.
const (
	Clipped     = "text clipped"
	LongWord    = "word longer than its box"
	SpillingRow = "row that should wrap"
	Squeezed    = "squeezed under its content"
	SmallTarget = "target under 24 by 24 px" // WCAG 2.2, 2.5.8
	SmallText   = "text under its minimum"
	Overlapping = "siblings overlap"
	TooWide     = "wider than its container"
)

// SweepOptions is what a sweep runs through.
type SweepOptions struct {
	Options          // Width is not read
	From, To float64 // px; 160 and 1600 when both are 0
	Drawn    float64 // px the tree was drawn at: what overlaps there is meant to; To when 0
	MinText  float64 // px; 12 when 0 (common practice, no source)
}

// Band is a range of widths in which one part is in trouble.
type Band struct {
	From   float64 `json:"from"` // px, whole, both ends in trouble
	To     float64 `json:"to"`
	Node   string  `json:"node"` // its name
	Part   string  `json:"part"` // path of what people call parts, from the root
	Kind   string  `json:"kind"`
	Reason string  `json:"reason"`
}

// Proposal is a switch point that would end a band.
type Proposal struct {
	At   float64 `json:"at"` // px: from here on the present arrangement holds
	Node string  `json:"node"`
	Part string  `json:"part"`
	Why  string  `json:"why"`
}

// Sweep is where a tree breaks.
type SweepResult struct {
	Bands     []Band     `json:"bands"`
	Proposals []Proposal `json:"proposals"`
	Solves    int        `json:"solves"` // widths that were laid out
}

// samples is how many widths a sweep starts from. A trouble that comes and goes
// between two of them is not seen.
const samples = 25

// trouble identifies one at every width.
type trouble struct{ node, part, kind string }

// Sweep finds the widths between which a tree is in trouble: from samples
// over the whole range, and on both sides of every switch point, by halving
// where they differ. The sweep is nil on an error.
func Sweep(root *Node, w SweepOptions) (*SweepResult, problem.List) {
	if w.From == 0 && w.To == 0 {
		w.From, w.To = 160, 1600
	}
	var found problem.List
	if !(w.From >= 1 && w.From < w.To && w.To <= 20_000) {
		found.Errorf("sweep-range", "", "give px from 1 to 20000, the narrower first", "the range %g to %g px is not one", w.From, w.To)
		return nil, found
	}
	if w.Drawn == 0 {
		w.Drawn = w.To
	}
	if w.MinText == 0 {
		w.MinText = 12
	}
	s := sweeper{root: root, w: w, at: map[float64]map[trouble]string{}}
	o := w.Options
	o.Width = w.Drawn
	t, found := solve(root, o)
	if t == nil {
		return nil, found
	}
	s.paths = pathsOf(root)
	s.meant = overlaps(t, nil)

	widths := map[float64]bool{math.Ceil(w.From): true, math.Floor(w.To): true}
	for i := range samples { // closer together where it is narrow
		widths[math.Round(w.From*math.Pow(w.To/w.From, float64(i)/(samples-1)))] = true
	}
	var switches func(n *Node)
	switches = func(n *Node) {
		for _, at := range n.At {
			for _, edge := range []float64{math.Ceil(at.From), math.Ceil(at.Below)} {
				if edge > w.From && edge <= w.To {
					widths[edge], widths[edge-1] = true, true
				}
			}
		}
		for _, c := range n.Children {
			switches(c)
		}
	}
	switches(root)
	sorted := slices.Sorted(maps.Keys(widths))
	for i := 1; i < len(sorted); i++ {
		s.halve(sorted[i-1], sorted[i])
	}
	return s.report(), found
}

type sweeper struct {
	root  *Node
	w     SweepOptions
	at    map[float64]map[trouble]string // what was found, by width
	paths map[*Node]string
	meant map[[2]*Node]bool // siblings that overlap as drawn
}

// halve looks between two widths as long as they differ.
func (s *sweeper) halve(low, high float64) {
	a, b := s.look(low), s.look(high)
	if high-low <= 1 || sameTroubles(a, b) {
		return
	}
	middle := math.Floor((low + high) / 2)
	s.halve(low, middle)
	s.halve(middle, high)
}

func sameTroubles(a, b map[trouble]string) bool {
	if len(a) != len(b) {
		return false
	}
	for t := range a {
		if _, both := b[t]; !both {
			return false
		}
	}
	return true
}

// look lays the tree out at a width and lists its troubles.
func (s *sweeper) look(width float64) map[trouble]string {
	if seen := s.at[width]; seen != nil {
		return seen
	}
	o := s.w.Options
	o.Width = width
	out := map[trouble]string{}
	s.at[width] = out
	t, _ := solve(s.root, o)
	if t == nil {
		return out
	}
	t.measureReach()
	add := func(n *node, kind, format string, args ...any) {
		for n.source == nil && n.parent != nil {
			n = n.parent
		}
		key := trouble{n.source.Name, s.paths[n.source], kind}
		if out[key] == "" {
			out[key] = fmt.Sprintf(format, args...)
		}
	}
	for _, n := range t.nodes[1:] {
		s.check(n, add)
	}
	for pair := range overlaps(t, s.meant) {
		key := trouble{pair[1].Name, s.paths[pair[1]], Overlapping}
		out[key] = fmt.Sprintf("lies over %s", s.paths[pair[0]])
	}
	return out
}

// check lists what is wrong with one box.
func (s *sweeper) check(n *node, add func(n *node, kind, format string, args ...any)) {
	over := n.overflow()
	i := n.inline
	clip := clipping(n, i)
	scrolls := clip != nil && clip.scrollable(i) // what is wider than there is room can be scrolled to
	switch {
	case n.text != nil:
		room := n.size[i] - n.laid[i][0] - n.laid[i][1]
		if n.textSize > room+0.5 && !scrolls {
			switch {
			case clip != nil:
				add(n, Clipped, "%s px of text are cut off", number(n.textSize-room))
			case n.wraps():
				add(n, LongWord, "a word is %s px longer than its box of %s px", number(n.textSize-room), number(room))
			default:
				add(n, Squeezed, "its line is %s px longer than its box", number(n.textSize-room))
			}
		} else if over[n.block()] > 0.5 && n.clips[n.block()] && !n.scrollable(n.block()) {
			add(n, Clipped, "%s px of text are cut off below", number(over[n.block()]))
		}
		if n.fontSize < s.w.MinText-0.01 {
			add(n, SmallText, "its text is %s px, the minimum is %s px", number(n.fontSize), number(s.w.MinText))
		}
	case scrolls:
	case n.display == displayFlex && !n.flexColumn && !n.wrap:
		if more := n.spills(i); more > 0.5 {
			add(n, SpillingRow, "its children need %s px more than it has", number(more))
		}
	default:
		if more := n.spills(i); more > 0.5 {
			add(n, Squeezed, "what is in it is %s px wider than it is", number(more))
		}
	}
	if page := n.parent; page.source == nil && page.parent == nil && n.size[horizontal] > page.size[horizontal]+0.5 {
		add(n, TooWide, "it needs %s px", number(n.size[horizontal]))
	}
	if n.source != nil && n.source.Target && (n.size[0] < 24-0.01 || n.size[1] < 24-0.01) {
		add(n, SmallTarget, "it is %s by %s px", number(n.size[0]), number(n.size[1]))
	}
}

// clipping is the nearest box that cuts off what reaches over it along an axis.
func clipping(n *node, axis uint8) *node {
	for ; n != nil; n = n.parent {
		if n.clips[axis] {
			return n
		}
	}
	return nil
}

// scrollable tells whether a box scrolls along an axis on purpose: overflow auto or scroll,
// not hidden.
func (n *node) scrollable(axis uint8) bool {
	if n.source == nil {
		return false
	}
	x, y, both := strings.Cut(n.source.Style["overflow"], " ")
	if !both {
		y = x
	}
	this, other := cmp.Or(n.source.Style["overflow-x"], x, "visible"), cmp.Or(n.source.Style["overflow-y"], y, "visible")
	if axis == vertical {
		this, other = other, this
	}
	if this == "visible" && other != "visible" && other != "clip" { // CSS Overflow 3, 3.1
		this = "auto"
	}
	return this == "auto" || this == "scroll"
}

// spills gives how far children in flow, by their own boxes, reach over the
// content box: what only their own content does is their trouble. A negative
// margin is meant.
func (n *node) spills(axis uint8) float64 {
	most := 0.0
	for _, c := range n.children {
		if c.position == absolute {
			continue
		}
		if c.margin[axis][0].orZero(0) >= 0 {
			most = max(most, n.laid[axis][0]-c.pos[axis])
		}
		if c.margin[axis][1].orZero(0) >= 0 {
			most = max(most, c.pos[axis]+c.size[axis]-n.size[axis]+n.laid[axis][1])
		}
	}
	return most
}

// overlaps lists siblings that lie over one another and are not meant to, pinned ones among them.
func overlaps(t *tree, meant map[[2]*Node]bool) map[[2]*Node]bool {
	out := map[[2]*Node]bool{}
	for _, n := range t.nodes {
		var boxes []*node
		for _, c := range n.children {
			if c.source != nil && c.size[0] > 0 && c.size[1] > 0 {
				boxes = append(boxes, c)
			}
		}
		slices.SortFunc(boxes, func(a, b *node) int { return cmp.Compare(a.at[0], b.at[0]) })
		for i, a := range boxes {
			for _, b := range boxes[i+1:] {
				if b.at[0] >= a.at[0]+a.size[0]-0.5 {
					break
				}
				if b.at[1] < a.at[1]+a.size[1]-0.5 && a.at[1] < b.at[1]+b.size[1]-0.5 {
					if pair := [2]*Node{a.source, b.source}; !meant[pair] && !meant[[2]*Node{b.source, a.source}] {
						out[pair] = true
					}
				}
			}
		}
	}
	return out
}

// pathsOf names every node by the names from the root down.
func pathsOf(root *Node) map[*Node]string {
	out := map[*Node]string{}
	var walk func(n *Node, path string)
	walk = func(n *Node, path string) {
		out[n] = path
		seen := map[string]int{}
		for _, c := range n.Children {
			name := cmp.Or(c.Label, c.Name, c.Text, "box")
			if r := []rune(name); len(r) > 24 {
				name = string(r[:23]) + "…"
			}
			if seen[name]++; seen[name] > 1 {
				name += " " + strconv.Itoa(seen[name])
			}
			walk(c, path+" › "+name)
		}
	}
	walk(root, cmp.Or(root.Label, root.Name, "root"))
	return out
}

// report joins the widths looked at into bands. Between two neighbours with the
// same troubles nothing else was found.
func (s *sweeper) report() *SweepResult {
	widths := slices.Sorted(maps.Keys(s.at))
	out := &SweepResult{Bands: []Band{}, Proposals: []Proposal{}, Solves: len(widths) + 1}
	open := map[trouble]*Band{}
	for _, w := range widths {
		for t, reason := range s.at[w] {
			b := open[t]
			if b == nil {
				b = &Band{From: w, Node: t.node, Part: t.part, Kind: t.kind}
				open[t] = b
			}
			b.To = w
			if b.From == w {
				b.Reason = reason // the narrowest is the worst
			}
		}
		for t, b := range open {
			if _, still := s.at[w][t]; !still {
				out.Bands = append(out.Bands, *b)
				delete(open, t)
			}
		}
	}
	for _, b := range open {
		out.Bands = append(out.Bands, *b)
	}
	slices.SortFunc(out.Bands, func(a, b Band) int {
		return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(b.To, a.To), cmp.Compare(a.Part, b.Part), cmp.Compare(a.Kind, b.Kind))
	})
	for _, b := range out.Bands {
		why := map[string]string{
			SpillingRow: "below, let it wrap or stack",
			Squeezed:    "below, give it the whole width",
			LongWord:    "below, give it the whole width, or let words break",
			Clipped:     "below, let it wrap",
			Overlapping: "below, let it stack",
			TooWide:     "below, let it wrap or shrink",
		}[b.Kind]
		if why != "" && b.To < math.Floor(s.w.To) {
			out.Proposals = append(out.Proposals, Proposal{b.To + 1, b.Node, b.Part, why})
		}
	}
	slices.SortStableFunc(out.Proposals, func(a, b Proposal) int { return cmp.Compare(b.At, a.At) })
	return out
}
