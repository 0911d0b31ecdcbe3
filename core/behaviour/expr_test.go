package behaviour_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/web/reference"
)

// evaluated works an expression out in a machine that has n, word and on, by assigning it to a value of the kind it has.
func evaluated(t testing.TB, text string, n float64, word string, on bool, kind any) (any, bool) {
	t.Helper()
	m := &behaviour.Machine{Name: "m", Values: []behaviour.Value{{Name: "n", Initial: n}, {Name: "word", Initial: word}, {Name: "on", Initial: on}, {Name: "out", Initial: kind}},
		Root: &behaviour.State{ID: "root", States: []*behaviour.State{{ID: "a", Entry: []behaviour.Action{{Assign: "out", To: text}}}}}}
	c, found := behaviour.Compile(m)
	require.Empty(t, found, text)
	cfg, effects := c.Start(contract.Env{})
	return cfg.Values["out"], len(effects) == 0
}

// expressions writes them at random, numbers or flags.
type expressions struct{ *rand.Rand }

func (g expressions) number(depth int) string {
	if depth == 0 {
		return []string{"n", "0", "1", "2.5", "7", "(3)"}[g.IntN(6)]
	}
	a, b := g.number(depth-1), g.number(depth-1)
	switch g.IntN(8) {
	case 0:
		return fmt.Sprintf("min(%s, %s, 4)", a, b)
	case 1:
		return fmt.Sprintf("max(%s, %s)", a, b)
	case 2:
		return fmt.Sprintf("%s(%s)", []string{"round", "floor", "abs"}[g.IntN(3)], a)
	case 3:
		return "-(" + a + ")"
	}
	return a + " " + []string{"+", "-", "*", "/", "%"}[g.IntN(5)] + " " + b
}

func (g expressions) flag(depth int) string {
	if depth == 0 {
		return []string{"on", "true", "!on", "word == 'sown'", "word != 'ripe'"}[g.IntN(5)]
	}
	switch g.IntN(4) {
	case 3:
		return "String(" + g.number(depth-1) + " * " + []string{"1", "1000", "0.00000001", "1000000000000000000000"}[g.IntN(4)] + []string{") == '3'", ") + word != '7sown'"}[g.IntN(2)]
	case 0:
		return g.number(depth-1) + []string{" < ", " <= ", " > ", ">=", "==", " != "}[g.IntN(6)] + g.number(depth-1)
	case 1:
		return "!(" + g.flag(depth-1) + ")"
	}
	return g.flag(depth-1) + []string{" && ", " || "}[g.IntN(2)] + g.flag(depth-1)
}

// Expressions mean what they mean in the code that is emitted: thousands of random ones give what ECMAScript gives.
func TestExpressionsAreThoseOfECMAScript(t *testing.T) {
	type one struct {
		Text string  `json:"text"`
		N    float64 `json:"n"`
		Word string  `json:"word"`
		On   bool    `json:"on"`
	}
	var cases []one
	g := expressions{rand.New(rand.NewPCG(1, 9))}
	for i := range 4000 {
		c := one{N: float64(g.IntN(9)) - 4, Word: []string{"sown", "ripe"}[g.IntN(2)], On: g.IntN(2) == 0}
		switch i % 3 {
		case 0:
			c.Text = g.number(3)
		case 1:
			c.Text = g.flag(3)
		default:
			c.Text = "String((" + g.number(2) + ") * " + []string{"1", "1000", "0.00000001", "1000000000000000000000"}[g.IntN(4)] + ")"
		}
		cases = append(cases, c)
	}
	finite := 0
	for i, want := range reference.Ask[[]any](t, "expression.mjs", map[string]any{"cases": cases}) {
		c := cases[i]
		kind := []any{0.0, false, ""}[i%3]
		got, ok := evaluated(t, c.Text, c.N, c.Word, c.On, kind)
		if want == nil {
			assert.False(t, ok, "%s of n = %v is no number", c.Text, c.N)
			continue
		}
		if !ok { // on the way there was what is no number: an error here, and there what may be lost again in a min or a comparison
			assert.True(t, strings.ContainsAny(c.Text, "/%"), "%s is %v", c.Text, want)
			continue
		}
		finite++
		if number, isNumber := want.(float64); isNumber {
			assert.InDelta(t, number, got, 1e-9, "%s of n = %v", c.Text, c.N)
		} else {
			assert.Equal(t, want, got, "%s of n = %v, word = %s, on = %v", c.Text, c.N, c.Word, c.On)
		}
	}
	assert.Greater(t, finite, 2500)
}

func TestWhatIsNoExpressionSaysWhy(t *testing.T) {
	for text, why := range map[string]string{
		"":                        "something is missing at its end",
		"1 +":                     "something is missing at its end",
		"1 2":                     `"2" is not expected at 3`,
		"(1":                      "a ) is missing at 3",
		"alert(1)":                "there is no alert(…)",
		"round(1, 2)":             "round takes other than 2",
		"min()":                   "min takes other than 0",
		"'open":                   "does not end",
		`'a\n'`:                   "does not end, or holds what none may",
		"1.2.3":                   "is no number",
		"a = 1":                   "is not expected",
		"window.x":                "is not expected",
		strings.Repeat("(", 200):  "nested deeper",
		strings.Repeat("-", 200):  "nested deeper",
		strings.Repeat("1+", 600): "longer than 1000",
	} {
		_, err := behaviour.ParseExpr(text)
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), why, text)
	}
	for text, want := range map[string]any{"'a' + 'b'": "ab", "n == 'x'": false, "word == word": true, "-0 + 0": 0.0} {
		got, ok := evaluated(t, text, 1, "w", true, want)
		assert.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"'a' + 1", "on + 1", "n && true", "!n", "nothere", "1 / 0", "round('a')"} {
		_, ok := evaluated(t, text, 1, "w", true, 0.0)
		assert.False(t, ok, text)
	}
	zero, ok := evaluated(t, "0 * -1", 1, "w", true, 1.0)
	assert.True(t, ok)
	assert.False(t, math.Signbit(zero.(float64)), "a zero below zero is written otherwise")
	_, ok = evaluated(t, "word + word", 1, strings.Repeat("a", 600), true, "")
	assert.False(t, ok, "texts grow without end")
	_, ok = evaluated(t, "n + 1", 1, "w", true, "a text")
	assert.False(t, ok, "a text became a number")
}

func FuzzParseExpr(f *testing.F) {
	for _, s := range []string{"1 + 2", "min(n, 3)", "!(a && b)", "'x' == word", "((((", "-", "In('a')"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if e, err := behaviour.ParseExpr(text); err == nil {
			e.Names()
		}
	})
}
