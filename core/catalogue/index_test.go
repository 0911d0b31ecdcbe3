package catalogue_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/catalogue"
	"cobrik/core/contract"
	"cobrik/demo/demotest"
)

func part(id, element string, children ...*contract.Part) *contract.Part {
	return &contract.Part{ID: id, Name: id, Element: element, Children: children}
}

func component(name string, root *contract.Part, props ...contract.Prop) *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: name, Root: root, Props: props}
}

func prop(name string, t contract.Type) contract.Prop {
	return contract.Prop{ID: name, Name: name, Type: t}
}

func choice(options ...string) contract.Choice {
	return contract.Choice{Options: options, Initial: options[0]}
}

// library are components in which each word stands in one field alone.
func library() *catalogue.Index {
	tag := component("CropTag", part("root", "span", part("label", "span")), prop("tone", choice("sown", "ripe")), prop("label", contract.Text{Initial: "Growing well"}))
	tag.Purpose = "Says in a word how a crop is doing."
	tag.Root.Style = contract.Style{"padding-inline": "{space.2}"}
	tag.Do = []string{"Stand it beside a name."}
	tag.Notes = contract.RichValue{{Kind: "paragraph", Runs: []contract.Run{{Text: "Agreed in "}, {Text: "spring", Strong: true}}}}
	button := component("DoIt", part("root", "button"), prop("goneToSeed", contract.Flag{}))
	button.Rules = []contract.Rule{{Part: "root", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"opacity": "0.9"}}}
	card := component("PlotCard", part("root", "article", &contract.Part{ID: "badge", Name: "badge", Content: &contract.Use{Component: "CropTag"}}))
	notice := component("Announcement", part("root", "div", part("overlay", "dialog")))
	notice.Root.Children[0].Content = contract.FixedText{Text: "Mind the plot by the canal"}
	all := []*contract.Contract{tag, button, card, notice}
	var names []string
	var terms [][]catalogue.Term
	for i, c := range all {
		names = append(names, c.Name)
		terms = append(terms, append(catalogue.Terms(c), catalogue.ShelfTerms([]string{"Small things", "Small things", "Plots", ""}[i])...))
	}
	return catalogue.NewIndex(names, terms)
}

func found(x *catalogue.Index, text string) (out []string) {
	for _, h := range x.Find(text) {
		out = append(out, x.Names[h.Component])
	}
	return out
}

func TestComponentsAreFoundByAllThatIsSaidOfThem(t *testing.T) {
	x := library()
	for asked, want := range map[string]string{
		"croptag":          "CropTag PlotCard",      // its name as it is written
		"chip":             "CropTag",               // another word for what it is
		"buttons":          "DoIt",                  // an element, in the plural
		"small":            "CropTag DoIt",          // a shelf
		"tone":             "CropTag",               // a prop
		"gonetoseed":       "DoIt",                  // a prop of several words
		"seed":             "DoIt",                  // one of them
		"ripe":             "CropTag",               // an option
		"word":             "CropTag",               // of the purpose
		"beside":           "CropTag",               // what it is meant for
		"spring":           "CropTag",               // a note
		"hover":            "DoIt",                  // a state
		"badge":            "CropTag PlotCard",      // a part, after a synonym
		"space.2":          "CropTag",               // a token
		"canal":            "Announcement",          // a text
		"growing":          "CropTag",               // a default
		"modal":            "Announcement",          // what it lays above the page
		"plot":             "PlotCard Announcement", // the name before a text
		"plot canal":       "Announcement",          // every word has to be there
		"ard":              "PlotCard",              // inside of a word
		"ar":               "",                      // too short for that
		"nowhere":          "",
		"  CROP   tag ":    "CropTag PlotCard",
		"":                 "CropTag DoIt PlotCard Announcement",
		"weather forecast": "",
		"teaser":           "PlotCard",
	} {
		assert.Equal(t, want, strings.Join(found(x, asked), " "), "who types %q looks for something else", asked)
	}
}

func TestAHitSaysWhereTheWordsStand(t *testing.T) {
	x := library()
	hits := x.Find("chip ripe space.2")
	require.Len(t, hits, 1)
	assert.Equal(t, []catalogue.Reason{{Word: "chip", Field: catalogue.InSynonym, Said: "CropTag"}, {Word: "ripe", Field: catalogue.InOption, Said: "tone ripe"}, {Word: "space.2", Field: catalogue.InToken, Said: "space.2"}}, hits[0].Why)
	long := component("Long", part("root", "p"))
	long.Purpose = "A text that is far longer than anyone would read it in a list of components, by a good deal."
	x = catalogue.NewIndex([]string{"Long"}, [][]catalogue.Term{catalogue.Terms(long)})
	assert.Len(t, []rune(x.Find("text")[0].Why[0].Said), 60, "a reason is told in a line")
}

// Whatever a component of the demo is made of, it is found by, and the words of its name find it first or beside those of the same word.
func TestEveryWordOfTheDemoFindsItsComponent(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	families, _ := demotest.Families(t, doc, tokens)
	var names []string
	var terms [][]catalogue.Term
	for _, f := range families {
		names = append(names, f.Contract.Name)
		terms = append(terms, catalogue.Terms(f.Contract))
	}
	x := catalogue.NewIndex(names, terms)
	for i, list := range terms {
		for _, term := range list {
			assert.Contains(t, found(x, term.Word), names[i], "%s is not found by %s", names[i], term.Word)
		}
		assert.Equal(t, names[i], found(x, names[i])[0], "who types a name finds another component first")
	}
	assert.Equal(t, "CropTag", found(x, "chip")[0])
}

func TestWordsFitByTheirBeginningBeforeTheirInside(t *testing.T) {
	of := func(names ...string) *catalogue.Index {
		var terms [][]catalogue.Term
		for _, n := range names {
			terms = append(terms, catalogue.Terms(component(n, part("root", "b"))))
		}
		return catalogue.NewIndex(names, terms)
	}
	assert.Equal(t, []string{"Sett", "Settled", "Unsettled"}, found(of("Unsettled", "Settled", "Sett"), "sett"))
	assert.Empty(t, found(of("Mosaic"), "moss"), "moss is no plural")
	bars := component("Bars", part("root", "b"))
	bars.RoomOf = "Card"
	assert.Len(t, found(catalogue.NewIndex([]string{"Bars"}, [][]catalogue.Term{catalogue.Terms(bars)}), "skeleton"), 1)
}

func TestKeysAreThoseOfElements(t *testing.T) {
	with := func(element, attribute, value string) *contract.Part {
		p := part(element+value, element)
		p.Attributes = map[string]contract.Attribute{attribute: {Text: value}}
		return p
	}
	c := component("Form", part("root", "form", part("send", "button"), with("a", "href", "/x"), part("words", "a"), with("input", "type", "checkbox"), with("input", "type", "radio"), with("input", "type", "range"), with("input", "type", "email"), part("note", "textarea"), part("pick", "select"), with("input", "type", "hidden"), part("sum", "summary"), part("over", "dialog"), part("p", "p")))
	keys := map[string]string{}
	for _, k := range catalogue.NativeKeys(c) {
		keys[k.Part] = strings.Join(k.Keys, " ")
	}
	assert.Equal(t, map[string]string{"send": "Enter Space", "a/x": "Enter", "inputcheckbox": "Space", "inputradio": "Space ArrowUp ArrowDown", "inputrange": "ArrowLeft ArrowRight ArrowUp ArrowDown Home End PageUp PageDown", "inputemail": "text is typed", "note": "text is typed", "pick": "ArrowUp ArrowDown Home End", "sum": "Enter Space", "over": "Escape"}, keys)
}

func TestANumberedNameIsWhatItIs(t *testing.T) {
	x := catalogue.NewIndex([]string{"Tag2"}, [][]catalogue.Term{catalogue.Terms(component("Tag2", part("root", "b")))})
	assert.Equal(t, []string{"Tag2"}, found(x, "chip"))
}

func TestSynonymsGoBothWays(t *testing.T) {
	for _, word := range []string{"tag", "accordion", "meter", "dialog"} {
		require.NotEmpty(t, catalogue.Synonyms(word))
		for _, other := range catalogue.Synonyms(word) {
			assert.Contains(t, catalogue.Synonyms(other), word, "%s finds a %s, and not the other way round", other, word)
		}
	}
	assert.Contains(t, catalogue.Synonyms("tags"), "chip")
	assert.Empty(t, catalogue.Synonyms("zebra"))
}

func BenchmarkFind(b *testing.B) {
	tag := component("CropTag", part("root", "span", part("label", "span")), prop("tone", choice("sown", "ripe")), prop("label", contract.Text{Initial: "Growing well"}))
	var names []string
	var terms [][]catalogue.Term
	for i := range 1000 {
		c := tag.Clone()
		c.Name = "Crop" + strings.Repeat(string(rune('A'+i%26)), 1+i/26)
		c.Purpose = strings.Repeat("Purpose number "+c.Name+" of many. ", 3)
		names, terms = append(names, c.Name), append(terms, catalogue.Terms(c))
	}
	x := catalogue.NewIndex(names, terms)
	for b.Loop() {
		x.Find("crop many ripe")
	}
}
