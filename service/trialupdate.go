package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/trial"
	"cobrik/store"
)

// TrialUpdate is what another version of a component does to a page.
type TrialUpdate struct {
	Component string            `json:"component" doc:"Its slug"`
	From      string            `json:"from" doc:"The version the page uses; empty for the component at work"`
	To        string            `json:"to" doc:"Empty for the component at work"`
	Build     string            `json:"build" doc:"Names the page as it would be"`
	Props     map[string]any    `json:"props" doc:"What it would be rendered with"`
	Changes   []contract.Change `json:"changes" doc:"Of the contract"`
	trial.Update
}

// UpdateTrial tells what another version of a component would do to a page; empty for the component as it is at work.
func (s *Service) UpdateTrial(ctx context.Context, slug, component, version string) (TrialUpdate, error) {
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return TrialUpdate{}, err
	}
	return s.updateOf(ctx, row, component, version)
}

func (s *Service) updateOf(ctx context.Context, row store.TrialPage, component, version string) (TrialUpdate, error) {
	out := TrialUpdate{Component: component, To: version, Changes: []contract.Change{}}
	before, err := s.trialOf(ctx, row, nil)
	if err != nil {
		return out, err
	}
	out.From = before.pins[component]
	of, err := s.store.Component(ctx, component)
	if errors.Is(err, store.ErrNotFound) {
		return out, notFound("There is no component %q.", component)
	}
	if err != nil {
		return out, err
	}
	if version != "" {
		if _, err := s.store.ReleasedContract(ctx, of.ID, version); errors.Is(err, store.ErrNotFound) {
			return out, notFound("%s has no release %s.", of.Name, version)
		} else if err != nil {
			return out, err
		}
	}
	after, err := s.trialOf(ctx, row, map[string]string{component: version})
	if err != nil {
		return out, err
	}
	out.Build, out.Props = after.build, after.page.Contract.Given(after.page.Values)
	out.Update, err = recalled(&s.memo, fmt.Sprint("update ", before.state, " ", after.state), func() (trial.Update, error) {
		return trial.Updated(before.page, after.page, before.lib.tokens()), nil
	})
	if err != nil {
		return out, err
	}
	for i := range out.Breaks {
		out.Breaks[i].File = before.row.Name
	}
	was, is, err := s.versionsOf(ctx, of, out.From, version)
	if err != nil {
		return out, err
	}
	_, changes := ledger.Changes(was, is)
	out.Changes = append(out.Changes, changes...)
	return out, nil
}

// versionsOf reads a component's contract at two versions; empty for as it is at work.
func (s *Service) versionsOf(ctx context.Context, of store.Component, from, to string) (was, is *contract.Contract, err error) {
	read := func(version string) (*contract.Contract, error) {
		text := of.Contract
		if version != "" {
			if text, err = s.store.ReleasedContract(ctx, of.ID, version); err != nil {
				return nil, err
			}
		}
		c := new(contract.Contract)
		return c, json.Unmarshal(text, c)
	}
	if was, err = read(from); err != nil {
		return nil, nil, err
	}
	is, err = read(to)
	return was, is, err
}

// TrialReach is a page on trial that a release reaches.
type TrialReach struct {
	Slug    string       `json:"slug"`
	Name    string       `json:"name"`
	Uses    int          `json:"uses" doc:"As often as it is there"`
	Changed int          `json:"changed" doc:"Of them, that would look otherwise"`
	Breaks  problem.List `json:"breaks" doc:"What would be wrong with the page"`
}

// trialReach lists the pages on trial that use a component, with what a release of it as it is at work would do to them.
func (s *Service) trialReach(ctx context.Context, component string) ([]TrialReach, error) {
	rows, err := s.store.TrialPages(ctx)
	if err != nil {
		return nil, err
	}
	out := []TrialReach{}
	for _, row := range rows {
		pins := map[string]string{}
		if err := json.Unmarshal(row.Pins, &pins); err != nil {
			return nil, err
		}
		if _, used := pins[component]; !used {
			continue
		}
		u, err := s.updateOf(ctx, row, component, "")
		if err != nil {
			return nil, err
		}
		if n := u.Same + len(u.Changed); n > 0 || len(u.Breaks) > 0 {
			out = append(out, TrialReach{row.Slug, row.Name, n, len(u.Changed), u.Breaks})
		}
	}
	return out, nil
}

// TrialUses is a page on trial that uses a component.
type TrialUses struct {
	Slug string `json:"slug"`
	Name string `json:"name"`
	Uses int    `json:"uses" doc:"Rows"`
}

// rowsOf counts the rows of each page on trial that use each component, by its name.
func (s *Service) rowsOf(ctx context.Context) (pages []store.TrialOutline, uses []map[string]int, err error) {
	if pages, err = s.store.TrialOutlines(ctx); err != nil {
		return nil, nil, err
	}
	for _, row := range pages {
		count := map[string]int{}
		list, _ := trial.Parse(row.Outline)
		trial.Walk(list, func(r, _ *trial.Row) {
			if r.Kind == trial.UseRow {
				count[r.Head]++
			}
		})
		uses = append(uses, count)
	}
	return pages, uses, nil
}

// trialUses counts how many rows of pages on trial use each component, by its name.
func (s *Service) trialUses(ctx context.Context) (map[string]int, error) {
	_, uses, err := s.rowsOf(ctx)
	out := map[string]int{}
	for _, count := range uses {
		for name, n := range count {
			out[name] += n
		}
	}
	return out, err
}

// trialsOf lists the pages on trial that use a component.
func (s *Service) trialsOf(ctx context.Context, name string) ([]TrialUses, error) {
	pages, uses, err := s.rowsOf(ctx)
	out := []TrialUses{}
	for i, p := range pages {
		if n := uses[i][name]; n > 0 {
			out = append(out, TrialUses{p.Slug, p.Name, n})
		}
	}
	return out, err
}

// CompleteTrial lists how a row of a page's outline could go on.
func (s *Service) CompleteTrial(ctx context.Context, slug, outline string, line int, typed string) ([]trial.RowCompletion, error) {
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return nil, err
	}
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	all, err := s.store.ContentSources(ctx)
	if err != nil {
		return nil, err
	}
	asked := map[string]bool{}
	for _, r := range all {
		asked[r.Name] = true
	}
	sources, _, err := s.recordsOf(ctx, asked)
	if err != nil {
		return nil, err
	}
	pins := map[string]string{}
	pictures := map[string]contract.ImageValue{}
	if err := errors.Join(json.Unmarshal(row.Pins, &pins), json.Unmarshal(row.Pictures, &pictures)); err != nil {
		return nil, err
	}
	k := trial.Known{Tokens: l.tokens(), Sources: sources}
	for name := range pictures {
		k.Pictures = append(k.Pictures, name)
	}
	slices.Sort(k.Pictures)
	for _, h := range heads {
		o := trial.Offer{Name: h.Name, Slug: h.Slug}
		if h.Version != nil {
			o.Version = *h.Version
		}
		k.Offers = append(k.Offers, o)
	}
	var failed error
	k.Component = func(name string) *contract.Contract {
		used, err := s.usedIn(ctx, name, pins)
		if err != nil {
			failed = err
		}
		if used == nil {
			return nil
		}
		return used.contract
	}
	return trial.Complete(outline, line, typed, k), failed
}
