package ledger_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// pressed draws a family in states, each of a ground of its own.
func pressed(grounds map[string]string, states ...string) *design.Family {
	f := &design.Family{ID: "f", Name: "Press", Axes: []design.Axis{{Name: "State", Values: states, Default: "default"}, {Name: "Size", Values: []string{"m", "s"}, Default: "m"}}}
	for _, state := range states {
		for _, size := range []string{"m", "s"} {
			f.Variants = append(f.Variants, &design.Variant{ID: state + size, Choices: map[string]string{"State": state, "Size": size},
				Root: &design.Layer{ID: state + size + "-root", Name: "Press", Kind: design.Box, Fill: grounds[state], Bounds: design.Rect{Width: 10, Height: 10}}})
		}
	}
	return f
}

// A state that comes, goes or looks otherwise is told as that, and can be taken: then nothing
// waits, and the component looks as drawn in every state.
func TestStatesThatMove(t *testing.T) {
	doc := &design.Document{ID: "d"}
	before := pressed(map[string]string{"default": "#111111", "hover": "#222222", "disabled": "#999999"}, "default", "hover", "disabled")
	c, found := draft.OfFamily(doc, before, token.Empty(), nil)
	require.Empty(t, found)
	agreed := ledger.Agreed{Contract: c, Tokens: token.Empty()}
	require.Empty(t, ledger.New(agreed, before).Moves())

	after := pressed(map[string]string{"default": "#111111", "hover": "#2222ff", "focus": "#333333", "loading": "#444444"}, "default", "hover", "focus", "loading")
	l := ledger.New(agreed, after)
	assert.ElementsMatch(t, []string{
		"state added State: nothing → focus (2 cases, minor)",
		"state added State: nothing → loading (2 cases, minor)",
		"state removed State: disabled → nothing (0 cases, major)",
		"value root · background-color · state hover: #222222 → #2222ff (2 cases, patch)",
	}, describe(l.Moves()))
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Empty(t, describe(ledger.New(ledger.Agreed{Contract: taken, Tokens: token.Empty()}, after).Moves()))
	assert.Nil(t, taken.StateFlag("disabled"), "its flag is left over")
	assert.NotNil(t, taken.StateFlag("loading"), "nothing says that it is loading")
	for state, want := range map[string]string{"": "#111111", "hover": "#2222ff", "focus-visible": "#333333", "loading": "#444444", "disabled": "#111111"} {
		env := contract.Env{}
		if state != "" {
			env.States = []string{state}
		}
		assert.Equal(t, want, contract.Resolve(taken, env, token.Empty()).Values["background-color"].Value, state)
	}

	// One alone leaves the others.
	moves := l.Moves()
	focus := slices.IndexFunc(moves, func(m ledger.Move) bool { return m.To.Value == "focus" })
	taken, found = l.Take(doc, []string{moves[focus].Key})
	require.Empty(t, found)
	assert.Len(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: token.Empty()}, after).Moves(), 3)

	// An axis that comes to draw states is no prop.
	plain := pressed(map[string]string{"default": "#111111"}, "default")
	c, found = draft.OfFamily(doc, plain, token.Empty(), nil)
	require.Empty(t, found)
	c.Props = slices.DeleteFunc(c.Props, func(p contract.Prop) bool { return p.Axis == "State" })
	l = ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, before)
	assert.ElementsMatch(t, []string{"state added State: nothing → hover (2 cases, minor)", "state added State: nothing → disabled (2 cases, minor)"}, describe(l.Moves()))
	taken, found = l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: token.Empty()}, before).Moves())
}

// What people added for widths, themes, directions and states that nobody draws outlives what is
// taken from the design, and still wins over it.
func TestWhatNoDrawingTellsOutlivesTaking(t *testing.T) {
	doc := &design.Document{ID: "d"}
	before := pressed(map[string]string{"default": "#111111", "hover": "#222222"}, "default", "hover")
	c, found := draft.OfFamily(doc, before, token.Empty(), nil)
	require.Empty(t, found)
	added := []contract.Term{
		contract.Viewport{Range: contract.Range{From: 600}}, contract.Container{Range: contract.Range{From: 400}, Name: "board"}, contract.Theme{Modifier: "theme", Context: "dusk"},
		contract.Direction{Is: "rtl"}, contract.InState{State: "active"},
	}
	for _, term := range added {
		c.SetValue("root", "background-color", contract.Of(term), "#abcdef")
	}
	after := pressed(map[string]string{"default": "#111100", "hover": "#222200", "focus": "#333300"}, "default", "hover", "focus")
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, after)
	require.NotEmpty(t, l.Moves())
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	for _, term := range added {
		at := slices.IndexFunc(taken.Rules, func(r contract.Rule) bool { return r.When.Equal(contract.Of(term)) })
		if assert.GreaterOrEqual(t, at, 0, "the rule for %s is gone", term) {
			assert.Equal(t, "#abcdef", taken.Rules[at].Set["background-color"])
			for _, later := range taken.Rules[at+1:] {
				assert.NotRegexp(t, "hover|focus", later.When.Key(), "what is drawn wins over the rule for %s", term)
			}
		}
	}
}
