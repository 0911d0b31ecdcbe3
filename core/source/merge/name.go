package merge

import (
	"strings"

	"cobrik/core/problem"
	"cobrik/core/source/syntax"
)

// problems is a list that may be empty.
type problems struct{ problem.List }

func isLeaf(n *syntax.Node) bool { return len(n.Children) == 0 }

// meaning is a node without what is of no consequence: spaces between its tokens.
func meaning(n *syntax.Node) string {
	var b strings.Builder
	n.Walk(func(n *syntax.Node) bool {
		if isLeaf(n) {
			text := n.Text()
			switch n.Kind {
			case "jsx_text", syntax.Comment, "value", "prelude":
				text = strings.Join(strings.Fields(text), " ")
			case ",", ";": // that one stands behind the last of a list says nothing
				return false
			}
			if text != "" {
				b.WriteString(text)
				b.WriteByte(0)
			}
		}
		return true
	})
	return b.String()
}

// nameOf is what a node is called in the trail of what is in it; empty for most.
func nameOf(n *syntax.Node) []string {
	switch n.Kind {
	case syntax.Rule, syntax.AtRule, syntax.Declaration, "function_declaration", "interface_declaration", "type_alias_declaration", "variable_declarator", "jsx_element", "jsx_self_closing_element":
		return []string{called(n)}
	}
	return nil
}

// called names a node among those that stand beside it, so that it is known again in another version of the file.
func called(n *syntax.Node) string {
	words := func(n *syntax.Node) string { return strings.Join(strings.Fields(n.Text()), " ") }
	switch n.Kind {
	case syntax.Declaration:
		return words(n.Child("property"))
	case syntax.Rule:
		return words(n.Child("prelude"))
	case syntax.AtRule:
		return strings.TrimSpace(n.Child("name").Text() + " " + words(n.Child("prelude")))
	case "property_signature", "method_signature", "function_declaration", "class_declaration", "interface_declaration", "type_alias_declaration", "enum_declaration", "variable_declarator", "method_definition", "public_field_definition":
		return n.Child("name").Text()
	case "import_specifier", "export_specifier":
		return n.Child("name").Text()
	case "pair":
		return words(n.Child("key"))
	case "pair_pattern":
		return words(n.Child("key"))
	case "object_assignment_pattern":
		return words(n.Child("left"))
	case "shorthand_property_identifier_pattern", "shorthand_property_identifier":
		return n.Text()
	case "import_statement":
		return "import " + n.Child("source").Text()
	case "export_statement":
		if d := n.Child("declaration"); d != nil {
			return called(d)
		}
	case "lexical_declaration", "variable_declaration":
		if d := n.First("variable_declarator"); d != nil {
			return called(d)
		}
	case "return_statement":
		return "return"
	case "jsx_attribute":
		return n.Lead().Text()
	case "jsx_element", "jsx_self_closing_element":
		return element(n)
	case "jsx_opening_element", "jsx_closing_element":
		return n.Kind
	case "jsx_expression":
		return expression(n)
	case "object_pattern", "formal_parameters", "statement_block", "named_imports", "interface_body", "object_type", "arguments", "import_clause", "parenthesized_expression",
		"arrow_function", "extends_type_clause", "type_annotation":
		return n.Kind
	case syntax.Block, "prelude", "value", "property", "name":
		return n.Kind
	}
	if n.Field != "" && n.Named {
		return n.Field
	}
	return strings.Join(strings.Fields(n.Text()), " ")
}

// element names an element by its tag and its classes.
func element(n *syntax.Node) string {
	tag := n
	if n.Kind == "jsx_element" {
		tag = n.Child("open_tag")
	}
	name := "<" + tag.Child("name").Text() + ">"
	for _, a := range tag.Inner() {
		if a.Kind == "jsx_attribute" && a.Lead().Text() == "className" && len(a.Inner()) > 1 {
			name += " " + firstClass(a.Inner()[1])
		}
	}
	return name
}

// firstClass gives the class that an element has whatever happens: others may come beside it.
func firstClass(value *syntax.Node) (name string) {
	value.Walk(func(n *syntax.Node) bool {
		if name == "" && n.Is("member_expression") && n.Child("object").Is("identifier") && len(n.Child("property").Text()) > 0 && !n.Parent.Is("call_expression") {
			name = n.Text()
		}
		return name == ""
	})
	if name == "" {
		return strings.Trim(value.Text(), "{}\"'")
	}
	return name
}

// expression names what stands between braces among elements: by the element that it shows, else by itself.
func expression(n *syntax.Node) string {
	name := ""
	n.Walk(func(n *syntax.Node) bool {
		if name == "" && n.Is("jsx_element", "jsx_self_closing_element") {
			name = "{" + element(n) + "}"
		}
		return name == ""
	})
	if name == "" {
		return strings.Join(strings.Fields(n.Text()), " ")
	}
	return name
}
