package contract

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/css"
)

// When is a condition: it holds when all its terms do. Terms stand in canonical
// order, no two about the same; make it with Of. The zero value always holds.
type When struct{ terms []Term }

// Term is one thing a condition asks: PropIs, InState, Container, Viewport, Theme or
// Direction. It is sealed; String is for people.
type Term interface {
	Holds(Env) bool
	String() string
	// about names what the term asks of, so that a condition asks it once.
	about() (rank int, name string)
}

type (
	// PropIs asks for a prop's value, the prop by its id.
	PropIs struct {
		Prop  string
		Value Value
	}
	// InState asks whether the component is in a state: one of States.
	InState struct{ State string }
	// Container asks for the width of the component's container.
	Container struct{ Range }
	// Viewport asks for the width of the viewport.
	Viewport struct{ Range }
	// Theme asks which context a modifier of the resolver document has.
	Theme struct{ Modifier, Context string }
	// Direction asks for the direction of the text around: ltr or rtl.
	Direction struct{ Is string }
)

// Range is a range of widths, px: from From on, and less than Below; 0 for no such
// bound.
type Range struct {
	From  float64 `json:"from,omitempty"`
	Below float64 `json:"below,omitempty"`
}

func (r Range) holds(width float64) bool {
	if width == 0 {
		return r.Below == 0
	}
	return width >= r.From && (r.Below == 0 || width < r.Below)
}

func (r Range) words() string {
	var out []string
	if r.From > 0 {
		out = append(out, "from "+css.FormatNumber(r.From))
	}
	if r.Below > 0 {
		out = append(out, "below "+css.FormatNumber(r.Below))
	}
	return strings.Join(out, " and ") + " px"
}

// States a rule may ask for.
var States = []string{"hover", "pressed", "focus", "disabled"}

func (t PropIs) Holds(e Env) bool    { return e.Props[t.Prop] == t.Value }
func (t InState) Holds(e Env) bool   { return slices.Contains(e.States, t.State) }
func (t Container) Holds(e Env) bool { return t.holds(e.Container) }
func (t Viewport) Holds(e Env) bool  { return t.holds(e.Viewport) }
func (t Theme) Holds(e Env) bool     { return e.Theme[t.Modifier] == t.Context }
func (t Direction) Holds(e Env) bool { return cmp.Or(e.Direction, "ltr") == t.Is }

func (t PropIs) String() string {
	switch t.Value {
	case FlagValue(true):
		return t.Prop
	case FlagValue(false):
		return "not " + t.Prop
	}
	return t.Prop + "=" + t.Value.String()
}

func (t InState) String() string   { return t.State }
func (t Container) String() string { return t.words() }
func (t Viewport) String() string  { return "viewport " + t.words() }
func (t Theme) String() string     { return t.Modifier + " " + t.Context }
func (t Direction) String() string { return t.Is }

func (t PropIs) about() (int, string)    { return 0, t.Prop }
func (t InState) about() (int, string)   { return 1, t.State }
func (t Theme) about() (int, string)     { return 2, t.Modifier }
func (t Direction) about() (int, string) { return 3, "" }
func (t Viewport) about() (int, string)  { return 4, "" }
func (t Container) about() (int, string) { return 5, "" }

func compareTerms(a, b Term) int {
	rankA, nameA := a.about()
	rankB, nameB := b.about()
	return cmp.Or(rankA-rankB, strings.Compare(nameA, nameB))
}

// Of makes a condition of terms. Of several about the same the last is kept.
func Of(terms ...Term) When { return When{}.With(terms...) }

// BelowWidth makes a condition of a container narrower than so many px: a switch point.
func BelowWidth(px float64) When { return Of(Container{Range{Below: px}}) }

// With gives the condition with terms added, or put in place of those about the same.
func (w When) With(terms ...Term) When {
	out := slices.Clone(w.terms)
	for _, t := range terms {
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

// Props counts the props whose value is asked.
func (w When) Props() int {
	n := 0
	for _, t := range w.terms {
		if _, ok := t.(PropIs); ok {
			n++
		}
	}
	return n
}

// Below gives the px of the container's width the condition holds below; 0 for any.
func (w When) Below() float64 {
	for _, t := range w.terms {
		if c, ok := t.(Container); ok {
			return c.Range.Below
		}
	}
	return 0
}

// WithBelow gives the condition for a container narrower than so many px; 0 asks
// for no width.
func (w When) WithBelow(px float64) When {
	if px == 0 {
		return w.without(func(t Term) bool { _, ok := t.(Container); return ok })
	}
	return w.With(Container{Range{Below: px}})
}

// WithoutProp gives the condition without what it asks of a prop.
func (w When) WithoutProp(id string) When {
	return w.without(func(t Term) bool { p, ok := t.(PropIs); return ok && p.Prop == id })
}

func (w When) without(match func(Term) bool) When {
	return When{slices.DeleteFunc(slices.Clone(w.terms), match)}
}

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
			if compareTerms(a, b) != 0 || a == b {
				continue
			}
			x, wide := a.(Container)
			y, ok := b.(Container)
			if v, isView := a.(Viewport); isView {
				x, wide = Container(v), true
				var o Viewport
				o, ok = b.(Viewport)
				y = Container(o)
			}
			if !wide || !ok || x.Range.apart(y.Range) {
				return true
			}
		}
	}
	return false
}

func (r Range) apart(other Range) bool {
	return r.Below > 0 && other.From >= r.Below || other.Below > 0 && r.From >= other.Below
}

// String gives the condition as a person reads it: "size=s · strong · below 480
// px", props by their ids. Without terms it is empty.
func (w When) String() string {
	words := make([]string, len(w.terms))
	for i, t := range w.terms {
		words[i] = t.String()
	}
	return strings.Join(words, " · ")
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

// whenJSON is a condition as it is stored.
type whenJSON struct {
	Props     map[string]json.RawMessage `json:"props,omitempty"`
	States    []string                   `json:"states,omitempty"`
	Theme     map[string]string          `json:"theme,omitempty"`
	Direction string                     `json:"direction,omitempty"`
	Viewport  *Range                     `json:"viewport,omitempty"`
	Container *Range                     `json:"container,omitempty"`
}

// MarshalJSON writes the terms by kind; keys come in canonical order.
func (w When) MarshalJSON() ([]byte, error) {
	var out whenJSON
	for _, t := range w.terms {
		switch t := t.(type) {
		case PropIs:
			text, err := json.Marshal(t.Value)
			if err != nil {
				return nil, err
			}
			if out.Props == nil {
				out.Props = map[string]json.RawMessage{}
			}
			out.Props[t.Prop] = text
		case InState:
			out.States = append(out.States, t.State)
		case Theme:
			if out.Theme == nil {
				out.Theme = map[string]string{}
			}
			out.Theme[t.Modifier] = t.Context
		case Direction:
			out.Direction = t.Is
		case Viewport:
			out.Viewport = &t.Range
		case Container:
			out.Container = &t.Range
		}
	}
	return json.Marshal(out)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (w *When) UnmarshalJSON(text []byte) error {
	var in whenJSON
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&in); err != nil {
		return fmt.Errorf("a condition: %w", err)
	}
	var terms []Term
	for _, prop := range sortedKeys(in.Props) {
		v, err := decodeNamed(in.Props[prop])
		if err != nil {
			return fmt.Errorf("the condition on %s: %w", prop, err)
		}
		terms = append(terms, PropIs{prop, v})
	}
	for _, s := range in.States {
		terms = append(terms, InState{s})
	}
	for _, modifier := range sortedKeys(in.Theme) {
		terms = append(terms, Theme{modifier, in.Theme[modifier]})
	}
	if in.Direction != "" {
		terms = append(terms, Direction{in.Direction})
	}
	if in.Viewport != nil {
		terms = append(terms, Viewport{*in.Viewport})
	}
	if in.Container != nil {
		terms = append(terms, Container{*in.Container})
	}
	*w = Of(terms...)
	return nil
}
