package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/sheet"
	"cobrik/demo/story"
	"cobrik/service"
)

// amended edits a contract as it is now.
func (a *app) amended(t *testing.T, slug string, edits ...sheet.Edit) {
	t.Helper()
	for _, e := range edits {
		bench, err := a.service.Bench(t.Context(), slug, "")
		require.NoError(t, err)
		_, err = a.service.Amend(t.Context(), slug, bench.Revision, e)
		require.NoError(t, err, "%s %s %q", e.Do, e.On, e.Text)
	}
}

// shedNote is a button of two tones, in rem, with a state; released, and then changed in one tone.
func shedNote(t *testing.T, a *app) {
	t.Helper()
	_, err := a.service.Begin(t.Context(), "ShedNote", "blank")
	require.NoError(t, err)
	say := func(on, text string) sheet.Edit {
		return sheet.Edit{Do: "add", On: on, Cell: "value", Text: text}
	}
	a.amended(t, "shed-note",
		sheet.Edit{Do: "set", On: "parts/root", Cell: "element", Text: "button type=button"},
		sheet.Edit{Do: "add", On: "props", Cell: "prop", Text: "tone choice calm loud"},
		sheet.Edit{Do: "add", On: "parts/root", Cell: "inside", Text: "label span"},
		sheet.Edit{Do: "set", On: "parts/label", Cell: "shows", Text: "Open the shed"},
		say("parts/root", "background-color #ffffff"), say("parts/root", "padding-block 0.75rem"), say("parts/root", "padding-inline 1rem"),
		say("parts/label", "color #000000"), say("parts/label", "font-family {type.family}"), say("parts/label", "font-size 1rem"), say("parts/label", "line-height 1.5rem"),
		say("parts/root", "when tone = loud: background-color #ffd9c9"),
		sheet.Edit{Do: "add", On: "states", Text: "hover label: color #aaaaaa"})
	bench, err := a.service.Bench(t.Context(), "shed-note", "")
	require.NoError(t, err)
	require.NoError(t, story.Release(t.Context(), a.service, "shed-note", bench.Revision, "Sheds", "", "known"))
	a.amended(t, "shed-note", say("parts/root", "when tone = loud: padding-inline 2rem"))
}

// All cases at once, by keyboard: what is in trouble, what differs from the release, and into one of them.
func TestEveryCaseOnTheBoard(t *testing.T) {
	a := startApp(t)
	shedNote(t, a)
	p := openPage(t, a)
	p.open("/bench/shed-note")
	p.sees("facts agree")
	p.key("b")
	caption := func(name string) string { return fmt.Sprintf(`document.querySelector("[data-case='%s']")`, name) }
	p.until("every case", `document.querySelectorAll("[data-case]").length === 4`)
	p.until("low contrast in hover", caption("calm · hover")+`.innerText.includes("label: contrast 2.3")`)
	p.until("what differs from the release", `document.querySelector("[aria-label='Every case'] [role=status]").innerText.includes("2 cases differ from 1.0.0")`)
	p.until("what is as released", caption("calm")+`.dataset.differs === "0" && `+caption("calm")+`.innerText.includes("as in 1.0.0")`)
	p.until("what is wider now", `Number(`+caption("loud")+`.dataset.differs) > 100`)
	p.axe("Every case")
	// The arrows walk it, Enter goes to the case.
	p.until("a way in", `document.querySelector("[data-case][tabindex='0']")`)
	evaluate[bool](p, `(document.querySelector("[data-case][tabindex='0']").focus(), true)`)
	for evaluate[string](p, `document.activeElement.dataset.case`) != "loud" {
		p.press(kb.ArrowRight)
	}
	p.press(enter)
	p.until("that case in the lanes", `!document.querySelector("[data-case]") && document.querySelector("[aria-label=Cases] [aria-pressed=true]").innerText.includes("loud")`)
}

// What is pinned holds for the strip, the lanes and the board, in the browser as the solver has it; facts are measured
// as before.
func TestWhatIsPinned(t *testing.T) {
	a := startApp(t)
	shedNote(t, a)
	p := openPage(t, a)
	p.open("/bench/shed-note")
	p.sees("facts agree")
	p.until("it to be measured", `!document.querySelector("[data-testid=ledger-summary]").innerText.includes("not measured")`)
	before := evaluate[string](p, `document.querySelector("[data-testid=ledger-summary]").innerText`)
	type box struct{ width, height float64 }
	size := func(l contract.Look) box {
		b, err := a.service.Board(t.Context(), "shed-note", l)
		require.NoError(t, err)
		return box{b.Cases[0].Width, b.Cases[0].Height}
	}
	built := func(want box) { // Chromium lays out in 64ths of a px
		t.Helper()
		p.until(fmt.Sprint("the built lane at ", want), fmt.Sprintf(`(() => {
			const [width, height] = document.querySelector("section[aria-label=Built] h2").innerText.match(/[\d.]+/g).map(Number);
			return Math.abs(width - %g) < 0.1 && Math.abs(height - %g) < 0.1;
		})()`, want.width, want.height))
	}
	plain := size(contract.Look{})
	built(plain)
	p.key("z")
	large := size(contract.Look{Text: 200})
	assert.NotEqual(t, plain, large)
	built(large)
	p.key("r")
	p.until("both in the address", `location.search.includes("text=200") && location.search.includes("dir=rtl")`)
	p.key("i")
	p.until("the state that follows", `document.querySelector("select[aria-label=State]").value === "hover"`)
	p.axe("Pinned")
	assert.Contains(t, evaluate[string](p, `document.querySelector("[data-testid=ledger-summary]").innerText`), strings.TrimSpace(before), "what is pinned was taken for a measurement")
	p.do(chromedp.Reload())
	built(size(contract.Look{Text: 200, Direction: "rtl", State: "hover"}))

	// Saved by a name, with what is pinned; and looked at so without the pins.
	p.key("n")
	p.until("the name's field", `document.activeElement?.matches("input")`)
	p.press(kb.Delete) // what is suggested is marked
	p.press("late reader")
	p.press(enter)
	p.until("the saved case", `document.querySelector("[aria-label=Cases] [aria-pressed=true]")?.innerText.includes("“late reader”")`)
	for _, key := range []string{"z", "r", "i"} {
		p.key(key)
	}
	p.until("no pins", `!/text=|dir=|state=/.test(location.search)`)
	built(large)
	p.sees("this one: state hover, right to left, text 200%")
	p.open("/bench/shed-note?facet=contract")
	p.until("it on the sheet", `document.querySelector("[data-cell='cases/0 look']")?.innerText === "state hover, right to left, text 200%"`)
	p.goTo("cases/0 given")
	p.set("cases/0 given", "tone=loud")
	p.does("cases/0 name", "n", "wide: tone=loud")
	p.set("cases/1 look", "640px")
	saved, err := a.service.Sheet(t.Context(), "shed-note")
	require.NoError(t, err)
	assert.Equal(t, []sheet.CaseRow{{On: "cases/0", Name: "late reader", Given: "tone=loud", Look: "state hover, right to left, text 200%"}, {On: "cases/1", Name: "wide", Given: "tone=loud", Look: "640px"}}, saved.Cases)
}

// The whole definition is on the sheet: its name, its purpose, notes, groups and states, by keyboard.
func TestTheRestOfTheSheet(t *testing.T) {
	a := startApp(t)
	shedNote(t, a)
	p := openPage(t, a)
	p.open("/bench/shed-note?facet=contract")
	p.until("the sheet", `document.activeElement?.dataset?.cell`)
	p.set("purpose text", "Tells that the shed is open")
	p.does("do new", "n", "Say it in one line")
	p.does("do/0 text", "n", "Stand it on top")
	p.does("dont new", "n", "Never two of them")
	p.does("props/tone name", "n", "note link")
	p.does("props/note name", "n", "link link")
	p.does("apart new", "n", "note, link")
	p.does("states/hover name", "n", "loading: opacity 0.5")
	p.until("the flag of the state", `document.querySelector("[data-cell='props/loading name']")`)
	p.goTo("states/hover name")
	p.press(kb.Delete)
	p.until("what goes along", `document.querySelector("[aria-label='What it does']").innerText.includes("the rule of label when state hover")`)
	p.press(enter)
	p.until("it gone", `!document.querySelector("[data-cell='states/hover name']")`)
	p.set("name text", "ShedSign")
	p.until("its new address", `location.pathname.endsWith("/bench/shed-sign") && document.querySelector("h1").innerText === "ShedSign"`)
	p.axe("The sheet with notes")
	bench, err := a.service.Bench(t.Context(), "shed-sign", "")
	require.NoError(t, err)
	assert.Equal(t, "Tells that the shed is open", bench.Purpose)
	assert.Equal(t, []string{"Say it in one line", "Stand it on top"}, bench.Do)
	assert.Equal(t, []string{"Never two of them"}, bench.Dont)
	v, err := a.service.Sheet(t.Context(), "shed-sign")
	require.NoError(t, err)
	assert.Equal(t, []sheet.NoteRow{{On: "apart/0", Text: "note, link"}}, v.Apart)
	p.press("z", chromedp.KeyModifiers(2)) // Ctrl
	p.until("its old address", `location.pathname.endsWith("/bench/shed-note")`)
	_, err = a.service.Bench(t.Context(), "shed-sign", "")
	var failed *service.Failure
	require.ErrorAs(t, err, &failed)
}
