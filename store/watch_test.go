package store_test

import (
	"context"
	"errors"
	"log/slog"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/storetest"
)

func watchOf(t *testing.T, s *store.Store, subject string) store.Watch {
	t.Helper()
	list, err := s.Watches(t.Context())
	require.NoError(t, err)
	for _, w := range list {
		if w.Subject == subject {
			return w
		}
	}
	require.Fail(t, "not watched", subject)
	return store.Watch{}
}

// What is watched is asked when it is time; what does not answer is left alone longer each time, and as before once it does.
func TestWhatIsWatchedIsAsked(t *testing.T) {
	db, scope := storetest.Database(t)
	s := db.In(scope)
	assert.Equal(t, [2]int{300, 10}, [2]int{watchOf(t, s, "design").Every, watchOf(t, s, "code").Every}, "as a project begins")
	require.NoError(t, s.SetWatch(t.Context(), "design", 0))
	require.NoError(t, s.SetWatch(t.Context(), "code", 1))
	asked := make(chan string, 100)
	answers := make(chan error, 100)
	stop, err := db.Work(t.Context(), slog.New(slog.DiscardHandler), func(context.Context, store.ReadingJob) error { return nil },
		func(_ context.Context, job store.WatchJob) error { asked <- job.Subject; return <-answers })
	require.NoError(t, err)
	t.Cleanup(stop)
	is := func(failed int, what string) {
		t.Helper()
		require.Eventually(t, func() bool {
			w := watchOf(t, s, "code")
			return w.Running == nil && w.Asked != nil && w.Failed == failed
		}, 20*time.Second, 10*time.Millisecond, what)
	}
	assert.Equal(t, "code", <-asked)
	require.Eventually(t, func() bool { return watchOf(t, s, "code").Running != nil }, 10*time.Second, 5*time.Millisecond, "it is told that it is being asked")
	answers <- errors.New("not there")
	is(1, "what did not answer")
	wait := func() time.Duration { w := watchOf(t, s, "code"); return w.Next.Sub(*w.Asked).Round(time.Second) }
	assert.Equal(t, 2*time.Second, wait())
	<-asked
	answers <- errors.New("not there")
	is(2, "twice")
	assert.Equal(t, 4*time.Second, wait())
	<-asked
	answers <- nil
	is(0, "it answers again")
	assert.Equal(t, time.Second, wait())
	answers <- nil
	select {
	case subject := <-asked:
		assert.Equal(t, "code", subject, "what is never asked by itself")
	case <-time.After(20 * time.Second):
		require.Fail(t, "it is not asked any more")
	}
}

// Who says that it moved is asked at once, even where it is never asked by itself; said ten times while it waits, once.
func TestANoticeHasItAsked(t *testing.T) {
	url := storetest.URL(t)
	db, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(db.Close)
	scope, err := db.First(t.Context())
	require.NoError(t, err)
	s := db.In(scope)
	waiting := func() (n int) {
		conn, err := pgx.Connect(t.Context(), url)
		require.NoError(t, err)
		defer conn.Close(context.Background())
		require.NoError(t, conn.QueryRow(t.Context(), "select count(*) from river_job where kind = 'watch' and state = 'available'").Scan(&n))
		return n
	}
	require.NoError(t, s.SetWatch(t.Context(), "design", 0))
	require.NoError(t, s.SetWatch(t.Context(), "code", 0))
	for range 10 {
		require.NoError(t, s.Notice(t.Context(), "design"))
	}
	require.Equal(t, 1, waiting(), "it is asked as often as it said so")
	asked := make(chan store.WatchJob, 100)
	working := func() (stop func()) {
		stop, err := db.Work(t.Context(), slog.New(slog.DiscardHandler), func(context.Context, store.ReadingJob) error { return nil },
			func(_ context.Context, job store.WatchJob) error { asked <- job; return nil })
		require.NoError(t, err)
		return stop
	}
	stop := working()
	assert.Equal(t, store.WatchJob{Project: scope.Project, Subject: "design"}, <-asked)
	require.Eventually(t, func() bool { return watchOf(t, s, "design").Asked != nil }, 20*time.Second, 10*time.Millisecond)
	require.NoError(t, s.Notice(t.Context(), "design"))
	<-asked
	stop()
	assert.Empty(t, asked, "asked more often than it was said")
}
