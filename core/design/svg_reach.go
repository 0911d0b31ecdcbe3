package design

import (
	"math"
	"strings"

	"github.com/beevik/etree"
)

// around is the box around what an element shows, in the units of the scope's transform: without strokes, clips and filters
// as SVG 2 has a bounding box, or, painted, with all of them. False where it shows nothing.
func (i *importer) around(e *etree.Element, at scope, painted bool) (out Rect, ok bool) {
	if i.work++; i.work > maxSVGWork || at.depth > maxSVGDepth {
		return out, false
	}
	switch {
	case at.style["display"] == "none":
		return out, false
	case shapes[e.Tag]:
		out, ok = i.aroundShape(e, &at, painted)
	case e.Tag == "image":
		r := i.imageBox(e, &at)
		out, ok = at.m.rect(r), r.Width > 0 && r.Height > 0
	case e.Tag == "text":
		out, ok = i.aroundText(e, &at)
	case e.Tag == "use":
		if target := i.target(e); target != nil && !i.inUse(target) {
			i.using = append(i.using, target)
			place := i.useScope(e, at)
			own := i.enter(target, &place)
			if target.Tag == "symbol" || target.Tag == "svg" {
				box := i.usedBox(e, target, &place)
				out, ok = i.aroundChildren(target, i.innerScope(target, own, box), painted)
				if painted && ok && hidesOverflow(own.style) {
					out = cut(out, own.m.rect(box))
				}
			} else {
				out, ok = i.around(target, own, painted)
			}
			i.using = i.using[:len(i.using)-1]
		}
	case e.Tag == "svg":
		out, ok = i.aroundChildren(e, i.innerScope(e, at, i.svgBox(e, &at)), painted)
		if painted && ok && hidesOverflow(at.style) {
			out = cut(out, at.m.rect(i.svgBox(e, &at)))
		}
	case containers[e.Tag]:
		out, ok = i.aroundChildren(e, at, painted)
	}
	if painted && ok {
		out = i.aroundEffects(e, &at, out)
	}
	return out, ok && !math.IsInf(out.Width, 0)
}

func (i *importer) aroundChildren(e *etree.Element, at scope, painted bool) (out Rect, ok bool) {
	for _, c := range i.shownChildren(e) {
		if r, some := i.around(c, i.enter(c, &at), painted); some {
			if !ok {
				out, ok = r, true
			}
			out = union(out, r)
		}
	}
	return out, ok
}

func (i *importer) aroundShape(e *etree.Element, at *scope, painted bool) (Rect, bool) {
	o := i.outlineOf(e, at)
	if o == nil {
		return Rect{}, false
	}
	b := o.bounds()
	if !painted {
		return b, true
	}
	fill := i.paint(e, at.style, "fill", "black")
	s, even := i.strokeOf(e, at)
	marked := i.marked(e, at)
	if invisible(at.style) || fill.none() && s == nil && !marked {
		return b, false
	}
	if s != nil {
		if !even { // its pen is an ellipse: as wide as it is longest
			s.width *= max(math.Hypot(at.m.a, at.m.b), math.Hypot(at.m.c, at.m.d)) / max(at.m.scale(), 1e-9)
		}
		b = s.reachOf(o)
	}
	if !marked {
		return b, true
	}
	width := i.length(e, at, at.style["stroke-width"], at.diagonal(), 1)
	for _, p := range []string{"marker-start", "marker-mid", "marker-end"} {
		if marker := i.referred(at.style[p]); marker != nil && marker.Tag == "marker" {
			size := math.Hypot(i.length(marker, at, marker.SelectAttrValue("markerWidth", ""), at.view[0], 3), i.length(marker, at, marker.SelectAttrValue("markerHeight", ""), at.view[1], 3)) * 1.5
			if marker.SelectAttrValue("markerUnits", "") != "userSpaceOnUse" {
				size *= width
			}
			b = grown(b, size*at.m.scale())
		}
	}
	return b, true
}

// aroundEffects is what is left of a painted box by clips and masks, or covered by filters.
func (i *importer) aroundEffects(e *etree.Element, at *scope, out Rect) Rect {
	if v := at.style["filter"]; v != "" && v != "none" {
		if f := i.referred(v); f != nil && f.Tag == "filter" {
			own := *at
			own.m = identity
			if box, ok := i.around(e, own, false); ok {
				out = at.m.rect(i.regionOf(f, at, box, "filterUnits", -0.1, 1.2))
			}
		} else {
			out = grown(out, 64*at.m.scale())
		}
	}
	if clip := i.referred(at.style["clip-path"]); clip != nil && clip.Tag == "clipPath" {
		if box, ok := i.clipBounds(clip, e, at); ok {
			out = cut(out, box)
		}
	}
	if mask := i.referred(at.style["mask"]); mask != nil && mask.Tag == "mask" {
		own := *at
		own.m = identity
		if box, ok := i.around(e, own, false); ok {
			out = cut(out, at.m.rect(i.regionOf(mask, at, box, "maskUnits", -0.1, 1.2)))
		}
		if inner, ok := i.unitScope(mask, "maskContentUnits", e, at); ok {
			if box, ok := i.aroundChildren(mask, inner, true); ok {
				out = cut(out, box)
			}
		}
	}
	return out
}

// regionOf gives the box that a filter or mask works in, in user units (Filter Effects 1, filter region; CSS Masking 1,
// the mask element).
func (i *importer) regionOf(e *etree.Element, at *scope, box Rect, units string, from, size float64) Rect {
	relative := e.SelectAttrValue(units, "") != "userSpaceOnUse"
	n := func(name string, otherwise float64) float64 {
		text := e.SelectAttrValue(name, "")
		if relative {
			v, ok := i.lengthIn(text, 16, 1)
			if !ok {
				return otherwise
			}
			return v
		}
		if text == "" {
			text = short(otherwise*100) + "%"
		}
		whole := at.view[0]
		if name == "y" || name == "height" {
			whole = at.view[1]
		}
		return i.length(e, at, text, whole, 0)
	}
	r := Rect{n("x", from), n("y", from), n("width", size), n("height", size)}
	if relative {
		r = Rect{box.X + r.X*box.Width, box.Y + r.Y*box.Height, r.Width * box.Width, r.Height * box.Height}
	}
	return r
}

// clipBounds is the box of what a clip path leaves, on the page.
func (i *importer) clipBounds(clip, e *etree.Element, at *scope) (Rect, bool) {
	inner, ok := i.unitScope(clip, "clipPathUnits", e, at)
	if !ok {
		return Rect{}, false
	}
	return i.aroundChildren(clip, inner, false)
}

// unitScope is where the children of a clip path or mask stand, that is used by an element.
func (i *importer) unitScope(of *etree.Element, units string, e *etree.Element, at *scope) (scope, bool) {
	inner := *at
	inner.depth++
	inner.style = i.styleOf(of, i.inheritedBy(of))
	if of.Tag == "clipPath" {
		inner = i.transformed(of, inner)
	}
	if of.SelectAttrValue(units, "") == "objectBoundingBox" {
		own := *at
		own.m = identity
		box, ok := i.around(e, own, false)
		if !ok || box.Width == 0 || box.Height == 0 {
			return inner, false
		}
		inner.m = inner.m.times(matrix{box.Width, 0, 0, box.Height, box.X, box.Y})
	}
	return inner, true
}

func hidesOverflow(style map[string]string) bool {
	o := style["overflow"]
	return o != "visible" && o != "auto"
}

func union(a, b Rect) Rect {
	x, y := min(a.X, b.X), min(a.Y, b.Y)
	return Rect{x, y, max(a.X+a.Width, b.X+b.Width) - x, max(a.Y+a.Height, b.Y+b.Height) - y}
}

// cut is what two boxes share; of no size where that is nothing.
func cut(a, b Rect) Rect {
	x, y := max(a.X, b.X), max(a.Y, b.Y)
	return Rect{x, y, max(0, min(a.X+a.Width, b.X+b.Width)-x), max(0, min(a.Y+a.Height, b.Y+b.Height)-y)}
}

func grown(r Rect, by float64) Rect {
	return Rect{r.X - by, r.Y - by, r.Width + 2*by, r.Height + 2*by}
}

// within tells whether a box lies in another, a hundredth of a px aside.
func within(a, b Rect) bool {
	return a.X >= b.X-0.01 && a.Y >= b.Y-0.01 && a.X+a.Width <= b.X+b.Width+0.01 && a.Y+a.Height <= b.Y+b.Height+0.01
}

// rectangle reads an outline that is one rectangle along the axes, as a path or a polygon may draw one.
func rectangle(d string) (Rect, bool) {
	if strings.Count(d, "L") > 5 || strings.Contains(d, "C") || strings.Count(d, "M") != 1 {
		return Rect{}, false
	}
	all := lines(d, 1)
	if len(all) != 1 {
		return Rect{}, false
	}
	p := all[0].points
	if n := len(p); n == 5 && math.Hypot(p[0].x-p[4].x, p[0].y-p[4].y) < 1e-6 {
		p = p[:4]
	}
	if len(p) != 4 {
		return Rect{}, false
	}
	same := func(a, b float64) bool { return math.Abs(a-b) < 1e-3 }
	sideways := same(p[0].y, p[1].y) && same(p[1].x, p[2].x) && same(p[2].y, p[3].y) && same(p[3].x, p[0].x)
	upwards := same(p[0].x, p[1].x) && same(p[1].y, p[2].y) && same(p[2].x, p[3].x) && same(p[3].y, p[0].y)
	if !sideways && !upwards {
		return Rect{}, false
	}
	return Rect{min(p[0].x, p[2].x), min(p[0].y, p[2].y), math.Abs(p[2].x - p[0].x), math.Abs(p[2].y - p[0].y)}, true
}
