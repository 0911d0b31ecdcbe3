package service

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/trial"
	"cobrik/store"
)

// AddTrial begins a page that nobody drew.
func (s *Service) AddTrial(ctx context.Context, name string) (TrialPage, error) {
	name = strings.TrimSpace(name)
	slug := contract.Slug(name)
	if slug == "" {
		return TrialPage{}, invalid(nil, "Give the page a name, as in Plots.")
	}
	err := s.store.AddTrialPages(ctx, store.NewTrialPage{Slug: slug, Name: name, Widths: usualWidths, TrialState: store.TrialState{Outline: "stack gap=16px\n", Pins: []byte("{}"), Pictures: []byte("{}"), Needs: []byte("[]"), Step: "begun"}})
	if errors.Is(err, store.ErrTaken) {
		return TrialPage{}, &Failure{Kind: Conflict, Message: "There is a page " + name + " already. Give this one another name."}
	}
	if err != nil {
		return TrialPage{}, err
	}
	return s.Trial(ctx, slug)
}

// longestOutline bounds an outline, bytes.
const longestOutline = 2 << 20

// EditTrial keeps another outline of a page. Components that it did not use before are used at their newest release.
func (s *Service) EditTrial(ctx context.Context, slug string, revision int, outline, step string) (TrialPage, error) {
	if len(outline) > longestOutline {
		return TrialPage{}, &Failure{Kind: TooLarge, Message: fmt.Sprintf("An outline is %d MB at most.", longestOutline>>20)}
	}
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return TrialPage{}, err
	}
	next := row.TrialState
	next.Outline, next.Step = outline, cmp.Or(step, "edited")
	if next.Pins, err = s.pinned(ctx, row.Pins, outline); err != nil {
		return TrialPage{}, err
	}
	// What is typed in one row without a rest is one step.
	goesOn := step != "" && step == row.Step && row.RedoTo == nil && time.Since(row.Updated) < typingRest
	if _, err := s.store.EditTrial(ctx, slug, revision, next, goesOn); err != nil {
		return TrialPage{}, trialFailure(err, slug)
	}
	w, err := s.trial(ctx, slug)
	if err != nil {
		return TrialPage{}, err
	}
	go s.buildPage(madePage{w.page, w.lib, w.build}) // frames ask for it as soon as they hear of it
	return s.trialView(ctx, w)
}

// typingRest is how long nothing is typed in a row before more of it is a step of its own.
const typingRest = 20 * time.Second

func trialFailure(err error, slug string) error {
	switch {
	case errors.Is(err, store.ErrStale):
		return &Failure{Kind: Conflict, Message: "Somebody else edited the page meanwhile. It is read again; do it once more."}
	case errors.Is(err, store.ErrNotFound):
		return notFound("There is no page on trial %q.", slug)
	}
	return err
}

// pinned gives the pins of a page with an outline: what it uses for the first time is at its newest release.
func (s *Service) pinned(ctx context.Context, was []byte, outline string) ([]byte, error) {
	pins := map[string]string{}
	if err := json.Unmarshal(was, &pins); err != nil {
		return nil, err
	}
	rows, _ := trial.Parse(outline)
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	byName := map[string]store.Head{}
	for _, h := range heads {
		byName[h.Name] = h
	}
	var pin func(name string)
	pin = func(name string) {
		h, known := byName[name]
		if !known {
			return
		}
		if _, already := pins[h.Slug]; already {
			return
		}
		pins[h.Slug] = ""
		if h.Version != nil {
			pins[h.Slug] = *h.Version
		}
		for _, inside := range h.Uses {
			pin(inside)
		}
	}
	for _, name := range trial.Components(rows) {
		pin(name)
	}
	return json.Marshal(pins)
}

// PinTrial uses another version of a component on a page: empty for the component as it is at work.
func (s *Service) PinTrial(ctx context.Context, slug string, revision int, component, version string) (TrialPage, error) {
	row, err := s.trialRow(ctx, slug)
	if err != nil {
		return TrialPage{}, err
	}
	pins := map[string]string{}
	if err := json.Unmarshal(row.Pins, &pins); err != nil {
		return TrialPage{}, err
	}
	of, err := s.store.Component(ctx, component)
	if errors.Is(err, store.ErrNotFound) {
		return TrialPage{}, notFound("There is no component %q.", component)
	}
	if err != nil {
		return TrialPage{}, err
	}
	if version != "" {
		if _, err := s.store.ReleasedContract(ctx, of.ID, version); errors.Is(err, store.ErrNotFound) {
			return TrialPage{}, notFound("%s has no release %s.", of.Name, version)
		} else if err != nil {
			return TrialPage{}, err
		}
	}
	pins[component] = version
	next := row.TrialState
	if next.Pins, err = json.Marshal(pins); err != nil {
		return TrialPage{}, err
	}
	next.Step = of.Name + " " + cmp.Or(version, "at work")
	if _, err := s.store.EditTrial(ctx, slug, revision, next, false); err != nil {
		return TrialPage{}, trialFailure(err, slug)
	}
	return s.Trial(ctx, slug)
}

// UndoTrial undoes the last edit of a page, or redoes what was undone last.
func (s *Service) UndoTrial(ctx context.Context, slug string, revision int, to store.Direction) (TrialPage, error) {
	if _, err := s.store.UndoTrial(ctx, slug, revision, to); errors.Is(err, store.ErrNotFound) {
		return TrialPage{}, invalid(nil, "There is nothing to %s.", to)
	} else if err != nil {
		return TrialPage{}, trialFailure(err, slug)
	}
	return s.Trial(ctx, slug)
}

// LookTrial chooses the widths that a page is looked at.
func (s *Service) LookTrial(ctx context.Context, slug string, widths []float64) (TrialPage, error) {
	out := []float64{}
	for _, w := range widths {
		if !(w >= 120 && w <= 3840) {
			return TrialPage{}, invalid(nil, "A width is from 120 to 3840 px.")
		}
		if !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	if len(out) == 0 || len(out) > 6 {
		return TrialPage{}, invalid(nil, "Choose one to six widths.")
	}
	slices.SortFunc(out, func(a, b float64) int { return cmp.Compare(b, a) })
	if err := s.store.LookTrial(ctx, slug, out); err != nil {
		return TrialPage{}, trialFailure(err, slug)
	}
	return s.Trial(ctx, slug)
}

// RemoveTrial takes a page away.
func (s *Service) RemoveTrial(ctx context.Context, slug string) error {
	return trialFailure(s.store.RemoveTrial(ctx, slug), slug)
}
