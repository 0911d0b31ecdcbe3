package layout

import (
	"math"
	"strings"

	"cobrik/core/design"
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
		for _, sizing := range []*string{&l.Sizing.Width, &l.Sizing.Height} {
			if *sizing == Content {
				*sizing = Fixed
			}
		}
	}
	n := &Node{Name: p.Name, Style: LayerStyle(l, parent)}
	for i, c := range p.Children {
		n.Children = append(n.Children, c.boxes(l.Children[i], l))
	}
	return n
}

// mostUntidy bounds the list of what is beside its place.
const mostUntidy = 200

// prove solves the tree at the drawn width and measures how far each drawn
// layer is from its place.
func (in *Inference) prove() {
	n := in.Root.Tree()
	solved, found := Solve(n, Options{Width: in.Root.Bounds.Width, Height: 800})
	if solved == nil {
		in.Residual = math.Inf(1)
		in.Untidy = append(in.Untidy, found.Error())
		return
	}
	origin := in.Root.Bounds
	var walk func(p *Part, n *Node)
	walk = func(p *Part, n *Node) {
		if p.Layer != "" {
			off := p.beside(origin, n.Box)
			p.Residual = round(off.furthest())
			if p.Residual > 0.25 && len(in.Untidy) < mostUntidy {
				in.Untidy = append(in.Untidy, p.Name+" "+off.words())
			}
		}
		for i, c := range p.Children {
			walk(c, n.Children[i])
			if p.Layer == "" {
				p.Residual = max(p.Residual, c.Residual)
			}
		}
		in.Residual = max(in.Residual, p.Residual)
	}
	walk(in.Root, solved)
}

// beside gives how far each edge of a layer is drawn from where it was solved.
func (p *Part) beside(origin Rect, b *Box) Sides {
	d := p.Bounds
	return Sides{Top: d.Y - origin.Y - b.Y, Right: d.right() - origin.X - b.X - b.Width, Bottom: d.bottom() - origin.Y - b.Y - b.Height, Left: d.X - origin.X - b.X}
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
