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
	Key     string // its id from outside: of an item links.label
	Purpose string
	Items   []Prop // of a list
}

// Node is one thing that is rendered. It is sealed.
type Node interface{ isNode() }

type (
	// Element is an element of HTML or SVG.
	Element struct {
		Tag        string
		Level      string // id of the number that makes it another heading; empty for none
		Part       string // id of the part it is; empty for what parts are made of
		Root       bool   // it takes the attributes and classes the component is given
		Named      bool   // another element refers to it
		Attributes []Attribute
		Classes    []Class
		Children   []Node
	}
	// Text shows a text, rich text or number, by the prop's id.
	Text struct{ Prop string }
	// Fixed is a text that never changes.
	Fixed struct{ Text string }
	// If is there when all terms hold; else the other is, where there is one. They ask of
	// props alone.
	If struct {
		When       []contract.Term
		Then, Else Node
	}
	// For is there once for each item of a list, by the prop's id.
	For struct {
		List string
		Each Node
	}
	// Slot shows what a use put there, by the prop's id, else its default.
	Slot struct {
		Prop    string
		Default []Node
	}
	// Choose is the element that an icon's value names; nothing where there is none.
	Choose struct {
		Prop    string
		Options []Option
	}
)

// Option is one element that an icon may be.
type Option struct {
	Value   string
	Element *Element
}

func (*Element) isNode() {}
func (Text) isNode()     {}
func (Fixed) isNode()    {}
func (If) isNode()       {}
func (For) isNode()      {}
func (Slot) isNode()     {}
func (Choose) isNode()   {}

// Attribute is an attribute of HTML or SVG, by its name there: a text; a prop's value, or a
// member of it; what is called when an event of the name happens; or the place of a part.
type Attribute struct {
	Name  string
	Value string
	Prop  string // id
	Of    string // the member of an image: src, alt, width or height
	Event bool
	Part  string // id
}

// Class is a class an element has: always; the one of a prop's value, where a prop is named;
// or while a term holds.
type Class struct {
	Name   string
	Prop   string // id
	Values map[contract.Value]string
	While  contract.Term
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

// World tells what a node is for some prop values. It is what every target does, for those
// who look for a part or write markup.
type World struct {
	props contract.Values
	items map[string][]Prop // by the list's id
}

// World gives the world of some prop values; those left out have their default.
func (m *Module) World(props contract.Values) World {
	w := World{contract.Values{}, map[string][]Prop{}}
	for _, p := range m.Props {
		if v := p.Default(); v != nil {
			w.props[p.ID] = v
		}
		if p.Items != nil {
			w.items[p.ID] = p.Items
		}
	}
	w.props = w.props.With(props)
	return w
}

// Value gives a prop's value; nil for none.
func (w World) Value(prop string) contract.Value { return w.props[prop] }

// Holds tells whether all terms hold.
func (w World) Holds(when []contract.Term) bool {
	env := contract.EnvOf(w.props)
	for _, t := range when {
		if !t.Holds(env) {
			return false
		}
	}
	return true
}

// Items gives the world of each item of a list.
func (w World) Items(list string) (out []World) {
	items, _ := w.props[list].(contract.ListValue)
	for _, values := range items {
		inner := World{w.props.With(nil), w.items}
		for _, p := range w.items[list] {
			v := values[p.ID]
			if v == nil {
				v = p.Default()
			}
			inner.props[p.Key] = v
		}
		out = append(out, inner)
	}
	return out
}

// Paths tells where each part stands in the rendered tree for some prop values: child
// indexes from the outermost element, by the keys of package contract. Parts that are not
// there are left out. What stands in a slot is not counted: it is nobody's part.
func (m *Module) Paths(props contract.Values) map[string][]int {
	out := map[string][]int{}
	var walk func(n Node, w World, item, path []int) int
	// walk gives how many elements a node is; the first is at the path.
	walk = func(n Node, w World, item, path []int) int {
		switch n := n.(type) {
		case If:
			if w.Holds(n.When) {
				return walk(n.Then, w, item, path)
			}
			if n.Else != nil {
				return walk(n.Else, w, item, path)
			}
		case For:
			count := 0
			for i, inner := range w.Items(n.List) {
				at := append(path[:len(path)-1:len(path)-1], path[len(path)-1]+count)
				count += walk(n.Each, inner, append(item[:len(item):len(item)], i), at)
			}
			return count
		case Slot:
			count := 0
			for _, d := range n.Default {
				count += walk(d, w, item, append(path[:len(path)-1:len(path)-1], path[len(path)-1]+count))
			}
			return count
		case Choose:
			for _, o := range n.Options {
				if w.Value(n.Prop) == contract.IconValue(o.Value) {
					return walk(o.Element, w, item, path)
				}
			}
		case Text:
			if rich, ok := w.Value(n.Prop).(contract.RichValue); ok {
				count := 0
				for _, d := range Rich(rich) {
					if _, is := d.(*Element); is {
						count++
					}
				}
				return count
			}
		case *Element:
			if n.Part != "" {
				out[(&contract.Resolved{Part: &contract.Part{ID: n.Part}, Item: item}).Key()] = path
			}
			at := 0
			for _, c := range n.Children {
				at += walk(c, w, item, append(path[:len(path):len(path)], at))
			}
			return 1
		}
		return 0
	}
	walk(m.Root, m.World(props), nil, []int{})
	return out
}
