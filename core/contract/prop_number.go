package contract

import (
	"encoding/json"
	"fmt"
	"math"

	"cobrik/core/css"
	"cobrik/core/problem"
)

// NumberKind is the kind of a prop that is a number.
const NumberKind Kind = "number"

// Number is a finite number, between bounds where they are given, in whole steps from the
// lower bound (or 0) where a step is.
type Number struct {
	Initial *float64 `json:"default,omitempty"`
	Least   *float64 `json:"least,omitempty"`
	Most    *float64 `json:"most,omitempty"`
	Step    float64  `json:"step,omitempty"`
}

func readNumber(text json.RawMessage) (Type, error) {
	var n Number
	return n, json.Unmarshal(text, &n)
}

func (Number) Kind() Kind      { return NumberKind }
func (Number) Control() string { return "number" }

func (n Number) Default() Value {
	if n.Initial == nil {
		return nil
	}
	return NumberValue(*n.Initial)
}

func (n Number) Takes(v Value) bool {
	x, ok := v.(NumberValue)
	return ok && n.flaw(float64(x)) == nil
}

// flaw says why a number is not one of the prop's; nil when it is.
func (n Number) flaw(x float64) error {
	switch {
	case math.IsNaN(x) || math.IsInf(x, 0):
		return fmt.Errorf("%v is no number", x)
	case n.Least != nil && x < *n.Least:
		return fmt.Errorf("%s is less than %s", css.FormatNumber(x), css.FormatNumber(*n.Least))
	case n.Most != nil && x > *n.Most:
		return fmt.Errorf("%s is more than %s", css.FormatNumber(x), css.FormatNumber(*n.Most))
	}
	if n.Step > 0 {
		from := 0.0
		if n.Least != nil {
			from = *n.Least
		}
		if steps := (x - from) / n.Step; math.Abs(steps-math.Round(steps)) > 1e-9*max(1, math.Abs(steps)) {
			return fmt.Errorf("%s is no whole number of steps of %s from %s", css.FormatNumber(x), css.FormatNumber(n.Step), css.FormatNumber(from))
		}
	}
	return nil
}

func (n Number) Decode(text json.RawMessage) (Value, error) {
	var x float64
	if json.Unmarshal(text, &x) != nil {
		return nil, fmt.Errorf("%s is no number", text)
	}
	if err := n.flaw(x); err != nil {
		return nil, err
	}
	return NumberValue(x), nil
}

func (Number) Nameable() []Value { return nil }

// Samples are the default, the bounds, and numbers that change how a text reads: none, one,
// a negative one, one of many digits.
func (n Number) Samples() []Value {
	out := []Value{n.Default()}
	add := func(x float64) {
		v := NumberValue(x)
		for _, o := range out {
			if Equal(o, v) {
				return
			}
		}
		if n.Takes(v) {
			out = append(out, v)
		}
	}
	for _, bound := range []*float64{n.Least, n.Most} {
		if bound != nil {
			add(*bound)
		}
	}
	for _, x := range []float64{0, 1, -3, 1234567} {
		add(x)
	}
	return out
}

func (n Number) Changes(name string, older Type) (out []Change) {
	old := older.(Number)
	if !Equal(n.Default(), old.Default()) {
		out = append(out, change(Major, "%s: the default is %s instead of %s", name, said(n.Default()), said(old.Default())))
	}
	narrower := func(now, was *float64, less func(a, b float64) bool) bool {
		return now != nil && (was == nil || less(*now, *was))
	}
	if narrower(n.Least, old.Least, func(a, b float64) bool { return a > b }) || narrower(n.Most, old.Most, func(a, b float64) bool { return a < b }) {
		out = append(out, change(Major, "%s: its range is narrower", name))
	} else if !same(n.Least, old.Least) || !same(n.Most, old.Most) {
		out = append(out, change(Minor, "%s: its range is wider", name))
	}
	if n.Step != old.Step {
		out = append(out, change(Major, "%s: its step is another", name))
	}
	return out
}

func same(a, b *float64) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }

func (Number) TypeScript() string { return "number" }

func (n Number) Schema() map[string]any {
	out := map[string]any{"type": "number"}
	if n.Initial != nil {
		out["default"] = *n.Initial
	}
	if n.Least != nil {
		out["minimum"] = *n.Least
	}
	if n.Most != nil {
		out["maximum"] = *n.Most
	}
	if n.Step > 0 && (n.Least == nil || math.Mod(*n.Least, n.Step) == 0) { // JSON Schema counts from 0
		out["multipleOf"] = n.Step
	}
	return out
}

func (n Number) check(name, at string, found *problem.List) {
	if n.Least != nil && n.Most != nil && *n.Least > *n.Most {
		found.Errorf("prop-limit", at+"/least", "give a least that is not over the most", "no number is from %s to %s", css.FormatNumber(*n.Least), css.FormatNumber(*n.Most))
	} else if n.Initial != nil {
		if err := n.flaw(*n.Initial); err != nil {
			found.Errorf("prop-default", at+"/default", "give one within its limits", "the default of %s: %s", name, err)
		}
	}
}

func (n Number) withDefault(v Value) Type {
	x := float64(v.(NumberValue))
	n.Initial = &x
	return n
}

func (n Number) clone() Type { return n } // what its pointers lead to never changes
