package main_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The program is killed at any moment of writing to a repository, and of deciding: database and repository agree once it runs again. What is said to be written
// is in the branch, what is not is in none, the branch is whole and only went forward.
func TestWritesThatAreKilledAgree(t *testing.T) {
	seed := uint64(time.Now().UnixNano())
	t.Logf("seed %d", seed)
	r := rand.New(rand.NewPCG(seed, 2))
	i := install(t)
	bare := filepath.Join(filepath.Dir(i.dir), "shed.git")
	git := func(args ...string) string {
		t.Helper()
		cmd := exec.Command("git", append([]string{"-C", bare, "-c", "safe.directory=*"}, args...)...)
		cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Ruth", "GIT_AUTHOR_EMAIL=r@hollowbeck.invalid", "GIT_COMMITTER_NAME=Ruth", "GIT_COMMITTER_EMAIL=r@hollowbeck.invalid", "GIT_CONFIG_NOSYSTEM=1")
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "git %v: %s", args, out)
		return strings.TrimSpace(string(out))
	}
	require.NoError(t, os.MkdirAll(bare, 0o755))
	git("init", "-q", "--bare", "-b", "main")
	tree := git("write-tree")
	git("update-ref", "refs/heads/main", git("commit-tree", tree, "-m", "First"))
	i.start()
	code, text := i.ask("POST", "/target", `{"revision":0,"path":"`+bare+`","branch":"main","folder":"src","author":"Furrow","email":"f@hollowbeck.invalid"}`)
	require.Equal(t, http.StatusOK, code, text)
	_, _ = i.ask("POST", "/watches", `{"subject":"code","every":0}`)

	written, killed := 0, 0
	last := git("rev-parse", "main")
	for round := range 14 {
		name := fmt.Sprintf("Tag%d", round)
		code, text := i.ask("POST", "/starts", `{"name":"`+name+`","start":"blank"}`)
		require.Equal(t, http.StatusOK, code, text)
		code, text = i.ask("POST", "/target/read", "")
		require.Equal(t, http.StatusOK, code, text)
		answer := make(chan int, 1)
		go func() {
			code, _ := i.ask("POST", "/code/write", `{"hash":"`+git("rev-parse", "main")+`","branch":"","forward":true}`)
			answer <- code
		}()
		time.Sleep(time.Duration(r.IntN(70)) * time.Millisecond) // the moment is what is random
		_ = i.cmd.Process.Kill()
		<-i.gone
		acknowledged := <-answer
		i.start()
		code, text = i.ask("POST", "/target/read", "") // as the first who looks does
		require.Equal(t, http.StatusOK, code, text)

		head := git("rev-parse", "main")
		git("merge-base", "--is-ancestor", last, head)
		git("fsck", "--strict", "--no-dangling")
		var target struct {
			Commit struct{ Hash string }
			Writes []struct{ Hash, State string }
		}
		require.NoError(t, json.Unmarshal([]byte(text), &target))
		assert.Equal(t, head, target.Commit.Hash, "what was read is what is there")
		for _, w := range target.Writes {
			in := exec.Command("git", "-C", bare, "-c", "safe.directory=*", "merge-base", "--is-ancestor", w.Hash, head).Run() == nil
			assert.Equal(t, map[bool]string{true: "done", false: "gone"}[in], w.State, "round %d: %s", round, w.Hash)
		}
		if acknowledged == http.StatusOK {
			require.NotEqual(t, last, head, "it was acknowledged, and is not there")
		}
		var now struct {
			Components []struct{ Name, State string }
		}
		code, text = i.ask("GET", "/code", "")
		require.Equal(t, http.StatusOK, code, text)
		require.NoError(t, json.Unmarshal([]byte(text), &now))
		files := strings.Split(git("ls-tree", "-r", "--name-only", "main"), "\n")
		there := slices.Contains(files, "src/"+name+"/"+name+".tsx")
		missing := slices.ContainsFunc(now.Components, func(c struct{ Name, State string }) bool { return c.Name == name && c.State == "missing" })
		assert.NotEqual(t, there, missing, "round %d: %s", round, name)
		if there {
			written++
			assert.Contains(t, files, "src/"+name+"/"+name+".module.css", "half of a commit")
		} else {
			killed++
		}
		last = head
	}
	t.Logf("%d written, %d killed before", written, killed)
	code, text = i.ask("POST", "/code/write", `{"hash":"`+last+`","branch":"","forward":true}`)
	assert.Contains(t, []int{http.StatusOK, http.StatusUnprocessableEntity}, code, text) // what the last round left, where it left any
	code, text = i.ask("POST", "/code/plan", `{"hash":"","branch":""}`)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "There is nothing to write")
	code, text = i.ask("GET", "/code", "")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `"components":[]`, "all is level in the end")
}
