package contract

import (
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// Resolved is a part as one environment has it.
type Resolved struct {
	Part     *Part
	Shown    bool // false when its condition, or an ancestor's, hides it
	Text     string
	Values   map[string]Resolution // by property; only what is said or inherited
	Children []*Resolved
}

// Resolution is a property's value in one environment and where it comes from.
type Resolution struct {
	Expression string // as written: "{space.2}"
	Value      string // in canonical form: "8px"
	Part       string // id of the part that says it; an ancestor's when inherited
	When       When   // the rule's condition; zero for the part's own style
}

// Resolve gives the part tree of a contract in an environment; props left out take
// their default. Rules apply in order, inherited properties pass from parent to child
// (CSS Cascade 5, 7), currentColor takes the part's color.
func Resolve(c *Contract, env Env, tokens *token.Set) *Resolved {
	env.Props = c.Defaults().With(env.Props)
	env = c.inStates(env)
	r := resolver{c, env, tokens, map[string][]Rule{}}
	for _, rule := range c.Rules {
		if rule.When.Holds(env) {
			r.rules[rule.Part] = append(r.rules[rule.Part], rule)
		}
	}
	return r.part(c.Root, nil, true)
}

type resolver struct {
	contract *Contract
	env      Env
	tokens   *token.Set
	rules    map[string][]Rule // those that hold, by part
}

func (r resolver) part(p *Part, inherited map[string]Resolution, shown bool) *Resolved {
	out := &Resolved{Part: p, Shown: shown && p.ShownWhen.Holds(r.env), Values: map[string]Resolution{}}
	switch content := p.Content.(type) {
	case TextOf:
		if v := r.env.Props[content.Prop]; v != nil {
			out.Text = v.String()
		}
	case FixedText:
		out.Text = content.Text
	}
	for property, v := range inherited {
		out.Values[property] = v
	}
	own := func(s Style, when When) {
		for property, expression := range s {
			out.Values[property] = Resolution{Expression: expression, Part: p.ID, When: when}
		}
	}
	own(p.Style, When{})
	for _, rule := range r.rules[p.ID] {
		own(rule.Set, rule.When)
	}
	parentFont := pixelsOr(inherited["font-size"].Value, css.RootFontSize)
	font := parentFont
	if v, ok := out.Values["font-size"]; ok && v.Part == p.ID {
		v.Value = css.CanonicalText("font-size", ResolveTokens(v.Expression, r.tokens), parentFont)
		out.Values["font-size"] = v
		font = pixelsOr(v.Value, parentFont)
	}
	for property, v := range out.Values {
		if v.Part == p.ID && property != "font-size" {
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

// Find gives a part of the resolved tree by its id; nil when there is none.
func (r *Resolved) Find(part string) *Resolved {
	if path := r.PathTo(part); path != nil {
		return path[len(path)-1]
	}
	return nil
}

// PathTo lists the parts from this one down to one of an id; none when it is not there.
func (r *Resolved) PathTo(part string) []*Resolved {
	if r.Part.ID == part {
		return []*Resolved{r}
	}
	for _, child := range r.Children {
		if below := child.PathTo(part); below != nil {
			return append([]*Resolved{r}, below...)
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
