package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The bench says at which widths a component breaks, by the solver, and the
// running code breaks there: its row is wider than a narrower container.
func TestTheRailSaysWhereAComponentBreaks(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	_, err := a.service.Draft(t.Context(), "furrow", "tool-row")
	require.NoError(t, err)
	p.open("/bench/tool-row")
	p.until("the bands", `document.querySelector("[aria-label=Widths]")?.innerText.includes("160 to 213 px")`)
	assert.Contains(t, evaluate[string](p, `document.querySelector("[aria-label=Widths] li").innerText`), "wider than its container: it needs 214.2 px")
	p.until("the measured width", `document.querySelector("[aria-label=Built]").innerText.includes("214.2")`)
	p.do(chromedp.Focus(`[aria-label=Widths] li`))
	p.until("the part lit in the lanes", `document.querySelector("[aria-label=Built]").innerText.includes("214.22 × 36")`)

	widths, err := a.service.Widths(t.Context(), "tool-row", "")
	require.NoError(t, err)
	assert.Equal(t, 214.0, widths.Proposals[0].At)
	assert.Empty(t, widths.Proposals[0].Kinds, "a row as wide as its content has no container's width to follow")
	_, err = a.service.Widths(t.Context(), "tool-row", "due=perhaps")
	assert.ErrorContains(t, err, "no case")
}
