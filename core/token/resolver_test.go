package token_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
	"cobrik/core/token"
)

const resolverDocument = `{
  "version": "2025.10",
  "sets": {
    "core": { "sources": [{ "$ref": "core.json" }, { "extra": { "$type": "number", "$value": 3 } }] },
    "all": { "sources": [{ "$ref": "#/sets/core" }, { "$ref": "semantic.json" }] }
  },
  "modifiers": {
    "theme": { "contexts": { "day": [], "dusk": [{ "$ref": "dusk.json" }] }, "default": "day",
      "$extensions": { "cobrik": { "media": { "dusk": "(prefers-color-scheme: dark)" } } } },
    "density": { "contexts": { "roomy": [], "tight": [{ "space": { "1": { "$value": { "value": 2, "unit": "px" } } } }] }, "default": "roomy" }
  },
  "resolutionOrder": [{ "$ref": "#/sets/all" }, { "$ref": "#/modifiers/theme" }, { "$ref": "#/modifiers/density" }]
}`

func themed(t *testing.T, resolver string) (*token.Library, problem.List) {
	t.Helper()
	return token.Open(
		token.File{Name: "t/semantic.json", Text: []byte(`{"ink":{"$value":"{soil.900}"},"pad":{"$value":"{space.1}"}}`)},
		token.File{Name: "t/dusk.json", Text: []byte(`{"ink":{"$value":"{soil.50}"}}`)},
		token.File{Name: "t/core.json", Text: []byte(`{"soil":{"$type":"color","50":{"$value":{"colorSpace":"srgb","components":[1,1,1]}},"900":{"$value":{"colorSpace":"srgb","components":[0,0,0]}}},"space":{"$type":"dimension","1":{"$value":{"value":4,"unit":"px"}}}}`)},
		token.File{Name: "t/themes.resolver.json", Text: []byte(resolver)},
	)
}

// Resolver Module 2025.10: sets, modifiers, contexts, resolution order.
func TestEveryThemeIsResolved(t *testing.T) {
	library, found := themed(t, resolverDocument)
	require.Empty(t, found)
	want := map[string][2]string{
		"theme=day density=roomy":  {"#000000", "4px"},
		"theme=day density=tight":  {"#000000", "2px"},
		"theme=dusk density=roomy": {"#ffffff", "4px"},
		"theme=dusk density=tight": {"#ffffff", "2px"},
	}
	themes := library.Themes()
	require.Len(t, themes, len(want))
	assert.Equal(t, "theme=day density=roomy", themes[0].String(), "the default comes first")
	for _, theme := range themes {
		set, found := library.Set(theme)
		require.Empty(t, found)
		assert.Equal(t, want[theme.String()], [2]string{set.Get("ink").Value, set.Get("pad").Value}, theme.String())
		assert.Equal(t, "3", set.Get("extra").Value, "a source may be written in place")
	}
	set, _ := library.Set(themes[2])
	assert.Equal(t, "t/dusk.json", set.Get("ink").File, "who gave it")
	m := library.Modifiers()
	assert.Equal(t, "(prefers-color-scheme: dark)", m[0].Media["dusk"])
}

func TestAChoiceThatDoesNotExistListsThoseThatDo(t *testing.T) {
	library, _ := themed(t, resolverDocument)
	theme, found := library.Theme(map[string]string{"theme": "dusk"})
	require.Empty(t, found)
	assert.Equal(t, "theme=dusk density=roomy", theme.String(), "what is not chosen has its default")
	_, found = library.Theme(map[string]string{"theme": "night"})
	assert.Equal(t, "choose one of day, dusk", found[0].Fix)
	_, found = library.Theme(map[string]string{"brand": "x"})
	assert.Equal(t, "use one of theme, density", found[0].Fix)
	plain, _ := token.Open()
	_, found = plain.Theme(map[string]string{"theme": "dusk"})
	assert.True(t, found.Failed())
}

func TestResolverDocumentsAreChecked(t *testing.T) {
	for text, says := range map[string]string{
		`{"version":"2025.10","resolutionOrder":4}`:                          "is a list",
		`{"version":"2025.10","resolutionOrder":[{"$ref":"#/sets/x"}]}`:      `no set "x"`,
		`{"version":"2025.10","resolutionOrder":[{"$ref":"#/modifiers/x"}]}`: `no modifier "x"`,
		`{"version":"2025.10","resolutionOrder":[{}]}`:                       "a set or a modifier",
		`{"version":"2025.10","sets":{"a":{"sources":[{"$ref":"#/sets/b"}]},"b":{"sources":[{"$ref":"#/sets/a"}]}},"resolutionOrder":[{"$ref":"#/sets/a"}]}`:       "a → b → a",
		`{"version":"2025.10","sets":{"a":{"sources":[{"$ref":"nothere.json"}]}},"resolutionOrder":[{"$ref":"#/sets/a"}]}`:                                         "nothere.json is not there",
		`{"version":"2025.10","sets":{"a":{"sources":[{"$ref":"https://example.org/x.json"}]}},"resolutionOrder":[{"$ref":"#/sets/a"}]}`:                           "nothing is fetched",
		`{"version":"2025.10","modifiers":{"m":{"contexts":{"a":[],"b":[]},"default":"c"}},"resolutionOrder":[{"$ref":"#/modifiers/m"}]}`:                          `no context "c"`,
		`{"version":"2025.10","modifiers":{"m":{"contexts":{}}},"resolutionOrder":[{"$ref":"#/modifiers/m"}]}`:                                                     "no contexts",
		`{"version":"2025.10","modifiers":{"m":{"contexts":{"a":[],"b":[]}}},"resolutionOrder":[{"$ref":"#/modifiers/m"}]}`:                                        "no default",
		`{"version":"2025.10","modifiers":{"m":{"contexts":{"a":[],"b":[]},"default":"a"}},"resolutionOrder":[{"$ref":"#/modifiers/m"},{"$ref":"#/modifiers/m"}]}`: "twice",
		`{"version":"1","resolutionOrder":[]}`: "names no version",
		`{"version":"2025.10","modifiers":{"m":{"contexts":{"a":[],"b":[]},"default":"a","$extensions":{"cobrik":{"media":{"b":"} body {"}}}}},"resolutionOrder":[{"$ref":"#/modifiers/m"}]}`: "not a media query",
	} {
		_, found := themed(t, text)
		require.NotEmpty(t, found, text)
		assert.Contains(t, found.Error(), says)
		assert.Equal(t, "t/themes.resolver.json", found[0].File)
		assert.Positive(t, found[0].Line)
	}
}

// Nine modifiers of two contexts are 512 themes: said, not worked through.
func TestTooManyCombinationsAreSaid(t *testing.T) {
	var modifiers, order []string
	for _, name := range strings.Split("abcdefghi", "") {
		modifiers = append(modifiers, `"`+name+`":{"contexts":{"x":[],"y":[]},"default":"x"}`)
		order = append(order, `{"$ref":"#/modifiers/`+name+`"}`)
	}
	library, found := themed(t, `{"version":"2025.10","modifiers":{`+strings.Join(modifiers, ",")+`},"resolutionOrder":[`+strings.Join(order, ",")+`]}`)
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Message, "512 combinations")
	assert.Len(t, library.Themes(), 256)
}

func TestTooManyTokensAreSaid(t *testing.T) {
	var b strings.Builder
	b.WriteString(`{"$type":"number"`)
	for i := range 100_001 {
		fmt.Fprintf(&b, `,"t%d":{"$value":1}`, i)
	}
	set, found := read(t, b.String()+"}")
	require.Len(t, found, 1)
	assert.Equal(t, "token-many", found[0].Rule)
	assert.Len(t, set.All(), 100_000)
}

// Resolver Module: modifiers written in the order itself, sets with a pointer
// into a file.
func TestOrderEntriesWrittenInPlace(t *testing.T) {
	library, found := themed(t, `{"version":"2025.10","resolutionOrder":[
	  {"name":"base","type":"set","sources":[{"$ref":"core.json"},{"$ref":"semantic.json"}]},
	  {"name":"pick","type":"modifier","contexts":{"plain":[],"soil":[{"$ref":"core.json#/soil"}]},"default":"soil"}]}`)
	require.Empty(t, found)
	set, found := library.Set(library.Default())
	require.Empty(t, found)
	assert.Equal(t, "color", set.Get("900").Type, "a group that is a source keeps its type")
	assert.Equal(t, "#000000", set.Get("ink").Value)
}

func TestCheckSeesRawSemanticAndUnusedCoreTokens(t *testing.T) {
	library, found := token.Open(
		token.File{Name: "core.json", Text: []byte(`{"soil":{"$type":"color","50":{"$value":{"colorSpace":"srgb","components":[1,1,1]}},"900":{"$value":{"colorSpace":"srgb","components":[0,0,0]}}},"apart":{"x":{"$type":"number","$value":1}}}`)},
		token.File{Name: "semantic.json", Text: []byte(`{"ink":{"$value":"{soil.900}"},"line":{"$value":"{soil.900}"},"edge":{"$type":"color","$value":{"colorSpace":"srgb","components":[1,0,0]}}}`)},
	)
	require.Empty(t, found)
	var rules []string
	for _, p := range library.Check() {
		rules = append(rules, p.Rule+" "+p.Pointer)
	}
	assert.Equal(t, []string{"token-unused /soil/50", "token-raw /edge/$value"}, rules)
}

// A renamed file is followed by every reference to it, whatever folder and pointer it has;
// a document without one keeps its bytes.
func TestReferencesFollowARenamedFile(t *testing.T) {
	before := `{"sets":{"a":{"sources":[{"$ref":"core.json"},{"$ref":"tokens/core.json#/group"},{"$ref":"#/sets/core.json"},{"$ref":"https://x.test/core.json"},{"$ref":"more-core.json"}]}},"name":"core.json"}`
	after := string(token.RenameFile([]byte(before), "core.json", "base.json"))
	assert.JSONEq(t, `{"sets":{"a":{"sources":[{"$ref":"base.json"},{"$ref":"tokens/base.json#/group"},{"$ref":"#/sets/core.json"},{"$ref":"https://x.test/core.json"},{"$ref":"more-core.json"}]}},"name":"core.json"}`, after)
	assert.Equal(t, before, string(token.RenameFile([]byte(before), "dusk.json", "base.json")))
	assert.Equal(t, "{", string(token.RenameFile([]byte("{"), "core.json", "base.json")), "what cannot be read is lost")
}
