package design

import (
	"fmt"
	"math"
	"path"
	"slices"
	"strings"
	"unicode"

	"github.com/beevik/etree"

	"cobrik/core/color"
	"cobrik/core/problem"
)

// Icon is a small drawing that a file holds, cleaned: shapes are paths without transforms, and styles attributes.
type Icon struct {
	Name    string // of the file, in words joined by hyphens: leaf-outline
	Words   string // its title and description, to be found by
	Drawing VectorContent
	Cleaned []string // what of the file was changed, and shows nothing less
}

// textColor is what a path is coloured in that takes the colour of the text around (CSS Color 4, currentcolor).
const textColor = "currentColor"

// ReadIcon reads an SVG file as an icon. What has one colour takes the text's; what has several keeps them. What is
// left out, or drawn otherwise, is named in the problems. Nothing outside of the file is read, and no script is kept.
// The icon is nil on an error.
func ReadIcon(file string, text []byte) (*Icon, problem.List) {
	i, root, found := newImporter(file, text, nil)
	if found.Failed() {
		return nil, found
	}
	k := &iconReader{importer: i, colors: map[string]bool{}}
	box, err := readNumbers(root.SelectAttrValue("viewBox", ""))
	if err != nil || len(box) != 4 || box[2] <= 0 || box[3] <= 0 {
		box = []float64{0, 0, i.attr(root, "width"), i.attr(root, "height")}
		if box[2] <= 0 || box[3] <= 0 {
			found.Errorf("icon-size", "", "give the svg a viewBox", "the file says neither a viewBox nor a width and a height")
			found[len(found)-1].File = file
			return nil, found
		}
	}
	k.box = [4]float64(box)
	style := styleOf(root, nil, i.rules)
	if style["color"] == "" {
		style["color"] = textColor
	}
	k.children(root, identity, style, 1, 0)
	found = append(found, i.found...)
	if i.layers > MaxLayers {
		found.Errorf("svg-layers", "", "draw it with fewer shapes", "the icon has more than %d shapes, uses counted", MaxLayers)
	}
	if len(k.paths) == 0 {
		found.Errorf("icon-empty", "", "export what is drawn as shapes or paths", "nothing that the file shows can be kept as an icon")
	}
	for i := range found {
		found[i].File = file
	}
	if found.Failed() {
		return nil, found
	}
	base := strings.TrimSuffix(path.Base(file), path.Ext(file))
	out := &Icon{Name: iconName(base), Drawing: VectorContent{ViewBox: k.box, Paths: k.paths}}
	for _, tag := range []string{"title", "desc"} {
		if e := root.SelectElement(tag); e != nil {
			out.Words = strings.TrimSpace(out.Words + " " + clean(e.Text()))
		}
	}
	k.tint()
	k.tell(root)
	out.Cleaned = k.cleaned
	return out, found
}

// iconName is a file's name in words joined by hyphens, letters of any script.
func iconName(text string) string {
	var apart strings.Builder // leafOutline is two words
	last := ' '
	for _, r := range text {
		if unicode.IsUpper(r) && unicode.IsLower(last) {
			apart.WriteByte(' ')
		}
		apart.WriteRune(r)
		last = r
	}
	words := strings.FieldsFunc(strings.ToLower(apart.String()), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
	if len(words) == 0 {
		return "icon"
	}
	name := []rune(strings.Join(words, "-"))
	return string(name[:min(len(name), 80)])
}

type iconReader struct {
	*importer
	box     [4]float64
	paths   []Path
	colors  map[string]bool // that something is painted in
	cleaned []string
	counts  struct{ shapes, moved, empty, hidden, uses int }
}

func (k *iconReader) children(e *etree.Element, m matrix, style map[string]string, alpha float64, depth int) {
	for _, c := range e.ChildElements() {
		if !silent[c.Tag] && (c.Space == "" || c.Space == "svg") {
			k.element(c, m, style, alpha, depth+1)
		}
	}
}

// element adds the paths that an element shows.
func (k *iconReader) element(e *etree.Element, m matrix, parent map[string]string, alpha float64, depth int) {
	if k.layers++; k.layers > MaxLayers || depth > maxSVGDepth {
		return
	}
	style := styleOf(e, parent, k.rules)
	if style["display"] == "none" {
		k.counts.hidden++
		return
	}
	if t := e.SelectAttrValue("transform", ""); t != "" {
		own, err := readTransform(t)
		if err != nil {
			k.warn(e, "%v; it is left where it would be without", err)
		}
		m = m.times(own)
		k.counts.moved++
	}
	if v, err := readNumbers(style["opacity"]); err == nil && len(v) == 1 {
		alpha *= min(1, max(0, v[0]))
	}
	for _, p := range []string{"filter", "mask", "marker-start", "marker-mid", "marker-end"} {
		if v := style[p]; v != "" && v != "none" {
			k.warn(e, "%s is not kept", p)
		}
	}
	if v := style["clip-path"]; v != "" && v != "none" && !k.clipsNothing(v) {
		k.warn(e, "clip-path is not kept: all that it cuts off shows")
	}
	switch e.Tag {
	case "g", "a", "svg":
		k.children(e, m, style, alpha, depth)
	case "use":
		k.use(e, m, style, alpha, depth)
	case "path", "rect", "circle", "ellipse", "line", "polyline", "polygon":
		if v := style["visibility"]; v == "hidden" || v == "collapse" {
			k.counts.hidden++
			return
		}
		k.shape(e, m, style, alpha)
	case "script", "foreignObject", "image", "text":
		k.warn(e, "%s", map[string]string{"script": "scripts are never kept", "foreignObject": "what is not SVG is left out", "image": "pictures are no part of an icon, and left out",
			"text": "texts are left out: draw them as outlines"}[e.Tag])
	default:
		k.warn(e, "the element is not known here, and left out")
	}
}

// use shows what is used in its place (SVG 2, 5.6), a symbol as large as the use says.
func (k *iconReader) use(e *etree.Element, m matrix, style map[string]string, alpha float64, depth int) {
	target := k.byID[strings.TrimPrefix(hrefOf(e), "#")]
	switch {
	case !strings.HasPrefix(hrefOf(e), "#"):
		k.warn(e, "what it uses, %s, is outside of the file, and never fetched", clean(hrefOf(e)))
		return
	case target == nil:
		k.warn(e, "there is no %s to use", clean(hrefOf(e)))
		return
	case slices.Contains(k.using, target):
		k.warn(e, "%s uses itself; it is left out", clean(hrefOf(e)))
		return
	}
	k.using = append(k.using, target)
	defer func() { k.using = k.using[:len(k.using)-1] }()
	k.counts.uses++
	m = m.times(matrix{1, 0, 0, 1, k.attr(e, "x"), k.attr(e, "y")})
	if target.Tag != "symbol" {
		k.element(target, m, style, alpha, depth+1)
		return
	}
	if box, err := readNumbers(target.SelectAttrValue("viewBox", "")); err == nil && len(box) == 4 && box[2] > 0 && box[3] > 0 {
		w, h := k.attr(e, "width"), k.attr(e, "height")
		if w == 0 {
			w = k.box[2]
		}
		if h == 0 {
			h = k.box[3]
		}
		s := min(w/box[2], h/box[3]) // xMidYMid meet (SVG 2, 8.6)
		m = m.times(matrix{s, 0, 0, s, (w-box[2]*s)/2 - box[0]*s, (h-box[3]*s)/2 - box[1]*s})
	}
	k.children(target, m, styleOf(target, style, k.rules), alpha, depth+1)
}

// shape adds a path for a shape.
func (k *iconReader) shape(e *etree.Element, m matrix, style map[string]string, alpha float64) {
	d, ok := k.pathOf(e)
	if !ok {
		return
	}
	o, err := readPath(d, m)
	if err != nil {
		k.warn(e, "%v; it is left out", err)
		return
	}
	if o.empty || len(o.d.String()) > 100_000 {
		if !o.empty {
			k.warn(e, "its path is longer than 100000 bytes; it is left out")
		}
		return
	}
	p := Path{D: o.d.String(), Rule: known(style["fill-rule"], "evenodd")}
	p.Fill = k.ink(e, style, "fill", "black", alpha)
	if p.Fill == "" || noArea(p.D) {
		p.Fill = "none"
	}
	if c := k.ink(e, style, "stroke", "", alpha); c != "" {
		width := 1.0
		if v := style["stroke-width"]; v != "" {
			width = k.length(v)
		}
		if width = math.Round(width*m.scale()*1000) / 1000; width > 0 {
			p.Stroke = PathStroke{c, width, known(style["stroke-linecap"], "round", "square"), known(style["stroke-linejoin"], "round", "bevel")}
			if d := style["stroke-dasharray"]; d != "" && d != "none" {
				k.warn(e, "the dashes of its stroke are drawn as a whole line")
			}
			if !m.upright() && math.Abs(math.Abs(m.a*m.d-m.b*m.c)-(m.a*m.a+m.b*m.b)) > 0.01 || m.upright() && math.Abs(math.Abs(m.a)-math.Abs(m.d)) > 0.01 {
				k.warn(e, "its stroke is drawn as wide along as across, though it is stretched")
			}
		}
	}
	if p.Fill == "none" && p.Stroke.Width == 0 {
		k.counts.empty++
		return
	}
	if e.Tag != "path" {
		k.counts.shapes++
	}
	for _, c := range []string{p.Fill, p.Stroke.Color} {
		if c != "" && c != "none" {
			k.colors[c] = true
		}
	}
	k.paths = append(k.paths, p)
}

// noArea tells whether an outline is made of single straight lines, which fill nothing.
func noArea(d string) bool {
	if strings.ContainsAny(d, "CZ") {
		return false
	}
	for _, part := range strings.Split(d, "M") {
		if strings.Count(part, "L") > 1 {
			return false
		}
	}
	return true
}

// ink reads what a shape is painted in: currentColor, a colour, or nothing.
func (k *iconReader) ink(e *etree.Element, style map[string]string, property, initial string, alpha float64) string {
	v := style[property]
	if v == "" {
		v = initial
	}
	if strings.EqualFold(v, "currentcolor") {
		v = style["color"]
	}
	if !strings.EqualFold(v, textColor) {
		colored := map[string]string{property: v, property + "-opacity": style[property+"-opacity"], "color": style["color"]}
		text := k.paint(e, colored, property, initial)
		c, err := color.Parse(text)
		if err != nil || alpha >= 1 {
			return text
		}
		if c.Alpha *= alpha; c.Alpha == 0 {
			return ""
		}
		return c.CSS()
	}
	if o, err := readNumbers(style[property+"-opacity"]); err == nil && len(o) == 1 {
		alpha *= min(1, max(0, o[0]))
	}
	switch {
	case alpha <= 0:
		return ""
	case alpha < 1:
		k.warn(e, "its %s is as opaque as the text: what takes the text's colour has no opacity of its own here", property)
	}
	return textColor
}

// pathOf gives a shape as path data; false when it shows nothing (SVG 2, 10).
func (k *iconReader) pathOf(e *etree.Element) (string, bool) {
	n := func(name string) float64 { return k.attr(e, name) }
	switch e.Tag {
	case "path":
		d := e.SelectAttrValue("d", "")
		return d, d != "" && len(d) <= 200_000
	case "line":
		return fmt.Sprintf("M%g %gL%g %g", n("x1"), n("y1"), n("x2"), n("y2")), true
	case "circle", "ellipse":
		rx, ry := n("rx"), n("ry")
		if e.Tag == "circle" {
			rx, ry = n("r"), n("r")
		}
		return fmt.Sprintf("M%g %ga%g %g 0 1 1 %g 0a%g %g 0 1 1 %g 0z", n("cx")-rx, n("cy"), rx, ry, 2*rx, rx, ry, -2*rx), rx > 0 && ry > 0
	case "rect":
		x, y, w, h := n("x"), n("y"), n("width"), n("height")
		rx, ry := n("rx"), n("ry")
		if e.SelectAttrValue("rx", "") == "" {
			rx = ry
		}
		if e.SelectAttrValue("ry", "") == "" {
			ry = rx
		}
		rx, ry = min(max(0, rx), w/2), min(max(0, ry), h/2)
		if rx == 0 || ry == 0 {
			return fmt.Sprintf("M%g %gh%gv%gh%gz", x, y, w, h, -w), w > 0 && h > 0
		}
		return fmt.Sprintf("M%[1]g %[2]gh%[3]ga%[5]g %[6]g 0 0 1 %[5]g %[6]gv%[4]ga%[5]g %[6]g 0 0 1 %[7]g %[6]gh%[8]ga%[5]g %[6]g 0 0 1 %[7]g %[9]gv%[10]ga%[5]g %[6]g 0 0 1 %[5]g %[9]gz",
			x+rx, y, w-2*rx, h-2*ry, rx, ry, -rx, -(w - 2*rx), -ry, -(h - 2*ry)), w > 0 && h > 0
	}
	points, err := readNumbers(e.SelectAttrValue("points", ""))
	if err != nil || len(points) < 4 {
		k.warn(e, "its points are no list of numbers; it is left out")
		return "", false
	}
	var d strings.Builder
	for i := 0; i+1 < len(points); i += 2 {
		fmt.Fprintf(&d, "%c%g %g", "ML"[min(i, 1)], points[i], points[i+1])
	}
	if e.Tag == "polygon" {
		d.WriteByte('Z')
	}
	return d.String(), true
}

// clipsNothing tells whether a clip is a rectangle around all of the drawing.
func (k *iconReader) clipsNothing(reference string) bool {
	e := k.byID[strings.Trim(strings.TrimSuffix(strings.TrimPrefix(reference, "url("), ")"), `"'# `)]
	if e == nil || e.Tag != "clipPath" || len(e.ChildElements()) != 1 || e.SelectAttrValue("transform", "") != "" {
		return false
	}
	r := e.ChildElements()[0]
	x, y, w, h := k.attr(r, "x"), k.attr(r, "y"), k.attr(r, "width"), k.attr(r, "height")
	around := r.Tag == "rect" && r.SelectAttrValue("transform", "") == "" && x <= k.box[0] && y <= k.box[1] && x+w >= k.box[0]+k.box[2] && y+h >= k.box[1]+k.box[3]
	if around && !slices.Contains(k.cleaned, clippedWhole) {
		k.cleaned = append(k.cleaned, clippedWhole)
	}
	return around
}

const clippedWhole = "a clip of the whole is left out"

// tint lets a drawing of one colour take the text's.
func (k *iconReader) tint() {
	if len(k.colors) != 1 {
		return
	}
	for c := range k.colors {
		if parsed, err := color.Parse(c); err == nil && parsed.Alpha < 1 {
			return
		}
		if c != textColor {
			k.cleaned = append(k.cleaned, "its one colour, "+c+", is the text’s")
		}
	}
	for i := range k.paths {
		if k.paths[i].Fill != "none" {
			k.paths[i].Fill = ""
		}
		if k.paths[i].Stroke.Width > 0 {
			k.paths[i].Stroke.Color = textColor
		}
	}
}

// tell says in words what was changed.
func (k *iconReader) tell(root *etree.Element) {
	say := func(n int, one, many string) {
		switch {
		case n == 1:
			k.cleaned = append(k.cleaned, one)
		case n > 1:
			k.cleaned = append(k.cleaned, fmt.Sprintf(many, n))
		}
	}
	if len(k.colors) > 1 {
		k.cleaned = append(k.cleaned, fmt.Sprintf("it keeps its %d colours", len(k.colors)))
	}
	say(k.counts.shapes, "a shape is a path now", "%d shapes are paths now")
	say(k.counts.moved, "a transform is drawn into the path", "%d transforms are drawn into the paths")
	say(k.counts.uses, "what is used stands in its place", "%d uses stand in their places")
	say(k.counts.empty, "a shape that paints nothing is left out", "%d shapes that paint nothing are left out")
	say(k.counts.hidden, "a hidden shape is left out", "%d hidden shapes are left out")
	handlers, sheets := 0, 0
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, a := range e.Attr {
			if strings.HasPrefix(strings.ToLower(a.Key), "on") {
				handlers++
			}
		}
		if e.Tag == "style" {
			sheets++
		}
		for _, c := range e.ChildElements() {
			walk(c)
		}
	}
	walk(root)
	say(handlers, "an event handler is taken out", "%d event handlers are taken out")
	say(sheets, "its style sheet is drawn into the paths", "%d style sheets are drawn into the paths")
}
