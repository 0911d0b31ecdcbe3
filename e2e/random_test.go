package e2e

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/draft/drafttest"
	"cobrik/core/ledger"
)

// Random families of everything that a design holds, under awkward names, dropped as a file: drafted,
// emitted, compiled, run by React and measured in the bench, every case says what was drawn, in every state.
func TestRandomFamiliesAreMeasuredAsDrawn(t *testing.T) {
	a := startApp(t)
	p := openPage(t, a)
	facts, cases := 0, 0
	for seed := range uint64(6) {
		doc := drafttest.NewPainter(500+seed).Document(fmt.Sprintf("doc-%d", seed), 3)
		text, err := json.Marshal(doc)
		require.NoError(t, err)
		_, err = a.service.Drop(t.Context(), doc.ID+".design.json", text)
		require.NoError(t, err)
		for _, f := range doc.Families {
			drafted, err := a.service.Draft(t.Context(), doc.ID, f.ID)
			require.NoError(t, err, "%s of seed %d", f.Name, seed)
			bench, err := a.service.Bench(t.Context(), drafted.Slug, "")
			require.NoError(t, err)
			p.open("/bench/" + drafted.Slug)
			p.until("the measurement of "+bench.Name, `document.querySelector("footer").innerText.includes("`+bench.Name+`:")`)
			view, err := a.service.Ledger(t.Context(), drafted.Slug, "")
			require.NoError(t, err)
			require.True(t, view.Measured, "%s of seed %d is not measured", f.Name, seed)
			for _, k := range view.Cases {
				for _, one := range k.Facts {
					if one.Verdict != ledger.Agree {
						t.Errorf("seed %d, %s, %s: %s · %s is drawn %v, agreed %v, built %v", seed, bench.Name, k.Key, one.Part, one.Property, one.Design, one.Contract, one.Built)
					}
				}
				facts, cases = facts+len(k.Facts), cases+1
			}
		}
	}
	assert.Greater(t, cases, 100)
	t.Logf("%d facts of %d cases", facts, cases)
}
