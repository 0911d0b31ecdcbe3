package contract

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// TextKind is the kind of a prop that is plain text.
const TextKind Kind = "text"

// Text is plain text. Its default says what the text is for.
type Text struct {
	Initial string `json:"default"`
	Longest int    `json:"longest,omitempty"` // letters; 0 for any
}

func readText(text json.RawMessage) (Type, error) {
	var t Text
	return t, json.Unmarshal(text, &t)
}

func (Text) Kind() Kind       { return TextKind }
func (Text) Control() string  { return "text" }
func (t Text) Default() Value { return TextValue(t.Initial) }

func (t Text) Takes(v Value) bool {
	_, ok := v.(TextValue)
	return ok
}

func (t Text) Decode(text json.RawMessage) (Value, error) {
	var s string
	if json.Unmarshal(text, &s) != nil {
		return nil, fmt.Errorf("%s is no text", text)
	}
	return TextValue(s), nil
}

func (Text) Nameable() []Value { return nil }

// Samples are the default, nothing, a text many times as long, and one that looks like another
// kind's value.
func (t Text) Samples() []Value {
	long := t.Initial
	for len(long) < 120 {
		long += " " + t.Initial + " and more of it"
	}
	return []Value{t.Default(), TextValue(""), TextValue(long), TextValue("true")}
}

func (t Text) Changes(name string, older Type) (out []Change) {
	old := older.(Text)
	if t.Initial != old.Initial {
		out = append(out, change(Patch, "%s: the default text is %q instead of %q", name, t.Initial, old.Initial))
	}
	return append(out, tighter(name, "letters", t.Longest, old.Longest)...)
}

func (Text) TypeScript() string { return "string" }

func (t Text) Schema() map[string]any {
	out := map[string]any{"type": "string", "default": t.Initial}
	if t.Longest > 0 {
		out["maxLength"] = t.Longest
	}
	return out
}

func (t Text) check(name, at string, found *problem.List) {
	tooLong(name, at, len([]rune(t.Initial)), t.Longest, found)
}

func (t Text) withDefault(v Value) Type {
	t.Initial = v.String()
	return t
}

func (t Text) clone() Type { return t }
