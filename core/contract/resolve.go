package contract

import (
	"math"
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// Resolved is a part as one case has it.
type Resolved struct {
	Part     *Part
	Shown    bool // false when its flag, or an ancestor's, hides it
	Text     string
	Values   map[string]Resolution // by property; only what is said or inherited
	Children []*Resolved
}

// Resolution is a property's value in one case and where it comes from.
type Resolution struct {
	Expression string    // as written: "{space.2}"
	Value      string    // in comparable form: "8px"
	Part       string    // the part that says it; an ancestor's when inherited
	When       Condition // the rule's conditions; zero for the part's own style
}

// Resolve gives the part tree of a contract as it is drawn, whatever the width
// of its container.
func Resolve(c *Contract, values map[string]Value, tokens *token.Set) *Resolved {
	return ResolveAt(c, values, math.Inf(1), tokens)
}

// ResolveAt gives the part tree of a contract for prop values in a container of
// a width, px; props left out take their default. Rules apply in order, inherited properties pass from
// parent to child (CSS Cascade 5, 7), currentColor takes the part's color.
func ResolveAt(c *Contract, values map[string]Value, width float64, tokens *token.Set) *Resolved {
	all := c.Defaults()
	for name, v := range values {
		all[name] = v
	}
	r := resolver{c, all, width, tokens}
	return r.part(c.Root, nil, true)
}

type resolver struct {
	contract *Contract
	values   map[string]Value
	width    float64
	tokens   *token.Set
}

func (r resolver) part(p *Part, inherited map[string]Resolution, shown bool) *Resolved {
	out := &Resolved{Part: p, Shown: shown, Text: p.Content, Values: map[string]Resolution{}}
	if p.Show != "" && r.values[p.Show] != "true" {
		out.Shown = false
	}
	if p.Text != "" {
		out.Text = string(r.values[p.Text])
	}
	for property, v := range inherited {
		out.Values[property] = v
	}
	own := func(s Style, when Condition) {
		for property, expression := range s {
			out.Values[property] = Resolution{Expression: expression, Part: p.Name, When: when}
		}
	}
	own(p.Style, Condition{})
	for _, rule := range r.contract.Rules {
		if rule.Part == p.Name && rule.When.Holds(r.values, r.width) {
			own(rule.Set, rule.When)
		}
	}
	parentFont := pixelsOr(inherited["font-size"].Value, css.RootFontSize)
	font := parentFont
	if v, ok := out.Values["font-size"]; ok && v.Part == p.Name {
		v.Value = css.CanonicalText("font-size", ResolveTokens(v.Expression, r.tokens), parentFont)
		out.Values["font-size"] = v
		font = pixelsOr(v.Value, parentFont)
	}
	for property, v := range out.Values {
		if v.Part == p.Name && property != "font-size" {
			v.Value = css.CanonicalText(property, ResolveTokens(v.Expression, r.tokens), font)
			out.Values[property] = v
		}
	}
	for property, v := range out.Values {
		if strings.EqualFold(v.Value, "currentcolor") && property != "color" {
			if c, ok := out.Values["color"]; ok {
				v.Value = c.Value
				out.Values[property] = v
			}
		}
	}
	pass := map[string]Resolution{}
	for property, v := range out.Values {
		if known, ok := css.PropertyNamed(property); ok && known.Inherited {
			pass[property] = v
		}
	}
	for _, child := range p.Children {
		out.Children = append(out.Children, r.part(child, pass, out.Shown))
	}
	return out
}

func pixelsOr(value string, fallback float64) float64 {
	if n, ok := css.Pixels(value); ok {
		return n
	}
	return fallback
}

// Find gives a part of the resolved tree by name; nil when there is none.
func (r *Resolved) Find(part string) *Resolved {
	if r.Part.Name == part {
		return r
	}
	for _, child := range r.Children {
		if found := child.Find(part); found != nil {
			return found
		}
	}
	return nil
}

// Walk visits the part and all below it, parents first.
func (r *Resolved) Walk(visit func(*Resolved)) {
	visit(r)
	for _, child := range r.Children {
		child.Walk(visit)
	}
}
