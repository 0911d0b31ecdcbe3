package store

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// Aside is a finding of a review that somebody set aside, and why.
type Aside struct {
	Component int64
	Finding   string
	Reason    string
}

// Asides lists what was set aside, of all components.
func (s *Store) Asides(ctx context.Context) ([]Aside, error) {
	return many[Aside](ctx, s.pool, `select a.component, a.finding, a.reason from aside a join components c on c.id = a.component where c.project = $1
		order by a.component, a.finding`, s.Scope.Project)
}

// SetAside sets a finding of a component aside; without a reason it is taken back.
func (s *Store) SetAside(ctx context.Context, slug string, a Aside) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		if a.Reason == "" {
			_, err := tx.Exec(ctx, "delete from aside where component = $1 and finding = $2", a.Component, a.Finding)
			return err
		}
		_, err := tx.Exec(ctx, `insert into aside (component, finding, reason, actor) values ($1, $2, $3, $4)
			on conflict (component, finding) do update set reason = excluded.reason, actor = excluded.actor, created = now()`, a.Component, a.Finding, a.Reason, s.Actor)
		return err
	})
}
