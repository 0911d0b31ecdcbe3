package service

import (
	"bytes"
	"context"
	"fmt"
	"sync"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/store"
)

// ProjectFile is the name under which the project file is kept among the token
// files.
const ProjectFile = "cobrik.json"

// library is one state of the tokens, read and resolved. It is shared: nothing
// in it changes.
type library struct {
	state   store.TokenRevision
	stored  []store.TokenFile
	files   []token.File // without the project file
	library *token.Library
	themes  []token.Theme
	sets    []*token.Set // one a theme
	project *output.Project
	found   problem.List // of reading files; resolving is in check

	checked sync.Once
	check   problem.List

	written    sync.Once
	properties *output.Properties
}

// openLibrary reads one state of the tokens, in every theme; it stops with the context.
func openLibrary(ctx context.Context, state store.TokenRevision, stored []store.TokenFile) (*library, error) {
	l := &library{state: state, stored: stored}
	for _, f := range stored {
		if f.Name == ProjectFile {
			var bad problem.List
			l.project, bad = output.ReadProject(f.Name, f.Content)
			l.found = append(l.found, bad...)
			continue
		}
		l.files = append(l.files, token.File{Name: f.Name, Text: f.Content})
	}
	var bad problem.List
	l.library, bad = token.Open(l.files...)
	l.found = append(l.found, bad...)
	l.themes = l.library.Themes()
	for _, t := range l.themes {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		set, _ := l.library.Set(t) // what is wrong is listed by problems
		l.sets = append(l.sets, set)
	}
	return l, nil
}

// problems lists all that is wrong, in any theme.
func (l *library) problems() problem.List {
	l.checked.Do(func() { l.check = append(l.found[:len(l.found):len(l.found)], l.library.Check()...) })
	return l.check
}

// customProperties are the tokens as the project's own style sheet has them.
func (l *library) customProperties() *output.Properties {
	l.written.Do(func() {
		if l.properties, _ = output.NewProperties(output.ForCSS(l.project.All()), l.library, l.themes); l.properties == nil {
			l.properties = output.PropertiesOf(l.sets[0])
		}
	})
	return l.properties
}

// gives counts the tokens each file gives, in any theme.
func (l *library) gives() map[string]int {
	seen := map[[2]string]bool{}
	out := map[string]int{}
	for _, set := range l.sets {
		for _, t := range set.All() {
			if key := [2]string{t.File, t.Path}; !seen[key] {
				seen[key] = true
				out[t.File]++
			}
		}
	}
	return out
}

// with gives the stored files with one's text changed, or that one added, and
// the file as it was.
func (l *library) with(name string, text []byte) (files []store.TokenFile, was *store.TokenFile) {
	for i, f := range l.stored {
		if f.Name == name {
			was = &l.stored[i]
			f.Content = text
		}
		files = append(files, f)
	}
	if was == nil {
		files = append(files, store.TokenFile{Name: name, Content: text})
	}
	return files, was
}

// themeName names a theme for people: the contexts of its choices.
func themeName(t token.Theme) string {
	name := ""
	for i, c := range t {
		if i > 0 {
			name += ", "
		}
		name += c.Context
	}
	if name == "" {
		return "value"
	}
	return name
}

// kindOf tells token files, resolver documents and project files apart.
func kindOf(text []byte) string {
	if bytes.Contains(text[:min(len(text), 4096)], []byte(output.ProjectFormat)) {
		return "project"
	}
	if bytes.Contains(text, []byte(`"resolutionOrder"`)) {
		if root, _ := jsontree.Read("", text, problem.Limits{Bytes: len(text), Depth: 64}); root != nil && token.IsResolver(root) {
			return "resolver"
		}
	}
	return "tokens"
}

// library reads the newest state of the tokens. Problems in stored files cannot
// stop the work: what could be read is used.
func (s *Service) library(ctx context.Context) (*library, error) {
	state, err := s.store.TokenRevision(ctx)
	if err != nil {
		return nil, err
	}
	if l := s.libraries.get(state.Number); l != nil {
		return l, nil
	}
	stored, err := s.store.TokenFiles(ctx, state.Number)
	if err != nil {
		return nil, err
	}
	l, err := openLibrary(ctx, state, stored)
	if err != nil {
		return nil, err
	}
	s.libraries.put(l)
	return l, nil
}

// number is the number of this state, for writes that were checked with it.
func (l *library) number() *int { return &l.state.Number }

// name names this state of the tokens.
func (l *library) name() string { return fmt.Sprintf("t%d", l.state.Number) }

// tokens are the default theme's.
func (l *library) tokens() *token.Set { return l.sets[0] }

// libraries keeps the last states read. A state never changes, so several
// servers may each keep their own.
type libraries struct {
	mu   sync.Mutex
	list []*library // newest last
}

func (k *libraries) get(number int) *library {
	k.mu.Lock()
	defer k.mu.Unlock()
	for _, l := range k.list {
		if l.state.Number == number {
			return l
		}
	}
	return nil
}

func (k *libraries) put(l *library) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.list = append(k.list, l)
	if len(k.list) > 4 {
		k.list = k.list[1:]
	}
}
