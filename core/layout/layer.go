package layout

import (
	"cmp"
	"slices"
	"strconv"

	"cobrik/core/css"
	"cobrik/core/design"
)

// LayerStyle is how a layer lies, as CSS properties: what it does with its children, how
// large it is and where it stands in its parent, which is nil for a variant's root. Values
// are {token.path} where the layer is bound to a token. Properties at their initial value
// are left out. What an inference proves and what a contract says are both this.
func LayerStyle(l, parent *design.Layer) Style {
	s := Style{}
	length := func(property string, v float64) {
		if v != 0 || l.Tokens[property] != "" {
			s[property] = l.Value(property, css.FormatNumber(v)+"px")
		}
	}
	boxed := l.Kind != design.Text && l.Kind != design.Vector && l.Kind != design.Instance
	if w := l.Stroke.Widths(); boxed && w != [4]float64{} {
		if len(l.Stroke.Sides) == 4 {
			s["border-width"] = l.Value("border-width", css.InPx("border-width", w[0], w[1], w[2], w[3]))
		} else {
			length("border-width", w[0])
		}
		s["border-style"] = "solid"
	}
	layerFlow(l, parent, s, length)
	layerSize(l, parent, s, length)
	return s
}

func layerFlow(l, parent *design.Layer, s Style, length func(p string, v float64)) {
	if f := l.Flow; f != nil {
		s["display"] = "flex"
		switch f.Direction {
		case "column":
			s["flex-direction"] = "column"
		case "grid":
			s["display"] = "grid"
			s["grid-template-columns"] = cmp.Or(f.Columns, "none")
		}
		if parent == nil && LayerSizing(l).Width == "content" {
			s["display"] = "inline-" + s["display"]
		}
		if f.Wrap {
			s["flex-wrap"] = "wrap"
		}
		s["align-items"] = FlexWord(f.Align)
		if f.Distribute != "" && f.Distribute != "start" {
			s["justify-content"] = FlexWord(f.Distribute)
		}
		if (f.Wrap || f.Direction == "grid") && LayerSizing(l).Height != "content" { // lines stay where they are, however high it is
			s["align-content"] = FlexWord("start")
		}
		if f.Across != 0 && f.Across != f.Gap {
			s["gap"] = l.Value("gap", css.InPx("gap", f.Across, max(0, f.Gap)))
		} else {
			length("gap", max(0, f.Gap))
		}
		p := f.Sides()
		if p[0] != 0 || p[2] != 0 || l.Tokens["padding-block"] != "" {
			s["padding-block"] = l.Value("padding-block", css.InPx("padding-block", p[0], p[2]))
		}
		if p[1] != 0 || p[3] != 0 || l.Tokens["padding-inline"] != "" {
			s["padding-inline"] = l.Value("padding-inline", css.InPx("padding-inline", p[3], p[1]))
		}
		if slices.ContainsFunc(l.Children, (*design.Layer).Pinned) {
			s["position"] = "relative"
		}
	} else if len(l.Children) > 0 && l.Kind != design.Instance {
		s["position"] = "relative"
	}
	if parent != nil {
		layerPlace(l, parent, s, length)
	}
}

// layerPlace says how a layer stands in its parent.
func layerPlace(l, parent *design.Layer, s Style, length func(p string, v float64)) {
	line := parent.Stroke.Widths() // offsets are counted from the padding edge (CSS Positioned Layout 3, 3.1)
	switch {
	case l.Pinned():
		s["position"] = "absolute"
		b, around := l.Bounds, parent.Bounds
		pinned(s, l.Place.Pins.Horizontal, "left", "right", b.X-line[3], around.Width-line[1]-line[3], b.Width)
		pinned(s, l.Place.Pins.Vertical, "top", "bottom", b.Y-line[0], around.Height-line[0]-line[2], b.Height)
		return
	case parent.Flow == nil:
		s["position"] = "absolute"
		length("left", l.Bounds.X-line[3])
		length("top", l.Bounds.Y-line[0])
		return
	}
	if overPinned(l, parent) { // painted after it (CSS 2, appendix E)
		s["position"] = "relative"
	}
	var offset design.Offset
	if l.Place != nil {
		if l.Place.Column > 0 && parent.Flow.Direction == "grid" {
			s["grid-area"] = "auto / " + strconv.Itoa(l.Place.Column)
		}
		if l.Place.Offset != nil {
			offset = *l.Place.Offset
		}
		if self := l.Place.Self; self != "" && parent.Flow.Direction == "grid" {
			s["justify-self"] = self
		} else if self != "" {
			s["align-self"] = FlexWord(self)
		}
	}
	// CSS has no negative gaps: all but the first move over the one before.
	if first := firstInFlow(parent); parent.Flow.Gap < 0 && (first == nil || first.ID != l.ID) {
		gap := parent.Flow.Gap
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
	px := func(v float64) string { return css.FormatNumber(v) + "px" }
	switch to {
	case "center":
		s[low] = "calc(50% - " + px(room/2-at) + ")"
	case high:
		s[high] = px(room - at - size)
	case "both":
		s[low], s[high] = px(at), px(room-at-size)
	default:
		s[low] = px(at)
	}
}

// overPinned tells whether a layer in flow is drawn over a pinned one.
func overPinned(l, parent *design.Layer) bool {
	for _, c := range parent.Children {
		if c == l || c.ID == l.ID {
			return false
		}
		if c.Pinned() && !c.Hidden {
			return true
		}
	}
	return false
}

func firstInFlow(parent *design.Layer) *design.Layer {
	for _, c := range parent.Children {
		if !c.Pinned() && !c.Hidden {
			return c
		}
	}
	return nil
}

func layerSize(l, parent *design.Layer, s Style, length func(p string, v float64)) {
	size := LayerSizing(l)
	direction := ""
	if parent != nil && parent.Flow != nil && !l.Pinned() {
		direction = parent.Flow.Direction
	}
	for _, axis := range []struct {
		sized, property, along string
		drawn                  float64
	}{{size.Width, "width", "row", l.Bounds.Width}, {size.Height, "height", "column", l.Bounds.Height}} {
		switch along := axis.along == direction; {
		case axis.sized == "fill" && l.Pinned(): // both its edges are
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
	length("min-width", l.Limits.MinWidth)
	length("max-width", l.Limits.MaxWidth)
	length("min-height", l.Limits.MinHeight)
	length("max-height", l.Limits.MaxHeight)
	sized := l.Limits != (design.Limited{}) || s["width"] != "" || s["height"] != ""
	edged := s["padding-block"] != "" || s["padding-inline"] != "" || s["border-width"] != "" || l.Kind == design.Instance // a use's edges are its component's
	if sized && edged {
		s["box-sizing"] = "border-box"
	}
}

// LayerSizing fills in what a layer does not say: text and flowing layers are as
// large as their content, others are fixed.
func LayerSizing(l *design.Layer) design.Sizing {
	usual := "fixed"
	if l.Kind == design.Text || l.Flow != nil {
		usual = "content"
	}
	return design.Sizing{Width: cmp.Or(l.Sizing.Width, usual), Height: cmp.Or(l.Sizing.Height, usual)}
}

// FlexWord turns a word of alignment into the flex container's.
func FlexWord(align string) string {
	switch align {
	case "", "start":
		return "flex-start"
	case "end":
		return "flex-end"
	}
	return align
}
