package behaviour

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/contract"
)

// Config is all there is to know of a machine that runs. It is a value: steps give another.
type Config struct {
	Active  []string            `json:"active"` // ids in document order
	Values  map[string]any      `json:"values,omitempty"`
	History map[string][]string `json:"history,omitempty"`
	Timers  []Timer             `json:"timers,omitempty"` // the next first
	Now     float64             `json:"now"`              // ms since it began
	Focus   string              `json:"focus,omitempty"`  // id of the part that was given the focus last
	Done    bool                `json:"done,omitempty"`   // it is in a final state of its root
}

// Timer is a transition that waits for its time.
type Timer struct {
	State string  `json:"state"`
	Index int     `json:"index"` // of the transition among its state's
	Due   float64 `json:"due"`   // ms since the machine began
}

// Effect is what a step did beside the machine.
type Effect struct {
	Tell  string `json:"tell,omitempty"` // an event of the component
	With  any    `json:"with,omitempty"`
	Error string `json:"error,omitempty"` // an expression that cannot be worked out, or steps without end
}

// In tells whether a state is active.
func (c Config) In(state string) bool { return slices.Contains(c.Active, state) }

// run is one step under way.
type run struct {
	*Chart
	cfg     Config
	env     contract.Env
	data    any
	active  map[*node]bool
	queue   []Event // raised
	effects []Effect
	taken   []*edge // transitions, for who explores
	tried   func(e *edge, held bool)
	endless bool // it was broken off
}

func (c *Chart) begin(cfg Config, env contract.Env) *run {
	r := &run{Chart: c, cfg: cfg, env: env, active: map[*node]bool{}}
	r.cfg.Values, r.cfg.History, r.cfg.Timers = maps.Clone(cfg.Values), maps.Clone(cfg.History), slices.Clone(cfg.Timers)
	for _, id := range cfg.Active {
		r.active[c.byID[id]] = true
	}
	return r
}

func (r *run) end() (Config, []Effect) {
	r.cfg.Active = nil
	for _, n := range r.nodes {
		if r.active[n] {
			r.cfg.Active = append(r.cfg.Active, n.ID)
		}
	}
	slices.SortStableFunc(r.cfg.Timers, func(a, b Timer) int {
		return cmp.Or(cmp.Compare(a.Due, b.Due), r.byID[a.State].order-r.byID[b.State].order, a.Index-b.Index)
	})
	return r.cfg, r.effects
}

// Start enters a machine's initial states.
func (c *Chart) Start(env contract.Env) (Config, []Effect) {
	r := c.begin(Config{Values: map[string]any{}, History: map[string][]string{}}, env)
	r.start()
	return r.end()
}

// beginning lists the states that the machine begins in: the one that a prop says, where it says one.
func (r *run) beginning() []*node {
	if n := r.byID[StateOf(r.Machine.Given, r.env.Props[r.Machine.Given])]; r.Machine.Given != "" && n != nil && n != r.root && n.Kind != History && n.Kind != DeepHistory {
		return []*node{n}
	}
	return r.initial(r.root)
}

// values lets the machine keep what it begins with: a prop's value where one of the kind is given.
func (r *run) values() {
	for _, v := range r.Machine.Values {
		r.cfg.Values[v.Name] = v.Initial
		if given, ok := valueOf(r.env.Props[v.Prop]); ok && fmt.Sprintf("%T", given) == fmt.Sprintf("%T", v.Initial) {
			r.cfg.Values[v.Name] = given
		}
	}
}

// Stand gives a machine in states of it that nobody led it to: where it begins, but there. Of states that exclude each other the first counts; nothing is done on entry
// but what values begin with, and times begin.
func (c *Chart) Stand(env contract.Env, states []string) Config {
	r := c.begin(Config{Values: map[string]any{}, History: map[string][]string{}}, env)
	r.values()
	entered := map[*node]bool{c.root: true}
	for _, id := range states {
		n := c.byID[id]
		if n == nil || n == c.root || n.Kind == History || n.Kind == DeepHistory || r.excluded(n, entered) {
			continue
		}
		for ; n != nil; n = n.parent {
			entered[n] = true
		}
	}
	for _, n := range r.nodes { // what is inside, where nobody asked for any of it
		for _, child := range n.children {
			if entered[n] && n.Kind == Parallel && !entered[child] {
				r.withDescendants(child, entered)
			}
		}
		if entered[n] && n.compound() && !slices.ContainsFunc(n.children, func(c *node) bool { return entered[c] }) {
			r.withDescendants(n, entered)
		}
	}
	for _, n := range r.nodes {
		if entered[n] {
			r.active[n] = true
			r.begins(n)
		}
	}
	cfg, _ := r.end()
	return cfg
}

// excluded tells whether a state cannot be active beside those that are entered.
func (r *run) excluded(n *node, entered map[*node]bool) bool {
	for at := n; at.parent != nil; at = at.parent {
		if at.parent.Kind == Parallel {
			continue
		}
		for _, other := range at.parent.children {
			if other != at && entered[other] {
				return true
			}
		}
	}
	return false
}

func (r *run) start() {
	r.values()
	r.active[r.root] = true
	entered := map[*node]bool{}
	if r.root.Kind == Parallel {
		r.withChildren(r.root, entered)
	} else if len(r.root.children) > 0 {
		for _, n := range r.beginning() {
			r.withDescendants(n, entered)
			r.withAncestors(n, r.root, entered)
		}
	}
	r.entry(r.root)
	r.enter(entered)
	r.settle()
}

// Step lets something happen to a machine: an event with what it brings (nil, a number, a text or a flag).
func (c *Chart) Step(cfg Config, env contract.Env, e Event, data any) (Config, []Effect) {
	r := c.begin(cfg, env)
	r.step(func(t *edge) bool { return !t.eventless() && !t.timed() && t.Event.Stands(e) }, data)
	return r.end()
}

func (r *run) step(asked func(t *edge) bool, data any) {
	if r.cfg.Done {
		return
	}
	r.data = data
	r.microstep(r.selected(asked))
	r.settle()
}

// mostFired bounds how many timers fire in one go.
const mostFired = 10_000

// Advance lets time go by, up to so many ms since the machine began: timers that are due fire in their order.
func (c *Chart) Advance(cfg Config, env contract.Env, until float64) (Config, []Effect) {
	var all []Effect
	for fired := 0; len(cfg.Timers) > 0 && cfg.Timers[0].Due <= until && !cfg.Done; fired++ {
		if fired >= mostFired {
			all = append(all, Effect{Error: fmt.Sprintf("%d timers fired, and there are more", mostFired)})
			break
		}
		r := c.begin(cfg, env)
		r.due(cfg.Timers[0])
		var effects []Effect
		cfg, effects = r.end()
		if all = append(all, effects...); r.endless {
			break
		}
	}
	cfg.Now = max(cfg.Now, until)
	return cfg, all
}

// due lets a timer's time come.
func (r *run) due(t Timer) {
	r.cfg.Now = max(r.cfg.Now, t.Due)
	r.cfg.Timers = slices.DeleteFunc(r.cfg.Timers, func(o Timer) bool { return o == t })
	r.step(func(e *edge) bool { return e.source.ID == t.State && e.index == t.Index }, nil)
}

// settle takes what waits for nothing, and what was raised, until nothing is left (SCXML appendix D, mainEventLoop).
func (r *run) settle() {
	for steps := 0; !r.cfg.Done; steps++ {
		if steps >= mostSteps {
			r.effects = append(r.effects, Effect{Error: fmt.Sprintf("after %d steps nothing has come to rest", mostSteps)})
			r.endless = true
			return
		}
		enabled := r.selected(func(t *edge) bool { return t.eventless() })
		if len(enabled) == 0 {
			if len(r.queue) == 0 {
				return
			}
			e := r.queue[0]
			r.queue, r.data = r.queue[1:], nil
			enabled = r.selected(func(t *edge) bool { return !t.eventless() && !t.timed() && t.Event.Stands(e) })
		}
		r.microstep(enabled)
	}
}

func (r *run) raise(name string) { r.queue = append(r.queue, Event{Kind: Own, Name: name}) }

func (r *run) failed(err error) {
	r.effects = append(r.effects, Effect{Error: err.Error()})
	if len(r.queue) < mostSteps {
		r.raise("error.execution")
	}
}

func (r *run) do(list []Action) {
	for _, a := range list {
		switch {
		case a.Assign != "":
			v, err := r.expr(a.To).value(r)
			if err == nil && fmt.Sprintf("%T", v) != fmt.Sprintf("%T", r.cfg.Values[a.Assign]) {
				err = fmt.Errorf("%s cannot become %v", a.Assign, v)
			}
			if err != nil {
				r.failed(err)
				return // the rest is not done (SCXML 4.9)
			}
			r.cfg.Values[a.Assign] = v
		case a.Raise != "":
			r.raise(a.Raise)
		case a.Tell != "":
			told := Effect{Tell: a.Tell}
			if a.With != "" {
				var err error
				if told.With, err = r.expr(a.With).value(r); err != nil {
					r.failed(err)
					return
				}
			}
			r.effects = append(r.effects, told)
		case a.Focus == Elsewhere:
			r.cfg.Focus = ""
		case a.Focus != "":
			r.cfg.Focus = a.Focus
		}
	}
}

func (r *run) value(name string) (any, bool) {
	if name == "event" {
		return r.data, r.data != nil
	}
	if v, ok := r.cfg.Values[name]; ok {
		return v, true
	}
	return valueOf(r.env.Props[name])
}

// valueOf gives a prop's value as expressions have it.
func valueOf(v contract.Value) (any, bool) {
	switch v := v.(type) {
	case contract.FlagValue:
		return bool(v), true
	case contract.NumberValue:
		return float64(v), true
	case contract.TextValue:
		return string(v), true
	case contract.OptionValue:
		return string(v), true
	}
	return nil, false
}

func (r *run) in(state string) bool { return r.active[r.byID[state]] }
