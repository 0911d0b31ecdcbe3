package design

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// Bounds of style sheets: the rules of all of them, and how often a rule is held against an element.
const (
	maxRules   = 100_000
	maxMatches = 20_000_000
)

// svgRules are the rules of all style elements, by what the last part of their selectors asks for: only those that could
// fit an element are held against it.
type svgRules struct {
	byID, byClass, byTag map[string][]*svgRule
	any                  []*svgRule
	count, matched       int
}

// svgRule is a rule of a style element, in its place among them.
type svgRule struct {
	selector     []compound // from the last part to the first
	weight       int
	place        int
	declarations []svgDeclaration
}

type svgDeclaration struct {
	property, value string
	important       bool
}

// compound is one part of a selector: what an element must be, and whether the part before it is its parent.
type compound struct {
	element, id string
	classes     []string
	attributes  [][2]string // name and value; the value is "*" where any will do
	root        bool
	child       bool
}

func (r *svgRules) add(one *svgRule) bool {
	if r.count >= maxRules {
		return false
	}
	if r.byID == nil {
		r.byID, r.byClass, r.byTag = map[string][]*svgRule{}, map[string][]*svgRule{}, map[string][]*svgRule{}
	}
	one.place = r.count
	r.count++
	switch last := one.selector[0]; {
	case last.id != "":
		r.byID[last.id] = append(r.byID[last.id], one)
	case len(last.classes) > 0:
		key := last.classes[len(last.classes)-1]
		r.byClass[key] = append(r.byClass[key], one)
	case last.element != "":
		r.byTag[last.element] = append(r.byTag[last.element], one)
	default:
		r.any = append(r.any, one)
	}
	return true
}

// of gives the rules that fit an element, the strongest last (CSS Cascade 5, 6.1: specificity, then order); false where
// that is too much to find out.
func (r *svgRules) of(e *etree.Element) (out []*svgRule, ok bool) {
	try := func(rules []*svgRule) {
		if r.matched += len(rules); r.matched > maxMatches {
			return
		}
		for _, one := range rules {
			if r.fits(one.selector, e) {
				out = append(out, one)
			}
		}
	}
	try(r.any)
	try(r.byTag[e.Tag])
	for _, class := range strings.Fields(e.SelectAttrValue("class", "")) {
		try(r.byClass[class])
	}
	if id := e.SelectAttrValue("id", ""); id != "" {
		try(r.byID[id])
	}
	slices.SortFunc(out, func(a, b *svgRule) int { return cmp.Or(a.weight-b.weight, a.place-b.place) })
	return slices.Compact(out), r.matched <= maxMatches
}

// fits tells whether an element, and those around it, are what a selector asks for. Each part is held against each element
// around once, however many ways there are to spread the parts over them.
func (r *svgRules) fits(selector []compound, e *etree.Element) bool {
	if !selector[0].matches(e) {
		return false
	}
	if len(selector) == 1 {
		return true
	}
	around := []*etree.Element{e}
	for above := e.Parent(); above != nil && above.Tag != ""; above = above.Parent() {
		around = append(around, above)
	}
	r.matched += len(selector) * len(around)
	// last[j] tells whether the parts from one on fit when that one is around[j].
	var last []bool
	for k := len(selector) - 1; k >= 0; k-- {
		now, farther := make([]bool, len(around)), false
		for j := len(around) - 1; j >= 0; j-- {
			below := last == nil || farther
			if last != nil && selector[k].child {
				below = j+1 < len(around) && last[j+1]
			}
			now[j] = below && selector[k].matches(around[j])
			farther = farther || last != nil && last[j]
		}
		last = now
	}
	return last[0]
}

func (c *compound) matches(e *etree.Element) bool {
	if c.element != "" && c.element != e.Tag || c.id != "" && c.id != e.SelectAttrValue("id", "") || c.root && (e.Parent() == nil || e.Parent().Tag != "") {
		return false
	}
	if len(c.classes) > 0 {
		has := strings.Fields(e.SelectAttrValue("class", ""))
		for _, class := range c.classes {
			if !slices.Contains(has, class) {
				return false
			}
		}
	}
	for _, a := range c.attributes {
		if has := e.SelectAttr(a[0]); has == nil || a[1] != "*" && has.Value != a[1] {
			return false
		}
	}
	return true
}

// styleSheet reads a style element. What cannot be followed is named.
func (i *importer) styleSheet(e *etree.Element) {
	if media := e.SelectAttrValue("media", "all"); media != "all" && media != "screen" {
		i.warn(e, "its rules, for %s alone, are not followed", clean(media))
		return
	}
	var text strings.Builder
	for _, c := range e.Child {
		if data, ok := c.(*etree.CharData); ok {
			text.WriteString(data.Data)
		}
	}
	p := css.NewParser(parse.NewInputString(text.String()), false)
	var current []*svgRule
	add := func(selector string) {
		if parts, weight, ok := readSelector(selector); ok {
			current = append(current, &svgRule{selector: parts, weight: weight})
		} else {
			i.warn(e, "the selector %s is not followed", clean(selector))
		}
	}
	within := 0 // at-rules
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			return
		case css.BeginAtRuleGrammar:
			i.warn(e, "%s is not followed", data)
			within++
		case css.EndAtRuleGrammar:
			within--
		case css.AtRuleGrammar: // @import and its like are never followed
			if string(data) != "@charset" {
				i.warn(e, "%s is not followed", data)
			}
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			if within == 0 {
				add(tokensText(p.Values()))
			}
		case css.DeclarationGrammar, css.CustomPropertyGrammar:
			one := declarationOf(data, p.Values())
			for _, r := range current {
				r.declarations = append(r.declarations, one)
			}
		case css.EndRulesetGrammar:
			for _, r := range current {
				if !i.rules.add(r) {
					i.warn(e, "rules after the first %d are not followed", maxRules)
				}
			}
			current = nil
		}
	}
}

func declarationOf(name []byte, values []css.Token) svgDeclaration {
	out := svgDeclaration{property: string(name), value: tokensText(values)}
	if !strings.HasPrefix(out.property, "--") {
		out.property = strings.ToLower(out.property)
	}
	if at := strings.LastIndexByte(out.value, '!'); at >= 0 && strings.EqualFold(trim(out.value[at+1:]), "important") {
		out.value, out.important = trim(out.value[:at]), true
	}
	return out
}

func tokensText(tokens []css.Token) string {
	var b strings.Builder
	for _, t := range tokens {
		b.Write(t.Data)
	}
	return trim(b.String())
}

func trim(text string) string { return strings.Trim(text, " \t\r\n\f") }

// readSelector reads a selector of types, ids, classes, attributes and :root, joined by white space or ">"; false for
// any other.
func readSelector(text string) (out []compound, weight int, ok bool) {
	text = strings.ReplaceAll(strings.Join(strings.Fields(text), " "), " > ", ">")
	if text == "" || len(text) > 500 {
		return nil, 0, false
	}
	current := compound{}
	empty := true
	for at := 0; at < len(text); {
		word := func() string {
			from := at
			for at < len(text) && !strings.ContainsRune(" >.#:[]=\"'~+*(),", rune(text[at])) {
				at++
			}
			return text[from:at]
		}
		switch c := text[at]; c {
		case ' ', '>':
			if empty {
				return nil, 0, false
			}
			out = append(out, current)
			current, empty = compound{child: c == '>'}, true
			for at < len(text) && (text[at] == ' ' || text[at] == '>') {
				current.child = current.child || text[at] == '>'
				at++
			}
			continue
		case '.', '#', ':':
			at++
			name := word()
			switch {
			case name == "":
				return nil, 0, false
			case c == '.':
				current.classes = append(current.classes, name)
				weight += 1000
			case c == '#':
				current.id = name
				weight += 1_000_000
			case name == "root":
				current.root = true
				weight += 1000
			default:
				return nil, 0, false
			}
		case '[':
			end := strings.IndexByte(text[at:], ']')
			if end < 0 {
				return nil, 0, false
			}
			name, value, given := strings.Cut(text[at+1:at+end], "=")
			if name = trim(name); name == "" || strings.ContainsAny(name, "~|^$*") {
				return nil, 0, false
			}
			if !given {
				value = "*"
			}
			current.attributes = append(current.attributes, [2]string{name, strings.Trim(trim(value), `"'`)})
			weight += 1000
			at += end + 1
		case '*':
			at++
		default:
			if current.element = word(); current.element == "" || !empty {
				return nil, 0, false
			}
			weight++
		}
		empty = false
	}
	if empty {
		return nil, 0, false
	}
	out = append(out, current)
	slices.Reverse(out)
	return out, weight, true
}

// svgInherited are the properties read here that children take over (SVG 2, 6.4, and CSS). The lines of a text go on
// below it (CSS Text Decoration 3, 2).
var svgInherited = words(`fill fill-opacity fill-rule clip-rule stroke stroke-width stroke-opacity stroke-linecap stroke-linejoin stroke-miterlimit
	stroke-dasharray stroke-dashoffset paint-order marker-start marker-mid marker-end color visibility font-family font-size font-weight font-style
	font-stretch font-variant letter-spacing word-spacing text-anchor text-transform text-decoration text-decoration-line dominant-baseline line-height white-space
	writing-mode direction color-interpolation-filters image-rendering shape-rendering text-rendering`)

// svgOwn are the further properties that are read, which children do not take over.
var svgOwn = words(`opacity display transform transform-origin transform-box clip-path mask filter mix-blend-mode isolation overflow vector-effect stop-color stop-opacity
	flood-color flood-opacity lighting-color mask-type baseline-shift alignment-baseline background background-color x y width height cx cy r rx ry d`)

func words(text string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(text) {
		out[w] = true
	}
	return out
}

// declared gives what an element says of its own style: attributes, then rules by weight, then the style attribute, then
// what is important of the rules and of the attribute (SVG 2, 6.6; CSS Cascade 5, 6.1).
func (i *importer) declared(e *etree.Element) map[string]string {
	if out, known := i.own[e]; known {
		return out
	}
	out := map[string]string{}
	set := func(property, value string) {
		for _, one := range longhands(property, value) {
			if p := one.property; svgInherited[p] || svgOwn[p] || strings.HasPrefix(p, "--") {
				out[p] = one.value
			} else if ignored := loudProperties[p]; ignored != "" && one.value != "none" && one.value != "0" {
				i.warn(e, "%s is not kept", ignored)
			}
		}
	}
	for _, a := range e.Attr {
		if a.Space == "" && a.Value != "" && a.Key != "style" && !(a.Key == "background" || a.Key == "background-color") {
			set(a.Key, trim(a.Value))
		} else if a.Space == "xml" && a.Key == "space" && a.Value == "preserve" {
			out["white-space"] = "pre"
		}
	}
	rules, ok := i.rules.of(e)
	if !ok {
		i.warn(i.root, "its style sheets are too large to be followed everywhere")
	}
	var inline []svgDeclaration
	if text := e.SelectAttrValue("style", ""); text != "" {
		p := css.NewParser(parse.NewInputString(text), true)
		for {
			kind, _, data := p.Next()
			if kind == css.ErrorGrammar {
				break
			}
			if kind == css.DeclarationGrammar || kind == css.CustomPropertyGrammar {
				inline = append(inline, declarationOf(data, p.Values()))
			}
		}
	}
	for _, important := range []bool{false, true} {
		for _, r := range rules {
			for _, d := range r.declarations {
				if d.important == important {
					set(d.property, d.value)
				}
			}
		}
		for _, d := range inline {
			if d.important == important {
				set(d.property, d.value)
			}
		}
	}
	i.own[e] = out
	return out
}

// loudProperties change what is seen and are not read: by what they are called in the report.
var loudProperties = map[string]string{"animation": "its animation", "animation-name": "its animation", "offset-path": "its offset path", "rotate": "the property rotate", "scale": "the property scale", "translate": "the property translate",
	"text-shadow": "its text shadow"}

// longhands gives the properties that one sets.
func longhands(property, value string) []svgDeclaration {
	switch property {
	case "marker":
		return []svgDeclaration{{property: "marker-start", value: value}, {property: "marker-mid", value: value}, {property: "marker-end", value: value}}
	case "background":
		return []svgDeclaration{{property: "background-color", value: value}}
	case "text-decoration":
		for _, word := range strings.Fields(value) {
			if word == "underline" || word == "line-through" || word == "overline" || word == "none" || word == "inherit" {
				return []svgDeclaration{{property: "text-decoration-line", value: word}}
			}
		}
		return nil
	case "font":
		return fontLonghands(value)
	case "mask-image":
		property = "mask"
	case "-webkit-text-stroke", "mask-mode":
		return nil
	}
	return []svgDeclaration{{property: property, value: value}}
}

// fontLonghands reads the font shorthand (CSS Fonts 4, 2.7); nothing for one that is not whole.
func fontLonghands(value string) []svgDeclaration {
	set := map[string]string{"font-style": "normal", "font-weight": "400", "line-height": "normal"}
	rest := value
	for {
		word, after, _ := strings.Cut(trim(rest), " ")
		switch _, err := strconv.ParseFloat(word, 64); {
		case word == "":
			return nil
		case word == "italic" || word == "oblique":
			set["font-style"] = word
		case word == "bold" || word == "bolder" || word == "lighter" || err == nil:
			set["font-weight"] = word
		case word == "normal" || word == "small-caps":
		default:
			size, line, has := strings.Cut(word, "/")
			if has {
				set["line-height"] = line
			}
			set["font-size"], set["font-family"] = size, trim(after)
			if set["font-family"] == "" {
				return nil
			}
			var out []svgDeclaration
			for p, v := range set {
				out = append(out, svgDeclaration{property: p, value: v})
			}
			return out
		}
		rest = after
	}
}

// styleOf gives an element's style over what it inherits. The font's size is in px of the element's own units.
func (i *importer) styleOf(e *etree.Element, parent map[string]string) map[string]string {
	out := make(map[string]string, len(parent)+4)
	for p, v := range parent {
		if svgInherited[p] || strings.HasPrefix(p, "--") {
			out[p] = v
		}
	}
	for p, v := range i.declared(e) {
		v = replaceVariables(v, out, i.declared(e))
		switch strings.ToLower(v) {
		case "inherit":
			if inherited, ok := parent[p]; ok {
				out[p] = inherited
			} else {
				delete(out, p)
			}
			continue
		case "unset", "revert", "revert-layer":
			if !svgInherited[p] {
				delete(out, p)
			}
			continue
		case "initial":
			delete(out, p)
			continue
		}
		switch {
		case p == "color" && strings.EqualFold(v, "currentcolor"):
			continue
		case p == "text-decoration-line" && parent[p] != "" && parent[p] != "none": // the parent's line goes on
			continue
		}
		out[p] = v
	}
	if v, ok := i.declared(e)["font-size"]; ok {
		was := fontSize(parent)
		out["font-size"] = parent["font-size"]
		size := was
		if step, known := fontSteps[v]; known {
			size = step
		} else if v == "larger" {
			size = was * 1.2
		} else if v == "smaller" {
			size = was / 1.2
		} else if n, ok := i.lengthIn(replaceVariables(v, out, i.declared(e)), was, was); ok && n >= 0 {
			size = n
		}
		out["font-size"] = strconv.FormatFloat(size, 'g', -1, 64)
	}
	switch was := fontWeight(parent); out["font-weight"] {
	case "bolder": // CSS Fonts 4, 2.2.1
		out["font-weight"] = strconv.Itoa(map[bool]int{true: 400, false: map[bool]int{true: 700, false: 900}[was < 600]}[was < 350])
	case "lighter":
		out["font-weight"] = strconv.Itoa(map[bool]int{true: 100, false: map[bool]int{true: 400, false: 700}[was < 750]}[was < 550])
	}
	return out
}

// fontSteps are the keywords of a font's size, of a medium of 16 px (CSS Fonts 4, 2.5.1).
var fontSteps = map[string]float64{"xx-small": 9, "x-small": 10, "small": 13, "medium": 16, "large": 18, "x-large": 24, "xx-large": 32, "xxx-large": 48}

func fontSize(style map[string]string) float64 {
	if v, err := strconv.ParseFloat(style["font-size"], 64); err == nil {
		return v
	}
	return 16
}

func fontWeight(style map[string]string) float64 {
	switch w := style["font-weight"]; w {
	case "bold":
		return 700
	default:
		if v, err := strconv.ParseFloat(w, 64); err == nil && v >= 1 && v <= 1000 {
			return v
		}
	}
	return 400
}

// replaceVariables puts the values of custom properties in their places (CSS Variables 1, 3).
func replaceVariables(value string, styles ...map[string]string) string {
	for range 8 {
		at := strings.Index(value, "var(")
		if at < 0 || len(value) > 2000 {
			return value
		}
		end, depth := at+4, 1
		for ; end < len(value) && depth > 0; end++ {
			switch value[end] {
			case '(':
				depth++
			case ')':
				depth--
			}
		}
		if depth > 0 {
			return value
		}
		name, otherwise, _ := strings.Cut(value[at+4:end-1], ",")
		with := trim(otherwise)
		for _, s := range styles {
			if v, ok := s[trim(name)]; ok {
				with = v
			}
		}
		value = trim(value[:at] + with + value[end:])
	}
	return value
}

// cutFunction gives what stands between the parentheses of a function, quotes taken off.
func cutFunction(text, name string) (string, bool) {
	if len(text) < len(name)+2 || !strings.EqualFold(text[:len(name)], name) || text[len(name)] != '(' {
		return "", false
	}
	inner, _, closed := strings.Cut(text[len(name)+1:], ")")
	return strings.Trim(trim(inner), `"'`), closed
}
