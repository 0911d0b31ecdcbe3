package trial

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/layout"
)

// row makes a row of a layer that was laid out, with those inside of it.
func (t *taker) row(l, parent *design.Layer) *Row {
	style := draft.StyleWithTokens(l, parent, "", t.Tokens)
	if leaf := t.leaves[l.ID]; leaf != nil {
		r := *leaf
		switch r.Kind {
		case UseRow:
			r.Args = append(slices.Clone(r.Args), t.standing(l, style, r.Head)...)
		case GapRow:
			r.Args = append(r.Args, styleArg("height", css.FormatNumber(math.Round(l.Bounds.Height*100)/100)+"px"))
			if layout.LayerSizing(l).Width != layout.Fill {
				r.Args = append(r.Args, styleArg("width", css.FormatNumber(math.Round(l.Bounds.Width*100)/100)+"px"))
			}
			r.Args = append(r.Args, argsOf(style, func(p string) bool { return contract.Standing(p) && p != "width" && p != "height" && p != "box-sizing" })...)
		default:
			r.Head = textElement(l)
			r.Args = argsOf(style, func(p string) bool { return p != "font-family" && p != "box-sizing" && p != "height" })
			if strings.Contains(l.Text.Content, "\n") && r.arg("width") == nil { // it was broken at that width
				r.without("white-space")
				r.Args = append(r.Args, styleArg("max-width", css.FormatNumber(math.Ceil(l.Bounds.Width))+"px"))
			}
		}
		return &r
	}
	if l.Flow != nil && layout.LayerSizing(l).Height == layout.Fixed && l.Fill == "" && l.Stroke == nil {
		delete(style, "height")
	}
	if parent == nil {
		delete(style, "width")
		delete(style, "height")
	}
	r := rowOf(style)
	for _, c := range l.Children {
		r.Children = append(r.Children, t.row(c, l))
	}
	r.tidy()
	return r
}

// without takes what is given by a name away.
func (r *Row) without(name string) {
	r.Args = slices.DeleteFunc(r.Args, func(a Arg) bool { return a.Name == name })
}

// tidy leaves out what is so by itself in what lays out others: children of a stack or a grid shrink and break no sooner, and texts are
// as good where they are as wide as all others.
func (r *Row) tidy() {
	if r.Head != "stack" && r.Head != "grid" {
		return
	}
	wide := r.Head == "stack"
	some := false
	for _, c := range r.Children {
		c.without("flex")
		if c.Kind == ElementRow {
			c.without("white-space")
			continue
		}
		some = true
		a := c.arg("align-self")
		wide = wide && a != nil && a.Value == "stretch"
	}
	if wide && some {
		r.without("align")
	}
	align := "stretch"
	if a := r.arg("align"); a != nil {
		align = a.Value
	}
	for _, c := range r.Children {
		if a := c.arg("align-self"); a != nil && r.Head == "stack" && (a.Value == align || wide && some) {
			c.without("align-self")
		}
	}
}

// textElement is the element a text becomes by its size: a heading where it is larger than text is (common practice, no source).
func textElement(l *design.Layer) string {
	switch size := l.Text.FontSize; {
	case size >= 28:
		return "h1"
	case size >= 20:
		return "h2"
	}
	return "p"
}

// standing says how a use stands, where it does not as by itself.
func (t *taker) standing(l *design.Layer, style contract.Style, component string) []Arg {
	return argsOf(style, func(p string) bool {
		switch p {
		case "height", "min-height", "box-sizing", "display", "opacity":
			return false
		case "width":
			return layout.LayerSizing(l).Width == layout.Fixed && t.wide[component]
		}
		return contract.Standing(p)
	})
}

// argsOf writes a style as arguments, the properties in the order of style sheets.
func argsOf(style contract.Style, keep func(property string) bool) (out []Arg) {
	for _, property := range style.Properties() {
		if keep == nil || keep(property) {
			out = append(out, styleArg(property, style[property]))
		}
	}
	return out
}

// styleArg writes a value of CSS as an argument.
func styleArg(property, value string) Arg {
	refs := css.RefsIn(value)
	switch {
	case len(refs) == 1 && value == "{"+refs[0]+"}":
		return Arg{Name: property, Kind: FieldArg, Value: refs[0]}
	case bare.FindString(value) == value && value != "":
		return Arg{Name: property, Kind: BareArg, Value: value}
	}
	return Arg{Name: property, Kind: TextArg, Value: value}
}

// rowOf finds the primitive that a container's style is, and says the rest as CSS.
func rowOf(style contract.Style) *Row {
	rest := maps.Clone(style)
	r := &Row{Kind: PrimitiveRow, Head: boxHead}
	take := func(property, prop string, usual string) {
		if v := rest[property]; v != "" && v != usual {
			r.Args = append(r.Args, styleArg(prop, v))
		}
		delete(rest, property)
	}
	options := func(property, prop string, words map[string]string) {
		v := rest[property]
		if word, ok := words[v]; ok {
			if delete(rest, property); word != "" {
				r.Args = append(r.Args, styleArg(prop, word))
			}
		}
	}
	align := map[string]string{"": "", "stretch": "", "normal": "", "flex-start": "start", "start": "start", "center": "center", "flex-end": "end", "end": "end", "baseline": "baseline"}
	distribute := map[string]string{"": "", "normal": "", "flex-start": "", "start": "", "center": "center", "flex-end": "end", "end": "end", "space-between": "space-between"}
	switch rest["display"] {
	case "flex":
		r.Head = "row"
		if rest["flex-direction"] == "column" {
			r.Head = "stack"
		} else if rest["flex-wrap"] == "wrap" {
			delete(rest, "flex-wrap")
			defer func() { r.Args = append(r.Args, Arg{Name: "wrap", Kind: FlagArg}) }()
		}
		delete(rest, "display")
		delete(rest, "flex-direction")
		take("gap", "gap", "")
		options("align-items", "align", align)
		options("justify-content", "distribute", distribute)
	case "grid":
		tracks := rest["grid-template-columns"]
		var n int
		var minimum string
		switch {
		case equalColumns(tracks, &n):
			r.Head = "grid"
			if n > 1 {
				r.Args = append(r.Args, styleArg("columns", fmt.Sprint(n)))
			}
		case autoFill(tracks, &minimum):
			r.Head = "grid"
			r.Args = append(r.Args, styleArg("minimum", minimum))
		default:
			shares, ok := layout.SharesOf(tracks)
			if !ok {
				break
			}
			r.Head = "split"
			delete(rest, "grid-auto-flow")
			delete(rest, "grid-auto-columns")
			r.Args = append(r.Args, styleArg("shares", shares))
		}
		if r.Head != boxHead {
			delete(rest, "display")
			delete(rest, "grid-template-columns")
			take("gap", "gap", "")
			options("align-items", "align", align)
		}
	case "":
		if rest["margin-inline"] == "auto" && rest["max-width"] != "" {
			r.Head = "container"
			delete(rest, "margin-inline")
			take("max-width", "maximum", "")
			take("padding-inline", "padding", "")
		}
	}
	r.Args = append(r.Args, argsOf(rest, nil)...)
	return r
}

// equalColumns reads how many equal columns a grid has.
func equalColumns(tracks string, n *int) bool {
	_, err := fmt.Sscanf(tracks, "repeat(%d, minmax(0, 1fr))", n)
	return err == nil && tracks == fmt.Sprintf("repeat(%d, minmax(0, 1fr))", *n)
}

// autoFill reads the least width of columns of which as many are there as fit.
func autoFill(tracks string, minimum *string) bool {
	rest, ok := strings.CutPrefix(tracks, "repeat(auto-fill, minmax(min(100%, ")
	if !ok {
		return false
	}
	*minimum, ok = strings.CutSuffix(rest, "), 1fr))")
	return ok
}
