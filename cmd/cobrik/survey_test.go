package main_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const looseCards = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="300">
<rect id="a" x="20" y="20" width="200" height="120" fill="#fff"/><text id="a-name" x="32" y="50" font-size="18">Spade</text><text id="a-price" x="32" y="80" font-size="13">12 kr</text>
<rect id="b" x="260" y="20" width="200" height="120" fill="#fff"/><text id="b-name" x="272" y="50" font-size="18">Rake</text><text id="b-price" x="272" y="80" font-size="13">9 kr</text>
<rect id="c" x="500" y="20" width="200" height="120" fill="#fff"/><text id="c-name" x="512" y="50" font-size="18">Watering can</text><text id="c-price" x="512" y="80" font-size="13">30 kr</text>
<g id="Group 14"><rect id="d" x="20" y="200" width="60" height="60" fill="#ddd"/><circle id="e" cx="140" cy="230" r="30" fill="#888"/></g></svg>`

// When this fails, what a survey found cannot be read by another program, or a build does not stop at what it was told to.
func TestSurveyOfAFile(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "shed.svg")
	require.NoError(t, os.WriteFile(file, []byte(looseCards), 0o600))

	out, _, ok := run(t, "survey", file, "--json")
	require.True(t, ok)
	var got struct {
		Finds []struct {
			ID, Kind string
			Members  []string
			Likeness float64
			Props    []struct {
				Name, Kind string
				Values     map[string]any
			}
			Nearest []map[string]any
		}
		Doubts []struct{ Rule, Layer, Message string }
		Order  []struct {
			Name string
			Of   []string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	require.Len(t, got.Finds, 1)
	assert.Equal(t, []string{"a", "b", "c"}, got.Finds[0].Members)
	assert.InDelta(t, 1, got.Finds[0].Likeness, 1e-9)
	require.Len(t, got.Finds[0].Props, 2)
	assert.Equal(t, map[string]any{"a": "Spade", "b": "Rake", "c": "Watering can"}, got.Finds[0].Props[0].Values)
	assert.True(t, slices.ContainsFunc(got.Doubts, func(d struct{ Rule, Layer, Message string }) bool {
		return d.Rule == "layer-name" && d.Layer == "Group-14"
	}), got.Doubts)
	require.Len(t, got.Order, 2)
	assert.Equal(t, []string{got.Finds[0].ID}, got.Order[1].Of)

	out, _, ok = run(t, "survey", file)
	require.True(t, ok)
	assert.Contains(t, out, "title (text), text (text)")
	assert.Contains(t, out, "“Group 14” holds 2 layers")

	_, _, ok = run(t, "survey", file, "--fail-on", "layer-name,copy-lost")
	assert.False(t, ok)
	_, _, ok = run(t, "survey", file, "--fail-on", "copy-lost")
	assert.True(t, ok)
	_, _, ok = run(t, "survey", file, "--fail-on", "layer-name", "--off", "layer-name")
	assert.True(t, ok, "a rule that is off has no doubt")
	_, errors, ok := run(t, "survey", file, "--fail-on", "layer-nam")
	assert.False(t, ok)
	assert.Contains(t, errors, `there is no rule "layer-nam"; the rules are copy-lost,`)

	for _, name := range []string{"questions.md", "questions.html"} {
		_, _, ok = run(t, "survey", file, "--questions", filepath.Join(dir, name))
		require.True(t, ok)
		page, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		assert.Contains(t, string(page), "Group 14")
	}
	_, errors, ok = run(t, "survey", file, "--questions", filepath.Join(dir, "questions.pdf"))
	assert.False(t, ok)
	assert.Contains(t, errors, "written as .md or .html")
}

// When this fails, a find is not held against the contracts that are there.
func TestSurveyAgainstContracts(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "shed.svg")
	require.NoError(t, os.WriteFile(file, []byte(looseCards), 0o600))
	require.NoError(t, os.Mkdir(filepath.Join(dir, "contracts"), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "contracts", "price.json"), []byte(`{"format":"cobrik.contract/1","name":"PriceTag","props":[{"id":"name","name":"name","kind":"text","default":"Spade"},{"id":"price","name":"price","kind":"text","default":"1 kr"}],"root":{"id":"root","name":"root","element":"div","children":[{"id":"name","name":"name","element":"p","text":"name"},{"id":"price","name":"price","element":"p","text":"price"}]},"rules":[]}`), 0o600))
	out, errors, ok := run(t, "survey", file, "--contracts", filepath.Join(dir, "contracts"))
	require.True(t, ok, errors)
	assert.Contains(t, out, "PriceTag 1.00")
}
