package design

import (
	"slices"
	"strings"

	"github.com/beevik/etree"
	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// svgRule is a rule of a style element: one compound selector of a type, ids
// and classes.
type svgRule struct {
	element, id string
	classes     []string
	weight      int
	style       map[string]string
}

// maxRules bounds the rules of all style elements.
const maxRules = 10_000

// readSheet reads a style element. What selectors cannot be followed is passed
// to skipped.
func readSheet(text string, rules []svgRule, skipped func(what string)) []svgRule {
	p := css.NewParser(parse.NewInputString(text), false)
	var current []svgRule
	add := func(selector string) {
		if r, ok := readSelector(selector); ok {
			r.style = map[string]string{}
			current = append(current, r)
		} else {
			skipped("the selector " + selector)
		}
	}
	depth := 0
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			return rules
		case css.BeginAtRuleGrammar:
			skipped(string(data))
			depth++
		case css.EndAtRuleGrammar:
			depth--
		case css.AtRuleGrammar: // @import and its like are never followed
			skipped(string(data))
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			add(tokensText(p.Values()))
		case css.DeclarationGrammar:
			for _, r := range current {
				r.style[strings.ToLower(string(data))] = strings.TrimSpace(strings.TrimSuffix(tokensText(p.Values()), "!important"))
			}
		case css.EndRulesetGrammar:
			if depth == 0 && len(rules)+len(current) <= maxRules {
				rules = append(rules, current...)
			}
			current = nil
		}
	}
}

func tokensText(tokens []css.Token) string {
	var b strings.Builder
	for _, t := range tokens {
		b.Write(t.Data)
	}
	return strings.TrimSpace(b.String())
}

func readSelector(text string) (svgRule, bool) {
	var r svgRule
	if text == "" || strings.ContainsAny(text, " >+~:[\"'(") {
		return r, false
	}
	for rest := text; rest != ""; {
		end := len(rest)
		if i := strings.IndexAny(rest[1:], ".#"); i >= 0 {
			end = i + 1
		}
		switch word := rest[:end]; {
		case word[0] == '.':
			r.classes = append(r.classes, word[1:])
			r.weight += 10
		case word[0] == '#':
			r.id = word[1:]
			r.weight += 100
		case word != "*":
			r.element = word
			r.weight++
		}
		rest = rest[end:]
	}
	return r, true
}

func (r *svgRule) matches(e *etree.Element) bool {
	if r.element != "" && r.element != e.Tag || r.id != "" && r.id != e.SelectAttrValue("id", "") {
		return false
	}
	has := strings.Fields(e.SelectAttrValue("class", ""))
	for _, c := range r.classes {
		if !slices.Contains(has, c) {
			return false
		}
	}
	return true
}

// svgInherited are the properties read here that children take over (SVG 2,
// 6.4, and CSS).
var svgInherited = []string{
	"fill", "fill-opacity", "fill-rule", "stroke", "stroke-width", "stroke-opacity", "stroke-linecap", "stroke-linejoin", "stroke-dasharray", "font-family", "font-size", "font-weight", "letter-spacing", "text-anchor", "color",
	"visibility", "line-height",
}

// styleOf gives an element's style: attributes, then rules by weight, then the
// style attribute (SVG 2, 6.6), over what it inherits.
func styleOf(e *etree.Element, parent map[string]string, rules []svgRule) map[string]string {
	out := map[string]string{}
	for _, p := range svgInherited {
		if v, ok := parent[p]; ok {
			out[p] = v
		}
	}
	set := func(property, value string) {
		if value = strings.TrimSpace(value); value != "inherit" {
			out[property] = value
		}
	}
	for _, a := range e.Attr {
		if a.Space == "" {
			set(a.Key, a.Value)
		}
	}
	var matching []*svgRule
	for i := range rules {
		if rules[i].matches(e) {
			matching = append(matching, &rules[i])
		}
	}
	slices.SortStableFunc(matching, func(a, b *svgRule) int { return a.weight - b.weight })
	for _, r := range matching {
		for p, v := range r.style {
			set(p, v)
		}
	}
	if inline := e.SelectAttrValue("style", ""); inline != "" {
		p := css.NewParser(parse.NewInputString(inline), true)
		for {
			kind, _, data := p.Next()
			if kind == css.ErrorGrammar {
				break
			}
			if kind == css.DeclarationGrammar {
				set(strings.ToLower(string(data)), tokensText(p.Values()))
			}
		}
	}
	return out
}
