package token

import (
	"fmt"
	"strings"
)

// CSS writes the tokens named by paths, and all that their aliases lead to, as
// custom properties on :root. An alias stays a reference, var(--…), so that a
// theme can re-point it. With no paths every token is written. Order is that of
// the set, so the same set gives the same bytes.
func (s *Set) CSS(paths ...string) string {
	wanted := map[string]bool{}
	for _, p := range paths {
		for t := s.byPath[p]; t != nil && !wanted[t.Path]; t = s.byPath[t.Alias] {
			wanted[t.Path] = true
		}
	}
	var b strings.Builder
	b.WriteString(":root {\n")
	for _, t := range s.list {
		if len(paths) > 0 && !wanted[t.Path] || t.Value == "" {
			continue
		}
		value := t.Value
		if t.Alias != "" {
			value = "var(" + CSSName(t.Alias) + ")"
		}
		fmt.Fprintf(&b, "  %s: %s;\n", CSSName(t.Path), value)
	}
	b.WriteString("}\n")
	return b.String()
}
