package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/ledger"
	"cobrik/demo/demotest"
	"cobrik/service"
)

func edits(part, property, value string) []service.ValueEdit {
	return []service.ValueEdit{{Part: part, Property: property, Value: value}}
}

// Every fact of every case, measured in the browser, against the drawn variant:
// sizes within half a pixel, all else equal.
func TestEveryMeasuredFactIsAsDrawn(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	// The story begins at the first revision; the newest has all families, too.
	doc, _ := demotest.Furrow(t, 1)
	for _, f := range doc.Families {
		slug, name := f.ID, f.Name
		if known, err := a.service.Bench(t.Context(), slug, ""); err != nil || known.Name != name { // a component that another uses was drafted with it
			_, err := a.service.Draft(t.Context(), "furrow", slug)
			require.NoError(t, err)
		}
		p.open("/bench/" + slug)
		p.until("the measurement of "+name, `document.querySelector("footer").innerText.includes("`+name+`:")`)
		var view service.LedgerView
		built, access := 0, 0
		for _, theme := range []string{"day", "dusk", "contrast"} {
			var err error
			view, err = a.service.Ledger(t.Context(), slug, theme)
			require.NoError(t, err)
			require.True(t, view.Measured, "%s is not measured in %s", slug, theme)
			for _, k := range view.Cases {
				for _, f := range k.Facts {
					if f.Built != nil && f.Design != nil {
						built++
					}
					if f.Built != nil && f.Facet == ledger.Access {
						access++
					}
					assert.Equal(t, ledger.Agree, f.Verdict, "%s in %s, %s: %s · %s is drawn %v, agreed %v, built %v", slug, theme, k.Key, f.Part, f.Property, f.Design, f.Contract, f.Built)
				}
			}
		}
		assert.Greater(t, built, 24, "%s: hardly anything was measured", slug)
		t.Logf("%s: %d cases of %d facts in each theme, %d measured in three, and %d of access", name, len(view.Cases), view.Facts, built, access)
	}
}

// What the code says of itself to assistive technology, and gives the components it uses, is
// measured: where it is altered by hand, the code has moved.
func TestAlteredCodeIsToldByWhatItIsAndGives(t *testing.T) {
	for alteration, want := range map[[2]string][3]string{
		{"<Heading ", `<Heading aria-level={4} `}:       {"level", "3", "4"},
		{"<Heading ", `<Heading role="note" `}:          {"role", "heading", "note"},
		{"<Heading ", `<Heading aria-label="Plot 42" `}: {"name", "Plot 41", "Plot 42"},
		{"tone={tone} ", "tone={tone} strong "}:         {"given strong", "false", "true"},
		{"label={label} ", `label="Wilted" `}:           {"given label", "Growing", "Wilted"},
	} {
		var last service.Built
		a := startApp(t, altered(alteration[0], alteration[1], &last))
		_, err := a.service.Draft(t.Context(), "furrow", "plot-card")
		require.NoError(t, err)
		p := openPage(t, a)
		p.open("/bench/plot-card")
		p.until("the measurement", `document.querySelector("footer").innerText.includes("PlotCard:")`)
		view, err := a.service.Ledger(t.Context(), "plot-card", "day")
		require.NoError(t, err)
		told := false
		for _, f := range view.Cases[0].Facts {
			if f.Property == want[0] && (f.Part == "title" || f.Facet == ledger.Props) {
				told = true
				assert.Equal(t, ledger.CodeMoved, f.Verdict, alteration)
				assert.Equal(t, want[1], f.Contract.Value, alteration)
				assert.Equal(t, want[2], f.Built.Value, alteration)
			}
		}
		assert.True(t, told, "%q: nothing is said of %s", alteration[1], want[0])
	}
}
