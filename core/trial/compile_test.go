package trial_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/core/emit/compile"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/react"
	"cobrik/core/primitive"
	"cobrik/core/token/output"
	"cobrik/core/trial"
)

// use finds the use of a page.
func use(t *testing.T, p *trial.Page, part string) *contract.Use {
	t.Helper()
	found := p.Contract.Part(part)
	require.NotNil(t, found, "the page has no part %s", part)
	require.NotNil(t, found.Use())
	return found.Use()
}

func givenText(t *testing.T, p *trial.Page, part, prop string) string {
	t.Helper()
	v := use(t, p, part).Values(contract.EnvOf(p.Values))[prop]
	if v == nil {
		return ""
	}
	return v.String()
}

func TestRowsAreLaidOutAsPrimitivesAre(t *testing.T) {
	// What a row of a primitive says is what the primitive says by itself: package primitive makes components of the same.
	p := made(t, "stack gap={space.4} align=center\n  box\nrow wrap distribute=space-between\n  box\ngrid columns=3\n  box\ngrid minimum=12rem gap=8px\n  box\nsplit shares=\"1 2\"\n  box\ncontainer maximum=40rem padding=1rem\n  box\noverlay pin=top-left offset=4px\n  box\n  box\n")
	style := func(part string) contract.Style { return p.Contract.Part(part).Style }
	assert.Equal(t, contract.Style{"display": "flex", "flex-direction": "column", "gap": "{space.4}", "align-items": "center"}, style("stack"))
	assert.Equal(t, contract.Style{"display": "flex", "flex-wrap": "wrap", "justify-content": "space-between"}, style("row"))
	assert.Equal(t, "repeat(3, minmax(0, 1fr))", style("grid")["grid-template-columns"])
	assert.Equal(t, "repeat(auto-fill, minmax(min(100%, 12rem), 1fr))", style("grid2")["grid-template-columns"])
	assert.Equal(t, "1fr 2fr", style("split")["grid-template-columns"])
	assert.Equal(t, contract.Style{"max-width": "40rem", "margin-inline": "auto", "padding-inline": "1rem"}, style("container"))
	assert.Equal(t, "absolute", p.Contract.Part("overlay").Children[1].Style["position"], "what is pinned is not pinned")
	assert.Equal(t, "4px", p.Contract.Part("overlay").Children[1].Style["top"])
	named := primitive.Named("Overlay", world(t).Tokens)
	assert.Equal(t, named.Root.Style["position"], style("overlay")["position"])
}

func TestWhatIsOtherwiseAtSomeWidths(t *testing.T) {
	p := made(t, "grid columns=3 gap=16px padding-inline=24px\n  below 768 stack gap=8px\n  from 1200 columns=4\n  in aside below 400 padding-inline=4px\n  in container below 300 hidden\n  box\n")
	rules := map[string]contract.Style{}
	for _, r := range p.Contract.Rules {
		rules[r.When.String()] = r.Set
	}
	assert.Equal(t, contract.Style{"display": "flex", "flex-direction": "column", "gap": "8px", "grid-template-columns": "none"}, rules["viewport < 768px"], "a narrow page has the wide arrangement")
	assert.Equal(t, contract.Style{"grid-template-columns": "repeat(4, minmax(0, 1fr))"}, rules["viewport >= 1200px"])
	assert.Equal(t, contract.Style{"padding-inline": "4px"}, rules["container aside < 400px"])
	assert.Equal(t, contract.Style{"display": "none"}, rules["container < 300px"])
}

func TestAContainerIsNamed(t *testing.T) {
	p := made(t, "box named=aside\n  box named\n")
	assert.Equal(t, contract.Style{"container-type": "inline-size", "container-name": "aside"}, p.Contract.Part("box").Style)
	assert.Equal(t, contract.Style{"container-type": "inline-size"}, p.Contract.Part("box2").Style)
}

func TestValuesOfAUse(t *testing.T) {
	p := made(t, `Card title="A {{b}}" body="Some **bold** words" tone="half ripe" due count=3 href="/a" picture=bed links=[{"label":"One","href":"/1"}] width=200px
  p "inside"
  to foot
    p "below"
`)
	for prop, want := range map[string]string{"body": "Some bold words", "tone": "half ripe", "due": "true", "count": "3", "href": "/a", "picture": "A bed", "links": "1 item"} {
		assert.Equal(t, want, givenText(t, p, "card", prop), prop)
	}
	assert.Equal(t, "A {b}", givenText(t, p, "card", "title"), "a brace that is meant is lost")
	u := use(t, p, "card")
	assert.Equal(t, []string{"p2"}, u.Given["children"].Parts)
	assert.Equal(t, []string{"p"}, u.Given["foot"].Parts)
	assert.Equal(t, contract.Style{"width": "200px"}, p.Contract.Part("card").Style)
}

func TestRecordsFillAPage(t *testing.T) {
	p := made(t, `each plot of plots.csv, at most 2
  Card title="Plot {number}" tone={plot.state: half_ripe=half ripe} count={beds}
with note of notes.json at 1
  Card title={note.title} body={note.body} picture={note.photo} href={link}
  rich {body}
`)
	list, ok := p.Values["plots"].(contract.ListValue)
	require.True(t, ok)
	require.Len(t, list, 2, "at most two are asked for")
	assert.Equal(t, contract.Values{"title": contract.TextValue("Plot 41"), "state": contract.OptionValue("ripe"), "beds": contract.NumberValue(2)}, list[0])
	assert.Equal(t, contract.OptionValue("half ripe"), list[1]["state"], "the word that a field says is no option of the component")
	assert.Equal(t, "plots", p.Contract.Part("card").Repeat)
	assert.Equal(t, "The pump", givenText(t, p, "card2", "title"))
	assert.Equal(t, "/rota", givenText(t, p, "card2", "href"))
	assert.Equal(t, "The pump", givenText(t, p, "card2", "picture"))
	assert.Equal(t, "It runs.\nFill cans", givenText(t, p, "card2", "body"))
}

func TestWordsOfADate(t *testing.T) {
	// CLDR's long dates: 1 March 2026 in en, 1. März 2026 in de (as package content is held to Intl).
	p := made(t, "each plot of plots.csv\n  p {plot.sown: long de}\n")
	assert.Equal(t, contract.TextValue("1. März 2026"), p.Values["plots"].(contract.ListValue)[0]["sown"])
}

func TestAListIsFilledFromASource(t *testing.T) {
	w := world(t)
	links, _ := content.Read("pages.json", []byte(`[{"label":"Plots","href":"/plots"},{"label":"Rota","href":"/rota"}]`))
	w.Sources["pages.json"] = links
	rows, _ := trial.Parse("Card title=A links={pages}\n")
	p := trial.Compile(w, rows)
	require.Empty(t, p.Found)
	v, _ := use(t, p, "card").Values(contract.EnvOf(p.Values))["links"].(contract.ListValue)
	assert.Equal(t, contract.ListValue{{"label": contract.TextValue("Plots"), "href": contract.LinkValue("/plots")}, {"label": contract.TextValue("Rota"), "href": contract.LinkValue("/rota")}}, v)
}

func TestWhatGoesWrongWithRecordsIsTold(t *testing.T) {
	p := tried(t, `each plot of plots.csv
  p {plot.holder}
with note of notes.json at 2
  Card title="{note.title} {note.link}" body={note.body}
each note of notes.json
  Card title={note.body}
each one of none.json
  p "nothing"
`)
	said := map[string]trial.Warning{}
	for _, w := range p.Warnings {
		said[string(w.Loss)+" "+w.Component+" "+w.Field] = w
	}
	assert.Equal(t, []int{2}, said["missing  holder"].Records, "a record without a holder goes unsaid")
	assert.Equal(t, 2, said["missing  holder"].Line)
	assert.Equal(t, []int{1}, said["missing Card body"].Records, "of a record that is chosen its own number is told")
	assert.Contains(t, said, "missing Card link")
	marks := said["marks Card body"]
	assert.Equal(t, []int{0}, marks.Records)
	assert.Contains(t, marks.Message, "strong", "which marks are lost is not told")
	assert.True(t, said["missing  "].Severe, "a source without records shows nothing, and nobody is told")
	assert.Equal(t, 7, said["missing  "].Line)
}

func TestRequiredPropsAreAskedFor(t *testing.T) {
	p := tried(t, "Card tone=ripe\n")
	require.Len(t, p.Found, 1)
	assert.Equal(t, "use-required", p.Found[0].Rule)
	assert.Equal(t, 1, p.Found[0].Line)
	assert.NotNil(t, p.Contract.Part("card"), "it is shown as it is without")
}

func TestAUseIsGivenSomethingElseAtSomeWidths(t *testing.T) {
	p := made(t, "Card title=Wide tone=ripe\n  below 640 title=Narrow\n  from 640 below 900 tone=plain\n  below 300 opacity=0.5\n")
	require.NotNil(t, p.Contract.Part("card3"))
	assert.Nil(t, p.Contract.Part("card4"))
	title := func(part string) string { return givenText(t, p, part, "title") + " " + givenText(t, p, part, "tone") }
	assert.Equal(t, []string{"Narrow ripe", "Wide plain", "Wide ripe"}, []string{title("card"), title("card2"), title("card3")})
	shown := func(viewport float64) (out []string) {
		env := contract.EnvOf(p.Values)
		env.Viewport = viewport
		contract.Resolve(p.Contract, env, world(t).Tokens).Walk(func(r *contract.Resolved) {
			if r.Part.Use() != nil && r.Values["display"].Value != "none" {
				out = append(out, r.Part.ID)
			}
		})
		return out
	}
	for viewport, want := range map[float64]string{200: "card", 639: "card", 640: "card2", 899: "card2", 900: "card3", 3000: "card3"} {
		assert.Equal(t, []string{want}, shown(viewport), "at %v px", viewport)
	}
}

func TestVersionsAreThereForTheirWidths(t *testing.T) {
	p := made(t, "stack\n  below 640\n    p \"narrow\"\n    p \"too\"\n  from 640 below 900\n    p \"middle\"\n  from 900 none\n")
	shown := func(viewport float64) (out []string) {
		env := contract.EnvOf(p.Values)
		env.Viewport = viewport
		contract.Resolve(p.Contract, env, world(t).Tokens).Walk(func(r *contract.Resolved) {
			if r.Text != "" && r.Values["display"].Value != "none" {
				out = append(out, r.Text)
			}
		})
		return out
	}
	assert.Equal(t, []string{"narrow", "too"}, shown(639))
	assert.Equal(t, []string{"middle"}, shown(640))
	assert.Empty(t, shown(900))
}

func TestEveryWidthIsCoveredOnce(t *testing.T) {
	for outline, want := range map[string][]string{
		"below 640\n  p \"a\"\nfrom 640\n  p \"b\"\n":                                          nil,
		"below 640\n  p \"a\"\nfrom 640 none\n":                                                nil,
		"below 640\n  p \"a\"\nfrom 700\n  p \"b\"\n":                                          {"No version is for widths from 640 to 700 px."},
		"below 640\n  p \"a\"\n":                                                               {"No version is for widths from 640 px on."},
		"from 640\n  p \"a\"\n":                                                                {"No version is for widths below 640 px."},
		"below 700\n  p \"a\"\nfrom 640\n  p \"b\"\n":                                          {"Several versions are for widths from 640 to 700 px."},
		"below 640\n  p \"a\"\nin container below 300\n  p \"b\"\nfrom 640\n  p \"c\"\n":       {"No version is for widths from 300 px on."},
		"below 640\n  p \"a\"\nfrom 640 below 900\n  p \"b\"\nfrom 640 below 900\n  p \"c\"\n": {"No version is for widths from 900 px on.", "Several versions are for widths from 640 to 900 px."},
		"stack\n  below 640 gap=4px\n":                                                         nil,
	} {
		p := tried(t, outline)
		var said []string
		for _, f := range p.Found {
			said = append(said, f.Message)
		}
		assert.Equal(t, want, said, outline)
	}
}

func TestVersionsAreListed(t *testing.T) {
	rows, _ := trial.Parse("stack\n  below 640\n    Card title=A\n    p \"b\"\n  from 700\n    each p of plots.csv\n      p \"c\"\n")
	groups := trial.Versions(rows)
	require.Len(t, groups, 1)
	assert.Equal(t, 1, groups[0].Line)
	assert.Equal(t, "Card, p \"b\"", groups[0].Versions[0].What)
	assert.Equal(t, "each p of plots.csv", groups[0].Versions[1].What)
	assert.Equal(t, []trial.WidthSpan{{From: 640, Below: 700}}, groups[0].Gaps)
	assert.Equal(t, []float64{640, 700}, trial.Switches(rows))
}

func TestRowsThatCannotBeShownAreLeftOutAndTold(t *testing.T) {
	for outline, want := range map[string]string{
		"Shell\n":                              "there is no component Shell",
		"Card title=A flup=1\n":                "Card has no prop flup",
		"Card title=A color=red\n":             "color is the affair of Card",
		"Card title=A tone=blue\n":             "takes no blue",
		"Card title=A count=x\n":               "count is a number",
		"Card title=A due=maybe\n":             "due is a flag",
		"Card title=A count\n":                 "count is a number, and has no value",
		"Card title=A links=[{\"x\":1}]\n":     "links",
		"Card title=A children=x\n":            "children is a slot",
		"Card title={number}\n":                "no record is shown here",
		"p \"{number}\"\n":                     "no record is shown here",
		"each p of plots.csv\n  p {p.flup}\n":  "plots.csv has no field flup",
		"each p of gone.csv\n  p {p.a}\n":      "there is no source gone.csv",
		"with n of notes.json at 9\n  p {n.a}": "holds no record 9",
		"with n of none.json\n  p {n.a}":       "holds no record",
		"stack flup=1\n":                       "CSS no such property",
		"stack gap=red\n":                      "gap",
		"stack gap={no.such}\n":                "no token",
		"stack align=sideways\n":               "align",
		"split shares=\"0 0\"\n":               "no shares of a split",
		"to foot\n  p \"a\"\n":                 "no component whose slot",
		"Card title=A\n  to side\n    p \"a\"": "Card has no slot side",
		"gap \"G\" height=4px\n  p \"a\"\n":    "a gap holds nothing",
		"box named=container\n":                "cannot be named",
		"Card title=A\n  below 9 title=B\n  in aside below 9 title=C\n":               "depends on the width of one thing",
		"each p of plots.csv\n  each n of notes.json\n    p \"{n.title} {p.holder}\"": "a text shows fields of one list",
		"each p of plots.csv\n  p {p.sown: loud}\n":                                   "no style of a date",
		"each p of plots.csv\n  Card title=A tone={p.state: x}\n":                     "says no option for a word",
		"Card title=A links={gone}\n":                                                 "there is no source gone",
		"below 640 gap=4px\n  p \"a\"\nfrom 640 none\n":                               "a version holds rows",
	} {
		p := tried(t, "p \"there\"\n"+outline)
		var said []string
		for _, f := range p.Found {
			said = append(said, f.Message)
			assert.Greater(t, f.Line, 1, "%s: %s is told of no row", outline, f.Message)
		}
		assert.Contains(t, strings.Join(said, "\n"), want, outline)
		require.NotNil(t, p.Contract.Part("p"), "%s takes the rest of the page away", outline)
		_, bad := compile.React(react.Emit(p.Contract, output.PropertiesOf(world(t).Tokens), react.Options{}))
		assert.Empty(t, bad, "what is left of %s does not run", outline)
	}
}

func TestAPageIsEmittedAndFilled(t *testing.T) {
	p := made(t, `stack
  each plot of plots.csv
    Card title="Plot {number}" tone={plot.state: half_ripe=half ripe}
  with note of notes.json
    rich {note.body}
    img {note.photo}
`)
	files := react.Emit(p.Contract, output.PropertiesOf(world(t).Tokens), react.Options{})
	_, bad := compile.React(files)
	require.Empty(t, bad)
	filled := react.Filled(p.Contract, p.Values)
	assert.Equal(t, "TestPage.filled.tsx", filled.Path)
	assert.Contains(t, filled.Content, `{ title: "Plot 41", state: "ripe" }`)
	assert.Contains(t, filled.Content, "<strong>runs</strong>", "rich text is no code")
	paths := ir.Lower(p.Contract).Paths(p.Values)
	assert.Equal(t, []int{0, 2}, paths["card[2]"], "the third record's card is looked for elsewhere")
	assert.Equal(t, []int{0, 3}, paths["rich"])
}

func TestGapsKeepTheirRoom(t *testing.T) {
	p := made(t, "gap \"Top bar\" height=56px like=Card,Shell\n  below 640 height=40px\n")
	require.Len(t, p.Pieces, 1)
	assert.True(t, p.Pieces[0].Gap)
	assert.Equal(t, "56px", p.Contract.Part("topBar").Style["height"])
	assert.Equal(t, contract.Style{"height": "40px"}, p.Contract.Rules[0].Set)
}
