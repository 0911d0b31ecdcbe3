package layout

import (
	"cobrik/core/font"
	"cobrik/web/reference"
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"html"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

const (
	viewWidth  = 1024
	viewHeight = 800
)

func testOptions() Options {
	fonts := font.Shipped()
	return Options{Width: viewWidth, Height: viewHeight, Fonts: fonts}
}

// browser lays trees out in headless Chromium.
type browser struct {
	t   testing.TB
	ctx context.Context
}

func openBrowser(t testing.TB) *browser {
	reference.NeedChromium(t)
	t.Helper()
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun,
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-quic", true))
	allocator, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(allocator)
	t.Cleanup(func() { cancel(); stop() })
	b := &browser{t, ctx}
	var css strings.Builder
	for _, f := range font.Files {
		file := f.Read()
		ranges := ""
		if strings.Contains(f.Name, "latin-ext") {
			ranges = "unicode-range: U+0100-02BA, U+1E00-1E9F, U+20A0-20AB;"
		}
		fmt.Fprintf(&css, "@font-face{font-family:'%s';font-weight:100 900;%ssrc:url(data:font/woff2;base64,%s)}", f.Family, ranges, base64.StdEncoding.EncodeToString(file))
	}
	script := fmt.Sprintf(`(async () => {
		document.head.append(Object.assign(document.createElement("style"), { textContent: %q }));
		document.body.style.margin = 0;
		for (const f of document.fonts) await f.load();
	})()`, css.String()+`.frame{position:absolute;left:0;top:0;width:1024px;display:flow-root;font:16px 'Hanken Grotesk';text-rendering:geometricPrecision}`)
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(viewWidth, viewHeight), chromedp.Navigate("data:text/html,<!DOCTYPE html><body>"),
		chromedp.Evaluate[chromedp.Void](script, chromedp.EvalAwaitPromise)))
	return b
}

// measured is an element's border box from the root's, and how far its content
// can be scrolled.
type measured struct{ X, Y, Width, Height, ScrollX, ScrollY float64 }

// measure lays every tree out and gives the boxes of its nodes, parents first.
func (b *browser) measure(trees []*Node) [][]measured {
	b.t.Helper()
	var out [][]measured
	for part := range slices.Chunk(trees, 200) {
		var page strings.Builder
		for _, n := range part {
			page.WriteString(`<div class="frame">`)
			writeHTML(&page, n)
			page.WriteString(`</div>`)
		}
		text, err := json.Marshal(page.String())
		require.NoError(b.t, err)
		script := `(() => { document.body.innerHTML = ` + string(text) + `;
			const out = [...document.querySelectorAll(".frame")].map((f) => {
				const o = f.firstElementChild.getBoundingClientRect();
				return [...f.querySelectorAll("div")].map((e) => { const r = e.getBoundingClientRect();
					return { X: r.x - o.x, Y: r.y - o.y, Width: r.width, Height: r.height, ScrollX: e.scrollWidth - e.clientWidth, ScrollY: e.scrollHeight - e.clientHeight } }) });
			document.body.innerHTML = ""; return out })()`
		boxes, err := chromedp.Run(b.ctx, chromedp.Evaluate[[][]measured](script))
		require.NoError(b.t, err)
		out = append(out, boxes...)
	}
	return out
}

func writeHTML(w *strings.Builder, n *Node) {
	w.WriteString(`<div style="`)
	for _, d := range declarations(n.Style) {
		fmt.Fprintf(w, "%s:%s;", d.property, html.EscapeString(d.value))
	}
	w.WriteString(`">`)
	w.WriteString(html.EscapeString(n.Text))
	for _, c := range n.Children {
		writeHTML(w, c)
	}
	w.WriteString(`</div>`)
}

// difference is the largest distance between an edge as solved and as measured.
type difference struct {
	distance float64
	where    string
}

func compare(n *Node, boxes []measured) difference {
	solved, found := Solve(n, testOptions())
	if solved == nil {
		return difference{1e9, found.Error()}
	}
	worst := difference{}
	at := 0
	var walk func(n *Node, path string)
	walk = func(n *Node, path string) {
		m := boxes[at]
		at++
		if n.Box != nil {
			for _, pair := range [][2]float64{{n.Box.X, m.X}, {n.Box.Y, m.Y}, {n.Box.Width, m.Width}, {n.Box.Height, m.Height}} {
				if d := pair[0] - pair[1]; d > worst.distance || -d > worst.distance {
					if d < 0 {
						d = -d
					}
					worst = difference{d, fmt.Sprintf("%s: solved %.2f %.2f %.2f %.2f, in the browser %.2f %.2f %.2f %.2f", path,
						n.Box.X, n.Box.Y, n.Box.Width, n.Box.Height, m.X, m.Y, m.Width, m.Height)}
				}
			}
		}
		for i, c := range n.Children {
			walk(c, fmt.Sprintf("%s/%d", path, i))
		}
	}
	walk(solved, "root")
	return worst
}

// shrink finds the smallest tree that still differs: a part or a property less
// at a time.
func (b *browser) shrink(n *Node, limit float64) (*Node, difference) {
	last := difference{}
	for {
		smaller := reductions(n)
		if len(smaller) == 0 {
			return n, last
		}
		found := false
		for i, boxes := range b.measure(smaller) {
			if d := compare(smaller[i], boxes); d.distance > limit {
				n, last, found = smaller[i], d, true
				break
			}
		}
		if !found {
			return n, last
		}
	}
}

// reductions gives every tree that is one step smaller.
func reductions(n *Node) []*Node {
	var out []*Node
	for i := range n.Children {
		less := *n
		less.Children = slices.Delete(slices.Clone(n.Children), i, i+1)
		out = append(out, &less)
	}
	for i, c := range n.Children {
		for _, r := range reductions(c) {
			less := *n
			less.Children = slices.Clone(n.Children)
			less.Children[i] = r
			out = append(out, &less)
		}
	}
	if n.Text != "" {
		less := *n
		less.Text = ""
		out = append(out, &less)
		if words := strings.Fields(n.Text); len(words) > 1 {
			half := *n
			half.Text = strings.Join(words[:len(words)/2], " ")
			out = append(out, &half)
		}
	}
	for p := range n.Style {
		less := *n
		less.Style = map[string]string{}
		for q, v := range n.Style {
			if q != p {
				less.Style[q] = v
			}
		}
		out = append(out, &less)
	}
	return out
}
