package service_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/publish"
	"cobrik/core/sheet"
	"cobrik/demo/story"
	"cobrik/service"
)

func packed(t *testing.T, s *service.Service, version string) ([]byte, publish.Lock) {
	t.Helper()
	name, files, err := s.LibraryFiles(t.Context(), version)
	require.NoError(t, err)
	assert.Equal(t, "hollowbeck", name)
	data, err := publish.Tarball(files)
	require.NoError(t, err)
	var lock publish.Lock
	for _, f := range files {
		if f.Path == "library.json" {
			require.NoError(t, json.Unmarshal([]byte(f.Content), &lock))
		}
	}
	return data, lock
}

// A version of the library holds what was released when it was made, and is made again the same, whatever came since.
func TestTheLibraryIsReleasedAsOne(t *testing.T) {
	s := drafted(t)
	view, err := s.Library(t.Context())
	require.NoError(t, err)
	assert.Contains(t, view.Blocked[0], "Nothing is released")
	require.NoError(t, story.Release(t.Context(), s, "plot-card", 1, "Plots", "", "known"))
	view, err = s.Library(t.Context())
	require.NoError(t, err)
	assert.Contains(t, view.Blocked[0], "PlotCard is made of CropTag, which is not released.")
	_, err = s.ReleaseLibrary(t.Context(), view.Version, "")
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	view, err = s.Library(t.Context())
	require.NoError(t, err)
	assert.Empty(t, view.Blocked)
	assert.Equal(t, [2]string{"hollowbeck", "1.0.0"}, [2]string{view.Name, view.Version})
	_, err = s.ReleaseLibrary(t.Context(), "2.0.0", "")
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "a version that nobody saw was released")
	view, err = s.ReleaseLibrary(t.Context(), "1.0.0", "")
	require.NoError(t, err)
	assert.Equal(t, contract.None, view.Level)
	_, err = s.ReleaseLibrary(t.Context(), view.Version, "")
	assert.Contains(t, failure(t, err).Message, "Nothing changed since 1.0.0")
	first, lock := packed(t, s, "1.0.0")
	assert.Equal(t, []string{"CropTag", "PlotCard"}, []string{lock.Components[0].Name, lock.Components[1].Name})

	// A new version of the tag, another padding, another token: none of it is in the first version.
	revision := typed(t, s, "crop-tag", sheet.Edit{Do: "set", On: "parts/root/padding-inline", Cell: "value", Text: "{space.6}"})
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", revision, "", "", "known"))
	tokens, err := s.Tokens(t.Context())
	require.NoError(t, err)
	_, err = s.EditTokens(t.Context(), tokens.Revision, []service.TokenEdit{{Kind: "set", Path: "space.6", Text: "25px"}})
	require.NoError(t, err)
	view, err = s.Library(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "1.0.1", view.Version)
	var told []string
	for _, c := range view.Changes {
		told = append(told, c.Text)
	}
	assert.Equal(t, []string{"CropTag is 1.0.1 instead of 1.0.0", "1 token is otherwise"}, told)
	again, _ := packed(t, s, "1.0.0")
	assert.Equal(t, first, again, "a version that was released is another by now")
	_, err = s.ReleaseLibrary(t.Context(), "1.0.1", "# Rounder\n\nAll of it.")
	require.NoError(t, err)
	second, lock := packed(t, s, "1.0.1")
	assert.NotEqual(t, first, second)
	assert.Equal(t, "1.0.1", lock.Components[0].Version)
	view, err = s.Library(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "Rounder", view.Releases[0].Told[0].Runs[0].Text)
	assert.Equal(t, "1.0.0", view.Releases[1].Version)
	_, _, err = s.LibraryFiles(t.Context(), "3.0.0")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)

	// What a card gives its tag is gone from a tag of today: the card of then does not fit it, though the one of today does.
	typed(t, s, "plot-card", sheet.Edit{Do: "remove", On: "parts/tag"})
	revision = typed(t, s, "crop-tag", sheet.Edit{Do: "remove", On: "props/tone"})
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", revision, "", "", "known"))
	view, err = s.Library(t.Context())
	require.NoError(t, err)
	if assert.NotEmpty(t, view.Blocked, "a library is released whose components do not fit") {
		assert.Contains(t, view.Blocked[0], "PlotCard 1.0.0 does not fit the rest")
	}
}
