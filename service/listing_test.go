package service_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A picture that was painted is a file in the archive, and an address that a page can show.
func TestAPaintedPictureIsShownInTheCode(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Drop(t.Context(), "plan.design.json", []byte(`{"format": "cobrik.design/1", "id": "plan", "name": "Plan", "pages": [], "families": [{"id": "seal", "name": "Seal", "axes": [], "variants": [{"id": "v", "choices": {},
		"root": {"id": "r", "name": "Seal", "kind": "box", "bounds": {"x": 0, "y": 0, "width": 40, "height": 20}, "flow": {"direction": "row"}, "children": [
			{"id": "m", "name": "Mark", "kind": "group", "flatten": "png", "bounds": {"x": 0, "y": 0, "width": 20, "height": 20}, "children": [
				{"id": "b", "name": "B", "kind": "box", "fill": "#336633", "bounds": {"x": 2, "y": 2, "width": 10, "height": 10}}]}]}}]}]}`))
	require.NoError(t, err)
	made, err := s.Draft(t.Context(), "plan", "seal")
	require.NoError(t, err)
	listed, err := s.Listing(t.Context(), made.Slug)
	require.NoError(t, err)
	files, err := s.Files(t.Context(), made.Slug)
	require.NoError(t, err)
	pictures := 0
	for i, f := range files {
		if !strings.HasSuffix(f.Path, ".png") {
			assert.Equal(t, f, listed[i])
			continue
		}
		pictures++
		assert.True(t, strings.HasPrefix(f.Content, "\x89PNG"), f.Path)
		assert.True(t, strings.HasPrefix(listed[i].Content, "data:image/png;base64,iVBOR"), "the page is given bytes that are no text")
	}
	assert.Equal(t, 1, pictures)
}
