package main

import (
	"context"
	"encoding/base64"
	"fmt"
	"math"
	"os"

	"github.com/chromedp/chromedp"

	"cobrik/core/design"
)

// ruler measures text in Chromium, set in the shipped font.
type ruler struct {
	ctx   context.Context
	close func()
}

const fontFile = "web/node_modules/@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2"

func newRuler() (*ruler, error) {
	font, err := os.ReadFile(fontFile)
	if err != nil {
		return nil, fmt.Errorf("run npm ci in web first: %w", err)
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox)
	allocator, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(allocator)
	r := &ruler{ctx, func() { cancel(); stop() }}
	load := `(async () => {
		const face = new FontFace("Hanken Grotesk", "url(data:font/woff2;base64,` + base64.StdEncoding.EncodeToString(font) + `)", { weight: "100 900" });
		document.fonts.add(await face.load());
		document.body.append(Object.assign(document.createElement("span"), { id: "ruler" }));
	})()`
	return r, chromedp.Do(ctx, chromedp.Navigate("about:blank"), chromedp.Evaluate[chromedp.Void](load, chromedp.EvalAwaitPromise))
}

func (r *ruler) width(t *design.TextContent) float64 {
	script := fmt.Sprintf(`(() => { const s = document.getElementById("ruler");
		s.style.cssText = "position:absolute;white-space:nowrap;font:%g %gpx/%gpx 'Hanken Grotesk'"; s.textContent = %q;
		return s.getBoundingClientRect().width })()`, t.FontWeight, t.FontSize, t.LineHeight, t.Content)
	w, err := chromedp.Run(r.ctx, chromedp.Evaluate[float64](script))
	if err != nil {
		panic(err)
	}
	return math.Round(w*100) / 100
}
