// Package cluster runs a private PostgreSQL server on loopback, for people who
// have no server of their own and for tests.
package cluster

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Options of a cluster.
type Options struct {
	Dir     string // data lives in Dir/data; made when missing
	Port    int    // 0 picks a free one
	Scratch bool   // for tests: faster, and may lose data when the machine stops
}

// Cluster is a running server. Stop it when done.
type Cluster struct {
	dir     string
	port    int
	own     *syscall.Credential // who runs it when the program is root; nil otherwise
	started bool                // by us, not found running
}

// Start makes the cluster when it is new, starts its server and waits until it
// answers. As root it runs as the user postgres, for initdb refuses root. A
// server already running in that folder is used as it is.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	c := &Cluster{dir: o.Dir, port: o.Port}
	if err := c.prepare(); err != nil {
		return nil, err
	}
	data := filepath.Join(o.Dir, "data")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err != nil {
		if out, err := c.run(ctx, "initdb", "-D", data, "-U", "cobrik", "--auth=trust", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync"); err != nil {
			return nil, fmt.Errorf("initdb: %w\n%s", err, out)
		}
	}
	if port, ok := runningPort(data); ok {
		c.port = port
		return c, nil
	}
	if c.port == 0 {
		port, err := freePort()
		if err != nil {
			return nil, err
		}
		c.port = port
	}
	settings := fmt.Sprintf("-c listen_addresses=127.0.0.1 -c port=%d -c unix_socket_directories='' -c max_connections=100", c.port)
	if o.Scratch {
		settings += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c shared_buffers=32MB"
	}
	if out, err := c.run(ctx, "pg_ctl", "-D", data, "-l", filepath.Join(o.Dir, "server.log"), "-w", "-t", "60", "-o", settings, "start"); err != nil {
		log, _ := os.ReadFile(filepath.Join(o.Dir, "server.log"))
		return nil, fmt.Errorf("pg_ctl start: %w\n%s\n%s", err, out, tail(log))
	}
	c.started = true
	return c, nil
}

// URL gives the address of one of the cluster's databases.
func (c *Cluster) URL(database string) string {
	return fmt.Sprintf("postgres://cobrik@127.0.0.1:%d/%s?sslmode=disable", c.port, database)
}

// Create makes a database unless it is there.
func (c *Cluster) Create(ctx context.Context, database string) error {
	out, err := c.run(ctx, "createdb", "-h", "127.0.0.1", "-p", strconv.Itoa(c.port), "-U", "cobrik", database)
	if err != nil && !bytes.Contains(out, []byte("already exists")) {
		return fmt.Errorf("createdb: %w\n%s", err, out)
	}
	return nil
}

// Stop shuts the server down, ending connections. A server that Start found
// running is left running: somebody else works with it.
func (c *Cluster) Stop() error {
	if !c.started {
		return nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	out, err := c.run(ctx, "pg_ctl", "-D", filepath.Join(c.dir, "data"), "-m", "fast", "-w", "stop")
	if err != nil {
		return fmt.Errorf("pg_ctl stop: %w\n%s", err, out)
	}
	return nil
}

// prepare makes the folder and finds out who may run the server.
func (c *Cluster) prepare() error {
	if err := os.MkdirAll(c.dir, 0o750); err != nil {
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
	return os.Chown(c.dir, uid, gid)
}

func (c *Cluster) run(ctx context.Context, program string, args ...string) ([]byte, error) {
	file, err := find(program)
	if err != nil {
		return nil, err
	}
	cmd := exec.CommandContext(ctx, file, args...)
	cmd.Dir = c.dir
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true} // an interrupt at the terminal is ours to handle
	if c.own != nil {
		cmd.SysProcAttr.Credential = c.own
		cmd.Env = append(os.Environ(), "HOME="+c.dir)
	}
	// The server inherits a file, not a pipe: a pipe would stay open with it.
	out, err := os.CreateTemp("", "cobrik-*.out")
	if err != nil {
		return nil, err
	}
	defer os.Remove(out.Name())
	defer out.Close()
	cmd.Stdout, cmd.Stderr = out, out
	err = cmd.Run()
	text, _ := os.ReadFile(out.Name())
	return text, err
}

// find looks for a program of PostgreSQL: on the path, then where Debian puts
// each version, the newest first.
func find(program string) (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/" + program)
	slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
	if len(found) > 0 {
		return found[0], nil
	}
	if file, err := exec.LookPath(program); err == nil {
		return file, nil
	}
	return "", fmt.Errorf("%s is not installed: install postgresql with apt-get, or set DATABASE_URL to a server of your own", program)
}

func version(file string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(file))))
	return n
}

// runningPort reads the port of the server that runs in a data folder
// (postmaster.pid, line 4), if it still answers.
func runningPort(data string) (int, bool) {
	text, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
	if err != nil {
		return 0, false
	}
	lines := strings.Split(string(text), "\n")
	if len(lines) < 4 {
		return 0, false
	}
	port, err := strconv.Atoi(strings.TrimSpace(lines[3]))
	if err != nil {
		return 0, false
	}
	conn, err := net.DialTimeout("tcp", fmt.Sprintf("127.0.0.1:%d", port), time.Second)
	if err != nil {
		return 0, false
	}
	conn.Close()
	return port, true
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

func tail(log []byte) []byte {
	return log[max(0, len(log)-2000):]
}
