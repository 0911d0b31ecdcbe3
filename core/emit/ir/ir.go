// Package ir is a component lowered for any target: the tree it renders, its
// classes and its style sheet, with nothing of a framework in it.
package ir

import (
	"cobrik/core/contract"
)

// Module is one component.
type Module struct {
	Name    string
	Purpose string
	Props   []Prop
	Root    *Element // outermost; around the contract's root where a container is asked for its width
	Classes []string // in the order they are first used
	Rules   []Rule   // the style sheet, in order
}

// Prop is one input, with its purpose in words.
type Prop struct {
	contract.Prop
	Purpose string
}

// Node is one thing that is rendered: an Element, Text, Fixed or If. It is sealed.
type Node interface{ isNode() }

type (
	// Element is an element of HTML or SVG.
	Element struct {
		Tag        string
		Part       string // id of the part it is; empty for what parts are made of
		Root       bool   // it takes the attributes and classes the component is given
		Attributes []Attribute
		Classes    []Class
		Children   []Node
	}
	// Text shows a text prop, by its id.
	Text struct{ Prop string }
	// Fixed is a text that never changes.
	Fixed struct{ Text string }
	// If is there when props have the values given.
	If struct {
		When []contract.PropIs
		Then Node
	}
)

func (*Element) isNode() {}
func (Text) isNode()     {}
func (Fixed) isNode()    {}
func (If) isNode()       {}

// Attribute is an attribute of HTML or SVG, by its name there: a text, or a flag's
// value where a prop is named.
type Attribute struct {
	Name  string
	Value string
	Prop  string // id
}

// Class is a class an element has: always, or, where a prop is named, the one of the
// prop's value.
type Class struct {
	Name   string
	Prop   string // id
	Values map[contract.Value]string
}

// Rule is one rule of the style sheet.
type Rule struct {
	At           []string // conditional rules around it, outer first: "@container (width < 480px)"
	Selector     string
	Reset        []Declaration // takes the browser's own look of the element back
	Declarations contract.Style
}

// Declaration is a property and its value.
type Declaration struct{ Property, Value string }

// Paths tells where each part stands in the rendered tree for some prop values: child
// indexes from the outermost element. Parts that are not there are left out.
func (m *Module) Paths(props contract.Values) map[string][]int {
	out := map[string][]int{}
	env := contract.EnvOf(props)
	var walk func(n Node, path []int) bool
	walk = func(n Node, path []int) bool {
		switch n := n.(type) {
		case If:
			for _, t := range n.When {
				if !t.Holds(env) {
					return false
				}
			}
			return walk(n.Then, path)
		case *Element:
			if n.Part != "" {
				out[n.Part] = path
			}
			at := 0
			for _, c := range n.Children {
				if walk(c, append(path[:len(path):len(path)], at)) {
					at++
				}
			}
			return true
		}
		return false
	}
	walk(m.Root, []int{})
	return out
}
