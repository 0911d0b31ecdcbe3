package survey_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/survey"
)

// whole tells what holds of every reading, whatever was drawn.
func whole(t *testing.T, doc *design.Document) {
	t.Helper()
	there := map[string]bool{}
	doc.EachLayer(func(l *design.Layer) { there[l.ID] = true })
	for _, options := range []survey.Options{{}, {Marked: marked(doc)}} {
		wholeReading(t, survey.Read(doc, options), there)
	}
}

// marked says of some neighbours that they are one thing.
func marked(doc *design.Document) (out [][]string) {
	for _, p := range doc.Pages {
		for i := 0; i+1 < len(p.Layers) && i < 40; i += 5 {
			out = append(out, []string{p.Layers[i].ID, p.Layers[i+1].ID})
		}
	}
	return out
}

func wholeReading(t *testing.T, got survey.Reading, there map[string]bool) {
	t.Helper()
	ids := map[string]bool{}
	for _, f := range got.Finds {
		require.False(t, ids[f.ID], "two finds are called %s", f.ID)
		ids[f.ID] = true
		require.NotEmpty(t, f.Members)
		require.True(t, f.Likeness >= 0 && f.Likeness <= 1, "likeness %g", f.Likeness)
		seen := map[string]bool{}
		for _, m := range f.Members {
			for _, l := range m.Layers {
				require.True(t, there[l], "%s: there is no layer %s", f.ID, l)
				require.False(t, seen[l], "%s: the layer %s is in two copies", f.ID, l)
				seen[l] = true
			}
		}
		for _, p := range f.Props {
			for id := range p.Values {
				require.True(t, seen[id], "%s: %s has a value for %s, which is no copy", f.ID, p.Name, id)
			}
		}
	}
	for _, d := range got.Doubts {
		for _, l := range d.Layers {
			require.True(t, there[l], "%s: there is no layer %s", d.ID, l)
		}
	}
}

// Drawings that nobody makes are read like any other, and do not keep the reader busy for long.
func TestDrawingsThatNobodyMakes(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 2))
	n := 0
	leaf := func(x, y, w, h float64) *design.Layer {
		n++
		id := fmt.Sprint("leaf-", n)
		switch r.IntN(4) {
		case 1:
			return text(id, "L", fmt.Sprint(r.IntN(9)), x, y, float64(8+r.IntN(20)))
		case 2:
			return path(id, "L", x, y, w, fmt.Sprint("M", r.IntN(9)))
		}
		return box(id, "L", x, y, w, h)
	}
	const many = 4000
	for name, draw := range map[string]func() []*design.Layer{
		"a heap": func() (out []*design.Layer) {
			for range many {
				out = append(out, leaf(r.Float64()*2000, r.Float64()*2000, 5+r.Float64()*90, 5+r.Float64()*40))
			}
			return out
		},
		"all in one place": func() (out []*design.Layer) {
			for range many {
				out = append(out, leaf(10, 10, 50, 20))
			}
			return out
		},
		"one in the other": func() (out []*design.Layer) {
			for i := range many {
				side := 4000 - float64(i)
				out = append(out, box(fmt.Sprint("in-", i), "L", float64(i)/2, float64(i)/2, side, side))
			}
			return out
		},
		"deep, and nearly alike": func() (out []*design.Layer) {
			for i := range 40 {
				g := box(fmt.Sprint("deep-", i), "L", float64(i%10)*240, float64(i/10)*400, 220, 380)
				at := g
				for j := range 40 {
					c := box(fmt.Sprint("deep-", i, "-", j), "L", 1, 1, 218-float64(j)*2, 378-float64(j)*2)
					at.Children = append(at.Children, c, leaf(3, 3, 20, 10))
					at = c
				}
				out = append(out, g)
			}
			return out
		},
		"large, each its own": func() (out []*design.Layer) {
			for i := range 16 {
				g := box(fmt.Sprint("own-", i), "L", float64(i%4)*500, float64(i/4)*500, 480, 480)
				for range 240 {
					g.Children = append(g.Children, leaf(r.Float64()*400, r.Float64()*400, 20, 12))
				}
				out = append(out, g)
			}
			return out
		},
		"of no size": func() (out []*design.Layer) {
			for i := range 40 {
				out = append(out, box(fmt.Sprint("none-", i), "", 10, 10, 0, 0), group(fmt.Sprint("empty-", i), "", 0, 0, 0, 0))
			}
			return out
		},
		"nothing": func() []*design.Layer { return nil },
	} {
		t.Run(name, func(t *testing.T) { whole(t, one(draw()...)) })
	}
	for seed := range uint64(40) {
		whole(t, makeDocument(seed, 5, noise{rename: true, reorder: true, optional: true, jitter: true, recolor: true, ungroup: seed%2 == 0}).doc)
	}
	assert.NotPanics(t, func() { survey.Read(&design.Document{}, survey.Options{}) })
}
