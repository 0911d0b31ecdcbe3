package service

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/ledger"
	"cobrik/core/problem"
	"cobrik/core/sheet"
	"cobrik/store"
)

// ValueEdit sets one value of a contract.
type ValueEdit struct {
	Part     string `json:"part" doc:"Its id"`
	Property string `json:"property"`
	When     string `json:"when,omitempty" doc:"Key of the rule's condition; empty for the part's own style"`
	Value    string `json:"value" doc:"A CSS value, with {token.path} references; empty removes what is said there"`
}

// Edited is the outcome of an edit.
type Edited struct {
	Revision int      `json:"revision"`
	Reaches  []string `json:"reaches" doc:"Names of the components that use this one, and follow it"`
	Slug     string   `json:"slug" doc:"Of the component now; another after it was renamed"`
	Build    string   `json:"build" doc:"What it is compiled as from now on, where nothing else changes meanwhile"`
}

// unedited is the outcome of an edit that changes nothing.
func (w *component) unedited() Edited { return Edited{w.row.Revision, []string{}, w.row.Slug, w.build} }

// buildAt names what is compiled of another revision.
func (w *component) buildAt(revision int) string {
	_, rest, _ := strings.Cut(w.build, ".")
	return fmt.Sprintf("%d.%s", revision, rest)
}

// Edit sets values of a contract that was read at a revision.
func (s *Service) Edit(ctx context.Context, slug string, revision int, edits []ValueEdit) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c := w.contract.Clone()
	var found problem.List
	note := ""
	for i, e := range edits {
		at := fmt.Sprintf("/edits/%d", i)
		e.Part = contract.PartOf(e.Part) // an item's is that of all items
		if c.Part(e.Part) == nil {
			found.Errorf("part", at+"/part", "name a part of the contract", "there is no part %q", e.Part)
			continue
		}
		if e.Value != "" {
			if err := contract.CheckValue(e.Property, e.Value, w.tokens); err != nil {
				found.Errorf("value", at+"/value", "", "%s", err)
				continue
			}
		}
		when, err := contract.ParseWhen(e.When)
		if err != nil {
			found.Errorf("when", at+"/when", "send the key of a rule's condition", "%s", err)
			continue
		}
		c.SetValue(e.Part, e.Property, when, e.Value)
		note = fmt.Sprintf("%s · %s", c.Part(e.Part).Name, e.Property)
	}
	found = append(found, c.Check(w.tokens)...)
	if found.Failed() {
		return Edited{}, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: revision, Note: note})
}

// apply keeps an edit that makes a contract of the component's, or nothing but a release;
// a stale one is answered with the state that came first.
func (s *Service) apply(ctx context.Context, w *component, c *contract.Contract, e store.Edit) (Edited, error) {
	reaches := []string{}
	var follow []store.Edit
	if e.Read != w.row.Revision { // made of another revision than the one that was read here
		if c != nil {
			e.Contract = c.JSON()
		}
		return Edited{}, s.stale(ctx, e.Slug, e.Contract)
	}
	if c != nil {
		e.Tokens = w.library.number()
		followed, err := s.followers(ctx, w.contract, c)
		if err != nil {
			return Edited{}, err
		}
		follow = followed.edits(c.Name)
		names, found, err := s.reached(ctx, w, c, followed)
		if err != nil {
			return Edited{}, err
		}
		if found.Failed() {
			return Edited{}, invalid(found, "Nothing was changed, for %s uses it: %s", found[0].File, found[0].Message)
		}
		reaches = append(reaches, names...)
		e.NewSlug = newSlug(w, c)
		e.Name, e.Contract, e.Agreed = c.Name, c.JSON(), w.agreedOf(c, append(ledgerDecisions(e.Kept), w.kept...))
	}
	n, err := s.store.Apply(ctx, e, follow...)
	for range movedTries {
		if !errors.Is(err, store.ErrMoved) {
			break
		}
		l, failed := s.library(ctx)
		if failed != nil {
			return Edited{}, failed
		}
		if found := newErrors(w.contract.Check(w.tokens), c.Check(l.tokens())); found.Failed() {
			return Edited{}, invalid(found, "Nothing was changed, for the tokens changed meanwhile: %s", found[0].Message)
		}
		e.Tokens = l.number()
		n, err = s.store.Apply(ctx, e, follow...)
	}
	switch {
	case errors.Is(err, store.ErrMoved):
		return Edited{}, staleTokens()
	case errors.Is(err, store.ErrStale):
		return Edited{}, s.stale(ctx, e.Slug, e.Contract)
	case errors.Is(err, store.ErrUnapproved):
		return Edited{}, invalid(nil, "It was changed since it was approved, and has to be approved again before it is released.")
	case errors.Is(err, store.ErrTaken) && e.Release == nil:
		return Edited{}, nameTaken(c.Name)
	case errors.Is(err, store.ErrTaken):
		return Edited{}, &Failure{Kind: Conflict, Message: "The version " + e.Release.Version + " is released already."}
	}
	return Edited{n, reaches, cmp.Or(e.NewSlug, e.Slug), w.buildAt(n)}, err
}

// movedTries is how often a write is checked again whose tokens, or contracts, changed while it was made.
const movedTries = 12

// newSlug is the slug of a component once it is called as a contract says; empty for the same.
func newSlug(w *component, c *contract.Contract) string {
	if c.Name == w.contract.Name {
		return ""
	}
	return contract.Slug(c.Name)
}

func nameTaken(name string) error {
	return &Failure{Kind: Conflict, Message: "There is a component " + name + " already. Give this one another name."}
}

// Stale shows both versions of a contract that two people changed.
type Stale struct {
	Revision int               `json:"revision" doc:"The contract's revision now"`
	Note     string            `json:"note" doc:"What made it"`
	Changes  []contract.Change `json:"changes" doc:"From how it is now to how this edit would have it"`
}

func (s *Service) stale(ctx context.Context, slug string, mine []byte) error {
	row, err := s.store.Component(ctx, slug)
	if err != nil {
		return err
	}
	now := &Stale{Revision: row.Revision, Note: row.Note, Changes: []contract.Change{}}
	var theirs, ours contract.Contract
	if json.Unmarshal(row.Contract, &theirs) == nil && mine != nil && json.Unmarshal(mine, &ours) == nil {
		_, changes := ledger.Changes(&theirs, &ours)
		now.Changes = append(now.Changes, changes...)
	}
	return &Failure{Kind: Conflict, Message: "Somebody changed this contract since you read it. Nothing of yours was written.", Current: now}
}

// Undo undoes or redoes.
func (s *Service) Undo(ctx context.Context, slug string, revision int, to store.Direction) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	target := w.row.UndoTo
	if to == store.Forward {
		target = w.row.RedoTo
	}
	if w.row.Revision != revision {
		return Edited{}, s.stale(ctx, slug, nil)
	}
	if target == nil {
		return Edited{}, invalid(nil, "There is nothing to %s.", to)
	}
	text, err := s.store.ContractAt(ctx, w.row.ID, *target)
	if err != nil {
		return Edited{}, err
	}
	c := new(contract.Contract)
	if err := json.Unmarshal(text, c); err != nil {
		return Edited{}, err
	}
	followed, reaches, renamed, err := s.goBack(ctx, w, c, to.String())
	if err != nil {
		return Edited{}, err
	}
	n, err := s.store.Undo(ctx, slug, revision, w.library.number(), to, renamed, followed.edits(c.Name)...)
	switch {
	case errors.Is(err, store.ErrMoved):
		return Edited{}, staleTokens()
	case errors.Is(err, store.ErrStale):
		return Edited{}, s.stale(ctx, slug, nil)
	case errors.Is(err, store.ErrTaken):
		return Edited{}, nameTaken(c.Name)
	case errors.Is(err, store.ErrNotFound):
		return Edited{}, invalid(nil, "There is nothing to %s.", to)
	}
	return Edited{n, reaches, cmp.Or(renamed, slug), w.buildAt(n)}, err
}

// goBack checks that a component can have an earlier contract again, and gives what follows it, what it reaches, and its slug then where that is another.
func (s *Service) goBack(ctx context.Context, w *component, c *contract.Contract, verb string) (followed followers, reaches []string, renamed string, err error) {
	if _, err := s.link(ctx, c); err != nil {
		return followers{}, nil, "", err
	}
	if found := newErrors(w.contract.Check(w.tokens), c.Check(w.tokens)); found.Failed() {
		return followers{}, nil, "", invalid(found, "To %s it would be wrong by now: %s", verb, found[0].Message)
	}
	if followed, err = s.followers(ctx, w.contract, c); err != nil {
		return followers{}, nil, "", err
	}
	names, found, err := s.reached(ctx, w, c, followed)
	if err != nil {
		return followers{}, nil, "", err
	}
	if found.Failed() {
		return followers{}, nil, "", invalid(found, "Nothing was changed, for %s uses it: %s", found[0].File, found[0].Message)
	}
	return followed, append([]string{}, names...), newSlug(w, c), nil
}

// Values lists what a fact's place says under which conditions, for editing.
type Values struct {
	Part     string          `json:"part"`
	Name     string          `json:"name" doc:"The part's"`
	Property string          `json:"property"`
	Declared []DeclaredValue `json:"declared"`
	Types    []string        `json:"types" doc:"Token types the property takes"`
}

// DeclaredValue is one place where a contract sets a property.
type DeclaredValue struct {
	When  string `json:"when" doc:"Key of the condition; empty for the part's own style"`
	Label string `json:"label" doc:"The condition in words; empty for the part's own style"`
	Value string `json:"value"`

	Edit sheet.Edit `json:"edit" doc:"What is done on the sheet to say it: the value is typed behind its text"`
}

// ValuesOf lists where a part's property is set, the part's own style first, and
// last the switch points below which it may be.
func (s *Service) ValuesOf(ctx context.Context, slug, part, property string) (Values, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Values{}, err
	}
	p := w.contract.Part(part)
	if p == nil {
		return Values{}, notFound("There is no part %q.", part)
	}
	known, ok := css.PropertyNamed(property)
	if !ok {
		return Values{}, notFound("There is no property %q.", property)
	}
	said := func(of int, when, value string) sheet.Edit {
		switch {
		case value == "":
			return sheet.Edit{Do: "add", On: "parts/" + part, Cell: "value", Text: when + property + " "}
		case of < 0:
			return sheet.Edit{Do: "set", On: "parts/" + part + "/" + property, Cell: "value"}
		}
		return sheet.Edit{Do: "set", On: fmt.Sprintf("rules/%d/%s", of, property), Cell: "value"}
	}
	own := p.Style[property]
	out := Values{Part: part, Name: p.Name, Property: property, Declared: []DeclaredValue{{Value: own, Edit: said(-1, "", own)}}, Types: known.TokenTypes()}
	if out.Types == nil {
		out.Types = []string{}
	}
	for i, r := range w.contract.Rules {
		if v, ok := r.Set[property]; ok && r.Part == part {
			out.Declared = append(out.Declared, DeclaredValue{r.When.Key(), w.contract.Words(r.When), v, said(i, "", v)})
		}
	}
	for _, at := range w.contract.SwitchPoints() {
		below := contract.BelowWidth(at)
		if !slices.ContainsFunc(out.Declared, func(s DeclaredValue) bool { return s.When == below.Key() }) {
			out.Declared = append(out.Declared, DeclaredValue{When: below.Key(), Label: below.String(), Edit: said(-1, "when "+w.contract.Words(below)+": ", "")})
		}
	}
	return out, nil
}
