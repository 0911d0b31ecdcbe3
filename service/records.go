package service

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/drift"
	"cobrik/store"
)

// Decisions lists what was decided, the last first; those that have every word of a text, where one is asked for.
func (s *Service) Decisions(ctx context.Context, words string) ([]drift.Ruling, error) {
	out, err := s.records(ctx)
	out = drift.Find(out, words)
	slices.Reverse(out)
	return out, err
}

func (s *Service) records(ctx context.Context) ([]drift.Ruling, error) {
	rows, err := s.store.Records(ctx)
	out := []drift.Ruling{}
	for _, r := range rows {
		one, failed := recordOf(r)
		out, err = append(out, one), errors.Join(err, failed)
	}
	drift.MarkUndoable(out)
	return out, err
}

func recordOf(r store.Record) (drift.Ruling, error) {
	out := drift.Ruling{ID: r.ID, Press: r.Press, Component: r.Slug, Of: r.Name, Lane: drift.Lane(r.Lane), At: r.Read, By: r.Actor, When: r.Created, Reason: r.Reason, Version: r.Version, Undone: r.Undone}
	err := json.Unmarshal(r.Decided, &out.Decided)
	return out, err
}

// Changelog writes what was decided for readers, Markdown.
func (s *Service) Changelog(ctx context.Context, who drift.Reader) (SourceText, error) {
	p, err := s.store.Project(ctx)
	if err != nil {
		return SourceText{}, err
	}
	list, err := s.records(ctx)
	return SourceText{Name: p.Address + "-" + string(who) + ".md", Text: []byte(drift.Changelog(list, who, p.Name))}, err
}

// TakeBack undoes a decision: the contract is as before it, and what stood decided stands again. What was released, or came before something else that
// was decided or edited, cannot be taken back.
func (s *Service) TakeBack(ctx context.Context, id int64) (Edited, error) {
	r, err := s.store.Record(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return Edited{}, notFound("There is no such decision.")
	}
	if err != nil {
		return Edited{}, err
	}
	switch {
	case r.Undone != nil:
		return Edited{}, invalid(nil, "It was undone already.")
	case r.Version != "":
		return Edited{}, invalid(nil, "It was released as %s, and a release is not taken back. Decide anew, or edit the contract.", r.Version)
	}
	w, err := s.component(ctx, r.Slug)
	if err != nil {
		return Edited{}, err
	}
	out := w.unedited()
	c, renamed := w.contract, ""
	var followed followers
	if r.Before != r.After {
		text, err := s.store.ContractAt(ctx, w.row.ID, r.Before)
		if err != nil {
			return out, err
		}
		c = new(contract.Contract)
		if err := json.Unmarshal(text, c); err != nil {
			return out, err
		}
		if followed, out.Reaches, renamed, err = s.goBack(ctx, w, c, "undo"); err != nil {
			return out, err
		}
	}
	n, err := s.store.TakeBack(ctx, r, w.row.Revision, w.library.number(), renamed, followed.edits(c.Name)...)
	switch {
	case errors.Is(err, store.ErrNotLast):
		return out, &Failure{Kind: Conflict, Message: "Something of " + r.Name + " was decided or edited after it. Undo that first."}
	case errors.Is(err, store.ErrMoved):
		return out, staleTokens()
	case errors.Is(err, store.ErrStale):
		return out, s.stale(ctx, r.Slug, nil)
	case errors.Is(err, store.ErrTaken):
		return out, nameTaken(c.Name)
	}
	out.Revision, out.Slug, out.Build = n, cmp.Or(renamed, r.Slug), w.buildAt(n)
	return out, err
}
