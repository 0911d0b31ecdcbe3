package design

import (
	"cmp"
	"fmt"
	"math"
	"path"
	"regexp"
	"slices"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/color"
	"cobrik/core/css"
	"cobrik/core/font"
	"cobrik/core/problem"
)

// farthest is how far from the page's corner a layer may lie, and how large it may be, in px: within a group it is as far
// as a design document reaches.
const farthest = 50_000

// maxSVGWork bounds how often elements are looked at for what they cover.
const maxSVGWork = 1_000_000

// ImportSVG reads an SVG file into a design document of one page: groups, rectangles, circles, lines, paths, texts and
// images become layers, a symbol a family and each of its uses an instance. What layers cannot say, such as a pattern or a
// mask, becomes a picture that the document carries. Names come from labels, titles and ids. Everything that is left out,
// or drawn otherwise, is named in the problems. Nothing outside of the file is read, and no script is kept. The document is
// nil on an error.
func ImportSVG(file string, text []byte, fonts *font.Library) (*Document, problem.List) {
	i, root, found := newImporter(file, text, fonts)
	if found.Failed() {
		return nil, found
	}
	name := strings.TrimSuffix(path.Base(file), path.Ext(file))
	page := &Page{ID: i.id("page"), Name: nameOf(root, name), Layers: []*Layer{}}
	i.readPage(root, page)
	out := &Document{Format: Format, ID: identifierOf(name, "drawing") + ".svg", Name: nameOf(root, name), Pages: []*Page{page}, Families: i.list}
	out.Assets = i.shownPictures(out)
	if out.Families == nil {
		out.Families = []*Family{}
	}
	switch {
	case i.layers > MaxLayers:
		return nil, failed(file, "svg-layers", "export a part at a time", "the drawing has more than %d layers, uses counted", MaxLayers)
	case i.work > maxSVGWork:
		return nil, failed(file, "svg-layers", "export a part at a time", "what the drawing's uses, clips and masks cover takes too long to find out")
	}
	return out, append(found, i.found...)
}

type importer struct {
	file     string
	fonts    *font.Library
	root     *etree.Element
	found    problem.List
	byID     map[string]*etree.Element
	rules    svgRules
	own      map[*etree.Element]map[string]string // what elements say of their style
	families map[*etree.Element]*symbolFamily
	list     []*Family
	taken    map[string]bool // ids given
	tried    map[string]int  // the last number tried for each
	reserved map[string]bool // ids that elements have
	said     map[string]bool
	using    []*etree.Element
	page     [2]float64 // px
	layers   int
	work     int
	within   int // symbols that are read for themselves

	pictures []Asset
	assets   map[string]string // ids by source
	carried  int               // bytes of the pictures
	pictured map[*Layer]bool   // made of what no layer says
	nested   int               // pictures that this one stands in
	read     map[*etree.Element]*readPicture

	gradients map[*etree.Element]svgGradient
	outlines  map[outlineKey]*outline
	outlined  int // bytes of path data that were read for outlines
}

// warn names something once for each element, with how it is called.
func (i *importer) warn(e *etree.Element, format string, args ...any) {
	where := e.Tag
	if id := e.SelectAttrValue("id", ""); id != "" {
		where += " " + clean(id)
	}
	message := where + ": " + fmt.Sprintf(format, args...)
	if i.said[message] || len(i.said) > 500 {
		return
	}
	i.said[message] = true
	i.found = append(i.found, problem.Problem{File: i.file, Rule: "svg-import", Severity: problem.Warning, Message: message})
}

// readPage reads the root element: the page's size and ground, and what lies on it.
func (i *importer) readPage(root *etree.Element, page *Page) {
	bare := scope{m: identity, style: i.styleOf(root, nil)}
	page.Width, page.Height = i.pageSize(root, &bare)
	i.page = [2]float64{page.Width, page.Height}
	if c := i.inColor(root, bare.style, "background", i.ground(root), 1); c != "" {
		page.Background = c
	}
	bare.view = i.page
	at := i.innerScope(root, i.transformed(root, bare), Rect{Width: page.Width, Height: page.Height})
	layers := i.children(root, &at)
	whole := group(layers)
	if whole == nil {
		return
	}
	for _, l := range layers { // group made them relative to it
		l.Bounds.X, l.Bounds.Y = tidy(l.Bounds.X+whole.Bounds.X), tidy(l.Bounds.Y+whole.Bounds.Y)
	}
	page.Layers = layers
	for len(page.Layers) == 1 && isWrapper(page.Layers[0]) { // a group that programs put around everything
		one := page.Layers[0]
		for _, l := range one.Children {
			l.Bounds.X, l.Bounds.Y = tidy(l.Bounds.X+one.Bounds.X), tidy(l.Bounds.Y+one.Bounds.Y)
		}
		page.Layers = one.Children
	}
	layers = page.Layers
	for _, p := range []string{"filter", "mask", "clip-path"} {
		if v := bare.style[p]; v != "" && v != "none" {
			i.warn(root, "%s of the whole drawing is not kept", p)
		}
	}
	if opacity := fraction(bare.style["opacity"]); opacity < 1 {
		whole = group(layers)
		whole.ID, whole.Name, whole.Opacity = i.id("whole"), page.Name, &opacity
		page.Layers = []*Layer{whole}
	}
	if bare.style["display"] == "none" {
		page.Layers = []*Layer{}
	}
}

// isWrapper tells whether a layer is a group that nobody named, and that does nothing to what it holds.
func isWrapper(l *Layer) bool {
	return l.Kind == Group && (l.Name == "G" || l.Name == "Svg") && !l.Hidden && l.Opacity == nil && l.Blend == "" && !l.Clip && l.Link == "" && len(l.Children) > 0
}

// ground gives what the root says of its background; empty for nothing that is a colour.
func (i *importer) ground(root *etree.Element) string {
	v := i.declared(root)["background-color"]
	if v == "" || v == "none" || v == "transparent" {
		return ""
	}
	if _, err := color.Parse(v); err != nil {
		i.warn(root, "its background %s is not kept", clean(v))
		return ""
	}
	return v
}

// pageSize gives the size of the drawing in px: what it says, else that of its view box, else 300 by 150; one of width and
// height gives the other in the proportion of the view box (CSS Images 3, 5.2).
func (i *importer) pageSize(root *etree.Element, at *scope) (w, h float64) {
	size := func(name string) float64 {
		text := at.style[name]
		if strings.HasSuffix(text, "%") || text == "" || text == "auto" {
			return 0
		}
		return min(i.length(root, at, text, 0, 0), 100_000)
	}
	w, h = size("width"), size("height")
	box, ok := viewBox(root)
	switch {
	case !ok && (w <= 0 || h <= 0):
		if w <= 0 {
			w = 300
		}
		if h <= 0 {
			h = 150
		}
	case w <= 0 && h <= 0:
		w, h = box[2], box[3]
	case w <= 0:
		w = h * box[2] / box[3]
	case h <= 0:
		h = w * box[3] / box[2]
	}
	return tidy(min(max(w, 0.01), 100_000)), tidy(min(max(h, 0.01), 100_000))
}

// nameOf names an element: a label, a title, or its id.
func nameOf(e *etree.Element, otherwise string) string {
	if label := labelOf(e); label != "" {
		return label
	}
	if id := e.SelectAttrValue("id", ""); id != "" {
		if name := clean(strings.ReplaceAll(id, "_", " ")); name != "" {
			return name
		}
	}
	return otherwise
}

// labelOf gives the words that an element is called by; empty for none.
func labelOf(e *etree.Element) string {
	for _, a := range e.Attr {
		if a.Key == "label" || a.Key == "aria-label" || a.Key == "data-name" {
			if name := clean(a.Value); name != "" {
				return name
			}
		}
	}
	if t := e.SelectElement("title"); t != nil {
		return clean(t.Text())
	}
	return ""
}

func clean(text string) string {
	text = strings.Join(strings.Fields(strings.ToValidUTF8(text, "")), " ")
	if r := []rune(text); len(r) > 100 {
		text = string(r[:100])
	}
	return text
}

var notInID = regexp.MustCompile(`[^A-Za-z0-9._:-]+`)

func identifierOf(text, otherwise string) string {
	id := strings.TrimLeft(notInID.ReplaceAllString(text, "-"), "-._:")
	if len(id) > 100 {
		id = id[:100]
	}
	if id == "" {
		return otherwise
	}
	return id
}

// idOf gives an element's own id, as far as ids of layers may be so, to its first layer.
func (i *importer) idOf(e *etree.Element, otherwise string) string {
	if own := identifierOf(e.SelectAttrValue("id", ""), ""); own != "" {
		delete(i.reserved, own)
		return i.id(own)
	}
	return i.id(otherwise)
}

// id makes an id nobody has, nor is to have.
func (i *importer) id(wanted string) string {
	base := identifierOf(wanted, "layer")
	id := base
	for i.taken[id] || i.reserved[id] {
		i.tried[base] = max(i.tried[base], 1) + 1
		id = fmt.Sprintf("%s-%d", base, i.tried[base])
	}
	i.taken[id] = true
	return id
}

// silent are elements that show nothing by themselves and are no loss.
var silent = words("title desc metadata defs style symbol linearGradient radialGradient pattern clipPath mask filter marker cursor view font font-face")

// containers are the elements that show what they hold.
var containers = words("g a svg switch")

// shownChildren are the elements within another that may show something.
func (i *importer) shownChildren(e *etree.Element) (out []*etree.Element) {
	for _, c := range e.ChildElements() {
		if !i.ofSVG(c) || silent[c.Tag] {
			continue
		}
		if e.Tag == "switch" {
			if c.SelectAttrValue("requiredExtensions", "") != "" || !i.spoken(c.SelectAttrValue("systemLanguage", "en")) {
				continue
			}
			return []*etree.Element{c} // the first that fits (SVG 2, conditional processing)
		}
		out = append(out, c)
	}
	return out
}

// spoken tells whether a list of languages holds English, the language that drawings are read in here.
func (i *importer) spoken(languages string) bool {
	for _, one := range strings.Split(languages, ",") {
		if one = trim(one); one == "en" || strings.HasPrefix(one, "en-") {
			return true
		}
	}
	return false
}

func (i *importer) children(e *etree.Element, at *scope) (out []*Layer) {
	for _, c := range i.shownChildren(e) {
		if l := i.element(c, at); l != nil {
			out = append(out, l)
		}
	}
	return out
}

// enter gives where an element stands that is in a scope: its own style and transform.
func (i *importer) enter(e *etree.Element, parent *scope) scope {
	at := *parent
	at.depth++
	at.style = i.styleOf(e, parent.style)
	return i.transformed(e, at)
}

// element turns one element into a layer whose bounds are from the page's
// origin; nil when there is nothing to show.
func (i *importer) element(e *etree.Element, parent *scope) *Layer {
	if i.layers++; i.layers > MaxLayers || parent.depth > maxSVGDepth {
		return nil
	}
	at := i.enter(e, parent)
	if at.m.flat() {
		return nil
	}
	l := i.affected(e, parent, &at)
	if l == nil {
		return nil
	}
	if b := l.Bounds; !(max(math.Abs(b.X), math.Abs(b.Y), b.Width, b.Height) <= farthest) {
		i.warn(e, "it reaches farther than %d px; it is left out", farthest)
		return nil
	}
	if l.ID == "" {
		l.ID = i.idOf(e, e.Tag)
	}
	if l.Name == "" {
		l.Name = nameOf(e, strings.ToUpper(e.Tag[:1])+e.Tag[1:])
	}
	l.Hidden = l.Hidden || at.style["display"] == "none" || (shapes[e.Tag] || e.Tag == "image") && invisible(at.style)
	if l.Kind == Group && e.Tag == "a" {
		l.Link = linkOf(hrefOf(e))
	}
	if i.pictured[l] {
		return l // it has its opacity in it
	}
	if opacity := fraction(at.style["opacity"]); opacity < 1 {
		l.Opacity = &opacity
	}
	l.Blend = i.blend(at.style)
	return l
}

func invisible(style map[string]string) bool {
	return style["visibility"] == "hidden" || style["visibility"] == "collapse"
}

// linkOf gives where a link leads that may be kept; empty for any other.
func linkOf(href string) string {
	scheme, _, has := strings.Cut(href, ":")
	if len(href) > 2000 || has && !slices.Contains([]string{"http", "https", "mailto", "tel"}, strings.ToLower(scheme)) && !strings.ContainsAny(scheme, "/#?") {
		return ""
	}
	return href
}

func (i *importer) blend(style map[string]string) string {
	if mode := style["mix-blend-mode"]; mode != "normal" && slices.Contains(css.BlendModes, mode) {
		return mode
	}
	return ""
}

// plain makes the layer of an element, whatever cuts it off or shades it.
func (i *importer) plain(e *etree.Element, parent, at *scope) *Layer {
	switch {
	case shapes[e.Tag]:
		return i.shape(e, parent, at)
	case e.Tag == "svg":
		inner := i.innerScope(e, *at, i.svgBox(e, at))
		return i.boxed(group(i.children(e, &inner)), e, at.style, at.m, i.svgBox(e, at), &inner)
	case containers[e.Tag]:
		return group(i.children(e, at))
	case e.Tag == "text":
		return i.text(e, parent, at)
	case e.Tag == "image":
		return i.image(e, parent, at)
	case e.Tag == "use":
		return i.use(e, parent, at)
	case loudElements[e.Tag] == "":
		i.warn(e, "the element is not known here, and left out")
	}
	return nil
}

// boxed cuts a viewport's content off at its box, where it reaches beyond.
func (i *importer) boxed(l *Layer, e *etree.Element, style map[string]string, m matrix, box Rect, inner *scope) *Layer {
	if l == nil || !hidesOverflow(style) {
		return l
	}
	if r, ok := i.aroundChildren(e, *inner, true); !ok || within(r, m.rect(box)) {
		return l
	}
	if !m.square() {
		i.warn(e, "it is turned, and shows what it should cut off")
		return l
	}
	return clipped([]*Layer{l}, m.rect(box), 0, i)
}

// clipped puts layers into a group that cuts them off at a box.
func clipped(layers []*Layer, box Rect, radius float64, i *importer) *Layer {
	out := &Layer{Kind: Box, Clip: true, Bounds: tidyRect(box)}
	if radius > 0 {
		out.Radius = []float64{tidy(radius)}
	}
	for _, l := range layers {
		if l.Kind == Group && l.ID == "" && !l.Clip && len(l.Radius) == 0 { // not named yet: its children stand for it
			for _, c := range l.Children {
				c.Bounds.X, c.Bounds.Y = tidy(c.Bounds.X+l.Bounds.X-out.Bounds.X), tidy(c.Bounds.Y+l.Bounds.Y-out.Bounds.Y)
				out.Children = append(out.Children, c)
			}
			continue
		}
		if l.ID == "" {
			l.ID, l.Name = i.id("clipped"), cmp.Or(l.Name, "Clipped")
		}
		l.Bounds.X, l.Bounds.Y = tidy(l.Bounds.X-out.Bounds.X), tidy(l.Bounds.Y-out.Bounds.Y)
		out.Children = append(out.Children, l)
	}
	return out
}

// group makes a group around layers and their bounds relative to it.
func group(children []*Layer) *Layer {
	if len(children) == 0 {
		return nil
	}
	all := children[0].Bounds
	for _, c := range children[1:] {
		all = union(all, c.Bounds)
	}
	all = tidyRect(all)
	for _, c := range children {
		c.Bounds.X, c.Bounds.Y = tidy(c.Bounds.X-all.X), tidy(c.Bounds.Y-all.Y)
	}
	return &Layer{Kind: Group, Bounds: all, Children: children}
}

// tidy keeps a thousandth of a px.
func tidy(v float64) float64 { return math.Round(v*1000)/1000 + 0 }

func tidyRect(r Rect) Rect {
	return Rect{tidy(r.X), tidy(r.Y), tidy(max(0, r.Width)), tidy(max(0, r.Height))}
}

// shownPictures gives the pictures that layers of a document show.
func (i *importer) shownPictures(doc *Document) (out []Asset) {
	shown := map[string]bool{}
	doc.EachLayer(func(l *Layer) {
		if l.Image != nil {
			shown[l.Image.Asset] = true
		}
	})
	for _, a := range i.pictures {
		if shown[a.ID] {
			out = append(out, a)
		}
	}
	return out
}
