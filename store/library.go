package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5"
)

// LibraryRelease is a version of the library as a whole.
type LibraryRelease struct {
	Version  string
	Tokens   int // number of the tokens' state
	Level    string
	Changes  []byte
	Note     string
	By       string
	Released time.Time
}

// LibraryReleases lists the versions of the library, newest first.
func (s *Store) LibraryReleases(ctx context.Context) ([]LibraryRelease, error) {
	return many[LibraryRelease](ctx, s.pool, `select l.version, l.tokens, l.level, l.changes, l.note, p.name, l.released
		from library_releases l join people p on p.id = l.actor where l.project = $1 order by l.released desc, l.version desc`, s.Scope.Project)
}

// LibraryComponent is a component as a version of the library has it.
type LibraryComponent struct {
	Component int64
	Slug      string
	Version   string
	Shelf     string
	Contract  []byte
}

// InLibrary lists what is in a version of the library.
func (s *Store) InLibrary(ctx context.Context, version string) ([]LibraryComponent, error) {
	return many[LibraryComponent](ctx, s.pool, `select l.component, c.slug, l.version, l.shelf, r.contract from library_components l
		join releases r on r.component = l.component and r.version = l.version join components c on c.id = l.component
		where l.project = $1 and l.library = $2 order by r.contract->>'name', l.component`, s.Scope.Project, version)
}

// Released lists the newest release of every component that has one.
func (s *Store) Released(ctx context.Context) ([]LibraryComponent, error) {
	return many[LibraryComponent](ctx, s.pool, `select c.id, c.slug, r.version, c.shelf, r.contract from components c
		join lateral (select version, contract from releases where component = c.id order by released desc, version desc limit 1) r on true
		where c.project = $1 order by r.contract->>'name', c.id`, s.Scope.Project)
}

// NewLibrary is a version of the library to be recorded, with what is in it.
type NewLibrary struct {
	Version, Level, Note string
	Tokens               int
	Changes              any
	Components           []LibraryComponent
}

// ReleaseLibrary records a version of the library. ErrTaken when there is one, ErrMoved when the tokens, or the newest release of a component,
// are others than those it was made of.
func (s *Store) ReleaseLibrary(ctx context.Context, l NewLibrary) error {
	changes, err := json.Marshal(l.Changes)
	if err != nil {
		return err
	}
	return taken(s.inTx(ctx, "library", func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, &l.Tokens); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `insert into library_releases (project, version, tokens, level, changes, note, actor) values ($1, $2, $3, $4, $5, $6, $7)`,
			s.Scope.Project, l.Version, l.Tokens, l.Level, changes, l.Note, s.actor(ctx)); err != nil {
			return err
		}
		for _, c := range l.Components {
			newest, err := value[string](ctx, tx, "select version from releases where component = $1 order by released desc, version desc limit 1", c.Component)
			if err != nil {
				return err
			}
			if newest != c.Version {
				return ErrMoved
			}
			if _, err := tx.Exec(ctx, "insert into library_components (project, library, component, version, shelf) values ($1, $2, $3, $4, $5)",
				s.Scope.Project, l.Version, c.Component, c.Version, c.Shelf); err != nil {
				return err
			}
		}
		return nil
	}))
}
