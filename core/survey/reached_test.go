package survey_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/draft"
	"cobrik/core/font"
	"cobrik/core/survey"
	"cobrik/core/token"
)

// Who looks at a long reading sees it go on, and is done with it at once when they stop it, wherever it is.
func TestAReadingSaysHowFarItIsAndEndsWhenAsked(t *testing.T) {
	doc := makeDocument(3, 4, noise{rename: true, optional: true}).doc
	var steps []survey.Step
	want := survey.Read(doc, survey.Options{})
	got, all := survey.ReadOn(doc, survey.Options{Reached: func(s survey.Step) bool { steps = append(steps, s); return true }})
	require.True(t, all)
	assert.Equal(t, len(want.Finds), len(got.Finds), "what is watched reads otherwise")
	names := map[string]bool{}
	for i, s := range steps {
		names[s.Name] = true
		assert.True(t, s.Share >= 0 && s.Share <= 1, s)
		if i > 0 {
			assert.GreaterOrEqual(t, s.Share, steps[i-1].Share, "it goes back")
		}
	}
	assert.Len(t, names, 4)
	for at := range steps {
		count := 0
		ended, all := survey.ReadOn(doc, survey.Options{Reached: func(survey.Step) bool { count++; return count <= at }})
		assert.False(t, all, "it went on after %+v", steps[at])
		assert.Empty(t, ended)
		assert.Equal(t, at+1, count, "it was asked again after it was to end")
	}
}

// What a program keeps of a reading is all that the next needs to draft from it.
func TestAReadingIsKeptWhole(t *testing.T) {
	drafted := 0
	for seed := range uint64(6) {
		doc := makeDocument(seed, 4, noise{rename: true, optional: true, recolor: true}).doc
		read := survey.Read(doc, survey.Options{})
		text, err := json.Marshal(read)
		require.NoError(t, err)
		var kept survey.Reading
		require.NoError(t, json.Unmarshal(text, &kept))
		again, err := json.Marshal(kept)
		require.NoError(t, err)
		require.JSONEq(t, string(text), string(again))
		require.Len(t, kept.Finds, len(read.Finds))
		for i := range read.Finds {
			made := func(f survey.Find) string {
				model, ok := f.Model(nil)
				if !ok {
					return ""
				}
				c, _, found := draft.Of(doc, model.Origin(doc.ID, 1), f.Name, token.Empty(), font.Shipped(), nil)
				require.NotNil(t, c, found)
				f.Extend(doc, c, model.ID, survey.Wish{})
				drafted++
				return string(c.JSON())
			}
			assert.Equal(t, made(read.Finds[i]), made(kept.Finds[i]))
			for j, p := range read.Finds[i].Props {
				assert.Equal(t, p.Kinds(), kept.Finds[i].Props[j].Kinds())
			}
		}
	}
	assert.Greater(t, drafted, 20)
}

// A reading depends on what components are made of, not on what they look like: an edit of a colour begins none.
func TestWhatAReadingAsksOfComponents(t *testing.T) {
	named := func(change func(c *contract.Contract)) string {
		c := &contract.Contract{Name: "Tag", Root: &contract.Part{ID: "root", Name: "root", Children: []*contract.Part{{ID: "label", Name: "label", Content: contract.FixedText{Text: "Sown"}}}}}
		change(c)
		return survey.Known{Contracts: []*contract.Contract{c}}.Key()
	}
	plain := named(func(*contract.Contract) {})
	assert.Equal(t, plain, named(func(c *contract.Contract) { c.Root.Style = contract.Style{"color": "red"} }))
	for what, change := range map[string]func(c *contract.Contract){
		"name":      func(c *contract.Contract) { c.Name = "Label" },
		"structure": func(c *contract.Contract) { c.Root.Children = append(c.Root.Children, c.Root.Children[0]) },
		"box": func(c *contract.Contract) {
			c.Root.Children = append(c.Root.Children, &contract.Part{ID: "line", Name: "line"})
		},
		"family": func(c *contract.Contract) { c.Origin = &contract.Origin{Family: "tag"} },
		"uses":   func(c *contract.Contract) { c.Root.Children[0].Content = &contract.Use{Component: "Icon"} },
	} {
		assert.NotEqual(t, plain, named(change), what)
	}
}
