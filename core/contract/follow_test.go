package contract

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Uses, with what they give by cases, and what is passed on, follow names; what merely looks alike does not.
func TestWhoUsesAComponentFollowsItsNames(t *testing.T) {
	was := &Contract{Name: "Tag", Props: []Prop{
		{ID: "size", Name: "size", Type: Choice{Options: []string{"s", "m", "l"}, Initial: "m"}},
		{ID: "tone", Name: "tone", Type: Choice{Options: []string{"s", "loud"}, Initial: "s"}},
		{ID: "label", Name: "label", Type: Text{}},
	}, Root: &Part{ID: "root"}}
	now := was.Clone()
	now.Name = "Label"
	now.Props[0].Type = Choice{Options: []string{"small", "m", "l"}, Initial: "m"}
	r := RenamedBetween(was, now)
	assert.Equal(t, Renamed{From: "Tag", To: "Label", Options: map[string]map[string]string{"size": {"s": "small"}}}, r)
	assert.True(t, r.Any())
	assert.False(t, RenamedBetween(was, was.Clone()).Any())

	// More or fewer options, and options that change places, are not renamed.
	moved := was.Clone()
	moved.Props[0].Type = Choice{Options: []string{"m", "s", "l"}, Initial: "m"}
	moved.Props[1].Type = Choice{Options: []string{"calm"}, Initial: "calm"}
	assert.False(t, RenamedBetween(was, moved).Any())
	moved.Props[0].Type = Choice{Options: []string{"xs", "s", "m"}, Initial: "m"}
	assert.Equal(t, map[string]map[string]string{}, RenamedBetween(was, moved).Options, "one came before the others, and l went: s is s still")

	user := &Contract{Name: "Card", Props: []Prop{
		{ID: "kind", Name: "kind", Type: Choice{Options: []string{"s", "m", "l"}, Initial: "s"}, Example: OptionValue("s"), From: &Passing{Part: "passed", Prop: "size"}},
		{ID: "own", Name: "own", Type: Choice{Options: []string{"s", "t"}, Initial: "s"}},
		{ID: "foot", Name: "foot", Type: Slot{Accepts: []string{"Pump", "Tag"}}},
		{ID: "pump", Name: "pump", Type: Choice{Options: []string{"s", "m", "l"}, Initial: "s"}, From: &Passing{Part: "other", Prop: "size"}},
	},
		Cases: []SavedCase{{Name: "one", Given: map[string]json.RawMessage{"kind": json.RawMessage(`"s"`), "own": json.RawMessage(`"s"`)}}},
		Rules: []Rule{{Part: "root", When: Of(PropIs{"kind", OptionValue("s")}, PropIs{"own", OptionValue("s")}), Set: Style{"gap": "1px"}}},
		Root: &Part{ID: "root", Children: []*Part{
			{ID: "fixed", Content: &Use{Component: "Tag", Given: map[string]Given{
				"size":  {Value: json.RawMessage(`"s"`), Cases: []GivenCase{{When: Of(PropIs{"own", OptionValue("s")}), Value: json.RawMessage(`"s"`)}, {Value: json.RawMessage(`"l"`)}}},
				"tone":  {Value: json.RawMessage(`"s"`)},
				"label": {Value: json.RawMessage(`"s"`)},
			}}},
			{ID: "passed", Content: &Use{Component: "Tag", Given: map[string]Given{"size": {Prop: "kind"}}}},
			{ID: "other", Content: &Use{Component: "Pump", Given: map[string]Given{"size": {Value: json.RawMessage(`"s"`)}}}},
		}}}
	own, changed := user.Follow(r)
	assert.True(t, changed)
	assert.Equal(t, Renamed{From: "Card", To: "Card", Options: map[string]map[string]string{"kind": {"s": "small"}}}, own)
	fixed := user.Part("fixed").Use()
	assert.Equal(t, "Label", fixed.Component)
	assert.JSONEq(t, `"small"`, string(fixed.Given["size"].Value))
	assert.JSONEq(t, `"small"`, string(fixed.Given["size"].Cases[0].Value))
	assert.JSONEq(t, `"l"`, string(fixed.Given["size"].Cases[1].Value))
	assert.JSONEq(t, `"s"`, string(fixed.Given["tone"].Value), "an option of another prop that has the same name")
	assert.JSONEq(t, `"s"`, string(fixed.Given["label"].Value), "a text")
	assert.Equal(t, Slot{Accepts: []string{"Pump", "Label"}}, user.Prop("foot").Type, "a slot is meant for it as it is called now")
	assert.Equal(t, "Pump", user.Part("other").Use().Component)
	assert.JSONEq(t, `"s"`, string(user.Part("other").Use().Given["size"].Value), "of another component")
	assert.Equal(t, Choice{Options: []string{"small", "m", "l"}, Initial: "small"}, user.Prop("kind").Type)
	assert.Equal(t, OptionValue("small"), user.Prop("kind").Example)
	assert.Equal(t, Choice{Options: []string{"s", "t"}, Initial: "s"}, user.Prop("own").Type)
	assert.Equal(t, Choice{Options: []string{"s", "m", "l"}, Initial: "s"}, user.Prop("pump").Type, "it is passed on to another component")
	assert.Equal(t, Of(PropIs{"kind", OptionValue("small")}, PropIs{"own", OptionValue("s")}), user.Rules[0].When)
	assert.JSONEq(t, `"small"`, string(user.Cases[0].Given["kind"]))
	assert.JSONEq(t, `"s"`, string(user.Cases[0].Given["own"]))

	_, changed = user.Follow(Renamed{From: "Tag", To: "Tag", Options: map[string]map[string]string{"size": {"s": "small"}}})
	assert.False(t, changed, "no use is of that name any more")
}
