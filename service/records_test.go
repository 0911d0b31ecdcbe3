package service_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/drift"
	"cobrik/core/ledger"
	"cobrik/service"
)

// movedOn is a project whose design moved, and the component it moved.
func movedOn(t *testing.T) (*service.Service, service.SyncComponent, map[string]ledger.Move) {
	t.Helper()
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err = s.Fetch(t.Context())
	require.NoError(t, err)
	c, moves := syncOf(t, s, "crop-tag")
	return s, c, moves
}

// What was decided is remembered with its reason, is found by its words, and is taken back whole, the last first.
func TestADecisionIsRememberedAndTakenBack(t *testing.T) {
	s, c, moves := movedOn(t)
	before := contractOf(t, s)
	keep := service.Decision{Revision: c.Revision, Design: c.Design, Keep: []string{moves["padding-inline"].Key}, Reason: "Narrow beds."}
	kept, err := s.Decide(t.Context(), "crop-tag", keep)
	require.NoError(t, err)
	taken, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: kept.Contract, Design: c.Design, Take: []string{moves["tone"].Key}})
	require.NoError(t, err)

	all, err := s.Decisions(t.Context(), "")
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Equal(t, drift.Take, all[0].Decided[0].Way, "the last first")
	assert.Equal(t, "tone, option added: resting", all[0].Decided[0].Said)
	assert.Equal(t, "design revision 2", all[1].At)
	found, err := s.Decisions(t.Context(), "narrow kept")
	require.NoError(t, err)
	require.Len(t, found, 1)
	assert.Equal(t, all[1].ID, found[0].ID)
	log, err := s.Changelog(t.Context(), drift.Designers)
	require.NoError(t, err)
	assert.Contains(t, string(log.Text), "Why: Narrow beds.")

	_, err = s.TakeBack(t.Context(), all[1].ID)
	assert.Contains(t, failure(t, err).Message, "Undo that first")
	back, err := s.TakeBack(t.Context(), all[0].ID)
	require.NoError(t, err)
	assert.Equal(t, taken.Contract+1, back.Revision)
	c, moves = syncOf(t, s, "crop-tag")
	assert.Contains(t, moves, "tone", "it waits again")
	assert.True(t, moves["padding-inline"].Kept, "what was decided before stands")
	_, err = s.TakeBack(t.Context(), all[0].ID)
	assert.Contains(t, failure(t, err).Message, "already")
	_, err = s.TakeBack(t.Context(), all[1].ID)
	require.NoError(t, err)
	c, moves = syncOf(t, s, "crop-tag")
	assert.False(t, moves["padding-inline"].Kept)
	assert.Equal(t, len(c.Moves), c.Waiting)
	assert.JSONEq(t, string(before.JSON()), string(contractOf(t, s).JSON()))
	_, err = s.TakeBack(t.Context(), 9999)
	assert.Contains(t, failure(t, err).Message, "no such decision")
}

// An edit, or a release, that came after a decision is not thrown away with it.
func TestWhatCameAfterADecisionKeepsIt(t *testing.T) {
	s, c, moves := movedOn(t)
	taken, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: c.Revision, Design: c.Design, Take: []string{moves["padding-inline"].Key}})
	require.NoError(t, err)
	edited, err := s.Edit(t.Context(), "crop-tag", taken.Contract, []service.ValueEdit{{Part: "root", Property: "gap", Value: "{space.3}"}})
	require.NoError(t, err)
	all, err := s.Decisions(t.Context(), "")
	require.NoError(t, err)
	_, err = s.TakeBack(t.Context(), all[0].ID)
	assert.Contains(t, failure(t, err).Message, "Undo that first")
	assert.Contains(t, string(contractOf(t, s).JSON()), "{space.3}")

	_, err = s.Release(t.Context(), "crop-tag", edited.Revision, "Tags", "First.")
	require.NoError(t, err)
	released, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: edited.Revision, Design: c.Design, Take: []string{moves["fill"].Key}, Release: true})
	require.NoError(t, err)
	require.True(t, released.Released)
	all, err = s.Decisions(t.Context(), released.Version)
	require.NoError(t, err)
	require.Len(t, all, 1)
	_, err = s.TakeBack(t.Context(), all[0].ID)
	assert.Contains(t, failure(t, err).Message, "a release is not taken back")
}

// One cause reaches components in both lanes: it is decided at once, each component as a whole, and told under one number.
func TestACauseIsDecidedAtOnce(t *testing.T) {
	ctx := context.Background()
	s, _, work := levelled(t)
	view, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, view.Causes, "level to begin with")
	develop(t, work, "src/components/CropTag/CropTag.module.css", "var(--space-2)", "var(--space-3)")
	_, err = s.ReadTarget(ctx)
	require.NoError(t, err)
	view, err = s.Drift(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, view.Causes)
	cause := view.Causes[0]
	assert.Equal(t, drift.Code, cause.Lane)
	assert.Equal(t, "{space.3}", cause.To)

	request := service.PressRequest{Hash: view.Hash, Read: view.Read}
	for _, m := range cause.Moves {
		request.Choices = append(request.Choices, service.WayChosen{Component: m.Component, Lane: m.Lane, Key: m.Key, Way: drift.Take})
	}
	plan, err := s.PlanPress(ctx, request)
	require.NoError(t, err)
	require.Len(t, plan, 1)
	require.Empty(t, plan[0].Problem)
	assert.NotEmpty(t, plan[0].Outcome.Changes)
	assert.NotEmpty(t, plan[0].Outcome.Pages, "the design's pages show it")
	again, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Equal(t, view, again, "a plan decides nothing")

	done, err := s.Press(ctx, request)
	require.NoError(t, err)
	require.Empty(t, done[0].Problem)
	assert.Nil(t, codeOf(t, s, "crop-tag"), "the code is level again")
	stale, err := s.Press(ctx, request)
	require.NoError(t, err)
	assert.NotEmpty(t, stale[0].Problem, "what was read before is not decided again")
	all, err := s.Decisions(ctx, "")
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "commit "+view.Hash[:7], all[0].At)
	_, err = s.TakeBack(ctx, all[0].ID)
	require.NoError(t, err)
	require.NotNil(t, codeOf(t, s, "crop-tag"), "undone, it waits again")
}

// A decision that leaves the contract alone is taken back, too: what stood before it stands again.
func TestWhatWasDecidedOfCodeIsTakenBack(t *testing.T) {
	ctx := context.Background()
	s, _, work := levelled(t)
	develop(t, work, "src/components/CropTag/CropTag.module.css", "var(--space-2)", "var(--space-3)")
	_, err := s.ReadTarget(ctx)
	require.NoError(t, err)
	c := codeOf(t, s, "crop-tag")
	keys := keysOf(c.Moves)
	decide := func(d service.CodeDecision) int64 {
		d.Revision = c.Revision
		_, err := s.DecideCode(ctx, "crop-tag", d)
		require.NoError(t, err)
		all, err := s.Decisions(ctx, "")
		require.NoError(t, err)
		return all[0].ID
	}
	left := decide(service.CodeDecision{Leave: keys, Reason: "For now."})
	back := decide(service.CodeDecision{Back: keys})
	assert.Equal(t, "back", codeOf(t, s, "crop-tag").Moves[0].Outcome)
	_, err = s.TakeBack(ctx, left)
	assert.Contains(t, failure(t, err).Message, "Undo that first")
	_, err = s.TakeBack(ctx, back)
	require.NoError(t, err)
	m := codeOf(t, s, "crop-tag").Moves[0]
	assert.Equal(t, [2]string{"left", "For now."}, [2]string{m.Outcome, m.Reason})
	_, err = s.TakeBack(ctx, left)
	require.NoError(t, err)
	assert.Empty(t, codeOf(t, s, "crop-tag").Moves[0].Outcome)
}

// Who wins is said once; what that decides is shown first, and nothing is decided before somebody carries it out.
func TestWhoWinsIsSaidOnce(t *testing.T) {
	s, c, moves := movedOn(t)
	space := drift.Precedence{Facet: "space", Wins: "design"}
	reach, err := s.PrecedenceReach(t.Context(), space)
	require.NoError(t, err)
	require.NotEmpty(t, reach)
	for _, r := range reach {
		assert.Equal(t, drift.Take, r.Way)
		assert.EqualValues(t, "space", r.Facet)
	}
	require.NoError(t, s.SetPrecedence(t.Context(), space))
	require.NoError(t, s.SetPrecedence(t.Context(), drift.Precedence{Facet: "props", Wins: "contract"}))
	view, err := s.Drift(t.Context())
	require.NoError(t, err)
	assert.Len(t, view.Precedences, 2)
	now, _ := syncOf(t, s, "crop-tag")
	assert.Equal(t, c.Revision, now.Revision, "nothing is decided yet")
	assert.Equal(t, drift.Take, now.Due[moves["padding-inline"].Key])
	assert.Equal(t, drift.Keep, now.Due[moves["tone"].Key])
	assert.NotContains(t, now.Due, moves["color"].Key)
	request := service.PressRequest{Hash: view.Hash, Read: view.Read, Ruled: true}
	for _, d := range view.Due {
		request.Choices = append(request.Choices, service.WayChosen{Component: d.Component, Lane: d.Lane, Key: d.Key, Way: d.Way})
	}
	done, err := s.Press(t.Context(), request)
	require.NoError(t, err)
	require.Empty(t, done[0].Problem)
	all, err := s.Decisions(t.Context(), "")
	require.NoError(t, err)
	for _, d := range all[0].Decided {
		assert.True(t, d.Foregone, "it is told that nobody decided it by itself")
	}
	require.NoError(t, s.SetPrecedence(t.Context(), drift.Precedence{Facet: "space"}))
	view, err = s.Drift(t.Context())
	require.NoError(t, err)
	assert.Len(t, view.Precedences, 1)
}

// Moves of both lanes of one component are decided by one press: the second builds on what the first made of the contract.
func TestBothLanesAreDecidedAtOnce(t *testing.T) {
	ctx := context.Background()
	s, _, work := levelled(t)
	develop(t, work, "src/components/CropTag/CropTag.tsx", `label = "Growing"`, `label = "Sprouting"`)
	_, err := s.ReadTarget(ctx)
	require.NoError(t, err)
	require.NoError(t, s.PublishNext(ctx, "furrow"))
	_, err = s.Fetch(ctx)
	require.NoError(t, err)
	view, err := s.Drift(ctx)
	require.NoError(t, err)
	request := service.PressRequest{Hash: view.Hash, Read: view.Read}
	for _, c := range view.Causes {
		for _, m := range c.Moves {
			if m.Property == "padding-inline" || m.Property == "default" {
				request.Choices = append(request.Choices, service.WayChosen{Component: m.Component, Lane: m.Lane, Key: m.Key, Way: drift.Take})
			}
		}
	}
	require.Len(t, request.Choices, 2)
	done, err := s.Press(ctx, request)
	require.NoError(t, err)
	require.Len(t, done, 2)
	assert.Equal(t, []string{"", ""}, []string{done[0].Problem, done[1].Problem})
	all, err := s.Decisions(ctx, "")
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Equal(t, all[0].Press, all[1].Press, "one press")
	assert.Equal(t, drift.Code, all[0].Lane, "the code's side after the design's")
	text := string(contractOf(t, s).JSON())
	assert.Contains(t, text, "Sprouting")
}
