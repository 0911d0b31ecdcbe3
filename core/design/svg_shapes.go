package design

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/color"
)

// paint reads a colour property; empty for none.
func (i *importer) paint(e *etree.Element, style map[string]string, property, initial string) string {
	v := style[property]
	switch {
	case v == "":
		v = initial
	case strings.EqualFold(v, "currentcolor"):
		v = cmp.Or(style["color"], "black") // what has no colour is in that of the page's text
	case strings.HasPrefix(v, "url("):
		first := i.firstStop(v)
		if first == "" {
			i.warn(e, "%s %s is not kept: only plain colours are", property, v)
			return ""
		}
		i.warn(e, "%s %s is drawn in its first colour: only plain colours are kept", property, v)
		v = first
	}
	if v == "none" || v == "" {
		return ""
	}
	c, err := color.Parse(v)
	if err != nil {
		i.warn(e, "%s: %v", property, err)
		return ""
	}
	if o, err := readNumbers(style[property+"-opacity"]); err == nil && len(o) == 1 && o[0] < 1 {
		c.Alpha *= max(0, o[0])
	}
	if c.In(color.SRGB) {
		return c.Hex()
	}
	return c.CSS()
}

// firstStop gives the first colour of a gradient of the file; empty when that is
// not what the reference names.
func (i *importer) firstStop(reference string) string {
	id := strings.Trim(strings.TrimSuffix(strings.TrimPrefix(reference, "url("), ")"), `"' `)
	for range 4 { // a gradient may take its stops from another (SVG 2, 13.2.2)
		e := i.byID[strings.TrimPrefix(id, "#")]
		if e == nil || !strings.HasSuffix(e.Tag, "Gradient") {
			return ""
		}
		for _, stop := range e.SelectElements("stop") {
			if c := styleOf(stop, nil, nil)["stop-color"]; c != "" {
				return c
			}
		}
		id = hrefOf(e)
	}
	return ""
}

func (i *importer) stroke(e *etree.Element, style map[string]string, m matrix) *Stroke {
	c := i.paint(e, style, "stroke", "")
	if c == "" {
		return nil
	}
	width := 1.0
	if v := style["stroke-width"]; v != "" {
		width = i.length(v)
	}
	if width = tidy(width * m.scale()); width <= 0 {
		return nil
	}
	return &Stroke{Color: c, Width: width}
}

// outlined gives a box's bounds with a stroke that runs half outside in SVG and
// inside in a design document.
func outlined(r Rect, s *Stroke) Rect {
	if s == nil {
		return r
	}
	return Rect{r.X - s.Width/2, r.Y - s.Width/2, r.Width + s.Width, r.Height + s.Width}
}

func (i *importer) rect(e *etree.Element, m matrix, style map[string]string) *Layer {
	x, y, w, h := i.attr(e, "x"), i.attr(e, "y"), i.attr(e, "width"), i.attr(e, "height")
	if w < 0 || h < 0 {
		i.warn(e, "its size is negative; it is left out")
		return nil
	}
	if w == 0 || h == 0 {
		return nil
	}
	rx, ry := i.attr(e, "rx"), i.attr(e, "ry")
	if rx == 0 {
		rx = ry
	}
	return i.box(e, m, style, Rect{x, y, w, h}, min(max(rx, 0), w/2, h/2))
}

// box makes a box of a rectangle, turned where the transform turns it; a path
// of one that is skewed.
func (i *importer) box(e *etree.Element, m matrix, style map[string]string, r Rect, radius float64) *Layer {
	degrees, turned := m.turned()
	if !m.upright() && !turned {
		d := fmt.Sprintf("M%g %gh%gv%gh%gz", r.X, r.Y, r.Width, r.Height, -r.Width)
		return i.vector(e, d, m, style)
	}
	l := &Layer{Kind: Box, Fill: i.paint(e, style, "fill", "black"), Stroke: i.stroke(e, style, m)}
	sx, sy := m.a, m.d
	if !m.upright() {
		sx = m.scale()
		sy = sx
		l.Rotation = tidy(degrees)
	}
	cx, cy := m.at(r.X+r.Width/2, r.Y+r.Height/2)
	w, h := r.Width*sx, r.Height*sy
	l.Bounds = tidyRect(outlined(Rect{cx - w/2, cy - h/2, w, h}, l.Stroke))
	if radius > 0 {
		radius *= m.scale()
		if l.Stroke != nil {
			radius += l.Stroke.Width / 2
		}
		l.Radius = []float64{tidy(radius)}
	}
	return l
}

func (i *importer) ellipse(e *etree.Element, m matrix, style map[string]string) *Layer {
	cx, cy, rx, ry := i.attr(e, "cx"), i.attr(e, "cy"), i.attr(e, "rx"), i.attr(e, "ry")
	if e.Tag == "circle" {
		rx = i.attr(e, "r")
		ry = rx
	}
	if rx <= 0 || ry <= 0 {
		return nil
	}
	if _, even := m.turned(); rx == ry && even {
		return i.box(e, m, style, Rect{cx - rx, cy - ry, 2 * rx, 2 * ry}, rx)
	}
	d := fmt.Sprintf("M%g %ga%g %g 0 1 1 %g 0a%g %g 0 1 1 %g 0z", cx-rx, cy, rx, ry, 2*rx, rx, ry, -2*rx)
	return i.vector(e, d, m, style)
}

func (i *importer) shape(e *etree.Element, m matrix, style map[string]string) *Layer {
	switch e.Tag {
	case "path":
		return i.vector(e, e.SelectAttrValue("d", ""), m, style)
	case "line":
		return i.line(e, m, style)
	}
	points, err := readNumbers(e.SelectAttrValue("points", ""))
	if err != nil || len(points) < 4 {
		i.warn(e, "its points are no list of numbers; it is left out")
		return nil
	}
	var d strings.Builder
	for k := 0; k+1 < len(points); k += 2 {
		fmt.Fprintf(&d, "%c%g %g", "ML"[min(k, 1)], points[k], points[k+1])
	}
	if e.Tag == "polygon" {
		d.WriteByte('Z')
	}
	return i.vector(e, d.String(), m, style)
}

// line makes a thin box of a line, turned where it is not level.
func (i *importer) line(e *etree.Element, m matrix, style map[string]string) *Layer {
	s := i.stroke(e, style, m)
	if s == nil {
		return nil
	}
	x1, y1 := m.at(i.attr(e, "x1"), i.attr(e, "y1"))
	x2, y2 := m.at(i.attr(e, "x2"), i.attr(e, "y2"))
	long := math.Hypot(x2-x1, y2-y1)
	cx, cy := (x1+x2)/2, (y1+y2)/2
	l := &Layer{Kind: Box, Fill: s.Color}
	if x1 == x2 {
		l.Bounds = tidyRect(Rect{cx - s.Width/2, cy - long/2, s.Width, long})
		return l
	}
	l.Bounds = tidyRect(Rect{cx - long/2, cy - s.Width/2, long, s.Width})
	l.Rotation = tidy(math.Atan2(y2-y1, x2-x1) * 180 / math.Pi)
	return l
}

// vector makes a small drawing of one path, transformed.
func (i *importer) vector(e *etree.Element, d string, m matrix, style map[string]string) *Layer {
	if len(d) > 200_000 {
		i.warn(e, "its path is longer than 200000 bytes; it is left out")
		return nil
	}
	o, err := readPath(d, m)
	if err != nil {
		i.warn(e, "%v; it is left out", err)
		return nil
	}
	if o.empty {
		return nil
	}
	l := &Layer{Kind: Vector, Fill: i.paint(e, style, "fill", "black")}
	path := Path{D: o.d.String(), Rule: known(style["fill-rule"], "evenodd")}
	b := o.bounds()
	if s := i.stroke(e, style, m); s != nil {
		path.Stroke = PathStroke{s.Color, s.Width, known(style["stroke-linecap"], "round", "square"), known(style["stroke-linejoin"], "round", "bevel")}
		b = Rect{b.X - s.Width/2, b.Y - s.Width/2, b.Width + s.Width, b.Height + s.Width}
		if d := style["stroke-dasharray"]; d != "" && d != "none" {
			i.warn(e, "the dashes of its stroke are drawn as a whole line")
		}
	}
	if l.Fill == "" {
		path.Fill = "none"
	}
	if path.Fill == "none" && path.Stroke.Width == 0 {
		return nil // nothing is seen of it
	}
	l.Bounds = tidyRect(b)
	l.Vector = &VectorContent{ViewBox: [4]float64{l.Bounds.X, l.Bounds.Y, l.Bounds.Width, l.Bounds.Height}, Paths: []Path{path}}
	if len(l.Vector.Paths[0].D) > 100_000 {
		i.warn(e, "its path is longer than 100000 bytes once transformed; it is left out")
		return nil
	}
	return l
}

// known gives a keyword that is one of the options; empty for others.
func known(v string, options ...string) string {
	if slices.Contains(options, v) {
		return v
	}
	return ""
}

func (i *importer) image(e *etree.Element, m matrix) *Layer {
	href := hrefOf(e)
	if href != "" && !strings.HasPrefix(href, "data:") {
		i.warn(e, "its picture %s is outside of the file, and never fetched", clean(href))
	}
	x, y := m.at(i.attr(e, "x"), i.attr(e, "y"))
	right, bottom := m.at(i.attr(e, "x")+i.attr(e, "width"), i.attr(e, "y")+i.attr(e, "height"))
	if !m.upright() {
		i.warn(e, "a turned picture is drawn upright")
	}
	return &Layer{Kind: Image, Alt: nameOf(e, ""), Bounds: tidyRect(Rect{min(x, right), min(y, bottom), math.Abs(right - x), math.Abs(bottom - y)})}
}
