package layout

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// pairs are drawn at 1440 and 390 px.
func pairs() map[string]*Node {
	turning := line("name:Panels;width:100%;padding:12px;gap:12px;align-items:stretch;flex-direction:column", copies(3, func(i int) *Node {
		return with(col("name:"+[]string{"A", "B", "C"}[i]+";padding:16px;gap:8px", sized([]string{"a", "b", "c"}[i], 120, 24), sized([]string{"d", "e", "f"}[i], 150, 60)), "flex:1 1 auto;min-width:0")
	})...)
	turning.At = []Switch{{From: 768, Style: Style{"flex-direction": "row"}}}
	for _, c := range turning.Children {
		c.At = []Switch{{From: 768, Style: Style{"flex": "1 1 0"}}}
	}
	return map[string]*Node{
		"ends apart":       line("name:Bar;width:100%;padding:12px 24px;justify-content:space-between", sized("Logo", 40, 40), sized("Menu", 32, 32)),
		"a growing middle": line("name:Bar;width:100%;padding:12px;gap:8px", sized("Lens", 24, 24), with(col("name:Field;padding:8px", sized("hint", 90, 18)), "flex:1 1 0"), sized("Clear", 24, 24)),
		"a stretched card": col("name:Card;width:100%;padding:16px;gap:8px", sized("title", 120, 24), with(line("name:Note;padding:8px", sized("note", 100, 20)), "")),
		"nothing grows":    line("name:Bar;width:100%;padding:12px;gap:8px", sized("A", 40, 40), sized("B", 40, 40), sized("C", 40, 40)),
		"row to stack":     turning,
	}
}

// One tree for two widths, or the code is written twice.
func TestTwoDrawingsGiveOneTree(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for what, n := range pairs() {
		p, found := InferPair(drawAt(t, n, 1440, r, 0), drawAt(t, n, 390, r, 0))
		require.NotNil(t, p, "%s: %v", what, found)
		assert.Less(t, max(p.Wide, p.Small), 0.5, "%s: %s, %s", what, p.Root, p.Why)
		if what == "row to stack" {
			assert.Equal(t, 768.0, p.Switch, what)
		} else {
			assert.Zero(t, p.Switch, "%s: one arrangement explains both", what)
		}
		switch what {
		case "ends apart":
			assert.Equal(t, "space-between", p.Root.Distribute)
		case "a growing middle":
			assert.Equal(t, []string{Fixed, Fill, Fixed}, []string{p.Root.Children[0].Width, p.Root.Children[1].Width, p.Root.Children[2].Width})
		case "nothing grows":
			assert.Equal(t, "start", p.Root.Distribute)
		}
		// What was not drawn follows: a width between is as the tree was.
		for _, width := range []float64{500, 1000} {
			want, _ := Solve(n, Options{Width: width})
			tree := p.Tree()
			tree.Style["width"] = "100%"
			got, found := Solve(tree, Options{Width: width})
			require.NotNil(t, got, found.Error())
			for i, c := range want.Children {
				assert.InDelta(t, c.Box.X, got.Children[i].Box.X, 0.5, "%s at %g px", what, width)
				assert.InDelta(t, c.Box.Width, got.Children[i].Box.Width, 0.5, "%s at %g px", what, width)
			}
		}
	}
}

func TestDrawingsOfDifferentThings(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	all := pairs()
	p, found := InferPair(drawAt(t, all["ends apart"], 1440, r, 0), drawAt(t, all["nothing grows"], 390, r, 0))
	assert.Nil(t, p)
	assert.Contains(t, found.Error(), "same layers")
}

// Another reading can be chosen, and says why it was not taken.
func TestAnotherReading(t *testing.T) {
	root := &design.Layer{ID: "root", Kind: design.Group, Bounds: design.Rect{Width: 260, Height: 100}}
	for i, at := range [][2]float64{{0, 0}, {150, 0}, {0, 60}, {150, 60}} {
		root.Children = append(root.Children, &design.Layer{ID: string(rune('a' + i)), Name: string(rune('a' + i)), Kind: design.Image, Bounds: design.Rect{X: at[0], Y: at[1], Width: 110, Height: 40}})
	}
	in, _ := Infer(root, InferOptions{})
	require.Equal(t, "grid(a, b, c, d)", in.Root.String())
	require.NotEmpty(t, in.Root.Others)
	assert.NotEmpty(t, in.Root.Others[0].Why)
	for kind, want := range map[string]string{Stack: "stack(row(a, b), row(c, d))", Row: "split(stack(a, c), stack(b, d))"} {
		other, _ := Infer(root, InferOptions{Readings: map[string]string{in.Root.Key(): kind}})
		assert.Equal(t, want, other.Root.String())
		assert.Less(t, other.Residual, 0.5)
	}
}

func TestDrawingsThatCannotBeRead(t *testing.T) {
	for _, l := range []*design.Layer{
		{ID: "empty", Kind: design.Group},
		{ID: "hidden", Kind: design.Image, Hidden: true},
		{ID: "inverted", Kind: design.Image, Bounds: design.Rect{Width: -4, Height: 4}},
		{ID: "nowhere", Kind: design.Image, Bounds: design.Rect{X: nan, Width: 4, Height: 4}},
	} {
		in, found := Infer(l, InferOptions{})
		assert.Nil(t, in, l.ID)
		assert.True(t, found.Failed(), l.ID)
		assert.Contains(t, found.Error(), l.ID)
	}
	deep := &design.Layer{ID: "leaf", Kind: design.Image, Bounds: design.Rect{Width: 4, Height: 4}}
	for range 5000 {
		deep = &design.Layer{ID: "group", Kind: design.Group, Children: []*design.Layer{deep}}
	}
	_, found := Infer(deep, InferOptions{})
	assert.True(t, found.Failed())
}

// Every reading that is offered can be taken: it is another tree, it explains
// the drawing as well, and the first reading is offered back.
func TestEveryOfferedReadingCanBeTaken(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	taken := 0
	type sample struct {
		what  string
		root  *design.Layer
		exact bool
	}
	var samples []sample
	for _, d := range drawings() {
		samples = append(samples, sample{d.what, draw(t, d.tree, r, 0), true})
	}
	for _, d := range append(commonDrawings(), keptDrawings()...) {
		samples = append(samples, sample{d.what, draw(t, d.tree, r, 0), false})
	}
	for _, d := range slices.Concat(drawnInterfaces(), drawnScreens(), lastScreens()) {
		samples = append(samples, sample{d.what, parseDrawn(t, d.layers), false})
	}
	for _, d := range samples {
		root := d.root
		in, _ := Infer(root, InferOptions{})
		require.NotNil(t, in)
		in.Root.walk(func(p *Part) {
			for _, o := range p.Others {
				if !o.Open {
					continue
				}
				taken++
				other, _ := Infer(root, InferOptions{Readings: map[string]string{p.Key(): o.Kind}})
				require.NotNil(t, other, "%s: %s", d.what, o.Kind)
				if shape(in.Root) == shape(other.Root) {
					t.Errorf("%s: %s taken as %q is read as before: %s", d.what, p.Name, o.Kind, shape(other.Root))
					continue
				}
				if !d.exact { // columns that line up by their middles are no rows to the pixel
					other.Residual = 0
				}
				assert.LessOrEqual(t, other.Residual, in.Residual+tolerance, "%s: taken as %q, the drawing is not explained: %s", d.what, o.Kind, shape(other.Root))
				back := false
				other.Root.walk(func(q *Part) {
					if q.Key() != p.Key() {
						return
					}
					for _, b := range q.Others {
						if !b.Open {
							continue
						}
						again, _ := Infer(root, InferOptions{Readings: map[string]string{p.Key(): b.Kind}})
						back = back || shape(again.Root) == shape(in.Root)
					}
				})
				assert.True(t, back, "%s: from %q nothing leads back", d.what, o.Kind)
			}
		})
	}
	assert.Greater(t, taken, 20)
}

// shape is a tree's structure with what tells its readings apart.
func shape(p *Part) string {
	out := p.Kind + " " + p.Name + " " + p.Distribute + " " + p.Width
	for _, c := range p.Children {
		out += "(" + shape(c) + ")"
	}
	return out
}

// What a reading leaves out is said, not lost in silence.
func TestWhatIsNotReadIsSaid(t *testing.T) {
	half := 0.5
	image := func(id string, x float64) *design.Layer {
		return &design.Layer{ID: id, Name: id, Kind: design.Image, Bounds: design.Rect{X: x, Width: 40, Height: 40}}
	}
	hidden := image("ghost", 100)
	hidden.Hidden = true
	root := &design.Layer{ID: "root", Kind: design.Group, Bounds: design.Rect{Width: 140, Height: 40}, Children: []*design.Layer{
		{ID: "pale", Name: "pale", Kind: design.Group, Opacity: &half, Bounds: design.Rect{Width: 90, Height: 40}, Children: []*design.Layer{image("a", 0), image("b", 50)}},
		{ID: "plain", Name: "plain", Kind: design.Group, Bounds: design.Rect{X: 100, Width: 40, Height: 40}, Children: []*design.Layer{image("c", 0)}}, hidden,
		{ID: "cut", Name: "cut", Kind: design.Box, Fill: "#fff", Clip: true, Bounds: design.Rect{X: 150, Width: 40, Height: 40}, Children: []*design.Layer{image("d", 0)}},
	}}
	in, found := Infer(root, InferOptions{})
	require.NotNil(t, in)
	var said []string
	for _, p := range found {
		said = append(said, p.Message)
	}
	assert.Equal(t, []string{"the group pale is dissolved into containers: its opacity, clipping or rotation is lost", "the layer ghost is hidden and left out"}, said)
}
