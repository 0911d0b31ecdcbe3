package service_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/sheet"
	"cobrik/demo/story"
	"cobrik/service"
	"cobrik/store"
)

// lamp drafts the demo's lamp, whose drawn states become states that it is in.
func lamp(t *testing.T) (*service.Service, service.Edited) {
	s := seeded(t, demoHost(t))
	_, err := s.Draft(t.Context(), "furrow", "pump-lamp")
	require.NoError(t, err)
	done, err := s.AdoptStates(t.Context(), "pump-lamp", 1, "status", []float64{0, 2000, 500}, map[string]string{"running": "root"}, behaviour.ByItself)
	require.NoError(t, err)
	return s, done
}

// What is kept is what was said; what is tried is not kept; what is wrong says in which line, and changes nothing.
func TestABehaviourIsKept(t *testing.T) {
	s, done := lamp(t)
	v, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.Equal(t, done.Revision, v.Revision)
	assert.True(t, v.Has)
	assert.Empty(t, v.Findings)
	assert.True(t, v.Whole)
	assert.Equal(t, []service.BeginView{{Prop: "status", Value: "still"}, {Prop: "status", Value: "running"}, {Prop: "status", Value: "draining"}}, v.Begins)
	var courses []int
	for _, b := range v.States {
		courses = append(courses, b.Course)
		assert.Equal(t, "state "+b.ID, strings.TrimSpace(strings.Split(v.Text, "\n")[b.Line-1]))
	}
	assert.Equal(t, []int{0, 1, 2}, courses)
	assert.Equal(t, []service.WayView{{From: "still", To: "running", Words: "press of root"}, {From: "running", To: "draining", Words: "after 2000 ms"}, {From: "draining", To: "still", Words: "after 500 ms"}, {From: "draining", To: "running", Words: "press of root"}}, v.Ways)

	tried, err := s.TryBehaviour(t.Context(), "pump-lamp", v.Text+"state lost\n")
	require.NoError(t, err)
	require.NotEmpty(t, tried.Findings)
	assert.Contains(t, tried.Findings[0].Message, "nothing leads to lost")
	tried, err = s.TryBehaviour(t.Context(), "pump-lamp", strings.Replace(v.Text, "to draining", "to nowhere", 1))
	require.NoError(t, err)
	require.Len(t, tried.Wrong, 1)
	assert.Contains(t, tried.Wrong[0].Message, "nowhere")
	again, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.Equal(t, v, again, "what was tried was kept")

	_, err = s.Behave(t.Context(), "pump-lamp", done.Revision, "machine lamp\nstate a\n  on press of nowhere: to a\n")
	assert.ErrorContains(t, err, "line 2")
	_, err = s.Behave(t.Context(), "pump-lamp", 1, v.Text+"# a note\n")
	assert.ErrorContains(t, err, "changed", "an edit of what is no more was kept")

	// What it tells becomes a prop of it; SCXML says the same.
	done, err = s.Behave(t.Context(), "pump-lamp", done.Revision, strings.Replace(v.Text, "after 500 ms: to still", "after 500 ms: to still, tell onStill with true", 1))
	require.NoError(t, err)
	files, err := s.Files(t.Context(), "pump-lamp")
	require.NoError(t, err)
	text := map[string]string{}
	for _, f := range files {
		text[f.Path] = f.Content
	}
	assert.Contains(t, text["PumpLamp.tsx"], "onStill?: (value: boolean) => void;")
	assert.Contains(t, text["usePumpLamp.ts"], "user.onStill?.(true)")
	scxml, err := s.SCXML(t.Context(), "pump-lamp")
	require.NoError(t, err)
	before, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	done, err = s.Behave(t.Context(), "pump-lamp", done.Revision, string(scxml))
	require.NoError(t, err)
	after, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.Equal(t, before.Text, after.Text)
	_, err = s.Behave(t.Context(), "pump-lamp", done.Revision, `<scxml xmlns="http://www.w3.org/2005/07/scxml"><script>x</script></scxml>`)
	assert.Error(t, err)

	// Taken away, it is as it was drawn, and its release says so.
	done, err = s.Behave(t.Context(), "pump-lamp", done.Revision, "")
	require.NoError(t, err)
	gone, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.False(t, gone.Has)
	assert.Equal(t, []service.DrawnStates{{Prop: "status", Options: []string{"still", "running", "draining"}}}, gone.Drawn)
	_, err = s.SCXML(t.Context(), "pump-lamp")
	assert.ErrorContains(t, err, "no behaviour")
	_, err = s.Undo(t.Context(), "pump-lamp", done.Revision, store.Backward)
	require.NoError(t, err)
	back, err := s.Behaviour(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.Equal(t, after.Text, back.Text, "it is not undone")
}

// Instances run side by side, each by what happens to it.
func TestInstancesInTime(t *testing.T) {
	s, done := lamp(t)
	press := behaviour.Event{Kind: behaviour.Press, Part: "root"}
	got, err := s.Run(t.Context(), "pump-lamp", []service.Instance{{}, {Begins: map[string]string{"status": "draining"}}, {Happens: []service.Happens{{At: 100, Event: press}}}}, 3000)
	require.NoError(t, err)
	leaves := func(c service.Course) (out []behaviour.Brick) {
		for _, b := range c.Bricks {
			if b.Depth == 1 {
				out = append(out, behaviour.Brick{State: b.State, From: b.From, To: b.To})
			}
		}
		return out
	}
	assert.Equal(t, []behaviour.Brick{{State: "still", From: 0, To: 3000}}, leaves(got[0]))
	assert.Equal(t, []behaviour.Brick{{State: "draining", From: 0, To: 500}, {State: "still", From: 500, To: 3000}}, leaves(got[1]))
	assert.Equal(t, []behaviour.Brick{{State: "still", From: 0, To: 100}, {State: "running", From: 100, To: 2100}, {State: "draining", From: 2100, To: 2600}, {State: "still", From: 2600, To: 3000}}, leaves(got[2]))
	assert.Equal(t, "onStatus", got[2].Told[0].Tell)
	assert.Equal(t, contract.OptionValue("draining"), got[1].Props[0].Props["status"])

	// A prop that changes while it runs, and what is expected meanwhile.
	without, err := s.Behave(t.Context(), "pump-lamp", done.Revision, "")
	require.NoError(t, err)
	_, err = s.AdoptStates(t.Context(), "pump-lamp", without.Revision, "status", []float64{0, 2000, 500}, map[string]string{"running": "root"}, behaviour.WithProp)
	require.NoError(t, err)
	wrong := &contract.Expected{Part: "label", Is: "text", Value: "Dry"}
	got, err = s.Run(t.Context(), "pump-lamp", []service.Instance{{Happens: []service.Happens{
		{At: 200, Event: behaviour.Event{Kind: behaviour.Changed, Name: "status"}, Value: "draining"}, {At: 250, Event: behaviour.Event{Kind: behaviour.Changed, Name: "status"}, Value: "draining"}, {At: 300, Expect: wrong}, {At: 400, Event: behaviour.Event{Kind: behaviour.Press, Part: "label"}}}}}, 3000)
	require.NoError(t, err)
	assert.Equal(t, []behaviour.Brick{{State: "still", From: 0, To: 200}, {State: "draining", From: 200, To: 700}, {State: "still", From: 700, To: 3000}}, leaves(got[0]))
	assert.Equal(t, []float64{0, 200}, []float64{got[0].Props[0].At, got[0].Props[1].At})
	assert.Equal(t, contract.OptionValue("draining"), got[0].Props[1].Props["status"])
	assert.Len(t, got[0].Props, 2, "what it was given already changes nothing")
	assert.Equal(t, []string{"", "", "label reads 'Dry'", ""}, got[0].Says)
	assert.Equal(t, "", got[0].Missed[0])
	assert.Contains(t, got[0].Missed[2], "not 'Dry'")
	assert.Contains(t, got[0].Missed[3], "press of label is heard by nothing")
	assert.Equal(t, []int{}, got[0].Paths["root"])
}

// What happened to an instance is kept as a scenario, replayed after each change, and keeps a release back until it holds or is set aside.
func TestScenariosAreKept(t *testing.T) {
	s, _ := lamp(t)
	const slug = "pump-lamp"
	press := service.Happens{At: 1000, Event: behaviour.Event{Kind: behaviour.Press, Part: "root"}}
	one := service.Instance{Happens: []service.Happens{press}}
	seen, err := s.Seen(t.Context(), slug, one, 1000, "label")
	require.NoError(t, err)
	var says []string
	for _, e := range seen {
		says = append(says, e.Says)
	}
	assert.Contains(t, says, "label is shown")
	assert.Contains(t, says, `onStatus is told "running"`)
	for _, e := range seen {
		one.Happens = append(one.Happens, service.Happens{At: 1000, Expect: &e.Expect})
	}
	look := func() service.BehaviourView {
		view, err := s.Behaviour(t.Context(), slug)
		require.NoError(t, err)
		return view
	}
	_, err = s.KeepScenario(t.Context(), slug, look().Revision, " ", one)
	assert.ErrorContains(t, err, "Give the scenario a name")
	_, err = s.KeepScenario(t.Context(), slug, look().Revision, "nothing", service.Instance{})
	assert.ErrorContains(t, err, "Nothing happens")
	_, err = s.KeepScenario(t.Context(), slug, look().Revision, "runs", one)
	require.NoError(t, err)
	view := look()
	require.Len(t, view.Scenarios, 1)
	assert.True(t, view.Scenarios[0].Holds)
	assert.Equal(t, "press of root", view.Scenarios[0].Steps[0].Happens)
	assert.Len(t, view.Scenarios[0].Instance.Happens, 1+len(seen))

	// Laid on the time line and kept again it is the same.
	_, err = s.KeepScenario(t.Context(), slug, view.Revision, "again", view.Scenarios[0].Instance)
	require.NoError(t, err)
	view = look()
	assert.Equal(t, view.Scenarios[0].Steps, view.Scenarios[1].Steps)
	_, err = s.DropScenario(t.Context(), slug, view.Revision, "again")
	require.NoError(t, err)
	_, err = s.DropScenario(t.Context(), slug, look().Revision, "again")
	assert.ErrorContains(t, err, "no scenario")

	files, err := s.Files(t.Context(), slug)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(files, func(f emit.File) bool {
		return f.Path == "PumpLamp.test.tsx" && strings.Contains(f.Content, `test("runs"`)
	}))

	_, err = s.Behave(t.Context(), slug, look().Revision, strings.Replace(look().Text, "on press of root: to running, tell onStatus with 'running'", "on press of root: to running", 1))
	require.NoError(t, err)
	view = look()
	assert.False(t, view.Scenarios[0].Holds, view.Text)
	plan, err := s.PlanRelease(t.Context(), slug)
	require.NoError(t, err)
	require.NotEmpty(t, plan.Open)
	checks, err := s.Checks(t.Context(), slug)
	require.NoError(t, err)
	scenario := ""
	for _, f := range checks.Findings {
		if f.Rule == "scenario" {
			scenario = f.Key
			continue
		}
		_, err = s.SetAside(t.Context(), slug, "known", f.Key)
		require.NoError(t, err)
	}
	_, err = s.Release(t.Context(), slug, view.Revision, "Things", "")
	require.ErrorContains(t, err, "The scenario runs, step 1")
	_, err = s.SetAside(t.Context(), slug, "drains first, from now on", scenario)
	require.NoError(t, err)
	_, err = s.Release(t.Context(), slug, view.Revision, "Things", "")
	assert.NoError(t, err)
}

// Stock machines are taken by their names; a part that is named takes the place of theirs, others are added.
func TestAStockMachineIsAdopted(t *testing.T) {
	s := seeded(t, demoHost(t))
	_, err := s.Begin(t.Context(), "Shed", "blank")
	require.NoError(t, err)
	_, err = s.Adopt(t.Context(), "shed", 1, "wheel", behaviour.Choices{}, nil)
	assert.ErrorContains(t, err, "no stock machine")
	_, err = s.AdoptStates(t.Context(), "shed", 1, "size", nil, nil, behaviour.ByItself)
	assert.ErrorContains(t, err, "no choice or flag")
	_, err = s.Adopt(t.Context(), "shed", 1, "disclosure", behaviour.Choices{}, map[string]string{"button": "nowhere"})
	assert.ErrorContains(t, err, "no part")
	done, err := s.Adopt(t.Context(), "shed", 1, "disclosure", behaviour.Choices{}, nil)
	require.NoError(t, err)
	v, err := s.Behaviour(t.Context(), "shed")
	require.NoError(t, err)
	assert.Contains(t, v.Text, "on press of button: to open, tell onToggle with true")
	var parts []string
	for _, p := range v.Parts {
		parts = append(parts, p.Name+" "+p.Element)
	}
	assert.Equal(t, []string{"root div", "button button", "panel div"}, parts)
	assert.Empty(t, v.Findings)

	// A release says what it does; what it does otherwise later, and that it does nothing, too.
	require.NoError(t, story.Release(t.Context(), s, "shed", done.Revision, "Sheds", "", "known"))
	v, err = s.Behaviour(t.Context(), "shed")
	require.NoError(t, err)
	done, err = s.Behave(t.Context(), "shed", v.Revision, strings.Replace(v.Text, "state open", "final gone\nstate open", 1))
	require.NoError(t, err)
	plan, err := s.PlanRelease(t.Context(), "shed")
	require.NoError(t, err)
	assert.Equal(t, contract.Minor, plan.Level)
	require.NotEmpty(t, plan.Changes)
	assert.Equal(t, "it can be gone", plan.Changes[0].Text)
	_, err = s.Behave(t.Context(), "shed", done.Revision, "")
	require.NoError(t, err)
	plan, err = s.PlanRelease(t.Context(), "shed")
	require.NoError(t, err)
	assert.Equal(t, contract.Major, plan.Level)
}

// A placeholder is derived as a component of its own, again after a change, and never over what somebody else made.
func TestAPlaceholderIsDerived(t *testing.T) {
	s, _ := lamp(t)
	made, err := s.Placeholder(t.Context(), "pump-lamp")
	require.NoError(t, err)
	assert.Equal(t, "pump-lamp-loading", made.Slug)
	view, err := s.Behaviour(t.Context(), made.Slug)
	require.NoError(t, err)
	assert.Equal(t, "PumpLamp", view.RoomOf)
	_, err = s.Placeholder(t.Context(), "pump-lamp")
	require.NoError(t, err)
	again, err := s.Behaviour(t.Context(), made.Slug)
	require.NoError(t, err)
	assert.Equal(t, view.Revision, again.Revision, "it was derived again though nothing changed")
	of, err := s.Bench(t.Context(), "pump-lamp", "")
	require.NoError(t, err)
	_, err = s.Amend(t.Context(), "pump-lamp", of.Revision, sheet.Edit{Do: "add", On: "parts/root", Cell: "value", Text: "min-height 40px"})
	require.NoError(t, err)
	_, err = s.Placeholder(t.Context(), "pump-lamp")
	require.NoError(t, err)
	again, err = s.Behaviour(t.Context(), made.Slug)
	require.NoError(t, err)
	assert.Equal(t, view.Revision+1, again.Revision)
	_, err = s.Placeholder(t.Context(), made.Slug)
	assert.ErrorContains(t, err, "keeps the room of PumpLamp itself")
	_, err = s.Begin(t.Context(), "ShedLoading", "blank")
	require.NoError(t, err)
	_, err = s.Begin(t.Context(), "Shed", "blank")
	require.NoError(t, err)
	_, err = s.Placeholder(t.Context(), "shed")
	assert.ErrorContains(t, err, "ShedLoading")
}
