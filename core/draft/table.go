package draft

import (
	"cmp"
	"cobrik/core/contract"
	"slices"
)

// A table says what one property of one part is for each drawn case. From it
// come the fewest rules that give the same values back.

// domain is one prop of a table with its values, or the widths, or the states; the first is the
// default, of states being in none.
type domain struct {
	prop   string // id
	values []contract.Value
	states []string
	widths []contract.Range
}

func (d domain) size() int { return max(len(d.values), len(d.states), len(d.widths)) }

type cell struct {
	at    []int // index into each domain's values
	value string
}

type table struct {
	domains []domain
	cells   []cell
}

// assignment is one rule of one property: conditions by domain, -1 for any.
type assignment struct {
	at    []int
	value string
}

func (a assignment) covers(at []int) bool {
	for i, v := range a.at {
		if v >= 0 && v != at[i] {
			return false
		}
	}
	return true
}

func (t *table) condition(a assignment) contract.When {
	var w contract.When
	for i, v := range a.at {
		switch d := t.domains[i]; {
		case v < 0 || d.states != nil && v == 0:
		case d.states != nil:
			w = w.With(contract.InState{State: d.states[v]})
		case d.widths != nil:
			w = w.With(contract.Container{Range: d.widths[v]})
		default:
			w = w.With(contract.PropIs{Prop: d.prop, Value: d.values[v]})
		}
	}
	return w
}

// causes gives the smallest set of domains that decides the value: no two cells
// agree on all of them and differ in value. Of equally small sets the one with
// the earlier domains is taken.
func (t *table) causes() []int {
	n := len(t.domains)
	for size := 0; size <= n; size++ {
		for _, set := range subsets(n, size) {
			if t.decided(set) {
				return set
			}
		}
	}
	return subsets(n, n)[0]
}

func (t *table) decided(set []int) bool {
	seen := map[string]string{}
	key := make([]byte, 0, 16)
	for _, c := range t.cells {
		key = key[:0]
		for _, d := range set {
			key = append(key, byte(c.at[d]), byte(c.at[d]>>8))
		}
		if was, ok := seen[string(key)]; ok && was != c.value {
			return false
		}
		seen[string(key)] = c.value
	}
	return true
}

// subsets lists the size-element subsets of 0…n-1 in lexicographic order.
func subsets(n, size int) [][]int {
	if size == 0 {
		return [][]int{{}}
	}
	var out [][]int
	for first := 0; first <= n-size; first++ {
		for _, rest := range subsets(n-first-1, size-1) {
			set := []int{first}
			for _, r := range rest {
				set = append(set, r+first+1)
			}
			out = append(out, set)
		}
	}
	return out
}

// minimal gives the rules, in order, that turn the default's value into every
// cell's: first by one prop, then by pairs, and so on, later winning. Each
// order of the deciding props is tried; the fewest rules win, and among those
// the order of the domains.
// What is said of states comes after all else: a rule cannot ask for being in none.
func (t *table) minimal(base string) []assignment {
	states := slices.IndexFunc(t.domains, func(d domain) bool { return d.states != nil })
	if states < 0 {
		return t.shortest(fill(base, len(t.cells)), t.causes(), -1)
	}
	rest := &table{domains: t.domains}
	for _, c := range t.cells {
		if c.at[states] == 0 {
			rest.cells = append(rest.cells, c)
		}
	}
	list := rest.shortest(fill(base, len(rest.cells)), rest.causes(), -1)
	now := fill(base, len(t.cells))
	for _, a := range list {
		for i, c := range t.cells {
			if a.covers(c.at) {
				now[i] = a.value
			}
		}
	}
	causes := t.causes()
	if !slices.Contains(causes, states) {
		causes = append(causes, states)
	}
	stated := t.shortest(now, causes, states)
	// A state that comes later wins over one before: what is disabled does not change when
	// hovered. No drawing is in two, so that their order is free.
	slices.SortStableFunc(stated, func(a, b assignment) int { return a.at[states] - b.at[states] })
	return append(list, stated...)
}

func fill(value string, n int) []string {
	out := make([]string, n)
	for i := range out {
		out[i] = value
	}
	return out
}

// shortest gives the fewest rules that turn what the cells say now into their values. Where a
// domain must be named, every rule names it, and not its first value.
func (t *table) shortest(now []string, causes []int, must int) []assignment {
	if len(causes) == 0 {
		return nil
	}
	var best []assignment
	for i, order := range permutations(causes) {
		if got := t.decisionList(now, order, must); i == 0 || len(got) < len(best) {
			best = got
		}
	}
	return best
}

// maxPermuted bounds the orders tried: five props have 120.
const maxPermuted = 5

func permutations(set []int) [][]int {
	if len(set) <= 1 || len(set) > maxPermuted {
		return [][]int{slices.Clone(set)}
	}
	var out [][]int
	for i, first := range set {
		rest := slices.Concat(set[:i:i], set[i+1:])
		for _, p := range permutations(rest) {
			out = append(out, append([]int{first}, p...))
		}
	}
	return out
}

// beam bounds the partial lists kept while looking for the shortest.
const beam = 24

// attempt is a list in the making and what it gives for each cell.
type attempt struct {
	list []assignment
	now  []string
	cost int // rules so far, and cells still wrong, each of which takes a rule
	odd  int // conditions that name a default, which reads oddly
}

func (a attempt) compare(b attempt) int {
	return cmp.Or(a.cost-b.cost, a.odd-b.odd)
}

// decisionList looks for the shortest list for one order of the props, by beam
// search: condition by condition it takes each value that puts cells right, or
// none, and keeps the most promising attempts. The last conditions name one
// cell each, so every attempt can be completed.
func (t *table) decisionList(now []string, order []int, must int) []assignment {
	start := attempt{now: now}
	for i, c := range t.cells {
		if c.value != now[i] {
			start.cost++
		}
	}
	attempts := []attempt{start}
	for size := 1; size <= len(order); size++ {
		for _, set := range subsets(len(order), size) {
			props := make([]int, size)
			for i, s := range set {
				props[i] = order[s]
			}
			if must >= 0 && !slices.Contains(props, must) {
				continue
			}
			for _, at := range t.combinations(props, size == 1, must) {
				var next []attempt
				for _, a := range attempts {
					next = t.extend(next, a, at, size == len(order))
				}
				slices.SortStableFunc(next, attempt.compare)
				attempts = next[:min(len(next), beam)]
			}
		}
	}
	return attempts[0].list
}

// extend appends what can become of an attempt under one more condition: the
// value on the line through the default first, then others by what they gain,
// last the attempt as it is. The last conditions name every deciding prop.
func (t *table) extend(out []attempt, from attempt, at []int, last bool) []attempt {
	odd := 0
	for _, v := range at {
		if v == 0 {
			odd++
		}
	}
	better := t.gains(at, from.now)
	for _, v := range better {
		a := assignment{at, v.value}
		next := attempt{append(slices.Clip(from.list), a), slices.Clone(from.now), from.cost + 1 - v.gain, from.odd + odd}
		for i, c := range t.cells {
			if a.covers(c.at) {
				next.now[i] = v.value
			}
		}
		out = append(out, next)
	}
	if last && len(better) > 0 {
		return out // no later condition would mend the cell
	}
	return append(out, from)
}

// combinations lists every choice of values for some domains. A lone default is
// left out: the base already speaks for it; so is that of a domain that must be named.
func (t *table) combinations(props []int, withoutDefault bool, must int) [][]int {
	blank := make([]int, len(t.domains))
	for i := range blank {
		blank[i] = -1
	}
	out := [][]int{blank}
	for _, d := range props {
		var next [][]int
		for _, at := range out {
			for v := range t.domains[d].size() {
				if (withoutDefault || d == must) && v == 0 {
					continue
				}
				with := slices.Clone(at)
				with[d] = v
				next = append(next, with)
			}
		}
		out = next
	}
	return out
}

type gain struct {
	value string
	gain  int // cells put right, less cells put wrong
}

// gains lists the values that put more cells right than wrong under a condition.
func (t *table) gains(at []int, now []string) []gain {
	a := assignment{at: at}
	var out []gain
	right, onLine := 0, ""
	for i, c := range t.cells {
		if !a.covers(c.at) {
			continue
		}
		g := slices.IndexFunc(out, func(g gain) bool { return g.value == c.value })
		if g < 0 {
			g = len(out)
			out = append(out, gain{value: c.value})
		}
		out[g].gain++
		if now[i] == c.value {
			right++
		}
		line := true
		for d, v := range c.at {
			line = line && (at[d] >= 0 || v == 0)
		}
		if line {
			onLine = c.value
		}
	}
	for i := range out {
		out[i].gain -= right
	}
	out = slices.DeleteFunc(out, func(g gain) bool { return g.gain < 1 })
	slices.SortStableFunc(out, func(a, b gain) int {
		if (a.value == onLine) != (b.value == onLine) {
			if a.value == onLine {
				return -1
			}
			return 1
		}
		return b.gain - a.gain
	})
	return out
}

// base is the value drawn for the defaults; false when they are not drawn.
func (t *table) base() (string, bool) {
	for _, c := range t.cells {
		if !slices.ContainsFunc(c.at, func(v int) bool { return v != 0 }) {
			return c.value, true
		}
	}
	return "", false
}
