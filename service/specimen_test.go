package service_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The parts of a specimen are found for whatever it is given: what is there follows the props, and a value
// that is none is as good as not given.
func TestPlacesFollowWhatIsGiven(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	places := func(props map[string]any) map[string][]int {
		out, err := s.PlacesOf(t.Context(), "plot-card", props)
		require.NoError(t, err)
		return out
	}
	plain := places(nil)
	assert.Equal(t, []int{}, plain["root"])
	assert.Contains(t, plain, "title")
	assert.NotContains(t, plain, "seedNote")
	assert.Contains(t, places(map[string]any{"goneToSeed": true}), "seedNote")
	assert.Equal(t, plain, places(map[string]any{"goneToSeed": "perhaps", "nobody": 1, "level": 77}))
	_, err = s.PlacesOf(t.Context(), "nobody", nil)
	assert.Error(t, err)

	bench, err := s.Bench(t.Context(), "plot-card", "")
	require.NoError(t, err)
	for _, p := range bench.Parts {
		if p.ID == "title" {
			assert.Equal(t, "heading", p.Role)
			assert.Equal(t, "Plot 41", p.Called)
			require.NotEmpty(t, p.Changed)
			assert.Equal(t, "title", p.Changed[0].By)
		}
		if p.ID == "tag" {
			assert.Equal(t, "CropTag", p.Element)
		}
	}
}
