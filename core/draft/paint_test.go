package draft_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// Chromium paints the styles read from a box as it paints the picture that is drawn of the box:
// what a page will look like is what people see here of their design. And it says of itself what
// was read, in the form that facts are compared in.
func TestBoxesArePaintedAsDrawn(t *testing.T) {
	const room, columns = 130, 12
	r := rand.New(rand.NewPCG(11, 26))
	var boxes []*design.Layer
	for n := range 120 {
		boxes = append(boxes, drafttest.PaintedBox(r, n))
	}
	page := func(draw func(l *design.Layer) string) string {
		var b strings.Builder
		for i, l := range boxes {
			fmt.Fprintf(&b, `<div class="cell" style="position:absolute;overflow:hidden;left:%dpx;top:%dpx;width:%dpx;height:%dpx;background:#e9e2d2;isolation:isolate"><div style="position:absolute;left:20px;top:20px">%s</div></div>`,
				i%columns*room, i/columns*room, room, room, draw(l))
		}
		return b.String()
	}
	styled := page(func(l *design.Layer) string {
		inner := ""
		for _, c := range l.Children {
			inner += fmt.Sprintf(`<div style='%s'></div>`, declared(draft.StyleOf(c, l)))
		}
		return fmt.Sprintf(`<div class="box" style='box-sizing:border-box;width:%gpx;height:%gpx;position:relative;%s'>%s</div>`, l.Bounds.Width, l.Bounds.Height, declared(draft.StyleOf(l, nil)), inner)
	})
	drawn := page(func(l *design.Layer) string { // a picture blends as a whole only where it is not one of its own
		svg := (&design.Document{}).Draw(l)
		return strings.Replace(svg, "<svg ", `<svg style="display:block;overflow:visible" `, 1)
	})
	shoot := func(body string, ask func(ctx context.Context)) (out image.Image) {
		reference.OnPage(t, "body{margin:0}", body, func(ctx context.Context) {
			ask(ctx)
			require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(columns*room, int64(len(boxes)/columns*room))))
			shot, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
			require.NoError(t, err)
			out, err = png.Decode(bytes.NewReader(shot))
			require.NoError(t, err)
		})
		return out
	}
	var computed []map[string]string
	want := shoot(styled, func(ctx context.Context) {
		var err error
		computed, err = chromedp.Run(ctx, chromedp.Evaluate[[]map[string]string](`[...document.querySelectorAll(".box")].map((e) => Object.fromEntries(
			["background-color", "background-image", "box-shadow", "mix-blend-mode", "border-radius", "opacity"].map((p) => [p, getComputedStyle(e).getPropertyValue(p)])))`))
		require.NoError(t, err)
	})
	got := shoot(drawn, func(context.Context) {})
	for i, l := range boxes {
		style := draft.StyleOf(l, nil)
		for property, value := range computed[i] {
			known, _ := css.PropertyNamed(property)
			said := known.Initial
			if v, ok := style[property]; ok {
				said = css.CanonicalText(property, v, 16)
			}
			if said != css.CanonicalText(property, value, 16) && !css.SameText(said, css.CanonicalText(property, value, 16), 0.01) {
				t.Errorf("box %d: %s: read as %s, Chromium says %s", i, property, said, value)
			}
		}
		if far, most := differing(want, got, i%columns*room, i/columns*room, room); far > 3 {
			t.Errorf("box %d: %d pixels differ, by at most %d of 255; %v", i, far, most, style)
		}
	}
	assert.Len(t, computed, len(boxes))
}

func declared(style contract.Style) string {
	var out []string
	for _, property := range style.Properties() {
		out = append(out, property+":"+style[property])
	}
	return strings.Join(out, ";")
}

// differing counts the pixels of a square of two pictures that lie outside of what the other has
// around them, as those of soft edges do not, and how far at most, of 255.
func differing(a, b image.Image, x0, y0, size int) (far, most int) {
	for y := y0 + 1; y < y0+size-1; y++ {
		for x := x0 + 1; x < x0+size-1; x++ {
			off := 0
			for channel := range 3 {
				v, least, largest := at(a, x, y)[channel], 255, 0
				for dy := -1; dy <= 1; dy++ {
					for dx := -1; dx <= 1; dx++ {
						w := at(b, x+dx, y+dy)[channel]
						least, largest = min(least, w), max(largest, w)
					}
				}
				off = max(off, least-v, v-largest)
			}
			most = max(most, off)
			if off > 12 {
				far++
			}
		}
	}
	return far, most
}

func at(m image.Image, x, y int) [3]int {
	r, g, b, _ := m.At(x, y).RGBA()
	return [3]int{int(r >> 8), int(g >> 8), int(b >> 8)}
}

// What CSS has no plain image for is a gradient of one colour; what an opaque fill covers is left
// out, and said (CSS Backgrounds 3, 2.11: images lie over the colour, the first on top).
func TestFillsBecomeBackgrounds(t *testing.T) {
	sun := &design.Gradient{Kind: "linear", Angle: 90, Stops: []design.Stop{{At: 0, Color: "#ff0000", Token: "page.sun"}, {At: 0.5, Color: "#ffffff"}}}
	glow := &design.Gradient{Kind: "radial", Stops: []design.Stop{{At: 0, Color: "#ff0000"}, {At: 1, Color: "#ff000000"}}}
	for _, c := range []struct {
		what    string
		layer   design.Layer
		ground  string
		images  []string
		covered bool
	}{
		{"a fill alone", design.Layer{Fill: "#123456"}, "#123456", nil, false},
		{"a gradient over it", design.Layer{Fill: "#123456", Fills: []design.Fill{{Gradient: sun}}}, "#123456", []string{"linear-gradient(90deg, {page.sun} 0%, #ffffff 50%)"}, false},
		{"a gradient over nothing", design.Layer{Fills: []design.Fill{{Gradient: glow}}}, "", []string{"radial-gradient(50% 50% at 50% 50%, #ff0000 0%, #ff000000 100%)"}, false},
		{"a veil over a fill", design.Layer{Fill: "#123456", Fills: []design.Fill{{Color: "#00000080", Token: "clear.shade"}}}, "#123456", []string{"linear-gradient({clear.shade}, {clear.shade})"}, false},
		{"a veil over nothing is a colour", design.Layer{Fills: []design.Fill{{Color: "#00000080"}}}, "#00000080", nil, false},
		{"an opaque fill covers", design.Layer{Fill: "#123456", Fills: []design.Fill{{Gradient: glow}, {Color: "#ffffff", Token: "page.ground"}, {Gradient: sun}}}, "{page.ground}", []string{"radial-gradient(50% 50% at 50% 50%, #ff0000 0%, #ff000000 100%)"}, true},
		{"and covers nothing", design.Layer{Fills: []design.Fill{{Color: "#ffffff"}}}, "#ffffff", nil, false},
		{"a token of the whole", design.Layer{Fill: "#123456", Tokens: map[string]string{"background-image": "gradient.dawn"}, Fills: []design.Fill{{Gradient: sun}}}, "#123456", []string{"{gradient.dawn}"}, false},
	} {
		ground, images, covered := c.layer.Grounds()
		assert.Equal(t, c.ground, ground, c.what)
		assert.Equal(t, strings.Join(c.images, ", "), strings.Join(images, ", "), c.what)
		assert.Equal(t, c.covered, covered, c.what)
	}
}

const dawn = `{"page": {"$type": "color", "ground": {"$value": "%s"}, "sun": {"$value": "#ff8800"}, "sunk": {"$value": "#eeeeee"}},
 "shadow": {"$type": "shadow", "rest": {"$value": {"color": "#00000040", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 1, "unit": "px"}, "blur": {"value": 3, "unit": "px"}, "spread": {"value": %d, "unit": "px"}}}},
 "gradient": {"$type": "gradient", "dawn": {"$value": [{"color": "%s", "position": 0}, {"color": "#ffffff", "position": 1}]}}}`

// Raw stops, shadows and gradients that equal a token's become references to it; a stop that is
// bound to a token with another value, or to none, is said.
func TestPaintIsBoundToTokens(t *testing.T) {
	day, _ := token.Read(token.File{Name: "t", Text: fmt.Appendf(nil, dawn, "#ffeecc", 0, "#ff8800")})
	box := func(change func(l *design.Layer)) *design.Layer {
		l := &design.Layer{ID: "b", Name: "Bed", Kind: design.Box, Bounds: design.Rect{Width: 40, Height: 20}}
		change(l)
		return l
	}
	gradient := func(stops ...design.Stop) func(l *design.Layer) {
		return func(l *design.Layer) {
			l.Fills = []design.Fill{{Gradient: &design.Gradient{Kind: "linear", Angle: 90, Stops: stops}}}
		}
	}
	style := func(l *design.Layer) map[string]string { return draft.StyleWithTokens(l, nil, "Bed", day) }
	assert.Equal(t, "linear-gradient(90deg, {page.ground} 0%, #123456 100%)", style(box(gradient(design.Stop{At: 0, Color: "#ffeecc"}, design.Stop{At: 1, Color: "#123456"})))["background-image"])
	assert.Equal(t, "{shadow.rest}", style(box(func(l *design.Layer) { l.Shadows = []design.Shadow{{Y: 1, Blur: 3, Color: "#00000040"}} }))["box-shadow"])
	assert.Equal(t, "0px 2px 3px #00000040", style(box(func(l *design.Layer) { l.Shadows = []design.Shadow{{Y: 2, Blur: 3, Color: "#00000040"}} }))["box-shadow"])
	whole := box(gradient(design.Stop{At: 0, Color: "#ff8800"}, design.Stop{At: 1, Color: "#ffffff"}))
	whole.Fills[0].Gradient.Angle = 180
	assert.Equal(t, "{gradient.dawn}", style(whole)["background-image"])

	for stop, want := range map[design.Stop]string{
		{Color: "#ffeecc", Token: "page.ground"}: "[]",
		{Color: "#123456", Token: "page.ground"}: "layer-stale",
		{Color: "#123456", Token: "page.grond"}:  "layer-token",
	} {
		doc := &design.Document{ID: "d"}
		_, found := draft.OfFamily(doc, one(box(gradient(stop, design.Stop{At: 1, Color: "#ffffff"}))), day, nil)
		assert.Contains(t, fmt.Sprint(found, rulesOf(found)), want, "%v", stop)
	}
}

func rulesOf(found problem.List) (out []string) {
	for _, p := range found {
		out = append(out, p.Rule)
	}
	return out
}

// In a theme the picture of a drawing has what its tokens are there: colours of stops, shadows,
// gradients; what is bound to none stays.
func TestPaintInATheme(t *testing.T) {
	dusk, _ := token.Read(token.File{Name: "t", Text: fmt.Appendf(nil, dawn, "#221100", 2, "#000066")})
	l := &design.Layer{ID: "b", Kind: design.Box, Fill: "#ffeecc", Tokens: map[string]string{"background-color": "page.ground", "box-shadow": "shadow.rest"}, Shadows: []design.Shadow{{Y: 1, Blur: 3, Color: "#00000040"}},
		Fills: []design.Fill{{Color: "#00000010", Token: "page.sunk"}, {Gradient: &design.Gradient{Kind: "linear", Stops: []design.Stop{{Color: "#ffeecc", Token: "page.ground"}, {At: 1, Color: "#123456"}}}}}}
	shown := draft.InTheme(l, dusk)
	assert.Equal(t, "#221100", shown.Fill)
	assert.Equal(t, []design.Shadow{{Y: 1, Blur: 3, Spread: 2, Color: "#00000040"}}, shown.Shadows)
	assert.Equal(t, "#eeeeee", shown.Fills[0].Color)
	assert.Equal(t, []design.Stop{{Color: "#221100", Token: "page.ground"}, {At: 1, Color: "#123456"}}, shown.Fills[1].Gradient.Stops)
	assert.Equal(t, "#ffeecc", l.Fills[1].Gradient.Stops[0].Color, "the drawing itself is changed")
	l.Tokens["background-image"] = "gradient.dawn"
	assert.Equal(t, []design.Fill{{Gradient: &design.Gradient{Kind: "linear", Angle: 180, Stops: []design.Stop{{Color: "#000066"}, {At: 1, Color: "#ffffff"}}}}}, draft.InTheme(l, dusk).Fills)
}

// Stops that say no place stand evenly between those that do (CSS Images 3, 3.5.3).
func TestGradientsAreRead(t *testing.T) {
	at := func(text string) (out []float64) {
		g := design.ParseGradient(text)
		if g == nil {
			return nil
		}
		for _, s := range g.Stops {
			out = append(out, s.At)
		}
		return out
	}
	assert.Equal(t, []float64{0, 1}, at("linear-gradient(red, blue)"))
	assert.Equal(t, []float64{0, 0.25, 0.5, 1}, at("linear-gradient(45deg, red, #fff, blue 50%, red)"))
	assert.InDeltaSlice(t, []float64{0.2, 0.6, 1}, at("linear-gradient(red 20%, #fff, blue)"), 1e-9)
	for _, other := range []string{"", "none", "red", "radial-gradient(red, blue)", "linear-gradient(to top left, red, blue)", "linear-gradient(red 2px, blue)", "linear-gradient(red, blue), linear-gradient(red, blue)", "{a}"} {
		assert.Nil(t, design.ParseGradient(other), other)
	}
}

// What a text, a drawing of paths or a use cannot have of a box's paint is said with the layer's id.
func TestPaintThatIsLeftOutIsSaid(t *testing.T) {
	glow := []design.Fill{{Gradient: &design.Gradient{Kind: "linear", Stops: []design.Stop{{Color: "#ff0000"}, {At: 1, Color: "#00ff00"}}}}}
	label := textOf("label", "Label", "Sown")
	label.Fills, label.Stroke = glow, &design.Stroke{Color: "#ff0000", Width: 1}
	icon := &design.Layer{ID: "icon", Name: "Icon", Kind: design.Vector, Bounds: design.Rect{Width: 8, Height: 8}, Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: "M0 0H8V8Z"}}},
		Shadows: []design.Shadow{{Y: 1, Color: "#000000"}}}
	tag := use("tag1", nil)
	icon.Link = "/beds"
	tag.Radius, tag.Fill = []float64{4}, "#ff0000"
	root := boxOf("root", "Root", row, label, icon, tag)
	root.Fills = []design.Fill{{Color: "#ffffff"}}
	f := drafttest.Family("Line", nil, func(map[string]string) *design.Layer { return root })
	c, _, _, found := drafted(t, f, tagFamily)
	for _, want := range []string{"has fills over its own and a line around it, which a text in CSS cannot have", "has a shadow, which a drawing of paths cannot have",
		"has a fill of its own and rounded corners, which a use of a component cannot have", "a fill of the layer line-0-root lets nothing through", "the layer line-0-icon leads somewhere"} {
		assert.Contains(t, found, want)
	}
	for _, p := range c.Root.Children {
		for _, property := range []string{"background-image", "border-width", "box-shadow", "border-radius", "background-color"} {
			assert.Empty(t, p.Style[property], "%s has %s", p.Name, property)
		}
	}
}

// What a component says of its own texts is inherited by whatever stands in its slot; that those break no lines would push it off the page.
func TestWhatStandsInASlotBreaksItsLines(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 2)
	c, _, _ := draft.Of(doc, contract.Origin{Document: doc.ID, Family: "page-shell"}, "", tokens, font.Shipped(), nil)
	require.NotNil(t, c)
	assert.Empty(t, c.Root.Style["white-space"])
	assert.Equal(t, "nowrap", c.Part("logo").Style["white-space"], "the component's own texts break")
}
