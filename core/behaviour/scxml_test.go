package behaviour_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
)

func written(t *testing.T, m *behaviour.Machine) string {
	t.Helper()
	text, err := json.Marshal(m)
	require.NoError(t, err)
	return string(text)
}

// Any machine is written so that it is the same when it is read again.
func TestMachinesAreReadAsTheyWereWritten(t *testing.T) {
	for seed := range uint64(300) {
		m := machine(seed)
		again, found := behaviour.ReadSCXML(m.SCXML())
		require.Empty(t, found, string(m.SCXML()))
		require.JSONEq(t, written(t, m), written(t, again), "machine %d", seed)
	}
	all := &behaviour.Machine{Name: "Panels & <more>", Values: []behaviour.Value{{Name: "at", Initial: 1.5}, {Name: "word", Initial: "sown"}, {Name: "on", Initial: true}},
		Root: &behaviour.State{ID: "root", Initial: []string{"b"}, States: []*behaviour.State{
			{ID: "a", Sets: []behaviour.Set{{Part: "panel", Name: "hidden", Value: "at < 2 && word != 'ripe'"}}, Entry: []behaviour.Action{{Focus: "panel"}, {Tell: "onOpen", With: "at + 1"}, {Raise: "x"}, {Assign: "at", To: "at + 1"}},
				On: []behaviour.Transition{{After: 300, To: []string{"b"}}, {After: 2500.5, Token: "{duration.run}", If: "on", To: []string{"b"}},
					{Event: behaviour.Event{Kind: behaviour.Key, Name: "Escape", Part: "menu"}, When: contract.BelowWidth(600), To: []string{"b"}, Do: []behaviour.Action{{Focus: "button"}}},
					{Event: behaviour.Event{Kind: behaviour.OutsidePress, Part: "menu"}, Internal: true}, {Event: behaviour.Event{Kind: behaviour.Changed, Name: "open"}, To: []string{"f"}}}},
			{ID: "b", Kind: behaviour.Parallel, States: []*behaviour.State{{ID: "c", States: []*behaviour.State{{ID: "c1"}, {ID: "h", Kind: behaviour.DeepHistory, Defaults: []string{"c1"}}}}, {ID: "d"}}},
			{ID: "f", Kind: behaviour.Final}}}}
	again, found := behaviour.ReadSCXML(all.SCXML())
	require.Empty(t, found, string(all.SCXML()))
	assert.JSONEq(t, written(t, all), written(t, again))
	around := &behaviour.Machine{Name: "m", Root: &behaviour.State{ID: "root", On: []behaviour.Transition{{Event: behaviour.Event{Kind: behaviour.Key, Name: "Escape"}, To: []string{"a"}}}, States: []*behaviour.State{{ID: "a"}, {ID: "b"}}}}
	again, found = behaviour.ReadSCXML(around.SCXML())
	require.Empty(t, found, string(around.SCXML()))
	assert.JSONEq(t, written(t, around), written(t, again), "what the root waits for")
}

// What a document holds that no machine has is told where it stands, and nothing is read of it; nobody waits for a document that means harm.
func TestBadDocumentsSayWhatIsWrong(t *testing.T) {
	wrap := func(body string) string {
		return `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0">` + "\n" + body + `</scxml>`
	}
	var nested strings.Builder
	for i := range 100_000 {
		fmt.Fprintf(&nested, `<state id="s%d">`, i)
	}
	for why, c := range map[string]struct {
		text string
		line int
	}{
		"it is empty":                      {"", 1},
		"the document begins with html":    {"<html/>", 1},
		"it has a document type":           {`<!DOCTYPE scxml [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><scxml/>`, 1},
		"<script> stands in root":          {wrap(`<script>alert(1)</script>`), 2},
		"<invoke> stands in a":             {wrap(`<state id="a"><invoke src="http://x"/></state>`), 2},
		"<log2> is not read":               {wrap(`<state id="a"><onentry><log2/></onentry></state>`), 2},
		"its data model is xpath":          {`<scxml xmlns="http://www.w3.org/2005/07/scxml" datamodel="xpath"/>`, 1},
		"a value comes from elsewhere":     {wrap(`<datamodel><data id="n" src="file:///etc/passwd"/></datamodel><state id="a"/>`), 2},
		`n begins with "Date.now()"`:       {wrap(`<datamodel><data id="n" expr="Date.now()"/></datamodel><state id="a"/>`), 2},
		"leads to \"nowhere\"":             {wrap(`<state id="a">` + "\n" + `<transition event="e" target="nowhere"/></state>`), 2},
		`the delay "soon" is no time`:      {wrap(`<state id="a"><onentry><send event="t" delay="soon"/></onentry><transition event="t" target="a"/></state>`), 2},
		`the delay "0s" is no time`:        {wrap(`<state id="a"><onentry><send event="t" delay="0s"/></onentry><transition event="t" target="a"/></state>`), 2},
		`the delay "9e99s" is no`:          {wrap(`<state id="a"><onentry><send event="t" delay="9e99s"/></onentry><transition event="t" target="a"/></state>`), 2},
		"nothing in a waits for t":         {wrap(`<state id="a"><onentry><send event="t" delay="1s"/></onentry></state>`), 2},
		"waits for 2 events":               {wrap(`<state id="a"><transition event="x y" target="a"/></state>`), 2},
		"the condition \"{\" cannot":       {wrap(`<state id="a" xmlns:c="urn:cobrik:behaviour"><transition event="x" c:when="{" target="a"/></state>`), 2},
		"is done on the way":               {wrap(`<state id="a"><initial><transition target="b"><raise event="x"/></transition></initial><state id="b"/></state>`), 2},
		"a transition sets what holds":     {wrap(`<state id="a" xmlns:c="urn:cobrik:behaviour"><transition event="x"><c:set part="p" name="hidden" value="true"/></transition></state>`), 2},
		"of a namespace that is not known": {wrap(`<state id="a"><onentry><x:y xmlns:x="urn:x"/></onentry></state>`), 2},
		"nested too deep":                  {wrap(nested.String()), 2},
		"syntax error":                     {wrap(`<state id="a">`), 2},
		"it is no UTF-8":                   {"\xff\xfe", 1},
	} {
		m, found := behaviour.ReadSCXML([]byte(c.text))
		assert.Nil(t, m, why)
		if assert.NotEmpty(t, found, why) {
			assert.Contains(t, found[0].Error(), why)
			assert.Equal(t, c.line, found[0].Line, why)
			assert.NotEmpty(t, found[0].Fix, why)
		}
	}
	_, found := behaviour.ReadSCXML(make([]byte, 5<<20))
	assert.Contains(t, found[0].Message, "bytes")
	m, found := behaviour.ReadSCXML([]byte(wrap(`<state><transition event="e" target="b"/></state><state id="state1"/><state id="b"/>`)))
	require.Empty(t, found)
	assert.Equal(t, "state2", m.Root.States[0].ID, "an id is made up that nobody has")
	for _, text := range []string{wrap(`<state id="root"/><state id="b"/>`), `<scxml xmlns="http://www.w3.org/2005/07/scxml" initial="b"><state id="root"><state id="a"/><state id="b"/></state></scxml>`} {
		m, found = behaviour.ReadSCXML([]byte(text))
		require.Empty(t, found)
		assert.Equal(t, "root-", m.Root.ID, "a state of that name is one of the document's")
		assert.Equal(t, "root", m.Root.States[0].ID)
	}
}

// wordsAgain reads a machine in words, and writes it again.
func wordsAgain(words string) (string, []behaviour.LineProblem) {
	m, found := behaviour.ParseText(words, nil)
	if m == nil {
		return "", found
	}
	return m.Text(nil), nil
}

func FuzzReadSCXML(f *testing.F) {
	f.Add([]byte(`<scxml xmlns="http://www.w3.org/2005/07/scxml"><state id="a"><onentry><send event="t" delay="1s"/></onentry><transition event="t" cond="1 &lt; 2" target="a"/></state></scxml>`))
	f.Add(machine(3).SCXML())
	f.Fuzz(func(t *testing.T, text []byte) {
		m, found := behaviour.ReadSCXML(text)
		if (m == nil) == (len(found) == 0) {
			t.Fatal("neither a machine nor a problem")
		}
		if m == nil {
			return
		}
		c, wrong := behaviour.Compile(m)
		if len(wrong) > 0 {
			t.Fatal(wrong)
		}
		cfg, _ := c.Start(contract.Env{})
		cfg, _ = c.Advance(cfg, contract.Env{}, 1000)
		c.Step(cfg, contract.Env{}, behaviour.ParseEvent("a"), nil)
		if _, found := behaviour.ReadSCXML(m.SCXML()); len(found) > 0 {
			t.Fatalf("what was written is not read: %v\n%s", found, m.SCXML())
		}
		words := m.Text(nil)
		again, lines := wordsAgain(words)
		if len(lines) > 0 || again != words {
			t.Fatalf("in words it is not read as it was written: %v\n%s\n%s", lines, words, again)
		}
	})
}
