package token_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
)

// What drafts before 2025.10 wrote: strings for dimensions and durations, hex
// colours, keys without the dollar sign.
const olderDraft = `{
  "space": { "type": "dimension", "description": "Steps",
    "2": { "value": "8px" },
    "half": { "$value": "0.5rem" } },
  "ink": { "value": "#3f3325", "type": "color", "description": "Text" },
  "veil": { "$type": "color", "$value": "#3f332580" },
  "calm": { "$type": "duration", "$value": "120ms" },
  "brisk": { "$type": "duration", "$value": ".1s" },
  "strong": { "$type": "fontWeight", "$value": 650 },
  "lift": { "type": "shadow", "value": { "color": "#00000033", "offsetX": "0px", "offsetY": "{space.2}", "blur": "2px", "spread": "0px" } },
  "keep": { "$type": "number", "$value": 1, "$extensions": { "x": { "value": "8px" } } }
}`

func TestOlderDraftsAreReadWithANote(t *testing.T) {
	set, found := read(t, olderDraft)
	require.False(t, found.Failed(), found)
	for path, want := range map[string]string{"space.2": "8px", "space.half": "0.5rem", "ink": "#3f3325", "veil": "#3f332580", "calm": "120ms",
		"brisk": "0.1s", "strong": "650", "lift": "0px 8px 2px 0px #00000033"} {
		require.NotNil(t, set.Get(path), path)
		assert.Equal(t, want, set.Get(path).Value, path)
	}
	assert.Equal(t, "Text", set.Get("ink").Description)
	notes := 0
	for _, p := range found {
		require.Equal(t, "token-older", p.Rule, p)
		assert.Positive(t, p.Line)
		notes++
	}
	assert.Equal(t, 15, notes)
	assert.Contains(t, found.Error(), `{ "value": 8, "unit": "px" }`, "the note says what would be written today")
}

// tokens format: today's form, in order, the same values, and nothing left to note.
func TestFormatWritesTodaysForm(t *testing.T) {
	today, found := token.Format(token.File{Name: "old", Text: []byte(olderDraft)})
	require.Empty(t, found)
	assert.Equal(t, `{
  "space": {
    "$type": "dimension",
    "$description": "Steps",
    "2": { "$value": { "value": 8, "unit": "px" } },
    "half": { "$value": { "value": 0.5, "unit": "rem" } }
  },
  "ink": {
    "$value": { "colorSpace": "srgb", "components": [0.24706, 0.2, 0.1451], "hex": "#3f3325" },
    "$type": "color",
    "$description": "Text"
  },
  "veil": {
    "$type": "color",
    "$value": { "colorSpace": "srgb", "components": [0.24706, 0.2, 0.1451], "alpha": 0.502, "hex": "#3f3325" }
  },
  "calm": { "$type": "duration", "$value": { "value": 120, "unit": "ms" } },
  "brisk": { "$type": "duration", "$value": { "value": 0.1, "unit": "s" } },
  "strong": { "$type": "fontWeight", "$value": 650 },
  "lift": {
    "$type": "shadow",
    "$value": {
      "color": { "colorSpace": "srgb", "components": [0, 0, 0], "alpha": 0.2, "hex": "#000000" },
      "offsetX": { "value": 0, "unit": "px" },
      "offsetY": "{space.2}",
      "blur": { "value": 2, "unit": "px" },
      "spread": { "value": 0, "unit": "px" }
    }
  },
  "keep": { "$type": "number", "$value": 1, "$extensions": { "x": { "value": "8px" } } }
}
`, string(today))
	before, _ := read(t, olderDraft)
	after, found := read(t, string(today))
	require.Empty(t, found)
	for _, tok := range before.All() {
		assert.Equal(t, tok.Value, after.Get(tok.Path).Value, tok.Path)
	}
	again, _ := token.Format(token.File{Name: "new", Text: today})
	assert.Equal(t, string(today), string(again))
}
