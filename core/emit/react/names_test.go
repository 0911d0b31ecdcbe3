package react_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// drawn is a random family whose layers, axes and values have awkward names.
func drawn(r *rand.Rand, id int) *design.Family {
	f := &design.Family{ID: fmt.Sprint("f", id), Name: emittest.Name(r), Description: emittest.Name(r)}
	used := map[string]bool{}
	for range r.IntN(3) {
		a := design.Axis{Name: emittest.Name(r)}
		if used[a.Name] {
			continue
		}
		used[a.Name] = true
		options := map[string]bool{}
		for range 2 + r.IntN(3) {
			if v := emittest.Name(r); !options[contract.OptionOf(v)] {
				options[contract.OptionOf(v)] = true
				a.Values = append(a.Values, v)
			}
		}
		if r.IntN(4) == 0 {
			a.Values = []string{"on", "off"}
		}
		a.Default = a.Values[r.IntN(len(a.Values))]
		f.Axes = append(f.Axes, a)
	}
	names, button := make([]string, 4), r.IntN(3) == 0
	for i := range names {
		names[i] = emittest.Name(r)
	}
	if button {
		f.Name += " button"
	}
	text := emittest.Name(r)
	var vary func(i int, choices map[string]string)
	vary = func(i int, choices map[string]string) {
		if i < len(f.Axes) {
			for _, v := range f.Axes[i].Values {
				choices[f.Axes[i].Name] = v
				vary(i+1, choices)
			}
			return
		}
		n := len(f.Variants)
		own := map[string]string{}
		for k, v := range choices {
			own[k] = v
		}
		layer := func(part int, kind design.Kind) *design.Layer {
			return &design.Layer{ID: fmt.Sprintf("%s-%d-%d", f.ID, n, part), Name: names[part], Kind: kind, Bounds: design.Rect{Width: 20, Height: 20}, Fill: fmt.Sprintf("#%06x", r.IntN(1<<24))}
		}
		words := layer(0, design.Text)
		words.Text = &design.TextContent{Content: text, FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}
		icon := layer(1, design.Vector)
		icon.Vector = &design.VectorContent{ViewBox: [4]float64{0, 0, 20, 20}, Paths: []design.Path{{D: "M0 0H20V20Z"}}}
		icon.Alt = names[3]
		shown := layer(2, design.Box)
		shown.Hidden = r.IntN(2) == 0
		root := layer(3, design.Box)
		root.Flow = &design.Flow{Direction: "row", Gap: 4}
		root.Children = []*design.Layer{words, icon, shown}
		f.Variants = append(f.Variants, &design.Variant{ID: fmt.Sprintf("%s-%d", f.ID, n), Choices: own, Root: root})
	}
	vary(0, map[string]string{})
	return f
}

// Whatever layers, axes and values are called, the code is valid, strict and laid out as
// prettier leaves it, and React renders from it what the contract says.
func TestAwkwardNamesBecomeCode(t *testing.T) {
	tokens := output.PropertiesOf(token.Empty())
	var files []emit.File
	var script strings.Builder
	dir := t.TempDir()
	script.WriteString("const React = require(\"react\");\nconst { renderToStaticMarkup } = require(\"react-dom/server\");\nglobalThis.cobrikModules = { react: React, \"react/jsx-runtime\": require(\"react/jsx-runtime\") };\n")
	var want []string
	for seed := range components {
		r := rand.New(rand.NewPCG(uint64(seed), 10))
		f := drawn(r, seed)
		c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
		require.NotNil(t, c, "%q: %s", f.Name, found)
		again, found := contract.Read("c", c.JSON(), nil)
		require.NotNil(t, again, "seed %d: drafting writes what reading refuses: %s", seed, found)
		for _, p := range c.Props {
			require.False(t, contract.IsReserved(p.Name))
		}
		one := react.Emit(again, tokens, react.Options{})
		bundle, found := compile.React(one)
		require.Empty(t, found, "seed %d: %s", seed, one[0].Content)
		for _, file := range one {
			files = append(files, emit.File{Path: fmt.Sprintf("c%d/%s", seed, file.Path), Content: file.Content})
		}
		require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("c%d.js", seed)), []byte(bundle.JS), 0o644))
		fmt.Fprintf(&script, "require(\"./c%d.js\");\n", seed)
		for _, k := range draft.Cases(again, f) {
			props := map[string]contract.Value{}
			for _, p := range again.Props {
				props[p.Name] = k.Values[p.ID]
			}
			literal, err := json.Marshal(props)
			require.NoError(t, err)
			name, err := json.Marshal(again.Name)
			require.NoError(t, err)
			fmt.Fprintf(&script, "console.log(JSON.stringify(renderToStaticMarkup(React.createElement(cobrikComponent[%s], %s))));\n", name, literal)
			want = append(want, emittest.Markup(ir.Lower(again), k.Values))
		}
	}

	assertLaidOut(t, files)
	lines := rendered(t, dir, script.String())
	require.Len(t, lines, len(want))
	for i, line := range lines {
		var got string
		require.NoError(t, json.Unmarshal([]byte(line), &got))
		require.Equal(t, plain(want[i]), plain(got))
	}
	t.Logf("%d components, %d cases rendered", components, len(want))
}

// assertLaidOut holds files to prettier and to strict TypeScript.
func assertLaidOut(t *testing.T, files []emit.File) {
	t.Helper()
	answer := reference.Ask[struct {
		Unformatted []struct{ Path, Want string }
		Errors      []string
	}](t, "format.mjs", map[string]any{"files": files})
	assert.Empty(t, answer.Errors[:min(len(answer.Errors), 12)], "%d errors", len(answer.Errors))
	for _, u := range answer.Unformatted[:min(len(answer.Unformatted), 3)] {
		for _, f := range files {
			if f.Path == u.Path {
				assert.Equal(t, u.Want, f.Content, "%s is not as prettier leaves it", u.Path)
			}
		}
	}
	require.Empty(t, answer.Unformatted, "%d files", len(answer.Unformatted))
}

// rendered runs a script beside the front end's packages, and gives what it printed, by lines.
func rendered(t *testing.T, dir, script string) []string {
	t.Helper()
	modules, err := filepath.Abs("../../../web/node_modules")
	require.NoError(t, err)
	require.NoError(t, os.Symlink(modules, filepath.Join(dir, "node_modules")))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "render.cjs"), []byte(script), 0o644))
	out, err := exec.Command("node", filepath.Join(dir, "render.cjs")).CombinedOutput()
	require.NoError(t, err, string(out[max(0, len(out)-3000):]))
	return strings.Split(strings.TrimSpace(string(out)), "\n")
}

const components = 250

// plain leaves of markup what both writers say: elements, attributes but classes, texts.
func plain(html string) string {
	html = dropped.ReplaceAllString(html, "")
	return strings.NewReplacer("&#34;", "&quot;", "&#x27;", "'", "&#39;", "'").Replace(html)
}

var dropped = regexp.MustCompile(` (class|data-part|data-use)="[^"]*"|="true"|=""`)
