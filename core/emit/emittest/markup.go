// Package emittest renders a module as HTML, for tests that look at emitted style
// sheets in a browser without a framework.
package emittest

import (
	"fmt"
	"html"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// Markup writes what the component renders for prop values. Each part carries its id
// as data-part, a component's root the use's as data-use. Slots that nobody filled have their
// default.
func Markup(m *ir.Module, props contract.Values) string { return markup(m, props, false) }

// Hashed is Markup with classes of a module's own, as CSS Modules make them: HashedSheet has the
// same.
func Hashed(m *ir.Module, props contract.Values) string { return markup(m, props, true) }

// HashedSheet gives a module's style sheet with the classes that Hashed writes.
func HashedSheet(m *ir.Module, sheet string) string {
	for _, class := range m.Classes {
		at := regexp.MustCompile(`\.(` + regexp.QuoteMeta(class) + `)([^\w-])`)
		for at.MatchString(sheet) {
			sheet = at.ReplaceAllString(sheet, "."+hash(m.Name, "${1}")+"${2}")
		}
	}
	return sheet
}

func hash(module, class string) string { return module + "__" + class + "__" }

func markup(m *ir.Module, props contract.Values, hashed bool) string {
	w := writer{hashed: hashed}
	w.node(m.Root, m.World(props), "")
	return w.b.String()
}

type writer struct {
	b       strings.Builder
	hashed  bool
	use     string   // the part whose component's outermost element is written next
	classes []string // that it is given
}

// node writes a node; at tells the items it is for apart.
func (w *writer) node(n ir.Node, in ir.World, at string) {
	switch n := n.(type) {
	case ir.Text:
		switch v := in.Value(n.Prop).(type) {
		case nil:
		case contract.RichValue:
			w.nodes(ir.Rich(v), in, at)
		default:
			w.b.WriteString(html.EscapeString(v.String()))
		}
	case ir.Fixed:
		w.b.WriteString(html.EscapeString(n.Text))
	case ir.Said:
		if text, said := in.Says(n.Part, contract.TextSaid).(string); said {
			w.b.WriteString(html.EscapeString(text))
		} else {
			w.node(n.Else, in, at)
		}
	case ir.If:
		if in.Holds(n.When) {
			w.node(n.Then, in, at)
		} else if n.Else != nil {
			w.node(n.Else, in, at)
		}
	case ir.For:
		for i, item := range in.Items(n.List) {
			w.node(n.Each, item, fmt.Sprintf("%s-%d", at, i))
		}
	case ir.Slot:
		f := in.Slot(n)
		w.nodes(f.Nodes, f.World, at)
	case *ir.Use:
		w.use, w.classes = n.Part, w.classesOf(n.Classes, in)
		w.node(n.Module.Root, in.Inside(n), at+"-"+n.Part)
	case ir.Choose:
		for _, o := range n.Options {
			if in.Value(n.Prop) == contract.IconValue(o.Value) {
				w.node(o.Element, in, at)
			}
		}
	case *ir.Element:
		w.element(n, in, at)
	}
}

func (w *writer) nodes(list []ir.Node, in ir.World, at string) {
	for _, n := range list {
		w.node(n, in, at)
	}
}

func (w *writer) element(n *ir.Element, in ir.World, at string) {
	tag := n.Tag
	if n.Level != "" {
		tag = "h" + in.Value(n.Level).String()
	}
	w.b.WriteString("<" + tag)
	if n.Part != "" {
		fmt.Fprintf(&w.b, ` data-part="%s"`, html.EscapeString(n.Part))
	}
	if n.Named {
		fmt.Fprintf(&w.b, ` id="%s%s"`, html.EscapeString(n.Part), at)
	}
	list := w.classesOf(n.Classes, in)
	if w.use != "" {
		fmt.Fprintf(&w.b, ` data-use="%s"`, html.EscapeString(w.use))
		list, w.use = append(list, w.classes...), ""
	}
	fmt.Fprintf(&w.b, ` class="%s"`, html.EscapeString(strings.Join(list, " ")))
	for _, a := range n.Attributes {
		if in.Says(n.Part, a.Name) == nil {
			w.attribute(a, in, at)
		}
	}
	for _, name := range n.Says {
		if name == contract.TextSaid {
			continue
		}
		w.said(name, in.Says(n.Part, name))
	}
	w.b.WriteString(">")
	if slices.Contains(contract.Void, tag) {
		return
	}
	w.nodes(n.Children, in, at)
	w.b.WriteString("</" + tag + ">")
}

// classesOf lists those that an element has.
func (w *writer) classesOf(list []ir.Class, in ir.World) (out []string) {
	for _, c := range list {
		switch {
		case c.Prop != "":
			c.Name = c.Values[in.Value(c.Prop)]
		case c.While != nil && !in.Holds([]contract.Term{c.While}):
			c.Name = ""
		}
		switch {
		case c.Name != "" && w.hashed:
			out = append(out, hash(in.Module(), c.Name))
		case c.Name != "":
			out = append(out, c.Name)
		}
	}
	return out
}

// said writes what the behaviour says of the element, as it begins.
func (w *writer) said(name string, value any) {
	property := contract.Shares[name]
	if name == "start" {
		property = "inset-inline-start"
	}
	switch v := value.(type) {
	case nil:
	case float64:
		if property != "" {
			fmt.Fprintf(&w.b, ` style="%s: %v%%"`, property, v*100)
			return
		}
		fmt.Fprintf(&w.b, ` %s="%v"`, name, v)
	case bool:
		if strings.Contains(name, "-") {
			fmt.Fprintf(&w.b, ` %s="%v"`, name, v)
		} else if v {
			w.b.WriteString(" " + name)
		}
	case string:
		fmt.Fprintf(&w.b, ` %s="%s"`, name, html.EscapeString(v))
	}
}

func (w *writer) attribute(a ir.Attribute, in ir.World, at string) {
	value := a.Value
	switch v := in.Value(a.Prop).(type) {
	case nil:
		if a.Event || a.Prop != "" {
			return
		}
	case contract.FlagValue:
		if !strings.Contains(a.Name, "-") { // ARIA's and data's are said either way
			if v {
				w.b.WriteString(" " + a.Name)
			}
			return
		}
		value = v.String()
	case contract.ImageValue:
		value = map[string]string{"src": v.Source, "alt": v.Alt, "width": contract.NumberValue(v.Width).String(), "height": contract.NumberValue(v.Height).String()}[a.Of]
	default:
		value = v.String()
	}
	if a.Part != "" {
		value = a.Part + at
	}
	fmt.Fprintf(&w.b, ` %s="%s"`, a.Name, html.EscapeString(value))
}
