package design

import (
	"math"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/color"
)

// ink is what something is painted with: a colour, a gradient or pattern of the file, or nothing.
type ink struct {
	color  string
	server *etree.Element
	part   float64 // opacity of a server, 0 to 1
}

func (k ink) none() bool { return k.color == "" && k.server == nil }

// opaqueWhole tells whether nothing is seen through it.
func (k ink) opaqueWhole() bool { return k.server == nil && opaque(k.color) }

// paint reads the property fill or stroke (SVG 2, 13.2).
func (i *importer) paint(e *etree.Element, style map[string]string, property, initial string) ink {
	v, part := style[property], fraction(style[property+"-opacity"])
	if v == "" {
		v = initial
	}
	if strings.HasPrefix(v, "url(") {
		server := i.referred(v)
		_, otherwise, _ := strings.Cut(v, ")")
		switch {
		case server != nil && (server.Tag == "linearGradient" || server.Tag == "radialGradient"):
			g := i.gradient(server)
			if len(g.stops) > 1 {
				return ink{server: server, part: part}
			}
			if len(g.stops) == 0 { // nothing is painted (SVG 2, gradient stops)
				return ink{}
			}
			return ink{color: faded(g.stops[0].color, part)}
		case server != nil && server.Tag == "pattern":
			return ink{server: server, part: part}
		case strings.Contains(v, "#") && server != nil:
			i.warn(e, "%s %s is no paint; nothing is painted", property, clean(v))
			return ink{}
		case strings.Contains(v, "#") && !strings.Contains(v, "/") && !strings.Contains(v, "."):
			if otherwise = trim(otherwise); otherwise == "" {
				i.warn(e, "%s %s refers to nothing; nothing is painted", property, clean(v))
				otherwise = "none"
			}
		default:
			i.warn(e, "%s %s is outside of the file, and never fetched", property, clean(v))
			if otherwise = trim(otherwise); otherwise == "" {
				otherwise = "none"
			}
		}
		v = otherwise
	}
	return ink{color: i.inColor(e, style, property, v, part)}
}

// inColor reads a colour, less opaque by a part; empty for none.
func (i *importer) inColor(e *etree.Element, style map[string]string, property, v string, part float64) string {
	if strings.EqualFold(v, "currentcolor") {
		if v = style["color"]; v == "" || strings.EqualFold(v, "currentcolor") {
			v = "black" // what has no colour is in that of the page's text
		}
	}
	if v == "none" || v == "" {
		return ""
	}
	if plain, _, more := strings.Cut(v, " icc-color("); more {
		v = plain
	}
	c, err := color.Parse(v)
	if err != nil {
		i.warn(e, "%s: %v", property, err)
		return ""
	}
	if c.Alpha *= part; c.Alpha <= 0 {
		return ""
	}
	return written(c)
}

func written(c color.Color) string {
	if c.In(color.SRGB) {
		return c.Hex()
	}
	return c.CSS()
}

// faded gives a colour that is less opaque by a part.
func faded(text string, part float64) string {
	c, err := color.Parse(text)
	if err != nil || part >= 1 {
		return text
	}
	c.Alpha *= part
	return written(c)
}

// fraction reads an opacity, a number or a percentage; 1 when it is none.
func fraction(text string) float64 {
	bare, percent := strings.CutSuffix(trim(text), "%")
	v, err := readNumbers(bare)
	if err != nil || len(v) != 1 {
		return 1
	}
	if percent {
		v[0] /= 100
	}
	return min(1, max(0, v[0]))
}

// svgStroke is how a shape is outlined, lengths in px of the page.
type svgStroke struct {
	ink
	width, miter, offset float64
	cap, join            string
	dash                 []float64
}

// strokeOf reads a shape's stroke; nil for none. It is even where it is as wide along as across, as a line of a design
// document is.
func (i *importer) strokeOf(e *etree.Element, at *scope) (s *svgStroke, even bool) {
	k := i.paint(e, at.style, "stroke", "")
	if k.none() {
		return nil, true
	}
	scale := at.m.scale()
	fixed := at.style["vector-effect"] == "non-scaling-stroke" // SVG 2, vector-effect
	if fixed {
		scale = 1
	}
	width := i.length(e, at, at.style["stroke-width"], at.diagonal(), 1)
	if width < 0 {
		i.warn(e, "its stroke-width is negative")
	}
	if width*scale < 0.0005 {
		return nil, true
	}
	s = &svgStroke{ink: k, width: tidy(width * scale), cap: known(at.style["stroke-linecap"], "round", "square"), join: known(at.style["stroke-linejoin"], "round", "bevel"), miter: 4}
	if v, err := readNumbers(at.style["stroke-miterlimit"]); err == nil && len(v) == 1 && v[0] >= 1 {
		s.miter = v[0]
	}
	i.dashes(e, at, s, scale)
	return s, fixed || at.m.even()
}

// dashes reads the dashes of a stroke (SVG 2, stroke-dasharray).
func (i *importer) dashes(e *etree.Element, at *scope, s *svgStroke, scale float64) {
	text := at.style["stroke-dasharray"]
	if text == "" || text == "none" {
		return
	}
	sum := 0.0
	for _, word := range strings.Fields(strings.ReplaceAll(text, ",", " ")) {
		v := i.length(e, at, word, at.diagonal(), -1)
		if v < 0 || len(s.dash) >= 100 {
			s.dash = nil
			return
		}
		s.dash = append(s.dash, v*scale)
		sum += v
	}
	if sum <= 0 {
		s.dash = nil
		return
	}
	s.offset = i.length(e, at, at.style["stroke-dashoffset"], at.diagonal(), 0) * scale
	if said, err := readNumbers(e.SelectAttrValue("pathLength", "")); err == nil && len(said) == 1 && said[0] > 0 {
		if d, ok := i.pathOf(e, at); ok {
			part := lengthOf(d) / said[0]
			for k := range s.dash {
				s.dash[k] *= part
			}
			s.offset *= part
		}
	}
}

// lengthOf is how long a path is, in its own units.
func lengthOf(d string) (sum float64) {
	o, _ := readPath(d, identity)
	for _, l := range lines(o.d.String(), 1) {
		for k := range l.points {
			if k > 0 || l.closed {
				before := l.points[(k+len(l.points)-1)%len(l.points)]
				sum += math.Hypot(l.points[k].x-before.x, l.points[k].y-before.y)
			}
		}
	}
	return sum
}

// onPath gives the stroke as a path has it.
func (s *svgStroke) onPath() PathStroke {
	out := PathStroke{Color: s.color, Width: s.width, Cap: s.cap, Join: s.join}
	if s.join == "" && s.miter != 4 {
		out.Miter = tidy(s.miter)
	}
	if len(s.dash) > 0 {
		words := make([]string, len(s.dash))
		for k, v := range s.dash {
			words[k] = short(v)
		}
		out.Dash, out.DashOffset = strings.Join(words, " "), tidy(s.offset)
	}
	return out
}

// reachOf is the box of what a stroke covers along an outline, px of the page.
func (s *svgStroke) reachOf(o *outline) Rect {
	b := newOutline()
	half := s.width / 2
	around := func(p point) {
		b.reach(p.x-half, p.y-half)
		b.reach(p.x+half, p.y+half)
	}
	for _, l := range lines(o.d.String(), 1) {
		n := len(l.points)
		if n == 1 {
			around(l.points[0])
			continue
		}
		for k, p := range l.points {
			ends := !l.closed && (k == 0 || k == n-1)
			if ends && s.cap == "round" || !ends && s.join == "round" {
				around(p)
				continue
			}
			before, after := l.points[(k+n-1)%n], l.points[(k+1)%n]
			u, v := towards(before, p), towards(p, after)
			if ends && k == 0 {
				u = v
			} else if ends {
				v = u
			}
			out := 0.0 // beyond the end
			if ends && s.cap == "square" {
				out = half
			}
			if k == 0 {
				out = -out
			}
			for _, side := range []float64{half, -half} {
				for _, d := range []point{u, v} {
					b.reach(p.x-d.y*side+d.x*out, p.y+d.x*side+d.y*out)
				}
			}
			turn := math.Atan2(u.x*v.y-u.y*v.x, u.x*v.x+u.y*v.y)
			if c := math.Cos(turn / 2); !ends && s.join == "" && math.Abs(c) > 1/s.miter && math.Abs(turn) > 1e-3 {
				tip := point{u.x - v.x, u.y - v.y}
				if long := math.Hypot(tip.x, tip.y); long > 1e-9 {
					q := p.plus(tip, half/c/long)
					b.reach(q.x, q.y)
				}
			}
		}
	}
	if b.empty {
		return Rect{o.left, o.top, 0, 0}
	}
	// Curves were cut into straight pieces: where it reaches as far as a curve's extreme lets it, it does so exactly.
	snap := func(edge *float64, to float64) {
		if math.Abs(*edge-to) < 0.02 {
			*edge = to
		}
	}
	snap(&b.left, o.left-half)
	snap(&b.right, o.right+half)
	snap(&b.top, o.top-half)
	snap(&b.down, o.down+half)
	return b.bounds()
}

func towards(a, b point) point {
	long := max(math.Hypot(b.x-a.x, b.y-a.y), 1e-12)
	return point{(b.x - a.x) / long, (b.y - a.y) / long}
}

// svgGradient is a gradient with what it takes from others (SVG 2, linear gradients).
type svgGradient struct {
	tag        string
	attributes map[string]string
	stops      []svgStop
}

// svgStop is a colour at a place of a gradient, 0 to 1.
type svgStop struct {
	at    float64
	color string
}

// maxStops bounds the stops of one gradient.
const maxStops = 1000

func (i *importer) gradient(e *etree.Element) svgGradient {
	if known, ok := i.gradients[e]; ok {
		return known
	}
	out := i.readGradient(e)
	i.gradients[e] = out
	return out
}

func (i *importer) readGradient(e *etree.Element) svgGradient {
	out := svgGradient{tag: e.Tag, attributes: map[string]string{}}
	stops := (*etree.Element)(nil)
	seen := map[*etree.Element]bool{}
	for g := e; g != nil && !seen[g] && (g.Tag == "linearGradient" || g.Tag == "radialGradient"); g = i.byID[strings.TrimPrefix(hrefOf(g), "#")] {
		seen[g] = true
		for _, a := range g.Attr {
			if _, said := out.attributes[a.Key]; !said && a.Space == "" {
				out.attributes[a.Key] = a.Value
			}
		}
		if stops == nil && g.SelectElement("stop") != nil {
			stops = g
		}
	}
	if stops == nil {
		return out
	}
	above := i.inheritedBy(stops)
	style := i.styleOf(stops, above)
	for _, s := range stops.SelectElements("stop") {
		if len(out.stops) >= maxStops {
			i.warn(e, "it has more than %d colours", maxStops)
			break
		}
		own := i.styleOf(s, style)
		v := own["stop-color"]
		if v == "" {
			v = "black"
		}
		c := i.inColor(s, own, "stop-color", v, fraction(own["stop-opacity"]))
		if c == "" {
			c = "#00000000"
			if parsed, err := color.Parse(v); err == nil { // what it fades to is of its colour
				parsed.Alpha = 0
				c = written(parsed)
			}
		}
		at := fraction0(s.SelectAttrValue("offset", "0"))
		if n := len(out.stops); n > 0 {
			at = max(at, out.stops[n-1].at)
		}
		out.stops = append(out.stops, svgStop{at, c})
	}
	return out
}

// fraction0 reads a place along a gradient; 0 when it is none.
func fraction0(text string) float64 {
	if _, err := readNumbers(strings.TrimSuffix(trim(text), "%")); err != nil || text == "" {
		return 0
	}
	return fraction(text)
}

// inheritedBy gives the style that an element takes over where it stands in the file.
func (i *importer) inheritedBy(e *etree.Element) map[string]string {
	parent := e.Parent()
	if parent == nil || parent.Tag == "" {
		return nil
	}
	return i.styleOf(parent, i.inheritedBy(parent))
}

// place gives the transform of a gradient's or a pattern's own units to the page; bounds is the shape's box in user units.
func (g *svgGradient) place(at *scope, bounds Rect) (matrix, bool) {
	m := at.m
	if g.attributes["gradientUnits"] != "userSpaceOnUse" {
		m = m.times(matrix{bounds.Width, 0, 0, bounds.Height, bounds.X, bounds.Y})
	}
	if t := g.attributes["gradientTransform"]; t != "" {
		own, err := readTransform(t)
		if err != nil {
			return m, false
		}
		m = m.times(own)
	}
	return m, !m.flat()
}

// fillOf gives a gradient as a box of the page is filled with it; false where a design document has no such fill. The box
// is that inside its stroke.
func (i *importer) fillOf(k ink, at *scope, bounds, box Rect) (*Gradient, bool) {
	if k.server == nil || k.server.Tag == "pattern" || box.Width <= 0 || box.Height <= 0 {
		return nil, false
	}
	g := i.gradient(k.server)
	if len(g.stops) > 2*maxFillStops {
		return nil, false
	}
	m, ok := g.place(at, bounds)
	if spread := g.attributes["spreadMethod"]; !ok || spread != "" && spread != "pad" {
		return nil, false
	}
	n := func(name, otherwise string, whole float64) float64 {
		text := g.attributes[name]
		if text == "" {
			text = otherwise
		}
		if g.attributes["gradientUnits"] != "userSpaceOnUse" {
			whole = 1
		}
		v, _ := i.lengthIn(text, fontSize(at.style), whole)
		return v
	}
	out := &Gradient{Kind: "linear"}
	from, to := 0.0, 1.0 // where along CSS's gradient line the stops 0 and 1 lie
	if g.tag == "linearGradient" {
		x1, y1 := n("x1", "0%", at.view[0]), n("y1", "0%", at.view[1])
		dx, dy := n("x2", "100%", at.view[0])-x1, n("y2", "0%", at.view[1])-y1
		long := dx*dx + dy*dy
		if long < 1e-12 { // painted in the last colour (SVG 2, linear gradients)
			return nil, false
		}
		// t, from 0 to 1 along the line, grows evenly over the page: by gx a px to the right and gy a px down.
		t := func(x, y float64) float64 {
			u, v := m.inverse().at(x, y)
			return ((u-x1)*dx + (v-y1)*dy) / long
		}
		cx, cy := box.X+box.Width/2, box.Y+box.Height/2
		middle := t(cx, cy)
		gx, gy := t(cx+1, cy)-middle, t(cx, cy+1)-middle
		steep := math.Hypot(gx, gy)
		if steep < 1e-9 {
			return nil, false
		}
		out.Angle = math.Round(math.Atan2(gx, -gy)*180/math.Pi*1e4)/1e4 + 0
		if out.Angle < 0 {
			out.Angle += 360
		}
		half := (math.Abs(box.Width*gx) + math.Abs(box.Height*gy)) / steep / 2 // CSS Images 3, 3.1.1
		from = (half - middle/steep) / (2 * half)
		to = (half + (1-middle)/steep) / (2 * half)
	} else {
		cx, cy, r := n("cx", "50%", at.view[0]), n("cy", "50%", at.view[1]), n("r", "50%", at.diagonal())
		if fx, fy := g.attributes["fx"], g.attributes["fy"]; fx != "" && math.Abs(n("fx", "", at.view[0])-cx) > 1e-6 || fy != "" && math.Abs(n("fy", "", at.view[1])-cy) > 1e-6 ||
			n("fr", "0%", at.diagonal()) != 0 || !m.square() {
			return nil, false
		}
		x, y := m.at(cx, cy)
		rx, ry := r*(math.Abs(m.a)+math.Abs(m.c)), r*(math.Abs(m.b)+math.Abs(m.d))
		out.Kind = "radial"
		out.Center = &[2]float64{tidy5((x - box.X) / box.Width), tidy5((y - box.Y) / box.Height)}
		out.Radii = &[2]float64{tidy5(rx / box.Width), tidy5(ry / box.Height)}
		for k := range 2 {
			if c, r := out.Center[k], out.Radii[k]; r <= 0 || r > 10 || math.Abs(c) > 10 {
				return nil, false
			}
		}
	}
	out.Stops, ok = stopsWithin(g.stops, from, to, k.part)
	return out, ok
}

// maxFillStops bounds the stops of a fill, as the design document does.
const maxFillStops = 20

// tidy5 keeps five digits behind the point.
func tidy5(v float64) float64 { return math.Round(v*1e5)/1e5 + 0 }

// stopsWithin places stops along a line from 0 to 1, of which the gradient takes a part or more than the whole; false
// where they cannot be said in CSS: more than there may be, or of colours that CSS mixes otherwise than SVG.
func stopsWithin(stops []svgStop, from, to, part float64) (out []Stop, ok bool) {
	type mark struct {
		at float64
		c  color.Color
	}
	var marks []mark
	for k, s := range stops {
		c, err := color.Parse(s.color)
		if err != nil {
			return nil, false
		}
		if k > 0 {
			before := marks[k-1].c
			if before.Alpha != c.Alpha && before.V != c.V { // CSS mixes by how opaque they are (CSS Images 3, 3.5.1)
				return nil, false
			}
		}
		marks = append(marks, mark{from + (to-from)*s.at, c})
	}
	between := func(a, b mark, at float64) color.Color {
		p := (at - a.at) / (b.at - a.at)
		out := a.c
		for k := range out.V {
			out.V[k] += (b.c.V[k] - a.c.V[k]) * p
		}
		out.Alpha += (b.c.Alpha - a.c.Alpha) * p
		return out
	}
	add := func(at float64, c color.Color) {
		c.Alpha *= part
		out = append(out, Stop{At: tidy5(min(1, max(0, at))), Color: written(c)})
	}
	for k, m := range marks {
		last := k == len(marks)-1
		switch {
		case m.at < 0 && (last || marks[k+1].at <= 0):
			if last {
				add(0, m.c)
			}
		case m.at < 0:
			add(0, between(m, marks[k+1], 0))
		case m.at > 1:
			if k > 0 && marks[k-1].at < 1 {
				add(1, between(marks[k-1], m, 1))
			} else if k == 0 {
				add(1, m.c)
			}
		default:
			add(m.at, m.c)
		}
	}
	if len(out) == 1 {
		out = append(out, Stop{At: 1, Color: out[0].Color})
	}
	return out, len(out) >= 2 && len(out) <= maxFillStops
}
