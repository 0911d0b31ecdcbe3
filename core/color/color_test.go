package color_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/color"
)

// Samples of CSS Color 4: sections 7 to 10 state that these are the same colour.
func TestParseReadsEveryWayCSSWritesAColour(t *testing.T) {
	for written, want := range map[string]string{
		"#008000":                              "#008000",
		"#080":                                 "#008800",
		"green":                                "#008000",
		"GREEN":                                "#008000",
		"rgb(0 128 0)":                         "#008000",
		"rgb(0, 128, 0)":                       "#008000",
		"rgba(0, 128, 0, 0.5)":                 "#00800080",
		"rgb(0% 50.2% 0% / 50%)":               "#00800080",
		"hsl(120deg 100% 25%)":                 "#008000",
		"hwb(120 0% 49.8039%)":                 "#008000",
		"oklch(51.975% 0.17686 142.495)":       "#008000",
		"oklab(51.975% -0.1403 0.10768)":       "#008000",
		"color(srgb 0 0.50196 0)":              "#008000",
		"color(srgb-linear 0 0.21586 0)":       "#008000",
		"hwb(45 40% 80%)":                      "#555555",
		"hwb(45 40% 60% / none)":               "#66666600",
		"transparent":                          "#00000000",
		"rgb(300 -20 128)":                     "#ff0080",
		"hsl(-240 100% 25%)":                   "#008000",
		"  #12345678 ":                         "#12345678",
		"rgb(74.6 124.4 89 / 1)":               "#4b7c59",
		"oklch(0.519752 0.176858 142.4953deg)": "#008000",
	} {
		got, err := color.Parse(written)
		require.NoError(t, err, "a value a person may type is refused: %s", written)
		assert.Equal(t, want, got.Hex(), written)
	}
}

func TestParseRefusesWhatIsNotAColour(t *testing.T) {
	for _, written := range []string{"", "#", "#12", "#12345", "#gggggg", "rgb(1 2)", "rgb(1 2 3 4 5)", "rgb(a b c)", "rgb(1 2 3", "8px", "color(lab 1 1 1)", "color(xyz 1 1)", "rgb(1, 2 3)", "hwb(1, 2%, 3%)", "rgb(0x10 1 1)", "oklch(1 1 10%)", "rgb(1 2 3 / 4 5)", "rgb(none, 1, 1)",
		"hsl(NaN 1% 1%)", "rgb(Inf 0 0)", "var(--x)", "url(x)"} {
		_, err := color.Parse(written)
		assert.Error(t, err, "%q would be compared as a colour", written)
	}
}

// Hex is the form values are compared in: it must survive being read again.
func TestHexRoundTrip(t *testing.T) {
	for i := range 4096 {
		hex := fmt.Sprintf("#%02x%02x%02x", i%256, i/16, 255-i%256)
		c, err := color.Parse(hex)
		require.NoError(t, err)
		assert.Equal(t, hex, c.Hex())
	}
}

func FuzzParse(f *testing.F) {
	f.Add("rgb(1 2 3 / 4%)")
	f.Add("#1234")
	f.Fuzz(func(t *testing.T, s string) {
		if c, err := color.Parse(s); err == nil {
			again, err := color.Parse(c.Hex())
			require.NoError(t, err)
			require.Equal(t, c.Hex(), again.Hex())
		}
	})
}
