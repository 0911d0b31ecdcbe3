package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A family drawn in states is measured in each, as drawn; what the preview needs for that is not
// in the code.
func TestStatesAreMeasuredAsDrawn(t *testing.T) {
	a := startApp(t)
	_, err := a.service.Draft(t.Context(), "furrow", "action-button")
	require.NoError(t, err)
	p := openPage(t, a)
	p.open("/bench/action-button")
	p.until("every case in every state to be level", `/ActionButton: [\d,]+ facts agree/.test(document.querySelector("footer").innerText)`)
	assert.Equal(t, 30, evaluate[int](p, `document.querySelectorAll("[aria-label=Cases] button").length`))
	p.click("[aria-label=Cases] button", "firm · m · hover")
	p.press("a")
	p.until("the hovered ground", `document.querySelector("tr[data-fact='root background-color']")?.innerText.split("button.firm.ground-hover").length > 2`)
	p.axe("Bench, a state")

	built, err := a.service.Build(t.Context(), "action-button")
	require.NoError(t, err)
	assert.Contains(t, built.Bundle.CSS, "[data-states~=")
	for _, f := range built.Files {
		assert.NotContains(t, f.Content, "data-states", f.Path)
	}
}

// A component is looked at in every theme: a key turns them, what is drawn and what runs follow, and
// the ledger is that theme's.
func TestTheBenchTurnsThemes(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	p.open("/bench/plot-card")
	p.until("the measurement", `document.querySelector("footer").innerText.includes("PlotCard:")`)
	fills := `[...document.querySelectorAll("[aria-label=Design] svg [fill]")].map((e) => e.getAttribute("fill")).join(" ")`
	day := evaluate[string](p, fills)
	p.press("t")
	p.until("dusk", `document.querySelector("[aria-label=Theme]").value === "dusk" && `+fills+` !== "`+day+`"`)
	p.sees("Level: design, contract and built component say the same of this case.")
	p.until("the address to say so", `location.search.includes("theme=dusk")`)
	p.axe("Bench in another theme")
	p.press("t")
	p.press("t")
	p.until("the first again", `document.querySelector("[aria-label=Theme]").value === "day" && !location.search.includes("theme")`)
	_, err = a.service.Ledger(t.Context(), "plot-card", "nowhere")
	assert.ErrorContains(t, err, "There is no theme")
}
