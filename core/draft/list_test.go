package draft_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// listsIn counts the props that are lists.
func listsIn(c *contract.Contract) (n int) {
	for _, p := range c.Props {
		if p.Kind() == contract.ListKind {
			n++
		}
	}
	return n
}

func assertAgreed(t *testing.T, c *contract.Contract, f *design.Family, components draft.Components) {
	t.Helper()
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, f)
	assert.Empty(t, l.Moves())
	for _, k := range draft.Cases(c, f) {
		for _, fact := range l.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, fact.Verdict, "%s: %s %s", k.Name, fact.Part, fact.Property)
		}
	}
}

// An item that a variant hides is none of its items, and says nothing of the others; a part that
// a width takes out of all items goes by a rule, one that only some variants or items go without
// is a flag of the item.
func TestWhatVariantsHideOfLists(t *testing.T) {
	beds := func(axes []design.Axis, hide func(choices map[string]string, item int, note bool) bool) *design.Family {
		return drafttest.Family("Beds", axes, func(c map[string]string) *design.Layer {
			root := boxOf("beds", "Beds", column)
			for i, name := range []string{"Leeks", "Chard", "Beans"} {
				note := textOf(name+"n", "Note", "dry")
				note.Hidden = hide(c, i, true)
				row := boxOf(name, "Row 1", row, textOf(name+"w", "Name", name), note)
				row.Hidden = hide(c, i, false)
				root.Children = append(root.Children, row)
			}
			root.Bounds = design.Rect{Width: 400, Height: 60}
			if width := map[string]float64{"wide": 1000, "narrow": 400}[c["Screen"]]; width > 0 {
				root.Bounds.Width, root.Sizing.Width = width, "fill"
			}
			return root
		})
	}
	screen, tone := []design.Axis{drafttest.Axis("Screen", "wide", "narrow")}, []design.Axis{drafttest.Axis("Tone", "calm", "loud")}

	c, f, _, _ := drafted(t, beds(screen, func(c map[string]string, item int, note bool) bool {
		return !note && c["Screen"] == "narrow" && item == 0
	}))
	items := draft.Cases(c, f)[1].Values["beds"].(contract.ListValue)
	require.Len(t, items, 2)
	assert.Equal(t, contract.TextValue("Chard"), items[0]["name"])
	assert.Empty(t, c.Rules, "data says which items there are")
	assertAgreed(t, c, f, nil)
	contract.Resolve(c, draft.Cases(c, f)[1].Env(), token.Empty()).Walk(func(r *contract.Resolved) {
		if r.Key() == "name" {
			l, _ := draft.ItemLayer(f.Variants[1].Root, c, r)
			assert.Equal(t, "Chard", l.Text.Content, "the first that is shown is the first item")
		}
	})

	c, f, _, _ = drafted(t, beds(screen, func(c map[string]string, _ int, note bool) bool { return note && c["Screen"] == "narrow" }))
	require.Len(t, c.Rules, 1)
	assert.Equal(t, "none", c.Rules[0].Set["display"])
	assert.Len(t, c.Prop("beds").Type.(contract.List).Items, 2, "no flag beside the rule")
	assertAgreed(t, c, f, nil)

	c, f, _, _ = drafted(t, beds(tone, func(c map[string]string, item int, note bool) bool { return note && c["Tone"] == "loud" && item == 2 }))
	assert.Equal(t, "beds.showNote", c.Part("note").ShownWhen.String(), "though the default hides none")
	assertAgreed(t, c, f, nil)
	assert.Equal(t, contract.FlagValue(false), draft.Cases(c, f)[1].Values["beds"].(contract.ListValue)[2]["showNote"])

	c, f, _, _ = drafted(t, beds(tone, func(c map[string]string, _ int, note bool) bool { return !note && c["Tone"] == "loud" }))
	assert.Empty(t, draft.Cases(c, f)[1].Values["beds"])
	assert.Empty(t, c.Rules)
	assertAgreed(t, c, f, nil)
}

// A list's items hold no lists: what repeats in them are parts.
func TestItemsHoldNoLists(t *testing.T) {
	row := func(id, a, b string) *design.Layer {
		return boxOf(id, "Row "+id, row, textOf(id+"a", "Text 1", a), textOf(id+"b", "Text 2", b))
	}
	c, f, _, _ := drafted(t, drafttest.Family("Table", nil, func(map[string]string) *design.Layer {
		return boxOf("t", "Table", column, row("1", "Leeks", "dry"), row("2", "Chard", "wet"))
	}))
	assert.Equal(t, 1, listsIn(c))
	assertAgreed(t, c, f, nil)
	c, f, _, _ = drafted(t, drafttest.Family("Table", nil, func(map[string]string) *design.Layer {
		root := boxOf("t", "Table", column, row("1", "Leeks", "dry"), row("2", "Chard", "wet"))
		root.Repeats, root.Children[0].Repeats, root.Children[1].Repeats = true, true, true
		return root
	}))
	assert.Equal(t, 1, listsIn(c), "though the design marks them so")
	assertAgreed(t, c, f, nil)

	c, _, _, _ = drafted(t, drafttest.Family("Pick", nil, func(map[string]string) *design.Layer {
		return boxOf("p", "Pick", design.Flow{Direction: "row", Gap: 8}, textOf("a", "Option 1", "Leeks"), textOf("b", "Option 2", "Chard"))
	}))
	assert.Equal(t, "option", c.Prop("pick").Type.(contract.List).Items[0].Name, "every item's, by no number")
}

// Uses in a row are a list where they say something of their own; a list whose items have nothing
// else to say tells whether each is there.
func TestListsOfUses(t *testing.T) {
	rows := func(change func(uses []*design.Layer)) *design.Family {
		return drafttest.Family("Tags", nil, func(map[string]string) *design.Layer {
			uses := []*design.Layer{use("a", map[string]string{"Tone": "calm"}), use("b", map[string]string{"Tone": "calm"})}
			change(uses)
			root := boxOf("tags", "Tags", row, uses...)
			return root
		})
	}
	c, f, components, _ := drafted(t, rows(func([]*design.Layer) {}), tagFamily)
	assert.Zero(t, listsIn(c), "the same twice")
	assertAgreed(t, c, f, components)

	c, f, components, _ = drafted(t, rows(func(uses []*design.Layer) {
		uses[0].Name, uses[1].Name, uses[1].Instance.Choices = "Group 4", "Frame 9", map[string]string{"Tone": "loud"}
	}), tagFamily)
	assert.Equal(t, 1, listsIn(c))
	assertAgreed(t, c, f, components) // whatever a drawing program named them

	c, f, components, found := drafted(t, rows(func(uses []*design.Layer) {
		uses[1].Instance.Overrides = []design.Override{override("Nobody", "x")}
	}), tagFamily)
	require.Equal(t, 1, listsIn(c))
	assert.Contains(t, found, "changes its layer Nobody")
	assert.Equal(t, contract.ListValue{{"shown": contract.FlagValue(true)}, {"shown": contract.FlagValue(true)}}, c.Prop("tags").Example)
	_, problems := contract.Read("c", c.JSON(), token.Empty())
	assert.Empty(t, problems)
	assertAgreed(t, c, f, components)

	mixed := drafttest.Family("Mixed", nil, func(map[string]string) *design.Layer {
		one := func(id, name string, hidden bool) *design.Layer {
			tag := use(id+"t", map[string]string{"Tone": "calm"})
			tag.Hidden = hidden
			return boxOf(id, "Row "+id, row, textOf(id+"w", "Name", name), tag)
		}
		return boxOf("beds", "Beds", column, one("1", "Leeks", false), one("2", "Chard", true))
	})
	c, f, components, _ = drafted(t, mixed, tagFamily)
	assert.Equal(t, contract.FlagValue(false), c.Prop("beds").Example.(contract.ListValue)[1]["showTag"])
	assertAgreed(t, c, f, components)
}

// A use gives lists to the component it uses, and finds its parts though the family was drawn
// without flow.
func TestUsesOfListsAndOfWhatWasDrawnWithoutFlow(t *testing.T) {
	beds := drafttest.Family("Beds", nil, func(map[string]string) *design.Layer {
		one := func(id, name string) *design.Layer {
			return boxOf(id, "Row "+id, row, textOf(id+"w", name, name), textOf(id+"n", "Note", "dry"))
		}
		return boxOf("beds", "Beds", column, one("1", "Leeks"), one("2", "Chard"))
	})
	of := func(family *design.Family, overrides ...design.Override) *design.Family {
		return drafttest.Family("Card", nil, func(map[string]string) *design.Layer {
			l := &design.Layer{ID: "u", Name: "Used", Kind: design.Instance, Bounds: family.Default().Root.Bounds, Instance: &design.InstanceContent{Family: family.ID, Choices: map[string]string{}, Overrides: overrides}}
			return boxOf("card", "Card", column, textOf("title", "Title", "Plot 4"), l)
		})
	}
	c, f, components, found := drafted(t, of(beds, override("Note", "wet"), override("Chard", "Kale")), beds)
	assert.NotContains(t, found, "no prop", "Chard is the second item's Leeks")
	var given contract.ListValue
	contract.Resolve(c, draft.Cases(c, f)[0].Env(), token.Empty()).Walk(func(r *contract.Resolved) {
		if r.Key() == "used" {
			given, _ = r.Given["beds"].(contract.ListValue)
		}
	})
	require.Len(t, given, 2)
	assert.Equal(t, contract.Values{"leeks": contract.TextValue("Kale"), "note": contract.TextValue("wet")}, given[1])
	assertAgreed(t, c, f, components)

	loose := drafttest.Family("Loose", nil, func(map[string]string) *design.Layer {
		at := func(l *design.Layer, x, y float64) *design.Layer { l.Bounds.X, l.Bounds.Y = x, y; return l }
		root := &design.Layer{ID: "loose", Name: "Loose", Kind: design.Box, Fill: "#ffffff", Bounds: design.Rect{Width: 200, Height: 80}}
		root.Children = []*design.Layer{at(textOf("a", "Heading", "Beds"), 10, 10), at(textOf("b", "Due", "Sunday"), 130, 10), at(textOf("c", "Body", "Water them"), 10, 50)}
		return root
	})
	c, f, components, found = drafted(t, of(loose, override("Body", "Dig them")), loose)
	assert.NotContains(t, found, "no prop")
	contract.Resolve(c, draft.Cases(c, f)[0].Env(), token.Empty()).Walk(func(r *contract.Resolved) {
		if r.Key() == "used" {
			assert.Equal(t, contract.TextValue("Dig them"), r.Given["body"])
		}
	})
	assertAgreed(t, c, f, components)
}

// What a use cannot tell its component is said.
func TestWhatUsesCannotTell(t *testing.T) {
	yes := true
	lamp := drafttest.Family("Lamp", []design.Axis{drafttest.Axis("State", "default", "hover")}, func(map[string]string) *design.Layer {
		return boxOf("lamp", "Lamp", row, textOf("word", "Word", "On"))
	})
	for name, k := range map[string]struct {
		choices map[string]string
		over    []design.Override
		want    string
	}{
		"nothing":                    {want: ""},
		"its text":                   {over: []design.Override{override("Word", "Off")}},
		"to hide what always shows":  {over: []design.Override{{Layer: "Word", Hidden: &yes}}, want: "changes its layer Word"},
		"a state it is in by itself": {choices: map[string]string{"State": "hover"}, want: "shows Lamp hover"},
	} {
		_, _, _, found := drafted(t, drafttest.Family("Card", nil, func(map[string]string) *design.Layer {
			l := &design.Layer{ID: "u", Name: "Used", Kind: design.Instance, Bounds: lamp.Default().Root.Bounds, Instance: &design.InstanceContent{Family: "lamp", Choices: k.choices, Overrides: k.over}}
			return boxOf("card", "Card", column, textOf("title", "Title", "Plot 4"), l)
		}), lamp)
		if k.want == "" {
			assert.Empty(t, found, name)
		} else {
			assert.Contains(t, found, k.want, name)
		}
	}
}

// A use that is drawn higher than a component that switches by its width and has a height of its
// own cannot have that height; one of a component that switches by nothing can.
func TestAUseOfAnotherHeight(t *testing.T) {
	card := func(axes ...design.Axis) *design.Family {
		return drafttest.Family("Card", axes, func(c map[string]string) *design.Layer {
			l := boxOf("card", "Card", row, textOf("label", "Label", "Sown"))
			l.Sizing = design.Sizing{Width: "fill", Height: "fixed"}
			l.Bounds.Width, l.Bounds.Height = map[string]float64{"": 900, "wide": 900, "narrow": 300}[c["Screen"]], 40
			if c["Screen"] == "narrow" {
				l.Fill = "#eeeeee"
			}
			return l
		})
	}
	drawn := func(height float64, axes ...design.Axis) string {
		used := card(axes...)
		choices := map[string]string{}
		for _, a := range axes {
			choices[a.Name] = a.Default
		}
		l := &design.Layer{ID: "use", Name: "Use", Kind: design.Instance, Bounds: design.Rect{Width: 900, Height: height}, Instance: &design.InstanceContent{Family: "card", Choices: choices}}
		_, _, _, found := drafted(t, drafttest.Family("Shelf", nil, func(map[string]string) *design.Layer { return boxOf("shelf", "Shelf", column, l) }), used)
		return found
	}
	screen := drafttest.Axis("Screen", "wide", "narrow")
	assert.Contains(t, drawn(60, screen), "which has a height of its own")
	assert.NotContains(t, drawn(40, screen), "which has a height of its own")
	assert.NotContains(t, drawn(60), "which has a height of its own")
}

// A use says what its component's list holds, whatever it or its variant hides of it: it is read as
// the family is, not by itself.
func TestUsesOfListsAreReadAsTheirFamilies(t *testing.T) {
	shelf := drafttest.Family("Shelf", []design.Axis{drafttest.Axis("Full", "yes", "no")}, func(c map[string]string) *design.Layer {
		var rows []*design.Layer
		for n, word := range []string{"Leeks", "Chard", "Beans", "Squash"} {
			r := boxOf(fmt.Sprint("row", n), fmt.Sprint("Row ", n+1), row, textOf(fmt.Sprint("label", n), "Label", word), textOf(fmt.Sprint("note", n), "Note", "sown"))
			r.Hidden = n == 3 && c["Full"] == "no"
			rows = append(rows, r)
		}
		laid, _ := draft.Reflow(boxOf("shelf", "Shelf", column, rows...), 400, font.Shipped())
		return laid
	})
	yes := true
	use := &design.Layer{ID: "use", Name: "Use", Kind: design.Instance, Instance: &design.InstanceContent{Family: "shelf", Choices: map[string]string{"Full": "no"}, Overrides: []design.Override{{Layer: "Row 1", Hidden: &yes}, {Layer: "Row 2", Hidden: &yes}}}}
	use.Bounds = shelf.Variants[1].Root.Bounds
	c, _, _, _ := drafted(t, drafttest.Family("Shed", nil, func(map[string]string) *design.Layer { return boxOf("shed", "Shed", column, use) }), shelf)
	given := c.UsedParts()[0].Use()
	list := given.Of().Props[slices.IndexFunc(given.Of().Props, func(p contract.Prop) bool { return p.Kind() == contract.ListKind })]
	assert.Len(t, given.Decoded(list.ID, given.Given[list.ID].Value), 1)
	assert.Contains(t, string(given.Given[list.ID].Value), "Beans")
}
