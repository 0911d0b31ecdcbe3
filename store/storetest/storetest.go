// Package storetest gives tests a real, empty database.
package storetest

import (
	"context"
	"fmt"
	"os"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/store"
	"cobrik/store/cluster"
)

var (
	start   sync.Once
	running *cluster.Cluster
	failure error
	dir     string
	count   atomic.Int64
)

// Main runs a package's tests and stops the server they started. Call it from
// TestMain.
func Main(m *testing.M) {
	code := m.Run()
	if running != nil {
		if err := running.Stop(); err != nil {
			fmt.Fprintln(os.Stderr, err)
		}
	}
	if dir != "" {
		_ = os.RemoveAll(dir) // left-overs in the temporary folder hurt nobody
	}
	os.Exit(code)
}

// URL makes an empty database on a server that all tests of a package share,
// and gives its address.
func URL(t testing.TB) string {
	t.Helper()
	start.Do(func() {
		if dir, failure = os.MkdirTemp("", "cobrik-test-"); failure != nil {
			return
		}
		if failure = os.Chmod(dir, 0o755); failure == nil {
			running, failure = cluster.Start(context.Background(), cluster.Options{Dir: dir + "/pg", Scratch: true})
		}
	})
	require.NoError(t, failure, "tests need PostgreSQL: make setup installs it")
	name := fmt.Sprintf("test_%d", count.Add(1))
	require.NoError(t, running.Create(t.Context(), name))
	return running.URL(name)
}

// Open gives a store on an empty database, closed when the test ends.
func Open(t testing.TB) *store.Store {
	t.Helper()
	db, scope := Database(t)
	return db.In(scope)
}

// Database gives an empty database and the scope it begins with, closed when the test
// ends.
func Database(t testing.TB) (*store.Database, store.Scope) {
	t.Helper()
	db, err := store.Open(t.Context(), URL(t))
	require.NoError(t, err)
	t.Cleanup(db.Close)
	scope, err := db.First(t.Context())
	require.NoError(t, err)
	return db, scope
}
