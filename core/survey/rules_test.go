package survey_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/design"
	"cobrik/core/survey"
)

func findsOf(doc *design.Document) []survey.Find { return survey.Read(doc, survey.Options{}).Finds }

func members(f survey.Find) (out []string) {
	for _, m := range f.Members {
		out = append(out, m.ID)
	}
	return out
}

func kindsOf(f survey.Find) map[string]int {
	out := map[string]int{}
	for _, p := range f.Props {
		out[p.Kind]++
	}
	return out
}

// What lies is not what stands, though both hold a line and a text.
func TestTicksOfTwoAxesAreTwoThings(t *testing.T) {
	var layers []*design.Layer
	for i := range 3 {
		n := float64(i)
		layers = append(layers, group(fmt.Sprint("y", i), "Tick", 20, 40+n*60, 400, 14, box(fmt.Sprint("yl", i), "Line", 0, 6, 370, 1), text(fmt.Sprint("yt", i), "Label", "10", 380, 0, 11)),
			group(fmt.Sprint("x", i), "Tick", 500+n*100, 40, 16, 300, box(fmt.Sprint("xl", i), "Line", 8, 0, 1, 280), text(fmt.Sprint("xt", i), "Label", "Mo", 0, 286, 11)))
	}
	got := findsOf(one(layers...))
	require.Len(t, got, 2)
	assert.ElementsMatch(t, [][]string{{"y0", "y1", "y2"}, {"x0", "x1", "x2"}}, [][]string{members(got[0]), members(got[1])})
}

// The same things, standing elsewhere, make another component.
func TestTheSameLayersInOtherPlacesAreAnotherThing(t *testing.T) {
	left := func(i int, x float64) *design.Layer {
		return box(fmt.Sprint("l", i), "A", x, 20, 240, 160, text(fmt.Sprint("lt", i), "T", "Bed", 10, 10, 14), text(fmt.Sprint("lu", i), "U", "Shed", 10, 34, 14), box(fmt.Sprint("lb", i), "B", 10, 60, 40, 40))
	}
	right := func(i int, x float64) *design.Layer {
		return box(fmt.Sprint("r", i), "A", x, 320, 240, 160, box(fmt.Sprint("rb", i), "B", 100, 4, 135, 90), text(fmt.Sprint("rt", i), "T", "Bed", 60, 108, 14), text(fmt.Sprint("ru", i), "U", "Shed", 120, 138, 14))
	}
	got := findsOf(one(left(0, 20), left(1, 300), right(0, 20), right(1, 300)))
	require.Len(t, got, 2)
}

func TestWhatHoldsACopyIsNone(t *testing.T) {
	inner := func(id string) *design.Layer {
		return box(id, "Inner", 10, 70, 200, 60, text(id+"t", "Title", "Bed", 10, 6, 16), text(id+"u", "Note", "Shed", 10, 30, 12))
	}
	outer := func(i int) *design.Layer {
		return box(fmt.Sprint("o", i), "Outer", 20+float64(i)*260, 20, 230, 150, text(fmt.Sprint("ot", i), "Title", "Bed", 10, 6, 16), text(fmt.Sprint("ou", i), "Note", "Shed", 10, 30, 12), inner(fmt.Sprint("i", i)))
	}
	got := findsOf(one(outer(0), outer(1)))
	require.Len(t, got, 1)
	assert.Equal(t, []string{"o0", "o1"}, members(got[0]))
}

func chips(i, n int, fill string) *design.Layer {
	g := group(fmt.Sprint("chips-", i), "Chips", 12, 80, float64(n)*50-6, 20)
	for j := range n {
		id := fmt.Sprint("chip-", i, "-", j)
		g.Children = append(g.Children, with(box(id, "Chip", float64(j)*50, 0, 44, 20, text(id+"-t", "Word", fmt.Sprint("w", i, j), 6, 3, 11)), func(l *design.Layer) { l.Fill = fill }))
	}
	return g
}

// More items of a list, and another order in the list of layers, are no difference of structure.
func TestLikenessOfListsAndOrders(t *testing.T) {
	turned := card(1, 320, 20, chips(1, 3, "#eeeeee"))
	c := turned.Children
	c[0], c[2] = c[2], c[0]
	got := findsOf(one(card(0, 20, 20, chips(0, 5, "#eeeeee")), turned, card(2, 620, 20, chips(2, 4, "#eeeeee"))))
	require.NotEmpty(t, got)
	require.Len(t, got[0].Members, 3)
	assert.InDelta(t, 1, got[0].Likeness, 1e-9)
	assert.Equal(t, "list", propNamed(t, got[0], "chips").Kind)
}

// A filled box that is painted over things is no ground of theirs.
func TestTheGroundIsPaintedFirst(t *testing.T) {
	var layers []*design.Layer
	for i := range 3 {
		x := 20 + float64(i)*200
		layers = append(layers, text(fmt.Sprint("t", i), "Word", "Bed", x+20, 40, 14), box(fmt.Sprint("b", i), "Cover", x, 20, 160, 60))
	}
	got := findsOf(one(layers...))
	require.Len(t, got, 1)
	assert.Equal(t, []string{"t0", "b0"}, got[0].Members[0].Layers)
}

func TestThreeThingsInARowAreOne(t *testing.T) {
	var layers []*design.Layer
	for i := range 4 {
		y := 40 + float64(i)*40
		layers = append(layers, path(fmt.Sprint("i", i), "Icon", 20, y, 16, "M0 0h9z"), text(fmt.Sprint("w", i), "Word", "Bed", 46, y, 14), text(fmt.Sprint("n", i), "Count", "12", 80, y+1, 11))
	}
	got := findsOf(one(layers...))
	require.Len(t, got, 1)
	require.Len(t, got[0].Members, 4)
	assert.ElementsMatch(t, []string{"i2", "w2", "n2"}, got[0].Members[2].Layers)
}

func TestTwoThatHappenToStandBesideEachOtherAreNone(t *testing.T) {
	at := [][4]float64{{20, 20, 46, 20}, {20, 120, 46, 120}, {300, 60, 520, 300}, {430, 260, 80, 400}, {700, 40, 610, 210}}
	var layers []*design.Layer
	for i, a := range at {
		layers = append(layers, path(fmt.Sprint("i", i), "Icon", a[0], a[1], 16, fmt.Sprintf("M0 0h%dz", i+1)), text(fmt.Sprint("w", i), "Word", "Bed", a[2], a[3], 14))
	}
	assert.Empty(t, findsOf(one(layers...)))
}

func TestAFrameAsLargeAsItsPageIsNoFind(t *testing.T) {
	frame := func(i int) *design.Page {
		return page(fmt.Sprint("p", i), fmt.Sprint("Page ", i), 900, box(fmt.Sprint("frame-", i), "Frame", 0, 0, 900, 900, card(2*i, 20, 20), card(2*i+1, 320, 20)))
	}
	got := findsOf(document([]*design.Page{frame(0), frame(1)}))
	require.Len(t, got, 1)
	assert.Equal(t, []string{"card-0", "card-1", "card-2", "card-3"}, members(got[0]))
}

// Rows in a copy are its list, and no find beside it.
func TestListsInCopiesAreNotToldAgain(t *testing.T) {
	row := func(i int) *design.Layer {
		g := group(fmt.Sprint("links-", i), "Links", 12, 80, 180, 16)
		for j := range 4 {
			g.Children = append(g.Children, text(fmt.Sprint("link-", i, j), "Link", "More", float64(j)*44, 0, 12))
		}
		return g
	}
	got := findsOf(one(card(0, 20, 20, row(0)), card(1, 320, 20, row(1))))
	require.Len(t, got, 1)
	assert.Len(t, got[0].Members, 2)
}

func TestParagraphsAreNoList(t *testing.T) {
	tall := func(id string, y, h float64) *design.Layer {
		return with(text(id, "P", "Words and words "+id, 40, y, 14), func(l *design.Layer) { l.Bounds.Height = h })
	}
	assert.Empty(t, findsOf(one(tall("a", 40, 40), tall("b", 90, 80), tall("c", 180, 60))))
	assert.Len(t, findsOf(one(tall("a", 40, 20), tall("b", 70, 20), tall("c", 100, 20))), 1, "lines at even distances are")
}

// What every variant of a family shows is drawn once for each, not found.
func TestVariantsDoNotRepeatThemselves(t *testing.T) {
	root := func(id string) *design.Layer {
		return box(id, "Panel", 0, 0, 300, 200, group(id+"h", "Head", 10, 10, 200, 30, path(id+"i", "Icon", 0, 0, 16, "M0 0h9z"), text(id+"t", "Title", "Bed", 24, 0, 16)))
	}
	assert.Empty(t, findsOf(document(nil, family("f", "Panel", root("a"), root("b"), root("c")))))
	holding := func(id string) *design.Layer {
		return box(id, "Shelf", 0, 0, 300, 200, useOf(id+"u", "f", 10, 10, 99, 66))
	}
	uses := survey.Read(document(nil, family("f", "Panel", root("a")), family("g", "Shelf", holding("d"), holding("e"))), survey.Options{}).Families[0].Uses
	assert.Len(t, uses, 1)
}

func TestABarIsNoCopyOfATag(t *testing.T) {
	tag := family("tag", "Crop tag", box("tag", "Crop tag", 0, 0, 90, 32, path("ti", "Icon", 8, 8, 16, "M0 0h9z"), text("tt", "Label", "Ripe", 30, 8, 13)))
	bar := box("bar", "Top bar", 0, 0, 390, 56, path("bi", "Icon", 8, 20, 16, "M0 0h9z"), text("bt", "Label", "Ripe", 30, 20, 13))
	assert.Empty(t, findsOf(document([]*design.Page{page("p", "Page", 390, bar)}, tag)))
}

func TestPlacesOfPlainKinds(t *testing.T) {
	read := func(cards ...*design.Layer) survey.Find {
		t.Helper()
		got := findsOf(one(cards...))
		require.NotEmpty(t, got)
		require.Len(t, got[0].Members, len(cards))
		return got[0]
	}
	t.Run("a container of unlike things is a slot", func(t *testing.T) {
		icons := group("c0", "Content", 12, 70, 60, 50, text("c0a", "P", "Sow", 0, 0, 20), text("c0b", "Q", "Plant", 0, 30, 9))
		held := func(id string, x float64) *design.Layer {
			return box(id, id, x, 0, 50, 40, path(id+"i", "I", 4, 4, 12, "M0 0h9z"), text(id+"t", "T", "7", 20, 4, 30))
		}
		words := group("c1", "Content", 12, 70, 180, 40, held("c1a", 0), box("c1d", "D", 56, 0, 40, 30), held("c1b", 110))
		f := read(card(0, 20, 20, icons), card(1, 320, 20, words))
		assert.Equal(t, map[string]int{"slot": 1, "text": 1}, kindsOf(f), "and not what happens to be in it")
	})
	t.Run("two of different names are two", func(t *testing.T) {
		pair := func(i int) []*design.Layer {
			half := func(name string, x float64, word string) *design.Layer {
				return box(fmt.Sprint(name, i), name, x, 80, 60, 30, text(fmt.Sprint(name, i, "t"), name+" word", word, 6, 6, 12))
			}
			return []*design.Layer{half("Sun", 12, fmt.Sprint("s", i)), half("Rain", 90, fmt.Sprint("r", i))}
		}
		f := read(card(0, 20, 20, pair(0)...), card(1, 320, 20, pair(1)...))
		assert.Zero(t, kindsOf(f)["list"])
		assert.Equal(t, 3, kindsOf(f)["text"])
	})
	t.Run("a list of none is a list", func(t *testing.T) {
		flat := func(i, n int) []*design.Layer { return chips(i, n, "#eeeeee").Children }
		down := func(list []*design.Layer) []*design.Layer {
			for _, l := range list {
				l.Bounds.Y = 100
			}
			return list
		}
		f := read(card(0, 20, 20, down(flat(0, 3))...), card(1, 320, 20, down(flat(1, 4))...), card(2, 620, 20))
		assert.Equal(t, 1, kindsOf(f)["list"])
		assert.Zero(t, kindsOf(f)["flag"])
		for _, p := range f.Props {
			if p.Kind == "list" {
				assert.Equal(t, []any{}, p.Values["card-2"])
			}
		}
	})
	t.Run("a hair's breadth is no number", func(t *testing.T) {
		meter := func(i int, share float64) *design.Layer {
			return box(fmt.Sprint("track-", i), "Track", 12, 100, 180, 8, box(fmt.Sprint("fill-", i), "Fill", 0, 0, 180*share, 8))
		}
		assert.Zero(t, kindsOf(read(card(0, 20, 20, meter(0, 0.25)), card(1, 320, 20, meter(1, 0.27))))["number"])
	})
	t.Run("what all items of a copy have is the copy's", func(t *testing.T) {
		f := read(card(0, 20, 20, chips(0, 3, "#ffdddd")), card(1, 320, 20, chips(1, 3, "#ddffdd")), card(2, 620, 20, chips(2, 4, "#ffdddd")))
		tone := propNamed(t, f, "tone")
		assert.Equal(t, tone.Values["card-0"], tone.Values["card-2"])
		assert.NotEqual(t, tone.Values["card-0"], tone.Values["card-1"])
		assert.Equal(t, []any{"w1 0", "w1 1", "w1 2"}, propNamed(t, f, "chips").Values["card-1"])
	})
	t.Run("the one here and the other there are two flags", func(t *testing.T) {
		f := read(card(0, 20, 20, path("sign", "Sign", 190, 8, 20, "M0 0h9z")), card(1, 320, 20, box("bed", "Meter", 12, 100, 60, 20, text("bt", "Word", "7", 4, 2, 11))))
		assert.Equal(t, 2, kindsOf(f)["flag"])
		assert.Zero(t, kindsOf(f)["slot"])
	})
	t.Run("a colour of its own for each explains nothing else", func(t *testing.T) {
		mark := func(i int, fill string, weight float64) *design.Layer {
			c := card(i, 20+float64(i)*260, 20, with(box(fmt.Sprint("m", i), "Mark", 180, 100, 20, 20), func(l *design.Layer) { l.Fill = fill }))
			c.Children[0].Text.FontWeight = weight
			return c
		}
		f := read(mark(0, "#ff0000", 700), mark(1, "#00ff00", 400), mark(2, "#0000ff", 400))
		assert.Len(t, propNamed(t, f, "emphasis").Options, 2)
		assert.Len(t, propNamed(t, f, "tone").Options, 3)
	})
	t.Run("lengths that are nearly the same, and those that are all unlike, are none", func(t *testing.T) {
		round := func(radii ...float64) survey.Find {
			var cards []*design.Layer
			for i, r := range radii {
				cards = append(cards, with(card(i, 20+float64(i)*260, 20), func(l *design.Layer) { l.Radius = []float64{r} }))
			}
			return read(cards...)
		}
		assert.Zero(t, kindsOf(round(4, 6, 4))["choice"])
		assert.Equal(t, []string{"small", "large"}, propNamed(t, round(4, 12, 4), "shape").Options)
		assert.Zero(t, kindsOf(round(0, 6, 12, 18, 24, 30))["choice"])
	})
}

// Bars that are drawn as paths are bars; an icon of three strokes is one drawing.
func TestPathsInARow(t *testing.T) {
	bars := func(scale float64) *design.Layer {
		g := group("bars", "Bars", 40, 40, 300*scale, 100*scale)
		for i, high := range []float64{40, 90, 60, 100, 20} {
			p := path(fmt.Sprint("bar-", i), "Bar", float64(i)*60*scale, (100-high)*scale, 0, "M0 0h9v9z")
			p.Bounds.Width, p.Bounds.Height = 40*scale, high*scale
			g.Children = append(g.Children, p)
		}
		return g
	}
	got := findsOf(one(bars(1)))
	require.Len(t, got, 1)
	assert.Equal(t, survey.List, got[0].Kind)
	assert.Len(t, got[0].Members, 5)
	assert.Empty(t, findsOf(one(bars(0.1))))
}

// Six meters in a row are meters, not pictures of a gallery.
func TestThingsAlikeInAGridAreNoPictures(t *testing.T) {
	var layers []*design.Layer
	for i := range 6 {
		layers = append(layers, group(fmt.Sprint("m", i), "Meter", 40+float64(i)*140, 40, 120, 20, box(fmt.Sprint("t", i), "Track", 0, 0, 120, 20, box(fmt.Sprint("f", i), "Fill", 0, 0, 20+float64(i)*15, 20)), box(fmt.Sprint("k", i), "Knob", 110, 5, 8, 10)))
	}
	got := findsOf(one(layers...))
	require.Len(t, got, 1)
	assert.Equal(t, 1, kindsOf(got[0])["number"])
}

func TestPagesThatHaveLittleInCommonAreNotPaired(t *testing.T) {
	says := func(id, name string, width float64, words ...string) *design.Page {
		s := box(id+"s", name+" section", 20, 20, 300, 300)
		for i, w := range words {
			s.Children = append(s.Children, text(id+w, "Text"+w, w, 10, 10+float64(i)*30, 14+float64(i)))
		}
		return page(id, name, width, s)
	}
	same := survey.Read(document([]*design.Page{says("a", "Start", 1440, "Beds", "Sheds", "Canal"), says("b", "Entry", 1440, "Beds", "Sheds", "Canal")}), survey.Options{}).Widths
	assert.Empty(t, same, "one width is no two")
	paired := survey.Read(document([]*design.Page{
		page("w", "Plots", 1440, box("w1", "Lead", 20, 20, 900, 100, text("w1a", "A", "Beds", 0, 0, 20), text("w1b", "B", "Rest", 0, 30, 12), text("w1c", "C", "Sow", 0, 60, 9))),
		page("n", "Plots narrow", 390, box("n1", "Foot", 20, 500, 300, 300, text("n1a", "D", "Join", 0, 0, 11), text("n1b", "E", "Rest", 40, 30, 16), path("n1c", "F", 0, 90, 80, "M0 0z"))),
	}), survey.Options{}).Widths
	require.Len(t, paired, 1)
	assert.Len(t, paired[0].Pieces, 2, "one word in common does not make them one")
}

// What is nearly alike in two families is no find of its own: there is too much of that.
func TestFamiliesShareLittleThings(t *testing.T) {
	head := func(id string, more ...*design.Layer) *design.Layer {
		return box(id, "Panel", 0, 0, 300, 200, group(id+"h", "Head", 10, 10, 200, 60, append([]*design.Layer{text(id+"t", "Title", "Bed", 0, 0, 16), text(id+"u", "Note", "Shed", 0, 24, 12), text(id+"w", "When", "Soon", 0, 44, 9)}, more...)...), box(id+"x", "Foot", 0, 180, 300, 20, path(id+"z", id, 4, 4, 12, "M0 0z")))
	}
	a, b := family("a", "Panel", head("a")), family("b", "Shelf", head("b", path("bi", "Icon", 180, 0, 20, "M0 0h9z")))
	b.Variants[0].Root.Children = b.Variants[0].Root.Children[:1]
	assert.Empty(t, findsOf(document(nil, a, b)))
}

// What is well, though it looks like a slip.
func TestNoDoubtWithoutACause(t *testing.T) {
	rules := func(options survey.Options, doc *design.Document) (out []string) {
		for _, d := range survey.Read(doc, options).Doubts {
			out = append(out, d.Rule)
		}
		return out
	}
	gap := func(id string, y float64) *design.Layer {
		return with(box(id, "Plot", 10, y, 90, 60, box(id+"x", "X", 8, 8, 20, 20)), func(l *design.Layer) { l.Flow = &design.Flow{Direction: "row", Gap: 13} })
	}
	assert.NotContains(t, rules(survey.Options{Tokens: tokens(t)}, one(gap("a", 10), gap("b", 210))), "value-off-scale", "used twice, it may be meant")
	assert.Contains(t, rules(survey.Options{Tokens: tokens(t)}, one(gap("a", 10))), "value-off-scale")
	clear := with(box("c", "C", 10, 300, 300, 20), func(l *design.Layer) { l.Fill = "#fefefe80" })
	assert.NotContains(t, rules(survey.Options{}, one(box("a", "A", 10, 10, 90, 60), clear)), "colors-near", "one lets through what is behind it")
	sizes := one(text("t", "Title", "Beds", 10, 10, 20), text("u", "Title", "Sheds", 10, 160, 20), text("v", "Title", "Canal", 10, 330, 21), text("w", "Title", "Rota", 10, 430, 21))
	assert.NotContains(t, rules(survey.Options{}, sizes), "text-sizes", "neither is the rule")
	assert.NotContains(t, rules(survey.Options{}, one(group("g", "Plot", 10, 10, 50, 40, box("o", "Wide", 20, 0, 90, 20)))), "layer-outside", "a group is as large as what it holds")
}

// Columns of links that nobody grouped are lists, the longer ones whole.
func TestListsGoOnToTheirEnd(t *testing.T) {
	var layers []*design.Layer
	for c, n := range []int{3, 5, 2} {
		x := 40 + float64(c)*200
		layers = append(layers, text(fmt.Sprint("head-", c), "Head", fmt.Sprint("Part ", c), x, 40, 18))
		for k := range n {
			layers = append(layers, text(fmt.Sprint("link-", c, "-", k), "Link", fmt.Sprint("go ", c, k), x, 72+float64(k)*24, 13))
		}
	}
	layers = append(layers, text("far", "Link", "elsewhere", 240, 500, 13))
	got := findsOf(one(layers...))
	require.Len(t, got, 1)
	require.Len(t, got[0].Members, 3)
	assert.Len(t, got[0].Members[1].Layers, 6)
	assert.Len(t, got[0].Members[2].Layers, 3)
	assert.Equal(t, "list", propNamed(t, got[0], "links").Kind)
}

// Columns of a table are props of their own, though their texts look alike; links beside each other are a list.
func TestColumnsAreNoList(t *testing.T) {
	row := func(i int, gap float64, words ...string) *design.Layer {
		l := box(fmt.Sprint("row-", i), "Row", 20, 40+float64(i)*60, 760, 44)
		x := 12.0
		for k, w := range words {
			one := text(fmt.Sprint("cell-", i, "-", k), "Cell", w, x, 14, 14)
			l.Children = append(l.Children, one)
			if x += 200; gap > 0 {
				x = one.Bounds.X + one.Bounds.Width + gap
			}
		}
		return l
	}
	table := findsOf(one(row(0, 0, "Ines", "Plot 41", "2019"), row(1, 0, "Marek Long", "Plot 7", "20"), row(2, 0, "Odile", "Plot 103", "2022")))
	require.Len(t, table, 1)
	assert.Equal(t, map[string]int{"text": 2, "number": 1}, kindsOf(table[0]))
	links := findsOf(one(row(0, 16, "Plots", "Seed swap", "Rota"), row(1, 16, "Beds", "Tools", "Join us")))
	require.Len(t, links, 1)
	assert.Equal(t, map[string]int{"list": 1}, kindsOf(links[0]))
}

// A use that lost its tie says other words, in the same type and paint.
func TestACopyOfASmallFamily(t *testing.T) {
	badge := func(id, word string) *design.Layer {
		return with(box(id, "Group 3", 40, 40, 60, 20, text(id+"t", word, word, 10, 4, 11)), func(l *design.Layer) { l.Radius = []float64{3} })
	}
	f := badge("root", "ripe")
	f.Name = "Badge"
	page := func(l *design.Layer) []*design.Page { return []*design.Page{page("p", "Page", 900, l)} }
	got := findsOf(document(page(badge("lost", "sown")), family("badge", "Badge", f)))
	require.Len(t, got, 1)
	assert.Equal(t, survey.Copies, got[0].Kind)
	inked := badge("other", "sown")
	inked.Fill, inked.Children[0].Fill = "#226622", "#ffffff"
	assert.Empty(t, findsOf(document(page(inked), family("badge", "Badge", f))))
}

// What people mark is one thing, though it is there once, or hangs together in no way; what is like it is found with it.
func TestWhatIsMarkedIsAFind(t *testing.T) {
	heap := func(id string, x, y float64) []*design.Layer {
		return []*design.Layer{text(id+"t", "Title", "Beds "+id, x, y, 18), text(id+"n", "Note", "Ines", x+260, y+70, 12), path(id+"i", "Icon", x+130, y+150, 24, "M0 0h9z")}
	}
	single := one(heap("a", 40, 40)...)
	assert.Empty(t, findsOf(single))
	marked := survey.Options{Marked: [][]string{{"at", "an", "ai"}}}
	got := survey.Read(single, marked).Finds
	require.Len(t, got, 1)
	assert.Equal(t, [][]string{{"at", "an", "ai"}}, layersOf(got[0]))
	assert.Equal(t, []string{"at", "an", "ai"}, got[0].Members[0].Made)
	model, ok := got[0].Model(nil)
	assert.True(t, ok)
	assert.Equal(t, []string{"an", "ai"}, model.Origin("hand", 1).With)

	card := one(box("ground", "Plot", 40, 40, 300, 200), text("gt", "Title", "Beds", 60, 60, 18), text("gn", "Note", "Ines", 60, 90, 12), box("gx", "Mark", 60, 160, 40, 40))
	got = survey.Read(card, survey.Options{Marked: [][]string{{"gn", "gt"}}}).Finds
	require.Len(t, got, 1, "on a ground, too")
	assert.ElementsMatch(t, []string{"gt", "gn"}, got[0].Members[0].Layers)

	two := one(append(heap("a", 40, 40), heap("b", 40, 440)...)...)
	got = survey.Read(two, survey.Options{Marked: [][]string{{"at", "an", "ai"}, {"bt", "bn", "bi"}}}).Finds
	require.Len(t, got, 1)
	assert.Len(t, got[0].Members, 2)
	assert.Equal(t, "text", propNamed(t, got[0], "title").Kind)
	many := []*design.Layer{}
	for i := range 8 {
		many = append(many, heap(fmt.Sprint("m", i), 20+float64(i%3)*300, 20+float64(i/3)*280)...)
	}
	got = survey.Read(one(many...), survey.Options{Marked: [][]string{{"m3t", "m3n"}}}).Finds
	assert.NotEmpty(t, got, "among many others")
	got = survey.Read(single, survey.Options{Marked: [][]string{{"at", "gone"}}}).Finds
	assert.Empty(t, got, "what is not there any more is no find")
}

// What is too large for the distance of trees is not told to be the same.
func TestLikenessOfWhatIsVeryLarge(t *testing.T) {
	large := func(id string, n int, last *design.Layer) *design.Layer {
		l := box(id, "Board", 20, 20, 800, 800)
		for i := range n { // each of a size of its own, so that none stands for another
			l.Children = append(l.Children, text(fmt.Sprint(id, i), "T", "w", float64(i%20)*40, float64(i/20)*30, 8+float64(i)/20))
		}
		l.Children = append(l.Children, last)
		return l
	}
	a, b := large("a", 320, path("ai", "I", 700, 700, 20, "M0 0h9z")), large("b", 320, box("bi", "I", 700, 700, 20, 20))
	got := findsOf(document([]*design.Page{page("p", "One", 2000, a), page("q", "Two", 2000, b)}))
	require.Len(t, got, 1)
	assert.Less(t, got[0].Likeness, 1.0)
	assert.Greater(t, got[0].Likeness, 0.9)
}
