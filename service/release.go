package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/Masterminds/semver/v3"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/emit/react"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/core/survey"
	"cobrik/store"
)

// ReleaseView is a version in a component's history.
type ReleaseView struct {
	Version  string                    `json:"version"`
	Level    string                    `json:"level"`
	Told     []contract.Block          `json:"told" doc:"The changelog, rich text"`
	Changes  []contract.Change         `json:"changes"`
	Steps    []catalogue.MigrationStep `json:"steps" doc:"What users change in their code, coming from the version before"`
	Before   string                    `json:"before" doc:"The version before; empty for none"`
	Released time.Time                 `json:"released"`
	By       string                    `json:"by"`
}

// Releases lists a component's releases, newest first.
func (s *Service) Releases(ctx context.Context, slug string) ([]ReleaseView, error) {
	rows, err := s.releasesOf(ctx, slug)
	out := []ReleaseView{}
	for i, r := range rows {
		one := ReleaseView{Version: r.Version, Level: r.Level, Told: toldIn(r.Note), Changes: []contract.Change{}, Steps: []catalogue.MigrationStep{}, Released: r.Released, By: r.By}
		if err := json.Unmarshal(r.Changes, &one.Changes); err != nil {
			return nil, err
		}
		if i+1 < len(rows) {
			one.Before = rows[i+1].Version
			steps, err := migration(rows[i+1], r)
			if err != nil {
				return nil, err
			}
			one.Steps = append(one.Steps, steps...)
		}
		out = append(out, one)
	}
	return out, err
}

// toldIn reads what people wrote, CommonMark, as rich text; as plain text what cannot be kept as such.
func toldIn(text string) []contract.Block {
	v, err := contract.ReadRich(text)
	if err != nil {
		v = contract.Plain(text)
	}
	return append([]contract.Block{}, v...)
}

func (s *Service) releasesOf(ctx context.Context, slug string) ([]store.Release, error) {
	row, err := s.store.Component(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("There is no component %q.", slug)
	}
	if err != nil {
		return nil, err
	}
	return s.store.Releases(ctx, row.ID)
}

func migration(from, to store.Release) ([]catalogue.MigrationStep, error) {
	var old, now contract.Contract
	if err := errors.Join(json.Unmarshal(from.Contract, &old), json.Unmarshal(to.Contract, &now)); err != nil {
		return nil, err
	}
	return catalogue.Migration(&old, &now), nil
}

// Upgrade is how code goes from one version of a component to a later one.
type Upgrade struct {
	From    string                    `json:"from"`
	To      string                    `json:"to"`
	Steps   []catalogue.MigrationStep `json:"steps"`
	Level   contract.Level            `json:"level" enum:"none,patch,minor,major"`
	Changes []contract.Change         `json:"changes"`
	Program string                    `json:"program" doc:"Rewrites React code where it is mechanical, for Node; empty where nothing is to be done"`
}

// Upgrade tells what users of a component do to come from one version to another.
func (s *Service) Upgrade(ctx context.Context, slug, from, to string) (Upgrade, error) {
	rows, err := s.releasesOf(ctx, slug)
	if err != nil {
		return Upgrade{}, err
	}
	at := func(version string) int {
		return slices.IndexFunc(rows, func(r store.Release) bool { return r.Version == version })
	}
	a, b := at(from), at(to)
	if a < 0 || b < 0 {
		return Upgrade{}, notFound("It has no release %s.", map[bool]string{true: from, false: to}[a < 0])
	}
	if a <= b {
		return Upgrade{}, invalid(nil, "%s is no later version than %s.", to, from)
	}
	var old, now contract.Contract
	if err := errors.Join(json.Unmarshal(rows[a].Contract, &old), json.Unmarshal(rows[b].Contract, &now)); err != nil {
		return Upgrade{}, err
	}
	out := Upgrade{From: from, To: to, Steps: append([]catalogue.MigrationStep{}, catalogue.Migration(&old, &now)...)}
	out.Level, out.Changes = ledger.Changes(&old, &now)
	out.Changes = append([]contract.Change{}, out.Changes...)
	out.Program = react.Upgrade(old.Name, from, to, out.Steps)
	return out, nil
}

// ReleasePlan is what a release would be.
type ReleasePlan struct {
	Version   string                    `json:"version" doc:"The next version by Semantic Versioning"`
	Level     contract.Level            `json:"level" enum:"none,patch,minor,major"`
	Why       string                    `json:"why" doc:"The change that asks for that level; empty for a first release"`
	Changes   []contract.Change         `json:"changes" doc:"Since the newest release"`
	Steps     []catalogue.MigrationStep `json:"steps" doc:"What users change in their code"`
	First     bool                      `json:"first"`
	Replays   int                       `json:"replays" doc:"Scenarios that were replayed"`
	Open      []Checked                 `json:"open" doc:"What keeps it from being released: findings that are neither mended nor set aside with a reason"`
	Approval  string                    `json:"approval" doc:"Whose approval it waits for, in a sentence; empty for nobody's"`
	UsedBy    []string                  `json:"usedBy" doc:"Components that it reaches"`
	Pages     []survey.PageUses         `json:"pages" doc:"Pages of the design that use it"`
	Trials    []TrialReach              `json:"trials" doc:"Pages on trial that use it, with what the release would do to them"`
	Cases     int                       `json:"cases" doc:"Cases that look otherwise than in the newest release"`
	Changelog string                    `json:"changelog" doc:"Proposed, CommonMark"`
}

// PlanRelease computes the next version from what changed, and what it touches.
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
	if plan.Open, err = s.open(ctx, w, w.contract); err != nil {
		return plan, err
	}
	if plan.Approval, err = s.unapproved(ctx, w); err != nil {
		return plan, err
	}
	users, err := s.users(ctx, w.contract.Name)
	if err != nil {
		return plan, err
	}
	plan.UsedBy = append(plan.UsedBy, namesOf(users)...)
	if plan.Trials, err = s.trialReach(ctx, slug); err != nil {
		return plan, err
	}
	if w.family != nil {
		plan.Pages = survey.UsesOf(w.doc, w.family.ID)
	}
	if w.row.Version != nil {
		since, err := s.since(ctx, w)
		if err != nil {
			return plan, err
		}
		for _, c := range since {
			if c.Differs {
				plan.Cases++
			}
		}
	}
	return plan, nil
}

// open lists the findings that keep a contract from being released: those nobody mended or set aside.
func (s *Service) open(ctx context.Context, w *component, c *contract.Contract) ([]Checked, error) {
	out := []Checked{}
	aside, err := s.asides(ctx, w.row.ID)
	if err != nil {
		return nil, err
	}
	var found []sheet.Finding
	if c == w.contract {
		if found, err = s.findings(w); err != nil {
			return nil, err
		}
	} else {
		found = sheet.Findings(c, w.review(c))
	}
	for _, f := range found {
		if aside[f.Key] == "" {
			out = append(out, Checked{Finding: f})
		}
	}
	return out, nil
}

func (s *Service) plan(ctx context.Context, w *component, now *contract.Contract) (ReleasePlan, error) {
	plan := ReleasePlan{Version: "1.0.0", Level: contract.Major, First: true, Changes: []contract.Change{}, Steps: []catalogue.MigrationStep{}, Open: []Checked{}, UsedBy: []string{}, Pages: []survey.PageUses{}, Trials: []TrialReach{}}
	rows, err := s.store.Releases(ctx, w.row.ID)
	if err != nil {
		return ReleasePlan{}, err
	}
	if len(rows) == 0 {
		return plan, nil
	}
	var old contract.Contract
	if err := json.Unmarshal(rows[0].Contract, &old); err != nil {
		return ReleasePlan{}, err
	}
	level, changes := ledger.Changes(&old, now)
	plan.First, plan.Level, plan.Changes = false, level, append(plan.Changes, changes...)
	for _, c := range changes {
		if c.Level == level {
			plan.Why = c.Text
			break
		}
	}
	plan.Steps = append(plan.Steps, catalogue.Migration(&old, now)...)
	plan.Changelog = catalogue.Changelog(plan.Changes, plan.Steps)
	plan.Version, err = nextVersion(rows[0].Version, level)
	return plan, err
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

// Release publishes the contract as it was read, with a note that people wrote, CommonMark; as proposed when it is empty.
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
	if err := s.releasable(ctx, w, w.contract); err != nil {
		return plan, err
	}
	if note = strings.TrimSpace(note); note == "" {
		note = plan.Changelog
	}
	_, err = s.apply(ctx, w, nil, store.Edit{Slug: slug, Read: revision, Release: &store.NewRelease{
		Version: plan.Version, Shelf: shelf, Level: string(plan.Level), Note: note, Changes: plan.Changes}})
	return plan, err
}

// releasable tells what keeps a contract from being released; nil when nothing does.
func (s *Service) releasable(ctx context.Context, w *component, c *contract.Contract) error {
	open, err := s.open(ctx, w, c)
	if err != nil {
		return err
	}
	if len(open) > 0 {
		more := ""
		if len(open) > 1 {
			more = fmt.Sprintf(" So with %s more.", counted(len(open)-1, "finding"))
		}
		return invalid(nil, "%s Mend it, or set it aside with a reason.%s", sentence(open[0].Message), more)
	}
	approval, err := s.unapproved(ctx, w)
	if err == nil && approval != "" {
		err = invalid(nil, "%s", approval)
	}
	return err
}
