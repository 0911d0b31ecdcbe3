package platform

import (
	"cobrik/core/css"
	"fmt"
	"strconv"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/token"
)

// writeSass writes a variable a token and the map $tokens of all of them.
func writeSass(r *run) string {
	var b strings.Builder
	b.WriteString("// " + header + "\n")
	within := token.Writer{Reference: func(alias string) string {
		if item := r.referred(alias); item != nil {
			return "#{$" + variable(item.Name) + "}"
		}
		return ""
	}}
	for _, item := range r.ordered() {
		value := within.CSS(item.Value)
		if to := r.whole(item); to != nil {
			value = "$" + variable(to.Name)
		}
		fmt.Fprintf(&b, "$%s: %s;\n", variable(item.Name), value)
	}
	b.WriteString("\n$tokens: (\n")
	for _, item := range r.items {
		fmt.Fprintf(&b, "  %s: $%s,\n", css.Quote(item.Name), variable(item.Name))
	}
	b.WriteString(");\n")
	return b.String()
}

// variable makes a name a Sass variable's: an identifier that does not begin
// with a digit.
func variable(name string) string {
	s := css.Ident(name)
	if s == "" || isDigit(rune(s[0])) {
		return "_" + s
	}
	return s
}

// writeTypeScript writes a constant a token, an object of all of them, and
// types of the names of all, and of each type's.
func writeTypeScript(r *run) string {
	var b strings.Builder
	b.WriteString("// " + header + "\n")
	byType := map[string][]string{}
	for _, item := range r.ordered() {
		name := identifier(item.Name)
		value := plain(item.Value)
		if to := r.whole(item); to != nil {
			value = identifier(to.Name)
		}
		said := comment(item.Token.Description)
		if d := comment(item.Token.Deprecated); d != "" {
			said = strings.TrimSpace(said + " @deprecated " + d)
		}
		if said != "" {
			fmt.Fprintf(&b, "/** %s */\n", said)
		}
		fmt.Fprintf(&b, "export const %s = %s;\n", name, value)
	}
	b.WriteString("\nexport const tokens = {\n")
	for _, item := range r.items {
		name := identifier(item.Name)
		fmt.Fprintf(&b, "  %s,\n", name)
		byType[item.Value.Type] = append(byType[item.Value.Type], strconv.Quote(name))
	}
	b.WriteString("} as const;\n\nexport type TokenName = keyof typeof tokens;\n")
	for _, t := range token.Types {
		if names := byType[t]; len(names) > 0 {
			fmt.Fprintf(&b, "export type %sToken = %s;\n", strings.ToUpper(t[:1])+t[1:], strings.Join(names, " | "))
		}
	}
	return b.String()
}

// plain writes a value as JavaScript: numbers as such, all else as CSS in a string.
func plain(v *token.Value) string {
	switch literal := v.End().Literal.(type) {
	case float64:
		return css.FormatNumber(literal)
	case token.Weight:
		return css.FormatNumber(literal.Number)
	}
	return string(jsontree.NewString(token.Writer{}.CSS(v)).Append(nil, nil))
}

// comment keeps a description from ending the comment it stands in, and from opening one
// within: Kotlin's and Swift's comments nest (Kotlin specification, 1.2.1).
func comment(s string) string {
	var b strings.Builder
	last := ' '
	for _, r := range strings.Join(strings.Fields(s), " ") {
		if last == '*' && r == '/' || last == '/' && r == '*' {
			b.WriteByte(' ')
		}
		b.WriteRune(r)
		last = r
	}
	return b.String()
}

func onLines(n *jsontree.Node) bool { return n.Kind == jsontree.Array }

// writeFlatJSON writes an object of names to values, as CSS; numbers as such.
func writeFlatJSON(r *run) string {
	object := jsontree.NewObject()
	for _, item := range r.items {
		var n *jsontree.Node
		switch literal := item.Value.End().Literal.(type) {
		case float64:
			n = jsontree.NewNumber(literal)
		case token.Weight:
			n = jsontree.NewNumber(literal.Number)
		default:
			n = jsontree.NewString(token.Writer{}.CSS(item.Value))
		}
		object.Children = append(object.Children, n.Named(item.Name))
	}
	return string(object.Append(nil, onLines)) + "\n"
}

// writeNestedJSON writes the standard's own format: groups, $type, $value,
// references in braces, descriptions, marks and extensions.
func writeNestedJSON(r *run) string {
	root := jsontree.NewObject()
	for _, item := range r.items {
		if item.beside {
			continue // the whole token has it
		}
		at := root
		for _, name := range item.Words {
			next := at.Get(name)
			if next == nil {
				next = jsontree.NewObject()
				at.Set(name, next)
			}
			at = next
		}
		at.Set("$type", jsontree.NewString(item.Value.Type))
		at.Set("$value", item.Value.JSON())
		t := item.Token
		if t.Description != "" {
			at.Set("$description", jsontree.NewString(t.Description))
		}
		if t.Deprecated != "" {
			at.Set("$deprecated", jsontree.NewString(t.Deprecated))
		}
		if x := t.Extensions(); x != nil {
			at.Set("$extensions", x.Clone())
		}
	}
	return string(token.Text(root))
}
