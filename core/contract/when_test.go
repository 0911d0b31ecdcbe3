package contract_test

import (
	"encoding/json"
	"math/rand/v2"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
)

func is(prop, option string) contract.PropIs {
	return contract.PropIs{Prop: prop, Value: contract.OptionValue(option)}
}

func flag(prop string, set bool) contract.PropIs {
	return contract.PropIs{Prop: prop, Value: contract.FlagValue(set)}
}

func TestConditionsInWordsAndAsKeys(t *testing.T) {
	for _, c := range []struct {
		when       contract.When
		words, key string
	}{
		{contract.When{}, "", ""},
		{below(480), "container < 480px", `{"container":{"below":480}}`},
		{below(480.5), "container < 480.5px", `{"container":{"below":480.5}}`},
		{contract.Of(flag("dense", true)).WithBelow(480), "dense and container < 480px", `{"props":{"dense":true},"container":{"below":480}}`},
		{contract.Of(flag("dense", false)), "not dense", `{"props":{"dense":false}}`},
		{contract.Of(is("size", "s"), is("dense", "true")), "dense = true and size = s", `{"props":{"dense":"true","size":"s"}}`},
		{contract.Of(contract.InState{State: "hover"}, is("size", "s")), "size = s and state hover", `{"props":{"size":"s"},"states":["hover"]}`},
		{contract.Of(contract.Viewport{Range: contract.Range{From: 600, Below: 900}}), "600px <= viewport < 900px", `{"viewport":{"from":600,"below":900}}`},
		{contract.Of(contract.Theme{Modifier: "theme", Context: "dusk"}, contract.Direction{Is: "rtl"}), "theme dusk and direction rtl", `{"theme":{"theme":"dusk"},"direction":"rtl"}`},
	} {
		assert.Equal(t, c.words, c.when.String())
		assert.Equal(t, c.key, c.when.Key())
		assert.Equal(t, c.key == "", c.when.Always())
		back, err := contract.ParseWhen(c.key)
		require.NoError(t, err)
		assert.True(t, back.Equal(c.when), c.key)
	}
	for _, bad := range []string{"x", `{"props":{"size":1}}`, `{"unheard":1}`, `{"container":5}`} {
		_, err := contract.ParseWhen(bad)
		assert.Error(t, err, bad)
	}
}

// randomWhen asks of up to six things.
func randomWhen(r *rand.Rand) contract.When {
	var w contract.When
	for range r.IntN(6) {
		w = w.With([]contract.Term{
			is("size", []string{"s", "m"}[r.IntN(2)]), flag("dense", r.IntN(2) == 0), contract.InState{State: contract.States[r.IntN(4)]},
			contract.Theme{Modifier: "theme", Context: []string{"day", "dusk"}[r.IntN(2)]}, contract.Direction{Is: []string{"ltr", "rtl"}[r.IntN(2)]},
			contract.NumberIs{Prop: "count", Low: contract.Bound{At: float64(r.IntN(3)), Kind: contract.BoundKind(r.IntN(3))}, High: contract.Bound{At: float64(r.IntN(3)), Kind: contract.BoundKind(r.IntN(3))}},
			contract.PropSet{Prop: "count", Set: r.IntN(2) == 0},
			contract.Container{Range: contract.Range{Below: float64(1 + r.IntN(3))}}, contract.Viewport{Range: contract.Range{From: float64(1 + r.IntN(2)), Below: float64(3 + r.IntN(2))}},
		}[r.IntN(9)])
	}
	return w
}

func randomEnv(r *rand.Rand) contract.Env {
	e := contract.Env{Props: contract.Values{"size": contract.OptionValue([]string{"s", "m"}[r.IntN(2)]), "dense": contract.FlagValue(r.IntN(2) == 0)},
		Container: float64(r.IntN(5)), Viewport: float64(r.IntN(6)), Theme: map[string]string{"theme": []string{"day", "dusk"}[r.IntN(2)]}, Direction: []string{"", "ltr", "rtl"}[r.IntN(3)]}
	if r.IntN(2) == 0 {
		e.Props["count"] = contract.NumberValue(float64(r.IntN(7)) / 2)
	}
	for _, s := range contract.States {
		if r.IntN(2) == 0 {
			e.States = append(e.States, s)
		}
	}
	return e
}

// However a condition comes about, its key is one; conditions that cover hold wherever
// the covered one does; those that exclude each other never hold at once.
func TestConditionsAgreeWithTheWorldsTheyHoldIn(t *testing.T) {
	r := rand.New(rand.NewPCG(10, 2))
	covered, excluded := 0, 0
	for range 20_000 {
		a, b := randomWhen(r), randomWhen(r)
		terms := append([]contract.Term{}, a.Terms()...)
		r.Shuffle(len(terms), func(i, j int) { terms[i], terms[j] = terms[j], terms[i] })
		require.Equal(t, a.Key(), contract.Of(terms...).Key(), "the order in which it was said is part of the key")
		require.Equal(t, a.Key() == b.Key(), a.Equal(b))
		var back contract.When
		text, err := json.Marshal(a)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(text, &back))
		require.True(t, a.Equal(back))
		for range 8 {
			e := randomEnv(r)
			if a.Covers(b) && b.Holds(e) {
				covered++
				require.True(t, a.Holds(e), "%s covers %s", a, b)
			}
			if a.Excludes(b) {
				excluded++
				require.False(t, a.Holds(e) && b.Holds(e), "%s excludes %s", a, b)
			}
		}
	}
	assert.Greater(t, covered, 1000)
	assert.Greater(t, excluded, 1000)
}

func TestTermsHold(t *testing.T) {
	for i, c := range []struct {
		term contract.Term
		env  contract.Env
		want bool
	}{
		{flag("on", true), contract.Env{Props: contract.Values{"on": contract.FlagValue(true)}}, true},
		{flag("on", true), contract.Env{Props: contract.Values{"on": contract.TextValue("true")}}, false}, // a text is no flag
		{is("size", "s"), contract.Env{Props: contract.Values{"size": contract.TextValue("s")}}, false},
		{contract.InState{State: "hover"}, contract.Env{}, false},
		{contract.Container{Range: contract.Range{Below: 480}}, contract.Env{}, false}, // wider than any
		{contract.Container{Range: contract.Range{Below: 480}}, contract.Env{Container: 480}, false},
		{contract.Container{Range: contract.Range{Below: 480}}, contract.Env{Container: 479.5}, true},
		{contract.Viewport{Range: contract.Range{From: 600}}, contract.Env{}, true},
		{contract.Viewport{Range: contract.Range{From: 600}}, contract.Env{Viewport: 599}, false},
		{contract.Viewport{Range: contract.Range{From: 600}}, contract.Env{Viewport: 600}, true},
		{contract.Direction{Is: "ltr"}, contract.Env{}, true},
		{contract.Theme{Modifier: "theme", Context: "dusk"}, contract.Env{Theme: map[string]string{"density": "dusk"}}, false},
	} {
		assert.Equal(t, c.want, c.term.Holds(c.env), strconv.Itoa(i)+" "+c.term.String())
	}
}
