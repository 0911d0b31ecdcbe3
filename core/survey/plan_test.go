package survey_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/survey"
)

func piece(p survey.Plan, id string) *survey.Piece {
	i := slices.IndexFunc(p.Pieces, func(p survey.Piece) bool { return p.ID == id })
	if i < 0 {
		return nil
	}
	return &p.Pieces[i]
}

// When this fails, the order to build in asks for something that is not there yet.
func TestEverythingComesAfterWhatItIsMadeOf(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 3))
		n := 2 + r.IntN(12)
		var families []*design.Family
		uses := make([]map[int]bool, n)
		for i := range n { // of those before it
			root := box(fmt.Sprint("root-", i), fmt.Sprint("Piece ", i), 0, 0, 300, 100)
			uses[i] = map[int]bool{}
			for j := range i {
				if r.IntN(3) == 0 {
					uses[i][j] = true
					root.Children = append(root.Children, useOf(fmt.Sprint("use-", i, "-", j), fmt.Sprint("f", j), float64(j)*20, 0, 18, 18))
				}
			}
			families = append(families, family(fmt.Sprint("f", i), fmt.Sprint("Piece ", i), root))
		}
		r.Shuffle(n, func(i, j int) { families[i], families[j] = families[j], families[i] })
		plan := survey.Read(document([]*design.Page{page("p", "Page", 900, useOf("u", fmt.Sprint("f", n-1), 0, 0, 99, 99))}, families...), survey.Options{}).Plan
		require.Len(t, plan.Pieces, n+1)
		require.Empty(t, plan.Cycles)
		done := map[string]int{}
		for _, p := range plan.Pieces {
			least := 0
			for _, id := range p.Of {
				level, built := done[id]
				require.True(t, built, "seed %d: %s is made of %s, which comes later", seed, p.ID, id)
				least = max(least, level+1)
			}
			require.Equal(t, least, p.Level, "seed %d: %s", seed, p.ID)
			done[p.ID] = p.Level
			if p.Kind == survey.PieceFamily {
				var i int
				_, err := fmt.Sscanf(p.ID, "f%d", &i)
				require.NoError(t, err)
				require.Len(t, p.Of, len(uses[i]))
			}
		}
		require.Equal(t, survey.PiecePage, plan.Pieces[n].Kind)
	}
}

// When this fails, families that hold each other make the survey run for ever, or are told as if they could be built one by one.
func TestCyclesAreNamed(t *testing.T) {
	a := family("a", "A", box("ra", "A", 0, 0, 90, 90, useOf("u1", "b", 0, 0, 9, 9)))
	b := family("b", "B", box("rb", "B", 0, 0, 90, 90, useOf("u2", "c", 0, 0, 9, 9)))
	c := family("c", "C", box("rc", "C", 0, 0, 90, 90, useOf("u3", "a", 0, 0, 9, 9), useOf("u4", "d", 0, 20, 9, 9)))
	d := family("d", "D", box("rd", "D", 0, 0, 90, 90))
	plan := survey.Read(document(nil, a, b, c, d), survey.Options{}).Plan
	assert.Equal(t, [][]string{{"a", "b", "c"}}, plan.Cycles)
	assert.Equal(t, 0, piece(plan, "d").Level)
	for _, id := range []string{"a", "b", "c"} {
		assert.Equal(t, 1, piece(plan, id).Level, id)
	}
}

// When this fails, what is built already is planned again, or a part that no drawing shows has no place in the plan.
func TestThePlanKnowsWhatIsBuiltAndWhatIsWanted(t *testing.T) {
	tag := &contract.Contract{Format: contract.Format, Name: "RenamedTag", Origin: &contract.Origin{Family: "tag"}, Root: &contract.Part{ID: "root", Name: "root", Element: "span"}}
	card := &contract.Contract{Format: contract.Format, Name: "Card", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{{ID: "t", Name: "t", Content: &contract.Use{Component: "RenamedTag"}}}}}
	doc := document([]*design.Page{page("p", "Page", 900, useOf("u", "tag", 0, 0, 9, 9))}, family("tag", "Crop tag", box("r", "Crop tag", 0, 0, 60, 24)), family("row", "Tool row", box("w", "Tool row", 0, 0, 60, 24)))
	plan := survey.Read(doc, survey.Options{Known: survey.Known{Contracts: []*contract.Contract{tag, card}}, Planned: []string{"watering rota", "Card"}}).Plan
	assert.True(t, piece(plan, "tag").Built)
	assert.False(t, piece(plan, "row").Built)
	assert.Nil(t, piece(plan, "RenamedTag"), "it is the family's")
	if c := piece(plan, "Card"); assert.NotNil(t, c) {
		assert.Equal(t, []string{"tag"}, c.Of)
		assert.Equal(t, survey.PieceContract, c.Kind, "it is there already")
	}
	if w := piece(plan, "WateringRota"); assert.NotNil(t, w) {
		assert.Equal(t, survey.PiecePlanned, w.Kind)
	}
	assert.Equal(t, []string{"tag"}, piece(plan, "page:p").Of)
}

// When this fails, a page is not told to be made of the finds on it, or a find not of what its copies hold.
func TestPagesAreMadeOfFinds(t *testing.T) {
	card := func(i int) *design.Layer {
		return box(fmt.Sprint("card-", i), "Plot card", 40+float64(i)*240, 40, 200, 120, text(fmt.Sprint("t", i), "Title", fmt.Sprint("Plot ", i), 12, 12, 18), text(fmt.Sprint("n", i), "Holder", "Ines", 12, 50, 14), useOf(fmt.Sprint("u", i), "tag", 12, 80, 60, 24))
	}
	plan := survey.Read(document([]*design.Page{page("p", "Page", 900, card(0), card(1), card(2))}, family("tag", "Crop tag", box("r", "Crop tag", 0, 0, 60, 24))), survey.Options{}).Plan
	assert.Equal(t, []string{"repeat:card-0"}, piece(plan, "page:p").Of)
	if c := piece(plan, "repeat:card-0"); assert.NotNil(t, c) {
		assert.Equal(t, []string{"tag"}, c.Of)
		assert.Equal(t, "PlotCard", c.Name)
		assert.Equal(t, 1, c.Level)
	}
}
