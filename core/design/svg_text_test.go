package design

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/web/reference"
)

// textFeatures are texts in a shipped font.
func textFeatures() []feature {
	out := []feature{
		{"words", `<text x="10" y="40">Sow the beans</text>`, ""},
		{"white space", "<text x=\"10\" y=\"40\">\n  Sow   the\n\t<tspan> beans </tspan>  now\n</text>", ""},
		{"white space that is kept", `<text x="10" y="40" xml:space="preserve">Sow   the</text>`, ""},
		{"in the middle", `<text x="120" y="40" text-anchor="middle">Sow the beans</text>`, ""},
		{"at the end", `<text x="230" y="40" text-anchor="end">Sow the beans</text>`, ""},
		{"pieces in the middle", `<text x="120" y="40" text-anchor="middle">Sow <tspan fill="#c33">the</tspan> <tspan font-size="30">beans</tspan></text>`, ""},
		{"a colour within", `<text x="10" y="40">Sow <tspan fill="#c33">the</tspan> beans</text>`, ""},
		{"a size within", `<text x="10" y="40">Sow <tspan font-size="30">the</tspan> <tspan font-size="50%">beans</tspan></text>`, ""},
		{"a weight within", `<text x="10" y="40">Sow <tspan font-weight="700">the</tspan> beans</text>`, ""},
		{"weights within", `<text x="10" y="40" font-weight="300">Sow <tspan font-weight="900">the</tspan> <tspan font-weight="bolder">beans</tspan></text>`, ""},
		{"slanted", `<text x="10" y="40" font-style="italic">Sow the beans</text>`, ""},
		{"slanted within", `<text x="10" y="40">Sow <tspan font-style="italic">the</tspan> beans</text>`, ""},
		{"underlined", `<text x="10" y="40" text-decoration="underline">Sow the beans</text>`, ""},
		{"struck through", `<text x="10" y="40" style="text-decoration:line-through">Sow the beans</text>`, ""},
		{"underlined within", `<text x="10" y="40">Sow <tspan text-decoration="underline">the</tspan> beans</text>`, ""},
		{"a line that goes on", `<text x="10" y="40" text-decoration="underline">Sow <tspan text-decoration="none" font-weight="300">the</tspan> beans</text>`, ""},
		{"a line in another colour", `<text x="10" y="40" text-decoration="underline">Sow <tspan fill="#c33">the</tspan> beans</text>`, "its own colour"},
		{"in capitals", `<text x="10" y="40" style="text-transform:uppercase">Sow the beans</text>`, "in the case they are shown in"},
		{"letters apart", `<text x="10" y="40" letter-spacing="3">Sow the beans</text>`, ""},
		{"lines", `<text x="10" y="30">Sow<tspan x="10" dy="24">the</tspan><tspan x="10" dy="24">beans</tspan></text>`, ""},
		{"lines in the middle", `<text x="120" y="30" text-anchor="middle">Sow<tspan x="120" dy="24">the</tspan><tspan x="120" dy="24">beans</tspan></text>`, ""},
		{"lines unevenly", `<text x="10" y="30">Sow<tspan x="10" y="50">the</tspan><tspan x="10" y="100">beans</tspan></text>`, ""},
		{"in columns", `<text><tspan x="10" y="30">Sow</tspan><tspan x="120" y="30">beans</tspan></text>`, ""},
		{"moved", `<text x="10" y="40" dx="12" dy="6">Sow <tspan dx="20" dy="-12">the</tspan> <tspan dy="12">beans</tspan></text>`, ""},
		{"letters placed one by one", `<text x="10 40 70" y="40 60 50">Sow</text>`, ""},
		{"letters far apart", `<text x="10 60 110" y="40">Sow</text>`, ""},
		{"turned", `<text x="40" y="30" transform="rotate(20 40 30)">Sow the beans</text>`, ""},
		{"turned in the middle", `<text transform="translate(120 60) rotate(-30)" text-anchor="middle">Sow the beans</text>`, ""},
		{"scaled", `<g transform="translate(10 10) scale(1.5)"><text x="5" y="20">Sow the beans</text></g>`, ""},
		{"in ems", `<text x="1em" y="2em" dy="0.5em">Sow the beans</text>`, ""},
		{"in percent", `<text x="50%" y="50%" text-anchor="middle">Sow the beans</text>`, ""},
		{"in the font shorthand", `<text x="10" y="40" style="font:italic 700 24px 'Hanken Grotesk'">Sow the beans</text>`, ""},
		{"less opaque", `<text x="10" y="40" opacity=".4" fill-opacity=".8">Sow the beans</text>`, ""},
		{"hidden within", `<text x="10" y="40">Sow <tspan visibility="hidden">the</tspan> beans</text>`, ""},
		{"visible within what is hidden", `<text x="10" y="40" visibility="hidden">Sow <tspan visibility="visible">the</tspan> beans</text>`, ""},
		{"not displayed within", `<text x="10" y="40">Sow <tspan display="none">the</tspan> beans</text>`, ""},
		{"from the middle of the line", `<text x="10" y="60" dominant-baseline="middle">Sow the beans</text>`, ""},
		{"from the centre", `<text x="10" y="60" dominant-baseline="central">Sow the beans</text>`, ""},
		{"hanging", `<text x="10" y="20" dominant-baseline="hanging">Sow the beans</text>`, ""},
		{"mathematical", `<text x="10" y="60" dominant-baseline="mathematical">Sow the beans</text>`, ""},
		{"from the top", `<text x="10" y="20" dominant-baseline="text-before-edge">Sow the beans</text>`, ""},
		{"from the bottom", `<text x="10" y="60" dominant-baseline="text-after-edge">Sow the beans</text>`, ""},
		{"raised and lowered", `<text x="10" y="60">Sow<tspan baseline-shift="super" font-size="12">up</tspan> <tspan baseline-shift="sub" font-size="12">down</tspan></text>`, ""},
		{"raised by a length", `<text x="10" y="60">Sow <tspan baseline-shift="10px">up</tspan></text>`, ""},
		{"as long as said", `<text x="10" y="40" textLength="200">Sow the beans</text>`, ""},
		{"a gap for letters", `<text x="10" y="40"><tspan>Sow</tspan><tspan> the</tspan></text>`, ""},
		{"a link", `<text x="10" y="40">Sow <a href="https://example.org"><tspan fill="#33c">the beans</tspan></a></text>`, ""},
		{"a class", `<style>.t{font-size:28px;font-weight:600;fill:#383}</style><text class="t" x="10" y="40">Sow the beans</text>`, ""},
		{"clipped", `<clipPath id="c"><rect x="20" y="20" width="60" height="60"/></clipPath><g clip-path="url(#c)"><text x="10" y="50">Sow the beans</text></g>`, ""},
		{"outlined", `<text x="10" y="40" fill="none" stroke="#383">Sow</text>`, "outlined"},
		{"along a path", `<path id="p" d="M10 80Q100 10 200 80" fill="none"/><text><textPath href="#p">Sow the beans</textPath></text>`, "along a path"},
		{"letters turned", `<text x="10" y="40" rotate="20">Sow</text>`, "letters are turned"},
		{"skewed", `<text x="10" y="40" transform="skewX(20)">Sow</text>`, "skewed"},
		{"in a gradient", `<linearGradient id="g"><stop stop-color="#c33"/><stop offset="1" stop-color="#33c"/></linearGradient><text x="10" y="40" fill="url(#g)">Sow</text>`, "gradient"},
		{"downwards", `<text x="60" y="10" writing-mode="vertical-rl">Sow</text>`, "runs down"},
		{"with words apart", `<text x="10" y="40" word-spacing="10">Sow the beans</text>`, "word-spacing"},
		{"in another font", `<text x="10" y="40" font-family="Nowhere">Sow</text>`, "not shipped"},
		{"in a clip of another form", `<clipPath id="c"><path d="M10 10h60L40 80z"/></clipPath><g clip-path="url(#c)"><text x="10" y="50">Sow</text></g>`, "holds words"},
		{"letters a little apart", `<text x="10 24 38 52" y="40">Sown</text>`, "one by one"},
	}
	for k := range out {
		out[k].svg = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="120" font-family="Hanken Grotesk" font-size="20">` + out[k].svg + `</svg>`
	}
	return out
}

// Words are set where and how Chromium sets the file's, in the shipped fonts, or what is lost is told.
func TestEveryTextIsDrawnOrTold(t *testing.T) {
	var all []drawing
	for _, f := range textFeatures() {
		d, err := drawnAgain(f.name, []byte(f.svg))
		require.NoError(t, err, f.name)
		if f.told != "" {
			assert.Contains(t, d.report, f.told, "%s: a loss that nobody is told of", f.name)
		} else if assert.Empty(t, d.report, f.name); f.told == "" {
			all = append(all, d)
		}
	}
	const w, h, columns = 240, 120, 3
	var body strings.Builder
	at := func(k, which int) (x, y int) { return (k%columns*2 + which) * w, k / columns * h }
	for k, d := range all {
		for which, svg := range []string{d.text, d.again} {
			x, y := at(k, which)
			svg = strings.NewReplacer(`id="`, fmt.Sprintf(`id="n%d-%d-`, k, which), `url(#`, fmt.Sprintf(`url(#n%d-%d-`, k, which)).Replace(svg)
			fmt.Fprintf(&body, `<div style="position:absolute;left:%dpx;top:%dpx;width:240px;height:120px;overflow:hidden;contain:strict">%s</div>`, x, y, svg)
		}
	}
	var shot image.Image
	reference.OnPage(t, reference.Faces()+"body{margin:0;background:#fff}svg{display:block}", body.String(), func(ctx context.Context) {
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(columns*2*w, int64((len(all)+columns-1)/columns*h))))
		file, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		shot, err = png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
	})
	for k, d := range all {
		ink, wrong := 0, 0
		for y := range h {
			for x := range w {
				ax, ay := at(k, 0)
				bx, by := at(k, 1)
				a, _, _, _ := shot.At(ax+x, ay+y).RGBA()
				b, _, _, _ := shot.At(bx+x, by+y).RGBA()
				if a < 0xe000 {
					ink++
				}
				if max(a, b)-min(a, b) > 0x5000 {
					wrong++
				}
			}
		}
		assert.Greater(t, ink, 40, "%s: nothing is seen of the file", d.name)
		assert.LessOrEqual(t, wrong, ink/20, "%s: %d pixels differ, of %d that are inked\n%s\n%s", d.name, wrong, ink, d.text, d.again)
	}
}
