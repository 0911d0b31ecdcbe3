package placeholder_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/check"
	"cobrik/core/contract"
	sheet "cobrik/core/emit/css"
	"cobrik/core/emit/emittest"
	"cobrik/core/emit/ir"
	"cobrik/core/placeholder"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
	"cobrik/web/reference"
)

// derived derives a placeholder and links what it uses, as it is kept.
func derived(t *testing.T, c *contract.Contract, tokens *token.Set, known map[string]*contract.Contract) *contract.Contract {
	t.Helper()
	out := placeholder.Of(c)
	out.Name = c.Name + "Room" // a family of the demo is called as a placeholder
	again, found := contract.Read(out.Name, out.JSON(), nil)
	require.NoError(t, found.Err(), "%s\n%s", out.Name, out.JSON())
	contract.NewLinker(func(name string) *contract.Contract { return known[name] }).Link(again)
	checked := again.Check(tokens)
	require.NoError(t, checked.Err(), "%s\n%s", out.Name, out.JSON())
	return again
}

// standing is what is compared: both in a container of a width, one after the other.
type standing struct {
	Name string `json:"name"`
	// Boxes of the component's parts and the placeholder's, by what both call them.
	Parts [][2][]int `json:"parts"`
	names []string
}

// A placeholder stands as its component does: the boxes of all parts that both have are the same in Chromium, at several widths and in every theme, and nothing below moves
// when one takes the other's place (Layout Instability, W3C draft: a sum of shifts of 0).
func TestNothingMovesWhenItHasLoaded(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	families, _ := demotest.Families(t, doc, tokens)
	known := map[string]*contract.Contract{}
	for _, f := range families {
		known[f.Name] = f.Contract
	}
	var sheets, body strings.Builder
	var all []standing
	sheeted := map[string]bool{}
	write := func(c *contract.Contract) *ir.Module {
		for _, one := range c.Closure() {
			if m := ir.Lower(one); !sheeted[m.Name] {
				sheeted[m.Name] = true
				sheets.WriteString(emittest.HashedSheet(m, sheet.Module(m, output.PropertiesOf(tokens))))
			}
		}
		return ir.Lower(c)
	}
	for _, f := range families {
		loading := derived(t, f.Contract, tokens, known)
		m, of := write(f.Contract), write(loading)
		variations, _ := f.Variations(4)
		for i, v := range variations {
			chosen := contract.Values{}
			for _, p := range loading.Props {
				chosen[p.ID] = v.Values[p.ID]
			}
			mine, theirs := m.Paths(v.Values), of.Paths(chosen)
			for _, width := range []int{240, 390, 700, 1200} {
				one := standing{Name: fmt.Sprintf("%s %s at %d", f.Name, v.Name, width)}
				for _, key := range slices.Sorted(maps.Keys(mine)) {
					if path, both := theirs[key]; both {
						one.Parts, one.names = append(one.Parts, [2][]int{mine[key], path}), append(one.names, key)
					}
				}
				theme := []string{"day", "dusk", "contrast"}[i%3]
				fmt.Fprintf(&body, `<section data-theme="%s" style="width:%dpx"><div>%s</div><div>%s</div></section>`, theme, width, emittest.Hashed(m, v.Values), emittest.Hashed(of, chosen))
				all = append(all, one)
			}
		}
	}
	parts, err := json.Marshal(all)
	require.NoError(t, err)
	type measured struct {
		Boxes [][2][4]float64
		Shift float64
	}
	got := reference.InChromium[[]measured](t, output.PropertiesOf(tokens).Sheet(nil)+sheets.String()+"section > div { margin-bottom: 8px; display: grid; justify-items: start }", body.String(), fmt.Sprintf(`(async () => {
		const all = %s;
		const sections = [...document.querySelectorAll("section")];
		const boxOf = (div, path) => { const root = div.firstElementChild.getBoundingClientRect(); const b = path.reduce((e, i) => e.children[i], div.firstElementChild).getBoundingClientRect(); return [b.x - root.x, b.y - root.y, b.width, b.height]; };
		const out = sections.map((s, i) => ({ Boxes: all[i].parts.map(([mine, theirs]) => [boxOf(s.children[0], mine), boxOf(s.children[1], theirs)]), Shift: 0 }));
		// One takes the other's place, with something below.
		let shift = 0;
		const seen = new PerformanceObserver((list) => list.getEntries().forEach((e) => (shift += e.value)));
		seen.observe({ type: "layout-shift", buffered: false });
		const frame = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
		const stage = Object.assign(document.createElement("div"), { id: "stage" });
		document.body.replaceChildren(stage);
		for (let i = 0; i < sections.length; i += 4) {
			const [real, room] = sections[i].children;
			const below = Object.assign(document.createElement("p"), { textContent: "What stands below." });
			sections[i].replaceChildren(room);
			stage.replaceChildren(sections[i], below);
			scrollTo(0, 0);
			await frame();
			await frame();
			shift = 0;
			sections[i].replaceChildren(real);
			await frame();
			await frame();
			out[i].Shift = shift;
		}
		return out;
	})()`, parts))
	require.Len(t, got, len(all))
	compared := 0
	for i, one := range all {
		for k, boxes := range got[i].Boxes {
			if boxes[0][2] == 0 && boxes[0][3] == 0 { // it has no box, and no place
				boxes[0][0], boxes[0][1], boxes[1][0], boxes[1][1] = 0, 0, 0, 0
			}
			for side := range 4 {
				assert.InDelta(t, boxes[0][side], boxes[1][side], 0.02, "%s: %s of %s", one.Name, []string{"x", "y", "width", "height"}[side], one.names[k])
			}
			compared++
		}
		assert.Zero(t, got[i].Shift, one.Name)
	}
	t.Log(compared, "boxes")
	assert.Greater(t, compared, 1000)
}

// What each kind of part becomes, by hand.
func TestWhatAPartBecomes(t *testing.T) {
	part := func(id, element string, content contract.Content, style contract.Style, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Content: content, Style: style, Children: children}
	}
	beds := part("bed", "li", contract.TextOf{Prop: "beds.name"}, nil)
	beds.Repeat = "beds"
	seldom := part("seldom", "p", contract.FixedText{Text: "Seldom"}, nil)
	seldom.ShownWhen = contract.Of(contract.PropSet{Prop: "note", Set: true})
	strong := part("strong", "strong", contract.FixedText{Text: "Ripe"}, nil)
	strong.ShownWhen = contract.Of(contract.PropIs{Prop: "ripe", Value: contract.FlagValue(true)})
	c := &contract.Contract{Format: contract.Format, Name: "Bed", Props: []contract.Prop{
		{ID: "title", Name: "title", Type: contract.Text{}, Required: true, Example: contract.TextValue("Leeks and beets")}, {ID: "note", Name: "note", Type: contract.Text{}},
		{ID: "ripe", Name: "ripe", Type: contract.Flag{}}, {ID: "tone", Name: "tone", Type: contract.Choice{Options: []string{"calm", "loud"}, Initial: "calm"}}, {ID: "unused", Name: "unused", Type: contract.Flag{}},
		{ID: "count", Name: "count", Type: contract.Number{}, Example: contract.NumberValue(3)}, {ID: "photo", Name: "photo", Type: contract.Image{}, Example: contract.ImageValue{Source: "/a.png", Alt: "A bed", Width: 200, Height: 100}},
		{ID: "beds", Name: "beds", Type: contract.List{Items: []contract.Prop{{ID: "name", Name: "name", Type: contract.Text{}, Required: true}}}, Example: contract.ListValue{{"name": contract.TextValue("North")}, {"name": contract.TextValue("South")}}},
	}, Root: part("root", "article", nil, contract.Style{"cursor": "pointer", "padding-block": "8px", "color": "#333333", "background-color": "#ffffff"},
		part("title", "h2", contract.TextOf{Prop: "title"}, contract.Style{"font-size": "20px", "transition": "color 1s"}),
		part("photo", "img", contract.ImageOf{Prop: "photo"}, contract.Style{"width": "100%", "border-radius": "50%", "object-fit": "cover"}),
		part("open", "button", contract.FixedText{Text: "Open"}, nil), part("field", "input", nil, contract.Style{"width": "120px"}), part("list", "ul", nil, nil, beds), seldom, strong),
		Rules: []contract.Rule{
			{Part: "title", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("loud")}), Set: contract.Style{"font-size": "30px"}},
			{Part: "title", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"font-size": "31px"}},
			{Part: "title", When: contract.Of(contract.NumberIs{Prop: "count", Low: contract.Bound{At: 2, Kind: contract.Exclusive}}), Set: contract.Style{"font-weight": "700"}},
			{Part: "title", When: contract.Of(contract.NumberIs{Prop: "count", Low: contract.Bound{At: 5, Kind: contract.Exclusive}}), Set: contract.Style{"font-weight": "900"}},
			{Part: "photo", When: contract.BelowWidth(300), Set: contract.Style{"background-color": "#123456", "height": "40px"}},
			{Part: "bed", When: contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("loud")}), Set: contract.Style{"opacity": "0.5"}},
		}}
	out := placeholder.Of(c)
	assert.Equal(t, "BedLoading", out.Name)
	assert.Equal(t, "Bed", out.RoomOf)
	assert.Equal(t, contract.Attribute{Text: "true"}, out.Root.Attributes["aria-busy"])
	assert.Equal(t, contract.Style{"padding-block": "8px", "color": "#333333", "background-color": "#ffffff"}, out.Root.Style, "what only somebody who uses it would see")
	said := map[string]string{}
	out.Walk(func(p, parent *contract.Part) {
		text, _ := p.Content.(contract.FixedText)
		said[p.ID] = strings.TrimSpace(p.Element + " " + text.Text)
		if parent == out.Root {
			assert.Equal(t, contract.Attribute{Text: "true"}, p.Attributes["aria-hidden"], "%s is read out", p.ID)
		}
	})
	assert.Equal(t, map[string]string{
		"root": "div", "title": "div", "titleBar": "span Leeks and beets", "photo": "span", "open": "span", "openBar": "span Open", "list": "div", "bed": "div", "bedBar": "span North", "bed1": "div", "bed1Bar": "span South",
		"field": "span", "fieldRoom": "span", "fieldItself": "input", "fieldCover": "span", "strong": "span", "strongBar": "span Ripe",
	}, said, "nothing is left of a note that is not given")
	photo := out.Part("photo")
	assert.Equal(t, "200 / 100", photo.Style["aspect-ratio"])
	assert.Equal(t, []string{"100%", "50%", "currentcolor", ""}, []string{photo.Style["width"], photo.Style["border-radius"], photo.Style["background-color"], photo.Style["object-fit"]})
	assert.Equal(t, contract.Attribute{Text: "true"}, out.Part("field").Attributes["inert"], "a field that is not seen can be written in")
	var rules []string
	for _, r := range out.Rules {
		rules = append(rules, fmt.Sprint(r.Part, " ", r.When, " ", r.Set))
	}
	assert.ElementsMatch(t, []string{"title tone = loud map[font-size:30px]", "title  map[font-weight:700]", "photo container < 300px map[height:40px]", "bed tone = loud map[opacity:0.5]", "bed1 tone = loud map[opacity:0.5]"}, rules)
	for _, f := range check.Contract(out, check.Options{}) {
		assert.NotEqual(t, "contrast", f.Rule, "bars are to be read: %s", f.Message)
	}
	var props []string
	for _, p := range out.Props {
		props = append(props, p.Name)
	}
	assert.ElementsMatch(t, []string{"tone", "ripe"}, props, "it is asked for what nothing depends on")
}

// Bars breathe, and stand still where less motion is asked for (WCAG 2.2, 2.3.3); what is measured stands still.
func TestBarsBreathe(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Word", Root: &contract.Part{ID: "root", Name: "root", Element: "p", Content: contract.FixedText{Text: "Leeks"}}}
	out := placeholder.Of(c)
	tokens := output.PropertiesOf(token.Empty())
	written := sheet.Module(ir.Lower(out), tokens)
	assert.Contains(t, written, "animation: breathe 1200ms ease-in-out infinite alternate;")
	assert.Contains(t, written, "@keyframes breathe {\n  to {\n    opacity: 0.06;\n  }\n}\n")
	assert.Contains(t, written, "@media (prefers-reduced-motion: reduce) {\n  .rootBar {\n    animation: none;\n  }\n}\n")
	assert.Contains(t, sheet.Module(ir.LowerForced(out), tokens), "infinite alternate paused;")
}
