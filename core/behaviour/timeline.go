package behaviour

import (
	"cmp"
	"maps"
	"slices"

	"cobrik/core/contract"
)

// Happening is an event at a time.
type Happening struct {
	At    float64 `json:"at"` // ms since the machine began
	Event Event   `json:"event"`
	Data  any     `json:"data,omitempty"`

	Becomes contract.Value `json:"-"` // of a prop that changes
}

// Brick is how long a state lasted without a break, ms since the machine began.
type Brick struct {
	State string  `json:"state"`
	Depth int     `json:"depth"` // how many others it is in; the root is in none
	From  float64 `json:"from"`
	To    float64 `json:"to"`
}

// Course is what one instance of a machine went through.
type Course struct {
	Bricks []Brick  `json:"bricks"` // by when they begin, then as the machine has its states; what was left at once lasts for nothing and is not among them
	Told   []ToldAt `json:"told"`
	Values []Kept   `json:"values"` // what it keeps, whenever that changed, from its beginning on
	Ends   Config   `json:"ends"`
}

// Kept is what a machine keeps from a time on.
type Kept struct {
	At     float64        `json:"at"`
	Values map[string]any `json:"values"`
}

// ToldAt is something that was told, or went wrong, at a time.
type ToldAt struct {
	At float64 `json:"at"`
	Effect
}

// Timeline runs an instance through what happens to it, until so many ms since it began. Timers that are due when something happens fire before it.
func (c *Chart) Timeline(env contract.Env, happens []Happening, until float64) Course {
	out := Course{Bricks: []Brick{}, Told: []ToldAt{}, Values: []Kept{}}
	open := map[string]float64{}
	cfg, effects := c.Start(env)
	note := func(effects []Effect) {
		if n := len(out.Values) - 1; len(cfg.Values) > 0 && (n < 0 || !maps.Equal(out.Values[n].Values, cfg.Values)) {
			out.Values = append(out.Values, Kept{cfg.Now, maps.Clone(cfg.Values)})
		}
		for _, e := range effects {
			out.Told = append(out.Told, ToldAt{cfg.Now, e})
		}
		for _, n := range c.nodes {
			from, was := open[n.ID]
			switch is := cfg.In(n.ID); {
			case is && !was:
				open[n.ID] = cfg.Now
			case !is && was:
				delete(open, n.ID)
				if cfg.Now > from {
					out.Bricks = append(out.Bricks, Brick{n.ID, n.depth, from, cfg.Now})
				}
			}
		}
	}
	note(effects)
	fired := 0
	wait := func(until float64) {
		for len(cfg.Timers) > 0 && cfg.Timers[0].Due <= until && !cfg.Done && fired < mostFired {
			fired++
			cfg, effects = c.Advance(cfg, env, cfg.Timers[0].Due)
			note(effects)
		}
		cfg.Now = max(cfg.Now, until)
	}
	list := slices.Clone(happens)
	slices.SortStableFunc(list, func(a, b Happening) int { return cmp.Compare(a.At, b.At) })
	for _, h := range list {
		if h.At > until {
			break
		}
		wait(h.At)
		if h.Becomes != nil {
			env.Props = env.Props.With(contract.Values{h.Event.Name: h.Becomes})
		}
		cfg, effects = c.Step(cfg, env, h.Event, h.Data)
		note(effects)
	}
	wait(until)
	for _, n := range c.nodes {
		if from, was := open[n.ID]; was {
			out.Bricks = append(out.Bricks, Brick{n.ID, n.depth, from, cfg.Now})
		}
	}
	slices.SortStableFunc(out.Bricks, func(a, b Brick) int {
		return cmp.Or(cmp.Compare(a.From, b.From), c.byID[a.State].order-c.byID[b.State].order)
	})
	out.Ends = cfg
	return out
}
