package draft_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/draft/drafttest"
	"cobrik/core/font"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// panel is drawn at some widths, each with a padding and a direction of its own.
func panel(screens ...string) *design.Family {
	axes := []design.Axis{drafttest.Axis("Tone", "calm", "loud")}
	if len(screens) > 0 {
		axes = append(axes, drafttest.Axis("Screen", screens...))
	}
	return drafttest.Family("Panel", axes, func(c map[string]string) *design.Layer {
		screen := c["Screen"]
		if screen == "" {
			screen = "wide"
		}
		flow := design.Flow{Direction: "row", Gap: 8, Padding: []float64{map[string]float64{"wide": 24, "tablet": 20, "narrow": 16, "mobile": 20}[screen]}}
		if screen == "narrow" || screen == "mobile" {
			flow.Direction = "column"
		}
		note := textOf("note", "Note", "On wide ones alone")
		note.Hidden = screen != "wide"
		root := boxOf("panel", "Panel", flow, textOf("name", "Name", "Hollowbeck"), note)
		root.Sizing = design.Sizing{Width: "fill", Height: "content"}
		root.Bounds.Width = map[string]float64{"wide": 1200, "tablet": 800, "narrow": 400, "mobile": 300}[screen]
		if c["Tone"] == "loud" {
			root.Fill = "#ffddcc"
			flow.Gap = map[string]float64{"wide": 8, "tablet": 12, "narrow": 12, "mobile": 4}[screen]
			root.Flow = &flow
		}
		return root
	})
}

// Widths that come and go are moves, each of which can be taken: then every drawing is as the contract
// has it again, every width is covered once, and switch points between what stayed are where they were.
func TestWidthsComeAndGo(t *testing.T) {
	all := []string{"wide", "tablet", "narrow", "mobile"}
	var sets [][]string
	for bits := range 8 {
		set := []string{"wide"}
		for i, v := range all[1:] {
			if bits>>i&1 == 1 {
				set = append(set, v)
			}
		}
		if len(set) == 1 {
			set = nil // no axis
		}
		sets = append(sets, set)
	}
	sets = append(sets, []string{"narrow", "wide"}, []string{"tablet", "mobile"})
	tried := 0
	for _, before := range sets {
		for _, now := range sets {
			c, _, components, _ := drafted(t, panel(before...))
			was := map[string]contract.Range{}
			for i := range c.Widths { // people moved one
				if c.Widths[i].Below > 0 {
					c.MoveSwitch(c.Widths[i].Below, c.Widths[i].Below+6)
					break
				}
			}
			for _, w := range c.Widths {
				was[w.Value] = w.Range
			}
			what := fmt.Sprintf("%s, then %s", strings.Join(before, " "), strings.Join(now, " "))
			doc := &design.Document{ID: "d", Families: []*design.Family{panel(now...)}}
			source, _ := draft.Source(doc, contract.Origin{Family: "panel"}, font.Shipped(), components)
			agreed := ledger.Agreed{Contract: c, Tokens: token.Empty(), Components: components}
			var keys []string
			for _, m := range ledger.New(agreed, source).Moves() {
				keys = append(keys, m.Key)
			}
			if slices.Equal(slices.Sorted(slices.Values(before)), slices.Sorted(slices.Values(now))) {
				assert.Empty(t, keys, what+": which of them is the default is nothing to a use")
				continue
			}
			require.NotEmpty(t, keys, what)
			taken, found := ledger.New(agreed, source).Take(doc, keys)
			require.NotNil(t, taken, "%s: %v", what, found)
			require.Empty(t, taken.Check(token.Empty()), what)
			agreed.Contract = taken
			if left := ledger.New(agreed, source).Moves(); len(left) > 0 {
				t.Errorf("%s: %s", what, left[0])
			}
			for _, k := range draft.Cases(taken, source) {
				assert.Empty(t, k.New, what)
			}
			if len(now) == 0 {
				assert.Empty(t, taken.Widths, what)
			} else {
				assert.Len(t, taken.Widths, len(now), what)
			}
			for _, r := range taken.Rules {
				for _, term := range r.When.Terms() {
					if in, ok := term.(contract.Container); ok {
						assert.True(t, slices.ContainsFunc(taken.Widths, func(w contract.DrawnWidth) bool { return w.Range == in.Range }), "%s: a rule for a width that is no longer drawn", what)
					}
				}
			}
			for _, w := range taken.Widths {
				for _, o := range taken.Widths {
					if w.Below > 0 && w.Below == o.From && was[w.Value].Below > 0 && was[w.Value].Below == was[o.Value].From {
						assert.Equal(t, was[w.Value].Below, w.Below, "%s: a point between what stayed is elsewhere", what)
						tried++
					}
				}
			}
		}
	}
	assert.Greater(t, tried, 20)
}
