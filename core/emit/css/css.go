// Package css writes a module's style sheet: a class a part, a class an option, rules
// in the contract's order, tokens as custom properties.
package css

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// Module writes the CSS module of a component.
func Module(m *ir.Module, tokens emit.Tokens) string {
	var b strings.Builder
	indent := ""
	var around []string // the conditional rules that are open
	leave := func(kept int) {
		for len(around) > kept {
			around, indent = around[:len(around)-1], indent[2:]
			b.WriteString(indent + "}\n")
		}
	}
	for i, r := range m.Rules {
		same := 0
		for same < min(len(around), len(r.At)) && around[same] == r.At[same] {
			same++
		}
		leave(same)
		if i > 0 {
			b.WriteString("\n")
		}
		for _, at := range r.At[same:] {
			b.WriteString(indent + at + " {\n")
			around, indent = append(around, at), indent+"  "
		}
		writeRule(&b, r, tokens, indent)
	}
	leave(0)
	return b.String()
}

func writeRule(b *strings.Builder, r ir.Rule, tokens emit.Tokens, indent string) {
	b.WriteString(indent + broken(r.Selector, indent) + " {\n")
	for _, d := range append(slices.Clone(r.Reset), declared(r.Declarations)...) {
		b.WriteString(indent + "  " + d.Property + ":" + laidOut(d.Property, Value(d.Value, tokens), indent+"  ") + ";\n")
	}
	b.WriteString(indent + "}\n")
}

// columns is how wide a line may be.
const columns = 100

// broken puts the parts of a selector that is too long on lines of their own.
func broken(selector, indent string) string {
	if printer.Columns(indent+selector+" {") <= columns {
		return selector
	}
	return strings.Join(parted(selector, ' '), "\n"+indent+"  ")
}

// declared lists a style's declarations, a border on all sides as one.
func declared(s contract.Style) (out []ir.Declaration) {
	border := s["border-width"] != "" && s["border-style"] != "" && s["border-color"] != "" && !strings.Contains(s["border-width"], " ")
	for _, property := range s.Properties() {
		switch {
		case border && property == "border-width":
			out = append(out, ir.Declaration{Property: "border", Value: s["border-width"] + " " + s["border-style"] + " " + s["border-color"]})
		case border && (property == "border-style" || property == "border-color"):
		default:
			out = append(out, ir.Declaration{Property: property, Value: s[property]})
		}
	}
	return out
}

// laidOut writes a value after its property as formatters do: shadows and transitions, which are
// several words, on a line each; pictures as many on a line as fit.
func laidOut(property, value, indent string) string {
	parts := parted(value, ',')
	several := len(parts) > 1
	inner := indent + "  "
	fits := len(indent)+len(property)+len(": ")+len(value)+len(";") <= columns
	switch {
	case several && (property == "transition" || property == "box-shadow"):
		return "\n" + inner + strings.Join(parts, ",\n"+inner)
	case property != "background-image" || fits:
		return " " + value
	case !several:
		return " " + brokenFunction(value, indent)
	}
	var lines []string
	room := 0 // left on the last line
	for i, part := range parts {
		width := len(part) + len(",")
		switch {
		case i > 0 && width+len(" ") <= room:
			lines[len(lines)-1] += ", " + part
			room -= width + len(" ")
		case len(inner)+width <= columns:
			lines, room = append(lines, part), columns-len(inner)-width
		default:
			lines, room = append(lines, brokenFunction(part, inner)), 0
		}
	}
	return "\n" + inner + strings.Join(lines, ",\n"+inner)
}

// brokenFunction writes a function with an argument a line.
func brokenFunction(value, indent string) string {
	name, rest, ok := strings.Cut(value, "(")
	if !ok {
		return value
	}
	inner := indent + "  "
	return name + "(\n" + inner + strings.Join(parted(strings.TrimSuffix(rest, ")"), ','), ",\n"+inner) + "\n" + indent + ")"
}

// parted cuts a value at a separator outside of parentheses and quotes.
func parted(value string, at byte) (out []string) {
	depth, from := 0, 0
	for i := range len(value) {
		switch value[i] {
		case '(':
			depth++
		case ')':
			depth--
		case at:
			if depth == 0 {
				out = append(out, strings.TrimSpace(value[from:i]))
				from = i + 1
			}
		}
	}
	return append(out, strings.TrimSpace(value[from:]))
}

// Value writes a contract's value with references as custom properties.
func Value(value string, tokens emit.Tokens) string {
	return css.ReplaceRefs(value, func(path string) string { return "var(" + tokens.Property(path) + ")" })
}

// Declarations writes the types of the module's classes.
func Declarations(m *ir.Module) string {
	var b strings.Builder
	b.WriteString("declare const styles: {\n")
	for _, name := range m.Classes {
		b.WriteString("  readonly " + name + ": string;\n")
	}
	b.WriteString("};\n\nexport default styles;\n")
	return b.String()
}
