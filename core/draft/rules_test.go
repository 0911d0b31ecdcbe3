package draft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func tokensOf(t *testing.T, text string) *token.Set {
	t.Helper()
	set, found := token.Read(token.File{Name: "t", Text: []byte(text)})
	require.Empty(t, found)
	return set
}

// one is a family of one variant.
func one(root *design.Layer) *design.Family {
	return &design.Family{ID: "f", Name: "Shed Row", Variants: []*design.Variant{{ID: "v", Choices: map[string]string{}, Root: root}}}
}

// What fills a row gives way to its neighbours: without min-width a long word would push
// them out (CSS Flexbox 1, 4.5).
func TestWhatFillsARowMayShrink(t *testing.T) {
	root := named("row", design.Box, 0, 0, 200, 40, named("grow", design.Box, 0, 0, 160, 40), named("end", design.Box, 160, 0, 40, 40))
	root.Flow = &design.Flow{Direction: "row"}
	root.Children[0].Sizing = design.Sizing{Width: "fill"}
	s := draft.StyleOf(root.Children[0], root)
	assert.Equal(t, "1 1 0%", s["flex"])
	assert.Equal(t, "0", s["min-width"])
	assert.Equal(t, "none", draft.StyleOf(root.Children[1], root)["flex"])
}

// A length says little of itself: it is bound to a token only where the token's name fits
// the property, and to the component's own before a general one.
func TestWhatARawValueIsBoundTo(t *testing.T) {
	tokens := tokensOf(t, `{
		"red": {"$type":"color","$value":{"colorSpace":"srgb","components":[1,0,0]}},
		"space": {"$type":"dimension","8":{"$value":{"value":8,"unit":"px"}}},
		"corner": {"$type":"dimension","$value":{"value":8,"unit":"px"}},
		"shed-row": {"pad": {"$type":"dimension","$value":{"value":8,"unit":"px"}}, "tint": {"$type":"color","$value":{"colorSpace":"srgb","components":[1,0,0]}}},
		"anything": {"$type":"dimension","$value":{"value":13,"unit":"px"}},
		"blue": {"$type":"color","$value":{"colorSpace":"srgb","components":[0,0,1]}},
		"old-surface": {"$type":"color","$deprecated":true,"$value":{"colorSpace":"srgb","components":[0,1,0]}}
	}`)
	for _, c := range []struct {
		component string
		draw      func(*design.Layer)
		property  string
		want      string
	}{
		{"Shed Row", func(l *design.Layer) { l.Flow.Padding = []float64{8} }, "padding-inline", "{shed-row.pad}"}, // its own before the scale
		{"Card", func(l *design.Layer) { l.Flow.Padding = []float64{8} }, "padding-inline", "{space.8}"},
		{"Card", func(l *design.Layer) { l.Radius = []float64{8} }, "border-radius", "{corner}"},
		{"Card", func(l *design.Layer) { l.Flow.Padding = []float64{13} }, "padding-inline", "13px"}, // the name does not fit
		{"Card", func(l *design.Layer) { l.Fill = "#ff0000" }, "background-color", "{red}"},
		{"Shed Row", func(l *design.Layer) { l.Fill = "#ff0000" }, "background-color", "{shed-row.tint}"},
		{"Card", func(l *design.Layer) { l.Fill = "#0000ff" }, "background-color", "{blue}"},  // a colour speaks for itself
		{"Card", func(l *design.Layer) { l.Fill = "#00ff00" }, "background-color", "#00ff00"}, // deprecated
		{"Card", func(l *design.Layer) { l.Fill = "#00fe00" }, "background-color", "#00fe00"},
	} {
		l := named("box", design.Box, 0, 0, 40, 40)
		l.Flow = &design.Flow{Direction: "row"}
		c.draw(l)
		assert.Equal(t, c.want, draft.StyleWithTokens(l, nil, c.component, tokens)[c.property], "%s of a %s", c.property, c.component)
	}
}

// What a picture shows stays, however its containers are read.
func TestAlternativeTextOutlivesANewReading(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	c, _, found := draft.Of(doc, contract.Origin{Layer: "plots-bar-1"}, "ShedBar", tokens, font.Shipped(), nil)
	require.NotNil(t, c, found)
	mark := c.Part("mark")
	require.NotNil(t, mark.Vector())
	mark.Vector().Label = "Hollowbeck"
	key := draft.OtherReadings(doc, *c.Origin)[""]
	require.NotEmpty(t, key.Others)
	other, found := draft.Reread(c, doc, key.Key, key.Others[0].Kind, tokens, font.Shipped(), nil)
	require.NotNil(t, other, found)
	require.NotNil(t, other.Part("mark"))
	assert.Equal(t, "Hollowbeck", other.Part("mark").Vector().Label)
}

// Pictures of a family are parts with their text, and what it uses of other families is
// drawn out, with a word about it.
func TestPicturesAndUsesInFamiliesAreParts(t *testing.T) {
	doc := uses()
	photo := named("photo", design.Image, 0, 0, 40, 40)
	photo.Alt = "A bed of leeks"
	root := doc.Family("tag").Variants[0].Root
	root.Children = append(root.Children, photo)
	f, found := draft.Source(doc, contract.Origin{Family: "tag"}, font.Shipped(), nil)
	require.NotNil(t, f, found)
	assert.Contains(t, found.Error(), "drawn out")
	c, more := draft.OfFamily(doc, f, token.Empty(), nil)
	require.NotNil(t, c, more)
	assert.Equal(t, contract.Picture{Alt: "A bed of leeks"}, c.Part("photo").Content)
	require.NotNil(t, c.Part("mark"), "a use of another family is dropped")
	assert.Equal(t, "#2f6132", c.Part("mark").Style["background-color"])
	assert.Equal(t, design.Instance, doc.Family("tag").Variants[0].Root.Children[0].Kind, "the design itself was changed")
}

// A target of a finger has a least size: the sweep knows which parts are pressed (WCAG
// 2.2, 2.5.8).
func TestPressedPartsAreTargets(t *testing.T) {
	root := named("small button", design.Box, 0, 0, 20, 20)
	f := one(root)
	f.Name = "Close button"
	c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	require.Empty(t, found)
	require.Equal(t, "button", c.Root.Element)
	boxes := c.Boxes(contract.Env{}, token.Empty())
	assert.True(t, boxes.Target)
	swept, found := layout.Sweep(boxes, layout.SweepOptions{})
	require.NotNil(t, swept, found)
	require.NotEmpty(t, swept.Bands, "a button of 20 px is no trouble")
	assert.Equal(t, layout.SmallTarget, swept.Bands[0].Kind)
	c.Root.Element = "div"
	assert.False(t, c.Boxes(contract.Env{}, token.Empty()).Target)
}

// Every property that a layer can say is one the table knows, and its raw values are
// allowed there.
func TestWhatLayersSayIsCSS(t *testing.T) {
	doc, _ := demotest.Furrow(t, 3)
	said := map[string]bool{}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			var walk func(l, parent *design.Layer)
			walk = func(l, parent *design.Layer) {
				for property, value := range draft.StyleOf(l, parent) {
					_, err := css.Parse(property, value)
					assert.NoError(t, err)
					said[property] = true
				}
				for _, c := range l.Children {
					walk(c, l)
				}
			}
			walk(v.Root, nil)
		}
	}
	assert.Greater(t, len(said), 15)
}

// Nothing is drafted that could not be emitted: what a drawing says and CSS does not take
// is an error with its place.
func TestADraftEndsInItsCheck(t *testing.T) {
	for columns, ok := range map[string]bool{"1fr 2fr": true, "((": false, "repeat(999999999, 1px)": false, "1fr nonsense(": false} {
		root := named("row", design.Box, 0, 0, 200, 40, named("one", design.Box, 0, 0, 100, 40))
		root.Flow = &design.Flow{Direction: "grid", Columns: columns}
		c, found := draft.OfFamily(&design.Document{ID: "d"}, one(root), token.Empty(), nil)
		assert.Equal(t, ok, c != nil, columns)
		assert.Equal(t, !ok, found.Failed(), columns)
		if !ok {
			assert.Equal(t, "/root/style/grid-template-columns", found[0].Pointer)
		}
	}
}
