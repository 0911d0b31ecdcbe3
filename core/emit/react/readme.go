package react

import (
	"fmt"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// readme tells people of a component: how it is used, what its props are, what it is made of.
// Components it uses are found at a path.
func readme(c *contract.Contract, m *ir.Module, n names, uses string) string {
	w := writer{m: m, n: n}
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n", m.Name)
	if m.Purpose != "" {
		fmt.Fprintf(&b, "%s\n\n", prose(m.Purpose))
	}
	if m.Deprecated != "" {
		fmt.Fprintf(&b, "**Deprecated.** %s\n\n", prose(m.Deprecated))
	}
	notes(&b, "Do", c.Do)
	notes(&b, "Don’t", c.Dont)
	fmt.Fprintf(&b, "```tsx\n%s```\n", w.example(c))
	if len(m.Props) > 0 || w.root().As != nil {
		b.WriteString("\n## Props\n\n| Prop | Type | Default | What it is for |\n| --- | --- | --- | --- |\n")
		if root := w.root(); root.As != nil {
			fmt.Fprintf(&b, "| `as` | %s | %s | The element that it is. |\n", code("\""+strings.Join(append([]string{root.Tag}, root.As...), "\" | \"")+"\""), code("\""+root.Tag+"\""))
		}
		each(m, func(p, list *ir.Prop) {
			name := p.Name
			if list != nil {
				name = list.Name + "[]." + name
			}
			fmt.Fprintf(&b, "| `%s` | %s | %s | %s |\n", name, code(w.typeCell(p)), w.defaultCell(p), prose(p.Purpose)+together(c, p)+deprecation(p))
		})
		fmt.Fprintf(&b, "\nIt takes the attributes of `%s`, too, and its `ref`.\n", w.root().Tag)
	}
	if held := holding(c); len(held) > 0 {
		fmt.Fprintf(&b, "\n## What it is held to\n\n`%s.test.tsx` runs these with Vitest and Testing Library:\n\n", m.Name)
		for _, s := range held {
			fmt.Fprintf(&b, "- %s\n", prose(s.Name))
		}
	}
	if used := w.uses(); len(used) > 0 {
		fmt.Fprintf(&b, "\n## Made of\n\n")
		for _, name := range used {
			fmt.Fprintf(&b, "- [%s](%s%s/README.md)\n", name, uses, name)
		}
		if out := c.Unreachable(); len(out) > 0 {
			b.WriteString("\nWhat a use cannot change of them:\n\n")
			for _, u := range out {
				fmt.Fprintf(&b, "- %s\n", prose(u.String()))
			}
		}
	}
	b.WriteString(editing)
	return b.String()
}

// editing says what people may do with the code: it is theirs, too.
const editing = `
## Editing this code

Edit it where you like: what you change is read, and never written over unseen. When it is written again, what both changed is asked about.

- Yours alone: comments, formatting, the order of declarations and members, files of your own beside these, and code that no contract holds, such as hooks and handlers.
- Kept in step with the contract: props with their types and defaults, elements and attributes, parts and when they are shown, rules of styles with their conditions, states, tokens. A change there is taken into the contract, put back, or left with a reason.
- This page and the types of the style sheet follow the contract.
`

// together says what a prop is not given together with.
func together(c *contract.Contract, p *ir.Prop) string {
	var names []string
	for _, id := range c.ApartFrom(p.Key) {
		names = append(names, "`"+c.Prop(id).Name+"`")
	}
	if names == nil {
		return ""
	}
	return " Not together with " + strings.Join(names, ", ") + "."
}

// notes writes what a component is used for, and what not.
func notes(b *strings.Builder, title string, list []string) {
	if len(list) == 0 {
		return
	}
	fmt.Fprintf(b, "**%s**\n\n", title)
	for _, note := range list {
		fmt.Fprintf(b, "- %s\n", prose(note))
	}
	b.WriteString("\n")
}

// example writes a use of the component, with what is required and what it is looked at with.
func (w writer) example(c *contract.Contract) string {
	var attributes []attribute
	var children []ir.Node
	examples := c.Examples()
	for i := range w.m.Props {
		p := &w.m.Props[i]
		v := examples[p.ID]
		switch {
		case p.Kind() == contract.SlotKind && p.Name == "children":
			children = append(children, ir.Fixed{Text: "…"})
		case v != nil && (p.Required || p.Example != nil):
			if picture, ok := v.(contract.ImageValue); ok && len(picture.Source) > longestSource {
				picture.Source = "/" + p.Name + ".png"
				v = picture
			}
			attributes = append(attributes, w.attributesOf(ir.Given{Prop: p, Value: v})...)
		}
	}
	return print(w.tag(w.m.Name, attributes, children))
}

// longestSource is how long an image's address is written out, bytes.
const longestSource = 100

// typeCell writes a prop's type, that of a choice with its options.
func (w writer) typeCell(p *ir.Prop) string {
	switch p.Type.(type) {
	case contract.Choice, contract.Icon:
		return p.Type.TypeScript()
	}
	return printed(w.typeOf(p))
}

func (w writer) defaultCell(p *ir.Prop) string {
	switch v := p.Default().(type) {
	case nil:
		if p.Required {
			return "required"
		}
		return ""
	case contract.RichValue, contract.ListValue:
		return prose(v.String())
	default:
		return code(literal(v))
	}
}

func deprecation(p *ir.Prop) string {
	if p.Deprecated == "" {
		return ""
	}
	return " **Deprecated:** " + prose(p.Deprecated)
}

// printed lays a document out on one line.
func printed(d printer.Doc) string {
	return strings.Join(strings.Fields(printer.Print(d, 10_000)), " ")
}

// code writes text as code in a cell of a table (CommonMark 0.31, 6.1; a bar would end the cell).
func code(text string) string {
	fence := "`"
	for strings.Contains(text, fence) {
		fence += "`"
	}
	if fence != "`" {
		text = " " + text + " "
	}
	return fence + strings.ReplaceAll(text, "|", "\\|") + fence
}

// marks are characters that CommonMark reads as more than themselves (0.31, 2.4).
var marks = strings.NewReplacer("\\", "\\\\", "`", "\\`", "*", "\\*", "_", "\\_", "<", "\\<", "[", "\\[", "]", "\\]", "|", "\\|", "#", "\\#")

// prose writes text as it is, on one line.
func prose(text string) string { return marks.Replace(strings.Join(strings.Fields(text), " ")) }
