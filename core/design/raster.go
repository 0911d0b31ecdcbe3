package design

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	_ "image/gif"
	_ "image/jpeg"
	"image/png"
	"math"
	"net/url"
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"cobrik/core/color"
)

// MaxPixels bounds a picture that is painted pixel by pixel.
const MaxPixels = 4 << 20

// PNG paints what Picture draws of a layer, so many pixels for each px, as a PNG file. It fails on words, on a
// picture that is too large, and on an image in it that is no PNG, JPEG or GIF.
func (d *Document) PNG(l *Layer, scale float64) ([]byte, error) {
	w, h := int(math.Ceil(l.Bounds.Width*scale)), int(math.Ceil(l.Bounds.Height*scale))
	if w <= 0 || h <= 0 || w > MaxPixels/h {
		return nil, fmt.Errorf("%d by %d pixels; at most %d are painted", w, h, MaxPixels)
	}
	doc := etree.NewDocument()
	if err := doc.ReadFromString(d.Picture(l)); err != nil {
		return nil, err
	}
	p := painter{w: w, h: h, byID: map[string]*etree.Element{}}
	p.index(doc.Root())
	out := newSheet(w, h)
	for _, e := range doc.Root().ChildElements() {
		p.element(out, e, matrix{a: scale, d: scale}, "")
	}
	if p.err != nil {
		return nil, p.err
	}
	var file bytes.Buffer
	err := png.Encode(&file, out.image())
	return file.Bytes(), err
}

// painter paints what pen writes: paths, groups, clips, gradients, blurs and images.
type painter struct {
	w, h int
	byID map[string]*etree.Element
	err  error // the first thing that it cannot paint

	open int // sheets of groups that are not laid down yet
	work int // pixels looked at
}

// Bounds of what a picture may ask for: sheets that lie open at once, and pixels looked at, each as often as
// a picture of MaxPixels has them.
const (
	maxOpen = 8
	maxWork = 400
)

// spend tells whether so many sheets more may be gone through.
func (p *painter) spend(sheets int) bool {
	p.work += sheets * p.w * p.h
	if p.open*p.w*p.h > maxOpen*MaxPixels || p.work > maxWork*MaxPixels {
		p.fail("it holds more than can be painted")
	}
	return p.err == nil
}

// nothing is a shade that leaves all as it is.
func nothing(int, int) (c [4]float32) { return c }

func (p *painter) index(e *etree.Element) {
	if id := e.SelectAttrValue("id", ""); id != "" {
		p.byID[id] = e
	}
	for _, c := range e.ChildElements() {
		p.index(c)
	}
}

func (p *painter) fail(format string, args ...any) {
	if p.err == nil {
		p.err = fmt.Errorf(format, args...)
	}
}

// element paints an element of a fill that is inherited, as a group of its own where it is clipped, less
// opaque or blended (Compositing 1, isolated groups).
func (p *painter) element(on *sheet, e *etree.Element, m matrix, fill string) {
	if p.err != nil {
		return
	}
	fill = e.SelectAttrValue("fill", fill)
	own, err := readTransform(e.SelectAttrValue("transform", ""))
	if err != nil {
		p.fail("%v", err)
		return
	}
	m = m.times(own)
	opacity := number(e, "opacity", 1)
	blend := strings.TrimPrefix(e.SelectAttrValue("style", ""), "mix-blend-mode:")
	clip := p.byID[referred(e.SelectAttrValue("clip-path", ""))]
	to := on
	if opacity < 1 || blend != "" || clip != nil {
		p.open++
		defer func() { p.open-- }()
		if !p.spend(2) {
			return
		}
		to = newSheet(p.w, p.h)
	}
	switch e.Tag {
	case "g":
		for _, c := range e.ChildElements() {
			p.element(to, c, m, fill)
		}
	case "path":
		p.path(to, e, m, fill)
	case "image":
		p.image(to, e, m)
	case "text":
		p.fail("it holds words: draw them as outlines")
	}
	if to == on {
		return
	}
	var mask []float32
	if clip != nil {
		mask = p.clip(clip, m)
	}
	on.blend(to, blend, float32(opacity), mask)
}

// referred gives the id in url(#id).
func referred(text string) string {
	return strings.TrimSuffix(strings.TrimPrefix(text, "url(#"), ")")
}

func number(e *etree.Element, name string, otherwise float64) float64 {
	if v, err := strconv.ParseFloat(e.SelectAttrValue(name, ""), 64); err == nil {
		return v
	}
	return otherwise
}

func (p *painter) clip(e *etree.Element, m matrix) []float32 {
	c := e.SelectElement("path")
	own, err := readTransform(c.SelectAttrValue("transform", ""))
	if err != nil {
		p.fail("%v", err)
	}
	return p.filled(c.SelectAttrValue("d", ""), m.times(own), c.SelectAttrValue("clip-rule", "") == "evenodd")
}

func (p *painter) filled(d string, m matrix, evenOdd bool) []float32 {
	if !p.spend(2) {
		return make([]float32, p.w*p.h)
	}
	out, err := coverage(d, m, p.w, p.h, evenOdd)
	if err != nil || out == nil {
		if err != nil {
			p.fail("%v", err)
		}
		return make([]float32, p.w*p.h)
	}
	return out
}

func (p *painter) path(on *sheet, e *etree.Element, m matrix, fill string) {
	d := e.SelectAttrValue("d", "")
	if fill != "none" {
		if fill == "" {
			fill = "#000000"
		}
		mask := p.filled(d, m, e.SelectAttrValue("fill-rule", "") == "evenodd")
		if filter := p.byID[referred(e.SelectAttrValue("filter", ""))]; filter != nil {
			deviation := number(filter.SelectElement("feGaussianBlur"), "stdDeviation", 0) * m.scale()
			if !p.spend(1 + int(min(deviation, 1e4))) {
				return
			}
			blurred(mask, p.w, p.h, deviation)
		}
		on.paint(mask, p.shade(fill, m))
	}
	if stroke := e.SelectAttrValue("stroke", "none"); stroke != "none" && p.spend(2) {
		mask, err := stroked(d, m, p.w, p.h, number(e, "stroke-width", 1), e.SelectAttrValue("stroke-linecap", "butt"), e.SelectAttrValue("stroke-linejoin", "miter"))
		if err != nil {
			p.fail("%v", err)
			return
		}
		on.paint(mask, p.shade(stroke, m))
	}
}

// shade is a paint: the colour of a pixel, premultiplied.
type shade func(x, y int) [4]float32

func (p *painter) shade(paint string, m matrix) shade {
	if g := p.byID[referred(paint)]; g != nil && strings.HasPrefix(paint, "url(") {
		return p.gradient(g, m)
	}
	c, err := premultiplied(paint)
	if err != nil {
		p.fail("%v", err)
	}
	return func(int, int) [4]float32 { return c }
}

func premultiplied(text string) ([4]float32, error) {
	c, err := color.Parse(text)
	if err != nil {
		return [4]float32{}, err
	}
	v := c.Mapped(color.SRGB)
	a := float32(v.Alpha)
	return [4]float32{float32(v.V[0]) * a, float32(v.V[1]) * a, float32(v.V[2]) * a, a}, nil
}

// gradient shades along a line or outwards; beyond its ends it is as at them (SVG 2, 14.2).
func (p *painter) gradient(g *etree.Element, m matrix) shade {
	own, err := readTransform(g.SelectAttrValue("gradientTransform", ""))
	if err != nil {
		p.fail("%v", err)
	}
	back := m.times(own).inverse()
	type stop struct {
		at float64
		c  [4]float32 // not premultiplied
	}
	var stops []stop
	for _, s := range g.SelectElements("stop") {
		c, err := premultiplied(s.SelectAttrValue("stop-color", ""))
		if err != nil {
			p.fail("%v", err)
			return nothing
		}
		for i := range 3 {
			if c[3] > 0 {
				c[i] /= c[3]
			}
		}
		at := number(s, "offset", 0)
		if n := len(stops); n > 0 {
			at = max(at, stops[n-1].at)
		}
		stops = append(stops, stop{at, c})
	}
	if len(stops) == 0 {
		return nothing
	}
	x1, y1 := number(g, "x1", 0), number(g, "y1", 0)
	dx, dy := number(g, "x2", 0)-x1, number(g, "y2", 0)-y1
	long := dx*dx + dy*dy
	return func(px, py int) [4]float32 {
		x, y := back.at(float64(px)+0.5, float64(py)+0.5)
		t := math.Hypot(x, y)
		if g.Tag == "linearGradient" {
			t = ((x-x1)*dx + (y-y1)*dy) / max(long, 1e-12)
		}
		c := stops[0].c
		for i, s := range stops {
			if t >= s.at {
				c = s.c
				if i+1 < len(stops) && t < stops[i+1].at {
					part := float32((t - s.at) / (stops[i+1].at - s.at))
					for k := range c {
						c[k] += (stops[i+1].c[k] - c[k]) * part
					}
				}
			}
		}
		return [4]float32{c[0] * c[3], c[1] * c[3], c[2] * c[3], c[3]}
	}
}

// image paints a picture over its box.
func (p *painter) image(on *sheet, e *etree.Element, m matrix) {
	kind, data, ok := strings.Cut(strings.TrimPrefix(e.SelectAttrValue("href", ""), "data:"), ",")
	text, err := url.PathUnescape(data)
	if !ok || err != nil {
		p.fail("an image that stands elsewhere")
		return
	}
	file := []byte(text)
	if strings.HasSuffix(kind, ";base64") {
		if file, err = base64.StdEncoding.DecodeString(text); err != nil {
			p.fail("an image that is not whole")
			return
		}
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil || size.Width <= 0 || size.Height <= 0 || size.Width > MaxPixels/size.Height {
		p.fail("an image of %s that is no PNG, JPEG or GIF of at most %d pixels", strings.TrimSuffix(kind, ";base64"), MaxPixels)
		return
	}
	source, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		p.fail("an image that is not whole")
		return
	}
	if !p.spend(3) {
		return
	}
	b := source.Bounds()
	to := m.times(matrix{a: number(e, "width", 0) / float64(b.Dx()), d: number(e, "height", 0) / float64(b.Dy()), e: number(e, "x", 0), f: number(e, "y", 0)})
	painted := image.NewRGBA(image.Rect(0, 0, p.w, p.h))
	draw.CatmullRom.Transform(painted, f64.Aff3{to.a, to.c, to.e, to.b, to.d, to.f}, source, b, draw.Src, nil)
	full := make([]float32, p.w*p.h)
	for i := range full {
		full[i] = 1
	}
	on.paint(full, func(x, y int) (c [4]float32) {
		at := painted.PixOffset(x, y)
		for k := range c {
			c[k] = float32(painted.Pix[at+k]) / 255
		}
		return c
	})
}
