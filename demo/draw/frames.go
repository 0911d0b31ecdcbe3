package main

import (
	"strings"

	"cobrik/core/design"
)

func (a *artist) rotaSplit() *design.Family {
	return a.family("rota-split", "RotaSplit", "A heading and a note beside what is to be filled in.", []design.Axis{axis("Screen", "wide", "narrow")}, func(c map[string]string) *design.Layer {
		words := sized(a.box("Words", look{direction: "column", gap: "space.2", align: "start"},
			a.text("Heading", "Watering rota", "page.ink", "title", "strong"),
			a.paragraph("Note", "Pick the days you can water the shared beds. Somebody is always glad of it.", "page.quiet", "body", "plain")), "fill", "content")
		form := sized(a.box("Form", look{ground: "page.raised", edge: "page.line", radius: "radius.medium", direction: "column", gap: "space.3", block: "space.4", inline: "space.4", align: "start"},
			a.text("Form hint", "The form stands here", "page.quiet", "body", "plain")), "fill", 200)
		form.Slot = &design.SlotContent{}
		split := a.box("RotaSplit", look{gap: "space.6", align: "start"}, words, form)
		split.Flow.Direction, split.Flow.Columns, split.Flow.Align = "grid", "1fr 2fr", "start"
		width := 960.0
		if c["Screen"] == "narrow" {
			split.Flow.Columns, width = "1fr", 358
		}
		return laid(sized(split, "fill", "content"), width)
	})
}

func (a *artist) pageShell() *design.Family {
	return a.family("page-shell", "PageShell", "What every page stands in.", []design.Axis{axis("Screen", "wide", "narrow")}, func(c map[string]string) *design.Layer {
		wide := c["Screen"] == "wide"
		brand := a.box("Brand", look{gap: "space.2", align: "center"}, vector(a.id("mark"), "Mark", 20, a.value("nav.ink"), "nav.ink", sprout), a.text("Logo", "Hollowbeck", "nav.ink", "large", "strong"))
		var links []*design.Layer
		for _, word := range []string{"Plots", "Seed swap", "Tool shed", "Rota", "Join"} {
			links = append(links, a.linkTo(a.text(word, word, "nav.ink", "body", "firm"), "/"+strings.ToLower(strings.ReplaceAll(word, " ", "-"))))
		}
		nav := hiddenUnless(a.box("Links", look{gap: "space.6", align: "center"}, links...), wide)
		menu := hiddenUnless(a.box("Menu button", look{edge: "nav.quiet", radius: "radius.medium", block: "space.1", inline: "space.3", align: "center"}, a.text("Menu word", "Menu", "nav.ink", "body", "firm")), !wide)
		header := sized(a.box("Header", look{ground: "nav.ground", block: "space.4", inline: map[bool]string{true: "space.8", false: "space.4"}[wide], distribute: "space-between", align: "center"}, brand, nav, menu), "fill", "content")
		content := sized(a.box("Content", look{direction: "column", gap: "space.4", align: "start"}, a.text("Content hint", "The page stands here", "page.quiet", "body", "plain")), "fill", 240)
		content.Slot = &design.SlotContent{}
		content.Limits.MaxWidth = 1024
		main := sized(a.box("Main", look{block: "space.6", inline: map[bool]string{true: "space.8", false: "space.4"}[wide], distribute: "center", align: "start"}, content), "fill", "content")
		shell := a.box("PageShell", look{ground: "page.ground", direction: "column", align: "stretch"}, header, main)
		return laid(sized(shell, "fill", "content"), map[bool]float64{true: 1440, false: 390}[wide])
	})
}
