package react_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/core/token/output"
)

// Contracts of every kind of prop, whatever they are called, become code that is valid, strict
// and laid out as prettier leaves it, and React renders from it what the contract says.
func TestEveryKindBecomesCode(t *testing.T) {
	tokens := output.PropertiesOf(token.Empty())
	var files []emit.File
	var script strings.Builder
	dir := t.TempDir()
	script.WriteString(`const React = require("react");
const { renderToStaticMarkup } = require("react-dom/server");
globalThis.cobrikModules = { react: React, "react/jsx-runtime": require("react/jsx-runtime") };
const h = React.createElement;
const run = (r) => [["code", "code"], ["emphasis", "em"], ["strong", "strong"]].reduce((n, [is, tag]) => (r[is] ? h(tag, null, n) : n), r.text);
const runs = (list) => list.map((r, i) => h(React.Fragment, { key: i }, r.link ? h("a", { href: r.link }, run(r)) : run(r)));
const rich = (blocks) => {
  if (!blocks[0].kind) return runs(blocks[0].runs);
  const out = [];
  blocks.forEach((b, i) => {
    if (b.kind !== "item") return out.push(h(b.kind === "heading" ? "h" + b.level : "p", { key: i }, runs(b.runs)));
    if (blocks[i - 1]?.kind === "item") return;
    const end = blocks.findIndex((o, k) => k > i && o.kind !== "item");
    out.push(h("ul", { key: i }, blocks.slice(i, end < 0 ? undefined : end).map((o, k) => h("li", { key: k }, runs(o.runs)))));
  });
  return out;
};
const given = (props) => Object.fromEntries(Object.entries(props).map(([k, v]) => [k, v?.rich ? rich(v.rich) : v]));
const warned = [];
console.error = (...args) => warned.push(args.map(String).join(" "));
`)
	var want []string
	kinds, dead, nested := map[contract.Kind]int{}, 0, 0
	var pool, all []*contract.Contract
	for seed := range 200 {
		m := emittest.NewMaker(uint64(seed), fmt.Sprintf("Some%d", seed), pool)
		c := m.Contract()
		found := c.Check(token.Empty())
		if len(found) > 0 && !slices.ContainsFunc(found, func(p problem.Problem) bool { return p.Rule != "part-dead" && p.Rule != "use-dead" }) {
			dead++
			continue
		}
		require.Empty(t, found, "seed %d: %s", seed, c.JSON())
		again, found := contract.Read("c", c.JSON(), nil)
		require.NotNil(t, again, "seed %d: reading refuses what was written: %s\n%s", seed, found, c.JSON())
		require.Equal(t, string(c.JSON()), string(again.JSON()), "seed %d", seed)
		changed, cycle := emittest.Linked(again, all)
		require.False(t, changed, "seed %d: linking again changes it", seed)
		require.Empty(t, cycle)
		for _, p := range c.Props {
			kinds[p.Kind()]++
		}
		if len(again.UsedParts()) > 0 {
			nested++
		}
		all = append(all, again)
		if seed%4 == 0 {
			pool = append(pool[max(0, len(pool)-5):len(pool):len(pool)], again)
		}
		one := react.Emit(again, tokens, react.Options{})
		bundle, found := compile.React(one)
		require.Empty(t, found, "seed %d: %s", seed, one[0].Content)
		for _, file := range one {
			files = append(files, emit.File{Path: fmt.Sprintf("c%d/%s", seed, file.Path), Content: file.Content})
		}
		require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("c%d.js", seed)), []byte(bundle.JS), 0o644))
		fmt.Fprintf(&script, "require(\"./c%d.js\");\n", seed)
		for range 5 {
			values := m.Values()
			literal, err := json.Marshal(again.Given(values))
			require.NoError(t, err)
			fmt.Fprintf(&script, "console.log(JSON.stringify(renderToStaticMarkup(h(cobrikComponent[%q], given(%s)))));\n", again.Name, literal)
			m := ir.Lower(again)
			want = append(want, emittest.Markup(m, values))
			checkPaths(t, m.Paths(values), want[len(want)-1], contract.Resolve(again, contract.EnvOf(values), token.Empty()))
		}
	}
	assert.Less(t, dead, 60, "most contracts hold a part that is never there")
	assert.Greater(t, nested, 60, "hardly any component uses another")
	for _, kind := range contract.PropKinds {
		assert.Greater(t, kinds[kind], 30, "hardly any %s was tried", kind)
	}

	assertLaidOut(t, files)
	script.WriteString("if (warned.length) { process.stderr.write(warned.slice(0, 5).join(\"\\n\")); process.exit(1); }\n")
	lines := rendered(t, dir, script.String())
	require.Len(t, lines, len(want))
	for i, line := range lines {
		var got string
		require.NoError(t, json.Unmarshal([]byte(line), &got))
		require.Equal(t, bare(want[i]), bare(got), "case %d", i)
	}
}

// checkPaths looks whether each part that is shown stands where the paths say, as an HTML parser
// reads the markup, and no other.
func checkPaths(t *testing.T, paths map[string][]int, markup string, resolved *contract.Resolved) {
	t.Helper()
	nodes, err := html.ParseFragment(strings.NewReader(markup), &html.Node{Type: html.ElementNode, Data: "body", DataAtom: atom.Body})
	require.NoError(t, err)
	shown := 0
	var inside func(r *contract.Resolved)
	inside = func(r *contract.Resolved) {
		if r.Inside != nil {
			r.Inside.Walk(inside)
		}
		if !r.Shown {
			return
		}
		shown++
		path, ok := paths[r.Key()]
		if !assert.True(t, ok, "%s is shown, and nowhere: %s", r.Key(), markup) {
			return
		}
		at := nodes[0]
		for _, step := range path {
			for c := range at.ChildNodes() {
				if c.Type == html.ElementNode {
					if step == 0 {
						at = c
						break
					}
					step--
				}
			}
		}
		id := ""
		for _, a := range at.Attr {
			if a.Key == "data-part" && r.Part.Use() == nil || a.Key == "data-use" && r.Part.Use() != nil {
				id = a.Val
			}
		}
		assert.Equal(t, r.Part.ID, id, "%s at %v of %s", r.Key(), path, markup)
	}
	resolved.Walk(inside)
	assert.Len(t, paths, shown, "parts that are not shown have a place: %s", markup)
}

// bare is plain without the ids that React makes up.
func bare(markup string) string {
	markup = pictureData.ReplaceAllString(markup, "") // as bundlers write it
	markup = ids.ReplaceAllString(plain(markup), "")
	return strings.NewReplacer(`<hr/>`, `<hr>`, `/>`, `>`).Replace(markup)
}

var ids = regexp.MustCompile(` (id|aria-describedby)="[^"]*"`)

var pictureData = regexp.MustCompile(`data:image/svg\+xml[^"]*`)
