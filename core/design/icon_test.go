package design_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/web/reference"
)

// iconSVG is an icon as a page shows it.
func iconSVG(icon *design.Icon) string {
	var b strings.Builder
	box := icon.Drawing.ViewBox
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="%g %g %g %g" fill="currentColor">`, box[0], box[1], box[2], box[3])
	for _, p := range icon.Drawing.Paths {
		fmt.Fprintf(&b, `<path d="%s"`, p.D)
		for name, value := range map[string]string{"fill": p.Fill, "fill-rule": p.Rule, "stroke": p.Stroke.Color, "stroke-linecap": p.Stroke.Cap, "stroke-linejoin": p.Stroke.Join, "stroke-dasharray": p.Stroke.Dash} {
			if value != "" {
				fmt.Fprintf(&b, ` %s="%s"`, name, value)
			}
		}
		if p.Stroke.Width > 0 {
			fmt.Fprintf(&b, ` stroke-width="%g" stroke-dashoffset="%g"`, p.Stroke.Width, p.Stroke.DashOffset)
		}
		if p.Stroke.Miter > 0 {
			fmt.Fprintf(&b, ` stroke-miterlimit="%g"`, p.Stroke.Miter)
		}
		b.WriteString("/>")
	}
	return b.String() + "</svg>"
}

// different counts the pixels, of 96 by 96, 46 of them half a percent, in which Chromium shows two pictures otherwise, soft edges aside.
func different(t *testing.T, pairs [][2]string) []int {
	t.Helper()
	const columns, size, scale = 12, 48, 2
	var body strings.Builder
	at := func(i, which int) (x, y int) { return (i%columns*2 + which) * size, i / columns * size }
	for i, pair := range pairs {
		for which, svg := range pair {
			x, y := at(i, which)
			fmt.Fprintf(&body, `<div class="i" style="left:%dpx;top:%dpx">%s</div>`, x, y, strings.ReplaceAll(inPage(svg, 2*i+which), `href="#`, fmt.Sprintf(`href="#n%d-`, 2*i+which)))
		}
	}
	var shot image.Image
	reference.OnPage(t, "body{margin:0;background:#fff}.i{position:absolute;width:48px;height:48px;overflow:hidden;color:#1f5a30;contain:strict}.i svg{width:48px;height:48px}", body.String(), func(ctx context.Context) {
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(columns*2*size, int64((len(pairs)+columns-1)/columns*size), chromedp.EmulateScale(scale))))
		file, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		shot, err = png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
	})
	out := make([]int, len(pairs))
	ink := func(x, y int) [3]int {
		c := color.NRGBAModel.Convert(shot.At(x, y)).(color.NRGBA)
		return [3]int{int(c.R), int(c.G), int(c.B)}
	}
	for i := range pairs {
		ax, ay := at(i, 0)
		bx, by := at(i, 1)
		for y := range size * scale {
			for x := range size * scale {
				a, b := ink(ax*scale+x, ay*scale+y), ink(bx*scale+x, by*scale+y)
				for c := range 3 {
					if a[c]-b[c] > 48 || b[c]-a[c] > 48 {
						out[i]++
						break
					}
				}
			}
		}
	}
	return out
}

// Icons of a package of the registry, outlined and filled, show as icons what Chromium shows of their files.
func TestIconsShowWhatTheirFilesShow(t *testing.T) {
	var files []string
	for _, kind := range []string{"outline", "filled"} {
		all, err := filepath.Glob("../../web/node_modules/@tabler/icons/icons/" + kind + "/*.svg")
		require.NoError(t, err)
		require.Greater(t, len(all), 500, "the package's files are not where they were")
		r := rand.New(rand.NewPCG(4, 1))
		r.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		files = append(files, all[:180]...)
	}
	var pairs [][2]string
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		icon, found := design.ReadIcon(file, text)
		require.NotNil(t, icon, "%s: %v", file, found)
		assert.Empty(t, found, file)
		pairs = append(pairs, [2]string{string(text), iconSVG(icon)})
	}
	for i, n := range different(t, pairs) {
		assert.LessOrEqual(t, n, 46, "%s: %d pixels differ\n%s", files[i], n, pairs[i][1])
	}
}

// Every feature by itself: it shows as before, or what is lost is said.
func TestAnIconsFeatures(t *testing.T) {
	whole := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">` + inside + `</svg>`
	}
	cases := []struct{ name, svg, cleaned, lost string }{
		{"one colour", whole(`<path d="M2 2h20v20z" fill="#c33"/>`), "its one colour, #cc3333, is the text’s", ""},
		{"no colour", whole(`<path d="M2 2h20v20z"/>`), "its one colour, #000000, is the text’s", ""},
		{"two colours", whole(`<path d="M2 2h20v20z" fill="#c33"/><circle cx="6" cy="18" r="4" fill="teal"/>`), "it keeps its 2 colours", ""},
		{"the text's and one more", whole(`<path d="M2 2h20v20z" fill="currentColor"/><circle cx="6" cy="18" r="4" fill="#33c"/>`), "it keeps its 2 colours", ""},
		{"strokes", whole(`<g fill="none" stroke="currentColor" stroke-width="3" stroke-linecap="round" stroke-linejoin="bevel"><path d="M4 4l16 4L4 20"/><line x1="20" y1="12" x2="20" y2="20"/></g>`), "", ""},
		{"lines that could be filled", whole(`<path stroke="currentColor" d="M4 4L20 20M20 4L4 20"/>`), "", ""},
		{"a corner that is filled", whole(`<path stroke="currentColor" fill="#c33" d="M4 4L20 20V4"/>`), "it keeps its 2 colours", ""},
		{"even and odd", whole(`<path fill="currentColor" fill-rule="evenodd" d="M2 2h20v20h-20zM6 6h12v12h-12z"/>`), "", ""},
		{"winding", whole(`<path fill="currentColor" d="M2 2h20v20h-20zM6 6h12v12h-12z"/>`), "", ""},
		{"shapes", whole(`<g fill="currentColor"><rect x="2" y="2" width="9" height="7" rx="3"/><rect x="13" y="2" width="9" height="7" rx="4" ry="1"/><ellipse cx="7" cy="16" rx="5" ry="3"/><polygon points="14,20 22,20 18,12"/></g><polyline fill="none" stroke="currentColor" points="2,22 8,20 12,23"/>`), "5 shapes are paths now", ""},
		{"turned and moved", whole(`<g transform="translate(12 12) rotate(30)" fill="currentColor"><g transform="scale(.5)"><rect x="-10" y="-6" width="20" height="12" rx="3"/></g></g>`), "2 transforms are drawn into the paths", ""},
		{"by class", whole(`<style>.a{fill:#c33}.b{fill:none;stroke:#c33;stroke-width:2}</style><path class="a" d="M2 2h8v8z"/><path class="b" d="M14 14h6v6"/>`), "style sheet is drawn", ""},
		{"by style", whole(`<path style="fill:none;stroke:currentColor;stroke-width:2.5" d="M4 12h16"/>`), "", ""},
		{"used twice", whole(`<defs><circle id="dot" r="3"/></defs><g fill="currentColor"><use href="#dot" x="6" y="6"/><use href="#dot" x="18" y="18"/></g>`), "2 uses stand in their places", ""},
		{"a symbol", whole(`<symbol id="s" viewBox="0 0 10 10"><path d="M0 0h10v10z"/></symbol><use href="#s" x="2" y="2" width="20" height="12" fill="currentColor"/>`), "what is used stands in its place", ""},
		{"a frame of nothing", whole(`<path d="M0 0h24v24H0z" fill="none"/><path d="M4 4h8v8z" fill="currentColor"/>`), "paints nothing is left out", ""},
		{"hidden", whole(`<g display="none"><path d="M0 0h24v24H0z"/></g><path visibility="hidden" d="M0 0h24v24H0z"/><path d="M4 4h8v8z" fill="currentColor"/>`), "2 hidden shapes are left out", ""},
		{"clipped by the whole", whole(`<defs><clipPath id="c"><rect width="24" height="24"/></clipPath></defs><g clip-path="url(#c)"><path d="M4 4h8v8z" fill="currentColor"/></g>`), "a clip of the whole is left out", ""},
		{"half as opaque, with colours", whole(`<path d="M2 2h20v20z" fill="#c33" opacity=".5"/><path d="M2 12h8v8z" fill="#33c" fill-opacity=".5"/>`), "", ""},
		{"half as opaque, one colour", whole(`<path d="M2 2h20v20z" fill="#c33" opacity=".5"/>`), "", ""},
		{"strokes that are scaled", whole(`<g transform="translate(2 2) scale(2)"><path d="M1 1l8 4" stroke="currentColor" stroke-width="2"/></g>`), "a transform is drawn", ""},
		{"of another origin", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-12 -12 24 24"><circle r="9" fill="currentColor"/></svg>`, "", ""},
		{"without a view box", `<svg xmlns="http://www.w3.org/2000/svg" width="48" height="48"><circle cx="24" cy="24" r="20" fill="currentColor"/></svg>`, "", ""},
		{"a colour of the whole", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" color="#393"><path d="M2 2h20v20z" fill="currentColor"/><path d="M2 12h8v8z" fill="#c33"/></svg>`, "", ""},
		{"clipped", whole(`<defs><clipPath id="c"><circle cx="12" cy="12" r="6"/></clipPath></defs><path clip-path="url(#c)" d="M2 2h20v20z" fill="currentColor"/>`), "", "clip-path is not kept"},
		{"masked", whole(`<mask id="m"><circle r="9" fill="#fff"/></mask><path mask="url(#m)" d="M2 2h20v20z" fill="currentColor"/>`), "", "mask is not kept"},
		{"a gradient", whole(`<linearGradient id="g"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><path fill="url(#g)" d="M2 2h20v20z"/>`), "", "drawn in its first colour"},
		{"dashes", whole(`<path stroke="currentColor" stroke-width="2" stroke-dasharray="3 2" stroke-dashoffset="1" d="M2 12h20"/>`), "", ""},
		{"mitres", whole(`<path fill="none" stroke="currentColor" stroke-width="3" stroke-miterlimit="9" d="M10 21L12 9L14 21"/>`), "", ""},
		{"a stroke under its fill", whole(`<path fill="#c33" stroke="#33c" stroke-width="4" paint-order="stroke" d="M5 5h14v14z"/>`), "it keeps its 2 colours", ""},
		{"markers", whole(`<marker id="m" markerWidth="4" markerHeight="4"><path d="M0 0h4v4z"/></marker><path marker-end="url(#m)" stroke="currentColor" d="M2 12h20"/>`), "", "markers"},
		{"words", whole(`<text y="20" font-size="20">A</text><path d="M2 2h8v8z" fill="currentColor"/>`), "", "texts are left out"},
		{"half the text's", whole(`<path opacity=".5" d="M2 2h20v20z" fill="currentColor"/>`), "", "as opaque as the text"},
		{"a script", whole(`<script>alert(1)</script><path onclick="alert(2)" d="M2 2h8v8z" fill="currentColor"/>`), "an event handler is taken out", "scripts are never kept"},
		{"stretched strokes", whole(`<path transform="scale(2 1)" fill="none" stroke="currentColor" stroke-width="3" d="M2 12h8v8"/>`), "", "stretched"},
	}
	var pairs [][2]string
	var names []string
	for _, k := range cases {
		icon, found := design.ReadIcon(k.name+".svg", []byte(k.svg))
		if !assert.NotNil(t, icon, "%s: %v", k.name, found) {
			continue
		}
		if k.cleaned != "" {
			assert.Contains(t, strings.Join(icon.Cleaned, "; "), k.cleaned, k.name)
		}
		if k.lost != "" {
			assert.Contains(t, found.Error(), k.lost, "%s: a loss that nobody is told of", k.name)
			continue
		}
		assert.Empty(t, found, k.name)
		if strings.Contains(strings.Join(icon.Cleaned, " "), "is the text’s") { // then it is not of its own colour, on purpose
			k.svg = strings.NewReplacer("#c33", "currentColor", `z"/>`, `z" fill="currentColor"/>`).Replace(k.svg)
		}
		pairs, names = append(pairs, [2]string{k.svg, iconSVG(icon)}), append(names, k.name)
	}
	for i, n := range different(t, pairs) {
		assert.LessOrEqual(t, n, 46, "%s: %d pixels differ\n%s", names[i], n, pairs[i][1])
	}
}

// What is no icon says why, and a file that would do harm does none.
func TestWhatIsNoIcon(t *testing.T) {
	for text, want := range map[string]string{
		"":                                 "root element",
		"<html/>":                          "no svg",
		"<svg":                             "not valid XML",
		`<svg viewBox="0 0 24 24"/>`:       "nothing that the file shows",
		`<svg><path d="M0 0h9v9z"/></svg>`: "neither a viewBox",
		`<svg viewBox="0 0 24 24"><text>A</text></svg>`:                                                   "nothing that the file shows",
		`<!DOCTYPE svg [<!ENTITY a "b">]><svg viewBox="0 0 24 24"><path d="M0 0h9v9z"/></svg>`:            "entities",
		`<svg viewBox="0 0 24 24"><g id="a"><use href="#a"/></g></svg>`:                                   "nothing that the file shows",
		`<svg viewBox="0 0 24 24">` + strings.Repeat("<g>", 300) + strings.Repeat("</g>", 300) + "</svg>": "deeper",
		`<svg viewBox="0 0 24 24"><path d="M0 0 L x"/></svg>`:                                             "nothing that the file shows",
	} {
		icon, found := design.ReadIcon("a.svg", []byte(text))
		assert.Nil(t, icon, text)
		assert.ErrorContains(t, found.Err(), want, text[:min(len(text), 60)])
	}
	// Uses of uses double: 2¹⁷ shapes.
	var many strings.Builder
	many.WriteString(`<svg viewBox="0 0 24 24"><g id="g0"><path d="M0 0h9v9z"/></g>`)
	for i := range 17 {
		fmt.Fprintf(&many, `<g id="g%d"><use href="#g%d"/><use href="#g%d"/></g>`, i+1, i, i)
	}
	many.WriteString("</svg>")
	icon, found := design.ReadIcon("a.svg", []byte(many.String()))
	assert.Nil(t, icon)
	assert.ErrorContains(t, found.Err(), "more than")

	icon, _ = design.ReadIcon("shed/leafOutline 24_px.svg", []byte(`<svg viewBox="0 0 24 24"><title>A leaf</title><desc>of a bean</desc><path d="M0 0h9v9z"/></svg>`))
	require.NotNil(t, icon)
	assert.Equal(t, "leaf-outline-24-px", icon.Name)
	assert.Equal(t, "A leaf of a bean", icon.Words)
}

func FuzzReadIcon(f *testing.F) {
	f.Add(`<svg viewBox="0 0 24 24"><path d="M2 2h20v20z" fill="#c33" transform="rotate(3)"/></svg>`)
	f.Add(`<svg width="9" height="9"><symbol id="s"><rect width="3" height="3" rx="9"/></symbol><use href="#s"/></svg>`)
	f.Fuzz(func(t *testing.T, text string) {
		icon, found := design.ReadIcon("a.svg", []byte(text))
		if (icon == nil) != found.Failed() {
			t.Fatalf("an icon, or an error: %v", found)
		}
		if icon == nil {
			return
		}
		again, found := design.ReadIcon("a.svg", []byte(iconSVG(icon)))
		if again == nil {
			t.Fatalf("what was made of it is no icon: %v\n%s", found, iconSVG(icon))
		}
	})
}
