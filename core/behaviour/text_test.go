package behaviour_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// A machine as people write it is read as it is meant, and written again as it was.
func TestAMachineAsPeopleWriteIt(t *testing.T) {
	c := &contract.Contract{Props: []contract.Prop{{ID: "closable", Name: "canClose", Type: contract.Flag{}}}}
	text := `machine season panels, at first open
keeps rounds, at first 0
keeps word, at first 'a, (b'
on key Escape: to closed
state closed
  at once if rounds > min(3, 4): to done
  on press of header: to open, rounds becomes min(rounds + 1, 9), tell onOpen with rounds
  hidden of panel is true
  aria-label of header is 'shut: ' + word
state open, at first second
  on entry: focus panel, raise opened
  on exit: the focus is elsewhere
  after 300 ms: to first
  after 2500 ms {duration.run} when (canClose and container < 600px) if word != 'x, y': to closed
  on event opened:
  on outside-press of panel: within to second
  on changed open: within
  state first
  state second
  history last, at first first
parallel both
  state left
  state right
final done
`
	m, found := behaviour.ParseText(text, c)
	if len(found) > 0 && strings.Contains(found[0].Message, "expected") { // the words of conditions are the contract's affair
		t.Fatalf("%v", found)
	}
	require.Empty(t, found)
	assert.Equal(t, text, m.Text(c))
	require.Len(t, m.Root.States, 4)
	assert.Equal(t, []behaviour.Value{{Name: "rounds", Initial: 0.0}, {Name: "word", Initial: "a, (b"}}, m.Values)
	open := m.Root.States[1]
	assert.Equal(t, []behaviour.Action{{Focus: "panel"}, {Raise: "opened"}}, open.Entry)
	assert.Equal(t, []behaviour.Action{{Focus: behaviour.Elsewhere}}, open.Exit)
	assert.Equal(t, 2500.0, open.On[1].After)
	assert.Equal(t, "{duration.run}", open.On[1].Token)
	assert.Equal(t, "word != 'x, y'", open.On[1].If)
	assert.Len(t, open.On[1].When.Terms(), 2)
	assert.True(t, open.On[3].Internal)
	assert.Equal(t, []behaviour.Action{{Assign: "rounds", To: "min(rounds + 1, 9)"}, {Tell: "onOpen", With: "rounds"}}, m.Root.States[0].On[1].Do)

	loose, found := behaviour.ParseText("# a lamp\nmachine lamp\n\nstate a # the first\n  on press: to b\nstate b\n", nil)
	require.Empty(t, found)
	assert.Equal(t, "machine lamp\nstate a\n  on press: to b\nstate b\n", loose.Text(nil))
}

// Any machine is written so that it is the same when it is read again: random ones, and all of the stock.
func TestTextsOfMachinesAreReadAsTheyWereWritten(t *testing.T) {
	same := func(m *behaviour.Machine) {
		t.Helper()
		again, found := behaviour.ParseText(m.Text(nil), nil)
		require.Empty(t, found, m.Text(nil))
		require.JSONEq(t, written(t, m), written(t, again), m.Text(nil))
	}
	for seed := range uint64(200) {
		same(machine(seed))
	}
	same(&behaviour.Machine{Name: "m", Values: []behaviour.Value{{Name: "a", Initial: "Ines' plot"}, {Name: "b", Initial: `"so"`}}, Root: &behaviour.State{ID: "root"}})
	for _, s := range behaviour.Stocks {
		same(s.Make(behaviour.Choices{}))
		same(s.Make(behaviour.Choices{Items: 4, Several: true, Open: 2, Vertical: true, Mixed: true, Outside: true}))
	}
}

// What cannot be read is told with its line and a way to write it; the rest is looked at all the same.
func TestWhatIsNoMachineSaysWhere(t *testing.T) {
	for text, want := range map[string]string{
		"":                                                            "line 1: there is no machine",
		"state a":                                                     `line 1: the first line is "state a"`,
		"machine m\nstate a\n   on press: to a":                       "line 3: the line is indented by other than twos",
		"machine m\nstate a\n\ton press: to a":                        "line 3: the line is indented by other than twos",
		"machine m\nstate a\n    on press: to a":                      "line 3: the line is indented further",
		"machine m\nstate a\n  on tap: to a":                          `line 3: there is no event "tap"`,
		"machine m\nstate a\n  on press: go a":                        `line 3: "go a" is not understood`,
		"machine m\nstate a\n  on press to a":                         `line 3: "on press to a" does nothing`,
		"machine m\nstate a\n  after soon: to a":                      `line 3: "after soon" is not understood`,
		"machine m\nstate a\n  after -3 ms: to a":                     `line 3: "after -3 ms" is no time`,
		"machine m\nstate a\n  at last: to a":                         `line 3: "at last" is not understood`,
		"machine m\nstate a\n  what is this":                          `line 3: "what is this" is not understood`,
		"machine m\nstate a b":                                        `line 2: a state is called "a b"`,
		"machine m\nkeeps n":                                          `line 2: "keeps n" keeps nothing`,
		"machine m\nstate a\n  keeps n, at first 0":                   `line 3: "keeps n, at first 0" keeps nothing`,
		"machine m\nstate a\n  on press: to nowhere":                  `line 2: a transition leads to "nowhere", which is not there`,
		"machine m\nfinal f, at first g":                              "line 2: a final state begins with all",
		"machine m\nstate a\n  on press when (nothing is ripe): to a": "line 3:",
		"machine m\nstate a\n  on entry: tell":                        `line 3: nothing is told by "tell"`,
		"machine m\nstate a\n  on entry: to b":                        `line 3: "to b" is not understood`,
	} {
		m, found := behaviour.ParseText(text, nil)
		assert.Nil(t, m, text)
		if assert.NotEmpty(t, found, text) {
			assert.Contains(t, found[0].Error(), want, text)
			assert.NotEmpty(t, found[0].Fix, text)
		}
	}
	_, found := behaviour.ParseText("machine m\nstate a\n  on tap: to a\nstate b\n  on tip: to a\n", nil)
	assert.Len(t, found, 2)
	_, found = behaviour.ParseText("machine m"+strings.Repeat("\nstate a", 1<<19), nil)
	assert.Contains(t, found[0].Message, "bytes")
}

func FuzzParseText(f *testing.F) {
	f.Add(behaviour.StockNamed("slider").Make(behaviour.Choices{}).Text(nil))
	f.Add("machine m\nkeeps n, at first 'a'\nstate a, at first b\n  on key x of y when (rtl) if n == 'a': within to b, n becomes 'b', focus q\n  state b\n")
	f.Fuzz(func(t *testing.T, text string) {
		m, found := behaviour.ParseText(text, nil)
		if (m == nil) == (len(found) == 0) {
			t.Fatal("neither a machine nor a problem")
		}
		if m == nil {
			return
		}
		again, found := behaviour.ParseText(m.Text(nil), nil)
		if len(found) > 0 {
			t.Fatalf("what was written is not read: %v\n%s", found, m.Text(nil))
		}
		if again.Text(nil) != m.Text(nil) {
			t.Fatalf("it is written otherwise:\n%s\n%s", m.Text(nil), again.Text(nil))
		}
	})
}

// The time line says how long each state lasted, what was told when, and how it ends, of each instance by itself.
func TestTheTimeLine(t *testing.T) {
	m, found := behaviour.ParseText(`machine lamp
state still
  on press of lamp: to running, tell onStart
state running
  after 2000 ms: to draining
  on press of lamp: to still
state draining
  after 500 ms: to still, tell onStop
`, nil)
	require.Empty(t, found)
	c, wrong := behaviour.Compile(m)
	require.Empty(t, wrong)
	press := behaviour.ParseEvent("press.lamp")
	got := c.Timeline(contract.Env{}, []behaviour.Happening{{At: 4000, Event: press}, {At: 1000, Event: press}, {At: 4100, Event: press}, {At: 9000, Event: press}}, 5000)
	assert.Equal(t, []behaviour.Brick{{"root", 0, 0, 5000}, {"still", 1, 0, 1000}, {"running", 1, 1000, 3000}, {"draining", 1, 3000, 3500}, {"still", 1, 3500, 4000}, {"running", 1, 4000, 4100}, {"still", 1, 4100, 5000}}, got.Bricks)
	assert.Equal(t, []behaviour.ToldAt{{1000, behaviour.Effect{Tell: "onStart"}}, {3500, behaviour.Effect{Tell: "onStop"}}, {4000, behaviour.Effect{Tell: "onStart"}}}, got.Told)
	assert.Equal(t, []string{"root", "still"}, got.Ends.Active)
	assert.Equal(t, 5000.0, got.Ends.Now)

	due := c.Timeline(contract.Env{}, []behaviour.Happening{{At: 0, Event: press}, {At: 2000, Event: press}}, 2600)
	assert.Equal(t, []behaviour.Brick{{"root", 0, 0, 2600}, {"running", 1, 0, 2000}, {"draining", 1, 2000, 2500}, {"still", 1, 2500, 2600}}, due.Bricks, "a timer that is due comes before what happens then")
	endless, found := behaviour.ParseText("machine m\nstate a\n  after 1 ms: to b\nstate b\n  after 1 ms: to a\n", nil)
	require.Empty(t, found)
	c, _ = behaviour.Compile(endless)
	counts, found := behaviour.ParseText("machine m\nkeeps n, at first 1\nstate a\n  on press: n becomes n + 1\n  on key x: to a\n", nil)
	require.Empty(t, found)
	counter, _ := behaviour.Compile(counts)
	assert.Equal(t, []behaviour.Kept{{At: 0, Values: map[string]any{"n": 1.0}}, {At: 20, Values: map[string]any{"n": 2.0}}},
		counter.Timeline(contract.Env{}, []behaviour.Happening{{At: 10, Event: behaviour.ParseEvent("key.x")}, {At: 20, Event: press}}, 30).Values)
	assert.LessOrEqual(t, len(c.Timeline(contract.Env{}, nil, 1e9).Bricks), 10_002, "a time line has an end")
}
