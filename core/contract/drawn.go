package contract

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// DrawnStyle reads a layer's look as CSS properties: values with {token.path}
// where the layer is bound to a token, raw CSS values elsewhere. The parent is
// nil for a variant's root. Properties at their initial value are left out.
func DrawnStyle(l, parent *design.Layer) Style {
	s := Style{}
	set := func(property, value string) {
		if path := l.Tokens[property]; path != "" {
			s[property] = "{" + path + "}"
		} else if value != "" {
			s[property] = value
		}
	}
	length := func(property string, v float64) {
		if v != 0 || l.Tokens[property] != "" {
			set(property, token.Number(v)+"px")
		}
	}
	drawnFlow(l, parent, s, set, length)
	drawnSize(l, parent, s, length)
	switch l.Kind {
	case design.Text:
		set("color", or(l.Fill, "#000000"))
		drawnText(l, s, set, length)
	case design.Vector:
		set("fill", or(l.Fill, "#000000"))
	default:
		set("background-color", l.Fill)
	}
	if l.Stroke != nil && l.Stroke.Width > 0 {
		length("border-width", l.Stroke.Width)
		s["border-style"] = "solid"
		set("border-color", l.Stroke.Color)
	}
	if r := l.Corners(); r != [4]float64{} || l.Tokens["border-radius"] != "" {
		set("border-radius", sides(r[0], r[1], r[2], r[3]))
	}
	if l.Opacity != nil && *l.Opacity != 1 {
		set("opacity", token.Number(*l.Opacity))
	}
	if l.Rotation != 0 {
		s["rotate"] = token.Number(l.Rotation) + "deg"
	}
	if l.Clip && len(l.Children) > 0 {
		s["overflow"] = "hidden"
	}
	return s
}

// BoundStyle is DrawnStyle with raw values that equal a token's turned into
// references to it.
func BoundStyle(l, parent *design.Layer, component string, tokens *token.Set) Style {
	s := DrawnStyle(l, parent)
	for property, v := range s {
		s[property] = bind(property, v, component, tokens)
	}
	return s
}

func drawnFlow(l, parent *design.Layer, s Style, set func(p, v string), length func(p string, v float64)) {
	if f := l.Flow; f != nil {
		s["display"] = "flex"
		switch f.Direction {
		case "column":
			s["flex-direction"] = "column"
		case "grid":
			s["display"] = "grid"
			s["grid-template-columns"] = or(f.Columns, "none")
		}
		if parent == nil && sizing(l).Width == "content" {
			s["display"] = "inline-" + s["display"]
		}
		if f.Wrap {
			s["flex-wrap"] = "wrap"
		}
		s["align-items"] = flexWord(f.Align)
		if f.Distribute != "" && f.Distribute != "start" {
			s["justify-content"] = flexWord(f.Distribute)
		}
		if f.Across != 0 && f.Across != f.Gap {
			set("gap", sides(f.Across, max(0, f.Gap)))
		} else {
			length("gap", max(0, f.Gap))
		}
		p := f.Sides()
		if p[0] != 0 || p[2] != 0 || l.Tokens["padding-block"] != "" {
			set("padding-block", sides(p[0], p[2]))
		}
		if p[1] != 0 || p[3] != 0 || l.Tokens["padding-inline"] != "" {
			set("padding-inline", sides(p[3], p[1]))
		}
		if slices.ContainsFunc(l.Children, (*design.Layer).Pinned) {
			s["position"] = "relative"
		}
	} else if len(l.Children) > 0 {
		s["position"] = "relative"
	}
	if parent != nil {
		drawnPlace(l, parent, s, length)
	}
}

// drawnPlace says how a layer stands in its parent.
func drawnPlace(l, parent *design.Layer, s Style, length func(p string, v float64)) {
	line := 0.0 // offsets are counted from the padding edge (CSS Positioned Layout 3, 3.1)
	if parent.Stroke != nil {
		line = parent.Stroke.Width
	}
	switch {
	case l.Pinned():
		s["position"] = "absolute"
		b, around := l.Bounds, parent.Bounds
		pinned(s, l.Place.Pins.Horizontal, "left", "right", b.X-line, around.Width-2*line, b.Width)
		pinned(s, l.Place.Pins.Vertical, "top", "bottom", b.Y-line, around.Height-2*line, b.Height)
		return
	case parent.Flow == nil:
		s["position"] = "absolute"
		length("left", l.Bounds.X-line)
		length("top", l.Bounds.Y-line)
		return
	}
	var offset design.Offset
	if l.Place != nil {
		if l.Place.Offset != nil {
			offset = *l.Place.Offset
		}
		if self := l.Place.Self; self != "" && parent.Flow.Direction == "grid" {
			s["justify-self"] = self
		} else if self != "" {
			s["align-self"] = flexWord(self)
		}
	}
	// CSS has no negative gaps: all but the first move over the one before.
	if gap := parent.Flow.Gap; gap < 0 && firstInFlow(parent) != l {
		if parent.Flow.Direction == "column" {
			offset.Y += gap
		} else {
			offset.X += gap
		}
	}
	length("margin-left", offset.X)
	length("margin-top", offset.Y)
}

// pinned keeps a layer's distance from an edge, or from the middle.
func pinned(s Style, to, low, high string, at, room, size float64) {
	px := func(v float64) string { return token.Number(v) + "px" }
	switch to {
	case "center":
		s[low] = "calc(50% - " + px(room/2-at) + ")"
	case high:
		s[high] = px(room - at - size)
	default:
		s[low] = px(at)
	}
}

func firstInFlow(parent *design.Layer) *design.Layer {
	for _, c := range parent.Children {
		if !c.Pinned() && !c.Hidden {
			return c
		}
	}
	return nil
}

func drawnSize(l, parent *design.Layer, s Style, length func(p string, v float64)) {
	size := sizing(l)
	direction := ""
	if parent != nil && parent.Flow != nil && !l.Pinned() {
		direction = parent.Flow.Direction
	}
	for _, axis := range []struct {
		sized, property, along string
		drawn                  float64
	}{{size.Width, "width", "row", l.Bounds.Width}, {size.Height, "height", "column", l.Bounds.Height}} {
		switch along := axis.along == direction; {
		case axis.sized == "fixed":
			length(axis.property, axis.drawn)
			if along {
				s["flex"] = "none"
			}
		case direction == "grid" && axis.property == "width":
			if axis.sized == "content" && s["justify-self"] == "" { // else it is stretched (CSS Box Alignment 3, 6.1)
				s["justify-self"] = "start"
			}
		case axis.sized == "fill" && along:
			s["flex"] = "1 1 0%"
			s["min-width"] = "0"
		case axis.sized == "fill" && direction != "":
			s["align-self"] = "stretch"
		case axis.sized == "fill":
			s[axis.property] = "100%"
		}
	}
	if (s["width"] != "" || s["height"] != "") && (s["padding-block"] != "" || s["padding-inline"] != "" || l.Stroke != nil) {
		s["box-sizing"] = "border-box"
	}
}

func drawnText(l *design.Layer, s Style, set func(p, v string), length func(p string, v float64)) {
	t := l.Text
	set("font-family", familyList(t.FontFamily))
	length("font-size", t.FontSize)
	set("font-weight", token.Number(t.FontWeight))
	length("line-height", t.LineHeight)
	length("letter-spacing", t.LetterSpacing)
	if t.Align != "" && t.Align != "start" {
		s["text-align"] = t.Align
	}
	switch {
	case strings.Contains(t.Content, "\n"):
		s["white-space"] = "pre-line"
	case sizing(l).Width == "content":
		s["white-space"] = "nowrap"
	}
}

// sizing fills in what a layer does not say: text and flowing layers are as
// large as their content, others are fixed.
func sizing(l *design.Layer) design.Sizing {
	usual := "fixed"
	if l.Kind == design.Text || l.Flow != nil {
		usual = "content"
	}
	return design.Sizing{Width: or(l.Sizing.Width, usual), Height: or(l.Sizing.Height, usual)}
}

func flexWord(align string) string {
	switch align {
	case "", "start":
		return "flex-start"
	case "end":
		return "flex-end"
	}
	return align
}

func familyList(name string) string {
	fallback := "sans-serif"
	if strings.Contains(strings.ToLower(name), "mono") {
		fallback = "monospace"
	}
	return token.CSSString(name) + ", " + fallback
}

func sides(v ...float64) string {
	words := make([]string, len(v))
	for i, n := range v {
		words[i] = token.Number(n) + "px"
	}
	return shorten(words)
}

func or(s, fallback string) string {
	if s == "" {
		return fallback
	}
	return s
}

// bind replaces raw values that equal a token's by references to it. Where
// several tokens fit equally well, the first named in the token files wins.
func bind(property, value, component string, tokens *token.Set) string {
	p, ok := PropertyNamed(property)
	if !ok || len(References(value)) > 0 || p.kind == free || p.kind == keyword {
		return value
	}
	want := Comparable(property, value, 0)
	if p.Initial == want {
		return value
	}
	best, bestScore := "", 0
	for _, t := range equals(p, want, tokens) {
		score := affinity(p, t.Path, component)
		// A length says little of itself: 4px is a gap, a radius, a stroke.
		if t.Type == "dimension" && score < 2 {
			continue
		}
		if score++; score > bestScore {
			best, bestScore = t.Path, score
		}
	}
	if best == "" {
		return value
	}
	return "{" + best + "}"
}

// equals lists the tokens a property takes that come to a value.
func equals(p Property, value string, tokens *token.Set) []*token.Token {
	var out []*token.Token
	for _, kind := range tokenTypes[p.kind] {
		for _, t := range tokens.WithValue(kind, value) {
			if t.Deprecated == "" {
				out = append(out, t)
			}
		}
	}
	return out
}

// affinity says how well a token's path speaks of a property and a component.
func affinity(p Property, path, component string) int {
	score := 0
	path = strings.ToLower(path)
	for _, hint := range p.hints {
		if strings.Contains(path, hint) {
			score = 2
			break
		}
	}
	for _, word := range words(component) {
		if strings.Contains(path, word) {
			return score + 1
		}
	}
	return score
}

// checkBindings reports bindings that lead nowhere and bindings whose token has
// another value than what was drawn.
func checkBindings(l *design.Layer, s Style, tokens *token.Set, found *problem.List) {
	for _, property := range s.Properties() {
		path := l.Tokens[property]
		if path == "" {
			continue
		}
		if t := tokens.Get(path); t == nil || t.Value == "" {
			fix := "add the token, or bind the layer to another"
			if near := tokens.Nearest(path); len(near) > 0 {
				fix = "did you mean " + strings.Join(near, " or ") + "?"
			}
			found.Errorf("layer-token", "", fix, "%s of the layer %s is bound to %s, which is not in the token files", property, l.ID, path)
			continue
		}
		bare := *l
		bare.Tokens = nil
		drawn := DrawnStyle(&bare, nil)[property]
		if drawn == "" {
			continue
		}
		if is, was := Comparable(property, Concrete(s[property], tokens), 0), Comparable(property, drawn, 0); is != was {
			found.Warnf("layer-stale", "", "redraw the layer, or bind it to another token",
				"%s of the layer %s is bound to %s, which is %s, but drawn %s", property, l.ID, path, is, was)
		}
	}
}

// words splits a name into lower-case words: "CropTag 2" is crop, tag, 2.
func words(name string) []string {
	var out []string
	var word strings.Builder
	flush := func() {
		if word.Len() > 0 {
			out = append(out, strings.ToLower(word.String()))
			word.Reset()
		}
	}
	lower := false
	for _, r := range name {
		switch {
		case r >= 'A' && r <= 'Z':
			if lower {
				flush()
			}
			word.WriteRune(r)
			lower = false
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			word.WriteRune(r)
			lower = true
		default:
			flush()
			lower = false
		}
	}
	flush()
	return out
}

// Identifier turns a drawn name into a camelCase identifier; the fallback is
// used when nothing of it can stand.
func Identifier(name, fallback string) string {
	var b strings.Builder
	for i, w := range words(name) {
		if i > 0 {
			w = strings.ToUpper(w[:1]) + w[1:]
		}
		b.WriteString(w)
	}
	s := b.String()
	if s == "" {
		return fallback
	}
	if s[0] >= '0' && s[0] <= '9' {
		return fallback + s
	}
	return s
}

// OptionOf turns an axis value into a choice's option: "Extra large" is
// "extra-large".
func OptionOf(value string) string {
	option := strings.Join(words(value), "-")
	if option == "" {
		return fmt.Sprintf("option-%x", value)
	}
	return option
}
