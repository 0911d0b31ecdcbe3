package service

import (
	"cobrik/core/contract"
	"context"
	"errors"
	"fmt"
	"math"

	"cobrik/core/problem"
	"cobrik/core/survey"
	"cobrik/core/token"
	"cobrik/store"
)

// ContrastView is the contrast of every text and line colour on every ground.
type ContrastView struct {
	Theme   string           `json:"theme"`
	Texts   []ContrastColor  `json:"texts"`
	Grounds []ContrastColor  `json:"grounds"`
	Pairs   []token.Contrast `json:"pairs" doc:"For each text, every ground in order"`
	Fails   int              `json:"fails" doc:"Pairs meant together with too little"`
	Meant   int              `json:"meant"`
}

// ContrastColor is one colour of the matrix.
type ContrastColor struct {
	Path  string `json:"path"`
	Value string `json:"value"`
}

// Contrasts gives each theme's matrix.
func (s *Service) Contrasts(ctx context.Context) ([]ContrastView, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	roles, err := s.roles(ctx)
	if err != nil {
		return nil, err
	}
	out := []ContrastView{}
	for i, set := range l.sets {
		m := set.Contrasts(roles)
		one := ContrastView{Theme: themeName(l.themes[i]), Texts: colorsOf(m.Texts), Grounds: colorsOf(m.Grounds), Pairs: []token.Contrast{}}
		for _, p := range m.Pairs {
			if p.Meant {
				one.Meant++
			}
			if p.Fails() {
				one.Fails++
			}
			p.Ratio = round2(p.Ratio)
			one.Pairs = append(one.Pairs, p)
		}
		out = append(out, one)
	}
	return out, nil
}

func colorsOf(list []*token.Token) []ContrastColor {
	out := []ContrastColor{}
	for _, t := range list {
		out = append(out, ContrastColor{t.Path, t.Value})
	}
	return out
}

// RawValue is a colour or length that layers use without a token.
type RawValue struct {
	Scale    string     `json:"scale"`
	Value    string     `json:"value"`
	Count    int        `json:"count" doc:"Layers' uses"`
	Uses     []LayerUse `json:"uses" doc:"The first fifty"`
	Nearest  string     `json:"nearest" doc:"Path of the nearest token of its scale; empty for none"`
	At       string     `json:"at" doc:"That token's value"`
	Distance float64    `json:"distance" doc:"CIEDE2000 for colours, px else; 0 when a token has the value"`
	Unit     string     `json:"unit" doc:"Of the distance"`
	Values   int        `json:"values" doc:"Values of contracts that say it"`
}

// OffScale lists the raw values of every document, the most used first.
func (s *Service) OffScale(ctx context.Context) ([]RawValue, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	components, err := s.contractUses(ctx)
	if err != nil {
		return nil, err
	}
	docs, err := s.allDocuments(ctx)
	if err != nil {
		return nil, err
	}
	out := []RawValue{}
	for _, doc := range docs {
		for _, r := range survey.OffScale(doc, l.sets[0]) {
			one := RawValue{Scale: string(r.Scale), Value: r.Value, Count: len(r.Uses), Uses: []LayerUse{}, Unit: "px"}
			if r.Scale == survey.Colors {
				one.Unit = "ΔE"
			}
			for _, u := range r.Uses[:min(len(r.Uses), 50)] {
				one.Uses = append(one.Uses, LayerUse{doc.ID, u.Where, u.Layer, u.Name, u.Property})
			}
			if r.Nearest != nil {
				one.Nearest, one.At, one.Distance = r.Nearest.Path, r.Nearest.Value, math.Round(r.Distance*100)/100
				for _, c := range components {
					one.Values += survey.Bind(c.contract.Clone(), r.Scale, r.Value, r.Nearest.Path)
				}
			}
			out = append(out, one)
		}
	}
	return out, nil
}

// BindResult is how much was bound to a token.
type BindResult struct {
	Components int `json:"components"`
	Values     int `json:"values"`
}

// BindRaw makes every contract that says a raw value on a scale refer to a token
// instead, all or none.
func (s *Service) BindRaw(ctx context.Context, scale, value, path string) (BindResult, error) {
	var out BindResult
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	if l.sets[0].Get(path) == nil {
		return out, notFound("There is no token %q.", path)
	}
	components, err := s.contractUses(ctx)
	if err != nil {
		return out, err
	}
	var edits []store.Edit
	for _, k := range components {
		c := k.contract.Clone()
		n := survey.Bind(c, survey.Scale(scale), value, path)
		if n == 0 {
			continue
		}
		var found problem.List
		for _, p := range c.Check(l.sets[0]) {
			if p.Severity == problem.Error {
				found = append(found, p)
			}
		}
		if found.Failed() {
			return BindResult{}, invalid(found, "Nothing was bound: %s", found[0].Message)
		}
		out.Components++
		out.Values += n
		agreed, err := agreedWith(k.row, func(base *contract.Contract) { survey.Bind(base, survey.Scale(scale), value, path) })
		if err != nil {
			return BindResult{}, err
		}
		edits = append(edits, store.Edit{Slug: k.slug, Read: k.row.Revision, Name: c.Name, Contract: c.JSON(), Agreed: agreed, Note: fmt.Sprintf("%s bound to %s", value, path)})
	}
	if len(edits) == 0 {
		return out, invalid(nil, "No contract says %s as a raw %s.", value, scale)
	}
	err = s.store.ApplyAll(ctx, l.number(), edits)
	if errors.Is(err, store.ErrMoved) {
		return BindResult{}, staleTokens()
	}
	if errors.Is(err, store.ErrStale) {
		return BindResult{}, &Failure{Kind: Conflict, Message: "Somebody changed a contract meanwhile. Nothing was bound; try again."}
	}
	return out, err
}
