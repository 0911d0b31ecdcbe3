package service_test

import (
	"encoding/json"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/drift"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/token"
	"cobrik/demo"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store/storetest"
)

// drawnAgain is a project whose designer changes a family, once its component is drafted.
func drawnAgain(t *testing.T, family string, change func(f *design.Family)) (s *service.Service, publish func()) {
	t.Helper()
	doc, err := design.Decode(demo.Revisions()[0])
	require.NoError(t, err)
	change(doc.Family(family))
	doc.Note, doc.Author = "Drawn again", "Ines"
	again, err := json.Marshal(doc)
	require.NoError(t, err)
	host, err := standin.NewHost(map[string][][]byte{demo.Document: {demo.Revisions()[0], again}}, "")
	require.NoError(t, err)
	server := httptest.NewServer(host.Handler())
	t.Cleanup(server.Close)
	s = service.New(storetest.Open(t), service.Hosts{Design: server.URL}, font.Shipped())
	var tokens []token.File
	for _, name := range demo.TokenFiles {
		tokens = append(tokens, token.File{Name: name, Text: demo.Tokens(name)})
	}
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{demo.Document + ".design.json": demo.Revisions()[0]}, standin.ETag, tokens))
	_, err = s.Draft(t.Context(), demo.Document, family)
	require.NoError(t, err)
	return s, func() {
		require.NoError(t, s.PublishNext(t.Context(), demo.Document))
		_, err := s.Fetch(t.Context())
		require.NoError(t, err)
	}
}

// Design and contract changed different sides of one padding: the value that has both is offered, becomes the contract's, and waits for the design alone.
func TestWhatBothMovedIsMerged(t *testing.T) {
	s, publish := drawnAgain(t, "crop-tag", func(f *design.Family) {
		for _, v := range f.Variants {
			if v.Choices["Size"] == "m" {
				sides := v.Root.Flow.Sides()
				sides[1] = 3
				v.Root.Flow.Padding = sides[:]
				delete(v.Root.Tokens, "padding-inline")
			}
		}
	})
	before := contractOf(t, s)
	publish()
	c, moves := syncOf(t, s, "crop-tag")
	assert.Equal(t, "Ines", c.By)
	require.NotNil(t, c.At)
	m := moves["padding-inline"]
	require.Equal(t, ledger.DesignSide, m.Side)
	require.Equal(t, "8px 3px", m.To.Value)
	assert.Nil(t, m.Base)
	edited, err := s.Edit(t.Context(), "crop-tag", 1, []service.ValueEdit{{Part: before.Root.ID, Property: "padding-inline", When: m.Condition().Key(), Value: "{space.3} 8px"}})
	require.NoError(t, err)
	c, moves = syncOf(t, s, "crop-tag")
	m = moves["padding-inline"]
	require.Equal(t, ledger.SeveralSides, m.Side)
	require.NotNil(t, m.Base)
	assert.Equal(t, "8px", m.Base.Value)
	assert.Equal(t, "{space.3} 3px", m.Merged)

	history, err := s.MoveHistory(t.Context(), "crop-tag", drift.Design, m.Key)
	require.NoError(t, err)
	require.Len(t, history.Design, 2)
	assert.Equal(t, []string{"8px 3px", "Ines", "Drawn again", "revision 2"}, []string{history.Design[1].Said, history.Design[1].By, history.Design[1].Note, history.Design[1].Rev})
	require.Len(t, history.Contract, 2)
	assert.Equal(t, "{space.3} 8px", history.Contract[1].Said)
	assert.Contains(t, history.Contract[1].Note, "padding-inline")

	done, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: edited.Revision, Design: c.Design, Merge: []string{m.Key}})
	require.NoError(t, err)
	assert.Equal(t, "{space.3} 3px", contractOf(t, s).Declared(before.Root.ID, "padding-inline", m.Condition()))
	assert.Zero(t, done.Waiting)
	all, err := s.Decisions(t.Context(), "merged with the design")
	require.NoError(t, err)
	assert.Len(t, all, 1)
}

// tried puts a page of an outline on trial.
func tried(t *testing.T, s *service.Service, outline string) {
	t.Helper()
	_, err := s.AddTrial(t.Context(), "Trying")
	require.NoError(t, err)
	page, err := s.Trial(t.Context(), "trying")
	require.NoError(t, err)
	_, err = s.EditTrial(t.Context(), "trying", page.Revision, outline, "")
	require.NoError(t, err)
}

func TestWhatWouldBreakIsSaidFirst(t *testing.T) {
	s, publish := drawnAgain(t, "crop-tag", func(f *design.Family) {
		for i := range f.Axes {
			if f.Axes[i].Name == "Tone" {
				var kept []string
				for _, v := range f.Axes[i].Values {
					if !strings.EqualFold(v, "ripe") {
						kept = append(kept, v)
					}
				}
				f.Axes[i].Values = kept
			}
		}
		var kept []*design.Variant
		for _, v := range f.Variants {
			if !strings.EqualFold(v.Choices["Tone"], "ripe") {
				kept = append(kept, v)
			}
		}
		f.Variants = kept
	})
	tried(t, s, "stack\n  CropTag tone=ripe label=\"Ripe\"\n  CropTag tone=sown\n")
	publish()
	c, _ := syncOf(t, s, "crop-tag")
	require.NotEmpty(t, c.Breaks, "%+v", c.Moves)
	kept, err := s.Decide(t.Context(), "crop-tag", service.Decision{Revision: c.Revision, Design: c.Design, Keep: []string{c.Moves[0].Key}, Reason: "Not yet."})
	require.NoError(t, err)
	again, _ := syncOf(t, s, "crop-tag")
	assert.Empty(t, again.Breaks, "what is kept breaks nothing: %+v", kept)
	assert.Equal(t, service.Break{Kind: "users", What: "tone no longer takes ripe; it takes sown, growing.", Uses: []string{"Trying (1)"}}, c.Breaks[0])
}

// Contrast that is lost in a theme, and another default, are said before anything is taken.
func TestLostContrastAndOtherDefaultsAreSaid(t *testing.T) {
	_, c, _ := movedOn(t)
	var contrast []string
	for _, b := range c.Breaks {
		if b.Kind == "contrast" {
			contrast = append(contrast, b.What)
		}
	}
	require.NotEmpty(t, contrast, "the demo's second revision loses contrast in dusk")
	assert.Contains(t, strings.Join(contrast, "\n"), "dusk")

	s, publish := drawnAgain(t, "crop-tag", func(f *design.Family) {
		for i := range f.Axes {
			if f.Axes[i].Name == "Tone" {
				f.Axes[i].Default = "sown"
			}
		}
	})
	tried(t, s, "stack\n  CropTag label=\"Ripe\"\n  CropTag tone=growing\n  CropTag\n")
	publish()
	c, _ = syncOf(t, s, "crop-tag")
	require.Len(t, c.Breaks, 1, "%+v", c.Moves)
	assert.Contains(t, c.Breaks[0].What, "tone is sown where a use does not say it")
	assert.Equal(t, []string{"Trying (2)"}, c.Breaks[0].Uses, "those that say it stay as they are")
}

// Code and contract changed different sides of one padding: the contract gets what both have, and the next branch writes it.
func TestWhatCodeAndContractMovedIsMerged(t *testing.T) {
	s, _, work := levelled(t)
	before := contractOf(t, s)
	develop(t, work, "src/components/CropTag/CropTag.module.css", "padding-inline: var(--space-2)", "padding-inline: var(--space-2) 3px")
	_, err := s.ReadTarget(t.Context())
	require.NoError(t, err)
	_, m := moved(t, s, "padding-inline")
	assert.Empty(t, m.Merged, "the code alone moved")
	when, err := contract.ParseWhen(m.About.When)
	require.NoError(t, err)
	edited, err := s.Edit(t.Context(), "crop-tag", revisionOf(t, s), []service.ValueEdit{{Part: before.Root.ID, Property: "padding-inline", When: m.About.When, Value: "{space.3} {space.2}"}})
	require.NoError(t, err)
	_, m = moved(t, s, "padding-inline")
	require.Equal(t, "{space.3} 3px", m.Merged)
	history, err := s.MoveHistory(t.Context(), "crop-tag", drift.Code, m.Key)
	require.NoError(t, err)
	require.Len(t, history.Code, 1, "commits since it was written")
	assert.Contains(t, history.Code[0].Note, "By hand")
	_, err = s.DecideCode(t.Context(), "crop-tag", service.CodeDecision{Revision: edited.Revision, Merge: []string{m.Key}})
	require.NoError(t, err)
	assert.Equal(t, "{space.3} 3px", contractOf(t, s).Declared(before.Root.ID, "padding-inline", when))
	plan, err := s.PlanWrite(t.Context(), service.WriteRequest{})
	require.NoError(t, err)
	require.Empty(t, plan.Blocked, "%+v", plan)
	_, err = s.Write(t.Context(), service.WriteRequest{Hash: plan.Hash, Forward: true})
	require.NoError(t, err)
	git(t, work, "pull", "-q", "--ff-only", "origin", "main")
	assert.Contains(t, git(t, work, "show", "HEAD"), "padding-inline: var(--space-3) 3px")
	assert.Nil(t, codeOf(t, s, "crop-tag"), "level again")
}

func revisionOf(t *testing.T, s *service.Service) int {
	t.Helper()
	bench, err := s.Bench(t.Context(), "crop-tag", "")
	require.NoError(t, err)
	return bench.Revision
}

// A revision that says the same is no step of a value's history.
func TestHistoriesTellWhatChanged(t *testing.T) {
	s, _, _ := movedOn(t)
	require.NoError(t, s.PublishNext(t.Context(), "furrow"))
	_, err := s.Fetch(t.Context())
	require.NoError(t, err)
	c, moves := syncOf(t, s, "crop-tag")
	require.Equal(t, 3, c.Design)
	history, err := s.MoveHistory(t.Context(), "crop-tag", drift.Design, moves["padding-inline"].Key)
	require.NoError(t, err)
	var revisions []string
	for _, h := range history.Design {
		revisions = append(revisions, h.Rev)
	}
	assert.Equal(t, []string{"revision 1", "revision 2"}, revisions)
	_, err = s.MoveHistory(t.Context(), "crop-tag", drift.Design, "gone")
	assert.Contains(t, failure(t, err).Message, "no such move")
}
