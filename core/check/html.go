package check

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/problem"
)

// phrasing are the elements that hold phrasing content alone (HTML, 3.2.5.2.5 and the
// elements' content models).
var phrasing = []string{"span", "p", "h1", "h2", "h3", "h4", "h5", "h6", "strong", "em", "small", "mark", "time", "output", "data", "abbr", "code", "kbd", "q", "cite", "button", "label", "summary"}

// flow are the elements that are no phrasing content (HTML, 3.2.5.2.2 without 3.2.5.2.5).
var flow = []string{"div", "p", "section", "article", "header", "footer", "main", "nav", "aside", "figure", "figcaption", "address", "search", "hgroup", "h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "li", "dl", "dt", "dd", "blockquote", "fieldset", "legend", "details", "summary", "hr"}

// interactive are the elements people operate (HTML, 3.2.5.2.7).
var interactive = []string{"button", "a", "input", "textarea", "label", "details"}

// parents are the only elements that some may stand in (HTML, the elements' contexts).
var parents = map[string][]string{
	"li": {"ul", "ol"}, "dt": {"dl", "div"}, "dd": {"dl", "div"}, "figcaption": {"figure"}, "legend": {"fieldset"}, "summary": {"details"},
}

// children are the only elements that some may hold.
var children = map[string][]string{"ul": {"li"}, "ol": {"li"}, "dl": {"dt", "dd", "div"}, "hgroup": {"h1", "h2", "h3", "h4", "h5", "h6", "p"}}

// nesting finds elements where they may not stand (HTML, content models).
func (k *checker) nesting() {
	var walk func(p *contract.Part, around []*contract.Part)
	walk = func(p *contract.Part, around []*contract.Part) {
		at := k.at[p.ID] + "/element"
		wrong := func(severity problem.Severity, rule, what, format string, args ...any) {
			k.say(severity, rule, at, "", nil, what, format, args...)
		}
		if n := len(around); n > 0 && p.Element != "" {
			parent := around[n-1]
			if in := parents[p.Element]; in != nil && !slices.Contains(in, parent.Element) {
				wrong(problem.Error, "html-parent", "put it into "+strings.Join(in, " or "), "%s is %s, and stands in %s", p.Name, p.Element, parent.Element)
			}
			if of := children[parent.Element]; of != nil && !slices.Contains(of, p.Element) {
				wrong(problem.Error, "html-child", "make it "+strings.Join(of, " or "), "%s is %s, and %s holds nothing but %s", p.Name, p.Element, parent.Element, strings.Join(of, ", "))
			}
			if (p.Element == "summary" || p.Element == "legend") && parent.Children[0] != p && parents[p.Element][0] == parent.Element {
				wrong(problem.Error, "html-first", "move it to the front", "%s is %s, and not the first in its %s", p.Name, p.Element, parent.Element)
			}
		}
		for _, stands := range k.elementsOf(p) {
			k.within(p, stands.Element, around, wrong)
		}
		for _, child := range p.Children {
			walk(child, append(around[:len(around):len(around)], p))
		}
	}
	for _, element := range append([]string{k.c.Root.Element}, k.c.Root.As...) {
		root := *k.c.Root
		root.Element = element
		walk(&root, nil)
	}
}

// elementsOf lists the parts whose elements stand where a part does: itself, or, of a use, those
// of its component.
func (k *checker) elementsOf(p *contract.Part) (out []*contract.Part) {
	u := p.Use()
	if u == nil {
		return []*contract.Part{p}
	}
	if u.Of() != nil {
		u.Of().Walk(func(inner, _ *contract.Part) { out = append(out, k.elementsOf(inner)...) })
	}
	return out
}

// within finds what an element, of a part or inside of a use, may not stand in.
func (k *checker) within(p *contract.Part, element string, around []*contract.Part, wrong func(problem.Severity, string, string, string, ...any)) {
	for i := len(around) - 1; i >= 0; i-- {
		outer := around[i]
		// A link takes its parent's content model; so nothing is said of what stands in one.
		if slices.Contains(phrasing, outer.Element) && slices.Contains(flow, element) && (parents[element] == nil || parents[element][0] != outer.Element) {
			headingInSummary := outer.Element == "summary" && contract.IsHeading(element)
			if !headingInSummary {
				wrong(problem.Error, "html-phrasing", "make it a span, or what is around it a div", "%s is %s, and may not stand in %s, which is %s", p.Name, element, outer.Name, outer.Element)
			}
			break
		}
	}
	for _, outer := range around {
		both := slices.Contains(interactive, outer.Element) && slices.Contains(interactive, element)
		labelled := outer.Element == "label" && element != "label" && element != "a" || outer.Element == "details"
		if both && !labelled {
			wrong(problem.Error, "html-interactive", "put them beside each other", "%s is %s, and stands in %s, which is %s: people could operate only one", p.Name, element, outer.Name, outer.Element)
			break
		}
	}
}

// headings finds levels that are skipped (WCAG 2.2, 1.3.1, technique H42: in their order).
func (k *checker) headings() {
	last := 0
	k.c.Walk(func(p, _ *contract.Part) {
		if !contract.IsHeading(p.Element) || p.Level != "" {
			return
		}
		level := int(p.Element[1] - '0')
		if last > 0 && level > last+1 {
			next := "h" + string(rune('1'+last))
			id := p.ID
			k.say(problem.Warning, "heading-level", k.at[p.ID]+"/element", "", func(c *contract.Contract) { c.Part(id).Element = next }, "make it "+next, "%s is %s, after h%d", p.Name, p.Element, last)
			level = last + 1
		}
		last = level
	})
}

// names finds what people operate and cannot name (Accessible Name and Description
// Computation 1.2, 4.3; WCAG 2.2, 4.1.2).
func (k *checker) names() {
	labelled := map[string]bool{}
	k.c.Walk(func(p, _ *contract.Part) {
		if a, ok := p.Attributes["for"]; ok && p.Element == "label" && named(p) {
			labelled[a.Part] = true
		}
	})
	var walk func(p *contract.Part, inLabel bool)
	walk = func(p *contract.Part, inLabel bool) {
		own := p.Attributes["aria-label"] != contract.Attribute{} || p.Attributes["aria-labelledby"] != contract.Attribute{} || p.Attributes["title"] != contract.Attribute{}
		switch p.Element {
		case "button", "a", "summary":
			if !own && !named(p) {
				k.say(problem.Error, "name-missing", k.at[p.ID], "", nil, "give it a text, an icon with a label, or aria-label", "%s is %s, and nothing says what it does", p.Name, p.Element)
			}
		case "input", "textarea":
			if kind := p.Attributes["type"].Text; kind == "submit" || kind == "reset" || kind == "button" {
				break // its value, or the browser's word, names it
			}
			if !own && !labelled[p.ID] && !inLabel {
				k.say(problem.Error, "label-missing", k.at[p.ID], "", nil, "add a label with for, or aria-label", "%s is %s, and no label says what belongs in it", p.Name, p.Element)
			}
		case "nav":
			if others := k.count("nav"); others > 1 && !own {
				k.say(problem.Warning, "name-missing", k.at[p.ID], "", nil, "give each its aria-label", "%s is one of %d nav, and has no name to tell them apart", p.Name, others)
			}
		}
		for _, child := range p.Children {
			walk(child, inLabel || p.Element == "label" && named(p))
		}
	}
	walk(k.c.Root, false)
}

func (k *checker) count(element string) (n int) {
	k.c.Walk(func(p, _ *contract.Part) {
		if p.Element == element {
			n++
		}
	})
	return n
}

// named tells whether anything in a part is a name: a text, a picture or drawing with words, or
// what a use puts into a slot.
func named(p *contract.Part) bool {
	switch c := p.Content.(type) {
	case contract.TextOf, contract.SlotOf, contract.ImageOf:
		return true
	case contract.FixedText:
		return strings.TrimSpace(c.Text) != ""
	case contract.Picture:
		return c.Alt != ""
	case *contract.Vector:
		return c.Label != ""
	}
	return slices.ContainsFunc(p.Children, named)
}
