package e2e

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/color"
)

// Chromium's own conversions beside ours: 50 colours of every space, written by
// us, mixed with themselves in sRGB (CSS Color 5, 3.1, does not map them into it).
// Chromium computes with some thousandths of error near zero.
func TestColoursAreChromiums(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 156))
	var list []color.Color
	var texts []string
	for i, name := range color.SpaceNames() {
		space := color.Space(i)
		if space == color.Rec2020 {
			continue // Chromium 156 still has the transfer function from before 2025
		}
		for range 50 {
			// Inside of sRGB, seen from that space: HSL and HWB hold no more.
			v := [3]float64{random.Float64(), random.Float64(), random.Float64()}
			c := color.Color{Space: color.SRGB, V: v, Alpha: 1}.To(space)
			again, err := color.Parse(c.CSS())
			require.NoError(t, err, name)
			list, texts = append(list, again), append(texts, c.CSS())
		}
	}
	p := openPage(t, &app{})
	got := evaluate[[]string](p, fmt.Sprintf(`%s.map((c) => { document.body.style.color = "red"; document.body.style.color = "color-mix(in srgb, " + c + ", " + c + ")"; return getComputedStyle(document.body).color; })`, jsList(texts)))
	require.Len(t, got, len(list))
	wrong := map[string]int{}
	for i, c := range list {
		theirs, err := color.Parse(got[i])
		require.NoError(t, err, got[i])
		ours := c.To(color.SRGB)
		for k := range 3 {
			if math.Abs(theirs.V[k]-ours.V[k]) > 0.003 {
				if wrong[c.Space.String()]++; wrong[c.Space.String()] < 3 {
					assert.Fail(t, "another colour", "%s: Chromium has %s, we have %s", texts[i], got[i], ours.CSS())
				}
				break
			}
		}
	}
	assert.Empty(t, wrong)
}

func jsList(texts []string) string {
	out := make([]string, len(texts))
	for i, s := range texts {
		out[i] = quoted(s)
	}
	return "[" + strings.Join(out, ",") + "]"
}
