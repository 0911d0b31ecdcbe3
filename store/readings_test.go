package store_test

import (
	"context"
	"errors"
	"log/slog"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/storetest"
)

// withDocument gives a store with one revision of a document, and the database.
func withDocument(t *testing.T) (*store.Database, *store.Store) {
	t.Helper()
	db, scope := storetest.Database(t)
	s := db.In(scope)
	_, _, err := s.AddRevision(t.Context(), store.NewRevision{Document: "shed", Name: "Shed", Source: store.FromUpload, Content: []byte("{}")})
	require.NoError(t, err)
	return db, s
}

// working does jobs until the test ends.
func working(t *testing.T, db *store.Database, read func(context.Context, store.ReadingJob) error) (stop func()) {
	t.Helper()
	end, err := db.Work(t.Context(), slog.New(slog.DiscardHandler), read, func(context.Context, store.WatchJob) error { return nil })
	require.NoError(t, err)
	stop = sync.OnceFunc(end)
	t.Cleanup(stop)
	return stop
}

// stateOf waits until a reading is as it should be.
func stateOf(t *testing.T, s *store.Store, wanted, state string) (out store.Reading) {
	t.Helper()
	require.Eventually(t, func() bool {
		var err error
		out, err = s.WantReading(t.Context(), "shed", 1, wanted, false)
		return err == nil && out.State == state
	}, 20*time.Second, 20*time.Millisecond, "it should be %s and is %s", state, out.State)
	return out
}

// A long document is read once, whoever asks; what was read is kept under what it depends on.
func TestAReadingIsMadeOnceAndKept(t *testing.T) {
	db, s := withDocument(t)
	first, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	assert.Equal(t, "waiting", first.State)
	_, err = s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	times := make(chan store.ReadingJob, 10)
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		times <- job
		if goOn, err := s.Reached(ctx, job, "a", "layers", 0.25); err != nil || !goOn {
			return errors.New("nobody wants it")
		}
		list, err := s.Readings(ctx)
		if err != nil || len(list) != 1 || list[0].State != "running" || list[0].Step != "layers" || list[0].Share != 0.25 {
			return errors.New("it is not told how far it is")
		}
		return s.KeepReading(ctx, job, []byte("read"))
	})
	done := stateOf(t, s, "a", "done")
	assert.Equal(t, "a", done.Made)
	content, err := s.ReadingContent(t.Context(), "shed", 1, "a")
	require.NoError(t, err)
	assert.Equal(t, "read", string(content))
	_, err = s.ReadingContent(t.Context(), "shed", 1, "b")
	assert.ErrorIs(t, err, store.ErrNotFound, "what depends on other things is another reading")
	assert.Len(t, times, 1, "it was read more than once")
	list, err := s.Readings(t.Context())
	require.NoError(t, err)
	assert.Empty(t, list, "what is done is told to be under way")

	again, err := s.WantReading(t.Context(), "shed", 1, "b", false)
	require.NoError(t, err)
	assert.Equal(t, "a", again.Made, "what was read before is there until the new reading is")
}

// Who stops a reading is done with it: the reader learns it, and what it read is not kept. Asked for anew it is read.
func TestAReadingIsStopped(t *testing.T) {
	db, s := withDocument(t)
	_, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	let, ended := make(chan struct{}), make(chan error, 10)
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		goOn, err := s.Reached(ctx, job, "a", "layers", 0.1)
		if err != nil || !goOn {
			return err
		}
		select {
		case <-let:
			return s.KeepReading(ctx, job, []byte("read"))
		case <-ctx.Done():
			ended <- s.KeepReading(context.WithoutCancel(ctx), job, []byte("read"))
			return ctx.Err()
		}
	})
	stateOf(t, s, "a", "running")
	require.NoError(t, s.StopReading(t.Context(), "shed", 1))
	require.NoError(t, <-ended, "the reader was not told")
	assert.Equal(t, "stopped", stateOf(t, s, "a", "stopped").State)
	_, err = s.ReadingContent(t.Context(), "shed", 1, "a")
	require.ErrorIs(t, err, store.ErrNotFound, "what was stopped is kept all the same")
	again, err := s.WantReading(t.Context(), "shed", 1, "a", true)
	require.NoError(t, err)
	assert.NotEqual(t, "stopped", again.State)
	close(let)
	stateOf(t, s, "a", "done")
}

// One that waits for its turn is stopped, too, and never begun.
func TestAWaitingReadingIsStopped(t *testing.T) {
	db, s := withDocument(t)
	_, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	require.NoError(t, s.StopReading(t.Context(), "shed", 1))
	began := make(chan string, 10)
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		began <- job.Document
		_, err := s.Reached(ctx, job, "b", "layers", 0)
		return errors.Join(err, s.KeepReading(ctx, job, []byte("read")))
	})
	_, err = s.WantReading(t.Context(), "shed", 1, "b", false) // the queue goes on
	require.NoError(t, err)
	stateOf(t, s, "b", "done")
	assert.Len(t, began, 1, "what was stopped was read")
}

// A program that is stopped in the middle of a reading leaves it to the next.
func TestAReadingOutlivesTheProgram(t *testing.T) {
	db, s := withDocument(t)
	_, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	reading := make(chan error, 10)
	stop := working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		_, err := s.Reached(ctx, job, "a", "layers", 0.1)
		reading <- err
		<-ctx.Done()
		return ctx.Err()
	})
	require.NoError(t, <-reading)
	stop()
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		_, err := s.Reached(ctx, job, "a", "layers", 0.5)
		return errors.Join(err, s.KeepReading(ctx, job, []byte("read")))
	})
	stateOf(t, s, "a", "done")
}

// One whose program is gone without a word, as in a loss of power, is begun again after a time; one that is heard of is not.
func TestAReadingLeftBehindIsTakenUp(t *testing.T) {
	db, s := withDocument(t)
	_, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	jobs, never := make(chan store.ReadingJob, 10), make(chan struct{})
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		jobs <- job
		if len(jobs) == 1 { // as good as gone: it says nothing more, and does not listen
			_, err := s.Reached(ctx, job, "a", "layers", 0.1)
			<-never
			return err
		}
		_, err := s.Reached(ctx, job, "a", "layers", 0.1)
		return errors.Join(err, s.KeepReading(ctx, job, []byte("read")))
	})
	t.Cleanup(func() { close(never) }) // before the queue is stopped
	stateOf(t, s, "a", "running")
	require.NoError(t, store.TakeUp(db, t.Context(), time.Hour))
	assert.Equal(t, "running", stateOf(t, s, "a", "running").State, "a reading that goes on was begun again")
	require.NoError(t, store.TakeUp(db, t.Context(), 0))
	stateOf(t, s, "a", "done")
	late := <-jobs
	goOn, err := s.Reached(t.Context(), late, "a", "layers", 0.9)
	require.NoError(t, err)
	assert.False(t, goOn, "the one left behind goes on when it comes back")
}

// A reading that fails is tried again; in the end it says why, and is not begun again by itself.
func TestAReadingThatFailsSaysWhy(t *testing.T) {
	db, s := withDocument(t)
	_, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	count := make(chan int, 10)
	working(t, db, func(ctx context.Context, job store.ReadingJob) error {
		count <- 1
		if _, err := s.Reached(ctx, job, "a", "layers", 0.1); err != nil {
			return err
		}
		panic("a layer too deep")
	})
	failed := stateOf(t, s, "a", "failed")
	assert.Contains(t, failed.Trouble, "a layer too deep")
	assert.Len(t, count, 3)
	again, err := s.WantReading(t.Context(), "shed", 1, "a", false)
	require.NoError(t, err)
	assert.Equal(t, "failed", again.State)
}
