package draft

import (
	"cmp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/token"
)

// StyleOf reads a layer's look as CSS properties: values with {token.path}
// where the layer is bound to a token, raw CSS values elsewhere. The parent is
// nil for a variant's root. Properties at their initial value are left out.
func StyleOf(l, parent *design.Layer) contract.Style {
	s := contract.Style{}
	set := func(property, value string) {
		if path := l.Tokens[property]; path != "" {
			s[property] = "{" + path + "}"
		} else if value != "" {
			s[property] = value
		}
	}
	length := func(property string, v float64) {
		if v != 0 || l.Tokens[property] != "" {
			set(property, css.FormatNumber(v)+"px")
		}
	}
	drawnFlow(l, parent, s, set, length)
	drawnSize(l, parent, s, length)
	switch l.Kind {
	case design.Text:
		set("color", cmp.Or(l.Fill, "#000000"))
		drawnText(l, s, set, length)
	case design.Vector:
		set("fill", cmp.Or(l.Fill, "#000000"))
	default:
		set("background-color", l.Fill)
	}
	if l.Stroke != nil && l.Stroke.Width > 0 {
		length("border-width", l.Stroke.Width)
		s["border-style"] = "solid"
		set("border-color", l.Stroke.Color)
	}
	if r := l.Corners(); r != [4]float64{} || l.Tokens["border-radius"] != "" {
		set("border-radius", sides("border-radius", r[0], r[1], r[2], r[3]))
	}
	if l.Opacity != nil && *l.Opacity != 1 {
		set("opacity", css.FormatNumber(*l.Opacity))
	}
	if l.Rotation != 0 {
		s["rotate"] = css.FormatNumber(l.Rotation) + "deg"
	}
	if l.Clip && len(l.Children) > 0 {
		s["overflow"] = "hidden"
	}
	return s
}

// StyleWithTokens is StyleOf with raw values that equal a token's turned into
// references to it.
func StyleWithTokens(l, parent *design.Layer, component string, tokens *token.Set) contract.Style {
	s := StyleOf(l, parent)
	for property, v := range s {
		s[property] = bind(property, v, component, tokens)
	}
	return s
}

func drawnFlow(l, parent *design.Layer, s contract.Style, set func(p, v string), length func(p string, v float64)) {
	if f := l.Flow; f != nil {
		s["display"] = "flex"
		switch f.Direction {
		case "column":
			s["flex-direction"] = "column"
		case "grid":
			s["display"] = "grid"
			s["grid-template-columns"] = cmp.Or(f.Columns, "none")
		}
		if parent == nil && sizing(l).Width == "content" {
			s["display"] = "inline-" + s["display"]
		}
		if f.Wrap {
			s["flex-wrap"] = "wrap"
		}
		s["align-items"] = contract.FlexWord(f.Align)
		if f.Distribute != "" && f.Distribute != "start" {
			s["justify-content"] = contract.FlexWord(f.Distribute)
		}
		if f.Across != 0 && f.Across != f.Gap {
			set("gap", sides("gap", f.Across, max(0, f.Gap)))
		} else {
			length("gap", max(0, f.Gap))
		}
		p := f.Sides()
		if p[0] != 0 || p[2] != 0 || l.Tokens["padding-block"] != "" {
			set("padding-block", sides("padding-block", p[0], p[2]))
		}
		if p[1] != 0 || p[3] != 0 || l.Tokens["padding-inline"] != "" {
			set("padding-inline", sides("padding-inline", p[3], p[1]))
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
func drawnPlace(l, parent *design.Layer, s contract.Style, length func(p string, v float64)) {
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
			s["align-self"] = contract.FlexWord(self)
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
func pinned(s contract.Style, to, low, high string, at, room, size float64) {
	px := func(v float64) string { return css.FormatNumber(v) + "px" }
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

func drawnSize(l, parent *design.Layer, s contract.Style, length func(p string, v float64)) {
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

func drawnText(l *design.Layer, s contract.Style, set func(p, v string), length func(p string, v float64)) {
	t := l.Text
	set("font-family", css.FamilyList(t.FontFamily))
	length("font-size", t.FontSize)
	set("font-weight", css.FormatNumber(t.FontWeight))
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
	return design.Sizing{Width: cmp.Or(l.Sizing.Width, usual), Height: cmp.Or(l.Sizing.Height, usual)}
}

// sides writes lengths in px, leaving out what CSS would repeat.
func sides(property string, v ...float64) string {
	list := make(css.List, len(v))
	for i, n := range v {
		list[i] = css.Length{N: n, Unit: "px"}
	}
	return css.Canonical(property, list, 0).String()
}
