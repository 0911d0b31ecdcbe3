package service

import (
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/react"
	"cobrik/core/problem"
	"cobrik/core/publish"
	"cobrik/core/survey"
	"cobrik/store"
)

// Files emits a component's code.
func (s *Service) Files(ctx context.Context, slug string) ([]emit.File, error) {
	w, err := s.looked(ctx, slug)
	if err != nil {
		return nil, err
	}
	return w.files(), nil
}

// Listing is Files as a page can show them: a picture that is no text is the address that holds it (RFC
// 2397).
func (s *Service) Listing(ctx context.Context, slug string) ([]emit.File, error) {
	files, err := s.Files(ctx, slug)
	return shownFiles(files), err
}

// shownFiles gives files as a page can show them.
func shownFiles(files []emit.File) []emit.File {
	for i, f := range files {
		if path.Ext(f.Path) == ".png" {
			files[i].Content = "data:image/png;base64," + base64.StdEncoding.EncodeToString([]byte(f.Content))
		}
	}
	return files
}

func (w *component) files() []emit.File {
	version := ""
	if w.row.Version != nil {
		version = *w.row.Version
	}
	return react.Emit(w.contract, w.library.customProperties(), react.Options{Version: version})
}

// Zip packs a component's code into an archive with one folder.
func (s *Service) Zip(ctx context.Context, slug string) ([]byte, error) {
	files, err := s.Files(ctx, slug)
	if err != nil {
		return nil, err
	}
	return publish.Zip(slug, files)
}

// Built is a component compiled for the preview.
type Built struct {
	Name     string
	Build    string
	Bundle   compile.Bundle
	Problems problem.List // why it did not compile
	Files    []emit.File
}

// Script is what a page runs: the component, handed to what runs it.
func (b Built) Script() string {
	return fmt.Sprintf("%s\nglobalThis.cobrikRun(globalThis.cobrikComponent[%q]);\n", b.Bundle.JS, b.Name)
}

// Build compiles a component's code as it is now, with a style sheet in which every state can
// be shown.
func (s *Service) Build(ctx context.Context, slug string) (Built, error) {
	w, err := s.looked(ctx, slug)
	if err != nil {
		return Built{}, err
	}
	return w.built(), nil
}

func (w *component) built() Built {
	files := w.files()
	bundle, found := compile.React(react.Emit(w.contract, w.library.customProperties(), react.Options{Forced: true}))
	return Built{Name: w.contract.Name, Build: w.build, Bundle: bundle, Problems: found, Files: files}
}

// Project is the frame's state: names, counts, the last check.
type Project struct {
	Name      string     `json:"name"`
	Address   string     `json:"address" doc:"Its part of the application's addresses"`
	Preview   string     `json:"preview" doc:"Where its components run, on the preview origin"`
	Sources   int        `json:"sources" doc:"Design documents and token files"`
	Survey    int        `json:"survey" doc:"Families without a component"`
	Tokens    int        `json:"tokens"`
	Bench     int        `json:"bench" doc:"Drafts not released yet"`
	Troubled  int        `json:"troubled" doc:"Components with errors that nobody set aside"`
	Catalogue int        `json:"catalogue" doc:"Released components"`
	Sync      int        `json:"sync" doc:"Moves nobody has decided"`
	Trial     int        `json:"trial" doc:"Pages on trial"`
	Design    string     `json:"design" doc:"Design revision in use, in words"`
	Host      HostState  `json:"host"`
	Check     *CheckView `json:"check,omitempty"`
}

// CheckView is the newest measurement.
type CheckView struct {
	Name    string    `json:"name"`
	Facts   int       `json:"facts"`
	Differs int       `json:"differs"`
	Taken   time.Time `json:"taken"`
}

// Project reads the frame's state.
func (s *Service) Project(ctx context.Context) (Project, error) {
	p, err := s.store.Project(ctx)
	if err != nil {
		return Project{}, err
	}
	out := Project{Name: p.Name, Address: p.Address}
	if out.Host, err = s.hostState(ctx); err != nil {
		return out, err
	}
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return out, err
	}
	var words []string
	var read []*design.Document
	for _, d := range docs {
		words = append(words, fmt.Sprintf("%s revision %d", d.Name, d.Latest))
		if doc, _, err := s.document(ctx, d.ID); err == nil {
			read = append(read, doc)
		}
	}
	out.Design = strings.Join(words, ", ")
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	out.Sources, out.Tokens = len(docs)+len(l.stored), len(l.sets[0].All())
	all, err := s.standingsNow(ctx)
	if err != nil {
		return out, err
	}
	asides, err := s.store.Asides(ctx)
	if err != nil {
		return out, err
	}
	drafted := map[string]map[string]bool{}
	for _, c := range all {
		if slices.ContainsFunc(c.errors, func(key string) bool {
			return !slices.ContainsFunc(asides, func(a store.Aside) bool { return a.Component == c.ID && a.Finding == key })
		}) {
			out.Troubled++
		}
		if drafted[c.Document] == nil {
			drafted[c.Document] = map[string]bool{}
		}
		drafted[c.Document][c.SourceID] = true
		out.Sync += c.waiting()
		if c.Version == nil {
			out.Bench++
		} else {
			out.Catalogue++
		}
	}
	code, err := s.Code(ctx)
	var down *Failure // a repository that is not there keeps nobody from the rest
	if err != nil && !errors.As(err, &down) {
		return out, err
	}
	for _, c := range code.Components {
		out.Sync += c.Waiting
	}
	for _, t := range code.Tokens.List {
		if t.waits() {
			out.Sync++
		}
	}
	for _, doc := range read {
		out.Survey += survey.WithoutComponent(doc, drafted[doc.ID])
	}
	if out.Trial, err = s.store.TrialCount(ctx); err != nil {
		return out, err
	}
	check, err := s.store.LastCheck(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	out.Check = &CheckView{check.Name, check.Facts, check.Differing, check.Taken}
	return out, err
}
