package service_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/sheet"
	"cobrik/demo/story"
	"cobrik/service"
)

func amended(t *testing.T, s *service.Service, slug string, edits ...sheet.Edit) {
	t.Helper()
	for _, e := range edits {
		bench, err := s.Bench(t.Context(), slug, "")
		require.NoError(t, err)
		_, err = s.Amend(t.Context(), slug, bench.Revision, e)
		require.NoError(t, err, "%s %s %q", e.Do, e.On, e.Text)
	}
}

func looked(t *testing.T, b service.Board, name string) service.Looked {
	t.Helper()
	for _, k := range b.Cases {
		if k.Name == name {
			return k
		}
	}
	t.Fatalf("the board has no case %q", name)
	return service.Looked{}
}

// The board shows what is drawn, what is saved and what else there is, each once, and counts all combinations.
func TestTheBoardShowsEveryCase(t *testing.T) {
	s := tagOnTheBench(t)
	before, err := s.Board(t.Context(), "crop-tag", contract.Look{})
	require.NoError(t, err)
	amended(t, s, "crop-tag", sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "pinned flag"})
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	drawn := len(bench.Cases)
	_, err = s.SaveCase(t.Context(), "crop-tag", bench.Cases[2].Key, "by night", contract.Look{Direction: "rtl", Text: 200})
	require.NoError(t, err)

	b, err := s.Board(t.Context(), "crop-tag", contract.Look{})
	require.NoError(t, err)
	keys := map[string]bool{}
	count := map[string]int{}
	for _, k := range b.Cases {
		assert.False(t, keys[k.Key], "%s stands there twice", k.Key)
		keys[k.Key] = true
		switch {
		case k.Drawn:
			count["drawn"]++
			assert.NotEmpty(t, k.Picture)
		case k.Saved:
			count["saved"]++
		default:
			count["other"]++
			assert.Empty(t, k.Picture, "what is not drawn has no drawing")
		}
	}
	assert.Equal(t, drawn, count["drawn"])
	assert.Equal(t, 1, count["saved"])
	assert.Positive(t, count["other"], "a flag that nothing draws has combinations of its own")
	assert.Equal(t, 2*before.Combined, b.Combined, "a flag doubles them")
	assert.Equal(t, b.Combined, bench.Combined)

	saved := looked(t, b, "by night")
	assert.Equal(t, contract.Look{Direction: "rtl", Text: 200}, saved.Look)
	assert.Equal(t, bench.Cases[2].Props, saved.Props)
	plain := looked(t, b, bench.Cases[2].Name)
	assert.Greater(t, saved.Height, 0.0)
	assert.Equal(t, contract.Look{}, plain.Look)

	// It is on the strip, and in the ledger of two sides.
	bench, err = s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	last := bench.Cases[len(bench.Cases)-1]
	assert.True(t, last.Saved)
	assert.False(t, last.Drawn)
	l, err := s.Ledger(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	of := l.Cases[len(l.Cases)-1]
	assert.Equal(t, last.Key, of.Key)
	require.NotEmpty(t, of.Facts)
	for _, f := range of.Facts {
		assert.Nil(t, f.Design, "the design says nothing of a case that is not drawn: %s of %s", f.Name, f.Part)
	}
	// A name is one case's.
	_, err = s.SaveCase(t.Context(), "crop-tag", bench.Cases[0].Key, "by night", contract.Look{})
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.SaveCase(t.Context(), "crop-tag", bench.Cases[0].Key, " ", contract.Look{})
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	_, err = s.SaveCase(t.Context(), "crop-tag", last.Key, "by night", contract.Look{Text: 150})
	require.NoError(t, err, "a saved case is saved again as it is looked at now")
	b, err = s.Board(t.Context(), "crop-tag", contract.Look{})
	require.NoError(t, err)
	assert.Equal(t, contract.Look{Direction: "rtl", Text: 150}, looked(t, b, "by night").Look)
}

// What is pinned holds for every case, and troubles are told of what is looked at.
func TestWhatIsPinnedHoldsForEveryCase(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Begin(t.Context(), "ShedNote", "blank")
	require.NoError(t, err)
	amended(t, s, "shed-note",
		sheet.Edit{Do: "set", On: "parts/root", Cell: "element", Text: "button"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "background-color #ffffff"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "padding-block 1rem"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "label span"},
		sheet.Edit{Do: "set", On: "parts/label", Cell: "shows", Text: "Gemüsebeetbewässerungsgemeinschaft"},
		sheet.Edit{Do: "add", On: "parts/label", Cell: "value", Text: "color #000000"},
		sheet.Edit{Do: "add", On: "states", Text: "hover label: color #aaaaaa"},
		sheet.Edit{Do: "add", On: "states", Text: "loading label: color #bbbbbb"},
		sheet.Edit{Do: "add", On: "cases", Cell: "case", Text: "narrow"},
		sheet.Edit{Do: "set", On: "cases/0", Cell: "look", Text: "40px, right to left"},
	)
	board := func(l contract.Look) service.Board {
		t.Helper()
		b, err := s.Board(t.Context(), "shed-note", l)
		require.NoError(t, err)
		return b
	}
	plain := board(contract.Look{})
	assert.Empty(t, looked(t, plain, "plain").Troubles)
	narrow := looked(t, plain, "narrow")
	assert.Equal(t, contract.Look{Direction: "rtl", Width: 40}, narrow.Look, "a saved case brings its own")
	assert.NotEmpty(t, narrow.Troubles, "a word is longer than 40 px")
	assert.Equal(t, 40.0, narrow.Container)
	hover := looked(t, plain, "hover")
	assert.Equal(t, []string{"hover"}, hover.States)
	require.Len(t, hover.Troubles, 1)
	assert.Contains(t, hover.Troubles[0], "label: contrast 2.3", "#aaa on #fff; WCAG 2.2, 1.4.3")

	// The state is pinned: each case is in it, by the flag where data sets it.
	for i, k := range board(contract.Look{State: "hover"}).Cases {
		assert.Contains(t, k.States, "hover", k.Name)
		assert.Equal(t, plain.Cases[i].Key, k.Key, "what is pinned makes no other case of it")
	}
	for _, k := range board(contract.Look{State: "loading"}).Cases {
		assert.Equal(t, true, boolOf(k.Props["loading"]), k.Name)
	}
	// Text of twice the size makes what is in rem twice as tall.
	large := looked(t, board(contract.Look{Text: 200}), "plain")
	assert.Greater(t, large.Height, looked(t, plain, "plain").Height+30)
	assert.Empty(t, large.Troubles)
	amended(t, s, "shed-note", sheet.Edit{Do: "add", On: "parts/label", Cell: "value", Text: "font-size 14px"})
	assert.Equal(t, []string{"label: text does not grow, 14px"}, looked(t, board(contract.Look{Text: 200}), "plain").Troubles, "who reads with larger text gets none")
	assert.Empty(t, looked(t, board(contract.Look{}), "plain").Troubles)
	assert.Equal(t, "ltr", looked(t, board(contract.Look{Direction: "ltr"}), "narrow").Look.Direction, "what is pinned wins over what a case says")
	for _, k := range board(contract.Look{Width: 900, Direction: "rtl"}).Cases {
		assert.Equal(t, 900.0, k.Container, "%s: what is pinned wins over what a case says", k.Name)
		assert.Equal(t, "rtl", k.Look.Direction)
	}
	for _, l := range []contract.Look{{State: "asleep"}, {Direction: "up"}, {Text: 20}, {Width: 1e9}, {Theme: "noon"}} {
		_, err := s.Board(t.Context(), "shed-note", l)
		assert.NotEmpty(t, failure(t, err).Message, "%+v", l)
	}
}

func boolOf(v any) bool { b, ok := v.(contract.FlagValue); return ok && bool(b) }

// The newest release runs as it was: its contract, what it was made of and the tokens of then.
func TestTheReleaseRunsAsItWas(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	for _, name := range []string{"ShedTag", "ShedCard"} {
		_, err := s.Begin(t.Context(), name, "blank")
		require.NoError(t, err)
	}
	amended(t, s, "shed-tag",
		sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "size choice s m"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "padding-inline 3px"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "when size = s: padding-inline 2px"})
	amended(t, s, "shed-card",
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "tag ShedTag"},
		sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "tone choice calm loud"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "when tone = loud: gap 1px"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "padding-inline {space.1}"})
	b, err := s.Board(t.Context(), "shed-card", contract.Look{})
	require.NoError(t, err)
	assert.Empty(t, b.Release)
	assert.Nil(t, b.Cases[0].Released)

	bench, err := s.Bench(t.Context(), "shed-card", "")
	require.NoError(t, err)
	require.NoError(t, story.Release(t.Context(), s, "shed-card", bench.Revision, "Sheds", "", "known"))
	amended(t, s, "shed-tag", set("parts/root/padding-inline", "value", "30px"))
	state, err := s.Tokens(t.Context())
	require.NoError(t, err)
	_, err = s.EditTokens(t.Context(), state.Revision, []service.TokenEdit{{Kind: "set", Path: "space.1", Text: "77px"}})
	require.NoError(t, err)
	amended(t, s, "shed-card",
		sheet.Edit{Do: "set", On: "props/tone", Cell: "kind", Text: "choice calm loud still"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "when tone = still: gap 2px"})

	b, err = s.Board(t.Context(), "shed-card", contract.Look{})
	require.NoError(t, err)
	assert.Equal(t, "1.0.0", b.Release)
	assert.NotNil(t, looked(t, b, "loud").Released)
	assert.Nil(t, looked(t, b, "still").Released, "the release has no such option")
	was, err := s.BuildRelease(t.Context(), "shed-card", "1.0.0")
	require.NoError(t, err)
	assert.Equal(t, "release~1.0.0", was.Build)
	assert.Contains(t, was.Bundle.CSS, "padding-inline: 3px", "what it is made of is as it was then")
	assert.NotContains(t, was.Bundle.CSS, "30px")
	assert.NotContains(t, was.Bundle.CSS, "77px", "its tokens are those of then")
	now, err := s.Build(t.Context(), "shed-card")
	require.NoError(t, err)
	assert.Contains(t, now.Bundle.CSS, "30px")
	assert.Contains(t, now.Bundle.CSS, "77px")
	_, err = s.BuildRelease(t.Context(), "shed-card", "9.0.0")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}
