package react_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/emit/react"
	"cobrik/core/font"
	"cobrik/core/placeholder"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// Random designs of everything that a document holds, under awkward names, become one library that
// is laid out, linted and strictly typed; the tests of the interface run it.
func TestRandomDesignsBecomeALibrary(t *testing.T) {
	var contracts []*contract.Contract
	for seed := range uint64(12) {
		doc := drafttest.NewPainter(700+seed).Document(fmt.Sprintf("doc-%d", seed), 3)
		known := map[string]*contract.Contract{}
		for _, f := range doc.Families {
			c, _, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), func(family string) *contract.Contract { return known[family] })
			require.NotNil(t, c, "%s: %v", f.Name, found)
			known[f.ID] = c
			contracts = append(contracts, c)
		}
	}
	for _, c := range slices.Clone(contracts) { // and their placeholders
		room := placeholder.Of(c)
		contract.NewLinker(func(name string) *contract.Contract {
			return contracts[slices.IndexFunc(contracts, func(o *contract.Contract) bool { return o.Name == name })]
		}).Link(room)
		checked := room.Check(nil)
		require.NoError(t, checked.Err(), "%s", c.Name)
		contracts = append(contracts, room)
	}
	files := react.Library("random", contracts, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	assertLinted(t, files)
}

// Pictures of any length and number are laid out in a style sheet as prettier lays them out.
func TestListsOfPicturesAreLaidOut(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	root := &contract.Part{ID: "root", Name: "root", Element: "div"}
	for i := range 150 {
		var list []string
		for range 1 + r.IntN(4) {
			stops := []string{fmt.Sprintf("%ddeg", r.IntN(400)), "#fff"}
			for range 1 + r.IntN(1+r.IntN(9)) {
				stops = append(stops, []string{"#ffeedd80 %d%%", "rgb(1 2 3) %d%%", "#abc %d%%"}[r.IntN(3)])
				stops[len(stops)-1] = fmt.Sprintf(stops[len(stops)-1], len(stops)*6)
			}
			list = append(list, "linear-gradient("+strings.Join(stops, ", ")+")")
		}
		root.Children = append(root.Children, &contract.Part{ID: fmt.Sprint("p", i), Name: fmt.Sprint("p", i), Element: "div", Style: contract.Style{"background-image": strings.Join(list, ", ")}})
	}
	c := &contract.Contract{Format: contract.Format, Name: "Pictures", Root: root}
	assertLaidOut(t, react.Emit(c, output.PropertiesOf(token.Empty()), react.Options{}))
}
