package output

import (
	"strings"
	"unicode"

	"cobrik/core/token"
)

// kebab names as token.CSSName does, without the two hyphens.
func kebab(names []string) string {
	return strings.TrimPrefix(token.CSSName(strings.Join(names, ".")), "--")
}

func snake(names []string) string { return strings.ReplaceAll(kebab(names), "-", "_") }

// camel keeps two numbers apart that would run together: size-1-5 is size1_5.
func camel(names []string) string {
	var b strings.Builder
	for _, word := range strings.FieldsFunc(kebab(names), func(r rune) bool { return r == '-' }) {
		if b.Len() > 0 {
			if last := b.String()[b.Len()-1]; isDigit(rune(last)) && isDigit(rune(word[0])) {
				b.WriteByte('_')
			}
			first := []rune(word)
			first[0] = unicode.ToUpper(first[0])
			word = string(first)
		}
		b.WriteString(word)
	}
	return b.String()
}

func isDigit(r rune) bool { return r >= '0' && r <= '9' }

// identifier makes a name one that programming languages take: letters, digits
// and underscores, not beginning with a digit, no reserved word.
func identifier(name string) string {
	var b strings.Builder
	for _, r := range name {
		if r == '_' || isDigit(r) || unicode.IsLetter(r) {
			b.WriteRune(r)
		} else {
			b.WriteByte('_')
		}
	}
	s := b.String()
	if s == "" || isDigit(rune(s[0])) || reserved[s] {
		return "_" + s
	}
	return s
}

// reserved are words that TypeScript, Swift or Kotlin keep for themselves and
// a token may well be named.
var reserved = map[string]bool{}

func init() {
	for word := range strings.FieldsSeq(`as any async await break case catch class const continue debugger declare default defer deinit delete do
		else enum export extends extension false fileprivate finally for from func function fun get global guard if implements import in infix init
		inline inout instanceof interface internal is let module namespace nil new null object of open operator override package private
		protocol protected public repeat rethrows return self set static struct subscript super switch this throw throws tokens true try
		typealias typeof undefined val var void when where while with yield`) {
		reserved[word] = true
	}
}
