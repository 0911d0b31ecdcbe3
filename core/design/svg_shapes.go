package design

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// shapes are the elements that are drawn along an outline of their own (SVG 2, 10).
var shapes = words("path rect circle ellipse line polyline polygon")

// maxPath bounds path data, in bytes; maxDrawn what becomes of it.
const (
	maxPath  = 400_000
	maxDrawn = 100_000
)

// pathOf gives a shape as path data in its user units (SVG 2, 10, with the points where they begin); false when it
// shows nothing.
func (i *importer) pathOf(e *etree.Element, at *scope) (string, bool) {
	n := func(name string) float64 { return i.geometry(e, at, name, 0) }
	switch e.Tag {
	case "path":
		d := at.style["d"]
		if inner, ok := cutFunction(d, "path"); ok {
			d = inner
		}
		if len(d) > maxPath {
			i.warn(e, "its path is longer than %d bytes; it is left out", maxPath)
			return "", false
		}
		return d, d != "" && d != "none"
	case "line":
		return fmt.Sprintf("M%g %gL%g %g", n("x1"), n("y1"), n("x2"), n("y2")), true
	case "circle", "ellipse":
		cx, cy, rx, ry := i.ellipseOf(e, at)
		if rx < 0 || ry < 0 {
			i.warn(e, "its radius is negative; it is left out")
		}
		return fmt.Sprintf("M%g %ga%g %g 0 1 1 %g 0a%g %g 0 1 1 %g 0z", cx+rx, cy, rx, ry, -2*rx, rx, ry, 2*rx), rx > 0 && ry > 0
	case "rect":
		r, rx, ry := i.rectOf(e, at)
		if r.Width < 0 || r.Height < 0 {
			i.warn(e, "its size is negative; it is left out")
		}
		return roundedPath(r, rx, ry), r.Width > 0 && r.Height > 0
	}
	points, err := numbersUntil(e.SelectAttrValue("points", ""))
	if err != nil || len(points)%2 != 0 {
		i.warn(e, "its points are no list of pairs of numbers; it is drawn as far as they are")
	}
	if len(points) < 2 {
		return "", false
	}
	var d strings.Builder
	for k := 0; k+1 < len(points) && k < 2*maxSegments; k += 2 {
		fmt.Fprintf(&d, "%c%g %g", "ML"[min(k, 1)], points[k], points[k+1])
	}
	if e.Tag == "polygon" {
		d.WriteByte('Z')
	}
	return d.String(), true
}

// ellipseOf gives a circle's or an ellipse's middle and radii; a radius that is not given is the other (SVG 2, the ellipse element).
func (i *importer) ellipseOf(e *etree.Element, at *scope) (cx, cy, rx, ry float64) {
	cx, cy = i.geometry(e, at, "cx", 0), i.geometry(e, at, "cy", 0)
	if e.Tag == "circle" {
		rx = i.geometry(e, at, "r", 0)
		return cx, cy, rx, rx
	}
	rx, ry = i.geometry(e, at, "rx", math.NaN()), i.geometry(e, at, "ry", math.NaN())
	return cx, cy, given(rx, ry), given(ry, rx)
}

// given is a value, or the other where it is not given; 0 where neither is.
func given(v, other float64) float64 {
	switch {
	case !math.IsNaN(v):
		return v
	case !math.IsNaN(other):
		return other
	}
	return 0
}

// rectOf gives a rectangle and the radii of its corners (SVG 2, the rect element).
func (i *importer) rectOf(e *etree.Element, at *scope) (r Rect, rx, ry float64) {
	r = Rect{i.geometry(e, at, "x", 0), i.geometry(e, at, "y", 0), i.geometry(e, at, "width", 0), i.geometry(e, at, "height", 0)}
	x, y := i.geometry(e, at, "rx", math.NaN()), i.geometry(e, at, "ry", math.NaN())
	if x < 0 {
		x = math.NaN()
	}
	if y < 0 {
		y = math.NaN()
	}
	rx, ry = min(given(x, y), r.Width/2), min(given(y, x), r.Height/2)
	if rx <= 0 || ry <= 0 {
		return r, 0, 0
	}
	return r, rx, ry
}

func roundedPath(r Rect, rx, ry float64) string {
	x, y, w, h := r.X, r.Y, r.Width, r.Height
	if rx <= 0 || ry <= 0 {
		return fmt.Sprintf("M%g %gh%gv%gh%gz", x, y, w, h, -w)
	}
	return fmt.Sprintf("M%[1]g %[2]gh%[3]ga%[5]g %[6]g 0 0 1 %[5]g %[6]gv%[4]ga%[5]g %[6]g 0 0 1 %[7]g %[6]gh%[8]ga%[5]g %[6]g 0 0 1 %[7]g %[9]gv%[10]ga%[5]g %[6]g 0 0 1 %[5]g %[9]gz",
		x+rx, y, w-2*rx, h-2*ry, rx, ry, -rx, -(w - 2*rx), -ry, -(h - 2*ry))
}

// outlineKey is all that a shape's outline depends on.
type outlineKey struct {
	e    *etree.Element
	m    matrix
	view [2]float64
	em   float64
}

// maxOutlines bounds the outlines that are remembered, in bytes of path data.
const maxOutlines = 64 << 20

// outlineOf gives a shape's outline on the page; nil for nothing. What is wrong in its path data ends it there (SVG 2,
// error handling in path data).
func (i *importer) outlineOf(e *etree.Element, at *scope) *outline {
	key := outlineKey{e, at.m, at.view, fontSize(at.style)}
	if o, known := i.outlines[key]; known {
		return o
	}
	d, ok := i.pathOf(e, at)
	if !ok {
		return nil
	}
	o, err := readPath(d, at.m)
	if err != nil {
		i.warn(e, "%v; it is drawn as far as that", err)
	}
	i.work += o.d.Len() / 64
	if o.empty {
		o = nil
	}
	if i.outlined += len(d); i.outlined < maxOutlines {
		i.outlines[key] = o
	}
	return o
}

// shape makes a layer of a shape: a box where it is one, else a small drawing, else a picture.
func (i *importer) shape(e *etree.Element, parent, at *scope) *Layer {
	fill := i.paint(e, at.style, "fill", "black")
	stroke, even := i.strokeOf(e, at)
	if e.Tag == "line" {
		fill = ink{}
	}
	if i.marked(e, at) {
		return i.picture(e, parent, at)
	}
	if fill.none() && stroke == nil && e.Tag != "rect" { // a rectangle that is not seen may still say where others stand
		return nil
	}
	if !even || stroke != nil && stroke.server != nil {
		if i.outlineOf(e, at) == nil {
			return nil
		}
		return i.picture(e, parent, at)
	}
	switch e.Tag {
	case "rect":
		if r, rx, ry := i.rectOf(e, at); r.Width > 0 && r.Height > 0 && (rx == ry || rx == 0) {
			if l := i.box(at, fill, stroke, r, rx); l != nil {
				return l
			}
		}
	case "circle", "ellipse":
		if cx, cy, rx, ry := i.ellipseOf(e, at); rx == ry && rx > 0 {
			if l := i.box(at, fill, stroke, Rect{cx - rx, cy - ry, 2 * rx, 2 * ry}, rx); l != nil {
				return l
			}
		}
	case "line":
		if l := i.level(e, at, stroke); l != nil {
			return l
		}
	}
	o := i.outlineOf(e, at)
	if o == nil {
		return nil
	}
	if fill.server != nil {
		if b := o.bounds(); b.Width > 0 && b.Height > 0 || fill.server.SelectAttrValue("gradientUnits", "") == "userSpaceOnUse" {
			return i.picture(e, parent, at)
		}
		fill = ink{} // a box of no size has no gradient (SVG 2, object bounding box units)
	}
	return i.vector(e, at, o, fill, stroke)
}

// marked tells whether a shape has markers at its points (SVG 2, markers).
func (i *importer) marked(e *etree.Element, at *scope) bool {
	if e.Tag == "rect" || e.Tag == "circle" || e.Tag == "ellipse" {
		return false
	}
	for _, p := range []string{"marker-start", "marker-mid", "marker-end"} {
		if m := i.referred(at.style[p]); m != nil && m.Tag == "marker" {
			return true
		}
	}
	return false
}

// box makes a box of a rectangle, turned where the transform turns it; nil where a box is painted otherwise.
func (i *importer) box(at *scope, fill ink, stroke *svgStroke, r Rect, radius float64) *Layer {
	degrees, turned := at.m.turned()
	square := at.m.square()
	if !square && (!turned || fill.server != nil) {
		return nil
	}
	if !at.m.even() && (radius > 0 || stroke != nil) {
		return nil
	}
	l := &Layer{Kind: Box, Fill: fill.color}
	b := at.m.rect(r)
	if !square {
		s := at.m.scale()
		cx, cy := at.m.at(r.X+r.Width/2, r.Y+r.Height/2)
		b = Rect{cx - r.Width*s/2, cy - r.Height*s/2, r.Width * s, r.Height * s}
		if radius*2 < min(r.Width, r.Height) || r.Width != r.Height {
			l.Rotation = tidy(degrees)
		}
	}
	radius *= at.m.scale()
	inner := b
	if stroke != nil {
		// A border lies over the fill, which reaches under all of it; a stroke over half of it.
		thick := stroke.width > min(b.Width, b.Height)
		under := !fill.none() && !stroke.opaqueWhole()
		if thick || under || len(stroke.dash) > 0 || strokedFirst(at.style) && !fill.none() || stroke.join == "bevel" && radius == 0 || stroke.join == "" && stroke.miter < math.Sqrt2 && radius == 0 {
			return nil
		}
		half := stroke.width / 2
		inner = Rect{b.X + half, b.Y + half, b.Width - stroke.width, b.Height - stroke.width}
		b = Rect{b.X - half, b.Y - half, b.Width + stroke.width, b.Height + stroke.width}
		if radius > 0 || stroke.join == "round" {
			radius += half
		}
		l.Stroke = &Stroke{Color: stroke.color, Width: stroke.width}
	}
	if fill.server != nil {
		g, ok := i.fillOf(fill, at, r, inner)
		if !ok {
			return nil
		}
		l.Fills = []Fill{{Gradient: g}}
	}
	l.Bounds = tidyRect(b)
	if radius > 0 {
		l.Radius = []float64{tidy(radius)}
	}
	return l
}

// level makes a thin box of a line along one of the page's axes; nil for another.
func (i *importer) level(e *etree.Element, at *scope, s *svgStroke) *Layer {
	x1, y1 := at.m.at(i.geometry(e, at, "x1", 0), i.geometry(e, at, "y1", 0))
	x2, y2 := at.m.at(i.geometry(e, at, "x2", 0), i.geometry(e, at, "y2", 0))
	upright, flat := math.Abs(x1-x2) < 1e-3, math.Abs(y1-y2) < 1e-3
	if s == nil || upright == flat || len(s.dash) > 0 {
		return nil
	}
	b := Rect{min(x1, x2), min(y1, y2), math.Abs(x2 - x1), math.Abs(y2 - y1)}
	half, end := s.width/2, 0.0
	if s.cap != "" {
		end = half
	}
	if upright {
		b = Rect{b.X - half, b.Y - end, s.width, b.Height + 2*end}
	} else {
		b = Rect{b.X - end, b.Y - half, b.Width + 2*end, s.width}
	}
	l := &Layer{Kind: Box, Fill: s.color, Bounds: tidyRect(b)}
	if s.cap == "round" {
		l.Radius = []float64{tidy(half)}
	}
	return l
}

// vector makes a small drawing of an outline.
func (i *importer) vector(e *etree.Element, at *scope, o *outline, fill ink, s *svgStroke) *Layer {
	d := o.d.String()
	if len(d) > maxDrawn {
		i.warn(e, "its path is longer than %d bytes once transformed; it is left out", maxDrawn)
		return nil
	}
	b := o.bounds()
	path := Path{D: d, Rule: known(at.style["fill-rule"], "evenodd"), Fill: "none"}
	l := &Layer{Kind: Vector, Fill: fill.color}
	if !fill.none() && !noArea(d) {
		path.Fill = ""
	}
	if s != nil {
		path.Stroke = s.onPath()
		b = s.reachOf(o)
	}
	if path.Fill == "none" && s == nil {
		return nil // nothing is seen of it
	}
	paths := []Path{path}
	if path.Fill == "" && s != nil && strokedFirst(at.style) {
		under, over := path, path
		under.Fill, under.Rule, over.Stroke = "none", "", PathStroke{}
		paths = []Path{under, over}
	}
	l.Bounds = tidyRect(b)
	if l.Bounds.Width == 0 || l.Bounds.Height == 0 {
		return nil
	}
	l.Vector = &VectorContent{ViewBox: [4]float64{l.Bounds.X, l.Bounds.Y, l.Bounds.Width, l.Bounds.Height}, Paths: paths}
	return l
}

// strokedFirst tells whether a fill lies over its stroke (SVG 2, paint-order).
func strokedFirst(style map[string]string) bool {
	order := style["paint-order"]
	return strings.HasPrefix(order, "stroke") || strings.HasPrefix(order, "markers stroke")
}

// noArea tells whether an outline is made of single straight lines, which fill nothing.
func noArea(d string) bool {
	if strings.ContainsAny(d, "C") {
		return false
	}
	for _, part := range strings.Split(d, "M") {
		if strings.Count(part, "L") > 1 {
			return false
		}
	}
	return true
}

// known gives a keyword that is one of the options; empty for others.
func known(v string, options ...string) string {
	if slices.Contains(options, v) {
		return v
	}
	return ""
}

// shapeBox is the box of what an element fills, in the units of the scope, without strokes (SVG 2, bounding boxes); false where it
// fills nothing.
func (i *importer) shapeBox(e *etree.Element, at scope) (Rect, bool) {
	return i.around(e, at, false)
}
