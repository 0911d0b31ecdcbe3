package behaviour_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// told writes findings as rule, state and the way there.
func told(r behaviour.Report) (out []string) {
	for _, f := range r.Findings {
		line := strings.TrimSpace(f.Rule + " " + f.State)
		if len(f.Path) > 0 {
			line += ": " + strings.Join(f.Path, ", ")
		}
		out = append(out, line)
	}
	return out
}

// looks says that states look otherwise, so that they are not told to be alike.
var looks = behaviour.Options{Styled: []string{"a", "b", "c", "d", "still", "running", "draining"}}

// Each rule has a machine that breaks it, found by the shortest way, beside one that does not.
func TestEachRuleIsFoundByTheShortestWay(t *testing.T) {
	for name, c := range map[string]struct {
		body string
		want []string
	}{
		"an event that is heard and does nothing": {`<state id="a"><transition event="press" target="b"/><transition event="key.x"/></state><state id="b"><transition event="press" target="a"/><transition event="key.x"/></state>`, []string{"event-dead a"}},
		"one that does something elsewhere":       {`<state id="a"><transition event="press" target="b"/><transition event="key.x"/></state><state id="b"><transition event="press" target="a"/><transition event="key.x" target="a"/></state>`, nil},
		"two that do the same":                    {`<state id="a"><transition event="press.door" target="b"/><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, nil},
		"two times that are one":                  {`<state id="a"><onentry><send id="1" event="t" delay="1s"/><send id="2" event="u" delay="1s"/></onentry><transition event="t" target="b"/><transition event="u" target="c"/></state><state id="b"><transition event="press" target="a"/></state><state id="c"><transition event="press" target="a"/></state>`, []string{"state-unreachable c", "timer-never a", "transitions-both a"}},
		"what is done is for the machine to say":  {`<state id="a"><transition event="done.state.a" target="c"/><state id="b"><transition event="key.x" target="d"/></state><state id="d"><transition event="key.x" target="b"/></state><final id="f"/></state><state id="c"><transition event="press" target="a"/></state>`, []string{"state-unreachable f", "state-unreachable c", "event-dead a"}},
		"what is raised, too":                     {`<state id="a"><transition event="x" target="c"/><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/></state><state id="c"><transition event="press" target="a"><raise event="x"/></transition></state>`, []string{"state-unreachable c", "event-dead a"}},
		"nothing wrong":                           {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, nil},
		"a state nothing leads to":                {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/></state><state id="c"><transition event="press" target="a"/><state id="d"/></state>`, []string{"state-unreachable c"}},
		"what is gone through is not":             {`<state id="a"><transition event="press" target="c"/></state><state id="c"><transition target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, nil},
		"a state without a way out":               {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="key.Enter" target="c"/></state><state id="c"><transition event="press"/></state>`, []string{"state-stuck c: press, key.Enter"}},
		"a final one needs none":                  {`<state id="a"><transition event="press" target="f"/></state><final id="f"/>`, nil},
		"a way out of what is around it":          {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/><state id="c"><transition event="key.x" target="d"/></state><state id="d"/></state>`, nil},
		"an event that does nothing":              {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/><transition event="press" target="b"/><transition event="key.x" cond="false" target="a"/></state>`, []string{"guard-never b: press, key.x", "transitions-both b: press"}},
		"one that another state takes away": {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition event="press" target="a"/><transition event="key.x" target="a"/></state><state id="c"><transition event="key.y" target="a"/></state>`,
			[]string{"state-unreachable c"}},
		"a press that another takes":           {`<state id="a"><transition event="press.x" target="b"/><transition event="press.x" target="c"/></state><state id="b"><transition event="press.x" target="a"/></state><state id="c"><transition event="key.z" target="a"/></state>`, []string{"state-unreachable c", "transitions-both a"}},
		"two at once":                          {`<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="press" cond="n &lt; 2" target="a"><assign location="n" expr="n + 1"/></transition><transition event="press" cond="n &gt; 0" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, []string{"transitions-both a: press"}},
		"a press anywhere and one at a part":   {`<state id="a"><transition event="press.door" target="b"/><transition event="press" target="c"/></state><state id="b"><transition event="press" target="a"/></state><state id="c"><transition event="press" target="a"/></state>`, []string{"transitions-both a"}},
		"a time that never comes":              {`<state id="a"><onentry><send id="s" event="t" delay="200ms"/><send id="u" event="u" delay="100ms"/></onentry><transition event="t" target="c"/><transition event="u" target="b"/></state><state id="b"><transition event="press" target="a"/><transition event="key.x" target="c"/></state><state id="c"><transition event="press" target="a"/></state>`, []string{"timer-never a"}},
		"one that comes":                       {`<state id="a"><onentry><send id="s" event="t" delay="200ms"/></onentry><transition event="t" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, nil},
		"steps without end":                    {`<state id="a"><transition event="press" target="b"/></state><state id="b"><transition target="c"/></state><state id="c"><transition target="b"/></state>`, []string{"state-stuck b: press", "endless: press"}},
		"a condition that never holds":         {`<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="press" cond="n &gt; 3" target="b"/><transition event="key.x" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, []string{"guard-never a: press"}},
		"one that always does":                 {`<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="press" cond="n &lt; 3" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, []string{"guard-always a: press"}},
		"one that holds now and then":          {`<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="press" cond="n &lt; 2" target="b"><assign location="n" expr="n + 1"/></transition><transition event="key.x"><assign location="n" expr="0"/></transition></state><state id="b"><transition event="press" target="a"/></state>`, nil},
		"a condition of what is not there":     {`<state id="a"><transition event="press" cond="lid" target="b"/><transition event="key.x" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`, []string{"guard-never a: press", "expression: press"}},
		"the focus in what is hidden":          {`<state id="a"><onentry><c:set part="menu" name="hidden" value="true"/></onentry><transition event="press" target="b"/></state><state id="b"><onentry><c:focus part="menu"/></onentry><transition event="key.Escape" target="a"/></state>`, []string{"focus-lost a: press, key.Escape"}},
		"the focus given back":                 {`<state id="a"><onentry><c:set part="menu" name="hidden" value="true"/></onentry><transition event="press" target="b"/></state><state id="b"><onentry><c:focus part="menu"/></onentry><onexit><c:focus part="button"/></onexit><transition event="key.Escape" target="a"/></state>`, nil},
		"the focus in what is shown":           {`<state id="a"><transition event="press" target="b"/></state><state id="b"><onentry><c:set part="menu" name="hidden" value="false"/><c:focus part="menu"/></onentry><transition event="key.Escape" target="a"/></state>`, nil},
		"states that nobody can tell apart":    {`<state id="x"><transition event="press" target="y"/></state><state id="y"><transition event="press" target="x"/></state>`, []string{"states-alike y"}},
		"told apart by what they say of parts": {`<state id="x"><onentry><c:set part="p" name="aria-expanded" value="false"/></onentry><transition event="press" target="y"/></state><state id="y"><onentry><c:set part="p" name="aria-expanded" value="true"/></onentry><transition event="press" target="x"/></state>`, nil},
	} {
		t.Run(name, func(t *testing.T) {
			r := scxml(t, `xmlns:c="urn:cobrik:behaviour"`, c.body).Check(looks)
			assert.True(t, r.Whole)
			assert.Equal(t, c.want, told(r), "%+v", r.Findings)
		})
	}
}

const lamp = `<state id="still"><onentry><send id="1" event="t" delay="1s"/></onentry><transition event="t" target="running"/></state>` +
	`<state id="running"><onentry><send id="2" event="t" delay="2s"/></onentry><transition event="t" target="draining"/></state>` +
	`<state id="draining"><onentry><send id="3" event="t" delay="500ms"/></onentry><transition event="t" target="still"/></state>`

// When this fails, a lamp that goes from stop to slow passes as one that goes from stop to go.
func TestAnOrderIsHeldAgainstWhatIsExpected(t *testing.T) {
	c := scxml(t, "", lamp)
	check := func(order ...string) []behaviour.Finding {
		o := looks
		o.Order = order
		return c.Check(o).Findings
	}
	assert.Empty(t, check("still", "running", "draining", "still", "running"))
	other := check("still", "draining", "running", "still")
	require.Len(t, other, 1)
	assert.Equal(t, behaviour.Finding{Rule: "order-other", State: "running", Message: "after still comes running; draining was expected", Path: []string{"wait 1000 ms"}}, other[0])
	assert.Equal(t, "it begins with still; running was expected", check("running")[0].Message)
	stops := scxml(t, "", `<state id="still"><onentry><send id="1" event="t" delay="1s"/></onentry><transition event="t" target="running"/></state><state id="running"><transition event="press" target="still"/></state>`)
	o := looks
	o.Order = []string{"still", "running", "still"}
	assert.Equal(t, []string{"order-other running: wait 1000 ms"}, told(stops.Check(o)))
}

// Props and widths that conditions ask for come to have all their values.
func TestPropsAndWidthsAreExplored(t *testing.T) {
	m := &behaviour.Machine{Name: "m", Root: &behaviour.State{ID: "root", States: []*behaviour.State{
		{ID: "a", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Changed, Name: "open"}, If: "open", To: []string{"b"}}}},
		{ID: "b", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Crossed}, When: contract.BelowWidth(600), To: []string{"c"}}, {Event: behaviour.Event{Kind: behaviour.Press}, To: []string{"a"}}}},
		{ID: "c", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Press}, To: []string{"a"}}}},
	}}}
	c, found := behaviour.Compile(m)
	require.Empty(t, found)
	o := looks
	o.Env = contract.EnvOf(contract.Values{"open": contract.FlagValue(false)})
	assert.Contains(t, told(c.Check(o)), "state-unreachable b", "without values nothing changes")
	o.Props = map[string][]contract.Value{"open": {contract.FlagValue(false), contract.FlagValue(true)}}
	assert.Contains(t, told(c.Check(o)), "state-unreachable c")
	o.Widths = []float64{599, 600}
	assert.Empty(t, told(c.Check(o)))
}

// The bound is told: who is not done says so, and claims nothing of what was not seen.
func TestTheBoundIsTold(t *testing.T) {
	c := scxml(t, "", `<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="press"><assign location="n" expr="n + 1"/></transition><transition event="key.x" cond="n == 5000" target="b"/></state><state id="b"><transition event="press" target="a"/></state>`)
	o := looks
	o.Most = 100
	r := c.Check(o)
	assert.False(t, r.Whole)
	assert.Equal(t, 100, r.Explored)
	for _, f := range r.Findings {
		assert.NotContains(t, []string{"state-unreachable", "state-stuck", "guard-always", "guard-never", "event-dead", "timer-never"}, f.Rule)
	}
}

// Times: what is due first fires first, at its time, and what was left is not heard of again.
func TestTimersFireInTheirOrder(t *testing.T) {
	c := scxml(t, "", `<parallel id="p">`+
		`<state id="l"><state id="a"><onentry><send id="1" event="t" delay="100ms"/></onentry><transition event="t" target="b">`+say("a")+`</transition></state><state id="b"><onentry><send id="4" event="t" delay="100ms"/></onentry><transition event="t" target="a">`+say("b")+`</transition></state></state>`+
		`<state id="r"><state id="c"><onentry><send id="2" event="u" delay="150ms"/></onentry><transition event="u" target="c">`+say("c")+`</transition></state></state></parallel>`)
	cfg, _ := c.Start(contract.Env{})
	cfg, effects := c.Advance(cfg, contract.Env{}, 450)
	var said []string
	for _, e := range effects {
		said = append(said, e.Tell)
	}
	assert.Equal(t, []string{"a", "c", "b", "a", "c", "b", "c"}, said, "at 100, 150, 200, 300, 300 (in the order of the document), 400 and 450 ms")
	assert.Equal(t, 450.0, cfg.Now)
	before := cfg
	_, _ = c.Advance(cfg, contract.Env{}, 5000)
	assert.Equal(t, before, cfg, "a step changed what it was given")
}

// Three lamps that begin in different states never have anything to do with each other.
func TestInstancesShareNothing(t *testing.T) {
	c := scxml(t, "", lamp)
	alone := func(offset float64) []string {
		cfg, _ := c.Start(contract.Env{})
		var out []string
		for now := offset; now < offset+7000; now += 250 {
			cfg, _ = c.Advance(cfg, contract.Env{}, now)
			out = append(out, cfg.Active[1])
		}
		return out
	}
	want := [][]string{alone(0), alone(300), alone(1200)}
	var cfgs [3]behaviour.Config
	for i := range cfgs {
		cfgs[i], _ = c.Start(contract.Env{})
	}
	got := make([][]string, 3)
	for step := range 28 {
		for i, offset := range []float64{0, 300, 1200} {
			cfgs[i], _ = c.Advance(cfgs[i], contract.Env{}, offset+250*float64(step))
			got[i] = append(got[i], cfgs[i].Active[1])
		}
	}
	assert.Equal(t, want, got)
}

// What a state says of a part holds while it is in it; what is inside has the last word.
func TestWhatStatesSay(t *testing.T) {
	c := scxml(t, `xmlns:c="urn:cobrik:behaviour"`, `<datamodel><data id="at" expr="2"/></datamodel><state id="a"><onentry><c:set part="panel" name="hidden" value="true"/><c:set part="list" name="aria-activedescendant" value="'item' + 's'"/></onentry>`+
		`<transition event="e" target="c"/><state id="b"/><state id="c"><onentry><c:set part="panel" name="hidden" value="false"/><c:set part="track" name="aria-valuenow" value="at * 10"/></onentry></state></state>`)
	cfg, _ := c.Start(contract.Env{})
	assert.Equal(t, []behaviour.Said{{Part: "panel", Name: "hidden", Value: true, State: "a"}, {Part: "list", Name: "aria-activedescendant", Value: "items", State: "a"}}, c.Says(cfg, contract.Env{}))
	cfg, _ = c.Step(cfg, contract.Env{}, behaviour.ParseEvent("e"), nil)
	assert.Equal(t, []behaviour.Said{{Part: "panel", Name: "hidden", Value: false, State: "c"}, {Part: "list", Name: "aria-activedescendant", Value: "items", State: "a"}, {Part: "track", Name: "aria-valuenow", Value: 20.0, State: "c"}}, c.Says(cfg, contract.Env{}))
}

// A drag brings where to: what is assigned of it, and the limits it is held to.
func TestADragBringsAValue(t *testing.T) {
	c := scxml(t, "", `<datamodel><data id="at" expr="0"/></datamodel><state id="a"><transition event="dragged.handle"><assign location="at" expr="min(max(round(event * 10) / 10, 0), 1)"/></transition></state>`)
	cfg, _ := c.Start(contract.Env{})
	for _, one := range [][2]float64{{0.42, 0.4}, {1.7, 1}, {-3, 0}} {
		cfg, _ = c.Step(cfg, contract.Env{}, behaviour.Event{Kind: behaviour.Dragged, Part: "handle"}, one[0])
		assert.InDelta(t, one[1], cfg.Values["at"], 1e-9)
	}
	_, effects := c.Step(cfg, contract.Env{}, behaviour.Event{Kind: behaviour.Dragged, Part: "handle"}, nil)
	assert.Len(t, effects, 1, "a drag to nowhere is an error")
}

// Bad machines are told what is wrong with them, each where it is; none keeps anybody waiting.
func TestBadMachinesSayWhatIsWrong(t *testing.T) {
	state := func(s behaviour.State) *behaviour.Machine {
		s.ID = "a"
		return &behaviour.Machine{Name: "m", Values: []behaviour.Value{{Name: "n", Initial: 0.0}}, Root: &behaviour.State{ID: "root", States: []*behaviour.State{&s, {ID: "b"}}}}
	}
	on := func(tr behaviour.Transition) *behaviour.Machine {
		return state(behaviour.State{On: []behaviour.Transition{tr}})
	}
	do := func(a behaviour.Action) *behaviour.Machine {
		return state(behaviour.State{Entry: []behaviour.Action{a}})
	}
	for why, m := range map[string]*behaviour.Machine{
		"there is no state":                        {Name: "m"},
		"leads to \"x\", which is not there":       on(behaviour.Transition{To: []string{"x"}}),
		"leads to the root":                        on(behaviour.Transition{To: []string{"root"}}),
		"a time that never comes: NaN ms":          on(behaviour.Transition{After: math.NaN()}),
		"a time that never comes: +Inf ms":         on(behaviour.Transition{After: math.Inf(1)}),
		"a time that never comes: -5 ms":           on(behaviour.Transition{After: -5}),
		"waits for a time and for press":           on(behaviour.Transition{After: 5, Event: behaviour.Event{Kind: behaviour.Press}}),
		"there is no event \"tap\"":                on(behaviour.Transition{Event: behaviour.Event{Kind: "tap"}}),
		"key at menu has no name":                  on(behaviour.Transition{Event: behaviour.Event{Kind: behaviour.Key, Part: "menu"}}),
		"it is called \"a\\nb\"":                   {Name: "a\nb", Root: &behaviour.State{ID: "root"}},
		"a state is called \"a b\"":                {Name: "m", Root: &behaviour.State{ID: "root", States: []*behaviour.State{{ID: "a b"}}}},
		"a text that cannot be":                    {Name: "m", Values: []behaviour.Value{{Name: "n", Initial: "'\""}}, Root: &behaviour.State{ID: "root"}},
		"an action is about \"x y\"":               do(behaviour.Action{Raise: "x y"}),
		"\"hidden\" of \"p q\" is set":             state(behaviour.State{Sets: []behaviour.Set{{Part: "p q", Name: "hidden", Value: "true"}}}),
		"a time of 0.5 ms":                         on(behaviour.Transition{After: 0.5}),
		"a time that never comes: 1e+12 ms":        on(behaviour.Transition{After: 1e12}),
		"the event \"key. .menu\" cannot be":       on(behaviour.Transition{Event: behaviour.Event{Kind: behaviour.Key, Name: " ", Part: "menu"}}),
		"a condition: something is missing":        on(behaviour.Transition{Event: behaviour.Event{Kind: behaviour.Press}, If: "n <"}),
		"an action does 0 things":                  do(behaviour.Action{}),
		"an action does 2 things":                  do(behaviour.Action{Raise: "x", Focus: "y"}),
		"there is no value \"m\" to assign":        do(behaviour.Action{Assign: "m", To: "1"}),
		"what n becomes: ":                         do(behaviour.Action{Assign: "n", To: ""}),
		"hidden of p: ":                            state(behaviour.State{Sets: []behaviour.Set{{Part: "p", Name: "hidden", Value: "("}}}),
		"a final state has transitions":            state(behaviour.State{Kind: behaviour.Final, On: []behaviour.Transition{{}}}),
		"a final state holds others":               state(behaviour.State{Kind: behaviour.Final, States: []*behaviour.State{{ID: "c"}}}),
		"a parallel state holds none":              state(behaviour.State{Kind: behaviour.Parallel}),
		"there is no kind of state \"odd\"":        state(behaviour.State{Kind: "odd"}),
		"a history leads nowhere":                  state(behaviour.State{Kind: behaviour.History}),
		"its initial state is \"b\", which is not": state(behaviour.State{Initial: []string{"b"}, States: []*behaviour.State{{ID: "c"}}}),
		"a state is called \"b\", as another is":   state(behaviour.State{States: []*behaviour.State{{ID: "b"}}}),
		"is called \"1n\"":                         {Name: "m", Values: []behaviour.Value{{Name: "1n", Initial: 0.0}}, Root: &behaviour.State{ID: "root"}},
		"the value n is a int":                     {Name: "m", Values: []behaviour.Value{{Name: "n", Initial: 1}}, Root: &behaviour.State{ID: "root"}},
		"the value n is no number":                 {Name: "m", Values: []behaviour.Value{{Name: "n", Initial: math.NaN()}}, Root: &behaviour.State{ID: "root"}},
	} {
		c, found := behaviour.Compile(m)
		assert.Nil(t, c, why)
		if assert.NotEmpty(t, found, why) {
			assert.Contains(t, found[0].Error(), why)
			assert.NotEmpty(t, found[0].Fix)
		}
	}
	many := &behaviour.Machine{Name: "m", Root: &behaviour.State{ID: "root"}}
	for i := range 101 {
		many.Values = append(many.Values, behaviour.Value{Name: fmt.Sprint("n", i), Initial: 0.0})
	}
	_, found := behaviour.Compile(many)
	assert.Contains(t, found[0].Message, "it keeps 101 values")
	_, found = behaviour.Compile(&behaviour.Machine{Name: "m", Root: &behaviour.State{ID: "root", On: make([]behaviour.Transition, 50_001)}})
	assert.Contains(t, found[0].Message, "50001 transitions")
	deep := &behaviour.State{ID: "s"}
	root := deep
	for i := range 200 {
		next := &behaviour.State{ID: fmt.Sprint("s", i)}
		deep.States, deep = []*behaviour.State{next}, next
	}
	_, found = behaviour.Compile(&behaviour.Machine{Name: "m", Root: root})
	assert.Contains(t, found[0].Message, "deep")
	wide := &behaviour.State{ID: "root"}
	for i := range 20_000 {
		wide.States = append(wide.States, &behaviour.State{ID: fmt.Sprint("s", i)})
	}
	_, found = behaviour.Compile(&behaviour.Machine{Name: "m", Root: wide})
	assert.Contains(t, found[0].Message, "states")
}

// The largest machine there may be is checked within its bound.
func TestTenThousandStatesAreChecked(t *testing.T) {
	root := &behaviour.State{ID: "root"}
	for i := range behaviour.MostStates - 1 {
		root.States = append(root.States, &behaviour.State{ID: fmt.Sprint("s", i), On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Press}, To: []string{fmt.Sprint("s", (i+1)%(behaviour.MostStates-1))}}}})
	}
	c, found := behaviour.Compile(&behaviour.Machine{Name: "ring", Root: root})
	require.Empty(t, found)
	r := c.Check(behaviour.Options{Most: 300})
	assert.Equal(t, 300, r.Explored)
	assert.False(t, r.Whole)
	assert.Len(t, r.Findings, 500, "of thousands of states that nobody can tell apart")
}

// What runs without end is broken off, and says so; what waits behind it is left.
func TestWhatRunsWithoutEndIsBrokenOff(t *testing.T) {
	c := scxml(t, "", `<parallel id="p"><state id="l"><state id="a"><onentry><send id="1" event="t" delay="10ms"/></onentry><transition event="t" target="b"/></state><state id="b"><transition target="c"/></state><state id="c"><transition target="b"/></state></state>`+
		`<state id="r"><state id="d"><onentry><send id="2" event="u" delay="20ms"/></onentry><transition event="u" target="e">`+say("late")+`</transition></state><state id="e"/></state></parallel>`)
	cfg, _ := c.Start(contract.Env{})
	cfg, effects := c.Advance(cfg, contract.Env{}, 100)
	require.Len(t, effects, 1)
	assert.Contains(t, effects[0].Error, "after 1000 steps nothing has come to rest")
	assert.Len(t, cfg.Timers, 1)

	ticks := scxml(t, "", `<state id="a"><onentry><send id="1" event="t" delay="1ms"/></onentry><transition event="t" target="a"/></state>`)
	cfg, _ = ticks.Start(contract.Env{})
	_, effects = ticks.Advance(cfg, contract.Env{}, 1e9)
	require.Len(t, effects, 1)
	assert.Equal(t, "10000 timers fired, and there are more", effects[0].Error)
}

// What is over stays over; what was raised brings nothing of what set it off; a focus that went away is nobody's.
func TestWhatEndsAStep(t *testing.T) {
	m := &behaviour.Machine{Name: "m", Root: &behaviour.State{ID: "root", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Press}, To: []string{"a"}}},
		States: []*behaviour.State{{ID: "a", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Key, Name: "x"}, To: []string{"f"}}}}, {ID: "f", Kind: behaviour.Final}}}}
	c, found := behaviour.Compile(m)
	require.Empty(t, found)
	_, cfg := heard(c, "key.x", "press")
	assert.Equal(t, []string{"root", "f"}, cfg.Active)

	raised := scxml(t, "", `<datamodel><data id="at" expr="1"/></datamodel><state id="a"><transition event="dragged.handle"><raise event="x"/></transition><transition event="x"><assign location="at" expr="event"/></transition></state>`)
	cfg, _ = raised.Start(contract.Env{})
	cfg, effects := raised.Step(cfg, contract.Env{}, behaviour.ParseEvent("dragged.handle"), 0.5)
	assert.Len(t, effects, 1)
	assert.Equal(t, 1.0, cfg.Values["at"])

	menu := stock(t, "menu button", behaviour.Choices{})
	_, cfg = heard(menu, "press.button", "outside-press.menu")
	assert.Empty(t, cfg.Focus)
}
