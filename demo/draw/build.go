package main

import (
	"fmt"
	"log"
	"math"
	"strings"

	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
)

// look is what a box is painted with and how it lays out what it holds, by tokens; a gap or
// padding without one is a length: "12px".
type look struct {
	ground, edge, radius string
	direction            string // row or column; a row when empty
	gap, block, inline   string
	align, distribute    string
}

// box draws a box in a flow.
func (a *artist) box(name string, k look, children ...*design.Layer) *design.Layer {
	l := &design.Layer{ID: a.id(strings.ToLower(strings.Fields(name)[0])), Name: name, Kind: design.Box, Tokens: map[string]string{}, Children: children}
	length := func(property, path string) float64 {
		if path == "" {
			return 0
		}
		if px, raw := strings.CutSuffix(path, "px"); raw {
			n := 0.0
			if _, err := fmt.Sscan(px, &n); err != nil {
				log.Fatal(err)
			}
			return n
		}
		l.Tokens[property] = path
		return a.px(path)
	}
	if k.ground != "" {
		l.Fill, l.Tokens["background-color"] = a.value(k.ground), k.ground
	}
	if k.edge != "" {
		l.Stroke = &design.Stroke{Color: a.value(k.edge), Width: length("border-width", "line.thin")}
		l.Tokens["border-color"] = k.edge
	}
	if k.radius != "" {
		l.Radius = []float64{length("border-radius", k.radius)}
	}
	if k.direction == "" {
		k.direction = "row"
	}
	block, inline := length("padding-block", k.block), length("padding-inline", k.inline)
	l.Flow = &design.Flow{Direction: k.direction, Gap: length("gap", k.gap), Align: k.align, Distribute: k.distribute}
	if block > 0 || inline > 0 {
		l.Flow.Padding = []float64{block, inline}
	}
	return l
}

// sized gives a layer a size of its own: fill, content, or so many px.
func sized(l *design.Layer, width, height any) *design.Layer {
	one := func(v any, px *float64) string {
		switch v := v.(type) {
		case string:
			return v
		case int:
			*px = float64(v)
		}
		return "fixed"
	}
	l.Sizing = design.Sizing{Width: one(width, &l.Bounds.Width), Height: one(height, &l.Bounds.Height)}
	return l
}

// paragraph draws a text that breaks where its box ends.
func (a *artist) paragraph(name, content, ink, step, weight string) *design.Layer {
	return sized(a.text(name, content, ink, step, weight), "fill", "content")
}

// picture draws one of the document's pictures.
func (a *artist) picture(name, asset, alt string, width, height any) *design.Layer {
	l := &design.Layer{ID: a.id("picture"), Name: name, Kind: design.Image, Alt: alt, Fill: a.value("page.sunk"), Tokens: map[string]string{"background-color": "page.sunk"},
		Image: &design.ImageContent{Asset: asset, Fit: "cover"}}
	return sized(l, width, height)
}

// shadow binds a layer to a shadow's token, and gives one of the shadows that this is.
func (a *artist) shadow(l *design.Layer, token string, y, blur float64, inset bool) design.Shadow {
	l.Tokens["box-shadow"] = token
	return design.Shadow{Y: y, Blur: blur, Color: a.value("shadow.color"), Inset: inset}
}

func hiddenUnless(l *design.Layer, shown bool) *design.Layer {
	l.Hidden = !shown
	return l
}

// linkTo makes a text a link, high enough to be pressed.
func (a *artist) linkTo(l *design.Layer, address string) *design.Layer {
	l.Link, l.Text.LineHeight = address, a.px("type.line.large")
	l.Tokens["line-height"] = "type.line.large"
	return l
}

// laid gives everything in a drawing its place, in a room of a width.
func laid(root *design.Layer, width float64) *design.Layer {
	out, found := draft.Reflow(root, width, font.Shipped())
	if out == nil {
		log.Fatal(found)
	}
	round := func(n float64) float64 { return math.Round(n*100) / 100 }
	i := 0
	var texts []string
	root.Walk(func(l *design.Layer, _, _ float64) {
		if l.Text != nil {
			texts = append(texts, l.Text.Content)
		}
	})
	out.Walk(func(l *design.Layer, _, _ float64) {
		l.Bounds = design.Rect{X: round(l.Bounds.X), Y: round(l.Bounds.Y), Width: round(l.Bounds.Width), Height: round(l.Bounds.Height)}
		if l.Text != nil { // as it was written: lines are broken by its box
			l.Text.Content = texts[i]
			i++
		}
	})
	return out
}

// family draws a family: a variant for each combination of its axes' values.
func (a *artist) family(id, name, description string, axes []design.Axis, draw func(choice map[string]string) *design.Layer) *design.Family {
	a.page, a.count = id, 0
	defer func() { a.page = "" }()
	f := &design.Family{ID: id, Name: name, Description: description, Axes: axes}
	combinations := []map[string]string{{}}
	for _, axis := range axes {
		var next []map[string]string
		for _, c := range combinations {
			for _, v := range axis.Values {
				with := map[string]string{axis.Name: v}
				for k, v := range c {
					with[k] = v
				}
				next = append(next, with)
			}
		}
		combinations = next
	}
	for _, c := range combinations {
		words := []string{id}
		for _, axis := range axes {
			words = append(words, strings.ReplaceAll(c[axis.Name], " ", "-"))
		}
		f.Variants = append(f.Variants, &design.Variant{ID: strings.Join(append(words, "drawn"), "-"), Choices: c, Root: draw(c)})
	}
	return f
}

func axis(name string, values ...string) design.Axis {
	return design.Axis{Name: name, Values: values, Default: values[0]}
}
