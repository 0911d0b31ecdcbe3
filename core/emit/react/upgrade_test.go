package react_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

type upgraded struct {
	Files map[string]string
	Says  string
	Code  int
}

type upgradeTask struct {
	Program string            `json:"program"`
	Files   map[string]string `json:"files"`
}

func TestUsesAreRewritten(t *testing.T) {
	steps := []catalogue.MigrationStep{
		{Kind: catalogue.OptionRenamed, Prop: "tone", Value: "ripe", To: "ready", What: "ripe is ready."},
		{Kind: catalogue.PropRenamed, Prop: "tone", To: "state", What: "tone is state."},
		{Kind: catalogue.DefaultChanged, Prop: "strong", To: "loud", Given: true, What: "loud is off."},
		{Kind: catalogue.PropRenamed, Prop: "strong", To: "loud"},
		{Kind: catalogue.OptionRemoved, Prop: "size", Value: "xl", What: "size no longer takes xl."},
		{Kind: catalogue.PropRemoved, Prop: "note", What: "note is gone."},
		{Kind: catalogue.PropRequired, Prop: "label", What: "give label."},
		{Kind: catalogue.ElementRemoved, Value: "div", What: "no div."},
		{Kind: catalogue.PropsApart, Prop: "icon", Value: "picture", What: "icon or picture."},
		{Kind: catalogue.ComponentRenamed, To: "StateTag"},
	}
	program := react.Upgrade("CropTag", "1.2.0", "2.0.0", steps)
	assert.Contains(t, program, "from 1.2.0 to 2.0.0")
	const head = `import { CropTag } from "furrow";` + "\n"
	cases := []struct{ name, before, after, says string }{
		{"names and options", head + `a(<CropTag tone="ripe" strong label="a" />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag state="ready" loud label="a" />);`, ""},
		{"a default", head + `a(<CropTag label="a"></CropTag>);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag label="a" loud></StateTag>);`, ""},
		{"expressions", head + `a(<CropTag strong={x} label="a" tone={b ? "ripe" : ("sown" as const)} />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud={x} label="a" state={b ? "ready" : ("sown" as const)} />);`, ""},
		{"what is computed elsewhere", head + `a(<CropTag strong label="a" tone={tone} />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud label="a" state={tone} />);`, "ripe is ready."},
		{"an alias", `import { CropTag as Tag } from "furrow";` + "\n" + `a(<Tag strong label="a" tone="sown" />);`, `import { StateTag as Tag } from "furrow";` + "\n" + `a(<Tag loud label="a" state="sown" />);`, ""},
		{"a namespace", `import * as F from "furrow";` + "\n" + `a(<F.CropTag strong label="a"></F.CropTag>);`, `import * as F from "furrow";` + "\n" + `a(<F.StateTag loud label="a"></F.StateTag>);`, ""},
		{"what is named otherwise, too", head + `const t = CropTag; a(<CropTag strong label="a" />);`, `import { StateTag as CropTag } from "furrow";` + "\n" + `const t = CropTag; a(<CropTag loud label="a" />);`, ""},
		{"another's component", `import { Other as CropTag } from "furrow";` + "\n" + `a(<CropTag tone="ripe" />);`, `import { Other as CropTag } from "furrow";` + "\n" + `a(<CropTag tone="ripe" />);`, ""},
		{"one of their own", `const CropTag = () => null; a(<CropTag tone="ripe" note="x" />);`, `const CropTag = () => null; a(<CropTag tone="ripe" note="x" />);`, ""},
		{"what is spread", head + `a(<CropTag {...rest} label="a" tone="ripe" />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag {...rest} label="a" state="ready" />);`, "spread here"},
		{"an option that is gone", head + `a(<CropTag strong label="a" size="xl" />, <CropTag strong label="a" size="s" />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud label="a" size="xl" />, <StateTag loud label="a" size="s" />);`, "size no longer takes xl."},
		{"a prop that is gone", head + `a(<CropTag strong label="a" note="x" />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud label="a" note="x" />);`, "note is gone."},
		{"what has to be given", head + `a(<CropTag strong />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud />);`, "give label."},
		{"an element", head + `a(<CropTag strong label="a" as="div" />, <CropTag strong label="a" as="span" />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud label="a" as="div" />, <StateTag loud label="a" as="span" />);`, "no div."},
		{"what stands apart", head + `a(<CropTag strong label="a" icon="x" picture={p} />);`, `import { StateTag } from "furrow";` + "\n" + `a(<StateTag loud label="a" icon="x" picture={p} />);`, "icon or picture."},
		{"nothing of it", "export const a = 1;\n", "export const a = 1;\n", ""},
	}
	var tasks []upgradeTask
	for _, k := range cases {
		tasks = append(tasks, upgradeTask{program, map[string]string{"in/a.tsx": k.before}})
	}
	for i, got := range reference.Ask[[]upgraded](t, "upgrade.mjs", map[string]any{"tasks": tasks}) {
		k := cases[i]
		assert.Equal(t, k.after, got.Files["in/a.tsx"], k.name)
		asked := strings.Count(got.Says, "a.tsx:")
		if k.says == "" {
			assert.Zero(t, asked, "%s: %s", k.name, got.Says)
			assert.Zero(t, got.Code, k.name)
		} else {
			assert.Equal(t, 1, asked, "%s: %s", k.name, got.Says)
			assert.Contains(t, got.Says, k.says, k.name)
			assert.Equal(t, 1, got.Code, "%s: a script that runs it thinks that all is done", k.name)
		}
	}
	assert.Empty(t, react.Upgrade("CropTag", "1.0.0", "1.1.0", nil), "there is a program where there is nothing to do")
}

// Code that used the older version is of the newer one's types once it is rewritten, whatever was called otherwise.
func TestRewrittenUsesAreOfTheNewTypes(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	families, _ := demotest.Families(t, doc, tokens)
	r := rand.New(rand.NewPCG(17, 1))
	var tasks []upgradeTask
	var files []emit.File
	for round := range 2 {
		for _, f := range families {
			old := f.Contract
			now := changedNames(r, old.Clone())
			steps := catalogue.Migration(old, now)
			for _, s := range steps {
				require.True(t, s.Mechanical, "%s: %s", old.Name, s.What)
			}
			if len(steps) == 0 {
				continue
			}
			dir := fmt.Sprintf("v%d%s", round, old.Name)
			for _, file := range react.Emit(now, output.PropertiesOf(tokens), react.Options{}) {
				if !strings.HasSuffix(file.Path, ".test.tsx") && file.Path != "package.json" && file.Path != "tsconfig.json" {
					files = append(files, emit.File{Path: dir + "/" + file.Path, Content: file.Content})
				}
			}
			var b strings.Builder
			fmt.Fprintf(&b, "import { %s } from \"./index\";\n\nexport const uses = [\n", old.Name)
			list, _ := old.Variations(12)
			for _, v := range list {
				fmt.Fprintf(&b, "  %s,\n", useOf(old, v.Values))
			}
			b.WriteString("];\n")
			tasks = append(tasks, upgradeTask{react.Upgrade(old.Name, "1", "2", steps), map[string]string{dir + "/uses.tsx": b.String()}})
		}
	}
	require.Greater(t, len(tasks), 15)
	for i, done := range reference.Ask[[]upgraded](t, "upgrade.mjs", map[string]any{"tasks": tasks}) {
		assert.Zero(t, done.Code, done.Says)
		for path, text := range done.Files {
			assert.NotEqual(t, tasks[i].Files[path], text, "nothing was rewritten")
			files = append(files, emit.File{Path: path, Content: text})
		}
	}
	assertTyped(t, files)
}

// changedNames gives a contract other names: of itself, of props, of options; and other defaults.
func changedNames(r *rand.Rand, c *contract.Contract) *contract.Contract {
	if r.IntN(2) == 0 {
		c.Name += "Renewed"
	}
	for i := range c.Props {
		p := &c.Props[i]
		if t, ok := p.Type.(contract.Choice); ok && r.IntN(2) == 0 && p.From == nil {
			at := r.IntN(len(t.Options))
			was, to := contract.OptionValue(t.Options[at]), contract.OptionValue(t.Options[at]+"Now")
			t.Options[at] = string(to)
			if t.Initial == string(was) {
				t.Initial = string(to)
			}
			p.Type = t
			renameOption(c, p.ID, was, to)
		}
		if r.IntN(2) == 0 && p.Name != "children" && p.Kind() != contract.EventKind {
			p.Name += "Now"
		}
		if flag, ok := p.Type.(contract.Flag); ok && r.IntN(3) == 0 && p.From == nil {
			p.Type = contract.Flag{Initial: !flag.Initial}
		}
	}
	return c
}

func renameOption(c *contract.Contract, prop string, was, to contract.Value) {
	renamed := func(w contract.When) contract.When {
		if w.Prop(prop) == was {
			return w.WithoutProp(prop).With(contract.PropIs{Prop: prop, Value: to})
		}
		return w
	}
	for i := range c.Rules {
		c.Rules[i].When = renamed(c.Rules[i].When)
	}
	c.Walk(func(p, _ *contract.Part) { p.ShownWhen = renamed(p.ShownWhen) })
}

// useOf writes a use that gives values, but for those that are code of their own.
func useOf(c *contract.Contract, values contract.Values) string {
	given := c.Given(values)
	out := []string{"<" + c.Name, `key="1"`}
	for _, name := range slices.Sorted(maps.Keys(given)) {
		if rich, ok := given[name].(map[string]any); ok && rich["rich"] != nil {
			continue
		}
		if given[name] != nil {
			out = append(out, catalogue.Attribute(name, given[name]))
		}
	}
	return strings.Join(append(out, "/>"), " ")
}

// assertTyped holds files to strict TypeScript.
func assertTyped(t *testing.T, files []emit.File) {
	t.Helper()
	answer := reference.Ask[struct{ Errors []string }](t, "format.mjs", map[string]any{"files": files})
	assert.Empty(t, answer.Errors[:min(len(answer.Errors), 12)], "%d errors", len(answer.Errors))
}
