package service_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/demo"
	"cobrik/demo/story"
	"cobrik/service"
)

const looseShed = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="200" font-family="Hanken Grotesk">
<rect id="a" x="20" y="20" width="200" height="120" fill="#ffffff"/><text id="a-name" x="32" y="50" font-size="18">Spade</text><text id="a-price" x="32" y="80" font-size="13">12 kr</text>
<rect id="b" x="260" y="20" width="200" height="120" fill="#eeddcc"/><text id="b-name" x="272" y="50" font-size="18">Rake</text><text id="b-price" x="272" y="80" font-size="13">9 kr</text>
<rect id="c" x="500" y="20" width="200" height="120" fill="#ffffff"/><text id="c-name" x="512" y="50" font-size="18">Watering can</text><text id="c-price" x="512" y="80" font-size="13">30 kr</text>
<g id="Group 14"><rect id="d" x="760" y="20" width="60" height="60" fill="#dddddd"/><rect id="e" x="760" y="100" width="20" height="30" fill="#888888"/></g></svg>`

func shed(t *testing.T) (*service.Service, service.Survey) {
	t.Helper()
	s := seeded(t, demoHost(t))
	_, err := s.Drop(t.Context(), "shed.svg", []byte(looseShed))
	require.NoError(t, err)
	return s, surveyOf(t, s, "shed")
}

func surveyOf(t *testing.T, s *service.Service, name string) service.Survey {
	t.Helper()
	all, err := s.Surveys(t.Context())
	require.NoError(t, err)
	i := slices.IndexFunc(all, func(v service.Survey) bool { return strings.Contains(v.Name, name) })
	require.GreaterOrEqual(t, i, 0, all)
	return all[i]
}

// When this fails, a drawing without groups is a dead end again: what repeats in it cannot become a component.
func TestAFindOfLooseLayersIsDrafted(t *testing.T) {
	s, v := shed(t)
	require.Len(t, v.Finds, 1)
	f := v.Finds[0]
	assert.Empty(t, f.Component)
	assert.True(t, f.Draftable)
	open, err := s.OpenFind(t.Context(), v.Document, f.ID)
	require.NoError(t, err)
	require.Len(t, open.Copies, 3)
	assert.Contains(t, open.Copies[2].Picture, "Watering can")
	i := slices.IndexFunc(open.Props, func(p service.FindProp) bool { return p.Kind == "text" })
	assert.Equal(t, []string{"Spade", "Rake", "Watering can"}, open.Props[i].Says)
	assert.Equal(t, []string{"a-name", "b-name", "c-name"}, open.Props[i].Layers)

	made, err := s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: f.ID, Name: "Tool card", Renamed: map[string]string{open.Props[i].Name: "tool"}})
	require.NoError(t, err)
	assert.Equal(t, "tool-card", made.Slug)
	assert.Empty(t, made.Notes)
	text, err := s.ContractJSON(t.Context(), made.Slug)
	require.NoError(t, err)
	c := new(contract.Contract)
	require.NoError(t, json.Unmarshal(text, c))
	kinds := map[string]contract.Kind{}
	for _, p := range c.Props {
		kinds[p.Name] = p.Kind()
	}
	assert.Equal(t, contract.TextKind, kinds["tool"])
	assert.Equal(t, contract.ChoiceKind, kinds["tone"])
	assert.Equal(t, []string{"a-name", "a-price"}, c.Origin.With)

	f = surveyOf(t, s, "shed").Finds[0]
	assert.Equal(t, "tool-card", f.Component, "its copies are uses of it from then on")
	_, err = s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: f.ID, Name: "Tool card"})
	var failure *service.Failure
	require.ErrorAs(t, err, &failure)
	assert.Equal(t, service.Conflict, failure.Kind)
	bench, err := s.Bench(t.Context(), made.Slug, "")
	require.NoError(t, err)
	assert.NotEmpty(t, bench.Cases, "the ledger has a drawing to hold it against")
}

// When this fails, copies that are a component there is already can only be made another one.
func TestCopiesAreTakenAsUsesOfAComponent(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "plot-card")
	require.NoError(t, err)
	find := func() service.SurveyFind {
		v := surveyOf(t, s, "Furrow")
		i := slices.IndexFunc(v.Finds, func(f service.SurveyFind) bool { return f.Kind == "copies" })
		require.GreaterOrEqual(t, i, 0)
		return v.Finds[i]
	}
	f := find()
	assert.Empty(t, f.Component)
	assert.Equal(t, "plot-card", f.Nearest[0].Component)
	require.Error(t, s.TakeAsUses(t.Context(), "furrow", f.ID, "nothing", nil))
	require.NoError(t, s.TakeAsUses(t.Context(), "furrow", f.ID, "plot-card", nil))
	assert.Equal(t, "plot-card", find().Component)
	require.NoError(t, s.TakeAsUses(t.Context(), "furrow", f.ID, "plot-card", nil), "again is no conflict")
}

// When this fails, a level is drafted in part, or with what cannot be built yet.
func TestALevelIsDraftedInOneGo(t *testing.T) {
	s := seeded(t, demoHost(t))
	made, err := s.DraftLevel(t.Context(), "furrow", 0)
	require.NoError(t, err)
	assert.NotEmpty(t, made)
	for _, p := range surveyOf(t, s, "Furrow").Order {
		if p.Level == 0 && p.Kind != "page" {
			assert.False(t, p.Draftable, p.Name)
		}
	}
	again, err := s.DraftLevel(t.Context(), "furrow", 0)
	require.NoError(t, err)
	assert.Empty(t, again)
}

// When this fails, a find that is two things can only be drafted as one.
func TestAFindIsDraftedInTwo(t *testing.T) {
	s, v := shed(t)
	f := v.Finds[0]
	_, err := s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: f.ID, Name: "Hand tool", Left: []string{"c"}})
	require.NoError(t, err)
	f = surveyOf(t, s, "shed").Finds[0]
	assert.Empty(t, f.Component, "one of its copies is no use of it")
	assert.Equal(t, []string{"hand-tool", "hand-tool", ""}, []string{f.Members[0].Component, f.Members[1].Component, f.Members[2].Component})
	_, err = s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: f.ID, Name: "Can", Left: []string{"a", "b"}})
	require.NoError(t, err)
	f = surveyOf(t, s, "shed").Finds[0]
	assert.Equal(t, "can", f.Members[2].Component)
	assert.Equal(t, "hand-tool", f.Component)
}

// When this fails, layers that are marked on the picture cannot be read, or drafted, as one drawing.
func TestMarkedLayersAreOneDrawing(t *testing.T) {
	s, v := shed(t)
	view, err := s.Containers(t.Context(), v.Document, []string{"a", "a-name"})
	require.NoError(t, err)
	assert.NotEmpty(t, view.Parts)
	made, err := s.DraftLayers(t.Context(), v.Document, []string{"a", "a-name"}, "Name plate")
	require.NoError(t, err)
	assert.Equal(t, "name-plate", made.Slug)
	_, err = s.DraftLayers(t.Context(), v.Document, []string{"a", "nowhere"}, "Name plate")
	var failure *service.Failure
	require.ErrorAs(t, err, &failure)
	assert.Equal(t, service.NotFound, failure.Kind)
}

// When this fails, what people see to be one thing cannot be said to be it.
func TestMarkedLayersAreMadeAFind(t *testing.T) {
	s, v := shed(t)
	require.Len(t, v.Finds, 1)
	require.NoError(t, s.MarkAsOne(t.Context(), v.Document, []string{"e", "d"}, true))
	v = surveyOf(t, s, "shed")
	require.Len(t, v.Finds, 2)
	made := v.Finds[1]
	assert.ElementsMatch(t, []string{"d", "e"}, made.Members[0].Made)
	require.NoError(t, s.MarkAsOne(t.Context(), v.Document, []string{"d", "e"}, true), "again is no conflict")
	require.NoError(t, s.MarkAsOne(t.Context(), v.Document, made.Members[0].Made, false))
	assert.Len(t, surveyOf(t, s, "shed").Finds, 1)
	require.Error(t, s.MarkAsOne(t.Context(), v.Document, []string{"a", "d"}, true), "one is in a group, the other is not")
}

// When this fails, a doubt that was answered comes back with every look, or one is hushed without a reason.
func TestDoubtsAreAnswered(t *testing.T) {
	s, v := shed(t)
	named := func(v service.Survey) *service.SurveyDoubt {
		i := slices.IndexFunc(v.Doubts, func(d service.SurveyDoubt) bool { return d.Rule == "layer-name" })
		if i < 0 {
			return nil
		}
		return &v.Doubts[i]
	}
	d := named(v)
	require.NotNil(t, d)
	assert.Equal(t, "", d.Outcome)
	require.Error(t, s.SayOfDoubt(t.Context(), v.Document, d.ID, "aside", "  "))
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, d.ID, "aside", "a sketch"))
	d = named(surveyOf(t, s, "shed"))
	assert.Equal(t, "aside", d.Outcome)
	assert.Equal(t, "a sketch", d.Reason)
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, d.ID, "asked", "What is it for?"))
	page, err := s.Questions(t.Context(), v.Document, false)
	require.NoError(t, err)
	assert.Equal(t, "questions.html", page.Name)
	assert.Contains(t, string(page.Text), "What is it for?")
	page, err = s.Questions(t.Context(), v.Document, true)
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(string(page.Text), "\n1. "))
	assert.NotContains(t, string(page.Text), "\n2. ", "only what was asked")
	require.NoError(t, s.SayOfDoubt(t.Context(), v.Document, d.ID, "", ""))
	assert.Equal(t, "", named(surveyOf(t, s, "shed")).Outcome)
	require.Error(t, s.SayOfDoubt(t.Context(), v.Document, "layer-name:nowhere", "asked", ""))

	require.NoError(t, s.SwitchRule(t.Context(), "layer-name", true))
	v = surveyOf(t, s, "shed")
	assert.Nil(t, named(v))
	assert.True(t, slices.ContainsFunc(v.Rules, func(r service.SurveyRule) bool { return r.ID == "layer-name" && r.Off }))
	require.NoError(t, s.SwitchRule(t.Context(), "layer-name", false))
	assert.NotNil(t, named(surveyOf(t, s, "shed")))
	require.Error(t, s.SwitchRule(t.Context(), "layer-nam", true))
}

// When this fails, the order does not say how far a piece is, or forgets one that was added by name.
func TestTheOrderSaysHowFarEachPieceIs(t *testing.T) {
	s := seeded(t, demoHost(t))
	state := func(id string) string {
		v := surveyOf(t, s, "Furrow")
		i := slices.IndexFunc(v.Order, func(p service.SurveyPiece) bool { return p.ID == id })
		if i < 0 {
			return ""
		}
		return v.Order[i].State
	}
	assert.Equal(t, "ready", state("crop-tag"))
	assert.Equal(t, "missing", state("plot-card"), "its tag is not there")
	_, err := s.Draft(t.Context(), "furrow", "crop-tag")
	require.NoError(t, err)
	assert.Equal(t, "in work", state("crop-tag"))
	assert.Equal(t, "ready", state("plot-card"))
	require.NoError(t, story.Release(t.Context(), s, "crop-tag", 1, "Small things", "", "known"))
	assert.Equal(t, "released", state("crop-tag"))
	assert.Empty(t, state("SeedSwap"))
	require.NoError(t, s.Plan(t.Context(), "seed swap", true))
	assert.Equal(t, "ready", state("SeedSwap"))
	require.NoError(t, s.Plan(t.Context(), "SeedSwap", false))
	assert.Empty(t, state("SeedSwap"))
	require.Error(t, s.Plan(t.Context(), " ", true))
}

// When this fails, what is pointed at on a page's picture is no layer of it.
func TestAPageIsDrawnWithItsLayers(t *testing.T) {
	s, v := shed(t)
	p, err := s.Page(t.Context(), v.Document, v.Pages[0].ID)
	require.NoError(t, err)
	require.Len(t, p.Layers, v.Pages[0].Layers)
	for _, l := range p.Layers {
		assert.Contains(t, p.Picture, `data-layer="`+l.ID+`"`)
	}
	i := slices.IndexFunc(p.Layers, func(l service.DrawnLayer) bool { return l.ID == "e" })
	assert.Equal(t, 1, p.Layers[i].Depth)
	assert.InDelta(t, 760, p.Layers[i].Box.X, 0.5)
	_, err = s.Page(t.Context(), v.Document, "nowhere")
	require.Error(t, err)
}

// When this fails, a new revision is surveyed as if nothing had been there before.
func TestASurveySaysWhatARevisionChanged(t *testing.T) {
	s, v := shed(t)
	assert.Nil(t, v.Since, "the first has none before it")
	_, err := s.Drop(t.Context(), "shed.svg", []byte(strings.Replace(looseShed, `<g id="Group 14">`, `<rect id="f" x="740" y="160" width="3" height="3"/><g id="Sketch">`, 1)))
	require.NoError(t, err)
	v = surveyOf(t, s, "shed")
	if assert.NotNil(t, v.Since) {
		assert.Equal(t, 1, v.Since.Revision)
		assert.Empty(t, v.Since.NewFinds)
		require.Len(t, v.Since.GoneDoubts, 1)
		assert.Contains(t, v.Since.GoneDoubts[0], "Group 14")
	}
}

// When this fails, links or icons in a row, which hold nothing, cannot become a component.
func TestAListOfLeavesIsDrafted(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Drop(t.Context(), "links.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="600" height="90" font-family="Hanken Grotesk"><text id="l0" x="20" y="30" font-size="14">Plots</text><text id="l1" x="120" y="30" font-size="14">Rota</text><text id="l2" x="220" y="30" font-size="14">Join</text>
<path id="i0" d="M20 50h16v16z"/><path id="i1" d="M60 50h16v16h-9z"/><path id="i2" d="M100 50h16l-9 16z"/></svg>`))
	require.NoError(t, err)
	v := surveyOf(t, s, "links")
	require.Len(t, v.Finds, 2)
	for i, f := range v.Finds {
		made, err := s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: f.ID, Name: []string{"Nav link", "Sign"}[i]})
		require.NoError(t, err, f.ID)
		bench, err := s.Bench(t.Context(), made.Slug, "")
		require.NoError(t, err)
		assert.NotEmpty(t, bench.Cases)
	}
}

// When this fails, people cannot say that a drawing which nothing takes for a copy is one, or cannot take it back.
func TestACopyIsAddedAndLeft(t *testing.T) {
	s, v := shed(t)
	f := v.Finds[0]
	require.Len(t, f.Members, 3)
	id := v.Document
	members := func() []service.SurveyMember { return surveyOf(t, s, "shed").Finds[0].Members }

	require.ErrorContains(t, s.AddCopy(t.Context(), id, f.ID, []string{"a"}), "one of its copies")
	require.ErrorContains(t, s.AddCopy(t.Context(), id, f.ID, f.Members[1].Layers), "one of its copies")
	require.ErrorContains(t, s.AddCopy(t.Context(), id, f.ID, []string{"a-name", "e"}), "lie in one container")
	require.ErrorContains(t, s.AddCopy(t.Context(), id, f.ID, []string{"d"}), "no thing of its own")
	require.ErrorContains(t, s.AddCopy(t.Context(), id, "repeat:gone", []string{"d"}), "There is no find")
	assert.Len(t, members(), 3, "what was refused left something behind")

	require.NoError(t, s.AddCopy(t.Context(), id, f.ID, []string{"e", "d"}))
	now := members()
	require.Len(t, now, 4)
	i := slices.IndexFunc(now, func(m service.SurveyMember) bool { return m.Joined })
	require.GreaterOrEqual(t, i, 0)
	assert.ElementsMatch(t, []string{"d", "e"}, now[i].Made)
	_, err := s.DraftFind(t.Context(), service.FindDraft{Document: id, Find: f.ID, Name: "Tool card"})
	require.NoError(t, err)
	assert.Equal(t, "tool-card", members()[i].Component, "it is a use of what was drafted")

	require.NoError(t, s.LeaveCopy(t.Context(), id, now[i].Made))
	assert.Len(t, members(), 3)
}

// Props that people say are one are one in the contract, and in what is kept of the copies.
func TestMergedPropsAreDrafted(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Drop(t.Context(), "rows.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="200" font-family="Hanken Grotesk">`+
		`<g id="a"><rect x="20" y="20" width="200" height="120" fill="#ffffff"/><text id="a-name" x="32" y="50" font-size="18">Spade</text><text id="a-again" x="32" y="80" font-size="13">Spade</text></g>`+
		`<g id="b"><rect x="260" y="20" width="200" height="120" fill="#ffffff"/><text id="b-name" x="272" y="50" font-size="18">Rake</text><text id="b-again" x="272" y="80" font-size="13">Rake</text></g></svg>`))
	require.NoError(t, err)
	v := surveyOf(t, s, "rows")
	require.Len(t, v.Finds, 1)
	open, err := s.OpenFind(t.Context(), v.Document, v.Finds[0].ID)
	require.NoError(t, err)
	require.Len(t, open.Props, 2)
	one, other := open.Props[0], open.Props[1]
	assert.Equal(t, []string{other.Name}, one.Merges)
	made, err := s.DraftFind(t.Context(), service.FindDraft{Document: v.Document, Find: v.Finds[0].ID, Name: "Tool", Merged: map[string]string{other.Name: one.Name}, Renamed: map[string]string{one.Name: "tool"}})
	require.NoError(t, err)
	text, err := s.ContractJSON(t.Context(), made.Slug)
	require.NoError(t, err)
	c := new(contract.Contract)
	require.NoError(t, json.Unmarshal(text, c))
	require.Len(t, c.Props, 1)
	assert.Equal(t, "tool", c.Props[0].Name)
}

// What copies show is told by names, not by ids that say nothing to people.
func TestWhatCopiesShowIsToldByName(t *testing.T) {
	s := seeded(t, demoHost(t))
	require.NoError(t, s.PublishNext(t.Context(), demo.Document))
	_, err := s.Fetch(t.Context())
	require.NoError(t, err)
	v := surveyOf(t, s, "Furrow")
	i := slices.IndexFunc(v.Finds, func(f service.SurveyFind) bool { return f.Name == "Stall" })
	require.GreaterOrEqual(t, i, 0)
	open, err := s.OpenFind(t.Context(), v.Document, v.Finds[i].ID)
	require.NoError(t, err)
	i = slices.IndexFunc(open.Props, func(p service.FindProp) bool { return p.Kind == "slot" })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, []string{"CropTag", "ActionButton", "PumpLamp"}, open.Props[i].Says)
}

// A family and the component that was drafted from it are told as one thing that a find is like.
func TestAComponentIsNearOnce(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), demo.Document, "plot-card")
	require.NoError(t, err)
	near := 0
	for _, f := range surveyOf(t, s, "Furrow").Finds {
		there := map[string]bool{}
		for _, n := range f.Nearest {
			if n.Component != "" {
				near++
				assert.False(t, there[n.Component], "%s is told twice to be like %s", f.Name, n.Component)
				there[n.Component] = true
			}
		}
	}
	assert.NotZero(t, near)
}
