package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// ChoiceKind is the kind of a prop that is one of a few options.
const ChoiceKind Kind = "choice"

// Choice is one of a few options.
type Choice struct {
	Options []string `json:"options"`
	Initial string   `json:"default"`
}

func readChoice(text json.RawMessage) (Type, error) {
	var c Choice
	return c, json.Unmarshal(text, &c)
}

func (Choice) Kind() Kind       { return ChoiceKind }
func (Choice) Control() string  { return "options" }
func (c Choice) Default() Value { return OptionValue(c.Initial) }

func (c Choice) Takes(v Value) bool {
	o, ok := v.(OptionValue)
	return ok && slices.Contains(c.Options, string(o))
}

func (c Choice) Decode(text json.RawMessage) (Value, error) {
	var option string
	if json.Unmarshal(text, &option) != nil || !slices.Contains(c.Options, option) {
		return nil, fmt.Errorf("%s is not one of %s", text, strings.Join(c.Options, ", "))
	}
	return OptionValue(option), nil
}

func (c Choice) Nameable() []Value {
	out := []Value{c.Default()}
	for _, o := range c.Options {
		if o != c.Initial {
			out = append(out, OptionValue(o))
		}
	}
	return out
}

func (c Choice) Samples() []Value { return c.Nameable() }

func (c Choice) Changes(name string, older Type) (out []Change) {
	old := older.(Choice)
	for _, o := range old.Options {
		if !slices.Contains(c.Options, o) {
			out = append(out, change(Major, "%s: the option %s is removed", name, o))
		}
	}
	for _, o := range c.Options {
		if !slices.Contains(old.Options, o) {
			out = append(out, change(Minor, "%s: the option %s is added", name, o))
		}
	}
	// An option that is gone was told of as such.
	if c.Initial != old.Initial && slices.Contains(c.Options, old.Initial) {
		out = append(out, change(Major, "%s: the default is %s instead of %s", name, c.Initial, old.Initial))
	}
	return out
}

func (c Choice) TypeScript() string {
	options := make([]string, len(c.Options))
	for i, o := range c.Options {
		options[i] = quoted(o)
	}
	return strings.Join(options, " | ")
}

func (c Choice) Schema() map[string]any {
	return map[string]any{"enum": c.Options, "default": c.Initial}
}

func (c Choice) check(name, at string, found *problem.List) {
	for i, o := range c.Options {
		if IsReserved(o) {
			found.Errorf("prop-option", fmt.Sprintf("%s/options/%d", at, i), "call it "+o+"-option or otherwise", "every object of JavaScript has a %s already", o)
		}
	}
	if !slices.Contains(c.Options, c.Initial) {
		found.Errorf("prop-default", at+"/default", "name one of "+strings.Join(c.Options, ", "), "the default %q is not an option of %s", c.Initial, name)
	}
}

func (c Choice) withDefault(v Value) Type {
	c.Initial = v.String()
	return c
}

func (c Choice) clone() Type {
	c.Options = slices.Clone(c.Options)
	return c
}

// quoted writes a text as a literal of JSON, TypeScript and JavaScript alike.
func quoted(s string) string {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(s); err != nil {
		panic(err) // strings always encode
	}
	return strings.TrimSuffix(b.String(), "\n")
}
