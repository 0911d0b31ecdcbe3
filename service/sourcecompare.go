package service

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"cobrik/core/design"
	"cobrik/core/token"
	"cobrik/store"
)

// Compared is what differs between two revisions of a source.
type Compared struct {
	Name      string           `json:"name"`
	Revisions []SourceRevision `json:"revisions" doc:"All there are, oldest first"`
	Before    int              `json:"before"`
	After     int              `json:"after"`
	Places    []ComparedPlace  `json:"places"`
	Differing int              `json:"differing" doc:"How many things differ, those that are not listed too"`
}

// ComparedPlace is a page, a family or a group of tokens with what differs in it.
type ComparedPlace struct {
	Kind string        `json:"kind" enum:"document,page,family,group"`
	Name string        `json:"name"`
	Rows []ComparedRow `json:"rows"`
}

// ComparedRow is one thing that differs.
type ComparedRow struct {
	What     string `json:"what" doc:"A layer, a variant or a token; empty for the place itself"`
	State    string `json:"state" enum:"added,removed,changed,moved"`
	Property string `json:"property" doc:"A member of the format, or a theme; empty for all of it"`
	Before   string `json:"before"`
	After    string `json:"after"`
}

// mostCompared bounds what is listed of two revisions.
const mostCompared = 2000

func (c *Compared) add(kind, name string, row ComparedRow) {
	if c.Differing++; c.Differing > mostCompared {
		return
	}
	if last := len(c.Places) - 1; last < 0 || c.Places[last].Kind != kind || c.Places[last].Name != name {
		c.Places = append(c.Places, ComparedPlace{Kind: kind, Name: name})
	}
	at := &c.Places[len(c.Places)-1]
	at.Rows = append(at.Rows, row)
}

// CompareDocument says what differs between two revisions of a design document; without
// numbers, between the newest and the one before.
func (s *Service) CompareDocument(ctx context.Context, id string, before, after int) (Compared, error) {
	d, err := s.store.Document(ctx, id)
	if err != nil {
		return Compared{}, documentThere(id, err)
	}
	revisions, err := s.store.Revisions(ctx, id)
	if err != nil {
		return Compared{}, err
	}
	out := Compared{Name: d.Name, Places: []ComparedPlace{}, Revisions: sourceRevisions(revisions)}
	out.Before, out.After = lastTwo(before, after, d.Latest)
	var docs [2]*design.Document
	for i, number := range []int{out.Before, out.After} {
		text, err := s.DocumentText(ctx, id, number)
		if err != nil {
			return out, err
		}
		if docs[i], err = design.Decode(text.Text); err != nil {
			return out, err
		}
	}
	for _, c := range design.Compare(docs[0], docs[1]) {
		out.add(c.Kind, c.Name, ComparedRow{c.What, string(c.State), c.Property, c.Before, c.After})
	}
	return out, nil
}

func lastTwo(before, after, latest int) (int, int) {
	if after == 0 {
		after = latest
	}
	if before == 0 {
		before = min(max(1, after-1), after)
	}
	return before, after
}

func sourceRevisions(list []store.Revision) []SourceRevision {
	out := make([]SourceRevision, len(list))
	for i, r := range list {
		out[i] = SourceRevision{r.Number, r.Note, r.Author, r.Bytes, r.Created}
	}
	return out
}

// CompareTokens says which tokens differ between two revisions of the token files, in which
// theme; without numbers, between the newest and the one before.
func (s *Service) CompareTokens(ctx context.Context, before, after int) (Compared, error) {
	now, err := s.library(ctx)
	if err != nil {
		return Compared{}, err
	}
	out := Compared{Name: "Token files", Places: []ComparedPlace{}, Revisions: []SourceRevision{}}
	revisions, err := s.store.TokenRevisions(ctx)
	if err != nil {
		return out, err
	}
	for _, r := range revisions {
		out.Revisions = append(out.Revisions, SourceRevision{Number: r.Number, Note: r.Note, Created: r.Created})
	}
	out.Before, out.After = lastTwo(before, after, now.state.Number)
	old, err := s.libraryAt(ctx, out.Before)
	if err != nil {
		return out, err
	}
	late, err := s.libraryAt(ctx, out.After)
	if err != nil {
		return out, err
	}
	files := func(l *library) (names []string) {
		for _, f := range l.stored {
			names = append(names, f.Name)
		}
		return names
	}
	was, is := files(old), files(late)
	for _, name := range is {
		if !slices.Contains(was, name) {
			out.add("document", "files", ComparedRow{What: name, State: string(design.Added)})
		}
	}
	for _, name := range was {
		if !slices.Contains(is, name) {
			out.add("document", "files", ComparedRow{What: name, State: string(design.Removed)})
		}
	}
	for _, path := range late.paths() {
		for i, theme := range late.themes {
			out.token(path, themeName(theme), old.inTheme(theme, path), late.sets[i].Get(path))
		}
	}
	for _, path := range old.paths() {
		if late.find(path) == nil {
			for i, theme := range old.themes {
				out.token(path, themeName(theme), old.sets[i].Get(path), nil)
			}
		}
	}
	return out, nil
}

// inTheme gives a token in a theme of another revision's library; nil when either is not there.
func (l *library) inTheme(theme token.Theme, path string) *token.Token {
	for i, own := range l.themes {
		if slices.Equal(own, theme) {
			return l.sets[i].Get(path)
		}
	}
	return nil
}

// token adds a row when a token does not say the same, in itself or in what it leads to.
func (c *Compared) token(path, theme string, before, after *token.Token) {
	row := ComparedRow{What: path, State: string(design.Changed), Property: theme, Before: tokenSays(before), After: tokenSays(after)}
	switch {
	case row.Before == row.After:
		return
	case before == nil:
		row.State = string(design.Added)
	case after == nil:
		row.State = string(design.Removed)
	}
	c.add("group", token.Group(path), row)
}

// tokenSays gives a token's value, after what it points at.
func tokenSays(t *token.Token) string {
	switch {
	case t == nil:
		return ""
	case t.Alias != "":
		return fmt.Sprintf("{%s} %s", t.Alias, t.Value)
	}
	return t.Value
}

// libraryAt reads a state of the tokens.
func (s *Service) libraryAt(ctx context.Context, number int) (*library, error) {
	if l := s.libraries.get(number); l != nil {
		return l, nil
	}
	state, err := s.store.TokenRevisionAt(ctx, number)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("There is no revision %d of the tokens.", number)
	}
	if err != nil {
		return nil, err
	}
	stored, err := s.store.TokenFiles(ctx, number)
	if err != nil {
		return nil, err
	}
	return openLibrary(ctx, state, stored)
}
