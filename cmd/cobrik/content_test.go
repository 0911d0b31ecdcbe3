package main_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestContentIsLookedAtBeforeItIsShown(t *testing.T) {
	dir := t.TempDir()
	put := func(name, text string) string {
		file := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
		return file
	}
	drafted, errs, ok := run(t, append([]string{"contract", "draft", furrow + "furrow-1.design.json", "--all", "--out", dir}, tokens...)...)
	require.True(t, ok, errs+drafted)
	card := filepath.Join(dir, "plot-card.contract.json")
	plots := put("plots.json", `[{"title":"Plot 41","holder":"Ines","tone":"ripe","picture":{"src":"/a.svg","alt":"A bed","width":4,"height":3},"goneToSeed":false},{"title":"Plot **7**","holder":"","tone":"gone"}]`)
	out, errs, ok := run(t, append([]string{"content", plots, "--component", card}, tokens...)...)
	assert.False(t, ok, "marks are lost, and nobody is told")
	assert.Empty(t, errs)
	assert.Contains(t, out, "title is plain text, and would lose strong in 1 of 2 records.")
	assert.Contains(t, out, "tone takes no gone, in 1 of 2 records.")
	out, _, _ = run(t, append([]string{"content", plots, "--component", card, "--json"}, tokens...)...)
	var said struct {
		Records  int
		Fields   []struct{ Path, Kind string }
		Bindings map[string]struct{ Field string }
		Warnings []struct{ Prop, Loss string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &said))
	assert.Equal(t, 2, said.Records)
	assert.Equal(t, "title", said.Bindings["title"].Field)

	beds := put("beds.csv", "name,soil\r\nNorth,loam\r\n")
	out, errs, ok = run(t, "content", beds)
	require.True(t, ok, errs)
	assert.Contains(t, out, "name   text   0 of 1   1          North")
	schema := put("schema.json", `{"items":{"required":["depth"]}}`)
	_, errs, ok = run(t, "content", beds, "--schema", schema)
	assert.False(t, ok)
	assert.Contains(t, errs, "missing depth")
	_, errs, ok = run(t, "content", put("bad.csv", "a,b\r\n1\r\n"))
	assert.False(t, ok)
	assert.Contains(t, errs, "line 2 has 1 fields, and there are 2 names")
}
