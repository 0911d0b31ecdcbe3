package react

import (
	"maps"
	"regexp"
	"slices"

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
	types := []string{n.props}
	if writer := (writer{m: m}); writer.root().As != nil {
		types = append(types, n.elements)
	}
	each(m, func(p, _ *ir.Prop) {
		if t := n.types[p.Key]; t != "" {
			types = append(types, t)
		}
	})
	from := text(" from " + quote("./"+m.Name) + ";")
	return print(
		text("import "+quote(tokens)+";"), printer.HardLine, printer.HardLine,
		text("export { "+m.Name+" }"), from, printer.HardLine,
		text("export type "), listed(types), from,
	)
}

func print(docs ...printer.Doc) string { return printer.Print(concat(docs...), columns) + "\n" }

// braced lists things between braces, one a line where they do not fit.
func braced(things ...printer.Doc) printer.Doc {
	return concat(text("{"), indent(printer.Line, commas(things)), printer.IfBreak(",", ""), printer.Line, text("}"))
}

// listed lists names between braces; a single one is never moved.
func listed(names []string) printer.Doc {
	if len(names) == 1 {
		return text("{ " + names[0] + " }")
	}
	docs := make([]printer.Doc, len(names))
	for i, name := range names {
		docs[i] = text(name)
	}
	return group(braced(docs...))
}

func commas(things []printer.Doc) printer.Doc {
	return printer.Join(concat(text(","), printer.Line), things...)
}

type writer struct {
	m        *ir.Module
	n        names
	assets   assets
	in       []string            // the lists whose items are written
	key      string              // of the element that is written next
	repeated map[string][]string // the lists that a part is there for each item of
	hook     *hook               // of the behaviour; nil for none
	forced   bool
}

// component writes the module; components, icons and pictures it uses are found at a path.
func (w writer) component(uses string) string {
	m, n, drawn := w.m, w.n, w.assets
	w.lists(m.Root, nil)
	var out []printer.Doc
	paragraph := func(docs ...printer.Doc) {
		if len(docs) > 0 {
			if len(out) > 0 {
				out = append(out, printer.HardLine, printer.HardLine)
			}
			out = append(out, printer.Join(printer.HardLine, docs...))
		}
	}
	function := w.function()
	imports := []printer.Doc{w.imports()}
	for _, used := range w.uses() {
		imports = append(imports, text("import { "+used+" } from "+quote(uses+used)+";"))
	}
	if list := drawn.in(m); list != nil {
		imports = append(imports, concat(text("import "), listed(list), text(" from "+quote(uses+"icons")+";")))
	}
	for _, source := range drawn.shown(m) {
		imports = append(imports, text("import "+n.pictures[source]+" from "+quote(uses+"pictures/"+drawn.file(source))+";"))
	}
	if w.hook != nil {
		imports = append(imports, text("import { "+hookName(m)+" } from "+quote("./"+hookName(m))+";"))
	}
	paragraph(imports...)
	paragraph(text("import styles from " + quote("./"+m.Name+".module.css") + ";"))
	unions, items := w.types()
	if as := w.root().As; as != nil {
		words := []string{quote(w.root().Tag)}
		for _, element := range as {
			words = append(words, quote(element))
		}
		unions = append([]printer.Doc{group(text("export type "+n.elements+" ="), indent(printer.Line, group(union(words))), text(";"))}, unions...)
	}
	paragraph(unions...)
	for _, item := range items {
		paragraph(item)
	}
	paragraph(w.props())
	paragraph(w.tables()...)
	for _, drawings := range w.drawings() {
		paragraph(drawings)
	}
	used := m.Used()
	for _, p := range m.Props {
		if rich, ok := p.Default().(contract.RichValue); ok && used[p.ID] && w.initial(&p) == n.defaults[p.Key] {
			paragraph(concat(text("const "+n.defaults[p.Key]+" = "), w.several(ir.Rich(rich)), text(";")))
		}
	}
	if w.joins() {
		paragraph(text("function "+n.join+"(...names: (string | false | undefined)[]) {"), text("  return names.filter(Boolean).join(\" \");"), text("}"))
	}
	switch {
	case m.Deprecated != "" && m.Purpose != "":
		paragraph(text("/**"), text(" * "+comment(m.Purpose)), text(" *"), text(" * @deprecated "+comment(m.Deprecated)), text(" */"), function)
	case m.Deprecated != "":
		paragraph(text("/** @deprecated "+comment(m.Deprecated)+" */"), function)
	case m.Purpose != "":
		paragraph(text("/** "+comment(m.Purpose)+" */"), function)
	default:
		paragraph(function)
	}
	return print(out...)
}

// lists notes the lists that each part is there for each item of.
func (w writer) lists(n ir.Node, around []string) {
	switch n := n.(type) {
	case ir.For:
		w.lists(n.Each, append(around[:len(around):len(around)], n.List))
	case ir.If:
		w.lists(n.Then, around)
		if n.Else != nil {
			w.lists(n.Else, around)
		}
	case ir.Slot:
		for _, d := range n.Default {
			w.lists(d, around)
		}
	case ir.Choose:
		for _, o := range n.Options {
			w.lists(o.Element, around)
		}
	case *ir.Use:
		for _, g := range n.Given {
			for _, d := range g.Nodes {
				w.lists(d, around)
			}
		}
	case *ir.Element:
		w.repeated[n.Part] = around
		for _, c := range n.Children {
			w.lists(c, around)
		}
	}
}

// imports writes what the module takes from React.
func (w writer) imports() printer.Doc {
	types := []string{"ComponentPropsWithRef"}
	var values []string
	node, id, fragment := false, false, false
	each(w.m, func(p, _ *ir.Prop) {
		node = node || slices.Contains([]contract.Kind{contract.RichKind, contract.SlotKind, contract.IconKind}, p.Kind())
	})
	ir.Walk(w.m.Root, func(e *ir.Element) { id = id || e.Named })
	if w.root().As != nil {
		types = append(types, "ElementType")
	}
	if node {
		types = append(types, "ReactNode")
	}
	if w.root().As != nil {
		types = append(types, "Ref")
	}
	ir.WalkNodes(w.m.Root, func(n ir.Node) {
		if f, ok := n.(ir.For); ok {
			fragment = fragment || !isElement(f.Each)
		}
	})
	if fragment {
		values = append(values, "Fragment")
	}
	if id {
		values = append(values, "useId")
	}
	kind := "import type "
	if values != nil {
		kind = "import "
		for i := range types {
			types[i] = "type " + types[i]
		}
	}
	return concat(text(kind), listed(append(types, values...)), text(" from \"react\";"))
}

// joins tells whether anything but the outermost element has several classes, or one by props.
func (w writer) joins() (out bool) {
	several := func(classes []ir.Class) bool {
		return len(classes) > 1 || len(classes) == 1 && (classes[0].Prop != "" || classes[0].While != nil)
	}
	ir.WalkNodes(w.m.Root, func(n ir.Node) {
		switch n := n.(type) {
		case *ir.Element:
			out = out || !n.Outer && several(n.Classes)
		case *ir.Use:
			out = out || several(n.Classes)
		}
	})
	return out
}

// root is the element that takes the component's attributes.
func (w writer) root() *ir.Element {
	if w.m.Root.Root {
		return w.m.Root
	}
	return w.m.Root.Children[0].(*ir.Element)
}

// plainKey is a key that needs no quotes.
var plainKey = regexp.MustCompile(`^[$_\p{L}][$_\p{L}\p{Nd}\p{Mn}\p{Mc}]*$`)

func keyOf(name string) string {
	if plainKey.MatchString(name) {
		return name
	}
	return quote(name)
}

// tables writes a table of classes for each choice that has some.
func (w writer) tables() (out []printer.Doc) {
	classes := map[string]ir.Class{}
	ir.Walk(w.m.Root, func(e *ir.Element) {
		for _, c := range e.Classes {
			if c.Prop != "" {
				classes[c.Prop] = c
			}
		}
	})
	each(w.m, func(p, _ *ir.Prop) {
		class, ok := classes[p.Key]
		if !ok || p.Kind() != contract.ChoiceKind {
			return
		}
		var entries []printer.Doc
		for _, o := range p.Options() {
			if name := class.Values[contract.OptionValue(o)]; name != "" {
				entries = append(entries, group(text(keyOf(o)+":"), indent(printer.Line, text("styles."+name))))
			}
		}
		kind := w.record(p, "string")
		if len(entries) < len(p.Options()) {
			kind = group(text("Partial<"), indent(printer.SoftLine, kind), printer.SoftLine, text(">"))
		}
		out = append(out, concat(text("const "+w.n.tables[p.Key]+": "), kind, text(" ="), printer.After(group(braced(entries...))), text(";")))
	})
	return out
}

func (w writer) record(p *ir.Prop, of string) printer.Doc {
	return group(text("Record<"), indent(printer.SoftLine, text(w.n.types[p.Key]+","), printer.Line, text(of)), printer.SoftLine, text(">"))
}

// drawings writes a table of drawings for each part that shows an icon.
func (w writer) drawings() (out []printer.Doc) {
	chosen := map[string]ir.Choose{}
	ir.WalkNodes(w.m.Root, func(n ir.Node) {
		if c, ok := n.(ir.Choose); ok && len(c.Options) > 0 {
			chosen[w.n.drawings[c.Options[0].Element.Part]] = c
		}
	})
	for _, table := range slices.Sorted(maps.Keys(chosen)) {
		var entries []printer.Doc
		for _, o := range chosen[table].Options {
			entries = append(entries, concat(text(keyOf(o.Value)+": "), parenthesized(w.element(o.Element))))
		}
		kind := w.record(w.prop(chosen[table].Prop), "ReactNode")
		out = append(out, concat(text("const "+table+": "), kind, text(" = "), printer.Broken(braced(entries...)), text(";")))
	}
	return out
}

// renamed binds a member of an object to a name.
func renamed(member, to string) string {
	if member == to {
		return member
	}
	return member + ": " + to
}

func (w writer) function() printer.Doc {
	var params []printer.Doc
	used := w.m.Used()
	for i := range w.m.Props {
		p := &w.m.Props[i]
		name := renamed(p.Name, w.n.locals[p.ID])
		if initial := w.initial(p); initial != "" && used[p.ID] {
			name += " = " + initial
		}
		params = append(params, text(name))
	}
	root := w.root()
	if root.As != nil {
		params = append(params, text(renamed("as", w.n.as)+" = "+quote(root.Tag)))
	}
	params = append(params, text("className"), text("..."+w.n.rest))
	pattern := group(text("{"), indent(printer.Line, commas(params)), printer.Line, text("}"))
	var body []printer.Doc
	named, levels := false, map[string]bool{}
	ir.Walk(w.m.Root, func(e *ir.Element) {
		named = named || e.Named
		if e.Level != "" && !levels[e.Level] {
			levels[e.Level] = true
			body = append(body, text("const "+w.n.headings[e.Level]+" = `h${"+w.n.locals[e.Level]+"}` as `h${1 | 2 | 3 | 4 | 5 | 6}`;"))
		}
	})
	if named {
		body = append([]printer.Doc{text("const " + w.n.id + " = useId();")}, body...)
	}
	if root.As != nil {
		body = append(body, text("const "+w.n.root+" = "+w.n.as+" as ElementType;"))
	}
	if w.hook != nil {
		body = append(body, w.runs())
	}
	classes := append(w.classList(w.m.Root.Classes), text("className"))
	body = append(body,
		concat(text("const "+w.n.classes+" = "), group(text("["), indent(printer.SoftLine, commas(classes)), printer.IfBreak(",", ""), printer.SoftLine, text("]")), text(";")),
		concat(text("return "), parenthesized(w.element(w.m.Root)), text(";")),
	)
	return concat(text("export function "+w.m.Name+"("), pattern, text(": "+w.n.props+") {"), indent(printer.HardLine, printer.Join(printer.HardLine, body...)), printer.HardLine, text("}"))
}
