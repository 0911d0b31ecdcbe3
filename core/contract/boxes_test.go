package contract_test

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/demo/demotest"
)

// The solver puts every part of every case where the design drew it: a
// difference would be a finding about the design, the contract, or us.
func TestBoxesAreAsDrawn(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	fonts := font.Shipped()
	o := layout.Options{Width: 1280, Fonts: fonts}
	compared := 0
	families, _ := demotest.Families(t, doc, tokens)
	for _, f := range families {
		for _, k := range draft.Cases(f.Contract, f.Family) {
			r := contract.Resolve(f.Contract, k.Env(), tokens)
			o.Width = k.Variant.Root.Bounds.Width
			if r.Values["width"].Value != "100%" {
				o.Width = 1280
			}
			solved, found := layout.Solve(r.Boxes(), o)
			require.Empty(t, found, "%s, %s", f.Name, k.Name)
			parts := map[string]*contract.Resolved{}
			r.Walk(func(r *contract.Resolved) { parts[r.Key()] = r })
			places := map[*design.Layer][2]float64{}
			k.Variant.Root.Walk(func(l *design.Layer, x, y float64) { places[l] = [2]float64{x, y} })
			var walk func(n *layout.Node)
			walk = func(n *layout.Node) {
				if n.Box == nil || parts[n.Name] == nil { // not there, or inside of a use
					return
				}
				compared++
				l, _ := draft.ItemLayer(k.Variant.Root, f.Contract, parts[n.Name])
				at := places[l]
				assert.InDeltaSlice(t, []float64{at[0], at[1], l.Bounds.Width, l.Bounds.Height}, []float64{n.Box.X, n.Box.Y, n.Box.Width, n.Box.Height}, 0.5,
					"%s, %s: %s", f.Name, k.Name, n.Name)
				for _, child := range n.Children {
					walk(child)
				}
			}
			walk(solved)
		}
	}
	assert.Greater(t, compared, 50)
}

// The largest component of the demo, through all widths.
func BenchmarkSweepOfAComponent(b *testing.B) {
	doc, tokens := demotest.Furrow(b, 3)
	var largest *layout.Node
	most := 0
	for _, f := range doc.Families {
		c, _ := draft.OfFamily(doc, f, tokens, nil)
		parts := 0
		c.Walk(func(*contract.Part, *contract.Part) { parts++ })
		if parts > most {
			most, largest = parts, contract.Resolve(c, contract.Env{}, tokens).Boxes()
		}
	}
	fonts := font.Shipped()
	o := layout.SweepOptions{Options: layout.Options{Fonts: fonts}}
	b.ReportAllocs()
	for b.Loop() {
		if s, found := layout.Sweep(largest, o); s == nil {
			b.Fatal(found)
		}
	}
	b.ReportMetric(float64(most), "parts")
}
