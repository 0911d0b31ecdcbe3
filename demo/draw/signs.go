package main

import "cobrik/core/design"

// signs is a second document, of the signs at the gate: drawn before Furrow, and never put in order. Its family has variants of
// which one component cannot be made, until somebody draws the same layers in both.
func (a *artist) signs() *design.Document {
	doc := &design.Document{Format: design.Format, ID: "gate-signs", Name: "Gate signs", Author: "Fenna, plot 60", Note: "What hangs at the gate."}
	sign := a.family("gate-sign", "GateSign", "Says where a path leads.", []design.Axis{axis("Kind", "path", "notice")}, func(c map[string]string) *design.Layer {
		k := look{ground: "page.raised", edge: "page.line", radius: "radius.medium", gap: "space.2", block: "space.2", inline: "space.3", align: "center"}
		if c["Kind"] == "path" {
			return laid(a.box("GateSign", k, vector(a.id("arrow"), "Arrow", 16, a.value("page.ink"), "page.ink", arrow), a.text("Where", "Tool shed", "page.ink", "large", "strong")), 400)
		}
		k.direction, k.align = "column", "start"
		return laid(a.box("GateSign", k, a.text("Where", "Dogs on a lead", "page.ink", "large", "strong"), a.text("Why", "There are hens", "page.quiet", "small", "plain")), 400)
	})
	doc.Families, a.families = []*design.Family{sign}, []*design.Family{sign}
	a.page, a.count = "gate", 0
	page := &design.Page{ID: "gate", Name: "Gate", Width: 480, Height: 320, Background: a.value("page.ground"), Layers: []*design.Layer{at(a.heading("At the gate", 32, 40), 24, 24)}}
	for i, where := range []string{"Tool shed", "Canal", "Pump house"} {
		page.Layers = append(page.Layers, a.wider(a.use("gate-sign", map[string]string{"Kind": "path"}, 24, 88+float64(i)*56, 0, says("Where", where)), "Tool shed", where, "large", "strong"))
	}
	page.Layers = append(page.Layers, a.use("gate-sign", map[string]string{"Kind": "notice"}, 264, 88, 0))
	doc.Pages = []*design.Page{page}
	return doc
}

const arrow = "M1 7h9L6.500 3.500 8 2l6 6-6 6-1.500-1.500L10 9H1z"
