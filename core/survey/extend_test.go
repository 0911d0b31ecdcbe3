package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/core/token"
)

// draftedFrom drafts a contract from a find of a document, as the service does.
func draftedFrom(t *testing.T, doc *design.Document, f survey.Find, w survey.Wish) (*contract.Contract, survey.Member) {
	t.Helper()
	model, ok := f.Model(w.Left)
	require.True(t, ok)
	c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, token.Empty(), font.Shipped(), nil)
	require.NotNil(t, c, found)
	assert.Empty(t, f.Extend(doc, c, model.ID, w))
	require.Empty(t, c.Check(token.Empty()), "what is drafted can be emitted")
	return c, model
}

// valuesOf gives the values of a copy by the props' names.
func valuesOf(t *testing.T, c *contract.Contract, f survey.Find, copied string) contract.Values {
	t.Helper()
	out := contract.Values{}
	for _, p := range f.Props {
		for _, q := range c.Props {
			if q.Name != p.Name {
				continue
			}
			switch v := p.Values[copied].(type) {
			case bool:
				out[q.ID] = contract.FlagValue(v)
			case string:
				if q.Kind() == contract.ChoiceKind {
					out[q.ID] = contract.OptionValue(v)
				} else {
					out[q.ID] = contract.TextValue(v)
				}
			}
		}
	}
	return out
}

// resolved finds what a part shows, by the name of its layer, and its style.
func resolved(c *contract.Contract, values contract.Values) map[string]contract.Style {
	out := map[string]contract.Style{}
	var walk func(r *contract.Resolved)
	walk = func(r *contract.Resolved) {
		if !r.Shown {
			return
		}
		style := contract.Style{}
		for property, v := range r.Values {
			style[property] = v.Value
		}
		out[r.Part.Name] = style
		for _, child := range r.Children {
			walk(child)
		}
	}
	walk(contract.Resolve(c, contract.Env{Props: values}, token.Empty()))
	return out
}

// A component that is drafted from copies gives each of them back: its paint, and what it shows.
func TestWhatIsDraftedGivesEveryCopyBack(t *testing.T) {
	tag := func(id, word, ground, ink string) *design.Layer {
		return with(box(id, "Tag", 150, 12, 50, 20, with(text(id+"-word", "State", word, 4, 4, 11), func(l *design.Layer) { l.Fill = ink })), func(l *design.Layer) { l.Fill = ground })
	}
	looks := []struct{ word, ground, ink string }{{"ripe", "#ffdddd", "#aa0000"}, {"sown", "#ddffdd", "#006600"}, {"ripe", "#ffdddd", "#aa0000"}, {"rest", "#ddddff", "#aa0000"}}
	var cards []*design.Layer
	for i, l := range looks {
		holds := []*design.Layer{tag("tag-"+string(rune('0'+i)), l.word, l.ground, l.ink)}
		if i%2 == 0 {
			holds = append(holds, path("seed-"+string(rune('0'+i)), "Gone to seed", 180, 100, 20, "M0 0h9v9z"))
		}
		cards = append(cards, card(i, 20+float64(i)*260, 20, holds...))
	}
	doc := document([]*design.Page{page("p", "Page", 1200, cards...)})
	f := survey.Read(doc, survey.Options{}).Finds[0]
	c, model := draftedFrom(t, doc, f, survey.Wish{})
	assert.Equal(t, "card-0", model.ID, "it shows all")
	for i, l := range looks {
		got := resolved(c, valuesOf(t, c, f, "card-"+string(rune('0'+i))))
		assert.Equal(t, l.ground, got["tag"]["background-color"], i)
		assert.Equal(t, l.ink, got["state"]["color"], i)
		_, seed := got["goneToSeed"]
		assert.Equal(t, i%2 == 0, seed, i)
	}
	said := 0
	for _, r := range c.Rules {
		if r.Set["color"] != "" {
			said++
		}
	}
	assert.Equal(t, 1, said, "what an option has in common with the default is not said again")
	for _, p := range f.Props {
		if p.Kind == "choice" {
			for _, q := range c.Props {
				if q.Name == p.Name {
					assert.ElementsMatch(t, p.Options, q.Options())
				}
			}
		}
	}
}

// When this fails, what people said of a find before it was drafted is forgotten.
func TestADraftFollowsWhatWasAsked(t *testing.T) {
	big := func(l *design.Layer) { l.Children[0].Text.FontWeight = 700 }
	doc := one(with(card(0, 20, 20), big), card(1, 320, 20), with(card(2, 620, 20), func(l *design.Layer) { l.Fill = "#eeeeee" }))
	f := survey.Read(doc, survey.Options{}).Finds[0]
	propNamed(t, f, "emphasis")
	propNamed(t, f, "tone")
	whole, _ := draftedFrom(t, doc, f, survey.Wish{})
	assert.NotNil(t, whole.Prop("emphasis"))
	c, _ := draftedFrom(t, doc, f, survey.Wish{Renamed: map[string]string{"title": "plot name"}, Dropped: []string{"emphasis"}, Left: []string{"card-2"}})
	var names []string
	for _, p := range c.Props {
		names = append(names, p.Name)
	}
	assert.Contains(t, names, "plotName")
	assert.NotContains(t, names, "title")
	assert.NotContains(t, names, "emphasis")
	assert.NotContains(t, names, "tone", "the copy that has another was left out")
}

// Loose layers become a component as well: nobody has to group them first.
func TestLooseCopiesAreDrafted(t *testing.T) {
	body := ""
	for i, x := range []string{"20", "320", "620"} {
		body += `<rect id="ground-` + x + `" x="` + x + `" y="20" width="200" height="90" fill="#ffffff"/><text id="name-` + x + `" x="` + x + `" dx="12" y="60" font-size="18">Tool ` + string(rune('A'+i)) + `</text>`
	}
	doc, found := design.ImportSVG("loose.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="200" font-family="Hanken Grotesk">`+body+`</svg>`), font.Shipped())
	require.NotNil(t, doc, found)
	f := survey.Read(doc, survey.Options{}).Finds[0]
	c, model := draftedFrom(t, doc, f, survey.Wish{})
	assert.Equal(t, []string{"ground-20", "name-20"}, model.Layers)
	assert.Equal(t, []string{"name-20"}, c.Origin.With)
	again, found := draft.Source(doc, *c.Origin, font.Shipped(), nil)
	require.NotNil(t, again, found)
	assert.Equal(t, "#ffffff", again.Variants[0].Root.Fill, "its ground is the box")
	doc.Pages[0].Layers = doc.Pages[0].Layers[1:]
	_, found = draft.Source(doc, *c.Origin, font.Shipped(), nil)
	assert.Contains(t, found.Error(), "does not hold the layers ground-20, name-20")
}

// When this fails, a number that was drawn as a text stays one, or a kind that people chose is forgotten.
func TestKindsAreAsAsked(t *testing.T) {
	count := func(i int, n string) *design.Layer { return text("n"+n, "Count", n, 150, 12, 13) }
	red := func(l *design.Layer) { l.Fill = "#ffdddd" }
	doc := one(card(0, 20, 20, count(0, "12")), with(card(1, 320, 20, count(1, "3")), red), card(2, 620, 20, count(2, "7")))
	f := survey.Read(doc, survey.Options{}).Finds[0]
	assert.Equal(t, []string{"number", "text"}, propNamed(t, f, "count").Kinds())
	assert.Equal(t, []string{"choice", "flag"}, propNamed(t, f, "tone").Kinds())
	assert.Equal(t, []string{"text", "rich text"}, propNamed(t, f, "title").Kinds())
	kinds := func(w survey.Wish) map[string]contract.Kind {
		c, _ := draftedFrom(t, doc, f, w)
		out := map[string]contract.Kind{}
		for _, p := range c.Props {
			out[p.Name] = p.Kind()
		}
		return out
	}
	plain := kinds(survey.Wish{})
	assert.Equal(t, contract.NumberKind, plain["count"])
	assert.Equal(t, contract.ChoiceKind, plain["tone"])
	asked := survey.Wish{Kinds: map[string]string{"count": "text", "tone": "flag", "title": "rich text", "note": "icon"}}
	got := kinds(asked)
	assert.Equal(t, contract.TextKind, got["count"])
	assert.Equal(t, contract.FlagKind, got["tone"])
	assert.Equal(t, contract.RichKind, got["title"])
	assert.Equal(t, contract.TextKind, got["note"], "a text is no icon")
	c, _ := draftedFrom(t, doc, f, asked)
	on := resolved(c, contract.Values{"tone": contract.FlagValue(true)})
	assert.Equal(t, "#ffdddd", on["root"]["background-color"])
	assert.NotEqual(t, "#ffdddd", resolved(c, nil)["root"]["background-color"])

	padded := one(card(0, 20, 20, count(0, "012")), card(1, 320, 20, count(1, "003")))
	g := survey.Read(padded, survey.Options{}).Finds[0]
	model, _ := g.Model(nil)
	d, _, found := draft.Of(padded, model.Origin(padded.ID, 1), g.Name, token.Empty(), font.Shipped(), nil)
	require.NotNil(t, d, found)
	assert.Equal(t, []string{"count is a text: as a number, 012 would be written otherwise."}, g.Extend(doc, d, model.ID, survey.Wish{}))
}

// draftedPlain drafts a contract from one copy of a find, and nothing else.
func draftedPlain(t *testing.T, doc *design.Document, f survey.Find, model survey.Member) *contract.Contract {
	t.Helper()
	c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, token.Empty(), font.Shipped(), nil)
	require.NotNil(t, c, found)
	return c
}
