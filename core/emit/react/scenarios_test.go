package react_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/behaviour/behaviourtest"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

type ran struct {
	File, Name, Says string
	Passed           bool
}

func vitest(t *testing.T, files []emit.File) []ran {
	t.Helper()
	return reference.Ask[[]ran](t, "vitest.mjs", map[string]any{"files": files})
}

// practised is a practice as a scenario: what it asks of attributes and the focus is expected.
func practised(t *testing.T, c *contract.Contract, p behaviourtest.Practice) contract.Scenario {
	t.Helper()
	s := contract.Scenario{Name: "as its practice says"}
	for _, one := range strings.Split(p.Steps, " | ") {
		event, holds, _ := strings.Cut(one, ": ")
		step := contract.ScenarioStep{}
		word, rest, _ := strings.Cut(event, " ")
		switch word {
		case "wait":
			step.After, _ = strconv.ParseFloat(rest, 64)
		case "set":
			name, value, _ := strings.Cut(rest, " ")
			for _, q := range c.Props {
				if q.Name == name {
					name = q.ID
				}
			}
			if value != "true" && value != "false" {
				value = quoted(t, value)
			}
			step.Happens = &contract.Happening{Kind: string(behaviour.Changed), Name: name, Value: json.RawMessage(value)}
		default:
			e := behaviour.ParseEvent(event)
			step.Happens = &contract.Happening{Kind: string(e.Kind), Name: e.Name, Part: e.Part}
		}
		for _, hold := range strings.Split(holds, ", ") {
			switch attribute, value, isSet := strings.Cut(hold, "="); {
			case isSet && strings.HasSuffix(attribute, " hidden"):
				step.Expects = append(step.Expects, contract.Expected{Part: strings.TrimSuffix(attribute, " hidden"), Is: map[string]string{"true": contract.IsHidden, "false": contract.IsShown}[value]})
			case isSet:
				part, name, _ := strings.Cut(attribute, " ")
				step.Expects = append(step.Expects, contract.Expected{Part: part, Is: name, Value: value})
			case strings.HasPrefix(hold, "focus "):
				step.Expects = append(step.Expects, contract.Expected{Part: strings.TrimPrefix(hold, "focus "), Is: contract.IsFocused})
			}
		}
		s.Steps = append(s.Steps, step)
		if missed := behaviour.Replay(c, s, nil); len(missed) > 0 && strings.HasSuffix(missed[0].Says, "is heard by nothing") { // as it should be there
			s.Steps = s.Steps[:len(s.Steps)-1]
		}
	}
	return s
}

// observed is a scenario of random steps of a component, which expects all that is seen of some parts after each.
func observed(t *testing.T, c *contract.Contract, seed uint64) contract.Scenario {
	t.Helper()
	r := rand.New(rand.NewPCG(seed, 31))
	chart := behaviour.Of(c)
	flat, problems := chart.Flatten()
	require.Empty(t, problems)
	s := contract.Scenario{Name: fmt.Sprintf("seed %d", seed)}
	for range 25 {
		step := contract.ScenarioStep{}
		if r.IntN(3) == 0 || len(flat.Events) == 0 {
			step.After = float64(50 * (1 + r.IntN(12)))
		} else {
			e := flat.Events[r.IntN(len(flat.Events))]
			h := contract.Happening{Kind: string(e.Kind), Name: e.Name, Part: e.Part}
			switch e.Kind {
			case behaviour.Changed:
				values := c.Prop(e.Name).Type.Nameable()
				h.Value = json.RawMessage(quoted(t, values[r.IntN(len(values))]))
			case behaviour.Dragged:
				h.Value = json.RawMessage(fmt.Sprintf("%g", float64(r.IntN(11))/10))
			}
			step.Happens = &h
		}
		s.Steps = append(s.Steps, step)
		var seen []contract.Expected
		broken, together := false, false
		missed := behaviour.Replay(c, s, func(i int, x *behaviour.Scene) {
			for _, e := range x.Told {
				broken = broken || e.Error != ""
			}
			together = together || x.Tied
			if i != len(s.Steps)-1 {
				return
			}
			for _, id := range []string{"", "p1", "p2", "root", "button", "panel", "handle", "fill", "tab2", "panel2", "menu", "item2", "dialog", "box", "radio1"} {
				for _, e := range x.Seen(id) {
					if r.IntN(2) == 0 {
						seen = append(seen, e)
					}
				}
			}
		})
		if missed != nil || broken || together { // what is hidden cannot be pressed
			s.Steps = s.Steps[:len(s.Steps)-1]
			continue
		}
		s.Steps[len(s.Steps)-1].Expects = seen
	}
	return s
}

// Scenarios are written as tests that pass: the steps of every practice, and random ones of stock machines and random components, with all that was seen of them; they are laid out,
// typed and linted as people's own.
func TestScenariosAreTests(t *testing.T) {
	var contracts []*contract.Contract
	for i, p := range behaviourtest.Practices {
		if p.Direction != "" {
			continue
		}
		c := stocked(t, fmt.Sprintf("Practice%c", 'A'+i), p.Stock, p.Choices)
		c.KeepScenario(practised(t, c, p))
		assert.Empty(t, behaviour.Replay(c, c.Scenarios[0], nil), "%s", p.Steps)
		c.KeepScenario(observed(t, c, uint64(i)))
		contracts = append(contracts, c)
	}
	practices := len(contracts)
	for seed := uint64(0); len(contracts) < practices+40; seed++ {
		c, found := behavingIn(behavingAt(seed))
		if found != nil {
			continue
		}
		if _, problems := behaviour.Of(c).Flatten(); problems != nil {
			continue
		}
		c.Name = fmt.Sprint("Random", seed)
		c.KeepScenario(observed(t, c, seed))
		c.KeepScenario(observed(t, c, seed+1000))
		contracts = append(contracts, c)
	}
	// A press of the component itself is one beside its parts, which is heard first.
	m, found := behaviour.ParseText("machine beside\nstate a\n  on outside-press of p2: to b\n  on press: to c\nstate b\n  on press: to d\nstate c\n  aria-label of p1 is 'c'\nstate d\n  aria-label of p1 is 'd'\n", nil)
	require.Empty(t, found)
	beside, problems := behavingIn(m)
	require.Empty(t, problems)
	beside.Name = "Beside"
	beside.KeepScenario(contract.Scenario{Name: "pressed", Steps: []contract.ScenarioStep{{Happens: &contract.Happening{Kind: "press"}, Expects: []contract.Expected{{Part: "p1", Is: "aria-label", Value: "d"}}}}})
	assert.Empty(t, behaviour.Replay(beside, beside.Scenarios[0], nil))
	beside.KeepScenario(contract.Scenario{Name: "no longer so", Steps: []contract.ScenarioStep{{Happens: &contract.Happening{Kind: "press"}, Expects: []contract.Expected{{Part: "p1", Is: "aria-label", Value: "c"}}}}})
	contracts = append(contracts, beside)
	// A key that presses a button by itself is let happen as that press.
	m, found = behaviour.ParseText("machine keyed\nstate a\n  on press of p1: to b\n  on key Enter of p1: to b\nstate b\n  aria-label of p1 is 'b'\n", nil)
	require.Empty(t, found)
	keyed, problems := behavingIn(m)
	require.Empty(t, problems)
	keyed.Name = "Keyed"
	keyed.KeepScenario(contract.Scenario{Name: "entered", Steps: []contract.ScenarioStep{{Happens: &contract.Happening{Kind: "key", Name: "Enter", Part: "p1"}, Expects: []contract.Expected{{Part: "p1", Is: "aria-label", Value: "b"}}}}})
	contracts = append(contracts, keyed)
	// Times begin again where a state is left and entered in one go, also by what is raised and by a history.
	m, found = behaviour.ParseText("machine again\nkeeps n, at first 0\nstate s\n  after 400 ms: to over\n  on press of p2: to last\n  aria-label of p1 is 's'\n  state s1\n    on press of p1: to away\n  history last, at first s1\nstate away\n  at once: to s\nstate over\n  aria-label of p1 is 'over'\n", nil)
	require.Empty(t, found)
	again, problems := behavingIn(m)
	require.Empty(t, problems)
	again.Name = "Again"
	for _, part := range []string{"p1", "p2"} {
		label := func(says string) []contract.Expected {
			return []contract.Expected{{Part: "p1", Is: "aria-label", Value: says}}
		}
		again.KeepScenario(contract.Scenario{Name: "by " + part, Steps: []contract.ScenarioStep{{After: 300, Happens: &contract.Happening{Kind: "press", Part: part}}, {After: 200, Expects: label("s")}, {After: 199, Expects: label("s")}, {After: 1, Expects: label("over")}}})
	}
	for _, s := range again.Scenarios {
		assert.Empty(t, behaviour.Replay(again, s, nil), "%s", s.Name)
	}
	contracts = append(contracts, again)
	files := react.Library("scenarios", contracts, output.PropertiesOf(token.Empty()), react.Options{})
	assert.NotContains(t, content(files, "Beside/Beside.test.tsx"), "no longer so", "a test that cannot pass")
	expects := 0
	for _, f := range files {
		expects += strings.Count(f.Content, "expect(")
	}
	for _, r := range vitest(t, files) {
		assert.True(t, r.Passed, "%s %s: %s\n%s", r.File, r.Name, r.Says, content(files, r.File))
	}
	t.Log(expects, "expectations of", len(contracts), "components")
	assert.Greater(t, expects, 3000)
	assertLaidOut(t, files)
	said, types := lint(t, files)
	for _, one := range said {
		assert.NotContains(t, one, ".test.tsx", "%v", one)
	}
	assert.Empty(t, types)
}

func content(files []emit.File, path string) string {
	for _, f := range files {
		if f.Path == path {
			return f.Content
		}
	}
	return ""
}
