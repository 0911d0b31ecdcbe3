package ledger

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// Changes lists what differs between a released contract and a later one. What
// a use of the component could name and now cannot is major; what it can name
// besides is minor; what only looks different is patch.
func Changes(old, now *contract.Contract) (contract.Level, []contract.Change) {
	c := changes{list: now.AboutChanges(old)}
	c.props(old, now)
	c.elements(old.Root, now.Root)
	c.apart(old, now)
	c.parts(old, now)
	c.behaviour(old, now)
	c.styles(old, now)
	level := contract.None
	for _, change := range c.list {
		level = contract.Highest(level, change.Level)
	}
	return level, c.list
}

type changes struct{ list []contract.Change }

func (c *changes) add(level contract.Level, format string, args ...any) {
	c.list = append(c.list, contract.Change{Level: level, Text: fmt.Sprintf(format, args...)})
}

func (c *changes) props(old, now *contract.Contract) {
	if old.Name != now.Name {
		c.add(contract.Major, "the component is renamed from %s to %s", old.Name, now.Name)
	}
	for _, p := range old.Props {
		q := now.Prop(p.ID)
		switch {
		case q == nil:
			c.add(contract.Major, "the prop %s is removed", p.Name)
			continue
		case q.Kind() != p.Kind():
			c.add(contract.Major, "the prop %s is a %s instead of a %s", p.Name, q.Kind(), p.Kind())
			continue
		case q.Name != p.Name:
			c.add(contract.Major, "the prop %s is renamed to %s", p.Name, q.Name)
		}
		c.list = append(c.list, q.Changes(q.Name, p)...)
	}
	for _, p := range now.Props {
		if old.Prop(p.ID) == nil {
			c.add(contract.Minor, "the prop %s is added", p.Name)
		}
	}
}

// elements compares which elements a use may make of the root.
func (c *changes) elements(old, now *contract.Part) {
	may := func(p *contract.Part) []string { return append([]string{p.Element}, p.As...) }
	for _, element := range old.As {
		if !slices.Contains(may(now), element) {
			c.add(contract.Major, "a use can no longer make a %s element of it", element)
		}
	}
	for _, element := range now.As {
		if !slices.Contains(may(old), element) {
			c.add(contract.Minor, "a use can make a %s element of it", element)
		}
	}
}

// apart compares which props a use cannot give together.
func (c *changes) apart(old, now *contract.Contract) {
	pairs := func(of, other *contract.Contract, level contract.Level, format string) {
		for _, p := range of.Props {
			for _, id := range of.ApartFrom(p.ID) {
				if p.ID < id && other.Prop(p.ID) != nil && other.Prop(id) != nil && !slices.Contains(other.ApartFrom(p.ID), id) {
					c.add(level, format, p.Name, of.Prop(id).Name)
				}
			}
		}
	}
	pairs(now, old, contract.Major, "%s and %s can no longer be given together")
	pairs(old, now, contract.Minor, "%s and %s can be given together")
}

func (c *changes) parts(old, now *contract.Contract) {
	old.Walk(func(p, _ *contract.Part) {
		q := now.Part(p.ID)
		switch {
		case q == nil:
			c.add(contract.Patch, "the part %s is removed", p.Name)
		case q.Name != p.Name:
			c.add(contract.Patch, "the part %s is renamed to %s", p.Name, q.Name)
		case q.Use() != nil && p.Use() != nil && string(givenOf(q)) != string(givenOf(p)):
			c.add(contract.Patch, "%s is given something else", q.Name)
		case drawingText(q.Content) != drawingText(p.Content):
			c.add(contract.Patch, "%s is drawn otherwise", q.Name)
		case q.Element != p.Element:
			c.add(contract.Patch, "%s is a %s element instead of a %s", p.Name, q.Element, p.Element)
		}
	})
	now.Walk(func(p, _ *contract.Part) {
		if old.Part(p.ID) == nil {
			c.add(contract.Patch, "the part %s is added", p.Name)
		}
	})
}

// behaviour compares what the component does: what it no longer does at all is major, what it does otherwise is minor.
func (c *changes) behaviour(old, now *contract.Contract) {
	states := func(of *contract.Contract) (out []string, text string) {
		if of.Behaviour == nil {
			return nil, ""
		}
		written, _ := of.Behaviour.MarshalJSON() // a machine that was read
		return of.Behaviour.States(), string(written)
	}
	was, before := states(old)
	is, after := states(now)
	switch {
	case before == after:
	case after == "":
		c.add(contract.Major, "it does nothing by itself any longer")
	case before == "":
		c.add(contract.Minor, "it does something by itself: it can be %s", strings.Join(is, ", "))
	default:
		for _, s := range was {
			if !slices.Contains(is, s) {
				c.add(contract.Minor, "it can no longer be %s", s)
			}
		}
		for _, s := range is {
			if !slices.Contains(was, s) {
				c.add(contract.Minor, "it can be %s", s)
			}
		}
		if slices.Equal(was, is) {
			c.add(contract.Minor, "it does otherwise what it does by itself")
		}
	}
}

// styles compares what the two contracts say, place by place.
func (c *changes) styles(old, now *contract.Contract) {
	before, after := valuesByPlace(old), valuesByPlace(now)
	names := map[place]string{}
	for at := range before {
		names[at] = at.words(old)
	}
	for at := range after {
		names[at] = at.words(now)
	}
	places := slices.Collect(maps.Keys(names))
	slices.SortFunc(places, func(a, b place) int { return strings.Compare(names[a], names[b]) })
	for _, at := range places {
		was, is := before[at], after[at]
		var text string
		switch {
		case was == is:
			continue
		case was == "":
			text = fmt.Sprintf("%s is %s", names[at], is)
		case is == "":
			text = fmt.Sprintf("%s is no longer set", names[at])
		default:
			text = fmt.Sprintf("%s is %s instead of %s", names[at], is, was)
		}
		c.list = append(c.list, contract.Change{Level: contract.Patch, Text: text, Key: at.part + " " + at.property + " " + at.when})
	}
}

// place is where a contract says a value: a part by its id, a property, a condition by
// its key.
type place struct{ part, property, when string }

func (at place) words(c *contract.Contract) string {
	part := at.part
	if p := c.Part(part); p != nil {
		part = p.Name
	}
	when, err := contract.ParseWhen(at.when)
	if err != nil || when.Always() {
		return part + " · " + at.property
	}
	return part + " · " + at.property + " · " + c.Words(when)
}

func valuesByPlace(c *contract.Contract) map[place]string {
	out := map[place]string{}
	for _, u := range c.ValueSites() {
		out[place{u.Part, u.Property, u.When.Key()}] = u.Value
	}
	return out
}

// givenOf writes what a use is of, and what it gives.
func givenOf(p *contract.Part) []byte {
	text, err := json.Marshal(contract.Part{Content: p.Use()})
	if err != nil {
		panic(err) // plain data
	}
	return text
}
