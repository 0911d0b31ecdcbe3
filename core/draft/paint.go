package draft

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// boxPaint reads how a box is painted: fills, line, shadows and corners.
func boxPaint(l *design.Layer, s contract.Style, set func(property, drawn string)) {
	ground, images, _ := l.Grounds()
	if ground != "" {
		s["background-color"] = ground
	}
	if len(images) > 0 {
		s["background-image"] = strings.Join(images, ", ")
	}
	if l.Stroke.Widths() != [4]float64{} {
		set("border-color", l.Stroke.Color)
	}
	if len(l.Shadows) > 0 || l.Tokens["box-shadow"] != "" {
		set("box-shadow", shadows(l.Shadows))
	}
	if r := l.Corners(); r != [4]float64{} || l.Tokens["border-radius"] != "" {
		set("border-radius", css.InPx("border-radius", r[0], r[1], r[2], r[3]))
	}
}

// shadows writes a layer's shadows as CSS has them.
func shadows(list []design.Shadow) string {
	words := make([]string, len(list))
	for i, s := range list {
		parts := []string{px(s.X), px(s.Y), px(s.Blur)}
		if s.Spread != 0 {
			parts = append(parts, px(s.Spread))
		}
		parts = append(parts, s.Color)
		if s.Inset {
			parts = append([]string{"inset"}, parts...)
		}
		words[i] = strings.Join(parts, " ")
	}
	return strings.Join(words, ", ")
}

func px(n float64) string { return css.FormatNumber(n) + "px" }

// unexpressed lists what layers are drawn with that the parts they become cannot have, each layer of
// the family once: nothing is left out in silence.
func (d *drafter) unexpressed() {
	said := map[string]bool{}
	for _, v := range d.family.Variants {
		var walk func(l *design.Layer, path string)
		walk = func(l *design.Layer, path string) {
			if l.Link != "" && (l.Kind == design.Vector || l.Kind == design.Image || l.Kind == design.Instance) && !said[path+"link"] {
				said[path+"link"] = true
				d.found.Warnf("layer-unexpressed", "", "put it into a group that leads there", "the layer %s leads somewhere, and is no text or box: where it leads is left out", l.ID)
			}
			if what := beyond(l); what != "" && !said[path+what] {
				said[path+what] = true
				d.found.Warnf("layer-unexpressed", "", "draw it on a box around it, or flatten the layer into a picture",
					"the layer %s has %s, which %s cannot have: that is left out", l.ID, what, kinds[l.Kind])
			}
			if _, _, covered := l.Grounds(); covered && !said[path+"covered"] && kinds[l.Kind] == "" {
				said[path+"covered"] = true
				d.found.Warnf("layer-covered", "", "remove what is never seen", "a fill of the layer %s lets nothing through, and others lie under it: those are left out", l.ID)
			}
			if l.Kind == design.Instance {
				return // what it holds is its component's affair
			}
			for i, step := range steps(l) {
				walk(l.Children[i], below(path, step))
			}
		}
		walk(v.Root, "")
	}
}

// kinds names the kinds of layers that are no boxes to paint.
var kinds = map[design.Kind]string{design.Text: "a text in CSS", design.Vector: "a drawing of paths", design.Instance: "a use of a component"}

// beyond says what a layer that is no box is painted with as boxes are; empty for nothing.
func beyond(l *design.Layer) string {
	if kinds[l.Kind] == "" {
		return ""
	}
	var out []string
	add := func(is bool, what string) {
		if is {
			out = append(out, what)
		}
	}
	add(l.Kind == design.Instance && l.Fill != "", "a fill of its own")
	add(len(l.Fills) > 0, "fills over its own")
	add(l.Stroke.Widths() != [4]float64{}, "a line around it")
	add(len(l.Shadows) > 0, "a shadow")
	add(l.Corners() != [4]float64{}, "rounded corners")
	if last := len(out) - 1; last > 0 {
		return strings.Join(out[:last], ", ") + " and " + out[last]
	}
	return strings.Join(out, "")
}

// checkFills reports colours of fills that are bound to tokens which are not there, or have another
// value than was drawn.
func checkFills(l *design.Layer, tokens *token.Set, found *problem.List) {
	one := func(drawn, path string) {
		if path == "" {
			return
		}
		bare := &design.Layer{ID: l.ID, Kind: design.Box, Fill: drawn, Tokens: map[string]string{"background-color": path}}
		checkBindings(bare, StyleOf(bare, nil), tokens, found)
	}
	for _, f := range l.Fills {
		one(f.Color, f.Token)
		if f.Gradient != nil {
			for _, s := range f.Gradient.Stops {
				one(s.Color, s.Token)
			}
		}
	}
}

// bindColors turns the raw colours of a background's images that equal a token's into references.
func bindColors(property, value, component string, tokens *token.Set) string {
	if property != "background-image" {
		return value
	}
	v, err := css.ParseValue(value)
	if err != nil {
		return value
	}
	changed := false
	v = css.Map(v, func(one css.Value) css.Value {
		c, ok := one.(css.Color)
		if !ok {
			return one
		}
		refs := css.RefsIn(bind("background-color", c.String(), component, tokens))
		if len(refs) == 0 {
			return one
		}
		changed = true
		return css.Ref(refs[0])
	})
	if !changed {
		return value
	}
	return v.String()
}

// InTheme gives a drawing with the colours, shadows and gradients that its tokens have in a theme;
// what is bound to none keeps what it was drawn with.
func InTheme(root *design.Layer, values *token.Set) *design.Layer {
	out := cloneLayer(root)
	value := func(path string) string {
		if t := values.Get(path); t != nil {
			return t.Value
		}
		return ""
	}
	color := func(drawn *string, paths ...string) {
		for _, path := range paths {
			if v := value(path); v != "" && *drawn != "" {
				*drawn = v
			}
		}
	}
	out.Walk(func(l *design.Layer, _, _ float64) {
		color(&l.Fill, l.Tokens["background-color"], l.Tokens["fill"], l.Tokens["color"])
		if l.Stroke != nil {
			stroke := *l.Stroke
			color(&stroke.Color, l.Tokens["border-color"])
			l.Stroke = &stroke
		}
		if drawn := shadowsOf(value(l.Tokens["box-shadow"])); drawn != nil {
			l.Shadows = drawn
		}
		l.Fills = slices.Clone(l.Fills)
		if g := design.ParseGradient(value(l.Tokens["background-image"])); g != nil {
			l.Fills = []design.Fill{{Gradient: g}}
		}
		for i := range l.Fills {
			f := &l.Fills[i]
			color(&f.Color, f.Token)
			if f.Gradient == nil {
				continue
			}
			g := *f.Gradient
			g.Stops = slices.Clone(g.Stops)
			for j := range g.Stops {
				color(&g.Stops[j].Color, g.Stops[j].Token)
			}
			f.Gradient = &g
		}
	})
	return out
}

// shadowsOf reads shadows as CSS writes them in px; nil for what are none.
func shadowsOf(text string) (out []design.Shadow) {
	v, err := css.Parse("box-shadow", text)
	if err != nil {
		return nil
	}
	list, _ := css.Canonical("box-shadow", v, css.RootFontSize).(css.List)
	at := 0 // which of a shadow's lengths is next
	for i, one := range list {
		if i == 0 || list[i-1] == css.Value(css.Separator(',')) {
			out, at = append(out, design.Shadow{}), 0
		}
		s := &out[len(out)-1]
		switch one := one.(type) {
		case css.Length:
			*[]*float64{&s.X, &s.Y, &s.Blur, &s.Spread}[at] = one.N
			at++
		case css.Color:
			s.Color = one.String()
		case css.Keyword:
			s.Inset = one == "inset"
		}
	}
	return out
}
