package token_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/core/token"
)

func node(t testing.TB, text string) *jsontree.Node {
	t.Helper()
	n, found := jsontree.Read("value", []byte(text), problem.Limits{Bytes: 1 << 16, Depth: 32})
	require.Empty(t, found)
	return n
}

var editFiles = []token.File{
	{Name: "core", Text: []byte(`{"soil":{"$type":"color","50":{"$value":{"colorSpace":"srgb","components":[1,1,1]}},"900":{"$value":{"colorSpace":"srgb","components":[0,0,0]}}}}`)},
	{Name: "semantic", Text: []byte(`{"ink":{"$value":"{soil.900}"},"edge":{"$type":"border","$value":{"color":"{soil.900}","width":{"value":{"$ref":"#/one/$value"},"unit":"px"},"style":"solid"}},"one":{"$type":"number","$value":1},"again":{"$ref":"#/soil/900"},"more":{"$extends":"{soil}","$extensions":{"note":"{soil.900}"}}}`)},
}

func values(t *testing.T, files []token.File) map[string]string {
	t.Helper()
	set, found := token.Read(files...)
	require.False(t, found.Failed(), found)
	out := map[string]string{}
	for _, tok := range set.All() {
		out[tok.Path] = tok.Value
	}
	return out
}

// Renaming: references of every kind follow, whatever the file; values stay.
func TestRenameFollowsReferences(t *testing.T) {
	before := values(t, editFiles)
	for _, c := range []struct{ from, to string }{{"soil.900", "soil.ink"}, {"soil.900", "earth.deep.900"}, {"soil", "earth"}, {"one", "g.one"}, {"soil.900", "soil900"}} {
		files, found := token.Apply(editFiles, token.Edit{Kind: "rename", Path: c.from, To: c.to})
		require.Empty(t, found, c)
		after := values(t, files)
		assert.Equal(t, before["ink"], after["ink"], c)
		assert.Equal(t, before["edge"], after["edge"], c)
		assert.Equal(t, before["again"], after["again"], c)
		if c.from != "one" && c.from != "soil" {
			assert.NotContains(t, after, c.from)
			assert.Equal(t, before[c.from], after[c.to], c)
		}
		assert.Contains(t, string(files[1].Text), `"note": "{soil.900}"`, "extensions are not ours to change")
		back, found := token.Apply(files, token.Edit{Kind: "rename", Path: c.to, To: c.from})
		require.Empty(t, found)
		assert.Equal(t, before, values(t, back), "there and back again")
	}
}

func TestEditsWriteWhatWasAsked(t *testing.T) {
	files, found := token.Apply(editFiles,
		token.Edit{Kind: "set", Path: "soil.300", File: "core", Value: node(t, `{"colorSpace":"srgb","components":[0.5,0.5,0.5]}`)},
		token.Edit{Kind: "set", Path: "ink", Value: node(t, `"{soil.300}"`)},
		token.Edit{Kind: "set", Path: "gap.small", File: "semantic", Type: "dimension", Value: node(t, `{"value":4,"unit":"px"}`)},
		token.Edit{Kind: "describe", Path: "ink", Description: "Text"},
		token.Edit{Kind: "deprecate", Path: "soil.50", Reason: "use 300"},
		token.Edit{Kind: "remove", Path: "more"},
	)
	require.Empty(t, found)
	set, found := token.Read(files...)
	require.Empty(t, found)
	assert.Equal(t, "#808080", set.Get("ink").Value)
	assert.Equal(t, "Text", set.Get("ink").Description)
	assert.Equal(t, "4px", set.Get("gap.small").Value)
	assert.Equal(t, "use 300", set.Get("soil.50").Deprecated)
	assert.Nil(t, set.Get("more.50"))
	same, found := token.Apply(editFiles, token.Edit{Kind: "describe", Path: "ink", Description: "x"})
	require.Empty(t, found)
	assert.Equal(t, string(editFiles[0].Text), string(same[0].Text), "a file that was not edited keeps its bytes")
}

func TestEditsThatCannotBeAreRefused(t *testing.T) {
	for says, edit := range map[string]token.Edit{
		"there is no token":           {Kind: "rename", Path: "nowhere", To: "x"},
		"is there already":            {Kind: "rename", Path: "ink", To: "edge"},
		"moved into itself":           {Kind: "rename", Path: "soil", To: "soil.x"},
		"inside of a token":           {Kind: "set", Path: "ink.deeper", File: "semantic", Value: node(t, "1")},
		"is a group":                  {Kind: "set", Path: "soil", File: "core", Value: node(t, "1")},
		"has no file":                 {Kind: "set", Path: "new", Value: node(t, "1")},
		"no token file":               {Kind: "set", Path: "new", File: "x", Value: node(t, "1")},
		"holds a brace":               {Kind: "set", Path: "a.{b}", File: "core", Value: node(t, "1")},
		"no edit":                     {Kind: "paint", Path: "ink"},
		"the path soil..9 has a name": {Kind: "rename", Path: "soil.900", To: "soil..9"},
	} {
		_, found := token.Apply(editFiles, edit)
		require.True(t, found.Failed(), says)
		assert.Contains(t, found.Error(), says)
	}
}

// chained makes n tokens in files with alias chains of a length, at random.
func chained(n, files, chain int) []token.File {
	random := rand.New(rand.NewPCG(8, 1))
	out := make([]token.File, files)
	at := 0
	for f := range out {
		text := []byte("{\n")
		for g := range n / files / 50 {
			if g > 0 {
				text = append(text, ",\n"...)
			}
			text = fmt.Appendf(text, "  \"g%d-%d\": {\n    \"$type\": \"color\"", f, g)
			for i := range 50 {
				name := at % 50
				if at%chain == 0 {
					text = fmt.Appendf(text, ",\n    \"t%d\": { \"$value\": { \"colorSpace\": \"srgb\", \"components\": [%.3f, %.3f, %.3f] } }", i, random.Float64(), random.Float64(), random.Float64())
				} else {
					before := at - 1
					text = fmt.Appendf(text, ",\n    \"t%d\": { \"$value\": \"{g%d-%d.t%d}\" }", name, before/(n/files), before%(n/files)/50, before%50)
				}
				at++
			}
			text = append(text, "\n  }"...)
		}
		out[f] = token.File{Name: fmt.Sprintf("f%d.json", f), Text: append(text, "\n}\n"...)}
	}
	return out
}

// A set with one value changed is what reading the changed files would give.
func TestWithIsReadingAgain(t *testing.T) {
	files := chained(1000, 4, 8)
	set, found := token.Read(files...)
	require.Empty(t, found)
	require.Len(t, set.All(), 1000)
	random := rand.New(rand.NewPCG(3, 3))
	for range 60 {
		path := set.All()[random.IntN(1000)].Path
		value := node(t, `{"colorSpace":"srgb","components":[0.1,0.2,0.3]}`)
		if random.IntN(2) == 0 {
			value = node(t, `"{`+set.All()[random.IntN(1000)].Path+`}"`)
		}
		with, changed, bad := set.With(path, value)
		edited, wrong := token.Apply(files, token.Edit{Kind: "set", Path: path, Value: value})
		require.Empty(t, wrong)
		want, found := token.Read(edited...)
		require.Equal(t, found.Failed(), bad.Failed())
		moved := map[string]bool{path: true}
		for i, w := range want.All() {
			got := with.All()[i]
			require.Equal(t, w.Path, got.Path)
			require.Equal(t, w.Value, got.Value, "%s after %s = %s", w.Path, path, value.Short())
			require.Same(t, got, with.Get(w.Path))
			if w.Value != set.All()[i].Value {
				moved[w.Path] = true
			}
		}
		require.Len(t, changed, len(moved))
		for _, c := range changed {
			require.True(t, moved[c.Path], c.Path)
		}
	}
}
