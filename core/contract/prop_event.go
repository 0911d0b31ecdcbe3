package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"cobrik/core/problem"
)

// EventKind is the kind of a prop that is called when something happens.
const EventKind Kind = "event"

// Event is a function that is called when a part hears an event of the platform (UI Events;
// HTML, 8.1). The part is the prop's.
type Event struct {
	On string `json:"event"` // one of Events, or Told
}

// Told is what an event happens on that no part hears: the behaviour tells of it.
const Told = "told"

// Events are those a part may tell of, as the platform names them.
var Events = []string{
	"click", "change", "input", "submit", "reset", "focus", "blur", "keydown", "keyup", "pointerdown", "pointerup", "pointerenter", "pointerleave", "toggle", "load", "error", "scroll",
}

func readEvent(text json.RawMessage) (Type, error) {
	var e Event
	return e, json.Unmarshal(text, &e)
}

func (Event) Kind() Kind       { return EventKind }
func (Event) Control() string  { return "none" }
func (Event) Default() Value   { return nil }
func (Event) Takes(Value) bool { return false }

func (Event) Decode(json.RawMessage) (Value, error) {
	return nil, fmt.Errorf("an event has no value; what is called is said where the component is used")
}

func (Event) Nameable() []Value { return nil }
func (Event) Samples() []Value  { return []Value{nil} }

func (e Event) Changes(name string, older Type) []Change {
	if old := older.(Event); e.On != old.On {
		return []Change{change(Major, "%s: it is told of %s instead of %s", name, e.On, old.On)}
	}
	return nil
}

func (Event) TypeScript() string { return "(event: Event) => void" }

func (Event) Schema() map[string]any {
	return map[string]any{"description": "Called when it happens"}
}

func (e Event) check(name, at string, found *problem.List) {
	if e.On != Told && !slices.Contains(Events, e.On) {
		found.Errorf("prop-event", at+"/event", "use one of "+strings.Join(Events, ", ")+", or "+Told, "%q is no event that a part may tell of", e.On)
	}
	what, on := strings.CutPrefix(name, "on")
	if first, _ := utf8.DecodeRuneInString(what); !on || what == "" || unicode.IsLower(first) {
		found.Errorf("prop-event", at+"/name", "call it on"+Capitalized(name), "%s is an event, and its name does not begin with on", name)
	}
}

func (e Event) withDefault(Value) Type { return e }
func (e Event) clone() Type            { return e }
