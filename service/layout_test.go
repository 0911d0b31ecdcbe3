package service_test

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/demo"
	"cobrik/service"
	"cobrik/store"
)

// topBar drafts the bar of the plots page, which was drawn without flow.
func topBar(t *testing.T) *service.Service {
	s := seeded(t, demoHost(t))
	surveys, err := s.Surveys(t.Context())
	require.NoError(t, err)
	loose := surveys[0].Pages[0].Loose
	require.NotEmpty(t, loose)
	require.Equal(t, "Top bar", loose[0].Name)
	read, err := s.Containers(t.Context(), "furrow", []string{loose[0].ID})
	require.NoError(t, err)
	assert.Less(t, read.Residual, 0.5, "the reading is not what was drawn")
	made, err := s.DraftLayers(t.Context(), "furrow", []string{loose[0].ID}, "ShedBar")
	require.NoError(t, err)
	require.Equal(t, "shed-bar", made.Slug)
	return s
}

func part(t *testing.T, v service.LayoutView, name string) service.PartLayout {
	for _, p := range v.Parts {
		if p.Name == name {
			return p
		}
	}
	require.Fail(t, "no part", name)
	return service.PartLayout{}
}

func TestADrawingWithoutFlowOnTheBench(t *testing.T) {
	s := topBar(t)
	bench, err := s.Bench(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	assert.Equal(t, "ShedBar", bench.Name)
	require.Len(t, bench.Cases, 1)
	assert.True(t, bench.Cases[0].Fills)
	v, err := s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	assert.Less(t, v.Residual, 0.5)
	root := part(t, v, "root")
	assert.Equal(t, contract.Arrangement{Kind: "row", Align: "center", Distribute: "space-between", Width: "fill", Height: "content"}, root.Arrangement)
	assert.NotEmpty(t, root.Others)

	// Strips account for the whole width: padding, bar, room, links, padding.
	sum := 0.0
	for _, strip := range v.Strips {
		if strip.Part == "root" && (strip.Side == "left" || strip.Side == "right" || strip.Side == "across") {
			sum += strip.Size
		}
	}
	for _, p := range v.Parts {
		if p.Depth == 1 {
			sum += p.Box.Width
		}
	}
	assert.InDelta(t, 1440, sum, 0.05)

	// Narrower, the design and the contract are laid out anew; there is nothing drawn to be beside.
	narrow, err := s.Layout(t.Context(), "shed-bar", "", 700)
	require.NoError(t, err)
	assert.Equal(t, 700.0, narrow.Size.Width)
	assert.Nil(t, part(t, narrow, "root").Residual)
	one, err := s.CaseAt(t.Context(), "shed-bar", "", "", 700)
	require.NoError(t, err)
	assert.Equal(t, 700.0, one.Container)
	assert.Equal(t, 700.0, one.Boxes["root"].Width)
	assert.InDelta(t, 700-24, one.Boxes["links"].X+one.Boxes["links"].Width, 0.5, "the links left the end")

	survey, err := s.Surveys(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "shed-bar", survey[0].Pages[0].Loose[0].Component)
	_, err = s.DraftLayers(t.Context(), "furrow", []string{survey[0].Pages[0].Loose[0].ID}, "Other")
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "one drawing became two components")
	_, err = s.DraftLayers(t.Context(), "furrow", []string{"nowhere"}, "")
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
}

func TestLayoutEdits(t *testing.T) {
	s := topBar(t)
	edited, err := s.Arrange(t.Context(), "shed-bar", service.Arrange{Revision: 1, Part: "root", At: 420, Below: 640, Arrangement: contract.Arrangement{Kind: "stack"}})
	require.NoError(t, err)
	bench, err := s.Bench(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	assert.Equal(t, []int{0}, bench.Cases[0].Paths["root"], "the root is looked for in the wrong place")
	narrow, err := s.Layout(t.Context(), "shed-bar", "", 639)
	require.NoError(t, err)
	assert.Equal(t, []float64{640}, narrow.Points)

	// The value of a gap below the point alone, as the editor gives it.
	said, err := s.ValuesOf(t.Context(), "shed-bar", "root", "gap")
	require.NoError(t, err)
	require.Equal(t, "container < 640px", said.Declared[len(said.Declared)-1].Label)
	edited, err = s.Edit(t.Context(), "shed-bar", edited.Revision, []service.ValueEdit{{Part: "root", Property: "gap", When: said.Declared[len(said.Declared)-1].When, Value: "12px"}})
	require.NoError(t, err)
	narrow, err = s.Layout(t.Context(), "shed-bar", "", 639)
	require.NoError(t, err)
	assert.Equal(t, service.LayoutValue{Property: "gap", Value: "12px", Expression: "12px", When: contract.BelowWidth(640).Key(), Label: "container < 640px"}, part(t, narrow, "root").Declared[0])
	for _, px := range []string{"-5", "1e9", "null", `"x"`} {
		_, err = s.Edit(t.Context(), "shed-bar", edited.Revision, []service.ValueEdit{{Part: "root", Property: "gap", When: `{"container":{"below":` + px + `}}`, Value: "1px"}})
		assert.Equal(t, service.Invalid, failure(t, err).Kind, px)
	}
	assert.Equal(t, "stack", part(t, narrow, "root").Kind)

	// Where a rule below a width says it, an edit at that width is made there.
	edited, err = s.Arrange(t.Context(), "shed-bar", service.Arrange{Revision: edited.Revision, Part: "root", At: 420, Arrangement: contract.Arrangement{Kind: "wrapping row"}})
	require.NoError(t, err)
	wide, err := s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	assert.Equal(t, "row", part(t, wide, "root").Kind, "the wide arrangement was edited, too")

	_, err = s.MoveSwitch(t.Context(), "shed-bar", edited.Revision-1, 640, 0)
	assert.Equal(t, service.Conflict, failure(t, err).Kind, "an edit of what was not read went through")
	edited, err = s.MoveSwitch(t.Context(), "shed-bar", edited.Revision, 640, 500)
	require.NoError(t, err)
	w, err := s.Widths(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	require.Len(t, w.Points, 1)
	assert.Equal(t, 500.0, w.Points[0].At)
	assert.Contains(t, w.Points[0].Parts, "root")
	_, err = s.MoveSwitch(t.Context(), "shed-bar", edited.Revision, 640, 0)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	edited, err = s.MoveSwitch(t.Context(), "shed-bar", edited.Revision, 500, 0)
	require.NoError(t, err)

	// What the sweep offers ends its trouble.
	w, err = s.Widths(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	require.NotEmpty(t, w.Proposals)
	offer := w.Proposals[0]
	require.NotEmpty(t, offer.Kinds)
	edited, err = s.Arrange(t.Context(), "shed-bar", service.Arrange{Revision: edited.Revision, Part: offer.Part, At: offer.At - 1, Below: offer.At,
		Arrangement: contract.Arrangement{Kind: offer.Kinds[0]}})
	require.NoError(t, err)
	after, err := s.Widths(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	for _, b := range after.Bands {
		assert.False(t, b.To == offer.At-1 && b.Node == offer.Part, "below the switch point: %+v", b)
	}
	edited, err = s.MoveSwitch(t.Context(), "shed-bar", edited.Revision, offer.At, 0)
	require.NoError(t, err)

	// Another reading, and back.
	v, err := s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	root := part(t, v, "root")
	before := len(v.Parts)
	edited, err = s.Reading(t.Context(), "shed-bar", edited.Revision, root.Key, "row without inner ones")
	require.NoError(t, err)
	v, err = s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	assert.Equal(t, before-1, len(v.Parts), "the row of the logo is still there")
	assert.Less(t, v.Residual, 0.5)
	_, err = s.Reading(t.Context(), "shed-bar", edited.Revision, root.Key, "grid")
	assert.Contains(t, failure(t, err).Message, "no reading")
	_, err = s.Undo(t.Context(), "shed-bar", edited.Revision, store.Backward)
	require.NoError(t, err)
	v, err = s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	assert.Len(t, v.Parts, before)
	_, err = s.Layout(t.Context(), "shed-bar", "no=case", 0)
	assert.Equal(t, service.NotFound, failure(t, err).Kind)
	for _, width := range []float64{1e9, -4, 0.5, math.NaN(), math.Inf(1)} {
		_, err = s.Layout(t.Context(), "shed-bar", "", width)
		assert.Equal(t, service.Invalid, failure(t, err).Kind, width)
		_, err = s.CaseAt(t.Context(), "shed-bar", "", "", width)
		assert.Equal(t, service.Invalid, failure(t, err).Kind, width)
	}
}

// A page that moves is a move of the component drawn on it, and can be taken; a
// page that loses the drawing says so.
func TestADrawingWithoutFlowMoves(t *testing.T) {
	s := topBar(t)
	doc, err := design.Decode(demo.Revisions()[0])
	require.NoError(t, err)
	bar := doc.Pages[0].Layers[0]
	require.Equal(t, "Top bar", bar.Name)
	for _, l := range bar.Children {
		if l.Bounds.X < 700 {
			l.Bounds.X += 8 // more room at the start
		} else {
			l.Bounds.X -= 8
		}
	}
	bar.Fill, bar.Tokens = "#123456", nil
	publish := func() {
		text, err := json.Marshal(doc)
		require.NoError(t, err)
		_, err = s.Drop(t.Context(), "furrow.design.json", text)
		require.NoError(t, err)
	}
	publish()
	moved, err := s.Sync(t.Context())
	require.NoError(t, err)
	require.Len(t, moved, 1)
	var said []string
	decision := service.Decision{Revision: moved[0].Revision, Design: moved[0].Design}
	for _, m := range moved[0].Moves {
		said = append(said, m.Part+" "+m.Property+" "+m.To.Value)
		decision.Take = append(decision.Take, m.Key)
	}
	assert.ElementsMatch(t, []string{"root padding-inline 32px", "root background-color #123456"}, said)
	_, err = s.Decide(t.Context(), "shed-bar", decision)
	require.NoError(t, err)
	v, err := s.Layout(t.Context(), "shed-bar", "", 0)
	require.NoError(t, err)
	assert.Less(t, v.Residual, 0.5)

	doc.Pages[0].Layers = doc.Pages[0].Layers[1:]
	publish()
	bench, err := s.Bench(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	assert.True(t, bench.Gone)
	_, err = s.Layout(t.Context(), "shed-bar", "", 0)
	assert.Contains(t, failure(t, err).Message, "no longer has the drawing")
}
