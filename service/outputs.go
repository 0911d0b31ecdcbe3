package service

import (
	"context"
	"errors"
	"slices"
	"strings"

	"cobrik/core/problem"
	"cobrik/core/token/output"
	"cobrik/store"
)

// OutputsView is what tokens are written to, and all that an output may want.
type OutputsView struct {
	Revision  int               `json:"revision"`
	Own       bool              `json:"own" doc:"The project names its outputs; else they are the standard ones"`
	Outputs   []OutputView      `json:"outputs"`
	Settings  []output.Setting  `json:"settings"`
	Languages []output.Language `json:"languages"`
	Groups    []TokenGroup      `json:"groups"`
}

// OutputView is one output.
type OutputView struct {
	Output output.Output `json:"output"`
	About  string        `json:"about" doc:"Its language and what it is set to, in a few words"`
}

// TokenGroup is a group of tokens, at any depth.
type TokenGroup struct {
	Path   string `json:"path"`
	Tokens int    `json:"tokens"`
}

// Outputs lists the project's outputs, the standard ones when it names none.
func (s *Service) Outputs(ctx context.Context) (OutputsView, error) {
	l, err := s.library(ctx)
	if err != nil {
		return OutputsView{}, err
	}
	view := OutputsView{Revision: l.state.Number, Own: l.ownOutputs(), Outputs: []OutputView{}, Settings: output.Settings(), Languages: output.Languages(), Groups: l.groups()}
	for _, o := range l.project.All() {
		view.Outputs = append(view.Outputs, OutputView{o, o.About()})
	}
	return view, nil
}

func (l *library) ownOutputs() bool { return l.project != nil && len(l.project.Tokens.Outputs) > 0 }

// groups lists the groups in the order of their first tokens, a group before those within it.
func (l *library) groups() []TokenGroup {
	groups := []TokenGroup{}
	at := map[string]int{}
	for _, path := range l.paths() {
		for i, r := range path {
			if r != '.' {
				continue
			}
			n, known := at[path[:i]]
			if !known {
				n = len(groups)
				at[path[:i]] = n
				groups = append(groups, TokenGroup{Path: path[:i]})
			}
			groups[n].Tokens++
		}
	}
	return groups
}

// BuiltTokens is what an output would write.
type BuiltTokens struct {
	About    string        `json:"about"`
	Files    []TokenOutput `json:"files"`
	Way      []output.Step `json:"way" doc:"How the token asked for gets there; empty when it is not written"`
	Problems problem.List  `json:"problems"`
}

// TokenOutput is one file.
type TokenOutput struct {
	Name  string        `json:"name"`
	Text  string        `json:"text"`
	Lines []output.Line `json:"lines" doc:"Where each token stands"`
}

// BuildTokens writes an output as it is given, in the place of the one whose file is was or
// as a new one, for every theme, and shows step by step how one token gets there in the
// default theme. Nothing is kept.
func (s *Service) BuildTokens(ctx context.Context, o output.Output, was, path string) (BuiltTokens, error) {
	built := BuiltTokens{Files: []TokenOutput{}, Way: []output.Step{}, About: o.About()}
	l, err := s.library(ctx)
	if err != nil {
		return built, err
	}
	files, found := output.Build(&o, l.library, l.themes)
	if slices.ContainsFunc(l.project.All(), func(other output.Output) bool { return other.File != was && strings.EqualFold(other.File, o.File) }) {
		found.Errorf("output-file", "/file", "give this one another file", "Two outputs are written to %s.", o.File)
		files = nil
	}
	built.Problems = listed(found)
	var lines []string
	for _, f := range files {
		text := strings.Split(string(f.Text), "\n")
		for _, line := range f.Lines {
			if said := strings.TrimSpace(text[line.Number-1]); line.Path == path && !slices.Contains(lines, said) {
				lines = append(lines, said)
			}
		}
		built.Files = append(built.Files, TokenOutput{f.Name, string(f.Text), append([]output.Line{}, f.Lines...)})
	}
	if way := output.Way(&o, l.sets[0], path); way != nil {
		built.Way = way
		if lines != nil {
			built.Way = append(way, output.Step{Says: "line", Lines: lines})
		}
	}
	return built, nil
}

// SaveOutput writes an output into the project file: in the place of the one whose file is
// was, or as a new one when was is empty.
func (s *Service) SaveOutput(ctx context.Context, revision int, was string, o output.Output) (TokenRevision, error) {
	return s.editOutputs(ctx, revision, "output "+o.File, func(list []output.Output) ([]output.Output, error) {
		if was == "" {
			return append(list, o), nil
		}
		i := slices.IndexFunc(list, func(other output.Output) bool { return other.File == was })
		if i < 0 {
			return nil, notFound("There is no output %q.", was)
		}
		list[i] = o
		return list, nil
	})
}

// RemoveOutput takes an output out of the project file.
func (s *Service) RemoveOutput(ctx context.Context, revision int, file string) (TokenRevision, error) {
	return s.editOutputs(ctx, revision, "output "+file+" removed", func(list []output.Output) ([]output.Output, error) {
		left := slices.DeleteFunc(slices.Clone(list), func(o output.Output) bool { return o.File == file })
		if len(left) == len(list) {
			return nil, notFound("There is no output %q.", file)
		}
		if len(left) == 0 {
			return nil, invalid(nil, "Nothing was changed: %s is the last output; restore the standard ones, or change this one.", file)
		}
		return left, nil
	})
}

// RestoreOutputs takes every output out of the project file: the standard ones stand again.
func (s *Service) RestoreOutputs(ctx context.Context, revision int) (TokenRevision, error) {
	return s.editOutputs(ctx, revision, "standard outputs", func([]output.Output) ([]output.Output, error) { return nil, nil })
}

func (s *Service) editOutputs(ctx context.Context, revision int, note string, change func([]output.Output) ([]output.Output, error)) (TokenRevision, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokenRevision{}, err
	}
	if l.state.Number != revision {
		return TokenRevision{}, staleTokens()
	}
	next := output.Project{Format: output.ProjectFormat}
	switch {
	case l.project != nil:
		next = *l.project
	case slices.ContainsFunc(l.stored, func(f store.TokenFile) bool { return f.Name == ProjectFile }):
		return TokenRevision{}, invalid(l.found, "Nothing was changed: %s has errors; mend it and drop it again.", ProjectFile)
	}
	if next.Tokens.Outputs, err = change(l.project.All()); err != nil {
		return TokenRevision{}, err
	}
	if found := output.CheckAll(next.Tokens.Outputs); found.Failed() {
		return TokenRevision{}, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	files, _ := l.with(ProjectFile, next.JSON())
	number, err := s.store.PutTokens(ctx, store.NewTokens{Read: revision, Note: note, Files: files})
	if errors.Is(err, store.ErrStale) {
		return TokenRevision{}, staleTokens()
	}
	return TokenRevision{number}, err
}
