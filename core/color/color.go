// Package color computes with colours: the spaces of the design-token
// standard's Color Module (those of CSS Color 4), conversion between them, CSS
// in and out, gamut mapping, contrast and difference.
package color

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Space is a colour space of the Color Module (2025.10, section 4).
type Space uint8

// The spaces and what their three components mean. A component may be none,
// held as NaN (CSS Color 4, 4.4).
const (
	SRGB       Space = iota // red, green, blue: 0 to 1
	SRGBLinear              // the same, in linear light
	HSL                     // hue 0 to 360, saturation and lightness 0 to 100
	HWB                     // hue 0 to 360, whiteness and blackness 0 to 100
	Lab                     // lightness 0 to 100, a and b about -125 to 125
	LCH                     // lightness 0 to 100, chroma from 0, hue 0 to 360
	OKLab                   // lightness 0 to 1, a and b about -0.4 to 0.4
	OKLCH                   // lightness 0 to 1, chroma from 0, hue 0 to 360
	DisplayP3               // red, green, blue: 0 to 1
	A98                     // red, green, blue: 0 to 1
	ProPhoto                // red, green, blue: 0 to 1
	Rec2020                 // red, green, blue: 0 to 1
	XYZD65                  // CIE X, Y, Z; white has Y 1
	XYZD50                  // the same, adapted to D50
)

// spaceNames are the Color Module's names of the spaces, in their order.
var spaceNames = []string{"srgb", "srgb-linear", "hsl", "hwb", "lab", "lch", "oklab", "oklch",
	"display-p3", "a98-rgb", "prophoto-rgb", "rec2020", "xyz-d65", "xyz-d50"}

// SpaceNames lists the names of all spaces, in the order of their constants.
func SpaceNames() []string { return slices.Clone(spaceNames) }

// SpaceNamed finds a space by its name in the Color Module.
func SpaceNamed(name string) (Space, error) {
	if i := slices.Index(spaceNames, name); i >= 0 {
		return Space(i), nil
	}
	return 0, fmt.Errorf("the colour space %q is not one of the standard's; use one of %s", name, strings.Join(spaceNames, ", "))
}

func (s Space) String() string { return spaceNames[s] }

// Hue gives which component is a hue; -1 for none.
func (s Space) Hue() int {
	switch s {
	case HSL, HWB:
		return 0
	case LCH, OKLCH:
		return 2
	}
	return -1
}

// Outside says which of a colour's components is outside of what its space goes over; empty for none (Color Module 2025.10:
// red, green and blue 0 to 1, hue from 0 to below 360, shares 0 to 100, lightness 0 to 100 or 0 to 1, chroma from 0).
func (s Space) Outside(v [3]float64) string {
	check := func(i int, name string, most float64) string {
		if v[i] < 0 || v[i] > most {
			return fmt.Sprintf("%s goes from 0 to %s, found %s", name, number(most, 4), number(v[i], 6))
		}
		return ""
	}
	hue := func(i int) string {
		if v[i] < 0 || v[i] >= 360 {
			return "the hue goes from 0 to below 360, found " + number(v[i], 6)
		}
		return ""
	}
	lightness := 100.0
	if s == OKLab || s == OKLCH {
		lightness = 1
	}
	switch s {
	case HSL:
		return cmp.Or(hue(0), check(1, "saturation", 100), check(2, "lightness", 100))
	case HWB:
		return cmp.Or(hue(0), check(1, "whiteness", 100), check(2, "blackness", 100))
	case Lab, OKLab:
		return check(0, "lightness", lightness)
	case LCH, OKLCH:
		if v[1] < 0 {
			return "chroma goes from 0, found " + number(v[1], 6)
		}
		return cmp.Or(check(0, "lightness", lightness), hue(2))
	case XYZD65, XYZD50:
		return ""
	}
	return cmp.Or(check(0, "red", 1), check(1, "green", 1), check(2, "blue", 1))
}

// Color is a colour in a space. Its zero value is black that cannot be seen.
type Color struct {
	Space Space
	V     [3]float64 // components; NaN is none
	Alpha float64    // 0 to 1; NaN is none
}

// None is a missing component.
var None = math.NaN()

// New checks a colour's components: finite or none. Alpha goes from 0 to 1.
func New(space Space, v [3]float64, alpha float64) (Color, error) {
	for i, n := range v {
		if math.IsInf(n, 0) {
			return Color{}, fmt.Errorf("component %d is not a finite number", i+1)
		}
	}
	if alpha < 0 || alpha > 1 {
		return Color{}, fmt.Errorf("alpha goes from 0 to 1, found %s", number(alpha, 4))
	}
	return Color{space, v, alpha}, nil
}

// orZero gives a component, none as 0: what CSS Color 4, 4.4, has it count for
// outside of interpolation.
func orZero(v float64) float64 {
	if math.IsNaN(v) {
		return 0
	}
	return v
}

// values gives the components with none as 0.
func (c Color) values() vec {
	v := vec{c.V[0], c.V[1], c.V[2]}
	if sum := v.x + v.y + v.z; sum != sum { // one of them is none
		return vec{orZero(v.x), orZero(v.y), orZero(v.z)}
	}
	return v
}

// opacity gives alpha with none as 0.
func (c Color) opacity() float64 { return orZero(c.Alpha) }
