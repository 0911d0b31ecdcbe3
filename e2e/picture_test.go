package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/demo/demotest"
)

// The pictures we draw, laid out by Chromium: every layer's element must stand
// where the document says, to half a pixel; texts as wide as drawn and in the
// middle of their line (CSS Inline 3, 5.1).
func TestPicturesStandWhereTheDocumentSays(t *testing.T) {
	doc, _ := demotest.Furrow(t, 3)
	font, err := filepath.Abs("../web/dist/preview/hanken-grotesk-latin-wght-normal.woff2")
	require.NoError(t, err)
	var html strings.Builder
	fmt.Fprintf(&html, `<!doctype html><style>@font-face { font-family: "Hanken Grotesk"; src: url("file://%s"); font-weight: 100 900 } div { position: relative }</style>`, font)
	type expectation struct {
		layer *design.Layer
		x, y  float64
	}
	var want []expectation
	pictures := 0
	expect := func(root *design.Layer, svg string) {
		fmt.Fprintf(&html, `<div data-picture="%d">%s</div>`, pictures, svg)
		pictures++
		var walk func(l *design.Layer, x, y float64)
		walk = func(l *design.Layer, x, y float64) {
			if l.Hidden {
				return
			}
			if l.Kind == design.Text || l.Kind == design.Box && l.Fill != "" && l.Stroke == nil {
				want = append(want, expectation{l, x, y})
			}
			for _, c := range l.Children {
				walk(c, x+c.Bounds.X, y+c.Bounds.Y)
			}
		}
		walk(root, 0, 0)
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			expect(v.Root, doc.Draw(v.Root))
		}
	}
	file := filepath.Join(t.TempDir(), "pictures.html")
	require.NoError(t, os.WriteFile(file, []byte(html.String()), 0o644))
	p := openPage(t, &app{})
	p.do(chromedp.Navigate("file://" + file))
	type box struct{ X, Y, Width, Height float64 }
	got := evaluate[map[string]box](p, `(async () => {
		document.body.getBoundingClientRect();
		await document.fonts.ready;
		const out = {};
		for (const g of document.querySelectorAll("[data-layer]")) {
			const picture = g.closest("svg").getBoundingClientRect();
			const own = [...g.children].filter((e) => e.tagName !== "g");
			if (own.length === 0 || out[g.dataset.layer]) continue; // the first: uses of a family come later
			const b = own[0].getBoundingClientRect();
			out[g.dataset.layer] = { X: b.x - picture.x, Y: b.y - picture.y, Width: b.width, Height: b.height };
			// A text's box holds its ink; what is drawn is its advance (SVG 2, 11.4).
			if (own[0].tagName === "text") out[g.dataset.layer].Width = own[0].getComputedTextLength();
		}
		return out;
	})()`)
	require.Greater(t, len(want), 40)
	for _, e := range want {
		is, ok := got[e.layer.ID]
		if !assert.True(t, ok, "%s is not drawn", e.layer.ID) {
			continue
		}
		b := e.layer.Bounds
		near := func(what string, want, is float64) {
			assert.LessOrEqual(t, math.Abs(want-is), 0.5, "%s %q: %s is %.2f, drawn at %.2f", e.layer.ID, e.layer.Name, what, is, want)
		}
		near("left", e.x, is.X)
		if e.layer.Kind == design.Text && e.layer.Sizing.Width == "fill" { // as wide as its box at most, in lines
			assert.LessOrEqual(t, is.Width, b.Width*b.Height/e.layer.Text.LineHeight+1, "%s is wider than its lines", e.layer.ID)
		} else {
			near("width", b.Width, is.Width)
		}
		near("the middle", e.y+b.Height/2, is.Y+is.Height/2)
		if e.layer.Kind == design.Box {
			near("height", b.Height, is.Height)
		}
	}
}
