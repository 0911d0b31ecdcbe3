package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/problem"
)

// Scenario is what happens to a component one after the other, and what is expected of it meanwhile. Package behaviour replays it.
type Scenario struct {
	Name  string                     `json:"name"`
	Given map[string]json.RawMessage `json:"given,omitempty"` // as of a SavedCase
	Steps []ScenarioStep             `json:"steps"`
}

// ScenarioStep is some time that goes by, then something that happens, then what is expected; each of them may be left out.
type ScenarioStep struct {
	After   float64    `json:"after,omitempty"` // ms
	Token   string     `json:"token,omitempty"` // of the duration that After is
	Happens *Happening `json:"happens,omitempty"`
	Expects []Expected `json:"expects,omitempty"`
}

// Happening is an event of a behaviour, with what it brings.
type Happening struct {
	Kind  string          `json:"kind"`
	Name  string          `json:"name,omitempty"`  // of a key, or the id of a prop that changes
	Part  string          `json:"part,omitempty"`  // id
	Value json.RawMessage `json:"value,omitempty"` // what a prop becomes, or where to something is dragged, from 0 to 1
}

// Expected is what somebody would see: of a part, by its id, that it is hidden, shown or focused, its text, an attribute or a share of what is around it; of no part, that something is told.
type Expected struct {
	Part  string `json:"part,omitempty"`
	Is    string `json:"is"`
	Value string `json:"value,omitempty"` // of a text, an attribute or a share; of what is told what with, as JSON, and nothing where that does not matter
}

// What is expected of a part beside its text, its attributes and its shares; and of no part.
const (
	IsHidden  = "hidden"
	IsShown   = "shown"
	IsFocused = "focused"
	IsTold    = "told" // with the event's name before the value: "onToggle true"
)

// clone gives a copy that shares nothing but texts.
func (s Scenario) clone() Scenario {
	s.Given = maps.Clone(s.Given)
	s.Steps = slices.Clone(s.Steps)
	for i := range s.Steps {
		step := &s.Steps[i]
		step.Expects = slices.Clone(step.Expects)
		if step.Happens != nil {
			happens := *step.Happens
			step.Happens = &happens
		}
	}
	return s
}

// KeepScenario keeps a scenario by its name; one of that name is replaced.
func (c *Contract) KeepScenario(s Scenario) {
	if i := slices.IndexFunc(c.Scenarios, func(o Scenario) bool { return o.Name == s.Name }); i >= 0 {
		c.Scenarios[i] = s
		return
	}
	c.Scenarios = append(c.Scenarios, s)
}

// checkScenarios looks at names and values alone: whether what they speak of is there is said where they are replayed.
func checkScenarios(c *Contract, found *problem.List) {
	names := map[string]bool{}
	for i, s := range c.Scenarios {
		at := fmt.Sprintf("/scenarios/%d", i)
		if s.Name == "" || names[s.Name] {
			found.Errorf("scenario-name", at+"/name", "give each scenario its own name", "a scenario is called %q, as another is, or nothing", s.Name)
		}
		names[s.Name] = true
		checkGiven(c, "scenario", s.Name, at, s.Given, found)
	}
}
