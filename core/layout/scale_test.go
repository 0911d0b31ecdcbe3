package layout

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// strip draws pictures in a column with gaps, in a box that is drawn a padding larger.
func strip(padding float64, gaps ...float64) *design.Layer {
	root := &design.Layer{ID: "root", Name: "Root", Kind: design.Box, Fill: "#fff"}
	y := padding
	for i := range len(gaps) + 1 {
		id := string(rune('a' + i))
		root.Children = append(root.Children, &design.Layer{ID: id, Name: id, Kind: design.Image, Bounds: design.Rect{X: padding, Y: y, Width: 80, Height: 30}})
		if y += 30; i < len(gaps) {
			y += gaps[i]
		}
	}
	root.Bounds = design.Rect{Width: 80 + 2*padding, Height: y + padding}
	return root
}

// A length nobody chose is no length to write down: what one of the scale explains has that.
func TestGapsAndPaddingsAreOfTheScale(t *testing.T) {
	for _, c := range []struct {
		what        string
		padding     float64
		gaps        []float64
		scale       []float64
		wantPadding float64
		wantGap     float64
	}{
		{"beside a multiple of 4", 15.6, []float64{7.6, 8.3, 8.1}, nil, 16, 8},
		{"meant as drawn", 15, []float64{7, 7, 7}, nil, 15, 7},
		{"uneven, about a multiple", 16, []float64{7, 9, 8}, nil, 16, 8},
		{"of a scale of its own", 14.4, []float64{5.7, 6.2}, []float64{2, 6, 14, 22}, 14, 6},
		{"not of that scale", 16, []float64{10, 10}, []float64{2, 6, 14, 22}, 16, 10},
		{"meant as drawn, near a length of the scale", 16, []float64{10, 10}, []float64{10.4, 16}, 16, 10},
		{"off by as much each time", 16, []float64{8.4, 8.4, 8.4, 8.4, 8.4}, nil, 16, 8.4},
	} {
		in, found := Infer(strip(c.padding, c.gaps...), InferOptions{Scale: c.scale})
		require.NotNil(t, in, found)
		assert.Equal(t, c.wantPadding, in.Root.Padding.Left, c.what)
		assert.Equal(t, c.wantGap, in.Root.Gap, c.what)
		assert.LessOrEqual(t, in.Residual, tolerance, "%s: %s", c.what, in.Untidy)
	}
}

// Nothing is farther from its place for a length of the scale than it was for the untidiness it was drawn with.
func TestTheScaleExplainsTheDrawing(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 4))
	for range 200 {
		gap := float64(4 * (1 + r.IntN(8)))
		gaps := make([]float64, 1+r.IntN(8))
		off, furthest := 0.0, 0.0
		for i := range gaps {
			gaps[i] = gap + r.Float64() - 0.5
			off += gaps[i] - gap
			furthest = max(furthest, math.Abs(off))
		}
		in, found := Infer(strip(16, gaps...), InferOptions{})
		require.NotNil(t, in, found)
		if furthest <= nearScale {
			assert.Equal(t, gap, in.Root.Gap, "%v", gaps)
		}
		assert.LessOrEqual(t, in.Residual, 2.5, "%v: %v", gaps, in.Untidy)
	}
}

func TestNearestOfAScale(t *testing.T) {
	scale := []float64{2, 6, 14}
	for v, want := range map[float64]float64{0: 2, 2: 2, 3.9: 2, 4.1: 6, 9: 6, 13: 14, 99: 14} {
		assert.Equal(t, want, nearest(v, scale), "%g", v)
	}
	assert.Equal(t, 8.0, nearest(9.9, nil))
}
