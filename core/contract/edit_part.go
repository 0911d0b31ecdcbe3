package contract

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Parts are edited here, as props are in edit_prop.go.

// Parent gives the part around one and its place there; nil for the root and for none.
func (c *Contract) Parent(id string) (parent *Part, at int) {
	at = -1
	c.Walk(func(p, _ *Part) {
		if i := slices.IndexFunc(p.Children, func(child *Part) bool { return child.ID == id }); i >= 0 {
			parent, at = p, i
		}
	})
	return parent, at
}

// freePart gives a name, and id, that no part has, from one that is wished for.
func (c *Contract) freePart(name string) string {
	taken := map[string]bool{}
	c.Walk(func(p, _ *Part) { taken[p.ID], taken[p.Name] = true, true })
	return Free(name, "", func(n string) bool { return taken[n] })
}

// AddPart puts a part of an element into another, at a place among what that holds, and gives it.
func (c *Contract) AddPart(parent, name, element string, at int) (*Part, error) {
	p := c.Part(parent)
	if p == nil {
		return nil, fmt.Errorf("there is no part %q", parent)
	}
	if why := closed(p); why != "" {
		return nil, fmt.Errorf("%s %s, and holds no other parts", p.Name, why)
	}
	name = c.freePart(name)
	made := &Part{ID: name, Name: name, Element: element}
	p.Children = slices.Insert(p.Children, min(max(0, at), len(p.Children)), made)
	p.fill(name)
	return made, nil
}

// closed tells why a part can hold no others; empty when it can.
func closed(p *Part) string {
	switch p.Content.(type) {
	case nil, ImageOf, SlotOf:
		if slices.Contains(Void, p.Element) && p.Content == nil || p.Element == "svg" || p.Element == "textarea" {
			return "is an element " + p.Element
		}
		return ""
	case *Use:
		if p.Use().open() != "" {
			return ""
		}
		return "is a use of " + p.Use().Component + " without a slot for them"
	}
	return "shows " + contentName(p.Content)
}

// open gives the id of the slot of a use that further parts go to: the one that holds parts, else the first that is
// given nothing, the default one before others; empty when there is none.
func (u *Use) open() (slot string) {
	if u.of == nil {
		return ""
	}
	for _, q := range u.of.Props {
		g, given := u.Given[q.ID]
		switch {
		case q.Kind() != SlotKind || given && len(g.Parts) == 0:
		case len(g.Parts) > 0:
			return q.ID
		case slot == "" || q.Name == "children":
			slot = q.ID
		}
	}
	return slot
}

// fill gives a part that a use holds, by its id, to a slot of it; nothing where the part is no use.
func (p *Part) fill(id string) {
	u := p.Use()
	if u == nil || u.SlotOf(id) != "" {
		return
	}
	slot := u.open()
	g := u.Given[slot]
	g.Parts = append(slices.Clone(g.Parts), id)
	if u.Given == nil {
		u.Given = map[string]Given{}
	}
	u.Given[slot] = g
	p.orderSlots()
}

// orderSlots lets what a use's slots are given stand in the order of the outline.
func (p *Part) orderSlots() {
	u := p.Use()
	if u == nil {
		return
	}
	at := func(id string) int { return slices.IndexFunc(p.Children, func(c *Part) bool { return c.ID == id }) }
	for slot, g := range u.Given {
		g.Parts = slices.Clone(g.Parts)
		slices.SortStableFunc(g.Parts, func(a, b string) int { return at(a) - at(b) })
		u.Given[slot] = g
	}
}

// Holds tells whether a part can hold others.
func (c *Contract) Holds(id string) bool {
	p := c.Part(id)
	return p != nil && closed(p) == ""
}

// RemovePart removes a part with all it holds, and lists what goes with it: its rules, props that
// are nothing without it, and what other parts say of it.
func (c *Contract) RemovePart(id string) (taken []string, err error) {
	parent, at := c.Parent(id)
	if parent == nil {
		return nil, fmt.Errorf("a component is nothing without its root")
	}
	gone := map[string]bool{}
	inside := 0
	var walk func(p *Part)
	walk = func(p *Part) {
		gone[p.ID] = true
		for _, child := range p.Children {
			inside++
			walk(child)
		}
	}
	walk(parent.Children[at])
	if inside > 0 {
		taken = append(taken, counted(inside, "part")+" inside of it")
	}
	parent.Children = slices.Delete(parent.Children, at, at+1)
	if u := parent.Use(); u != nil {
		u.drop(id)
	}
	rules := len(c.Rules)
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool { return gone[r.Part] })
	if n := rules - len(c.Rules); n > 0 {
		taken = append(taken, counted(n, "rule"))
	}
	c.Walk(func(p, _ *Part) {
		for _, name := range sortedKeys(p.Attributes) {
			if gone[p.Attributes[name].Part] {
				delete(p.Attributes, name)
				taken = append(taken, name+" of "+p.Name)
			}
		}
	})
	c.Props = slices.DeleteFunc(c.Props, func(p Prop) bool {
		lost := p.From != nil && gone[p.From.Part] || p.Kind() == EventKind && p.From == nil && gone[p.Part]
		if lost {
			taken = append(taken, "the prop "+p.Name)
		}
		return lost
	})
	for i := range c.Props {
		if gone[c.Props[i].Part] {
			c.Props[i].Part = ""
		}
	}
	c.Prune()
	return taken, nil
}

// drop takes a part out of what a use's slots are given.
func (u *Use) drop(part string) {
	for id, g := range u.Given {
		if i := slices.Index(g.Parts, part); i >= 0 {
			g.Parts = slices.Delete(slices.Clone(g.Parts), i, i+1)
			if u.Given[id] = g; len(g.Parts) == 0 && g.Value == nil && g.Prop == "" && len(g.Cases) == 0 {
				delete(u.Given, id)
			}
		}
	}
}

func counted(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// DuplicatePart puts a copy of a part with all it holds behind it, with its rules, and gives the
// copy's id. Both are bound to the same props.
func (c *Contract) DuplicatePart(id string) (string, error) {
	parent, at := c.Parent(id)
	if parent == nil {
		return "", fmt.Errorf("a component has one root")
	}
	if slices.ContainsFunc(slotsIn(parent.Children[at]), func(string) bool { return true }) {
		return "", fmt.Errorf("%s holds a slot, and what is given for a slot stands in one place", parent.Children[at].Name)
	}
	copied := parent.Children[at].clone()
	ids := map[string]string{}
	taken := map[string]bool{}
	c.Walk(func(p, _ *Part) { taken[p.ID], taken[p.Name] = true, true })
	var rename func(p *Part)
	rename = func(p *Part) {
		was := p.ID
		p.ID = Free(was, "", func(n string) bool { return taken[n] })
		p.Name = Free(p.Name, "", func(n string) bool { return taken[n] })
		taken[p.ID], taken[p.Name] = true, true
		ids[was] = p.ID
		p.Layer, p.Drawn = "", nil // there is one drawing of it
		for _, child := range p.Children {
			rename(child)
		}
	}
	rename(copied)
	var follow func(p *Part)
	follow = func(p *Part) {
		for name, a := range p.Attributes {
			if to, ok := ids[a.Part]; ok {
				p.Attributes[name] = Attribute{Part: to}
			}
		}
		if u := p.Use(); u != nil {
			for id, g := range u.Given {
				for i, part := range g.Parts {
					g.Parts[i] = ids[part]
				}
				u.Given[id] = g
			}
		}
		for _, child := range p.Children {
			follow(child)
		}
	}
	follow(copied)
	parent.Children = slices.Insert(parent.Children, at+1, copied)
	if u := parent.Use(); u != nil {
		if slot := u.SlotOf(id); slot != "" {
			g := u.Given[slot]
			g.Parts = append(slices.Clone(g.Parts), copied.ID)
			u.Given[slot] = g
			parent.orderSlots()
		}
	}
	for _, r := range slices.Clone(c.Rules) {
		if to, ok := ids[r.Part]; ok {
			c.Rules = append(c.Rules, Rule{Part: to, When: r.When, Set: maps.Clone(r.Set)})
		}
	}
	return copied.ID, nil
}

// slotsIn lists the ids of the slots that stand in a part.
func slotsIn(p *Part) (out []string) {
	if s, ok := p.Content.(SlotOf); ok {
		out = append(out, s.Prop)
	}
	for _, child := range p.Children {
		out = append(out, slotsIn(child)...)
	}
	return out
}

// Way is where MovePart moves a part in the outline.
type Way string

const (
	Up   Way = "up"   // before the one it follows
	Down Way = "down" // behind the one that follows
	In   Way = "in"   // into the one it follows, as its last
	Out  Way = "out"  // behind the one it stands in
)

// MovePart moves a part in the outline; it stays where that way leads nowhere.
func (c *Contract) MovePart(id string, way Way) error {
	parent, at := c.Parent(id)
	if parent == nil {
		return fmt.Errorf("the root stands in nothing")
	}
	p := parent.Children[at]
	switch way {
	case Up, Down:
		by := 1
		if way == Up {
			by = -1
		}
		if to := at + by; to >= 0 && to < len(parent.Children) {
			parent.Children = moved(parent.Children, at, by)
			parent.orderSlots()
		}
		return nil
	case In:
		if at == 0 {
			return fmt.Errorf("there is nothing before %s that it could stand in", p.Name)
		}
		before := parent.Children[at-1]
		if why := closed(before); why != "" {
			return fmt.Errorf("%s %s, and holds no other parts", before.Name, why)
		}
		before.Children = append(before.Children, p)
		before.fill(p.ID)
	case Out:
		around, place := c.Parent(parent.ID)
		if around == nil {
			return fmt.Errorf("%s stands in the root, and nothing is around that", p.Name)
		}
		if why := closed(around); why != "" {
			return fmt.Errorf("%s %s, and holds no other parts", around.Name, why)
		}
		around.Children = slices.Insert(around.Children, place+1, p)
		around.fill(p.ID)
	default:
		return fmt.Errorf("%q is no way to move a part", way)
	}
	parent.Children = slices.Delete(parent.Children, at, at+1)
	if u := parent.Use(); u != nil {
		u.drop(id)
	}
	return nil
}

// layingOut are the properties by which a container lays out what it holds.
var layingOut = []string{"display", "flex-direction", "flex-wrap", "gap", "align-items", "justify-content"}

// WrapParts puts parts that stand beside each other into a container of their own, which lays
// them out as the one around does, and gives its id. Of a use, the container stands where the
// first of them did.
func (c *Contract) WrapParts(ids []string) (string, error) {
	if len(ids) == 0 {
		return "", fmt.Errorf("there is nothing to put around")
	}
	parent, _ := c.Parent(ids[0])
	if parent == nil {
		return "", fmt.Errorf("the root is what is around everything")
	}
	first := -1
	var inside, rest []*Part
	for i, child := range parent.Children {
		if slices.Contains(ids, child.ID) {
			if first < 0 {
				first = i
			}
			inside = append(inside, child)
			continue
		}
		rest = append(rest, child)
	}
	if len(inside) != len(ids) {
		return "", fmt.Errorf("what is put into a container stands in one place; these stand in several")
	}
	name := c.freePart("group")
	around := &Part{ID: name, Name: name, Element: "div", Children: inside}
	if slices.Contains([]string{"ul", "ol"}, parent.Element) {
		around.Element = "li" // what a list holds (HTML, 4.4.5 and 4.4.6)
	} else if phrasing(parent.Element) {
		around.Element = "span"
	}
	if len(inside) > 1 {
		around.Style = Style{}
		for _, property := range layingOut {
			if v, ok := parent.Style[property]; ok {
				around.Style[property] = strings.TrimPrefix(v, "inline-")
			}
		}
		if len(around.Style) == 0 {
			around.Style = nil
		}
	}
	if u := parent.Use(); u != nil {
		slot := u.SlotOf(ids[0])
		for _, id := range ids {
			if u.SlotOf(id) != slot {
				return "", fmt.Errorf("they stand in different slots of %s", u.Component)
			}
		}
		g := u.Given[slot]
		g.Parts = slices.DeleteFunc(slices.Clone(g.Parts), func(id string) bool { return slices.Contains(ids, id) })
		g.Parts = append(g.Parts, name)
		u.Given[slot] = g
	}
	parent.Children = slices.Insert(rest, first, around)
	parent.orderSlots()
	return name, nil
}

// phrasing tells whether what stands in an element is a run of text (HTML, 3.2.5.2.5), so that
// no block may.
func phrasing(element string) bool {
	return slices.Contains([]string{"button", "span", "p", "label", "summary", "h1", "h2", "h3", "h4", "h5", "h6", "strong", "em", "small", "mark", "q", "cite", "code", "kbd", "abbr", "time", "output", "data", "legend"}, element)
}

// UnwrapPart puts what a part holds in its place, and lists what goes: what it said, and its
// rules. What it was shown for, what it held is shown for.
func (c *Contract) UnwrapPart(id string) (taken []string, err error) {
	parent, at := c.Parent(id)
	if parent == nil {
		return nil, fmt.Errorf("a component has a root")
	}
	p := parent.Children[at]
	switch {
	case len(p.Children) == 0:
		return nil, fmt.Errorf("%s holds nothing that could take its place", p.Name)
	case p.Content != nil:
		return nil, fmt.Errorf("%s is not only a container: it shows %s", p.Name, contentName(p.Content))
	case p.Repeat != "":
		return nil, fmt.Errorf("%s is there for each item of a list; what it holds would not be", p.Name)
	}
	inside := p.Children
	if n := len(p.Style); n > 0 {
		taken = append(taken, counted(n, "value")+" of "+p.Name)
	}
	for _, child := range inside {
		w, possible := p.ShownWhen, true
		for _, t := range child.ShownWhen.Terms() {
			var ok bool
			if w, ok = merged(w, t); !ok {
				possible = false
			}
		}
		if possible {
			child.ShownWhen = w
		}
	}
	slot := ""
	if u := parent.Use(); u != nil {
		slot = u.SlotOf(id)
	}
	p.Children = nil
	more, err := c.RemovePart(id)
	if err != nil {
		return nil, err
	}
	parent.Children = slices.Insert(parent.Children, at, inside...)
	if slot != "" {
		u := parent.Use()
		g := u.Given[slot]
		for _, child := range inside {
			g.Parts = append(g.Parts, child.ID)
		}
		if u.Given == nil {
			u.Given = map[string]Given{}
		}
		u.Given[slot] = g
		parent.orderSlots()
	}
	return append(taken, more...), nil
}

// RenamePart gives a part another name.
func (c *Contract) RenamePart(id, name string) error {
	var other *Part
	c.Walk(func(p, _ *Part) {
		if p.Name == name && p.ID != id {
			other = p
		}
	})
	if other != nil {
		return fmt.Errorf("another part is named %s", name)
	}
	c.Part(id).Name = name
	return nil
}
