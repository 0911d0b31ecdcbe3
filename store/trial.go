package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/jackc/pgx/v5"
)

// TrialPage is a page on trial as it is now.
type TrialPage struct {
	ID       int64
	Slug     string
	Name     string
	Document string // empty for one that nobody drew
	Drawn    []byte // JSON: ids of the design's pages
	Widths   []byte // JSON: px
	Revision int
	TrialState
	UndoTo  *int
	RedoTo  *int
	Redone  string // what redo does again
	Updated time.Time
}

// TrialState is what a page holds at a revision.
type TrialState struct {
	Outline  string
	Pins     []byte // JSON: released versions by the slugs of components
	Pictures []byte // JSON
	Needs    []byte // JSON: sentences
	Step     string // what was done
}

const selectTrial = `select t.id, t.slug, t.name, coalesce(t.document, ''), t.drawn, t.widths, t.revision, s.outline, s.pins, s.pictures, s.needs, s.step, s.undo_to, s.redo_to,
	coalesce((select n.step from trial_states n where n.page = t.id and n.revision = s.redo_to), ''), t.updated
	from trial_pages t join trial_states s on s.page = t.id and s.revision = t.revision where t.project = $1 `

// TrialPages lists the pages on trial by name.
func (s *Store) TrialPages(ctx context.Context) ([]TrialPage, error) {
	return many[TrialPage](ctx, s.pool, selectTrial+"order by t.name, t.slug", s.Scope.Project)
}

// TrialPage reads one by slug.
func (s *Store) TrialPage(ctx context.Context, slug string) (TrialPage, error) {
	return one[TrialPage](ctx, s.pool, selectTrial+"and t.slug = $2", s.Scope.Project, slug)
}

// TrialOutline is a page without what it is otherwise kept with.
type TrialOutline struct{ Slug, Name, Outline string }

// TrialOutlines lists the outlines of the pages on trial, by name.
func (s *Store) TrialOutlines(ctx context.Context) ([]TrialOutline, error) {
	return many[TrialOutline](ctx, s.pool, "select t.slug, t.name, s.outline from trial_pages t join trial_states s on s.page = t.id and s.revision = t.revision where t.project = $1 order by t.name, t.slug", s.Scope.Project)
}

// TrialCount counts the pages on trial.
func (s *Store) TrialCount(ctx context.Context) (int, error) {
	return value[int](ctx, s.pool, "select count(*)::int from trial_pages where project = $1", s.Scope.Project)
}

// NewTrialPage is a page to be added.
type NewTrialPage struct {
	Slug, Name, Document string
	Drawn                []string
	Widths               []float64
	TrialState
}

// AddTrialPages keeps new pages, all or none. ErrTaken means that a slug is another's.
func (s *Store) AddTrialPages(ctx context.Context, list ...NewTrialPage) error {
	return taken(s.inTx(ctx, "trial", func(tx pgx.Tx) error {
		for _, p := range list {
			drawn, err := json.Marshal(append([]string{}, p.Drawn...))
			if err != nil {
				return err
			}
			widths, err := json.Marshal(append([]float64{}, p.Widths...))
			if err != nil {
				return err
			}
			var id int64
			if err := tx.QueryRow(ctx, "insert into trial_pages (project, slug, name, document, drawn, widths, revision) values ($1, $2, $3, nullif($4, ''), $5, $6, 1) returning id",
				s.Scope.Project, p.Slug, p.Name, p.Document, drawn, widths).Scan(&id); err != nil {
				return err
			}
			if err := s.addTrialState(ctx, tx, id, 1, p.TrialState, nil); err != nil {
				return err
			}
		}
		return nil
	}))
}

func (s *Store) addTrialState(ctx context.Context, tx pgx.Tx, page int64, revision int, t TrialState, undoTo *int) error {
	_, err := tx.Exec(ctx, "insert into trial_states (page, revision, outline, pins, pictures, needs, step, undo_to, actor) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
		page, revision, t.Outline, t.Pins, t.Pictures, t.Needs, t.Step, undoTo, s.actor(ctx))
	return err
}

// lockTrial takes a page's row for this transaction; ErrStale when it is not at the revision that was read.
func (s *Store) lockTrial(ctx context.Context, tx pgx.Tx, slug string, read int) (int64, error) {
	type row struct {
		ID       int64
		Revision int
	}
	r, err := one[row](ctx, tx, "select id, revision from trial_pages where project = $1 and slug = $2 for update", s.Scope.Project, slug)
	if err == nil && r.Revision != read {
		err = ErrStale
	}
	return r.ID, err
}

// EditTrial keeps a page's next state: one that goes on with the last is undone with it. ErrStale when it changed since it was read.
func (s *Store) EditTrial(ctx context.Context, slug string, read int, t TrialState, goesOn bool) (revision int, err error) {
	err = s.inTx(ctx, "trial "+slug, func(tx pgx.Tx) error {
		id, err := s.lockTrial(ctx, tx, slug, read)
		if err != nil {
			return err
		}
		revision = read + 1
		undoTo := &read
		if goesOn {
			last, err := value[*int](ctx, tx, "select undo_to from trial_states where page = $1 and revision = $2", id, read)
			if err != nil {
				return err
			}
			if last != nil {
				undoTo = last
			}
		}
		if err := s.addTrialState(ctx, tx, id, revision, t, undoTo); err != nil {
			return err
		}
		if undoTo != &read { // nothing leads to it any more
			if _, err := tx.Exec(ctx, "delete from trial_states where page = $1 and revision = $2", id, read); err != nil {
				return err
			}
		}
		_, err = tx.Exec(ctx, "update trial_pages set revision = $2, updated = now() where id = $1", id, revision)
		return err
	})
	return revision, err
}

// UndoTrial undoes the last edit of a page, or redoes what was undone last. ErrNotFound when there is nothing to undo or redo.
func (s *Store) UndoTrial(ctx context.Context, slug string, read int, to Direction) (revision int, err error) {
	err = s.inTx(ctx, "trial "+slug, func(tx pgx.Tx) error {
		id, err := s.lockTrial(ctx, tx, slug, read)
		if err != nil {
			return err
		}
		target, next, err := walked(read, to, func(revision int) (steps, error) {
			return one[steps](ctx, tx, "select undo_to, redo_to from trial_states where page = $1 and revision = $2", id, revision)
		})
		if err != nil {
			return err
		}
		revision = read + 1
		if _, err := tx.Exec(ctx, `insert into trial_states (page, revision, outline, pins, pictures, needs, step, undo_to, redo_to, actor)
			select page, $3, outline, pins, pictures, needs, step, $4, $5, $6 from trial_states where page = $1 and revision = $2`,
			id, target, revision, next.UndoTo, next.RedoTo, s.actor(ctx)); err != nil {
			return err
		}
		_, err = tx.Exec(ctx, "update trial_pages set revision = $2, updated = now() where id = $1", id, revision)
		return err
	})
	return revision, err
}

// LookTrial keeps the widths that a page is looked at.
func (s *Store) LookTrial(ctx context.Context, slug string, widths []float64) error {
	text, err := json.Marshal(append([]float64{}, widths...))
	if err != nil {
		return err
	}
	return s.inTx(ctx, "trial "+slug, func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "update trial_pages set widths = $3 where project = $1 and slug = $2", s.Scope.Project, slug, text))
	})
}

// RemoveTrial takes a page away.
func (s *Store) RemoveTrial(ctx context.Context, slug string) error {
	return s.inTx(ctx, "trial "+slug, func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "delete from trial_pages where project = $1 and slug = $2", s.Scope.Project, slug))
	})
}

// ContentSource is a file of records.
type ContentSource struct {
	Name    string
	Content []byte
	Schema  []byte
	Host    string // the collection of the content host that it is read from; empty for a file
	Fetched *time.Time
	Updated time.Time
}

// ContentSources lists the project's sources of records by name.
func (s *Store) ContentSources(ctx context.Context) ([]ContentSource, error) {
	return many[ContentSource](ctx, s.pool, "select name, content, schema, host, fetched, updated from content_sources where project = $1 order by name", s.Scope.Project)
}

// PutContentSource keeps a source of records in the place of that of its name; a schema that there was stays where none is given.
func (s *Store) PutContentSource(ctx context.Context, c ContentSource) error {
	return s.inTx(ctx, "trial content", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `insert into content_sources (project, name, content, schema, host, fetched, actor) values ($1, $2, $3, $4, $5, $6, $7)
			on conflict (project, name) do update set content = excluded.content, schema = case when length(excluded.schema) > 0 then excluded.schema else content_sources.schema end,
			host = excluded.host, fetched = excluded.fetched, actor = excluded.actor, updated = now()`,
			s.Scope.Project, c.Name, c.Content, append([]byte{}, c.Schema...), c.Host, c.Fetched, s.actor(ctx))
		return err
	})
}

// PutContentSchema gives a source its JSON Schema; an empty one takes it away.
func (s *Store) PutContentSchema(ctx context.Context, name string, schema []byte) error {
	return s.inTx(ctx, "trial content", func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "update content_sources set schema = $3, updated = now() where project = $1 and name = $2", s.Scope.Project, name, append([]byte{}, schema...)))
	})
}

// RemoveContentSource takes a source away.
func (s *Store) RemoveContentSource(ctx context.Context, name string) error {
	return s.inTx(ctx, "trial content", func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "delete from content_sources where project = $1 and name = $2", s.Scope.Project, name))
	})
}
