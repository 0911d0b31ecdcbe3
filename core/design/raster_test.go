package design_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/draft/drafttest"
	"cobrik/web/reference"
)

// plate is a drawing of boxes and lines that overlap, are turned, clipped and blended.
func plate(r *rand.Rand, n int) *design.Layer {
	l := &design.Layer{ID: fmt.Sprintf("plate%d", n), Name: "Plate", Kind: design.Group, Bounds: design.Rect{Width: 120, Height: 90}}
	ground := &design.Layer{ID: "ground", Kind: design.Box, Fill: "#e9e2d2", Bounds: design.Rect{X: 4, Y: 4, Width: 100, Height: 70}, Radius: []float64{6}}
	l.Children = append(l.Children, ground)
	for i := range 1 + r.IntN(3) {
		one := drafttest.PaintedBox(r, i)
		if r.IntN(4) == 0 {
			join, ends := []string{"", "round", "bevel"}[r.IntN(3)], []string{"", "round", "square"}[r.IntN(3)]
			one = &design.Layer{Kind: design.Vector, Bounds: design.Rect{Width: 40, Height: float64(30 + r.IntN(20))}, Fill: []string{"none", "#2f6d5a"}[r.IntN(2)], Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 20, 20}, Paths: []design.Path{
				{D: []string{"M3 4L9 16L15 3L17 12", "M4 10C4 4 16 4 16 10S10 18 4 10Z", "M3 3H17V17H3ZM7 7V13H13V7Z", "M2 10A8 5 20 1 1 18 10", "M3 10H17M10 3Q18 10 10 17T4 4"}[r.IntN(5)],
					Stroke: design.PathStroke{Color: []string{"#c7502f", "#1f1a15a0"}[r.IntN(2)], Width: float64(1 + r.IntN(3)), Cap: ends, Join: join}}}}}
		}
		one.ID, one.Bounds.X, one.Bounds.Y = fmt.Sprintf("l%d", i), float64(r.IntN(40)), float64(r.IntN(30))
		if r.IntN(3) == 0 {
			one.Rotation = float64(r.IntN(360))
		}
		l.Children = append(l.Children, one)
	}
	return l
}

// A layer as a PNG file is what Chromium shows of the same layer, pixel by pixel, but for a few at
// the edges.
func TestPNGIsWhatChromiumPaints(t *testing.T) {
	const columns, count, room, scale = 10, 100, 120, 2
	r := rand.New(rand.NewPCG(3, 8))
	var body strings.Builder
	var files []image.Image
	doc := &design.Document{}
	for n := range count {
		l := plate(r, n)
		file, err := doc.PNG(l, scale)
		require.NoError(t, err)
		painted, err := png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
		require.Equal(t, image.Rect(0, 0, 240, 180), painted.Bounds())
		files = append(files, painted)
		fmt.Fprintf(&body, `<div style="position:absolute;isolation:isolate;left:%dpx;top:%dpx">%s</div>`, n%columns*room, n/columns*room, inPage(doc.Picture(l), n))
	}
	var shot image.Image
	reference.OnPage(t, "body{margin:0;background:#fff}", body.String(), func(ctx context.Context) {
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(columns*room, count/columns*room, chromedp.EmulateScale(scale))))
		file, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		shot, err = png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
	})
	require.Equal(t, columns*room*scale, shot.Bounds().Dx())
	wrong := 0
	for n, painted := range files {
		far, sum := 0, 0
		for y := range 90 * scale {
			for x := range 120 * scale {
				want := color.NRGBAModel.Convert(shot.At(n%columns*room*scale+x, n/columns*room*scale+y)).(color.NRGBA)
				c := color.NRGBAModel.Convert(painted.At(x, y)).(color.NRGBA)
				d := 0
				for _, v := range [][2]uint8{{c.R, want.R}, {c.G, want.G}, {c.B, want.B}} {
					on := (int(v[0])*int(c.A) + 255*(255-int(c.A))) / 255
					d = max(d, on-int(v[1]), int(v[1])-on)
				}
				sum += d
				if d > 40 {
					far++
				}
			}
		}
		if mean := float64(sum) / (90 * 120 * scale * scale); far > 40 || mean > 1 {
			t.Errorf("plate %d: %d pixels are far off, by %.2f on average\n%s", n, far, mean, doc.Picture(plateOf(n)))
			if wrong++; wrong > 4 {
				return
			}
		}
	}
}

// inPage gives a picture names that no other picture in a page has.
func inPage(picture string, n int) string {
	return strings.NewReplacer("<svg ", `<svg style="display:block" `, ` id="`, fmt.Sprintf(` id="n%d-`, n), "url(#", fmt.Sprintf("url(#n%d-", n)).Replace(picture)
}

// plateOf draws a plate again.
func plateOf(n int) *design.Layer {
	r := rand.New(rand.NewPCG(3, 8))
	for i := range n {
		plate(r, i)
	}
	return plate(r, n)
}

// What cannot be painted is said, never left out.
func TestPNGSaysWhatItCannotPaint(t *testing.T) {
	image := func(source string) *design.Layer {
		return &design.Layer{ID: "a", Kind: design.Image, Bounds: design.Rect{Width: 8, Height: 8}, Image: &design.ImageContent{Shown: &design.Asset{Source: source, Width: 8, Height: 8}}}
	}
	text := &design.Layer{ID: "a", Kind: design.Text, Bounds: design.Rect{Width: 8, Height: 8}, Text: &design.TextContent{Content: "x", FontSize: 12}}
	for name, one := range map[string]struct {
		layer *design.Layer
		says  string
	}{
		"words":         {text, "words"},
		"an SVG":        {image("data:image/svg+xml,%3Csvg/%3E"), "svg+xml"},
		"half an image": {image("data:image/png;base64,iVBORw0KGgo"), "image"},
		"an address":    {image("https://example.org/a.png"), "elsewhere"},
		"a huge one":    {&design.Layer{ID: "a", Kind: design.Box, Bounds: design.Rect{Width: 1e5, Height: 1e5}}, "pixels"},
		"no colour":     {&design.Layer{ID: "a", Kind: design.Box, Fill: "mud", Bounds: design.Rect{Width: 8, Height: 8}}, "mud"},
		"no gradient":   {&design.Layer{ID: "a", Kind: design.Box, Fills: []design.Fill{{Gradient: &design.Gradient{Kind: "linear", Stops: []design.Stop{{Color: "mud"}}}}}, Bounds: design.Rect{Width: 8, Height: 8}}, "mud"},
		"no path":       {&design.Layer{ID: "a", Kind: design.Vector, Bounds: design.Rect{Width: 8, Height: 8}, Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: "L nowhere"}}}}, "path"},
		"deep groups":   {deep(40), "more than can be painted"},
		"a wide blur":   {&design.Layer{ID: "a", Kind: design.Box, Bounds: design.Rect{Width: 2000, Height: 2000}, Shadows: []design.Shadow{{Blur: 5000, Color: "#000000"}}}, "more than can be painted"},
		"nothing":       {&design.Layer{ID: "a", Kind: design.Box}, "pixels"},
	} {
		_, err := (&design.Document{}).PNG(one.layer, 1)
		if assert.Error(t, err, name) {
			assert.Contains(t, err.Error(), one.says, name)
		}
	}
	var file bytes.Buffer
	dots := make4()
	require.NoError(t, png.Encode(&file, dots))
	painted, err := (&design.Document{}).PNG(image("data:image/png;base64,"+base64.StdEncoding.EncodeToString(file.Bytes())), 1)
	require.NoError(t, err)
	got, err := png.Decode(bytes.NewReader(painted))
	require.NoError(t, err)
	assert.Equal(t, color.NRGBA{R: 200, G: 80, B: 40, A: 255}, color.NRGBAModel.Convert(got.At(4, 4)))
}

// deep is a large box that stands in so many others, each half opaque.
func deep(n int) *design.Layer {
	half := 0.5
	l := &design.Layer{ID: "a", Kind: design.Box, Fill: "#336633", Bounds: design.Rect{Width: 1500, Height: 1500}, Opacity: &half}
	for range n {
		l = &design.Layer{ID: "a", Kind: design.Box, Bounds: design.Rect{Width: 1500, Height: 1500}, Opacity: &half, Children: []*design.Layer{l}}
	}
	return l
}

// make4 is a picture of one colour.
func make4() image.Image {
	out := image.NewNRGBA(image.Rect(0, 0, 4, 4))
	for i := range 16 {
		copy(out.Pix[4*i:], []uint8{200, 80, 40, 255})
	}
	return out
}
