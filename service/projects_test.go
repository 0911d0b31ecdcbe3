package service_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cobrik/core/contract"
	"cobrik/core/font"
	"cobrik/demo"
	"cobrik/demo/demotest"
	"cobrik/service"
	"cobrik/standin"
	"cobrik/store/storetest"
)

// Two projects may have documents, tokens and components of the same names: what is remembered
// of one is never shown for the other.
func TestProjectsDoNotMix(t *testing.T) {
	db, scope := storetest.Database(t)
	_, err := db.AddProject(t.Context(), "Second", "second", scope.Actor)
	require.NoError(t, err)
	projects := service.NewProjects(db, scope.Actor, service.Hosts{}, font.Shipped())
	first, err := projects.First(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "untitled", first)
	_, err = projects.At(t.Context(), "nobodys")
	var failure *service.Failure
	require.ErrorAs(t, err, &failure)
	assert.Equal(t, service.NotFound, failure.Kind)

	padding := map[string]string{}
	for i, address := range []string{"untitled", "second"} {
		s, err := projects.At(t.Context(), address)
		require.NoError(t, err)
		again, err := projects.At(t.Context(), address)
		require.NoError(t, err)
		assert.Same(t, s, again, "what is remembered is thrown away")
		// The same document, at another revision, as the first in each.
		require.NoError(t, s.Seed(t.Context(), "Project "+address, map[string][]byte{"furrow.design.json": demo.Revisions()[i]}, standin.ETag, demotest.TokenFiles()))
		_, err = s.Draft(t.Context(), "furrow", "crop-tag")
		require.NoError(t, err)
	}
	for _, address := range []string{"project-untitled", "project-second"} { // a project's address is of its name
		s, err := projects.At(t.Context(), address)
		require.NoError(t, err)
		values, err := s.ValuesOf(t.Context(), "crop-tag", "root", "padding-inline")
		require.NoError(t, err)
		padding[address] = values.Declared[0].Value
		built, err := projects.Build(t.Context(), address, "crop-tag", service.Wanted{})
		require.NoError(t, err)
		assert.Empty(t, built.Problems)
	}
	assert.Equal(t, map[string]string{"project-untitled": "{space.2}", "project-second": "{space.3}"}, padding)
}

// A component drawn in states is shown in each, and a state's rule is edited as any other.
func TestAComponentInStates(t *testing.T) {
	s := service.New(storetest.Open(t), service.Hosts{}, font.Shipped())
	require.NoError(t, s.Seed(t.Context(), demo.Project, map[string][]byte{"furrow.design.json": demo.Revisions()[0]}, standin.ETag, demotest.TokenFiles()))
	_, err := s.Draft(t.Context(), "furrow", "action-button")
	require.NoError(t, err)
	bench, err := s.Bench(t.Context(), "action-button", "")
	require.NoError(t, err)
	require.Len(t, bench.Cases, 30)
	states, kinds := map[string]int{}, map[string]string{}
	for _, k := range bench.Cases {
		state := ""
		if len(k.States) > 0 {
			state = k.States[0]
		}
		states[state]++
		assert.Equal(t, state == "disabled", k.Props["disabled"] == contract.FlagValue(true), k.Name)
	}
	assert.Equal(t, map[string]int{"": 6, "hover": 6, "active": 6, "focus-visible": 6, "disabled": 6}, states)
	for _, p := range bench.Props {
		kinds[p.Name] = p.Control
	}
	assert.Equal(t, map[string]string{"emphasis": "options", "size": "options", "disabled": "switch", "label": "text"}, kinds)

	hover := contract.Of(contract.InState{State: "hover"}).Key()
	_, err = s.Edit(t.Context(), "action-button", bench.Revision, []service.ValueEdit{{Part: "root", Property: "background-color", When: hover, Value: "#123456"}})
	require.NoError(t, err)
	values, err := s.ValuesOf(t.Context(), "action-button", "root", "background-color")
	require.NoError(t, err)
	found := false
	for _, d := range values.Declared {
		if d.When == hover {
			found = true
			assert.Equal(t, "#123456", d.Value)
			assert.Equal(t, "state hover", d.Label)
		}
	}
	assert.True(t, found)
	built, err := s.Build(t.Context(), "action-button")
	require.NoError(t, err)
	assert.Regexp(t, `:is\(:hover,\s*\[data-states~=.?hover.?\]\)`, built.Bundle.CSS)
}
