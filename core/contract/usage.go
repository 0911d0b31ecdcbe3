package contract

import (
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// Use is one place where a contract says a value.
type Use struct {
	Part     string
	Property string
	When     When // zero for the part's own style
	Value    string
}

// Uses lists every value a contract says, in its order.
func (c *Contract) Uses() []Use {
	var out []Use
	c.Walk(func(p, _ *Part) {
		for _, property := range p.Style.Properties() {
			out = append(out, Use{Part: p.ID, Property: property, Value: p.Style[property]})
		}
	})
	for _, r := range c.Rules {
		for _, property := range r.Set.Properties() {
			out = append(out, Use{Part: r.Part, Property: property, When: r.When, Value: r.Set[property]})
		}
	}
	return out
}

// Rewrite changes the values a contract says, wherever the function gives
// another one, and tells how many it changed.
func (c *Contract) Rewrite(change func(Use) string) int {
	n := 0
	set := func(u Use, s Style) {
		if v := change(u); v != u.Value {
			s[u.Property] = v
			n++
		}
	}
	c.Walk(func(p, _ *Part) {
		for _, property := range p.Style.Properties() {
			set(Use{Part: p.ID, Property: property, Value: p.Style[property]}, p.Style)
		}
	})
	for _, r := range c.Rules {
		for _, property := range r.Set.Properties() {
			set(Use{Part: r.Part, Property: property, When: r.When, Value: r.Set[property]}, r.Set)
		}
	}
	return n
}

// RenameToken makes every reference to a token, or to what is in a group of
// tokens, follow its new name.
func (c *Contract) RenameToken(from, to string) int {
	return c.Rewrite(func(u Use) string {
		return css.ReplaceRefs(u.Value, func(path string) string {
			if path == from || strings.HasPrefix(path, from+".") {
				path = to + path[len(from):]
			}
			return "{" + path + "}"
		})
	})
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
