package token

import (
	"path"
	"slices"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Library is all that a project's tokens come from: token files and, for
// themes, at most one resolver document among them. It does not change.
type Library struct {
	sources  []*source // token files, in order
	resolver *resolver // nil without themes
}

// Theme is one choice of a context for each modifier, in the order of the
// resolver document; empty when there is none.
type Theme []Choice

// Choice is one modifier's context.
type Choice struct {
	Modifier string `json:"modifier"`
	Context  string `json:"context"`
}

// String gives "theme=dusk contrast=high"; empty for a theme without choices.
func (t Theme) String() string {
	parts := make([]string, len(t))
	for i, c := range t {
		parts[i] = c.Modifier + "=" + c.Context
	}
	return strings.Join(parts, " ")
}

// Open reads files. One that has a resolutionOrder is the resolver document
// (Resolver Module); all others are token files. Those it does not name are
// merged before what it says, or after it when they come after it. The library
// holds what could be read even when problems were found.
func Open(files ...File) (*Library, problem.List) {
	l := &Library{}
	var found problem.List
	var resolvers []*source
	earlier := 0
	for _, f := range files {
		root, bad := jsontree.Read(f.Name, f.Text, limits)
		if root == nil {
			found = append(found, bad...)
			continue
		}
		s := &source{name: f.Name, text: f.Text, root: root}
		if IsResolver(root) {
			resolvers = append(resolvers, s)
			earlier = len(l.sources)
		} else {
			l.sources = append(l.sources, s)
		}
	}
	if len(resolvers) > 0 {
		r := &reports{}
		for _, s := range resolvers[1:] {
			r.errorf("resolver-two", s, s.root, "", "keep one of them", "%s is a second resolver document; the first is %s", s.name, resolvers[0].name)
		}
		l.resolver = readResolver(r, resolvers[0], l.sources, earlier)
		if n := l.resolver.combinations(); n > mostThemes {
			r.warnf("resolver-many", resolvers[0], resolvers[0].root, "/modifiers", "merge modifiers that go together",
				"the modifiers give %d combinations; the first %d are listed and checked", n, mostThemes)
		}
		found = append(found, r.found...)
	}
	return l, found
}

// IsResolver tells a resolver document from a token file.
func IsResolver(root *jsontree.Node) bool { return root.Get("resolutionOrder") != nil }

// Read reads files into one set, resolved for the default theme. The set holds
// what could be read even when problems were found.
func Read(files ...File) (*Set, problem.List) {
	l, found := Open(files...)
	set, more := l.Set(l.Default())
	return set, append(found, more...)
}

// Default is the theme of every modifier's default.
func (l *Library) Default() Theme {
	var t Theme
	if l.resolver != nil {
		for _, m := range l.resolver.modifiers {
			t = append(t, Choice{m.name, m.standard})
		}
	}
	return t
}

// Bounds of what is worked on: all combinations, and one theme's tokens.
const (
	mostThemes = 256
	mostTokens = 100_000
)

// Themes lists every combination of contexts, the default first, at most 256.
func (l *Library) Themes() []Theme {
	themes := []Theme{nil}
	if l.resolver != nil {
		for _, m := range l.resolver.modifiers {
			contexts := []string{m.standard}
			for _, c := range m.contexts {
				if c.name != m.standard {
					contexts = append(contexts, c.name)
				}
			}
			var more []Theme
			for _, t := range themes {
				for _, c := range contexts {
					if len(more) < mostThemes {
						more = append(more, append(slices.Clone(t), Choice{m.name, c}))
					}
				}
			}
			themes = more
		}
	}
	return themes
}

// Modifier is one of a resolver's modifiers.
type Modifier struct {
	Name, Description string
	Contexts          []string
	Default           string
	Media             map[string]string // the media query under which a context is used unasked, by context
}

// Modifiers lists the resolver's modifiers in resolution order.
func (l *Library) Modifiers() []Modifier {
	var out []Modifier
	if l.resolver != nil {
		for _, m := range l.resolver.modifiers {
			one := Modifier{Name: m.name, Description: m.description, Default: m.standard, Media: m.media}
			for _, c := range m.contexts {
				one.Contexts = append(one.Contexts, c.name)
			}
			out = append(out, one)
		}
	}
	return out
}

// Theme makes a theme of choices by modifier; a modifier that is not named has
// its default. A choice that does not exist is an error that lists those that do.
func (l *Library) Theme(choices map[string]string) (Theme, problem.List) {
	theme := l.Default()
	r := &reports{}
	var names []string
	for i, c := range theme {
		names = append(names, c.Modifier)
		chosen, ok := choices[c.Modifier]
		if !ok {
			continue
		}
		if m := l.resolver.modifiers[i]; m.context(chosen) == nil {
			r.errorf("theme-context", nil, nil, "", "choose one of "+strings.Join(m.names(), ", "), "the modifier %s has no context %q", c.Modifier, chosen)
		}
		theme[i].Context = chosen
	}
	for name := range choices {
		if !slices.Contains(names, name) {
			fix := "there are no modifiers without a resolver document"
			if len(names) > 0 {
				fix = "use one of " + strings.Join(names, ", ")
			}
			r.errorf("theme-modifier", nil, nil, "", fix, "there is no modifier %q", name)
		}
	}
	return theme, r.found
}

// Set merges the files a theme is made of and resolves their tokens.
func (l *Library) Set(theme Theme) (*Set, problem.List) {
	m := &merger{root: &entry{}}
	if l.resolver == nil {
		for _, s := range l.sources {
			m.group(m.root, s, s.root, "")
		}
	} else {
		for _, s := range l.resolver.before {
			m.group(m.root, s, s.root, "")
		}
		for _, step := range l.resolver.order {
			for _, layer := range step.layers(theme) {
				m.group(m.root, layer.source, layer.node, layer.path)
			}
		}
		for _, s := range l.resolver.after {
			m.group(m.root, s, s.root, "")
		}
	}
	m.extend(m.root, nil)
	set := &Set{byPath: make(map[string]*Token, 64), root: m.root}
	set.collect(m.root, "", "", nil)
	r := &resolution{reports: m.reports, set: set, root: m.root}
	if len(set.list) == mostTokens {
		r.errorf("token-many", nil, nil, "", "split the project", "there are more than %d tokens; the rest is not read", mostTokens)
	}
	for _, t := range set.list {
		r.token(t)
	}
	r.names()
	return set, sorted(r.found)
}

// names finds tokens that would become one custom property.
func (r *resolution) names() {
	first := make(map[string]*Token, len(r.set.list))
	for _, t := range r.set.list {
		name := CSSName(t.Path)
		if f := first[name]; f != nil {
			r.errorf("token-css-name", t.source, t.node, t.Pointer(), "rename one of them", "%s and %s would both become the custom property %s", f.Path, t.Path, name)
			continue
		}
		first[name] = t
	}
}

// sorted puts problems in the order of their files' lines.
func sorted(found problem.List) problem.List {
	var files []string
	for _, p := range found {
		if !slices.Contains(files, p.File) {
			files = append(files, p.File)
		}
	}
	slices.SortStableFunc(found, func(a, b problem.Problem) int {
		if a.File != b.File {
			return slices.Index(files, a.File) - slices.Index(files, b.File)
		}
		if a.Line != b.Line {
			return a.Line - b.Line
		}
		return a.Column - b.Column
	})
	return found
}

// named finds a token file by the name a resolver document gives it: relative
// to that document, else by its last part.
func named(sources []*source, from, reference string) *source {
	wanted := path.Join(path.Dir(from), reference)
	for _, s := range sources {
		if path.Clean(s.name) == wanted {
			return s
		}
	}
	for _, s := range sources {
		if path.Base(s.name) == path.Base(reference) {
			return s
		}
	}
	return nil
}
