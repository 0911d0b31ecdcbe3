package main_test

import (
	"encoding/xml"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Pages, variants and layers are drawn; what is drawn is well-formed XML.
func TestDesignDraw(t *testing.T) {
	dir := t.TempDir()
	doc := furrow + "furrow-1.design.json"
	for id, holds := range map[string]string{"": "Hollowbeck", "plots-narrow": `width="390"`, "tool-row-yes": "due on Sunday"} {
		file := filepath.Join(dir, "picture.svg")
		out, errs, ok := run(t, "design", "draw", doc, "--layer", id, "--out", file)
		require.True(t, ok, errs)
		assert.Equal(t, file+"\n", out)
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Contains(t, string(text), holds)
		var svg struct {
			XMLName xml.Name `xml:"http://www.w3.org/2000/svg svg"`
			Width   float64  `xml:"width,attr"`
		}
		require.NoError(t, xml.Unmarshal(text, &svg), id)
		assert.Positive(t, svg.Width)
	}
	// A single layer, by an id that stands in a picture.
	whole, _, ok := run(t, "design", "draw", doc)
	require.True(t, ok)
	_, rest, _ := strings.Cut(whole, `data-layer="text-`)
	id, _, _ := strings.Cut(rest, `"`)
	one, errs, ok := run(t, "design", "draw", doc, "--layer", "text-"+id)
	require.True(t, ok, errs)
	assert.Equal(t, 1, strings.Count(one, "data-layer="))
	_, errs, ok = run(t, "design", "draw", doc, "--layer", "nobody")
	assert.False(t, ok)
	assert.Contains(t, errs, "pages and variants are plots, plots-narrow")
}

// Every example of the guide is a document that is taken as it stands: what is copied from it works.
func TestTheGuidesExamplesAreTaken(t *testing.T) {
	guide, err := os.ReadFile("../../docs/how-to-export.md")
	require.NoError(t, err)
	blocks := strings.Split(string(guide), "```json\n")[1:]
	require.Len(t, blocks, 5)
	for i, block := range blocks {
		text, _, _ := strings.Cut(block, "```")
		file := filepath.Join(t.TempDir(), "shed.design.json")
		require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
		out, errs, ok := run(t, "design", "check", file)
		assert.True(t, ok, "example %d: %s%s", i+1, out, errs)
		assert.NotContains(t, out, "warning", "example %d", i+1)
		assert.Contains(t, out, "pages: ", "example %d", i+1)
	}
}

// What a file would lose is said before it is taken, with an exit that a script can read.
func TestDesignCheck(t *testing.T) {
	dir := t.TempDir()
	file := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o644))
		return path
	}
	out, _, ok := run(t, "design", "check", file("a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>x</script><path d="M0 0h9v9z" fill="url(#p)"/><pattern id="p" width="3" height="3" patternUnits="userSpaceOnUse"><path d="M0 0h1v3z"/></pattern></svg>`))
	assert.True(t, ok, out)
	assert.Contains(t, out, "warning: ")
	assert.Contains(t, out, "scripts are never kept [svg-import]")
	assert.Contains(t, out, "layers: 1 (texts: 0, kept as pictures: 1)")
	out, _, ok = run(t, "design", "check", file("b.svg", "<html/>"))
	assert.False(t, ok)
	assert.Contains(t, out, "error: ")
	log, _, ok := run(t, "design", "check", file("c.svg", "<html/>"), "--sarif")
	assert.False(t, ok)
	assert.Contains(t, log, `"ruleId": "svg-root"`)
	// What components cannot have is said of documents: here a text with a line around it.
	out, _, ok = run(t, "design", "check", file("d.json", `{"format":"cobrik.design/1","id":"d","name":"D","pages":[],"families":[{"id":"f","name":"F","axes":[],"variants":[{"id":"v","choices":{},"root":{"id":"r","name":"R","kind":"box","bounds":{"x":0,"y":0,"width":90,"height":20},"tokens":{"background-color":"no.such"},"fill":"#ffffff","children":[{"id":"t","name":"T","kind":"text","bounds":{"x":0,"y":0,"width":90,"height":20},"stroke":{"color":"#000000","width":1},"text":{"content":"hi","fontFamily":"Hanken Grotesk","fontSize":16,"fontWeight":400,"lineHeight":20}}]}}]}]}`))
	assert.True(t, ok, out)
	assert.Contains(t, out, "a line around it")
	out, _, ok = run(t, append([]string{"design", "check", filepath.Join(dir, "d.json")}, tokens...)...)
	assert.False(t, ok, "a binding to a token that is not there, once there are tokens")
	assert.Contains(t, out, "no.such")
}
