package contract

import "math"

// Truth tells whether a condition ever holds, by what its terms and the props' types allow.
type Truth int

const (
	Depends Truth = iota
	Never
	AlwaysTrue
)

// Truth computes whether a condition can hold at all, and whether it can fail to. Themes are
// the contexts by the modifiers of the project's tokens; nil takes any.
func (c *Contract) Truth(w When, themes map[string][]string) Truth {
	out := AlwaysTrue
	for i, t := range w.terms {
		for _, other := range w.terms[:i] {
			if apart(other, t) || c.together(other, t) {
				return Never
			}
		}
		switch c.termTruth(t, themes) {
		case Never:
			return Never
		case Depends:
			out = Depends
		}
	}
	return out
}

func (c *Contract) termTruth(t Term, themes map[string][]string) Truth {
	switch t := t.(type) {
	case PropIs:
		p := c.Prop(t.Prop)
		if p == nil || !p.Type.Takes(t.Value) {
			return Never
		}
		if len(p.Type.Nameable()) == 1 {
			return AlwaysTrue
		}
	case NumberIs:
		if p := c.Prop(t.Prop); p != nil {
			if n, ok := p.Type.(Number); ok {
				return n.truth(t, p.Required || n.Initial != nil)
			}
		}
		return Never
	case PropSet:
		p := c.Prop(t.Prop)
		if p == nil {
			return Never
		}
		if alwaysSet(p) {
			return certain(t.Set)
		}
	case Container:
		return t.Range.truth()
	case Viewport:
		return t.Range.truth()
	case Theme:
		contexts, known := themes[t.Modifier]
		if themes == nil {
			return Depends
		}
		found := false
		for _, c := range contexts {
			found = found || c == t.Context
		}
		switch {
		case !known || !found:
			return Never
		case len(contexts) == 1:
			return AlwaysTrue
		}
	}
	return Depends
}

func certain(holds bool) Truth {
	if holds {
		return AlwaysTrue
	}
	return Never
}

// alwaysSet tells whether there is always something in a prop: a flag, a choice, and what is
// required or has a default and cannot be given as nothing.
func alwaysSet(p *Prop) bool {
	switch p.Type.(type) {
	case Flag, Choice:
		return true
	case Number, Icon:
		return p.Required || p.Type.Default() != nil
	case Image:
		return p.Required
	}
	return false
}

func (r Range) truth() Truth {
	if r.Below > 0 && r.From >= r.Below {
		return Never
	}
	if r == (Range{}) {
		return AlwaysTrue
	}
	return Depends
}

// truth tells whether any number, and whether each, that the prop takes is between bounds.
func (n Number) truth(t NumberIs, always bool) Truth {
	low, high := t.Low, t.High
	if n.Least != nil {
		low = higher(low, Bound{*n.Least, Inclusive})
	}
	if n.Most != nil {
		high = lower(high, Bound{*n.Most, Inclusive})
	}
	if !n.any(low, high) {
		return Never
	}
	if !always {
		return Depends
	}
	// Nothing the prop takes is on either side of the bounds.
	from, to := Bound{}, Bound{}
	if n.Least != nil {
		from = Bound{*n.Least, Inclusive}
	}
	if n.Most != nil {
		to = Bound{*n.Most, Inclusive}
	}
	under := t.Low.Kind != NoBound && n.any(from, lower(to, t.Low.outside()))
	over := t.High.Kind != NoBound && n.any(higher(from, t.High.outside()), to)
	return map[bool]Truth{true: Depends, false: AlwaysTrue}[under || over]
}

// outside is the bound of what a bound leaves out.
func (b Bound) outside() Bound {
	return Bound{b.At, map[BoundKind]BoundKind{Inclusive: Exclusive, Exclusive: Inclusive}[b.Kind]}
}

// any tells whether the prop takes a number between bounds, those of its own limits among them.
func (n Number) any(low, high Bound) bool {
	if !(NumberIs{Low: low, High: high}).possible() {
		return false
	}
	if n.Step == 0 || low.Kind == NoBound || high.Kind == NoBound {
		return true
	}
	base := 0.0
	if n.Least != nil {
		base = *n.Least
	}
	steps := (low.At - base) / n.Step
	k := math.Ceil(steps - 1e-9)
	if low.Kind == Exclusive && math.Abs(steps-math.Round(steps)) < 1e-9 {
		k = math.Round(steps) + 1
	}
	first := base + k*n.Step
	return NumberIs{High: high}.Has(first) || high.Kind == Inclusive && math.Abs(first-high.At) < 1e-9*max(1, math.Abs(high.At))
}
