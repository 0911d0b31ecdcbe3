package react

import (
	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// Filled writes a component with the values it is shown with, as a component of its own beside it: Plots.filled.tsx.
func Filled(c *contract.Contract, values contract.Values) emit.File {
	m := ir.Lower(c)
	drawn := assetsOf(c.Closure())
	w := writer{m: m, n: namesOf(m, drawn), assets: drawn, repeated: map[string][]string{}}
	var attributes []attribute
	for i := range m.Props {
		if v := values[m.Props[i].ID]; v != nil {
			attributes = append(attributes, w.attributesOf(ir.Given{Prop: &m.Props[i], Value: v})...)
		}
	}
	returned := group(text("return "), printer.IfBreak("(", ""), indent(printer.SoftLine, w.tag(m.Name, attributes, nil)), printer.SoftLine, printer.IfBreak(")", ""), text(";"))
	return emit.File{Path: m.Name + ".filled.tsx", Content: print(
		text("import { "+m.Name+" } from "+quote("./"+m.Name)+";"), printer.HardLine, printer.HardLine,
		text("/** "+m.Name+" with what its records say. */"), printer.HardLine,
		text("export function "+m.Name+"Filled() {"), indent(printer.HardLine, returned), printer.HardLine, text("}"),
	)}
}
