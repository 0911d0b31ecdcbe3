package trial

import (
	"fmt"
	"maps"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// Update is what another version of components does to a page.
type Update struct {
	Changed []UseChange  `json:"changed" doc:"Uses that look otherwise"`
	Same    int          `json:"same" doc:"Uses that look the same"`
	Breaks  problem.List `json:"breaks" doc:"What is wrong with the page then, and is not now"`
}

// UseChange is a use that looks otherwise with another version of a component.
type UseChange struct {
	Line      int      `json:"line"`
	Key       string   `json:"key" doc:"Of the part; one of several with the item behind it"`
	Component string   `json:"component"`
	What      []string `json:"what" doc:"Part, property, before and after; the first few"`
	More      int      `json:"more" doc:"How many more"`
}

// mostTold bounds what is told of one use.
const mostTold = 6

// Updated compares a page with itself, made with other versions of components: each use with what it is given, for every record, as
// wide as can be and on the narrow side of every switch point.
func Updated(before, after *Page, tokens *token.Set) Update {
	out := Update{Changed: []UseChange{}, Breaks: problem.List{}}
	for _, p := range after.Found {
		if !slices.ContainsFunc(before.Found, func(o problem.Problem) bool { return o.Line == p.Line && o.Message == p.Message }) {
			out.Breaks = append(out.Breaks, p)
		}
	}
	lines := map[string]Piece{}
	for _, p := range before.Pieces {
		lines[p.Part] = p
	}
	worlds := map[string]contract.Env{}
	after.eachUse(func(key string, _ *contract.Part, env contract.Env) { worlds[key] = env })
	before.eachUse(func(key string, part *contract.Part, env contract.Env) {
		other := after.Contract.Part(part.ID)
		if other == nil || other.Use() == nil || other.Use().Component != part.Use().Component {
			return
		}
		what := differing(part.Use(), other.Use(), env, worlds[key], tokens)
		if len(what) == 0 {
			out.Same++
			return
		}
		change := UseChange{Line: lines[part.ID].Line, Key: key, Component: part.Use().Component, What: what}
		if len(what) > mostTold {
			change.What, change.More = what[:mostTold], len(what)-mostTold
		}
		out.Changed = append(out.Changed, change)
	})
	return out
}

// eachUse visits every use of a page, as often as it is there, with the world it stands in.
func (p *Page) eachUse(visit func(key string, part *contract.Part, env contract.Env)) {
	var walk func(part *contract.Part, item string, props contract.Values)
	walk = func(part *contract.Part, item string, props contract.Values) {
		if part.Repeat != "" {
			list, _ := p.Values[part.Repeat].(contract.ListValue)
			once := *part
			once.Repeat = ""
			for i, values := range list {
				inside := maps.Clone(props)
				for id, v := range values {
					inside[part.Repeat+"."+id] = v
				}
				key := item
				if i > 0 || item != "" {
					key = fmt.Sprintf("%s[%d]", item, i)
				}
				walk(&once, key, inside)
			}
			return
		}
		if part.Use() != nil && part.Use().Of() != nil {
			visit(part.ID+item, part, contract.EnvOf(props))
		}
		for _, child := range part.Children {
			walk(child, item, props)
		}
	}
	walk(p.Contract.Root, "", maps.Clone(p.Values))
}

// differing tells how two uses of one component look otherwise.
func differing(before, after *contract.Use, was, is contract.Env, tokens *token.Set) (out []string) {
	a, b := before.Of(), after.Of()
	x, y := a.Defaults().With(before.Values(was)), b.Defaults().With(after.Values(is))
	widths := []float64{0}
	for _, px := range append(a.SwitchPoints(), b.SwitchPoints()...) {
		widths = append(widths, px-1)
	}
	slices.Sort(widths)
	said := map[string]bool{}
	for _, px := range slices.Compact(widths) {
		for _, one := range differingAt(looksOf(a, x, px, tokens), looksOf(b, y, px, tokens)) {
			text := one
			if px > 0 {
				text += ", below " + css.FormatNumber(px+1) + "px"
			}
			if !said[one] {
				said[one] = true
				out = append(out, text)
			}
		}
	}
	return out
}

// look is what a part looks like: its values, and what it says.
type look struct {
	name   string
	values map[string]string
}

func looksOf(c *contract.Contract, values contract.Values, px float64, tokens *token.Set) map[string]look {
	out := map[string]look{}
	contract.Resolve(c, contract.EnvOf(values).At(px), tokens).Walk(func(r *contract.Resolved) {
		if !r.Shown {
			return
		}
		one := look{r.Part.Name, map[string]string{}}
		for property, v := range r.Values {
			one.values[property] = css.CanonicalText(property, v.Value, css.RootFontSize)
		}
		if one.values["text"] = r.Text; r.Text == "" {
			delete(one.values, "text")
		}
		out[r.Key()] = one
	})
	return out
}

func differingAt(a, b map[string]look) (out []string) {
	for _, key := range slices.Sorted(maps.Keys(a)) {
		x := a[key]
		y, there := b[key]
		if !there {
			out = append(out, x.name+" is gone")
			continue
		}
		all := maps.Clone(x.values)
		maps.Copy(all, y.values)
		for _, property := range slices.Sorted(maps.Keys(all)) {
			if before, after := x.values[property], y.values[property]; before != after {
				out = append(out, fmt.Sprintf("%s: %s %s → %s", x.name, property, orInitial(property, before), orInitial(property, after)))
			}
		}
	}
	for _, key := range slices.Sorted(maps.Keys(b)) {
		if _, there := a[key]; !there {
			out = append(out, b[key].name+" is new")
		}
	}
	return out
}

func orInitial(property, value string) string {
	if value != "" {
		return value
	}
	if initial := css.InitialText(property); initial != "" {
		return initial
	}
	return "nothing"
}
