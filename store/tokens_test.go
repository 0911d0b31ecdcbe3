package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/storetest"
)

func file(name, text string) store.TokenFile {
	return store.TokenFile{Name: name, Content: []byte(text)}
}

func texts(t *testing.T, s *store.Store) (int, map[string]string) {
	t.Helper()
	state, err := s.TokenRevision(t.Context())
	require.NoError(t, err)
	files, err := s.TokenFiles(t.Context(), state.Number)
	require.NoError(t, err)
	out := map[string]string{}
	for _, f := range files {
		out[f.Name] = string(f.Content)
	}
	return state.Number, out
}

// Every edit is a state; undo and redo lead back and forth; an edit after an
// undo forgets what could have been redone.
func TestTokenStatesUndoAndRedo(t *testing.T) {
	s := storetest.Open(t)
	number, files := texts(t, s)
	assert.Zero(t, number)
	assert.Empty(t, files)
	put := func(note, a, b string) {
		t.Helper()
		read, _ := texts(t, s)
		n, err := s.PutTokens(t.Context(), store.NewTokens{Read: read, Note: note, Files: []store.TokenFile{file("a", a), file("b", b)}})
		require.NoError(t, err)
		assert.Equal(t, read+1, n)
	}
	step := func(to store.Direction) error {
		t.Helper()
		read, _ := texts(t, s)
		_, err := s.UndoTokens(t.Context(), read, to, "", nil)
		return err
	}
	is := func(a, b string) {
		t.Helper()
		_, files := texts(t, s)
		assert.Equal(t, map[string]string{"a": a, "b": b}, files)
	}
	put("first", "1", "1")
	put("second", "2", "1")
	put("third", "2", "3")
	require.NoError(t, step(store.Backward))
	is("2", "1")
	require.NoError(t, step(store.Backward))
	is("1", "1")
	require.NoError(t, step(store.Forward))
	is("2", "1")
	require.NoError(t, step(store.Forward))
	is("2", "3")
	require.ErrorIs(t, step(store.Forward), store.ErrNotFound, "there is nothing more to redo")
	require.NoError(t, step(store.Backward))
	put("another way", "4", "1")
	require.ErrorIs(t, step(store.Forward), store.ErrNotFound)
	require.NoError(t, step(store.Backward))
	is("2", "1")
}

func TestAStaleTokenStateIsNotWrittenOver(t *testing.T) {
	s := storetest.Open(t)
	_, err := s.PutTokens(t.Context(), store.NewTokens{Read: 0, Files: []store.TokenFile{file("a", "1")}})
	require.NoError(t, err)
	_, err = s.PutTokens(t.Context(), store.NewTokens{Read: 0, Files: []store.TokenFile{file("a", "2")}})
	require.ErrorIs(t, err, store.ErrStale)
	_, err = s.UndoTokens(t.Context(), 0, store.Backward, "", nil)
	require.ErrorIs(t, err, store.ErrStale)
	_, files := texts(t, s)
	assert.Equal(t, "1", files["a"])
}

// A contract's edit that goes with tokens is written with them or not at all.
func TestTokensAndContractsAreWrittenTogether(t *testing.T) {
	s := storetest.Open(t)
	_, err := s.PutTokens(t.Context(), store.NewTokens{Read: 0, Files: []store.TokenFile{file("a", "1")},
		Contracts: []store.Edit{{Slug: "nobody", Read: 1, Contract: []byte("{}")}}})
	require.ErrorIs(t, err, store.ErrNotFound)
	number, files := texts(t, s)
	assert.Zero(t, number)
	assert.Empty(t, files, "the tokens were kept though their contract was not")
}

// A file says since which state it has its text, whatever happened to others.
func TestAFileKnowsSinceWhen(t *testing.T) {
	s := storetest.Open(t)
	for read, b := range []string{"1", "2", "3"} {
		_, err := s.PutTokens(t.Context(), store.NewTokens{Read: read, Files: []store.TokenFile{file("a", "same"), file("b", b)},
			Renames: []store.Rename{{From: "x", To: "y"}}})
		require.NoError(t, err)
	}
	files, err := s.TokenFiles(t.Context(), 3)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 3}, []int{files[0].Since, files[1].Since})
	state, err := s.TokenRevisionAt(t.Context(), 2)
	require.NoError(t, err)
	assert.Equal(t, []store.Rename{{From: "x", To: "y"}}, state.Renames)
	_, err = s.TokenRevisionAt(t.Context(), 9)
	require.ErrorIs(t, err, store.ErrNotFound)
}
