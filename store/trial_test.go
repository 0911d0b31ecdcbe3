package store_test

import (
	"context"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/storetest"
)

func state(outline, step string) store.TrialState {
	return store.TrialState{Outline: outline, Pins: []byte("{}"), Pictures: []byte("{}"), Needs: []byte("[]"), Step: step}
}

func withPage(t *testing.T) *store.Store {
	t.Helper()
	s := storetest.Open(t)
	require.NoError(t, s.AddTrialPages(t.Context(), store.NewTrialPage{Slug: "beds", Name: "Beds", TrialState: state("0", "begun")}))
	return s
}

func TestAPageOnTrialWalksItsHistory(t *testing.T) {
	s := withPage(t)
	at := 1
	keep := func(outline, step string, goesOn bool) {
		t.Helper()
		var err error
		at, err = s.EditTrial(t.Context(), "beds", at, state(outline, step), goesOn)
		require.NoError(t, err)
	}
	walk := func(to store.Direction, want string) {
		t.Helper()
		var err error
		at, err = s.UndoTrial(t.Context(), "beds", at, to)
		require.NoError(t, err)
		p, err := s.TrialPage(t.Context(), "beds")
		require.NoError(t, err)
		assert.Equal(t, want, p.Outline)
	}
	keep("1", "row 1", false)
	keep("2", "row 2", false)
	keep("23", "row 2", true)
	keep("234", "row 2", true)
	walk(store.Backward, "1")
	walk(store.Backward, "0")
	_, err := s.UndoTrial(t.Context(), "beds", at, store.Backward)
	assert.ErrorIs(t, err, store.ErrNotFound, "undo went past the beginning")
	walk(store.Forward, "1")
	walk(store.Forward, "234")
	walk(store.Backward, "1")
	keep("9", "row 1", false)
	_, err = s.UndoTrial(t.Context(), "beds", at, store.Forward)
	assert.ErrorIs(t, err, store.ErrNotFound, "an edit after undo leaves nothing to be done again")
	walk(store.Backward, "1")
	_, err = s.EditTrial(t.Context(), "beds", at-1, state("x", ""), false)
	assert.ErrorIs(t, err, store.ErrStale)
	_, err = s.UndoTrial(t.Context(), "beds", at-1, store.Backward)
	assert.ErrorIs(t, err, store.ErrStale)
	assert.ErrorIs(t, s.AddTrialPages(t.Context(), store.NewTrialPage{Slug: "news", Name: "News", TrialState: state("", "")}, store.NewTrialPage{Slug: "beds", Name: "B", TrialState: state("", "")}), store.ErrTaken)
	n, err := s.TrialCount(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 1, n, "of two pages one was kept")
}

func TestWhatGoesOnFromTheBeginningIsUndoneToIt(t *testing.T) {
	s := withPage(t)
	at, err := s.EditTrial(t.Context(), "beds", 1, state("1", "begun"), true)
	require.NoError(t, err)
	_, err = s.UndoTrial(t.Context(), "beds", at, store.Backward)
	require.NoError(t, err)
	p, err := s.TrialPage(t.Context(), "beds")
	require.NoError(t, err)
	assert.Equal(t, "0", p.Outline)
}

func TestOfManyEditsOfAPageOneIsTaken(t *testing.T) {
	s := withPage(t)
	var wait sync.WaitGroup
	outcomes := make(chan error, 12)
	for range 12 {
		wait.Go(func() {
			_, err := s.EditTrial(context.Background(), "beds", 1, state("x", "row 1"), false)
			outcomes <- err
		})
	}
	wait.Wait()
	close(outcomes)
	taken := 0
	for err := range outcomes {
		if err == nil {
			taken++
			continue
		}
		assert.ErrorIs(t, err, store.ErrStale)
	}
	assert.Equal(t, 1, taken, "an edit was lost under another")
}

func TestASourceKeepsItsSchema(t *testing.T) {
	s := storetest.Open(t)
	require.NoError(t, s.PutContentSource(t.Context(), store.ContentSource{Name: "a.json", Content: []byte("[]")}))
	require.NoError(t, s.PutContentSchema(t.Context(), "a.json", []byte("{}")))
	require.NoError(t, s.PutContentSource(t.Context(), store.ContentSource{Name: "a.json", Content: []byte("[1]")}))
	list, err := s.ContentSources(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "{}", string(list[0].Schema))
	assert.Equal(t, "[1]", string(list[0].Content))
	assert.ErrorIs(t, s.PutContentSchema(t.Context(), "b.json", nil), store.ErrNotFound)
	require.NoError(t, s.RemoveContentSource(t.Context(), "a.json"))
	assert.ErrorIs(t, s.RemoveContentSource(t.Context(), "a.json"), store.ErrNotFound)
}
