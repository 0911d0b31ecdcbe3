package sheet_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/sheet"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// drafted are contracts of everything at once: the demo's, and those of random drawings, with
// what each may refer to.
func drafted(t testing.TB, seeds uint64) (all []*contract.Contract, worlds []sheet.World) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 2)
	families, _ := demotest.Families(t, doc, tokens)
	byName := map[string]*contract.Contract{}
	world := sheet.World{Tokens: tokens, Components: func(name string) *contract.Contract { return byName[name] }}
	for _, f := range families {
		byName[f.Name] = f.Contract
		all, worlds = append(all, f.Contract), append(worlds, world)
	}
	for seed := range seeds {
		p := drafttest.NewPainter(seed)
		doc := &design.Document{ID: "d", Name: "D"}
		known, names := map[string]*contract.Contract{}, map[string]*contract.Contract{}
		world := sheet.World{Tokens: token.Empty(), Components: func(name string) *contract.Contract { return names[name] }}
		for n := range 3 {
			f := p.Family(n)
			doc.Families = append(doc.Families, f)
			c, _, _ := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), func(family string) *contract.Contract { return known[family] })
			if c == nil || names[c.Name] != nil {
				continue
			}
			known[f.ID], names[c.Name] = c, c
			p.Used = append(p.Used, f)
			all, worlds = append(all, c), append(worlds, world)
		}
	}
	return all, worlds
}

// cells are all that can be typed on a sheet, as it is written there.
func cells(s sheet.Sheet) (out []sheet.Edit) {
	set := func(on, cell, text string) { out = append(out, sheet.Edit{Do: "set", On: on, Cell: cell, Text: text}) }
	set("purpose", "", s.Purpose)
	set("owner", "", s.Owner)
	set("deprecated", "text", s.Why)
	set("deprecated", "instead", s.Instead)
	for _, n := range slices.Concat(s.Do, s.Dont, s.Links, s.Notes, s.Apart) {
		set(n.On, "text", n.Text)
	}
	for _, k := range s.Cases {
		set(k.On, "name", k.Name)
		set(k.On, "given", k.Given)
		set(k.On, "look", k.Look)
		set(k.On, "meant", k.Meant)
	}
	for _, p := range s.Props {
		set(p.On, "name", p.Name)
		set(p.On, "default", p.Default)
		set(p.On, "purpose", p.Purpose)
		if p.From == "" {
			set(p.On, "kind", p.Kind)
		}
	}
	for _, p := range s.Parts {
		set(p.On, "name", p.Name)
		set(p.On, "element", p.Element)
		set(p.On, "when", p.When)
		set(p.On, "over", p.Over)
		if c := p.Element[0]; c < 'A' || c > 'Z' {
			set(p.On, "shows", p.Shows)
		}
	}
	for _, r := range s.Rules {
		if r.Number > 0 {
			set(r.On, "when", r.When)
			set(r.On, "part", r.Name)
		}
		for _, v := range r.Values {
			set(v.On, "value", v.Text)
			set(v.On, "property", v.Property)
		}
	}
	return out
}

// withCases is a contract with notes, and with cases saved of all that its props are worth looking at with.
func withCases(t *testing.T, c *contract.Contract) *contract.Contract {
	t.Helper()
	c = c.Clone()
	c.Do, c.Dont = []string{"For what can be picked: now"}, []string{"Not for \"notes\""}
	looks := []contract.Look{{}, {State: "hover", Direction: "rtl"}, {Text: 200, Width: 320.5, Theme: "late dusk, dense"}}
	for _, p := range c.Props {
		for i, v := range p.Samples() {
			values := c.Examples()
			if values[p.ID] = v; v == nil {
				delete(values, p.ID)
			}
			if !c.AreApart(values) {
				require.NoError(t, c.SaveCase(fmt.Sprintf("%s: no. %d", p.Name, i), values, looks[i%3]))
			}
		}
	}
	require.NoError(t, c.Check(nil).Err(), "%s", c.Name)
	return c
}

// What the sheet shows is what one may type: entered as it stands, every cell leaves the contract
// as it is.
func TestEveryCellReadsBackAsItIsWritten(t *testing.T) {
	all, worlds := drafted(t, 15)
	n := 0
	for i, was := range all {
		was = withCases(t, was)
		before := string(was.JSON())
		for _, e := range cells(sheet.Of(was, nil)) {
			c := was.Clone()
			_, err := sheet.Apply(c, e, worlds[i])
			if assert.NoError(t, err, "%s: %s %s %q", was.Name, e.On, e.Cell, e.Text) {
				require.True(t, before == string(c.JSON()), "%s: %s %s %q", was.Name, e.On, e.Cell, e.Text)
			}
			n++
		}
	}
	assert.Greater(t, n, 2000)
}

// plot is a card to edit: a root with a title, a fixed note, a picture, a tag inside, and a list.
func plot() (*contract.Contract, sheet.World) {
	tag := &contract.Contract{Format: contract.Format, Name: "Tag", Root: &contract.Part{ID: "root", Name: "root", Element: "span", Content: contract.TextOf{Prop: "label"}},
		Props: []contract.Prop{{ID: "label", Name: "label", Type: contract.Text{Initial: "Tag"}}, {ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "m"}}}}
	c := &contract.Contract{Format: contract.Format, Name: "Plot", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"display": "flex", "gap": "8px"}, Children: []*contract.Part{
		{ID: "title", Name: "title", Element: "h3", Content: contract.TextOf{Prop: "title"}, Style: contract.Style{"font-size": "16px"}},
		{ID: "note", Name: "note", Element: "p", Content: contract.FixedText{Text: "Watered daily"}},
		{ID: "tag", Name: "tag", Content: &contract.Use{Component: "Tag", Given: map[string]contract.Given{"size": {Prop: "size"}}}},
		{ID: "beds", Name: "beds", Element: "ul", Children: []*contract.Part{{ID: "bed", Name: "bed", Element: "li", Repeat: "rows", Content: contract.TextOf{Prop: "rows.label"}}}},
	}}, Props: []contract.Prop{
		{ID: "title", Name: "title", Part: "title", Type: contract.Text{Initial: "Plot title"}},
		{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "m"}},
		{ID: "strong", Name: "strong", Type: contract.Flag{}},
		{ID: "rows", Name: "rows", Type: contract.List{Items: []contract.Prop{{ID: "label", Name: "label", Type: contract.Text{Initial: "Bed"}}}}},
		{ID: "onPick", Name: "onPick", Part: "title", Type: contract.Event{On: "click"}},
	}, Rules: []contract.Rule{
		{Part: "title", When: contract.Of(contract.PropIs{Prop: "size", Value: contract.OptionValue("s")}), Set: contract.Style{"font-size": "12px"}},
		{Part: "note", When: contract.Of(contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}), Set: contract.Style{"color": "#102030"}},
		{Part: "title", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"color": "#405060", "opacity": "0.5"}},
	}}
	contract.NewLinker(func(name string) *contract.Contract {
		if name == "Tag" {
			return tag
		}
		return nil
	}).Link(c)
	tokens, _ := token.Read(token.File{Name: "t", Text: []byte(`{"space":{"$type":"dimension","s":{"$value":{"value":4,"unit":"px"}},"m":{"$value":{"value":8,"unit":"px"}}},"ink":{"$type":"color","$value":{"colorSpace":"srgb","components":[0,0,0]}}}`)})
	return c, sheet.World{Tokens: tokens, Themes: map[string][]string{"theme": {"day", "dusk"}}, Components: func(name string) *contract.Contract {
		if name == "Tag" {
			return tag
		}
		return nil
	}}
}

// A picture that was drawn becomes an image, whose part is an img; a drawing becomes an icon of one.
func TestOfferedPictures(t *testing.T) {
	c, w := plot()
	c.Part("note").Content = contract.Picture{Alt: "A bed", Source: "data:image/png;base64,AAAA", Width: 160, Height: 90}
	c.Part("note").Element = "img"
	c.Part("title").Content, c.Part("title").Element = &contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0h8v8z"}}}, "svg"
	done, err := sheet.Apply(c, do("offer", "parts/note", "", "picture"), w)
	require.NoError(t, err)
	assert.Equal(t, "props/note", done.On)
	assert.Equal(t, contract.Image{Aspect: 160.0 / 90}, c.Prop("note").Type)
	assert.Equal(t, "A bed", c.Prop("note").Example.String())
	_, err = sheet.Apply(c, do("offer", "parts/title", "", "icon"), w)
	require.NoError(t, err)
	// A picture that nobody gave stands in any element, and becomes an img with it.
	c.Part("beds").Content, c.Part("beds").Children, c.Part("beds").Element = contract.Picture{}, nil, "div"
	_, err = sheet.Apply(c, do("offer", "parts/beds", "", "picture"), w)
	require.NoError(t, err)
	assert.Equal(t, "img", c.Part("beds").Element)
	c.Part("title").Attributes = nil
	for _, p := range c.Check(w.Tokens) {
		assert.NotEqual(t, "part-element", p.Rule, p.Message)
	}
}

func do(do, on, cell, text string) sheet.Edit {
	return sheet.Edit{Do: do, On: on, Cell: cell, Text: text}
}

// What each edit makes of the sheet: the row that is looked at afterwards, as it is written.
func TestEdits(t *testing.T) {
	row := func(s sheet.Sheet, on string) string {
		for _, p := range s.Props {
			if p.On == on {
				return strings.Join([]string{p.Name, p.Kind, p.Default, p.Purpose, strings.Join(p.Bound, ", ")}, " | ")
			}
		}
		for _, p := range s.Parts {
			if p.On == on {
				return strings.Join([]string{p.Name, p.Element, p.Shows, p.When, p.Over}, " | ")
			}
		}
		for _, r := range s.Rules {
			out := []string{}
			for _, v := range r.Values {
				if out = append(out, v.Property+" "+v.Text); v.On == on {
					return r.Name + " | " + r.When + " | " + v.Property + " " + v.Text
				}
			}
			if r.On == on && r.Number > 0 {
				return r.Name + " | " + r.When + " | " + strings.Join(out, ", ")
			}
		}
		return ""
	}
	for _, k := range []struct {
		edit     sheet.Edit
		on, want string // of another row; where the edit leads when empty
		taken    string
	}{
		{edit: do("set", "props/size", "name", "scale"), want: `scale | choice s m | m |  | size of tag, 1 rule`},
		{edit: do("set", "props/size", "name", "scale"), on: "rules/0", want: `title | scale = s | font-size 12px`},
		{edit: do("set", "props/size", "kind", "choice small m large"), want: `size | choice small m large | m |  | size of tag`, taken: "the rule of title when size = s"},
		{edit: do("set", "props/size", "kind", "choice small m"), on: "rules/0", want: `title | size = small | font-size 12px`},
		{edit: do("set", "props/size", "kind", `choice s "half ripe"`), on: "props/size", want: `size | choice s "half ripe" | "half ripe" |  | size of tag, 1 rule`},
		{edit: do("set", "props/title", "kind", "rich text, in a line, at most 30"), want: `title | rich text, in a line, at most 30 | "Plot title" |  | title`},
		{edit: do("set", "props/title", "kind", "number from 0 to 9 step 3"), want: `title | number from 0 to 9 step 3 |  |  | title`},
		{edit: do("set", "props/title", "kind", "image 16/9"), on: "parts/title", want: `title | img | {title} |  | `},
		{edit: do("set", "props/title", "kind", "flag"), on: "parts/title", want: `title | h3 | "Plot title" |  | `, taken: "what title shows of it"},
		{edit: do("set", "props/title", "default", `All "of it"`), want: `title | text | "All \"of it\"" |  | title`},
		{edit: do("set", "props/title", "default", `"required"`), want: `title | text | "required" |  | title`},
		{edit: do("set", "props/title", "default", `required`), want: `title | text | required |  | title`},
		{edit: do("set", "props/strong", "default", `true`), want: `strong | flag | true |  | 1 rule`},
		{edit: do("set", "props/strong", "purpose", `It matters`), want: `strong | flag | false | It matters | 1 rule`},
		{edit: do("set", "props/onPick", "kind", `event focus of root`), want: `onPick | event focus of root |  |  | root`},
		{edit: do("add", "props/size", "prop", `tone choice "half ripe" ripe`), want: `tone | choice "half ripe" ripe | "half ripe" |  | `},
		{edit: do("add", "props/rows.label", "prop", `href link`), want: `href | link |  |  | `},
		{edit: do("add", "props", "prop", `area`), want: `area | text | "Area" |  | `},
		{edit: do("duplicate", "props/size", "", ""), want: `size2 | choice s m | m |  | `},
		{edit: do("remove", "props/size", "", ""), want: `strong | flag | false |  | 1 rule`, taken: "the rule of title when size = s"},
		{edit: do("remove", "props/size", "", ""), on: "parts/tag", want: `tag | Tag size=m |  |  | `, taken: "the rule of title when size = s"},
		{edit: do("remove", "props/title", "", ""), on: "parts/title", want: `title | h3 | "Plot title" |  | `},
		{edit: do("remove", "props/rows", "", ""), on: "parts/beds", want: `beds | ul |  |  | `, taken: "the part bed, which shows it"},
		{edit: do("set", "parts/note", "name", "hint"), want: `hint | p | "Watered daily" |  | `},
		{edit: do("set", "parts/note", "element", `a href=https://furrow.example/ target=_blank aria-label={title} aria-describedby=#title`), want: `note | a aria-describedby=#title aria-label={title} href=https://furrow.example/ target=_blank | "Watered daily" |  | `},
		{edit: do("set", "parts/note", "element", `Tag label="Dry soil" size={size}`), want: `note | Tag label="Dry soil" size={size} |  |  | `},
		{edit: do("set", "parts/note", "element", `Tag label={hint}`), on: "props/hint", want: `hint | text | "Tag" |  | label of note`},
		{edit: do("set", "parts/note", "shows", `{title}`), want: `note | p | {title} |  | `},
		{edit: do("set", "parts/note", "shows", `Dry soil`), want: `note | p | "Dry soil" |  | `},
		{edit: do("set", "parts/note", "when", `strong and title is set`), want: `note | p | "Watered daily" | strong and title is set | `},
		{edit: do("set", "parts/note", "over", `rows`), want: `note | p | "Watered daily" |  | rows`},
		{edit: do("add", "parts/note", "part", `mark span role=img`), want: `mark | span role=img |  |  | `},
		{edit: do("add", "parts/beds", "inside", `last li`), want: `last | li |  |  | `},
		{edit: do("remove", "parts/title", "", ""), want: `note | p | "Watered daily" |  | `, taken: "2 rules; the prop onPick"},
		{edit: do("duplicate", "parts/beds", "", ""), want: `beds2 | ul |  |  | `},
		{edit: do("move", "parts/note", "", "in"), on: "parts/note", want: ``}, // the title shows a text
		{edit: do("offer", "parts/note", "", "text"), want: `note | text | "Watered daily" |  | note`},
		{edit: do("offer", "parts/note", "", "link"), want: `href | link |  |  | href of note`},
		{edit: do("offer", "parts/note", "", "flag"), want: `withNote | flag | true |  | whether note is there`},
		{edit: do("inline", "parts/tag", "", ""), want: `tag | span | "Tag" |  | `},
		{edit: do("offer", "parts/beds", "", "slot"), want: `beds | slot |  |  | beds`},
		{edit: do("add", "parts/note", "value", "when size = s and state hover: gap {space.s}"), want: `note | size = s and state hover | gap {space.s}`},
		{edit: do("add", "parts/note", "value", "gap: {space.s} {space.m}"), want: `note |  | gap {space.s} {space.m}`},
		{edit: do("add", "parts/note", "value", "gap:4px"), want: `note |  | gap 4px`},
		{edit: do("add", "rules/0", "", "color {ink}"), want: `title | size = s | color {ink}`},
		{edit: do("set", "rules/0", "when", "theme dusk and direction rtl"), want: `title | theme dusk and direction rtl | font-size 12px`},
		{edit: do("set", "rules/0", "part", "note"), want: `note | size = s | font-size 12px`},
		{edit: do("set", "rules/2/color", "value", "{ink}"), want: `title | state hover | color {ink}`},
		{edit: do("set", "rules/2/color", "property", "border-color"), want: `title | state hover | border-color #405060`},
		{edit: do("remove", "rules/2/color", "", ""), want: `title | state hover | opacity 0.5`},
		{edit: do("remove", "rules/0/font-size", "", ""), on: "rules/0", want: `note | strong | color #102030`},
		{edit: do("duplicate", "rules/1", "", ""), want: `note | strong | color #102030`},
		{edit: do("move", "rules/0", "", "down"), want: `title | size = s | font-size 12px`},
		{edit: do("move", "rules/0", "", "down"), on: "rules/2", want: `title | size = s | font-size 12px`},
		{edit: do("set", "parts/title/font-size", "value", "1.5rem"), want: `title |  | font-size 1.5rem`},
	} {
		t.Run(fmt.Sprint(k.edit.Do, " ", k.edit.On, " ", k.edit.Cell, " ", k.edit.Text), func(t *testing.T) {
			c, w := plot()
			done, err := sheet.Apply(c, k.edit, w)
			if k.want == "" {
				require.Error(t, err)
				return
			}
			require.NoError(t, err)
			on := done.On
			if k.on != "" {
				on = k.on
			}
			assert.Equal(t, k.want, row(sheet.Of(c, nil), on), "at %s", on)
			assert.Equal(t, k.taken, strings.Join(done.Taken, "; "))
			assert.NotEmpty(t, done.Note)
		})
	}
}

func TestWhatIsTypedWrongSaysWhatWasExpected(t *testing.T) {
	for _, k := range []struct {
		edit sheet.Edit
		want string
	}{
		{do("set", "props/size", "name", "Size"), "expected a name in camelCase"},
		{do("set", "props/size", "name", "title"), "another prop is named title"},
		{do("set", "props/size", "name", "className"), "kept by React"},
		{do("set", "props/size", "kind", "colour"), "colour is no kind; expected text, rich text, flag, choice"},
		{do("set", "props/size", "kind", "choice"), "expected its options"},
		{do("set", "props/size", "kind", "choice s s"), "stands there twice"},
		{do("set", "props/size", "kind", "text, at most many"), "expected a whole number"},
		{do("set", "props/size", "kind", "flag on"), "on is too much; a flag is written as flag"},
		{do("set", "props/size", "kind", "event tap"), "expected an event"},
		{do("set", "props/size", "kind", "event click of nothing"), "there is no part nothing; expected one of root, title"},
		{do("set", "props/size", "kind", "image wide"), "expected width by height"},
		{do("set", "props/size", "kind", "icon sun"), "there is no icon sun"},
		{do("set", "props/size", "kind", "number from low"), "expected a number behind from"},
		{do("set", "props/size", "default", "l"), "not one of s, m"},
		{do("set", "props/strong", "default", "yes"), "neither true nor false"},
		{do("set", "props/strong", "default", ""), "a flag always has a default"},
		{do("set", "props/size", "default", "required"), "a choice always has a default"},
		{do("set", "props/onPick", "default", "x"), "a event has no default"},
		{do("duplicate", "props/onPick", "", ""), "one event is told once"},
		{do("set", "parts/note", "name", "title"), "another part is named title"},
		{do("set", "parts/note", "element", "marquee"), "marquee is no element a component is made of"},
		{do("set", "parts/note", "element", "p href=/"), "href is no attribute that p may have"},
		{do("set", "parts/note", "element", "button type=go"), "type is one of button, submit, reset"},
		{do("set", "parts/note", "element", "p aria-labelledby=title2"), "aria-labelledby takes a part"},
		{do("set", "parts/note", "element", "Tag colour=x"), "Tag has no prop colour; expected one of label, size"},
		{do("set", "parts/note", "element", "Tag size=xl"), "size: \"xl\" is not one of s, m"},
		{do("set", "parts/root", "element", "Tag"), "its root cannot be a use of Tag"},
		{do("set", "parts/tag", "shows", "x"), "tag is a use of Tag, and shows what that shows"},
		{do("set", "parts/note", "shows", "{titel}"), "there is no prop titel; expected one of title, size"},
		{do("set", "parts/note", "shows", "{size}"), "size is a choice, and no part can show that"},
		{do("set", "parts/note", "when", "size = xl"), "expected s, m"},
		{do("set", "parts/note", "over", "row"), "there is no prop row"},
		{do("remove", "parts/root", "", ""), "nothing without its root"},
		{do("duplicate", "parts/root", "", ""), "one root"},
		{do("move", "parts/title", "", "out"), "nothing is around that"},
		{do("move", "parts/title", "", "in"), "nothing before title"},
		{do("move", "parts/title", "", "sideways"), "no way to move a part"},
		{do("move", "props/title", "", "out"), "expected up or down"},
		{do("unwrap", "parts/note", "", ""), "holds nothing that could take its place"},
		{do("offer", "parts/note", "", "icon"), "note has no icon that could be a prop"},
		{do("add", "parts/note", "part", "a b c"), "b is no element"},
		{do("add", "parts/note", "part", "title span"), "another part is named title"},
		{do("add", "parts/note", "inside", "x span"), "note shows a text, and holds no other parts"},
		{do("add", "parts/note", "value", "when size = s gap 4px"), "expected a colon"},
		{do("add", "parts/note", "value", "colour red"), "colour is no property that a contract says"},
		{do("add", "parts/note", "value", "pad 4px"), "such as padding-block"},
		{do("add", "parts/note", "value", "gap"), "expected a value of gap"},
		{do("add", "parts/note", "value", "gap wide"), "is not allowed here"},
		{do("add", "parts/note", "value", "gap {space.x}"), "there is no token space.x"},
		{do("add", "parts/note", "value", "color {space.s}"), "is of type dimension"},
		{do("set", "rules/0", "when", ""), "expected a condition"},
		{do("set", "rules/0", "when", "theme noon"), "a theme: day, dusk"},
		{do("set", "rules/0", "part", "nothing"), "there is no part nothing"},
		{do("set", "rules/9", "when", ""), "there is no rule"},
		{do("set", "rules/0/gap", "value", "4px"), "says nothing of gap there"},
		{do("set", "elsewhere", "", ""), "no place on the sheet"},
		{do("fly", "parts/note", "", ""), "nothing that can be done here"},
	} {
		c, w := plot()
		_, err := sheet.Apply(c, k.edit, w)
		assert.ErrorContains(t, err, k.want, "%+v", k.edit)
	}
}

// For whoever uses the component with what it is looked at with, nothing changes when a prop is
// made of a part, or is taken away again.
func TestPropsComeAndGoUnseen(t *testing.T) {
	all, worlds := drafted(t, 15)
	looks := func(c *contract.Contract, tokens *token.Set) map[string]string {
		out := map[string]string{}
		contract.Resolve(c, contract.EnvOf(c.Examples()), tokens).Walk(func(r *contract.Resolved) {
			if !r.Shown {
				return
			}
			text := r.Text
			for _, property := range []string{"display", "color", "gap", "width", "font-size", "background-color"} {
				text += " " + r.Values[property].Value
			}
			out[r.Key()] = text
		})
		return out
	}
	offered, removed := 0, 0
	for i, was := range all {
		before := looks(was, worlds[i].Tokens)
		was.Walk(func(p, _ *contract.Part) {
			for _, what := range was.Offers(p.ID) {
				if what == "slot" {
					continue // what stands in it is the use's
				}
				c := was.Clone()
				prop, err := c.Offer(p.ID, what)
				require.NoError(t, err, "%s: %s of %s", was.Name, what, p.Name)
				assert.Equal(t, before, looks(c, worlds[i].Tokens), "%s: %s of %s", was.Name, what, p.Name)
				assert.NotEmpty(t, c.BoundTo(prop))
				offered++
			}
		})
		for _, p := range was.Props {
			c := was.Clone()
			if _, err := c.RemoveProp(p.ID); err != nil {
				continue
			}
			assert.Nil(t, c.Prop(p.ID))
			assert.Empty(t, c.BoundTo(p.ID), "%s: %s is gone, and still bound", was.Name, p.Name)
			after := looks(c, worlds[i].Tokens)
			if p.Kind() == contract.ListKind || p.Kind() == contract.ImageKind || p.Kind() == contract.IconKind {
				removed++ // with the parts that show it
				continue
			}
			assert.Equal(t, before, after, "%s without %s", was.Name, p.Name)
			removed++
		}
	}
	assert.Greater(t, offered, 300)
	assert.Greater(t, removed, 150)
}

// What is done and then done back is as if nothing had been.
func TestEditsThatUndoEachOther(t *testing.T) {
	all, worlds := drafted(t, 15)
	n := map[string]int{}
	for i, was := range all {
		before := string(was.JSON())
		pair := func(name string, there, back sheet.Edit) {
			c := was.Clone()
			done, err := sheet.Apply(c, there, worlds[i])
			if err != nil || string(c.JSON()) == before {
				return
			}
			if back.On == "" {
				back.On = done.On
			}
			_, err = sheet.Apply(c, back, worlds[i])
			require.NoError(t, err, "%s %s", was.Name, name)
			assert.True(t, before == string(c.JSON()), "%s %s of %s", was.Name, name, there.On)
			n[name]++
		}
		was.Walk(func(p, parent *contract.Part) {
			on := "parts/" + p.ID
			pair("wrap", do("wrap", on, "", ""), do("unwrap", "", "", ""))
			pair("copy", do("duplicate", on, "", ""), do("remove", "", "", ""))
			pair("up", do("move", on, "", "up"), do("move", on, "", "down"))
			pair("add", do("add", on, "part", "another span"), do("remove", "", "", ""))
			if parent != nil && parent.Use() == nil && p.Use() == nil {
				pair("in", do("move", on, "", "in"), do("move", on, "", "out"))
			}
		})
		for _, p := range was.Props {
			on := "props/" + p.ID
			pair("prop copy", do("duplicate", on, "", ""), do("remove", "", "", ""))
			pair("prop down", do("move", on, "", "down"), do("move", on, "", "up"))
		}
		for r := range was.Rules {
			on := fmt.Sprintf("rules/%d", r)
			pair("rule down", do("move", on, "", "down"), do("move", "", "", "up"))
			pair("rule copy", do("duplicate", on, "", ""), do("remove", "", "", ""))
		}
	}
	for _, name := range []string{"wrap", "copy", "up", "add", "in", "prop copy", "prop down", "rule down", "rule copy"} {
		assert.Greater(t, n[name], 20, name)
	}
}

// Edits one after another, at random, leave a contract that is written and read again, or say why
// they cannot be; none of them breaks.
func TestRandomEdits(t *testing.T) {
	all, worlds := drafted(t, 20)
	done, sound := 0, 0
	for seed := range uint64(120) {
		r := rand.New(rand.NewPCG(seed, 1))
		at := r.IntN(len(all))
		c, w := all[at].Clone(), worlds[at]
		for range 12 {
			e := random(r, c)
			next := c.Clone()
			before := string(next.JSON())
			if _, err := sheet.Apply(next, e, w); err != nil {
				assert.NotEmpty(t, err.Error())
				continue
			}
			assert.True(t, before == string(c.JSON()), "an edit of a clone reached the contract: %+v", e)
			done++
			sheet.Of(next, nil)
			next.Check(w.Tokens)
			if _, found := contract.Read("c", next.JSON(), nil); found.Failed() {
				continue // refused for what it makes
			}
			sound++
			c = next
		}
	}
	assert.Greater(t, sound, 300)
	assert.Greater(t, float64(sound)/float64(done), 0.8, "most edits that can be made make something sound")
}

func random(r *rand.Rand, c *contract.Contract) sheet.Edit {
	s := sheet.Of(c, nil)
	all := cells(s)
	e := all[r.IntN(len(all))]
	switch r.IntN(4) {
	case 0:
		e = do([]string{"remove", "duplicate", "wrap", "unwrap", "move", "offer"}[r.IntN(6)], e.On, "", []string{"up", "down", "in", "out", "text", "flag", "link"}[r.IntN(7)])
	case 1:
		e = do("add", e.On, []string{"prop", "part", "inside", "value"}[r.IntN(4)], []string{"fresh", "fresh choice a b", "gap 4px", "when state hover: color #123456", "fresh div", "fresh button type=button"}[r.IntN(6)])
	case 2:
		e.Text = all[r.IntN(len(all))].Text // what belongs elsewhere
	default:
		options := sheet.Complete(c, sheet.Ask{Do: "set", On: e.On, Cell: e.Cell}, sheet.World{}, nil)
		if len(options) > 0 {
			e.Text = options[r.IntN(len(options))].Text
		}
	}
	return e
}

// What is offered can be taken: a word of it finishes a value, a condition, a kind or a binding.
func TestWhatIsOfferedCanBeTaken(t *testing.T) {
	all, worlds := drafted(t, 10)
	taken := map[string]int{}
	for i, c := range all {
		for _, e := range cells(sheet.Of(c, nil)) {
			if e.Cell != "value" && e.Cell != "when" && e.Cell != "kind" && e.Cell != "default" && e.Cell != "over" {
				continue
			}
			if e.Cell == "when" && strings.HasPrefix(e.On, "parts/") {
				continue // of props alone, which Check says
			}
			for _, o := range sheet.Complete(c, sheet.Ask{Do: "set", On: e.On, Cell: e.Cell}, worlds[i], nil) {
				if e.Cell == "kind" && (strings.HasPrefix(o.Text, "icon") || strings.HasPrefix(o.Text, "slot for")) {
					continue // what it names may not be there
				}
				if e.Cell == "value" && o.Kind == "word" && !alone(e.On, o.Text) {
					continue // one word of several
				}
				e := e
				e.Text = o.Text
				_, err := sheet.Apply(c.Clone(), e, worlds[i])
				assert.NoError(t, err, "%s: %s of %s offers %q", c.Name, e.Cell, e.On, o.Text)
				taken[e.Cell]++
			}
		}
	}
	for _, cell := range []string{"value", "when", "kind", "default"} {
		assert.Greater(t, taken[cell], 50, cell)
	}
}

// alone tells whether a keyword is the whole of a value.
func alone(on, text string) bool {
	return contract.CheckValue(on[strings.LastIndex(on, "/")+1:], text, nil) == nil
}

func TestCompletions(t *testing.T) {
	c, w := plot()
	labels := func(a sheet.Ask) (out []string) {
		for _, o := range sheet.Complete(c, a, w, []string{"Tag", "Trellis"}) {
			out = append(out, o.Label)
		}
		return out
	}
	ask := func(do, on, cell, text string) sheet.Ask { return sheet.Ask{Do: do, On: on, Cell: cell, Text: text} }
	assert.Equal(t, []string{"article", "aside", "address", "abbr", "a"}[:4], labels(ask("set", "parts/note", "element", "a"))[:4], "what begins so stands first")
	assert.Contains(t, labels(ask("set", "parts/note", "element", "Tr")), "Trellis")
	assert.Equal(t, []string{"label=", "size=", "..."}, labels(ask("set", "parts/note", "element", "Tag ")))
	assert.Equal(t, []string{"{size}", "m", "s"}, labels(ask("set", "parts/note", "element", "Tag size=")))
	assert.Equal(t, []string{"{title}", "{size}", "{rows.label}"}, labels(ask("set", "parts/note", "element", "p aria-label=")))
	assert.Equal(t, []string{"#title"}, labels(ask("set", "parts/note", "element", "p aria-labelledby=#ti")))
	assert.Equal(t, []string{"submit"}, labels(ask("set", "parts/note", "element", "button type=su")))
	assert.Equal(t, []string{"size = s", "size = m"}, labels(ask("set", "rules/0", "when", "strong and size")))
	assert.Equal(t, []string{"theme day", "theme dusk"}, labels(ask("set", "rules/0", "when", "theme")))
	assert.Equal(t, []string{"{space.s}", "{space.m}", "normal"}, labels(ask("set", "parts/root/gap", "value", "")))
	c.Part("root").Style["gap"] = "{space.m}"
	assert.Equal(t, []string{"{space.m}", "{space.s}", "normal"}, labels(ask("set", "parts/root/gap", "value", "")), "what is used for the property stands first")
	assert.Equal(t, []string{"{space.m}"}, labels(ask("add", "parts/root", "value", "when size = s: gap 4px {space.m")))
	assert.Equal(t, []string{"rows"}, labels(ask("set", "parts/note", "over", "")))
	assert.Equal(t, []string{"padding-block", "padding-inline"}, labels(ask("add", "parts/note", "value", "padd")))
	assert.Equal(t, "when strong: ", sheet.Complete(c, ask("add", "parts/note", "value", "when stro"), w, nil)[0].Text)
	assert.Equal(t, "#000000", sheet.Complete(c, ask("set", "rules/2/color", "value", "{"), w, nil)[0].Value)
	assert.Empty(t, labels(ask("set", "props/size", "default", "s")), "what is typed in full is offered no more")
}

func FuzzEdits(f *testing.F) {
	f.Add("set", "props/size", "kind", `choice a "b`)
	f.Add("set", "parts/note", "element", `Tag size={size label="`)
	f.Add("add", "parts/note", "value", `when size = s: gap {space.s}`)
	f.Add("wrap", "parts/note/", "x", `{}`)
	f.Fuzz(func(t *testing.T, action, on, cell, text string) {
		c, w := plot()
		if _, err := sheet.Apply(c, sheet.Edit{Do: action, On: on, Cell: cell, Text: text, With: []string{on, "parts/title"}}, w); err == nil {
			sheet.Of(c, nil)
			c.Check(w.Tokens)
		}
		sheet.Complete(c, sheet.Ask{Do: action, On: on, Cell: cell, Text: text}, w, []string{"Tag"})
	})
}

// What is said of a component as a whole is typed where it stands.
func TestWhatIsSaidOfAComponentIsTyped(t *testing.T) {
	c := badge()
	apply(t, c, sheet.World{}, do("set", "owner", "text", "Ines, plot 41"), do("set", "deprecated", "text", "It is too small to press"), do("set", "deprecated", "instead", "CropTag"),
		do("add", "links", "note", "Minutes of spring https://example.org/minutes"), do("add", "notes", "note", "# Colours"), do("add", "notes", "note", "They follow **the season**"),
		do("set", "notes/0", "text", "- a first one"))
	assert.Equal(t, "Ines, plot 41", c.Owner)
	assert.Equal(t, "It is too small to press. Use CropTag instead.", c.Deprecated.String())
	assert.Equal(t, []contract.Reference{{Text: "Minutes of spring", Address: "https://example.org/minutes"}}, c.Links)
	assert.Equal(t, contract.RichValue{{Kind: "item", Runs: []contract.Run{{Text: "a first one"}}}, {Kind: "paragraph", Runs: []contract.Run{{Text: "They follow "}, {Text: "the season", Strong: true}}}}, c.Notes)
	assert.Empty(t, c.Check(nil), "what was typed is no contract")
	read, found := contract.Read("badge.json", c.JSON(), nil)
	require.Empty(t, found)
	assert.Equal(t, c.Notes, read.Notes, "it is not kept")
	assert.Equal(t, c.Deprecated, read.Deprecated)
	s := sheet.Of(c, nil)
	for _, e := range cells(s) {
		same := c.Clone()
		_, err := sheet.Apply(same, e, sheet.World{})
		require.NoError(t, err, e.On)
		assert.Equal(t, string(c.JSON()), string(same.JSON()), "entering %s as it stands changes it", e.On)
	}
	assert.True(t, sheet.Untouched(s, s, do("set", "deprecated", "text", "")))
	copied := c.Clone()
	apply(t, copied, sheet.World{}, do("set", "deprecated", "text", ""), do("set", "deprecated", "instead", ""), do("remove", "links/0", "", ""), do("remove", "notes/1", "", ""))
	assert.Nil(t, copied.Deprecated, "it stays deprecated with nothing said")
	assert.Empty(t, copied.Links)
	assert.Len(t, copied.Notes, 1)
	assert.Equal(t, "CropTag", c.Deprecated.Instead, "a copy changed what it was copied from")
	assert.False(t, sheet.Untouched(s, sheet.Of(copied, nil), do("set", "deprecated", "text", "")))
	for _, wrong := range []sheet.Edit{do("add", "links", "note", "https://example.org"), do("add", "notes", "note", "[x](javascript:a)"), do("set", "deprecated", "when", "x"), do("add", "deprecated", "text", "x"), do("add", "owner", "text", "x")} {
		_, err := sheet.Apply(c.Clone(), wrong, sheet.World{})
		assert.Error(t, err, "%s %q", wrong.On, wrong.Text)
	}
	for _, flaw := range []func(*contract.Contract){
		func(c *contract.Contract) { c.Deprecated.Instead = c.Name },
		func(c *contract.Contract) { c.Links[0].Address = "javascript:alert(1)" },
		func(c *contract.Contract) { c.Notes[0].Runs = []contract.Run{{Text: "x", Link: "data:text/html,x"}} },
	} {
		bad := c.Clone()
		bad.Notes = append(contract.RichValue{}, bad.Notes...)
		flaw(bad)
		assert.True(t, bad.Check(nil).Failed(), "what leads nowhere safe is kept")
	}
}
