package output

import (
	"cobrik/core/css"
	"strconv"
	"strings"

	"cobrik/core/jsontree"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// writeSass writes a variable a token and the map $tokens of all of them.
func writeSass(f *file, r *run) {
	f.printf("// %s\n", header)
	within := token.Writer{Reference: func(alias string) string {
		if i := r.referred(alias); i != nil {
			if i.value.Type == "fontFamily" { // written into a text it would lose its quotes
				return variable(i.name)
			}
			return "#{" + variable(i.name) + "}"
		}
		return ""
	}}
	for _, i := range r.ordered() {
		value := within.CSS(i.value)
		if to := r.whole(i); to != nil {
			value = variable(to.name)
		}
		f.token(i.token.Path)
		f.printf("%s: %s;\n", variable(i.name), value)
	}
	f.printf("\n$tokens: (\n")
	for _, i := range r.items {
		f.printf("  %s: %s,\n", css.Quote(i.name), variable(i.name))
	}
	f.printf(");\n")
}

// variable makes a name a Sass variable: a dollar sign and an identifier that does not
// begin with a digit.
func variable(name string) string {
	s := css.Ident(name)
	if s == "" || isDigit(rune(s[0])) {
		s = "_" + s
	}
	return "$" + s
}

// writeTypeScript writes a constant a token, an object of all of them, and
// types of the names of all, and of each type's.
func writeTypeScript(f *file, r *run) {
	f.printf("// %s\n", header)
	byType := map[string][]string{}
	for _, i := range r.ordered() {
		name := identifier(i.name)
		value := plain(i.value)
		if to := r.whole(i); to != nil {
			value = identifier(to.name)
		}
		said := comment(i.token.Description)
		if d := comment(i.token.Deprecated); d != "" {
			said = strings.TrimSpace(said + " @deprecated " + d)
		}
		if said != "" {
			f.printf("/** %s */\n", said)
		}
		f.token(i.token.Path)
		f.printf("export const %s = %s;\n", name, value)
	}
	f.printf("\nexport const tokens = {\n")
	for _, i := range r.items {
		name := identifier(i.name)
		f.printf("  %s,\n", name)
		byType[i.value.Type] = append(byType[i.value.Type], strconv.Quote(name))
	}
	f.printf("} as const;\n\nexport type TokenName = keyof typeof tokens;\n")
	for _, t := range token.Types {
		if names := byType[t]; len(names) > 0 {
			f.printf("export type %sToken = %s;\n", strings.ToUpper(t[:1])+t[1:], strings.Join(names, " | "))
		}
	}
}

// plain writes a value as JavaScript: numbers as such, all else as CSS in a string.
func plain(v *token.Value) string {
	switch literal := v.End().Literal.(type) {
	case float64:
		return token.Number(literal)
	case token.Weight:
		return token.Number(literal.Number)
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

// writeJSON writes an object of names to values, as CSS; numbers as such.
func writeJSON(f *file, r *run) {
	f.printf("%s\n", objectOf(r).Append(nil, onLines))
	f.objects(1, r)
}

// writeAllJSON writes an object of themes, each an object of names to values. Without
// themes there are the values alone.
func writeAllJSON(f *file, runs []*run, _ []token.Modifier) {
	if len(runs[0].theme) == 0 {
		writeJSON(f, runs[0])
		return
	}
	all := jsontree.NewObject()
	for _, r := range runs {
		all.Children = append(all.Children, objectOf(r).Named(inFull(r.theme)))
	}
	f.printf("%s\n", all.Append(nil, onLines))
	at := 2
	for _, r := range runs {
		at = f.objects(at, r) + 1
	}
}

// objects marks the lines of an object that opens on a line, and gives the line it closes on.
func (f *file) objects(at int, r *run) int {
	if len(r.items) == 0 {
		return at // {} stands on one line
	}
	for i := range r.items {
		at++
		f.lines = append(f.lines, Line{at, r.items[i].token.Path})
	}
	return at + 1
}

func objectOf(r *run) *jsontree.Node {
	object := jsontree.NewObject()
	for _, i := range r.items {
		var n *jsontree.Node
		switch literal := i.value.End().Literal.(type) {
		case float64:
			n = jsontree.NewNumber(literal)
		case token.Weight:
			n = jsontree.NewNumber(literal.Number)
		default:
			n = jsontree.NewString(token.Writer{}.CSS(i.value))
		}
		object.Children = append(object.Children, n.Named(i.name))
	}
	return object
}

// writeTokens writes the standard's own format: groups, $type, $value,
// references in braces, descriptions, marks and extensions.
func writeTokens(f *file, r *run) {
	root := jsontree.NewObject()
	var places problem.List
	for _, i := range r.items {
		if i.beside {
			continue // the whole token has it
		}
		at, pointer := root, ""
		for _, name := range i.words {
			next := at.Get(name)
			if next == nil {
				next = jsontree.NewObject()
				at.Set(name, next)
			}
			at, pointer = next, pointer+"/"+problem.Token(name)
		}
		at.Set("$type", jsontree.NewString(i.value.Type))
		at.Set("$value", i.value.JSON())
		t := i.token
		if t.Description != "" {
			at.Set("$description", jsontree.NewString(t.Description))
		}
		if t.Deprecated != "" {
			at.Set("$deprecated", jsontree.NewString(t.Deprecated))
		}
		if x := t.Extensions(); x != nil {
			at.Set("$extensions", x.Clone())
		}
		places = append(places, problem.Problem{Pointer: pointer, Message: t.Path})
	}
	text := token.Text(root)
	f.printf("%s", text)
	for _, p := range places.Locate(f.name, text) {
		f.lines = append(f.lines, Line{p.Line, p.Message})
	}
}
