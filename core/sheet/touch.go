package sheet

import (
	"reflect"
	"slices"
	"strings"
)

// Untouched tells whether what an edit is of is the same in two states of a contract, so that it
// can be made in the newer one though it was meant for the older.
func Untouched(read, now Sheet, e Edit) bool {
	for _, on := range append([]string{e.On}, e.With...) {
		was, there := read.row(on)
		is, still := now.row(on)
		if there != still || !reflect.DeepEqual(was, is) {
			return false
		}
	}
	return true
}

// row gives what stands at an address, with all that could be typed there; false for nothing.
func (s Sheet) row(on string) (any, bool) {
	if kind, rest, _ := strings.Cut(on, "/"); kind == "purpose" {
		return s.Purpose, true
	} else if kind == "name" {
		return s.Name, true
	} else if kind == "owner" {
		return s.Owner, true
	} else if kind == "deprecated" {
		return [...]string{s.Why, s.Instead}, true
	} else if rest == "" && slices.Contains([]string{"props", "do", "dont", "links", "notes", "apart", "states", "cases"}, kind) {
		return nil, true
	}
	for _, n := range slices.Concat(s.Do, s.Dont, s.Links, s.Notes, s.Apart) {
		if n.On == on {
			return n.Text, true
		}
	}
	for _, k := range s.Cases {
		if k.On == on {
			return k, true
		}
	}
	for _, one := range s.States {
		if one.On == on {
			return one, true
		}
	}
	for _, p := range s.Props {
		if p.On == on {
			return [...]string{p.Name, p.Kind, p.Default, p.Purpose}, true
		}
	}
	for _, p := range s.Parts {
		if p.On == on {
			return [...]string{p.Name, p.Element, p.Shows, p.When, p.Over}, true
		}
	}
	for _, r := range s.Rules {
		for _, v := range r.Values {
			if v.On == on {
				return [...]string{r.Part, r.When, v.Text}, true
			}
		}
		if r.On == on {
			return r, true
		}
	}
	return nil, false
}
