package behaviour

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"cobrik/core/contract"
)

// Chart is a machine made ready to run.
type Chart struct {
	Machine *Machine
	root    *node
	nodes   []*node // in document order
	byID    map[string]*node
	exprs   map[string]*Expr
}

type node struct {
	*State
	parent   *node
	children []*node // but for histories
	history  []*node
	depth    int
	order    int
	edges    []*edge
}

type edge struct {
	Transition
	source  *node
	index   int // among its state's
	targets []*node
}

// Compile makes a machine ready to run; its problems when it cannot be.
func Compile(m *Machine) (*Chart, []Problem) {
	if found := m.Problems(); len(found) > 0 {
		return nil, found
	}
	c := &Chart{Machine: m, byID: map[string]*node{}, exprs: map[string]*Expr{}}
	m.Root.Walk(func(s, parent *State) {
		n := &node{State: s, order: len(c.nodes)}
		c.nodes = append(c.nodes, n)
		c.byID[s.ID] = n
		if parent == nil {
			c.root = n
			return
		}
		n.parent = c.byID[parent.ID]
		n.depth = n.parent.depth + 1
		if s.Kind == History || s.Kind == DeepHistory {
			n.parent.history = append(n.parent.history, n)
		} else {
			n.parent.children = append(n.parent.children, n)
		}
	})
	for _, n := range c.nodes {
		for i, t := range n.On {
			n.edges = append(n.edges, &edge{t, n, i, c.all(t.To)})
		}
	}
	return c, nil
}

func (c *Chart) all(ids []string) (out []*node) {
	for _, id := range ids {
		out = append(out, c.byID[id])
	}
	return out
}

// expr gives an expression that is known to be one.
func (c *Chart) expr(text string) *Expr {
	if c.exprs[text] == nil {
		c.exprs[text], _ = ParseExpr(text) // Problems has read it
	}
	return c.exprs[text]
}

func (n *node) in(other *node) bool {
	for p := n.parent; p != nil; p = p.parent {
		if p == other {
			return true
		}
	}
	return false
}

func (n *node) compound() bool { return n.Kind == Plain && len(n.children) > 0 }

// initial lists what is entered with a compound state.
func (c *Chart) initial(n *node) []*node {
	if len(n.Initial) > 0 {
		return c.all(n.Initial)
	}
	return n.children[:1]
}

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

func (r *run) start() {
	for _, v := range r.Machine.Values {
		r.cfg.Values[v.Name] = v.Initial
	}
	r.active[r.root] = true
	entered := map[*node]bool{}
	if r.root.Kind == Parallel {
		r.withChildren(r.root, entered)
	} else if len(r.root.children) > 0 {
		for _, n := range r.initial(r.root) {
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

// selected gives the transitions to take, at most one for each atomic state that is active, none of which excludes another (appendix D, selectTransitions
// and removeConflictingTransitions).
func (r *run) selected(asked func(t *edge) bool) (out []*edge) {
	for _, n := range r.nodes {
		if !r.active[n] || len(n.children) > 0 {
			continue
		}
		if t := r.first(n, asked); t != nil && !slices.Contains(out, t) {
			out = r.without(out, t)
		}
	}
	return out
}

// first finds the first transition of a state, or of those around it, that may be taken.
func (r *run) first(n *node, asked func(t *edge) bool) *edge {
	for at := n; at != nil; at = at.parent {
		for _, t := range at.edges {
			if asked(t) && r.holds(t) {
				return t
			}
		}
	}
	return nil
}

func (r *run) holds(t *edge) bool {
	held := t.When.Holds(r.env)
	if held && t.If != "" {
		var err error
		if held, err = r.expr(t.If).flag(r); err != nil {
			r.failed(err)
			held = false
		}
	}
	if r.tried != nil {
		r.tried(t, held)
	}
	return held
}

// without adds a transition, unless one there excludes it; one inside another's state takes its place. Two exclude each other when a state would be left
// by both: when the one takes place inside of where the other does.
func (r *run) without(list []*edge, t *edge) []*edge {
	mine := r.domain(t)
	var kept []*edge
	for _, o := range list {
		theirs := r.domain(o)
		if mine == nil || theirs == nil || mine != theirs && !mine.in(theirs) && !theirs.in(mine) {
			kept = append(kept, o)
			continue
		}
		if !t.source.in(o.source) {
			return list
		}
	}
	return append(kept, t)
}

// leadsTo gives the states a transition leads to, histories by what they remember.
func (r *run) leadsTo(targets []*node) (out []*node) {
	for _, n := range targets {
		switch remembered, ok := r.cfg.History[n.ID]; {
		case n.Kind != History && n.Kind != DeepHistory:
			out = append(out, n)
		case ok:
			out = append(out, r.all(remembered)...)
		default:
			out = append(out, r.leadsTo(r.all(n.Defaults))...)
		}
	}
	return out
}

// domain is the state inside of which a transition takes place; nil for one that leads nowhere (appendix D, getTransitionDomain).
func (r *run) domain(t *edge) *node {
	to := r.leadsTo(t.targets)
	if len(to) == 0 {
		return nil
	}
	inside := func(at *node) bool { return !slices.ContainsFunc(to, func(n *node) bool { return !n.in(at) }) }
	if t.Internal && t.source.compound() && inside(t.source) {
		return t.source
	}
	for at := t.source.parent; at != nil; at = at.parent {
		if (at.compound() || at == r.root) && inside(at) {
			return at
		}
	}
	return r.root
}

// exits lists the states that a transition leaves.
func (r *run) exits(t *edge) (out []*node) {
	d := r.domain(t)
	if d == nil {
		return nil
	}
	for _, n := range r.nodes {
		if r.active[n] && n.in(d) {
			out = append(out, n)
		}
	}
	return out
}

// microstep takes transitions: leaves, does, enters.
func (r *run) microstep(list []*edge) {
	if len(list) == 0 {
		return
	}
	r.taken = append(r.taken, list...)
	left := map[*node]bool{}
	entered := map[*node]bool{}
	for _, t := range list {
		for _, n := range r.exits(t) {
			left[n] = true
		}
	}
	domains := make([]*node, len(list))
	for i, t := range list {
		domains[i] = r.domain(t)
	}
	r.exit(left)
	for _, t := range list {
		r.do(t.Do)
	}
	for i, t := range list {
		for _, n := range t.targets {
			r.withDescendants(n, entered)
		}
		for _, n := range r.leadsTo(t.targets) {
			r.withAncestors(n, domains[i], entered)
		}
	}
	r.enter(entered)
}

func (r *run) exit(left map[*node]bool) {
	for _, n := range r.nodes {
		if !left[n] {
			continue
		}
		for _, h := range n.history {
			var was []string
			for _, o := range r.nodes {
				if r.active[o] && (h.Kind == History && o.parent == n || h.Kind == DeepHistory && o.in(n) && len(o.children) == 0) {
					was = append(was, o.ID)
				}
			}
			r.cfg.History[h.ID] = was
		}
	}
	for _, n := range slices.Backward(r.nodes) {
		if left[n] {
			r.do(n.Exit)
			r.cfg.Timers = slices.DeleteFunc(r.cfg.Timers, func(t Timer) bool { return t.State == n.ID })
			delete(r.active, n)
		}
	}
}

// withDescendants adds a state to those that are entered, with what is entered with it (appendix D, addDescendantStatesToEnter).
func (r *run) withDescendants(n *node, entered map[*node]bool) {
	if n.Kind == History || n.Kind == DeepHistory {
		to := r.leadsTo([]*node{n})
		for _, o := range to {
			r.withDescendants(o, entered)
		}
		for _, o := range to {
			r.withAncestors(o, n.parent, entered)
		}
		return
	}
	entered[n] = true
	switch {
	case n.Kind == Parallel:
		r.withChildren(n, entered)
	case n.compound():
		to := r.initial(n)
		for _, o := range to {
			r.withDescendants(o, entered)
		}
		for _, o := range r.leadsTo(to) {
			r.withAncestors(o, n, entered)
		}
	}
}

// withChildren adds what a parallel state holds, where nothing of it is entered yet.
func (r *run) withChildren(n *node, entered map[*node]bool) {
	for _, c := range n.children {
		there := entered[c]
		for o := range entered {
			there = there || o.in(c)
		}
		if !there {
			r.withDescendants(c, entered)
		}
	}
}

func (r *run) withAncestors(n, until *node, entered map[*node]bool) {
	for at := n.parent; at != nil && at != until; at = at.parent {
		entered[at] = true
		if at.Kind == Parallel {
			r.withChildren(at, entered)
		}
	}
}

func (r *run) enter(entered map[*node]bool) {
	for _, n := range r.nodes {
		if entered[n] && !r.active[n] {
			r.active[n] = true
			r.entry(n)
		}
	}
}

// entry does what is done on entry, and lets the state's time begin. Final states tell that what is around them is done.
func (r *run) entry(n *node) {
	r.do(n.Entry)
	for _, t := range n.edges {
		if t.timed() {
			r.cfg.Timers = append(r.cfg.Timers, Timer{n.ID, t.index, r.cfg.Now + t.After})
		}
	}
	if n.Kind != Final {
		return
	}
	if n.parent == r.root {
		r.cfg.Done = true
		return
	}
	r.raise("done.state." + n.parent.ID)
	if around := n.parent.parent; around != nil && around.Kind == Parallel && !slices.ContainsFunc(around.children, func(c *node) bool { return !r.finished(c) }) {
		r.raise("done.state." + around.ID)
	}
}

// finished tells whether a state is in a final one (appendix D, isInFinalState).
func (r *run) finished(n *node) bool {
	if n.Kind == Parallel {
		return !slices.ContainsFunc(n.children, func(c *node) bool { return !r.finished(c) })
	}
	return slices.ContainsFunc(n.children, func(c *node) bool { return c.Kind == Final && r.active[c] })
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

// Said is what a machine says of a part just now.
type Said struct {
	Part  string `json:"part"`
	Name  string `json:"name"`
	Value any    `json:"value"`
	State string `json:"state"` // that says so
}

// Says lists what the states of a running machine say of parts; the innermost, then the last, has the last word.
func (c *Chart) Says(cfg Config, env contract.Env) (out []Said) {
	r := c.begin(cfg, env)
	at := map[[2]string]int{}
	depth := map[[2]string]int{}
	for _, id := range cfg.Active {
		n := c.byID[id]
		for _, s := range n.Sets {
			v, err := c.expr(s.Value).value(r)
			if err != nil {
				continue
			}
			key := [2]string{s.Part, s.Name}
			one := Said{s.Part, s.Name, v, id}
			i, known := at[key]
			switch {
			case !known:
				at[key], depth[key] = len(out), n.depth
				out = append(out, one)
			case n.depth >= depth[key]:
				out[i], depth[key] = one, n.depth
			}
		}
	}
	return out
}
