package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lampThatRuns drafts the lamp, in the states that are drawn of it.
func lampThatRuns(t *testing.T, a *app) {
	_, err := a.service.Draft(t.Context(), "furrow", "pump-lamp")
	require.NoError(t, err)
	_, err = a.service.AdoptStates(t.Context(), "pump-lamp", 1, "status", []float64{0, 9000, 4000}, map[string]string{"running": "root"}, false)
	require.NoError(t, err)
	_, err = a.service.Behave(t.Context(), "pump-lamp", 2, `machine PumpLamp
begins as status says
expects running, then draining, then still
state still
  on press of root: to running, tell onStart
  text of label is 'Still'
state running
  after 9000 ms: to draining
  text of label is 'Running'
state draining
  after 4000 ms: to still
  text of label is 'Draining'
`)
	require.NoError(t, err)
}

// The drawn states of a lamp become states that it is in, by pointer and by keyboard: drawn, in words, held against what is looked for, and run in time.
func TestWhatALampDoes(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "pump-lamp")
	require.NoError(t, err)
	p.open("/bench/pump-lamp")
	p.sees("facts agree")
	p.press("h")
	p.sees("What does PumpLamp do?")
	p.axe("behaviours to begin with")
	p.click("[aria-label='Behaviours to begin with'] button strong", "the states of status")
	p.until("its parts to choose from", `document.querySelector("form[aria-label='Begin with a status'] select")`)
	p.fill("form input:not([type=checkbox])", "", "still, running 2000, draining 1000")
	p.choose("what is pressed for running", "root")
	p.axe("states of a prop")
	p.click("form label", "it goes along when status changes")
	p.until("it not to go along", `!document.querySelector("form input[type=checkbox]").checked`)
	p.click("form button", "Begin with it")

	// It is drawn in courses: each state as far down as it is from the first.
	p.until("three bricks", `document.querySelectorAll("[data-brick]").length === 3`)
	assert.Equal(t, []string{"still", "running", "draining"}, evaluate[[]string](p, `[...document.querySelectorAll("[data-brick]")].sort((a, b) => a.offsetTop - b.offsetTop).map((b) => b.dataset.brick)`))
	p.sees("Nothing is wrong with it.")
	p.axe("what a component does")
	p.until("the drawing to be walked", `(() => { document.querySelector("[data-brick=still]").focus(); return true })()`)
	p.press(kb.ArrowDown)
	p.until("the brick below", `document.activeElement.dataset.brick === "running"`)
	p.key("Enter")
	p.until("its sentence", `(() => { const e = document.activeElement; return e.tagName === "TEXTAREA" && e.value.slice(e.selectionStart, e.selectionEnd) === "state running" })()`)

	// Words that say nothing are told with their line, and nothing is kept; others are tried while they are typed.
	p.press("state run")
	p.sees("leads to")
	assert.True(t, evaluate[bool](p, `document.activeElement.getAttribute("aria-invalid") === "true"`))
	p.axe("words that are wrong")
	p.press(kb.Escape)
	p.until("what was kept", `document.querySelector("textarea").value.includes("state running")`)
	p.until("the words to type in", `(() => { const e = document.querySelector("textarea"); e.focus(); e.setSelectionRange(e.value.length, e.value.length); return true })()`)
	p.press("state lost\r")
	p.sees("nothing leads to lost")
	p.until("the state that was typed", `document.querySelector("[data-brick=lost]")`)
	p.press(kb.Escape)
	p.until("it to be dropped", `!document.querySelector("[data-brick=lost]")`)
	p.until("the words to type in", `(() => { const e = document.querySelector("textarea"); e.focus(); e.setSelectionRange(e.value.indexOf("after"), e.value.indexOf("after") + "after 2000 ms".length); return true })()`)
	p.press("after 4000 ms")
	p.until("it to be tried", `[...document.querySelectorAll("[data-brick] ~ svg text, svg text")].some((e) => e.textContent.includes("after 4000 ms"))`)
	p.press(kb.Enter, chromedp.KeyModifiers(2)) // Ctrl
	p.until("it to be kept", `[...document.querySelectorAll("button")].some((b) => b.textContent.startsWith("Keep") && b.disabled) && document.querySelector("textarea").value.includes("after 4000 ms")`)

	// Instances run side by side in simulated time: one for each value it can begin with.
	said := func() string {
		return evaluate[string](p, `document.querySelector("[aria-label='Time line'] [role=slider]").getAttribute("aria-valuetext")`)
	}
	p.until("three courses", `document.querySelector("[aria-label='Time line'] [role=slider]")?.getAttribute("aria-valuetext") === "0 s: still, running, draining"`)
	p.until("the time line to have the focus", `(() => { document.querySelector("[aria-label='Time line'] [role=slider]").focus(); return true })()`)
	p.press(".")
	p.until("the next change", `document.querySelector("[role=slider]").getAttribute("aria-valuetext") === "1 s: still, running, still"`)
	p.press(kb.Enter) // the first is pressed
	p.until("what happened to it", `document.querySelector("[role=slider]").getAttribute("aria-valuetext") === "1 s: running, running, still"`)
	p.press(".")
	p.until("the next change", `document.querySelector("[role=slider]").getAttribute("aria-valuetext") === "4 s: running, draining, still"`)
	p.axe("instances in time")
	p.press(kb.Delete)
	p.until("it to be taken back", `document.querySelector("[role=slider]").getAttribute("aria-valuetext") === "4 s: still, draining, still"`)
	p.press(" ")
	p.until("time to go by", `Number(document.querySelector("[role=slider]").getAttribute("aria-valuenow")) > 4200`)
	p.press(" ")
	p.press(kb.End)
	p.until("the end", `document.querySelector("[role=slider]").getAttribute("aria-valuetext").startsWith("11 s") || document.querySelector("[role=slider]").getAttribute("aria-valuenow") === document.querySelector("[role=slider]").getAttribute("aria-valuemax")`)
	assert.Contains(t, said(), "still, still, still")

	// The lanes show each drawn state as the state that the component is in, and all agree.
	p.press("c")
	p.until("all facts level", `/[\d,]+ facts agree/.test(document.querySelector("footer").innerText) && document.querySelector("footer").innerText.includes("PumpLamp:")`)
	_, err = a.service.Behave(t.Context(), "pump-lamp", 1, "")
	assert.ErrorContains(t, err, "changed", "an edit of what is no more was kept")
}
