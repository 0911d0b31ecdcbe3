package css

import (
	"slices"
	"strings"
)

// Canonical brings a value of a property, from any side, to one form: lengths in
// px, colours as hex, weights as numbers, a family as its first name, keywords that
// mean the same as one of them, repeated sides left out. fontSize, in px, is what em and
// unitless line heights refer to; a rem is RootFontSize. References stay.
func Canonical(property string, v Value, fontSize float64) Value {
	return canonicalAt(property, v, fontSize, RootFontSize)
}

func canonicalAt(property string, v Value, fontSize, rootFont float64) Value {
	p, ok := byName[property]
	if !ok || v == nil {
		return v
	}
	if p.takes == byName["font-family"].takes {
		return firstFamily(v)
	}
	if property == "box-shadow" {
		v = ordered(v)
	}
	if list, ok := v.(List); ok {
		out := make(List, len(list))
		for i, one := range list {
			out[i] = p.canonical(one, fontSize, rootFont)
		}
		if p.sides {
			out = shorten(out)
		}
		if len(out) == 1 {
			return out[0]
		}
		return out
	}
	if n, ok := v.(Number); ok && property == "line-height" {
		return Length{float64(n) * fontSize, "px"}
	}
	return p.canonical(v, fontSize, rootFont)
}

func (p *Property) canonical(v Value, fontSize, rootFont float64) Value {
	units := Fixed(fontSize, rootFont)
	switch v := v.(type) {
	case Keyword:
		word := strings.ToLower(string(v))
		if same, ok := p.alias[word]; ok {
			return must(same)
		}
		return Keyword(word)
	case Color:
		return Color{Color: v.Color}
	case Number:
		if v == 0 && p.takesLengthsOnly() {
			return Length{0, "px"}
		}
	case Length, Calc:
		return Reduce(v, units)
	case Function:
		args := v.Args
		if strings.HasSuffix(v.Name, "-gradient") {
			args = straight(args)
		}
		return Function{v.Name, mapList(args, func(one Value) Value {
			if c, ok := one.(Color); ok {
				return Color{Color: c.Color}
			}
			return Reduce(one, units)
		})}
	}
	return v
}

// ordered gives shadows with their lengths first, then the colour, then inset (CSS Backgrounds 3,
// 6.1 takes them in any order).
func ordered(v Value) Value {
	list, many := v.(List)
	if !many {
		return v
	}
	rank := func(v Value) int {
		switch v.(type) {
		case Length, Number, Calc:
			return 0
		case Keyword:
			return 2
		}
		return 1
	}
	out := slices.Clone(list)
	for from := 0; from < len(out); {
		end := from + slices.Index(append(out[from:len(out):len(out)], Separator(',')), Value(Separator(',')))
		slices.SortStableFunc(out[from:end], func(a, b Value) int { return rank(a) - rank(b) })
		if lengths := slices.IndexFunc(out[from:end], func(v Value) bool { return rank(v) > 0 }); lengths == 2 || lengths == 3 {
			zeros := []Value{Length{0, "px"}, Length{0, "px"}}
			out = slices.Insert(out, from+lengths, zeros[:4-lengths]...)
			end += 4 - lengths
		}
		from = end + 1
	}
	return out
}

// straight gives a gradient's arguments with its line as an angle, and none for the usual one (CSS
// Images 3, 3.1).
func straight(args List) List {
	comma := slices.Index(args, Value(Separator(',')))
	if comma < 1 {
		return args
	}
	line := args[:comma]
	if at := slices.Index(line, Value(Keyword("at"))); at >= 0 && (line[at+1:].String() == "50% 50%" || line[at+1:].String() == "center" || line[at+1:].String() == "center center") {
		if at == 0 {
			return args[comma+1:] // the middle is the usual place
		}
		return straight(slices.Concat(line[:at], args[comma:]))
	}
	switch line.String() {
	case "180deg", "to bottom", "ellipse", "ellipse farthest-corner", "farthest-corner":
		return args[comma+1:]
	case "0", "to top":
		return append(List{Dimension{0, "deg"}}, args[comma:]...)
	case "to right":
		return append(List{Dimension{90, "deg"}}, args[comma:]...)
	case "to left":
		return append(List{Dimension{270, "deg"}}, args[comma:]...)
	}
	return args
}

// takesLengthsOnly tells whether a bare 0 is a length here.
func (p *Property) takesLengthsOnly() bool {
	types := p.grammar.types()
	return (slices.Contains(types, "length") || slices.Contains(types, "length-percentage")) &&
		!slices.Contains(types, "number") && !slices.Contains(types, "integer") && p.Name != "grid-template-columns"
}

// must reads one of our own words.
func must(text string) Value {
	v, err := ParseValue(text)
	if err != nil {
		panic(err)
	}
	return v
}

func firstFamily(v Value) Value {
	list, many := v.(List)
	if !many {
		list = List{v}
	}
	if i := slices.Index(list, Value(Separator(','))); i >= 0 {
		list = list[:i]
	}
	words := make([]string, len(list))
	for i, one := range list {
		switch one := one.(type) {
		case Ref:
			return one
		case String:
			return Family(one)
		}
		words[i] = one.String()
	}
	return Family(strings.Join(words, " "))
}

// Family is a font's name; its String is the bare name.
type Family string

func (Family) isValue()         {}
func (v Family) String() string { return string(v) }

// shorten drops the values CSS would repeat: "4px 4px" is "4px".
func shorten(l List) List {
	same := func(i, j int) bool { return Equal(l[i], l[j], 0) }
	if len(l) == 4 && same(3, 1) {
		l = l[:3]
	}
	if len(l) == 3 && same(2, 0) {
		l = l[:2]
	}
	if len(l) == 2 && same(1, 0) {
		l = l[:1]
	}
	return l
}

// CanonicalText is Canonical of a text, as text; a text that cannot be read stays
// as it is.
func CanonicalText(property, text string, fontSize float64) string {
	return CanonicalTextAt(property, text, fontSize, RootFontSize)
}

// CanonicalTextAt is CanonicalText where a rem is rootFont px.
func CanonicalTextAt(property, text string, fontSize, rootFont float64) string {
	text = strings.TrimSpace(text)
	v, err := ParseValue(text)
	if err != nil || byName[property] == nil {
		return text
	}
	return canonicalAt(property, v, fontSize, rootFont).String()
}

// SameText tells whether two canonical texts say the same, numbers and lengths
// within a tolerance.
func SameText(a, b string, tolerance float64) bool {
	if a == b {
		return true
	}
	x, errX := ParseValue(a)
	y, errY := ParseValue(b)
	return errX == nil && errY == nil && Equal(x, y, tolerance)
}

// Pixels reads a canonical text that is one plain length; false for any other.
func Pixels(text string) (float64, bool) {
	v, err := ParseValue(text)
	if err != nil {
		return 0, false
	}
	if l, ok := v.(Length); ok {
		return l.N, l.Unit == "px"
	}
	return 0, false
}

// InitialText gives a property's initial value as a style sheet writes it.
func InitialText(property string) string {
	switch p := byName[property]; {
	case p == nil:
		return ""
	case property == "background-color":
		return "transparent"
	case p.Initial == "0px":
		return "0"
	default:
		return p.Initial
	}
}

// DeclaredText writes a canonical text as a declaration has it: a bare family is
// quoted and given a fallback, all else stays.
func DeclaredText(property, text string) string {
	if property == "font-family" && text != "" {
		return FamilyList(text)
	}
	return text
}

// FamilyList writes a font family with a fallback.
func FamilyList(name string) string {
	fallback := "sans-serif"
	if strings.Contains(strings.ToLower(name), "mono") {
		fallback = "monospace"
	}
	return Quote(name) + ", " + fallback
}

// RefsIn lists the token paths in a text, in order; none in a text that cannot be
// read.
func RefsIn(text string) []string {
	if !strings.Contains(text, "{") {
		return nil
	}
	v, err := ParseValue(text)
	if err != nil {
		return nil
	}
	return Refs(v)
}

// ReplaceRefs gives a text with each {token.path} replaced by what the function
// gives for it; all else stays to the letter.
func ReplaceRefs(text string, with func(path string) string) string {
	var b strings.Builder
	for {
		open := strings.IndexByte(text, '{')
		end := strings.IndexByte(text, '}')
		if open < 0 || end < open {
			b.WriteString(text)
			return b.String()
		}
		b.WriteString(text[:open])
		b.WriteString(with(text[open+1 : end]))
		text = text[end+1:]
	}
}

// InPx writes a property's lengths, in px, leaving out what CSS would repeat.
func InPx(property string, px ...float64) string {
	list := make(List, len(px))
	for i, n := range px {
		list[i] = Length{N: n, Unit: "px"}
	}
	return Canonical(property, list, 0).String()
}
