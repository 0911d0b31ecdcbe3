package token

import (
	"bytes"
	"encoding/json"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"cobrik/core/problem"
)

// File is one token file: its name, for messages, and its text.
type File struct {
	Name string
	Text []byte
}

// Bounds of what is read from outside.
var limits = problem.Limits{Bytes: 16 << 20, Depth: 64}

// Read reads token files into one set and resolves it. A path given again by a
// later file replaces the earlier token and keeps its place. The set holds what
// could be read even when problems were found.
func Read(files ...File) (*Set, problem.List) {
	set := Empty()
	var found problem.List
	for _, f := range files {
		if bad := problem.CheckJSON(f.Name, f.Text, limits); bad != nil {
			found = append(found, bad...)
			continue
		}
		r := reader{set: set, file: f.Name}
		r.group(f.Text, "", "", "")
		found = append(found, r.found.Locate(f.Name, f.Text)...)
	}
	resolved := set.resolve()
	for _, f := range files {
		var mine problem.List
		for _, p := range resolved {
			if p.File == f.Name {
				mine = append(mine, p)
			}
		}
		found = append(found, mine.Locate(f.Name, f.Text)...)
	}
	return set, found
}

type reader struct {
	set   *Set
	file  string
	found problem.List
}

type member struct {
	name  string
	value []byte
}

// members lists an object's members in order; false when it is not an object.
func members(text []byte) ([]member, bool) {
	d := jsontext.NewDecoder(bytes.NewReader(text))
	if tok, err := d.ReadToken(); err != nil || tok.Kind() != '{' {
		return nil, false
	}
	var list []member
	for d.PeekKind() == '"' {
		tok, err := d.ReadToken()
		if err != nil {
			return list, true
		}
		name := tok.String()
		value, err := d.ReadValue()
		if err != nil {
			return list, true
		}
		list = append(list, member{name, bytes.Clone(value)})
	}
	return list, true
}

// group reads a group or, where it holds a $value, a token (Format Module, 5 and 6).
func (r *reader) group(text []byte, path, pointer, inherited string) {
	list, isObject := members(text)
	if !isObject {
		r.found.Errorf("token-shape", pointer, "write an object with $value, or a group of tokens", "a token or group is an object")
		return
	}
	t := &Token{Path: path, Type: inherited, File: r.file, Pointer: pointer}
	isToken := false
	for _, m := range list {
		at := pointer + "/" + problem.Token(m.name)
		switch m.name {
		case "$value":
			isToken = true
			t.raw = m.value
		case "$type":
			t.Type = r.text(m.value, at)
		case "$description":
			t.Description = r.text(m.value, at)
		case "$deprecated":
			var flag bool
			if json.Unmarshal(m.value, &flag) == nil {
				if flag {
					t.Deprecated = "deprecated"
				}
			} else {
				t.Deprecated = r.text(m.value, at)
			}
		}
	}
	if isToken {
		if path == "" {
			r.found.Errorf("token-root", "/$value", "give the token a name", "a token file begins with a group, not with a token")
			return
		}
		r.add(t)
		for _, m := range list {
			if !strings.HasPrefix(m.name, "$") {
				r.found.Errorf("token-nested", pointer+"/"+problem.Token(m.name), "move it out of the token", "the token %s holds another token or group, %s", path, m.name)
			}
		}
		return
	}
	for _, m := range list {
		at := pointer + "/" + problem.Token(m.name)
		if strings.HasPrefix(m.name, "$") {
			// Format Module, 6.2: a group's own token is named $root.
			if m.name == "$root" {
				r.group(m.value, join(path, m.name), at, t.Type)
			}
			continue
		}
		if m.name == "" || strings.ContainsAny(m.name, "{}.") {
			r.found.Errorf("token-name", at, "use letters, digits, hyphens or spaces", "the name %q is empty or holds one of { } . (Format Module, 5.1.1)", m.name)
			continue
		}
		r.group(m.value, join(path, m.name), at, t.Type)
	}
}

func (r *reader) add(t *Token) {
	if old := r.set.byPath[t.Path]; old != nil {
		*old = *t
		return
	}
	r.set.byPath[t.Path] = t
	r.set.list = append(r.set.list, t)
}

func (r *reader) text(value []byte, pointer string) string {
	var s string
	if json.Unmarshal(value, &s) != nil {
		r.found.Errorf("token-text", pointer, "write it in quotes", "a string was expected, found %s", short(value))
	}
	return s
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

func short(value []byte) string {
	if len(value) > 60 {
		return string(value[:60]) + "…"
	}
	return string(value)
}
