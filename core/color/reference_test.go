package color_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/color"
	"cobrik/web/reference"
)

// ask asks two general-purpose colour libraries of the npm registry, culori and
// colorjs.io.
func ask[T any](t testing.TB, task map[string]any) T {
	t.Helper()
	return reference.Ask[T](t, "color.mjs", task)
}

type sample struct {
	Space color.Space
	V     [3]float64
}

func (s sample) MarshalJSON() ([]byte, error) {
	return json.Marshal(map[string]any{"space": s.Space.String(), "v": s.V})
}

// spaces are all of them.
func spaces() []color.Space {
	var list []color.Space
	for i := range color.SpaceNames() {
		list = append(list, color.Space(i))
	}
	return list
}

// samples are colours all over each space, a tenth of them a little outside.
func samples(n int) []sample {
	random := rand.New(rand.NewPCG(4, 2026))
	all := spaces()
	list := make([]sample, n)
	for i := range list {
		space := all[i%len(all)]
		unit := func() float64 {
			if random.IntN(10) == 0 {
				return random.Float64()*1.2 - 0.1
			}
			return random.Float64()
		}
		v := [3]float64{unit(), unit(), unit()}
		switch space {
		case color.HSL, color.HWB:
			v = [3]float64{random.Float64() * 360, random.Float64() * 100, random.Float64() * 100}
			if space == color.HWB {
				v[2] *= 1 - v[1]/100
			}
		case color.Lab:
			v = [3]float64{random.Float64() * 100, random.Float64()*160 - 80, random.Float64()*160 - 80}
		case color.LCH:
			v = [3]float64{random.Float64() * 100, random.Float64() * 100, random.Float64() * 360}
		case color.OKLab:
			v = [3]float64{random.Float64(), random.Float64()*0.6 - 0.3, random.Float64()*0.6 - 0.3}
		case color.OKLCH:
			v = [3]float64{random.Float64(), random.Float64() * 0.35, random.Float64() * 360}
		}
		list[i] = sample{space, v}
	}
	return list
}

// near compares components of a space: hues around the circle, weighed by
// chroma; everything else to one part in twenty thousand of its range.
func near(space color.Space, a, b [3]float64, tolerance float64) bool {
	scale := [3]float64{1, 1, 1}
	hue, chroma := -1, 1.0
	switch space {
	case color.HSL:
		scale, hue, chroma = [3]float64{360, 100, 100}, 0, a[1]/100*min(a[2], 100-a[2])/50
	case color.HWB:
		scale, hue, chroma = [3]float64{360, 100, 100}, 0, (100-a[1]-a[2])/100
	case color.Lab:
		scale = [3]float64{100, 125, 125}
	case color.LCH:
		scale, hue, chroma = [3]float64{100, 150, 360}, 2, a[1]/150
	case color.OKLCH:
		scale, hue, chroma = [3]float64{1, 0.4, 360}, 2, a[1]/0.4
	}
	for i := range a {
		d := math.Abs(a[i] - b[i])
		if i == hue {
			d = min(d, 360-d) * max(chroma, 0)
		}
		if d/scale[i] > tolerance {
			return false
		}
	}
	return true
}

func numbers(c color.Color) [3]float64 {
	for i, v := range c.V {
		if math.IsNaN(v) {
			c.V[i] = 0
		}
	}
	return c.V
}

// Every space to every space on 2,800 colours. HSL and HWB only where sRGB
// shows the colour: outside of it the two libraries differ from each other.
// culori's Rec. 2020 still has the older, scene-referred transfer function.
func TestConversionsAgreeWithTwoLibraries(t *testing.T) {
	list := samples(2800)
	type both struct{ Colorjs, Culori [3]float64 }
	answers := ask[[][]both](t, map[string]any{"task": "convert", "colors": list, "spaces": color.SpaceNames()})
	checked, wrong := 0, 0
	for i, s := range list {
		c, err := color.New(s.Space, s.V, 1)
		require.NoError(t, err)
		for j, to := range spaces() {
			if (to == color.HSL || to == color.HWB) && !c.In(color.SRGB) {
				continue
			}
			got := numbers(c.To(to))
			if to == color.HSL && got[2] < 0.1 {
				continue // saturation of what is nearly black is any number
			}
			checked++
			if !near(to, answers[i][j].Colorjs, got, 0.00005) && wrong < 20 {
				wrong++
				assert.Fail(t, "a colour changes on its way", "%s %v to %s: colorjs.io has %v, we have %v", s.Space, s.V, to, answers[i][j].Colorjs, got)
			}
			if s.Space != color.Rec2020 && to != color.Rec2020 && !near(to, answers[i][j].Culori, got, 0.0002) && wrong < 20 {
				wrong++
				assert.Fail(t, "a colour changes on its way", "%s %v to %s: culori has %v, we have %v", s.Space, s.V, to, answers[i][j].Culori, got)
			}
		}
	}
	assert.Greater(t, checked, 30000)
}

// CSS Color 4, 13.2, on colours of every space, beside colorjs.io's own writing of that
// algorithm. The search may stop elsewhere by its own tolerance of 0.02.
func TestGamutMappingAgreesWithALibrary(t *testing.T) {
	list := samples(2800)
	answers := ask[[][3]float64](t, map[string]any{"task": "map", "colors": list})
	mapped := 0
	for i, s := range list {
		c, err := color.New(s.Space, s.V, 1)
		require.NoError(t, err)
		if !c.In(color.SRGB) {
			mapped++
		}
		got := numbers(c.Mapped(color.SRGB))
		assert.True(t, near(color.SRGB, answers[i], got, 0.002), "%s %v: colorjs.io has %v, we have %v", s.Space, s.V, answers[i], got)
		for _, v := range got {
			assert.True(t, v >= -0.0001 && v <= 1.0001, "%v is still outside of sRGB", got)
		}
	}
	assert.Greater(t, mapped, 800)
}

func TestDifferenceAndContrastAgreeWithTwoLibraries(t *testing.T) {
	var pairs [][2]string
	list := samples(1400)
	for i := range list[1:] {
		a, _ := color.New(list[i].Space, list[i].V, 1)
		b, _ := color.New(list[i+1].Space, list[i+1].V, 1)
		pairs = append(pairs, [2]string{a.Hex(), b.Hex()})
	}
	type answer struct{ Difference, Culori, Contrast float64 }
	for i, want := range ask[[]answer](t, map[string]any{"task": "compare", "pairs": pairs}) {
		a, err := color.Parse(pairs[i][0])
		require.NoError(t, err)
		b, err := color.Parse(pairs[i][1])
		require.NoError(t, err)
		assert.InDelta(t, want.Difference, color.Difference(a, b), 0.002, pairs[i])
		assert.InDelta(t, want.Culori, color.Difference(a, b), 0.002, pairs[i])
		assert.InDelta(t, want.Contrast, color.Contrast(a, b), 0.02, pairs[i])
	}
}

// What is written is read again as the same colour, by us and by colorjs.io.
func TestCSSRoundTrip(t *testing.T) {
	var texts []string
	var colors []color.Color
	for _, s := range samples(1400) {
		c, err := color.New(s.Space, s.V, 1)
		require.NoError(t, err)
		again, err := color.Parse(c.CSS())
		require.NoError(t, err, c.CSS())
		assert.Equal(t, c.Space, again.Space)
		assert.True(t, near(c.Space, numbers(c), numbers(again), 0.00002), "%s is read as %v", c.CSS(), again.V)
		texts, colors = append(texts, c.CSS()), append(colors, c)
	}
	for i, want := range ask[[][3]float64](t, map[string]any{"task": "parse", "texts": texts}) {
		assert.True(t, near(color.SRGB, want, numbers(colors[i].To(color.SRGB)), 0.002), texts[i])
	}
}

// Conversion to each of four spaces, beside culori on the same colours in the
// same run: culori/ours is how many times as fast ours is (goal: at least 5).
func BenchmarkConvert(b *testing.B) {
	var list []sample
	for _, s := range samples(2800) {
		if s.Space == color.SRGB {
			list = append(list, s)
		}
	}
	colors := make([]color.Color, len(list))
	for i, s := range list {
		colors[i] = color.Color{Space: s.Space, V: s.V, Alpha: 1}
	}
	for _, to := range []color.Space{color.OKLCH, color.Lab, color.HSL, color.DisplayP3} {
		b.Run(to.String(), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				for i := range colors {
					sink = colors[i].To(to)
				}
			}
			ours := float64(b.Elapsed().Nanoseconds()) / float64(b.N*len(colors))
			b.ReportMetric(ours, "ns/colour")
			theirs := ask[struct{ Best float64 }](b, map[string]any{"task": "time", "colors": list, "to": to.String()})
			b.ReportMetric(theirs.Best/ours, "culori/ours")
		})
	}
}

var sink color.Color
