package design

import (
	"fmt"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"cobrik/core/font"
)

// manyRules is a file of so many rules and shapes; each shape is of one rule.
func manyRules(rules, shapes int) string {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><style>`)
	for k := range rules {
		fmt.Fprintf(&b, ".c%d{fill:#%06x}", k, k)
	}
	b.WriteString("</style>")
	for k := range shapes {
		fmt.Fprintf(&b, `<rect class="c%d" width="1" height="1"/>`, k*(rules/shapes))
	}
	return b.String() + "</svg>"
}

// hostile are files of at most a few hundred KB that ask for much more than they are.
func hostile() map[string]string {
	whole := func(text string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">` + text + `</svg>`
	}
	times := func(n int, text func(k int) string) string {
		var b strings.Builder
		for k := range n {
			b.WriteString(text(k))
		}
		return b.String()
	}
	star := "M50 5" + strings.Repeat("l1 1 1-1", 4000) + "z"
	return map[string]string{
		"uses that double": whole(`<rect id="a0" width="1" height="1"/>` + times(40, func(k int) string {
			return fmt.Sprintf(`<g id="a%d"><use href="#a%d"/><use href="#a%d"/></g>`, k+1, k, k)
		})),
		"symbols that double": whole(`<symbol id="a0"><rect width="1" height="1"/></symbol>` + times(40, func(k int) string {
			return fmt.Sprintf(`<symbol id="a%d"><use href="#a%d" width="9"/><use href="#a%d" width="8" fill="red"/></symbol>`, k+1, k, k)
		}) + `<use href="#a40"/>`),
		"clips of clips that double": whole(times(60, func(k int) string {
			return fmt.Sprintf(`<clipPath id="c%d"><path d="M0 0L9 9L0 9" clip-path="url(#c%d)"/><path d="M0 0L8 9L0 9" clip-path="url(#c%d)"/></clipPath>`, k, k+1, k+1)
		}) + `<rect width="9" height="9" clip-path="url(#c0)"/>`),
		"a clip of itself":     whole(`<clipPath id="c" clipPathUnits="objectBoundingBox"><path d="M0 0L9 9L0 9" clip-path="url(#c)"/></clipPath><g id="g" clip-path="url(#c)"><rect width="9" height="9"/></g>`),
		"a mask of itself":     whole(`<mask id="m" maskContentUnits="objectBoundingBox"><g mask="url(#m)"><path d="M0 0h9v9z" mask="url(#m)"/></g></mask><path d="M0 0h9v9z" mask="url(#m)"/>`),
		"a pattern of itself":  whole(`<pattern id="p" width="9" height="9"><path d="M0 0h9v9z" fill="url(#p)"/></pattern><path d="M0 0h9v9z" fill="url(#p)"/>`),
		"a gradient of itself": whole(`<linearGradient id="g" href="#h"/><linearGradient id="h" href="#g"/><path d="M0 0h9v9z" fill="url(#g)"/>`),
		"variables that double": whole(`<style>:root{` + times(40, func(k int) string { return fmt.Sprintf("--v%d:var(--v%d) var(--v%d);", k, k+1, k+1) }) + `--v40:x}rect{fill:var(--v0)}</style>` +
			times(2000, func(int) string { return `<rect width="9" height="9"/>` })),
		"one class for all rules": whole("<style>" + times(9000, func(k int) string { return fmt.Sprintf(".b%d.a{fill:red}", k) }) + "</style>" +
			times(5000, func(int) string { return `<rect class="a" width="1" height="1"/>` })),
		"selectors that look upwards": whole("<style>" + times(500, func(k int) string {
			return "g g g g g g g g g g g g g g .q" + fmt.Sprint(k) + ",g g g g g g g g g g g g g g g .a{fill:red}"
		}) + "</style>" +
			strings.Repeat("<g>", 150) + times(1000, func(int) string { return `<rect class="a" width="1" height="1"/>` }) + strings.Repeat("</g>", 150)),
		"selectors that could be spread in many ways": whole("<style>" + times(20, func(k int) string { return "x " + strings.Repeat("g ", 40) + ".a{fill:red}" }) + "</style>" +
			strings.Repeat("<g>", 150) + times(200, func(int) string { return `<rect class="a" width="1" height="1"/>` }) + strings.Repeat("</g>", 150)),
		"one large clip, used often": whole(`<clipPath id="c"><path d="` + star + `"/></clipPath>` + times(4000, func(k int) string {
			return fmt.Sprintf(`<path d="M0 0h%d.5v9z" clip-path="url(#c)"/>`, k%90+1)
		})),
		"one large gradient, used often": whole(`<linearGradient id="g">` + times(5000, func(k int) string { return fmt.Sprintf(`<stop offset="%g" stop-color="#%06x"/>`, float64(k)/5000, k) }) + `</linearGradient>` + times(4000, func(k int) string {
			return fmt.Sprintf(`<rect x="%d" width="9" height="9" fill="url(#g)"/>`, k)
		})),
		"letters placed one by one": whole(`<text x="` + strings.Repeat("1 ", 20000) + `" y="9">` + strings.Repeat("a", 30000) + `</text>`),
		"letters that go on":        whole(`<text dx="` + strings.Repeat("0.1 ", 20000) + `" y="9">` + strings.Repeat("a", 30000) + `</text>`),
		"a path of many pieces":     whole(`<path d="M0 0` + strings.Repeat("h1", 190000) + `"/>`),
		"dashes without end":        whole(`<path d="M0 0h90" stroke="red" stroke-dasharray="` + strings.Repeat("1 ", 50000) + `"/>`),
		"filters that double": whole(`<filter id="f">` + times(40, func(k int) string {
			return fmt.Sprintf(`<feMerge result="r%d"><feMergeNode in="r%d"/><feMergeNode in="r%d"/></feMerge>`, k+1, k, k)
		}) + `</filter><rect width="9" height="9" filter="url(#f)"/>`),
		"shadows that double": whole(`<filter id="f"><feOffset in="SourceAlpha" dx="1" result="r0"/>` + times(40, func(k int) string {
			return fmt.Sprintf(`<feMerge result="r%d"><feMergeNode in="r%d"/><feMergeNode in="r%d"/></feMerge>`, k+1, k, k)
		}) + `</filter><rect width="9" height="9" filter="url(#f)"/>`),
		"pictures in pictures": whole(`<image width="9" height="9" href="data:image/svg+xml;utf8,` + strings.Repeat("%3Cg%3E", 40000) + `"/>`),
		"many rules":           manyRules(20000, 5000),
		"no numbers":           whole(`<rect width="NaN" height="Infinity"/><circle r="1e999"/><path d="M1e9 0h1"/><g transform="scale(1e300) scale(1e300)"><rect width="9" height="9"/></g><rect width="1e7" height="1e7" transform="scale(1e7)"/>`),
	}
}

// A file that asks for much is read, or refused, in a time and a memory that a reader waits for: none takes the machine.
// The bounds are ten times what is measured, for machines that do other things, too.
func TestHostileFilesAreBounded(t *testing.T) {
	fonts := font.Shipped()
	for name, text := range hostile() {
		for kind, read := range map[string]func() bool{
			"drawing": func() bool {
				doc, found := ImportSVG("a.svg", []byte(text), fonts)
				return doc != nil && readAgain(t, doc) || found.Failed()
			},
			"icon": func() bool { icon, found := ReadIcon("a.svg", []byte(text)); return icon != nil || found.Failed() },
		} {
			var before, after runtime.MemStats
			runtime.ReadMemStats(&before)
			start := time.Now()
			ok := read()
			took := time.Since(start)
			runtime.ReadMemStats(&after)
			assert.True(t, ok, "%s, %s: neither read nor refused", name, kind)
			assert.Less(t, took, 30*time.Second, "%s, %s", name, kind)
			assert.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(8000), "%s, %s: MB", name, kind)
		}
	}
}

func BenchmarkImportSVG(b *testing.B) {
	for _, size := range [][2]int{{100, 100}, {10_000, 5_000}, {50_000, 5_000}} {
		text := []byte(manyRules(size[0], size[1]))
		b.Run(fmt.Sprintf("rules=%d,shapes=%d", size[0], size[1]), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if doc, found := ImportSVG("a.svg", text, nil); doc == nil {
					b.Fatal(found)
				}
			}
		})
	}
}
