package service

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/drift"
	"cobrik/core/ledger"
	"cobrik/core/survey"
	"cobrik/store"
)

// SyncComponent is what the design moved of one component.
type SyncComponent struct {
	Slug     string               `json:"slug"`
	Name     string               `json:"name"`
	Revision int                  `json:"revision" doc:"Of the contract; a decision carries it"`
	Version  string               `json:"version"`
	Agreed   int                  `json:"agreed"`
	Design   int                  `json:"design"`
	Note     string               `json:"note" doc:"What the designer says of the newest revision"`
	By       string               `json:"by" doc:"Who drew the newest revision"`
	At       *time.Time           `json:"at,omitempty" doc:"When it came"`
	Gone     bool                 `json:"gone" doc:"The newest revision no longer has the family"`
	Moves    []ledger.Move        `json:"moves"`
	Waiting  int                  `json:"waiting"`
	Breaks   []Break              `json:"breaks" doc:"What would break if all were taken that the design moved"`
	Due      map[string]drift.Way `json:"due" doc:"What precedences make of moves, by key, once they are carried out"`
}

// Sync lists the components that the newest designs move, and those with
// decisions kept.
func (s *Service) Sync(ctx context.Context) ([]SyncComponent, error) {
	all, err := s.standingsNow(ctx)
	if err != nil {
		return nil, err
	}
	precedences, err := s.precedences(ctx)
	if err != nil {
		return nil, err
	}
	came := map[string]store.Revision{} // the newest of each document
	out := []SyncComponent{}
	for _, c := range all {
		if len(c.moves) == 0 && !c.gone {
			continue
		}
		one := SyncComponent{Slug: c.Slug, Name: c.Name, Revision: c.Revision, Agreed: c.agreed, Design: c.design, Note: c.note,
			Gone: c.gone, Moves: append([]ledger.Move{}, c.moves...), Waiting: c.waiting(), Due: map[string]drift.Way{}}
		for _, r := range drift.Reach(precedences, designMoves(c)) {
			one.Due[r.Key] = r.Way
		}
		if c.Version != nil {
			one.Version = *c.Version
		}
		if _, known := came[c.Document]; !known && c.Document != "" {
			list, err := s.store.Revisions(ctx, c.Document)
			if err != nil {
				return nil, err
			}
			if len(list) > 0 {
				came[c.Document] = list[len(list)-1]
			}
		}
		if r, known := came[c.Document]; known && r.Number == c.design {
			one.By, one.At = r.Author, &r.Created
		}
		broken, err := s.breaks(ctx, c.Slug)
		if err != nil {
			return nil, err
		}
		one.Breaks = append([]Break{}, broken...)
		out = append(out, one)
	}
	slices.SortStableFunc(out, func(a, b SyncComponent) int { return min(len(b.Breaks), 1) - min(len(a.Breaks), 1) })
	return out, nil
}

// Decision says which moves take the design's side and which keep the
// contract's.
type Decision struct {
	Revision int      `json:"revision" doc:"Contract revision that was read"`
	Design   int      `json:"design" doc:"Design revision that was read"`
	Take     []string `json:"take" doc:"Keys of moves to take from the design"`
	Keep     []string `json:"keep" doc:"Keys of moves to keep from the contract: the design's, or, as an exception, the contract's own"`
	Ask      []string `json:"ask,omitempty" doc:"Keys of the contract's moves that the designer is asked to follow"`
	Merge    []string `json:"merge,omitempty" doc:"Keys of moves of both of which the contract is to have what each changed; the designer is asked to follow"`
	Reason   string   `json:"reason,omitempty" maxLength:"1000" doc:"Why the contract's own moves are kept"`
	Release  bool     `json:"release" doc:"Record a release with it"`
	Together
}

// Together is said of decisions that are made of several components at once.
type Together struct {
	Press int64    `json:"-"`
	Ruled []string `json:"-"` // keys of moves that a precedence decided
}

// Outcome is what a decision does, planned or done.
type Outcome struct {
	Contract int               `json:"contract" doc:"The contract's revision after it"`
	Changes  []contract.Change `json:"changes" doc:"What it changes in the contract"`
	Level    contract.Level    `json:"level" enum:"none,patch,minor,major" doc:"The version bump, from the newest release"`
	From     string            `json:"from" doc:"Newest release; empty for none"`
	Version  string            `json:"version" doc:"The version a release would have"`
	Cases    int               `json:"cases" doc:"Drawn cases that look different after it"`
	Uses     int               `json:"uses" doc:"Instances on the design's pages"`
	Waiting  int               `json:"waiting" doc:"Moves left to decide"`
	Reaches  []string          `json:"reaches" doc:"Names of the components that use this one"`
	Pages    []survey.PageUses `json:"pages" doc:"The design's pages that show it"`
	Trials   []TrialUses       `json:"trials" doc:"The trial pages that use it"`
	Released bool              `json:"released"`
	Blocked  string            `json:"blocked" doc:"What keeps it from being released with it, in a sentence; empty for nothing"`
}

// decided is a decision worked out but not yet kept.
type decided struct {
	outcome   Outcome
	contract  *contract.Contract
	kept      []ledger.Decision
	decided   []drift.Decided
	exception string // property of a move of the contract's own that is kept
	plan      ReleasePlan
}

// PlanDecision works out what a decision would do.
func (s *Service) PlanDecision(ctx context.Context, slug string, d Decision) (Outcome, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Outcome{}, err
	}
	out, err := s.decide(ctx, w, d)
	return out.outcome, err
}

func (s *Service) decide(ctx context.Context, w *component, d Decision) (decided, error) {
	var out decided
	if w.family == nil {
		return out, invalid(nil, "The design no longer has this family: there is nothing to take.")
	}
	if d.Design != 0 && d.Design != w.design {
		return out, &Failure{Kind: Conflict, Message: fmt.Sprintf("The design moved to revision %d since you read revision %d. Read the moves again.", w.design, d.Design),
			Current: &Stale{Revision: w.row.Revision, Note: w.doc.Note, Changes: []contract.Change{}}}
	}
	l := w.ledger()
	c, found := l.Take(w.doc, d.Take)
	if c == nil {
		return out, invalid(found, "The moves could not be taken: %s", found[0].Message)
	}
	if c, found = l.Merge(c, d.Merge); c == nil {
		return out, invalid(found, "The moves could not be merged: %s", found[0].Message)
	}
	byKey := map[string]ledger.Move{}
	for _, m := range l.Moves() {
		byKey[m.Key] = m
	}
	remember := func(m ledger.Move, way drift.Way) {
		out.decided = append(out.decided, drift.Decided{Key: m.Key, Said: m.Said(), Way: way, From: m.From.Words(), To: m.To.Words(), Bump: m.Bump})
	}
	for _, key := range d.Take {
		remember(byKey[key], drift.Take)
	}
	for _, key := range d.Keep {
		m, ok := byKey[key]
		if !ok {
			return out, invalid(nil, "There is no such move any more: %s", key)
		}
		reason := strings.TrimSpace(d.Reason)
		if m.Side != ledger.DesignSide {
			out.exception = m.Property
		}
		out.kept = append(out.kept, m.Keep(reason))
		remember(m, drift.Keep)
	}
	for _, key := range d.Ask {
		m, ok := byKey[key]
		if !ok || m.Side != ledger.ContractSide {
			return out, invalid(nil, "There is nothing to ask the designer of: %s", key)
		}
		out.kept = append(out.kept, m.Ask())
		remember(m, drift.Ask)
	}
	for _, key := range d.Merge {
		remember(byKey[key], drift.Merge)
		out.decided[len(out.decided)-1].To = byKey[key].Merged
		for _, m := range w.ledgerOf(c, w.kept).Moves() {
			if m.Key == key {
				out.kept = append(out.kept, m.Ask())
			}
		}
	}
	left := w.ledgerOf(c, append(out.kept, w.kept...))
	waiting := ledger.Waiting(left.Moves())
	if waiting == 0 && c.Origin != nil {
		c.Origin.Revision = w.design
	}
	var err error
	if out.plan, err = s.plan(ctx, w, c); err != nil {
		return out, err
	}
	if out.outcome, err = s.outcome(ctx, w, c, out.plan); err != nil {
		return out, err
	}
	out.contract, out.outcome.Waiting = c, waiting
	if d.Release && w.row.Version != nil && out.plan.Level != contract.None {
		blocked := s.releasable(ctx, w, c)
		var why *Failure
		if errors.As(blocked, &why) {
			out.outcome.Blocked = why.Message
		} else if blocked != nil {
			return out, blocked
		}
	}
	return out, nil
}

// outcome tells what another contract of a component's does.
func (s *Service) outcome(ctx context.Context, w *component, c *contract.Contract, plan ReleasePlan) (Outcome, error) {
	_, changes := ledger.Changes(w.contract, c)
	out := Outcome{Contract: w.row.Revision, Changes: append([]contract.Change{}, changes...), Level: plan.Level, Version: plan.Version, Reaches: []string{}, Pages: []survey.PageUses{}, Trials: []TrialUses{}}
	if w.row.Version != nil {
		out.From = *w.row.Version
	}
	if w.family != nil {
		out.Cases, out.Uses = w.touched(c), survey.Uses(w.doc)[w.family.ID]
		out.Pages = append(out.Pages, survey.UsesOf(w.doc, w.family.ID)...)
	}
	users, err := s.store.Users(ctx, w.contract.Name)
	for _, u := range users {
		out.Reaches = append(out.Reaches, u.Name)
	}
	if err != nil {
		return out, err
	}
	out.Trials, err = s.trialsOf(ctx, w.contract.Name)
	return out, err
}

// touched counts the drawn cases whose resolved values differ.
func (w *component) touched(now *contract.Contract) int {
	n := 0
	for _, k := range draft.Cases(now, w.family) {
		if len(k.New) > 0 {
			continue
		}
		old := draft.Cases(w.contract, w.family)
		for _, o := range old {
			if o.Variant != k.Variant {
				continue
			}
			if len(o.New) > 0 || differs(contract.Resolve(w.contract, contract.EnvOf(o.Values), w.tokens), contract.Resolve(now, contract.EnvOf(k.Values), w.tokens)) {
				n++
			}
		}
	}
	return n
}

func differs(a, b *contract.Resolved) bool {
	if len(a.Children) != len(b.Children) || a.Text != b.Text || a.Shown != b.Shown || len(a.Values) != len(b.Values) {
		return true
	}
	for property, v := range a.Values {
		if b.Values[property].Value != v.Value {
			return true
		}
	}
	for i := range a.Children {
		if differs(a.Children[i], b.Children[i]) {
			return true
		}
	}
	return false
}

// Decide carries a decision out: the contract's next revision, what is kept and
// the release, in one.
func (s *Service) Decide(ctx context.Context, slug string, d Decision) (Outcome, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Outcome{}, err
	}
	out, err := s.decide(ctx, w, d)
	if err != nil {
		return Outcome{}, err
	}
	if out.exception != "" && strings.TrimSpace(d.Reason) == "" {
		return Outcome{}, invalid(nil, "Say why %s is to differ from the design.", out.exception)
	}
	byPrecedence(out.decided, d.Ruled)
	kept := make([]store.Decision, len(out.kept))
	for i, d := range out.kept {
		kept[i] = store.Decision{Outcome: string(d.Outcome), Move: d.Move, Condition: d.When, Said: d.Said, Reason: d.Reason}
	}
	e := store.Edit{Slug: slug, Read: d.Revision, Kept: kept,
		Record: &store.NewRecord{Press: d.Press, Lane: string(drift.Design), Read: fmt.Sprintf("design revision %d", w.design), Reason: strings.TrimSpace(d.Reason), Decided: out.decided},
		Note:   fmt.Sprintf("%d taken, %d kept, %d asked at design revision %d", len(d.Take), len(d.Keep), len(d.Ask), w.design)}
	if d.Release && w.row.Version != nil && out.plan.Level != contract.None {
		if out.outcome.Blocked != "" {
			return Outcome{}, invalid(nil, "Nothing was decided, for it cannot be released with it: %s", out.outcome.Blocked)
		}
		e.Release = &store.NewRelease{Version: out.plan.Version, Level: string(out.plan.Level), Changes: out.plan.Changes, Note: out.plan.Changelog}
		out.outcome.Released = true
	}
	edited, err := s.apply(ctx, w, out.contract, e)
	out.outcome.Contract = edited.Revision
	return out.outcome, err
}
