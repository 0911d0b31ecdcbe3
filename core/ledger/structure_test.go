package ledger_test

import (
	"cobrik/core/draft"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/demo/demotest"
)

// What a designer does to a family's structure, told as moves; taking them all
// must leave the ledger level, and every case as drawn.
func TestStructureThatMovesCanBeTaken(t *testing.T) {
	each := func(f *design.Family, change func(v *design.Variant)) {
		for _, v := range f.Variants {
			change(v)
		}
	}
	for name, c := range map[string]struct {
		change func(f *design.Family)
		kinds  []string
		level  contract.Level
	}{
		"a layer comes": {func(f *design.Family) {
			each(f, func(v *design.Variant) {
				size := 6.0
				if v.Choices["Size"] == "l" {
					size = 8
				}
				v.Root.Children = append(v.Root.Children, &design.Layer{ID: v.ID + "-dot", Name: "Dot", Kind: design.Box, Fill: "#c05a3c",
					Bounds: design.Rect{Width: size, Height: size}, Radius: []float64{99}})
			})
		}, []string{"part added  part  nothing Dot minor"}, contract.Patch},
		"a text comes": {func(f *design.Family) {
			each(f, func(v *design.Variant) {
				label := *v.Root.Children[1]
				label.ID, label.Name = v.ID+"-note", "Note"
				v.Root.Children = append(v.Root.Children, &label)
			})
		}, []string{"part added  part  nothing Note minor"}, contract.Minor},
		"a layer goes": {func(f *design.Family) {
			each(f, func(v *design.Variant) { v.Root.Children = v.Root.Children[1:] })
		}, []string{"part removed icon part  icon nothing major"}, contract.Major},
		"an option goes": {func(f *design.Family) {
			f.Axes[0].Values = []string{"s", "m"}
			f.Variants = slices.DeleteFunc(f.Variants, func(v *design.Variant) bool { return v.Choices["Size"] == "l" })
		}, []string{"option removed  size  l nothing major"}, contract.Major},
		"an axis goes": {func(f *design.Family) {
			f.Axes = f.Axes[:2]
			f.Variants = slices.DeleteFunc(f.Variants, func(v *design.Variant) bool { return v.Choices["Strong"] == "on" })
			each(f, func(v *design.Variant) { delete(v.Choices, "Strong") })
		}, []string{"prop removed  strong  strong nothing major"}, contract.Major},
		"an axis comes": {func(f *design.Family) {
			f.Axes = append(f.Axes, design.Axis{Name: "Edge", Values: []string{"none", "line"}, Default: "none"})
			for _, v := range slices.Clone(f.Variants) {
				v.Choices["Edge"] = "none"
				lined := &design.Variant{ID: v.ID + "-line", Choices: map[string]string{"Edge": "line"}, Root: copyLayer(v.Root, "-line")}
				for k, value := range v.Choices {
					if k != "Edge" {
						lined.Choices[k] = value
					}
				}
				lined.Root.Stroke = &design.Stroke{Color: "#3f3325", Width: 1}
				f.Variants = append(f.Variants, lined)
			}
		}, []string{"prop added  Edge  nothing none, line minor"}, contract.Minor},
		"a flag gets a third value": {func(f *design.Family) {
			f.Axes[2].Values = append(f.Axes[2].Values, "loud")
			for _, v := range slices.Clone(f.Variants) {
				if v.Choices["Strong"] == "on" {
					loud := &design.Variant{ID: v.ID + "-loud", Choices: map[string]string{"Size": v.Choices["Size"], "Tone": v.Choices["Tone"], "Strong": "loud"}, Root: copyLayer(v.Root, "-loud")}
					loud.Root.Flow.Gap = 9
					f.Variants = append(f.Variants, loud)
				}
			}
		}, []string{"prop removed  strong  strong nothing major", "prop added  Strong  nothing off, on, loud minor"}, contract.Major},
		"another default": {func(f *design.Family) { f.Axes[0].Default = "l" },
			[]string{"default  size  m l major"}, contract.Major},
		"another text": {func(f *design.Family) { f.Default().Root.Children[1].Text.Content = "Thriving" },
			[]string{"default label label  Growing Thriving patch"}, contract.Patch},
	} {
		t.Run(name, func(t *testing.T) {
			drafted, tokens := cropTag(t)
			doc, _ := demotest.Furrow(t, 1)
			f := doc.FamilyNamed("CropTag")
			c.change(f)
			sides := ledger.Agreed{Contract: drafted, Tokens: tokens}
			l := ledger.New(sides, f)
			var kinds []string
			for _, m := range l.Moves() {
				kinds = append(kinds, strings.Join([]string{string(m.Kind), m.Part, m.Property, m.When, said(m.From), said(m.To), string(m.Bump)}, " "))
			}
			assert.Equal(t, c.kinds, kinds, "the designer's change is told otherwise")
			taken, found := l.Take(doc, keys(l.Moves()))
			require.Empty(t, found)
			assert.Empty(t, taken.Check(tokens))
			after := ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, f)
			assert.Empty(t, describe(after.Moves()), "taking everything leaves something")
			for _, k := range draft.Cases(taken, f) {
				for _, fact := range after.Facts(k, nil) {
					assert.Equal(t, ledger.Agree, fact.Verdict, "%s: %s · %s: drawn %v, contract %v", k.Name, fact.Part, fact.Property, fact.Design, fact.Contract)
				}
			}
			level, _ := ledger.Changes(drafted, taken)
			assert.Equal(t, c.level, level)
			assert.Equal(t, string(drafted.JSON()), string(l.Contract.JSON()), "the contract that was read was changed")
		})
	}
}

func said(s ledger.Statement) string {
	if s.Value == "" {
		return "nothing"
	}
	return s.Value
}

func copyLayer(l *design.Layer, suffix string) *design.Layer {
	out := *l
	out.ID += suffix
	out.Children = nil
	for _, c := range l.Children {
		out.Children = append(out.Children, copyLayer(c, suffix))
	}
	return &out
}

func TestMovesThatCannotBeTakenSaySo(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 1)
	f := doc.FamilyNamed("CropTag")
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	got, found := l.Take(doc, []string{"value|root|gap|"})
	assert.Nil(t, got)
	assert.Contains(t, found.Error(), "no such move any more")

	// The default goes: the new default must be taken with it.
	f.Axes[1] = design.Axis{Name: "Tone", Values: []string{"sown", "ripe"}, Default: "sown"}
	f.Variants = slices.DeleteFunc(f.Variants, func(v *design.Variant) bool { return v.Choices["Tone"] == "growing" })
	l = ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Equal(t, contract.OptionValue("sown"), taken.Prop("tone").Default())
	after := ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, f)
	for _, k := range draft.Cases(taken, f) {
		for _, fact := range after.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, fact.Verdict, "%s: %s · %s: drawn %v, contract %v", k.Name, fact.Part, fact.Property, fact.Design, fact.Contract)
		}
	}
}

// What people put into a component is none of the design's: when this fails, a container that somebody put around a part is
// compared with the drawing of the whole.
func TestPartsThatPeopleAddAreNotHeldAgainstTheDesign(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 1)
	f := doc.Family("crop-tag")
	around, err := c.WrapParts([]string{c.Root.Children[1].ID})
	require.NoError(t, err)
	c.Part(around).Style = contract.Style{"display": "grid"}
	require.Empty(t, c.Check(tokens))
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	said := 0
	for _, k := range draft.Cases(c, f) {
		for _, fact := range l.Facts(k, nil) {
			if fact.Part == around {
				assert.Nil(t, fact.Design, "%s of what nobody drew", fact.Property)
				assert.Equal(t, ledger.Agree, fact.Verdict, fact.Property)
				said++
			}
		}
	}
	assert.NotZero(t, said)
	assert.Empty(t, describe(l.Moves()))
}
