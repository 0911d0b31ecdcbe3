package contract_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/contract"
)

// What changes a part is computed from all that refers to a prop: what it shows, its attributes, whether and
// how often it is there, what it gives a component, and its rules; states are last.
func TestInfluences(t *testing.T) {
	on := func(prop string) contract.Term { return contract.PropIs{Prop: prop, Value: contract.FlagValue(true)} }
	tag := &contract.Part{ID: "tag", Name: "tag", Content: &contract.Use{Component: "CropTag", Given: map[string]contract.Given{"tone": {Prop: "t"}, "strong": {Cases: []contract.GivenCase{{When: contract.Of(on("f"))}}}}}}
	title := &contract.Part{ID: "title", Name: "title", Element: "h3", Level: "n", Content: contract.TextOf{Prop: "words"}, ShownWhen: contract.Of(contract.PropSet{Prop: "words", Set: true}),
		Attributes: map[string]contract.Attribute{"lang": {Prop: "t"}, "title": {Text: "always"}}}
	item := &contract.Part{ID: "item", Name: "item", Element: "li", Repeat: "list"}
	c := &contract.Contract{Format: contract.Format, Name: "Card", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Children: []*contract.Part{title, tag, item}},
		Props: []contract.Prop{{ID: "t", Name: "tone", Type: contract.Text{}}, {ID: "f", Name: "firm", Type: contract.Flag{}}, {ID: "words", Name: "title", Type: contract.Text{}}, {ID: "n", Name: "level", Type: contract.Number{}},
			{ID: "list", Name: "links", Type: contract.List{}}, {ID: "open", Name: "onOpen", Type: contract.Event{On: "onClick"}, Part: "root"}},
		Rules: []contract.Rule{
			{Part: "root", When: contract.Of(contract.InState{State: "hover"}, on("f")), Set: contract.Style{"opacity": "0.5", "color": "red"}},
			{Part: "root", When: contract.Of(on("f")), Set: contract.Style{"color": "blue"}},
			{Part: "title", When: contract.BelowWidth(400), Set: contract.Style{"display": "none"}},
		}}
	said := func(p *contract.Part) (out []string) {
		for _, in := range c.Influences(p) {
			out = append(out, in.By+": "+strings.Join(in.What, ", "))
		}
		return out
	}
	assert.Equal(t, []string{"firm: opacity, color", "onOpen: what is called on onClick", "state hover: opacity, color"}, said(c.Root))
	assert.Equal(t, []string{"tone: lang", "title: its text, whether it is there", "level: its level", "container < 400px: display"}, said(title))
	assert.Equal(t, []string{"tone: tone of CropTag", "firm: strong of CropTag"}, said(tag))
	assert.Equal(t, []string{"links: how many there are"}, said(item))
	assert.Equal(t, "t", c.Influences(tag)[0].Prop)
}
