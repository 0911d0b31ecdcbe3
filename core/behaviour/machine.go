// Package behaviour holds a component's behaviour as a machine of states: checked, explored, run and written as SCXML. Its semantics are those of SCXML 1.0
// (State Chart XML, W3C Recommendation 2015), the algorithm that of its appendix D.
package behaviour

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Machine is what a component does: the states it can be in, and what leads from one to another.
type Machine struct {
	Name   string   `json:"name"`
	Values []Value  `json:"values,omitempty"` // that it keeps beside its states
	Given  string   `json:"given,omitempty"`  // id of the prop that says in which state it begins: a choice by the states' ids, a flag as StateOf says
	Order  []string `json:"order,omitempty"`  // states that are expected to follow each other by time alone
	Root   *State   `json:"root"`             // holds all others; never left
}

// Value is something that a machine keeps: a number, a text or a flag.
type Value struct {
	Name    string `json:"name"`
	Initial any    `json:"initial"`        // float64, string or bool
	Prop    string `json:"prop,omitempty"` // id of the prop whose value it begins with, where one is given
}

// State is one state, with those inside of it.
type State struct {
	ID       string       `json:"id"`
	Kind     Kind         `json:"kind,omitempty"`
	Initial  []string     `json:"initial,omitempty"` // ids of what is entered with it; the first of its states when empty
	States   []*State     `json:"states,omitempty"`
	On       []Transition `json:"on,omitempty"`
	Entry    []Action     `json:"entry,omitempty"`
	Exit     []Action     `json:"exit,omitempty"`
	Sets     []Set        `json:"sets,omitempty"`     // while it is in it; what is inside has the last word
	Defaults []string     `json:"defaults,omitempty"` // of a history: where it leads before anything was there
}

// Kind is what sort of state one is.
type Kind string

// Kinds of states. One that holds others is in one of them; a parallel one in all.
const (
	Plain       Kind = ""
	Parallel    Kind = "parallel"
	Final       Kind = "final"
	History     Kind = "history"      // the state inside that was left last
	DeepHistory Kind = "deep history" // with all that was inside of it
)

// Transition leads from a state to others.
type Transition struct {
	Event    Event         `json:"event,omitzero"`     // without one, and without a time, it is taken as soon as it may
	After    float64       `json:"after,omitempty"`    // ms since its state was entered
	Token    string        `json:"token,omitempty"`    // of the duration that After is
	When     contract.When `json:"when,omitzero"`      // of props and of what the component stands in
	If       string        `json:"if,omitempty"`       // expression
	To       []string      `json:"to,omitempty"`       // ids; none stays
	Internal bool          `json:"internal,omitempty"` // its state is not left when all it leads to is inside
	Do       []Action      `json:"do,omitempty"`
}

// Event is what happens to a component. A transition's event stands for all that it leaves open: a press anywhere, any key.
type Event struct {
	Kind EventKind `json:"kind,omitempty"`
	Name string    `json:"name,omitempty"` // of a key as KeyboardEvent.key has it, but Space; a prop, a switch point, or an event of its own
	Part string    `json:"part,omitempty"` // id of the part it happens at
}

// EventKind is what sort of event one is.
type EventKind string

// Kinds of events.
const (
	Press        EventKind = "press"
	OutsidePress EventKind = "outside-press" // beside the part
	Key          EventKind = "key"
	FocusIn      EventKind = "focus-in"
	FocusOut     EventKind = "focus-out"
	PointerIn    EventKind = "pointer-in"
	PointerOut   EventKind = "pointer-out"
	Changed      EventKind = "changed" // a prop
	Crossed      EventKind = "crossed" // a switch point of the container or the viewport
	Loaded       EventKind = "loaded"
	Failed       EventKind = "failed"
	Dragged      EventKind = "dragged" // with where to, a number
	Own          EventKind = "own"     // raised by the machine, or sent to it
)

// EventKinds lists all kinds.
var EventKinds = []EventKind{Press, OutsidePress, Key, FocusIn, FocusOut, PointerIn, PointerOut, Changed, Crossed, Loaded, Failed, Dragged, Own}

// named are the kinds whose events have a name.
var named = []EventKind{Key, Changed, Crossed, Own}

// String gives the event as SCXML names it (5.9.3): "key.Escape.menu".
func (e Event) String() string {
	if e.Kind == Own {
		return e.Name
	}
	words := []string{string(e.Kind)}
	for _, w := range []string{e.Name, e.Part} {
		if w != "" {
			words = append(words, w)
		}
	}
	return strings.Join(words, ".")
}

// ParseEvent reads what String writes. What begins with no kind's word is an event of the machine's own.
func ParseEvent(text string) Event {
	words := strings.Split(text, ".")
	kind := EventKind(words[0])
	if !slices.Contains(EventKinds, kind) || kind == Own {
		return Event{Kind: Own, Name: text}
	}
	e := Event{Kind: kind}
	rest := words[1:]
	if slices.Contains(named, kind) && len(rest) > 0 {
		e.Name, rest = rest[0], rest[1:]
	}
	e.Part = strings.Join(rest, ".")
	return e
}

// Stands tells whether a transition's event stands for one that happens.
func (e Event) Stands(for_ Event) bool {
	if e.Kind == Own {
		return for_.Kind == Own && (e.Name == "*" || e.Name == for_.Name || strings.HasPrefix(for_.Name, strings.TrimSuffix(e.Name, ".*")+"."))
	}
	return e.Kind == for_.Kind && (e.Name == "" || e.Name == for_.Name) && (e.Part == "" || e.Part == for_.Part)
}

// Action is one thing that is done on a transition, on entry or on exit: one of these.
type Action struct {
	Assign string `json:"assign,omitempty"` // name of a value, which becomes what To says
	To     string `json:"to,omitempty"`     // expression
	Raise  string `json:"raise,omitempty"`  // name of an event of its own, which comes before all from outside
	Tell   string `json:"tell,omitempty"`   // name of an event of the component, which whoever uses it hears
	With   string `json:"with,omitempty"`   // expression of what is told with it
	Focus  string `json:"focus,omitempty"`  // id of the part that gets the focus, or Elsewhere
}

// Elsewhere is where the focus is that went away by itself: nobody has to give it back.
const Elsewhere = "-"

// Set is what a state says of a part: an ARIA attribute, hidden, or a prop of a component inside.
type Set struct {
	Part  string `json:"part"`
	Name  string `json:"name"`
	Value string `json:"value"` // expression
}

// Limits of what is read and run.
const (
	MostStates      = 10_000
	MostDepth       = 64
	MostTransitions = 50_000
	MostValues      = 100
	longestTime     = 1 << 31 // ms, as of a browser's timers (HTML, 8.6)
	mostSteps       = 1_000   // that follow one event without another
)

// Problem is something wrong with how a machine is made.
type Problem struct {
	State   string `json:"state,omitempty"`
	Message string `json:"message"`
	Fix     string `json:"fix"`
}

func (p Problem) Error() string {
	if p.State == "" {
		return p.Message + ": " + p.Fix
	}
	return fmt.Sprintf("%s: %s: %s", p.State, p.Message, p.Fix)
}

// Rest is the state that a flag stands for when it is off.
const Rest = "rest"

// StateOf gives the id of the state that the value of a prop, by its id, stands for.
func StateOf(prop string, v contract.Value) string {
	switch v {
	case contract.FlagValue(true):
		return contract.Identifier(prop, "on")
	case contract.FlagValue(false):
		return Rest
	case nil:
		return ""
	}
	return contract.Identifier(v.String(), "state")
}

// Walk visits a state and all inside of it, in document order.
func (s *State) Walk(visit func(s, parent *State)) {
	var walk func(s, parent *State)
	walk = func(s, parent *State) {
		visit(s, parent)
		for _, c := range s.States {
			walk(c, s)
		}
	}
	walk(s, nil)
}

// Problems lists what is wrong with how a machine is made: it can be run when there is none.
func (m *Machine) Problems() (out []Problem) {
	add := func(state, fix, format string, args ...any) {
		if len(out) < 100 {
			out = append(out, Problem{state, fmt.Sprintf(format, args...), fix})
		}
	}
	if m.Root == nil {
		return []Problem{{"", "there is no state", "begin with one"}}
	}
	if n, deep := m.Root.size(0); n > MostStates || deep > MostDepth {
		return []Problem{{"", fmt.Sprintf("it has %d states, %d deep", n, deep), fmt.Sprintf("have at most %d, %d deep", MostStates, MostDepth)}}
	}
	values := map[string]bool{}
	for i, v := range m.Values {
		switch v.Initial.(type) {
		case float64, string, bool:
		default:
			add("", "begin with a number, a text or a flag", "the value %s is a %T", v.Name, v.Initial)
		}
		if text, ok := v.Initial.(string); ok && (strings.ContainsAny(text, "\\\r\n") || strings.Contains(text, "'") && strings.Contains(text, `"`)) {
			add("", "write it without line breaks and backslashes, and with one kind of quotes", "the value %s is a text that cannot be written", v.Name)
		}
		if n, ok := v.Initial.(float64); ok && (math.IsNaN(n) || math.IsInf(n, 0)) {
			add("", "begin with a number", "the value %s is no number", v.Name)
		}
		if v.Prop != "" && !isWord(v.Prop) {
			add("", "name it by its id", "the value %s begins with the prop %q", v.Name, v.Prop)
		}
		if !isName(v.Name) || values[v.Name] {
			add("", "give it a name of its own, of letters and digits", "the value %d is called %q", i+1, v.Name)
		}
		values[v.Name] = true
	}
	if strings.ContainsAny(m.Name, "\r\n#") || strings.Contains(m.Name, ", ") || m.Name != strings.TrimSpace(m.Name) {
		add("", "give it a name of one line, without # and commas", "it is called %q", m.Name)
	}
	if m.Given != "" && (!isWord(m.Given) || m.Root.Kind == Parallel) {
		add("", "name it by its id, in a machine that is in one state at a time", "the prop %q says where it begins", m.Given)
	}
	if len(m.Order) > MostValues || slices.ContainsFunc(m.Order, func(id string) bool { return !isWord(id) }) {
		add("", fmt.Sprintf("name at most %d states", MostValues), "the order that is expected cannot be written")
	}
	if len(m.Values) > MostValues {
		add("", fmt.Sprintf("have at most %d", MostValues), "it keeps %d values", len(m.Values))
	}
	states := map[string]*State{}
	parents := map[*State]*State{}
	count := 0
	m.Root.Walk(func(s, parent *State) {
		if s.ID != "" && !isWord(s.ID) {
			add(s.ID, "name it in one word of letters, digits, - . and _", "a state is called %q", s.ID)
		}
		if s.ID == "" || states[s.ID] != nil {
			add(s.ID, "give each state its own id", "a state is called %q, as another is, or nothing", s.ID)
		}
		states[s.ID], parents[s] = s, parent
		count += len(s.On)
	})
	if count > MostTransitions {
		return append(out, Problem{"", fmt.Sprintf("it has %d transitions", count), fmt.Sprintf("have at most %d", MostTransitions)})
	}
	inside := func(s, of *State) bool {
		for p := parents[s]; p != nil; p = parents[p] {
			if p == of {
				return true
			}
		}
		return false
	}
	expression := func(state, what, text string) {
		if _, err := ParseExpr(text); err != nil {
			add(state, "write it as in index + 1", "%s: %s", what, err)
		}
	}
	actions := func(s *State, list []Action) {
		for _, a := range list {
			said := 0
			for _, one := range []string{a.Assign, a.Raise, a.Tell, a.Focus} {
				if one != "" {
					said++
				}
			}
			for _, name := range []string{a.Raise, a.Tell, a.Focus} {
				if name != "" && !isWord(name) {
					add(s.ID, "name it in one word", "an action is about %q", name)
				}
			}
			if said != 1 {
				add(s.ID, "assign, raise, tell or focus", "an action does %d things", said)
			}
			if a.Assign != "" {
				if !values[a.Assign] {
					add(s.ID, "declare the value", "there is no value %q to assign", a.Assign)
				}
				expression(s.ID, "what "+a.Assign+" becomes", a.To)
			}
			if a.With != "" {
				expression(s.ID, "what is told", a.With)
			}
		}
	}
	m.Root.Walk(func(s, parent *State) {
		leaf := s.Kind == Final || s.Kind == History || s.Kind == DeepHistory
		switch {
		case !slices.Contains([]Kind{Plain, Parallel, Final, History, DeepHistory}, s.Kind):
			add(s.ID, "parallel, final, history or deep history", "there is no kind of state %q", s.Kind)
		case leaf && len(s.States) > 0:
			add(s.ID, "put them beside it", "a %s state holds others", s.Kind)
		case leaf && len(s.On) > 0:
			add(s.ID, "take them away", "a %s state has transitions", s.Kind)
		case s.Kind == Parallel && len(s.States) == 0:
			add(s.ID, "hold at least one", "a parallel state holds none")
		case parent == nil && leaf:
			add(s.ID, "begin with one that holds others", "the root is a %s state", s.Kind)
		}
		targets := func(what string, ids []string, within bool) {
			for _, id := range ids {
				to := states[id]
				switch {
				case to == nil:
					add(s.ID, "name one that is there", "%s leads to %q, which is not there", what, id)
				case to == m.Root && !within:
					add(s.ID, "lead to a state", "%s leads to the root", what)
				case within && !inside(to, s):
					add(s.ID, "name one inside of it", "%s is %q, which is not inside", what, id)
				}
			}
		}
		targets("its initial state", s.Initial, true)
		if s.Kind == History || s.Kind == DeepHistory {
			if parent == nil || len(s.Defaults) == 0 {
				add(s.ID, "say where it leads before anything was there", "a history leads nowhere")
			}
			targets("a history", s.Defaults, false)
		}
		for _, t := range s.On {
			targets("a transition", t.To, false)
			switch {
			case math.IsNaN(t.After) || math.IsInf(t.After, 0) || t.After < 0 || t.After > longestTime:
				add(s.ID, "give it so many ms", "a time that never comes: %v ms", t.After)
			case t.After > 0 && t.After < 1: // no timer of a browser is shorter (HTML, 8.6)
				add(s.ID, "give it at least 1 ms, or none", "a time of %v ms", t.After)
			case (t.After > 0 || t.Token != "") && t.Event != (Event{}):
				add(s.ID, "have two transitions", "a transition waits for a time and for %s", t.Event)
			case t.Event.Kind != "" && !slices.Contains(EventKinds, t.Event.Kind):
				add(s.ID, "name one that there is", "there is no event %q", t.Event.Kind)
			case t.Event.Kind != Own && t.Event.Name+t.Event.Part != "" && (!isWord(t.Event.Name+t.Event.Part) || strings.ContainsAny(t.Event.Name+t.Event.Part, ".*")), t.Event.Kind == Own && !isWord(t.Event.Name):
				add(s.ID, "write names without spaces and dots: Space, Period", "the event %q cannot be written", t.Event)
			case slices.Contains(named, t.Event.Kind) && t.Event.Name == "" && t.Event.Part != "":
				add(s.ID, "name it", "%s at %s has no name", t.Event.Kind, t.Event.Part)
			}
			if t.If != "" {
				expression(s.ID, "a condition", t.If)
			}
			actions(s, t.Do)
		}
		actions(s, s.Entry)
		actions(s, s.Exit)
		for _, set := range s.Sets {
			if !isWord(set.Part) || !isWord(set.Name) {
				add(s.ID, "name part and attribute in one word each", "%q of %q is set", set.Name, set.Part)
			}
			expression(s.ID, fmt.Sprintf("%s of %s", set.Name, set.Part), set.Value)
		}
	})
	return out
}

// size counts states and how deep they go, no further than is allowed.
func (s *State) size(depth int) (n, deep int) {
	n, deep = 1, depth
	if depth > MostDepth {
		return n, deep
	}
	for _, c := range s.States {
		in, down := c.size(depth + 1)
		if n, deep = n+in, max(deep, down); n > MostStates {
			break
		}
	}
	return n, deep
}

// isWord tells whether something can stand in a machine's text, and in SCXML, as one word.
func isWord(s string) bool { return s != "" && !strings.ContainsAny(s, " \t\r\n,:#()'\"") }

func isName(s string) bool {
	if s == "" || len(s) > 80 {
		return false
	}
	for i, r := range s {
		if r != '_' && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && (i == 0 || r < '0' || r > '9') {
			return false
		}
	}
	return s != "true" && s != "false"
}

// eventless tells whether a transition waits for nothing.
func (t Transition) eventless() bool { return t.Event == (Event{}) && !t.timed() }

func (t Transition) timed() bool { return t.After > 0 || t.Token != "" }

// words says what a transition waits for.
func (t Transition) words() string {
	switch {
	case t.timed():
		return "after " + cmp.Or(t.Token, fmt.Sprintf("%v ms", t.After))
	case t.eventless():
		return "at once"
	}
	return "on " + t.Event.String()
}
