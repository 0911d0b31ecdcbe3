package behaviour_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

// scxml reads a document's inside.
func scxml(t testing.TB, attributes, body string) *behaviour.Chart {
	t.Helper()
	m, found := behaviour.ReadSCXML([]byte(`<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" datamodel="ecmascript" ` + attributes + `>` + body + `</scxml>`))
	require.Empty(t, found)
	c, wrong := behaviour.Compile(m)
	require.Empty(t, wrong)
	return c
}

// say is a send to the outside, which tests hear.
func say(word string) string { return `<send target="#_parent" event="` + word + `"/>` }

// heard runs a chart and gives what it told, a line each step, and the states it ends in.
func heard(c *behaviour.Chart, events ...string) (told []string, cfg behaviour.Config) {
	words := func(effects []behaviour.Effect) string {
		var out []string
		for _, e := range effects {
			if e.Error != "" {
				out = append(out, "error")
			} else {
				out = append(out, e.Tell)
			}
		}
		return strings.Join(out, " ")
	}
	cfg, effects := c.Start(contract.Env{})
	told = append(told, words(effects))
	for _, e := range events {
		if ms, wait := strings.CutPrefix(e, "wait "); wait {
			n := map[string]float64{"100": 100, "50": 50, "60": 60}[ms]
			cfg, effects = c.Advance(cfg, contract.Env{}, cfg.Now+n)
		} else {
			cfg, effects = c.Step(cfg, contract.Env{}, behaviour.ParseEvent(e), nil)
		}
		told = append(told, words(effects))
	}
	return told, cfg
}

// The semantics of SCXML 1.0, restated as cases after those of the W3C's test suite (SCXML 1.0 Implementation Report); the numbers of its tests are from memory.
func TestSCXMLSemantics(t *testing.T) {
	trace := func(id string) string {
		return "<onentry>" + say("+"+id) + "</onentry><onexit>" + say("-"+id) + "</onexit>"
	}
	for name, c := range map[string]struct {
		attributes, body string
		events           []string
		told             []string
		active           string
	}{
		"the first state is the initial one (355)":               {"", `<state id="a"/><state id="b"/>`, nil, []string{""}, "root a"},
		"an initial state may be deep (364)":                     {`initial="d"`, `<state id="a"/><state id="b"><state id="c"/><state id="d"/></state>`, nil, []string{""}, "root b d"},
		"the initial element says it, too (412)":                 {"", `<state id="b"><initial><transition target="d"/></initial><state id="c"/><state id="d"/></state>`, nil, []string{""}, "root b d"},
		"entry is done outside first, in document order (375)":   {"", `<state id="a">` + trace("a") + `<onentry>` + say("again") + `</onentry><state id="b">` + trace("b") + `</state></state>`, nil, []string{"+a again +b"}, "root a b"},
		"left inside first, then what is done, then entry (404)": {"", `<state id="a">` + trace("a") + `<transition event="e" target="c">` + say("go") + `</transition><state id="b">` + trace("b") + `</state></state><state id="c">` + trace("c") + `</state>`, []string{"e"}, []string{"+a +b", "-b -a go +c"}, "root c"},
		"the inner transition is taken (403a)":                   {"", `<state id="a"><transition event="e" target="out"/><state id="b"><transition event="e" target="in"/></state><state id="in"/></state><state id="out"/>`, []string{"e"}, []string{"", ""}, "root a in"},
		"the outer one where the inner's condition is false":     {"", `<state id="a"><transition event="e" target="out"/><state id="b"><transition event="e" cond="false" target="in"/></state><state id="in"/></state><state id="out"/>`, []string{"e"}, []string{"", ""}, "root out"},
		"the first in document order is taken":                   {"", `<state id="a"><transition event="e" target="b"/><transition event="e" target="c"/></state><state id="b"/><state id="c"/>`, []string{"e"}, []string{"", ""}, "root b"},
		"of two that exclude each other the first is taken (403c)": {"", `<parallel id="p"><state id="l"><state id="l1"><transition event="e" target="out1"/></state></state><state id="r"><state id="r1"><transition event="e" target="out2"/></state></state></parallel><state id="out1"/><state id="out2"/>`, []string{"e"},
			[]string{"", ""}, "root out1"},
		"one inside another's state takes its place": {"", `<parallel id="p"><transition event="e" target="out"/><state id="l"><state id="l1"/></state><state id="r"><state id="r1"><transition event="e" target="r2"/></state><state id="r2"/></state></parallel><state id="out"/>`, []string{"e"},
			[]string{"", ""}, "root p l l1 r r2"},
		"each region takes its own":                         {"", `<parallel id="p"><state id="l"><state id="l1"><transition event="e" target="l2"/></state><state id="l2"/></state><state id="r"><state id="r1"><transition event="e" target="r2"/></state><state id="r2"/></state></parallel>`, []string{"e"}, []string{"", ""}, "root p l l2 r r2"},
		"entering one region enters the others (570)":       {"", `<state id="a"><transition event="e" target="r2"/></state><parallel id="p"><state id="l"><state id="l1"/></state><state id="r"><state id="r1"/><state id="r2"/></state></parallel>`, []string{"e"}, []string{"", ""}, "root p l l1 r r2"},
		"without a target nothing is left (503)":            {"", `<state id="a">` + trace("a") + `<transition event="e">` + say("did") + `</transition></state>`, []string{"e"}, []string{"+a", "did"}, "root a"},
		"to itself it is left and entered (504)":            {"", `<state id="a">` + trace("a") + `<transition event="e" target="a"/></state>`, []string{"e"}, []string{"+a", "-a +a"}, "root a"},
		"to what is inside it is left, too":                 {"", `<state id="a">` + trace("a") + `<transition event="e" target="c"/><state id="b"/><state id="c"/></state>`, []string{"e"}, []string{"+a", "-a +a"}, "root a c"},
		"an internal one stays (505)":                       {"", `<state id="a">` + trace("a") + `<transition event="e" type="internal" target="c"/><state id="b"/><state id="c"/></state>`, []string{"e"}, []string{"+a", ""}, "root a c"},
		"an internal one that leads outside leaves (506)":   {"", `<state id="a">` + trace("a") + `<transition event="e" type="internal" target="c"/><state id="b"/></state><state id="c"/>`, []string{"e"}, []string{"+a", "-a"}, "root c"},
		"what waits for nothing comes before events (419)":  {"", `<state id="a"><onentry><raise event="x"/></onentry><transition event="x" target="c"/><transition target="b"/></state><state id="b"/><state id="c"/>`, nil, []string{""}, "root b"},
		"what was raised comes first, in order (144, 421)":  {"", `<state id="a"><transition event="e" target="b"><raise event="x"/><raise event="y"/></transition></state><state id="b"><transition event="y" target="no"/><transition event="x" target="c"/></state><state id="c"><transition event="y" target="d"/></state><state id="d"/><state id="no"/>`, []string{"e"}, []string{"", ""}, "root d"},
		"a condition is asked before what is done (415)":    {"", `<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="e" cond="n == 0" target="b"><assign location="n" expr="n + 1"/></transition></state><state id="b"><transition event="e" cond="n == 1" target="c"/></state><state id="c"/>`, []string{"e", "e"}, []string{"", "", ""}, "root c"},
		"a final state tells that its parent is done (416)": {"", `<state id="a"><transition event="done.state.a" target="c"/><state id="b"><transition event="e" target="f"/></state><final id="f"/></state><state id="c"/>`, []string{"e"}, []string{"", ""}, "root c"},
		"a parallel one is done when all of it is (417)":    {"", `<parallel id="p"><transition event="done.state.p" target="c"/><state id="l"><state id="l1"><transition event="e" target="lf"/></state><final id="lf"/></state><state id="r"><state id="r1"><transition event="x" target="rf"/></state><final id="rf"/></state></parallel><state id="c"/>`, []string{"e", "x"}, []string{"", "", ""}, "root c"},
		"and not before": {"", `<parallel id="p"><transition event="done.state.p" target="c"/><state id="l"><state id="l1"><transition event="e" target="lf"/></state><final id="lf"/></state><state id="r"><state id="r1"/><final id="rf"/></state></parallel><state id="c"/>`, []string{"e"}, []string{"", ""}, "root p l lf r r1"},
		"a history leads where its state was left (387)":          {"", `<state id="a"><transition event="out" target="o"/><history id="h"><transition target="b"/></history><state id="b"><transition event="e" target="c"/></state><state id="c"><state id="c1"><transition event="e" target="c2"/></state><state id="c2"/></state></state><state id="o"><transition event="back" target="h"/></state>`, []string{"e", "e", "out", "back"}, []string{"", "", "", "", ""}, "root a c c1"},
		"a deep one to all that was inside (388)":                 {"", `<state id="a"><transition event="out" target="o"/><history id="h" type="deep"><transition target="b"/></history><state id="b"><transition event="e" target="c"/></state><state id="c"><state id="c1"><transition event="e" target="c2"/></state><state id="c2"/></state></state><state id="o"><transition event="back" target="h"/></state>`, []string{"e", "e", "out", "back"}, []string{"", "", "", "", ""}, "root a c c2"},
		"one that remembers nothing where it says (579)":          {`initial="o"`, `<state id="a"><history id="h"><transition target="c"/></history><state id="b"/><state id="c"/></state><state id="o"><transition event="back" target="h"/></state>`, []string{"back"}, []string{"", ""}, "root a c"},
		"a condition that cannot be asked is false (309)":         {"", `<state id="a"><transition event="e" cond="nothere" target="b"/><transition event="error.execution" target="c"/></state><state id="b"/><state id="c"/>`, []string{"e"}, []string{"", "error"}, "root c"},
		"after an error the rest is not done (159)":               {"", `<datamodel><data id="n" expr="0"/></datamodel><state id="a"><transition event="e" target="b"><assign location="n" expr="n + 'x'"/>` + say("never") + `</transition></state><state id="b"/>`, []string{"e"}, []string{"", "error"}, "root b"},
		"an event's name begins with what is asked (399)":         {"", `<state id="a"><transition event="foo" target="b"/></state><state id="b"><transition event="foo.bar.*" target="c"/></state><state id="c"><transition event="*" target="d"/></state><state id="d"/>`, []string{"foo.zoo", "foobar", "foo.bar", "foo.bar.x", "any"}, []string{"", "", "", "", "", ""}, "root d"},
		"what is no beginning of it by words is another":          {"", `<state id="a"><transition event="foo" target="b"/></state><state id="b"/>`, []string{"foobar"}, []string{"", ""}, "root a"},
		"a time that is sent comes (175)":                         {"", `<state id="a"><onentry><send id="s" event="t" delay="100ms"/></onentry><transition event="t" target="b"/></state><state id="b"/>`, []string{"wait 60", "wait 50"}, []string{"", "", ""}, "root b"},
		"and not when its state was left meanwhile (208)":         {"", `<state id="a"><onentry><send id="s" event="t" delay="100ms"/></onentry><onexit><cancel sendid="s"/></onexit><transition event="t" target="c"/><transition event="e" target="b"/></state><state id="b"><transition event="back" target="a"/></state><state id="c"/>`, []string{"wait 60", "e", "back", "wait 60"}, []string{"", "", "", "", ""}, "root a"},
		"when it is in a final state nothing happens":             {"", `<state id="a"><transition event="e" target="f"/></state><final id="f"/>`, []string{"e", "e"}, []string{"", "", ""}, "root f"},
		"an internal one of a parallel state leaves it (533)":     {"", `<parallel id="p">` + trace("p") + `<transition event="e" type="internal" target="b2"/><state id="a"/><state id="b"><state id="b1"/><state id="b2"/></state></parallel>`, []string{"e"}, []string{"+p", "-p +p"}, "root p a b b2"},
		"from one region into another the parallel state is left": {"", `<parallel id="p">` + trace("p") + `<state id="a"><transition event="e" target="b2"/></state><state id="b"><state id="b1"/><state id="b2"/></state></parallel>`, []string{"e"}, []string{"+p", "-p +p"}, "root p a b b2"},
		"In tells where it is (310)":                              {"", `<parallel id="p"><state id="l"><state id="l1"><transition event="e" cond="In('r1')" target="l2"/></state><state id="l2"/></state><state id="r"><state id="r1"/></state></parallel>`, []string{"e"}, []string{"", ""}, "root p l l2 r r1"},
	} {
		t.Run(name, func(t *testing.T) {
			chart := scxml(t, c.attributes, c.body)
			told, cfg := heard(chart, c.events...)
			assert.Equal(t, c.told, told)
			want := strings.Fields(c.active)
			if want[0] != chart.Machine.Root.ID {
				want[0] = chart.Machine.Root.ID
			}
			assert.Equal(t, want, cfg.Active)
			assert.Equal(t, name == "when it is in a final state nothing happens", cfg.Done)
			// Written and read again it is the same.
			again, found := behaviour.ReadSCXML(chart.Machine.SCXML())
			require.Empty(t, found, string(chart.Machine.SCXML()))
			assert.Equal(t, chart.Machine, again)
		})
	}
}
