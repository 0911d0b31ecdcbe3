package react_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// menued is a button with a menu of 120 by 80 px above the page, below the button from its left edge on, 8 px apart; what stands in the menu may be given.
func menued(t *testing.T, name string, inside ...*contract.Part) *contract.Contract {
	t.Helper()
	c := &contract.Contract{Format: contract.Format, Name: name, Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"overflow": "hidden", "width": "90px", "height": "30px"}, Children: []*contract.Part{
		{ID: "opener", Name: "opener", Element: "button", Content: contract.FixedText{Text: "Open"}, Style: contract.Style{"width": "80px", "height": "24px"}, Attributes: map[string]contract.Attribute{"aria-controls": {Part: "menu"}}},
		{ID: "menu", Name: "menu", Element: "div", Attributes: map[string]contract.Attribute{"popover": {Text: "manual"}}, Children: append([]*contract.Part{{ID: "first", Name: "first", Element: "button", Content: contract.FixedText{Text: "First"}}}, inside...),
			Style: contract.Style{"position": "absolute", "left": "0px", "top": "32px", "box-sizing": "border-box", "width": "120px", "height": "80px", "border-width": "1px", "border-style": "solid", "border-color": "#123456", "background-color": "#ffffff", "margin-block": "8px", "position-area": "bottom span-right", "position-try-fallbacks": "flip-block, flip-inline, flip-block flip-inline"}},
	}}}
	m, found := behaviour.ParseText("machine "+name+"\naria-expanded of opener is false\nstate closed\n  on press of opener: to open, focus first\n  hidden of menu is true\nstate open\n  on press of opener: to closed, focus opener\n  on key Escape: to closed, focus opener\n  on outside-press of menu: to closed\n  hidden of menu is false\n  aria-expanded of opener is true\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	checked := c.Check(nil)
	require.NoError(t, checked.Err())
	return c
}

// What opens above the page stands beside what opened it, on the side it is meant for, on the other where there is no room, and within the page; each of several beside its own (CSS Anchor
// Positioning 1, 3 and 6). Neither what cuts nor what lies above the component takes any of it away.
func TestLayersAreBesideWhatOpenedThem(t *testing.T) {
	c := menued(t, "Menued")
	b := openComponents(t, []*contract.Contract{c})
	type place struct {
		Opener, Menu [4]float64
		Top          bool
	}
	const ask = `((i) => {
		const root = document.querySelector("main").children[i];
		const [opener, menu] = root.children;
		const box = (e) => { const b = e.getBoundingClientRect(); return [b.x, b.y, b.width, b.height]; };
		const m = menu.getBoundingClientRect();
		return { Opener: box(opener), Menu: box(menu), Top: menu.contains(document.elementFromPoint(m.x + m.width / 2, m.y + m.height / 2)) };
	})`
	for _, k := range []struct {
		css      string
		x, y     string // where the menu stands: from the opener's left edge or to its right, below it or above
		cut, end bool
	}{
		{"left: 300px; top: 300px", "left", "below", true, false}, {"left: 300px; bottom: 0", "left", "above", false, false}, {"right: 0; top: 300px", "right", "below", false, false}, {"right: 0; bottom: 0", "right", "above", true, false},
	} {
		evaluate[any](b, `mountAll("Menued", [{}])`)
		evaluate[bool](b, fmt.Sprintf(`(() => { const m = document.querySelector("main"); m.style.cssText = "position: fixed; overflow: hidden; z-index: 1; transform: none; width: 90px; height: 30px; %s"; document.body.insertAdjacentHTML("beforeend", "<div id=veil style='position:fixed;inset:40px;z-index:2;pointer-events:none'></div>"); return true })()`, k.css))
		evaluate[bool](b, `document.querySelector("main button").click(); new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true))))`)
		at := evaluate[place](b, ask+"(0)")
		o, m := at.Opener, at.Menu
		assert.Equal(t, [2]float64{120, 80}, [2]float64{m[2], m[3]}, "%s", k.css)
		assert.True(t, at.Top, "%s: something lies above the menu, or cuts it", k.css)
		if k.x == "left" {
			assert.InDelta(t, o[0], m[0], 0.5, "%s", k.css)
		} else {
			assert.InDelta(t, o[0]+o[2], m[0]+m[2], 0.5, "%s", k.css)
		}
		if k.y == "below" {
			assert.InDelta(t, o[1]+o[3]+8, m[1], 0.5, "%s", k.css)
		} else {
			assert.InDelta(t, o[1]-8, m[1]+m[3], 0.5, "%s", k.css)
		}
	}
	evaluate[any](b, `mountAll("Menued", [{}, {}, {}])`)
	evaluate[bool](b, `(() => { document.querySelector("main").style.cssText = "display: flex; gap: 150px; padding: 40px"; for (const e of document.querySelectorAll("main > div > button:first-child")) e.click(); return new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true)))) })()`)
	for i := range 3 {
		at := evaluate[place](b, fmt.Sprintf("%s(%d)", ask, i))
		assert.Equal(t, 120.0, at.Menu[2], "instance %d is not open", i)
		assert.InDelta(t, at.Opener[0], at.Menu[0], 0.5, "instance %d stands beside another's button", i)
	}
}

// Of layers in layers Escape closes the innermost first, and the focus goes back step by step.
func TestNestedLayersCloseInOrder(t *testing.T) {
	inner := menued(t, "Inner")
	outer := menued(t, "Outer", &contract.Part{ID: "more", Name: "more", Content: contract.UseOf(inner)})
	b := openComponents(t, []*contract.Contract{outer})
	evaluate[any](b, `mountAll("Outer", [{}])`)
	evaluate[bool](b, `document.querySelector("main").style.padding = "60px"; true`)
	shown := func() [2]bool {
		return evaluate[[2]bool](b, `new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done([...document.querySelectorAll("[popover]")].map((e) => e.matches(":popover-open"))))))`)
	}
	press := func(of string) {
		at := evaluate[[2]float64](b, "(() => { const b = "+of+".getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()")
		require.NoError(t, chromedp.Do(b.ctx, chromedp.MouseClickXY(at[0], at[1])))
	}
	press(`document.querySelector("main button")`)
	require.Equal(t, [2]bool{true, false}, shown())
	press(`document.querySelectorAll("[popover]")[1].previousElementSibling`)
	require.Equal(t, [2]bool{true, true}, shown())
	require.NoError(t, chromedp.Do(b.ctx, chromedp.KeyEvent(pressedKeys["Escape"])))
	assert.Equal(t, [2]bool{true, false}, shown(), "the outer one was closed, or both")
	assert.True(t, evaluate[bool](b, `document.activeElement === document.querySelectorAll("[popover]")[1].previousElementSibling`), "the focus did not go back to what opened it")
	require.NoError(t, chromedp.Do(b.ctx, chromedp.KeyEvent(pressedKeys["Escape"])))
	assert.Equal(t, [2]bool{false, false}, shown())
	assert.True(t, evaluate[bool](b, `document.activeElement === document.querySelector("main button")`))
}

// A dialog is above all, beside it nothing can be done, and the page stays where it is until it is closed (HTML, 4.11.4; ARIA practices, Dialog).
func TestADialogHoldsThePage(t *testing.T) {
	c := stocked(t, "Held", "dialog", behaviour.Choices{Outside: true})
	b := openComponents(t, []*contract.Contract{c})
	m := b.mount(c, "ltr")
	evaluate[bool](b, `document.body.insertAdjacentHTML("beforeend", "<button id=far>Far</button><div style='height:3000px'></div>"); true`)
	state := func() [3]bool {
		return evaluate[[3]bool](b, `(() => { document.querySelector("#far").focus(); return [document.querySelector("dialog").matches(":modal"), getComputedStyle(document.documentElement).overflow === "hidden", document.activeElement?.id === "far"] })()`)
	}
	assert.Equal(t, [3]bool{false, false, true}, state())
	m.happens("press.opener")
	assert.Equal(t, [3]bool{true, true, false}, state())
	evaluate[bool](b, m.part("first")+".focus(); true")
	assert.False(t, evaluate[bool](b, `document.querySelector("dialog").dispatchEvent(new Event("cancel", { cancelable: true }))`), "the platform closes it, and the behaviour knows nothing of that")
	m.happens("key.Escape")
	assert.Equal(t, [3]bool{false, false, true}, state())
	m.happens("press.opener")
	assert.True(t, state()[0])
	m.do(chromedp.MouseClickXY(880, 680)) // its backdrop
	m.happens("wait 1")
	assert.Equal(t, [3]bool{false, false, true}, state(), "a press beside the dialog")
}

// Where a component is compared with its drawing nothing is above the page: a menu stands where it is drawn, and a dialog is there.
func TestLayersStandWhereTheyAreDrawn(t *testing.T) {
	c := menued(t, "Menued")
	live, looked := ir.Lower(c), ir.LowerForced(c)
	tokens := output.PropertiesOf(token.Empty())
	assert.Contains(t, emittest.Markup(live, nil), `popover="manual"`)
	assert.NotContains(t, emittest.Markup(looked, nil), "popover")
	written := sheet.Module(looked, tokens)
	assert.Contains(t, written, "position: absolute;")
	for _, property := range []string{"position-area", "position-try", "anchor", "margin-block"} {
		assert.NotContains(t, written, property)
		assert.Contains(t, sheet.Module(live, tokens), property)
	}
	held := stocked(t, "Held", "dialog", behaviour.Choices{})
	assert.Regexp(t, `<dialog[^>]* open`, emittest.Markup(ir.LowerForced(held), nil))
	assert.NotRegexp(t, `<dialog[^>]* open`, emittest.Markup(ir.Lower(held), nil))
}
