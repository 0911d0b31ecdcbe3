package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// IconKind is the kind of a prop that is one of a few icons.
const IconKind Kind = "icon"

// Icon is one of a few small drawings, by name.
type Icon struct {
	Options []NamedIcon `json:"options"`
	Initial string      `json:"default,omitempty"`
}

// NamedIcon is a drawing with a name.
type NamedIcon struct {
	Name   string `json:"name"`
	Vector Vector `json:"vector"`
}

func readIcon(text json.RawMessage) (Type, error) {
	var i Icon
	return i, json.Unmarshal(text, &i)
}

func (Icon) Kind() Kind      { return IconKind }
func (Icon) Control() string { return "icon" }

func (i Icon) Default() Value {
	if i.Initial == "" {
		return nil
	}
	return IconValue(i.Initial)
}

// Named gives the drawing of a name; nil when there is none.
func (i Icon) Named(name string) *Vector {
	for at := range i.Options {
		if i.Options[at].Name == name {
			return &i.Options[at].Vector
		}
	}
	return nil
}

// Names lists the names of the drawings.
func (i Icon) Names() []string {
	out := make([]string, len(i.Options))
	for at, o := range i.Options {
		out[at] = o.Name
	}
	return out
}

func (i Icon) Takes(v Value) bool {
	name, ok := v.(IconValue)
	return ok && i.Named(string(name)) != nil
}

func (i Icon) Decode(text json.RawMessage) (Value, error) {
	var name string
	if json.Unmarshal(text, &name) != nil || i.Named(name) == nil {
		return nil, fmt.Errorf("%s is no icon; expected one of %s", text, strings.Join(i.Names(), ", "))
	}
	return IconValue(name), nil
}

func (Icon) Nameable() []Value { return nil }

func (i Icon) Samples() []Value {
	out := []Value{i.Default()}
	for _, o := range i.Options {
		if o.Name != i.Initial {
			out = append(out, IconValue(o.Name))
		}
	}
	return out
}

func (i Icon) Changes(name string, older Type) (out []Change) {
	old := older.(Icon)
	for _, o := range old.Options {
		if i.Named(o.Name) == nil {
			out = append(out, change(Major, "%s: the icon %s is removed", name, o.Name))
		}
	}
	for _, o := range i.Options {
		if was := old.Named(o.Name); was == nil {
			out = append(out, change(Minor, "%s: the icon %s is added", name, o.Name))
		} else if !slices.Equal(was.Paths, o.Vector.Paths) || was.ViewBox != o.Vector.ViewBox {
			out = append(out, change(Patch, "%s: the icon %s is drawn otherwise", name, o.Name))
		}
	}
	if i.Initial != old.Initial && (old.Initial == "" || i.Named(old.Initial) != nil) {
		out = append(out, change(Major, "%s: the default is %s instead of %s", name, said(i.Default()), said(old.Default())))
	}
	return out
}

func (i Icon) TypeScript() string {
	words := i.Names()
	for at, w := range words {
		words[at] = quoted(w)
	}
	return strings.Join(words, " | ")
}

func (i Icon) Schema() map[string]any {
	out := map[string]any{"enum": i.Names()}
	if i.Initial != "" {
		out["default"] = i.Initial
	}
	return out
}

func (i Icon) check(name, at string, found *problem.List) {
	for n, o := range i.Options {
		if IsReserved(o.Name) {
			found.Errorf("prop-option", fmt.Sprintf("%s/options/%d/name", at, n), "call it "+o.Name+"-icon or otherwise", "every object of JavaScript has a %s already", o.Name)
		}
		if i.Named(o.Name) != &i.Options[n].Vector {
			found.Errorf("prop-option", fmt.Sprintf("%s/options/%d/name", at, n), "give each icon its own name", "two icons of %s are named %q", name, o.Name)
		}
	}
	if i.Initial != "" && i.Named(i.Initial) == nil {
		found.Errorf("prop-default", at+"/default", "name one of "+strings.Join(i.Names(), ", "), "the default %q is no icon of %s", i.Initial, name)
	}
}

func (i Icon) withDefault(v Value) Type {
	i.Initial = v.String()
	return i
}

func (i Icon) clone() Type {
	i.Options = slices.Clone(i.Options)
	return i
}
