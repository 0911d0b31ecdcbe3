package merge_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/react"
	"cobrik/core/source"
	"cobrik/core/source/merge"
	"cobrik/core/source/syntax"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/web/reference"
)

// agreed changes a contract as people do on the Bench, and gives the marks that its code must have then.
func agreed(r *rand.Rand, c *contract.Contract) {
	var parts []*contract.Part
	c.Walk(func(p, _ *contract.Part) {
		if p.Use() == nil && p.Element != "svg" {
			parts = append(parts, p)
		}
	})
	p := parts[r.IntN(len(parts))]
	set := func(property, value string) {
		if p.Style == nil {
			p.Style = contract.Style{}
		}
		p.Style[property] = value
	}
	switch r.IntN(6) {
	case 0:
		set("opacity", fmt.Sprintf("0.%d", 10+r.IntN(80)))
	case 1:
		set("padding-inline", fmt.Sprintf("%dpx", 1+r.IntN(40)))
	case 2:
		c.Props = append(c.Props, contract.Prop{ID: "agreedFlag", Name: "agreedFlag", Type: contract.Flag{}})
		c.Rules = append(c.Rules, contract.Rule{Part: p.ID, When: contract.Of(contract.PropIs{Prop: "agreedFlag", Value: contract.FlagValue(true)}), Set: contract.Style{"opacity": "0.111"}})
	case 3:
		c.Props = append(c.Props, contract.Prop{ID: "agreedText", Name: "agreedText", Type: contract.Text{Initial: "agreed"}})
		c.Root.Children = append(c.Root.Children, &contract.Part{ID: "agreedPart", Name: "agreedPart", Element: "span", Style: contract.Style{"font-weight": "700"}, Content: contract.TextOf{Prop: "agreedText"}})
	case 4:
		if len(c.Rules) > 0 {
			c.Rules = slices.Delete(c.Rules, 0, 1)
		}
	case 5:
		c.Purpose = "Agreed otherwise."
	}
}

// byHand changes a file as developers do, and gives what has to be in it afterwards.
func byHand(r *rand.Rand, name, text string, n int) (out, mark string) {
	if strings.HasSuffix(name, ".css") {
		tree, _ := syntax.CSS(name, []byte(text))
		var declarations, rules []*syntax.Node
		tree.Root.Walk(func(n *syntax.Node) bool {
			if n.Kind == syntax.Declaration {
				declarations = append(declarations, n)
			}
			if n.Kind == syntax.Rule && n.Parent == tree.Root {
				rules = append(rules, n)
			}
			return true
		})
		switch r.IntN(4) {
		case 0:
			mark = fmt.Sprintf(".byHand%d { top: %dpx; }", n, n)
			if len(rules) == 0 {
				return text + mark + "\n", mark
			}
			at := rules[r.IntN(len(rules))].From
			return text[:at] + mark + "\n\n" + text[at:], mark
		case 1:
			if len(declarations) > 0 {
				d := declarations[r.IntN(len(declarations))]
				mark = fmt.Sprintf("/* by hand %d */", n)
				return text[:d.From] + mark + "\n  " + text[d.From:], mark
			}
		case 2:
			if len(declarations) > 0 {
				d := declarations[r.IntN(len(declarations))]
				mark = fmt.Sprintf("outline-offset: %dpx;", n)
				return text[:d.From] + mark + "\n  " + text[d.From:], mark
			}
		}
		return strings.ReplaceAll(text, "  ", "    "), ""
	}
	tree, _ := syntax.TSX(name, []byte(text))
	var elements, statements []*syntax.Node
	tree.Root.Walk(func(n *syntax.Node) bool {
		if n.Is("jsx_opening_element", "jsx_self_closing_element") && n.Child("name").Is("identifier") && strings.ToLower(n.Child("name").Text()[:1]) == n.Child("name").Text()[:1] && n.Child("name").Text()[0] < 0x80 {
			elements = append(elements, n)
		}
		if n.Parent.Is("statement_block") && n.Is("lexical_declaration", "return_statement") {
			statements = append(statements, n)
		}
		return true
	})
	switch r.IntN(5) {
	case 0:
		if len(elements) > 0 {
			e := elements[r.IntN(len(elements))]
			mark = fmt.Sprintf(`data-by-hand-%d=""`, n)
			at := e.Child("name").To
			return text[:at] + " " + mark + text[at:], mark
		}
	case 1:
		s := statements[r.IntN(len(statements))]
		mark = fmt.Sprintf("// by hand %d", n)
		return text[:s.From] + mark + "\n  " + text[s.From:], mark
	case 2:
		mark = fmt.Sprintf("export const byHand%d = %d;", n, n)
		return text + "\n" + mark + "\n", mark
	case 3:
		if at := strings.Index(text, "\nimport styles"); at >= 0 {
			mark = fmt.Sprintf("import * as byHand%d from \"react\";", n)
			return text[:at] + "\n" + mark + text[at:], mark
		}
	}
	return strings.ReplaceAll(text, "\n", "\n\n"), ""
}

// Random changes of a random contract, and random changes by hand of the code that was written of it, are both in what is merged: what
// the contract says otherwise is what the code says then, what people wrote is there, and it type-checks.
func TestRandomChangesAreBothInTheMerge(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	var library []emit.File
	merged, conflicts, tried := 0, 0, 0
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 5))
		make := func() *contract.Contract { return emittest.NewMaker(seed, fmt.Sprintf("Some%d", seed), nil).Contract() }
		was, now := make(), make()
		if len(was.Check(token.Empty())) > 0 {
			continue
		}
		for range 1 + r.IntN(3) {
			agreed(r, now)
		}
		if found := now.Check(token.Empty()); found.Failed() {
			continue
		}
		tried++
		before, after := react.Emit(was, properties, react.Options{}), react.Emit(now, properties, react.Options{})
		var files []source.File
		clean := true
		var marks []string
		for _, f := range after {
			base := ""
			for _, b := range before {
				if b.Path == f.Path {
					base = b.Content
				}
			}
			text := f.Content
			if strings.HasPrefix(f.Path, was.Name+".") && !strings.HasSuffix(f.Path, ".d.ts") {
				theirs := base
				for n := range 1 + r.IntN(3) {
					var mark string
					if theirs, mark = byHand(r, f.Path, theirs, int(seed)*10+n); mark != "" {
						marks = append(marks, mark)
					}
				}
				marks = slices.DeleteFunc(marks, func(mark string) bool { // they wrote into it again
					return strings.HasSuffix(f.Path, ".css") && (strings.HasPrefix(mark, ".") || strings.HasPrefix(mark, "outline")) && !strings.Contains(theirs, mark)
				})
				m := merge.Merge(f.Path, []byte(base), []byte(f.Content), []byte(theirs), nil)
				if len(m.Conflicts) > 0 {
					clean = false
					conflicts++
					for side, want := range map[merge.Side]string{merge.Ours: f.Content, merge.Theirs: theirs} { // either can be chosen
						choose := map[string]merge.Side{}
						for _, c := range m.Conflicts {
							choose[c.Key] = side
						}
						one := merge.Merge(f.Path, []byte(base), []byte(f.Content), []byte(theirs), choose)
						assert.False(t, strings.Contains(one.Text, "<<<<<<<"), "seed %d: %s: %s is chosen of %v", seed, f.Path, side, m.Conflicts)
						_ = want
					}
				}
				text = m.Text
			}
			files = append(files, source.File{Name: f.Path, Text: []byte(text)})
			library = append(library, emit.File{Path: fmt.Sprintf("c%d/%s", seed, f.Path), Content: text})
		}
		if !clean {
			library = slices.DeleteFunc(library, func(f emit.File) bool { return strings.HasPrefix(f.Path, fmt.Sprintf("c%d/", seed)) })
			continue
		}
		merged++
		all := ""
		for _, f := range files {
			all += string(f.Text)
		}
		for _, mark := range marks {
			assert.True(t, strings.Contains(all, mark), "seed %d: what people wrote is lost: %s", seed, mark)
		}
		reading := source.Open(files).Read(was.Name+".tsx", was.Name, source.Options{})
		require.NotNil(t, reading, "seed %d", seed)
		reading.Align(now)
		got, old := map[source.Subject]string{}, map[source.Subject]string{}
		for _, f := range source.Facts(reading.Contract) {
			got[f.About] = f.Value
		}
		for _, f := range source.Facts(was) {
			old[f.About] = f.Value
		}
		for _, f := range source.Facts(now) {
			if old[f.About] != f.Value {
				assert.Equal(t, f.Value, got[f.About], "seed %d: %s is not in the merge", seed, f.About)
			}
		}
	}
	assert.Greater(t, merged, tried*7/10, "hardly anything goes together")
	t.Logf("%d of %d merged, %d files with conflicts", merged, tried, conflicts)
	library = append(library, emit.File{Path: "tsconfig.json", Content: `{ "compilerOptions": { "target": "ES2022", "module": "ESNext", "moduleResolution": "bundler", "jsx": "react-jsx", "lib": ["ES2022", "DOM"], "strict": true, "noUncheckedIndexedAccess": true, "skipLibCheck": true, "noEmit": true }, "include": ["**/*.ts", "**/*.tsx"] }`})
	answer := reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": library})
	for _, line := range answer.Types {
		t.Error("what is merged does not type-check: ", line)
	}
}

// One value that both change to another is told, always.
func TestWhatBothChangeIsAlwaysTold(t *testing.T) {
	properties := output.PropertiesOf(token.Empty())
	told := 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 6))
		c := emittest.NewMaker(seed, fmt.Sprintf("Some%d", seed), nil).Contract()
		if len(c.Check(token.Empty())) > 0 {
			continue
		}
		for _, f := range react.Emit(c, properties, react.Options{}) {
			if f.Path != c.Name+".module.css" {
				continue
			}
			tree, _ := syntax.CSS(f.Path, []byte(f.Content))
			var values []*syntax.Node
			tree.Root.Walk(func(n *syntax.Node) bool {
				if n.Kind == "value" {
					values = append(values, n)
				}
				return true
			})
			if len(values) == 0 {
				continue
			}
			v := values[r.IntN(len(values))]
			with := func(text string) []byte { return []byte(f.Content[:v.From] + text + f.Content[v.To:]) }
			m := merge.Merge(f.Path, []byte(f.Content), with("unset"), with("revert"), nil)
			if assert.Len(t, m.Conflicts, 1, "seed %d: %s", seed, m.Text) {
				assert.Equal(t, v.Text()+" unset revert", m.Conflicts[0].Base+" "+m.Conflicts[0].Ours+" "+m.Conflicts[0].Theirs)
				assert.Equal(t, string(with("unset")), merge.Merge(f.Path, []byte(f.Content), with("unset"), with("revert"), map[string]merge.Side{m.Conflicts[0].Key: merge.Ours}).Text)
			}
			told++
		}
	}
	assert.Greater(t, told, 100)
}

// Whatever three texts are, a merge ends, and without conflicts it holds no marks.
func FuzzMerge(f *testing.F) {
	f.Add("a.css", sheetBase, strings.Replace(sheetBase, "8px", "9px", 1), strings.Replace(sheetBase, "flex", "grid", 1))
	f.Add("a.tsx", codeBase, strings.Replace(codeBase, "calm", "shy", 2), strings.Replace(codeBase, "Growing", "Ripe", 1))
	f.Add("a.tsx", "const a = 1, b = 2;", "const a = 1;", "const b = 3;")
	f.Add("a.css", "a{b:c}", "a{b:c;d:e}", "a{}")
	f.Fuzz(func(t *testing.T, name, base, ours, theirs string) {
		if name != "a.css" {
			name = "a.tsx"
		}
		m := merge.Merge(name, []byte(base), []byte(ours), []byte(theirs), nil)
		if len(m.Conflicts) == 0 && !strings.Contains(base+ours+theirs, "<<<<<<<") && strings.Contains(m.Text, "<<<<<<<") {
			t.Fatal("marks without a conflict")
		}
		choose := map[string]merge.Side{}
		for _, c := range m.Conflicts {
			choose[c.Key] = merge.Theirs
		}
		_ = merge.Merge(name, []byte(base), []byte(ours), []byte(theirs), choose)
	})
}
