package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"unicode/utf8"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/store"
)

// Rests is what hangs on a source: what would become of it when that is removed.
type Rests struct {
	Possible   bool            `json:"possible" doc:"It can be removed"`
	Says       []string        `json:"says" doc:"What would come of it, a sentence each"`
	Components []ComponentLink `json:"components" doc:"Those that would be touched"`
	Problems   problem.List    `json:"problems" doc:"Why it cannot be removed, or what would want a look"`
}

// ComponentLink names a component.
type ComponentLink struct {
	Slug string `json:"slug"`
	Name string `json:"name"`
}

// counted says a number of things: "1 token", "3 tokens".
func counted(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}

// DocumentRests says what hangs on a design document.
func (s *Service) DocumentRests(ctx context.Context, id string) (Rests, error) {
	out := Rests{Possible: true, Says: []string{}, Components: []ComponentLink{}, Problems: problem.List{}}
	d, err := s.store.Document(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && d.Removed != nil {
		return out, notFound("There is no design document %q.", id)
	}
	if err != nil {
		return out, err
	}
	rows, err := s.store.Components(ctx)
	if err != nil {
		return out, err
	}
	for _, row := range rows {
		if row.Document == id {
			out.Components = append(out.Components, ComponentLink{row.Slug, row.Name})
		}
	}
	if n := len(out.Components); n > 0 {
		verb := "are"
		if n == 1 {
			verb = "is"
		}
		out.Says = append(out.Says, fmt.Sprintf("%s %s drawn from it. Contracts and releases stay, but the design no longer says anything of them.", counted(n, "component"), verb))
	} else {
		out.Says = append(out.Says, "No component is drawn from it.")
	}
	kept := "Its revision stays"
	if d.Latest > 1 {
		kept = fmt.Sprintf("Its %d revisions stay", d.Latest)
	}
	out.Says = append(out.Says, kept+", and it can be put back.")
	return out, nil
}

// CallDocument gives a design document another name; with none it is called as it names
// itself again.
func (s *Service) CallDocument(ctx context.Context, id, name string) error {
	name = strings.Join(strings.Fields(name), " ")
	if utf8.RuneCountInString(name) > 120 {
		return invalid(nil, "Nothing was changed: a name has at most 120 letters.")
	}
	return documentThere(id, s.store.CallDocument(ctx, id, name))
}

// RemoveDocument takes a design document out of the project; RestoreDocument puts it back.
func (s *Service) RemoveDocument(ctx context.Context, id string) error {
	if err := s.settle(ctx, id); err != nil {
		return err
	}
	return documentThere(id, s.store.RemoveDocument(ctx, id))
}

// RestoreDocument puts a removed design document back.
func (s *Service) RestoreDocument(ctx context.Context, id string) error {
	return documentThere(id, s.store.RestoreDocument(ctx, id))
}

func documentThere(id string, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return notFound("There is no design document %q.", id)
	}
	return err
}

// ReplaceDocument takes a file, whatever it calls itself, as the next revision of a design
// document that was dropped in.
func (s *Service) ReplaceDocument(ctx context.Context, id, file string, text []byte) (Dropped, error) {
	d, err := s.store.Document(ctx, id)
	if err != nil {
		return Dropped{}, documentThere(id, err)
	}
	if d.Source == store.FromHost {
		return Dropped{}, invalid(nil, "%s comes from the design host; fetch its next revision there.", d.Name)
	}
	if len(text) > design.Limits.Bytes {
		return Dropped{}, TooLargeFailure()
	}
	file = baseName(file)
	var doc *design.Document
	var found problem.List
	drawn := strings.EqualFold(filepath.Ext(file), ".svg")
	if drawn {
		doc, found = design.ImportSVG(file, text, s.fonts)
	} else {
		doc, found = design.Read(file, text)
	}
	if doc == nil {
		return Dropped{}, invalid(found, "%s was not taken: %s", file, howMany(found))
	}
	if drawn {
		doc.Name = d.Name // an SVG file names no more than itself
	}
	if drawn || doc.ID != id {
		doc.ID = id
		if text, err = json.MarshalIndent(doc, "", "  "); err != nil {
			return Dropped{}, err
		}
	}
	out, err := s.dropDesign(ctx, file, text, store.FromUpload, "")
	if drawn {
		out.Problems = append(listed(found), out.Problems...)
	}
	return out, err
}

// baseName gives a file's name without the folders it came from, on whatever system.
func baseName(file string) string { return filepath.Base(strings.ReplaceAll(file, "\\", "/")) }

// SourceText is a source as a file.
type SourceText struct {
	Name string
	Text []byte
}

// DocumentText gives a revision of a design document as it was taken.
func (s *Service) DocumentText(ctx context.Context, id string, number int) (SourceText, error) {
	text, err := s.store.RevisionContent(ctx, id, number)
	if errors.Is(err, store.ErrNotFound) {
		return SourceText{}, notFound("There is no revision %d of a design document %q.", number, id)
	}
	name := contract.Slug(id)
	if name == "" {
		name = "design"
	}
	return SourceText{fmt.Sprintf("%s-%d.design.json", name, number), text}, err
}

// TokenFileText gives a token file as it is now.
func (s *Service) TokenFileText(ctx context.Context, name string) (SourceText, error) {
	l, err := s.library(ctx)
	if err != nil {
		return SourceText{}, err
	}
	f, err := l.storedFile(name)
	return SourceText{f.Name, f.Content}, err
}

func (l *library) storedFile(name string) (store.TokenFile, error) {
	i := slices.IndexFunc(l.stored, func(f store.TokenFile) bool { return f.Name == name })
	if i < 0 {
		return store.TokenFile{}, notFound("There is no token file %q.", name)
	}
	return l.stored[i], nil
}

// without gives the tokens as they would be without a file.
func (l *library) without(ctx context.Context, name string) (*library, error) {
	return openLibrary(ctx, l.state, slices.DeleteFunc(slices.Clone(l.stored), func(f store.TokenFile) bool { return f.Name == name }))
}

// TokenFileRests says what hangs on a token file.
func (s *Service) TokenFileRests(ctx context.Context, name string) (Rests, error) {
	out := Rests{Says: []string{}, Components: []ComponentLink{}, Problems: problem.List{}}
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	if _, err := l.storedFile(name); err != nil {
		return out, err
	}
	next, err := l.without(ctx, name)
	if err != nil {
		return out, err
	}
	out.Problems = append(out.Problems, newErrors(l.problems(), next.problems())...)
	out.Possible = len(out.Problems) == 0
	gone := map[string]bool{}
	for _, path := range l.paths() {
		if next.find(path) == nil {
			gone[path] = true
		}
	}
	out.Says = append(out.Says, goneSays(l, next, gone)...)
	if !out.Possible {
		return out, nil
	}
	_, left, err := s.follow(ctx, nil, &tokenChange{before: l, after: next})
	if err != nil {
		return out, err
	}
	for _, p := range left {
		p.Severity = problem.Warning
		out.Problems = append(out.Problems, p)
	}
	components, err := s.contractUses(ctx)
	if err != nil {
		return out, err
	}
	for _, c := range components {
		if slices.ContainsFunc(c.contract.Tokens(), func(path string) bool { return gone[path] }) {
			out.Components = append(out.Components, ComponentLink{c.slug, c.name})
		}
	}
	layers, err := s.bindings(ctx)
	if err != nil {
		return out, err
	}
	bound := 0
	for _, b := range layers {
		if gone[b.path] {
			bound++
		}
	}
	if bound > 0 {
		out.Says = append(out.Says, counted(bound, "binding")+" of the design's layers would lead nowhere.")
	}
	out.Says = append(out.Says, "It can be undone at Tokens.")
	return out, nil
}

func goneSays(l, next *library, gone map[string]bool) []string {
	var says []string
	if l.ownOutputs() && !next.ownOutputs() {
		says = append(says, "The standard outputs stand again.")
	}
	if was, now := len(l.themes), len(next.themes); was != now {
		says = append(says, fmt.Sprintf("Of %s %d would be left.", counted(was, "theme"), now))
	}
	if len(gone) == 0 {
		return append(says, "No token would be gone.")
	}
	return append(says, counted(len(gone), "token")+" would be gone.")
}

// RemoveTokenFile takes a file out of the tokens, where those that are left still resolve.
func (s *Service) RemoveTokenFile(ctx context.Context, revision int, name string) (TokenRevision, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokenRevision{}, err
	}
	if _, err := l.storedFile(name); err != nil {
		return TokenRevision{}, err
	}
	after, err := l.without(ctx, name)
	if err != nil {
		return TokenRevision{}, err
	}
	return s.putFiles(ctx, revision, l, after, name+" removed")
}

// RenameTokenFile gives a file another name; what refers to it by name follows.
func (s *Service) RenameTokenFile(ctx context.Context, revision int, from, to string) (TokenRevision, error) {
	l, err := s.library(ctx)
	if err != nil {
		return TokenRevision{}, err
	}
	if _, err := l.storedFile(from); err != nil {
		return TokenRevision{}, err
	}
	to = strings.TrimSpace(to)
	switch {
	case from == ProjectFile || to == ProjectFile:
		return TokenRevision{}, invalid(nil, "Nothing was changed: %s is the project file's name and no other's.", ProjectFile)
	case to == "" || len(to) > 300 || to != baseName(to) || to == "." || to == "..":
		return TokenRevision{}, invalid(nil, "Nothing was changed: %q is not a file's name.", to)
	case slices.ContainsFunc(l.stored, func(f store.TokenFile) bool { return f.Name == to }):
		return TokenRevision{}, invalid(nil, "Nothing was changed: there is a file %s already.", to)
	}
	var files []store.TokenFile
	for _, f := range l.stored {
		switch {
		case f.Name == ProjectFile && l.project != nil:
			f.Content = l.project.WithFile(from, to).JSON()
		case f.Name != ProjectFile:
			f.Content = token.RenameFile(f.Content, from, to)
		}
		if f.Name == from {
			f.Name = to
		}
		files = append(files, f)
	}
	after, err := openLibrary(ctx, l.state, files)
	if err != nil {
		return TokenRevision{}, err
	}
	return s.putFiles(ctx, revision, l, after, from+" renamed to "+to)
}

// putFiles keeps other token files, where they resolve as well as those before.
func (s *Service) putFiles(ctx context.Context, revision int, before, after *library, note string) (TokenRevision, error) {
	if before.state.Number != revision {
		return TokenRevision{}, staleTokens()
	}
	if fresh := newErrors(before.problems(), after.problems()); len(fresh) > 0 {
		return TokenRevision{}, invalid(fresh, "Nothing was changed: %s", fresh[0].Message)
	}
	number, err := s.store.PutTokens(ctx, store.NewTokens{Read: revision, Note: note, Files: after.stored})
	if errors.Is(err, store.ErrStale) {
		return TokenRevision{}, staleTokens()
	}
	return TokenRevision{number}, err
}
