package layout

import (
	"cobrik/core/css"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/design"
	"cobrik/core/problem"
)

// Kinds of containers, named as the primitives are.
const (
	Leaf    = "leaf"
	Stack   = "stack"
	Row     = "row"
	Wrap    = "wrapping row"
	Grid    = "grid"
	Split   = "split"
	Overlay = "overlay"
)

// Sizing of a box along an axis, as in a design document.
const (
	Fixed   = "fixed"
	Content = "content"
	Fill    = "fill"
)

// Part is one box of an inferred tree: a drawn layer, or a container around
// some.
type Part struct {
	Kind       string    `json:"kind"`
	Name       string    `json:"name"`
	Layer      string    `json:"layer,omitempty"`      // id of the drawn layer; of a container's paint, when it has one
	Bounds     Rect      `json:"bounds"`               // as drawn, from the root's
	Text       bool      `json:"text,omitempty"`       // a text layer
	Gap        float64   `json:"gap,omitempty"`        // between children along; negative when they overlap
	Across     float64   `json:"across,omitempty"`     // between the lines of a grid or wrapping row
	Padding    Sides     `json:"padding,omitzero"`     // border included
	Border     Sides     `json:"border,omitzero"`      // widths of its lines
	Align      string    `json:"align,omitempty"`      // of children across
	Distribute string    `json:"distribute,omitempty"` // of children along: start, center, end, space-between
	Columns    int       `json:"columns,omitempty"`    // of a grid
	Shares     string    `json:"shares,omitempty"`     // of a split
	Column     int       `json:"column,omitempty"`     // of a grid's cell that stands after blank ones: its column, from 1
	Width      string    `json:"width"`                // fixed, content or fill
	Height     string    `json:"height"`
	Self       string    `json:"self,omitempty"`   // alignment of its own, where it is not its parent's
	Offset     *Offset   `json:"offset,omitempty"` // what puts it beside the place its container gives it
	Pin        *Pin      `json:"pin,omitempty"`    // of a layer over its overlay's first
	Residual   float64   `json:"residual"`         // px between drawn and solved, the furthest edge of it
	Others     []Reading `json:"others,omitempty"`
	Children   []*Part   `json:"children,omitempty"`

	layer *design.Layer
	order int
	rank  [2]int32 // among all, from left to right and from top to bottom
	tight Rect     // what the children cover

	wanted string // the reading somebody chose for it

	lines  [4]*design.Layer // drawn lines that are its borders: top, right, bottom, left
	pad    *Sides           // its padding, where that is known from what was cut
	lined  *Sides           // of what lines divide: the room below a line and above one
	drawn  *drawnGaps
	base   int  // of an overlay: which child the others are pinned to
	column int  // of a grid's cell, from 0
	full   bool // it is as high as its row
	fill   bool // a line that is as long as there is room
	body   bool // it is as large as the room beside what reaches the edges
	*gridReading
}

// drawnGaps are the gaps of a container as they were drawn, along and between lines.
type drawnGaps struct{ along, across []float64 }

// gridReading is what is known of a grid besides its cells.
type gridReading struct {
	by           []string  // the edges by which its columns line up
	starts, ends []float64 // where others share its columns: what the cells of all cover
	tracks       string    // its columns in CSS
}

// Sides are lengths of the four sides.
type Sides struct {
	Top    float64 `json:"top"`
	Right  float64 `json:"right"`
	Bottom float64 `json:"bottom"`
	Left   float64 `json:"left"`
}

// Offset is a margin at the start, px.
type Offset struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Pin says which edges of the overlay a layer keeps its distance from.
type Pin struct {
	Horizontal string  `json:"horizontal"` // left, right or center
	Vertical   string  `json:"vertical"`   // top, bottom or center
	X          float64 `json:"x"`          // px inwards from that edge; from the middle for center
	Y          float64 `json:"y"`
}

// Reading is another way to read a container, and why it was not taken.
type Reading struct {
	Kind string `json:"kind"`
	Why  string `json:"why"`
	Open bool   `json:"open"` // whether Infer takes it as a choice for the container
}

// chosen is why a reading is not taken where another was asked for.
const chosen = "you chose otherwise"

// Inference is a tree with its proof.
type Inference struct {
	Root     *Part    `json:"root"`
	Residual float64  `json:"residual"` // px, the largest in the tree
	Untidy   []string `json:"untidy"`   // what is drawn beside its place
}

// tolerance is how many px a layer may be beside its place and still be read as
// in it.
const tolerance = 2.0

// shows tells whether a box is more than the place of what it holds: it is painted, or does something to that.
func shows(l *design.Layer) bool {
	return l.Fill != "" || len(l.Fills) > 0 || l.Stroke != nil || len(l.Shadows) > 0 || l.Clip || l.Opacity != nil && *l.Opacity < 1 || l.Rotation != 0
}

// withinLine gives the edges a box was meant to have whose line was drawn along the middle of them, as SVG draws strokes: half a
// line further in, where that is on whole px and what was drawn is not. A border lies within its box.
func withinLine(b Rect, l *design.Layer) Rect {
	w := l.Stroke.Widths()
	if l.Kind != design.Box || w[0] == 0 || w != [4]float64{w[0], w[0], w[0], w[0]} {
		return b
	}
	in := Rect{b.X + w[0]/2, b.Y + w[0]/2, b.Width - w[0], b.Height - w[0]}
	onPx := func(r Rect) bool {
		for _, v := range []float64{r.X, r.Y, r.right(), r.bottom()} {
			if math.Abs(v-math.Round(v)) > 0.05 {
				return false
			}
		}
		return true
	}
	if in.Width > 0 && in.Height > 0 && onPx(in) && !onPx(b) {
		return in
	}
	return b
}

// InferOptions is what a reading goes by besides the drawing.
type InferOptions struct {
	Readings map[string]string // another kind for containers, by Part.Key
	Scale    []float64         // lengths that gaps and paddings are meant to have, px, ascending; multiples of 4 when empty
}

// Infer reads containers from layers with bounds and no flow. The inference is nil on an error.
func Infer(root *design.Layer, o InferOptions) (*Inference, problem.List) {
	var found problem.List
	in := inferrer{choices: o.Readings, groups: map[string]string{}}
	var leaves []*Part
	var collect func(l *design.Layer, x, y float64, depth int)
	collect = func(l *design.Layer, x, y float64, depth int) {
		if depth > MaxDepth {
			found.Errorf("infer-depth", "", "flatten the groups", "the layer %s is nested deeper than %d", l.ID, MaxDepth)
			return
		}
		if l.Hidden {
			found.Warnf("infer-hidden", "", "show it, or draw what hides it as a family's variant", "the layer %s is hidden and left out", l.ID)
			return
		}
		x, y = x+l.Bounds.X, y+l.Bounds.Y
		before := len(leaves)
		if l.Kind != design.Group && (l.Kind != design.Box || len(l.Children) == 0 || shows(l)) {
			p := in.part()
			p.Kind, p.Name, p.Layer, p.Bounds = Leaf, l.Name, l.ID, withinLine(Rect{x, y, l.Bounds.Width, l.Bounds.Height}, l)
			p.Text, p.Width, p.Height, p.layer, p.order = l.Kind == design.Text, Fixed, Fixed, l, len(leaves)
			leaves = append(leaves, p)
		}
		for _, c := range l.Children {
			collect(c, x, y, depth+1)
		}
		if kept := len(leaves) > before && leaves[before].Layer == l.ID; !kept && (l.Opacity != nil && *l.Opacity < 1 || l.Clip || l.Rotation != 0) {
			found.Warnf("infer-dissolved", "", "give it a fill, so that it is kept as a box", "the group %s is dissolved into containers: its opacity, clipping or rotation is lost", l.ID)
		}
		if inner := leaves[before:]; len(l.Children) > 0 && len(inner) > 0 && !l.HasDefaultName() {
			if inner[0].Layer == l.ID {
				inner = inner[1:]
			}
			in.groups[keyOf(inner)] = l.Name
		}
	}
	at := root.Bounds
	collect(root, -at.X, -at.Y, 0)
	if len(leaves) == 0 {
		found.Errorf("infer-empty", "", "draw something, or unhide it", "the layer %s shows nothing", root.ID)
	}
	for _, l := range leaves {
		for _, v := range []float64{l.Bounds.X, l.Bounds.Y, l.Bounds.Width, l.Bounds.Height} {
			if isNaN(v) || math.Abs(v) > css.Largest {
				found.Errorf("infer-bounds", "", "give it bounds in px", "the layer %s has bounds out of range", l.Layer)
			}
		}
		if l.Bounds.Width < 0 || l.Bounds.Height < 0 {
			found.Errorf("infer-bounds", "", "give it a width and height of 0 or more", "the layer %s has a negative size", l.Layer)
		}
	}
	if found.Failed() {
		return nil, found
	}
	rankByPlace(leaves)
	tree := in.frame(in.root(leaves, Rect{0, 0, at.Width, at.Height}), Rect{0, 0, at.Width, at.Height})
	if len(o.Readings) > 0 {
		tree.walk(func(p *Part) { p.wanted = o.Readings[p.Key()] })
	}
	arrange(tree)
	tree.walk(func(p *Part) {
		p.onScale(o.Scale)
		p.Bounds = p.Bounds.rounded()
	})
	out := &Inference{Root: tree}
	out.prove()
	for _, name := range in.covering {
		if len(out.Untidy) < mostUntidy {
			out.Untidy = append(out.Untidy, name+" covers the line around it, and is drawn within that")
		}
	}
	in.name(tree)
	return out, found
}

// Key identifies a container by what is in it, its own paint left out.
func (p *Part) Key() string { return keyOf(leavesOf(p.Children)) }

func keyOf(leaves []*Part) string {
	if len(leaves) == 0 {
		return ""
	}
	first, last := leaves[0], leaves[0]
	for _, l := range leaves {
		if l.order < first.order {
			first = l
		}
		if l.order > last.order {
			last = l
		}
	}
	return fmt.Sprintf("%s…%s:%d", first.Layer, last.Layer, len(leaves))
}

func (p *Part) walk(visit func(*Part)) {
	visit(p)
	for _, c := range p.Children {
		c.walk(visit)
	}
}

// String gives the tree's structure in one line: "row(logo, row(a, b))".
func (p *Part) String() string {
	if p.Kind == Leaf {
		return p.Name
	}
	var b strings.Builder
	b.WriteString(p.Kind + "(")
	for i, c := range p.Children {
		if i > 0 {
			b.WriteString(", ")
		}
		b.WriteString(c.String())
	}
	b.WriteString(")")
	return b.String()
}

// want is the reading somebody chose for the container of these parts.
func (in *inferrer) want(parts []*Part) string {
	if len(in.choices) == 0 {
		return ""
	}
	leaves := leavesOf(parts)
	if kind := in.choices[keyOf(leaves)]; kind != "" {
		return kind
	}
	return in.choices[keyOf(slices.DeleteFunc(leaves, func(p *Part) bool { return p.thin(0) }))] // lines become borders, and are in no container
}

type inferrer struct {
	parts    []Part // that lie side by side in memory, to be used
	depth    int
	covering []string // names of what is drawn over the line of its box
	choices  map[string]string
	groups   map[string]string // names people gave to groups, by what is in them
}

// part makes a part.
func (in *inferrer) part() *Part {
	if len(in.parts) == 0 {
		in.parts = make([]Part, 64)
	}
	p := &in.parts[0]
	in.parts = in.parts[1:]
	return p
}

func (r Rect) right() float64  { return r.X + r.Width }
func (r Rect) bottom() float64 { return r.Y + r.Height }
func (r Rect) area() float64   { return r.Width * r.Height }

func (r Rect) rounded() Rect { return Rect{round(r.X), round(r.Y), round(r.Width), round(r.Height)} }

func (r Rect) join(o Rect) Rect {
	x, y := min(r.X, o.X), min(r.Y, o.Y)
	return Rect{x, y, max(r.right(), o.right()) - x, max(r.bottom(), o.bottom()) - y}
}

// holds tells whether o lies in r, a little over its edges allowed.
func (r Rect) holds(o Rect, slack float64) bool {
	return o.X >= r.X-slack && o.Y >= r.Y-slack && o.right() <= r.right()+slack && o.bottom() <= r.bottom()+slack
}

// along gives start and size in an axis: 0 horizontal, 1 vertical.
func (r Rect) along(axis int) (at, size float64) {
	if axis == 0 {
		return r.X, r.Width
	}
	return r.Y, r.Height
}

func boundsOf(parts []*Part) Rect {
	out := parts[0].Bounds
	for _, p := range parts[1:] {
		out = out.join(p.Bounds)
	}
	return out
}

// rankByPlace numbers parts, which are in the order of the drawing, by where they begin along each axis, so that they are put in order
// without comparing places again.
func rankByPlace(parts []*Part) {
	type place struct {
		at    float64
		order int32
	}
	places := make([]place, len(parts))
	for axis := range 2 {
		for i, p := range parts {
			at, _ := p.Bounds.along(axis)
			places[i] = place{at, int32(i)}
		}
		slices.SortFunc(places, func(a, b place) int {
			switch {
			case a.at < b.at:
				return -1
			case a.at > b.at:
				return 1
			}
			return int(a.order - b.order)
		})
		for rank, place := range places {
			parts[place.order].rank[axis] = int32(rank)
		}
	}
}

// cut separates parts where their projections on an axis leave room, or touch.
func cut(parts []*Part, axis int) [][]*Part {
	sorted := slices.Clone(parts)
	slices.SortFunc(sorted, func(a, b *Part) int { return int(a.rank[axis] - b.rank[axis]) })
	count, end := 0, math.Inf(-1)
	opens := func(p *Part) bool { // thin things may be no longer than the tolerance
		at, size := p.Bounds.along(axis)
		open := at >= end-min(tolerance, size/2)
		end = max(end, at+size)
		return open
	}
	for _, p := range sorted {
		if opens(p) {
			count++
		}
	}
	out := make([][]*Part, 0, max(1, count))
	from := 0
	end = math.Inf(-1)
	for i, p := range sorted {
		if opens(p) && i > 0 {
			out = append(out, sorted[from:i:i])
			from = i
		}
	}
	return append(out, sorted[from:len(sorted):len(sorted)])
}

// paints tells whether a leaf may be a container's background.
func (p *Part) paints() bool {
	return p.Kind == Leaf && p.layer != nil && p.layer.Kind == design.Box
}
