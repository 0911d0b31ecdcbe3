package drafttest

import (
	"fmt"
	"math/rand/v2"

	"cobrik/core/css"
	"cobrik/core/design"
)

// PaintedBox is a box painted with anything a box can be painted with.
func PaintedBox(r *rand.Rand, n int) *design.Layer {
	colors := []string{"#c7502f", "#2f6d5a", "#f3ead8", "#1f1a1580", "#ffffff40", "rebeccapurple"}
	one := func() string { return colors[r.IntN(len(colors))] }
	l := &design.Layer{ID: fmt.Sprintf("b%d", n), Name: "Box", Kind: design.Box, Bounds: design.Rect{Width: float64(30 + r.IntN(50)), Height: float64(20 + r.IntN(40))}}
	l.Fill = []string{"", one(), one()}[r.IntN(3)]
	for range r.IntN(3) {
		f := design.Fill{Color: one()}
		if r.IntN(3) > 0 {
			g := &design.Gradient{Kind: "linear", Angle: float64(r.IntN(720) - 360), Stops: []design.Stop{{At: 0, Color: one()}, {At: float64(r.IntN(11)) / 10, Color: one()}, {At: 1, Color: one()}}}
			if r.IntN(2) == 0 {
				g.Kind, g.Angle = "radial", 0
				if r.IntN(2) == 0 {
					g.Center, g.Radii = &[2]float64{r.Float64(), r.Float64()}, &[2]float64{0.2 + r.Float64(), 0.2 + r.Float64()}
				}
			}
			f = design.Fill{Gradient: g}
		}
		l.Fills = append(l.Fills, f)
	}
	switch r.IntN(4) {
	case 0:
		l.Stroke = &design.Stroke{Color: "#1f1a15", Width: float64(1 + r.IntN(3))}
	case 1:
		l.Stroke = &design.Stroke{Color: "#1f1a15", Width: 1, Sides: []float64{float64(r.IntN(3)), 2, 0, 1}}
	}
	if l.Stroke == nil || l.Stroke.Sides == nil { // corners between lines of unlike widths are cut another way in CSS
		l.Radius = [][]float64{nil, {8}, {0, 12, 4, 20}}[r.IntN(3)]
	}
	for range r.IntN(3) {
		l.Shadows = append(l.Shadows, design.Shadow{X: float64(r.IntN(7) - 3), Y: float64(r.IntN(7) - 3), Blur: float64(2 * r.IntN(4)), Spread: float64(r.IntN(4) - 1), Color: "#1f1a1560", Inset: r.IntN(2) == 0})
	}
	if r.IntN(3) == 0 { // and something in it that is cut off at its edge
		l.Clip = true
		l.Children = []*design.Layer{{ID: l.ID + "c", Name: "Inner", Kind: design.Box, Fill: one(), Bounds: design.Rect{X: -5, Y: -5, Width: l.Bounds.Width + 10, Height: 20}}}
	}
	if r.IntN(4) == 0 {
		half := 0.5
		l.Opacity = &half
	}
	if r.IntN(4) == 0 {
		l.Blend = css.BlendModes[r.IntN(len(css.BlendModes))]
	}
	return l
}
