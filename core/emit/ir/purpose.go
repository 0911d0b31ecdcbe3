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
	return fmt.Sprintf("The text of the %s.", part)
}

func spaced(name string) string { return strings.Join(contract.Words(name), " ") }
