package store

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"github.com/jackc/pgx/v5"
)

// NewRecord is what is remembered of a decision, beside what it does.
type NewRecord struct {
	Press   int64 // the same for what is decided at once of several components; 0 for one alone
	Lane    string
	Read    string // what was read: a revision of the design, or a commit
	Reason  string
	Decided any // what became of each move
}

// Record is a decision as it is remembered.
type Record struct {
	ID        int64
	Press     int64
	Component int64
	Slug      string
	Name      string
	Lane      string
	Read      string
	Reason    string
	Decided   []byte
	Version   string // released with it; empty for none
	Before    int    // the contract's revision
	After     int
	Undone    *time.Time
	Actor     string // name
	Created   time.Time
}

const selectRecords = `select r.id, r.press, r.component, c.slug, c.name, r.lane, r.read, r.reason, r.decided, r.version, r.before, r.after, r.undone, p.name as actor, r.created
	from sync_records r join components c on c.id = r.component join people p on p.id = r.actor where c.project = $1 `

// Records lists what was decided, the first first.
func (s *Store) Records(ctx context.Context) ([]Record, error) {
	return many[Record](ctx, s.pool, selectRecords+"order by r.id", s.Scope.Project)
}

// Record reads one.
func (s *Store) Record(ctx context.Context, id int64) (Record, error) {
	return one[Record](ctx, s.pool, selectRecords+"and r.id = $2", s.Scope.Project, id)
}

// Press gives a number for what is decided at once of several components.
func (s *Store) Press(ctx context.Context) (int64, error) {
	return value[int64](ctx, s.pool, "select nextval('sync_presses')")
}

// stood gives what stands decided of a component's moves in a lane, as rows.
func stood(ctx context.Context, tx pgx.Tx, component int64, lane string) ([]byte, error) {
	table := map[string]string{"design": "decisions", "code": "code_decisions"}[lane]
	return value[[]byte](ctx, tx, "select coalesce(jsonb_agg(to_jsonb(d)), '[]') from "+table+" d where d.component = $1", component)
}

// putRecord remembers a decision that took a contract from one revision to another, and what stood before it.
func (s *Store) putRecord(ctx context.Context, tx pgx.Tx, component int64, r NewRecord, version string, before, after int, stood []byte) error {
	decided, err := json.Marshal(r.Decided)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, `insert into sync_records (component, press, lane, read, reason, decided, version, before, after, stood, actor)
		values ($1, case when $2 = 0 then nextval('sync_presses') else $2 end, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		component, r.Press, r.Lane, r.Read, r.Reason, decided, version, before, after, stood, s.actor(ctx))
	return err
}

// ErrNotLast means that something was decided, or changed, after what is to be taken back.
var ErrNotLast = errors.New("something came after it")

// standAgain makes what stood decided in a lane before a record stand again.
var standAgain = map[string][]string{
	"design": {
		"delete from decisions d using sync_records r where r.id = $1 and d.component = r.component",
		`insert into decisions (component, outcome, move, condition, said, reason, actor, decided)
			select d.component, d.outcome, d.move, d.condition, d.said, d.reason, d.actor, d.decided from sync_records r, jsonb_populate_recordset(null::decisions, r.stood) d where r.id = $1`,
	},
	"code": {
		"delete from code_decisions d using sync_records r where r.id = $1 and d.component = r.component",
		`insert into code_decisions (component, move, outcome, said, reason, actor, created)
			select d.component, d.move, d.outcome, d.said, d.reason, d.actor, d.created from sync_records r, jsonb_populate_recordset(null::code_decisions, r.stood) d where r.id = $1`,
	},
}

// TakeBack undoes a decision: the contract is as it was before it, and what stood decided stands again. ErrStale when the contract changed
// since it was read, ErrNotLast when something came after the decision. NewSlug is the slug that goes with the name it has then; others follow.
func (s *Store) TakeBack(ctx context.Context, r Record, read int, tokens *int, newSlug string, follow ...Edit) (revision int, err error) {
	revision = read
	err = s.inTx(ctx, "component "+r.Slug, func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, tokens); err != nil {
			return err
		}
		id, err := s.lock(ctx, tx, r.Slug, read)
		if err != nil {
			return err
		}
		last, err := value[bool](ctx, tx, `select r.undone is null and not exists (select from sync_records l where l.component = r.component and l.id > r.id and l.undone is null)
			and (r.before = r.after or exists (select from contracts k where k.component = r.component and k.revision = $2 and k.undo_to = r.before))
			from sync_records r where r.id = $1 for update`, r.ID, read)
		if err != nil {
			return err
		}
		if !last {
			return ErrNotLast
		}
		if r.Before != r.After {
			if revision, err = s.walk(ctx, tx, id, read, Backward, newSlug); err != nil {
				return err
			}
		}
		for _, statement := range append(slices.Clone(standAgain[r.Lane]), "update sync_records set undone = now() where id = $1") {
			if _, err := tx.Exec(ctx, statement, r.ID); err != nil {
				return err
			}
		}
		return s.follow(ctx, tx, follow)
	})
	return revision, taken(err)
}

// Precedence says who wins where a facet moved.
type Precedence struct {
	Facet   string
	Wins    string
	Actor   string // name
	Created time.Time
}

// Precedences lists the project's.
func (s *Store) Precedences(ctx context.Context) ([]Precedence, error) {
	return many[Precedence](ctx, s.pool, "select r.facet, r.wins, p.name as actor, r.created from precedences r join people p on p.id = r.actor where r.project = $1 order by r.created, r.facet", s.Scope.Project)
}

// PutPrecedence says who wins where a facet moved; without a winner nobody does any more.
func (s *Store) PutPrecedence(ctx context.Context, facet, wins string) error {
	return s.inTx(ctx, "target", func(tx pgx.Tx) error {
		if wins == "" {
			_, err := tx.Exec(ctx, "delete from precedences where project = $1 and facet = $2", s.Scope.Project, facet)
			return err
		}
		_, err := tx.Exec(ctx, `insert into precedences (project, facet, wins, actor) values ($1, $2, $3, $4)
			on conflict (project, facet) do update set wins = $3, actor = $4, created = now()`, s.Scope.Project, facet, wins, s.actor(ctx))
		return err
	})
}

// DriftPoint is how far all agreed at a time.
type DriftPoint struct {
	ID         int64
	At         time.Time
	Why        string
	Design     string
	Code       string
	Components []byte // JSON
}

// DriftPoints lists them in order of time, those of between two times; at most the last of a number.
func (s *Store) DriftPoints(ctx context.Context, from, to time.Time, most int) ([]DriftPoint, error) {
	return many[DriftPoint](ctx, s.pool, `select * from (select id, at, why, design, code, components from drift_points where project = $1 and at >= $2 and at <= $3
		order by at desc, id desc limit $4) p order by at, id`, s.Scope.Project, from, to, most)
}

// AddDriftPoint keeps one, as of now where it has no time, unless the last says the same.
func (s *Store) AddDriftPoint(ctx context.Context, p DriftPoint) error {
	var at *time.Time
	if !p.At.IsZero() {
		at = &p.At
	}
	return s.inTx(ctx, "drift", func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select from projects where id = $1 for update", s.Scope.Project); err != nil { // one after another: several servers note the same
			return err
		}
		_, err := tx.Exec(ctx, `insert into drift_points (project, at, why, design, code, components) select $1, coalesce($6, clock_timestamp()), $2, $3, $4, $5::jsonb
			where not exists (select from (select design, code, components from drift_points where project = $1 order by at desc, id desc limit 1) l
				where l.design = $3 and l.code = $4 and l.components = $5::jsonb)`, s.Scope.Project, p.Why, p.Design, p.Code, p.Components, at)
		return err
	})
}

// ReleasedAsTheyAre tells by id which components' newest releases say what their contracts say, wherever those were drawn.
func (s *Store) ReleasedAsTheyAre(ctx context.Context) (map[int64]bool, error) {
	type row struct{ ID int64 }
	rows, err := many[row](ctx, s.pool, `select c.id from components c join contracts k on k.component = c.id and k.revision = c.revision
		join lateral (select r.contract from releases r where r.component = c.id order by r.released desc, r.version desc limit 1) n on true
		where c.project = $1 and n.contract - 'origin' = k.contract - 'origin' `, s.Scope.Project)
	out := map[int64]bool{}
	for _, r := range rows {
		out[r.ID] = true
	}
	return out, err
}
