package design

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/beevik/etree"
)

// scope is where an element stands: its style, the transform of its user space to the page, and the size of the viewport
// that percentages are parts of (SVG 2, units).
type scope struct {
	m     matrix
	style map[string]string
	view  [2]float64
	depth int
}

// diagonal is what percentages of lengths are parts of that lie along neither axis.
func (s *scope) diagonal() float64 { return math.Hypot(s.view[0], s.view[1]) / math.Sqrt2 }

var unitsInPx = map[string]float64{"": 1, "px": 1, "pt": 96.0 / 72, "mm": 96 / 25.4, "cm": 96 / 2.54, "q": 96 / 101.6, "in": 96, "pc": 16, "rem": 16}

// lengthIn reads a length as px; percentages are parts of whole. False when it is none.
func (i *importer) lengthIn(text string, size, whole float64) (float64, bool) {
	text = trim(text)
	n := numberLength(text)
	v, err := strconv.ParseFloat(text[:n], 64)
	if n == 0 || err != nil || math.IsInf(v, 0) || math.Abs(v) > 1e7 {
		return 0, false
	}
	unit := strings.ToLower(trim(text[n:]))
	if px, ok := unitsInPx[unit]; ok {
		return v * px, true
	}
	switch unit {
	case "%":
		return v / 100 * whole, true
	case "em":
		return v * size, true
	case "ex", "ch":
		return v * size / 2, true
	case "vw":
		return v / 100 * i.page[0], true
	case "vh":
		return v / 100 * i.page[1], true
	}
	return 0, false
}

// length reads a length of an element, a part of whole where it is a percentage; otherwise when it is not given, or none.
func (i *importer) length(e *etree.Element, at *scope, text string, whole, otherwise float64) float64 {
	if text == "" || text == "auto" {
		return otherwise
	}
	v, ok := i.lengthIn(text, fontSize(at.style), whole)
	if !ok {
		i.warn(e, "%q is no length that is read", clean(text))
		return otherwise
	}
	return v
}

// across and down are the attributes that are measured along one of the axes.
var (
	across = words("x width cx rx x1 x2 dx fx refX")
	down   = words("y height cy ry y1 y2 dy fy refY")
)

// geometry reads a length that an attribute or, where CSS has a property for it, a style says.
func (i *importer) geometry(e *etree.Element, at *scope, name string, otherwise float64) float64 {
	text := e.SelectAttrValue(name, "")
	if svgOwn[name] {
		text = at.style[name]
	}
	whole := at.diagonal()
	switch {
	case across[name]:
		whole = at.view[0]
	case down[name]:
		whole = at.view[1]
	}
	return i.length(e, at, text, whole, otherwise)
}

// fit gives the transform that fits a box of user units into one of a size (SVG 2, 8.6), by its attribute preserveAspectRatio.
func fit(box [4]float64, w, h float64, aspect string) matrix {
	sx, sy := w/box[2], h/box[3]
	align, how, _ := strings.Cut(trim(aspect), " ")
	if align == "none" {
		return matrix{sx, 0, 0, sy, -box[0] * sx, -box[1] * sy}
	}
	s := min(sx, sy)
	if trim(how) == "slice" {
		s = max(sx, sy)
	}
	x, y := 0.5, 0.5
	if len(align) == 8 {
		place := map[string]float64{"Min": 0, "Mid": 0.5, "Max": 1}
		if v, ok := place[align[1:4]]; ok {
			x = v
		}
		if v, ok := place[align[5:8]]; ok {
			y = v
		}
	}
	return matrix{s, 0, 0, s, (w-box[2]*s)*x - box[0]*s, (h-box[3]*s)*y - box[1]*s}
}

// viewBox gives an element's view box; false when it has none, or one of no size.
func viewBox(e *etree.Element) (box [4]float64, ok bool) {
	v, err := readNumbers(e.SelectAttrValue("viewBox", ""))
	if err != nil || len(v) != 4 || v[2] <= 0 || v[3] <= 0 {
		return box, false
	}
	return [4]float64(v), true
}

// transformed gives the scope with the element's own transform in it.
func (i *importer) transformed(e *etree.Element, at scope) scope {
	text := at.style["transform"]
	if text == "" || text == "none" {
		return at
	}
	box := func() Rect { // what percentages and origins refer to (CSS Transforms 1, 6)
		if b := at.style["transform-box"]; b == "fill-box" || b == "content-box" || b == "border-box" || b == "stroke-box" {
			plain := at
			plain.m = identity
			if own, ok := i.shapeBox(e, plain); ok {
				return own
			}
		}
		return Rect{Width: at.view[0], Height: at.view[1]}
	}
	own, err := readTransformIn(text, fontSize(at.style), box)
	if err != nil {
		i.warn(e, "%v; it is left where it would be without", err)
		return at
	}
	ox, oy := 0.0, 0.0
	if e == i.root {
		ox, oy = at.view[0]/2, at.view[1]/2 // it has a box as CSS has them, and turns about its middle
	}
	if origin := at.style["transform-origin"]; origin != "" {
		b := box()
		x, y := originOf(origin)
		px, okX := i.lengthIn(x, fontSize(at.style), b.Width)
		py, okY := i.lengthIn(y, fontSize(at.style), b.Height)
		if okX && okY {
			ox, oy = b.X+px, b.Y+py
		} else {
			i.warn(e, "the transform-origin %s is not read", clean(origin))
		}
	} else if at.style["transform-box"] == "fill-box" {
		b := box()
		ox, oy = b.X, b.Y
	}
	at.m = at.m.times(matrix{1, 0, 0, 1, ox, oy}).times(own).times(matrix{1, 0, 0, 1, -ox, -oy})
	return at
}

// originOf gives a transform-origin as two lengths (CSS Transforms 1, 5).
func originOf(text string) (x, y string) {
	words := strings.Fields(strings.ReplaceAll(text, ",", " "))
	x, y = words[0], "50%"
	if len(words) > 1 {
		y = words[1]
	}
	if x == "top" || x == "bottom" || y == "left" || y == "right" {
		if len(words) > 1 {
			x, y = y, x
		} else {
			x, y = "50%", x
		}
	}
	for _, one := range []*string{&x, &y} {
		if v, ok := map[string]string{"left": "0", "top": "0", "center": "50%", "right": "100%", "bottom": "100%"}[*one]; ok {
			*one = v
		}
	}
	return x, y
}

// readTransform reads a transform as SVG and CSS write it, without percentages.
func readTransform(text string) (matrix, error) {
	return readTransformIn(text, 16, func() Rect { return Rect{} })
}

func readTransformIn(text string, size float64, box func() Rect) (matrix, error) {
	m := identity
	for text = trim(text); text != ""; text = strings.TrimLeft(text, " ,\t\r\n") {
		name, rest, ok := strings.Cut(text, "(")
		inner, after, closed := strings.Cut(rest, ")")
		if !ok || !closed {
			return identity, fmt.Errorf("%q is no transform", clean(text))
		}
		text = after
		name = strings.ToLower(trim(name))
		v, err := transformNumbers(inner, name, size, box)
		if err != nil {
			return identity, err
		}
		get := func(i int, otherwise float64) float64 {
			if i < len(v) {
				return v[i]
			}
			return otherwise
		}
		var t matrix
		switch name {
		case "matrix":
			if len(v) != 6 {
				return identity, fmt.Errorf("matrix() takes six numbers")
			}
			t = matrix{v[0], v[1], v[2], v[3], v[4], v[5]}
		case "translate":
			t = matrix{1, 0, 0, 1, get(0, 0), get(1, 0)}
		case "translatex":
			t = matrix{1, 0, 0, 1, get(0, 0), 0}
		case "translatey":
			t = matrix{1, 0, 0, 1, 0, get(0, 0)}
		case "scale":
			t = matrix{get(0, 1), 0, 0, get(1, get(0, 1)), 0, 0}
		case "scalex":
			t = matrix{get(0, 1), 0, 0, 1, 0, 0}
		case "scaley":
			t = matrix{1, 0, 0, get(0, 1), 0, 0}
		case "rotate":
			sin, cos := math.Sincos(get(0, 0) * math.Pi / 180)
			x, y := get(1, 0), get(2, 0)
			t = matrix{1, 0, 0, 1, x, y}.times(matrix{cos, sin, -sin, cos, 0, 0}).times(matrix{1, 0, 0, 1, -x, -y})
		case "skew":
			t = matrix{1, math.Tan(get(1, 0) * math.Pi / 180), math.Tan(get(0, 0) * math.Pi / 180), 1, 0, 0}
		case "skewx":
			t = matrix{1, 0, math.Tan(get(0, 0) * math.Pi / 180), 1, 0, 0}
		case "skewy":
			t = matrix{1, math.Tan(get(0, 0) * math.Pi / 180), 0, 1, 0, 0}
		default:
			return identity, fmt.Errorf("the transform %q is not known", clean(name))
		}
		m = m.times(t)
	}
	return m, nil
}

// transformNumbers reads what a transform function is given: lengths as px, angles as degrees.
func transformNumbers(inner, name string, size float64, box func() Rect) (out []float64, err error) {
	for rest := trim(inner); rest != ""; rest = strings.TrimLeft(rest, " ,\t\r\n") {
		n := numberLength(rest)
		v, err := strconv.ParseFloat(rest[:n], 64)
		if n == 0 || err != nil || math.IsInf(v, 0) || math.Abs(v) > 1e7 {
			return nil, fmt.Errorf("the transform's %q is no number up to 10000000", clean(rest))
		}
		rest = rest[n:]
		end := strings.IndexAny(rest, " ,\t\r\n+-.0123456789")
		if end < 0 {
			end = len(rest)
		}
		unit := strings.ToLower(rest[:end])
		rest = rest[end:]
		switch unit {
		case "", "px", "deg":
		case "rad":
			v *= 180 / math.Pi
		case "grad":
			v *= 0.9
		case "turn":
			v *= 360
		case "em":
			v *= size
		case "%":
			switch b := box(); {
			case !strings.HasPrefix(name, "translate"): // a part of one
				v /= 100
			case name == "translatey" || len(out) == 1:
				v *= b.Height / 100
			default:
				v *= b.Width / 100
			}
		default:
			px, ok := unitsInPx[unit]
			if !ok {
				return nil, fmt.Errorf("the transform's unit %q is not known", clean(unit))
			}
			v *= px
		}
		out = append(out, v)
	}
	return out, nil
}
