package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The whole story as a person would live it, from the sources to the second
// release.
func TestTheStory(t *testing.T) {
	p := openPage(t, startApp(t))

	// 1. Sources. An address without a project leads to the first; one with an unknown says so.
	p.do(chromedp.Navigate(p.app.url + "/nobodys/bench"))
	p.sees("No such project")
	p.click("main a", "To the first project")
	p.until("the first project", `location.pathname === "/hollowbeck/"`)
	p.sees("14 families of the design have no component yet.")
	p.axe("Where things stand")
	p.click("[aria-label='Where things stand'] a", "Sources6 files are read: designs and tokens.")
	p.sees("Revision 1")
	p.sees("semantic.tokens.json")
	p.axe("Sources")

	// 2. Survey.
	p.click("nav a", "Survey14 families without a component")
	p.sees("10 copies of PlotCard")
	p.until("the page's picture", `document.querySelector("[aria-label='Page Plots, as drawn'] svg text")`)
	p.axe("Survey")

	// 3. The draft.
	p.click("button", "Families 14")
	p.click("[aria-label=CropTag] button", "Draft a contract")
	p.until("the bench", `location.pathname === "/hollowbeck/bench/crop-tag"`)

	// 4. Bench: measured, level, all cases.
	p.sees("22 facts agree")
	p.until("a measured check of all cases", `document.querySelector("footer").innerText.includes("facts agree")`)
	assert.Equal(t, 18, evaluate[int](p, `document.querySelectorAll("[aria-label=Cases] button").length`))
	p.axe("Bench, level")
	p.press("a")
	p.sees("86.34px")
	p.axe("Bench, all facts")

	// Pointing at a row marks the part in both lanes.
	row := evaluate[[2]float64](p, `(() => { const b = document.querySelector("tr[data-fact='icon width']").getBoundingClientRect(); return [b.x + 200, b.y + 8] })()`)
	p.do(chromedp.MouseEvent("mouseMoved", row[0], row[1]))
	p.until("marks in both lanes", `["Design", "Built"].every((l) => document.querySelector("section[aria-label=" + l + "] [data-mark=ticks][data-chosen]"))`)
	p.until("its size on a dimension", `[...document.querySelectorAll("section[aria-label=Design] [data-mark=dimension] text")].some((e) => e.textContent === "14")`)
	p.until("pictures that were compared", `document.querySelector("section[aria-label=Difference] h2").innerText.includes("no pixel differs")`)

	// Editing a value: the code is compiled and measured anew.
	p.click("tr[data-fact='root padding-inline'] button", "")
	p.until("where it can be said", `[...(document.querySelector("[data-editor] select")?.options ?? [])].some((o) => o.text.startsWith("always, unless a rule says otherwise"))`)
	p.fill("[data-editor] input", "", "11px")
	p.press(enter)
	p.until("the ledger to say that the contract moved",
		`document.querySelector("tr[data-fact='root padding-inline']")?.dataset.verdict === "contract moved"`)
	p.until("the pixels that differ", `/[0-9]+ pixels differ, by at most 6 px/.test(document.querySelector("section[aria-label=Difference] h2").innerText)`)
	p.until("the built lane to follow", `document.querySelector("tr[data-fact='root width'] td:nth-child(5)")?.innerText.includes("92.34px")`)
	p.click("button", "Undo")
	p.until("undo to be measured", `document.querySelector("tr[data-fact='root width'] td:nth-child(5)")?.innerText.includes("86.34px")`)

	// Picking a token, by keyboard, and undo by keyboard.
	evaluate[bool](p, `(() => { document.querySelector("tr[data-fact='root gap']").focus(); return true })()`)
	p.press("e")
	p.fill("[data-editor] input", "", "{space.3}")
	p.press(enter)
	p.until("the token to be built", `document.querySelector("tr[data-fact='root gap'] td:nth-child(5)")?.innerText.includes("12px")`)
	p.until("the editor to close", `!document.querySelector("[data-editor]")`)
	p.press("z", chromedp.KeyModifiers(chromedp.ModifierCtrl))
	p.until("the gap as before", `document.querySelector("tr[data-fact='root gap'] td:nth-child(5)")?.innerText.includes("4px")`)

	// A wrong value is refused with what is expected.
	evaluate[bool](p, `(() => { document.querySelector("tr[data-fact='root gap']").focus(); return true })()`)
	p.press("e")
	p.fill("[data-editor] input", "", "{space.nine}")
	p.press(enter)
	p.sees("there is no token space.nine")
	p.axe("Editing a value")
	p.click("[data-editor] button", "Cancel")

	// 5. Code.
	p.click("a", "Code")
	p.sees("export function CropTag")
	p.click("[role=tab]", "CropTag.module.css")
	p.sees(".toneRipe.strong {")
	p.axe("Code")
	p.click("button", "Copy CropTag.module.css")
	p.sees("Copied")
	zip := evaluate[int](p, `fetch(document.querySelector("a[download]").href).then((r) => r.arrayBuffer()).then((b) => b.byteLength)`)
	assert.Greater(t, zip, 2000)

	// 6. Catalogue.
	p.open("/catalogue")
	p.sees("On no shelf yet")
	p.axe("Catalogue, of a draft")
	p.open("/bench/crop-tag")
	p.click("button", "Release…")
	p.sees("first release")
	p.fill("[role=dialog] input[aria-haspopup]", "", "Small things")
	p.press(enter)
	p.until("the component's page", `location.pathname === "/hollowbeck/catalogue/crop-tag"`)
	p.sees("1.0.0")
	p.axe("Component page")
	p.until("the specimen, numbered", `document.querySelectorAll("[data-mark=dimension]").length === 2 && [...document.querySelectorAll("main svg text")].some((e) => e.textContent === "86.34")`)
	evaluate[bool](p, `(() => { const s = document.querySelector("[aria-label=Use] select[aria-label=size]"); s.value = "s"; return s.dispatchEvent(new Event("change", { bubbles: true })) })()`)
	p.until("the specimen to follow", `[...document.querySelectorAll("main svg text")].every((e) => e.textContent !== "86.34") && document.querySelector("[data-mark=dimension]")`)
	p.focusOn("[aria-label=Use] button", "strong")
	p.until("what it changes", `document.querySelectorAll("[data-mark=ticks][data-chosen]").length === 1 && document.querySelector("[aria-label=Anatomy] tr[class*=meant]").innerText.includes("strong")`)
	p.click("[aria-label=Use] button", "copy")
	p.sees("copied")
	p.axe("Component page, in use")
	p.open("/catalogue?find=crop+far")
	p.sees("purpose “Says in a word how far a crop is.”")
	p.open("/catalogue?find=wheelbarrow")
	p.sees("0 of 1 component")
	p.axe("Catalogue")

	// 7. Sync.
	p.open("/sources")
	p.click("button", "Publish next revision")
	p.sees("has published its next revision")
	p.click("button", "Fetch")
	p.sees("Revision 2")
	p.until("the count on the line", `document.querySelector("nav a[href$='/sync']").innerText.includes("4")`)
	p.click("nav a[href$='/sync']", "")
	p.sees("root · padding-inline · size = m")
	p.sees("option added")
	p.axe("Sync")

	// Keeping one: it is remembered.
	p.click("[aria-label='Decide root padding-inline'] button", "Keep")
	p.sees("0 taken, 1 kept")
	p.click("button", "Confirm")
	p.until("one fewer to decide", `document.querySelector("nav a[href$='/sync']").innerText.includes("3")`)
	p.until("the kept move", `[...document.querySelectorAll("tr[data-move] button")].some((b) => b.textContent === "Kept")`)

	// Taking the rest: a minor release.
	p.click("button", "Take all from the design")
	p.sees("minor, from")
	p.axe("Sync, deciding")
	p.sees("Label has a contrast of 1.07") // ripe, in dusk: it is not released with it
	p.click("button", "Confirm")
	p.sees("Decided.")
	p.until("nothing left to decide", `document.querySelector("nav a[href$='/sync']").innerText.includes("0")`)
	p.open("/bench/crop-tag?all=1")
	p.until("the new tone, built", `document.querySelectorAll("[aria-label=Cases] button").length === 24 && !document.body.innerText.includes("new: ")`)
	p.sees("22 facts agree")
	p.until("the kept fact", `[...document.querySelectorAll("tr[data-fact='root padding-inline'] td")].some((td) => td.textContent === "kept")`)
	p.click("button", "Release…")
	p.sees("It is minor because tone: the option resting is added.")
	p.fill("[role=dialog] input[placeholder^=Mend]", "", "The designer is asked for a lighter ink")
	p.click("[role=dialog] section button", "")
	p.until("nothing left to mend", `!document.querySelector("[role=dialog] [aria-label^='What keeps']")`)
	p.axe("A release")
	p.click("[role=dialog] button[type=submit]", "Release 1.1.0")
	p.until("the component's page", `location.pathname === "/hollowbeck/catalogue/crop-tag"`)
	for _, sheet := range []string{"states", "access", "uses", "history", "code", "review"} {
		p.open("/catalogue/crop-tag/" + sheet)
		p.sees("CropTag")
		p.axe("The sheet " + sheet)
	}
	p.open("/catalogue/crop-tag/history")
	p.sees("Tone: the option resting is added")
	p.until("both versions, running", `document.querySelectorAll("figure iframe").length === 3`)
	p.open("/catalogue")
	p.click("button", "Library, not released")
	p.click("[role=dialog] button[type=submit]", "Release the library as 1.0.0")
	p.sees("npm package")
	p.axe("The library")
	packed := evaluate[int](p, `fetch([...document.querySelectorAll("a[download]")].find((a) => a.textContent === "npm package").href).then((r) => r.arrayBuffer()).then((b) => b.byteLength)`)
	assert.Greater(t, packed, 5000)

	// Tokens, for completeness of the line.
	p.open("/tokens?find=resting")
	p.sees("4 of 209 tokens")
	p.axe("Tokens")

	// The dark theme, too.
	p.click("button", "Dark theme")
	for _, view := range []string{"/", "/sources", "/survey", "/bench", "/bench/crop-tag?all=1", "/bench/crop-tag/code", "/catalogue", "/catalogue/crop-tag", "/sync", "/tokens", "/tokens?show=outputs", "/sources/compare?document=furrow"} {
		p.open(view)
		p.until("the dark theme", `document.documentElement.dataset.mantineColorScheme === "dark"`)
		p.axe(view + " in the dark")
	}
}

func TestABadFileIsRefusedWithEveryProblem(t *testing.T) {
	p := openPage(t, startApp(t))
	p.open("/sources")
	p.sees("Revision 1")
	bad := filepath.Join(t.TempDir(), "mine.design.json")
	require.NoError(t, os.WriteFile(bad, []byte(`{
  "format": "cobrik.design/1", "id": "mine", "name": "Mine", "pages": [],
  "families": [{ "id": "f", "name": "F", "axes": [], "colour": "red",
    "variants": [{ "id": "v", "choices": {}, "root": { "id": "l", "name": "L", "kind": "blob", "bounds": { "x": 0, "y": 0, "width": -4, "height": 1 } } }] }]
}`), 0o644))
	p.do(chromedp.SetUploadFiles("input[type=file]", []string{bad}))
	p.sees("mine.design.json was not taken: 3 problems")
	p.sees("mine.design.json:4:88 /families/0/variants/0/root/kind")
	p.sees("unknown colour")
	p.axe("Sources, with problems")
	p.open("/sources")
	p.sees("Revision 1")
	assert.False(t, evaluate[bool](p, `document.body.innerText.includes("Mine")`), "a part of a bad file was kept")
}

func TestAHostThatIsDownIsSaidAndNothingIsLost(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/sources")
	p.sees("Revision 1")
	a.stopHost()
	p.click("button", "Fetch")
	p.sees("Nothing was fetched: the design host at")
	p.sees("Revision 1")
	p.until("the strip to say so", `document.querySelector("footer").innerText.includes("Design host is down")`)
	p.axe("Sources, host down")
}

// Two people edit at once: the second is shown both versions.
func TestAStaleEditShowsBothVersions(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/bench/crop-tag?all=1")
	p.sees("22 facts agree")
	p.click("tr[data-fact='root gap'] button", "")
	p.until("the editor", `document.activeElement.ariaLabel?.startsWith("Value: as CSS writes it")`)
	// Somebody else, meanwhile; this window hears of it and still must not write over it.
	_, err = a.service.Edit(t.Context(), "crop-tag", 1, edits("root", "border-radius", "9px"))
	require.NoError(t, err)
	p.until("the news", `document.querySelector("tr[data-fact='root border-radius'] td:nth-child(4)")?.innerText.includes("9px")`)
	p.fill("[data-editor] input", "", "7px")
	p.press(enter)
	p.sees("Somebody changed this contract since you read it")
	p.sees("root · gap is 7px instead of {space.1}")
	p.sees(fmt.Sprintf("revision %d", 2))
}
