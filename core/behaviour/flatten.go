package behaviour

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"cobrik/core/contract"
)

type flattening struct {
	*Chart
	out      *Flat
	region   map[*node]int // of a node inside of one
	problems []Problem
}

func (f *flattening) fail(state, fix, format string, args ...any) {
	f.problems = append(f.problems, Problem{state, fmt.Sprintf(format, args...), fix})
}

// Limits of what code is written of: more nobody reads.
const (
	mostWritten = 500
	mostMoves   = 2_000
)

func (f *flattening) flatten() {
	moves := 0
	for _, n := range f.nodes {
		moves += len(n.edges)
	}
	if len(f.nodes) > mostWritten || moves > mostMoves {
		f.fail("", fmt.Sprintf("have at most %d states and %d transitions", mostWritten, mostMoves), "it has %d states and %d transitions, too many to be written as code", len(f.nodes), moves)
		return
	}
	tops := []*node{f.root}
	if f.root.Kind == Parallel {
		tops = f.root.children
	}
	for i, top := range tops {
		for _, n := range f.nodes {
			if n == top || n.in(top) {
				f.region[n] = i
				if n.Kind == Parallel {
					f.fail(n.ID, "let the outermost hold all at once", "states that are all active at once stand inside of another")
				}
			}
		}
	}
	if len(f.problems) > 0 {
		return
	}
	f.steps()
	for i, top := range tops {
		f.out.Regions = append(f.out.Regions, f.regionOf(i, top))
	}
	if f.root.Kind == Parallel {
		for _, e := range f.root.edges {
			if len(e.targets) > 0 || e.timed() || e.eventless() {
				f.fail(f.root.ID, "say it inside of one of its states", "the outermost state, which holds all at once, leads somewhere")
				continue
			}
			f.out.Common = append(f.out.Common, Move{Transition: e.Transition, Index: e.index, Do: e.Do, Source: f.root.ID, Region: -1})
		}
	}
	f.beside()
	f.events()
	if f.Machine.Given != "" && slices.ContainsFunc(f.nodes, func(n *node) bool { return len(n.Entry) > 0 }) {
		f.fail("", "do it on the way", "something is done on entry, and a prop says in which state it begins")
	}
}

// regionOf flattens what is inside of a state.
func (f *flattening) regionOf(i int, top *node) Region {
	out := Region{State: top.ID}
	for _, n := range f.nodes {
		if at, ok := f.region[n]; !ok || at != i {
			continue
		}
		if len(n.children) == 0 && n.Kind != History && n.Kind != DeepHistory {
			out.Leaves = append(out.Leaves, n.ID)
		}
		for _, h := range n.history {
			first := f.entered(h)
			f.out.Memories = append(f.out.Memories, Memory{h.ID, i, leafOf(first)})
		}
	}
	r := f.begin(Config{}, contract.Env{})
	entered := map[*node]bool{}
	if top.compound() {
		for _, n := range f.initial(top) {
			r.withDescendants(n, entered)
			r.withAncestors(n, top, entered)
		}
	}
	out.Begins = top.ID
	if top != f.root {
		entered[top] = true
	}
	for _, n := range f.nodes {
		if entered[n] {
			out.Entry = append(out.Entry, n.Entry...)
			if len(n.children) == 0 {
				out.Begins = n.ID
			}
		}
	}
	if i == 0 {
		out.Entry = append(slices.Clone(f.root.Entry), out.Entry...)
	}
	var holders []*node
	for _, n := range f.nodes {
		if at, ok := f.region[n]; ok && at == i && len(n.edges) > 0 {
			holders = append(holders, n)
		}
	}
	slices.SortStableFunc(holders, func(a, b *node) int { return b.depth - a.depth })
	for _, n := range holders {
		out.Answers = append(out.Answers, f.answers(n, out.Leaves)...)
	}
	return out
}

// answers gives a state's moves in the leaves inside of it: once for those in which they are the same.
func (f *flattening) answers(n *node, leaves []string) (out []Answer) {
	for _, id := range leaves {
		leaf := f.byID[id]
		if leaf != n && !leaf.in(n) || leaf.Kind == Final && leaf.parent == f.root {
			continue
		}
		var moves []Move
		for _, e := range n.edges {
			moves = append(moves, f.move(leaf, e))
		}
		at := slices.IndexFunc(out, func(a Answer) bool { return reflect.DeepEqual(a.Moves, moves) })
		if at < 0 {
			out = append(out, Answer{n.ID, nil, moves})
			at = len(out) - 1
		}
		out[at].Leaves = append(out[at].Leaves, id)
	}
	return out
}

// move gives what a transition does when a leaf is active.
func (f *flattening) move(leaf *node, e *edge) Move {
	out := Move{Transition: e.Transition, Index: e.index, Source: e.source.ID, Region: f.region[leaf]}
	if len(e.targets) == 0 {
		out.Do = e.Do
		return out
	}
	if len(e.targets) > 1 {
		f.fail(e.source.ID, "name one", "a transition leads to %s at once", strings.Join(e.To, " and "))
		return out
	}
	to := e.targets[0]
	if at, ok := f.region[to]; !ok || at != out.Region {
		f.fail(e.source.ID, "raise an event that it answers", "a transition leads to %s, which is beside it and active at the same time", to.ID)
		return out
	}
	r := f.begin(Config{}, contract.Env{})
	for at := leaf; at != nil; at = at.parent {
		r.active[at] = true
	}
	exits := r.exits(e)
	gone := map[*node]bool{}
	for _, n := range slices.Backward(exits) {
		gone[n] = true
		out.Do = append(out.Do, n.Exit...)
	}
	for _, n := range exits {
		for _, h := range n.history {
			out.Notes = append(out.Notes, f.note(h, leaf))
		}
	}
	out.Do = append(out.Do, e.Do...)
	entered := map[*node]bool{}
	domain := r.domain(e)
	r.withDescendants(to, entered)
	for _, n := range r.leadsTo(e.targets) {
		r.withAncestors(n, domain, entered)
	}
	history := to.Kind == History || to.Kind == DeepHistory
	for _, n := range f.nodes {
		if !entered[n] || r.active[n] && !gone[n] {
			continue
		}
		if !history && (gone[n] || f.out.Steps) && n.timed() {
			out.Restarts = append(out.Restarts, n.ID)
		}
		if history && n.in(to.parent) {
			continue
		}
		out.Do = append(out.Do, n.Entry...)
		out.Do = append(out.Do, f.finishes(n)...)
	}
	if out.Leaf = leafOf(entered); history {
		out.Leaf, out.Back = "", to.ID
		for _, n := range f.nodes { // any of them may be the one that is entered again
			if n.timed() && (n.in(to.parent) || entered[n]) && (gone[n] || f.out.Steps) {
				out.Restarts = append(out.Restarts, n.ID)
			}
			if n.in(to.parent) && (len(n.Entry) > 0 || n.Kind == Final) {
				f.fail(n.ID, "do it on the way", "something is done on entry of a state that a history leads back to")
			}
		}
	}
	return out
}

// finishes raises what a final state tells the state around it.
func (f *flattening) finishes(n *node) []Action {
	if n.Kind != Final || n.parent == f.root {
		return nil
	}
	return []Action{{Raise: "done.state." + n.parent.ID}}
}

// note gives what a history remembers when a leaf is left.
func (f *flattening) note(h, leaf *node) Note {
	if h.Kind == DeepHistory || leaf.parent == h.parent {
		return Note{History: h.ID}
	}
	at := leaf
	for at.parent != h.parent {
		at = at.parent
	}
	if first := leafOf(f.entered(at)); first != leaf.ID {
		return Note{h.ID, first}
	}
	return Note{History: h.ID}
}

// entered gives what is entered with a state.
func (f *flattening) entered(n *node) map[*node]bool {
	r := f.begin(Config{}, contract.Env{})
	out := map[*node]bool{}
	r.withDescendants(n, out)
	return out
}

func leafOf(entered map[*node]bool) (leaf string) {
	at := -1
	for n := range entered {
		if len(n.children) == 0 && n.order > at {
			leaf, at = n.ID, n.order
		}
	}
	return leaf
}

// beside looks for what would depend on which region is asked first: code asks one after the other.
func (f *flattening) beside() {
	if len(f.out.Regions) < 2 {
		return
	}
	type asked struct {
		region int
		move   Move
	}
	var all []asked
	for i, r := range f.out.Regions {
		for _, a := range r.Answers {
			for _, m := range a.Moves {
				all = append(all, asked{i, m})
			}
		}
	}
	for _, m := range f.out.Common {
		all = append(all, asked{-1, m})
	}
	for i, a := range all {
		for _, b := range all[:i] {
			if a.region == b.region || a.move.timed() || b.move.timed() || !(a.move.Event.Stands(b.move.Event) || b.move.Event.Stands(a.move.Event)) {
				continue
			}
			if a.region < 0 || b.region < 0 || len(a.move.Do) > 0 && len(b.move.Do) > 0 {
				f.fail(a.move.Source, "let one of them do it, and raise an event for the other", "two states that are active at once do something at %s", a.move.Event)
			}
		}
	}
	said := map[[2]string]int{}
	for _, n := range f.nodes {
		for _, s := range n.Sets {
			at, ok := f.region[n]
			if !ok {
				at = -1
			}
			if was, known := said[[2]string{s.Part, s.Name}]; known && was != at {
				f.fail(n.ID, "let one of them say it", "two states that are active at once say %s of %s", s.Name, s.Part)
			}
			said[[2]string{s.Part, s.Name}] = at
		}
	}
}

// steps tells whether one event can lead to more than one step: something waits for nothing, or answers what is raised.
func (f *flattening) steps() {
	raised := map[string]bool{}
	for _, n := range f.nodes {
		for _, list := range [][]Action{n.Entry, n.Exit} {
			for _, a := range list {
				raised[a.Raise] = true
			}
		}
		for _, e := range n.edges {
			for _, a := range e.Do {
				raised[a.Raise] = true
			}
		}
		if n.Kind == Final && n.parent != f.root {
			raised["done.state."+n.parent.ID] = true
		}
	}
	for _, n := range f.nodes {
		for _, e := range n.edges {
			f.out.Steps = f.out.Steps || e.eventless() || !e.timed() && e.Event.Kind == Own && answered(e.Event, raised)
		}
	}
}

// timed tells whether a state waits for a time.
func (n *node) timed() bool {
	return slices.ContainsFunc(n.edges, func(e *edge) bool { return e.timed() })
}

// events lists what happens from outside, and looks for what code cannot know.
func (f *flattening) events() {
	for _, n := range f.nodes {
		for _, e := range n.edges {
			for _, t := range e.When.Terms() {
				quiet := e.timed() || e.eventless() || e.Event.Kind == Own
				switch t := t.(type) {
				case contract.PropIs, contract.NumberIs, contract.PropSet:
				case contract.Direction:
					if quiet {
						f.fail(n.ID, "ask for it where a key or a pointer is heard", "the direction of text is asked for where nothing is heard")
					}
				case contract.Container:
					if f.out.Wide = true; quiet || t.Name != "" {
						f.fail(n.ID, "ask for the component's own container, where something is heard", "%s is asked for where nothing is heard, or of another", t)
					}
				default:
					f.fail(n.ID, "let a rule ask for it", "%s is asked for, which code does not know", t)
				}
			}
			for _, a := range slices.Concat(n.Entry, n.Exit, e.Do) {
				if strings.Contains(a.To+a.With, "In(") {
					f.fail(n.ID, "ask for it in a condition", "what is assigned or told depends on which state is active")
				}
			}
			if e.Event.Kind == Crossed && e.Event.Name != "" {
				f.fail(n.ID, "hear that any is crossed, and ask for the width", "a single switch point, %s, is heard", e.Event.Name)
			}
			if e.timed() || e.eventless() || slices.Contains(f.out.Events, e.Event) {
				continue
			}
			if e.Event.Kind == Own {
				continue
			}
			f.out.Events = append(f.out.Events, e.Event)
		}
	}
	for _, list := range f.entries() {
		for _, a := range list {
			if a.Tell != "" {
				f.fail("", "tell it on the way to the first state", "%s is told before anybody listens", a.Tell)
			}
		}
	}
}

func (f *flattening) entries() (out [][]Action) {
	for _, r := range f.out.Regions {
		out = append(out, r.Entry)
	}
	return out
}

// answered tells whether a transition waits for something that is raised.
func answered(e Event, raised map[string]bool) bool {
	for name := range raised {
		if name != "" && e.Stands(Event{Kind: Own, Name: name}) {
			return true
		}
	}
	return false
}
