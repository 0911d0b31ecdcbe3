package service

import (
	"context"

	"cobrik/core/layout"
)

// Widths says where a case of a component breaks: from the contract laid out by
// the solver, without a browser.
type Widths struct {
	Case  string       `json:"case"`
	From  float64      `json:"from" doc:"px the sweep began at"`
	To    float64      `json:"to"`
	Sweep layout.Sweep `json:"sweep"`
}

// Widths runs a case through all widths; the default case when none is named.
func (s *Service) Widths(ctx context.Context, slug, key string) (Widths, error) {
	w, err := s.work(ctx, slug)
	if err != nil {
		return Widths{}, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return Widths{}, err
	}
	tree := w.contract.Boxes(k.Values, w.tokens)
	out := Widths{Case: key, From: 160, To: 1600}
	swept, problems := layout.RunSweep(tree, layout.Sweeping{Options: layout.Options{Fonts: s.fonts}, From: out.From, To: out.To, Drawn: k.Variant.Root.Bounds.Width})
	if swept == nil {
		return Widths{}, invalid(problems, "%s cannot be laid out.", w.contract.Name)
	}
	out.Sweep = *swept
	return out, nil
}
