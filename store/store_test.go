package store_test

import (
	"context"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
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
	require.NoError(t, s.AddComponents(t.Context(), store.NewComponent{Slug: "tag", Name: "Tag", Document: "d", Source: "f", Contract: []byte(`{"name":"Tag","n":0}`)}))
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
		at, err = s.Undo(t.Context(), "tag", at, nil, to, "")
		require.NoError(t, err)
		got, _ := content(t, s)
		assert.Equal(t, want, got)
	}
	step(store.Backward, `{"n": 2, "name": "Tag"}`)
	step(store.Backward, `{"n": 1, "name": "Tag"}`)
	step(store.Backward, `{"n": 0, "name": "Tag"}`)
	_, err := s.Undo(t.Context(), "tag", at, nil, store.Backward, "")
	assert.ErrorIs(t, err, store.ErrNotFound, "undo went past the draft")
	step(store.Forward, `{"n": 1, "name": "Tag"}`)
	step(store.Forward, `{"n": 2, "name": "Tag"}`)
	step(store.Backward, `{"n": 1, "name": "Tag"}`)
	step(store.Forward, `{"n": 2, "name": "Tag"}`)
	step(store.Forward, `{"n": 3, "name": "Tag"}`)
	_, err = s.Undo(t.Context(), "tag", at, nil, store.Forward, "")
	assert.ErrorIs(t, err, store.ErrNotFound)
	step(store.Backward, `{"n": 2, "name": "Tag"}`)
	at = edit(t, s, at, 9)
	_, err = s.Undo(t.Context(), "tag", at, nil, store.Forward, "")
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
	release := &store.NewRelease{Version: "1.0.0", Shelf: "Small", Level: "major", Changes: []string{}}
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
	assert.Equal(t, "Small", c.Shelf)
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
	d, err := s.Document(t.Context(), "d")
	require.NoError(t, err)
	assert.Equal(t, 3, d.Latest)
	_, err = s.RevisionContent(t.Context(), "d", 9)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.AddComponents(t.Context(), store.NewComponent{Slug: "other", Name: "Other", Document: "d", Source: "f", Contract: []byte(`{}`)}), store.ErrTaken, "one family became two components")
}

// A document is called as people say, whatever the next revision calls itself; one that was
// removed keeps its revisions and comes back with them, by hand or with its next.
func TestDocumentsAreCalledRemovedAndPutBack(t *testing.T) {
	s := withComponent(t)
	ctx := t.Context()
	names := func() (here, gone []string) {
		t.Helper()
		docs, err := s.Documents(ctx)
		require.NoError(t, err)
		removed, err := s.RemovedDocuments(ctx)
		require.NoError(t, err)
		for _, d := range docs {
			here = append(here, d.Name)
		}
		for _, d := range removed {
			assert.NotNil(t, d.Removed)
			gone = append(gone, d.Name)
		}
		return here, gone
	}
	add := func(text string) {
		t.Helper()
		_, _, err := s.AddRevision(ctx, store.NewRevision{Document: "d", Name: "Drawn", Source: store.FromUpload, Content: []byte(text)})
		require.NoError(t, err)
	}
	require.NoError(t, s.CallDocument(ctx, "d", "Ours"))
	add("{  }")
	here, _ := names()
	assert.Equal(t, []string{"Ours"}, here, "the next revision took the name away")
	require.NoError(t, s.CallDocument(ctx, "d", ""))
	here, _ = names()
	assert.Equal(t, []string{"Drawn"}, here)
	require.NoError(t, s.RemoveDocument(ctx, "d"))
	assert.ErrorIs(t, s.RemoveDocument(ctx, "d"), store.ErrNotFound)
	here, gone := names()
	assert.Empty(t, here)
	assert.Equal(t, []string{"Drawn"}, gone)
	_, err := s.RevisionContent(ctx, "d", 1)
	require.NoError(t, err, "its revisions went with it")
	require.NoError(t, s.RestoreDocument(ctx, "d"))
	assert.ErrorIs(t, s.RestoreDocument(ctx, "d"), store.ErrNotFound)
	require.NoError(t, s.RemoveDocument(ctx, "d"))
	add("{   }")
	here, gone = names()
	assert.Equal(t, []string{"Drawn"}, here, "one that is dropped in again stays away")
	assert.Empty(t, gone)
	for _, err := range []error{s.CallDocument(ctx, "x", "y"), s.RemoveDocument(ctx, "x"), s.RestoreDocument(ctx, "x")} {
		assert.ErrorIs(t, err, store.ErrNotFound)
	}
}

// Two servers on one database: each migrates, and each hears of the other's
// changes.
func TestTwoServersShareADatabase(t *testing.T) {
	url := storetest.URL(t)
	stores := make([]*store.Database, 2)
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
	scope, err := stores[0].First(t.Context())
	require.NoError(t, err)
	go func() {
		listening <- stores[1].Listen(ctx, func(project int64, subject string) {
			assert.Equal(t, scope.Project, project)
			heard <- subject
		})
	}()
	var got string
	for got == "" { // the listener may not stand yet when the first change is made
		now, err := stores[0].In(scope).TokenRevision(t.Context())
		require.NoError(t, err)
		_, err = stores[0].In(scope).PutTokens(t.Context(), store.NewTokens{Read: now.Number, Files: []store.TokenFile{{Name: "a.json", Content: []byte("{}")}}})
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

// A project sees its own rows and no others, though all have the same names; what is
// written in one is heard of in that one.
func TestProjectsDoNotMeet(t *testing.T) {
	db, first := storetest.Database(t)
	second, err := db.AddProject(t.Context(), "Second", "second", first.Actor)
	require.NoError(t, err)
	require.NotEqual(t, first.Project, second.Project)
	stores := []*store.Store{db.In(first), db.In(second)}
	for i, s := range stores {
		require.NoError(t, s.NameProject(t.Context(), fmt.Sprint("Project ", i), fmt.Sprint("project-", i)))
		_, added, err := s.AddRevision(t.Context(), store.NewRevision{Document: "d", Name: "D", Source: store.FromUpload, Content: []byte(fmt.Sprint(i))})
		require.NoError(t, err)
		assert.True(t, added)
		require.NoError(t, s.AddComponents(t.Context(), store.NewComponent{Slug: "tag", Name: "Tag", Document: "d", Source: "f", Contract: fmt.Appendf(nil, `{"name":"Tag","n":%d}`, i)}))
		_, err = s.PutTokens(t.Context(), store.NewTokens{Read: 0, Note: fmt.Sprint(i), Files: []store.TokenFile{{Name: "a.json", Content: []byte(fmt.Sprint(i))}}})
		require.NoError(t, err)
	}
	_, err = stores[1].Apply(t.Context(), store.Edit{Slug: "tag", Read: 1, Name: "Tag", Contract: []byte(`{"n":7,"name":"Tag"}`), Note: "edited",
		Release: &store.NewRelease{Version: "1.0.0", Level: "major"}, Kept: []store.Decision{{Outcome: "kept", Move: "m"}}})
	require.NoError(t, err)
	c, err := stores[1].Component(t.Context(), "tag")
	require.NoError(t, err)
	require.NoError(t, stores[1].PutMeasurement(t.Context(), c.ID, store.Measurement{Build: "b", Measured: []byte("[]"), Facts: 3}))
	_, err = stores[1].Undo(t.Context(), "tag", 2, nil, store.Backward, "")
	require.NoError(t, err)
	require.NoError(t, stores[1].NoteHost(t.Context(), "down"))

	s := stores[0] // nothing of it came here
	p, err := s.Project(t.Context())
	require.NoError(t, err)
	assert.Equal(t, []string{"Project 0", ""}, []string{p.Name, p.HostError})
	text, err := s.RevisionContent(t.Context(), "d", 1)
	require.NoError(t, err)
	assert.Equal(t, "0", string(text))
	components, err := s.Components(t.Context())
	require.NoError(t, err)
	require.Len(t, components, 1)
	assert.Equal(t, 1, components[0].Revision)
	assert.Nil(t, components[0].Version)
	files, err := s.TokenFiles(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, files, 1)
	assert.Equal(t, "0", string(files[0].Content))
	summaries, err := s.Summaries(t.Context())
	require.NoError(t, err)
	assert.Empty(t, summaries)
	_, err = s.LastCheck(t.Context())
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Apply(t.Context(), store.Edit{Slug: "tag", Read: 3, Name: "Tag", Contract: []byte(`{}`)})
	assert.ErrorIs(t, err, store.ErrStale, "the other project's revision was taken for this one's")
	docs, err := s.Documents(t.Context())
	require.NoError(t, err)
	require.Len(t, docs, 1)
	assert.Equal(t, 1, docs[0].Latest)
}

// Data of an older layout is not read, and not touched: a sentence says so.
func TestDataOfAnOlderLayoutIsRefused(t *testing.T) {
	url := storetest.URL(t)
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	_, err = conn.Exec(t.Context(), "create table components (slug text); insert into components values ('tag')")
	require.NoError(t, err)
	_, err = store.Open(t.Context(), url)
	assert.ErrorIs(t, err, store.ErrOlder)
	var slug string
	require.NoError(t, conn.QueryRow(t.Context(), "select slug from components").Scan(&slug))
	assert.Equal(t, "tag", slug)
}

// What a contract was checked with, and what tokens were, is looked at again when it is written: neither may change in between.
func TestWritesAreOfWhatTheyWereCheckedWith(t *testing.T) {
	s := withComponent(t)
	at, one := 0, 1
	write := func(tokens *int, read int) error {
		_, err := s.Apply(t.Context(), store.Edit{Slug: "tag", Read: read, Name: "Tag", Contract: []byte(`{"name":"Tag"}`), Tokens: tokens})
		return err
	}
	seen, err := s.Contracts(t.Context())
	require.NoError(t, err)
	_, err = s.PutTokens(t.Context(), store.NewTokens{Read: 0, Note: "first", Seen: seen})
	require.NoError(t, err, "contracts did not change")
	require.ErrorIs(t, write(&at, 1), store.ErrMoved, "tokens changed since the contract was checked")
	_, err = s.Undo(t.Context(), "tag", 1, &at, store.Backward, "")
	require.ErrorIs(t, err, store.ErrMoved)
	require.ErrorIs(t, s.ApplyAll(t.Context(), &at, nil), store.ErrMoved)
	require.ErrorIs(t, s.AddComponents(t.Context(), store.NewComponent{Slug: "x", Name: "X", Contract: []byte(`{}`), Tokens: &at}), store.ErrMoved)
	_, err = s.Split(t.Context(), store.NewComponent{Slug: "x", Name: "X", Contract: []byte(`{}`)}, store.Edit{Slug: "tag", Read: 1, Name: "Tag", Contract: []byte(`{"name":"Tag"}`), Tokens: &at})
	require.ErrorIs(t, err, store.ErrMoved)
	require.NoError(t, write(&one, 1))
	_, err = s.PutTokens(t.Context(), store.NewTokens{Read: 1, Note: "second", Seen: seen})
	require.ErrorIs(t, err, store.ErrMoved, "a contract changed since the tokens were checked")
	_, err = s.UndoTokens(t.Context(), 1, store.Backward, seen, nil)
	require.ErrorIs(t, err, store.ErrMoved)
	now, err := s.Contracts(t.Context())
	require.NoError(t, err)
	assert.NotEqual(t, seen, now)
	_, err = s.PutTokens(t.Context(), store.NewTokens{Read: 1, Note: "second", Seen: now})
	require.NoError(t, err)
}

// A database that is not there is told from what is wrong with a write.
func TestADatabaseThatIsDown(t *testing.T) {
	_, err := pgx.Connect(t.Context(), "postgres://cobrik@127.0.0.1:1/x?sslmode=disable")
	assert.True(t, store.Down(err), "%v", err)
	s := withComponent(t)
	err = s.AddComponents(t.Context(), store.NewComponent{Slug: "x", Name: "a\x00b", Contract: []byte(`{}`)})
	assert.True(t, store.Unkeepable(err), "%v", err)
	assert.False(t, store.Down(err))
	err = s.AddComponents(t.Context(), store.NewComponent{Slug: "x", Name: "X", Contract: []byte(`{"a":"\u0000"}`)})
	assert.True(t, store.Unkeepable(err), "%v", err)
	assert.False(t, store.Down(store.ErrStale))
}
