package contract

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// Kind names what a prop holds.
type Kind string

// Type is what a prop holds: a Choice, Flag or Text. It is sealed, a file a kind, and
// answers all that other rooms ask of a kind.
type Type interface {
	Kind() Kind
	// Default is the value the prop has when nobody gives one.
	Default() Value
	// Takes tells whether a value is one of the prop's.
	Takes(Value) bool
	// Decode reads a value from JSON; the error says what is expected.
	Decode(json.RawMessage) (Value, error)
	// Nameable lists the values a rule may name, the default first; nil when rules
	// cannot name them.
	Nameable() []Value
	// Samples lists values worth looking at, the default first.
	Samples() []Value
	// Changes lists what differs from an older type of the same kind, for a prop of a name.
	Changes(name string, old Type) []Change
	// TypeScript gives the type as TypeScript writes it.
	TypeScript() string
	// Schema gives the type as a JSON Schema (2020-12).
	Schema() map[string]any

	check(name, at string, found *problem.List)
	withDefault(Value) Type
	clone() Type
}

// kinds read a prop's type from its JSON, by the value of its "kind".
var kinds = map[Kind]func(json.RawMessage) (Type, error){
	ChoiceKind: readChoice,
	FlagKind:   readFlag,
	TextKind:   readText,
}

// Prop is one input of the component. Rules and parts refer to it by its id, which
// stays when the name changes. Axis, On and Off tie it to a family's axis, Part to
// the part a flag shows or a text fills.
type Prop struct {
	ID      string
	Name    string
	Purpose string
	Type    Type
	Axis    string
	On      string
	Off     string
	Part    string
}

// propJSON are the members that props of all kinds have.
type propJSON struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Kind    Kind   `json:"kind"`
	Purpose string `json:"purpose,omitempty"`
}

type propOrigin struct {
	Axis string `json:"axis,omitempty"`
	On   string `json:"on,omitempty"`
	Off  string `json:"off,omitempty"`
	Part string `json:"part,omitempty"`
}

// MarshalJSON writes the prop flat: what its kind holds stands beside its name.
func (p Prop) MarshalJSON() ([]byte, error) {
	head, err := json.Marshal(propJSON{p.ID, p.Name, p.Type.Kind(), p.Purpose})
	if err != nil {
		return nil, err
	}
	kind, err := json.Marshal(p.Type)
	if err != nil {
		return nil, err
	}
	origin, err := json.Marshal(propOrigin{p.Axis, p.On, p.Off, p.Part})
	return joined(head, kind, origin), err
}

// joined makes one JSON object of several.
func joined(objects ...[]byte) []byte {
	out := []byte{'{'}
	for _, o := range objects {
		if inner := o[1 : len(o)-1]; len(inner) > 0 {
			if len(out) > 1 {
				out = append(out, ',')
			}
			out = append(out, inner...)
		}
	}
	return append(out, '}')
}

// UnmarshalJSON reads the prop by its kind.
func (p *Prop) UnmarshalJSON(text []byte) error {
	var head propJSON
	var origin propOrigin
	if err := json.Unmarshal(text, &head); err != nil {
		return err
	}
	if err := json.Unmarshal(text, &origin); err != nil {
		return err
	}
	read := kinds[head.Kind]
	if read == nil {
		return fmt.Errorf("the prop %s is of no known kind: %q", head.Name, head.Kind)
	}
	t, err := read(text)
	if err != nil {
		return fmt.Errorf("the prop %s: %w", head.Name, err)
	}
	*p = Prop{head.ID, head.Name, head.Purpose, t, origin.Axis, origin.On, origin.Off, origin.Part}
	return nil
}

// Kind is the kind of the prop's type.
func (p Prop) Kind() Kind { return p.Type.Kind() }

// Default is the value the prop has when nobody gives one.
func (p Prop) Default() Value { return p.Type.Default() }

// SetDefault gives the prop another default, one that it takes.
func (p *Prop) SetDefault(v Value) {
	if p.Type.Takes(v) {
		p.Type = p.Type.withDefault(v)
	}
}

// Options lists a choice's options; nil for any other kind.
func (p Prop) Options() []string {
	if c, ok := p.Type.(Choice); ok {
		return c.Options
	}
	return nil
}
