package layout

import (
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

// longhands says what a shorthand for edges stands for, top edge first.
var longhands = map[string][4]string{
	"margin":       {"margin-top", "margin-right", "margin-bottom", "margin-left"},
	"padding":      {"padding-top", "padding-right", "padding-bottom", "padding-left"},
	"inset":        {"top", "right", "bottom", "left"},
	"border-width": {"border-top-width", "border-right-width", "border-bottom-width", "border-left-width"},
	"border-style": {"border-top-style", "border-right-style", "border-bottom-style", "border-left-style"},
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

// typeface is what of the font has to be known before other lengths can be.
type typeface struct {
	family string
	weight float64
	ratio  float64 // unitless line height; NaN when it is a length or normal
}

// edges remembers which borders are drawn: a border without style has no width
// (CSS Backgrounds 3, 3.3).
type edges struct {
	width [2][2]float64
	drawn [2][2]bool
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
		if len(d.value) > maxValue {
			c.report(d.property, "the value has %d bytes; at most %d are read", len(d.value), maxValue)
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
	if err == nil && l.fn == nil && (l.px < 0 && l.percent <= 0 || l.percent < 0 && l.px <= 0) {
		if strings.Contains(value, "(") { // what calc() gives is clamped to the allowed range (CSS Values 4, 10.12)
			return px(0), nil
		}
		return length{}, fmt.Errorf("%q is negative; a size is 0 or more", value)
	}
	return l, err
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

// setAlignment reads the properties of CSS Box Alignment 3.
func (c *cascade) setAlignment(property, value string) (known bool, err error) {
	s := c.style
	type target struct {
		at   *align
		safe *bool
	}
	targets := map[string]target{
		"justify-content": {&s.justifyContent, &s.safeJustify}, "align-content": {&s.alignContent, &s.safeAlign},
		"justify-items": {&s.justifyItems, &s.safeItems[0]}, "align-items": {&s.alignItems, &s.safeItems[1]},
		"justify-self": {&s.justifySelf, &s.safeJustifySelf}, "align-self": {&s.alignSelf, &s.safeSelf},
	}
	if t, ok := targets[property]; ok {
		safe := strings.HasPrefix(value, "safe ")
		word := strings.TrimPrefix(strings.TrimPrefix(value, "safe "), "unsafe ")
		a, ok := alignments[word]
		if !ok {
			return true, fmt.Errorf("%q is no value of %s", value, property)
		}
		*t.at, *t.safe = a, safe
		return true, nil
	}
	if suffix, ok := strings.CutPrefix(property, "place-"); ok && (suffix == "content" || suffix == "items" || suffix == "self") {
		words := strings.Fields(value)
		if len(words) == 0 || len(words) > 2 {
			return true, fmt.Errorf("%q has not one or two values", value)
		}
		if _, err := c.setAlignment("align-"+suffix, words[0]); err != nil {
			return true, err
		}
		return c.setAlignment("justify-"+suffix, words[len(words)-1])
	}
	return false, nil
}

// setFlex reads the properties of CSS Flexbox 1.
func (c *cascade) setFlex(property, value string) error {
	s := c.style
	factor := func(v string) (float64, error) {
		f, err := strconv.ParseFloat(v, 64)
		if err != nil || f < 0 || isNaN(f) || math.IsInf(f, 0) {
			return 0, fmt.Errorf("%q is no flex factor of 0 or more", v)
		}
		return f, nil
	}
	var err error
	switch property {
	case "flex-flow":
		for _, w := range strings.Fields(value) {
			p := "flex-direction"
			if strings.Contains(w, "wrap") {
				p = "flex-wrap"
			}
			if err := c.setFlex(p, w); err != nil {
				return err
			}
		}
	case "flex-direction":
		if !slices.Contains([]string{"row", "row-reverse", "column", "column-reverse"}, value) {
			return fmt.Errorf("%q is no direction", value)
		}
		s.flexColumn, s.flexBack = strings.HasPrefix(value, "column"), strings.HasSuffix(value, "reverse")
	case "flex-wrap":
		if !slices.Contains([]string{"nowrap", "wrap", "wrap-reverse"}, value) {
			return fmt.Errorf("%q is no flex-wrap", value)
		}
		s.wrap, s.wrapBack = value != "nowrap", value == "wrap-reverse"
	case "flex-grow":
		s.grow, err = factor(value)
	case "flex-shrink":
		s.shrink, err = factor(value)
	case "flex-basis":
		s.basis, err = c.size(value, "auto content")
	case "flex":
		return c.flex(value, factor)
	}
	return err
}

// flex reads the shorthand (CSS Flexbox 1, 7.1).
func (c *cascade) flex(value string, factor func(string) (float64, error)) error {
	s := c.style
	switch value {
	case "none":
		s.grow, s.shrink, s.basis = 0, 0, length{}
		return nil
	case "auto":
		s.grow, s.shrink, s.basis = 1, 1, length{}
		return nil
	}
	// Left out, the basis is 0%, which is content in what has no size: as
	// browsers do, not as 7.1.1 says.
	s.grow, s.shrink, s.basis = 1, 1, length{kind: fixed, percent: math.SmallestNonzeroFloat64}
	numbers, bases := 0, 0
	words := split(value, ' ')
	for _, w := range words {
		if f, err := factor(w); err == nil && numbers < 2 {
			if numbers == 0 {
				s.grow = f
			} else {
				s.shrink = f
			}
			numbers++
			continue
		}
		l, err := c.size(w, "auto content")
		if err != nil {
			return err
		}
		s.basis = l
		bases++
	}
	if numbers+bases == 0 || bases > 1 {
		return fmt.Errorf("%q is no flex", value)
	}
	return nil
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
		if !(ratio >= 0 && ratio < largest) {
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
