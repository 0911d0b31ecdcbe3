package service

import (
	"context"
	"encoding/json"

	"cobrik/core/contract"
)

// PlacesOf tells where each part stands in the rendered tree for props as a use gives them: child indexes
// from the outermost element. A prop that is not given, or takes no such value, has its default; a list,
// which a page cannot give, what it is looked at with.
func (s *Service) PlacesOf(ctx context.Context, slug string, props map[string]any) (map[string][]int, error) {
	w, err := s.looked(ctx, slug)
	if err != nil {
		return nil, err
	}
	examples := w.contract.Examples()
	values := w.contract.Defaults()
	for _, p := range w.contract.Props {
		given, ok := props[p.Name]
		text, err := json.Marshal(given)
		if err != nil {
			return nil, err
		}
		switch v, err := valueGiven(p, text); {
		case !ok:
		case err == nil && v != nil && p.Type.Takes(v):
			values[p.ID] = v
		case examples[p.ID] != nil:
			values[p.ID] = examples[p.ID]
		}
	}
	return w.lowered().Paths(values), nil
}

// valueGiven reads a value as contract.Given writes it.
func valueGiven(p contract.Prop, text json.RawMessage) (contract.Value, error) {
	var words string
	if p.Kind() == contract.RichKind && json.Unmarshal(text, &words) == nil {
		return contract.Plain(words), nil
	}
	var rich struct{ Rich json.RawMessage }
	if p.Kind() == contract.RichKind && json.Unmarshal(text, &rich) == nil && rich.Rich != nil {
		text = rich.Rich
	}
	return p.Type.Decode(text)
}
