package sheet

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
)

// A part's element is written with its attributes, type=button aria-label={label} for=#field, and a
// use as the component with what it is given. Three dots at the end pass on all the rest.

const rest = "..."

// cases stands for values that hang on conditions: they stay as they are.
const cases = "(by cases)"

func elementText(c *contract.Contract, p *contract.Part) string {
	if u := p.Use(); u != nil {
		out := []string{u.Component}
		for _, g := range givenWords(c, u) {
			out = append(out, g.name+"="+g.value)
		}
		if u.All {
			out = append(out, rest)
		}
		return strings.Join(out, " ")
	}
	out := []string{p.Element}
	if p.Level != "" {
		out = append(out, "level="+propText(c, p.Level))
	}
	if len(p.As) > 0 {
		out = append(out, "as="+strings.Join(p.As, ","))
	}
	for _, name := range slices.Sorted(maps.Keys(p.Attributes)) {
		a := p.Attributes[name]
		switch {
		case a.Prop != "":
			out = append(out, name+"="+propText(c, a.Prop))
		case a.Part != "":
			out = append(out, name+"=#"+partName(c, a.Part))
		default:
			out = append(out, name+"="+word(a.Text))
		}
	}
	return strings.Join(out, " ")
}

type givenWord struct{ id, name, value string }

// givenWords lists what a use is given, in the order of the component's props.
func givenWords(c *contract.Contract, u *contract.Use) (out []givenWord) {
	for _, id := range slices.Sorted(maps.Keys(u.Given)) {
		g, name := u.Given[id], id
		if of := u.Of(); of != nil && of.Prop(id) != nil {
			name = of.Prop(id).Name
		}
		value := ""
		switch {
		case len(g.Cases) > 0:
			value = cases
		case g.Prop != "":
			value = propText(c, g.Prop)
		case len(g.Parts) > 0:
			names := make([]string, len(g.Parts))
			for i, part := range g.Parts {
				names[i] = "#" + partName(c, part)
			}
			value = strings.Join(names, ",")
		default:
			if value = string(g.Value); strings.HasPrefix(value, `"`) {
				var text string
				if json.Unmarshal(g.Value, &text) == nil {
					value = word(text)
				}
			}
		}
		out = append(out, givenWord{id, name, value})
	}
	if of := u.Of(); of != nil {
		rank := func(g givenWord) int {
			return slices.IndexFunc(of.Props, func(p contract.Prop) bool { return p.ID == g.id })
		}
		slices.SortStableFunc(out, func(a, b givenWord) int { return rank(a) - rank(b) })
	}
	return out
}

func showsText(c *contract.Contract, p *contract.Part) string {
	switch content := p.Content.(type) {
	case contract.TextOf:
		return propText(c, content.Prop)
	case contract.ImageOf:
		return propText(c, content.Prop)
	case contract.IconOf:
		return propText(c, content.Prop)
	case contract.SlotOf:
		return propText(c, content.Prop)
	case contract.FixedText:
		return quoted(content.Text)
	case *contract.Vector:
		return "drawing"
	case contract.Picture:
		return "picture"
	}
	return ""
}

// readShows sets what a part shows: {prop}, a text, of an svg an icon of the library by its name, or nothing.
func readShows(c *contract.Contract, p *contract.Part, text string, icons func(string) *contract.Vector) error {
	if p.Use() != nil {
		return fmt.Errorf("%s is a use of %s, and shows what that shows", p.Name, p.Use().Component)
	}
	if text == showsText(c, p) {
		return nil
	}
	if strings.HasPrefix(text, "{") {
		id, err := propNamed(c, text)
		if err != nil {
			return err
		}
		return c.Show(p.ID, id)
	}
	plain, err := unquoted(text)
	if err != nil {
		return err
	}
	if p.Element == "svg" && plain != "" {
		v := icons(plain)
		if v == nil {
			return fmt.Errorf("there is no icon %s in the library: drop its SVG file among the icons", word(plain))
		}
		drawn := *v
		p.ShowDrawing(&drawn)
		return nil
	}
	p.ShowText(plain)
	return nil
}

// readElement sets a part's element with its attributes, or makes it a use of a component.
// Of gives a component by its name; nil for none.
func readElement(c *contract.Contract, p *contract.Part, text string, of func(string) *contract.Contract) error {
	words := split(text)
	if len(words) == 0 {
		return fmt.Errorf("expected an element, as in button type=button, or a component")
	}
	name := words[0]
	if component := of(name); component != nil && name[0] >= 'A' {
		return readUse(c, p, component, words[1:])
	}
	if !slices.Contains(contract.Elements, name) {
		return fmt.Errorf("%s is no element a component is made of, and no component; expected one of %s", word(name), strings.Join(contract.Elements, ", "))
	}
	level, as, attributes := "", []string(nil), map[string]contract.Attribute{}
	for _, w := range words[1:] {
		key, value, has := strings.Cut(w, "=")
		if !has {
			value = "true"
		}
		switch key {
		case "level":
			id, err := propNamed(c, value)
			if err != nil {
				return err
			}
			level = id
			continue
		case "as":
			as = strings.Split(value, ",")
			continue
		}
		a, err := readAttribute(c, name, key, value)
		if err != nil {
			return err
		}
		attributes[key] = a
	}
	if p.Use() != nil {
		p.Content = nil
	}
	p.Element, p.Level, p.As = name, level, as
	if p.Attributes = attributes; len(attributes) == 0 {
		p.Attributes = nil
	}
	return nil
}

func readAttribute(c *contract.Contract, element, name, value string) (a contract.Attribute, err error) {
	kind, words, ok := contract.AttributeOf(element, name)
	switch {
	case !ok:
		return a, fmt.Errorf("%s is no attribute that %s may have", word(name), element)
	case strings.HasPrefix(value, "{"):
		a.Prop, err = propNamed(c, value)
	case kind == contract.PartAttribute:
		p := partNamed(c, strings.TrimPrefix(value, "#"))
		if p == nil {
			return a, fmt.Errorf("%s takes a part, as in %s=#%s", name, name, c.Root.Name)
		}
		a.Part = p.ID
	default:
		if a.Text, err = unquoted(value); err == nil && len(words) > 0 && kind == contract.WordAttribute && !slices.Contains(words, a.Text) {
			err = fmt.Errorf("%s is one of %s", name, strings.Join(words, ", "))
		}
	}
	return a, err
}

// readUse makes a part a use. A prop that it is given and that is not there yet is passed on: it
// becomes a prop of this component.
func readUse(c *contract.Contract, p *contract.Part, of *contract.Contract, words []string) error {
	if p == c.Root {
		return fmt.Errorf("a component is made of an element, and its root cannot be a use of %s", of.Name)
	}
	if of.Name == c.Name {
		return fmt.Errorf("%s would be made of itself", c.Name)
	}
	u := contract.UseOf(of)
	var passed []givenWord // to props that are not there yet
	old := p.Use()
	if old != nil && old.Component != of.Name {
		old = nil
	}
	for _, w := range words {
		if w == rest {
			u.All = true
			continue
		}
		key, value, has := strings.Cut(w, "=")
		if !has {
			value = "true"
		}
		var q *contract.Prop
		names := []string{}
		for i := range of.Props {
			if names = append(names, of.Props[i].Name); of.Props[i].Name == key {
				q = &of.Props[i]
			}
		}
		if q == nil {
			return fmt.Errorf("%s has no prop %s; expected one of %s", of.Name, word(key), strings.Join(names, ", "))
		}
		if name := strings.Trim(value, "{}"); isProp(value) && identifier.MatchString(name) {
			if _, err := propNamed(c, value); err != nil {
				passed = append(passed, givenWord{q.ID, q.Name, name})
				continue
			}
		}
		g, err := readGiven(c, p, q, value)
		if value == cases && old != nil {
			g, err = old.Given[q.ID], nil
		}
		if err != nil {
			return err
		}
		u.Given[q.ID] = g
	}
	if old == nil {
		p.Style = nil // of what is inside, a use says nothing
		c.Rules = slices.DeleteFunc(c.Rules, func(r contract.Rule) bool { return r.Part == p.ID })
	}
	p.Element, p.Attributes, p.Level, p.As, p.Content = "", nil, "", nil, u
	// Props that were passed on to what is no longer bound to them are the component's own.
	for i := range c.Props {
		if from := c.Props[i].From; from != nil && from.Part == p.ID && u.Given[from.Prop].Prop != c.Props[i].ID {
			c.Props[i].From = nil
		}
	}
	for _, w := range passed {
		c.PassOn(p, w.id, w.value)
	}
	return nil
}

// isProp tells whether a word is a prop's name in braces, and no object of JSON.
func isProp(word string) bool {
	return strings.HasPrefix(word, "{") && !strings.HasPrefix(word, `{"`)
}

func readGiven(c *contract.Contract, p *contract.Part, q *contract.Prop, value string) (g contract.Given, err error) {
	switch {
	case value == cases:
		return g, fmt.Errorf("%s is given nothing by cases", q.Name)
	case isProp(value):
		g.Prop, err = propNamed(c, value)
		return g, err
	case q.Kind() == contract.SlotKind:
		for _, name := range strings.Split(value, ",") {
			child := partNamed(c, strings.TrimPrefix(name, "#"))
			if child == nil || !slices.Contains(p.Children, child) {
				return g, fmt.Errorf("%s is a slot: it takes parts that stand in %s, as in %s=#label", q.Name, p.Name, q.Name)
			}
			g.Parts = append(g.Parts, child.ID)
		}
		return g, nil
	}
	v, err := readValue(q.Type, value)
	if err != nil {
		return g, fmt.Errorf("%s: %w", q.Name, err)
	}
	g.Value, err = json.Marshal(v)
	return g, err
}
