package source

import (
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// attributes reads an element's attributes into its part, and gives its classes.
func (r *reader) attributes(p *contract.Part, tag *syntax.Node, s *scope) (classNames []class) {
	var later []func()
	for _, a := range tag.Inner() {
		switch {
		case a.Field == "name":
		case a.Is("jsx_expression"): // {...rest}
			spread := a.First("spread_element")
			if spread == nil {
				continue
			}
			if m, ok := r.means(bare(spread.Lead()), s); ok && (m.kind == restProps || m.kind == propsWhole) {
				r.spread = p
				continue
			}
			r.unread(a, "attribute", "the attributes in "+shortened(a.Text()))
		case a.Is("jsx_attribute"):
			name, value := a.Lead().Text(), (*syntax.Node)(nil)
			if inner := a.Inner(); len(inner) > 1 {
				value = inner[1]
			}
			switch name {
			case "className", "class":
				classNames = r.classAttribute(value, s)
				r.has[p] = classNames
			case "style":
				r.inlineStyle(p, value, s)
			case "key", "ref", "suppressHydrationWarning":
			case "dangerouslySetInnerHTML":
				r.unread(a, "content", "markup that is put in as a text")
			default:
				later = append(later, func() { r.attribute(p, name, value, a, s) })
			}
		}
	}
	for _, read := range later { // a part is named by its classes first
		read()
	}
	return classNames
}

func (r *reader) classAttribute(value *syntax.Node, s *scope) []class {
	if value.Is("string") {
		var out []class
		for _, name := range strings.Fields(jsxString(value)) {
			out = append(out, classOf(name, always()))
		}
		return out
	}
	return r.classes(value, s)
}

func (r *reader) attribute(p *contract.Part, jsx string, value, at *syntax.Node, s *scope) {
	name := attributeName(jsx)
	if len(jsx) > 2 && strings.HasPrefix(jsx, "on") && isCapital(jsx[2:]) {
		r.handler(p, jsx, value, at, s)
		return
	}
	set := func(a contract.Attribute) {
		if name == "type" && p.Element == "button" && a.Text == "button" {
			return // every button of ours that says nothing else is
		}
		if name == "aria-hidden" && (p.Element == "svg" || p.Element == "img") && a.Text == "true" {
			return // as any drawing without a label
		}
		if p.Attributes == nil {
			p.Attributes = map[string]contract.Attribute{}
		}
		p.Attributes[name] = a
		r.laterPlace(p, "attribute "+name, at)
	}
	switch {
	case value == nil:
		set(contract.Attribute{Text: "true"})
		return
	case value.Is("string"):
		set(contract.Attribute{Text: jsxString(value)})
		return
	}
	inner := bare(value)
	if v, ok := constant(inner); ok {
		switch v := v.(type) {
		case string:
			set(contract.Attribute{Text: v})
		case float64:
			set(contract.Attribute{Text: contract.NumberValue(v).String()})
		case bool:
			if v || strings.HasPrefix(name, "aria-") {
				set(contract.Attribute{Text: map[bool]string{true: "true", false: "false"}[v]})
			}
		}
		return
	}
	if part, ok := r.placeOf(inner, s); ok {
		if name == "id" {
			r.places[p] = part
			return
		}
		set(contract.Attribute{Part: part})
		return
	}
	if o, ok := r.operand(inner, s); ok && o.orElse == nil {
		if o.member != "" {
			if q := r.out.Prop(o.prop); q != nil && q.Kind() == contract.ImageKind {
				if name == o.member {
					p.Content = contract.ImageOf{Prop: o.prop}
					r.laterPlace(p, "content", at)
					return
				}
			}
		} else {
			set(contract.Attribute{Prop: o.prop})
			return
		}
	}
	if file := r.pictureFile(inner); file != "" && name == "src" {
		r.picture(p, file)
		return
	}
	if name == "id" {
		return
	}
	r.unread(at, "attribute", name+" of "+shortened(inner.Text()))
	r.keep(p, name, inner)
}

// laterPlace notes where something of a part is said; the part's name is not known yet.
func (r *reader) laterPlace(p *contract.Part, what string, at *syntax.Node) {
	if r.silent {
		return
	}
	file, line, column := at.Place()
	if r.later == nil {
		r.later = map[*contract.Part]map[string]Position{}
	}
	if r.later[p] == nil {
		r.later[p] = map[string]Position{}
	}
	r.later[p][what] = Position{file, line, column}
}

// placeOf reads the place of a part: what useId gave, a hyphen and the part's id; of one that is there for each item its place in the list, too.
func (r *reader) placeOf(n *syntax.Node, s *scope) (part string, ok bool) {
	if !n.Is("template_string") {
		return "", false
	}
	pieces := templatePieces(n)
	if len(pieces) < 2 || pieces[0].expression == nil {
		return "", false
	}
	if m, known := r.means(bare(pieces[0].expression), s); !known || m.kind != partPlace {
		return "", false
	}
	part = strings.TrimPrefix(pieces[1].text, "-")
	for _, p := range pieces[2:] {
		if p.expression == nil {
			continue
		}
		if m, known := r.means(bare(p.expression), s); !known || m.kind != listIndex {
			return "", false
		}
	}
	if len(pieces) > 2 {
		part = strings.TrimSuffix(part, "-")
	}
	return part, part != ""
}

// handler reads what hears an event: a prop, or code of the component's own.
func (r *reader) handler(p *contract.Part, jsx string, value, at *syntax.Node, s *scope) {
	event := strings.ToLower(strings.TrimPrefix(jsx, "on"))
	if event == "doubleclick" {
		event = "dblclick"
	}
	if value != nil {
		if o, ok := r.operand(bare(value), s); ok && o.member == "" {
			if q := r.out.Prop(o.prop); q != nil && q.Kind() == contract.EventKind {
				q.Type = contract.Event{On: event}
				r.hears = append(r.hears, hearing{q.ID, p})
				return
			}
		}
	}
	r.unread(at, "behaviour", "what happens on "+event)
	if value != nil {
		r.keep(p, "on "+event, bare(value))
	}
}

// codeOf begins the property of a piece of code that no contract holds.
const codeOf = "code of "

// keep holds on to a piece of code that no contract holds, so that it is known when it changes. The part is nil for one of the component's.
func (r *reader) keep(p *contract.Part, what string, n *syntax.Node) {
	if !r.silent {
		r.kept = append(r.kept, keptPiece{p, what, meaningOf(n), n})
	}
}

type keptPiece struct {
	part       *contract.Part
	what, text string
	at         *syntax.Node
}

// hearing is a prop that is called when a part hears an event.
type hearing struct {
	prop string
	part *contract.Part
}
