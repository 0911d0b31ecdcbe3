package css

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// A grammar is what a property takes, written as the specifications write it:
// Value Definition Syntax (CSS Values 4, 2). Beside literal keywords it knows
// the types below, [ ] groups, | || &&, and the multipliers ? * + # {a,b}.
type grammar struct {
	op       grammarOp
	word     string // of a keyword, type, function or separator
	parts    []*grammar
	from, to int  // of a repetition; to 0 is without end
	comma    bool // repetitions are separated by commas
	least    float64
	bounded  bool // least holds
}

type grammarOp uint8

const (
	keywordOp grammarOp = iota
	typeOp
	separatorOp
	functionOp // parts[0] is what its arguments are
	sequenceOp // a b
	oneOp      // a | b
	anyOp      // a || b
	allOp      // a && b
	repeatOp
)

// define reads a definition; it is ours, so a mistake in it is a panic.
func define(text string) *grammar {
	p := definition{text: text}
	g := p.alternatives()
	if p.space(); p.at < len(p.text) {
		panic(fmt.Sprintf("css: %q at %d", text, p.at))
	}
	return g
}

type definition struct {
	text string
	at   int
}

func (p *definition) space() {
	for p.at < len(p.text) && p.text[p.at] == ' ' {
		p.at++
	}
}

func (p *definition) take(word string) bool {
	p.space()
	if !strings.HasPrefix(p.text[p.at:], word) {
		return false
	}
	p.at += len(word)
	return true
}

// combine reads operands joined by one combinator; the weaker ones first.
func (p *definition) combine(op grammarOp, word string, operand func() *grammar) *grammar {
	out := []*grammar{operand()}
	for {
		from := p.at
		if !p.take(word) || word == "|" && p.at < len(p.text) && p.text[p.at] == '|' {
			p.at = from
			break
		}
		out = append(out, operand())
	}
	if len(out) == 1 {
		return out[0]
	}
	return &grammar{op: op, parts: out}
}

func (p *definition) alternatives() *grammar { return p.combine(oneOp, "|", p.anyOf) }
func (p *definition) anyOf() *grammar        { return p.combine(anyOp, "||", p.allOf) }
func (p *definition) allOf() *grammar        { return p.combine(allOp, "&&", p.sequence) }

func (p *definition) sequence() *grammar {
	var out []*grammar
	for p.space(); p.at < len(p.text) && strings.IndexByte("|&])", p.text[p.at]) < 0; p.space() {
		out = append(out, p.repeated())
	}
	if len(out) == 1 {
		return out[0]
	}
	return &grammar{op: sequenceOp, parts: out}
}

func (p *definition) repeated() *grammar {
	g := p.single()
	for p.at < len(p.text) {
		r := &grammar{op: repeatOp, parts: []*grammar{g}}
		switch c := p.text[p.at]; c {
		case '?':
			r.to = 1
		case '*':
		case '+', '#':
			r.from, r.comma = 1, c == '#'
		case '{':
			end := p.at + strings.IndexByte(p.text[p.at:], '}')
			low, high, _ := strings.Cut(p.text[p.at+1:end], ",")
			r.from, _ = strconv.Atoi(low)
			r.to, _ = strconv.Atoi(high)
			p.at = end
		default:
			return g
		}
		p.at++
		g = r
	}
	return g
}

func (p *definition) single() *grammar {
	switch c := p.text[p.at]; {
	case c == '[':
		p.at++
		g := p.alternatives()
		if !p.take("]") {
			panic("css: a group has no end in " + p.text)
		}
		return g
	case c == '<':
		end := p.at + strings.IndexByte(p.text[p.at:], '>')
		name, bounds, bounded := strings.Cut(p.text[p.at+1:end], " [")
		g := &grammar{op: typeOp, word: name, bounded: bounded}
		if bounded {
			low, _, _ := strings.Cut(bounds, ",")
			g.least, _ = strconv.ParseFloat(low, 64)
		}
		p.at = end + 1
		if expansion := definitions[name]; expansion != "" {
			return define(expansion)
		}
		return g
	case c == ',' || c == '/':
		p.at++
		return &grammar{op: separatorOp, word: string(c)}
	}
	from := p.at
	for p.at < len(p.text) && isName(p.text[p.at]) {
		p.at++
	}
	word := p.text[from:p.at]
	if word == "" {
		panic(fmt.Sprintf("css: %q at %d", p.text, p.at))
	}
	if p.at < len(p.text) && p.text[p.at] == '(' {
		p.at++
		args := p.alternatives()
		if !p.take(")") {
			panic("css: a function has no end in " + p.text)
		}
		return &grammar{op: functionOp, word: word, parts: []*grammar{args}}
	}
	return &grammar{op: keywordOp, word: word}
}

// matches tells whether values are what a grammar wants, all of them.
func (g *grammar) matches(values List) bool {
	return slices.Contains(g.ends(values, 0), len(values))
}

// ends gives every index up to which values from an index on match, each once.
func (g *grammar) ends(values List, at int) []int {
	switch g.op {
	case sequenceOp:
		now := []int{at}
		for _, part := range g.parts {
			now = each(now, func(from int) []int { return part.ends(values, from) })
		}
		return now
	case oneOp:
		var out []int
		for _, part := range g.parts {
			out = union(out, part.ends(values, at))
		}
		return out
	case anyOp, allOp:
		out := g.unordered(values, at, 0)
		if g.op == anyOp {
			out = slices.DeleteFunc(out, func(end int) bool { return end == at })
		}
		return out
	case repeatOp:
		return g.repetitions(values, at)
	}
	if at < len(values) && g.accepts(values[at]) {
		return []int{at + 1}
	}
	return nil
}

// unordered matches the parts not used yet, in any order: all of them, or some.
func (g *grammar) unordered(values List, at, used int) []int {
	var out []int
	if g.op == anyOp || used == 1<<len(g.parts)-1 {
		out = []int{at}
	}
	for i, part := range g.parts {
		if used&(1<<i) == 0 {
			for _, end := range part.ends(values, at) {
				if end > at || g.op == allOp {
					out = union(out, g.unordered(values, end, used|1<<i))
				}
			}
		}
	}
	return out
}

func (g *grammar) repetitions(values List, at int) []int {
	var out []int
	if g.from == 0 {
		out = []int{at}
	}
	now := []int{at}
	for n := 1; len(now) > 0 && (g.to == 0 || n <= g.to) && n <= len(values)+1; n++ {
		if n > 1 && g.comma {
			now = each(now, func(from int) []int {
				if from < len(values) && values[from] == Separator(',') {
					return []int{from + 1}
				}
				return nil
			})
		}
		now = each(now, func(from int) []int {
			return slices.DeleteFunc(g.parts[0].ends(values, from), func(end int) bool { return end == from })
		})
		if n >= g.from {
			out = union(out, now)
		}
	}
	return out
}

func each(now []int, next func(int) []int) (out []int) {
	for _, at := range now {
		out = union(out, next(at))
	}
	return out
}

func union(a, b []int) []int {
	for _, n := range b {
		if !slices.Contains(a, n) {
			a = append(a, n)
		}
	}
	return a
}

// accepts tells whether one value is what a keyword, type, function or separator
// stands for. A reference can be of any type; tokens say which it is.
func (g *grammar) accepts(v Value) bool {
	switch g.op {
	case keywordOp:
		k, ok := v.(Keyword)
		return ok && strings.EqualFold(string(k), g.word)
	case separatorOp:
		return v == Separator(g.word[0])
	case functionOp:
		f, ok := v.(Function)
		return ok && f.Name == g.word && g.parts[0].matches(f.Args)
	}
	if r, ok := v.(Ref); ok {
		return r != "" && len(tokenTypes[g.word]) > 0
	}
	return g.acceptsType(v)
}

func (g *grammar) acceptsType(v Value) bool {
	if g.bounded {
		if n, ok := amount(v); ok && n < g.least {
			return false
		}
	}
	kind, err := typeOf(v)
	if err != nil {
		return false
	}
	switch g.word {
	case "number":
		return kind == number || isUnknownCalc(v)
	case "integer":
		n, ok := v.(Number)
		return ok && float64(n) == float64(int64(n)) && n < 10_000 && n > -10_000
	case "font-weight": // CSS Fonts 4, 2.2
		n, ok := v.(Number)
		return ok && n >= 1 && n <= 1000
	case "count": // of repeated tracks
		n, ok := v.(Number)
		return ok && n >= 1 && n <= maxRepeat && float64(n) == float64(int64(n))
	case "percentage":
		_, ok := v.(Percent)
		return ok
	case "length":
		return v == Number(0) || kind == lengthy && !hasPercent(v) || isUnknownCalc(v)
	case "length-percentage":
		return v == Number(0) || kind == lengthy || isUnknownCalc(v)
	case "flex":
		d, ok := v.(Dimension)
		return ok && d.Unit == "fr" && d.N >= 0
	case "angle":
		return kind == angular
	case "zero":
		return v == Number(0)
	case "string":
		_, ok := v.(String)
		return ok
	case "time":
		return kind == temporal
	case "color":
		_, ok := v.(Color)
		k, word := v.(Keyword)
		return ok || word && strings.EqualFold(string(k), "currentcolor")
	case "family-start":
		k, word := v.(Keyword)
		return isFamilyWord(v) && !(word && slices.Contains(genericFamilies, strings.ToLower(string(k))))
	case "family-word":
		return isFamilyWord(v)
	case "custom-ident":
		_, ok := v.(Keyword)
		return ok
	}
	return false
}

// genericFamilies are no words that a family's name begins with, unless quoted (CSS Fonts 4, 2.1.2).
var genericFamilies = []string{"serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui"}

// isFamilyWord tells whether a value is a word of a family's name.
func isFamilyWord(v Value) bool {
	switch v := v.(type) {
	case Keyword:
		return true
	case Color:
		return !strings.ContainsAny(v.text, "#(")
	}
	return false
}

// maxRepeat is the most tracks one repeat() may make.
const maxRepeat = 100

func isUnknownCalc(v Value) bool {
	c, ok := v.(Calc)
	if !ok {
		return false
	}
	kind, err := c.quantity()
	return err == nil && kind == unknown
}

func hasPercent(v Value) (found bool) {
	walk(v, func(one Value) {
		if _, ok := one.(Percent); ok {
			found = true
		}
	})
	return found
}

// types lists the types a grammar names anywhere, each once.
func (g *grammar) types() []string {
	var out []string
	if g.op == typeOp {
		out = append(out, g.word)
	}
	for _, part := range g.parts {
		if g.op == functionOp {
			break // tokens stand for whole values
		}
		for _, t := range part.types() {
			if !slices.Contains(out, t) {
				out = append(out, t)
			}
		}
	}
	return out
}

// words lists the keywords a grammar takes by themselves.
func (g *grammar) words() []string {
	switch g.op {
	case keywordOp:
		return []string{g.word}
	case oneOp:
		var out []string
		for _, part := range g.parts {
			out = append(out, part.words()...)
		}
		return out
	case sequenceOp, repeatOp:
		if len(g.parts) == 1 && g.parts[0].op == oneOp {
			return g.parts[0].words()
		}
	}
	return nil
}
