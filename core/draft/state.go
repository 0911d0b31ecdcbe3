package draft

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// stateWords are the words that designs have for states (common practice, no source).
var stateWords = map[string][]string{
	"hover": {"hover", "hovered"}, "active": {"active", "pressed", "down"}, "focus-visible": {"focus", "focused", "focus-visible", "keyboard-focus"},
	"disabled": {"disabled", "inactive", "unavailable"}, "checked": {"checked"}, "selected": {"selected"}, "expanded": {"expanded", "open", "opened"}, "current": {"current"},
	"invalid": {"invalid", "error"}, "read-only": {"read-only", "readonly"}, "loading": {"loading", "busy"}, "empty": {"empty"},
}

// restWords are their words for being in none.
var restWords = []string{"default", "rest", "resting", "normal", "enabled", "idle", "regular", "base", "none"}

// StateWord gives the state that an axis's value stands for; empty for none.
func StateWord(value string) string {
	word := strings.Join(contract.Words(value), "-")
	for _, state := range contract.States {
		if slices.Contains(stateWords[state], word) {
			return state
		}
	}
	return ""
}

// IsStateAxis tells whether an axis draws states: its default is being in none, each of its
// other values is a state of its own, and one of them comes of what people do, or the axis is
// called one of states.
func IsStateAxis(a design.Axis) bool {
	named := slices.Contains(contract.Words(a.Name), "state") || slices.Contains(contract.Words(a.Name), "states")
	seen := map[string]bool{}
	for _, v := range a.Values {
		if v == a.Default {
			continue
		}
		state := StateWord(v)
		if state == "" || seen[state] {
			return false
		}
		seen[state] = true
		named = named || !slices.Contains(contract.DataStates, state)
	}
	return named && len(seen) > 0 && slices.Contains(restWords, strings.Join(contract.Words(a.Default), "-"))
}

// DrawsStates tells whether a contract has its states from an axis.
func DrawsStates(c *contract.Contract, axis string) bool {
	return slices.ContainsFunc(c.States, func(s contract.DrawnState) bool { return s.Axis == axis })
}

// AddState adds a state that an axis's value draws, and, where data sets it, the flag that
// does.
func AddState(c *contract.Contract, axis, value string) {
	state := StateWord(value)
	c.States = append(c.States, contract.DrawnState{State: state, Axis: axis, Value: value})
	if slices.Contains(contract.DataStates, state) && c.StateFlag(state) == nil {
		name := contract.Identifier(state, "state")
		id := contract.Free(name, "State", func(id string) bool { return c.Prop(id) != nil })
		c.Props = append(c.Props, contract.Prop{ID: id, Name: name, Type: contract.Flag{}})
	}
}
