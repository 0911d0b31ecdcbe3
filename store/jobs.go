package store

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
	"github.com/riverqueue/river/rivertype"
)

// Work kept in a queue in the database (River): it goes on where the program that did it is gone.

// ReadingJob is a document's revision that is to be read.
type ReadingJob struct {
	Project  int64  `json:"project"`
	Actor    int64  `json:"actor"`
	Document string `json:"document"`
	Revision int    `json:"revision"`

	id   int64
	last bool // there is no other try
}

// Kind names such jobs in the queue.
func (ReadingJob) Kind() string { return "survey-reading" }

const (
	tries = 3
	// again is how long a job waits after its first failure; after the second twice as long.
	again       = 500 * time.Millisecond
	longestRead = 5 * time.Minute
	// quiet is how long a reading may go without a word before another takes its place.
	quiet = 15 * time.Second
)

// layOutQueue brings the queue's own tables up to date.
func layOutQueue(ctx context.Context, pool *pgxpool.Pool) error {
	m, err := rivermigrate.New(riverpgxv5.New(pool), &rivermigrate.Config{Logger: slog.New(slog.DiscardHandler)})
	if err != nil {
		return err
	}
	_, err = m.Migrate(ctx, rivermigrate.DirectionUp, nil)
	return err
}

// newQueue gives what puts jobs into the queue, and does none.
func newQueue(pool *pgxpool.Pool) (*river.Client[pgx.Tx], error) {
	return river.NewClient(riverpgxv5.New(pool), &river.Config{MaxAttempts: tries, Logger: slog.New(slog.DiscardHandler)})
}

// soon tries again after half a second, then after one.
type soon struct{}

func (soon) NextRetry(job *rivertype.JobRow) time.Time {
	return time.Now().Add(time.Duration(len(job.Errors)) * again)
}

// reader reads what the queue hands it.
type reader struct {
	river.WorkerDefaults[ReadingJob]
	db   *Database
	read func(context.Context, ReadingJob) error
}

func (r *reader) Work(ctx context.Context, job *river.Job[ReadingJob]) (err error) {
	args := job.Args
	args.id, args.last = job.ID, job.Attempt >= job.MaxAttempts
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("reading %s: %v", args.Document, p)
		}
		if err != nil && args.last && !errors.Is(ctx.Err(), context.Canceled) { // the program ends, or somebody stopped it: that is no failure
			err = errors.Join(err, r.db.In(Scope{args.Project, args.Actor}).failReading(context.WithoutCancel(ctx), args, err.Error()))
		}
	}()
	return r.read(ctx, args)
}

// Work does the jobs of the queue until it is stopped, two of each kind at once. Readings that nobody has heard of for a while are begun again, and
// what is watched is asked when it is time.
func (db *Database) Work(ctx context.Context, log *slog.Logger, read func(context.Context, ReadingJob) error, ask func(context.Context, WatchJob) error) (stop func(), err error) {
	workers := river.NewWorkers()
	river.AddWorker(workers, &reader{db: db, read: read})
	river.AddWorker(workers, &asker{db: db, ask: ask})
	client, err := river.NewClient(riverpgxv5.New(db.pool), &river.Config{
		Queues: map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 2}, watchQueue: {MaxWorkers: 2}}, Workers: workers,
		FetchCooldown: 20 * time.Millisecond, FetchPollInterval: 250 * time.Millisecond, // a job that came within the cooldown of another is told to nobody
		JobTimeout: longestRead, RescueStuckJobsAfter: longestRead, RetryPolicy: soon{}, Logger: slog.New(quietly{log.Handler()}),
	})
	if err != nil {
		return nil, err
	}
	if err := client.Start(ctx); err != nil {
		return nil, err
	}
	watch, end := context.WithCancel(ctx)
	var each sync.WaitGroup
	every := func(wait time.Duration, what string, do func(context.Context) error) {
		each.Go(func() {
			for {
				if err := do(watch); err != nil && watch.Err() == nil {
					log.Warn(what, "error", err)
				}
				select {
				case <-watch.Done():
					return
				case <-time.After(wait):
				}
			}
		})
	}
	every(quiet, "readings left behind", func(ctx context.Context) error { return db.takeUp(ctx, quiet) })
	every(time.Second, "what is to be asked", db.due)
	return func() {
		end()
		each.Wait()
		ending, done := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer done()
		if err := client.StopAndCancel(ending); err != nil {
			log.Warn("stopping jobs", "error", err)
		}
	}, nil
}

// quietly leaves the queue's own news out of a log, such as of jobs that were cancelled: errors stay.
type quietly struct{ slog.Handler }

func (q quietly) WithAttrs(attrs []slog.Attr) slog.Handler {
	return quietly{q.Handler.WithAttrs(attrs)}
}

func (q quietly) WithGroup(name string) slog.Handler { return quietly{q.Handler.WithGroup(name)} }

func (q quietly) Enabled(ctx context.Context, l slog.Level) bool {
	return l >= slog.LevelError && q.Handler.Enabled(ctx, l)
}
