// Package token reads design tokens in the Design Tokens Community Group's
// format (Format, Color and Resolver Modules 2025.10), resolves their
// references for each theme, checks and edits them, and writes values as CSS.
package token

import (
	"slices"
	"sort"
	"strings"
	"sync"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// Token is one design token, resolved. It is shared: do not change it.
type Token struct {
	Path        string // names from the outermost group, joined by dots: "space.2"
	Type        string // $type: its own, its alias's or its groups'
	Description string // $description
	Deprecated  string // $deprecated: the reason, or "deprecated" when none is given
	Alias       string // path of the token it points at; empty when it holds a value itself
	Value       string // the value as CSS text: "8px", "#4a7c59", "600"; empty when it cannot be resolved
	Content     *Value // the value with its parts and references; nil when it cannot be resolved
	File        string // file that gave it

	own    string // its own $type
	group  string // the nearest group's $type
	source *source
	node   *jsontree.Node // as written
	origin string         // path at which it stands in the file; another than Path when inherited by $extends
	target *Token         // what Alias names
	uses   []*Token       // every token its value refers to, once each
	state  state
	place  int // index in its set
	hops   int // aliases between it and its value
}

type state uint8

const (
	untouched state = iota
	resolving
	resolved
	broken
)

// Chain gives the paths walked to the value, nearest first; empty without an alias.
func (t *Token) Chain() []string {
	var chain []string
	for at := t.target; at != nil && len(chain) < 1000; at = at.target {
		chain = append(chain, at.Path)
	}
	return chain
}

// Uses gives the paths of every token its value refers to, parts included.
func (t *Token) Uses() []string {
	paths := make([]string, len(t.uses))
	for i, u := range t.uses {
		paths[i] = u.Path
	}
	return paths
}

// Pointer is the JSON Pointer (RFC 6901) of the token in its file.
func (t *Token) Pointer() string { return pointerOf(t.origin) }

// Written gives the token's $value as it stands in its file, as JSON.
func (t *Token) Written() string {
	if v := valueNode(t.node); v != nil {
		return string(v.Append(nil, oneLine))
	}
	return ""
}

// Extensions gives the token's $extensions; nil when there are none.
func (t *Token) Extensions() *jsontree.Node { return t.node.Get("$extensions") }

func pointerOf(path string) string {
	if path == "" {
		return ""
	}
	var b strings.Builder
	for name := range strings.SplitSeq(path, ".") {
		b.WriteByte('/')
		b.WriteString(problem.Token(name))
	}
	return b.String()
}

// Set holds tokens in the order they were first named. It does not change; a
// set with one value changed is a new one: see With.
type Set struct {
	list    []*Token
	byPath  map[string]*Token
	over    map[string]*Token // what With replaced
	root    *entry            // the groups, for JSON Pointers
	indexed sync.Once
	users   map[string][]*Token
	valued  sync.Once
	values  map[[2]string][]*Token
}

// Empty is a set without tokens.
func Empty() *Set { return &Set{byPath: map[string]*Token{}, root: &entry{}} }

// All gives the tokens in the order they were first named. The slice is shared:
// do not change it.
func (s *Set) All() []*Token { return s.list }

// Get finds a token by path; nil when there is none.
func (s *Set) Get(path string) *Token {
	if t := s.over[path]; t != nil {
		return t
	}
	return s.byPath[path]
}

// Users gives the tokens whose values refer to one, in the set's order. A
// composite counts that refers to it in a part.
func (s *Set) Users(path string) []*Token {
	s.indexed.Do(func() {
		s.users = make(map[string][]*Token)
		for _, t := range s.list {
			for _, u := range t.uses {
				s.users[u.Path] = append(s.users[u.Path], t)
			}
		}
	})
	return s.users[path]
}

// WithValue gives the tokens of a type that come to a value, in the set's order:
// a colour as its key, a length in px (a rem being 16, common practice, no
// source), a number or weight as such, a family as its first name, a shadow and a gradient as CSS
// writes them.
func (s *Set) WithValue(kind, value string) []*Token {
	s.valued.Do(func() {
		s.values = make(map[[2]string][]*Token)
		for _, t := range s.list {
			if t.Content != nil {
				if v := t.Content.plain(); v != "" {
					s.values[[2]string{t.Type, v}] = append(s.values[[2]string{t.Type, v}], t)
				}
			}
		}
	})
	return s.values[[2]string{kind, value}]
}

// Dependents gives every token whose value rests on one, however far, in the
// set's order, without that token.
func (s *Set) Dependents(path string) []*Token {
	var out []*Token
	seen := map[string]bool{path: true}
	for next := []string{path}; len(next) > 0; {
		at := next[0]
		next = next[1:]
		for _, u := range s.Users(at) {
			if !seen[u.Path] {
				seen[u.Path] = true
				out = append(out, u)
				next = append(next, u.Path)
			}
		}
	}
	slices.SortFunc(out, func(a, b *Token) int { return a.place - b.place })
	return out
}

// Nearest gives the paths most like a name that is not there, for a message.
func (s *Set) Nearest(path string) []string {
	last := path[strings.LastIndexByte(path, '.')+1:]
	group := strings.TrimSuffix(path, last)
	type scored struct {
		path  string
		score int
	}
	var near []scored
	for _, t := range s.list {
		score := 0
		if group != "" && strings.HasPrefix(t.Path, group) {
			score += 2
		}
		if strings.HasSuffix(t.Path, "."+last) {
			score += 3
		}
		if score > 0 {
			near = append(near, scored{t.Path, score})
		}
	}
	sort.SliceStable(near, func(i, j int) bool { return near[i].score > near[j].score })
	var out []string
	for _, n := range near[:min(3, len(near))] {
		out = append(out, n.path)
	}
	return out
}

// CSSName gives the custom property a token becomes: "space.2" is "--space-2".
// Letters keep their case within a word and words are parted by hyphens. A
// group's own token, $root, has the group's name (Format Module, 6.2).
func CSSName(path string) string {
	var b strings.Builder
	b.WriteString("--")
	path = strings.ReplaceAll(path, ".$root", "")
	for i, r := range path {
		switch {
		case r >= 'A' && r <= 'Z':
			if i > 0 && path[i-1] != '.' && path[i-1] != '-' && (path[i-1] < 'A' || path[i-1] > 'Z') {
				b.WriteByte('-')
			}
			b.WriteRune(r - 'A' + 'a')
		case r == '.' || r == ' ' || r == '_':
			b.WriteByte('-')
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-' || r > 127:
			b.WriteRune(r)
		default:
			b.WriteByte('-')
		}
	}
	return b.String()
}
