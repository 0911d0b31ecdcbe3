package output

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

// ForCSS finds the output that is a style sheet; the standard one when the list has none.
func ForCSS(list []Output) Output {
	for _, o := range list {
		if o.Language == "css" {
			return o
		}
	}
	return Standard()[0]
}

// NewProperties names tokens as an output in CSS does, for themes, the default one first.
// Components may refer to any token as a whole, so that all are there, whole, whichever
// groups the output writes.
func NewProperties(o Output, library *token.Library, themes []token.Theme) (*Properties, problem.List) {
	out := &Properties{modifiers: library.Modifiers()}
	o.Only, o.Without, o.Composites = nil, nil, ""
	var found problem.List
	for _, theme := range themes {
		set, bad := library.Set(theme)
		if set == nil {
			return nil, bad
		}
		r := execute(&o, theme, set)
		found = append(found, r.sameNames()...)
		out.runs = append(out.runs, r)
	}
	return out, once(found)
}

// PropertiesOf gives one theme's tokens as the standard output names them.
func PropertiesOf(set *token.Set) *Properties {
	o := Standard()[0]
	return &Properties{runs: []*run{execute(&o, nil, set)}}
}

// Property gives the custom property a token is written as.
func (p *Properties) Property(path string) string {
	if i := p.runs[0].referred(path); i != nil {
		return property(i.name)
	}
	return token.CSSName(path)
}

// Sheet writes the tokens named by paths, and all that they refer to in any theme, as
// custom properties, aliases as references; with no paths, every token. The selectors
// weigh nothing (Selectors 4, 17): a page that themes the same names keeps its say.
func (p *Properties) Sheet(paths []string) string {
	f := newFile("")
	s := sheet{runs: p.runs, modifiers: p.modifiers, selector: func(s string) string { return ":where(" + strings.ReplaceAll(s, ",\n", ", ") + ")" }}
	if len(paths) > 0 {
		s.wanted = map[string]bool{}
		for _, r := range p.runs {
			s.want(r, paths)
		}
	}
	s.write(f)
	return f.String()
}

func (s *sheet) want(r *run, paths []string) {
	uses := map[string][]string{}
	for _, i := range r.items {
		uses[i.token.Path] = i.token.Uses()
	}
	seen := map[string]bool{}
	for next := slices.Clone(paths); len(next) > 0; next = next[1:] {
		if path := next[0]; !seen[path] {
			seen[path], s.wanted[path] = true, true
			next = append(next, uses[path]...)
		}
	}
}

// Paths gives the tokens by the custom properties they are written as.
func (p *Properties) Paths() map[string]string {
	out := map[string]string{}
	for _, i := range p.runs[0].items {
		if name := p.Property(i.token.Path); out[name] == "" {
			out[name] = i.token.Path
		}
	}
	return out
}
