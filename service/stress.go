package service

import (
	"context"
	"math"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/layout"
)

// StressView is a use that a component should bear, with what is in trouble then.
type StressView struct {
	CaseView
	Direction string   `json:"direction" enum:"ltr,rtl"`
	Troubles  []string `json:"troubles" doc:"As the solver finds them: which part, and how"`
}

// Stress shows a case under what people and data do to it: the default case when none is named.
func (s *Service) Stress(ctx context.Context, slug, key string) ([]StressView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	k, err := w.caseNamed(key)
	if err != nil {
		return nil, err
	}
	out := []StressView{}
	for _, one := range w.contract.Stress(k.Values) {
		out = append(out, w.stressed(k, one))
	}
	return out, nil
}

// stressed lays one out: in the container that the case is drawn in, or of the width it asks for.
func (w *component) stressed(k draft.Case, one contract.StressCase) StressView {
	env := k.Env()
	env.Props, env.Direction = one.Values, one.Direction
	tree := contract.Resolve(w.contract, env, w.tokens)
	fills := tree.Values["width"].Value == "100%"
	width := k.Variant.Root.Bounds.Width
	if one.Width > 0 {
		width = one.Width
		tree = contract.Resolve(w.contract, env.At(width), w.tokens)
	}
	out := StressView{Direction: one.Direction, Troubles: []string{}, CaseView: CaseView{Key: "stress " + one.Name, Name: one.Name, New: []string{}, Props: w.contract.Given(one.Values),
		States: append([]string{}, env.States...), Choices: []string{}, Width: width, Height: k.Variant.Root.Bounds.Height, Fills: fills, Paths: w.lowered().Paths(one.Values)}}
	if one.Width > 0 {
		out.Container = one.Width
	}
	boxes := tree.Boxes()
	room := width
	if !fills && one.Width == 0 {
		room = widest // it is as wide as its content
	}
	if solved, _ := layout.Solve(boxes, layout.Options{Width: room, Fonts: w.fonts}); solved != nil && solved.Box != nil {
		out.Width, out.Height = max(1, solved.Box.Width), max(1, solved.Box.Height)
	}
	at := math.Ceil(width)
	if !fills && one.Width == 0 {
		at = math.Ceil(out.Width)
	}
	if swept, _ := layout.Sweep(boxes, layout.SweepOptions{Options: layout.Options{Fonts: w.fonts}, From: max(1, at), To: max(1, at) + 1}); swept != nil {
		for _, b := range swept.Bands {
			trouble := b.Part + ": " + b.Kind
			if !slices.Contains(out.Troubles, trouble) {
				out.Troubles = append(out.Troubles, trouble)
			}
		}
	}
	return out
}
