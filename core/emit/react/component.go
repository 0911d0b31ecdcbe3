package react

import (
	"bytes"
	"encoding/json"
	"regexp"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// columns is how wide a line may be.
const columns = 100

var (
	text   = printer.Text
	concat = printer.Concat
	indent = printer.Indent
	group  = printer.Group
)

func index(m *ir.Module, n names, tokens string) string {
	types := []printer.Doc{text(n.props)}
	for _, p := range m.Props {
		if t := n.types[p.ID]; t != "" {
			types = append(types, text(t))
		}
	}
	list := concat(text("{ "), types[0], text(" }")) // a single one is never moved
	if len(types) > 1 {
		list = group(braced(types...))
	}
	from := text(" from " + quote("./"+m.Name) + ";")
	return print(
		text("import "+quote(tokens)+";"), printer.HardLine, printer.HardLine,
		text("export { "+m.Name+" }"), from, printer.HardLine,
		text("export type "), list, from,
	)
}

func print(docs ...printer.Doc) string { return printer.Print(concat(docs...), columns) + "\n" }

// braced lists things between braces, one a line where they do not fit.
func braced(things ...printer.Doc) printer.Doc {
	return concat(text("{"), indent(printer.Line, commas(things)), printer.IfBreak(",", ""), printer.Line, text("}"))
}

func commas(things []printer.Doc) printer.Doc {
	return printer.Join(concat(text(","), printer.Line), things...)
}

func component(m *ir.Module, n names) string {
	w := writer{m, n}
	var out []printer.Doc
	paragraph := func(docs ...printer.Doc) {
		if len(docs) > 0 {
			if len(out) > 0 {
				out = append(out, printer.HardLine, printer.HardLine)
			}
			out = append(out, printer.Join(printer.HardLine, docs...))
		}
	}
	paragraph(text("import type { ComponentPropsWithRef } from \"react\";"))
	paragraph(text("import styles from " + quote("./"+m.Name+".module.css") + ";"))
	paragraph(w.types()...)
	paragraph(w.props())
	paragraph(w.tables()...)
	if m.Purpose != "" {
		paragraph(text("/** "+comment(m.Purpose)+" */"), w.function())
	} else {
		paragraph(w.function())
	}
	return print(out...)
}

type writer struct {
	m *ir.Module
	n names
}

// root is the element that takes the component's attributes.
func (w writer) root() *ir.Element {
	if w.m.Root.Root {
		return w.m.Root
	}
	return w.m.Root.Children[0].(*ir.Element)
}

// union writes alternatives, one a line where they do not fit.
func union(words []string) printer.Doc {
	docs := make([]printer.Doc, len(words))
	for i, word := range words {
		docs[i] = text(word)
	}
	return concat(printer.IfBreak("| ", ""), printer.Join(concat(printer.Line, text("| ")), docs...))
}

func (w writer) types() (out []printer.Doc) {
	for _, p := range w.m.Props {
		if name := w.n.types[p.ID]; name != "" {
			out = append(out, group(text("export type "+name+" ="), indent(printer.Line, group(union(strings.Split(p.Type.TypeScript(), " | ")))), text(";")))
		}
	}
	return out
}

func (w writer) typeOf(p ir.Prop) string {
	if name := w.n.types[p.ID]; name != "" {
		return name
	}
	return p.Type.TypeScript()
}

func literal(v contract.Value) string {
	if f, ok := v.(contract.FlagValue); ok {
		return f.String()
	}
	return quote(v.String())
}

// props writes the interface: what the element takes, but for what the component's own
// props stand for.
func (w writer) props() printer.Doc {
	tag := w.root().Tag
	omitted := []string{quote("children")}
	for _, p := range w.m.Props {
		if isNative(tag, p.Name) {
			omitted = append(omitted, quote(p.Name))
		}
	}
	base := group(text("Omit<"), indent(printer.SoftLine, text("ComponentPropsWithRef<"+quote(tag)+">,"), printer.Line, group(indent(printer.SoftLine, union(omitted)))), printer.SoftLine, text(">"))
	head := concat(text("export interface "+w.n.props+" extends "), base)
	if len(w.m.Props) == 0 {
		return concat(head, text(" {}"))
	}
	var members []printer.Doc
	for _, p := range w.m.Props {
		members = append(members,
			text("/**"), text(" * "+comment(p.Purpose)), text(" * @default "+comment(literal(p.Default()))), text(" */"),
			text(p.Name+"?: "+w.typeOf(p)+";"))
	}
	return concat(head, text(" {"), indent(printer.HardLine, printer.Join(printer.HardLine, members...)), printer.HardLine, text("}"))
}

// plainKey is a key that needs no quotes.
var plainKey = regexp.MustCompile(`^[$_\p{L}][$_\p{L}\p{Nd}\p{Mn}\p{Mc}]*$`)

// tables writes a table of classes for each choice that has some.
func (w writer) tables() (out []printer.Doc) {
	for _, p := range w.m.Props {
		class, ok := w.choiceClass(p)
		if !ok {
			continue
		}
		var entries []printer.Doc
		for _, o := range p.Options() {
			if name := class.Values[contract.OptionValue(o)]; name != "" {
				key := o
				if !plainKey.MatchString(o) {
					key = quote(o)
				}
				entries = append(entries, group(text(key+":"), indent(printer.Line, text("styles."+name))))
			}
		}
		kind := group(text("Record<"), indent(printer.SoftLine, text(w.typeOf(p)+","), printer.Line, text("string")), printer.SoftLine, text(">"))
		if len(entries) < len(p.Options()) {
			kind = group(text("Partial<"), indent(printer.SoftLine, kind), printer.SoftLine, text(">"))
		}
		out = append(out, concat(text("const "+w.n.tables[p.ID]+": "), kind, text(" ="), printer.After(group(braced(entries...))), text(";")))
	}
	return out
}

func (w writer) choiceClass(p ir.Prop) (ir.Class, bool) {
	for _, c := range w.root().Classes {
		if c.Prop == p.ID && p.Kind() == contract.ChoiceKind {
			return c, true
		}
	}
	return ir.Class{}, false
}

func (w writer) function() printer.Doc {
	var params []printer.Doc
	for _, p := range w.m.Props {
		name := p.Name
		if local := w.n.locals[p.ID]; local != name {
			name += ": " + local
		}
		params = append(params, text(name+" = "+literal(p.Default())))
	}
	params = append(params, text("className"), text("..."+w.n.rest))
	pattern := group(text("{"), indent(printer.Line, commas(params)), printer.Line, text("}"))
	body := concat(
		text("const "+w.n.classes+" = "), group(text("["), indent(printer.SoftLine, commas(w.classList())), printer.IfBreak(",", ""), printer.SoftLine, text("]")), text(";"), printer.HardLine,
		text("return "), parenthesized(w.element(w.m.Root)), text(";"),
	)
	return concat(text("export function "+w.m.Name+"("), pattern, text(": "+w.n.props+") {"), indent(printer.HardLine, body), printer.HardLine, text("}"))
}

// parenthesized puts what needs several lines between parentheses.
func parenthesized(d printer.Doc) printer.Doc {
	return group(printer.IfBreak("(", ""), indent(printer.SoftLine, d), printer.SoftLine, printer.IfBreak(")", ""))
}

func (w writer) classList() (out []printer.Doc) {
	for _, c := range w.root().Classes {
		if c.Prop == "" {
			out = append(out, text("styles."+c.Name))
			continue
		}
		local := w.n.locals[c.Prop]
		on, off := c.Values[contract.FlagValue(true)], c.Values[contract.FlagValue(false)]
		switch {
		case w.n.tables[c.Prop] != "":
			out = append(out, text(w.n.tables[c.Prop]+"["+local+"]"))
		case on != "" && off != "":
			out = append(out, group(text(local), indent(printer.Line, text("? styles."+on), printer.Line, text(": styles."+off))))
		case on != "":
			out = append(out, group(text(local+" &&"), indent(printer.Line, text("styles."+on))))
		default:
			out = append(out, group(text("!"+local+" &&"), indent(printer.Line, text("styles."+off))))
		}
	}
	return append(out, text("className"))
}

func (w writer) node(n ir.Node) printer.Doc {
	switch n := n.(type) {
	case ir.Text:
		return text("{" + w.n.locals[n.Prop] + "}")
	case ir.Fixed:
		return text("{" + quote(n.Text) + "}")
	case ir.If:
		return group(text("{"), w.condition(n.When), parenthesized(w.node(n.Then)), text("}"))
	case *ir.Element:
		return w.element(n)
	}
	return text("")
}

// condition writes what props have to be, followed by &&.
func (w writer) condition(when []contract.PropIs) printer.Doc {
	out := ""
	for _, t := range when {
		local := w.n.locals[t.Prop]
		switch t.Value {
		case contract.FlagValue(true):
			out += local + " && "
		case contract.FlagValue(false):
			out += "!" + local + " && "
		default:
			out += local + " === " + literal(t.Value) + " && "
		}
	}
	return text(out)
}

// element writes JSX as formatters lay it out: an element stands on one line where it has one
// attribute and one text at most, and fits.
func (w writer) element(e *ir.Element) printer.Doc {
	attributes := w.attributes(e)
	open := concat(text("<"+e.Tag), indent(spread(attributes)))
	if len(attributes) == 1 && strings.HasPrefix(attributes[0], "d=\"") { // a lone text is never moved
		open = text("<" + e.Tag + " " + attributes[0])
	}
	if len(e.Children) == 0 {
		return group(open, lineBefore(attributes, "/>"))
	}
	var children []printer.Doc
	tags, expressions := 0, 0
	for _, c := range e.Children {
		children = append(children, w.node(c))
		if _, ok := c.(*ir.Element); ok {
			tags++
		} else {
			expressions++
		}
	}
	parts := []printer.Doc{group(open, closeBefore(attributes)), indent(printer.SoftLine, printer.Join(printer.HardLine, children...)), printer.SoftLine, text("</" + e.Tag + ">")}
	if tags > 0 || expressions > 1 || len(attributes) > 1 {
		return printer.Broken(parts...)
	}
	return group(parts...)
}

func spread(attributes []string) printer.Doc {
	var out []printer.Doc
	for _, a := range attributes {
		out = append(out, printer.Line, text(a))
	}
	return concat(out...)
}

// lineBefore closes an element without children.
func lineBefore(attributes []string, closing string) printer.Doc {
	if len(attributes) == 1 && strings.HasPrefix(attributes[0], "d=\"") {
		return text(" " + closing)
	}
	return concat(printer.Line, text(closing))
}

func closeBefore(attributes []string) printer.Doc {
	if len(attributes) == 0 {
		return text(">")
	}
	return concat(printer.SoftLine, text(">"))
}

// jsxNames are the names of SVG's attributes that JSX spells otherwise.
var jsxNames = map[string]string{"stroke-width": "strokeWidth", "stroke-linecap": "strokeLinecap", "stroke-linejoin": "strokeLinejoin"}

func (w writer) attributes(e *ir.Element) (out []string) {
	var late []string
	for _, a := range e.Attributes {
		name := a.Name
		if jsx := jsxNames[name]; jsx != "" {
			name = jsx
		}
		switch {
		case a.Prop != "":
			late = append(late, name+"={"+w.n.locals[a.Prop]+"}")
		case e.Root && name == "type": // whoever uses the button may make it submit
			out = append(out, name+"="+attribute(a.Value))
		default:
			late = append(late, name+"="+attribute(a.Value))
		}
	}
	switch {
	case e.Root:
		out = append(out, "{..."+w.n.rest+"}", "className={"+w.n.classes+".filter(Boolean).join(\" \")}")
	case len(e.Classes) > 0:
		out = append(out, "className={styles."+e.Classes[0].Name+"}")
	}
	return append(out, late...)
}

// attribute writes a JSX attribute's value; quotes and braces go through a
// string literal.
func attribute(s string) string {
	if strings.ContainsAny(s, "\"&\\{}<>\n\r\t") || strings.ContainsRune(s, '\u2028') || strings.ContainsRune(s, '\u2029') {
		return "{" + quote(s) + "}"
	}
	return "\"" + s + "\""
}

// quote writes a TypeScript string literal, in the quotes that need fewer escapes.
func quote(s string) string {
	double := encoded(s)
	if strings.Count(s, "\"") <= strings.Count(s, "'") {
		return double
	}
	inner := strings.ReplaceAll(double[1:len(double)-1], "\\\"", "\"")
	return "'" + strings.ReplaceAll(inner, "'", "\\'") + "'"
}

func encoded(v any) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		panic(err) // a string or a boolean
	}
	return strings.TrimSuffix(b.String(), "\n")
}

// comment keeps a text from ending the comment it stands in.
func comment(s string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(s), " "), "*/", "*\\/")
}
