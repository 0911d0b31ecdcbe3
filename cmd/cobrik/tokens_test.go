package main_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	furrowTokens   = []string{furrow + "core.tokens.json", furrow + "semantic.tokens.json"}
	furrowResolver = furrow + "furrow.resolver.json"
)

func put(t *testing.T, dir, name, text string) string {
	t.Helper()
	file := filepath.Join(dir, name)
	require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
	return file
}

func TestTokensCheck(t *testing.T) {
	out, errs, ok := run(t, append([]string{"tokens", "check", "--resolver", furrowResolver}, furrowTokens...)...)
	require.True(t, ok, errs)
	assert.Contains(t, out, "0 errors")
	dir := t.TempDir()
	bad := put(t, dir, "bad.json", `{"a":{"$value":"{b}"},"b":{"$value":"{a}"},"c":{"$type":"dimension","$value":"4px"}}`)
	out, errs, ok = run(t, "tokens", "check", bad, "--json")
	assert.False(t, ok, "an error has to fail a build")
	assert.Empty(t, errs)
	var got struct {
		Errors, Warnings int
		Problems         []map[string]any
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, [2]int{1, 1}, [2]int{got.Errors, got.Warnings})
	assert.Equal(t, "token-cycle", got.Problems[0]["rule"])
	for _, member := range []string{"file", "line", "column", "pointer", "message", "fix"} {
		assert.NotEmpty(t, got.Problems[0][member], member)
	}
}

func TestTokensResolve(t *testing.T) {
	out, errs, ok := run(t, append([]string{"tokens", "resolve", "--resolver", furrowResolver, "--theme", "theme=dusk", "--json"}, furrowTokens...)...)
	require.True(t, ok, errs)
	var got map[string]struct {
		Type  string
		Value any
		Chain []string
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, []string{"page.ink", "soil.100"}, got["card.ink"].Chain)
	assert.Equal(t, "color", got["card.ink"].Type)
	assert.Equal(t, got["soil.100"].Value, got["card.ink"].Value)
	assert.NotContains(t, out, `"{`, "a reference is left in a resolved value")
	out, errs, ok = run(t, "tokens", "themes", "--resolver", furrowResolver)
	require.True(t, ok, errs)
	assert.Equal(t, "theme=day\ntheme=dusk\ntheme=contrast\n", out)
	_, errs, ok = run(t, append([]string{"tokens", "resolve", "--resolver", furrowResolver, "--theme", "theme=night"}, furrowTokens...)...)
	assert.False(t, ok)
	assert.Contains(t, errs, "choose one of day, dusk, contrast")
}

func TestTokensBuildTakesItsOptions(t *testing.T) {
	dir := t.TempDir()
	built := func(args ...string) string {
		_, errs, ok := run(t, append(append([]string{"tokens", "build", "--out", dir}, args...), furrowTokens...)...)
		require.True(t, ok, errs)
		text, err := os.ReadFile(filepath.Join(dir, "tokens.css"))
		require.NoError(t, err)
		return string(text)
	}
	assert.Contains(t, built(), "--space-4: 16px;")
	assert.Contains(t, built("--lengths", "rem"), "--space-4: 1rem;")
	assert.Contains(t, built("--lengths", "rem", "--root", "10"), "--space-4: 1.6rem;")
	assert.Contains(t, built("--colors", "oklch"), "--leaf-500: oklch(0.62 0.12 148);")
	assert.Contains(t, built(), "--page-ground: var(--soil-50);")
	assert.Contains(t, built("--references", "followed"), "--page-ground: #faf7f2;")
	themed := built("--resolver", furrowResolver)
	assert.Contains(t, themed, `[data-theme="dusk"] {`)
	assert.Contains(t, themed, "@media (prefers-color-scheme: dark) {")
	assert.Contains(t, built("--resolver", furrowResolver, "--theme", "theme=dusk"), "--page-ground: var(--soil-950);")
	assert.NotContains(t, built("--resolver", furrowResolver, "--theme", "theme=dusk"), "data-theme")
	assert.Contains(t, built("--register"), "@property --space-4 {")
	assert.Contains(t, built("--prefix", "fr", "--names", "capitals", "--whole"), "--frSpace4: 16px;")
	assert.NotContains(t, built("--without", "space,leaf"), "--space-4")
	assert.NotContains(t, built("--only", "space"), "--leaf-500")
	assert.NotContains(t, built("--references", "followed"), "var(")
	_, errs, ok := run(t, append([]string{"tokens", "build", "--colors", "cmyk", "--out", dir}, furrowTokens...)...)
	assert.False(t, ok)
	assert.Contains(t, errs, "write one of hex, rgb, hsl, oklch, written")
}

// A repository with a cobrik.json: nothing need be said.
func TestTheProjectFileSaysItAll(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"core.tokens.json", "semantic.tokens.json", "dusk.tokens.json", "contrast.tokens.json", "furrow.resolver.json"} {
		text, err := os.ReadFile(furrow + name)
		require.NoError(t, err)
		put(t, dir, name, string(text))
	}
	put(t, dir, "cobrik.json", `{"format":"cobrik.project/1","tokens":{"files":["core.tokens.json"],"resolver":"furrow.resolver.json","out":"made",
	  "outputs":[{"file":"web.css","language":"css","lengths":"rem","root":10},{"file":"web.json","language":"json"}]}}`)
	cmd := exec.Command(binary, "tokens", "build")
	cmd.Dir = dir
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	assert.Equal(t, "made/web.css\nmade/web.json\nmade/web.dusk.json\nmade/web.contrast.json\n", filepath.ToSlash(string(out)))
	css, err := os.ReadFile(filepath.Join(dir, "made", "web.css"))
	require.NoError(t, err)
	assert.Contains(t, string(css), "--space-4: 1.6rem;")
	put(t, dir, "cobrik.json", `{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a.css","language":"css","lengths":"ell"}]}}`)
	cmd = exec.Command(binary, "tokens", "build")
	cmd.Dir = dir
	out, err = cmd.CombinedOutput()
	require.Error(t, err)
	assert.Contains(t, string(out), "ell")
}

// A further theme's file and another output's of the same name: neither takes the other's place.
func TestTwoOutputsOfOneFileAreRefused(t *testing.T) {
	dir := t.TempDir()
	out, errs, ok := run(t, "tokens", "build", "--project", put(t, dir, "cobrik.json", `{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"web.json","language":"json"},{"file":"web.dusk.json","language":"json"}]}}`),
		"--resolver", furrowResolver, "--out", dir, furrowTokens[0], furrowTokens[1])
	assert.False(t, ok, out)
	assert.Contains(t, errs, "two outputs are written to web.dusk.json")
	assert.NoFileExists(t, filepath.Join(dir, "web.json"))
}

func TestTokensFormatRewritesInPlace(t *testing.T) {
	file := put(t, t.TempDir(), "old.json", `{"gap":{"value":"4px","type":"dimension"}}`)
	out, errs, ok := run(t, "tokens", "format", file)
	require.True(t, ok, errs)
	assert.Equal(t, file+"\n", out)
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "{\n  \"gap\": { \"$value\": { \"value\": 4, \"unit\": \"px\" }, \"$type\": \"dimension\" }\n}\n", string(text))
	out, _, ok = run(t, "tokens", "format", file)
	assert.True(t, ok)
	assert.Empty(t, out, "nothing more to change")
}

func TestColors(t *testing.T) {
	cmd := exec.Command(binary, "color", "convert", "--to", "oklch")
	cmd.Stdin = strings.NewReader("green\n\nrgb(0 0 0 / 50%)\n")
	out, err := cmd.Output()
	require.NoError(t, err)
	assert.Equal(t, "oklch(0.51975 0.17686 142.4953)\n\noklch(0 0 none / 0.5)\n", string(out))
	cmd = exec.Command(binary, "color", "convert", "--to", "hex")
	cmd.Stdin = strings.NewReader("lab(46.2775% -47.5621 48.5837)\nnothing\n#fff\n")
	out, err = cmd.Output()
	require.Error(t, err)
	assert.Equal(t, "#008000\n\n#ffffff\n", string(out), "the other lines stay in step")
	for _, c := range [][4]string{{"contrast", "#767676", "#fff", "4.5422\n"}, {"contrast", "#777", "white", "4.4781\n"}, {"difference", "#fff", "#fff", "0.0000\n"},
		{"difference", "lab(50 2.6772 -79.7751)", "lab(50 0 -82.7485)", "2.0425\n"}} {
		got, errs, ok := run(t, "color", c[0], c[1], c[2])
		require.True(t, ok, errs)
		assert.Equal(t, c[3], got, c)
	}
	_, errs, ok := run(t, "color", "convert", "--to", "cmyk")
	assert.False(t, ok)
	assert.Contains(t, errs, `no colour form "cmyk"`)
}
