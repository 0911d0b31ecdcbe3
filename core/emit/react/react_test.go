package react_test

import (
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/emit/ir"
	"cobrik/core/token/output"
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/emit"
	"cobrik/core/emit/compile"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/react"
	"cobrik/core/ledger"
	"cobrik/core/token"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

func cropTag(t testing.TB) (*design.Document, *contract.Contract, *token.Set) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 1)
	c, found := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	require.Empty(t, found)
	return doc, c, tokens
}

func file(t *testing.T, files []emit.File, path string) string {
	t.Helper()
	for _, f := range files {
		if f.Path == path {
			return f.Content
		}
	}
	t.Fatalf("%s is not emitted", path)
	return ""
}

func TestTheCodeReadsAsWrittenByHand(t *testing.T) {
	_, c, tokens := cropTag(t)
	files := react.Emit(c, output.PropertiesOf(tokens), react.Options{Version: "1.2.3"})
	tsx := file(t, files, "CropTag.tsx")
	for _, want := range []string{
		`export type CropTagSize = "s" | "m" | "l";`,
		`extends Omit<ComponentPropsWithRef<"span">, "children">`,
		"   * @default \"m\"\n   */\n  size?: CropTagSize;",
		`{...rest} className={classes.filter(Boolean).join(" ")}`,
		"      <span>{label}</span>\n",
		`{showIcon && <CropTagIcon className={styles.icon} />}`,
	} {
		assert.Contains(t, tsx, want)
	}
	assert.NotContains(t, tsx, "data-", "an attribute for our own sake is left over")
	style := file(t, files, "CropTag.module.css")
	assert.Contains(t, style, ".sizeS {\n  padding-inline: var(--space-1-half);\n")
	assert.Contains(t, style, ".toneRipe.strong {\n  background-color: var(--tag-ripe-ground-strong);\n}")
	assert.NotContains(t, style, "#", "a token was flattened: no theme could re-point it")
	used := file(t, files, "tokens.css")
	assert.Contains(t, used, "--tag-ripe-ink: var(--squash-700);")
	assert.NotContains(t, used, "--page-line", "tokens the component does not use are shipped")
	assert.Contains(t, file(t, files, "package.json"), `"version": "1.2.3"`)
	assert.Equal(t, files, react.Emit(c, output.PropertiesOf(tokens), react.Options{Version: "1.2.3"}), "the same contract gave other bytes")
}

// Names and texts from a design must not break out of the code they stand in.
func TestHostileTextStaysText(t *testing.T) {
	_, c, tokens := cropTag(t)
	evil := "*/ alert(1); /* \"`${x}` </script> {y} \u2028 \\"
	c.Purpose = evil
	c.Prop("label").SetDefault(contract.TextValue(evil))
	c.Prop("size").Purpose = evil
	c.Prop("tone").Type.(contract.Choice).Options[0] = `so"wn`
	for i, r := range c.Rules {
		if r.When.Prop("tone") == contract.OptionValue("sown") {
			c.Rules[i].When = r.When.With(contract.PropIs{Prop: "tone", Value: contract.OptionValue(`so"wn`)})
		}
	}
	c.Root.Children[0].Vector().Label = evil
	files := react.Emit(c, output.PropertiesOf(tokens), react.Options{})
	bundle, found := compile.React(files)
	require.Empty(t, found, file(t, files, "CropTag.tsx"))
	assert.Equal(t, 1, strings.Count(bundle.JS, "function CropTag("))
	assert.NotRegexp(t, `(?m)^\s*alert\(1\)`, file(t, files, "CropTag.tsx"))
}

// Rules win by order, whatever they name: where specificity (Selectors 4, 17)
// would decide otherwise, it is taken away.
func TestALaterRuleOfFewerConditionsWins(t *testing.T) {
	_, c, _ := cropTag(t)
	assert.NotContains(t, sheet.Module(ir.Lower(c), output.PropertiesOf(token.Empty())), ":where", "weight is taken away without need")
	c.Rules = append(c.Rules, contract.Rule{Part: "root", When: contract.Of(contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}), Set: contract.Style{"background-color": "#000000"}})
	sheet := sheet.Module(ir.Lower(c), output.PropertiesOf(token.Empty()))
	assert.Contains(t, sheet, ".root:where(.toneRipe.strong) {")
	assert.Contains(t, sheet, ".root:where(.strong) {\n  background-color: #000000;")
}

func TestClassNamesNeverMeet(t *testing.T) {
	_, c, _ := cropTag(t)
	c.Part("label").Name = "strong" // as the flag is
	c.Part("label").Style = contract.Style{"opacity": "0.5"}
	m := ir.Lower(c)
	seen := map[string]bool{}
	for _, n := range m.Classes {
		assert.False(t, seen[n])
		seen[n] = true
	}
}

func TestCompileErrorsNameTheLine(t *testing.T) {
	_, found := compile.React([]emit.File{{Path: "index.ts", Content: "export const a = 1;\nexport const b = ;\n"}})
	require.Len(t, found, 1)
	assert.Equal(t, [3]any{"index.ts", 2, 18}, [3]any{found[0].File, found[0].Line, found[0].Column})
	_, found = compile.React([]emit.File{{Path: "index.ts", Content: `import "left-behind";`}})
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Message, "no file or package left-behind")
	_, found = compile.React([]emit.File{{Path: "index.ts", Content: `import "../../../etc/passwd";`}})
	assert.NotEmpty(t, found, "the file system was read")
}

func BenchmarkDraftEmitCompileCropTag(b *testing.B) {
	doc, _, tokens := cropTag(b)
	f := doc.FamilyNamed("CropTag")
	b.ReportAllocs()
	for b.Loop() {
		c, found := draft.OfFamily(doc, f, tokens, nil)
		if found != nil {
			b.Fatal(found)
		}
		if _, found := compile.React(react.Emit(c, output.PropertiesOf(tokens), react.Options{})); found != nil {
			b.Fatal(found)
		}
	}
}

func BenchmarkDraftCropTag(b *testing.B) {
	doc, _, tokens := cropTag(b)
	b.ReportAllocs()
	for b.Loop() {
		draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	}
}

func BenchmarkLedgerOfAllCropTagCases(b *testing.B) {
	doc, c, tokens := cropTag(b)
	f := doc.FamilyNamed("CropTag")
	b.ReportAllocs()
	for b.Loop() {
		l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
		for _, k := range draft.Cases(c, f) {
			l.Facts(k, nil)
		}
	}
}

// BenchmarkLedgerOf1000Cases lays design and contract side by side in a family of 1,000 variants,
// cold: resolved and compared, case by case.
func BenchmarkLedgerOf1000Cases(b *testing.B) {
	steps := func(name string) design.Axis {
		a := design.Axis{Name: name, Default: "0"}
		for n := range 10 {
			a.Values = append(a.Values, fmt.Sprint(n))
		}
		return a
	}
	f := drafttest.Family("Thousand", []design.Axis{steps("Size"), steps("Tone"), steps("Room")}, func(c map[string]string) *design.Layer {
		fill := &design.Layer{ID: "mark", Name: "Mark", Kind: design.Box, Fill: "#" + strings.Repeat(c["Tone"], 6), Bounds: design.Rect{Width: 8, Height: 8}}
		pad := float64(c["Room"][0] - '0')
		size := 10 + float64(c["Size"][0]-'0')
		fill.Bounds.Width, fill.Bounds.Height, fill.Bounds.X, fill.Bounds.Y = size, size, pad, pad
		return &design.Layer{ID: "root", Name: "Root", Kind: design.Box, Fill: "#ffffff", Flow: &design.Flow{Direction: "row", Padding: []float64{pad}}, Bounds: design.Rect{Width: size + 2*pad, Height: size + 2*pad}, Children: []*design.Layer{fill}}
	})
	c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	if c == nil {
		b.Fatal(found)
	}
	b.ReportAllocs()
	for b.Loop() {
		l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, f)
		cases := draft.Cases(c, f)
		if len(cases) != 1000 {
			b.Fatal(len(cases))
		}
		for _, k := range cases {
			for _, fact := range l.Facts(k, nil) {
				if fact.Verdict != ledger.Agree {
					b.Fatal(k.Name, fact)
				}
			}
		}
	}
}

// BenchmarkLibraryOf200 drafts, emits and compiles a library of 200 components, each of them by
// itself as a change of one would.
func BenchmarkLibraryOf200(b *testing.B) {
	doc, _, tokens := cropTag(b)
	properties := output.PropertiesOf(tokens)
	b.ReportAllocs()
	for b.Loop() {
		var all []*contract.Contract
		for i := range 200 {
			f := doc.Families[i%len(doc.Families)]
			c, found := draft.OfFamily(doc, f, tokens, nil)
			if c == nil {
				b.Fatal(found)
			}
			c.Name = fmt.Sprintf("%s%d", c.Name, i)
			all = append(all, c)
			if _, found := compile.React(react.Emit(c, properties, react.Options{})); found != nil {
				b.Fatal(found)
			}
		}
		if files := react.Library("furrow", all, properties, react.Options{}); len(files) < 200 {
			b.Fatal("files are missing")
		}
	}
}

// BenchmarkResolveLargest resolves one case of the contract with the most rules.
func BenchmarkResolveLargest(b *testing.B) {
	doc, _, tokens := cropTag(b)
	var largest *contract.Contract
	for _, f := range doc.Families {
		if c, _ := draft.OfFamily(doc, f, tokens, nil); c != nil && (largest == nil || len(c.Rules) > len(largest.Rules)) {
			largest = c
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		contract.Resolve(largest, contract.Env{}, tokens)
	}
}

// A component's README shows a use that compiles, and every prop with what it takes; what people
// wrote stays text.
func TestTheReadmeTellsOfEveryProp(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	families, _ := demotest.Families(t, doc, tokens)
	var all []*contract.Contract
	for _, f := range families {
		all = append(all, f.Contract)
	}
	library := react.Library("furrow", all, output.PropertiesOf(tokens), react.Options{})
	for _, f := range families {
		readme := file(t, react.Emit(f.Contract, output.PropertiesOf(tokens), react.Options{}), "README.md")
		assert.True(t, strings.HasPrefix(readme, "# "+f.Name+"\n\n"))
		f.EachProp(func(_ string, p *contract.Prop) { assert.Contains(t, readme, p.Name+"` |", f.Name) })
		for _, name := range f.Components() {
			assert.Contains(t, readme, "- ["+name+"](./"+name+"/README.md)", f.Name)
		}
		_, example, _ := strings.Cut(readme, "```tsx\n")
		example, _, _ = strings.Cut(example, "```\n")
		assert.True(t, strings.HasPrefix(example, "<"+f.Name), example)
		library = append(library, emit.File{Path: f.Name + "/example.tsx", Content: "import { " + f.Name + " } from \"./index\";\n\nexport const example = " + example})
	}
	answer := reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": library})
	assert.Empty(t, answer.Types, "an example does not compile")
	odd := &contract.Contract{Format: contract.Format, Name: "Odd", Purpose: "Of *some* <b>use</b> | [or](none)", Root: &contract.Part{ID: "root", Name: "root", Element: "p", Content: contract.TextOf{Prop: "say"}},
		Props: []contract.Prop{{ID: "say", Name: "say", Type: contract.Text{Initial: "a `tick` | b"}, Deprecated: "use # other"}}}
	readme := file(t, react.Emit(odd, output.PropertiesOf(tokens), react.Options{}), "README.md")
	assert.Contains(t, readme, `Of \*some\* \<b>use\</b> \| \[or\](none)`)
	assert.Contains(t, readme, "`` \"a `tick` \\| b\" ``")
	assert.Contains(t, readme, `**Deprecated:** use \# other`)
}

// The same drawing is one component, wherever it is shown; one of colours of its own, or that says
// something, stays where it is.
func TestTheSameDrawingIsOneIcon(t *testing.T) {
	vector := func(id, d, fill, label string) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: "svg", Style: contract.Style{"width": "16px", "height": "16px"},
			Content: &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Label: label, Paths: []contract.Path{{D: d, Fill: fill}}}}
	}
	of := func(name string, parts ...*contract.Part) *contract.Contract {
		return &contract.Contract{Format: contract.Format, Name: name, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: parts}}
	}
	tokens := output.PropertiesOf(token.Empty())
	files := react.Library("lib", []*contract.Contract{
		of("One", vector("leaf", "M0 0H8V8Z", "", ""), vector("flag", "M1 1H8V8Z", "#ff0000", ""), vector("sign", "M2 2H8V8Z", "", "A sign")),
		of("LeafIcon", vector("icon", "M0 0H8V8Z", "", ""), vector("other", "M3 3H8V8Z", "none", "")),
	}, tokens, react.Options{})
	assert.Equal(t, "export { LeafIconDrawing } from \"./LeafIconDrawing\";\nexport { OtherIcon } from \"./OtherIcon\";\n", file(t, files, "icons/index.ts"), "no two things have one name")
	one, leaf := file(t, files, "One/One.tsx"), file(t, files, "LeafIcon/LeafIcon.tsx")
	assert.Contains(t, one, `<LeafIconDrawing className={styles.leaf} />`)
	assert.Contains(t, leaf, `<LeafIconDrawing className={styles.icon} />`)
	assert.Contains(t, leaf, `import { LeafIconDrawing, OtherIcon } from "../icons";`)
	assert.Contains(t, one, `fill="#ff0000"`)
	assert.Contains(t, one, `aria-label="A sign"`)
	assert.Contains(t, file(t, files, "index.ts"), `export * from "./icons";`)
	assertLaidOut(t, files)
}

// A picture that never changes is one file, wherever it is shown, named after the part that shows
// it first; a bundle holds what was drawn.
func TestTheSamePictureIsOneFile(t *testing.T) {
	const drawn = `<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><path d="M0 0H8V8Z" fill="#4a7"/></svg>`
	picture := func(id, drawn string) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: "img", Content: contract.Picture{Alt: "A \"bed\"", Source: "data:image/svg+xml," + url.PathEscape(drawn), Width: 8, Height: 8}}
	}
	of := func(name string, parts ...*contract.Part) *contract.Contract {
		return &contract.Contract{Format: contract.Format, Name: name, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: parts}}
	}
	tokens := output.PropertiesOf(token.Empty())
	// The names of two parts meet, and one is a name of the module's own.
	files := react.Library("lib", []*contract.Contract{of("One", picture("seedBed", drawn), picture("styles", drawn+" ")), of("OneSeed", picture("bed", drawn+"<!-- other -->"), picture("again", drawn))}, tokens, react.Options{})
	assert.Equal(t, drawn+"\n", file(t, files, "pictures/one-seed-bed.svg"))
	assert.Equal(t, drawn+"<!-- other -->\n", file(t, files, "pictures/one-seed-bed2.svg"))
	assert.Equal(t, drawn+" \n", file(t, files, "pictures/one-styles.svg"))
	assert.Contains(t, file(t, files, "OneSeed/OneSeed.tsx"), "import oneSeedBed from \"../pictures/one-seed-bed.svg\";\n")
	assert.Contains(t, file(t, files, "OneSeed/OneSeed.tsx"), `<img className={styles.again} src={oneSeedBed} alt={'A "bed"'} width={8} height={8} />`)
	assertLaidOut(t, files)
	assertLinted(t, files)

	// One that was painted is a file of its pixels.
	painted := &contract.Part{ID: "plan", Name: "plan", Element: "img", Content: contract.Picture{Source: "data:image/png;base64,iVBORw0KGgo=", Width: 8, Height: 8}}
	files = react.Library("lib", []*contract.Contract{of("One", painted, picture("seed", drawn))}, tokens, react.Options{})
	assert.Equal(t, "\x89PNG\r\n\x1a\n", file(t, files, "pictures/one-plan.png"))
	assert.Contains(t, file(t, files, "One/One.tsx"), "import onePlan from \"../pictures/one-plan.png\";\n")
	assertLinted(t, files)
	pixels, found := compile.React(react.Emit(of("One", painted), tokens, react.Options{}))
	require.Empty(t, found)
	assert.Contains(t, pixels.JS, "data:image/png;base64,iVBORw0KGgo=")

	bundle, found := compile.React(react.Emit(of("One", picture("seed", drawn)), tokens, react.Options{}))
	require.Empty(t, found)
	address := regexp.MustCompile(`'data:image/svg\+xml,(.*)'`).FindStringSubmatch(bundle.JS)
	require.NotNil(t, address, bundle.JS)
	held, err := url.PathUnescape(address[1])
	require.NoError(t, err)
	assert.Equal(t, drawn+"\n", held)
}

// What tells which element a root is has names only where there is something to tell: a list of
// elements and a choice of one are called what they are.
func TestElementsAreCalledSo(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Table", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{{ID: "cell", Name: "cell", Element: "span", Repeat: "elements", Content: contract.TextOf{Prop: "elements.word"}}}},
		Props: []contract.Prop{{ID: "element", Name: "element", Type: contract.Choice{Options: []string{"iron", "tin"}, Initial: "tin"}},
			{ID: "elements", Name: "elements", Type: contract.List{Items: []contract.Prop{{ID: "word", Name: "word", Type: contract.Text{}, Required: true}}}}}}
	code := file(t, react.Emit(c, output.PropertiesOf(token.Empty()), react.Options{}), "Table.tsx")
	assert.Contains(t, code, `export type TableElement = "iron" | "tin";`)
	c.Root.As = []string{"section"}
	code = file(t, react.Emit(c, output.PropertiesOf(token.Empty()), react.Options{}), "Table.tsx")
	assert.Contains(t, code, `export type TableElement = "div" | "section";`)
	assert.Contains(t, code, `export type TableElementChoice = "iron" | "tin";`)
}

// Of props that stand apart a use gives one at most: a compiler says so, and the README does.
func TestPropsThatStandApart(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Leaf", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "link", Name: "link", Element: "a", Attributes: map[string]contract.Attribute{"href": {Prop: "to"}}, Content: contract.FixedText{Text: "More"}, ShownWhen: contract.Of(contract.PropSet{Prop: "to", Set: true})},
		{ID: "press", Name: "press", Element: "button", Content: contract.FixedText{Text: "Open"}},
	}}, Props: []contract.Prop{
		{ID: "to", Name: "to", Type: contract.Link{}}, {ID: "open", Name: "onOpen", Part: "press", Type: contract.Event{On: "click"}}, {ID: "quiet", Name: "quiet", Type: contract.Flag{}}, {ID: "tone", Name: "tone", Type: contract.Text{Initial: "x"}},
	}, Apart: [][]string{{"to", "open", "quiet"}}}
	c.Root.Children = append(c.Root.Children, &contract.Part{ID: "words", Name: "words", Element: "p", Content: contract.TextOf{Prop: "tone"}})
	tokens := output.PropertiesOf(token.Empty())
	files := react.Emit(c, tokens, react.Options{})
	types := func(use string) []string {
		page := emit.File{Path: "page.tsx", Content: "import { Leaf } from \"./index\";\n\nexport const page = " + use + ";\n"}
		return reference.Ask[struct{ Lint, Types []string }](t, "lint.mjs", map[string]any{"files": append(files[:len(files):len(files)], page)}).Types
	}
	assert.Empty(t, types(`[<Leaf key="a" tone="y" to="/beds" />, <Leaf key="b" onOpen={() => {}} />, <Leaf key="c" quiet id="d" />, <Leaf key="e" />]`))
	assert.NotEmpty(t, types(`<Leaf to="/beds" onOpen={() => {}} />`))
	assert.NotEmpty(t, types(`<Leaf to="/beds" quiet />`))
	assert.Contains(t, file(t, files, "README.md"), "Not together with `onOpen`, `quiet`.")
	c.Prop("to").Example, c.Prop("quiet").Example = contract.LinkValue("/beds"), contract.FlagValue(true)
	assert.Contains(t, file(t, react.Emit(c, tokens, react.Options{}), "README.md"), "<Leaf to=\"/beds\" />", "the example does not compile")
	assertLaidOut(t, files)
}

// What is inside of a drawing's path by the evenodd rule is so in the code (SVG 2, 13.4.2).
func TestTheRuleOfAPathIsKept(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Sign", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{
		{ID: "mark", Name: "mark", Element: "svg", Style: contract.Style{"width": "16px", "height": "16px"}, Content: &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0H8V8H0ZM2 2H6V6H2Z", Rule: "evenodd"}}}},
	}}}
	code := ""
	for _, f := range react.Emit(c, nil, react.Options{}) {
		code += f.Content
	}
	assert.Contains(t, code, `fillRule="evenodd"`)
	drawn := draft.VectorOf(design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: "M0 0H8V8H0Z", Rule: "evenodd"}}})
	assert.Equal(t, "evenodd", drawn.Paths[0].Rule, "a drawing's rule is taken into the contract")
}
