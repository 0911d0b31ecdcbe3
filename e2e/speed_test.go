package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
)

// BenchmarkFromEnterToMeasured edits a value of the largest component of the demo, in the ledger, again and again,
// and tells where the time goes from Enter until the measured value stands there: the median of the edits, in ms.
func BenchmarkFromEnterToMeasured(b *testing.B) {
	a := startApp(b)
	p := openPage(b, a)
	_, err := a.service.Draft(b.Context(), "furrow", "action-button")
	require.NoError(b, err)
	p.open("/bench/action-button?all=1")
	p.until("a measured ledger", `/facts agree/.test(document.querySelector("[data-testid=ledger-summary]")?.innerText)`)
	const row = `tr[data-fact='root padding-inline']`
	times := map[string][]float64{}
	for i := range 12 {
		px := 11 + i%2
		evaluate[bool](p, `(document.querySelector("`+row+`").focus(), true)`)
		p.press("e")
		p.fill("[data-editor] input", "", fmt.Sprintf("%dpx", px))
		evaluate[bool](p, fmt.Sprintf(`(() => {
			performance.clearResourceTimings();
			document.querySelector("[data-editor] input").addEventListener("keydown", () => {
				const begin = performance.now();
				window.spent = undefined;
				const look = () => {
					if (document.querySelector("%s td:nth-child(5)")?.innerText.trim() !== "%dpx") return requestAnimationFrame(look);
					const done = performance.now();
					const took = (part) => performance.getEntriesByType("resource").filter((e) => part.test(e.name)).map((e) => [e.startTime - begin, e.responseEnd - begin]);
					window.spent = { done: done - begin, edit: took(/\/edit$/), bench: took(/components\/action-button(\?|$)/), frame: took(/component\.js/), ledger: took(/\/ledger/) };
				};
				look();
			}, { once: true });
			return true;
		})()`, row, px))
		p.press(enter)
		p.until("the measured value", `window.spent`)
		type spent struct {
			Done                       float64
			Edit, Bench, Frame, Ledger [][2]float64
		}
		s := evaluate[spent](p, `window.spent`)
		times["all"] = append(times["all"], s.Done)
		for name, of := range map[string][][2]float64{"edited": s.Edit, "read": s.Bench, "compared": s.Ledger} {
			if len(of) > 0 {
				times[name] = append(times[name], of[len(of)-1][1])
			}
		}
		p.until("the editor to close", `!document.querySelector("[data-editor]")`)
	}
	for _, name := range []string{"edited", "read", "compared", "all"} {
		if of := times[name]; len(of) > 0 {
			slices.Sort(of)
			b.ReportMetric(of[len(of)/2], name+"-ms")
		}
	}
	b.ReportMetric(0, "ns/op")
}
