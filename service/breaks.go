package service

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/core/trial"
)

// Break is something that a design would break, were all taken that it moved.
type Break struct {
	Kind string   `json:"kind" enum:"users,contrast"`
	What string   `json:"what" doc:"In a sentence"`
	Uses []string `json:"uses" doc:"Where it is used so today: components and pages on trial, with how often"`
}

// breaks tells what of a component would break if everything were taken that its design moved: what users of it would have to change, and contrast that is lost in a
// theme.
func (s *Service) breaks(ctx context.Context, slug string) ([]Break, error) {
	w, err := s.component(ctx, slug)
	if err != nil || w.family == nil {
		return nil, err
	}
	var take []string
	l := w.ledger()
	for _, m := range l.Moves() {
		if m.Side == ledger.DesignSide && !m.Kept {
			take = append(take, m.Key)
		}
	}
	if len(take) == 0 {
		return nil, nil
	}
	name := fmt.Sprintf("breaks %s %s %d %s", w.row.Slug, w.build, w.design, strings.Join(take, "\n"))
	found, err := recalled(&s.memo, name, func() (breaking, error) {
		c, _ := l.Take(w.doc, take)
		if c == nil {
			return breaking{}, nil // what cannot be taken at once is told where it is decided
		}
		before, err := s.findings(w)
		if err != nil {
			return breaking{}, err
		}
		out := breaking{steps: catalogue.Migration(w.contract, c)}
		for _, f := range sheet.Findings(c, w.review(c)) {
			if f.Rule == "contrast" && !slices.ContainsFunc(before, func(b sheet.Finding) bool { return b.Key == f.Key }) {
				out.contrast = append(out.contrast, f.Message)
			}
		}
		return out, nil
	})
	if err != nil {
		return nil, err
	}
	var out []Break
	for _, step := range found.steps {
		uses, err := s.usesOfStep(ctx, w, step)
		if err != nil {
			return nil, err
		}
		out = append(out, Break{Kind: "users", What: step.What, Uses: uses})
	}
	slices.SortStableFunc(out, func(a, b Break) int { return cmp.Compare(len(b.Uses), len(a.Uses)) })
	for _, message := range found.contrast {
		out = append(out, Break{Kind: "contrast", What: message, Uses: []string{}})
	}
	return out, nil
}

type breaking struct {
	steps    []catalogue.MigrationStep
	contrast []string
}

// usesOfStep tells where a component is used in the way that a step changes: where the prop, or the option, is given, or, of a default, is not.
func (s *Service) usesOfStep(ctx context.Context, w *component, step catalogue.MigrationStep) ([]string, error) {
	out := []string{}
	add := func(where string, n int) {
		if n > 0 {
			out = append(out, fmt.Sprintf("%s (%d)", where, n))
		}
	}
	var prop *contract.Prop
	for i := range w.contract.Props {
		if w.contract.Props[i].Name == step.Prop {
			prop = &w.contract.Props[i]
		}
	}
	if prop == nil {
		return out, nil
	}
	touched := func(given bool, says func(option string) bool) bool {
		switch step.Kind {
		case catalogue.DefaultChanged:
			return !given
		case catalogue.OptionRemoved, catalogue.OptionRenamed:
			return given && says(step.Value)
		}
		return given
	}
	users, err := s.store.Users(ctx, w.contract.Name)
	if err != nil {
		return nil, err
	}
	for _, row := range users {
		c, err := contractOf(row)
		if err != nil {
			return nil, err
		}
		n := 0
		c.Walk(func(p, _ *contract.Part) {
			u := p.Use()
			if u == nil || u.Component != w.contract.Name {
				return
			}
			g, given := u.Given[prop.ID]
			if touched(given, func(option string) bool { return givesOption(g, option) }) {
				n++
			}
		})
		add(c.Name, n)
	}
	pages, err := s.store.TrialOutlines(ctx)
	for _, row := range pages {
		list, _ := trial.Parse(row.Outline)
		n := 0
		trial.Walk(list, func(r, _ *trial.Row) {
			if r.Kind != trial.UseRow || r.Head != w.contract.Name {
				return
			}
			at := slices.IndexFunc(r.Args, func(a trial.Arg) bool { return a.Name == prop.Name })
			if touched(at >= 0, func(option string) bool { return at >= 0 && r.Args[at].Value == option }) {
				n++
			}
		})
		add(row.Name, n)
	}
	return out, err
}

// givesOption tells whether a use gives an option, in any case of it.
func givesOption(g contract.Given, option string) bool {
	is := func(text json.RawMessage) bool {
		var said string
		return json.Unmarshal(text, &said) == nil && said == option
	}
	return is(g.Value) || slices.ContainsFunc(g.Cases, func(c contract.GivenCase) bool { return is(c.Value) })
}
