package service

import (
	"context"
	"strings"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/sheet"
)

// Checks is what a review finds in a component.
type Checks struct {
	Findings []Checked `json:"findings" doc:"Those that are not set aside first, errors before warnings"`
	Errors   int       `json:"errors" doc:"Not set aside"`
	Warnings int       `json:"warnings" doc:"Not set aside"`
}

// Checked is a finding, and why it is set aside.
type Checked struct {
	sheet.Finding
	Aside string `json:"aside" doc:"The reason; empty for one that stands"`
}

// review looks at a contract as one who reviews code would, in every theme.
func (w *component) review(c *contract.Contract) []check.Finding {
	o := check.Options{Fonts: w.fonts}
	for i, t := range w.library.themes {
		o.Themes = append(o.Themes, check.Theme{Name: themeName(t), Choices: choicesOf(t), Tokens: w.library.sets[i]})
	}
	return check.Contract(c, o)
}

// Checks reviews a component.
func (s *Service) Checks(ctx context.Context, slug string) (Checks, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Checks{}, err
	}
	aside, err := s.asides(ctx, w.row.ID)
	if err != nil {
		return Checks{}, err
	}
	found, err := s.findings(w)
	return checksOf(found, aside), err
}

// findings reviews a component as it is.
func (s *Service) findings(w *component) ([]sheet.Finding, error) {
	return recalled(&s.memo, "review "+w.row.Slug+" "+w.build, func() ([]sheet.Finding, error) { return sheet.Findings(w.contract, w.review(w.contract)), nil })
}

func (s *Service) asides(ctx context.Context, component int64) (map[string]string, error) {
	rows, err := s.store.Asides(ctx)
	out := map[string]string{}
	for _, a := range rows {
		if a.Component == component {
			out[a.Finding] = a.Reason
		}
	}
	return out, err
}

func checksOf(found []sheet.Finding, aside map[string]string) Checks {
	out := Checks{Findings: []Checked{}}
	for rank := range 3 {
		for _, f := range found {
			one := Checked{f, aside[f.Key]}
			of := 1
			switch {
			case one.Aside != "":
				of = 2
			case f.Severity == "error":
				of = 0
			}
			if of == rank {
				out.Findings = append(out.Findings, one)
				if of == 0 {
					out.Errors++
				} else if of == 1 {
					out.Warnings++
				}
			}
		}
	}
	return out
}

// SetAside sets findings aside, by their keys, for a reason; without one they stand again.
func (s *Service) SetAside(ctx context.Context, slug, reason string, keys ...string) (Checks, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Checks{}, err
	}
	if err := s.store.SetAside(ctx, slug, w.row.ID, keys, strings.TrimSpace(reason)); err != nil {
		return Checks{}, err
	}
	return s.Checks(ctx, slug)
}
