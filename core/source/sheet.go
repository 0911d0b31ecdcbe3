package source

import (
	"math"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// sheet is a style sheet: what its rules say, in their order.
type sheet struct {
	name    string
	tree    *syntax.Tree
	rules   []styleRule
	names   map[string]bool          // its classes
	customs map[string][]declaration // custom properties by their name, wherever they are set
	notes   []note                   // what is not read whoever asks
}

type note struct {
	at         *syntax.Node
	rule, what string
}

// styleRule is one selector's.
type styleRule struct {
	selector     selector
	text         string
	when         cond // of widths
	still        bool // it is for people who ask for less motion
	layer        int  // 0 for none; the later wins, and none over all
	declarations []declaration
	at           *syntax.Node
}

// declaration is a property and its value, as it is written.
type declaration struct {
	property, value string
	important       bool
	hint            bool // an attribute's, which weighs nothing
	at              *syntax.Node
}

func isSheet(from string) bool {
	return slices.Contains([]string{".css", ".scss", ".sass", ".less", ".pcss"}, path.Ext(strings.SplitN(from, "?", 2)[0]))
}

// sheetPath gives the file that an import of a style sheet names; empty for one from elsewhere, or that is not there.
func (r *reader) sheetPath(m *module, from string) string {
	if !strings.HasPrefix(from, ".") {
		return ""
	}
	return path.Join(path.Dir(m.Name), strings.SplitN(from, "?", 2)[0])
}

// has tells whether a class is one of the sheet's; of one that could not be read any may be.
func (s *sheet) has(class string) bool { return s == nil || s.names[class] }

// sheet reads a style sheet; nil for one that is not there, or is no CSS.
func (c *Code) sheet(name string) *sheet {
	if s, known := c.sheets[name]; known {
		return s
	}
	text, there := c.files[name]
	var out *sheet
	if there && path.Ext(name) == ".css" {
		tree, found := syntax.CSS(name, text)
		c.found = append(c.found, found...)
		if tree != nil {
			out = &sheet{name: name, tree: tree, names: map[string]bool{}, customs: map[string][]declaration{}}
			b := sheetBuilder{out, map[string]int{}}
			b.rules(tree.Root, nil, always(), false, 0)
		}
	}
	c.sheets[name] = out
	return out
}

type sheetBuilder struct {
	*sheet
	layers map[string]int
}

func (b sheetBuilder) note(at *syntax.Node, rule, what string) {
	b.notes = append(b.notes, note{at, rule, what})
}

// rules reads what stands in a sheet or a block, for the selectors around it.
func (b sheetBuilder) rules(parent *syntax.Node, around []string, when cond, still bool, layer int) {
	var own []declaration
	flush := func() { // what stands before a rule inside comes before it
		b.say(around, own, parent, when, still, layer)
		own = nil
	}
	for _, n := range parent.Inner() {
		switch n.Kind {
		case syntax.Declaration:
			if d, ok := declarationOf(n); ok {
				if strings.HasPrefix(d.property, "--") {
					b.customs[d.property] = append(b.customs[d.property], d)
				}
				own = append(own, d)
			}
		case syntax.Rule:
			flush()
			var list []string
			for _, one := range cutAtCommas(n.Child("prelude").Text()) {
				list = append(list, nested(around, one)...)
			}
			b.rules(n.Child("block"), list, when, still, layer)
		case syntax.AtRule:
			flush()
			b.atRule(n, around, when, still, layer)
		}
	}
	flush()
}

// say notes declarations for the selectors around them.
func (b sheetBuilder) say(around []string, own []declaration, parent *syntax.Node, when cond, still bool, layer int) {
	if len(own) == 0 {
		return
	}
	for _, one := range around {
		list, ok := readSelectors(one)
		if !ok {
			b.note(parent, "selector", "the selector "+shortened(one))
			continue
		}
		for _, s := range list {
			for _, c := range s {
				for _, name := range c.allClasses() {
					b.names[name] = true
				}
			}
			b.sheet.rules = append(b.sheet.rules, styleRule{s, one, when, still, layer, own, parent})
		}
	}
}

func (c compound) allClasses() []string {
	out := slices.Clone(c.classes)
	for _, p := range c.pseudos {
		for _, s := range p.args {
			for _, inner := range s {
				out = append(out, inner.allClasses()...)
			}
		}
	}
	return out
}

// nested gives the selectors of a rule inside of others (CSS Nesting 1, 3).
func nested(around []string, one string) (out []string) {
	if around == nil {
		return []string{one}
	}
	for _, outer := range around {
		switch {
		case strings.Contains(one, "&"):
			out = append(out, strings.ReplaceAll(one, "&", outer))
		default:
			out = append(out, outer+" "+one)
		}
	}
	return out
}

// cutAtCommas cuts a selector list outside of brackets and quotes.
func cutAtCommas(text string) (out []string) {
	depth, from, quote := 0, 0, byte(0)
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case quote != 0:
			if c == '\\' {
				i++
			} else if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '\\':
			i++
		case c == '(' || c == '[':
			depth++
		case c == ')' || c == ']':
			depth--
		case c == ',' && depth == 0:
			out = append(out, strings.TrimSpace(text[from:i]))
			from = i + 1
		}
	}
	return append(out, strings.TrimSpace(text[from:]))
}

func declarationOf(n *syntax.Node) (declaration, bool) {
	property, value := n.Child("property").Text(), withoutComments(n.Child("value").Text())
	if !strings.HasPrefix(property, "--") {
		property = strings.ToLower(property)
	}
	d := declaration{property: property, value: value, at: n}
	if i := strings.LastIndexByte(value, '!'); i >= 0 && strings.EqualFold(strings.TrimSpace(value[i+1:]), "important") {
		d.value, d.important = strings.TrimSpace(value[:i]), true
	}
	return d, property != ""
}

var commentPattern = regexp.MustCompile(`(?s)/\*.*?\*/`)

func withoutComments(text string) string {
	if !strings.Contains(text, "/*") {
		return text
	}
	return strings.TrimSpace(commentPattern.ReplaceAllString(text, " "))
}

func (b sheetBuilder) atRule(n *syntax.Node, around []string, when cond, still bool, layer int) {
	name, prelude, block := strings.ToLower(n.Child("name").Text()), withoutComments(n.Child("prelude").Text()), n.Child("block")
	inside := func(c cond, still bool, layer int) {
		if block != nil {
			b.rules(block, around, c, still, layer)
		}
	}
	switch name {
	case "@media":
		c, less, ok := mediaQuery(prelude)
		if !ok {
			b.note(n, "at-rule", "what holds in @media "+shortened(prelude))
			return
		}
		inside(when.and(c), still || less, layer)
	case "@container":
		c, ok := containerQuery(prelude)
		if !ok {
			b.note(n, "at-rule", "what holds in @container "+shortened(prelude))
			return
		}
		inside(when.and(c), still, layer)
	case "@layer":
		for _, name := range cutAtCommas(prelude) {
			if b.layers[name] == 0 {
				b.layers[name] = len(b.layers) + 1
			}
		}
		inside(when, still, b.layers[prelude])
	case "@charset", "@font-face", "@property", "@namespace", "@page", "@starting-style", "@view-transition":
	case "@keyframes", "@-webkit-keyframes":
	default:
		b.note(n, "at-rule", "what holds in "+name+" "+shortened(prelude))
	}
}

var (
	lengthPattern = `([0-9]*\.?[0-9]+)(px|em|rem)`
	minWidth      = regexp.MustCompile(`^\( *min-width *: *` + lengthPattern + ` *\)$`)
	maxWidth      = regexp.MustCompile(`^\( *max-width *: *` + lengthPattern + ` *\)$`)
	compared      = regexp.MustCompile(`^\( *(?:width|inline-size) *(<=|>=|<|>) *` + lengthPattern + ` *\)$`)
	between       = regexp.MustCompile(`^\( *` + lengthPattern + ` *(<=|<) *(?:width|inline-size) *(<=|<) *` + lengthPattern + ` *\)$`)
	turned        = regexp.MustCompile(`^\( *` + lengthPattern + ` *(<=|>=|<|>) *(?:width|inline-size) *\)$`)
)

func pixels(number, unit string) float64 {
	x, _ := strconv.ParseFloat(number, 64)
	if unit != "px" { // 1rem as browsers begin with (Media Queries 4, 1.3)
		x *= 16
	}
	return x
}

// below gives the first width that is wider than one: lengths that are written just below a whole number mean that.
func below(px float64) float64 {
	if whole := math.Ceil(px); whole > px {
		return whole
	}
	return px + 1
}

// widthTest reads a query of a width (Media Queries 4, 2.4.3; CSS Containment 3, 5).
func widthTest(text string) (contract.Range, bool) {
	side := func(op string, px float64) contract.Range {
		switch op {
		case ">=":
			return contract.Range{From: px}
		case ">":
			return contract.Range{From: below(px)}
		case "<=":
			return contract.Range{Below: below(px)}
		}
		return contract.Range{Below: px}
	}
	text = strings.ToLower(strings.TrimSpace(text))
	if m := minWidth.FindStringSubmatch(text); m != nil {
		return contract.Range{From: pixels(m[1], m[2])}, true
	}
	if m := maxWidth.FindStringSubmatch(text); m != nil {
		return contract.Range{Below: below(pixels(m[1], m[2]))}, true
	}
	if m := compared.FindStringSubmatch(text); m != nil {
		return side(m[1], pixels(m[2], m[3])), true
	}
	if m := turned.FindStringSubmatch(text); m != nil {
		return side(reversed[m[3]], pixels(m[1], m[2])), true
	}
	if m := between.FindStringSubmatch(text); m != nil {
		return overlap(side(reversed[m[3]], pixels(m[1], m[2])), side(m[4], pixels(m[5], m[6]))), true
	}
	return contract.Range{}, false
}

// andPattern is what stands between two queries that both have to hold.
var andPattern = regexp.MustCompile(`(?i)\)\s+and\s+\(`)

func conjuncts(text string) []string {
	return strings.Split(andPattern.ReplaceAllString(text, ")\x00("), "\x00")
}

// mediaQuery reads what @media asks: widths, that something can hover, which is as good as true; less tells that people ask for less motion.
func mediaQuery(text string) (out cond, less, ok bool) {
	for _, query := range cutAtCommas(text) {
		query = strings.TrimSpace(query)
		for _, medium := range []string{"only screen", "screen", "all"} {
			if rest, is := strings.CutPrefix(strings.ToLower(query), medium); is {
				query = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(rest), "and"))
				break
			}
		}
		c := always()
		for _, one := range conjuncts(query) {
			one = strings.ToLower(strings.Join(strings.Fields(one), " "))
			switch {
			case one == "":
			case strings.ReplaceAll(one, " ", "") == "(hover:hover)", strings.ReplaceAll(one, " ", "") == "(hover)", strings.ReplaceAll(one, " ", "") == "(any-hover:hover)":
			case strings.HasPrefix(strings.ReplaceAll(one, " ", ""), "(prefers-reduced-motion:reduce"):
				less = true
			default:
				r, is := widthTest(one)
				if !is {
					return nil, false, false
				}
				c = c.and(cond{{contract.Viewport{Range: r}}})
			}
		}
		out = out.or(c)
	}
	return out, less, out != nil
}

// containerQuery reads what @container asks.
func containerQuery(text string) (cond, bool) {
	name := ""
	if i := strings.IndexByte(text, '('); i > 0 {
		p := selectorParser{text: strings.TrimSpace(text[:i])}
		name = p.ident()
		if text = text[i:]; name == "not" || p.at < len(p.text) {
			return nil, false
		}
	}
	out := always()
	for _, one := range conjuncts(text) {
		r, ok := widthTest(one)
		if !ok {
			return nil, false
		}
		out = out.and(cond{{contract.Container{Range: r, Name: name}}})
	}
	return out, true
}
