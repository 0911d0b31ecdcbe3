package main_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// installation is a Cobrik with a folder of its own, whose processes are killed.
type installation struct {
	t    *testing.T
	dir  string
	app  string
	args []string
	cmd  *exec.Cmd
	log  bytes.Buffer
	gone chan struct{}
}

func install(t *testing.T) *installation {
	t.Helper()
	dir, err := os.MkdirTemp("", "cobrik-kill-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // the user postgres has to enter it
	i := &installation{t: t, dir: filepath.Join(dir, "data"), app: freeAddress(t)}
	_, port, _ := net.SplitHostPort(freeAddress(t))
	i.args = []string{"serve", "--data", i.dir, "--app", i.app, "--preview", freeAddress(t), "--database-port", port}
	t.Cleanup(func() {
		if i.running() {
			_ = i.cmd.Process.Kill()
			<-i.gone
		}
		if pid := i.postmaster(); pid > 0 {
			_ = syscall.Kill(pid, syscall.SIGKILL)
		}
		_ = os.RemoveAll(dir)
	})
	return i
}

func freeAddress(t *testing.T) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	return l.Addr().String()
}

func (i *installation) running() bool {
	if i.cmd == nil {
		return false
	}
	select {
	case <-i.gone:
		return false
	default:
		return true
	}
}

// start runs the program and waits until it answers.
func (i *installation) start() {
	i.t.Helper()
	i.cmd, i.gone = exec.Command(binary, i.args...), make(chan struct{})
	i.cmd.Env = append(os.Environ(), "DATABASE_URL=")
	i.log.Reset()
	i.cmd.Stdout, i.cmd.Stderr = &i.log, &i.log
	require.NoError(i.t, i.cmd.Start())
	cmd, gone := i.cmd, i.gone
	go func() { _ = cmd.Wait(); close(gone) }()
	deadline := time.Now().Add(40 * time.Second)
	for {
		if code, _ := i.ask("GET", "/project", ""); code == http.StatusOK {
			return
		}
		if !i.running() {
			require.FailNow(i.t, "the program ended", i.log.String())
		}
		require.True(i.t, time.Now().Before(deadline), "the program does not answer\n%s", i.log.String())
		time.Sleep(20 * time.Millisecond)
	}
}

// ask gives the status of an answer; 0 for none.
func (i *installation) ask(method, path, body string) (int, string) {
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, method, "http://"+i.app+"/api/projects/untitled"+path, strings.NewReader(body))
	require.NoError(i.t, err)
	request.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return 0, ""
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		return 0, ""
	}
	if answer.StatusCode == http.StatusServiceUnavailable {
		assert.NotEmpty(i.t, answer.Header.Get("Retry-After"))
	}
	return answer.StatusCode, string(text)
}

// query asks the database itself for a column of texts.
func (i *installation) query(sql string) ([]string, error) {
	conn, err := pgx.Connect(context.Background(), "postgres://cobrik@127.0.0.1:"+i.args[len(i.args)-1]+"/cobrik?sslmode=disable")
	if err != nil {
		return nil, err
	}
	defer conn.Close(context.Background())
	rows, err := conn.Query(context.Background(), sql)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// postmaster is the process of the database; 0 for none.
func (i *installation) postmaster() int {
	text, err := os.ReadFile(filepath.Join(i.dir, "data", "postmaster.pid"))
	if err != nil {
		return 0
	}
	pid, _ := strconv.Atoi(strings.Split(string(text), "\n")[0])
	if at, err := os.Readlink(fmt.Sprintf("/proc/%d/cwd", pid)); err != nil || at != filepath.Join(i.dir, "data") {
		return 0
	}
	return pid
}

// The program, its database and both are ended in every way while somebody writes: what was acknowledged is there, nothing is
// answered as a fault of ours, and no database is left behind. COBRIK_KILLS says how often (make soak).
func TestNothingAcknowledgedIsLost(t *testing.T) {
	rounds := 24
	if n, err := strconv.Atoi(os.Getenv("COBRIK_KILLS")); err == nil {
		rounds = n
	}
	seed := uint64(time.Now().UnixNano())
	t.Logf("seed %d", seed)
	r := rand.New(rand.NewPCG(seed, 1))
	i := install(t)
	i.start()

	var mu sync.Mutex
	kept := map[string]bool{}
	statuses := map[int]int{}
	stop := make(chan struct{})
	var writers sync.WaitGroup
	for w := range 3 {
		writers.Add(1)
		go func() {
			defer writers.Done()
			for n := 0; ; n++ {
				select {
				case <-stop:
					return
				default:
				}
				name := fmt.Sprintf("Tag%dn%d", w, n)
				code, text := i.ask("POST", "/starts", `{"name":"`+name+`","start":"blank"}`)
				mu.Lock()
				statuses[code]++
				if code == http.StatusOK {
					kept[name] = true
				}
				mu.Unlock()
				switch code {
				case http.StatusOK:
					time.Sleep(40 * time.Millisecond) // what is looked at is the moments, not the number
				case 0, http.StatusServiceUnavailable:
					time.Sleep(10 * time.Millisecond) // as a client does that is told to wait
				default:
					assert.Fail(t, "a write is answered otherwise", "%d %s", code, text)
				}
			}
		}()
	}
	whole := func() {
		mu.Lock()
		acknowledged := slices.Collect(maps.Keys(kept)) // before it is looked what is there
		mu.Unlock()
		names := map[string]bool{}
		rows, err := i.query("select name from components")
		require.NoError(t, err)
		for _, name := range rows {
			names[name] = true
		}
		for _, name := range acknowledged {
			require.True(t, names[name], "%s was acknowledged, and is lost", name)
		}
	}
	for round := range rounds {
		time.Sleep(time.Duration(r.IntN(300)) * time.Millisecond) // the moment is what is random
		mu.Lock()
		before := len(kept)
		mu.Unlock()
		switch how := r.IntN(7); how {
		case 0, 1: // the program
			_ = i.cmd.Process.Signal([]os.Signal{syscall.SIGKILL, syscall.SIGTERM}[how])
			<-i.gone
			i.start()
		case 2, 3, 4: // the database alone
			if pid := i.postmaster(); pid > 0 {
				_ = syscall.Kill(pid, []syscall.Signal{syscall.SIGKILL, syscall.SIGQUIT, syscall.SIGINT}[how-2])
			}
		case 5: // both, and again at once
			pid := i.postmaster()
			_ = i.cmd.Process.Kill()
			if pid > 0 {
				_ = syscall.Kill(pid, syscall.SIGKILL)
			}
			<-i.gone
			i.start()
		case 6: // an interrupt, while the next one starts
			_ = i.cmd.Process.Signal(os.Interrupt)
			<-i.gone
			i.start()
		}
		require.Eventually(t, func() bool {
			mu.Lock()
			defer mu.Unlock()
			return len(kept) > before+3
		}, 60*time.Second, 20*time.Millisecond, "round %d: nothing is written any more\n%s", round, i.log.String())
		if round%8 == 7 {
			whole()
		}
	}
	close(stop)
	writers.Wait()
	whole()
	t.Logf("%d acknowledged in %d rounds; statuses %v", len(kept), rounds, statuses)
	assert.Zero(t, statuses[http.StatusInternalServerError])
	for _, end := range []os.Signal{os.Interrupt, syscall.SIGTERM, syscall.SIGKILL} {
		_ = i.cmd.Process.Signal(end)
		<-i.gone
		require.Eventually(t, func() bool { return i.postmaster() == 0 }, 60*time.Second, 20*time.Millisecond, "a database is left running after %v", end)
		if end != syscall.SIGKILL {
			i.start()
		}
	}
}
