package contract

import (
	"fmt"
	"slices"
	"strings"
)

// standing are the properties that say how an element stands where it is, not what it is
// inside: those a use may set of its component.
var standing = []string{
	"width", "height", "min-width", "max-width", "min-height", "max-height", "flex", "align-self", "justify-self", "margin-left", "margin-top",
	"position", "inset", "left", "top", "right", "bottom", "grid-area", "opacity", "rotate", "box-sizing", "display",
}

// Standing tells whether a property says how an element stands where it is, not what it is inside: a use may set it.
func Standing(property string) bool { return slices.Contains(standing, property) }

// use checks a part that is a use of another component; around is what holds where it is there.
func (k *checker) use(p *Part, at string, lists []string, around When) {
	u := p.Use()
	at += "/use"
	if p == k.c.Root {
		k.found.Errorf("use-root", at, "put it into a part", "a component is made of an element, and its root is a use of %s", u.Component)
	}
	if p.Element != "" || p.Level != "" || len(p.Attributes) > 0 {
		k.found.Errorf("use-element", at, "remove them, or give them to a part around it", "%s is a use of %s, and has no element or attributes of its own", p.Name, u.Component)
	}
	for _, property := range p.Style.Properties() {
		k.standing(p, property, at)
	}
	if u.of == nil {
		if u.sought {
			k.found.Errorf("use-component", at+"/component", "add the component, or use another", "there is no component %s", u.Component)
		}
		return
	}
	for _, id := range sortedKeys(u.Given) {
		k.given(p, id, at+"/given/"+id, lists, around)
	}
	k.apartGiven(p, u, at)
	for _, q := range u.of.Props {
		if _, given := u.Given[q.ID]; q.Required && !given {
			k.found.Errorf("use-required", at+"/given", "give it a value, or pass it on", "%s has to be given %s", p.Name, q.Name)
		}
	}
	for i, child := range p.Children {
		if u.SlotOf(child.ID) == "" {
			k.found.Errorf("use-slot", fmt.Sprintf("%s/children/%d", strings.TrimSuffix(at, "/use"), i), "name it in what a slot is given", "%s stands in no slot of %s", child.Name, u.Component)
		}
	}
}

func (k *checker) standing(p *Part, property, at string) {
	if !Standing(property) {
		k.found.Errorf("use-style", at, "change the component, or give it a prop for it", "%s of %s is the affair of %s: a use says only how it stands", property, p.Name, p.Use().Component)
	}
}

// given checks what a use gives for a prop.
func (k *checker) given(p *Part, id, at string, lists []string, around When) {
	u := p.Use()
	g, q := u.Given[id], u.of.Prop(id)
	if q == nil || strings.Contains(id, ".") {
		k.found.Errorf("use-prop", at, "remove it", "%s has no prop %q", u.Component, id)
		return
	}
	if said := [...]bool{g.Value != nil, g.Prop != "", len(g.Parts) > 0}; count(said[:]) > 1 || count(said[:]) == 0 && len(g.Cases) == 0 {
		k.found.Errorf("use-given", at, "keep one of value, prop and parts", "%s is given for %s of %s in no way, or in two", q.Name, u.Component, p.Name)
	}
	if g.Prop != "" {
		k.givenProp(p, q, g.Prop, at+"/prop", lists)
	}
	if len(g.Parts) > 0 && q.Kind() != SlotKind {
		k.found.Errorf("use-slot", at+"/parts", "give parts to a slot", "%s of %s is no slot but a %s", q.Name, u.Component, q.Kind())
	}
	for _, part := range g.Parts {
		if !slices.ContainsFunc(p.Children, func(c *Part) bool { return c.ID == part }) {
			k.found.Errorf("use-slot", at+"/parts", "name parts below the use", "%s holds no part %q", p.Name, part)
		}
	}
	if g.Value != nil {
		k.decodes(q, g.Value, at+"/value")
	}
	for i, one := range g.Cases {
		at := fmt.Sprintf("%s/cases/%d", at, i)
		k.condition(one.When, at+"/when")
		if !one.When.OfProps() {
			k.found.Errorf("use-when", at+"/when", "ask of props alone", "what %s is given can depend on props alone", p.Name)
		}
		for _, t := range one.When.Terms() {
			k.inScope(PropOf(t), at+"/when", p.Name, lists)
		}
		k.decodes(q, one.Value, at+"/value")
		dead := slices.ContainsFunc(one.When.Terms(), func(t Term) bool {
			return slices.ContainsFunc(around.Terms(), func(o Term) bool { return apart(o, t) })
		})
		for _, later := range g.Cases[i+1:] {
			dead = dead || later.When.Covers(one.When)
		}
		if dead {
			k.found.Errorf("use-dead", at+"/when", "remove it", "%s of %s is never given this: a later case wins, or %s is not there", q.Name, p.Name, p.Name)
		}
	}
}

func (k *checker) decodes(q *Prop, value []byte, at string) {
	if _, err := q.Type.Decode(value); err != nil {
		k.found.Errorf("use-value", at, "", "%s: %s", q.Name, err)
	}
}

// givenProp checks that a prop of the component takes whatever a prop of this one may be.
func (k *checker) givenProp(p *Part, q *Prop, id, at string, lists []string) {
	prop := k.c.Prop(id)
	k.inScope(id, at, p.Name, lists)
	switch {
	case prop == nil:
		k.found.Errorf("use-prop", at, "name a prop", "there is no prop %q", id)
	case prop.Kind() != q.Kind():
		k.found.Errorf("use-prop", at, "name a "+string(q.Kind()), "%s of %s is a %s, and %s a %s", q.Name, p.Use().Component, q.Kind(), prop.Name, prop.Kind())
	case q.Required && !prop.Required && prop.Default() == nil && q.Type.Control() != "none":
		k.found.Errorf("use-required", at, "make it required, or give it a default", "%s has to be given %s, and %s may be left out", p.Name, q.Name, prop.Name)
	default:
		takes := q.Type
		if d := prop.Type.Default(); d != nil && takes.Takes(d) { // each has its own
			takes = takes.withDefault(d)
		}
		for _, c := range takes.Changes(q.Name, prop.Type) {
			if c.Level == Major {
				k.found.Errorf("use-prop", at, "give both the same values", "%s cannot be passed on to %s: %s", prop.Name, p.Name, c.Text)
				return
			}
		}
	}
}

// passing checks that a prop that is passed on reaches the prop that it is.
func (k *checker) passing(p *Prop, at string) {
	part := k.c.Part(p.From.Part)
	if part == nil || part.Use() == nil {
		k.found.Errorf("prop-from", at+"/from/part", "name a use of a component", "there is no use of a component %q", p.From.Part)
		return
	}
	u := part.Use()
	if u.Given[p.From.Prop].Prop != p.ID {
		k.found.Errorf("prop-from", at+"/from", "give it to the use, or remove it", "%s is said to be passed on to %s, and that is given something else", p.Name, part.Name)
	}
	if u.of != nil && u.of.Prop(p.From.Prop) == nil {
		k.found.Errorf("prop-from", at+"/from/prop", "remove the prop", "%s no longer has the prop that %s is passed on to", u.Component, p.Name)
	}
}
