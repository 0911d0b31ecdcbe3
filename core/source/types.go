package source

import (
	"slices"
	"strings"

	"cobrik/core/source/syntax"
)

// member is one that a type of props holds.
type member struct {
	name     string
	optional bool
	typed    *syntax.Node // nil for a method
	in       *module
	at       *syntax.Node
}

// shape is what a type of props says.
type shape struct {
	members []member
	native  string     // the element whose attributes are taken, too; empty for none
	omitted []string   // of those, and of members that others give
	apart   [][]string // names of members of which one at most is given
}

const mostTypes = 60 // in each other, and aliases that are followed

func typeIn(annotation *syntax.Node) *syntax.Node {
	if annotation.Is("type_annotation") {
		if inner := annotation.Inner(); len(inner) > 0 {
			return inner[0]
		}
	}
	return annotation
}

// lastName is the name of a type without the namespace it may stand in.
func lastName(n *syntax.Node) string {
	text := n.Text()
	return text[strings.LastIndexByte(text, '.')+1:]
}

// attributeTypes are React's types of an element's attributes.
var attributeTypes = map[string]string{
	"ButtonHTMLAttributes": "button", "AnchorHTMLAttributes": "a", "InputHTMLAttributes": "input", "TextareaHTMLAttributes": "textarea", "LabelHTMLAttributes": "label",
	"ImgHTMLAttributes": "img", "FieldsetHTMLAttributes": "fieldset", "DetailsHTMLAttributes": "details", "DialogHTMLAttributes": "dialog", "TimeHTMLAttributes": "time",
	"HTMLAttributes": "*", "HTMLProps": "*", "AllHTMLAttributes": "*", "DOMAttributes": "*", "AriaAttributes": "*", "SVGAttributes": "svg", "SVGProps": "svg",
	"SelectHTMLAttributes": "select", "FormHTMLAttributes": "form", "TableHTMLAttributes": "table", "LiHTMLAttributes": "li", "OlHTMLAttributes": "ol", "OutputHTMLAttributes": "output",
	"BlockquoteHTMLAttributes": "blockquote", "DataHTMLAttributes": "data", "QuoteHTMLAttributes": "q",
}

// shape reads a type of props.
func (r *reader) shape(t *syntax.Node, m *module, depth int) (out shape) {
	if t = typeIn(t); t == nil {
		return out
	}
	if depth > mostTypes {
		r.unread(t, "type", "the type goes on too long to be followed")
		return out
	}
	switch t.Kind {
	case "object_type", "interface_body":
		for _, c := range t.Inner() {
			switch c.Kind {
			case "property_signature":
				out.members = append(out.members, member{memberName(c.Child("name")), c.First("?") != nil, typeIn(c.Child("type")), m, c})
			case "method_signature":
				out.members = append(out.members, member{memberName(c.Child("name")), c.First("?") != nil, nil, m, c})
			default:
				r.unread(c, "type", "a member without a name of its own")
			}
		}
	case "intersection_type":
		for _, c := range t.Inner() {
			out = out.and(r.shape(c, m, depth+1))
		}
	case "union_type":
		return r.alternatives(t, m, depth)
	case "parenthesized_type", "readonly_type":
		return r.shape(t.Lead(), m, depth+1)
	case "type_identifier":
		in, declared := m.typeNamed(t.Text())
		if declared == nil {
			r.unread(t, "type", "the type "+t.Text()+" is of another package, or not there")
			return out
		}
		return r.declaration(declared, in, depth+1)
	case "nested_type_identifier":
		r.unread(t, "type", "the type "+t.Text()+" is of another package")
	case "generic_type":
		return r.generic(t, m, depth)
	case "lookup_type": // JSX.IntrinsicElements["button"]
		inner := t.Inner()
		if len(inner) == 2 && lastName(inner[0]) == "IntrinsicElements" {
			out.native = literalType(inner[1])
			return out
		}
		r.unread(t, "type", "a type looked up in another")
	default:
		r.unread(t, "type", "a type of this form")
	}
	return out
}

func (r *reader) declaration(n *syntax.Node, m *module, depth int) (out shape) {
	if n.Is("type_alias_declaration") {
		return r.shape(n.Child("value"), m, depth)
	}
	if !n.Is("interface_declaration") {
		r.unread(n, "type", "no interface and no alias")
		return out
	}
	if clause := n.First("extends_type_clause", "extends_clause"); clause != nil {
		for _, c := range clause.Inner() {
			out = out.and(r.shape(c, m, depth))
		}
	}
	return out.and(r.shape(n.Child("body"), m, depth))
}

// and puts what two types say together; of members of one name the later is kept.
func (s shape) and(more shape) shape {
	out := shape{native: s.native, omitted: append(slices.Clone(s.omitted), more.omitted...), apart: append(slices.Clone(s.apart), more.apart...)}
	if more.native != "" && (out.native == "" || out.native == "*") {
		out.native = more.native
	}
	out.members = slices.DeleteFunc(slices.Clone(s.members), func(old member) bool {
		return slices.ContainsFunc(more.members, func(m member) bool { return m.name == old.name })
	})
	out.members = append(out.members, more.members...)
	return out
}

func (s shape) without(names []string) shape {
	s.members = slices.DeleteFunc(slices.Clone(s.members), func(m member) bool { return slices.Contains(names, m.name) })
	s.omitted = append(slices.Clone(s.omitted), names...)
	return s
}

// alternatives reads a union of shapes: props of which each shape excludes the others'.
func (r *reader) alternatives(t *syntax.Node, m *module, depth int) (out shape) {
	var list []shape
	var flat func(n *syntax.Node)
	flat = func(n *syntax.Node) {
		if n = typeIn(n); n.Is("union_type") {
			for _, c := range n.Inner() {
				flat(c)
			}
			return
		}
		list = append(list, r.shape(n, m, depth+1))
	}
	flat(t)
	excludes := func(m member) bool {
		return m.optional && m.typed != nil && slices.Contains([]string{"undefined", "never"}, m.typed.Text())
	}
	var group []string
	whole := true
	for _, one := range list {
		own := 0
		for _, m := range one.members {
			if excludes(m) {
				continue
			}
			own++
			if known := slices.IndexFunc(out.members, func(o member) bool { return o.name == m.name }); known >= 0 {
				whole = false // both have it
				continue
			}
			out.members = append(out.members, m)
			group = append(group, m.name)
		}
		whole = whole && own == 1
	}
	if whole && len(group) > 1 {
		out.apart = append(out.apart, group)
		for i := range out.members { // no use has to give one of them
			out.members[i].optional = true
		}
	} else if len(list) > 1 {
		r.unread(t, "type", "shapes of props to choose from; all their members are read as props")
		for i := range out.members { // what only some shapes have may be left out
			out.members[i].optional = true
		}
	}
	return out
}

// generic reads the types of TypeScript and React that change or name others.
func (r *reader) generic(t *syntax.Node, m *module, depth int) (out shape) {
	name, args := lastName(t.Child("name")), t.Child("type_arguments").Inner()
	first := func() shape {
		if len(args) == 0 {
			return shape{}
		}
		return r.shape(args[0], m, depth+1)
	}
	names := func() []string {
		if len(args) < 2 {
			return nil
		}
		return literals(args[1])
	}
	if element, is := attributeTypes[name]; is {
		return shape{native: element}
	}
	switch name {
	case "ComponentProps", "ComponentPropsWithRef", "ComponentPropsWithoutRef":
		if len(args) > 0 {
			if out.native = literalType(args[0]); out.native == "" {
				r.unread(t, "type", "the props of another component")
			}
		}
	case "DetailedHTMLProps", "Readonly", "Required", "PropsWithRef", "PropsWithoutRef":
		out = first()
		if name == "Required" {
			for i := range out.members {
				out.members[i].optional = false
			}
		}
	case "Partial":
		out = first()
		for i := range out.members {
			out.members[i].optional = true
		}
	case "Omit":
		out = first().without(names())
	case "Pick":
		kept := names()
		out = first()
		out.members = slices.DeleteFunc(out.members, func(m member) bool { return !slices.Contains(kept, m.name) })
		for _, name := range kept { // of the element's own
			if out.native != "" && !slices.ContainsFunc(out.members, func(m member) bool { return m.name == name }) {
				out.members = append(out.members, member{name: name, optional: true, in: m, at: t})
			}
		}
		out.native = ""
	case "PropsWithChildren":
		out = first()
		out.members = append(out.members, member{name: "children", optional: true, in: m, at: t})
	default:
		if in, declared := m.typeNamed(name); declared != nil {
			return r.declaration(declared, in, depth+1) // its parameters stay unknown
		}
		r.unread(t, "type", "the type "+name+" is of another package")
	}
	return out
}

// shortened is a piece of code on one line, cut where it is long.
func shortened(code string) string {
	code = strings.Join(strings.Fields(code), " ")
	if runes := []rune(code); len(runes) > 60 {
		return string(runes[:60]) + "…"
	}
	return code
}
