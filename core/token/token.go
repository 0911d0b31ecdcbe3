// Package token reads design tokens in the Design Tokens Community Group's
// format (Format Module 2025.10), resolves their aliases and writes them for a
// platform. Read today: color, dimension, number, fontFamily, fontWeight,
// duration.
package token

import (
	"sort"
	"strings"
)

// Token is one design token, resolved.
type Token struct {
	Path        string   // names from the outermost group, joined by dots: "space.2"
	Type        string   // $type, its own, its groups' or its alias's
	Description string   // $description
	Deprecated  string   // $deprecated: the reason, or "deprecated" when none is given
	Alias       string   // path it points at; empty when it holds a value itself
	Chain       []string // paths walked to the value, nearest first; empty without an alias
	Value       string   // the resolved value as CSS text: "8px", "#4a7c59", "600"
	File        string   // file that gave it
	Pointer     string   // JSON Pointer of the token in that file
	raw         []byte
}

// Set holds tokens in the order they were first named.
type Set struct {
	list   []*Token
	byPath map[string]*Token
}

// Empty is a set without tokens.
func Empty() *Set { return &Set{byPath: map[string]*Token{}} }

// All gives the tokens in the order they were first named. The slice is shared:
// do not change it.
func (s *Set) All() []*Token { return s.list }

// Get finds a token by path; nil when there is none.
func (s *Set) Get(path string) *Token { return s.byPath[path] }

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
// Letters keep their case within a word and words are parted by hyphens.
func CSSName(path string) string {
	var b strings.Builder
	b.WriteString("--")
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
