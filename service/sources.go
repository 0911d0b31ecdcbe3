package service

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/store"
)

// Sources is where designs and tokens come from.
type Sources struct {
	Documents []SourceDocument `json:"documents"`
	Removed   []RemovedSource  `json:"removed" doc:"Design documents that were removed and can be put back"`
	Tokens    []SourceTokens   `json:"tokens"`
	Revision  int              `json:"revision" doc:"Of the token files; an edit carries it"`
	Host      HostState        `json:"host"`
}

// RemovedSource is a design document that was removed.
type RemovedSource struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Removed time.Time `json:"removed"`
}

// SourceDocument is a design document with its revisions, oldest first.
type SourceDocument struct {
	ID        string           `json:"id"`
	Name      string           `json:"name"`
	FromHost  bool             `json:"fromHost" doc:"It is fetched from the design host; others were dropped in"`
	Pages     int              `json:"pages"`
	Families  int              `json:"families"`
	Layers    int              `json:"layers"`
	Revisions []SourceRevision `json:"revisions"`
}

// SourceRevision is one revision of a document.
type SourceRevision struct {
	Number  int       `json:"number"`
	Note    string    `json:"note"`
	Author  string    `json:"author"`
	Bytes   int       `json:"bytes"`
	Created time.Time `json:"created"`
}

// SourceTokens is a token file.
type SourceTokens struct {
	Name     string       `json:"name"`
	Kind     string       `json:"kind" enum:"tokens,resolver,project"`
	Tokens   int          `json:"tokens" doc:"Tokens it gives, in any theme"`
	Revision int          `json:"revision" doc:"Revision of the tokens that gave it its text"`
	Updated  time.Time    `json:"updated"`
	Problems problem.List `json:"problems"`
}

// HostState says how the design host is.
type HostState struct {
	Known   bool       `json:"known" doc:"A design host is set up"`
	Address string     `json:"address"`
	Checked *time.Time `json:"checked,omitempty"`
	Failure string     `json:"failure" doc:"Why it did not answer the last time; empty when it did"`
}

// Sources lists them.
func (s *Service) Sources(ctx context.Context) (Sources, error) {
	out := Sources{Documents: []SourceDocument{}, Removed: []RemovedSource{}, Tokens: []SourceTokens{}}
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return out, err
	}
	for _, d := range docs {
		one := SourceDocument{ID: d.ID, Name: d.Name, FromHost: d.Source == store.FromHost}
		revisions, err := s.store.Revisions(ctx, d.ID)
		if err != nil {
			return out, err
		}
		one.Revisions = sourceRevisions(revisions)
		if doc, _, err := s.document(ctx, d.ID); err == nil {
			one.Pages, one.Families, one.Layers = len(doc.Pages), len(doc.Families), countLayers(doc)
		}
		out.Documents = append(out.Documents, one)
	}
	removed, err := s.store.RemovedDocuments(ctx)
	if err != nil {
		return out, err
	}
	for _, d := range removed {
		out.Removed = append(out.Removed, RemovedSource{d.ID, d.Name, *d.Removed})
	}
	if out.Tokens, out.Revision, err = s.tokenSources(ctx); err != nil {
		return out, err
	}
	out.Host, err = s.hostState(ctx)
	return out, err
}

func (s *Service) tokenSources(ctx context.Context) (files []SourceTokens, revision int, err error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, 0, err
	}
	components, err := s.contractUses(ctx)
	if err != nil {
		return nil, 0, err
	}
	found, err := s.tokenProblems(ctx, l, components)
	if err != nil {
		return nil, 0, err
	}
	gives := l.gives()
	out := make([]SourceTokens, len(l.stored))
	for i, f := range l.stored {
		out[i] = SourceTokens{Name: f.Name, Kind: kindOf(f.Content), Tokens: gives[f.Name], Revision: f.Since, Updated: f.Updated, Problems: problem.List{}}
		for _, p := range found {
			if p.File == f.Name {
				out[i].Problems = append(out[i].Problems, p)
			}
		}
	}
	return out, l.state.Number, nil
}

func (s *Service) hostState(ctx context.Context) (HostState, error) {
	if s.host == nil {
		return HostState{}, nil
	}
	p, err := s.store.Project(ctx)
	return HostState{Known: true, Address: s.host.base, Checked: p.HostChecked, Failure: p.HostError}, err
}

func countLayers(doc *design.Document) int {
	n := 0
	count := func(l *design.Layer) { l.Walk(func(*design.Layer, float64, float64) { n++ }) }
	for _, p := range doc.Pages {
		for _, l := range p.Layers {
			count(l)
		}
	}
	for _, f := range doc.Families {
		for _, v := range f.Variants {
			count(v.Root)
		}
	}
	return n
}

// Dropped says what became of a file that was dropped in.
type Dropped struct {
	Kind     string       `json:"kind" enum:"design,tokens"`
	Name     string       `json:"name"`
	Revision int          `json:"revision"`
	Added    bool         `json:"added" doc:"False when it is the same as what is there"`
	Restored bool         `json:"restored" doc:"It had been removed and is back"`
	Problems problem.List `json:"problems" doc:"What wants a look, though the file was taken"`
}

// Drop keeps a design document, an SVG file as one, or a token file. A file with errors is refused
// with all of them, and nothing of it is kept.
func (s *Service) Drop(ctx context.Context, file string, text []byte) (Dropped, error) {
	if file = baseName(file); file == "" || file == "." || file == "/" {
		return Dropped{}, invalid(nil, "Nothing was taken: the file has no name.")
	}
	if len(text) > design.Limits.Bytes {
		return Dropped{}, TooLargeFailure()
	}
	if strings.EqualFold(filepath.Ext(file), ".svg") {
		return s.dropSVG(ctx, file, text)
	}
	if isDesign(text) || strings.Contains(file, ".design.") {
		return s.dropDesign(ctx, file, text, store.FromUpload, "")
	}
	return s.dropTokens(ctx, file, text)
}

// TooLargeFailure is the answer to a file over the limit.
func TooLargeFailure() error {
	return &Failure{Kind: TooLarge, Message: fmt.Sprintf("The file is larger than %d MB. Split it, or leave out what is not needed.", design.Limits.Bytes>>20)}
}

// isDesign tells design documents from token files by their "format" member.
func isDesign(text []byte) bool {
	head := text[:min(len(text), 4096)]
	return bytes.Contains(head, []byte(`"format"`)) && bytes.Contains(head, []byte("cobrik.")) && !bytes.Contains(head, []byte(output.ProjectFormat))
}

func (s *Service) dropDesign(ctx context.Context, file string, text []byte, source, etag string) (Dropped, error) {
	doc, found := design.Read(file, text)
	if doc == nil {
		return Dropped{}, invalid(found, "%s was not taken: %s", file, howMany(found))
	}
	if err := s.settle(ctx, doc.ID); err != nil {
		return Dropped{}, err
	}
	before, err := s.store.Document(ctx, doc.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return Dropped{}, err
	}
	number, added, err := s.store.AddRevision(ctx, store.NewRevision{
		Document: doc.ID, Name: doc.Name, Source: source, Note: doc.Note, Author: doc.Author, ETag: etag, Content: text,
	})
	return Dropped{Kind: "design", Name: doc.Name, Revision: number, Added: added, Restored: before.Removed != nil, Problems: listed(found)}, err
}

// settle notes what design and contracts agree on before the design moves again: what
// both came to say alike is not held against either later.
func (s *Service) settle(ctx context.Context, document string) error {
	rows, err := s.store.Components(ctx)
	if err != nil {
		return err
	}
	for _, row := range rows {
		if row.Document != document || row.Agreed == nil {
			continue
		}
		w, err := s.componentOf(ctx, row)
		if err != nil {
			return err
		}
		agreed := w.agreedOf(w.contract, w.kept)
		if bytes.Equal(agreed, w.base.JSON()) {
			continue
		}
		if err := s.store.Settle(ctx, row.Slug, row.Revision, agreed); err != nil && !errors.Is(err, store.ErrStale) {
			return err // one that was edited meanwhile was settled with the edit
		}
	}
	return nil
}

// dropSVG keeps an SVG file as the design document it is read as.
func (s *Service) dropSVG(ctx context.Context, file string, text []byte) (Dropped, error) {
	doc, report := design.ImportSVG(file, text, s.fonts)
	if doc == nil {
		return Dropped{}, invalid(report, "%s was not taken: %s", file, howMany(report))
	}
	written, err := json.MarshalIndent(doc, "", "  ")
	if err != nil {
		return Dropped{}, err
	}
	out, err := s.dropDesign(ctx, file, written, store.FromUpload, "")
	out.Problems = append(listed(report), out.Problems...)
	return out, err
}

// dropTokens keeps a token file, a resolver document or a project file as the
// next state of the tokens. It is read among the others: it may refer to them.
func (s *Service) dropTokens(ctx context.Context, file string, text []byte) (Dropped, error) {
	l, err := s.library(ctx)
	if err != nil {
		return Dropped{}, err
	}
	if kindOf(text) == "project" {
		file = ProjectFile
	}
	files, there := l.with(file, text)
	if there != nil && bytes.Equal(there.Content, text) {
		return Dropped{Kind: "tokens", Name: file, Revision: there.Since, Problems: problem.List{}}, nil
	}
	next, err := openLibrary(ctx, l.state, files)
	if err != nil {
		return Dropped{}, err
	}
	var mine problem.List
	for _, p := range next.problems() {
		if p.File == file || p.Severity == problem.Error {
			mine = append(mine, p)
		}
	}
	if kindOf(text) == "tokens" && next.gives()[file] == 0 && !mine.Failed() {
		mine.Errorf("token-none", "", "drop a token file (design-token standard) or a design document (cobrik.design/1)", "the file gives no tokens")
		mine[len(mine)-1].File = file
	}
	if mine.Failed() {
		return Dropped{}, invalid(mine, "%s was not taken: %s", file, howMany(mine))
	}
	// The file is what is so now: contracts that it leaves wrong are told of, not a reason to refuse it.
	_, left, err := s.follow(ctx, nil, &tokenChange{before: l, after: next})
	if err != nil {
		return Dropped{}, err
	}
	for _, p := range left {
		p.Severity = problem.Warning
		mine = append(mine, p)
	}
	number, err := s.store.PutTokens(ctx, store.NewTokens{Read: l.state.Number, Note: file + " dropped in", Files: files})
	if errors.Is(err, store.ErrStale) {
		return Dropped{}, staleTokens()
	}
	return Dropped{Kind: "tokens", Name: file, Revision: number, Added: true, Problems: listed(mine)}, err
}

func howMany(l problem.List) string { return counted(len(l), "problem") }

// listed makes an empty list of none, so that JSON has [] and not null.
func listed(l problem.List) problem.List {
	if l == nil {
		return problem.List{}
	}
	return l
}

// Fetched says what fetching from the design host brought.
type Fetched struct {
	Documents []FetchedDocument `json:"documents"`
}

// FetchedDocument is one document's outcome.
type FetchedDocument struct {
	ID       string `json:"id"`
	Revision int    `json:"revision"`
	Added    bool   `json:"added" doc:"A new revision came"`
}

// Fetch asks the design host for every document that comes from it.
func (s *Service) Fetch(ctx context.Context) (Fetched, error) {
	out := Fetched{Documents: []FetchedDocument{}}
	if s.host == nil {
		return out, &Failure{Kind: Invalid, Message: "No design host is set up."}
	}
	docs, err := s.store.Documents(ctx)
	if err != nil {
		return out, err
	}
	for _, d := range docs {
		if d.Source != store.FromHost {
			continue
		}
		one, err := s.fetchOne(ctx, d)
		var down errHost
		if errors.As(err, &down) {
			if err := s.store.NoteHost(ctx, down.reason); err != nil {
				return out, err
			}
			return out, &Failure{Kind: Unavailable, Message: "Nothing was fetched: " + down.reason + ". What is here stays; try again later."}
		}
		if err != nil {
			return out, err
		}
		out.Documents = append(out.Documents, one)
	}
	return out, s.store.NoteHost(ctx, "")
}

func (s *Service) fetchOne(ctx context.Context, d store.Document) (FetchedDocument, error) {
	revisions, err := s.store.Revisions(ctx, d.ID)
	if err != nil {
		return FetchedDocument{}, err
	}
	got, err := s.host.document(ctx, d.ID, revisions[len(revisions)-1].ETag)
	if err != nil {
		return FetchedDocument{}, err
	}
	if got.Text == nil {
		return FetchedDocument{ID: d.ID, Revision: d.Latest}, nil
	}
	var head struct{ ID string }
	if json.Unmarshal(got.Text, &head) == nil && head.ID != "" && head.ID != d.ID {
		return FetchedDocument{}, errHost{reason: fmt.Sprintf("asked for %s, the design host sent %s", d.ID, head.ID)}
	}
	dropped, err := s.dropDesign(ctx, d.ID, got.Text, store.FromHost, got.ETag)
	return FetchedDocument{d.ID, dropped.Revision, dropped.Added}, err
}

// PublishNext asks the simulated host for its next revision of a document.
func (s *Service) PublishNext(ctx context.Context, id string) error {
	if s.host == nil {
		return &Failure{Kind: Invalid, Message: "No design host is set up."}
	}
	err := s.host.publish(ctx, id)
	var down errHost
	if errors.As(err, &down) {
		if err := s.store.NoteHost(ctx, down.reason); err != nil {
			return err
		}
		return &Failure{Kind: Unavailable, Message: "Nothing was published: " + down.reason + "."}
	}
	return err
}

// Seed loads a project's first documents and tokens when there are none yet.
func (s *Service) Seed(ctx context.Context, project string, designs map[string][]byte, etag func([]byte) string, tokenFiles []token.File) error {
	docs, err := s.store.Documents(ctx)
	if err != nil || len(docs) > 0 {
		return err
	}
	if err := s.store.NameProject(ctx, project, contract.Slug(project)); err != nil {
		return err
	}
	state, err := s.store.TokenRevision(ctx)
	if err != nil {
		return err
	}
	var files []store.TokenFile
	for _, f := range tokenFiles {
		files = append(files, store.TokenFile{Name: f.Name, Content: f.Text})
	}
	first, err := openLibrary(ctx, state, files)
	if err != nil {
		return err
	}
	if found := first.problems(); found.Failed() {
		return invalid(found, "The first tokens were not taken: %s", howMany(found))
	}
	if _, err := s.store.PutTokens(ctx, store.NewTokens{Read: state.Number, Note: "the first tokens", Files: files}); err != nil {
		return err
	}
	for name, text := range designs {
		if _, err := s.dropDesign(ctx, name, text, store.FromHost, etag(text)); err != nil {
			return err
		}
	}
	return nil
}
