package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/sheet"
	"cobrik/demo"
	"cobrik/demo/story"
	"cobrik/service"
)

// measures keeps what frames measure, by their titles, from the next page on.
func (p *page) measures() {
	p.t.Helper()
	p.do(func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, t, cdppage.AddScriptToEvaluateOnNewDocument, cdppage.AddScriptToEvaluateOnNewDocumentParams{Source: `
			window.measured = {};
			window.addEventListener("message", (e) => {
				if (e.data?.kind !== "measured") return;
				const frame = [...document.querySelectorAll("iframe")].find((f) => f.contentWindow === e.source);
				if (frame) window.measured[frame.title] = Object.fromEntries((e.data.cases[0]?.parts ?? []).map((part) => [part.part, { ...part.box, text: part.text }]));
			});`})
		return chromedp.Void{}, err
	})
}

// measured is where a frame of a title has a part.
type measured struct {
	X, Y, Width, Height float64
	Text                string
}

// in waits until a frame has measured a part, for which an expression of its box holds, and gives it.
func (p *page) in(frame, part, holds string) measured {
	p.t.Helper()
	of := fmt.Sprintf(`window.measured?.[%s]?.[%s]`, quoted(frame), quoted(part))
	p.until(fmt.Sprintf("%s in %s: %s", part, frame, holds), fmt.Sprintf(`((box) => box && (%s))(%s)`, holds, of))
	return evaluate[measured](p, of)
}

// outlined waits for the row of an outline, from 1, and chooses it by the pointer.
func (p *page) outlined(row int, says string) {
	p.t.Helper()
	p.until(fmt.Sprintf("row %d to say %s", row, says), fmt.Sprintf(`document.querySelector("[role=treegrid] [data-at='%d']")?.innerText.trim().startsWith(%s)`, row-1, quoted(says)))
	p.click(fmt.Sprintf("[role=treegrid] [data-at='%d'] [role=gridcell]", row-1), "")
	p.until("the row to be chosen", fmt.Sprintf(`document.querySelector("[data-at='%d']")?.getAttribute("aria-selected") === "true"`, row-1))
}

// keepsRow types into a row that is open, in place of what is there, and leaves it.
func (p *page) keepsRow(text string) {
	p.t.Helper()
	p.until("a row to type in", `document.activeElement?.matches("[role=treegrid] input")`)
	evaluate[bool](p, `(document.activeElement.select(), true)`)
	p.press(text)
	p.until("what was typed", fmt.Sprintf(`document.activeElement?.value === %s`, quoted(text)))
	p.press(kb.Escape)
	p.until("the row to be left, or its offers", `document.activeElement?.getAttribute("role") === "treegrid" || !document.querySelector("[role=treegrid] [role=listbox]:not([hidden])")`)
	if evaluate[bool](p, `document.activeElement?.getAttribute("role") !== "treegrid"`) {
		p.press(kb.Escape)
	}
	p.until("the row to be left", `document.activeElement?.getAttribute("role") === "treegrid"`)
}

const alt = chromedp.ModifierAlt

// From the drawn Plots page to a page on trial that is level with the drawing, wide and narrow: what is drawn of components is found, drafted, and
// taken over; an edit that leaves the drawing is seen, and undone.
func TestADrawnPageIsTakenOverLevel(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), demo.Document, "crop-tag")
	require.NoError(t, err)
	for find, name := range map[string]string{"repeat:plots-bar-1": "TopBar", "copies:plots-card-15": "PlotTile"} {
		_, err := a.service.DraftFind(t.Context(), service.FindDraft{Document: demo.Document, Find: find, Name: name})
		require.NoError(t, err)
	}
	_, err = a.service.DraftLayers(t.Context(), demo.Document, []string{"plots-narrow-bar-1"}, "NarrowBar")
	require.NoError(t, err)

	p := openPage(t, a)
	p.measures()
	p.open("/trial")
	p.sees("No page is on trial yet")
	p.axe("the list without a page")
	p.click("button", "Take over all pages of Furrow")
	p.until("the pages", `document.querySelectorAll("table tbody tr").length > 3`)
	p.axe("the list of pages")
	p.click("a", "Plots")
	p.sees("level at 1440 and 390")
	p.axe("a page on trial")
	assert.Equal(t, 120.0, p.in("Plots at 1440 px", "plotTile", "true").X)
	assert.Equal(t, 24.0, p.in("Plots at 390 px", "plotTile", "true").X)

	grid := evaluate[int](p, `[...document.querySelectorAll("[role=treegrid] [role=row]")].findIndex((r) => r.innerText.trim().startsWith("grid columns=3")) + 1`)
	require.Positive(t, grid)
	p.outlined(grid, "grid columns=3")
	p.press(enter)
	p.keepsRow("grid columns=2 gap={space.6} align=start")
	p.in("Plots at 1440 px", "plotTile3", "box.x < 200")
	p.until("the differences", `[...document.querySelectorAll("[aria-label='Against the drawing'] tbody tr")].length > 3`)
	p.sees("level at 390")
	p.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	p.sees("level at 1440 and 390")

	p.click("input[type=checkbox]", "")
	p.until("the drawing beside", `document.querySelectorAll("section[aria-label^='Drawn, ']").length === 2`)
	p.axe("a page beside its drawing")
}

// A page is written by keyboard alone: a component by its name, its values, a row moved, wrapped, put in and out, and what was typed wrong.
func TestAPageIsWrittenByKeyboard(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), demo.Document, "crop-tag")
	require.NoError(t, err)
	p := openPage(t, a)
	p.measures()
	p.open("/trial")
	p.fill("input", "Name of a new page", "Beds")
	p.press(enter)
	p.outlined(1, "stack")
	p.press(enter)
	p.until("a row to type in", `document.activeElement?.matches("[role=treegrid] input")`)
	p.press(kb.End)
	p.press(enter)
	p.press("cro")
	p.until("what it could be", `[...document.querySelectorAll("[role=listbox] [role=option]")][0]?.innerText.startsWith("CropTag")`)
	p.press(kb.Tab)
	p.until("the name", `document.activeElement?.value === "CropTag "`)
	p.press("tone=")
	p.until("its options", `[...document.querySelectorAll("[role=listbox] [role=option]")].some((o) => o.innerText.startsWith("ripe"))`)
	p.press("ri")
	p.until("one of them", `document.querySelectorAll("[role=listbox] [role=option]").length === 1`)
	p.press(kb.Tab)
	p.until("the option", `document.activeElement?.value === "CropTag tone=ripe"`)
	p.press(` label="Ripe now"`)
	p.in("Beds at 390 px", "cropTag", `box.text.includes("Ripe now")`)
	p.press(kb.Escape)
	p.press(kb.Escape)
	outline := func(want string) {
		t.Helper()
		p.until("the outline "+want, fmt.Sprintf(`[...document.querySelectorAll("[role=treegrid] [role=row]")].map((r) => (r.getAttribute("aria-level") + r.innerText.trim().split(/[ =\n]/)[0])).join(" ") === %s`, quoted(want)))
	}
	outline("1stack 1CropTag")
	p.do(chromedp.KeyEvent(kb.ArrowRight, chromedp.KeyModifiers(alt)))
	outline("1stack 2CropTag")
	p.press("u")
	outline("1stack 2CropTag 2CropTag")
	p.press("s")
	outline("1stack 2CropTag 2stack 3CropTag")
	p.do(chromedp.KeyEvent(kb.ArrowUp, chromedp.KeyModifiers(alt)))
	outline("1stack 2stack 3CropTag 2CropTag")
	p.press(kb.ArrowDown)
	p.do(chromedp.KeyEvent(kb.ArrowLeft, chromedp.KeyModifiers(alt)))
	outline("1stack 2stack 2CropTag 2CropTag")
	p.press(kb.Delete)
	outline("1stack 2stack 2CropTag")
	p.key("n")
	p.until("an empty row", `document.activeElement?.matches("[role=treegrid] input") && document.activeElement.value === ""`)
	p.keepsRow("Shell title=1")
	p.sees("There is no component Shell.")
	p.in("Beds at 390 px", "cropTag", "true")
	p.axe("a page with a row that cannot be shown")
	p.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	p.until("the row to be right again", `!document.body.innerText.includes("There is no component Shell")`)
	p.press(kb.Tab)
	assert.False(t, evaluate[bool](p, `document.activeElement?.getAttribute("role") === "treegrid"`), "the keyboard does not leave the outline")

	p.open("/trial/beds")
	p.until("what was written", `document.querySelector("[role=treegrid]")?.innerText.includes("CropTag")`)
	p.key("d")
	p.sees("BedsPage.tsx")
	p.axe("a page as code")
}

// The same offer in a wide column and in a narrow one: it follows the column, not the page. Versions cover every width once.
func TestTheSameOfferInTwoColumns(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), demo.Document, "seed-offer")
	require.NoError(t, err)
	p := openPage(t, a)
	p.measures()
	page, err := a.service.AddTrial(t.Context(), "Offers")
	require.NoError(t, err)
	_, err = a.service.EditTrial(t.Context(), page.Slug, page.Revision, `split shares="3 1" gap=24px
  below 768 stack gap=24px
  stack named=main
    SeedOffer
    box named=inner
      p "wide inside"
        in inner below 600 hidden
  stack named=aside
    SeedOffer
    in aside below 500
      p "narrow column"
    in aside from 500
      p "wide column"
below 640
  p "phone"
from 700
  p "desk"
`, "")
	require.NoError(t, err)
	p.open("/trial/offers")
	wide := p.in("Offers at 1440 px", "seedOffer", "box.width > 900")
	narrow := p.in("Offers at 1440 px", "seedOffer2", "box.width < 420")
	assert.Greater(t, narrow.Height, 0.0)
	assert.Greater(t, wide.Height, narrow.Height, "the offer has its picture in the narrow column")
	assert.Positive(t, p.in("Offers at 1440 px", "p", "box.width > 0").Width, "what the container inside is wide enough for is hidden")
	assert.Positive(t, p.in("Offers at 1440 px", "p2", "true").Width)
	assert.Zero(t, p.in("Offers at 1440 px", "p3", "true").Width, "the version of a wide column is in the narrow one")
	stacked := p.in("Offers at 390 px", "seedOffer2", "box.width > 300")
	assert.Zero(t, stacked.X, "columns stand beside each other on a narrow page")
	assert.Zero(t, p.in("Offers at 390 px", "p", "true").Width, "the container inside is narrow, and what it hides is there")
	assert.Positive(t, p.in("Offers at 390 px", "p4", "true").Width)
	assert.Zero(t, p.in("Offers at 390 px", "p5", "true").Width)
	assert.Zero(t, p.in("Offers at 768 px", "p4", "true").Width)
	assert.Positive(t, p.in("Offers at 768 px", "p5", "true").Width)

	p.key("v")
	p.sees("No version is for widths 640 to 700 px.")
	p.axe("versions for widths")
	p.click("button", "from 700 px on")
	p.until("the row of that version", `document.querySelector("[role=treegrid] [aria-selected=true]")?.innerText.trim() === "from 700"`)
	evaluate[bool](p, `(document.querySelector("[role=treegrid]").focus(), true)`)
	p.press(enter)
	p.keepsRow("from 640")
	p.key("v")
	p.until("every width to be covered", `document.querySelectorAll("section[aria-label^='Versions in']").length === 2 && !document.body.innerText.includes("No version is for")`)
}

// A teaser of two headings and rich text, filled from records: one with a list and links, one that says little. What would be lost is told before.
func TestATeaserIsFilledFromRecords(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), demo.Document, "notice-board")
	require.NoError(t, err)
	for _, file := range demo.ContentFiles {
		_, err := a.service.PutContent(t.Context(), file, demo.Content(file))
		require.NoError(t, err)
	}
	page, err := a.service.AddTrial(t.Context(), "News")
	require.NoError(t, err)
	_, err = a.service.EditTrial(t.Context(), page.Slug, page.Revision, `each notice of notices.json
  split shares="1 2" gap=24px
    below 640 stack gap=8px
    stack
      p {notice.kicker}
      h2 {notice.title}
    rich {notice.body}
each notice of notices.json, at most 2
  NoticeBoard title={notice.body}
`, "")
	require.NoError(t, err)
	p := openPage(t, a)
	p.measures()
	p.open("/trial/news")
	title := p.in("News at 1440 px", "h2[1]", `box.text === "What to bring"`)
	body := p.in("News at 1440 px", "rich[1]", `box.text.includes("the year it was saved") && box.text.includes("the shed's table")`)
	assert.Greater(t, body.X, title.X+400, "the words stand below the headings on a wide page")
	assert.Equal(t, p.in("News at 390 px", "h2[1]", "true").X, p.in("News at 390 px", "rich[1]", "true").X, "two columns on a narrow page")
	assert.Zero(t, p.in("News at 390 px", "p[2]", "true").Height, "a record without a kicker leaves a line for it")
	assert.Equal(t, "Gate code changes on Monday", p.in("News at 390 px", "h2[2]", "true").Text)

	p.key("c")
	p.sees("is plain text, and would lose")
	p.sees("kicker of p is not there in 1 of 5 records.")
	p.axe("content")
	p.until("the page as it then looks", `document.querySelector("section[aria-label='What goes wrong'] iframe")`)
	p.click("button", "Record 2 on the page")
	p.until("the record, marked on the page", `document.querySelector("section[aria-label='The record on the page'] [data-mark=ticks]")`)
	p.axe("a record on the page")
	p.click("button", "plots.csv18 records")
	p.until("another source", `document.querySelector("section[aria-label='The source'] h2")?.innerText === "plots.csv"`)
}

// A release that would break a page is seen before it is made: on the page, with what changes before and after, and in the release itself.
func TestABreakingReleaseIsSeenBefore(t *testing.T) {
	a := startApp(t)
	for _, family := range []string{"crop-tag", "plot-card"} {
		made, err := a.service.Draft(t.Context(), demo.Document, family)
		require.NoError(t, err)
		require.NoError(t, story.Release(t.Context(), a.service, made.Slug, 1, "Plots", "", "Seen"))
	}
	page, err := a.service.AddTrial(t.Context(), "Beds")
	require.NoError(t, err)
	_, err = a.service.EditTrial(t.Context(), page.Slug, page.Revision, "PlotCard title=\"Plot 1\" holder=Ines\nPlotCard title=\"Plot 2\"\n", "")
	require.NoError(t, err)
	a.amended(t, "plot-card", sheet.Edit{Do: "set", On: "props/holder", Cell: "name", Text: "keeper"})
	a.amended(t, "plot-card", sheet.Edit{Do: "add", On: "parts/title", Cell: "value", Text: "letter-spacing 1px"})

	p := openPage(t, a)
	p.measures()
	p.open("/trial/beds/releases")
	p.until("the component at work to be offered", `[...document.querySelectorAll("td button")].some((b) => b.innerText === "at work")`)
	p.click("td button", "at work")
	p.sees("breaks the page: 1 row")
	p.sees("PlotCard has no prop holder")
	p.sees("title: letter-spacing")
	p.in("Beds, before at 1440 px", "plotCard", `!box.text.includes("Runner beans")`)
	p.in("Beds, after at 1440 px", "plotCard", `box.text.includes("Runner beans")`)
	p.axe("what a release would do to a page")

	p.open("/bench/plot-card")
	p.click("button", "Release…")
	p.sees("Beds")
	p.until("what it would break", `document.querySelector("[role=dialog]")?.innerText.includes("PlotCard has no prop holder")`)
	p.accessible("a release that breaks a page")

	p.open("/trial/beds/releases")
	p.click("td button", "at work")
	p.click("button", "Use it at work here")
	p.key("p")
	p.sees("PlotCard has no prop holder")
	p.outlined(1, "PlotCard")
	p.press(enter)
	p.keepsRow(strings.ReplaceAll(`PlotCard title="Plot 1" keeper=Ines`, "  ", " "))
	p.in("Beds at 390 px", "plotCard", `box.text.includes("Ines")`)
	p.open("/catalogue")
	p.until("its uses on trial", `[...document.querySelectorAll("[role=row]")].some((r) => r.innerText.includes("PlotCard") && r.innerText.includes("on trial"))`)
}

// All widths are scrolled to the same place of the page; it is looked at in another theme, from right to left, with text of twice the size.
func TestWidthsScrollTogether(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), demo.Document, "seed-offer")
	require.NoError(t, err)
	page, err := a.service.AddTrial(t.Context(), "Long")
	require.NoError(t, err)
	var outline strings.Builder
	outline.WriteString("grid columns=4 gap=16px\n  below 900 columns=1\n")
	for i := range 40 {
		fmt.Fprintf(&outline, "  SeedOffer title=\"Offer %d\"\n", i+1)
	}
	outline.WriteString("p \"grows\" font-size=1rem line-height=1.5\n")
	_, err = a.service.EditTrial(t.Context(), page.Slug, page.Revision, outline.String(), "")
	require.NoError(t, err)
	p := openPage(t, a)
	p.measures()
	p.open("/trial/long?row=3")
	p.in("Long at 1440 px", "seedOffer", "true")
	p.in("Long at 390 px", "seedOffer33", "box.y > 2000")
	p.outlined(35, "SeedOffer")
	marked := func(width int) string {
		return fmt.Sprintf(`(() => {
			const lane = document.querySelector("section[aria-label='%d px']");
			const stage = lane?.querySelector("iframe")?.parentElement.getBoundingClientRect(), mark = lane?.querySelector("[data-mark=ticks]")?.getBoundingClientRect();
			return stage && mark && mark.top > stage.top - 30 && mark.bottom < stage.bottom + 30;
		})()`, width)
	}
	for _, width := range []int{1440, 390} {
		p.until(fmt.Sprintf("the offer in sight at %d px", width), marked(width))
	}

	p.choose("Theme", "dusk")
	p.choose("Direction", "rtl")
	p.choose("Text size", "200")
	p.in("Long at 1440 px", "seedOffer", "box.x > 1000")
	assert.Equal(t, 48.0, p.in("Long at 1440 px", "p", "box.height > 30").Height, "text of twice the size takes no more room")
	p.axe("a long page, in another theme")
	p.fill("input", "Another width, px", "320")
	p.press(enter)
	p.in("Long at 320 px", "seedOffer", "box.width <= 320")
	p.click("button", "Without 1440 px")
	p.until("a width to be gone", `!document.querySelector("section[aria-label='1440 px']")`)
}
