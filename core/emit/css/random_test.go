package css_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// Random families of everything at once, drafted, emitted and laid out by Chromium: in every case
// without a state of the browser's own, every part is where the solver says, and that is where it
// was drawn (core/draft's test of the same families).
func TestRandomFamiliesAreRenderedAsDrawn(t *testing.T) {
	fonts := font.Shipped()
	var sheets []string
	var stands []stand
	for seed := range uint64(60) {
		p := drafttest.NewPainter(seed)
		doc := &design.Document{ID: "d", Name: "D"}
		known := map[string]*contract.Contract{}
		components := func(family string) *contract.Contract { return known[family] }
		for n := range 3 {
			f := p.Family(n)
			doc.Families = append(doc.Families, f)
			c, source, _ := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), fonts, components)
			if c == nil {
				continue
			}
			known[f.ID] = c
			p.Used = append(p.Used, f)
			scope := fmt.Sprintf("s%d", len(sheets))
			for _, part := range c.Closure() {
				m := ir.Lower(part)
				sheets = append(sheets, fmt.Sprintf(".%s {\n%s\n}", scope, emittest.HashedSheet(m, sheet.Module(m, output.PropertiesOf(token.Empty())))))
			}
			for _, k := range draft.Cases(c, source) {
				if k.State != "" && c.StateFlag(k.State) == nil {
					continue // the browser comes into it by itself
				}
				width := k.Width
				if width == 0 {
					width = 4000
				}
				solved, found := layout.Solve(contract.Resolve(c, k.Env(), token.Empty()).Boxes(), layout.Options{Width: width, Fonts: fonts})
				require.NotNil(t, solved, found)
				stands = append(stands, stand{fmt.Sprintf("seed %d, %s, %s", seed, c.Name, k.Name),
					fmt.Sprintf(`<div class="%s stand" style="width:%gpx">%s</div>`, scope, width, emittest.Hashed(ir.Lower(c), c.Examples().With(k.Values))), width, solved})
			}
		}
	}
	boxes := browse(t, strings.Join(sheets, "\n"), stands)
	wrong := 0
	for i, s := range stands {
		if diff := misplaced(s.solved, boxes[i]); diff != "" {
			t.Errorf("%s: %s\n%s", s.what, diff, s.html)
			if wrong++; wrong > 3 {
				t.Fatal("and so on")
			}
		}
	}
	assert.Greater(t, len(stands), 300)
	t.Logf("%d cases of %d components agree", len(stands), len(slices.Compact(sheets)))
}

// A component that asks for its width has a box around its root: the root fills it, however high
// the use makes it, or what it stands in.
func TestARootFillsTheBoxItsWidthIsAskedOf(t *testing.T) {
	thing := &contract.Contract{Format: contract.Format, Name: "Thing", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"width": "100%", "background-color": "#eeeeee"}},
		Rules: []contract.Rule{{Part: "root", When: contract.BelowWidth(700), Set: contract.Style{"opacity": "0.5"}}}}
	use := func(id string, style contract.Style) *contract.Part {
		return &contract.Part{ID: id, Name: id, Content: &contract.Use{Component: "Thing"}, Style: style}
	}
	c := &contract.Contract{Format: contract.Format, Name: "Shelf", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"display": "flex", "align-items": "stretch", "width": "500px"},
		Children: []*contract.Part{use("high", contract.Style{"flex": "none", "width": "200px", "height": "96px"}), use("beside", contract.Style{"flex": "1 1 0%"})}}}
	contract.NewLinker(func(string) *contract.Contract { return thing }).Link(c)
	var css strings.Builder
	for _, part := range c.Closure() {
		m := ir.Lower(part)
		css.WriteString(emittest.HashedSheet(m, sheet.Module(m, output.PropertiesOf(token.Empty()))))
	}
	solved, found := layout.Solve(contract.Resolve(c, contract.EnvOf(c.Examples()), token.Empty()).Boxes(), layout.Options{Width: 500, Fonts: font.Shipped()})
	require.NotNil(t, solved, found)
	boxes := reference.InChromium[[][2]float64](t, css.String(), emittest.Hashed(ir.Lower(c), c.Examples()),
		`[...document.querySelectorAll("[data-part=root] [data-part=root]")].map((e) => { const r = e.getBoundingClientRect(); return [r.width, r.height] })`)
	assert.Equal(t, [][2]float64{{200, 96}, {300, 96}}, boxes)
	for i, n := range solved.Children {
		assert.Equal(t, boxes[i], [2]float64{n.Box.Width, n.Box.Height}, "the solver says otherwise")
	}
}

// misplaced tells of the first part that is not where the solver puts it; empty for none.
func misplaced(solved *layout.Node, boxes [][4]float64) (out string) {
	at := 0
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		if out != "" || at >= len(boxes) {
			return
		}
		got := boxes[at]
		at++
		want := [4]float64{}
		if n.Box != nil {
			want = [4]float64{n.Box.X, n.Box.Y, n.Box.Width, n.Box.Height}
		}
		for i := range want {
			if d := want[i] - got[i]; (n.Box != nil || i > 1) && (d > 1 || d < -1) {
				out = fmt.Sprintf("%s is at %v, solved %v", n.Name, got, want)
			}
		}
		for _, c := range n.Children {
			walk(c)
		}
	}
	if walk(solved); out == "" && at != len(boxes) {
		return fmt.Sprintf("%d parts are rendered, %d solved", len(boxes), at)
	}
	return out
}
