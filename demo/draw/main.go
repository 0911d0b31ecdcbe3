// Command draw writes the demo's design document, Furrow, at each of its
// revisions, and the gate signs, into demo/furrow. Text is measured in Chromium with the shipped
// font, so that drawn sizes are what a careful designer would have drawn. Run
// it from the top of the repository after changing the drawing here.
package main

import (
	"encoding/json"
	"fmt"
	"log"
	"math"
	"os"
	"strconv"
	"strings"

	"cobrik/core/design"
	"cobrik/core/token"
)

func main() {
	var files []token.File
	for _, name := range []string{"core", "semantic"} {
		text, err := os.ReadFile("demo/furrow/" + name + ".tokens.json")
		if err != nil {
			log.Fatal(err)
		}
		files = append(files, token.File{Name: name, Text: text})
	}
	tokens, found := token.Read(files...)
	if found.Failed() {
		log.Fatal(found)
	}
	ruler, err := newRuler()
	if err != nil {
		log.Fatal(err)
	}
	defer ruler.close()
	for revision := 1; revision <= 3; revision++ {
		a := &artist{tokens: tokens, ruler: ruler, revision: revision}
		write(fmt.Sprintf("demo/furrow/furrow-%d.design.json", revision), a.document())
	}
	write("demo/furrow/gate-signs.design.json", (&artist{tokens: tokens, ruler: ruler, revision: 1}).signs())
}

// write writes a document that can be read.
func write(name string, doc *design.Document) {
	text, err := json.MarshalIndent(doc, "", " ")
	if err != nil {
		log.Fatal(err)
	}
	if _, found := design.Read(name, text); found != nil {
		log.Fatal(found)
	}
	if err := os.WriteFile(name, append(text, '\n'), 0o644); err != nil {
		log.Fatal(err)
	}
}

type artist struct {
	tokens   *token.Set
	ruler    *ruler
	revision int
	families []*design.Family
	page     string // ids of a page's layers begin with its own, the same in every revision
	count    int
}

func (a *artist) document() *design.Document {
	doc := &design.Document{Format: design.Format, ID: "furrow", Name: "Furrow", Author: "Ines, plot 41"}
	doc.Note = []string{
		"First drawing of the crop tags and the tool row.",
		"More room inside medium tags, a tone for resting beds, darker text on ripe tags.",
		"Sown is called planted from now on.",
	}[a.revision-1]
	doc.Assets = assets()
	doc.Families = []*design.Family{a.cropTag(), a.toolRow(), a.actionButton(), a.plotCardFamily(), a.plotCardLoading(), a.seedOffer(), a.noticeBoard(), a.bedMeter(), a.pumpLamp(), a.memberMenu(),
		a.memberCluster(), a.seasonPanels(), a.rotaSplit(), a.pageShell()}
	doc.Pages = []*design.Page{a.plots("plots", "Plots", 1440, 3), a.plots("plots-narrow", "Plots, narrow", 390, 1), a.toolShed()}
	a.families = doc.Families
	for _, f := range doc.Families {
		f.Do, f.Dont = notes[f.Name].do, notes[f.Name].dont
	}
	for _, width := range []float64{1440, 390} {
		doc.Pages = append(doc.Pages, a.seedSwap(width), a.rota(width), a.join(width))
	}
	doc.Pages = append(doc.Pages, a.toolShedNarrow())
	if a.revision >= 2 {
		doc.Pages = append(doc.Pages, a.openDay())
	}
	return doc
}

// notes say how families are meant to be used, and how not.
var notes = map[string]struct{ do, dont []string }{
	"CropTag":      {[]string{"Say the crop's state in one word.", "Stand it beside the name of what it tells of."}, []string{"Make it a button: nothing happens when it is pressed."}},
	"ActionButton": {[]string{"Begin with a verb: Save the rota, Ask for a plot.", "Have one firm button in a view."}, []string{"Lead to another page with it: that is a link."}},
	"NoticeBoard":  {[]string{"Say what is on, when, and what to do."}, []string{"Show more than two at once."}},
	"PlotCard":     {[]string{"Show a plot in a list of plots."}, []string{"Put a second card into it."}},
	"MemberMenu":   {nil, []string{"Hide what everybody needs in it."}},
}

func (a *artist) id(prefix string) string {
	a.count++
	if a.page != "" {
		prefix = a.page + "-" + prefix
	}
	return fmt.Sprintf("%s-%d", prefix, a.count)
}

func (a *artist) value(path string) string { return a.tokens.Get(path).Value }

func (a *artist) px(path string) float64 {
	n, err := strconv.ParseFloat(strings.TrimSuffix(a.value(path), "px"), 64)
	if err != nil {
		log.Fatalf("%s: %v", path, err)
	}
	return n
}

// text draws a line of text bound to a colour and, when told, to its type.
func (a *artist) text(name, content, ink, step, weight string) *design.Layer {
	w := 0.0
	if _, err := fmt.Sscan(a.value("type.weight."+weight), &w); err != nil {
		log.Fatal(err)
	}
	t := &design.TextContent{Content: content, FontFamily: "Hanken Grotesk", FontSize: a.px("type.size." + step), FontWeight: w, LineHeight: a.px("type.line." + step)}
	return &design.Layer{
		ID: a.id("text"), Name: name, Kind: design.Text, Fill: a.value(ink), Text: t,
		Bounds: design.Rect{Width: a.ruler.width(t), Height: t.LineHeight},
		Tokens: map[string]string{"color": ink, "font-size": "type.size." + step, "font-weight": "type.weight." + weight},
		Sizing: design.Sizing{Width: "content", Height: "content"},
	}
}

func vector(id, name string, size float64, fill, token, d string) *design.Layer {
	return &design.Layer{
		ID: id, Name: name, Kind: design.Vector, Fill: fill,
		Bounds: design.Rect{Width: size, Height: size},
		Tokens: map[string]string{"fill": token},
		Vector: &design.VectorContent{ViewBox: [4]float64{0, 0, 16, 16}, Paths: []design.Path{{D: d}}},
		Sizing: design.Sizing{Width: "fixed", Height: "fixed"},
	}
}

const (
	sprout  = "M7.4 15V9.6C4.2 9.6 2 7.6 1.6 4.2c3.4-.2 5.6 1.2 6.3 3.6C8.4 4.9 10.7 3 14.4 3c0 3.7-2.2 6.2-5.6 6.600V15z"
	canPath = "M2 6h7v7.500H2zM9 8l4.5-3.5 1 1.200L9 11zM3 6c0-2.2 1-3.5 2.5-3.500S8 3.8 8 6H7c0-1.6-.6-2.5-1.5-2.500S4 4.4 4 6z"
)

// flow lays children out in a row or column and gives the box its size.
func flow(l *design.Layer, f design.Flow) *design.Layer {
	l.Flow = &f
	pad := f.Sides()
	border := 0.0
	if l.Stroke != nil {
		border = l.Stroke.Width
	}
	along, across := 0.0, 0.0
	visible := 0
	for _, c := range l.Children {
		if c.Hidden {
			continue
		}
		visible++
		if f.Direction == "row" {
			along, across = along+c.Bounds.Width, max(across, c.Bounds.Height)
		} else {
			along, across = along+c.Bounds.Height, max(across, c.Bounds.Width)
		}
	}
	along += f.Gap * float64(max(0, visible-1))
	at := 0.0
	for _, c := range l.Children {
		w, h := &c.Bounds.Width, &c.Bounds.Height
		mainStart, crossStart, size, crossSize := &c.Bounds.X, &c.Bounds.Y, *w, *h
		lead, crossLead := pad[3]+border, pad[0]+border
		if f.Direction == "column" {
			mainStart, crossStart, size, crossSize = &c.Bounds.Y, &c.Bounds.X, *h, *w
			lead, crossLead = crossLead, lead
		}
		*mainStart, *crossStart = lead+at, crossLead
		if f.Align == "center" {
			*crossStart += (across - crossSize) / 2
		}
		if !c.Hidden {
			at += size + f.Gap
		}
	}
	if f.Direction == "column" {
		along, across = across, along
	}
	l.Bounds.Width = math.Round((along+pad[1]+pad[3]+2*border)*100) / 100
	l.Bounds.Height = across + pad[0] + pad[2] + 2*border
	l.Sizing = design.Sizing{Width: "content", Height: "content"}
	return l
}

func (a *artist) cropTag() *design.Family {
	sown := "sown"
	if a.revision >= 3 {
		sown = "planted"
	}
	tones := []string{sown, "growing", "ripe"}
	if a.revision >= 2 {
		tones = append(tones, "resting")
	}
	f := &design.Family{
		ID: "crop-tag", Name: "CropTag", Description: "Says in a word how far a crop is.",
		Axes: []design.Axis{
			{Name: "Size", Values: []string{"s", "m", "l"}, Default: "m"},
			{Name: "Tone", Values: tones, Default: "growing"},
			{Name: "Strong", Values: []string{"off", "on"}, Default: "off"},
		},
	}
	for _, size := range f.Axes[0].Values {
		for _, tone := range tones {
			for _, strong := range f.Axes[2].Values {
				f.Variants = append(f.Variants, &design.Variant{
					ID:      fmt.Sprintf("crop-tag-%s-%s-%s", size, tone, strong),
					Choices: map[string]string{"Size": size, "Tone": tone, "Strong": strong},
					Root:    a.cropTagVariant(size, tone, strong == "on"),
				})
			}
		}
	}
	return f
}

func (a *artist) cropTagVariant(size, tone string, strong bool) *design.Layer {
	type scale struct{ step, block, inline, gap string }
	s := map[string]scale{
		"s": {"small", "half", "1-half", "1"},
		"m": {"body", "half", "2", "1"},
		"l": {"large", "1", "3", "1-half"},
	}[size]
	if a.revision >= 2 && size == "m" {
		s.inline = "3"
	}
	content := map[string]string{"sown": "Sown", "planted": "Planted", "growing": "Growing", "ripe": "Ripe", "resting": "Resting"}[tone]
	group := tone
	if tone == "planted" {
		group = "sown"
	}
	ground, ink, weight := "tag."+group+".ground", "tag."+group+".ink", "firm"
	if a.revision >= 2 && tone == "ripe" {
		ink = "soil.800"
	}
	if strong {
		ground, ink, weight = "tag."+group+".ground-strong", "tag.ink-strong", "strong"
	}
	label := a.text("Label", content, ink, s.step, weight)
	icon := vector(a.id("icon"), "Icon", a.px("type.size."+s.step), a.value(ink), ink, sprout)
	icon.Hidden = size == "s"
	return flow(&design.Layer{
		ID: a.id("tag"), Name: "CropTag", Kind: design.Box,
		Fill: a.value(ground), Radius: []float64{a.px("tag.radius")},
		Tokens: map[string]string{
			"background-color": ground, "border-radius": "tag.radius",
			"gap": "space." + s.gap, "padding-block": "space." + s.block,
		},
		Children: []*design.Layer{icon, label},
	}, design.Flow{Direction: "row", Align: "center", Gap: a.px("space." + s.gap), Padding: []float64{a.px("space." + s.block), a.px("space." + s.inline)}})
}

func (a *artist) toolRow() *design.Family {
	f := &design.Family{
		ID: "tool-row", Name: "ToolRow", Description: "One tool of the shed: what it is, when it is due back, how many there are.",
		Axes: []design.Axis{{Name: "Due", Values: []string{"no", "yes"}, Default: "no"}},
	}
	for _, due := range []string{"no", "yes"} {
		ink, weight, note := "page.quiet", "plain", "in the shed"
		if due == "yes" {
			ink, weight, note = "tag.ripe.ink", "strong", "due on Sunday"
		}
		root := flow(&design.Layer{
			ID: a.id("row"), Name: "ToolRow", Kind: design.Box, Fill: a.value("page.ground"),
			Stroke: &design.Stroke{Color: a.value("page.line"), Width: 1}, Radius: []float64{4},
			Tokens: map[string]string{"background-color": "page.ground", "border-color": "page.line"},
			Children: []*design.Layer{
				vector(a.id("icon"), "Tool", 16, a.value("page.ink"), "page.ink", canPath),
				a.text("Name", "Watering can", "page.ink", "body", "firm"),
				a.text("Due note", note, ink, "small", weight),
				a.text("Count", "3", "page.quiet", "small", "plain"),
			},
		}, design.Flow{Direction: "row", Align: "center", Gap: 8, Padding: []float64{7, 12}})
		count := root.Children[3]
		count.Hidden = due == "yes"
		if count.Hidden {
			root.Bounds.Width = math.Round((root.Children[2].Bounds.X+root.Children[2].Bounds.Width+13)*100) / 100
		}
		f.Variants = append(f.Variants, &design.Variant{ID: "tool-row-" + due, Choices: map[string]string{"Due": due}, Root: root})
	}
	return f
}
