package contract

import (
	"encoding/json"
	"fmt"

	"cobrik/core/problem"
)

// LinkKind is the kind of a prop that is an address to go to.
const LinkKind Kind = "link"

// Link is an address. An empty one leads nowhere.
type Link struct {
	Initial string `json:"default,omitempty"`
}

func readLink(text json.RawMessage) (Type, error) {
	var l Link
	return l, json.Unmarshal(text, &l)
}

func (Link) Kind() Kind      { return LinkKind }
func (Link) Control() string { return "address" }

func (l Link) Default() Value {
	if l.Initial == "" {
		return nil
	}
	return LinkValue(l.Initial)
}

func (Link) Takes(v Value) bool {
	l, ok := v.(LinkValue)
	return ok && checkAddress(string(l)) == nil
}

func (Link) Decode(text json.RawMessage) (Value, error) {
	var address string
	if json.Unmarshal(text, &address) != nil {
		return nil, fmt.Errorf("%s is no address", text)
	}
	return LinkValue(address), checkAddress(address)
}

func (Link) Nameable() []Value  { return nil }
func (l Link) Samples() []Value { return []Value{l.Default(), LinkValue("#"), nil} }

func (l Link) Changes(name string, older Type) []Change {
	if old := older.(Link); l.Initial != old.Initial {
		return []Change{change(Patch, "%s: the default address is another", name)}
	}
	return nil
}

func (Link) TypeScript() string { return "string" }

func (l Link) Schema() map[string]any {
	out := map[string]any{"type": "string", "format": "uri-reference"}
	if l.Initial != "" {
		out["default"] = l.Initial
	}
	return out
}

func (l Link) check(name, at string, found *problem.List) {
	if err := checkAddress(l.Initial); err != nil {
		found.Errorf("prop-default", at+"/default", "", "the default of %s: %s", name, err)
	}
}

func (l Link) withDefault(v Value) Type { return Link{v.String()} }
func (l Link) clone() Type              { return l }
