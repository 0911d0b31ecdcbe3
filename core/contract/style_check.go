package contract

import (
	"fmt"
	"slices"
	"strings"

	"cobrik/core/css"
	"cobrik/core/token"
)

// ResolveTokens replaces references with the tokens' values. A reference that leads
// nowhere stays as it is.
func ResolveTokens(value string, tokens *token.Set) string {
	return css.ReplaceRefs(value, func(path string) string {
		if t := tokens.Get(path); t != nil && t.Value != "" {
			return t.Value
		}
		return "{" + path + "}"
	})
}

// CheckValue tells why a value is not allowed for a property; nil when it is.
// Without tokens (nil) references are taken as they are.
func CheckValue(property, value string, tokens *token.Set) error {
	v, err := css.Parse(property, value)
	if err != nil || tokens == nil {
		return err
	}
	refs := css.Refs(v)
	p, _ := css.PropertyNamed(property)
	for _, path := range refs {
		t := tokens.Get(path)
		if t == nil {
			near := ""
			if n := tokens.Nearest(path); len(n) > 0 {
				near = "; did you mean " + strings.Join(n, " or ") + "?"
			}
			return fmt.Errorf("%s: there is no token %s%s", property, path, near)
		}
		if types := p.TokenTypes(); !slices.Contains(types, t.Type) {
			return fmt.Errorf("%s takes %s, but %s is of type %s", property, orNone(types), path, t.Type)
		}
		if t.Value == "" {
			return fmt.Errorf("%s: the token %s has no value", property, path)
		}
	}
	if len(refs) > 0 {
		_, err = css.Parse(property, ResolveTokens(value, tokens))
	}
	return err
}

func orNone(types []string) string {
	if len(types) == 0 {
		return "no token"
	}
	return "a token of type " + strings.Join(types, " or ")
}
