package react_test

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/react"
	"cobrik/core/primitive"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// saveButton is made by hand to hold what the demo does not: a button with a state of its
// own, a stretched drawing and one that is not, lines of several widths, what fills, what
// is hidden by its parent, and a rule for each kind of condition.
func saveButton() *contract.Contract {
	part := func(id, element string, style contract.Style, content contract.Content, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Style: style, Content: content, Children: children}
	}
	square := contract.Path{D: "M0 0H16V16Z", Stroke: contract.PathStroke{Color: "#123456", Width: 1.5, Cap: "round"}}
	tail := part("tail", "span", nil, nil, part("count", "span", nil, contract.TextOf{Prop: "count"}))
	tail.ShownWhen = contract.Of(contract.PropIs{Prop: "busy", Value: contract.FlagValue(true)}, contract.PropIs{Prop: "size", Value: contract.OptionValue("2xl")})
	quiet := part("quiet", "em", nil, contract.FixedText{Text: "Braces { } & \"quotes\" stay text"})
	quiet.ShownWhen = contract.Of(contract.PropIs{Prop: "busy", Value: contract.FlagValue(false)})
	root := part("root", "button", contract.Style{"display": "flex", "width": "100%", "border-width": "1px 2px", "border-style": "solid", "border-color": "#123456", "transition": "color 120ms ease, opacity 1s"}, nil,
		part("icon", "svg", contract.Style{"width": "16px", "height": "16px"}, &contract.Vector{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []contract.Path{square}, Label: "Saved <here>"}),
		part("rule", "svg", contract.Style{"width": "100%", "height": "2px"}, &contract.Vector{ViewBox: [4]float64{0, 0, 100, 2}, Paths: []contract.Path{{D: "M0 0H100V2Z", Fill: "none"}}}),
		part("photo", "span", contract.Style{"width": "20px", "height": "20px"}, contract.Picture{Alt: "A bed"}),
		part("label", "strong", contract.Style{"flex": "1 1 0%", "min-width": "0", "border-width": "1px", "border-style": "dashed", "border-color": "{line}"}, contract.TextOf{Prop: "label"}),
		tail, quiet)
	when := func(terms ...contract.Term) contract.When { return contract.Of(terms...) }
	busy := contract.PropIs{Prop: "busy", Value: contract.FlagValue(true)}
	big := contract.PropIs{Prop: "size", Value: contract.OptionValue("2xl")}
	return &contract.Contract{Format: contract.Format, Name: "SaveButton", Purpose: "Saves what was written; see */ the rota.",
		Props: []contract.Prop{
			{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"m", "2xl"}, Initial: "m"}},
			{ID: "disabled", Name: "disabled", Purpose: "Nothing can be saved.", Type: contract.Flag{}},
			{ID: "busy", Name: "for", Type: contract.Flag{Initial: true}},
			{ID: "label", Name: "title", Type: contract.Text{Initial: `Say "save"`}, Part: "label"},
			{ID: "count", Name: "rest", Type: contract.Text{Initial: "3"}, Part: "count"},
		},
		Root: root,
		Rules: []contract.Rule{
			{Part: "label", When: when(big), Set: contract.Style{"font-size": "2em"}},
			{Part: "root", When: when(big, busy), Set: contract.Style{"opacity": "0.9"}},
			{Part: "root", When: when(busy), Set: contract.Style{"opacity": "0.8"}}, // wins, though it names less
			{Part: "root", When: when(contract.InState{State: "hover"}), Set: contract.Style{"cursor": "pointer"}},
			{Part: "label", When: when(contract.InState{State: "focus-visible"}, big), Set: contract.Style{"color": "{line}"}},
			{Part: "label", When: when(contract.Theme{Modifier: "theme", Context: "dusk"}), Set: contract.Style{"color": "#ffffff"}},
			{Part: "root", When: when(contract.Theme{Modifier: "theme", Context: "dusk"}, big), Set: contract.Style{"background-color": "#000000"}},
			{Part: "icon", When: when(contract.Direction{Is: "rtl"}), Set: contract.Style{"transform": "scaleX(-1)"}},
			{Part: "root", When: when(contract.Viewport{Range: contract.Range{From: 600, Below: 900}}), Set: contract.Style{"gap": "2px"}},
			{Part: "label", When: contract.BelowWidth(480.5), Set: contract.Style{"display": "none"}},
		}}
}

// bedList is made by hand to hold a prop of every kind, as a person would use it.
func bedList() *contract.Contract {
	part := func(id, element string, content contract.Content, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Content: content, Children: children}
	}
	with := func(p *contract.Part, name string, a contract.Attribute) *contract.Part {
		if p.Attributes == nil {
			p.Attributes = map[string]contract.Attribute{}
		}
		p.Attributes[name] = a
		return p
	}
	n := func(f float64) *float64 { return &f }
	leaf := contract.Vector{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []contract.Path{{D: "M8 2C4 6 4 10 8 14Z"}}}
	drop := contract.Vector{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []contract.Path{{D: "M8 2L12 10H4Z"}}, Label: "Dry"}
	entry := with(with(part("entry", "a", nil, part("entryIcon", "svg", contract.IconOf{Prop: "beds.icon"}), part("entryName", "span", contract.TextOf{Prop: "beds.name"})), "href", contract.Attribute{Prop: "beds.to"}), "aria-current", contract.Attribute{Prop: "beds.here"})
	item := part("item", "li", nil, entry)
	item.Repeat = "beds"
	list := part("list", "ul", nil, item)
	list.ShownWhen = contract.Of(contract.PropSet{Prop: "beds", Set: true})
	heading := part("heading", "h2", contract.TextOf{Prop: "title"})
	heading.Level = "level"
	count := part("count", "output", contract.TextOf{Prop: "count"})
	count.ShownWhen = contract.Of(contract.NumberIs{Prop: "count", Low: contract.Bound{At: 0, Kind: contract.Exclusive}}, contract.PropIs{Prop: "dense", Value: contract.FlagValue(false)})
	root := with(with(with(part("root", "section", nil,
		heading, part("photo", "img", contract.ImageOf{Prop: "photo"}, part("noPhoto", "span", contract.FixedText{Text: "No picture yet"})),
		part("notice", "div", contract.TextOf{Prop: "notice"}), count, list,
		with(part("fieldName", "label", contract.FixedText{Text: "Only dry beds"}), "for", contract.Attribute{Part: "field"}),
		with(with(part("field", "input", nil), "type", contract.Attribute{Text: "checkbox"}), "checked", contract.Attribute{Prop: "dry"}),
		part("foot", "footer", contract.SlotOf{Prop: "foot"}, part("noFoot", "small", contract.FixedText{Text: "Nothing planned"}))),
		"aria-labelledby", contract.Attribute{Part: "heading"}), "title", contract.Attribute{Prop: "hint"}), "role", contract.Attribute{Text: "region"})
	set := func(property, value string) contract.Style { return contract.Style{property: value} }
	return &contract.Contract{Format: contract.Format, Name: "BedList", Purpose: "The beds of a plot.", Root: root,
		Props: []contract.Prop{
			{ID: "title", Name: "heading", Purpose: "What the beds have in common.", Type: contract.Text{}, Required: true, Example: contract.TextValue("Leeks")},
			{ID: "level", Name: "level", Purpose: "Of the heading, as the page needs it.", Type: contract.Number{Initial: n(2), Least: n(1), Most: n(6), Step: 1}},
			{ID: "notice", Name: "notice", Type: contract.Rich{Initial: contract.RichValue{{Kind: "paragraph", Runs: []contract.Run{{Text: "Water "}, {Text: "twice", Strong: true}}}, {Kind: "item", Runs: []contract.Run{{Text: "at dawn"}}}}}},
			{ID: "dense", Name: "dense", Type: contract.Flag{}},
			{ID: "count", Name: "count", Type: contract.Number{}},
			{ID: "photo", Name: "photo", Type: contract.Image{Aspect: 1.5}},
			{ID: "hint", Name: "hint", Type: contract.Text{}, Deprecated: "write it into the notice"},
			{ID: "dry", Name: "dry", Type: contract.Flag{Initial: true}},
			{ID: "beds", Name: "beds", Type: contract.List{Items: []contract.Prop{
				{ID: "name", Name: "name", Purpose: "Of the bed.", Type: contract.Text{}, Required: true}, {ID: "to", Name: "to", Type: contract.Link{}}, {ID: "here", Name: "here", Type: contract.Flag{}},
				{ID: "icon", Name: "icon", Type: contract.Icon{Options: []contract.NamedIcon{{Name: "leaf", Vector: leaf}, {Name: "dry-spell", Vector: drop}}}},
			}}},
			{ID: "foot", Name: "children", Type: contract.Slot{}},
			{ID: "opened", Name: "onOpen", Type: contract.Event{On: "click"}, Part: "root"},
			{ID: "chosen", Name: "onDryChange", Type: contract.Event{On: "change"}, Part: "field"},
		},
		Rules: []contract.Rule{
			{Part: "entry", When: contract.Of(contract.PropIs{Prop: "beds.here", Value: contract.FlagValue(true)}), Set: set("font-weight", "600")},
			{Part: "entryName", When: contract.Of(contract.PropIs{Prop: "beds.here", Value: contract.FlagValue(true)}, contract.PropIs{Prop: "dense", Value: contract.FlagValue(true)}), Set: set("opacity", "0.9")},
			{Part: "count", When: contract.Of(contract.NumberIs{Prop: "count", Low: contract.Bound{At: 9, Kind: contract.Exclusive}}), Set: set("font-weight", "700")},
			{Part: "heading", When: contract.Of(contract.PropSet{Prop: "photo", Set: false}), Set: set("font-size", "2em")},
			{Part: "root", When: contract.Of(contract.InState{State: "expanded"}), Set: set("opacity", "0.95")},
			{Part: "root", When: contract.Of(contract.Container{Name: "board", Range: contract.Range{From: 480}}), Set: set("gap", "2px")},
		}}
}

// What is emitted, byte for byte: a change of it is seen, and is meant. COBRIK_GOLDEN=write
// writes the files anew.
func TestEmittedFilesAreTheGoldenOnes(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	line, found := token.Read(token.File{Name: "t", Text: []byte(`{"line":{"$type":"color","$value":{"colorSpace":"srgb","components":[0,0,0]}}}`)})
	require.Empty(t, found)
	save := saveButton()
	require.Empty(t, save.Check(line))
	type one struct {
		c      *contract.Contract
		tokens *token.Set
	}
	beds := bedList()
	require.Empty(t, beds.Check(line))
	all := []one{{save, line}, {beds, line}}
	families, _ := demotest.Families(t, doc, tokens)
	for _, f := range families {
		if slices.Contains([]string{"CropTag", "ToolRow", "ActionButton", "PlotCard", "PageShell"}, f.Name) {
			all = append(all, one{f.Contract, tokens})
		}
	}
	all = append(all, one{primitive.Named("Split", tokens), tokens})
	var files []emit.File
	for _, o := range all {
		for _, f := range react.Emit(o.c, output.PropertiesOf(o.tokens), react.Options{}) {
			files = append(files, emit.File{Path: o.c.Name + "/" + f.Path, Content: f.Content})
			golden := filepath.Join("testdata", o.c.Name, f.Path+".golden")
			if os.Getenv("COBRIK_GOLDEN") == "write" {
				require.NoError(t, os.MkdirAll(filepath.Dir(golden), 0o755))
				require.NoError(t, os.WriteFile(golden, []byte(f.Content), 0o644))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			assert.Equal(t, string(want), f.Content, golden)
		}
	}
	assertLaidOut(t, files)
}

// The list of native attributes is that of React's own types.
func TestNativeAttributesAreReacts(t *testing.T) {
	want := reference.Ask[map[string][]string](t, "native.mjs", map[string]any{"tags": contract.Elements})
	assert.Equal(t, want, react.Native())
}

// Several components are one package: tokens that two of them use are written once, and
// strict TypeScript takes it all.
func TestALibraryHasItsTokensOnce(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	var contracts []*contract.Contract
	families, _ := demotest.Families(t, doc, tokens)
	for _, f := range families {
		contracts = append(contracts, f.Contract)
	}
	require.Greater(t, len(contracts), 1)
	o := react.Options{Version: "2.0.0", Primitives: primitive.Contracts(tokens)}
	files := react.Library("furrow", contracts, output.PropertiesOf(tokens), o)
	sheets := 0
	for _, f := range files {
		if filepath.Base(f.Path) == "tokens.css" {
			sheets++
			for _, c := range contracts {
				for _, path := range c.Tokens() {
					assert.Contains(t, f.Content, "  "+output.PropertiesOf(tokens).Property(path)+": ")
				}
			}
		}
	}
	assert.Equal(t, 1, sheets)
	assert.Contains(t, file(t, files, contracts[0].Name+"/index.ts"), `import "../tokens.css";`)
	assert.Contains(t, file(t, files, "package.json"), `"name": "furrow"`)
	assert.Contains(t, file(t, files, "index.ts"), "export * from \"./primitives\";\n")
	assert.Contains(t, file(t, files, "primitives/Stack/index.ts"), `import "../../tokens.css";`)
	assertLaidOut(t, files)
	assertLinted(t, files)

	// A primitive is used as any component is: as another element, with that element's reference.
	used := func(line string) []string {
		page := emit.File{Path: "page.tsx", Content: "import { useRef } from \"react\";\nimport { Overlay, Row, Stack } from \"./index\";\n\nexport function Page() {\n  const list = useRef<HTMLUListElement>(null);\n" +
			"  return (\n    <Overlay over={<Row wrap gap=\"2\">one</Row>} pin=\"top-left\">\n      " + line + "\n    </Overlay>\n  );\n}\n"}
		return reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": append(files[:len(files):len(files)], page)}).Types
	}
	assert.Empty(t, used(`<Stack as="ul" ref={list} gap="1-half" align="start" onClick={(e) => e.currentTarget.focus()}><li>two</li></Stack>`))
	assert.NotEmpty(t, used(`<Stack as="button" ref={list}>two</Stack>`), "it can be what it cannot be")
	assert.NotEmpty(t, used(`<Stack gap="13" ref={list}>two</Stack>`), "a gap is no step of the scale")

	// A component of a primitive's name is the one that is meant.
	own := react.Library("own", []*contract.Contract{{Format: contract.Format, Name: "Stack", Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}}, output.PropertiesOf(tokens), o)
	assert.NotContains(t, file(t, own, "primitives/index.ts"), "Stack")
}

// assertLinted holds files to the common rules for React and accessibility, and to the newest
// TypeScript with its own defaults.
func assertLinted(t *testing.T, files []emit.File) {
	t.Helper()
	said, types := lint(t, files)
	assert.Empty(t, said)
	assert.Empty(t, types)
}

func lint(t *testing.T, files []emit.File) (lint, types []string) {
	t.Helper()
	answer := reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": files})
	return answer.Lint, answer.Types
}

// The rules find what they are there for: an image without a text, a list without keys, a type that
// does not fit.
func TestTheLinterFindsFaults(t *testing.T) {
	answer := reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": []emit.File{
		{Path: "Bad.tsx", Content: "export const bad = <img src=\"a.png\" />;\nexport const list = [1, 2].map((n) => <li>{n}</li>);\nexport const wrong: string = 1;\n"},
		{Path: "tsconfig.json", Content: "{ \"compilerOptions\": { \"jsx\": \"react-jsx\", \"noEmit\": true }, \"include\": [\"*.tsx\"] }"},
	}})
	lint := strings.Join(answer.Lint, "\n")
	assert.Contains(t, lint, "alt-text")
	assert.Contains(t, lint, "jsx-key")
	assert.Contains(t, strings.Join(answer.Types, "\n"), "TS2322")
}
