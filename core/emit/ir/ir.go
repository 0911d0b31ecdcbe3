// Package ir is a component lowered for any target: the tree it renders, its
// classes and its style sheet, with nothing of a framework in it.
package ir

import (
	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// Module is one component.
type Module struct {
	Name       string
	Purpose    string
	Deprecated string // why, and what to use instead; empty for one that is not
	Props      []Prop
	Apart      [][]string      // ids of props of which one at most is given
	Root       *Element        // outermost; around the contract's root where a container is asked for its width
	Does       *behaviour.Flat // its behaviour; nil for none
	Layers     []Layer         // parts that it shows above the page
	Asks       []string        // ids of the props that the behaviour asks for, or tells by
	Classes    []string        // in the order they are first used
	Rules      []Rule          // the style sheet, in order
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
		As         []string          // other elements that a use may make of it; of the root
		Level      string            // id of the number that makes it another heading; empty for none
		Part       string            // id of the part it is; empty for what parts are made of
		Root       bool              // it takes the attributes the component is given
		Outer      bool              // it takes the classes the component is given
		Named      bool              // another element, or the behaviour, refers to it
		Hears      []behaviour.Event // of the behaviour, that happen at it; of the root those at no part, too
		Says       []string          // attributes, and shares, that the behaviour says of it
		Attributes []Attribute
		Classes    []Class
		Children   []Node
	}
	// Text shows a text, rich text or number, by the prop's id.
	Text struct{ Prop string }
	// Said is the text that the behaviour says of a part; where it says none, the other.
	Said struct {
		Part string
		Else Node
	}
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
	// Use is another component, given values by the names of its props.
	Use struct {
		Part    string   // id of the part it is
		Says    []string // props that the behaviour says of it
		Module  *Module
		Given   []Given
		Classes []Class
		of      *contract.Use
	}
	// Choose is the element that an icon's value names; nothing where there is none.
	Choose struct {
		Prop    string
		Options []Option
	}
)

// Given is what a use gives for a prop of its component: a value, a prop's value, or what stands
// in a slot; that of the last case that holds wins.
type Given struct {
	Prop  *Prop // of the component
	Value contract.Value
	From  string // key of the prop whose value it is
	Nodes []Node
	Cases []GivenCase
}

// GivenCase is a value that a use gives while all terms hold.
type GivenCase struct {
	When  []contract.Term
	Value contract.Value
}

// Option is one element that an icon may be.
type Option struct {
	Value   string
	Element *Element
}

func (*Element) isNode() {}
func (Text) isNode()     {}
func (Said) isNode()     {}
func (Fixed) isNode()    {}
func (If) isNode()       {}
func (For) isNode()      {}
func (Slot) isNode()     {}
func (Choose) isNode()   {}
func (*Use) isNode()     {}

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
	Root         bool          // it is of the component's root
	Reset        []Declaration // takes the browser's own look of the element back
	Declarations contract.Style
}

// Declaration is a property and its value.
type Declaration struct{ Property, Value string }

// World tells what a node is for some prop values. It is what every target does, for those
// who look for a part or write markup.
type World struct {
	props  contract.Values
	items  map[string][]Prop // by the list's id
	slots  map[string]Filling
	item   []int  // which of each list around, outer first
	within string // before a part's key: the uses around
	module string
	states []string // active, of the behaviour
	says   []contract.Said
}

// Filling is what stands in a slot, and the world it is of.
type Filling struct {
	Nodes []Node
	World World
}

// World gives the world of some prop values; those left out have their default.
func (m *Module) World(props contract.Values) World {
	w := World{props: contract.Values{}, items: map[string][]Prop{}, slots: map[string]Filling{}, module: m.Name}
	for _, p := range m.Props {
		if v := p.Default(); v != nil {
			w.props[p.ID] = v
		}
		if p.Items != nil {
			w.items[p.ID] = p.Items
		}
	}
	w.props = w.props.With(props)
	if m.Does != nil {
		w.states, w.says = m.Does.In(contract.EnvOf(w.props))
	}
	return w
}

// Says gives what the behaviour says of a part, as it begins; nil for nothing.
func (w World) Says(part, name string) any {
	for _, s := range w.says {
		if s.Part == part && s.Name == name {
			return s.Value
		}
	}
	return nil
}

// Module names the module whose nodes it is the world of.
func (w World) Module() string { return w.module }

// Value gives a prop's value; nil for none.
func (w World) Value(prop string) contract.Value { return w.props[prop] }

// Key names a part as package contract does.
func (w World) Key(part string) string {
	return w.within + (&contract.Resolved{Part: &contract.Part{ID: part}, Item: w.item}).Key()
}

// Holds tells whether all terms hold.
func (w World) Holds(when []contract.Term) bool {
	env := contract.EnvOf(w.props)
	env.States = w.states
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
	for i, values := range items {
		inner := w
		inner.props = w.props.With(nil)
		inner.item = append(w.item[:len(w.item):len(w.item)], i)
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

// Inside gives the world of the component that a use is of.
func (w World) Inside(u *Use) World {
	given := u.of.Values(contract.EnvOf(w.props))
	for _, name := range u.Says {
		for i := range u.Module.Props {
			if p := &u.Module.Props[i]; p.Name == name {
				if v := contract.SaidValue(&p.Prop, w.Says(u.Part, name)); v != nil {
					given[p.ID] = v
				}
			}
		}
	}
	inner := u.Module.World(given)
	inner.within = w.Key(u.Part) + "/"
	for _, g := range u.Given {
		filling, filled := Filling{g.Nodes, w}, g.Nodes != nil
		if g.From != "" {
			filling, filled = w.slots[g.From]
		}
		if filled {
			inner.slots[g.Prop.Key], inner.props[g.Prop.Key] = filling, contract.FilledSlot{}
		}
	}
	return inner
}

// Slot gives what stands in a slot, and the world it is of: what a use put there, else its
// default.
func (w World) Slot(n Slot) Filling {
	if f, ok := w.slots[n.Prop]; ok {
		return f
	}
	return Filling{n.Default, w}
}

// Paths tells where each part stands in the rendered tree for some prop values: child
// indexes from the outermost element, by the keys of package contract, those inside of uses,
// too. Parts that are not there are left out.
func (m *Module) Paths(props contract.Values) map[string][]int {
	p := paths{}
	p.node(m.Root, m.World(props), []int{})
	return p
}

type paths map[string][]int

// nodes walks nodes that stand beside each other, the first at the path, and gives how many
// elements they are.
func (p paths) nodes(list []Node, w World, path []int) (count int) {
	for _, n := range list {
		count += p.node(n, w, further(path, count))
	}
	return count
}

// further is the path of an element some places on.
func further(path []int, n int) []int {
	if n == 0 {
		return path
	}
	last := len(path) - 1
	return append(path[:last:last], path[last]+n)
}

func (p paths) node(n Node, w World, path []int) (count int) {
	switch n := n.(type) {
	case If:
		if w.Holds(n.When) {
			return p.node(n.Then, w, path)
		}
		if n.Else != nil {
			return p.node(n.Else, w, path)
		}
	case For:
		for _, item := range w.Items(n.List) {
			count += p.node(n.Each, item, further(path, count))
		}
	case Slot:
		f := w.Slot(n)
		return p.nodes(f.Nodes, f.World, path)
	case *Use:
		p[w.Key(n.Part)] = path
		return p.node(n.Module.Root, w.Inside(n), path)
	case Choose:
		for _, o := range n.Options {
			if w.Value(n.Prop) == contract.IconValue(o.Value) {
				return p.node(o.Element, w, path)
			}
		}
	case Text:
		rich, _ := w.Value(n.Prop).(contract.RichValue)
		for _, d := range Rich(rich) {
			if _, is := d.(*Element); is {
				count++
			}
		}
	case *Element:
		if n.Part != "" {
			p[w.Key(n.Part)] = path
		}
		p.nodes(n.Children, w, append(path[:len(path):len(path)], 0))
		return 1
	}
	return count
}
