// Package source reads what the code of a component says, without running it: its props, the
// elements it renders and when, its classes and what the style sheets say of them. What it
// cannot read it names, with the place; it never guesses in silence.
package source

import (
	"path"
	"slices"
	"strings"

	"cobrik/core/problem"
	"cobrik/core/source/syntax"
)

// File is one file of the code, by its path from the repository's root, with forward slashes.
type File struct {
	Name string
	Text []byte
}

// Code is what components are read from: source files, each read once it is asked for. It is not
// for several readers at once; Again makes one for each.
type Code struct {
	files   map[string][]byte
	names   []string
	modules map[string]*module
	sheets  map[string]*sheet
	found   problem.List
}

// Open makes files ready to be read.
func Open(files []File) *Code {
	c := &Code{files: map[string][]byte{}, modules: map[string]*module{}, sheets: map[string]*sheet{}}
	for _, f := range files {
		name := path.Clean(f.Name)
		c.files[name] = f.Text
		c.names = append(c.names, name)
	}
	slices.Sort(c.names)
	return c
}

// Again gives the same files to another reader, which reads them by itself: several may read at once.
func (c *Code) Again() *Code {
	return &Code{files: c.files, names: c.names, modules: map[string]*module{}, sheets: map[string]*sheet{}}
}

// Endings of the files that are read as modules, in the order a bundler looks for them.
var moduleEndings = []string{".tsx", ".ts", ".jsx", ".js", ".mts", ".mjs"}

// isModule tells whether a file is code that may hold components; declarations of types, tests and stories are none.
func isModule(name string) bool {
	if !slices.Contains(moduleEndings, path.Ext(name)) || strings.HasSuffix(name, ".d.ts") {
		return false
	}
	for _, word := range strings.Split(path.Base(name), ".") {
		if word == "test" || word == "spec" || word == "stories" {
			return false
		}
	}
	return true
}

// Named is a component that a file holds.
type Named struct {
	Name string
	File string
	Why  string // it is not read; empty for one that is
}

// Components lists what looks like a component in every file: a function of a capital name that gives
// JSX back. Those that only draw a picture for others, and those that no file exports, are left out.
func (c *Code) Components() (out []Named) {
	for _, name := range c.names {
		if !isModule(name) {
			continue
		}
		m := c.module(name)
		if m == nil {
			continue
		}
		for _, local := range m.order {
			exported := m.exportedAs(local)
			switch {
			case exported == "" || !isCapital(local):
			case m.component(local) == nil:
				if why := m.unreadable(local); why != "" {
					out = append(out, Named{exported, name, why})
				}
			case c.drawing(m, local) == nil:
				out = append(out, Named{exported, name, ""})
			}
		}
	}
	return out
}

// Problems lists what is wrong with the files that were read so far.
func (c *Code) Problems() problem.List { return c.found }

func (c *Code) module(name string) *module {
	if m, known := c.modules[name]; known {
		return m
	}
	text, there := c.files[name]
	var m *module
	if there {
		tree, found := syntax.TSX(name, text)
		c.found = append(c.found, found...)
		if tree != nil {
			m = newModule(c, tree)
		}
	}
	c.modules[name] = m
	return m
}

// resolve finds the file that an import names; empty for one from elsewhere.
func (c *Code) resolve(from, to string) string {
	if !strings.HasPrefix(to, ".") {
		return ""
	}
	at := path.Join(path.Dir(from), to)
	candidates := []string{at}
	for _, ending := range moduleEndings {
		candidates = append(candidates, at+ending)
	}
	if ext := path.Ext(at); ext == ".js" || ext == ".jsx" { // TypeScript's own way of naming modules
		candidates = append(candidates, strings.TrimSuffix(at, ext)+".ts", strings.TrimSuffix(at, ext)+".tsx")
	}
	for _, ending := range moduleEndings {
		candidates = append(candidates, at+"/index"+ending)
	}
	for _, name := range candidates {
		if _, there := c.files[name]; there && slices.Contains(moduleEndings, path.Ext(name)) {
			return name
		}
	}
	return ""
}
