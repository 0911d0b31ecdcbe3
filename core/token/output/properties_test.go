package output_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/token/output"
)

// An initial value may not depend on anything (CSS Properties and Values 1: computationally independent): no
// reference, and no rem, whatever the declarations say.
func TestRegisteredPropertiesBeginWithWhatStandsAlone(t *testing.T) {
	o := named(t, "css")
	o.Register, o.Lengths, o.Root = true, "rem", 10
	text := build(t, o, library(t, small))["tokens.css"]
	assert.Contains(t, text, "@property --pad {\n  syntax: \"<length>\";\n  inherits: true;\n  initial-value: 12.4px;\n}\n")
	assert.Contains(t, text, "@property --tag-ink-base-2 {\n  syntax: \"<length>\";\n  inherits: true;\n  initial-value: 15.3px;\n}\n")
	assert.Contains(t, text, "@property --ink {\n  syntax: \"<color>\";\n  inherits: true;\n  initial-value: #ff0000;\n}\n")
	assert.Contains(t, text, "  --pad: 1.24rem;\n")
	assert.NotContains(t, text, "@property --lift", "a shadow has no syntax to be registered with")
}

// A component may use any token, as a whole, also one that the project's own sheet leaves
// out or takes apart: it comes with the component.
func TestComponentsHaveEveryTokenWhole(t *testing.T) {
	o := named(t, "css")
	o.Prefix, o.Without, o.Composites = "fr", []string{"soil", "pad"}, "parts"
	l := library(t, small)
	p, found := output.NewProperties(o, l, l.Themes())
	require.Empty(t, found)
	assert.Equal(t, "--fr-lift", p.Property("lift"))
	assert.Equal(t, ":where(:root) {\n  --fr-pad: 12.4px;\n  --fr-lift: 0px var(--fr-pad) 4px 0px #000000;\n}\n", p.Sheet([]string{"lift"}))
	assert.Equal(t, ":where(:root) {\n  --fr-soil: #ff0000;\n  --fr-ink: var(--fr-soil);\n}\n", p.Sheet([]string{"ink"}))
}
