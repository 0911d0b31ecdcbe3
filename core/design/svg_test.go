package design

import (
	"cobrik/core/font"
	"cobrik/web/reference"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
)

func importText(t testing.TB, text string) (*Document, problem.List) {
	t.Helper()
	fonts := font.Shipped()
	doc, found := ImportSVG("drawing.svg", []byte(text), fonts)
	if doc != nil {
		readAgain(t, doc)
	}
	return doc, found
}

// readAgain reads what is imported as the design document it is.
func readAgain(t testing.TB, doc *Document) bool {
	t.Helper()
	written, err := json.Marshal(doc)
	require.NoError(t, err)
	again, problems := Read("drawing.design.json", written)
	require.NotNil(t, again, "what is imported is a design document: %v", problems)
	return true
}

// svgShapes writes shapes with random transforms, each with an id.
func svgShapes(r *rand.Rand, count int) string {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400" viewBox="0 0 600 400">`)
	n := func(low, high float64) float64 { return math.Round((low+r.Float64()*(high-low))*10) / 10 }
	for i := range count {
		transform := ""
		switch r.IntN(6) {
		case 0:
			transform = fmt.Sprintf(`transform="translate(%g,%g)"`, n(0, 50), n(0, 50))
		case 1:
			transform = fmt.Sprintf(`transform="scale(%g %g)"`, n(0.5, 1.5), n(0.5, 1.5))
		case 2:
			transform = fmt.Sprintf(`transform="matrix(%g 0 0 %g %g %g)"`, n(0.5, 2), n(0.5, 2), n(0, 20), n(0, 20))
		case 3:
			transform = fmt.Sprintf(`transform="translate(%g) skewX(%g)"`, n(0, 20), n(-20, 20))
		}
		x, y := n(20, 300), n(20, 200)
		fmt.Fprintf(&b, `<g %s>`, transform)
		switch r.IntN(7) {
		case 0:
			fmt.Fprintf(&b, `<rect id="s%d" x="%g" y="%g" width="%g" height="%g"/>`, i, x, y, n(5, 90), n(5, 90))
		case 1:
			fmt.Fprintf(&b, `<circle id="s%d" cx="%g" cy="%g" r="%g"/>`, i, x, y, n(3, 40))
		case 2:
			fmt.Fprintf(&b, `<ellipse id="s%d" cx="%g" cy="%g" rx="%g" ry="%g"/>`, i, x, y, n(3, 40), n(3, 40))
		case 3:
			fmt.Fprintf(&b, `<polygon id="s%d" points="%g,%g %g,%g %g %g"/>`, i, x, y, x+n(5, 50), y+n(-9, 9), x+n(0, 30), y+n(10, 60))
		case 4:
			fmt.Fprintf(&b, `<path id="s%d" d="M%g %gc%g %g %g %g %g %gq%g-%g 20 5t10-3z"/>`, i, x, y, n(-40, 40), n(-40, 40), n(-40, 40), n(-40, 40), n(10, 60), n(10, 60), n(1, 30), n(1, 30))
		case 5:
			fmt.Fprintf(&b, `<path id="s%d" d="M%g,%ga%g %g %g %d%d%g %gh10v-5Z"/>`, i, x, y, n(5, 40), n(5, 40), n(-90, 90), r.IntN(2), r.IntN(2), n(5, 60), n(5, 60))
		case 6:
			fmt.Fprintf(&b, `<path id="s%d" d="m%g %gs%g %g %g %gS%g %g %g %g"/>`, i, x, y, n(0, 30), n(0, 30), n(0, 60), n(5, 60), x+n(0, 30), y+n(0, 30), x+n(0, 60), y+n(0, 60))
		}
		b.WriteString(`</g>`)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

func openBrowser(t *testing.T) context.Context {
	return reference.Browser(t, nil, chromedp.Navigate("about:blank"))
}

// A shape that is imported elsewhere than a browser draws it makes everything
// after this wrong.
func TestShapesLieWhereABrowserDrawsThem(t *testing.T) {
	ctx := openBrowser(t)
	for seed := range 3 {
		text := svgShapes(rand.New(rand.NewPCG(uint64(seed), 5)), 60)
		doc, found := importText(t, text)
		require.NotNil(t, doc, found)
		quoted, err := json.Marshal(text)
		require.NoError(t, err)
		// The box of the fill, by the corners of the flattened outline.
		boxes, err := chromedp.Run(ctx, chromedp.Evaluate[map[string][4]float64](`(() => {
			document.body.innerHTML = `+string(quoted)+`; document.body.style.margin = 0;
			const out = {};
			for (const e of document.querySelectorAll("[id]")) {
				const m = e.getCTM(), length = e.getTotalLength();
				let box = [Infinity, Infinity, -Infinity, -Infinity];
				for (let i = 0; i <= 400; i++) {
					const p = e.getPointAtLength(length * i / 400).matrixTransform(m);
					box = [Math.min(box[0], p.x), Math.min(box[1], p.y), Math.max(box[2], p.x), Math.max(box[3], p.y)];
				}
				out[e.id] = box;
			}
			return out })()`))
		require.NoError(t, err)
		seen := 0
		for _, l := range doc.Pages[0].Layers {
			l.Walk(func(c *Layer, x, y float64) {
				want, ok := boxes[c.ID]
				if !ok {
					return
				}
				seen++
				x, y = x+l.Bounds.X, y+l.Bounds.Y
				assert.InDeltaSlice(t, want[:], []float64{x, y, x + c.Bounds.Width, y + c.Bounds.Height}, 0.6, "%s, seed %d", c.ID, seed)
			})
		}
		assert.Equal(t, len(boxes), seen)
	}
}

func find(doc *Document, id string) *Layer {
	var out *Layer
	for _, top := range doc.Pages[0].Layers {
		top.Walk(func(l *Layer, _, _ float64) {
			if l.ID == id {
				out = l
			}
		})
	}
	return out
}

const shed = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100" width="200">
<title>Tool shed</title>
<style>/* by weight */ #spade { fill: #ff0000 } .tool { fill: blue; } rect { fill: green } .a:hover { fill: red }</style>
<defs><symbol id="leaf" viewBox="0 0 24 24"><title>Leaf</title><path d="M2 12h20v8z"/></symbol></defs>
<g id="row" data-name="Tool row" opacity="0.5" fill="black">
 <rect id="spade" class="tool" x="10" y="10" width="20" height="30" stroke="#333" stroke-width="2" rx="4"/>
 <rect id="rake" class="tool" x="40" y="10" width="20" height="30" style="fill:#abcdef"/>
 <rect id="hoe" x="70" y="10" width="20" height="30" fill="yellow" transform="rotate(90 80 25)"/>
 <rect id="gone" width="5" height="5" display="none"/>
 <use id="one" href="#leaf" x="100" y="10" width="24" height="24"/><use id="two" href="#leaf" x="130" y="10" width="12" height="12"/>
 <text id="label" x="10" y="80" font-family="Hanken Grotesk" font-size="16" font-weight="600">due <tspan>today</tspan></text>
 <text id="lines" x="100" y="70" text-anchor="middle"><tspan x="100">one</tspan><tspan x="100" dy="20">two</tspan></text>
 <line id="rule" x1="10" y1="90" x2="110" y2="90" stroke="#ccc"/>
</g></svg>`

func TestWhatAnSVGSays(t *testing.T) {
	doc, found := importText(t, shed)
	require.NotNil(t, doc, found)
	page := doc.Pages[0]
	assert.Equal(t, "Tool shed", page.Name)
	assert.Equal(t, []float64{200, 100}, []float64{page.Width, page.Height}, "the height that is not given is in the view box's proportion")
	row := find(doc, "row")
	assert.Equal(t, "Tool row", row.Name)
	assert.Equal(t, 0.5, *row.Opacity)
	assert.Equal(t, "#ff0000", find(doc, "spade").Fill, "an id weighs more than a class (Selectors 4, 17)")
	assert.Equal(t, "#abcdef", find(doc, "rake").Fill, "the style attribute wins")
	assert.Equal(t, "#008000", find(doc, "hoe").Fill, "a rule wins over an attribute (SVG 2, 6.6)")
	assert.Equal(t, Rect{X: -1, Y: -1, Width: 22, Height: 32}, relativeTo(find(doc, "spade"), row, 10, 10), "a stroke runs half outside")
	assert.Equal(t, Rect{X: 65, Y: 15, Width: 30, Height: 20}, relativeTo(find(doc, "hoe"), row, 0, 0), "turned by a right angle it is a box as others are")
	assert.True(t, find(doc, "gone").Hidden)
	require.Len(t, doc.Families, 1)
	assert.Equal(t, "Leaf", doc.Families[0].Name)
	assert.Equal(t, doc.Families[0].ID, find(doc, "two").Instance.Family)
	assert.Equal(t, 12.0, find(doc, "two").Bounds.Width)
	assert.Equal(t, []Axis{{Name: "size", Values: []string{"24", "12"}, Default: "24"}}, doc.Families[0].Axes, "a symbol in two sizes has a variant for each")
	assert.Empty(t, find(doc, "one").Instance.Choices)
	assert.Equal(t, map[string]string{"size": "12"}, find(doc, "two").Instance.Choices)
	label := find(doc, "label")
	assert.Equal(t, "due today", label.Text.Content)
	assert.Equal(t, 600.0, label.Text.FontWeight)
	assert.Equal(t, "one\ntwo", find(doc, "lines").Text.Content)
	assert.Equal(t, 20.0, find(doc, "lines").Text.LineHeight)
	assert.Equal(t, "center", find(doc, "lines").Text.Align)
	assert.Equal(t, 1.0, find(doc, "rule").Bounds.Height)
	assert.Contains(t, found.Error(), "the selector .a:hover")
}

// Paths with strokes, as line icons have them, are drawn again as they were:
// pixel by pixel in the browser.
func TestStrokedPathsAreDrawnAgain(t *testing.T) {
	ctx := openBrowser(t)
	for seed := range 5 {
		r := rand.New(rand.NewPCG(uint64(seed), 8))
		n := func(low, high float64) float64 { return math.Round(low + r.Float64()*(high-low)) }
		var b strings.Builder
		b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><defs><linearGradient id="sky"><stop stop-color="#9ac"/></linearGradient></defs>`)
		for range 20 {
			fmt.Fprintf(&b, `<g transform="translate(%g %g) scale(%g)"><path d="M%g %gL%g %gQ%g %g %g %g" fill="%s" stroke="%s" stroke-width="%g" stroke-linecap="%s" stroke-linejoin="%s"/></g>`,
				n(20, 340), n(20, 240), 0.5+r.Float64(), n(0, 40), n(0, 40), n(0, 40), n(0, 40), n(0, 40), n(0, 40), n(0, 40), n(0, 40),
				[]string{"none", "#dca", "none", "url(#sky)"}[r.IntN(4)], []string{"#234", "#a41", "none"}[r.IntN(3)], n(1, 6),
				[]string{"butt", "round", "square"}[r.IntN(3)], []string{"miter", "round", "bevel"}[r.IntN(3)])
		}
		b.WriteString(`</svg>`)
		doc, found := importText(t, b.String())
		require.NotNil(t, doc, found)
		written, err := json.Marshal(doc)
		require.NoError(t, err)
		again, found := Read("strokes.design.json", written)
		require.NotNil(t, again, found)
		pictures, err := json.Marshal([]string{b.String(), again.DrawPage(again.Pages[0])})
		require.NoError(t, err)
		differing, err := chromedp.Run(ctx, chromedp.Evaluate[float64](`(async () => {
			const pixels = await Promise.all(`+string(pictures)+`.map(async (svg) => {
				const image = new Image();
				image.src = "data:image/svg+xml," + encodeURIComponent(svg);
				await image.decode();
				const canvas = new OffscreenCanvas(400, 300).getContext("2d");
				canvas.fillStyle = "#fff";
				canvas.fillRect(0, 0, 400, 300);
				canvas.drawImage(image, 0, 0);
				return canvas.getImageData(0, 0, 400, 300).data;
			}));
			let count = 0;
			for (let i = 0; i < pixels[0].length; i++) if (Math.abs(pixels[0][i] - pixels[1][i]) > 40) count++;
			return count / pixels[0].length;
		})()`, chromedp.EvalAwaitPromise))
		require.NoError(t, err)
		assert.Less(t, differing, 0.0005, "seed %d", seed)
	}
}

// relativeTo gives a child's bounds from a point of the page.
func relativeTo(l, parent *Layer, x, y float64) Rect {
	return Rect{l.Bounds.X + parent.Bounds.X - x, l.Bounds.Y + parent.Bounds.Y - y, l.Bounds.Width, l.Bounds.Height}
}

// What is left out is named, and nothing is fetched or run.
func TestWhatIsLeftOutIsNamed(t *testing.T) {
	for text, says := range map[string]string{
		`<rect width="4" height="4" fill="url(other.svg#g)"/>`:                                  "never fetched",
		`<rect width="4" height="4" fill="beige-ish"/>`:                                         "fill:",
		`<script>fetch("/")</script>`:                                                           "scripts are never kept",
		`<g clip-path="url(#c)"><script>fetch("/")</script></g>`:                                "scripts are never kept",
		`<image href="https://example.org/x.png" width="4" height="4"/>`:                        "never fetched",
		`<image href="data:text/html,words" width="4" height="4"/>`:                             "not kept",
		`<image href="data:image/png;base64,AAAA" width="4" height="4"/>`:                       "cannot be read",
		`<use href="other.svg#x"/>`:                                                             "never fetched",
		`<use href="#x"/>`:                                                                      "no #x to use",
		`<g id="x"><use href="#x"/></g>`:                                                        "uses itself",
		`<foreignObject width="4" height="4"/>`:                                                 "what is not SVG",
		`<widget width="4" height="4"/>`:                                                        "not known here",
		`<path d="M0 0 X"/>`:                                                                    "path data is wrong",
		`<rect width="-4" height="4"/>`:                                                         "negative",
		`<style>@import "x.css";</style><rect width="1" height="1"/>`:                           "@import",
		`<style media="print">rect{fill:red}</style><rect width="1" height="1"/>`:               "for print alone",
		`<style>@media print{rect{fill:red}}</style><rect width="1" height="1"/>`:               "@media",
		`<text x="0" y="9" font-family="Nowhere">hi</text>`:                                     "not shipped",
		`<g transform="spin(4)"><rect width="1" height="1"/></g>`:                               "transform",
		`<rect width="4" height="4" onclick="alert(1)"/><animate attributeName="x" to="1000"/>`: "stand still",
		`<path d="M0 0h9v9z" fill="url(#p)"/><pattern id="p" width="9" height="9"><image href="https://example.org/x.png" width="4" height="4"/></pattern>`:           "never fetched",
		`<path d="M0 0h9v9z" fill="url(#p)"/><pattern id="p" width="9" height="9"><script>alert(1)</script><rect width="4" height="4" onclick="alert(2)"/></pattern>`: "scripts",
		`<g filter="url(#f)"><text y="9">hi</text></g><filter id="f"><feGaussianBlur stdDeviation="2"/></filter>`:                                                     "its filter is not kept",
	} {
		doc, found := importText(t, `<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10">`+text+`</svg>`)
		require.NotNil(t, doc, text)
		assert.Contains(t, found.Error(), says, text)
		written, _ := json.Marshal(doc)
		for _, kept := range []string{"alert", "fetch(", "example.org", "onclick"} {
			assert.NotContains(t, string(written), kept)
		}
	}
}

// A small file is not made large.
func TestHostileSVG(t *testing.T) {
	var doubling strings.Builder
	doubling.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect id="a0" width="1" height="1"/>`)
	for i := range 40 {
		fmt.Fprintf(&doubling, `<g id="a%d"><use href="#a%d"/><use href="#a%d"/></g>`, i+1, i, i)
	}
	doubling.WriteString(`</svg>`)
	for name, text := range map[string]string{
		"entities": `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>`,
		"external": `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg><text>&x;</text></svg>`,
		"unknown":  `<svg><text>&x;</text></svg>`,
		"deep":     strings.Repeat("<g>", 100_000) + strings.Repeat("</g>", 100_000),
		"doubling": doubling.String(),
		"no svg":   `<html/>`,
		"no xml":   `{"a":1}`,
		"large":    `<svg>` + strings.Repeat(" ", maxSVG) + `</svg>`,
	} {
		doc, found := ImportSVG(name+".svg", []byte(text), nil)
		assert.Nil(t, doc, name)
		assert.True(t, found.Failed(), name)
	}
}

func FuzzImportSVG(f *testing.F) {
	f.Add([]byte(shed))
	f.Add([]byte(svgShapes(rand.New(rand.NewPCG(1, 1)), 5)))
	for _, one := range append(features(), textFeatures()...) {
		f.Add([]byte(one.svg))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		doc, found := ImportSVG("x.svg", text, font.Shipped())
		if doc == nil {
			require.True(t, found.Failed())
			return
		}
		written, err := json.Marshal(doc)
		require.NoError(t, err)
		if again, problems := Read("x.design.json", written); again == nil {
			t.Fatal(problems)
		}
	})
}

// A file in another encoding than UTF-8 is read by its byte order mark, or by what it declares.
func TestEncodings(t *testing.T) {
	const bare = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><title>Grüne Bohne</title><rect width="9" height="9"/></svg>`
	wide := func(text string, big bool) string {
		var b strings.Builder
		for _, u := range utf16.Encode([]rune(text)) {
			if big {
				b.Write([]byte{byte(u >> 8), byte(u)})
			} else {
				b.Write([]byte{byte(u), byte(u >> 8)})
			}
		}
		return b.String()
	}
	latin := strings.ReplaceAll(bare, "ü", "\xfc")
	for name, text := range map[string]string{
		"UTF-8":                     bare,
		"UTF-8 with a mark":         "\xEF\xBB\xBF" + bare,
		"UTF-8, declared":           `<?xml version="1.0" encoding="UTF-8" standalone="no"?>` + bare,
		"UTF-16, little end":        "\xFF\xFE" + wide(bare, false),
		"UTF-16, big end":           "\xFE\xFF" + wide(`<?xml version="1.0" encoding="UTF-16"?>`+bare, true),
		"UTF-16 without a mark":     wide(`<?xml version="1.0" encoding="UTF-16"?>`+bare, false),
		"Latin 1":                   `<?xml version='1.0' encoding='iso-8859-1'?>` + latin,
		"a code page":               `<?xml version="1.0" encoding="windows-1252"?>` + latin,
		"a declaration without one": `<?xml version="1.0"?>` + bare,
	} {
		doc, found := importText(t, text)
		if assert.NotNil(t, doc, "%s: %v", name, found) {
			assert.Equal(t, "Grüne Bohne", doc.Pages[0].Name, name)
		}
	}
	for text, says := range map[string]string{`<?xml version="1.0" encoding="made-up"?>` + bare: "made-up", latin: "UTF-8"} {
		doc, found := importText(t, text)
		assert.Nil(t, doc)
		assert.Contains(t, found.Error(), says)
	}
}
