package react_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// behaving makes components at random that do something: states in states, side by side or not, histories, times, conditions of values and props, what is heard and told.
type behaving struct {
	*rand.Rand
	ids    []string // of the region that is made
	events []behaviour.Event
}

func (g *behaving) state(id string, depth int) *behaviour.State {
	s := &behaviour.State{ID: id}
	g.ids = append(g.ids, id)
	if g.IntN(3) == 0 {
		s.Entry = g.do(false)
	}
	if g.IntN(4) == 0 {
		s.Exit = g.do(false)
	}
	if g.IntN(2) == 0 {
		s.Sets = []behaviour.Set{{Part: "p1", Name: "aria-label", Value: fmt.Sprintf("'%s'", id)}}
	}
	if depth == 0 || g.IntN(2) == 0 {
		return s
	}
	for i := range 2 + g.IntN(2) {
		s.States = append(s.States, g.state(fmt.Sprint(id, i), depth-1))
	}
	if g.IntN(3) == 0 {
		s.Initial = []string{s.States[g.IntN(len(s.States))].ID}
	}
	if g.IntN(2) == 0 {
		h := &behaviour.State{ID: "h" + id, Kind: []behaviour.Kind{behaviour.History, behaviour.DeepHistory}[g.IntN(2)], Defaults: []string{s.States[0].ID}}
		s.States = append(s.States, h)
		g.ids = append(g.ids, h.ID)
	}
	return s
}

func (g *behaving) do(raise bool) (out []behaviour.Action) {
	for range g.IntN(3) {
		switch g.IntN(5) {
		case 0:
			out = append(out, behaviour.Action{Assign: "n", To: []string{"(n + 1) % 4", "min(n + 2, 3)", "count - n", "round(n / 2) * 3"}[g.IntN(4)]})
		case 1:
			out = append(out, behaviour.Action{Tell: "onMove", With: []string{"n", "'far'", "n > 1", "word + '!'"}[g.IntN(4)]})
		case 2:
			out = append(out, behaviour.Action{Focus: []string{"p1", "p2", behaviour.Elsewhere}[g.IntN(3)]})
		case 3:
			if raise {
				out = append(out, behaviour.Action{Raise: []string{"x", "y"}[g.IntN(2)]})
			}
		default:
			out = append(out, behaviour.Action{Assign: "word", To: []string{"'a'", "word"}[g.IntN(2)]})
		}
	}
	return out
}

func (g *behaving) on(s *behaviour.State) {
	if s.Kind == behaviour.History || s.Kind == behaviour.DeepHistory {
		return
	}
	for range g.IntN(4) {
		t := behaviour.Transition{Event: g.events[g.IntN(len(g.events))], Do: g.do(true)}
		if g.IntN(5) > 0 {
			t.To = []string{g.ids[g.IntN(len(g.ids))]}
			t.Internal = g.IntN(3) == 0
		}
		switch g.IntN(6) {
		case 0:
			t.If = []string{"n < 2", "n == 1 || In('" + g.ids[0] + "')", "n > 1 && !(word == 'a')", "In('" + g.ids[len(g.ids)/2] + "') && n < 3"}[g.IntN(4)]
		case 1:
			t.When = contract.Of(contract.PropIs{Prop: "on", Value: contract.FlagValue(g.IntN(2) == 0)})
		case 2:
			t.Event, t.After = behaviour.Event{}, float64(100*(1+g.IntN(4)))
		case 3:
			if g.IntN(2) == 0 {
				t.Event, t.If = behaviour.Event{}, "n == 3"
				t.Do = []behaviour.Action{{Assign: "n", To: "0"}}
			}
		case 4:
			t.Event = behaviour.Event{Kind: behaviour.Own, Name: []string{"x", "y", "done.state." + g.ids[0]}[g.IntN(3)]}
			t.Do = slices.DeleteFunc(t.Do, func(a behaviour.Action) bool { return a.Raise != "" })
		}
		s.On = append(s.On, t)
	}
}

func behavingAt(seed uint64) *behaviour.Machine {
	g := &behaving{Rand: rand.New(rand.NewPCG(seed, 26))}
	root := &behaviour.State{ID: "root"}
	m := &behaviour.Machine{Name: "random", Values: []behaviour.Value{{Name: "n", Initial: 1.0, Prop: "count"}, {Name: "word", Initial: "b"}}, Root: root}
	all := []behaviour.Event{{Kind: behaviour.Press, Part: "p1"}, {Kind: behaviour.Press, Part: "p2"}, {Kind: behaviour.Press}, {Kind: behaviour.Key, Name: "ArrowDown", Part: "p1"}, {Kind: behaviour.Key, Name: "Escape"},
		{Kind: behaviour.FocusOut, Part: "p2"}, {Kind: behaviour.Changed, Name: "on"}, {Kind: behaviour.OutsidePress, Part: "p2"}}
	if g.IntN(3) == 0 { // side by side, each with events of its own
		root.Kind = behaviour.Parallel
		for i := range 2 {
			g.ids, g.events = nil, all[i*4:i*4+4]
			region := &behaviour.State{ID: fmt.Sprint("r", i)}
			for k := range 2 + g.IntN(2) {
				region.States = append(region.States, g.state(fmt.Sprintf("s%d%d", i, k), 1))
			}
			if i > 0 {
				region.Walk(func(s, _ *behaviour.State) { s.Sets = nil })
			}
			region.Walk(func(s, parent *behaviour.State) {
				if parent != nil {
					g.on(s)
				}
			})
			root.States = append(root.States, region)
		}
		return m
	}
	g.events = all
	for k := range 2 + g.IntN(3) {
		root.States = append(root.States, g.state(fmt.Sprint("s", k), 2))
	}
	if g.IntN(4) == 0 {
		root.States = append(root.States, &behaviour.State{ID: "end", Kind: behaviour.Final})
		g.ids = append(g.ids, "end")
	}
	root.Walk(func(s, _ *behaviour.State) {
		if s.Kind != behaviour.Final {
			g.on(s)
		}
	})
	return m
}

// component is one that a random machine fits.
func behavingIn(m *behaviour.Machine) (*contract.Contract, []behaviour.Problem) {
	part := func(id string) *contract.Part { return &contract.Part{ID: id, Name: id, Element: "button"} }
	one := 2.0
	c := &contract.Contract{Format: contract.Format, Name: "Random", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{part("p1"), part("p2")}}, Props: []contract.Prop{
		{ID: "on", Name: "on", Type: contract.Flag{}}, {ID: "count", Name: "count", Type: contract.Number{Initial: &one}}, {ID: "onMove", Name: "onMove", Type: contract.Event{On: contract.Told}},
	}}
	return behaviour.Adopt(c, m, nil, nil)
}

// histories is a machine that comes back to where it was: to the state inside, and to the one inside of that.
const histories = `machine back
state home
  on key Escape: to away
  state a
    state a1
      on press of p1: to a2
    state a2
      on press of p1: to b2
  state b
    state b1
      on press of p1: to b2
    state b2
      on press of p1: to a1
  history last, at first a
  deep history exact, at first a
state away
  on press of p1: to last
  on press of p2: to exact
`

type reduced struct {
	State map[string]any   `json:"state"`
	Told  []map[string]any `json:"told"`
	Same  bool             `json:"same"`
}

type reducerStep struct {
	Event string         `json:"event"`
	Heard map[string]any `json:"heard,omitempty"`
	Given map[string]any `json:"given,omitempty"`
}

// What is emitted is the machine: the reducers of random components, and of all stock machines, go where core/behaviour goes, keep what it keeps, and tell what it tells.
func TestReducersAreTheMachine(t *testing.T) {
	type one struct {
		Code  string         `json:"code"`
		Name  string         `json:"name"`
		Given map[string]any `json:"given"`
		Steps []reducerStep  `json:"steps"`
	}
	type run struct {
		chart  *behaviour.Chart
		fields react.Fields
		events []behaviour.Event // of each step; none for a time
		times  []behaviour.Timer
		envs   []contract.Env
		c      *contract.Contract
	}
	var cases []one
	var runs []run
	add := func(c *contract.Contract, seed uint64) {
		files := react.Emit(c, output.PropertiesOf(token.Empty()), react.Options{})
		files = append(files, emit.File{Path: "index.ts", Content: "export * from \"./use" + c.Name + "\";\n"})
		files = slices.DeleteFunc(files, func(f emit.File) bool { return f.Path == "index.ts" && len(f.Content) > 0 && f.Content[0] == 'i' })
		bundle, found := compile.React(files)
		require.Empty(t, found)
		names, times, fields := react.EventNames(c)
		chart := behaviour.Of(c)
		r := rand.New(rand.NewPCG(seed, 27))
		given := c.Defaults()
		env := func() contract.Env { return contract.EnvOf(given) }
		k := one{Code: bundle.JS, Name: c.Name, Given: c.Given(given), Steps: []reducerStep{}}
		out := run{chart: chart, fields: fields, c: c, envs: []contract.Env{env()}}
		cfg, _ := chart.Start(env())
		for range 40 {
			s := reducerStep{}
			var e behaviour.Event
			var timer behaviour.Timer
			if len(cfg.Timers) > 1 && cfg.Timers[1].Due == cfg.Timers[0].Due { // which comes first is the browser's affair
				break
			}
			if len(cfg.Timers) > 0 && (r.IntN(3) == 0 || len(names) == 0) {
				timer = cfg.Timers[0]
				s.Event = times[fmt.Sprintf("%s %d", timer.State, timer.Index)]
				cfg, _ = chart.Advance(cfg, env(), timer.Due)
			} else if len(names) > 0 {
				e = fields.Flat.Events[r.IntN(len(fields.Flat.Events))]
				s.Event = names[e]
				if e.Kind == behaviour.Changed {
					values := c.Prop(e.Name).Type.Nameable()
					given = given.With(contract.Values{e.Name: values[r.IntN(len(values))]})
					s.Given = c.Given(given)
				}
				var data any
				if e.Kind == behaviour.Dragged {
					data = 0.25
					s.Heard = map[string]any{"value": 0.25}
				}
				cfg, _ = chart.Step(cfg, env(), e, data)
			} else {
				break
			}
			k.Steps = append(k.Steps, s)
			out.events, out.times, out.envs = append(out.events, e), append(out.times, timer), append(out.envs, env())
		}
		cases, runs = append(cases, k), append(runs, out)
	}
	made := 0
	for seed := uint64(0); made < 300; seed++ {
		require.Less(t, seed, uint64(3000), "too few random machines can be written as code")
		c, found := behavingIn(behavingAt(seed))
		if found != nil {
			continue
		}
		if _, problems := behaviour.Of(c).Flatten(); problems != nil {
			continue
		}
		checked := c.Check(nil)
		require.NoError(t, checked.Err(), "seed %d", seed)
		made++
		add(c, seed)
	}
	m, found := behaviour.ParseText(histories, nil)
	require.Empty(t, found)
	back, problems := behavingIn(m)
	require.Empty(t, problems)
	for seed := range uint64(8) {
		add(back, 5000+seed)
	}
	for i, s := range behaviour.Stocks {
		add(stocked(t, fmt.Sprintf("Stock%c", 'A'+i), s.Name, behaviour.Choices{}), uint64(i))
		add(stocked(t, fmt.Sprintf("Stock%c", 'A'+i), s.Name, behaviour.Choices{Items: 4, Several: true, Vertical: true, Mixed: true, Outside: true, Open: 2}), uint64(100+i))
	}
	got := reference.Ask[[][]reduced](t, "behaviour.mjs", map[string]any{"cases": cases})
	steps, moved := 0, 0
	for i, r := range runs {
		cfg, _ := r.chart.Start(r.envs[0])
		for k := range got[i] {
			var effects []behaviour.Effect
			before := cfg
			if k > 0 {
				switch e := r.events[k-1]; {
				case e == (behaviour.Event{}):
					cfg, effects = r.chart.Advance(cfg, r.envs[k], r.times[k-1].Due)
				case e.Kind == behaviour.Dragged:
					cfg, effects = r.chart.Step(cfg, r.envs[k], e, 0.25)
				default:
					cfg, effects = r.chart.Step(cfg, r.envs[k], e, nil)
				}
			}
			want := reduced{State: map[string]any{}, Told: []map[string]any{}}
			broken := false
			for _, e := range effects {
				broken = broken || e.Error != ""
				if e.Tell != "" {
					told := map[string]any{"tell": e.Tell}
					if e.With != nil {
						told["with"] = e.With
					}
					want.Told = append(want.Told, told)
				}
			}
			if broken { // the check says so
				break
			}
			for n, region := range r.fields.Flat.Regions {
				for _, leaf := range region.Leaves {
					if cfg.In(leaf) {
						want.State[r.fields.Regions[n]] = leaf
					}
				}
			}
			for name, v := range cfg.Values {
				want.State[name] = v
			}
			for name := range want.State {
				require.Equal(t, want.State[name], got[i][k].State[name], "%s of %s, case %d, step %d: %s %v", name, r.c.Name, i, k, stepOf(cases[i].Steps, k), string(r.c.JSON()))
			}
			require.Equal(t, want.Told, got[i][k].Told, "what is told in case %d, step %d: %s", i, k, stepOf(cases[i].Steps, k))
			if focus, _ := got[i][k].State["focus"].(map[string]any); focus != nil {
				require.Equal(t, cfg.Focus, focus["part"], "case %d, step %d", i, k)
			} else {
				require.Empty(t, cfg.Focus, "case %d, step %d: the focus is given in code", i, k)
			}
			if k > 0 && got[i][k].Same {
				require.Equal(t, before.Active, cfg.Active, "case %d, step %d: nothing is said to follow", i, k)
			}
			steps++
			if k > 0 && !got[i][k].Same {
				moved++
			}
		}
	}
	t.Log(steps, "steps,", moved, "of which something follows")
	assert.Greater(t, steps, 5000)
	assert.Greater(t, moved, 2500, "too few of them do anything")
}

func stepOf(steps []reducerStep, k int) string {
	if k == 0 {
		return "at first"
	}
	return steps[k-1].Event
}
