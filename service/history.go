package service

import (
	"context"
	"fmt"
	"path"
	"slices"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/drift"
	"cobrik/core/ledger"
	"cobrik/store"
)

// MoveHistory is how each side of a move came to say what it says, the first first.
type MoveHistory struct {
	Contract []Came `json:"contract"`
	Design   []Came `json:"design"`
	Code     []Came `json:"code"`
}

// Came is a time at which a side began to say something.
type Came struct {
	Said string    `json:"said" doc:"What it said from then on; empty for nothing, or where that is not known"`
	At   time.Time `json:"at"`
	By   string    `json:"by"`
	Note string    `json:"note" doc:"What was told with it"`
	Rev  string    `json:"rev" doc:"A revision, or a commit"`
}

// mostHistory bounds how many revisions and commits are gone through, the newest.
const mostHistory = 60

// MoveHistory tells how a move came about.
func (s *Service) MoveHistory(ctx context.Context, slug string, lane drift.Lane, key string) (MoveHistory, error) {
	out := MoveHistory{Contract: []Came{}, Design: []Came{}, Code: []Came{}}
	w, err := s.component(ctx, slug)
	if err != nil {
		return out, err
	}
	part, property := "", ""
	var when contract.When
	if lane == drift.Design {
		m, ok := moveOf(w.moves(), key)
		if !ok {
			return out, notFound("There is no such move any more.")
		}
		part, property, when = m.Part, m.Property, m.Condition()
		if out.Design, err = s.designHistory(ctx, w, key); err != nil {
			return out, err
		}
	} else {
		side, c, err := s.codeOf(ctx, slug, "")
		if err != nil {
			return out, err
		}
		for _, m := range c.moves {
			if m.Key == key {
				part, property = m.About.ID, m.About.Property
				if when, err = contract.ParseWhen(m.About.When); err != nil {
					return out, err
				}
			}
		}
		if part == "" {
			return out, notFound("There is no such move any more.")
		}
		if out.Code, err = codeHistory(side, c); err != nil {
			return out, err
		}
	}
	rows, err := s.store.ContractHistory(ctx, w.row.ID, mostHistory)
	for _, r := range rows {
		c, err := contractOf(store.Component{Slug: slug, Contract: r.Contract})
		if err != nil {
			return out, err
		}
		one := Came{Said: c.Declared(part, property, when), At: r.Created, By: r.Actor, Note: r.Note, Rev: fmt.Sprintf("revision %d", r.Revision)}
		if n := len(out.Contract); n == 0 || out.Contract[n-1].Said != one.Said {
			out.Contract = append(out.Contract, one)
		}
	}
	return out, err
}

func moveOf(moves []ledger.Move, key string) (ledger.Move, bool) {
	i := slices.IndexFunc(moves, func(m ledger.Move) bool { return m.Key == key })
	if i < 0 {
		return ledger.Move{}, false
	}
	return moves[i], true
}

// designHistory tells what each revision of the design said, by holding it against the contract as it is.
func (s *Service) designHistory(ctx context.Context, w *component, key string) ([]Came, error) {
	out := []Came{}
	rows, err := s.store.Revisions(ctx, w.row.Document)
	if err != nil {
		return nil, err
	}
	now, _ := moveOf(w.moves(), key)
	for _, r := range rows[max(0, len(rows)-mostHistory):] {
		text, err := s.store.RevisionContent(ctx, w.row.Document, r.Number)
		if err != nil {
			return nil, err
		}
		doc, err := design.Decode(text)
		if err != nil {
			return nil, err
		}
		then := *w
		if then.family = doc.Family(w.family.ID); then.family == nil {
			continue
		}
		said := now.From.Words() // as the contract, where nothing differs
		if m, differs := moveOf(then.ledger().Moves(), key); differs {
			said = m.To.Words()
		}
		if n := len(out); n == 0 || out[n-1].Said != said {
			out = append(out, Came{Said: said, At: r.Created, By: r.Author, Note: r.Note, Rev: fmt.Sprintf("revision %d", r.Number)})
		}
	}
	return out, nil
}

// codeHistory lists the commits that changed a component's files since they were written last.
func codeHistory(side *codeSide, c *codeComponent) ([]Came, error) {
	out := []Came{}
	names := []string{path.Join(side.target.Folder, c.file)}
	if c.versions.Code != nil {
		for _, sheet := range c.versions.Code.Sheets {
			names = append(names, path.Join(side.target.Folder, sheet))
		}
	}
	seen := map[string]bool{}
	for _, name := range names {
		commits, err := side.repo.History(side.hash, name)
		if err != nil {
			return nil, invalid(nil, "%s", inSentence(err))
		}
		for _, k := range commits[:min(len(commits), mostHistory)] {
			if c.base.Hash != "" {
				if written, err := side.repo.IsAncestor(k.Hash, c.base.Hash); err == nil && written {
					break
				}
			}
			if !seen[k.Hash] {
				seen[k.Hash] = true
				out = append(out, Came{At: k.At, By: k.Author, Note: k.Message, Rev: fmt.Sprintf("commit %.7s", k.Hash)})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Came) int { return a.At.Compare(b.At) })
	return out, nil
}
