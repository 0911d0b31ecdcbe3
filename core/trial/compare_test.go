package trial_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/design"
	"cobrik/core/trial"
)

func box(x, y, w, h float64) design.Rect { return design.Rect{X: x, Y: y, Width: w, Height: h} }

// held compares three cards and a text with a drawing, after something was done to what is built.
func held(t *testing.T, change func(built map[string]*trial.Built, drawn []trial.Drawn) []trial.Drawn) trial.PageComparison {
	t.Helper()
	p := made(t, "h1 \"Plots\"\nCard title=A\nCard title=B\nCard title=C\ngap \"Bar\" height=10px\n")
	drawn := []trial.Drawn{
		{Layer: "t", Name: "Title", Text: "Plots", Box: box(0, 0, 70, 40)},
		{Layer: "a", Name: "Card", Component: "Card", Text: "A", Box: box(0, 50, 100, 100)},
		{Layer: "b", Name: "Card", Component: "Card", Text: "B", Box: box(110, 50, 100, 100)},
		{Layer: "c", Name: "Card", Component: "Card", Text: "C", Box: box(0, 160, 100, 100)},
	}
	built := map[string]*trial.Built{}
	for key, one := range map[string]trial.Drawn{"h1": drawn[0], "card": drawn[1], "card2": drawn[2], "card3": drawn[3]} {
		built[key] = &trial.Built{Key: key, Box: one.Box, Text: one.Text}
	}
	built["h1"].Box.Width = 400 // a heading is as wide as there is room
	if change != nil {
		drawn = change(built, drawn)
	}
	var list []trial.Built
	for _, key := range []string{"h1", "card", "card2", "card3", "bar"} {
		if built[key] != nil {
			list = append(list, *built[key])
		}
	}
	return trial.Compare(p, drawn, list, 1440)
}

func told(c trial.PageComparison) (out []string) {
	for _, d := range c.Differences {
		text := fmt.Sprintf("%s %s: %s | %s", d.Kind, d.Name, d.Drawn, d.Built)
		if d.Follows != "" {
			text += " follows " + d.Follows
		}
		out = append(out, text)
	}
	return out
}

func TestAPageIsHeldToItsDrawing(t *testing.T) {
	type change = func(built map[string]*trial.Built, drawn []trial.Drawn) []trial.Drawn
	same := func(do func(built map[string]*trial.Built)) change {
		return func(built map[string]*trial.Built, drawn []trial.Drawn) []trial.Drawn { do(built); return drawn }
	}
	for name, k := range map[string]struct {
		do   change
		want []string
	}{
		"level":          {nil, nil},
		"half a pixel":   {same(func(b map[string]*trial.Built) { b["card"].Box.X = 0.6 }), nil},
		"taller":         {same(func(b map[string]*trial.Built) { b["card"].Box.Height, b["card3"].Box.Y = 114, 174 }), []string{"size Card: 100 × 100 | 100 × 114", "place Card: 0, 160 | 0, 174 follows Card"}},
		"to a tenth":     {same(func(b map[string]*trial.Built) { b["card3"].Box.Width = 102.46 }), []string{"size Card: 100 × 100 | 102.5 × 100"}},
		"moved":          {same(func(b map[string]*trial.Built) { b["card3"].Box.Y = 180 }), []string{"place Card: 0, 160 | 0, 180"}},
		"wider":          {same(func(b map[string]*trial.Built) { b["card"].Box.Width, b["card2"].Box.X = 120, 130 }), []string{"size Card: 100 × 100 | 120 × 100", "place Card: 110, 50 | 130, 50 follows Card"}},
		"gone":           {same(func(b map[string]*trial.Built) { delete(b, "card2") }), []string{"missing Card: 100 × 100 at 110, 50 | "}},
		"hidden":         {same(func(b map[string]*trial.Built) { b["card2"].Box = design.Rect{} }), []string{"missing Card: 100 × 100 at 110, 50 | "}},
		"other words":    {same(func(b map[string]*trial.Built) { b["h1"].Text = "Beds" }), []string{"words Beds: Plots | Beds"}},
		"words of a use": {same(func(b map[string]*trial.Built) { b["card"].Text = "A more" }), []string{"words Card: A | A more"}},
		"a gap": {func(b map[string]*trial.Built, d []trial.Drawn) []trial.Drawn {
			b["bar"] = &trial.Built{Key: "bar", Box: box(0, 300, 100, 10)}
			return append(d, trial.Drawn{Layer: "g", Name: "Bar", Gap: true, Box: box(0, 300, 100, 10)})
		}, []string{"gap Bar: 100 × 10 at 0, 300 | nothing yet"}},
		"not drawn": {func(_ map[string]*trial.Built, d []trial.Drawn) []trial.Drawn { return d[:3] }, []string{"extra Card:  | 100 × 100 at 0, 160"}},
		"swapped": {same(func(b map[string]*trial.Built) { b["card"].Box, b["card2"].Box = b["card2"].Box, b["card"].Box }),
			[]string{"place Card: 110, 50 | 0, 50", "order Card: before Card | behind it", "place Card: 0, 50 | 110, 50"}},
	} {
		c := held(t, k.do)
		assert.Equal(t, k.want, told(c), name)
	}
}

func TestWhatFollowsIsNotCounted(t *testing.T) {
	c := held(t, func(b map[string]*trial.Built, d []trial.Drawn) []trial.Drawn {
		b["card"].Box.Height, b["card3"].Box.Y = 114, 174
		return d
	})
	assert.Equal(t, 1, c.Counted)
	assert.Equal(t, 4, c.Pieces)
	assert.Equal(t, 4, c.Drawn)
	assert.Equal(t, 2, c.Differences[0].Line, "a difference leads to another row")
}

func TestOfSeveralTheOnesThatSayTheSameAreHeldToEachOther(t *testing.T) {
	c := held(t, func(b map[string]*trial.Built, d []trial.Drawn) []trial.Drawn {
		d[1], d[2] = d[2], d[1] // another order of layers is no other drawing
		return d
	})
	assert.Empty(t, c.Differences)
}

func TestTheOrderOfWordsInADrawingCountsForNothing(t *testing.T) {
	c := held(t, func(b map[string]*trial.Built, d []trial.Drawn) []trial.Drawn {
		d[1].Text, b["card"].Text = "Join Rota Plots", "Plots Rota Join"
		return d
	})
	assert.Empty(t, c.Differences, "a drawing whose layers lie in another order says something else")
}

func TestWhatStandsInASlotIsNotTheUsesWords(t *testing.T) {
	p := made(t, "Card title=A\n  p \"inside\"\n")
	drawn := []trial.Drawn{{Layer: "a", Component: "Card", Text: "A", Box: box(0, 0, 10, 10)}, {Layer: "p", Text: "inside", Box: box(0, 5, 10, 5)}}
	built := []trial.Built{{Key: "card", Box: box(0, 0, 10, 10), Text: "A inside"}, {Key: "p", Box: box(0, 5, 10, 5), Text: "inside"}}
	assert.Empty(t, trial.Compare(p, drawn, built, 10).Differences)
}

func TestWhatIsInsideOfAUseIsItsComponents(t *testing.T) {
	p := made(t, "each p of plots.csv\n  Card title={p.crop}\n")
	drawn := []trial.Drawn{{Layer: "a", Component: "Card", Text: "Squash", Box: box(0, 0, 10, 10)}}
	built := []trial.Built{{Key: "card[1]", Box: box(0, 0, 10, 10), Text: "Squash"}, {Key: "card[1]/title", Box: box(0, 0, 10, 5), Text: "Squash"}}
	assert.Empty(t, trial.Compare(p, drawn, built, 10).Differences, "parts of a component are things of the page")
}
