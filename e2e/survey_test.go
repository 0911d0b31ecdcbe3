package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/demo/demotest"
)

// looseCards is a page of six product cards that nobody grouped: 18 layers in a heap.
func looseCards() string {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="800" height="480" font-family="Hanken Grotesk">`)
	for i, tool := range []string{"Spade", "Rake", "Watering can", "Hoe", "Trowel", "Fork"} {
		x, y := 40+i%3*240, 40+i/3*210
		fmt.Fprintf(&b, `<rect id="ground-%d" x="%d" y="%d" width="200" height="180" rx="4" fill="#ffffff"/><rect id="picture-%d" x="%d" y="%d" width="180" height="100" fill="%s"/><text id="name-%d" x="%d" y="%d" font-size="16">%s</text>`,
			i, x, y, i, x+10, y+10, []string{"#aabbcc", "#bbccaa"}[i%2], i, x+12, y+140, tool)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// What repeats on the demo's pages is marked, read and opened, by pointer.
func TestFindsAreMarkedOnThePicture(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey")
	p.sees("10 copies of PlotCard")
	p.until("six cards and the bar to be marked", `document.querySelectorAll("[aria-label=Pages] [data-mark=ticks]").length === 7`)
	p.axe("Survey, finds")

	// What is pointed at in the list is lit on the picture, and the other way round.
	row := evaluate[[2]float64](p, `(() => { const b = [...document.querySelectorAll("[aria-label=Finds] li button")][0].getBoundingClientRect(); return [b.x + 40, b.y + 10] })()`)
	p.do(chromedp.MouseEvent("mouseMoved", row[0], row[1]))
	p.until("its six marks lit", `document.querySelectorAll("[aria-label=Pages] [data-mark=ticks][data-chosen]").length === 6`)
	card := evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-layer=plots-card-23]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseEvent("mouseMoved", card[0], card[1]))
	p.until("its row lit", `document.querySelector("[aria-label=Finds] li[data-lit]")?.innerText.includes("PlotCard")`)
	p.do(chromedp.MouseClickXY(card[0], card[1]))
	p.until("the find to be open", `new URLSearchParams(location.search).get("find") === "copies:plots-card-15"`)
	p.until("its copies side by side", `document.querySelectorAll("[aria-label='Copies, side by side'] > li").length === 10`)
	p.until("the other finds to be off the picture", `document.querySelectorAll("[aria-label=Pages] [data-mark=ticks]").length === 6`)
	p.axe("Survey, a find")

	// A prop that is pointed at is marked in every copy.
	cell := evaluate[[2]float64](p, `(() => { const b = document.querySelector("[aria-label='Name of holder']").closest("tr").getBoundingClientRect(); return [b.x + 160, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseEvent("mouseMoved", cell[0], cell[1]))
	p.until("the holder marked in each", `document.querySelectorAll("[aria-label='Copies, side by side'] [data-mark=ticks]").length === 10`)

	// It is that family: draft it, and take the copies as its uses.
	p.click("button", "draft the family")
	p.until("the family on the bench", `location.pathname === "/hollowbeck/bench/plot-card"`)
	p.open("/survey?find=copies:plots-card-15")
	p.click("button", "it is this")
	p.sees("Its copies are uses of a component.")
}

// A drawing that nothing takes for a copy becomes one by a click, and is taken off again.
func TestACopyIsPickedOnThePicture(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Drop(t.Context(), "cards.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="400" font-family="Hanken Grotesk">`+
		`<g id="a"><rect x="20" y="20" width="200" height="120" fill="#ffffff"/><text x="32" y="50" font-size="18">Spade</text><text x="32" y="80" font-size="13">12 kr</text></g>`+
		`<g id="b"><rect x="260" y="20" width="200" height="120" fill="#ffffff"/><text x="272" y="50" font-size="18">Rake</text><text x="272" y="80" font-size="13">9 kr</text></g>`+
		`<g id="odd"><rect id="odd-box" x="20" y="220" width="500" height="90" fill="#f2e4c8"/><text x="32" y="250" font-size="18">Compost</text><circle cx="440" cy="265" r="20" fill="#447744"/><rect x="300" y="250" width="60" height="30" fill="#aa5533"/></g></svg>`))
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/survey?document=cards.svg")
	p.click("[aria-label=Finds] li button", "")
	p.until("two copies side by side", `document.querySelectorAll("[aria-label='Copies, side by side'] > li").length === 2`)
	at := evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-layer=odd-box]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height - 6] })()`)
	p.do(chromedp.MouseClickXY(at[0], at[1]))
	p.sees("1 layer marked")
	p.axe("Survey, a copy picked")
	p.click("button", "A copy of "+evaluate[string](p, `document.querySelector("article h2").lastChild.textContent.trim()`))
	p.until("three copies side by side", `document.querySelectorAll("[aria-label='Copies, side by side'] > li").length === 3`)
	p.click("button", "take off")
	p.until("two copies again", `document.querySelectorAll("[aria-label='Copies, side by side'] > li").length === 2`)
}

// A long design is read in the background: it can be stopped, looked at meanwhile, and begun again.
func TestALongDesignIsReadWhileOneLooksAtIt(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Drop(t.Context(), "long.design.json", demotest.LongDesign(t))
	require.NoError(t, err)
	_, err = a.service.Surveys(t.Context())
	require.NoError(t, err)
	require.NoError(t, a.service.StopReading(t.Context(), "long", 1, true))
	p := openPage(t, a)
	p.open("/survey?document=long")
	p.sees("The reading was stopped.")
	p.until("the page to be drawn", `document.querySelectorAll("[aria-label=Pages] [data-layer]").length > 100`)
	p.until("nothing to be said of finds", `!document.body.innerText.includes("Nothing repeats")`)
	p.axe("Survey, not read")
	p.click("button", "Read again")
	p.sees("the same thing 7,000 times")
	p.until("the marks of what is to be seen", `document.querySelectorAll("[aria-label=Pages] [data-mark=ticks]").length > 8`)
}

// All lists can be looked through and answered; none has anything axe finds wrong.
func TestDoubtsAndOrder(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey?show=doubts")
	p.sees("Layers that nobody has named")
	p.axe("Survey, doubts")
	p.click("button[aria-expanded]", "")
	p.fill("[aria-label='Reason, or what is asked']", "", "Are these plots?")
	p.click("button", "Ask the designer")
	p.sees("Questions 1")
	p.open("/survey?show=order")
	p.sees("made of nothing else")
	p.axe("Survey, order")
	p.fill("[aria-label='Component that no drawing shows yet']", "", "Seed swap")
	p.press(enter)
	p.sees("SeedSwap")
	p.open("/survey?show=widths")
	p.sees("between 390 and 1440 px")
	p.axe("Survey, widths")
	p.open("/survey?show=families")
	p.sees("Draft a contract")
	p.axe("Survey, families")
	p.open("/survey?show=layers")
	p.sees("Mark layers, here or on the picture")
	p.axe("Survey, layers")
}

// Pages are a key apart; the picture moves and grows by keys, and comes back to what fits.
func TestThePictureByKeys(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.open("/survey")
	p.sees("10 copies of PlotCard")
	place := `document.querySelector("[role=img][aria-label$='as drawn']").style.transform`
	p.until("the picture on its stage", `Number(/scale\(([\d.]+)/.exec(`+place+`)?.[1]) > 0.1`)
	fitted := evaluate[string](p, place)
	p.focusOn("[role=region][aria-label^='Page Plots']", "")
	p.press(kb.ArrowRight)
	p.until("it to be moved", place+" !== "+quoted(fitted))
	p.press("+")
	p.until("it to be larger", fmt.Sprintf(`Number(/scale\(([\d.]+)/.exec(%s)[1]) > Number(/scale\(([\d.]+)/.exec(%s)[1])`, place, quoted(fitted)))
	p.press("0")
	p.until("it to fit again", place+" === "+quoted(fitted))
	p.press(kb.PageDown)
	p.until("the second page", `document.querySelector("[aria-label=Page]").selectedIndex === 1`)
	p.press(kb.PageUp)
	p.until("the first page", `document.querySelector("[aria-label=Page]").selectedIndex === 0`)
}

// A drawing of loose layers is no dead end: what repeats is found and drafted, and the code is what was drawn.
func TestLooseLayersBecomeAComponent(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Drop(t.Context(), "shop.svg", []byte(looseCards()))
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/survey?document=shop.svg")
	p.sees("the same thing 6 times")
	p.click("[aria-label=Finds] li button", "")
	p.until("its copies", `document.querySelectorAll("[aria-label='Copies, side by side'] > li").length === 6`)
	p.fill("[aria-label='Name of the component']", "", "Tool card")
	p.click("button", "Draft Tool card")
	p.until("it on the bench", `location.pathname === "/hollowbeck/bench/tool-card"`)
	p.until("what was drawn and what runs to agree", `/[\d,]+ facts agree/.test(document.querySelector("footer").innerText) && document.querySelector("footer").innerText.includes("ToolCard:")`)
	p.open("/survey?document=shop.svg")
	p.sees("on the bench")

	p.until("the picture", `document.querySelector("[data-layer=name-4]")`)

	// Any layers can be marked and read as one drawing.
	at := evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-layer=name-4]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseClickXY(at[0], at[1], chromedp.ButtonModifiers(8))) // Shift: the layer, not the find
	p.sees("1 layer marked")
	at = evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-layer=picture-4]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseClickXY(at[0], at[1], chromedp.ButtonModifiers(8)))
	p.sees("2 layers marked")
	p.click("button", "Make it a find")
	p.sees("once, as it was marked")
	p.do(chromedp.MouseClickXY(at[0], at[1], chromedp.ButtonModifiers(8)))
	p.sees("1 layer marked")
	at = evaluate[[2]float64](p, `(() => { const b = document.querySelector("[data-layer=name-4]").getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	p.do(chromedp.MouseClickXY(at[0], at[1], chromedp.ButtonModifiers(8)))
	p.click("button", "See their containers")
	p.until("them to be read as a stack", `document.querySelector("[aria-label='Cutting list'] [data-part-row=root]")?.innerText.includes("stack")`)
	p.axe("Survey, marked layers")
	assert.Equal(t, 2, evaluate[int](p, `new URLSearchParams(location.search).getAll("layer").length`))
}
