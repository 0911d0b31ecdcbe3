package layout_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/design"
	"cobrik/core/layout"
)

// What is drawn is the border box (CSS Box Sizing 3): a size or a limit of what has an edge, or
// is a use whose component may have one, holds for that.
func TestSizesAreOfTheBorderBox(t *testing.T) {
	padded, fixed := &design.Flow{Direction: "row", Padding: []float64{4}}, design.Sizing{Width: "fixed"}
	bounds := design.Rect{Width: 40, Height: 20}
	for name, k := range map[string]struct {
		layer design.Layer
		want  string
	}{
		"padded":             {design.Layer{Kind: design.Box, Flow: padded, Sizing: fixed, Bounds: bounds}, "border-box"},
		"with a line":        {design.Layer{Kind: design.Box, Stroke: &design.Stroke{Color: "#000000", Width: 1}, Sizing: fixed, Bounds: bounds}, "border-box"},
		"a use":              {design.Layer{Kind: design.Instance, Instance: &design.InstanceContent{Family: "tag"}, Sizing: fixed, Bounds: bounds}, "border-box"},
		"limited":            {design.Layer{Kind: design.Box, Flow: padded, Sizing: design.Sizing{Width: "content", Height: "content"}, Limits: design.Limited{MaxWidth: 90}, Bounds: bounds}, "border-box"},
		"no edge":            {design.Layer{Kind: design.Box, Sizing: fixed, Bounds: bounds}, ""},
		"as large as inside": {design.Layer{Kind: design.Box, Flow: padded, Sizing: design.Sizing{Width: "content", Height: "content"}, Bounds: bounds}, ""},
	} {
		assert.Equal(t, k.want, layout.LayerStyle(&k.layer, nil)["box-sizing"], name)
	}
}
