package source

import (
	"path"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// body reads what the component's function does up to what it gives back.
func (r *reader) body(s *scope) {
	r.iconProps(s)
	body := r.f.body
	if !body.Is("statement_block") {
		r.rendered(body, s)
		return
	}
	var given *syntax.Node
	for _, n := range body.Inner() {
		switch n.Kind {
		case "lexical_declaration", "variable_declaration":
			for _, d := range n.Inner() {
				if d.Is("variable_declarator") {
					r.binding(d, s)
				}
			}
		case "return_statement":
			if inner := n.Inner(); len(inner) > 0 && given == nil {
				given = inner[0]
			}
		case "function_declaration":
			s.names[n.Child("name").Text()] = meaning{kind: constValue, value: n, in: s}
		case "if_statement", "switch_statement", "try_statement", "for_statement", "for_in_statement", "while_statement":
			if holdsReturn(n) {
				r.unread(n, "element", "what is given back instead "+map[bool]string{true: "while " + shortened(n.Child("condition").Text()), false: "in a statement"}[n.Is("if_statement")])
			} else {
				r.unread(n, "behaviour", "what a statement does")
			}
			r.keep(nil, "the statement "+shortened(n.Child("condition").Text()), n)
		case "expression_statement":
			r.unread(n, "behaviour", "what "+shortened(called(n.Lead()))+" does")
			r.keep(nil, shortened(called(n.Lead())), n)
		}
	}
	if given != nil {
		r.rendered(given, s)
	}
}

func called(n *syntax.Node) string {
	if n.Is("call_expression") {
		return n.Child("function").Text()
	}
	return n.Text()
}

// holdsReturn tells whether a statement gives JSX back from the function it stands in.
func holdsReturn(n *syntax.Node) (found bool) {
	n.Walk(func(n *syntax.Node) bool {
		if n.Is("arrow_function", "function_expression", "function_declaration", "function") {
			return false
		}
		found = found || n.Is("return_statement")
		return !found
	})
	return found
}

// binding reads what a name is bound to in the function.
func (r *reader) binding(d *syntax.Node, s *scope) {
	name, value := d.Child("name"), bare(d.Child("value"))
	if name.Is("object_pattern") {
		if m, ok := r.means(value, s); ok && (m.kind == propsWhole || m.kind == restProps) {
			r.destructured(name, s, "")
			return
		}
	}
	if !name.Is("identifier") {
		name.Walk(func(n *syntax.Node) bool {
			if n.Is("identifier", "shorthand_property_identifier_pattern") {
				s.names[n.Text()] = meaning{kind: machinery}
			}
			return true
		})
		r.hook(d, value)
		return
	}
	local := name.Text()
	switch {
	case value.Is("call_expression") && called(value)[strings.LastIndexByte(called(value), '.')+1:] == "useId":
		s.names[local] = meaning{kind: partPlace}
		return
	case value.Is("call_expression") && isHook(called(value)):
		s.names[local] = meaning{kind: machinery}
		r.hook(d, value)
		return
	case value.Is("template_string"):
		if pieces := templatePieces(value); len(pieces) == 2 && pieces[0].text == "h" && pieces[1].expression != nil {
			if o, ok := r.operand(pieces[1].expression, s); ok {
				s.names[local] = meaning{kind: headingTag, prop: o.prop}
				return
			}
		}
	case value.Is("identifier"):
		if m, ok := s.find(value.Text()); ok && m.kind == rootTag {
			s.names[local] = m
			return
		}
	}
	s.names[local] = meaning{kind: constValue, value: value, in: s}
}

func isHook(name string) bool {
	name = name[strings.LastIndexByte(name, '.')+1:]
	return len(name) > 3 && strings.HasPrefix(name, "use") && isCapital(name[3:])
}

// hook tells of what a hook keeps or does, which is not read.
func (r *reader) hook(d, value *syntax.Node) {
	if value.Is("call_expression") && isHook(called(value)) {
		r.unread(d, "behaviour", "what "+called(value)+" keeps")
		r.keep(nil, called(value), d)
		if m := r.moduleOf(value); m != nil { // a hook of the component's own
			if in, _ := m.find(called(value)); in != nil && in != m {
				r.keep(nil, "the file "+path.Base(in.Name), in.Root)
			}
		}
		return
	}
	r.keep(nil, shortened(d.Child("name").Text()), d)
	r.unread(d, "behaviour", "the names in "+shortened(d.Text()))
}

// iconProps finds the choices whose values pick a drawing from a table: they are icons.
func (r *reader) iconProps(*scope) {
	r.out.EachProp(func(_ string, p *contract.Prop) {
		choice, ok := p.Type.(contract.Choice)
		if !ok {
			return
		}
		for _, local := range r.m.order {
			names, values, whole := entries(r.m.value(local))
			if !whole || len(names) == 0 || !slices.Contains(choice.Options, names[0]) {
				continue
			}
			if !r.picks(local, p.Name) {
				continue
			}
			icon := contract.Icon{Initial: choice.Initial}
			for _, o := range choice.Options {
				v := r.drawnBy(values[o])
				if v == nil {
					icon.Options = nil
					break
				}
				icon.Options = append(icon.Options, contract.NamedIcon{Name: o, Vector: *v})
			}
			if len(icon.Options) > 0 {
				p.Type = icon
				break
			}
		}
	})
}

// picks tells whether the function looks something up in a table by a prop.
func (r *reader) picks(table, prop string) (found bool) {
	local := prop
	if r.f.props.Is("object_pattern") {
		for _, c := range r.f.props.Inner() {
			if c.Is("pair_pattern") && memberName(c.Child("key")) == prop {
				local = c.Child("value").Text()
				if c.Child("value").Is("assignment_pattern") {
					local = c.Child("value").Child("left").Text()
				}
			}
		}
	}
	r.f.body.Walk(func(n *syntax.Node) bool {
		if n.Is("subscript_expression") && n.Child("object").Text() == table {
			index := bare(n.Child("index"))
			if index.Is("binary_expression") { // size ?? "m"
				index = bare(index.Child("left"))
			}
			found = found || index.Text() == local || index.Is("member_expression") && index.Child("property").Text() == prop
		}
		return !found
	})
	return found
}

// rendered reads what the component gives back.
func (r *reader) rendered(n *syntax.Node, s *scope) {
	pieces := r.pieces(n, s, always(), "")
	var roots []*contract.Part
	for _, p := range pieces {
		if p.part != nil {
			roots = append(roots, p.part)
		} else if strings.TrimSpace(p.text) != "" || p.prop != "" {
			r.unread(p.at, "element", "words that stand in no element of the component")
		}
	}
	if len(roots) == 0 {
		return
	}
	if len(roots) > 1 {
		r.unread(r.at[roots[1]], "element", "elements beside the first one that the component gives back")
	}
	root := roots[0]
	if !root.ShownWhen.Always() {
		r.unread(r.at[root], "element", "that the component gives nothing back unless "+r.out.Words(root.ShownWhen))
		root.ShownWhen = contract.When{}
	}
	r.out.Root = root
	if r.spread != nil && r.spread != root && len(root.Children) == 1 && root.Children[0] == r.spread && r.asksItsWidth(root) {
		r.out.Root = r.spread // the box around it is there to be asked for its width
	}
}
