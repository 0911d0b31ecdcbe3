package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// Target is the repository that a project's code is in.
type Target struct {
	Path     string
	Branch   string
	Folder   string // from the repository's root; empty for the root
	Tokens   string // the folder that token files are in, from the repository's root; empty where none are read
	Author   string // of the commits that are written
	Email    string
	Revision int
	Read     string // the commit that was read last; empty while none was
	ReadAt   *time.Time
	Problem  string
}

// Target reads the project's; ErrNotFound while it has none.
func (s *Store) Target(ctx context.Context) (Target, error) {
	return one[Target](ctx, s.pool, "select path, branch, folder, tokens, author, email, revision, read, read_at, problem from targets where project = $1", s.Scope.Project)
}

// PutTarget keeps the project's target, made of the revision that was read: 0 for the first. ErrStale when another is kept meanwhile. Where
// it is another place, nothing is known of what was in step there.
func (s *Store) PutTarget(ctx context.Context, read int, t Target) error {
	return s.inTx(ctx, "target", func(tx pgx.Tx) error {
		was, err := one[Target](ctx, tx, "select path, branch, folder, tokens, author, email, revision, read, read_at, problem from targets where project = $1 for update", s.Scope.Project)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		if was.Revision != read {
			return ErrStale
		}
		if was.Path != t.Path || was.Folder != t.Folder || was.Branch != t.Branch {
			was.Read, was.ReadAt = "", nil
			if _, err := tx.Exec(ctx, "delete from target_bases using components c where component = c.id and c.project = $1", s.Scope.Project); err != nil {
				return err
			}
		}
		if was.Path != t.Path || was.Tokens != t.Tokens || was.Branch != t.Branch {
			if _, err := tx.Exec(ctx, "delete from token_bases where project = $1", s.Scope.Project); err != nil {
				return err
			}
		}
		_, err = tx.Exec(ctx, `insert into targets (project, path, branch, folder, tokens, author, email, revision, read, read_at, actor) values ($1, $2, $3, $4, $11, $5, $6, $7, $8, $9, $10)
			on conflict (project) do update set path = $2, branch = $3, folder = $4, tokens = $11, author = $5, email = $6, revision = $7, read = $8, read_at = $9, problem = '', actor = $10, updated = now()`,
			s.Scope.Project, t.Path, t.Branch, t.Folder, t.Author, t.Email, read+1, was.Read, was.ReadAt, s.actor(ctx), t.Tokens)
		return err
	})
}

// TargetRead notes what came of reading the target: a commit, or why there is none, and since when components are in step. Nothing is told
// where it is as before.
func (s *Store) TargetRead(ctx context.Context, hash, problem string, bases map[int64]TargetBase) error {
	was, err := s.Target(ctx)
	if err != nil {
		return err
	}
	subject := ""
	if was.Read != hash && hash != "" || was.Problem != problem || len(bases) > 0 {
		subject = "target"
	}
	write := func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "update targets set read = case when $2 = '' then read else $2 end, read_at = now(), problem = $3 where project = $1", s.Scope.Project, hash, problem); err != nil {
			return err
		}
		for component, b := range bases {
			if _, err := tx.Exec(ctx, "insert into target_bases (component, hash, revision) values ($1, $2, $3) on conflict (component) do update set hash = $2, revision = $3", component, b.Hash, b.Revision); err != nil {
				return err
			}
		}
		return nil
	}
	return s.inTx(ctx, subject, write)
}

// TargetBase is when a component's code was last in step with its contract: at a commit, or, where it never was, as it would be
// written of a revision of the contract.
type TargetBase struct {
	Hash     string
	Revision int
}

// TargetBases gives them by the ids of components.
func (s *Store) TargetBases(ctx context.Context) (map[int64]TargetBase, error) {
	type row struct {
		Component int64
		TargetBase
	}
	rows, err := many[row](ctx, s.pool, "select b.component, b.hash, b.revision from target_bases b join components c on c.id = b.component where c.project = $1", s.Scope.Project)
	out := map[int64]TargetBase{}
	for _, r := range rows {
		out[r.Component] = r.TargetBase
	}
	return out, err
}

// CodeDecision is what was decided of a move of the code.
type CodeDecision struct {
	Component int64
	Move      string
	Outcome   string // back, left or asked
	Said      string
	Reason    string
	Actor     string // name
	Created   time.Time
}

// CodeDecisions lists them, of all components.
func (s *Store) CodeDecisions(ctx context.Context) ([]CodeDecision, error) {
	return many[CodeDecision](ctx, s.pool, `select d.component, d.move, d.outcome, d.said, d.reason, p.name as actor, d.created from code_decisions d
		join components c on c.id = d.component join people p on p.id = d.actor where c.project = $1 order by d.id`, s.Scope.Project)
}

// putCodeDecisions keeps decisions of a component's moves, each in the place of an earlier one of the same move; those with no outcome
// are taken back.
func (s *Store) putCodeDecisions(ctx context.Context, tx pgx.Tx, component int64, list []CodeDecision) error {
	for _, d := range list {
		if _, err := tx.Exec(ctx, "delete from code_decisions where component = $1 and move = $2", component, d.Move); err != nil {
			return err
		}
		if d.Outcome == "" {
			continue
		}
		if _, err := tx.Exec(ctx, "insert into code_decisions (component, move, outcome, said, reason, actor) values ($1, $2, $3, $4, $5, $6)",
			component, d.Move, d.Outcome, d.Said, d.Reason, s.actor(ctx)); err != nil {
			return err
		}
	}
	return nil
}

// TargetWrite is a branch that was written, or is about to be.
type TargetWrite struct {
	ID         int64
	Branch     string
	Started    string // where the branch led before; empty for a new one
	Hash       string
	Components []byte // JSON: slugs
	State      string // pending, done or gone
	Actor      string // name
	Created    time.Time
}

const selectWrites = `select w.id, w.branch, w.started, w.hash, w.components, w.state, p.name as actor, w.created from target_writes w join people p on p.id = w.actor where w.project = $1 `

// TargetWrites lists what was written, the last first.
func (s *Store) TargetWrites(ctx context.Context, most int) ([]TargetWrite, error) {
	return many[TargetWrite](ctx, s.pool, selectWrites+"order by w.id desc limit $2", s.Scope.Project, most)
}

// PendingWrites lists what was begun and is not known to be done.
func (s *Store) PendingWrites(ctx context.Context) ([]TargetWrite, error) {
	return many[TargetWrite](ctx, s.pool, selectWrites+"and w.state = 'pending' order by w.id", s.Scope.Project)
}

// BeginWrite notes that a branch is about to lead to a commit, so that whoever comes after a crash knows.
func (s *Store) BeginWrite(ctx context.Context, w TargetWrite, components []string) (id int64, err error) {
	slugs, err := json.Marshal(components)
	if err != nil {
		return 0, err
	}
	err = s.inTx(ctx, "", func(tx pgx.Tx) error {
		return tx.QueryRow(ctx, "insert into target_writes (project, branch, started, hash, components, state, actor) values ($1, $2, $3, $4, $5, 'pending', $6) returning id",
			s.Scope.Project, w.Branch, w.Started, w.Hash, slugs, s.actor(ctx)).Scan(&id)
	})
	return id, err
}

// EndWrite says what became of it: done, or gone where the branch moved meanwhile.
func (s *Store) EndWrite(ctx context.Context, id int64, state string) error {
	return s.inTx(ctx, "target", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update target_writes set state = $3 where project = $1 and id = $2", s.Scope.Project, id, state)
		return err
	})
}

// TokenBases gives token files as the project and its repository both had them last, by name.
func (s *Store) TokenBases(ctx context.Context) (map[string][]byte, error) {
	type row struct {
		File    string
		Content []byte
	}
	rows, err := many[row](ctx, s.pool, "select file, content from token_bases where project = $1", s.Scope.Project)
	out := map[string][]byte{}
	for _, r := range rows {
		out[r.File] = r.Content
	}
	return out, err
}

// PutTokenBases keeps what both have now, of files by name; nil for a file that neither has.
func (s *Store) PutTokenBases(ctx context.Context, files map[string][]byte) error {
	return s.inTx(ctx, "target", func(tx pgx.Tx) error {
		for name, content := range files {
			statement, args := "insert into token_bases (project, file, content) values ($1, $2, $3) on conflict (project, file) do update set content = $3", []any{s.Scope.Project, name, content}
			if content == nil {
				statement, args = "delete from token_bases where project = $1 and file = $2", args[:2]
			}
			if _, err := tx.Exec(ctx, statement, args...); err != nil {
				return err
			}
		}
		return nil
	})
}

// TokenDecision is a token that is to be put back in the repository.
type TokenDecision struct{ File, Place, Said string }

// TokenDecisions lists them.
func (s *Store) TokenDecisions(ctx context.Context) ([]TokenDecision, error) {
	return many[TokenDecision](ctx, s.pool, "select file, place, said from token_decisions where project = $1 order by file, place", s.Scope.Project)
}

// PutTokenDecisions keeps some, and takes others back.
func (s *Store) PutTokenDecisions(ctx context.Context, put, clear []TokenDecision) error {
	return s.inTx(ctx, "target", func(tx pgx.Tx) error {
		for _, d := range append(clear[:len(clear):len(clear)], put...) {
			if _, err := tx.Exec(ctx, "delete from token_decisions where project = $1 and file = $2 and place = $3", s.Scope.Project, d.File, d.Place); err != nil {
				return err
			}
		}
		for _, d := range put {
			if _, err := tx.Exec(ctx, "insert into token_decisions (project, file, place, said, actor) values ($1, $2, $3, $4, $5)", s.Scope.Project, d.File, d.Place, d.Said, s.actor(ctx)); err != nil {
				return err
			}
		}
		return nil
	})
}
