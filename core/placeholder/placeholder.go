// Package placeholder derives from a component's contract that of one which keeps its room while it loads: what shows text shows bars as long as its lines, what shows a picture
// a block or a disc, and everything stands where it will.
package placeholder

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/token"
)

// What bars and blocks look like: some of the colour that text has there, so that it fits every theme.
var bar = contract.Style{"background-color": "currentcolor", "opacity": "0.16", "animation": "breathe 1200ms ease-in-out"}

// Of derives a placeholder's contract. It is laid out as the component is with what it is looked at with, at every width and in every theme and arrangement that
// its choices and flags have. A component that is used inside keeps its own room, unseen, under a block.
func Of(c *contract.Contract) *contract.Contract {
	d := &deriving{of: c, ids: map[string]bool{}, rules: map[string][]contract.Rule{}, given: c.Defaults().With(c.Examples())}
	for _, r := range c.Rules {
		d.rules[r.Part] = append(d.rules[r.Part], r)
	}
	env := contract.EnvOf(d.given)
	if c.Behaviour != nil {
		d.states, _ = c.Behaviour.In(env)
	}
	d.out = &contract.Contract{Format: contract.Format, Name: c.Name + "Loading", Purpose: fmt.Sprintf("Keeps the room of %s while it loads.", c.Name), RoomOf: c.Name, Props: []contract.Prop{}}
	root := d.part(contract.Resolve(c, env, token.Empty()))
	if root.Attributes == nil {
		root.Attributes = map[string]contract.Attribute{}
	}
	root.Attributes["aria-busy"] = contract.Attribute{Text: "true"}
	for _, child := range root.Children {
		if child.Attributes == nil {
			child.Attributes = map[string]contract.Attribute{}
		}
		child.Attributes["aria-hidden"] = contract.Attribute{Text: "true"}
	}
	d.out.Root = root
	d.props()
	return d.out
}

type deriving struct {
	of     *contract.Contract
	out    *contract.Contract
	given  contract.Values
	states []string                   // that it begins in
	rules  map[string][]contract.Rule // of the component, by part
	ids    map[string]bool
}

// id gives a part of the placeholder an id of its own, as the part of the component has it where that is free.
func (d *deriving) id(key string) string {
	name := contract.Identifier(strings.NewReplacer("[", " ", "]", " ").Replace(key), "part")
	id := name
	for n := 2; d.ids[id]; n++ {
		id = fmt.Sprint(name, n)
	}
	d.ids[id] = true
	return id
}

// still is a style without what only somebody who uses it would see.
func still(s contract.Style) contract.Style {
	out := maps.Clone(s)
	for _, property := range []string{"cursor", "transition", "animation", "text-decoration-line"} {
		delete(out, property)
	}
	return out
}

// placed is how a part of the component stands, as one of the placeholder.
func (d *deriving) placed(r *contract.Resolved, element string) *contract.Part {
	id := d.id(r.Key())
	p := &contract.Part{ID: id, Name: id, Element: element, Style: still(r.Part.Style)}
	p.ShownWhen, _ = d.asked(r.Part.ShownWhen)
	for _, rule := range d.rules[r.Part.ID] {
		when, holds := d.asked(rule.When)
		if set := still(rule.Set); holds && len(set) > 0 {
			d.out.Rules = append(d.out.Rules, contract.Rule{Part: id, When: when, Set: set})
		}
	}
	if p.Style == nil {
		p.Style = contract.Style{}
	}
	return p
}

// asked gives what is still asked of a condition where texts, numbers and states are as at first; false where it never holds.
func (d *deriving) asked(w contract.When) (contract.When, bool) {
	var kept []contract.Term
	for _, t := range w.Terms() {
		switch t := t.(type) {
		case contract.InState:
			if !slices.Contains(d.states, t.State) {
				return w, false
			}
		case contract.NumberIs, contract.PropSet:
			if !contract.Of(t).Holds(contract.EnvOf(d.given)) {
				return w, false
			}
		case contract.PropIs:
			if !d.chosen(t.Prop) {
				if !contract.Of(t).Holds(contract.EnvOf(d.given)) {
					return w, false
				}
				continue
			}
			kept = append(kept, t)
		default:
			kept = append(kept, t)
		}
	}
	return contract.Of(kept...), true
}

// inline are the elements that stand in a line of text by themselves.
var inline = []string{"span", "strong", "em", "small", "mark", "time", "output", "data", "abbr", "code", "kbd", "q", "cite", "a", "label", "button", "summary"}

// plain is the element that stands as another does, and means nothing.
func plain(element string) string {
	if slices.Contains(inline, element) {
		return "span"
	}
	return "div"
}

// part derives a part, and what stands in it.
func (d *deriving) part(r *contract.Resolved) *contract.Part {
	p := r.Part
	switch {
	case p.Use() != nil, p.Element == "input", p.Element == "textarea", d.rich(p) && r.Text != "":
		return d.covered(r)
	case p.Element == "hr":
		return d.placed(r, "div")
	}
	switch p.Content.(type) {
	case contract.ImageOf, contract.Picture:
		if r.Image != nil || len(r.Children) == 0 {
			return d.block(r, natural(r))
		}
	case contract.IconOf, *contract.Vector:
		return d.block(r, contract.Style{})
	}
	out := d.placed(r, plain(p.Element))
	switch p.Element {
	case "button":
		if out.Style["display"] == "" {
			out.Style["display"] = "inline-block"
		}
	case "summary", "details":
		out.Element = "div"
	}
	if p.IsText() && r.Text != "" {
		id := d.id(out.ID + " bar")
		style := maps.Clone(bar)
		style["border-radius"] = "4px"
		out.Children = append(out.Children, &contract.Part{ID: id, Name: id, Element: "span", Style: style, Content: contract.FixedText{Text: r.Text}})
	}
	for _, child := range append(r.Children[:len(r.Children):len(r.Children)], r.Filled...) {
		if d.never(child) {
			continue
		}
		out.Children = append(out.Children, d.part(child))
	}
	return out
}

// rich tells whether a part shows rich text.
func (d *deriving) rich(p *contract.Part) bool {
	q := d.of.Prop(p.TextProp())
	return q != nil && q.Kind() == contract.RichKind
}

// never tells whether a part is not there, whatever choices and flags the component is given.
func (d *deriving) never(r *contract.Resolved) bool {
	items, _ := d.given[r.Part.Repeat].(contract.ListValue)
	if _, hidden := r.Attributes["hidden"]; hidden || r.Part.Repeat != "" && len(items) == 0 {
		return true
	}
	_, can := d.asked(r.Part.ShownWhen)
	if _, icon := r.Part.Content.(contract.IconOf); icon && r.Icon == nil {
		return true
	}
	return !can
}

// block is what stands for a picture: as large, and as round.
func (d *deriving) block(r *contract.Resolved, size contract.Style) *contract.Part {
	out := d.placed(r, "span")
	for property, value := range size {
		if out.Style[property] == "" {
			out.Style[property] = value
		}
	}
	for _, property := range []string{"object-fit", "fill", "background-image"} {
		delete(out.Style, property)
	}
	if out.Style["display"] == "" {
		out.Style["display"] = "block"
	}
	maps.Copy(out.Style, bar)
	for i := range d.out.Rules {
		if rule := &d.out.Rules[i]; rule.Part == out.ID {
			for _, property := range []string{"object-fit", "fill", "background-image", "background-color", "opacity"} {
				delete(rule.Set, property)
			}
		}
	}
	d.out.Rules = slices.DeleteFunc(d.out.Rules, func(rule contract.Rule) bool { return len(rule.Set) == 0 })
	return out
}

// natural gives the size that a picture has by itself, where nothing else says one.
func natural(r *contract.Resolved) contract.Style {
	var w, h float64
	switch content := r.Part.Content.(type) {
	case contract.Picture:
		w, h = content.Width, content.Height
	case contract.ImageOf:
		if r.Image != nil {
			w, h = r.Image.Width, r.Image.Height
		}
	}
	if !(w > 0 && h > 0) {
		return nil
	}
	_, wide := r.Values["width"]
	_, high := r.Values["height"]
	switch {
	case wide && high:
		return nil
	case wide || high:
		return contract.Style{"aspect-ratio": css.FormatNumber(w) + " / " + css.FormatNumber(h)}
	}
	return contract.Style{"width": css.FormatNumber(w) + "px", "aspect-ratio": css.FormatNumber(w) + " / " + css.FormatNumber(h)}
}

// covered is a block as large as what stands in it unseen: a component that is used, a field, rich text.
func (d *deriving) covered(r *contract.Resolved) *contract.Part {
	within := r // what is seen of it
	if r.Inside != nil {
		within = r.Inside
	}
	element, display := plain(r.Part.Element), "grid"
	if shown := within.Values["display"].Value; strings.HasPrefix(shown, "inline") || shown == "" && slices.Contains(append(inline, "input", "textarea"), within.Part.Element) {
		element, display = "span", "inline-grid"
	}
	out := d.placed(r, element)
	if r.Inside == nil { // what it looks like is the field's or the text's
		out.Style, d.out.Rules = contract.Style{}, slices.DeleteFunc(d.out.Rules, func(rule contract.Rule) bool { return rule.Part == out.ID })
		for _, property := range []string{"flex", "align-self", "justify-self", "grid-area", "width", "margin-inline", "margin-left", "margin-top"} {
			if value := r.Part.Style[property]; value != "" {
				out.Style[property] = value
			}
		}
	}
	out.Style["display"] = display
	if out.Style["position"] == "" {
		out.Style["position"] = "relative"
	}
	out.Attributes = map[string]contract.Attribute{"inert": {Text: "true"}}
	part := func(words, element string, style contract.Style, content contract.Content, children ...*contract.Part) *contract.Part {
		id := d.id(r.Key() + words)
		return &contract.Part{ID: id, Name: id, Element: element, Style: style, Content: content, Children: children}
	}
	var inner *contract.Part
	if u := r.Part.Use(); u != nil {
		use, children := d.used(r, u)
		inner = part(" itself", "", nil, use, children...)
	} else {
		style := still(r.Part.Style)
		for _, property := range []string{"flex", "align-self", "justify-self", "grid-area", "margin-inline", "margin-left", "margin-top"} {
			delete(style, property)
		}
		if style["width"] != "" {
			style["width"] = "100%"
		}
		inner = part(" itself", r.Part.Element, style, r.Part.Content)
		inner.Attributes = maps.Clone(r.Part.Attributes)
		for name, a := range inner.Attributes {
			if a.Part != "" || a.Prop != "" {
				delete(inner.Attributes, name)
			}
		}
		if d.rich(r.Part) {
			inner.Element = plain(r.Part.Element)
			d.keep(r.Part.TextProp())
		}
	}
	room := part(" room", element, contract.Style{"display": "grid", "opacity": "0"}, nil, inner)
	cover := maps.Clone(bar)
	maps.Copy(cover, contract.Style{"position": "absolute", "inset": "0px"})
	if radius, said := within.Values["border-radius"]; said {
		cover["border-radius"] = radius.Expression
	} else {
		cover["border-radius"] = "4px"
	}
	out.Children = []*contract.Part{room, part(" cover", "span", cover, nil)}
	return out
}

// used is a use of a component that is given what it is looked at with, and choices and flags as before; with the parts that stand in its slots.
func (d *deriving) used(r *contract.Resolved, u *contract.Use) (*contract.Use, []*contract.Part) {
	out := contract.UseOf(u.Of())
	var children []*contract.Part
	for _, q := range u.Of().Props {
		g, v := u.Given[q.ID], r.Given[q.ID]
		switch {
		case q.Kind() == contract.EventKind:
		case len(g.Parts) > 0:
			var ids []string
			for _, child := range r.Children {
				if slices.Contains(g.Parts, child.Part.ID) && !d.never(child) {
					one := d.part(child)
					children, ids = append(children, one), append(ids, one.ID)
				}
			}
			if ids != nil {
				out.Given[q.ID] = contract.Given{Parts: ids}
			}
		case q.Kind() == contract.SlotKind:
		case d.chosen(g.Prop):
			out.Given[q.ID] = contract.Given{Prop: g.Prop}
		case v != nil && (q.Kind() == contract.TextKind || !contract.Equal(v, q.Default())):
			if text, err := json.Marshal(v); err == nil {
				out.Given[q.ID] = contract.Given{Value: text}
			}
		}
	}
	return out, children
}

// chosen tells whether a prop is one that the placeholder has, too: a choice or a flag.
func (d *deriving) chosen(id string) bool {
	p := d.of.Prop(id)
	return p != nil && !strings.Contains(id, ".") && (p.Kind() == contract.ChoiceKind || p.Kind() == contract.FlagKind)
}

// keep keeps a prop with what it is looked at with as its default.
func (d *deriving) keep(id string) {
	if p := d.of.Prop(id); p != nil && d.out.Prop(id) == nil {
		q := *p
		q.Required, q.From, q.Part = false, nil, ""
		d.out.Props = append(d.out.Props, q)
	}
}

// props keeps the choices and flags that anything depends on.
func (d *deriving) props() {
	ask := func(w contract.When) {
		for _, t := range w.Terms() {
			if is, ok := t.(contract.PropIs); ok {
				d.keep(is.Prop)
			}
		}
	}
	for _, r := range d.out.Rules {
		ask(r.When)
	}
	d.out.Walk(func(p, _ *contract.Part) {
		ask(p.ShownWhen)
		if u := p.Use(); u != nil {
			for _, g := range u.Given {
				if g.Prop != "" {
					d.keep(g.Prop)
				}
			}
		}
	})
}
