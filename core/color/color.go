// Package color holds colours as the design-token standard's Color Module
// gives them and as CSS writes them, and brings both to one comparable form.
package color

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"
)

// Color is a colour in sRGB: components and alpha from 0 to 1. Components out
// of that range are colours sRGB cannot show.
type Color struct {
	R, G, B, A float64
}

// Hex gives #rrggbb, or #rrggbbaa when the colour is not opaque: the form in
// which Cobrik compares colours. Components are rounded to 8 bits and clipped.
func (c Color) Hex() string {
	s := fmt.Sprintf("#%02x%02x%02x", bits(c.R), bits(c.G), bits(c.B))
	if a := bits(c.A); a != 255 {
		s += fmt.Sprintf("%02x", a)
	}
	return s
}

func bits(v float64) int { return int(math.Round(min(max(v, 0), 1) * 255)) }

// FromComponents builds a colour from a colorSpace of the Color Module and its
// components. Readable spaces: srgb, srgb-linear, hsl, hwb, oklab, oklch.
// "none" is passed as 0, as CSS Color 4, section 4.4 has it for conversion.
func FromComponents(space string, v [3]float64, alpha float64) (Color, error) {
	switch space {
	case "srgb":
		return Color{v[0], v[1], v[2], alpha}, nil
	case "srgb-linear":
		return Color{companded(v[0]), companded(v[1]), companded(v[2]), alpha}, nil
	case "hsl":
		return fromHSL(v[0], v[1]/100, v[2]/100, alpha), nil
	case "hwb":
		return fromHWB(v[0], v[1]/100, v[2]/100, alpha), nil
	case "oklab":
		return fromOKLab(v[0], v[1], v[2], alpha), nil
	case "oklch":
		h := v[2] * math.Pi / 180
		return fromOKLab(v[0], v[1]*math.Cos(h), v[1]*math.Sin(h), alpha), nil
	}
	return Color{}, fmt.Errorf("the colour space %q is not read; use srgb, srgb-linear, hsl, hwb, oklab or oklch", space)
}

// companded applies the sRGB transfer function (CSS Color 4, section 18, gam_sRGB).
func companded(v float64) float64 {
	sign, abs := math.Copysign(1, v), math.Abs(v)
	if abs > 0.0031308 {
		return sign * (1.055*math.Pow(abs, 1/2.4) - 0.055)
	}
	return 12.92 * v
}

// fromHSL follows CSS Color 4, section 7.1.
func fromHSL(h, s, l, alpha float64) Color {
	f := func(n float64) float64 {
		k := math.Mod(math.Mod(n+h/30, 12)+12, 12)
		return l - s*min(l, 1-l)*max(-1, min(k-3, 9-k, 1))
	}
	return Color{f(0), f(8), f(4), alpha}
}

// fromHWB follows CSS Color 4, section 8.1.
func fromHWB(h, w, b, alpha float64) Color {
	if w+b >= 1 {
		grey := w / (w + b)
		return Color{grey, grey, grey, alpha}
	}
	c := fromHSL(h, 1, 0.5, alpha)
	scale := 1 - w - b
	return Color{c.R*scale + w, c.G*scale + w, c.B*scale + w, alpha}
}

// fromOKLab follows CSS Color 4, section 18 (OKLab_to_XYZ), with the product of
// its matrices up to linear sRGB.
func fromOKLab(l, a, b, alpha float64) Color {
	x := cube(l + 0.3963377773761749*a + 0.2158037573099136*b)
	y := cube(l - 0.1055613458156586*a - 0.0638541728258133*b)
	z := cube(l - 0.0894841775298119*a - 1.2914855480194092*b)
	return Color{
		companded(4.0767416360759583*x - 3.3077115392580629*y + 0.2309699031821043*z),
		companded(-1.2684379732850315*x + 2.6097573492876882*y - 0.3413193760026570*z),
		companded(-0.0041960761386756*x - 0.7034186179359362*y + 1.7076146940746117*z),
		alpha,
	}
}

func cube(v float64) float64 { return v * v * v }

// Parse reads a colour as CSS writes it (CSS Color 4): hex, a named colour,
// transparent, rgb(), hsl(), hwb(), oklab(), oklch() and color(srgb …), with
// commas or spaces and an alpha.
func Parse(text string) (Color, error) {
	s := strings.ToLower(strings.TrimSpace(text))
	switch {
	case strings.HasPrefix(s, "#"):
		return parseHex(s)
	case s == "transparent":
		return Color{}, nil
	case s == "rebeccapurple": // newer than the SVG 1.1 names below (CSS Color 4, 6.1)
		return Color{0.4, 0.2, 0.6, 1}, nil
	}
	if c, ok := colornames.Map[s]; ok {
		return Color{float64(c.R) / 255, float64(c.G) / 255, float64(c.B) / 255, 1}, nil
	}
	name, rest, ok := strings.Cut(s, "(")
	if !ok || !strings.HasSuffix(rest, ")") {
		return Color{}, unreadable(text)
	}
	args := strings.FieldsFunc(strings.TrimSuffix(rest, ")"), func(r rune) bool { return strings.ContainsRune(" ,/\t\n", r) })
	space := strings.TrimSuffix(name, "a")
	if name == "color" && len(args) > 0 {
		space, args = args[0], args[1:]
	}
	if space == "rgb" {
		space = "srgb"
	}
	if len(args) != 3 && len(args) != 4 {
		return Color{}, unreadable(text)
	}
	scale, known := scales[space]
	if !known {
		return Color{}, unreadable(text)
	}
	if name == "color" {
		scale = [3]component{{1, 1}, {1, 1}, {1, 1}}
	}
	var v [3]float64
	for i := range v {
		n, err := scale[i].read(args[i])
		if err != nil {
			return Color{}, unreadable(text)
		}
		v[i] = n
	}
	alpha := 1.0
	if len(args) == 4 {
		a, err := component{1, 1}.read(args[3])
		if err != nil {
			return Color{}, unreadable(text)
		}
		alpha = min(max(a, 0), 1)
	}
	c, err := FromComponents(space, v, alpha)
	if err != nil {
		return Color{}, unreadable(text)
	}
	return c, nil
}

// component says what a plain number and what 100% of it become.
type component struct{ number, full float64 }

var scales = map[string][3]component{
	"srgb":        {{1.0 / 255, 1}, {1.0 / 255, 1}, {1.0 / 255, 1}},
	"srgb-linear": {{1, 1}, {1, 1}, {1, 1}},
	"hsl":         {{1, 1}, {1, 100}, {1, 100}},
	"hwb":         {{1, 1}, {1, 100}, {1, 100}},
	"oklab":       {{1, 1}, {1, 0.4}, {1, 0.4}},
	"oklch":       {{1, 1}, {1, 0.4}, {1, 1}},
}

func (c component) read(s string) (float64, error) {
	if s == "none" {
		return 0, nil
	}
	scale := c.number
	if strings.HasSuffix(s, "%") {
		s, scale = strings.TrimSuffix(s, "%"), c.full/100
	}
	n, err := strconv.ParseFloat(strings.TrimSuffix(s, "deg"), 64)
	if err != nil || math.IsNaN(n) || math.IsInf(n, 0) {
		return 0, strconv.ErrSyntax
	}
	return n * scale, nil
}

func parseHex(s string) (Color, error) {
	digits := s[1:]
	if n := len(digits); n == 3 || n == 4 {
		var long strings.Builder
		for _, d := range digits {
			long.WriteRune(d)
			long.WriteRune(d)
		}
		digits = long.String()
	}
	if len(digits) == 6 {
		digits += "ff"
	}
	n, err := strconv.ParseUint(digits, 16, 32)
	if err != nil || len(digits) != 8 {
		return Color{}, unreadable(s)
	}
	at := func(shift uint) float64 { return float64(n>>shift&255) / 255 }
	return Color{at(24), at(16), at(8), at(0)}, nil
}

func unreadable(s string) error {
	return fmt.Errorf("%q is not a colour; write one as CSS does, such as #4a7c59 or rgb(74 124 89)", s)
}
