package service

import (
	"context"
	"errors"
	"slices"

	"cobrik/core/problem"
	"cobrik/core/token/platform"
	"cobrik/store"
)

// PlatformsView is what tokens can be written for.
type PlatformsView struct {
	Revision   int                  `json:"revision"`
	Platforms  []PlatformView       `json:"platforms"`
	Transforms []platform.Transform `json:"transforms" doc:"All there are"`
}

// PlatformView is one platform.
type PlatformView struct {
	platform.Platform
	Own bool `json:"own" doc:"The project file defines it; else it is a standard one"`
}

// Platforms lists the project's platforms and the standard ones.
func (s *Service) Platforms(ctx context.Context) (PlatformsView, error) {
	l, err := s.library(ctx)
	if err != nil {
		return PlatformsView{}, err
	}
	out := PlatformsView{Revision: l.state.Number, Platforms: []PlatformView{}, Transforms: platform.Transforms()}
	for _, p := range inOrder(l.project) {
		if p.Transforms == nil {
			p.Transforms = []string{}
		}
		own := l.project != nil && slices.ContainsFunc(l.project.Tokens.Platforms, func(o platform.Platform) bool { return o.Name == p.Name })
		out.Platforms = append(out.Platforms, PlatformView{p, own})
	}
	return out, nil
}

// inOrder lists platforms with the standard ones where one looks for them.
func inOrder(project *platform.Project) []platform.Platform {
	all := project.All()
	rank := func(p platform.Platform) int {
		i := slices.IndexFunc(platform.Standard(), func(s platform.Platform) bool { return s.Name == p.Name })
		if i < 0 {
			return 100
		}
		return i
	}
	slices.SortStableFunc(all, func(a, b platform.Platform) int { return rank(a) - rank(b) })
	return all
}

// BuiltTokens is what a platform would write.
type BuiltTokens struct {
	Files    []TokenOutput   `json:"files"`
	Steps    []platform.Step `json:"steps" doc:"What each transform does to the token asked for"`
	Problems problem.List    `json:"problems"`
}

// TokenOutput is one file.
type TokenOutput struct {
	Name string `json:"name"`
	Text string `json:"text"`
}

// BuildTokens writes a platform as it is given, kept or not, for every theme,
// and shows step by step what becomes of one token.
func (s *Service) BuildTokens(ctx context.Context, p platform.Platform, path string) (BuiltTokens, error) {
	out := BuiltTokens{Files: []TokenOutput{}, Steps: []platform.Step{}}
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	files, found := platform.Build(&p, l.library, l.themes)
	out.Problems = listed(found)
	for _, f := range files {
		out.Files = append(out.Files, TokenOutput{f.Name, string(f.Text)})
	}
	if t := l.find(path); t != nil && len(p.Check()) == 0 {
		out.Steps = listedSteps(platform.Trace(&p, t))
	}
	return out, nil
}

// SavePlatform writes a platform into the project file.
func (s *Service) SavePlatform(ctx context.Context, state int, p platform.Platform) (TokenRevision, error) {
	if found := p.Check(); found.Failed() {
		return TokenRevision{}, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	return s.editProject(ctx, state, "platform "+p.Name, func(list []platform.Platform) []platform.Platform {
		for i := range list {
			if list[i].Name == p.Name {
				list[i] = p
				return list
			}
		}
		return append(list, p)
	})
}

// ForgetPlatform takes a platform out of the project file; a standard one is as
// it was shipped again.
func (s *Service) ForgetPlatform(ctx context.Context, state int, name string) (TokenRevision, error) {
	return s.editProject(ctx, state, "platform "+name+" as shipped", func(list []platform.Platform) []platform.Platform {
		return slices.DeleteFunc(list, func(p platform.Platform) bool { return p.Name == name })
	})
}

func (s *Service) editProject(ctx context.Context, state int, note string, change func([]platform.Platform) []platform.Platform) (TokenRevision, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokenRevision{}, err
	}
	next := platform.Project{Format: platform.ProjectFormat}
	if l.project != nil {
		next = *l.project
	}
	next.Tokens.Platforms = change(slices.Clone(next.Tokens.Platforms))
	files, _ := l.with(projectFile, next.JSON())
	number, err := s.store.PutTokens(ctx, store.NewTokens{Read: state, Note: note, Files: files})
	if errors.Is(err, store.ErrStale) {
		return TokenRevision{}, staleTokens()
	}
	return TokenRevision{number}, err
}
