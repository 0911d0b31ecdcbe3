package catalogue

import (
	"slices"

	"cobrik/core/contract"
)

// PartKeys are the keys that a part hears by its element, without a word of its component.
type PartKeys struct {
	Part string   `json:"part"` // its id
	Keys []string `json:"keys"` // as UI Events KeyboardEvent key Values names them
}

// fields are the types of input that text is typed in (HTML, 4.10.5.1).
var fields = []string{"", "text", "search", "email", "url", "tel", "password", "number"}

// NativeKeys lists what keys do on a component by its elements alone (WAI-ARIA Authoring Practices: button, link, disclosure,
// checkbox, radio group, slider, listbox), in the order of the parts.
func NativeKeys(c *contract.Contract) []PartKeys {
	out := []PartKeys{}
	c.Walk(func(p, _ *contract.Part) {
		if keys := nativeKeys(p); keys != nil {
			out = append(out, PartKeys{p.ID, keys})
		}
	})
	return out
}

func nativeKeys(p *contract.Part) []string {
	kind := p.Attributes["type"].Text
	_, leads := p.Attributes["href"]
	switch {
	case p.Element == "button" || p.Element == "summary":
		return []string{"Enter", "Space"}
	case p.Element == "a" && leads:
		return []string{"Enter"}
	case p.Element == "select":
		return []string{"ArrowUp", "ArrowDown", "Home", "End"}
	case p.Element == "textarea" || p.Element == "input" && slices.Contains(fields, kind):
		return []string{"text is typed"}
	case p.Element == "input" && kind == "checkbox":
		return []string{"Space"}
	case p.Element == "input" && kind == "radio":
		return []string{"Space", "ArrowUp", "ArrowDown"}
	case p.Element == "input" && kind == "range":
		return []string{"ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "Home", "End", "PageUp", "PageDown"}
	case p.Element == "dialog":
		return []string{"Escape"}
	}
	return nil
}
