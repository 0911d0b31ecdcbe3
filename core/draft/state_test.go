package draft_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/token"
)

func TestWhichAxesDrawStates(t *testing.T) {
	for _, k := range []struct {
		axis design.Axis
		want bool
	}{
		{design.Axis{Name: "State", Values: []string{"default", "hover", "pressed", "focus", "disabled"}, Default: "default"}, true},
		{design.Axis{Name: "Interaction", Values: []string{"Rest", "Hovered"}, Default: "Rest"}, true},
		{design.Axis{Name: "Field state", Values: []string{"normal", "error", "read-only"}, Default: "normal"}, true},
		{design.Axis{Name: "Zustand", Values: []string{"default", "hover"}, Default: "default"}, true},
		{design.Axis{Name: "Menu", Values: []string{"default", "open"}, Default: "default"}, false},       // data alone, and not called so
		{design.Axis{Name: "State", Values: []string{"sown", "growing", "ripe"}, Default: "sown"}, false}, // of the crop
		{design.Axis{Name: "State", Values: []string{"default", "hover", "ripe"}, Default: "default"}, false},
		{design.Axis{Name: "State", Values: []string{"hover", "pressed"}, Default: "hover"}, false},              // never in none
		{design.Axis{Name: "State", Values: []string{"default", "focus", "focused"}, Default: "default"}, false}, // one twice
		{design.Axis{Name: "State", Values: []string{"default"}, Default: "default"}, false},
	} {
		assert.Equal(t, k.want, draft.IsStateAxis(k.axis), "%s: %v", k.axis.Name, k.axis.Values)
	}
}

var pressable = []design.Axis{
	{Name: "Emphasis", Values: []string{"firm", "quiet"}, Default: "firm"},
	{Name: "State", Values: []string{"default", "hover", "pressed", "disabled"}, Default: "default"},
	{Name: "Size", Values: []string{"m", "s"}, Default: "m"},
}

// States are no prop: what people do is asked of the browser, what data sets is a flag.
func TestStatesAreNoProp(t *testing.T) {
	f := family(pressable, func(c map[string]string) string {
		if c["State"] == "hover" && c["Emphasis"] == "quiet" {
			return "#444444"
		}
		return map[string]string{"default": "#111111", "hover": "#222222", "pressed": "#333333", "disabled": "#999999"}[c["State"]]
	})
	c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	require.Empty(t, found)
	assertDrawn(t, c, f, token.Empty())
	var props []string
	for _, p := range c.Props {
		props = append(props, p.Name)
	}
	assert.Equal(t, []string{"emphasis", "disabled", "size"}, props)
	assert.Equal(t, []contract.DrawnState{{State: "hover", Axis: "State", Value: "hover"}, {State: "active", Axis: "State", Value: "pressed"}, {State: "disabled", Axis: "State", Value: "disabled"}}, c.States)
	assert.Equal(t, []string{
		"root · background-color · state hover is #222222",
		"root · background-color · emphasis = quiet and state hover is #444444",
		"root · background-color · state active is #333333",
		"root · background-color · state disabled is #999999",
	}, rules(c), "what is disabled changes when it is hovered")
	both := contract.Env{Props: contract.Values{"emphasis": contract.OptionValue("quiet"), "disabled": contract.FlagValue(true)}, States: []string{"hover"}}
	assert.Equal(t, "#999999", contract.Resolve(c, both, token.Empty()).Values["background-color"].Value)
	again, found := contract.Read("c", c.JSON(), token.Empty())
	require.NotNil(t, again, found)
	names := map[string]string{}
	for _, k := range draft.Cases(again, f) {
		require.Empty(t, names[k.Key(c)], "two cases have the key %s", k.Key(c))
		names[k.Key(c)] = k.Name
		assert.Equal(t, k.State == "disabled", k.Values["disabled"] == contract.FlagValue(true))
	}
	assert.Equal(t, "quiet · active · m", names["disabled=false emphasis=quiet size=m :active"])
}

// Random families in states: every drawing comes back from the rules, none of which can be
// left out, and being in no state looks as if there were no states.
func TestStatesComeBackFromTheirRules(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 26))
	stated := 0
	for round := range 300 {
		colors := map[string]string{}
		several := 1 + random.IntN(6)
		f := family(pressable, func(c map[string]string) string {
			key := ""
			for i, a := range pressable {
				if (round>>i)&1 == 0 || random.IntN(12) == 0 {
					key += c[a.Name] + " "
				}
			}
			if colors[key] == "" {
				colors[key] = fmt.Sprintf("#%06x", random.IntN(several)*1111)
			}
			return colors[key]
		})
		f.Variants = slices.DeleteFunc(f.Variants, func(v *design.Variant) bool { return v != f.Default() && random.IntN(5) == 0 })
		c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
		require.Empty(t, found)
		assertDrawn(t, c, f, token.Empty())
		for i, r := range c.Rules {
			stated += len(r.When.Terms())
			without := c.Clone()
			without.Rules = slices.Delete(without.Rules, i, i+1)
			same := true
			for _, k := range draft.Cases(c, f) {
				same = same && contract.Resolve(c, k.Env(), token.Empty()).Values["background-color"].Value == contract.Resolve(without, k.Env(), token.Empty()).Values["background-color"].Value
			}
			assert.False(t, same, "round %d: a rule does nothing: %s", round, rules(c)[i])
		}
	}
	assert.Greater(t, stated, 300)
}
