package css_test

import (
	"cobrik/core/draft"
	"cobrik/core/emit/ir"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// stand is one case in a container of a width, and where the solver puts its
// parts, parents first.
type stand struct {
	what, html string
	width      float64
	solved     *layout.Node
}

// The emitted style sheet in Chromium against the solver: every family and every
// drawing without flow of the demo, arranged anew at random, some only below a
// switch point, at widths from narrow to wide. What the bench says of a width
// must be what a browser does there.
func TestArrangedComponentsAreLaidOutAsSolved(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	fonts := font.Shipped()
	random := rand.New(rand.NewPCG(4, 26))
	var sheets []string
	var stands []stand
	_, components := demotest.Families(t, doc, tokens)
	for _, o := range origins(doc) {
		for round := range 12 {
			c, _, found := draft.Of(doc, o, "", tokens, fonts, components)
			require.NotNil(t, c, found)
			env := contract.EnvOf(c.Examples())
			pictures := false
			c.Walk(func(p, _ *contract.Part) {
				_, image := p.Content.(contract.ImageOf)
				text := c.Prop(p.TextProp())
				pictures = pictures || image || text != nil && text.Kind() == contract.RichKind
			})
			if pictures && round > 0 {
				break // as large as they are by themselves: the solver does not know how large (docs/layout.md)
			}
			var edits []string
			for range round { // the first as drawn
				edits = append(edits, arrangeSomething(t, random, c, tokens, fonts))
			}
			scope := fmt.Sprintf("s%d", len(sheets))
			for _, part := range c.Closure() { // classes are a component's own
				m := ir.Lower(part)
				sheets = append(sheets, fmt.Sprintf(".%s {\n%s\n}", scope, emittest.HashedSheet(m, sheet.Module(m, output.PropertiesOf(token.Empty())))))
			}
			for _, width := range []float64{180, 333, 480, 481, 700, 1400} {
				solved, found := layout.Solve(c.Boxes(env, tokens), layout.Options{Width: width, Fonts: fonts})
				require.NotNil(t, solved, found)
				stands = append(stands, stand{fmt.Sprintf("%s at %g px after %s", c.Name, width, strings.Join(edits, "; ")),
					fmt.Sprintf(`<div class="%s stand" style="width:%gpx">%s</div>`, scope, width, emittest.Hashed(ir.Lower(c), c.Examples())), width, solved})
			}
		}
	}
	boxes := browse(t, output.PropertiesOf(tokens).Sheet(nil)+strings.Join(sheets, "\n"), stands)
	differing := 0
	for i, s := range stands {
		at := 0
		var walk func(n *layout.Node)
		walk = func(n *layout.Node) {
			got := boxes[i][at]
			at++
			if n.Box == nil { // taken away
				assert.Equal(t, [2]float64{0, 0}, [2]float64{got[2], got[3]}, "%s: %s", s.what, n.Name)
				for _, c := range n.Children {
					walk(c)
				}
				return
			}
			if !assert.InDeltaSlice(t, []float64{n.Box.X, n.Box.Y, n.Box.Width, n.Box.Height}, got[:], 1, "%s: %s\n%s", s.what, n.Name, s.html) {
				differing++
			}
			for _, c := range n.Children {
				walk(c)
			}
		}
		if walk(s.solved); differing > 3 {
			t.Fatal("and so on")
		}
		require.Equal(t, len(boxes[i]), at)
	}
	t.Logf("%d cases at a width agree", len(stands))
}

func origins(doc *design.Document) (out []contract.Origin) {
	for _, f := range doc.Families {
		out = append(out, contract.Origin{Family: f.ID})
	}
	for _, id := range []string{"plots-bar-1", "plots-card-15", "plots-narrow-bar-1", "plots-narrow-menu-4"} {
		out = append(out, contract.Origin{Layer: id})
	}
	return out
}

// arrangeSomething makes a random edit that is allowed, and says which.
func arrangeSomething(t *testing.T, random *rand.Rand, c *contract.Contract, tokens *token.Set, fonts *font.Library) string {
	pick := func(options ...string) string { return options[random.IntN(len(options))] }
	for {
		var parts []string
		c.Walk(func(p, _ *contract.Part) { parts = append(parts, p.ID) })
		at := contract.EditSite{Env: contract.EnvOf(c.Examples()).At(1400), Sizes: map[string][2]float64{}}
		if random.IntN(2) == 0 {
			at.Container, at.Below = 400, 481
		}
		solved, found := layout.Solve(contract.Resolve(c, at.Env, tokens).Boxes(), layout.Options{Width: at.Container, Fonts: fonts})
		require.NotNil(t, solved, found)
		var sizes func(n *layout.Node)
		sizes = func(n *layout.Node) {
			if n.Box == nil {
				return
			}
			at.Sizes[n.Name] = [2]float64{n.Box.Width, n.Box.Height}
			for _, child := range n.Children {
				sizes(child)
			}
		}
		sizes(solved)
		part := pick(parts...)
		want := contract.Arrangement{}
		switch random.IntN(4) {
		case 0:
			want.Kind = pick(contract.Kinds...)
		case 1:
			want.Align = pick("stretch", "start", "center", "end")
		case 2:
			want.Distribute = pick("start", "center", "end", "space-between")
		case 3:
			want.Width = pick(layout.Fixed, layout.Content, layout.Fill)
		}
		if part == "root" && want.Width != "" || len(c.Part(part).Children) == 0 && want.Width == "" {
			continue // the root's width decides whether there may be switch points
		}
		if c.Part(part).Vector() != nil && want.Width == layout.Fill {
			continue // a browser gives a drawing the ratio of its view box; the solver does not know it (docs/layout.md)
		}
		edited := c.Clone()
		if edited.Arrange(part, want, at, tokens).Failed() {
			continue
		}
		*c = *edited
		return fmt.Sprintf("%s %s%s%s%s below %g", part, want.Kind, want.Align, want.Distribute, want.Width, at.Below)
	}
}

// browse lays the stands out in headless Chromium and gives every part's border
// box from its root's.
func browse(t *testing.T, sheet string, stands []stand) [][][4]float64 {
	var body strings.Builder
	for _, s := range stands {
		body.WriteString(s.html)
	}
	boxes := reference.InChromium[[][][4]float64](t, reference.Faces()+".stand{position:absolute;left:0;top:0;text-rendering:geometricPrecision}"+sheet, body.String(),
		`[...document.querySelectorAll(".stand")].map((s) => {
			const parts = [...s.querySelectorAll("[data-part]")], o = parts[0].getBoundingClientRect();
			return parts.map((e) => { const r = e.getBoundingClientRect(); return [r.x - o.x, r.y - o.y, r.width, r.height] });
		})`)
	require.Len(t, boxes, len(stands))
	return boxes
}
