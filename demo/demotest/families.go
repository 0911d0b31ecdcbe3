package demotest

import (
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/token"
)

// Drafted is a family of the demo with the contract that is drafted from it; its drawings are as
// a ledger compares them.
type Drafted struct {
	*contract.Contract
	Family *design.Family
}

// Families drafts every family of a document, those that use others after these. Components are
// those contracts, by the id of the family.
func Families(t testing.TB, doc *design.Document, tokens *token.Set) (out []Drafted, components draft.Components) {
	t.Helper()
	known := map[string]*contract.Contract{}
	components = func(family string) *contract.Contract { return known[family] }
	for _, f := range doc.Families {
		used, cycle := draft.UsedFamilies(doc, draft.Roots(f))
		require.Empty(t, cycle)
		for _, u := range append(used, f) {
			if known[u.ID] != nil {
				continue
			}
			c, source, found := draft.Of(doc, contract.Origin{Family: u.ID}, "", tokens, font.Shipped(), components)
			require.NotNil(t, c, found)
			require.Empty(t, found, u.Name)
			known[u.ID] = c
			out = append(out, Drafted{c, source})
		}
	}
	return out, components
}
