package design

import (
	"cobrik/core/font"
	"github.com/beevik/etree"
	"strings"
)

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
