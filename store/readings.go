package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"
)

// Reading is how far the reading of a long document's revision is, and what was read.
type Reading struct {
	Document string
	Name     string // of the document
	Revision int
	State    string // waiting, running, done, stopped or failed
	Step     string
	Share    float64
	Trouble  string
	Wanted   string
	Made     string // what the content depends on, as Wanted has it; empty without one
}

const readings = "select r.document, d.name, revision, state, step, share, trouble, wanted, made from survey_readings r join documents d on d.project = r.project and d.id = r.document where r.project = $1"

// Readings lists those that are not done, and have not failed or been stopped.
func (s *Store) Readings(ctx context.Context) ([]Reading, error) {
	return many[Reading](ctx, s.pool, readings+" and state in ('waiting', 'running') order by document, revision", s.Scope.Project)
}

// ReadingContent gives the kept reading of a revision that was made of what is named.
func (s *Store) ReadingContent(ctx context.Context, document string, revision int, made string) ([]byte, error) {
	return value[[]byte](ctx, s.pool, "select content from survey_readings where project = $1 and document = $2 and revision = $3 and made = $4 and content is not null",
		s.Scope.Project, document, revision, made)
}

// WantReading says how far the reading of a revision is, and has it begun where it is not under way, or is of other things than what is wanted.
// One that was stopped, or failed, is begun again when that is asked.
func (s *Store) WantReading(ctx context.Context, document string, revision int, wanted string, again bool) (out Reading, err error) {
	read := func(q querier) (Reading, error) {
		return one[Reading](ctx, q, readings+" and document = $2 and revision = $3", s.Scope.Project, document, revision)
	}
	stands := func() bool {
		return err == nil && out.Wanted == wanted && (!again || out.State == "waiting" || out.State == "running")
	}
	if out, err = read(s.pool); stands() || err != nil && !errors.Is(err, ErrNotFound) {
		return out, err
	}
	err = s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock(hashtext($1))", document); err != nil { // several windows ask at once
			return err
		}
		if out, err = read(tx); stands() || err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		if err := s.enqueue(ctx, tx, ReadingJob{Project: s.Scope.Project, Actor: s.actor(ctx), Document: document, Revision: revision}, wanted); err != nil {
			return err
		}
		out, err = read(tx)
		return err
	})
	return out, err
}

// enqueue puts the reading of a revision into the queue, in place of another.
func (s *Store) enqueue(ctx context.Context, tx pgx.Tx, job ReadingJob, wanted string) error {
	if err := s.cancel(ctx, tx, job.Document, job.Revision); err != nil {
		return err
	}
	made, err := s.queue.InsertTx(ctx, tx, job, nil)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, `insert into survey_readings (project, document, revision, job, state, wanted) values ($1, $2, $3, $4, 'waiting', $5)
		on conflict (project, document, revision) do update set job = excluded.job, state = 'waiting', wanted = excluded.wanted, step = '', share = 0, trouble = '', heard = now()`,
		job.Project, job.Document, job.Revision, made.Job.ID, wanted)
	return err
}

// cancel takes the job of a revision out of the queue, where there is one.
func (s *Store) cancel(ctx context.Context, tx pgx.Tx, document string, revision int) error {
	job, err := value[int64](ctx, tx, "select job from survey_readings where project = $1 and document = $2 and revision = $3 and state in ('waiting', 'running') for update",
		s.Scope.Project, document, revision)
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if _, err = s.queue.JobCancelTx(ctx, tx, job); errors.Is(err, river.ErrNotFound) {
		err = nil
	}
	return err
}

// StopReading ends the reading of a revision; what was read before stays.
func (s *Store) StopReading(ctx context.Context, document string, revision int) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		if err := s.cancel(ctx, tx, document, revision); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, "update survey_readings set state = 'stopped' where project = $1 and document = $2 and revision = $3 and state in ('waiting', 'running')",
			s.Scope.Project, document, revision)
		return err
	})
}

// mine tells the row of a job that is still wanted.
const mine = "project = $1 and document = $2 and revision = $3 and job = $4 and state in ('waiting', 'running')"

// Reached says how far a job's reading is, and what it is made of; false where nobody wants it any more.
func (s *Store) Reached(ctx context.Context, job ReadingJob, wanted, step string, share float64) (bool, error) {
	tag, err := s.pool.Exec(ctx, "update survey_readings set state = 'running', wanted = $5, step = $6, share = $7, heard = now() where "+mine,
		job.Project, job.Document, job.Revision, job.id, wanted, step, share)
	return tag.RowsAffected() == 1, err
}

// KeepReading keeps what a job read, where that is still wanted.
func (s *Store) KeepReading(ctx context.Context, job ReadingJob, content []byte) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update survey_readings set state = 'done', share = 1, step = '', made = wanted, content = $5 where "+mine,
			job.Project, job.Document, job.Revision, job.id, content)
		return err
	})
}

func (s *Store) failReading(ctx context.Context, job ReadingJob, trouble string) error {
	return s.inTx(ctx, "survey", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update survey_readings set state = 'failed', trouble = $5 where "+mine, job.Project, job.Document, job.Revision, job.id, trouble)
		return err
	})
}

type left struct {
	Project  int64
	Document string
	Revision int
	Wanted   string
}

// takeUp begins readings again whose program is gone: those of which nothing was heard for a time.
func (db *Database) takeUp(ctx context.Context, quiet time.Duration) error {
	return pgx.BeginFunc(ctx, db.pool, func(tx pgx.Tx) error {
		list, err := many[left](ctx, tx, `select project, document, revision, wanted from survey_readings
			where state = 'running' and heard < now() - $1::interval for update skip locked`, quiet)
		if err != nil {
			return err
		}
		for _, l := range list {
			scope, err := db.First(ctx)
			if err != nil {
				return err
			}
			scope.Project = l.Project
			if err := db.In(scope).enqueue(ctx, tx, ReadingJob{Project: l.Project, Actor: scope.Actor, Document: l.Document, Revision: l.Revision}, l.Wanted); err != nil {
				return err
			}
		}
		return nil
	})
}
