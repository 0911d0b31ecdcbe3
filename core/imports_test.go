// Package core_test keeps the rooms' arrows pointing one way.
package core_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowed says which of our own packages each room may import; see
// docs/architecture.md.
var allowed = map[string][]string{
	"core/problem":        {},
	"core/color":          {},
	"core/jsontree":       {"core/problem"},
	"core/css":            {"core/color"},
	"core/token":          {"core/problem", "core/color", "core/css", "core/jsontree"},
	"core/token/platform": {"core/problem", "core/color", "core/css", "core/jsontree", "core/token", "docs/formats"},
	"core/font":           {},
	"core/design":         {"core/problem", "core/color", "core/css", "core/font", "docs/formats"},
	"core/layout":         {"core/problem", "core/css", "core/font", "core/design", "docs/formats"},
	"core/contract":       {"core/problem", "core/css", "core/token", "core/layout", "docs/formats"},
	"core/draft":          {"core/problem", "core/css", "core/token", "core/font", "core/design", "core/layout", "core/contract"},
	"core/survey":         {"core/color", "core/css", "core/token", "core/design", "core/contract", "core/draft"},
	"core/ledger":         {"core/problem", "core/css", "core/token", "core/design", "core/contract", "core/draft"},
	"core/emit":           {"core/contract"},
	"core/emit/css":       {"core/css", "core/token", "core/contract", "core/emit"},
	"core/emit/react":     {"core/css", "core/token", "core/token/platform", "core/contract", "core/emit", "core/emit/css"},
	"core/emit/compile":   {"core/problem", "core/emit"},
	"store":               {},
	"store/cluster":       {},
	"store/storetest":     {"store", "store/cluster"},
	"core":                {},
	"service":             {"core/*", "store"},
	"server":              {"core/*", "service", "store", "web"},
	"standin":             {},
	"web":                 {},
	"demo":                {},
	"demo/demotest":       {"core/design", "core/token", "demo"},
	"docs/formats":        {},
	"cmd/cobrik":          {"core/*", "service", "server", "store", "store/cluster", "standin", "demo", "web"},
}

// offLimits are what core may not reach: HTTP, SQL, the file system, processes.
var offLimits = []string{"net/http", "database/sql", "os", "os/exec", "net", "time", "math/rand", "math/rand/v2", "github.com/jackc/pgx/v5", "github.com/gin-gonic/gin"}

func TestArrowsPointOneWay(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", "cobrik/...").Output()
	require.NoError(t, err)
	seen := 0
	for line := range strings.Lines(string(out)) {
		words := strings.Fields(line)
		from := strings.TrimPrefix(words[0], "cobrik/")
		rule, known := allowed[from]
		if !known {
			assert.NotRegexp(t, "^(core|store|service|server)/", from+"/", "the room %s has no rule here", from)
			continue
		}
		seen++
		for _, to := range words[1:] {
			if own, ok := strings.CutPrefix(to, "cobrik/"); ok {
				permitted := slices.Contains(rule, own) || slices.Contains(rule, "core/*") && strings.HasPrefix(own, "core/")
				assert.True(t, permitted, "%s imports %s: an arrow that goes back", from, own)
			} else if strings.HasPrefix(from, "core/") {
				assert.NotContains(t, offLimits, to, "%s reaches outside", from)
			}
		}
	}
	assert.Equal(t, len(allowed), seen, "a room moved")
}
