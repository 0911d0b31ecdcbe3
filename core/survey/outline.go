package survey

import (
	"cmp"
	"hash/maphash"
	"math"
	"slices"
	"strconv"

	"cobrik/core/design"
)

// shape is what the survey compares: a visible layer, or loose layers that belong together. A group that paints nothing and
// holds one thing is that thing; a group of nothing but paths is one drawing.
type shape struct {
	layer    *design.Layer   // what it paints and says
	outer    *design.Layer   // the group that is no more than it; the layer itself without one
	loose    []*design.Layer // the siblings it was gathered of, in the order of the list; nil where one layer holds them
	box      design.Rect     // on its page, or in its variant
	what     what
	is       label
	class    int // of shapes that hold others: those of one class are the same thing; 0 before they are told apart
	exact    uint64
	key      uint64 // the classes of what it holds
	nodes    int    // of its tree, of which more than two that are alike count as two
	total    int    // layers in it
	children []*shape
	parent   *shape
	root     *root
	copyOf   *found   // the find it is a copy of
	made     []string // ids of the layers of which people said that they are one thing
	joined   bool     // people said that it is the same thing as others
	roleName string
	roleRead bool
}

// what a shape is, of those that a prop may swap for another.
type what uint8

const (
	holder  what = iota // paints nothing, or a box, and holds others
	block               // a box that holds nothing
	words               // a text
	drawing             // paths
	picture             // an image
	use                 // an instance
	place               // a slot
)

// label is what shapes are told apart by: the kind, how a text is set, the family that is used. Colours, sizes and names are not in it.
type label int32

// root is where shapes stand: a page, or a drawn variant.
type root struct {
	page    *design.Page
	family  *design.Family
	variant *design.Variant
	order   int
	top     *shape // what holds all the others
}

// outline reads documents into shapes.
type outline struct {
	doc      *design.Document
	labels   map[string]label
	names    []string // of labels
	sets     map[setting]label
	seed     maphash.Seed
	roots    []*root
	slab     []shape
	known    []candidate
	marked   [][]string    // ids of layers that people said are one thing
	repeated []*found      // in the order of a reading's finds
	places   map[string]at // of layers, by id
	reached  func(Step) bool
	ended    bool // nobody wants the rest
}

func newOutline(doc *design.Document, options Options) *outline {
	o := &outline{doc: doc, marked: options.Marked, reached: options.Reached, labels: map[string]label{}, sets: map[setting]label{}, seed: maphash.MakeSeed()}
	for i, p := range doc.Pages {
		if !o.goOn("layers", 0, 0.08, i, len(doc.Pages)+1) {
			return o
		}
		r := &root{page: p, order: len(o.roots)}
		top := &design.Layer{Kind: design.Group, Bounds: design.Rect{Width: p.Width, Height: p.Height}, Children: p.Layers}
		r.top = o.read(top, 0, 0, r)
		o.roots = append(o.roots, r)
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			r := &root{family: f, variant: v, order: len(o.roots)}
			r.top = o.read(v.Root, -v.Root.Bounds.X, -v.Root.Bounds.Y, r)
			o.roots = append(o.roots, r)
		}
	}
	return o
}

func (o *outline) named(name string) label {
	l, ok := o.labels[name]
	if !ok {
		l = label(len(o.names))
		o.labels[name], o.names = l, append(o.names, name)
	}
	return l
}

func (o *outline) new() *shape {
	if len(o.slab) == 0 {
		o.slab = make([]shape, 256)
	}
	s := &o.slab[0]
	o.slab = o.slab[1:]
	return s
}

// read gives a layer's shape; x and y are its parent's place.
func (o *outline) read(l *design.Layer, x, y float64, r *root) *shape {
	x, y = x+l.Bounds.X, y+l.Bounds.Y
	box := design.Rect{X: x, Y: y, Width: l.Bounds.Width, Height: l.Bounds.Height}
	if l.Kind == design.Group || l.Kind == design.Box {
		if l.Slot == nil && len(l.Children) > 0 && (l.ID == "" || !isDrawing(l)) { // a page is no drawing
			children := make([]*shape, 0, len(l.Children))
			for _, c := range l.Children {
				if !c.Hidden {
					children = append(children, o.read(c, x, y, r))
				}
			}
			if len(children) > 0 {
				return o.holding(l, children, box, r)
			}
		}
	}
	s := o.new()
	*s = shape{layer: l, outer: l, box: box, root: r, nodes: 1, total: 1}
	o.leaf(s)
	s.exact = o.hash(s.is, nil)
	s.key = s.exact
	return s
}

// leaf says what a layer is that holds nothing else to compare.
func (o *outline) leaf(s *shape) {
	l := s.layer
	switch {
	case l.Slot != nil:
		s.what, s.is = place, o.named("slot")
	case l.Kind == design.Text:
		s.what = words
		k := setting{l.Text.FontSize, l.Text.FontWeight, l.Text.Style}
		is, ok := o.sets[k]
		if !ok {
			is = o.named("text " + strconv.FormatFloat(k.size, 'f', -1, 64) + " " + strconv.FormatFloat(k.weight, 'f', -1, 64) + k.style)
			o.sets[k] = is
		}
		s.is = is
	case l.Kind == design.Vector:
		s.what, s.is = drawing, o.named("drawing")
	case l.Kind == design.Image || l.Image != nil:
		s.what, s.is = picture, o.named("image")
	case l.Kind == design.Instance:
		s.what, s.is = use, o.named("use of "+l.Instance.Family)
	case isDrawing(l):
		s.what, s.is = drawing, o.named("drawing")
	case isRound(l):
		s.what, s.is = block, o.named("circle")
	case min(l.Bounds.Width, l.Bounds.Height) <= thinnest:
		s.what, s.is = block, o.named("line")
	default:
		s.what, s.is = block, o.named("box")
	}
}

// holding gives the shape of a layer that holds others, gathered where they are loose.
func (o *outline) holding(l *design.Layer, children []*shape, box design.Rect, r *root) *shape {
	if len(o.marked) > 0 {
		children = o.asMarked(children)
	}
	o.hang(children)
	if l.Flow == nil && len(children) > 1 {
		children = o.gather(children)
	}
	if only := children[0]; len(children) == 1 && !paints(l) && l.ID != "" { // a page is never the one thing on it
		only.outer, only.loose = l, nil
		if only.layer == nil {
			only.layer = l
		}
		return only
	}
	s := o.new()
	*s = shape{layer: l, outer: l, box: box, what: holder, root: r, children: children}
	s.is = o.named("group")
	if paints(l) {
		s.is = o.named("box")
		if isRound(l) {
			s.is = o.named("circle")
		}
	}
	o.settle(s)
	return s
}

// asMarked puts siblings together of which people said that they are one thing.
func (o *outline) asMarked(children []*shape) []*shape {
	for _, ids := range o.marked {
		var of []int
		for i, c := range children {
			if c.outer != nil && slices.Contains(ids, c.outer.ID) {
				of = append(of, i)
			}
		}
		if len(of) != len(ids) {
			continue
		}
		one := children[of[0]]
		for _, i := range of[1:] {
			one = o.together(one, children[i])
		}
		one.made = ids
		for _, i := range slices.Backward(of[1:]) {
			children = slices.Delete(children, i, i+1)
		}
		children[of[0]] = one
	}
	return children
}

// fewestHung is from how many on things of unlike structure in even rows are the pictures of a gallery.
const fewestHung = 6

// hang makes one drawing of each picture of a gallery: groups without words, of about one size, that stand in even rows or columns and are built in unlike ways.
func (o *outline) hang(children []*shape) {
	if len(children) < fewestHung {
		return
	}
	var pictures []*shape
	for _, c := range children {
		if c.outer != nil && c.outer.Kind == design.Group && !c.speaks() {
			pictures = append(pictures, c)
		}
	}
	for _, size := range bySize(pictures) {
		for _, run := range lined(size, true) {
			ways := map[uint64]bool{}
			drawings := 0
			for _, c := range run {
				if c.what == drawing || c.what == picture {
					drawings++ // each shows something else
				} else {
					ways[c.exact] = true
				}
			}
			if len(run) < fewestHung || 2*(len(ways)+drawings) < len(run) {
				continue
			}
			for _, c := range run {
				c.what, c.is, c.children, c.nodes, c.layer = drawing, o.named("drawing"), nil, 1, c.outer
				c.exact = o.hash(c.is, nil)
				c.key = c.exact
			}
		}
	}
}

// speaks tells whether there are words, or uses, in a shape.
func (s *shape) speaks() (out bool) {
	s.walk(func(c *shape) bool {
		out = out || c.what == words || c.what == use || c.what == place
		return !out
	})
	return out
}

// settle puts what a shape holds in an order that the list of layers and small moves do not change, and counts it.
func (o *outline) settle(s *shape) {
	s.total = 0
	if s.layer != nil {
		s.total = 1
	}
	for _, c := range s.children {
		c.parent = s
		s.total += c.total
	}
	slices.SortStableFunc(s.children, func(a, b *shape) int {
		return cmp.Or(cmp.Compare(a.is, b.is), cmp.Compare(a.exact, b.exact), cmp.Compare(along(a), along(b)))
	})
	s.nodes = 1
	var held []uint64
	forAlike(s.children, func(c *shape) uint64 { return c.exact }, func(c *shape) {
		held = append(held, c.exact)
		s.nodes += c.nodes
	})
	s.exact = o.hash(s.is, held)
	s.key = s.exact
}

// forAlike visits children, of more than two beside each other that have one key the first two.
func forAlike(children []*shape, key func(*shape) uint64, visit func(*shape)) {
	same := 0
	for i, c := range children {
		if same++; i > 0 && key(children[i-1]) != key(c) {
			same = 1
		}
		if same <= 2 {
			visit(c)
		}
	}
}

// along orders things that are alike, in rows and in columns, whatever moves by a few px.
func along(s *shape) float64 { return s.box.X + 3*s.box.Y }

func (o *outline) hash(is label, held []uint64) uint64 {
	var h maphash.Hash
	h.SetSeed(o.seed)
	maphash.WriteComparable(&h, is)
	for _, k := range held {
		maphash.WriteComparable(&h, k)
	}
	return h.Sum64()
}

// paints tells whether a layer is seen, or does something, by itself.
func paints(l *design.Layer) bool {
	return l.Fill != "" || len(l.Fills) > 0 || l.Stroke != nil || len(l.Shadows) > 0
}

// thinnest is up to which thickness a box is a line, px.
const thinnest = 3

// isRound tells a circle from a box; an oblong whose ends are round is a box.
func isRound(l *design.Layer) bool {
	w, h := l.Bounds.Width, l.Bounds.Height
	return len(l.Radius) > 0 && math.Abs(w-h) <= 0.1*max(w, h) && l.Corners()[0] >= 0.45*min(w, h)
}

// largestIcon is the side up to which paths in a group are one drawing whatever they look like, px.
const largestIcon = 48

// isDrawing tells whether a group is nothing but paths and boxes among them: one drawing, unless it is a row of things that are alike, such as
// the bars of a chart.
func isDrawing(l *design.Layer) bool {
	if l.Kind != design.Group || paints(l) || l.Link != "" {
		return false
	}
	paths, boxes := 0, 0
	for _, c := range l.Children {
		switch {
		case c.Hidden:
		case c.Kind == design.Vector || c.Kind == design.Group && isDrawing(c):
			paths++
		case c.Kind == design.Box && len(c.Children) == 0 && c.Slot == nil && c.Image == nil:
			boxes++
		default:
			return false
		}
	}
	if paths == 0 {
		return boxes > 1 && max(l.Bounds.Width, l.Bounds.Height) <= largestIcon/2
	}
	return max(l.Bounds.Width, l.Bounds.Height) <= largestIcon || !inLine(l.Children)
}

// inLine tells whether three layers or more, and all of them, stand in a row or a column without lying on one another, and share a side and a measure.
func inLine(list []*design.Layer) bool {
	if len(list) < 3 {
		return false
	}
	const near = 3
	row, column := true, true
	for i, c := range list {
		b, a := c.Bounds, list[0].Bounds
		row = row && math.Abs(b.Width-a.Width) <= near && (math.Abs(b.Y-a.Y) <= near || math.Abs(b.Y+b.Height-a.Y-a.Height) <= near)
		column = column && math.Abs(b.Height-a.Height) <= near && (math.Abs(b.X-a.X) <= near || math.Abs(b.X+b.Width-a.X-a.Width) <= near)
		if i > 0 {
			before := list[i-1].Bounds
			row = row && b.X >= before.X+before.Width-near
			column = column && b.Y >= before.Y+before.Height-near
		}
	}
	return row || column
}

// layers lists the layers a shape is made of, of those that hold others the outer one alone.
func (s *shape) layers() []*design.Layer {
	if s.loose != nil {
		return s.loose
	}
	return []*design.Layer{s.outer}
}

// tree gives a shape as one that distances are computed of.
func (o *outline) tree(s *shape) *Node {
	n := &Node{Is: o.names[s.is], ID: s.id()}
	forAlike(s.children, func(c *shape) uint64 { return c.key }, func(c *shape) { n.Children = append(n.Children, o.tree(c)) })
	return n
}

// id names a shape by the layer that holds it, or by the one that stands for loose ones.
func (s *shape) id() string {
	if s.loose != nil {
		return s.loose[0].ID
	}
	return s.outer.ID
}

// walk visits a shape and what it holds, the outer first; false stops at one.
func (s *shape) walk(visit func(*shape) bool) {
	if visit(s) {
		for _, c := range s.children {
			c.walk(visit)
		}
	}
}
