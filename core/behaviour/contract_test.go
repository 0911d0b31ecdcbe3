package behaviour_test

import (
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
