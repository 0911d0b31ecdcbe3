package service_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/sheet"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// drafted is the demo's design with a crop tag and the card that is made of it.
func drafted(t *testing.T) *service.Service {
	t.Helper()
	s := seeded(t, demoHost(t))
	for _, family := range []string{"crop-tag", "plot-card"} {
		_, err := s.Draft(t.Context(), "furrow", family)
		require.NoError(t, err)
	}
	return s
}

func typed(t *testing.T, s *service.Service, slug string, edits ...sheet.Edit) int {
	t.Helper()
	revision := 0
	for _, e := range edits {
		bench, err := s.Bench(t.Context(), slug, "")
		require.NoError(t, err)
		done, err := s.Amend(t.Context(), slug, bench.Revision, e)
		require.NoError(t, err, "%+v", e)
		slug, revision = done.Slug, done.Revision
	}
	return revision
}

func entryOf(t *testing.T, s *service.Service, slug string) service.Entry {
	t.Helper()
	entries, err := s.Entries(t.Context())
	require.NoError(t, err)
	for _, e := range entries {
		if e.Slug == slug {
			return e
		}
	}
	require.Fail(t, "no entry", slug)
	return service.Entry{}
}

func TestTheCatalogueIsSearched(t *testing.T) {
	s := drafted(t)
	found := func(words string) string {
		hits, err := s.Search(t.Context(), words)
		require.NoError(t, err)
		var out []string
		for _, h := range hits {
			out = append(out, h.Slug)
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "crop-tag", found("chip ripe"))
	assert.True(t, strings.HasPrefix(found("card"), "plot-card"), found("card"))
	assert.Equal(t, "stack", strings.Fields(found("stack"))[0], "a layout primitive is not found")
	assert.Empty(t, found("marrows"))
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Marrows", "", "known"))
	assert.Equal(t, "crop-tag", found("marrows"), "it is not found by the shelf it was put on")
	typed(t, s, "plot-card", sheet.Edit{Do: "set", On: "purpose", Cell: "text", Text: "A wheelbarrow full"})
	assert.Equal(t, "plot-card", found("wheelbarrow"), "it is not found by what it was given")
}

func TestADrawingFindsWhatItIsLike(t *testing.T) {
	s := drafted(t)
	like, err := s.LikeLayers(t.Context(), "furrow", []string{firstUse(t, s, "crop-tag")})
	require.NoError(t, err)
	require.NotEmpty(t, like.Hits)
	assert.Equal(t, "crop-tag", like.Hits[0].Slug, "a use of its family is not known as it")
	assert.InDelta(t, 1, like.Hits[0].Likeness, 0)
	drawn, err := s.Drawn(t.Context(), "plot-card")
	require.NoError(t, err)
	like, err = s.LikeDrawing(t.Context(), "card.svg", []byte(drawn.Picture))
	require.NoError(t, err)
	require.NotEmpty(t, like.Hits)
	assert.Equal(t, "plot-card", like.Hits[0].Slug, "%+v", like.Hits)
	assert.NotEmpty(t, like.Drawn.Picture)
	for _, bad := range []string{"", "<svg", `<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"/>`} {
		_, err = s.LikeDrawing(t.Context(), "bad.svg", []byte(bad))
		assert.Equal(t, service.Invalid, failure(t, err).Kind, "%q", bad)
	}
	_, err = s.LikeLayers(t.Context(), "furrow", []string{"nowhere"})
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

// firstUse is the id of a layer that uses a family.
func firstUse(t *testing.T, s *service.Service, family string) string {
	t.Helper()
	surveys, err := s.Surveys(t.Context())
	require.NoError(t, err)
	for _, f := range surveys[0].Families {
		if f.ID == family {
			require.NotEmpty(t, f.Uses)
			return f.Uses[0].Layer
		}
	}
	require.Fail(t, "no such family", family)
	return ""
}

func TestAStatusFollowsWhatIsDone(t *testing.T) {
	s := drafted(t)
	assert.Equal(t, "draft", entryOf(t, s, "crop-tag").Status)
	assert.Equal(t, 1, entryOf(t, s, "crop-tag").UsedBy)
	_, err := s.AskReview(t.Context(), "crop-tag", "The tones")
	require.NoError(t, err)
	assert.Equal(t, "in review", entryOf(t, s, "crop-tag").Status)
	_, err = s.AskReview(t.Context(), "crop-tag", "Again")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.EndReview(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "draft", entryOf(t, s, "crop-tag").Status)
	_, err = s.EndReview(t.Context(), "crop-tag")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	assert.Equal(t, "released", entryOf(t, s, "crop-tag").Status)
	_, err = s.AskReview(t.Context(), "crop-tag", "")
	assert.Contains(t, failure(t, err).Message, "Nothing changed since 1.0.0")
	revision := typed(t, s, "crop-tag", sheet.Edit{Do: "set", On: "deprecated", Cell: "text", Text: "Too small"}, sheet.Edit{Do: "set", On: "deprecated", Cell: "instead", Text: "StateTag"})
	assert.Equal(t, "released", entryOf(t, s, "crop-tag").Status, "what is not released yet is told to its users")
	_, err = s.AskReview(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, "in review", entryOf(t, s, "crop-tag").Status)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", revision, "", "", "known"))
	e := entryOf(t, s, "crop-tag")
	assert.Equal(t, [3]string{"deprecated", "1.1.0", "Too small. Use StateTag instead."}, [3]string{e.Status, e.Version, e.Deprecated})
	review, err := s.Review(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Nil(t, review.Asked, "a release leaves it in review")
}

// What a release is to be, in numbers that the demo's design gives: the crop tag stands on three pages, and in the plot card.
func TestAReleaseSaysWhatItTouches(t *testing.T) {
	s := drafted(t)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	typed(t, s, "crop-tag",
		sheet.Edit{Do: "set", On: "props/strong", Cell: "name", Text: "loud"},
		sheet.Edit{Do: "set", On: "parts/root/padding-inline", Cell: "value", Text: "{space.6}"})
	plan, err := s.PlanRelease(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "2.0.0", plan.Version)
	assert.Equal(t, "the prop strong is renamed to loud", plan.Why)
	assert.Equal(t, []string{"PlotCard"}, plan.UsedBy)
	uses := 0
	for _, p := range plan.Pages {
		uses += p.Uses
	}
	assert.Equal(t, entryOf(t, s, "crop-tag").Uses, uses)
	assert.NotEmpty(t, plan.Pages)
	// Medium and large tags of all four tones, strong or not, say their padding alike or not: what looks otherwise is counted.
	review, err := s.Review(t.Context(), "crop-tag")
	require.NoError(t, err)
	differing := 0
	for i, c := range review.Cases {
		if c.Differs {
			differing++
			assert.Equal(t, differing, i+1, "what looks otherwise is not shown first")
		}
		assert.NotNil(t, c.Released)
	}
	assert.Equal(t, plan.Cases, differing)
	assert.Positive(t, differing)
	assert.Less(t, differing, len(review.Cases), "what stays is told as changed")
	assert.Equal(t, plan.Changes, review.Changes)
	require.Len(t, plan.Steps, 1)
	assert.Equal(t, catalogue.PropRenamed, plan.Steps[0].Kind)
	assert.Contains(t, plan.Changelog, "strong is called loud.")

	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", bench.Revision, "", "", "known"))
	releases, err := s.Releases(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "To follow", releases[0].Told[0].Runs[0].Text, "what nobody wrote is not written")
	assert.Equal(t, "1.0.0", releases[0].Before)
	assert.Equal(t, plan.Steps, releases[0].Steps)
	assert.Empty(t, releases[1].Steps)
	up, err := s.Upgrade(t.Context(), "crop-tag", "1.0.0", "2.0.0")
	require.NoError(t, err)
	assert.Equal(t, contract.Major, up.Level)
	assert.Contains(t, up.Program, `"to": "loud"`)
	_, err = s.Upgrade(t.Context(), "crop-tag", "2.0.0", "1.0.0")
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	_, err = s.Upgrade(t.Context(), "crop-tag", "1.0.0", "9.0.0")
	assert.Contains(t, failure(t, err).Message, "9.0.0")
}

// Where a project asks for it, somebody else approves what is released, as it is released.
func TestSomebodyElseApproves(t *testing.T) {
	db, scope := storetest.Database(t)
	s := service.New(db.In(scope), service.Hosts{}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	as := func(name string) context.Context {
		id, err := db.Person(t.Context(), name)
		require.NoError(t, err)
		again, err := db.Person(t.Context(), name)
		require.NoError(t, err)
		assert.Equal(t, id, again)
		return store.As(t.Context(), id)
	}
	ines, tomas := as("Ines, plot 41"), as("Tomás, plot 7")
	require.NoError(t, s.AskApproval(t.Context(), true))
	plan, err := s.PlanRelease(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Contains(t, plan.Approval, "Put it up for review")
	release := func(revision int) error {
		return story.Release(ines, s, "crop-tag", revision, "Small things", "", "known")
	}
	assert.ErrorContains(t, release(1), "approve")
	_, err = s.AskReview(ines, "crop-tag", "Look at the tones")
	require.NoError(t, err)
	assert.ErrorContains(t, release(1), "Somebody other than Ines, plot 41 has to approve it.")
	_, err = s.Approve(ines, "crop-tag", 1)
	assert.Contains(t, failure(t, err).Message, "Somebody else has to")
	_, err = s.Approve(tomas, "crop-tag", 7)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "what nobody looked at was approved")
	review, err := s.Approve(tomas, "crop-tag", 1)
	require.NoError(t, err)
	assert.Equal(t, service.ReviewAsked{By: "Ines, plot 41", Note: "Look at the tones", At: review.Asked.At, Approver: "Tomás, plot 7", Approved: true}, *review.Asked)
	revision := typed(t, s, "crop-tag", sheet.Edit{Do: "set", On: "purpose", Cell: "text", Text: "Another"})
	assert.ErrorContains(t, release(revision), "changed since Tomás, plot 7 approved it")
	review, err = s.Review(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.False(t, review.Asked.Approved, "an approval holds for what was not looked at")
	_, err = s.Approve(tomas, "crop-tag", revision)
	require.NoError(t, err)
	require.NoError(t, release(revision))
	releases, err := s.Releases(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "Ines, plot 41", releases[0].By)
	require.NoError(t, s.AskApproval(t.Context(), false))
	revision = typed(t, s, "crop-tag", sheet.Edit{Do: "set", On: "purpose", Cell: "text", Text: "A third"})
	require.NoError(t, release(revision), "the project asks for no approval any more")
}

// What a prop changes is told of the cases that the component has, not of those that the design wants.
func TestWhatAPropChangesIsTold(t *testing.T) {
	s := drafted(t)
	effects := func() map[string]service.PropEffect {
		about, err := s.About(t.Context(), "crop-tag")
		require.NoError(t, err)
		out := map[string]service.PropEffect{}
		for _, e := range about.Effects {
			out[e.Prop] = e
		}
		return out
	}
	before := effects()
	assert.Equal(t, 12, before["tone"].Cases, "of 18 tags, 6 are of the default tone")
	assert.Equal(t, []service.PartEffect{{Part: "root", Name: "root", What: []string{"background-color", "color"}}}, before["tone"].Parts)
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err := s.Fetch(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before, effects(), "tags of a tone that nobody took yet are counted")
	about, err := s.About(t.Context(), "plot-card")
	require.NoError(t, err)
	assert.Equal(t, []service.Piece{{Name: "CropTag", Slug: "crop-tag", Level: 1, Times: 1}}, about.MadeOf)
	about, err = s.About(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, []service.Piece{{Name: "PlotCard", Slug: "plot-card", Level: 1, Times: 1}}, about.UsedBy)
	assert.NotEmpty(t, about.Pages)
	var pad service.TokenSays
	for _, tok := range about.Tokens {
		if tok.Path == "space.2" {
			pad = tok
		}
	}
	assert.Equal(t, service.TokenSays{Path: "space.2", Type: "dimension", Value: "8px", Where: []string{"root · padding-inline"}}, pad)
	ripe := 0.0
	for _, c := range about.Contrasts {
		if c.Theme == "day" && c.Part == "label" {
			ripe = c.Ratio
		}
	}
	assert.Greater(t, ripe, 4.5)
}

func TestCommentsAreResolved(t *testing.T) {
	s := drafted(t)
	review, err := s.Comment(t.Context(), "crop-tag", service.NewComment{Place: "part", Key: "label", Words: "the label", Body: " Is it **too** long? "})
	require.NoError(t, err)
	require.Len(t, review.Comments, 1)
	c := review.Comments[0]
	assert.Equal(t, [4]string{"part", "label", "the label", "Somebody"}, [4]string{c.Place, c.Key, c.Words, c.By})
	assert.Equal(t, []contract.Run{{Text: "Is it "}, {Text: "too", Strong: true}, {Text: " long?"}}, c.Told[0].Runs)
	assert.Nil(t, c.Resolved)
	review, err = s.ResolveComment(t.Context(), "crop-tag", c.ID, true)
	require.NoError(t, err)
	assert.Equal(t, "Somebody", review.Comments[0].Resolver)
	assert.NotNil(t, review.Comments[0].Resolved)
	review, err = s.ResolveComment(t.Context(), "crop-tag", c.ID, false)
	require.NoError(t, err)
	assert.Empty(t, review.Comments[0].Resolver)
	_, err = s.ResolveComment(t.Context(), "plot-card", c.ID, true)
	assert.Equal(t, service.NotFound, failure(t, err).Kind, "another component's comment was resolved")
	for _, body := range []string{" ", "[x](javascript:alert(1))", strings.Repeat("a", 30000)} {
		_, err = s.Comment(t.Context(), "crop-tag", service.NewComment{Place: "component", Body: body})
		assert.Equal(t, service.Invalid, failure(t, err).Kind, fmt.Sprintf("%.20q", body))
	}
}

// The list, and a search, of 1,000 components of 18 variants with nothing changed. Goal: under 50 ms each.
func BenchmarkCatalogueOf1000(b *testing.B) {
	s := many(b, 1000)
	_, err := s.Entries(b.Context()) // once, as the first who looks
	require.NoError(b, err)
	b.Run("list", func(b *testing.B) {
		for b.Loop() {
			_, err := s.Entries(b.Context())
			require.NoError(b, err)
		}
	})
	b.Run("search", func(b *testing.B) {
		for b.Loop() {
			hits, err := s.Search(b.Context(), "chip ripe")
			require.NoError(b, err)
			require.NotEmpty(b, hits)
		}
	})
}
