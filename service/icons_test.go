package service_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/sheet"
	"cobrik/demo"
	"cobrik/service"
)

const leafSVG = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20"><title>Of a bean</title><path fill="#2f6132" d="M3 17C3 8 8 3 17 3z"/></svg>`

// Files that are dropped become icons of the library: cleaned, found by their words, picked by props and parts on the
// sheet, and told where they are shown.
func TestIconsOfTheLibrary(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	taken, err := s.TakeIcon(t.Context(), "leafGreen.svg", []byte(leafSVG))
	require.NoError(t, err)
	assert.Equal(t, service.TakenIcon{Name: "leaf-green", Added: true, Cleaned: []string{"its one colour, #2f6132, is the text’s"}, Lost: []string{}}, taken)
	again, err := s.TakeIcon(t.Context(), "leafGreen.svg", []byte(leafSVG))
	require.NoError(t, err)
	assert.False(t, again.Added, "the same file again is no other icon")
	_, err = s.TakeIcon(t.Context(), "note.svg", []byte("<svg viewBox='0 0 9 9'><text>A</text></svg>"))
	assert.Contains(t, failure(t, err).Message, "is no icon: Nothing that the file shows", "the reason, not what was left out")
	for file, text := range demo.Icons() {
		taken, err := s.TakeIcon(t.Context(), file, text)
		require.NoError(t, err, file)
		assert.Empty(t, taken.Lost, "%s of the demo is not as it was drawn", file)
	}
	hits, err := s.Find(t.Context(), "of a bean")
	require.NoError(t, err)
	require.NotEmpty(t, hits)
	assert.Equal(t, "leaf-green", hits[0].Name)

	// A prop picks among them, and a part shows one.
	_, err = s.Begin(t.Context(), "ShedSign", "blank")
	require.NoError(t, err)
	options, err := s.Complete(t.Context(), "shed-sign", sheet.Ask{Do: "add", On: "props", Text: "mark icon leaf-green sp"})
	require.NoError(t, err)
	require.Len(t, options, 1)
	assert.Equal(t, "mark icon leaf-green spade", options[0].Text)
	assert.NotNil(t, options[0].Drawing, "an icon is picked by how it looks")
	amended(t, s, "shed-sign",
		sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "mark icon leaf-green spade"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "mark svg {mark}"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "key svg drop"},
		set("parts/key", "shows", "key"))
	bench, err := s.Bench(t.Context(), "shed-sign", "")
	require.NoError(t, err)
	_, err = s.Amend(t.Context(), "shed-sign", bench.Revision, set("props/mark", "kind", "icon leaf-green wings"))
	assert.Contains(t, failure(t, err).Message, "no icon wings")
	_, err = s.Amend(t.Context(), "shed-sign", bench.Revision, set("parts/key", "shows", "wings"))
	assert.Contains(t, failure(t, err).Message, "no icon wings")
	v, err := s.Sheet(t.Context(), "shed-sign")
	require.NoError(t, err)
	assert.Equal(t, "drawing", v.Parts[len(v.Parts)-1].Shows)
	built, err := s.Build(t.Context(), "shed-sign")
	require.NoError(t, err)
	require.False(t, built.Problems.Failed(), "%v", built.Problems)
	assert.Contains(t, built.Bundle.CSS, "width: 1em", "a drawing without a size stands as large as the text")

	icon := func(name string) service.IconView {
		t.Helper()
		list, err := s.Icons(t.Context())
		require.NoError(t, err)
		for _, i := range list {
			if i.Name == name {
				return i
			}
		}
		t.Fatalf("no icon %s", name)
		return service.IconView{}
	}
	assert.Equal(t, []string{"ShedSign"}, icon("leaf-green").UsedBy)
	assert.Equal(t, []string{"ShedSign"}, icon("key").UsedBy)
	assert.Empty(t, icon("sun").UsedBy)

	// Drawn otherwise: components keep what they have, and it is told of them.
	taken, err = s.TakeIcon(t.Context(), "leaf-green.svg", []byte(`<svg viewBox="0 0 20 20"><path d="M1 1h18v18z"/></svg>`))
	require.NoError(t, err)
	assert.True(t, taken.Replaced)
	assert.Empty(t, icon("leaf-green").UsedBy)
	assert.Equal(t, []string{"ShedSign"}, icon("leaf-green").Otherwise)

	require.NoError(t, s.EditIcon(t.Context(), "leaf-green", "blatt-grün", "Blatt, leaf"))
	assert.Equal(t, "Blatt, leaf", icon("blatt-grün").Words)
	assert.Equal(t, service.NotFound, failure(t, s.EditIcon(t.Context(), "leaf-green", "a", "")).Kind)
	assert.Equal(t, service.Conflict, failure(t, s.EditIcon(t.Context(), "blatt-grün", "sun", "")).Kind)
	for _, name := range []string{"", "two words", "-a", "constructor", "a/b"} {
		assert.Equal(t, service.Invalid, failure(t, s.EditIcon(t.Context(), "sun", name, "")).Kind, name)
	}
	require.NoError(t, s.RemoveIcon(t.Context(), "sun", true))
	assert.True(t, icon("sun").Removed)
	_, err = s.Amend(t.Context(), "shed-sign", bench.Revision, set("parts/key", "shows", "sun"))
	assert.Contains(t, failure(t, err).Message, "no icon sun", "what was taken out is picked no more")
	require.NoError(t, s.RemoveIcon(t.Context(), "sun", false))
	assert.False(t, icon("sun").Removed)
	require.NoError(t, s.RemoveIcon(t.Context(), "sun", true))
	taken, err = s.TakeIcon(t.Context(), "sun.svg", demo.Icons()["sun.svg"])
	require.NoError(t, err)
	assert.True(t, taken.Added, "what was taken out comes back with its file")
	assert.False(t, icon("sun").Removed)
	assert.Equal(t, service.NotFound, failure(t, s.RemoveIcon(t.Context(), "moon", true)).Kind)
}
