package main

import (
	"fmt"

	"cobrik/core/design"
)

// at puts a layer at a place on its parent.
func at(l *design.Layer, x, y float64) *design.Layer {
	l.Bounds.X, l.Bounds.Y = x, y
	return l
}

func (a *artist) heading(content string, size, line float64) *design.Layer {
	l := a.text("Title", content, "page.ink", "large", "strong")
	l.Text.FontSize, l.Text.LineHeight = size, line
	delete(l.Tokens, "font-size")
	l.Bounds.Width, l.Bounds.Height = a.ruler.width(l.Text), line
	return l
}

var plots = []struct{ name, holder, tone, crop string }{
	{"Plot 41", "Ines", "growing", "Runner beans"},
	{"Plot 12", "Marek", "ripe", "Squash"},
	{"Plot 77", "Odile", "sown", "Leeks"},
	{"Plot 103", "Tomasz", "growing", "Chard"},
	{"Plot 8", "Bea", "ripe", "Courgettes"},
	{"Plot 60", "Fenna", "sown", "Broad beans"},
}

// plots draws the page of plot cards: loose copies of one group, so far.
func (a *artist) plots(id, name string, width float64, columns int) *design.Page {
	a.page, a.count = id, 0
	page := &design.Page{ID: id, Name: name, Width: width, Background: a.value("page.ground")}
	page.Layers = append(page.Layers, a.topBar(width))
	margin, gap := 24.0, 24.0
	if columns > 1 {
		margin = 120
	}
	page.Layers = append(page.Layers, at(a.heading("Plots", 32, 40), margin, 96))
	card := (width - 2*margin - gap*float64(columns-1)) / float64(columns)
	shown := plots
	if columns == 1 {
		shown = plots[:3]
	}
	for i, p := range shown {
		l := a.plotCard(i+1, p.name, p.holder+" · "+p.crop, p.tone, card)
		page.Layers = append(page.Layers, at(l, margin+float64(i%columns)*(card+gap), 160+float64(i/columns)*(268+gap)))
	}
	rows := (len(shown) + columns - 1) / columns
	page.Height = 160 + float64(rows)*(268+gap) + 40
	return page
}

func (a *artist) topBar(width float64) *design.Layer {
	bar := &design.Layer{ID: a.id("bar"), Name: "Top bar", Kind: design.Box, Fill: a.value("soil.800"), Bounds: design.Rect{Width: width, Height: 56},
		Tokens: map[string]string{"background-color": "soil.800"}}
	logo := a.text("Logo", "Hollowbeck", "soil.50", "large", "strong")
	bar.Children = append(bar.Children, at(vector(a.id("mark"), "Mark", 20, a.value("soil.50"), "soil.50", sprout), 24, 18), at(logo, 52, 16))
	if width < 600 {
		menu := &design.Layer{ID: a.id("menu"), Name: "Group 14", Kind: design.Group, Bounds: design.Rect{X: width - 44, Y: 20, Width: 20, Height: 16}}
		for i := range 3 {
			menu.Children = append(menu.Children, &design.Layer{ID: a.id("line"), Name: fmt.Sprintf("Rectangle %d", i+1), Kind: design.Box, Fill: a.value("soil.50"),
				Bounds: design.Rect{Y: float64(i) * 7, Width: 20, Height: 2}})
		}
		bar.Children = append(bar.Children, menu)
		return bar
	}
	x := width - 24
	for _, link := range []string{"Join", "Rota", "Tool shed", "Seed swap", "Plots"} {
		l := a.text(link, link, "soil.50", "body", "firm")
		x -= l.Bounds.Width
		bar.Children = append(bar.Children, at(l, x, 18))
		x -= 28
	}
	return bar
}

func (a *artist) plotCard(n int, name, holder, tone string, width float64) *design.Layer {
	if tone == "sown" && a.revision >= 3 {
		tone = "planted"
	}
	bed := &design.Layer{ID: a.id("bed"), Name: "Picture", Kind: design.Vector, Fill: a.value("leaf.700"), Bounds: design.Rect{Width: width, Height: 160},
		Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 320, 160}, Paths: []design.Path{
			{D: "M0 0h320v160H0z", Fill: a.value("canal.100")},
			{D: "M0 92c60-22 130-26 200-14s100 8 120 0v82H0z", Fill: a.value("leaf.100")},
			{D: "M40 160l40-54h150l50 54z", Fill: a.value("soil.600")},
			{D: "M92 106l-24 54h18l20-54zM140 106l-8 54h18l2-54zM186 106l10 54h18l-16-54z", Fill: a.value("leaf.700")},
		}}, Alt: "A garden bed with three rows"}
	label := map[string]string{"sown": "Sown", "planted": "Planted", "growing": "Growing", "ripe": "Ripe"}[tone]
	tag := &design.Layer{ID: a.id("use"), Name: "CropTag", Kind: design.Instance,
		Instance: &design.InstanceContent{Family: "crop-tag", Choices: map[string]string{"Tone": tone}, Overrides: []design.Override{{Layer: "Label", Text: &label}}}}
	if n == 2 {
		tag.Instance.Choices["Strong"] = "on"
	}
	tag.Bounds = a.cropTagVariant("m", tone, n == 2).Bounds
	return &design.Layer{
		ID: a.id("card"), Name: fmt.Sprintf("Group %d", n), Kind: design.Box, Fill: "#fffdf8", Clip: true,
		Stroke: &design.Stroke{Color: a.value("page.line"), Width: 1}, Radius: []float64{10},
		Bounds: design.Rect{Width: width, Height: 268},
		Children: []*design.Layer{
			bed,
			at(a.heading(name, 20, 28), 16, 176),
			at(a.text("Holder", holder, "page.quiet", "body", "plain"), 16, 204),
			at(tag, 16, 230),
		},
	}
}

func (a *artist) toolShed() *design.Page {
	rows := a.toolRow()
	a.page, a.count = "tool-shed", 0
	page := &design.Page{ID: "tool-shed", Name: "Tool shed", Width: 1440, Height: 420, Background: a.value("page.ground")}
	page.Layers = append(page.Layers, a.topBar(1440), at(a.heading("Tool shed", 32, 40), 120, 96))
	for i, tool := range []struct{ name, due string }{{"Watering can", "no"}, {"Watering can", "yes"}, {"Garden rake", "no"}, {"Border fork", "no"}} {
		name := tool.name
		bounds := rows.Variant(map[string]string{"Due": tool.due}).Root.Bounds
		page.Layers = append(page.Layers, at(&design.Layer{
			ID: a.id("use"), Name: "ToolRow", Kind: design.Instance, Bounds: bounds,
			Instance: &design.InstanceContent{Family: "tool-row", Choices: map[string]string{"Due": tool.due}, Overrides: []design.Override{{Layer: "Name", Text: &name}}},
		}, 120, 160+float64(i)*54))
	}
	return page
}
