package repository_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/repository"
	"cobrik/demo"
	"cobrik/demo/demotest"
)

// furrow is a repository of the demo's design system, in which all sides agree.
func furrow(t testing.TB) repository.Files {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 2)
	list, _ := demotest.Families(t, doc, tokens)
	files := repository.Files{"cobrik.json": []byte(`{ "format": "cobrik.project/1", "tokens": { "resolver": "tokens/furrow.resolver.json", "out": "build", "outputs": [{ "file": "tokens.css", "language": "css" }] },
  "contracts": ["contracts"], "designs": ["design/furrow.design.json"], "code": { "folder": "src" } }`)}
	for _, f := range demotest.TokenFiles() {
		files["tokens/"+f.Name] = f.Text
	}
	files["design/furrow.design.json"] = demo.Revisions()[1]
	for _, d := range list {
		files["contracts/"+d.Contract.Name+".json"] = d.Contract.JSON()
	}
	r, found := repository.Open(files)
	require.NotNil(t, r, "%v", found)
	require.Empty(t, found)
	for name, text := range r.Fix(font.Shipped()) {
		files[name] = text
	}
	return files
}

// sides lists what the sides do not agree on, without what a review finds in one of them.
func sides(t testing.TB, files repository.Files) (out problem.List) {
	t.Helper()
	r, found := repository.Open(files)
	require.NotNil(t, r, "%v", found)
	for _, p := range append(found, r.Check(font.Shipped())...) {
		switch p.Rule {
		case repository.DesignMoved, repository.DesignGone, repository.CodeMoved, repository.CodeMissing, repository.CodeUnknown, repository.CodeNotRead, repository.OutputMoved, repository.OutputAbsent, "project-file", "contract-twice", "contract-cycle":
			out = append(out, p)
		}
	}
	return out
}

func clone(files repository.Files) repository.Files {
	out := repository.Files{}
	for name, text := range files {
		out[name] = text
	}
	return out
}

func change(t testing.TB, files repository.Files, name, old, now string) repository.Files {
	t.Helper()
	require.Contains(t, string(files[name]), old)
	out := clone(files)
	out[name] = []byte(strings.Replace(string(files[name]), old, now, 1))
	return out
}

func TestWhatEachSideMovesIsTold(t *testing.T) {
	base := furrow(t)
	require.Empty(t, sides(t, base), "nothing moved, and something is told")
	without := func(name string) repository.Files {
		out := clone(base)
		delete(out, name)
		return out
	}
	with := func(name, text string) repository.Files {
		out := clone(base)
		out[name] = []byte(text)
		return out
	}
	third := demo.Revisions()[2]
	for _, c := range []struct {
		what  string
		files repository.Files
		rule  string
		file  string
		says  string
		line  bool
	}{
		{"a value of a style sheet", change(t, base, "src/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad)", "padding-inline: 14px"), repository.CodeMoved, "src/PlotCard/PlotCard.module.css", "body · padding-inline: 14px in the code, {card.pad} in the contract", true},
		{"a default in code", change(t, base, "src/CropTag/CropTag.tsx", `label = "Growing",`, `label = "Sprouting",`), repository.CodeMoved, "src/CropTag/CropTag.tsx", `the prop label · default: "Sprouting" in the code, "Growing" in the contract`, true},
		{"an option in code", change(t, base, "src/CropTag/CropTag.tsx", `"s" | "m"`, `"xs" | "s" | "m"`), repository.CodeMoved, "src/CropTag/CropTag.tsx", "the code has the option xs of the prop size", true},
		{"no code", without("src/ToolRow/ToolRow.tsx"), repository.CodeMissing, "contracts/ToolRow.json", "ToolRow has no code in src", true},
		{"code without a contract", with("src/Sign/Sign.tsx", "export function Sign() { return <p>Sign</p>; }\n"), repository.CodeUnknown, "src/Sign/Sign.tsx", "Sign has no contract", true},
		{"code that is not read", with("src/Old.tsx", "import { Component } from \"react\";\nexport class Old extends Component { render() { return <p>Old</p>; } }\n"), repository.CodeNotRead, "src/Old.tsx", "it is a class", true},
		{"the design", with("design/furrow.design.json", string(third)), repository.DesignMoved, "contracts/CropTag.json", "the design moved", true},
		{"a file of tokens", change(t, base, "build/tokens.css", "{", "{ /* mine */"), repository.OutputMoved, "build/tokens.css", "is not what the tokens come to", true},
		{"no file of tokens", without("build/tokens.css"), repository.OutputAbsent, "build/tokens.css", "are not written", false},
		{"a contract twice", with("contracts/again.json", string(base["contracts/CropTag.json"])), "contract-twice", "", "another contract is named CropTag", false},
		{"a file that the project names", without("tokens/furrow.resolver.json"), "project-file", "cobrik.json", "there is no file", false},
	} {
		t.Run(c.what, func(t *testing.T) {
			found := sides(t, c.files)
			require.NotEmpty(t, found, "it is passed over in silence")
			first := problem.Problem{}
			for _, p := range found {
				if p.Rule == c.rule && strings.Contains(p.Message, c.says) {
					first = p
				}
			}
			require.NotEmpty(t, first.Message, "%v", found)
			if c.file != "" {
				assert.Equal(t, c.file, first.File)
			}
			if c.line {
				assert.Positive(t, first.Line, "nobody finds the place")
			}
		})
	}
	elsewhere := with("design/furrow.design.json", strings.Replace(string(third), `"id": "furrow"`, `"id": "another"`, 1))
	assert.Empty(t, sides(t, elsewhere), "a contract is held against a design that it is not drawn from")
	r, found := repository.Open(repository.Files{})
	assert.Nil(t, r)
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Fix, "root of the repository")
}

// What is mechanical is mended, and nothing else of code is touched.
func TestFixWritesWhatIsMechanical(t *testing.T) {
	base := furrow(t)
	files := change(t, base, "src/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad)", "padding-inline: 14px /* mine */")
	files = change(t, files, "src/CropTag/CropTag.tsx", `label = "Growing",`, `label = "Sprouting",`)
	files = change(t, files, "build/tokens.css", "{", "{ /* mine */")
	for name := range files {
		if strings.HasPrefix(name, "src/ToolRow/") {
			delete(files, name)
		}
	}
	r, _ := repository.Open(files)
	fixed := r.Fix(font.Shipped())
	assert.Equal(t, string(base["build/tokens.css"]), string(fixed["build/tokens.css"]))
	assert.Equal(t, string(base["src/ToolRow/ToolRow.tsx"]), string(fixed["src/ToolRow/ToolRow.tsx"]))
	assert.Contains(t, string(fixed["src/PlotCard/PlotCard.module.css"]), "padding-inline: var(--card-pad)")
	assert.NotContains(t, fixed, "src/CropTag/CropTag.tsx", "which default is right is for people to say")
	for name, text := range fixed {
		files[name] = text
	}
	left := sides(t, files)
	require.Len(t, left, 1, "%v", left)
	assert.Contains(t, left[0].Message, "Sprouting")
	again, _ := repository.Open(files)
	assert.Empty(t, again.Fix(font.Shipped()), "what is mended is mended again")
}

func TestWhatAChangeComesTo(t *testing.T) {
	base := furrow(t)
	open := func(files repository.Files) *repository.Repository {
		r, found := repository.Open(files)
		require.NotNil(t, r, "%v", found)
		return r
	}
	level, list := open(base).Since(open(base))
	assert.Equal(t, contract.None, level)
	assert.Empty(t, list)
	patched := change(t, base, "contracts/ToolRow.json", `"7px"`, `"8px"`)
	level, list = open(patched).Since(open(base))
	assert.Equal(t, contract.Patch, level)
	require.Len(t, list, 1)
	assert.Equal(t, "ToolRow", list[0].Name)
	without := clone(base)
	delete(without, "contracts/ToolRow.json")
	level, list = open(without).Since(open(base))
	assert.Equal(t, contract.Major, level)
	assert.Equal(t, "the component is removed", list[0].Changes[0].Text)
	level, _ = open(base).Since(open(without))
	assert.Equal(t, contract.Minor, level)
}

// OASIS SARIF 2.1.0, by its published JSON Schema, which a package of the npm registry carries.
func TestTheLogIsValidSARIF(t *testing.T) {
	_, here, _, _ := runtime.Caller(0)
	schema, err := os.ReadFile(filepath.Join(filepath.Dir(here), "..", "..", "web", "node_modules", "@microsoft", "jest-sarif", "lib", "schemas", "sarif-2.1.0-rtm.5.json"))
	if os.IsNotExist(err) {
		t.Skip("left out: make web installs the schema")
	}
	require.NoError(t, err)
	parsed, err := jsonschema.UnmarshalJSON(strings.NewReader(string(schema)))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("sarif.json", parsed))
	sarif, err := compiler.Compile("sarif.json")
	require.NoError(t, err)
	files := change(t, furrow(t), "src/PlotCard/PlotCard.module.css", "padding-inline: var(--card-pad)", "padding-inline: 14px")
	r, found := repository.Open(files)
	for name, list := range map[string]problem.List{"what disagrees": append(found, r.Check(font.Shipped())...), "nothing": nil, "without a place": {{Rule: "x", Severity: problem.Warning, Message: "ü \"<>&"}}} {
		log, err := jsonschema.UnmarshalJSON(strings.NewReader(string(problem.SARIF("Cobrik", list))))
		require.NoError(t, err)
		assert.NoError(t, sarif.Validate(log), name)
	}
	var broken map[string]any
	require.NoError(t, json.Unmarshal(problem.SARIF("Cobrik", nil), &broken))
	delete(broken, "version")
	assert.Error(t, sarif.Validate(broken), "the schema takes anything")
}

// manyContracts is a repository of n components, all sides of which agree.
func manyContracts(t testing.TB, n int) repository.Files {
	files := furrow(t)
	r, _ := repository.Open(files)
	list := r.All()
	for i := len(list); i < n; i++ {
		c := list[i%len(list)].Clone()
		c.Name = fmt.Sprintf("%s%d", c.Name, i)
		files["contracts/"+c.Name+".json"] = c.JSON()
	}
	r, found := repository.Open(files)
	require.False(t, found.Failed(), "%v", found)
	for name, text := range r.Fix(font.Shipped()) {
		files[name] = text
	}
	return files
}

// A repository of 200 components, checked as a build server does: nothing remembered. Once as it was written, and once with every component edited by
// hand, so that each is read. The goal is less than 2 s.
func BenchmarkCheck200(b *testing.B) {
	files := manyContracts(b, 200)
	edited := clone(files)
	for name, text := range files {
		if strings.HasPrefix(name, "src/") && strings.HasSuffix(name, ".module.css") {
			edited[name] = append([]byte("/* by hand */\n"), text...)
		}
	}
	for what, files := range map[string]repository.Files{"written": files, "edited": edited} {
		b.Run(what, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				r, found := repository.Open(files)
				if found.Failed() {
					b.Fatal(found)
				}
				r.Check(font.Shipped())
			}
		})
	}
}
