package main_test

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// contents are the files below a folder.
func contents(t *testing.T, dir string) map[string]string {
	t.Helper()
	out := map[string]string{}
	require.NoError(t, filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		text, err := os.ReadFile(path)
		out[strings.TrimPrefix(filepath.ToSlash(path), filepath.ToSlash(dir)+"/")] = string(text)
		return err
	}))
	return out
}

func TestACatalogueIsBuiltFromContractsOnDisk(t *testing.T) {
	dir := t.TempDir()
	themed := append([]string{"--resolver", furrow + "furrow.resolver.json"}, tokens...)
	_, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-1.design.json", "--all", "--out", filepath.Join(dir, "contracts")}, tokens...)...)
	require.True(t, ok, errs)
	lock := map[string]any{"format": "cobrik.library/1", "name": "furrow", "version": "2.1.0", "components": []any{map[string]any{"name": "CropTag", "version": "1.4.0", "shelf": "Small things", "sha256": strings.Repeat("0", 64)}}, "tokens": []any{}}
	text, err := json.Marshal(lock)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "library.json"), text, 0o644))
	build := func(out string, more ...string) (string, string, bool) {
		return run(t, append(append([]string{"catalogue", "build", "--contracts", filepath.Join(dir, "contracts"), "--out", filepath.Join(dir, out)}, themed...), more...)...)
	}
	out, errs, ok := build("a")
	require.True(t, ok, errs)
	assert.Contains(t, out, "index.html")
	_, errs, ok = build("b")
	require.True(t, ok, errs)
	first := contents(t, filepath.Join(dir, "a"))
	assert.Equal(t, first, contents(t, filepath.Join(dir, "b")), "a second build is another")
	for _, name := range []string{"index.html", "assets/site.js", "assets/site.css", "assets/runner.js", "assets/runner.css", "assets/page.css", "components/crop-tag.html", "frames/crop-tag.html", "frames/crop-tag.js", "data/crop-tag.js", "data/stack.js"} {
		assert.Contains(t, first, name)
	}
	assert.Contains(t, first["index.html"], "<title>furrow 2.1.0</title>", "what the lock says is not told")
	assert.Contains(t, first["components/crop-tag.html"], "released 1.4.0 · shelf Small things")
	assert.Contains(t, first["components/plot-card.html"], "draft")
	assert.Contains(t, first["frames/crop-tag.css"], `[data-theme=dusk]`, "its other themes are not there")

	_, errs, ok = build("c", "--name", "Furrow <b>")
	require.True(t, ok, errs)
	assert.Contains(t, contents(t, filepath.Join(dir, "c"))["index.html"], "Furrow &lt;b&gt; 2.1.0")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "other.json"), []byte(`{"format":"cobrik.project/1"}`), 0o644))
	for what, more := range map[string][]string{"cobrik.library/1": {"--lock", filepath.Join(dir, "other.json")}, "no such file": {"--lock", filepath.Join(dir, "nowhere.json")}} {
		_, errs, ok = build("d", more...)
		assert.False(t, ok)
		assert.Contains(t, errs, what)
	}
	text, err = os.ReadFile(filepath.Join(dir, "contracts", "crop-tag.contract.json"))
	require.NoError(t, err)
	for file, name := range map[string]string{"one": "ABTag", "two": "AbTag"} { // of one address
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "same"), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "same", file+".json"), []byte(strings.Replace(string(text), `"CropTag"`, `"`+name+`"`, 1)), 0o644))
	}
	_, errs, ok = run(t, append([]string{"catalogue", "build", "--contracts", filepath.Join(dir, "same"), "--out", filepath.Join(dir, "f")}, themed...)...)
	assert.False(t, ok, "one component overwrites another in silence")
	assert.Contains(t, errs, "ABTag and AbTag would have one address, ab-tag")
	_, errs, ok = run(t, "catalogue", "build", "--contracts", dir, "--out", filepath.Join(dir, "e"))
	assert.False(t, ok)
	assert.Contains(t, errs, "holds no contracts")
}
