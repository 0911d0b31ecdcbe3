package service_test

import (
	"encoding/json"
	"net/http/httptest"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// syncOf gives what waits of a component, by property.
func syncOf(t *testing.T, s *service.Service, slug string) (service.SyncComponent, map[string]ledger.Move) {
	t.Helper()
	all, err := s.Sync(t.Context())
	require.NoError(t, err)
	moves := map[string]ledger.Move{}
	for _, c := range all {
		if c.Slug == slug {
			for _, m := range c.Moves {
				moves[m.Property] = m
			}
			return c, moves
		}
	}
	return service.SyncComponent{}, moves
}

// An edit on the bench waits as the contract's own move, whatever the design does: it is
// put back, asked of the designer, or agreed as an exception, and never undone unseen.
func TestAContractThatMovedWaits(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	_, moves := syncOf(t, s, "crop-tag")
	assert.Empty(t, moves)
	edited, err := s.Edit(t.Context(), "crop-tag", 1, []service.ValueEdit{{Part: "root", Property: "gap", Value: "7px"}})
	require.NoError(t, err)
	c, moves := syncOf(t, s, "crop-tag")
	require.Len(t, moves, 1)
	assert.Equal(t, ledger.ContractSide, moves["gap"].Side)
	assert.Equal(t, 2, c.Waiting, "in the sizes s and m")
	view, err := s.Ledger(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	seen := map[ledger.Verdict]bool{}
	for _, k := range view.Cases {
		seen[k.Verdict] = true
	}
	assert.True(t, seen[ledger.ContractMoved], "an edit of the contract is told as the design's")
	assert.False(t, seen[ledger.DesignMoved], "an edit of the contract is told as the design's")

	// The design moves, too: all of its moves are taken, and the edit stays.
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	c, _ = syncOf(t, s, "crop-tag")
	d := service.Decision{Revision: edited.Revision, Design: c.Design}
	for _, m := range c.Moves {
		if m.Side == ledger.DesignSide {
			d.Take = append(d.Take, m.Key)
		}
	}
	assert.Len(t, d.Take, len(c.Moves)-2)
	done, err := s.Decide(t.Context(), "crop-tag", d)
	require.NoError(t, err)
	assert.Equal(t, 2, done.Waiting)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, 1, bench.Agreed, "a revision counts as agreed while a move of it is not decided")
	c, moves = syncOf(t, s, "crop-tag")
	require.Len(t, c.Moves, 2)
	both := []string{c.Moves[0].Key, c.Moves[1].Key}
	assert.Equal(t, []string{"7px", "4px"}, []string{moves["gap"].From.Value, moves["gap"].To.Value})

	// As an exception it wants a reason.
	keep := service.Decision{Revision: done.Contract, Design: c.Design, Keep: both}
	_, err = s.Decide(t.Context(), "crop-tag", keep)
	assert.Contains(t, failure(t, err).Message, "Say why")
	ask := service.Decision{Revision: done.Contract, Design: c.Design, Ask: both}
	asked, err := s.Decide(t.Context(), "crop-tag", ask)
	require.NoError(t, err)
	c, moves = syncOf(t, s, "crop-tag")
	assert.True(t, moves["gap"].Asked)
	assert.Zero(t, c.Waiting)
	keep.Revision, keep.Reason = asked.Contract, "Thumbs need room."
	kept, err := s.Decide(t.Context(), "crop-tag", keep)
	require.NoError(t, err)
	c, moves = syncOf(t, s, "crop-tag")
	assert.True(t, moves["gap"].Kept)
	assert.Equal(t, c.Design, c.Agreed)
	view, err = s.Ledger(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Zero(t, view.Differs)

	// Undone to before the exception, it waits again as the contract's.
	_, err = s.Undo(t.Context(), "crop-tag", kept.Contract, store.Backward)
	require.NoError(t, err)
	_, moves = syncOf(t, s, "crop-tag")
	assert.NotEqual(t, ledger.DesignSide, moves["gap"].Side)
}

// Part of what the design moved is taken: the rest is not agreed, and the revision neither.
func TestARevisionIsAgreedWhenNothingWaits(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	c, moves := syncOf(t, s, "crop-tag")
	done, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: c.Revision, Design: c.Design, Take: []string{moves["padding-inline"].Key}})
	require.NoError(t, err)
	assert.Positive(t, done.Waiting)
	c, _ = syncOf(t, s, "crop-tag")
	assert.Equal(t, 1, c.Agreed)
	d := service.Decision{Revision: c.Revision, Design: c.Design}
	for _, m := range c.Moves {
		assert.Equal(t, ledger.DesignSide, m.Side, "%s: what was taken is held against the rest", m.Property)
		d.Take = append(d.Take, m.Key)
	}
	done, err = s.Decide(t.Context(), "crop-tag", d)
	require.NoError(t, err)
	assert.Zero(t, done.Waiting)
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, 2, bench.Agreed)
}

// The line counts families without a component, however many layers became one.
func TestTheLineCountsFamiliesWithoutAComponent(t *testing.T) {
	s := seeded(t, demoHost(t))
	count := func() int {
		p, err := s.Project(t.Context())
		require.NoError(t, err)
		return p.Survey
	}
	before := count()
	assert.Equal(t, 14, before)
	_, err := s.DraftLayers(t.Context(), "furrow", []string{"plots-bar-1"}, "ShedBar")
	require.NoError(t, err)
	assert.Equal(t, 14, count(), "a layer that became a component hides a family that did not")
	_, err = s.Draft(t.Context(), "furrow", "tool-row")
	require.NoError(t, err)
	assert.Equal(t, 13, count())
	drafted, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	assert.Equal(t, []string{"CropTag"}, drafted.Inside, "what it uses is drafted with it")
	assert.Equal(t, 11, count())
}

// A component that others use tells so; an edit says whom it reaches, and reaches them.
func TestAnEditReachesTheComponentsThatUseIt(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	card, err := s.Bench(t.Context(), "plot-card", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"CropTag"}, card.Uses)
	assert.Contains(t, card.Held, "tag › strong")
	tag, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"PlotCard"}, tag.UsedBy)

	edited, err := s.Edit(t.Context(), "crop-tag", tag.Revision, []service.ValueEdit{{Part: "root", Property: "gap", Value: "6px"}})
	require.NoError(t, err)
	assert.Equal(t, []string{"PlotCard"}, edited.Reaches)
	again, err := s.Bench(t.Context(), "plot-card", "")
	require.NoError(t, err)
	assert.NotEqual(t, card.Build, again.Build, "the card is still shown with the tag as it was")
	files, err := s.Files(t.Context(), "plot-card")
	require.NoError(t, err)
	sheet := ""
	for _, f := range files {
		if f.Path == "CropTag/CropTag.module.css" {
			sheet = f.Content
		}
	}
	assert.Contains(t, sheet, "gap: 6px;")

	_, err = s.Draft(t.Context(), "furrow", "plot-card")
	var failure *service.Failure
	require.ErrorAs(t, err, &failure)
	assert.Equal(t, service.Conflict, failure.Kind, "a second card took the first one's place")
}

// The tag's tones change in the design: a card that passes them on follows, one that gives a tone
// that goes would break, and the change is refused with the place.
func TestAChangeThatBreaksAUserIsRefused(t *testing.T) {
	server := httptest.NewServer(demoHost(t))
	t.Cleanup(server.Close)
	db := storetest.Open(t)
	s := service.New(db, service.Hosts{Design: server.URL}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	_, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	for range 2 {
		require.NoError(t, s.PublishNext(t.Context(), "furrow"))
		_, err = s.Fetch(t.Context())
		require.NoError(t, err)
	}
	row, err := db.Component(t.Context(), "plot-card")
	require.NoError(t, err)
	c, found := contract.Read("card", row.Contract, nil)
	require.NotNil(t, c, found)
	use := c.Part("tag").Use()
	passed := use.Given["tone"].Prop
	use.Given["tone"] = contract.Given{Value: json.RawMessage(`"sown"`)}
	c.Props = slices.DeleteFunc(c.Props, func(p contract.Prop) bool { return p.ID == passed })
	_, err = db.Apply(t.Context(), store.Edit{Slug: "plot-card", Read: row.Revision, Name: c.Name, Contract: c.JSON(), Note: "a tone of its own"})
	require.NoError(t, err)

	tag, _ := syncOf(t, s, "crop-tag")
	d := service.Decision{Revision: 1, Design: tag.Design}
	for _, m := range tag.Moves {
		d.Take = append(d.Take, m.Key)
	}
	_, err = s.Decide(t.Context(), "crop-tag", d)
	refused := failure(t, err)
	assert.Equal(t, service.Invalid, refused.Kind)
	assert.Contains(t, refused.Message, "PlotCard uses it")
	assert.Contains(t, refused.Error(), "sown")
	_, err = s.Undo(t.Context(), "plot-card", 2, store.Backward)
	require.NoError(t, err)
	_, err = s.Decide(t.Context(), "crop-tag", d)
	require.NoError(t, err)
	card, err := s.Bench(t.Context(), "plot-card", "")
	require.NoError(t, err)
	for _, p := range card.Props {
		if p.Name == "tone" {
			assert.Equal(t, []string{"planted", "growing", "ripe", "resting"}, p.Options, "what is passed on does not follow")
			return
		}
	}
	t.Fatal("the card has no tone")
}

// A move names the cases it changes as the bench does: what is drawn beside it is one of them.
func TestMovesNameTheirCases(t *testing.T) {
	s := withTag(t)
	ctx := t.Context()
	require.NoError(t, s.PublishNext(ctx, "furrow"))
	_, err := s.Fetch(ctx)
	require.NoError(t, err)
	bench, err := s.Bench(ctx, "crop-tag", "")
	require.NoError(t, err)
	known := map[string]service.CaseView{}
	for _, c := range bench.Cases {
		known[c.Key] = c
	}
	list, err := s.Sync(ctx)
	require.NoError(t, err)
	named := 0
	for _, m := range list[0].Moves {
		assert.Len(t, m.In, map[bool]int{true: m.Cases}[m.Kind == "value"], "%s", m.Key)
		for _, key := range m.In {
			require.Contains(t, known, key, "%s changes a case that the bench does not have", m.Key)
			named++
		}
		if m.Property == "padding-inline" {
			for _, key := range m.In {
				assert.Contains(t, key, "size=m")
			}
		}
	}
	assert.Positive(t, named)
}
