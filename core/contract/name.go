package contract

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// Slug names a component in addresses: its words, in letters of any script.
func Slug(name string) string { return strings.Join(Words(name), "-") }

// Words splits a name into lower-case words: "CropTag 2" is crop, tag, 2. Letters of
// all scripts stay; everything but letters, marks and digits divides.
func Words(name string) []string {
	var out []string
	var word strings.Builder
	flush := func() {
		if word.Len() > 0 {
			out = append(out, strings.ToLower(word.String()))
			word.Reset()
		}
	}
	runes := []rune(norm.NFKC.String(name))
	for i, r := range runes {
		switch {
		case unicode.IsUpper(r) || unicode.IsTitle(r):
			// A capital begins a word after a small letter, and before one: "plotID", "SVGFile", "Tag2Big", not "2XL".
			small := i+1 < len(runes) && unicode.IsLower(runes[i+1])
			if i > 0 && (unicode.IsLower(runes[i-1]) || small && (unicode.IsDigit(runes[i-1]) || unicode.IsUpper(runes[i-1]))) {
				flush()
			}
			word.WriteRune(r)
		case unicode.IsLetter(r) || unicode.Is(unicode.Nd, r):
			word.WriteRune(r)
		case unicode.Is(unicode.Mn, r) || unicode.Is(unicode.Mc, r):
			if word.Len() > 0 {
				word.WriteRune(r)
			}
		default:
			flush()
		}
	}
	flush()
	return out
}

// Capitalized gives a word or identifier with its first letter large.
func Capitalized(word string) string {
	r, n := utf8.DecodeRuneInString(word)
	if n == 0 {
		return ""
	}
	return string(unicode.ToUpper(r)) + word[n:]
}

// longestName bounds an identifier, in bytes.
const longestName = 40

// Identifier turns a drawn name into a camelCase identifier that ECMAScript and CSS
// allow (ECMA-262, 12.7; CSS Syntax 3, 4.3.9); a name of nothing that is allowed becomes
// the fallback, and before a digit the fallback stands, too.
func Identifier(name, fallback string) string {
	var b strings.Builder
	for i, w := range Words(name) {
		if i > 0 {
			w = Capitalized(w)
		}
		if b.Len() > 0 && b.Len()+len(w) > longestName {
			break
		}
		b.WriteString(w)
	}
	s := b.String()
	if s == "" {
		return fallback
	}
	if first, _ := utf8.DecodeRuneInString(s); !unicode.IsLetter(first) {
		s = fallback + s
	}
	return clipped(s)
}

// ComponentName turns a drawn name into a component's: an identifier in PascalCase.
func ComponentName(name string) string {
	out := Capitalized(Identifier(name, "untitled"))
	if first, _ := utf8.DecodeRuneInString(out); unicode.IsLower(first) { // a letter without a large form
		out = "Untitled" + out
	}
	if slices.Contains(globals, out) {
		out += "Component"
	}
	return clipped(out)
}

// globals are names that every module of JavaScript, TypeScript or React knows; a component
// of such a name would take their place (ECMA-262, 19; TypeScript's utility types).
var globals = []string{
	"Array", "ArrayBuffer", "BigInt", "Boolean", "DataView", "Date", "Error", "Function", "Infinity", "Intl", "Iterator", "JSON", "Map", "Math", "NaN", "Number", "Object", "Promise", "Proxy",
	"Reflect", "RegExp", "Set", "String", "Symbol", "WeakMap", "WeakSet", "Awaited", "Exclude", "Extract", "Omit", "Parameters", "Partial", "Pick", "Readonly", "Record", "Required",
	"Component", "ComponentPropsWithRef", "Fragment", "React", "Suspense",
}

// OptionOf turns an axis value into a choice's option: "Extra large" is
// "extra-large".
func OptionOf(value string) string {
	option := strings.Join(Words(value), "-")
	if option == "" {
		option = fmt.Sprintf("option-%x", value)
	}
	if IsReserved(option) {
		option += "-option"
	}
	return strings.Trim(clipped(option), "-")
}

// clipped cuts a name off where it gets too long, between letters.
func clipped(s string) string {
	if len(s) <= longestName {
		return s
	}
	end := longestName
	for !utf8.RuneStart(s[end]) {
		end--
	}
	return s[:end]
}

// reserved are names that a component cannot have as props: React keeps them, they lay
// out the root, or every JavaScript object has them already, so that a default is never
// taken (react.dev, Special props; ECMA-262, 20.1.3).
var reserved = []string{
	"children", "ref", "key", "style", "className", "dangerouslySetInnerHTML",
	"constructor", "hasOwnProperty", "isPrototypeOf", "propertyIsEnumerable", "toLocaleString", "toString", "valueOf",
}

// IsReserved tells whether no prop can have the name.
func IsReserved(name string) bool { return slices.Contains(reserved, name) }

// Free gives the name, or the name with a suffix, or that with a number, whichever
// nobody has taken first.
func Free(name, suffix string, taken func(string) bool) string {
	if !taken(name) {
		return name
	}
	name += suffix
	out := name
	for n := 2; taken(out); n++ {
		out = name + strconv.Itoa(n)
	}
	return out
}
