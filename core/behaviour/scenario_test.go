package behaviour_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// watered has a lamp that runs for a time and then waits for nothing, a note, and a menu whose button gets the focus back.
func watered(t testing.TB) *contract.Contract {
	t.Helper()
	part := func(id, element string, content contract.Content, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id + "Part", Element: element, Content: content, Children: children}
	}
	item := part("item", "li", contract.TextOf{Prop: "beds.name"})
	item.Repeat = "beds"
	c := &contract.Contract{Format: contract.Format, Name: "Watered", Props: []contract.Prop{
		{ID: "held", Name: "paused", Type: contract.Flag{}}, {ID: "onStart", Name: "onStart", Type: contract.Event{On: contract.Told}},
		{ID: "beds", Name: "beds", Type: contract.List{Items: []contract.Prop{{ID: "name", Name: "name", Type: contract.Text{}, Required: true}}}, Example: contract.ListValue{{"name": contract.TextValue("Leeks")}}},
	}, Root: part("root", "div", nil, part("lamp", "button", contract.FixedText{Text: "Pump"}), part("note", "p", contract.FixedText{Text: "Still"}), part("menu", "button", contract.FixedText{Text: "Menu"}), part("panel", "div", nil, part("first", "button", contract.FixedText{Text: "First"})), part("list", "ul", nil, item))}
	m, found := behaviour.ParseText(`machine Watered, all at once
state pump
  state still
    on press of lampPart: to running, tell onStart with 2
    hidden of notePart is true
  state running
    after 3000 ms: to still
    on changed paused when (paused): to still
    text of notePart is 'Running'
    aria-pressed of lampPart is true
state menus
  state shut
    on press of menuPart: to open, focus firstPart
    hidden of panelPart is true
  state open
    on focus-out of panelPart: to shut
    on key Escape of firstPart: to shut, focus menuPart
`, c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	checked := c.Check(nil)
	require.NoError(t, checked.Err())
	return c
}

func pressed(part string) *contract.Happening { return &contract.Happening{Kind: "press", Part: part} }

// What a scenario expects is held against what the component would show: each kind of it, met and not met.
func TestScenariosAreReplayed(t *testing.T) {
	c := watered(t)
	steps := func(steps ...contract.ScenarioStep) contract.Scenario {
		return contract.Scenario{Name: "one", Steps: steps}
	}
	run := contract.ScenarioStep{Happens: pressed("lamp")}
	for _, k := range []struct {
		says   string // what is missed; empty for nothing
		s      contract.Scenario
		expect contract.Expected
	}{
		{"", steps(contract.ScenarioStep{}), contract.Expected{Part: "note", Is: "hidden"}},
		{"notePart is not shown", steps(contract.ScenarioStep{}), contract.Expected{Part: "note", Is: "shown"}},
		{"", steps(run), contract.Expected{Part: "note", Is: "shown"}},
		{"notePart is not hidden", steps(run), contract.Expected{Part: "note", Is: "hidden"}},
		{"", steps(run), contract.Expected{Part: "note", Is: "text", Value: "Running"}},
		{"text of notePart is 'Running', not 'Still'", steps(run), contract.Expected{Part: "note", Is: "text", Value: "Still"}},
		{"", steps(run), contract.Expected{Part: "lamp", Is: "aria-pressed", Value: "true"}},
		{"lampPart has no aria-pressed", steps(contract.ScenarioStep{}), contract.Expected{Part: "lamp", Is: "aria-pressed", Value: "true"}},
		{"", steps(run), contract.Expected{Is: "told", Value: "onStart"}},
		{"", steps(run), contract.Expected{Is: "told", Value: "onStart 2"}},
		{"onStart 3 is not told", steps(run), contract.Expected{Is: "told", Value: "onStart 3"}},
		{"onStart is not told", steps(run, contract.ScenarioStep{After: 3000}), contract.Expected{Is: "told", Value: "onStart"}},
		{"", steps(run, contract.ScenarioStep{After: 2999}), contract.Expected{Part: "note", Is: "shown"}},
		{"notePart is not shown", steps(run, contract.ScenarioStep{After: 3000}), contract.Expected{Part: "note", Is: "shown"}},
		{"notePart is not shown", steps(run, contract.ScenarioStep{Happens: &contract.Happening{Kind: "changed", Name: "held", Value: json.RawMessage("true")}}), contract.Expected{Part: "note", Is: "shown"}},
		{"", steps(contract.ScenarioStep{Happens: pressed("menu")}), contract.Expected{Part: "first", Is: "focused"}},
		{"menuPart has not the focus", steps(contract.ScenarioStep{Happens: pressed("menu")}), contract.Expected{Part: "menu", Is: "focused"}},
		{"", steps(contract.ScenarioStep{Happens: pressed("menu")}, contract.ScenarioStep{Happens: &contract.Happening{Kind: "key", Name: "Escape", Part: "first"}}), contract.Expected{Part: "menu", Is: "focused"}},
		{"", steps(contract.ScenarioStep{Happens: pressed("menu")}), contract.Expected{Part: "first", Is: "shown"}},
		{"", steps(contract.ScenarioStep{}), contract.Expected{Part: "first", Is: "hidden"}}, // by what is around it
		{"there is no part \"tap\"", steps(contract.ScenarioStep{}), contract.Expected{Part: "tap", Is: "shown"}},
		{"itemPart is there once for each item", steps(contract.ScenarioStep{}), contract.Expected{Part: "item", Is: "shown"}},
		{"there is no part \"tap\"", steps(contract.ScenarioStep{Happens: pressed("tap")}), contract.Expected{}},
		{"press of notePart is heard by nothing", steps(contract.ScenarioStep{Happens: pressed("note")}), contract.Expected{}},
		{"key Escape of firstPart cannot happen: it is hidden", steps(contract.ScenarioStep{Happens: &contract.Happening{Kind: "key", Name: "Escape", Part: "first"}}), contract.Expected{}},
		{"paused does not take 3", steps(contract.ScenarioStep{Happens: &contract.Happening{Kind: "changed", Name: "held", Value: json.RawMessage("3")}}), contract.Expected{}},
		{"there is no prop \"tap\"", steps(contract.ScenarioStep{Happens: &contract.Happening{Kind: "changed", Name: "tap"}}), contract.Expected{}},
		{"something is dragged to \"2\", which is not from 0 to 1", steps(contract.ScenarioStep{Happens: &contract.Happening{Kind: "dragged", Part: "lamp", Value: json.RawMessage("2")}}), contract.Expected{}},
		{"event reload is heard by nothing", steps(contract.ScenarioStep{Happens: &contract.Happening{Kind: "own", Name: "reload"}}), contract.Expected{}},
	} {
		last := &k.s.Steps[len(k.s.Steps)-1]
		if k.expect.Is != "" {
			last.Expects = []contract.Expected{k.expect}
		}
		var says string
		for _, m := range behaviour.Replay(c, k.s, nil) {
			says += m.Says
		}
		after, happens, _ := behaviour.StepWords(c, *last)
		assert.Equal(t, k.says, says, "%s %s: %v", after, happens, k.expect)
	}
	c.Behaviour = nil
	assert.Equal(t, []behaviour.Missed{{Expect: -1, Says: "Watered has no behaviour"}}, behaviour.Replay(c, steps(run), nil), "a scenario of what no longer does anything is level")
}

// A scenario of days, of a machine that never rests, is over soon.
func TestLongScenariosEnd(t *testing.T) {
	c := watered(t)
	m, found := behaviour.ParseText("machine Watered\nstate a\n  after 1 ms: to b\nstate b\n  after 1 ms: to a\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	s := contract.Scenario{Name: "days"}
	for range 500 {
		s.Steps = append(s.Steps, contract.ScenarioStep{After: 86_400_000})
	}
	steps := 0
	behaviour.Replay(c, s, func(_ int, x *behaviour.Scene) { steps += len(x.Waits) })
	assert.Less(t, steps, 11_000)
}

// A focus that the machine moves is lost where it was, as in a browser, and what hears that is part of the step.
func TestAFocusThatMovesIsHeard(t *testing.T) {
	c := watered(t)
	s := contract.Scenario{Name: "one", Steps: []contract.ScenarioStep{{Happens: pressed("menu")}, {Happens: &contract.Happening{Kind: "key", Name: "Escape", Part: "first"}}, {Happens: pressed("menu")}}}
	var active []string
	behaviour.Replay(c, s, func(_ int, x *behaviour.Scene) { active = append(active, x.Config.Active[len(x.Config.Active)-1]) })
	assert.Equal(t, []string{"shut", "open", "shut", "open"}, active)
}

// What was recorded is replayed as it was, time without meaning left out, durations by their names; and laid on a time line it is recorded as the same again.
func TestScenariosAreRecorded(t *testing.T) {
	c := watered(t)
	press := func(at float64, part string) behaviour.Moment {
		return behaviour.Moment{Happening: behaviour.Happening{At: at, Event: behaviour.Event{Kind: behaviour.Press, Part: part}}}
	}
	sees := func(at float64, part, is string) behaviour.Moment {
		return behaviour.Moment{Happening: behaviour.Happening{At: at}, Expect: &contract.Expected{Part: part, Is: is}}
	}
	held := contract.Values{"held": contract.FlagValue(true)}
	s, err := behaviour.Record(c, "waters", held, []behaviour.Moment{press(7000, "menu"), press(1200, "lamp"), sees(1500, "note", "shown"), sees(6000, "note", "hidden"), sees(100, "note", "hidden")}, nil)
	require.NoError(t, err)
	want := []string{"  [notePart is hidden]", " press of lampPart []", "after 300 ms  [notePart is shown]", "after 2700 ms  [notePart is hidden]", " press of menuPart []"}
	var got []string
	for _, step := range s.Steps {
		after, happens, expects := behaviour.StepWords(c, step)
		got = append(got, fmt.Sprint(after, " ", happens, " ", expects))
	}
	assert.Equal(t, want, got)
	given, err := json.Marshal(s.Given)
	require.NoError(t, err)
	assert.JSONEq(t, `{"held": true, "beds": null}`, string(given), "it is given what it was")
	assert.Empty(t, behaviour.Replay(c, s, nil))

	laid, ends := behaviour.Laid(c, s)
	assert.Equal(t, 3000.0+3*500, ends, "steps between which nothing is due lie apart")
	again, err := behaviour.Record(c, "waters", held, laid, nil)
	require.NoError(t, err)
	assert.Equal(t, s, again)

	// Of one that no longer can be, nothing is lost on the time line.
	broken := contract.Scenario{Name: "broken", Steps: []contract.ScenarioStep{{Happens: pressed("tap")}, {After: 200, Happens: pressed("lamp"), Expects: []contract.Expected{{Part: "note", Is: "shown"}}}}}
	laid, ends = behaviour.Laid(c, broken)
	assert.Len(t, laid, 3)
	assert.Equal(t, 700.0, ends)

	// A single duration is kept by its name, and only where it was waited for whole.
	chart := behaviour.Of(c)
	m, found := behaviour.ParseText(strings.Replace(chart.Words(c), "after 3000 ms", "after {motion.run}", 1), c)
	require.Empty(t, found)
	other, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: other.WithTokens(func(path string) (string, float64) { return path, 3000 })}
	s, err = behaviour.Record(c, "waters", nil, []behaviour.Moment{press(0, "lamp"), sees(4000, "note", "hidden"), press(5000, "lamp"), sees(6000, "note", "shown"), sees(9000, "note", "hidden")}, nil)
	require.NoError(t, err)
	var tokens []string
	for _, step := range s.Steps {
		tokens = append(tokens, step.Token)
	}
	assert.Equal(t, []string{"", "{motion.run}", "", "", ""}, tokens)

	_, err = behaviour.Record(c, "cannot", nil, []behaviour.Moment{press(500, "first")}, nil)
	assert.ErrorContains(t, err, "after 500 ms, press of firstPart is heard by nothing")
}

// All that can be expected of a part is what is so.
func TestWhatIsSeenIsExpected(t *testing.T) {
	c := watered(t)
	s := contract.Scenario{Name: "one", Steps: []contract.ScenarioStep{{Happens: pressed("lamp")}, {Happens: pressed("menu")}, {After: 3000}}}
	behaviour.Replay(c, s, func(i int, x *behaviour.Scene) {
		if i == 0 {
			assert.Equal(t, []contract.Expected{{Part: "note", Is: "shown"}, {Part: "note", Is: "text", Value: "Running"}}, x.Seen("note"))
			assert.Equal(t, []contract.Expected{{Part: "lamp", Is: "shown"}, {Part: "lamp", Is: "text", Value: "Pump"}, {Part: "lamp", Is: "aria-pressed", Value: "true"}}, x.Seen("lamp"))
			assert.Equal(t, []contract.Expected{{Is: "told", Value: "onStart 2"}}, x.Seen(""))
		}
		assert.Empty(t, x.Seen("item"), "an item is one of several")
		assert.Empty(t, x.Seen("tap"))
		if i >= 0 {
			s.Steps[i].Expects = append(x.Seen("note"), append(x.Seen("first"), x.Seen("")...)...)
		}
	})
	assert.Empty(t, behaviour.Replay(c, s, nil))
}
