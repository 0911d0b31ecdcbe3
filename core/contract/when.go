package contract

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
)

// When is a condition: it holds when all its terms do. Terms stand in canonical
// order, no two about the same; make it with Of. The zero value always holds.
type When struct{ terms []Term }

// Term is one thing a condition asks: PropIs, NumberIs, PropSet, InState, Container,
// Viewport, Theme or Direction. It is sealed; String writes it as package text does, props
// by their ids.
type Term interface {
	Holds(Env) bool
	String() string
	// about names what the term asks of, so that a condition asks it once.
	about() (rank int, name string)
}

type (
	// PropIs asks for a choice's or flag's value, the prop by its id.
	PropIs struct {
		Prop  string
		Value Value
	}
	// NumberIs asks whether a number is between bounds; one that is not given is not.
	NumberIs struct {
		Prop      string
		Low, High Bound
	}
	// PropSet asks whether there is anything in a prop, as IsSet says.
	PropSet struct {
		Prop string
		Set  bool
	}
	// InState asks whether the component is in a state: one of States.
	InState struct{ State string }
	// Container asks for the width of the component's container, or of the one of a name
	// around it.
	Container struct {
		Range
		Name string
	}
	// Viewport asks for the width of the viewport.
	Viewport struct{ Range }
	// Theme asks which context a modifier of the resolver document has.
	Theme struct{ Modifier, Context string }
	// Direction asks for the direction of the text around: ltr or rtl.
	Direction struct{ Is string }
)

// Bound is one end of a range of numbers. The zero value is none.
type Bound struct {
	At   float64
	Kind BoundKind
}

// BoundKind tells whether a bound is there, and whether it is part of the range.
type BoundKind uint8

const (
	NoBound BoundKind = iota
	Inclusive
	Exclusive
)

// Range is a range of widths, px: from From on, and less than Below; 0 for no such
// bound.
type Range struct {
	From  float64 `json:"from,omitempty"`
	Below float64 `json:"below,omitempty"`
}

// Holds tells whether a width, px, is in the range; 0 is wider than any.
func (r Range) Holds(width float64) bool {
	if width == 0 {
		return r.Below == 0
	}
	return width >= r.From && (r.Below == 0 || width < r.Below)
}

// States a rule may ask for, in the words of CSS, HTML and ARIA: those the browser knows by
// itself, and those that data sets.
var States = []string{
	"hover", "active", "focus-visible", "disabled", "checked", "selected", "expanded", "current", "invalid", "read-only", "loading", "empty",
}

func (t PropIs) Holds(e Env) bool    { return e.Props[t.Prop] == t.Value }
func (t PropSet) Holds(e Env) bool   { return IsSet(e.Props[t.Prop]) == t.Set }
func (t InState) Holds(e Env) bool   { return slices.Contains(e.States, t.State) }
func (t Viewport) Holds(e Env) bool  { return t.Range.Holds(e.Viewport) }
func (t Theme) Holds(e Env) bool     { return e.Theme[t.Modifier] == t.Context }
func (t Direction) Holds(e Env) bool { return cmp.Or(e.Direction, "ltr") == t.Is }

func (t Container) Holds(e Env) bool {
	if t.Name != "" {
		return t.Range.Holds(e.Containers[t.Name])
	}
	return t.Range.Holds(e.Container)
}

func (t NumberIs) Holds(e Env) bool {
	n, ok := e.Props[t.Prop].(NumberValue)
	return ok && t.Has(float64(n))
}

// Has tells whether a number is between the bounds.
func (t NumberIs) Has(n float64) bool {
	return !(t.Low.Kind == Inclusive && n < t.Low.At || t.Low.Kind == Exclusive && n <= t.Low.At ||
		t.High.Kind == Inclusive && n > t.High.At || t.High.Kind == Exclusive && n >= t.High.At)
}

func (t PropIs) about() (int, string)    { return 0, t.Prop }
func (t NumberIs) about() (int, string)  { return 0, t.Prop }
func (t PropSet) about() (int, string)   { return 1, t.Prop }
func (t InState) about() (int, string)   { return 2, t.State }
func (t Theme) about() (int, string)     { return 3, t.Modifier }
func (t Direction) about() (int, string) { return 4, "" }
func (t Viewport) about() (int, string)  { return 5, "" }
func (t Container) about() (int, string) { return 6, t.Name }

func compareTerms(a, b Term) int {
	rankA, nameA := a.about()
	rankB, nameB := b.about()
	return cmp.Or(rankA-rankB, strings.Compare(nameA, nameB))
}

// Of makes a condition of terms. Of several about the same the last is kept.
func Of(terms ...Term) When { return When{}.With(terms...) }

func (b Bound) normal() Bound {
	if b.Kind == NoBound {
		return Bound{}
	}
	return b
}

// BelowWidth makes a condition of a container narrower than so many px: a switch point.
func BelowWidth(px float64) When { return Of(Container{Range: Range{Below: px}}) }

// With gives the condition with terms added, or put in place of those about the same.
func (w When) With(terms ...Term) When {
	out := slices.Clone(w.terms)
	for _, t := range terms {
		if n, ok := t.(NumberIs); ok {
			t = NumberIs{n.Prop, n.Low.normal(), n.High.normal()}
		}
		at, found := slices.BinarySearchFunc(out, t, compareTerms)
		if found {
			out[at] = t
		} else {
			out = slices.Insert(out, at, t)
		}
	}
	return When{out}
}

// Terms lists the terms in canonical order. Do not change it.
func (w When) Terms() []Term { return w.terms }

// Always tells whether there is nothing the condition depends on.
func (w When) Always() bool { return len(w.terms) == 0 }

// Holds tells whether all terms hold.
func (w When) Holds(e Env) bool {
	return !slices.ContainsFunc(w.terms, func(t Term) bool { return !t.Holds(e) })
}

// Prop gives the value asked of a prop; nil when none is.
func (w When) Prop(id string) Value {
	for _, t := range w.terms {
		if p, ok := t.(PropIs); ok && p.Prop == id {
			return p.Value
		}
	}
	return nil
}

// PropOf gives the id of the prop a term asks of; empty when it asks of something else.
func PropOf(t Term) string {
	switch t := t.(type) {
	case PropIs:
		return t.Prop
	case NumberIs:
		return t.Prop
	case PropSet:
		return t.Prop
	}
	return ""
}

// OfProps tells whether the condition asks of nothing but props.
func (w When) OfProps() bool {
	return !slices.ContainsFunc(w.terms, func(t Term) bool { return PropOf(t) == "" })
}

// Below gives the px of the container's width the condition holds below; 0 for any.
func (w When) Below() float64 {
	for _, t := range w.terms {
		if c, ok := t.(Container); ok && c.Name == "" {
			return c.Range.Below
		}
	}
	return 0
}

// WithBelow gives the condition for a container narrower than so many px; 0 asks
// for no width.
func (w When) WithBelow(px float64) When {
	if px == 0 {
		return w.without(func(t Term) bool { c, ok := t.(Container); return ok && c.Name == "" })
	}
	return w.With(Container{Range: Range{Below: px}})
}

// movedSwitch gives the condition with a bound of its container's width at another; at 0
// with none.
func (w When) movedSwitch(from, to float64) When {
	for _, t := range w.terms {
		c, ok := t.(Container)
		if !ok || c.Name != "" || c.From != from && c.Below != from {
			continue
		}
		for _, bound := range []*float64{&c.From, &c.Below} {
			if *bound == from {
				*bound = to
			}
		}
		if c.Range == (Range{}) {
			return w.WithBelow(0)
		}
		return w.With(c)
	}
	return w
}

// WithoutProp gives the condition without what it asks of a prop.
func (w When) WithoutProp(id string) When {
	return w.without(func(t Term) bool { return PropOf(t) == id })
}

func (w When) without(match func(Term) bool) When {
	return When{slices.DeleteFunc(slices.Clone(w.terms), match)}
}

// Without gives the condition without a term.
func (w When) Without(t Term) When { return w.without(func(o Term) bool { return o == t }) }

// Equal tells whether two conditions ask the same.
func (w When) Equal(other When) bool { return slices.Equal(w.terms, other.terms) }

// Covers tells whether the condition holds wherever another one does, by asking
// nothing that the other does not ask alike.
func (w When) Covers(other When) bool {
	return !slices.ContainsFunc(w.terms, func(t Term) bool { return !slices.Contains(other.terms, t) })
}

// Excludes tells whether two conditions can never hold at once, because they ask
// for different values of the same.
func (w When) Excludes(other When) bool {
	for _, a := range w.terms {
		for _, b := range other.terms {
			if apart(a, b) {
				return true
			}
		}
	}
	return false
}

// apart tells whether two terms can never hold at once.
func apart(a, b Term) bool {
	switch a := a.(type) {
	case PropSet: // a number that is between bounds is there
		if n, ok := b.(NumberIs); ok && n.Prop == a.Prop {
			return !a.Set
		}
	case NumberIs:
		switch b := b.(type) {
		case PropSet:
			return b.Prop == a.Prop && !b.Set
		case NumberIs:
			return b.Prop == a.Prop && !(NumberIs{a.Prop, higher(a.Low, b.Low), lower(a.High, b.High)}).possible()
		}
	}
	if compareTerms(a, b) != 0 || a == b {
		return false
	}
	switch a := a.(type) {
	case Container:
		return a.Range.apart(b.(Container).Range)
	case Viewport:
		return a.Range.apart(b.(Viewport).Range)
	}
	return true
}

// possible tells whether any number is between the bounds.
func (t NumberIs) possible() bool {
	if t.Low.Kind == NoBound || t.High.Kind == NoBound {
		return true
	}
	return t.Low.At < t.High.At || t.Low.At == t.High.At && t.Low.Kind == Inclusive && t.High.Kind == Inclusive
}

// higher gives the stricter of two lower bounds.
func higher(a, b Bound) Bound {
	if a.Kind == NoBound || b.Kind != NoBound && (b.At > a.At || b.At == a.At && b.Kind == Exclusive) {
		return b
	}
	return a
}

// lower gives the stricter of two upper bounds.
func lower(a, b Bound) Bound {
	if a.Kind == NoBound || b.Kind != NoBound && (b.At < a.At || b.At == a.At && b.Kind == Exclusive) {
		return b
	}
	return a
}

func (r Range) apart(other Range) bool {
	return r.Below > 0 && other.From >= r.Below || other.Below > 0 && r.From >= other.Below
}

// Key identifies the condition: its JSON without white space. It is empty when
// there are no terms, and ParseWhen reads it.
func (w When) Key() string {
	if w.Always() {
		return ""
	}
	text, err := w.MarshalJSON()
	if err != nil {
		panic(err) // strings, booleans and finite numbers
	}
	return string(text)
}

// ParseWhen reads a condition's key.
func ParseWhen(key string) (When, error) {
	var w When
	if key == "" {
		return w, nil
	}
	err := json.Unmarshal([]byte(key), &w)
	return w, err
}
