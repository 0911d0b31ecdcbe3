package service_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/drift"
	"cobrik/core/source"
	"cobrik/service"
)

// How far all agree is noted when it changes, and told from one time to another: a design moves, is decided, and the code follows.
func TestHowFarAllAgreeIsTold(t *testing.T) {
	s, _, work := levelled(t)
	require.NoError(t, s.NotePoint(t.Context()))
	require.NoError(t, s.NotePoint(t.Context()))
	begun := time.Now()
	report := func(from time.Time) (out [5]int) {
		r, err := s.DriftReport(t.Context(), from, time.Time{})
		require.NoError(t, err)
		sum := r.To.Sum()
		return [5]int{len(r.Way), sum.Design, sum.Contract, sum.Code, sum.Apart}
	}
	assert.Equal(t, [5]int{1}, report(begun), "nothing moved: noted once, however often it is looked")

	develop(t, work, "src/components/CropTag/CropTag.module.css", "var(--space-2)", "var(--space-3)")
	_, err := s.ReadTarget(t.Context())
	require.NoError(t, err)
	c := codeOf(t, s, "crop-tag")
	n := len(c.Moves)
	assert.Equal(t, [5]int{2, 0, 0, n, 0}, report(begun))
	_, err = s.DecideCode(t.Context(), "crop-tag", service.CodeDecision{Revision: c.Revision, Leave: keysOf(c.Moves), Reason: "Thumbs."})
	require.NoError(t, err)
	assert.Equal(t, [5]int{3, 0, 0, 0, n}, report(begun))
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	sync, _ := syncOf(t, s, "crop-tag")
	now := report(begun)
	assert.Equal(t, [5]int{4, sync.Waiting, 0, 0, n}, now)

	r, err := s.DriftReport(t.Context(), begun, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, [2]int{2, 1}, r.Level)
	assert.Equal(t, "begun", r.Way[0].Why)
	assert.Contains(t, r.Way[1].Why, "commit ")
	assert.Equal(t, "CropTag", r.Way[2].Why)
	assert.Equal(t, "Furrow revision 2", r.Way[3].Why)
	require.Len(t, r.Decided, 1)
	assert.Equal(t, "Thumbs.", r.Decided[0].Reason)
	text := contractOf(t, s)
	assert.Equal(t, len(source.Facts(text)), r.To.Components[slices.IndexFunc(r.To.Components, func(c drift.Stand) bool { return c.Slug == "crop-tag" })].Facts)

	_, err = s.Edit(t.Context(), "crop-tag", revisionOf(t, s), []service.ValueEdit{{Part: "root", Property: "opacity", Value: "0.5"}})
	require.NoError(t, err)
	assert.Positive(t, report(begun)[2], "what the contract moved and nobody says yet")
	r, err = s.DriftReport(t.Context(), begun, time.Time{})
	require.NoError(t, err)

	half, err := s.DriftReport(t.Context(), r.Way[2].At, time.Time{})
	require.NoError(t, err)
	assert.Len(t, half.Way, 3, "from a time on")
	turned, err := s.DriftReport(t.Context(), time.Now().Add(24*time.Hour), r.Way[2].At)
	require.NoError(t, err)
	assert.Equal(t, half.From.ID, turned.From.ID, "either end may be named first")
	for as, begin := range map[string]string{"html": "<!doctype html>", "md": "# ", "json": "{", "svg": "<svg "} {
		f, err := s.DriftFile(t.Context(), begun, time.Time{}, as)
		require.NoError(t, err)
		assert.Equal(t, "drift."+as, f.Name)
		assert.Contains(t, string(f.Text[:20]), begin)
	}
}

func TestNothingIsToldOfATimeBeforeAnything(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.DriftReport(t.Context(), time.Time{}, time.Now())
	assert.Contains(t, failure(t, err).Message, "Nothing was noted")
}

// How often the outside is asked is said in seconds, and no more often than it can bear.
func TestHowOftenIsSaid(t *testing.T) {
	s := seeded(t, demoHost(t))
	require.NoError(t, s.SetWatch(t.Context(), "design", 60))
	require.NoError(t, s.SetWatch(t.Context(), "code", 0))
	require.Error(t, s.SetWatch(t.Context(), "code", 1))
	list, err := s.Watches(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, 60, list[0].Every)
	assert.NotNil(t, list[0].Next)
	assert.Nil(t, list[1].Next, "never")
}
