package contract_test

import (
	"cobrik/core/draft"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func cropTag(t testing.TB) (*contract.Contract, *token.Set) {
	t.Helper()
	doc, tokens := demotest.Furrow(t, 1)
	c, found := draft.OfFamily(doc, doc.FamilyNamed("CropTag"), tokens, nil)
	require.Empty(t, found)
	return c, tokens
}

func TestAContractReadsBackAsItWasWritten(t *testing.T) {
	c, tokens := cropTag(t)
	again, found := contract.Read("c", c.JSON(), tokens)
	require.Empty(t, found)
	assert.Equal(t, string(c.JSON()), string(again.JSON()))
	assert.Equal(t, string(c.JSON()), string(c.Clone().JSON()))
	assert.Contains(t, string(c.JSON()), `"strong": true`, "a flag's value is a boolean in the file")
}

func TestBadContractsAreRefused(t *testing.T) {
	c, tokens := cropTag(t)
	good := string(c.JSON())
	for name, x := range map[string]struct{ from, to, says, pointer string }{
		"version":        {"contract/1", "contract/9", "contract/9", "/format"},
		"unknown part":   {"\"part\": \"icon\",\n      \"when\"", "\"part\": \"ikon\",\n      \"when\"", `no part "ikon"`, "/rules/1/part"},
		"unknown option": {`"size": "s"`, `"size": "xs"`, `"xs" is not an option of size`, "/rules/0/when/props/size"},
		"unknown prop":   {`"tone": "ripe"`, `"hue": "ripe"`, `no choice or flag "hue"`, "/rules/5/when/props/hue"},
		"unknown token":  {"{space.half}", "{space.hlaf}", "there is no token space.hlaf", "/root/style/padding-block"},
		"wrong type":     {"{space.half}", "{tag.ripe.ink}", "takes a token of type dimension", "/root/style/padding-block"},
		"bad default":    {`"default": "m"`, `"default": "q"`, `"q" is not an option of size`, "/props/0/default"},
		"unknown text":   {`"text": "label"`, `"text": "title"`, `no prop "title"`, "/root/children/1/text"},
		"bad element":    {`"element": "svg"`, `"element": "svg onload=x"`, "svg onload", "/root/children/0/element"},
		"bad name":       {`"name": "CropTag"`, `"name": "Crop-Tag"`, "Crop-Tag", "/name"},
	} {
		t.Run(name, func(t *testing.T) {
			require.Contains(t, good, x.from)
			got, found := contract.Read("c.json", []byte(strings.Replace(good, x.from, x.to, 1)), tokens)
			assert.Nil(t, got)
			require.NotEmpty(t, found)
			assert.Contains(t, found[0].Message, x.says)
			assert.Equal(t, x.pointer, found[0].Pointer)
			assert.Positive(t, found[0].Line)
		})
	}
}

// Nothing a person types may leave its declaration in the emitted style sheet.
func TestValuesCannotLeaveTheirDeclaration(t *testing.T) {
	_, tokens := cropTag(t)
	for _, v := range []string{"red; } body { display: none", "url(https://x)", "URL( x )", "red /* x", "expression(1)", "</style>", "red\n}", `\75rl(x)`, "{space.2", "", "  "} {
		for _, property := range []string{"background-color", "padding-inline", "flex", "rotate", "font-family"} {
			if property == "font-family" && v == "expression(1)" || (property == "flex" || property == "rotate") && v == "expression(1)" {
				continue // harmless text there
			}
			assert.Error(t, contract.CheckValue(property, v, tokens), "%s: %q", property, v)
		}
	}
	assert.Error(t, contract.CheckValue("behavior", "x", tokens))
	for property, values := range map[string][]string{
		"padding-inline": {"8px", "0", "8px 12px", "{space.2}", "{space.2} {space.3}", "0.5rem", ".5em", "calc(50% - 8px)"},
		"color":          {"#4a7c59", "rgb(1 2 3 / 50%)", "rebeccapurple", "currentColor", "{tag.ripe.ink}"},
		"font-weight":    {"650", "bold", "{type.weight.strong}"},
		"line-height":    {"1.5", "20px", "normal", "{type.line.body}"},
		"align-items":    {"center"},
	} {
		for _, v := range values {
			assert.NoError(t, contract.CheckValue(property, v, tokens), "%s: %s", property, v)
		}
	}
}

// CSS Cascade 5, 7: inherited properties pass from parent to child; a rule that
// comes later wins; a variant inherits what it does not set.
func TestResolveCascades(t *testing.T) {
	c, tokens := cropTag(t)
	c.SetValue("label", "color", contract.Of(contract.PropIs{Prop: "tone", Value: contract.OptionValue("sown")}), "#123456")
	at := func(values contract.Values, part, property string) contract.Resolution {
		return contract.Resolve(c, contract.EnvOf(values), tokens).Find(part).Values[property]
	}
	assert.Equal(t, contract.Resolution{Expression: "{tag.growing.ink}", Value: "#2f6132", Part: "root"}, at(nil, "label", "color"))
	assert.Equal(t, "#123456", at(contract.Values{"tone": contract.OptionValue("sown")}, "label", "color").Value)
	assert.Equal(t, "tone = sown", at(contract.Values{"tone": contract.OptionValue("sown")}, "label", "color").When.String())
	assert.Equal(t, "#1d586e", at(contract.Values{"tone": contract.OptionValue("sown")}, "icon", "fill").Value, "currentColor is the icon's own colour, not the label's")
	strong := contract.Values{"strong": contract.FlagValue(true), "tone": contract.OptionValue("ripe"), "size": contract.OptionValue("l")}
	assert.Equal(t, "#8a4f07", at(strong, "root", "background-color").Value)
	assert.Equal(t, "650", at(strong, "label", "font-weight").Value)
	assert.Equal(t, "12px", at(strong, "root", "padding-inline").Value)
	assert.False(t, contract.Resolve(c, contract.EnvOf(contract.Values{"showIcon": contract.FlagValue(false)}), tokens).Find("icon").Shown)
}

// What is in a hidden part is hidden, whatever it says itself.
func TestPartsOfAHiddenPartAreHidden(t *testing.T) {
	inner := &contract.Part{ID: "inner", Name: "inner", Element: "span", ShownWhen: contract.Of(flag("deep", true))}
	outer := &contract.Part{ID: "outer", Name: "outer", Element: "div", ShownWhen: contract.Of(flag("open", true)), Children: []*contract.Part{inner}}
	c := &contract.Contract{Format: contract.Format, Name: "Nest", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{outer}},
		Props: []contract.Prop{{ID: "open", Name: "open", Type: contract.Flag{}}, {ID: "deep", Name: "deep", Type: contract.Flag{Initial: true}}}}
	require.Empty(t, c.Check(nil))
	for _, k := range []struct{ open, deep, outer, inner bool }{{false, false, false, false}, {false, true, false, false}, {true, false, true, false}, {true, true, true, true}} {
		tree := contract.Resolve(c, contract.EnvOf(contract.Values{"open": contract.FlagValue(k.open), "deep": contract.FlagValue(k.deep)}), token.Empty())
		assert.Equal(t, k.outer, tree.Find("outer").Shown)
		assert.Equal(t, k.inner, tree.Find("inner").Shown, "open %t, deep %t", k.open, k.deep)
		assert.Len(t, tree.Boxes().Children, map[bool]int{true: 1}[k.outer])
	}
}

func TestSetValueEditsThePlaceThatIsNamed(t *testing.T) {
	c, _ := cropTag(t)
	small := contract.Of(contract.PropIs{Prop: "size", Value: contract.OptionValue("s")})
	before := len(c.Rules)
	c.SetValue("root", "padding-inline", small, "5px")
	assert.Equal(t, "5px", c.Rules[0].Set["padding-inline"])
	assert.Equal(t, "{space.2}", c.Root.Style["padding-inline"], "editing one size changed them all")
	c.SetValue("root", "gap", contract.When{}, "3px")
	assert.Equal(t, "3px", c.Root.Style["gap"])
	c.SetValue("icon", "opacity", contract.Of(contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}), "0.5")
	assert.Len(t, c.Rules, before+1)
	c.SetValue("icon", "opacity", contract.Of(contract.PropIs{Prop: "strong", Value: contract.FlagValue(true)}), "")
	assert.Len(t, c.Rules, before, "an empty rule is left behind")
	// Of two rules with one condition, the one that sets the property is edited.
	c.Rules = append(c.Rules, contract.Rule{Part: "root", When: small, Set: contract.Style{"opacity": "0.9"}})
	c.SetValue("root", "padding-inline", small, "3px")
	assert.Equal(t, "3px", c.Rules[0].Set["padding-inline"])
	assert.Equal(t, contract.Style{"opacity": "0.9"}, c.Rules[len(c.Rules)-1].Set, "the value is said in two places")
}

func FuzzRead(f *testing.F) {
	c, _ := cropTag(f)
	f.Add(c.JSON())
	f.Fuzz(func(t *testing.T, text []byte) {
		got, found := contract.Read("f", text, nil)
		if got == nil {
			require.True(t, found.Failed())
			return
		}
		contract.Resolve(got, contract.Env{}, token.Empty())
		require.True(t, json.Valid(got.JSON()))
	})
}

// A component without props is written as one can be read again.
func TestAContractWithoutPropsIsRead(t *testing.T) {
	c := &contract.Contract{Format: contract.Format, Name: "Bar", Root: &contract.Part{ID: "root", Name: "root", Element: "div"}}
	again, found := contract.Read("bar", c.JSON(), nil)
	require.NotNil(t, again, found)
}
