// Package service holds the use cases: what a request, a command or a job
// does, joining core and store.
package service

import (
	"context"
	"errors"
	"fmt"

	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/store"
)

// Service carries out use cases. It keeps no state but the store's.
type Service struct {
	store *store.Store
	host  *hostClient // nil without a design host
}

// New makes a service. The design host's address may be empty.
func New(s *store.Store, host string) *Service {
	out := &Service{store: s}
	if host != "" {
		out.host = newHostClient(host)
	}
	return out
}

// Store gives the store, for what listens to it.
func (s *Service) Store() *store.Store { return s.store }

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

// tokens reads the project's token files. Problems in stored files cannot stop
// the work: what could be read is used.
func (s *Service) tokens(ctx context.Context) (*token.Set, string, error) {
	files, err := s.store.TokenFiles(ctx)
	if err != nil {
		return nil, "", err
	}
	var list []token.File
	version := 0
	for _, f := range files {
		list = append(list, token.File{Name: f.Name, Text: f.Content})
		version += f.Revision
	}
	set, _ := token.Read(list...)
	return set, fmt.Sprintf("%d-%d", len(files), version), nil
}

// document reads a design document; revision 0 is the newest. The number of the
// revision read is given, too.
func (s *Service) document(ctx context.Context, id string, revision int) (*design.Document, int, error) {
	text, number, err := s.store.RevisionContent(ctx, id, revision)
	if errors.Is(err, store.ErrNotFound) {
		return nil, 0, notFound("there is no design document %q with that revision", id)
	}
	if err != nil {
		return nil, 0, err
	}
	doc, found := design.Read(id, text)
	if doc == nil {
		return nil, 0, invalid(found, "the design document %s cannot be read any more", id)
	}
	return doc, number, nil
}
