package check

import (
	"fmt"

	"cobrik/core/behaviour"
	"cobrik/core/problem"
)

// Scenario is the rule that scenarios hold.
const Scenario = "scenario"

// scenarios replays what people recorded of the component.
func (k *checker) scenarios() {
	for i, s := range k.c.Scenarios {
		for _, m := range behaviour.Replay(k.c, s, nil) {
			at := fmt.Sprintf("/scenarios/%d/steps/%d", i, m.Step)
			if m.Expect >= 0 {
				at += fmt.Sprintf("/expects/%d", m.Expect)
			}
			k.say(problem.Error, Scenario, at, "", nil, "mend the behaviour, or record the scenario again", "the scenario %s, step %d: %s", s.Name, m.Step+1, m.Says)
		}
	}
}
