package contract_test

import (
	"cobrik/core/draft"
	"cobrik/core/font"
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
	"cobrik/core/layout"
	"cobrik/core/ledger"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

// list is a contract that fills its container.
func list() *contract.Contract {
	return &contract.Contract{Format: contract.Format, Name: "List", Props: []contract.Prop{{ID: "dense", Name: "dense", Type: contract.Flag{}}},
		Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"display": "flex", "width": "100%", "gap": "16px"},
			Children: []*contract.Part{{ID: "item", Name: "item", Element: "div", Style: contract.Style{"width": "40px"}}}}}
}

func below(px float64) contract.When { return contract.BelowWidth(px) }

// However edits come, what holds below a width wins over what holds at all, and
// the narrower over the wider: else an edit of the wide side would change phones.
func TestNarrowerRulesWinInWhateverOrderTheyCome(t *testing.T) {
	tokens := new(token.Set)
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 1))
		c := list()
		dense := contract.Of(contract.PropIs{Prop: "dense", Value: contract.FlagValue(true)})
		type edit struct {
			when  contract.When
			value string
		}
		edits := []edit{{contract.When{}, "20px"}, {dense, "4px"}, {below(600), "8px"}, {below(300), "2px"}}
		r.Shuffle(len(edits), func(i, j int) { edits[i], edits[j] = edits[j], edits[i] })
		for _, e := range edits {
			c.SetValue("root", "gap", e.when, e.value)
		}
		require.Empty(t, c.Check(tokens))
		gap := func(width float64, values contract.Values) string {
			return contract.Resolve(c, contract.EnvOf(values).At(width), tokens).Values["gap"].Value
		}
		on := contract.Values{"dense": contract.FlagValue(true)}
		for _, k := range []struct {
			width  float64
			values contract.Values
			want   string
		}{{900, nil, "20px"}, {900, on, "4px"}, {600, nil, "20px"}, {599.5, nil, "8px"}, {599, on, "8px"}, {300, on, "8px"}, {299, nil, "2px"}, {1, on, "2px"}} {
			assert.Equal(t, k.want, gap(k.width, k.values), "seed %d, at %g px", seed, k.width)
		}
		assert.Equal(t, []float64{300, 600}, c.SwitchPoints())

		c.MoveSwitch(600, 200) // now the one that was wider is the narrower
		assert.Equal(t, "8px", gap(150, nil), "seed %d", seed)
		assert.Equal(t, "2px", gap(250, nil), "seed %d", seed)
		c.MoveSwitch(200, 0)
		assert.Equal(t, []float64{300}, c.SwitchPoints())
		assert.Equal(t, "2px", gap(150, nil), "seed %d", seed)
	}
}

func TestSwitchPointsThatCannotBe(t *testing.T) {
	valid := string(func() []byte {
		c := list()
		c.SetValue("root", "gap", below(480), "8px")
		return c.JSON()
	}())
	require.Contains(t, valid, `"below": 480`)
	for _, k := range []struct{ from, to, says string }{
		{`"below": 480`, `"below": -480`, "below"},
		{`"below": 480`, `"below": 0`, "below"},
		{`"below": 480`, `"below": 1e300`, "below"},
		{`"below": 480`, `"below": "480px"`, "below"},
		{`"below": 480`, `"above": 480`, "above"},
		{`"container": {
          "below": 480
        }`, `"container": {}`, "container"},
		{`"width": "100%"`, `"width": "200px"`, "as wide as its content"},
	} {
		broken := strings.Replace(valid, k.from, k.to, 1)
		require.NotEqual(t, valid, broken, k.from)
		c, found := contract.Read("list.json", []byte(broken), nil)
		assert.Nil(t, c, k.to)
		assert.Contains(t, found.Error(), k.says)
		assert.Contains(t, found.Error(), "list.json:", "it says where")
	}
}

// What the design moves is taken for the drawn width; what was agreed below a
// width stays.
func TestTakingAMoveLeavesTheNarrowSideAlone(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 1)
	c, f, found := draft.Of(doc, contract.Origin{Layer: "plots-bar-1"}, "", tokens, font.Shipped(), nil)
	require.NotNil(t, c, found)
	c.SetValue("root", "padding-inline", below(480), "8px")
	moved := *f.Default().Root
	flow := *moved.Flow
	flow.Padding = []float64{20, 32, 20, 32}
	moved.Flow = &flow
	g := *f
	g.Variants = []*design.Variant{{ID: f.ID, Choices: map[string]string{}, Root: &moved}}
	l := ledger.New(ledger.Agreed{Contract: c, Tokens: tokens}, &g)
	var keys, said []string
	for _, m := range l.Moves() {
		keys = append(keys, m.Key)
		said = append(said, fmt.Sprintf("%s %s", m.Property, m.To.Value))
	}
	slices.Sort(said)
	require.Equal(t, []string{"padding-block 20px", "padding-inline 32px"}, said)
	after, found := l.Take(doc, keys)
	require.NotNil(t, after, found)
	at := func(width float64) string {
		return contract.Resolve(after, contract.Env{}.At(width), tokens).Values["padding-inline"].Value
	}
	assert.Equal(t, "32px", at(1440))
	assert.Equal(t, "8px", at(479))
	assert.Empty(t, ledger.New(ledger.Agreed{Contract: after, Tokens: tokens}, &g).Moves())
	level, changes := ledger.Changes(c, after)
	assert.Equal(t, contract.Patch, level)
	assert.NotEmpty(t, changes)
}

// Rules from a width on are as good as rules below one: what the solver is given at each
// width is what the contract says there.
func TestRulesFromAWidthOn(t *testing.T) {
	c := list()
	within := func(r contract.Range) contract.When { return contract.Of(contract.Container{Range: r}) }
	c.SetValue("root", "gap", within(contract.Range{From: 480}), "20px")
	c.SetValue("root", "padding-block", within(contract.Range{From: 480, Below: 700}), "6px")
	c.SetValue("root", "padding-inline", within(contract.Range{From: 700}), "9px") // what narrower ones do not have
	tokens := new(token.Set)
	require.Empty(t, c.Check(tokens))
	assert.Equal(t, []float64{480, 700}, c.SwitchPoints())
	boxes := c.Boxes(contract.Env{}, tokens)
	for _, width := range []float64{300, 479.5, 480, 699, 700, 1200} {
		r := contract.Resolve(c, contract.Env{}.At(width), tokens)
		solved, found := layout.Solve(boxes, layout.Options{Width: width})
		require.NotNil(t, solved, found)
		want, _ := css.Pixels(r.Values["gap"].Value)
		assert.Equal(t, want, solved.Box.Gaps[1], "the gap at %g", width)
		want, _ = css.Pixels(r.Values["padding-block"].Value)
		assert.Equal(t, want, solved.Box.Padding.Top, "the padding at %g", width)
		want, _ = css.Pixels(r.Values["padding-inline"].Value)
		assert.Equal(t, want, solved.Box.Padding.Left, "the padding at the sides at %g", width)
	}
	c.MoveSwitch(480, 300)
	assert.Equal(t, []float64{300, 700}, c.SwitchPoints())
	c.MoveSwitch(300, 0) // from no width on is always
	assert.Equal(t, "20px", contract.Resolve(c, contract.Env{}.At(1), tokens).Values["gap"].Value)
}
