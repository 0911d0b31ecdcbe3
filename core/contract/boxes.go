package contract

import (
	"maps"
	"slices"

	"cobrik/core/css"
	"cobrik/core/layout"
	"cobrik/core/token"
)

// pressed are the elements people press, which have a least size (WCAG 2.2,
// 2.5.8).
var pressed = []string{"button", "a", "input", "select", "summary"}

// Boxes gives the parts a case shows as boxes to be laid out, named by the
// parts' keys: what the emitted code is to a browser, to the solver.
func (r *Resolved) Boxes() *layout.Node {
	style, from := r.box()
	n := &layout.Node{Name: r.Key(), Label: r.Part.Name, Text: from.Text, Style: style, Target: slices.Contains(pressed, from.Part.Element)}
	for _, c := range from.Below() {
		n.Children = append(n.Children, c.Boxes())
	}
	return n
}

// box gives the style of the element that a part is, and the part whose element it is: of a use
// the component's root, which stands as the use says.
func (r *Resolved) box() (layout.Style, *Resolved) {
	if r.Inside == nil {
		return r.ownStyle(), r
	}
	style, from := r.Inside.box()
	maps.Copy(style, r.ownStyle())
	return style, from
}

// Below lists the parts that stand in the element that a part is, and are there, in the order of
// Boxes.
func (r *Resolved) Below() (out []*Resolved) {
	if r.Inside != nil {
		return r.Inside.Below()
	}
	for _, c := range slices.Concat(r.Filled, r.Children) {
		if c.Shown {
			out = append(out, c)
		}
	}
	return out
}

// ownStyle gives what a part says of itself in CSS.
func (r *Resolved) ownStyle() layout.Style {
	s := layout.Style{}
	for property, v := range r.Values {
		if v.Part == r.Part.ID {
			s[property] = css.DeclaredText(property, v.Value)
		}
	}
	return s
}

// Boxes gives the component in an environment as boxes to be laid out at any width of
// its container: what changes at the contract's switch points changes there.
func (c *Contract) Boxes(env Env, tokens *token.Set) *layout.Node {
	root := Resolve(c, env.At(0), tokens).Boxes()
	points := c.SwitchPoints()
	for i := len(points) - 1; i >= 0; i-- { // narrower ones later, to win
		from := 0.0
		if i > 0 {
			from = points[i-1]
		}
		addSwitches(root, Resolve(c, env.At((from+points[i])/2), tokens), from, points[i])
	}
	return root
}

func addSwitches(n *layout.Node, r *Resolved, least, below float64) {
	change := layout.Style{}
	now, from := r.box()
	for property, value := range now {
		if n.Style[property] != value {
			change[property] = value
		}
	}
	for property := range n.Style {
		if _, said := now[property]; !said { // what only a wider container has
			change[property] = css.InitialText(property)
			if known, ok := css.PropertyNamed(property); ok && known.Inherited {
				change[property] = "inherit"
			}
		}
	}
	if len(change) > 0 {
		n.At = append(n.At, layout.Switch{From: least, Below: below, Style: change})
	}
	for i, c := range from.Below() {
		addSwitches(n.Children[i], c, least, below)
	}
}
