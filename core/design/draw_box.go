package design

import (
	"fmt"
	"math"
	"slices"
)

// box draws how a box is painted: shadows, fills, line.
func (p *pen) box(l *Layer) {
	w, h, corners := l.Bounds.Width, l.Bounds.Height, l.Corners()
	for i := len(l.Shadows) - 1; i >= 0; i-- {
		if s := l.Shadows[i]; !s.Inset {
			p.shadow(l, s)
		}
	}
	if l.Fill != "" {
		fmt.Fprintf(&p.b, `<path d="%s" fill="%s"/>`, rounded(w, h, corners, 0), esc(l.Fill))
	}
	for i := len(l.Fills) - 1; i >= 0; i-- {
		p.fill(l, l.Fills[i])
	}
	for i := len(l.Shadows) - 1; i >= 0; i-- {
		if s := l.Shadows[i]; s.Inset {
			p.insetShadow(l, s)
		}
	}
	if l.Stroke != nil && len(l.Stroke.Sides) == 4 {
		t, r, b, left := l.Stroke.Sides[0], l.Stroke.Sides[1], l.Stroke.Sides[2], l.Stroke.Sides[3]
		fmt.Fprintf(&p.b, `<path fill-rule="evenodd" d="M0 0H%sV%sH0ZM%s %sH%sV%sH%sZ" fill="%s"/>`, num(w), num(h), num(left), num(t), num(w-r), num(h-b), num(left), esc(l.Stroke.Color))
		return
	}
	if l.Stroke != nil && slices.ContainsFunc(corners[:], func(r float64) bool { return r > 0 && r <= l.Stroke.Width/2 }) { // round outside, and not inside
		fmt.Fprintf(&p.b, `<path fill-rule="evenodd" d="%s%s" fill="%s"/>`, rounded(w, h, corners, 0), rounded(w, h, corners, l.Stroke.Width), esc(l.Stroke.Color))
		return
	}
	if l.Stroke != nil && l.Stroke.Width > 0 {
		fmt.Fprintf(&p.b, `<path d="%s" fill="none" stroke="%s" stroke-width="%s"/>`,
			rounded(w, h, corners, l.Stroke.Width/2), esc(l.Stroke.Color), num(l.Stroke.Width))
	}
}

// fill paints a box with a fill.
func (p *pen) fill(l *Layer, f Fill) {
	paint := f.Color
	if f.Gradient != nil {
		id := "gradient-" + p.name(l)
		p.gradient(id, f.Gradient, l)
		paint = "url(#" + id + ")"
	}
	fmt.Fprintf(&p.b, `<path d="%s" fill="%s"/>`, rounded(l.Bounds.Width, l.Bounds.Height, l.Corners(), 0), esc(paint))
}

// gradient defines a gradient over a layer's box inside its stroke, along a line as long as CSS
// makes it (CSS Images 3, 3.1.1).
func (p *pen) gradient(id string, g *Gradient, l *Layer) {
	line, w, h, _ := l.inside()
	x, y := line[3], line[0]
	element := g.Kind + "Gradient"
	if g.Kind == "radial" {
		center, radii := g.Ellipse()
		fmt.Fprintf(&p.b, `<radialGradient id="%s" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="translate(%s %s) scale(%s %s)">`, id,
			num(x+center[0]*w), num(y+center[1]*h), num(max(radii[0]*w, 1e-3)), num(max(radii[1]*h, 1e-3)))
	} else {
		sin, cos := math.Sincos(g.Angle * math.Pi / 180)
		half := (math.Abs(w*sin) + math.Abs(h*cos)) / 2
		fmt.Fprintf(&p.b, `<linearGradient id="%s" gradientUnits="userSpaceOnUse" x1="%s" y1="%s" x2="%s" y2="%s">`, id,
			num(x+w/2-half*sin), num(y+h/2+half*cos), num(x+w/2+half*sin), num(y+h/2-half*cos))
	}
	for _, s := range g.shades() {
		fmt.Fprintf(&p.b, `<stop offset="%s" stop-color="%s"/>`, num(s.At), esc(s.Color))
	}
	fmt.Fprintf(&p.b, "</%s>", element)
}

// shadow draws a box's shadow outside of the box; its blur is twice the deviation (CSS Backgrounds
// 3, 6.1.1).
func (p *pen) shadow(l *Layer, s Shadow) {
	w, h, corners := l.Bounds.Width, l.Bounds.Height, l.Corners()
	for i := range corners {
		if corners[i] > 0 {
			corners[i] = max(0, corners[i]+s.Spread)
		}
	}
	far := reach(w, h, s)
	id := p.name(l)
	fmt.Fprintf(&p.b, `<clipPath id="clip-%s"><path clip-rule="evenodd" d="%s%s"/></clipPath>%s`, id, frame(w, h, far), rounded(w, h, l.Corners(), 0), blur(id, w, h, far, s))
	fmt.Fprintf(&p.b, `<g clip-path="url(#clip-%s)"><path filter="url(#shadow-%s)" transform="translate(%s %s)" d="%s" fill="%s"/></g>`,
		id, id, num(s.X-s.Spread), num(s.Y-s.Spread), rounded(w+2*s.Spread, h+2*s.Spread, corners, 0), esc(s.Color))
}

// inside gives the box inside of a layer's line: the line's widths, the size, the corners' radii.
func (l *Layer) inside() (line [4]float64, w, h float64, corners [4]float64) {
	line, corners = l.Stroke.Widths(), l.Corners()
	for i := range corners {
		corners[i] = max(0, corners[i]-max(line[0], line[1], line[2], line[3]))
	}
	return line, max(0, l.Bounds.Width-line[1]-line[3]), max(0, l.Bounds.Height-line[0]-line[2]), corners
}

// reach is how far from a box of a size nothing of its shadow is seen, px.
func reach(w, h float64, s Shadow) float64 {
	return w + h + 2*s.Blur + math.Abs(s.X) + math.Abs(s.Y) + 2*math.Abs(s.Spread)
}

// frame is the path of all there is so far around a box.
func frame(w, h, far float64) string {
	return fmt.Sprintf("M%s %sH%sV%sH%sZ", num(-far), num(-far), num(w+far), num(h+far), num(-far))
}

// blur defines the filter of a shadow.
func blur(id string, w, h, far float64, s Shadow) string {
	return fmt.Sprintf(`<filter id="shadow-%s" filterUnits="userSpaceOnUse" x="%s" y="%s" width="%s" height="%s"><feGaussianBlur stdDeviation="%s"/></filter>`,
		id, num(-far), num(-far), num(w+2*far), num(h+2*far), num(s.Blur/2))
}

// insetShadow draws a shadow inside of a box's stroke: what is left around a hole, blurred.
func (p *pen) insetShadow(l *Layer, s Shadow) {
	line, w, h, corners := l.inside()
	hole := corners
	for i := range hole {
		hole[i] = max(0, hole[i]-s.Spread)
	}
	far := reach(w, h, s)
	id := p.name(l)
	fmt.Fprintf(&p.b, `<clipPath id="clip-%s"><path d="%s"/></clipPath>%s`, id, rounded(w, h, corners, 0), blur(id, w, h, far, s))
	fmt.Fprintf(&p.b, `<g transform="translate(%s %s)" clip-path="url(#clip-%s)"><path filter="url(#shadow-%s)" fill-rule="evenodd" transform="translate(%s %s)" d="%s%s" fill="%s"/></g>`,
		num(line[3]), num(line[0]), id, id, num(s.X+s.Spread), num(s.Y+s.Spread), frame(w, h, far), rounded(max(0, w-2*s.Spread), max(0, h-2*s.Spread), hole, 0), esc(s.Color))
}

// rounded gives the path of a box with corner radii, drawn in by inset. Radii
// that do not fit are scaled down together (CSS Backgrounds 3, 4.5).
func rounded(w, h float64, r [4]float64, inset float64) string {
	scale := 1.0
	for i, side := range [4]float64{w, h, w, h} {
		if sum := r[i] + r[(i+1)%4]; sum > side && sum > 0 {
			scale = min(scale, side/sum)
		}
	}
	for i := range r {
		r[i] = max(0, r[i]*scale-inset)
	}
	x0, y0, x1, y1 := inset, inset, max(inset, w-inset), max(inset, h-inset)
	if r == [4]float64{} {
		return fmt.Sprintf("M%s %sH%sV%sH%sZ", num(x0), num(y0), num(x1), num(y1), num(x0))
	}
	arc := func(radius, x, y float64) string {
		return fmt.Sprintf("A%s %s 0 0 1 %s %s", num(radius), num(radius), num(x), num(y))
	}
	return fmt.Sprintf("M%s %sH%s%sV%s%sH%s%sV%s%sZ", num(x0+r[0]), num(y0),
		num(x1-r[1]), arc(r[1], x1, y0+r[1]), num(y1-r[2]), arc(r[2], x1-r[2], y1),
		num(x0+r[3]), arc(r[3], x0, y1-r[3]), num(y0+r[0]), arc(r[0], x0+r[0], y0))
}
