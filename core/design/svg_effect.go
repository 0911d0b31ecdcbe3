package design

import (
	"cmp"
	"math"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/color"
)

// affected makes an element's layer with what cuts it off or shades it: clips and masks that are boxes, and shadows of
// boxes, as layers have them; others as a picture, but where that would take texts along.
func (i *importer) affected(e *etree.Element, parent, at *scope) *Layer {
	clip, how := i.cutOf(e, at)
	switch how {
	case cutAll:
		return nil
	case cutOtherwise:
		if !i.keepsWords(e, "it shows what its clip or mask should cut off") {
			return i.picture(e, parent, at)
		}
	}
	l := i.plain(e, parent, at)
	if l == nil {
		return nil
	}
	if v := at.style["filter"]; v != "" && v != "none" && !i.pictured[l] {
		if shadows, ok := i.shadowsOf(e, v, at); !ok || !cast(l, shadows) {
			if !i.keepsWords(e, "its filter is not kept") {
				return i.picture(e, parent, at)
			}
		}
	}
	if clip != nil {
		if r, ok := i.around(e, unclipped(*at), true); !ok || clip.radius > 0 || !within(r, clip.box) {
			blend := l.Blend
			l.Blend = ""
			l = clipped([]*Layer{l}, clip.box, clip.radius, i)
			l.Blend = blend
		}
	}
	return l
}

// keepsWords tells, and says, that an element holds words: those stay words, and it becomes no picture.
func (i *importer) keepsWords(e *etree.Element, otherwise string) bool {
	if !i.holdsWords(e, 0) {
		return false
	}
	i.warn(e, "%s: it holds words, which no picture should", otherwise)
	return true
}

func (i *importer) holdsWords(e *etree.Element, depth int) bool {
	if depth > maxSVGDepth || e == nil {
		return false
	}
	if i.work++; i.work > maxSVGWork {
		return false
	}
	switch e.Tag {
	case "text":
		return true
	case "use":
		if target := i.byID[strings.TrimPrefix(hrefOf(e), "#")]; target != nil && !i.inUse(target) {
			i.using = append(i.using, target)
			defer func() { i.using = i.using[:len(i.using)-1] }()
			return i.holdsWords(target, depth+1)
		}
	}
	for _, c := range e.ChildElements() {
		if !silent[c.Tag] && i.holdsWords(c, depth+1) {
			return true
		}
	}
	return false
}

// clipBox is a clip or mask that leaves what lies in a box, on the page.
type clipBox struct {
	box    Rect
	radius float64
}

// What a clip or mask does.
const (
	cutNothing   = iota
	cutBox       // leaves a box
	cutAll       // leaves nothing
	cutOtherwise // leaves what no layer can say
)

// cutOf reads an element's clip path and mask.
func (i *importer) cutOf(e *etree.Element, at *scope) (*clipBox, int) {
	clip, how := i.oneCut(e, at, "clip-path", "clipPath")
	mask, maskHow := i.oneCut(e, at, "mask", "mask")
	switch {
	case how == cutAll || maskHow == cutAll:
		return nil, cutAll
	case how == cutOtherwise || maskHow == cutOtherwise:
		return nil, cutOtherwise
	case how == cutNothing:
		return mask, maskHow
	case maskHow == cutNothing:
		return clip, how
	}
	if clip.radius > 0 || mask.radius > 0 {
		return nil, cutOtherwise
	}
	return &clipBox{box: cut(clip.box, mask.box)}, cutBox
}

func (i *importer) oneCut(e *etree.Element, at *scope, property, tag string) (*clipBox, int) {
	v := at.style[property]
	if v == "" || v == "none" {
		return nil, cutNothing
	}
	if !strings.HasPrefix(v, "url(") {
		return nil, cutOtherwise
	}
	of := i.referred(v)
	if of == nil || of.Tag != tag { // nothing to be cut off by (CSS Masking 1, an invalid reference)
		return nil, cutNothing
	}
	held := i.shownChildren(of)
	if len(held) == 0 {
		return nil, cutAll
	}
	units := "clipPathUnits"
	if tag == "mask" {
		units = "maskContentUnits"
	}
	inner, ok := i.unitScope(of, units, e, at)
	if !ok || len(held) != 1 || held[0].Tag == "use" || !shapes[held[0].Tag] {
		return nil, cutOtherwise
	}
	shape := i.enter(held[0], &inner)
	for _, p := range []string{"clip-path", "mask", "filter"} {
		if said := shape.style[p]; said != "" && said != "none" {
			return nil, cutOtherwise
		}
		if said := inner.style[p]; said != "" && said != "none" {
			return nil, cutOtherwise
		}
	}
	if shape.style["display"] == "none" || invisible(shape.style) {
		return nil, cutAll
	}
	box, radius, ok := i.boxOf(held[0], &shape)
	if !ok {
		return nil, cutOtherwise
	}
	if tag == "mask" {
		if !i.letsAllThrough(held[0], &shape, &inner) {
			return nil, cutOtherwise
		}
		own := *at
		own.m = identity
		if around, some := i.around(e, own, false); some && at.m.square() {
			if region := at.m.rect(i.regionOf(of, at, around, "maskUnits", -0.1, 1.2)); !within(box, region) {
				if radius > 0 {
					return nil, cutOtherwise
				}
				box = cut(box, region)
			}
		}
	}
	return &clipBox{box, radius}, cutBox
}

// boxOf gives the box that a shape fills, and the radius of its corners; false for another form.
func (i *importer) boxOf(e *etree.Element, at *scope) (Rect, float64, bool) {
	switch e.Tag {
	case "circle", "ellipse":
		cx, cy, rx, ry := i.ellipseOf(e, at)
		if rx != ry || rx <= 0 || !at.m.even() {
			return Rect{}, 0, false
		}
		x, y := at.m.at(cx, cy)
		r := rx * at.m.scale()
		return Rect{x - r, y - r, 2 * r, 2 * r}, r, true
	case "rect":
		r, rx, ry := i.rectOf(e, at)
		if !at.m.square() || rx != ry || rx > 0 && !at.m.even() || r.Width <= 0 || r.Height <= 0 {
			return Rect{}, 0, false
		}
		return at.m.rect(r), rx * at.m.scale(), true
	}
	o := i.outlineOf(e, at)
	if o == nil {
		return Rect{}, 0, false
	}
	r, ok := rectangle(o.d.String())
	return r, 0, ok
}

// letsAllThrough tells whether the shape of a mask leaves what it covers as it is: it is white, or opaque where the mask
// goes by that (CSS Masking 1, mask-type).
func (i *importer) letsAllThrough(e *etree.Element, at, of *scope) bool {
	fill := i.paint(e, at.style, "fill", "black")
	stroke, _ := i.strokeOf(e, at)
	if !fill.opaqueWhole() || stroke != nil || fraction(at.style["opacity"]) < 1 || fraction(of.style["opacity"]) < 1 {
		return false
	}
	if of.style["mask-type"] == "alpha" {
		return true
	}
	c, err := color.Parse(fill.color)
	return err == nil && c.Luminance() > 0.999
}

// unclipped is a scope whose element is not cut off.
func unclipped(at scope) scope {
	style := make(map[string]string, len(at.style))
	for p, v := range at.style {
		if p != "clip-path" && p != "mask" {
			style[p] = v
		}
	}
	at.style = style
	return at
}

// cast gives the box of a layer shadows: the layer itself, or the one below all that a group holds; false where none is.
func cast(l *Layer, shadows []Shadow) bool {
	if len(shadows) == 0 {
		return true
	}
	for l.Kind == Group && len(l.Children) > 0 {
		if l.Opacity != nil || l.Clip {
			return false
		}
		first := l.Children[0]
		for _, c := range l.Children[1:] {
			if !c.Hidden && !within(c.Bounds, first.Bounds) {
				return false
			}
		}
		l = first
	}
	solid := opaque(l.Fill)
	for _, f := range l.Fills {
		if f.Gradient != nil && !solid {
			solid = true
			for _, s := range f.Gradient.Stops {
				solid = solid && opaque(s.Color)
			}
		}
	}
	if l.Kind != Box || !solid || l.Hidden || l.Opacity != nil || l.Rotation != 0 || len(l.Shadows)+len(shadows) > maxShadows {
		return false
	}
	l.Shadows = append(l.Shadows, shadows...)
	return true
}

// maxShadows bounds the shadows of one layer, as the design document does.
const maxShadows = 8

// passed is what a filter's step gives: the element itself, or shadows under it, the lowest first.
type passed struct {
	graphic bool // the element lies on top
	shadows []madeShadow
	flood   string // a colour everywhere
}

// madeShadow is one shadow in the making, in user units.
type madeShadow struct {
	dx, dy, blur, spread float64
	color                string
}

// shadowsOf reads a filter that does nothing but cast shadows, the first on top; false for any other.
func (i *importer) shadowsOf(e *etree.Element, value string, at *scope) ([]Shadow, bool) {
	degrees, turned := at.m.turned()
	if !turned || math.Abs(degrees) > 1e-6 {
		return nil, false
	}
	var result passed
	if f := i.referred(value); f != nil {
		if f.Tag != "filter" {
			return nil, false
		}
		own := *at
		own.m = identity
		box, ok := i.around(e, own, false)
		if !ok || f.SelectAttrValue("primitiveUnits", "") == "objectBoundingBox" {
			return nil, false
		}
		if result, ok = i.filtered(f); !ok || !result.graphic {
			return nil, false
		}
		region := i.regionOf(f, at, box, "filterUnits", -0.1, 1.2)
		for _, s := range result.shadows {
			far := 2*s.blur + s.spread
			if !within(Rect{box.X + s.dx - far, box.Y + s.dy - far, box.Width + 2*far, box.Height + 2*far}, grown(region, 0.5)) {
				return nil, false
			}
		}
	} else if strings.HasPrefix(value, "url(") {
		return nil, !strings.Contains(value, " ") // a reference to nothing does nothing
	} else if s, ok := i.dropShadow(e, value, at); ok {
		result = passed{true, []madeShadow{s}, ""}
	} else {
		return nil, false
	}
	scale := at.m.scale()
	var out []Shadow
	for k := len(result.shadows) - 1; k >= 0; k-- {
		s := result.shadows[k]
		if c, err := color.Parse(s.color); err != nil || c.Alpha == 0 {
			continue
		}
		if !(max(math.Abs(s.dx), math.Abs(s.dy), 2*s.blur, math.Abs(s.spread))*scale <= farthest) {
			return nil, false
		}
		out = append(out, Shadow{X: tidy(s.dx * scale), Y: tidy(s.dy * scale), Blur: tidy(2 * s.blur * scale), Spread: tidy(s.spread * scale), Color: s.color})
	}
	return out, true
}

// dropShadow reads CSS's filter function of one shadow (Filter Effects 1, drop-shadow).
func (i *importer) dropShadow(e *etree.Element, value string, at *scope) (madeShadow, bool) {
	rest, ok := strings.CutPrefix(value, "drop-shadow(")
	if !ok || !strings.HasSuffix(rest, ")") {
		return madeShadow{}, false
	}
	rest = strings.TrimSuffix(rest, ")")
	depth := 0
	for _, c := range rest {
		switch c {
		case '(':
			depth++
		case ')':
			depth--
		}
		if depth < 0 { // a function after this one
			return madeShadow{}, false
		}
	}
	var n []float64
	var hue []string
	for _, word := range strings.Fields(rest) {
		if v, ok := i.lengthIn(word, fontSize(at.style), 0); ok && !strings.Contains(strings.Join(hue, ""), "(") || ok && strings.Contains(strings.Join(hue, ""), ")") {
			n = append(n, v)
		} else {
			hue = append(hue, word)
		}
	}
	if len(n) < 2 || len(n) > 3 {
		return madeShadow{}, false
	}
	c := strings.Join(hue, " ")
	if c == "" {
		c = "currentColor"
	}
	out := madeShadow{dx: n[0], dy: n[1], color: i.inColor(e, at.style, "filter", c, 1)}
	if len(n) == 3 {
		out.blur = n[2]
	}
	return out, out.color != ""
}

// filtered follows a filter's steps; false for one that does more than cast shadows (Filter Effects 1, 9).
func (i *importer) filtered(f *etree.Element) (passed, bool) {
	at := scope{style: i.styleOf(f, i.inheritedBy(f)), view: i.page}
	results := map[string]passed{"SourceGraphic": {graphic: true}, "SourceAlpha": {shadows: []madeShadow{{color: "#000000"}}}}
	last := results["SourceGraphic"]
	for _, p := range f.ChildElements() {
		if !i.ofSVG(p) || silent[p.Tag] {
			continue
		}
		result := func(name string) (passed, bool) {
			if name == "" {
				return last, true
			}
			one, ok := results[name]
			return one, ok
		}
		in, ok := result(p.SelectAttrValue("in", ""))
		if !ok {
			return passed{}, false
		}
		style := i.styleOf(p, at.style)
		out, ok := i.step(p, in, result, style)
		if !ok {
			return passed{}, false
		}
		if name := p.SelectAttrValue("result", ""); name != "" {
			results[name] = out
		}
		last = out
	}
	return last, true
}

// step carries out one step of a filter on what it is given; result finds what another has made.
func (i *importer) step(p *etree.Element, in passed, result func(name string) (passed, bool), style map[string]string) (passed, bool) {
	n := func(name string, otherwise float64) []float64 {
		v, err := readNumbers(p.SelectAttrValue(name, ""))
		if err != nil || len(v) == 0 {
			return []float64{otherwise}
		}
		return v
	}
	single := !in.graphic && in.flood == "" && len(in.shadows) == 1
	change := func(with func(s *madeShadow)) (passed, bool) {
		if !single {
			return passed{}, false
		}
		one := in.shadows[0]
		with(&one)
		return passed{shadows: []madeShadow{one}}, true
	}
	blurOf := func() (float64, bool) {
		v := n("stdDeviation", 0)
		return v[0], v[0] >= 0 && (len(v) == 1 || v[0] == v[1])
	}
	hue := func() string {
		return i.inColor(p, style, "flood-color", cmp.Or(style["flood-color"], "black"), fraction(style["flood-opacity"]))
	}
	switch p.Tag {
	case "feFlood":
		if c := hue(); c != "" {
			return passed{flood: c}, true
		}
		return passed{}, true // nothing
	case "feOffset":
		if in.graphic { // what is moved whole is its silhouette once it is coloured
			return passed{}, false
		}
		return change(func(s *madeShadow) { s.dx, s.dy = s.dx+n("dx", 0)[0], s.dy+n("dy", 0)[0] })
	case "feGaussianBlur":
		v, ok := blurOf()
		if !ok || in.graphic && v > 0 {
			return in, false
		}
		if v == 0 {
			return in, true
		}
		return change(func(s *madeShadow) { s.blur = math.Hypot(s.blur, v) })
	case "feMorphology":
		r := n("radius", 0)
		return change(func(s *madeShadow) {
			if p.SelectAttrValue("operator", "erode") == "dilate" {
				s.spread += r[0]
			} else {
				s.spread -= r[0]
			}
		})
	case "feColorMatrix":
		c, part, ok := colorOfMatrix(n("values", 0), style["color-interpolation-filters"] == "sRGB")
		if !ok || p.SelectAttrValue("type", "matrix") != "matrix" {
			return passed{}, false
		}
		return change(func(s *madeShadow) {
			was, _ := color.Parse(s.color)
			if part > 1 { // what is seen at all becomes whole
				part = 1
			}
			c.Alpha = min(1, was.Alpha*part)
			s.color = written(c)
		})
	case "feComposite":
		in2, ok := result(p.SelectAttrValue("in2", ""))
		switch operator := p.SelectAttrValue("operator", "over"); {
		case !ok:
			return passed{}, false
		case operator == "in" && in.flood != "" && !in2.graphic && len(in2.shadows) == 1 && in2.flood == "":
			one := in2.shadows[0]
			was, _ := color.Parse(one.color)
			one.color = faded(in.flood, was.Alpha)
			return passed{shadows: []madeShadow{one}}, true
		case operator == "out" && single && !in2.graphic && len(in2.shadows) == 1 && in2.shadows[0].blur == 0:
			return in, true // a box's shadow is not drawn under it in CSS, either
		case operator == "over":
			return over(in, in2)
		}
	case "feBlend":
		in2, ok := result(p.SelectAttrValue("in2", ""))
		if mode := p.SelectAttrValue("mode", "normal"); !ok || mode != "normal" {
			return passed{}, false
		}
		return over(in, in2)
	case "feMerge":
		out := passed{}
		for _, node := range p.SelectElements("feMergeNode") {
			one, ok := result(node.SelectAttrValue("in", ""))
			if !ok {
				return passed{}, false
			}
			if out, ok = over(one, out); !ok {
				return passed{}, false
			}
		}
		return out, true
	case "feDropShadow":
		v, ok := blurOf()
		c := hue()
		if !ok || !in.graphic || c == "" {
			return in, ok && in.graphic
		}
		in.shadows = append([]madeShadow{{dx: n("dx", 2)[0], dy: n("dy", 2)[0], blur: v, color: c}}, in.shadows...)
		return in, true
	}
	return passed{}, false
}

// over lays what is in one result over another; false where that is more than shadows under the element.
func over(top, under passed) (passed, bool) {
	if top.flood != "" || under.flood != "" || under.graphic && (top.graphic || len(top.shadows) > 0) || len(top.shadows)+len(under.shadows) > maxShadows {
		return passed{}, false
	}
	return passed{graphic: top.graphic || under.graphic, shadows: append(append([]madeShadow{}, under.shadows...), top.shadows...)}, true
}

// colorOfMatrix reads a colour matrix that gives everything one colour, as opaque as it was or less by a part.
func colorOfMatrix(v []float64, plain bool) (c color.Color, part float64, ok bool) {
	if len(v) != 20 {
		return c, 0, false
	}
	for row := range 3 {
		for column := range 4 {
			if v[5*row+column] != 0 {
				return c, 0, false
			}
		}
	}
	if v[15] != 0 || v[16] != 0 || v[17] != 0 || v[19] != 0 {
		return c, 0, false
	}
	c = color.Color{Space: color.SRGB, Alpha: 1}
	for row := range 3 {
		c.V[row] = min(1, max(0, v[5*row+4]))
		if !plain { // linear light (Filter Effects 1, color-interpolation-filters)
			if x := c.V[row]; x <= 0.0031308 {
				c.V[row] = 12.92 * x
			} else {
				c.V[row] = 1.055*math.Pow(x, 1/2.4) - 0.055
			}
		}
	}
	return c, v[18], v[18] >= 0
}
