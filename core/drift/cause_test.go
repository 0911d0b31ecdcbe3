package drift_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/drift"
)

func moved(component, property, from, to string) drift.Moved {
	return drift.Moved{Component: component, Of: component, Lane: drift.Design, Key: component + property + from + to, Side: "design", Kind: drift.Value, Property: property, From: from, To: to,
		Said: property + ": " + from + " → " + to, Bump: contract.Patch, Open: true, Takable: true}
}

// Who looks for why forty facts moved finds one token, whatever stood around it.
func TestATokenThatStandsForAnotherIsOneCause(t *testing.T) {
	causes := drift.Causes([]drift.Moved{
		moved("tag", "color", "{leaf}", "{moss}"),
		moved("tag", "gap", "8px", "12px"),
		moved("card", "border-top", "1px solid {leaf}", "1px solid {moss}"),
		moved("row", "box-shadow", "0 0 {space.1} {leaf}, 0 0 4px {leaf}", "0 0 {space.1} {moss}, 0 0 4px {moss}"),
	})
	require.Len(t, causes, 2)
	assert.Equal(t, "{moss} stands where {leaf} stood", causes[0].Said)
	assert.Equal(t, [2]string{"{leaf}", "{moss}"}, [2]string{causes[0].From, causes[0].To})
	assert.Len(t, causes[0].Moves, 3)
	assert.Equal(t, 3, causes[0].Components)
	assert.Equal(t, "tag: gap: 8px → 12px", causes[1].Said, "one move tells itself")
}

func TestWhatIsNoCommonCause(t *testing.T) {
	code := moved("card", "color", "{leaf}", "{moss}")
	code.Lane, code.Side = drift.Code, "code"
	several := moved("card", "gap", "8px", "12px")
	several.Side = "several"
	more := several
	more.Component, more.Key = "row", "another"
	for name, pair := range map[string][2]drift.Moved{
		"what is decided in another lane":            {moved("tag", "color", "{leaf}", "{moss}"), code},
		"another token":                              {moved("tag", "color", "{leaf}", "{moss}"), moved("card", "color", "{leaf}", "{soil}")},
		"two tokens at once":                         {moved("tag", "padding", "{a} {b}", "{c} {d}"), moved("card", "padding", "{a} {b}", "{c} {e}")},
		"a raw value of another property":            {moved("tag", "gap", "8px", "12px"), moved("card", "padding", "8px", "12px")},
		"a token where something else moved with it": {moved("tag", "border-top", "1px solid {leaf}", "2px solid {moss}"), moved("card", "color", "{leaf}", "{moss}")},
		"what both moved":                            {several, more},
	} {
		assert.Len(t, drift.Causes(pair[:]), 2, name)
	}
}

func TestRenamesAndOptionsHaveCauses(t *testing.T) {
	rename := func(component string) drift.Moved {
		m := moved(component, "tone", "ripe", "ready")
		m.Kind = "option renamed"
		return m
	}
	added := func(component, option string) drift.Moved {
		m := moved(component, "tone", "", option)
		m.Kind, m.Bump = "option added", contract.Minor
		return m
	}
	decided := added("card", "resting")
	decided.Open = false
	causes := drift.Causes([]drift.Moved{added("tag", "fallow"), decided, added("row", "resting"), rename("tag"), rename("card")})
	require.Len(t, causes, 3)
	assert.Equal(t, "option added: resting", causes[0].Said)
	assert.Equal(t, 1, causes[0].Open)
	assert.Equal(t, contract.Minor, causes[0].Bump)
	assert.Equal(t, "ripe is called ready now", causes[1].Said)
}

// Of whatever moved, each move is in exactly one cause, and what one says of its moves is true of each.
func TestEveryMoveHasOneCause(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	values := []string{"", "8px", "12px", "{a}", "{b}", "1px solid {a}", "1px solid {b}", "{a} {a}", "{b} {b}"}
	for range 300 {
		var moves []drift.Moved
		for i := range r.IntN(40) {
			m := moved(fmt.Sprint("c", r.IntN(5)), []string{"gap", "color"}[r.IntN(2)], values[r.IntN(len(values))], values[r.IntN(len(values))])
			m.Key = fmt.Sprint(i)
			m.Kind = []string{drift.Value, "prop added", "part renamed"}[r.IntN(3)]
			m.Open = r.IntN(2) == 0
			moves = append(moves, m)
		}
		seen := map[string]int{}
		last := 1 << 30
		waits := true
		for _, c := range drift.Causes(moves) {
			open := 0
			for _, m := range c.Moves {
				seen[m.Key]++
				if m.Open {
					open++
				}
				if len(c.Moves) > 1 && c.From != "" {
					assert.Contains(t, m.From, c.From)
					assert.Contains(t, m.To, c.To)
				}
			}
			assert.Equal(t, open, c.Open)
			if waits && open == 0 {
				waits, last = false, 1<<30
			}
			assert.Equal(t, waits, open > 0, "what waits comes first")
			assert.LessOrEqual(t, len(c.Moves), last, "what explains most comes first")
			last = len(c.Moves)
		}
		for _, m := range moves {
			assert.Equal(t, 1, seen[m.Key])
		}
	}
}

func TestWhoWins(t *testing.T) {
	space := func(lane drift.Lane, side string) drift.Moved {
		m := moved("tag", "gap", "8px", "12px")
		m.Lane, m.Side, m.Facet = lane, side, "space"
		return m
	}
	held := space(drift.Code, "code")
	held.Takable = false
	decided := space(drift.Design, "design")
	decided.Open = false
	paint := space(drift.Design, "design")
	paint.Facet = "paint"
	for _, c := range []struct {
		wins string
		of   drift.Moved
		way  drift.Way
	}{
		{"design", space(drift.Design, "design"), drift.Take},
		{"contract", space(drift.Design, "design"), drift.Keep},
		{"code", space(drift.Design, "design"), drift.Keep},
		{"code", space(drift.Code, "code"), drift.Take},
		{"contract", space(drift.Code, "code"), drift.Back},
		{"design", space(drift.Code, "code"), drift.Back},
		{"code", held, ""}, // no contract can hold it: people decide
		{"design", held, drift.Back},
		{"design", space(drift.Design, "several"), ""},
		{"design", space(drift.Design, "contract"), ""},
		{"code", space(drift.Code, "several"), ""},
		{"design", decided, ""},
		{"design", paint, ""},
	} {
		due := drift.Reach([]drift.Precedence{{Facet: "space", Wins: c.wins}}, []drift.Moved{c.of})
		if c.way == "" {
			assert.Empty(t, due, "%s wins: %+v", c.wins, c.of)
		} else if assert.Len(t, due, 1, "%s wins: %+v", c.wins, c.of) {
			assert.Equal(t, c.way, due[0].Way)
		}
	}
	two := []drift.Precedence{{Facet: "space", Wins: "contract"}, {Facet: "space", Wins: "design"}}
	assert.Equal(t, drift.Keep, drift.Reach(two, []drift.Moved{space(drift.Design, "design")})[0].Way, "the first counts")
}
