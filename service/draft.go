package service

import (
	"context"
	"errors"
	"fmt"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/survey"
	"cobrik/store"
)

// Drafted is a component made from a drawing.
type Drafted struct {
	Slug   string   `json:"slug"`
	Inside []string `json:"inside" doc:"Names of the components drafted with it, as it uses them"`
	Notes  []string `json:"notes" doc:"What could not be drafted, a sentence each"`
}

// Draft computes a contract from a family of the newest revision and keeps it
// as a new component.
func (s *Service) Draft(ctx context.Context, document, family string) (Drafted, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return Drafted{}, err
	}
	if doc.Family(family) == nil {
		return Drafted{}, notFound("There is no family %q in %s.", family, doc.Name)
	}
	return s.draft(ctx, doc, contract.Origin{Document: document, Family: family, Revision: number}, "", nil, nil)
}

// DraftLayers computes a contract from a layer of a page that was drawn without
// flow, or from several read as one drawing, and keeps it as a new component of a name.
func (s *Service) DraftLayers(ctx context.Context, document string, layers []string, name string) (Drafted, error) {
	doc, number, err := s.document(ctx, document)
	if err != nil {
		return Drafted{}, err
	}
	o := contract.Origin{Document: document, Layer: layers[0], With: layers[1:], Revision: number}
	if draft.Drawing(doc, o) == nil {
		return Drafted{}, notFound("There are no layers %q on one page of %s.", layers, doc.Name)
	}
	return s.draft(ctx, doc, o, name, nil, nil)
}

// draft computes a contract from what an origin names, extends it, and keeps it with its copies.
func (s *Service) draft(ctx context.Context, doc *design.Document, o contract.Origin, name string, copies []store.Copy, extend func(*contract.Contract) []string) (Drafted, error) {
	l, err := s.library(ctx)
	if err != nil {
		return Drafted{}, err
	}
	var failed error
	known := s.components(ctx, doc.ID, &failed)
	var roots []*design.Layer
	if f := doc.Family(o.Family); f != nil {
		roots = draft.Roots(f)
	} else if layer := draft.Drawing(doc, o); layer != nil {
		roots = []*design.Layer{layer}
	}
	added, components, _, err := s.draftInside(ctx, doc, roots, o.Revision, l, known)
	if err = errors.Join(err, failed); err != nil {
		return Drafted{}, err
	}
	c, _, found := draft.Of(doc, survey.ReadBy(o, l.tokens()), name, l.tokens(), s.fonts, components)
	if c == nil {
		return Drafted{}, invalid(found, "It could not be drafted: %s", howMany(found))
	}
	out := Drafted{Slug: contract.Slug(c.Name), Inside: []string{}, Notes: []string{}}
	if extend != nil {
		out.Notes = append(out.Notes, extend(c)...)
		if found := c.Check(l.tokens()); found.Failed() {
			return Drafted{}, invalid(found, "It could not be drafted: %s", howMany(found))
		}
	}
	for _, a := range added {
		out.Inside = append(out.Inside, a.Name)
	}
	added = append(added, store.NewComponent{Slug: out.Slug, Name: c.Name, Document: o.Document, Source: o.Family + o.Layer, Contract: c.JSON(), Tokens: l.number(), Copies: copies}) // one of family and layer is empty
	err = s.store.AddComponents(ctx, added...)
	if errors.Is(err, store.ErrMoved) {
		return Drafted{}, staleTokens()
	}
	if errors.Is(err, store.ErrTaken) {
		return Drafted{}, nameTaken(c.Name)
	}
	return out, err
}

// DraftLevel drafts all pieces of a level of the order that are ready.
func (s *Service) DraftLevel(ctx context.Context, document string, level int) ([]Drafted, error) {
	v, err := s.survey(ctx, document)
	if err != nil {
		return nil, err
	}
	out := []Drafted{}
	for _, p := range v.Order {
		if p.Level != level || !p.Draftable {
			continue
		}
		var made Drafted
		if p.Kind == survey.PieceFamily {
			made, err = s.Draft(ctx, document, p.ID)
		} else {
			made, err = s.DraftFind(ctx, FindDraft{Document: document, Find: p.ID, Name: p.Name})
		}
		if err != nil {
			return out, fmt.Errorf("%s: %w", p.Name, err)
		}
		out = append(out, made)
	}
	return out, nil
}
