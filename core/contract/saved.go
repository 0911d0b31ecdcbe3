package contract

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/problem"
)

// SavedCase is a case that people gave a name. What is given holds values by the prop's id, null for
// none; what is left out is as the component is looked at first.
type SavedCase struct {
	Name  string                     `json:"name"`
	Meant string                     `json:"meant,omitempty"` // an example of how the component is meant to be used, or not: MeantSo, MeantOtherwise
	Given map[string]json.RawMessage `json:"given,omitempty"`
	Look
}

// What a saved case is an example of.
const (
	MeantSo        = "do"
	MeantOtherwise = "dont"
)

// Look is what a case is looked at in. The zero value is the first theme, no state, left to right,
// text as large as it is, and a container as wide as it is.
type Look struct {
	Theme     string  `json:"theme,omitempty"` // by its name; one that is not there is the first
	State     string  `json:"state,omitempty"`
	Direction string  `json:"direction,omitempty"` // ltr or rtl
	Text      float64 `json:"text,omitempty"`      // percent of the size of text that the reader asks for; 0 is 100
	Width     float64 `json:"width,omitempty"`     // px of the container; 0 for as it is
}

// Limits of a look: text from half to four times its size, a container as wide as a page can be.
const (
	leastText, mostText = 50, 400
	widestLook          = 20_000
)

// Check tells what is wrong with a look at a component; nil for nothing.
func (l Look) Check(c *Contract) error {
	switch {
	case l.State != "" && !slices.Contains(c.AllStates(), l.State):
		return fmt.Errorf("%q is no state; expected one of %s", l.State, strings.Join(c.AllStates(), ", "))
	case l.Direction != "" && l.Direction != "ltr" && l.Direction != "rtl":
		return fmt.Errorf("%q is no direction; expected ltr or rtl", l.Direction)
	case l.Text != 0 && !(l.Text >= leastText && l.Text <= mostText):
		return fmt.Errorf("text is from %d to %d %% of its size", leastText, mostText)
	case l.Width != 0 && !(l.Width >= 1 && l.Width <= widestLook):
		return fmt.Errorf("a container is from 1 to %d px wide", widestLook)
	}
	return nil
}

// CaseValues gives what a saved case, or a scenario, is rendered with by what it gives. What its props no longer take is left out.
func (c *Contract) CaseValues(given map[string]json.RawMessage) Values {
	out := c.Examples()
	for id, text := range given {
		p := c.Prop(id)
		if p == nil {
			continue
		}
		v, err := p.Type.Decode(text)
		switch {
		case isNull(text):
			delete(out, id)
		case err == nil && p.Type.Takes(v):
			out[id] = v
		}
	}
	return out
}

func isNull(text json.RawMessage) bool { return bytes.Equal(bytes.TrimSpace(text), []byte("null")) }

// SaveCase keeps values, and what they are looked at in, by a name; a case of that name is replaced.
func (c *Contract) SaveCase(name string, v Values, l Look) error {
	given, err := c.GivenBeside(v)
	if err != nil {
		return err
	}
	s := SavedCase{Name: name, Given: given, Look: l}
	if i := slices.IndexFunc(c.Cases, func(o SavedCase) bool { return o.Name == name }); i >= 0 {
		s.Meant = c.Cases[i].Meant
		c.Cases[i] = s
		return nil
	}
	c.Cases = append(c.Cases, s)
	return nil
}

// GivenBeside gives the values that differ from those the component is looked at with first, as CaseValues reads them.
func (c *Contract) GivenBeside(v Values) (map[string]json.RawMessage, error) {
	out := map[string]json.RawMessage{}
	examples := c.Examples()
	for _, p := range c.Props {
		given, first := v[p.ID], examples[p.ID]
		if Equal(given, first) || p.Type.Control() == "none" {
			continue
		}
		text, err := json.Marshal(given) // nil is null
		if err != nil {
			return nil, err
		}
		out[p.ID] = text
	}
	return out, nil
}

// pruneCases takes out of the saved cases and scenarios what their props no longer take, and tells of it.
func (c *Contract) pruneCases() (taken []string) {
	for _, s := range c.Cases {
		taken = append(taken, c.pruneGiven("case", s.Name, s.Given)...)
	}
	for _, s := range c.Scenarios {
		taken = append(taken, c.pruneGiven("scenario", s.Name, s.Given)...)
	}
	return taken
}

func (c *Contract) pruneGiven(kind, name string, given map[string]json.RawMessage) (taken []string) {
	for _, id := range slices.Sorted(maps.Keys(given)) {
		p := c.Prop(id)
		if p != nil && isNull(given[id]) {
			continue
		}
		if p != nil {
			if v, err := p.Type.Decode(given[id]); err == nil && p.Type.Takes(v) {
				continue
			}
		}
		delete(given, id)
		taken = append(taken, fmt.Sprintf("what the %s %s gives it", kind, name))
	}
	return taken
}

func checkCases(c *Contract, found *problem.List) {
	names := map[string]bool{}
	for i, s := range c.Cases {
		at := fmt.Sprintf("/cases/%d", i)
		if names[s.Name] {
			found.Errorf("case-name", at+"/name", "give each case its own name", "two cases are named %q", s.Name)
		}
		names[s.Name] = true
		if err := s.Check(c); err != nil {
			found.Errorf("case-look", at, "look at it in what there is", "the case %s: %s", s.Name, err)
		}
		checkGiven(c, "case", s.Name, at, s.Given, found)
	}
}

// checkGiven looks whether props take what a case or a scenario gives.
func checkGiven(c *Contract, kind, name, at string, given map[string]json.RawMessage, found *problem.List) {
	for _, id := range slices.Sorted(maps.Keys(given)) {
		p := c.Prop(id)
		if p == nil {
			found.Errorf(kind+"-prop", at+"/given/"+id, "give what the component takes", "the %s %s gives %q, and there is no such prop", kind, name, id)
			continue
		}
		if isNull(given[id]) {
			continue
		}
		if v, err := p.Type.Decode(given[id]); err != nil || !p.Type.Takes(v) {
			found.Errorf(kind+"-prop", at+"/given/"+id, "give what the prop takes", "the %s %s gives %s what it does not take", kind, name, p.Name)
		}
	}
	if c.AreApart(c.CaseValues(given)) {
		found.Errorf(kind+"-apart", at+"/given", "give one of them at most", "the %s %s gives props together that stand apart", kind, name)
	}
}
