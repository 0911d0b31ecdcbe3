package contract_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/demo/demotest"
)

func TestRenamedTokensAreFollowed(t *testing.T) {
	c := &contract.Contract{Name: "X", Root: &contract.Part{Name: "root", Style: contract.Style{"gap": "{space.1}", "padding-inline": "{space.1} {space.10}"},
		Children: []*contract.Part{{Name: "label", Style: contract.Style{"color": "{spaces}"}}}},
		Rules: []contract.Rule{{Part: "label", Set: contract.Style{"color": "{ink.space.1}"}}}}
	before := len(c.ValueSites())
	assert.Equal(t, 2, c.RenameToken("space.1", "gap.small"))
	assert.Equal(t, contract.Style{"gap": "{gap.small}", "padding-inline": "{gap.small} {space.10}"}, c.Root.Style)
	assert.Equal(t, 1, c.RenameToken("space", "room"), "a group takes its tokens along, and no other name that begins alike")
	assert.Equal(t, "{gap.small} {room.10}", c.Root.Style["padding-inline"])
	assert.Equal(t, "{spaces}", c.Root.Children[0].Style["color"])
	assert.Equal(t, "{ink.space.1}", c.Rules[0].Set["color"])
	assert.Len(t, c.ValueSites(), before)
}

// The index of tokens by value says what comparing each token would say.
func TestTokensByValueAreThoseThatCompareEqual(t *testing.T) {
	_, tokens := demotest.Furrow(t, 1)
	for property, kind := range map[string]string{"background-color": "color", "gap": "dimension", "font-size": "dimension", "font-weight": "fontWeight", "font-family": "fontFamily", "opacity": "number"} {
		for _, one := range tokens.All() {
			if one.Type != kind {
				continue
			}
			value := css.CanonicalText(property, one.Value, 0)
			var want []string
			for _, other := range tokens.All() {
				if other.Type == kind && css.CanonicalText(property, other.Value, 0) == value {
					want = append(want, other.Path)
				}
			}
			var got []string
			for _, other := range tokens.WithValue(kind, value) {
				got = append(got, other.Path)
			}
			assert.Equal(t, want, got, "%s of %s", property, one.Path)
		}
	}
}
