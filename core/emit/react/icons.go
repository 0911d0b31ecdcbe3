package react

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit"
	"cobrik/core/emit/ir"
	"cobrik/core/emit/printer"
)

// icons are the drawings of a library that are components of their own, by what they draw.
type icons struct {
	names    map[string]string // by the drawing's key
	elements map[string]*ir.Element
}

// iconKey names what an element draws, the same for the same drawing. It is empty for what is no
// icon: a drawing of colours of its own, one that stretches, one that says something.
func iconKey(e *ir.Element) string {
	if e.Tag != "svg" {
		return ""
	}
	var b strings.Builder
	for _, a := range e.Attributes {
		switch {
		case a.Name == "viewBox":
			b.WriteString(a.Value)
		case a.Name != "aria-hidden":
			return ""
		}
	}
	for _, c := range e.Children {
		path, ok := c.(*ir.Element)
		if !ok {
			return ""
		}
		for _, a := range path.Attributes {
			if a.Name != "d" && a.Name != "fill-rule" && !(a.Name == "fill" && a.Value == "none") {
				return ""
			}
			b.WriteString("\n" + a.Name + " " + a.Value)
		}
	}
	return b.String()
}

// plainIcons are names of parts that say nothing of what is drawn.
var plainIcons = []string{"icon", "vector", "svg", "image", "picture"}

// iconsOf gathers the icons of modules. Each is named after the part, or the option, that draws it
// first, by names that no component has.
func iconsOf(modules []*ir.Module) icons {
	scope := emit.NewScope(nil, keywords...)
	for _, m := range modules {
		scope.Name(m.Name, "")
	}
	out := icons{map[string]string{}, map[string]*ir.Element{}}
	add := func(e *ir.Element, name string) {
		if key := iconKey(e); key != "" && out.names[key] == "" {
			out.names[key] = scope.Name(contract.Capitalized(contract.Identifier(name, "drawn"))+"Icon", "Drawing")
			out.elements[key] = e
		}
	}
	for _, m := range modules {
		ir.WalkNodes(m.Root, func(n ir.Node) {
			switch n := n.(type) {
			case ir.Choose:
				for _, o := range n.Options {
					add(o.Element, o.Value)
				}
			case *ir.Element:
				name := n.Part
				if slices.Contains(plainIcons, name) || strings.HasPrefix(name, "icon") {
					name = m.Name
				}
				add(n, name)
			}
		})
	}
	return out
}

// of gives the name of the icon that an element draws; empty for none.
func (i icons) of(e *ir.Element) string {
	if key := iconKey(e); key != "" {
		return i.names[key]
	}
	return ""
}

// in lists the icons that a module shows, in alphabetic order.
func (i icons) in(m *ir.Module) (out []string) {
	ir.Walk(m.Root, func(e *ir.Element) {
		if name := i.of(e); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	})
	slices.Sort(out)
	return out
}

// files writes a component an icon, and an index of them; none where there are none.
func (i icons) files() (out []emit.File) {
	byName := map[string]*ir.Element{}
	var names []string
	for key, name := range i.names {
		byName[name] = i.elements[key]
		names = append(names, name)
	}
	slices.Sort(names)
	var index strings.Builder
	for _, name := range names {
		out = append(out, emit.File{Path: "icons/" + name + ".tsx", Content: iconFile(name, byName[name])})
		index.WriteString("export { " + name + " } from " + quote("./"+name) + ";\n")
	}
	if names == nil {
		return nil
	}
	return append(out, emit.File{Path: "icons/index.ts", Content: index.String()})
}

func iconFile(name string, e *ir.Element) string {
	bare := &ir.Element{Tag: "svg", Attributes: e.Attributes, Children: e.Children}
	w := writer{m: &ir.Module{Root: bare}}
	attributes := append(w.attributes(bare), attribute{text("{...props}"), false})
	return print(
		text("import type { ComponentPropsWithRef } from \"react\";"), printer.HardLine, printer.HardLine,
		text("export function "+name+"(props: ComponentPropsWithRef<\"svg\">) {"),
		indent(printer.HardLine, text("return "), parenthesized(w.tag("svg", attributes, bare.Children)), text(";")), printer.HardLine,
		text("}"),
	)
}
