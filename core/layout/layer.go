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
	w := layerWriter{say: func(d said) { s[d.property] = d.text(l) }}
	w.write(l, parent, placeAmong(l, parent))
	return s
}

// said is one declaration: a text, or up to four lengths in px.
type said struct {
	property string
	word     string
	px       [4]float64
	count    int  // of lengths; 0 for a text
	bound    bool // a token the layer is bound to stands for it
}

// text writes the declaration's value.
func (d *said) text(l *design.Layer) string {
	text := d.word
	switch d.count {
	case 0:
	case 1:
		text = css.FormatNumber(d.px[0]) + "px"
	default:
		text = css.InPx(d.property, d.px[:d.count]...)
	}
	if d.bound {
		return l.Value(d.property, text)
	}
	return text
}

// among is what a layer's neighbours make of how it stands.
type among struct {
	first bool // in its parent's flow
	over  bool // something before it is pinned
	holds bool // something in it is pinned
	any   bool // something is in it
}

func placeAmong(l, parent *design.Layer) among {
	a := among{holds: slices.ContainsFunc(l.Children, (*design.Layer).Pinned), any: len(l.Children) > 0}
	if parent != nil {
		first := firstInFlow(parent)
		a.first, a.over = first == nil || first.ID == l.ID, overPinned(l, parent)
	}
	return a
}

// layerWriter says how layers lie.
type layerWriter struct {
	say func(said)

	l, parent                *design.Layer
	edged, sized, selfStands bool // what was said of the layer: paddings or lines, a size, where it stands across a column
}

func (w *layerWriter) write(l, parent *design.Layer, a among) {
	w.l, w.parent, w.edged, w.sized, w.selfStands = l, parent, false, false, false
	boxed := l.Kind != design.Text && l.Kind != design.Vector && l.Kind != design.Instance
	if widths := l.Stroke.Widths(); boxed && widths != [4]float64{} {
		if len(l.Stroke.Sides) == 4 {
			w.edged = true
			w.say(said{property: "border-width", px: widths, count: 4, bound: true})
		} else {
			w.edged = w.length("border-width", widths[0])
		}
		w.word("border-style", "solid")
	}
	w.flow(a)
	w.size()
}

func (w *layerWriter) word(property, word string) { w.say(said{property: property, word: word}) }

// length says a length unless it is 0 and bound to no token.
func (w *layerWriter) length(property string, v float64) bool {
	if v == 0 && w.l.Tokens[property] == "" {
		return false
	}
	w.say(said{property: property, px: [4]float64{v}, count: 1, bound: true})
	return true
}

func (w *layerWriter) two(property string, a, b float64) {
	w.say(said{property: property, px: [4]float64{a, b}, count: 2, bound: true})
}

func (w *layerWriter) flow(a among) {
	l, parent := w.l, w.parent
	if f := l.Flow; f != nil {
		display := "flex"
		switch f.Direction {
		case "column":
			w.word("flex-direction", "column")
		case "grid":
			display = "grid"
			w.word("grid-template-columns", cmp.Or(f.Columns, "none"))
		}
		if parent == nil && LayerSizing(l).Width == "content" {
			display = "inline-" + display
		}
		w.word("display", display)
		if f.Wrap {
			w.word("flex-wrap", "wrap")
		}
		w.word("align-items", FlexWord(f.Align))
		if f.Distribute != "" && f.Distribute != "start" {
			w.word("justify-content", FlexWord(f.Distribute))
		}
		if (f.Wrap || f.Direction == "grid") && LayerSizing(l).Height != "content" { // lines stay where they are, however high it is
			w.word("align-content", FlexWord("start"))
		}
		if f.Across != 0 && f.Across != f.Gap {
			w.two("gap", f.Across, max(0, f.Gap))
		} else {
			w.length("gap", max(0, f.Gap))
		}
		p := f.Sides()
		if p[0] != 0 || p[2] != 0 || l.Tokens["padding-block"] != "" {
			w.edged = true
			w.two("padding-block", p[0], p[2])
		}
		if p[1] != 0 || p[3] != 0 || l.Tokens["padding-inline"] != "" {
			w.edged = true
			w.two("padding-inline", p[3], p[1])
		}
		if a.holds {
			w.word("position", "relative")
		}
	} else if a.any && l.Kind != design.Instance {
		w.word("position", "relative")
	}
	if parent != nil {
		w.place(a)
	}
}

// place says how a layer stands in its parent.
func (w *layerWriter) place(a among) {
	l, parent := w.l, w.parent
	line := parent.Stroke.Widths() // offsets are counted from the padding edge (CSS Positioned Layout 3, 3.1)
	switch {
	case l.Pinned():
		w.word("position", "absolute")
		b, around := l.Bounds, parent.Bounds
		w.pinned(l.Place.Pins.Horizontal, "left", "right", b.X-line[3], around.Width-line[1]-line[3], b.Width)
		w.pinned(l.Place.Pins.Vertical, "top", "bottom", b.Y-line[0], around.Height-line[0]-line[2], b.Height)
		return
	case parent.Flow == nil:
		w.word("position", "absolute")
		w.length("left", l.Bounds.X-line[3])
		w.length("top", l.Bounds.Y-line[0])
		return
	}
	if a.over { // painted after it (CSS 2, appendix E)
		w.word("position", "relative")
	}
	var offset design.Offset
	if l.Place != nil {
		if l.Place.Column > 0 && parent.Flow.Direction == "grid" {
			w.word("grid-area", "auto / "+strconv.Itoa(l.Place.Column))
		}
		if l.Place.Offset != nil {
			offset = *l.Place.Offset
		}
		if self := l.Place.Self; self != "" && parent.Flow.Direction == "grid" {
			w.selfStands = true
			w.word("justify-self", self)
		} else if self != "" {
			w.word("align-self", FlexWord(self))
		}
	}
	// CSS has no negative gaps: all but the first move over the one before.
	if parent.Flow.Gap < 0 && !a.first {
		gap := parent.Flow.Gap
		if parent.Flow.Direction == "column" {
			offset.Y += gap
		} else {
			offset.X += gap
		}
	}
	w.length("margin-left", offset.X)
	w.length("margin-top", offset.Y)
}

// pinned keeps a layer's distance from an edge, from both, or from the middle.
func (w *layerWriter) pinned(to, low, high string, at, room, size float64) {
	px := func(property string, v float64) { w.say(said{property: property, px: [4]float64{v}, count: 1}) }
	switch to {
	case "center":
		w.word(low, "calc(50% - "+css.FormatNumber(room/2-at)+"px)")
	case high:
		px(high, room-at-size)
	case "both":
		px(low, at)
		px(high, room-at-size)
	default:
		px(low, at)
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

func (w *layerWriter) size() {
	l, parent := w.l, w.parent
	size := LayerSizing(l)
	direction := ""
	if parent != nil && parent.Flow != nil && !l.Pinned() {
		direction = parent.Flow.Direction
	}
	for axis, property := range [2]string{"width", "height"} {
		how, along, drawn := size.Width, direction == "row", l.Bounds.Width
		if axis == 1 {
			how, along, drawn = size.Height, direction == "column", l.Bounds.Height
		}
		switch {
		case how == "fill" && l.Pinned(): // both its edges are
		case how == "fixed":
			w.sized = w.length(property, drawn) || w.sized
			if along {
				w.word("flex", "none")
			}
		case direction == "grid" && axis == 0:
			if how == "content" && !w.selfStands { // else it is stretched (CSS Box Alignment 3, 6.1)
				w.word("justify-self", "start")
			}
		case how == "fill" && along:
			w.word("flex", "1 1 0%")
			w.word("min-width", "0")
		case how == "fill" && direction != "":
			w.word("align-self", "stretch")
		case how == "fill":
			w.sized = true
			w.word(property, "100%")
		}
	}
	w.length("min-width", l.Limits.MinWidth)
	w.length("max-width", l.Limits.MaxWidth)
	w.length("min-height", l.Limits.MinHeight)
	w.length("max-height", l.Limits.MaxHeight)
	edged := w.edged || l.Kind == design.Instance // a use's edges are its component's
	if (w.sized || l.Limits != (design.Limited{})) && edged {
		w.word("box-sizing", "border-box")
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
