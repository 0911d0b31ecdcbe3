package draft_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Families of everything at once, under names as they come: they are drafted, or it is said why
// not; what is drafted is what was drawn, in every case: no move, no fact that differs, every part
// where it was drawn.
func TestRandomFamiliesAreDraftedAsDrawn(t *testing.T) {
	drafted, refused, facts := 0, map[string]int{}, 0
	kinds := map[contract.Kind]int{}
	uses, widths, untold := 0, 0, 0
	seeds := []uint64{122} // a use whose list, read by itself, would be another than its family's
	for seed := range uint64(60) {
		seeds = append(seeds, seed)
	}
	for _, seed := range seeds {
		p := drafttest.NewPainter(seed)
		doc := &design.Document{ID: "d", Name: "D"}
		known := map[string]*contract.Contract{}
		components := func(family string) *contract.Contract { return known[family] }
		for n := range 3 {
			f := p.Family(n)
			doc.Families = append(doc.Families, f)
			c, source, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), components)
			if c == nil {
				for _, problem := range found {
					if problem.Severity == "error" {
						refused[problem.Rule]++
					}
				}
				continue
			}
			drafted++
			known[f.ID] = c
			p.Used = append(p.Used, f)
			at := fmt.Sprintf("seed %d, family %d", seed, n)
			require.Empty(t, c.Check(token.Empty()), at)
			again, problems := contract.Read("c", c.JSON(), token.Empty())
			require.NotNil(t, again, "%s: %s", at, problems)
			for _, prop := range c.Props {
				kinds[prop.Kind()]++
			}
			uses, widths = uses+len(c.UsedParts()), widths+len(c.Widths)
			if slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Rule == "instance-override" }) {
				untold++ // said to be drawn as no prop of the used component can have it
				continue
			}
			l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, source)
			require.Empty(t, l.Moves(), "%s: it has moved before anything did", at)
			for _, k := range draft.Cases(c, source) {
				for _, fact := range l.Facts(k, nil) {
					facts++
					require.Equal(t, ledger.Agree, fact.Verdict, "%s, %s: %s %s: drawn %v, agreed %v", at, k.Name, fact.Part, fact.Property, fact.Design, fact.Contract)
				}
				assertPlaces(t, at+", "+k.Name, c, k)
			}
		}
	}
	t.Logf("%d drafted, %d facts, %d uses; %d with what no prop tells; refused: %v; props: %v", drafted, facts, uses, untold, refused, kinds)
	assert.Empty(t, refused)
	assert.Greater(t, drafted, 120)
	assert.Greater(t, uses, 40)
	assert.Greater(t, widths, 40)
	for _, kind := range []contract.Kind{contract.TextKind, contract.RichKind, contract.FlagKind, contract.ChoiceKind, contract.ImageKind, contract.LinkKind, contract.SlotKind, contract.ListKind, contract.IconKind} {
		assert.Greater(t, kinds[kind], 5, "hardly any %s", kind)
	}
}

// assertPlaces holds a case's solved boxes to where its layers were drawn.
func assertPlaces(t *testing.T, at string, c *contract.Contract, k draft.Case) {
	t.Helper()
	tree := contract.Resolve(c, k.Env(), token.Empty())
	width := 4000.0
	if len(c.Widths) > 0 {
		width = k.Width
	}
	solved, found := layout.Solve(tree.Boxes(), layout.Options{Width: width, Fonts: font.Shipped()})
	require.NotNil(t, solved, found)
	parts := map[string]*contract.Resolved{}
	tree.Walk(func(r *contract.Resolved) { parts[r.Key()] = r })
	places := map[*design.Layer][2]float64{}
	k.Variant.Root.Walk(func(l *design.Layer, x, y float64) { places[l] = [2]float64{x, y} })
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		if n.Box == nil || parts[n.Name] == nil {
			return
		}
		l, _ := draft.ItemLayer(k.Variant.Root, c, parts[n.Name])
		require.NotNil(t, l, "%s: %s", at, n.Name)
		x, y := places[l][0], places[l][1]
		off := max(math.Abs(n.Box.X-x), math.Abs(n.Box.Y-y), math.Abs(n.Box.Width-l.Bounds.Width), math.Abs(n.Box.Height-l.Bounds.Height))
		require.LessOrEqual(t, off, 0.5, "%s: %s is at %v, drawn at %g %g %g %g", at, n.Name, *n.Box, x, y, l.Bounds.Width, l.Bounds.Height)
		for _, child := range n.Children {
			walk(child)
		}
	}
	walk(solved)
}
