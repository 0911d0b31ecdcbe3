package contract

import (
	"slices"

	"cobrik/core/layout"
)

// pressed are the elements people press, which have a least size (WCAG 2.2,
// 2.5.8).
var pressed = []string{"button", "a", "input", "select", "summary"}

// Boxes gives the parts a case shows as boxes to be laid out, named as the
// parts are: what the emitted code is to a browser, to the solver.
func (r *Resolved) Boxes() *layout.Node {
	n := &layout.Node{Name: r.Part.Name, Text: r.Text, Style: layout.Style{}, Target: slices.Contains(pressed, r.Part.Element)}
	for property, v := range r.Values {
		if v.Part == r.Part.Name {
			n.Style[property] = CSSOf(property, v.Value)
		}
	}
	for _, c := range r.Children {
		if c.Shown {
			n.Children = append(n.Children, c.Boxes())
		}
	}
	return n
}
