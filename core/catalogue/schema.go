package catalogue

import (
	"cobrik/core/contract"
)

// PropsSchema gives what a use of a component may give as a JSON Schema (2020-12): an object of its props. Slots, events and
// rich text are code of whoever uses it, and take anything there.
func PropsSchema(c *contract.Contract) map[string]any {
	properties := map[string]any{}
	required := []string{}
	for _, p := range c.Props {
		s := p.Type.Schema()
		if p.Purpose != "" {
			s["description"] = p.Purpose
		}
		if p.Deprecated != "" {
			s["deprecated"] = true
		}
		if p.Required {
			delete(s, "default")
			required = append(required, p.Name)
		}
		properties[p.Name] = s
	}
	out := map[string]any{"$schema": "https://json-schema.org/draft/2020-12/schema", "title": c.Name, "type": "object", "properties": properties}
	if c.Purpose != "" {
		out["description"] = c.Purpose
	}
	if len(required) > 0 {
		out["required"] = required
	}
	if len(c.Apart) > 0 {
		var apart []any
		for _, group := range c.Apart {
			for i, a := range group {
				for _, b := range group[i+1:] {
					apart = append(apart, map[string]any{"required": []string{c.Prop(a).Name, c.Prop(b).Name}})
				}
			}
		}
		out["not"] = map[string]any{"anyOf": apart}
	}
	return out
}
