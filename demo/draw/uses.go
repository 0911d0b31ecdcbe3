package main

import (
	"log"

	"cobrik/core/design"
)

// use draws a use of a family at a place, as large as it was drawn, or as wide as told.
func (a *artist) use(family string, choices map[string]string, x, y, width float64, overrides ...design.Override) *design.Layer {
	for _, f := range a.families {
		if f.ID != family {
			continue
		}
		root := f.Variant(choices).Root
		l := &design.Layer{ID: a.id("use"), Name: f.Name, Kind: design.Instance, Bounds: design.Rect{X: x, Y: y, Width: root.Bounds.Width, Height: root.Bounds.Height},
			Instance: &design.InstanceContent{Family: family, Choices: choices, Overrides: overrides}}
		if width > 0 {
			l.Bounds.Width = width
		}
		return l
	}
	log.Fatalf("there is no family %s", family)
	return nil
}

// wider makes a use as wide as its component is that says something else than was drawn.
func (a *artist) wider(use *design.Layer, drawn, says, step, weight string) *design.Layer {
	use.Bounds.Width += a.text("", says, "page.ink", step, weight).Bounds.Width - a.text("", drawn, "page.ink", step, weight).Bounds.Width
	return use
}

func says(layer, text string) design.Override { return design.Override{Layer: layer, Text: &text} }

func shows(layer, asset, alt string) design.Override {
	return design.Override{Layer: layer, Asset: asset, Alt: &alt}
}

func hides(layer string) design.Override {
	yes := true
	return design.Override{Layer: layer, Hidden: &yes}
}

// sheet begins a page of a width that stands in the page shell, with a title.
func (a *artist) sheet(id, title string, width, height float64) (page *design.Page, margin float64) {
	screen := "wide"
	margin, name := 208.0, title
	if width < 600 {
		screen, margin, id, name = "narrow", 16, id+"-narrow", title+", narrow"
	}
	a.page, a.count = id, 0
	shell := a.use("page-shell", map[string]string{"Screen": screen}, 0, 0, width, hides("Content hint"))
	shell.Bounds.Height = height
	return &design.Page{ID: id, Name: name, Width: width, Height: height, Background: a.value("page.ground"), Layers: []*design.Layer{shell, at(a.heading(title, 32, 40), margin, 96)}}, margin
}

// line draws a text of a page that breaks in a width.
func (a *artist) line(content string, x, y, width float64, lines int) *design.Layer {
	l := a.text("Note", content, "page.quiet", "body", "plain")
	l.Bounds = design.Rect{X: x, Y: y, Width: width, Height: float64(lines) * l.Text.LineHeight}
	l.Sizing = design.Sizing{Width: "fixed", Height: "content"}
	return l
}

var offers = []struct{ title, note, who, asset, alt string }{
	{"Crown squash", "Twelve seeds, dried last autumn. Sow indoors in April.", "Ask Marek", "asset-squash", "An orange squash"},
	{"Runner beans", "A handful, saved from the tallest row. Sow outdoors in May.", "Ask Ines", "asset-bed", "A bed of three rows"},
	{"Rainbow chard", "More than one plot needs. Sow from March on.", "Ask Tomasz", "asset-bed", "A bed of three rows"},
	{"Watering can", "No seeds: it drips a little, and needs a new rose.", "Ask Fenna", "asset-can", "A watering can"},
}

func (a *artist) seedSwap(width float64) *design.Page {
	wide := width > 600
	page, margin := a.sheet("seed-swap", "Seed swap", width, map[bool]float64{true: 560, false: 760}[wide])
	for i, o := range offers {
		said := []design.Override{says("Title", o.title), says("Note", o.note), says("Ask", o.who), shows("Picture", o.asset, o.alt)}
		if wide {
			page.Layers = append(page.Layers, a.use("seed-offer", map[string]string{"Width": "wide"}, margin+float64(i%2)*520, 160+float64(i/2)*180, 504, said...))
			continue
		}
		page.Layers = append(page.Layers, a.use("seed-offer", map[string]string{"Width": "narrow"}, margin, 160+float64(i)*144, width-2*margin, said...))
	}
	return page
}

func (a *artist) rota(width float64) *design.Page {
	wide := width > 600
	page, margin := a.sheet("rota", "Rota", width, map[bool]float64{true: 640, false: 960}[wide])
	room := width - 2*margin
	y := 160.0
	notice := a.use("notice-board", map[string]string{"Tone": "look"}, margin, y, min(room, 480))
	split := a.use("rota-split", map[string]string{"Screen": map[bool]string{true: "wide", false: "narrow"}[wide]}, margin, y+136, min(room, 960))
	page.Layers = append(page.Layers, notice, split)
	y += 136 + split.Bounds.Height + 24
	x := margin
	for _, bed := range []struct{ moisture, status string }{{"moist", "still"}, {"dry", "running"}, {"wet", "draining"}} {
		page.Layers = append(page.Layers, a.use("bed-meter", map[string]string{"Moisture": bed.moisture}, x, y, 0), a.use("pump-lamp", map[string]string{"Status": bed.status}, x, y+60, 0))
		if wide {
			x += 288
		} else {
			y += 108
		}
	}
	return page
}

func (a *artist) join(width float64) *design.Page {
	wide := width > 600
	page, margin := a.sheet("join", "Join", width, map[bool]float64{true: 480, false: 560}[wide])
	room := min(width-2*margin, 560)
	lines := map[bool]int{true: 2, false: 4}[wide]
	page.Layers = append(page.Layers,
		a.line("A hundred and forty plots behind the canal, one tool shed, one pump. Nobody here is an expert, and somebody always knows.", margin, 152, room, lines),
		a.use("member-cluster", nil, margin, 168+float64(lines)*20, 0),
		a.use("action-button", map[string]string{"Emphasis": "firm", "Size": "m", "State": "default"}, margin, 224+float64(lines)*20, 0, says("Label", "Ask for a plot")),
		a.use("member-menu", map[string]string{"State": "default"}, margin, 288+float64(lines)*20, 0))
	// A card that was copied from the plots by hand, and painted over.
	card := a.plotCard(7, "Plot 118", "Nobody yet", "sown", min(room, 320))
	if wide {
		card = at(card, margin+640, 152)
		page.Layers = append(page.Layers, card)
	}
	return page
}

func (a *artist) toolShedNarrow() *design.Page {
	page, margin := a.sheet("tool-shed", "Tool shed", 390, 420)
	for i, tool := range []struct{ name, due string }{{"Watering can", "no"}, {"Watering can", "yes"}, {"Garden rake", "no"}} {
		page.Layers = append(page.Layers, a.use("tool-row", map[string]string{"Due": tool.due}, margin, 160+float64(i)*54, 0, says("Name", tool.name)))
	}
	return page
}
