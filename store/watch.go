package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"
)

// Watch is how often something outside is asked whether it moved.
type Watch struct {
	Subject string // design or code
	Every   int    // seconds; 0 for never
	Next    time.Time
	Asked   *time.Time
	Running *time.Time // since when it is being asked
	Failed  int        // how often in a row
}

// WatchJob is something outside that is to be asked.
type WatchJob struct {
	Project int64  `json:"project"`
	Subject string `json:"subject"`
}

// Kind names such jobs in the queue.
func (WatchJob) Kind() string { return "watch" }

// InsertOpts keeps them from waiting for long readings. One that failed is not tried again at once: the watch says when.
func (WatchJob) InsertOpts() river.InsertOpts {
	return river.InsertOpts{Queue: watchQueue, MaxAttempts: 1}
}

const (
	watchQueue = "watch"
	// longestWait is how long something that does not answer is left alone at most.
	longestWait = "1 hour"
	longestAsk  = time.Minute
)

// Watches lists the project's.
func (s *Store) Watches(ctx context.Context) ([]Watch, error) {
	return many[Watch](ctx, s.pool, "select subject, every, next, asked, running, failed from watches where project = $1 order by subject desc", s.Scope.Project)
}

// SetWatch says how often something is asked, from now on.
func (s *Store) SetWatch(ctx context.Context, subject string, every int) error {
	return s.inTx(ctx, "watch", func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `insert into watches (project, subject, every, next) values ($1, $2, $3::int, now() + make_interval(secs => $3::int))
			on conflict (project, subject) do update set every = $3::int, failed = 0, next = now() + make_interval(secs => $3::int)`, s.Scope.Project, subject, every)
		return err
	})
}

// Notice has something asked at once, for it said that it moved. Until it is begun to be asked, saying so again adds nothing.
func (s *Store) Notice(ctx context.Context, subject string) error {
	return s.inTx(ctx, "", func(tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, `insert into watches (project, subject, every, noticed) values ($1, $2, 0, true)
			on conflict (project, subject) do update set noticed = true where not watches.noticed`, s.Scope.Project, subject)
		if err != nil || tag.RowsAffected() == 0 {
			return err
		}
		_, err = s.queue.InsertTx(ctx, tx, WatchJob{s.Scope.Project, subject}, nil)
		return err
	})
}

// worthTelling gives what listeners are told of it: a repository that answers is asked too often to tell each time.
func worthTelling(subject string, failed bool) string {
	if subject == "code" && !failed {
		return ""
	}
	return "watch"
}

// beginWatch notes that something is being asked.
func (s *Store) beginWatch(ctx context.Context, subject string) error {
	return s.inTx(ctx, worthTelling(subject, false), func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "update watches set running = now(), noticed = false where project = $1 and subject = $2", s.Scope.Project, subject)
		return err
	})
}

// endWatch notes what came of it. What does not answer is left alone twice as long after each time.
func (s *Store) endWatch(ctx context.Context, subject string, failed bool) error {
	return s.inTx(ctx, worthTelling(subject, failed), func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `update watches set running = null, asked = now(), failed = case when $3 then failed + 1 else 0 end,
			next = now() + least(make_interval(secs => every) * case when $3 then 2 ^ least(failed + 1, 12) else 1 end, greatest(interval '`+longestWait+`', make_interval(secs => every)))
			where project = $1 and subject = $2`, s.Scope.Project, subject, failed)
		return err
	})
}

// due puts what is to be asked by now into the queue. What is being asked is not asked beside it, unless whoever asked is gone.
func (db *Database) due(ctx context.Context) error {
	type row struct {
		Project int64
		Subject string
	}
	return pgx.BeginFunc(ctx, db.pool, func(tx pgx.Tx) error {
		rows, err := many[row](ctx, tx, `update watches set next = now() + make_interval(secs => every)
			where every > 0 and next <= now() and (running is null or running < now() - make_interval(secs => $1)) returning project, subject`, longestAsk.Seconds())
		for _, r := range rows {
			_, failed := db.queue.InsertTx(ctx, tx, WatchJob(r), nil)
			err = errors.Join(err, failed)
		}
		return err
	})
}

// asker asks what the queue hands it.
type asker struct {
	river.WorkerDefaults[WatchJob]
	db  *Database
	ask func(context.Context, WatchJob) error
}

func (a *asker) Timeout(*river.Job[WatchJob]) time.Duration { return longestAsk }

func (a *asker) Work(ctx context.Context, job *river.Job[WatchJob]) error {
	s := a.db.In(Scope{Project: job.Args.Project})
	if err := s.beginWatch(ctx, job.Args.Subject); err != nil {
		return err
	}
	err := a.ask(ctx, job.Args)
	ended := s.endWatch(context.WithoutCancel(ctx), job.Args.Subject, err != nil)
	if err != nil {
		return errors.Join(river.JobCancel(err), ended)
	}
	return ended
}
