package draft_test

import (
	"bytes"
	"encoding/base64"
	"html"
	"image"
	"image/png"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
)

// flatMark is a layer to be flattened, of two boxes of which one is in a colour.
func flatMark(color string, more ...*design.Layer) *design.Layer {
	leaf := &design.Layer{ID: "leaf", Name: "Leaf", Kind: design.Box, Fill: color, Bounds: design.Rect{X: 4, Y: 4, Width: 8, Height: 8}}
	return &design.Layer{ID: "mark", Name: "Mark", Kind: design.Group, Flatten: "svg", Alt: "A leaf", Bounds: design.Rect{Width: 24, Height: 16}, Children: append([]*design.Layer{leaf}, more...)}
}

// What is marked to be flattened is one picture of the library, as large as drawn; what it holds is
// no part.
func TestFlattenedLayersBecomePictures(t *testing.T) {
	f := drafttest.Family("Seal", []design.Axis{drafttest.Axis("Size", "m", "s")}, func(c map[string]string) *design.Layer {
		mark := flatMark("#336633")
		if c["Size"] == "s" {
			mark.Hidden = true
		}
		return boxOf("seal", "Seal", row, mark, textOf("label", "Label", "Sown"))
	})
	c, source, components, found := drafted(t, f)
	require.Len(t, c.Root.Children, 2)
	mark := c.Root.Children[0]
	picture := mark.Content.(contract.Picture)
	assert.Equal(t, "img", mark.Element)
	assert.Empty(t, mark.Children, "what was flattened is drawn, not built")
	assert.Equal(t, "A leaf", picture.Alt)
	assert.Equal(t, [2]float64{24, 16}, [2]float64{picture.Width, picture.Height})
	drawn, err := url.PathUnescape(strings.TrimPrefix(picture.Source, "data:image/svg+xml,"))
	require.NoError(t, err)
	assert.Contains(t, drawn, `fill="#336633"`)
	assert.True(t, mark.ShownWhen.Holds(contract.EnvOf(contract.Values{"size": contract.OptionValue("m")})))
	assert.False(t, mark.ShownWhen.Holds(contract.EnvOf(contract.Values{"size": contract.OptionValue("s")})), "it is hidden as other layers are")
	assert.Empty(t, found, "nothing is lost of it")
	assertAgreed(t, c, source, components)
	assert.Contains(t, html.UnescapeString((&design.Document{}).Draw(source.Default().Root)), picture.Source, "a drawing of it shows what stands for a missing picture")
}

// A layer that is to be a PNG file is one, of so many pixels; where it cannot be painted it is an SVG file, and
// that is said.
func TestAPNGIsPaintedAtItsScale(t *testing.T) {
	for scale, want := range map[float64]image.Point{0: {X: 48, Y: 32}, 3: {X: 72, Y: 48}} {
		mark := flatMark("#336633")
		mark.Flatten, mark.FlattenScale = "png", scale
		c, source, components, found := drafted(t, one(boxOf("seal", "Seal", row, mark)))
		assert.Empty(t, found)
		picture := c.Root.Children[0].Content.(contract.Picture)
		assert.Equal(t, [2]float64{24, 16}, [2]float64{picture.Width, picture.Height}, "it is as large as drawn, whatever it is made of")
		text, is := strings.CutPrefix(picture.Source, "data:image/png;base64,")
		require.True(t, is)
		file, err := base64.StdEncoding.DecodeString(text)
		require.NoError(t, err)
		painted, err := png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
		assert.Equal(t, want, painted.Bounds().Size())
		assertAgreed(t, c, source, components)
	}
	mark := flatMark("#336633", textOf("word", "Word", "Leek"))
	mark.Flatten = "png"
	c, _, _, found := drafted(t, one(boxOf("seal", "Seal", row, mark)))
	assert.Contains(t, found, "mark becomes an SVG file, no PNG: it holds words")
	assert.Contains(t, c.Root.Children[0].Content.(contract.Picture).Source, "data:image/svg+xml,")
}

// A family that is flattened whole is one picture.
func TestAFamilyMayBeOnePicture(t *testing.T) {
	mark := flatMark("#336633")
	c, source, components, _ := drafted(t, drafttest.Family("Leaf", nil, func(map[string]string) *design.Layer { return mark }))
	assert.Equal(t, "img", c.Root.Element)
	assert.NotEmpty(t, c.Root.Content.(contract.Picture).Source)
	assertAgreed(t, c, source, components)
}

// What a picture loses of the layers it is made of is said, each once: words, tokens, what lies
// outside; and that it is drawn otherwise in a variant.
func TestWhatFlatteningLosesIsSaid(t *testing.T) {
	for name, c := range map[string]struct {
		more *design.Layer
		want string
	}{
		"words":   {textOf("word", "Word", "Leek"), "flatten-text"},
		"tokens":  {&design.Layer{ID: "b", Name: "B", Kind: design.Box, Fill: "#ffffff", Tokens: map[string]string{"background-color": "page.ground"}, Bounds: design.Rect{Width: 2, Height: 2}}, "flatten-tokens"},
		"outside": {&design.Layer{ID: "b", Name: "B", Kind: design.Box, Fill: "#ffffff", Bounds: design.Rect{X: 20, Width: 8, Height: 2}}, "flatten-cut"},
	} {
		doc := &design.Document{ID: "d", Families: []*design.Family{one(boxOf("seal", "Seal", row, flatMark("#336633", c.more)))}}
		_, found := draft.Source(doc, contract.Origin{Family: "f"}, font.Shipped(), nil)
		var rules []string
		for _, p := range found {
			rules = append(rules, p.Rule)
		}
		if c.want == "flatten-text" { // it is wider than the mark, too
			assert.Equal(t, []string{"flatten-text", "flatten-cut"}, rules, name)
			continue
		}
		assert.Equal(t, []string{c.want}, rules, name)
	}
	f := drafttest.Family("Seal", []design.Axis{drafttest.Axis("Tone", "calm", "loud")}, func(c map[string]string) *design.Layer {
		return boxOf("seal", "Seal", row, flatMark(map[string]string{"calm": "#336633", "loud": "#ff0000"}[c["Tone"]]))
	})
	_, _, _, found := drafted(t, f)
	assert.Contains(t, found, "is flattened into another picture than")
}
