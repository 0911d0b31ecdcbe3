package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/color"
	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/survey"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

const scaleTokens = `{
  "space": { "$type": "dimension", "4": { "$value": { "value": 16, "unit": "px" } }, "5": { "$value": { "value": 1.25, "unit": "rem" } } },
  "radius": { "$type": "dimension", "s": { "$value": { "value": 18, "unit": "px" } } },
  "soil": { "$type": "color", "700": { "$value": { "colorSpace": "srgb", "components": [0.29, 0.22, 0.15] } }, "50": { "$value": { "colorSpace": "srgb", "components": [1, 1, 1] } } },
  "ink": { "$value": "{soil.700}" }
}`

func tokens(t *testing.T) *token.Set {
	t.Helper()
	set, found := token.Read(token.File{Name: "t", Text: []byte(scaleTokens)})
	require.Empty(t, found)
	return set
}

// The mistake of the trade this is for: 18 where the scale has 16 and 20.
func TestOffScaleFindsTheNearestOfItsScale(t *testing.T) {
	layer := func(id string, gap float64, fill string, bound map[string]string) *design.Layer {
		return &design.Layer{ID: id, Name: "Card", Kind: design.Box, Fill: fill, Tokens: bound, Flow: &design.Flow{Direction: "row", Gap: gap}}
	}
	doc := &design.Document{Pages: []*design.Page{{Name: "Plots", Layers: []*design.Layer{
		layer("a", 18, "#4a3927", nil), layer("b", 18, "#4a3826", nil), layer("c", 16, "#ffffff", map[string]string{"gap": "space.4", "background-color": "soil.50"}),
	}}}}
	rows := survey.OffScale(doc, tokens(t))
	byValue := map[string]survey.Raw{}
	for _, r := range rows {
		byValue[r.Value] = r
	}
	require.Len(t, rows, 3, "what is bound to a token is on the scale")
	gap := byValue["18px"]
	assert.Len(t, gap.Uses, 2)
	assert.Equal(t, "space.4", gap.Nearest.Path, "a radius of 18 is no space")
	assert.InDelta(t, 2, gap.Distance, 1e-9)
	assert.Equal(t, "18px", rows[0].Value, "the most used comes first")
	assert.Equal(t, survey.RawUse{Where: "Plots", Layer: "a", Name: "Card", Property: "gap"}, gap.Uses[0])
	off, on := byValue["#4a3927"], byValue["#4a3826"]
	assert.Equal(t, "soil.700", off.Nearest.Path, "a core token before one that points at it")
	c, _ := color.Parse("#4a3927")
	d, _ := off.Nearest.Content.Color()
	assert.InDelta(t, color.Difference(c, d), off.Distance, 1e-9)
	assert.Positive(t, off.Distance)
	assert.Zero(t, on.Distance, "a token has this very colour")
}

func TestBindChangesThatValueOnThatScaleAlone(t *testing.T) {
	c := &contract.Contract{Name: "X", Root: &contract.Part{Name: "root", Style: contract.Style{"gap": "18px", "border-radius": "18px", "padding-inline": "4px 18px"}},
		Rules: []contract.Rule{{Part: "root", Set: contract.Style{"padding-block": "18px", "background-color": "rgb(74 57 39)"}}}}
	assert.Equal(t, 3, survey.Bind(c, survey.Spaces, "18px", "space.4"))
	assert.Equal(t, contract.Style{"gap": "{space.4}", "border-radius": "18px", "padding-inline": "4px {space.4}"}, c.Root.Style)
	assert.Equal(t, 1, survey.Bind(c, survey.Colors, "#4a3927", "soil.700"))
	assert.Equal(t, contract.Style{"padding-block": "{space.4}", "background-color": "{soil.700}"}, c.Rules[0].Set)
	assert.Zero(t, survey.Bind(c, survey.Spaces, "18px", "space.4"))
}

// The demo: its pages hold a title of 32 px, which the scale does not have.
func TestFurrowsOffScaleTitle(t *testing.T) {
	doc, set := demotest.Furrow(t, 1)
	found := false
	for _, r := range survey.OffScale(doc, set) {
		if r.Scale == survey.TypeSizes && r.Value == "32px" {
			found = true
			assert.Equal(t, "type.size.heading", r.Nearest.Path)
			assert.InDelta(t, 4, r.Distance, 1e-9)
		}
	}
	assert.True(t, found)
}

// A deprecated token is no way out: what is nearest is what may be used.
func TestADeprecatedTokenIsNeverNearest(t *testing.T) {
	set, found := token.Read(token.File{Name: "t", Text: []byte(`{
		"space": {"$type":"dimension","old":{"$deprecated":true,"$value":{"value":17,"unit":"px"}},"new":{"$value":{"value":24,"unit":"px"}}},
		"ink": {"$type":"color","old":{"$deprecated":"use ink.new","$value":{"colorSpace":"srgb","components":[0,0,0]}},"new":{"$value":{"colorSpace":"srgb","components":[0.2,0.2,0.2]}}}
	}`)})
	require.Empty(t, found)
	doc := one(&design.Layer{ID: "box", Name: "Box", Kind: design.Box, Bounds: design.Rect{Width: 90, Height: 40}, Fill: "#000000", Flow: &design.Flow{Direction: "row", Gap: 17}})
	nearest := map[survey.Scale]survey.Raw{}
	for _, r := range survey.OffScale(doc, set) {
		nearest[r.Scale] = r
	}
	require.NotNil(t, nearest[survey.Spaces].Nearest)
	assert.Equal(t, "space.new", nearest[survey.Spaces].Nearest.Path)
	assert.InDelta(t, 7, nearest[survey.Spaces].Distance, 1e-9)
	require.NotNil(t, nearest[survey.Colors].Nearest)
	assert.Equal(t, "ink.new", nearest[survey.Colors].Nearest.Path)
}

// What a page holds: drawings without flow by how deep they lie;
// what is hidden is no candidate.
func TestInventory(t *testing.T) {
	box := func(id, name string, x, y float64, children ...*design.Layer) *design.Layer {
		return &design.Layer{ID: id, Name: name, Kind: design.Group, Bounds: design.Rect{X: x, Y: y, Width: 50, Height: 50}, Children: children}
	}
	use := box("use", "Tag", 5, 6)
	use.Kind, use.Instance = design.Instance, &design.InstanceContent{Family: "tag"}
	hidden := box("hidden", "Hidden", 0, 0, box("h1", "Inner", 0, 0, use))
	hidden.Hidden = true
	doc := &design.Document{Families: []*design.Family{{ID: "tag", Name: "CropTag"}, {ID: "row", Name: "ToolRow"}},
		Pages: []*design.Page{{ID: "p", Layers: []*design.Layer{box("card", "Card", 10, 20, box("inner", "Group 14", 1, 2, use)), hidden}}}}
	got := survey.ReadPage(doc.Pages[0])
	require.Len(t, got.Loose, 2)
	assert.Equal(t, []any{"card", 0, 3, "inner", 1, 2}, []any{got.Loose[0].Layer.ID, got.Loose[0].Depth, got.Loose[0].Layers, got.Loose[1].Layer.ID, got.Loose[1].Depth, got.Loose[1].Layers})
	assert.Equal(t, design.Rect{X: 11, Y: 22, Width: 50, Height: 50}, got.Loose[1].Box)
	assert.Equal(t, 6, got.Layers)
	assert.Equal(t, map[string]int{"tag": 2}, survey.Uses(doc))
	assert.Equal(t, 1, survey.WithoutComponent(doc, map[string]bool{"tag": true, "card": true}))
}
