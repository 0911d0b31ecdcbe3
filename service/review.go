package service

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/store"
)

// Review is what is looked at before a release: what changed since the newest one, and what people say of it.
type Review struct {
	Asked    *ReviewAsked      `json:"asked,omitempty" doc:"Nothing for one that is not put up for review"`
	Approval bool              `json:"approval" doc:"The project asks somebody else to approve"`
	Revision int               `json:"revision"`
	Release  string            `json:"release" doc:"The newest; empty for none"`
	Changes  []contract.Change `json:"changes" doc:"Since then, fact by fact"`
	Cases    []CaseSince       `json:"cases" doc:"Every case, those that look otherwise first"`
	Comments []CommentView     `json:"comments"`
}

// ReviewAsked is who put a component up for review, and who approved it.
type ReviewAsked struct {
	By       string    `json:"by"`
	Note     string    `json:"note"`
	At       time.Time `json:"at"`
	Approver string    `json:"approver" doc:"Who approved it last; empty for nobody"`
	Approved bool      `json:"approved" doc:"As it is now"`
}

// CaseSince is a case beside what the newest release makes of it.
type CaseSince struct {
	CaseView
	Differs  bool           `json:"differs" doc:"It looks otherwise, or is new"`
	Released map[string]any `json:"released" doc:"What the release is rendered with; null where it cannot show it"`
}

// CommentView is what somebody said.
type CommentView struct {
	ID       int64            `json:"id"`
	Place    string           `json:"place" enum:"component,fact,part,case"`
	Key      string           `json:"key" doc:"Of the fact or the case, id of the part"`
	Words    string           `json:"words" doc:"The place in words, as it was called then"`
	Told     []contract.Block `json:"told" doc:"Rich text"`
	By       string           `json:"by"`
	At       time.Time        `json:"at"`
	Resolver string           `json:"resolver" doc:"Who dealt with it; empty for nobody"`
	Resolved *time.Time       `json:"resolved,omitempty"`
}

// Review reads a component for review.
func (s *Service) Review(ctx context.Context, slug string) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	out := Review{Revision: w.row.Revision, Changes: []contract.Change{}, Cases: []CaseSince{}, Comments: []CommentView{}}
	if out.Approval, err = s.store.AsksApproval(ctx); err != nil {
		return out, err
	}
	asked, err := s.store.Review(ctx, w.row.ID)
	switch {
	case err == nil:
		out.Asked = &ReviewAsked{By: asked.By, Note: asked.Note, At: asked.Asked, Approved: asked.Approved != nil && *asked.Approved == w.row.Revision}
		if asked.Approver != nil {
			out.Asked.Approver = *asked.Approver
		}
	case !errors.Is(err, store.ErrNotFound):
		return out, err
	}
	if w.row.Version != nil {
		out.Release = *w.row.Version
		plan, err := s.plan(ctx, w, w.contract)
		if err != nil {
			return out, err
		}
		out.Changes = plan.Changes
	}
	since, err := s.since(ctx, w)
	if err != nil {
		return out, err
	}
	out.Cases = append(out.Cases, since...)
	slices.SortStableFunc(out.Cases, func(a, b CaseSince) int {
		return map[bool]int{true: 0, false: 1}[a.Differs] - map[bool]int{true: 0, false: 1}[b.Differs]
	})
	rows, err := s.store.Comments(ctx, w.row.ID)
	for _, c := range rows {
		one := CommentView{ID: c.ID, Place: c.Place, Key: c.Key, Words: c.Words, Told: toldIn(c.Body), By: c.By, At: c.Created, Resolved: c.Resolved}
		if c.Resolver != nil {
			one.Resolver = *c.Resolver
		}
		out.Comments = append(out.Comments, one)
	}
	return out, err
}

// since holds each case of a component against its newest release: every one differs from none.
func (s *Service) since(ctx context.Context, w *component) ([]CaseSince, error) {
	version := ""
	if w.row.Version != nil {
		version = *w.row.Version
	}
	return recalled(&s.memo, fmt.Sprintf("since %s %s %d %s", w.row.Slug, w.build, w.design, version), func() ([]CaseSince, error) {
		var was *component
		if version != "" {
			var err error
			if was, err = s.release(ctx, w, version); err != nil {
				return nil, err
			}
		}
		var out []CaseSince
		for _, k := range slices.Concat(w.cases(), w.savedCases()) {
			if len(k.New) > 0 {
				continue
			}
			one := CaseSince{CaseView: w.caseView(k, 0), Differs: true}
			if was != nil {
				if one.Released = releasedProps(was.contract, w.contract, k.Values); one.Released != nil {
					then := contract.EnvOf(releasedValues(was.contract, k.Values))
					now := contract.EnvOf(k.Values)
					then.States, now.States = k.Env().States, k.Env().States
					one.Differs = differs(contract.Resolve(was.contract, then, was.tokens), contract.Resolve(w.contract, now, w.tokens))
				}
			}
			out = append(out, one)
		}
		return out, nil
	})
}

// unapproved says whose approval a release waits for; nothing where it waits for none.
func (s *Service) unapproved(ctx context.Context, w *component) (string, error) {
	asks, err := s.store.AsksApproval(ctx)
	if err != nil || !asks {
		return "", err
	}
	r, err := s.store.Review(ctx, w.row.ID)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return "This project asks somebody else to approve a release. Put it up for review.", nil
	case err != nil:
		return "", err
	case r.Approved == nil:
		return fmt.Sprintf("Somebody other than %s has to approve it.", r.By), nil
	case *r.Approved != w.row.Revision:
		return fmt.Sprintf("It was changed since %s approved it, and has to be approved again.", *r.Approver), nil
	}
	return "", nil
}

// AskReview puts a component up for review, with a word on what is to be looked at.
func (s *Service) AskReview(ctx context.Context, slug, note string) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	if plan, err := s.plan(ctx, w, w.contract); err != nil {
		return Review{}, err
	} else if plan.Level == contract.None {
		return Review{}, invalid(nil, "Nothing changed since %s: there is nothing to look at.", plan.Version)
	}
	err = s.store.AskReview(ctx, slug, w.row.ID, strings.TrimSpace(note))
	if errors.Is(err, store.ErrTaken) {
		return Review{}, &Failure{Kind: Conflict, Message: w.contract.Name + " is in review already."}
	}
	return s.reviewed(ctx, slug, err)
}

// EndReview takes a component out of review.
func (s *Service) EndReview(ctx context.Context, slug string) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	return s.reviewed(ctx, slug, s.store.EndReview(ctx, slug, w.row.ID))
}

// Approve says that a component may be released as a revision of its contract has it; not by who asked for the review.
func (s *Service) Approve(ctx context.Context, slug string, revision int) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	err = s.store.Approve(ctx, slug, w.row.ID, revision)
	switch {
	case errors.Is(err, store.ErrOwn):
		return Review{}, invalid(nil, "Who asks for a review does not approve it. Somebody else has to.")
	case errors.Is(err, store.ErrStale):
		return Review{}, &Failure{Kind: Conflict, Message: w.contract.Name + " was changed since you looked at it. Look at it again."}
	}
	return s.reviewed(ctx, slug, err)
}

func (s *Service) reviewed(ctx context.Context, slug string, err error) (Review, error) {
	if errors.Is(err, store.ErrNotFound) {
		return Review{}, &Failure{Kind: Conflict, Message: "It is not in review any more."}
	}
	if err != nil {
		return Review{}, err
	}
	return s.Review(ctx, slug)
}

// NewComment is what somebody says of a component, or of a fact, a part or a case of it.
type NewComment struct {
	Place string `json:"place" enum:"component,fact,part,case"`
	Key   string `json:"key" maxLength:"2000"`
	Words string `json:"words" maxLength:"400" doc:"The place in words"`
	Body  string `json:"body" minLength:"1" maxLength:"5000" doc:"CommonMark"`
}

// Comment keeps what somebody says.
func (s *Service) Comment(ctx context.Context, slug string, c NewComment) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	if _, err := contract.ReadRich(c.Body); err != nil {
		return Review{}, invalid(nil, "%s", sentence(err.Error()))
	}
	if strings.TrimSpace(c.Body) == "" {
		return Review{}, invalid(nil, "Say something.")
	}
	err = s.store.AddComment(ctx, slug, w.row.ID, store.Comment{Place: c.Place, Key: c.Key, Words: c.Words, Body: strings.TrimSpace(c.Body)})
	return s.reviewed(ctx, slug, err)
}

// ResolveComment notes that what somebody said is dealt with, or not after all.
func (s *Service) ResolveComment(ctx context.Context, slug string, id int64, resolved bool) (Review, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Review{}, err
	}
	err = s.store.ResolveComment(ctx, slug, w.row.ID, id, resolved)
	if errors.Is(err, store.ErrNotFound) {
		return Review{}, notFound("Nobody said that of %s.", w.contract.Name)
	}
	return s.reviewed(ctx, slug, err)
}

// AskApproval says whether releases of the project wait for somebody else to approve them.
func (s *Service) AskApproval(ctx context.Context, on bool) error {
	return s.store.AskApproval(ctx, on)
}
