package contract_test

import (
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// good is a small contract in which everything is right.
func good() *contract.Contract {
	label := &contract.Part{ID: "label", Name: "label", Element: "span", Content: contract.TextOf{Prop: "text"}}
	icon := &contract.Part{ID: "icon", Name: "icon", Element: "svg", Content: &contract.Vector{ViewBox: [4]float64{0, 0, 1, 1}}, ShownWhen: contract.Of(flag("on", true))}
	return &contract.Contract{Format: contract.Format, Name: "Good",
		Props: []contract.Prop{
			{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "m"}},
			{ID: "on", Name: "on", Type: contract.Flag{}, Part: "icon"},
			{ID: "text", Name: "text", Type: contract.Text{Initial: "Sown"}, Part: "label"},
		},
		Root:  &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{"width": "100%", "display": "flex"}, Children: []*contract.Part{label, icon}},
		Rules: []contract.Rule{{Part: "root", When: contract.Of(is("size", "s")), Set: contract.Style{"gap": "2px"}}},
	}
}

func rule(c *contract.Contract, terms ...contract.Term) {
	c.Rules = append(c.Rules, contract.Rule{Part: "root", When: contract.Of(terms...), Set: contract.Style{"gap": "1px"}})
}

// One thing wrong at a time: it is found, under its rule, at its place.
func TestWhatIsWrongWithAContract(t *testing.T) {
	require.Empty(t, good().Check(token.Empty()))
	for name, k := range map[string]struct {
		spoil             func(*contract.Contract)
		rule, at, message string
	}{
		"two props of an id":     {func(c *contract.Contract) { c.Props[1].ID = "size" }, "prop-id", "/props/1/id", `the id "size"`},
		"two props of a name":    {func(c *contract.Contract) { c.Props[1].Name = "Size" }, "prop-name", "/props/1/name", `named "Size"`},
		"a reserved prop":        {func(c *contract.Contract) { c.Props[0].Name = "children" }, "prop-reserved", "/props/0/name", "kept by React"},
		"every object's own":     {func(c *contract.Contract) { c.Props[0].Name = "toString" }, "prop-reserved", "/props/0/name", "toString"},
		"a default that is none": {func(c *contract.Contract) { c.Props[0].Type = contract.Choice{Options: []string{"s"}, Initial: "m"} }, "prop-default", "/props/0/default", `"m" is not an option`},
		"an option of all objects": {func(c *contract.Contract) {
			c.Props[0].Type = contract.Choice{Options: []string{"m", "s", "constructor"}, Initial: "m"}
		}, "prop-option", "/props/0/options/2", "constructor"},
		"a prop of no part":        {func(c *contract.Contract) { c.Props[1].Part = "nobody" }, "prop-part", "/props/1/part", `no part "nobody"`},
		"a known name":             {func(c *contract.Contract) { c.Name = "Boolean" }, "component-name", "/name", "every module knows"},
		"two parts of an id":       {func(c *contract.Contract) { c.Root.Children[1].ID = "label" }, "part-id", "/root/children/1/id", `the id "label"`},
		"two parts of a name":      {func(c *contract.Contract) { c.Root.Children[1].Name = "label" }, "part-name", "/root/children/1/name", `named "label"`},
		"an element that loads":    {func(c *contract.Contract) { c.Root.Children[0].Element = "iframe" }, "part-element", "/root/children/0/element", "iframe"},
		"a script":                 {func(c *contract.Contract) { c.Root.Element = "script" }, "part-element", "/root/element", "script"},
		"a vector in a box":        {func(c *contract.Contract) { c.Root.Children[1].Element = "div" }, "part-element", "/root/children/1/element", "shows a vector"},
		"svg without a vector":     {func(c *contract.Contract) { c.Root.Children[0].Element = "svg" }, "part-element", "/root/children/0/element", "shows a text"},
		"content and children":     {func(c *contract.Contract) { c.Root.Content = contract.FixedText{Text: "x"} }, "part-content", "/root/children", "holds other parts"},
		"text of a flag":           {func(c *contract.Contract) { c.Root.Children[0].Content = contract.TextOf{Prop: "on"} }, "part-prop", "/root/children/0/text", `no prop "on"`},
		"shown by a width":         {func(c *contract.Contract) { c.Root.Children[1].ShownWhen = below(400) }, "part-shown", "/root/children/1/shownWhen", "props alone"},
		"a rule of no part":        {func(c *contract.Contract) { c.Rules[0].Part = "nobody" }, "rule-part", "/rules/0/part", `no part "nobody"`},
		"a rule of no prop":        {func(c *contract.Contract) { rule(c, is("hue", "red")) }, "rule-prop", "/rules/1/when/props/hue", `"hue"`},
		"a rule of a text":         {func(c *contract.Contract) { rule(c, is("text", "Sown")) }, "rule-prop", "/rules/1/when/props/text", `"text"`},
		"a rule of no option":      {func(c *contract.Contract) { rule(c, is("size", "xl")) }, "rule-option", "/rules/1/when/props/size", `"xl" is not an option`},
		"a flag named as a word":   {func(c *contract.Contract) { rule(c, is("on", "true")) }, "rule-option", "/rules/1/when/props/on", "on"},
		"a choice named as a flag": {func(c *contract.Contract) { rule(c, flag("size", true)) }, "rule-option", "/rules/1/when/props/size", "size"},
		"no state":                 {func(c *contract.Contract) { rule(c, contract.InState{State: "sleepy"}) }, "rule-state", "/rules/1/when/states", "sleepy"},
		"no direction":             {func(c *contract.Contract) { rule(c, contract.Direction{Is: "up"}) }, "rule-direction", "/rules/1/when/direction", "up"},
		"no width":                 {func(c *contract.Contract) { rule(c, contract.Viewport{}) }, "rule-width", "/rules/1/when/viewport", "no width"},
		"a range turned round":     {func(c *contract.Contract) { rule(c, contract.Viewport{Range: contract.Range{From: 900, Below: 600}}) }, "rule-width", "/rules/1/when/viewport", "no range"},
		"a width beyond all":       {func(c *contract.Contract) { rule(c, contract.Container{Range: contract.Range{Below: 20_001}}) }, "rule-width", "/rules/1/when/container", "no range"},
		"a root of its content": {func(c *contract.Contract) {
			c.Root.Style = nil
			rule(c, contract.Container{Range: contract.Range{Below: 400}})
		}, "switch-container", "/root/style/width", "as wide as its content"},
		"a value that is none": {func(c *contract.Contract) { c.Rules[0].Set["gap"] = "wide" }, "style-value", "/rules/0/set/gap", "wide"},
		"a property of none":   {func(c *contract.Contract) { c.Root.Style["behavior"] = "x" }, "style-value", "/root/style/behavior", "behavior"},
		"no such token":        {func(c *contract.Contract) { c.Root.Style["gap"] = "{space.2}" }, "style-value", "/root/style/gap", "no token space.2"},
	} {
		c := good()
		k.spoil(c)
		found := c.Check(token.Empty())
		var p *problem.Problem
		for i := range found {
			if found[i].Rule == k.rule {
				p = &found[i]
				break
			}
		}
		if !assert.NotNil(t, p, "%s: %s", name, found) {
			continue
		}
		assert.Equal(t, k.at, p.Pointer, name)
		assert.Contains(t, p.Message, k.message, name)
		assert.True(t, found.Failed(), name)
		if k.rule != "style-value" {
			assert.NotEmpty(t, p.Fix, "%s: what to do is not said", name)
		}
	}
}

// Each kind answers for itself: what it takes, reads, may be named, differs in.
func TestKindsOfProps(t *testing.T) {
	choice := contract.Choice{Options: []string{"s", "true", `a"b`}, Initial: "true"}
	for _, k := range []struct {
		kind    contract.Type
		takes   []contract.Value
		refuses []contract.Value
		json    map[string]contract.Value
		not     []string
		named   []contract.Value
		ts      string
	}{
		{choice, []contract.Value{contract.OptionValue("s"), contract.OptionValue("true")}, []contract.Value{contract.TextValue("s"), contract.FlagValue(true), contract.OptionValue("l"), nil},
			map[string]contract.Value{`"true"`: contract.OptionValue("true")}, []string{`true`, `"l"`, `1`, `null`},
			[]contract.Value{contract.OptionValue("true"), contract.OptionValue("s"), contract.OptionValue(`a"b`)}, `"s" | "true" | "a\"b"`},
		{contract.Flag{Initial: true}, []contract.Value{contract.FlagValue(true), contract.FlagValue(false)}, []contract.Value{contract.TextValue("true"), contract.OptionValue("true"), nil},
			map[string]contract.Value{`false`: contract.FlagValue(false)}, []string{`"true"`, `0`},
			[]contract.Value{contract.FlagValue(true), contract.FlagValue(false)}, "boolean"},
		{contract.Text{Initial: "true"}, []contract.Value{contract.TextValue(""), contract.TextValue("true")}, []contract.Value{contract.OptionValue("s"), contract.FlagValue(true), nil},
			map[string]contract.Value{`"true"`: contract.TextValue("true"), `""`: contract.TextValue("")}, []string{`true`, `5`, `[]`}, nil, "string"},
	} {
		name := string(k.kind.Kind())
		for _, v := range append(k.takes, k.kind.Default()) {
			assert.True(t, k.kind.Takes(v), "%s does not take %v", name, v)
		}
		for _, v := range k.refuses {
			assert.False(t, k.kind.Takes(v), "%s takes %#v", name, v)
		}
		for text, want := range k.json {
			got, err := k.kind.Decode([]byte(text))
			require.NoError(t, err)
			assert.Equal(t, want, got)
		}
		for _, text := range k.not {
			_, err := k.kind.Decode([]byte(text))
			assert.Error(t, err, "%s reads %s", name, text)
		}
		assert.Equal(t, k.named, k.kind.Nameable(), name)
		assert.Equal(t, k.ts, k.kind.TypeScript(), name)
		assert.Empty(t, k.kind.Changes("p", k.kind), "%s differs from itself", name)
		require.NotEmpty(t, k.kind.Samples())
		assert.Equal(t, k.kind.Default(), k.kind.Samples()[0])

		// JSON Schema 2020-12, by a validator that is not ours: it takes what the kind takes.
		compiler := jsonschema.NewCompiler()
		schema := map[string]any{"$schema": "https://json-schema.org/draft/2020-12/schema"}
		for keyword, v := range k.kind.Schema() {
			if options, ok := v.([]string); ok {
				list := make([]any, len(options))
				for i, o := range options {
					list[i] = o
				}
				v = list
			}
			schema[keyword] = v
		}
		require.NoError(t, compiler.AddResource("kind.json", schema))
		compiled, err := compiler.Compile("kind.json")
		require.NoError(t, err)
		for _, v := range k.kind.Samples() {
			assert.True(t, k.kind.Takes(v))
			var plain any = v.String()
			if f, ok := v.(contract.FlagValue); ok {
				plain = bool(f)
			}
			assert.NoError(t, compiled.Validate(plain), "%s: %v", name, v)
		}
		assert.Error(t, compiled.Validate(3.5), name)
	}
}

// What a change of a prop means to those who use it (Semantic Versioning 2.0.0, 6 to 8).
func TestChangesOfAProp(t *testing.T) {
	choice := func(initial string, options ...string) contract.Type {
		return contract.Choice{Options: options, Initial: initial}
	}
	for _, k := range []struct {
		old, now contract.Type
		want     string
	}{
		{choice("m", "s", "m"), choice("m", "s", "m"), ""},
		{choice("m", "s", "m"), choice("m", "m", "s"), ""}, // their order is no promise
		{choice("m", "s", "m"), choice("m", "s", "m", "l"), "minor p: the option l is added"},
		{choice("m", "s", "m"), choice("m", "m"), "major p: the option s is removed"},
		{choice("m", "s", "m"), choice("s", "s", "m"), "major p: the default is s instead of m"},
		{choice("m", "s", "m"), choice("s", "s"), "major p: the option m is removed"},
		{contract.Flag{}, contract.Flag{Initial: true}, "major p: the default is true instead of false"},
		{contract.Text{Initial: "a"}, contract.Text{Initial: "b"}, `patch p: the default text is "b" instead of "a"`},
	} {
		var got []string
		for _, c := range k.now.Changes("p", k.old) {
			got = append(got, string(c.Level)+" "+c.Text)
		}
		assert.Equal(t, k.want, strings.Join(got, "; "))
	}
	assert.Equal(t, contract.Major, contract.Highest(contract.Major, contract.Patch))
	assert.Equal(t, contract.Minor, contract.Highest(contract.None, contract.Minor))
}

// A key names a case the same way whatever the order, and tells a text from a flag.
func TestKeysOfValues(t *testing.T) {
	v := contract.Values{"size": contract.OptionValue("m"), "on": contract.FlagValue(true), "tone": contract.OptionValue("true"), "label": contract.TextValue("x y"), "größe": contract.OptionValue("大")}
	assert.Equal(t, `größe=大 label="x y" on=true size=m tone="true"`, v.Key([]string{"tone", "size", "on", "label", "größe"}))
	assert.Equal(t, "size=m", v.Key([]string{"size", "nobody"}))
	assert.Equal(t, "", v.Key(nil))
	with := v.With(contract.Values{"size": contract.OptionValue("s")})
	assert.Equal(t, "size=s", with.Key([]string{"size"}))
	assert.Equal(t, "size=m", v.Key([]string{"size"}), "the values themselves were changed")
}

// A copy shares nothing that an edit of it could change.
func TestACloneIsItsOwn(t *testing.T) {
	c := good()
	c.Origin = &contract.Origin{Document: "d", Family: "f", Readings: map[string]string{"a": "row"}}
	before := string(c.JSON())
	d := c.Clone()
	d.Props[0].Type.(contract.Choice).Options[0] = "xs"
	d.Root.Children[0].Style = contract.Style{"gap": "9px"}
	d.Root.Style["gap"] = "9px"
	d.Root.Children = d.Root.Children[:1]
	d.Rules[0].Set["gap"] = "9px"
	d.Rules[0].When = contract.Of(is("size", "m"))
	d.Origin.Readings["a"] = "stack"
	d.Origin.Revision = 9
	assert.Equal(t, before, string(c.JSON()))
}
