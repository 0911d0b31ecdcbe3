package service

import (
	"context"

	"cobrik/core/contract"
)

// Stress shows a case under what people and data do to it: the default case when none is named.
func (s *Service) Stress(ctx context.Context, slug, key string) ([]Looked, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return nil, err
	}
	out := []Looked{}
	for _, one := range w.contract.Stress(k.Values) {
		of := k
		of.Values = one.Values
		looked, err := w.lookedAt(of, contract.Look{State: k.State, Direction: one.Direction, Width: one.Width})
		if err != nil {
			return nil, err
		}
		looked.Key, looked.Name, looked.Drawn, looked.Picture = "stress "+one.Name, one.Name, false, ""
		out = append(out, looked)
	}
	return out, nil
}
