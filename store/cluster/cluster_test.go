package cluster_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store/cluster"
)

// Stopped and started again, the cluster has what was in it; started twice, it
// is one server.
func TestAClusterKeepsItsData(t *testing.T) {
	dir, err := os.MkdirTemp("", "cobrik-cluster-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o755)) // the user postgres has to enter it
	options := cluster.Options{Dir: filepath.Join(dir, "pg"), Scratch: true}

	first, err := cluster.Start(t.Context(), options)
	require.NoError(t, err)
	require.NoError(t, first.Create(t.Context(), "garden"))
	require.NoError(t, first.Create(t.Context(), "garden"), "making a database that is there is no error")
	run(t, first.URL("garden"), "create table beds (name text); insert into beds values ('leeks')")
	twice, err := cluster.Start(t.Context(), options)
	require.NoError(t, err)
	assert.Equal(t, first.URL("garden"), twice.URL("garden"), "a second server was started on the same data")
	require.NoError(t, twice.Stop())
	run(t, first.URL("garden"), "select 1") // starting a second time and leaving must not stop the first
	require.NoError(t, first.Stop())

	again, err := cluster.Start(t.Context(), options)
	require.NoError(t, err)
	defer func() { require.NoError(t, again.Stop()) }()
	conn, err := pgx.Connect(t.Context(), again.URL("garden"))
	require.NoError(t, err)
	defer conn.Close(t.Context())
	var name string
	require.NoError(t, conn.QueryRow(t.Context(), "select name from beds").Scan(&name))
	assert.Equal(t, "leeks", name)
}

func run(t *testing.T, url, sql string) {
	t.Helper()
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	_, err = conn.Exec(t.Context(), sql)
	require.NoError(t, err)
}
