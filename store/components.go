package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Component is a component with its contract as it is now.
type Component struct {
	ID       int64
	Slug     string
	Name     string
	Shelf    string
	Document string // empty for one that began without a drawing
	SourceID string // id of the family or layer it is drawn from
	Revision int
	Contract []byte
	Agreed   []byte // what was agreed while parts of the contract wait; nil for the contract itself
	Note     string // what made this revision
	UndoTo   *int
	RedoTo   *int
	Step     string  // what undo takes back
	Redone   string  // what redo does again
	Version  *string // newest release
	Updated  time.Time
}

const selectComponent = `select c.id, c.slug, c.name, c.shelf, coalesce(c.document, ''), coalesce(c.source, ''), c.revision, k.contract, k.agreed, k.note, k.undo_to, k.redo_to, k.step,
	coalesce((select n.step from contracts n where n.component = c.id and n.revision = k.redo_to), ''),
	(select r.version from releases r where r.component = c.id order by r.released desc, r.version desc limit 1), c.updated
	from components c join contracts k on k.component = c.id and k.revision = c.revision where c.project = $1 `

// Head is a component without its contract: what lists are made of.
type Head struct {
	ID       int64
	Slug     string
	Name     string
	Shelf    string
	Document string
	SourceID string
	Revision int
	Agreed   string   // names what is agreed while parts of the contract wait; empty for the contract itself
	Uses     []string // names of the components it uses itself
	Version  *string
	Updated  time.Time
	Review   bool   // it is put up for review
	Obsolete []byte // why the newest release is deprecated; nil for one that is not
}

// Heads lists all components by name.
func (s *Store) Heads(ctx context.Context) ([]Head, error) {
	return many[Head](ctx, s.pool, `select c.id, c.slug, c.name, c.shelf, coalesce(c.document, ''), coalesce(c.source, ''), c.revision, coalesce(md5(k.agreed::text), ''), k.uses,
		n.version, c.updated, exists (select from reviews v where v.component = c.id and v.closed is null), n.deprecated
		from components c join contracts k on k.component = c.id and k.revision = c.revision
		left join lateral (select r.version, r.contract->'deprecated' as deprecated from releases r where r.component = c.id order by r.released desc, r.version desc limit 1) n on true
		where c.project = $1 order by c.name, c.slug`, s.Scope.Project)
}

// Components lists all components by name.
func (s *Store) Components(ctx context.Context) ([]Component, error) {
	return many[Component](ctx, s.pool, selectComponent+"order by c.name, c.slug", s.Scope.Project)
}

// Component reads one by slug.
func (s *Store) Component(ctx context.Context, slug string) (Component, error) {
	return one[Component](ctx, s.pool, selectComponent+"and c.slug = $2", s.Scope.Project, slug)
}

// Drawn finds the component of a drawing: a family or layer of a document.
func (s *Store) Drawn(ctx context.Context, document, source string) (Component, error) {
	return one[Component](ctx, s.pool, selectComponent+"and c.document = $2 and c.source = $3", s.Scope.Project, document, source)
}

// ContractAt reads a component's contract as it was at a revision.
func (s *Store) ContractAt(ctx context.Context, component int64, revision int) ([]byte, error) {
	type row struct{ Contract []byte }
	r, err := one[row](ctx, s.pool, "select k.contract from contracts k join components c on c.id = k.component where c.project = $1 and c.id = $2 and k.revision = $3",
		s.Scope.Project, component, revision)
	return r.Contract, err
}

// PastContract is a state of a contract.
type PastContract struct {
	Revision int
	Contract []byte
	Note     string
	Actor    string // name
	Created  time.Time
}

// ContractHistory lists the last states of a component's contract, the first first.
func (s *Store) ContractHistory(ctx context.Context, component int64, most int) ([]PastContract, error) {
	return many[PastContract](ctx, s.pool, `select * from (select k.revision, k.contract, k.note, p.name as actor, k.created from contracts k join components c on c.id = k.component
		join people p on p.id = k.actor where c.project = $1 and c.id = $2 order by k.revision desc limit $3) h order by revision`, s.Scope.Project, component, most)
}

// ContractAsOf reads a component's contract as it was at a time; ErrNotFound when there was none.
func (s *Store) ContractAsOf(ctx context.Context, slug string, then time.Time) ([]byte, error) {
	type row struct{ Contract []byte }
	r, err := one[row](ctx, s.pool, `select k.contract from contracts k join components c on c.id = k.component
		where c.project = $1 and c.slug = $2 and k.created <= $3 order by k.revision desc limit 1`, s.Scope.Project, slug, then)
	return r.Contract, err
}

// Users lists the components that use one of a name themselves.
func (s *Store) Users(ctx context.Context, name string) ([]Component, error) {
	return many[Component](ctx, s.pool, selectComponent+"and k.uses ? $2 order by c.name, c.slug", s.Scope.Project, name)
}

// NewComponent is a component to be added with its first contract; of no document, one without a
// drawing.
type NewComponent struct {
	Slug, Name, Document, Source string
	Contract                     []byte
	Tokens                       *int   // number of the tokens' state it was checked with; nil for none
	Copies                       []Copy // drawings that are uses of it
}

// AddComponents keeps new components, all or none. ErrTaken means that a slug, or a drawing, has
// one already.
func (s *Store) AddComponents(ctx context.Context, list ...NewComponent) error {
	last := list[len(list)-1]
	err := s.inTx(ctx, "component "+last.Slug, func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, last.Tokens); err != nil {
			return err
		}
		for _, c := range list {
			if err := s.addComponent(ctx, tx, c); err != nil {
				return err
			}
		}
		return nil
	})
	return taken(err)
}

func (s *Store) addComponent(ctx context.Context, tx pgx.Tx, c NewComponent) error {
	var id int64
	err := tx.QueryRow(ctx, `insert into components (project, slug, name, document, source, revision) values ($1, $2, $3, nullif($4, ''), nullif($5, ''), 1) returning id`,
		s.Scope.Project, c.Slug, c.Name, c.Document, c.Source).Scan(&id)
	if err != nil {
		return err
	}
	for _, k := range c.Copies {
		if _, err := tx.Exec(ctx, "insert into component_copies (component, layer, layers, said, actor) values ($1, $2, $3, $4, $5)", id, k.Layer, k.Layers, k.Said, s.actor(ctx)); err != nil {
			return err
		}
	}
	_, err = tx.Exec(ctx, `insert into contracts (component, revision, contract, note, step, actor) values ($1, 1, $2, 'drafted', 'drafted', $3)`, id, c.Contract, s.actor(ctx))
	return err
}

// taken gives ErrTaken for what is there already.
func taken(err error) error {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "23505" { // unique_violation, PostgreSQL appendix A
		return ErrTaken
	}
	return err
}

// Edit is a new state of a contract, made from the revision that was read.
type Edit struct {
	Slug     string
	Read     int // revision the editor read
	Name     string
	NewSlug  string // with another name; empty for the same
	Contract []byte
	Agreed   []byte // nil when the contract itself is what is agreed
	Note     string
	Kept     []Decision     // made with it
	Code     []CodeDecision // of moves of the code, made with it; those with no outcome are open again
	Record   *NewRecord     // what is remembered of it as a decision; nil for an edit
	Release  *NewRelease    // made with it; nil for none
	Tokens   *int           // number of the tokens' state it was checked with; nil for none
}

// NewRelease is a version to be recorded.
type NewRelease struct {
	Version, Shelf, Level, Note string
	Changes                     any
}

// Apply keeps an edit: the contract's next revision, decisions and release in
// one transaction, with edits of those that follow. ErrStale when a contract changed since it was read, ErrMoved when the tokens did, ErrTaken
// when the version is already released, or the slug another's, ErrUnapproved when a release waits for approval.
func (s *Store) Apply(ctx context.Context, e Edit, follow ...Edit) (revision int, err error) {
	err = s.inTx(ctx, "component "+e.Slug, func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, e.Tokens); err != nil {
			return err
		}
		if revision, err = s.applyEdit(ctx, tx, e); err != nil {
			return err
		}
		return s.follow(ctx, tx, follow)
	})
	return revision, taken(err)
}

// follow keeps the edits of those that follow another.
func (s *Store) follow(ctx context.Context, tx pgx.Tx, edits []Edit) error {
	for _, e := range edits {
		if _, err := s.applyEdit(ctx, tx, e); err != nil {
			return err
		}
		if err := s.tell(ctx, tx, "component "+e.Slug); err != nil {
			return err
		}
	}
	return nil
}

// Split keeps a new component together with an edit of the one that it comes from, and of others that use it instead of
// their own parts, all or none. ErrTaken
// means that there is a component of its name, ErrStale that the other changed since it was read.
func (s *Store) Split(ctx context.Context, c NewComponent, e Edit, follow ...Edit) (revision int, err error) {
	err = s.inTx(ctx, "component "+e.Slug, func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, e.Tokens); err != nil {
			return err
		}
		if err := s.addComponent(ctx, tx, c); err != nil {
			return err
		}
		if revision, err = s.applyEdit(ctx, tx, e); err != nil {
			return err
		}
		return s.follow(ctx, tx, follow)
	})
	return revision, taken(err)
}

func (s *Store) applyEdit(ctx context.Context, tx pgx.Tx, e Edit) (revision int, err error) {
	id, err := s.lock(ctx, tx, e.Slug, e.Read)
	if err != nil {
		return 0, err
	}
	revision = e.Read
	var before []byte
	if e.Record != nil {
		if before, err = stood(ctx, tx, id, e.Record.Lane); err != nil {
			return 0, err
		}
	}
	if e.Contract != nil {
		revision++
		if _, err := tx.Exec(ctx, `insert into contracts (component, revision, contract, agreed, note, step, undo_to, actor) values ($1, $2, $3, $4, $5, $5, $6, $7)`,
			id, revision, e.Contract, e.Agreed, e.Note, e.Read, s.actor(ctx)); err != nil {
			return 0, err
		}
		if _, err := tx.Exec(ctx, "update components set revision = $2, name = $3, slug = coalesce(nullif($4, ''), slug), updated = now() where id = $1", id, revision, e.Name, e.NewSlug); err != nil {
			return 0, err
		}
	}
	for _, d := range e.Kept {
		if _, err := tx.Exec(ctx, `insert into decisions (component, outcome, move, condition, said, reason, actor) values ($1, $2, $3, $4, $5, $6, $7)
			on conflict (component, outcome, move, condition) do update set said = excluded.said, reason = excluded.reason, actor = excluded.actor, decided = now()`,
			id, d.Outcome, d.Move, d.Condition, d.Said, d.Reason, s.actor(ctx)); err != nil {
			return 0, err
		}
	}
	if err := s.putCodeDecisions(ctx, tx, id, e.Code); err != nil {
		return 0, err
	}
	version := ""
	if e.Release != nil {
		version = e.Release.Version
		if err := s.release(ctx, tx, id, revision, *e.Release); err != nil {
			return 0, err
		}
	}
	if e.Record != nil {
		return revision, s.putRecord(ctx, tx, id, *e.Record, version, e.Read, revision, before)
	}
	return revision, nil
}

// Settle notes what is agreed of a component's contract while parts of it wait; the contract
// stays. ErrStale when it changed since it was read.
func (s *Store) Settle(ctx context.Context, slug string, read int, agreed []byte) error {
	return s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		id, err := s.lock(ctx, tx, slug, read)
		if err != nil {
			return err
		}
		_, err = tx.Exec(ctx, "update contracts set agreed = $3 where component = $1 and revision = $2", id, read, agreed)
		return err
	})
}

// lock takes a component's row for this transaction; ErrStale when it is not at
// the revision that was read.
func (s *Store) lock(ctx context.Context, tx pgx.Tx, slug string, read int) (int64, error) {
	type row struct {
		ID       int64
		Revision int
	}
	r, err := one[row](ctx, tx, "select id, revision from components where project = $1 and slug = $2 for update", s.Scope.Project, slug)
	if err == nil && r.Revision != read {
		err = ErrStale
	}
	return r.ID, err
}

func (s *Store) release(ctx context.Context, tx pgx.Tx, id int64, revision int, r NewRelease) error {
	changes, err := json.Marshal(r.Changes)
	if err != nil {
		return err
	}
	waits, err := value[bool](ctx, tx, `select p.approval and not exists (select from reviews v where v.component = $2 and v.closed is null and v.approved = $3)
		from projects p where p.id = $1`, s.Scope.Project, id, revision)
	if err != nil {
		return err
	}
	if waits {
		return ErrUnapproved
	}
	tag, err := tx.Exec(ctx, `insert into releases (component, version, revision, contract, level, changes, note, actor)
		select $1, $2, $3, contract, $4, $5, $6, $7 from contracts where component = $1 and revision = $3
		on conflict do nothing`, id, r.Version, revision, r.Level, changes, r.Note, s.actor(ctx))
	if err != nil {
		return err
	}
	if tag.RowsAffected() == 0 {
		return ErrTaken
	}
	if _, err = tx.Exec(ctx, "update reviews set closed = now() where component = $1 and closed is null", id); err != nil {
		return err
	}
	_, err = tx.Exec(ctx, "update components set shelf = case when $2 = '' then shelf else $2 end, updated = now() where id = $1", id, r.Shelf)
	return err
}

// Direction is which way Undo goes along what was done.
type Direction bool

// Backward undoes the last edit, Forward redoes what was undone last.
const (
	Backward Direction = false
	Forward  Direction = true
)

// String gives the way as a verb: undo or redo.
func (d Direction) String() string {
	if d == Forward {
		return "redo"
	}
	return "undo"
}

// steps are the revisions that a state goes back to, and on to; nil for none.
type steps struct{ UndoTo, RedoTo *int }

// walked finds the revision that one step leads to from another, and the steps of the state that is made of it. ErrNotFound when there is
// none.
func walked(from int, to Direction, of func(revision int) (steps, error)) (target int, next steps, err error) {
	now, err := of(from)
	if err != nil {
		return 0, next, err
	}
	at := now.UndoTo
	if to == Forward {
		at = now.RedoTo
	}
	if at == nil {
		return 0, next, ErrNotFound
	}
	there, err := of(*at)
	if to == Forward {
		return *at, steps{&from, there.RedoTo}, err
	}
	return *at, steps{there.UndoTo, &from}, err
}

// Undo undoes the last edit, or redoes what was undone last. ErrNotFound when
// there is nothing to undo or redo.
// NewSlug is the slug that goes with the name it has then; empty for the same. Others follow.
func (s *Store) Undo(ctx context.Context, slug string, read int, tokens *int, to Direction, newSlug string, follow ...Edit) (revision int, err error) {
	err = s.inTx(ctx, "component "+slug, func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, tokens); err != nil {
			return err
		}
		id, err := s.lock(ctx, tx, slug, read)
		if err != nil {
			return err
		}
		if revision, err = s.walk(ctx, tx, id, read, to, newSlug); err != nil {
			return err
		}
		return s.follow(ctx, tx, follow)
	})
	return revision, taken(err)
}

// walk makes a revision of the one that a step leads to.
func (s *Store) walk(ctx context.Context, tx pgx.Tx, id int64, read int, to Direction, newSlug string) (revision int, err error) {
	target, next, err := walked(read, to, func(revision int) (steps, error) {
		return one[steps](ctx, tx, "select undo_to, redo_to from contracts where component = $1 and revision = $2", id, revision)
	})
	if err != nil {
		return 0, err
	}
	revision = read + 1
	note := "undone"
	if to == Forward {
		note = "redone"
	}
	if _, err := tx.Exec(ctx, `insert into contracts (component, revision, contract, agreed, note, step, undo_to, redo_to, actor)
		select component, $3, contract, agreed, $4, step, $5, $6, $7 from contracts where component = $1 and revision = $2`,
		id, target, revision, note, next.UndoTo, next.RedoTo, s.actor(ctx)); err != nil {
		return 0, err
	}
	_, err = tx.Exec(ctx, `update components set revision = $2, name = (select contract->>'name' from contracts where component = $1 and revision = $2),
		slug = coalesce(nullif($3, ''), slug), updated = now() where id = $1`, id, revision, newSlug)
	return revision, err
}

// Decision is a move that was decided without changing the contract: kept, or the designer
// asked; under which condition, what the other side said, and why.
type Decision struct{ Outcome, Move, Condition, Said, Reason string }

// Decisions lists what was decided of a component's moves.
func (s *Store) Decisions(ctx context.Context, component int64) ([]Decision, error) {
	return many[Decision](ctx, s.pool, "select outcome, move, condition, said, reason from decisions where component = $1 order by outcome, move, condition", component)
}

// Release is a published version.
type Release struct {
	Version  string
	Revision int
	Contract []byte
	Level    string
	Changes  []byte
	Note     string
	Released time.Time
	By       string // who released it
}

// Releases lists a component's releases, newest first.
func (s *Store) Releases(ctx context.Context, component int64) ([]Release, error) {
	return many[Release](ctx, s.pool, `select version, revision, contract, level, changes, note, released, p.name
		from releases r join people p on p.id = r.actor where component = $1 order by released desc, version desc`, component)
}

// Measurement is what the browser last measured of a component.
type Measurement struct {
	Build     string
	Measured  []byte
	Facts     int
	Differing int
	Taken     time.Time
}

// Measurement reads a component's last measurement.
func (s *Store) Measurement(ctx context.Context, component int64) (Measurement, error) {
	return one[Measurement](ctx, s.pool, "select build, measured, facts, differing, taken from measurements where component = $1", component)
}

// PutMeasurement keeps a measurement in place of the last.
func (s *Store) PutMeasurement(ctx context.Context, component int64, m Measurement) error {
	return s.inTx(ctx, "measured", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `insert into measurements (component, build, measured, facts, differing, actor) values ($1, $2, $3, $4, $5, $6)
			on conflict (component) do update set build = excluded.build, measured = excluded.measured, facts = excluded.facts,
			differing = excluded.differing, actor = excluded.actor, taken = now()`, component, m.Build, m.Measured, m.Facts, m.Differing, s.actor(ctx))
		return err
	})
}

// Summary is a measurement without what was measured.
type Summary struct {
	Component int64
	Build     string
	Facts     int
	Differing int
}

// Summaries lists the last measurement of every component that has one.
func (s *Store) Summaries(ctx context.Context) ([]Summary, error) {
	return many[Summary](ctx, s.pool, `select m.component, m.build, m.facts, m.differing
		from measurements m join components c on c.id = m.component where c.project = $1`, s.Scope.Project)
}

// LastCheck is the newest measurement of any component.
type LastCheck struct {
	Name      string
	Facts     int
	Differing int
	Taken     time.Time
}

// LastCheck reads it; ErrNotFound before the first.
func (s *Store) LastCheck(ctx context.Context) (LastCheck, error) {
	return one[LastCheck](ctx, s.pool, `select c.name, m.facts, m.differing, m.taken
		from measurements m join components c on c.id = m.component where c.project = $1 order by m.taken desc limit 1`, s.Scope.Project)
}

// ReleasedContract reads a component's contract as a version has it; ErrNotFound when there is no such release.
func (s *Store) ReleasedContract(ctx context.Context, component int64, version string) ([]byte, error) {
	return value[[]byte](ctx, s.pool, "select contract from releases where component = $1 and version = $2", component, version)
}
