package service

import (
	"context"
	"slices"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/store"
)

// ScenarioView is a scenario in words, replayed.
type ScenarioView struct {
	Name     string     `json:"name"`
	Given    []string   `json:"given" doc:"What it is given beside what the component is looked at with"`
	Steps    []StepView `json:"steps"`
	Holds    bool       `json:"holds"`
	Instance Instance   `json:"instance" doc:"As it is laid on the time line"`
	Ends     float64    `json:"ends" doc:"ms"`
}

// StepView is a step in words.
type StepView struct {
	After   string       `json:"after,omitempty"`
	Happens string       `json:"happens,omitempty"`
	Missed  string       `json:"missed,omitempty" doc:"Why it cannot happen"`
	Expects []ExpectView `json:"expects"`
}

// ExpectView is something that is expected.
type ExpectView struct {
	Says   string `json:"says"`
	Missed string `json:"missed,omitempty" doc:"What is so instead"`
}

func scenarioView(c *contract.Contract, s contract.Scenario) ScenarioView {
	out := ScenarioView{Name: s.Name, Given: []string{}, Steps: []StepView{}}
	for _, p := range c.Props {
		if value, given := s.Given[p.ID]; given {
			out.Given = append(out.Given, p.Name+" "+strings.Trim(string(value), `"`))
		}
	}
	missed := behaviour.Replay(c, s, nil)
	out.Holds = len(missed) == 0
	for i, step := range s.Steps {
		one := StepView{Expects: []ExpectView{}}
		after, happens, expects := behaviour.StepWords(c, step)
		one.After, one.Happens = after, happens
		for _, says := range expects {
			one.Expects = append(one.Expects, ExpectView{Says: says})
		}
		for _, m := range missed {
			switch {
			case m.Step != i:
			case m.Expect < 0:
				one.Missed = m.Says
			default:
				one.Expects[m.Expect].Missed = m.Says
			}
		}
		out.Steps = append(out.Steps, one)
	}
	moments, ends := behaviour.Laid(c, s)
	out.Ends = ends
	out.Instance = Instance{Scenario: s.Name, Happens: []Happens{}}
	for _, m := range moments {
		out.Instance.Happens = append(out.Instance.Happens, Happens{At: m.At, Event: m.Event, Value: m.Data, Expect: m.Expect})
	}
	return out
}

// Seen lists what can be expected of a part of an instance at a time, by its id, and of what it told.
func (s *Service) Seen(ctx context.Context, slug string, one Instance, at float64, part string) ([]SeenView, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return nil, err
	}
	given, moments := w.instance(one)
	moments = slices.DeleteFunc(moments, func(m behaviour.Moment) bool { return m.At > at })
	moments = append(moments, behaviour.Moment{Happening: behaviour.Happening{At: at}, Expect: &contract.Expected{}})
	out := []SeenView{}
	_, err = behaviour.Record(w.contract, "", given, moments, func(i int, x *behaviour.Scene) {
		if i == len(moments)-1 {
			for _, e := range append(x.Seen(part), x.Seen("")...) {
				out = append(out, SeenView{e, behaviour.ExpectedWords(w.contract, e)})
			}
		}
	})
	if err != nil {
		return nil, invalid(nil, "%s", sentence(err.Error()))
	}
	return out, nil
}

// SeenView is something that can be expected, in words.
type SeenView struct {
	Expect contract.Expected `json:"expect"`
	Says   string            `json:"says"`
}

const mostScenarios = 200 // of a contract, as its format has it

// KeepScenario keeps what happened to an instance, and what was expected of it, by a name; a scenario of that name is replaced.
func (s *Service) KeepScenario(ctx context.Context, slug string, revision int, name string, one Instance) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	if name = strings.TrimSpace(name); name == "" {
		return Edited{}, invalid(nil, "Give the scenario a name.")
	}
	given, moments := w.instance(one)
	scenario, err := behaviour.Record(w.contract, name, given, moments, nil)
	if err != nil {
		return Edited{}, invalid(nil, "%s", sentence(err.Error()))
	}
	if len(scenario.Steps) == 0 {
		return Edited{}, invalid(nil, "Nothing happens in it, and nothing is expected.")
	}
	c := w.contract.Clone()
	if c.KeepScenario(scenario); len(c.Scenarios) > mostScenarios {
		return Edited{}, invalid(nil, "It has %d scenarios already.", mostScenarios)
	}
	return s.behaved(ctx, w, c, revision, "scenario "+name)
}

// DropScenario takes a scenario out of a contract.
func (s *Service) DropScenario(ctx context.Context, slug string, revision int, name string) (Edited, error) {
	w, err := s.component(ctx, slug)
	if err != nil {
		return Edited{}, err
	}
	c := w.contract.Clone()
	c.Scenarios = slices.DeleteFunc(c.Scenarios, func(o contract.Scenario) bool { return o.Name == name })
	if len(c.Scenarios) == len(w.contract.Scenarios) {
		return Edited{}, notFound("There is no scenario %q.", name)
	}
	return s.apply(ctx, w, c, store.Edit{Slug: slug, Read: revision, Note: "scenario " + name + " removed"})
}
