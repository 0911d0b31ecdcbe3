package react

import (
	"slices"
	"strings"
	"unicode"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// parenthesized puts what needs several lines between parentheses.
func parenthesized(d printer.Doc) printer.Doc {
	return group(printer.IfBreak("(", ""), indent(printer.SoftLine, d), printer.SoftLine, printer.IfBreak(")", ""))
}

// child writes a node between the tags of an element.
func (w writer) child(n ir.Node) printer.Doc {
	if e := w.jsx(n); e != nil {
		return e
	}
	if f, ok := n.(ir.For); ok {
		return concat(text("{"), w.each(f, true), text("}"))
	}
	if w.single(n) {
		return group(text("{"), indent(printer.SoftLine, w.expression(n)), printer.SoftLine, text("}"))
	}
	return concat(text("{"), w.expression(n), text("}"))
}

// jsx writes what is one element, of HTML or of a component; nil for anything else.
func (w writer) jsx(n ir.Node) printer.Doc {
	switch n := n.(type) {
	case *ir.Element:
		return w.element(n)
	case *ir.Use:
		return w.use(n)
	}
	return nil
}

// isElement tells whether a node is one element.
func isElement(n ir.Node) bool {
	switch n.(type) {
	case *ir.Element, *ir.Use:
		return true
	}
	return false
}

// single tells whether a node is a lone name, text or drawing, which moves to a line of its own.
func (w writer) single(n ir.Node) bool {
	switch n := n.(type) {
	case ir.Fixed, ir.Text, ir.Said:
		return true
	case ir.Slot:
		return len(n.Default) == 0
	case ir.Choose:
		return w.alwaysChosen(n)
	}
	return false
}

// expression writes a node where an expression stands.
func (w writer) expression(n ir.Node) printer.Doc {
	switch n := n.(type) {
	case ir.Text:
		return text(w.value(n.Prop))
	case ir.Fixed:
		return text(quote(n.Text))
	case ir.Said:
		return w.saidText(n)
	case ir.If:
		return w.conditional(n)
	case ir.For:
		return w.each(n, false)
	case ir.Slot:
		if len(n.Default) == 0 {
			return text(w.given(n.Prop))
		}
		return w.orElse(n)
	case ir.Choose:
		return chain(w.choose(n))
	case *ir.Element, *ir.Use:
		return parenthesized(w.jsx(n))
	}
	return text("null")
}

// orElse writes what stands in a slot, or its default. What has operators of its own stands between
// parentheses: ?? may not be mixed with them (ECMAScript, ShortCircuitExpression).
func (w writer) orElse(n ir.Slot) printer.Doc {
	given, alone := w.given(n.Prop)+" ??", n.Default[0]
	if len(n.Default) > 1 {
		return concat(text(given+" "), w.several(n.Default))
	}
	switch alone := alone.(type) {
	case ir.If:
		return group(text(given), indent(printer.Line, text("("), w.expression(alone), text(")")))
	case ir.Choose:
		if !w.alwaysChosen(alone) {
			return group(text(given), indent(printer.Line, text("("), w.expression(alone), text(")")))
		}
		return group(text(given), indent(printer.Line, w.expression(alone)))
	case ir.For, ir.Slot:
		return group(text(given), indent(printer.Line, w.expression(alone)))
	}
	return concat(text(given+" "), w.expression(alone))
}

// plainText tells whether a text can stand between tags as it is: no spaces that JSX drops, nothing
// that it reads as code, or readers as a comment or a stray quote.
func plainText(s string) bool {
	return s != "" && s == strings.Join(strings.Fields(s), " ") && !strings.ContainsAny(s, "{}<>&\"'\\`") && !strings.Contains(s, "//") && !strings.Contains(s, "/*") &&
		!strings.ContainsFunc(s, func(r rune) bool { return r != ' ' && (unicode.IsSpace(r) || !unicode.IsPrint(r)) })
}

// each writes what is there for each item of a list. Alone between tags it is never on one line.
func (w writer) each(n ir.For, alone bool) printer.Doc {
	list := n.List
	call := w.given(list) + ".map((" + w.n.items[list] + ", " + w.n.indexes[list] + ") => "
	w.in = append(w.in[:len(w.in):len(w.in)], list)
	inner := []printer.Doc{printer.IfBreak("(", ""), indent(printer.SoftLine, w.body(n.Each, list)), printer.SoftLine, printer.IfBreak(")", "")}
	if alone {
		return concat(text(call), printer.Broken(inner...), text(")"))
	}
	return concat(text(call), group(inner...), text(")"))
}

// body writes what an item of a list is, with its key.
func (w writer) body(n ir.Node, list string) printer.Doc {
	w.key = w.n.indexes[list]
	if p := w.prop(list + ".id"); p != nil && p.Required && p.Name == "id" {
		w.key = w.given(list + ".id")
	}
	if e := w.jsx(n); e != nil {
		return e
	}
	key := w.key
	w.key = ""
	return group(text("<Fragment key={"+key+"}>"), indent(printer.SoftLine, w.child(n)), printer.SoftLine, text("</Fragment>"))
}

// several writes nodes as one expression.
func (w writer) several(list []ir.Node) printer.Doc {
	if len(list) == 1 {
		return w.expression(list[0])
	}
	return parenthesized(w.fragment(list))
}

// fragment writes nodes as one, without the parentheses around it.
func (w writer) fragment(list []ir.Node) printer.Doc {
	if len(list) == 1 {
		return w.bare(list[0])
	}
	return w.wrapped(list)
}

// wrapped writes nodes in a fragment.
func (w writer) wrapped(list []ir.Node) printer.Doc { return w.tag("", nil, list) }

// conditional writes what is there when all terms hold: conjuncts of which the last is the node,
// or one of two nodes.
func (w writer) conditional(n ir.If) printer.Doc {
	if n.Else != nil {
		side := func(n ir.Node) printer.Doc {
			return concat(printer.IfBreak("(", ""), indent(printer.SoftLine, w.bare(n)), printer.SoftLine, printer.IfBreak(")", ""))
		}
		return group(chain(w.tests(n.When)), text(" ? "), side(n.Then), text(" : "), side(n.Else))
	}
	conjuncts := w.tests(n.When)
	then := n.Then
	for {
		inner, ok := then.(ir.If)
		if !ok || inner.Else != nil {
			break
		}
		conjuncts, then = append(conjuncts, w.tests(inner.When)...), inner.Then
	}
	switch then := then.(type) {
	case *ir.Element, *ir.Use:
		return printer.Following(chain(conjuncts), concat(text(" && "), w.expression(then)))
	case ir.If: // one of two
		return chain(append(conjuncts, concat(text("("), w.conditional(then), text(")"))))
	case ir.Choose:
		return chain(append(conjuncts, w.choose(then)...))
	}
	return chain(append(conjuncts, w.expression(then)))
}

func (w writer) tests(when []contract.Term) (out []printer.Doc) {
	for _, t := range when {
		for _, test := range strings.Split(w.test(t), " && ") {
			out = append(out, text(test))
		}
	}
	return out
}

// chain joins expressions by &&, one a line where they do not fit.
func chain(conjuncts []printer.Doc) printer.Doc {
	return group(conjuncts[0], indent(rest(conjuncts[1:])...))
}

func rest(conjuncts []printer.Doc) (out []printer.Doc) {
	for _, c := range conjuncts {
		out = append(out, text(" &&"), printer.Line, c)
	}
	return out
}

// alwaysChosen tells whether an icon always has a drawing.
func (w writer) alwaysChosen(n ir.Choose) bool {
	p := w.prop(n.Prop)
	return p.Required || p.Default() != nil
}

// choose gives the conjuncts of an icon's drawing.
func (w writer) choose(n ir.Choose) []printer.Doc {
	table := ""
	if len(n.Options) > 0 {
		table = w.n.drawings[n.Options[0].Element.Part]
	}
	drawing := group(text(table+"["), indent(printer.SoftLine, text(w.value(n.Prop))), printer.SoftLine, text("]"))
	if w.alwaysChosen(n) {
		return []printer.Doc{drawing}
	}
	return []printer.Doc{text(w.given(n.Prop)), drawing}
}

// bare writes an element without the parentheses around it.
func (w writer) bare(n ir.Node) printer.Doc {
	if e := w.jsx(n); e != nil {
		return e
	}
	return w.expression(n)
}

// attribute is one of an element's, laid out; whole ones are a lone string.
type attribute struct {
	printer.Doc
	whole bool
}

// element writes JSX as formatters lay it out: an element stands on one line where it has one
// attribute and one text at most, and fits.
func (w writer) element(e *ir.Element) printer.Doc {
	if name := w.assets.of(e); name != "" {
		drawn := *e
		drawn.Attributes = nil // the icon has them
		attributes := w.attributes(&drawn)
		return w.tag(name, attributes, nil)
	}
	attributes := w.attributes(e)
	w.key = ""
	tag := e.Tag
	switch {
	case e.Level != "":
		tag = w.n.headings[e.Level]
	case e.As != nil:
		tag = w.n.root
	}
	return w.tag(tag, attributes, e.Children)
}

// tag writes a tag with its attributes and what stands in it.
func (w writer) tag(tag string, attributes []attribute, inside []ir.Node) printer.Doc {
	whole := len(attributes) == 1 && attributes[0].whole // a lone text is never moved
	open := text("<" + tag)
	if whole {
		open = concat(open, text(" "), attributes[0].Doc)
	} else {
		var out []printer.Doc
		for _, a := range attributes {
			out = append(out, printer.Line, a.Doc)
		}
		open = concat(open, indent(out...))
	}
	if len(inside) == 0 {
		if whole {
			return group(open, text(" />"))
		}
		return group(open, printer.Line, text("/>"))
	}
	close := text(">")
	if len(attributes) > 0 && !whole {
		close = concat(printer.SoftLine, text(">"))
	}
	var children []printer.Doc
	tags, expressions := 0, 0
	if f, ok := inside[0].(ir.Fixed); ok && len(inside) == 1 && plainText(f.Text) {
		children = append(children, printer.Either(text(f.Text), w.child(f)))
		expressions++
	}
	for _, c := range inside[len(children):] {
		children = append(children, w.child(c))
		if isElement(c) {
			tags++
		} else {
			expressions++
		}
	}
	parts := []printer.Doc{group(open, close), indent(printer.SoftLine, printer.Join(printer.HardLine, children...)), printer.SoftLine, text("</" + tag + ">")}
	if tags > 0 || expressions > 1 || len(attributes) > 1 {
		return printer.Broken(parts...)
	}
	return group(parts...)
}

// fixed writes an attribute that never changes, by its name in JSX: numbers and flags are
// expressions.
func fixed(tag, name, jsx, value string) attribute {
	kind, _, ok := contract.AttributeOf(tag, name)
	flag := ok && kind == contract.FlagAttribute && !strings.HasPrefix(name, "aria-")
	switch {
	case flag && value == "true":
		return attribute{text(jsx), false}
	case flag || ok && kind == contract.NumberAttribute || tag == "img" && (name == "width" || name == "height"):
		return attribute{text(jsx + "={" + value + "}"), false}
	}
	value = attributeValue(value)
	return attribute{text(jsx + "=" + value), strings.HasPrefix(value, "\"")}
}

func (w writer) attributes(e *ir.Element) (out []attribute) {
	plain := func(s string) attribute { return attribute{text(s), false} }
	out = w.keyed()
	var late []attribute
	for _, a := range e.Attributes {
		name, value := jsxName(e.Tag, a), a.Value
		switch {
		case a.Event && w.hears(e, name), !a.Event && slices.Contains(e.Says, a.Name):
			continue // with what the behaviour hears, and says
		case a.Name == "src" && w.n.pictures[value] != "":
			late = append(late, plain(name+"={"+w.n.pictures[value]+"}"))
		case a.Of != "":
			late = append(late, plain(name+"={"+w.given(a.Prop)+"."+a.Of+"}"))
		case a.Prop != "":
			late = append(late, plain(name+"={"+w.value(a.Prop)+"}"))
		case a.Part != "":
			late = append(late, plain(name+"={"+w.idOf(a.Part)+"}"))
		case e.Root && e.Tag != "svg": // whoever uses it may say otherwise
			out = append(out, fixed(e.Tag, a.Name, name, value))
		default:
			late = append(late, fixed(e.Tag, a.Name, name, value))
		}
	}
	if e.Named && !(e.Root && w.hook != nil) {
		out = append(out, plain("id={"+w.idOf(e.Part)+"}"))
	}
	if e.Root {
		out = append(out, plain("{..."+w.n.rest+"}"))
	}
	if e.Named && e.Root && w.hook != nil { // the behaviour finds it by that
		out = append(out, plain("id={"+w.idOf(e.Part)+"}"))
	}
	if e.Outer {
		out = append(out, plain("className={"+w.n.classes+".filter(Boolean).join(\" \")}"))
	} else {
		out = append(out, w.className(e.Classes)...)
	}
	out = append(out, late...)
	if w.hook != nil {
		out = append(append(out, w.said(e)...), w.heard(e)...)
	}
	return out
}

// keyed writes the key of an item of a list; none for others.
func (w writer) keyed() []attribute {
	if w.key == "" {
		return nil
	}
	return []attribute{{text("key={" + w.key + "}"), false}}
}

// className writes the classes that an element has, where it has any.
func (w writer) className(classes []ir.Class) []attribute {
	switch len(classes) {
	case 0:
		return nil
	case 1:
		if c := classes[0]; c.Prop == "" && c.While == nil {
			return []attribute{{text("className={styles." + c.Name + "}"), false}}
		}
	}
	call := group(text(w.n.join+"("), indent(printer.SoftLine, commas(w.classList(classes))), printer.IfBreak(",", ""), printer.SoftLine, text(")"))
	return []attribute{{concat(text("className={"), call, text("}")), false}}
}

// idOf is the expression of a part's place in the document: one of each item's has the
// item's index.
func (w writer) idOf(part string) string {
	out := "`${" + w.n.id + "}-" + part
	for _, list := range w.in {
		if slices.Contains(w.repeated[part], list) {
			out += "-${" + w.n.indexes[list] + "}"
		}
	}
	return out + "`"
}

// classList writes the classes that an element has.
func (w writer) classList(classes []ir.Class) (out []printer.Doc) {
	for _, c := range classes {
		switch {
		case c.While != nil:
			out = append(out, chain(append(w.tests([]contract.Term{c.While}), text("styles."+c.Name))))
			continue
		case c.Prop == "":
			out = append(out, text("styles."+c.Name))
			continue
		}
		value := w.operand(c.Prop)
		on, off := c.Values[contract.FlagValue(true)], c.Values[contract.FlagValue(false)]
		switch {
		case w.n.tables[c.Prop] != "":
			out = append(out, text(w.n.tables[c.Prop]+"["+w.value(c.Prop)+"]"))
		case on != "" && off != "":
			out = append(out, group(text(value), indent(printer.Line, text("? styles."+on), printer.Line, text(": styles."+off))))
		case on != "":
			out = append(out, group(text(value+" &&"), indent(printer.Line, text("styles."+on))))
		default:
			out = append(out, group(text("!"+value+" &&"), indent(printer.Line, text("styles."+off))))
		}
	}
	return out
}

// attributeValue writes a JSX attribute's value; quotes and braces go through a
// string literal.
func attributeValue(s string) string {
	if strings.ContainsAny(s, "\"&\\{}<>\n\r\t") || strings.ContainsRune(s, '\u2028') || strings.ContainsRune(s, '\u2029') {
		return "{" + quote(s) + "}"
	}
	return "\"" + s + "\""
}
