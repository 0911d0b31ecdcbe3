package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
)

// lampThatRuns drafts the lamp, in the states that are drawn of it.
func lampThatRuns(t *testing.T, a *app) {
	_, err := a.service.Draft(t.Context(), "furrow", "pump-lamp")
	require.NoError(t, err)
	_, err = a.service.AdoptStates(t.Context(), "pump-lamp", 1, "status", []float64{0, 9000, 4000}, map[string]string{"running": "root"}, behaviour.ByItself)
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
	p.choose("Who leads from one to another", "itself")
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

	// The machine is changed where it is drawn, by keys: a state more, a way to it, another name, and gone again.
	brick := func(id string) {
		p.until("the brick "+id, fmt.Sprintf(`(() => { const e = document.querySelector("[data-brick=%s]"); e?.focus(); return e !== null && document.activeElement === e })()`, id))
	}
	brick("draining")
	p.key("a")
	p.until("the field of a name", `document.activeElement.getAttribute("aria-label") === "Name of a state"`)
	p.press("spare\r")
	p.until("the new brick", `document.querySelector("[data-brick=spare]")`)
	brick("draining")
	p.key("l")
	p.choose("Lead to", "spare")
	p.fill("[aria-label='What leads there']", "", "press of root")
	p.axe("a machine that is changed where it is drawn")
	p.press(kb.Enter)
	p.until("the way in words", `/state draining[\s\S]*on press of root: to spare/.test(document.querySelector("textarea").value)`)
	p.click("[role=group] button", "Cut the way to spare")
	p.until("the way to be gone", `!document.querySelector("textarea").value.includes("to spare")`)
	brick("spare")
	p.key("r")
	p.until("the field of a name", `document.activeElement.getAttribute("aria-label") === "Name of a state"`)
	p.press("idle\r")
	p.until("the other name", `document.querySelector("[data-brick=idle]") && !document.querySelector("[data-brick=spare]")`)
	brick("idle")
	p.key("Delete")
	p.until("it to be gone", `!document.querySelector("[data-brick=idle]") && document.querySelectorAll("[data-brick]").length === 3`)

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

// A lamp that is used is recorded, what it shows is expected by pointing at it, and that is replayed after each change: what no longer holds keeps a release back.
func TestScenariosOfALamp(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	lampThatRuns(t, a)
	p.open("/bench/pump-lamp")
	p.sees("facts agree")
	p.press("h")
	p.sees("none kept yet")
	const marks = `[...document.querySelectorAll("[aria-label='Time line'] button[aria-label^='Take back']")].map((b) => b.getAttribute("aria-label"))`
	p.click("[aria-label='Time line'] button", "Use and record")
	lamp := func() (x, y float64) {
		at := evaluate[[2]float64](p, `(() => { const b = document.querySelector("iframe[title^='What is on screen']").getBoundingClientRect(); return [b.x + 40, b.y + 24] })()`)
		return at[0], at[1]
	}
	p.until("the frame to be there", `document.querySelector("iframe[title^='What is on screen']")`)
	for try := 0; len(evaluate[[]string](p, marks)) == 0 && try < 40; try++ { // a page cannot see into the frame: until what runs there hears the press
		x, y := lamp()
		p.do(chromedp.MouseClickXY(x, y))
		evaluate[bool](p, `new Promise((done) => setTimeout(done, 250, true))`)
	}
	heard := evaluate[[]string](p, marks)
	require.NotEmpty(t, heard, "the press of the lamp was not recorded")
	assert.Contains(t, heard[0], "press of root at ")
	p.axe("a component that is recorded")
	p.click("[aria-label='Time line'] button", "Back to the time line")

	// By the keyboard, from a list; by the pointer, at what is on screen.
	p.choose("Expect of", "label")
	p.sees("what is so, to be expected")
	p.axe("what can be expected")
	p.click("[aria-label='Expect of label'] button", "label reads 'Running'")
	p.until("it to be expected", marks+`.some((m) => m.includes("label reads 'Running' at "))`)
	p.choose("Expect of", "")
	p.until("the list to be away", `!document.querySelector("[aria-label='Expect of label']")`)
	x, y := lamp()
	p.do(chromedp.MouseClickXY(x, y))
	p.until("what it points at", `document.querySelector("[aria-label='Expect of label'], [aria-label='Expect of root']")`)
	p.fill("[aria-label='Name of the scenario']", "", "runs")
	p.click("[aria-label=Scenarios] button", "Keep as a scenario")
	p.until("it to hold", `document.querySelector("[aria-label=Scenarios] [role=status]").textContent === "1 holds"`)
	p.axe("a scenario")

	// Another text, and it no longer holds: it says where, and keeps a release back.
	view, err := a.service.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	_, err = a.service.Behave(t.Context(), "pump-lamp", view.Revision, strings.Replace(view.Text, "'Running'", "'On'", 1))
	require.NoError(t, err)
	p.open("/bench/pump-lamp")
	p.sees("facts agree")
	p.press("h")
	p.sees("text of label is 'On', not 'Running'")
	p.axe("a scenario that does not hold")
	p.click("button", "Release…")
	p.sees("he scenario runs, step")
	assert.True(t, evaluate[bool](p, `[...document.querySelectorAll("[role=dialog] button")].find((b) => b.textContent.startsWith("Release ")).disabled`))
	p.axe("a release that is kept back")
	p.press(kb.Escape)
	p.until("the dialog to be away", `!document.querySelector("[role=dialog]")`)
	p.click("[title='Lay it on the time line']", "")
	p.until("it to be laid on the time line", marks+`.some((m) => m.includes("not 'Running'"))`)
}
