package contract

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// sign is a component of a text, a link and a choice, the first two apart.
func sign() *Contract {
	return &Contract{Format: Format, Name: "Sign", Apart: [][]string{{"text", "link"}}, Props: []Prop{
		{ID: "text", Name: "text", Type: Text{}}, {ID: "link", Name: "link", Type: Link{}},
		{ID: "size", Name: "size", Type: Choice{Options: []string{"s", "m"}, Initial: "m"}},
	}, Root: &Part{ID: "root", Name: "root", Element: "div"}}
}

// What a case is looked at in has limits, and says which.
func TestTheLimitsOfALook(t *testing.T) {
	for _, l := range []Look{{}, {Text: 50}, {Text: 400}, {Width: 1}, {Width: 20_000}, {Direction: "ltr"}, {State: "loading"}, {Theme: "any"}} {
		assert.NoError(t, l.Check(sign()), "%+v", l)
	}
	for want, l := range map[string]Look{"50 to 400": {Text: 49}, "50 to 400 %": {Text: 401}, "1 to 20000": {Width: 0.5}, "1 to 20000 px": {Width: 20_001}, "no direction": {Direction: "up"}, "no state": {State: "asleep"}} {
		assert.ErrorContains(t, l.Check(sign()), want)
	}
}

// A saved case keeps what is not as the component is looked at first, and is checked against what the props take.
func TestASavedCaseIsChecked(t *testing.T) {
	c := sign()
	require.NoError(t, c.Check(nil).Err(), "an empty text is none: it can stand apart")
	require.NoError(t, c.SaveCase("small", c.Examples().With(Values{"size": OptionValue("s")}), Look{Text: 200}))
	assert.Equal(t, map[string]json.RawMessage{"size": json.RawMessage(`"s"`)}, c.Cases[0].Given, "what is as at first is left out")
	require.NoError(t, c.SaveCase("small", c.Examples().With(Values{"text": TextValue("Shed")}), Look{}))
	require.Len(t, c.Cases, 1, "a case of the same name is that case")
	assert.NoError(t, c.Check(nil).Err())
	again, found := Read("sign", c.JSON(), nil)
	require.NoError(t, found.Err())
	assert.Equal(t, c.CaseValues(c.Cases[0].Given), again.CaseValues(again.Cases[0].Given))
	for want, given := range map[string]string{
		`there is no such prop`: `{"tone":"calm"}`, "what it does not take": `{"size":"xl"}`, "props together that stand apart": `{"text":"Shed","link":"https://example.com"}`,
	} {
		bad := c.Clone()
		require.NoError(t, json.Unmarshal([]byte(given), &bad.Cases[0].Given))
		if want == "there is no such prop" {
			delete(bad.Cases[0].Given, "text")
		}
		assert.ErrorContains(t, bad.Check(nil).Err(), want)
	}
	copied := c.Clone()
	copied.Cases[0].Given["size"] = json.RawMessage(`"s"`)
	assert.NotContains(t, c.Cases[0].Given, "size", "a clone shares what cases give")
}

// A state that is removed takes along what draws it.
func TestARemovedStateIsNotDrawn(t *testing.T) {
	c := sign()
	c.States = []DrawnState{{State: "hover", Axis: "State", Value: "Over"}, {State: "active", Axis: "State", Value: "Down"}}
	c.Rules = []Rule{{Part: "root", When: Of(InState{"hover"}), Set: Style{"gap": "1px"}}, {Part: "root", When: Of(InState{"active"}), Set: Style{"gap": "2px"}}}
	assert.Len(t, c.RemoveState("hover"), 1)
	assert.Equal(t, []DrawnState{{State: "active", Axis: "State", Value: "Down"}}, c.States)
	assert.Len(t, c.Rules, 1)
}

// Parts that show one of other drawings are not the same, though all else of them is.
func TestPartsOfOtherIconsAreNotTheSame(t *testing.T) {
	mark := func(d string) *Contract {
		return &Contract{Name: "C", Props: []Prop{{ID: "mark", Name: "mark", Type: Icon{Options: []NamedIcon{{Name: "one", Vector: Vector{Paths: []Path{{D: d}}}}}}}},
			Root: &Part{ID: "root", Element: "div", Children: []*Part{{ID: "foot", Name: "foot", Element: "p", Children: []*Part{{ID: "icon", Name: "icon", Element: "svg", Content: IconOf{"mark"}}}}}}}
	}
	assert.Equal(t, mark("M0 0H8").SameAs("foot"), mark("M0 0H8").SameAs("foot"))
	assert.NotEqual(t, mark("M0 0H8").SameAs("foot"), mark("M0 0V8").SameAs("foot"))
}
