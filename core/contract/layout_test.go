package contract_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// Every property a contract may hold can be laid out: what only paints is passed over in
// silence, and nothing is taken for a mistake.
func TestEveryPropertyIsKnownToTheSolver(t *testing.T) {
	values := map[string]string{
		"inset": "1px 2px", "flex": "1 1 0%", "grid-area": "1 / 1", "grid-template-columns": "1fr 2fr", "aspect-ratio": "3 / 2", "border-style": "solid", "outline": "1px solid red",
		"box-shadow": "0 1px 2px red", "rotate": "4deg", "transform": "translate(1px, 2px)", "font-family": `"Hanken Grotesk", sans-serif`, "transition": "opacity 1s", "cursor": "pointer",
	}
	for _, property := range css.PropertyNames() {
		value := values[property]
		if value == "" {
			value = css.InitialText(property)
		}
		require.NoError(t, contract.CheckValue(property, value, nil), property)
		c := &contract.Contract{Format: contract.Format, Name: "One", Root: &contract.Part{ID: "root", Name: "root", Element: "div", Style: contract.Style{property: value},
			Children: []*contract.Part{{ID: "inner", Name: "inner", Element: "div", Style: contract.Style{property: value}}}}}
		solved, found := layout.Solve(c.Boxes(contract.Env{}, token.Empty()), layout.Options{Width: 300})
		assert.NotNil(t, solved, "%s: %s: %s", property, value, found)
		assert.Empty(t, found, "%s: %s", property, value)
	}
}
