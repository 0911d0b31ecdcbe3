package ir

import (
	"fmt"
	"strings"

	"cobrik/core/contract"
)

// purposeOf says what a prop is for: its own words, or what can be told from the
// contract.
func purposeOf(c *contract.Contract, p contract.Prop) string {
	if p.Purpose != "" {
		return p.Purpose
	}
	if p.From != nil { // what it is for inside
		if part := c.Part(p.From.Part); part != nil && part.Use() != nil && part.Use().Of() != nil {
			if inner := part.Use().Of().Prop(p.From.Prop); inner != nil {
				return purposeOf(part.Use().Of(), *inner)
			}
		}
	}
	part := spaced(p.Part)
	if named := c.Part(p.Part); named != nil {
		part = spaced(named.Name)
	}
	switch {
	case p.Kind() == contract.ChoiceKind:
		return fmt.Sprintf("The %s of the %s.", spaced(p.Name), spaced(c.Name))
	case p.Kind() == contract.FlagKind && p.Part != "":
		return fmt.Sprintf("Shows the %s.", part)
	case p.Kind() == contract.FlagKind:
		return fmt.Sprintf("Draws the %s %s.", spaced(c.Name), spaced(p.Name))
	}
	switch p.Kind() {
	case contract.NumberKind, contract.ImageKind, contract.LinkKind, contract.IconKind:
		return fmt.Sprintf("The %s of the %s.", spaced(p.Name), spaced(c.Name))
	case contract.SlotKind:
		return fmt.Sprintf("What stands in the %s.", spaced(c.Name))
	case contract.ListKind:
		return fmt.Sprintf("The %s, in their order.", spaced(p.Name))
	case contract.EventKind:
		if p.Type.(contract.Event).On == contract.Told {
			return fmt.Sprintf("Called when the %s %s.", spaced(c.Name), map[bool]string{true: "changes", false: "does so"}[p.Name == "onChange"])
		}
		return fmt.Sprintf("Called on %s of the %s.", p.Type.(contract.Event).On, part)
	}
	if part == "" {
		return fmt.Sprintf("The %s of the %s.", spaced(p.Name), spaced(c.Name))
	}
	return fmt.Sprintf("The text of the %s.", part)
}

func spaced(name string) string { return strings.Join(contract.Words(name), " ") }
