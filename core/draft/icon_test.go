package draft_test

import (
	"fmt"
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

var shapes = map[string]string{"leaf": "M0 0H8V8Z", "drop": "M4 0L8 8H0Z", "sun": "M1 1H7V7Z"}

// picked draws a chip with an icon that an axis picks; change does more with a variant.
func picked(values []string, change func(c map[string]string, icon, label *design.Layer)) *design.Family {
	return drafttest.Family("Chip", []design.Axis{drafttest.Axis("Size", "m", "s"), drafttest.Axis("Icon", values...)}, func(c map[string]string) *design.Layer {
		icon := &design.Layer{ID: "icon", Name: "Icon", Kind: design.Vector, Fill: "#336633", Bounds: design.Rect{Width: 8, Height: 8}, Sizing: design.Sizing{Width: "fixed", Height: "fixed"}, Hidden: shapes[c["Icon"]] == "",
			Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: shapes[c["Icon"]]}}}}
		label := textOf("label", "Label", "Sown")
		if change != nil {
			change(c, icon, label)
		}
		chip := boxOf("chip", "Chip", row, icon, label)
		if c["Size"] == "s" {
			chip.Fill = "#eeeeee"
		}
		laid, found := draft.Reflow(chip, 400, font.Shipped())
		if laid == nil {
			panic(found)
		}
		return laid
	})
}

// An axis that changes nothing but a drawing is an icon that a use picks, or leaves out; the other
// axes stay as they are.
func TestAnAxisOfDrawingsIsAnIcon(t *testing.T) {
	for _, values := range [][]string{{"leaf", "drop"}, {"none", "drop", "sun"}} {
		c, source, components, found := drafted(t, picked(values, nil))
		assert.Empty(t, found, "%v", values)
		p := c.Prop("icon")
		require.Equal(t, contract.IconKind, p.Kind(), "%v", values)
		var names []string
		for _, v := range values {
			if v != "none" {
				names = append(names, v)
			}
		}
		icon := p.Type.(contract.Icon)
		assert.Equal(t, names, icon.Names())
		assert.Equal(t, shapes[names[0]], icon.Options[0].Vector.Paths[0].D)
		assert.Equal(t, values[0] == "none", p.Default() == nil, "%v", values)
		assert.Equal(t, contract.IconOf{Prop: "icon"}, c.Root.Children[0].Content)
		assert.Equal(t, contract.ChoiceKind, c.Prop("size").Kind())
		assertAgreed(t, c, source, components)
		keys := map[string]bool{}
		for _, k := range draft.Cases(c, source) {
			assert.Empty(t, k.New)
			keys[k.Key(c)] = true
		}
		assert.Len(t, keys, 2*len(values), "two cases have one key")
	}
}

// One drawing that is there or not is no icon to pick; what a default draws cannot be taken away.
func TestOneDrawingIsShownOrNot(t *testing.T) {
	c, _, _, found := drafted(t, picked([]string{"none", "drop"}, nil))
	assert.Empty(t, found)
	assert.Equal(t, contract.ChoiceKind, c.Prop("icon").Kind())
	assert.Equal(t, shapes["drop"], c.Root.Children[0].Vector().Paths[0].D, "the default variant hides it, and draws nothing in its place")
	c, _, _, found = drafted(t, picked([]string{"leaf", "drop", "none"}, nil))
	assert.Contains(t, found, "is drawn with other paths")
	assert.Equal(t, contract.ChoiceKind, c.Prop("icon").Kind())
}

// Where the axis changes anything else, or the drawing follows another, too, it stays a choice.
func TestWhatIsNoIcon(t *testing.T) {
	for name, change := range map[string]func(c map[string]string, icon, label *design.Layer){
		"a colour": func(c map[string]string, icon, _ *design.Layer) {
			if c["Icon"] == "drop" {
				icon.Fill = "#000000"
			}
		},
		"a word": func(c map[string]string, _, label *design.Layer) {
			if c["Icon"] == "drop" {
				label.Text.Content = "Dry"
			}
		},
		"another axis": func(c map[string]string, icon, _ *design.Layer) {
			if c["Icon"] == "drop" && c["Size"] == "s" {
				icon.Vector.Paths[0].D = shapes["sun"]
			}
		},
		"the text goes": func(c map[string]string, _, label *design.Layer) { label.Hidden = c["Icon"] == "drop" },
		"another gap": func(c map[string]string, _, label *design.Layer) {
			label.Text.LineHeight = 20 + float64(len(c["Icon"])-4)*0 + map[string]float64{"drop": 2}[c["Icon"]]
		},
	} {
		c, _, _, _ := drafted(t, picked([]string{"leaf", "drop"}, change))
		assert.Equal(t, contract.ChoiceKind, c.Prop("icon").Kind(), name)
	}
}

// An axis that changes two drawings is no icon of either.
func TestTwoDrawingsAreNoIcon(t *testing.T) {
	c, _, _, found := drafted(t, drafttest.Family("Chip", []design.Axis{drafttest.Axis("Icon", "leaf", "drop")}, func(c map[string]string) *design.Layer {
		drawing := func(name string) *design.Layer {
			return &design.Layer{ID: name, Name: name, Kind: design.Vector, Fill: "#336633", Bounds: design.Rect{Width: 8, Height: 8}, Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: shapes[c["Icon"]]}}}}
		}
		return boxOf("chip", "Chip", row, drawing("Left mark"), textOf("label", "Label", "Sown"), drawing("Right mark"))
	}))
	assert.Equal(t, contract.ChoiceKind, c.Prop("icon").Kind())
	assert.Contains(t, found, "is drawn with other paths")
}

// A drawing that comes, goes or becomes the default in a new revision is a move that can be taken.
func TestIconsMove(t *testing.T) {
	doc := func(f *design.Family) *design.Document {
		return &design.Document{ID: "d", Families: []*design.Family{f}}
	}
	draw := func(values ...string) *design.Family { return picked(values, nil) }
	for name, later := range map[string]*design.Family{"one more": draw("leaf", "drop", "sun"), "one less": draw("leaf"), "another default": draw("drop", "leaf"), "one more beside none": draw("none", "leaf", "drop", "sun")} {
		c, _, components, _ := drafted(t, draw("leaf", "drop"))
		if name == "one more beside none" {
			c, _, components, _ = drafted(t, draw("none", "leaf", "drop"))
		}
		agreed := ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}
		moves := ledger.New(agreed, later).Moves()
		if !assert.NotEmpty(t, moves, name) {
			continue
		}
		var keys []string
		for _, m := range moves {
			keys = append(keys, m.Key)
		}
		taken, found := ledger.New(agreed, later).Take(doc(later), keys)
		require.NotNil(t, taken, "%s: %v", name, found)
		require.Empty(t, taken.Check(token.Empty()), name)
		assertAgreed(t, taken, later, components)
	}
}

// A new value that draws nothing cannot be had beside a default that draws something: it is said.
func TestNothingBesideADefault(t *testing.T) {
	c, _, components, _ := drafted(t, picked([]string{"leaf", "drop"}, nil))
	later := picked([]string{"leaf", "drop", "none"}, nil)
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, later)
	var keys []string
	for _, m := range l.Moves() {
		keys = append(keys, m.Key)
	}
	_, found := l.Take(&design.Document{ID: "d", Families: []*design.Family{later}}, keys)
	assert.Contains(t, fmt.Sprint(found), "none of icon draws nothing")
}

// A drawing that differs in an item of a list is the item's, and no icon of the component's.
func TestDrawingsOfItemsAreNoIcons(t *testing.T) {
	f := drafttest.Family("Shelf", []design.Axis{drafttest.Axis("Icon", "leaf", "drop")}, func(c map[string]string) *design.Layer {
		var rows []*design.Layer
		for n := range 3 {
			icon := &design.Layer{ID: fmt.Sprint("icon", n), Name: "Icon", Kind: design.Vector, Fill: "#336633", Bounds: design.Rect{Width: 8, Height: 8}, Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: shapes["leaf"]}}}}
			if n == 0 {
				icon.Vector.Paths = []design.Path{{D: shapes[c["Icon"]]}}
			}
			rows = append(rows, boxOf(fmt.Sprint("row", n), fmt.Sprint("Row ", n), row, icon, textOf(fmt.Sprint("label", n), "Label", "Sown")))
		}
		list := boxOf("list", "List", column, rows...)
		list.Repeats = true
		return boxOf("shelf", "Shelf", column, list)
	})
	c, _, _, found := drafted(t, f)
	assert.Equal(t, contract.ChoiceKind, c.Prop("icon").Kind())
	assert.Contains(t, found, "is drawn with other paths")
}

// A drawing, an icon's or not, and a flattened picture that a later revision has otherwise is told as one
// move, and can be taken.
func TestDrawingsMove(t *testing.T) {
	family := func(leaf, mark string, png bool) *design.Family {
		shapes["leaf"] = leaf
		defer func() { shapes["leaf"] = "M0 0H8V8Z" }()
		return picked([]string{"leaf", "drop"}, func(c map[string]string, icon, label *design.Layer) {
			label.Kind, label.Text = design.Group, nil
			flat := flatMark(mark)
			if png {
				flat.Flatten = "png"
			}
			still := *icon
			still.ID, still.Name = "still", "Still"
			still.Vector = &design.VectorContent{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []design.Path{{D: shapes["sun"]}}}
			if mark == "#ff0000" {
				still.Vector.ViewBox[2] = 9
			}
			label.Flow, label.Children = &design.Flow{Direction: "row"}, []*design.Layer{flat, &still}
			label.Kind = design.Box
		})
	}
	for _, png := range []bool{false, true} {
		c, _, components, found := drafted(t, family("M0 0H8V8Z", "#336633", png))
		require.Empty(t, found)
		doc := &design.Document{ID: "d", Families: []*design.Family{family("M0 0H8V9Z", "#ff0000", png)}}
		source, _ := draft.Source(doc, contract.Origin{Family: doc.Families[0].ID}, font.Shipped(), components)
		l := ledger.New(ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}, source)
		var keys, told []string
		for _, m := range l.Moves() {
			assert.Equal(t, ledger.DrawingMoved, m.Kind, m)
			assert.NotEqual(t, m.From.Value, m.To.Value)
			keys, told = append(keys, m.Key), append(told, m.Name+" · "+m.Property)
		}
		assert.Equal(t, []string{"icon · drawing leaf", "mark · drawing", "still · drawing"}, told)
		taken, problems := l.Take(doc, keys)
		require.NotNil(t, taken, problems)
		assert.Empty(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: token.Empty(), Components: components}, source).Moves())
		level, changes := ledger.Changes(c, taken)
		assert.Equal(t, contract.Patch, level)
		assert.Len(t, changes, 3)
	}
}
