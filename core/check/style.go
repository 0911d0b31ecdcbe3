package check

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/problem"
)

// narrowest is the width, px, at which everything has to be usable without scrolling in two
// directions (WCAG 2.2, 1.4.10).
const narrowest = 320

// layout finds what lays out otherwise than it looks in the design.
func (k *checker) layout() {
	for _, w := range k.envs {
		w.tree.Walk(func(r *contract.Resolved) {
			for _, child := range r.Children {
				k.absolute(r, child)
			}
			k.percentTracks(r)
			k.percentRow(r)
		})
	}
	for _, u := range k.c.ValueSites() {
		if u.Property != "width" && u.Property != "min-width" {
			continue
		}
		px, ok := css.Pixels(contract.ResolveTokens(u.Value, k.o.Themes[0].Tokens))
		wide := slices.ContainsFunc(u.When.Terms(), func(t contract.Term) bool {
			switch t := t.(type) {
			case contract.Container:
				return t.From >= px
			case contract.Viewport:
				return t.From >= px
			}
			return false
		})
		if !ok || px <= narrowest || wide {
			continue
		}
		u := u
		var fix func(*contract.Contract)
		if u.Property == "width" {
			fix = func(c *contract.Contract) {
				c.SetValue(u.Part, "max-width", u.When, u.Value)
				c.SetValue(u.Part, "width", u.When, "100%")
			}
		}
		k.say(problem.Warning, "width-fixed", k.at[u.Part], u.Property+u.When.Key(), fix, "say max-width, and a width of 100%",
			"%s is %s wide whatever the room, and a page may be %d px (WCAG 2.2, 1.4.10)", k.c.Part(u.Part).Name, css.FormatNumber(px)+" px", narrowest)
	}
}

// absolute finds a part that is placed by something further out than its parent (CSS Positioned
// Layout 3, 2.1).
func (k *checker) absolute(r, child *contract.Resolved) {
	position := func(r *contract.Resolved) string { return r.Values["position"].Value }
	if position(child) != "absolute" || position(r) != "" && position(r) != "static" {
		return
	}
	id := r.Part.ID
	k.say(problem.Error, "absolute-parent", k.at[child.Part.ID]+"/style/position", "", func(c *contract.Contract) { c.SetValue(id, "position", contract.When{}, "relative") },
		"give "+r.Part.Name+" the position relative", "%s is placed absolutely, and %s around it is not positioned", child.Part.Name, r.Part.Name)
}

// percentTracks finds columns in percent that overflow by their gaps: two halves and a gap of 16
// px are 16 px too many (CSS Grid 2, 7.2.1: percentages are of the whole container).
func (k *checker) percentTracks(r *contract.Resolved) {
	gap := column(r.Values["gap"].Value)
	if own, ok := r.Values["column-gap"]; ok {
		gap = column(own.Value)
	}
	columns, said := r.Values["grid-template-columns"]
	words := strings.Fields(columns.Value)
	if !said || gap <= 0 || len(words) < 2 || r.Values["display"].Value == "flex" {
		return
	}
	sum := 0.0
	var shares []string
	for _, w := range words {
		n, err := strconv.ParseFloat(strings.TrimSuffix(w, "%"), 64)
		if err != nil || !strings.HasSuffix(w, "%") {
			return
		}
		sum += n
		shares = append(shares, css.FormatNumber(math.Round(n*100)/100)+"fr")
	}
	if sum < 99.5 {
		return
	}
	id, when := r.Part.ID, columns.When
	k.say(problem.Error, "percent-gap", k.at[r.Part.ID], "", func(c *contract.Contract) { c.SetValue(id, "grid-template-columns", when, strings.Join(shares, " ")) },
		"say shares: "+strings.Join(shares, " "), "the columns of %s are %s%% of it, and its gaps come on top: it overflows by %s px", r.Part.Name, css.FormatNumber(sum), css.FormatNumber(gap*float64(len(words)-1)))
}

// percentRow finds parts of a row in percent that may not shrink, and overflow by the gaps between
// them (CSS Flexbox 1, 9.7: only what shrinks gives room back).
func (k *checker) percentRow(r *contract.Resolved) {
	gap := column(r.Values["gap"].Value)
	if display := r.Values["display"].Value; gap <= 0 || display != "flex" && display != "inline-flex" || !slices.Contains([]string{"", "row", "row-reverse"}, r.Values["flex-direction"].Value) || strings.HasPrefix(r.Values["flex-wrap"].Value, "wrap") {
		return
	}
	sum := 0.0
	shrinking := map[string]string{} // the flex of each part when it gives way, by its id
	for _, child := range r.Below() {
		flex := child.Values["flex"].Value
		width, basis := child.Values["width"].Value, "auto"
		if words := strings.Fields(flex); len(words) == 3 && words[1] == "0" && words[2] != "auto" {
			width, basis = words[2], words[2]
		} else if flex != "none" && !(len(words) == 3 && words[1] == "0") {
			return // it gives way
		}
		n, err := strconv.ParseFloat(strings.TrimSuffix(width, "%"), 64)
		if err != nil || !strings.HasSuffix(width, "%") {
			return
		}
		sum += n
		shrinking[child.Part.ID] = "0 1 " + basis
	}
	if len(shrinking) < 2 || sum < 99.5 {
		return
	}
	k.say(problem.Error, "percent-gap", k.at[r.Part.ID], "row", func(c *contract.Contract) {
		for id, flex := range shrinking {
			c.SetValue(id, "flex", contract.When{}, flex)
			c.SetValue(id, "min-width", contract.When{}, "0")
		}
	}, "let them shrink, and be as narrow as 0: flex 0 1, and min-width 0", "what stands in %s is %s%% of it wide and may not shrink, and the gaps come on top: it overflows by %s px",
		r.Part.Name, css.FormatNumber(sum), css.FormatNumber(gap*float64(len(shrinking)-1)))
}

// column gives the px between columns of a gap.
func column(gap string) float64 {
	words := strings.Fields(gap)
	if len(words) == 0 {
		return 0
	}
	px, _ := css.Pixels(words[len(words)-1])
	return px
}

// rules finds rules that are never in effect, and ranges of widths that overlap or leave a gap.
func (k *checker) rules() {
	used := map[string]bool{} // rules by part, property and condition
	for _, w := range k.envs {
		w.tree.Walk(func(r *contract.Resolved) {
			for property, v := range r.Values {
				if v.Part == r.Part.ID {
					used[v.Part+"\x00"+property+"\x00"+v.When.Key()] = true
				}
			}
		})
	}
	themes := map[string][]string{}
	for _, t := range k.o.Themes {
		for modifier, context := range t.Choices {
			themes[modifier] = append(themes[modifier], context)
		}
	}
	if len(themes) == 0 {
		themes = nil
	}
	for i, r := range k.c.Rules {
		at := fmt.Sprintf("/rules/%d", i)
		part, when := r.Part, r.When
		if k.c.Truth(r.When, themes) == contract.Never {
			k.say(problem.Error, "rule-never", at+"/when", "", drop(part, when), "remove it", "%s can never be", k.c.Words(r.When))
			continue
		}
		if !k.reached(r.When) {
			continue
		}
		for _, property := range r.Set.Properties() {
			again := slices.ContainsFunc(k.c.Rules[i+1:], func(later contract.Rule) bool {
				_, sets := later.Set[property]
				return sets && later.Part == part && later.When.Equal(when)
			})
			if again || !used[r.Part+"\x00"+property+"\x00"+r.When.Key()] {
				k.say(problem.Warning, "rule-idle", at+"/set/"+property, "", func(c *contract.Contract) { c.SetValue(part, property, when, "") },
					"remove it, or move it behind what wins over it", "%s of %s is never %s: a later rule says otherwise wherever %s", property, k.c.Part(part).Name, r.Set[property], k.c.Words(r.When))
			}
		}
	}
	k.ranges()
}

func drop(part string, when contract.When) func(*contract.Contract) {
	return func(c *contract.Contract) {
		c.Rules = slices.DeleteFunc(c.Rules, func(r contract.Rule) bool { return r.Part == part && r.When.Equal(when) })
	}
}

// reached tells whether a condition holds in one of the worlds that were looked at: not all
// that may be are.
func (k *checker) reached(w contract.When) bool {
	return slices.ContainsFunc(k.envs, func(at world) bool {
		env := at.env
		env.Props = k.c.Defaults().With(env.Props)
		return w.Holds(env)
	})
}

// ranges finds two rules that share a width between them badly: a breakpoint pair is complementary
// (common practice, no source).
func (k *checker) ranges() {
	type side struct {
		index int
		r     contract.Rule
		width contract.Range
		kind  string
	}
	var below, from []side
	for i, r := range k.c.Rules {
		for _, t := range r.When.Terms() {
			var of contract.Range
			kind := ""
			switch t := t.(type) {
			case contract.Container:
				of, kind = t.Range, "container "+t.Name
			case contract.Viewport:
				of, kind = t.Range, "viewport"
			default:
				continue
			}
			switch {
			case of.From == 0:
				below = append(below, side{i, r, of, kind})
			case of.Below == 0:
				from = append(from, side{i, r, of, kind})
			}
		}
	}
	for _, a := range below {
		for _, b := range from {
			if a.kind != b.kind || a.r.Part != b.r.Part || a.width.Below == b.width.From || !shares(a.r.Set, b.r.Set) {
				continue
			}
			if slices.ContainsFunc(from, func(o side) bool { return o.kind == a.kind && o.r.Part == a.r.Part && o.width.From == a.width.Below }) {
				continue // its own other half is there
			}
			what := "both hold from %s px to %s px"
			if a.width.Below < b.width.From {
				what = "neither holds from %[2]s px to %[1]s px"
			}
			k.say(problem.Warning, "widths-apart", fmt.Sprintf("/rules/%d/when", b.index), fmt.Sprint(a.index), nil, "let one begin where the other ends",
				"%s, below %s px and from %s px: "+fmt.Sprintf(what, css.FormatNumber(b.width.From), css.FormatNumber(a.width.Below)), k.c.Part(a.r.Part).Name, css.FormatNumber(a.width.Below), css.FormatNumber(b.width.From))
		}
	}
}

func shares(a, b contract.Style) bool {
	return slices.ContainsFunc(a.Properties(), func(p string) bool { _, ok := b[p]; return ok })
}

// scales are the properties whose lengths come from a scale, where there is one.
var scales = []string{"gap", "row-gap", "column-gap", "padding-block", "padding-inline", "border-radius", "font-size", "line-height"}

// scale finds raw lengths that no token has: 18 where the scale has 16 and 20.
func (k *checker) scale() {
	var steps []float64
	for _, t := range k.o.Themes[0].Tokens.All() {
		if px, ok := css.Pixels(t.Value); ok && t.Type == "dimension" {
			steps = append(steps, px)
		}
	}
	if len(steps) == 0 {
		return
	}
	for _, u := range k.c.ValueSites() {
		if !slices.Contains(scales, u.Property) || len(css.RefsIn(u.Value)) > 0 {
			continue
		}
		for _, w := range strings.Fields(u.Value) {
			px, ok := css.Pixels(w)
			if !ok || px == 0 || slices.ContainsFunc(steps, func(s float64) bool { return math.Abs(s-px) < 0.01 }) {
				continue
			}
			nearest := slices.MinFunc(steps, func(a, b float64) int { return int(math.Copysign(1, math.Abs(a-px)-math.Abs(b-px))) })
			k.say(problem.Warning, "off-scale", k.at[u.Part], u.Property+u.When.Key(), nil, "take a token; the nearest is "+css.FormatNumber(nearest)+" px",
				"%s of %s is %s, and no token is", u.Property, k.c.Part(u.Part).Name, w)
		}
	}
}
