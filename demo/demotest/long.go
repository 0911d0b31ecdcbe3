package demotest

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/design"
)

// LongDesign is the text of a document, "long", of 70 pages with a hundred rows of a shed's list each: 21,000 layers.
func LongDesign(t testing.TB) []byte {
	t.Helper()
	doc := &design.Document{Format: design.Format, ID: "long", Name: "Long list", Families: []*design.Family{}}
	for p := range 70 {
		page := &design.Page{ID: fmt.Sprint("p", p), Name: fmt.Sprint("Shelf ", p), Width: 800, Height: 6000}
		for i := range 100 {
			id := fmt.Sprint("r", p, "-", i)
			page.Layers = append(page.Layers, &design.Layer{ID: id, Name: "Row", Kind: design.Box, Bounds: design.Rect{X: 20, Y: float64(i) * 58, Width: 700, Height: 48}, Fill: "#ffffff",
				Children: []*design.Layer{
					{ID: id + "t", Name: "Tool", Kind: design.Text, Bounds: design.Rect{X: 12, Y: 12, Width: 200, Height: 24}, Fill: "#000000",
						Text: &design.TextContent{Content: fmt.Sprint("Tool ", i), FontFamily: "Hanken Grotesk", FontSize: 16, FontWeight: 400, LineHeight: 24}},
					{ID: id + "b", Name: "Lamp", Kind: design.Box, Bounds: design.Rect{X: 660, Y: 16, Width: 16, Height: 16}, Fill: "#448833"},
				}})
		}
		doc.Pages = append(doc.Pages, page)
	}
	text, err := json.Marshal(doc)
	require.NoError(t, err)
	return text
}
