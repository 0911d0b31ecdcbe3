package cluster_test

import (
	"context"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/store/cluster"
)

// options are those of a cluster in a folder of its own, which the user postgres may enter.
func options(t *testing.T) cluster.Options {
	t.Helper()
	dir, err := os.MkdirTemp("", "cobrik-cluster-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	require.NoError(t, os.Chmod(dir, 0o755))
	return cluster.Options{Dir: filepath.Join(dir, "pg"), Scratch: true}
}

func start(t *testing.T, o cluster.Options) *cluster.Cluster {
	t.Helper()
	c, err := cluster.Start(t.Context(), o)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, c.Stop()) })
	return c
}

// Stopped and started again, the cluster has what was in it; started twice, it
// is one server.
func TestAClusterKeepsItsData(t *testing.T) {
	o := options(t)
	first := start(t, o)
	require.NoError(t, first.Create(t.Context(), "garden"))
	require.NoError(t, first.Create(t.Context(), "garden"), "making a database that is there is no error")
	run(t, first.URL("garden"), "create table beds (name text); insert into beds values ('leeks')")
	twice := start(t, o)
	assert.Equal(t, first.URL("garden"), twice.URL("garden"), "a second server was started on the same data")
	require.NoError(t, twice.Stop())
	run(t, first.URL("garden"), "select 1") // starting a second time and leaving must not stop the first
	require.NoError(t, first.Stop())
	assert.Equal(t, "leeks", bed(t, start(t, o)))
}

func run(t *testing.T, url, sql string) {
	t.Helper()
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	_, err = conn.Exec(t.Context(), sql)
	require.NoError(t, err)
}

func bed(t *testing.T, c *cluster.Cluster) (name string) {
	t.Helper()
	conn, err := pgx.Connect(t.Context(), c.URL("garden"))
	require.NoError(t, err)
	defer conn.Close(t.Context())
	require.NoError(t, conn.QueryRow(t.Context(), "select name from beds").Scan(&name))
	return name
}

// planted is a cluster whose garden has a bed of a name.
func planted(t *testing.T, o cluster.Options, name string) *cluster.Cluster {
	c := start(t, o)
	require.NoError(t, c.Create(t.Context(), "garden"))
	run(t, c.URL("garden"), "create table beds (name text); insert into beds values ('"+name+"')")
	return c
}

// postmaster gives the process of a folder's server.
func postmaster(t *testing.T, o cluster.Options) int {
	t.Helper()
	text, err := os.ReadFile(filepath.Join(o.Dir, "data", "postmaster.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.Split(string(text), "\n")[0])
	require.NoError(t, err)
	return pid
}

func portOf(c *cluster.Cluster) string {
	_, rest, _ := strings.Cut(c.URL(""), "127.0.0.1:")
	port, _, _ := strings.Cut(rest, "/")
	return port
}

// A lock file that was left behind may name a process that is another program by now, and a port that another cluster has:
// whoever believed it would open somebody else's data.
func TestALockFileIsNotBelieved(t *testing.T) {
	mine, theirs := options(t), options(t)
	c := planted(t, mine, "mine")
	require.NoError(t, c.Stop())
	other := planted(t, theirs, "theirs")
	silent, err := net.Listen("tcp", "127.0.0.1:0") // takes connections, and says nothing
	require.NoError(t, err)
	defer silent.Close()
	sleeper := exec.Command("sleep", "600")
	require.NoError(t, sleeper.Start())
	defer func() { _ = sleeper.Process.Kill(); _ = sleeper.Wait() }()
	for name, lines := range map[string][2]string{
		"another cluster's port and process": {strconv.Itoa(postmaster(t, theirs)), portOf(other)},
		"another cluster's port":             {"999999999", portOf(other)},
		"another program's process":          {strconv.Itoa(sleeper.Process.Pid), "1"},
		"a port that says nothing":           {"999999999", strconv.Itoa(silent.Addr().(*net.TCPAddr).Port)},
		"nonsense":                           {"x", "y"},
	} {
		data := filepath.Join(mine.Dir, "data")
		require.NoError(t, os.WriteFile(filepath.Join(data, "postmaster.pid"), fmt.Appendf(nil, "%s\n%s\n1700000000\n%s\n\n127.0.0.1\n 1 1\nready   \n", lines[0], data, lines[1]), 0o644), name)
		ctx, cancel := context.WithTimeout(t.Context(), 45*time.Second)
		again, err := cluster.Start(ctx, mine)
		cancel()
		if assert.NoError(t, err, name) {
			assert.Equal(t, "mine", bed(t, again), "%s: another cluster's data was opened", name)
			assert.NoError(t, again.Stop())
		}
	}
	assert.Equal(t, "theirs", bed(t, other))
}

// A first start that is killed while the folder is being made is no end: the next one makes it anew.
func TestAFirstStartThatWasBrokenOff(t *testing.T) {
	for name, left := range map[string]func(o cluster.Options){
		"aside":                                func(o cluster.Options) { half(t, filepath.Join(o.Dir, "data.new")) },
		"in its place, by a program of before": func(o cluster.Options) { half(t, filepath.Join(o.Dir, "data")) },
	} {
		o := options(t)
		left(o)
		assert.Equal(t, "leeks", bed(t, planted(t, o, "leeks")), name)
	}
}

// half makes what initdb had made when it was killed.
func half(t *testing.T, data string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Join(data, "base", "1"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(data, "PG_VERSION"), []byte("15\n"), 0o644))
}

// A server that dies is started again, with what was in it, at the same address; whoever used one of somebody else's goes on.
func TestAServerThatDiesIsStartedAgain(t *testing.T) {
	o := options(t)
	o.Scratch = false // nothing is to be lost
	c := planted(t, o, "leeks")
	guest := start(t, o) // uses the other's server
	comesBack := func(after int) {
		t.Helper()
		require.Eventually(t, func() bool {
			ctx, cancel := context.WithTimeout(t.Context(), 2*time.Second)
			defer cancel()
			conn, err := pgx.Connect(ctx, c.URL("garden"))
			if err != nil {
				return false
			}
			defer conn.Close(ctx)
			var name string
			return conn.QueryRow(ctx, "select name from beds").Scan(&name) == nil && name == "leeks" && postmaster(t, o) != after
		}, 40*time.Second, 50*time.Millisecond)
	}
	for _, signal := range []syscall.Signal{syscall.SIGKILL, syscall.SIGQUIT, syscall.SIGINT} {
		pid := postmaster(t, o)
		require.NoError(t, syscall.Kill(pid, signal))
		comesBack(pid)
	}
	require.NoError(t, c.Stop())
	comesBack(0) // it was the guest's by now, or is taken over
	require.NoError(t, guest.Stop())
	_, err := pgx.Connect(t.Context(), c.URL("garden"))
	assert.Error(t, err, "a server is left running")
}

// Whoever starts while another lets go of the folder waits for it.
func TestAStartWaitsForOneThatStops(t *testing.T) {
	o := options(t)
	c := planted(t, o, "leeks")
	stopped := make(chan error)
	go func() { stopped <- c.Stop() }()
	again := start(t, o)
	require.NoError(t, <-stopped)
	// It may have found the first still answering: then it takes over.
	require.Eventually(t, func() bool {
		conn, err := pgx.Connect(t.Context(), again.URL("garden"))
		if err == nil {
			_ = conn.Close(t.Context())
		}
		return err == nil
	}, 40*time.Second, 50*time.Millisecond)
	assert.Equal(t, "leeks", bed(t, again))
}

// A port that is taken is said, and not waited for.
func TestATakenPortIsSaid(t *testing.T) {
	o := options(t)
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	o.Port = taken.Addr().(*net.TCPAddr).Port
	_, err = cluster.Start(t.Context(), o)
	assert.ErrorContains(t, err, fmt.Sprintf("did not start on port %d", o.Port))
}
