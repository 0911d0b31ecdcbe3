package e2e

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/token/output"
	"encoding/json"
	"fmt"
	"html"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/evanw/esbuild/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// emitted writes every family's code of a revision into a folder that sees the
// front end's packages.
func emitted(t *testing.T, revision int) (dir string, families []demotest.Drafted) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, revision)
	dir = t.TempDir()
	modules, err := filepath.Abs("../web/node_modules")
	require.NoError(t, err)
	require.NoError(t, os.Symlink(modules, filepath.Join(dir, "node_modules")))
	families, _ = demotest.Families(t, doc, tokens)
	for _, c := range families {
		for _, f := range react.Emit(c.Contract, output.PropertiesOf(tokens), react.Options{}) {
			at := filepath.Join(dir, c.Name, f.Path)
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
			require.NoError(t, os.WriteFile(at, []byte(f.Content), 0o644))
		}
	}
	return dir, families
}

// The emitted code passes TypeScript's compiler in strict mode, and uses of it
// that are wrong do not.
func TestEmittedCodeIsStrictlyTyped(t *testing.T) {
	dir, _ := emitted(t, 3)
	tsc := func(project string) (string, error) {
		out, err := exec.Command("node", "../web/node_modules/typescript/bin/tsc", "-p", filepath.Join(dir, project)).CombinedOutput()
		return string(out), err
	}
	for _, name := range []string{"CropTag", "ToolRow", "PlotCard", "PageShell"} {
		out, err := tsc(name)
		require.NoError(t, err, "%s: %s", name, out)
	}
	use := func(jsx string) string {
		text := "import { createRef } from \"react\";\nimport { CropTag } from \"./index\";\nexport const ref = createRef<HTMLSpanElement>();\nexport const use = " + jsx + ";\n"
		require.NoError(t, os.WriteFile(filepath.Join(dir, "CropTag", "use.tsx"), []byte(text), 0o644))
		out, _ := tsc("CropTag")
		return out
	}
	assert.Empty(t, use(`<CropTag ref={ref} size="l" tone="planted" strong title="x" aria-label="y" onClick={() => {}} className="mine" style={{ margin: 1 }} />`),
		"native attributes and ref are not passed on")
	assert.Contains(t, use(`<CropTag tone="sown" />`), `"sown"`, "an option that was renamed still passes")
	assert.Contains(t, use(`<CropTag href="/x" />`), "href")
	assert.Contains(t, use(`<CropTag>children</CropTag>`), "children")
}

// From an SVG file to React: a drawing without flow, with a line icon, that
// stacks in narrow containers.
func TestADrawingFromAnSVGIsEmitted(t *testing.T) {
	fonts := font.Shipped()
	doc, found := design.ImportSVG("note.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="320" height="48"><g id="note" data-name="Seed note">
		<rect width="320" height="48" fill="#f4efe7" rx="4"/>
		<path id="leaf" d="M16 32C16 20 24 16 32 16C32 28 24 32 16 32Z" fill="none" stroke="#2f6132" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"/>
		<text id="words" x="44" y="29" font-family="Hanken Grotesk" font-size="14">Sow by the canal</text>
	</g></svg>`), fonts)
	require.NotNil(t, doc, found)
	tokens := new(token.Set)
	c, _, found := draft.Of(doc, contract.Origin{Layer: "note"}, "SeedNote", tokens, fonts, nil)
	require.NotNil(t, c, found)
	require.Empty(t, c.Arrange("root", contract.Arrangement{Kind: "stack"}, contract.EditSite{Env: contract.Env{Container: 200}, Below: 240}, tokens))
	dir := t.TempDir()
	modules, err := filepath.Abs("../web/node_modules")
	require.NoError(t, err)
	require.NoError(t, os.Symlink(modules, filepath.Join(dir, "node_modules")))
	for _, f := range react.Emit(c, output.PropertiesOf(tokens), react.Options{}) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, f.Path), []byte(f.Content), 0o644))
	}
	out, err := exec.Command("node", "../web/node_modules/typescript/bin/tsc", "-p", dir).CombinedOutput()
	require.NoError(t, err, string(out))

	markup := rendered(t, dir, `import { createElement as h } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { SeedNote } from "./index";
console.log(renderToStaticMarkup(h(SeedNote, { id: "kept" })));`)
	assert.Regexp(t, `^<div class="[^"]*container"><div id="kept" class="[^"]*root"><svg `, markup, "the root does not stand in the box whose width is asked")
	assert.Contains(t, markup, `fill="none" stroke="#2f6132" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"`)
	assert.Contains(t, markup, ">Sow by the canal</")
	sheet, err := os.ReadFile(filepath.Join(dir, "SeedNote.module.css"))
	require.NoError(t, err)
	assert.Contains(t, string(sheet), "@container (width < 240px)")
	assert.NotContains(t, string(sheet), "position: absolute", "the drawing was taken over without its containers")
}

// Every case rendered with react-dom: the texts shown, the parts hidden, the
// classes of its options, native attributes kept.
func TestEmittedCodeRendersWithReactDOM(t *testing.T) {
	dir, families := emitted(t, 2)
	var script strings.Builder
	script.WriteString("import { createElement as h } from \"react\";\nimport { renderToStaticMarkup } from \"react-dom/server\";\n")
	type expectation struct{ name, text, option string }
	var want []expectation
	for i, c := range families {
		fmt.Fprintf(&script, "import * as m%d from \"./%s/index\";\n", i, c.Name)
		for _, k := range draft.Cases(c.Contract, c.Family) {
			given := k.Values.With(nil)
			for _, p := range c.Props {
				if p.Kind() == contract.RichKind { // code, in a use; the default is as drawn
					delete(given, p.ID)
				}
			}
			literal, err := json.Marshal(c.Given(given))
			require.NoError(t, err)
			e := expectation{name: c.Name + " " + k.Name, text: texts(contract.Resolve(c.Contract, k.Env(), token.Empty()))}
			for _, class := range ir.Lower(c.Contract).Root.Classes {
				if name := class.Values[k.Values[class.Prop]]; name != "" {
					e.option = name
				}
			}
			fmt.Fprintf(&script, "console.log(renderToStaticMarkup(h(m%d.%s, { ...%s, id: \"kept\", className: \"mine\" })));\n", i, c.Name, literal)
			want = append(want, e)
		}
	}
	lines := strings.Split(strings.TrimSpace(rendered(t, dir, script.String())), "\n")
	require.Len(t, lines, len(want))
	for i, e := range want {
		text := stripTags(lines[i])
		assert.Equal(t, e.text, html.UnescapeString(text), e.name)
		assert.Contains(t, lines[i], `id="kept"`, e.name)
		assert.Contains(t, lines[i], ` mine"`, e.name)
		assert.Contains(t, lines[i], e.option, e.name)
	}
}

// rendered bundles a script beside emitted code and gives what it prints in Node.
func rendered(t *testing.T, dir, script string) string {
	t.Helper()
	entry := filepath.Join(dir, "render.ts")
	require.NoError(t, os.WriteFile(entry, []byte(script), 0o644))
	result := api.Build(api.BuildOptions{EntryPoints: []string{entry}, Bundle: true, Platform: api.PlatformNode, Outfile: filepath.Join(dir, "render.cjs"), Write: true,
		JSX: api.JSXAutomatic, Loader: map[string]api.Loader{".module.css": api.LoaderLocalCSS}})
	require.Empty(t, result.Errors)
	out, err := exec.Command("node", filepath.Join(dir, "render.cjs")).CombinedOutput()
	require.NoError(t, err, string(out))
	return string(out)
}

// texts gives all that a tree says, in the order of the document.
func texts(r *contract.Resolved) string {
	if !r.Shown {
		return ""
	}
	if r.Inside != nil {
		return texts(r.Inside)
	}
	out := r.Text
	for _, c := range slices.Concat(r.Filled, r.Children) {
		out += texts(c)
	}
	return out
}

func stripTags(html string) string {
	var b strings.Builder
	in := false
	for _, r := range html {
		switch r {
		case '<':
			in = true
		case '>':
			in = false
		default:
			if !in {
				b.WriteRune(r)
			}
		}
	}
	return b.String()
}
