package design

import (
	"cobrik/core/css"
	"cobrik/core/font"
	"fmt"
	"math"
	"strings"
)

// Draw writes a layer tree as an SVG picture (SVG 2) as large as the layer.
// Every layer becomes an element with data-layer holding its id. Instances are
// drawn as their variant with the overrides; hidden layers are left out.
func (d *Document) Draw(l *Layer) string { return d.draw(l, &pen{doc: d}) }

// Picture is Draw of a layer where it is drawn for good: nothing in it says which layers it was
// drawn from.
func (d *Document) Picture(l *Layer) string { return d.draw(l, &pen{doc: d, bare: true}) }

func (d *Document) draw(l *Layer, p *pen) string {
	p.open(l.Bounds.Width, l.Bounds.Height, "")
	p.layer(l, 0, 0, nil)
	return p.close()
}

// DrawPage writes a page as an SVG picture.
func (d *Document) DrawPage(page *Page) string {
	p := &pen{doc: d}
	p.open(page.Width, page.Height, page.Background)
	for _, l := range page.Layers {
		p.layer(l, l.Bounds.X, l.Bounds.Y, nil)
	}
	return p.close()
}

// MaxInstances bounds instances inside instances: a family may hold itself.
const MaxInstances = 12

type pen struct {
	doc   *Document
	b     strings.Builder
	clips int
	depth int  // instances entered
	bare  bool // layers are not named
}

// name gives a name that nothing else in the picture has.
func (p *pen) name(l *Layer) string {
	p.clips++
	if p.bare {
		return fmt.Sprint(p.clips)
	}
	return fmt.Sprintf("%s-%d", esc(l.ID), p.clips)
}

func (p *pen) open(w, h float64, background string) {
	fmt.Fprintf(&p.b, `<svg xmlns="http://www.w3.org/2000/svg" width="%s" height="%s" viewBox="0 0 %s %s">`, num(w), num(h), num(w), num(h))
	if background != "" {
		fmt.Fprintf(&p.b, `<rect width="%s" height="%s" fill="%s"/>`, num(w), num(h), esc(background))
	}
}

func (p *pen) close() string {
	p.b.WriteString("</svg>")
	return p.b.String()
}

// layer draws a layer with its top left corner at x, y.
func (p *pen) layer(l *Layer, x, y float64, overrides []Override) {
	hidden, text := l.Hidden, ""
	if l.Text != nil {
		text = l.Text.Content
	}
	for _, o := range overrides {
		if o.Layer != l.Name {
			continue
		}
		if o.Hidden != nil {
			hidden = *o.Hidden
		}
		if o.Text != nil {
			text = *o.Text
		}
		if o.Asset != "" || o.Alt != nil {
			other := *l
			o.Picture(&other, p.doc.Asset)
			l = &other
		}
	}
	if hidden {
		return
	}
	p.b.WriteString("<g")
	if !p.bare {
		fmt.Fprintf(&p.b, ` data-layer="%s"`, esc(l.ID))
	}
	if x != 0 || y != 0 || l.Rotation != 0 {
		p.b.WriteString(` transform="`)
		if x != 0 || y != 0 {
			fmt.Fprintf(&p.b, "translate(%s %s)", num(x), num(y))
		}
		if l.Rotation != 0 {
			fmt.Fprintf(&p.b, " rotate(%s %s %s)", num(l.Rotation), num(l.Bounds.Width/2), num(l.Bounds.Height/2))
		}
		p.b.WriteByte('"')
	}
	if l.Opacity != nil && *l.Opacity < 1 {
		fmt.Fprintf(&p.b, ` opacity="%s"`, num(*l.Opacity))
	}
	if l.Blend != "" && l.Blend != "normal" {
		fmt.Fprintf(&p.b, ` style="mix-blend-mode:%s"`, esc(l.Blend))
	}
	p.b.WriteByte('>')
	switch l.Kind {
	case Text:
		p.text(l, text)
	case Vector:
		p.vector(l)
	case Image:
		p.image(l)
	case Instance:
		for _, held := range l.Children { // what it shows was put into it
			p.layer(held, 0, 0, nil)
		}
		if len(l.Children) == 0 {
			p.instance(l)
		}
	default:
		p.box(l)
		clip := l.Clip && len(l.Children) > 0
		if clip {
			id := p.name(l)
			line, w, h, corners := l.inside()
			fmt.Fprintf(&p.b, `<clipPath id="clip-%s"><path transform="translate(%s %s)" d="%s"/></clipPath><g clip-path="url(#clip-%s)">`, id, num(line[3]), num(line[0]), rounded(w, h, corners, 0), id)
		}
		for _, child := range l.Children {
			p.layer(child, child.Bounds.X, child.Bounds.Y, overrides)
		}
		if clip {
			p.b.WriteString("</g>")
		}
	}
	p.b.WriteString("</g>")
}

// fitted is the box that a picture of a size is drawn in to fill another as a fit says: cover when
// empty (CSS Images 3, 5.5). It is not left to the picture, which may bring no size of its own.
func fitted(fit string, asset *Asset, w, h float64) Rect {
	if fit == "fill" || asset.Width <= 0 || asset.Height <= 0 {
		return Rect{Width: w, Height: h}
	}
	scale := max(w/asset.Width, h/asset.Height)
	if fit == "contain" {
		scale = min(w/asset.Width, h/asset.Height)
	}
	out := Rect{Width: asset.Width * scale, Height: asset.Height * scale}
	out.X, out.Y = (w-out.Width)/2, (h-out.Height)/2
	return out
}

// image draws a picture of the document's assets, or what stands for one.
func (p *pen) image(l *Layer) {
	var asset *Asset
	if l.Image != nil {
		if asset = l.Image.Shown; asset == nil {
			asset = p.doc.Asset(l.Image.Asset)
		}
	}
	if asset == nil {
		p.placeholder(l)
		return
	}
	w, h := l.Bounds.Width, l.Bounds.Height
	id, at := p.name(l), fitted(l.Image.Fit, asset, l.Bounds.Width, l.Bounds.Height)
	fmt.Fprintf(&p.b, `<clipPath id="clip-%s"><path d="%s"/></clipPath><image clip-path="url(#clip-%s)" x="%s" y="%s" width="%s" height="%s" preserveAspectRatio="none" href="%s">`,
		id, rounded(w, h, l.Corners(), 0), id, num(at.X), num(at.Y), num(at.Width), num(at.Height), esc(asset.Source))
	if l.Alt != "" {
		fmt.Fprintf(&p.b, "<title>%s</title>", esc(l.Alt))
	}
	p.b.WriteString("</image>")
}

func (p *pen) vector(l *Layer) {
	box := l.Vector.ViewBox
	if box[2] <= 0 || box[3] <= 0 {
		return
	}
	fmt.Fprintf(&p.b, `<g transform="scale(%s %s) translate(%s %s)" fill="%s">`,
		num(l.Bounds.Width/box[2]), num(l.Bounds.Height/box[3]), num(-box[0]), num(-box[1]), esc(or(l.Fill, "#000000")))
	for _, path := range l.Vector.Paths {
		fmt.Fprintf(&p.b, `<path d="%s"`, esc(path.D))
		if path.Fill != "" {
			fmt.Fprintf(&p.b, ` fill="%s"`, esc(path.Fill))
		}
		if path.Rule != "" {
			fmt.Fprintf(&p.b, ` fill-rule="%s"`, esc(path.Rule))
		}
		if s := path.Stroke; s.Width > 0 {
			fmt.Fprintf(&p.b, ` stroke="%s" stroke-width="%s"`, esc(s.Color), num(s.Width))
			if s.Cap != "" {
				fmt.Fprintf(&p.b, ` stroke-linecap="%s"`, esc(s.Cap))
			}
			if s.Join != "" {
				fmt.Fprintf(&p.b, ` stroke-linejoin="%s"`, esc(s.Join))
			}
			if s.Miter != 0 {
				fmt.Fprintf(&p.b, ` stroke-miterlimit="%s"`, num(s.Miter))
			}
			if s.Dash != "" {
				fmt.Fprintf(&p.b, ` stroke-dasharray="%s" stroke-dashoffset="%s"`, esc(s.Dash), num(s.DashOffset))
			}
		}
		p.b.WriteString("/>")
	}
	p.b.WriteString("</g>")
}

// placeholder stands for a picture that the document does not carry.
func (p *pen) placeholder(l *Layer) {
	w, h := l.Bounds.Width, l.Bounds.Height
	fmt.Fprintf(&p.b, `<path d="%s" fill="%s"/><path d="M0 0L%s %sM%s 0L0 %s" stroke="#8a8378" stroke-width="1" fill="none"/>`,
		rounded(w, h, l.Corners(), 0), esc(or(l.Fill, "#d9d4ca")), num(w), num(h), num(w), num(h))
	if l.Alt != "" {
		fmt.Fprintf(&p.b, "<title>%s</title>", esc(l.Alt))
	}
}

func (p *pen) instance(l *Layer) {
	family := p.doc.Family(l.Instance.Family)
	if family == nil || p.depth >= MaxInstances {
		return
	}
	v := family.Variant(l.Instance.Choices)
	if v == nil {
		return
	}
	p.depth++
	p.layer(v.Root, 0, 0, l.Instance.Overrides)
	p.depth--
}

// metrics are a typeface's ascent and descent in em, which place the baseline
// in a line. Read off the shipped font files (their hhea table).
var metrics = map[string][2]float64{
	"Hanken Grotesk": {1.0, 0.303},
	"JetBrains Mono": {1.02, 0.3},
}

// extents are how far a text's font reaches above and below its baseline, in em.
func (t *TextContent) extents() (up, down float64) {
	m, known := metrics[t.FontFamily]
	if !known {
		m = [2]float64{0.93, 0.24} // a common face; only the picture depends on it
	}
	return m[0], m[1]
}

// baseline is how far below its top the first line's baseline lies: half the leading goes above, half below (CSS Inline 3, 5.1).
func (t *TextContent) baseline() float64 {
	up, down := t.extents()
	return (t.LineHeight-(up+down)*t.FontSize)/2 + up*t.FontSize
}

// genericFamilies are the fonts that a browser chooses (CSS Fonts 4, 2.1.2); their names are not quoted.
var genericFamilies = words("serif sans-serif monospace cursive fantasy system-ui ui-serif ui-sans-serif ui-monospace ui-rounded math emoji")

func (p *pen) text(l *Layer, content string) {
	t := l.Text
	anchor, x := "start", 0.0
	switch t.Align {
	case "center":
		anchor, x = "middle", l.Bounds.Width/2
	case "end":
		anchor, x = "end", l.Bounds.Width
	}
	fonts := css.Quote(t.FontFamily) + ", sans-serif"
	if genericFamilies[t.FontFamily] {
		fonts = t.FontFamily
	}
	fmt.Fprintf(&p.b, `<text font-family="%s" font-size="%s" font-weight="%s" fill="%s" text-anchor="%s" xml:space="preserve"`,
		esc(fonts), num(t.FontSize), num(t.FontWeight), esc(or(l.Fill, "#000000")), anchor)
	if t.LetterSpacing != 0 {
		fmt.Fprintf(&p.b, ` letter-spacing="%s"`, num(t.LetterSpacing))
	}
	if t.Style != "" {
		fmt.Fprintf(&p.b, ` font-style="%s"`, esc(t.Style))
	}
	if t.Line != "" {
		fmt.Fprintf(&p.b, ` text-decoration="%s"`, esc(t.Line))
	}
	p.b.WriteByte('>')
	baseline := t.baseline()
	for i, line := range runLines(t, content, brokenAt(l, content)) {
		fmt.Fprintf(&p.b, `<tspan x="%s" y="%s">`, num(x), num(baseline+float64(i)*t.LineHeight))
		for _, r := range line {
			if look := runLook(r); look != "" {
				fmt.Fprintf(&p.b, `<tspan%s>%s</tspan>`, look, esc(r.Text))
			} else {
				p.b.WriteString(esc(r.Text))
			}
		}
		p.b.WriteString("</tspan>")
	}
	p.b.WriteString("</text>")
}

// brokenAt gives the characters that lines begin with after the first, where a text is as wide as
// its box says and does not break its lines itself.
func brokenAt(l *Layer, content string) (out []int) {
	t := l.Text
	if l.Sizing.Width == "" || l.Sizing.Width == "content" || strings.Contains(content, "\n") {
		return nil
	}
	face := font.Shipped().Face(t.FontFamily, t.FontWeight)
	if face == nil {
		return nil
	}
	at := 0.0
	for i, p := range face.Text(content).Pieces {
		bare := p.Width*t.FontSize + float64(p.Count)*t.LetterSpacing
		if i > 0 && at+bare > l.Bounds.Width+0.05 {
			out, at = append(out, p.Start), 0
		}
		at += bare + p.Space*t.FontSize + float64(p.SpaceCount)*t.LetterSpacing
	}
	return out
}

// runLines gives the runs of each line; a text that was put in the content's place is one run.
// Lines end at line feeds, and before the characters that are broken at.
func runLines(t *TextContent, content string, broken []int) [][]Run {
	runs := t.Runs
	if runs == nil || content != t.Content {
		runs = []Run{{Text: content}}
	}
	lines := [][]Run{nil}
	at := 0
	for _, r := range runs {
		piece := r
		piece.Text = ""
		flush := func() {
			if piece.Text != "" {
				lines[len(lines)-1] = append(lines[len(lines)-1], piece)
				piece.Text = ""
			}
		}
		for _, c := range r.Text {
			if c == '\n' || len(broken) > 0 && broken[0] == at {
				flush()
				lines = append(lines, nil)
				if c != '\n' {
					broken = broken[1:]
				}
			}
			if c != '\n' {
				piece.Text += string(c)
			}
			at++
		}
		flush()
	}
	return lines
}

// runLook gives a run's look as attributes, as browsers show the elements it becomes (HTML, 15.3.4).
func runLook(r Run) (out string) {
	if r.Strong {
		out += ` font-weight="700"`
	}
	if r.Emphasis {
		out += ` font-style="italic"`
	}
	return out
}

func num(v float64) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return "0"
	}
	return css.FormatNumber(v)
}

func or(s, fallback string) string {
	if s == "" {
		return fallback
	}
	return s
}

var escaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "'", "&#39;")

// esc makes text safe in XML; characters XML 1.0 does not allow are dropped.
func esc(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < 0x20 && r != '\t' && r != '\n' && r != '\r' || r == 0xFFFE || r == 0xFFFF {
			return -1
		}
		return r
	}, s)
	return escaper.Replace(s)
}
