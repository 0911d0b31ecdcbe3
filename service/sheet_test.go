package service_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/service"
	"cobrik/store"
)

func tagOnTheBench(t *testing.T) *service.Service {
	t.Helper()
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	return s
}

func set(on, cell, text string) sheet.Edit {
	return sheet.Edit{Do: "set", On: on, Cell: cell, Text: text}
}

// Fifty edits of every sort, undone one by one, give the first contract back byte for byte; redone, the last.
func TestFiftyEditsAreUndone(t *testing.T) {
	s := tagOnTheBench(t)
	contractOf := func() string {
		t.Helper()
		v, err := s.Sheet(t.Context(), "crop-tag")
		require.NoError(t, err)
		text, err := s.ContractJSON(t.Context(), "crop-tag")
		require.NoError(t, err)
		assert.Positive(t, v.Revision)
		return string(text)
	}
	first, revision := contractOf(), 1
	edits := []sheet.Edit{set("props/size", "name", "scale"), {Do: "add", On: "props/size", Cell: "prop", Text: "more flag"}, {Do: "duplicate", On: "parts/label"}, {Do: "wrap", On: "parts/label"},
		set("parts/label", "when", "strong"), {Do: "add", On: "parts/root", Cell: "value", Text: "when state hover: opacity 0.5"}, {Do: "remove", On: "props/more"}, {Do: "move", On: "parts/icon", Text: "down"}, set("props/tone", "kind", "choice sown growing done"), {Do: "duplicate", On: "rules/0"}}
	var seen []string
	for i := range 50 {
		e := edits[i%len(edits)]
		if i >= len(edits) { // what is done again has another outcome
			e = []sheet.Edit{set("props/label", "default", fmt.Sprintf("%q", fmt.Sprint("Text ", i))), {Do: "duplicate", On: "parts/icon"}, {Do: "add", On: "parts/root", Cell: "value", Text: fmt.Sprintf("gap %dpx", i)}, {Do: "move", On: "rules/1", Text: "down"}}[i%4]
		}
		done, err := s.Amend(t.Context(), "crop-tag", revision, e)
		require.NoError(t, err, "%d: %+v", i, e)
		require.Greater(t, done.Revision, revision, "%d: %+v changes nothing", i, e)
		revision = done.Revision
		seen = append(seen, done.Note)
	}
	last := contractOf()
	for i := range 50 {
		bench, err := s.Bench(t.Context(), "crop-tag", "")
		require.NoError(t, err)
		assert.Equal(t, seen[49-i], bench.Undoes, "undo says what it takes back")
		done, err := s.Undo(t.Context(), "crop-tag", revision, store.Backward)
		require.NoError(t, err)
		revision = done.Revision
	}
	assert.True(t, first == contractOf(), "the first contract is not back")
	for range 50 {
		done, err := s.Undo(t.Context(), "crop-tag", revision, store.Forward)
		require.NoError(t, err)
		revision = done.Revision
	}
	assert.True(t, last == contractOf(), "the last contract is not back")
}

// An edit that was meant for an older revision is made where what it edits is as it was; where it is not, both are shown.
func TestEditsOfTwoPeople(t *testing.T) {
	s := tagOnTheBench(t)
	first, err := s.Amend(t.Context(), "crop-tag", 1, set("parts/root/gap", "value", "9px"))
	require.NoError(t, err)
	assert.False(t, first.Merged)
	second, err := s.Amend(t.Context(), "crop-tag", 1, set("props/size", "purpose", "How large it stands"))
	require.NoError(t, err)
	assert.True(t, second.Merged)
	v, err := s.Sheet(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "How large it stands", v.Props[0].Purpose)
	_, err = s.Amend(t.Context(), "crop-tag", 1, set("parts/root/gap", "value", "7px"))
	f := failure(t, err)
	assert.Equal(t, service.Conflict, f.Kind)
	require.NotNil(t, f.Current)
	assert.NotEmpty(t, f.Current.Changes, "what differs is not shown")
	_, err = s.Amend(t.Context(), "crop-tag", 99, set("parts/root/gap", "value", "7px"))
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	// What changes nothing makes no revision.
	same, err := s.Amend(t.Context(), "crop-tag", second.Revision, set("parts/root/gap", "value", "9px"))
	require.NoError(t, err)
	assert.Equal(t, second.Revision, same.Revision)
}

// What an edit would do is told before it is kept: what goes along, which cases look otherwise, who follows.
func TestTriedBeforeItIsKept(t *testing.T) {
	s := tagOnTheBench(t)
	tried, err := s.Try(t.Context(), "crop-tag", set("parts/root/gap", "value", "9px"), "")
	require.NoError(t, err)
	assert.Equal(t, 12, tried.Cases, "those of size l have a gap of their own")
	assert.Len(t, tried.Before, 4)
	built, err := s.BuildTyped(t.Context(), "crop-tag", tried.Typed)
	require.NoError(t, err)
	assert.Contains(t, built.Bundle.CSS, "gap: 9px")
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, 1, bench.Revision, "a trial was kept")
	_, err = s.Try(t.Context(), "crop-tag", set("parts/root/gap", "value", "wide"), "")
	assert.Contains(t, failure(t, err).Error(), "expected a length")
	tried, err = s.Try(t.Context(), "crop-tag", sheet.Edit{Do: "remove", On: "props/strong"}, "")
	require.NoError(t, err)
	assert.NotEmpty(t, tried.Taken)
	for _, typed := range []string{"!", "e30", "bnVsbA"} {
		_, err = s.BuildTyped(t.Context(), "crop-tag", typed)
		if typed != "bnVsbA" { // null is no edits
			assert.Equal(t, service.Invalid, failure(t, err).Kind, typed)
		}
	}
}

// A component that uses another keeps it from edits that would break the use.
func TestAnEditThatBreaksAUse(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Begin(t.Context(), "Shed Tag", "tag")
	require.NoError(t, err)
	_, err = s.Begin(t.Context(), "ShedCard", "blank")
	require.NoError(t, err)
	_, err = s.Amend(t.Context(), "shed-card", 1, sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "tag ShedTag label={label}"})
	require.NoError(t, err)
	v, err := s.Sheet(t.Context(), "shed-tag")
	require.NoError(t, err)
	assert.Equal(t, 1, v.Uses)
	_, err = s.Amend(t.Context(), "shed-tag", 1, sheet.Edit{Do: "remove", On: "props/label"})
	assert.Contains(t, failure(t, err).Error(), "ShedCard uses it")
	_, err = s.Begin(t.Context(), "shed tag", "tag")
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.Begin(t.Context(), " ", "tag")
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
	_, err = s.Begin(t.Context(), "Other", "nothing")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	_, err = s.Amend(t.Context(), "shed-tag", 1, sheet.Edit{Do: "add", On: "parts/root", Cell: "part", Text: "inner ShedCard"})
	assert.Error(t, err, "it would be made of itself")
}

// A finding that is set aside counts no more, with its reason; the line counts components with errors that stand.
func TestFindingsAreSetAside(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Begin(t.Context(), "Pale", "blank")
	require.NoError(t, err)
	revision := 1
	for _, said := range []string{"color #eeeeee", "background-color #ffffff", "font-size 14px"} {
		done, err := s.Amend(t.Context(), "pale", revision, sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: said})
		require.NoError(t, err)
		revision = done.Revision
	}
	_, err = s.Amend(t.Context(), "pale", revision, set("parts/root", "shows", "Hard to read"))
	require.NoError(t, err)
	checks, err := s.Checks(t.Context(), "pale")
	require.NoError(t, err)
	require.Equal(t, 1, checks.Errors)
	assert.Equal(t, "contrast", checks.Findings[0].Rule)
	p, err := s.Project(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 1, p.Troubled)
	checks, err = s.SetAside(t.Context(), "pale", " On a photograph ", checks.Findings[0].Key)
	require.NoError(t, err)
	assert.Zero(t, checks.Errors)
	assert.Equal(t, "On a photograph", checks.Findings[len(checks.Findings)-1].Aside)
	p, err = s.Project(t.Context())
	require.NoError(t, err)
	assert.Zero(t, p.Troubled)
	checks, err = s.SetAside(t.Context(), "pale", "", checks.Findings[len(checks.Findings)-1].Key)
	require.NoError(t, err)
	assert.Equal(t, 1, checks.Errors)
}

// A part becomes a component of its own, kept with the contract that uses it, both or neither.
func TestAPartOfItsOwn(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	v, err := s.Sheet(t.Context(), "plot-card")
	require.NoError(t, err)
	on := ""
	for _, p := range v.Parts {
		if p.Name == "foot" {
			on = p.On
		}
	}
	require.NotEmpty(t, on)
	e := sheet.Edit{Do: "own", On: on, Text: "Plot foot"}
	tried, err := s.Try(t.Context(), "plot-card", e, "")
	require.NoError(t, err)
	assert.Contains(t, tried.Note, "PlotFoot")
	_, err = s.Sheet(t.Context(), "plot-foot")
	assert.Equal(t, service.NotFound, failure(t, err).Kind, "a trial was kept")
	done, err := s.Amend(t.Context(), "plot-card", v.Revision, e)
	require.NoError(t, err)
	foot, err := s.Sheet(t.Context(), "plot-foot")
	require.NoError(t, err)
	assert.Equal(t, 1, foot.Uses)
	card, err := s.Sheet(t.Context(), "plot-card")
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(card.Nested), "PlotFoot")
	built, err := s.Build(t.Context(), "plot-card")
	require.NoError(t, err)
	assert.Empty(t, built.Problems)
	_, err = s.Amend(t.Context(), "plot-card", done.Revision, sheet.Edit{Do: "own", On: "parts/title", Text: "PlotFoot"})
	assert.Equal(t, service.Conflict, failure(t, err).Kind)
	_, err = s.Amend(t.Context(), "plot-card", done.Revision, sheet.Edit{Do: "own", On: "parts/root", Text: "Whole"})
	assert.Equal(t, service.Invalid, failure(t, err).Kind)
}

// A component without a drawing has a ledger of two sides: the design says nothing of it, and what the contract says
// is held against what was measured.
func TestALedgerOfTwoSides(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	_, err := s.Begin(t.Context(), "Shed button", "button")
	require.NoError(t, err)
	bench, err := s.Bench(t.Context(), "shed-button", "")
	require.NoError(t, err)
	assert.True(t, bench.Undrawn)
	assert.False(t, bench.Gone)
	assert.Greater(t, bench.Combined, len(bench.Cases), "all combinations are shown though they are many")
	v, err := s.Ledger(t.Context(), "shed-button", "")
	require.NoError(t, err)
	require.Len(t, v.Cases, len(bench.Cases))
	said := map[string]string{}
	for _, f := range v.Cases[0].Facts {
		assert.Nil(t, f.Design, "%s · %s", f.Part, f.Property)
		if f.Contract != nil {
			said[f.Part+" "+f.Property] = f.Contract.Value
		}
	}
	assert.Equal(t, "8px", said["root padding-block"])
	assert.Equal(t, "Press here", said["label text"])
	assert.Equal(t, "true", said["label shown"])
	// Another height was measured than the contract says.
	measured := ledger.Measurement{Case: bench.Cases[0].Key, Parts: []ledger.MeasuredPart{{Part: "root", Style: map[string]string{"padding-block": "9px"}, Box: design.Rect{Width: 100, Height: 42}}}}
	v, err = s.Measured(t.Context(), "shed-button", bench.Build, "", []ledger.Measurement{measured})
	require.NoError(t, err)
	for _, f := range v.Cases[0].Facts {
		if f.Part == "root" && f.Property == "padding-block" {
			assert.Equal(t, ledger.CodeMoved, f.Verdict)
		}
	}
	// It is in no list of what the design wants, and nothing of it waits.
	sync, err := s.Sync(t.Context())
	require.NoError(t, err)
	assert.Empty(t, sync)
	hits, err := s.Find(t.Context(), "shed button")
	require.NoError(t, err)
	assert.NotEmpty(t, hits)
}

// A case under stress: texts, lists, direction and a narrow place, with what breaks as the solver finds it.
func TestACaseUnderStress(t *testing.T) {
	s := seeded(t, http.NotFoundHandler())
	for _, family := range []string{"crop-tag", "plot-card"} {
		_, err := s.Draft(t.Context(), "furrow", family)
		if err != nil { // the tag was drafted with the card
			require.Equal(t, service.Conflict, failure(t, err).Kind)
		}
	}
	list, err := s.Stress(t.Context(), "plot-card", "")
	require.NoError(t, err)
	names := map[string]service.Looked{}
	for _, one := range list {
		names[one.Name] = one
	}
	require.Contains(t, names, "longest words")
	assert.NotEmpty(t, names["longest words"].Troubles, "a word longer than the card breaks nothing")
	assert.Empty(t, names["right to left"].Troubles)
	assert.Equal(t, "rtl", names["right to left"].Look.Direction)
	assert.Equal(t, 320.0, names["320 px wide"].Container)
	assert.Contains(t, names, "no picture")
	assert.NotContains(t, names["no picture"].Props, "picture")
	tag, err := s.Stress(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	for _, one := range tag {
		if one.Name == "longest words" {
			assert.Greater(t, one.Width, 200.0, "it is as wide as its content")
			assert.Empty(t, one.Troubles, "what is as wide as its content breaks nothing by itself")
		}
	}
	_, err = s.Draft(t.Context(), "furrow", "action-button")
	require.NoError(t, err)
	button, err := s.Stress(t.Context(), "action-button", "")
	require.NoError(t, err)
	for _, one := range button {
		if one.Name == "no text" {
			assert.Contains(t, fmt.Sprint(one.Troubles), "target under 24 by 24", "a button without words is too small to press")
		} else {
			assert.Empty(t, one.Troubles, one.Name)
		}
	}
	_, err = s.Stress(t.Context(), "plot-card", "nothing")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}
