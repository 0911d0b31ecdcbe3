package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/survey"
)

func pieces(w survey.PageWidths) map[string]survey.Paired {
	out := map[string]survey.Paired{}
	for _, p := range w.Pieces {
		out[p.Name] = p
	}
	return out
}

// When this fails, what a narrow drawing hides or puts elsewhere is not told, or pages that draw the same are taken for two.
func TestPagesOfTwoWidthsArePaired(t *testing.T) {
	wide := page("plots-1", "Plots", 1440,
		text("wt", "Title", "Plots", 40, 40, 32), box("wa", "Aside", 900, 120, 300, 400, text("wat", "Note", "Water on Tuesdays", 10, 10, 14), text("wau", "Who", "Ines", 10, 40, 14)),
		box("wm", "Main", 40, 120, 800, 400, text("wmt", "Lead", "All beds are taken", 10, 10, 18), text("wmu", "Sub", "But for three", 10, 50, 14)), box("wl", "Large banner", 40, 600, 1300, 90, text("wlt", "Ask", "Join us", 10, 10, 20)))
	narrow := page("plots-2", "Plots, narrow", 390,
		text("nt", "Title", "Plots", 20, 40, 32), box("na", "Aside", 20, 120, 350, 300, text("nat", "Note", "Water on Tuesdays", 10, 10, 14), text("nau", "Who", "Ines", 10, 40, 14)),
		box("nm", "Main", 20, 460, 350, 400, text("nmt", "Lead", "All beds are taken", 10, 10, 18), text("nmu", "Sub", "But for three", 10, 50, 14)), box("nb", "Menu button", 340, 10, 30, 30, path("nbi", "Icon", 5, 5, 20, "M0 0h9z")))
	got := survey.Read(document([]*design.Page{wide, narrow}), survey.Options{}).Widths
	require.Len(t, got, 1)
	assert.Equal(t, "Plots", got[0].Name)
	assert.Equal(t, []string{"plots-2", "plots-1"}, got[0].Pages)
	assert.Equal(t, []float64{390, 1440}, got[0].At)
	assert.Equal(t, []survey.Span{{From: 320, To: 390}, {From: 390, To: 1440}, {From: 1440}}, got[0].Undrawn)
	by := pieces(got[0])
	assert.Equal(t, map[string]string{"plots-1": "wt", "plots-2": "nt"}, by["Title"].Layers)
	assert.Equal(t, survey.Stays, by["Title"].What)
	assert.Equal(t, map[string]string{"plots-1": "wm", "plots-2": "nm"}, by["Main"].Layers)
	assert.Equal(t, survey.Rearranged, by["Main"].What, "it comes after the aside, which it came before")
	assert.Equal(t, survey.Shown, by["Large banner"].What)
	assert.Equal(t, []survey.Span{{From: 1440, To: 1440}}, by["Large banner"].When)
	assert.Equal(t, []survey.Span{{From: 390, To: 390}}, by["Menu button"].When)
}

// When this fails, pages are paired that have nothing to do with each other, or those of other names that say the same are not.
func TestPagesArePairedByWhatTheySay(t *testing.T) {
	says := func(id, name string, width float64, words ...string) *design.Page {
		p := page(id, name, width)
		for i, w := range words {
			p.Layers = append(p.Layers, text(id+w, "Text", w, 20, 20+float64(i)*40, 14))
		}
		return p
	}
	got := survey.Read(document([]*design.Page{
		says("a", "Start", 1440, "Beds", "Sheds", "Canal", "Join"), says("b", "Phone home", 360, "Beds", "Sheds", "Canal"), says("c", "Join", 1440, "Name", "Plot", "Send"), says("d", "Rota", 390, "Monday", "Tuesday", "Send"),
	}), survey.Options{}).Widths
	require.Len(t, got, 1)
	assert.Equal(t, []string{"b", "a"}, got[0].Pages)
}
