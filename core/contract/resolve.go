package contract

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// Resolved is a part as one environment has it.
type Resolved struct {
	Part       *Part
	Item       []int // which item of each list around it, outer first
	Shown      bool  // false when its condition, or an ancestor's, hides it
	Text       string
	Level      int                   // of a heading whose level a prop says; else 0
	Image      *ImageValue           // of an image that is there
	Icon       *Vector               // of an icon that is there
	Attributes map[string]string     // those it has, by name; of one that refers to a part the part's id, of a flag of HTML nothing
	Values     map[string]Resolution // by property; only what is said or inherited
	Children   []*Resolved
	Inside     *Resolved   // of a use, the component that it is of, as this use has it
	Given      Values      // of a use, the values of its component's props, defaults included
	Filled     []*Resolved // of a slot, what a use put there

	within string // before its key: the uses it stands in
}

// Resolution is a property's value in one environment and where it comes from.
type Resolution struct {
	Expression string // as written: "{space.2}"
	Value      string // in canonical form: "8px"
	Part       string // id of the part that says it; an ancestor's when inherited, after a / one around the component
	When       When   // the rule's condition; zero for the part's own style
}

// Resolve gives the part tree of a contract in an environment; props left out take
// their default. Rules apply in order, inherited properties pass from parent to child
// (CSS Cascade 5, 7), currentColor takes the part's color.
func Resolve(c *Contract, env Env, tokens *token.Set) *Resolved {
	env.Props = c.Defaults().With(env.Props)
	return resolverOf(c, env, tokens).part(c.Root, nil, nil, true)
}

func resolverOf(c *Contract, env Env, tokens *token.Set) resolver {
	env, says := c.behaves(c.flagged(env))
	r := resolver{contract: c, env: env, tokens: tokens, rules: map[string][]Rule{}, says: map[string][]Said{}}
	for _, s := range says {
		r.says[s.Part] = append(r.says[s.Part], s)
	}
	for _, rule := range c.Rules {
		r.rules[rule.Part] = append(r.rules[rule.Part], rule)
	}
	return r
}

// Key names the part, and which one where there are several: "item", "item[1]", "label[1]".
// The first of each list is named as if there were one. Inside of a use, the use's key stands
// before: "tag/label".
func (r *Resolved) Key() string {
	key, first := r.within+r.Part.ID, true
	for _, i := range r.Item {
		first = first && i == 0
	}
	if first {
		return key
	}
	for _, i := range r.Item {
		key += "[" + strconv.Itoa(i) + "]"
	}
	return key
}

type resolver struct {
	contract *Contract
	env      Env
	tokens   *token.Set
	rules    map[string][]Rule // by part
	says     map[string][]Said // by part: what the behaviour says
	slots    map[string]filler // what stands in slots, by the slot's id
	within   string
}

// filler resolves what stands in a slot, by what is inherited there.
type filler func(inherited map[string]Resolution, shown bool) []*Resolved

func (r resolver) part(p *Part, item []int, inherited map[string]Resolution, shown bool) *Resolved {
	out := &Resolved{Part: p, Item: item, Shown: shown && p.ShownWhen.Holds(r.env), Values: map[string]Resolution{}, Attributes: r.attributes(p), within: r.within}
	if n, ok := r.env.Props[p.Level].(NumberValue); ok {
		out.Level = int(n)
	}
	children := out.Shown // what stands beside what it shows
	switch content := p.Content.(type) {
	case TextOf:
		if v := r.env.Props[content.Prop]; v != nil {
			out.Text = v.String()
		}
	case ImageOf:
		if v, ok := r.env.Props[content.Prop].(ImageValue); ok {
			out.Image, children = &v, false
		}
	case Picture:
		if content.Source != "" {
			out.Image = &ImageValue{Source: content.Source, Alt: content.Alt, Width: content.Width, Height: content.Height}
		}
	case IconOf:
		if v, ok := r.env.Props[content.Prop].(IconValue); ok {
			if prop := r.contract.Prop(content.Prop); prop != nil {
				out.Icon = prop.Type.(Icon).Named(string(v))
			}
		}
		out.Shown = out.Shown && out.Icon != nil
	case SlotOf:
		children = children && r.slots[content.Prop] == nil
	case FixedText:
		out.Text = content.Text
	}
	for _, s := range r.says[p.ID] {
		if said, ok := s.Value.(string); ok && s.Name == TextSaid {
			out.Text = said
		}
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
		if rule.When.Holds(r.env) {
			own(rule.Set, rule.When)
		}
	}
	own(saidStyle(r.says[p.ID], r.env.Direction), When{})
	rootFont := cmp.Or(r.env.RootFont, css.RootFontSize)
	parentFont := pixelsOr(inherited["font-size"].Value, rootFont)
	font := parentFont
	if v, ok := out.Values["font-size"]; ok && v.Part == p.ID {
		v.Value = css.CanonicalTextAt("font-size", ResolveTokens(v.Expression, r.tokens), parentFont, rootFont)
		out.Values["font-size"] = v
		font = pixelsOr(v.Value, parentFont)
	}
	for property, v := range out.Values {
		if v.Part == p.ID && property != "font-size" {
			v.Value = css.CanonicalTextAt(property, ResolveTokens(v.Expression, r.tokens), font, rootFont)
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
	if u := p.Use(); u != nil && u.of != nil {
		out.Inside, out.Children = r.inside(out, pass)
		return out
	}
	if slot, ok := p.Content.(SlotOf); ok && r.slots[slot.Prop] != nil {
		out.Filled = r.slots[slot.Prop](pass, out.Shown)
	}
	for _, child := range p.Children {
		out.Children = append(out.Children, r.repeated(child, item, pass, children)...)
	}
	return out
}

// attributes gives those that a part has: a flag of HTML that is off is not there, nor is what
// nobody gave.
func (r resolver) attributes(p *Part) map[string]string {
	if len(p.Attributes)+len(r.says[p.ID]) == 0 {
		return nil
	}
	out := make(map[string]string, len(p.Attributes))
	defer func() {
		for _, s := range r.says[p.ID] {
			sayAttribute(out, s)
		}
	}()
	for name, a := range p.Attributes {
		switch v := r.env.Props[a.Prop].(type) {
		case nil:
			if a.Prop == "" {
				out[name] = a.Text + a.Part
			}
		case FlagValue:
			if strings.Contains(name, "-") {
				out[name] = v.String() // ARIA says both
			} else if v {
				out[name] = ""
			}
		default:
			out[name] = v.String()
		}
	}
	return out
}

// outside stands before the id of a part around a use, from where values inside are inherited.
const outside = "/"

// inside resolves the component that a part is a use of, and the parts that stand in its slots.
func (r resolver) inside(use *Resolved, inherited map[string]Resolution) (*Resolved, []*Resolved) {
	p, u := use.Part, use.Part.Use()
	env := Env{Props: u.of.Defaults().With(u.Values(r.env)).With(saidProps(u.of, r.says[p.ID])), Containers: r.env.Containers, Viewport: r.env.Viewport, Theme: r.env.Theme, Direction: r.env.Direction, RootFont: r.env.RootFont}
	var own []*Resolved
	slots := map[string]filler{}
	for _, id := range sortedKeys(u.Given) {
		g := u.Given[id]
		switch {
		case len(g.Parts) > 0:
			slots[id] = func(inherited map[string]Resolution, shown bool) (out []*Resolved) {
				for _, child := range p.Children {
					if slices.Contains(g.Parts, child.ID) {
						out = append(out, r.repeated(child, use.Item, inherited, shown)...)
					}
				}
				own = append(own, out...)
				return out
			}
		case g.Prop != "" && r.slots[g.Prop] != nil: // passed on
			slots[id] = r.slots[g.Prop]
		default:
			continue
		}
		env.Props[id] = FilledSlot{}
	}
	use.Given = env.Props
	inner := resolverOf(u.of, env, r.tokens)
	inner.slots, inner.within = slots, use.Key()+"/"
	from := make(map[string]Resolution, len(inherited))
	for property, v := range inherited {
		v.Part = outside + v.Part
		from[property] = v
	}
	return inner.part(u.of.Root, nil, from, use.Shown), own
}

// repeated gives a part once, or once for each item of its list; of none a single one that is
// not shown.
func (r resolver) repeated(p *Part, item []int, inherited map[string]Resolution, shown bool) (out []*Resolved) {
	if p.Repeat == "" {
		return []*Resolved{r.part(p, item, inherited, shown)}
	}
	items, _ := r.env.Props[p.Repeat].(ListValue)
	if len(items) == 0 {
		return []*Resolved{r.part(p, append(item[:len(item):len(item)], 0), inherited, false)}
	}
	around := r.env.Props
	for i, values := range items {
		r.env.Props = around.With(r.contract.itemValues(p.Repeat, values))
		out = append(out, r.part(p, append(item[:len(item):len(item)], i), inherited, shown))
	}
	return out
}

// itemValues gives an item's values by the ids they have outside of the list, with the
// defaults of those left out.
func (c *Contract) itemValues(list string, values Values) Values {
	out := Values{}
	prop := c.Prop(list)
	if prop == nil {
		return out
	}
	l, _ := prop.Type.(List)
	for _, p := range l.Items {
		v := values[p.ID]
		if v == nil {
			v = p.Default()
		}
		out[list+"."+p.ID] = v
	}
	return out
}

func pixelsOr(value string, fallback float64) float64 {
	if n, ok := css.Pixels(value); ok {
		return n
	}
	return fallback
}

// PartOf gives the id of the part that a key is of: of what stands inside of a use, the use.
func PartOf(key string) string {
	key, _, _ = strings.Cut(key, "/")
	key, _, _ = strings.Cut(key, "[")
	return key
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
