package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// begin makes a component without a drawing, by keyboard, and comes to its sheet.
func (p *page) begin(name, start string) {
	p.t.Helper()
	p.open("/bench")
	p.until("the bench's list", `document.querySelector("[data-begin]")`)
	p.key("n")
	p.until("the field for its name", `document.activeElement?.matches("[data-begin]")`)
	p.press(name)
	if start != "" {
		p.until("the starts to choose from", `document.querySelector("select[aria-label=Start]")?.options.length > 1`)
		p.press(kb.Tab)
		for range 20 {
			if evaluate[bool](p, fmt.Sprintf(`document.activeElement.selectedOptions[0].text.startsWith(%s)`, quoted(start))) {
				break
			}
			p.press(kb.ArrowDown)
		}
		p.until("the start", fmt.Sprintf(`document.querySelector("select[aria-label=Start]").selectedOptions[0].text.startsWith(%s)`, quoted(start)))
		p.press(kb.Tab)
	}
	p.press(enter)
	p.until("its sheet", `location.search.includes("facet=contract") && document.activeElement?.dataset?.cell`)
}

// goTo walks with the arrows until a cell of the sheet has the focus.
func (p *page) goTo(cell string) {
	p.t.Helper()
	at := fmt.Sprintf(`document.querySelector(%s)`, quoted(`[data-cell="`+cell+`"]`))
	p.until("the cell "+cell, at+` && document.activeElement?.dataset?.cell`)
	for range 150 {
		way := evaluate[string](p, fmt.Sprintf(`(() => {
			const rows = [...document.querySelectorAll("[data-row]")], to = %s, from = document.activeElement;
			if (to === from) return "there";
			const row = (e) => rows.indexOf(e.closest("[data-row]"));
			if (row(to) !== row(from)) return row(to) > row(from) ? "down" : "up";
			const cells = [...to.closest("[data-row]").querySelectorAll("[data-cell]")];
			return cells.indexOf(to) > cells.indexOf(from) ? "right" : "left";
		})()`, at))
		if way == "there" {
			return
		}
		p.press(map[string]string{"down": kb.ArrowDown, "up": kb.ArrowUp, "right": kb.ArrowRight, "left": kb.ArrowLeft}[way])
	}
	p.fail("the arrows do not lead to the cell %s", cell)
}

// typed waits for the field, types into it in place of what is there, and keeps it.
func (p *page) typed(text string) {
	p.t.Helper()
	p.until("a field to type in", `document.activeElement?.getAttribute("role") === "combobox"`)
	if text != "" {
		p.press(text)
	} else {
		p.press(kb.Delete)
	}
	p.until("what was typed", fmt.Sprintf(`document.activeElement?.value === %s`, quoted(text)))
	p.press(enter)
	p.until("it to be kept", `document.activeElement?.dataset?.cell && !document.querySelector("[role=combobox]")`)
}

// key presses a key that does something, and is no letter of a text: a page that takes it hears no more of it.
func (p *page) key(name string) {
	p.t.Helper()
	p.do(func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeRawKeyDown, input.DispatchKeyEventTypeKeyUp} {
			pressed := input.DispatchKeyEventParams{Type: kind, Key: name, Code: "Key" + strings.ToUpper(name), WindowsVirtualKeyCode: int64(strings.ToUpper(name)[0])}
			if name == "Enter" {
				pressed.Code, pressed.WindowsVirtualKeyCode = name, 13
			}
			if _, err := cdp.Call(ctx, t, input.DispatchKeyEvent, pressed); err != nil {
				return chromedp.Void{}, err
			}
		}
		return chromedp.Void{}, nil
	})
}

// set types into a cell of the sheet.
func (p *page) set(cell, text string) {
	p.t.Helper()
	p.goTo(cell)
	p.press(enter)
	p.typed(text)
	p.until("what is kept", fmt.Sprintf(`document.querySelector(%s)?.innerText.trim() === %s`, quoted(`[data-cell="`+cell+`"]`), quoted(text)))
}

// does presses the key of what can be done at a row, and types what that asks for.
func (p *page) does(cell, key, text string) {
	p.t.Helper()
	p.goTo(cell)
	p.key(key)
	p.typed(text)
}

// One job of a practitioner, by keyboard alone: from a blank sheet to a released button, and two components
// around it that pass on what it is given.
func TestAButtonFromABlankSheet(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.begin("ShedButton", "")
	p.axe("A blank sheet")

	// Props are declared first, and bound.
	p.does("props new", "n", "label text, at most 24")
	p.until("the prop that has the focus", `document.activeElement.dataset.cell.startsWith("props/label ")`)
	p.sees("nothing")
	p.does("props/label name", "n", "size choice s m l")
	p.does("props/size name", "n", "emphasis choice firm plain")
	p.does("props/emphasis name", "n", "icon slot")
	p.does("props/icon name", "n", "reversed flag")
	p.does("props/reversed name", "n", "disabled flag")
	p.set("props/label default", `"Book a plot"`)
	p.set("props/size default", "m")
	p.set("props/emphasis purpose", "How much it calls")
	p.set("parts/root element", "button disabled={disabled} type=button")
	p.does("parts/root name", "i", "label span")
	p.set("parts/label shows", "{label}")
	p.does("parts/label name", "n", "icon span")
	p.set("parts/icon shows", "{icon}")
	p.set("parts/icon when", "icon is set")
	p.axe("A sheet with rows")

	// Values, with a when before them as rules.
	for _, said := range []string{"display inline-flex", "gap 0.5em", "padding-block 0.75em", "padding-inline 1.25em", "font-size 0.9rem", "background-color {button.firm.ground}", "color {button.firm.ink}", "min-height 24px",
		"when size = s: font-size 0.8rem", "when size = l: font-size 1.2rem", "when emphasis = plain: background-color {button.plain.ground}", "when emphasis = plain: color {button.plain.ink}",
		"when reversed: flex-direction row-reverse", "when state hover: background-color {button.firm.ground-hover}", "when emphasis = plain and state hover: background-color {button.plain.ground-hover}",
		"when state disabled: opacity 0.5"} {
		p.does("parts/root name", "v", said)
	}
	p.until("seven rules", `document.querySelectorAll("[data-rule^=rules]").length === 7`)

	// What scales is computed: padding in em follows the type.
	p.until("the padding of the three sizes", `[...document.querySelectorAll("[aria-label='What scales'] tr")].some((r) => r.innerText.replace(/\s+/g, " ").includes("root · padding-block 9.6 10.8 14.4 em with the type"))`)

	// Where a value comes to bear: in all cases but those whose rule wins.
	p.goTo("rules/4/background-color value")
	p.sees("loses in")

	// What is wrong says what was expected, and changes nothing.
	p.goTo("parts/root/gap value")
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("wide")
	p.press(enter)
	p.sees("is not allowed here; expected a length such as 8px")
	p.axe("A value that is refused")
	p.press(kb.Escape)
	p.until("the value as before", `document.activeElement?.dataset?.cell === "parts/root/gap value" && document.activeElement.innerText.trim() === "0.5em"`)

	// It is compared: the ledger has two sides, and they agree.
	p.key("c")
	p.until("the comparison", `!location.search.includes("facet")`)
	p.until("a measured case", `/^[0-9]+ facts agree$/.test(document.querySelector("[data-testid=ledger-summary]")?.innerText)`)
	p.sees("contract and built component say the same")
	p.axe("A component without a drawing")

	// Released, through what is found by name.
	p.key("f")
	p.until("the search", `document.activeElement.placeholder === "Find by name, or a command"`)
	p.press("Release")
	p.until("the command", `[...document.querySelectorAll("[role=dialog] button")].some((b) => b.innerText.startsWith("Release"))`)
	p.key("Enter") // no letter of it comes to what it opens
	p.sees("first release")
	p.fill("[role=dialog] input:not([type=radio])", "", "Actions")
	p.press(enter)
	p.until("the component's page", `location.pathname === "/hollowbeck/catalogue/shed-button"`)

	// Around it, and around that: what is typed in braces and is not there yet is passed on.
	p.begin("BookAction", "")
	p.does("parts/root name", "i", "button ShedButton label={label} size={size} emphasis={emphasis} icon={icon}")
	p.until("four props that are passed on", `document.querySelectorAll("[aria-label=Props] tbody tr").length === 4 && document.body.innerText.includes("passed on to button › size")`)
	p.sees("nobody can give reversed, disabled")
	p.begin("BookBar", "")
	p.does("parts/root name", "i", "action BookAction label={label} size={size} emphasis={emphasis} icon={icon}")
	p.sees("passed on to action › emphasis")
	p.open("/bench/shed-button?facet=contract")
	p.sees("1 use follows in BookAction")

	// The code is what was asked for.
	code := func(slug string) (tsx, sheet string) {
		files, err := a.service.Files(t.Context(), slug)
		require.NoError(t, err)
		for _, f := range files {
			if strings.HasSuffix(f.Path, ".tsx") && tsx == "" {
				tsx = f.Content
			}
			if strings.HasSuffix(f.Path, ".module.css") && sheet == "" {
				sheet = f.Content
			}
		}
		return tsx, sheet
	}
	tsx, sheet := code("shed-button")
	for _, want := range []string{`ShedButtonSize = "s" | "m" | "l"`, "size?: ShedButtonSize", `ShedButtonEmphasis = "firm" | "plain"`, "emphasis?: ShedButtonEmphasis", "reversed?: boolean", "label?: string", "icon?: ReactNode", `type="button"`, "<button", `label = "Book a plot"`} {
		assert.Contains(t, tsx, want)
	}
	for _, want := range []string{"padding-block: 0.75em", "font-size: 1.2rem", ":hover", "flex-direction: row-reverse", "opacity: 0.5"} {
		assert.Contains(t, sheet, want)
	}
	for _, slug := range []string{"book-action", "book-bar"} {
		tsx, _ := code(slug)
		for _, want := range []string{`Size = "s" | "m" | "l"`, `Emphasis = "firm" | "plain"`, "size?: ", "emphasis?: ", "label?: string", "icon?: ReactNode", "size={size}", "icon={icon}"} {
			assert.Contains(t, tsx, want, slug)
		}
	}
}

// Removing shows first what goes along; undo brings everything back, across a reload; what one does with the rows
// keeps the focus.
func TestRowsOfTheSheet(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	before, err := a.service.Sheet(t.Context(), "crop-tag")
	require.NoError(t, err)
	p.open("/bench/crop-tag")
	p.sees("22 facts agree")
	p.key("s")
	p.until("the sheet", `document.activeElement?.dataset?.cell === "props/size name"`)
	p.sees("no component uses it yet")

	// A renamed prop: what refers to it follows.
	p.set("props/size name", "scale")
	p.until("its rules to follow", `document.querySelector("[data-rule='rules/0']").innerText.includes("scale = s")`)

	// What is typed is shown before it is kept.
	p.goTo("parts/root/padding-inline value")
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("40px")
	p.until("how far it reaches", `/[0-9]+ cases look otherwise/.test(document.querySelector("[aria-label='As typed']")?.innerText)`)
	p.until("pictures before and as typed", `document.querySelectorAll("[aria-label='As typed'] iframe").length === 2`)
	p.axe("As typed")
	p.press(kb.Escape)
	p.until("nothing kept", `document.activeElement?.dataset?.cell === "parts/root/padding-inline value" && document.activeElement.innerText.includes("{space.2}")`)

	// Completion: what is used for the property stands first, and Tab takes it.
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("{space")
	p.until("what could follow", `document.querySelectorAll("[role=option]").length > 3`)
	first := evaluate[string](p, `document.querySelector("[role=option]").innerText.split("\n")[0].trim()`)
	assert.Contains(t, []string{"{space.1-half}", "{space.2}", "{space.3}"}, first, "what the property has elsewhere stands first")
	p.press(kb.Tab)
	p.until("it in the field", fmt.Sprintf(`document.activeElement.value === %s`, quoted(first)))
	p.press(kb.Escape)
	p.until("the row", `document.activeElement?.dataset?.cell || document.activeElement?.getAttribute("aria-expanded") === "false"`)
	p.press(kb.Escape)
	p.until("the row", `document.activeElement?.dataset?.cell === "parts/root/padding-inline value"`)

	// Parts: duplicate, wrap, move, and a prop of a text.
	p.goTo("parts/label name")
	p.key("r")
	p.until("the copy", `document.activeElement?.dataset?.cell?.startsWith("parts/label2 ")`)
	p.key("w")
	p.until("the container", `document.activeElement?.dataset?.cell?.startsWith("parts/group ")`)
	p.press(kb.ArrowUp, chromedp.KeyModifiers(chromedp.ModifierAlt))
	p.until("it a place up", `[...document.querySelectorAll("[data-part-row]")].map((r) => r.dataset.partRow).join() === "root,icon,group,label2,label"`)

	// A flag that takes what it shows along says so first.
	p.goTo("props/strong name")
	p.press(kb.Delete)
	p.until("what goes along", `document.querySelector("[aria-label='As typed']")?.innerText.includes("the rule of root when strong")`)
	p.axe("What goes along")
	p.press(kb.Escape)
	p.until("nothing gone", `document.querySelector("[data-cell='props/strong name']") && !document.querySelector("[aria-label='As typed']")`)
	p.press(kb.Delete)
	p.until("what goes along", `document.querySelector("[aria-label='As typed']")?.innerText.includes("Goes along")`)
	p.press(enter)
	p.until("it gone, and the focus on the next", `document.activeElement?.dataset?.cell === "props/showIcon name" && !document.querySelector("[data-cell='props/strong name']")`)

	// Undo, across a reload, until all is as it was.
	p.do(chromedp.Reload())
	p.until("the sheet", `document.activeElement?.dataset?.cell`)
	for range 5 {
		was := evaluate[string](p, `document.querySelector("[aria-label=Contract]").innerText`)
		p.press("z", chromedp.KeyModifiers(chromedp.ModifierCtrl))
		p.until("one step back", fmt.Sprintf(`document.querySelector("[aria-label=Contract]").innerText !== %s`, quoted(was)))
	}
	after, err := a.service.Sheet(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, before.Sheet, after.Sheet)

	// Rules by condition, with one key.
	p.goTo("rules/0 when")
	p.key("b")
	p.until("the rules by condition", `location.search.includes("by=condition") && [...document.querySelectorAll("[aria-label=Rules] h3")].some((h) => h.textContent.trim() === "when size = s")`)
	p.axe("Rules by condition")
}

// What a review finds stands on the Bench with its count: it is gone to, set aside with a reason that stays, and mended once
// it is shown what that does.
func TestChecksOnTheBench(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.begin("ShedLink", "")
	p.does("parts/root name", "i", "label span")
	p.set("parts/label shows", `"Plots"`)
	p.set("parts/root element", "a")
	for _, said := range []string{"background-color #ffffff", "color #eeeeee", "font-size 14px", "line-height 20px"} {
		p.does("parts/root name", "v", said)
	}
	p.until("the count on the head", `[...document.querySelectorAll("button")].some((b) => /^Checks [1-9]/.test(b.innerText))`)
	p.until("the count on the line", `[...document.querySelectorAll("nav a")].some((a) => a.innerText.includes("Bench") && a.innerText.includes("component with errors"))`)
	p.press(kb.Escape)
	p.open("/bench/shed-link?facet=checks")
	p.until("contrast to be found", `document.querySelector("[data-finding=contrast]")`)
	p.axe("Checks")
	n := evaluate[int](p, `document.querySelectorAll("[data-finding]").length`)
	p.focusOn("[data-finding]", "")
	for evaluate[string](p, `document.activeElement.dataset.finding`) != "contrast" {
		p.press(kb.ArrowDown)
	}
	p.until("the part marked in the lane", `document.querySelector("section[aria-label=Built] [data-mark=ticks][data-chosen]")`)
	p.key("x")
	p.until("the reason's field", `document.activeElement?.matches("[data-finding] input")`)
	p.press("It stands on a photograph")
	p.press(enter)
	p.until("it set aside", `document.querySelector("[data-severity=aside]")?.innerText.includes("set aside: It stands on a photograph")`)
	p.do(chromedp.Reload())
	p.until("it set aside, still", fmt.Sprintf(`document.querySelectorAll("[data-finding]").length === %d && document.querySelector("[data-severity=aside]")`, n))
	p.axe("Checks, one set aside")
	p.focusOn("[data-finding]", "")
	for evaluate[string](p, `document.activeElement.dataset.severity`) != "aside" {
		p.press(kb.ArrowDown)
	}
	p.press(enter)
	p.until("the row on the sheet", `location.search.includes("facet=contract") && document.activeElement?.dataset?.cell?.startsWith("parts/label")`)
}

// Two people on one contract: each sees what the other keeps, edits of different things both stand, and edits of
// the same show both.
func TestTwoPeopleOnOneContract(t *testing.T) {
	a := startApp(t)
	one, two := openPage(t, a), openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	for _, p := range []*page{one, two} {
		p.open("/bench/crop-tag?facet=contract")
		p.until("the sheet", `document.querySelector("[data-cell='props/size name']")`)
		evaluate[bool](p, `(document.querySelector("[data-cell='props/size name']").focus(), true)`)
	}
	// Each sees where the other is.
	two.goTo("parts/root/gap value")
	one.until("where the second is", `document.querySelector("[data-cell='parts/root/gap value']").dataset.other === "Somebody" && document.querySelector("header [role=status]").innerText === "Somebody is here, too"`)
	two.until("where the first is", `document.querySelector("[data-other]")`)
	// The second types while the first keeps something else.
	two.press(enter)
	two.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	one.set("props/size purpose", "How large it stands")
	two.until("what the other kept", `document.querySelector("[data-cell='props/size purpose']").innerText === "How large it stands"`)
	two.typed("9px")
	one.until("what the second kept", `document.querySelector("[data-cell='parts/root/gap value']").innerText.trim() === "9px"`)
	sheet, err := a.service.Sheet(t.Context(), "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "How large it stands", sheet.Props[0].Purpose)
	assert.Equal(t, 3, sheet.Revision)
	two.open("/bench")
	one.until("the second gone", `!document.querySelector("[data-other]")`)
}

// Two more jobs by keyboard alone: a card that passes on the text and the link of what is nested in it, and a flag that
// shows it; a row of a list that follows its data.
func TestACardAndAListRow(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	p.begin("ReadOn", "")
	p.does("parts/root name", "i", "words span")
	p.set("parts/words shows", `"Read on"`)
	p.goTo("parts/words name")
	p.key("p") // its text a prop
	p.until("the prop of its text", `document.activeElement?.dataset?.cell?.startsWith("props/words ")`)
	p.goTo("parts/root name")
	p.until("a link to be offered", `[...document.querySelectorAll("[role=toolbar] button")].some((b) => b.innerText.includes("Its link a prop"))`)
	p.set("parts/root element", "a href=#")
	p.key("p")
	p.until("the prop of its link", `document.querySelector("[data-cell='props/href name']")`)

	p.begin("PlotNote", "")
	for _, prop := range []string{"picture image 16/9", "title text", "text rich text", "withLink flag"} {
		p.goTo(evaluate[string](p, `[...document.querySelectorAll("[aria-label=Props] [data-cell]")].filter((e) => / (name|new)$/.test(e.dataset.cell)).at(-1).dataset.cell`))
		p.key("n")
		p.typed(prop)
	}
	p.set("props/title default", `"Plot 12"`)
	p.set("parts/root element", "article")
	p.does("parts/root name", "i", "link ReadOn words={linkText} href={linkHref}")
	p.does("parts/root name", "i", "body div")
	p.does("parts/root name", "i", "heading h3")
	p.does("parts/root name", "i", "view span")
	p.set("parts/view shows", "{picture}")
	p.set("parts/heading shows", "{title}")
	p.set("parts/body shows", "{text}")
	p.set("parts/link when", "withLink")
	p.until("two props that are passed on", `["linkText", "linkHref"].every((n) => [...document.querySelectorAll("[aria-label=Props] tr")].some((r) => r.innerText.includes(n) && r.innerText.includes("passed on to link")))`)

	p.begin("ShedLine", "List") // from the ready-made row
	p.until("the start's props", `document.querySelector("[data-cell='props/count name']")`)
	p.goTo("props/strong name")
	p.sees("1 rule")
	p.does("parts/count name", "v", "when count >= 10: color #7a2e1c")
	p.until("the rule", `[...document.querySelectorAll("[data-rule]")].some((r) => r.innerText.includes("count >= 10"))`)

	code := func(slug, suffix string) string {
		files, err := a.service.Files(t.Context(), slug)
		require.NoError(t, err)
		for _, f := range files {
			if strings.HasSuffix(f.Path, suffix) {
				return f.Content
			}
		}
		return ""
	}
	for _, want := range []string{"picture?:", "title?: string", "text?: ReactNode", "withLink?: boolean", "linkText?: string", "linkHref?: string", "<article", "<h3", "words={linkText}", "href={linkHref}", "withLink &&"} {
		assert.Contains(t, code("plot-note", "PlotNote.tsx"), want)
	}
	for _, want := range []string{"words?: string", "href?: string", "<a"} {
		assert.Contains(t, code("read-on", "ReadOn.tsx"), want)
	}
	for _, want := range []string{"label?: string", "count?: number", "strong?: boolean", "lead?: ReactNode"} {
		assert.Contains(t, code("shed-line", "ShedLine.tsx"), want)
	}
	assert.Contains(t, code("shed-line", ".module.css"), "color: #7a2e1c")
}

// A case under stress, by a key: every one running, with what breaks.
func TestTheCaseUnderStress(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	p.open("/bench/plot-card")
	p.sees("facts agree")
	p.key("w")
	p.until("the board", `document.querySelectorAll("[data-stress]").length >= 5`)
	p.until("trouble with the longest words", `document.querySelector("[data-stress='longest words']").innerText.includes("squeezed under its content")`)
	p.until("no trouble the other way round", `document.querySelector("[data-stress='right to left']").childElementCount === 1`)
	p.axe("Stress")
	// Pictures do not lie on each other's names.
	p.until("rows apart", `(() => { const all = [...document.querySelectorAll("[data-stress]")].map((e) => e.getBoundingClientRect()); return all.every((a, i) => all.every((b, j) => i === j || a.right <= b.left + 1 || b.right <= a.left + 1 || a.bottom <= b.top + 1 || b.bottom <= a.top + 1)) })()`)
	p.key("w")
	p.until("the case as it is", `document.querySelector("section[aria-label=Difference]") && !document.querySelector("[data-stress]")`)
	facts := evaluate[string](p, `document.querySelector("[data-testid=ledger-summary]").innerText`)
	assert.Contains(t, facts, "facts agree", "what was looked at under stress was taken for a measurement")
}

// Every facet of the Bench, in both app themes, at 1280 and 1920 px.
func TestEveryFacetForEverybody(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	lampThatRuns(t, a)
	for _, theme := range []string{"light", "dark"} {
		p.open("/bench")
		evaluate[bool](p, fmt.Sprintf(`(localStorage.setItem("mantine-color-scheme-value", %q), true)`, theme))
		for _, facet := range []string{"plot-card", "plot-card?facet=layout", "plot-card?facet=contract", "plot-card?facet=contract&by=condition", "plot-card?facet=checks", "plot-card?facet=behaviour", "pump-lamp?facet=behaviour", "pump-lamp?facet=contract", "plot-card?stress=1", "plot-card?board=1", "plot-card?dir=rtl&text=200"} {
			p.open("/bench/" + facet)
			p.until("the facet in its theme", fmt.Sprintf(`document.documentElement.dataset.mantineColorScheme === %q && document.querySelector("main h2")`, theme))
			for _, width := range []int64{1280, 1920} {
				require.NoError(t, chromedp.Do(p.ctx, chromedp.EmulateViewport(width, width*5/8)))
				p.axe(fmt.Sprint(facet, " ", theme, " ", width))
				assert.LessOrEqual(t, evaluate[int64](p, `document.documentElement.scrollWidth`), width, "%s scrolls sideways", facet)
			}
		}
	}
}

// The server stops between two edits: what is typed stays typed, and is kept once the server is back. A reload forgets only
// what was not kept; undone, the contract is the first again, byte for byte.
func TestTheServerStopsAndStarts(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	contractOf := func() string {
		text, err := a.service.ContractJSON(t.Context(), "crop-tag")
		require.NoError(t, err)
		return string(text)
	}
	first := contractOf()
	p.open("/bench/crop-tag?facet=contract")
	p.until("the sheet", `document.querySelector("[data-cell='props/size name']")`)
	evaluate[bool](p, `(document.querySelector("[data-cell='props/size name']").focus(), true)`)
	p.set("props/size purpose", "How large it stands")
	p.set("parts/root/gap value", "9px")
	p.does("props/size name", "n", "pinned flag")
	p.goTo("parts/root/border-radius value")
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	a.stop()
	p.press("3px")
	p.press(enter)
	p.until("that the server does not answer", `document.body.innerText.includes("server does not answer")`)
	p.until("what was typed", `document.querySelector("[role=combobox]")?.value === "3px"`)
	stop := a.serve()
	p.press(enter)
	p.until("it kept", `document.querySelector("[data-cell='parts/root/border-radius value']")?.innerText.trim() === "3px"`)
	p.goTo("props/size name")
	p.press(enter)
	p.until("the field", `document.activeElement?.getAttribute("role") === "combobox"`)
	p.press("scale")
	p.do(chromedp.Reload())
	p.until("what was not kept, forgotten", `document.querySelector("[data-cell='props/size name']")?.innerText === "size" && !document.querySelector("[role=combobox]")`)
	stop()
	a.serve()
	p.do(chromedp.Reload())
	for _, step := range []string{"root · border-radius", "pinned added", "root · gap", "purpose of size"} {
		p.until("what undo takes back", fmt.Sprintf(`[...document.querySelectorAll("button")].find((b) => b.innerText === "Undo")?.title.includes(%s)`, quoted(step)))
		p.press("z", chromedp.KeyModifiers(2)) // Ctrl
	}
	p.until("the first again", `document.querySelector("[data-cell='props/size purpose']")?.innerText === "–"`)
	assert.Equal(t, first, contractOf())
}
