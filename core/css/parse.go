package css

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
)

// Bounds of one value, against hostile input.
const (
	MaxValue   = 2000 // bytes
	maxParts   = 400  // values in it, inner ones counted
	maxNesting = 32
	Largest    = 1 << 25 // a number's magnitude; browsers cut lengths off there
)

// LengthUnits are the units of length (CSS Values 4, 6; CSS Containment 3, 5).
var LengthUnits = []string{
	"px", "rem", "em", "ex", "ch", "lh", "cm", "mm", "q", "in", "pt", "pc",
	"vw", "vh", "vi", "vb", "vmin", "vmax", "svw", "svh", "lvw", "lvh", "dvw", "dvh",
	"cqw", "cqh", "cqi", "cqb", "cqmin", "cqmax",
}

var otherUnits = []string{"fr", "deg", "grad", "rad", "turn", "s", "ms"}

// functions are those a value may call beside colours and math. Whatever loads,
// reads attributes or substitutes is left out on purpose.
var functions = []string{
	"minmax", "repeat", "fit-content", "cubic-bezier", "steps", "linear", "linear-gradient", "radial-gradient",
	"translate", "translatex", "translatey", "scale", "scalex", "scaley", "rotate", "skew", "skewx", "skewy", "matrix",
}

var colorFunctions = []string{"rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color"}

var mathFunctions = []string{"calc", "min", "max", "clamp"}

// ParseValue reads a value by the syntax of CSS alone (CSS Syntax 3), with
// references to tokens in braces; which property takes it is not asked. One
// component comes as itself, several as a List.
func ParseValue(text string) (Value, error) {
	if len(text) > MaxValue {
		return nil, fmt.Errorf("the value has %d bytes; at most %d are read", len(text), MaxValue)
	}
	s := scanner{text: text}
	list, err := s.list(0)
	if err == nil && s.at < len(s.text) {
		err = s.unexpected()
	}
	switch {
	case err != nil:
		return nil, err
	case len(list) == 0:
		return nil, errors.New("the value is empty")
	case len(list) == 1:
		return list[0], nil
	}
	return list, nil
}

type scanner struct {
	text  string
	at    int
	parts int
}

func (s *scanner) peek() byte {
	if s.at < len(s.text) {
		return s.text[s.at]
	}
	return 0
}

func (s *scanner) space() (any bool) {
	for s.at < len(s.text) && strings.IndexByte(" \t", s.text[s.at]) >= 0 {
		s.at++
		any = true
	}
	return any
}

func (s *scanner) unexpected() error {
	r := []rune(s.text[s.at:])
	return fmt.Errorf("%q is not allowed there", string(r[:min(1, len(r))]))
}

// list reads values up to a closing parenthesis or the end.
func (s *scanner) list(depth int) (List, error) {
	if depth > maxNesting {
		return nil, fmt.Errorf("nested deeper than %d", maxNesting)
	}
	var out List
	for {
		s.space()
		if c := s.peek(); s.at == len(s.text) || c == ')' {
			return out, nil
		}
		v, err := s.one(depth)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
}

func (s *scanner) one(depth int) (Value, error) {
	if s.parts++; s.parts > maxParts {
		return nil, fmt.Errorf("more than %d values in one", maxParts)
	}
	switch c := s.peek(); {
	case c == ',' || c == '/':
		if strings.HasPrefix(s.text[s.at:], "/*") {
			return nil, errors.New("a comment is not allowed in a value")
		}
		s.at++
		return Separator(c), nil
	case c == '{':
		end := strings.IndexByte(s.text[s.at:], '}')
		if end < 0 {
			return nil, errors.New("a brace has no pair")
		}
		path := s.text[s.at+1 : s.at+end]
		if path == "" || strings.ContainsAny(path, "{;<>\\\n\r\x00") {
			return nil, fmt.Errorf("{%s} names no token", path)
		}
		s.at += end + 1
		return Ref(path), nil
	case c == '"' || c == '\'':
		return s.quoted(c)
	case c == '#':
		return s.hash()
	case startsNumber(s.text[s.at:]):
		return s.number()
	case isNameStart(c) || c == '-':
		return s.word(depth)
	}
	return nil, s.unexpected()
}

func isNameStart(c byte) bool { return c|0x20 >= 'a' && c|0x20 <= 'z' || c == '_' || c >= 0x80 }

func isName(c byte) bool { return isNameStart(c) || c >= '0' && c <= '9' || c == '-' }

func startsNumber(s string) bool {
	if s != "" && (s[0] == '+' || s[0] == '-') {
		s = s[1:]
	}
	if s != "" && s[0] == '.' {
		s = s[1:]
	}
	return s != "" && s[0] >= '0' && s[0] <= '9'
}

func (s *scanner) quoted(quote byte) (Value, error) {
	var b strings.Builder
	for i := s.at + 1; i < len(s.text); i++ {
		switch c := s.text[i]; {
		case c == quote:
			s.at = i + 1
			return String(b.String()), nil
		case c == '\\' && i+1 < len(s.text) && (s.text[i+1] == '"' || s.text[i+1] == '\'' || s.text[i+1] == '\\'):
			i++
			b.WriteByte(s.text[i])
		case c == '\\' || c < 0x20:
			return nil, errors.New("a string holds an escape or a control character")
		default:
			b.WriteByte(c)
		}
	}
	return nil, errors.New("a string has no closing quote")
}

func (s *scanner) hash() (Value, error) {
	end := s.at + 1
	for end < len(s.text) && isName(s.text[end]) {
		end++
	}
	text := s.text[s.at:end]
	c, err := color.Parse(text)
	if err != nil {
		return nil, err
	}
	s.at = end
	return Color{c, text}, nil
}

// number reads a number with its unit (CSS Syntax 3, 4.3.3).
func (s *scanner) number() (Value, error) {
	digits := func(at int) int {
		for at < len(s.text) && s.text[at] >= '0' && s.text[at] <= '9' {
			at++
		}
		return at
	}
	end := s.at
	if c := s.text[end]; c == '+' || c == '-' {
		end++
	}
	end = digits(end)
	if end+1 < len(s.text) && s.text[end] == '.' && digits(end+1) > end+1 {
		end = digits(end + 1)
	}
	if end < len(s.text) && s.text[end]|0x20 == 'e' {
		exponent := end + 1
		if exponent < len(s.text) && (s.text[exponent] == '+' || s.text[exponent] == '-') {
			exponent++
		}
		if digits(exponent) > exponent {
			end = digits(exponent)
		}
	}
	n, err := strconv.ParseFloat(s.text[s.at:end], 64)
	if err != nil && !math.IsInf(n, 0) {
		return nil, fmt.Errorf("%q is no number", s.text[s.at:end])
	}
	n = max(-Largest, min(Largest, n))
	s.at = end
	if s.peek() == '%' {
		s.at++
		return Percent(n), nil
	}
	for end < len(s.text) && isName(s.text[end]) {
		end++
	}
	unit := strings.ToLower(s.text[s.at:end])
	s.at = end
	switch {
	case unit == "":
		return Number(n), nil
	case slices.Contains(LengthUnits, unit):
		return Length{n, unit}, nil
	case slices.Contains(otherUnits, unit):
		return Dimension{n, unit}, nil
	}
	return nil, fmt.Errorf("%q is no unit of CSS", unit)
}

// word reads an identifier, or a function.
func (s *scanner) word(depth int) (Value, error) {
	end := s.at
	for end < len(s.text) && isName(s.text[end]) {
		end++
	}
	name := s.text[s.at:end]
	if strings.Trim(name, "-") == "" {
		return nil, s.unexpected()
	}
	if end == len(s.text) || s.text[end] != '(' {
		s.at = end
		if c, err := color.Parse(name); err == nil {
			return Color{c, name}, nil
		}
		return Keyword(name), nil
	}
	lower := strings.ToLower(name)
	switch {
	case slices.Contains(mathFunctions, lower):
		s.at = end + 1
		return s.math(lower, depth+1)
	case slices.Contains(colorFunctions, lower):
		return s.color(end)
	case !slices.Contains(functions, lower):
		return nil, fmt.Errorf("the function %s() is not allowed here", name)
	}
	s.at = end + 1
	args, err := s.list(depth + 1)
	if err == nil {
		err = s.close()
	}
	return Function{lower, args}, err
}

func (s *scanner) close() error {
	if s.peek() != ')' {
		return errors.New("a parenthesis has no pair")
	}
	s.at++
	return nil
}

// color reads a colour function whole.
func (s *scanner) color(open int) (Value, error) {
	depth := 0
	for i := open; i < len(s.text); i++ {
		switch s.text[i] {
		case '(':
			depth++
		case ')':
			depth--
		}
		if depth == 0 {
			text := s.text[s.at : i+1]
			c, err := color.Parse(text)
			if err != nil {
				return nil, err
			}
			s.at = i + 1
			return Color{c, text}, nil
		}
	}
	return nil, errors.New("a parenthesis has no pair")
}
