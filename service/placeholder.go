package service

import (
	"context"
	"errors"

	"cobrik/core/contract"
	"cobrik/core/placeholder"
	"cobrik/store"
)

// Placeholder derives from a component the one that keeps its room while it loads; one that was derived before is derived again.
func (s *Service) Placeholder(ctx context.Context, slug string) (Drafted, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Drafted{}, err
	}
	if w.contract.RoomOf != "" {
		return Drafted{}, invalid(nil, "%s keeps the room of %s itself.", w.contract.Name, w.contract.RoomOf)
	}
	c := placeholder.Of(w.contract)
	if _, err := s.link(ctx, c); err != nil {
		return Drafted{}, err
	}
	if found := c.Check(w.tokens); found.Failed() {
		return Drafted{}, invalid(found, "%s", sentence(found[0].Message))
	}
	out := Drafted{Slug: contract.Slug(c.Name), Inside: []string{}}
	was, err := s.component(ctx, out.Slug)
	if err == nil {
		if was.contract.RoomOf != w.contract.Name {
			return Drafted{}, nameTaken(c.Name)
		}
		if string(was.contract.JSON()) == string(c.JSON()) {
			return out, nil
		}
		_, err = s.apply(ctx, was, c, store.Edit{Slug: out.Slug, Read: was.row.Revision, Note: "derived again of " + w.contract.Name})
		return out, err
	}
	var failure *Failure
	if !errors.As(err, &failure) || failure.Kind != NotFound {
		return Drafted{}, err
	}
	err = s.store.AddComponents(ctx, store.NewComponent{Slug: out.Slug, Name: c.Name, Contract: c.JSON(), Tokens: w.library.number()})
	switch {
	case errors.Is(err, store.ErrMoved):
		return Drafted{}, staleTokens()
	case errors.Is(err, store.ErrTaken):
		return Drafted{}, nameTaken(c.Name)
	}
	return out, err
}
