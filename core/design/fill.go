package design

import (
	"math"
	"slices"
	"strings"

	"cobrik/core/color"
	"cobrik/core/css"
)

// Fill is a paint over a layer's plain fill: a colour, or a gradient.
type Fill struct {
	Color    string    `json:"color,omitempty"`
	Token    string    `json:"token,omitempty"` // path of the token the colour is bound to
	Gradient *Gradient `json:"gradient,omitempty"`
}

// Gradient runs over a layer's box inside its stroke.
type Gradient struct {
	Kind   string      `json:"kind"`             // linear or radial
	Angle  float64     `json:"angle,omitempty"`  // of a linear one: degrees clockwise from upwards (CSS Images 3, 3.1)
	Center *[2]float64 `json:"center,omitempty"` // of a radial one: x and y as parts of the box; its middle when not given
	Radii  *[2]float64 `json:"radii,omitempty"`  // of a radial one: across and down as parts of the box; up to its edges when not given
	Stops  []Stop      `json:"stops"`
}

// Stop is a colour at a place along a gradient.
type Stop struct {
	At    float64 `json:"at"` // 0 to 1
	Color string  `json:"color"`
	Token string  `json:"token,omitempty"`
}

// half is the middle of a box, and half of its size.
var half = [2]float64{0.5, 0.5}

// Ellipse gives a radial gradient's centre and radii as parts of the box.
func (g *Gradient) Ellipse() (center, radii [2]float64) {
	center, radii = half, half
	if g.Center != nil {
		center = *g.Center
	}
	if g.Radii != nil {
		radii = *g.Radii
	}
	return center, radii
}

// CSS writes a gradient as CSS does, colours as references where they are bound.
func (g *Gradient) CSS() string {
	percent := func(part float64) string { return css.FormatNumber(part*100) + "%" }
	var parts []string
	if g.Kind == "radial" {
		center, radii := g.Ellipse()
		parts = append(parts, percent(radii[0])+" "+percent(radii[1])+" at "+percent(center[0])+" "+percent(center[1]))
	} else {
		parts = append(parts, css.FormatNumber(g.Angle)+"deg")
	}
	for _, s := range g.Stops {
		parts = append(parts, bound(s.Color, s.Token)+" "+percent(s.At))
	}
	return g.Kind + "-gradient(" + strings.Join(parts, ", ") + ")"
}

// shades gives the stops, with more between those of which one is less opaque: CSS mixes colours by
// how opaque they are (CSS Images 3, 3.5.1), SVG does not.
func (g *Gradient) shades() (out []Stop) {
	const steps = 16
	for i, s := range g.Stops {
		if i > 0 {
			before := g.Stops[i-1]
			a, errA := color.Parse(before.Color)
			b, errB := color.Parse(s.Color)
			for n := 1; n < steps && errA == nil && errB == nil && a.Alpha != b.Alpha; n++ {
				part := float64(n) / steps
				out = append(out, Stop{At: before.At + (s.At-before.At)*part, Color: color.Mix(a, b, part).Hex()})
			}
		}
		out = append(out, s)
	}
	return out
}

// ParseGradient reads a linear gradient of colours at percentages as CSS writes it; nil for any
// other text.
func ParseGradient(text string) *Gradient {
	v, err := css.Parse("background-image", text)
	if err != nil {
		return nil
	}
	f, ok := css.Canonical("background-image", v, css.RootFontSize).(css.Function)
	if !ok || f.Name != "linear-gradient" {
		return nil
	}
	g := &Gradient{Kind: "linear", Angle: 180}
	for _, one := range f.Args {
		switch one := one.(type) {
		case css.Dimension:
			g.Angle = one.N
		case css.Color:
			g.Stops = append(g.Stops, Stop{At: math.NaN(), Color: one.String()})
		case css.Percent:
			if len(g.Stops) == 0 {
				return nil
			}
			g.Stops[len(g.Stops)-1].At = float64(one) / 100
		case css.Separator:
		default:
			return nil
		}
	}
	spread(g.Stops)
	return g
}

// spread places stops that say no place evenly between those that do (CSS Images 3, 3.5.3).
func spread(stops []Stop) {
	last := len(stops) - 1
	for i, s := range stops {
		if !math.IsNaN(s.At) {
			continue
		}
		switch i {
		case 0:
			stops[i].At = 0
		case last:
			stops[i].At = 1
		default:
			end := i + 1
			for end < last && math.IsNaN(stops[end].At) {
				end++
			}
			to := 1.0
			if !math.IsNaN(stops[end].At) {
				to = stops[end].At
			}
			stops[i].At = stops[i-1].At + (to-stops[i-1].At)/float64(end-i+1)
		}
	}
}

func bound(drawn, token string) string {
	if token != "" {
		return "{" + token + "}"
	}
	return drawn
}

// Grounds gives how a layer is painted: its colour, none for "", and the images over it, the first
// on top, as CSS has them. Covered tells that something lies under a fill that lets nothing
// through; that is left out.
func (l *Layer) Grounds() (ground string, images []string, covered bool) {
	ground = l.Value("background-color", l.Fill)
	if path := l.Tokens["background-image"]; path != "" {
		return ground, []string{"{" + path + "}"}, false
	}
	for i, f := range l.Fills {
		if f.Gradient != nil {
			images = append(images, f.Gradient.CSS())
			continue
		}
		color := bound(f.Color, f.Token)
		if opaque(f.Color) {
			return color, images, i < len(l.Fills)-1 || ground != ""
		}
		images = append(images, "linear-gradient("+color+", "+color+")") // CSS has no plain image
	}
	if last := len(l.Fills) - 1; ground == "" && last >= 0 && l.Fills[last].Gradient == nil {
		f := l.Fills[last]
		return bound(f.Color, f.Token), slices.Delete(images, last, last+1), false
	}
	return ground, images, false
}

func opaque(text string) bool {
	c, err := color.Parse(text)
	return err == nil && c.Alpha >= 1
}
