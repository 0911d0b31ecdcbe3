package platform_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/platform"
)

const small = `{
  "pad": { "$type": "dimension", "$value": { "value": 12, "unit": "px" } },
  "tagInk": { "Base 2": { "$type": "dimension", "$value": { "value": 1.5, "unit": "rem" } } },
  "quick": { "$type": "duration", "$value": { "value": 90, "unit": "ms" } },
  "lift": { "$type": "shadow", "$value": [{ "color": { "colorSpace": "srgb", "components": [0, 0, 0] }, "offsetX": { "value": 0, "unit": "px" }, "offsetY": "{pad}", "blur": { "value": 4, "unit": "px" }, "spread": { "value": 0, "unit": "px" } }] },
  "again": { "$value": "{lift}" }
}`

func trace(t *testing.T, path string, base float64, transforms ...string) []platform.Step {
	t.Helper()
	set, found := library(t, small).Set(nil)
	require.Empty(t, found)
	return platform.Trace(&platform.Platform{Name: "x", Transforms: transforms, BaseFontSize: base, Prefix: "fr-"}, set.Get(path))
}

// Common practice, no source: 1 rem is 16 px unless said otherwise; dividing px
// by the base gives rem; changing the base changes every rem.
func TestPxBecomeRemByTheBase(t *testing.T) {
	for base, want := range map[float64]string{0: "0.75rem", 16: "0.75rem", 10: "1.2rem", 20: "0.6rem"} {
		steps := trace(t, "pad", base, "size-rem")
		require.Len(t, steps, 1)
		assert.Equal(t, []string{"pad: 12px"}, steps[0].Before)
		assert.Equal(t, []string{"pad: " + want}, steps[0].After)
		assert.True(t, steps[0].Changed)
	}
}

// Common practice, no source: transforms of a token run one after another; the
// order changes the result.
func TestTheOrderOfTransformsChangesTheResult(t *testing.T) {
	last := func(transforms ...string) string {
		steps := trace(t, "pad", 16, transforms...)
		return steps[len(steps)-1].After[0]
	}
	assert.Equal(t, "pad: 0.75rem", last("size-whole", "size-rem"))
	assert.Equal(t, "pad: 1rem", last("size-rem", "size-whole"))
	assert.Equal(t, "fr-pad: 12px", last("name-kebab", "name-prefix"))
	assert.Equal(t, "pad: 12px", last("name-prefix", "name-kebab"), "a name made anew forgets the prefix")
	assert.Equal(t, "lift-1-color: #000000", trace(t, "lift", 16, "parts-all", "name-kebab")[1].After[0])
	assert.Equal(t, "lift: #000000", trace(t, "lift", 16, "name-kebab", "parts-all")[1].After[0], "parts need names after they are taken apart")
}

func TestNames(t *testing.T) {
	for id, want := range map[string]string{"name-kebab": "tag-ink-base-2", "name-camel": "tagInkBase2", "name-constant": "TAG_INK_BASE_2", "name-snake": "tag_ink_base_2", "name-path": "tagInk.Base 2"} {
		assert.Equal(t, want+": 1.5rem", trace(t, "tagInk.Base 2", 16, id)[0].After[0], id)
	}
	assert.Equal(t, "tagInk.Base 2: 24px", trace(t, "tagInk.Base 2", 16, "size-px")[0].After[0])
	assert.Equal(t, "quick: 0.09s", trace(t, "quick", 16, "duration-s")[0].After[0])
	assert.False(t, trace(t, "quick", 16, "size-px")[0].Changed)
}

// A composite taken apart: an alias refers to the parts of what it points at.
func TestPartsKeepReferences(t *testing.T) {
	p := named(t, "css")
	p.Transforms = []string{"parts-shadow", "name-kebab", "size-rem"}
	text := build(t, p, library(t, small))["tokens.css"]
	for _, line := range []string{"--lift-1-offset-y: var(--pad);", "--lift-1-blur: 0.25rem;", "--again-1-blur: var(--lift-1-blur);", "--again-1-offset-y: var(--lift-1-offset-y);"} {
		assert.Contains(t, text, line)
	}
	assert.NotContains(t, text, "--lift:")
}

// What references lead to goes through the transforms too, where it is written out.
func TestFlattenedPartsAreTransformed(t *testing.T) {
	p := named(t, "css")
	p.Transforms, p.References = []string{"name-kebab", "size-rem"}, platform.Flatten
	assert.Contains(t, build(t, p, library(t, small))["tokens.css"], "--again: 0rem 0.75rem 0.25rem 0rem #000000;")
}

func TestWrongPlatformsAreSaid(t *testing.T) {
	l := library(t, `{"a":{"b1":{"$type":"number","$value":1},"b-1":{"$type":"number","$value":2}}}`)
	for says, p := range map[string]platform.Platform{
		`there is no transform "x"`:          {Name: "p", Transforms: []string{"x"}, Outputs: []platform.Output{{Path: "a", Format: "css"}}},
		`there is no format "x"`:             {Name: "p", Outputs: []platform.Output{{Path: "a", Format: "x"}}},
		"leads out of the folder":            {Name: "p", Outputs: []platform.Output{{Path: "../a", Format: "css"}}},
		"writes no file":                     {Name: "p"},
		"no font size":                       {Name: "p", BaseFontSize: -1, Outputs: []platform.Output{{Path: "a", Format: "css"}}},
		"a.b1 and a.b-1 would both be named": {Name: "p", Transforms: []string{"name-camel"}, Outputs: []platform.Output{{Path: "a", Format: "css"}}},
	} {
		_, found := platform.Build(&p, l, l.Themes())
		require.True(t, found.Failed(), says)
		assert.Contains(t, found.Error(), says)
	}
	clash := library(t, `{"1":{"$type":"number","$value":1},"a_b":{"$type":"number","$value":1},"a":{"b!":{"$type":"number","$value":2}}}`)
	ts := platform.Platform{Name: "ts", Transforms: []string{"name-path"}, Outputs: []platform.Output{{Path: "a.ts", Format: "typescript"}}}
	_, found := platform.Build(&ts, clash, clash.Themes())
	assert.Empty(t, found, "_1, a_b and a_b_ are three names")
	same := library(t, `{"a_b":{"$type":"number","$value":1},"a·b":{"$type":"number","$value":2}}`)
	_, found = platform.Build(&ts, same, same.Themes())
	assert.True(t, found.Failed(), "a·b and a_b would be one constant")
	_, err := platform.Named(platform.Standard(), "cobol")
	assert.ErrorContains(t, err, "use css, sass, typescript")
}

func TestProjectFiles(t *testing.T) {
	text := `{ "format": "cobrik.project/1", "tokens": { "files": ["a.json"], "platforms": [
	  { "name": "css", "transforms": ["name-camel"], "baseFontSize": 10, "outputs": [{ "path": "t.css", "format": "css" }] }] } }`
	p, found := platform.ReadProject("cobrik.json", []byte(text))
	require.Empty(t, found)
	css, err := platform.Named(p.All(), "css")
	require.NoError(t, err)
	assert.Equal(t, []string{"name-camel"}, css.Transforms, "the project's own takes the standard one's place")
	assert.Len(t, p.All(), len(platform.Standard()))
	again, found := platform.ReadProject("cobrik.json", p.JSON())
	require.Empty(t, found)
	assert.Equal(t, p, again)
	for bad, says := range map[string]string{
		`{}`: "missing", `{"format":"cobrik.project/1","tokens":{"platforms":[{"name":"x","transforms":["y"],"outputs":[{"path":"a","format":"css"}]}]}}`: `no transform "y"`,
		`{"format":"cobrik.project/1","tokens":{"colour":1}}`: "unknown colour",
	} {
		_, found := platform.ReadProject("cobrik.json", []byte(bad))
		require.True(t, found.Failed())
		assert.Contains(t, found.Error(), says)
		assert.Equal(t, 1, found[0].Line)
	}
}

// CSS for four themes of 200 tokens each, from sets already resolved or not.
func BenchmarkBuildCSS(b *testing.B) {
	l := furrow(b)
	p := named(b, "css")
	themes := append(l.Themes(), l.Themes()[1])
	b.ReportAllocs()
	for b.Loop() {
		files, found := platform.Build(&p, l, themes)
		require.Empty(b, found)
		require.Len(b, files, 1)
	}
}

func FuzzReadProject(f *testing.F) {
	f.Add([]byte(`{"format":"cobrik.project/1","tokens":{"platforms":[{"name":"x","transforms":["name-camel"],"outputs":[{"path":"a","format":"css"}]}]}}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		p, found := platform.ReadProject("f", text)
		if p == nil {
			require.True(t, found.Failed(), "refused without a word")
			return
		}
		again, found := platform.ReadProject("f", p.JSON())
		require.Empty(t, found)
		require.Equal(t, string(p.JSON()), string(again.JSON()))
	})
}

// What an output does to a token is told line by line: name and value before and after
// each transform, what it refers to, what it is taken apart into.
func TestATraceTellsEveryLine(t *testing.T) {
	set, found := token.Read(token.File{Name: "t", Text: []byte(`{
		"soil": {"$type":"color","$value":{"colorSpace":"srgb","components":[1,0,0]}},
		"ink": {"$value":"{soil}"},
		"gap": {"$type":"dimension","$value":{"value":8,"unit":"px"}},
		"edge": {"$type":"border","$value":{"color":"{soil}","width":"{gap}","style":"solid"}}
	}`)})
	require.Empty(t, found)
	trace := func(path string, transforms ...string) []platform.Step {
		return platform.Trace(&platform.Platform{Name: "x", Transforms: transforms}, set.Get(path))
	}
	steps := trace("ink", "name-kebab", "color-hex")
	require.Len(t, steps, 2)
	assert.Equal(t, []string{"name-kebab", "color-hex"}, []string{steps[0].Transform, steps[1].Transform})
	assert.Len(t, steps[0].Before, 1)
	assert.Regexp(t, `^ink: .+, by reference to soil$`, steps[0].Before[0])
	assert.Equal(t, steps[0].After, steps[1].Before, "a step does not begin where the one before ended")
	assert.Regexp(t, `^ink: #ff0000, by reference to soil$`, steps[1].After[0])
	gap := trace("gap", "size-rem", "name-kebab")
	assert.Equal(t, []string{"gap: 8px"}, gap[0].Before)
	assert.Equal(t, []string{"gap: 0.5rem"}, gap[0].After)
	assert.Equal(t, []bool{true, false}, []bool{gap[0].Changed, gap[1].Changed})
	parts := trace("edge", "parts-all")
	require.Len(t, parts, 1)
	assert.Len(t, parts[0].After, 3, "a composite taken apart has a line a part")
}

// Whatever a description says, the comments of every output are as many as are closed.
func TestDescriptionsNeitherEndNorOpenComments(t *testing.T) {
	for _, evil := range []string{"*/ fun evil() {} /*", "/* never closed", "**/*/", "/*/", "a\n*/\nb", "-->", "<!-- x"} {
		text, err := json.Marshal(map[string]any{"gap": map[string]any{"$type": "dimension", "$description": evil, "$value": map[string]any{"value": 8, "unit": "px"}}})
		require.NoError(t, err)
		library, found := token.Open(token.File{Name: "t", Text: text})
		require.Empty(t, found)
		for _, p := range platform.Standard() {
			files, found := platform.Build(&p, library, library.Themes())
			require.Empty(t, found)
			for _, f := range files {
				if strings.HasSuffix(f.Name, ".json") || strings.HasSuffix(f.Name, ".xml") {
					continue // JSON has none, and the XML is parsed in a test of its own
				}
				out := string(f.Text)
				assert.Equal(t, strings.Count(out, "/*"), strings.Count(out, "*/"), "%s of %q:\n%s", f.Name, evil, out)
				depth := 0
				for i := range len(out) - 1 {
					switch out[i : i+2] {
					case "/*":
						depth++
					case "*/":
						depth--
					}
					assert.True(t, depth == 0 || depth == 1, "%s nests a comment for %q", f.Name, evil)
				}
			}
		}
	}
}
