package service_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo/story"
	"cobrik/service"
)

// Everything that has a name is found by it: by any of its words in any order, the nearest first.
func TestFindFindsEverythingWithAName(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	find := func(words string) []service.Hit {
		out, err := s.Find(t.Context(), words)
		require.NoError(t, err)
		return out
	}
	has := func(words string, want service.Hit) {
		t.Helper()
		list := find(words)
		assert.True(t, slices.ContainsFunc(list, func(h service.Hit) bool {
			return h.Kind == want.Kind && h.Name == want.Name && (want.Slug == "" || h.Slug == want.Slug) && (want.Case == "" || h.Case == want.Case) && (want.Page == "" || h.Page == want.Page)
		}), "%q finds no %s %s: %v", words, want.Kind, want.Name, list)
	}
	has("croptag", service.Hit{Kind: "component", Name: "CropTag", Slug: "crop-tag"})
	has("how far a crop", service.Hit{Kind: "component", Name: "CropTag"})
	has("tone", service.Hit{Kind: "prop", Name: "tone", Slug: "crop-tag"})
	has("RIPE tone", service.Hit{Kind: "option", Name: "ripe", Slug: "crop-tag"})
	has("label", service.Hit{Kind: "part", Name: "label", Slug: "crop-tag"})
	has("l ripe strong", service.Hit{Kind: "case", Name: "l · ripe · strong", Slug: "crop-tag"})
	has("1.0.0", service.Hit{Kind: "release", Name: "CropTag 1.0.0"})
	has("space.2", service.Hit{Kind: "token", Name: "space.2"})
	has("tool shed", service.Hit{Kind: "page", Name: "Tool shed"})
	has("toolrow", service.Hit{Kind: "family", Name: "ToolRow"})
	has("top bar", service.Hit{Kind: "layer", Name: "Top bar"})
	has("plotcard 10 times", service.Hit{Kind: "find", Name: "PlotCard"})
	has("split", service.Hit{Kind: "component", Name: "Split", Slug: "split"})
	assert.Empty(t, find(""))
	assert.Empty(t, find("   "))
	assert.Empty(t, find("wheelbarrow"))
	assert.Empty(t, find("tone wheelbarrow"), "one word of two is enough")
	space := find("space.2")
	assert.Equal(t, "space.2", space[0].Name, "what is called just so comes first")
	count := map[string]int{}
	for _, h := range find("e") {
		count[h.Kind]++
	}
	for kind, n := range count {
		assert.LessOrEqual(t, n, 6, kind)
	}
}

// Sources, outputs, groups of tokens, themes and shelves have names, too.
func TestWhatIsNotOfAComponentIsFound(t *testing.T) {
	s := withTag(t)
	ctx := t.Context()
	require.NoError(t, story.Release(ctx, s, "crop-tag", 1, "Small things", "", "known"))
	first := func(words, kind string) service.Hit {
		t.Helper()
		hits, err := s.Find(ctx, words)
		require.NoError(t, err)
		for _, h := range hits {
			if h.Kind == kind {
				return h
			}
		}
		t.Fatalf("no %s is found by %q", kind, words)
		return service.Hit{}
	}
	assert.Equal(t, "Furrow", first("furrow", "source").Name)
	assert.Equal(t, "dusk.tokens.json", first("dusk.tok", "source").Name)
	assert.Equal(t, service.Hit{Kind: "output", Name: "Tokens.kt", Of: "Kotlin"}, first("tokens.kt", "output"))
	assert.Equal(t, service.Hit{Kind: "group", Name: "tag.growing", Of: "3 tokens"}, first("tag.growing", "group"))
	assert.Equal(t, service.Hit{Kind: "theme", Name: "dusk", Of: "theme=dusk"}, first("dusk", "theme"))
	assert.Equal(t, "Small things", first("small", "shelf").Name)
}
