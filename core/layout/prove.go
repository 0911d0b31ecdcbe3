package layout

import (
	"math"
	"strings"
	"sync"

	"cobrik/core/design"
	"cobrik/core/problem"
)

// Tree writes a part as boxes to be solved: the layers it is written as, by LayerStyle.
// What is drawn keeps its size where nothing else makes it.
func (p *Part) Tree() *Node {
	w := flowWriter{}
	return p.boxes(w.layer(p, nil), nil)
}

func (p *Part) boxes(l, parent *design.Layer) *Node {
	l.Tokens = nil // as drawn, whatever tokens say
	if p.Kind == Leaf {
		l.Sizing = keptSize(l.Sizing)
	}
	n := &Node{Name: p.Name, Style: LayerStyle(l, parent)}
	for i, c := range p.Children {
		n.Children = append(n.Children, c.boxes(l.Children[i], l))
	}
	return n
}

// keptSize is the sizing of a layer whose content is not laid out.
func keptSize(s design.Sizing) design.Sizing {
	for _, sizing := range []*string{&s.Width, &s.Height} {
		if *sizing == Content {
			*sizing = Fixed
		}
	}
	return s
}

// mostUntidy bounds the list of what is beside its place.
const mostUntidy = 200

// prove solves the tree at the drawn width and measures how far each drawn
// layer is from its place.
func (in *Inference) prove() {
	found := in.solved(func(p *Part, off Sides) {
		p.Residual = round(off.furthest())
		if p.Residual > 0.25 && len(in.Untidy) < mostUntidy {
			in.Untidy = append(in.Untidy, p.Name+" "+off.words())
		}
	})
	if found.Failed() {
		in.Residual = math.Inf(1)
		in.Untidy = append(in.Untidy, found.Error())
		return
	}
	var gather func(p *Part)
	gather = func(p *Part) {
		for _, c := range p.Children {
			gather(c)
			if p.Layer == "" {
				p.Residual = max(p.Residual, c.Residual)
			}
		}
		in.Residual = max(in.Residual, p.Residual)
	}
	gather(in.Root)
}

// solved lays the tree out at the drawn width and tells how far each drawn layer's
// edges are from where they were solved.
func (in *Inference) solved(visit func(p *Part, off Sides)) problem.List {
	v := provers.Get().(*prover)
	defer func() {
		clear(v.parts) // what was proved is not kept with the memory
		provers.Put(v)
	}()
	o := Options{Width: in.Root.Bounds.Width, Height: 800}
	v.start(o)
	v.add(in.Root, nil, v.tree.nodes[0], 0, among{})
	if v.found.Failed() {
		return v.found
	}
	v.tree.root = v.tree.nodes[1]
	v.solver.view = [2]float64{o.Width, o.Height}
	v.solver.run(&v.tree, o)
	origin, at := in.Root.Bounds, v.tree.root.at
	for i, p := range v.parts {
		if p.Layer == "" {
			continue
		}
		n, d := v.tree.nodes[i+1], p.Bounds
		x, y := round(n.at[0]-at[0]), round(n.at[1]-at[1])
		visit(p, Sides{
			Top: d.Y - origin.Y - y, Right: d.right() - origin.X - x - round(n.size[0]),
			Bottom: d.bottom() - origin.Y - y - round(n.size[1]), Left: d.X - origin.X - x,
		})
	}
	return v.found
}

// provers are kept, with the memory they took.
var provers = sync.Pool{New: func() any { return newProver() }}

// prover makes boxes of parts as Tree and build do, without writing styles and reading them again.
type prover struct {
	tree   tree
	solver solver
	parts  []*Part // of the tree's nodes but the page around
	pages  [][]node
	used   int // nodes
	plain  style
	found  problem.List
	write  layerWriter
	at     *node
	fits   bool
	layers []*layerOfPart // by depth
}

func newProver() *prover {
	v := &prover{plain: initial(nil, 16)}
	v.write.say = v.take
	return v
}

// nodesAPage is how many boxes lie side by side in memory.
const nodesAPage = 512

func (v *prover) box(parent *node) *node {
	if v.used == len(v.pages)*nodesAPage {
		v.pages = append(v.pages, make([]node, nodesAPage))
	}
	n := &v.pages[v.used/nodesAPage][v.used%nodesAPage]
	v.used++
	children := n.children[:0]
	*n = node{parent: parent, children: children, style: v.plain, memory: n.memory}
	v.tree.nodes = append(v.tree.nodes, n)
	return n
}

func (v *prover) start(o Options) {
	v.used, v.parts, v.found = 0, v.parts[:0], nil
	v.tree = tree{nodes: v.tree.nodes[:0]}
	page := v.box(nil)
	page.contains, page.bfc = true, true
}

// add makes the boxes of a part and of those in it.
func (v *prover) add(p, around *Part, parent *node, depth int, a among) {
	if depth >= MaxDepth {
		if !v.found.Failed() {
			v.found.Errorf("layout-depth", "", "flatten the nesting", "nested deeper than %d levels", MaxDepth)
		}
		return
	}
	if len(v.layers) == depth {
		v.layers = append(v.layers, &layerOfPart{})
	}
	l := v.layers[depth].set(p, around)
	l.Tokens = nil // as drawn, whatever tokens say
	if p.Kind == Leaf {
		l.Sizing = keptSize(l.Sizing)
	}
	var outer *design.Layer
	if around != nil {
		outer = &v.layers[depth-1].layer
	}
	n := v.box(parent)
	v.parts = append(v.parts, p)
	parent.children = append(parent.children, n)
	a.any = len(p.Children) > 0
	for _, c := range p.Children {
		a.holds = a.holds || c.Pin != nil
	}
	v.at, v.fits = n, false
	v.write.write(l, outer, a)
	if i := n.inline; v.fits && n.preferred[i].kind == auto {
		n.preferred[i] = length{kind: fitContent}
	}
	n.contains = n.display != displayBlock || n.alignContent != alignNormal
	n.settle()
	first, over := true, false
	for _, c := range p.Children {
		v.add(c, p, n, depth+1, among{first: first && c.Pin == nil, over: over})
		first = first && c.Pin != nil
		over = over || c.Pin != nil
	}
}

// take gives the box at hand what is said of its layer.
func (v *prover) take(d said) {
	s := &v.at.style
	if d.count > 0 {
		s.takeLengths(&d)
		return
	}
	switch d.property {
	case "display":
		s.display = displayFlex
		if strings.HasSuffix(d.word, "grid") {
			s.display = displayGrid
		}
		v.fits = strings.HasPrefix(d.word, "inline")
	case "position":
		s.position = relative
		if d.word == "absolute" {
			s.position = absolute
		}
	case "align-items":
		s.alignItems = alignments[d.word]
	case "align-self":
		s.alignSelf = alignments[d.word]
	case "justify-self":
		s.justifySelf = alignments[d.word]
	case "justify-content":
		s.justifyContent = alignments[d.word]
	case "align-content":
		s.alignContent = alignments[d.word]
	case "flex-direction":
		s.flexColumn = d.word == "column"
	case "flex-wrap":
		s.wrap = d.word == "wrap"
	case "box-sizing":
		s.borderBox = d.word == "border-box"
	case "border-style": // lines have widths where they are drawn
	case "flex":
		s.grow, s.shrink, s.basis = 0, 0, length{}
		if d.word != "none" {
			s.grow, s.shrink, s.basis = 1, 1, length{kind: fixed}
		}
	case "min-width":
		s.min[0] = px(0)
	default:
		c := cascade{style: s, face: &v.at.typeface, parent: &v.at.parent.style, measures: measures{root: 16, viewWidth: 0, usedView: &v.tree.relies}, report: v.report, warn: v.report}
		if err := c.set(d.property, d.word); err != nil {
			v.report(d.property, "%v", err)
		}
	}
}

func (v *prover) report(property, format string, args ...any) {
	v.found.Errorf("layout-style", "/style/"+problem.Token(property), "a CSS value was expected", format, args...)
}

// takeLengths takes a declaration of lengths in px, which run along as in a page from left to right.
func (s *style) takeLengths(d *said) {
	v := d.px
	switch d.property {
	case "border-width":
		if d.count == 1 {
			v[1], v[2], v[3] = v[0], v[0], v[0]
		}
		for i := range v {
			if v[i] = math.Floor(v[i]); d.px[min(i, d.count-1)] > 0 { // snapped as a border's width is (CSS Values 4, 5.2)
				v[i] = max(1, v[i])
			}
		}
		s.border = [2][2]float64{{v[3], v[1]}, {v[0], v[2]}}
	case "padding-block":
		s.padding[1] = [2]length{px(v[0]), px(v[1])}
	case "padding-inline":
		s.padding[0] = [2]length{px(v[0]), px(v[1])}
	case "gap":
		if d.count == 1 {
			v[1] = v[0]
		}
		s.gap = [2]length{px(v[1]), px(v[0])}
	case "left":
		s.inset[0][0] = px(v[0])
	case "right":
		s.inset[0][1] = px(v[0])
	case "top":
		s.inset[1][0] = px(v[0])
	case "bottom":
		s.inset[1][1] = px(v[0])
	case "margin-left":
		s.margin[0][0] = px(v[0])
	case "margin-top":
		s.margin[1][0] = px(v[0])
	case "width":
		s.preferred[0] = px(v[0])
	case "height":
		s.preferred[1] = px(v[0])
	case "min-width":
		s.min[0] = px(v[0])
	case "min-height":
		s.min[1] = px(v[0])
	case "max-width":
		s.max[0] = px(v[0])
	case "max-height":
		s.max[1] = px(v[0])
	}
}

func (s Sides) furthest() float64 {
	return max(math.Abs(s.Top), math.Abs(s.Right), math.Abs(s.Bottom), math.Abs(s.Left))
}

// words says how a layer differs from its place.
func (s Sides) words() string {
	x, y, width, height := s.Left, s.Top, s.Right-s.Left, s.Bottom-s.Top
	var out []string
	say := func(v float64, less, more string) {
		if v < -0.25 {
			out = append(out, number(-v)+" px "+less)
		} else if v > 0.25 {
			out = append(out, number(v)+" px "+more)
		}
	}
	say(x, "left of its place", "right of its place")
	say(y, "above its place", "below its place")
	say(width, "too narrow", "too wide")
	say(height, "too low", "too high")
	return "is " + strings.Join(out, ", ")
}
