package react

import (
	"slices"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// uses lists the components that a module uses, by name, in alphabetic order.
func (w writer) uses() (out []string) {
	ir.WalkNodes(w.m.Root, func(n ir.Node) {
		if u, ok := n.(*ir.Use); ok && !slices.Contains(out, u.Module.Name) {
			out = append(out, u.Module.Name)
		}
	})
	slices.Sort(out)
	return out
}

// use writes a use of another component as JSX.
func (w writer) use(u *ir.Use) printer.Doc {
	attributes := w.keyed()
	w.key = ""
	var children []ir.Node
	for _, g := range u.Given {
		if slices.Contains(u.Says, g.Prop.Name) {
			continue
		}
		if g.Nodes != nil && g.Prop.Name == "children" {
			children = g.Nodes
			continue
		}
		attributes = append(attributes, w.attributesOf(g)...)
	}
	if w.forced { // what stands inside of one that is held is held, too
		held := w.n.rest + " as Record<string, string | undefined>)[" + quote(ir.ForcedStates) + "] === undefined ? undefined : \"\""
		attributes = append(attributes, attribute{text(ir.ForcedStates + "={(" + held + "}"), false})
	}
	for _, name := range u.Says {
		attributes = append(attributes, attribute{group(text(name+"={"), indent(printer.SoftLine, w.saying(u.Part, name, "")), printer.SoftLine, text("}")), false})
	}
	return w.tag(u.Module.Name, append(attributes, w.className(u.Classes)...), children)
}

// attributesOf writes what a use gives for a prop as an attribute; none for what is not there.
func (w writer) attributesOf(g ir.Given) []attribute {
	name := g.Prop.Name
	whole := func(d printer.Doc) []attribute { return []attribute{{d, false}} }
	braced := func(d printer.Doc) []attribute {
		return whole(group(text(name+"={"), indent(printer.SoftLine, d), printer.SoftLine, text("}")))
	}
	if len(g.Cases) > 0 {
		return braced(w.cases(g))
	}
	switch v := g.Value.(type) {
	case nil:
	case contract.FlagValue:
		if v {
			return whole(text(name))
		}
		return whole(text(name + "={false}"))
	case contract.TextValue, contract.OptionValue, contract.LinkValue, contract.IconValue:
		value := attributeValue(v.String())
		return []attribute{{text(name + "=" + value), value[0] == '"'}}
	case contract.RichValue:
		if nodes := ir.Rich(v); len(nodes) > 0 {
			return braced(w.fragment(nodes))
		}
	default:
		return whole(concat(text(name+"={"), w.constant(g.Prop, v), text("}")))
	}
	switch {
	case len(g.Nodes) == 1 && isElement(g.Nodes[0]):
		return braced(w.jsx(g.Nodes[0]))
	case len(g.Nodes) > 0:
		return braced(w.wrapped(g.Nodes))
	case g.From != "":
		return whole(text(name + "={" + w.value(g.From) + "}"))
	}
	return nil
}

// cases writes a value that depends on conditions: the last that holds wins. Where any of the
// values is JSX, all stand between parentheses of their own.
func (w writer) cases(g ir.Given) printer.Doc {
	base, jsx := g.Value, false
	if base == nil && g.From == "" {
		base = g.Prop.Default()
	}
	for _, k := range append(g.Cases[:len(g.Cases):len(g.Cases)], ir.GivenCase{Value: base}) {
		if v, rich := k.Value.(contract.RichValue); rich {
			jsx = jsx || slices.ContainsFunc(ir.Rich(v), isElement) || len(ir.Rich(v)) > 1
		}
	}
	side := func(d printer.Doc) printer.Doc {
		if jsx {
			return concat(printer.IfBreak("(", ""), indent(printer.SoftLine, d), printer.SoftLine, printer.IfBreak(")", ""))
		}
		return d
	}
	out := text("undefined")
	switch {
	case g.From != "":
		out = side(text(w.value(g.From)))
	case base != nil:
		out = side(w.bareConstant(g.Prop, base))
	}
	if !jsx {
		out = indent(out)
	}
	for i, k := range g.Cases {
		tests := w.tests(k.When)
		test := group(tests[0], concat(rest(tests[1:])...))
		if i < len(g.Cases)-1 {
			test = group(tests[0], indent(indent(rest(tests[1:])...)))
		}
		if value := side(w.bareConstant(g.Prop, k.Value)); jsx {
			out = concat(test, text(" ? "), value, text(" : "), out)
		} else {
			out = concat(test, indent(printer.Line, text("? "), indent(value), printer.Line, text(": "), out))
		}
	}
	return group(out)
}

// bareConstant is constant without the parentheses that JSX has around it.
func (w writer) bareConstant(p *ir.Prop, v contract.Value) printer.Doc {
	if rich, ok := v.(contract.RichValue); ok {
		return w.fragment(ir.Rich(rich))
	}
	return w.constant(p, v)
}

// shortKey is how wide a key is at least for a text that is too long to stand below it.
const shortKey = 5

// member writes a member of an item.
func (w writer) member(p *ir.Prop, v contract.Value) printer.Doc {
	key, value := keyOf(p.Name), w.constant(p, v)
	switch v.(type) {
	case contract.ImageValue, contract.RichValue, contract.ListValue:
	default:
		if printer.Columns(key) >= shortKey {
			return group(text(key+":"), indent(printer.Line, value))
		}
	}
	return concat(text(key+": "), value)
}

// constant writes a value of a prop as an expression.
func (w writer) constant(p *ir.Prop, v contract.Value) printer.Doc {
	switch v := v.(type) {
	case contract.ImageValue:
		number := func(n float64) printer.Doc { return text(contract.NumberValue(n).String()) }
		return group(braced(
			text("src: "+quote(v.Source)), text("alt: "+quote(v.Alt)),
			concat(text("width: "), number(v.Width)), concat(text("height: "), number(v.Height))))
	case contract.RichValue:
		return w.several(ir.Rich(v))
	case contract.ListValue:
		items := make([]printer.Doc, len(v))
		for i, item := range v {
			var members []printer.Doc
			for k := range p.Items {
				if q := &p.Items[k]; item[q.ID] != nil {
					members = append(members, w.member(q, item[q.ID]))
				}
			}
			items[i] = group(braced(members...))
		}
		if len(items) == 0 {
			return text("[]")
		}
		return group(text("["), indent(printer.SoftLine, commas(items)), printer.IfBreak(",", ""), printer.SoftLine, text("]"))
	}
	return text(literal(v))
}
