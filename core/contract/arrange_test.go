package contract_test

import (
	"cobrik/core/draft"
	"cobrik/core/emit/ir"
	"cobrik/core/font"
	"cobrik/core/token/output"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	sheet "cobrik/core/emit/css"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// drafted gives a contract of every family and every drawing without flow of
// the demo.
func drafted(t *testing.T) (out []*contract.Contract, tokens *token.Set) {
	doc, tokens := demotest.Furrow(t, 3)
	add := func(o contract.Origin) {
		f, found := draft.Source(doc, o, font.Shipped(), nil)
		require.NotNil(t, f, found)
		c, found := draft.OfFamily(doc, f, tokens, nil)
		require.NotNil(t, c, found)
		out = append(out, c)
	}
	for _, f := range doc.Families {
		add(contract.Origin{Family: f.ID})
	}
	for _, page := range doc.Pages {
		for _, l := range page.Layers {
			if draft.Flowless(l) {
				add(contract.Origin{Layer: l.ID})
			}
		}
	}
	return out, tokens
}

func solve(t *testing.T, n *layout.Node, width float64) *layout.Node {
	solved, found := layout.Solve(n, layout.Options{Width: width, Fonts: font.Shipped()})
	require.NotNil(t, solved, found)
	return solved
}

func boxesOf(n *layout.Node) map[string]layout.Rect {
	out := map[string]layout.Rect{}
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		if n.Box == nil { // taken away at this width
			return
		}
		out[n.Name] = layout.Rect{X: n.Box.X, Y: n.Box.Y, Width: n.Box.Width, Height: n.Box.Height}
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(n)
	return out
}

// Every container of every component can be made every kind: it is that kind
// then, its children are sized as they were, and turning it back brings every
// box back to where it was.
func TestContainersTurnAndTurnBack(t *testing.T) {
	contracts, tokens := drafted(t)
	turned := 0
	for _, c := range contracts {
		place := contract.EditSite{Env: contract.EnvOf(c.Defaults())}
		before := contract.Resolve(c, place.Env, tokens)
		drawn := boxesOf(solve(t, before.Boxes(), 900))
		before.Walk(func(r *contract.Resolved) {
			was := r.Arrangement(parentOf(before, r))
			if was.Kind == layout.Leaf || r.Values["display"].Value == "none" {
				return
			}
			for _, kind := range contract.Kinds {
				edited := c.Clone()
				name := r.Part.Name
				require.Empty(t, edited.Arrange(name, contract.Arrangement{Kind: kind}, place, tokens), "%s: %s as %s", c.Name, name, kind)
				root := contract.Resolve(edited, contract.Env{}, tokens)
				got := root.Find(name)
				assert.Equal(t, kind, got.Arrangement(parentOf(root, got)).Kind, "%s: %s as %s", c.Name, name, kind)
				solve(t, root.Boxes(), 900)
				if kind == layout.Overlay || kind == layout.Grid || kind == layout.Split {
					continue // there a child may be sized in other words
				}
				for i, child := range got.Children {
					if before := r.Children[i]; before.Arrangement(r).Width != child.Arrangement(got).Width {
						assert.Equal(t, before.Arrangement(r).Width, child.Arrangement(got).Width, "%s: width of %s in a %s", c.Name, child.Part.Name, kind)
					}
				}
				if was.Kind == layout.Row || was.Kind == layout.Stack || was.Kind == layout.Wrap {
					require.Empty(t, edited.Arrange(name, contract.Arrangement{Kind: was.Kind}, place, tokens))
					back := boxesOf(solve(t, contract.Resolve(edited, contract.Env{}, tokens).Boxes(), 900))
					for part, box := range drawn {
						assert.InDeltaSlice(t, []float64{box.X, box.Y, box.Width, box.Height}, []float64{back[part].X, back[part].Y, back[part].Width, back[part].Height}, 0.01,
							"%s: %s after %s was a %s and turned back", c.Name, part, name, kind)
					}
				}
				turned++
			}
		})
	}
	assert.Greater(t, turned, 100)
}

func parentOf(root, r *contract.Resolved) (parent *contract.Resolved) {
	root.Walk(func(p *contract.Resolved) {
		for _, c := range p.Children {
			if c == r {
				parent = p
			}
		}
	})
	return parent
}

// A part is sized as it is told, and says so.
func TestSizing(t *testing.T) {
	contracts, tokens := drafted(t)
	for _, c := range contracts {
		place := contract.EditSite{Env: contract.EnvOf(c.Defaults()), Sizes: map[string][2]float64{}}
		for name, box := range boxesOf(solve(t, contract.Resolve(c, contract.Env{}, tokens).Boxes(), 900)) {
			place.Sizes[name] = [2]float64{box.Width, box.Height}
		}
		contract.Resolve(c, contract.Env{}, tokens).Walk(func(r *contract.Resolved) {
			if r.Values["display"].Value == "none" {
				require.NotEmpty(t, c.Clone().Arrange(r.Part.ID, contract.Arrangement{Width: "fixed"}, place, tokens), "what is not there was laid out")
				return
			}
			for _, how := range r.Sizings() {
				if r.Part == c.Root && len(c.SwitchPoints()) > 0 && how != "fill" {
					continue // it follows its container
				}
				edited := c.Clone()
				require.Empty(t, edited.Arrange(r.Part.Name, contract.Arrangement{Width: how}, place, tokens), "%s: %s", c.Name, r.Part.Name)
				root := contract.Resolve(edited, contract.Env{}, tokens)
				got := root.Find(r.Part.Name)
				assert.Equal(t, how, got.Arrangement(parentOf(root, got)).Width, "%s: %s", c.Name, r.Part.Name)
				if how == layout.Fixed {
					box := boxesOf(solve(t, root.Boxes(), 900))[r.Part.Name]
					assert.InDelta(t, math.Ceil(place.Sizes[r.Part.Name][0]-0.01), box.Width, 0.01, "%s: %s is not fixed at its own width", c.Name, r.Part.Name)
				}
			}
		})
	}
}

// Below a switch point the component is arranged otherwise, in the solver and in
// the emitted style sheet; from it on nothing changes.
func TestSwitchPoint(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	f, _ := draft.Source(doc, contract.Origin{Layer: "plots-bar-1"}, font.Shipped(), nil)
	c, _ := draft.OfFamily(doc, f, tokens, nil)
	wide := boxesOf(solve(t, c.Boxes(contract.EnvOf(c.Examples()), tokens), 900))
	require.Empty(t, c.Arrange("root", contract.Arrangement{Kind: layout.Stack}, contract.EditSite{Env: contract.EnvOf(c.Examples()).At(480), Below: 600}, tokens))
	require.Equal(t, []float64{600}, c.SwitchPoints())
	assert.Equal(t, wide, boxesOf(solve(t, c.Boxes(contract.EnvOf(c.Examples()), tokens), 900)), "the wide arrangement changed")
	assert.Equal(t, wide["root"].Height, boxesOf(solve(t, c.Boxes(contract.EnvOf(c.Examples()), tokens), 600))["root"].Height, "the switch point belongs to the wide side")
	narrow := boxesOf(solve(t, c.Boxes(contract.EnvOf(c.Examples()), tokens), 599))
	assert.Greater(t, narrow["root"].Height, wide["root"].Height)
	assert.Greater(t, narrow["links"].Y, narrow["pair"].Y)

	sheet := sheet.Module(ir.Lower(c), output.PropertiesOf(token.Empty()))
	assert.Contains(t, sheet, "@container (width < 600px) {\n  .root {\n    flex-direction: column;\n  }\n")
	assert.Contains(t, sheet, "container-type: inline-size")
	assert.Equal(t, []string{"root", "pair", "mark", "logo"}, ir.Lower(c).Classes[:4])
	assert.Equal(t, "container", ir.Lower(c).Root.Classes[0].Name)

	read, found := contract.Read("bar.json", c.JSON(), tokens)
	require.NotNil(t, read, found)
	assert.Equal(t, c.JSON(), read.JSON())

	// What is agreed for all widths stays under what holds below one.
	c.SetValue("root", "flex-direction", contract.When{}, "row-reverse")
	assert.Equal(t, "column", contract.Resolve(c, contract.Env{}.At(599), tokens).Values["flex-direction"].Value)
	assert.Equal(t, "row-reverse", contract.Resolve(c, contract.Env{}.At(600), tokens).Values["flex-direction"].Value)

	c.SetValue("root", "flex-direction", contract.When{}, "")

	// Turned back below the point, nothing is left of it.
	require.Empty(t, c.Arrange("root", contract.Arrangement{Kind: layout.Row}, contract.EditSite{Env: contract.EnvOf(c.Examples()).At(480)}, tokens))
	assert.Empty(t, c.SwitchPoints())

	hugging, _ := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	assert.Contains(t, hugging.Arrange("root", contract.Arrangement{Kind: layout.Stack}, contract.EditSite{Env: contract.Env{Container: 100}, Below: 200}, tokens).Error(), "as wide as its content")
}

func TestArrangementsThatCannotBe(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	c, _ := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	before := string(c.JSON())
	for _, k := range []struct {
		part string
		want contract.Arrangement
		says string
	}{
		{"nobody", contract.Arrangement{Kind: layout.Row}, "no part"},
		{"root", contract.Arrangement{Kind: "pile"}, "not a way"},
		{"label", contract.Arrangement{Kind: layout.Row}, "holds no other"},
		{"root", contract.Arrangement{Align: "upwards"}, "not a value of align"},
		{"root", contract.Arrangement{Width: "12px"}, "not a value of width"},
	} {
		found := c.Arrange(k.part, k.want, contract.EditSite{Env: contract.Env{Container: 300}}, tokens)
		assert.Contains(t, found.Error(), k.says)
		assert.Equal(t, before, string(c.JSON()), "a refused edit changed the contract")
	}
}

// A block aligns nothing: told to, it becomes a flex container.
func TestABlockIsMadeToAlign(t *testing.T) {
	tokens := new(token.Set)
	c := list()
	c.Root.Style = contract.Style{"width": "100%"}
	require.Empty(t, c.Arrange("root", contract.Arrangement{Align: "end"}, contract.EditSite{Env: contract.Env{Container: 400}}, tokens))
	assert.Equal(t, contract.Style{"width": "100%", "display": "flex", "flex-direction": "column", "align-items": "flex-end"}, c.Root.Style)
	item := boxesOf(solve(t, c.Boxes(contract.Env{}, tokens), 400))["item"]
	assert.Equal(t, 360.0, item.X)
}

// A split takes shares of any number, equal ones where none are given; what are no shares is refused and said.
func TestASplitTakesShares(t *testing.T) {
	card := func() *contract.Contract {
		part := func(id string) *contract.Part {
			return &contract.Part{ID: id, Name: id, Element: "div", Style: contract.Style{"width": "40px", "height": "10px"}}
		}
		return &contract.Contract{Format: contract.Format, Name: "Card", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"width": "100%"}, Children: []*contract.Part{part("a"), part("b"), part("c")}}}
	}
	for shares, want := range map[string]string{"1 2 1": "1fr 2fr 1fr", "content 1 content": "auto 1fr auto", "": "1fr 1fr 1fr"} {
		c := card()
		require.Empty(t, c.Arrange("root", contract.Arrangement{Kind: "split", Columns: shares}, contract.EditSite{}, token.Empty()), shares)
		root := contract.Resolve(c, contract.Env{}, token.Empty())
		assert.Equal(t, want, root.Values["grid-template-columns"].Value, shares)
		assert.Equal(t, "split", root.Arrangement(nil).Kind, shares)
		assert.NotContains(t, root.Values, "grid-auto-flow", "%s: what tracks say already is said again", shares)
	}
	found := card().Arrange("root", contract.Arrangement{Kind: "split", Columns: "wide 1"}, contract.EditSite{}, token.Empty())
	require.NotEmpty(t, found)
	assert.Equal(t, "shares", found[0].Rule)
}
