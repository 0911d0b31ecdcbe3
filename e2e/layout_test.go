package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func draftTopBar(t *testing.T, a *app) {
	surveys, err := a.service.Surveys(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Top bar", surveys[0].Pages[0].Loose[0].Name)
	_, err = a.service.DraftLayers(t.Context(), "furrow", []string{surveys[0].Pages[0].Loose[0].ID}, "TopBar")
	require.NoError(t, err)
}

// A drawing without flow becomes a component in one action, and the running
// code measures as it was drawn.
func TestADrawingWithoutFlowBecomesAComponent(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey?layer=plots-bar-1")
	p.sees("solved as drawn")
	p.axe("a drawing without flow")
	p.click("[aria-label='Top bar'] button", "Draft a contract")
	p.until("the containers on the bench", `location.pathname === "/hollowbeck/bench/top-bar" && document.querySelector("[aria-label='Cutting list'] [data-part-row=root]")`)
	p.click("button", "Compare C")
	p.until("all facts level", `/[\d,]+ facts agree/.test(document.querySelector("footer").innerText) && document.querySelector("footer").innerText.includes("TopBar:")`)
	p.open("/survey?layer=plots-bar-1")
	p.sees("On the bench")

	// A layer nobody named has to be given a name.
	p.open("/survey?layer=plots-card-15")
	p.until("a name to give", `document.querySelector("[aria-label='Name of the component']")?.value === ""`)
	assert.True(t, evaluate[bool](p, `[...document.querySelectorAll("button")].some((b) => b.textContent === "Draft a contract" && b.disabled)`))
	p.fill("[aria-label='Name of the component']", "", "Top bar")
	p.until("the containers to be read", `[...document.querySelectorAll("article button")].some((b) => b.textContent === "Draft a contract" && b.type === "submit" && !b.disabled)`)
	p.press(kb.Enter)
	p.sees("There is a component TopBar already")
}

// The containers can be looked at and edited, by pointer and by keyboard.
func TestTheLayoutFacet(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	draftTopBar(t, a)
	p.open("/bench/top-bar")
	p.sees("facts agree")
	p.press("l")
	p.until("the facet by its key", `document.querySelector("[aria-label='Cutting list']")`)
	p.axe("the layout facet")

	// The list is walked and edited by keys; the room of the container is measured in the picture.
	p.focusCell("root", "name")
	p.press(kb.ArrowDown)
	p.until("the next container", `document.activeElement.closest("tr").dataset.partRow === "pair"`)
	p.until("its gap in the picture", `document.querySelector("[data-kind=gap][data-lit]")`)
	assert.Contains(t, evaluate[[]string](p, `[...document.querySelectorAll("[aria-label='Containers on the design'] [data-mark=dimension] text")].map((e) => e.textContent)`), "8", "the gap is not measured")
	for range 4 {
		p.press(kb.ArrowRight)
	}
	p.until("the cell of the gap", `document.activeElement.dataset.column === "gap"`)
	p.press(kb.Enter)
	p.until("it to be edited", `document.activeElement.ariaLabel === "Gap of pair"`)
	p.axe("a cell that is edited")
	p.fill("[aria-label='Gap of pair']", "", "12")
	p.press(kb.Enter)
	p.until("the wider gap", `document.querySelector("[data-part-row=pair] [data-column=gap]").innerText === "12"`)
	p.until("the focus back in the cell", `document.activeElement.dataset.column === "gap"`)
	p.until("the part off the drawing", `document.querySelector("[aria-label='Cutting list']").innerText.includes("4 px off at most")`)
	p.click("button", "Undo")
	p.sees("solved as drawn")

	// Room in the picture leads to the value it is made by.
	p.until("the room, at rest", `(() => {
		const x = document.querySelector("[data-kind=gap][data-lit]")?.getBoundingClientRect().x;
		const still = x !== undefined && x === window.before && document.querySelector("footer [aria-live]").textContent === "Idle";
		window.before = x;
		return still;
	})()`)
	at := evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-kind=gap][data-lit]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseClickXY(at[0], at[1]))
	p.sees("pair · gap")
	p.press(kb.Escape)

	// One value goes into all rows that are marked, in one edit.
	p.focusCell("pair", "across")
	p.press(" ")
	p.until("a row marked", `document.querySelector("[data-part-row=pair]").ariaSelected === "true"`)
	p.press(kb.ArrowDown)
	p.focusCell("links", "across")
	p.press(kb.Enter)
	p.until("the words it can be", `document.activeElement.ariaLabel === "Align across of links"`)
	evaluate[bool](p, `(() => {
		const s = document.activeElement;
		s.value = "end"; // typing its first letters passes by others, as fast as the browser hears them
		return s.dispatchEvent(new Event("change", { bubbles: true }));
	})()`)
	p.until("both to follow", `["links", "pair"].every((r) => document.querySelector("[data-part-row=" + r + "] [data-column=across]").innerText === "end")`)
	p.until("rest", `document.querySelector("footer [aria-live]").textContent === "Idle"`)
	p.click("button", "Undo")
	p.until("one edit to undo", `["links", "pair"].every((r) => document.querySelector("[data-part-row=" + r + "] [data-column=across]").innerText === "center")`)

	// Another way to lay out, and another reading; what is wrong is said.
	p.focusCell("links", "lays")
	p.press(kb.Enter)
	p.fill("[aria-label='Lays out of links']", "", "stack")
	p.press(kb.Enter)
	p.until("a stack", `document.querySelector("[data-part-row=links] [data-column=lays]").innerText === "stack"`)
	p.until("rest", `document.querySelector("footer [aria-live]").textContent === "Idle"`)
	p.click("button", "Undo")
	p.sees("solved as drawn")
	p.focusCell("links", "gap")
	p.press(kb.Enter)
	p.fill("[aria-label='Gap of links']", "", "wide")
	p.press(kb.Enter)
	p.until("what is wrong with it", `document.querySelector("[aria-label='Cutting list'] [role=alert]")`)
	p.focusCell("root", "name")
	p.click("[aria-label='Other readings of root'] button", "Take")
	p.until("no inner rows", `!document.querySelector("[data-part-row=pair]")`)
	p.sees("row with inner ones")
}

// focusCell puts the focus on a cell of a part's row in the cutting list.
func (p *page) focusCell(part, column string) {
	p.t.Helper()
	cell := "[data-part-row=" + part + "] " + map[bool]string{true: "[role=gridcell]", false: "[data-column=" + column + "]"}[column == "name"]
	p.until("the row of "+part, "document.querySelector(`"+cell+"`)")
	evaluate[bool](p, "(() => { document.querySelector(`"+cell+"`).focus(); return true })()")
}

// The rail sets the width of the container for every lane: dragged, by keys and
// by address; what it offers ends the trouble, in the browser, too.
func TestTheRailIsDragged(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	draftTopBar(t, a)
	p.open("/bench/top-bar")
	p.until("the rail", `document.querySelector("[role=slider]")`)
	box := evaluate[[4]float64](p, `(() => { const b = document.querySelector("[role=slider]").getBoundingClientRect(); return [b.x, b.y + b.height / 2, b.width, 0] })()`)
	x := func(px float64) float64 { return box[0] + (px-160)/1440*box[2] }
	p.do(chromedp.MouseEvent("mousePressed", x(1000), box[1], chromedp.Button("left")))
	p.do(chromedp.MouseEvent("mouseMoved", x(700), box[1], chromedp.Button("left")))
	p.until("the lanes follow the hand", `document.querySelector("[aria-label=Design]").innerText.includes("700 × 56") && document.querySelector("[aria-label=Built]").innerText.includes("700 × 56")`)
	assert.NotContains(t, evaluate[string](p, `location.search`), "width", "the address changed before the hand let go")
	p.do(chromedp.MouseEvent("mouseReleased", x(600), box[1], chromedp.Button("left")))
	p.until("the address has it", `new URLSearchParams(location.search).get("width") === "600"`)
	p.until("design and built", `document.querySelector("[aria-label=Built]").innerText.includes("600 × 56")`)

	evaluate[bool](p, `document.activeElement.blur() ?? true`)
	p.focusOn("[role=slider]", "Width of the container, px")
	p.press(kb.ArrowLeft)
	p.until("a pixel less", `document.querySelector("[role=slider]").ariaValueNow === "599"`)
	p.press(kb.PageDown)
	p.until("where trouble begins", `document.querySelector("[role=slider]").ariaValueNow === "488"`)
	p.press(kb.PageDown)
	p.until("in trouble", `document.querySelector("[role=slider]").ariaValueNow === "487"`)
	p.axe("the rail at a width")

	p.click("[aria-label=Widths] button", "root: stack below 488 px")
	p.sees("below 488 px")
	p.until("stacked in the browser", `document.querySelector("[aria-label=Built]").innerText.includes("487 × 76")`)
	p.until("the facts of the drawn width are level", `/TopBar: [\d,]+ facts agree/.test(document.querySelector("footer").innerText)`)
	p.focusOn("[role=slider]", "Width of the container, px")
	p.press(kb.ArrowRight)
	p.until("one row from the switch point on", `document.querySelector("[aria-label=Built]").innerText.includes("488 × 56")`)

	p.click("[aria-label=Widths] button", "Remove")
	p.until("no switch point", `!document.querySelector("[aria-label=Widths]").innerText.includes("laid out otherwise")`)
	p.focusOn("[role=slider]", "Width of the container, px")
	p.press(kb.Escape)
	p.until("back to drawn", `!location.search.includes("width") && document.querySelector("[aria-label=Built]").innerText.includes("1440 × 56")`)
	p.open("/bench/top-bar?width=abc")
	p.until("a width that is none", `document.querySelector("[aria-label=Widths]")?.innerText.includes("as drawn")`)
}
