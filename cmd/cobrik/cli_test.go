package main_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var binary string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "cobrik-cli-")
	if err == nil {
		binary = filepath.Join(dir, "cobrik")
		var out []byte
		if out, err = exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
			os.Stderr.Write(out)
		}
	}
	code := 1
	if err == nil {
		code = m.Run()
	}
	_ = os.RemoveAll(dir) // a left-over in the temporary folder hurts nobody
	os.Exit(code)
}

const furrow = "../../demo/furrow/"

func run(t *testing.T, args ...string) (stdout, stderr string, ok bool) {
	t.Helper()
	var out, errs strings.Builder
	cmd := exec.Command(binary, args...)
	cmd.Stdout, cmd.Stderr = &out, &errs
	cmd.Env = append(os.Environ(), "DATABASE_URL=postgres://nowhere.invalid/none") // none of these may need it
	err := cmd.Run()
	return out.String(), errs.String(), err == nil
}

var tokens = []string{"--tokens", furrow + "core.tokens.json", "--tokens", furrow + "semantic.tokens.json"}

func TestFromDesignToCodeWithoutADatabase(t *testing.T) {
	dir := t.TempDir()
	drafted, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-1.design.json", "--family", "CropTag"}, tokens...)...)
	require.True(t, ok, errs)
	assert.Empty(t, errs)
	file := filepath.Join(dir, "crop-tag.json")
	require.NoError(t, os.WriteFile(file, []byte(drafted), 0o644))
	out, errs, ok := run(t, append([]string{"emit", file, "--target", "react", "--out", filepath.Join(dir, "src")}, tokens...)...)
	require.True(t, ok, errs)
	for _, name := range []string{"CropTag.tsx", "CropTag.module.css", "tokens.css", "index.ts", "package.json", "tsconfig.json"} {
		assert.Contains(t, out, name)
		assert.FileExists(t, filepath.Join(dir, "src", name))
	}
	bar, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-3.design.json", "--layer", "plots-bar-1", "--name", "ShedBar"}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, bar, `"justify-content": "space-between"`)
	assert.Contains(t, bar, `"name": "ShedBar"`)
	out, errs, ok = run(t, "tokens", "build", furrow+"core.tokens.json", furrow+"semantic.tokens.json", "--out", dir)
	require.True(t, ok, errs)
	assert.Contains(t, out, "tokens.css")
	sheet, err := os.ReadFile(filepath.Join(dir, "tokens.css"))
	require.NoError(t, err)
	assert.Contains(t, string(sheet), "--page-ground: var(--soil-50);")
}

// A folder of contracts is a library: components find those that they use, among them or beside
// them.
func TestAFolderOfContractsBecomesALibrary(t *testing.T) {
	dir := t.TempDir()
	out, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-3.design.json", "--all", "--out", dir}, tokens...)...)
	require.True(t, ok, errs)
	assert.Equal(t, 14, strings.Count(out, ".contract.json\n"))
	card := filepath.Join(dir, "plot-card.contract.json")
	out, errs, ok = run(t, append([]string{"contract", "check", dir}, tokens...)...)
	assert.True(t, ok, out+errs)
	out, errs, ok = run(t, append([]string{"emit", dir, "--out", filepath.Join(dir, "lib"), "--name", "furrow"}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, filepath.Join("PlotCard", "PlotCard.tsx"))
	assert.Equal(t, 1, strings.Count(out, "tokens.css"))
	code, err := os.ReadFile(filepath.Join(dir, "lib", "PlotCard", "PlotCard.tsx"))
	require.NoError(t, err)
	assert.Contains(t, string(code), `import { CropTag } from "../CropTag";`)
	out, errs, ok = run(t, append([]string{"emit", card, "--out", filepath.Join(dir, "one")}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, filepath.Join("one", "CropTag", "CropTag.tsx"), "what stands beside it is found")
	out, errs, ok = run(t, append([]string{"layout", "solve", card, "--width", "320"}, tokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, "tag/label")

	alone := filepath.Join(t.TempDir(), "card.json")
	text, err := os.ReadFile(card)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(alone, text, 0o644))
	_, errs, ok = run(t, append([]string{"emit", alone}, tokens...)...)
	assert.False(t, ok)
	assert.Contains(t, errs, "there is no component CropTag")
	require.NoError(t, os.WriteFile(filepath.Join(filepath.Dir(alone), "tag.json"), []byte(strings.NewReplacer(`"PlotCard"`, `"CropTag"`, `"CropTag"`, `"PlotCard"`).Replace(string(text))), 0o644))
	_, errs, ok = run(t, append([]string{"contract", "check", filepath.Dir(alone)}, tokens...)...)
	assert.False(t, ok)
	assert.Contains(t, errs, "would be made of itself: ")
	_, errs, ok = run(t, append([]string{"emit", t.TempDir()}, tokens...)...)
	assert.False(t, ok)
	assert.Contains(t, errs, "holds no contracts")
}

func TestMistakesAreToldWithWhatToDo(t *testing.T) {
	broken := filepath.Join(t.TempDir(), "broken.json")
	require.NoError(t, os.WriteFile(broken, []byte("{\n  \"format\": \"cobrik.design/1\",\n"), 0o644))
	for name, c := range map[string]struct {
		args []string
		says string
	}{
		"unknown family":  {[]string{"contract", "draft", furrow + "furrow-1.design.json", "--family", "Nope"}, "it has CropTag, ToolRow"},
		"no family":       {[]string{"contract", "draft", furrow + "furrow-1.design.json"}, "at least one of the flags in the group [family layer all] is required"},
		"unknown layer":   {[]string{"contract", "draft", furrow + "furrow-1.design.json", "--layer", "nope"}, `no layer "nope"`},
		"use of a family": {[]string{"contract", "draft", furrow + "furrow-3.design.json", "--layer", "plots-use-11"}, "a use of the family crop-tag"},
		"no such file":    {[]string{"contract", "draft", "nowhere.json", "--family", "X"}, "no such file"},
		"truncated":       {[]string{"contract", "draft", broken, "--family", "X"}, "broken.json:3:1: the file ends in the middle of a value"},
		"tokens missing":  {[]string{"contract", "draft", furrow + "furrow-1.design.json", "--family", "CropTag"}, "is bound to tag."},
		"unknown target":  {[]string{"emit", broken, "--target", "cobol"}, "use react"},
		"unknown output":  {[]string{"tokens", "build", furrow + "core.tokens.json", "--output", "cobol"}, "there are tokens.css"},
		"not held":        {[]string{"tokens", "build", furrow + "core.tokens.json", "--output", "kotlin", "--lengths", "rem"}, "Lengths cannot be rem in Kotlin"},
		"dangling alias":  {[]string{"tokens", "build", furrow + "semantic.tokens.json"}, "points at a token that is not there"},
	} {
		out, errs, ok := run(t, c.args...)
		assert.False(t, ok, "%s: exits as if all were well", name)
		assert.Empty(t, out, name)
		assert.Contains(t, errs, c.says, name)
	}
}

func TestHelpExplainsEachCommand(t *testing.T) {
	for _, args := range [][]string{{"help"}, {"help", "tokens", "build"}, {"help", "contract", "draft"}, {"help", "emit"}, {"help", "serve"}, {"help", "demo"}} {
		out, _, ok := run(t, args...)
		assert.True(t, ok)
		assert.Contains(t, out, "Usage:")
	}
}

// With a resolver document, or a project file that names it, contracts are drafted, emitted
// and laid out in the project's tokens: all themes, the project's own names.
func TestContractsFindTheProjectsTokens(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"core.tokens.json", "semantic.tokens.json", "dusk.tokens.json", "contrast.tokens.json", "furrow.resolver.json", "furrow-1.design.json"} {
		text, err := os.ReadFile(furrow + name)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), text, 0o644))
	}
	in := func(args ...string) (string, string, bool) {
		var out, errs strings.Builder
		cmd := exec.Command(binary, args...)
		cmd.Dir, cmd.Stdout, cmd.Stderr = dir, &out, &errs
		err := cmd.Run()
		return out.String(), errs.String(), err == nil
	}
	all := []string{"--resolver", "furrow.resolver.json"}
	drafted, errs, ok := in(append([]string{"contract", "draft", "furrow-1.design.json", "--family", "CropTag"}, all...)...)
	require.True(t, ok, errs)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "crop-tag.json"), []byte(drafted), 0o644))
	_, errs, ok = in(append([]string{"emit", "crop-tag.json", "--out", "a"}, all...)...)
	require.True(t, ok, errs)
	sheet, err := os.ReadFile(filepath.Join(dir, "a", "tokens.css"))
	require.NoError(t, err)
	assert.Contains(t, string(sheet), `:where([data-theme="dusk"])`, "a theme is not emitted")
	assert.NotRegexp(t, `(?m)^:root`, string(sheet), "the component's tokens would un-theme the page")

	project := `{"format": "cobrik.project/1", "tokens": {"files": ["core.tokens.json", "semantic.tokens.json"], "resolver": "furrow.resolver.json",
		"outputs": [{"file": "tokens.css", "language": "css", "prefix": "hb"}]}}`
	require.NoError(t, os.WriteFile(filepath.Join(dir, "cobrik.json"), []byte(project), 0o644))
	again, errs, ok := in("contract", "draft", "furrow-1.design.json", "--family", "CropTag")
	require.True(t, ok, errs)
	assert.Equal(t, drafted, again)
	_, errs, ok = in("emit", "crop-tag.json", "--out", "b")
	require.True(t, ok, errs)
	module, err := os.ReadFile(filepath.Join(dir, "b", "CropTag.module.css"))
	require.NoError(t, err)
	assert.Contains(t, string(module), "var(--hb-tag-growing-ground)", "tokens are not named as the project names them")
	assert.NotContains(t, string(module), "var(--tag-")
	dusk, errs, ok := in("layout", "solve", "crop-tag.json", "--theme", "theme=dusk")
	require.True(t, ok, errs)
	assert.Contains(t, dusk, "label")
	_, errs, ok = in("layout", "solve", "crop-tag.json", "--theme", "theme=noon")
	assert.False(t, ok)
	assert.Contains(t, errs, "noon")
}
