package service_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store"
	"cobrik/store/storetest"
)

// renamed ends every name in it, and none of the ids.
const renamed = "Renamed"

// People read names, wherever a part is told of; ids are for the programs. All parts of a
// component renamed, everything it says is looked through for a part that is called otherwise.
func TestPeopleReadNamesNotIDs(t *testing.T) {
	db := storetest.Open(t)
	s := service.New(db, service.Hosts{}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[2]}, standin.ETag, demotest.TokenFiles()))
	_, err := s.DraftLayers(t.Context(), "furrow", []string{"plots-bar-1"}, "ShedBar")
	require.NoError(t, err)
	row, err := db.Component(t.Context(), "shed-bar")
	require.NoError(t, err)
	_, tokens := demotest.Furrow(t, 3)
	c, found := contract.Read("shed-bar", row.Contract, tokens)
	require.NotNil(t, c, found)
	c.Walk(func(p, _ *contract.Part) {
		// Longer than a line has room for, too.
		p.Name += "WithAnEverydayNameThatIsLong" + renamed
	})
	_, err = db.Apply(t.Context(), store.Edit{Slug: "shed-bar", Read: 1, Name: c.Name, Contract: c.JSON(), Note: "renamed"})
	require.NoError(t, err)

	w, err := s.Widths(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	require.NotEmpty(t, w.Bands)
	require.NotEmpty(t, w.Proposals)
	for _, b := range w.Bands {
		require.NotNil(t, c.Part(b.Node), "a band's part is not found: %+v", b)
		assert.NotContains(t, strings.Split(b.Part, " › "), b.Node, "an id is shown")
	}
	offer := w.Proposals[0]
	require.NotNil(t, c.Part(offer.Of))
	assert.Equal(t, c.Part(offer.Part).Name, offer.Name)
	require.NotEmpty(t, offer.Kinds)
	edited, err := s.Arrange(t.Context(), "shed-bar", service.Arrange{Revision: 2, Part: offer.Part, At: offer.At - 1, Below: offer.At,
		Arrangement: contract.Arrangement{Kind: offer.Kinds[0]}})
	require.NoError(t, err)
	bench, err := s.Bench(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	require.Equal(t, edited.Revision, bench.Revision)
	assert.Contains(t, bench.Note, renamed, "what the last edit was of")
	w, err = s.Widths(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	require.Len(t, w.Points, 1)
	for _, name := range w.Points[0].Parts {
		assert.True(t, strings.HasSuffix(name, renamed), "%s is an id", name)
	}

	v, err := s.ValuesOf(t.Context(), "shed-bar", c.Root.ID, "gap")
	require.NoError(t, err)
	assert.Equal(t, c.Root.Name, v.Name)

	list, err := s.Tokens(t.Context())
	require.NoError(t, err)
	uses := 0
	for _, row := range list.Rows {
		one, err := s.Token(t.Context(), row.Path)
		require.NoError(t, err)
		for _, u := range one.Contracts {
			uses++
			assert.True(t, strings.HasSuffix(u.Part, renamed), "%s uses %s, told by its id", u.Part, row.Path)
		}
	}
	assert.Positive(t, uses, "the bar uses no token")
	all, err := s.Ledger(t.Context(), "shed-bar", "")
	require.NoError(t, err)
	for _, k := range all.Cases {
		for _, f := range k.Facts {
			assert.True(t, f.Name == "" || strings.HasSuffix(f.Name, renamed), "%s · %s is told by its id", f.Name, f.Property)
		}
	}
}
