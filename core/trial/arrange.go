package trial

import (
	"cmp"
	"maps"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/layout"
	"cobrik/core/primitive"
	"cobrik/core/problem"
)

// composed lays children out as a primitive does, for a row's arguments: the style of the container, and those of the children.
// What is wrong is told, and left out.
func (c *compiler) composed(r *Row, head string, args []Arg, children []*contract.Part) (own contract.Style, each []contract.Style, as string) {
	own = contract.Style{}
	props := map[string]string{}
	var kind *layout.Primitive
	for i := range layout.Primitives {
		if layout.Primitives[i].Name == head {
			kind = &layout.Primitives[i]
		}
	}
	c.style(r, args, own, func(a *Arg) bool {
		if a.Name == "as" {
			as = a.Value
			return true
		}
		if kind == nil {
			return false
		}
		for _, p := range kind.Props {
			if p.Name != a.Name {
				continue
			}
			props[p.Name] = a.css()
			if a.Kind == FlagArg {
				props[p.Name] = "yes"
			}
			return true
		}
		return false
	})
	nodes := make([]*layout.Node, len(children))
	for i, p := range children {
		nodes[i] = &layout.Node{Style: layout.Style{}}
		maps.Copy(nodes[i].Style, layout.Style(p.Style))
		each = append(each, p.Style)
	}
	if kind == nil {
		return own, each, as
	}
	n, err := layout.Compose(head, props, nodes...)
	if err != nil {
		c.fail(r, nil, "", "%s", err)
		n, _ = layout.Compose(head, nil, nodes...)
	}
	if shares := props["shares"]; shares != "" {
		if _, fits := layout.ColumnsOf(shares); !fits {
			c.fail(r, r.arg("shares"), `as in shares="1 2", or "content 1"`, "%q are no shares of a split", shares)
		}
	}
	style := primitive.Plain(n.Style)
	maps.Copy(style, own)
	for property, value := range style {
		if err := contract.CheckValue(property, value, c.Tokens); err != nil {
			c.fail(r, r.arg(property), "", "%s", err)
			delete(style, property)
		}
	}
	for i := range n.Children {
		each[i] = primitive.Plain(n.Children[i].Style)
	}
	return style, each, as
}

// primitive makes the part of a row that lays out others.
func (c *compiler) primitive(r *Row, in []*scope) []*contract.Part {
	p := c.part(r, r.Head)
	children := c.rows(r.Children, in)
	own, each, as := c.composed(r, r.Head, r.Args, children)
	p.Element, p.Style, p.Children = "div", own, children
	if as != "" {
		p.Element = as
	}
	for i, child := range children {
		child.Style = each[i]
	}
	widths := r.widthRows()
	for i, w := range widths {
		c.otherwise(r, widths[:i], w, p, children, own, each)
	}
	return []*contract.Part{p}
}

// widthRows are those that say what is otherwise of a row.
func (r *Row) widthRows() (out []*Row) {
	for _, w := range r.Children {
		if w.Kind == WidthRow && len(w.Children) == 0 && !w.None {
			out = append(out, w)
		}
	}
	return out
}

// merged are a row's arguments with those of one of its widths. Where that has another primitive, what was given to the one that the
// row has is gone.
func (r *Row) merged(w *Row) []Arg {
	if w.Head != "" && w.Head != r.Head {
		return mergedArgs(r.beside(), w.Args)
	}
	return mergedArgs(r.Args, w.Args)
}

// beside are a row's arguments without those of its primitive.
func (r *Row) beside() []Arg {
	return slices.DeleteFunc(slices.Clone(r.Args), func(a Arg) bool { return slices.Contains(propsOf(r.Head), a.Name) })
}

// propsOf lists the names of a primitive's props; none for what is none.
func propsOf(head string) (out []string) {
	for _, p := range layout.Primitives {
		if p.Name == head {
			for _, q := range p.Props {
				out = append(out, q.Name)
			}
		}
	}
	return out
}

func mergedArgs(base, over []Arg) []Arg {
	out := slices.Clone(base)
	for _, a := range over {
		switch i := slices.IndexFunc(out, func(b Arg) bool { return b.Name == a.Name }); {
		case a.Name == "shown":
			out = slices.DeleteFunc(out, func(b Arg) bool { return b.Name == "hidden" })
		case i >= 0:
			out[i] = a
		default:
			out = append(out, a)
		}
	}
	return out
}

// covers tells whether a width row holds wherever another does.
func (r *Row) covers(o *Row) bool {
	return r.In == o.In && r.Range.From <= o.Range.From && (r.Range.Below == 0 || o.Range.Below > 0 && o.Range.Below <= r.Range.Below)
}

// otherwise writes the rules of what is otherwise of a row in some widths: of what rows before it say there, what it says not is kept.
func (c *compiler) otherwise(r *Row, before []*Row, w *Row, p *contract.Part, children []*contract.Part, own contract.Style, each []contract.Style) {
	if c.without[w.Line] {
		return
	}
	for _, child := range children { // what children are given by the primitive is told anew
		child.Style = maps.Clone(child.Style)
	}
	now := &Row{Line: w.Line, Head: r.Head, Args: r.Args}
	apply := func(o *Row) {
		now.Args = now.merged(o)
		now.Head = cmp.Or(o.Head, now.Head)
	}
	touched := []contract.Style{own}
	childrenTouched := [][]contract.Style{each}
	for _, o := range before {
		if !c.without[o.Line] && o.covers(w) {
			apply(o)
			then, of := c.composedAgain(now, c.bare(children, each))
			touched, childrenTouched = append(touched, then), append(childrenTouched, of)
		}
	}
	apply(w)
	said, then := c.composedAgain(now, c.bare(children, each))
	when := w.when(w.Range)
	differing := func(of []contract.Style, said contract.Style) contract.Style {
		set := contract.Style{}
		for _, was := range of {
			maps.Copy(set, primitive.Differing(was, said))
		}
		return set
	}
	c.rule(w, p.ID, when, differing(touched, said))
	for i, child := range children {
		of := make([]contract.Style, len(childrenTouched))
		for k := range childrenTouched {
			of[k] = childrenTouched[k][i]
		}
		c.rule(w, child.ID, when, differing(of, then[i]))
	}
}

// composedAgain is composed for a row that is so at some widths: what is wrong with what it was before was told of that.
func (c *compiler) composedAgain(r *Row, children []*contract.Part) (own contract.Style, each []contract.Style) {
	before := c.page.Found
	own, each, _ = c.composed(r, r.Head, r.Args, children)
	told := c.page.Found[len(before):]
	c.page.Found = before[:len(before):len(before)]
	for _, p := range told {
		if !slices.ContainsFunc(before, func(o problem.Problem) bool { return o.Message == p.Message }) {
			c.page.Found = append(c.page.Found, p)
		}
	}
	return own, each
}

// bare gives parts as they are without what a primitive says of them.
func (c *compiler) bare(children []*contract.Part, each []contract.Style) []*contract.Part {
	out := make([]*contract.Part, len(children))
	for i := range children {
		style := maps.Clone(each[i])
		for _, property := range []string{"grid-area", "position", "align-self", "justify-self", "top", "left", "right", "bottom"} {
			delete(style, property)
		}
		out[i] = &contract.Part{Style: style}
	}
	return out
}
