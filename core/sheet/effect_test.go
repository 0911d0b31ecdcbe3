package sheet_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/sheet"
	"cobrik/core/token"
)

func option(size string) contract.Term {
	return contract.PropIs{Prop: "size", Value: contract.OptionValue(size)}
}

// Where a declaration comes to bear is told case by case: what wins over it, and what it wins over.
func TestWhereAValueComesToBear(t *testing.T) {
	c, _ := plot()
	c.Rules = []contract.Rule{
		{Part: "title", When: contract.Of(option("s")), Set: contract.Style{"font-size": "12px"}},
		{Part: "title", When: contract.Of(contract.InState{State: "hover"}), Set: contract.Style{"font-size": "20px", "color": "#405060"}},
		{Part: "title", When: contract.Of(option("s"), contract.InState{State: "hover"}), Set: contract.Style{"font-size": "14px"}},
	}
	c.Part("root").Style["color"] = "#101010"
	env := func(size string, states ...string) contract.Env {
		return contract.Env{Props: contract.Values{"size": contract.OptionValue(size)}, States: states}
	}
	cases := []sheet.Case{{Name: "m", Env: env("m")}, {Name: "s", Env: env("s")}, {Name: "m hover", Env: env("m", "hover")}, {Name: "s hover", Env: env("s", "hover")}}
	of := func(on string) sheet.Effect {
		e, ok := sheet.EffectOf(c, on, cases)
		require.True(t, ok, on)
		return e
	}
	base := of("parts/title/font-size")
	assert.Equal(t, []string{"m"}, base.Holds)
	assert.Equal(t, []sheet.Loss{
		{Rival: sheet.Rival{On: "rules/0/font-size", When: "size = s", Text: "12px"}, Cases: []string{"s"}},
		{Rival: sheet.Rival{On: "rules/1/font-size", When: "state hover", Text: "20px"}, Cases: []string{"m hover"}},
		{Rival: sheet.Rival{On: "rules/2/font-size", When: "size = s and state hover", Text: "14px"}, Cases: []string{"s hover"}},
	}, base.Loses)
	assert.Empty(t, base.Overrides)
	small := of("rules/0/font-size")
	assert.Equal(t, []string{"s"}, small.Holds)
	assert.Equal(t, []sheet.Rival{{On: "parts/title/font-size", Text: "16px"}}, small.Overrides)
	require.Len(t, small.Loses, 1)
	assert.Equal(t, []string{"s hover"}, small.Loses[0].Cases)
	last := of("rules/2/font-size")
	assert.Equal(t, []string{"s hover"}, last.Holds)
	assert.Equal(t, "20px", last.Overrides[0].Text, "without it the one before wins")
	assert.Equal(t, 4, last.Cases)
	color := of("rules/1/color")
	assert.Equal(t, "root", color.Inherited, "without it the color is inherited")
	for _, on := range []string{"rules/9/color", "rules/x/color", "parts/title/gap", "parts/nothing/gap", "props/size"} {
		_, ok := sheet.EffectOf(c, on, cases)
		assert.False(t, ok, on)
	}
}

// What lengths become over the options of a choice: in em they go with the type (CSS Values 4, 6.1.1), in rem and px they
// do not.
func TestWhatScales(t *testing.T) {
	c, w := plot()
	c.Root.Style = contract.Style{"font-size": "16px", "padding-inline": "1em", "gap": "1rem", "border-radius": "{space.s}", "width": "100%", "height": "20px"}
	c.Rules = []contract.Rule{{Part: "root", When: contract.Of(option("s")), Set: contract.Style{"font-size": "12px", "height": "16px"}}}
	scale, ok := sheet.ScaleOf(c, "size", w.Tokens)
	require.True(t, ok)
	assert.Equal(t, []string{"s", "m"}, scale.Options)
	rows := map[string]sheet.ScaleRow{}
	for _, r := range scale.Rows {
		if r.Part == "root" {
			rows[r.Property] = r
		}
	}
	for property, want := range map[string]sheet.ScaleRow{
		"font-size": {Px: []float64{12, 16}, Unit: "px", How: "by steps"}, "padding-inline": {Px: []float64{12, 16}, Unit: "em", How: "with the type"}, "gap": {Px: []float64{16, 16}, Unit: "rem", How: "stays"},
		"border-radius": {Px: []float64{4, 4}, Unit: "px", How: "stays"}, "height": {Px: []float64{16, 20}, Unit: "px", How: "by steps"},
	} {
		got := rows[property]
		assert.Equal(t, want.Px, got.Px, property)
		assert.Equal(t, want.Unit, got.Unit, property)
		assert.Equal(t, want.How, got.How, property)
	}
	assert.NotContains(t, rows, "width", "no length in px")
	assert.Equal(t, "{space.s}", rows["border-radius"].Text)
	c.Rules[0].Set["gap"] = "0.5em"
	scale, _ = sheet.ScaleOf(c, "size", w.Tokens)
	for _, r := range scale.Rows {
		if r.Part == "root" && r.Property == "gap" {
			assert.Equal(t, "mixed", r.Unit)
			assert.Equal(t, []float64{6, 16}, r.Px)
		}
	}
	_, ok = sheet.ScaleOf(c, "strong", token.Empty())
	assert.False(t, ok, "a flag is no choice")
}

// A finding stands at the row that its pointer leads to.
func TestWhereAFindingStands(t *testing.T) {
	c, _ := plot()
	for pointer, want := range map[string][2]string{
		"/root":                            {"parts/root", "root"},
		"/root/children/3/children/0":      {"parts/bed", "bed"},
		"/root/children/0/style/font-size": {"parts/title/font-size", "title"},
		"/root/children/0/style/gap":       {"parts/title", "title"},
		"/root/children/0/attributes/for":  {"parts/title", "title"},
		"/root/children/9":                 {"parts/root", "root"},
		"/rules/2":                         {"rules/2", "title"},
		"/rules/2/set/color":               {"rules/2/color", "title"},
		"/rules/2/set/gap":                 {"rules/2", "title"},
		"/rules/9":                         {"props", ""},
		"/props/0/name":                    {"props/title", "title"},
		"/props/4":                         {"props/onPick", "title"},
		"/purpose":                         {"purpose", ""},
		"/elsewhere/1":                     {"props", ""},
		"":                                 {"props", ""},
	} {
		on, part := sheet.At(c, pointer)
		assert.Equal(t, want, [2]string{on, part}, pointer)
	}
	found := []check.Finding{
		{Problem: problem.Problem{Rule: "a", Severity: problem.Error, Message: "one", Pointer: "/root"}, Fix: func(c *contract.Contract) { c.Root.Style["gap"] = "1px" }},
		{Problem: problem.Problem{Rule: "a", Severity: problem.Error, Message: "one", Pointer: "/root"}},
	}
	list := sheet.Findings(c, found)
	assert.NotEqual(t, list[0].Key, list[1].Key, "two of the same have keys of their own")
	assert.True(t, list[0].Mends)
	assert.False(t, list[1].Mends)
	w := sheet.World{Review: func(*contract.Contract) []check.Finding { return found }}
	done, err := sheet.Apply(c, sheet.Edit{Do: "mend", On: list[0].Key}, w)
	require.NoError(t, err)
	assert.Equal(t, "1px", c.Root.Style["gap"])
	assert.Equal(t, "parts/root", done.On)
	_, err = sheet.Apply(c, sheet.Edit{Do: "mend", On: list[1].Key}, w)
	assert.ErrorContains(t, err, "no mechanical fix")
	_, err = sheet.Apply(c, sheet.Edit{Do: "mend", On: "gone"}, w)
	assert.ErrorContains(t, err, "no longer found")
	_, err = sheet.Apply(c, sheet.Edit{Do: "mend", On: "gone"}, sheet.World{})
	assert.Error(t, err)
	c.Rules = append(c.Rules, contract.Rule{Part: "title", When: contract.Of(option("s")), Set: contract.Style{"font-size": "12px"}})
	done, err = sheet.Apply(c, sheet.Edit{Do: "fewer", On: "rules"}, w)
	require.NoError(t, err)
	assert.Contains(t, done.Note, "1 needless")
	_, err = sheet.Apply(c, sheet.Edit{Do: "fewer", On: "rules"}, w)
	assert.ErrorContains(t, err, "no rule says what would not hold anyway")
}

// An edit that was meant for an older state is made where what it is of is the same.
func TestUntouched(t *testing.T) {
	one := badge()
	apply(t, one, sheet.World{}, sheet.Edit{Do: "add", On: "cases", Cell: "case", Text: "a: size=s"}, sheet.Edit{Do: "add", On: "do", Text: "one"}, sheet.Edit{Do: "add", On: "states", Text: "hover: color red"})
	for on, touch := range map[string]sheet.Edit{
		"cases/0":      {Do: "set", On: "cases/0", Cell: "look", Text: "320px"},
		"do/0":         {Do: "set", On: "do/0", Text: "two"},
		"states/hover": {Do: "remove", On: "states/hover"},
		"name":         {Do: "set", On: "name", Text: "Mark"},
		"purpose":      {Do: "set", On: "purpose", Text: "Marks"},
	} {
		now := one.Clone()
		assert.True(t, sheet.Untouched(sheet.Of(one, nil), sheet.Of(now, nil), sheet.Edit{Do: "set", On: on}), on)
		apply(t, now, sheet.World{}, touch)
		assert.False(t, sheet.Untouched(sheet.Of(one, nil), sheet.Of(now, nil), sheet.Edit{Do: "set", On: on}), "%s: what somebody else edited is overwritten", on)
	}
	was, _ := plot()
	edits := []sheet.Edit{do("set", "props/size", "name", "x"), do("set", "parts/note", "shows", "x"), do("set", "parts/title/font-size", "value", "x"), do("set", "rules/0", "when", "x"), do("set", "rules/0/font-size", "value", "x"), do("set", "purpose", "", "x"), do("add", "props", "prop", "x")}
	for _, k := range []struct {
		change func(c *contract.Contract)
		touch  []int // places of the edits that it touches
	}{
		{func(*contract.Contract) {}, nil},
		{func(c *contract.Contract) { c.Props[1].Purpose = "Another" }, []int{0}},
		{func(c *contract.Contract) { c.Part("note").Element = "span" }, []int{1}},
		{func(c *contract.Contract) { c.Part("title").Style["font-size"] = "1px" }, []int{2}},
		{func(c *contract.Contract) { c.Rules[0].Set["font-size"] = "1px" }, []int{3, 4}},
		{func(c *contract.Contract) { c.Rules[0].Set["gap"] = "1px" }, []int{3}},
		{func(c *contract.Contract) { c.Rules = c.Rules[1:] }, []int{3, 4}},
		{func(c *contract.Contract) { c.Purpose = "Another" }, []int{5}},
		{func(c *contract.Contract) { c.Root.Children = c.Root.Children[:1]; c.Rules = nil }, []int{1, 3, 4}},
	} {
		now := was.Clone()
		k.change(now)
		for i, e := range edits {
			want := true
			for _, n := range k.touch {
				want = want && n != i
			}
			assert.Equal(t, want, sheet.Untouched(sheet.Of(was, nil), sheet.Of(now, nil), e), "%s, touched %v", e.On, k.touch)
		}
	}
	assert.False(t, sheet.Untouched(sheet.Of(was, nil), func() sheet.Sheet { c := was.Clone(); c.Part("title").Element = "h4"; return sheet.Of(c, nil) }(), sheet.Edit{Do: "wrap", On: "parts/note", With: []string{"parts/title"}}))
}
