package sheet

import (
	"fmt"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// Rules, and values that a part or a rule says, are edited here.

func (k *editor) rule(n int, r *contract.Rule) error {
	c := k.c
	name := partName(c, r.Part)
	k.note("rule of %s", name)
	switch k.e.Do {
	case "set":
		switch k.e.Cell {
		case "when":
			when, err := c.ParseWords(k.e.Text, k.w.Themes)
			if err != nil {
				return err
			}
			if when.Always() {
				return fmt.Errorf("expected a condition, as in size = s and state hover; what always holds is said by the part itself")
			}
			r.When = when
			return nil
		case "part":
			p := partNamed(c, k.e.Text)
			if p == nil {
				return fmt.Errorf("there is no part %s; expected one of %s", word(k.e.Text), strings.Join(partNames(c), ", "))
			}
			r.Part = p.ID
			return nil
		}
	case "add":
		return k.say(c.Part(r.Part), n)
	case "remove":
		c.RemoveRule(n)
		if n > 0 && n >= len(c.Rules) {
			k.done.On = "rules/" + strconv.Itoa(n-1)
		} else if len(c.Rules) == 0 {
			k.done.On = "parts/" + c.Root.ID
		}
		k.note("rule of %s removed", name)
		return nil
	case "duplicate":
		k.done.On = "rules/" + strconv.Itoa(n+1)
		return c.DuplicateRule(n)
	case "move":
		by, err := k.by()
		if err != nil {
			return err
		}
		k.done.On = "rules/" + strconv.Itoa(c.MoveRule(n, by))
		k.note("rule of %s moved %s", name, k.e.Text)
		return nil
	}
	return k.unknown()
}

// say reads "gap 4px", and "when size = s: gap 4px", said of a part: by itself, or by a rule when
// n is not less than 0, or by a rule of its own.
func (k *editor) say(p *contract.Part, n int) error {
	text, when := k.e.Text, contract.When{}
	if after, ok := strings.CutPrefix(text, "when "); ok {
		condition, said, found := cutCondition(after)
		if !found {
			return fmt.Errorf("expected a colon behind the condition, as in when size = s: gap 4px")
		}
		var err error
		if when, err = k.c.ParseWords(condition, k.w.Themes); err != nil {
			return err
		}
		text = strings.TrimSpace(said)
	}
	property, value, _ := strings.Cut(text, " ")
	property, value = strings.TrimSuffix(property, ":"), strings.TrimSpace(value)
	if before, after, tight := strings.Cut(property, ":"); tight { // gap:4px
		property, value = before, strings.TrimSpace(after+" "+value)
	}
	if err := k.checkValue(property, value); err != nil {
		return err
	}
	switch {
	case !when.Always():
		k.c.SetValue(p.ID, property, when, value)
		for i, r := range k.c.Rules {
			if r.Part == p.ID && r.When.Equal(when) && r.Set[property] == value {
				k.done.On = fmt.Sprintf("rules/%d/%s", i, property)
			}
		}
	case n >= 0:
		k.c.Rules[n].Set[property] = value
		k.done.On = fmt.Sprintf("rules/%d/%s", n, property)
	default:
		if p.Style == nil {
			p.Style = contract.Style{}
		}
		p.Style[property] = value
		k.done.On = "parts/" + p.ID + "/" + property
	}
	k.note("%s · %s", p.Name, property)
	return nil
}

// outside lists the places of a letter in a text that are in no quotes.
func outside(text string, letter byte) (at []int) {
	inside := false
	for i := 0; i < len(text); i++ {
		switch {
		case inside && text[i] == '\\':
			i++
		case text[i] == '"':
			inside = !inside
		case text[i] == letter && !inside:
			at = append(at, i)
		}
	}
	return at
}

// cutCondition cuts at the first colon that is in no quotes.
func cutCondition(text string) (before, after string, found bool) {
	at := outside(text, ':')
	if len(at) == 0 {
		return text, "", false
	}
	return text[:at[0]], text[at[0]+1:], true
}

func (k *editor) checkValue(property, value string) error {
	if _, known := css.PropertyNamed(property); !known {
		near := ""
		for _, p := range css.PropertyNames() {
			if property != "" && (strings.HasPrefix(p, property) || strings.HasPrefix(property, p)) {
				near = ", such as " + p
				break
			}
		}
		return fmt.Errorf("%s is no property that a contract says%s", word(property), near)
	}
	if value == "" {
		return fmt.Errorf("expected a value of %s", property)
	}
	return contract.CheckValue(property, value, k.w.Tokens)
}

// value edits one declaration: of the part's own style, or of the rule n.
func (k *editor) value(p *contract.Part, n int, property string) error {
	if p == nil {
		return fmt.Errorf("there is no part that the rule is of")
	}
	style, row := p.Style, "parts/"+p.ID
	if n >= 0 {
		style, row = k.c.Rules[n].Set, "rules/"+strconv.Itoa(n)
	}
	was, ok := style[property]
	if !ok {
		return fmt.Errorf("%s says nothing of %s there", p.Name, property)
	}
	k.note("%s · %s", p.Name, property)
	switch {
	case k.e.Do == "remove":
		delete(style, property)
		k.done.On = row
		if n >= 0 && len(style) == 0 {
			k.c.RemoveRule(n)
			k.done.On = "parts/" + p.ID
		}
		k.note("%s · %s removed", p.Name, property)
		return nil
	case k.e.Do == "set" && k.e.Cell == "value":
		if err := k.checkValue(property, k.e.Text); err != nil {
			return err
		}
		style[property] = k.e.Text
		return nil
	case k.e.Do == "set" && k.e.Cell == "property":
		if err := k.checkValue(k.e.Text, was); err != nil {
			return err
		}
		delete(style, property)
		style[k.e.Text] = was
		k.done.On = row + "/" + k.e.Text
		return nil
	}
	return k.unknown()
}
