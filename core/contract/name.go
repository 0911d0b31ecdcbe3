package contract

import (
	"fmt"
	"strings"
)

// Words splits a name into lower-case words: "CropTag 2" is crop, tag, 2.
func Words(name string) []string {
	var out []string
	var word strings.Builder
	flush := func() {
		if word.Len() > 0 {
			out = append(out, strings.ToLower(word.String()))
			word.Reset()
		}
	}
	lower := false
	for _, r := range name {
		switch {
		case r >= 'A' && r <= 'Z':
			if lower {
				flush()
			}
			word.WriteRune(r)
			lower = false
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			word.WriteRune(r)
			lower = true
		default:
			flush()
			lower = false
		}
	}
	flush()
	return out
}

// Identifier turns a drawn name into a camelCase identifier; the fallback is
// used when nothing of it can stand.
func Identifier(name, fallback string) string {
	var b strings.Builder
	for i, w := range Words(name) {
		if i > 0 {
			w = strings.ToUpper(w[:1]) + w[1:]
		}
		b.WriteString(w)
	}
	s := b.String()
	if s == "" {
		return fallback
	}
	if s[0] >= '0' && s[0] <= '9' {
		return fallback + s
	}
	return s
}

// OptionOf turns an axis value into a choice's option: "Extra large" is
// "extra-large".
func OptionOf(value string) string {
	option := strings.Join(Words(value), "-")
	if option == "" {
		return fmt.Sprintf("option-%x", value)
	}
	return option
}
