package store

import (
	"context"
	"crypto/sha256"
	"time"

	"github.com/jackc/pgx/v5"
)

// TokenRevision is a state of the token files: an edit makes a new one.
type TokenRevision struct {
	Number  int
	Note    string // what made it
	UndoTo  *int
	RedoTo  *int
	Renames []Rename // since the state UndoTo names
	Created time.Time
}

// Rename is a token, or a group of them, that got another name.
type Rename struct {
	From string `json:"from"`
	To   string `json:"to"`
}

const tokenRevision = "select number, note, undo_to, redo_to, renames, created from token_revisions where project = $1 "

// TokenFile is one file of design tokens, a resolver document, or the project
// file.
type TokenFile struct {
	Name    string
	Since   int // state that gave it this text
	Updated time.Time
	Content []byte
}

// TokenRevision reads the newest state.
func (s *Store) TokenRevision(ctx context.Context) (TokenRevision, error) {
	return one[TokenRevision](ctx, s.pool, tokenRevision+"order by number desc limit 1", s.Scope.Project)
}

// TokenRevisionAt reads one state; ErrNotFound when there is none of that number.
func (s *Store) TokenRevisionAt(ctx context.Context, number int) (TokenRevision, error) {
	return one[TokenRevision](ctx, s.pool, tokenRevision+"and number = $2", s.Scope.Project, number)
}

// TokenRevisionAsOf reads the state the tokens were in at a time; the first one when that is older.
func (s *Store) TokenRevisionAsOf(ctx context.Context, then time.Time) (TokenRevision, error) {
	return one[TokenRevision](ctx, s.pool, tokenRevision+"and (created <= $2 or number = 0) order by number desc limit 1", s.Scope.Project, then)
}

// TokenRevisions lists the states, oldest first: the last 500.
func (s *Store) TokenRevisions(ctx context.Context) ([]TokenRevision, error) {
	return many[TokenRevision](ctx, s.pool, "select * from ("+tokenRevision+"order by number desc limit 500) r order by number", s.Scope.Project)
}

// TokenFiles lists a state's files in the order they are read.
func (s *Store) TokenFiles(ctx context.Context, state int) ([]TokenFile, error) {
	return many[TokenFile](ctx, s.pool, `select f.name, f.since, since.created, t.content
		from token_revision_files f join token_texts t using (hash) join token_revisions since on since.project = f.project and since.number = f.since
		where f.project = $1 and f.revision = $2 order by f.position`, s.Scope.Project, state)
}

// NewTokens is a new state of the token files.
type NewTokens struct {
	Read      int // state the editor read
	Note      string
	Files     []TokenFile // all of them, in order
	Renames   []Rename
	Contracts []Edit // what follows for contracts
	Seen      string // the contracts that it was checked with: see Contracts; empty for none
}

// Contracts names the state of all contracts together.
func (s *Store) Contracts(ctx context.Context) (string, error) {
	return value[string](ctx, s.pool, contractsState, s.Scope.Project)
}

const contractsState = "select 'c' || coalesce(md5(string_agg(id || '.' || revision, ',' order by id)), '') from components where project = $1"

// sawContracts gives ErrMoved when contracts changed since they were seen. Nobody writes one meanwhile: the project is locked.
func (s *Store) sawContracts(ctx context.Context, tx pgx.Tx, seen string) error {
	if seen == "" {
		return nil
	}
	now, err := value[string](ctx, tx, contractsState, s.Scope.Project)
	if err == nil && now != seen {
		err = ErrMoved
	}
	return err
}

// checkedWith gives ErrMoved when the tokens are no longer those that a contract was checked with, and keeps them as they are
// until the transaction ends.
func (s *Store) checkedWith(ctx context.Context, tx pgx.Tx, tokens *int) error {
	if _, err := tx.Exec(ctx, "select 1 from projects where id = $1 for share", s.Scope.Project); err != nil {
		return err
	}
	if tokens == nil {
		return nil
	}
	now, err := value[int](ctx, tx, "select max(number) from token_revisions where project = $1", s.Scope.Project)
	if err == nil && now != *tokens {
		err = ErrMoved
	}
	return err
}

// PutTokens keeps a new state and the edits of contracts that follow from it in
// one transaction. ErrStale when the tokens, or a contract, changed since they
// were read, ErrMoved when other contracts did.
func (s *Store) PutTokens(ctx context.Context, n NewTokens) (number int, err error) {
	number = n.Read + 1
	err = s.inTx(ctx, "tokens", func(tx pgx.Tx) error {
		if _, err := s.lockTokens(ctx, tx, n.Read); err != nil {
			return err
		}
		if err := s.sawContracts(ctx, tx, n.Seen); err != nil {
			return err
		}
		if n.Renames == nil {
			n.Renames = []Rename{}
		}
		if _, err := tx.Exec(ctx, "insert into token_revisions (project, number, note, undo_to, renames, actor) values ($1, $2, $3, $4, $5, $6)",
			s.Scope.Project, number, n.Note, n.Read, n.Renames, s.actor(ctx)); err != nil {
			return err
		}
		for i, f := range n.Files {
			hash := sha256.Sum256(f.Content)
			if _, err := tx.Exec(ctx, "insert into token_texts (hash, content) values ($1, $2) on conflict do nothing", hash[:], f.Content); err != nil {
				return err
			}
			if _, err := tx.Exec(ctx, `insert into token_revision_files (project, revision, position, name, hash, since) values ($6, $1, $2, $3, $4,
				coalesce((select since from token_revision_files where project = $6 and revision = $5 and name = $3 and hash = $4), $1))`,
				number, i, f.Name, hash[:], n.Read, s.Scope.Project); err != nil {
				return err
			}
		}
		for _, e := range n.Contracts {
			if _, err := s.applyEdit(ctx, tx, e); err != nil {
				return err
			}
		}
		return nil
	})
	return number, err
}

// ApplyAll keeps edits of several contracts, checked with one state of the tokens, in one transaction: all or none.
func (s *Store) ApplyAll(ctx context.Context, tokens *int, edits []Edit) error {
	return s.inTx(ctx, "components", func(tx pgx.Tx) error {
		if err := s.checkedWith(ctx, tx, tokens); err != nil {
			return err
		}
		for _, e := range edits {
			if _, err := s.applyEdit(ctx, tx, e); err != nil {
				return err
			}
		}
		return nil
	})
}

// lockTokens makes writers take turns; ErrStale when the newest state is not
// the one that was read.
func (s *Store) lockTokens(ctx context.Context, tx pgx.Tx, read int) (TokenRevision, error) {
	if _, err := tx.Exec(ctx, "select 1 from projects where id = $1 for update", s.Scope.Project); err != nil {
		return TokenRevision{}, err
	}
	now, err := one[TokenRevision](ctx, tx, tokenRevision+"order by number desc limit 1", s.Scope.Project)
	if err == nil && now.Number != read {
		err = ErrStale
	}
	return now, err
}

// UndoTokens undoes the last edit of the token files, or redoes what was undone
// last, with the edits of contracts that follow. ErrNotFound when there is
// nothing to undo or redo.
func (s *Store) UndoTokens(ctx context.Context, read int, to Direction, seen string, contracts []Edit) (number int, err error) {
	number = read + 1
	err = s.inTx(ctx, "tokens", func(tx pgx.Tx) error {
		now, err := s.lockTokens(ctx, tx, read)
		if err != nil {
			return err
		}
		if err := s.sawContracts(ctx, tx, seen); err != nil {
			return err
		}
		target := now.UndoTo
		if to == Forward {
			target = now.RedoTo
		}
		if target == nil {
			return ErrNotFound
		}
		there, err := one[TokenRevision](ctx, tx, tokenRevision+"and number = $2", s.Scope.Project, *target)
		if err != nil {
			return err
		}
		undo, again, note := there.UndoTo, &read, "undone"
		if to == Forward {
			undo, again, note = &read, there.RedoTo, there.Note
		}
		if _, err := tx.Exec(ctx, "insert into token_revisions (project, number, note, undo_to, redo_to, renames, actor) values ($1, $2, $3, $4, $5, $6, $7)",
			s.Scope.Project, number, note, undo, again, there.Renames, s.actor(ctx)); err != nil {
			return err
		}
		for _, e := range contracts {
			if _, err := s.applyEdit(ctx, tx, e); err != nil {
				return err
			}
		}
		_, err = tx.Exec(ctx, `insert into token_revision_files (project, revision, position, name, hash, since)
			select project, $2, position, name, hash, since from token_revision_files where project = $1 and revision = $3`, s.Scope.Project, number, *target)
		return err
	})
	return number, err
}
