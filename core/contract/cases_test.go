package contract_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
)

// Every two values of different places stand together in some row; that is what pairwise testing is (NIST
// SP 800-142). No row is there for nothing, and there are far fewer than combinations.
func TestPairwiseCoversEveryPair(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 200 {
		sizes := make([]int, 1+r.IntN(7))
		all, two := 1, []int{0, 0}
		for i := range sizes {
			sizes[i] = 1 + r.IntN(6)
			all *= sizes[i]
			two = append(two, sizes[i])
		}
		slices.Sort(two)
		rows := contract.Pairwise(sizes)
		seen := map[[4]int]int{}
		for n, row := range rows {
			require.Len(t, row, len(sizes))
			for a := range row {
				require.Less(t, row[a], sizes[a])
				for b := a + 1; b < len(row); b++ {
					if _, known := seen[[4]int{a, row[a], b, row[b]}]; !known {
						seen[[4]int{a, row[a], b, row[b]}] = n
					}
				}
			}
		}
		want := 0
		for a := range sizes {
			for b := a + 1; b < len(sizes); b++ {
				want += sizes[a] * sizes[b]
			}
		}
		assert.Len(t, seen, want, "%v", sizes)
		assert.LessOrEqual(t, len(rows), all, "%v", sizes)
		if len(sizes) > 1 {
			least := two[len(two)-1] * two[len(two)-2]
			assert.GreaterOrEqual(t, len(rows), least)
			assert.LessOrEqual(t, len(rows), 3*least+2, "%v", sizes)
		}
		assert.Equal(t, make([]int, len(sizes)), rows[0], "the first is what it is looked at with")
	}
	assert.Equal(t, [][]int{{0}, {1}, {2}}, contract.Pairwise([]int{3}))
}

func TestVariations(t *testing.T) {
	choice := func(name string, options ...string) contract.Prop {
		return contract.Prop{ID: name, Name: name, Type: contract.Choice{Options: options, Initial: options[0]}}
	}
	c := &contract.Contract{Root: &contract.Part{ID: "root", Name: "root", Element: "div"}, Props: []contract.Prop{
		choice("size", "m", "s"), {ID: "strong", Name: "strong", Type: contract.Flag{}}, {ID: "disabled", Name: "disabled", Type: contract.Flag{}},
	}, Rules: []contract.Rule{
		{Part: "root", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"color": "#000000"}},
		{Part: "root", When: contract.Of(contract.InState{State: "disabled"}), Set: contract.Style{"color": "#000000"}},
	}}
	list, all := c.Variations(16)
	assert.Equal(t, 16, all, "a state that a flag brings about is that flag")
	require.Len(t, list, 16)
	assert.Equal(t, "m", list[0].Name)
	names := map[string]bool{}
	for _, v := range list {
		names[v.Name] = true
	}
	assert.Len(t, names, 16)
	assert.Contains(t, names, "s · strong · hover")
	c.Props[0].Example = contract.OptionValue("s")
	list, _ = c.Variations(15)
	assert.Less(t, len(list), 10)
	assert.Equal(t, "s", list[0].Name, "what it is looked at with stands first")
	c.Apart = [][]string{{"strong", "disabled"}}
	list, _ = c.Variations(100)
	for _, v := range list {
		assert.False(t, v.Values["strong"] == contract.FlagValue(true) && v.Values["disabled"] == contract.FlagValue(true), "no use can give both")
	}
	list, all = (&contract.Contract{Root: c.Root}).Variations(10)
	assert.Equal(t, 1, all)
	assert.Equal(t, "plain", list[0].Name)
}
