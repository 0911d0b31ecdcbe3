package service_test

import (
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/store/storetest"
)

// When this fails, a long design keeps its people waiting, cannot be stopped, or is read anew whenever the program starts.
func TestALongDesignIsReadInTheBackground(t *testing.T) {
	db, scope := storetest.Database(t)
	open := func() (*service.Projects, *service.Service) {
		projects := service.NewProjects(db, scope.Actor, service.Hosts{}, font.Shipped())
		address, err := projects.First(t.Context())
		require.NoError(t, err)
		s, err := projects.At(t.Context(), address)
		require.NoError(t, err)
		return projects, s
	}
	projects, s := open()
	_, err := s.Drop(t.Context(), "long.design.json", demotest.LongDesign(t))
	require.NoError(t, err)

	v := surveyOf(t, s, "Long list")
	require.NotNil(t, v.Reading)
	assert.Equal(t, "waiting", v.Reading.State)
	assert.Empty(t, v.Finds)
	assert.Len(t, v.Pages, 70, "its pages can be looked at meanwhile")
	list, err := s.Readings(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "long", list[0].Document)
	_, err = s.OpenFind(t.Context(), "long", "repeat:r0-0")
	require.ErrorContains(t, err, "is being read")

	require.NoError(t, s.StopReading(t.Context(), "long", 1, true))
	assert.Equal(t, "stopped", surveyOf(t, s, "Long list").Reading.State)
	require.Error(t, s.StopReading(t.Context(), "long", 7, false), "a revision that is not there")
	require.NoError(t, s.StopReading(t.Context(), "long", 1, false))
	assert.Equal(t, "waiting", surveyOf(t, s, "Long list").Reading.State)

	stop, err := projects.Work(t.Context(), slog.New(slog.DiscardHandler))
	require.NoError(t, err)
	require.Eventually(t, func() bool { return surveyOf(t, s, "Long list").Reading == nil }, 60*time.Second, 50*time.Millisecond)
	stop()
	v = surveyOf(t, s, "Long list")
	require.NotEmpty(t, v.Finds)
	assert.Len(t, v.Finds[0].Members, 7000)

	_, later := open() // as after a start, with nobody who reads
	kept := surveyOf(t, later, "Long list")
	assert.Nil(t, kept.Reading, "what was read is read again after a start")
	assert.Equal(t, v.Finds, kept.Finds)

	open200, err := later.OpenFind(t.Context(), "long", kept.Finds[0].ID)
	require.NoError(t, err)
	assert.Len(t, open200.Copies, 200, "thousands of copies are drawn, and everybody waits")
	for _, p := range open200.Props {
		assert.Len(t, p.Says, 200)
	}

	_, err = later.DraftFind(t.Context(), service.FindDraft{Document: "long", Find: kept.Finds[0].ID, Name: "Shelf row"})
	require.NoError(t, err)
	drafted := surveyOf(t, later, "Long list")
	require.NotNil(t, drafted.Reading, "with a new component it is read again")
	assert.True(t, drafted.Reading.Earlier)
	assert.Equal(t, "shelf-row", drafted.Finds[0].Component, "what was read before is shown until then")
}
