package ledger_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/ledger"
	"cobrik/core/token"
)

// chip is a family of three variants with a text in a padded box.
func chip(padding func(size string) float64) *design.Family {
	f := &design.Family{ID: "chip", Name: "Chip", Axes: []design.Axis{{Name: "Size", Values: []string{"s", "m", "l"}, Default: "m"}}}
	for _, size := range f.Axes[0].Values {
		f.Variants = append(f.Variants, &design.Variant{ID: size, Choices: map[string]string{"Size": size}, Root: &design.Layer{
			ID: "chip-" + size, Name: "Chip", Kind: design.Box, Fill: "#aabbcc", Bounds: design.Rect{Width: 60, Height: 20},
			Flow: &design.Flow{Direction: "row", Gap: 4, Padding: []float64{2, padding(size)}}, Radius: []float64{4},
			Children: []*design.Layer{{ID: "label-" + size, Name: "Label", Kind: design.Text, Fill: "#112233", Bounds: design.Rect{X: 8, Y: 2, Width: 44, Height: 16},
				Text: &design.TextContent{Content: "Sown", FontFamily: "Hanken Grotesk", FontSize: 12, FontWeight: 400, LineHeight: 16}}},
		}})
	}
	return f
}

func eight(string) float64 { return 8 }

// measured is what a browser would measure of a contract's case, drawn as the layers are.
func measured(c *contract.Contract, k draft.Case, tokens *token.Set) *ledger.Measurement {
	m := &ledger.Measurement{Case: k.Key(c)}
	contract.Resolve(c, k.Env(), tokens).Walk(func(r *contract.Resolved) {
		l, _ := draft.LayerOf(k.Variant.Root, r.Part)
		style := map[string]string{}
		for _, property := range css.FactProperties() {
			if v, ok := r.Values[property]; ok {
				style[property] = css.DeclaredText(property, v.Value)
			}
		}
		m.Parts = append(m.Parts, ledger.MeasuredPart{Part: r.Part.ID, Box: l.Bounds, Text: r.Text, Style: style})
	})
	return m
}

func fact(t *testing.T, facts []ledger.Fact, part, property string) ledger.Fact {
	t.Helper()
	for _, f := range facts {
		if f.Part == part && f.Property == property {
			return f
		}
	}
	t.Fatalf("%s · %s is not told", part, property)
	return ledger.Fact{}
}

// Every combination of what design, contract and code say of one fact that was agreed
// at 8 px.
func TestWhoMovedByHand(t *testing.T) {
	tokens := token.Empty()
	base, found := draft.OfFamily(&design.Document{ID: "d"}, chip(eight), tokens, nil)
	require.Empty(t, found)
	for _, c := range []struct {
		design, contract, built string
		want                    ledger.Verdict
		apart                   bool
	}{
		{"8px", "8px", "8px", ledger.Agree, false},
		{"9px", "8px", "8px", ledger.DesignMoved, false},
		{"8px", "9px", "8px", ledger.ContractMoved, false}, // the code is yet to be written
		{"8px", "9px", "9px", ledger.ContractMoved, false}, // the code follows
		{"8px", "8px", "9px", ledger.CodeMoved, false},
		{"9px", "9px", "9px", ledger.Agree, false},
		{"9px", "9px", "8px", ledger.SeveralMoved, false},
		{"9px", "8px", "9px", ledger.SeveralMoved, false},
		{"9px", "8px", "7px", ledger.SeveralMoved, true},
		{"9px", "7px", "8px", ledger.SeveralMoved, true},
		{"9px", "7px", "7px", ledger.SeveralMoved, true},
		{"8px", "9px", "7px", ledger.SeveralMoved, true},
		{"9px", "9px", "7px", ledger.SeveralMoved, true},
		{"9px", "7px", "6px", ledger.SeveralMoved, true},
	} {
		drawn, _ := css.Pixels(c.design)
		f := chip(func(string) float64 { return drawn })
		now := base.Clone()
		now.SetValue("root", "padding-inline", contract.When{}, c.contract)
		l := ledger.New(ledger.Agreed{Contract: now, Base: base, Tokens: tokens}, f)
		for _, k := range draft.Cases(now, f) {
			m := measured(base, k, tokens)
			m.Parts[0].Style["padding-inline"] = c.built
			got := fact(t, l.Facts(k, m), "root", "padding-inline")
			assert.Equal(t, c.want, got.Verdict, "design %s, contract %s, built %s", c.design, c.contract, c.built)
			assert.Equal(t, c.apart, got.Apart, "design %s, contract %s, built %s", c.design, c.contract, c.built)
		}
	}
}

// An edit on the bench is the contract's move: it waits, and taking all that the design
// moved does not undo it.
func TestAnEditOfTheContractIsItsOwnMove(t *testing.T) {
	tokens := token.Empty()
	doc := &design.Document{ID: "d"}
	base, _ := draft.OfFamily(doc, chip(eight), tokens, nil)
	now := base.Clone()
	now.SetValue("root", "gap", contract.When{}, "6px")
	f := chip(func(string) float64 { return 12 })
	l := ledger.New(ledger.Agreed{Contract: now, Base: base, Tokens: tokens}, f)
	sides := map[string]ledger.Side{}
	var designs []string
	for _, m := range l.Moves() {
		sides[m.Property] = m.Side
		if m.Side == ledger.DesignSide {
			designs = append(designs, m.Key)
		}
	}
	assert.Equal(t, map[string]ledger.Side{"gap": ledger.ContractSide, "padding-inline": ledger.DesignSide}, sides)
	taken, found := l.Take(doc, designs)
	require.Empty(t, found)
	assert.Equal(t, "6px", taken.Root.Style["gap"], "the edit was undone unseen")
	after := ledger.New(ledger.Agreed{Contract: taken, Base: base, Tokens: tokens}, f)
	require.Len(t, after.Moves(), 1)
	agreed := after.Settled()
	assert.Equal(t, "12px", agreed.Root.Style["padding-inline"], "what was taken is not agreed")
	assert.Equal(t, "4px", agreed.Root.Style["gap"], "what waits is taken for agreed")

	// Asked, it waits for the design; agreed as an exception, it is kept until the design moves.
	move := after.Moves()[0]
	asked := ledger.New(ledger.Agreed{Contract: taken, Base: agreed, Tokens: tokens, Kept: []ledger.Decision{move.Ask()}}, f)
	assert.True(t, asked.Moves()[0].Asked)
	assert.Zero(t, ledger.Waiting(asked.Moves()))
	kept := ledger.New(ledger.Agreed{Contract: taken, Base: agreed, Tokens: tokens, Kept: []ledger.Decision{move.Keep("touch needs room")}}, f)
	assert.Zero(t, ledger.Waiting(kept.Moves()))
	assert.Nil(t, kept.Settled(), "with everything decided the contract is what is agreed")
	again := chip(func(string) float64 { return 12 })
	for _, v := range again.Variants {
		v.Root.Flow.Gap = 5
	}
	moved := ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens, Kept: []ledger.Decision{move.Keep("touch needs room")}}, again).Moves()
	require.Len(t, moved, 1)
	assert.Equal(t, ledger.DesignSide, moved[0].Side)
	assert.False(t, moved[0].Kept, "the design moved from what was excepted, and nobody is asked")
}

// Three copies of a base, each edited at random: who is said to have moved is who was
// edited, fact by fact.
func TestVerdictsAreWhatWasDone(t *testing.T) {
	tokens := token.Empty()
	properties := map[string][]string{"padding-inline": {"8px", "9px", "10px"}, "gap": {"4px", "5px", "6px"}, "background-color": {"#aabbcc", "#aabbcd", "#000000"}, "border-radius": {"4px", "5px", "6px"}}
	base, _ := draft.OfFamily(&design.Document{ID: "d"}, chip(eight), tokens, nil)
	seen := map[string]int{}
	for seed := range 400 {
		r := rand.New(rand.NewPCG(uint64(seed), 8))
		f, now := chip(eight), base.Clone()
		type said struct{ design, contract, built string }
		told := map[string]map[string]said{} // by variant and property
		for _, v := range f.Variants {
			told[v.ID] = map[string]said{}
			for property, values := range properties {
				pick := func() string {
					if r.IntN(2) == 0 {
						return values[0]
					}
					return values[r.IntN(3)]
				}
				s := said{pick(), pick(), pick()}
				told[v.ID][property] = s
				px, _ := css.Pixels(s.design)
				switch property {
				case "padding-inline":
					v.Root.Flow.Padding = []float64{2, px}
				case "gap":
					v.Root.Flow.Gap = px
				case "border-radius":
					v.Root.Radius = []float64{px}
				case "background-color":
					v.Root.Fill = s.design
				}
				when := contract.Of(contract.PropIs{Prop: "size", Value: contract.OptionValue(v.ID)})
				now.SetValue("root", property, when, s.contract)
			}
		}
		l := ledger.New(ledger.Agreed{Contract: now, Base: base, Tokens: tokens}, f)
		for _, k := range draft.Cases(now, f) {
			m := measured(base, k, tokens)
			for property, s := range told[k.Variant.ID] {
				m.Parts[0].Style[property] = s.built
			}
			facts := l.Facts(k, m)
			for property, s := range told[k.Variant.ID] {
				was := properties[property][0]
				var who []string
				if s.design != was {
					who = append(who, "design")
				}
				if s.contract != was {
					who = append(who, "contract")
				}
				if s.built != was && s.built != s.contract {
					who = append(who, "code")
				}
				want := ledger.SeveralMoved
				switch {
				case s.design == s.contract && s.built == s.contract:
					want = ledger.Agree
				case len(who) == 1:
					want = ledger.Verdict(who[0] + " moved")
				}
				got := fact(t, facts, "root", property)
				require.Equal(t, want, got.Verdict, "seed %d: %s was %s: %+v", seed, property, was, s)
				seen[fmt.Sprint(want, got.Apart)]++
			}
		}
	}
	for _, v := range []string{"agreefalse", "design movedfalse", "contract movedfalse", "code movedfalse", "several movedfalse", "several movedtrue"} {
		assert.Greater(t, seen[v], 50, v)
	}
}

// What the contract leaves to the content has moved with what it does say.
func TestWhatFollowsSaysFromWhich(t *testing.T) {
	tokens := token.Empty()
	base, _ := draft.OfFamily(&design.Document{ID: "d"}, chip(eight), tokens, nil)
	f := chip(func(string) float64 { return 12 })
	for _, v := range f.Variants {
		v.Root.Bounds.Width = 68
	}
	l := ledger.New(ledger.Agreed{Contract: base, Tokens: tokens}, f)
	k := draft.Cases(base, f)[1]
	m := measured(base, k, tokens)
	m.Parts[0].Box.Width = 60
	width := fact(t, l.Facts(k, m), "root", "width")
	assert.Equal(t, ledger.DesignMoved, width.Verdict, "a width that follows a padding is told as the code's fault")
	assert.Equal(t, "root · padding-inline", width.Follows)

	same := ledger.New(ledger.Agreed{Contract: base, Tokens: tokens}, chip(eight))
	m = measured(base, draft.Cases(base, chip(eight))[1], tokens)
	m.Parts[0].Box.Width = 70
	alone := fact(t, same.Facts(draft.Cases(base, chip(eight))[1], m), "root", "width")
	assert.Equal(t, ledger.CodeMoved, alone.Verdict)
	assert.Empty(t, alone.Follows)
}

// Half a px is what a drawing and a browser may differ by.
func TestSizesMayDifferByHalfAPx(t *testing.T) {
	tokens := token.Empty()
	c, _ := draft.OfFamily(&design.Document{ID: "d"}, chip(eight), tokens, nil)
	f := chip(eight)
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	k := draft.Cases(c, f)[0]
	for off, want := range map[float64]ledger.Verdict{0: ledger.Agree, 0.5: ledger.Agree, -0.49: ledger.Agree, 0.51: ledger.CodeMoved, -0.6: ledger.CodeMoved, 1: ledger.CodeMoved} {
		m := measured(c, k, tokens)
		m.Parts[0].Box.Width += off
		assert.Equal(t, want, fact(t, l.Facts(k, m), "root", "width").Verdict, "%g px off", off)
	}
	m := measured(c, k, tokens)
	m.Parts[0].Style["padding-inline"] = "8.02px" // other lengths are exact
	assert.Equal(t, ledger.CodeMoved, fact(t, l.Facts(k, m), "root", "padding-inline").Verdict)
}

// A layer bound to another token moves, though both tokens have one value today.
func TestARepointedTokenIsAMove(t *testing.T) {
	set, found := token.Read(token.File{Name: "t", Text: []byte(`{"space":{"$type":"dimension","a":{"$value":{"value":8,"unit":"px"}},"b":{"$value":{"value":8,"unit":"px"}}}}`)})
	require.Empty(t, found)
	f := chip(eight)
	for _, v := range f.Variants {
		v.Root.Tokens = map[string]string{"padding-inline": "space.a"}
	}
	doc := &design.Document{ID: "d"}
	c, found := draft.OfFamily(doc, f, set, nil)
	require.Empty(t, found)
	require.Equal(t, "{space.a}", c.Root.Style["padding-inline"])
	for _, v := range f.Variants {
		v.Root.Tokens["padding-inline"] = "space.b"
	}
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: set}, f)
	require.Len(t, l.Moves(), 1)
	assert.Equal(t, []string{"{space.a}", "{space.b}"}, []string{l.Moves()[0].From.Expression, l.Moves()[0].To.Expression})
	assert.Equal(t, ledger.DesignMoved, fact(t, l.Facts(draft.Cases(c, f)[0], nil), "root", "padding-inline").Verdict)
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Equal(t, "{space.b}", taken.Root.Style["padding-inline"])
}

// The question whether to take another default is one question, whatever the default is
// meanwhile: a decision on it is not lost.
func TestAMovedDefaultIsOneQuestion(t *testing.T) {
	tokens := token.Empty()
	c, _ := draft.OfFamily(&design.Document{ID: "d"}, chip(eight), tokens, nil)
	key := func(content, axis string) (keys []string) {
		f := chip(eight)
		f.Axes[0].Default = axis
		for _, v := range f.Variants {
			v.Root.Children[0].Text.Content = content
		}
		for _, m := range ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f).Moves() {
			if m.Kind == ledger.DefaultMoved {
				keys = append(keys, m.Key)
			}
		}
		return keys
	}
	assert.Equal(t, key("Ripe", "m"), key("Resting", "m"))
	assert.Equal(t, []string{"default|label|label"}, key("Ripe", "m"))
	assert.Equal(t, key("Sown", "s"), key("Sown", "l"))
	assert.Equal(t, []string{"default||size"}, key("Sown", "l"))
}

// Renaming a layer or an axis renames a part or a prop: ids stay, and with them rules and
// decisions.
func TestARenameIsARename(t *testing.T) {
	tokens := token.Empty()
	doc := &design.Document{ID: "d"}
	f := chip(func(size string) float64 { return map[string]float64{"s": 4, "m": 8, "l": 12}[size] })
	c, _ := draft.OfFamily(doc, f, tokens, nil)
	f.Axes[0].Name = "Scale"
	for _, v := range f.Variants {
		v.Choices = map[string]string{"Scale": v.Choices["Size"]}
		v.Root.Children[0].Name = "Caption"
	}
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	assert.Equal(t, []string{"prop renamed size: Size → Scale (3 cases, major)", "part renamed label · name: Label → Caption (3 cases, patch)"}, describe(l.Moves()))
	for _, k := range draft.Cases(c, f) {
		assert.Empty(t, k.New, "the renamed axis is taken for another")
		for _, fact := range l.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, fact.Verdict, "%s · %s", fact.Part, fact.Property)
		}
	}
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Equal(t, []string{"scale", "caption"}, []string{taken.Prop("size").Name, taken.Part("label").Name})
	assert.Equal(t, len(c.Rules), len(taken.Rules))
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, f).Moves())
	level, _ := ledger.Changes(c, taken)
	assert.Equal(t, contract.Major, level)
}
