package contract

import (
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// ValueSite is one place where a contract says a value.
type ValueSite struct {
	Part     string
	Property string
	When     When // zero for the part's own style
	Value    string
}

// ValueSites lists every value a contract says, in its order.
func (c *Contract) ValueSites() []ValueSite {
	var out []ValueSite
	c.Walk(func(p, _ *Part) {
		for _, property := range p.Style.Properties() {
			out = append(out, ValueSite{Part: p.ID, Property: property, Value: p.Style[property]})
		}
	})
	for _, r := range c.Rules {
		for _, property := range r.Set.Properties() {
			out = append(out, ValueSite{Part: r.Part, Property: property, When: r.When, Value: r.Set[property]})
		}
	}
	return out
}

// Rewrite changes the values a contract says, wherever the function gives
// another one, and tells how many it changed.
func (c *Contract) Rewrite(change func(ValueSite) string) int {
	n := 0
	set := func(u ValueSite, s Style) {
		if v := change(u); v != u.Value {
			s[u.Property] = v
			n++
		}
	}
	c.Walk(func(p, _ *Part) {
		for _, property := range p.Style.Properties() {
			set(ValueSite{Part: p.ID, Property: property, Value: p.Style[property]}, p.Style)
		}
	})
	for _, r := range c.Rules {
		for _, property := range r.Set.Properties() {
			set(ValueSite{Part: r.Part, Property: property, When: r.When, Value: r.Set[property]}, r.Set)
		}
	}
	return n
}

// RenameToken makes every reference to a token, or to what is in a group of
// tokens, follow its new name.
func (c *Contract) RenameToken(from, to string) int {
	renamed := func(path string) string {
		if path == from || strings.HasPrefix(path, from+".") {
			return to + path[len(from):]
		}
		return path
	}
	n := c.Rewrite(func(u ValueSite) string {
		return css.ReplaceRefs(u.Value, func(path string) string { return "{" + renamed(path) + "}" })
	})
	if c.Behaviour == nil {
		return n
	}
	for _, path := range c.Behaviour.Tokens() {
		if renamed(path) != path {
			n++
		}
	}
	c.times(func(path string) (string, float64) { return renamed(path), 0 })
	return n
}

// Paints tells in which role a property uses a colour.
func Paints(property string) (token.Role, bool) {
	switch property {
	case "color":
		return token.TextRole, true
	case "background-color":
		return token.GroundRole, true
	case "border-color", "fill":
		return token.LineRole, true
	}
	return "", false
}
