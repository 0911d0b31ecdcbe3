// Package reference asks general-purpose libraries of the npm registry, through
// the scripts beside it, for tests that check Cobrik against something else.
package reference

import (
	"bytes"
	"encoding/json"
	"os/exec"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"
)

// Ask runs a script on a task and reads its answer. `make web` installs what the
// scripts import.
func Ask[T any](t testing.TB, script string, task map[string]any) T {
	t.Helper()
	in, err := json.Marshal(task)
	require.NoError(t, err)
	_, here, _, _ := runtime.Caller(0)
	cmd := exec.Command("node", filepath.Join(filepath.Dir(here), script))
	cmd.Stdin = bytes.NewReader(in)
	var stderr bytes.Buffer
	cmd.Stderr = &stderr
	out, err := cmd.Output()
	require.NoError(t, err, "%s\nrun `make web` first", stderr.String())
	var answer T
	require.NoError(t, json.Unmarshal(out, &answer))
	return answer
}
