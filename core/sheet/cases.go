package sheet

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// Saved cases are rows of a name, what is given, size=l label="Book a plot", and what it is looked at in,
// state hover, right to left, text 200%, 320px, theme dusk.

// CaseRow is a case that people gave a name.
type CaseRow struct {
	On    string `json:"on"`
	Name  string `json:"name"`
	Given string `json:"given" doc:"What is not as the component is looked at first"`
	Meant string `json:"meant" doc:"do or don’t: an example of how the component is meant to be used, or not"`
	Look  string `json:"look" doc:"What it is looked at in, where that is anything in particular"`
}

// none is how a case says that a prop is not given.
const none = "none"

// meantWords say what a case is an example of.
var meantWords = map[string]string{contract.MeantSo: "do", contract.MeantOtherwise: "don’t"}

func caseRows(c *contract.Contract) []CaseRow {
	out := []CaseRow{}
	for i, s := range c.Cases {
		out = append(out, CaseRow{On: "cases/" + strconv.Itoa(i), Name: s.Name, Meant: meantWords[s.Meant], Given: caseGiven(c, s), Look: LookWords(s.Look)})
	}
	return out
}

// caseGiven writes what a case gives, in the order of the props.
func caseGiven(c *contract.Contract, s contract.SavedCase) string {
	var out []string
	for _, p := range c.Props {
		text, ok := s.Given[p.ID]
		if !ok {
			continue
		}
		var plain string
		value := string(text)
		switch {
		case value == "null":
			value = none
		case json.Unmarshal(text, &plain) == nil && plain == none && p.Kind() != contract.ChoiceKind:
			value = quoted(plain)
		case json.Unmarshal(text, &plain) == nil:
			value = word(plain)
		}
		out = append(out, p.Name+"="+value)
	}
	return strings.Join(out, " ")
}

// readCaseGiven reads what a case gives: size=l label="Book a plot" quiet icon=none.
func readCaseGiven(c *contract.Contract, text string) (map[string]json.RawMessage, error) {
	out := map[string]json.RawMessage{}
	names := []string{}
	for _, p := range c.Props {
		if p.Type.Control() != "none" {
			names = append(names, p.Name)
		}
	}
	for _, w := range split(text) {
		name, value, has := strings.Cut(w, "=")
		i := slices.IndexFunc(c.Props, func(p contract.Prop) bool { return p.Name == name })
		if i < 0 || !slices.Contains(names, name) {
			if len(names) == 0 {
				return nil, fmt.Errorf("there is no prop that a case can give")
			}
			return nil, fmt.Errorf("%s is no prop that a case can give; expected one of %s", word(name), strings.Join(names, ", "))
		}
		p := c.Props[i]
		if !has {
			value = "true"
		}
		if value == none && p.Kind() != contract.ChoiceKind {
			out[p.ID] = json.RawMessage("null")
			continue
		}
		v, err := readValue(p.Type, value)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p.Name, err)
		}
		if v == nil {
			return nil, fmt.Errorf("expected a value behind %s=, or none", p.Name)
		}
		if out[p.ID], err = json.Marshal(v); err != nil {
			return nil, err
		}
	}
	return out, nil
}

const rightToLeft = "right to left"

// LookWords says in words what a case is looked at in; empty for nothing in particular.
func LookWords(l contract.Look) string {
	var out []string
	if l.State != "" {
		out = append(out, "state "+l.State)
	}
	if l.Direction == "rtl" {
		out = append(out, rightToLeft)
	}
	if l.Text != 0 && l.Text != 100 {
		out = append(out, "text "+css.FormatNumber(l.Text)+"%")
	}
	if l.Width != 0 {
		out = append(out, css.FormatNumber(l.Width)+"px")
	}
	if l.Theme != "" {
		out = append(out, "theme "+word(l.Theme))
	}
	return strings.Join(out, ", ")
}

// lookForms say how what a case is looked at in is written.
var lookForms = []string{rightToLeft, "text 200%", "320px"}

func readLook(c *contract.Contract, text string) (l contract.Look, err error) {
	for _, one := range splitList(text) {
		name, value, _ := strings.Cut(one, " ")
		value = strings.TrimSpace(value)
		number := func(of, unit string) float64 {
			x, failed := strconv.ParseFloat(strings.TrimSpace(strings.TrimSuffix(of, unit)), 64)
			if failed != nil {
				return 0
			}
			return x
		}
		switch {
		case one == rightToLeft || one == "rtl":
			l.Direction = "rtl"
		case one == "left to right" || one == "ltr":
			l.Direction = ""
		case name == "state" && slices.Contains(c.AllStates(), value):
			l.State = value
		case name == "text" && number(value, "%") > 0:
			l.Text = number(value, "%")
		case name == "theme" && value != "":
			if l.Theme, err = unquoted(value); err != nil {
				return l, err
			}
		case number(one, "px") > 0:
			l.Width = number(one, "px")
		case name == "state":
			return l, fmt.Errorf("%s is no state; expected one of %s", word(value), strings.Join(c.AllStates(), ", "))
		default:
			return l, fmt.Errorf("a case is looked at in a state, right to left, text 200%%, a width such as 320px, or a theme; not %s", word(one))
		}
	}
	return l, nil
}

// splitList cuts at commas that are in no quotes.
func splitList(text string) (out []string) {
	from := 0
	for _, to := range append(outside(text, ','), len(text)) {
		if one := strings.TrimSpace(text[from:to]); one != "" {
			out = append(out, one)
		}
		from = to + 1
	}
	return out
}

// savedCase edits a saved case, or adds one: "long: size=l", a name and what is given.
func (k *editor) savedCase(place string) error {
	c := k.c
	at := len(c.Cases)
	if place != "" {
		n, err := strconv.Atoi(place)
		if err != nil || n < 0 || n >= len(c.Cases) {
			return fmt.Errorf("there is no case %q", place)
		}
		at = n
	}
	if k.e.Do == "add" {
		name, text, _ := cutCondition(k.e.Text)
		if name = strings.TrimSpace(name); name == "" {
			return fmt.Errorf("expected a name, as in long: size=l")
		}
		given, err := readCaseGiven(c, text)
		if err != nil {
			return err
		}
		if place != "" {
			at++
		}
		c.Cases = slices.Insert(slices.Clone(c.Cases), at, contract.SavedCase{Name: name, Given: given})
		k.done.On = "cases/" + strconv.Itoa(at)
		k.note("case %s saved", name)
		return nil
	}
	if place == "" {
		return k.unknown()
	}
	s := &c.Cases[at]
	name := s.Name
	switch k.e.Do {
	case "set":
		k.note("%s of the case %s", k.e.Cell, name)
		switch k.e.Cell {
		case "name":
			if k.e.Text == "" {
				return fmt.Errorf("expected a name")
			}
			s.Name = k.e.Text
			return nil
		case "given":
			given, err := readCaseGiven(c, k.e.Text)
			if err == nil {
				s.Given = given
			}
			return err
		case "meant":
			switch strings.ReplaceAll(k.e.Text, "’", "'") {
			case "":
				s.Meant = ""
			case "do":
				s.Meant = contract.MeantSo
			case "don't", "dont":
				s.Meant = contract.MeantOtherwise
			default:
				return fmt.Errorf("expected do, don’t, or nothing")
			}
			return nil
		case "look":
			l, err := readLook(k.c, k.e.Text)
			if err == nil {
				s.Look = l
			}
			return err
		}
	case "remove":
		c.Cases = slices.Delete(slices.Clone(c.Cases), at, at+1)
		k.note("case %s removed", name)
		if k.done.On = "cases"; len(c.Cases) > 0 {
			k.done.On = "cases/" + strconv.Itoa(min(at, len(c.Cases)-1))
		}
		return nil
	case "duplicate":
		copied := *s
		copied.Given = maps.Clone(s.Given)
		copied.Name = contract.Free(s.Name, " again", func(n string) bool {
			return slices.ContainsFunc(c.Cases, func(o contract.SavedCase) bool { return o.Name == n })
		})
		c.Cases = slices.Insert(slices.Clone(c.Cases), at+1, copied)
		k.done.On = "cases/" + strconv.Itoa(at+1)
		k.note("case %s duplicated", name)
		return nil
	case "move":
		by, err := k.by()
		if err != nil {
			return err
		}
		to := min(max(0, at+by), len(c.Cases)-1)
		c.Cases = slices.Clone(c.Cases)
		c.Cases[at], c.Cases[to] = c.Cases[to], c.Cases[at]
		k.done.On = "cases/" + strconv.Itoa(to)
		k.note("case %s moved %s", name, k.e.Text)
		return nil
	}
	return k.unknown()
}

// saved completes what is typed of a case.
func (k *completer) saved(a Ask) {
	switch {
	case a.Cell == "look":
		before, typed := "", a.Text
		if i := strings.LastIndex(a.Text, ","); i >= 0 {
			before, typed = a.Text[:i+1]+" ", strings.TrimLeft(a.Text[i+1:], " ")
		}
		states := make([]string, len(k.c.AllStates()))
		for i, s := range k.c.AllStates() {
			states[i] = "state " + s
		}
		k.phrases(before, typed, append(slices.Clone(lookForms), states...))
		for _, name := range slices.Sorted(maps.Keys(k.w.Themes)) {
			for _, context := range k.w.Themes[name] {
				if words := "theme " + word(context); strings.HasPrefix("theme "+context, typed) || strings.HasPrefix(words, typed) && words != typed {
					k.out = append(k.out, Completion{Text: before + words, Label: words, Kind: "word"})
				}
			}
		}
	case a.Do == "add":
		if name, typed, named := cutCondition(a.Text); named {
			k.caseGiven(name+":", typed)
		}
	case a.Cell == "given":
		k.caseGiven("", a.Text)
	}
}

// caseGiven offers props, and the values of the one that is typed.
func (k *completer) caseGiven(lead, text string) {
	before, typed := lastWord(text)
	before = lead + before
	name, value, valued := strings.Cut(typed, "=")
	if !valued {
		var names []string
		for _, p := range k.c.Props {
			if p.Type.Control() != "none" {
				names = append(names, p.Name)
			}
		}
		k.all(before, typed, "prop", names)
		return
	}
	for _, p := range k.c.Props {
		if p.Name != name {
			continue
		}
		var values []string
		for _, v := range p.Type.Samples() {
			if v != nil && p.Kind() != contract.ListKind && p.Kind() != contract.RichKind && p.Kind() != contract.ImageKind {
				values = append(values, word(v.String()))
			}
		}
		k.all(before+name+"=", value, "word", append(values, none))
	}
}
