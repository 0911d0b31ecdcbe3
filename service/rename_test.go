package service_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/sheet"
	"cobrik/service"
	"cobrik/store"
)

// nested are a tag, a card that passes its size on and picks its tone, and a page that gives the card's size.
func nested(t *testing.T) *service.Service {
	t.Helper()
	s := seeded(t, http.NotFoundHandler())
	for _, name := range []string{"ShedTag", "ShedCard", "ShedPage"} {
		_, err := s.Begin(t.Context(), name, "blank")
		require.NoError(t, err)
	}
	amended(t, s, "shed-tag",
		sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "size choice s m"},
		sheet.Edit{Do: "add", On: "props/size", Cell: "prop", Text: "tone choice calm loud"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "when size = m: gap 3px"})
	amended(t, s, "shed-card",
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "tag ShedTag size={size} tone=loud"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "when size = m: gap 5px"})
	amended(t, s, "shed-page", sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "card ShedCard size=m"})
	return s
}

func elementOf(t *testing.T, s *service.Service, slug, part string) string {
	t.Helper()
	v, err := s.Sheet(t.Context(), slug)
	require.NoError(t, err)
	for _, p := range v.Parts {
		if p.ID == part {
			return p.Element
		}
	}
	t.Fatalf("%s has no part %s", slug, part)
	return ""
}

// A component that is renamed keeps those that use it: they name it as it is called now, and again once that is undone.
func TestUsesFollowARenamedComponent(t *testing.T) {
	s := nested(t)
	amended(t, s, "shed-page", sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "foot slot for ShedTag"})
	bench, err := s.Bench(t.Context(), "shed-tag", "")
	require.NoError(t, err)
	_, err = s.Amend(t.Context(), "shed-tag", bench.Revision, set("name", "", "shed page"))
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "another component has the name")
	done, err := s.Amend(t.Context(), "shed-tag", bench.Revision, set("name", "", "Shed label"))
	require.NoError(t, err)
	assert.Equal(t, "shed-label", done.Slug)
	_, err = s.Bench(t.Context(), "shed-tag", "")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	assert.Equal(t, "ShedLabel size={size} tone=loud", elementOf(t, s, "shed-card", "tag"))
	card, err := s.Bench(t.Context(), "shed-card", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"ShedLabel"}, card.Uses)
	assert.Equal(t, "follows ShedLabel", card.Note)
	page, err := s.Sheet(t.Context(), "shed-page")
	require.NoError(t, err)
	assert.Equal(t, "slot for ShedLabel", page.Props[len(page.Props)-1].Kind)
	b, err := s.Build(t.Context(), "shed-card")
	require.NoError(t, err)
	assert.False(t, b.Problems.Failed(), "%v", b.Problems)

	undone, err := s.Undo(t.Context(), "shed-label", done.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, "shed-tag", undone.Slug)
	assert.Equal(t, "ShedTag size={size} tone=loud", elementOf(t, s, "shed-card", "tag"))
	again, err := s.Undo(t.Context(), "shed-tag", undone.Revision, store.Forward)
	require.NoError(t, err)
	assert.Equal(t, "shed-label", again.Slug)
	assert.Equal(t, "ShedLabel size={size} tone=loud", elementOf(t, s, "shed-card", "tag"))
	// What the card followed cannot be undone by itself: nothing is of the old name.
	card, err = s.Bench(t.Context(), "shed-card", "")
	require.NoError(t, err)
	_, err = s.Undo(t.Context(), "shed-card", card.Revision, store.Backward)
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
}

// An option that is renamed is renamed in what uses give, in what passes it on, and in what uses that.
func TestUsesFollowARenamedOption(t *testing.T) {
	s := nested(t)
	bench, err := s.Bench(t.Context(), "shed-tag", "")
	require.NoError(t, err)
	tried, err := s.Try(t.Context(), "shed-tag", set("props/size", "kind", "choice s middle"), "")
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{"ShedCard", "ShedPage"}, tried.Reaches)
	done, err := s.Amend(t.Context(), "shed-tag", bench.Revision, set("props/size", "kind", "choice s middle"))
	require.NoError(t, err)
	assert.Equal(t, "ShedCard size=middle", elementOf(t, s, "shed-page", "card"))
	card, err := s.Sheet(t.Context(), "shed-card")
	require.NoError(t, err)
	assert.Equal(t, "choice s middle", card.Props[0].Kind)
	assert.Equal(t, "size = middle", card.Rules[len(card.Rules)-1].When)
	page, err := s.Build(t.Context(), "shed-page")
	require.NoError(t, err)
	assert.False(t, page.Problems.Failed(), "%v", page.Problems)

	done, err = s.Amend(t.Context(), "shed-tag", done.Revision, set("props/tone", "kind", "choice calm noisy"))
	require.NoError(t, err)
	assert.Equal(t, "ShedTag size={size} tone=noisy", elementOf(t, s, "shed-card", "tag"))
	_, err = s.Undo(t.Context(), "shed-tag", done.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, "ShedTag size={size} tone=loud", elementOf(t, s, "shed-card", "tag"))

	// An undo that would break a use is refused, as any edit is.
	_, err = s.Begin(t.Context(), "ShedNote", "blank")
	require.NoError(t, err)
	amended(t, s, "shed-note", sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "text text"})
	amended(t, s, "shed-page", sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "note ShedNote text=hello"})
	note, err := s.Bench(t.Context(), "shed-note", "")
	require.NoError(t, err)
	_, err = s.Undo(t.Context(), "shed-note", note.Revision, store.Backward)
	assert.Contains(t, failure(t, err).Message, "ShedPage uses it")
}

// A part that is made a component of its own is used wherever the same parts stand, in other components, too; where they
// differ, they stay.
func TestTheSamePartsInOtherComponentsBecomeUses(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	for _, name := range []string{"BedCard", "ShedCard", "PumpCard"} {
		_, err := s.Begin(t.Context(), name, "blank")
		require.NoError(t, err)
	}
	foot := func(slug, prop, gap string) {
		amended(t, s, slug,
			sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: prop + " text"},
			sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "foot p"},
			sheet.Edit{Do: "add", On: "parts/foot", Cell: "value", Text: "gap " + gap},
			sheet.Edit{Do: "add", On: "parts/foot", Cell: "inside", Text: "words span"},
			set("parts/words", "shows", "{"+prop+"}"))
	}
	foot("bed-card", "note", "4px")
	foot("shed-card", "remark", "4px")
	foot("pump-card", "note", "5px")
	bench, err := s.Bench(t.Context(), "bed-card", "")
	require.NoError(t, err)
	own := sheet.Edit{Do: "own", On: "parts/foot", Text: "CardFoot"}
	tried, err := s.Try(t.Context(), "bed-card", own, "")
	require.NoError(t, err)
	assert.Equal(t, []string{"ShedCard"}, tried.Reaches)
	done, err := s.Amend(t.Context(), "bed-card", bench.Revision, own)
	require.NoError(t, err)
	assert.Equal(t, []string{"ShedCard"}, done.Reaches)
	assert.Contains(t, done.Note, "used in ShedCard")
	assert.Equal(t, "CardFoot note={note}", elementOf(t, s, "bed-card", "foot"))
	assert.Equal(t, "CardFoot note={remark}", elementOf(t, s, "shed-card", "foot"))
	assert.Equal(t, "p", elementOf(t, s, "pump-card", "foot"), "its gap is another")
	shed, err := s.Build(t.Context(), "shed-card")
	require.NoError(t, err)
	assert.False(t, shed.Problems.Failed(), "%v", shed.Problems)
	b, err := s.Bench(t.Context(), "shed-card", "")
	require.NoError(t, err)
	_, err = s.Undo(t.Context(), "shed-card", b.Revision, store.Backward)
	require.NoError(t, err)
	assert.Equal(t, "p", elementOf(t, s, "shed-card", "foot"))
}
