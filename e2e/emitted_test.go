package e2e

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/token/platform"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
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
func emitted(t *testing.T, revision int) (dir string, contracts []*contract.Contract, _ *design.Document) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, revision)
	dir = t.TempDir()
	modules, err := filepath.Abs("../web/node_modules")
	require.NoError(t, err)
	require.NoError(t, os.Symlink(modules, filepath.Join(dir, "node_modules")))
	for _, f := range doc.Families {
		c, found := draft.OfFamily(doc, f, tokens, nil)
		require.Empty(t, found)
		contracts = append(contracts, c)
		require.NoError(t, os.Mkdir(filepath.Join(dir, c.Name), 0o755))
		for _, f := range react.Emit(c, platform.PropertiesOf(tokens), react.Options{}) {
			require.NoError(t, os.WriteFile(filepath.Join(dir, c.Name, f.Path), []byte(f.Content), 0o644))
		}
	}
	return dir, contracts, doc
}

// The emitted code passes TypeScript's compiler in strict mode, and uses of it
// that are wrong do not.
func TestEmittedCodeIsStrictlyTyped(t *testing.T) {
	dir, _, _ := emitted(t, 3)
	tsc := func(project string) (string, error) {
		out, err := exec.Command("node", "../web/node_modules/typescript/bin/tsc", "-p", filepath.Join(dir, project)).CombinedOutput()
		return string(out), err
	}
	for _, name := range []string{"CropTag", "ToolRow"} {
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
	for _, f := range react.Emit(c, platform.PropertiesOf(tokens), react.Options{}) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, f.Path), []byte(f.Content), 0o644))
	}
	out, err := exec.Command("node", "../web/node_modules/typescript/bin/tsc", "-p", dir).CombinedOutput()
	require.NoError(t, err, string(out))

	html := rendered(t, dir, `import { createElement as h } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { SeedNote } from "./index";
console.log(renderToStaticMarkup(h(SeedNote, { id: "kept" })));`)
	assert.Regexp(t, `^<div class="[^"]*container"><div id="kept" class="[^"]*root"><svg `, html, "the root does not stand in the box whose width is asked")
	assert.Contains(t, html, `fill="none" stroke="#2f6132" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"`)
	assert.Contains(t, html, ">Sow by the canal</")
	sheet, err := os.ReadFile(filepath.Join(dir, "SeedNote.module.css"))
	require.NoError(t, err)
	assert.Contains(t, string(sheet), "@container (width < 240px)")
	assert.NotContains(t, string(sheet), "position: absolute", "the drawing was taken over without its containers")
}

// Every case rendered with react-dom: the texts shown, the parts hidden, the
// classes of its options, native attributes kept.
func TestEmittedCodeRendersWithReactDOM(t *testing.T) {
	dir, contracts, doc := emitted(t, 2)
	var script strings.Builder
	script.WriteString("import { createElement as h } from \"react\";\nimport { renderToStaticMarkup } from \"react-dom/server\";\n")
	type expectation struct{ name, text, option string }
	var want []expectation
	for i, c := range contracts {
		fmt.Fprintf(&script, "import * as m%d from \"./%s/index\";\n", i, c.Name)
		for _, k := range draft.Cases(c, doc.FamilyNamed(c.Name)) {
			var props []string
			e := expectation{name: c.Name + " " + k.Name}
			for _, p := range c.Props {
				v := k.Values[p.ID]
				literal, err := json.Marshal(v)
				require.NoError(t, err)
				props = append(props, fmt.Sprintf("%s: %s", p.Name, literal))
				if p.Kind() == contract.TextKind && shownText(c, k, p.ID) {
					e.text += v.String()
				}
			}
			for _, class := range ir.Lower(c).Root.Classes {
				if name := class.Values[k.Values[class.Prop]]; name != "" {
					e.option = name
				}
			}
			fmt.Fprintf(&script, "console.log(renderToStaticMarkup(h(m%d.%s, { %s, id: \"kept\", className: \"mine\" })));\n", i, c.Name, strings.Join(props, ", "))
			want = append(want, e)
		}
	}
	lines := strings.Split(strings.TrimSpace(rendered(t, dir, script.String())), "\n")
	require.Len(t, lines, len(want))
	for i, e := range want {
		text := stripTags(lines[i])
		assert.Equal(t, e.text, text, e.name)
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

// shownText tells whether the part that shows a text prop is shown in a case.
func shownText(c *contract.Contract, k draft.Case, prop string) bool {
	shown := false
	contract.Resolve(c, contract.EnvOf(k.Values), token.Empty()).Walk(func(r *contract.Resolved) {
		shown = shown || r.Part.TextProp() == prop && r.Shown
	})
	return shown
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
