package output_test

import (
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// read asks css-tree, sass or TypeScript to read what was written.
func read[T any](t *testing.T, task string, texts ...string) T {
	t.Helper()
	return reference.Ask[T](t, "tokens.mjs", map[string]any{"task": task, "text": texts[0], "texts": texts})
}

// furrow opens the demo's tokens: 209 in three themes, of every type.
func furrow(t testing.TB) *token.Library {
	t.Helper()
	names, err := filepath.Glob("../../../demo/furrow/*.json")
	require.NoError(t, err)
	var files []token.File
	for _, name := range names {
		if strings.Contains(name, ".tokens.") || strings.Contains(name, ".resolver.") {
			text, err := os.ReadFile(name)
			require.NoError(t, err)
			files = append(files, token.File{Name: name, Text: text})
		}
	}
	library, found := token.Open(files...)
	require.Empty(t, found)
	require.Len(t, library.Themes(), 3)
	return library
}

func library(t testing.TB, texts ...string) *token.Library {
	t.Helper()
	var files []token.File
	for i, text := range texts {
		files = append(files, token.File{Name: string(rune('a'+i)) + ".json", Text: []byte(text)})
	}
	l, found := token.Open(files...)
	require.Empty(t, found)
	return l
}

func named(t testing.TB, name string) output.Output {
	t.Helper()
	o, err := output.Named(output.Standard(), name)
	require.NoError(t, err)
	return o
}

// withoutPositions leaves out that a gradient's position was clamped.
func withoutPositions(found problem.List) problem.List {
	return slices.DeleteFunc(slices.Clone(found), func(p problem.Problem) bool { return p.Rule == "token-position" })
}

func build(t testing.TB, o output.Output, l *token.Library) map[string]string {
	t.Helper()
	files, found := output.Build(&o, l, l.Themes())
	require.Empty(t, withoutPositions(found))
	out := map[string]string{}
	for _, f := range files {
		out[f.Name] = string(f.Text)
	}
	again, _ := output.Build(&o, l, l.Themes())
	for _, f := range again {
		require.Equal(t, out[f.Name], string(f.Text), "%s: building again must give the same bytes", f.Name)
	}
	return out
}

// beside is how many typographies the demo has: font has no room for letter
// spacing, which stands beside each.
const beside = 7

type declaration struct{ Selector, Within, Property, Value string }

type sheet struct {
	Errors       []string
	Declarations []declaration
}

// css-tree reads what is written without an error, every token is there, and
// following var() by hand gives the resolved value. (Chromium's answer is in
// e2e/tokens_test.go.)
func TestCSSIsReadByCSSTree(t *testing.T) {
	l := furrow(t)
	for _, form := range []string{"rgb", "oklch", "written"} {
		o := named(t, "css")
		o.Colors, o.Lengths, o.Register = form, "rem", true
		got := read[sheet](t, "css", build(t, o, l)["tokens.css"])
		assert.Empty(t, got.Errors)
		root := map[string]string{}
		for _, d := range got.Declarations {
			if d.Selector == ":root" && d.Within == "" {
				root[d.Property] = d.Value
			}
		}
		set, _ := l.Set(l.Default())
		for _, tok := range set.All() {
			assert.Contains(t, root, token.CSSName(tok.Path))
			if tok.Alias != "" {
				assert.Equal(t, "var("+token.CSSName(tok.Alias)+")", root[token.CSSName(tok.Path)], "a flattened alias could not be re-pointed by a theme")
			}
		}
		assert.Len(t, root, len(set.All())+beside)
	}
}

// A theme's block holds what differs, and all that rests on it: var() is
// replaced where a custom property is declared (CSS Variables 1, 2).
func TestAThemeHoldsOnlyWhatDiffers(t *testing.T) {
	l := library(t,
		`{"c":{"$type":"color","a":{"$value":{"colorSpace":"srgb","components":[0,0,0]}},"b":{"$value":{"colorSpace":"srgb","components":[1,1,1]}}}}`,
		`{"ink":{"$value":"{c.a}"},"text":{"$value":"{ink}"},"ground":{"$value":"{c.b}"}}`,
		`{"ink":{"$value":"{c.b}"}}`,
		`{"version":"2025.10","modifiers":{"theme":{"contexts":{"light":[],"dark":[{"$ref":"c.json"}]},"default":"light"},"ground":{"contexts":{"plain":[],"dim":[{"ground":{"$value":"{c.a}"}}]},"default":"plain"}},
		  "resolutionOrder":[{"name":"s","type":"set","sources":[{"$ref":"a.json"},{"$ref":"b.json"}]},{"$ref":"#/modifiers/theme"},{"$ref":"#/modifiers/ground"}]}`)
	assert.Equal(t, `:root {
  --c-a: #000000;
  --c-b: #ffffff;
  --ink: var(--c-a);
  --text: var(--ink);
  --ground: var(--c-b);
}
[data-theme],
[data-ground] {
  --ink: var(--c-a);
  --text: var(--ink);
  --ground: var(--c-b);
}
[data-ground="dim"] {
  --ground: var(--c-a);
}
[data-theme="dark"] {
  --ink: var(--c-b);
  --text: var(--ink);
}
@media (prefers-color-scheme: dark) {
  :root:where(:not([data-theme])) {
    --ink: var(--c-b);
    --text: var(--ink);
  }
}
[data-theme="dark"]:where([data-ground="dim"]) {
  --ink: var(--c-b);
  --text: var(--ink);
  --ground: var(--c-a);
}
@media (prefers-color-scheme: dark) {
  :root:where(:not([data-theme])[data-ground="dim"]) {
    --ink: var(--c-b);
    --text: var(--ink);
    --ground: var(--c-a);
  }
}
`, strings.TrimPrefix(build(t, named(t, "css"), l)["tokens.css"], "/* Written by Cobrik from design tokens. Change the tokens, not this file. */\n"))
}

func TestFlattenedReferences(t *testing.T) {
	o := named(t, "css")
	o.References = "followed"
	assert.NotContains(t, build(t, o, furrow(t))["tokens.css"], "var(")
}

// A colour that sRGB cannot show: its nearest first, itself where it can be shown.
func TestWideColoursHaveAFallback(t *testing.T) {
	l := library(t, `{"wide":{"$type":"color","$value":{"colorSpace":"display-p3","components":[0,1,0]}},"glow":{"$type":"shadow","$value":{"color":{"colorSpace":"display-p3","components":[0,1,0]},"offsetX":{"value":0,"unit":"px"},"offsetY":{"value":0,"unit":"px"},"blur":{"value":1,"unit":"px"},"spread":{"value":0,"unit":"px"}}},"near":{"$value":"{wide}"}}`)
	text := build(t, named(t, "css"), l)["tokens.css"]
	assert.Contains(t, text, "  --wide: #00fb29;\n") // colorjs.io 0.7.1: toGamut({method: "css"})
	assert.Contains(t, text, "@supports (color: color(display-p3 1 1 1)) {\n  :root {\n    --wide: color(display-p3 0 1 0);\n    --glow: 0px 0px 1px 0px color(display-p3 0 1 0);\n  }\n}\n")
	assert.Empty(t, read[sheet](t, "css", text).Errors)
}

// Sass compiles the map; its values are the resolved ones.
func TestSassCompiles(t *testing.T) {
	l := furrow(t)
	text := build(t, named(t, "sass"), l)["_tokens.scss"]
	assert.Contains(t, text, "$page-ground: $soil-50;")
	got := read[map[string]string](t, "sass", text)
	set, _ := l.Set(l.Default())
	require.Len(t, got, len(set.All())+beside)
	for _, tok := range set.All() {
		value, ok := got[strings.TrimPrefix(token.CSSName(tok.Path), "--")]
		require.True(t, ok, tok.Path)
		if slices.Contains([]string{"dimension", "number", "duration", "fontWeight"}, tok.Type) {
			assert.Equal(t, tok.Value, value, tok.Path)
		}
	}
}

// TypeScript compiles the module in strict mode; running it gives the values.
func TestTypeScriptCompilesAndRuns(t *testing.T) {
	l := furrow(t)
	files := build(t, named(t, "typescript"), l)
	assert.Contains(t, files["tokens.ts"], "export const pageGround = soil50;")
	got := read[struct {
		Errors []string
		Tokens []map[string]any
	}](t, "typescript", files["tokens.ts"], files["tokens.dusk.ts"], files["tokens.contrast.ts"])
	assert.Empty(t, got.Errors)
	for i, theme := range l.Themes() {
		set, _ := l.Set(theme)
		require.Len(t, got.Tokens[i], len(set.All())+beside)
		assert.Equal(t, set.Get("tag.sown.ink").Value, got.Tokens[i]["tagSownInk"], theme)
		assert.InDelta(t, 1.43, got.Tokens[i]["typeLeadingPlain"], 0, "numbers are numbers")
	}
}

func TestFlatJSONIsEveryValue(t *testing.T) {
	l := furrow(t)
	var got map[string]any
	require.NoError(t, json.Unmarshal([]byte(build(t, named(t, "json"), l)["tokens.dusk.json"]), &got))
	set, _ := l.Set(l.Themes()[1])
	require.Len(t, got, len(set.All())+beside)
	assert.Equal(t, "0px", got["text.body.letterSpacing"])
	assert.Equal(t, set.Get("page.ground").Value, got["page.ground"])
	assert.InDelta(t, 650, got["type.weight.strong"], 0)
}

// What is written in the standard's format is read again as the same tokens,
// and written again as the same bytes.
func TestNestedJSONRoundTrip(t *testing.T) {
	l := furrow(t)
	o := named(t, "tokens")
	for name, text := range build(t, o, l) {
		again := library(t, text)
		set, found := again.Set(nil)
		require.Empty(t, found, name)
		var theme token.Theme
		for _, th := range l.Themes() {
			if th.String() == "theme=day" && name == "design.tokens.json" || name == "design."+strings.TrimPrefix(th.String(), "theme=")+".tokens.json" || name == "design.tokens."+strings.TrimPrefix(th.String(), "theme=")+".json" {
				theme = th
			}
		}
		require.NotNil(t, theme, name)
		want, _ := l.Set(theme)
		for _, tok := range want.All() {
			got := set.Get(tok.Path)
			require.NotNil(t, got, tok.Path)
			assert.Equal(t, []string{tok.Type, tok.Value, tok.Alias, tok.Description}, []string{got.Type, got.Value, got.Alias, got.Description}, tok.Path)
		}
		files, _ := output.Build(&o, again, again.Themes())
		assert.Equal(t, text, string(files[0].Text))
	}
}

func TestAndroidResourcesAreXML(t *testing.T) {
	text := build(t, named(t, "android"), furrow(t))["tokens.xml"]
	d := xml.NewDecoder(strings.NewReader(text))
	names, references := map[string]string{}, map[string]string{}
	var element, name string
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		switch x := tok.(type) {
		case xml.StartElement:
			for _, a := range x.Attr {
				if a.Name.Local == "name" {
					element, name = x.Name.Local, a.Value
					require.NotContains(t, names, name, "two resources of one name")
					require.Regexp(t, "^[a-z][a-z0-9_]*$", name)
					names[name] = element
				}
			}
		case xml.CharData:
			if s := strings.TrimSpace(string(x)); strings.HasPrefix(s, "@") {
				references[name] = s
			}
		}
	}
	assert.Greater(t, len(names), 209)
	for from, to := range references {
		kind, target, _ := strings.Cut(to[1:], "/")
		if kind == "dimen" && names[target] == "item" {
			continue
		}
		assert.Equal(t, kind, names[target], "%s refers to %s, which is not there", from, to)
	}
	assert.Contains(t, text, `<color name="page_ground">@color/soil_50</color>`)
	assert.Contains(t, text, `<dimen name="width_column">320dp</dimen>`)
}

// Kotlin sets an object's properties in order: what is referred to comes first.
func TestKotlinNamesWhatIsThere(t *testing.T) {
	files := build(t, named(t, "kotlin"), furrow(t))
	text := files["Tokens.kt"]
	assert.Contains(t, text, "object Tokens {")
	assert.Contains(t, files["Tokens.dusk.kt"], "object TokensDusk {", "two themes in one project must not clash")
	seen := map[string]bool{}
	for _, m := range regexp.MustCompile(`(?m)^    val (\w+) = (.+)$`).FindAllStringSubmatch(text, -1) {
		require.False(t, seen[m[1]], m[1])
		if regexp.MustCompile(`^[a-z]\w*$`).MatchString(m[2]) && m[2] != "true" {
			require.True(t, seen[m[2]], "%s is used before it is set", m[2])
		}
		seen[m[1]] = true
	}
	assert.Greater(t, len(seen), 209)
	for _, line := range []string{"    val soil50 = Color(0xFFFAF7F2)", "    val pageGround = soil50", "    val clearNone = Color(0x00FFFFFF)", "    val motionTimeQuick = 90L",
		"    val textBodyFontSize = typeSizeBody", "    val typeSizeBody = 14.sp", "    val typeTrackingTight = (-0.2).sp", `    val typeFamily = listOf("Hanken Grotesk", "sans-serif")`} {
		assert.Contains(t, text, line+"\n")
	}
}

func TestSwiftConstants(t *testing.T) {
	text := build(t, named(t, "swift"), furrow(t))["Tokens.swift"]
	for _, line := range []string{"    public static let soil50: Color = Color(.sRGB, red: 0.9804, green: 0.9686, blue: 0.949, opacity: 1)", "    public static let pageGround: Color = soil50",
		"    public static let squashFlare: Color = Color(.displayP3, red: 1, green: 0.52, blue: 0.08, opacity: 1)", "    public static let motionTimeQuick: TimeInterval = 0.09",
		"    public static let shadowLifted1Blur: CGFloat = shadowRestingBlur", "    public static let shadowLifted2OffsetY: CGFloat = 4", "    public static let width1: CGFloat"} {
		if strings.HasSuffix(line, "width1: CGFloat") {
			assert.NotContains(t, text, line)
			continue
		}
		assert.Contains(t, text, line+"\n")
	}
	assert.Equal(t, strings.Count(text, "{"), strings.Count(text, "}"))
}
