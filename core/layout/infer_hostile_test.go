package layout

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// What is drawn to keep a reader busy ends soon: no level of it is looked at as often as it has layers.
func TestHostileDrawingsEnd(t *testing.T) {
	box := func(i int, x, y, w, h float64) *design.Layer {
		return &design.Layer{ID: fmt.Sprint(i), Name: fmt.Sprint(i), Kind: design.Box, Fill: "#123456", Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}}
	}
	r := rand.New(rand.NewPCG(5, 6))
	for what, make := range map[string]func(i, n int) *design.Layer{
		"lines over things": func(i, n int) *design.Layer {
			return box(i, 0, float64(i), 1000, []float64{1, 3 * float64(n)}[min(1, i%2*i/(n-1))])
		},
		"lines between things": func(i, _ int) *design.Layer { return box(i, 0, float64(i)*20, 1000, []float64{1, 12}[i%2]) },
		"pieces between marks": func(i, _ int) *design.Layer {
			return box(i, []float64{0, 7, 40}[i%3], float64(i/3)*40+[]float64{0, 18, 2}[i%3], []float64{16, 2, 90}[i%3], []float64{16, 18, 12}[i%3])
		},
		"lines through all":      func(i, n int) *design.Layer { return box(i, float64(i), 0, 1, float64(n)) },
		"two rows of many cells": func(i, n int) *design.Layer { return box(i, float64(i/2)*30, float64(i%2)*40, 20+float64(i%3), 20) },
		"many columns, shifted": func(i, n int) *design.Layer {
			return box(i, float64(i%200)*30+float64(i/200%7), float64(i/200)*30, 12, 12)
		},
		"all in one corner": func(i, n int) *design.Layer { return box(i, 0, 0, float64(n-i), float64(n-i)) },
		"steps":             func(i, _ int) *design.Layer { return box(i, float64(i)*3, float64(i)*3, 20, 20) },
		"dust": func(i, n int) *design.Layer {
			return box(i, r.Float64()*1000, r.Float64()*float64(n), 1+40*r.Float64(), 1+3*r.Float64())
		},
	} {
		const n = 20_000
		root := &design.Layer{ID: "root", Name: "Root", Kind: design.Group, Bounds: design.Rect{Width: 1000, Height: n}}
		for i := range n {
			root.Children = append(root.Children, make(i, n))
		}
		start := time.Now()
		in, found := Infer(root, InferOptions{})
		require.NotNil(t, in, found)
		t.Logf("%s: %v", what, time.Since(start))
		assert.Less(t, time.Since(start), 20*time.Second, what)
	}
}
