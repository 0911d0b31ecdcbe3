package draft_test

import (
	"cobrik/core/draft"
	"cobrik/core/font"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/layout"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func named(id string, kind design.Kind, x, y, w, h float64, children ...*design.Layer) *design.Layer {
	return &design.Layer{ID: id, Name: id, Kind: kind, Bounds: design.Rect{X: x, Y: y, Width: w, Height: h}, Children: children}
}

func words(id, content string, x, y, w float64) *design.Layer {
	l := named(id, design.Text, x, y, w, 20)
	l.Text = &design.TextContent{Content: content, FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}
	l.Sizing = design.Sizing{Width: "content", Height: "content"}
	return l
}

// uses is a page with two uses of a family that itself uses another.
func uses() *design.Document {
	dot := &design.Family{ID: "dot", Name: "Dot", Variants: []*design.Variant{{ID: "dot-v", Choices: map[string]string{}, Root: named("dot-root", design.Box, 0, 0, 12, 12)}}}
	dot.Variants[0].Root.Fill = "#2f6132"
	tag := named("tag-root", design.Box, 0, 0, 90, 28, named("mark", design.Instance, 8, 8, 12, 12), words("Label", "Ripe", 28, 4, 26), words("Note", "gone", 60, 4, 30))
	tag.Fill, tag.Flow, tag.Sizing = "#deedd8", &design.Flow{Direction: "row", Gap: 8, Padding: []float64{4, 8}, Align: "center"}, design.Sizing{Width: "content", Height: "content"}
	tag.Children[0].Instance = &design.InstanceContent{Family: "dot"}
	family := &design.Family{ID: "tag", Name: "Tag", Variants: []*design.Variant{{ID: "tag-v", Choices: map[string]string{}, Root: tag}}}
	longer, hide := "Courgettes for everybody", true
	use := named("use", design.Instance, 10, 40, 210, 28)
	use.Name = "Tag"
	use.Instance = &design.InstanceContent{Family: "tag", Overrides: []design.Override{{Layer: "Label", Text: &longer}, {Layer: "Note", Hidden: &hide}}}
	card := named("card", design.Box, 0, 0, 300, 78, words("title", "Plot 8", 10, 10, 40), use)
	card.Fill = "#fffdf8"
	return &design.Document{Format: design.Format, ID: "d", Name: "D", Families: []*design.Family{dot, family},
		Pages: []*design.Page{{ID: "p", Name: "P", Layers: []*design.Layer{card}}}}
}

// A use on a page stands for what it shows: its texts, what it hides, what it
// uses itself; laid out around the longer text.
func TestUsesStandForWhatTheyShow(t *testing.T) {
	doc := uses()
	fonts := font.Shipped()
	f, found := draft.Source(doc, contract.Origin{Layer: "card"}, fonts, nil)
	require.NotNil(t, f, found)
	ids := map[string]*design.Layer{}
	f.Variants[0].Root.Walk(func(l *design.Layer, _, _ float64) {
		assert.Nil(t, ids[l.ID], "the id %s is given twice", l.ID)
		ids[l.ID] = l
	})
	label := ids["use.Label"]
	require.NotNil(t, label, slices.Collect(maps.Keys(ids)))
	assert.Equal(t, "Courgettes for everybody", label.Text.Content)
	assert.Greater(t, label.Bounds.Width, 140.0, "the text was not measured anew")
	assert.Nil(t, ids["use.Note"], "a hidden layer is a part")
	require.NotNil(t, ids["use.mark"])
	assert.Equal(t, design.Box, ids["use.mark"].Kind)
	assert.Equal(t, "#2f6132", ids["use.mark"].Fill, "the use inside the use is lost")
	assert.Equal(t, "Ripe", doc.Families[1].Variants[0].Root.Children[1].Text.Content, "the family itself was changed")

	c, _, found := draft.Of(doc, contract.Origin{Layer: "card"}, "Card", new(token.Set), fonts, nil)
	require.NotNil(t, c, found)
	assert.Equal(t, contract.TextValue("Courgettes for everybody"), c.Prop("label").Default())

	_, found = draft.Source(doc, contract.Origin{Layer: "use"}, fonts, nil)
	assert.Contains(t, found.Error(), "a use of the family tag")
	_, found = draft.Source(doc, contract.Origin{Layer: "nobody"}, fonts, nil)
	assert.Contains(t, found.Error(), `no layer "nobody"`)
	_, found = draft.Source(doc, contract.Origin{Family: "nobody"}, fonts, nil)
	assert.Contains(t, found.Error(), `no family "nobody"`)
}

// A family that uses itself comes to an end, and a use of what is not drawn is
// said.
func TestUsesThatCannotBeShown(t *testing.T) {
	doc := uses()
	doc.Families[0].Variants[0].Root.Children = []*design.Layer{named("again", design.Instance, 0, 0, 12, 12)}
	doc.Families[0].Variants[0].Root.Children[0].Instance = &design.InstanceContent{Family: "dot"}
	f, found := draft.Source(doc, contract.Origin{Layer: "card"}, nil, nil)
	require.NotNil(t, f, found)
	assert.Contains(t, found.Error(), "shows nothing")
	depth := 0
	f.Variants[0].Root.Walk(func(*design.Layer, float64, float64) { depth++ })
	assert.Less(t, depth, 40)

	doc = uses()
	doc.Families[1].Axes = []design.Axis{{Name: "Size", Values: []string{"s"}, Default: "s"}}
	f, found = draft.Source(doc, contract.Origin{Layer: "card"}, nil, nil)
	require.NotNil(t, f, found)
	assert.Contains(t, found.Error(), "the use use shows nothing")
}

// Another reading keeps what people said of paint, type and words, and leads
// back to the first.
func TestRereadKeepsWhatPeopleSaid(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	fonts := font.Shipped()
	o := contract.Origin{Layer: "plots-bar-1", Revision: 3}
	c, _, found := draft.Of(doc, o, "ShedBar", tokens, fonts, nil)
	require.NotNil(t, c, found)
	c.Purpose = "Leads to every page."
	c.SetValue("root", "background-color", contract.When{}, "#123456")
	c.SetValue("logo", "font-size", contract.When{}, "18px")
	c.Part("root").Element = "header"
	c.Prop("links").Purpose = "The society's pages."

	offers := draft.OtherReadings(doc, *c.Origin)
	offer := offers[""]
	require.NotEmpty(t, offer.Others)
	other, found := draft.Reread(c, doc, offer.Key, "row without inner ones", tokens, fonts, nil)
	require.NotNil(t, other, found)
	require.False(t, found.Failed(), found)
	assert.Equal(t, "root", around(other, "mark"), "mark and name stand in the bar itself")
	assert.Equal(t, []string{"ShedBar", "Leads to every page.", "header", "#123456", "18px", "The society's pages."},
		[]string{other.Name, other.Purpose, other.Root.Element, other.Root.Style["background-color"], other.Part("logo").Style["font-size"], other.Prop("links").Purpose})
	assert.Equal(t, map[string]string{offer.Key: "row without inner ones"}, other.Origin.Readings)
	assert.Empty(t, c.Origin.Readings, "the contract itself was changed")
	assert.Equal(t, 3, other.Origin.Revision)

	back, found := draft.Reread(other, doc, offer.Key, draft.OtherReadings(doc, *other.Origin)[""].Others[0].Kind, tokens, fonts, nil)
	require.NotNil(t, back, found)
	assert.Equal(t, around(c, "mark"), around(back, "mark"))
	assert.NotEqual(t, "root", around(back, "mark"))

	refused, found := draft.Reread(c, doc, offer.Key, "grid", tokens, fonts, nil)
	assert.Nil(t, refused)
	assert.Contains(t, found.Error(), "no reading")
	tag, _ := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	refused, found = draft.Reread(tag, doc, offer.Key, "row", tokens, fonts, nil)
	assert.Nil(t, refused)
	assert.Contains(t, found.Error(), "not drawn without flow")
	assert.Empty(t, draft.OtherReadings(doc, *tag.Origin))
}

// around gives the id of the part that holds another.
func around(c *contract.Contract, id string) (out string) {
	c.Walk(func(p, parent *contract.Part) {
		if p.ID == id && parent != nil {
			out = parent.ID
		}
	})
	return out
}

// The drawing as the contract lays it out: layers where the solver puts their
// parts, texts broken, what is not shown hidden.
func TestRedraw(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	f := doc.FamilyNamed("ToolRow")
	c, _ := draft.OfFamily(doc, f, tokens, nil)
	values := contract.Values{}
	for _, p := range c.Props {
		if p.Kind() == contract.FlagKind && p.Part != "" {
			values[p.ID] = contract.FlagValue(false)
		}
	}
	require.Empty(t, c.Arrange("root", contract.Arrangement{Kind: layout.Stack}, contract.EditSite{}, tokens))
	tree := contract.Resolve(c, contract.EnvOf(values), tokens)
	solved, found := layout.Solve(tree.Boxes(), layout.Options{Width: 300, Fonts: font.Shipped()})
	require.NotNil(t, solved, found)
	drawn := f.Default().Root
	before := drawn.Bounds
	got := draft.Redraw(tree, drawn, solved)
	assert.Equal(t, before, drawn.Bounds, "the design itself was changed")
	assert.Equal(t, solved.Box.Height, got.Bounds.Height)
	boxes := map[string]*layout.Box{}
	var walk func(n *layout.Node)
	walk = func(n *layout.Node) {
		boxes[n.Name] = n.Box
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(solved)
	c.Walk(func(p, parent *contract.Part) {
		l, _ := draft.LayerAt(got, p.Layer)
		if box, shown := boxes[p.Name]; shown && parent != nil {
			assert.Equal(t, box.Y, l.Bounds.Y, p.Name)
			assert.False(t, l.Hidden, p.Name)
		} else if parent != nil {
			assert.True(t, l.Hidden, "%s is drawn, and not shown", p.Name)
		}
	})
}

// On a page a use shows its own words, and they break where the room it has there ends; one that is
// as drawn is drawn by its family.
func TestUsesOnPagesAreLaidOutWhereTheyStand(t *testing.T) {
	note := textOf("note", "Note", "Twelve seeds, dried last autumn. Sow indoors in April.")
	note.Sizing = design.Sizing{Width: "fill", Height: "content"}
	root := boxOf("root", "Offer", column, note)
	root.Sizing.Width, root.Bounds.Width = "fill", 600
	doc := &design.Document{ID: "d", Families: []*design.Family{{ID: "offer", Name: "Offer", Variants: []*design.Variant{{ID: "v", Choices: map[string]string{}, Root: root}}}}}
	at := func(id string, width float64, overrides ...design.Override) *design.Layer {
		return &design.Layer{ID: id, Kind: design.Instance, Bounds: design.Rect{Width: width, Height: 20}, Instance: &design.InstanceContent{Family: "offer", Overrides: overrides}}
	}
	page := &design.Page{ID: "p", Width: 800, Height: 100, Layers: []*design.Layer{at("drawn", 600), {ID: "g", Kind: design.Group, Children: []*design.Layer{at("narrow", 120)}}, at("said", 600, override("Note", "Leeks"))}}
	shown := draft.Shown(doc, page, font.Shipped())
	assert.Empty(t, shown.Layers[0].Children)
	narrow := shown.Layers[1].Children[0].Children[0]
	assert.Equal(t, 120.0, narrow.Bounds.Width)
	assert.InDelta(t, 80, narrow.Children[0].Bounds.Height, 21, "it breaks into several lines")
	said := shown.Layers[2].Children[0].Children[0]
	assert.Equal(t, [2]string{"note", "Leeks"}, [2]string{said.ID, said.Text.Content}, "its layers are those of the family")
	assert.Empty(t, page.Layers[2].Children, "the page itself is changed")
	assert.Contains(t, doc.DrawPage(shown), ">Leeks<")
}
