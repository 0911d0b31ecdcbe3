package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo"
)

// focusOn walks with Tab until an element has the focus, as a person would.
func (p *page) focusOn(selector, name string) {
	p.t.Helper()
	p.until(selector+" "+name, element(selector, name))
	for range 80 {
		if evaluate[bool](p, fmt.Sprintf("document.activeElement === (%s)", element(selector, name))) {
			outline := evaluate[string](p, "getComputedStyle(document.activeElement).outlineStyle")
			require.NotEqual(p.t, "none", outline, "the focus on %s %q cannot be seen", selector, name)
			return
		}
		p.press(kb.Tab)
	}
	p.fail("%s %q is not reached with Tab", selector, name)
}

func TestTheJobByKeyboardAlone(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey?show=families")
	p.focusOn("[aria-label=CropTag] button", "Draft a contract")
	p.press(enter)
	p.sees("22 facts agree")

	// Cases with the arrows; the address follows.
	p.focusOn("[aria-label=Cases] button", "m · growing")
	p.press(kb.ArrowRight)
	p.until("the next case", `new URLSearchParams(location.search).get("case")?.includes("strong=true")`)
	p.sees("m · growing · strong")
	p.press(kb.ArrowLeft)
	p.press("g")
	p.until("cases in rows", `document.querySelector("[aria-label=Cases][data-rows]")?.clientHeight > 100`)
	p.press("g")
	p.until("cases in one row", `!document.querySelector("[aria-label=Cases][data-rows]")`)

	// The ledger with the arrows; E edits, Escape leaves and the focus is back.
	p.press("a")
	p.focusOn("tr[data-fact]", "")
	p.press(kb.ArrowDown)
	p.press(kb.ArrowDown)
	p.press(kb.ArrowDown)
	p.until("the fourth fact", `document.activeElement.dataset.fact === "root width"`)
	p.press("e")
	p.until("the editor, where one types at once", `document.activeElement.ariaLabel?.startsWith("Value: as CSS writes it")`)
	p.press(kb.Escape)
	p.until("the focus back on the fact", `document.activeElement.dataset?.fact === "root width"`)

	// Finding and the list of keys.
	p.press("f")
	p.until("the search", `document.activeElement.placeholder === "Find by name, or a command"`)
	p.press("crop")
	p.sees("Says in a word how far a crop is.")
	p.press(kb.Escape)
	p.until("the search to close", `!document.querySelector("[placeholder='Find by name, or a command']")`)
	p.press("f")
	p.fill("[placeholder='Find by name, or a command']", "", "l ripe strong")
	p.sees("l · ripe · strong")
	p.axe("Finding")
	p.press(kb.Enter)
	p.until("the case that was found", `new URLSearchParams(location.search).get("case")?.includes("tone=ripe") && !document.querySelector("[role=dialog]")`)
	p.press("f")
	p.until("what was gone to last", `[...document.querySelectorAll("[role=dialog] button")][0]?.innerText.includes("l · ripe · strong")`)
	p.fill("[placeholder='Find by name, or a command']", "", "dark")
	p.press(kb.Enter)
	p.until("a command to be carried out", `document.documentElement.dataset.mantineColorScheme === "dark" && !document.querySelector("[role=dialog]")`)

	// What the view itself can do is a command, too, as it is now.
	for _, command := range []struct{ typed, cases string }{{"cases in rows", "rows"}, {"cases in a strip", ""}} {
		p.press("f")
		p.fill("[placeholder='Find by name, or a command']", "", command.typed)
		p.sees("Of CropTag on the bench")
		p.press(kb.Enter)
		p.until(command.typed, fmt.Sprintf(`(new URLSearchParams(location.search).get("cases") ?? "") === %q && !document.querySelector("[role=dialog]")`, command.cases))
	}

	// Single keys are switched off, and do nothing then (WCAG 2.2, 2.1.4).
	p.press("?")
	p.sees("Ledger: edit the contract's value")
	p.focusOn("[role=dialog] input[role=switch]", "")
	p.press(" ")
	p.press(kb.Escape)
	p.until("the list of keys to close", `!document.querySelector("[role=dialog]")`)
	p.press("f")
	p.press("g")
	assert.False(t, evaluate[bool](p, `document.querySelector("[placeholder='Find by name, or a command']") !== null || location.search.includes("cases=rows")`), "a single key still does something")
	evaluate[bool](p, `(() => { document.querySelector("button[aria-label^='Keys and help']").click(); return true })()`)
	p.sees("Ledger: edit the contract's value")
	p.focusOn("[role=dialog] input[role=switch]", "")
	p.press(" ")
	p.press(kb.Escape)
	p.until("the list of keys to close again", `!document.querySelector("[role=dialog]")`)
	p.press("?")
	p.sees("Ledger: edit the contract's value")
	p.axe("Keys")
	p.press(kb.Escape)

	// Deciding with T and K.
	require.NoError(t, a.service.PublishNext(t.Context(), "furrow"))
	_, err := a.service.Fetch(t.Context())
	require.NoError(t, err)
	p.open("/sync")
	p.focusOn("tr[data-move]", "")
	p.press("t")
	p.press(kb.ArrowDown)
	p.press("k")
	p.sees("1 taken, 1 kept")
	p.focusOn("button", "Confirm")
	p.press(enter)
	p.until("two left to decide", `document.querySelector("nav a[href$='/sync']").innerText.includes("2")`)
}

// From a drawing on a page to a component with a switch point, without a
// pointer.
func TestLayoutByKeyboardAlone(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey?show=layers")
	p.focusOn("[aria-label=Layers] input", "Group 2, box")
	p.press(" ")
	p.focusOn("[aria-label=Pages] button", "See its containers")
	p.press(enter)
	p.fill("[aria-label='Group 2'] [aria-label='Name of the component']", "", "Plot card")
	p.until("its containers read", element("[aria-label='Group 2'] button", "Draft a contract"))
	p.press(enter)
	p.until("the containers on the bench", `location.pathname === "/hollowbeck/bench/plot-card" && document.querySelector("[data-part-row=root]")`)
	p.until("rest", `document.querySelector("footer [aria-live]").textContent === "Idle"`)
	p.focusOn("[aria-label='Cutting list'] [role=gridcell]", "root")
	p.press(kb.ArrowDown)
	p.press(kb.ArrowDown)
	p.until("a container of texts", `document.activeElement.closest("tr").dataset.partRow === "body"`)
	for range 4 {
		p.press(kb.ArrowRight)
	}
	p.until("its gap", `document.activeElement.dataset.column === "gap" && document.activeElement.innerText === "{space.1-half}"`)
	p.press(enter)
	p.fill("[aria-label='Gap of body']", "", "{space.2}")
	p.press(enter)
	p.until("the token's gap, and the focus back", `document.activeElement.dataset.column === "gap" && document.activeElement.innerText === "{space.2}"`)

	// A width, and a change that holds below a switch point only.
	p.focusOn("[role=slider]", "Width of the container, px")
	p.press(kb.Home)
	p.until("the least width", `document.querySelector("[role=slider]").ariaValueNow === "160"`)
	p.press("c")
	p.until("the comparison", `document.querySelector("[aria-label=Built]")?.innerText.includes("160 ×")`)
	p.press(kb.Escape)
	p.until("as drawn", `document.querySelector("[aria-label=Widths]").innerText.includes("as drawn")`)
	p.press("z", chromedp.KeyModifiers(chromedp.ModifierCtrl))
	p.until("undone", `/PlotCard: [0-9]+ of/.test(document.querySelector("footer").innerText)`)
}

// States nobody plans for: a family the design holds no more, a component that
// is not there, an old address.
func TestWhatIsGoneIsSaid(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), "furrow", "tool-row")
	require.NoError(t, err)
	var doc map[string]any
	require.NoError(t, json.Unmarshal(demo.Revisions()[0], &doc))
	families, _ := doc["families"].([]any)
	doc["families"], doc["pages"] = families[:1], []any{}
	without, err := json.Marshal(doc)
	require.NoError(t, err)
	_, err = a.service.Drop(t.Context(), "furrow.design.json", without)
	require.NoError(t, err)

	p := openPage(t, a)
	p.open("/bench/tool-row")
	p.sees("ToolRow is no longer drawn")
	p.axe("Bench, family gone")
	p.open("/bench/tool-row/code")
	p.sees("export function ToolRow")
	p.open("/sync")
	p.sees("does not hold this family")
	p.axe("Sync, family gone")
	p.open("/survey")
	p.sees("The document holds no pages")
	p.axe("Survey without pages")
	p.open("/bench/nobody")
	p.sees(`There is no component "nobody".`)
	p.axe("Bench, unknown component")
	p.open("/nowhere/at/all")
	p.until("where things stand", `/^\/hollowbeck\/?$/.test(location.pathname) && document.querySelector("h1")?.textContent === "Where things stand"`)
}

// Long names and texts stay inside the page at 1280 px.
func TestLongContentDoesNotWidenThePage(t *testing.T) {
	a := startApp(t)
	long := strings.Repeat("Unreasonably long label without any end ", 12)
	text := bytes.ReplaceAll(demo.Revisions()[0], []byte(`"content": "Growing"`), fmt.Appendf(nil, `"content": %q`, long))
	text = bytes.ReplaceAll(text, []byte(`"name": "Seed swap"`), fmt.Appendf(nil, `"name": %q`, strings.Repeat("Seed swap ", 15)))
	text = bytes.ReplaceAll(text, []byte(`"name": "Furrow"`), fmt.Appendf(nil, `"name": %q`, strings.Repeat("Furrow", 30)))
	text = bytes.ReplaceAll(text, []byte("First drawing of the crop tags"), []byte(strings.Repeat("a", 400)))
	_, err := a.service.Drop(t.Context(), "furrow.design.json", text)
	require.NoError(t, err)
	_, err = a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	_, err = a.service.DraftLayers(t.Context(), "furrow", []string{"plots-bar-1"}, "TopBar")
	require.NoError(t, err)
	lampThatRuns(t, a)
	require.NoError(t, a.service.PublishNext(t.Context(), "furrow")) // there is much to say of a component that moved
	_, err = a.service.Fetch(t.Context())
	require.NoError(t, err)
	p := openPage(t, a)
	for _, view := range []string{"/", "/sources", "/survey", "/survey?find=copies:plots-card-15", "/survey?show=families", "/survey?show=doubts", "/survey?show=widths", "/survey?show=order", "/survey?show=layers", "/bench", "/survey?layer=plots-bar-1", "/bench/crop-tag?all=1", "/bench/crop-tag?facet=layout", "/bench/top-bar?facet=layout&width=300", "/bench/crop-tag?facet=contract", "/bench/crop-tag?facet=checks", "/bench/crop-tag?facet=behaviour", "/bench/pump-lamp?facet=behaviour", "/bench/crop-tag?stress=1", "/bench/crop-tag/code", "/tokens", "/tokens?show=outputs", "/catalogue/crop-tag", "/sync", "/sources/compare?document=furrow", "/sources/compare"} {
		p.open(view)
		p.until("rest", `document.querySelector("footer [aria-live]")?.textContent === "Idle" && document.querySelector("main").innerText.length > 10`)
		over := evaluate[[2]int](p, `[document.documentElement.scrollWidth, document.querySelector("main").scrollWidth - document.querySelector("main").clientWidth]`)
		assert.LessOrEqual(t, over[0], 1280, "%s scrolls sideways", view)
		assert.LessOrEqual(t, over[1], 0, "%s is wider than its frame", view)
		// Text of twice the size, a window at four times: what is wider than it scrolls by itself,
		// the window does not (WCAG 2.2, 1.4.4 and 1.4.10: 320 CSS px).
		for _, narrow := range []int64{640, 320} {
			require.NoError(t, chromedp.Do(p.ctx, chromedp.EmulateViewport(narrow, 800)))
			wide := evaluate[string](p, fmt.Sprintf(`document.documentElement.scrollWidth <= %d ? "" : [...document.querySelectorAll("main *")].filter((e) => { for (let up = e.parentElement; up; up = up.parentElement) if (up.tagName !== "HTML" && getComputedStyle(up).overflowX !== "visible") return false; return e.getBoundingClientRect().right > %d + 1; }).slice(0, 3).map((e) => e.tagName + " " + e.className).join(", ")`, narrow, narrow))
			assert.Empty(t, wide, "%s scrolls sideways at %d px", view, narrow)
		}
		require.NoError(t, chromedp.Do(p.ctx, chromedp.EmulateViewport(1280, 800)))
	}
}
