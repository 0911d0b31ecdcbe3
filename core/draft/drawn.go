package draft

import (
	"cmp"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// StyleOf reads a layer's look as CSS properties: values with {token.path}
// where the layer is bound to a token, raw CSS values elsewhere. The parent is
// nil for a variant's root. Properties at their initial value are left out.
func StyleOf(l, parent *design.Layer) contract.Style {
	s := contract.Style(layout.LayerStyle(l, parent))
	set := func(property, drawn string) {
		if v := l.Value(property, drawn); v != "" {
			s[property] = v
		}
	}
	length := func(property string, v float64) {
		if v != 0 || l.Tokens[property] != "" {
			set(property, css.FormatNumber(v)+"px")
		}
	}
	switch l.Kind {
	case design.Text:
		set("color", cmp.Or(l.Fill, "#000000"))
		textStyle(l, s, set, length)
	case design.Vector:
		set("fill", cmp.Or(l.Fill, "#000000"))
	case design.Instance: // its paint is its component's
	default:
		boxPaint(l, s, set)
	}
	if l.Image != nil {
		s["object-fit"] = cmp.Or(l.Image.Fit, "cover")
	}
	if l.Opacity != nil && *l.Opacity != 1 {
		set("opacity", css.FormatNumber(*l.Opacity))
	}
	if l.Blend != "" && l.Blend != "normal" {
		s["mix-blend-mode"] = l.Blend
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
		s[property] = bindColors(property, bind(property, v, component, tokens), component, tokens)
	}
	return s
}

func textStyle(l *design.Layer, s contract.Style, set func(p, v string), length func(p string, v float64)) {
	t := l.Text
	set("font-family", css.FamilyList(t.FontFamily))
	length("font-size", t.FontSize)
	set("font-weight", css.FormatNumber(t.FontWeight))
	if t.Style != "" {
		set("font-style", t.Style)
	}
	length("line-height", t.LineHeight)
	length("letter-spacing", t.LetterSpacing)
	if t.Align != "" && t.Align != "start" {
		s["text-align"] = t.Align
	}
	if t.Line != "" {
		set("text-decoration-line", t.Line)
	}
	switch {
	case strings.Contains(t.Content, "\n"):
		s["white-space"] = "pre-line"
	case layout.LayerSizing(l).Width == "content":
		s["white-space"] = "nowrap"
	}
}

// TextOf gives what a text layer says: rich text where its runs have looks of their own.
func TextOf(l *design.Layer) contract.Value {
	styled := false
	runs := make([]contract.Run, len(l.Text.Runs))
	for i, r := range l.Text.Runs {
		runs[i] = contract.Run(r)
		styled = styled || r.Strong || r.Emphasis || r.Code || r.Link != ""
	}
	if !styled {
		return contract.TextValue(l.Text.Content)
	}
	return contract.RichValue{{Runs: runs}}
}
