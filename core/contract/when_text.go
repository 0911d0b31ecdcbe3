package contract

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"cobrik/core/css"
)

// Conditions as text: terms joined by "and".
//
//	strong, not strong            a flag
//	size = s, tone = "half ripe"  a choice
//	count > 0, 1 <= count < 10    a number; =, <, <=, > and >=
//	picture is set, is not set    whether there is anything in a prop
//	state hover                   one of States
//	theme dusk, density snug      a theme: the modifier, and its context
//	container < 480px             the width of the container, px or rem
//	container board >= 30rem      of the one named board
//	viewport < 768px              the width of the viewport
//	direction rtl                 ltr or rtl
//
// A prop whose name begins another kind of term is written "prop state". An item's prop is
// written with its list: links.current.

// kinds of terms that begin with a word
var termWords = []string{"state", "theme", "container", "viewport", "direction", "not", "prop"}

// Words writes a condition as it is read again, props by their names. Without terms it is
// empty.
func (c *Contract) Words(w When) string {
	return w.text(func(id string) string {
		list, item, nested := strings.Cut(id, ".")
		name := list
		if p := c.Prop(list); p != nil {
			name = p.Name
		}
		if p := c.Prop(id); nested && p != nil {
			item = p.Name
		}
		if nested {
			return name + "." + item
		}
		return name
	})
}

// String writes a condition as text, props by their ids.
func (w When) String() string { return w.text(func(id string) string { return id }) }

func (w When) text(name func(id string) string) string {
	words := make([]string, len(w.terms))
	for i, t := range w.terms {
		words[i] = termText(t, name)
	}
	return strings.Join(words, " and ")
}

func (t PropIs) String() string    { return termText(t, nil) }
func (t NumberIs) String() string  { return termText(t, nil) }
func (t PropSet) String() string   { return termText(t, nil) }
func (t InState) String() string   { return termText(t, nil) }
func (t Container) String() string { return termText(t, nil) }
func (t Viewport) String() string  { return termText(t, nil) }
func (t Theme) String() string     { return termText(t, nil) }
func (t Direction) String() string { return termText(t, nil) }

func termText(t Term, name func(id string) string) string {
	prop := func(id string) string {
		if name != nil {
			id = name(id)
		}
		if slices.Contains(termWords, id) {
			return "prop " + id
		}
		return id
	}
	switch t := t.(type) {
	case PropIs:
		switch t.Value {
		case FlagValue(true):
			return prop(t.Prop)
		case FlagValue(false):
			return "not " + prop(t.Prop)
		}
		return prop(t.Prop) + " = " + word(t.Value.String())
	case NumberIs:
		return t.text(prop(t.Prop))
	case PropSet:
		if t.Set {
			return prop(t.Prop) + " is set"
		}
		return prop(t.Prop) + " is not set"
	case InState:
		return "state " + t.State
	case Container:
		of := "container"
		if t.Name != "" {
			of += " " + word(t.Name)
		}
		return t.Range.text(of)
	case Viewport:
		return t.Range.text("viewport")
	case Theme:
		if t.Modifier == "theme" {
			return "theme " + word(t.Context)
		}
		return "theme " + word(t.Modifier) + " " + word(t.Context)
	case Direction:
		return "direction " + t.Is
	}
	return ""
}

// word writes a name bare where it can be read again, else quoted.
func word(s string) string {
	if bareOption.MatchString(s) && s != "and" && s != "not" && s != "set" && s != "is" {
		return s
	}
	return quoted(s)
}

func (t NumberIs) text(of string) string {
	at := func(b Bound) string { return css.FormatNumber(b.At) }
	if t.Low.Kind == Inclusive && t.Low == t.High {
		return of + " = " + at(t.Low)
	}
	sign := map[BoundKind]string{Inclusive: "=", Exclusive: ""}
	switch {
	case t.High.Kind == NoBound:
		return of + " >" + sign[t.Low.Kind] + " " + at(t.Low)
	case t.Low.Kind == NoBound:
		return of + " <" + sign[t.High.Kind] + " " + at(t.High)
	}
	return at(t.Low) + " <" + sign[t.Low.Kind] + " " + of + " <" + sign[t.High.Kind] + " " + at(t.High)
}

func (r Range) text(of string) string {
	from, below := css.FormatNumber(r.From)+"px", css.FormatNumber(r.Below)+"px"
	switch {
	case r.Below == 0:
		return of + " >= " + from
	case r.From == 0:
		return of + " < " + below
	}
	return from + " <= " + of + " < " + below
}

// SyntaxError says where a condition's text is wrong, and what was expected there.
type SyntaxError struct {
	At       int // bytes from the start
	Found    string
	Expected string
}

func (e *SyntaxError) Error() string {
	found := "the end"
	if e.Found != "" {
		found = quoted(e.Found)
	}
	return fmt.Sprintf("at %d: expected %s, found %s", e.At+1, e.Expected, found)
}

// longestCondition bounds a condition's text, bytes.
const longestCondition = 4000

// ParseWords reads a condition's text, props by their names. Themes are the contexts by the
// modifiers of the project's tokens; nil takes any. The error is a *SyntaxError.
func (c *Contract) ParseWords(text string, themes map[string][]string) (When, error) {
	if len(text) > longestCondition {
		return When{}, &SyntaxError{longestCondition, "", "no more than 4000 bytes"}
	}
	p := &whenParser{c: c, themes: themes, words: lex(text)}
	if p.peek() == "" {
		return When{}, nil
	}
	var w When
	for {
		at := p.at
		t := p.term()
		if p.err != nil {
			return When{}, p.err
		}
		var ok bool
		if w, ok = merged(w, t); !ok {
			p.at = at
			return When{}, p.fail("something that was not asked before in another way")
		}
		if p.peek() == "" {
			return w, nil
		}
		if !p.take("and") {
			return When{}, p.fail(`"and" or the end`)
		}
	}
}

// merged adds a term to a condition: one about the same narrows what is asked; false where
// both can never hold.
func merged(w When, t Term) (When, bool) {
	for _, was := range w.terms {
		if compareTerms(was, t) != 0 {
			continue
		}
		if apart(was, t) {
			return w, false
		}
		switch b := t.(type) {
		case NumberIs:
			a := was.(NumberIs)
			return w.With(NumberIs{b.Prop, higher(a.Low, b.Low), lower(a.High, b.High)}), true
		case Container:
			return w.With(Container{was.(Container).Range.and(b.Range), b.Name}), true
		case Viewport:
			return w.With(Viewport{was.(Viewport).Range.and(b.Range)}), true
		}
	}
	return w.With(t), true
}

func (r Range) and(other Range) Range {
	out := Range{max(r.From, other.From), r.Below}
	if out.Below == 0 || other.Below > 0 && other.Below < out.Below {
		out.Below = other.Below
	}
	return out
}

type lexeme struct {
	text    string
	at, end int // bytes from the start
	quoted  bool
}

// lex cuts a text into words, quoted words and signs.
func lex(text string) (out []lexeme) {
	for i := 0; i < len(text); {
		r, n := utf8.DecodeRuneInString(text[i:])
		start := i
		switch {
		case unicode.IsSpace(r):
			i += n
			continue
		case r == '"':
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
			i = min(i+1, len(text))
			var s string
			if json.Unmarshal([]byte(text[start:i]), &s) == nil {
				out = append(out, lexeme{s, start, i, true})
				continue
			}
		case strings.ContainsRune("<>=", r):
			i += n
			if i < len(text) && text[i] == '=' && r != '=' {
				i++
			}
		case isWordRune(r):
			for i < len(text) {
				r, n := utf8.DecodeRuneInString(text[i:])
				if !isWordRune(r) {
					break
				}
				i += n
			}
		default:
			i += n
		}
		out = append(out, lexeme{text[start:i], start, i, false})
	}
	return out
}

func isWordRune(r rune) bool {
	return unicode.In(r, unicode.L, unicode.Nd, unicode.Mn, unicode.Mc) || strings.ContainsRune("_$.-+", r)
}

type whenParser struct {
	c      *Contract
	themes map[string][]string
	words  []lexeme
	at     int
	err    error
}

func (p *whenParser) peek() string { return p.ahead(0) }

// ahead gives a word further on; empty behind the last.
func (p *whenParser) ahead(n int) string {
	if p.at+n < len(p.words) {
		return p.words[p.at+n].text
	}
	return ""
}

// take goes past a bare word.
func (p *whenParser) take(word string) bool {
	if p.at < len(p.words) && p.words[p.at].text == word && !p.words[p.at].quoted {
		p.at++
		return true
	}
	return false
}

func (p *whenParser) next() string {
	word := p.peek()
	p.at++
	return word
}

// fail says what was expected at the next word.
func (p *whenParser) fail(expected string) error {
	if p.err == nil {
		e := &SyntaxError{Expected: expected}
		if p.at < len(p.words) {
			e.At, e.Found = p.words[p.at].at, p.words[p.at].text
		} else if n := len(p.words); n > 0 {
			e.At = p.words[n-1].end
		}
		p.err = e
	}
	return p.err
}

// oneOf takes one of a few words.
func (p *whenParser) oneOf(words []string) string {
	if !slices.Contains(words, p.peek()) {
		said := make([]string, len(words))
		for i, w := range words {
			if said[i] = w; !slices.Contains(signs, w) {
				said[i] = word(w)
			}
		}
		p.fail(strings.Join(said, ", "))
		return ""
	}
	return p.next()
}

func (p *whenParser) term() Term {
	switch {
	case p.take("state"):
		return InState{p.oneOf(p.c.AllStates())}
	case p.take("direction"):
		return Direction{p.oneOf([]string{"ltr", "rtl"})}
	case p.take("theme"):
		return p.theme()
	case p.take("viewport"):
		return Viewport{p.widths("")}
	case p.take("container"):
		return p.container("")
	case p.take("not"):
		prop := p.prop()
		if p.err == nil && prop.Kind() != FlagKind {
			p.at--
			p.fail("a flag")
		}
		return PropIs{prop.id, FlagValue(false)}
	case isNumber(p.peek()):
		return p.between()
	}
	return p.ofProp()
}

func (p *whenParser) theme() Term {
	if p.themes == nil {
		one := p.next()
		if two := p.peek(); two != "" && two != "and" {
			return Theme{one, p.next()}
		}
		return Theme{"theme", one}
	}
	if contexts, ok := p.themes[p.peek()]; ok && slices.Contains(contexts, p.ahead(1)) {
		return Theme{p.next(), p.next()}
	}
	var known []string
	for _, modifier := range sortedKeys(p.themes) {
		if slices.Contains(p.themes[modifier], p.peek()) {
			return Theme{modifier, p.next()}
		}
		known = append(known, p.themes[modifier]...)
	}
	p.fail("a theme: " + strings.Join(known, ", "))
	return Theme{}
}

// container reads what is asked of a container after the word.
func (p *whenParser) container(low string) Term {
	name := ""
	if next := p.peek(); next != "" && !strings.ContainsAny(next[:1], "<>=") {
		name = p.next()
	}
	return Container{p.widths(low), name}
}

var signs = []string{"<", "<=", ">", ">=", "="}

// widths reads a sign and a width; a lower bound may have been read before.
func (p *whenParser) widths(low string) (out Range) {
	if low != "" {
		out.From = p.length(low)
	}
	if low != "" && p.peek() == "" {
		p.fail("< and a width")
	}
	switch sign := p.oneOf([]string{"<", ">="}); {
	case p.err != nil:
	case sign == "<":
		out.Below = p.length(p.next())
	case low != "":
		p.at--
		p.fail("<")
	default:
		out.From = p.length(p.next())
	}
	return out
}

// length reads px or rem; a bare number is px.
func (p *whenParser) length(text string) float64 {
	px, ok := css.Pixels(text)
	if !ok {
		n, err := strconv.ParseFloat(text, 64)
		px, ok = n, err == nil
	}
	if rem, is := strings.CutSuffix(text, "rem"); is {
		n, err := strconv.ParseFloat(rem, 64)
		px, ok = n*css.RootFontSize, err == nil
	}
	if !ok || !(px > 0 && px <= widestSwitch) {
		p.at--
		p.fail("a width up to 20000px, px or rem")
	}
	return px
}

func isNumber(word string) bool {
	return word != "" && strings.ContainsAny(word[:1], "0123456789+-.")
}

// between reads "1 <= count < 10" and "480px <= container < 900px".
func (p *whenParser) between() Term {
	low := p.next()
	sign := p.oneOf([]string{"<", "<="})
	width := sign == "<=" && p.err == nil
	switch {
	case width && p.take("container"):
		return p.container(low)
	case width && p.take("viewport"):
		return Viewport{p.widths(low)}
	}
	prop := p.prop()
	if p.err != nil {
		return nil
	}
	if prop.Kind() != NumberKind {
		p.at--
		p.fail("a number, container or viewport")
		return nil
	}
	out := NumberIs{Prop: prop.id}
	out.Low = Bound{p.number(low), kindOf(sign)}
	if sign := p.oneOf([]string{"<", "<="}); p.err == nil {
		out.High = Bound{p.number(p.next()), kindOf(sign)}
	}
	if p.err == nil && !out.possible() {
		p.at--
		p.fail("a number that leaves something between")
	}
	return out
}

func kindOf(sign string) BoundKind {
	if strings.HasSuffix(sign, "=") {
		return Inclusive
	}
	return Exclusive
}

func (p *whenParser) number(text string) float64 {
	n, err := strconv.ParseFloat(text, 64)
	if err != nil || n-n != 0 { // infinities and NaN
		p.at--
		p.fail("a number")
		return 0
	}
	return n
}

// foundProp is a prop with its id from outside: links.label.
type foundProp struct {
	*Prop
	id string
}

// prop reads a prop's name.
func (p *whenParser) prop() foundProp {
	p.take("prop")
	name, item, nested := strings.Cut(p.peek(), ".")
	for i := range p.c.Props {
		prop := &p.c.Props[i]
		if prop.Name != name {
			continue
		}
		if !nested {
			p.at++
			return foundProp{prop, prop.ID}
		}
		if l, ok := prop.Type.(List); ok {
			for k := range l.Items {
				if l.Items[k].Name == item {
					p.at++
					return foundProp{&l.Items[k], prop.ID + "." + l.Items[k].ID}
				}
			}
		}
	}
	var names []string
	for _, prop := range p.c.Props {
		names = append(names, prop.Name)
	}
	p.fail("a prop (" + strings.Join(names, ", ") + "), state, theme, container, viewport or direction")
	return foundProp{&Prop{Type: Flag{}}, ""}
}

func (p *whenParser) ofProp() Term {
	prop := p.prop()
	if p.err != nil {
		return nil
	}
	if p.take("is") {
		set := !p.take("not")
		if !p.take("set") {
			p.fail("set")
		}
		return PropSet{prop.id, set}
	}
	switch t := prop.Type.(type) {
	case Flag:
		return PropIs{prop.id, FlagValue(true)}
	case Choice:
		p.oneOf([]string{"="})
		return PropIs{prop.id, OptionValue(p.oneOf(t.Options))}
	case Number:
		sign := p.oneOf(signs)
		if p.err != nil {
			return nil
		}
		bound := Bound{p.number(p.next()), kindOf(sign)}
		out := NumberIs{Prop: prop.id}
		if sign[0] != '<' {
			out.Low = bound
		}
		if sign[0] != '>' {
			out.High = bound
		}
		return out
	}
	p.fail("is set, or is not set")
	return nil
}
