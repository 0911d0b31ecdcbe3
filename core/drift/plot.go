package drift

import (
	"fmt"
	"html"
	"strings"
	"time"
)

// Measures of the plot, px.
const (
	plotWidth, plotHeight = 960, 240
	plotLeft, plotFoot    = 40, 32
)

// lines of the plot: what waits, by who moved. Dashes tell them apart without colour.
var lines = []struct {
	label, colour, dash string
	of                  func(Count) int
}{
	{"Design moved", "#9c4a2f", "", func(c Count) int { return c.Design }},
	{"Contract moved", "#3f6f8f", "6 3", func(c Count) int { return c.Contract }},
	{"Code moved", "#5f7f3f", "2 3", func(c Count) int { return c.Code }},
	{"Both moved", "#2b2520", "8 3 2 3", func(c Count) int { return c.Several }},
}

// Plot draws the moves that wait over time, as SVG: steps, for a number holds until the next point.
func (r Report) Plot() string {
	first, last := r.From.At, r.To.At
	most := 1
	for _, c := range r.Way {
		for _, l := range lines {
			most = max(most, l.of(c))
		}
	}
	x := func(t time.Time) float64 {
		if !last.After(first) {
			return plotLeft
		}
		return plotLeft + float64(t.Sub(first))/float64(last.Sub(first))*(plotWidth-plotLeft-8)
	}
	y := func(n int) float64 { return 8 + float64(most-n)/float64(most)*(plotHeight-plotFoot-8) }
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" role="img" aria-label="%s" font-family="system-ui, sans-serif" font-size="12">`,
		plotWidth, plotHeight+24, html.EscapeString(r.told()))
	for _, n := range ticks(most) {
		fmt.Fprintf(&b, `<path d="M%d %.1fH%d" stroke="#ddd5c8"/><text x="%d" y="%.1f" text-anchor="end" fill="#6b6055">%d</text>`, plotLeft, y(n), plotWidth-8, plotLeft-6, y(n)+4, n)
	}
	fmt.Fprintf(&b, `<text x="%d" y="%d" fill="#6b6055">%s</text><text x="%d" y="%d" text-anchor="end" fill="#6b6055">%s</text>`,
		plotLeft, plotHeight-8, first.UTC().Format(time.DateOnly), plotWidth-8, plotHeight-8, last.UTC().Format(time.DateOnly))
	for i, l := range lines {
		var path strings.Builder
		for k, c := range r.Way {
			if k == 0 {
				fmt.Fprintf(&path, "M%.1f %.1f", x(c.At), y(l.of(c)))
			} else {
				fmt.Fprintf(&path, "H%.1fV%.1f", x(c.At), y(l.of(c)))
			}
		}
		if !last.After(first) { // a single moment
			fmt.Fprintf(&path, "H%d", plotWidth-8)
		}
		dash := ""
		if l.dash != "" {
			dash = fmt.Sprintf(` stroke-dasharray="%s"`, l.dash)
		}
		at := plotLeft + i*160
		fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="%s" stroke-width="2"%s/>`, path.String(), l.colour, dash)
		fmt.Fprintf(&b, `<path d="M%d %dh24" stroke="%s" stroke-width="2"%s/><text x="%d" y="%d" fill="#2b2520">%s</text>`, at, plotHeight+12, l.colour, dash, at+30, plotHeight+16, l.label)
	}
	b.WriteString("</svg>")
	return b.String()
}

// ticks are up to five whole numbers from 0, at even distances of 1, 2 or 5 times a power of ten.
func ticks(most int) (out []int) {
	step := 1
	for k := 0; most/step > 4; k++ {
		step = []int{2, 5, 10}[k%3] * pow10(k/3)
	}
	for n := 0; n <= most; n += step {
		out = append(out, n)
	}
	return out
}

func pow10(n int) int {
	out := 1
	for range n {
		out *= 10
	}
	return out
}

func (r Report) told() string {
	return "Moves that wait to be decided, over time. " + r.Summary()
}
