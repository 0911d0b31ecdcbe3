package token_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
	"cobrik/core/token"
)

const furrow = `{
  "space": {
    "$type": "dimension",
    "1": { "$value": { "value": 4, "unit": "px" } },
    "2": { "$value": { "value": 0.5, "unit": "rem" } }
  },
  "soil": {
    "$type": "color",
    "700": { "$value": { "colorSpace": "srgb", "components": [0.29, 0.22, 0.15], "hex": "#4a3826" } },
    "veil": { "$value": { "colorSpace": "oklch", "components": [0.51975, 0.17686, 142.495], "alpha": 0.5 } },
    "old": { "$value": "#4a7c59", "$deprecated": "use 700" }
  },
  "tag": {
    "pad": { "$value": "{space.2}", "$description": "Room inside a tag" },
    "ink": { "$value": "{tag.inkBase}" },
    "inkBase": { "$value": "{soil.700}" }
  },
  "type": {
    "body": { "$type": "fontFamily", "$value": ["Hanken Grotesk", "sans-serif"] },
    "strong": { "$type": "fontWeight", "$value": "semi-bold" },
    "calm": { "$type": "duration", "$value": { "value": 120, "unit": "ms" } }
  }
}`

// withoutPositions leaves out that a gradient's position was clamped.
func withoutPositions(found problem.List) problem.List {
	return slices.DeleteFunc(slices.Clone(found), func(p problem.Problem) bool { return p.Rule == "token-position" })
}

func read(t *testing.T, texts ...string) (*token.Set, problem.List) {
	t.Helper()
	var files []token.File
	for i, text := range texts {
		files = append(files, token.File{Name: string(rune('a'+i)) + ".tokens.json", Text: []byte(text)})
	}
	return token.Read(files...)
}

// Format Module 2025.10: 5 (groups), 6.3 (type inheritance), 7 (aliases), 8 (types).
func TestReadResolvesTypesAndAliases(t *testing.T) {
	set, found := read(t, furrow)
	require.False(t, found.Failed(), found)
	for path, want := range map[string][2]string{
		"space.1":     {"dimension", "4px"},
		"space.2":     {"dimension", "0.5rem"},
		"soil.700":    {"color", "#4a3826"},
		"soil.veil":   {"color", "#00800080"}, // CSS Color 4: oklch(51.975% 0.17686 142.495) is #008000
		"soil.old":    {"color", "#4a7c59"},
		"tag.pad":     {"dimension", "0.5rem"},
		"tag.ink":     {"color", "#4a3826"},
		"type.body":   {"fontFamily", `"Hanken Grotesk", sans-serif`},
		"type.strong": {"fontWeight", "600"},
		"type.calm":   {"duration", "120ms"},
	} {
		got := set.Get(path)
		require.NotNil(t, got, path)
		assert.Equal(t, want, [2]string{got.Type, got.Value}, path)
	}
	assert.Equal(t, []string{"tag.inkBase", "soil.700"}, set.Get("tag.ink").Chain())
	assert.Equal(t, "use 700", set.Get("soil.old").Deprecated)
	assert.Equal(t, "Room inside a tag", set.Get("tag.pad").Description)
}

func TestALaterFileReplacesATokenAndItsAliasesFollow(t *testing.T) {
	set, found := read(t, furrow, `{"soil":{"700":{"$type":"color","$value":"#000000"}}}`)
	require.False(t, found.Failed(), found)
	assert.Equal(t, "#000000", set.Get("tag.ink").Value, "a theme file could not re-point a core colour")
	assert.Equal(t, "space.1", set.All()[0].Path)
}

// Each problem names its place and, for aliases, the whole chain.
func TestReadReportsEveryProblemWithItsPlace(t *testing.T) {
	for name, c := range map[string]struct{ text, rule, says, pointer string }{
		"unknown":        {`{"a":{"$type":"color","$value":"{b}"},"b":{"$value":"{space.9}"}}`, "token-unknown", "a → b → space.9", "/b/$value"},
		"cycle":          {`{"a":{"$value":"{b}"},"b":{"$value":"{c}"},"c":{"$value":"{a}"}}`, "token-cycle", "a → b → c → a", "/a/$value"},
		"self":           {`{"a":{"$value":"{a}"}}`, "token-cycle", "a → a", "/a/$value"},
		"type mismatch":  {`{"a":{"$type":"dimension","$value":"{b}"},"b":{"$type":"color","$value":"#000"}}`, "token-alias-type", "a is of type dimension but the alias ends at b, of type color", "/a/$value"},
		"no type":        {`{"a":{"$value":4}}`, "token-type", "a has no type", "/a/$value"},
		"bad colour":     {`{"a":{"$type":"color","$value":{"colorSpace":"srgb","components":[1,2]}}}`, "token-value", "three numbers", "/a/$value"},
		"bad alpha":      {`{"a":{"$type":"color","$value":{"colorSpace":"srgb","components":[1,1,1],"alpha":7}}}`, "token-value", "alpha goes from 0 to 1", "/a/$value"},
		"unknown space":  {`{"a":{"$type":"color","$value":{"colorSpace":"cmyk","components":[1,1,1]}}}`, "token-value", `"cmyk" is not one of the standard's`, "/a/$value/colorSpace"},
		"bad unit":       {`{"a":{"$type":"dimension","$value":{"value":4,"unit":"pt"}}}`, "token-value", `"px" or "rem"`, "/a/$value"},
		"forbidden name": {`{"a.b":{"$type":"number","$value":1}}`, "token-name", `"a.b"`, "/a.b"},
		"nested":         {`{"a":{"$type":"number","$value":1,"b":{}}}`, "token-nested", "holds another token", "/a/b"},
		"same css name":  {`{"$type":"number","a-b":{"$value":1},"a":{"b":{"$value":2}}}`, "token-css-name", "--a-b", "/a/b"},
		"not an object":  {`{"a":4}`, "token-shape", "object", "/a"},
		"unknown type":   {`{"a":{"$type":"sound","$value":4}}`, "token-kind", `no type "sound"`, "/a/$type"},
	} {
		t.Run(name, func(t *testing.T) {
			_, found := read(t, c.text)
			require.NotEmpty(t, found)
			assert.Equal(t, c.rule, found[0].Rule)
			assert.Contains(t, found[0].Message, c.says)
			assert.Equal(t, c.pointer, found[0].Pointer)
			assert.Equal(t, "a.tokens.json", found[0].File)
			assert.Equal(t, 1, found[0].Line)
			assert.Positive(t, found[0].Column, "the person could not jump to the place")
		})
	}
}

func TestBadTextIsRefusedWithLineAndColumn(t *testing.T) {
	for text, says := range map[string]string{
		"{\n  \"a\": {\n":       "ends in the middle",
		"{\n\"a\": 1,}":         "not valid JSON",
		"{\"a\":{},\n\"a\":{}}": "stands twice",
		"":                      "empty",
		"{} {}":                 "more text",
		strings.Repeat(`{"a":`, 70) + "1" + strings.Repeat("}", 70): "deeper than 64",
	} {
		_, found := read(t, text)
		require.Len(t, found, 1, text)
		assert.Contains(t, found[0].Message, says)
		assert.Positive(t, found[0].Line)
	}
	_, found := read(t, "{\n  \"a\": { \"$type\": \"color\",\n    \"$value\": \"{nowhere}\" }\n}")
	require.Len(t, found, 1)
	assert.Equal(t, [2]int{3, 15}, [2]int{found[0].Line, found[0].Column}, "line and column lead to another place")
}

func TestUnknownAliasSuggestsTheNearest(t *testing.T) {
	_, found := read(t, furrow, `{"x":{"$value":"{soil.800}"}}`)
	require.Len(t, errorsOf(found), 1)
	assert.Contains(t, errorsOf(found)[0].Fix, "soil.700")
}

func TestCSSNames(t *testing.T) {
	for path, want := range map[string]string{"space.2": "--space-2", "tag.inkBase": "--tag-ink-base", "a.B c": "--a-b-c", "size.XL": "--size-xl", "a.$root": "--a"} {
		assert.Equal(t, want, token.CSSName(path))
	}
}

func errorsOf(found problem.List) problem.List {
	var out problem.List
	for _, p := range found {
		if p.Severity == problem.Error {
			out = append(out, p)
		}
	}
	return out
}
