package contract

import (
	"slices"
	"strings"
)

// Variation is one combination of options, flags and a state to look a component at.
type Variation struct {
	Name   string // the options and flags that are set, and the state: "s · strong · hover"
	Values Values
	State  string // empty for none
}

// axis is a prop with the values it is looked at with, or the states.
type axis struct {
	prop   *Prop
	values []Value
	states []string
}

// axes lists what a component's cases differ by.
func (c *Contract) axes() (axes []axis) {
	for i := range c.Props {
		p := &c.Props[i]
		values := p.Type.Nameable()
		if values == nil || p.From != nil && len(values) < 2 {
			continue
		}
		if s := p.Shown(); s != nil { // what it is looked at with stands first
			values = slices.Clone(values)
			at := slices.IndexFunc(values, func(v Value) bool { return Equal(v, s) })
			values = moved(values, max(0, at), -at)
		}
		axes = append(axes, axis{prop: p, values: values})
	}
	states := []string{""}
	for _, s := range c.AskedStates() {
		if c.StateFlag(s) == nil {
			states = append(states, s)
		}
	}
	return append(axes, axis{states: states})
}

// Combinations tells how many combinations of options, flags and states there are, 2³⁰ at most.
func (c *Contract) Combinations() int {
	all := 1
	for _, a := range c.axes() {
		all = min(all*max(len(a.values), len(a.states)), 1<<30)
	}
	return all
}

// Variations lists combinations to look at, the one a component is looked at first before all: every
// combination where these are no more than most, else a set that has every two values of different props,
// or of a prop and a state, together at least once. All tells how many combinations there are.
func (c *Contract) Variations(most int) (list []Variation, all int) {
	axes := c.axes()
	all = c.Combinations()
	sizes := make([]int, len(axes))
	for i, a := range axes {
		sizes[i] = max(len(a.values), len(a.states))
	}
	var rows [][]int
	if all <= most {
		rows = combinations(sizes)
	} else {
		rows = Pairwise(sizes)
	}
	examples := c.Examples()
	for _, row := range rows {
		v := Variation{Values: examples.With(nil)}
		var words []string
		for i, a := range axes {
			if a.prop == nil {
				if v.State = a.states[row[i]]; v.State != "" {
					words = append(words, v.State)
				}
				continue
			}
			value := a.values[row[i]]
			v.Values[a.prop.ID] = value
			switch value {
			case FlagValue(true):
				words = append(words, a.prop.Name)
			case FlagValue(false):
			default:
				words = append(words, value.String())
			}
		}
		if c.AreApart(v.Values) {
			continue
		}
		if v.Name = strings.Join(words, " · "); v.Name == "" {
			v.Name = "plain"
		}
		list = append(list, v)
	}
	return list, all
}

// combinations lists every choice of one of each size, the last counting fastest.
func combinations(sizes []int) [][]int {
	out := [][]int{{}}
	for _, n := range sizes {
		var next [][]int
		for _, row := range out {
			for v := range n {
				next = append(next, append(row[:len(row):len(row)], v))
			}
		}
		out = next
	}
	return out
}

// Pairwise lists choices of one of each size such that every two values of different places stand together in
// one at least, all zeros first. It is made greedily, place by place for all pairs that are left
// (D. M. Cohen and others, The AETG System, IEEE Transactions on Software Engineering, 1997; cited from memory).
func Pairwise(sizes []int) [][]int {
	type pair struct{ a, va, b, vb int }
	left := map[pair]bool{}
	for a := range sizes {
		for b := a + 1; b < len(sizes); b++ {
			for va := range sizes[a] {
				for vb := range sizes[b] {
					left[pair{a, va, b, vb}] = true
				}
			}
		}
	}
	of := func(a, va, b, vb int) pair {
		if a > b {
			a, va, b, vb = b, vb, a, va
		}
		return pair{a, va, b, vb}
	}
	take := func(row []int) {
		for a := range row {
			for b := a + 1; b < len(row); b++ {
				delete(left, pair{a, row[a], b, row[b]})
			}
		}
	}
	rows := [][]int{make([]int, len(sizes))}
	take(rows[0])
	for v := 1; len(sizes) == 1 && v < sizes[0]; v++ {
		rows = append(rows, []int{v})
	}
	for len(left) > 0 {
		// Begin with the first pair that is left, so that each row covers one at least.
		first := pair{a: -1}
		for p := range left {
			if first.a < 0 || slices.Compare([]int{p.a, p.va, p.b, p.vb}, []int{first.a, first.va, first.b, first.vb}) < 0 {
				first = p
			}
		}
		row, set := make([]int, len(sizes)), make([]bool, len(sizes))
		row[first.a], row[first.b], set[first.a], set[first.b] = first.va, first.vb, true, true
		for i := range sizes {
			if set[i] {
				continue
			}
			best, covered := 0, -1
			for v := range sizes[i] {
				n := 0
				for j := range sizes {
					if set[j] && left[of(i, v, j, row[j])] {
						n++
					}
				}
				if n > covered {
					best, covered = v, n
				}
			}
			row[i], set[i] = best, true
		}
		take(row)
		rows = append(rows, row)
	}
	return rows
}
