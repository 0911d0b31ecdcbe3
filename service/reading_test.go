package service_test

import (
	"encoding/json"
	"fmt"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/service"
	"cobrik/store/storetest"
)

// longDesign is a document of some 21,000 layers: rows of a shed's list.
func longDesign(t *testing.T) []byte {
	t.Helper()
	doc := &design.Document{Format: design.Format, ID: "long", Name: "Long list", Families: []*design.Family{}}
	for p := range 70 {
		page := &design.Page{ID: fmt.Sprint("p", p), Name: fmt.Sprint("Shelf ", p), Width: 800, Height: 6000}
		for i := range 100 {
			id := fmt.Sprint("r", p, "-", i)
			page.Layers = append(page.Layers, &design.Layer{ID: id, Name: "Row", Kind: design.Box, Bounds: design.Rect{X: 20, Y: float64(i) * 58, Width: 700, Height: 48}, Fill: "#ffffff", Children: []*design.Layer{
				{ID: id + "t", Name: "Tool", Kind: design.Text, Bounds: design.Rect{X: 12, Y: 12, Width: 200, Height: 24}, Text: &design.TextContent{Content: fmt.Sprint("Tool ", i), FontFamily: "Hanken Grotesk", FontSize: 16, FontWeight: 400, LineHeight: 24}, Fill: "#000000"},
				{ID: id + "b", Name: "Lamp", Kind: design.Box, Bounds: design.Rect{X: 660, Y: 16, Width: 16, Height: 16}, Fill: "#448833"},
			}})
		}
		doc.Pages = append(doc.Pages, page)
	}
	require.Greater(t, doc.Count(), 20_000)
	text, err := json.Marshal(doc)
	require.NoError(t, err)
	return text
}

// When this fails, a long design keeps its people waiting, cannot be stopped, or is read anew whenever the program starts.
func TestALongDesignIsReadInTheBackground(t *testing.T) {
	db, scope := storetest.Database(t)
	open := func() (*service.Projects, *service.Service) {
		projects := service.NewProjects(db, scope.Actor, "", font.Shipped())
		address, err := projects.First(t.Context())
		require.NoError(t, err)
		s, err := projects.At(t.Context(), address)
		require.NoError(t, err)
		return projects, s
	}
	projects, s := open()
	_, err := s.Drop(t.Context(), "long.design.json", longDesign(t))
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

	_, err = later.DraftFind(t.Context(), service.FindDraft{Document: "long", Find: kept.Finds[0].ID, Name: "Shelf row"})
	require.NoError(t, err)
	drafted := surveyOf(t, later, "Long list")
	require.NotNil(t, drafted.Reading, "with a new component it is read again")
	assert.True(t, drafted.Reading.Earlier)
	assert.Equal(t, "shelf-row", drafted.Finds[0].Component, "what was read before is shown until then")
}
