package behaviour

import (
	"cmp"
	"fmt"
	"slices"
)

// Flat is a machine as code is written of it: regions side by side, each in one of its leaves, and what leads from leaf to leaf.
type Flat struct {
	*Chart
	Regions  []Region
	Common   []Move   // of a root that holds all at once: what happens to none of them
	Memories []Memory // of histories
	Events   []Event  // from outside that something is done at, as transitions name them
	Wide     bool     // the width of the container is asked for
	Steps    bool     // one event can lead to more than one step: something is raised, or waits for nothing
}

// Region is what is inside of a state that holds others, one of them at a time.
type Region struct {
	State   string
	Leaves  []string // states without others inside, in document order
	Begins  string   // leaf
	Entry   []Action // of what it begins with
	Answers []Answer // innermost first
}

// Answer is what is done in some leaves of a region.
type Answer struct {
	State  string // whose transitions they are
	Leaves []string
	Moves  []Move // the first that may be taken is
}

// Move is a transition with all that is done on the way.
type Move struct {
	Transition
	Index    int      // among its state's transitions
	Do       []Action // on exit, on the way, and on entry
	Leaf     string   // where it leads; empty for nowhere
	Back     string   // the history that it leads back by, instead
	Notes    []Note   // what histories remember of it
	Restarts []string // states that are left and entered again, whose times begin again
	Source   string   // id of its state
	Region   int      // -1 for none
}

// Memory is what a history remembers.
type Memory struct {
	History string
	Region  int
	First   string // leaf, before anything was there
}

// Note is what a history remembers from now on: a leaf; of none the one that is left.
type Note struct{ History, Leaf string }

// Flatten gives a machine as code is written of it, or what in it has no such form.
func (c *Chart) Flatten() (*Flat, []Problem) {
	f := &flattening{Chart: c, out: &Flat{Chart: c}, region: map[*node]int{}}
	f.flatten()
	return f.out, f.problems
}

// Timer is the name of the event that a move's time is over; empty for one without.
func (m Move) Timer() string {
	if !m.timed() {
		return ""
	}
	return fmt.Sprintf("%s %d", m.Source, m.Index)
}

// Eventless tells whether a move waits for nothing.
func (m Move) Eventless() bool { return m.eventless() }

// Inside lists the leaves of a region that are a state, or inside of it.
func (f *Flat) Inside(region int, state string) (out []string) {
	n := f.byID[state]
	for _, id := range f.Regions[region].Leaves {
		if leaf := f.byID[id]; n != nil && (leaf == n || leaf.in(n)) {
			out = append(out, id)
		}
	}
	return out
}

// SaidIn gives what is said of a part in each leaf of a region, as expressions; none where nothing is. The innermost, then the last, has the last word.
func (f *Flat) SaidIn(region int, part, name string) map[string]string {
	out := map[string]string{}
	for _, id := range f.Regions[region].Leaves {
		for at := f.byID[id]; at != nil && out[id] == ""; at = at.parent {
			for _, s := range at.Sets {
				if s.Part == part && s.Name == name {
					out[id] = s.Value
				}
			}
		}
	}
	return out
}

// Saying gives the region whose states say something of a part; the first when the outermost state does.
func (f *Flat) Saying(part, name string) int {
	for i := range f.Regions {
		for _, id := range f.Regions[i].Leaves {
			for at := f.byID[id]; at != nil && at != f.root; at = at.parent {
				if slices.ContainsFunc(at.Sets, func(s Set) bool { return s.Part == part && s.Name == name }) {
					return i
				}
			}
		}
	}
	return 0
}

// At lists the events that are heard at a part; of no part those that happen anywhere on the component.
func (f *Flat) At(part string) (out []Event) {
	for _, e := range f.Events {
		if e.Part == part {
			out = append(out, e)
		}
	}
	return out
}

// SaysOf lists what some state says of a part, by name.
func (f *Flat) SaysOf(part string) (out []string) {
	for _, n := range f.nodes {
		for _, s := range n.Sets {
			if s.Part == part && !slices.Contains(out, s.Name) {
				out = append(out, s.Name)
			}
		}
	}
	return out
}

// Parts lists the ids of parts that code has to find in the page: those that get the focus, those beside of which a press is heard, and those whose press it is.
func (f *Flat) Parts() (out []string) {
	add := func(id string) {
		if id != "" && id != Elsewhere && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	outside := slices.ContainsFunc(f.Events, func(e Event) bool { return e.Kind == OutsidePress })
	for _, e := range f.Events {
		if outside && (e.Kind == OutsidePress || e.Kind == Press) {
			add(e.Part)
		}
	}
	for _, n := range f.nodes {
		for _, t := range append([]Transition{{Do: n.Entry}, {Do: n.Exit}}, n.On...) {
			for _, a := range t.Do {
				add(a.Focus)
			}
		}
	}
	return out
}

// First gives the leaf that is active when a state is entered.
func (f *Flat) First(state string) string {
	fl := flattening{Chart: f.Chart}
	return leafOf(fl.entered(f.byID[state]))
}

// Tells lists what is told with an event of a name, each kind once: number, string, boolean, or nothing. Of props their kinds are asked; a text where there is none.
func (f *Flat) Tells(name string, prop func(id string) string) (out []string) {
	of := func(name string) string {
		if name == "event" {
			return "number"
		}
		for _, v := range f.Machine.Values {
			if v.Name == name {
				return KindOf(v.Initial)
			}
		}
		return cmp.Or(prop(name), "string")
	}
	for _, n := range f.nodes {
		for _, t := range append([]Transition{{Do: n.Entry}, {Do: n.Exit}}, n.On...) {
			for _, a := range t.Do {
				kind := ""
				if a.Tell != name {
					continue
				}
				if a.With != "" {
					kind = f.expr(a.With).Kind(of)
				}
				if !slices.Contains(out, kind) {
					out = append(out, kind)
				}
			}
		}
	}
	return out
}

// KindOf tells what a value is: number, string or boolean.
func KindOf(v any) string {
	switch v.(type) {
	case float64:
		return "number"
	case bool:
		return "boolean"
	}
	return "string"
}

// Crosses tells whether it is heard that the container's width crosses a switch point.
func (f *Flat) Crosses() bool {
	return slices.ContainsFunc(f.Events, func(e Event) bool { return e.Kind == Crossed })
}
