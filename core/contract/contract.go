// Package contract is the agreed definition of a component
// (cobrik.contract/1): props, a tree of parts, and rules that say which part
// has which values when. It knows no design: package draft makes contracts of
// drawings.
package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/css"
)

// Format is the value of a contract's "format" member.
const Format = "cobrik.contract/1"

// Contract is a component as people agreed on it. Later rules win over earlier
// ones; what a rule does not set stays as it was.
type Contract struct {
	Format  string   `json:"format"`
	Name    string   `json:"name"`
	Purpose string   `json:"purpose,omitempty"`
	Do      []string `json:"do,omitempty"`   // how it is meant to be used
	Dont    []string `json:"dont,omitempty"` // how it is not

	Deprecated *Deprecation `json:"deprecated,omitempty"`
	Owner      string       `json:"owner,omitempty"` // who answers for it
	Links      []Reference  `json:"links,omitempty"` // what to read of it elsewhere
	Notes      RichValue    `json:"notes,omitempty"`

	Origin *Origin      `json:"origin,omitempty"`
	RoomOf string       `json:"roomOf,omitempty"` // name of the component whose room it keeps while that loads
	Props  []Prop       `json:"props"`
	Apart  [][]string   `json:"apart,omitempty"` // groups of props, by id, of which a use gives one at most
	States []DrawnState `json:"states,omitempty"`
	Widths []DrawnWidth `json:"widths,omitempty"`
	Root   *Part        `json:"root"`
	Rules  []Rule       `json:"rules,omitempty"`

	Behaviour *Behaviour `json:"behaviour,omitempty"`

	Cases     []SavedCase `json:"cases,omitempty"` // to look at, in their order
	Scenarios []Scenario  `json:"scenarios,omitempty"`
}

// DrawnState is a state that a family's axis draws: the value of the axis that stands for it.
type DrawnState struct {
	State string `json:"state"` // one of States
	Axis  string `json:"axis"`
	Value string `json:"value"`
}

// DrawnWidth is a width of its container that a family's axis draws, and the value of the axis
// that stands for it. All of a contract's cover every width once; the default's is the first.
type DrawnWidth struct {
	Axis  string `json:"axis"`
	Value string `json:"value"`
	Range
}

// Origin is what a contract was drawn from, a family or a layer of a page, and
// the revision of the design it was last agreed at. Readings are the ways people
// chose to read containers of a layer without flow, by layout's Part.Key.
type Origin struct {
	Document string            `json:"document"`
	Family   string            `json:"family,omitempty"`
	Layer    string            `json:"layer,omitempty"`
	With     []string          `json:"with,omitempty"` // ids of layers that are no one's with that one, and are read with it as one drawing
	Readings map[string]string `json:"readings,omitempty"`
	Scale    []float64         `json:"scale,omitempty"` // of what was drawn without flow: the lengths its gaps and paddings were read by, px
	Revision int               `json:"revision"`
}

// Rule gives a part, by its id, values when its condition holds.
type Rule struct {
	Part string `json:"part"`
	When When   `json:"when"`
	Set  Style  `json:"set"`
}

// SwitchPoints lists the widths of its container, px, at which the component
// changes its arrangement, or does otherwise, narrowest first.
func (c *Contract) SwitchPoints() []float64 {
	var out []float64
	if c.Behaviour != nil {
		out = c.Behaviour.Widths()
	}
	for _, r := range c.Rules {
		for _, t := range r.When.Terms() {
			w, ok := t.(Container)
			if !ok || w.Name != "" {
				continue
			}
			for _, px := range []float64{w.From, w.Below} {
				if px > 0 && !slices.Contains(out, px) {
					out = append(out, px)
				}
			}
		}
	}
	slices.Sort(out)
	return out
}

// Prop finds a prop by its id, one of a list's items by both ids: links.label; nil when
// there is none.
func (c *Contract) Prop(id string) *Prop {
	if list, item, ok := strings.Cut(id, "."); ok {
		if p := c.Prop(list); p != nil {
			if l, ok := p.Type.(List); ok {
				return l.Item(item)
			}
		}
		return nil
	}
	for i := range c.Props {
		if c.Props[i].ID == id {
			return &c.Props[i]
		}
	}
	return nil
}

// EachProp visits the props, a list's items after it, with the ids they have from outside.
func (c *Contract) EachProp(visit func(id string, p *Prop)) {
	for i := range c.Props {
		p := &c.Props[i]
		visit(p.ID, p)
		if l, ok := p.Type.(List); ok {
			for k := range l.Items {
				visit(p.ID+"."+l.Items[k].ID, &l.Items[k])
			}
		}
	}
}

// Part finds a part by its id; nil when there is none.
func (c *Contract) Part(id string) *Part {
	var found *Part
	c.Walk(func(p, _ *Part) {
		if p.ID == id {
			found = p
		}
	})
	return found
}

// Walk visits every part with its parent, parents first; the root's is nil.
func (c *Contract) Walk(visit func(p, parent *Part)) {
	var walk func(p, parent *Part)
	walk = func(p, parent *Part) {
		visit(p, parent)
		for _, child := range p.Children {
			walk(child, p)
		}
	}
	walk(c.Root, nil)
}

// Clone gives a copy that shares nothing with the contract but vectors.
func (c *Contract) Clone() *Contract {
	out := *c
	if c.Origin != nil {
		origin := *c.Origin
		origin.Readings = maps.Clone(origin.Readings)
		out.Origin = &origin
	}
	cloneAbout(&out, c)
	out.Props = slices.Clone(c.Props)
	for i := range out.Props {
		out.Props[i].Type = out.Props[i].Type.clone()
	}
	out.Apart = slices.Clone(c.Apart)
	for i := range out.Apart {
		out.Apart[i] = slices.Clone(out.Apart[i])
	}
	out.States = slices.Clone(c.States)
	out.Widths = slices.Clone(c.Widths)
	out.Root = c.Root.clone()
	out.Cases = slices.Clone(c.Cases)
	for i := range out.Cases {
		out.Cases[i].Given = maps.Clone(out.Cases[i].Given)
	}
	out.Scenarios = slices.Clone(c.Scenarios)
	for i := range out.Scenarios {
		out.Scenarios[i] = c.Scenarios[i].clone()
	}
	out.Rules = slices.Clone(c.Rules)
	for i := range out.Rules {
		out.Rules[i].Set = maps.Clone(out.Rules[i].Set)
	}
	return &out
}

// Defaults gives every prop's default, where it has one.
func (c *Contract) Defaults() Values { return c.values(Prop.Default) }

// Examples gives every prop the value it is looked at with, where it has one; of props that stand
// apart the first that has.
func (c *Contract) Examples() Values {
	out := c.values(Prop.Shown)
	for _, group := range c.Apart {
		taken := false
		for _, id := range group {
			if given := isGiven(out[id]); given && taken {
				delete(out, id)
			} else {
				taken = taken || given
			}
		}
	}
	return out
}

// AreApart tells whether values give props together that a use cannot.
func (c *Contract) AreApart(v Values) bool {
	return slices.ContainsFunc(c.Apart, func(group []string) bool {
		n := 0
		for _, id := range group {
			if isGiven(v[id]) {
				n++
			}
		}
		return n > 1
	})
}

func (c *Contract) values(of func(Prop) Value) Values {
	values := make(Values, len(c.Props))
	for _, p := range c.Props {
		if v := of(p); v != nil {
			values[p.ID] = v
		}
	}
	return values
}

// Nameable lists the ids of the props whose values rules may name.
func (c *Contract) Nameable() []string {
	var out []string
	for _, p := range c.Props {
		if p.Type.Nameable() != nil {
			out = append(out, p.ID)
		}
	}
	return out
}

// Tokens lists the paths of the tokens the contract refers to, each once, in
// the order of the tree and then of the rules.
func (c *Contract) Tokens() []string {
	var paths []string
	seen := map[string]bool{}
	add := func(s Style) {
		for _, property := range s.Properties() {
			for _, path := range css.RefsIn(s[property]) {
				if !seen[path] {
					seen[path] = true
					paths = append(paths, path)
				}
			}
		}
	}
	c.Walk(func(p, _ *Part) { add(p.Style) })
	for _, r := range c.Rules {
		add(r.Set)
	}
	if c.Behaviour != nil {
		for _, path := range c.Behaviour.Tokens() {
			if !seen[path] {
				paths = append(paths, path)
			}
		}
	}
	return paths
}

// JSON writes the contract, indented, the same bytes for the same contract.
func (c *Contract) JSON() []byte {
	if c.Props == nil {
		without := *c
		without.Props = []Prop{}
		c = &without
	}
	text, err := json.MarshalIndent(c, "", "  ")
	if err != nil {
		panic(fmt.Errorf("contract %s: %w", c.Name, err)) // only unmarshalable types fail
	}
	return append(text, '\n')
}
