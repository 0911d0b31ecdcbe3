package service_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/emit"
	"cobrik/service"
)

// Layout primitives are components to look at and to take away: in the catalogue with props, code
// that compiles, and choices that are the project's tokens; nothing of them can be edited.
func TestLayoutPrimitivesAreComponents(t *testing.T) {
	s := seeded(t, demoHost(t))
	list, err := s.Primitives(t.Context())
	require.NoError(t, err)
	var names []string
	for _, p := range list {
		names = append(names, p.Name)
		view, err := s.Bench(t.Context(), p.Slug, "")
		require.NoError(t, err)
		assert.Equal(t, "primitive", view.Status)
		built, err := s.Build(t.Context(), p.Slug)
		require.NoError(t, err)
		assert.Empty(t, built.Problems, p.Name)
		assert.NotEmpty(t, built.Bundle.JS)
	}
	assert.Equal(t, []string{"Stack", "Row", "Split", "Grid", "Container", "Overlay", "Spacer"}, names)
	stack, err := s.Bench(t.Context(), "stack", "dusk")
	require.NoError(t, err)
	assert.Equal(t, "dusk", stack.Theme)
	gap := stack.Props[slices.IndexFunc(stack.Props, func(p service.PropView) bool { return p.Name == "gap" })]
	assert.Contains(t, gap.Options, "1-half")
	assert.NotNil(t, stack.Props[len(stack.Props)-1].Shown, "there is nothing to lay out")
	files, err := s.Files(t.Context(), "stack")
	require.NoError(t, err)
	sheet := files[slices.IndexFunc(files, func(f emit.File) bool { return strings.HasSuffix(f.Path, ".module.css") })]
	assert.Contains(t, sheet.Content, "gap: var(--space-1-half)")
	_, err = s.Edit(t.Context(), "stack", 1, nil)
	assert.ErrorContains(t, err, "There is no component")
	_, err = s.Bench(t.Context(), "shelf", "")
	assert.ErrorContains(t, err, `There is no component "shelf".`)
}
