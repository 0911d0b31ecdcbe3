// Package cluster runs a private PostgreSQL server on loopback, for people who
// have no server of their own and for tests.
package cluster

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/user"
	"path/filepath"
	"strconv"
	"sync"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Options of a cluster.
type Options struct {
	Dir     string       // data lives in Dir/data; made when missing
	Port    int          // 0 picks a free one
	Scratch bool         // for tests: faster, and may lose data when the machine stops
	Log     *slog.Logger // told when the server died and is started again; nil for nobody
}

// Cluster is a server that is kept running: one that dies is started again. Stop it when done; it ends with the program,
// too, however that ends.
type Cluster struct {
	options Options
	data    string
	port    int
	own     *syscall.Credential // who runs it when the program is root; nil otherwise

	mu      sync.Mutex
	server  *process // of ours; nil for one that was found running
	stopped bool
	done    chan struct{} // closed by Stop
	ended   chan struct{} // closed when nothing is supervised any more
}

// Waits for a server that starts, and for another that is about to let go of the folder.
const (
	startWait = 60 * time.Second
	step      = 100 * time.Millisecond
)

// Start makes the cluster when it is new, starts its server and waits until it
// answers. As root it runs as the user postgres, for initdb refuses root. A
// server already running in that folder is used as it is, and taken over when it ends; one that is
// stopping is waited for.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	c := &Cluster{options: o, data: filepath.Join(o.Dir, "data"), port: o.Port, done: make(chan struct{}), ended: make(chan struct{})}
	if c.options.Log == nil {
		c.options.Log = slog.New(slog.DiscardHandler)
	}
	if err := c.prepare(); err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, startWait)
	defer cancel()
	if err := c.start(ctx); err != nil {
		return nil, err
	}
	go c.supervise()
	return c, nil
}

// URL gives the address of one of the cluster's databases.
func (c *Cluster) URL(database string) string {
	c.mu.Lock()
	defer c.mu.Unlock()
	return fmt.Sprintf("postgres://cobrik@127.0.0.1:%d/%s?sslmode=disable", c.port, database)
}

// Create makes a database unless it is there.
func (c *Cluster) Create(ctx context.Context, database string) error {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	_, err = conn.Exec(ctx, "create database "+pgx.Identifier{database}.Sanitize())
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "42P04" { // duplicate_database, PostgreSQL appendix A
		return nil
	}
	return err
}

// Stop shuts the server down, ending connections. A server that Start found
// running is left running: somebody else works with it.
func (c *Cluster) Stop() error {
	c.mu.Lock()
	if c.stopped {
		c.mu.Unlock()
		return nil
	}
	c.stopped = true
	close(c.done)
	server := c.server
	c.mu.Unlock()
	var err error
	if server != nil {
		err = server.stop()
	}
	<-c.ended
	return err
}

// start takes the running server, or starts one; it tries again while another lets go.
func (c *Cluster) start(ctx context.Context) error {
	var last error
	for {
		again, err := c.try(ctx)
		if err == nil {
			return nil
		}
		if last = err; !again {
			return err
		}
		select {
		case <-ctx.Done():
			return fmt.Errorf("%w; waited %s for it", last, startWait)
		case <-c.done:
			return errors.New("the database is being stopped")
		case <-time.After(step):
		}
	}
}

// try is one attempt; again tells that another may do.
func (c *Cluster) try(ctx context.Context) (again bool, err error) {
	release, err := lock(filepath.Join(c.options.Dir, "lock"))
	if err != nil {
		return errors.Is(err, errLocked), err
	}
	defer release()
	if err := c.makeData(ctx); err != nil {
		return false, err
	}
	switch pid, port, state := c.running(ctx); state {
	case answers:
		c.set(nil, port)
		return false, nil
	case lettingGo:
		return true, fmt.Errorf("the database in %s, process %d, is starting or stopping", c.data, pid)
	}
	port := c.port // nobody else writes it
	if port == 0 {
		if port, err = freePort(); err != nil {
			return false, err
		}
	}
	server, err := c.launch(ctx, port)
	if err != nil {
		return errors.Is(err, errEnding), err
	}
	c.set(server, port)
	return false, nil
}

func (c *Cluster) set(server *process, port int) {
	c.mu.Lock()
	c.server, c.port = server, port
	c.mu.Unlock()
}

// supervise starts the server again when it dies, until Stop.
func (c *Cluster) supervise() {
	defer close(c.ended)
	wait := step
	for {
		began := time.Now()
		if !c.untilGone() {
			return
		}
		c.options.Log.Error("the database died; it is started again", "folder", c.data)
		if time.Since(began) > time.Minute {
			wait = step
		}
		for {
			ctx, cancel := context.WithTimeout(context.Background(), startWait)
			err := c.start(ctx)
			cancel()
			if err == nil {
				break
			}
			c.options.Log.Error("the database could not be started", "error", err)
			select {
			case <-c.done:
				return
			case <-time.After(wait):
			}
			wait = min(2*wait, 10*time.Second)
		}
		c.mu.Lock()
		stopped, server := c.stopped, c.server
		c.mu.Unlock()
		if stopped { // meanwhile
			if server != nil {
				_ = server.stop() // nobody waits for it
			}
			return
		}
		c.options.Log.Info("the database is there again", "folder", c.data)
	}
}

// untilGone waits until the server is gone; false when it was stopped on purpose.
func (c *Cluster) untilGone() bool {
	c.mu.Lock()
	server := c.server
	c.mu.Unlock()
	if server != nil {
		select {
		case <-server.gone:
			c.mu.Lock()
			defer c.mu.Unlock()
			return !c.stopped
		case <-c.done:
			return false
		}
	}
	look := time.NewTicker(5 * step)
	defer look.Stop()
	for {
		select {
		case <-c.done:
			return false
		case <-look.C:
			ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
			_, _, state := c.running(ctx)
			cancel()
			if state != answers {
				return true
			}
		}
	}
}

// prepare makes the folder and finds out who may run the server.
func (c *Cluster) prepare() error {
	if err := os.MkdirAll(c.options.Dir, 0o750); err != nil {
		return err
	}
	if os.Getuid() != 0 {
		return nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return errors.New("PostgreSQL does not run as root and there is no user postgres: install postgresql with apt-get, or set DATABASE_URL")
	}
	uid, _ := strconv.Atoi(u.Uid)
	gid, _ := strconv.Atoi(u.Gid)
	c.own = &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}
	return os.Chown(c.options.Dir, uid, gid)
}

// makeData makes the data folder when it is new: aside, and then under its name, so that one that was broken off is never
// taken for whole.
func (c *Cluster) makeData(ctx context.Context) error {
	if whole(c.data) {
		return nil
	}
	if _, err := os.Stat(c.data); err == nil { // nothing ever ran in it
		if err := os.Rename(c.data, fmt.Sprintf("%s.unfinished-%d", c.data, time.Now().UnixNano())); err != nil {
			return err
		}
	}
	aside := c.data + ".new"
	if err := os.RemoveAll(aside); err != nil {
		return err
	}
	if out, err := c.run(ctx, "initdb", "-D", aside, "-U", "cobrik", "--auth=trust", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync"); err != nil {
		return fmt.Errorf("initdb: %w\n%s", err, out)
	}
	return os.Rename(aside, c.data)
}

// whole tells whether initdb came to its end in a folder: it makes the database postgres last (PostgreSQL, initdb), which
// with its two templates has a folder of its own.
func whole(data string) bool {
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err != nil {
		return false
	}
	databases, _ := os.ReadDir(filepath.Join(data, "base"))
	return len(databases) >= 3
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}
