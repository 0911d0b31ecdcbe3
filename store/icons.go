package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Icon is a small drawing of the library.
type Icon struct {
	Name    string
	Words   string // to be found by
	File    string // that it was read from
	Drawing []byte
	Cleaned []string // what of the file was changed
	Lost    []string // and what is not as it was
	Removed *time.Time
	Created time.Time
}

// Icons lists the icons by name, those that were removed too.
func (s *Store) Icons(ctx context.Context) ([]Icon, error) {
	return many[Icon](ctx, s.pool, `select name, words, file, drawing, array(select jsonb_array_elements_text(cleaned)), array(select jsonb_array_elements_text(lost)), removed, created
		from icons where project = $1 order by name`, s.Scope.Project)
}

// PutIcons keeps icons, in the place of those of their names.
func (s *Store) PutIcons(ctx context.Context, icons ...Icon) error {
	return s.inTx(ctx, "icons", func(tx pgx.Tx) error {
		for _, i := range icons {
			if _, err := tx.Exec(ctx, `insert into icons (project, name, words, file, drawing, cleaned, lost, actor) values ($1, $2, $3, $4, $5, to_jsonb($6::text[]), to_jsonb($7::text[]), $8)
				on conflict (project, name) do update set words = excluded.words, file = excluded.file, drawing = excluded.drawing, cleaned = excluded.cleaned, lost = excluded.lost,
				removed = null, actor = excluded.actor, created = now()`, s.Scope.Project, i.Name, i.Words, i.File, i.Drawing, i.Cleaned, i.Lost, s.actor(ctx)); err != nil {
				return err
			}
		}
		return nil
	})
}

// EditIcon renames an icon and gives it other words. ErrNotFound when there is none of the name, ErrTaken when another has
// the new one.
func (s *Store) EditIcon(ctx context.Context, name, to, words string) error {
	err := s.inTx(ctx, "icons", func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "update icons set name = $3, words = $4 where project = $1 and name = $2", s.Scope.Project, name, to, words))
	})
	return taken(err)
}

// touched gives ErrNotFound where a statement found nothing to change.
func touched(done pgconn.CommandTag, err error) error {
	if err == nil && done.RowsAffected() == 0 {
		return ErrNotFound
	}
	return err
}

// RemoveIcon takes an icon out of the library, or puts it back. ErrNotFound when there is none of the name.
func (s *Store) RemoveIcon(ctx context.Context, name string, removed bool) error {
	return s.inTx(ctx, "icons", func(tx pgx.Tx) error {
		return touched(tx.Exec(ctx, "update icons set removed = case when $3 then now() end where project = $1 and name = $2", s.Scope.Project, name, removed))
	})
}
