package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// Kind names what a prop holds.
type Kind string

// Type is what a prop holds. It is sealed, a file a kind, and answers all that other rooms
// ask of a kind.
type Type interface {
	Kind() Kind
	// Control names what one gives a value with: options, switch, text, rich text, number, image,
	// address, icon or items; none for what has no values.
	Control() string
	// Default is the value the prop has when nobody gives one; nil for none.
	Default() Value
	// Takes tells whether a value is one of the prop's.
	Takes(Value) bool
	// Decode reads a value from JSON; the error says what is expected.
	Decode(json.RawMessage) (Value, error)
	// Nameable lists the values a rule may name, the default first; nil when rules
	// cannot name them.
	Nameable() []Value
	// Samples lists values worth looking at, the default first; nil stands for none.
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
	TextKind:   readText,
	RichKind:   readRich,
	FlagKind:   readFlag,
	ChoiceKind: readChoice,
	NumberKind: readNumber,
	ImageKind:  readImage,
	LinkKind:   readLink,
	IconKind:   readIcon,
	SlotKind:   readSlot,
	ListKind:   readList,
	EventKind:  readEvent,
}

// PropKinds lists the kinds of props, in the order people are shown them.
var PropKinds = []Kind{TextKind, RichKind, FlagKind, ChoiceKind, NumberKind, ImageKind, LinkKind, IconKind, SlotKind, ListKind, EventKind}

// Prop is one input of the component. Rules and parts refer to it by its id, which
// stays when the name changes. A required prop has no default. Axis, On and Off tie it to
// a family's axis, Part to the part a flag shows, a text fills or an event is told by.
type Prop struct {
	ID         string
	Name       string
	Purpose    string
	Required   bool
	Example    Value  // what it is shown with where nothing else is given; nil for the default
	Deprecated string // why, and what to use instead
	Type       Type
	Axis       string
	On         string
	Off        string
	Part       string
	From       *Passing // of a prop that is passed on to a component inside; its type follows that one's
}

// propJSON are the members that props of all kinds have.
type propJSON struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Kind    Kind   `json:"kind"`
	Purpose string `json:"purpose,omitempty"`

	Required   bool            `json:"required,omitempty"`
	Example    json.RawMessage `json:"example,omitempty"`
	Deprecated string          `json:"deprecated,omitempty"`
}

type propOrigin struct {
	Axis string `json:"axis,omitempty"`
	On   string `json:"on,omitempty"`
	Off  string `json:"off,omitempty"`
	Part string `json:"part,omitempty"`

	From *Passing `json:"from,omitempty"`
}

// MarshalJSON writes the prop flat: what its kind holds stands beside its name.
func (p Prop) MarshalJSON() ([]byte, error) {
	var example json.RawMessage
	var err error
	if p.Example != nil {
		if example, err = json.Marshal(p.Example); err != nil {
			return nil, err
		}
	}
	head, err := json.Marshal(propJSON{p.ID, p.Name, p.Type.Kind(), p.Purpose, p.Required, example, p.Deprecated})
	if err != nil {
		return nil, err
	}
	kind, err := json.Marshal(p.Type)
	if err != nil {
		return nil, err
	}
	origin, err := json.Marshal(propOrigin{p.Axis, p.On, p.Off, p.Part, p.From})
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
	*p = Prop{ID: head.ID, Name: head.Name, Purpose: head.Purpose, Required: head.Required, Deprecated: head.Deprecated, Type: t,
		Axis: origin.Axis, On: origin.On, Off: origin.Off, Part: origin.Part, From: origin.From}
	if head.Example != nil {
		if p.Example, err = t.Decode(head.Example); err != nil {
			return fmt.Errorf("the example of %s: %w", head.Name, err)
		}
	}
	return nil
}

// Kind is the kind of the prop's type.
func (p Prop) Kind() Kind { return p.Type.Kind() }

// Default is the value the prop has when nobody gives one; nil for none.
func (p Prop) Default() Value {
	if p.Required {
		return nil
	}
	return p.Type.Default()
}

// Shown is the value the prop is looked at with: its example, else what its type begins with.
func (p Prop) Shown() Value {
	if p.Example != nil {
		return p.Example
	}
	return p.Type.Default()
}

// Samples lists values worth looking at, the one it is shown with first.
func (p Prop) Samples() []Value {
	out := []Value{p.Shown()}
	for _, v := range p.Type.Samples() {
		if !slices.ContainsFunc(out, func(o Value) bool { return Equal(o, v) }) && (v != nil || !p.Required) {
			out = append(out, v)
		}
	}
	return out
}

// Changes lists what differs from an older prop of the same kind, by the name it is told of.
func (p Prop) Changes(name string, old Prop) (out []Change) {
	switch {
	case p.Required && !old.Required:
		out = append(out, change(Major, "%s is required", name))
	case !p.Required && old.Required:
		out = append(out, change(Minor, "%s is no longer required", name))
	}
	if p.Deprecated != "" && old.Deprecated == "" {
		out = append(out, change(Minor, "%s is deprecated: %s", name, p.Deprecated))
	}
	return append(out, p.Type.Changes(name, old.Type)...)
}

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

// said gives a value as people read it.
func said(v Value) string {
	if v == nil {
		return "none"
	}
	return v.String()
}

// tighter tells of another limit on how much there may be, 0 for none.
func tighter(name, of string, now, was int) []Change {
	switch {
	case now == was:
		return nil
	case now > 0 && (was == 0 || now < was):
		return []Change{change(Major, "%s: up to %d %s instead of %s", name, now, of, limitWords(was))}
	}
	return []Change{change(Minor, "%s: %s %s instead of %s", name, limitWords(now), of, limitWords(was))}
}

func limitWords(n int) string {
	if n == 0 {
		return "any number"
	}
	return fmt.Sprintf("up to %d", n)
}

// tooLong warns of a default that is over the prop's own limit.
func tooLong(name, at string, letters, longest int, found *problem.List) {
	if longest > 0 && letters > longest {
		found.Warnf("prop-limit", at+"/longest", "allow more, or shorten it", "the default of %s has %d letters, and %d are allowed", name, letters, longest)
	}
}

// checkProps lists what is wrong with props beside each other, and with each.
func checkProps(props []Prop, at string, found *problem.List) {
	ids, names := map[string]bool{}, map[string]bool{}
	for i, p := range props {
		at := fmt.Sprintf("%s/%d", at, i)
		if ids[p.ID] {
			found.Errorf("prop-id", at+"/id", "give each prop its own id", "two props have the id %q", p.ID)
		}
		if names[strings.ToLower(p.Name)] {
			found.Errorf("prop-name", at+"/name", "give each prop its own name", "two props are named %q", p.Name)
		}
		ids[p.ID], names[strings.ToLower(p.Name)] = true, true
		if IsReserved(p.Name) && (p.Name != "children" || p.Kind() != SlotKind) {
			found.Errorf("prop-reserved", at+"/name", "call it "+p.Name+"Prop or otherwise", "%q is kept by React or JavaScript for itself", p.Name)
		}
		p.Type.check(p.Name, at, found)
	}
}
