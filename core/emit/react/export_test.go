package react

import (
	"cobrik/core/behaviour"
	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// Native gives tests the attributes React is taken to give elements.
func Native() map[string][]string { return native }

// EventNames gives what emitted code calls the events of a behaviour, and the ends of its times by state and place.
func EventNames(c *contract.Contract) (events map[behaviour.Event]string, times map[string]string, h Fields) {
	m := ir.Lower(c)
	w := writer{m: m, n: namesOf(m, assets{})}
	k := newHook(w, c)
	events, times = map[behaviour.Event]string{}, map[string]string{}
	for _, e := range k.does.Events {
		events[e] = k.eventName(e)
	}
	k.moves(func(m behaviour.Move) {
		if m.Timer() != "" {
			times[m.Timer()] = k.timerName(m)
		}
	})
	return events, times, Fields{k.regions, k.does}
}

// Fields are what emitted code calls the regions of a behaviour.
type Fields struct {
	Regions []string
	Flat    *behaviour.Flat
}
