// Package reference asks general-purpose libraries of the npm registry, through
// the scripts beside it, for tests that check Cobrik against something else.
package reference

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"
)

// missing leaves a test out that needs what is not there; where references are required, as
// make test requires them, it fails.
func missing(t testing.TB, what string) {
	t.Helper()
	if os.Getenv("COBRIK_REFERENCES") == "required" {
		t.Fatalf("this test needs %s", what)
	}
	t.Skipf("left out: it needs %s; make test runs it", what)
}

// NeedChromium leaves a test out where there is no Chromium.
func NeedChromium(t testing.TB) {
	t.Helper()
	for _, name := range []string{"chromium", "chromium-browser", "google-chrome"} {
		if _, err := exec.LookPath(name); err == nil {
			return
		}
	}
	missing(t, "Chromium")
}

// Ask runs a script on a task and reads its answer. `make web` installs what the
// scripts import.
func Ask[T any](t testing.TB, script string, task map[string]any) T {
	t.Helper()
	_, here, _, _ := runtime.Caller(0)
	dir := filepath.Dir(here)
	_, noNode := exec.LookPath("node")
	if _, err := os.Stat(filepath.Join(dir, "..", "node_modules")); err != nil || noNode != nil {
		missing(t, "Node.js and what make web installs")
	}
	in, err := json.Marshal(task)
	require.NoError(t, err)
	cmd := exec.Command("node", filepath.Join(dir, script))
	cmd.Stdin = bytes.NewReader(in)
	var stderr bytes.Buffer
	cmd.Stderr = &stderr
	out, err := cmd.Output()
	require.NoError(t, err, "%s\nrun `make web` first", stderr.String())
	var answer T
	require.NoError(t, json.Unmarshal(out, &answer))
	return answer
}
