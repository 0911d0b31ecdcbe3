package draft_test

import (
	"cobrik/core/draft"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// furthest lays a drafted contract's default case out at a width and gives the
// largest distance of an edge from where it was drawn.
func furthest(t *testing.T, c *contract.Contract, f *design.Family, tokens *token.Set, fonts *font.Library) float64 {
	root := f.Default().Root
	cases := draft.Cases(c, f)
	at := slices.IndexFunc(cases, func(k draft.Case) bool { return k.Variant == f.Default() })
	r := contract.Resolve(c, cases[at].Cell("").Env(), tokens)
	solved, found := layout.Solve(r.Boxes(), layout.Options{Width: root.Bounds.Width, Fonts: fonts})
	require.NotNil(t, solved, found)
	places := map[*design.Layer][2]float64{}
	root.Walk(func(l *design.Layer, x, y float64) { places[l] = [2]float64{x, y} })
	most := 0.0
	var walk func(n *layout.Node)
	parts := map[string]*contract.Resolved{}
	r.Walk(func(r *contract.Resolved) { parts[r.Key()] = r })
	walk = func(n *layout.Node) {
		if parts[n.Name] == nil { // inside of a use
			return
		}
		l, _ := draft.ItemLayer(root, c, parts[n.Name])
		require.NotNil(t, l, n.Name)
		at := places[l]
		left, top := n.Box.X-at[0], n.Box.Y-at[1]
		most = max(most, math.Abs(left), math.Abs(top), math.Abs(left+n.Box.Width-l.Bounds.Width), math.Abs(top+n.Box.Height-l.Bounds.Height))
		for _, child := range n.Children {
			walk(child)
		}
	}
	walk(solved)
	return most
}

// Every drawing without flow on the demo's pages becomes a contract that puts
// its parts where they were drawn.
func TestDrawingsWithoutFlowBecomeContracts(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	fonts := font.Shipped()
	drafted := 0
	for _, page := range doc.Pages {
		for _, top := range page.Layers {
			top.Walk(func(l *design.Layer, _, _ float64) {
				if !draft.Flowless(l) {
					return
				}
				f, found := draft.Source(doc, contract.Origin{Document: doc.ID, Layer: l.ID}, fonts, nil)
				require.NotNil(t, f, "%s: %s", l.ID, found)
				c, found := draft.OfFamily(doc, f, tokens, nil)
				require.NotNil(t, c, "%s: %s", l.ID, found)
				require.Empty(t, c.Check(tokens), l.ID)
				in, _ := layout.Infer(l, layout.InferOptions{})
				off := furthest(t, c, f, tokens, fonts)
				assert.Less(t, off, in.Residual+0.5, "%s is not where it was drawn", l.ID)
				if l.Stroke == nil { // a card's picture lies over its line
					assert.Less(t, off, 0.5, "%s is not where it was drawn", l.ID)
				}
				assert.Equal(t, "100%", c.Root.Style["width"], "%s does not fill its container", l.ID)
				drafted++
			})
		}
	}
	assert.Greater(t, drafted, 10)
}

// nest makes a random tree of painted stacks and rows with images in them.
func nest(r *rand.Rand, depth int) *layout.Node {
	if depth == 0 || r.IntN(4) == 0 {
		return &layout.Node{Style: layout.Style{"width": fmt.Sprintf("%dpx", 20+r.IntN(80)), "height": fmt.Sprintf("%dpx", 16+r.IntN(40)), "flex": "none"}}
	}
	direction := []string{"row", "column"}[r.IntN(2)]
	n := &layout.Node{Style: layout.Style{"display": "flex", "flex-direction": direction, "align-items": []string{"start", "center", "end"}[r.IntN(3)],
		"gap": fmt.Sprintf("%dpx", 4*(1+r.IntN(6))), "padding": fmt.Sprintf("%dpx %dpx", 4*(1+r.IntN(5)), 4*(1+r.IntN(5)))}}
	for range 2 + r.IntN(3) {
		n.Children = append(n.Children, nest(r, depth-1))
	}
	return n
}

// The contract of an inferred drawing is proved as the inference is: what the
// solver found there, the drafted CSS gives again.
func TestContractsOfRandomDrawingsKeepTheirProof(t *testing.T) {
	worse := 0
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 11))
		solved, found := layout.Solve(&layout.Node{Style: layout.Style{"display": "flex", "width": "max-content"}, Children: []*layout.Node{nest(r, 3)}}, layout.Options{Width: 4000})
		require.NotNil(t, solved, found)
		root := &design.Layer{ID: "drawing", Name: "Drawing", Kind: design.Group, Bounds: design.Rect{Width: solved.Box.Width, Height: solved.Box.Height}}
		var flat func(n *layout.Node)
		flat = func(n *layout.Node) {
			l := &design.Layer{ID: fmt.Sprintf("l%d", len(root.Children)), Kind: design.Image, Bounds: design.Rect{X: n.Box.X, Y: n.Box.Y, Width: n.Box.Width, Height: n.Box.Height}}
			l.Name = "Part " + l.ID
			if len(n.Children) > 0 {
				l.Kind, l.Fill = design.Box, "#eeddcc"
			}
			root.Children = append(root.Children, l)
			for _, c := range n.Children {
				flat(c)
			}
		}
		flat(solved.Children[0])
		if len(root.Children) < 2 {
			continue
		}
		in, found := layout.Infer(root, layout.InferOptions{})
		require.NotNil(t, in, found)
		doc := &design.Document{ID: "random", Name: "Random", Pages: []*design.Page{{ID: "p", Layers: []*design.Layer{root}}}}
		f, found := draft.Source(doc, contract.Origin{Layer: "drawing"}, nil, nil)
		require.NotNil(t, f, found)
		c, found := draft.OfFamily(doc, f, new(token.Set), nil)
		require.NotNil(t, c, "%d: %s", seed, found)
		if got := furthest(t, c, f, new(token.Set), nil); got > in.Residual+0.5 {
			worse++
			t.Logf("seed %d: %g px from the drawing, the inference %g px: %s", seed, got, in.Residual, in.Root)
		}
	}
	assert.Zero(t, worse)
}

// A drawing laid out at its own width is the drawing; narrower, its texts wrap.
func TestReflow(t *testing.T) {
	doc, _ := demotest.Furrow(t, 3)
	fonts := font.Shipped()
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			got, found := draft.Reflow(v.Root, v.Root.Bounds.Width, fonts)
			require.NotNil(t, got, found)
			want := map[string]design.Rect{}
			v.Root.Walk(func(l *design.Layer, _, _ float64) { want[l.ID] = l.Bounds })
			got.Walk(func(l *design.Layer, _, _ float64) {
				w := want[l.ID]
				if l == got {
					w.X, w.Y = 0, 0
				}
				if !l.Hidden {
					assert.InDeltaSlice(t, []float64{w.X, w.Y, w.Width, w.Height}, []float64{l.Bounds.X, l.Bounds.Y, l.Bounds.Width, l.Bounds.Height}, 0.5, "%s: %s", v.ID, l.ID)
				}
			})
		}
	}
	note := &design.Layer{ID: "note", Name: "Note", Kind: design.Box, Bounds: design.Rect{Width: 300, Height: 20}, Flow: &design.Flow{Direction: "column", Align: "stretch"},
		Sizing: design.Sizing{Width: "fill", Height: "content"}, Children: []*design.Layer{{ID: "words", Name: "Words", Kind: design.Text, Sizing: design.Sizing{Width: "fill", Height: "content"},
			Bounds: design.Rect{Width: 300, Height: 20}, Text: &design.TextContent{Content: "Water the  beds by the canal", FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}}}}
	got, found := draft.Reflow(note, 80, fonts)
	require.NotNil(t, got, found)
	assert.Equal(t, "Water the\nbeds by the\ncanal", got.Children[0].Text.Content)
	assert.Equal(t, 60.0, got.Bounds.Height)
	assert.Equal(t, "Water the  beds by the canal", note.Children[0].Text.Content, "the drawing itself was changed")
}

// A family drawn without flow, as symbols of an SVG file are, is read alike in
// all its variants; the paddings that differ are rules.
func TestAFamilyWithoutFlowIsRead(t *testing.T) {
	variant := func(id, size string, pad float64) *design.Variant {
		return &design.Variant{ID: id, Choices: map[string]string{"Size": size}, Root: &design.Layer{ID: id + "-root", Name: "Badge", Kind: design.Box, Fill: "#ddeedd",
			Bounds: design.Rect{Width: 2*pad + 20 + 8 + 60, Height: 2*pad + 20}, Children: []*design.Layer{
				{ID: id + "-mark", Name: "Mark", Kind: design.Image, Bounds: design.Rect{X: pad, Y: pad, Width: 20, Height: 20}},
				{ID: id + "-bar", Name: "Bar", Kind: design.Image, Bounds: design.Rect{X: pad + 28, Y: pad, Width: 60, Height: 20}},
			}}}
	}
	f := &design.Family{ID: "badge", Name: "Badge", Axes: []design.Axis{{Name: "Size", Values: []string{"s", "m"}, Default: "m"}},
		Variants: []*design.Variant{variant("m", "m", 12), variant("s", "s", 4)}}
	doc := &design.Document{ID: "badges", Name: "Badges", Families: []*design.Family{f}}
	c, family, found := draft.Of(doc, contract.Origin{Family: "badge"}, "", new(token.Set), nil, nil)
	require.NotNil(t, c, found)
	assert.Equal(t, "8px", c.Root.Style["gap"])
	assert.Equal(t, "12px", c.Root.Style["padding-block"])
	require.Len(t, c.Rules, 1)
	assert.Equal(t, contract.Style{"padding-block": "4px", "padding-inline": "4px"}, c.Rules[0].Set)
	assert.Equal(t, "size = s", c.Rules[0].When.String())
	assert.Zero(t, furthest(t, c, family, new(token.Set), nil))

	// Variants that are not read alike stay as drawn.
	f.Variants[1].Root.Children[1].Bounds = design.Rect{X: 4, Y: 40, Width: 60, Height: 20}
	f.Variants[1].Root.Bounds.Height = 64
	c, _, found = draft.Of(doc, contract.Origin{Family: "badge"}, "", new(token.Set), nil, nil)
	require.NotNil(t, c, found)
	assert.Equal(t, "absolute", c.Part("mark").Style["position"])
}
