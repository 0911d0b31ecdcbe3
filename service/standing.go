package service

import (
	"context"
	"errors"
	"fmt"
	"sync"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/core/sheet"
	"cobrik/core/survey"
	"cobrik/store"
)

// standing is what lists say of a component. It follows from the contract, what is agreed,
// what was decided (each decision makes a revision), the tokens and the design, and is
// remembered by their numbers, which never change their meaning.
type standing struct {
	purpose  string
	props    []string
	cases    int
	picture  string
	size     design.Rect // of the case that is looked at first
	fills    bool
	shown    map[string]any
	terms    []catalogue.Term
	uses     int
	gone     bool // the design no longer has its drawing
	agreed   int
	design   int
	note     string // of the design's newest revision
	moves    []ledger.Move
	errors   []string // keys of the findings that are errors
	warnings []string // and of the others
	build    string
}

func (s standing) waiting() int { return ledger.Waiting(s.moves) }

// standings remembers the last standing of each component.
type standings struct {
	mu   sync.Mutex
	list map[string]remembered // by slug
}

type remembered struct {
	depends  string
	standing standing
}

func (k *standings) get(slug, depends string) (standing, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	r, ok := k.list[slug]
	return r.standing, ok && r.depends == depends
}

func (k *standings) put(slug, depends string, s standing) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.list == nil {
		k.list = map[string]remembered{}
	}
	k.list[slug] = remembered{depends, s}
}

// standingOf is a component in a list.
type standingOf struct {
	store.Head
	standing
}

// standingsNow gives every component with its standing. What nothing changed of is not
// computed again.
func (s *Service) standingsNow(ctx context.Context) ([]standingOf, error) {
	heads, err := s.store.Heads(ctx)
	if err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	numbers := map[string]int{}
	byName := map[string]store.Head{}
	for _, h := range heads {
		byName[h.Name] = h
	}
	uses := map[*design.Document]map[string]int{}
	out := make([]standingOf, 0, len(heads))
	for _, h := range heads {
		if h.Document != "" && numbers[h.Document] == 0 {
			if _, numbers[h.Document], err = s.document(ctx, h.Document); err != nil {
				return nil, err
			}
		}
		depends := fmt.Sprintf("%d%s %s %s %d", h.Revision, insideOf(h, byName, 0), h.Agreed, l.name(), numbers[h.Document])
		st, known := s.standings.get(h.Slug, depends)
		if !known {
			w, err := s.component(ctx, h.Slug)
			var failure *Failure
			if errors.As(err, &failure) && failure.Kind == NotFound {
				continue // it went meanwhile
			}
			if err != nil {
				return nil, err
			}
			if uses[w.doc] == nil {
				uses[w.doc] = survey.Uses(w.doc)
			}
			found, err := s.findings(w)
			if err != nil {
				return nil, err
			}
			st = w.standing(uses[w.doc], found)
			if w.row.Revision == h.Revision && w.library == l && w.design == numbers[h.Document] {
				s.standings.put(h.Slug, depends, st)
			}
		}
		out = append(out, standingOf{h, st})
	}
	return out, nil
}

// insideOf names the revisions of the components that one is made of.
func insideOf(h store.Head, byName map[string]store.Head, depth int) (out string) {
	for _, name := range h.Uses {
		if used, ok := byName[name]; ok && depth < design.MaxInstances {
			out += fmt.Sprintf(" %s.%d", used.Slug, used.Revision) + insideOf(used, byName, depth+1)
		}
	}
	return out
}

func (w *component) standing(uses map[string]int, found []sheet.Finding) standing {
	out := standing{purpose: w.contract.Purpose, props: []string{}, cases: len(w.cases()), moves: w.moves(), gone: w.gone(), terms: catalogue.Terms(w.contract),
		design: w.design, note: w.doc.Note, build: w.build}
	for _, f := range found {
		if f.Severity == "error" {
			out.errors = append(out.errors, f.Key)
		} else {
			out.warnings = append(out.warnings, f.Key)
		}
	}
	for _, p := range w.contract.Props {
		out.props = append(out.props, p.Name)
	}
	if w.contract.Origin != nil {
		out.agreed = w.contract.Origin.Revision
	}
	examples := w.contract.Examples()
	out.shown = w.contract.Given(examples)
	out.fills = contract.Resolve(w.contract, contract.EnvOf(examples), w.tokens).Values["width"].Value == "100%"
	if list := w.cases(); len(list) > 0 {
		out.size = list[0].Variant.Root.Bounds
	}
	if w.family != nil {
		v := w.family.Default()
		out.picture, out.size = w.doc.Draw(v.Root), design.Rect{Width: v.Root.Bounds.Width, Height: v.Root.Bounds.Height}
		out.uses = uses[w.family.ID]
	}
	return out
}
