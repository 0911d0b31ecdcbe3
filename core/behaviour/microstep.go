package behaviour

import "slices"

// Which transitions are taken, what they leave and what they enter: the procedures of SCXML 1.0, appendix D.

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
	r.begins(n)
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

// begins lets the state's times begin.
func (r *run) begins(n *node) {
	for _, t := range n.edges {
		if t.timed() {
			r.cfg.Timers = append(r.cfg.Timers, Timer{n.ID, t.index, r.cfg.Now + t.After})
		}
	}
}

// finished tells whether a state is in a final one (appendix D, isInFinalState).
func (r *run) finished(n *node) bool {
	if n.Kind == Parallel {
		return !slices.ContainsFunc(n.children, func(c *node) bool { return !r.finished(c) })
	}
	return slices.ContainsFunc(n.children, func(c *node) bool { return c.Kind == Final && r.active[c] })
}
