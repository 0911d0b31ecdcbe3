package behaviour_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// spoken gives a contract a behaviour in words.
func spoken(t *testing.T, c *contract.Contract, words string) *behaviour.Chart {
	t.Helper()
	m, found := behaviour.ParseText(words, c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	return chart
}

// What states say comes into what is resolved: texts, attributes, what is hidden, shares of what is around.
func TestWhatStatesSayIsResolved(t *testing.T) {
	c := panelsOf()
	c.Rules = nil
	spoken(t, c, `machine m
keeps at, at first 0.25
state low
  on press of title2: to high
  text of title1 is 'Low'
  aria-expanded of title2 is false
  share of note2 is at
  aria-valuenow of note2 is at * 100
state high
  aria-expanded of title2 is true
`)
	at := func(states ...string) *contract.Resolved {
		return contract.Resolve(c, contract.Env{States: states}, token.Empty())
	}
	low, high := at(), at("high")
	assert.Equal(t, "Low", low.Find("title1").Text)
	assert.Equal(t, "title1", high.Find("title1").Text, "where no state says one, it is what the part shows")
	assert.Equal(t, "false", low.Find("title2").Attributes["aria-expanded"])
	assert.Equal(t, "true", high.Find("title2").Attributes["aria-expanded"])
	assert.Equal(t, "25%", low.Find("note2").Values["width"].Value)
	assert.Equal(t, "25", low.Find("note2").Attributes["aria-valuenow"])
	assert.Empty(t, high.Find("note2").Values["width"].Value)
}

// A machine can be held in states of it that nobody led it to; of states that exclude each other the first counts, and nothing is done on entry.
func TestAMachineIsHeldInAState(t *testing.T) {
	c := panelsOf()
	chart := spoken(t, c, `machine m, all at once
keeps n, at first 1
state left
  state l1
    after 50 ms: to l2
  state l2
    on entry: n becomes n + 1
    state deep
    state deeper
state right
  state r1
    on press of title2: to r2
  state r2
    after 10 ms: to r1
`)
	for _, k := range []struct{ asked, active []string }{
		{[]string{"l2"}, []string{"root", "left", "l2", "deep", "right", "r1"}},
		{[]string{"deeper", "r2"}, []string{"root", "left", "l2", "deeper", "right", "r2"}},
		{[]string{"l1", "l2", "hover"}, []string{"root", "left", "l1", "right", "r1"}},
		{[]string{"root", "r2"}, []string{"root", "left", "l1", "right", "r2"}},
		{[]string{"left"}, []string{"root", "left", "l1", "right", "r1"}},
	} {
		cfg := chart.Stand(contract.Env{}, k.asked)
		assert.Equal(t, k.active, cfg.Active, "%v", k.asked)
		assert.Equal(t, 1.0, cfg.Values["n"])
	}
	assert.Equal(t, []behaviour.Timer{{State: "r2", Index: 0, Due: 10}, {State: "l1", Index: 0, Due: 50}}, chart.Stand(contract.Env{}, []string{"r2"}).Timers, "times do not begin")
	active, _ := chart.In(contract.Env{States: []string{"hover", "r2"}})
	assert.Equal(t, []string{"left", "l1", "right", "r2"}, active)
	assert.Equal(t, []string{"left", "l1", "l2", "deep", "deeper", "right", "r1", "r2"}, chart.States())
	assert.Equal(t, []string{"l1", "deep", "deeper", "r1", "r2"}, chart.Shown())
}

// A token that is renamed is renamed where a time is it, too; a time is as long as its duration, and one that is none is told.
func TestTimesAreDurations(t *testing.T) {
	tokens, found := token.Read(token.File{Name: "t.json", Text: []byte(`{"motion":{"run":{"$type":"duration","$value":{"value":1.5,"unit":"s"}},"drain":{"$type":"duration","$value":{"value":90,"unit":"ms"}}},"gap":{"$type":"dimension","$value":{"value":4,"unit":"px"}}}`)})
	require.False(t, found.Failed(), "%v", found)
	c := panelsOf()
	spoken(t, c, "machine m\nstate a\n  after {motion.run}: to b\nstate b\n  after {motion.drain}: to a\n")
	checked := c.Check(tokens)
	require.NoError(t, checked.Err())
	c.Timed(tokens)
	after := func() (out []float64) {
		for _, s := range behaviour.Of(c).Machine.Root.States {
			out = append(out, s.On[0].After)
		}
		return out
	}
	assert.Equal(t, []float64{1500, 90}, after())
	assert.Contains(t, c.Tokens(), "motion.run")
	assert.Equal(t, 2, c.RenameToken("motion", "pace"))
	assert.Equal(t, []string{"pace.run", "pace.drain"}, behaviour.Of(c).Tokens())
	assert.Equal(t, 0, c.RenameToken("gap", "room"))
	spoken(t, c, "machine m\nstate a\n  after {gap}: to b\nstate b\n  after {gone}: to a\n")
	var said problem.List
	for _, p := range c.Check(tokens) {
		if p.Rule == "behaviour-time" {
			said = append(said, p)
		}
	}
	require.Len(t, said, 2)
	assert.Contains(t, said[0].Message, "{gap}")
	assert.Contains(t, said[1].Message, "{gone}")
}

// A stock machine takes the parts that are named for its own, with what they say already, and adds the others, in what holds them; what it tells, and begins with, becomes a prop.
func TestAStockMachineTakesParts(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "More", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "word", Name: "word", Element: "span", Content: contract.FixedText{Text: "More"}, Attributes: map[string]contract.Attribute{"aria-controls": {Part: "button"}}},
		{ID: "button", Name: "button", Element: "p", Content: contract.FixedText{Text: "No button"}},
	}}}
	s := behaviour.StockNamed("disclosure")
	out, found := behaviour.Adopt(c, s.Make(behaviour.Choices{}), s.Parts(behaviour.Choices{}), map[string]string{"button": "word"})
	require.Empty(t, found)
	checked := out.Check(nil)
	require.NoError(t, checked.Err(), "%v", checked)
	assert.Equal(t, "button", out.Part("word").Element)
	assert.Equal(t, contract.Attribute{Part: "button"}, out.Part("word").Attributes["aria-controls"], "what it says itself is gone")
	assert.Equal(t, "p", out.Part("button").Element, "a part that happens to be called so was taken")
	require.Len(t, out.Root.Children, 3)
	assert.Equal(t, "panel", out.Root.Children[2].Name)
	assert.Equal(t, contract.Event{On: contract.Told}, out.Props[0].Type)
	assert.Contains(t, behaviour.Of(out).Words(out), "on press of word: to open, tell onToggle with true")
	assert.Len(t, c.Root.Children, 2, "the contract was changed")

	s = behaviour.StockNamed("timed cycle")
	out, found = behaviour.Adopt(c, s.Make(behaviour.Choices{Names: []string{"dry", "wet"}, Times: []float64{10, 20}}), s.Parts(behaviour.Choices{}), nil)
	require.Empty(t, found)
	assert.Equal(t, contract.Choice{Options: []string{"dry", "wet"}, Initial: "dry"}, out.Prop("begin").Type)
	assert.Equal(t, contract.Flag{}, out.Prop("paused").Type)

	text := &contract.Contract{Format: contract.Format, Name: "Text", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "p", Content: contract.FixedText{Text: "No room"}}}
	s = behaviour.StockNamed("tooltip")
	_, found = behaviour.Adopt(text, s.Make(behaviour.Choices{}), s.Parts(behaviour.Choices{}), nil)
	require.Len(t, found, 1, "parts are added to a text")
	assert.Contains(t, found[0].Fix, "trigger")
}

// A contract's behaviour is explored in all that its props may come to be, on both sides of its switch points, with the roles of its parts and the states that rules ask for.
func TestWhatAContractIsExploredIn(t *testing.T) {
	c := panelsOf()
	c.Root.Style = contract.Style{"width": "100%"}
	c.Part("title2").Attributes = map[string]contract.Attribute{"role": {Text: "tab"}}
	c.Rules = []contract.Rule{
		{Part: "root", When: contract.Of(contract.Container{Range: contract.Range{Below: 400}}), Set: contract.Style{"opacity": "0.5"}},
		{Part: "root", When: contract.Of(contract.InState{State: "b"}, contract.InState{State: "hover"}), Set: contract.Style{"opacity": "0.6"}},
	}
	spoken(t, c, "machine m\nexpects a, then b\nstate a\n  on press of title2 if open == 'second': to b\nstate b\n  after 5 ms: to a\n")
	o := behaviour.OptionsFor(c)
	assert.Equal(t, map[string]string{"title2": "tab"}, o.Roles)
	assert.Equal(t, []string{"b"}, o.Styled)
	assert.Equal(t, []float64{399, 400}, o.Widths)
	assert.Equal(t, []string{"a", "b"}, o.Order)
	assert.ElementsMatch(t, []contract.Value{contract.OptionValue("first one"), contract.OptionValue("second")}, o.Props["open"])
	var rules []string
	for _, f := range behaviour.Of(c).Check(o).Findings {
		rules = append(rules, f.Rule)
	}
	assert.ElementsMatch(t, []string{"keys-missing", "keys-missing", "order-other"}, rules, "it waits for none of a tab's keys, and for a press where time was expected")
}

// An order is held to from the state that it begins with, where a prop can say so.
func TestAnOrderBeginsWhereAPropMaySay(t *testing.T) {
	c := panelsOf()
	spoken(t, c, "machine m\nbegins as open says\nexpects firstOne, then second\nstate second\nstate firstOne\n  after 5 ms: to second\n")
	for _, f := range behaviour.Of(c).Check(behaviour.OptionsFor(c)).Findings {
		assert.NotEqual(t, "order-other", f.Rule, f.Message)
	}
}

// A machine that is too large to be read is refused before anything is made of it.
func TestTooLargeAMachineIsRefused(t *testing.T) {
	c := panelsOf()
	c.Rules = nil
	m := &behaviour.Machine{Name: "large", Root: &behaviour.State{ID: "root"}}
	for i := range 9_000 {
		m.Root.States = append(m.Root.States, &behaviour.State{ID: fmt.Sprint("s", i), On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Press, Part: "title2"}, To: []string{fmt.Sprint("s", (i+1)%9_000)}}}})
	}
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	var said problem.List
	chart.CheckIn(c, &said)
	require.Len(t, said, 1)
	assert.Contains(t, said[0].Message, "too many to be written")
}

// A share begins where text does; what the behaviour keeps says how much it is.
func TestWhereAShareBegins(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Meter", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}
	m, found := behaviour.ParseText("machine Meter\nkeeps level, at first 0.25\nstart of root is level\nrise of root is level * 2\nstate a\n", c)
	require.Empty(t, found)
	chart, problems := behaviour.Compile(m)
	require.Empty(t, problems)
	c.Behaviour = &contract.Behaviour{Machine: chart}
	at := func(env contract.Env) [3]string {
		v := contract.Resolve(c, env, token.Empty()).Values
		return [3]string{v["left"].Value, v["right"].Value, v["height"].Value}
	}
	assert.Equal(t, [3]string{"25%", "", "50%"}, at(contract.Env{}))
	assert.Equal(t, [3]string{"", "25%", "50%"}, at(contract.Env{Direction: "rtl"}))
	assert.Equal(t, [3]string{"40%", "", "80%"}, at(contract.Env{States: []string{"a"}, Kept: map[string]any{"level": 0.4}}))
}
