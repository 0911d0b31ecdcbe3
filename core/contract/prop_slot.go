package contract

import (
	"encoding/json"
	"fmt"
	"slices"

	"cobrik/core/problem"
)

// SlotKind is the kind of a prop that is a place for whatever a use puts there.
const SlotKind Kind = "slot"

// Slot is a place for other components. It has no values of its own: what stands there is
// code of whoever uses the component.
type Slot struct {
	Accepts []string `json:"accepts,omitempty"` // names of the components meant for it; anything when empty
}

func readSlot(text json.RawMessage) (Type, error) {
	var s Slot
	return s, json.Unmarshal(text, &s)
}

func (Slot) Kind() Kind       { return SlotKind }
func (Slot) Control() string  { return "none" }
func (Slot) Default() Value   { return nil }
func (Slot) Takes(Value) bool { return false }

func (Slot) Decode(json.RawMessage) (Value, error) {
	return nil, fmt.Errorf("a slot has no value; what stands in it is said where the component is used")
}

func (Slot) Nameable() []Value { return nil }
func (Slot) Samples() []Value  { return []Value{nil} }

func (s Slot) Changes(name string, older Type) (out []Change) {
	old := older.(Slot)
	for _, a := range old.Accepts {
		if len(s.Accepts) > 0 && !slices.Contains(s.Accepts, a) {
			out = append(out, change(Major, "%s: %s is no longer meant for it", name, a))
		}
	}
	if len(old.Accepts) == 0 && len(s.Accepts) > 0 {
		out = append(out, change(Major, "%s: it is no longer meant for anything, but for a few components", name))
	}
	if len(out) == 0 && !slices.Equal(s.Accepts, old.Accepts) {
		out = append(out, change(Minor, "%s: it is meant for more components", name))
	}
	return out
}

func (Slot) TypeScript() string { return "ReactNode" }

func (Slot) Schema() map[string]any {
	return map[string]any{"description": "Whatever the use puts there"}
}

func (Slot) check(string, string, *problem.List) {}

func (s Slot) withDefault(Value) Type { return s }

func (s Slot) clone() Type {
	s.Accepts = slices.Clone(s.Accepts)
	return s
}
