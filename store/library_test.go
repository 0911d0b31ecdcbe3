package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
)

// A version of the library is of what it was made of: when more was released meanwhile, nothing of it is kept.
func TestALibraryIsOfTheNewestReleases(t *testing.T) {
	s := withComponent(t)
	release := func(read int, version string) {
		t.Helper()
		_, err := s.Apply(t.Context(), store.Edit{Slug: "tag", Read: read, Release: &store.NewRelease{Version: version, Shelf: "Small", Changes: []string{}}})
		require.NoError(t, err)
	}
	release(1, "1.0.0")
	in, err := s.Released(t.Context())
	require.NoError(t, err)
	require.Len(t, in, 1)
	edit(t, s, 1, 7)
	release(2, "1.1.0")
	put := func(version string, in []store.LibraryComponent) error {
		return s.ReleaseLibrary(t.Context(), store.NewLibrary{Version: version, Changes: []string{}, Components: in})
	}
	require.ErrorIs(t, put("1.0.0", in), store.ErrMoved)
	list, err := s.LibraryReleases(t.Context())
	require.NoError(t, err)
	assert.Empty(t, list, "what was refused is kept by half")
	in, err = s.Released(t.Context())
	require.NoError(t, err)
	require.NoError(t, put("1.0.0", in))
	require.ErrorIs(t, put("1.0.0", in), store.ErrTaken)
	kept, err := s.InLibrary(t.Context(), "1.0.0")
	require.NoError(t, err)
	assert.Equal(t, in, kept)
	release2 := store.NewLibrary{Version: "2.0.0", Tokens: 5, Changes: []string{}, Components: in}
	require.ErrorIs(t, s.ReleaseLibrary(t.Context(), release2), store.ErrMoved, "the tokens are others by now")
}
