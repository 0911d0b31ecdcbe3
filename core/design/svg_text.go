package design

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"github.com/beevik/etree"

	"cobrik/core/font"
)

// maxLetters bounds the letters of one text.
const maxLetters = 20_000

// letter is one character of a text, with where it says that it stands (SVG 2, 11).
type letter struct {
	r       rune
	e       *etree.Element
	style   map[string]string
	x, y    float64 // NaN when not said
	dx, dy  float64
	blended bool // its place is said in a list, after the first
}

// textPiece is a run of letters of one look in one place, in the text's user units.
type textPiece struct {
	e           *etree.Element
	style       map[string]string
	text        string
	x, y, width float64 // of the baseline
	chunk       int     // pieces of one chunk stand one after another
	anchor      string  // of the chunk
	at          float64 // where the chunk is anchored
	alone       bool    // in its chunk
	spacing     float64 // between letters
	face        *font.Face
	shipped     bool
}

// places are the lists of an element that say where its letters stand.
type places struct {
	x, y, dx, dy []float64
	used         int
}

// letters reads the characters of a text, white space collapsed; false where they stand in a way that text layers cannot.
func (i *importer) letters(e *etree.Element, at *scope) (out []letter, ok bool) {
	ok = true
	space := true // one before is dropped
	var walk func(e *etree.Element, style map[string]string, around []*places)
	walk = func(e *etree.Element, style map[string]string, around []*places) {
		own := &places{x: i.lengths(e, at, style, "x"), y: i.lengths(e, at, style, "y"), dx: i.lengths(e, at, style, "dx"), dy: i.lengths(e, at, style, "dy")}
		if turned := i.rotations(e); turned || e.Tag == "textPath" {
			ok = false
		}
		around = append(around, own)
		for _, t := range e.Child {
			switch t := t.(type) {
			case *etree.CharData:
				for _, r := range t.Data {
					if len(out) >= maxLetters {
						i.warn(e, "it has more than %d letters", maxLetters)
						return
					}
					if r == '\n' || r == '\t' || r == '\r' {
						r = ' '
					}
					kept := strings.HasPrefix(style["white-space"], "pre")
					if r == ' ' && space && !kept {
						continue
					}
					space = r == ' ' && !kept
					one := letter{r: r, e: e, style: style, x: math.NaN(), y: math.NaN()}
					for k := len(around) - 1; k >= 0; k-- {
						p := around[k]
						n := p.used
						if math.IsNaN(one.x) && n < len(p.x) {
							one.x, one.blended = p.x[n], n > 0
						}
						if math.IsNaN(one.y) && n < len(p.y) {
							one.y = p.y[n]
						}
						if one.dx == 0 && n < len(p.dx) {
							one.dx = p.dx[n]
							one.blended = one.blended || n > 0
						}
						if one.dy == 0 && n < len(p.dy) {
							one.dy = p.dy[n]
						}
						p.used++
					}
					out = append(out, one)
				}
			case *etree.Element:
				if !i.ofSVG(t) || silent[t.Tag] {
					continue
				}
				if t.Tag != "tspan" && t.Tag != "a" && t.Tag != "textPath" {
					if loudElements[t.Tag] == "" {
						i.warn(t, "within text it is not known here, and left out")
					}
					continue
				}
				if inner := i.styleOf(t, style); inner["display"] != "none" {
					walk(t, inner, around)
				}
			}
		}
	}
	walk(e, at.style, nil)
	for len(out) > 0 && out[len(out)-1].r == ' ' && !strings.HasPrefix(out[len(out)-1].style["white-space"], "pre") {
		out = out[:len(out)-1]
	}
	return out, ok
}

// lengths reads a list of lengths of a text or tspan.
func (i *importer) lengths(e *etree.Element, at *scope, style map[string]string, name string) (out []float64) {
	own := scope{m: at.m, style: style, view: at.view}
	whole := at.view[0]
	if name == "y" || name == "dy" {
		whole = at.view[1]
	}
	for _, word := range strings.FieldsFunc(e.SelectAttrValue(name, ""), func(r rune) bool { return strings.ContainsRune(" ,\t\r\n", r) }) {
		if len(out) >= maxLetters {
			break
		}
		out = append(out, i.length(e, &own, word, whole, 0))
	}
	return out
}

// rotations tells whether letters are turned one by one.
func (i *importer) rotations(e *etree.Element) bool {
	v, err := numbersUntil(e.SelectAttrValue("rotate", ""))
	return err != nil || slices.ContainsFunc(v, func(n float64) bool { return n != 0 })
}

// textLook are the properties that pieces of one text layer share.
var textLook = strings.Fields("font-family font-size font-weight font-style letter-spacing fill fill-opacity color text-decoration-line text-transform dominant-baseline alignment-baseline baseline-shift visibility stroke opacity")

func sameLook(a, b map[string]string) bool {
	for _, p := range textLook {
		if a[p] != b[p] {
			return false
		}
	}
	return true
}

// set places the letters of a text in pieces; false where text layers cannot show it.
func (i *importer) set(e *etree.Element, at *scope) (pieces []textPiece, ok bool) {
	all, ok := i.letters(e, at)
	x, y := 0.0, 0.0
	chunk := -1
	reached := 0.0 // by the letters of the last piece, one by one
	for n, l := range all {
		size := fontSize(l.style)
		placed := !math.IsNaN(l.x) || !math.IsNaN(l.y) || n == 0
		if l.blended && len(pieces) > 0 && (math.IsNaN(l.y) || math.Abs(l.y-y) < 0.01) && l.dy == 0 {
			// A letter of a list that stands about where the font would have it goes on with the word.
			last := &pieces[len(pieces)-1]
			off := l.dx
			if !math.IsNaN(l.x) {
				off = l.x - (last.x + reached)
			}
			if math.Abs(off) < 0.35*size {
				if math.Abs(off) > 0.02*size {
					i.warn(e, "its letters are placed one by one; they are set as the font has them")
				}
				placed, l.x, l.y, l.dx = false, math.NaN(), math.NaN(), 0
			}
		}
		if placed {
			chunk++
			if !math.IsNaN(l.x) {
				x = l.x
			} else if len(pieces) > 0 {
				i.measure(&pieces[len(pieces)-1], at)
				x = pieces[len(pieces)-1].x + pieces[len(pieces)-1].width
			}
			if !math.IsNaN(l.y) {
				y = l.y
			}
		}
		if !placed && len(pieces) > 0 {
			last := &pieces[len(pieces)-1]
			if l.dx == 0 && l.dy == 0 && (l.e == last.e || sameLook(l.style, last.style)) {
				last.text += string(l.r)
				reached += i.advance(last, l.r, at)
				continue
			}
			i.measure(last, at)
			x = last.x + last.width
		}
		x, y = x+l.dx, y+l.dy
		anchor := known(l.style["text-anchor"], "middle", "end")
		if !placed && len(pieces) > 0 {
			anchor = pieces[len(pieces)-1].anchor
		}
		pieces = append(pieces, textPiece{e: l.e, style: l.style, text: string(l.r), x: x, y: y, chunk: chunk, anchor: anchor, at: x})
		reached = i.advance(&pieces[len(pieces)-1], l.r, at)
	}
	for from := 0; from < len(pieces); {
		to := from + 1
		i.measure(&pieces[from], at)
		for to < len(pieces) && pieces[to].chunk == pieces[from].chunk {
			i.measure(&pieces[to], at)
			pieces[to].at = pieces[from].at
			to++
		}
		last := pieces[to-1]
		part := map[string]float64{"middle": 0.5, "end": 1}[pieces[from].anchor]
		shift := (last.x + last.width - pieces[from].at) * part
		for k := from; k < to; k++ {
			pieces[k].x -= shift
			pieces[k].alone = to-from == 1
		}
		from = to
	}
	return pieces, ok
}

// advance is how far a letter of a piece reaches by itself.
func (i *importer) advance(p *textPiece, r rune, at *scope) float64 {
	one := *p
	one.text = string(r)
	i.measure(&one, at)
	p.face, p.shipped, p.spacing = one.face, one.shipped, one.spacing
	return one.width
}

// measure finds a piece's width; where its font is not shipped, that of another.
func (i *importer) measure(p *textPiece, at *scope) {
	text := shownCase(p.text, p.style)
	if p.face == nil {
		p.face, p.shipped = i.face(familyOf(p.style), fontWeight(p.style))
		p.spacing = i.length(p.e, at, strings.Replace(p.style["letter-spacing"], "normal", "", 1), 0, 0)
	}
	size := fontSize(p.style)
	count := float64(len([]rune(text)))
	p.width = 0.5 * size * count
	if p.face != nil {
		p.width = 0
		for _, a := range p.face.Text(text).Advance {
			p.width += a * size
		}
	}
	p.width += p.spacing * count
}

// shownCase gives a text as its style shows it (CSS Text 3, 2.1).
func shownCase(text string, style map[string]string) string {
	switch style["text-transform"] {
	case "uppercase":
		return strings.ToUpper(text)
	case "lowercase":
		return strings.ToLower(text)
	}
	return text
}

// familyOf gives the first font of a style; where none is said browsers take one with serifs: common practice, no source.
func familyOf(style map[string]string) string {
	first, _, _ := strings.Cut(style["font-family"], ",")
	return cmp.Or(clean(strings.Trim(trim(first), `"'`)), "serif")
}

// face finds the font of a text, or the first that is shipped.
func (i *importer) face(family string, weight float64) (*font.Face, bool) {
	if i.fonts == nil || len(i.fonts.Names()) == 0 {
		return nil, false
	}
	if f := i.fonts.Face(family, weight); f != nil {
		return f, true
	}
	return i.fonts.Face(i.fonts.Names()[0], weight), false
}

// text makes text layers of a text: one for each place and look, lines that follow one another evenly as one; a picture of
// what is set as no text layer is.
func (i *importer) text(e *etree.Element, parent, at *scope) *Layer {
	pieces, ok := i.set(e, at)
	if len(pieces) == 0 {
		return nil
	}
	degrees, turned := at.m.turned()
	otherwise := ""
	switch {
	case !ok:
		otherwise = "its letters are turned, or run along a path"
	case !turned:
		otherwise = "it is skewed, stretched or mirrored"
	case at.style["writing-mode"] != "" && !strings.HasPrefix(at.style["writing-mode"], "horizontal") && !strings.HasPrefix(at.style["writing-mode"], "lr") && !strings.HasPrefix(at.style["writing-mode"], "rl"):
		otherwise = "it runs down"
	case e.SelectAttrValue("textLength", "") != "" && (e.SelectAttrValue("lengthAdjust", "") == "spacingAndGlyphs" || len(pieces) > 1):
		otherwise = "it is stretched to a length"
	}
	inks := make([]ink, len(pieces))
	for k, p := range pieces {
		inks[k] = i.paint(p.e, p.style, "fill", "black")
		if stroke := i.paint(p.e, p.style, "stroke", ""); !stroke.none() && i.length(p.e, at, p.style["stroke-width"], 0, 1) > 0 {
			otherwise = cmp.Or(otherwise, "its letters are outlined")
		}
		if inks[k].server != nil {
			otherwise = cmp.Or(otherwise, "it is painted with a gradient or a pattern")
		}
		if p.e != e && p.e.SelectAttrValue("textLength", "") != "" {
			otherwise = cmp.Or(otherwise, "it is stretched to a length")
		}
	}
	if otherwise != "" {
		i.warn(e, "%s: it becomes a picture, whose words are set in a font of the reader's own, and are no text", otherwise)
		return i.picture(e, parent, at)
	}
	var layers []*Layer
	for from := 0; from < len(pieces); {
		to := from + i.oneLayer(pieces[from:], inks[from:])
		if l := i.textLayer(e, pieces[from:to], inks[from], at, degrees); l != nil {
			layers = append(layers, l)
		}
		from = to
	}
	switch len(layers) {
	case 0:
		return nil
	case 1:
		return layers[0]
	}
	for _, l := range layers {
		l.ID = i.idOf(e, "text")
	}
	out := group(layers)
	out.Name = nameOf(e, layers[0].Name)
	return out
}

// oneLayer tells how many pieces make one text layer: runs that are bold or slanted, or lines of one look.
func (i *importer) oneLayer(p []textPiece, inks []ink) int {
	n := 1
	for n < len(p) && p[n].chunk == p[0].chunk && inks[n] == inks[0] && runOf(p[0].style, p[n].style) != nil && math.Abs(p[n].y-p[0].y) < 1e-6 && math.Abs(p[n].x-p[n-1].x-p[n-1].width) < 1e-6 {
		n++
	}
	if n > 1 {
		return n
	}
	step := 0.0
	for n < len(p) && p[n].chunk != p[n-1].chunk && sameLook(p[0].style, p[n].style) && p[n].anchor == p[0].anchor && math.Abs(p[n].at-p[0].at) < 0.01 && (n+1 == len(p) || p[n+1].chunk != p[n].chunk) {
		down := p[n].y - p[n-1].y
		if size := fontSize(p[0].style); down < 0.7*size || down > 3*size || n > 1 && math.Abs(down-step) > 0.05*size {
			break
		}
		step = down
		n++
	}
	return n
}

// runOf gives the run that a look is within a text of another look: bold or slanted, and nothing else; nil for any other.
func runOf(base, style map[string]string) *Run {
	for _, p := range textLook {
		if p != "font-weight" && p != "font-style" && base[p] != style[p] {
			return nil
		}
	}
	out := &Run{}
	if w, was := fontWeight(style), fontWeight(base); w != was {
		if w != 700 {
			return nil
		}
		out.Strong = true
	}
	if s := style["font-style"]; s != base["font-style"] {
		if s != "italic" && s != "oblique" {
			return nil
		}
		out.Emphasis = true
	}
	return out
}

// textLayer makes a text layer of pieces that are its lines or runs.
func (i *importer) textLayer(e *etree.Element, p []textPiece, k ink, at *scope, degrees float64) *Layer {
	first := p[0]
	s := at.m.scale()
	t := &TextContent{FontFamily: familyOf(first.style), FontSize: tidy(fontSize(first.style) * s), FontWeight: fontWeight(first.style), LetterSpacing: tidy(first.spacing * s)}
	if t.FontSize <= 0 || k.none() {
		return nil
	}
	if t.FontSize > 2000 {
		i.warn(e, "its letters are larger than 2000 px, and drawn so large")
		t.FontSize = 2000
	}
	i.tellOfFont(e, first, t)
	if style := first.style["font-style"]; style == "italic" || strings.HasPrefix(style, "oblique") {
		t.Style = "italic"
	}
	t.Line = known(first.style["text-decoration-line"], "underline", "line-through")
	up, down := t.extents()
	t.LineHeight = tidy((up + down) * t.FontSize)
	width := 0.0
	var lines []string
	if n := len(p); n > 1 && p[1].chunk == p[0].chunk {
		whole := ""
		for _, one := range p {
			r := runOf(first.style, one.style)
			r.Text = shownCase(one.text, one.style)
			whole += r.Text
			t.Runs = append(t.Runs, *r)
			width += one.width
		}
		lines = []string{whole}
	} else {
		for _, one := range p {
			line := shownCase(one.text, one.style)
			if one.alone { // else what comes after it stands apart by its space
				line = strings.TrimRight(line, " ")
			}
			lines = append(lines, line)
			width = max(width, one.width)
		}
		if n > 1 {
			t.LineHeight = tidy((p[n-1].y - p[0].y) / float64(n-1) * s)
		}
	}
	t.Content = strings.Join(lines, "\n")
	if trim(t.Content) == "" || len(t.Content) > 20_000 {
		return nil
	}
	if said := e.SelectAttrValue("textLength", ""); said != "" && len(p) == 1 && first.e == e {
		if n := float64(len([]rune(t.Content))); n > 1 {
			long := i.length(e, at, said, at.view[0], width)
			t.LetterSpacing = tidy((first.spacing + (long-width)/(n-1)) * s)
			width = long
		}
	}
	left := first.x
	switch {
	case !first.alone: // it stands where those before it end
	case first.anchor == "middle":
		t.Align, left = "center", first.at-width/2
	case first.anchor == "end":
		t.Align, left = "end", first.at-width
	}
	// The baseline lies on the first piece's; the box is turned about its middle.
	y := first.y + i.baselineShift(e, first, t, s)
	w, h := width*s, t.LineHeight*float64(len(lines))
	x0, y0 := at.m.at(left, y)
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	dx, dy := w/2, h/2-t.baseline()
	cx, cy := x0+dx*cos-dy*sin, y0+dx*sin+dy*cos
	l := &Layer{Kind: Text, Name: cmp.Or(labelOf(e), clean(lines[0])), Fill: k.color, Text: t, Bounds: tidyRect(Rect{cx - w/2, cy - h/2, w, h}), Hidden: invisible(first.style)}
	if math.Abs(degrees) > 1e-6 {
		l.Rotation = tidy(degrees)
	}
	if opacity := fraction(first.style["opacity"]); first.e != e && opacity < 1 {
		l.Opacity = &opacity
	}
	return l
}

// tellOfFont names what of a text's font is not kept.
func (i *importer) tellOfFont(e *etree.Element, p textPiece, t *TextContent) {
	if !p.shipped {
		i.warn(e, "its font %s is not shipped; its width is measured in another", t.FontFamily)
	}
	if v := p.style["text-transform"]; v == "uppercase" || v == "lowercase" {
		i.warn(e, "its words are kept in the case they are shown in")
	} else if v != "" && v != "none" {
		i.warn(e, "text-transform %s is not kept", clean(v))
	}
	for _, property := range []string{"font-variant", "font-stretch", "word-spacing"} {
		if v := p.style[property]; v != "" && v != "normal" && v != "0" && v != "100%" {
			i.warn(e, "%s is not kept", property)
		}
	}
	if own := i.declared(p.e)["text-decoration-line"]; p.e != e && known(p.style["text-decoration-line"], "underline", "line-through") != "" && (own == "" || own == "none") && i.declared(p.e)["fill"] != "" {
		i.warn(p.e, "the line that goes on from around it has its own colour here")
	}
	if v := p.style["text-decoration-line"]; v == "overline" {
		i.warn(e, "the line over it is not kept")
	}
	if p.style["direction"] == "rtl" {
		i.warn(e, "it runs from the right, and is set from the left")
	}
}

// baselineShift is how far below its place a text's baseline lies, in user units, by the line that its place is of (CSS
// Inline 3, dominant-baseline; the parts of the font's size are read off Chromium).
func (i *importer) baselineShift(e *etree.Element, p textPiece, t *TextContent, s float64) float64 {
	size := fontSize(p.style)
	up, down := t.extents()
	line := p.style["dominant-baseline"]
	if v := p.style["alignment-baseline"]; p.e != e && v != "" && v != "auto" && v != "baseline" {
		line = v
	}
	out := 0.0
	switch line {
	case "middle":
		x := 0.5
		if p.face != nil && p.shipped {
			x = xHeights[t.FontFamily]
		}
		out = x / 2 * size
	case "central":
		out = (up - down) / 2 * size
	case "hanging":
		out = 0.8 * up * size
	case "mathematical":
		out = up / 2 * size
	case "text-before-edge", "text-top", "before-edge":
		out = up * size
	case "text-after-edge", "text-bottom", "after-edge", "ideographic":
		out = -down * size
	}
	switch shift := p.style["baseline-shift"]; shift {
	case "", "baseline", "0":
	case "super":
		out -= (up + down) / 2 * size
	case "sub":
		out += (up + down) / 2 * size
	default:
		if v, ok := i.lengthIn(shift, size, size*(up+down)); ok {
			out -= v
		} else {
			i.warn(e, "baseline-shift %s is not kept", clean(shift))
		}
	}
	return out
}

// xHeights are the heights of a small x in em, read off the shipped font files (their OS/2 table).
var xHeights = map[string]float64{"Hanken Grotesk": 0.5, "JetBrains Mono": 0.55}

// aroundText is the box of a text's pieces.
func (i *importer) aroundText(e *etree.Element, at *scope) (out Rect, ok bool) {
	pieces, _ := i.set(e, at)
	for _, p := range pieces {
		size := fontSize(p.style)
		r := at.m.rect(grown(Rect{p.x, p.y - size, max(p.width, size), 1.3 * size}, 0.3*size))
		if !ok {
			out, ok = r, true
		}
		out = union(out, r)
	}
	return out, ok
}
