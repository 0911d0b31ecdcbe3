package contract

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// ListKind is the kind of a prop that is a list of items.
const ListKind Kind = "list"

// List is a list of items of one shape. Outside of it, an item's prop is named by the list's
// id, a dot and its own id: links.label. A list is empty by default.
type List struct {
	Items []Prop `json:"items"`
	Most  int    `json:"most,omitempty"` // items; 0 for any number
}

// mostItems bounds a list's value.
const mostItems = 1000

func readList(text json.RawMessage) (Type, error) {
	var l List
	return l, json.Unmarshal(text, &l)
}

func (List) Kind() Kind      { return ListKind }
func (List) Control() string { return "items" }
func (List) Default() Value  { return ListValue{} }

// Item finds a prop of the items by its id; nil when there is none.
func (l List) Item(id string) *Prop {
	for i := range l.Items {
		if l.Items[i].ID == id {
			return &l.Items[i]
		}
	}
	return nil
}

func (l List) Takes(v Value) bool {
	items, ok := v.(ListValue)
	if !ok || len(items) > mostItems || l.Most > 0 && len(items) > l.Most {
		return false
	}
	for _, item := range items {
		for id, v := range item {
			if p := l.Item(id); p == nil || !p.Type.Takes(v) {
				return false
			}
		}
		for _, p := range l.Items {
			if p.Required && p.Type.Control() != "none" && item[p.ID] == nil {
				return false
			}
		}
	}
	return true
}

func (l List) Decode(text json.RawMessage) (Value, error) {
	var raw []map[string]json.RawMessage
	if json.Unmarshal(text, &raw) != nil {
		return nil, fmt.Errorf("it is no list of items")
	}
	if limit := l.limit(); len(raw) > limit {
		return nil, fmt.Errorf("%d items are more than %d", len(raw), limit)
	}
	out := make(ListValue, len(raw))
	for i, fields := range raw {
		out[i] = Values{}
		for _, id := range sortedKeys(fields) {
			p := l.Item(id)
			if p == nil {
				return nil, fmt.Errorf("item %d: there is no %q; an item has %s", i+1, id, strings.Join(l.names(), ", "))
			}
			v, err := p.Type.Decode(fields[id])
			if err != nil {
				return nil, fmt.Errorf("item %d: %s: %w", i+1, p.Name, err)
			}
			out[i][id] = v
		}
		for _, p := range l.Items {
			if p.Required && p.Type.Control() != "none" && out[i][p.ID] == nil {
				return nil, fmt.Errorf("item %d: %s is missing", i+1, p.Name)
			}
		}
	}
	return out, nil
}

func (l List) limit() int {
	if l.Most > 0 {
		return min(l.Most, mostItems)
	}
	return mostItems
}

func (l List) names() []string {
	out := make([]string, len(l.Items))
	for i, p := range l.Items {
		out[i] = p.Name
	}
	return out
}

func (List) Nameable() []Value { return nil }

// Samples are no item, one, three of different values, and as many as are allowed or a dozen.
func (l List) Samples() []Value {
	item := func(n int) Values {
		out := Values{}
		for _, p := range l.Items {
			samples := slices.DeleteFunc(p.Samples(), func(v Value) bool { return v == nil })
			if len(samples) > 0 {
				out[p.ID] = samples[n%len(samples)]
			}
		}
		return out
	}
	out := []Value{ListValue{}}
	for _, n := range []int{1, 3, 12} {
		if n = min(n, l.limit()); len(out[len(out)-1].(ListValue)) == n {
			continue
		}
		items := make(ListValue, n)
		for i := range items {
			items[i] = item(i)
		}
		out = append(out, items)
	}
	return out
}

func (l List) Changes(name string, older Type) (out []Change) {
	old := older.(List)
	for _, p := range old.Items {
		now := l.Item(p.ID)
		switch at := name + "." + p.Name; {
		case now == nil:
			out = append(out, change(Major, "%s is removed", at))
		case now.Kind() != p.Kind():
			out = append(out, change(Major, "%s is a %s instead of a %s", at, now.Kind(), p.Kind()))
		default:
			if now.Name != p.Name {
				out = append(out, change(Major, "%s is renamed to %s", at, now.Name))
			}
			out = append(out, now.Changes(name+"."+now.Name, p)...)
		}
	}
	for _, p := range l.Items {
		if old.Item(p.ID) == nil {
			level := Minor
			if p.Required {
				level = Major
			}
			out = append(out, change(level, "%s.%s is added", name, p.Name))
		}
	}
	return append(out, tighter(name, "items", l.Most, old.Most)...)
}

func (l List) TypeScript() string {
	var b bytes.Buffer
	b.WriteString("readonly { ")
	for _, p := range l.Items {
		optional := "?"
		if p.Required {
			optional = ""
		}
		fmt.Fprintf(&b, "%s%s: %s; ", p.Name, optional, p.Type.TypeScript())
	}
	return b.String() + "}[]"
}

func (l List) Schema() map[string]any {
	properties, required := map[string]any{}, []string{}
	for _, p := range l.Items {
		properties[p.Name] = p.Type.Schema()
		if p.Required {
			required = append(required, p.Name)
		}
	}
	item := map[string]any{"type": "object", "properties": properties, "additionalProperties": false}
	if len(required) > 0 {
		item["required"] = required
	}
	out := map[string]any{"type": "array", "items": item}
	if l.Most > 0 {
		out["maxItems"] = l.Most
	}
	return out
}

func (l List) check(name, at string, found *problem.List) {
	checkProps(l.Items, at+"/items", found)
	for i, p := range l.Items {
		if p.Kind() == ListKind || p.Kind() == EventKind {
			found.Errorf("prop-item", fmt.Sprintf("%s/items/%d/kind", at, i), "make it a prop of the component", "an item of %s cannot hold a %s", name, p.Kind())
		}
	}
}

func (l List) withDefault(Value) Type { return l }

func (l List) clone() Type {
	l.Items = slices.Clone(l.Items)
	for i := range l.Items {
		l.Items[i].Type = l.Items[i].Type.clone()
	}
	return l
}
