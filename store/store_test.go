package store_test

import (
	"context"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

func withComponent(t *testing.T) *store.Store {
	t.Helper()
	s := storetest.Open(t)
	_, _, err := s.AddRevision(t.Context(), store.NewRevision{Document: "d", Name: "D", Source: store.FromUpload, Content: []byte("{}")})
	require.NoError(t, err)
	require.NoError(t, s.AddComponent(t.Context(), "tag", "Tag", "d", "f", []byte(`{"name":"Tag","n":0}`)))
	return s
}

func content(t *testing.T, s *store.Store) (string, int) {
	t.Helper()
	c, err := s.Component(t.Context(), "tag")
	require.NoError(t, err)
	return string(c.Contract), c.Revision
}

func edit(t *testing.T, s *store.Store, read, n int) int {
	t.Helper()
	revision, err := s.Apply(t.Context(), store.Edit{Slug: "tag", Read: read, Name: "Tag", Contract: fmt.Appendf(nil, `{"n": %d, "name": "Tag"}`, n), Note: fmt.Sprint("edit ", n)})
	require.NoError(t, err)
	return revision
}

func TestUndoAndRedoWalkTheWholeHistory(t *testing.T) {
	s := withComponent(t)
	at := 1
	for n := 1; n <= 3; n++ {
		at = edit(t, s, at, n)
	}
	step := func(to store.Direction, want string) {
		t.Helper()
		var err error
		at, err = s.Undo(t.Context(), "tag", at, to)
		require.NoError(t, err)
		got, _ := content(t, s)
		assert.Equal(t, want, got)
	}
	step(store.Backward, `{"n": 2, "name": "Tag"}`)
	step(store.Backward, `{"n": 1, "name": "Tag"}`)
	step(store.Backward, `{"n": 0, "name": "Tag"}`)
	_, err := s.Undo(t.Context(), "tag", at, store.Backward)
	assert.ErrorIs(t, err, store.ErrNotFound, "undo went past the draft")
	step(store.Forward, `{"n": 1, "name": "Tag"}`)
	step(store.Forward, `{"n": 2, "name": "Tag"}`)
	step(store.Backward, `{"n": 1, "name": "Tag"}`)
	step(store.Forward, `{"n": 2, "name": "Tag"}`)
	step(store.Forward, `{"n": 3, "name": "Tag"}`)
	_, err = s.Undo(t.Context(), "tag", at, store.Forward)
	assert.ErrorIs(t, err, store.ErrNotFound)
	step(store.Backward, `{"n": 2, "name": "Tag"}`)
	at = edit(t, s, at, 9)
	_, err = s.Undo(t.Context(), "tag", at, store.Forward)
	assert.ErrorIs(t, err, store.ErrNotFound, "an edit after undo leaves nothing to redo")
	step(store.Backward, `{"n": 2, "name": "Tag"}`)
}

func TestOfManyEditsAtOnceOneIsTaken(t *testing.T) {
	s := withComponent(t)
	var wait sync.WaitGroup
	outcomes := make(chan error, 20)
	for n := range 20 {
		wait.Go(func() {
			_, err := s.Apply(context.Background(), store.Edit{Slug: "tag", Read: 1, Name: "Tag", Contract: fmt.Appendf(nil, `{"n":%d,"name":"Tag"}`, n),
				Kept: []store.Decision{{Outcome: "kept", Move: "m", Said: fmt.Sprint(n)}}})
			outcomes <- err
		})
	}
	wait.Wait()
	close(outcomes)
	taken := 0
	for err := range outcomes {
		if err == nil {
			taken++
		} else {
			assert.ErrorIs(t, err, store.ErrStale)
		}
	}
	assert.Equal(t, 1, taken, "an edit was lost under another")
	_, revision := content(t, s)
	assert.Equal(t, 2, revision)
}

func TestARefusedReleaseLeavesNothingHalfDone(t *testing.T) {
	s := withComponent(t)
	release := &store.NewRelease{Version: "1.0.0", Collection: "Small", Level: "major", Changes: []string{}}
	_, err := s.Apply(t.Context(), store.Edit{Slug: "tag", Read: 1, Release: release})
	require.NoError(t, err)
	_, err = s.Apply(t.Context(), store.Edit{Slug: "tag", Read: 1, Name: "Tag", Contract: []byte(`{"n":5,"name":"Tag"}`), Kept: []store.Decision{{Outcome: "kept", Move: "m", Said: "x"}}, Release: release})
	assert.ErrorIs(t, err, store.ErrTaken)
	_, revision := content(t, s)
	assert.Equal(t, 1, revision, "the contract was changed though the release was refused")
	c, err := s.Component(t.Context(), "tag")
	require.NoError(t, err)
	kept, err := s.Decisions(t.Context(), c.ID)
	require.NoError(t, err)
	assert.Empty(t, kept)
	assert.Equal(t, "Small", c.Collection)
	assert.Equal(t, "1.0.0", *c.Version)
}

func TestTheSameTextIsNotANewRevision(t *testing.T) {
	s := withComponent(t)
	for i, text := range []string{"{}", "{ }", "{ }", "{}"} {
		number, added, err := s.AddRevision(t.Context(), store.NewRevision{Document: "d", Name: "D", Source: store.FromUpload, Content: []byte(text)})
		require.NoError(t, err)
		assert.Equal(t, []int{1, 2, 2, 3}[i], number)
		assert.Equal(t, []bool{false, true, false, true}[i], added)
	}
	text, err := s.RevisionContent(t.Context(), "d", 2)
	require.NoError(t, err)
	assert.Equal(t, "{ }", string(text), "an older revision is not as it came")
	latest, err := s.LatestRevision(t.Context(), "d")
	require.NoError(t, err)
	assert.Equal(t, 3, latest)
	_, err = s.RevisionContent(t.Context(), "d", 9)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.AddComponent(t.Context(), "other", "Other", "d", "f", []byte(`{}`)), store.ErrTaken, "one family became two components")
}

// Two servers on one database: each migrates, and each hears of the other's
// changes.
func TestTwoServersShareADatabase(t *testing.T) {
	url := storetest.URL(t)
	stores := make([]*store.Store, 2)
	var wait sync.WaitGroup
	for i := range stores {
		wait.Go(func() {
			s, err := store.Open(context.Background(), url)
			if assert.NoError(t, err) {
				stores[i] = s
			}
		})
	}
	wait.Wait()
	for _, s := range stores {
		require.NotNil(t, s)
		defer s.Close()
	}
	ctx, cancel := context.WithTimeout(t.Context(), 10*time.Second)
	heard := make(chan string, 4)
	listening := make(chan error, 1)
	go func() { listening <- stores[1].Listen(ctx, func(subject string) { heard <- subject }) }()
	var got string
	for got == "" { // the listener may not stand yet when the first change is made
		now, err := stores[0].TokenState(t.Context())
		require.NoError(t, err)
		_, err = stores[0].PutTokens(t.Context(), store.NewTokens{Read: now.Number, Files: []store.TokenFile{{Name: "a.json", Content: []byte("{}")}}})
		require.NoError(t, err)
		select {
		case got = <-heard:
		case <-time.After(20 * time.Millisecond):
			require.NoError(t, ctx.Err(), "the other server heard nothing")
		}
	}
	assert.Equal(t, "tokens", got)
	cancel()
	<-listening
}
