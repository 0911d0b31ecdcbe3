package service

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/store"
)

// SheetView is a contract as a page.
type SheetView struct {
	sheet.Sheet
	Revision int `json:"revision"`
	Uses     int `json:"uses" doc:"How often the components that use it do"`
}

// Sheet writes a component's contract as a page.
func (s *Service) Sheet(ctx context.Context, slug string) (SheetView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return SheetView{}, err
	}
	out := SheetView{Sheet: sheet.Of(w.contract, w.tokens), Revision: w.row.Revision}
	out.Uses, err = s.usesOf(ctx, w.contract.Name)
	return out, err
}

// ContractJSON gives a component's contract as it is stored in a file.
func (s *Service) ContractJSON(ctx context.Context, slug string) ([]byte, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	return w.contract.JSON(), nil
}

// usesOf counts the uses of a component in others.
func (s *Service) usesOf(ctx context.Context, name string) (n int, err error) {
	rows, err := s.store.Users(ctx, name)
	for _, row := range rows {
		c, failed := contractOf(row)
		if failed != nil {
			return n, failed
		}
		for _, p := range c.UsedParts() {
			if p.Use().Component == name {
				n++
			}
		}
	}
	return n, err
}

// world is what an edit of a component may refer to.
func (s *Service) world(ctx context.Context, w *component, failed *error) sheet.World {
	themes := map[string][]string{}
	for _, t := range w.library.themes {
		for _, c := range t {
			if !slices.Contains(themes[c.Modifier], c.Context) {
				themes[c.Modifier] = append(themes[c.Modifier], c.Context)
			}
		}
	}
	icons, err := s.libraryIcons(ctx)
	if err != nil {
		*failed = err
	}
	named := make([]contract.NamedIcon, len(icons))
	for i := range icons {
		named[i] = icons[i].NamedIcon
	}
	return sheet.World{Icons: named, Tokens: w.tokens, Themes: themes, Review: w.review, Components: func(name string) *contract.Contract {
		row, err := s.store.Component(ctx, contract.Slug(name))
		if errors.Is(err, store.ErrNotFound) {
			return nil
		}
		c, broken := contractOf(row)
		if err = errors.Join(err, broken); err == nil {
			_, err = s.link(ctx, c)
		}
		if err != nil {
			*failed = err
			return nil
		}
		if c.Name != name {
			return nil
		}
		return c
	}}
}

// amended gives a contract with edits, one after another, carried out; nothing of the component
// changes. What would be wrong with it is a Failure.
func (s *Service) amended(ctx context.Context, w *component, edits []sheet.Edit) (*contract.Contract, sheet.Done, error) {
	c := w.contract.Clone()
	done := sheet.Done{Taken: []string{}}
	var failed error
	world := s.world(ctx, w, &failed)
	for _, e := range edits {
		one, err := sheet.Apply(c, e, world)
		if failed != nil {
			return nil, done, failed
		}
		if err != nil {
			return nil, done, invalid(nil, "%s", sentence(err.Error()))
		}
		done = sheet.Done{On: one.On, Note: one.Note, Taken: append(done.Taken, one.Taken...)}
	}
	if renamed := newSlug(w, c); renamed != "" && renamed != w.row.Slug {
		if _, err := s.store.Component(ctx, renamed); err == nil {
			return nil, done, nameTaken(c.Name)
		}
	}
	if _, err := s.link(ctx, c); err != nil {
		return nil, done, err
	}
	found := newErrors(w.contract.Check(w.tokens), c.Check(w.tokens))
	if len(found) == 0 {
		if _, bad := contract.Read(w.contract.Name, c.JSON(), nil); bad.Failed() { // what a schema says of it
			_, before := contract.Read(w.contract.Name, w.contract.JSON(), nil)
			found = newErrors(before, bad)
		}
	}
	if len(found) > 0 {
		return nil, done, invalid(found, "%s", sentence(found[0].Message))
	}
	return c, done, nil
}

// sentence gives words a capital and a full stop.
func sentence(words string) string {
	if words == "" || strings.ContainsAny(words[len(words)-1:], ".?!") {
		return words
	}
	if first, _, _ := strings.Cut(words, " "); !strings.ContainsAny(first, ":-") { // no name of a property or a prop
		words = contract.Capitalized(words)
	}
	return words + "."
}

// Amended is the outcome of an edit on the sheet.
type Amended struct {
	Edited
	sheet.Done
	Merged bool `json:"merged" doc:"Somebody else had edited something else meanwhile; both stand"`
}

// Amend carries out an edit on the sheet of a contract that was read at a revision. When the
// contract changed since, and what is edited did not, it is made in what is there now.
func (s *Service) Amend(ctx context.Context, slug string, revision int, e sheet.Edit) (Amended, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Amended{}, err
	}
	out := Amended{Merged: w.row.Revision != revision}
	if out.Merged {
		text, err := s.store.ContractAt(ctx, w.row.ID, revision)
		if errors.Is(err, store.ErrNotFound) {
			return out, s.stale(ctx, slug, nil)
		}
		if err != nil {
			return out, err
		}
		var read contract.Contract
		if err := json.Unmarshal(text, &read); err != nil {
			return out, err
		}
		if !sheet.Untouched(sheet.Of(&read, nil), sheet.Of(w.contract, nil), e) {
			if _, err := s.link(ctx, &read); err != nil {
				return out, err
			}
			w.contract = &read
			mine, _, err := s.amended(ctx, w, []sheet.Edit{e})
			if err != nil {
				return out, err
			}
			return out, s.stale(ctx, slug, mine.JSON())
		}
	}
	if e.Do == "own" {
		c, own, done, err := s.own(ctx, w, e)
		if err != nil {
			return out, err
		}
		others, err := s.usingInstead(ctx, w, own, w.contract.SameAs(strings.TrimPrefix(e.On, "parts/")))
		if err != nil {
			return out, err
		}
		var follow []store.Edit
		reaches := []string{}
		for _, o := range others {
			reaches = append(reaches, o.contract.Name)
			follow = append(follow, store.Edit{Slug: o.was.row.Slug, Read: o.was.row.Revision, Name: o.contract.Name, Contract: o.contract.JSON(),
				Agreed: o.was.agreedOf(o.contract, o.was.kept), Note: "uses " + own.Name + " instead of its own parts"})
		}
		if len(reaches) > 0 {
			done.Note += ", and used in " + strings.Join(reaches, ", ")
		}
		out.Done = done
		n, err := s.store.Split(ctx, store.NewComponent{Slug: contract.Slug(own.Name), Name: own.Name, Contract: own.JSON()},
			store.Edit{Slug: slug, Read: w.row.Revision, Name: c.Name, Contract: c.JSON(), Agreed: w.agreedOf(c, w.kept), Note: done.Note, Tokens: w.library.number()}, follow...)
		switch {
		case errors.Is(err, store.ErrMoved):
			return out, staleTokens()
		case errors.Is(err, store.ErrTaken):
			return out, nameTaken(own.Name)
		case errors.Is(err, store.ErrStale):
			return out, s.stale(ctx, slug, c.JSON())
		}
		out.Edited = Edited{n, reaches, slug, w.buildAt(n)}
		return out, err
	}
	c, done, err := s.amended(ctx, w, []sheet.Edit{e})
	if err != nil {
		return out, err
	}
	out.Done = done
	if slices.Equal(c.JSON(), w.contract.JSON()) {
		out.Edited = w.unedited()
		return out, nil
	}
	out.Edited, err = s.apply(ctx, w, c, store.Edit{Slug: slug, Read: w.row.Revision, Note: done.Note})
	return out, err
}

// instead is a component that uses another instead of parts of its own.
type instead struct {
	was      *component
	contract *contract.Contract
}

// usingInstead gives the other components that have the same parts, with uses of the component that these became.
// One that would be wrong then is left as it is.
func (s *Service) usingInstead(ctx context.Context, w *component, own *contract.Contract, same contract.Same) (out []instead, err error) {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		if row.ID == w.row.ID {
			continue
		}
		other, err := s.componentOf(ctx, row)
		if err != nil {
			return nil, err
		}
		c := other.contract.Clone()
		if c.UseInstead(own, same) == 0 {
			continue
		}
		if _, err := s.linkWith(ctx, c, own); err != nil {
			var failed *Failure
			if errors.As(err, &failed) {
				continue // it would be made of itself
			}
			return nil, err
		}
		if len(newErrors(other.contract.Check(w.tokens), c.Check(w.tokens))) == 0 {
			out = append(out, instead{other, c})
		}
	}
	return out, nil
}

// own makes a part of a component one of its own; nothing is written. It gives the contract that uses it, and
// its own.
func (s *Service) own(ctx context.Context, w *component, e sheet.Edit) (c, own *contract.Contract, done sheet.Done, err error) {
	id := strings.TrimPrefix(e.On, "parts/")
	done = sheet.Done{On: "parts/" + id, Taken: []string{}}
	if strings.TrimSpace(e.Text) == "" {
		return nil, nil, done, invalid(nil, "Give the component a name, as in PlotFoot.")
	}
	name := contract.ComponentName(e.Text)
	if _, err := s.store.Component(ctx, contract.Slug(name)); err == nil {
		return nil, nil, done, nameTaken(name)
	}
	c = w.contract.Clone()
	own, n, err := c.Extract(id, name)
	if err != nil {
		return nil, nil, done, invalid(nil, "%s", sentence(err.Error()))
	}
	if _, err := s.linkWith(ctx, c, own); err != nil {
		return nil, nil, done, err
	}
	if _, err := s.link(ctx, own); err != nil {
		return nil, nil, done, err
	}
	before := w.contract.Check(w.tokens)
	for _, made := range []*contract.Contract{c, own} {
		if found := newErrors(before, made.Check(w.tokens)); len(found) > 0 {
			return nil, nil, done, invalid(found, "%s", sentence(found[0].Message))
		}
	}
	done.Note = w.contract.Part(id).Name + " made the component " + name
	if n > 1 {
		done.Note += fmt.Sprintf(", and %d more of the same its uses", n-1)
	}
	return c, own, done, nil
}

// Tried is what an edit would do.
type Tried struct {
	sheet.Done
	Changes []contract.Change `json:"changes" doc:"As told to those who use the component"`
	Reaches []string          `json:"reaches" doc:"Names of the components that use this one, and follow it"`
	Cases   int               `json:"cases" doc:"Cases that are otherwise then"`
	Before  []CaseView        `json:"before" doc:"The first of them as they are"`
	After   []CaseView        `json:"after" doc:"and as they would be"`
	Typed   string            `json:"typed" doc:"Names what would be built, as the preview is asked for it"`
}

// triedCases bounds how many cases a trial shows.
const triedCases = 4

// Try tells what an edit on the sheet would do; nothing is written.
func (s *Service) Try(ctx context.Context, slug string, e sheet.Edit, theme string) (Tried, error) {
	out := Tried{Changes: []contract.Change{}, Reaches: []string{}, Before: []CaseView{}, After: []CaseView{}}
	w, err := s.component(ctx, slug)
	if err != nil {
		return out, err
	}
	in, err := w.library.theme(theme)
	if err != nil {
		return out, err
	}
	if e.Do == "own" {
		c, own, done, err := s.own(ctx, w, e)
		if err != nil {
			return out, err
		}
		others, err := s.usingInstead(ctx, w, own, w.contract.SameAs(strings.TrimPrefix(e.On, "parts/")))
		if err != nil {
			return out, err
		}
		for _, o := range others {
			out.Reaches = append(out.Reaches, o.contract.Name)
		}
		_, changes := ledger.Changes(w.contract, c)
		out.Done, out.Changes = done, append(out.Changes, changes...)
		return out, nil
	}
	c, done, err := s.amended(ctx, w, []sheet.Edit{e})
	if err != nil {
		return out, err
	}
	followed, err := s.followers(ctx, w.contract, c)
	if err != nil {
		return out, err
	}
	names, found, err := s.reached(ctx, w, c, followed)
	if err != nil {
		return out, err
	}
	if found.Failed() {
		return out, invalid(found, "%s uses it, and could not any more: %s", found[0].File, sentence(found[0].Message))
	}
	_, changes := ledger.Changes(w.contract, c)
	out.Done, out.Changes, out.Reaches, out.Typed = done, append(out.Changes, changes...), append(out.Reaches, names...), typedOf(e)
	then := w.edited(c)
	after := map[string]draft.Case{}
	for _, k := range then.cases() {
		after[k.Name] = k
	}
	for _, k := range w.cases() {
		next, stays := after[k.Name]
		if !stays || !then.looksOtherwise(w, k, next) {
			continue
		}
		if out.Cases++; len(out.Before) < triedCases {
			out.Before, out.After = append(out.Before, w.caseView(k, in)), append(out.After, then.caseView(next, in))
		}
	}
	return out, nil
}

// edited is the component with another contract.
func (w *component) edited(c *contract.Contract) *component {
	out := *w
	out.contract, out.module = c, nil
	return &out
}

// looksOtherwise tells whether a case differs from how it was before an edit, in anything that is
// rendered of it.
func (w *component) looksOtherwise(before *component, was, now draft.Case) bool {
	return before.print(was) != w.print(now)
}

// print is all that is rendered of a case, as text.
func (w *component) print(k draft.Case) string {
	var b strings.Builder
	contract.Resolve(w.contract, k.Env(), w.tokens).Walk(func(r *contract.Resolved) {
		if !r.Shown {
			return
		}
		fmt.Fprintln(&b, r.Key(), r.Part.Element, r.Text, r.Image, r.Icon, r.Level, r.Attributes)
		values := contract.Style{}
		for property, v := range r.Values {
			values[property] = v.Value
		}
		for _, property := range values.Properties() {
			fmt.Fprintln(&b, property, values[property])
		}
	})
	return b.String()
}

// typedOf names an edit that is not kept, as the address of a preview holds it.
func typedOf(edits ...sheet.Edit) string {
	text, err := json.Marshal(edits)
	if err != nil {
		panic(err) // texts always encode
	}
	return base64.RawURLEncoding.EncodeToString(text)
}

// longestTyped bounds what a preview is asked for, bytes.
const longestTyped = 8_000

// BuildTyped compiles a component with edits that are not kept, named as Try names them.
func (s *Service) BuildTyped(ctx context.Context, slug, typed string) (Built, error) {
	if typed == "" {
		return s.Build(ctx, slug)
	}
	text, err := base64.RawURLEncoding.DecodeString(typed)
	var edits []sheet.Edit
	if err != nil || len(typed) > longestTyped || json.Unmarshal(text, &edits) != nil || len(edits) > 20 {
		return Built{}, invalid(nil, "What was typed cannot be read.")
	}
	w, err := s.component(ctx, slug)
	if err != nil {
		return Built{}, err
	}
	c, _, err := s.amended(ctx, w, edits)
	if err != nil {
		return Built{}, err
	}
	hash := fnv.New64a()
	hash.Write(text)
	then := w.edited(c)
	then.build = fmt.Sprintf("%s~%x", w.build, hash.Sum64())
	return then.built(), nil
}

// Complete lists how what is typed on the sheet could go on.
func (s *Service) Complete(ctx context.Context, slug string, ask sheet.Ask) ([]sheet.Completion, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	names := make([]string, 0, len(heads))
	for _, h := range heads {
		if h.Name != w.contract.Name {
			names = append(names, h.Name)
		}
	}
	var failed error
	out := sheet.Complete(w.contract, ask, s.world(ctx, w, &failed), names)
	return append([]sheet.Completion{}, out...), failed
}

// Effect tells where a declaration on the sheet comes to bear, among the cases.
func (s *Service) Effect(ctx context.Context, slug, on string) (sheet.Effect, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return sheet.Effect{}, err
	}
	var cases []sheet.Case
	for _, k := range w.cases() {
		cases = append(cases, sheet.Case{Name: k.Name, Env: k.Env()})
	}
	out, ok := sheet.EffectOf(w.contract, on, cases)
	if !ok {
		return out, notFound("Nothing is declared at %q.", on)
	}
	return out, nil
}

// Scale computes the lengths of a component's parts over the options of a choice, by its id.
func (s *Service) Scale(ctx context.Context, slug, prop string) (sheet.Scale, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return sheet.Scale{}, err
	}
	out, ok := sheet.ScaleOf(w.contract, prop, w.tokens)
	if !ok {
		return out, notFound("There is no choice %q.", prop)
	}
	return out, nil
}
