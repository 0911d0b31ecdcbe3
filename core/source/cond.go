package source

import (
	"slices"

	"cobrik/core/contract"
)

// cond is when something holds: any of its conjunctions of terms. Without any it never does.
type cond [][]contract.Term

// always holds.
func always() cond { return cond{{}} }

// mostCases bounds the conjunctions of a condition.
const mostCases = 128

func (c cond) isAlways() bool { return len(c) == 1 && len(c[0]) == 0 }

// and gives what holds where both do.
func (c cond) and(other cond) (out cond) {
	for _, a := range c {
		for _, b := range other {
			if both, ok := together(a, b); ok && len(out) < mostCases {
				out = out.with(both)
			}
		}
	}
	return out
}

// or gives what holds where one of them does.
func (c cond) or(other cond) cond {
	out := slices.Clone(c)
	for _, b := range other {
		out = out.with(b)
	}
	return out
}

// with adds a conjunction, unless one that is there holds wherever it does.
func (c cond) with(more []contract.Term) cond {
	when, ok := plainly(contract.Of(more...))
	if !ok {
		return c
	}
	for _, a := range c {
		if contract.Of(a...).Covers(when) {
			return c
		}
	}
	c = slices.DeleteFunc(slices.Clone(c), func(a []contract.Term) bool { return when.Covers(contract.Of(a...)) })
	return append(c, when.Terms())
}

// plainly leaves out what other terms say already: what is compared with a value is set. False where it never holds.
func plainly(w contract.When) (contract.When, bool) {
	for _, t := range w.Terms() {
		switch t.(type) {
		case contract.NumberIs, contract.PropIs:
			id := contract.PropOf(t)
			if slices.Contains(w.Terms(), contract.Term(contract.PropSet{Prop: id})) {
				return w, false
			}
			w = w.Without(contract.PropSet{Prop: id, Set: true})
		}
	}
	return w, true
}

// together puts terms of two conjunctions together; false where they exclude each other.
func together(a, b []contract.Term) ([]contract.Term, bool) {
	out := slices.Clone(a)
	for _, t := range b {
		at := slices.IndexFunc(out, func(o contract.Term) bool { return sameSubject(o, t) })
		if at < 0 {
			out = append(out, t)
			continue
		}
		joined, ok := meet(out[at], t)
		if !ok {
			return nil, false
		}
		out[at] = joined
	}
	return out, true
}

// sameSubject tells whether two terms ask of the same thing.
func sameSubject(a, b contract.Term) bool {
	switch a := a.(type) {
	case contract.PropIs:
		b, ok := b.(contract.PropIs)
		return ok && a.Prop == b.Prop
	case contract.NumberIs:
		b, ok := b.(contract.NumberIs)
		return ok && a.Prop == b.Prop
	case contract.PropSet:
		b, ok := b.(contract.PropSet)
		return ok && a.Prop == b.Prop
	case contract.InState:
		return a == b
	case contract.Container:
		b, ok := b.(contract.Container)
		return ok && a.Name == b.Name
	case contract.Viewport:
		_, ok := b.(contract.Viewport)
		return ok
	case contract.Theme:
		b, ok := b.(contract.Theme)
		return ok && a.Modifier == b.Modifier
	case contract.Direction:
		_, ok := b.(contract.Direction)
		return ok
	}
	return false
}

// meet gives the term that holds where two about the same do; false where they exclude each other.
func meet(a, b contract.Term) (contract.Term, bool) {
	switch a := a.(type) {
	case contract.NumberIs:
		b := b.(contract.NumberIs)
		a.Low, a.High = higher(a.Low, b.Low), lower(a.High, b.High)
		return a, a.Low.Kind == contract.NoBound || a.High.Kind == contract.NoBound || a.Low.At < a.High.At ||
			a.Low.At == a.High.At && a.Low.Kind == contract.Inclusive && a.High.Kind == contract.Inclusive
	case contract.Container:
		a.Range = overlap(a.Range, b.(contract.Container).Range)
		return a, a.Below == 0 || a.From < a.Below
	case contract.Viewport:
		a.Range = overlap(a.Range, b.(contract.Viewport).Range)
		return a, a.Below == 0 || a.From < a.Below
	}
	return a, a == b
}

func overlap(a, b contract.Range) contract.Range {
	out := contract.Range{From: max(a.From, b.From), Below: a.Below}
	if b.Below > 0 && (out.Below == 0 || b.Below < out.Below) {
		out.Below = b.Below
	}
	return out
}

func higher(a, b contract.Bound) contract.Bound {
	if a.Kind == contract.NoBound || b.Kind != contract.NoBound && (b.At > a.At || b.At == a.At && b.Kind == contract.Exclusive) {
		return b
	}
	return a
}

func lower(a, b contract.Bound) contract.Bound {
	if a.Kind == contract.NoBound || b.Kind != contract.NoBound && (b.At < a.At || b.At == a.At && b.Kind == contract.Exclusive) {
		return b
	}
	return a
}

// not gives what holds where the condition does not; false where no terms say that.
func (r *reader) not(c cond) (cond, bool) {
	out := always()
	for _, conjunction := range c {
		var none cond
		for _, t := range conjunction {
			opposite, ok := r.opposite(t)
			if !ok {
				return nil, false
			}
			none = none.or(opposite)
		}
		out = out.and(none)
	}
	return out, true
}

// opposite gives what holds where a term does not.
func (r *reader) opposite(t contract.Term) (out cond, ok bool) {
	switch t := t.(type) {
	case contract.PropSet:
		return cond{{contract.PropSet{Prop: t.Prop, Set: !t.Set}}}, true
	case contract.PropIs:
		if flag, is := t.Value.(contract.FlagValue); is {
			return cond{{contract.PropIs{Prop: t.Prop, Value: !flag}}}, true
		}
		p := r.out.Prop(t.Prop)
		if p == nil {
			return nil, false
		}
		for _, o := range p.Options() {
			if v := contract.OptionValue(o); v != t.Value {
				out = append(out, []contract.Term{contract.PropIs{Prop: t.Prop, Value: v}})
			}
		}
		return out, true
	case contract.NumberIs:
		flip := map[contract.BoundKind]contract.BoundKind{contract.Inclusive: contract.Exclusive, contract.Exclusive: contract.Inclusive}
		if t.Low.Kind != contract.NoBound {
			out = append(out, []contract.Term{contract.NumberIs{Prop: t.Prop, High: contract.Bound{At: t.Low.At, Kind: flip[t.Low.Kind]}}})
		}
		if t.High.Kind != contract.NoBound {
			out = append(out, []contract.Term{contract.NumberIs{Prop: t.Prop, Low: contract.Bound{At: t.High.At, Kind: flip[t.High.Kind]}}})
		}
		return out, true
	}
	return nil, false
}

// simplified joins conjunctions that differ in nothing but the value of a prop, and have all its values: it does not matter then.
func (r *reader) simplified(c cond) cond {
	for range mostCases {
		joined := r.joinedOnce(c)
		if joined == nil {
			return c
		}
		c = joined
	}
	return c
}

// joinedOnce joins what can be joined about one prop; nil for nothing.
func (r *reader) joinedOnce(c cond) cond {
	for _, conjunction := range c {
		for _, t := range conjunction {
			all := r.exhausting(t)
			if all == nil {
				continue
			}
			rest := contract.Of(conjunction...).Without(t)
			whole := true
			for _, other := range all {
				want := rest.With(other)
				whole = whole && slices.ContainsFunc(c, func(o []contract.Term) bool { return contract.Of(o...).Covers(want) })
			}
			if whole {
				return c.with(rest.Terms())
			}
		}
	}
	return nil
}

// exhausting lists the terms that cover all there is between them, a term among them; nil where nothing says so.
func (r *reader) exhausting(t contract.Term) (out []contract.Term) {
	switch t := t.(type) {
	case contract.PropSet:
		return []contract.Term{contract.PropSet{Prop: t.Prop, Set: true}, contract.PropSet{Prop: t.Prop}}
	case contract.PropIs:
		if _, flag := t.Value.(contract.FlagValue); flag {
			return []contract.Term{contract.PropIs{Prop: t.Prop, Value: contract.FlagValue(true)}, contract.PropIs{Prop: t.Prop, Value: contract.FlagValue(false)}}
		}
		p := r.out.Prop(t.Prop)
		if p == nil || maybeNone(p) {
			return nil
		}
		for _, o := range p.Options() {
			out = append(out, contract.PropIs{Prop: t.Prop, Value: contract.OptionValue(o)})
		}
	}
	return out
}
