package source

import (
	"slices"
	"strings"

	"cobrik/core/source/syntax"
)

// function is a component's: what it is given, and what it does.
type function struct {
	props  *syntax.Node // its first parameter; nil for none
	typed  *syntax.Node // the type of the props; nil for none
	body   *syntax.Node
	within []string // what is wrapped around it: forwardRef, memo
	doc    string
}

// component gives the function of a component by its name in the module; nil where it is none.
func (m *module) component(local string) *function {
	if !isCapital(local) {
		return nil
	}
	n := m.bound[local]
	f := &function{doc: doc(n)}
	if n.Is("variable_declarator") {
		f.typed = componentType(n.Child("type"))
		n = n.Child("value")
	}
	if n = m.unwrap(f, n, 0); n == nil {
		return nil
	}
	if parameters := n.Child("parameters"); parameters != nil {
		if list := parameters.Inner(); len(list) > 0 {
			f.props = list[0]
		}
	} else if p := n.Child("parameter"); p != nil {
		f.props = p
	}
	if f.props.Is("required_parameter", "optional_parameter") {
		if t := f.props.Child("type"); t != nil {
			f.typed = t
		}
		f.props = f.props.Child("pattern")
	}
	if f.body = n.Child("body"); !givesJSX(f.body) {
		return nil
	}
	return f
}

// unreadable tells why a component that a name is bound to is not read; empty for what is none.
func (m *module) unreadable(local string) string {
	n := m.bound[local]
	switch {
	case n.Is("class_declaration") && givesJSX(n):
		return "it is a class"
	case n.Is("variable_declarator") && styledTag(n.Child("value")) != "":
		return "its styles stand in a template literal"
	case n.Is("variable_declarator") && bare(n.Child("value")).Is("call_expression") && givesJSX(n):
		return "it is made by " + shortened(called(bare(n.Child("value"))))
	}
	return ""
}

// styledTag gives what a template literal of styles is tagged with, styled.div or styled(Button); empty for none.
func styledTag(n *syntax.Node) string {
	n = bare(n)
	if !n.Is("call_expression") || !n.Child("arguments").Is("template_string") {
		return ""
	}
	return n.Child("function").Text()
}

// wrappers are functions of React that give a component back.
var wrappers = []string{"forwardRef", "memo"}

// unwrap finds the function in what may be wrapped around it.
func (m *module) unwrap(f *function, n *syntax.Node, depth int) *syntax.Node {
	n = bare(n)
	switch {
	case depth > 8 || n == nil:
		return nil
	case n.Is("function_declaration", "function_expression", "function", "arrow_function"):
		return n
	case n.Is("identifier"):
		if next := m.bound[n.Text()]; next != nil {
			if next.Is("variable_declarator") {
				next = next.Child("value")
			}
			return m.unwrap(f, next, depth+1)
		}
	case n.Is("call_expression"):
		name := n.Child("function").Text()
		name = name[strings.LastIndexByte(name, '.')+1:]
		if !slices.Contains(wrappers, name) {
			return nil
		}
		f.within = append(f.within, name)
		if types := n.Child("type_arguments").Inner(); name == "forwardRef" && len(types) == 2 {
			f.typed = types[1]
		} else if name == "memo" && len(types) == 1 {
			f.typed = types[0]
		}
		if args := n.Child("arguments").Inner(); len(args) > 0 {
			return m.unwrap(f, args[0], depth+1)
		}
	}
	return nil
}

// componentType gives the type of the props in what a component is said to be: FC<Props>, ComponentType<Props>.
func componentType(annotation *syntax.Node) *syntax.Node {
	t := typeIn(annotation)
	if !t.Is("generic_type") {
		return nil
	}
	name := t.Child("name").Text()
	switch name[strings.LastIndexByte(name, '.')+1:] {
	case "FC", "FunctionComponent", "VFC", "ComponentType":
		if args := t.Child("type_arguments").Inner(); len(args) > 0 {
			return args[0]
		}
	case "ForwardRefExoticComponent", "MemoExoticComponent":
		if args := t.Child("type_arguments").Inner(); len(args) > 0 {
			return args[0]
		}
	}
	return nil
}

// givesJSX tells whether a function's body holds JSX that is not another function's own component.
func givesJSX(body *syntax.Node) (found bool) {
	body.Walk(func(n *syntax.Node) bool {
		found = found || n.Is("jsx_element", "jsx_self_closing_element", "jsx_fragment")
		return !found
	})
	return found
}

// doc gives the words of the documentation comment before a declaration; tags and what follows them left out.
func doc(n *syntax.Node) string {
	if comment := commentBefore(n); comment != nil {
		words, _ := documentation(comment.Text())
		return words
	}
	return ""
}

// commentBefore gives the /** */ comment that stands right before a declaration; nil for none.
func commentBefore(n *syntax.Node) *syntax.Node {
	for n != nil && n.Parent.Is("export_statement", "lexical_declaration", "variable_declaration") && n.Parent.Lead() == n {
		n = n.Parent
	}
	if n == nil || n.Parent == nil {
		return nil
	}
	at := slices.Index(n.Parent.Children, n)
	for at--; at >= 0; at-- {
		switch c := n.Parent.Children[at]; {
		case c.Kind == "comment" && strings.HasPrefix(c.Text(), "/**"):
			return c
		case c.Kind == "comment", !c.Named:
		default:
			return nil
		}
	}
	return nil
}

// documentation reads a /** */ comment: its words, and what follows its tags, by their names.
func documentation(comment string) (words string, tags map[string]string) {
	tags = map[string]string{}
	comment = strings.TrimSuffix(strings.TrimPrefix(comment, "/**"), "*/")
	tag := ""
	var lines []string
	close := func() {
		text := strings.ReplaceAll(strings.Join(strings.Fields(strings.Join(lines, " ")), " "), "*\\/", "*/")
		if tag == "" {
			words = text
		} else {
			tags[tag] = text
		}
		lines = nil
	}
	for _, line := range strings.Split(comment, "\n") {
		line = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(line), "*"))
		if rest, is := strings.CutPrefix(line, "@"); is {
			close()
			tag, line, _ = strings.Cut(rest, " ")
		}
		lines = append(lines, line)
	}
	close()
	return words, tags
}
