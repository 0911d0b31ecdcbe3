package color_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/color"
)

func parse(t *testing.T, s string) color.Color {
	t.Helper()
	c, err := color.Parse(s)
	require.NoError(t, err)
	return c
}

// WCAG 2.2, 1.4.3: the greys on white either side of 4.5, and the ends.
func TestContrastIsWCAGs(t *testing.T) {
	for _, c := range []struct {
		text, ground string
		want         float64
	}{
		{"#767676", "#fff", 4.54}, {"#777777", "#fff", 4.48}, {"#000", "#fff", 21}, {"#fff", "#fff", 1},
		{"#595959", "white", 7.00},
		{"rgb(0 0 0 / 0)", "#fff", 1},      // what cannot be seen has no contrast
		{"rgb(0 0 0 / 50%)", "#fff", 3.98}, // #808080 blended by hand is 3.95; 50% of 255 is 127.5
		{"#000", "rgb(0 0 0 / 0)", 21},     // a ground that is not there is white paper
	} {
		got := color.Contrast(parse(t, c.text), parse(t, c.ground))
		assert.InDelta(t, c.want, got, 0.005, "%s on %s", c.text, c.ground)
		if parse(t, c.text).Alpha == 1 && parse(t, c.ground).Alpha == 1 {
			assert.Equal(t, got, color.Contrast(parse(t, c.ground), parse(t, c.text)), "contrast has no direction")
		}
	}
}

// CSS Color 4's own samples of #008000, and the achromatic and missing cases
// of its sections 4.4 and 12.1.
func TestCSSColor4Samples(t *testing.T) {
	green := parse(t, "#008000")
	for form, want := range map[string]string{
		"oklch": "oklch(0.51975 0.17686 142.4953)", "lab": "lab(46.2775 -47.5521 48.5837)", "hex": "#008000", "rgb": "rgb(0 128 0)",
		"hsl": "hsl(120 100% 25.098%)", "srgb": "color(srgb 0 0.50196 0)", "xyz": "color(xyz-d65 0.07719 0.15438 0.02573)",
	} {
		got, err := green.As(form)
		require.NoError(t, err)
		if form == "lab" { // the specification prints b to four digits from another rounding of D50
			assert.True(t, near(color.Lab, numbers(parse(t, want)), numbers(parse(t, got)), 0.0002), got)
			continue
		}
		assert.Equal(t, want, got)
	}
	for text, want := range map[string]string{
		"oklch(0.59987 0 none)": "#808080", "oklch(none 0.1 20)": "#000000", "rgb(none 128 none)": "#008000", "hsl(none 0% 50%)": "#808080",
		"lab(46.2775% -47.5621 48.5837)": "#008000", "lch(46.2775% 67.9892 134.3912)": "#008000", "color(xyz 0.07719 0.15438 0.02573)": "#008000",
		"color(display-p3 0.21604 0.49418 0.13151)": "#008000",
		"rgb(0 128 0 / none)":                       "#00800000",
		"hsl(0.3333turn 100% 25.1%)":                "#008000", "hsl(2.0944rad 100% 25.1%)": "#008000", "hsl(133.333grad 100% 25.1%)": "#008000",
	} {
		assert.Equal(t, want, parse(t, text).Hex(), text)
	}
	grey, err := parse(t, "#808080").As("oklch")
	require.NoError(t, err)
	assert.Equal(t, "oklch(0.59987 0 none)", grey, "a grey has no hue to speak of")
	_, err = green.As("cmyk")
	assert.ErrorContains(t, err, "use hex, rgb, or one of srgb")
}

// A colour outside of sRGB keeps its own name where it is compared.
func TestKeyTellsWideColoursApart(t *testing.T) {
	assert.Equal(t, "#008000", parse(t, "oklch(51.975% 0.17686 142.495)").Key())
	a, b := parse(t, "color(display-p3 0 1 0)"), parse(t, "color(rec2020 0 1 0)")
	assert.NotEqual(t, a.Key(), b.Key())
	assert.NotEqual(t, a.Key(), a.Hex())
	assert.Equal(t, a.Key(), a.To(color.OKLCH).Key())
}
