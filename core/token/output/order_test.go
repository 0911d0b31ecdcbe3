package output_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token/output"
)

const small = `{
  "pad": { "$type": "dimension", "$value": { "value": 12.4, "unit": "px" } },
  "tagInk": { "Base 2": { "$type": "dimension", "$value": { "value": 1.53, "unit": "rem" } } },
  "quick": { "$type": "duration", "$value": { "value": 90, "unit": "ms" } },
  "slow": { "$type": "duration", "$value": { "value": 0.4, "unit": "s" } },
  "soil": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 0, 0] } },
  "ink": { "$value": "{soil}" },
  "lift": { "$type": "shadow", "$value": [{ "color": { "colorSpace": "srgb", "components": [0, 0, 0] }, "offsetX": { "value": 0, "unit": "px" }, "offsetY": "{pad}", "blur": { "value": 4, "unit": "px" }, "spread": { "value": 0, "unit": "px" } }] },
  "again": { "$value": "{lift}" }
}`

// way gives a token's way as lines: "in rem, root 16 px: 0.75rem".
func way(t *testing.T, path string, o output.Output) []string {
	t.Helper()
	set, found := library(t, small).Set(nil)
	require.Empty(t, found)
	if o.Language == "" {
		o.Language = "css"
	}
	o.File = "x"
	require.Empty(t, o.Check())
	var lines []string
	for _, s := range output.Way(&o, set, path) {
		lines = append(lines, s.Says+": "+strings.Join(s.Lines, "; "))
	}
	return lines
}

// Common practice, no source: 1 rem is 16 px unless said otherwise; dividing px by the
// root size gives rem; changing the root changes every rem.
func TestLengths(t *testing.T) {
	for root, want := range map[float64]string{0: "in rem, root 16 px: 0.775rem", 16: "in rem, root 16 px: 0.775rem", 10: "in rem, root 10 px: 1.24rem", 20: "in rem, root 20 px: 0.62rem"} {
		assert.Equal(t, []string{"as written: 12.4px", want, "named: --pad"}, way(t, "pad", output.Output{Lengths: "rem", Root: root}))
	}
	assert.Equal(t, []string{"as written: 1.53rem", "in px, root 16 px: 24.48px", "named: --tag-ink-base-2"}, way(t, "tagInk.Base 2", output.Output{Lengths: "px"}))
	assert.Equal(t, []string{"as written: 12.4px", "named: --pad"}, way(t, "pad", output.Output{Lengths: "px"}), "a step that changes nothing is told")
	assert.Equal(t, []string{"as written: 12.4px", "named: --pad"}, way(t, "pad", output.Output{}))
}

// Common practice, no source: rounding before or after dividing by the root size gives two
// results. What is rounded is what stands on the screen: px.
func TestLengthsAreRoundedAsPx(t *testing.T) {
	assert.Equal(t, []string{"as written: 12.4px", "in whole px, root 16 px: 12px", "in rem, root 16 px: 0.75rem", "named: --pad"}, way(t, "pad", output.Output{Lengths: "rem", Whole: true}))
	assert.Equal(t, []string{"as written: 1.53rem", "in whole px, root 16 px: 1.5rem", "in px, root 16 px: 24px", "named: --tag-ink-base-2"},
		way(t, "tagInk.Base 2", output.Output{Lengths: "px", Whole: true}))
	assert.Equal(t, "in whole px, root 10 px: 1.5rem", way(t, "tagInk.Base 2", output.Output{Root: 10, Whole: true})[1], "15.3 px are 15 px, 1.5 of a root of 10")
	assert.Equal(t, []string{"as written: 90ms", "named: --quick"}, way(t, "quick", output.Output{Whole: true, Lengths: "rem"}), "a duration is rounded as a length")
}

func TestDurationsAndColors(t *testing.T) {
	assert.Equal(t, []string{"as written: 90ms", "in s: 0.09s", "named: --quick"}, way(t, "quick", output.Output{Durations: "s"}))
	assert.Equal(t, []string{"as written: 0.4s", "in ms: 400ms", "named: --slow"}, way(t, "slow", output.Output{Durations: "ms"}))
	assert.Equal(t, []string{"as written: 0.4s", "named: --slow"}, way(t, "slow", output.Output{}))
	for form, want := range map[string]string{"rgb": "as rgb: rgb(255 0 0)", "hsl": "as hsl: hsl(0 100% 50%)"} {
		assert.Equal(t, []string{"as written: {soil}", "leads to: #ff0000", want, "named: --ink"}, way(t, "ink", output.Output{Colors: form}))
	}
	assert.Regexp(t, `^as oklch: oklch\(`, way(t, "soil", output.Output{Colors: "oklch"})[1])
}

// Names are made last, of the parts' names too; a prefix is a word like the others.
func TestNames(t *testing.T) {
	last := func(path string, o output.Output) string {
		w := way(t, path, o)
		return w[len(w)-1]
	}
	for joined, want := range map[string][2]string{"hyphens": {"--tag-ink-base-2", "--fr-tag-ink-base-2"}, "capitals": {"--tagInkBase2", "--frTagInkBase2"},
		"large": {"--TAG_INK_BASE_2", "--FR_TAG_INK_BASE_2"}, "underscores": {"--tag_ink_base_2", "--fr_tag_ink_base_2"}} {
		assert.Equal(t, "named: "+want[0], last("tagInk.Base 2", output.Output{Names: joined}))
		for _, prefix := range []string{"fr", "fr-", "fr_"} {
			assert.Equal(t, "named: "+want[1], last("tagInk.Base 2", output.Output{Names: joined, Prefix: prefix}))
		}
	}
	assert.Equal(t, "named: fr.tagInk.Base 2", last("tagInk.Base 2", output.Output{Language: "json", Prefix: "fr"}))
	assert.Equal(t, "named: tagInk.Base 2", last("tagInk.Base 2", output.Output{Language: "tokens"}))
	assert.Equal(t, "named: $tag-ink-base-2", last("tagInk.Base 2", output.Output{Language: "sass"}))
	assert.Equal(t, "named: --fr-lift-1-color; --fr-lift-1-offset-x; --fr-lift-1-offset-y; --fr-lift-1-blur; --fr-lift-1-spread", last("lift", output.Output{Composites: "parts", Prefix: "fr"}))
	assert.Equal(t, "named: frLift1Color; frLift1OffsetX; frLift1OffsetY; frLift1Blur; frLift1Spread", last("lift", output.Output{Language: "kotlin", Prefix: "fr"}))
}

// A composite taken apart: an alias refers to the parts of what it points at.
func TestPartsKeepReferences(t *testing.T) {
	o := named(t, "css")
	o.Composites, o.Lengths = "parts", "rem"
	text := build(t, o, library(t, small))["tokens.css"]
	for _, line := range []string{"--lift-1-offset-y: var(--pad);", "--lift-1-blur: 0.25rem;", "--again-1-blur: var(--lift-1-blur);", "--again-1-offset-y: var(--lift-1-offset-y);"} {
		assert.Contains(t, text, line)
	}
	assert.NotContains(t, text, "--lift:")
	assert.Equal(t, []string{"as written: {lift}", "leads to: 0px 12.4px 4px 0px #000000", "in parts: 1.color #000000; 1.offsetX 0px; 1.offsetY 12.4px; 1.blur 4px; 1.spread 0px",
		"in rem, root 16 px: 1.color #000000; 1.offsetX 0rem; 1.offsetY 0.775rem; 1.blur 0.25rem; 1.spread 0rem"}, way(t, "again", o)[:4])
}

// What references lead to goes through every step too, where it is written out.
func TestReferencesFollowed(t *testing.T) {
	o := named(t, "css")
	o.Lengths, o.Whole, o.References = "rem", true, "followed"
	text := build(t, o, library(t, small))["tokens.css"]
	assert.Contains(t, text, "--again: 0rem 0.75rem 0.25rem 0rem #000000;")
	assert.NotContains(t, text, "var(")
}

// Groups: what is left out is not written, and what pointed at it holds its value, or
// points at the next that is written.
func TestGroups(t *testing.T) {
	l := library(t, `{"core":{"$type":"number","one":{"$value":1},"deep":{"two":{"$value":2}}},"corex":{"$type":"number","$value":3},
	  "mid":{"a":{"$value":"{core.one}"}},"top":{"b":{"$value":"{mid.a}"},"c":{"$value":"{core.deep.two}"}}}`)
	css := func(only, without []string) string {
		o := named(t, "css")
		o.Only, o.Without = only, without
		_, body, _ := strings.Cut(build(t, o, l)["tokens.css"], "\n")
		return body
	}
	assert.Equal(t, ":root {\n  --corex: 3;\n  --mid-a: 1;\n  --top-b: var(--mid-a);\n  --top-c: 2;\n}\n", css(nil, []string{"core"}))
	assert.Equal(t, ":root {\n  --core-one: 1;\n  --core-deep-two: 2;\n  --top-b: var(--core-one);\n  --top-c: var(--core-deep-two);\n}\n", css([]string{"core", "top"}, nil))
	assert.Equal(t, ":root {\n  --core-one: 1;\n  --corex: 3;\n  --top-b: var(--core-one);\n  --top-c: 2;\n}\n", css(nil, []string{"core.deep", "mid"}))
	o := named(t, "tokens")
	o.Only = []string{"top"}
	again := library(t, build(t, o, l)["design.tokens.json"])
	set, found := again.Set(nil)
	require.Empty(t, found, "a reference is left that leads nowhere")
	assert.Equal(t, "1", set.Get("top.b").Value)
	whole, _ := l.Set(nil)
	assert.Empty(t, output.Way(&o, whole, "core.one"), "a way is told of what is not written")
	o.Only = []string{"topp"}
	_, found = output.Build(&o, l, l.Themes())
	require.Len(t, found, 1)
	assert.Equal(t, "No token is in the group topp.", found[0].Message)
	assert.False(t, found.Failed())
}

// Each line that a file is said to hold of a token does hold it, in every language, with
// every setting on.
func TestLinesSayTheirTokens(t *testing.T) {
	l := furrow(t)
	set, _ := l.Set(l.Default())
	for _, o := range output.Standard() {
		for _, themes := range []string{"", "apart", "together"} {
			o := o
			if o.Themes = themes; o.Check().Failed() {
				continue
			}
			files, found := output.Build(&o, l, l.Themes())
			require.Empty(t, found)
			for _, f := range files {
				text := strings.Split(string(f.Text), "\n")
				seen := map[string]bool{}
				for _, line := range f.Lines {
					steps := output.Way(&o, set, line.Path)
					require.NotEmpty(t, steps)
					says := false
					for _, name := range steps[len(steps)-1].Lines {
						if o.Language == "tokens" {
							name = `"` + name[strings.LastIndex(name, ".")+1:] + `": {`
						}
						says = says || strings.Contains(text[line.Number-1], name)
					}
					require.True(t, says, "%s:%d is %q, which is not %s", f.Name, line.Number, text[line.Number-1], line.Path)
					seen[line.Path] = true
				}
				assert.Len(t, seen, len(set.All()), "%s: tokens whose line is not known", f.Name)
			}
		}
	}
}

// Themes: in one file, or a file each that stands alone.
func TestThemesTogetherAndApart(t *testing.T) {
	l := library(t, `{"ink":{"$type":"number","$value":1},"plain":{"$type":"number","$value":7}}`,
		`{"version":"2025.10","modifiers":{"theme":{"contexts":{"day":[],"dim":[{"ink":{"$value":2}}]},"default":"day"},"print":{"contexts":{"off":[],"dim":[{"ink":{"$value":3}}]},"default":"off"}},
		  "resolutionOrder":[{"name":"s","type":"set","sources":[{"$ref":"a.json"}]},{"$ref":"#/modifiers/theme"},{"$ref":"#/modifiers/print"}]}`)
	o := named(t, "json")
	assert.Equal(t, map[string]string{"tokens.json": "{\n  \"ink\": 1,\n  \"plain\": 7\n}\n", "tokens.theme-dim.json": "{\n  \"ink\": 2,\n  \"plain\": 7\n}\n",
		"tokens.print-dim.json": "{\n  \"ink\": 3,\n  \"plain\": 7\n}\n", "tokens.dim-dim.json": "{\n  \"ink\": 3,\n  \"plain\": 7\n}\n"}, build(t, o, l), "two themes in one file, or one that took another's place")
	o.Themes = "together"
	assert.Equal(t, map[string]string{"tokens.json": `{
  "theme=day print=off": {
    "ink": 1,
    "plain": 7
  },
  "theme=day print=dim": {
    "ink": 3,
    "plain": 7
  },
  "theme=dim print=off": {
    "ink": 2,
    "plain": 7
  },
  "theme=dim print=dim": {
    "ink": 3,
    "plain": 7
  }
}
`}, build(t, o, l))
	o = named(t, "css")
	o.Themes = "apart"
	files := build(t, o, l)
	assert.Len(t, files, 4)
	assert.Contains(t, files["tokens.print-dim.css"], ":root {\n  --ink: 3;\n  --plain: 7;\n}\n")
	assert.NotContains(t, files["tokens.print-dim.css"], "data-")
	one := library(t, `{"ink":{"$type":"number","$value":1}}`)
	o = named(t, "json")
	o.Themes = "together"
	assert.Equal(t, map[string]string{"tokens.json": "{\n  \"ink\": 1\n}\n"}, build(t, o, one), "without themes there is none to name")
}
