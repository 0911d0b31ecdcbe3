package service

import (
	"context"
	"errors"
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/source"
	"cobrik/core/survey"
	"cobrik/store"
)

// AdoptRequest names a component that people wrote, and the family that it is to be held against.
type AdoptRequest struct {
	Name     string `json:"name" maxLength:"200" doc:"As its code calls it"`
	Hash     string `json:"hash,omitempty" doc:"The commit that was read"`
	Document string `json:"document,omitempty" maxLength:"120" doc:"Of the family"`
	Family   string `json:"family,omitempty" maxLength:"200" doc:"Empty for a component without a drawing"`
}

// AdoptPlan is what would be made of a component that people wrote.
type AdoptPlan struct {
	Name     string           `json:"name"`
	File     string           `json:"file" doc:"From the repository's root"`
	Sheets   []string         `json:"sheets" doc:"Style sheets that were read with it"`
	Document string           `json:"document"`
	Family   string           `json:"family" doc:"It is held against; empty for none"`
	Families []AdoptFamily    `json:"families" doc:"Without a component, those of its name first"`
	Props    []string         `json:"props"`
	Parts    int              `json:"parts"`
	Facts    int              `json:"facts" doc:"How many were read"`
	Unsure   []UnsureFact     `json:"unsure" doc:"Facts that may be meant otherwise"`
	Unread   problem.List     `json:"unread" doc:"What could not be read: no contract holds it"`
	Renamed  []source.Renamed `json:"renamed" doc:"What goes by another name in the drawing, and is taken for the same"`
	Moves    []string         `json:"moves" doc:"What the drawing says otherwise, in sentences"`
	Wrong    problem.List     `json:"wrong" doc:"Why no contract can be made of it; empty for nothing"`
}

// AdoptFamily is a family that a component could be held against.
type AdoptFamily struct {
	Document string `json:"document"`
	ID       string `json:"id"`
	Name     string `json:"name"`
}

// UnsureFact is a fact that the code may mean otherwise.
type UnsureFact struct {
	What string           `json:"what"`
	Why  string           `json:"why"`
	At   *source.Position `json:"at,omitempty"`
}

// PlanAdopt reads a component that people wrote, and tells what a contract of it would say.
func (s *Service) PlanAdopt(ctx context.Context, r AdoptRequest) (AdoptPlan, error) {
	a, err := s.adopt(ctx, r)
	return a.plan, err
}

// adopting is a contract made of code, not yet kept.
type adopting struct {
	plan     AdoptPlan
	contract *contract.Contract
	tokens   *int
}

func (s *Service) adopt(ctx context.Context, r AdoptRequest) (adopting, error) {
	var out adopting
	side, ok, err := s.codeNow(ctx)
	if err != nil {
		return out, err
	}
	if !ok || r.Hash != "" && r.Hash != side.hash {
		return out, &Failure{Kind: Conflict, Message: "The code moved since you read it. Read it again."}
	}
	i := slices.IndexFunc(side.unknown, func(n source.Named) bool { return n.Name == r.Name })
	if i < 0 {
		return out, notFound("The code has no component %q without a contract.", r.Name)
	}
	named := side.unknown[i]
	out.plan = AdoptPlan{Name: r.Name, File: path.Join(side.target.Folder, named.File), Sheets: []string{}, Families: []AdoptFamily{}, Props: []string{}, Unsure: []UnsureFact{},
		Unread: problem.List{}, Renamed: []source.Renamed{}, Moves: []string{}, Wrong: problem.List{}}
	if out.plan.Families, err = s.adoptable(ctx, r.Name); err != nil {
		return out, err
	}
	reading := side.code.Again().Read(named.File, named.Name, side.options)
	if reading == nil {
		out.plan.Wrong.Errorf("adopt-unread", "", "make it a function that gives JSX back", "%s could not be read: %s", r.Name, named.Why)
		return out, nil
	}
	c := reading.Contract
	c.Name = contract.ComponentName(r.Name)
	if r.Family != "" {
		if err := s.heldAgainst(ctx, r, reading, &out.plan); err != nil {
			return out, err
		}
	}
	if _, err := s.link(ctx, c); err != nil {
		return out, err
	}
	out.tokens = side.lib.number()
	c.Timed(side.lib.tokens())
	for _, sheet := range reading.Sheets {
		out.plan.Sheets = append(out.plan.Sheets, path.Join(side.target.Folder, sheet))
	}
	for _, p := range c.Props {
		out.plan.Props = append(out.plan.Props, p.Name)
	}
	c.Walk(func(*contract.Part, *contract.Part) { out.plan.Parts++ })
	out.plan.Facts = len(reading.Facts())
	for about, why := range reading.Unsure {
		one := UnsureFact{What: about.String(), Why: why}
		if at, ok := reading.Places[about]; ok {
			at.File = path.Join(side.target.Folder, at.File)
			one.At = &at
		}
		out.plan.Unsure = append(out.plan.Unsure, one)
	}
	slices.SortFunc(out.plan.Unsure, func(a, b UnsureFact) int { return strings.Compare(a.What, b.What) })
	for _, p := range reading.Unread {
		p.File = path.Join(side.target.Folder, p.File)
		out.plan.Unread = append(out.plan.Unread, p)
	}
	for _, p := range c.Check(side.lib.tokens()) {
		if p.Severity == problem.Error {
			out.plan.Wrong = append(out.plan.Wrong, p)
		}
	}
	out.contract = c
	return out, nil
}

// adoptable lists the families that no component is drawn by, those of a name first.
func (s *Service) adoptable(ctx context.Context, name string) ([]AdoptFamily, error) {
	docs, err := s.allDocuments(ctx)
	if err != nil {
		return nil, err
	}
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	out := []AdoptFamily{}
	for _, d := range docs {
		for _, f := range d.Families {
			if !slices.ContainsFunc(heads, func(h store.Head) bool { return h.Document == d.ID && h.SourceID == f.ID }) {
				out = append(out, AdoptFamily{d.ID, f.ID, f.Name})
			}
		}
	}
	same := func(f AdoptFamily) int {
		if contract.Slug(f.Name) == contract.Slug(name) {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out, func(a, b AdoptFamily) int { return same(a) - same(b) })
	return out, nil
}

// heldAgainst ties a contract that was read of code to a family's drawing: parts and props are those that a draft of the family has, by their names, else by where they
// stand and what they hold.
func (s *Service) heldAgainst(ctx context.Context, r AdoptRequest, reading *source.Reading, plan *AdoptPlan) error {
	doc, number, err := s.document(ctx, r.Document)
	if err != nil {
		return err
	}
	family := doc.Family(r.Family)
	if family == nil {
		return notFound("There is no family %q in %s.", r.Family, doc.Name)
	}
	l, err := s.library(ctx)
	if err != nil {
		return err
	}
	var failed error
	components := s.components(ctx, doc.ID, &failed)
	drawn, _, found := draft.Of(doc, survey.ReadBy(contract.Origin{Document: doc.ID, Family: family.ID, Revision: number}, l.tokens()), "", l.tokens(), s.fonts, components)
	if failed != nil {
		return failed
	}
	if drawn == nil { // another family, or none, may be chosen
		plan.Wrong = append(plan.Wrong, found...)
		return nil
	}
	plan.Document, plan.Family = doc.ID, family.ID
	plan.Renamed = append(plan.Renamed, reading.Align(drawn)...)
	c := reading.Contract
	c.Origin, c.States, c.Widths = drawn.Origin, drawn.States, drawn.Widths
	for i := range c.Props {
		if p := drawn.Prop(c.Props[i].ID); p != nil && p.Kind() == c.Props[i].Kind() {
			c.Props[i].Axis, c.Props[i].On, c.Props[i].Off = p.Axis, p.On, p.Off
		}
	}
	c.Walk(func(p, _ *contract.Part) {
		if q := drawn.Part(p.ID); q != nil {
			p.Layer, p.Drawn = q.Layer, q.Drawn
		}
	})
	for _, m := range adoptedMoves(c, family, l, components) {
		plan.Moves = append(plan.Moves, m.Said())
	}
	return nil
}

func adoptedMoves(c *contract.Contract, family *design.Family, l *library, components draft.Components) []ledger.Move {
	return ledger.New(ledger.Agreed{Contract: c, Tokens: l.tokens(), Components: components}, family).Moves()
}

// AdoptCode makes a component of code that people wrote. Its code is in step from the next reading on, as far as a contract holds it.
func (s *Service) AdoptCode(ctx context.Context, r AdoptRequest) (Drafted, error) {
	a, err := s.adopt(ctx, r)
	if err != nil {
		return Drafted{}, err
	}
	if a.plan.Wrong.Failed() {
		return Drafted{}, invalid(a.plan.Wrong, "No contract can be made of %s: %s", r.Name, a.plan.Wrong[0].Message)
	}
	slug := contract.Slug(a.contract.Name)
	err = s.store.AddComponents(ctx, store.NewComponent{Slug: slug, Name: a.contract.Name, Document: a.plan.Document, Source: a.plan.Family, Contract: a.contract.JSON(), Tokens: a.tokens})
	switch {
	case errors.Is(err, store.ErrMoved):
		return Drafted{}, staleTokens()
	case errors.Is(err, store.ErrTaken):
		return Drafted{}, nameTaken(a.contract.Name)
	case err != nil:
		return Drafted{}, err
	}
	_, err = s.ReadTarget(ctx)
	return Drafted{Slug: slug, Inside: []string{}, Notes: []string{}}, err
}
