package check

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
)

// units finds parts of which some lengths follow the size of the text and some do not, and sizes of
// text that multiply: 1 em is the size of the element's own text, 1 rem that of the page (CSS
// Values 4, 6.1.1).
func (k *checker) units() {
	sizes := map[string]float64{} // px of the text of each part, by its id
	var walk func(r *contract.Resolved, around float64)
	walk = func(r *contract.Resolved, around float64) {
		size := around
		if v, own := r.Values["font-size"]; own && v.Part == r.Part.ID {
			if px, ok := css.Pixels(css.CanonicalText("font-size", v.Value, around)); ok {
				size = px
			}
		}
		sizes[r.Part.ID] = size
		for _, child := range slices.Concat(r.Filled, r.Children) {
			if child.Inside == nil {
				walk(child, size)
			}
		}
	}
	walk(k.envs[0].tree, css.RootFontSize)
	following, fixed := map[string][]contract.ValueSite{}, map[string][]contract.ValueSite{}
	for _, u := range k.c.ValueSites() {
		if !u.When.Always() {
			continue
		}
		em, rem := unitsOf(u.Value)
		switch {
		case u.Property == "font-size":
			k.multiplied(u, em)
		case em:
			following[u.Part] = append(following[u.Part], u)
		case rem:
			fixed[u.Part] = append(fixed[u.Part], u)
		}
	}
	for _, id := range slices.Sorted(maps.Keys(following)) {
		if fixed[id] == nil {
			continue
		}
		size := sizes[id]
		said := func(list []contract.ValueSite) string {
			words := make([]string, len(list))
			for i, u := range list {
				words[i] = fmt.Sprintf("%s %s is %s", u.Property, u.Value, css.CanonicalText(u.Property, u.Value, size))
			}
			return strings.Join(words, ", ")
		}
		sites := following[id]
		k.say(problem.Warning, "unit-mix", k.at[id]+"/style", "", func(c *contract.Contract) {
			for _, u := range sites {
				c.SetValue(u.Part, u.Property, u.When, inRem(u.Value, size))
			}
		}, "say all of them in rem, or all in em", "some lengths of %s grow with its text and some do not: %s, whatever the page's size; %s, from a text of %s px",
			k.c.Part(id).Name, said(fixed[id]), said(sites), css.FormatNumber(size))
	}
}

// multiplied finds a size of text in em within another: they multiply.
func (k *checker) multiplied(u contract.ValueSite, em bool) {
	if !em {
		return
	}
	for p := k.around(u.Part); p != nil; p = k.around(p.ID) {
		if outer, _ := unitsOf(p.Style["font-size"]); outer {
			k.say(problem.Warning, "unit-multiplied", k.at[u.Part]+"/style/font-size", "", nil, "say it in rem",
				"the text of %s is %s of that of %s, which is %s of what is around it: they multiply", k.c.Part(u.Part).Name, u.Value, p.Name, p.Style["font-size"])
			return
		}
	}
}

// around gives the part that a part stands in; nil for the root.
func (k *checker) around(id string) (out *contract.Part) {
	k.c.Walk(func(p, parent *contract.Part) {
		if p.ID == id {
			out = parent
		}
	})
	return out
}

// unitsOf tells whether lengths of a value are in em, and whether in rem.
func unitsOf(text string) (em, rem bool) {
	v, err := css.ParseValue(text)
	if err != nil {
		return false, false
	}
	css.Map(v, func(one css.Value) css.Value {
		if l, ok := one.(css.Length); ok {
			em, rem = em || l.Unit == "em", rem || l.Unit == "rem"
		}
		return one
	})
	return em, rem
}

// inRem writes the lengths of a value that are in em in rem, for a text of a size.
func inRem(text string, size float64) string {
	v, err := css.ParseValue(text)
	if err != nil {
		return text
	}
	return css.Map(v, func(one css.Value) css.Value {
		if l, ok := one.(css.Length); ok && l.Unit == "em" {
			return css.Length{N: l.N * size / css.RootFontSize, Unit: "rem"}
		}
		return one
	}).String()
}
