package survey_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/survey"
	"cobrik/demo/demotest"
)

// When this fails, it is not told where a family is used, or a use that is another thing is taken for one.
func TestUsesOfFamilies(t *testing.T) {
	word := "Sown"
	tag := family("tag", "Crop tag", box("a", "Crop tag", 0, 0, 60, 24, text("al", "Label", "Ripe", 8, 4, 12), path("ai", "Icon", 40, 4, 16, "M0 0h9z")), box("b", "Crop tag", 0, 0, 60, 24, text("bl", "Label", "Ripe", 8, 4, 12), path("bi", "Icon", 40, 4, 16, "M0 0h9z")))
	card := family("card", "Card", box("c", "Card", 0, 0, 200, 90, useOf("in-card", "tag", 10, 10, 60, 24)))
	plain := useOf("u1", "tag", 10, 10, 60, 24, design.Override{Layer: "Label", Text: &word})
	plain.Instance.Choices = map[string]string{"Look": "b"}
	got := survey.Read(document([]*design.Page{page("p", "Page", 900, plain, useOf("u2", "tag", 10, 99, 60, 24, design.Override{Layer: "Label", Hidden: yes()}, design.Override{Layer: "Icon", Hidden: yes()}), useOf("gone", "nothing", 10, 300, 9, 9))}, tag, card), survey.Options{}).Families
	require.Len(t, got, 2)
	require.Len(t, got[0].Uses, 3)
	one := got[0].Uses[0]
	assert.Equal(t, "p", one.Page)
	assert.Equal(t, map[string]string{"Look": "b"}, one.Choices)
	assert.Equal(t, 1, one.Overrides)
	assert.Equal(t, 0, one.Replaced, "another text is no replacement")
	assert.Equal(t, design.Rect{X: 10, Y: 10, Width: 60, Height: 24}, one.Box)
	assert.False(t, one.Other)
	assert.True(t, got[0].Uses[1].Other)
	assert.Equal(t, "card", got[0].Uses[2].Family)
	assert.Empty(t, got[1].Uses)
}

// When this fails, a find is not told to be like the component it could have been, or for the wrong reasons.
func TestNearestSaysWhatMatchesIsMissingAndIsExtra(t *testing.T) {
	part := func(name string, content contract.Content, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: name, Name: name, Content: content, Children: children}
	}
	known := survey.Known{Contracts: []*contract.Contract{
		{Name: "SeedOffer", Root: part("root", nil, part("picture", contract.ImageOf{Prop: "picture"}), part("words", nil, part("title", contract.TextOf{Prop: "title"}), part("price", contract.TextOf{Prop: "price"})))},
		{Name: "Lamp", Root: part("root", nil, part("glow", nil))},
	}}
	card := func(i int) *design.Layer {
		x := 20 + float64(i)*260
		return box(fmt.Sprint("card-", i), "Offer", x, 20, 240, 200, &design.Layer{ID: fmt.Sprint("i", i), Name: "Bed", Kind: design.Image, Bounds: design.Rect{Width: 240, Height: 120}, Image: &design.ImageContent{Asset: "x"}},
			text(fmt.Sprint("t", i), "Title", fmt.Sprint("Squash ", i), 12, 130, 18), box(fmt.Sprint("n", i), "Badge", 200, 130, 30, 30))
	}
	got := survey.Read(one(card(0), card(1), card(2)), survey.Options{Known: known})
	require.Len(t, got.Finds, 1)
	require.Len(t, got.Finds[0].Nearest, 1, "a lamp is nothing like it")
	near := got.Finds[0].Nearest[0]
	assert.Equal(t, "SeedOffer", near.Name)
	assert.Equal(t, survey.NearContract, near.Kind)
	assert.Equal(t, []string{"n0"}, near.Extra)
	assert.Len(t, near.Missing, 1, "one text")
	assert.Equal(t, 2, near.Matches)
	assert.InDelta(t, 1-2.0/6, near.Likeness, 1e-9) // one of three things in each
}

// When this fails, a part of a page that there is a component for is not told to be like it.
func TestSectionsOfPagesAreHeldAgainstComponents(t *testing.T) {
	known := survey.Known{Contracts: []*contract.Contract{{Name: "Banner", Root: &contract.Part{Name: "root", Children: []*contract.Part{
		{Name: "title", Content: contract.TextOf{Prop: "title"}}, {Name: "note", Content: contract.TextOf{Prop: "note"}}}}}}}
	frame := box("frame", "Frame", 0, 0, 900, 900, box("banner", "Lead", 20, 20, 800, 120, text("bt", "Title", "Beds", 10, 10, 30), text("bn", "Note", "All of them", 10, 60, 14)), text("alone", "Alone", "x", 20, 300, 14))
	got := survey.Read(one(frame), survey.Options{Known: known}).Sections
	require.Len(t, got, 1, "a text alone is no section, and the frame is the page")
	assert.Equal(t, "banner", got[0].Layer)
	assert.Equal(t, "Lead", got[0].Name)
	assert.Equal(t, "p", got[0].Page)
	require.Len(t, got[0].Nearest, 1)
	assert.Equal(t, "Banner", got[0].Nearest[0].Name)
}

// The demo's own page: nobody made its cards into uses.
func TestTheDemosCardsAreCopiesOfTheFamily(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	got := survey.Read(doc, survey.Options{Tokens: tokens})
	var copies *survey.Find
	for i, f := range got.Finds {
		if f.Kind == survey.Copies {
			assert.Nil(t, copies, f.ID)
			copies = &got.Finds[i]
		}
	}
	require.NotNil(t, copies)
	assert.Equal(t, "plot-card", copies.Family)
	assert.Len(t, copies.Members, 10)
}

func asked() (*design.Document, []survey.Question) {
	doc := one(group("g", "Group 14", 10, 10, 90, 40, text("t", "Title", "<b>*Beds*</b>", 0, 0, 14), text("u", "Note", "b", 0, 20, 12)))
	doc.Name = "Furrow <2>"
	var list []survey.Question
	for _, d := range survey.Read(doc, survey.Options{}).Doubts {
		list = append(list, survey.Question{Doubt: d, Note: "Is it a *plot*?"})
	}
	return doc, list
}

// When this fails, the page of questions is broken by a name, or leaves a question, its reason or its picture out.
func TestQuestionsAsAPage(t *testing.T) {
	doc, list := asked()
	require.NotEmpty(t, list)
	page, err := survey.QuestionsHTML(doc, list)
	require.NoError(t, err)
	root, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	count := map[string]int{}
	var words strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		switch n.Type {
		case html.ElementNode:
			count[n.Data]++
		case html.TextNode:
			words.WriteString(n.Data)
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(root)
	assert.Equal(t, len(list), count["li"])
	assert.Equal(t, len(list), count["img"])
	assert.Zero(t, count["script"]+count["link"])
	assert.Contains(t, words.String(), "Questions on Furrow <2>")
	assert.Contains(t, words.String(), "“Group 14” holds 2 layers")
	assert.Contains(t, words.String(), "Is it a *plot*?")
	assert.Contains(t, page, "data:image/svg&#43;xml,")

	marked := survey.QuestionsMarkdown(doc, list)
	assert.Contains(t, marked, "# Questions on Furrow \\<2\\>\n")
	assert.Contains(t, marked, "Is it a \\*plot\\*?")
	assert.Equal(t, len(list), strings.Count(marked, "](data:image/svg+xml,"))
	assert.NotContains(t, strings.TrimSuffix(marked[strings.Index(marked, "](data"):], ")\n"), "(\n", "no bracket ends an address early")
}
