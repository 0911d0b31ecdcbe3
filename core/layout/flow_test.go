package layout

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// The drawing of an inference is the drawing it was read from: the same layers at
// the same places, in a document that can be read back.
func TestTheDrawingOfAnInference(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	for _, d := range drawings() {
		root := draw(t, d.tree, r, 0)
		want := map[string]design.Rect{}
		root.Walk(func(l *design.Layer, x, y float64) {
			if l != root {
				want[l.ID] = design.Rect{X: x, Y: y, Width: l.Bounds.Width, Height: l.Bounds.Height}
			}
		})
		in, found := Infer(root, InferOptions{})
		require.NotNil(t, in, found)
		drawn := in.Drawing()
		seen := map[string]bool{}
		drawn.Walk(func(l *design.Layer, _, _ float64) {
			if l.Text != nil { // the tests' texts have no type
				l.Text = &design.TextContent{Content: "x", FontFamily: "Hanken Grotesk", FontSize: 16, FontWeight: 400, LineHeight: 20}
			}
		})
		drawn.Walk(func(l *design.Layer, x, y float64) {
			assert.False(t, seen[l.ID], "%s: the id %s is given twice", d.what, l.ID)
			seen[l.ID] = true
			if w, known := want[l.ID]; known && l != drawn {
				assert.InDeltaSlice(t, []float64{w.X, w.Y, w.Width, w.Height}, []float64{x, y, l.Bounds.Width, l.Bounds.Height}, 0.001, "%s: %s", d.what, l.ID)
			}
			if len(l.Children) > 0 {
				assert.NotNil(t, l.Flow, "%s: %s holds layers without a flow", d.what, l.ID)
			}
		})
		for id := range want {
			assert.True(t, seen[id], "%s: %s was lost", d.what, id)
		}
		if drawn.ID == "root" {
			drawn.Name = "Root"
		}
		doc := design.Document{Format: design.Format, ID: "d", Name: "D", Families: []*design.Family{}, Pages: []*design.Page{{ID: "p", Name: "P", Layers: []*design.Layer{drawn}}}}
		text, err := json.Marshal(doc)
		require.NoError(t, err)
		back, found := design.Read("d.design.json", text)
		require.NotNil(t, back, "%s: %s", d.what, found)
	}
}

func flowOf(p *Part) *design.Flow { return (&layerOfPart{}).set(p, nil).Flow }

// Each kind of container is written in the words of a flow.
func TestFlowsOfKinds(t *testing.T) {
	for kind, want := range map[string]design.Flow{
		Stack:   {Direction: "column", Gap: 8, Align: "start", Distribute: "center"},
		Row:     {Direction: "row", Gap: 8, Align: "start", Distribute: "center"},
		Wrap:    {Direction: "row", Wrap: true, Gap: 8, Across: 4, Align: "start"},
		Split:   {Direction: "grid", Columns: "1fr 2fr", Gap: 8, Align: "start"},
		Overlay: {Direction: "column", Gap: 8, Align: "start"},
	} {
		p := &Part{Kind: kind, Gap: 8, Across: 4, Align: "start", Distribute: "center", Shares: "1 2"}
		assert.Equal(t, want, *flowOf(p), kind)
	}
	spread := &Part{Kind: Row, Gap: 400, Distribute: "space-between"}
	assert.Zero(t, flowOf(spread).Gap, "what is left over is no gap")
	lined := &Part{Kind: Stack, Padding: Sides{12, 8, 12, 8}, layer: &design.Layer{Stroke: &design.Stroke{Width: 2}}}
	assert.Equal(t, []float64{10, 6, 10, 6}, flowOf(lined).Padding, "padding is counted from the line's inner edge")
	bare := &Part{Kind: Stack, Padding: Sides{2, 2, 2, 2}, layer: lined.layer}
	assert.Nil(t, flowOf(bare).Padding)
}

// What hugs its content, what fills: the root of a drawing.
func TestTheRootOfADrawing(t *testing.T) {
	image := func(id string, x, y, w, h float64) *design.Layer {
		return &design.Layer{ID: id, Name: id, Kind: design.Image, Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}}
	}
	for _, c := range []struct {
		what          string
		width, height float64
		children      []*design.Layer
		want          design.Sizing
	}{
		{"a chip", 76, 24, []*design.Layer{image("a", 8, 4, 16, 16), image("b", 28, 4, 40, 16)}, design.Sizing{Width: Content, Height: Content}},
		{"a bar", 600, 40, []*design.Layer{image("a", 10, 10, 20, 20), image("b", 550, 10, 40, 20)}, design.Sizing{Width: Fill, Height: Content}},
		{"a card", 200, 148, []*design.Layer{image("a", 12, 12, 176, 80), image("b", 12, 104, 90, 32)}, design.Sizing{Width: Fill, Height: Content}},
		{"a tall panel", 200, 400, []*design.Layer{image("a", 12, 12, 176, 80), image("b", 12, 104, 90, 32)}, design.Sizing{Width: Fill, Height: Fixed}},
	} {
		root := &design.Layer{ID: "root", Name: "Root", Kind: design.Box, Fill: "#fff", Bounds: design.Rect{Width: c.width, Height: c.height}, Children: c.children}
		in, found := Infer(root, InferOptions{})
		require.NotNil(t, in, found)
		assert.Equal(t, c.want, in.Drawing().Sizing, c.what)
	}
}

// The rows of a grid, or of a row that wraps, stay where they were drawn in a box that is higher than they need:
// what a browser gives them otherwise is a share of the room that is left (CSS Box Alignment 3, 6.1).
func TestRowsInATallerBoxStayInPlace(t *testing.T) {
	for kind, tree := range map[string]*Node{
		"wrapping row": boxed("name:Box;width:300px;height:260px;padding:8px;flex-wrap:wrap;gap:8px;align-content:flex-start", copies(6, func(i int) *Node {
			return line(fmt.Sprintf("name:Tag%d;padding:4px 8px", i), sized([]string{"a", "bb", "ccc", "dddd", "eeeee", "f"}[i], []float64{60, 90, 70, 110, 50, 80}[i], 16))
		})...),
		"grid": boxed("name:Box;width:340px;height:400px;padding:8px;display:grid;grid-template-columns:repeat(3, 1fr);gap:12px;align-content:start", copies(6, func(i int) *Node { return sized(fmt.Sprintf("P%d", i), 100, 60) })...),
	} {
		in, found := Infer(draw(t, tree, rand.New(rand.NewPCG(1, 2)), 0), InferOptions{})
		require.NotNil(t, in, found)
		require.Equal(t, kind, in.Root.Kind)
		assert.Less(t, in.Residual, 0.5, "%s: %v", kind, in.Untidy)
		drawn := in.Drawing()
		assert.Equal(t, Fixed, drawn.Sizing.Height, kind)
		assert.Equal(t, "flex-start", LayerStyle(drawn, nil)["align-content"], kind)
		drawn.Sizing.Height = Content
		assert.Empty(t, LayerStyle(drawn, nil)["align-content"], "%s: there is no room to share", kind)
	}
}

// A line that connects marks keeps its distance from both ends, and what is drawn over it is painted over it.
func TestWhatIsPinnedBehind(t *testing.T) {
	line := &design.Layer{ID: "l", Name: "l", Kind: design.Box, Bounds: design.Rect{X: 7, Y: 4, Width: 2, Height: 92}, Sizing: design.Sizing{Width: Fixed, Height: Fill},
		Place: &design.Place{Pins: &design.Pins{Horizontal: "left", Vertical: "both"}}}
	over := &design.Layer{ID: "o", Name: "o", Kind: design.Group, Bounds: design.Rect{Width: 80, Height: 100}, Flow: &design.Flow{Direction: "column"}}
	root := &design.Layer{ID: "r", Name: "r", Kind: design.Group, Bounds: design.Rect{Width: 80, Height: 100}, Flow: &design.Flow{Direction: "column"}, Children: []*design.Layer{line, over}}
	assert.Equal(t, Style{"position": "absolute", "left": "7px", "top": "4px", "bottom": "4px", "width": "2px"}, LayerStyle(line, root))
	assert.Equal(t, "relative", LayerStyle(over, root)["position"])
	root.Children = []*design.Layer{over, line}
	assert.Empty(t, LayerStyle(over, root)["position"])
}

// A grid's cell after blank ones says its column.
func TestBlankCells(t *testing.T) {
	root := &design.Layer{ID: "r", Kind: design.Group, Flow: &design.Flow{Direction: "grid", Columns: "repeat(7, 1fr)"}}
	cell := &design.Layer{ID: "c", Kind: design.Image, Place: &design.Place{Column: 3, Self: "center"}}
	assert.Equal(t, "auto / 3", LayerStyle(cell, root)["grid-area"])
	root.Flow.Direction = "row"
	assert.Empty(t, LayerStyle(cell, root)["grid-area"])
}

// The proof takes what is said of layers as it is, where a contract writes and reads it: to both it means the same.
func TestTheProofIsOfWhatIsWritten(t *testing.T) {
	var roots []*design.Layer
	for _, d := range append(commonDrawings(), keptDrawings()...) {
		roots = append(roots, draw(t, d.tree, rand.New(rand.NewPCG(1, 2)), 0.4))
	}
	for _, d := range append(drawnInterfaces(), drawnScreens()...) {
		roots = append(roots, parseDrawn(t, d.layers))
	}
	for seed := range 120 {
		count := 0
		r := rand.New(rand.NewPCG(uint64(seed), 31))
		roots = append(roots, draw(t, col("name:Root;width:max-content;padding:8px", randomDrawing(r, 3, &count)), r, 0.5))
	}
	for i, root := range roots {
		in, found := Infer(root, InferOptions{})
		require.NotNil(t, in, found)
		for _, width := range []string{in.Root.Width, Fill, Content} {
			copied := *in.Root
			copied.Width = width
			again := Inference{Root: &copied}
			boxes := map[string]Rect{}
			found = again.solved(func(p *Part, off Sides) {
				boxes[p.Layer] = Rect{p.Bounds.X - off.Left, p.Bounds.Y - off.Top, p.Bounds.right() - off.Right, p.Bounds.bottom() - off.Bottom}
			})
			require.False(t, found.Failed(), found)
			solved, found := Solve(copied.Tree(), Options{Width: copied.Bounds.Width, Height: 800})
			require.NotNil(t, solved, found)
			var compare func(p *Part, n *Node)
			compare = func(p *Part, n *Node) {
				if p.Layer != "" {
					b, got := n.Box, boxes[p.Layer]
					at := copied.Bounds
					require.InDeltaSlice(t, []float64{b.X + at.X, b.Y + at.Y, b.X + b.Width + at.X, b.Y + b.Height + at.Y}, []float64{got.X, got.Y, got.Width, got.Height}, 0.01, "drawing %d, %s as %s: %v", i, p.Name, width, n.Style)
				}
				for k, c := range p.Children {
					compare(c, n.Children[k])
				}
			}
			compare(&copied, solved)
		}
	}
}
