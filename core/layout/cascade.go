package layout

import (
	"cobrik/core/css"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/font"
)

// inherited are the properties a box takes from its parent (the property
// definition tables of the specifications).
var inherited = []string{
	"direction", "font-family", "font-size", "font-weight", "letter-spacing", "line-height", "overflow-wrap", "text-align", "text-indent",
	"white-space", "word-break", "word-spacing", "word-wrap", "writing-mode",
}

// unsupported are properties that change a layout in ways the solver does not
// know, with the values that do not.
var unsupported = map[string][]string{
	"float": {"none"}, "clear": {"none"}, "columns": {"auto"}, "column-count": {"auto"}, "column-width": {"auto"},
	"grid-template-areas": {"none"}, "text-transform": {"none"}, "hyphens": {"none", "manual"}, "zoom": {"1", "normal"},
	"text-wrap": {"wrap"}, "vertical-align": {"baseline"}, "tab-size": {"8"}, "contain": {"none"},
}

// declaration is one property of a node with its value as written.
type declaration struct{ property, value string }

// declarations orders a node's style: JSON objects have no order, so the more
// special property wins, as if written later.
func declarations(style map[string]string) []declaration {
	out := make([]declaration, 0, len(style))
	for p, v := range style {
		out = append(out, declaration{strings.ToLower(strings.TrimSpace(p)), strings.ToLower(strings.TrimSpace(v))})
	}
	rank := func(p string) int {
		switch p {
		case "direction", "writing-mode":
			return 0
		case "font":
			return 1
		case "font-size", "font-family", "font-weight":
			return 2
		case "line-height":
			return 3
		case "border", "overflow", "flex", "grid-area", "grid-template", "place-content", "place-items", "place-self", "gap", "margin", "padding", "inset", "grid", "white-space":
			return 4
		case "border-width", "border-style":
			return 5
		case "border-top", "border-right", "border-bottom", "border-left", "border-inline", "border-block",
			"margin-inline", "margin-block", "padding-inline", "padding-block", "inset-inline", "inset-block", "flex-flow", "grid-row", "grid-column",
			"border-inline-width", "border-block-width", "border-inline-style", "border-block-style":
			return 6
		}
		return 7
	}
	slices.SortFunc(out, func(a, b declaration) int {
		if d := rank(a.property) - rank(b.property); d != 0 {
			return d
		}
		return strings.Compare(a.property, b.property)
	})
	return out
}

// initial is the style of a box that says nothing and has no parent: as an
// HTML div in the shipped font.
func initial(fonts *font.Library, root float64) style {
	s := style{shrink: 1, fontSize: root, lineHeight: -1, whiteSpace: "normal"}
	if fonts != nil && len(fonts.Names()) > 0 {
		s.face = fonts.Face(fonts.Names()[0], 400)
	}
	s.reset()
	return s
}

// reset sets every property that is not inherited to its initial value.
func (s *style) reset() {
	kept := *s
	*s = style{
		inline: kept.inline, reversed: kept.reversed, face: kept.face, fontSize: kept.fontSize, lineHeight: kept.lineHeight, letter: kept.letter,
		word: kept.word, indent: kept.indent, whiteSpace: kept.whiteSpace, breakWord: kept.breakWord, anywhere: kept.anywhere, breakAll: kept.breakAll, keepW: kept.keepW,
		shrink: 1, justifyContent: alignNormal, alignContent: alignNormal, justifyItems: alignNormal, alignItems: alignNormal,
	}
	s.max = [2]length{{kind: none}, {kind: none}}
	for axis := range 2 {
		for edge := range 2 {
			s.margin[axis][edge], s.padding[axis][edge] = px(0), px(0)
		}
	}
	s.gap = [2]length{px(0), px(0)}
}

// cascade computes the style of a node from its declarations and its parent's
// style. What is wrong is passed to report.
type cascade struct {
	style    *style
	face     *typeface
	measures measures
	fonts    *font.Library
	edges    edges
	alone    bool // it is the root: nothing stands beside it
	fits     bool // it is as wide as its content, unless it says otherwise
	parent   *style
	report   func(property, format string, args ...any)
	warn     func(property, format string, args ...any)
}

func (c *cascade) apply(list []declaration) {
	c.refresh()
	for _, d := range list {
		if len(d.value) > css.MaxValue {
			c.report(d.property, "the value has %d bytes; at most %d are read", len(d.value), css.MaxValue)
			continue
		}
		if err := c.set(d.property, d.value); err != nil {
			c.report(d.property, "%v", err)
		}
	}
	s := c.style
	if i := s.inline; c.fits && s.preferred[i].kind == auto {
		s.preferred[i] = length{kind: fitContent}
	}
	for axis := range 2 {
		for edge := range 2 {
			if c.edges.drawn[axis][edge] {
				s.border[axis][edge] = c.edges.width[axis][edge]
			}
		}
	}
	// CSS Overflow 3, 3.1: visible beside what scrolls becomes auto, clip
	// becomes hidden.
	if s.scrolls[0] != s.scrolls[1] {
		s.scrolls, s.clips = [2]bool{true, true}, [2]bool{true, true}
	}
	if s.scrolls[0] || s.display != displayBlock || s.container[0] || s.alignContent != alignNormal {
		s.contains = true
	}
}

// refresh makes the measures follow the font.
func (c *cascade) refresh() {
	s := c.style
	c.measures.font = s.fontSize
	c.measures.zero, c.measures.xHeight = s.fontSize/2, s.fontSize/2
	if s.face != nil {
		c.measures.zero = s.face.Zero * s.fontSize
	}
	c.measures.line = s.normalLine()
	c.measures.vertical = s.inline == vertical
}

func (c *cascade) length(value string) (length, error) { return readLength(value, &c.measures) }

// size reads a value of width, height and their bounds, or of flex-basis.
func (c *cascade) size(value string, words string) (length, error) {
	keywords := map[string]kind{"auto": auto, "none": none, "content": content, "min-content": minContent, "max-content": maxContent, "fit-content": fitContent}
	if k, ok := keywords[value]; ok && slices.Contains(strings.Fields(words+" min-content max-content fit-content"), value) {
		return length{kind: k}, nil
	}
	l, err := c.length(value)
	if err == nil && !l.isFunction() && (l.px < 0 && l.percent() <= 0 || l.percent() < 0 && l.px <= 0) {
		if strings.Contains(value, "(") { // what calc() gives is clamped to the allowed range (CSS Values 4, 10.12)
			return px(0), nil
		}
		return length{}, fmt.Errorf("%q is negative; a size is 0 or more", value)
	}
	return l, err
}

// sizeOf maps width, height, inline-size and block-size to an axis.
func (s *style) sizeOf(name string) (axis int, ok bool) {
	switch name {
	case "width":
		return 0, true
	case "height":
		return 1, true
	case "inline-size":
		return s.axis(0), true
	case "block-size":
		return s.axis(1), true
	}
	return 0, false
}

func (c *cascade) set(property, value string) error {
	s := c.style
	switch value {
	case "inherit", "initial", "unset", "revert", "revert-layer":
		if value == "unset" && slices.Contains(inherited, property) {
			return nil
		}
		return fmt.Errorf("%s is not read here; write the value", value)
	}
	if strings.Contains(value, "var(") || strings.Contains(value, "env(") {
		return fmt.Errorf("%q refers to something outside; write the value", value)
	}
	if ok, err := c.setEdges(property, value); ok {
		return err
	}
	if ok, err := c.setAlignment(property, value); ok {
		return err
	}
	if ok, err := c.setText(property, value); ok {
		return err
	}
	if ok, err := c.setGrid(property, value); ok {
		return err
	}
	switch property {
	case "display":
		switch value {
		case "block", "flow-root", "list-item":
			s.display = displayBlock
			s.contains = s.contains || value == "flow-root"
		case "flex", "grid", "inline-flex", "inline-grid":
			s.display = displayFlex
			if strings.HasSuffix(value, "grid") {
				s.display = displayGrid
			}
			c.inlineLevel(property, value)
		case "inline", "inline-block":
			s.contains = s.contains || value == "inline-block"
			c.inlineLevel(property, value)
		case "none":
		default:
			return fmt.Errorf("%q is not laid out; block, flex, grid, flow-root and none are", value)
		}
	case "position":
		at, ok := map[string]position{"static": static, "relative": relative, "absolute": absolute, "sticky": relative, "fixed": absolute}[value]
		if !ok {
			return fmt.Errorf("%q is no position", value)
		}
		if value == "sticky" || value == "fixed" {
			c.warn(property, "%q is laid out as %s: nothing scrolls here", value, map[position]string{relative: "relative", absolute: "absolute"}[at])
		}
		s.position = at
	case "box-sizing":
		if value != "border-box" && value != "content-box" {
			return fmt.Errorf("%q is no box-sizing", value)
		}
		s.borderBox = value == "border-box"
	case "overflow":
		words := strings.Fields(value)
		if len(words) == 0 || len(words) > 2 {
			return fmt.Errorf("%q is no overflow", value)
		}
		if err := c.overflow(0, words[0]); err != nil {
			return err
		}
		return c.overflow(1, words[len(words)-1])
	case "overflow-x":
		return c.overflow(0, value)
	case "overflow-y":
		return c.overflow(1, value)
	case "aspect-ratio":
		return c.aspect(value)
	case "order":
		n, err := strconv.Atoi(value)
		if err != nil {
			return fmt.Errorf("%q is no whole number", value)
		}
		s.order = n
	case "container-type":
		if value != "normal" && value != "inline-size" && value != "size" {
			return fmt.Errorf("%q is no container type", value)
		}
		s.container = [2]bool{value != "normal", value == "size"}
	case "flex-direction", "flex-wrap", "flex-flow", "flex", "flex-grow", "flex-shrink", "flex-basis":
		return c.setFlex(property, value)
	case "gap", "grid-gap":
		words := split(value, ' ')
		if len(words) == 0 || len(words) > 2 {
			return fmt.Errorf("%q is no gap", value)
		}
		if err := c.gap(1, words[0]); err != nil {
			return err
		}
		return c.gap(0, words[len(words)-1])
	case "row-gap", "grid-row-gap":
		return c.gap(1, value)
	case "column-gap", "grid-column-gap":
		return c.gap(0, value)
	default:
		if name, ok := strings.CutPrefix(property, "min-"); ok {
			if axis, ok := s.sizeOf(name); ok {
				l, err := c.size(value, "auto")
				if err == nil {
					s.min[axis] = l
				}
				return err
			}
		}
		if name, ok := strings.CutPrefix(property, "max-"); ok {
			if axis, ok := s.sizeOf(name); ok {
				l, err := c.size(value, "none")
				if err == nil {
					s.max[axis] = l
				}
				return err
			}
		}
		if axis, ok := s.sizeOf(property); ok {
			l, err := c.size(value, "auto")
			if err == nil {
				s.preferred[axis] = l
			}
			return err
		}
		if harmless, ok := unsupported[property]; ok && !slices.Contains(harmless, value) {
			c.warn(property, "%s changes a layout in a way that is not followed here", property)
		}
	}
	return nil
}

// inlineLevel makes a box that would stand in a line of a block as wide as its
// content: no others are put beside it.
func (c *cascade) inlineLevel(property, value string) {
	if c.parent.display != displayBlock || !strings.HasPrefix(value, "inline") {
		return
	}
	c.fits = value != "inline"
	if !c.alone {
		c.warn(property, "%q inside of a block is laid out as a block of its own", value)
	}
}

func (c *cascade) overflow(axis int, value string) error {
	switch value {
	case "visible":
		c.style.clips[axis], c.style.scrolls[axis] = false, false
	case "clip":
		c.style.clips[axis] = true
	case "hidden", "auto", "scroll":
		c.style.clips[axis], c.style.scrolls[axis] = true, true
	default:
		return fmt.Errorf("%q is no overflow", value)
	}
	return nil
}

func (c *cascade) aspect(value string) error {
	c.style.aspect = 0
	value = strings.TrimSpace(strings.ReplaceAll(value, "auto", ""))
	if value == "" {
		return nil
	}
	parts := split(value, '/')
	var numbers []float64
	for _, p := range parts {
		n, err := strconv.ParseFloat(p, 64)
		if err != nil || n < 0 || math.IsInf(n, 0) || isNaN(n) {
			return fmt.Errorf("%q is no ratio", value)
		}
		numbers = append(numbers, n)
	}
	if len(numbers) > 2 {
		return fmt.Errorf("%q is no ratio", value)
	}
	ratio := numbers[0]
	if len(numbers) == 2 {
		ratio /= numbers[1]
	}
	// A degenerate ratio behaves as auto (CSS Values 4, 5.2.1).
	if ratio > 0 && !math.IsInf(ratio, 0) && !isNaN(ratio) {
		c.style.aspect = ratio
	}
	return nil
}

func (c *cascade) gap(logical int, value string) error {
	if value == "normal" {
		c.style.gap[logical] = px(0)
		return nil
	}
	l, err := c.size(value, "")
	if err == nil && l.kind != fixed {
		err = fmt.Errorf("%q is no gap", value)
	}
	if err == nil {
		c.style.gap[logical] = l
	}
	return err
}
