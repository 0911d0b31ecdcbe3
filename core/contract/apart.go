package contract

import (
	"fmt"
	"slices"
	"strings"
)

// ApartFrom lists the ids of the props that a use cannot give together with one.
func (c *Contract) ApartFrom(id string) []string {
	for _, group := range c.Apart {
		if slices.Contains(group, id) {
			return slices.DeleteFunc(slices.Clone(group), func(other string) bool { return other == id })
		}
	}
	return nil
}

// isGiven tells whether a value is more than a prop has that nobody gave one.
func isGiven(v Value) bool { return IsSet(v) && v != FlagValue(false) }

// givenTerm tells whether a term asks for a prop that somebody gave, and gives its id.
func givenTerm(t Term) (string, bool) {
	switch t := t.(type) {
	case PropSet:
		return t.Prop, t.Set
	case PropIs:
		return t.Prop, t.Value == FlagValue(true)
	case NumberIs:
		return t.Prop, true
	}
	return "", false
}

// together tells whether two terms ask for props that a use cannot give together.
func (c *Contract) together(a, b Term) bool {
	x, givenA := givenTerm(a)
	y, givenB := givenTerm(b)
	return givenA && givenB && slices.Contains(c.ApartFrom(x), y)
}

// apart checks the groups of props of which a use gives one at most.
func (k *checker) apart() {
	seen := map[string]bool{}
	for i, group := range k.c.Apart {
		at := fmt.Sprintf("/apart/%d", i)
		if len(group) < 2 {
			k.found.Errorf("props-apart", at, "name two props or more, or remove it", "one prop alone stands apart from nothing")
		}
		for j, id := range group {
			at := fmt.Sprintf("%s/%d", at, j)
			p := k.c.Prop(id)
			switch {
			case p == nil || strings.Contains(id, "."):
				k.found.Errorf("props-apart", at, "name a prop of the component", "there is no prop %q", id)
			case seen[id]:
				k.found.Errorf("props-apart", at, "name it once", "%s stands apart from others twice", p.Name)
			case p.Required:
				k.found.Errorf("props-apart", at, "let it be left out", "%s is required, so that nothing it stands apart from can ever be given", p.Name)
			case isGiven(p.Default()):
				k.found.Errorf("props-apart", at, "give it no default, or an example in place of it", "%s has a default, so that it is there even where another is given", p.Name)
			}
			seen[id] = true
		}
	}
}

// apartGiven finds props that a use gives together and its component keeps apart.
func (k *checker) apartGiven(p *Part, u *Use, at string) {
	for _, group := range u.of.Apart {
		var given []string
		for _, id := range group {
			if _, ok := u.Given[id]; ok {
				given = append(given, u.of.Prop(id).Name)
			}
		}
		if len(given) > 1 {
			k.found.Errorf("use-apart", at+"/given", "keep one of them", "%s is given %s, and %s takes one of them at most", p.Name, strings.Join(given, " and "), u.Component)
		}
	}
}
