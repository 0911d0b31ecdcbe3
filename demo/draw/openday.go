package main

import (
	"fmt"
	"strings"

	"cobrik/core/css"
	"cobrik/core/design"
)

// board draws a box that holds what is placed on it by hand.
func (a *artist) board(name, ground string, width, height float64, children ...*design.Layer) *design.Layer {
	return &design.Layer{ID: a.id("board"), Name: name, Kind: design.Box, Fill: a.value(ground), Radius: []float64{a.px("radius.medium")}, Bounds: design.Rect{Width: width, Height: height},
		Tokens: map[string]string{"background-color": ground, "border-radius": "radius.medium"}, Children: children}
}

// openDay draws a page that somebody put together in an evening: hardly anything on it is a use of a family, and much of it wants a word with
// the designer. Whatever a survey can find is on one of the pages, most of it here.
func (a *artist) openDay() *design.Page {
	a.page, a.count = "open-day", 0
	page := &design.Page{ID: "open-day", Name: "Open day", Width: 1440, Height: 1240, Background: a.value("page.ground")}
	put := func(x, y float64, l *design.Layer) { page.Layers = append(page.Layers, at(l, x, y)) }
	put(0, 0, a.topBar(1440))
	put(120, 96, a.heading("Open day", 32, 40))
	old := a.text("Date", "Sunday 7 June", "page.quiet", "large", "plain")
	old.Hidden = true // the year before
	put(320, 102, old)

	put(120, 156, a.heading("What is on", 20, 28))
	for i, what := range []struct{ hour, title, place, left, note string }{
		{"10:00", "Walk along the canal", "At the gate", "12", ""},
		{"11:00", "How to prune a pear", "Plot 41", "4", "Bring gloves"},
		{"12:30", "Soup for everybody", "Tool shed", "60", ""},
		{"14:00", "Compost, turned and explained", "Plot 77", "0", ""},
		{"15:00", "Seeds to swap", "Tool shed", "25", "Bring a bag"},
		{"16:30", "The pump, taken apart", "Pump house", "0", ""},
	} {
		put(120, 196+float64(i)*52, a.programmeRow(what.hour, what.title, what.place, what.left, what.note, i == 4))
	}

	put(840, 156, a.heading("Who helps", 20, 28))
	for i, who := range []struct{ icon, name, hours string }{{canPath, "Water", "6"}, {sprout, "Seedlings", "3"}, {spade, "Digging", "12"}, {crate, "Harvest", "8"}, {sprout, "Children's bed", "4"}, {canPath, "Soup", "5"}} {
		x, y := 840+float64(i%3)*168, 196+float64(i/3)*112
		put(x, y, a.board("Rectangle "+fmt.Sprint(i+1), "page.raised", 152, 96)) // nobody grouped them
		put(x+16, y+16, vector(a.id("icon"), "Icon", 24, a.value("leaf.700"), "leaf.700", who.icon))
		put(x+16, y+56, a.text("Task", who.name, "page.ink", "body", "firm"))
		put(x+112, y+18, a.text("Hours", who.hours, "page.quiet", "small", "plain"))
	}

	put(120, 540, a.heading("Stalls", 20, 28))
	for i, stall := range []struct {
		name, who, asset, alt string
		say                   []design.Run
	}{
		{"Pumpkins", "Marek, plot 12", "asset-squash", "An orange squash", []design.Run{{Text: "Soup at "}, {Text: "noon", Strong: true}, {Text: ", seeds all day."}}},
		{"Cans and roses", "Fenna, plot 60", "asset-can", "A watering can", []design.Run{{Text: "Mended "}, {Text: "while you wait", Emphasis: true}, {Text: "."}}},
		{"A bed to take home", "Bea, plot 8", "asset-bed", "A bed of three rows", []design.Run{{Text: "Three rows in a box, "}, {Text: "two left", Strong: true}, {Text: "."}}},
	} {
		put(120+float64(i)*232, 580, a.stall(i, stall.name, stall.who, stall.asset, stall.alt, stall.say))
	}
	for i := range 5 { // one for each stall there will be
		ink := []string{"page.ink", "page.line"}[min(i, 1)]
		put(420+float64(i)*20, 876, &design.Layer{ID: a.id("dot"), Name: "Dot", Kind: design.Box, Fill: a.value(ink), Radius: []float64{5}, Bounds: design.Rect{Width: 10, Height: 10}, Tokens: map[string]string{"background-color": ink}})
	}

	put(840, 540, a.heading("Visitors", 20, 28))
	put(840, 580, a.chart([]float64{48, 72, 64, 96, 120, 88, 132}))
	put(840, 780, a.hours())

	put(1120, 580, a.poster())
	put(1120, 800, a.canalDrawing())
	put(120, 920, a.use("seed-offer", map[string]string{"Width": "wide"}, 0, 0, 504, hides("Title"), hides("Note"), hides("Ask"), shows("Picture", "asset-bed", "The way from the station")))
	return page
}

// programmeRow draws a row of what is on; one that is full looks otherwise.
func (a *artist) programmeRow(hour, title, place, left, note string, small bool) *design.Layer {
	ground, ink, quiet := "page.raised", "page.ink", "page.quiet"
	if left == "0" {
		ground, ink, quiet = "page.sunk", "page.quiet", "page.quiet"
	}
	when := a.text("Hour", hour, quiet, "body", "firm")
	if small { // a slip
		when.Text.FontSize = 15
		delete(when.Tokens, "font-size")
		when.Bounds.Width = a.ruler.width(when.Text)
	}
	row := a.board("Programme row", ground, 680, 44, at(when, 16, 12), at(a.text("Title", title, ink, "body", "firm"), 88, 12), at(a.text("Place", place, quiet, "small", "plain"), 400, 14))
	if note != "" {
		row.Children = append(row.Children, at(a.text("Note", note, "notice.look.ink", "small", "firm"), 504, 14))
	}
	free := a.text("Free", left, ink, "body", "strong")
	row.Children = append(row.Children, at(free, 664-free.Bounds.Width, 12))
	return row
}

// stall draws a card of a stall; what stands at its foot is not the same in each.
func (a *artist) stall(n int, name, who, asset, alt string, say []design.Run) *design.Layer {
	words := a.line("", 16, 188, 184, 1)
	words.Name, words.Text.Runs = "Says", say
	for _, r := range say {
		words.Text.Content += r.Text
	}
	keeper := a.text("Keeper", who, "link.ink", "small", "plain")
	keeper.Link = "/members/" + strings.ToLower(strings.Split(who, ",")[0])
	picture := a.picture("Picture", asset, alt, 216, 120)
	card := a.board("Stall", "page.raised", 216, 280, at(picture, 0, 0), at(a.text("Name", name, "page.ink", "large", "strong"), 16, 132), at(keeper, 16, 160), words)
	card.Clip = true
	foot := []*design.Layer{
		a.use("crop-tag", map[string]string{"Tone": "ripe"}, 16, 240, 0),
		a.use("action-button", map[string]string{"Emphasis": "plain", "Size": "s", "State": "default"}, 16, 240, 0, says("Label", "Bring yours")),
		a.use("pump-lamp", map[string]string{"Status": "running"}, 16, 240, 0),
	}[n]
	if n == 1 { // as wide as what it says
		a.wider(foot, "Water the bed", "Bring yours", "small", "firm")
	}
	card.Children = append(card.Children, foot)
	return card
}

// chart draws bars of so many visitors a year.
func (a *artist) chart(of []float64) *design.Layer {
	g := &design.Layer{ID: a.id("chart"), Name: "Visitors by year", Kind: design.Group, Bounds: design.Rect{Width: 240, Height: 168}}
	for i, n := range of {
		bar := &design.Layer{ID: a.id("bar"), Name: "Bar", Kind: design.Box, Fill: a.value("canal.300"), Bounds: design.Rect{X: float64(i) * 34, Y: 132 - n, Width: 24, Height: n}, Tokens: map[string]string{"background-color": "canal.300"}}
		year := a.text("Year", fmt.Sprint("’", 20+i), "page.quiet", "small", "plain")
		g.Children = append(g.Children, bar, at(year, float64(i)*34+(24-year.Bounds.Width)/2, 140))
	}
	return g
}

// hours draws a group of lines that would be a container.
func (a *artist) hours() *design.Layer {
	g := &design.Layer{ID: a.id("hours"), Name: "Opening hours", Kind: design.Group, Bounds: design.Rect{Width: 240, Height: 76}}
	for i, line := range []string{"Gate: ten to six", "Tool shed: ten to one", "Pump house: half past four"} {
		g.Children = append(g.Children, at(a.text([]string{"Gate", "Shed", "Pump"}[i], line, "page.ink", "body", "plain"), 0, float64(i)*28))
	}
	return g
}

// poster draws a box with a ribbon that sticks out of it, and two layers of one name.
func (a *artist) poster() *design.Layer {
	ribbon := a.board("Ribbon", "squash.700", 120, 24)
	words := a.box("Words", look{direction: "column", gap: "13px", align: "start"}, a.text("Title", "Come by", "page.ink", "title", "strong"), a.text("Where", "Behind the canal", "page.quiet", "body", "plain"))
	words.Bounds = design.Rect{X: 16, Y: 72, Width: 160, Height: 61}
	words.Children[1].Bounds.Y = 41
	note := a.board("Where", "page.sunk", 168, 8)
	return a.board("Poster", "page.raised", 200, 168, at(ribbon, 104, 16), words, at(note, 16, 141), at(a.text("Where", "Bus 8", "page.quiet", "small", "plain"), 16, 48))
}

// canalDrawing draws a picture of many paths that nobody said is one.
func (a *artist) canalDrawing() *design.Layer {
	g := &design.Layer{ID: a.id("drawing"), Name: "Canal", Kind: design.Group, Bounds: design.Rect{Width: 200, Height: 120}}
	for i := range 14 {
		x := float64(i%7) * 28
		d := "M" + css.FormatNumber(float64(i%3)) + " 8c4-6 8-6 12 0v6H0z"
		l := vector(a.id("wave"), fmt.Sprint("Vector ", i+1), 26, a.value("canal.300"), "canal.300", d)
		g.Children = append(g.Children, at(l, x, float64(i/7)*60))
	}
	return g
}

const (
	spade = "M7 1h2v7h2v4c0 2-1.500 3-3 3s-3-1-3-3V8h2z"
	crate = "M1 4h14v9H1zM3 6v5h2V6zM7 6v5h2V6zM11 6v5h2V6z"
)
