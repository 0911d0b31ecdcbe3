package source

import (
	"strings"
	"unicode/utf8"
)

// selector is a complex selector (Selectors 4, 4): compounds, each with the combinator before it.
type selector []compound

// compound is what is asked of one element.
type compound struct {
	combinator byte // before it: space, >, + or ~; 0 for the first
	tag        string
	classes    []string
	ids        []string
	attributes []attributeTest
	pseudos    []pseudo
	element    string // of a pseudo-element
}

type attributeTest struct {
	name, operator, value string
	there                 bool // that it is there is all that is asked
}

type pseudo struct {
	name string
	args []selector
	text string // as it is written, with its arguments
}

// readSelectors reads a selector list; false where it is none that is known.
func readSelectors(text string) ([]selector, bool) {
	p := selectorParser{text: text}
	out := p.list(0)
	p.space()
	return out, !p.bad && p.at == len(p.text) && len(out) > 0
}

type selectorParser struct {
	text string
	at   int
	bad  bool
}

func (p *selectorParser) peek() byte {
	if p.at < len(p.text) {
		return p.text[p.at]
	}
	return 0
}

func (p *selectorParser) space() (any bool) {
	for p.at < len(p.text) {
		switch {
		case strings.ContainsRune(" \t\n\r\f", rune(p.text[p.at])):
			p.at++
		case strings.HasPrefix(p.text[p.at:], "/*"):
			end := strings.Index(p.text[p.at+2:], "*/")
			if end < 0 {
				p.at = len(p.text)
				return true
			}
			p.at += end + 4
		default:
			return any
		}
		any = true
	}
	return any
}

// ident reads an identifier (CSS Syntax 3, 4.3.11), its escapes resolved.
func (p *selectorParser) ident() string {
	var b strings.Builder
	for p.at < len(p.text) {
		c := p.text[p.at]
		switch {
		case c >= 'a' && c <= 'z', c >= 'A' && c <= 'Z', c >= '0' && c <= '9', c == '-', c == '_', c >= 0x80:
			b.WriteByte(c)
			p.at++
		case c == '\\' && p.at+1 < len(p.text):
			p.at++
			digits := 0
			for digits < 6 && p.at+digits < len(p.text) && strings.ContainsRune("0123456789abcdefABCDEF", rune(p.text[p.at+digits])) {
				digits++
			}
			if digits > 0 {
				n := rune(0)
				for _, d := range strings.ToLower(p.text[p.at : p.at+digits]) {
					n = n*16 + rune(strings.IndexRune("0123456789abcdef", d))
				}
				if n == 0 || !utf8.ValidRune(n) {
					n = utf8.RuneError
				}
				b.WriteRune(n)
				if p.at += digits; p.peek() == ' ' {
					p.at++
				}
				continue
			}
			r, size := utf8.DecodeRuneInString(p.text[p.at:])
			b.WriteRune(r)
			p.at += size
		default:
			return b.String()
		}
	}
	return b.String()
}

func (p *selectorParser) list(depth int) (out []selector) {
	if depth > 8 {
		p.bad = true
		return nil
	}
	for !p.bad {
		p.space()
		if one := p.complex(depth); len(one) > 0 {
			out = append(out, one)
		} else {
			p.bad = true
		}
		p.space()
		if p.peek() != ',' {
			return out
		}
		p.at++
	}
	return out
}

func (p *selectorParser) complex(depth int) (out selector) {
	combinator := byte(0)
	if c := p.peek(); c == '>' || c == '+' || c == '~' { // relative to what stands around
		combinator = c
		p.at++
		p.space()
	}
	for !p.bad {
		from := p.at
		c := p.compound(depth)
		if p.at == from {
			return out
		}
		c.combinator = combinator
		out = append(out, c)
		spaced := p.space()
		switch n := p.peek(); {
		case n == '>' || n == '+' || n == '~':
			combinator = n
			p.at++
			p.space()
		case n == 0 || n == ',' || n == ')':
			return out
		case spaced:
			combinator = ' '
		default:
			p.bad = true
		}
	}
	return out
}

func (p *selectorParser) compound(depth int) (c compound) {
	for !p.bad {
		switch n := p.peek(); {
		case n == '*' || n == '&':
			p.at++
			if n == '&' {
				c.pseudos = append(c.pseudos, pseudo{name: "scope", text: "&"})
			}
		case n == '.':
			p.at++
			if name := p.ident(); name != "" {
				c.classes = append(c.classes, name)
			} else {
				p.bad = true
			}
		case n == '#':
			p.at++
			c.ids = append(c.ids, p.ident())
		case n == '[':
			c.attributes = append(c.attributes, p.attribute())
		case n == ':':
			p.pseudo(&c, depth)
		default:
			name := p.ident()
			if name == "" {
				return c
			}
			c.tag = strings.ToLower(name)
		}
	}
	return c
}

func (p *selectorParser) attribute() (a attributeTest) {
	p.at++
	p.space()
	a.name = strings.ToLower(p.ident())
	p.space()
	if p.peek() == ']' {
		p.at++
		a.there = true
		return a
	}
	for strings.ContainsRune("~|^$*=", rune(p.peek())) && p.peek() != 0 {
		a.operator += string(p.peek())
		p.at++
	}
	p.space()
	if quote := p.peek(); quote == '"' || quote == '\'' {
		p.at++
		var b strings.Builder
		for p.at < len(p.text) && p.text[p.at] != quote {
			if p.text[p.at] == '\\' && p.at+1 < len(p.text) {
				p.at++
			}
			b.WriteByte(p.text[p.at])
			p.at++
		}
		p.at++
		a.value = b.String()
	} else {
		a.value = p.ident()
	}
	p.space()
	if p.peek() == 'i' || p.peek() == 's' {
		p.at++
		p.space()
	}
	if p.peek() != ']' {
		p.bad = true
		return a
	}
	p.at++
	return a
}

func (p *selectorParser) pseudo(c *compound, depth int) {
	from := p.at
	p.at++
	if p.peek() == ':' {
		p.at++
		c.element = strings.ToLower(p.ident())
		if p.peek() == '(' {
			p.skip()
		}
		return
	}
	one := pseudo{name: strings.ToLower(p.ident())}
	switch one.name {
	case "before", "after", "first-line", "first-letter": // as CSS 2 wrote them
		c.element = one.name
		return
	case "":
		p.bad = true
		return
	}
	if p.peek() == '(' {
		switch one.name {
		case "is", "where", "not", "has", "global", "local":
			p.at++
			one.args = p.list(depth + 1)
			p.space()
			if p.peek() != ')' {
				p.bad = true
				return
			}
			p.at++
		default:
			p.skip()
		}
	}
	one.text = p.text[from:p.at]
	c.pseudos = append(c.pseudos, one)
}

// skip passes what stands between brackets.
func (p *selectorParser) skip() {
	depth := 0
	for ; p.at < len(p.text); p.at++ {
		switch p.text[p.at] {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				p.at++
				return
			}
		}
	}
	p.bad = true
}

// weight is a selector's specificity (Selectors 4, 17): ids, then classes, attributes and pseudo-classes, then elements.
func (s selector) weight() (w [3]int) {
	for _, c := range s {
		w = plus(w, c.weight())
	}
	return w
}

func (c compound) weight() (w [3]int) {
	w[0], w[1] = len(c.ids), len(c.classes)+len(c.attributes)
	if c.tag != "" {
		w[2]++
	}
	if c.element != "" {
		w[2]++
	}
	for _, p := range c.pseudos {
		switch p.name {
		case "where", "scope":
		case "is", "not", "has":
			w = plus(w, heaviest(p.args))
		case "global", "local":
			w = plus(w, heaviest(p.args))
		default:
			w[1]++
		}
	}
	return w
}

func plus(a, b [3]int) [3]int { return [3]int{a[0] + b[0], a[1] + b[1], a[2] + b[2]} }

func heaviest(list []selector) (w [3]int) {
	for _, s := range list {
		if o := s.weight(); compareWeights(o, w) > 0 {
			w = o
		}
	}
	return w
}

func compareWeights(a, b [3]int) int {
	for i := range a {
		if a[i] != b[i] {
			return a[i] - b[i]
		}
	}
	return 0
}
