package output_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token"
	"cobrik/core/token/output"
)

func TestWrongOutputsAreSaid(t *testing.T) {
	l := library(t, `{"a":{"b1":{"$type":"number","$value":1},"b-1":{"$type":"number","$value":2},"b--1":{"$type":"number","$value":2}}}`)
	for says, o := range map[string]output.Output{
		`There is no language "cobol".`:                                                              {File: "a", Language: "cobol"},
		`The file "../a" is empty or leads out of the folder.`:                                       {File: "../a", Language: "css"},
		`The file "" is empty or leads out of the folder.`:                                           {Language: "css"},
		`The file "a//b" is empty or leads out of the folder.`:                                       {File: "a//b", Language: "css"},
		`Lengths cannot be "ell".`:                                                                   {File: "a", Language: "css", Lengths: "ell"},
		`Lengths cannot be rem in Kotlin: a length is a count of dp.`:                                {File: "a", Language: "kotlin", Lengths: "rem"},
		`Durations cannot be ms in Swift: a TimeInterval counts seconds.`:                            {File: "a", Language: "swift", Durations: "ms"},
		`Composites cannot be whole in Android: it has no resource for a whole one.`:                 {File: "a", Language: "android", Composites: "whole"},
		`Themes cannot be all in one file in Sass: a variable has one value.`:                        {File: "a", Language: "sass", Themes: "together"},
		`References cannot be kept in JSON: an object of values has no references.`:                  {File: "a", Language: "json", References: "kept"},
		`Names cannot be joined by hyphens in TypeScript: a name is letters, digits and underscores`: {File: "a", Language: "typescript", Names: "hyphens"},
		`Names have no prefix in Design tokens: the standard names a token by its path.`:             {File: "a", Language: "tokens", Prefix: "fr"},
		`"1x" cannot begin a name.`:                                                                  {File: "a", Language: "css", Prefix: "1x"},
		`-1 px is no root size.`:                                                                     {File: "a", Language: "css", Root: -1},
		`Only CSS registers its custom properties.`:                                                  {File: "a", Language: "sass", Register: true},
		`Groups are both chosen and left out.`:                                                       {File: "a", Language: "css", Only: []string{"a"}, Without: []string{"b"}},
		`3 tokens would be called aB1 in a.ts: a.b1, a.b-1 and a.b--1.`:                              {File: "a.ts", Language: "typescript"},
	} {
		files, found := output.Build(&o, l, l.Themes())
		require.True(t, found.Failed(), says)
		assert.Contains(t, found.Error(), says)
		assert.Empty(t, files, "something is written in spite of: %s", says)
		assert.NotEmpty(t, found[0].Fix, says)
	}
	same := library(t, `{"a_b":{"$type":"number","$value":1},"a·b":{"$type":"number","$value":2}}`)
	ts := output.Output{File: "a.ts", Language: "typescript", Names: "underscores"}
	_, found := output.Build(&ts, same, same.Themes())
	assert.True(t, found.Failed(), "a·b and a_b would be one constant")
	parts := library(t, `{"t":{"$type":"typography","$value":{"fontFamily":"A","fontSize":{"value":1,"unit":"px"},"letterSpacing":{"value":1,"unit":"px"}}},"t-letter-spacing":{"$type":"number","$value":1}}`)
	css := named(t, "css")
	_, found = output.Build(&css, parts, parts.Themes())
	assert.Contains(t, found.Error(), "t (letterSpacing) and t-letter-spacing")
	_, err := output.Named(output.Standard(), "cobol")
	assert.ErrorContains(t, err, "there are tokens.css, _tokens.scss")
}

// What a language is said to hold, it does: every setting of every language alone builds,
// what is not said to be held is refused, with what to choose.
func TestLanguagesHoldWhatTheySay(t *testing.T) {
	l := furrow(t)
	for _, language := range output.Languages() {
		require.Len(t, language.Holds, len(output.Settings()))
		for n, s := range output.Settings() {
			held := language.Holds[n]
			require.Equal(t, s.ID, held.Setting)
			for _, choice := range s.Options {
				var o output.Output
				text, err := json.Marshal(map[string]string{"file": language.File, "language": language.ID, s.ID: choice.Value})
				require.NoError(t, err)
				require.NoError(t, json.Unmarshal(text, &o))
				files, found := output.Build(&o, l, l.Themes())
				if slices.Contains(held.Values, choice.Value) {
					assert.Empty(t, found, "%s with %s", language.Name, choice.Value)
					assert.NotEmpty(t, files)
				} else if assert.Len(t, found, 1, "%s with %s", language.Name, choice.Value) {
					assert.Equal(t, "/"+s.ID, found[0].Pointer)
					assert.NotEmpty(t, held.Why, "%s does not say why it holds no %s", language.Name, choice.Value)
					assert.Regexp(t, "^choose ", found[0].Fix)
				}
			}
		}
	}
}

// Any settings that are held, all at once, on random tokens: the sheet is read by css-tree,
// Sass compiles, TypeScript is strict, JSON is JSON; the order the file says them in is one.
func TestRandomSettingsOnRandomTokens(t *testing.T) {
	var sheets, sass, scripts []string
	for seed := range uint64(32) {
		m := &maker{Rand: rand.New(rand.NewPCG(seed, 11)), byType: map[string][]string{}}
		l := library(t, m.file(30))
		language := output.Languages()[int(seed)%len(output.Languages())]
		said := map[string]any{"file": language.File, "language": language.ID}
		for _, h := range language.Holds {
			if m.IntN(3) > 0 {
				said[h.Setting] = h.Values[m.IntN(len(h.Values))]
			}
		}
		said["whole"] = m.IntN(2) == 0
		said["root"] = []float64{0, 10, 16, 62.5}[m.IntN(4)]
		if language.Prefix && m.IntN(2) == 0 {
			said["prefix"] = "hb-"
		}
		if m.IntN(3) == 0 {
			said["without"] = []string{"g1"}
		}
		text, err := json.Marshal(said)
		require.NoError(t, err)
		var o output.Output
		require.NoError(t, json.Unmarshal(text, &o))
		files := build(t, o, l)
		set, _ := l.Set(nil)
		for _, tok := range set.All() {
			if o.Without == nil || !strings.HasPrefix(tok.Path, "g1.") {
				require.NotEmpty(t, output.Way(&o, set, tok.Path), "seed %d: %s goes no way", seed, tok.Path)
			}
		}
		switch file := files[language.File]; language.ID {
		case "css":
			sheets = append(sheets, file)
		case "sass":
			sass = append(sass, file)
		case "typescript":
			scripts = append(scripts, file)
		case "json":
			assert.True(t, json.Valid([]byte(file)), "seed %d", seed)
		case "tokens":
			_, found := library(t, file).Set(nil)
			assert.Empty(t, withoutPositions(found), "seed %d", seed)
		}
	}
	assert.Empty(t, read[sheet](t, "css", strings.Join(sheets, "\n")).Errors)
	for _, s := range sass {
		assert.NotEmpty(t, read[map[string]string](t, "sass", s))
	}
	assert.Empty(t, read[struct{ Errors []string }](t, "typescript", scripts...).Errors)
}

func TestAboutSaysWhatAnOutputIs(t *testing.T) {
	for want, o := range map[string]output.Output{
		"CSS, every theme in one file": {Language: "css"},
		"Kotlin":                       {Language: "kotlin", Lengths: "px"},
		"JSON, joined by hyphens, rem, references followed, every theme in one file, prefix fr, whole px, all but core": {Language: "json", Names: "hyphens", Lengths: "rem", References: "followed",
			Themes: "together", Prefix: "fr", Whole: true, Without: []string{"core"}},
		"CSS, oklch, a file a theme, only tag, page": {Language: "css", Colors: "oklch", Themes: "apart", Only: []string{"tag", "page"}},
	} {
		if o.Language == "json" {
			want = strings.Replace(want, "references followed, ", "", 1) // it can be nothing else
		}
		assert.Equal(t, want, o.About())
	}
}

func TestProjectFiles(t *testing.T) {
	text := `{ "format": "cobrik.project/1", "tokens": { "files": ["a.json"], "outputs": [
	  { "file": "t.css", "language": "css", "names": "capitals", "root": 10, "without": ["core"] } ] } }`
	p, found := output.ReadProject("cobrik.json", []byte(text))
	require.Empty(t, found)
	assert.Equal(t, []output.Output{{File: "t.css", Language: "css", Names: "capitals", Root: 10, Without: []string{"core"}}}, p.All())
	again, found := output.ReadProject("cobrik.json", p.JSON())
	require.Empty(t, found)
	assert.Equal(t, p, again)
	assert.Equal(t, output.Standard(), (&output.Project{}).All())
	assert.Equal(t, output.Standard(), (*output.Project)(nil).All())
	for bad, says := range map[string]string{
		`{}`: "missing",
		`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a","language":"cobol"}]}}`:                                     "cobol",
		`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a","language":"kotlin","lengths":"rem"}]}}`:                    "Lengths cannot be rem in Kotlin",
		`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a.css","language":"css"},{"file":"A.css","language":"css"}]}}`: "Two outputs are written to A.css",
		`{"format":"cobrik.project/1","tokens":{"platforms":[]}}`:                                                                  "unknown platforms",
		`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a","language":"css","transforms":["size"]}]}}`:                 "unknown transforms",
		`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"/etc/passwd","language":"css"}]}}`:                             "leads out of the folder",
	} {
		_, found := output.ReadProject("cobrik.json", []byte(bad))
		require.True(t, found.Failed(), bad)
		assert.Contains(t, found.Error(), says)
		assert.Equal(t, 1, found[0].Line)
	}
	_, found = output.ReadProject("cobrik.json", []byte("{\"format\":\"cobrik.project/1\",\"tokens\":{\"outputs\":[\n{\"file\":\"a\",\"language\":\"swift\",\n\"colors\":\"hex\"}]}}"))
	require.Len(t, found, 1)
	assert.Equal(t, "/tokens/outputs/0/colors", found[0].Pointer)
	assert.Equal(t, 3, found[0].Line, "the wrong setting is not pointed at")
}

// A token file that is renamed is renamed in the project file, in its folder.
func TestProjectFilesFollowRenamedFiles(t *testing.T) {
	p := &output.Project{Format: output.ProjectFormat, Tokens: output.ProjectTokens{Files: []string{"tokens/core.json", "core.json", "more-core.json"}, Resolver: "tokens/themes.json"}}
	assert.Equal(t, []string{"tokens/base.json", "base.json", "more-core.json"}, p.WithFile("core.json", "base.json").Tokens.Files)
	assert.Equal(t, "tokens/furrow.json", p.WithFile("themes.json", "furrow.json").Tokens.Resolver)
	assert.Equal(t, "tokens/core.json", p.Tokens.Files[0], "the project that was read changed")
}

// CSS for four themes of 200 tokens each, from sets already resolved or not.
func BenchmarkBuildCSS(b *testing.B) {
	l := furrow(b)
	o := named(b, "css")
	themes := append(l.Themes(), l.Themes()[1])
	b.ReportAllocs()
	for b.Loop() {
		files, found := output.Build(&o, l, themes)
		require.Empty(b, found)
		require.Len(b, files, 1)
	}
}

func FuzzReadProject(f *testing.F) {
	f.Add([]byte(`{"format":"cobrik.project/1","tokens":{"outputs":[{"file":"a","language":"css","names":"capitals","only":["a.b"]}]}}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		p, found := output.ReadProject("f", text)
		if p == nil {
			require.True(t, found.Failed(), "refused without a word")
			return
		}
		again, found := output.ReadProject("f", p.JSON())
		require.Empty(t, found)
		require.Equal(t, string(p.JSON()), string(again.JSON()))
	})
}

// Whatever a description says, the comments of every output are as many as are closed.
func TestDescriptionsNeitherEndNorOpenComments(t *testing.T) {
	for _, evil := range []string{"*/ fun evil() {} /*", "/* never closed", "**/*/", "/*/", "a\n*/\nb", "-->", "<!-- x"} {
		text, err := json.Marshal(map[string]any{"gap": map[string]any{"$type": "dimension", "$description": evil, "$value": map[string]any{"value": 8, "unit": "px"}}})
		require.NoError(t, err)
		library, found := token.Open(token.File{Name: "t", Text: text})
		require.Empty(t, found)
		for _, o := range output.Standard() {
			files, found := output.Build(&o, library, library.Themes())
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
