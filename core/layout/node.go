// Package layout turns trees of boxes with CSS properties into rectangles, and
// rectangles back into trees. Lengths are CSS px; x grows to the right, y
// downwards.
package layout

import (
	"fmt"
	"maps"
	"math"
	"strings"

	"cobrik/core/font"
	"cobrik/core/problem"
)

// Node is one box: CSS properties with CSS values, text, and the boxes within.
// A box is as an HTML div: a block, unless its style says otherwise. Text comes
// before the children.
type Node struct {
	Name     string   `json:"name,omitempty"`
	Label    string   `json:"-"` // what people call it, where they do not by its name
	Style    Style    `json:"style,omitempty"`
	At       []Switch `json:"at,omitempty"` // styles within ranges of widths; later ones win
	Text     string   `json:"text,omitempty"`
	Target   bool     `json:"target,omitempty"` // something to press, which has a least size
	Children []*Node  `json:"children,omitempty"`
	Box      *Box     `json:"box,omitempty"` // in a solution
}

// Switch is a style that holds from a width on, up to another. Later ones win.
type Switch struct {
	From      float64 `json:"from"`                // px of the viewport, or of the nearest size container
	Below     float64 `json:"below,omitempty"`     // px; 0 for all widths from From on
	Container bool    `json:"container,omitempty"` // whether From is a container's width
	Style     Style   `json:"style"`
}

// Box is where a node was laid out.
type Box struct {
	X        float64    `json:"x"` // border box, relative to the root's
	Y        float64    `json:"y"`
	Width    float64    `json:"width"`
	Height   float64    `json:"height"`
	Content  Rect       `json:"content"`            // content box, relative to the root's border box
	Baseline *float64   `json:"baseline,omitempty"` // first baseline, from the top of the border box; from its left in vertical text
	Overflow *Overflow  `json:"overflow,omitempty"` // absent when nothing reaches over the padding box
	Lines    int        `json:"lines,omitempty"`    // lines of the node's own text
	Ends     []int      `json:"-"`                  // character after each line but the last, white space collapsed
	Padding  Sides      `json:"-"`                  // used padding
	Gaps     [2]float64 `json:"-"`                  // used gaps: between columns, between rows
}

// Rect is a rectangle.
type Rect struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// Overflow is how far content reaches over the ends of the padding box.
type Overflow struct {
	X    float64 `json:"x"`    // at the end of the horizontal flow
	Y    float64 `json:"y"`    // at the end of the vertical flow
	Clip bool    `json:"clip"` // whether what reaches over is cut off
}

// Bounds of a tree, against hostile input.
const (
	MaxNodes = 200_000
	MaxDepth = 512
)

// Options are what a tree is solved in.
type Options struct {
	Width    float64       // px available to the root; also the viewport's width
	Height   float64       // px of the viewport; 0 is 800
	RootFont float64       // px of 1rem; 0 is css.RootFontSize
	Fonts    *font.Library // text measures 0 by 0 without
}

// node is a box while it is laid out. Arrays of two are by axis, horizontal
// first; of two by two by axis and edge. What laying out reads of every box
// comes first, so that it lies together in memory.
type node struct {
	parent      *node
	children    []*node // anonymous ones included, those not displayed left out
	text        *font.Text
	bfc         bool       // margins of children stay within
	edgeAxis    uint8      // inline axis of the parent, which percentages of edges refer to
	ratioed     bool       // it or something in it has an aspect ratio
	automatic   bool       // its block size follows from its content or ratio
	plain       bool       // its edges and margins refer to nothing
	steady      [2]bool    // nor do its size and limits
	autoMargins [2][2]bool // margins that are auto
	done        bool

	size        [2]float64    // border box
	pos         [2]float64    // border box from the parent's border box
	edge        [2][2]float64 // border and padding, while it is laid out
	settled     settledSize
	margins     [2][2]float64 // of a plain box
	percentBase float64       // inline size of what its percentages refer to
	performed   space
	result      outcome

	style

	memory *memory       // what it was measured to be; nil before it was
	at     [2]float64    // border box from the page's
	laid   [2][2]float64 // border and padding, in the end
	reach  [2]float64    // how far its content reaches, once that is asked

	// Where a box out of flow would have gone: a rectangle from the parent's
	// border box, and 0 low end, 1 middle, 2 high end.
	hypo      [2]float64
	hypoSize  [2]float64
	hypoAlign [2]uint8
	hypoSafe  [2]bool
	areas     *gridAreas
	area      [2]float64 // of a grid item: what its insets refer to
	lines     int
	textSize  float64 // longest line, px
	typeface  typeface
	source    *Node
}

// settledSize is what size properties give a steady box, border box by axis;
// the size is NaN where its content makes it.
type settledSize struct{ preferred, low, high [2]float64 }

// tree is what a solver works on.
type tree struct {
	nodes   []*node
	root    *node // the node given; its parent, the first of all, is the page around it
	relies  bool  // on the viewport or on size containers
	queries []*node
}

// build computes every node's style.
func build(root *Node, o Options, queried map[*Node][2]float64) (*tree, problem.List) {
	var found problem.List
	t := &tree{}
	b := builder{options: o, tree: t, found: &found, queried: queried}
	if root == nil {
		found.Errorf("layout-empty", "", "one node was expected", "there is nothing to lay out")
		return nil, found
	}
	frame := b.box(nil)
	frame.contains, frame.bfc = true, true
	b.node(root, frame, "", 0)
	if len(frame.children) > 0 {
		t.root = frame.children[0]
	}
	if t.root == nil && !found.Failed() {
		found.Errorf("layout-hidden", "/style/display", "give the root another display", "the root is not displayed")
	}
	return t, found
}

type builder struct {
	options Options
	tree    *tree
	found   *problem.List
	pool    []node               // boxes that lie side by side in memory
	queried map[*Node][2]float64 // content sizes of size containers, once known
}

func (b *builder) node(source *Node, parent *node, pointer string, depth int) {
	if depth > MaxDepth {
		b.found.Errorf("layout-depth", pointer, "flatten the nesting", "nested deeper than %d levels", MaxDepth)
		return
	}
	if len(b.tree.nodes) >= MaxNodes {
		if len(b.tree.nodes) == MaxNodes {
			b.found.Errorf("layout-size", pointer, "lay out a part at a time", "more than %d nodes", MaxNodes)
			b.tree.nodes = append(b.tree.nodes, nil)
		}
		return
	}
	n := b.box(parent)
	n.source = source
	measures := measures{root: b.options.RootFont, viewWidth: b.options.Width, viewHeight: b.options.Height, usedView: &b.tree.relies}
	measures.queryWidth, measures.queryHeight = b.query(parent)
	c := cascade{style: &n.style, face: &n.typeface, measures: measures, fonts: b.options.Fonts,
		report: func(property, format string, args ...any) {
			b.found.Errorf("layout-style", pointer+"/style/"+problem.Token(property), "a CSS value was expected", "%s: %s", property, fmt.Sprintf(format, args...))
		},
		warn: func(property, format string, args ...any) {
			b.found.Warnf("layout-style", pointer+"/style/"+problem.Token(property), "", "%s: %s", property, fmt.Sprintf(format, args...))
		},
	}
	c.parent, c.alone = &parent.style, parent.source == nil
	list := declarations(b.said(source, measures.queryWidth))
	c.apply(list)
	for _, d := range list {
		if d.property == "display" && d.value == "none" {
			b.tree.nodes = b.tree.nodes[:len(b.tree.nodes)-1]
			return
		}
	}
	parent.children = append(parent.children, n)
	n.settle()
	for p := n; p != nil && n.aspect > 0 && !p.ratioed; p = p.parent {
		p.ratioed = true
	}
	if n.container[0] || n.container[1] {
		b.tree.queries = append(b.tree.queries, n)
	}
	if len(source.Text) > 1<<20 {
		b.found.Errorf("layout-text", pointer+"/text", "shorten it", "the text has %d bytes; at most %d are laid out", len(source.Text), 1<<20)
		return
	}
	if text := font.Collapse(source.Text, n.whiteSpace); text != "" {
		in := n
		if len(source.Children) > 0 || n.display != displayBlock {
			in = b.box(n)
			n.children = append(n.children, in)
			in.settle()
		}
		if in.face != nil {
			in.text = in.face.Text(text)
		}
	}
	for i, child := range source.Children {
		at := fmt.Sprintf("%s/children/%d", pointer, i)
		if child == nil {
			b.found.Errorf("layout-empty", at, "one node was expected", "there is no node")
			continue
		}
		b.node(child, n, at, depth+1)
	}
}

// said gives a node's style at the widths it is laid out in.
func (b *builder) said(n *Node, query float64) Style {
	if len(n.At) == 0 {
		return n.Style
	}
	out := maps.Clone(n.Style)
	if out == nil {
		out = Style{}
	}
	b.tree.relies = true
	for _, s := range n.At {
		width := b.options.Width
		if s.Container {
			width = query
		}
		if width >= s.From && (s.Below == 0 || width < s.Below) {
			maps.Copy(out, s.Style)
		}
	}
	return out
}

// box makes a box with what it inherits.
func (b *builder) box(parent *node) *node {
	if len(b.pool) == 0 {
		b.pool = make([]node, min(256, 16+len(b.tree.nodes)))
	}
	n := &b.pool[0]
	b.pool = b.pool[1:]
	n.parent = parent
	if parent == nil {
		n.style = initial(b.options.Fonts, b.options.RootFont)
		n.typeface = typeface{weight: 400, ratio: nan}
		if b.options.Fonts != nil && len(b.options.Fonts.Names()) > 0 {
			n.typeface.family = strings.ToLower(b.options.Fonts.Names()[0])
		}
	} else {
		n.style, n.typeface = parent.style, parent.typeface
		n.style.reset()
	}
	b.tree.nodes = append(b.tree.nodes, n)
	return n
}

// settle sets what follows from a box's style and its parent's.
func (n *node) settle() {
	p := n.parent
	n.edgeAxis = p.inline
	n.plain = true
	for axis := range 2 {
		for e := range 2 {
			n.edge[axis][e] = n.border[axis][e] + max(0, n.padding[axis][e].orZero(0))
			n.margins[axis][e] = n.margin[axis][e].orZero(0)
			n.autoMargins[axis][e] = n.margin[axis][e].kind == auto
			n.plain = n.plain && !n.padding[axis][e].relative() && !n.margin[axis][e].relative()
		}
	}
	for axis := range uint8(2) {
		least, most := &n.min[axis], &n.max[axis]
		n.steady[axis] = n.plain && !n.preferred[axis].relative() && !least.relative() && !most.relative() &&
			(least.kind == auto || least.kind == fixed) && (most.kind == none || most.kind == fixed)
		if !n.steady[axis] {
			continue
		}
		size := &n.settled
		size.preferred[axis] = n.used(&n.preferred[axis], axis, nan)
		size.low[axis], size.high[axis] = n.sum(axis), math.Inf(1)
		if least.kind == fixed {
			size.low[axis] = n.used(least, axis, nan)
		}
		if most.kind == fixed {
			size.high[axis] = n.used(most, axis, nan)
		}
	}
	n.bfc = n.contains || n.position == absolute || p.display != displayBlock || p.inline != n.inline || p.reversed[n.block()] != n.reversed[n.block()]
}

// query gives the width and height container units refer to.
func (b *builder) query(n *node) (width, height float64) {
	width, height = b.options.Width, b.options.Height
	var haveWidth, haveHeight bool
	for ; n != nil && !(haveWidth && haveHeight); n = n.parent {
		size, known := b.queried[n.source]
		for logical, contains := range n.container {
			if !contains || !known {
				continue
			}
			if axis := n.axis(logical); axis == horizontal && !haveWidth {
				width, haveWidth = size[0], true
			} else if axis == vertical && !haveHeight {
				height, haveHeight = size[1], true
			}
		}
	}
	return width, height
}
