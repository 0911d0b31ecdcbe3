package check_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/font"
	"cobrik/core/problem"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func part(id, element string, style contract.Style, children ...*contract.Part) *contract.Part {
	return &contract.Part{ID: id, Name: id, Element: element, Style: style, Children: children}
}

func words(id, element, text string) *contract.Part {
	p := part(id, element, nil)
	p.Content = contract.FixedText{Text: text}
	return p
}

func of(root *contract.Part, props ...contract.Prop) *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: "Some", Root: root, Props: props}
}

func ruled(c *contract.Contract, part string, when contract.When, set contract.Style) *contract.Contract {
	c.Rules = append(c.Rules, contract.Rule{Part: part, When: when, Set: set})
	return c
}

func flag(id string) contract.Prop { return contract.Prop{ID: id, Name: id, Type: contract.Flag{}} }

func on(id string) contract.PropIs { return contract.PropIs{Prop: id, Value: contract.FlagValue(true)} }

func in(state string) contract.InState { return contract.InState{State: state} }

var tokens = func() *token.Set {
	set, found := token.Read(token.File{Name: "t", Text: []byte(`{"space":{"$type":"dimension","s":{"$value":{"value":16,"unit":"px"}},"m":{"$value":{"value":20,"unit":"px"}}}}`)})
	if found.Failed() {
		panic(found)
	}
	return set
}()

// text is a text of a colour on a ground, as large as given.
func text(ink, ground, size, weight string) *contract.Contract {
	label := words("label", "span", "Leeks")
	label.Style = contract.Style{"color": ink, "font-size": size, "font-weight": weight}
	return of(part("root", "div", contract.Style{"background-color": ground}, label))
}

// Each rule is tripped by one contract and not by another that differs in what it is about; the
// source of the rule beside it.
func TestEachRule(t *testing.T) {
	ground := contract.Style{"width": "100px", "height": "100px", "background-color": "#336699"}
	rounded := contract.Style{"border-radius": "12px"}
	level := func(two, three string) *contract.Contract {
		return of(part("root", "div", nil, words("one", two, "Plots"), words("two", three, "Beds")))
	}
	choice := contract.Prop{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "m"}}
	small := contract.PropIs{Prop: "size", Value: contract.OptionValue("s")}
	from := func(px float64) contract.When { return contract.Of(contract.Viewport{Range: contract.Range{From: px}}) }
	below := func(px float64) contract.When {
		return contract.Of(contract.Viewport{Range: contract.Range{Below: px}})
	}
	gap := func(v string) contract.Style { return contract.Style{"gap": v} }
	labelled := part("root", "div", nil, words("name", "label", "Plot"), part("field", "input", nil))
	labelled.Children[0].Attributes = map[string]contract.Attribute{"for": {Part: "field"}}
	variant := func(more bool) *contract.Contract {
		c := ruled(ruled(of(part("root", "div", contract.Style{"background-color": "#ffffff"}), flag("quiet")), "root", contract.Of(on("quiet")), contract.Style{"background-color": "#eeeeee"}),
			"root", contract.Of(in("hover")), contract.Style{"background-color": "#dddddd"})
		if more {
			ruled(c, "root", contract.Of(in("hover"), on("quiet")), contract.Style{"background-color": "#cccccc"})
		}
		return c
	}
	required := func(example contract.Value) *contract.Contract {
		root := part("root", "div", nil)
		root.Content = contract.TextOf{Prop: "label"}
		return of(root, contract.Prop{ID: "label", Name: "label", Type: contract.Text{}, Required: true, Example: example})
	}
	row := func(flex string) *contract.Contract {
		half := contract.Style{"width": "50%", "flex": flex}
		return of(part("root", "div", contract.Style{"display": "flex", "gap": "16px"}, part("one", "div", half), part("two", "div", maps.Clone(half))))
	}
	mixed := func(gap string) *contract.Contract {
		return of(part("root", "div", contract.Style{"display": "flex", "font-size": "1.2rem", "padding-inline": "2em", "padding-block": "1em", "gap": gap}))
	}
	nested := func(size string) *contract.Contract {
		return of(part("root", "div", contract.Style{"font-size": "1.2em"}, part("inner", "div", nil, part("text", "div", contract.Style{"font-size": size}))))
	}
	icon := func(ink, label string) *contract.Contract {
		leaf := part("leaf", "svg", contract.Style{"fill": ink, "width": "16px", "height": "16px"})
		leaf.Content = &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Label: label, Paths: []contract.Path{{D: "M0 0H8V8Z"}}}
		return of(part("root", "div", contract.Style{"background-color": "#ffffff"}, leaf))
	}
	may := func(element string) *contract.Contract {
		c := of(part("root", "div", nil, words("inner", "div", "Go")))
		c.Root.As = []string{element}
		return c
	}
	for rule, k := range map[string]struct{ wrong, right *contract.Contract }{
		"html-phrasing ":   {may("p"), may("section")},                                                                                                                                    // HTML, 4.4.1
		"percent-gap ":     {row("none"), row("0 1 auto")},                                                                                                                                // CSS Flexbox 1, 9.7
		"unit-mix":         {mixed("1rem"), mixed("0.5em")},                                                                                                                               // CSS Values 4, 6.1.1
		"unit-multiplied":  {nested("0.9em"), nested("0.9rem")},                                                                                                                           // CSS Values 4, 6.1.1
		"contrast-graphic": {icon("#969696", "Sown"), icon("#949494", "Sown")},                                                                                                            // WCAG 1.4.11: 2.96 and 3.03 to 1
		"use-default":      {using(t, contract.Given{}), using(t, contract.Given{Value: []byte(`"Sown"`)})},                                                                               // common practice, no source
		"html-interactive": {of(part("root", "a", nil, words("inner", "button", "Go"))), of(part("root", "div", nil, words("inner", "button", "Go")))},                                    // HTML, 4.5.1: no interactive content descendant
		"html-phrasing":    {of(part("root", "p", nil, words("inner", "div", "Go"))), of(part("root", "p", nil, words("inner", "span", "Go")))},                                           // HTML, 4.4.1
		"html-parent":      {of(part("root", "div", nil, words("inner", "li", "Go"))), of(part("root", "ul", nil, words("inner", "li", "Go")))},                                           // HTML, 4.4.8
		"html-child":       {of(part("root", "ul", nil, words("inner", "div", "Go"))), of(part("root", "ol", nil, words("inner", "li", "Go")))},                                           // HTML, 4.4.5
		"html-first":       {of(part("root", "details", nil, words("a", "p", "Go"), words("inner", "summary", "Go"))), of(part("root", "details", nil, words("inner", "summary", "Go")))}, // HTML, 4.11.1
		"heading-level":    {level("h2", "h4"), level("h2", "h3")},                                                                                                                        // WCAG technique H42
		"name-missing":     {of(part("root", "button", nil)), of(words("root", "button", "Go"))},                                                                                          // WCAG 4.1.2
		"label-missing":    {of(part("root", "div", nil, part("field", "input", nil))), of(labelled)},                                                                                     // WCAG technique H44
		"absolute-parent": {of(part("root", "div", nil, part("mark", "div", contract.Style{"position": "absolute"}))), // CSS Positioned Layout 3, 2.1
			of(part("root", "div", contract.Style{"position": "relative"}, part("mark", "div", contract.Style{"position": "absolute"})))},
		"percent-gap": {of(part("root", "div", contract.Style{"display": "grid", "grid-template-columns": "50% 50%", "gap": "16px"})), // common practice, no source
			of(part("root", "div", contract.Style{"display": "grid", "grid-template-columns": "1fr 1fr", "gap": "16px"}))},
		"width-fixed":    {of(part("root", "div", contract.Style{"width": "321px"})), of(part("root", "div", contract.Style{"width": "320px"}))},                                                                 // WCAG 1.4.10
		"contrast":       {text("#777777", "#ffffff", "16px", "400"), text("#767676", "#ffffff", "16px", "400")},                                                                                                 // WCAG 1.4.3: 4.48 and 4.54 to 1
		"target-size":    {of(sized(words("root", "button", "Go"), "23px")), of(sized(words("root", "button", "Go"), "24px"))},                                                                                   // WCAG 2.5.8
		"corner-painted": {of(part("root", "div", rounded, part("inner", "div", ground))), of(part("root", "div", contract.Style{"border-radius": "12px", "overflow": "hidden"}, part("inner", "div", ground)))}, // CSS Backgrounds 3, 4.3
		"rule-never":     {ruled(of(part("root", "div", nil), contract.Prop{ID: "n", Name: "n", Type: contract.Number{Most: number(5)}}), "root", contract.Of(contract.NumberIs{Prop: "n", Low: contract.Bound{At: 5, Kind: contract.Exclusive}}), gap("1px")), ruled(of(part("root", "div", nil), contract.Prop{ID: "n", Name: "n", Type: contract.Number{Most: number(5)}}), "root", contract.Of(contract.NumberIs{Prop: "n", Low: contract.Bound{At: 4, Kind: contract.Exclusive}}), gap("1px"))},
		"rule-idle":      {ruled(ruled(of(part("root", "div", nil), choice), "root", contract.Of(small, in("hover")), gap("1px")), "root", contract.Of(small), gap("2px")), ruled(of(part("root", "div", nil), choice), "root", contract.Of(small), gap("1px"))},
		"widths-apart":   {ruled(ruled(of(part("root", "div", nil)), "root", below(767), gap("1px")), "root", from(768), gap("2px")), ruled(ruled(of(part("root", "div", nil)), "root", below(768), gap("1px")), "root", from(768), gap("2px"))}, // common practice, no source
		"off-scale":      {of(part("root", "div", gap("18px"))), of(part("root", "div", gap("20px")))},
		"prop-unused":    {of(part("root", "div", nil), flag("strong")), ruled(of(part("root", "div", nil), flag("strong")), "root", contract.Of(on("strong")), gap("1px"))},
		"prop-example":   {required(nil), required(contract.TextValue("Leeks"))},
		"option-alike":   {ruled(of(part("root", "div", gap("1px")), choice), "root", contract.Of(small), gap("1px")), ruled(of(part("root", "div", gap("1px")), choice), "root", contract.Of(small), gap("2px"))},
		"state-nobody":   {ruled(of(part("root", "div", nil)), "root", contract.Of(in("loading")), gap("1px")), ruled(of(part("root", "div", nil), flag("loading")), "root", contract.Of(in("loading")), gap("1px"))},
		"state-unseen":   {ruled(of(part("root", "div", gap("1px"))), "root", contract.Of(in("focus-visible")), gap("1px")), ruled(of(part("root", "div", gap("1px"))), "root", contract.Of(in("focus-visible")), gap("2px"))}, // WCAG 2.4.7
		"variant-state":  {variant(false), variant(true)},
		"rule-idle ":     {ruled(ruled(of(part("root", "div", nil), choice), "root", contract.Of(small), gap("1px")), "root", contract.Of(small), gap("2px")), ruled(of(part("root", "div", nil), choice), "root", contract.Of(small), gap("1px"))}, // said twice
	} {
		rule := strings.TrimSpace(rule)
		o := check.Options{Themes: []check.Theme{{Tokens: tokens}}, Fonts: font.Shipped()}
		found := func(c *contract.Contract) []check.Finding {
			return slices.DeleteFunc(check.Contract(c, o), func(f check.Finding) bool { return f.Rule != rule })
		}
		wrong := found(k.wrong)
		if assert.NotEmpty(t, wrong, "%s is not seen", rule) {
			assert.NotEmpty(t, wrong[0].Message)
			assert.NotEmpty(t, wrong[0].Problem.Fix, "%s says no way out", rule)
			located := check.Problems(wrong).Locate("c.json", k.wrong.JSON())
			assert.Positive(t, located[0].Line, "%s: %s is no place", rule, located[0].Pointer)
		}
		assert.Empty(t, check.Problems(found(k.right)), "%s is seen where it is not", rule)
		if len(wrong) > 0 && wrong[0].Fix != nil {
			mended := k.wrong.Clone()
			check.Mend(mended, o)
			assert.Empty(t, check.Problems(found(mended)), "%s stays after its fix", rule)
			assert.Empty(t, mended.Check(tokens), "%s: its fix breaks the contract", rule)
		}
	}
}

// using is a use of a tag, that gives its label or not.
func using(t *testing.T, label contract.Given) *contract.Contract {
	t.Helper()
	tag := &contract.Contract{Format: contract.Format, Name: "Tag", Root: part("root", "span", nil), Props: []contract.Prop{{ID: "label", Name: "label", Type: contract.Text{Initial: "Tag"}}, flag("strong")}}
	tag.Root.Content = contract.TextOf{Prop: "label"}
	u := &contract.Use{Component: "Tag", Given: map[string]contract.Given{}}
	if label.Value != nil {
		u.Given["label"] = label
	}
	mark := part("mark", "", nil)
	mark.Content = u
	c := of(part("root", "div", nil, mark))
	contract.NewLinker(func(name string) *contract.Contract { return map[string]*contract.Contract{"Tag": tag}[name] }).Link(c)
	return c
}

// A drawing that stands for a text has to be told from its ground, one beside a text need not; and
// one of several inks by the strongest of them (WCAG 2.2, 1.4.11).
func TestWhichGraphicsHaveToBeSeen(t *testing.T) {
	faint := func(element, label string, beside ...*contract.Part) *contract.Contract {
		leaf := part("leaf", "svg", nil)
		leaf.Content = &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Label: label, Paths: []contract.Path{{D: "M0 0H8V8Z", Fill: "#eeeeee"}}}
		return of(part("root", element, contract.Style{"background-color": "#ffffff", "color": "#000000"}, append([]*contract.Part{leaf}, beside...)...))
	}
	fails := func(c *contract.Contract) bool {
		return slices.ContainsFunc(check.Contract(c, check.Options{}), func(f check.Finding) bool { return f.Rule == "contrast-graphic" })
	}
	assert.True(t, fails(faint("button", "")))
	assert.False(t, fails(faint("button", "", words("text", "span", "Sow"))), "the text says it")
	assert.False(t, fails(faint("div", "")), "it is decoration")
	assert.True(t, fails(faint("div", "Sown")))
	for _, path := range []contract.Path{{D: "M0 0H8", Fill: "none", Stroke: contract.PathStroke{Color: "currentColor", Width: 1}}, {D: "M0 0H8", Fill: "currentColor"}} {
		inked := faint("div", "Sown")
		v := inked.Root.Children[0].Vector()
		v.Paths = append(v.Paths, path)
		assert.False(t, fails(inked), "its line is seen: %v", path)
	}
}

// What is said of em and rem are the px that come of them, and the fix keeps these (facts of the
// trade: font-size 1.2rem with padding 1em 2em and gap .5em is 19.2, 38.4 and 9.6 px).
func TestUnitsAreSaidInPx(t *testing.T) {
	inner := part("inner", "div", contract.Style{"padding-block": "1em", "padding-inline": "2em", "gap": "0.5rem"})
	c := of(part("root", "div", contract.Style{"font-size": "1.2rem"}, inner))
	found := check.Contract(c, check.Options{})
	require.Len(t, found, 1)
	for _, want := range []string{"padding-block 1em is 19.2px", "padding-inline 2em is 38.4px", "gap 0.5rem is 8px", "a text of 19.2 px"} {
		assert.Contains(t, found[0].Message, want)
	}
	check.Mend(c, check.Options{})
	assert.Equal(t, contract.Style{"padding-block": "1.2rem", "padding-inline": "2.4rem", "gap": "0.5rem"}, inner.Style)
	inner.Style = contract.Style{"font-size": "1.1em"}
	assert.Empty(t, check.Contract(c, check.Options{}), "what is around it is not in em")
}

// What a use cannot give together is not looked at together.
func TestWhatStandsApartIsNoCase(t *testing.T) {
	c := text("#000000", "#ffffff", "16px", "400")
	c.Props = []contract.Prop{flag("pale"), flag("dim")}
	ruled(c, "label", contract.Of(on("pale")), contract.Style{"color": "#666666"})
	ruled(c, "root", contract.Of(on("dim")), contract.Style{"background-color": "#888888"})
	fails := func() bool {
		return slices.ContainsFunc(check.Contract(c, check.Options{}), func(f check.Finding) bool { return f.Rule == "contrast" })
	}
	assert.True(t, fails())
	c.Apart = [][]string{{"pale", "dim"}}
	assert.False(t, fails())
}

// The fix of parts of a row in percent lets them shrink, from the width they had.
func TestRowsShrinkFromTheirShares(t *testing.T) {
	share := contract.Style{"flex": "0 0 50%"}
	c := of(part("root", "div", contract.Style{"display": "flex", "gap": "16px"}, part("one", "div", share), part("two", "div", maps.Clone(share))))
	assert.Positive(t, check.Mend(c, check.Options{}))
	assert.Equal(t, contract.Style{"flex": "0 1 50%", "min-width": "0"}, c.Part("one").Style)
}

// What gives way, wraps or has no gap does not overflow; a use that passes all on leaves nothing
// to its defaults; what it says for each item is for people to say.
func TestWhatIsNoFault(t *testing.T) {
	rules := func(c *contract.Contract) (out []string) {
		for _, f := range check.Contract(c, check.Options{}) {
			out = append(out, f.Rule)
		}
		return out
	}
	for name, style := range map[string]contract.Style{"no gap": {"display": "flex"}, "wraps": {"display": "flex", "gap": "8px", "flex-wrap": "wrap"}, "a column": {"display": "flex", "gap": "8px", "flex-direction": "column"}} {
		half := contract.Style{"width": "50%", "flex": "none"}
		assert.NotContains(t, rules(of(part("root", "div", style, part("one", "div", half), part("two", "div", maps.Clone(half))))), "percent-gap", name)
	}
	all := using(t, contract.Given{})
	all.Root.Children[0].Use().All = true
	assert.NotContains(t, rules(all), "use-default")
	items := using(t, contract.Given{})
	items.Props = append(items.Props, contract.Prop{ID: "list", Name: "list", Type: contract.List{Items: []contract.Prop{flag("strong")}}})
	items.Root.Children[0].Repeat = "list"
	found := check.Contract(items, check.Options{})
	i := slices.IndexFunc(found, func(f check.Finding) bool { return f.Rule == "use-default" })
	require.GreaterOrEqual(t, i, 0)
	assert.Nil(t, found[i].Fix, "one value for all items is nobody's wish")
}

func sized(p *contract.Part, px string) *contract.Part {
	p.Style = contract.Style{"width": px, "height": "40px", "box-sizing": "border-box"}
	return p
}

func number(f float64) *float64 { return &f }

// What is behind a text is composited, large text needs less, and what is out of use nothing
// (WCAG 2.2, 1.4.3).
func TestContrastIsOfWhatIsSeen(t *testing.T) {
	fails := func(c *contract.Contract, themes ...check.Theme) bool {
		return slices.ContainsFunc(check.Contract(c, check.Options{Themes: themes}), func(f check.Finding) bool { return f.Rule == "contrast" })
	}
	assert.False(t, fails(text("#949494", "#ffffff", "24px", "400")), "24 px is large: 3 to 1 is enough")
	assert.True(t, fails(text("#949494", "#ffffff", "23px", "400")))
	assert.False(t, fails(text("#949494", "#ffffff", "19px", "700")), "so are 19 px bold")
	assert.True(t, fails(text("#949494", "#ffffff", "19px", "600")))
	assert.True(t, fails(text("rgb(0 0 0 / 0.3)", "#ffffff", "16px", "400")), "ink that lets the ground through")
	assert.False(t, fails(text("#000000", "rgb(0 0 0 / 0.5)", "16px", "400")), "nothing is known of what is behind")
	faded := text("#000000", "#ffffff", "16px", "400")
	faded.Root.Children[0].Style["opacity"] = "0.4"
	assert.True(t, fails(faded), "a text that is faded")
	gone := text("#ffffff", "#ffffff", "16px", "400")
	gone.Root.Children[0].Style["display"] = "none"
	assert.False(t, fails(gone), "what is not shown")
	layered := text("#000000", "#ffffff", "16px", "400")
	layered.Root.Children[0].Style["background-color"] = "rgb(0 0 0 / 0.8)"
	assert.True(t, fails(layered), "a ground over a ground")
	washed := func(base, images string) *contract.Contract {
		c := text("#000000", base, "16px", "400")
		c.Root.Style["background-image"] = images
		return c
	}
	assert.True(t, fails(washed("#ffffff", "linear-gradient(#ffffff, #222222)")), "the darkest stop of a gradient")
	assert.False(t, fails(washed("#000000", "linear-gradient(#ffffff, #eeeeee)")), "what a gradient covers is not seen")
	assert.True(t, fails(washed("#000000", "linear-gradient(#ffffff, #ffffff40)")), "it lets the ground through")
	assert.False(t, fails(washed("#00000000", "linear-gradient(#ffffff, #22222240)")), "nothing is known of what is behind the veil")
	assert.True(t, fails(washed("#00000000", "linear-gradient(#22222240, #222222)")), "what is opaque of it is known")
	assert.True(t, fails(washed("#ffffff", "linear-gradient(#222222, #ffffff)")), "whichever stop comes last")
	assert.True(t, fails(washed("#ffffff", "linear-gradient(#000000cc, #000000cc), linear-gradient(#ffffff, #ffffff)")), "the first lies on top")
	assert.False(t, fails(washed("#ffffff", "linear-gradient(#ffffff, #ffffff), linear-gradient(#000000cc, #000000cc)")))
	off := ruled(text("#000000", "#ffffff", "16px", "400"), "label", contract.Of(in("disabled")), contract.Style{"color": "#dddddd"})
	off.Props = append(off.Props, flag("disabled"))
	assert.False(t, fails(off))
	hover := ruled(text("#000000", "#ffffff", "16px", "400"), "root", contract.Of(in("hover")), contract.Style{"background-color": "#111111"})
	assert.True(t, fails(hover), "a state that loses contrast")
	dusk := ruled(text("#000000", "#ffffff", "16px", "400"), "root", contract.Of(contract.Theme{Modifier: "theme", Context: "dusk"}), contract.Style{"background-color": "#111111"})
	day := check.Theme{Name: "day", Choices: map[string]string{"theme": "day"}, Tokens: token.Empty()}
	assert.False(t, fails(dusk, day))
	assert.True(t, fails(dusk, day, check.Theme{Name: "dusk", Choices: map[string]string{"theme": "dusk"}, Tokens: token.Empty()}), "a theme that loses contrast")
}

// The demo's components pass; what its story breaks, dark ripe tags in dusk, is seen.
func TestTheDemoIsLookedAt(t *testing.T) {
	for revision, want := range []string{"", "label has a contrast of 1.07, tone = ripe, theme=dusk"} {
		doc, tokens := demotest.Furrow(t, revision+1)
		themes := []check.Theme{{Tokens: tokens}}
		library, found := token.Open(demotest.TokenFiles()...)
		require.False(t, found.Failed())
		for _, theme := range library.Themes()[1:] {
			set, _ := library.Set(theme)
			one := check.Theme{Name: theme.String(), Choices: map[string]string{}, Tokens: set}
			for _, c := range theme {
				one.Choices[c.Modifier] = c.Context
			}
			themes = append(themes, one)
		}
		var errors problem.List
		families, _ := demotest.Families(t, doc, tokens)
		for _, f := range families {
			for _, p := range check.Problems(check.Contract(f.Contract, check.Options{Themes: themes, Fonts: font.Shipped()})) {
				if p.Severity == problem.Error {
					errors = append(errors, p)
				}
			}
		}
		if want == "" {
			assert.Empty(t, errors)
		} else if assert.Len(t, errors, 2, "the tag, and the card that uses it") {
			assert.Contains(t, errors[0].Message, want)
			assert.Contains(t, errors[1].Message, "tag › "+want)
		}
	}
}

// A link among the words of a line may be as small as they are; one that is laid out as a box may
// not (WCAG 2.2, 2.5.8, exceptions).
func TestLinksInLinesMayBeSmall(t *testing.T) {
	for display, want := range map[string]bool{"block": false, "flex": true, "inline-grid": true} {
		link := part("link", "a", contract.Style{"font-size": "12px", "line-height": "16px"})
		link.Content = contract.FixedText{Text: "More"}
		c := of(part("root", "div", contract.Style{"display": display, "align-items": "flex-start"}, link))
		found := false
		for _, p := range check.Problems(check.Contract(c, check.Options{Fonts: font.Shipped()})) {
			found = found || p.Rule == "target-size"
		}
		assert.Equal(t, want, found, display)
	}
}

// Elements that nothing is said about stand in each other as they are written: an HTML parser
// moves none of them (HTML, 13.2.6), as it does with a div in a p or a button in a button.
func TestWhatIsNotFoundIsNotMoved(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 4))
	elements := slices.DeleteFunc(slices.Clone(contract.Elements), func(e string) bool { return e == "svg" || e == "img" })
	passed, moved := 0, 0
	for range 6000 {
		n := 0
		var make func(depth int) *contract.Part
		make = func(depth int) *contract.Part {
			n++
			p := part(fmt.Sprintf("p%d", n), elements[random.IntN(len(elements))], nil)
			if !slices.Contains(contract.Void, p.Element) && depth < 3 {
				for range random.IntN(3) {
					p.Children = append(p.Children, make(depth+1))
				}
			}
			return p
		}
		c := of(make(0))
		if len(c.Check(token.Empty())) > 0 {
			continue
		}
		wrong := slices.ContainsFunc(check.Contract(c, check.Options{}), func(f check.Finding) bool { return strings.HasPrefix(f.Rule, "html-") })
		markup := emittest.Markup(ir.Lower(c), nil)
		nodes, err := html.ParseFragment(strings.NewReader(markup), &html.Node{Type: html.ElementNode, Data: "body", DataAtom: atom.Body})
		require.NoError(t, err)
		same := len(nodes) == 1 && asWritten(nodes[0], c.Root)
		if !same {
			moved++
		}
		if !wrong {
			passed++
			assert.True(t, same, "nothing is said of %s", markup)
		}
	}
	assert.Greater(t, passed, 300, "hardly anything passed")
	assert.Greater(t, moved, 300, "hardly anything was moved")
}

func asWritten(n *html.Node, p *contract.Part) bool {
	if n.Data != p.Element {
		return false
	}
	i := 0
	for c := range n.ChildNodes() {
		if c.Type == html.ElementNode {
			if i >= len(p.Children) || !asWritten(c, p.Children[i]) {
				return false
			}
			i++
		}
	}
	return i == len(p.Children)
}

// OASIS SARIF 2.1.0: 3.13 (log), 3.14 (run), 3.27 (result), 3.29 (physical location).
func TestSARIF(t *testing.T) {
	list := check.Problems(check.Contract(text("#777777", "#ffffff", "16px", "400"), check.Options{}))
	list = append(list, list[0])
	list.Locate("some name.json", text("#777777", "#ffffff", "16px", "400").JSON())
	var log struct {
		Version string
		Runs    []struct {
			Tool struct {
				Driver struct {
					Name  string
					Rules []struct{ ID string }
				}
			}
			Results []struct {
				RuleID    string
				RuleIndex int
				Level     string
				Message   struct{ Text string }
				Locations []struct {
					PhysicalLocation struct {
						ArtifactLocation struct{ URI string }
						Region           struct{ StartLine, StartColumn int }
					}
				}
			}
		}
	}
	out := problem.SARIF("Cobrik", list)
	require.NoError(t, json.Unmarshal(out, &log))
	assert.Equal(t, "2.1.0", log.Version)
	require.Len(t, log.Runs, 1)
	run := log.Runs[0]
	require.Len(t, run.Results, 2)
	assert.Len(t, run.Tool.Driver.Rules, 1, "a rule is listed once")
	for _, r := range run.Results {
		assert.Equal(t, run.Tool.Driver.Rules[r.RuleIndex].ID, r.RuleID)
		assert.Equal(t, "error", r.Level)
		assert.Contains(t, r.Message.Text, "contrast of 4.48")
		assert.Equal(t, "some%20name.json", r.Locations[0].PhysicalLocation.ArtifactLocation.URI)
		assert.Positive(t, r.Locations[0].PhysicalLocation.Region.StartLine)
	}
	assert.Contains(t, string(problem.SARIF("Cobrik", nil)), `"results": []`)
}

// Where a rule could be taken for tripped, and is not, and what it says where it is.
func TestWhereARuleEnds(t *testing.T) {
	o := check.Options{Themes: []check.Theme{{Tokens: tokens}}, Fonts: font.Shipped()}
	said := func(rule string, c *contract.Contract) (out []string) {
		for _, f := range check.Contract(c, o) {
			if f.Rule == rule {
				out = append(out, f.Message)
			}
		}
		return out
	}
	inner := part("root", "label", nil, words("name", "span", "Plot"), part("field", "input", nil))
	assert.Empty(t, said("label-missing", of(inner)), "a field in its label has it for a name (HTML, 4.10.4)")
	assert.Empty(t, said("html-interactive", of(inner)))

	view := func(below, from float64) *contract.Contract {
		c := of(part("root", "div", nil))
		ruled(c, "root", contract.Of(contract.Viewport{Range: contract.Range{Below: below}}), contract.Style{"gap": "16px"})
		return ruled(c, "root", contract.Of(contract.Viewport{Range: contract.Range{From: from}}), contract.Style{"gap": "20px"})
	}
	assert.Contains(t, said("widths-apart", view(768, 800))[0], "neither holds from 768 px to 800 px")
	assert.Contains(t, said("widths-apart", view(800, 768))[0], "both hold from 768 px to 800 px")
	apart := view(768, 800)
	apart.Rules[1].Set = contract.Style{"padding-inline": "16px"}
	assert.Empty(t, said("widths-apart", apart), "they say nothing of the same")

	// A rule in a world that was not looked at is not called idle.
	seldom := ruled(of(part("root", "div", nil)), "root", contract.Of(contract.Direction{Is: "rtl"}), contract.Style{"gap": "16px"})
	assert.Empty(t, said("rule-idle", seldom))

	busy := ruled(of(part("root", "div", nil), flag("waiting")), "root", contract.Of(in("loading")), contract.Style{"gap": "16px"})
	assert.NotEmpty(t, said("state-nobody", busy))
	busy.Root.Attributes = map[string]contract.Attribute{"aria-busy": {Prop: "waiting"}}
	assert.Empty(t, said("state-nobody", busy), "the attribute that says a state sets it")

	round := func(own string) *contract.Contract {
		return of(part("root", "div", contract.Style{"border-radius": "12px"}, part("inner", "div", contract.Style{"width": "80px", "height": "40px", "background-color": "#336699", "border-radius": own})))
	}
	assert.NotEmpty(t, said("corner-painted", round("2px")))
	assert.Empty(t, said("corner-painted", round("12px")), "a child as round as its parent")
	padded := round("2px")
	padded.Root.Style["padding-block"], padded.Root.Style["padding-inline"] = "8px", "8px"
	assert.Empty(t, said("corner-painted", padded), "a child away from the corners")

	tone := contract.Prop{ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"a", "b", "c"}, Initial: "a"}}
	is := func(o string) contract.PropIs {
		return contract.PropIs{Prop: "tone", Value: contract.OptionValue(o)}
	}
	forgot := of(part("root", "div", contract.Style{"background-color": "#ffffff"}), tone)
	ruled(forgot, "root", contract.Of(is("b")), contract.Style{"background-color": "#eeeeee"})
	ruled(forgot, "root", contract.Of(is("c")), contract.Style{"background-color": "#cccccc"})
	ruled(forgot, "root", contract.Of(in("hover")), contract.Style{"background-color": "#dddddd"})
	ruled(forgot, "root", contract.Of(in("hover"), is("b")), contract.Style{"background-color": "#bbbbbb"})
	got := said("variant-state", forgot)
	require.Len(t, got, 1, "what one variant says is taken for another's")
	assert.Contains(t, got[0], "with tone = c, background-color of root is #cccccc; in the state hover it is #dddddd")

	off := ruled(ruled(of(part("root", "button", nil, words("name", "span", "Go")), flag("disabled")), "root", contract.Of(in("hover")), contract.Style{"gap": "16px"}),
		"root", contract.Of(in("disabled")), contract.Style{"gap": "20px"})
	assert.Empty(t, said("state-unseen", off), "what is disabled need not change when hovered")
}

// A contract of many options is looked at value by value, not in all combinations.
func TestManyOptionsAreLookedAtInTime(t *testing.T) {
	c := of(part("root", "div", contract.Style{"background-color": "#ffffff"}, words("label", "span", "Leeks")))
	for i := range 12 {
		p := contract.Prop{ID: fmt.Sprintf("p%d", i), Name: fmt.Sprintf("p%d", i), Type: contract.Choice{Options: []string{"a", "b", "c", "d"}, Initial: "a"}}
		c.Props = append(c.Props, p)
		for k, o := range []string{"b", "c", "d"} {
			ruled(c, "label", contract.Of(contract.PropIs{Prop: p.ID, Value: contract.OptionValue(o)}), contract.Style{"color": fmt.Sprintf("#00%x%x%x%x", i, i, k, k)})
		}
	}
	ruled(c, "label", contract.Of(contract.PropIs{Prop: "p11", Value: contract.OptionValue("d")}), contract.Style{"color": "#eeeeee"})
	found := check.Problems(check.Contract(c, check.Options{})) // 4^12 combinations would take days
	assert.Contains(t, found.Error(), "p11 = d")
}

// In one case what cannot be read is told as in all; of what is out of use nothing is asked (WCAG 2.2, 1.4.3).
func TestWhatCannotBeReadInOneCase(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Sign", Root: &contract.Part{ID: "root", Name: "root", Element: "p", Style: contract.Style{"background-color": "#ffffff", "color": "#aaaaaa"}, Content: contract.FixedText{Text: "Open"}},
		Props: []contract.Prop{{ID: "disabled", Name: "disabled", Type: contract.Flag{}}}}
	found := check.Unreadable(c, contract.Env{}, token.Empty())
	require.Len(t, found, 1)
	assert.InDelta(t, 2.32, found[0].Ratio, 0.01)
	assert.Equal(t, 4.5, found[0].Needs)
	assert.Empty(t, check.Unreadable(c, contract.Env{States: []string{"disabled"}}, token.Empty()))
	assert.Empty(t, check.Unreadable(c, contract.EnvOf(contract.Values{"disabled": contract.FlagValue(true)}), token.Empty()))
}
