package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// longhands says what a shorthand for edges stands for, top edge first.
var longhands = map[string][4]string{
	"margin":       {"margin-top", "margin-right", "margin-bottom", "margin-left"},
	"padding":      {"padding-top", "padding-right", "padding-bottom", "padding-left"},
	"inset":        {"top", "right", "bottom", "left"},
	"border-width": {"border-top-width", "border-right-width", "border-bottom-width", "border-left-width"},
	"border-style": {"border-top-style", "border-right-style", "border-bottom-style", "border-left-style"},
}

// edges remembers which borders are drawn: a border without style has no width
// (CSS Backgrounds 3, 3.3).
type edges struct {
	width [2][2]float64
	drawn [2][2]bool
}

// edgeOf maps an edge named physically or logically to axis and end.
func (s *style) edgeOf(name string) (axis, edge int, ok bool) {
	switch name {
	case "left":
		return 0, 0, true
	case "right":
		return 0, 1, true
	case "top":
		return 1, 0, true
	case "bottom":
		return 1, 1, true
	case "inline-start", "inline-end", "block-start", "block-end":
		axis = s.axis(0)
		if strings.HasPrefix(name, "block") {
			axis = s.axis(1)
		}
		if strings.HasSuffix(name, "end") {
			edge = 1
		}
		if s.reversed[axis] {
			edge = 1 - edge
		}
		return axis, edge, true
	}
	return 0, 0, false
}

// setEdges reads margins, paddings, borders and insets.
func (c *cascade) setEdges(property, value string) (known bool, err error) {
	s := c.style
	if names, ok := longhands[property]; ok {
		words := split(value, ' ')
		if len(words) == 0 || len(words) > 4 {
			return true, fmt.Errorf("%q has not one to four values", value)
		}
		for i, from := range [4][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[len(words)-1] {
			if _, err := c.setEdges(names[i], words[from]); err != nil {
				return true, err
			}
		}
		return true, nil
	}
	if property == "border" {
		for _, side := range []string{"border-top", "border-right", "border-bottom", "border-left"} {
			if err := c.border(side, value); err != nil {
				return true, err
			}
		}
		return true, nil
	}
	for _, pair := range []string{"margin-inline", "margin-block", "padding-inline", "padding-block", "inset-inline", "inset-block"} {
		if property == pair {
			words := split(value, ' ')
			if len(words) == 0 || len(words) > 2 {
				return true, fmt.Errorf("%q has not one or two values", value)
			}
			if _, err := c.setEdges(pair+"-start", words[0]); err != nil {
				return true, err
			}
			return c.setEdges(pair+"-end", words[len(words)-1])
		}
	}
	for _, axis := range []string{"inline", "block"} {
		for _, what := range []string{"", "-width", "-style"} {
			if property == "border-"+axis+what {
				words := []string{value}
				if what != "" {
					words = split(value, ' ')
				}
				if len(words) == 0 || len(words) > 2 {
					return true, fmt.Errorf("%q has not one or two values", value)
				}
				if _, err := c.setEdges("border-"+axis+"-start"+what, words[0]); err != nil {
					return true, err
				}
				return c.setEdges("border-"+axis+"-end"+what, words[len(words)-1])
			}
		}
	}
	if axis, edge, ok := s.edgeOf(strings.TrimPrefix(property, "inset-")); ok {
		if value == "auto" {
			s.inset[axis][edge] = length{}
			return true, nil
		}
		l, err := c.length(value)
		if err == nil {
			s.inset[axis][edge] = l
		}
		return true, err
	}
	if name, ok := strings.CutPrefix(property, "margin-"); ok {
		if axis, edge, ok := s.edgeOf(name); ok {
			if value == "auto" {
				s.margin[axis][edge] = length{}
				return true, nil
			}
			l, err := c.length(value)
			if err == nil {
				s.margin[axis][edge] = l
			}
			return true, err
		}
	}
	if name, ok := strings.CutPrefix(property, "padding-"); ok {
		if axis, edge, ok := s.edgeOf(name); ok {
			l, err := c.size(value, "")
			if err == nil && l.kind != fixed {
				err = fmt.Errorf("%q is no padding", value)
			}
			if err == nil {
				s.padding[axis][edge] = l
			}
			return true, err
		}
	}
	if name, ok := strings.CutPrefix(property, "border-"); ok {
		side, what := name, ""
		for _, end := range []string{"-width", "-style"} {
			if cut, ok := strings.CutSuffix(name, end); ok {
				side, what = cut, end
			}
		}
		if axis, edge, ok := s.edgeOf(side); ok {
			switch what {
			case "-width":
				w, err := c.borderWidth(value)
				if err == nil {
					c.edges.width[axis][edge] = w
				}
				return true, err
			case "-style":
				c.edges.drawn[axis][edge] = value != "none" && value != "hidden"
				return true, nil
			}
			return true, c.border(property, value)
		}
	}
	return false, nil
}

func (c *cascade) borderWidth(value string) (float64, error) {
	if w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[value]; ok {
		return w, nil
	}
	l, err := c.size(value, "")
	if err != nil {
		return 0, err
	}
	if l.kind != fixed || l.relative() {
		return 0, fmt.Errorf("%q is no border width", value)
	}
	// A border is a whole number of device pixels, down to one (CSS Values 4,
	// 5.2: snap as a border width).
	if l.px > 0 && l.px < 1 {
		return 1, nil
	}
	return math.Floor(l.px), nil
}

var lineStyles = []string{"none", "hidden", "dotted", "dashed", "solid", "double", "groove", "ridge", "inset", "outset"}

// border reads the shorthand of one side: width, style and colour in any order.
func (c *cascade) border(side, value string) error {
	axis, edge, _ := c.style.edgeOf(strings.TrimPrefix(side, "border-"))
	width, drawn := 3.0, false
	for _, w := range split(value, ' ') {
		switch {
		case slices.Contains(lineStyles, w):
			drawn = w != "none" && w != "hidden"
		case w == "thin" || w == "medium" || w == "thick" || w[0] == '.' || w[0] >= '0' && w[0] <= '9' || strings.HasPrefix(w, "calc("):
			v, err := c.borderWidth(w)
			if err != nil {
				return err
			}
			width = v
		}
	}
	c.edges.width[axis][edge], c.edges.drawn[axis][edge] = width, drawn
	return nil
}
