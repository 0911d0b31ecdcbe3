package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
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

// literalType reads a type that is one text; empty for any other.
func literalType(t *syntax.Node) string {
	if list := literals(t); len(list) == 1 {
		return list[0]
	}
	return ""
}

// literals lists the texts of a union of literal types; nil for any other.
func literals(t *syntax.Node) (out []string) {
	switch t = typeIn(t); {
	case t.Is("literal_type"):
		if s := t.First("string"); s != nil {
			return []string{unquoted(s)}
		}
	case t.Is("union_type"):
		for _, c := range t.Inner() {
			inner := literals(c)
			if inner == nil {
				return nil
			}
			out = append(out, inner...)
		}
	case t.Is("parenthesized_type"):
		return literals(t.Lead())
	}
	return out
}

// kindRead is what a member's type says of a prop.
type kindRead struct {
	typed    contract.Type // nil for what no prop can hold
	optional bool          // undefined or null is one of its values
	unsure   string        // why another kind may be meant
	why      string        // of what no prop can hold
}

// Names of React's types of what can be rendered, and of functions that hear events.
var (
	nodeTypes    = []string{"ReactNode", "ReactElement", "ReactChild", "ReactFragment", "Element", "ReactPortal"}
	handlerTypes = []string{"EventHandler", "ReactEventHandler", "MouseEventHandler", "KeyboardEventHandler", "FocusEventHandler", "ChangeEventHandler", "FormEventHandler", "PointerEventHandler",
		"TouchEventHandler", "UIEventHandler", "WheelEventHandler", "ClipboardEventHandler", "DragEventHandler", "AnimationEventHandler", "TransitionEventHandler"}
)

// kind reads the type of a member.
func (r *reader) kind(t *syntax.Node, m *module, depth int) kindRead {
	t = typeIn(t)
	none := func(why string) kindRead { return kindRead{why: why} }
	if t == nil || depth > mostTypes {
		return none("a type that goes on too long to be followed")
	}
	switch t.Kind {
	case "predefined_type":
		switch t.Text() {
		case "string":
			return kindRead{typed: contract.Text{}}
		case "number":
			return kindRead{typed: contract.Number{}}
		case "boolean":
			return kindRead{typed: contract.Flag{}}
		}
	case "function_type":
		return kindRead{typed: contract.Event{On: contract.Told}}
	case "parenthesized_type", "readonly_type":
		return r.kind(t.Lead(), m, depth+1)
	case "literal_type":
		return r.union(t, m, depth)
	case "union_type":
		return r.union(t, m, depth)
	case "array_type":
		return r.items(t.Lead(), m, depth)
	case "object_type":
		return r.object(r.shape(t, m, depth+1))
	case "type_identifier", "nested_type_identifier":
		name := lastName(t)
		if in, declared := m.typeNamed(t.Text()); declared != nil {
			switch declared.Kind {
			case "type_alias_declaration":
				return r.kind(declared.Child("value"), in, depth+1)
			case "interface_declaration":
				return r.object(r.declaration(declared, in, depth+1))
			}
			return r.enumeration(declared)
		}
		switch {
		case slices.Contains(nodeTypes, name):
			return kindRead{typed: contract.Slot{}}
		case slices.Contains(handlerTypes, name):
			return kindRead{typed: contract.Event{On: contract.Told}}
		}
	case "generic_type":
		name, args := lastName(t.Child("name")), t.Child("type_arguments").Inner()
		switch {
		case (name == "Array" || name == "ReadonlyArray") && len(args) == 1:
			return r.items(args[0], m, depth)
		case slices.Contains(handlerTypes, name):
			return kindRead{typed: contract.Event{On: contract.Told}}
		case slices.Contains(nodeTypes, name):
			return kindRead{typed: contract.Slot{}}
		case (name == "NonNullable" || name == "Readonly") && len(args) == 1:
			return r.kind(args[0], m, depth+1)
		}
	case "lookup_type":
		return r.lookedUp(t, m, depth)
	case "index_type_query": // keyof typeof table
		if q := t.First("type_query"); q != nil {
			if names, _, whole := entries(m.value(q.Lead().Text())); whole && len(names) > 0 {
				return kindRead{typed: contract.Choice{Options: names}}
			}
		}
	}
	return none("a prop of the type " + shortened(t.Text()))
}

// lookedUp reads a type that is a piece of another: (typeof sizes)[number], Props["size"], or what an element's attribute takes.
func (r *reader) lookedUp(t *syntax.Node, m *module, depth int) kindRead {
	inner := t.Inner()
	if len(inner) != 2 {
		return kindRead{why: "a type of this form"}
	}
	of, key := inner[0], literalType(inner[1])
	for of.Is("parenthesized_type") {
		of = of.Lead()
	}
	if of.Is("type_query") {
		value := m.value(of.Lead().Text())
		if array := bare(value); array.Is("array") && inner[1].Text() == "number" {
			var options []string
			for _, e := range array.Inner() {
				text, ok := constant(e)
				word, is := text.(string)
				if !ok || !is {
					return kindRead{why: "a type of values that are no texts"}
				}
				options = append(options, word)
			}
			return kindRead{typed: contract.Choice{Options: options}}
		}
	}
	if key == "" {
		return kindRead{why: "a prop of the type " + shortened(t.Text())}
	}
	quiet := *r
	quiet.silent = true
	s := quiet.shape(of, m, depth+1)
	for _, member := range s.members {
		if member.name == key {
			return r.kind(member.typed, member.in, depth+1)
		}
	}
	if s.native != "" {
		return r.nativeKind(key)
	}
	return kindRead{why: "a prop of the type " + shortened(t.Text())}
}

// union reads alternatives: texts are a choice's options, undefined and null leave it out.
func (r *reader) union(t *syntax.Node, m *module, depth int) (out kindRead) {
	var options []string
	var kinds []kindRead
	var flat func(n *syntax.Node)
	flat = func(n *syntax.Node) {
		switch n = typeIn(n); {
		case n.Is("union_type", "parenthesized_type"):
			for _, c := range n.Inner() {
				flat(c)
			}
		case n.Is("literal_type"):
			switch inner := n.Inner(); {
			case len(inner) == 1 && inner[0].Is("string"):
				options = append(options, unquoted(inner[0]))
			case len(inner) == 1 && inner[0].Is("null", "undefined"):
				out.optional = true
			case len(inner) == 1 && inner[0].Is("true", "false"):
				kinds = append(kinds, kindRead{typed: contract.Flag{}})
			case len(inner) == 1 && inner[0].Is("number", "unary_expression"):
				kinds = append(kinds, kindRead{typed: contract.Number{}, unsure: "only some numbers are taken"})
			default:
				kinds = append(kinds, kindRead{why: "a prop of the type " + shortened(n.Text())})
			}
		case n.Text() == "undefined" || n.Text() == "null":
			out.optional = true
		default:
			k := r.kind(n, m, depth+1)
			if c, ok := k.typed.(contract.Choice); ok {
				options = append(options, c.Options...)
				return
			}
			out.optional = out.optional || k.optional
			kinds = append(kinds, k)
		}
	}
	flat(t)
	if options != nil {
		if kinds != nil {
			return kindRead{why: "options and other values for one prop: " + shortened(t.Text())}
		}
		out.typed = contract.Choice{Options: distinct(options)}
		return out
	}
	for _, k := range kinds {
		if k.typed == nil {
			return k
		}
		if out.typed != nil && out.typed.Kind() != k.typed.Kind() {
			return kindRead{why: "a prop of several kinds: " + shortened(t.Text())}
		}
		out.typed, out.unsure = k.typed, k.unsure
	}
	if out.typed == nil {
		out.why = "a prop of the type " + shortened(t.Text())
	}
	return out
}

func distinct(list []string) (out []string) {
	for _, s := range list {
		if !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// enumeration reads an enum of texts.
func (r *reader) enumeration(n *syntax.Node) kindRead {
	var options []string
	for _, c := range n.Child("body").Inner() {
		value, ok := constant(c.Child("value"))
		text, is := value.(string)
		if !ok || !is {
			return kindRead{why: "an enumeration of numbers"}
		}
		options = append(options, text)
	}
	if options == nil {
		return kindRead{why: "an enumeration of nothing"}
	}
	return kindRead{typed: contract.Choice{Options: options}, unsure: "it is an enumeration in the code"}
}

// items reads a list by the type of one of its items.
func (r *reader) items(t *syntax.Node, m *module, depth int) kindRead {
	t = typeIn(t)
	for t.Is("parenthesized_type", "readonly_type") {
		t = t.Lead()
	}
	if !t.Is("object_type", "type_identifier", "intersection_type", "generic_type") {
		return kindRead{why: "a list of what is no object: " + shortened(t.Text())}
	}
	if t.Is("type_identifier") {
		if _, declared := m.typeNamed(t.Text()); declared == nil || declared.Is("enum_declaration") || declared.Is("type_alias_declaration") && r.kind(t, m, depth+1).typed != nil {
			return kindRead{why: "a list of what is no object: " + shortened(t.Text())}
		}
	}
	s := r.shape(t, m, depth+1)
	list := contract.List{}
	for _, one := range s.members {
		p, ok := r.prop(one, depth+1)
		if !ok {
			continue
		}
		if _, nested := p.Type.(contract.List); nested {
			r.unread(one.at, "prop", "a list in the items of a list")
			continue
		}
		r.itemAt[p.ID] = one.at
		list.Items = append(list.Items, p)
	}
	return kindRead{typed: list}
}

// object reads an object that is one value: an image is the only one that props hold.
func (r *reader) object(s shape) kindRead {
	names := []string{}
	for _, m := range s.members {
		names = append(names, m.name)
	}
	slices.Sort(names)
	if slices.Equal(names, []string{"alt", "height", "src", "width"}) {
		return kindRead{typed: contract.Image{}}
	}
	return kindRead{why: "a prop that holds an object of " + strings.Join(names, ", ")}
}

// platformProps are those that every component may take, which no contract holds.
var platformProps = []string{"ref", "key", "className", "style"}

// prop reads a member as a prop; false where it is nothing that a prop can hold, which is told.
func (r *reader) prop(m member, depth int) (contract.Prop, bool) {
	if slices.Contains(platformProps, m.name) {
		return contract.Prop{}, false
	}
	k := kindRead{typed: contract.Event{On: contract.Told}}
	switch {
	case m.typed != nil:
		k = r.kind(m.typed, m.in, depth)
	case m.name == "children":
		k = kindRead{typed: contract.Slot{}}
	case m.at.Kind != "method_signature":
		k = r.nativeKind(m.name)
	}
	if k.typed == nil {
		r.unread(m.at, "prop", m.name+": "+k.why)
		return contract.Prop{}, false
	}
	out := contract.Prop{ID: m.name, Name: m.name, Type: k.typed, Required: !m.optional && !k.optional}
	if k.unsure != "" {
		r.unsure(ofProp(m.name, "type"), k.unsure)
	}
	if comment := commentBefore(m.at); comment != nil {
		words, tags := documentation(comment.Text())
		out.Purpose, out.Deprecated = words, tags["deprecated"]
		if reason, is := tags["deprecated"]; is && reason == "" {
			out.Deprecated = "Deprecated."
		}
	}
	return out, true
}

// nativeKind tells the kind of an attribute that the element has by itself.
func (r *reader) nativeKind(name string) kindRead {
	html := attributeName(name)
	switch {
	case name == "children":
		return kindRead{typed: contract.Slot{}}
	case len(name) > 2 && strings.HasPrefix(name, "on") && isCapital(name[2:]):
		return kindRead{typed: contract.Event{On: contract.Told}}
	case html == "href" || html == "src" || html == "cite" || html == "action":
		return kindRead{typed: contract.Link{}}
	}
	for _, element := range []string{"div", "button", "input", "textarea", "ol", "details"} {
		switch kind, _, ok := contract.AttributeOf(element, html); {
		case ok && kind == contract.FlagAttribute:
			return kindRead{typed: contract.Flag{}}
		case ok && kind == contract.NumberAttribute:
			return kindRead{typed: contract.Number{}}
		}
	}
	return kindRead{typed: contract.Text{}}
}

// shortened is a piece of code on one line, cut where it is long.
func shortened(code string) string {
	code = strings.Join(strings.Fields(code), " ")
	if runes := []rune(code); len(runes) > 60 {
		return string(runes[:60]) + "…"
	}
	return code
}
