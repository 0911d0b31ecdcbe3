package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"slices"
	"time"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/primitive"
	"cobrik/store"
)

// Statuses of a component.
const (
	draftStatus      = "draft"
	reviewStatus     = "in review"
	releasedStatus   = "released"
	deprecatedStatus = "deprecated"
)

// statusOf is a component's status: what is deprecated is so until it is taken back, what is released may be in review again.
func statusOf(h store.Head) string {
	switch {
	case h.Obsolete != nil:
		return deprecatedStatus
	case h.Review:
		return reviewStatus
	case h.Version != nil:
		return releasedStatus
	}
	return draftStatus
}

// Entry is a component in the catalogue.
type Entry struct {
	Slug       string         `json:"slug"`
	Name       string         `json:"name"`
	Purpose    string         `json:"purpose"`
	Shelf      string         `json:"shelf"`
	Status     string         `json:"status" enum:"draft,in review,released,deprecated"`
	Deprecated string         `json:"deprecated" doc:"Why the newest release is not to be used, and what is instead; empty for one that is"`
	Version    string         `json:"version" doc:"The newest release; empty for none"`
	Drawn      bool           `json:"drawn" doc:"The design has a drawing of it"`
	Width      float64        `json:"width" doc:"px, of the case that is looked at first"`
	Height     float64        `json:"height"`
	Fills      bool           `json:"fills" doc:"It fills its container's width"`
	Build      string         `json:"build" doc:"Names what is compiled"`
	Shown      map[string]any `json:"shown" doc:"The props it is looked at with"`
	Props      []string       `json:"props"`
	Cases      int            `json:"cases"`
	Waiting    int            `json:"waiting" doc:"Moves of the design nobody has decided"`
	Measured   bool           `json:"measured" doc:"The built side was measured as it is now"`
	Differs    int            `json:"differs" doc:"Facts that differ, of those measured"`
	Facts      int            `json:"facts"`
	Errors     int            `json:"errors" doc:"Of the review, that nobody set aside"`
	Warnings   int            `json:"warnings"`
	Uses       int            `json:"uses" doc:"Instances on the design's pages"`
	Trials     int            `json:"trials" doc:"Rows of pages on trial that use it"`
	UsedBy     int            `json:"usedBy" doc:"Components that use it themselves"`
	InCode     string         `json:"inCode" enum:",in step,moved,missing,not read" doc:"How the repository has it; empty where none is read"`
	InCodeWait int            `json:"inCodeWait" doc:"Moves of the repository's code that nobody decided"`
	Updated    time.Time      `json:"updated"`
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
	asides, err := s.store.Asides(ctx)
	if err != nil {
		return nil, err
	}
	aside := map[int64]map[string]bool{}
	for _, a := range asides {
		if aside[a.Component] == nil {
			aside[a.Component] = map[string]bool{}
		}
		aside[a.Component][a.Finding] = true
	}
	users := map[string]int{}
	for _, c := range all {
		used := map[string]bool{}
		for _, name := range c.Head.Uses {
			if !used[name] {
				used[name] = true
				users[name]++
			}
		}
	}
	tried, err := s.trialUses(ctx)
	if err != nil {
		return nil, err
	}
	code, err := s.Code(ctx)
	var down *Failure // a repository that is not there keeps nobody from the list
	if err != nil && !errors.As(err, &down) {
		return nil, err
	}
	inCode := map[string]CodeComponent{}
	for _, c := range code.Components {
		inCode[c.Slug] = c
	}
	out := []Entry{}
	for _, c := range all {
		e := Entry{Slug: c.Slug, Name: c.Name, Purpose: c.purpose, Shelf: c.Shelf, Status: statusOf(c.Head), Drawn: c.picture != "", Width: c.size.Width, Height: c.size.Height,
			Fills: c.fills, Build: c.build, Shown: c.shown, Props: c.props, Cases: c.cases, Waiting: c.waiting(), Uses: c.uses, Trials: tried[c.Name], UsedBy: users[c.Name], Updated: c.Updated}
		if held, moved := inCode[c.Slug]; moved {
			e.InCode, e.InCodeWait = held.State, held.Waiting
		} else if code.Target {
			e.InCode = inStep
		}
		if c.Version != nil {
			e.Version = *c.Version
		}
		if c.Obsolete != nil {
			var d contract.Deprecation
			if err := json.Unmarshal(c.Obsolete, &d); err != nil {
				return nil, err
			}
			e.Deprecated = d.String()
		}
		if m, ok := measured[c.ID]; ok && m.Build == c.build {
			e.Measured, e.Differs, e.Facts = true, m.Differing, m.Facts
		}
		e.Errors, e.Warnings = standingStill(c.errors, aside[c.ID]), standingStill(c.warnings, aside[c.ID])
		out = append(out, e)
	}
	return out, nil
}

// standingStill counts the findings that nobody set aside.
func standingStill(keys []string, aside map[string]bool) (n int) {
	for _, key := range keys {
		if !aside[key] {
			n++
		}
	}
	return n
}

// DrawnPicture is a component as the design draws it.
type DrawnPicture struct {
	Picture string  `json:"picture" doc:"SVG; empty for one that is not drawn"`
	Width   float64 `json:"width"`
	Height  float64 `json:"height"`
}

// Drawn gives the default variant of a component as drawn.
func (s *Service) Drawn(ctx context.Context, slug string) (DrawnPicture, error) {
	w, err := s.component(ctx, slug)
	if err != nil || w.family == nil {
		return DrawnPicture{}, err
	}
	root := w.family.Default().Root
	return DrawnPicture{w.doc.Draw(root), root.Bounds.Width, root.Bounds.Height}, nil
}

// CatalogueHit is a component, or a layout primitive, that has every word asked for, and where these stand.
type CatalogueHit struct {
	Slug string             `json:"slug"`
	Why  []catalogue.Reason `json:"why" doc:"For each word, where it stands"`
}

// Search ranks what has every word in its name, purpose, shelf, props, options, states, parts, tokens and texts, or a word
// of the trade for what it is.
func (s *Service) Search(ctx context.Context, words string) ([]CatalogueHit, error) {
	x, err := s.index(ctx)
	if err != nil {
		return nil, err
	}
	out := []CatalogueHit{}
	for _, h := range x.Find(words) {
		out = append(out, CatalogueHit{contract.Slug(x.Names[h.Component]), h.Why})
	}
	return out, nil
}

// index is what the catalogue is searched by.
func (s *Service) index(ctx context.Context) (*catalogue.Index, error) {
	all, err := s.standingsNow(ctx)
	if err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	state := fnv.New128a()
	for _, c := range all {
		fmt.Fprintf(state, "%s\x00%s\x00%s\n", c.Slug, c.Shelf, c.build)
	}
	return recalled(&s.memo, fmt.Sprintf("index %s %x", l.name(), state.Sum(nil)), func() (*catalogue.Index, error) {
		var names []string
		var terms [][]catalogue.Term
		taken := map[string]bool{}
		for _, c := range all {
			taken[c.Slug] = true
			names, terms = append(names, c.Name), append(terms, slices.Concat(c.terms, catalogue.ShelfTerms(c.Shelf)))
		}
		for _, c := range primitive.Contracts(l.tokens()) {
			if !taken[contract.Slug(c.Name)] {
				names, terms = append(names, c.Name), append(terms, catalogue.Terms(c))
			}
		}
		return catalogue.NewIndex(names, terms), nil
	})
}
