package service

import (
	"cobrik/core/css"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/store"
)

// TokenEdit is one change a person makes to tokens.
type TokenEdit struct {
	Kind        string `json:"kind" enum:"set,rename,describe,deprecate,remove"`
	Path        string `json:"path" maxLength:"300"`
	File        string `json:"file,omitempty" maxLength:"300" doc:"set: file to write into; empty for the one that gives it"`
	Type        string `json:"type,omitempty" maxLength:"40" doc:"set: type of a token that is new"`
	Text        string `json:"text,omitempty" maxLength:"20000" doc:"set: the value as CSS writes it, an alias in braces, or JSON; describe, deprecate: the words"`
	To          string `json:"to,omitempty" maxLength:"300" doc:"rename: the new path"`
	KeepOld     bool   `json:"keepOld,omitempty" doc:"rename: leave the old name behind as a deprecated alias"`
	Description string `json:"description,omitempty" maxLength:"2000" doc:"set: what it is for, of a token that is new"`
}

// tokenChange is edits carried out, not yet kept.
type tokenChange struct {
	before, after *library
	renames       []store.Rename
	note          string
}

// change carries edits out on a state. Whatever would be wrong after and was
// not before is a failure.
func (s *Service) change(ctx context.Context, edits []TokenEdit) (*tokenChange, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	c := &tokenChange{before: l}
	var list []token.Edit
	for i, e := range edits {
		one := token.Edit{Kind: e.Kind, Path: e.Path, File: e.File, To: e.To, Description: e.Text, Reason: e.Text}
		c.note = e.Path
		switch e.Kind {
		case "set":
			t := l.find(e.Path)
			kind := e.Type
			if t != nil {
				kind = t.Type
			} else {
				one.Type = e.Type
				c.note += " added"
			}
			if one.Value, err = token.FromText(kind, e.Text); err != nil {
				var found problem.List
				found.Errorf("value", fmt.Sprintf("/edits/%d/text", i), "", "%s", err)
				return nil, invalid(found, "Nothing was changed: %s", err)
			}
			if strings.HasPrefix(strings.TrimSpace(e.Text), "{") && !strings.Contains(e.Text, `"`) {
				one.Type = "" // an alias has the type of what it points at
			}
		case "rename":
			c.note += " renamed to " + e.To
			c.renames = append(c.renames, store.Rename{From: e.Path, To: e.To})
		case "deprecate":
			c.note += " deprecated"
		case "remove":
			c.note += " removed"
		}
		list = append(list, one)
		if e.Kind == "set" && e.Description != "" {
			list = append(list, token.Edit{Kind: "describe", Path: e.Path, Description: e.Description})
		}
		if e.Kind == "rename" && e.KeepOld {
			list = append(list, l.leaveBehind(e.Path, e.To)...)
		}
	}
	if len(edits) > 1 {
		c.note += fmt.Sprintf(" and %d more", len(edits)-1)
	}
	files, found := token.Apply(l.files, list...)
	if found.Failed() {
		return nil, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	var stored []store.TokenFile
	for _, f := range l.stored {
		for _, edited := range files {
			if edited.Name == f.Name {
				f.Content = edited.Text
			}
		}
		stored = append(stored, f)
	}
	if c.after, err = openLibrary(ctx, l.state, stored); err != nil {
		return nil, err
	}
	if fresh := newErrors(l.problems(), c.after.problems()); len(fresh) > 0 {
		return nil, invalid(fresh, "Nothing was changed: %s", fresh[0].Message)
	}
	return c, nil
}

// find gives a token from the first theme that has it.
func (l *library) find(path string) *token.Token {
	for _, set := range l.sets {
		if t := set.Get(path); t != nil {
			return t
		}
	}
	return nil
}

// leaveBehind makes an alias of the old name of every token that moves.
func (l *library) leaveBehind(from, to string) []token.Edit {
	var out []token.Edit
	for _, t := range l.sets[0].All() {
		if t.Path != from && !strings.HasPrefix(t.Path, from+".") {
			continue
		}
		now := to + t.Path[len(from):]
		value, _ := token.FromText("", "{"+now+"}")
		out = append(out, token.Edit{Kind: "set", Path: t.Path, File: t.File, Value: value},
			token.Edit{Kind: "deprecate", Path: t.Path, Reason: "renamed to " + now})
	}
	return out
}

// newErrors lists errors that were not there before.
func newErrors(before, after problem.List) problem.List {
	known := map[string]bool{}
	for _, p := range before {
		known[p.Rule+p.Message] = true
	}
	var out problem.List
	for _, p := range after {
		if p.Severity == problem.Error && !known[p.Rule+p.Message] {
			out = append(out, p)
		}
	}
	return out
}

// follow gives the edits of contracts that follow from renamed tokens, and what
// a change would make wrong with contracts that was not wrong before.
func (s *Service) follow(ctx context.Context, renames []store.Rename, change *tokenChange) ([]store.Edit, problem.List, error) {
	components, err := s.contractUses(ctx)
	if err != nil {
		return nil, nil, err
	}
	var edits []store.Edit
	var found problem.List
	for _, k := range components {
		before := k.contract
		c := before.Clone()
		n := 0
		for _, r := range renames {
			n += c.RenameToken(r.From, r.To)
		}
		if change != nil {
			for _, p := range newErrors(before.Check(change.before.sets[0]), c.Check(change.after.sets[0])) {
				p.File, p.Message = k.name, k.name+": "+p.Message
				found = append(found, p)
			}
		}
		if n > 0 {
			note := "tokens renamed"
			if len(renames) == 1 {
				note = renames[0].From + " renamed to " + renames[0].To
			}
			agreed, err := agreedWith(k.row, func(base *contract.Contract) {
				for _, r := range renames {
					base.RenameToken(r.From, r.To)
				}
			})
			if err != nil {
				return nil, nil, err
			}
			edits = append(edits, store.Edit{Slug: k.slug, Read: k.row.Revision, Name: c.Name, Contract: c.JSON(), Agreed: agreed, Note: note})
		}
	}
	return edits, found, nil
}

// EditTokens carries edits out and keeps the new state, contracts following
// what was renamed.
func (s *Service) EditTokens(ctx context.Context, state int, edits []TokenEdit) (TokenRevision, error) {
	return s.withContracts(ctx, func(seen string) (int, error) { return s.editTokens(ctx, state, edits, seen) })
}

// withContracts writes tokens that were checked with the contracts that were seen, and again when those changed meanwhile.
func (s *Service) withContracts(ctx context.Context, write func(seen string) (int, error)) (TokenRevision, error) {
	for range movedTries {
		seen, err := s.store.Contracts(ctx)
		if err != nil {
			return TokenRevision{}, err
		}
		number, err := write(seen)
		if errors.Is(err, store.ErrMoved) {
			continue
		}
		if errors.Is(err, store.ErrStale) {
			err = staleTokens()
		}
		return TokenRevision{number}, err
	}
	return TokenRevision{}, staleTokens()
}

func (s *Service) editTokens(ctx context.Context, state int, edits []TokenEdit, seen string) (int, error) {
	c, err := s.change(ctx, edits)
	if err != nil {
		return 0, err
	}
	if c.before.state.Number != state {
		return 0, staleTokens()
	}
	contracts, found, err := s.follow(ctx, c.renames, c)
	if err != nil {
		return 0, err
	}
	if found.Failed() {
		return 0, invalid(found, "Nothing was changed: %s", found[0].Message)
	}
	return s.store.PutTokens(ctx, store.NewTokens{Read: state, Note: c.note, Files: c.after.stored, Renames: c.renames, Contracts: contracts, Seen: seen})
}

// TokenRevision is the number of a state of the tokens.
type TokenRevision struct {
	Revision int `json:"revision"`
}

func staleTokens() error {
	return &Failure{Kind: Conflict, Message: "Somebody changed the tokens since you read them. Nothing of yours was written; look again and repeat it."}
}

// UndoTokens undoes or redoes; contracts follow what gets its old name back.
func (s *Service) UndoTokens(ctx context.Context, state int, to store.Direction) (TokenRevision, error) {
	return s.withContracts(ctx, func(seen string) (int, error) { return s.undoTokens(ctx, state, to, seen) })
}

func (s *Service) undoTokens(ctx context.Context, state int, to store.Direction, seen string) (int, error) {
	now, err := s.store.TokenRevision(ctx)
	if err != nil {
		return 0, err
	}
	if now.Number != state {
		return 0, staleTokens()
	}
	var renames []store.Rename
	switch {
	case to == store.Forward && now.RedoTo != nil:
		there, err := s.store.TokenRevisionAt(ctx, *now.RedoTo)
		if err != nil {
			return 0, err
		}
		renames = there.Renames
	case to == store.Backward && now.UndoTo != nil && *now.UndoTo > 0:
		for _, r := range slices.Backward(now.Renames) {
			renames = append(renames, store.Rename{From: r.To, To: r.From})
		}
	default:
		return 0, invalid(nil, "There is nothing to %s.", to)
	}
	contracts, _, err := s.follow(ctx, renames, nil)
	if err != nil {
		return 0, err
	}
	return s.store.UndoTokens(ctx, state, to, seen, contracts)
}

// Impact is what edits would change, before they are kept.
type Impact struct {
	Revision   int               `json:"revision"`
	Tokens     []TokenMove       `json:"tokens" doc:"Tokens whose value changes, in any theme"`
	Components []ComponentImpact `json:"components"`
	Contrasts  []ContrastMove    `json:"contrasts" doc:"Pairs that come to fail, or to pass"`
	Layers     int               `json:"layers" doc:"Layers bound to a name that would be gone: their design does not follow by itself"`
}

// TokenMove is a token's value before and after.
type TokenMove struct {
	Path   string `json:"path"`
	Type   string `json:"type"`
	Theme  string `json:"theme"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// ComponentImpact is how much of a component changes.
type ComponentImpact struct {
	Slug  string `json:"slug"`
	Name  string `json:"name"`
	Cases int    `json:"cases" doc:"Cases that would look different"`
	Of    int    `json:"of" doc:"Cases there are"`
	Facts int    `json:"facts" doc:"Values that would change, over all cases"`
}

// ContrastMove is a pair of colours whose contrast comes to fail or to pass.
type ContrastMove struct {
	Theme  string  `json:"theme"`
	Text   string  `json:"text"`
	Ground string  `json:"ground"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
	Needs  float64 `json:"needs"`
	Fails  bool    `json:"fails" doc:"It fails after, and passed before"`
}

// PreviewTokens says what edits would change. Nothing is kept.
func (s *Service) PreviewTokens(ctx context.Context, edits []TokenEdit) (Impact, error) {
	out := Impact{Tokens: []TokenMove{}, Components: []ComponentImpact{}, Contrasts: []ContrastMove{}}
	c, err := s.change(ctx, edits)
	if err != nil {
		return out, err
	}
	out.Revision = c.before.state.Number
	_, found, err := s.follow(ctx, c.renames, c)
	if err != nil {
		return out, err
	}
	if found.Failed() {
		return out, invalid(found, "This edit is not possible: %s", found[0].Message)
	}
	now := func(path string) string { return renamed(path, c.renames) }
	for i, set := range c.before.sets {
		for _, t := range set.All() {
			after := c.after.sets[i].Get(now(t.Path))
			if after == nil || after.Value != t.Value {
				move := TokenMove{Path: t.Path, Type: t.Type, Theme: themeName(c.before.themes[i]), Before: t.Value}
				if after != nil {
					move.After = after.Value
				}
				out.Tokens = append(out.Tokens, move)
			}
		}
	}
	if out.Components, err = s.componentImpact(ctx, c, now); err != nil {
		return out, err
	}
	roles, err := s.roles(ctx)
	if err != nil {
		return out, err
	}
	for i := range c.before.sets {
		out.Contrasts = append(out.Contrasts, contrastMoves(themeName(c.before.themes[i]), c.before.sets[i].Contrasts(roles), c.after.sets[i].Contrasts(roles), now)...)
	}
	layers, err := s.bindings(ctx)
	for _, b := range layers {
		if c.before.find(b.path) != nil && c.after.find(b.path) == nil {
			out.Layers++
		}
	}
	return out, err
}

func renamed(path string, renames []store.Rename) string {
	for _, r := range renames {
		if path == r.From || strings.HasPrefix(path, r.From+".") {
			path = r.To + path[len(r.From):]
		}
	}
	return path
}

func (s *Service) componentImpact(ctx context.Context, c *tokenChange, now func(string) string) ([]ComponentImpact, error) {
	out := []ComponentImpact{}
	components, err := s.contractUses(ctx)
	if err != nil {
		return out, err
	}
	for _, k := range components {
		w, err := s.componentOf(ctx, k.row)
		if err != nil {
			return out, err
		}
		after := k.contract.Clone()
		for _, r := range c.renames {
			after.RenameToken(r.From, r.To)
		}
		one := ComponentImpact{Slug: k.slug, Name: k.name}
		for _, kase := range w.cases() {
			one.Of++
			facts := 0
			then := contract.Resolve(after, contract.EnvOf(kase.Values), c.after.sets[0])
			contract.Resolve(k.contract, contract.EnvOf(kase.Values), c.before.sets[0]).Walk(func(r *contract.Resolved) {
				other := then.Find(r.Part.Name)
				for property, v := range r.Values {
					if other.Values[property].Value != v.Value {
						facts++
					}
				}
			})
			if facts > 0 {
				one.Cases++
				one.Facts += facts
			}
		}
		if one.Cases > 0 {
			out = append(out, one)
		}
	}
	return out, nil
}

func contrastMoves(theme string, before, after token.Contrasts, now func(string) string) []ContrastMove {
	then := map[[2]string]token.Contrast{}
	for _, p := range after.Pairs {
		then[[2]string{p.Text, p.Ground}] = p
	}
	var out []ContrastMove
	for _, p := range before.Pairs {
		q, ok := then[[2]string{now(p.Text), now(p.Ground)}]
		if ok && p.Meant && q.Meant && p.Fails() != q.Fails() {
			out = append(out, ContrastMove{theme, q.Text, q.Ground, round2(p.Ratio), round2(q.Ratio), q.Needs, q.Fails()})
		}
	}
	return out
}

// round2 keeps two decimals, downward: 4.499 does not pass as 4.5.
func round2(v float64) float64 { return math.Floor(v*100) / 100 }

// roles says as what contracts use a colour: where several, text before line
// before ground.
func (s *Service) roles(ctx context.Context) (map[string]token.Role, error) {
	components, err := s.contractUses(ctx)
	out := map[string]token.Role{}
	order := []token.Role{"", token.GroundRole, token.LineRole, token.TextRole}
	for _, c := range components {
		for _, u := range c.uses {
			role, paints := contract.Paints(u.Property)
			paths := css.RefsIn(u.Value)
			if paints && len(paths) == 1 && slices.Index(order, role) > slices.Index(order, out[paths[0]]) {
				out[paths[0]] = role
			}
		}
	}
	return out, err
}

// binding is a layer's property that is bound to a token.
type binding struct {
	LayerUse
	path string
}

// bindings lists what the layers of all documents are bound to.
func (s *Service) bindings(ctx context.Context) ([]binding, error) {
	docs, err := s.allDocuments(ctx)
	if err != nil {
		return nil, err
	}
	var out []binding
	for _, doc := range docs {
		add := func(where string, root *design.Layer) {
			root.Walk(func(l *design.Layer, _, _ float64) {
				for property, path := range l.Tokens {
					out = append(out, binding{LayerUse{doc.ID, where, l.ID, l.Name, property}, path})
				}
			})
		}
		for _, p := range doc.Pages {
			for _, l := range p.Layers {
				add(p.Name, l)
			}
		}
		for _, f := range doc.Families {
			for _, v := range f.Variants {
				add(f.Name, v.Root)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b binding) int {
		return strings.Compare(a.Where+a.Layer+a.Property, b.Where+b.Layer+b.Property)
	})
	return out, nil
}

// agreedWith gives what is agreed of a component while parts of it wait, changed as its
// contract is; nil when nothing waits.
func agreedWith(row store.Component, change func(*contract.Contract)) ([]byte, error) {
	base, err := baseOf(row)
	if base == nil || err != nil {
		return nil, err
	}
	change(base)
	return base.JSON(), nil
}

// baseOf reads what is agreed of a component while parts of it wait; nil for the
// contract itself.
func baseOf(row store.Component) (*contract.Contract, error) {
	if row.Agreed == nil {
		return nil, nil
	}
	var base *contract.Contract
	if err := json.Unmarshal(row.Agreed, &base); err != nil {
		return nil, fmt.Errorf("what is agreed of %s: %w", row.Slug, err)
	}
	return base, nil
}

func contractOf(row store.Component) (*contract.Contract, error) {
	var c *contract.Contract
	if err := json.Unmarshal(row.Contract, &c); err != nil {
		return nil, fmt.Errorf("contract of %s: %w", row.Slug, err)
	}
	return c, nil
}
