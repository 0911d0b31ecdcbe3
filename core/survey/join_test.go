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

// odd is a card that nothing would take for one of the others: a text and two pictures beside each other.
func odd(x, y float64) *design.Layer {
	return box("odd", "Banner", x, y, 400, 60, text("odd-title", "Title", "Compost", 12, 12, 18), path("odd-a", "Mark", 200, 10, 40, "M0 0h9v9z"), path("odd-b", "Seal", 300, 10, 40, "M0 0h4v4z"))
}

func memberIDs(f survey.Find) (out []string) {
	for _, m := range f.Members {
		out = append(out, m.ID)
	}
	return out
}

// What people say is a copy is one, however unlike: its props say how it differs. What cannot be one changes nothing.
func TestACopyIsAddedByHand(t *testing.T) {
	doc := one(card(0, 20, 20), card(1, 320, 20), card(2, 620, 20), odd(20, 300))
	before := survey.Read(doc, survey.Options{}).Finds
	require.Len(t, before, 1)
	assert.Equal(t, []string{"card-0", "card-1", "card-2"}, memberIDs(before[0]))
	r := survey.Read(doc, survey.Options{Joined: []survey.Joined{{Layer: "odd", To: "card-1"}}})
	require.Len(t, r.Finds, 1)
	f := r.Finds[0]
	assert.Equal(t, []string{"card-0", "card-1", "card-2", "odd"}, memberIDs(f))
	assert.True(t, f.Members[3].Joined)
	assert.False(t, f.Members[0].Joined)
	assert.Less(t, f.Likeness, 0.9)
	assert.Equal(t, "Compost", propNamed(t, f, "title").Values["odd"])
	model, _ := f.Model(nil)
	c := draftedPlain(t, doc, f, model)
	f.Extend(doc, c, model.ID, survey.Wish{})
	assert.Empty(t, c.Check(token.Empty()))

	for what, joined := range map[string]survey.Joined{
		"a leaf": {Layer: "odd-title", To: "card-1"}, "a layer that is not there": {Layer: "gone", To: "card-1"},
		"to one that is not there": {Layer: "odd", To: "gone"}, "one that it is already": {Layer: "card-0", To: "card-1"},
	} {
		got := survey.Read(doc, survey.Options{Joined: []survey.Joined{joined}}).Finds
		require.Len(t, got, 1, what)
		assert.Equal(t, memberIDs(before[0]), memberIDs(got[0]), what)
	}
	nested := one(card(0, 20, 20), card(1, 320, 20), box("around", "Around", 20, 300, 500, 200, card(2, 20, 20), text("more", "More", "All plots", 300, 20, 13)))
	assert.NotPanics(t, func() {
		got := survey.Read(nested, survey.Options{Joined: []survey.Joined{{Layer: "around", To: "card-2"}}}).Finds
		assert.Equal(t, []string{"card-0", "card-1", "card-2"}, memberIDs(got[0]), "nothing is a copy of what it holds")
	})
}

// A copy that was added is kept where the others turn out to be a family's.
func TestACopyIsAddedToThoseOfAFamily(t *testing.T) {
	f := family("card", "Card", card(9, 0, 0))
	doc := document([]*design.Page{page("p", "Plots", 1200, card(0, 20, 20), card(1, 320, 20), odd(20, 300))}, f)
	got := survey.Read(doc, survey.Options{Joined: []survey.Joined{{Layer: "odd", To: "card-0"}}}).Finds
	require.NotEmpty(t, got)
	assert.Equal(t, survey.Copies, got[0].Kind)
	assert.Contains(t, memberIDs(got[0]), "odd")
}

// Two props that people say are one: choices have the options that stand together, texts show one prop in both places.
func TestPropsAreMerged(t *testing.T) {
	strong := func(l *design.Layer) { l.Children[0].Text.FontWeight = 700 }
	red := func(l *design.Layer) { l.Fill = "#ffdddd" }
	both := func(l *design.Layer) { strong(l); red(l) }
	doc := one(card(0, 20, 20), with(card(1, 320, 20), strong), with(card(2, 620, 20), red), with(card(3, 920, 20), both), card(4, 20, 320))
	f := survey.Read(doc, survey.Options{}).Finds[0]
	emphasis, tone := propNamed(t, f, "emphasis"), propNamed(t, f, "tone")
	assert.True(t, emphasis.CanMerge(tone))
	assert.False(t, emphasis.CanMerge(propNamed(t, f, "title")))
	w := survey.Wish{Merged: map[string]string{"emphasis": "tone"}}
	var merged survey.Prop
	for _, p := range f.Asked(w) {
		assert.NotEqual(t, "emphasis", p.Name)
		if p.Name == "tone" {
			merged = p
		}
	}
	assert.Len(t, merged.Options, 4, "%v", merged.Options)
	assert.Equal(t, merged.Values["card-0"], merged.Values["card-4"])
	c, model := draftedFrom(t, doc, f, w)
	assert.Nil(t, c.Prop("emphasis"))
	require.NotNil(t, c.Prop("tone"))
	for _, m := range f.Members {
		option, _ := merged.Values[m.ID].(string)
		got := resolved(c, contract.Values{"tone": contract.OptionValue(option)})
		drawn, _ := doc.Layer(m.ID)
		assert.Equal(t, drawn.Fill, got["root"]["background-color"], "%s drafted from %s", m.ID, model.ID)
	}
	for what, w := range map[string]survey.Wish{
		"two into each other":    {Merged: map[string]string{"emphasis": "tone", "tone": "emphasis"}},
		"one into itself":        {Merged: map[string]string{"emphasis": "emphasis"}},
		"a choice into a text":   {Merged: map[string]string{"emphasis": "title"}},
		"into what is not there": {Merged: map[string]string{"emphasis": "gone"}},
		"into what was dropped":  {Merged: map[string]string{"emphasis": "tone"}, Dropped: []string{"tone"}},
	} {
		got := f.Asked(w)
		assert.Len(t, got, len(f.Props)-len(w.Dropped), "%s: a prop is lost", what)
		for _, p := range got {
			assert.Empty(t, p.Also, what)
		}
	}
}

// Where every copy says the same in two places, they are one text.
func TestTextsThatSayTheSameAreMerged(t *testing.T) {
	again := func(i int, says string) *design.Layer { return text("again"+says, "Again", says, 12, 80, 13) }
	doc := one(card(0, 20, 20, again(0, "Plot 41")), card(1, 320, 20, again(1, "Plot 12")))
	for i, says := range []string{"Plot 41", "Plot 12"} {
		doc.Pages[0].Layers[i].Children[0].Text.Content = says
	}
	f := survey.Read(doc, survey.Options{}).Finds[0]
	title, other := propNamed(t, f, "title"), propNamed(t, f, "again")
	require.True(t, title.CanMerge(other))
	c, _ := draftedFrom(t, doc, f, survey.Wish{Merged: map[string]string{"again": "title"}})
	assert.Nil(t, c.Prop("again"))
	shows := 0
	c.Walk(func(p, _ *contract.Part) {
		if text, ok := p.Content.(contract.TextOf); ok && text.Prop == c.Prop("title").ID {
			shows++
		}
	})
	assert.Equal(t, 2, shows)
	doc.Pages[0].Layers[0].Children[0].Text.Content = "Plot 8"
	g := survey.Read(doc, survey.Options{}).Finds[0]
	assert.False(t, propNamed(t, g, "title").CanMerge(propNamed(t, g, "again")), "they do not say the same in every copy")
}

// Icons that differ are a prop, its options called by what the copies say; a link is one beside the text that leads there.
func TestIconsAndLinksThatDifferAreDrafted(t *testing.T) {
	icon := func(id, d string) *design.Layer { return path(id, "Icon", 12, 12, 24, d) }
	doc := one()
	for i, c := range []struct{ says, d string }{{"Water", "M0 0h9v9z"}, {"Digging", "M1 1h4v4z"}, {"Soup", "M0 0h9v9z"}} {
		id := string(rune('a' + i))
		word := text(id+"-task", "Task", c.says, 60, 12, 16)
		word.Link = "/" + c.says
		helper := box(id, "Helper", 20+float64(i)*220, 20, 200, 60, icon(id+"-icon", c.d), word)
		if c.says == "Digging" { // it shows all, and is what is drafted
			helper.Children = append(helper.Children, text(id+"-more", "More", "Bring boots", 60, 36, 11))
		}
		doc.Pages[0].Layers = append(doc.Pages[0].Layers, helper)
	}
	f := survey.Read(doc, survey.Options{}).Finds[0]
	c, _ := draftedFrom(t, doc, f, survey.Wish{Renamed: map[string]string{"task": "does"}})
	p := c.Prop(propID(t, c, "icon"))
	got, ok := p.Type.(contract.Icon)
	require.True(t, ok, "%T", p.Type)
	assert.Equal(t, "digging", got.Initial)
	require.Len(t, got.Options, 2)
	assert.Equal(t, "water", got.Options[1].Name)
	assert.Equal(t, "M0 0h9v9z", got.Options[1].Vector.Paths[0].D)
	does := c.Prop(propID(t, c, "does"))
	assert.Equal(t, contract.TextKind, does.Kind(), "the text's name went to where it leads")
	assert.Equal(t, contract.LinkKind, c.Prop(propID(t, c, propOfKind(t, f, "link").Name)).Kind())
}

func propID(t *testing.T, c *contract.Contract, name string) string {
	t.Helper()
	for _, p := range c.Props {
		if p.Name == name {
			return p.ID
		}
	}
	t.Fatalf("there is no prop %s", name)
	return ""
}

func propOfKind(t *testing.T, f survey.Find, kind string) survey.Prop {
	t.Helper()
	for _, p := range f.Props {
		if p.Kind == kind {
			return p
		}
	}
	t.Fatalf("there is no prop that is a %s", kind)
	return survey.Prop{}
}

// A place where copies show unlike things is a slot: what the one that was drafted shows stands there when nothing is given, where it stood.
func TestASlotIsDrafted(t *testing.T) {
	doc := one(card(0, 20, 20, path("icon-0", "Sign", 12, 70, 60, "M0 0h9v9z")), card(1, 320, 20, box("box-1", "Meter", 12, 70, 60, 60, text("box-1-t", "Value", "7", 8, 8, 20))))
	f := survey.Read(doc, survey.Options{}).Finds[0]
	slot := propOfKind(t, f, "slot")
	assert.Equal(t, "content", slot.Name, "its copies call it a sign and a meter")
	c, model := draftedFrom(t, doc, f, survey.Wish{Renamed: map[string]string{slot.Name: "foot"}})
	p := c.Prop(propID(t, c, "foot"))
	require.Equal(t, contract.SlotKind, p.Kind())
	var holder *contract.Part
	c.Walk(func(part, _ *contract.Part) {
		if of, ok := part.Content.(contract.SlotOf); ok && of.Prop == p.ID {
			holder = part
		}
	})
	require.NotNil(t, holder)
	require.Len(t, holder.Children, 1)
	assert.Contains(t, holder.Children[0].Drawn, slot.Layers[model.ID])

	// Where all copies that stay show one thing there, nothing is a slot.
	doc.Pages[0].Layers = append(doc.Pages[0].Layers, card(2, 620, 20, path("icon-2", "Sign", 12, 70, 60, "M0 0h9v9z")))
	g := survey.Read(doc, survey.Options{}).Finds[0]
	d, _ := draftedFrom(t, doc, g, survey.Wish{Left: []string{"card-1"}})
	for _, q := range d.Props {
		assert.NotEqual(t, contract.SlotKind, q.Kind(), q.Name)
	}
}

// What a component cannot have of the copies is told: drawings of many layers are no icon.
func TestWhatStaysAsDrawnIsTold(t *testing.T) {
	sign := func(id string, d ...string) *design.Layer {
		g := group(id, "Sign", 12, 70, 40, 40)
		for i, one := range d {
			g.Children = append(g.Children, path(id+string(rune('a'+i)), "Path", float64(10*i), 0, 20, one))
		}
		return g
	}
	doc := one(card(0, 20, 20, sign("s0", "M0 0h9v9z", "M1 1h4z")), card(1, 320, 20, sign("s1", "M0 0h9v9z", "M2 2h5z")))
	f := survey.Read(doc, survey.Options{}).Finds[0]
	model, _ := f.Model(nil)
	c := draftedPlain(t, doc, f, model)
	notes := f.Extend(doc, c, model.ID, survey.Wish{})
	require.NotEmpty(t, notes, f.Props)
	assert.Contains(t, notes[0], "sign has no part of its own")
}

// What uses in the copies say is passed on: when this fails, every use of the component shows the same tag.
func TestWhatUsesSayIsPassedOn(t *testing.T) {
	tag := family("tag", "Tag", box("tag-root", "Tag", 0, 0, 60, 20, text("tag-label", "Label", "Sown", 4, 2, 13)), box("tag-red", "Tag", 0, 0, 60, 20, text("red-label", "Label", "Sown", 4, 2, 13)))
	tag.Variants[0].Root.Fill, tag.Variants[1].Root.Fill = "#ffffff", "#ffdddd"
	axis := tag.Axes[0]
	says := func(word string) design.Override { return design.Override{Layer: "Label", Text: &word} }
	uses := func(i int, id string, choice, word string) *design.Layer {
		u := useOf(id, "tag", 12, 80, 60, 20, says(word))
		u.Instance.Choices = map[string]string{axis.Name: choice}
		return card(i, 20+300*float64(i), 20, u)
	}
	doc := document([]*design.Page{page("p", "Plots", 1200, uses(0, "u0", axis.Values[1], "Ripe"), uses(1, "u1", axis.Values[0], "Sown"), uses(2, "u2", axis.Values[0], "Leeks"))}, tag)
	f := survey.Read(doc, survey.Options{}).Finds[0]
	model, _ := f.Model(nil)
	made, _, found := draft.Of(doc, contract.Origin{Document: doc.ID, Family: "tag"}, "", token.Empty(), font.Shipped(), nil)
	require.NotNil(t, made, found)
	c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, token.Empty(), font.Shipped(), func(string) *contract.Contract { return made })
	require.NotNil(t, c, found)
	assert.Empty(t, f.Extend(doc, c, model.ID, survey.Wish{Renamed: map[string]string{"label": "crop"}}))
	require.Empty(t, c.Check(token.Empty()))
	crop, choice := c.Prop(propID(t, c, "crop")), c.Prop(propID(t, c, propOfKind(t, f, "choice").Name))
	assert.Equal(t, contract.TextValue("Ripe"), crop.Default())
	assert.Equal(t, contract.OptionValue(contract.OptionOf(axis.Values[1])), choice.Default())
	assert.False(t, propNamed(t, f, "label").CanMerge(propNamed(t, f, "label")), "what a use says is its component's own")
	given := c.Part(crop.From.Part).Use().Given
	assert.Len(t, given, 2)
	for _, g := range given {
		assert.NotEmpty(t, g.Prop)
	}

	alone := draftedPlain(t, doc, f, model)
	notes := f.Extend(doc, alone, model.ID, survey.Wish{})
	require.Len(t, notes, 2)
	assert.Contains(t, notes[0], "stays as drawn: what stands there is no component yet")
}

// A use that hides a part of its component, and another that says something else there, differ in two props.
func TestWhatUsesHideIsPassedOn(t *testing.T) {
	yes, ripe := true, "Ripe"
	tag := family("tag", "Tag", box("tag-root", "Tag", 0, 0, 60, 20, text("tag-label", "Label", "Sown", 4, 2, 13), text("tag-more", "More", "Soon", 34, 2, 13)),
		box("tag-short", "Tag", 0, 0, 60, 20, text("short-label", "Label", "Sown", 4, 2, 13), with(text("short-more", "More", "Soon", 34, 2, 13), hidden)))
	doc := document([]*design.Page{page("p", "Plots", 1200,
		card(0, 20, 20, useOf("u0", "tag", 12, 80, 60, 20, design.Override{Layer: "Label", Text: &ripe})),
		card(1, 320, 20, useOf("u1", "tag", 12, 80, 60, 20)), card(2, 620, 20, useOf("u2", "tag", 12, 80, 60, 20, design.Override{Layer: "Label", Hidden: &yes})))}, tag)
	f := survey.Read(doc, survey.Options{}).Finds[0]
	model, _ := f.Model(nil)
	made, _, found := draft.Of(doc, contract.Origin{Document: doc.ID, Family: "tag"}, "", token.Empty(), font.Shipped(), nil)
	require.NotNil(t, made, found)
	c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, token.Empty(), font.Shipped(), func(string) *contract.Contract { return made })
	require.NotNil(t, c, found)
	notes := f.Extend(doc, c, model.ID, survey.Wish{})
	assert.Equal(t, contract.TextKind, c.Prop(propID(t, c, "label")).Kind())
	require.Len(t, notes, 1, "its label cannot be hidden: no variant does so")
	assert.Equal(t, "showLabel stays as drawn: Tag has no prop for Label.", notes[0])
}

// A find without names is called by what it shows.
func TestFindsAreNamedByWhatTheyShow(t *testing.T) {
	bare := func(i int, holds ...*design.Layer) *design.Layer {
		return box("b"+string(rune('0'+i)), "Rectangle 1", 20+float64(i)*260, 20, 220, 140, holds...)
	}
	named := func(name string) *design.Document {
		doc := one()
		for i := range 3 {
			id := string(rune('0' + i))
			doc.Pages[0].Layers = append(doc.Pages[0].Layers, bare(i, text("t"+id, name, "Plot "+id, 12, 12, 18), text("n"+id, "Text 4", "Ines", 12, 44, 13)))
		}
		return doc
	}
	assert.Equal(t, "TaskCard", survey.Read(named("Task"), survey.Options{}).Finds[0].Name)
	assert.Equal(t, "Card", survey.Read(named("Text 12"), survey.Options{}).Finds[0].Name)
	uses := one()
	for i := range 3 {
		id := string(rune('0' + i))
		uses.Pages[0].Layers = append(uses.Pages[0].Layers, bare(i, useOf("u"+id, "tag", 12, 12, 60, 20), useOf("v"+id, "tag", 12, 60, 60, 20)))
	}
	uses.Families = append(uses.Families, family("tag", "Crop tag", box("tag-root", "Tag", 0, 0, 60, 20, text("tag-label", "Label", "Sown", 4, 2, 13))))
	assert.Equal(t, "CropTagItem", survey.Read(uses, survey.Options{}).Finds[0].Name)
}
