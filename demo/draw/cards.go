package main

import (
	"net/url"

	"cobrik/core/css"
	"cobrik/core/design"
)

// Small drawings for pictures: a bed of rows, a watering can, a squash.
var drawings = map[string]struct {
	width, height float64
	svg           string
}{
	"bed": {320, 160, `<rect width="320" height="160" fill="#d5e6ed"/><path d="M0 92c60-22 130-26 200-14s100 8 120 0v82H0z" fill="#deedd8"/><path d="M40 160l40-54h150l50 54z" fill="#6b5a43"/>` +
		`<path d="M92 106l-24 54h18l20-54zM140 106l-8 54h18l2-54zM186 106l10 54h18l-16-54z" fill="#2f6132"/>`},
	"can":    {160, 120, `<rect width="160" height="120" fill="#f0e9de"/><path d="M40 44h60v52H40zM100 64l36-28 8 8-44 36z" fill="#1d586e"/><path d="M48 44c0-20 10-28 22-28s22 8 22 28" fill="none" stroke="#1d586e" stroke-width="6"/>`},
	"squash": {160, 120, `<rect width="160" height="120" fill="#fbe3bd"/><ellipse cx="80" cy="70" rx="48" ry="34" fill="#c8741a"/><path d="M80 36v-16h10v16z" fill="#2f6132"/><path d="M56 46c-6 16-6 32 0 48M80 38v64M104 46c6 16 6 32 0 48" stroke="#8a4f07" stroke-width="3" fill="none"/>`},
}

func assets() (out []design.Asset) {
	for _, id := range []string{"bed", "can", "squash"} {
		d := drawings[id]
		svg := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ` + css.FormatNumber(d.width) + " " + css.FormatNumber(d.height) + `">` + d.svg + `</svg>`
		out = append(out, design.Asset{ID: "asset-" + id, Source: "data:image/svg+xml," + url.PathEscape(svg), Width: d.width, Height: d.height})
	}
	return out
}

func (a *artist) plotCardFamily() *design.Family {
	return a.family("plot-card", "PlotCard", "One plot at a glance: its bed, who holds it, how far the crop is.", []design.Axis{axis("Gone to seed", "off", "on")}, func(c map[string]string) *design.Layer {
		tag := &design.Layer{ID: a.id("tag"), Name: "Tag", Kind: design.Instance, Instance: &design.InstanceContent{Family: "crop-tag", Choices: map[string]string{"Tone": "growing"}, Exposes: []string{"Tone", "Label"}}}
		drawn := a.cropTagVariant("m", "growing", false).Bounds
		tag.Bounds = design.Rect{Width: drawn.Width, Height: drawn.Height}
		foot := a.box("Foot", look{gap: "space.2", align: "center"}, tag, hiddenUnless(a.text("Seed note", "Gone to seed", "notice.look.ink", "small", "firm"), c["Gone to seed"] == "on"))
		body := sized(a.box("Body", look{direction: "column", gap: "card.gap", block: "card.pad", inline: "card.pad", align: "start"},
			a.text("Title", "Plot 41", "card.ink", "title", "strong"), a.text("Holder", "Ines · Runner beans", "card.quiet", "body", "plain"), foot), "fill", "content")
		card := a.box("PlotCard", look{ground: "card.ground", edge: "card.edge", radius: "card.radius", direction: "column", align: "stretch"},
			a.picture("Picture", "asset-bed", "A garden bed with three rows", "fill", 160), body)
		card.Clip = true
		card.Shadows = []design.Shadow{a.shadow(card, "shadow.resting", 1, 2, false)}
		return laid(sized(card, "fill", "content"), 320)
	})
}

func (a *artist) plotCardLoading() *design.Family {
	return a.family("plot-card-loading", "PlotCardLoading", "Keeps a plot card's room while it loads.", []design.Axis{}, func(map[string]string) *design.Layer {
		bar := func(name string, width, height int) *design.Layer {
			return sized(a.box(name, look{ground: "page.sunk", radius: "radius.small"}), width, height)
		}
		body := sized(a.box("Body", look{direction: "column", gap: "card.gap", block: "card.pad", inline: "card.pad", align: "start"},
			bar("Title bar", 96, 28), bar("Holder bar", 160, 20), bar("Tag bar", 80, 24)), "fill", "content")
		picture := sized(a.box("Picture bar", look{ground: "page.sunk"}), "fill", 160)
		card := a.box("PlotCardLoading", look{ground: "card.ground", edge: "card.edge", radius: "card.radius", direction: "column", align: "stretch"}, picture, body)
		card.Clip = true
		return laid(sized(card, "fill", "content"), 320)
	})
}

func (a *artist) seedOffer() *design.Family {
	return a.family("seed-offer", "SeedOffer", "A packet somebody gives away.", []design.Axis{axis("Width", "wide", "narrow")}, func(c map[string]string) *design.Layer {
		words := sized(a.box("Words", look{direction: "column", gap: "space.1", align: "start"},
			a.text("Title", "Crown squash", "card.ink", "large", "strong"),
			a.paragraph("Note", "Twelve seeds, dried last autumn. Sow indoors in April.", "card.quiet", "body", "plain"),
			a.linkTo(a.text("Ask", "Ask Marek", "link.ink", "body", "firm"), "/members/marek")), "fill", "content")
		picture := hiddenUnless(a.picture("Picture", "asset-squash", "An orange squash", 160, 120), c["Width"] == "wide")
		offer := a.box("SeedOffer", look{ground: "card.ground", edge: "card.edge", radius: "card.radius", gap: "space.4", block: "space.4", inline: "space.4", align: "start"}, picture, words)
		return laid(sized(offer, "fill", "content"), map[string]float64{"wide": 560, "narrow": 280}[c["Width"]])
	})
}

func (a *artist) noticeBoard() *design.Family {
	return a.family("notice-board", "NoticeBoard", "Tells members what is on.", []design.Axis{axis("Tone", "note", "good", "look", "wrong")}, func(c map[string]string) *design.Layer {
		tone := "notice." + c["Tone"]
		body := a.paragraph("Body", "The pump is shut on Sunday from nine. Water on Saturday evening, or see the rota.", tone+".ink", "body", "plain")
		body.Text.Runs = []design.Run{{Text: "The pump is shut on "}, {Text: "Sunday from nine", Strong: true}, {Text: ". Water on Saturday evening, or see "}, {Text: "the rota", Link: "/rota"}, {Text: "."}}
		board := a.box("NoticeBoard", look{ground: tone + ".ground", edge: tone + ".edge", radius: "radius.medium", direction: "column", gap: "space.1", block: "space.3", inline: "space.4", align: "stretch"},
			sized(a.text("Title", "Pump shut on Sunday", tone+".ink", "large", "strong"), "fill", "content"), body)
		board.Stroke.Sides = []float64{1, 1, 1, 4}
		delete(board.Tokens, "border-width")
		return laid(sized(board, "fill", "content"), 480)
	})
}
