package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"cobrik/core/sheet"
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

// BenchmarkTypingInALargeContract types into the sheet of a contract of 200 parts and 500 rules, and tells the longest frame
// meanwhile, and how long Enter takes until the value stands there, in ms.
func BenchmarkTypingInALargeContract(b *testing.B) {
	a := startApp(b)
	_, err := a.service.Begin(b.Context(), "ShedWall", "blank")
	require.NoError(b, err)
	edit := func(e sheet.Edit) {
		bench, err := a.service.Bench(b.Context(), "shed-wall", "")
		require.NoError(b, err)
		_, err = a.service.Amend(b.Context(), "shed-wall", bench.Revision, e)
		require.NoError(b, err)
	}
	edit(sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "size choice s m l"})
	edit(sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "row div"})
	for i := range 9 {
		edit(sheet.Edit{Do: "add", On: "parts/row", Cell: "inside", Text: fmt.Sprintf("board%d span", i)})
		edit(sheet.Edit{Do: "set", On: fmt.Sprintf("parts/board%d", i), Cell: "shows", Text: "oak"})
		for n, of := range []string{"size = s", "size = l", "state hover"} {
			if i < 8 || n == 0 {
				edit(sheet.Edit{Do: "add", On: fmt.Sprintf("parts/board%d", i), Cell: "value", Text: fmt.Sprintf("when %s: padding-inline %dpx", of, n+1)})
			}
		}
	}
	for range 19 {
		edit(sheet.Edit{Do: "duplicate", On: "parts/row"})
	}
	v, err := a.service.Sheet(b.Context(), "shed-wall")
	require.NoError(b, err)
	rules := 0
	for _, r := range v.Rules {
		if r.Number > 0 {
			rules++
		}
	}
	b.ReportMetric(float64(len(v.Parts)), "parts")
	b.ReportMetric(float64(rules), "rules")

	p := openPage(b, a)
	p.open("/bench/shed-wall?facet=contract&on=parts/board4")
	p.until("the sheet", `document.activeElement?.dataset?.cell?.startsWith("parts/board4 ")`)
	p.goTo("parts/board4 shows")
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	evaluate[bool](p, `(() => {
		window.frames_ = [];
		let last = performance.now();
		const look = () => { const now = performance.now(); window.frames_.push(now - last); last = now; requestAnimationFrame(look); };
		requestAnimationFrame(look);
		return true;
	})()`)
	for _, letter := range "oak and ash and elm" {
		p.press(string(letter))
	}
	longest := evaluate[float64](p, `Math.max(...window.frames_)`)
	over := evaluate[float64](p, `window.frames_.filter((f) => f > 50).length`)
	begin := time.Now()
	p.press(enter)
	p.until("it kept", `document.querySelector("[data-cell='parts/board4 shows']")?.innerText.includes("oak and ash")`)
	b.ReportMetric(float64(time.Since(begin).Milliseconds()), "kept-ms")
	b.ReportMetric(longest, "longest-frame-ms")
	b.ReportMetric(over, "frames-over-50ms")
	b.ReportMetric(0, "ns/op")
}

// BenchmarkATrialPageOf300 types in a row of a page of 300 uses of components, and tells how long it takes from the key until a frame has
// laid it out: the median, in ms, of the first frame and of all three, with how long the server took of it.
func BenchmarkATrialPageOf300(b *testing.B) {
	a := startApp(b)
	for _, family := range []string{"crop-tag", "action-button", "pump-lamp"} {
		_, err := a.service.Draft(b.Context(), "furrow", family)
		require.NoError(b, err)
	}
	page, err := a.service.AddTrial(b.Context(), "Many")
	require.NoError(b, err)
	var outline strings.Builder
	outline.WriteString("CropTag label=\"Row\"\nrow wrap gap=8px\n")
	for i := range 299 {
		fmt.Fprintf(&outline, "  %s label=\"Thing %d\"\n", []string{"CropTag tone=ripe", "ActionButton", "PumpLamp status=running"}[i%3], i)
	}
	_, err = a.service.EditTrial(b.Context(), page.Slug, page.Revision, outline.String(), "")
	require.NoError(b, err)
	p := openPage(b, a)
	p.measures()
	p.open("/trial/many")
	for _, width := range []string{"1440", "768", "390"} {
		p.in("Many at "+width+" px", "cropTag", "true")
	}
	p.outlined(1, "CropTag")
	p.press(enter)
	p.until("a row to type in", `document.activeElement?.matches("[role=treegrid] input")`)
	times := map[string][]float64{}
	for i := range 15 {
		text := fmt.Sprintf("CropTag label=\"Row %d\"", i)
		evaluate[bool](p, fmt.Sprintf(`(() => {
			const input = document.activeElement, shown = [];
			window.spent = undefined;
			performance.clearResourceTimings();
			const begin = performance.now();
			const hear = (e) => {
				if (e.data?.kind !== "measured" || !e.data.cases[0]?.parts.some((part) => part.part === "cropTag" && part.text.trim() === "Row %d")) return;
				shown.push(performance.now() - begin);
				if (shown.length < 3) return;
				window.removeEventListener("message", hear);
				const took = performance.getEntriesByType("resource").filter((r) => /trial\/pages\/many$/.test(r.name));
				window.spent = { first: shown[0], all: shown[2], edited: took.at(-1).responseEnd - begin };
			};
			window.addEventListener("message", hear);
			Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(input, %s);
			input.dispatchEvent(new Event("input", { bubbles: true }));
			return true;
		})()`, i, quoted(text)))
		p.until("the page with it", `window.spent`)
		s := evaluate[struct{ First, All, Edited float64 }](p, `window.spent`)
		times["edited"], times["first-frame"], times["all-frames"] = append(times["edited"], s.Edited), append(times["first-frame"], s.First), append(times["all-frames"], s.All)
	}
	for _, name := range []string{"edited", "first-frame", "all-frames"} {
		of := times[name]
		slices.Sort(of)
		b.ReportMetric(of[len(of)/2], name+"-ms")
	}
	b.ReportMetric(0, "ns/op")
}
