package behaviour

import (
	"fmt"
	"slices"
	"strings"
)

// Report is what an exploration of a machine found.
type Report struct {
	Findings []Finding `json:"findings"`
	Explored int       `json:"explored"` // configurations
	Whole    bool      `json:"whole"`    // there are no others
}

// Finding is one thing that is wrong with what a machine does.
type Finding struct {
	Rule    string   `json:"rule"`
	State   string   `json:"state,omitempty"`
	Message string   `json:"message"`
	Path    []string `json:"path,omitempty"` // the shortest sequence of inputs that shows it, from the beginning
}

// Rules lists what is looked for with why it matters.
var Rules = map[string]string{
	"state-unreachable": "Nothing leads there: it is a leftover, or the way there was forgotten.",
	"state-stuck":       "Whoever is there stays there.",
	"event-dead":        "People do something, and nothing ever happens.",
	"transitions-both":  "Which of them is taken is a matter of which was written first.",
	"timer-never":       "Its time never comes.",
	"endless":           "One event sets off steps without end, and the page stands still.",
	"guard-never":       "What it guards never happens.",
	"guard-always":      "It guards nothing.",
	"states-alike":      "Nobody can tell them apart, by eye or by ear.",
	"keys-missing":      "Who uses the keyboard expects them of such a thing, and a screen reader tells of them.",
	"focus-lost":        "Who uses the keyboard begins again at the top of the page (WCAG 2.2, 2.4.3).",
	"order-other":       "It goes another way than is expected.",
	"expression":        "What it asks for is not there, or is of another kind.",
}

// mostFindings bounds what is told at once.
const mostFindings = 500

// Check explores a machine and says what is wrong with what it does.
func (c *Chart) Check(o Options) Report {
	x := c.explore(o)
	out := &Report{Findings: []Finding{}, Explored: len(x.places), Whole: x.whole}
	add := func(rule, state string, path []string, format string, args ...any) {
		if len(out.Findings) >= mostFindings {
			return
		}
		out.Findings = append(out.Findings, Finding{rule, state, fmt.Sprintf(format, args...), path})
	}
	x.states(add)
	x.transitions(add)
	x.both(add)
	x.keys(add)
	x.focus(add)
	x.alike(add)
	x.order(add)
	for _, message := range sortedKeys(x.errors) {
		rule := "expression"
		if strings.Contains(message, "come to rest") {
			rule = "endless"
		}
		add(rule, "", x.errors[message], "%s", message)
	}
	return *out
}

type adder func(rule, state string, path []string, format string, args ...any)

// states looks for those that are never reached, and those that are never left.
func (x *explorer) states(add adder) {
	first := map[string]*place{}
	left := map[string]bool{}
	for _, p := range x.places {
		for _, id := range p.cfg.Active {
			if first[id] == nil {
				first[id] = p
			}
			for _, m := range p.moves {
				if !m.to.cfg.In(id) {
					left[id] = true
				}
			}
		}
	}
	for _, n := range x.nodes {
		switch {
		case n.Kind == History || n.Kind == DeepHistory:
		case !x.whole: // what was not seen may be there
		case first[n.ID] == nil && !x.passed(n):
			if n.parent == nil || first[n.parent.ID] != nil { // told of the outermost
				add("state-unreachable", n.ID, nil, "nothing leads to %s", n.ID)
			}
		case first[n.ID] == nil || n.Kind == Final || n == x.root || len(n.children) > 0 || n.parent.Kind == Parallel || len(n.parent.children) < 2 || left[n.ID]:
		default:
			add("state-stuck", n.ID, first[n.ID].path(), "there is no way out of %s", n.ID)
		}
	}
}

// passed tells whether a state is gone through without rest.
func (x *explorer) passed(n *node) bool {
	for t := range x.taken {
		if t.source == n || t.source.in(n) || slices.ContainsFunc(t.targets, func(to *node) bool { return to == n || to.in(n) }) {
			return true
		}
	}
	return false
}

// transitions looks for events that do nothing, times that never come, and guards that never, or always, hold.
func (x *explorer) transitions(add adder) {
	dead := map[Event]bool{}
	for _, n := range x.nodes {
		reached := slices.ContainsFunc(x.places, func(p *place) bool { return p.cfg.In(n.ID) })
		for _, t := range n.edges {
			guarded := !t.When.Always() || t.If != ""
			switch {
			case guarded && x.first[t] != nil && !x.held[t] && x.whole:
				add("guard-never", n.ID, x.first[t].path(), "in %s, %s: its condition never holds", n.ID, t.words())
			case guarded && x.held[t] && !x.refused[t] && len(x.places) > 1 && x.whole && !x.mayRefuse(t):
				add("guard-always", n.ID, x.first[t].path(), "in %s, %s: its condition always holds", n.ID, t.words())
			}
			switch e := t.Event; {
			case !reached || !x.whole || guarded && !x.held[t]: // a guard that never holds is told
			case t.timed() && !x.taken[t]:
				add("timer-never", n.ID, nil, "in %s, %s: it is always left, or done, before", n.ID, t.words())
			case e != (Event{}) && !x.moving[e] && !dead[e]:
				dead[e] = true
				add("event-dead", n.ID, nil, "%s never does anything", e)
			}
		}
	}
}

// mayRefuse tells whether a condition is false in some place where its state is, though it was not asked there since another came first.
func (x *explorer) mayRefuse(t *edge) bool {
	return slices.ContainsFunc(x.places, func(p *place) bool { return p.cfg.In(t.source.ID) && !x.begin(p.cfg, p.env).holds(t) })
}

// both looks for two transitions of one state that may be taken at once, and lead to different things.
func (x *explorer) both(add adder) {
	told := map[[2]*edge]bool{}
	for _, p := range x.places {
		r := x.begin(p.cfg, p.env)
		for _, id := range p.cfg.Active {
			edges := x.byID[id].edges
			for i, a := range edges {
				for _, b := range edges[i+1:] {
					if told[[2]*edge{a, b}] || !meet(a, b) || sameDone(a, b) || !r.holds(a) || !r.holds(b) {
						continue
					}
					told[[2]*edge{a, b}] = true
					add("transitions-both", id, p.path(), "in %s, two transitions may be taken %s: to %s and to %s", id, a.words(), toWords(a), toWords(b))
				}
			}
		}
	}
}

// meet tells whether something sets off both of two transitions.
func meet(a, b *edge) bool {
	if a.timed() || b.timed() {
		return a.timed() && b.timed() && a.After == b.After
	}
	return a.eventless() && b.eventless() || a.Event.Stands(b.Event) || b.Event.Stands(a.Event) && !a.eventless() && !b.eventless()
}

func sameDone(a, b *edge) bool {
	return slices.Equal(a.To, b.To) && slices.Equal(a.Do, b.Do)
}

func toWords(t *edge) string {
	if len(t.To) == 0 {
		return "nothing"
	}
	return strings.Join(t.To, " and ")
}

// focus looks for steps after which the part that has the focus is hidden.
func (x *explorer) focus(add adder) {
	told := map[string]bool{}
	for _, p := range x.places {
		if p.cfg.Focus == "" {
			continue
		}
		for _, s := range x.Says(p.cfg, p.env) {
			if s.Part == p.cfg.Focus && s.Name == "hidden" && s.Value == true && !told[s.State+" "+s.Part] {
				told[s.State+" "+s.Part] = true
				add("focus-lost", s.State, p.path(), "%s hides %s, which has the focus", s.State, s.Part)
			}
		}
	}
}

// alike looks for states beside each other that say the same of all parts, and that no rule of style asks for.
func (x *explorer) alike(add adder) {
	for _, n := range x.nodes {
		if n.Kind == Parallel || n != x.root && len(n.Sets) > 0 && !slices.ContainsFunc(n.children, func(c *node) bool { return len(c.Sets) > 0 }) {
			continue // in the second case what is around them says what they look like
		}
		first := map[string]string{} // by what is said
		for _, c := range n.children {
			if !x.plainly(c) {
				continue
			}
			said := fmt.Sprintf("%q", c.Sets)
			if other, there := first[said]; there {
				add("states-alike", c.ID, nil, "%s looks like %s, and says the same", c.ID, other)
			} else {
				first[said] = c.ID
			}
		}
	}
}

func (x *explorer) plainly(n *node) bool {
	return n.Kind == Plain && len(n.children) == 0 && !slices.Contains(x.options.Styled, n.ID)
}

// order holds what time alone brings about against what is expected.
func (x *explorer) order(add adder) {
	if len(x.options.Order) == 0 {
		return
	}
	cfg, _ := x.Start(x.options.Env)
	if first := x.options.Order[0]; x.Machine.Given != "" && x.byID[first] != nil { // a prop may say that it begins there
		cfg = x.Stand(x.options.Env, x.options.Order[:1])
	}
	var path []string
	leaf := func() string {
		for _, id := range slices.Backward(cfg.Active) {
			if len(x.byID[id].children) == 0 {
				return id
			}
		}
		return ""
	}
	was := ""
	for _, want := range x.options.Order {
		for steps := 0; leaf() == was && len(cfg.Timers) > 0 && steps < mostSteps; steps++ {
			path = append(path, Input{Wait: cfg.Timers[0].Due - cfg.Now}.String())
			cfg, _ = x.Advance(cfg, x.options.Env, cfg.Timers[0].Due)
		}
		now := leaf()
		if now == was {
			add("order-other", now, path, "after %s nothing comes by itself; %s was expected", was, want)
			return
		}
		if now != want {
			if was == "" {
				add("order-other", now, path, "it begins with %s; %s was expected", now, want)
			} else {
				add("order-other", now, path, "after %s comes %s; %s was expected", was, now, want)
			}
			return
		}
		was = now
	}
}
