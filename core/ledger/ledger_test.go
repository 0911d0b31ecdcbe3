package ledger_test

import (
	"cobrik/core/draft"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/ledger"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func cropTag(t testing.TB) (*contract.Contract, *token.Set) {
	doc, tokens := demotest.Furrow(t, 1)
	c, found := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	require.Empty(t, found)
	return c, tokens
}

func describe(moves []ledger.Move) []string {
	var out []string
	for _, m := range moves {
		out = append(out, fmt.Sprintf("%s %s (%d cases, %s)", m.Kind, m, m.Cases, m.Bump))
	}
	return out
}

func keys(moves []ledger.Move) []string {
	var out []string
	for _, m := range moves {
		out = append(out, m.Key)
	}
	return out
}

func TestAFreshDraftAgreesWithItsDrawing(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 1)
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, doc.FamilyNamed("CropTag"))
	assert.Empty(t, l.Moves())
	for _, k := range draft.Cases(c, doc.FamilyNamed("CropTag")) {
		for _, f := range l.Facts(k, nil) {
			assert.Equal(t, ledger.Agree, f.Verdict, "%s: %s · %s", k.Name, f.Part, f.Property)
		}
	}
}

func TestRevisionTwoIsToldAsThePeopleWouldTellIt(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 2)
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, doc.FamilyNamed("CropTag"))
	assert.Equal(t, []string{
		"option added tone: nothing → resting (6 cases, minor)",
		"value root · padding-inline · size = m: {space.2} → {space.3} (6 cases, patch)",
		"value icon · fill · not strong and tone = ripe: {tag.ripe.ink} → {soil.800} (3 cases, patch)",
		"value label · color · not strong and tone = ripe: {tag.ripe.ink} → {soil.800} (3 cases, patch)",
	}, describe(l.Moves()))

	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, doc.FamilyNamed("CropTag")).Moves(), "the ledger is not level after taking everything")
	fresh, _ := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	assert.Equal(t, string(fresh.JSON()), string(taken.JSON()), "taking all moves is another contract than drafting from the new revision")
	level, changes := ledger.Changes(c, taken)
	assert.Equal(t, contract.Minor, level, "Semantic Versioning 2.0.0, 7: something added is a minor release")
	assert.Contains(t, changes, contract.Change{Level: contract.Minor, Text: "tone: the option resting is added"})
	assert.Contains(t, changes, contract.Change{Level: contract.Patch, Text: "root · padding-inline is {space.3} instead of {space.2}", Key: "root padding-inline "})
}

func TestARenamedOptionIsMajorAndLosesNothing(t *testing.T) {
	doc2, tokens := demotest.Furrow(t, 2)
	c, _ := draft.OfFamily(doc2, doc2.FamilyNamed("CropTag"), tokens, nil)
	doc, _ := demotest.Furrow(t, 3)
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, doc.FamilyNamed("CropTag"))
	assert.Equal(t, []string{"option renamed tone: sown → planted (6 cases, major)"}, describe(l.Moves()))
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Equal(t, []string{"planted", "growing", "ripe", "resting"}, taken.Prop("tone").Options())
	level, _ := ledger.Changes(c, taken)
	assert.Equal(t, contract.Major, level)
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, doc.FamilyNamed("CropTag")).Moves())
}

// Only the label is re-pointed: the icon, which had its colour, must keep it.
func TestTakingOneOfTwoMovesLeavesTheOther(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 2)
	f := doc.FamilyNamed("CropTag")
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	for _, part := range []string{"label", "icon"} {
		var take, rest []string
		for _, m := range l.Moves() {
			if m.Part == part {
				take = append(take, m.Key)
			} else {
				rest = append(rest, m.Key)
			}
		}
		require.Len(t, take, 1)
		taken, found := l.Take(doc, take)
		require.Empty(t, found)
		left := ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, f).Moves()
		assert.ElementsMatch(t, rest, keys(left), "taking the %s's move changed what was not decided", part)
	}
}

func TestAKeptMoveIsNotAskedAgainUntilTheDesignMovesOnceMore(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 2)
	f := doc.FamilyNamed("CropTag")
	sides := ledger.Agreed{Contract: c, Tokens: tokens}
	var padding ledger.Move
	for _, m := range ledger.New(sides, f).Moves() {
		if m.Property == "padding-inline" {
			padding = m
			sides.Kept = append(sides.Kept, m.Keep(""))
		}
	}
	l := ledger.New(sides, f)
	assert.Equal(t, 3, ledger.Waiting(l.Moves()))
	for _, k := range draft.Cases(c, f) {
		if len(k.New) > 0 {
			continue // drawn with the tone the contract does not have
		}
		for _, fact := range l.Facts(k, nil) {
			if fact.Part == "root" && fact.Property == "padding-inline" {
				assert.Equal(t, ledger.Agree, fact.Verdict)
				assert.Equal(t, k.Values["size"] == contract.OptionValue("m"), fact.Kept)
			}
		}
	}
	for _, v := range f.Variants {
		if v.Choices["Size"] == "m" {
			v.Root.Flow.Padding = []float64{2, 16}
		}
	}
	for _, m := range ledger.New(sides, f).Moves() {
		if m.Key == padding.Key {
			assert.False(t, m.Kept, "the design moved again and nobody is asked")
			assert.Equal(t, "16px", m.To.Value)
		}
	}
}

// Each cell of a random contract, whatever is taken: what is taken is then as
// drawn, what is not taken is as it was.
func TestTakingAnySubsetChangesExactlyThatSubset(t *testing.T) {
	random := rand.New(rand.NewPCG(41, 12))
	colors := []string{"#111111", "#222222", "#333333", "#444444"}
	for round := range 50 {
		doc, tokens := demotest.Furrow(t, 1)
		f := doc.FamilyNamed("CropTag")
		c, found := draft.OfFamily(doc, f, tokens, nil)
		require.Empty(t, found)
		for range 1 + random.IntN(6) { // the designer moves some things in some variants
			axis := f.Axes[random.IntN(3)]
			value := axis.Values[random.IntN(len(axis.Values))]
			to, pad := colors[random.IntN(4)], float64(random.IntN(20))
			what := random.IntN(4)
			for _, v := range f.Variants {
				if v.Choices[axis.Name] != value {
					continue
				}
				l := v.Root
				switch what {
				case 0:
					l.Fill = to
					delete(l.Tokens, "background-color")
				case 1:
					l.Flow.Padding = []float64{2, pad}
				case 2:
					l.Children[1].Fill = to
					delete(l.Children[1].Tokens, "color")
				case 3:
					l.Children[0].Fill = to
					delete(l.Children[0].Tokens, "fill")
				}
			}
		}
		sides := ledger.Agreed{Contract: c, Tokens: tokens}
		l := ledger.New(sides, f)
		var take, rest []string
		for _, m := range l.Moves() {
			if random.IntN(2) == 0 {
				take = append(take, m.Key)
			} else {
				rest = append(rest, m.String())
			}
		}
		taken, found := l.Take(doc, take)
		require.Empty(t, found)
		left := map[string]bool{}
		for _, m := range l.Moves() {
			if slices.Contains(rest, m.String()) {
				for _, cell := range cellsOf(t, m, c, f) {
					left[cell] = true
				}
			}
		}
		now := map[string]bool{}
		for _, m := range ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens}, f).Moves() {
			for _, cell := range cellsOf(t, m, taken, f) {
				now[cell] = true
			}
		}
		require.Equal(t, left, now, "round %d: took %v, left %v", round, take, rest)
	}
}

// cellsOf names the cells of a value's move: the drawn cases its condition holds in, and what both
// sides say there.
func cellsOf(t *testing.T, m ledger.Move, c *contract.Contract, f *design.Family) []string {
	t.Helper()
	require.Equal(t, ledger.ValueMoved, m.Kind)
	when, err := contract.ParseWhen(m.Key[strings.LastIndexByte(m.Key, '|')+1:])
	require.NoError(t, err)
	var out []string
	for _, k := range draft.Cases(c, f) {
		if when.Holds(k.Env()) {
			out = append(out, fmt.Sprintf("%s %s · %s: %s%s", k.Variant.ID, m.Part, m.Property, m.To.Expression, m.To.Value))
		}
	}
	require.Len(t, out, m.Cases, m.String())
	return out
}

func TestVerdicts(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 1)
	f := doc.FamilyNamed("CropTag")
	measure := func(padding string) *ledger.Measurement {
		return &ledger.Measurement{Parts: []ledger.MeasuredPart{
			{Part: "root", Box: f.Default().Root.Bounds, Style: map[string]string{"padding-inline": padding}},
			{Part: "icon", Box: design.Rect{Width: 14, Height: 14}, Style: map[string]string{}},
			{Part: "label", Box: f.Default().Root.Children[1].Bounds, Text: "Growing", Style: map[string]string{"color": "rgb(47, 97, 50)"}},
		}}
	}
	verdictOf := func(drawn float64, built string) ledger.Fact {
		f.Default().Root.Flow.Padding = []float64{2, drawn}
		k := draft.Cases(c, f)[0]
		for _, one := range draft.Cases(c, f) {
			if one.Variant == f.Default() {
				k = one
			}
		}
		for _, fact := range ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f).Facts(k, measure(built)) {
			if fact.Part == "root" && fact.Property == "padding-inline" {
				return fact
			}
		}
		t.Fatal("no such fact")
		return ledger.Fact{}
	}
	assert.Equal(t, ledger.Agree, verdictOf(8, "8px").Verdict)
	assert.Equal(t, ledger.DesignMoved, verdictOf(12, "8px").Verdict)
	assert.Equal(t, ledger.CodeMoved, verdictOf(8, "10px").Verdict)
	assert.Equal(t, ledger.SeveralMoved, verdictOf(12, "10px").Verdict)
	assert.Equal(t, ledger.SeveralMoved, verdictOf(12, "12px").Verdict, "design and code went the same way without the contract")
	assert.Equal(t, ledger.CodeMoved, verdictOf(8, "14px 8px").Verdict)
}

func TestBumps(t *testing.T) {
	// Semantic Versioning 2.0.0, 6 to 8; what counts as which is in docs/formats.
	for name, c := range map[string]struct {
		change func(*contract.Contract)
		want   contract.Level
	}{
		"nothing":     {func(*contract.Contract) {}, contract.None},
		"a value":     {func(c *contract.Contract) { c.Root.Style["gap"] = "5px" }, contract.Patch},
		"a rule gone": {func(c *contract.Contract) { c.Rules = c.Rules[1:] }, contract.Patch},
		"an option more": {func(c *contract.Contract) {
			c.Prop("size").Type = contract.Choice{Options: []string{"s", "m", "l", "xl"}, Initial: "m"}
		}, contract.Minor},
		"an option less": {func(c *contract.Contract) {
			c.Prop("size").Type = contract.Choice{Options: []string{"s", "m"}, Initial: "m"}
		}, contract.Major},
		"a prop more": {func(c *contract.Contract) {
			c.Props = append(c.Props, contract.Prop{ID: "x", Name: "x", Type: contract.Flag{}})
		}, contract.Minor},
		"a prop renamed":    {func(c *contract.Contract) { c.Prop("size").Name = "scale" }, contract.Major},
		"a part renamed":    {func(c *contract.Contract) { c.Part("label").Name = "words" }, contract.Patch},
		"a flag's default":  {func(c *contract.Contract) { c.Prop("strong").SetDefault(contract.FlagValue(true)) }, contract.Major},
		"a prop less":       {func(c *contract.Contract) { c.Props = c.Props[:4] }, contract.Major},
		"another default":   {func(c *contract.Contract) { c.Prop("size").SetDefault(contract.OptionValue("s")) }, contract.Major},
		"another text":      {func(c *contract.Contract) { c.Prop("label").SetDefault(contract.TextValue("Thriving")) }, contract.Patch},
		"two props apart":   {func(c *contract.Contract) { c.Apart = [][]string{{"size", "strong"}} }, contract.Major},
		"no longer apart":   {func(c *contract.Contract) { c.Apart = nil }, contract.Minor},
		"an element more":   {func(c *contract.Contract) { c.Root.As = []string{"div", "section"} }, contract.Minor},
		"an element less":   {func(c *contract.Contract) { c.Root.As = []string{"nav"} }, contract.Major},
		"the usual element": {func(c *contract.Contract) { c.Root.As, c.Root.Element = []string{"span"}, "div" }, contract.Patch},
		"another prop kind": {func(c *contract.Contract) { c.Prop("label").Type = contract.Flag{} }, contract.Major},
	} {
		old, _ := cropTag(t)
		old.Root.As, old.Apart = []string{"div"}, [][]string{{"tone", "label"}}
		now := old.Clone()
		c.change(now)
		level, _ := ledger.Changes(old, now)
		assert.Equal(t, c.want, level, name)
	}
}

// A kept padding must hold for the tone that comes with the same revision, too.
func TestANewOptionFollowsWhatWasKept(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 2)
	f := doc.FamilyNamed("CropTag")
	sides := ledger.Agreed{Contract: c, Tokens: tokens}
	l := ledger.New(sides, f)
	var take []string
	for _, m := range l.Moves() {
		if m.Property == "padding-inline" {
			sides.Kept = append(sides.Kept, m.Keep(""))
		} else {
			take = append(take, m.Key)
		}
	}
	taken, found := l.Take(doc, take)
	require.Empty(t, found)
	left := ledger.New(ledger.Agreed{Contract: taken, Tokens: tokens, Kept: sides.Kept}, f).Moves()
	assert.Equal(t, []string{"value root · padding-inline · size = m: {space.2} → {space.3} (8 cases, patch)"}, describe(left))
	assert.Zero(t, ledger.Waiting(left), "what was kept is asked again")
}

// A decision covers the same move told apart by more props, not by others.
func TestAKeptMoveCoversItsParts(t *testing.T) {
	c, tokens := cropTag(t)
	doc, _ := demotest.Furrow(t, 2)
	f := doc.FamilyNamed("CropTag")
	var kept []ledger.Decision
	for _, m := range ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f).Moves() {
		if m.Property == "padding-inline" {
			kept = append(kept, m.Keep(""))
		}
	}
	for _, v := range f.Variants {
		if v.Choices["Size"] == "m" && v.Choices["Tone"] == "ripe" {
			v.Root.Flow.Padding = []float64{2, 20}
		}
	}
	asked := []string{}
	for _, m := range ledger.New(ledger.Agreed{Contract: c, Tokens: tokens, Kept: kept}, f).Moves() {
		if m.Property == "padding-inline" && !m.Kept {
			asked = append(asked, m.When)
		}
	}
	assert.Equal(t, []string{"size = m and tone = ripe"}, asked, "only what moved once more is to be decided")
}

// A colour that did not move stays as its author wrote it.
func TestTakingLeavesOtherValuesAsWritten(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	f := doc.FamilyNamed("CropTag")
	for _, v := range f.Variants {
		icon := v.Root.Children[0]
		icon.Fill = "#aabbcc"
		delete(icon.Tokens, "fill")
	}
	c, found := draft.OfFamily(doc, f, tokens, nil)
	require.Empty(t, found)
	c.SetValue("icon", "fill", contract.When{}, "#ABC")
	for _, v := range f.Variants {
		v.Root.Flow.Gap++
		delete(v.Root.Tokens, "gap") // a binding speaks louder than what was drawn
	}
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, f)
	require.NotEmpty(t, l.Moves())
	taken, found := l.Take(doc, keys(l.Moves()))
	require.Empty(t, found)
	assert.Equal(t, "#ABC", taken.Part("icon").Style["fill"], "taking a gap rewrote a colour")
	_, changes := ledger.Changes(c, taken)
	for _, change := range changes {
		assert.Contains(t, change.Text, "gap")
	}
}
