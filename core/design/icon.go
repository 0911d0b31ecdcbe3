package design

import (
	"cmp"
	"fmt"
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
	at := scope{m: identity, style: i.styleOf(root, nil)}
	box, ok := viewBox(root)
	if !ok {
		box = [4]float64{0, 0, i.geometry(root, &at, "width", 0), i.geometry(root, &at, "height", 0)}
		if box[2] <= 0 || box[3] <= 0 {
			found.Errorf("icon-size", "", "give the svg a viewBox", "the file says neither a viewBox nor a width and a height")
			found[len(found)-1].File = file
			return nil, found
		}
	}
	k.box, at.view, i.page = box, [2]float64{box[2], box[3]}, [2]float64{box[2], box[3]}
	if at.style["color"] == "" {
		at.style["color"] = textColor
	}
	k.children(root, &at, 1)
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

func (k *iconReader) children(e *etree.Element, at *scope, alpha float64) {
	for _, c := range k.shownChildren(e) {
		k.element(c, at, alpha)
	}
}

// element adds the paths that an element shows.
func (k *iconReader) element(e *etree.Element, parent *scope, alpha float64) {
	if k.layers++; k.layers > MaxLayers || parent.depth > maxSVGDepth {
		return
	}
	at := k.enter(e, parent)
	if at.style["display"] == "none" {
		k.counts.hidden++
		return
	}
	if at.style["transform"] != "" {
		k.counts.moved++
	}
	alpha *= fraction(at.style["opacity"])
	for _, p := range []string{"filter", "mask"} {
		if v := at.style[p]; v != "" && v != "none" {
			k.warn(e, "%s is not kept", p)
		}
	}
	if v := at.style["clip-path"]; v != "" && v != "none" && !k.clipsNothing(v) {
		k.warn(e, "clip-path is not kept: all that it cuts off shows")
	}
	if k.blend(at.style) != "" {
		k.warn(e, "mix-blend-mode is not kept")
	}
	switch {
	case e.Tag == "svg":
		inner := k.innerScope(e, at, k.svgBox(e, &at))
		k.children(e, &inner, alpha)
	case containers[e.Tag]:
		k.children(e, &at, alpha)
	case e.Tag == "use":
		k.use(e, &at, alpha)
	case shapes[e.Tag]:
		if invisible(at.style) {
			k.counts.hidden++
			return
		}
		k.shape(e, &at, alpha)
	case e.Tag == "image":
		k.warn(e, "pictures are no part of an icon, and left out")
	case e.Tag == "text":
		k.warn(e, "texts are left out: draw them as outlines")
	case loudElements[e.Tag] == "":
		k.warn(e, "the element is not known here, and left out")
	}
}

// use shows what is used in its place (SVG 2, 5.6), a symbol as large as the use says.
func (k *iconReader) use(e *etree.Element, at *scope, alpha float64) {
	target := k.target(e)
	if target == nil {
		return
	}
	if k.inUse(target) {
		k.warn(e, "%s uses itself; it is left out", clean(hrefOf(e)))
		return
	}
	k.using = append(k.using, target)
	defer func() { k.using = k.using[:len(k.using)-1] }()
	k.counts.uses++
	place := k.useScope(e, *at)
	if target.Tag != "symbol" && target.Tag != "svg" {
		k.element(target, &place, alpha)
		return
	}
	inner := k.innerScope(target, k.enter(target, &place), k.usedBox(e, target, &place))
	k.children(target, &inner, alpha)
}

// shape adds a path for a shape.
func (k *iconReader) shape(e *etree.Element, at *scope, alpha float64) {
	if k.marked(e, at) {
		k.warn(e, "its markers are not kept")
	}
	o := k.outlineOf(e, at)
	if o == nil {
		return
	}
	p := Path{D: o.d.String(), Rule: known(at.style["fill-rule"], "evenodd")}
	if len(p.D) > maxDrawn {
		k.warn(e, "its path is longer than %d bytes; it is left out", maxDrawn)
		return
	}
	p.Fill = k.ink(e, at.style, "fill", "black", alpha)
	if p.Fill == "" || noArea(p.D) {
		p.Fill = "none"
	}
	if c := k.ink(e, at.style, "stroke", "", alpha); c != "" {
		s, even := k.strokeOf(e, at)
		if s != nil {
			p.Stroke = s.onPath()
			p.Stroke.Color = c
		}
		if !even {
			k.warn(e, "its stroke is drawn as wide along as across, though it is stretched")
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
	if p.Fill != "none" && p.Stroke.Width > 0 && strokedFirst(at.style) {
		under, over := p, p
		under.Fill, under.Rule, over.Stroke = "none", "", PathStroke{}
		k.paths = append(k.paths, under, over)
		return
	}
	k.paths = append(k.paths, p)
}

// ink reads what a shape is painted in: currentColor, a colour, or nothing; of a gradient its first colour.
func (k *iconReader) ink(e *etree.Element, style map[string]string, property, initial string, alpha float64) string {
	v := cmp.Or(style[property], initial)
	if strings.EqualFold(v, "currentcolor") {
		v = style["color"]
	}
	if !strings.EqualFold(v, textColor) {
		painted := k.paint(e, map[string]string{property: v, property + "-opacity": style[property+"-opacity"], "color": style["color"]}, property, initial)
		if painted.server == nil {
			return faded(painted.color, alpha)
		}
		if painted.server.Tag == "pattern" {
			k.warn(e, "%s %s is not kept: only plain colours are", property, clean(v))
			return ""
		}
		k.warn(e, "%s %s is drawn in its first colour: only plain colours are kept", property, clean(v))
		return faded(k.gradient(painted.server).stops[0].color, painted.part*alpha)
	}
	switch alpha *= fraction(style[property+"-opacity"]); {
	case alpha <= 0:
		return ""
	case alpha < 1:
		k.warn(e, "its %s is as opaque as the text: what takes the text's colour has no opacity of its own here", property)
	}
	return textColor
}

// clipsNothing tells whether a clip is a rectangle around all of the drawing.
func (k *iconReader) clipsNothing(reference string) bool {
	e := k.referred(reference)
	if e == nil || e.Tag != "clipPath" || len(e.ChildElements()) != 1 || e.SelectAttrValue("transform", "") != "" {
		return false
	}
	r := e.ChildElements()[0]
	at := scope{m: identity, style: k.styleOf(r, nil), view: [2]float64{k.box[2], k.box[3]}}
	box, _, _ := k.rectOf(r, &at)
	around := r.Tag == "rect" && at.style["transform"] == "" && within(Rect{k.box[0], k.box[1], k.box[2], k.box[3]}, box)
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
