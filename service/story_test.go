package service_test

import (
	"cobrik/core/contract"
	"cobrik/store"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/demo/story"
	"cobrik/service"
)

func TestTheSurveyCountsWhatThePagesHold(t *testing.T) {
	s := seeded(t, demoHost(t))
	surveys, err := s.Surveys(t.Context())
	require.NoError(t, err)
	require.Len(t, surveys, 1)
	tag := surveys[0].Families[0]
	require.Len(t, tag.Uses, 11, "ten on pages, one in the card")
	for _, u := range tag.Uses[:6] {
		assert.Equal(t, "plots", u.Page)
		assert.Greater(t, u.Box.Y, 300.0, "a use is marked relative to its card, not to the page")
	}
	assert.Len(t, tag.Variants, 18)
	assert.Empty(t, tag.Component)
	_, err = s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	surveys, err = s.Surveys(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "crop-tag", surveys[0].Families[0].Component, "the survey offers to draft it a second time")
}

// From the first release over a moved design to the second, by the use cases
// alone; every number is one that the page shows before it is confirmed.
func TestADecisionDoesWhatItsPreviewSays(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	moved, err := s.Sync(t.Context())
	require.NoError(t, err)
	require.Len(t, moved, 1, "ToolRow did not move")
	decision := service.Decision{Revision: moved[0].Revision, Design: moved[0].Design, Release: true}
	for _, m := range moved[0].Moves {
		decision.Take = append(decision.Take, m.Key)
	}
	preview, err := s.PlanDecision(t.Context(), "crop-tag", decision)
	require.NoError(t, err)
	// 6 medium tags, 3 ripe plain tags of which 1 is medium, 6 resting tags.
	assert.Equal(t, 14, preview.Cases)
	assert.Equal(t, [3]any{"1.0.0", "1.1.0", contract.Minor}, [3]any{preview.From, preview.Version, preview.Level})
	assert.Zero(t, preview.Waiting)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, 1, bench.Revision, "looking at what would happen changed something")

	// The ripe tag of the new drawing is not read in dusk: it is decided, and released once that is set aside.
	assert.Contains(t, preview.Blocked, "a contrast of 1.07")
	_, err = s.Decide(t.Context(), "crop-tag", decision)
	assert.Contains(t, failure(t, err).Message, "cannot be released with it")
	decision.Release = false
	done, err := s.Decide(t.Context(), "crop-tag", decision)
	require.NoError(t, err)
	assert.False(t, done.Released)
	assert.Equal(t, preview.Changes, done.Changes)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", done.Contract, "", "", "Asked the designer"))
	releases, err := s.Releases(t.Context(), "crop-tag")
	require.NoError(t, err)
	require.Len(t, releases, 2)
	assert.Equal(t, "1.1.0", releases[0].Version)
	assert.Equal(t, done.Changes, releases[0].Changes)
	bench, err = s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, [3]int{2, 2, 0}, [3]int{bench.Agreed, bench.Design, bench.Waiting})
	assert.Len(t, bench.Cases, 24)

	_, err = s.Decide(t.Context(), "crop-tag", decision)
	assert.Error(t, err, "the same decision was carried out twice")
	_, err = s.Undo(t.Context(), "crop-tag", bench.Revision, store.Backward)
	require.NoError(t, err)
	moved, err = s.Sync(t.Context())
	require.NoError(t, err)
	require.Len(t, moved, 1, "undone, the moves are to be decided again")
	assert.Equal(t, 4, moved[0].Waiting)
}

// What the browser says is input like any other.
func TestMeasurementsOfAnotherBuildAreRefused(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	k := bench.Cases[0]
	measured := []ledger.Measurement{
		{Case: k.Key, Parts: []ledger.MeasuredPart{{Part: "root", Box: design.Rect{Width: 999, Height: 1}, Style: map[string]string{"gap": "</script>"}}}},
		{Case: "no such case", Parts: []ledger.MeasuredPart{{Part: "nobody"}}},
	}
	_, err = s.Measured(t.Context(), "crop-tag", "7.old", "", measured)
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	view, err := s.Measured(t.Context(), "crop-tag", bench.Build, "", measured)
	require.NoError(t, err)
	assert.True(t, view.Measured)
	assert.True(t, view.Cases[0].Measured)
	assert.False(t, view.Cases[1].Measured, "a case that did not run is called level with the code")
	assert.Positive(t, view.Differs, "a root of 999 px is taken for one as drawn")
	_, err = s.Edit(t.Context(), "crop-tag", 1, []service.ValueEdit{{Part: "root", Property: "gap", Value: "5px"}})
	require.NoError(t, err)
	view, err = s.Ledger(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.False(t, view.Measured, "what was measured of the old code is shown for the new")
	_, err = s.Edit(t.Context(), "crop-tag", 2, []service.ValueEdit{{Part: "root", Property: "gap", Value: "red; }"}, {Part: "nobody", Property: "gap", Value: "1px"}})
	assert.Len(t, failure(t, err).Problems, 2)
}
