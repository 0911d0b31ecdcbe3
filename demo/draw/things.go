package main

import (
	"fmt"
	"strings"

	"cobrik/core/design"
)

func (a *artist) bedMeter() *design.Family {
	return a.family("bed-meter", "BedMeter", "How moist a bed is.", []design.Axis{axis("Moisture", "moist", "dry", "wet")}, func(c map[string]string) *design.Layer {
		share := map[string]float64{"dry": 0.2, "moist": 0.55, "wet": 0.9}[c["Moisture"]]
		fill := sized(a.box("Fill", look{ground: "meter.fill", radius: "radius.round"}), int(240*share), 8)
		fill.Flow, fill.Place = nil, &design.Place{Pins: &design.Pins{Horizontal: "left", Vertical: "center"}}
		fill.Bounds.Y = 8
		fill.Fills = []design.Fill{{Gradient: &design.Gradient{Kind: "linear", Angle: 90, Stops: []design.Stop{{At: 0, Color: a.value("canal.300"), Token: "canal.300"}, {At: 1, Color: a.value("meter.fill"), Token: "meter.fill"}}}}}
		marker := sized(a.box("Marker", look{ground: "meter.marker", radius: "radius.round"}), 4, 24)
		marker.Flow, marker.Place = nil, &design.Place{Pins: &design.Pins{Horizontal: "left", Vertical: "top"}}
		marker.Bounds.X = float64(int(240*share)) - 2
		groove := sized(a.box("Groove", look{ground: "meter.track", radius: "radius.round"}), 240, 8)
		groove.Shadows = []design.Shadow{a.shadow(groove, "shadow.well", 1, 3, true)}
		track := sized(a.box("Track", look{align: "center"}, groove, fill, marker), 240, 24)
		head := sized(a.box("Head", look{distribute: "space-between", align: "center"},
			a.text("Label", "Moisture", "page.ink", "body", "firm"), a.text("Reading", fmt.Sprintf("%.0f %%", share*100), "page.quiet", "small", "plain")), 240, "content")
		return laid(a.box("BedMeter", look{direction: "column", gap: "space.1", align: "start"}, head, track), 400)
	})
}

func (a *artist) pumpLamp() *design.Family {
	return a.family("pump-lamp", "PumpLamp", "Whether the pump runs.", []design.Axis{axis("Status", "still", "running", "draining")}, func(c map[string]string) *design.Layer {
		tone := map[string]string{"still": "note", "running": "good", "draining": "look"}[c["Status"]]
		lamp := sized(a.box("Lamp", look{ground: "notice." + tone + ".edge", radius: "radius.round"}), 12, 12)
		return laid(a.box("PumpLamp", look{ground: "notice." + tone + ".ground", radius: "radius.round", gap: "space.2", block: "space.1", inline: "space.3", align: "center"},
			lamp, a.text("Label", map[string]string{"still": "Still", "running": "Running", "draining": "Draining"}[c["Status"]], "notice."+tone+".ink", "small", "firm")), 400)
	})
}

func (a *artist) memberMenu() *design.Family {
	return a.family("member-menu", "MemberMenu", "Who is signed in, and what is theirs.", []design.Axis{axis("State", "default", "open")}, func(c map[string]string) *design.Layer {
		initials := a.box("Initials", look{ground: "leaf.700", radius: "radius.round", distribute: "center", align: "center"}, a.text("Letters", "IN", "soil.50", "small", "strong"))
		trigger := a.box("Trigger button", look{ground: "page.raised", edge: "page.line", radius: "radius.round", gap: "space.2", block: "space.1", inline: "space.2", align: "center"},
			sized(initials, 24, 24), a.text("Name", "Ines, plot 41", "page.ink", "body", "firm"))
		var links []*design.Layer
		for _, word := range []string{"My plot", "Watering rota", "Sign out"} {
			links = append(links, a.linkTo(a.text(word, word, "page.ink", "body", "plain"), "/"+strings.ToLower(strings.ReplaceAll(word, " ", "-"))))
		}
		menu := hiddenUnless(a.box("Menu", look{ground: "page.raised", edge: "page.line", radius: "radius.medium", direction: "column", gap: "space.2", block: "space.3", inline: "space.4", align: "start"}, links...), c["State"] == "open")
		menu.Place = &design.Place{Pins: &design.Pins{Horizontal: "left", Vertical: "top"}}
		menu.Bounds.Y = 42
		menu.Shadows = []design.Shadow{a.shadow(menu, "shadow.lifted", 1, 2, false), a.shadow(menu, "shadow.lifted", 4, 12, false)}
		return laid(a.box("MemberMenu", look{align: "center"}, trigger, menu), 400)
	})
}

func (a *artist) memberCluster() *design.Family {
	return a.family("member-cluster", "MemberCluster", "Who tends a bed together.", []design.Axis{}, func(map[string]string) *design.Layer {
		var members []*design.Layer
		for _, m := range []struct{ name, letters, ground string }{{"First", "IN", "leaf.700"}, {"Second", "MA", "canal.700"}, {"Third", "OD", "squash.700"}} {
			l := a.box(m.name, look{ground: m.ground, edge: "page.ground", radius: "radius.round", distribute: "center", align: "center"}, a.text(m.name+" letters", m.letters, "soil.50", "small", "strong"))
			members = append(members, sized(l, 32, 32))
		}
		more := sized(a.box("More", look{ground: "page.sunk", edge: "page.line", radius: "radius.round", distribute: "center", align: "center"}, a.text("More count", "+3", "page.ink", "small", "firm")), 32, 32)
		cluster := a.box("MemberCluster", look{align: "center"}, append(members, more)...)
		cluster.Flow.Gap = -8
		return laid(cluster, 400)
	})
}

func (a *artist) seasonPanels() *design.Family {
	seasons := []struct{ name, note string }{
		{"Spring", "Sow peas and broad beans; harden off what grew indoors."}, {"Summer", "Water at dawn, pick often, keep the paths clear."},
		{"Autumn", "Lift the roots, sow green manure, mend the fences."}, {"Winter", "Prune, plan, and turn the compost."},
	}
	return a.family("season-panels", "SeasonPanels", "What there is to do, season by season; one is open.", []design.Axis{axis("Open", "spring", "summer", "autumn", "winter"), axis("Screen", "wide", "narrow")}, func(c map[string]string) *design.Layer {
		wide := c["Screen"] == "wide"
		var panels []*design.Layer
		for _, s := range seasons {
			open := c["Open"] == strings.ToLower(s.name)
			ground, ink := "page.sunk", "page.ink"
			if open {
				ground, ink = "leaf.700", "soil.50"
			}
			title := a.text(s.name+" title", s.name, ink, "large", "strong")
			note := hiddenUnless(a.paragraph(s.name+" note", s.note, "soil.50", "body", "plain"), open)
			panel := a.box(s.name, look{ground: ground, radius: "radius.medium", direction: "column", gap: "space.2", block: "space.4", inline: "space.4", align: "start"}, title, note)
			switch {
			case !wide:
				sized(panel, "fill", "content")
			case open:
				sized(panel, "fill", 160)
			default:
				sized(panel, 120, 160)
			}
			panels = append(panels, panel)
		}
		k := look{gap: "space.2", align: "stretch"}
		if !wide {
			k.direction = "column"
		}
		return laid(sized(a.box("SeasonPanels", k, panels...), "fill", "content"), map[bool]float64{true: 960, false: 358}[wide])
	})
}
