package design

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"path"
	"regexp"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/font"
	"cobrik/core/problem"
)

// Limits of an SVG file that is imported.
const (
	maxSVG      = 16 << 20 // bytes
	maxSVGDepth = 200
)

// ImportSVG reads an SVG file into a design document of one page: groups,
// rectangles, circles, lines, paths, texts and images become layers, a symbol a
// family and each of its uses an instance. Names come from labels, titles and
// ids. Everything that is left out, or drawn otherwise, is named in the
// problems, with its line. Nothing outside of the file is read, and no script is
// kept. The document is nil on an error.
func ImportSVG(file string, text []byte, fonts *font.Library) (*Document, problem.List) {
	i, root, found := newImporter(file, text, fonts)
	if found.Failed() {
		return nil, found
	}
	name := strings.TrimSuffix(path.Base(file), path.Ext(file))
	page := &Page{ID: i.id("page"), Name: nameOf(root, name)}
	m := i.viewport(root, page)
	page.Layers = i.children(root, m, styleOf(root, nil, i.rules), 0)
	if page.Layers == nil {
		page.Layers = []*Layer{}
	}
	out := &Document{Format: Format, ID: identifierOf(name, "drawing") + ".svg", Name: nameOf(root, name), Pages: []*Page{page}, Families: i.list}
	if out.Families == nil {
		out.Families = []*Family{}
	}
	if i.layers > MaxLayers {
		return nil, failed(file, "svg-layers", "export a part at a time", "the drawing has more than %d layers, uses counted", MaxLayers)
	}
	return out, append(found, i.found...)
}

// newImporter reads a file as far as its elements and style sheets; the problems say why it cannot be read.
func newImporter(file string, text []byte, fonts *font.Library) (*importer, *etree.Element, problem.List) {
	if len(text) > maxSVG {
		return nil, nil, failed(file, "svg-size", "export a part at a time", "the file has %d bytes; at most %d are read", len(text), maxSVG)
	}
	if err := checkXML(text); err != nil {
		return nil, nil, failed(file, "svg-syntax", "an SVG file without entities was expected", "%v", err)
	}
	doc := etree.NewDocument()
	if err := doc.ReadFromBytes(text); err != nil {
		return nil, nil, failed(file, "svg-syntax", "an SVG file was expected", "not valid XML: %v", err)
	}
	root := doc.Root()
	if root == nil || root.Tag != "svg" {
		return nil, nil, failed(file, "svg-root", "an SVG file was expected", "the root element is no svg")
	}
	i := &importer{file: file, fonts: fonts, byID: map[string]*etree.Element{}, taken: map[string]int{}, families: map[*etree.Element]*Family{}, said: map[string]bool{}}
	i.index(root)
	return i, root, nil
}

// failed is the one problem that keeps a file from being read.
func failed(file, rule, fix, format string, args ...any) (found problem.List) {
	found.Errorf(rule, "", fix, format, args...)
	found[0].File = file
	return found
}

// checkXML refuses what could make a small file large: entities, and nesting
// without end.
func checkXML(text []byte) error {
	d := xml.NewDecoder(bytes.NewReader(text))
	depth := 0
	for {
		t, err := d.RawToken()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return fmt.Errorf("not valid XML: %w", err)
		}
		switch t := t.(type) {
		case xml.Directive:
			if bytes.Contains(bytes.ToUpper(t), []byte("ENTITY")) {
				return fmt.Errorf("it declares entities, which are not read")
			}
		case xml.StartElement:
			if depth++; depth > maxSVGDepth {
				return fmt.Errorf("it is nested deeper than %d", maxSVGDepth)
			}
		case xml.EndElement:
			depth--
		}
	}
}

type importer struct {
	file     string
	fonts    *font.Library
	found    problem.List
	byID     map[string]*etree.Element
	rules    []svgRule
	families map[*etree.Element]*Family
	list     []*Family
	taken    map[string]int // ids given, with the last number tried for each
	said     map[string]bool
	using    []*etree.Element
	layers   int
}

// warn names something once for each element, with how it is called.
func (i *importer) warn(e *etree.Element, format string, args ...any) {
	where := e.Tag
	if id := e.SelectAttrValue("id", ""); id != "" {
		where += " " + id
	}
	message := where + ": " + fmt.Sprintf(format, args...)
	if i.said[message] || len(i.said) > 500 {
		return
	}
	i.said[message] = true
	i.found = append(i.found, problem.Problem{File: i.file, Rule: "svg-import", Severity: problem.Warning, Message: message})
}

// index finds what others refer to, and the style sheets.
func (i *importer) index(e *etree.Element) {
	if id := e.SelectAttrValue("id", ""); id != "" && i.byID[id] == nil {
		i.byID[id] = e
	}
	if e.Tag == "style" {
		i.rules = readSheet(e.Text(), i.rules, func(what string) { i.warn(e, "%s is not followed", what) })
	}
	for _, c := range e.ChildElements() {
		i.index(c)
	}
}

// viewport reads the page's size, and the transform of the view box (SVG 2,
// 8.6; one scale for both axes, from the top left).
func (i *importer) viewport(root *etree.Element, page *Page) matrix {
	page.Width, page.Height = i.length(root.SelectAttrValue("width", "")), i.length(root.SelectAttrValue("height", ""))
	box, err := readNumbers(root.SelectAttrValue("viewBox", ""))
	if err != nil || len(box) != 4 || box[2] <= 0 || box[3] <= 0 {
		if page.Width == 0 || page.Height == 0 {
			page.Width, page.Height = 300, 150 // CSS Images 3, 5.2: what has no size
		}
		return identity
	}
	if page.Width == 0 || page.Height == 0 {
		page.Width, page.Height = box[2], box[3]
	}
	s := min(page.Width/box[2], page.Height/box[3])
	return matrix{s, 0, 0, s, -box[0] * s, -box[1] * s}
}

var lengthUnit = regexp.MustCompile(`^\s*([-+0-9.eE]+?)(px|pt|mm|cm|in|pc|em|rem)?\s*$`)

// length reads a length as px; 0 when it is none, or a percentage.
func (i *importer) length(text string) float64 {
	parts := lengthUnit.FindStringSubmatch(text)
	if parts == nil {
		return 0
	}
	v, err := readNumbers(parts[1])
	if err != nil || len(v) != 1 {
		return 0
	}
	return v[0] * map[string]float64{"": 1, "px": 1, "pt": 96.0 / 72, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96, "pc": 16, "em": 16, "rem": 16}[parts[2]]
}

func (i *importer) attr(e *etree.Element, name string) float64 {
	return i.length(e.SelectAttrValue(name, ""))
}

// nameOf names an element: a label, a title, or its id.
func nameOf(e *etree.Element, otherwise string) string {
	for _, a := range e.Attr {
		if (a.Key == "label" || a.Key == "aria-label" || a.Key == "data-name") && strings.TrimSpace(a.Value) != "" {
			return clean(a.Value)
		}
	}
	if t := e.SelectElement("title"); t != nil && strings.TrimSpace(t.Text()) != "" {
		return clean(t.Text())
	}
	if id := e.SelectAttrValue("id", ""); id != "" {
		return clean(strings.ReplaceAll(id, "_", " "))
	}
	return otherwise
}

func clean(text string) string {
	text = strings.Join(strings.Fields(text), " ")
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

// id makes an id nobody has.
func (i *importer) id(wanted string) string {
	base := identifierOf(wanted, "layer")
	id := base
	for i.taken[id] > 0 {
		i.taken[base]++
		id = fmt.Sprintf("%s-%d", base, i.taken[base])
	}
	i.taken[id]++
	return id
}

// silent are elements that show nothing and are no loss.
var silent = map[string]bool{"title": true, "desc": true, "metadata": true, "defs": true, "style": true, "symbol": true}

func (i *importer) children(e *etree.Element, m matrix, style map[string]string, depth int) []*Layer {
	var out []*Layer
	for _, c := range e.ChildElements() {
		if silent[c.Tag] || c.Space != "" && c.Space != "svg" {
			continue
		}
		if l := i.element(c, m, style, depth+1); l != nil {
			out = append(out, l)
		}
	}
	return out
}

// element turns one element into a layer whose bounds are from the page's
// origin; nil when there is nothing to show.
func (i *importer) element(e *etree.Element, m matrix, parent map[string]string, depth int) *Layer {
	if i.layers++; i.layers > MaxLayers || depth > maxSVGDepth {
		return nil
	}
	style := styleOf(e, parent, i.rules)
	if t := e.SelectAttrValue("transform", ""); t != "" {
		own, err := readTransform(t)
		if err != nil {
			i.warn(e, "%v; it is left where it would be without", err)
		}
		m = m.times(own)
	}
	for _, p := range []string{"filter", "mask", "clip-path", "marker-start", "marker-mid", "marker-end"} {
		if v := style[p]; v != "" && v != "none" {
			i.warn(e, "%s is not kept", p)
		}
	}
	var l *Layer
	switch e.Tag {
	case "g", "a", "svg":
		if e.Tag == "svg" {
			i.warn(e, "an svg within is read as a group")
			m = m.times(matrix{1, 0, 0, 1, i.attr(e, "x"), i.attr(e, "y")})
		}
		l = group(i.children(e, m, style, depth))
	case "rect":
		l = i.rect(e, m, style)
	case "circle", "ellipse":
		l = i.ellipse(e, m, style)
	case "line", "polyline", "polygon", "path":
		l = i.shape(e, m, style)
	case "text":
		l = i.text(e, m, style)
	case "image":
		l = i.image(e, m)
	case "use":
		l = i.use(e, m, style, depth)
	case "script":
		i.warn(e, "scripts are never kept")
	default:
		i.warn(e, "the element is not known here, and left out")
	}
	if l == nil {
		return nil
	}
	l.ID = i.id(e.SelectAttrValue("id", e.Tag))
	if l.Name == "" {
		l.Name = nameOf(e, strings.ToUpper(e.Tag[:1])+e.Tag[1:])
	}
	l.Hidden = style["display"] == "none" || style["visibility"] == "hidden" || style["visibility"] == "collapse"
	if v, err := readNumbers(style["opacity"]); err == nil && len(v) == 1 && v[0] < 1 {
		opacity := max(0, v[0])
		l.Opacity = &opacity
	}
	return l
}

// group makes a group around layers and their bounds relative to it.
func group(children []*Layer) *Layer {
	if len(children) == 0 {
		return nil
	}
	all := children[0].Bounds
	for _, c := range children[1:] {
		b := c.Bounds
		right, bottom := max(all.X+all.Width, b.X+b.Width), max(all.Y+all.Height, b.Y+b.Height)
		all.X, all.Y = min(all.X, b.X), min(all.Y, b.Y)
		all.Width, all.Height = right-all.X, bottom-all.Y
	}
	for _, c := range children {
		c.Bounds.X, c.Bounds.Y = tidy(c.Bounds.X-all.X), tidy(c.Bounds.Y-all.Y)
	}
	return &Layer{Kind: Group, Bounds: tidyRect(all), Children: children}
}

// tidy keeps a thousandth of a px.
func tidy(v float64) float64 { return math.Round(v*1000)/1000 + 0 }

func tidyRect(r Rect) Rect {
	return Rect{tidy(r.X), tidy(r.Y), tidy(max(0, r.Width)), tidy(max(0, r.Height))}
}

func hrefOf(e *etree.Element) string {
	for _, a := range e.Attr {
		if a.Key == "href" {
			return strings.TrimSpace(a.Value)
		}
	}
	return ""
}

// use makes an instance of a symbol, or a copy of what is used.
func (i *importer) use(e *etree.Element, m matrix, style map[string]string, depth int) *Layer {
	href := hrefOf(e)
	if !strings.HasPrefix(href, "#") {
		i.warn(e, "what it uses, %s, is outside of the file, and never fetched", clean(href))
		return nil
	}
	target := i.byID[href[1:]]
	if target == nil {
		i.warn(e, "there is no %s to use", clean(href))
		return nil
	}
	for _, u := range i.using {
		if u == target {
			i.warn(e, "%s uses itself; it is left out", clean(href))
			return nil
		}
	}
	i.using = append(i.using, target)
	defer func() { i.using = i.using[:len(i.using)-1] }()
	m = m.times(matrix{1, 0, 0, 1, i.attr(e, "x"), i.attr(e, "y")})
	if target.Tag != "symbol" {
		l := i.element(target, m, style, depth+1)
		if l == nil {
			return nil
		}
		return group([]*Layer{l})
	}
	family := i.family(target, depth)
	if family == nil {
		return nil
	}
	size := family.Variants[0].Root.Bounds
	w, h := i.attr(e, "width"), i.attr(e, "height")
	if w == 0 {
		w = size.Width
	}
	if h == 0 {
		h = size.Height
	}
	x, y := m.at(0, 0)
	right, bottom := m.at(w, h)
	return &Layer{Kind: Instance, Bounds: tidyRect(Rect{min(x, right), min(y, bottom), math.Abs(right - x), math.Abs(bottom - y)}),
		Instance: &InstanceContent{Family: family.ID}}
}

// family makes a family of a symbol, once.
func (i *importer) family(symbol *etree.Element, depth int) *Family {
	if f, known := i.families[symbol]; known {
		return f
	}
	i.families[symbol] = nil
	var size Page
	m := i.viewport(symbol, &size)
	children := i.children(symbol, m, styleOf(symbol, nil, i.rules), depth+1)
	if len(children) == 0 {
		i.warn(symbol, "the symbol shows nothing")
		return nil
	}
	name := nameOf(symbol, "Symbol")
	for _, f := range i.list { // families have names of their own
		if f.Name == name {
			name += " " + identifierOf(symbol.SelectAttrValue("id", ""), "2")
		}
	}
	f := &Family{ID: i.id("family-" + symbol.SelectAttrValue("id", "symbol")), Name: name, Axes: []Axis{}}
	rootLayer := &Layer{ID: i.id(f.ID + "-root"), Name: f.Name, Kind: Group, Bounds: Rect{Width: size.Width, Height: size.Height}, Children: children}
	f.Variants = []*Variant{{ID: i.id(f.ID + "-variant"), Choices: map[string]string{}, Root: rootLayer}}
	i.families[symbol] = f
	i.list = append(i.list, f)
	return f
}
