package trial_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/layout"
	"cobrik/core/trial"
)

// pagesOf gives the pages of a design by their ids.
func pagesOf(d trial.Design, ids ...string) (out []*design.Page) {
	for _, id := range ids {
		for _, p := range d.Document.Pages {
			if p.ID == id {
				out = append(out, p)
			}
		}
	}
	return out
}

func TestTheDrawnPagesAreTakenOver(t *testing.T) {
	d, reading, _ := furrow(t, 2)
	for _, w := range reading.Widths {
		taken := trial.Take(d, pagesOf(d, w.Pages...))
		text := trial.Text(taken.Rows)
		rows, found := trial.Parse(text)
		require.Empty(t, found, "%s is taken over as an outline that cannot be read:\n%s", w.Name, text)
		assert.Equal(t, text, trial.Text(rows))
	}
}

func TestUsesAndCopiesBecomeUses(t *testing.T) {
	d, _, _ := furrow(t, 2)
	text := trial.Text(trial.Take(d, pagesOf(d, "plots")).Rows)
	assert.Equal(t, 6, strings.Count(text, "PlotCard"), "six cards are drawn:\n%s", text)
	assert.Contains(t, text, `title="Plot 12" holder="Marek · Squash" tone=ripe label="Ripe"`, "what a copy says, and the tag inside of it, is lost")
	assert.Contains(t, text, `h1 "Plots"`)
	assert.Contains(t, text, "grid columns=3 gap={space.6}", "sections are no primitives")
	assert.Contains(t, text, `gap "Top bar" height=56px`, "what nothing is there for leaves no gap")
	swap := trial.Text(trial.Take(d, pagesOf(d, "seed-swap")).Rows)
	assert.Contains(t, swap, "PageShell", swap)
	assert.Contains(t, swap, "\n    grid columns=2", "what lies on a use with a slot stands in the slot")
	assert.Contains(t, swap, `SeedOffer picture=picture-1`)
	assert.Contains(t, swap, "  stack gap={space.6} box-sizing=border-box padding-block=\"16px 0px\" width=100%\n", "what stands in a slot is as narrow as its content, or aligned for nothing")
}

func TestWhatIsLeftIsSaid(t *testing.T) {
	d, _, _ := furrow(t, 2)
	d.Like = func(l *design.Layer) []trial.Near { return []trial.Near{{"PageShell", 0.62}, {"ToolRow", 0.4}} }
	taken := trial.Take(d, pagesOf(d, "plots"))
	assert.Equal(t, []string{"Top bar is left as a gap; the nearest there is: PageShell (62 %), ToolRow (40 %)."}, taken.Needs)
	assert.Contains(t, trial.Text(taken.Rows), "like=PageShell,ToolRow")
	d.Components = nil
	taken = trial.Take(d, pagesOf(d, "tool-shed"))
	assert.Contains(t, strings.Join(taken.Needs, "\n"), "ToolRow is left as a gap: draft its family first.")
	d.Finds = map[string]string{"plots-bar-1": "TopBar"}
	assert.Contains(t, strings.Join(trial.Take(d, pagesOf(d, "plots")).Needs, "\n"), "Top bar is left as a gap: draft the find TopBar of the survey.")
}

func TestTwoDrawingsBecomeOnePage(t *testing.T) {
	d, _, _ := furrow(t, 2)
	text := trial.Text(trial.Take(d, pagesOf(d, "plots-narrow", "plots")).Rows)
	assert.Contains(t, text, "grid columns=3 gap={space.6} align=start\n      below 768 stack gap={space.6}\n", text)
	assert.Contains(t, text, `max-width="calc(1200px + 2 * {space.6})" margin-inline=auto`, "between the two drawings the page has the room of the wide one")
	assert.Equal(t, 3, strings.Count(text, "below 768 hidden"), "three of the cards are drawn at one width alone:\n%s", text)
	join := trial.Text(trial.Take(d, pagesOf(d, "join", "join-narrow")).Rows)
	rows, _ := trial.Parse(join)
	groups := trial.Versions(rows)
	require.Len(t, groups, 1, "what is arranged in another way has a version for each:\n%s", join)
	assert.Empty(t, groups[0].Gaps)
	assert.Empty(t, groups[0].Overlaps)
}

// drawnPage is a page of things in stacks and rows, as one draws without flow.
func drawnPage(r *rand.Rand) (*design.Page, []string) {
	var names []string
	var place func(depth int, x, y float64) (list []*design.Layer, w, h float64)
	n := 0
	place = func(depth int, x, y float64) (list []*design.Layer, w, h float64) {
		if depth == 0 {
			n++
			name := fmt.Sprintf("Thing %d", n)
			names = append(names, name)
			return []*design.Layer{{ID: fmt.Sprint("t", n), Name: name, Kind: design.Box, Bounds: design.Rect{X: x, Y: y, Width: 60, Height: 20}, Fill: "#eeeeee"}}, 60, 20
		}
		gap := float64(8 * depth * depth)
		row := depth%2 == 0
		for i := range 2 + r.IntN(2) {
			dx, dy := 0.0, 0.0
			if i > 0 && row {
				dx = w + gap
			} else if i > 0 {
				dy = h + gap
			}
			inside, iw, ih := place(depth-1, x+dx, y+dy)
			list = append(list, inside...)
			w, h = max(w, dx+iw), max(h, dy+ih)
		}
		return list, w, h
	}
	list, w, h := place(1+r.IntN(3), 16, 16)
	return &design.Page{ID: "p", Name: "P", Width: w + 32, Height: h + 32, Layers: list}, names
}

// What is taken over, laid out again by the solver at the width it was drawn at, is where it was drawn.
func TestWhatIsTakenOverIsWhereItWasDrawn(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	d, _, _ := furrow(t, 2)
	checked := 0
	for range 60 {
		page, names := drawnPage(r)
		read, _ := layout.Infer(&design.Layer{ID: "r", Kind: design.Box, Bounds: design.Rect{Width: page.Width, Height: page.Height}, Children: page.Layers}, layout.InferOptions{})
		taken := trial.Take(d, []*design.Page{page})
		text := trial.Text(taken.Rows)
		if read.Residual > 4 { // what it is read as is not where it is drawn
			assert.Contains(t, strings.Join(taken.Needs, "\n"), "beside its drawing", "a page that is laid out elsewhere is taken over without a word")
			continue
		}
		checked++
		for _, name := range names {
			require.Equal(t, 1, strings.Count(text, `"`+name+`"`), text)
		}
		w := world(t)
		made := trial.Compile(w, taken.Rows)
		require.Empty(t, made.Found, text)
		solved, bad := layout.Solve(contract.Resolve(made.Contract, contract.EnvOf(made.Values), w.Tokens).Boxes(), layout.Options{Width: page.Width, Fonts: d.Fonts})
		require.Empty(t, bad)
		at := map[string]design.Rect{}
		var walk func(n *layout.Node)
		walk = func(n *layout.Node) {
			if n.Text != "" {
				at[n.Text] = design.Rect{X: n.Box.X, Y: n.Box.Y}
			}
			for _, c := range n.Children {
				walk(c)
			}
		}
		walk(solved)
		for _, l := range page.Layers {
			assert.InDelta(t, l.Bounds.X, at[l.Name].X, 1, "%s of\n%s", l.Name, text)
			assert.InDelta(t, l.Bounds.Y, at[l.Name].Y, 1, "%s of\n%s", l.Name, text)
		}
	}
	assert.Greater(t, checked, 50)
}

func TestPiecesAreWhereTheyAreDrawn(t *testing.T) {
	d, _, _ := furrow(t, 2)
	pieces := trial.Pieces(d, pagesOf(d, "seed-swap")[0])
	byName := map[string]trial.Drawn{}
	for _, p := range pieces {
		if _, there := byName[p.Component+p.Name]; !there {
			byName[p.Component+p.Name] = p
		}
	}
	assert.Equal(t, design.Rect{X: 208, Y: 160, Width: 504, Height: 154}, byName["SeedOfferSeedOffer"].Box, "what stands in a slot is looked for elsewhere than it is drawn")
	assert.Contains(t, byName["SeedOfferSeedOffer"].Text, "Twelve seeds")
	assert.Equal(t, design.Rect{Width: 1440, Height: 560}, byName["PageShellPageShell"].Box)
}

func TestASwappedCopySaysWhatItSays(t *testing.T) {
	d, _, _ := furrow(t, 2)
	said := trial.Copy{Layers: []string{"plots-card-15"}, Component: d.Components("plot-card"), Said: map[string]any{"title": "Said", "tone": "ripe", "gone": 1}}
	d.Copies = append([]trial.Copy{said}, d.Copies[1:]...)
	text := trial.Text(trial.Take(d, pagesOf(d, "plots")).Rows)
	assert.Contains(t, text, `PlotCard title="Said" tone=ripe`, "what people took as a use says what was read of it then:\n%s", text)
}

func TestWhatIsLargerInOneDrawingAloneIsTakenBack(t *testing.T) {
	d, _, _ := furrow(t, 2)
	assert.Contains(t, trial.Text(trial.Take(d, pagesOf(d, "rota", "rota-narrow")).Rows), "NoticeBoard tone=look width=480px\n        below 768 width=auto\n")
}

// things are boxes at places, as one draws without flow.
func things(at ...design.Rect) (out []*design.Layer) {
	for i, r := range at {
		out = append(out, &design.Layer{ID: fmt.Sprint("x", i), Name: fmt.Sprint("Thing ", i), Kind: design.Box, Bounds: r, Fill: "#eeeeee"})
	}
	return out
}

func TestAListThatIsShorterInOneDrawingIsTheSameList(t *testing.T) {
	d, _, _ := furrow(t, 2)
	wide, narrow := []design.Rect{box(0, 0, 1400, 40)}, []design.Rect{box(0, 0, 300, 40)}
	for i := range 12 {
		wide = append(wide, box(float64(i%4)*350, 80+float64(i/4)*120, 320, 100))
		if i < 2 {
			narrow = append(narrow, box(0, 80+float64(i)*120, 300, 100))
		}
	}
	text := trial.Text(trial.Take(d, []*design.Page{{ID: "w", Name: "W", Width: 1400, Height: 460, Layers: things(wide...)}, {ID: "n", Name: "N", Width: 300, Height: 320, Layers: things(narrow...)}}).Rows)
	for i := range 13 {
		assert.Equal(t, 1, strings.Count(text, fmt.Sprintf("%q", fmt.Sprint("Thing ", i))), "thing %d is there twice, or not:\n%s", i, text)
	}
}

func TestLooseLayersAreOneCopy(t *testing.T) {
	d, _, _ := furrow(t, 2)
	page := &design.Page{ID: "p", Name: "P", Width: 400, Height: 200, Layers: things(box(10, 10, 100, 20), box(10, 40, 100, 20), box(10, 100, 100, 20))}
	d.Copies = []trial.Copy{{Layers: []string{"x0", "x1"}, Component: d.Components("crop-tag"), Said: map[string]any{}}}
	text := trial.Text(trial.Take(d, []*design.Page{page}).Rows)
	assert.Equal(t, 1, strings.Count(text, "CropTag"), text)
	pieces := trial.Pieces(d, page)
	require.Len(t, pieces, 2)
	assert.Equal(t, box(10, 10, 100, 50), pieces[0].Box, "a copy of several layers is as large as the first")
}

func TestACopyIsOfTheVariantItLooksLike(t *testing.T) {
	d, _, _ := furrow(t, 2)
	f := d.Document.Family("crop-tag")
	tried := 0
	for _, v := range f.Variants {
		root := *v.Root
		root.ID, root.Bounds.X, root.Bounds.Y = "copy", 20, 20
		page := &design.Page{ID: "p", Name: "P", Width: 400, Height: 200, Layers: []*design.Layer{&root}}
		d.Copies = []trial.Copy{{Layers: []string{"copy"}, Component: d.Components("crop-tag")}}
		text := trial.Text(trial.Take(d, []*design.Page{page}).Rows)
		for _, a := range f.Axes {
			if a.Name == "Tone" && v.Choices[a.Name] != a.Default {
				tried++
				assert.Contains(t, text, "="+strings.ToLower(v.Choices[a.Name]), "%v is taken for another", v.Choices)
			}
		}
	}
	assert.Positive(t, tried)
}

func TestWhatIsPaintedIsNotTakenApart(t *testing.T) {
	d, _, _ := furrow(t, 2)
	words := func(fill string) string {
		return trial.Text(trial.Take(d, []*design.Page{{ID: "p", Name: "P", Width: 400, Height: 200, Layers: []*design.Layer{{ID: "b", Name: "Banner", Kind: design.Box, Fill: fill, Bounds: box(0, 0, 400, 60), Children: []*design.Layer{
			{ID: "t", Name: "Says", Kind: design.Text, Bounds: box(10, 10, 60, 20), Text: &design.TextContent{Content: "Open day", FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}}}}}}}).Rows)
	}
	assert.Contains(t, words("#ffeecc"), `gap "Banner"`, "a painted box is a thing of its own")
	assert.Contains(t, words(""), `p "Open day"`, "a group of texts is no thing that nothing is there for")
}

func TestAPaintedBoxWithAUseInsideIsTakenApart(t *testing.T) {
	d, _, _ := furrow(t, 2)
	panel := &design.Layer{ID: "b", Name: "Panel", Kind: design.Box, Fill: "#ffeecc", Bounds: box(0, 0, 400, 60), Children: things(box(10, 10, 100, 20))}
	d.Copies = []trial.Copy{{Layers: []string{"x0"}, Component: d.Components("crop-tag"), Said: map[string]any{}}}
	text := trial.Text(trial.Take(d, []*design.Page{{ID: "p", Name: "P", Width: 400, Height: 200, Layers: []*design.Layer{panel}}}).Rows)
	assert.Contains(t, text, "CropTag", "the use inside of a painted panel is lost")
	assert.NotContains(t, text, `gap "Panel"`)
}

func TestOnlyABoxBehindWhatIsKnownIsABackground(t *testing.T) {
	d, _, _ := furrow(t, 2)
	taken := func(over *design.Layer) string {
		return trial.Text(trial.Take(d, []*design.Page{{ID: "p", Name: "P", Width: 400, Height: 200, Layers: append(things(box(0, 0, 200, 100)), over)}}).Rows)
	}
	text := &design.Layer{ID: "t", Name: "Says", Kind: design.Text, Bounds: box(20, 20, 60, 20), Text: &design.TextContent{Content: "Open day", FontFamily: "Hanken Grotesk", FontSize: 14, FontWeight: 400, LineHeight: 20}}
	assert.NotContains(t, taken(text), `gap "Thing 0"`, "what stands behind a text is a gap")
	assert.Contains(t, taken(&design.Layer{ID: "u", Name: "Sign", Kind: design.Box, Fill: "#333333", Bounds: box(20, 20, 60, 20)}), `gap "Thing 0"`, "what nothing is there for is lost as a background")
}

func TestCopiesSayWhatTheirModelSays(t *testing.T) {
	d, _, _ := furrow(t, 2)
	origin := contract.Origin{Document: d.Document.ID, Layer: "plots-bar-1"}
	bar, _, _ := draft.Of(d.Document, origin, "TopBar", d.Tokens, d.Fonts, d.Components)
	require.NotNil(t, bar)
	d.Copies = []trial.Copy{{Layers: []string{"tool-shed-bar-1"}, Component: bar, Said: map[string]any{}}}
	assert.Contains(t, trial.Text(trial.Take(d, pagesOf(d, "tool-shed")).Rows), `"label":"Seed swap"`, "a list that all copies have alike is lost")
}

// Where things stand at each of three widths is where they are drawn there.
func TestThreeDrawingsBecomeOnePage(t *testing.T) {
	d, _, _ := furrow(t, 2)
	drawn := func(width float64, columns int) *design.Page {
		gap := 20.0
		w := (width - 40 - gap*float64(columns-1)) / float64(columns)
		at := []design.Rect{box(20, 20, width-40, 40)}
		for i := range 8 {
			at = append(at, box(20+float64(i%columns)*(w+gap), 80+float64(i/columns)*120, w, 100))
		}
		return &design.Page{ID: fmt.Sprint("p", width), Name: "P", Width: width, Height: 80 + float64((8+columns-1)/columns)*120, Layers: things(at...)}
	}
	for _, pages := range [][]*design.Page{{drawn(1420, 4), drawn(820, 2), drawn(380, 1)}, {drawn(1420, 2), drawn(820, 4), drawn(380, 2)}} {
		atTheirPlaces(t, d, pages)
	}
}

// atTheirPlaces takes pages over as one, and solves it at the width of each.
func atTheirPlaces(t *testing.T, d trial.Design, pages []*design.Page) {
	t.Helper()
	taken := trial.Take(d, pages)
	text := trial.Text(taken.Rows)
	w := world(t)
	made := trial.Compile(w, taken.Rows)
	require.Empty(t, made.Found, text)
	for _, page := range pages {
		env := contract.EnvOf(made.Values)
		env.Viewport = page.Width
		solved, bad := layout.Solve(contract.Resolve(made.Contract, env, w.Tokens).Boxes(), layout.Options{Width: page.Width, Fonts: d.Fonts})
		require.Empty(t, bad)
		at := map[string][]design.Rect{}
		var walk func(n *layout.Node)
		walk = func(n *layout.Node) {
			if n.Text != "" && n.Box != nil {
				at[n.Text] = append(at[n.Text], design.Rect{X: n.Box.X, Y: n.Box.Y, Width: n.Box.Width, Height: n.Box.Height})
			}
			for _, c := range n.Children {
				walk(c)
			}
		}
		walk(solved)
		for _, l := range page.Layers {
			require.Len(t, at[l.Name], 1, "%s at %v px\n%s", l.Name, page.Width, text)
			assert.InDelta(t, l.Bounds.X, at[l.Name][0].X, 1.5, "%s at %v px\n%s", l.Name, page.Width, text)
			assert.InDelta(t, l.Bounds.Y, at[l.Name][0].Y, 1.5, "%s at %v px\n%s", l.Name, page.Width, text)
			assert.InDelta(t, l.Bounds.Width, at[l.Name][0].Width, 1.5, "%s at %v px\n%s", l.Name, page.Width, text)
		}
	}
}

// What the middle one of three drawings leaves out is there again in the narrowest.
func TestWhatIsHiddenAtMiddleWidthsComesAgain(t *testing.T) {
	d, _, _ := furrow(t, 2)
	page := func(width float64, drawn ...int) *design.Page {
		p := &design.Page{ID: fmt.Sprint("p", width), Name: "P", Width: width}
		for row, i := range drawn {
			l := things(box(0, float64(row)*60, width, 40))[0]
			l.ID, l.Name = fmt.Sprint("x", i), fmt.Sprint("Thing ", i)
			p.Layers = append(p.Layers, l)
			p.Height = float64(row)*60 + 40
		}
		return p
	}
	taken := trial.Take(d, []*design.Page{page(1400, 1, 2, 3), page(800, 1, 3), page(390, 1, 2, 3)})
	p := trial.Compile(world(t), taken.Rows)
	require.Empty(t, p.Found, trial.Text(taken.Rows))
	for viewport, want := range map[float64][]string{1400: {"Thing 1", "Thing 2", "Thing 3"}, 800: {"Thing 1", "Thing 3"}, 390: {"Thing 1", "Thing 2", "Thing 3"}} {
		assert.Equal(t, want, visible(t, p, viewport), "%v\n%s", viewport, trial.Text(taken.Rows))
	}
}
