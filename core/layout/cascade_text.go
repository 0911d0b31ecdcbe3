package layout

import (
	"cobrik/core/css"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// typeface is what of the font has to be known before other lengths can be.
type typeface struct {
	family string
	weight float64
	ratio  float64 // unitless line height; NaN when it is a length or normal
}

// setText reads the properties text is measured by.
func (c *cascade) setText(property, value string) (known bool, err error) {
	s := c.style
	switch property {
	case "direction":
		if value != "ltr" && value != "rtl" {
			return true, fmt.Errorf("%q is no direction", value)
		}
		s.reversed[s.inline] = value == "rtl"
		c.measures.vertical = s.inline == vertical
	case "writing-mode":
		rtl := s.reversed[s.inline]
		switch value {
		case "horizontal-tb":
			s.inline, s.reversed = horizontal, [2]bool{}
		case "vertical-rl", "sideways-rl":
			s.inline, s.reversed = vertical, [2]bool{horizontal: true}
		case "vertical-lr", "sideways-lr":
			s.inline, s.reversed = vertical, [2]bool{}
		default:
			return true, fmt.Errorf("%q is no writing mode", value)
		}
		s.reversed[s.inline] = rtl != (value == "sideways-lr")
		c.measures.vertical = s.inline == vertical
	case "font-size":
		m := c.measures
		if c.parent != nil { // relative to the parent's font (CSS Fonts 4, 2.5)
			m.font = c.parent.fontSize
		}
		l, err := readLength(value, &m)
		if err != nil {
			return true, err
		}
		size := l.resolve(m.font)
		if size < 0 {
			return true, fmt.Errorf("%q is negative", value)
		}
		s.fontSize = size
		if !isNaN(c.face.ratio) {
			s.lineHeight = c.face.ratio * size
		}
		c.refresh()
	case "font-weight":
		w, ok := map[string]float64{"normal": 400, "bold": 700}[value]
		if !ok {
			if w, err = strconv.ParseFloat(value, 64); err != nil || !(w >= 1 && w <= 1000) {
				return true, fmt.Errorf("%q is no weight from 1 to 1000", value)
			}
		}
		c.face.weight = w
		c.findFace()
	case "font-family":
		c.face.family = value
		c.findFace()
	case "font":
		return true, c.font(value)
	case "line-height":
		return true, c.lineHeight(value)
	case "letter-spacing", "word-spacing":
		v := 0.0
		if value != "normal" {
			l, err := c.length(value)
			if err != nil {
				return true, err
			}
			v = l.resolve(s.fontSize)
		}
		if property == "letter-spacing" {
			s.letter = v
		} else {
			s.word = v
		}
	case "text-indent":
		l, err := c.length(value)
		if err == nil {
			s.indent = l
		}
		return true, err
	case "white-space":
		if !slices.Contains([]string{"normal", "nowrap", "pre", "pre-wrap", "pre-line", "break-spaces"}, value) {
			return true, fmt.Errorf("%q is no white-space", value)
		}
		s.whiteSpace = value
	case "overflow-wrap", "word-wrap":
		if value != "normal" && value != "anywhere" && value != "break-word" {
			return true, fmt.Errorf("%q is no overflow-wrap", value)
		}
		s.breakWord, s.anywhere = value != "normal", value == "anywhere"
	case "word-break":
		if !slices.Contains([]string{"normal", "break-all", "keep-all", "break-word"}, value) {
			return true, fmt.Errorf("%q is no word-break", value)
		}
		s.breakAll, s.keepW = value == "break-all", value == "keep-all"
		if value == "break-word" { // CSS Text 3, 5.2: as overflow-wrap: anywhere
			s.breakWord, s.anywhere = true, true
		}
	default:
		return false, nil
	}
	return true, nil
}

// font reads the shorthand: [style] [weight] size[/line-height] family.
func (c *cascade) font(value string) error {
	words := split(value, ' ')
	c.face.weight = 400
	for i, w := range words {
		size, line, cut := strings.Cut(w, "/")
		if _, err := readLength(size, &c.measures); err == nil && size != "0" {
			if _, err := c.setText("font-size", size); err != nil {
				return err
			}
			if !cut {
				line = "normal"
			}
			if err := c.lineHeight(line); err != nil {
				return err
			}
			c.face.family = strings.Join(words[i+1:], " ")
			c.findFace()
			return nil
		}
		if _, err := c.setText("font-weight", w); err != nil && w != "normal" && w != "italic" && w != "oblique" {
			return fmt.Errorf("%q is no font", value)
		}
	}
	return fmt.Errorf("%q is no font: it has no size", value)
}

func (c *cascade) lineHeight(value string) error {
	s := c.style
	c.face.ratio = nan
	if value == "normal" {
		s.lineHeight = -1
		c.measures.line = s.normalLine()
		return nil
	}
	if ratio, err := strconv.ParseFloat(value, 64); err == nil {
		if !(ratio >= 0 && ratio < css.Largest) {
			return fmt.Errorf("%q is no line height of 0 or more", value)
		}
		c.face.ratio = ratio
		s.lineHeight = ratio * s.fontSize
	} else {
		l, err := c.size(value, "")
		if err != nil {
			return err
		}
		if l.kind != fixed {
			return fmt.Errorf("%q is no line height", value)
		}
		s.lineHeight = l.resolve(s.fontSize)
	}
	c.measures.line = s.lineHeight
	return nil
}

// findFace takes the first family of the list that is shipped. Without one,
// the first shipped family stands in, and that is said.
func (c *cascade) findFace() {
	if c.fonts == nil || len(c.fonts.Names()) == 0 {
		return
	}
	for _, name := range split(c.face.family, ',') {
		if f := c.fonts.Face(strings.Trim(name, `"' `), c.face.weight); f != nil {
			c.style.face = f
			c.refresh()
			return
		}
	}
	if c.face.family != "" {
		c.warn("font-family", "no font of %q is shipped; text is measured in %s", c.face.family, c.fonts.Names()[0])
	}
	c.style.face = c.fonts.Face(c.fonts.Names()[0], c.face.weight)
	c.refresh()
}
