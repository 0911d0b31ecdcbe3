package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"maps"
	"slices"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/problem"
	"cobrik/store"
)

// link ties the uses in a contract to the components of the project, and names the states that
// these are in; empty where nothing is used.
func (s *Service) link(ctx context.Context, c *contract.Contract) (state string, err error) {
	return s.linkWith(ctx, c, nil)
}

// linkWith is link with a component that is not kept yet; nil for none.
func (s *Service) linkWith(ctx context.Context, c, more *contract.Contract) (state string, err error) {
	if len(c.UsedParts()) == 0 {
		return "", nil
	}
	hash := fnv.New32a()
	linker := contract.NewLinker(func(name string) *contract.Contract {
		if more != nil && more.Name == name {
			return more.Clone()
		}
		row, lookup := s.store.Component(ctx, contract.Slug(name))
		switch {
		case errors.Is(lookup, store.ErrNotFound):
			return nil
		case lookup != nil:
			err = lookup
			return nil
		}
		fmt.Fprintf(hash, "%s.%d ", row.Slug, row.Revision)
		found, broken := contractOf(row)
		if broken != nil {
			err = broken
		}
		if found == nil || found.Name != name {
			return nil
		}
		return found
	})
	if _, cycle := linker.Link(c); cycle != nil && err == nil {
		err = cycleFailure(cycle)
	}
	return fmt.Sprintf("%x", hash.Sum32()), err
}

// linkAsOf is link with the components as they were at a time.
func (s *Service) linkAsOf(ctx context.Context, c *contract.Contract, then time.Time) (err error) {
	linker := contract.NewLinker(func(name string) *contract.Contract {
		text, lookup := s.store.ContractAsOf(ctx, contract.Slug(name), then)
		switch {
		case errors.Is(lookup, store.ErrNotFound):
			return nil
		case lookup != nil:
			err = lookup
			return nil
		}
		found := new(contract.Contract)
		if broken := json.Unmarshal(text, found); broken != nil {
			err = broken
		}
		if found.Name != name {
			return nil
		}
		return found
	})
	if _, cycle := linker.Link(c); cycle != nil && err == nil {
		err = cycleFailure(cycle)
	}
	return err
}

func cycleFailure(chain []string) error {
	return invalid(nil, "%s would be made of itself: %s", chain[0], strings.Join(chain, " → "))
}

// components gives the components drafted from families of a document, as package draft asks for
// them. What went wrong on the way is kept.
func (s *Service) components(ctx context.Context, document string, failed *error) draft.Components {
	known := map[string]*contract.Contract{}
	return func(family string) *contract.Contract {
		if c, asked := known[family]; asked {
			return c
		}
		known[family] = nil
		row, err := s.store.Drawn(ctx, document, family)
		if err == nil {
			var c *contract.Contract
			if c, err = contractOf(row); err == nil {
				_, err = s.link(ctx, c)
				known[family] = c
			}
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) && *failed == nil {
			*failed = err
		}
		return known[family]
	}
}

// draftInside drafts the families that a family uses and that have no component, inside out.
func (s *Service) draftInside(ctx context.Context, doc *design.Document, roots []*design.Layer, revision int, l *library, known draft.Components) ([]store.NewComponent, draft.Components, problem.List, error) {
	drafted := map[string]*contract.Contract{}
	components := func(family string) *contract.Contract {
		if c := drafted[family]; c != nil {
			return c
		}
		return known(family)
	}
	var out []store.NewComponent
	var found problem.List
	all, cycle := draft.UsedFamilies(doc, roots)
	if cycle != nil {
		return nil, nil, nil, cycleFailure(cycle)
	}
	for _, f := range all {
		if components(f.ID) != nil {
			continue
		}
		c, _, problems := draft.Of(doc, contract.Origin{Document: doc.ID, Family: f.ID, Revision: revision}, "", l.tokens(), s.fonts, components)
		found = append(found, problems...)
		if c == nil {
			return nil, nil, found, invalid(problems, "%s, which it uses, could not be drafted: %s", f.Name, howMany(problems))
		}
		drafted[f.ID] = c
		out = append(out, store.NewComponent{Slug: contract.Slug(c.Name), Name: c.Name, Document: doc.ID, Source: f.ID, Contract: c.JSON()})
	}
	return out, components, found, nil
}

// users lists the components that use one, and those that use these, by their names.
func (s *Service) users(ctx context.Context, name string) (out []store.Component, err error) {
	known := map[string]bool{name: true}
	for queue := []string{name}; len(queue) > 0; queue = queue[1:] {
		rows, err := s.store.Users(ctx, queue[0])
		if err != nil {
			return nil, err
		}
		for _, row := range rows {
			if !known[row.Name] {
				known[row.Name] = true
				out, queue = append(out, row), append(queue, row.Name)
			}
		}
	}
	slices.SortFunc(out, func(a, b store.Component) int { return strings.Compare(a.Name, b.Name) })
	return out, nil
}

func namesOf(rows []store.Component) []string {
	out := make([]string, len(rows))
	for i, row := range rows {
		out[i] = row.Name
	}
	return out
}

// follower is a contract that follows what is called otherwise in a component that it uses.
type follower struct {
	row      store.Component
	contract *contract.Contract
	agreed   *contract.Contract // nil for itself
}

type followers map[string]*follower // by name

// followers gives the contracts that follow a component from one state to another, those that pass on what is
// called otherwise with those that use them.
func (s *Service) followers(ctx context.Context, was, now *contract.Contract) (followers, error) {
	out := followers{}
	for queue := []contract.Renamed{contract.RenamedBetween(was, now)}; len(queue) > 0; queue = queue[1:] {
		r := queue[0]
		if !r.Any() {
			continue
		}
		rows, err := s.store.Users(ctx, r.From)
		if r.From != r.To { // a slot that is meant for it makes no user
			rows, err = s.store.Components(ctx)
		}
		if err != nil {
			return nil, err
		}
		for _, row := range rows {
			if row.Name == was.Name {
				continue
			}
			f := out[row.Name]
			if f == nil {
				f = &follower{row: row}
				if f.contract, err = contractOf(row); err != nil {
					return nil, err
				}
				if f.agreed, err = baseOf(row); err != nil {
					return nil, err
				}
			}
			own, changed := f.contract.Follow(r)
			if f.agreed != nil {
				_, also := f.agreed.Follow(r)
				changed = changed || also
			}
			if changed {
				out[row.Name] = f
				queue = append(queue, own)
			}
		}
	}
	return out, nil
}

// edits are the followers' new states.
func (f followers) edits(of string) (out []store.Edit) {
	for _, name := range slices.Sorted(maps.Keys(f)) {
		one := f[name]
		e := store.Edit{Slug: one.row.Slug, Read: one.row.Revision, Name: one.contract.Name, Contract: one.contract.JSON(), Note: "follows " + of}
		if one.agreed != nil {
			e.Agreed = one.agreed.JSON()
		}
		out = append(out, e)
	}
	return out
}

// reached lists the names of the components that a change of one reaches, and what the change
// would make wrong with them.
// Followed are those of them that follow what is called otherwise.
func (s *Service) reached(ctx context.Context, w *component, c *contract.Contract, followed followers) (names []string, found problem.List, err error) {
	rows, err := s.users(ctx, w.contract.Name)
	if err != nil {
		return nil, nil, err
	}
	for _, row := range rows {
		problems, err := s.checkWith(ctx, row, c, w, followed)
		if err != nil {
			return nil, nil, err
		}
		found = append(found, problems...)
	}
	return namesOf(rows), found, nil
}

// checkWith lists what a changed component makes wrong with one that uses it.
func (s *Service) checkWith(ctx context.Context, row store.Component, changed *contract.Contract, w *component, followed followers) (problem.List, error) {
	check := func(replaced *contract.Contract, followed followers) (problem.List, error) {
		c, err := contractOf(row)
		if err != nil {
			return nil, err
		}
		if f, ok := followed[row.Name]; ok {
			c = f.contract.Clone()
		}
		var failed error
		_, cycle := contract.NewLinker(func(name string) *contract.Contract {
			if name == replaced.Name {
				return replaced.Clone()
			}
			if f, ok := followed[name]; ok {
				return f.contract.Clone()
			}
			other, err := s.store.Component(ctx, contract.Slug(name))
			if err != nil {
				failed = err
				return nil
			}
			found, err := contractOf(other)
			if err != nil {
				failed = err
			}
			return found
		}).Link(c)
		if cycle != nil {
			return nil, cycleFailure(cycle)
		}
		return c.Check(w.tokens), failed
	}
	before, err := check(w.contract, nil)
	if err != nil {
		return nil, err
	}
	after, err := check(changed, followed)
	found := newErrors(before, after)
	for i := range found {
		found[i].File, found[i].Message = row.Name, row.Name+": "+found[i].Message
	}
	return found, err
}
