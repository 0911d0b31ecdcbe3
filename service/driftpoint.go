package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"cobrik/core/drift"
	"cobrik/core/source"
	"cobrik/store"
)

// mostPoints bounds how many points a report is made of: years of a team's days.
const mostPoints = 5000

// DriftNow tells how far design, contract and code agree now.
func (s *Service) DriftNow(ctx context.Context) (drift.DriftPoint, error) {
	out := drift.DriftPoint{At: time.Now(), Components: []drift.Stand{}}
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return out, err
	}
	var words []string
	for _, d := range docs {
		words = append(words, fmt.Sprintf("%s revision %d", d.Name, d.Latest))
	}
	out.Design = strings.Join(words, ", ")
	all, err := s.standingsNow(ctx)
	if err != nil {
		return out, err
	}
	released, err := s.store.ReleasedAsTheyAre(ctx)
	if err != nil {
		return out, err
	}
	code, err := s.Code(ctx)
	var down *Failure
	if err != nil && !errors.As(err, &down) {
		return out, err
	}
	if code.Hash != "" {
		out.Code = fmt.Sprintf("commit %.7s", code.Hash)
	}
	byName := map[string]CodeComponent{}
	for _, c := range code.Components {
		byName[c.Slug] = c
	}
	for _, c := range all {
		one := drift.Stand{Slug: c.Slug, Name: c.Name, Released: released[c.ID]}
		if c.Version != nil {
			one.Version = *c.Version
		}
		if one.Facts, err = s.factsOf(ctx, c); err != nil {
			return out, err
		}
		for _, m := range append(designMoves(c), codeMoves(byName[c.Slug])...) {
			switch {
			case m.Side == string(source.ContractSide) && (m.Open || m.Lane == drift.Code):
				one.Contract++
			case !m.Open:
				one.Apart++
			case m.Side == string(source.SeveralSides):
				one.Several++
			case m.Lane == drift.Design:
				one.Design++
			default:
				one.Code++
			}
		}
		out.Components = append(out.Components, one)
	}
	return out, nil
}

// factsOf counts what a component's contract says.
func (s *Service) factsOf(ctx context.Context, c standingOf) (int, error) {
	return recalled(&s.memo, fmt.Sprintf("facts %d %d %s", c.ID, c.Revision, c.build), func() (int, error) {
		w, err := s.component(ctx, c.Slug)
		if err != nil {
			return 0, err
		}
		return len(source.Facts(w.contract)), nil
	})
}

// NotePoint keeps how far all agree now, where that is not as it was noted last.
func (s *Service) NotePoint(ctx context.Context) error {
	now, err := s.DriftNow(ctx)
	if err != nil || len(now.Components) == 0 {
		return err
	}
	last, err := s.points(ctx, time.Time{}, now.At.Add(time.Hour), 1)
	if err != nil {
		return err
	}
	now.Why = "begun"
	if len(last) == 1 {
		now.Why = drift.Why(last[0], now)
	}
	components, err := json.Marshal(now.Components)
	if err != nil {
		return err
	}
	return s.store.AddDriftPoint(ctx, store.DriftPoint{Why: now.Why, Design: now.Design, Code: now.Code, Components: components})
}

// SeedPoints keeps points of before, as a demo begins with, unless there are some.
func (s *Service) SeedPoints(ctx context.Context, list []drift.DriftPoint) error {
	if there, err := s.points(ctx, time.Time{}, time.Now().Add(time.Hour), 1); err != nil || len(there) > 0 {
		return err
	}
	for _, p := range list {
		components, err := json.Marshal(p.Components)
		if err != nil {
			return err
		}
		if err := s.store.AddDriftPoint(ctx, store.DriftPoint{At: p.At, Why: p.Why, Design: p.Design, Code: p.Code, Components: components}); err != nil {
			return err
		}
	}
	return nil
}

func (s *Service) points(ctx context.Context, from, to time.Time, most int) ([]drift.DriftPoint, error) {
	rows, err := s.store.DriftPoints(ctx, from, to, most)
	out := []drift.DriftPoint{}
	for _, r := range rows {
		one := drift.DriftPoint{ID: r.ID, At: r.At, Why: r.Why, Design: r.Design, Code: r.Code}
		err = errors.Join(err, json.Unmarshal(r.Components, &one.Components))
		out = append(out, one)
	}
	return out, err
}

// DriftReport compares how far all agreed at two times: the last point at or before each, or the first there is; now where there is no second. How far they agree now is noted first.
func (s *Service) DriftReport(ctx context.Context, from, to time.Time) (drift.Report, error) {
	if err := s.NotePoint(ctx); err != nil {
		return drift.Report{}, err
	}
	p, err := s.store.Project(ctx)
	if err != nil {
		return drift.Report{}, err
	}
	if to.IsZero() {
		to = time.Now().Add(24 * time.Hour) // whatever the database's clock says
	}
	if to.Before(from) {
		from, to = to, from
	}
	before, err := s.points(ctx, time.Time{}, from, 1)
	if err != nil {
		return drift.Report{}, err
	}
	if len(before) == 1 {
		from = before[0].At
	}
	list, err := s.points(ctx, from, to, mostPoints)
	if err != nil {
		return drift.Report{}, err
	}
	records, err := s.records(ctx)
	if err != nil {
		return drift.Report{}, err
	}
	out, ok := drift.Reported(p.Name, list, records)
	if !ok {
		return out, notFound("Nothing was noted of how far all agree in that time.")
	}
	return out, nil
}

// DriftFile writes such a report as a file: html, md or json, or svg for its plot alone.
func (s *Service) DriftFile(ctx context.Context, from, to time.Time, as string) (SourceText, error) {
	r, err := s.DriftReport(ctx, from, to)
	if err != nil {
		return SourceText{}, err
	}
	out := SourceText{Name: "drift." + as}
	switch as {
	case "html":
		out.Text = []byte(r.HTML())
	case "md":
		out.Text = []byte(r.Markdown())
	case "svg":
		out.Text = []byte(r.Plot())
	default:
		out.Text, err = json.MarshalIndent(r, "", "  ")
	}
	return out, err
}
