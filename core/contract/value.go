package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/css"
)

// Value is a prop's value. It is sealed; which of them a prop takes is its type's to
// say, and a slot or an event has none. Equal compares them, and String gives their text
// as people read it. A nil Value is none.
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
	// NumberValue is a finite number.
	NumberValue float64
	// LinkValue is an address.
	LinkValue string
	// IconValue is the name of one of an icon's pictures.
	IconValue string
	// ImageValue is a picture at an address, of a size in px.
	ImageValue struct {
		Source string  `json:"src"`
		Alt    string  `json:"alt"`
		Width  float64 `json:"width"`
		Height float64 `json:"height"`
	}
	// RichValue is text with blocks and runs in it.
	RichValue []Block
	// ListValue are items: values by the id of the item's prop.
	ListValue []Values
	// FilledSlot stands for what a use puts into a slot.
	FilledSlot struct{}
)

func (OptionValue) isValue() {}
func (FlagValue) isValue()   {}
func (TextValue) isValue()   {}
func (NumberValue) isValue() {}
func (LinkValue) isValue()   {}
func (IconValue) isValue()   {}
func (ImageValue) isValue()  {}
func (RichValue) isValue()   {}
func (ListValue) isValue()   {}
func (FilledSlot) isValue()  {}

func (v OptionValue) String() string { return string(v) }
func (v TextValue) String() string   { return string(v) }
func (v NumberValue) String() string { return css.FormatNumber(float64(v)) }
func (v LinkValue) String() string   { return string(v) }
func (v IconValue) String() string   { return string(v) }

func (v FlagValue) String() string {
	if v {
		return "true"
	}
	return "false"
}

func (v ImageValue) String() string {
	if v.Alt != "" {
		return v.Alt
	}
	return v.Source
}

func (v RichValue) String() string {
	lines := make([]string, len(v))
	for i, b := range v {
		lines[i] = b.text()
	}
	return strings.Join(lines, "\n")
}

func (v ListValue) String() string {
	if len(v) == 1 {
		return "1 item"
	}
	return fmt.Sprintf("%d items", len(v))
}

func (FilledSlot) String() string { return "filled" }

// Equal tells whether two values are the same.
func Equal(a, b Value) bool { return reflect.DeepEqual(a, b) }

// IsSet tells whether there is anything in a value: an empty text, rich text, address
// or list is as good as none.
func IsSet(v Value) bool {
	switch v := v.(type) {
	case nil:
		return false
	case TextValue:
		return v != ""
	case LinkValue:
		return v != ""
	case RichValue:
		return len(v) > 0
	case ListValue:
		return len(v) > 0
	}
	return true
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
