package draft_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

func textOf(id, name, content string) *design.Layer {
	return &design.Layer{ID: id, Name: name, Kind: design.Text, Fill: "#222222", Bounds: design.Rect{Width: float64(8 * len(content)), Height: 20},
		Text: &design.TextContent{Content: content, FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}}
}

func boxOf(id, name string, flow design.Flow, children ...*design.Layer) *design.Layer {
	l := &design.Layer{ID: id, Name: name, Kind: design.Box, Fill: "#ffffff", Flow: &flow, Children: children}
	for _, c := range children {
		if flow.Direction == "row" {
			l.Bounds.Width, l.Bounds.Height = l.Bounds.Width+c.Bounds.Width, max(l.Bounds.Height, c.Bounds.Height)
		} else {
			l.Bounds.Width, l.Bounds.Height = max(l.Bounds.Width, c.Bounds.Width), l.Bounds.Height+c.Bounds.Height
		}
	}
	return l
}

var row, column = design.Flow{Direction: "row", Gap: 8}, design.Flow{Direction: "column", Gap: 4}

// drafted drafts a family of a document; the components of the others are drafted before.
func drafted(t *testing.T, f *design.Family, others ...*design.Family) (*contract.Contract, *design.Family, draft.Components, string) {
	t.Helper()
	doc := &design.Document{ID: "d", Name: "D", Families: append(others, f)}
	known := map[string]*contract.Contract{}
	components := func(family string) *contract.Contract { return known[family] }
	for _, o := range others {
		c, _, found := draft.Of(doc, contract.Origin{Family: o.ID}, "", token.Empty(), font.Shipped(), components)
		require.NotNil(t, c, found)
		known[o.ID] = c
	}
	c, source, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), components)
	require.NotNil(t, c, found)
	require.Empty(t, c.Check(token.Empty()))
	return c, source, components, fmt.Sprint(found)
}

var tagFamily = drafttest.Family("Tag", []design.Axis{drafttest.Axis("Tone", "calm", "loud"), drafttest.Axis("Mark", "off", "on")}, func(c map[string]string) *design.Layer {
	mark := &design.Layer{ID: "mark", Name: "Mark", Kind: design.Box, Fill: "#ff0000", Bounds: design.Rect{Width: 8, Height: 8}, Hidden: c["Mark"] == "off"}
	label := textOf("label", "Label", map[string]string{"calm": "Sown", "loud": "Ripe"}[c["Tone"]])
	tag := boxOf("tag", "Tag", row, mark, label)
	tag.Sizing = design.Sizing{Width: "content", Height: "content"}
	return tag
})

func use(id string, choices map[string]string, overrides ...design.Override) *design.Layer {
	return &design.Layer{ID: id, Name: "Tag", Kind: design.Instance, Bounds: design.Rect{Width: 32, Height: 20}, Instance: &design.InstanceContent{Family: "tag", Choices: choices, Overrides: overrides}}
}

func override(layer, text string) design.Override { return design.Override{Layer: layer, Text: &text} }

// A use in a family is a use of its component: what is the same in all variants is a constant,
// what follows an axis is that axis's prop, what else changes is told case by case, and what the
// drawing leaves open is passed on.
func TestUsesInFamiliesBecomeUses(t *testing.T) {
	card := drafttest.Family("Card", []design.Axis{drafttest.Axis("Tone", "calm", "loud"), drafttest.Axis("Busy", "no", "yes")}, func(c map[string]string) *design.Layer {
		follows := use("follows", map[string]string{"Tone": c["Tone"]}, override("Label", "Bed"))
		follows.Name = "Follows"
		cases := use("cases", map[string]string{"Tone": map[string]string{"no": "calm", "yes": "loud"}[c["Busy"]], "Mark": "on"}, override("Label", "Bed"))
		cases.Name = "Cases"
		open := use("open", map[string]string{"Tone": "loud"})
		open.Name, open.Instance.Exposes = "Open", []string{"Tone", "Label", "Shoe"}
		open.Instance.Overrides = []design.Override{override("Nobody", "x")}
		return boxOf("card", "Card", column, textOf("name", "Name", "Plot 4"), follows, cases, open)
	})
	c, f, components, found := drafted(t, card, tagFamily)
	given := func(part string) map[string]contract.Given { return c.Part(part).Use().Given }
	assert.Equal(t, "Tag", c.Part("follows").Use().Component)
	assert.Empty(t, c.Part("follows").Element)
	assert.Empty(t, c.Part("follows").Children, "the inside is the component's affair")
	assert.Equal(t, contract.Given{Prop: "tone"}, given("follows")["tone"])
	assert.Equal(t, `"Bed"`, string(given("follows")["label"].Value))
	require.Len(t, given("cases")["tone"].Cases, 1)
	assert.Equal(t, "busy", given("cases")["tone"].Cases[0].When.String())
	assert.Equal(t, `"loud"`, string(given("cases")["tone"].Cases[0].Value))
	assert.Nil(t, given("cases")["tone"].Value, "the default need not be given")
	assert.Equal(t, "true", string(given("cases")["mark"].Value))
	assert.Equal(t, contract.Given{Prop: "openTone"}, given("open")["tone"], "tone is taken by the card's own")
	assert.Equal(t, contract.OptionValue("loud"), c.Prop("openTone").Default(), "as the card was drawn")
	assert.Equal(t, contract.TextValue("Ripe"), c.Prop("label").Default(), "the text of the variant that is used")
	assert.Equal(t, &contract.Passing{Part: "open", Prop: "label"}, c.Prop("label").From)
	assert.Contains(t, found, "changes its layer Nobody, for which Tag has no prop")
	assert.Contains(t, found, "exposes Shoe, for which Tag has no prop")

	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, f)
	assert.Empty(t, l.Moves())
	for _, k := range draft.Cases(c, f) {
		for _, fact := range l.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, fact.Verdict, "%s: %s %s", k.Name, fact.Name, fact.Property)
		}
	}

	// The design moves on: another tone where the card is busy, another word on the first.
	moved := drafttest.Family("Card", []design.Axis{drafttest.Axis("Tone", "calm", "loud"), drafttest.Axis("Busy", "no", "yes")}, func(k map[string]string) *design.Layer {
		root, _ := draft.LayerAt(card.Variant(k).Root, "")
		out := *root
		out.Children = nil
		for _, child := range root.Children {
			one := *child
			if one.Name == "Cases" {
				one.Instance = &design.InstanceContent{Family: "tag", Choices: map[string]string{"Mark": k["Busy"]}, Overrides: []design.Override{override("Label", "Row")}}
				one.Instance.Choices["Mark"] = map[string]string{"no": "off", "yes": "on"}[k["Busy"]]
			}
			out.Children = append(out.Children, &one)
		}
		return &out
	})
	doc := &design.Document{ID: "d", Name: "D", Families: []*design.Family{tagFamily, moved}}
	source, problems := draft.Source(doc, contract.Origin{Family: "card"}, font.Shipped(), components)
	require.NotNil(t, source, problems)
	l = ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, source)
	var keys, said []string
	for _, m := range l.Moves() {
		keys = append(keys, m.Key)
		said = append(said, m.String())
	}
	assert.ElementsMatch(t, []string{"cases · given tone · busy: loud → calm", "cases · given mark · not busy: true → false", "cases · given label: Bed → Row"}, said)
	after, problems := l.Take(doc, keys)
	require.NotNil(t, after, problems)
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: after, Tokens: token.Empty(), Components: components}, source).Moves())
	assert.Equal(t, `"Row"`, string(after.Part("cases").Use().Given["label"].Value))
	assert.Equal(t, contract.Given{Prop: "busy"}, after.Part("cases").Use().Given["mark"], "it follows a prop now")
	assert.NotContains(t, after.Part("cases").Use().Given, "tone", "the default again")
	_, changes := ledger.Changes(c, after)
	require.Len(t, changes, 1)
	assert.Equal(t, "cases is given something else", changes[0].Text)
}

// Families are drafted inside out; one that uses itself is named with its chain.
func TestFamiliesAreFoundInsideOut(t *testing.T) {
	uses := func(name string, of ...string) *design.Family {
		return drafttest.Family(name, nil, func(map[string]string) *design.Layer {
			root := boxOf("root", name, row, textOf("w", "Word", "x"))
			for i, id := range of {
				u := use(fmt.Sprintf("use%d", i), nil)
				u.Instance.Family = id
				root.Children = append(root.Children, u)
			}
			return root
		})
	}
	a, b, c := uses("A", "b", "c"), uses("B", "c"), uses("C")
	doc := &design.Document{Families: []*design.Family{a, b, c}}
	out, cycle := draft.UsedFamilies(doc, draft.Roots(a))
	assert.Empty(t, cycle)
	assert.Equal(t, []*design.Family{c, b}, out)
	doc.Families[2] = uses("C", "b")
	_, cycle = draft.UsedFamilies(doc, draft.Roots(a))
	assert.Equal(t, []string{"B", "C", "B"}, cycle)
	twice := draft.Roots(uses("D", "c", "c"))
	doc.Families[2] = c
	out, cycle = draft.UsedFamilies(doc, twice)
	assert.Empty(t, cycle)
	assert.Equal(t, []*design.Family{c}, out, "each once")
}

// Siblings alike in shape and role are items of a list, links in navigation stand in nav, ul, li
// and a; what differs by its name or its looks is no list.
func TestRepeatedSiblingsBecomeLists(t *testing.T) {
	bar := drafttest.Family("TopBar", nil, func(map[string]string) *design.Layer {
		return boxOf("bar", "Top bar", row, textOf("logo", "Logo", "Hollowbeck"), textOf("a", "Plots", "Plots"), textOf("b", "Rota", "Rota"), textOf("c", "Seed swap", "Seed swap"))
	})
	bar.Variants[0].Root.Children[0].Text.FontWeight = 700
	c, f, _, _ := drafted(t, bar)
	chain := ""
	for p := c.Part("label"); p != nil; {
		chain = p.Element + " " + chain
		var up *contract.Part
		c.Walk(func(q, parent *contract.Part) {
			if q == p {
				up = parent
			}
		})
		p = up
	}
	assert.Equal(t, "div nav ul li a ", chain)
	links := c.Prop("links")
	require.NotNil(t, links)
	assert.Equal(t, contract.ListValue{
		{"label": contract.TextValue("Plots"), "href": contract.LinkValue("#")}, {"label": contract.TextValue("Rota"), "href": contract.LinkValue("#")},
		{"label": contract.TextValue("Seed swap"), "href": contract.LinkValue("#")},
	}, links.Example)
	assert.Equal(t, "links", c.Part("item").Repeat)
	assert.Equal(t, map[string]contract.Attribute{"href": {Prop: "links.href"}}, c.Part("label").Attributes)
	assert.NotNil(t, c.Prop("logo"), "what stands beside them is no item")
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, f)
	assert.Empty(t, l.Moves())
	texts := map[string]string{}
	for _, fact := range l.Facts(draft.Cases(c, f)[0], nil) {
		assert.Equal(t, ledger.Agree, fact.Verdict, "%s %s", fact.Part, fact.Property)
		if fact.Property == "text" {
			texts[fact.Part] = fact.Design.Value
		}
	}
	assert.Empty(t, texts["nobody"])
	r := contract.Resolve(c, draft.Cases(c, f)[0].Env(), token.Empty())
	r.Walk(func(r *contract.Resolved) {
		if r.Key() == "label[2]" {
			at, _ := draft.ItemLayer(f.Default().Root, c, r)
			assert.Equal(t, "Seed swap", at.Text.Content, "an item's layer is its own")
			assert.Equal(t, "Seed swap", r.Text)
		}
	})

	rows := drafttest.Family("Beds", nil, func(map[string]string) *design.Layer {
		one := func(id, name, note string) *design.Layer {
			n := textOf(id+"n", "Note", note)
			n.Hidden = note == ""
			return boxOf(id, "Row "+id, row, textOf(id+"w", "Name", name), n)
		}
		return boxOf("beds", "Beds", column, one("1", "Leeks", "dry"), one("2", "Chard", ""), one("3", "Beans", "wet"))
	})
	c, _, _, _ = drafted(t, rows)
	assert.Equal(t, "ul", c.Root.Element, "a container of items alone is the list")
	items := c.Prop("beds").Type.(contract.List).Items
	require.Len(t, items, 3)
	assert.Equal(t, "showNote", items[2].Name, "what some items do without is a flag of the item")
	assert.Equal(t, contract.FlagValue(false), c.Prop("beds").Example.(contract.ListValue)[1]["showNote"])
	assert.Equal(t, "beds.showNote", c.Part("note").ShownWhen.String())

	for name, l := range map[string]*design.Layer{
		"other roles": boxOf("r", "Tool", row, textOf("a", "Name", "Rake"), textOf("b", "Due note", "on Sunday")),
		"other looks": func() *design.Layer {
			l := boxOf("r", "Tool", row, textOf("a", "Text 1", "Rake"), textOf("b", "Text 2", "on Sunday"))
			l.Children[1].Text.FontSize = 12
			return l
		}(),
		"other places": func() *design.Layer {
			l := boxOf("r", "Tool", row, textOf("a", "Text 1", "Rake"), textOf("b", "Text 2", "Fork"))
			l.Children[1].Place = &design.Place{Offset: &design.Offset{X: 12}}
			return l
		}(),
		"nothing to say": boxOf("r", "Menu", column, &design.Layer{ID: "a", Name: "Rectangle 1", Kind: design.Box, Bounds: design.Rect{Width: 20, Height: 2}}, &design.Layer{ID: "b", Name: "Rectangle 2", Kind: design.Box, Bounds: design.Rect{Width: 20, Height: 2}}),
	} {
		c, _, _, _ := drafted(t, drafttest.Family("Lone", nil, func(map[string]string) *design.Layer { return l }))
		for _, p := range c.Props {
			assert.NotEqual(t, contract.ListKind, p.Kind(), name)
		}
	}
}

// Pictures, links, slots and runs of a look of their own become props of their kinds.
func TestWhatLayersHoldBecomesProps(t *testing.T) {
	asset := design.Asset{ID: "bed", Source: "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg'/%3E", Width: 320, Height: 160}
	notice := drafttest.Family("Notice", nil, func(map[string]string) *design.Layer {
		body := textOf("body", "Body", "Water twice at dawn")
		body.Text.Runs = []design.Run{{Text: "Water "}, {Text: "twice", Strong: true}, {Text: " at dawn"}}
		plain := textOf("plain", "Plain", "No look")
		plain.Text.Runs = []design.Run{{Text: "No "}, {Text: "look"}}
		more := textOf("more", "More", "The rota")
		more.Link = "/rota"
		photo := &design.Layer{ID: "photo", Name: "Photo", Kind: design.Image, Alt: "A bed", Bounds: design.Rect{Width: 160, Height: 80}, Image: &design.ImageContent{Asset: "bed", Fit: "contain", Shown: &asset}}
		place := boxOf("place", "Extras", row, textOf("hint", "Hint", "Put anything here"))
		place.Slot = &design.SlotContent{Accepts: []string{"crop tag"}}
		root := boxOf("notice", "Notice", column, photo, body, plain, more, place)
		root.Shadows = []design.Shadow{{Y: 2, Blur: 6, Color: "#00000040"}, {Inset: true, Spread: 1, Color: "#ff0000"}}
		root.Stroke = &design.Stroke{Color: "#cccccc", Width: 1, Sides: []float64{0, 0, 1, 4}}
		root.Limits = design.Limited{MinWidth: 120, MaxWidth: 480}
		return root
	})
	c, f, _, _ := drafted(t, notice)
	assert.Equal(t, contract.Image{Aspect: 2}, c.Prop("photo").Type)
	picture := contract.ImageValue{Source: asset.Source, Alt: "A bed", Width: 320, Height: 160}
	assert.Equal(t, picture, c.Prop("photo").Example)
	assert.Equal(t, "img", c.Part("photo").Element)
	assert.Equal(t, contract.ImageOf{Prop: "photo"}, c.Part("photo").Content)
	assert.Equal(t, "contain", c.Part("photo").Style["object-fit"])
	assert.Equal(t, contract.RichValue{{Runs: []contract.Run{{Text: "Water "}, {Text: "twice", Strong: true}, {Text: " at dawn"}}}}, c.Prop("body").Default())
	assert.Equal(t, contract.Text{Initial: "No look"}, c.Prop("plain").Type, "runs without a look of their own are a plain text")
	assert.Equal(t, "a", c.Part("more").Element)
	assert.Equal(t, contract.LinkValue("/rota"), c.Prop("moreHref").Default())
	assert.Equal(t, contract.SlotOf{Prop: "children"}, c.Part("extras").Content)
	assert.Equal(t, contract.Slot{Accepts: []string{"CropTag"}}, c.Prop("children").Type)
	assert.NotNil(t, c.Prop("hint"), "what is drawn in a slot stands there by default")
	assert.Equal(t, "0px 2px 6px #00000040, inset 0px 0px 0px 1px #ff0000", c.Root.Style["box-shadow"])
	assert.Equal(t, "0px 0px 1px 4px", css.DeclaredText("border-width", c.Root.Style["border-width"]))
	assert.Equal(t, []string{"120px", "480px"}, []string{c.Root.Style["min-width"], c.Root.Style["max-width"]})
	assert.Equal(t, picture, draft.Cases(c, f)[0].Values["photo"])
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, f).Moves())
}

// Drawings at several widths are one component that follows its container: where one ends the
// next begins, halfway or at a token's width, and what is not drawn at a width is not shown there.
func TestDrawnWidthsBecomeConditions(t *testing.T) {
	shell := drafttest.Family("Shell", []design.Axis{drafttest.Axis("Screen", "wide", "medium", "narrow")}, func(c map[string]string) *design.Layer {
		width := map[string]float64{"wide": 1200, "medium": 800, "narrow": 400}[c["Screen"]]
		flow := design.Flow{Direction: "row", Gap: 8, Padding: []float64{map[string]float64{"wide": 24, "medium": 16, "narrow": 16}[c["Screen"]]}}
		if c["Screen"] == "narrow" {
			flow.Direction = "column"
		}
		note := textOf("note", "Note", "On wide ones alone")
		note.Hidden = c["Screen"] != "wide"
		root := boxOf("shell", "Shell", flow, textOf("name", "Name", "Hollowbeck"), note)
		root.Bounds.Width, root.Sizing = width, design.Sizing{Width: "fixed", Height: "content"}
		return root
	})
	c, f, _, _ := drafted(t, shell)
	between := func(from, below float64) contract.Range { return contract.Range{From: from, Below: below} }
	assert.Equal(t, []contract.DrawnWidth{{Axis: "Screen", Value: "wide", Range: between(1000, 0)}, {Axis: "Screen", Value: "narrow", Range: between(0, 600)}, {Axis: "Screen", Value: "medium", Range: between(600, 1000)}}, c.Widths)
	assert.Nil(t, draft.PropOfAxis(c, "Screen"), "a width is no prop")
	assert.Equal(t, "100%", c.Root.Style["width"])
	at := func(width float64, part, property string) string {
		return contract.Resolve(c, contract.Env{}.At(width), token.Empty()).Find(part).Values[property].Value
	}
	for width, want := range map[float64][3]string{1200: {"24px", "", ""}, 1000: {"24px", "", ""}, 999: {"16px", "", "none"}, 600: {"16px", "", "none"}, 599: {"16px", "column", "none"}, 300: {"16px", "column", "none"}} {
		got := [3]string{at(width, "root", "padding-block"), at(width, "root", "flex-direction"), at(width, "note", "display")}
		if got[1] == "row" {
			got[1] = ""
		}
		if got[2] == "block" {
			got[2] = ""
		}
		assert.Equal(t, want, got, "%g px", width)
	}
	assert.Equal(t, contract.When{}, c.Part("note").ShownWhen, "a width hides it by a rule, not by a prop")
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty()}, f)
	assert.Empty(t, l.Moves())
	names := []string{}
	for _, k := range draft.Cases(c, f) {
		names = append(names, k.Name)
		for _, fact := range l.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, fact.Verdict, "%s: %s %s", k.Name, fact.Part, fact.Property)
		}
	}
	assert.Equal(t, []string{"wide", "medium", "narrow"}, names)

	tokens, problems := token.Read(token.File{Name: "t", Text: []byte(`{"breakpoint":{"$type":"dimension","wide":{"$value":{"value":960,"unit":"px"}}},"room":{"$type":"dimension","big":{"$value":{"value":900,"unit":"px"}}}}`)})
	require.Empty(t, problems)
	c, _, problems = draft.Of(&design.Document{ID: "d", Families: []*design.Family{shell}}, contract.Origin{Family: "shell"}, "", tokens, font.Shipped(), nil)
	require.NotNil(t, c, problems)
	assert.Equal(t, between(960, 0), c.Widths[0].Range, "a token for it is better than halfway")

	// What moves at one width is taken there alone, in place of what was drawn before.
	moved := *f
	moved.Variants = nil
	for _, v := range f.Variants {
		one, root := *v, *v.Root
		if pad := map[string]float64{"medium": 24, "narrow": 30}[v.Choices["Screen"]]; pad > 0 {
			flow := *root.Flow
			flow.Padding, root.Flow = []float64{pad}, &flow
		}
		one.Root = &root
		moved.Variants = append(moved.Variants, &one)
	}
	l = ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, &moved)
	paddings := func(narrow bool) (keys []string) {
		for _, m := range l.Moves() {
			if (m.To.Value == "30px") == narrow {
				keys = append(keys, m.Key)
			}
		}
		return keys
	}
	require.Len(t, l.Moves(), 4)
	for name, k := range map[string]struct {
		take []string
		want [3]string // wide, medium, narrow
	}{
		"narrow": {paddings(true), [3]string{"24px", "16px", "30px"}}, "medium": {paddings(false), [3]string{"24px", "24px", "16px"}},
		"both": {append(paddings(true), paddings(false)...), [3]string{"24px", "24px", "30px"}},
	} {
		after, problems := l.Take(&design.Document{ID: "d"}, k.take)
		require.NotNil(t, after, problems)
		for i, width := range []float64{1200, 800, 400} {
			assert.Equal(t, k.want[i], contract.Resolve(after, contract.Env{}.At(width), tokens).Values["padding-block"].Value, "%s taken, at %g px", name, width)
		}
	}

	c.MoveSwitch(960, 900)
	assert.Equal(t, between(900, 0), c.Widths[0].Range, "and it can be set")
	assert.Empty(t, c.Check(tokens))
	c.MoveSwitch(600, 0)
	assert.Equal(t, []contract.Range{between(900, 0), between(0, 900)}, []contract.Range{c.Widths[0].Range, c.Widths[1].Range}, "without a point every width is still covered once")
	assert.Empty(t, c.Check(tokens))

	sizes := drafttest.Family("Sizes", []design.Axis{drafttest.Axis("Size", "s", "m")}, func(c map[string]string) *design.Layer {
		root := boxOf("r", "Root", row, textOf("w", "Word", "x"))
		root.Bounds.Width = map[string]float64{"s": 40, "m": 80}[c["Size"]]
		return root
	})
	c, _, _, _ = drafted(t, sizes)
	assert.Empty(t, c.Widths, "sizes are a prop, whatever their widths")
	overlapping := drafttest.Family("Lapping", []design.Axis{drafttest.Axis("Width", "full", "half"), drafttest.Axis("Long", "no", "yes")}, func(c map[string]string) *design.Layer {
		root := boxOf("r", "Root", row, textOf("w", "Word", "x"))
		root.Bounds.Width = map[string]float64{"fullno": 400, "fullyes": 800, "halfno": 200, "halfyes": 600}[c["Width"]+c["Long"]]
		return root
	})
	c, _, _, _ = drafted(t, overlapping)
	assert.Empty(t, c.Widths, "widths that overlap are a prop, too")
	assert.NotNil(t, draft.PropOfAxis(c, "Width"))
}

// A use that shows another picture is given that; one of a family whose picture nobody can change
// is said to be drawn as it cannot be.
func TestUsesShowPicturesOfTheirOwn(t *testing.T) {
	bed, can := design.Asset{ID: "bed", Source: "data:image/png;base64,AA", Width: 40, Height: 20}, design.Asset{ID: "can", Source: "data:image/png;base64,BB", Width: 30, Height: 30}
	photo := &design.Layer{ID: "photo", Name: "Photo", Kind: design.Image, Alt: "A bed", Bounds: design.Rect{Width: 40, Height: 20}, Image: &design.ImageContent{Asset: "bed", Fit: "contain", Shown: &bed}}
	card := drafttest.Family("Card", nil, func(map[string]string) *design.Layer {
		return boxOf("card", "Card", row, photo, textOf("label", "Label", "Sown"))
	})
	alt := "A can"
	use := func(layer string) *design.Family {
		return drafttest.Family("Shelf", nil, func(map[string]string) *design.Layer {
			l := &design.Layer{ID: "use", Name: "Use", Kind: design.Instance, Bounds: card.Variants[0].Root.Bounds,
				Instance: &design.InstanceContent{Family: "card", Overrides: []design.Override{{Layer: layer, Asset: "can", Alt: &alt}}}}
			return boxOf("shelf", "Shelf", column, l)
		})
	}
	doc := &design.Document{ID: "d", Assets: []design.Asset{bed, can}, Families: []*design.Family{card, use("Photo")}}
	known := map[string]*contract.Contract{}
	components := func(family string) *contract.Contract { return known[family] }
	for _, f := range doc.Families {
		c, source, found := draft.Of(doc, contract.Origin{Family: f.ID}, "", token.Empty(), font.Shipped(), components)
		require.NotNil(t, c, found)
		assert.Empty(t, found)
		known[f.ID] = c
		assertAgreed(t, c, source, components)
	}
	given := known["shelf"].UsedParts()[0].Use()
	assert.JSONEq(t, `{"src": "data:image/png;base64,BB", "alt": "A can", "width": 30, "height": 30}`, string(given.Given["photo"].Value))
	assert.Equal(t, "A bed", photo.Alt, "the family's own drawing is changed")
	doc.Families[1] = use("Label")
	_, _, found := draft.Of(doc, contract.Origin{Family: "shelf"}, "", token.Empty(), font.Shipped(), components)
	assert.Contains(t, fmt.Sprint(found), "changes its layer Label, for which Card has no prop")
}
