package service

import (
	"context"
	"errors"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/primitive"
	"cobrik/store"
)

// primitiveStatus is the status of a layout primitive: it follows the tokens, and nobody edits it.
const primitiveStatus = "primitive"

// Primitive is a layout primitive in the catalogue.
type Primitive struct {
	Slug    string   `json:"slug"`
	Name    string   `json:"name"`
	Purpose string   `json:"purpose"`
	Props   []string `json:"props"`
}

// Primitives lists the layout primitives, but for those that a component of the project is named as.
func (s *Service) Primitives(ctx context.Context) ([]Primitive, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	taken := map[string]bool{}
	for _, r := range rows {
		taken[r.Slug] = true
	}
	out := []Primitive{}
	for _, c := range primitive.Contracts(l.tokens()) {
		one := primitiveOf(c)
		if !taken[one.Slug] {
			out = append(out, one)
		}
	}
	return out, nil
}

func primitiveOf(c *contract.Contract) Primitive {
	one := Primitive{Slug: contract.Slug(c.Name), Name: c.Name, Purpose: c.Purpose, Props: []string{}}
	for _, p := range c.Props {
		one.Props = append(one.Props, p.Name)
	}
	return one
}

// looked reads a component to look at: one of the project, or a layout primitive.
func (s *Service) looked(ctx context.Context, slug string) (*component, error) {
	w, err := s.component(ctx, slug)
	var missing *Failure
	if !errors.As(err, &missing) || missing.Kind != NotFound {
		return w, err
	}
	l, failed := s.library(ctx)
	if failed != nil {
		return nil, failed
	}
	for _, c := range primitive.Contracts(l.tokens()) {
		if contract.Slug(c.Name) == slug {
			return &component{row: store.Component{Slug: slug}, contract: c, library: l, tokens: l.tokens(), build: "0." + l.name(), doc: &design.Document{}, primitive: true}, nil
		}
	}
	return nil, err
}

// sampleContent gives each slot of a primitive something to lay out: boxes that the preview draws.
func sampleContent(c *contract.Contract, views []PropView) {
	for i, p := range c.Props {
		if p.Kind() != contract.SlotKind {
			continue
		}
		words := []string{"One", "Another, longer", "A third"}
		if p.Name != "children" {
			words = []string{"On top"}
		}
		views[i].Shown = map[string][]string{"sample": words}
	}
}
