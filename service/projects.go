package service

import (
	"context"
	"errors"
	"strings"
	"sync"

	"cobrik/core/font"
	"cobrik/store"
)

// Projects gives the use cases of each project of a database. What a project's Service
// remembers is its own.
type Projects struct {
	db    *store.Database
	actor int64
	hosts Hosts
	fonts *font.Library

	mu   sync.Mutex
	open map[int64]*Service
}

// NewProjects makes the projects of a database, as a person has them. Hosts and fonts are as for New.
func NewProjects(db *store.Database, actor int64, hosts Hosts, fonts *font.Library) *Projects {
	return &Projects{db: db, actor: actor, hosts: hosts, fonts: fonts, open: map[int64]*Service{}}
}

// First gives the address of the oldest project.
func (p *Projects) First(ctx context.Context) (string, error) {
	scope, err := p.db.First(ctx)
	if err != nil {
		return "", err
	}
	project, err := p.db.In(scope).Project(ctx)
	return project.Address, err
}

// At gives the use cases of the project at an address.
func (p *Projects) At(ctx context.Context, address string) (*Service, error) {
	scope, err := p.db.At(ctx, address, p.actor)
	if errors.Is(err, store.ErrNotFound) {
		return nil, notFound("There is no project at %q.", address)
	}
	if err != nil {
		return nil, err
	}
	return p.of(scope), nil
}

func (p *Projects) of(scope store.Scope) *Service {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.open[scope.Project] == nil {
		p.open[scope.Project] = New(p.db.In(scope), p.hosts, p.fonts)
	}
	return p.open[scope.Project]
}

// Person gives the number of the person of a name; who was not known is from now on.
func (p *Projects) Person(ctx context.Context, name string) (int64, error) {
	return p.db.Person(ctx, name)
}

// ID is the project's number, by which live events name it.
func (s *Service) ID() int64 { return s.store.Scope.Project }

// Wanted says which state of a component is to be compiled: as it is now when empty.
type Wanted struct {
	Build   string // the build that is asked for, as it is named
	Typed   string // edits that are not kept, as Try names them
	Release string // the version that was released; of a page on trial, with what version of a component: slug@version
	Code    string // the commit of the repository whose code is to run
}

// Build compiles a component of the project at an address for the preview.
func (p *Projects) Build(ctx context.Context, address, slug string, want Wanted) (Built, error) {
	s, err := p.At(ctx, address)
	if err != nil {
		return Built{}, err
	}
	if page, is := strings.CutPrefix(slug, TrialPrefix); is {
		return s.BuildTrial(ctx, page, want.Release, want.Build)
	}
	if want.Release != "" {
		return s.BuildRelease(ctx, slug, want.Release)
	}
	if want.Code != "" {
		return s.BuildCode(ctx, slug, want.Code)
	}
	return s.BuildTyped(ctx, slug, want.Typed)
}
