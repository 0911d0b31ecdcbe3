// Package core_test keeps the rooms' arrows pointing one way.
package core_test

import (
	"errors"
	"go/build"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowed says which of our own packages each room may import; see
// docs/architecture.md.
var allowed = map[string][]string{
	"core/problem":                 {},
	"core/color":                   {},
	"core/jsontree":                {"core/problem"},
	"core/css":                     {"core/color"},
	"core/token":                   {"core/problem", "core/color", "core/css", "core/jsontree"},
	"core/token/output":            {"core/problem", "core/color", "core/css", "core/jsontree", "core/token", "docs/formats"},
	"core/font":                    {},
	"core/design":                  {"core/problem", "core/color", "core/css", "core/font", "docs/formats"},
	"core/layout":                  {"core/problem", "core/css", "core/font", "core/design", "docs/formats"},
	"core/contract":                {"core/problem", "core/css", "core/token", "core/layout", "docs/formats"},
	"core/draft":                   {"core/problem", "core/css", "core/token", "core/font", "core/design", "core/layout", "core/contract"},
	"core/check":                   {"core/problem", "core/color", "core/css", "core/token", "core/font", "core/layout", "core/contract", "core/behaviour"},
	"core/sheet":                   {"core/check", "core/css", "core/token", "core/contract"},
	"core/primitive":               {"core/css", "core/token", "core/layout", "core/contract"},
	"core/start":                   {"core/color", "core/token", "core/contract", "core/primitive"},
	"core/behaviour/behaviourtest": {"core/behaviour"},
	"core/behaviour":               {"core/contract", "core/problem", "core/token"},
	"core/content":                 {"core/contract", "core/problem"},
	"core/catalogue":               {"core/contract"},
	"core/trial":                   {"core/content", "core/contract", "core/css", "core/design", "core/draft", "core/font", "core/layout", "core/primitive", "core/problem", "core/token"},
	"core/publish":                 {"core/catalogue", "core/contract", "core/emit", "core/emit/compile", "core/emit/react", "core/jsontree", "core/ledger", "core/problem", "core/token", "docs/formats"},
	"core/placeholder":             {"core/css", "core/token", "core/contract"},
	"core/survey":                  {"core/color", "core/css", "core/token", "core/design", "core/contract", "core/draft"},
	"core/ledger":                  {"core/problem", "core/css", "core/token", "core/design", "core/contract", "core/draft"},
	"core/drift":                   {"core/contract", "core/css"},
	"core/emit":                    {"core/contract"},
	"core/emit/ir":                 {"core/css", "core/contract", "core/emit", "core/behaviour"},
	"core/emit/printer":            {},
	"core/emit/css":                {"core/css", "core/contract", "core/emit", "core/emit/ir", "core/emit/printer"},
	"core/emit/react":              {"core/catalogue", "core/contract", "core/emit", "core/emit/css", "core/emit/ir", "core/emit/printer", "core/behaviour", "core/css"},
	"core/draft/drafttest":         {"core/css", "core/design", "core/draft", "core/font"},
	"core/emit/emittest":           {"core/contract", "core/emit/ir"},
	"core/emit/compile":            {"core/problem", "core/emit"},
	"core/source":                  {"core/contract", "core/css", "core/emit/ir", "core/problem", "core/source/merge", "core/source/syntax", "core/token"},
	"core/source/syntax":           {"core/problem"},
	"core/source/merge":            {"core/problem", "core/source/syntax"},
	"core/repository":              {"core/check", "core/contract", "core/css", "core/emit/css", "core/source/syntax", "core/design", "core/draft", "core/emit", "core/emit/react", "core/font", "core/ledger", "core/problem", "core/source", "core/token", "core/token/output"},
	"gitrepo":                      {},
	"notice":                       {},
	"store":                        {},
	"store/cluster":                {},
	"store/storetest":              {"store", "store/cluster"},
	"core":                         {},
	"service":                      {"core/*", "gitrepo", "store"},
	"server":                       {"core/*", "notice", "service", "store", "web"},
	"standin":                      {"notice"},
	"web":                          {},
	"demo":                         {},
	"demo/demotest":                {"core/contract", "core/design", "core/draft", "core/font", "core/token", "demo"},
	"demo/story":                   {"gitrepo", "core/behaviour", "core/contract", "core/drift", "core/sheet", "core/token", "demo", "service", "standin"},
	"docs/formats":                 {},
	"cmd/cobrik":                   {"core/*", "gitrepo", "service", "server", "store", "store/cluster", "standin", "demo", "demo/story", "web"},
}

// offLimits are what core may not reach: HTTP, SQL, the file system, processes.
var offLimits = []string{"net/http", "database/sql", "os", "os/exec", "net", "time", "math/rand", "math/rand/v2", "github.com/jackc/pgx/v5", "github.com/gin-gonic/gin"}

// harmless are imports that reach outside by name only: days of the calendar, and times that are given, are no clock.
var harmless = map[string][]string{"core/content": {"time"}, "core/drift": {"time"}}

func TestArrowsPointOneWay(t *testing.T) {
	seen := 0
	// Read here, not by a command: a remembered result of this test would not know of new imports.
	require.NoError(t, filepath.WalkDir("..", func(dir string, entry os.DirEntry, err error) error {
		if err != nil || !entry.IsDir() {
			return err
		}
		if name := entry.Name(); name == "node_modules" || name == "testdata" || len(name) > 2 && name[0] == '.' {
			return filepath.SkipDir
		}
		room, err := build.ImportDir(dir, 0)
		if none := (*build.NoGoError)(nil); errors.As(err, &none) {
			return nil
		}
		if err != nil {
			return err
		}
		from := filepath.ToSlash(strings.TrimPrefix(dir, "../"))
		rule, known := allowed[from]
		if !known {
			assert.NotRegexp(t, "^(core|store|service|server|gitrepo)/", from+"/", "the room %s has no rule here", from)
			return nil
		}
		seen++
		for _, to := range room.Imports {
			if own, ok := strings.CutPrefix(to, "cobrik/"); ok {
				permitted := slices.Contains(rule, own) || slices.Contains(rule, "core/*") && strings.HasPrefix(own, "core/")
				assert.True(t, permitted, "%s imports %s: an arrow that goes back", from, own)
			} else if strings.HasPrefix(from, "core/") && !strings.HasSuffix(from, "test") { // what tests draw is random
				assert.True(t, !slices.Contains(offLimits, to) || slices.Contains(harmless[from], to), "%s reaches outside", from)
			}
		}
		return nil
	}))
	assert.Equal(t, len(allowed), seen, "a room moved")
}
