package start_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/core/start"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func tokens(t *testing.T) map[string]*token.Set {
	t.Helper()
	_, demo := demotest.Furrow(t, 1)
	// Two colours that cannot be read on each other, and a scale of spaces in rem.
	odd, found := token.Read(token.File{Name: "odd", Text: []byte(`{"brand":{"$type":"color","background":{"$value":{"colorSpace":"srgb","components":[0.9,0.9,0.9]}},"text":{"$value":{"colorSpace":"srgb","components":[1,1,1]}}},
		"gap":{"$type":"dimension","s":{"$value":{"value":0.5,"unit":"rem"}},"l":{"$value":{"value":2,"unit":"rem"}}}}`)})
	require.Empty(t, found)
	return map[string]*token.Set{"the demo's": demo, "none": token.Empty(), "odd ones": odd}
}

// A start is a contract as any other, and a review finds nothing wrong with it: whatever the project's tokens.
func TestStartsAreClean(t *testing.T) {
	for name, set := range tokens(t) {
		seen := map[string]bool{}
		for _, s := range start.All(set) {
			c := s.Contract
			assert.False(t, seen[s.Key] || seen[c.Name], "%s is there twice", c.Name)
			seen[s.Key], seen[c.Name] = true, true
			read, found := contract.Read(c.Name, c.JSON(), set)
			require.NotNil(t, read, "%s with %s: %s", c.Name, name, found)
			assert.Empty(t, found, "%s with %s", c.Name, name)
			for _, f := range check.Contract(c, check.Options{Themes: []check.Theme{{Tokens: set}}, Fonts: font.Shipped()}) {
				assert.Fail(t, f.Message, "%s with %s: %s %s %s", c.Name, name, f.Severity, f.Rule, f.Pointer)
			}
			for _, p := range c.Props {
				assert.NotEmpty(t, p.Purpose, "%s of %s says nothing of what it is for", p.Name, c.Name)
				assert.NotEmpty(t, c.BoundTo(p.ID), "%s of %s does nothing", p.Name, c.Name)
			}
		}
		for _, key := range []string{"blank", "button", "tag", "card", "list-row", "field", "disclosure", "dialog", "menu", "page-shell"} {
			assert.True(t, seen[key], "there is no start %s", key)
		}
	}
}

// With tokens to choose from, what a start says of room and colour are references to them.
func TestStartsStandOnTheTokens(t *testing.T) {
	all := tokens(t)
	refs := func(set *token.Set, key string) []string {
		for _, s := range start.All(set) {
			if s.Key == key {
				return s.Contract.Tokens()
			}
		}
		return nil
	}
	assert.Contains(t, refs(all["the demo's"], "card"), "page.ground")
	assert.Contains(t, refs(all["the demo's"], "card"), "space.4", "16px are a step of the scale")
	assert.Contains(t, refs(all["the demo's"], "button"), "button.firm.ground")
	assert.Empty(t, refs(all["none"], "card"))
	assert.Equal(t, []string{"gap.s"}, refs(all["odd ones"], "tag"), "colours that cannot be read on each other are no pair")
}
