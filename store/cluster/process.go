package cluster

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"syscall"
	"time"
)

// process is a server that this program started.
type process struct {
	cmd  *exec.Cmd
	gone chan struct{} // closed when it ended
}

// errEnding says that a server before it was killed, and processes of it hold its memory yet (PostgreSQL, server start-up failures).
var errEnding = errors.New("processes of the server before it are ending")

// launch starts a server in the data folder and waits until it answers.
func (c *Cluster) launch(ctx context.Context, port int) (*process, error) {
	file, err := find("postgres")
	if err != nil {
		return nil, err
	}
	args := []string{"-D", c.data, "-c", "listen_addresses=127.0.0.1", "-c", "port=" + strconv.Itoa(port), "-c", "unix_socket_directories=", "-c", "max_connections=100"}
	if c.options.Scratch {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off", "-c", "shared_buffers=32MB")
	}
	log, err := os.OpenFile(filepath.Join(c.options.Dir, "server.log"), os.O_CREATE|os.O_WRONLY|os.O_APPEND, 0o640)
	if err != nil {
		return nil, err
	}
	defer log.Close()
	from, _ := log.Seek(0, 2)
	p := &process{cmd: exec.Command(file, args...), gone: make(chan struct{})}
	p.cmd.Dir, p.cmd.Stdout, p.cmd.Stderr = c.options.Dir, log, log
	p.cmd.SysProcAttr, p.cmd.Env = c.as(true)
	started := make(chan error)
	go func() {
		// The server is told to end when the thread that started it does: that has to last as long as the program.
		runtime.LockOSThread()
		err := p.cmd.Start()
		started <- err
		if err == nil {
			_ = p.cmd.Wait() // how it ended is in its log
			close(p.gone)
		}
	}()
	if err := <-started; err != nil {
		return nil, err
	}
	for !c.says(ctx, port) {
		select {
		case <-p.gone:
			text, _ := os.ReadFile(log.Name())
			text = text[min(int(from), len(text)):]
			if bytes.Contains(text, []byte("pre-existing shared memory block")) {
				return nil, fmt.Errorf("%w: PostgreSQL did not start on port %d:\n%s", errEnding, port, tail(text))
			}
			return nil, fmt.Errorf("PostgreSQL did not start on port %d:\n%s", port, tail(text))
		case <-ctx.Done():
			_ = p.stop() // it is not used
			return nil, fmt.Errorf("PostgreSQL does not answer on port %d: %w", port, ctx.Err())
		case <-time.After(step / 2):
		}
	}
	return p, nil
}

// stop ends a server in the fast way: connections are ended, all is kept (PostgreSQL, pg_ctl).
func (p *process) stop() error {
	for _, s := range []syscall.Signal{syscall.SIGINT, syscall.SIGQUIT, syscall.SIGKILL} {
		if err := p.cmd.Process.Signal(s); err != nil {
			<-p.gone // it has ended
			return nil
		}
		select {
		case <-p.gone:
			return nil
		case <-time.After(30 * time.Second):
		}
	}
	return fmt.Errorf("PostgreSQL, process %d, does not end", p.cmd.Process.Pid)
}

// as gives whom a program of PostgreSQL runs as, apart from the terminal, whose interrupt is ours to handle.
func (c *Cluster) as(bound bool) (*syscall.SysProcAttr, []string) {
	attr := &syscall.SysProcAttr{Setpgid: true}
	if bound {
		endWithParent(attr)
	}
	env := os.Environ()
	if c.own != nil {
		attr.Credential = c.own
		env = append(env, "HOME="+c.options.Dir)
	}
	return attr, env
}

func (c *Cluster) run(ctx context.Context, program string, args ...string) ([]byte, error) {
	file, err := find(program)
	if err != nil {
		return nil, err
	}
	cmd := exec.CommandContext(ctx, file, args...)
	cmd.Dir = c.options.Dir
	cmd.SysProcAttr, cmd.Env = c.as(false)
	return cmd.CombinedOutput()
}

// find looks for a program of PostgreSQL: where Debian puts each version, the newest first, then on the path.
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

func tail(log []byte) []byte {
	return log[max(0, len(log)-2000):]
}
