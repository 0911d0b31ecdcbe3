package service

import (
	"context"
	"fmt"
	"strings"

	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/react"
	"cobrik/core/trial"
)

// madePage is a page that was made, with what it is written with. Pages that say other words are one build.
type madePage struct {
	page  *trial.Page
	lib   *library
	build string
}

// BuildTrial compiles a page, or as it would be with another version of a component: slug@version, slug@ for the component at work. A
// build that is named is compiled as it was made, though the page is another meanwhile: whoever types is ahead of what is shown.
func (s *Service) BuildTrial(ctx context.Context, slug, with, build string) (Built, error) {
	made, known := recall[madePage](&s.memo, s.trialKey(build))
	if !known {
		row, err := s.trialRow(ctx, slug)
		if err != nil {
			return Built{}, err
		}
		w, err := s.trialOf(ctx, row, withVersion(with))
		if err != nil {
			return Built{}, err
		}
		made = madePage{w.page, w.lib, w.build}
	}
	return s.buildPage(made), nil
}

// buildPage compiles a page, once.
func (s *Service) buildPage(made madePage) Built {
	out, _ := recalled(&s.memo, fmt.Sprint("trial built ", s.store.Scope.Project, " ", made.build), func() (Built, error) {
		bundle, found := compile.React(react.Emit(made.page.Contract, made.lib.customProperties(), react.Options{Forced: true}))
		return Built{Name: made.page.Contract.Name, Build: made.build, Bundle: bundle, Problems: found}, nil
	})
	return out
}

// trialKey names what a build of a page is remembered by.
func (s *Service) trialKey(build string) string {
	return fmt.Sprint("trial ", s.store.Scope.Project, " ", build)
}

// withVersion reads what version of what component is asked for.
func withVersion(with string) map[string]string {
	component, version, ok := strings.Cut(with, "@")
	if !ok {
		return nil
	}
	return map[string]string{component: version}
}

// TrialFiles are a page's files as code: itself, what it uses, and the records it shows.
func (s *Service) TrialFiles(ctx context.Context, slug string) ([]emit.File, error) {
	w, err := s.trial(ctx, slug)
	if err != nil {
		return nil, err
	}
	w.world.Lifted = false // as people write it
	page := trial.Compile(w.world, w.rows)
	files := react.Emit(page.Contract, w.lib.customProperties(), react.Options{})
	return append(files, react.Filled(page.Contract, page.Values)), nil
}
