package react

import (
	_ "embed"
	"encoding/json"
	"strings"

	"cobrik/core/catalogue"
)

//go:embed upgrade.mjs
var upgrade string

// upgradeStep is a step as the program that carries it out reads it.
type upgradeStep struct {
	Kind    catalogue.StepKind `json:"kind"`
	What    string             `json:"what"`
	Prop    string             `json:"prop,omitempty"`
	Value   string             `json:"value,omitempty"`
	To      string             `json:"to,omitempty"`
	Given   string             `json:"given,omitempty"`   // the attribute that is added
	Default bool               `json:"default,omitempty"` // of an element: the one that it was where a use did not say
}

// Upgrade writes a program for Node that rewrites code which uses a component from one version to another, where that is
// mechanical, and lists the places where people have to choose. It needs nothing but TypeScript. Empty where there is
// nothing to do.
func Upgrade(component, from, to string, steps []catalogue.MigrationStep) string {
	if len(steps) == 0 {
		return ""
	}
	list := make([]upgradeStep, len(steps))
	for i, s := range steps {
		list[i] = upgradeStep{Kind: s.Kind, What: s.What, Prop: s.Prop, Value: s.Value, To: s.To}
		switch s.Kind {
		case catalogue.DefaultChanged:
			list[i].Given = catalogue.Attribute(s.To, s.Given)
		case catalogue.ElementRemoved:
			list[i].Default = s.Given == true
		}
	}
	var written strings.Builder
	e := json.NewEncoder(&written)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(list); err != nil {
		panic(err) // plain data
	}
	return strings.NewReplacer("COMPONENT_NAME", quote(component), "COMPONENT", component, "VERSIONS", from+" to "+to, "STEPS", strings.TrimSpace(written.String())).Replace(upgrade)
}
