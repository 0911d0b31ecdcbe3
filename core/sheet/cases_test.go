package sheet_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/sheet"
)

// apply carries out edits one after another.
func apply(t *testing.T, c *contract.Contract, w sheet.World, edits ...sheet.Edit) sheet.Done {
	t.Helper()
	var done sheet.Done
	for _, e := range edits {
		var err error
		done, err = sheet.Apply(c, e, w)
		require.NoError(t, err, "%s %s %q", e.Do, e.On, e.Text)
	}
	return done
}

// badge is a small component of a choice, a flag, an icon and two texts.
func badge() *contract.Contract {
	drawing := contract.Vector{ViewBox: [4]float64{0, 0, 8, 8}, Paths: []contract.Path{{D: "M0 0H8V8Z", Fill: "currentColor"}}}
	return &contract.Contract{Format: contract.Format, Name: "Badge",
		Root: &contract.Part{ID: "root", Name: "root", Element: "span", Children: []*contract.Part{
			{ID: "label", Name: "label", Element: "span", Content: contract.TextOf{Prop: "label"}},
		}},
		Props: []contract.Prop{
			{ID: "label", Name: "label", Type: contract.Text{Initial: "Ripe"}},
			{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m", "none"}, Initial: "m"}},
			{ID: "quiet", Name: "quiet", Type: contract.Flag{}},
			{ID: "icon", Name: "icon", Type: contract.Icon{Options: []contract.NamedIcon{{Name: "leaf", Vector: drawing}, {Name: "none", Vector: drawing}}, Initial: "leaf"}},
			{ID: "note", Name: "note", Type: contract.Text{}, Example: contract.TextValue("soon")},
		}}
}

// A case that is typed is looked at with what it says, and with the rest as the component is first looked at.
func TestACaseIsTyped(t *testing.T) {
	c := badge()
	apply(t, c, sheet.World{},
		sheet.Edit{Do: "add", On: "cases", Cell: "case", Text: `loud: size=none label="Ripe, \"now\"" quiet icon=none note=none`},
		sheet.Edit{Do: "set", On: "cases/0", Cell: "look", Text: "right to left, state hover,theme \"late, dusk\" , 320 px, text 200 %"})
	require.Len(t, c.Cases, 1)
	for typed, meant := range map[string]string{"do": contract.MeantSo, "don’t": contract.MeantOtherwise, "don't": contract.MeantOtherwise, "": ""} {
		apply(t, c, sheet.World{}, sheet.Edit{Do: "set", On: "cases/0", Cell: "meant", Text: typed})
		assert.Equal(t, meant, c.Cases[0].Meant)
	}
	_, err := sheet.Apply(c.Clone(), sheet.Edit{Do: "set", On: "cases/0", Cell: "meant", Text: "perhaps"}, sheet.World{})
	assert.ErrorContains(t, err, "expected do")
	assert.Equal(t, "loud", c.Cases[0].Name)
	assert.Equal(t, contract.Look{State: "hover", Direction: "rtl", Text: 200, Width: 320, Theme: "late, dusk"}, c.Cases[0].Look)
	assert.Equal(t, contract.Values{"label": contract.TextValue(`Ripe, "now"`), "size": contract.OptionValue("none"), "quiet": contract.FlagValue(true)}, c.CaseValues(c.Cases[0].Given),
		"none is an option where there is one of that name, and no icon and no text else")
	assert.Equal(t, `label="Ripe, \"now\"" size=none quiet=true icon=none note=none`, sheet.Of(c, nil).Cases[0].Given)

	apply(t, c, sheet.World{}, sheet.Edit{Do: "set", On: "cases/0", Cell: "given", Text: `icon="none"`})
	assert.Equal(t, contract.IconValue("none"), c.CaseValues(c.Cases[0].Given)["icon"], "in quotes it is the icon of that name")
	assert.Equal(t, contract.TextValue("soon"), c.CaseValues(c.Cases[0].Given)["note"])
	assert.Empty(t, c.Check(nil))

	for text, expected := range map[string]string{
		"": "expected a name", ": size=s": "expected a name", "a: tone=s": "tone is no prop", "a: size=xl": "size", "a: label=": "expected a value", `a: label="`: "quotes",
	} {
		_, err := sheet.Apply(c.Clone(), sheet.Edit{Do: "add", On: "cases", Cell: "case", Text: text}, sheet.World{})
		assert.ErrorContains(t, err, expected, "%q", text)
	}
	for text, expected := range map[string]string{
		"state hovered": "no state", "text huge": "not", "320": "", "12em": "not", "upside down": "not", "theme": "not",
	} {
		_, err := sheet.Apply(c.Clone(), sheet.Edit{Do: "set", On: "cases/0", Cell: "look", Text: text}, sheet.World{})
		if expected == "" {
			assert.NoError(t, err, "%q", text)
			continue
		}
		assert.ErrorContains(t, err, expected, "%q", text)
	}
}

// Saved cases stand in the order that people gave them, and follow what becomes of the props.
func TestSavedCasesFollow(t *testing.T) {
	c := badge()
	add := func(text string) sheet.Edit {
		return sheet.Edit{Do: "add", On: "cases", Cell: "case", Text: text}
	}
	names := func() (out []string) {
		for _, k := range c.Cases {
			out = append(out, k.Name)
		}
		return out
	}
	apply(t, c, sheet.World{}, add("a: size=s"), add("b: quiet"), sheet.Edit{Do: "add", On: "cases/0", Cell: "case", Text: "between: label=x"})
	assert.Equal(t, []string{"a", "between", "b"}, names())
	done := apply(t, c, sheet.World{}, sheet.Edit{Do: "move", On: "cases/2", Text: "up"})
	assert.Equal(t, []string{"a", "b", "between"}, names())
	assert.Equal(t, "cases/1", done.On)
	done = apply(t, c, sheet.World{}, sheet.Edit{Do: "duplicate", On: "cases/0"})
	assert.Equal(t, []string{"a", "a again", "b", "between"}, names())
	assert.Equal(t, "cases/1", done.On)
	apply(t, c, sheet.World{}, sheet.Edit{Do: "remove", On: "cases/1"}, sheet.Edit{Do: "set", On: "cases/0", Cell: "name", Text: "small one"})
	assert.Equal(t, []string{"small one", "b", "between"}, names())

	apply(t, c, sheet.World{}, sheet.Edit{Do: "set", On: "props/size", Cell: "name", Text: "scale"})
	assert.Equal(t, "scale=s", sheet.Of(c, nil).Cases[0].Given)
	apply(t, c, sheet.World{}, sheet.Edit{Do: "set", On: "props/size", Cell: "kind", Text: "choice little m none"})
	assert.Equal(t, "scale=little", sheet.Of(c, nil).Cases[0].Given, "an option that is called otherwise is the same one")
	done = apply(t, c, sheet.World{}, sheet.Edit{Do: "set", On: "props/size", Cell: "kind", Text: "choice m none"})
	assert.Contains(t, done.Taken, "what the case small one gives it")
	assert.Empty(t, sheet.Of(c, nil).Cases[0].Given)
	done = apply(t, c, sheet.World{}, sheet.Edit{Do: "remove", On: "props/quiet"})
	assert.Contains(t, done.Taken, "what the case b gives it")
	assert.NoError(t, c.Check(nil).Err())

	_, err := sheet.Apply(c, sheet.Edit{Do: "set", On: "cases/9", Cell: "name", Text: "x"}, sheet.World{})
	assert.ErrorContains(t, err, "no case")
	apply(t, c, sheet.World{}, add("b: scale=none"))
	assert.ErrorContains(t, c.Check(nil).Err(), "two cases are named")
}

// Notes, groups of props that stand apart, and states are typed where they stand.
func TestNotesGroupsAndStatesAreTyped(t *testing.T) {
	c := badge()
	edit := func(do, on, text string) sheet.Edit { return sheet.Edit{Do: do, On: on, Text: text} }
	done := apply(t, c, sheet.World{}, edit("add", "do", "one"), edit("add", "do", "three"), edit("add", "do/0", "two"))
	assert.Equal(t, []string{"one", "two", "three"}, c.Do)
	assert.Equal(t, "do/1", done.On)
	apply(t, c, sheet.World{}, edit("set", "do/1", "second"), edit("remove", "do/0", ""), edit("add", "dont", "never"), edit("remove", "dont/0", ""))
	assert.Equal(t, []string{"second", "three"}, c.Do)
	assert.Nil(t, c.Dont)

	apply(t, c, sheet.World{}, edit("add", "apart", "icon, note"))
	assert.Equal(t, [][]string{{"icon", "note"}}, c.Apart)
	apply(t, c, sheet.World{}, edit("set", "apart/0", "icon, note, quiet"))
	assert.Equal(t, []sheet.NoteRow{{On: "apart/0", Text: "icon, note, quiet"}}, sheet.Of(c, nil).Apart)
	for text, expected := range map[string]string{"icon": "two props", "icon, icon": "twice", "icon, wings": "no prop wings"} {
		_, err := sheet.Apply(c.Clone(), edit("set", "apart/0", text), sheet.World{})
		assert.ErrorContains(t, err, expected)
	}
	apply(t, c, sheet.World{}, edit("remove", "apart/0", ""))
	assert.Empty(t, c.Apart)

	done = apply(t, c, sheet.World{}, edit("add", "states", "hover: color red"), edit("add", "states", "loading label: opacity 0.5"))
	assert.Equal(t, "states/loading", done.On)
	require.NotNil(t, c.StateFlag("loading"), "what data sets has a flag")
	rows := sheet.Of(c, nil).States
	require.Len(t, rows, 2)
	assert.Equal(t, sheet.StateRow{On: "states/loading", Name: "loading", By: "loading", Rules: []int{2}}, rows[1])
	assert.Equal(t, "#ff0000", contract.Resolve(c, contract.Env{States: []string{"hover"}}, nil).Values["color"].Value)
	done = apply(t, c, sheet.World{}, edit("remove", "states/hover", ""))
	assert.Equal(t, []string{"the rule of root when state hover"}, done.Taken)
	assert.Len(t, sheet.Of(c, nil).States, 1)
	apply(t, c, sheet.World{}, edit("add", "states", "invalid"))
	assert.NotNil(t, c.StateFlag("invalid"))
	for text, expected := range map[string]string{"": "expected a state", "hovering: color red": "no state", "hover": "what is otherwise", "hover wing: color red": "no part", "hover: colour red": "no property"} {
		_, err := sheet.Apply(c.Clone(), edit("add", "states", text), sheet.World{})
		assert.ErrorContains(t, err, expected, "%q", text)
	}
	assert.NoError(t, c.Check(nil).Err())
}

// What can follow is offered where a case, a group or a state is typed.
func TestCasesAreCompleted(t *testing.T) {
	c := badge()
	offers := func(a sheet.Ask) (out []string) {
		for _, o := range sheet.Complete(c, a, sheet.World{Themes: map[string][]string{"light": {"day", "late dusk"}}}, nil) {
			out = append(out, o.Text)
		}
		return out
	}
	assert.Contains(t, offers(sheet.Ask{Do: "add", On: "cases", Text: "loud: si"}), "loud: size")
	assert.Equal(t, []string{"size=m", "size=s", "size=none"}, offers(sheet.Ask{Do: "set", On: "cases/0", Cell: "given", Text: "size="}))
	assert.Contains(t, offers(sheet.Ask{Do: "set", On: "cases/0", Cell: "look", Text: "320px, state h"}), "320px, state hover")
	assert.Contains(t, offers(sheet.Ask{Do: "set", On: "cases/0", Cell: "look", Text: "theme l"}), `theme "late dusk"`)
	assert.Contains(t, offers(sheet.Ask{Do: "add", On: "apart", Text: "icon, no"}), "icon, note")
	assert.Contains(t, offers(sheet.Ask{Do: "add", On: "states", Text: "ho"}), "hover")
	assert.Contains(t, offers(sheet.Ask{Do: "add", On: "states", Text: "hover la"}), "hover label")
	assert.Contains(t, offers(sheet.Ask{Do: "add", On: "states", Text: "hover label: colo"}), "hover label: color ")
}
