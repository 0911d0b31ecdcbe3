package contract_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/token"
)

// randomRules is a part with rules about one another at random: choices, a flag, a number, states, widths and
// themes.
func randomRules(r *rand.Rand) *contract.Contract {
	c := &contract.Contract{Format: contract.Format, Name: "Any", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"width": "100%", "gap": "1px"}}, Props: []contract.Prop{
		{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m", "l"}, Initial: "m"}}, {ID: "strong", Name: "strong", Type: contract.Flag{}}, {ID: "n", Name: "n", Type: contract.Number{}},
	}}
	terms := []contract.Term{
		contract.PropIs{Prop: "size", Value: contract.OptionValue("s")}, contract.PropIs{Prop: "size", Value: contract.OptionValue("m")}, contract.PropIs{Prop: "size", Value: contract.OptionValue("l")},
		contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}, contract.PropIs{Prop: "strong", Value: contract.FlagValue(false)},
		contract.NumberIs{Prop: "n", Low: contract.Bound{At: 3, Kind: contract.Inclusive}}, contract.PropSet{Prop: "n", Set: true}, contract.InState{State: "hover"}, contract.InState{State: "active"},
		contract.Container{Range: contract.Range{Below: 400}}, contract.Theme{Modifier: "theme", Context: "dusk"}, contract.Direction{Is: "rtl"},
	}
	for range 1 + r.IntN(9) {
		w := contract.When{}
		for range 1 + r.IntN(3) {
			w = w.With(terms[r.IntN(len(terms))])
		}
		set := contract.Style{}
		for _, property := range []string{"gap", "color", "opacity"} {
			if r.IntN(2) == 0 {
				set[property] = map[string][]string{"gap": {"1px", "2px"}, "color": {"#000000", "#111111"}, "opacity": {"0.5", "1"}}[property][r.IntN(2)]
			}
		}
		if len(set) > 0 {
			c.Rules = append(c.Rules, contract.Rule{Part: "root", When: w, Set: set})
		}
	}
	return c
}

// With fewer rules, every value is what it was, in every environment that a rule could ask for.
func TestFewerRulesSayTheSame(t *testing.T) {
	left, gone := 0, 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 9))
		c := randomRules(r)
		was := c.Clone()
		n := c.FewerRules()
		gone += n
		require.Empty(t, c.Check(token.Empty()), "seed %d", seed)
		assert.LessOrEqual(t, declarations(c), declarations(was))
		assert.LessOrEqual(t, len(c.Rules), len(was.Rules)+n)
		for range 60 {
			env := contract.Env{Props: contract.Values{"size": contract.OptionValue([]string{"s", "m", "l"}[r.IntN(3)]), "strong": contract.FlagValue(r.IntN(2) == 0)}, Container: []float64{399, 400, 900}[r.IntN(3)],
				Theme: map[string]string{"theme": []string{"day", "dusk"}[r.IntN(2)]}, Direction: []string{"ltr", "rtl"}[r.IntN(2)]}
			for _, s := range []string{"hover", "active"} {
				if r.IntN(2) == 0 {
					env.States = append(env.States, s)
				}
			}
			if r.IntN(2) == 0 {
				env.Props["n"] = contract.NumberValue(float64(r.IntN(6)))
			}
			a, b := contract.Resolve(was, env, token.Empty()), contract.Resolve(c, env, token.Empty())
			for _, property := range []string{"gap", "color", "opacity"} {
				require.Equal(t, a.Values[property].Value, b.Values[property].Value, "seed %d: %s in %v", seed, property, env)
			}
		}
		left += declarations(c)
		again := c.Clone()
		again.FewerRules()
		assert.LessOrEqual(t, declarations(again), declarations(c))
	}
	assert.Greater(t, gone, left/5, "of rules at random much is needless")
}

func declarations(c *contract.Contract) (n int) { return len(c.ValueSites()) }

// What a person would leave out is left out.
func TestNeedlessRules(t *testing.T) {
	s, m, l := contract.OptionValue("s"), contract.OptionValue("m"), contract.OptionValue("l")
	size := func(v contract.Value) contract.Term { return contract.PropIs{Prop: "size", Value: v} }
	for _, k := range []struct {
		why   string
		rules []contract.Rule
		want  []string
	}{
		{"it says what holds without it", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "1px"}}}, nil},
		{"a later one always wins", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "2px"}}, {Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "3px"}}}, []string{"size = s: gap 3px"}},
		{"two of one condition are one", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "2px"}}, {Part: "root", When: contract.Of(size(s)), Set: contract.Style{"opacity": "0.5"}}}, []string{"size = s: gap 2px opacity 0.5"}},
		{"strong or not, it is the same", []contract.Rule{
			{Part: "root", When: contract.Of(size(s), contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}), Set: contract.Style{"gap": "2px"}},
			{Part: "root", When: contract.Of(size(s), contract.PropIs{Prop: "strong", Value: contract.FlagValue(false)}), Set: contract.Style{"gap": "2px"}}}, []string{"size = s: gap 2px"}},
		{"each is needed", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "2px"}}, {Part: "root", When: contract.Of(size(l)), Set: contract.Style{"gap": "3px"}}}, []string{"size = s: gap 2px", "size = l: gap 3px"}},
		{"one between them sets it, too", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"opacity": "0.5"}}, {Part: "root", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"gap": "4px"}}, {Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "2px"}}},
			[]string{"size = s: opacity 0.5", "state hover: gap 4px", "size = s: gap 2px"}},
		{"what every option says, the part says", []contract.Rule{{Part: "root", When: contract.Of(size(s)), Set: contract.Style{"gap": "2px"}}, {Part: "root", When: contract.Of(size(m)), Set: contract.Style{"gap": "2px"}}, {Part: "root", When: contract.Of(size(l)), Set: contract.Style{"gap": "2px"}}},
			nil},
	} {
		c := randomRules(rand.New(rand.NewPCG(1, 1)))
		c.Rules = k.rules
		c.FewerRules()
		var got []string
		for _, r := range c.Rules {
			text := c.Words(r.When) + ":"
			for _, property := range r.Set.Properties() {
				text += fmt.Sprintf(" %s %s", property, r.Set[property])
			}
			got = append(got, text)
		}
		assert.Equal(t, k.want, got, k.why)
		if k.want == nil && len(k.rules) == 3 {
			assert.Equal(t, "2px", c.Root.Style["gap"], k.why)
		}
	}
}
