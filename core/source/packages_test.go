package source_test

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/source"
	"cobrik/web/reference"
)

func webDir() string {
	_, here, _, _ := runtime.Caller(0)
	return filepath.Join(filepath.Dir(here), "..", "..", "web")
}

// filesIn reads the source files of a folder.
func filesIn(t *testing.T, dir string) (out []source.File) {
	t.Helper()
	_ = filepath.WalkDir(dir, func(name string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || !slices.Contains([]string{".tsx", ".ts", ".jsx", ".js", ".mjs", ".css"}, filepath.Ext(name)) || strings.HasSuffix(name, ".min.css") {
			return err
		}
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		rel, err := filepath.Rel(dir, name)
		require.NoError(t, err)
		out = append(out, source.File{Name: filepath.ToSlash(rel), Text: text})
		return nil
	})
	return out
}

// Packages that people published, and Cobrik's own front end, are read without an end that nobody asked for: every
// component gives facts, and what is not read of it is named with its place.
func TestPackagesAreRead(t *testing.T) {
	if _, err := os.Stat(filepath.Join(webDir(), "node_modules")); err != nil {
		t.Skip("left out: make web installs the packages")
	}
	components, facts, unread := 0, 0, 0
	for _, dir := range []string{"node_modules/react-hot-toast/src", "node_modules/@tanstack/react-query/src", "node_modules/@tanstack/react-virtual/src", "node_modules/@mantine/spotlight", "node_modules/@mantine/notifications", "src"} {
		files := filesIn(t, filepath.Join(webDir(), dir))
		if !assert.NotEmpty(t, files, dir) {
			continue
		}
		code := source.Open(files)
		for _, one := range code.Components() {
			if one.Why != "" {
				unread++
				continue
			}
			r := code.Read(one.File, one.Name, source.Options{})
			require.NotNil(t, r, "%s in %s/%s", one.Name, dir, one.File)
			components++
			list := r.Facts()
			facts += len(list)
			unread += len(r.Unread)
			assert.NotEmpty(t, list, "%s in %s/%s says nothing", one.Name, dir, one.File)
			for _, p := range r.Unread {
				if p.File == "" || p.Line == 0 || p.Message == "" {
					t.Errorf("%s in %s: what is not read has no place: %+v", one.Name, dir, p)
				}
			}
			_ = r.String()
		}
		for _, p := range code.Problems() {
			if strings.HasSuffix(p.File, "behaviour/TimeLine.tsx") { // "using" as a name, which the grammar takes for the keyword
				continue
			}
			t.Errorf("%s: %s", dir, p)
		}
	}
	assert.Greater(t, components, 100)
	t.Logf("%d components, %d facts, %d pieces not read", components, facts, unread)
}

type checkedProp struct {
	Optional bool     `json:"optional"`
	Options  []string `json:"options"`
	Text     string   `json:"text"`
}

// The props of the components by hand are those that TypeScript's own checker finds: their names, which
// may be left out, and the options of choices. What is not read as a prop is named.
func TestPropsAreThoseOfTypeScript(t *testing.T) {
	archives, err := filepath.Glob("testdata/by-hand/*.txtar")
	require.NoError(t, err)
	type dir struct {
		Dir   string   `json:"dir"`
		Files []string `json:"files"`
	}
	var dirs []dir
	var codes []*source.Code
	for _, file := range archives {
		archive, err := txtar.ParseFile(file)
		require.NoError(t, err)
		d := dir{Dir: t.TempDir(), Files: []string{}}
		var files []source.File
		for _, f := range archive.Files {
			if f.Name == "facts" {
				continue
			}
			files = append(files, source.File{Name: f.Name, Text: f.Data})
			require.NoError(t, os.MkdirAll(filepath.Join(d.Dir, filepath.Dir(f.Name)), 0o755))
			require.NoError(t, os.WriteFile(filepath.Join(d.Dir, f.Name), f.Data, 0o644))
			if ext := filepath.Ext(f.Name); ext == ".tsx" {
				d.Files = append(d.Files, f.Name)
			}
		}
		dirs, codes = append(dirs, d), append(codes, source.Open(files))
	}
	found := reference.Ask[[]map[string]map[string]checkedProp](t, "source.mjs", map[string]any{"props": dirs})
	compared := 0
	for i, code := range codes {
		for _, one := range code.Components() {
			if one.Why != "" || !strings.HasSuffix(one.File, ".tsx") {
				continue
			}
			want, ok := found[i][one.File+" "+one.Name]
			if !ok {
				want, ok = found[i][one.File+" default"]
			}
			if !assert.True(t, ok, "%s: TypeScript finds no %s: %v", archives[i], one.Name, found[i]) {
				continue
			}
			r := code.Read(one.File, one.Name, source.Options{})
			got := map[string]checkedProp{}
			for _, p := range r.Contract.Props {
				c := checkedProp{Optional: !p.Required}
				switch t := p.Type.(type) {
				case contract.Choice:
					c.Options = slices.Sorted(slices.Values(t.Options))
				case contract.Icon:
					c.Options = slices.Sorted(slices.Values(t.Names()))
				}
				got[p.Name] = c
			}
			for name, w := range want {
				if slices.Contains([]string{"className", "as"}, name) {
					continue
				}
				g, there := got[name]
				if !there {
					named := slices.ContainsFunc(r.Unread, func(p problem.Problem) bool { return strings.Contains(p.Message, name+":") })
					assert.True(t, named, "%s: %s of %s is neither read nor named", archives[i], name, one.Name)
					continue
				}
				compared++
				assert.Equal(t, fmt.Sprint(w.Optional || g.Optional && defaulted(r, name), w.Options), fmt.Sprint(g.Optional, append([]string{}, g.Options...)), "%s: %s of %s (%s)", archives[i], name, one.Name, w.Text)
			}
		}
	}
	assert.Greater(t, compared, 50)
	t.Logf("%d props compared", compared)
}

// defaulted tells whether the code gives a prop a default, so that none has to be given whatever its type says.
func defaulted(r *source.Reading, name string) bool {
	for _, p := range r.Contract.Props {
		if p.Name == name {
			return p.Default() != nil
		}
	}
	return false
}
