package react_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// stocked is a component that is nothing but the parts of a stock machine.
func stocked(t testing.TB, name, stock string, choices behaviour.Choices) *contract.Contract {
	t.Helper()
	s := behaviour.StockNamed(stock)
	c := &contract.Contract{Format: contract.Format, Name: name, Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}
	out, found := behaviour.Adopt(c, s.Make(choices), s.Parts(choices), nil)
	require.Empty(t, found)
	checked := out.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	again, read := contract.Read(name, out.JSON(), nil)
	require.NoError(t, read.Err())
	require.Equal(t, string(out.JSON()), string(again.JSON()))
	return again
}

func TestStockComponentsAreWrittenAsByHand(t *testing.T) {
	var contracts []*contract.Contract
	for i, s := range behaviour.Stocks {
		contracts = append(contracts, stocked(t, fmt.Sprintf("Stock%c", 'A'+i), s.Name, behaviour.Choices{}))
	}
	contracts = append(contracts, stocked(t, "Several", "panels", behaviour.Choices{Several: true, Open: 2}), stocked(t, "Always", "panels", behaviour.Choices{Always: true, Open: 1}),
		stocked(t, "Standing", "slider", behaviour.Choices{Vertical: true}), stocked(t, "Mixed", "checkbox", behaviour.Choices{Mixed: true}), stocked(t, "Outside", "dialog", behaviour.Choices{Outside: true}))
	files := react.Library("stock", contracts, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	said, types := lint(t, files)
	assert.Empty(t, slices.DeleteFunc(said, func(m string) bool { // parts of a machine need not be what the platform has
		return strings.Contains(m, "prefer-tag-over-role") || strings.Contains(m, "StockO.tsx") && strings.Contains(m, "no-noninteractive-element-interactions")
	}))
	assert.Empty(t, types)
}

// Random behaviours are laid out and strictly typed, too: long conditions, several regions, texts of any kind.
func TestRandomBehavioursAreLaidOut(t *testing.T) {
	var contracts []*contract.Contract
	for seed := uint64(0); len(contracts) < 60; seed++ {
		c, found := behavingIn(behavingAt(seed))
		if found != nil {
			continue
		}
		if _, problems := behaviour.Of(c).Flatten(); problems != nil {
			continue
		}
		c.Name = fmt.Sprint("Random", seed)
		contracts = append(contracts, c)
	}
	m, found := behaviour.ParseText("machine m, all at once\nkeeps at, at first 0\nstate state\n  state event\n    on press of p1: to given, at becomes at + 1\n  state given\n    after 5 ms: to event\nstate event2\n  state told\n    on press of p2: to run\n  state run\nstate props\n  state keys\n  state heard\n", nil)
	require.Empty(t, found)
	awkward, problems := behavingIn(m)
	require.Empty(t, problems)
	awkward.Name = "Told"
	contracts = append(contracts, awkward)
	assertLaidOut(t, react.Library("random", contracts, output.PropertiesOf(token.Empty()), react.Options{}))
}
