package service_test

import (
	"net/http/httptest"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// seededIn is seeded, with the store to look into. The design is at its second revision.
func seededIn(t *testing.T) (*service.Service, *store.Store) {
	t.Helper()
	host := httptest.NewServer(demoHost(t))
	t.Cleanup(host.Close)
	db := storetest.Open(t)
	s := service.New(db, service.Hosts{Design: host.URL}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	require.NoError(t, s.PublishNext(t.Context(), demo.Document))
	_, err := s.Fetch(t.Context())
	require.NoError(t, err)
	return s, db
}

// Two files may hold layers of the same ids: what is said, and drafted, of one is none of the other's.
func TestDocumentsOfTheSameIdsAreApart(t *testing.T) {
	s, v := shed(t)
	_, err := s.Drop(t.Context(), "barn.svg", []byte(looseShed))
	require.NoError(t, err)
	doubt := func(name string) service.SurveyDoubt {
		of := surveyOf(t, s, name)
		i := slices.IndexFunc(of.Doubts, func(d service.SurveyDoubt) bool { return d.Rule == "layer-name" })
		require.GreaterOrEqual(t, i, 0)
		return of.Doubts[i]
	}
	require.Equal(t, doubt("shed").ID, doubt("barn").ID)
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, doubt("shed").ID, "aside", "it is a sketch"))
	assert.Equal(t, "aside", doubt("shed").Outcome)
	assert.Empty(t, doubt("barn").Outcome)

	require.NoError(t, s.AddCopy(t.Context(), v.Document, v.Finds[0].ID, []string{"d", "e"}))
	assert.Len(t, surveyOf(t, s, "shed").Finds[0].Members, 4)
	assert.Len(t, surveyOf(t, s, "barn").Finds[0].Members, 3)

	_, err = s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: v.Finds[0].ID, Name: "Tool card"})
	require.NoError(t, err)
	assert.Equal(t, "tool-card", surveyOf(t, s, "shed").Finds[0].Component)
	assert.Empty(t, surveyOf(t, s, "barn").Finds[0].Component, "what was drafted from one marks the other")
	_, err = s.DraftLayers(t.Context(), v.Document, []string{"Group-14"}, "Pile")
	require.NoError(t, err)
	for _, item := range surveyOf(t, s, "barn").Pages[0].Loose {
		assert.Empty(t, item.Component)
	}
}

// What goes to the designer is what was asked, not what was set aside.
func TestQuestionsAreThoseAsked(t *testing.T) {
	s, _ := seededIn(t)
	v := surveyOf(t, s, "Furrow")
	require.Greater(t, len(v.Doubts), 2)
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, v.Doubts[0].ID, "asked", "Is this one of yours?"))
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, v.Doubts[1].ID, "aside", "never mind this"))
	page, err := s.Questions(t.Context(), v.Document, true)
	require.NoError(t, err)
	assert.Contains(t, string(page.Text), "Is this one of yours?")
	assert.NotContains(t, string(page.Text), "never mind this")
}

// The order says how far each piece is: missing while what it is made of is, ready then, in work, released.
func TestHowFarPiecesAre(t *testing.T) {
	s, _ := seededIn(t)
	state := func(id string) string {
		v := surveyOf(t, s, "Furrow")
		i := slices.IndexFunc(v.Order, func(p service.SurveyPiece) bool { return p.ID == id })
		require.GreaterOrEqual(t, i, 0, id)
		return v.Order[i].State
	}
	assert.Equal(t, "ready", state("crop-tag"))
	assert.Equal(t, "missing", state("plot-card"), "it is made of a tag that is not there")
	assert.Equal(t, "ready", state("member-cluster"), "what families alone are made of keeps nothing waiting")
	made, err := s.Draft(t.Context(), demo.Document, "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "in work", state("crop-tag"))
	assert.Equal(t, "ready", state("plot-card"))
	require.NoError(t, story.Release(t.Context(), s, made.Slug, 1, "Small things", "", "known"))
	assert.Equal(t, "released", state("crop-tag"))
}

// What the copies of a find say is kept with them, by the names that its props were given.
func TestWhatCopiesSayIsKept(t *testing.T) {
	s, db := seededIn(t)
	v := surveyOf(t, s, "Furrow")
	require.NotNil(t, v.Since)
	assert.NotEmpty(t, v.Since.NewFinds)
	assert.Empty(t, v.Since.GoneFinds, "a page came, and nothing went")
	find := func(name string) service.SurveyFind {
		i := slices.IndexFunc(v.Finds, func(f service.SurveyFind) bool { return f.Name == name })
		require.GreaterOrEqual(t, i, 0, name)
		return v.Finds[i]
	}
	row := find("ProgrammeRow")
	_, err := s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: row.ID, Name: "Programme row", Renamed: map[string]string{"free": "places"}, Dropped: []string{"hour"}, Merged: map[string]string{"size": "tone"}})
	require.NoError(t, err)
	copies, err := db.Copies(t.Context())
	require.NoError(t, err)
	require.Len(t, copies, 6)
	said := map[string]map[string]any{}
	for _, k := range copies {
		said[k.Layer] = k.Said
	}
	first := said[row.Members[0].ID]
	assert.Equal(t, "12", first["places"])
	assert.NotContains(t, first, "free")
	assert.NotContains(t, first, "hour")
	assert.NotContains(t, first, "size", "it is one with the tone")
	assert.Contains(t, first, "tone")

	// Said again, it is as it is said now.
	require.NoError(t, s.TakeAsUses(t.Context(), v.Document, row.ID, "programme-row", nil))
	copies, err = db.Copies(t.Context())
	require.NoError(t, err)
	require.Len(t, copies, 6)
	for _, k := range copies {
		assert.Contains(t, k.Said, "free")
	}

	// A find whose other copies are parts of families is drafted when those on pages are.
	words := find("Words")
	_, err = s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: words.ID, Name: "Poster words"})
	require.NoError(t, err)
	i := slices.IndexFunc(surveyOf(t, s, "Furrow").Finds, func(f service.SurveyFind) bool { return f.ID == words.ID })
	assert.Equal(t, "poster-words", surveyOf(t, s, "Furrow").Finds[i].Component)
}
