package react_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/emit/react"
	"cobrik/core/token"
	"cobrik/core/token/output"
	"cobrik/demo/demotest"
)

// drawnStates drafts a family of the demo, and makes states of the options of a prop.
func drawnStates(t testing.TB, family, prop string, times []float64, pressed map[string]string) *contract.Contract {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 1)
	c, found := draft.OfFamily(doc, doc.FamilyNamed(family), tokens, nil)
	require.Empty(t, found)
	out, err := behaviour.FromOptions(c, prop, times, pressed, behaviour.ByItself)
	require.NoError(t, err)
	checked := out.Check(tokens)
	require.NoError(t, checked.Err(), "%v", checked)
	return out
}

// The demo's lamp: three that begin in different states go their own ways, each by its own time.
func TestInstancesHaveNothingToDoWithEachOther(t *testing.T) {
	c := drawnStates(t, "PumpLamp", "status", []float64{0, 2000, 500}, map[string]string{"running": "root"})
	b := openComponents(t, []*contract.Contract{c})
	states := func() []string {
		return evaluate[[]string](b, `[...document.querySelector("main").children].map((e) => [...e.classList].map((c) => c.split("_").at(-1)).find((c) => c === "running" || c === "draining") ?? "still")`)
	}
	click := func(i int) {
		evaluate[bool](b, fmt.Sprintf(`document.querySelector("main").children[%d].click(); new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0, true)))`, i))
	}
	wait := func(ms int) {
		evaluate[bool](b, fmt.Sprintf("wait(%d); new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0, true)))", ms))
	}
	evaluate[any](b, fmt.Sprintf(`mountAll("PumpLamp", %s)`, quoted(t, []map[string]any{{}, {"status": "running"}, {"status": "draining"}})))
	wait(0)
	assert.Equal(t, []string{"still", "running", "draining"}, states())
	wait(499)
	assert.Equal(t, []string{"still", "running", "draining"}, states())
	wait(1)
	assert.Equal(t, []string{"still", "running", "still"}, states(), "one's time is over, and nobody else's")
	click(2)
	assert.Equal(t, []string{"still", "running", "running"}, states())
	wait(1500)
	assert.Equal(t, []string{"still", "draining", "running"}, states())
	click(0)
	wait(500)
	assert.Equal(t, []string{"running", "still", "draining"}, states())
}

// The demo's panels: the one that is open stays open when they turn from side by side to stacked, and the other way.
func TestAPanelSurvivesTheSwitchPoint(t *testing.T) {
	c := drawnStates(t, "SeasonPanels", "open", nil, map[string]string{"spring": "springTitle", "summer": "summerTitle", "autumn": "autumnTitle", "winter": "winterTitle"})
	require.NotEmpty(t, c.SwitchPoints())
	b := openComponents(t, []*contract.Contract{c})
	m := b.mount(c, "")
	open := func() string {
		return evaluate[string](b, `[...document.querySelectorAll("[aria-expanded=true]")].map((e) => e.textContent + " " + getComputedStyle(document.getElementById(e.getAttribute("aria-controls"))).display).join()`)
	}
	stacked := func() bool {
		return evaluate[bool](b, `(() => { const [a, b] = [...document.querySelectorAll("[aria-expanded]")].map((e) => e.getBoundingClientRect()); return b.y > a.y + 5 })()`)
	}
	assert.Equal(t, "Spring block", open())
	assert.False(t, stacked())
	m.happens("press.autumnTitle")
	assert.Equal(t, "Autumn block", open())
	evaluate[bool](b, `document.querySelector("main").style.width = "300px"; true`)
	assert.True(t, stacked(), "the panels are not stacked where it is narrow")
	assert.Equal(t, "Autumn block", open())
	m.happens("press.winterTitle")
	evaluate[bool](b, `document.querySelector("main").style.width = ""; true`)
	assert.False(t, stacked())
	assert.Equal(t, "Winter block", open())
	assert.Equal(t, [][]any{{"onOpen", "autumn"}, {"onOpen", "winter"}}, evaluate[[][]any](b, "told.splice(0)"), "strictly run, nobody is told twice")
}

// BenchmarkEventsInTheBrowser sends 1,000 events a second to 50 instances of the largest stock machine, and tells how long a frame's work took at most: none is to be a long task, of
// over 50 ms (Long Tasks API, W3C).
func BenchmarkEventsInTheBrowser(b *testing.B) {
	c := stocked(b, "Many", "panels", behaviour.Choices{Items: 8, Several: true})
	page := openComponentsAs(b, "production", react.Options{}, []*contract.Contract{c})
	for b.Loop() {
		got := evaluate[map[string]float64](page, `(async () => {
			mountAll("Many", Array.from({ length: 50 }, () => ({})));
			const buttons = [...document.querySelectorAll("button")];
			const long = [];
			let begun = Infinity;
			const watch = new PerformanceObserver((list) => long.push(...list.getEntries().filter((e) => e.startTime > begun).map((e) => e.duration)));
			watch.observe({ entryTypes: ["longtask"] });
			let sent = 0, most = 0;
			await new Promise((done) => setTimeout(done, 50)); // it is there
			watch.takeRecords();
			begun = performance.now();
			while (performance.now() - begun < 3000) {
				const due = Math.floor(performance.now() - begun) - sent; // one a millisecond
				const from = performance.now();
				for (let i = 0; i < due; i++) buttons[(sent++ * 7) % buttons.length].click();
				most = Math.max(most, performance.now() - from);
				await new Promise((done) => requestAnimationFrame(done));
			}
			const took = (performance.now() - begun) / 1000;
			watch.disconnect();
			return { rate: sent / took, most, long: long.length, longest: Math.max(0, ...long) };
		})()`)
		b.ReportMetric(got["rate"], "events/s")
		b.ReportMetric(got["most"], "ms/frame-at-most")
		b.ReportMetric(got["long"], "long-tasks")
		b.ReportMetric(got["longest"], "ms/longest-task")
	}
}

// A box of the platform's is ticked by its state alone, and hears the change however it came about.
func TestABoxOfThePlatform(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Box", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "label", Children: []*contract.Part{
		{ID: "box", Name: "box", Element: "input", Attributes: map[string]contract.Attribute{"type": {Text: "checkbox"}}}, {ID: "word", Name: "word", Element: "span", Content: contract.FixedText{Text: "Keep"}}}}}
	m, found := behaviour.ParseText("machine box\nkeeps most, at first 2\nstate off\n  on press of box if most > 0: to on, most becomes most - 1, tell onKeep with true\n  on key Space of box: to on\n  checked of box is false\nstate on\n  on press of box: to off, tell onKeep with false\n  checked of box is true\n", c)
	require.Empty(t, found)
	out, problems := behaviour.Adopt(c, m, nil, nil)
	require.Empty(t, problems)
	b := openComponents(t, []*contract.Contract{out})
	k := b.mount(out, "")
	checked := func() bool { return evaluate[bool](b, k.part("box")+".checked") }
	k.happens("press.word") // its label
	assert.True(t, checked())
	k.happens("key.Space.box")
	assert.False(t, checked(), "a key is its press, once")
	k.happens("press.box")
	assert.True(t, checked())
	k.happens("press.box")
	k.happens("press.box")
	assert.False(t, checked(), "the state says no: it is not ticked")
	assert.Equal(t, [][]any{{"onKeep", true}, {"onKeep", false}, {"onKeep", true}, {"onKeep", false}}, evaluate[[][]any](b, "told.splice(0)"))
	assert.Empty(t, evaluate[[]string](b, `complaints.filter((said) => !said.includes("DevTools"))`))
}

// A press is one event, at the innermost part that hears it; the keys of a button are its press; what is hidden takes no room, whatever it lays out.
func TestAPressIsOneEvent(t *testing.T) {
	part := func(id, element string, children ...*contract.Part) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: element, Children: children, Style: contract.Style{"display": "flex", "padding-block": "10px", "padding-inline": "40px"}}
	}
	inner := part("inner", "button")
	inner.Content = contract.FixedText{Text: "Inner"}
	c := &contract.Contract{Format: contract.Format, Name: "Nested", Props: []contract.Prop{}, Root: part("root", "div", part("outer", "div", inner), part("gone", "div"))}
	m, found := behaviour.ParseText(`machine nested
hidden of gone is true
state first
  on press of outer: tell onHear with 'outer'
  on press of inner: to second, tell onHear with 'inner'
  on key Space of inner: to third, tell onHear with 'space'
  on key Enter of inner: to third, tell onHear with 'enter'
  on key x of inner: tell onHear with 'x'
  on press: tell onHear with 'anywhere'
state second
  on press of inner: to first, tell onHear with 'back'
  hidden of gone is false
state third
  on press: to first
`, c)
	require.Empty(t, found)
	out, problems := behaviour.Adopt(c, m, nil, nil)
	require.Empty(t, problems)
	b := openComponents(t, []*contract.Contract{out})
	k := b.mount(out, "")
	heard := func() (words []string) {
		for _, one := range evaluate[[][]any](b, "told.splice(0)") {
			words = append(words, fmt.Sprint(one[1]))
		}
		return words
	}
	gone := func() string { return evaluate[string](b, "getComputedStyle("+k.part("gone")+").display") }
	assert.Equal(t, "none", gone())
	k.happens("press.inner")
	assert.Equal(t, []string{"inner"}, heard())
	assert.Equal(t, "flex", gone())
	k.happens("press.inner")
	assert.Equal(t, []string{"back"}, heard())
	for part, want := range map[string]string{"outer": "outer", "root": "anywhere"} {
		evaluate[bool](b, k.part(part)+".click(); true")
		assert.Equal(t, []string{want}, heard())
	}
	k.happens("key.x.inner")
	assert.Equal(t, []string{"x"}, heard())
	k.happens("key.Enter.inner")
	assert.Equal(t, []string{"inner"}, heard(), "a key of a button is heard beside its press")
	k.happens("key.Space.inner")
	assert.Equal(t, []string{"back"}, heard())
	k.happens("key.Space.inner")
	assert.Equal(t, []string{"inner"}, heard(), "a key of a button is heard beside its press")
}

// To be looked at, a component is held in states, and with what it keeps; its times stand still, and one of no states is as it begins.
func TestAComponentIsHeldToBeLookedAt(t *testing.T) {
	slider, cycle := stocked(t, "Slider", "slider", behaviour.Choices{}), stocked(t, "Cycle", "timed cycle", behaviour.Choices{})
	b := openComponentsAs(t, "development", react.Options{Forced: true}, []*contract.Contract{slider, cycle})
	settled := "; new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0, true)))"
	evaluate[bool](b, `mountAll("Slider", [{ "data-states": "", "data-values": '{"value":40}' }, { "data-states": "ready" }])`+settled)
	now := func() []string {
		return evaluate[[]string](b, `[...document.querySelectorAll("[role=slider]")].map((e) => e.getAttribute("aria-valuenow"))`)
	}
	assert.Equal(t, []string{"40", "0"}, now())
	evaluate[bool](b, `mountAll("Cycle", [{ "data-states": "" }, { "data-states": "slow hover" }, { "data-states": "held", begin: "go" }, { begin: "go" }])`+settled)
	states := func() []string {
		return evaluate[[]string](b, `[...document.querySelector("main").children].map((e) => e.dataset.state)`)
	}
	assert.Equal(t, []string{"stop", "slow", "held", "go"}, states())
	evaluate[bool](b, "wait(4000)"+settled)
	assert.Equal(t, []string{"stop", "slow", "held", "slow"}, states(), "time goes by for one that is held")
}

// Panels of the platform, by their name one open at a time, have nothing to do with those of another instance.
func TestPanelsOfThePlatform(t *testing.T) {
	panel := func(id string) *contract.Part {
		return &contract.Part{ID: id, Name: id, Element: "details", Attributes: map[string]contract.Attribute{"name": {Text: "season"}}, Children: []*contract.Part{{ID: id + "Title", Name: id + "Title", Element: "summary", Content: contract.FixedText{Text: id}}, {ID: id + "Note", Name: id + "Note", Element: "p", Content: contract.FixedText{Text: "What is done in " + id}}}}
	}
	c := &contract.Contract{Format: contract.Format, Name: "Seasons", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{panel("spring"), panel("summer")}}}
	checked := c.Check(nil)
	require.NoError(t, checked.Err())
	files := react.Library("seasons", []*contract.Contract{c}, output.PropertiesOf(token.Empty()), react.Options{})
	assertLaidOut(t, files)
	assertLinted(t, files)
	b := openComponents(t, []*contract.Contract{c})
	evaluate[any](b, `mountAll("Seasons", [{}, {}])`)
	press := func(i int) []bool {
		return evaluate[[]bool](b, fmt.Sprintf(`document.querySelectorAll("summary")[%d].click(); [...document.querySelectorAll("details")].map((d) => d.open)`, i))
	}
	assert.Equal(t, []bool{true, false, false, false}, press(0))
	assert.Equal(t, []bool{false, true, false, false}, press(1))
	assert.Equal(t, []bool{false, true, true, false}, press(2), "another instance was closed")
}

// Where a component is held in a state, to be looked at, those that it uses stand still, too.
func TestWhatIsUsedStandsStillWhereItIsHeld(t *testing.T) {
	inner := stocked(t, "Slides", "timed cycle", behaviour.Choices{})
	outer := &contract.Contract{Format: contract.Format, Name: "Page", Props: []contract.Prop{}, Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{{ID: "slides", Name: "slides", Content: contract.UseOf(inner)}}}}
	b := openComponentsAs(t, "development", react.Options{Forced: true}, []*contract.Contract{outer})
	at := func(props string) [2]string {
		evaluate[any](b, `mountAll("Page", [`+props+`])`)
		const says = `document.querySelector("main [data-state]").getAttribute("data-state")`
		before := evaluate[string](b, says)
		evaluate[bool](b, "wait(3000); true")
		return [2]string{before, evaluate[string](b, says)}
	}
	assert.Equal(t, [2]string{"stop", "go"}, at("{}"))
	assert.Equal(t, [2]string{"stop", "stop"}, at(`{ "data-states": "" }`), "it runs while it is looked at")
}
