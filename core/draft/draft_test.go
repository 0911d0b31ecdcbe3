package draft_test

import (
	"cmp"
	"cobrik/core/draft"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func rules(c *contract.Contract) []string {
	var out []string
	for _, r := range c.Rules {
		for _, property := range r.Set.Properties() {
			out = append(out, fmt.Sprintf("%s · %s · %s is %s", r.Part, property, r.When, r.Set[property]))
		}
	}
	return out
}

func TestDraftOfCropTag(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	c, found := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	require.Empty(t, found)
	var props []string
	for _, p := range c.Props {
		props = append(props, fmt.Sprintf("%s %s %s = %s", p.Name, p.Kind(), strings.Join(p.Options(), "|"), p.Default()))
	}
	assert.Equal(t, []string{"size choice s|m|l = m", "tone choice sown|growing|ripe = growing", "strong flag  = false",
		"showIcon flag  = true", "label text  = Growing"}, props)
	assert.Equal(t, []string{
		"root · padding-inline · size = s is {space.1-half}",
		"root · font-size · size = s is {type.size.small}",
		"root · line-height · size = s is {type.line.small}",
		"icon · width · size = s is 12px",
		"icon · height · size = s is 12px",
		"root · gap · size = l is {space.1-half}",
		"root · padding-block · size = l is {space.1}",
		"root · padding-inline · size = l is {space.3}",
		"root · font-size · size = l is {type.size.large}",
		"root · line-height · size = l is {type.line.large}",
		"icon · width · size = l is 16px",
		"icon · height · size = l is 16px",
		"root · background-color · tone = sown is {tag.sown.ground}",
		"root · color · tone = sown is {tag.sown.ink}",
		"root · background-color · tone = ripe is {tag.ripe.ground}",
		"root · color · tone = ripe is {tag.ripe.ink}",
		"root · background-color · strong is {tag.growing.ground-strong}",
		"root · color · strong is {tag.ink-strong}",
		"root · font-weight · strong is {type.weight.strong}",
		"root · background-color · strong and tone = sown is {tag.sown.ground-strong}",
		"root · background-color · strong and tone = ripe is {tag.ripe.ground-strong}",
	}, rules(c), "differences are attributed to the wrong props, or more rules than needed are written")
	assert.Empty(t, c.Check(tokens))
}

// Whatever the rules are, every drawn variant must come back from them.
func TestDraftGivesBackEveryDrawnValue(t *testing.T) {
	for revision := 1; revision <= 3; revision++ {
		doc, tokens := demotest.Furrow(t, revision)
		families, _ := demotest.Families(t, doc, tokens)
		for _, f := range families {
			assertDrawn(t, f.Contract, f.Family, tokens)
		}
	}
}

func assertDrawn(t *testing.T, c *contract.Contract, f *design.Family, tokens *token.Set) {
	t.Helper()
	for _, k := range draft.Cases(c, f) {
		tree := contract.Resolve(c, k.Env(), tokens)
		tree.Walk(func(r *contract.Resolved) {
			l, parent := draft.ItemLayer(k.Variant.Root, c, r)
			require.NotNil(t, l)
			there := r.Shown && r.Values["display"].Value != "none"
			gone := l.Hidden
			var look func(at *design.Layer, hidden bool)
			look = func(at *design.Layer, hidden bool) {
				hidden = hidden || at.Hidden
				gone = gone || at == l && hidden
				for _, c := range at.Children {
					look(c, hidden)
				}
			}
			look(k.Variant.Root, false)
			assert.True(t, there == !gone || there && c.Widths != nil, "%s: %s is shown or hidden other than drawn", k.Name, r.Part.Name)
			if !there {
				return
			}
			for property, drawn := range draft.StyleOf(l, parent) {
				want := css.CanonicalText(property, contract.ResolveTokens(drawn, tokens), 0)
				known, _ := css.PropertyNamed(property)
				assert.Equal(t, want, cmp.Or(r.Values[property].Value, known.Initial), "%s: %s · %s", k.Name, r.Part.Name, property)
			}
		})
	}
}

// family draws a family with the given axes whose root's background is decided
// by a function of the choices.
func family(axes []design.Axis, value func(map[string]string) string) *design.Family {
	f := &design.Family{ID: "f", Name: "Made", Axes: axes}
	var draw func(i int, choices map[string]string)
	draw = func(i int, choices map[string]string) {
		if i == len(axes) {
			id := fmt.Sprint("v", len(f.Variants))
			own := map[string]string{}
			for k, v := range choices {
				own[k] = v
			}
			f.Variants = append(f.Variants, &design.Variant{ID: id, Choices: own, Root: &design.Layer{
				ID: id + "-root", Name: "Made", Kind: design.Box, Fill: value(own), Bounds: design.Rect{Width: 10, Height: 10}}})
			return
		}
		for _, v := range axes[i].Values {
			choices[axes[i].Name] = v
			draw(i+1, choices)
		}
	}
	draw(0, map[string]string{})
	return f
}

// Random families whose colour follows a few known rules: the draft must give
// every variant back and must not need more rules than made the drawing.
func TestDraftFindsNoMoreRulesThanMadeTheDrawing(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 41))
	axes := []design.Axis{
		{Name: "A", Values: []string{"a", "b", "c", "d"}, Default: "a"},
		{Name: "B", Values: []string{"p", "q", "r"}, Default: "p"},
		{Name: "C", Values: []string{"x", "y"}, Default: "x"},
	}
	doc := &design.Document{ID: "made"}
	excess := 0
	for range 400 {
		type rule struct {
			when  map[string]string
			color string
		}
		var made []rule
		for size := 1; size <= 2; size++ { // simple rules first, as a careful designer would say them
			for range random.IntN(4) {
				when := map[string]string{}
				for _, i := range random.Perm(3)[:size] {
					when[axes[i].Name] = axes[i].Values[1+random.IntN(len(axes[i].Values)-1)]
				}
				made = append(made, rule{when, fmt.Sprintf("#%06x", random.IntN(1<<24))})
			}
		}
		f := family(axes, func(choices map[string]string) string {
			color := "#010203"
			for _, r := range made {
				holds := true
				for k, v := range r.when {
					holds = holds && choices[k] == v
				}
				if holds {
					color = r.color
				}
			}
			return color
		})
		c, found := draft.OfFamily(doc, f, token.Empty(), nil)
		require.Empty(t, found)
		assertDrawn(t, c, f, token.Empty())
		if len(c.Rules) > len(made) {
			excess++
		}
	}
	assert.LessOrEqual(t, excess, 12, "in %d of 400 families a person would have written fewer rules", excess)
}

func TestOnlyTheDecidingPropsAreNamed(t *testing.T) {
	axes := []design.Axis{{Name: "Size", Values: []string{"s", "m"}, Default: "m"}, {Name: "Tone", Values: []string{"a", "b"}, Default: "a"}, {Name: "On", Values: []string{"off", "on"}, Default: "off"}}
	f := family(axes, func(c map[string]string) string { return map[string]string{"a": "#111111", "b": "#222222"}[c["Tone"]] })
	c, _ := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	assert.Equal(t, []string{"root · background-color · tone = b is #222222"}, rules(c))
}

func TestDraftLeavesOutWhatWasNotDrawn(t *testing.T) {
	axes := []design.Axis{{Name: "Size", Values: []string{"s", "m"}, Default: "m"}, {Name: "Tone", Values: []string{"a", "b"}, Default: "a"}}
	f := family(axes, func(c map[string]string) string {
		return "#" + strings.Repeat(map[string]string{"a": "1", "b": "2"}[c["Tone"]], 6)
	})
	f.Variants = slices.DeleteFunc(f.Variants, func(v *design.Variant) bool { return v.Choices["Size"] == "s" && v.Choices["Tone"] == "b" })
	c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	require.Empty(t, found)
	assert.Equal(t, []string{"root · background-color · tone = b is #222222"}, rules(c), "a combination nobody drew changed the rules")
}

// A rule of the trade: every variant of a family holds the same layers.
func TestVariantsThatDoNotCorrespondAreReportedWithBothIds(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	f := doc.FamilyNamed("CropTag")
	other := f.Variants[0]
	icon := other.Root.Children[0]
	for name, c := range map[string]struct {
		change func()
		says   []string
	}{
		"missing": {func() { other.Root.Children = other.Root.Children[1:] }, []string{f.Default().Root.Children[0].ID, other.Root.ID, "missing"}},
		"extra": {func() {
			other.Root.Children = append(other.Root.Children, &design.Layer{ID: "extra", Name: "Badge", Kind: design.Box})
		}, []string{"extra", f.Default().Root.ID, "no counterpart"}},
		"kind":  {func() { icon.Kind = design.Box }, []string{icon.ID, f.Default().Root.Children[0].ID, "is a box"}},
		"order": {func() { slices.Reverse(other.Root.Children) }, []string{"another order"}},
	} {
		t.Run(name, func(t *testing.T) {
			children, kind := slices.Clone(other.Root.Children), icon.Kind
			defer func() { other.Root.Children, icon.Kind = children, kind }()
			c.change()
			got, found := draft.OfFamily(doc, f, tokens, nil)
			assert.Nil(t, got, "a structure was guessed")
			require.NotEmpty(t, found)
			for _, says := range c.says {
				assert.Contains(t, found.Error(), says)
			}
		})
	}
}

func TestBindingsThatLeadNowhereOrWentStale(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	f := doc.FamilyNamed("CropTag")
	f.Default().Root.Tokens["background-color"] = "tag.growing.grnd"
	_, found := draft.OfFamily(doc, f, tokens, nil)
	require.True(t, found.Failed())
	assert.Contains(t, found.Error(), "tag.growing.grnd, which is not in the token files")
	f.Default().Root.Tokens["background-color"] = "tag.ripe.ground"
	_, found = draft.OfFamily(doc, f, tokens, nil)
	assert.False(t, found.Failed())
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Message, "bound to tag.ripe.ground, which is #fbe3bd, but drawn #deedd8")
}

func TestAFlagAxisThatShowsALayerIsItsFlag(t *testing.T) {
	f := family([]design.Axis{{Name: "With mark", Values: []string{"no", "yes"}, Default: "yes"}}, func(map[string]string) string { return "#ffffff" })
	for _, v := range f.Variants {
		v.Root.Children = []*design.Layer{{ID: v.ID + "-mark", Name: "Mark", Kind: design.Box, Hidden: v.Choices["With mark"] == "no"}}
	}
	c, found := draft.OfFamily(&design.Document{ID: "d"}, f, token.Empty(), nil)
	require.Empty(t, found)
	require.Len(t, c.Props, 1, "the same thing became two flags")
	assert.Equal(t, "withMark", c.Part("mark").ShownWhen.String())
}
