package publish_test

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/base64"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/primitive"
	"cobrik/core/publish"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// furrow is the demo's design as a library.
func furrow(t testing.TB) publish.Library {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 1)
	families, _ := demotest.Families(t, doc, tokens)
	l := publish.Library{Name: "furrow", Version: "1.4.0", Purpose: "What the allotments are built of.", Tokens: output.PropertiesOf(tokens), Primitives: primitive.Contracts(tokens), TokenFiles: demotest.TokenFiles(), Told: "# New\n\n- A tag"}
	for _, f := range families {
		l.Components = append(l.Components, publish.Component{Contract: f.Contract, Shelf: "Plots", Version: "1.0.0"})
	}
	return l
}

func fileOf(t testing.TB, files []emit.File, path string) string {
	t.Helper()
	for _, f := range files {
		if f.Path == path {
			return f.Content
		}
	}
	require.Fail(t, "there is no file", path)
	return ""
}

func TestAPackageIsTheSameByteForByte(t *testing.T) {
	var tarballs, zips [][]byte
	for range 3 {
		files, found := furrow(t).Files()
		require.Empty(t, found)
		tarball, err := publish.Tarball(files)
		require.NoError(t, err)
		zipped, err := publish.Zip("furrow-1.4.0", files)
		require.NoError(t, err)
		tarballs, zips = append(tarballs, tarball), append(zips, zipped)
	}
	for i := 1; i < len(tarballs); i++ {
		assert.True(t, bytes.Equal(tarballs[0], tarballs[i]), "a package made again is another")
		assert.True(t, bytes.Equal(zips[0], zips[i]), "an archive made again is another")
	}
}

// The archives hold the files as they were written, in their places, and no two at one.
func TestArchivesHoldTheFiles(t *testing.T) {
	files, _ := furrow(t).Files()
	want := map[string]string{}
	for _, f := range files {
		require.NotContains(t, want, f.Path, "two files at one place")
		want[f.Path] = f.Content
	}
	packed, err := publish.Tarball(files)
	require.NoError(t, err)
	unzipped, err := gzip.NewReader(bytes.NewReader(packed))
	require.NoError(t, err)
	archive := tar.NewReader(unzipped)
	got := map[string]string{}
	for {
		h, err := archive.Next()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
		text, err := io.ReadAll(archive)
		require.NoError(t, err)
		name, ok := strings.CutPrefix(h.Name, "package/")
		require.True(t, ok, "npm finds nothing outside of package/: %s", h.Name)
		got[name] = string(text)
	}
	assert.Equal(t, want, got)
	packed, err = publish.Zip("furrow-1.4.0", files)
	require.NoError(t, err)
	z, err := zip.NewReader(bytes.NewReader(packed), int64(len(packed)))
	require.NoError(t, err)
	require.Len(t, z.File, len(files))
	assert.Equal(t, "furrow-1.4.0/"+files[0].Path, z.File[0].Name)
}

// The lock's hashes are those of sha256sum.
func TestTheLockSaysWhatIsInTheLibrary(t *testing.T) {
	l := furrow(t)
	files, _ := l.Files()
	var lock publish.Lock
	require.NoError(t, json.Unmarshal([]byte(fileOf(t, files, "library.json")), &lock))
	assert.Equal(t, [3]string{publish.LockFormat, "furrow", "1.4.0"}, [3]string{lock.Format, lock.Name, lock.Version})
	require.Len(t, lock.Components, len(l.Components))
	require.Len(t, lock.Tokens, len(l.TokenFiles))
	dir := t.TempDir()
	sum := func(content string) string {
		cmd := exec.Command("sha256sum")
		cmd.Dir, cmd.Stdin = dir, strings.NewReader(content)
		out, err := cmd.Output()
		require.NoError(t, err)
		return strings.Fields(string(out))[0]
	}
	for _, c := range lock.Components {
		assert.Equal(t, sum(fileOf(t, files, "contracts/"+contract.Slug(c.Name)+".contract.json")), c.SHA256, c.Name)
		assert.Equal(t, [2]string{"1.0.0", "Plots"}, [2]string{c.Version, c.Shelf})
	}
	for _, f := range lock.Tokens {
		assert.Equal(t, sum(fileOf(t, files, "tokens/"+f.File)), f.SHA256, f.File)
	}
	read, flaws := contract.Read("", []byte(fileOf(t, files, "contracts/crop-tag.contract.json")), nil)
	require.Empty(t, flaws)
	assert.Equal(t, "CropTag", read.Name)
	again, found := publish.ReadLock("library.json", []byte(fileOf(t, files, "library.json")))
	require.Empty(t, found, "what is written is no lock")
	assert.Equal(t, lock, again)
	for _, bad := range []string{"", "[]", `{"format":"cobrik.library/1"}`, `{"format":"cobrik.project/1","name":"a","version":"1","components":[],"tokens":[]}`,
		`{"format":"cobrik.library/1","name":"a","version":"1","components":[{"name":"A","sha256":"x"}],"tokens":[]}`, `{"format":"cobrik.library/1","name":"a","version":"1","components":[],"tokens":[],"more":1}`, strings.Repeat("[", 100)} {
		_, found = publish.ReadLock("library.json", []byte(bad))
		assert.True(t, found.Failed(), "%.40q is taken for a lock", bad)
	}
	assert.Equal(t, "# furrow 1.4.0\n\n## New\n\n- A tag\n", fileOf(t, files, "CHANGELOG.md"))
	assert.Contains(t, fileOf(t, files, "README.md"), "| [CropTag](CropTag/README.md) | 1.0.0 | Plots |")
}

// The manifest is one by the schema that its makers publish (npm: custom-elements-manifest), and tells of every prop.
func TestTheManifestIsOne(t *testing.T) {
	l := furrow(t)
	l.Components[0].Contract.Deprecated = &contract.Deprecation{Why: "Too small", Instead: "Other"}
	files, _ := l.Files()
	var doc map[string]any
	text := fileOf(t, files, "custom-elements.json")
	require.NoError(t, json.Unmarshal([]byte(text), &doc))
	wrong := map[string]any{"schemaVersion": "2.1.0", "modules": []any{map[string]any{"kind": "nothing"}}}
	got := reference.Ask[[][]string](t, "schema.mjs", map[string]any{"schema": "manifest", "documents": []any{doc, wrong}})
	assert.Empty(t, got[0])
	assert.NotEmpty(t, got[1], "the schema takes anything")
	for _, c := range l.Components {
		assert.Contains(t, text, `"path": "`+c.Contract.Name+"/"+c.Contract.Name+`.tsx"`)
		fileOf(t, files, c.Contract.Name+"/"+c.Contract.Name+".tsx")
	}
	assert.Contains(t, text, `"deprecated": "Too small. Use Other instead."`)
	assert.Contains(t, text, `"text": "\"s\" | \"m\" | \"l\""`)
}

// A schema of props takes what variations of a component are given, and nothing that its types refuse (Ajv, strict).
func TestPropsHaveASchema(t *testing.T) {
	for _, c := range furrow(t).Components {
		var good, bad []any
		list, _ := c.Contract.Variations(24)
		for _, v := range list {
			given := c.Contract.Given(v.Values)
			for name, value := range given {
				if rich, ok := value.(map[string]any); ok && rich["rich"] != nil { // code of whoever uses it
					delete(given, name)
				}
			}
			good = append(good, given)
		}
		for _, p := range c.Contract.Props {
			if p.Kind() == contract.ChoiceKind || p.Kind() == contract.FlagKind || p.Kind() == contract.NumberKind || p.Kind() == contract.TextKind {
				bad = append(bad, map[string]any{p.Name: []any{"no", "such", "value"}})
			}
			if p.Required {
				bad = append(bad, map[string]any{})
			}
		}
		got := reference.Ask[[][]string](t, "schema.mjs", map[string]any{"schema": catalogue.PropsSchema(c.Contract), "documents": append(append([]any{}, good...), bad...)})
		for i, errors := range got {
			if i < len(good) {
				assert.Empty(t, errors, "%s does not take %v", c.Contract.Name, good[i])
			} else {
				assert.NotEmpty(t, errors, "%s takes %v", c.Contract.Name, bad[i-len(good)])
			}
		}
	}
}

func TestPropsThatStandApartAreNotGivenTogether(t *testing.T) {
	text := contract.Text{}
	c := &contract.Contract{Format: contract.Format, Name: "Mark", Root: &contract.Part{ID: "root", Name: "root", Element: "span"}, Apart: [][]string{{"icon", "picture", "label"}},
		Props: []contract.Prop{{ID: "icon", Name: "icon", Type: text}, {ID: "picture", Name: "picture", Type: text, Deprecated: "no longer"}, {ID: "label", Name: "label", Type: text, Required: true, Purpose: "What it says"}}}
	got := reference.Ask[[][]string](t, "schema.mjs", map[string]any{"schema": catalogue.PropsSchema(c), "documents": []any{map[string]any{"label": "a"}, map[string]any{"label": "a", "icon": "b"}, map[string]any{"icon": "b"}}})
	assert.Empty(t, got[0])
	assert.NotEmpty(t, got[1])
	assert.NotEmpty(t, got[2])
	s := catalogue.PropsSchema(c)["properties"].(map[string]any)
	assert.Equal(t, true, s["picture"].(map[string]any)["deprecated"])
	assert.Equal(t, "What it says", s["label"].(map[string]any)["description"])
	assert.NotContains(t, s["label"], "default", "what has to be given has a default")
}

// Installed with npm into an empty Vite app, the package is of the app's types (strict, as Vite's own template has it), is
// built, and renders as it is.
func TestThePackageIsInstalledAndRendered(t *testing.T) {
	files, found := furrow(t).Files()
	require.Empty(t, found)
	packed, err := publish.Tarball(files)
	require.NoError(t, err)
	done := reference.Ask[struct {
		Errors []string
		Built  map[string]string
	}](t, "install.mjs", map[string]any{"tarball": base64.StdEncoding.EncodeToString(packed), "files": map[string]string{
		"index.html":     `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>App</title></head><body><div id="app"></div><script type="module" src="/src/main.tsx"></script></body></html>`,
		"vite.config.ts": `import react from "@vitejs/plugin-react"; export default { plugins: [react()] };`,
		"tsconfig.json": `{"compilerOptions": {"target": "ES2022", "lib": ["ES2022", "DOM", "DOM.Iterable"], "module": "ESNext", "types": ["vite/client"], "skipLibCheck": true, "moduleResolution": "bundler",
			"allowImportingTsExtensions": true, "verbatimModuleSyntax": true, "moduleDetection": "force", "noEmit": true, "jsx": "react-jsx", "strict": true, "noUnusedLocals": true, "noUnusedParameters": true,
			"erasableSyntaxOnly": true, "noFallthroughCasesInSwitch": true, "noUncheckedSideEffectImports": true}, "include": ["src"]}`,
		"src/main.tsx": `import { createRoot } from "react-dom/client";
import { CropTag, PlotCard, Stack } from "furrow";
import "furrow/style.css";

createRoot(document.getElementById("app")!).render(
  <Stack>
    <CropTag tone="ripe" label="Ready" />
    <PlotCard title="Plot 7" />
  </Stack>,
);
`}})
	assert.Empty(t, done.Errors, "whoever installs it has errors of types")
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		path := strings.TrimPrefix(r.URL.Path, "/")
		if path == "" {
			path = "index.html"
		}
		w.Header().Set("Content-Type", map[string]string{".html": "text/html", ".js": "text/javascript", ".css": "text/css"}[filepath.Ext(path)])
		_, _ = io.WriteString(w, done.Built[path])
	}))
	defer server.Close()
	browser := reference.Browser(t, nil)
	ctx, cancel := context.WithTimeout(browser, 30*time.Second)
	defer cancel()
	_, err = chromedp.Run(ctx, chromedp.Navigate(server.URL))
	require.NoError(t, err)
	_, err = chromedp.Run(ctx, chromedp.WaitVisible("h3"))
	require.NoError(t, err)
	rendered, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](`(() => { const tag = [...document.querySelectorAll("span")].find((e) => e.textContent === "Ready"); return [tag.textContent, getComputedStyle(tag).paddingInlineStart, document.querySelector("h3").textContent]; })()`))
	require.NoError(t, err)
	assert.Equal(t, []string{"Ready", "8px", "Plot 7"}, rendered, "it is not rendered with its tokens")
}

// Pages list components by shelf, those on none last, and say of each what is known without a script.
func TestPagesAreReadWithoutAScript(t *testing.T) {
	l := furrow(t)
	l.Components[0].Shelf, l.Components[0].Version = "", ""
	l.Components[1].Shelf = "Zebra"
	l.Components[1].Contract.Deprecated = &contract.Deprecation{Instead: "Other <b>"}
	files := l.Pages()
	index := fileOf(t, files, "index.html")
	at := func(text string) int {
		i := strings.Index(index, text)
		require.GreaterOrEqual(t, i, 0, text)
		return i
	}
	assert.True(t, at("<h2>Plots</h2>") < at("<h2>Zebra</h2>") && at("<h2>Zebra</h2>") < at("<h2>On no shelf yet</h2>"), index)
	assert.Contains(t, fileOf(t, files, "components/"+contract.Slug(l.Components[0].Contract.Name)+".html"), ">draft<")
	assert.Contains(t, fileOf(t, files, "components/"+contract.Slug(l.Components[1].Contract.Name)+".html"), "<strong>Deprecated.</strong> Use Other &lt;b&gt; instead.")
}

func FuzzReadLock(f *testing.F) {
	f.Add([]byte(`{"format":"cobrik.library/1","name":"a","version":"1","components":[{"name":"A","sha256":"` + strings.Repeat("0", 64) + `"}],"tokens":[]}`))
	f.Add([]byte(`[`))
	f.Fuzz(func(t *testing.T, text []byte) {
		lock, found := publish.ReadLock("library.json", text)
		if !found.Failed() {
			assert.Equal(t, publish.LockFormat, lock.Format)
		}
	})
}
