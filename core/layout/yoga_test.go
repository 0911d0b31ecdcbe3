package layout

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/web/reference"
)

// plainFlex makes a tree of flex boxes with what yoga-layout and CSS both have.
// It has no automatic minimum size, so every box says 0 (CSS Flexbox 1, 4.5). It
// also reads CSS otherwise, and Chromium as we do, where a flex basis meets
// content, growth factors sum to less than 1, and where boxes shrink (by their
// outer size there, by their inner one in 9.7), or overflow (no safe fallback
// there).
func plainFlex(r *rand.Rand, depth, width int) *Node {
	n := &Node{Style: map[string]string{"display": "flex", "min-width": "0px", "min-height": "0px", "box-sizing": "border-box"}}
	pick := func(p float64, property string, values ...string) {
		if r.Float64() < p {
			n.Style[property] = values[r.IntN(len(values))]
		}
	}
	pick(0.5, "flex-direction", "row", "column", "row-reverse", "column-reverse")
	pick(0.3, "gap", "4px", "8px")
	pick(0.3, "padding", "4px", "12px")
	pick(0.3, "margin", "2px", "6px")
	pick(0.4, "justify-content", "flex-start", "flex-end", "center", "space-between")
	pick(0.3, "align-items", "stretch", "start", "end", "center")
	pick(0.2, "align-self", "stretch", "start", "end", "center")
	pick(0.5, "flex-grow", "1", "2")
	n.Style["flex-shrink"] = "0"
	if depth == 0 {
		n.Style["width"] = fmt.Sprintf("%dpx", 10+r.IntN(120))
		n.Style["height"] = fmt.Sprintf("%dpx", 10+r.IntN(60))
		return n
	}
	for range 1 + r.IntN(width) {
		n.Children = append(n.Children, plainFlex(r, depth-1, width))
	}
	return n
}

// Two independent readings of CSS Flexbox 1, 9 agree.
func TestFlexAgreesWithYoga(t *testing.T) {
	var trees []*Node
	for seed := range 300 {
		n := plainFlex(rand.New(rand.NewPCG(uint64(seed), 1)), 1+seed%3, 4)
		n.Style["width"] = "640px"
		delete(n.Style, "margin")
		trees = append(trees, n)
	}
	answers := reference.Ask[[][]measured](t, "yoga.mjs", map[string]any{"task": "solve", "trees": trees, "width": viewWidth})
	agreed := 0
	for i, n := range trees {
		d := compare(n, answers[i])
		if d.distance <= 0.5 {
			agreed++
		} else if agreed+5 > i {
			t.Logf("seed %d: %s", i, d.where)
		}
	}
	assert.Equal(t, len(trees), agreed)
}

func BenchmarkSolve(b *testing.B) {
	for _, size := range []struct{ depth, width int }{{2, 5}, {4, 6}, {5, 8}} {
		n := plainFlex(rand.New(rand.NewPCG(11, 2)), size.depth, size.width)
		n.Style["width"] = "800px"
		t, found := build(n, testOptions(), nil)
		if t == nil {
			b.Fatal(found)
		}
		count := float64(len(t.nodes))
		b.Run(fmt.Sprintf("flex of %d nodes", len(t.nodes)), func(b *testing.B) {
			b.ReportAllocs()
			s := &solver{view: [2]float64{viewWidth, viewHeight}}
			width := &t.root.preferred[0]
			for i := 0; b.Loop(); i++ {
				width.px = float64(800 + i%97)
				t.root.settle()
				s.run(t, testOptions())
			}
			ours := float64(b.Elapsed().Nanoseconds()) / float64(b.N)
			b.ReportMetric(ours/count, "ns/node")
			theirs := reference.Ask[[]float64](b, "yoga.mjs", map[string]any{"task": "time", "trees": []*Node{n}, "runs": max(20, int(2e5/count))})[0]
			b.ReportMetric(theirs/count, "yoga-ns/node")
			b.ReportMetric(theirs/ours, "times-as-fast")
		})
	}
}
