package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

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
