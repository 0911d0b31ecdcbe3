package survey

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// plain is the distance of two forests as it is defined (Zhang and Shasha 1989, section 3): by their last roots, each of which is taken out, put in, or
// put on the other. Every forest is looked at once.
func plain(a, b []*Node, known map[string]int) int {
	key := fmt.Sprintf("%s|%s", written(a), written(b))
	if d, ok := known[key]; ok {
		return d
	}
	d := 0
	switch {
	case len(a) == 0 && len(b) == 0:
	case len(b) == 0:
		for _, n := range a {
			d += n.count()
		}
	case len(a) == 0:
		for _, n := range b {
			d += n.count()
		}
	default:
		v, w := a[len(a)-1], b[len(b)-1]
		before, behind := a[:len(a)-1], b[:len(b)-1]
		change := 0
		if v.Is != w.Is {
			change = 1
		}
		join := func(f, children []*Node) []*Node { return append(append([]*Node{}, f...), children...) }
		d = min(plain(join(before, v.Children), b, known)+1, plain(a, join(behind, w.Children), known)+1,
			plain(v.Children, w.Children, known)+plain(before, behind, known)+change)
	}
	known[key] = d
	return d
}

func written(f []*Node) string {
	var b strings.Builder
	for _, n := range f {
		b.WriteString(n.ID + "(" + written(n.Children) + ")")
	}
	return b.String()
}

func randomNode(r *rand.Rand, left *int, prefix string) *Node {
	*left--
	n := &Node{Is: string(rune('a' + r.IntN(3))), ID: fmt.Sprintf("%s%d", prefix, *left)}
	for *left > 0 && r.IntN(3) > 0 {
		n.Children = append(n.Children, randomNode(r, left, prefix))
	}
	return n
}

func randomTree(r *rand.Rand, prefix string) *Node {
	left := 1 + r.IntN(8)
	return randomNode(r, &left, prefix)
}

// Two trees are as far apart as the definition says, whatever their shapes.
func TestDistanceIsTheTextbooks(t *testing.T) {
	for seed := range 4000 {
		r := rand.New(rand.NewPCG(uint64(seed), 7))
		a, b := randomTree(r, "x"), randomTree(r, "y")
		edits, ok := Distance(a, b)
		require.True(t, ok)
		want := plain([]*Node{a}, []*Node{b}, map[string]int{})
		require.Len(t, edits, want, "seed %d: %s and %s: %v", seed, written([]*Node{a}), written([]*Node{b}), edits)
	}
}

// A distance is one: nothing is nearer than itself, it is the same both ways, and no way round is shorter.
func TestDistanceIsADistance(t *testing.T) {
	far := func(a, b *Node) int {
		edits, ok := Distance(a, b)
		require.True(t, ok)
		return len(edits)
	}
	for seed := range 1000 {
		r := rand.New(rand.NewPCG(uint64(seed), 8))
		a, b, c := randomTree(r, "x"), randomTree(r, "y"), randomTree(r, "z")
		assert.Zero(t, far(a, a))
		require.Equal(t, far(a, b), far(b, a))
		require.LessOrEqual(t, far(a, c), far(a, b)+far(b, c))
		if far(a, b) == 0 {
			require.Equal(t, bare(a), bare(b), "seed %d: other trees are not 0 apart", seed)
		}
	}
}

func bare(n *Node) string {
	out := n.Is + "("
	for _, c := range n.Children {
		out += bare(c)
	}
	return out + ")"
}

// The edits are a way from the one to the other: every node of both is kept, or in one edit, and what is kept stands in the same order and
// under the same.
func TestEditsLeadFromOneToTheOther(t *testing.T) {
	for seed := range 2000 {
		r := rand.New(rand.NewPCG(uint64(seed), 9))
		a, b := randomTree(r, "x"), randomTree(r, "y")
		edits, _ := Distance(a, b)
		gone, come, turned := map[string]bool{}, map[string]bool{}, map[string]string{}
		for _, e := range edits {
			switch e.Op {
			case Delete:
				require.False(t, gone[e.From])
				gone[e.From] = true
			case Insert:
				require.False(t, come[e.To])
				come[e.To] = true
			case Change:
				turned[e.From] = e.To
			}
		}
		is := map[string]string{}
		var note func(n *Node)
		note = func(n *Node) {
			is[n.ID] = n.Is
			for _, c := range n.Children {
				note(c)
			}
		}
		note(a)
		note(b)
		for from, to := range turned {
			require.False(t, gone[from] || come[to])
			is[from] = is[to]
		}
		require.Equal(t, without(b, come, is), without(a, gone, is), "seed %d: %v", seed, edits)
	}
}

// without writes a tree with some nodes taken out, whose children take their places.
func without(n *Node, out map[string]bool, is map[string]string) string {
	inner := ""
	for _, c := range n.Children {
		inner += without(c, out, is)
	}
	if out[n.ID] {
		return inner
	}
	return is[n.ID] + "(" + inner + ")"
}

func TestLikeness(t *testing.T) {
	leaf := func(is string) *Node { return &Node{Is: is, ID: is} }
	card := &Node{Is: "box", ID: "card", Children: []*Node{leaf("picture"), leaf("text"), leaf("price")}}
	for _, c := range []struct {
		other *Node
		want  float64
	}{
		{card, 1},
		{&Node{Is: "box", ID: "c", Children: []*Node{leaf("picture"), leaf("text")}}, 1 - 1.0/7},
		{&Node{Is: "box", ID: "c", Children: []*Node{leaf("picture"), leaf("text"), leaf("icon")}}, 1 - 2.0/8},
		{nil, 0},
	} {
		edits, ok := Distance(card, c.other)
		require.True(t, ok)
		assert.InDelta(t, c.want, Likeness(card, c.other, edits), 1e-9)
	}
	assert.Equal(t, 1.0, Likeness(nil, nil, nil))
	wide := &Node{Is: "a", ID: "a"}
	for range MostNodes {
		wide.Children = append(wide.Children, leaf("b"))
	}
	_, ok := Distance(wide, card)
	assert.False(t, ok, "a tree of more nodes than are compared")
}

func BenchmarkDistance(b *testing.B) {
	for _, size := range []int{10, 100, 300} {
		r := rand.New(rand.NewPCG(1, 2))
		left, right := size, size
		x, y := randomNode(r, &left, "x"), randomNode(r, &right, "y")
		for left > 0 {
			x.Children = append(x.Children, randomNode(r, &left, "x"))
		}
		for right > 0 {
			y.Children = append(y.Children, randomNode(r, &right, "y"))
		}
		b.Run(fmt.Sprintf("%d nodes", size), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				Distance(x, y)
			}
		})
	}
}
