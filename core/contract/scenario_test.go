package contract_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	_ "cobrik/core/behaviour" // reads machines
	"cobrik/core/contract"
	"cobrik/core/token"
)

// timed waits for as long as a token says, in its behaviour and in a scenario.
const timed = `{"format": "cobrik.contract/1", "name": "Lamp", "props": [{"id": "dim", "name": "dim", "kind": "flag", "default": false}], "root": {"id": "root", "name": "root", "element": "button"},
	"behaviour": {"name": "lamp", "root": {"id": "top", "states": [{"id": "on", "on": [{"after": 1, "token": "{motion.run}", "to": ["off"]}]}, {"id": "off"}]}},
	"scenarios": [{"name": "runs", "given": {"dim": true}, "steps": [{"after": 1, "token": "{motion.run}", "expects": [{"part": "root", "is": "shown"}]}, {"happens": {"kind": "press", "part": "root"}}]}]}`

func lampOf(t *testing.T) *contract.Contract {
	t.Helper()
	c, found := contract.Read("lamp.json", []byte(timed), nil)
	require.NoError(t, found.Err())
	return c
}

// Scenarios are read as they are written, follow what they speak of, and a copy is a copy.
func TestScenariosFollow(t *testing.T) {
	c := lampOf(t)
	again, found := contract.Read("lamp.json", c.JSON(), nil)
	require.NoError(t, found.Err())
	assert.Equal(t, c.Scenarios, again.Scenarios)

	tokens, problems := token.Read(token.File{Name: "tokens.json", Text: []byte(`{"motion": {"run": {"$type": "duration", "$value": {"value": 1.5, "unit": "s"}}}}`)})
	require.Empty(t, problems)
	c.Timed(tokens)
	assert.Equal(t, 1500.0, c.Scenarios[0].Steps[0].After)
	assert.Equal(t, "{motion.run}", c.Scenarios[0].Steps[0].Token)
	c.RenameToken("motion", "pace")
	assert.Equal(t, "{pace.run}", c.Scenarios[0].Steps[0].Token)

	copied := c.Clone()
	copied.Scenarios[0].Name, copied.Scenarios[0].Steps[0].After, copied.Scenarios[0].Steps[0].Expects[0].Is, copied.Scenarios[0].Steps[1].Happens.Part = "other", 7, "hidden", "x"
	copied.Scenarios[0].Given["dim"] = json.RawMessage("false")
	assert.Equal(t, []string{"runs", "shown", "root", "true"}, []string{c.Scenarios[0].Name, c.Scenarios[0].Steps[0].Expects[0].Is, c.Scenarios[0].Steps[1].Happens.Part, string(c.Scenarios[0].Given["dim"])})

	c.KeepScenario(contract.Scenario{Name: "runs"})
	c.KeepScenario(contract.Scenario{Name: "other"})
	assert.Len(t, c.Scenarios, 2, "one of a name is replaced")
	d := lampOf(t)
	taken, err := d.RemoveProp("dim")
	require.NoError(t, err)
	assert.Contains(t, taken, "what the scenario runs gives it")
	assert.Empty(t, d.Scenarios[0].Given)
}

// What is wrong with a scenario says where.
func TestScenariosAreChecked(t *testing.T) {
	for rule, scenarios := range map[string]string{
		"scenario-name":  `[{"name": "a", "steps": []}, {"name": "a", "steps": []}]`,
		"scenario-prop":  `[{"name": "a", "given": {"tall": true}, "steps": []}]`,
		"scenario-prop ": `[{"name": "a", "given": {"dim": "very"}, "steps": []}]`,
	} {
		c := lampOf(t)
		require.NoError(t, json.Unmarshal([]byte(scenarios), &c.Scenarios))
		found := c.Check(nil)
		require.Len(t, found, 1, rule)
		assert.Contains(t, rule, found[0].Rule)
	}
	for _, bad := range []string{`[{"name": "", "steps": []}]`, `[{"name": "a", "steps": [{"after": -1}]}]`, `[{"name": "a", "steps": [{"happens": {"kind": "shout"}}]}]`, `[{"name": "a", "steps": [{"expects": [{"part": "root"}]}]}]`, `[{"name": "a"}]`} {
		var whole map[string]json.RawMessage
		require.NoError(t, json.Unmarshal([]byte(timed), &whole))
		whole["scenarios"] = json.RawMessage(bad)
		text, err := json.Marshal(whole)
		require.NoError(t, err)
		_, found := contract.Read("lamp.json", text, nil)
		assert.True(t, found.Failed(), bad)
	}
}
