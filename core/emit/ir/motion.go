package ir

import (
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
)

// What is shown and hidden goes from nothing to its own size, and back, without anybody measuring it: sizes of content are interpolated (CSS Values 5, 11; interpolate-size),
// and what is hidden stays until its transition is over (CSS Transitions 2, 3.3 and 4). A browser that does not know of it shows and hides at once.

// from is what a property begins with when a part is shown, and goes back to.
var from = map[string]string{"height": "0", "width": "0", "opacity": "0"}

// moving lists the properties that a part's transition moves, of those it can be shown and hidden by; all for one that names none.
func moving(transition string) (out []string) {
	for _, one := range strings.Split(transition, ",") {
		for _, property := range []string{"height", "width", "opacity"} {
			if slices.Contains(strings.Fields(one), property) {
				out = append(out, property)
			}
		}
	}
	return out
}

// discrete is a transition with the showing and hiding itself as its last, as long as the longest of the properties takes; padding goes along with the height.
func discrete(transition string, properties []string) string {
	var longest, height []string // words of an entry, without its property
	for _, one := range strings.Split(transition, ",") {
		words := strings.Fields(one)
		i := slices.IndexFunc(words, func(word string) bool { return slices.Contains(properties, word) })
		if i < 0 {
			continue
		}
		rest := slices.Delete(slices.Clone(words), i, i+1)
		if words[i] == "height" {
			height = rest
		}
		if longest == nil || lasts(rest) > lasts(longest) {
			longest = rest
		}
	}
	if height != nil {
		transition += ", padding-block " + strings.Join(height, " ")
	}
	return transition + ", display " + strings.Join(longest, " ") + " allow-discrete"
}

// lasts tells how long an entry of a transition takes with its delay, ms; how long a token is nobody knows here, and it is taken for the longest.
func lasts(words []string) (ms float64) {
	for _, word := range words {
		if strings.HasPrefix(word, "{") {
			return math.Inf(1)
		}
		number, unit := strings.TrimSuffix(word, "s"), 1000.0
		if n, is := strings.CutSuffix(number, "m"); is {
			number, unit = n, 1
		}
		if n, err := strconv.ParseFloat(number, 64); err == nil && number != word {
			ms += n * unit
		}
	}
	return ms
}

// shownBy gives the properties by which a part that the behaviour hides is shown; none where it is at once, or only looked at.
func (l *lowering) shownBy(p *contract.Part) []string {
	if l.forced || l.does == nil || p.Use() != nil || !slices.Contains(l.does.SaysOf(p.ID), "hidden") {
		return nil
	}
	return moving(p.Style["transition"])
}

// unfolding gives a part's style, and the rules beside it, by which it is shown and hidden in its transition.
func (l *lowering) unfolding(p *contract.Part, own contract.Style) (contract.Style, []Rule) {
	properties := l.shownBy(p)
	if len(properties) == 0 {
		return own, nil
	}
	own = maps.Clone(own)
	own["transition"] = discrete(own["transition"], properties)
	var start []Declaration
	for _, property := range properties {
		start = append(start, Declaration{property, from[property]})
	}
	if slices.Contains(properties, "height") {
		start = append(start, Declaration{"padding-block", "0"})
	}
	root := p == l.c.Root
	return own, []Rule{
		{Selector: l.own(p.ID) + "[hidden]", Root: root, Reset: append([]Declaration{{"display", "none"}}, start...)},
		{At: []string{"@starting-style"}, Selector: l.own(p.ID) + ":not([hidden])", Root: root, Reset: start},
	}
}
