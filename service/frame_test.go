package service_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"encoding/json"

	"cobrik/core/design"
	"cobrik/demo"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/store"
)

// many seeds a project with so many components, each of a family of its own that is
// drawn as CropTag is, in 18 variants.
func many(t testing.TB, n int) *service.Service {
	t.Helper()
	s := seeded(t, demoHost(t))
	doc, found := design.Read("furrow", demo.Revisions()[0])
	require.Empty(t, found)
	tag := doc.FamilyNamed("CropTag")
	out := &design.Document{Format: design.Format, ID: "wall", Name: "Wall", Pages: []*design.Page{}}
	for i := range n {
		text, err := json.Marshal(tag)
		require.NoError(t, err)
		var f design.Family
		require.NoError(t, json.Unmarshal(text, &f))
		f.ID, f.Name = fmt.Sprintf("%s-%d", f.ID, i), fmt.Sprintf("Tag %d", i)
		for _, v := range f.Variants {
			v.ID = fmt.Sprintf("%s-%d", v.ID, i)
			v.Root.Walk(func(l *design.Layer, _, _ float64) { l.ID = fmt.Sprintf("%s-%d", l.ID, i) })
		}
		out.Families = append(out.Families, &f)
	}
	text, err := json.Marshal(out)
	require.NoError(t, err)
	_, err = s.Drop(t.Context(), "wall.design.json", text)
	require.NoError(t, err)
	for i := range n {
		_, err := s.Draft(t.Context(), "wall", fmt.Sprintf("crop-tag-%d", i))
		require.NoError(t, err)
	}
	return s
}

// frame asks what every window asks: the project, the components, what waits.
func frame(t testing.TB, s *service.Service) (service.Project, []service.Entry, []service.SyncComponent) {
	p, err := s.Project(t.Context())
	require.NoError(t, err)
	entries, err := s.Entries(t.Context())
	require.NoError(t, err)
	waiting, err := s.Sync(t.Context())
	require.NoError(t, err)
	return p, entries, waiting
}

// What is remembered of a component is told only while all that it follows from is as it
// was: the contract, the tokens, the design, what was decided.
func TestStandingsFollowWhatTheyDependOn(t *testing.T) {
	s := many(t, 3)
	p, entries, waiting := frame(t, s)
	require.Len(t, entries, 3)
	assert.Equal(t, 18, entries[0].Cases)
	assert.Empty(t, waiting)
	assert.Zero(t, p.Sync)

	edited, err := s.Edit(t.Context(), "tag1", 1, []service.ValueEdit{{Part: "root", Property: "padding-inline", Value: "20px"}})
	require.NoError(t, err)
	p, _, waiting = frame(t, s)
	require.Len(t, waiting, 1, "the contract moved, and its old standing is told")
	assert.Equal(t, "tag1", waiting[0].Slug)
	assert.Positive(t, p.Sync)

	var ask []string
	for _, m := range waiting[0].Moves {
		ask = append(ask, m.Key)
	}
	_, err = s.Decide(t.Context(), "tag1", service.Decision{Revision: edited.Revision, Design: 1, Ask: ask})
	require.NoError(t, err)
	p, _, _ = frame(t, s)
	assert.Zero(t, p.Sync, "it was decided, and is asked again")

	one, err := s.Undo(t.Context(), "tag1", edited.Revision+1, store.Backward)
	require.NoError(t, err)
	_, err = s.Undo(t.Context(), "tag1", one.Revision, store.Backward)
	require.NoError(t, err)
	_, _, waiting = frame(t, s)
	assert.Empty(t, waiting)

	require.NoError(t, story.Release(t.Context(), s, "tag2", 1, "Small things", "", "known"))
	p, entries, _ = frame(t, s)
	assert.Equal(t, 1, p.Catalogue)
	assert.Equal(t, "1.0.0", entries[2].Version)

	before, err := s.Drawn(t.Context(), entries[0].Slug)
	require.NoError(t, err)
	text := demo.Revisions()[0]
	doc, found := design.Read("furrow", text)
	require.Empty(t, found)
	tag := doc.FamilyNamed("CropTag")
	tag.ID, tag.Name = "crop-tag-0", "Tag 0"
	for _, v := range tag.Variants {
		v.Root.Fill = "#000000"
	}
	next, err := json.Marshal(&design.Document{Format: design.Format, ID: "wall", Name: "Wall", Pages: []*design.Page{}, Families: []*design.Family{tag}})
	require.NoError(t, err)
	_, err = s.Drop(t.Context(), "wall.design.json", next)
	require.NoError(t, err)
	_, entries, waiting = frame(t, s)
	after, err := s.Drawn(t.Context(), entries[0].Slug)
	require.NoError(t, err)
	assert.NotEqual(t, before, after, "the design moved, and its old picture is shown")
	gone := 0
	for _, c := range waiting {
		if c.Gone {
			gone++
		}
	}
	assert.Equal(t, 2, gone)
}

// The three questions of the frame, asked again with nothing changed, at 300 components
// of 18 variants. Goal: under 30 ms.
func BenchmarkFrameAt300Components(b *testing.B) {
	s := many(b, 300)
	frame(b, s)
	b.ReportAllocs()
	for b.Loop() {
		frame(b, s)
	}
}
