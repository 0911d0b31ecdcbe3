package contract

import (
	"bytes"
	"encoding/json"
	"fmt"
)

// whenJSON is a condition as it is stored.
type whenJSON struct {
	Props      map[string]json.RawMessage `json:"props,omitempty"`
	Numbers    map[string]boundsJSON      `json:"numbers,omitempty"`
	Set        map[string]bool            `json:"set,omitempty"`
	States     []string                   `json:"states,omitempty"`
	Theme      map[string]string          `json:"theme,omitempty"`
	Direction  string                     `json:"direction,omitempty"`
	Viewport   *Range                     `json:"viewport,omitempty"`
	Container  *Range                     `json:"container,omitempty"`
	Containers map[string]Range           `json:"containers,omitempty"` // those of a name
}

// boundsJSON are the bounds of a number: from and to are part of the range, above and below
// are not.
type boundsJSON struct {
	From  *float64 `json:"from,omitempty"`
	Above *float64 `json:"above,omitempty"`
	To    *float64 `json:"to,omitempty"`
	Below *float64 `json:"below,omitempty"`
}

func (t NumberIs) json() (out boundsJSON) {
	at := func(b Bound, inclusive, exclusive **float64) {
		switch b.Kind {
		case Inclusive:
			*inclusive = &b.At
		case Exclusive:
			*exclusive = &b.At
		}
	}
	at(t.Low, &out.From, &out.Above)
	at(t.High, &out.To, &out.Below)
	return out
}

func (in boundsJSON) bounds() (low, high Bound) {
	for _, b := range []struct {
		at   *float64
		kind BoundKind
		to   *Bound
	}{{in.From, Inclusive, &low}, {in.Above, Exclusive, &low}, {in.To, Inclusive, &high}, {in.Below, Exclusive, &high}} {
		if b.at != nil {
			*b.to = Bound{*b.at, b.kind}
		}
	}
	return low, high
}

// MarshalJSON writes the terms by kind; keys come in canonical order.
func (w When) MarshalJSON() ([]byte, error) {
	var out whenJSON
	for _, t := range w.terms {
		switch t := t.(type) {
		case PropIs:
			text, err := json.Marshal(t.Value)
			if err != nil {
				return nil, err
			}
			put(&out.Props, t.Prop, json.RawMessage(text))
		case NumberIs:
			put(&out.Numbers, t.Prop, t.json())
		case PropSet:
			put(&out.Set, t.Prop, t.Set)
		case InState:
			out.States = append(out.States, t.State)
		case Theme:
			put(&out.Theme, t.Modifier, t.Context)
		case Direction:
			out.Direction = t.Is
		case Viewport:
			out.Viewport = &t.Range
		case Container:
			if t.Name == "" {
				out.Container = &t.Range
			} else {
				put(&out.Containers, t.Name, t.Range)
			}
		}
	}
	return json.Marshal(out)
}

func put[V any](m *map[string]V, key string, v V) {
	if *m == nil {
		*m = map[string]V{}
	}
	(*m)[key] = v
}

// UnmarshalJSON reads what MarshalJSON writes.
func (w *When) UnmarshalJSON(text []byte) error {
	var in whenJSON
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&in); err != nil {
		return fmt.Errorf("a condition: %w", err)
	}
	var terms []Term
	for _, prop := range sortedKeys(in.Props) {
		v, err := decodeNamed(in.Props[prop])
		if err != nil {
			return fmt.Errorf("the condition on %s: %w", prop, err)
		}
		terms = append(terms, PropIs{prop, v})
	}
	for _, prop := range sortedKeys(in.Numbers) {
		low, high := in.Numbers[prop].bounds()
		terms = append(terms, NumberIs{prop, low, high})
	}
	for _, prop := range sortedKeys(in.Set) {
		terms = append(terms, PropSet{prop, in.Set[prop]})
	}
	for _, s := range in.States {
		terms = append(terms, InState{s})
	}
	for _, modifier := range sortedKeys(in.Theme) {
		terms = append(terms, Theme{modifier, in.Theme[modifier]})
	}
	if in.Direction != "" {
		terms = append(terms, Direction{in.Direction})
	}
	if in.Viewport != nil {
		terms = append(terms, Viewport{*in.Viewport})
	}
	if in.Container != nil {
		terms = append(terms, Container{Range: *in.Container})
	}
	for _, name := range sortedKeys(in.Containers) {
		terms = append(terms, Container{in.Containers[name], name})
	}
	*w = Of(terms...)
	return nil
}
