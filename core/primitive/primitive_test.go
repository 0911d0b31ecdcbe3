package primitive_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/check"
	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/font"
	"cobrik/core/layout"
	"cobrik/core/primitive"
	"cobrik/core/token"
	"cobrik/demo/demotest"
)

func everyCase(c *contract.Contract) []contract.Values {
	out := []contract.Values{c.Defaults()}
	for _, p := range c.Props {
		var next []contract.Values
		for _, v := range out {
			for _, one := range p.Type.Nameable() {
				next = append(next, v.With(contract.Values{p.ID: one}))
			}
		}
		if len(next) > 0 {
			out = next
		}
	}
	return out
}

// Every primitive is a contract that a review passes, and reads back; gaps are the project's tokens,
// smallest first.
func TestPrimitivesAreContracts(t *testing.T) {
	_, tokens := demotest.Furrow(t, 3)
	all := primitive.Contracts(tokens)
	require.Len(t, all, len(layout.Primitives))
	for _, c := range all {
		require.Empty(t, c.Check(tokens), c.Name)
		again, found := contract.Read("c", c.JSON(), tokens)
		require.NotNil(t, again, found)
		for _, f := range check.Contract(c, check.Options{Themes: []check.Theme{{Tokens: tokens}}, Fonts: font.Shipped()}) {
			t.Errorf("%s: %s: %s", c.Name, f.Rule, f.Message)
		}
	}
	gap := primitive.Named("Stack", tokens).Prop("gap").Options()
	assert.Equal(t, []string{"none", "half", "1", "1-half", "2"}, gap[:5])
	assert.Nil(t, primitive.Named("Shelf", tokens))
}

// In every case of its choices a primitive says of itself and of what it holds what the layout
// primitive of its name says (docs/layout.md).
func TestPrimitivesLayOutAsTheySay(t *testing.T) {
	tokens, _ := token.Read(token.File{Name: "t", Text: []byte(`{"spacing": {"$type": "dimension", "lg": {"$value": {"value": 1.5, "unit": "rem"}}, "sm": {"$value": {"value": 8, "unit": "px"}}, "none": {"$value": {"value": 0, "unit": "px"}}},
		"radius": {"$type": "dimension", "a": {"$value": {"value": 1, "unit": "px"}}, "b": {"$value": {"value": 2, "unit": "px"}}, "c": {"$value": {"value": 3, "unit": "px"}}}}`)})
	assert.Equal(t, []string{"none", "sm", "lg"}, primitive.Named("Row", tokens).Prop("gap").Options(), "smallest first, from the group that is named so")
	spaces := map[string]string{"none": "0px", "sm": "8px", "lg": "24px"}
	values := map[string]map[string]string{
		"minimum": {"none": "", "narrow": "12rem", "medium": "16rem", "wide": "24rem"}, "maximum": {"narrow": "40rem", "medium": "64rem", "wide": "80rem"}, "gap": spaces, "padding": spaces, "offset": spaces,
		"shares": {"equal": ""}, "size": {"rest": "", "sm": "8px", "lg": "24px"}, "wrap": {"true": "yes", "false": "no"},
	}
	cases := 0
	for i, c := range primitive.Contracts(tokens) {
		for _, v := range everyCase(c) {
			cases++
			said := map[string]string{}
			for _, p := range layout.Primitives[i].Props {
				option := v[p.Name].String()
				said[p.Name] = option
				if as, ok := values[p.Name][option]; ok {
					said[p.Name] = as
				}
			}
			for _, shares := range layout.Shares {
				if contract.OptionOf(shares) == said["shares"] {
					said["shares"] = shares
				}
			}
			want, err := layout.Compose(layout.Primitives[i].Name, said, &layout.Node{}, &layout.Node{})
			require.NoError(t, err)
			tree := contract.Resolve(c, contract.EnvOf(v), tokens)
			assertSays(t, fmt.Sprint(c.Name, said), want.Style, tree)
			if c.Name == "Overlay" {
				assertSays(t, fmt.Sprint(c.Name, said, " below"), want.Children[0].Style, tree.Children[0])
				assertSays(t, fmt.Sprint(c.Name, said, " above"), want.Children[1].Style, tree.Children[1])
			}
		}
	}
	assert.Greater(t, cases, 200)
}

func assertSays(t *testing.T, what string, want layout.Style, r *contract.Resolved) {
	t.Helper()
	expected, got := map[string]string{}, map[string]string{}
	for property, value := range want {
		names := []string{property}
		if property == "place-self" {
			names = []string{"align-self", "justify-self"}
		}
		for _, name := range names {
			known, ok := css.PropertyNamed(name)
			require.True(t, ok, name)
			if v := css.CanonicalText(name, value, 16); v != known.Initial {
				expected[name] = v
			}
		}
	}
	for property, v := range r.Values {
		known, _ := css.PropertyNamed(property)
		if text := css.CanonicalText(property, v.Value, 16); v.Part == r.Part.ID && text != known.Initial {
			got[property] = text
		}
	}
	assert.Equal(t, expected, got, "%s: %v", what, slices.Sorted(maps.Keys(got)))
}
