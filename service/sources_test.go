package service_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo"
	"cobrik/service"
)

func sources(t *testing.T, s *service.Service) service.Sources {
	t.Helper()
	out, err := s.Sources(t.Context())
	require.NoError(t, err)
	return out
}

// A design is called by another name everywhere, removed with what hangs on it said, and
// put back as it was.
func TestADesignIsRenamedRemovedAndPutBack(t *testing.T) {
	s := withTag(t)
	ctx := t.Context()
	require.NoError(t, s.CallDocument(ctx, "furrow", "  The   allotment "))
	assert.Equal(t, "The allotment", sources(t, s).Documents[0].Name)
	surveys, err := s.Surveys(ctx)
	require.NoError(t, err)
	assert.Equal(t, "The allotment", surveys[0].Name)
	hits, err := s.Find(ctx, "crop allotment")
	require.NoError(t, err)
	assert.NotEmpty(t, hits, "it is not found by the name people gave it")
	require.NoError(t, s.PublishNext(ctx, "furrow"))
	_, err = s.Fetch(ctx)
	require.NoError(t, err)
	assert.Equal(t, "The allotment", sources(t, s).Documents[0].Name, "the next revision took the name away")
	assert.Contains(t, failure(t, s.CallDocument(ctx, "furrow", strings.Repeat("n", 121))).Message, "at most 120")
	require.NoError(t, s.CallDocument(ctx, "furrow", ""))
	assert.Equal(t, "Furrow", sources(t, s).Documents[0].Name)

	rests, err := s.DocumentRests(ctx, "furrow")
	require.NoError(t, err)
	assert.True(t, rests.Possible)
	assert.Equal(t, []service.ComponentLink{{Slug: "crop-tag", Name: "CropTag"}}, rests.Components)
	assert.Equal(t, []string{"1 component is drawn from it. Contracts and releases stay, but the design no longer says anything of them.", "Its 2 revisions stay, and it can be put back."}, rests.Says)
	require.NoError(t, s.RemoveDocument(ctx, "furrow"))
	now := sources(t, s)
	assert.Empty(t, now.Documents)
	require.Len(t, now.Removed, 1)
	assert.Equal(t, "Furrow", now.Removed[0].Name)
	surveys, err = s.Surveys(ctx)
	require.NoError(t, err)
	assert.Empty(t, surveys)
	bench, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err, "a component whose design was removed cannot be opened")
	assert.True(t, bench.Gone)
	_, err = s.Listing(ctx, "crop-tag")
	require.NoError(t, err)
	sync, err := s.Sync(ctx)
	require.NoError(t, err)
	require.Len(t, sync, 1)
	assert.True(t, sync[0].Gone)
	assert.Zero(t, sync[0].Waiting, "a design that is not there wants something")
	_, err = s.Token(ctx, "tag.growing.ink")
	require.NoError(t, err)
	_, err = s.Draft(ctx, "furrow", "plot-card")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	_, err = s.DocumentRests(ctx, "furrow")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	got, err := s.Fetch(ctx)
	require.NoError(t, err)
	assert.Empty(t, got.Documents, "what was removed is fetched again")
	require.NoError(t, s.RestoreDocument(ctx, "furrow"))
	bench, err = s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	assert.False(t, bench.Gone)
	assert.Len(t, sources(t, s).Documents[0].Revisions, 2)
	for _, err := range []error{s.RemoveDocument(ctx, "x"), s.RestoreDocument(ctx, "furrow"), s.CallDocument(ctx, "x", "y")} {
		assert.Equal(t, service.NotFound, failure(t, err).Kind)
	}
}

// A dropped design is replaced by a file of another name and id, drawn or written.
func TestADroppedDesignIsReplaced(t *testing.T) {
	s := seeded(t, demoHost(t))
	ctx := t.Context()
	svg := func(width string) []byte {
		return []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect id="bed" width="` + width + `" height="10" fill="#123456"/></svg>`)
	}
	_, err := s.Drop(ctx, "bed.svg", svg("10"))
	require.NoError(t, err)
	var id string
	for _, d := range sources(t, s).Documents {
		if !d.FromHost {
			id = d.ID
		}
	}
	got, err := s.ReplaceDocument(ctx, id, `C:\drawings\other.svg`, svg("14"))
	require.NoError(t, err)
	assert.Equal(t, []any{2, true}, []any{got.Revision, got.Added})
	for _, d := range sources(t, s).Documents {
		assert.Contains(t, []string{"Furrow", "bed"}, d.Name, "the name of the file took the document's place")
	}
	require.Len(t, sources(t, s).Documents, 2, "what should replace a design stands beside it")
	compared, err := s.CompareDocument(ctx, id, 0, 0)
	require.NoError(t, err)
	require.NotEmpty(t, compared.Places)
	assert.Contains(t, compared.Places[len(compared.Places)-1].Rows, service.ComparedRow{What: "bed", State: "changed", Property: "bounds.width", Before: "10", After: "14"})
	assert.False(t, got.Restored)
	require.NoError(t, s.RemoveDocument(ctx, id))
	back, err := s.Drop(ctx, "bed.svg", svg("10"))
	require.NoError(t, err)
	assert.True(t, back.Restored, "what was removed is back, and it is not said")
	got, err = s.ReplaceDocument(ctx, id, "furrow.json", demo.Revisions()[0])
	require.NoError(t, err)
	assert.Equal(t, back.Revision+1, got.Revision)
	assert.Len(t, sources(t, s).Documents, 2)
	_, err = s.ReplaceDocument(ctx, id, "broken.json", []byte(`{"format":`))
	assert.NotEmpty(t, failure(t, err).Problems)
	_, err = s.ReplaceDocument(ctx, "furrow", "bed.svg", svg("10"))
	assert.Contains(t, failure(t, err).Message, "comes from the design host")
	_, err = s.ReplaceDocument(ctx, "nowhere", "bed.svg", svg("10"))
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

func TestSourcesAreFilesAgain(t *testing.T) {
	s := seeded(t, demoHost(t))
	f, err := s.DocumentText(t.Context(), "furrow", 1)
	require.NoError(t, err)
	assert.Equal(t, "furrow-1.design.json", f.Name)
	assert.Equal(t, string(demo.Revisions()[0]), string(f.Text), "it is not as it came")
	_, err = s.DocumentText(t.Context(), "furrow", 9)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	f, err = s.TokenFileText(t.Context(), "dusk.tokens.json")
	require.NoError(t, err)
	assert.Contains(t, string(f.Text), `"$value"`)
	_, err = s.TokenFileText(t.Context(), "nowhere.json")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

// A token file is renamed with what names it, and removed only where the rest still
// resolves; both can be undone.
func TestTokenFilesAreRenamedAndRemoved(t *testing.T) {
	s := withTag(t)
	ctx := t.Context()
	values := func() map[string]string {
		v, err := s.Tokens(ctx)
		require.NoError(t, err)
		out := map[string]string{}
		for _, r := range v.Rows {
			for i, one := range r.Values {
				out[r.Path+" "+v.Themes[i].Name] = one.Value
			}
		}
		return out
	}
	before := values()
	_, err := s.RenameTokenFile(ctx, number(t, s), "dusk.tokens.json", "evening.tokens.json")
	require.NoError(t, err)
	assert.Equal(t, before, values(), "the resolver document still names the old file")
	f, err := s.TokenFileText(ctx, "furrow.resolver.json")
	require.NoError(t, err)
	assert.Contains(t, string(f.Text), "evening.tokens.json")
	assert.NotContains(t, string(f.Text), "dusk.tokens.json")
	for to, says := range map[string]string{"core.tokens.json": "already", "": "not a file's name", "../x.json": "not a file's name", "..": "not a file's name", "cobrik.json": "the project file's name"} {
		_, err := s.RenameTokenFile(ctx, number(t, s), "evening.tokens.json", to)
		assert.Contains(t, failure(t, err).Message, says)
	}
	_, err = s.RenameTokenFile(ctx, number(t, s)-1, "evening.tokens.json", "later.tokens.json")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)

	rests, err := s.TokenFileRests(ctx, "core.tokens.json")
	require.NoError(t, err)
	assert.False(t, rests.Possible, "the others point into it")
	assert.NotEmpty(t, rests.Problems)
	_, err = s.RemoveTokenFile(ctx, number(t, s), "core.tokens.json")
	assert.Contains(t, failure(t, err).Message, "Nothing was changed")

	_, err = s.Drop(ctx, "more.tokens.json", []byte(`{"tag":{"growing":{"extra":{"$type":"color","$value":{"colorSpace":"srgb","components":[0,1,0]}}}},"lone":{"$type":"number","$value":4}}`))
	require.NoError(t, err)
	bench, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	_, err = s.Edit(ctx, "crop-tag", bench.Revision, []service.ValueEdit{{Part: "root", Property: "background-color", Value: "{tag.growing.extra}"}})
	require.NoError(t, err)
	rests, err = s.TokenFileRests(ctx, "more.tokens.json")
	require.NoError(t, err)
	assert.True(t, rests.Possible)
	assert.Contains(t, rests.Says, "2 tokens would be gone.")
	assert.Equal(t, []service.ComponentLink{{Slug: "crop-tag", Name: "CropTag"}}, rests.Components)
	assert.NotEmpty(t, rests.Problems, "a contract would point at nothing, and it is not said")
	at := number(t, s)
	_, err = s.RemoveTokenFile(ctx, at, "more.tokens.json")
	require.NoError(t, err)
	assert.Equal(t, before, values())

	compared, err := s.CompareTokens(ctx, 0, 0)
	require.NoError(t, err)
	assert.Equal(t, []int{at, at + 1}, []int{compared.Before, compared.After})
	assert.Equal(t, service.ComparedPlace{Kind: "document", Name: "files", Rows: []service.ComparedRow{{What: "more.tokens.json", State: "removed"}}}, compared.Places[0])
	assert.Equal(t, service.ComparedRow{What: "tag.growing.extra", State: "removed", Property: "day", Before: "#00ff00"}, compared.Places[1].Rows[0])
	_, err = s.EditTokens(ctx, number(t, s), []service.TokenEdit{{Kind: "set", Path: "leaf.700", Text: "#123456"}})
	require.NoError(t, err)
	compared, err = s.CompareTokens(ctx, 0, 0)
	require.NoError(t, err)
	assert.Equal(t, "leaf", compared.Places[0].Name)
	assert.Equal(t, service.ComparedRow{What: "leaf.700", State: "changed", Property: "day", Before: "#2f6132", After: "#123456"}, compared.Places[0].Rows[0])
	said := map[string]bool{}
	for _, p := range compared.Places {
		for _, r := range p.Rows {
			said[r.What] = true
		}
	}
	assert.True(t, said["tag.growing.ink"], "what leads to a token that changed changed too")
	assert.False(t, said["soil.50"])
	_, err = s.CompareTokens(ctx, 1, 99)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

// Two revisions of the demo's design: the places that moved in its story, and no others.
func TestTwoRevisionsOfADesignAreCompared(t *testing.T) {
	s := seeded(t, demoHost(t))
	ctx := t.Context()
	require.NoError(t, s.PublishNext(ctx, "furrow"))
	_, err := s.Fetch(ctx)
	require.NoError(t, err)
	compared, err := s.CompareDocument(ctx, "furrow", 0, 0)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2}, []int{compared.Before, compared.After})
	assert.Len(t, compared.Revisions, 2)
	assert.Positive(t, compared.Differing)
	for _, p := range compared.Places {
		assert.NotEmpty(t, p.Rows)
	}
	back, err := s.CompareDocument(ctx, "furrow", 2, 1)
	require.NoError(t, err)
	assert.Equal(t, compared.Differing, back.Differing)
	same, err := s.CompareDocument(ctx, "furrow", 2, 2)
	require.NoError(t, err)
	assert.Empty(t, same.Places)
	_, err = s.CompareDocument(ctx, "furrow", 1, 7)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}
