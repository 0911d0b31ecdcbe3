package service

import (
	"context"
	"errors"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/start"
	"cobrik/store"
)

// A component may begin without a drawing. Its cases are variations of the contract then, as large as the
// solver lays them out, and its ledger has two sides.

// undrawn tells whether the component began without a drawing.
func (w *component) undrawn() bool { return w.row.ID != 0 && w.row.Document == "" }

// gone tells whether the design no longer has the component's drawing.
func (w *component) gone() bool { return w.family == nil && !w.undrawn() }

// isDefault tells whether a case is the one that is looked at first.
func (w *component) isDefault(k draft.Case) bool {
	if w.undrawn() {
		return k.Variant.ID == "0"
	}
	return k.Variant == w.family.Default()
}

// mostVariations is how many combinations are shown each; of more, a set that covers all pairs.
const mostVariations = 24

// variationsOf are the cases of a contract without a drawing; nothing says how large they are.
func variationsOf(c *contract.Contract) (out []draft.Case) {
	list, _ := c.Variations(mostVariations)
	for i, v := range list {
		out = append(out, draft.Case{Name: v.Name, Values: v.Values, State: v.State, Variant: undrawnVariant(strconv.Itoa(i))})
	}
	return out
}

// roomFor is the px of the container that a component which fills it is shown in.
const roomFor = 480

// varied gives the cases of a component without a drawing, as large as they are laid out.
func (w *component) varied() []draft.Case {
	if w.variations != nil {
		return w.variations
	}
	w.variations = variationsOf(w.contract)
	for i := range w.variations {
		w.sized(&w.variations[i])
	}
	return w.variations
}

// StartView is a ready-made start.
type StartView struct {
	Key     string   `json:"key"`
	Name    string   `json:"name"`
	Purpose string   `json:"purpose"`
	Props   []string `json:"props"`
}

// Starts lists the ready-made starts, the blank sheet first.
func (s *Service) Starts(ctx context.Context) ([]StartView, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	out := []StartView{}
	for _, one := range start.All(l.tokens()) {
		v := StartView{Key: one.Key, Name: one.Contract.Name, Purpose: one.Contract.Purpose, Props: []string{}}
		for _, p := range one.Contract.Props {
			v.Props = append(v.Props, p.Name)
		}
		out = append(out, v)
	}
	return out, nil
}

// Begin makes a component of a name without a drawing, from a start by its key.
func (s *Service) Begin(ctx context.Context, name, key string) (Drafted, error) {
	l, err := s.library(ctx)
	if err != nil {
		return Drafted{}, err
	}
	if strings.TrimSpace(name) == "" {
		return Drafted{}, invalid(nil, "Give the component a name, as in PlotCard.")
	}
	for _, one := range start.All(l.tokens()) {
		if one.Key != key {
			continue
		}
		c := one.Contract
		c.Name = contract.ComponentName(name)
		slug := contract.Slug(c.Name)
		err := s.store.AddComponents(ctx, store.NewComponent{Slug: slug, Name: c.Name, Contract: c.JSON(), Tokens: l.number()})
		if errors.Is(err, store.ErrMoved) {
			return Drafted{}, staleTokens()
		}
		if errors.Is(err, store.ErrTaken) {
			return Drafted{}, nameTaken(c.Name)
		}
		return Drafted{Slug: slug, Inside: []string{}}, err
	}
	return Drafted{}, notFound("There is no start %q.", key)
}
