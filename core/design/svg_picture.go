package design

import (
	"math"
	"net/url"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// Bounds of pictures that keep what layers cannot say: of one, as the design document has it, and of all of a file, in
// bytes; and how many there may be.
const (
	maxPicture  = 2 << 20
	maxPictures = 24 << 20
	mostAssets  = 2000
)

// picture makes a picture of an element and all it holds, as SVG that runs nothing and reaches for nothing outside: the
// form of what has no layer of its own kind, such as a path that is filled with a pattern.
func (i *importer) picture(e *etree.Element, parent, at *scope) *Layer {
	if i.carried > maxPictures || len(i.pictures) >= mostAssets {
		i.warn(i.root, "it holds more of what layers cannot say than a document carries: the rest is left out")
		return nil
	}
	b, ok := i.around(e, *at, true)
	if ok {
		b = cut(b, i.edge())
	}
	if !ok || b.Width <= 0 || b.Height <= 0 {
		return nil
	}
	left, top := math.Floor(b.X+1e-3), math.Floor(b.Y+1e-3) // whole px: browsers round the size of a picture
	b = Rect{left, top, max(1, math.Ceil(b.X+b.Width-left-1e-3)), max(1, math.Ceil(b.Y+b.Height-top-1e-3))}
	c := &cleaner{importer: i, inside: map[*etree.Element]bool{}, taken: map[*etree.Element]bool{}}
	c.mark(e)
	var body strings.Builder
	c.element(&body, e, true, 0)
	var out strings.Builder
	out.WriteString(`<svg xmlns="` + svgNamespace + `" width="` + short(b.Width) + `" height="` + short(b.Height) + `" viewBox="` + short(b.X) + " " + short(b.Y) + " " + short(b.Width) + " " + short(b.Height) + `">`)
	if len(c.wanted) > 0 {
		out.WriteString("<defs>")
		for len(c.wanted) > 0 { // what is wanted may want more
			next := c.wanted[0]
			c.wanted = c.wanted[1:]
			out.WriteString("<g" + styleAttributes(i.inheritedBy(next), svgInherited) + ">")
			c.element(&out, next, false, 0)
			out.WriteString("</g>")
		}
		out.WriteString("</defs>")
	}
	out.WriteString(`<g transform="` + parent.m.text() + `">`)
	out.WriteString(`<svg overflow="visible" width="` + exact(parent.view[0]) + `" height="` + exact(parent.view[1]) + `"` + styleAttributes(parent.style, svgInherited) + ">")
	out.WriteString(body.String())
	out.WriteString("</svg></g></svg>")
	text := out.String()
	source := "data:image/svg+xml," + url.PathEscape(text)
	l := i.asset(e, source, b.Width, b.Height)
	if l == nil {
		return nil
	}
	l.Bounds, l.Flatten, l.Blend = b, "svg", i.blend(at.style)
	i.pictured[l] = true
	return l
}

// exact writes a number of a transform with all that can be seen of it.
func exact(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(formatFixed(v), "0"), ".")
}

// text writes a transform.
func (m matrix) text() string {
	return "matrix(" + strings.Join([]string{exact(m.a), exact(m.b), exact(m.c), exact(m.d), exact(m.e), exact(m.f)}, " ") + ")"
}

// asset makes an image layer of a picture that the document carries; nil, told, where that is too much.
func (i *importer) asset(e *etree.Element, source string, width, height float64) *Layer {
	id, known := i.assets[source]
	if !known {
		if len(source) > maxPicture || i.carried+len(source) > maxPictures || len(i.pictures) >= mostAssets {
			i.warn(e, "its picture is too large, or one too many, for a document; it is left out")
			return nil
		}
		id = i.id("picture")
		i.assets[source] = id
		i.carried += len(source)
		i.pictures = append(i.pictures, Asset{ID: id, Source: source, Width: max(width, 0.001), Height: max(height, 0.001)})
	}
	return &Layer{Kind: Image, Alt: labelOf(e), Image: &ImageContent{Asset: id, Fit: "fill"}}
}

// edge is the page: what lies beyond is not kept in a picture.
func (i *importer) edge() Rect {
	if i.within > 0 { // a symbol is read for itself, and may stand anywhere
		return Rect{-1e5, -1e5, 2e5, 2e5}
	}
	return Rect{0, 0, i.page[0], i.page[1]}
}

// cleaner writes elements again with no more than what draws them.
type cleaner struct {
	*importer
	inside map[*etree.Element]bool // of the element that is written
	taken  map[*etree.Element]bool // wanted before
	wanted []*etree.Element        // referred to from within, in their order
}

func (c *cleaner) mark(e *etree.Element) {
	c.inside[e] = true
	for _, child := range e.ChildElements() {
		c.mark(child)
	}
}

// drawn are the elements that a picture may hold, with the attributes that draw them beside those of style.
var drawn = func() map[string]map[string]bool {
	out := map[string]map[string]bool{}
	for tag, attributes := range map[string]string{
		"g": "", "a": "", "switch": "", "defs": "", "symbol": "viewBox preserveAspectRatio refX refY", "svg": "viewBox preserveAspectRatio",
		"path": "pathLength", "rect": "pathLength", "circle": "pathLength", "ellipse": "pathLength", "line": "x1 y1 x2 y2 pathLength", "polyline": "points pathLength", "polygon": "points pathLength",
		"use": "", "image": "preserveAspectRatio", "text": "x y dx dy rotate textLength lengthAdjust", "tspan": "x y dx dy rotate textLength lengthAdjust",
		"textPath":       "startOffset method spacing side textLength lengthAdjust",
		"linearGradient": "gradientUnits gradientTransform x1 y1 x2 y2 spreadMethod", "radialGradient": "gradientUnits gradientTransform cx cy r fx fy fr spreadMethod", "stop": "offset",
		"pattern":  "patternUnits patternContentUnits patternTransform x y width height viewBox preserveAspectRatio",
		"clipPath": "clipPathUnits", "mask": "maskUnits maskContentUnits x y width height",
		"marker":  "viewBox preserveAspectRatio refX refY markerUnits markerWidth markerHeight orient",
		"filter":  "filterUnits primitiveUnits x y width height",
		"feBlend": "in in2 mode", "feColorMatrix": "in type values", "feComponentTransfer": "in", "feFuncR": transfers, "feFuncG": transfers, "feFuncB": transfers, "feFuncA": transfers,
		"feComposite": "in in2 operator k1 k2 k3 k4", "feConvolveMatrix": "in order kernelMatrix divisor bias targetX targetY edgeMode kernelUnitLength preserveAlpha",
		"feDiffuseLighting": "in surfaceScale diffuseConstant kernelUnitLength", "feDisplacementMap": "in in2 scale xChannelSelector yChannelSelector", "feDistantLight": "azimuth elevation",
		"feDropShadow": "in dx dy stdDeviation", "feFlood": "", "feGaussianBlur": "in stdDeviation edgeMode", "feMerge": "", "feMergeNode": "in", "feMorphology": "in operator radius", "feOffset": "in dx dy",
		"fePointLight": "x y z", "feSpecularLighting": "in surfaceScale specularConstant specularExponent kernelUnitLength", "feSpotLight": "x y z pointsAtX pointsAtY pointsAtZ specularExponent limitingConeAngle",
		"feTile": "in", "feTurbulence": "baseFrequency numOctaves seed stitchTiles type",
	} {
		out[tag] = words(attributes)
		if strings.HasPrefix(tag, "fe") {
			for name := range words("x y width height result") {
				out[tag][name] = true
			}
		}
	}
	return out
}()

const transfers = "type tableValues slope intercept amplitude exponent offset"

// plainGeometry are properties of style that are written as attributes, in this order.
var plainGeometry = strings.Fields("x y width height cx cy r rx ry")

func (c *cleaner) element(b *strings.Builder, e *etree.Element, first bool, depth int) {
	attributes, known := drawn[e.Tag]
	if !known || !c.ofSVG(e) || depth > maxSVGDepth || b.Len() > maxPicture {
		return
	}
	b.WriteString("<" + e.Tag)
	write := func(name, value string) { b.WriteString(" " + name + `="` + esc(value) + `"`) }
	if id := e.SelectAttrValue("id", ""); id != "" {
		write("id", id)
	}
	style := c.keptStyle(e, first)
	for _, name := range plainGeometry {
		if v := style[name]; v != "" && !attributes[name] { // else it is no property of this element's style
			write(name, v)
		}
		delete(style, name)
	}
	if d := style["d"]; d != "" {
		if inner, is := cutFunction(d, "path"); is {
			d = inner
		}
		write("d", d)
		delete(style, "d")
	}
	if m, err := readTransform(style["transform"]); err == nil && m != identity && !strings.Contains(style["transform"], "%") {
		write("transform", m.text()) // as an attribute, which reads what CSS does not
		delete(style, "transform")
	}
	for _, a := range e.Attr {
		if a.Space == "" && attributes[a.Key] {
			write(a.Key, a.Value)
		}
	}
	if href := hrefOf(e); href != "" {
		c.href(b, e, href)
	}
	b.WriteString(styleAttributes(style, nil) + ">")
	for _, child := range e.Child {
		switch child := child.(type) {
		case *etree.CharData:
			if e.Tag == "text" || e.Tag == "tspan" || e.Tag == "textPath" || e.Tag == "a" {
				b.WriteString(esc(child.Data))
			}
		case *etree.Element:
			c.element(b, child, false, depth+1)
		}
	}
	b.WriteString("</" + e.Tag + ">")
}

// keptStyle gives what an element says of its style, without what reaches outside; how the first blends is its layer's affair.
func (c *cleaner) keptStyle(e *etree.Element, first bool) map[string]string {
	style := map[string]string{}
	for p, v := range c.declared(e) {
		if strings.Contains(v, "var(") {
			v = replaceVariables(v, c.styleOf(e, c.inheritedBy(e)))
		}
		if !(first && p == "mix-blend-mode") && !strings.HasPrefix(p, "--") && !strings.ContainsAny(v, "<>{};@\\") && innerOnly(v) {
			style[p] = v
		}
	}
	names := make([]string, 0, len(style))
	for p := range style {
		names = append(names, p)
	}
	slices.Sort(names)
	for _, p := range names { // in one order, so that one file gives one picture
		c.wantReferred(style[p])
	}
	return style
}

// loudElements are elements that show something, or make it move, and are no part of a picture.
var loudElements = map[string]string{
	"script": "scripts are never kept", "foreignObject": "what is not SVG is left out",
	"animate": "what moves is drawn as it would stand still", "animateTransform": "what moves is drawn as it would stand still", "animateMotion": "what moves is drawn as it would stand still", "set": "what moves is drawn as it would stand still",
	"video": "it is left out", "audio": "it is left out", "iframe": "it is left out", "canvas": "it is left out",
}

func (i *importer) loud(e *etree.Element) {
	if what := loudElements[e.Tag]; what != "" {
		i.warn(e, "%s", what)
	}
}

// href writes what an element refers to: another of the file, or a picture that it carries itself.
func (c *cleaner) href(b *strings.Builder, e *etree.Element, href string) {
	switch {
	case e.Tag == "image":
		if source, _, _, ok := c.carriedPicture(e, href); ok {
			b.WriteString(` href="` + esc(source) + `"`)
		}
	case strings.HasPrefix(href, "#"):
		if e.Tag != "a" {
			c.want(c.byID[href[1:]])
			b.WriteString(` href="` + esc(href) + `"`)
		}
	case e.Tag != "a":
		c.warn(e, "what it uses, %s, is outside of the file, and never fetched", clean(href))
	}
}

func (c *cleaner) want(e *etree.Element) {
	if e == nil || c.inside[e] || c.taken[e] {
		return
	}
	for above := e.Parent(); above != nil; above = above.Parent() {
		if c.taken[above] { // it comes with what it stands in
			return
		}
	}
	c.taken[e] = true
	c.wanted = append(c.wanted, e)
}

// innerOnly tells whether a value reaches for nothing outside of the file.
func innerOnly(value string) bool {
	lower := strings.ToLower(value)
	for rest := lower; ; {
		at := strings.Index(rest, "url(")
		if at < 0 {
			break
		}
		rest = rest[at+4:]
		if !strings.HasPrefix(strings.TrimLeft(rest, ` "'`), "#") {
			return false
		}
	}
	return !strings.Contains(lower, "image(") && !strings.Contains(lower, "image-set") && !strings.Contains(lower, "expression")
}

// wantReferred has what a value refers to come along.
func (c *cleaner) wantReferred(value string) {
	for rest := value; ; {
		at := strings.Index(rest, "#")
		if at < 0 {
			return
		}
		rest = rest[at+1:]
		id, _, _ := strings.Cut(rest, ")")
		c.want(c.byID[strings.Trim(trim(id), `"'`)])
	}
}

// onlyInStyle are the properties that have no attribute of their own (SVG 2, presentation attributes).
var onlyInStyle = words("mix-blend-mode isolation white-space text-transform line-height background-color")

// styleAttributes writes a style, of some properties or all of them, as attributes: those take numbers without units, as
// files have them.
func styleAttributes(style map[string]string, of map[string]bool) string {
	var names []string
	for p, v := range style {
		if v != "" && (of == nil || of[p]) && !strings.ContainsAny(v, "<>{};@\\") {
			names = append(names, p)
		}
	}
	slices.Sort(names)
	var b strings.Builder
	var inStyle []string
	for _, p := range names {
		if onlyInStyle[p] {
			inStyle = append(inStyle, p+":"+style[p])
		} else {
			b.WriteString(" " + p + `="` + esc(style[p]) + `"`)
		}
	}
	if len(inStyle) > 0 {
		b.WriteString(` style="` + esc(strings.Join(inStyle, ";")) + `"`)
	}
	return b.String()
}
