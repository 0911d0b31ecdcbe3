package trial

import (
	"encoding/json"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
)

// use makes the part of a use of a component; several where it is given something else at some widths, of which one is there.
func (c *compiler) use(r *Row, in []*scope) []*contract.Part {
	of := c.component(r.Head)
	if of == nil {
		c.fail(r, nil, "add the component, or type the name of another", "there is no component %s", r.Head)
		return nil
	}
	var widths []*Row // of what it is given
	var standing []*Row
	for _, w := range r.widthRows() {
		switch {
		case c.without[w.Line]:
		case slices.ContainsFunc(w.Args, func(a Arg) bool { return propNamed(of, a.Name) != nil }):
			if len(widths) > 0 && widths[0].In != w.In {
				c.fail(w, nil, "ask the same in all of them", "what a use is given depends on the width of one thing")
				continue
			}
			widths = append(widths, w)
		default:
			standing = append(standing, w)
		}
	}
	if len(widths) == 0 {
		return []*contract.Part{c.given(r, of, r.Args, standing, in)}
	}
	var out []*contract.Part
	for _, s := range segmentsOf(r, widths) {
		p := c.given(r, of, s.args, standing, in)
		for _, beyond := range []contract.Range{{Below: s.From}, {From: s.Below}} {
			if beyond != (contract.Range{}) {
				c.hides = append(c.hides, contract.Rule{Part: p.ID, When: widths[0].when(beyond), Set: contract.Style{"display": "none"}})
			}
		}
		out = append(out, p)
	}
	return out
}

// segment is a range of widths, and what a use is given there.
type segment struct {
	contract.Range
	args []Arg
}

// segmentsOf tells what a use is given from the narrowest width to the widest; later rows win.
func segmentsOf(r *Row, widths []*Row) (out []segment) {
	cuts := []float64{0}
	for _, w := range widths {
		cuts = append(cuts, w.Range.From)
		if w.Range.Below > 0 {
			cuts = append(cuts, w.Range.Below)
		}
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	for i, from := range cuts {
		s := segment{Range: contract.Range{From: from}, args: r.Args}
		if i+1 < len(cuts) {
			s.Below = cuts[i+1]
		}
		for _, w := range widths {
			if w.Range.Holds(max(from, 0.5)) {
				s.args = mergedArgs(s.args, w.Args)
			}
		}
		if last := len(out) - 1; last >= 0 && slices.EqualFunc(out[last].args, s.args, func(a, b Arg) bool { return a.String() == b.String() }) {
			out[last].Below = s.Below
			continue
		}
		out = append(out, s)
	}
	return out
}

// stands writes the rule of how a part stands otherwise in some widths; what is shown again has its display.
func (c *compiler) stands(w *Row, part, display string) {
	set := contract.Style{}
	c.style(w, w.Args, set, func(a *Arg) bool { return a.Name == "shown" && a.Kind == FlagArg })
	if w.arg("shown") != nil {
		set["display"] = display
	}
	c.rule(w, part, w.when(w.Range), set)
}

// shownAs is the display of an element that is not hidden: its own, else that of HTML (HTML, 15.3.3 and 15.5).
func shownAs(element string, style contract.Style) string {
	if d := style["display"]; d != "" && d != "none" {
		return d
	}
	switch element {
	case "span", "a", "strong", "em", "small", "mark", "time", "output", "data", "abbr", "code", "kbd", "q", "cite", "label":
		return "inline"
	case "button", "input", "textarea":
		return "inline-block"
	}
	return "block"
}

// propNamed finds a prop of a component by its name; nil for none.
func propNamed(of *contract.Contract, name string) *contract.Prop {
	for i := range of.Props {
		if of.Props[i].Name == name {
			return &of.Props[i]
		}
	}
	return nil
}

// given makes a use that is given arguments.
func (c *compiler) given(r *Row, of *contract.Contract, args []Arg, standing []*Row, in []*scope) *contract.Part {
	p := c.part(r, strings.ToLower(r.Head[:1])+r.Head[1:])
	u := contract.UseOf(of)
	p.Content, p.Style = u, contract.Style{}
	c.style(r, args, p.Style, func(a *Arg) bool {
		q := propNamed(of, a.Name)
		if q != nil {
			if g, ok := c.bind(r, a, *q, in); ok {
				u.Given[q.ID] = c.lifted(p.ID, *q, g)
			}
			return true
		}
		if _, known := css.PropertyNamed(a.Name); known && a.Name != "hidden" && a.Name != "named" && !contract.Standing(a.Name) {
			c.fail(r, a, "give the component a prop for it, or put it into a box", "%s is the affair of %s: a use says only how it stands", a.Name, of.Name)
			return true
		} else if !known && a.Name != "hidden" {
			c.fail(r, a, c.nearestOf(a.Name, propNames(of)), "%s has no prop %s", of.Name, a.Name)
			return true
		}
		return false
	})
	for _, w := range standing {
		c.stands(w, p.ID, shownAs(of.Root.Element, of.Root.Style))
	}
	at := len(c.page.Pieces)
	c.piece(Piece{Part: p.ID, Line: r.Line, Component: of.Name, Name: of.Name}, in)
	c.slots(r, p, of, in)
	c.page.Pieces[at].Filled = len(p.Children) > 0
	return p
}

func propNames(of *contract.Contract) []string {
	out := make([]string, len(of.Props))
	for i, p := range of.Props {
		out[i] = p.Name
	}
	return out
}

// slots puts what a row holds into the slots of its component.
func (c *compiler) slots(r *Row, p *contract.Part, of *contract.Contract, in []*scope) {
	u := p.Use()
	put := func(slot *contract.Prop, rows []*Row) {
		var parts []*contract.Part
		parts = append(parts, c.rows(rows, in)...)
		if len(parts) == 0 {
			return
		}
		g := u.Given[slot.ID]
		for _, part := range parts {
			g.Parts = append(g.Parts, part.ID)
		}
		u.Given[slot.ID] = g
		p.Children = append(p.Children, parts...)
	}
	var plain []*Row
	for _, child := range r.Children {
		switch {
		case child.Kind == NoteRow, child.Kind == WidthRow && len(child.Children) == 0:
		case child.Kind == SlotRow:
			if slot := propNamed(of, child.Head); slot != nil && slot.Kind() == contract.SlotKind {
				put(slot, child.Children)
			} else {
				c.fail(child, nil, c.slotWords(of), "%s has no slot %s", of.Name, child.Head)
			}
		default:
			plain = append(plain, child)
		}
	}
	if len(plain) == 0 {
		return
	}
	slot := mainSlot(of)
	if slot == nil {
		c.fail(plain[0], nil, c.slotWords(of), "it is not said in which slot of %s this stands", of.Name)
		return
	}
	put(slot, plain)
}

// mainSlot is the slot that what stands in a component without a word goes to: the one named children, or the only one.
func mainSlot(of *contract.Contract) *contract.Prop {
	var slots []*contract.Prop
	for i := range of.Props {
		if of.Props[i].Kind() != contract.SlotKind {
			continue
		}
		if of.Props[i].Name == "children" {
			return &of.Props[i]
		}
		slots = append(slots, &of.Props[i])
	}
	if len(slots) == 1 {
		return slots[0]
	}
	return nil
}

func (c *compiler) slotWords(of *contract.Contract) string {
	var names []string
	for _, p := range of.Props {
		if p.Kind() == contract.SlotKind {
			names = append(names, "to "+p.Name)
		}
	}
	if len(names) == 0 {
		return of.Name + " has no slot: put it beside"
	}
	return "put it into " + strings.Join(names, ", or ")
}

// element makes the part of an element of HTML.
func (c *compiler) element(r *Row, in []*scope) []*contract.Part {
	called := r.Head
	p := c.part(r, called)
	p.Element, p.Style, p.Attributes = r.Head, contract.Style{}, map[string]contract.Attribute{}
	if r.Head == richHead {
		p.Element = "div"
	}
	c.says(r, p, in)
	attribute := func(a *Arg) bool {
		if a.Name == "hidden" || a.Name == "named" {
			return false
		}
		if _, style := css.PropertyNamed(a.Name); style {
			return false
		}
		kind, _, ok := contract.AttributeOf(p.Element, a.Name)
		if !ok {
			return false
		}
		c.attribute(r, p, a, kind, in)
		return true
	}
	c.style(r, r.Args, p.Style, attribute)
	p.Children = c.rows(r.Children, in)
	for _, w := range r.widthRows() {
		if c.without[w.Line] {
			continue
		}
		c.stands(w, p.ID, shownAs(p.Element, p.Style))
	}
	if r.Said != nil {
		c.piece(Piece{Part: p.ID, Line: r.Line, Name: r.Head}, in)
	}
	return []*contract.Part{p}
}

// says gives an element what it shows.
func (c *compiler) says(r *Row, p *contract.Part, in []*scope) {
	if r.Said == nil {
		if r.Head == "img" {
			p.Content = contract.Picture{}
			p.Element = "div" // the room of a picture that nobody gave
		}
		return
	}
	var q contract.Prop
	switch {
	case r.Head == "img":
		q = contract.Prop{ID: "picture", Name: r.Head, Type: contract.Image{}}
	case r.Head == richHead:
		q = contract.Prop{ID: "body", Name: r.Head, Type: contract.Rich{}}
	default:
		q = contract.Prop{ID: "text", Name: r.Head, Type: contract.Text{}}
	}
	g, ok := c.bind(r, r.Said, q, in)
	if !ok {
		if r.Head == "img" {
			p.Element, p.Content = "div", contract.Picture{}
		}
		return
	}
	if q.Kind() == contract.TextKind {
		g = c.lifted(p.ID, contract.Prop{Name: "says", Type: q.Type}, g)
	}
	switch {
	case g.Prop == "" && q.Kind() == contract.TextKind:
		var text string
		_ = json.Unmarshal(g.Value, &text) // it was written so
		p.Content = contract.FixedText{Text: text}
	case g.Prop == "" && q.Kind() == contract.ImageKind:
		var v contract.ImageValue
		_ = json.Unmarshal(g.Value, &v)
		p.Content = contract.Picture{Alt: v.Alt, Source: v.Source, Width: v.Width, Height: v.Height}
	case q.Kind() == contract.ImageKind:
		p.Content = contract.ImageOf{Prop: g.Prop}
	case g.Prop == "":
		v, err := q.Type.Decode(g.Value)
		if err != nil {
			return
		}
		p.Content = contract.TextOf{Prop: c.constant(contract.Prop{Name: q.ID, Type: q.Type}, v)}
	default:
		p.Content = contract.TextOf{Prop: g.Prop}
	}
}

// kindsOfAttributes are the props that attributes take values of.
var kindsOfAttributes = map[contract.AttributeKind]contract.Type{
	contract.TextAttribute: contract.Text{}, contract.NumberAttribute: contract.Number{}, contract.FlagAttribute: contract.Flag{}, contract.LinkAttribute: contract.Link{},
}

func (c *compiler) attribute(r *Row, p *contract.Part, a *Arg, kind contract.AttributeKind, in []*scope) {
	of := kindsOfAttributes[kind]
	switch {
	case a.Kind == FlagArg:
		p.Attributes[a.Name] = contract.Attribute{Text: "true"}
	case a.Kind == BareArg, of == nil:
		p.Attributes[a.Name] = contract.Attribute{Text: a.Value}
	default:
		g, ok := c.bind(r, a, contract.Prop{ID: a.Name, Name: a.Name, Type: of}, in)
		switch {
		case !ok:
		case g.Prop != "":
			p.Attributes[a.Name] = contract.Attribute{Prop: g.Prop}
		default:
			p.Attributes[a.Name] = contract.Attribute{Text: strings.Trim(string(g.Value), `"`)}
			var text string
			if json.Unmarshal(g.Value, &text) == nil {
				p.Attributes[a.Name] = contract.Attribute{Text: text}
			}
		}
	}
}

// constant makes a prop of the page that is shown with one value, and gives its id.
func (c *compiler) constant(q contract.Prop, v contract.Value) string {
	id := c.freeProp(contract.Identifier(q.Name, "text"))
	c.page.Contract.Props = append(c.page.Contract.Props, contract.Prop{ID: id, Name: id, Required: q.Required, Type: q.Type})
	c.page.Values[id] = v
	return id
}
