package contract_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
)

func px(f float64) *float64 { return &f }

// asked is a contract with props of the kinds a condition can ask of, some with names that
// begin other terms.
var asked = &contract.Contract{Name: "Row", Root: &contract.Part{ID: "root", Name: "root", Element: "div"}, Props: []contract.Prop{
	{ID: "due", Name: "due", Type: contract.Flag{}},
	{ID: "state", Name: "state", Type: contract.Flag{}},
	{ID: "size", Name: "Größe", Type: contract.Choice{Options: []string{"s", "2xl", "half ripe", "and", `a"b`}, Initial: "s"}},
	{ID: "container", Name: "container", Type: contract.Choice{Options: []string{"a", "b"}, Initial: "a"}},
	{ID: "one", Name: "only", Type: contract.Choice{Options: []string{"it"}, Initial: "it"}},
	{ID: "count", Name: "count", Type: contract.Number{Least: px(0), Most: px(10), Step: 1}, Required: true},
	{ID: "heat", Name: "heat", Type: contract.Number{}},
	{ID: "picture", Name: "picture", Type: contract.Image{}},
	{ID: "label", Name: "label", Type: contract.Text{}},
	{ID: "links", Name: "entries", Type: contract.List{Items: []contract.Prop{
		{ID: "label", Name: "text", Type: contract.Text{}, Required: true}, {ID: "current", Name: "here", Type: contract.Flag{}}, {ID: "n", Name: "not", Type: contract.Number{}},
	}}},
}}

var themes = map[string][]string{"theme": {"day", "dusk", "high contrast"}, "density": {"snug", "wide"}}

func randomTerm(r *rand.Rand) contract.Term {
	pick := func(of ...string) string { return of[r.IntN(len(of))] }
	bound := func() contract.Bound {
		return contract.Bound{At: float64(r.IntN(9)-2) / 2, Kind: contract.BoundKind(r.IntN(3))}
	}
	width := func() contract.Range {
		from := float64(1 + r.IntN(900))
		return []contract.Range{{From: from}, {Below: from}, {From: from, Below: from + 0.5}}[r.IntN(3)]
	}
	switch r.IntN(9) {
	case 0:
		return contract.PropIs{Prop: pick("due", "state", "links.current"), Value: contract.FlagValue(r.IntN(2) == 0)}
	case 1:
		return contract.PropIs{Prop: "size", Value: contract.OptionValue(pick("s", "2xl", "half ripe", "and", `a"b`))}
	case 2:
		return contract.PropIs{Prop: "container", Value: contract.OptionValue(pick("a", "b"))}
	case 3:
		for {
			n := contract.NumberIs{Prop: pick("count", "heat", "links.n"), Low: bound(), High: bound()}
			empty := n.Low.Kind == contract.NoBound && n.High.Kind == contract.NoBound
			turned := n.Low.Kind != contract.NoBound && n.High.Kind != contract.NoBound && (n.Low.At > n.High.At || n.Low.At == n.High.At && (n.Low.Kind == contract.Exclusive || n.High.Kind == contract.Exclusive))
			for _, b := range []*contract.Bound{&n.Low, &n.High} {
				if b.Kind == contract.NoBound {
					b.At = 0
				}
			}
			if !empty && !turned {
				return n
			}
		}
	case 4:
		return contract.PropSet{Prop: pick("picture", "label", "links", "links.label"), Set: r.IntN(2) == 0}
	case 5:
		return contract.InState{State: pick(contract.States...)}
	case 6:
		return contract.Container{Range: width(), Name: pick("", "", "board", "side bar", "not")}
	case 7:
		modifier := pick("theme", "density")
		return contract.Theme{Modifier: modifier, Context: pick(themes[modifier]...)}
	}
	if r.IntN(2) == 0 {
		return contract.Viewport{Range: width()}
	}
	return contract.Direction{Is: pick("ltr", "rtl")}
}

// What people are shown of a condition is what they may type: it reads as the same condition.
func TestConditionsAreReadAsTheyAreWritten(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 2))
	for range 20_000 {
		var w contract.When
		for range 1 + r.IntN(4) {
			term := randomTerm(r)
			if !contract.Of(term).Excludes(w) {
				w = w.With(term)
			}
		}
		text := asked.Words(w)
		back, err := asked.ParseWords(text, themes)
		require.NoError(t, err, text)
		require.True(t, back.Equal(w), "%s\n%s is read as\n%s", text, w.Key(), back.Key())
		stored, err := contract.ParseWhen(w.Key())
		require.NoError(t, err)
		require.True(t, stored.Equal(w), "%s is stored as %s", text, w.Key())
	}
}

func TestConditionsInText(t *testing.T) {
	number := func(low, high contract.Bound) contract.Term {
		return contract.NumberIs{Prop: "count", Low: low, High: high}
	}
	in, over := contract.Inclusive, contract.Exclusive
	for text, want := range map[string][]contract.Term{
		"":                          nil,
		"count > 0 and not due":     {number(contract.Bound{At: 0, Kind: over}, contract.Bound{}), contract.PropIs{Prop: "due", Value: contract.FlagValue(false)}},
		"count >= 1 and count < 10": {number(contract.Bound{At: 1, Kind: in}, contract.Bound{At: 10, Kind: over})},
		"container >= 480 and container < 800px and container < 900": {contract.Container{Range: contract.Range{From: 480, Below: 800}}},
		"count >= 3 and count > 3 and count < 9 and count <= 9":      {number(contract.Bound{At: 3, Kind: over}, contract.Bound{At: 9, Kind: over})},
		"1 <= count<10":            {number(contract.Bound{At: 1, Kind: in}, contract.Bound{At: 10, Kind: over})},
		"count = 3":                {number(contract.Bound{At: 3, Kind: in}, contract.Bound{At: 3, Kind: in})},
		"picture is set":           {contract.PropSet{Prop: "picture", Set: true}},
		"entries.text is not set":  {contract.PropSet{Prop: "links.label", Set: false}},
		"entries.here":             {contract.PropIs{Prop: "links.current", Value: contract.FlagValue(true)}},
		"Größe = s":                {is("size", "s")},
		`Größe = "s"`:              {is("size", "s")},
		"prop state":               {contract.PropIs{Prop: "state", Value: contract.FlagValue(true)}},
		"state hover":              {contract.InState{State: "hover"}},
		"theme dusk":               {contract.Theme{Modifier: "theme", Context: "dusk"}},
		"theme snug":               {contract.Theme{Modifier: "density", Context: "snug"}},
		`theme "high contrast"`:    {contract.Theme{Modifier: "theme", Context: "high contrast"}},
		"container < 480":          {contract.Container{Range: contract.Range{Below: 480}}},
		"container board >= 30rem": {contract.Container{Range: contract.Range{From: 480}, Name: "board"}},
		"viewport < 768px":         {contract.Viewport{Range: contract.Range{Below: 768}}},
		"480 <= viewport < 60rem":  {contract.Viewport{Range: contract.Range{From: 480, Below: 960}}},
		"direction rtl":            {contract.Direction{Is: "rtl"}},
	} {
		got, err := asked.ParseWords(text, themes)
		if assert.NoError(t, err, text) {
			assert.Equal(t, contract.Of(want...).Key(), got.Key(), text)
		}
	}
}

// What is typed wrong is answered with where, and with what was expected there.
func TestConditionsTypedWrong(t *testing.T) {
	for text, want := range map[string]struct {
		at       int
		expected string
	}{
		"cuont > 0":                          {0, "a prop (due, state,"},
		"count":                              {5, "<, <=, >, >=, ="},
		"count > many":                       {8, "a number"},
		"count > 0 nad due":                  {10, `"and" or the end`},
		"count > 0 and":                      {13, "a prop"},
		"count > 3 and count < 2":            {14, "in another way"},
		"Größe = xl":                         {10, `s, 2xl, "half ripe"`},
		"Größe = s and Größe = 2xl":          {16, "in another way"},
		"picture":                            {7, "is set"},
		"picture is there":                   {11, "set"},
		"not count":                          {4, "a flag"},
		"state asleep":                       {6, "hover, active"},
		"theme night":                        {6, `a theme: snug, wide, day, dusk`},
		"container < 0":                      {12, "a width up to"},
		"container > 480":                    {10, "<, >="},
		"container < 480em":                  {12, "px or rem"},
		"480 <= container >= 300":            {17, "<"},
		"480 < container":                    {6, "a number, container"},
		"direction up":                       {10, "ltr, rtl"},
		"5 < count < 5":                      {12, "leaves something"},
		"viewport < 300 and viewport >= 400": {19, "in another way"},
	} {
		_, err := asked.ParseWords(text, themes)
		var syntax *contract.SyntaxError
		if assert.True(t, errors.As(err, &syntax), "%s is taken: %v", text, err) {
			assert.Equal(t, want.at, syntax.At, "%s: %s", text, err)
			assert.Contains(t, syntax.Expected, want.expected, text)
		}
	}
}

// What never holds, and what always does, is told by computation: held to all the values there
// are.
func TestWhetherAConditionEverHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 11))
	counted := map[contract.Truth]int{}
	for range 3000 {
		n := contract.Number{}
		if r.IntN(2) == 0 {
			n.Least = px(float64(r.IntN(4)))
		}
		if r.IntN(2) == 0 {
			n.Most = px(float64(4 + r.IntN(4)))
		}
		n.Step = []float64{0, 1, 2, 0.5}[r.IntN(4)]
		required := r.IntN(2) == 0
		c := &contract.Contract{Props: []contract.Prop{{ID: "n", Name: "n", Type: n, Required: required}}}
		bound := func() contract.Bound {
			return contract.Bound{At: float64(r.IntN(20)-2) / 2, Kind: contract.BoundKind(r.IntN(3))}
		}
		term := contract.NumberIs{Prop: "n", Low: bound(), High: bound()}
		holds, fails := 0, 0
		for k := -16; k <= 60; k++ {
			v := contract.NumberValue(float64(k) / 4)
			if n.Takes(v) {
				if term.Holds(contract.EnvOf(contract.Values{"n": v})) {
					holds++
				} else {
					fails++
				}
			}
		}
		if !required {
			fails++ // it may be left out
		}
		want := contract.Depends
		if holds == 0 {
			want = contract.Never
		} else if fails == 0 {
			want = contract.AlwaysTrue
		}
		counted[want]++
		require.Equal(t, want, c.Truth(contract.Of(term), nil), "%s where it takes %+v", term, n.Schema())
	}
	for _, truth := range []contract.Truth{contract.Depends, contract.Never, contract.AlwaysTrue} {
		assert.Greater(t, counted[truth], 100, "%v was hardly ever the answer", truth)
	}
	for text, want := range map[string]contract.Truth{
		"due": contract.Depends, "only = it": contract.AlwaysTrue, "count is set": contract.AlwaysTrue, "count >= 0": contract.AlwaysTrue, "count > 10": contract.Never,
		"heat is not set and heat > 3": contract.Never, "label is set": contract.Depends, "theme dusk": contract.Depends, "count > 2 and only = it": contract.Depends, "": contract.AlwaysTrue,
	} {
		w, err := asked.ParseWords(text, themes)
		require.NoError(t, err)
		assert.Equal(t, want, asked.Truth(w, themes), text)
	}
	assert.Equal(t, contract.Never, asked.Truth(contract.Of(contract.Theme{Modifier: "theme", Context: "night"}), themes))
	assert.Equal(t, contract.Never, asked.Truth(contract.Of(is("size", "xl")), themes))
	none, some := contract.Of(contract.PropSet{Prop: "heat", Set: false}), contract.Of(contract.NumberIs{Prop: "heat", Low: contract.Bound{At: 3, Kind: contract.Inclusive}})
	assert.True(t, none.Excludes(some) && some.Excludes(none), "a number that is not given is more than 3")
}

func FuzzConditionsInText(f *testing.F) {
	for _, seed := range []string{"count > 0 and not due", `Größe = "half ripe"`, "480px <= container board < 30rem", "prop state and state hover", `"`, "\"\\", "1e999 < count"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		w, err := asked.ParseWords(text, themes)
		if err != nil {
			var syntax *contract.SyntaxError
			require.True(t, errors.As(err, &syntax))
			require.True(t, syntax.At >= 0 && syntax.At <= len(text), fmt.Sprint(syntax.At))
			return
		}
		back, err := asked.ParseWords(asked.Words(w), themes)
		require.NoError(t, err, "%s was read, and written as %s", text, asked.Words(w))
		require.True(t, back.Equal(w))
		require.False(t, strings.Contains(w.Key(), "NaN"))
	})
}
