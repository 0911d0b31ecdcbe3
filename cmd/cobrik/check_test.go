package main_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
)

// What a contract is checked for: in every theme, with an exit that a script can read; what is
// mechanical is mended in the file.
func TestContractsAreChecked(t *testing.T) {
	dir := t.TempDir()
	resolver := []string{"--resolver", furrow + "furrow.resolver.json"}
	draft := func(revision, family string) string {
		text, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-" + revision + ".design.json", "--family", family}, resolver...)...)
		require.True(t, ok, errs)
		file := filepath.Join(dir, family+revision+".json")
		require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
		return file
	}
	good, dark := draft("1", "ActionButton"), draft("2", "CropTag")
	out, errs, ok := run(t, append([]string{"contract", "check", good}, resolver...)...)
	assert.True(t, ok, out)
	assert.Empty(t, errs)
	out, _, ok = run(t, append([]string{"contract", "check", good, dark}, resolver...)...)
	assert.False(t, ok, "errors, and a script goes on")
	assert.Regexp(t, `(?m)^error: .*CropTag2\.json:\d+:\d+: label has a contrast of 1\.07, tone = ripe, theme=dusk.*\[contrast\]$`, out)
	log, _, ok := run(t, append([]string{"contract", "check", dark, "--sarif"}, resolver...)...)
	assert.False(t, ok)
	assert.True(t, json.Valid([]byte(log)))
	assert.Contains(t, log, `"ruleId": "contrast"`)

	text, err := os.ReadFile(good)
	require.NoError(t, err)
	c, found := contract.Read("c", text, nil)
	require.NotNil(t, c, found)
	c.Root.Children = append(c.Root.Children, &contract.Part{ID: "dot", Name: "dot", Element: "span", Style: contract.Style{"position": "absolute"}})
	require.NoError(t, os.WriteFile(good, c.JSON(), 0o644))
	out, _, ok = run(t, append([]string{"contract", "check", good}, resolver...)...)
	assert.False(t, ok)
	assert.Contains(t, out, "[absolute-parent]")
	out, errs, ok = run(t, append([]string{"contract", "check", good, "--fix"}, resolver...)...)
	assert.True(t, ok, out)
	assert.Equal(t, "mended: 1\n", errs)
	text, err = os.ReadFile(good)
	require.NoError(t, err)
	assert.Contains(t, string(text), `"position": "relative"`)
	out, errs, _ = run(t, append([]string{"contract", "check", good, "--fix"}, resolver...)...)
	assert.Empty(t, errs, "it is mended again: %s", out)

	_, errs, ok = run(t, "contract", "check", filepath.Join(dir, "nobody.json"))
	assert.False(t, ok)
	assert.Contains(t, errs, "nobody.json")
}
