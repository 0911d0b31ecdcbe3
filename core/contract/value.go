package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Value is a prop's value: an OptionValue, FlagValue or TextValue. It is sealed;
// which of them a prop takes is its type's to say. Values compare with ==, and
// String gives their text as people read it.
type Value interface {
	String() string
	isValue()
}

type (
	// OptionValue is one of a choice's options.
	OptionValue string
	// FlagValue tells whether a flag is set.
	FlagValue bool
	// TextValue is plain text.
	TextValue string
)

func (OptionValue) isValue() {}
func (FlagValue) isValue()   {}
func (TextValue) isValue()   {}

func (v OptionValue) String() string { return string(v) }
func (v TextValue) String() string   { return string(v) }

func (v FlagValue) String() string {
	if v {
		return "true"
	}
	return "false"
}

// Values are values by the id of their prop.
type Values map[string]Value

// bareOption is an option that a key can hold as it is.
var bareOption = regexp.MustCompile(`^[\p{L}\p{Nd}_-]+$`)

// Key writes the values of the props named, canonically: the same text for the
// same values, as "size=m strong=true". What is no plain word, or looks like a flag's
// value, is quoted.
func (v Values) Key(props []string) string {
	words := make([]string, 0, len(props))
	for _, p := range slices.Sorted(slices.Values(props)) {
		value := v[p]
		if value == nil {
			continue
		}
		text := value.String()
		if _, flag := value.(FlagValue); !flag && (text == "true" || text == "false" || !bareOption.MatchString(text)) {
			text = strconv.Quote(text)
		}
		words = append(words, p+"="+text)
	}
	return strings.Join(words, " ")
}

// With gives a copy of the values with others set.
func (v Values) With(others Values) Values {
	out := maps.Clone(v)
	if out == nil {
		out = Values{}
	}
	maps.Copy(out, others)
	return out
}

// decodeNamed reads a value that a rule may name: a string is an option, a boolean
// a flag's value.
func decodeNamed(text json.RawMessage) (Value, error) {
	var option string
	if json.Unmarshal(text, &option) == nil {
		return OptionValue(option), nil
	}
	var flag bool
	if json.Unmarshal(text, &flag) == nil {
		return FlagValue(flag), nil
	}
	return nil, fmt.Errorf("%s is neither an option nor true or false", text)
}

func sortedKeys[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }
