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

// SetAside sets findings of a component aside, all for one reason; without one they are taken back.
func (s *Store) SetAside(ctx context.Context, slug string, component int64, findings []string, reason string) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		if reason == "" {
			_, err := tx.Exec(ctx, "delete from aside where component = $1 and finding = any ($2)", component, findings)
			return err
		}
		_, err := tx.Exec(ctx, `insert into aside (component, finding, reason, actor) select distinct $1::bigint, f, $3, $4::bigint from unnest($2::text[]) f
			on conflict (component, finding) do update set reason = excluded.reason, actor = excluded.actor, created = now()`, component, findings, reason, s.actor(ctx))
		return err
	})
}
