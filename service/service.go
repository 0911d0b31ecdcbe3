// Package service holds the use cases: what a request, a command or a job
// does, joining core and store.
package service

import (
	"context"
	"errors"
	"fmt"
	"sync"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/store"
)

// Service carries out use cases. It keeps no state but the store's.
type Service struct {
	store     *store.Store
	host      *hostClient    // nil without a design host
	content   *contentClient // nil without a content host
	fonts     *font.Library
	documents documents
	standings standings
	memo      memo
	libraries libraries
}

// Hosts are the addresses of outside services; empty for none.
type Hosts struct{ Design, Content string }

// New makes a service that asks hosts; texts of SVG files are measured in the fonts.
func New(s *store.Store, hosts Hosts, fonts *font.Library) *Service {
	out := &Service{store: s, fonts: fonts}
	if hosts.Design != "" {
		out.host = newHostClient(hosts.Design)
	}
	if hosts.Content != "" {
		out.content = newContentClient(hosts.Content)
	}
	return out
}

// Kind says why a use case could not be carried out.
type Kind int

const (
	Invalid     Kind = iota // the input is wrong: Problems says how
	NotFound                // what was named is not there
	Conflict                // it changed since it was read, or is there already
	Unavailable             // an outside service did not answer
	TooLarge                // the input is over a limit
)

// Failure is a use case's answer when it could not be carried out.
type Failure struct {
	Kind     Kind
	Message  string
	Problems problem.List
	Current  *Stale // the state that came first, of a conflicting edit
}

func (f *Failure) Error() string {
	if len(f.Problems) > 0 {
		return f.Message + "\n" + f.Problems.Error()
	}
	return f.Message
}

func notFound(format string, args ...any) error {
	return &Failure{Kind: NotFound, Message: fmt.Sprintf(format, args...)}
}

func invalid(problems problem.List, format string, args ...any) error {
	return &Failure{Kind: Invalid, Message: fmt.Sprintf(format, args...), Problems: problems}
}

// document reads the newest revision of a design document, under the name people call it
// by, and gives its number. One that was removed is empty, and its number 0. The document
// is shared: do not change it.
func (s *Service) document(ctx context.Context, id string) (*design.Document, int, error) {
	d, err := s.store.Document(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, 0, notFound("There is no design document %q.", id)
	}
	if err != nil {
		return nil, 0, err
	}
	if d.Removed != nil {
		return &design.Document{Format: design.Format, ID: d.ID, Name: d.Name}, 0, nil
	}
	doc, err := s.named(ctx, d)
	return doc, d.Latest, err
}

// named reads a document's newest revision under the name it is called by.
func (s *Service) named(ctx context.Context, d store.Document) (*design.Document, error) {
	doc := s.documents.get(d.ID, d.Latest)
	if doc == nil {
		text, err := s.store.RevisionContent(ctx, d.ID, d.Latest)
		if err != nil {
			return nil, err
		}
		if doc, err = design.Decode(text); err != nil {
			return nil, err
		}
	} else if doc.Name == d.Name {
		return doc, nil
	}
	called := *doc
	called.Name = d.Name
	s.documents.put(d.ID, d.Latest, &called)
	return &called, nil
}

// allDocuments reads the newest revision of every design document.
func (s *Service) allDocuments(ctx context.Context) ([]*design.Document, error) {
	list, err := s.store.Documents(ctx)
	if err != nil {
		return nil, err
	}
	var out []*design.Document
	for _, d := range list {
		doc, err := s.named(ctx, d)
		if err != nil {
			return nil, err
		}
		out = append(out, doc)
	}
	return out, nil
}

// documents keeps the last documents read. A revision never changes, so several
// servers may each keep their own.
type documents struct {
	mu   sync.Mutex
	list []keptDocument // newest last
}

type keptDocument struct {
	id     string
	number int
	doc    *design.Document
}

const maxKeptDocuments = 8

func (d *documents) get(id string, number int) *design.Document {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, k := range d.list {
		if k.id == id && k.number == number {
			return k.doc
		}
	}
	return nil
}

func (d *documents) put(id string, number int, doc *design.Document) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.list = append(d.list, keptDocument{id, number, doc})
	if len(d.list) > maxKeptDocuments {
		d.list = d.list[1:]
	}
}
