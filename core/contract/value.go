package contract

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/token"
)

var reference = regexp.MustCompile(`\{([^{}]+)\}`)

// References lists the token paths in a value, in order.
func References(value string) []string {
	var paths []string
	for _, m := range reference.FindAllStringSubmatch(value, -1) {
		paths = append(paths, m[1])
	}
	return paths
}

// Substitute replaces each {token.path} with what the function gives for it.
func Substitute(value string, with func(path string) string) string {
	return reference.ReplaceAllStringFunc(value, func(m string) string { return with(m[1 : len(m)-1]) })
}

// Concrete replaces references with the tokens' values. A reference that leads
// nowhere stays as it is.
func Concrete(value string, tokens *token.Set) string {
	return Substitute(value, func(path string) string {
		if t := tokens.Get(path); t != nil && t.Value != "" {
			return t.Value
		}
		return "{" + path + "}"
	})
}

// tokenTypes are the types of token a kind of property takes.
var tokenTypes = map[valueKind][]string{
	length: {"dimension"}, lengths: {"dimension"}, lineHeight: {"dimension", "number"},
	paint: {"color"}, number: {"number"}, weight: {"fontWeight", "number"}, family: {"fontFamily"},
	free: {"dimension", "number", "color", "duration"},
}

// TokenTypes lists the token types a property takes; empty when it takes none.
func TokenTypes(property string) []string {
	p, ok := PropertyNamed(property)
	if !ok {
		return nil
	}
	return tokenTypes[p.kind]
}

// CheckValue tells why a value cannot stand for a property; nil when it can.
// Without tokens (nil) references are taken as they are.
func CheckValue(property, value string, tokens *token.Set) error {
	p, ok := PropertyNamed(property)
	if !ok {
		return fmt.Errorf("the property %q is not one a contract holds", property)
	}
	if strings.ContainsAny(value, ";<>\\\n\r\x00") || strings.Contains(value, "/*") || strings.Contains(strings.ToLower(value), "url(") {
		return fmt.Errorf("%s: %q holds characters that end or leave a declaration", property, value)
	}
	for _, path := range References(value) {
		if tokens == nil {
			continue
		}
		t := tokens.Get(path)
		if t == nil {
			near := ""
			if n := tokens.Nearest(path); len(n) > 0 {
				near = "; did you mean " + strings.Join(n, " or ") + "?"
			}
			return fmt.Errorf("%s: there is no token %s%s", property, path, near)
		}
		if types := tokenTypes[p.kind]; !slices.Contains(types, t.Type) {
			return fmt.Errorf("%s takes %s, but %s is of type %s", property, orNone(types), path, t.Type)
		}
	}
	if tokens == nil && len(References(value)) > 0 {
		return nil
	}
	if tokens != nil {
		value = Concrete(value, tokens)
	}
	if strings.ContainsAny(value, "{}") {
		return fmt.Errorf("%s: %q has a brace without its pair, or a token without a value", property, value)
	}
	return p.check(value)
}

func orNone(types []string) string {
	if len(types) == 0 {
		return "no token"
	}
	return "a token of type " + strings.Join(types, " or ")
}

var lengthForm = regexp.MustCompile(`^(-?(\d+\.?\d*|\.\d+)(px|rem|em|%)|0|calc\([0-9a-z%.+*/ ()-]+\))$`)

func (p Property) check(value string) error {
	if slices.Contains(p.keywords, value) {
		return nil
	}
	bad := func(expected string) error {
		if len(p.keywords) > 0 {
			expected += " or one of " + strings.Join(p.keywords, ", ")
		}
		return fmt.Errorf("%s: %q cannot stand; expected %s", p.Name, value, expected)
	}
	switch p.kind {
	case keyword:
		return fmt.Errorf("%s: %q cannot stand; expected one of %s", p.Name, value, strings.Join(p.keywords, ", "))
	case length:
		if !lengthForm.MatchString(value) {
			return bad("a length such as 8px, 0.5rem or 50%")
		}
	case lengths:
		words := splitWords(value)
		for _, w := range words {
			if !lengthForm.MatchString(w) {
				return bad("lengths such as 8px or 8px 12px")
			}
		}
		if len(words) == 0 || len(words) > 4 {
			return bad("one to four lengths")
		}
	case paint:
		if strings.EqualFold(value, "currentcolor") {
			return nil
		}
		if _, err := color.Parse(value); err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
	case number:
		if _, err := strconv.ParseFloat(value, 64); err != nil {
			return bad("a number")
		}
	case weight:
		n, err := strconv.ParseFloat(value, 64)
		if value != "normal" && value != "bold" && (err != nil || n < 1 || n > 1000) {
			return bad("a weight from 1 to 1000")
		}
	case lineHeight:
		if _, err := strconv.ParseFloat(value, 64); err != nil && value != "normal" && !lengthForm.MatchString(value) {
			return bad("a length, or a number of the font size")
		}
	}
	if strings.TrimSpace(value) == "" {
		return fmt.Errorf("%s: the value is empty", p.Name)
	}
	return nil
}

// Comparable brings a property's concrete value, from any side, to one form:
// lengths in px, colours as hex, weights as numbers, a family as its first
// name. fontSize, in px, is what em and unitless line heights refer to.
func Comparable(property, value string, fontSize float64) string {
	p, ok := PropertyNamed(property)
	value = strings.TrimSpace(value)
	if !ok || value == "" {
		return value
	}
	switch p.kind {
	case keyword:
		switch value {
		case "normal":
			return p.Initial
		case "start", "left":
			if p.Name == "text-align" {
				return "start"
			}
			return "flex-start"
		case "end", "right":
			if p.Name == "text-align" {
				return "end"
			}
			return "flex-end"
		}
	case length, lengths:
		words := splitWords(value)
		if slices.Contains(p.keywords, value) {
			if value == "normal" {
				return "0px"
			}
			return value
		}
		for i, w := range words {
			words[i] = px(w, fontSize)
		}
		return shorten(words)
	case lineHeight:
		if n, err := strconv.ParseFloat(value, 64); err == nil {
			return token.Number(n*fontSize) + "px"
		}
		return px(value, fontSize)
	case paint:
		if c, err := color.Parse(value); err == nil {
			return c.Key()
		}
		return strings.ToLower(value)
	case number, weight:
		switch value {
		case "normal":
			return "400"
		case "bold":
			return "700"
		}
		if n, err := strconv.ParseFloat(value, 64); err == nil {
			return token.Number(n)
		}
	case family:
		first, _, _ := strings.Cut(value, ",")
		return strings.Trim(strings.TrimSpace(first), `"'`)
	}
	return value
}

// splitWords parts a value at spaces that stand outside of brackets.
func splitWords(value string) []string {
	depth := 0
	return strings.FieldsFunc(value, func(r rune) bool {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
		}
		return r == ' ' && depth == 0
	})
}

// rem is the root font size in px: common practice, no source.
const rem = 16

func px(w string, fontSize float64) string {
	for _, unit := range []struct {
		suffix string
		scale  float64
	}{{"px", 1}, {"rem", rem}, {"em", fontSize}, {"", 1}} {
		if number, ok := strings.CutSuffix(w, unit.suffix); ok {
			if n, err := strconv.ParseFloat(number, 64); err == nil {
				return token.Number(n*unit.scale) + "px"
			}
		}
	}
	return w
}

// shorten drops the values CSS would repeat: "4px 4px" is "4px".
func shorten(words []string) string {
	if len(words) == 4 && words[3] == words[1] {
		words = words[:3]
	}
	if len(words) == 3 && words[2] == words[0] {
		words = words[:2]
	}
	if len(words) == 2 && words[1] == words[0] {
		words = words[:1]
	}
	return strings.Join(words, " ")
}

// Pixels reads a comparable length; false when it is not one plain length.
func Pixels(value string) (float64, bool) {
	number, ok := strings.CutSuffix(value, "px")
	n, err := strconv.ParseFloat(number, 64)
	return n, ok && err == nil
}

// CSSOf writes a comparable value as a style sheet does: a bare family name is
// quoted and given a fallback, all else stays.
func CSSOf(property, value string) string {
	if p, _ := PropertyNamed(property); p.kind == family {
		return familyList(value)
	}
	return value
}
