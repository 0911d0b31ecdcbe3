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
	assert.Equal(t, []int{1}, said["missing Card link"].Records, "of a record that is chosen its own number is told")
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
		"with n of notes.json at 3\n  p {n.a}": "holds no record 3",
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

// visible are the texts, and the uses by their ids, that a page shows in a viewport.
func visible(t *testing.T, p *trial.Page, viewport float64) (out []string) {
	t.Helper()
	env := contract.EnvOf(p.Values)
	env.Viewport = viewport
	gone := map[*contract.Resolved]bool{}
	var walk func(r *contract.Resolved, hidden bool)
	walk = func(r *contract.Resolved, hidden bool) {
		hidden = hidden || r.Values["display"].Value == "none"
		gone[r] = hidden
		switch {
		case hidden:
		case r.Part.Use() != nil:
			out = append(out, r.Part.ID)
		case r.Text != "":
			out = append(out, r.Text)
		}
		for _, c := range r.Children {
			walk(c, hidden)
		}
	}
	walk(contract.Resolve(p.Contract, env, world(t).Tokens), false)
	return out
}

func TestAVersionIsHiddenWhateverElseIsOtherwiseThere(t *testing.T) {
	p := made(t, "from 640\n  grid\n    below 700 stack\n    p \"wide\"\nbelow 640 none\n")
	assert.Empty(t, visible(t, p, 600), "a version is there at widths of another, for it is arranged otherwise there")
	assert.Equal(t, []string{"wide"}, visible(t, p, 650))
}

func TestWhatIsHiddenIsShownAtSomeWidths(t *testing.T) {
	p := made(t, "stack hidden\n  from 640 shown\n  p \"a\"\np \"b\" hidden\n  from 640 shown\nCard title=A hidden\n  from 640 shown\n")
	assert.Empty(t, visible(t, p, 600))
	assert.Equal(t, []string{"a", "b", "card"}, visible(t, p, 640))
	p = made(t, "p\n  span \"a\" hidden\n    from 640 shown\n  button \"b\" hidden display=flex\n    from 640 shown\n")
	set := map[string]string{}
	for _, r := range p.Contract.Rules {
		set[r.Part] = r.Set["display"]
	}
	assert.Equal(t, "inline", set["span"], "what is shown stands otherwise than it did before it was hidden")
}

func TestRangesThatGiveTheSameAreOneUse(t *testing.T) {
	p := made(t, "Card title=A\n  below 300 title=B\n  from 300 below 600 title=B\n")
	assert.Nil(t, p.Contract.Part("card3"), "two uses give the same")
	assert.Equal(t, []string{"card"}, visible(t, p, 450))
	assert.Equal(t, []string{"card2"}, visible(t, p, 600))
}

func TestTheInnermostRecordIsMeant(t *testing.T) {
	p := made(t, "with n of notes.json at 1\n  with n of notes.json at 2\n    p {n.title}\n    p {title}\n  p {title}\n")
	assert.Equal(t, []string{"The gate", "The gate", "The pump"}, visible(t, p, 0))
}

func TestOnlyRecordsThatAreShownAreWarnedOf(t *testing.T) {
	p := made(t, "each plot of plots.csv, at most 2\n  p {holder}\n")
	assert.Empty(t, p.Warnings, "a record that is not shown is warned of")
}

func TestBracesOfARecordAreNoFields(t *testing.T) {
	w := world(t)
	w.Sources["odd.json"], _ = content.Read("odd.json", []byte(`[{"a":"{b}","photo":"data:image/png;base64,AAAA","photoAlt":"Odd"}]`))
	rows, _ := trial.Parse("with o of odd.json\n  p \"It is {o.a}\"\n  img {o.photo}\n")
	p := trial.Compile(w, rows)
	require.Empty(t, p.Found)
	assert.Equal(t, []string{"It is {b}"}, visible(t, p, 0))
	alt := ""
	for _, v := range p.Values {
		if image, ok := v.(contract.ImageValue); ok {
			alt = image.Alt
		}
	}
	assert.Equal(t, "Odd", alt, "the words of a picture, a field beside it, are lost")
}

func TestAListTakesNoMoreThanItMay(t *testing.T) {
	w := world(t)
	w.Sources["pages.json"], _ = content.Read("pages.json", []byte(`[{"label":"A"},{"label":"B"}]`))
	w.Component = func(string) *contract.Contract {
		c := card()
		l := c.Prop("links").Type.(contract.List)
		l.Most = 1
		c.Prop("links").Type = l
		return c
	}
	rows, _ := trial.Parse("Card title=A links={pages}\n")
	p := trial.Compile(w, rows)
	require.Empty(t, p.Found)
	assert.Len(t, use(t, p, "card").Values(contract.EnvOf(p.Values))["links"], 1)
}

func TestOverlapsThatMeetAreOne(t *testing.T) {
	rows, _ := trial.Parse("below 600\n  p \"a\"\nfrom 100 below 300\n  p \"b\"\nfrom 300 below 500\n  p \"c\"\nfrom 600 none\nin aside below 5\n  p \"d\"\n")
	groups := trial.Versions(rows)
	require.Len(t, groups, 2)
	assert.Equal(t, []trial.WidthSpan{{From: 100, Below: 500}}, groups[0].Overlaps)
	assert.Equal(t, []float64{100, 300, 500, 600}, trial.Switches(rows), "the width of a container is no width of the page")
}

// What runs in the frames, its words and values as props, shows what people write.
func TestWordsAsPropsShowTheSame(t *testing.T) {
	const outline = "h1 \"Beds\"\nCard title=\"A\" tone=ripe due count=3 links=[{\"label\":\"One\"}]\n  p \"inside\"\neach plot of plots.csv\n  Card title={holder} tone=ripe\n"
	rows, _ := trial.Parse(outline)
	w := world(t)
	plain := trial.Compile(w, rows)
	w.Lifted = true
	lifted := trial.Compile(w, rows)
	seen := func(p *trial.Page) (out []string) {
		contract.Resolve(p.Contract, contract.EnvOf(p.Values), w.Tokens).Walk(func(r *contract.Resolved) {
			out = append(out, r.Key()+" "+r.Text+" "+r.Values["background-color"].Value+" "+r.Values["border-width"].Value)
		})
		return out
	}
	assert.Equal(t, seen(plain), seen(lifted))
	other, _ := trial.Parse(strings.NewReplacer("Beds", "Plots", "title=\"A\"", "title=\"B\"", "count=3", "count=4").Replace(outline))
	assert.Equal(t, string(lifted.Contract.JSON()), string(trial.Compile(w, other).Contract.JSON()), "other words are other code")
}

func TestAPieceSaysWhichRecordItShows(t *testing.T) {
	p := made(t, "p \"none\"\nwith n of notes.json at 2\n  p {n.title}\n  gap \"G\" height=4px\neach b of plots.csv\n  Card title={b.crop}\n")
	said := map[string]trial.Piece{}
	for _, one := range p.Pieces {
		said[one.Part] = one
	}
	assert.Empty(t, said["p"].Source)
	assert.Equal(t, "notes.json", said["p2"].Source)
	assert.Equal(t, 1, said["p2"].Record)
	assert.Equal(t, 1, said["g"].Record)
	assert.True(t, said["card"].Each)
}

func TestALaterWidthGoesOnFromAnEarlier(t *testing.T) {
	p := made(t, "grid columns=2\n  below 1024 columns=4 gap=9px\n  below 768 columns=2\n  below 500 stack\n  below 400 align=center\n  box\n")
	at := func(viewport float64) map[string]contract.Resolution {
		env := contract.EnvOf(p.Values)
		env.Viewport = viewport
		return contract.Resolve(p.Contract, env, world(t).Tokens).Find("grid").Values
	}
	columns := func(n string) string { return "repeat(" + n + ", minmax(0, 1fr))" }
	assert.Equal(t, columns("2"), at(1100)["grid-template-columns"].Value)
	assert.Equal(t, columns("4"), at(800)["grid-template-columns"].Value)
	assert.Equal(t, columns("2"), at(700)["grid-template-columns"].Value, "a narrow page has the columns of a middle one")
	assert.Equal(t, "9px", at(700)["gap"].Value, "what a row says not is not as it was before it")
	assert.Equal(t, "flex", at(450)["display"].Value)
	assert.Equal(t, "flex", at(350)["display"].Value, "a row that names no primitive is of the one before")
	assert.Equal(t, "center", at(350)["align-items"].Value)
}

func TestWhatIsWrongIsToldOnce(t *testing.T) {
	p := tried(t, "stack gap=red\n  below 640 align=center\n  below 500 flup=1\n  below 400 align=start\n  box\n")
	require.Len(t, p.Found, 2, "%v", p.Found)
	assert.Equal(t, []int{1, 3}, []int{p.Found[0].Line, p.Found[1].Line})
}
