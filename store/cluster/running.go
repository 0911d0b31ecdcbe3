package cluster

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// state is what a data folder's lock file comes to.
type state int

const (
	nobody    state = iota // no server has the folder
	lettingGo              // one has it that does not answer: it starts, or stops
	answers                // one has it, and answers
)

// running finds the server of the data folder. What postmaster.pid says may be of long ago: its process may be another
// program's, its port another cluster's. A server counts only when it says itself that the folder is its own.
func (c *Cluster) running(ctx context.Context) (pid, port int, is state) {
	text, err := os.ReadFile(filepath.Join(c.data, "postmaster.pid")) // lines: process, folder, start, port
	if err != nil {
		return 0, 0, nobody
	}
	lines := strings.Split(string(text), "\n")
	pid, _ = strconv.Atoi(strings.TrimSpace(lines[0]))
	alive := pid > 0 && c.ofFolder(pid)
	if len(lines) > 3 {
		if port, err = strconv.Atoi(strings.TrimSpace(lines[3])); err == nil && c.says(ctx, port) {
			return pid, port, answers
		}
	}
	if alive {
		return pid, port, lettingGo
	}
	// PostgreSQL would take another program of that number for the server. What cannot be removed, the start tells.
	_ = os.Remove(filepath.Join(c.data, "postmaster.pid"))
	return pid, port, nobody
}

// ofFolder tells whether a process is a server of the folder: it works there.
func (c *Cluster) ofFolder(pid int) bool {
	if syscall.Kill(pid, 0) == syscall.ESRCH {
		return false
	}
	at, err := os.Readlink(fmt.Sprintf("/proc/%d/cwd", pid))
	if errors.Is(err, os.ErrNotExist) {
		if _, noProc := os.Stat("/proc/self"); noProc != nil {
			return true // a system that does not tell: PostgreSQL finds out
		}
		return false
	}
	return err == nil && same(at, c.data)
}

// says tells whether the server at a port says that the folder is its own.
func (c *Cluster) says(ctx context.Context, port int) bool {
	ctx, cancel := context.WithTimeout(ctx, 3*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, fmt.Sprintf("postgres://cobrik@127.0.0.1:%d/postgres?sslmode=disable", port))
	if err != nil {
		return false
	}
	defer conn.Close(context.WithoutCancel(ctx))
	var folder string
	return conn.QueryRow(ctx, "select current_setting('data_directory')").Scan(&folder) == nil && same(folder, c.data)
}

func same(a, b string) bool {
	one, err := os.Stat(a)
	if err != nil {
		return false
	}
	other, err := os.Stat(b)
	return err == nil && os.SameFile(one, other)
}

var errLocked = errors.New("another Cobrik is starting the database")

// lock keeps two starts of one folder apart; the lock ends with the program.
func lock(file string) (release func(), err error) {
	f, err := os.OpenFile(file, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		f.Close()
		return nil, errLocked
	}
	return func() { f.Close() }, nil
}
