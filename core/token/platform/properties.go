package platform

import (
	"slices"
	"strings"

	"cobrik/core/problem"
	"cobrik/core/token"
)

// Properties are a project's tokens as custom properties, named as its own CSS output
// names them.
type Properties struct {
	runs      []*run
	modifiers []token.Modifier
}

// ForCSS finds the platform whose output is a style sheet; the standard one when the
// list has none.
func ForCSS(list []Platform) Platform {
	for _, p := range list {
		if slices.ContainsFunc(p.Outputs, func(o Output) bool { return o.Format == "css" }) {
			return p
		}
	}
	return Standard()[0]
}

// NewProperties runs a platform for themes, the default one first.
func NewProperties(p Platform, library *token.Library, themes []token.Theme) (*Properties, problem.List) {
	out := &Properties{modifiers: library.Modifiers()}
	var found problem.List
	for _, theme := range themes {
		set, bad := library.Set(theme)
		if set == nil {
			return nil, bad
		}
		r, bad := execute(&p, theme, set)
		found = append(found, bad...)
		out.runs = append(out.runs, r)
	}
	return out, found
}

// PropertiesOf gives one theme's tokens as the standard output names them.
func PropertiesOf(set *token.Set) *Properties {
	p := Standard()[0]
	r, _ := execute(&p, nil, set)
	return &Properties{runs: []*run{r}}
}

// Property gives the custom property a token is written as.
func (p *Properties) Property(path string) string {
	if item := p.runs[0].referred(path); item != nil {
		return property(item.Name)
	}
	return token.CSSName(path)
}

// Sheet writes the tokens named by paths, and all that they refer to in any theme, as
// custom properties, aliases as references; with no paths, every token. The selectors
// weigh nothing (Selectors 4, 17): a page that themes the same names keeps its say.
func (p *Properties) Sheet(paths []string) string {
	var b strings.Builder
	s := sheet{runs: p.runs, modifiers: p.modifiers, selector: func(s string) string { return ":where(" + strings.ReplaceAll(s, ",\n", ", ") + ")" }}
	if len(paths) > 0 {
		s.wanted = map[string]bool{}
		for _, r := range p.runs {
			s.want(r, paths)
		}
	}
	s.write(&b)
	return b.String()
}

func (s *sheet) want(r *run, paths []string) {
	uses := map[string][]string{}
	for _, item := range r.items {
		uses[item.Token.Path] = item.Token.Uses()
	}
	seen := map[string]bool{}
	for next := slices.Clone(paths); len(next) > 0; next = next[1:] {
		if path := next[0]; !seen[path] {
			seen[path], s.wanted[path] = true, true
			next = append(next, uses[path]...)
		}
	}
}
