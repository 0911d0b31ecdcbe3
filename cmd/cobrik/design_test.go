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
