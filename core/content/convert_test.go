package content_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/content"
	"cobrik/core/contract"
	"cobrik/web/reference"
)

func TestHTMLBecomesRichText(t *testing.T) {
	for text, want := range map[string]string{
		"<p>One <strong>two</strong> <em>three</em></p>":                                  `[{"kind":"paragraph","runs":[{"text":"One "},{"text":"two","strong":true},{"text":" "},{"text":"three","emphasis":true}]}]`,
		"<h2>Water</h2><ul><li>Tue</li><li><p>Fri <a href='/rota'>rota</a></p></li></ul>": `[{"kind":"heading","level":2,"runs":[{"text":"Water"}]},{"kind":"item","runs":[{"text":"Tue"}]},{"kind":"item","runs":[{"text":"Fri "},{"text":"rota","link":"/rota"}]}]`,
		"plain <b>bold</b>":                      `[{"kind":"paragraph","runs":[{"text":"plain "},{"text":"bold","strong":true}]}]`,
		"<p>a\n   b<br>c</p>":                    `[{"kind":"paragraph","runs":[{"text":"a b c"}]}]`,
		"<p> <b> a </b> </p>":                    `[{"kind":"paragraph","runs":[{"text":"a","strong":true}]}]`,
		"<p>&lt;b&gt; &amp; so</p>":              `[{"kind":"paragraph","runs":[{"text":"\u003cb\u003e \u0026 so"}]}]`,
		"<div><p>a</p><p>b</p></div>":            `[{"kind":"paragraph","runs":[{"text":"a"}]},{"kind":"paragraph","runs":[{"text":"b"}]}]`,
		"<p>a <span>b</span> <code>c</code></p>": `[{"kind":"paragraph","runs":[{"text":"a b "},{"text":"c","code":true}]}]`,
		"<ul><li>a<ul><li>b</li></ul></li></ul>": `[{"kind":"item","runs":[{"text":"a"}]},{"kind":"item","runs":[{"text":"b"}]}]`,
		"<p></p>":                                `null`,
		"**md** too":                             `[{"kind":"paragraph","runs":[{"text":"md","strong":true},{"text":" too"}]}]`,
	} {
		v, lost, err := content.Rich(text)
		require.NoError(t, err, text)
		assert.Empty(t, lost, text)
		got, err := json.Marshal(v)
		require.NoError(t, err)
		assert.Equal(t, want, string(got), text)
	}
	v, lost, err := content.Rich(`<p>See <img src="x.png" alt="a bed"> the <a href="javascript:alert(1)">plan</a></p><table><tr><td>1</td></tr></table><script>alert(1)</script>`)
	require.NoError(t, err)
	assert.Equal(t, []string{"img", "a link to javascript:", "table", "tbody", "tr", "td", "script"}, lost)
	assert.Equal(t, "See the plan\n1", v.String())
}

// Attack strings of the OWASP Cheat Sheet Series, "XSS Filter Evasion" (from memory), and of the HTML5 Security Cheatsheet (from memory).
var attacks = []string{
	`<SCRIPT SRC=https://cdn.example/xss.js></SCRIPT>`,
	`javascript:/*--></title></style></textarea></script></xmp><svg/onload='+/"/+/onmouseover=1/+/[*/[]/+attack(1)//'>`,
	`<IMG SRC="javascript:attack('XSS');">`, `<IMG SRC=javascript:attack('XSS')>`, `<IMG SRC=JaVaScRiPt:attack('XSS')>`, "<IMG SRC=`javascript:attack(\"RSnake says, 'XSS'\")`>",
	`<a onmouseover="attack(document.cookie)">xxs link</a>`, `<a onmouseover=attack(document.cookie)>xxs link</a>`, `<IMG """><SCRIPT>attack("XSS")</SCRIPT>"\>`,
	`<IMG SRC=javascript:attack(String.fromCharCode(88,83,83))>`, `<IMG SRC=# onmouseover="attack('xxs')">`, `<IMG SRC= onmouseover="attack('xxs')">`, `<IMG onmouseover="attack('xxs')">`, `<IMG SRC=/ onerror="attack(String.fromCharCode(88,83,83))"></img>`,
	`<IMG SRC=&#106;&#97;&#118;&#97;&#115;&#99;&#114;&#105;&#112;&#116;&#58;&#97;&#116;&#116;&#97;&#99;&#107;&#40;&#41;>`, `<IMG SRC="jav&#x09;ascript:attack('XSS');">`, `<IMG SRC="jav&#x0A;ascript:attack('XSS');">`, `<IMG SRC=" &#14; javascript:attack('XSS');">`,
	`<a href="javascript:attack(1)">x</a>`, `<a href="JaVaScRiPt:attack(1)">x</a>`, `<a href=" javascript:attack(1)">x</a>`, "<a href=\"java\nscript:attack(1)\">x</a>", "<a href=\"\x01javascript:attack(1)\">x</a>", `<a href="jav&#x09;ascript:attack(1)">x</a>`, `<a href="&#106;avascript:attack(1)">x</a>`, `<a href="data:text/html,<script>attack(1)</script>">x</a>`, `<a href="vbscript:attack(1)">x</a>`, `<a href="file:///etc/passwd">x</a>`,
	`<SCRIPT/XSS SRC="https://example/xss.js"></SCRIPT>`, "<BODY onload!#$%&()*~+-_.,:;?@[/|\\]^`=attack(\"XSS\")>", `<SCRIPT/SRC="https://example/xss.js"></SCRIPT>`, `<<SCRIPT>attack("XSS");//\<</SCRIPT>`, `<SCRIPT SRC=https://example/xss.js?< B >`, `<SCRIPT SRC=//example/.j>`, `<IMG SRC="` + "`" + `('XSS')"`, `</TITLE><SCRIPT>attack("XSS");</SCRIPT>`,
	`<INPUT TYPE="IMAGE" SRC="javascript:attack('XSS');">`, `<BODY BACKGROUND="javascript:attack('XSS')">`, `<IMG DYNSRC="javascript:attack('XSS')">`, `<STYLE>li {list-style-image: url("javascript:attack('XSS')");}</STYLE><UL><LI>XSS</br>`, `<svg/onload=attack('XSS')>`, `<svg><script>attack(1)</script></svg>`, `<svg><a xlink:href="javascript:attack(1)"><text y="20">x</text></a></svg>`, `<BODY ONLOAD=attack('XSS')>`,
	`<BGSOUND SRC="javascript:attack('XSS');">`, `<BR SIZE="&{attack('XSS')}">`, `<LINK REL="stylesheet" HREF="javascript:attack('XSS');">`, `<STYLE>@import'https://example/xss.css';</STYLE>`, `<META HTTP-EQUIV="refresh" CONTENT="0;url=javascript:attack('XSS');">`, `<IFRAME SRC="javascript:attack('XSS');"></IFRAME>`, `<IFRAME SRC=# onmouseover="attack(document.cookie)"></IFRAME>`, `<FRAMESET><FRAME SRC="javascript:attack('XSS');"></FRAMESET>`, `<TABLE BACKGROUND="javascript:attack('XSS')">`, `<DIV STYLE="background-image: url(javascript:attack('XSS'))">`, `<DIV STYLE="width: expression(attack('XSS'));">`,
	`<BASE HREF="javascript:attack('XSS');//">`, `<OBJECT TYPE="text/x-scriptlet" DATA="https://example/s.html"></OBJECT>`, `<EMBED SRC="data:image/svg+xml;base64,PHN2Zz4=" type="image/svg+xml" AllowScriptAccess="always"></EMBED>`, `<form><button formaction="javascript:attack(1)">X</button>`, `<video><source onerror="attack(1)">`, `<video onerror="attack(1)"><source></source></video>`, `<details open ontoggle=attack(1)>`, `<math href="javascript:attack(1)">CLICK</math>`, `<input onfocus=attack(1) autofocus>`, `<select autofocus onfocus=attack(1)>`, `<marquee onstart=attack(1)>x</marquee>`,
	`<noscript><p title="</noscript><img src=x onerror=attack(1)>">`, `<template><img src=x onerror=attack(1)></template>`, `<math><mtext><table><mglyph><style><!--</style><img title="--&gt;&lt;img src=1 onerror=attack(1)&gt;">`, `<p title="<!--"><img src=x onerror=attack(1)>-->`, `<xmp><p title="</xmp><svg/onload=attack(1)>">`, `<a href="https://example.org" target="_blank" onclick="attack(1)">x</a>`, `[x](javascript:attack(1))`, `<a href="https://example.org/&quot; onmouseover=&quot;attack(1)">x</a>`,
}

// Rich text has words and addresses, no markup: nothing that is read can run but by an address, and none leads, as Chromium reads it, to what runs.
func TestNothingOfRichTextRuns(t *testing.T) {
	var page strings.Builder
	for _, attack := range attacks {
		v, _, err := content.Rich(attack)
		if err != nil {
			continue // refused as a whole
		}
		for _, b := range v {
			for _, r := range b.Runs {
				if r.Link != "" {
					_, err := contract.Link{}.Decode(json.RawMessage(fmt.Sprintf("%q", r.Link)))
					assert.NoError(t, err, "%s leads to %s", attack, r.Link)
				}
				fmt.Fprintf(&page, "<p><a href=\"%s\">%s</a></p>", escaped(r.Link), escaped(r.Text))
			}
		}
	}
	ran := reference.InChromium[[]string](t, "", page.String(), `[...document.querySelectorAll("a")]
		.filter((a) => a.getAttribute("href") !== "" && !/^(https?|mailto|tel|sms):$/.test(new URL(a.getAttribute("href"), "https://here.example").protocol)).map((a) => a.outerHTML)`)
	assert.Empty(t, ran, "what somebody wrote into a field runs on the page")
}

func escaped(s string) string {
	return strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;").Replace(s)
}

// Days and numbers are written as the platform's Intl writes them (CLDR). Where two of its versions differ, the forms are named.
func TestDaysAndNumbersAreWrittenAsEverywhere(t *testing.T) {
	between := []string{"en-GB medium", "es medium", "nl medium", "pl short", "el full"} // CLDR 36 and newer ones: a point, a comma, Sep and Sept
	r := rand.New(rand.NewPCG(36, 1))
	type date struct {
		Tag   string `json:"tag"`
		Style string `json:"style"`
		Year  int    `json:"year"`
		Month int    `json:"month"`
		Day   int    `json:"day"`
	}
	type number struct {
		Tag   string  `json:"tag"`
		Value float64 `json:"value"`
	}
	var dates []date
	var numbers []number
	for _, tag := range append(content.Locales(), "de-LU", "xx") {
		for _, style := range content.DateStyles {
			for range 6 {
				dates = append(dates, date{tag, style, 1970 + r.IntN(80), 1 + r.IntN(12), 1 + r.IntN(28)})
			}
		}
		for _, v := range []float64{0, 7, -3, 12.5, 999, 0.25, 1000000, -0.001} {
			numbers = append(numbers, number{tag, v})
		}
	}
	for i := range dates {
		if dates[i].Tag == "xx" {
			dates[i].Tag = "en"
		}
	}
	want := reference.Ask[struct{ Dates, Numbers []string }](t, "intl.mjs", map[string]any{"dates": dates, "numbers": numbers})
	for i, d := range dates {
		if !slices.Contains(between, d.Tag+" "+d.Style) {
			assert.Equal(t, want.Dates[i], content.FormatDay(content.Day{Year: d.Year, Month: d.Month, Day: d.Day}, d.Tag, d.Style), "%+v", d)
		}
	}
	for i, n := range numbers {
		if n.Tag != "xx" && n.Tag != "de-CH" { // of which CLDR changed the apostrophe
			assert.Equal(t, want.Numbers[i], content.FormatNumber(n.Value, n.Tag), "%+v", n)
		}
	}
	assert.Equal(t, "November 28, 2026", content.FormatDay(content.Day{Year: 2026, Month: 11, Day: 28}, "xx-YY", ""), "a language that nobody knows")
}

func TestDays(t *testing.T) {
	for text, want := range map[string]content.Day{"2026-11-28": {Year: 2026, Month: 11, Day: 28}, "2024-02-29": {Year: 2024, Month: 2, Day: 29}, "2000-02-29": {Year: 2000, Month: 2, Day: 29}, "2026-11-28T23:59:60Z": {Year: 2026, Month: 11, Day: 28}, "2026-11-28 08:30": {Year: 2026, Month: 11, Day: 28}, "1985-04-12T23:20:50.52+01:00": {Year: 1985, Month: 4, Day: 12}} {
		got, ok := content.ReadDay(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	for _, bad := range []string{"2026-02-29", "1900-02-29", "2026-13-01", "2026-00-10", "2026-04-31", "2026-1-1", "28.11.2026", "2026-11-28T25:00", "2026-11-28T10:61", "0000-01-01", "2026-11-28x"} {
		_, ok := content.ReadDay(bad)
		assert.False(t, ok, bad)
	}
}

func TestAFieldIsGivenToAProp(t *testing.T) {
	ten := 10.0
	record := content.Record{"title": "Plot 41", "rich": "Mind the **canal** and [rota](/rota)", "html": "<h2>Hi</h2><p>there</p>", "n": json.Number("12.5"), "big": json.Number("1234567.5"), "text": "7", "yes": true, "crop": "Ripe", "state": "RIPE_NOW", "due": "2026-11-28",
		"href": "/plots", "bad": "javascript:x", "src": "/bed.svg", "alt": "A bed", "picture": map[string]any{"src": "/b.png", "alt": "B", "width": json.Number("40"), "height": json.Number("20")}, "tags": []any{"a", "b"}, "gone": nil, "blank": "  ", "number": "041"}
	for name, k := range map[string]struct {
		prop  contract.Type
		bind  content.Binding
		want  contract.Value
		notes []content.Note
	}{
		"text":                        {contract.Text{}, content.Binding{Field: "title"}, contract.TextValue("Plot 41"), nil},
		"a number with a zero before": {contract.Text{}, content.Binding{Field: "number"}, contract.TextValue("041"), nil},
		"text of several":             {contract.Text{}, content.Binding{Text: "{title}, {{{n}}}"}, contract.TextValue("Plot 41, {12.5}"), nil},
		"text of what is gone":        {contract.Text{}, content.Binding{Text: "{gone}"}, nil, []content.Note{{Loss: content.MissingLoss, What: "gone"}}},
		"text of a list":              {contract.Text{}, content.Binding{Field: "tags"}, contract.TextValue("a, b"), nil},
		"text that is too long":       {contract.Text{Longest: 4}, content.Binding{Field: "title"}, contract.TextValue("Plot 41"), []content.Note{{Loss: content.LengthLoss, What: "7 letters of 4"}}},
		"marks in plain text":         {contract.Text{}, content.Binding{Field: "rich"}, contract.TextValue("Mind the canal and rota"), []content.Note{{Loss: content.MarksLoss, What: "strong, link"}}},
		"blocks in plain text":        {contract.Text{}, content.Binding{Field: "html"}, contract.TextValue("Hi there"), []content.Note{{Loss: content.MarksLoss, What: "heading, paragraph"}}},
		"rich text":                   {contract.Rich{}, content.Binding{Field: "html"}, contract.RichValue{{Kind: "heading", Level: 2, Runs: []contract.Run{{Text: "Hi"}}}, {Kind: "paragraph", Runs: []contract.Run{{Text: "there"}}}}, nil},
		"rich text in a line":         {contract.Rich{Line: true}, content.Binding{Field: "html"}, contract.RichValue{{Runs: []contract.Run{{Text: "Hi"}, {Text: " "}, {Text: "there"}}}}, []content.Note{{Loss: content.BlocksLoss, What: "heading, paragraph"}}},
		"one paragraph in a line":     {contract.Rich{Line: true}, content.Binding{Field: "title"}, contract.RichValue{{Runs: []contract.Run{{Text: "Plot 41"}}}}, nil},
		"a day in words":              {contract.Text{}, content.Binding{Field: "due", Locale: "de"}, contract.TextValue("28. November 2026"), nil},
		"a short day":                 {contract.Text{}, content.Binding{Text: "until {due}", Locale: "en-GB", Style: "short"}, contract.TextValue("until 28/11/2026"), nil},
		"a number in a language":      {contract.Text{}, content.Binding{Field: "big", Locale: "de"}, contract.TextValue("1.234.567,5"), nil},
		"a number":                    {contract.Number{}, content.Binding{Field: "n"}, contract.NumberValue(12.5), nil},
		"a number as text":            {contract.Number{}, content.Binding{Field: "text"}, contract.NumberValue(7), nil},
		"no number":                   {contract.Number{}, content.Binding{Field: "title"}, nil, []content.Note{{Loss: content.KindLoss, What: "Plot 41"}}},
		"too large a number":          {contract.Number{Most: &ten}, content.Binding{Field: "n"}, nil, []content.Note{{Loss: content.KindLoss, What: "12.5"}}},
		"a flag":                      {contract.Flag{}, content.Binding{Field: "yes"}, contract.FlagValue(true), nil},
		"no flag":                     {contract.Flag{}, content.Binding{Field: "title"}, nil, []content.Note{{Loss: content.KindLoss, What: "Plot 41"}}},
		"an option in other letters":  {contract.Choice{Options: []string{"sown", "ripe"}}, content.Binding{Field: "crop"}, contract.OptionValue("ripe"), nil},
		"an option of other words":    {contract.Choice{Options: []string{"ripeNow"}}, content.Binding{Field: "state"}, contract.OptionValue("ripeNow"), nil},
		"an option that is bound":     {contract.Choice{Options: []string{"sown", "ripe"}}, content.Binding{Field: "state", Options: map[string]string{"RIPE_NOW": "ripe"}}, contract.OptionValue("ripe"), nil},
		"no option":                   {contract.Choice{Options: []string{"sown"}}, content.Binding{Field: "title"}, nil, []content.Note{{Loss: content.KindLoss, What: "Plot 41"}}},
		"a link":                      {contract.Link{}, content.Binding{Field: "href"}, contract.LinkValue("/plots"), nil},
		"no link":                     {contract.Link{}, content.Binding{Field: "bad"}, nil, []content.Note{{Loss: content.KindLoss, What: "javascript:x"}}},
		"a picture":                   {contract.Image{}, content.Binding{Field: "picture"}, contract.ImageValue{Source: "/b.png", Alt: "B", Width: 40, Height: 20}, nil},
		"a picture's address":         {contract.Image{Aspect: 2}, content.Binding{Field: "src", Alt: "alt"}, contract.ImageValue{Source: "/bed.svg", Alt: "A bed", Width: 320, Height: 160}, []content.Note{{Loss: content.SizeLoss, What: "/bed.svg"}}},
		"a picture without words":     {contract.Image{}, content.Binding{Field: "src"}, contract.ImageValue{Source: "/bed.svg", Width: 320, Height: 240}, []content.Note{{Loss: content.AltLoss, What: "/bed.svg"}, {Loss: content.SizeLoss, What: "/bed.svg"}}},
		"a picture that is none":      {contract.Image{}, content.Binding{Field: "bad", Alt: "alt"}, nil, []content.Note{{Loss: content.KindLoss, What: "javascript:x"}}},
		"nothing":                     {contract.Text{}, content.Binding{Field: "gone"}, nil, []content.Note{{Loss: content.MissingLoss, What: "gone"}}},
		"blanks":                      {contract.Text{}, content.Binding{Field: "blank"}, nil, []content.Note{{Loss: content.MissingLoss, What: "blank"}}},
		"no such field":               {contract.Text{}, content.Binding{Field: "nowhere"}, nil, []content.Note{{Loss: content.MissingLoss, What: "nowhere"}}},
		"what is always so":           {contract.Number{}, content.Binding{Value: json.RawMessage("3")}, contract.NumberValue(3), nil},
		"what can never be":           {contract.Flag{}, content.Binding{Value: json.RawMessage("3")}, nil, []content.Note{{Loss: content.KindLoss, What: "3 is neither true nor false"}}},
		"nothing bound":               {contract.Text{}, content.Binding{}, nil, nil},
	} {
		v, notes := content.Convert(contract.Prop{ID: "p", Name: "p", Type: k.prop}, k.bind, record)
		assert.Equal(t, k.want, v, name)
		assert.Equal(t, k.notes, notes, name)
	}
}

// What is given is what the prop takes, whatever stands in the field.
func TestWhatIsGivenIsTaken(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	values := []any{"", " ", "a", "**b**", "<p>c</p>", "<script>x</script>", "12", "1e400", "-0", json.Number("3"), json.Number("1e999"), true, nil, []any{}, []any{"a", json.Number("1")}, map[string]any{"src": "/a.png"}, map[string]any{"url": "javascript:x", "alt": "a"}, "/a.png", "data:image/png;base64,AA", "2026-11-28", "javascript:alert(1)", strings.Repeat("long ", 9000)}
	types := []contract.Type{contract.Text{Longest: 5}, contract.Rich{}, contract.Rich{Line: true, Longest: 3}, contract.Number{}, contract.Flag{}, contract.Choice{Options: []string{"a", "b"}, Initial: "a"}, contract.Link{}, contract.Image{Aspect: 1.5}, contract.Slot{}, contract.Event{On: "click"}}
	for range 4000 {
		p := contract.Prop{ID: "p", Name: "p", Type: types[r.IntN(len(types))]}
		record := content.Record{"f": values[r.IntN(len(values))], "alt": values[r.IntN(len(values))]}
		b := content.Binding{Field: "f", Alt: []string{"", "alt"}[r.IntN(2)], Locale: []string{"", "de", "zz"}[r.IntN(3)]}
		if r.IntN(4) == 0 {
			b = content.Binding{Text: "{f} and {alt}", Style: "full"}
		}
		v, notes := content.Convert(p, b, record)
		if v == nil {
			assert.NotEmpty(t, notes, "%v is lost in silence", record)
			continue
		}
		assert.True(t, p.Type.Takes(v), "%s is given %#v", p.Kind(), v)
	}
}

func TestALinkThatIsTooLongIsWordsAlone(t *testing.T) {
	v, lost, err := content.Rich(`<p><a href="https://example.org/` + strings.Repeat("a", 2000) + `">plan</a></p>`)
	require.NoError(t, err, "one bad link loses the whole text")
	assert.Equal(t, contract.RichValue{{Kind: "paragraph", Runs: []contract.Run{{Text: "plan"}}}}, v)
	assert.Equal(t, []string{"a link to https:"}, lost)
}

func TestWhatWouldGoWrongIsTold(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Card", Root: &contract.Part{ID: "root", Name: "root", Element: "article"}, Props: []contract.Prop{
		{ID: "title", Name: "title", Type: contract.Text{Initial: "Plot", Longest: 12}}, {ID: "note", Name: "note", Type: contract.Text{}}, {ID: "photo", Name: "photo", Type: contract.Image{}, Required: true}, {ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"sown", "ripe"}, Initial: "sown"}},
		{ID: "body", Name: "body", Type: contract.Rich{Line: true}}, {ID: "holder", Name: "holder", Type: contract.Text{}, Required: true}, {ID: "children", Name: "children", Type: contract.Slot{}, Required: true},
	}}
	s := read(t, "plots.json", `[
		{"title":"Plot 41","note":"Mind the **canal**","photo":{"src":"/a.png","alt":"A","width":4,"height":3},"crop":"ripe","body":"<p>a</p><p>b</p>"},
		{"title":"A plot with a long name","note":"plain","crop":"gone","body":"<table><tr><td>x</td></tr></table>"},
		{"photo":"/c.png","note":"- a\n- [b](/x)","crop":"sown"}]`)
	var told []string
	for _, w := range content.Forecast(c, content.Bindings{"title": {Field: "title"}, "note": {Field: "note"}, "photo": {Field: "photo"}, "tone": {Field: "crop"}, "body": {Field: "body"}}, s) {
		told = append(told, fmt.Sprintf("%v %v %s", w.Records, w.Severe, w.Message))
	}
	assert.Equal(t, []string{
		"[1] true title is longer than it may be in 1 of 3 records: 23 letters of 12.",
		"[2] false title of title is not there in 1 of 3 records. title shows its default, “Plot”.",
		"[0 2] true note is plain text, and would lose strong, item, link in 2 of 3 records.",
		"[1] true photo of photo is not there in 1 of 3 records. It has to be given.",
		"[2] false photo says nothing in words in 1 of 3 records: who does not see it misses it.",
		"[2] false photo has no size in 1 of 3 records: the page moves while it loads.",
		"[1] true tone takes no gone, in 1 of 3 records.",
		"[0] true body stands in a line, and would lose that there are paragraphs in 1 of 3 records.",
		"[1] true body does not keep table, tbody, tr, td, in 1 of 3 records.",
		"[2] false body of body is not there in 1 of 3 records. body is not shown there.",
		"[0 1 2] true holder has to be given, and nothing is.",
	}, told)
	none := content.Forecast(c, nil, read(t, "none.json", "[]"))
	assert.Equal(t, "none.json holds no record: nothing is there to be shown.", none[0].Message)
	assert.Equal(t, contract.Values{"title": contract.TextValue("Plot 41"), "tone": contract.OptionValue("ripe")}, content.Given(c, content.Bindings{"title": {Field: "title"}, "tone": {Field: "crop"}, "holder": {Field: "nobody"}}, s.Records[0]))
}

func TestFieldsAreProposedForProps(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Card", Root: &contract.Part{ID: "root", Name: "root", Element: "article"}, Props: []contract.Prop{
		{ID: "plotTitle", Name: "plotTitle", Type: contract.Text{}}, {ID: "picture", Name: "picture", Type: contract.Image{}}, {ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"sown", "ripe"}}}, {ID: "count", Name: "count", Type: contract.Number{}}, {ID: "holder", Name: "holder", Type: contract.Text{}}, {ID: "open", Name: "open", Type: contract.Flag{}}, {ID: "href", Name: "href", Type: contract.Link{}}, {ID: "other", Name: "other", Type: contract.Text{}}, {ID: "children", Name: "children", Type: contract.Slot{}}}}
	s := read(t, "plots.json", `[{"plotTitle":"a","title":"b","photo":"/a.png","photoAlt":"A","crop":"ripe","bed.count":3,"owner":"Ines","open":true,"url":"https://example.org"},{"plotTitle":"c","crop":"ripe"}]`)
	two := &contract.Contract{Props: []contract.Prop{{ID: "title", Name: "title", Type: contract.Text{}}, {ID: "name", Name: "name", Type: contract.Text{}}}}
	assert.Equal(t, content.Bindings{"title": {Field: "title"}}, content.Propose(two, read(t, "a.json", `[{"title":"a"}]`)), "one field fills two props")
	assert.Equal(t, content.Bindings{"plotTitle": {Field: "plotTitle"}, "picture": {Field: "photo", Alt: "photoAlt"}, "tone": {Field: "crop"}, "count": {Field: "bed.count"}, "holder": {Field: "owner"}, "open": {Field: "open"}, "href": {Field: "url"}}, content.Propose(c, s))
}

func FuzzRich(f *testing.F) {
	for _, a := range attacks {
		f.Add(a)
	}
	f.Fuzz(func(t *testing.T, text string) {
		v, _, err := content.Rich(text)
		if err == nil && v != nil && !(contract.Rich{}).Takes(v) {
			t.Errorf("%q becomes what no contract may hold", text)
		}
	})
}
