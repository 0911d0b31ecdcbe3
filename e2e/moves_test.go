package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What was edited on the bench stands in Sync as the contract's own move beside the
// design's: taking all of the design's leaves it, an exception wants a reason, and the
// ledger is level after it.
func TestAnEditOfTheContractWaitsInSync(t *testing.T) {
	a := startApp(t)
	ctx := t.Context()
	_, err := a.service.Draft(ctx, "furrow", "crop-tag")
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/bench/crop-tag?all=1")
	p.sees("22 facts agree")
	p.click("tr[data-fact='root gap'] button", "")
	p.fill("[data-editor] input", "", "7px")
	p.press(enter)
	p.until("the contract's bar to stand up", `document.querySelector("tr[data-fact='root gap']")?.dataset.verdict === "contract moved"`)
	p.axe("Bench, the contract moved")
	require.NoError(t, a.service.PublishNext(ctx, "furrow"))
	_, err = a.service.Fetch(ctx)
	require.NoError(t, err)

	p.open("/sync")
	p.sees("The design moved")
	p.sees("The contract moved")
	p.axe("Sync, both moved")
	p.click("button", "Take all from the design")
	p.sees("4 taken, 0 kept, 0 asked")
	p.click("button", "Confirm")
	p.until("the contract's moves alone", `!document.querySelector("main").innerText.includes("The design moved") && document.querySelectorAll("tr[data-move]").length === 2`)

	// By keyboard: asked of the designer, it waits without counting.
	for range 2 {
		p.until("a row to ask about", `(() => { const r = [...document.querySelectorAll("tr[data-move]")].find((r) => !r.querySelector("[aria-pressed=true]")); r?.focus(); return Boolean(r) })()`)
		p.press("d")
	}
	p.sees("0 taken, 0 kept, 2 asked")
	p.click("button", "Confirm")
	p.until("nothing that counts", `document.querySelector("nav a[href$='/sync']").innerText.includes("0")`)
	p.sees("Asked")

	// Agreed as an exception, for a reason.
	for range 2 {
		p.until("a row to keep", `(() => { const r = [...document.querySelectorAll("tr[data-move]")].find((r) => !r.querySelector("button[aria-pressed=true]:nth-child(2)")); r?.focus(); return Boolean(r) })()`)
		p.press("k")
	}
	p.sees("Why the contract is to differ from the design")
	p.until("no confirming without a reason", `[...document.querySelectorAll("button")].some((b) => b.textContent === "Confirm" && b.disabled)`)
	p.fill("input[maxlength]", "", "Thumbs need room.")
	p.click("button", "Confirm")
	p.until("two kept", `[...document.querySelectorAll("tr[data-move] button[aria-pressed=true]")].filter((b) => b.textContent === "Kept").length === 2`)
	p.open("/bench/crop-tag")
	p.sees("Level: design, contract and built component say the same")
}
