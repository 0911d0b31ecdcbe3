package behaviour_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/web/reference"
)

// generator makes machines at random: states in states, some parallel, histories, transitions with and without events, conditions and counting.
type generator struct {
	*rand.Rand
	all []string // ids of states that can be led to
}

func own(name string) behaviour.Event { return behaviour.Event{Kind: behaviour.Own, Name: name} }

func (g *generator) state(depth int, parallel bool) *behaviour.State {
	s := &behaviour.State{ID: fmt.Sprint("s", len(g.all))}
	g.all = append(g.all, s.ID)
	s.Entry = []behaviour.Action{{Tell: "+" + s.ID}}
	s.Exit = []behaviour.Action{{Tell: "-" + s.ID}}
	if depth == 0 || g.IntN(3) == 0 && !parallel {
		return s
	}
	if g.IntN(3) == 0 {
		s.Kind = behaviour.Parallel
	}
	for range 2 + g.IntN(2) {
		s.States = append(s.States, g.state(depth-1, s.Kind == behaviour.Parallel))
	}
	if s.Kind == behaviour.Plain && g.IntN(3) == 0 {
		h := &behaviour.State{ID: fmt.Sprint("h", s.ID), Kind: behaviour.History, Defaults: []string{s.States[g.IntN(len(s.States))].ID}}
		if g.IntN(2) == 0 {
			h.Kind = behaviour.DeepHistory
		}
		s.States = append(s.States, h)
		g.all = append(g.all, h.ID)
	}
	return s
}

func (g *generator) do() (out []behaviour.Action) {
	for range g.IntN(3) {
		switch g.IntN(3) {
		case 0:
			out = append(out, behaviour.Action{Assign: "n", To: "(n + 1) % 4"})
		case 1:
			out = append(out, behaviour.Action{Tell: fmt.Sprint("t", g.IntN(100))})
		default:
			out = append(out, behaviour.Action{Raise: []string{"x", "y"}[g.IntN(2)]})
		}
	}
	return out
}

func machine(seed uint64) *behaviour.Machine {
	g := &generator{Rand: rand.New(rand.NewPCG(seed, 16))}
	m := &behaviour.Machine{Name: "random", Values: []behaviour.Value{{Name: "n", Initial: 0.0}}, Root: &behaviour.State{ID: "root"}}
	for range 2 + g.IntN(3) {
		m.Root.States = append(m.Root.States, g.state(3, false))
	}
	parents := map[string]*behaviour.State{}
	m.Root.Walk(func(s, parent *behaviour.State) { parents[s.ID] = parent })
	// A transition from one region of a parallel state into another leaves that state in SCXML, and not in the library.
	across := func(from, to string) bool {
		around := map[*behaviour.State]bool{}
		for at := parents[from]; at != nil; at = parents[at.ID] {
			around[at] = true
		}
		for at := parents[to]; at != nil; at = parents[at.ID] {
			if around[at] {
				return at.Kind == behaviour.Parallel
			}
		}
		return false
	}
	m.Root.Walk(func(s, parent *behaviour.State) {
		if parent == nil || s.Kind == behaviour.History || s.Kind == behaviour.DeepHistory {
			return
		}
		// The library asks what is around a parallel state only when none of its regions has an answer; SCXML asks for each region by itself. So
		// what is around one has events that are nobody else's.
		apart := parallelIn(s)
		for range g.IntN(4) {
			t := behaviour.Transition{Do: g.do()}
			if g.IntN(6) > 0 {
				if to := g.all[g.IntN(len(g.all))]; !across(s.ID, to) {
					t.To = []string{to}
					for at := parents[to]; at != nil; at = parents[at.ID] {
						t.Internal = t.Internal || at == s && s.Kind == behaviour.Plain && g.IntN(2) == 0
					}
				}
			}
			if g.IntN(2) == 0 {
				t.If = []string{"n < 2", "n == 1", "n > 2"}[g.IntN(3)]
			}
			t.Event = own([]string{"a", "b", "c", "x", "y"}[g.IntN(5)])
			if apart {
				t.Event = own("d" + s.ID)
			}
			if t.Event.Name == "x" || t.Event.Name == "y" { // what is raised raises nothing, so that it ends
				t.Do = slices.DeleteFunc(t.Do, func(a behaviour.Action) bool { return a.Raise != "" })
			}
			s.On = append(s.On, t)
		}
		if g.IntN(5) == 0 && !apart { // taken at once, and no longer when it was
			at := behaviour.Transition{If: "n == 1", Do: []behaviour.Action{{Assign: "n", To: "(n + 1) % 4"}}}
			if to := g.all[g.IntN(len(g.all))]; !across(s.ID, to) {
				at.To = []string{to}
			}
			s.On = append(s.On, at)
		}
	})
	return m
}

func parallelIn(s *behaviour.State) (out bool) {
	s.Walk(func(c, _ *behaviour.State) { out = out || c.Kind == behaviour.Parallel })
	return out
}

// events lists what a machine waits for, but for what it raises.
func events(m *behaviour.Machine) (out []string) {
	m.Root.Walk(func(s, _ *behaviour.State) {
		for _, t := range s.On {
			if n := t.Event.Name; n != "" && n != "x" && n != "y" && !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	})
	return append(out, "a")
}

type stepTaken struct {
	Active []string `json:"active"`
	N      float64  `json:"n"`
	Log    []string `json:"log"`
}

// Thousands of random steps of random machines end where those of a library for such machines do, by the same way: xstate, whose semantics are those of SCXML.
func TestMachinesRunAsALibraryRunsThem(t *testing.T) {
	type one struct {
		Machine *behaviour.Machine `json:"machine"`
		Events  []string           `json:"events"`
	}
	var cases []one
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 17))
		c := one{Machine: machine(seed)}
		names := events(c.Machine)
		for range 12 {
			c.Events = append(c.Events, names[r.IntN(len(names))])
		}
		cases = append(cases, c)
	}
	want := reference.Ask[[][]stepTaken](t, "machine.mjs", map[string]any{"cases": cases})
	steps, moved := 0, 0
	for i, c := range cases {
		chart, found := behaviour.Compile(c.Machine)
		require.Empty(t, found)
		cfg, effects := chart.Start(contract.Env{})
		for k, w := range want[i] {
			if k > 0 {
				cfg, effects = chart.Step(cfg, contract.Env{}, own(c.Events[k-1]), nil)
			}
			got := stepTaken{Active: slices.Sorted(slices.Values(cfg.Active)), N: cfg.Values["n"].(float64), Log: []string{}}
			for _, e := range effects {
				require.Empty(t, e.Error)
				got.Log = append(got.Log, e.Tell)
			}
			if !assert.Equal(t, w, got, "machine %d, step %d of %v", i, k, c.Events) {
				text, _ := json.Marshal(c.Machine)
				t.Log(string(text))
				return
			}
			steps++
			if len(w.Log) > 0 {
				moved++
			}
		}
	}
	assert.Greater(t, steps, 5000)
	assert.Greater(t, moved, 1000, "too few of them do anything")
}
