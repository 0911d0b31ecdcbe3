package contract

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// FlagKind is the kind of a prop that is set or not.
const FlagKind Kind = "flag"

// Flag is set or not.
type Flag struct {
	Initial bool `json:"default"`
}

func readFlag(text json.RawMessage) (Type, error) {
	var f Flag
	return f, json.Unmarshal(text, &f)
}

func (Flag) Kind() Kind       { return FlagKind }
func (Flag) Control() string  { return "switch" }
func (f Flag) Default() Value { return FlagValue(f.Initial) }

func (f Flag) Takes(v Value) bool {
	_, ok := v.(FlagValue)
	return ok
}

func (f Flag) Decode(text json.RawMessage) (Value, error) {
	var set bool
	if json.Unmarshal(text, &set) != nil {
		return nil, fmt.Errorf("%s is neither true nor false", text)
	}
	return FlagValue(set), nil
}

func (f Flag) Nameable() []Value { return []Value{FlagValue(f.Initial), FlagValue(!f.Initial)} }
func (f Flag) Samples() []Value  { return f.Nameable() }

func (f Flag) Changes(name string, older Type) []Change {
	if old := older.(Flag); f.Initial != old.Initial {
		return []Change{change(Major, "%s: the default is %t instead of %t", name, f.Initial, old.Initial)}
	}
	return nil
}

func (Flag) TypeScript() string { return "boolean" }

func (f Flag) Schema() map[string]any {
	return map[string]any{"type": "boolean", "default": f.Initial}
}

func (Flag) check(string, string, *problem.List) {}

func (f Flag) withDefault(v Value) Type { return Flag{v == FlagValue(true)} }
func (f Flag) clone() Type              { return f }
