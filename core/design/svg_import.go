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

	"cobrik/core/color"
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
	var found problem.List
	fail := func(rule, fix, format string, args ...any) (*Document, problem.List) {
		found.Errorf(rule, "", fix, format, args...)
		found[len(found)-1].File = file
		return nil, found
	}
	if len(text) > maxSVG {
		return fail("svg-size", "export a part at a time", "the file has %d bytes; at most %d are read", len(text), maxSVG)
	}
	if err := checkXML(text); err != nil {
		return fail("svg-syntax", "an SVG file without entities was expected", "%v", err)
	}
	doc := etree.NewDocument()
	if err := doc.ReadFromBytes(text); err != nil {
		return fail("svg-syntax", "an SVG file was expected", "not valid XML: %v", err)
	}
	root := doc.Root()
	if root == nil || root.Tag != "svg" {
		return fail("svg-root", "an SVG file was expected", "the root element is no svg")
	}
	i := importer{file: file, fonts: fonts, byID: map[string]*etree.Element{}, taken: map[string]int{}, families: map[*etree.Element]*Family{}, said: map[string]bool{}}
	i.index(root)
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
		return fail("svg-layers", "export a part at a time", "the drawing has more than %d layers, uses counted", MaxLayers)
	}
	return out, append(found, i.found...)
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

// paint reads a colour property; empty for none.
func (i *importer) paint(e *etree.Element, style map[string]string, property, initial string) string {
	v := style[property]
	switch {
	case v == "":
		v = initial
	case strings.EqualFold(v, "currentcolor"):
		v = style["color"]
	case strings.HasPrefix(v, "url("):
		i.warn(e, "%s %s is not kept: only plain colours are", property, v)
		return ""
	}
	if v == "none" || v == "" {
		return ""
	}
	c, err := color.Parse(v)
	if err != nil {
		i.warn(e, "%s: %v", property, err)
		return ""
	}
	if o, err := readNumbers(style[property+"-opacity"]); err == nil && len(o) == 1 && o[0] < 1 {
		c.Alpha *= max(0, o[0])
	}
	if c.In(color.SRGB) {
		return c.Hex()
	}
	return c.CSS()
}

func (i *importer) stroke(e *etree.Element, style map[string]string, m matrix) *Stroke {
	c := i.paint(e, style, "stroke", "")
	if c == "" {
		return nil
	}
	width := 1.0
	if v := style["stroke-width"]; v != "" {
		width = i.length(v)
	}
	if width = tidy(width * m.scale()); width <= 0 {
		return nil
	}
	return &Stroke{Color: c, Width: width}
}

// outlined gives a box's bounds with a stroke that runs half outside in SVG and
// inside in a design document.
func outlined(r Rect, s *Stroke) Rect {
	if s == nil {
		return r
	}
	return Rect{r.X - s.Width/2, r.Y - s.Width/2, r.Width + s.Width, r.Height + s.Width}
}

func (i *importer) rect(e *etree.Element, m matrix, style map[string]string) *Layer {
	x, y, w, h := i.attr(e, "x"), i.attr(e, "y"), i.attr(e, "width"), i.attr(e, "height")
	if w < 0 || h < 0 {
		i.warn(e, "its size is negative; it is left out")
		return nil
	}
	if w == 0 || h == 0 {
		return nil
	}
	rx, ry := i.attr(e, "rx"), i.attr(e, "ry")
	if rx == 0 {
		rx = ry
	}
	return i.box(e, m, style, Rect{x, y, w, h}, min(max(rx, 0), w/2, h/2))
}

// box makes a box of a rectangle, turned where the transform turns it; a path
// of one that is skewed.
func (i *importer) box(e *etree.Element, m matrix, style map[string]string, r Rect, radius float64) *Layer {
	degrees, turned := m.turned()
	if !m.upright() && !turned {
		d := fmt.Sprintf("M%g %gh%gv%gh%gz", r.X, r.Y, r.Width, r.Height, -r.Width)
		return i.vector(e, d, m, style)
	}
	l := &Layer{Kind: Box, Fill: i.paint(e, style, "fill", "black"), Stroke: i.stroke(e, style, m)}
	sx, sy := m.a, m.d
	if !m.upright() {
		sx = m.scale()
		sy = sx
		l.Rotation = tidy(degrees)
	}
	cx, cy := m.at(r.X+r.Width/2, r.Y+r.Height/2)
	w, h := r.Width*sx, r.Height*sy
	l.Bounds = tidyRect(outlined(Rect{cx - w/2, cy - h/2, w, h}, l.Stroke))
	if radius > 0 {
		radius *= m.scale()
		if l.Stroke != nil {
			radius += l.Stroke.Width / 2
		}
		l.Radius = []float64{tidy(radius)}
	}
	return l
}

func (i *importer) ellipse(e *etree.Element, m matrix, style map[string]string) *Layer {
	cx, cy, rx, ry := i.attr(e, "cx"), i.attr(e, "cy"), i.attr(e, "rx"), i.attr(e, "ry")
	if e.Tag == "circle" {
		rx = i.attr(e, "r")
		ry = rx
	}
	if rx <= 0 || ry <= 0 {
		return nil
	}
	if _, even := m.turned(); rx == ry && even {
		return i.box(e, m, style, Rect{cx - rx, cy - ry, 2 * rx, 2 * ry}, rx)
	}
	d := fmt.Sprintf("M%g %ga%g %g 0 1 1 %g 0a%g %g 0 1 1 %g 0z", cx-rx, cy, rx, ry, 2*rx, rx, ry, -2*rx)
	return i.vector(e, d, m, style)
}

func (i *importer) shape(e *etree.Element, m matrix, style map[string]string) *Layer {
	switch e.Tag {
	case "path":
		return i.vector(e, e.SelectAttrValue("d", ""), m, style)
	case "line":
		return i.line(e, m, style)
	}
	points, err := readNumbers(e.SelectAttrValue("points", ""))
	if err != nil || len(points) < 4 {
		i.warn(e, "its points are no list of numbers; it is left out")
		return nil
	}
	var d strings.Builder
	for k := 0; k+1 < len(points); k += 2 {
		fmt.Fprintf(&d, "%c%g %g", "ML"[min(k, 1)], points[k], points[k+1])
	}
	if e.Tag == "polygon" {
		d.WriteByte('Z')
	}
	return i.vector(e, d.String(), m, style)
}

// line makes a thin box of a line, turned where it is not level.
func (i *importer) line(e *etree.Element, m matrix, style map[string]string) *Layer {
	s := i.stroke(e, style, m)
	if s == nil {
		return nil
	}
	x1, y1 := m.at(i.attr(e, "x1"), i.attr(e, "y1"))
	x2, y2 := m.at(i.attr(e, "x2"), i.attr(e, "y2"))
	long := math.Hypot(x2-x1, y2-y1)
	cx, cy := (x1+x2)/2, (y1+y2)/2
	l := &Layer{Kind: Box, Fill: s.Color}
	if x1 == x2 {
		l.Bounds = tidyRect(Rect{cx - s.Width/2, cy - long/2, s.Width, long})
		return l
	}
	l.Bounds = tidyRect(Rect{cx - long/2, cy - s.Width/2, long, s.Width})
	l.Rotation = tidy(math.Atan2(y2-y1, x2-x1) * 180 / math.Pi)
	return l
}

// vector makes a small drawing of one path, transformed.
func (i *importer) vector(e *etree.Element, d string, m matrix, style map[string]string) *Layer {
	if len(d) > 200_000 {
		i.warn(e, "its path is longer than 200000 bytes; it is left out")
		return nil
	}
	o, err := readPath(d, m)
	if err != nil {
		i.warn(e, "%v; it is left out", err)
		return nil
	}
	if o.empty {
		return nil
	}
	l := &Layer{Kind: Vector, Fill: i.paint(e, style, "fill", "black"), Bounds: tidyRect(o.bounds())}
	if s := i.paint(e, style, "stroke", ""); s != "" {
		i.warn(e, "the stroke of its path is not kept: only fills are")
	}
	b := l.Bounds
	l.Vector = &VectorContent{ViewBox: [4]float64{b.X, b.Y, b.Width, b.Height}, Paths: []Path{{D: o.d.String()}}}
	if len(l.Vector.Paths[0].D) > 100_000 {
		i.warn(e, "its path is longer than 100000 bytes once transformed; it is left out")
		return nil
	}
	return l
}

func (i *importer) image(e *etree.Element, m matrix) *Layer {
	href := hrefOf(e)
	if href != "" && !strings.HasPrefix(href, "data:") {
		i.warn(e, "its picture %s is outside of the file, and never fetched", clean(href))
	}
	x, y := m.at(i.attr(e, "x"), i.attr(e, "y"))
	right, bottom := m.at(i.attr(e, "x")+i.attr(e, "width"), i.attr(e, "y")+i.attr(e, "height"))
	if !m.upright() {
		i.warn(e, "a turned picture is drawn upright")
	}
	return &Layer{Kind: Image, Alt: nameOf(e, ""), Bounds: tidyRect(Rect{min(x, right), min(y, bottom), math.Abs(right - x), math.Abs(bottom - y)})}
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

// line of text as it is set.
type svgLine struct {
	x, y    float64
	content string
}

// text makes a text layer: lines begin where a tspan has a y of its own.
func (i *importer) text(e *etree.Element, m matrix, style map[string]string) *Layer {
	x, y := i.attr(e, "x"), i.attr(e, "y")
	var lines []svgLine
	lines = append(lines, svgLine{x: x, y: y})
	var read func(e *etree.Element)
	read = func(e *etree.Element) {
		for _, t := range e.Child {
			switch t := t.(type) {
			case *etree.CharData:
				last := &lines[len(lines)-1]
				last.content += t.Data
			case *etree.Element:
				if t.Tag != "tspan" && t.Tag != "a" {
					if !silent[t.Tag] {
						i.warn(t, "within text it is not known here, and left out")
					}
					continue
				}
				next := lines[len(lines)-1]
				if v := t.SelectAttrValue("x", ""); v != "" {
					next.x = i.length(v)
				}
				if v := t.SelectAttrValue("y", ""); v != "" {
					next.y = i.length(v)
				}
				next.y += i.attr(t, "dy")
				if next.y != lines[len(lines)-1].y && strings.TrimSpace(lines[len(lines)-1].content) != "" {
					next.content = ""
					lines = append(lines, next)
				} else {
					lines[len(lines)-1].x, lines[len(lines)-1].y = next.x, next.y
				}
				read(t)
			}
		}
	}
	read(e)
	content := &TextContent{FontSize: 16, FontWeight: 400, FontFamily: "sans-serif"}
	if v := i.length(style["font-size"]); v > 0 {
		content.FontSize = v
	}
	content.FontSize = min(2000, tidy(content.FontSize*m.scale()))
	if families := strings.Split(style["font-family"], ","); strings.TrimSpace(families[0]) != "" {
		content.FontFamily = clean(strings.Trim(strings.TrimSpace(families[0]), `"'`))
	}
	switch w := style["font-weight"]; w {
	case "", "normal":
	case "bold":
		content.FontWeight = 700
	default:
		if v, err := readNumbers(w); err == nil && len(v) == 1 && v[0] >= 1 && v[0] <= 1000 {
			content.FontWeight = v[0]
		}
	}
	content.LetterSpacing = tidy(i.length(style["letter-spacing"]) * m.scale())
	face, shipped := i.face(content)
	if !shipped {
		i.warn(e, "its font %s is not shipped; its width is measured in another", content.FontFamily)
	}
	width := 0.0
	var words []string
	for k := range lines {
		line := strings.Join(strings.Fields(lines[k].content), " ")
		words = append(words, line)
		size := 0.0
		if face != nil {
			for _, a := range face.Text(line).Advance {
				size += a * content.FontSize
			}
			size += content.LetterSpacing * float64(len([]rune(line)))
		} else {
			size = 0.5 * content.FontSize * float64(len([]rune(line)))
		}
		width = max(width, size)
	}
	content.Content = strings.TrimSpace(strings.Join(words, "\n"))
	if content.Content == "" {
		return nil
	}
	up, down := 1.0, 0.25
	if face != nil {
		up, down = face.Ascent, face.Descent
	}
	content.LineHeight = tidy((up + down) * content.FontSize)
	if len(lines) > 1 {
		if step := (lines[len(lines)-1].y - lines[0].y) / float64(len(lines)-1) * m.scale(); step > 0 {
			content.LineHeight = tidy(step)
		}
	}
	px, py := m.at(lines[0].x, lines[0].y)
	switch style["text-anchor"] {
	case "middle":
		px, content.Align = px-width/2, "center"
	case "end":
		px, content.Align = px-width, "end"
	}
	// The baseline lies half the leading under the font's ascent.
	top := py - (content.LineHeight-(up+down)*content.FontSize)/2 - up*content.FontSize
	if !m.upright() {
		i.warn(e, "turned text is drawn upright")
	}
	return &Layer{Kind: Text, Name: nameOf(e, clean(words[0])), Fill: i.paint(e, style, "fill", "black"), Text: content,
		Bounds: tidyRect(Rect{px, top, width, content.LineHeight * float64(len(words))})}
}

// face finds the font of a text, or the first that is shipped.
func (i *importer) face(t *TextContent) (*font.Face, bool) {
	if i.fonts == nil || len(i.fonts.Names()) == 0 {
		return nil, false
	}
	if f := i.fonts.Face(t.FontFamily, t.FontWeight); f != nil {
		return f, true
	}
	return i.fonts.Face(i.fonts.Names()[0], t.FontWeight), false
}
