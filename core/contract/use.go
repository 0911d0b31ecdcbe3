package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Use is a use of another component: what it is given is the use's own, and changes
// nothing of the component. What stands inside of it is that component's affair.
type Use struct {
	Component string           // its name
	Given     map[string]Given // by the id of the component's prop; what is left out has its default
	All       bool             // props of the component that are given nothing are props of this one, too

	of     *Contract
	sought bool // that it is of nothing is known
}

func (*Use) isContent() {}

// Given is what a use gives for a prop: a value, a prop's value, by its id, or parts that
// stand in a slot, by their ids. What a later case gives wins where it holds.
type Given struct {
	Value json.RawMessage `json:"value,omitempty"` // as the prop's type decodes it
	Prop  string          `json:"prop,omitempty"`
	Parts []string        `json:"parts,omitempty"` // of those that stand below the use
	Cases []GivenCase     `json:"cases,omitempty"`
}

// GivenCase is the value that a use gives while a condition on props holds.
type GivenCase struct {
	When  When            `json:"when"`
	Value json.RawMessage `json:"value"`
}

// Passing tells that a prop is passed on: it is one of a component that a part is a use of.
type Passing struct {
	Part string `json:"part"`
	Prop string `json:"prop"` // its id there
}

type useJSON struct {
	Component string           `json:"component"`
	Given     map[string]Given `json:"given,omitempty"`
	All       bool             `json:"all,omitempty"`
}

// UseOf makes a use of a component that is given nothing.
func UseOf(of *Contract) *Use {
	return &Use{Component: of.Name, Given: map[string]Given{}, of: of, sought: true}
}

// Of is the component that it is a use of; nil while it is not linked.
func (u *Use) Of() *Contract { return u.of }

// Use gives the use of a component that the part is; nil for none.
func (p *Part) Use() *Use {
	u, _ := p.Content.(*Use)
	return u
}

func (u *Use) clone() *Use {
	out := *u
	out.Given = maps.Clone(u.Given)
	for id, g := range out.Given {
		g.Parts, g.Cases = slices.Clone(g.Parts), slices.Clone(g.Cases)
		out.Given[id] = g
	}
	return &out
}

// Decoded reads a value that is given for a prop of the component; nil when it is none of it.
func (u *Use) Decoded(prop string, text json.RawMessage) Value {
	if u.of == nil || len(text) == 0 {
		return nil
	}
	p := u.of.Prop(prop)
	if p == nil {
		return nil
	}
	v, err := p.Type.Decode(text)
	if err != nil {
		return nil
	}
	return v
}

// Values gives what the use gives in an environment of the contract it stands in, by the
// component's props; what is not given is left out.
func (u *Use) Values(env Env) Values {
	out := Values{}
	for id, g := range u.Given {
		v := u.Decoded(id, g.Value)
		if g.Prop != "" {
			v = env.Props[g.Prop]
		}
		for _, k := range g.Cases {
			if k.When.Holds(env) {
				v = u.Decoded(id, k.Value)
			}
		}
		if v != nil {
			out[id] = v
		}
	}
	return out
}

// SlotOf gives the id of the slot that a part below the use stands in; empty for none.
func (u *Use) SlotOf(part string) string {
	for _, id := range sortedKeys(u.Given) {
		if slices.Contains(u.Given[id].Parts, part) {
			return id
		}
	}
	return ""
}

// UsedParts lists the parts that are uses of components, in the order of the tree.
func (c *Contract) UsedParts() (out []*Part) {
	c.Walk(func(p, _ *Part) {
		if p.Use() != nil {
			out = append(out, p)
		}
	})
	return out
}

// Components lists the names of the components that the contract uses itself, each once.
func (c *Contract) Components() (out []string) {
	for _, p := range c.UsedParts() {
		if name := p.Use().Component; !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// Closure lists the components a linked contract is made of, itself last, each after those it
// uses.
func (c *Contract) Closure() (out []*Contract) {
	seen := map[string]bool{}
	var walk func(c *Contract)
	walk = func(c *Contract) {
		if seen[c.Name] {
			return
		}
		seen[c.Name] = true
		for _, p := range c.UsedParts() {
			if of := p.Use().of; of != nil {
				walk(of)
			}
		}
		out = append(out, c)
	}
	walk(c)
	return out
}

// deepestUse bounds how deep components stand in components.
const deepestUse = 32

// Linker ties uses to the components they are of.
type Linker struct {
	find   func(name string) *Contract
	linked map[string]*Contract
	chain  []string
}

// NewLinker makes a linker. The function finds a contract of its own for a name; nil for none.
// It is asked for each name once.
func NewLinker(find func(name string) *Contract) *Linker {
	return &Linker{find: find, linked: map[string]*Contract{}}
}

// Link ties every use in a contract, and in the components it uses, to the component it is of,
// and lets props that are passed on follow those they are: it takes over their types, and adds
// and removes props where all are passed on. It tells whether that changed the contract, and
// gives the chain of a component that uses itself: Card, Tag, Card.
func (l *Linker) Link(c *Contract) (changed bool, cycle []string) {
	if at := slices.Index(l.chain, c.Name); at >= 0 {
		return false, append(slices.Clone(l.chain[at:]), c.Name)
	}
	if len(l.chain) >= deepestUse {
		return false, append(slices.Clone(l.chain), c.Name)
	}
	l.chain = append(l.chain, c.Name)
	defer func() { l.chain = l.chain[:len(l.chain)-1] }()
	for _, p := range c.UsedParts() {
		u := p.Use()
		u.of, u.sought = nil, true
		if slices.Contains(l.chain, u.Component) {
			return changed, append(slices.Clone(l.chain[slices.Index(l.chain, u.Component):]), u.Component)
		}
		of, known := l.linked[u.Component]
		if !known {
			if of = l.find(u.Component); of != nil {
				if _, cycle := l.Link(of); cycle != nil {
					return changed, cycle
				}
			}
			l.linked[u.Component] = of
		}
		if of == nil {
			continue
		}
		u.of = of
		if c.follow(p) {
			changed = true
		}
	}
	return changed, nil
}

// follow brings the props that a use's component passes on up to date.
func (c *Contract) follow(part *Part) (changed bool) {
	u := part.Use()
	if u.All {
		c.Props = slices.DeleteFunc(c.Props, func(p Prop) bool {
			gone := p.From != nil && p.From.Part == part.ID && u.of.Prop(p.From.Prop) == nil && !c.refersTo(p.ID)
			if gone {
				delete(u.Given, p.From.Prop)
			}
			changed = changed || gone
			return gone
		})
		for _, q := range u.of.Props {
			if slices.ContainsFunc(u.of.ApartFrom(q.ID), func(other string) bool { _, given := u.Given[other]; return given }) {
				continue // it takes one of them at most
			}
			if _, given := u.Given[q.ID]; !given {
				c.PassOn(part, q.ID, q.Name)
				changed = true
			}
		}
	}
	for i := range c.Props {
		p := &c.Props[i]
		if p.From == nil || p.From.Part != part.ID {
			continue
		}
		q := u.of.Prop(p.From.Prop)
		if q == nil || sameType(p.Type, q.Type) {
			continue
		}
		was := p.Type
		p.Type = q.Type.clone()
		if was.Kind() == q.Kind() && was.Default() != nil && p.Type.Takes(was.Default()) {
			p.Type = p.Type.withDefault(was.Default())
		}
		if p.Example != nil && !p.Type.Takes(p.Example) {
			p.Example = nil
		}
		changed = changed || asJSON(was) != asJSON(p.Type)
	}
	return changed
}

// PassOn makes a prop of a use's component one of the contract's, of a name that is free, and
// gives its id.
func (c *Contract) PassOn(part *Part, prop, name string) string {
	u := part.Use()
	q := u.of.Prop(prop)
	taken := func(name string) bool {
		return IsReserved(name) && (name != "children" || q.Kind() != SlotKind) || slices.ContainsFunc(c.Props, func(p Prop) bool { return strings.EqualFold(p.Name, name) || strings.EqualFold(p.ID, name) })
	}
	switch {
	case taken(name) && q.Kind() == EventKind:
		name = "on" + Capitalized(part.Name) + strings.TrimPrefix(name, "on")
	case taken(name):
		name = part.Name + Capitalized(name)
	}
	name = Free(name, "", taken)
	c.Props = append(c.Props, Prop{ID: name, Name: name, Required: q.Required, Example: q.Example, Type: q.Type.clone(), From: &Passing{part.ID, prop}})
	if u.Given == nil {
		u.Given = map[string]Given{}
	}
	u.Given[prop] = Given{Prop: name}
	return name
}

// refersTo tells whether a rule, a part or a use other than that which passes it on names a prop.
func (c *Contract) refersTo(prop string) bool {
	asks := func(w When) bool {
		return slices.ContainsFunc(w.Terms(), func(t Term) bool { return PropOf(t) == prop })
	}
	found := slices.ContainsFunc(c.Rules, func(r Rule) bool { return asks(r.When) })
	c.Walk(func(p, _ *Part) {
		found = found || asks(p.ShownWhen)
		for _, a := range p.Attributes {
			found = found || a.Prop == prop
		}
	})
	return found
}

// Unreachable is a prop of a component inside that nobody outside can give: neither given nor
// passed on.
type Unreachable struct {
	Parts []string // names of the uses, outermost first
	Prop  string   // its name there
}

func (u Unreachable) String() string { return strings.Join(u.Parts, " › ") + " › " + u.Prop }

// Unreachable lists the props of the components inside that a use of this one can say nothing
// of, whatever level they are at.
func (c *Contract) Unreachable() (out []Unreachable) {
	var walk func(c *Contract, parts []string, decided func(prop string) bool)
	walk = func(c *Contract, parts []string, decided func(prop string) bool) {
		for _, p := range c.UsedParts() {
			u := p.Use()
			if u.of == nil {
				continue
			}
			inside := append(parts[:len(parts):len(parts)], p.Name)
			given := func(prop string) bool {
				g, ok := u.Given[prop]
				list, _, _ := strings.Cut(g.Prop, ".")
				return ok && (list == "" || decided(list))
			}
			for _, q := range u.of.Props {
				if !given(q.ID) {
					out = append(out, Unreachable{inside, q.Name})
				}
			}
			walk(u.of, inside, given)
		}
	}
	walk(c, nil, func(string) bool { return true })
	return out
}

// UsedBy lists the names of the contracts that a change of a component reaches: those that use
// it, and those that use these.
func UsedBy(name string, all []*Contract) (out []string) {
	reached := map[string]bool{name: true}
	for grown := true; grown; {
		grown = false
		for _, c := range all {
			if !reached[c.Name] && slices.ContainsFunc(c.Components(), func(n string) bool { return reached[n] }) {
				reached[c.Name], grown = true, true
				out = append(out, c.Name)
			}
		}
	}
	slices.Sort(out)
	return out
}

// sameType tells whether two types are the same but for the default.
func sameType(a, b Type) bool {
	if a.Kind() != b.Kind() {
		return false
	}
	if d := b.Default(); d != nil && a.Takes(d) {
		a = a.withDefault(d)
	}
	return asJSON(a) == asJSON(b)
}

func asJSON(t Type) string {
	text, err := json.Marshal(t)
	if err != nil {
		panic(fmt.Errorf("a type of kind %s: %w", t.Kind(), err)) // plain data always encodes
	}
	return string(text)
}
