package service

import (
	"archive/zip"
	"bytes"
	"cobrik/core/design"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/Masterminds/semver/v3"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/react"
	"cobrik/core/ledger"
	"cobrik/core/problem"
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
	for i, f := range files {
		if path.Ext(f.Path) == ".png" {
			files[i].Content = "data:image/png;base64," + base64.StdEncoding.EncodeToString([]byte(f.Content))
		}
	}
	return files, err
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
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range files {
		w, err := z.Create(slug + "/" + f.Path)
		if err != nil {
			return nil, err
		}
		if _, err := w.Write([]byte(f.Content)); err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil { // writes the directory
		return nil, err
	}
	return b.Bytes(), nil
}

// Built is a component compiled for the preview.
type Built struct {
	Name     string
	Build    string
	Bundle   compile.Bundle
	Problems problem.List // why it did not compile
	Files    []emit.File
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

// Entry is a component in the catalogue.
type Entry struct {
	Slug     string    `json:"slug"`
	Name     string    `json:"name"`
	Purpose  string    `json:"purpose"`
	Shelf    string    `json:"shelf"`
	Status   string    `json:"status" enum:"draft,released"`
	Version  string    `json:"version"`
	Picture  string    `json:"picture" doc:"The default variant as drawn, SVG"`
	Width    float64   `json:"width"`
	Height   float64   `json:"height"`
	Props    []string  `json:"props"`
	Cases    int       `json:"cases"`
	Waiting  int       `json:"waiting" doc:"Moves of the design nobody has decided"`
	Measured bool      `json:"measured" doc:"The built side was measured as it is now"`
	Differs  int       `json:"differs" doc:"Facts that differ, of those measured"`
	Facts    int       `json:"facts"`
	Uses     int       `json:"uses" doc:"Instances on the design's pages"`
	Updated  time.Time `json:"updated"`
}

// Entries lists all components, drafts too.
func (s *Service) Entries(ctx context.Context) ([]Entry, error) {
	all, err := s.standingsNow(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Summaries(ctx)
	if err != nil {
		return nil, err
	}
	measured := map[int64]store.Summary{}
	for _, m := range rows {
		measured[m.Component] = m
	}
	out := []Entry{}
	for _, c := range all {
		e := Entry{Slug: c.Slug, Name: c.Name, Purpose: c.purpose, Shelf: c.Shelf, Status: "draft", Picture: c.picture, Width: c.size.Width, Height: c.size.Height,
			Props: c.props, Cases: c.cases, Waiting: c.waiting(), Uses: c.uses, Updated: c.Updated}
		if c.Version != nil {
			e.Status, e.Version = "released", *c.Version
		}
		if m, ok := measured[c.ID]; ok && m.Build == c.build {
			e.Measured, e.Differs, e.Facts = true, m.Differing, m.Facts
		}
		out = append(out, e)
	}
	return out, nil
}

// ReleaseView is a version in a component's history.
type ReleaseView struct {
	Version  string            `json:"version"`
	Level    string            `json:"level"`
	Note     string            `json:"note"`
	Changes  []contract.Change `json:"changes"`
	Released time.Time         `json:"released"`
}

// Releases lists a component's releases, newest first.
func (s *Service) Releases(ctx context.Context, slug string) ([]ReleaseView, error) {
	row, err := s.store.Component(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("There is no component %q.", slug)
	}
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Releases(ctx, row.ID)
	out := []ReleaseView{}
	for _, r := range rows {
		one := ReleaseView{r.Version, r.Level, r.Note, []contract.Change{}, r.Released}
		if err := json.Unmarshal(r.Changes, &one.Changes); err != nil {
			return nil, err
		}
		out = append(out, one)
	}
	return out, err
}

// ReleasePlan is what a release would be.
type ReleasePlan struct {
	Version string            `json:"version" doc:"The next version by Semantic Versioning"`
	Level   contract.Level    `json:"level" enum:"none,patch,minor,major"`
	Changes []contract.Change `json:"changes" doc:"Since the newest release"`
	First   bool              `json:"first"`
	Replays int               `json:"replays" doc:"Scenarios that were replayed"`
	Fails   []string          `json:"fails" doc:"What keeps it from being released: expectations of scenarios that nobody set aside"`
}

// PlanRelease computes the next version from what changed.
func (s *Service) PlanRelease(ctx context.Context, slug string) (ReleasePlan, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return ReleasePlan{}, err
	}
	plan, err := s.plan(ctx, w, w.contract)
	if err != nil {
		return plan, err
	}
	plan.Replays = len(w.contract.Scenarios)
	plan.Fails, err = s.failing(ctx, w)
	return plan, err
}

// failing lists what is not as scenarios expect and nobody set aside.
func (s *Service) failing(ctx context.Context, w *component) ([]string, error) {
	out := []string{}
	aside, err := s.asides(ctx, w.row.ID)
	if err != nil {
		return nil, err
	}
	found, err := s.findings(w)
	for _, f := range found {
		if f.Rule == check.Scenario && aside[f.Key] == "" {
			out = append(out, sentence(f.Message))
		}
	}
	return out, err
}

func (s *Service) plan(ctx context.Context, w *component, now *contract.Contract) (ReleasePlan, error) {
	rows, err := s.store.Releases(ctx, w.row.ID)
	if err != nil {
		return ReleasePlan{}, err
	}
	if len(rows) == 0 {
		return ReleasePlan{Version: "1.0.0", Level: contract.Major, Changes: []contract.Change{}, First: true, Fails: []string{}}, nil
	}
	var old contract.Contract
	if err := json.Unmarshal(rows[0].Contract, &old); err != nil {
		return ReleasePlan{}, err
	}
	level, changes := ledger.Changes(&old, now)
	next, err := nextVersion(rows[0].Version, level)
	return ReleasePlan{Version: next, Level: level, Changes: append([]contract.Change{}, changes...), Fails: []string{}}, err
}

func nextVersion(version string, level contract.Level) (string, error) {
	v, err := semver.StrictNewVersion(version)
	if err != nil {
		return "", err
	}
	next := *v
	switch level {
	case contract.Major:
		next = v.IncMajor()
	case contract.Minor:
		next = v.IncMinor()
	case contract.Patch:
		next = v.IncPatch()
	}
	return next.String(), nil
}

// Release publishes the contract as it was read.
func (s *Service) Release(ctx context.Context, slug string, revision int, shelf, note string) (ReleasePlan, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return ReleasePlan{}, err
	}
	shelf = strings.TrimSpace(shelf)
	if shelf == "" && w.row.Shelf == "" {
		return ReleasePlan{}, invalid(nil, "Say which shelf it stands on.")
	}
	plan, err := s.plan(ctx, w, w.contract)
	if err != nil {
		return plan, err
	}
	if plan.Level == contract.None {
		return plan, invalid(nil, "Nothing changed since %s.", plan.Version)
	}
	fails, err := s.failing(ctx, w)
	if err != nil {
		return plan, err
	}
	if len(fails) > 0 {
		return plan, invalid(nil, "%s Mend it, or set it aside with a reason.", fails[0])
	}
	_, err = s.apply(ctx, w, nil, store.Edit{Slug: slug, Read: revision, Release: &store.NewRelease{
		Version: plan.Version, Shelf: shelf, Level: string(plan.Level), Note: strings.TrimSpace(note), Changes: plan.Changes}})
	return plan, err
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
	for _, doc := range read {
		out.Survey += survey.WithoutComponent(doc, drafted[doc.ID])
	}
	check, err := s.store.LastCheck(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	out.Check = &CheckView{check.Name, check.Facts, check.Differing, check.Taken}
	return out, err
}
