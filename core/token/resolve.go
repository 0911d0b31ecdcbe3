package token

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// resolve follows every alias (Format Module, 7) and turns values into CSS text.
func (s *Set) resolve() problem.List {
	var found problem.List
	names := map[string]*Token{}
	for _, t := range s.list {
		name := CSSName(t.Path)
		if first := names[name]; first != nil {
			report(&found, t, "token-css-name", "rename one of them", "%s and %s would both become the custom property %s", first.Path, t.Path, name)
		}
		names[name] = t
		t.Alias, t.Chain, t.Value = "", nil, ""
		var text string
		if json.Unmarshal(t.raw, &text) == nil && strings.HasPrefix(text, "{") && strings.HasSuffix(text, "}") {
			t.Alias = text[1 : len(text)-1]
		}
	}
	for _, t := range s.list {
		end, ok := s.follow(t, &found)
		if !ok {
			continue
		}
		if end.Type == "" {
			report(&found, end, "token-type", "add $type to the token or its group", "the token %s has no type", end.Path)
			continue
		}
		if t.Type != "" && t.Type != end.Type {
			report(&found, t, "token-alias-type", "point it at a token of its own type, or leave out its $type",
				"%s is of type %s but the alias ends at %s, of type %s", t.Path, t.Type, end.Path, end.Type)
			continue
		}
		t.Type = end.Type
		value, err := cssValue(end.Type, end.raw)
		if err != nil {
			if t == end {
				report(&found, t, "token-value", "", "the token %s: %s", t.Path, err)
			}
			continue
		}
		t.Value = value
	}
	return found
}

// follow walks a token's aliases to the token that holds the value, noting the
// chain. An unknown reference or a cycle is reported with the whole chain.
func (s *Set) follow(t *Token, found *problem.List) (*Token, bool) {
	chain := []string{t.Path}
	at := t
	for at.Alias != "" {
		next := s.byPath[at.Alias]
		if next == nil {
			fix := "name a token that exists"
			if near := s.Nearest(at.Alias); len(near) > 0 {
				fix = "did you mean " + strings.Join(near, " or ") + "?"
			}
			report(found, t, "token-unknown", fix, "the alias %s points at a token that is not there",
				strings.Join(append(chain, at.Alias), " → "))
			return nil, false
		}
		if slices.Contains(chain, next.Path) {
			report(found, t, "token-cycle", "give one of them a value", "the aliases run in a circle: %s",
				strings.Join(append(chain, next.Path), " → "))
			return nil, false
		}
		chain = append(chain, next.Path)
		at = next
	}
	t.Chain = chain[1:]
	return at, true
}

func report(found *problem.List, t *Token, rule, fix, format string, args ...any) {
	found.Errorf(rule, t.Pointer+"/$value", fix, "%s", fmt.Sprintf(format, args...))
	(*found)[len(*found)-1].File = t.File
}
