// Package emittest renders a module as HTML, for tests that look at emitted style
// sheets in a browser without a framework.
package emittest

import (
	"fmt"
	"html"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// Markup writes what the component renders for prop values. Each part carries its id
// as data-part.
func Markup(m *ir.Module, props contract.Values) string {
	defaults := contract.Values{}
	for _, p := range m.Props {
		defaults[p.ID] = p.Default()
	}
	w := writer{props: defaults.With(props)}
	w.node(m.Root)
	return w.b.String()
}

type writer struct {
	b     strings.Builder
	props contract.Values
}

func (w *writer) node(n ir.Node) {
	switch n := n.(type) {
	case ir.Text:
		w.b.WriteString(html.EscapeString(w.props[n.Prop].String()))
	case ir.Fixed:
		w.b.WriteString(html.EscapeString(n.Text))
	case ir.If:
		env := contract.EnvOf(w.props)
		if !slices.ContainsFunc(n.When, func(t contract.PropIs) bool { return !t.Holds(env) }) {
			w.node(n.Then)
		}
	case *ir.Element:
		w.b.WriteString("<" + n.Tag)
		if n.Part != "" {
			fmt.Fprintf(&w.b, ` data-part="%s"`, html.EscapeString(n.Part))
		}
		var classes []string
		for _, c := range n.Classes {
			if c.Prop != "" {
				c.Name = c.Values[w.props[c.Prop]]
			}
			if c.Name != "" {
				classes = append(classes, c.Name)
			}
		}
		fmt.Fprintf(&w.b, ` class="%s"`, html.EscapeString(strings.Join(classes, " ")))
		for _, a := range n.Attributes {
			switch {
			case a.Prop == "":
				fmt.Fprintf(&w.b, ` %s="%s"`, a.Name, html.EscapeString(a.Value))
			case strings.Contains(a.Name, "-"): // ARIA's and data's are said either way
				fmt.Fprintf(&w.b, ` %s="%s"`, a.Name, w.props[a.Prop])
			case w.props[a.Prop] == contract.FlagValue(true):
				w.b.WriteString(" " + a.Name)
			}
		}
		w.b.WriteString(">")
		for _, c := range n.Children {
			w.node(c)
		}
		w.b.WriteString("</" + n.Tag + ">")
	}
}
