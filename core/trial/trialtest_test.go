package trial_test

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/core/token"
	"cobrik/core/trial"
	"cobrik/demo/demotest"
)

// card is a component with a prop of many kinds, and two slots.
func card() *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: "Card", Props: []contract.Prop{
		{ID: "title", Name: "title", Required: true, Type: contract.Text{Longest: 40}},
		{ID: "body", Name: "body", Type: contract.Rich{}},
		{ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"plain", "ripe", "half ripe"}, Initial: "plain"}},
		{ID: "due", Name: "due", Type: contract.Flag{}},
		{ID: "count", Name: "count", Type: contract.Number{}},
		{ID: "href", Name: "href", Type: contract.Link{}},
		{ID: "picture", Name: "picture", Type: contract.Image{}},
		{ID: "links", Name: "links", Type: contract.List{Items: []contract.Prop{{ID: "label", Name: "label", Type: contract.Text{}}, {ID: "href", Name: "href", Type: contract.Link{}}}}},
		{ID: "children", Name: "children", Type: contract.Slot{}},
		{ID: "foot", Name: "foot", Type: contract.Slot{}},
	}, Root: &contract.Part{ID: "root", Name: "root", Element: "article", Children: []*contract.Part{
		{ID: "picture", Name: "picture", Element: "img", Content: contract.ImageOf{Prop: "picture"}},
		{ID: "title", Name: "title", Element: "h3", Content: contract.TextOf{Prop: "title"}},
		{ID: "body", Name: "body", Element: "div", Content: contract.TextOf{Prop: "body"}},
		{ID: "count", Name: "count", Element: "span", Content: contract.TextOf{Prop: "count"}},
		{ID: "link", Name: "link", Element: "a", Attributes: map[string]contract.Attribute{"href": {Prop: "href"}}},
		{ID: "item", Name: "item", Element: "a", Repeat: "links", Attributes: map[string]contract.Attribute{"href": {Prop: "links.href"}}, Content: contract.TextOf{Prop: "links.label"}},
		{ID: "slot", Name: "slot", Element: "div", Content: contract.SlotOf{Prop: "children"}},
		{ID: "foot", Name: "foot", Element: "div", Content: contract.SlotOf{Prop: "foot"}},
	}}, Rules: []contract.Rule{
		{Part: "root", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("ripe")}), Set: contract.Style{"background-color": "#ffcc00"}},
		{Part: "title", When: contract.BelowWidth(300), Set: contract.Style{"font-size": "14px"}},
		{Part: "root", When: contract.Of(contract.PropIs{Prop: "due", Value: contract.FlagValue(true)}), Set: contract.Style{"border-width": "2px"}},
		{Part: "root", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("half ripe")}), Set: contract.Style{"background-color": "#ffee99"}},
	}}
}

const plotsCSV = `number,holder,crop,state,sown,beds
41,Ines,Runner beans,ripe,2026-03-01,2
12,Marek,Squash,half_ripe,2026-04-15,1
77,,Leeks,plain,2026-05-02,3
`

const notesJSON = `[
 {"title": "The pump", "body": "<p>It <strong>runs</strong>.</p><ul><li>Fill cans</li></ul>", "link": "/rota", "photo": {"src": "data:image/png;base64,AAAA", "alt": "The pump", "width": 40, "height": 30}},
 {"title": "The gate"}
]`

var furrowTokens = sync.OnceValue(func() *token.Set {
	tokens, _ := token.Read(demotest.TokenFiles()...)
	return tokens
})

// world is a page's world with a card, plots and notes.
func world(t testing.TB) trial.World {
	t.Helper()
	tokens := furrowTokens()
	w := trial.World{Name: "TestPage", Tokens: tokens, Sources: map[string]*content.Source{}, Pictures: map[string]contract.ImageValue{"bed": {Source: "data:image/png;base64,AAAA", Alt: "A bed", Width: 40, Height: 30}}}
	w.Component = func(name string) *contract.Contract {
		if name == "Card" {
			return card()
		}
		return nil
	}
	for name, text := range map[string]string{"plots.csv": plotsCSV, "notes.json": notesJSON, "none.json": "[]"} {
		s, bad := content.Read(name, []byte(text))
		require.Empty(t, bad)
		w.Sources[name] = s
	}
	return w
}

// made compiles an outline in which nothing is wrong.
func made(t testing.TB, outline string) *trial.Page {
	t.Helper()
	p := tried(t, outline)
	require.Empty(t, p.Found, "rows that are right are told to be wrong")
	return p
}

func tried(t testing.TB, outline string) *trial.Page {
	t.Helper()
	rows, found := trial.Parse(outline)
	require.Empty(t, found)
	return trial.Compile(world(t), rows)
}

// furrow is the demo's design, with all its families drafted, and what its survey knows of copies.
func furrow(t testing.TB, revision int) (trial.Design, survey.Reading, func(name string) *contract.Contract) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, revision)
	fonts := font.Shipped()
	known := map[string]*contract.Contract{}
	var components draft.Components
	components = func(family string) *contract.Contract {
		if c, ok := known[family]; ok {
			return c
		}
		known[family] = nil
		c, _, _ := draft.Of(doc, contract.Origin{Document: doc.ID, Family: family}, "", tokens, fonts, components)
		known[family] = c
		return c
	}
	reading := survey.Read(doc, survey.Options{Tokens: tokens})
	d := trial.Design{Document: doc, Components: components, Tokens: tokens, Fonts: fonts}
	for _, f := range reading.Finds {
		if f.Kind != survey.Copies {
			continue
		}
		for _, m := range f.Members {
			d.Copies = append(d.Copies, trial.Copy{Layers: m.Layers, Component: components(f.Family)})
		}
	}
	for _, f := range doc.Families {
		components(f.ID)
	}
	return d, reading, func(name string) *contract.Contract {
		for _, c := range known {
			if c != nil && c.Name == name {
				return c
			}
		}
		return nil
	}
}
