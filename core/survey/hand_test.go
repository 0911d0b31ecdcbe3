package survey_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/font"
	"cobrik/core/survey"
)

func imported(t *testing.T, body string) survey.Reading {
	t.Helper()
	doc, found := design.ImportSVG("hand.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700" font-family="Hanken Grotesk">`+body+`</svg>`), font.Shipped())
	require.NotNil(t, doc, found)
	return survey.Read(doc, survey.Options{})
}

func layersOf(f survey.Find) (out [][]string) {
	for _, m := range f.Members {
		out = append(out, m.Layers)
	}
	return out
}

// The dead end of before: cards of an SVG file that nobody grouped.
func TestLooseCardsAreFound(t *testing.T) {
	grounds, rest := "", ""
	var want, wantBare [][]string
	for i := range 6 {
		x, y := 40+i%3*240, 40+i/3*220
		grounds += fmt.Sprintf(`<rect id="ground-%d" x="%d" y="%d" width="200" height="180" fill="#fff"/>`, i, x, y)
		rest += fmt.Sprintf(`<rect id="picture-%d" x="%d" y="%d" width="180" height="100" fill="#9ab"/><text id="name-%d" x="%d" y="%d" font-size="16">Tool %d</text>`, i, x+10, y+10, i, x+12, y+140, i)
		want = append(want, []string{fmt.Sprint("ground-", i), fmt.Sprint("picture-", i), fmt.Sprint("name-", i)})
		wantBare = append(wantBare, want[i][1:])
	}
	for name, body := range map[string]string{"all grounds first": grounds + rest, "without grounds": rest} {
		got := imported(t, body).Finds
		if assert.Len(t, got, 1, name) {
			if name == "without grounds" {
				assert.Equal(t, wantBare, layersOf(got[0]))
			} else {
				assert.Equal(t, want, layersOf(got[0]))
			}
			require.Len(t, got[0].Props, 1)
			assert.Equal(t, "text", got[0].Props[0].Kind)
			assert.Equal(t, "Tool 5", got[0].Props[0].Values[got[0].Members[5].ID])
		}
	}
}

// Rows of a table, and links beside each other, are what repeats on many pages.
func TestRowsAndLinksAreFound(t *testing.T) {
	body := ""
	for i, word := range []string{"Plots", "Seed swap", "Tools", "Rota"} {
		body += fmt.Sprintf(`<text id="link-%d" x="%d" y="30" font-size="14">%s</text>`, i, 300+i*90, word)
	}
	for r := range 5 {
		body += fmt.Sprintf(`<text id="who-%d" x="40" y="%d" font-size="13" font-weight="700">Ines %d</text><text id="where-%d" x="190" y="%d" font-size="13">plot %d</text>`, r, 100+r*30, r, r, 100+r*30, r*7)
	}
	got := imported(t, body).Finds
	require.Len(t, got, 2)
	assert.Equal(t, survey.Repeat, got[0].Kind)
	assert.Equal(t, []string{"who-3", "where-3"}, got[0].Members[3].Layers)
	assert.Equal(t, survey.List, got[1].Kind)
	assert.Equal(t, [][]string{{"link-0"}, {"link-1"}, {"link-2"}, {"link-3"}}, layersOf(got[1]))
}

// When this fails, paragraphs or three things that happen to be on a page are told as a list.
func TestWhatStandsAnyhowIsNoList(t *testing.T) {
	p := page("p", "Page", 900, text("a", "A", "A long paragraph of words", 40, 40, 14), text("b", "B", "Another that is longer than the first of them", 40, 90, 14), text("c", "C", "Short", 40, 110, 14),
		box("x", "X", 300, 40, 60, 60), box("y", "Y", 420, 170, 60, 60), box("z", "Z", 700, 90, 60, 60))
	assert.Empty(t, survey.Read(document([]*design.Page{p}), survey.Options{}).Finds)
}

func card(i int, x, y float64, holds ...*design.Layer) *design.Layer {
	return box(fmt.Sprint("card-", i), "Plot card", x, y, 220, 140, append([]*design.Layer{text(fmt.Sprint("title-", i), "Title", fmt.Sprint("Plot ", i), 12, 12, 18), text(fmt.Sprint("note-", i), "Note", "Ines", 12, 44, 13)}, holds...)...)
}

func propNamed(t *testing.T, f survey.Find, name string) survey.Prop {
	t.Helper()
	for _, p := range f.Props {
		if p.Name == name {
			return p
		}
	}
	t.Fatalf("no prop %s among %v", name, f.Props)
	return survey.Prop{}
}

// Each kind of prop that copies may differ in, and what is noise.
func TestKindsOfProps(t *testing.T) {
	styledText := func(i int, strong bool) *design.Layer {
		l := text(fmt.Sprint("rich-", i), "Words", fmt.Sprint("sow ", i, " beds"), 12, 70, 13)
		l.Text.Runs = []design.Run{{Text: "sow "}, {Text: fmt.Sprint(i), Strong: strong}, {Text: " beds"}}
		return l
	}
	links := func(i int) *design.Layer {
		l := text(fmt.Sprint("go-", i), "Go", "More", 12, 100, 13)
		l.Link = fmt.Sprint("/plot/", i)
		return l
	}
	meter := func(i int, share float64) *design.Layer {
		return box(fmt.Sprint("track-", i), "Track", 120, 100, 80, 8, box(fmt.Sprint("fill-", i), "Fill", 0, 0, 80*share, 8))
	}
	tone := func(i int, ground, ink string) *design.Layer {
		return with(box(fmt.Sprint("tag-", i), "Tag", 150, 12, 50, 20, with(text(fmt.Sprint("tag-t-", i), "State", "x", 4, 4, 11), func(l *design.Layer) { l.Fill = ink })), func(l *design.Layer) { l.Fill = ground })
	}
	read := func(cards ...*design.Layer) survey.Find {
		got := survey.Read(one(cards...), survey.Options{}).Finds
		require.Len(t, got, 1)
		require.Len(t, got[0].Members, len(cards))
		return got[0]
	}
	t.Run("rich text where a run has a look", func(t *testing.T) {
		f := read(card(0, 20, 20, styledText(0, true)), card(1, 320, 20, styledText(1, false)))
		assert.Equal(t, "rich text", propNamed(t, f, "words").Kind)
		f = read(card(0, 20, 20, styledText(0, false)), card(1, 320, 20, styledText(1, false)))
		assert.Equal(t, "text", propNamed(t, f, "words").Kind)
	})
	t.Run("a link", func(t *testing.T) {
		p := propNamed(t, read(card(0, 20, 20, links(0)), card(1, 320, 20, links(1))), "href")
		assert.Equal(t, "link", p.Kind)
		assert.Equal(t, map[string]any{"card-0": "/plot/0", "card-1": "/plot/1"}, p.Values)
	})
	t.Run("a number of how far a bar is filled", func(t *testing.T) {
		p := propNamed(t, read(card(0, 20, 20, meter(0, 0.25)), card(1, 320, 20, meter(1, 0.8))), "fill")
		assert.Equal(t, "number", p.Kind)
		assert.Equal(t, map[string]any{"card-0": 25.0, "card-1": 80.0}, p.Values)
	})
	t.Run("one choice for what moves together", func(t *testing.T) {
		f := read(card(0, 20, 20, tone(0, "#ffdddd", "#aa0000")), card(1, 320, 20, tone(1, "#ddffdd", "#00aa00")), card(2, 620, 20, tone(2, "#ffdddd", "#aa0000")), card(3, 20, 220, tone(3, "#ddddff", "#aa0000")))
		p := propNamed(t, f, "tone")
		assert.Equal(t, "choice", p.Kind)
		assert.Len(t, p.Options, 3)
		assert.Equal(t, p.Values["card-0"], p.Values["card-2"])
		assert.NotEqual(t, p.Values["card-0"], p.Values["card-1"])
		assert.NotEqual(t, p.Values["card-0"], p.Values["card-3"])
		var explained []string
		for _, e := range p.Explain {
			explained = append(explained, e.Layer+" "+e.Property)
		}
		assert.ElementsMatch(t, []string{"tag-0 background-color", "tag-t-0 color"}, explained)
	})
	t.Run("two choices for what does not", func(t *testing.T) {
		big := func(l *design.Layer) { l.Children[0].Text.FontWeight = 700 }
		f := read(with(card(0, 20, 20, tone(0, "#ffdddd", "#aa0000")), big), with(card(1, 320, 20, tone(1, "#ddffdd", "#aa0000")), big), card(2, 620, 20, tone(2, "#ffdddd", "#aa0000")), card(3, 20, 220, tone(3, "#ddffdd", "#aa0000")))
		assert.Equal(t, "choice", propNamed(t, f, "tone").Kind)
		assert.Equal(t, []string{"weight700", "weight400"}, propNamed(t, f, "emphasis").Options)
	})
	t.Run("a number for how long a bar is that stands with its label", func(t *testing.T) {
		doc := one()
		for i, h := range []float64{40, 100, 70, 85} {
			id, x := fmt.Sprint(i), 20+float64(i)*40
			doc.Pages[0].Layers = append(doc.Pages[0].Layers, box("bar-"+id, "Bar", x, 120-h, 24, h), text("year-"+id, "Year", fmt.Sprint(2020+i), x, 128, 11))
		}
		f := survey.Read(doc, survey.Options{}).Finds[0]
		bar := propNamed(t, f, "bar")
		assert.Equal(t, "number", bar.Kind)
		assert.Equal(t, map[string]any{"bar-0": 40.0, "bar-1": 100.0, "bar-2": 70.0, "bar-3": 85.0}, bar.Values)
		for i := range doc.Pages[0].Layers {
			if b := &doc.Pages[0].Layers[i].Bounds; b.Width == 24 {
				b.Y, b.Height = 20+float64(i), 100-float64(i) // nearly as long
			}
		}
		for _, p := range survey.Read(doc, survey.Options{}).Finds[0].Props {
			assert.NotEqual(t, "bar", p.Name)
		}
	})
	t.Run("what has no place of its own is a slot", func(t *testing.T) {
		f := read(card(0, 20, 20, path("icon-0", "Sign", 12, 70, 60, "M0 0h9v9z")), card(1, 320, 20, box("box-1", "Meter", 12, 70, 60, 60, text("box-1-t", "Value", "7", 8, 8, 20))))
		var slots []survey.Prop
		for _, p := range f.Props {
			if p.Kind == "slot" {
				slots = append(slots, p)
			}
		}
		if assert.Len(t, slots, 1) {
			assert.Equal(t, map[string]any{"card-0": "icon-0", "card-1": "box-1"}, slots[0].Values)
		}
	})
	t.Run("a flag for what is not in each", func(t *testing.T) {
		f := read(card(0, 20, 20, path("seed-0", "Gone to seed", 180, 100, 20, "M0 0h9z")), card(1, 320, 20), card(2, 620, 20, with(path("seed-2", "Gone to seed", 180, 100, 20, "M0 0h9z"), hidden)))
		p := propNamed(t, f, "showGoneToSeed")
		assert.Equal(t, "flag", p.Kind)
		assert.Equal(t, map[string]any{"card-0": true, "card-1": false, "card-2": false}, p.Values)
	})
	t.Run("what follows a text, and two px, are nothing", func(t *testing.T) {
		wide := card(1, 320, 20, box("b1", "Mark", 14, 102, 22, 19))
		wide.Children[0].Text.Content = "Plot with a long name"
		wide.Children[0].Bounds.Width = 180
		f := read(card(0, 20, 20, box("b0", "Mark", 12, 100, 20, 20)), wide)
		var names []string
		for _, p := range f.Props {
			names = append(names, p.Name)
		}
		assert.Equal(t, []string{"title"}, names)
	})
	t.Run("an icon that is another, and a picture that is", func(t *testing.T) {
		f := read(card(0, 20, 20, path("icon-0", "Sign", 180, 12, 20, "M0 0h9z"), path("bed-0", "Bed", 12, 70, 60, "M0 0h9z")), card(1, 320, 20, path("icon-1", "Sign", 180, 12, 20, "M0 0h5z"), path("bed-1", "Bed", 12, 70, 60, "M0 0h3z")))
		assert.Equal(t, "icon", propNamed(t, f, "sign").Kind)
		assert.Equal(t, "image", propNamed(t, f, "bed").Kind)
	})
	t.Run("uses say what they choose and what they read", func(t *testing.T) {
		word := "Sown"
		tag := family("tag", "Crop tag", box("a", "Crop tag", 0, 0, 60, 24, text("al", "Label", "Ripe", 8, 4, 12)), box("b", "Crop tag", 0, 0, 60, 24, text("bl", "Label", "Ripe", 8, 4, 12)))
		in := func(i int, overrides ...design.Override) *design.Layer {
			return useOf(fmt.Sprint("use-", i), "tag", 12, 100, 60, 24, overrides...)
		}
		second := in(1, design.Override{Layer: "Label", Text: &word})
		second.Instance.Choices = map[string]string{"Look": "b"}
		got := survey.Read(document([]*design.Page{page("p", "Page", 900, card(0, 20, 20, in(0)), card(1, 320, 20, second))}, tag), survey.Options{}).Finds
		require.Len(t, got, 1)
		assert.Equal(t, map[string]any{"card-0": "a", "card-1": "b"}, propNamed(t, got[0], "look").Values)
		assert.Equal(t, []string{"choice"}, propNamed(t, got[0], "look").Kinds(), "it is the component's inside")
		assert.Equal(t, map[string]any{"card-0": "Ripe", "card-1": "Sown"}, propNamed(t, got[0], "label").Values)
	})
}

// When this fails, every fragment of a component is told as one of its own, or none of those in it that repeat there.
func TestFindsAreToldAtTheirLevel(t *testing.T) {
	stat := func(i, j int) *design.Layer {
		return group(fmt.Sprint("stat-", i, "-", j), "Stat", 12+float64(j)*70, 80, 60, 40, text(fmt.Sprint("sv-", i, "-", j), "Value", fmt.Sprint(i*7+j), 0, 0, 20), text(fmt.Sprint("sl-", i, "-", j), "Unit", "litres", 0, 24, 11))
	}
	head := func(i int) *design.Layer {
		return group(fmt.Sprint("head-", i), "Head", 12, 60, 90, 20, path(fmt.Sprint("hi-", i), "Icon", 0, 0, 16, "M0 0h9z"), text(fmt.Sprint("ht-", i), "Crop", fmt.Sprint("Leek ", i), 22, 0, 13))
	}
	got := survey.Read(one(card(0, 20, 20, head(0), stat(0, 0), stat(0, 1), stat(0, 2)), card(1, 320, 20, head(1), stat(1, 0), stat(1, 1), stat(1, 2))), survey.Options{}).Finds
	require.Len(t, got, 2, "cards, and stats in them; no heads")
	assert.Equal(t, "repeat:card-0", got[0].ID)
	assert.Equal(t, "repeat:stat-0-0", got[1].ID)
	assert.Equal(t, "repeat:card-0", got[1].Inside)
	assert.Equal(t, "list", propNamed(t, got[0], "stats").Kind)
	assert.Equal(t, []any{"7", "8", "9"}, propNamed(t, got[0], "stats").Values["card-1"])
}
