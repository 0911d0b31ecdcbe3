package color

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Hex gives #rrggbb, or #rrggbbaa when the colour is not opaque. A colour
// outside of sRGB is mapped into it first.
func (c Color) Hex() string {
	m := c.Mapped(SRGB)
	v := m.values()
	s := fmt.Sprintf("#%02x%02x%02x", bits(v.x), bits(v.y), bits(v.z))
	if a := bits(m.opacity()); a != 255 {
		s += fmt.Sprintf("%02x", a)
	}
	return s
}

func bits(v float64) int { return int(math.Round(min(max(v, 0), 1) * 255)) }

// Key is the form in which Cobrik compares colours: hex for what sRGB can show,
// else OKLCH to a thousandth.
func (c Color) Key() string {
	if c.In(SRGB) {
		return c.Hex()
	}
	k := c.To(OKLCH)
	return serialise("oklch", []string{number(k.V[0], 3), number(k.V[1], 3), number(math.Round(k.V[2]), 0)}, k.Alpha)
}

// CSS writes the colour in its own space (CSS Color 4, section 15), to five
// decimals where a component goes to 1 and four where it goes to 100 or 360.
func (c Color) CSS() string {
	v := make([]string, 3)
	for i, n := range c.V {
		v[i] = number(n, 5)
		if c.Space.Hue() == i || c.Space == Lab || c.Space == LCH {
			v[i] = number(n, 4)
		}
	}
	switch c.Space {
	case HSL, HWB:
		for i := 1; i < 3; i++ {
			if !math.IsNaN(c.V[i]) {
				v[i] = number(c.V[i], 4) + "%"
			}
		}
		return serialise(c.Space.String(), v, c.Alpha)
	case Lab, LCH, OKLab, OKLCH:
		return serialise(c.Space.String(), v, c.Alpha)
	}
	return serialise("color", append([]string{c.Space.String()}, v...), c.Alpha)
}

// RGB writes the colour as rgb(), mapped into sRGB and rounded to 8 bits.
func (c Color) RGB() string {
	m := c.Mapped(SRGB)
	v := m.values()
	return serialise("rgb", []string{strconv.Itoa(bits(v.x)), strconv.Itoa(bits(v.y)), strconv.Itoa(bits(v.z))}, m.Alpha)
}

// Forms are the ways a colour can be written, besides those named as a space.
var Forms = []string{"hex", "rgb", "hsl", "oklch"}

// As writes the colour in a form ("hex", "rgb") or a space. What sRGB's forms
// cannot hold is mapped into sRGB.
func (c Color) As(form string) (string, error) {
	switch form {
	case "hex":
		return c.Hex(), nil
	case "rgb":
		return c.RGB(), nil
	case "hsl":
		return c.Mapped(SRGB).To(HSL).CSS(), nil
	case "hwb":
		return c.Mapped(SRGB).To(HWB).CSS(), nil
	case "xyz":
		return c.To(XYZD65).CSS(), nil
	case "p3":
		return c.To(DisplayP3).CSS(), nil
	}
	space, err := SpaceNamed(form)
	if err != nil {
		return "", fmt.Errorf("there is no colour form %q; use hex, rgb, or one of %s", form, strings.Join(spaceNames, ", "))
	}
	return c.To(space).CSS(), nil
}

func serialise(function string, components []string, alpha float64) string {
	tail := ""
	if alpha != 1 {
		tail = " / " + number(alpha, 4)
	}
	return function + "(" + strings.Join(components, " ") + tail + ")"
}

func number(n float64, decimals int) string {
	if math.IsNaN(n) {
		return "none"
	}
	s := strconv.FormatFloat(n, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}
