package story_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/demo"
	"cobrik/demo/demotest"
)

// The demo shows all that a survey can say: when this fails, some of it is to be seen nowhere.
func TestTheDemosPagesHaveEveryKindOfFindAndDoubt(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	_, text := demo.Signs()
	signs, err := design.Decode(text)
	require.NoError(t, err)
	kinds, props, doubts := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, d := range []*design.Document{doc, signs} {
		r := survey.Read(d, survey.Options{Tokens: tokens})
		for _, f := range r.Finds {
			kinds[f.Kind] = true
			for _, p := range f.Props {
				props[p.Kind] = true
			}
		}
		for _, one := range r.Doubts {
			doubts[one.Rule] = true
		}
	}
	for _, kind := range []string{survey.Repeat, survey.List, survey.Copies} {
		assert.True(t, kinds[kind], kind)
	}
	for _, kind := range []contract.Kind{contract.TextKind, contract.RichKind, contract.NumberKind, contract.FlagKind, contract.ChoiceKind, contract.ImageKind, contract.IconKind, contract.LinkKind, contract.SlotKind, contract.ListKind} {
		assert.True(t, props[string(kind)], "no prop is a %s", kind)
	}
	for _, rule := range survey.DoubtRules {
		assert.True(t, doubts[rule.ID], "%s", rule.Title)
	}
}

// Every find on the demo's pages is drafted whole: its contract is valid, and of its copies nothing is left out but how long a chart's bars are.
func TestEveryFindOfTheDemoIsDrafted(t *testing.T) {
	doc, tokens := demotest.Furrow(t, 3)
	_, components := demotest.Families(t, doc, tokens)
	var drafted []string
	for _, f := range survey.Read(doc, survey.Options{Tokens: tokens}).Finds {
		model, ok := f.Model(nil)
		if !ok {
			continue
		}
		c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, tokens, font.Shipped(), components)
		require.NotNil(t, c, "%s: %s", f.Name, found)
		for _, note := range f.Extend(doc, c, model.ID, survey.Wish{}) {
			assert.Equal(t, "bar stays as long as it is drawn: no prop says a length.", note, f.Name)
		}
		assert.Empty(t, c.Check(tokens), f.Name)
		drafted = append(drafted, f.Name)
		if f.Name == "Stall" {
			var has []string
			for _, p := range c.Props {
				has = append(has, string(p.Kind()))
			}
			for _, kind := range []contract.Kind{contract.ImageKind, contract.TextKind, contract.RichKind, contract.LinkKind, contract.SlotKind} {
				assert.True(t, slices.Contains(has, string(kind)), "Stall has no %s: %v", kind, has)
			}
		}
	}
	assert.Subset(t, drafted, []string{"Stall", "ProgrammeRow", "TaskCard", "TopBar", "PlotCard"})
}
