package contract_test

import (
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"

	"cobrik/core/contract"
)

func TestStressCases(t *testing.T) {
	c := &contract.Contract{Root: &contract.Part{ID: "root", Name: "root", Element: "div"}, Props: []contract.Prop{
		{ID: "title", Name: "title", Type: contract.Text{Initial: "Plot 12", Longest: 20}},
		{ID: "body", Name: "body", Type: contract.Rich{Initial: contract.Plain("Dug over")}},
		{ID: "picture", Name: "picture", Type: contract.Image{}, Example: contract.SampleImage(1)},
		{ID: "rows", Name: "rows", Type: contract.List{Most: 12, Items: []contract.Prop{{ID: "label", Name: "label", Type: contract.Text{Initial: "Bed"}}}}},
		{ID: "size", Name: "size", Type: contract.Choice{Options: []string{"s", "m"}, Initial: "m"}},
	}}
	values := c.Examples()
	cases := map[string]contract.StressCase{}
	for _, s := range c.Stress(values) {
		cases[s.Name] = s
		for id, v := range s.Values {
			assert.True(t, c.Prop(id).Type.Takes(v), "%s: %s takes no %v", s.Name, id, v)
		}
		assert.Equal(t, contract.OptionValue("m"), s.Values["size"], "%s: what is no content stays", s.Name)
	}
	long := cases["longest words"].Values["title"].String()
	assert.Equal(t, 20, utf8.RuneCountInString(long), "no longer than the prop allows")
	assert.NotContains(t, cases["longest words"].Values["body"].String(), " ", "nothing lets the line break")
	assert.Equal(t, "Plot 12 Plot 12", cases["twice the text"].Values["title"].String())
	assert.Equal(t, "", cases["no text"].Values["title"].String())
	assert.Empty(t, cases["no text"].Values["body"])
	assert.NotContains(t, cases["no picture"].Values, "picture")
	assert.Empty(t, cases["no items"].Values["rows"])
	assert.Len(t, cases["one item"].Values["rows"], 1)
	assert.NotContains(t, cases, "fifty items", "twelve are allowed")
	assert.Equal(t, "rtl", cases["right to left"].Direction)
	assert.Equal(t, 320.0, cases["320 px wide"].Width)
	assert.Equal(t, "Plot 12", values["title"].String(), "what is looked at first is as before")
	l := c.Props[3].Type.(contract.List)
	l.Most, c.Props[3].Type = 0, l
	for _, s := range c.Stress(values) {
		if s.Name == "fifty items" {
			assert.Len(t, s.Values["rows"], 50)
		}
	}
	bare := &contract.Contract{Root: c.Root}
	assert.Len(t, bare.Stress(nil), 2, "without content there is the direction and the narrow place")
	c.Props[2].Required = true
	for _, s := range c.Stress(values) {
		assert.NotEqual(t, "no picture", s.Name, "a use has to give it")
	}
}
