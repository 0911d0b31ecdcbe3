package layout

import (
	"fmt"
	"math"
	"strings"
	"unicode"
)

// Tree writes a part as boxes to be solved. Drawn layers keep the size they
// have where nothing else makes it.
func (p *Part) Tree() *Node { return p.node(nil) }

func (p *Part) node(parent *Part) *Node {
	n := &Node{Name: p.Name, Style: p.box(parent)}
	for _, c := range p.Children {
		n.Children = append(n.Children, c.node(p))
	}
	return n
}

// box writes a part's own style.
func (p *Part) box(parent *Part) Style {
	s := Style{"box-sizing": "border-box", "min-width": "0px"}
	length := func(v float64) string { return fmt.Sprintf("%gpx", math.Round(v*1000)/1000) }
	set := func(property, how string, v float64, axis int) {
		along := parent != nil && (parent.Kind == Row && axis == 0 || parent.Kind == Stack && axis == 1)
		switch {
		case how == Fixed, how == Content && p.Kind == Leaf:
			s[property] = length(v)
			s["flex-shrink"] = "0"
		case how == Fill && along:
			s["flex-grow"], s["flex-basis"] = "1", "0px"
		case how == Fill && parent != nil && (parent.Kind == Row || parent.Kind == Stack || axis == 1 && (parent.Kind == Split || parent.Kind == Grid)):
			s["align-self"] = "stretch"
		}
	}
	set("width", p.Width, p.Bounds.Width, 0)
	set("height", p.Height, p.Bounds.Height, 1)
	if p.Self != "" {
		s["align-self"] = p.Self
		if parent != nil && parent.Kind == Grid {
			delete(s, "align-self")
			s["justify-self"] = p.Self
		}
	}
	if parent != nil && parent.Gap < 0 && parent.Children[0] != p && (parent.Kind == Row || parent.Kind == Stack) {
		s[map[string]string{Row: "margin-left", Stack: "margin-top"}[parent.Kind]] = length(parent.Gap)
	}
	if p.Offset != nil && p.Offset.X != 0 {
		s["margin-left"] = length(p.Offset.X)
	}
	if p.Offset != nil && p.Offset.Y != 0 {
		s["margin-top"] = length(p.Offset.Y)
	}
	if p.Pin != nil {
		p.Pin.style(s, p.Bounds, length)
	}
	if p.Kind == Leaf {
		return s
	}
	s["padding"] = strings.Join([]string{length(p.Padding.Top), length(p.Padding.Right), length(p.Padding.Bottom), length(p.Padding.Left)}, " ")
	switch p.Kind {
	case Row, Stack, Wrap:
		s["display"] = "flex"
		if p.Kind == Stack {
			s["flex-direction"] = "column"
		}
		s["align-items"] = p.Align
		if p.Kind == Wrap {
			s["flex-wrap"] = "wrap"
			s["align-content"] = "start"
			s["gap"] = length(p.Across) + " " + length(p.Gap)
			break
		}
		s["justify-content"] = p.Distribute
		if p.Gap >= 0 && p.Distribute != "space-between" {
			s["gap"] = length(p.Gap)
		}
	case Split:
		s["display"], s["grid-template-columns"], s["gap"], s["align-items"] = "grid", columnsOf[p.Fraction], length(max(0, p.Gap)), p.Align
	case Grid:
		s["display"], s["align-items"], s["justify-content"] = "grid", "start", "start"
		s["gap"] = length(p.Across) + " " + length(p.Gap)
		s["grid-template-columns"] = p.columns()
	case Overlay:
		s["position"], s["display"] = "relative", "grid"
	}
	return s
}

// columns gives a grid's columns: shares where they are equal and fill it, else
// as wide as what is in them.
func (p *Part) columns() string {
	starts, ends := columnEdges(p)
	inner := p.inner()
	equal := p.definite(0) && math.Abs(ends[len(ends)-1]-inner.right()) <= tolerance
	for j := range starts {
		equal = equal && math.Abs(ends[j]-starts[j]-(ends[0]-starts[0])) <= tolerance
	}
	if equal {
		return fmt.Sprintf("repeat(%d, minmax(0, 1fr))", p.Columns)
	}
	words := make([]string, p.Columns)
	for j := range words {
		words[j] = "max-content"
	}
	return strings.Join(words, " ")
}

func (pin *Pin) style(s Style, bounds Rect, length func(float64) string) {
	s["position"] = "absolute"
	if pin.Horizontal == "center" {
		s["left"] = fmt.Sprintf("calc(50%% - %s)", length(bounds.Width/2-pin.X))
	} else {
		s[pin.Horizontal] = length(pin.X)
	}
	if pin.Vertical == "center" {
		s["top"] = fmt.Sprintf("calc(50%% - %s)", length(bounds.Height/2-pin.Y))
	} else {
		s[pin.Vertical] = length(pin.Y)
	}
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

// name names containers after the group that held the same layers, else after
// what they hold.
func (in *inferrer) name(p *Part) {
	if p.Kind != Leaf && p.Name == "" {
		if p.Name = in.groups[p.Key()]; p.Name == "" {
			p.Name = p.holds()
		}
	}
	for _, c := range p.Children {
		in.name(c)
	}
}

// holds names a container by what it holds: its largest text or its first named
// layer, and its kind.
func (p *Part) holds() string {
	var best *Part
	p.walk(func(q *Part) {
		if q.Kind != Leaf || q.layer == nil || q.layer.HasDefaultName() {
			return
		}
		if best == nil || weight(q) > weight(best) {
			best = q
		}
	})
	kind := strings.ReplaceAll(p.Kind, " ", "-")
	if best == nil {
		return kind
	}
	return identifier(best.Name) + "-" + kind
}

// weight ranks the layers a container may be named after: text by its size,
// then anything by where it is drawn.
func weight(p *Part) float64 {
	if p.Text && p.layer.Text != nil {
		return 1000 + p.layer.Text.FontSize
	}
	return -float64(p.order) / 1e6
}

// identifier writes a name in lower case with hyphens.
func identifier(name string) string {
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	return strings.Join(words[:min(3, len(words))], "-")
}
