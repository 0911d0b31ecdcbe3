package contract

import (
	"maps"
	"slices"

	"cobrik/core/css"
)

// Style maps CSS property names to CSS values with {token.path} references.
type Style map[string]string

// Properties lists a style's properties in the order style sheets show them.
func (s Style) Properties() []string {
	return slices.SortedFunc(maps.Keys(s), css.CompareProperties)
}
