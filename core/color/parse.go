package color

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"
)

// longest is the longest text read as a colour, in bytes.
const longest = 200

// Parse reads a colour as CSS writes it (CSS Color 4): hex, a named colour,
// transparent, rgb(), hsl(), hwb(), lab(), lch(), oklab(), oklch() and color(),
// with commas where CSS has them still, none, percentages and angle units.
func Parse(text string) (Color, error) {
	if len(text) > longest {
		return Color{}, fmt.Errorf("a text of %d bytes is not a colour", len(text))
	}
	s := strings.ToLower(strings.TrimSpace(text))
	switch {
	case strings.HasPrefix(s, "#"):
		return parseHex(s)
	case s == "transparent":
		return Color{Space: SRGB}, nil
	case s == "rebeccapurple": // newer than the SVG 1.1 names below (CSS Color 4, 6.1)
		return Color{SRGB, [3]float64{0.4, 0.2, 0.6}, 1}, nil
	}
	if c, ok := colornames.Map[s]; ok {
		return Color{SRGB, [3]float64{float64(c.R) / 255, float64(c.G) / 255, float64(c.B) / 255}, 1}, nil
	}
	name, rest, ok := strings.Cut(s, "(")
	body, closed := strings.CutSuffix(rest, ")")
	if !ok || !closed || strings.ContainsAny(body, "()") {
		return Color{}, unreadable(text)
	}
	c, ok := function(name, body)
	if !ok {
		return Color{}, unreadable(text)
	}
	return c, nil
}

// component says what a plain number and what 100% of it become; an angle also
// takes units.
type component struct {
	number, full float64
	angle        bool
}

var (
	channel = component{number: 1, full: 1}
	byte8   = component{number: 1.0 / 255, full: 1}
	percent = component{number: 1, full: 100}
	hue     = component{number: 1, angle: true}
)

// functions are CSS Color 4's, sections 5 to 9.
var functions = map[string]struct {
	space  Space
	scale  [3]component
	commas bool // may be written with commas
}{
	"rgb": {SRGB, [3]component{byte8, byte8, byte8}, true}, "rgba": {SRGB, [3]component{byte8, byte8, byte8}, true},
	"hsl": {HSL, [3]component{hue, percent, percent}, true}, "hsla": {HSL, [3]component{hue, percent, percent}, true},
	"hwb":   {HWB, [3]component{hue, percent, percent}, false},
	"lab":   {Lab, [3]component{percent, {number: 1, full: 125}, {number: 1, full: 125}}, false},
	"lch":   {LCH, [3]component{percent, {number: 1, full: 150}, hue}, false},
	"oklab": {OKLab, [3]component{channel, {number: 1, full: 0.4}, {number: 1, full: 0.4}}, false},
	"oklch": {OKLCH, [3]component{channel, {number: 1, full: 0.4}, hue}, false},
}

func function(name, body string) (Color, bool) {
	f, ok := functions[name]
	if name == "color" {
		named, rest, _ := strings.Cut(strings.TrimSpace(body), " ")
		if named == "xyz" {
			named = "xyz-d65"
		}
		space, err := SpaceNamed(named)
		f.space, f.scale, body = space, [3]component{channel, channel, channel}, rest
		ok = err == nil && space.Hue() < 0 && space != Lab && space != OKLab
	}
	if !ok {
		return Color{}, false
	}
	args, alpha, ok := arguments(body, f.commas)
	if !ok {
		return Color{}, false
	}
	c := Color{Space: f.space}
	for i := range c.V {
		if c.V[i], ok = f.scale[i].read(args[i]); !ok {
			return Color{}, false
		}
	}
	if c.Alpha, ok = channel.read(alpha); !ok {
		return Color{}, false
	}
	if strings.HasPrefix(name, "rgb") {
		for i := range c.V {
			c.V[i] = clampTo(c.V[i], 0, 1)
		}
	}
	return c.clamped(), true
}

// arguments parts "a b c / alpha", or "a, b, c, alpha".
func arguments(body string, commas bool) (args []string, alpha string, ok bool) {
	if commas && strings.Contains(body, ",") {
		args = strings.Split(body, ",")
		for i := range args {
			args[i] = strings.TrimSpace(args[i])
			if args[i] == "none" {
				return nil, "", false
			}
		}
		if len(args) == 4 {
			return args[:3], args[3], true
		}
		return args, "1", len(args) == 3
	}
	main, alpha, slash := strings.Cut(body, "/")
	if !slash {
		alpha = "1"
	}
	args = strings.Fields(main)
	return args, strings.TrimSpace(alpha), len(args) == 3
}

// clamped brings what CSS clamps while parsing into its range.
func (c Color) clamped() Color {
	c.Alpha = clampTo(c.Alpha, 0, 1)
	switch c.Space {
	case Lab, LCH:
		c.V[0] = clampTo(c.V[0], 0, 100)
	case OKLab, OKLCH:
		c.V[0] = clampTo(c.V[0], 0, 1)
	case HSL:
		c.V[1] = clampTo(c.V[1], 0, math.Inf(1))
	}
	if c.Space == LCH || c.Space == OKLCH {
		c.V[1] = clampTo(c.V[1], 0, math.Inf(1))
	}
	return c
}

// clampTo leaves none as it is.
func clampTo(v, low, high float64) float64 {
	if math.IsNaN(v) {
		return v
	}
	return min(max(v, low), high)
}

// angles are CSS Values 4, 7.1, in degrees.
var angles = []struct {
	unit    string
	degrees float64
}{{"grad", 0.9}, {"deg", 1}, {"rad", 180 / math.Pi}, {"turn", 360}}

func (c component) read(s string) (float64, bool) {
	if s == "none" {
		return None, true
	}
	scale := c.number
	if cut, ok := strings.CutSuffix(s, "%"); ok {
		if c.angle {
			return 0, false
		}
		s, scale = cut, c.full/100
	} else if c.angle {
		for _, a := range angles {
			if cut, ok := strings.CutSuffix(s, a.unit); ok {
				s, scale = cut, a.degrees
				break
			}
		}
	}
	n, err := strconv.ParseFloat(s, 64)
	// ParseFloat reads more than CSS's <number>: hex, inf, nan, underscores.
	if err != nil || strings.Trim(s, "0123456789.+-e") != "" || math.Abs(n) > 1e6 {
		return 0, false
	}
	return n * scale, true
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
	return Color{SRGB, [3]float64{at(24), at(16), at(8)}, at(0)}, nil
}

func unreadable(s string) error {
	return fmt.Errorf("%q is not a colour; write one as CSS does, such as #4a7c59 or oklch(0.55 0.08 155)", s)
}
