package react

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// union writes alternatives, one a line where they do not fit.
func union(words []string) printer.Doc {
	docs := make([]printer.Doc, len(words))
	for i, word := range words {
		docs[i] = text(word)
	}
	return concat(printer.IfBreak("| ", ""), printer.Join(concat(printer.Line, text("| ")), docs...))
}

// types writes the types of choices and icons, and the interfaces of items.
func (w writer) types() (unions, items []printer.Doc) {
	each(w.m, func(p, _ *ir.Prop) {
		name := w.n.types[p.Key]
		switch p.Kind() {
		case contract.ChoiceKind, contract.IconKind:
			unions = append(unions, group(text("export type "+name+" ="), indent(printer.Line, group(union(strings.Split(p.Type.TypeScript(), " | ")))), text(";")))
		case contract.ListKind:
			items = append(items, concat(text("/** One of the "+comment(p.Name)+". */"), printer.HardLine, text("export interface "+name), w.members(p.Items)))
		}
	})
	return unions, items
}

func (w writer) typeOf(p *ir.Prop) printer.Doc {
	switch t := p.Type.(type) {
	case contract.Choice, contract.Icon:
		return text(w.n.types[p.Key])
	case contract.List:
		return text("readonly " + w.n.types[p.Key] + "[]")
	case contract.Image:
		members := []printer.Doc{text("src: string"), text("alt: string"), text("width: number"), text("height: number")}
		return group(text("{"), indent(printer.Line, printer.Join(concat(text(";"), printer.Line), members...)), printer.IfBreak(";", ""), printer.Line, text("}"))
	case contract.Event:
		if t.On == contract.Told {
			return text(w.m.Tells(p))
		}
		tag := tagOf(w.m, p)
		return text("ComponentPropsWithRef<" + quote(tag) + ">[" + quote(jsxName(tag, ir.Attribute{Name: t.On, Event: true})) + "]")
	}
	return text(p.Type.TypeScript())
}

// tagOf gives the element that tells of an event, here or in a component that it is passed on to.
func tagOf(m *ir.Module, p *ir.Prop) string {
	tag := "div"
	ir.WalkNodes(m.Root, func(n ir.Node) {
		switch n := n.(type) {
		case *ir.Element:
			if p.Part != "" && n.Part == p.Part {
				tag = n.Tag
			}
		case *ir.Use:
			for _, g := range n.Given {
				if g.From == p.Key && g.Prop.Type != (contract.Event{On: contract.Told}) {
					tag = tagOf(n.Module, g.Prop)
				}
			}
		}
	})
	return tag
}

// nodes are the kinds whose types hold undefined by themselves.
var nodes = []contract.Kind{contract.SlotKind, contract.RichKind, contract.EventKind}

// members writes an interface's members, with what is known of each, behind others.
func (w writer) members(props []ir.Prop, first ...printer.Doc) printer.Doc {
	out := first
	if len(props)+len(first) == 0 {
		return text(" {}")
	}
	for i := range props {
		p := &props[i]
		out = append(out, text("/**"), text(" * "+comment(p.Purpose)))
		if v := p.Default(); v != nil && p.Kind() != contract.RichKind && p.Kind() != contract.ListKind {
			out = append(out, text(" * @default "+comment(literal(v))))
		}
		if p.Deprecated != "" {
			out = append(out, text(" * @deprecated "+comment(p.Deprecated)))
		}
		optional := "?: "
		if p.Required {
			optional = ": "
		}
		member := concat(text(p.Name+optional), w.typeOf(p))
		if !p.Required && p.Default() == nil && !slices.Contains(nodes, p.Kind()) {
			// It may be what a caller was not given itself.
			member = concat(text(p.Name+"?:"), group(indent(printer.Line, group(printer.IfBreak("| ", ""), w.typeOf(p), printer.Line, text("| undefined")))))
		}
		out = append(out, text(" */"), concat(member, text(";")))
	}
	return concat(text(" {"), indent(printer.HardLine, printer.Join(printer.HardLine, out...)), printer.HardLine, text("}"))
}

// props writes the interface: what the element takes, but for what the component's own
// props stand for.
func (w writer) props() printer.Doc {
	root := w.root()
	omitted := []string{quote("children")}
	var own []printer.Doc
	if root.As != nil { // a reference to any of them
		omitted = append(omitted, quote("ref"))
		own = []printer.Doc{
			text("/**"), text(" * The element that it is."), text(" * @default " + quote(root.Tag)), text(" */"), text("as?: " + w.n.elements + ";"), text("ref?: Ref<HTMLElement>;"),
		}
	}
	omit := func(name string) {
		if isNative(root.Tag, name) && !slices.Contains(omitted, quote(name)) {
			omitted = append(omitted, quote(name))
		}
	}
	for _, p := range w.m.Props {
		omit(p.Name)
	}
	for _, a := range root.Attributes {
		if a.Prop != "" {
			omit(jsxName(root.Tag, a))
		}
	}
	base := group(text("Omit<"), indent(printer.SoftLine, text("ComponentPropsWithRef<"+quote(root.Tag)+">,"), printer.Line, group(indent(printer.SoftLine, union(omitted)))), printer.SoftLine, text(">"))
	if len(w.m.Apart) == 0 {
		return concat(text("export interface "+w.n.props+" extends "), base, w.members(w.m.Props, own...))
	}
	return w.propsApart(base, own)
}

// propsApart writes the props of which some exclude others: those that do not, a shape for each that
// does, and all of it as one type.
func (w writer) propsApart(base printer.Doc, own []printer.Doc) printer.Doc {
	shared := slices.DeleteFunc(slices.Clone(w.m.Props), func(p ir.Prop) bool { return w.n.apart[p.ID] != "" })
	out := []printer.Doc{text("interface " + w.n.own + " extends "), base, w.members(shared, own...)}
	whole := []printer.Doc{text(w.n.own)}
	for _, together := range w.m.Apart {
		var shapes []string
		for _, id := range together {
			shapes = append(shapes, w.n.apart[id])
			var others []printer.Doc
			for _, other := range together {
				if other != id {
					others = append(others, text(w.prop(other).Name+"?: undefined;"))
				}
			}
			out = append(out, printer.HardLine, printer.HardLine, text("interface "+w.n.apart[id]), w.members([]ir.Prop{*w.prop(id)}, others...))
		}
		whole = append(whole, group(text("("), indent(printer.SoftLine, union(shapes)), printer.SoftLine, text(")")))
	}
	return concat(append(out, printer.HardLine, printer.HardLine, group(text("export type "+w.n.props+" = "), whole[0], text(" &"), indent(printer.Line, printer.Join(concat(text(" &"), printer.Line), whole[1:]...))), text(";"))...)
}
