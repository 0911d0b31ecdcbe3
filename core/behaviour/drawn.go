package behaviour

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// A machine as it is drawn: states as bricks laid in courses by their distance from where it begins, and the ways between them.

// DrawnState is a state as it is drawn.
type DrawnState struct {
	ID     string
	In     string // the state around it; empty for an outermost one
	Kind   Kind
	Course int // how many ways it is from where the machine begins; those that nothing leads to come last
	Begins bool
	Says   []string // of parts, in the contract's words
}

// Way leads from one state to another, or back to it.
type Way struct{ From, To, Words string }

// Bricks lists the states but the outermost, those around before what is inside.
func (c *Chart) Bricks(of *contract.Contract) (out []DrawnState) {
	part, prop := words(of)
	named := c.Machine.renamed(part, prop)
	states := map[string]*State{}
	named.Root.Walk(func(s, _ *State) { states[s.ID] = s })
	courses := c.courses()
	last := 0
	for _, n := range courses {
		last = max(last, n)
	}
	begins := c.beginning()
	for _, n := range c.nodes {
		if n == c.root {
			continue
		}
		d := DrawnState{ID: n.ID, Kind: n.Kind, Begins: begins[n], Course: last + 1}
		if n.parent != c.root {
			d.In = n.parent.ID
		}
		if at, ok := courses[n]; ok {
			d.Course = at
		}
		for _, s := range states[n.ID].Sets {
			d.Says = append(d.Says, fmt.Sprintf("%s %s %s", s.Part, s.Name, strings.Trim(s.Value, "'\"")))
		}
		out = append(out, d)
	}
	return out
}

// beginning gives the states in which the machine begins, before anything is taken.
func (c *Chart) beginning() map[*node]bool {
	r := c.begin(Config{Values: map[string]any{}, History: map[string][]string{}}, contract.Env{})
	entered := map[*node]bool{}
	switch {
	case c.root.Kind == Parallel:
		r.withChildren(c.root, entered)
	case len(c.root.children) > 0:
		for _, n := range c.initial(c.root) {
			r.withDescendants(n, entered)
			r.withAncestors(n, c.root, entered)
		}
	}
	return entered
}

// courses counts the ways from where the machine begins to each state.
func (c *Chart) courses() map[*node]int {
	at := map[*node]int{}
	var queue []*node
	visit := func(n *node, course int) {
		r := c.begin(Config{Values: map[string]any{}, History: map[string][]string{}}, contract.Env{})
		entered := map[*node]bool{n: true}
		r.withDescendants(n, entered)
		for up := n.parent; up != nil && up != c.root; up = up.parent {
			entered[up] = true
		}
		for _, o := range c.nodes {
			if _, seen := at[o]; entered[o] && !seen {
				at[o] = course
				queue = append(queue, o)
			}
		}
	}
	begins := c.beginning()
	for _, n := range c.nodes {
		if begins[n] {
			visit(n, 0)
		}
	}
	for len(queue) > 0 {
		n := queue[0]
		queue = queue[1:]
		for _, t := range n.edges {
			for _, to := range t.targets {
				visit(to, at[n]+1)
			}
		}
	}
	return at
}

// Anywhere lists what leads on from wherever the machine is, in words: the ways of the outermost state.
func (c *Chart) Anywhere(of *contract.Contract) (out []string) {
	part, prop := words(of)
	w := &textWriter{c: of}
	for _, t := range c.Machine.renamed(part, prop).Root.On {
		if len(t.To) > 0 {
			out = append(out, w.transition(t))
		}
	}
	return out
}

// Ways lists what leads from state to state; what leads nowhere leads back.
func (c *Chart) Ways(of *contract.Contract) (out []Way) {
	part, prop := words(of)
	named := c.Machine.renamed(part, prop)
	w := &textWriter{c: of}
	add := func(from, to, words string) {
		for i := range out {
			if out[i].From == from && out[i].To == to {
				out[i].Words += ", " + words
				return
			}
		}
		out = append(out, Way{from, to, words})
	}
	named.Root.Walk(func(s, parent *State) {
		if parent == nil {
			return
		}
		for _, t := range s.On {
			said, _, _ := strings.Cut(w.transition(t), ": ")
			said = strings.TrimSuffix(strings.TrimPrefix(said, "on "), ":")
			for _, to := range t.To {
				add(s.ID, to, said)
			}
			if len(t.To) == 0 {
				add(s.ID, s.ID, said)
			}
		}
	})
	return out
}

// Happens lists the events that can happen from outside, in the contract's words.
func (c *Chart) Happens(of *contract.Contract) (out []Named) {
	part, prop := words(of)
	x := &explorer{Chart: c, options: Options{Drags: []float64{0.5}}}
	var seen []Event
	for _, in := range x.allInputs() {
		e := in.Event
		if e == (Event{}) || slices.Contains(seen, e) {
			continue
		}
		seen = append(seen, e)
		said := e
		if said.Part != "" {
			said.Part = part(said.Part)
		}
		if said.Kind == Changed && said.Name != "" {
			said.Name = prop(said.Name)
		}
		out = append(out, Named{e, eventWords(said)})
	}
	return out
}

// Named is an event with how people say it.
type Named struct {
	Event Event
	Words string
}

// Words writes the machine in the contract's words; times that are durations by their names alone.
func (c *Chart) Words(of *contract.Contract) string {
	same := func(name string) string { return name }
	m := c.Machine.renamed(same, same)
	m.Root.Walk(func(s, _ *State) {
		for i := range s.On {
			if s.On[i].Token != "" {
				s.On[i].After = 0
			}
		}
	})
	return m.Text(of)
}

// Span is how long all times of a machine last, one after the other, and half of that again; 10 s at least, in whole seconds.
func (c *Chart) Span() float64 {
	all := 0.0
	for _, n := range c.nodes {
		for _, t := range n.On {
			all += t.After
		}
	}
	return max(10_000, math.Ceil(all*1.5/1000)*1000)
}
