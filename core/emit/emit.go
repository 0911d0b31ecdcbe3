// Package emit holds what every target shares: the files it writes and the
// names it gives. Each target is a package below this one.
package emit

import (
	"fmt"
	"strings"

	"cobrik/core/contract"
)

// File is one emitted source file.
type File struct {
	Path    string `json:"path" doc:"Relative, with forward slashes"`
	Content string `json:"content"`
}

// Kebab turns a component's or prop's name into words joined by hyphens:
// "CropTag" is "crop-tag".
func Kebab(name string) string {
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 {
				b.WriteByte('-')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}

// Pascal turns a camelCase name into PascalCase.
func Pascal(name string) string {
	if name == "" {
		return ""
	}
	return strings.ToUpper(name[:1]) + name[1:]
}

// ClassNames gives a style sheet's classes for a contract: one a part that has
// a style, one an option or flag that a rule names. No two are the same.
type ClassNames struct {
	parts     map[string]string
	values    map[string]map[contract.Value]string
	container string
	order     []string
}

// Classes names the classes of a contract.
func Classes(c *contract.Contract) *ClassNames {
	n := &ClassNames{parts: map[string]string{}, values: map[string]map[contract.Value]string{}}
	taken := map[string]bool{}
	add := func(name string) string {
		for taken[name] {
			name += "Value"
		}
		taken[name] = true
		n.order = append(n.order, name)
		return name
	}
	styled := map[string]bool{c.Root.Name: true}
	for _, r := range c.Rules {
		styled[r.Part] = true
	}
	c.Walk(func(p, _ *contract.Part) {
		if styled[p.Name] || len(p.Style) > 0 {
			n.parts[p.Name] = add(p.Name)
		}
	})
	for _, p := range c.Props {
		values := p.Options
		if p.Kind == contract.Flag {
			values = []string{"true", "false"}
		}
		for _, v := range values {
			if !named(c, p.Name, contract.Value(v)) {
				continue
			}
			if n.values[p.Name] == nil {
				n.values[p.Name] = map[contract.Value]string{}
			}
			n.values[p.Name][contract.Value(v)] = add(valueClass(p, v))
		}
	}
	if len(c.SwitchPoints()) > 0 {
		n.container = add("container")
	}
	return n
}

func valueClass(p contract.Prop, value string) string {
	switch {
	case p.Kind == contract.Flag && value == "true":
		return p.Name
	case p.Kind == contract.Flag:
		return "not" + Pascal(p.Name)
	}
	return p.Name + Pascal(contract.Identifier(value, "option"))
}

func named(c *contract.Contract, prop string, v contract.Value) bool {
	for _, r := range c.Rules {
		if got, ok := r.When.Props[prop]; ok && got == v {
			return true
		}
	}
	return false
}

// All lists the classes in the order they are first used.
func (n *ClassNames) All() []string { return n.order }

// Part gives a part's class; empty when it has no style of its own.
func (n *ClassNames) Part(name string) string { return n.parts[name] }

// Container gives the class of the box around the root, whose width the root's
// switch points ask for; empty when the contract has none.
func (n *ClassNames) Container() string { return n.container }

// Value gives the class of a prop's value; empty when no rule names it.
func (n *ClassNames) Value(prop string, v contract.Value) string { return n.values[prop][v] }

// Purpose says what a prop is for: its own words, or what can be told from the
// contract.
func Purpose(c *contract.Contract, p contract.Prop) string {
	if p.Purpose != "" {
		return p.Purpose
	}
	switch {
	case p.Kind == contract.Choice:
		return fmt.Sprintf("The %s of the %s.", strings.ToLower(spaced(p.Name)), strings.ToLower(spaced(c.Name)))
	case p.Kind == contract.Flag && p.Layer != "":
		return fmt.Sprintf("Shows the %s.", strings.ToLower(spaced(p.Layer)))
	case p.Kind == contract.Flag:
		return fmt.Sprintf("Draws the %s %s.", strings.ToLower(spaced(c.Name)), strings.ToLower(spaced(p.Name)))
	}
	return fmt.Sprintf("The text of the %s.", strings.ToLower(spaced(p.Layer)))
}

func spaced(name string) string { return strings.ReplaceAll(Kebab(name), "-", " ") }
