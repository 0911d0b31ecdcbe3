package source

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// use reads the use of another component.
func (r *reader) use(p *contract.Part, n, tag *syntax.Node, s *scope, list string) *contract.Part {
	name := tagOf(n).Text()
	component := name
	m := r.moduleOf(n)
	if in, ok := m.imports[name]; ok && in.name != "default" && in.name != "*" {
		component = in.name
	} else if ok && in.name == "default" {
		if to := r.code.module(r.code.resolve(m.Name, in.from)); to != nil {
			if exported := to.exportedAs(to.localOf("default")); exported != "" {
				component = exported
			}
		}
	} else if local := m.value(name); !ok && styledTag(local) != "" {
		declared := strings.Count(local.Child("arguments").Text(), ";")
		r.unread(local, "styles", fmt.Sprintf("the styles of %s, %d declarations in a template literal", name, declared))
		if element, is := strings.CutPrefix(styledTag(local), "styled."); is {
			p.Element = element
			classNames := r.attributes(p, tag, s)
			p.ID = r.partName(r.called(p, classNames))
			p.Name = p.ID
			r.hold(p, r.inside(n, s, always(), ""))
			return p
		}
	} else if !ok && m.component(name) != nil && m.exportedAs(name) == "" {
		r.unread(n, "element", "a component of the file's own, "+name)
	}
	of := r.o.Component(component)
	use := &contract.Use{Component: component, Given: map[string]contract.Given{}}
	if of != nil {
		use = contract.UseOf(of)
	} else {
		r.unsure(Subject{Property: "use " + component}, "nothing is known of the component "+component)
	}
	p.Content = use
	p.ID = ""
	var classNames []class
	given := func(name string, value, at *syntax.Node) {
		q := (*contract.Prop)(nil)
		id := name
		if of != nil {
			for i := range of.Props {
				if of.Props[i].Name == name {
					q, id = &of.Props[i], of.Props[i].ID
				}
			}
		}
		if g, ok := r.given(p, q, value, s, list); ok {
			use.Given[id] = g
			r.laterPlace(p, "given "+name, at)
			return
		}
		r.unread(at, "use", "what "+component+" is given for "+name)
	}
	for _, a := range tag.Inner() {
		switch {
		case a.Field == "name":
		case a.Is("jsx_expression"):
			if spread := a.First("spread_element"); spread != nil {
				if m, ok := r.means(bare(spread.Lead()), s); ok && (m.kind == restProps || m.kind == propsWhole) {
					r.spread = p
					continue
				}
				r.unread(a, "use", "what "+component+" is given by "+shortened(a.Text()))
			}
		case a.Is("jsx_attribute"):
			inner := a.Inner()
			value := (*syntax.Node)(nil)
			if len(inner) > 1 {
				value = inner[1]
			}
			switch name := a.Lead().Text(); name {
			case "className":
				classNames = r.classAttribute(value, s)
				r.has[p] = classNames
			case "key", "ref":
			case "style":
				r.inlineStyle(p, value, s)
			default:
				given(name, value, a)
			}
		}
	}
	p.ID = r.partName(r.calledUse(classNames, component, p))
	p.Name = p.ID
	if pieces := r.inside(n, s, always(), ""); len(pieces) > 0 {
		r.between(p, use, of, pieces, n)
	}
	return p
}

func (r *reader) calledUse(classNames []class, component string, p *contract.Part) string {
	if name := r.called(p, classNames); !r.anonymous[p] {
		return name
	}
	return component
}

// between reads what stands between a use's tags: its children.
func (r *reader) between(p *contract.Part, use *contract.Use, of *contract.Contract, pieces []piece, n *syntax.Node) {
	id, q := "children", (*contract.Prop)(nil)
	if of != nil {
		for i := range of.Props {
			if of.Props[i].Name == "children" {
				q, id = &of.Props[i], of.Props[i].ID
			}
		}
	}
	if len(pieces) == 1 && pieces[0].part == nil && pieces[0].when.isAlways() {
		one := pieces[0]
		if one.prop != "" {
			use.Given[id] = contract.Given{Prop: one.prop}
			return
		}
		if q == nil || q.Kind() != contract.SlotKind {
			use.Given[id] = contract.Given{Value: encoded(one.text)}
			return
		}
	}
	inside := &contract.Part{}
	r.hold(inside, pieces)
	if inside.Content != nil {
		own := r.words(pieces[0])
		inside.Children = append([]*contract.Part{own}, inside.Children...)
	}
	use.Given[id] = r.filled(p, inside.Children)
}

// standing reads JSX that a use is given: parts that stand in a slot of it.
func (r *reader) standing(p *contract.Part, n *syntax.Node, s *scope) (contract.Given, bool) {
	inside := &contract.Part{}
	r.hold(inside, r.pieces(n, s, always(), ""))
	g := r.filled(p, inside.Children)
	return g, len(g.Parts) > 0
}

// filled puts parts below a use, for one of its slots.
func (r *reader) filled(p *contract.Part, parts []*contract.Part) (g contract.Given) {
	for _, c := range parts {
		r.parents[c] = p
		p.Children = append(p.Children, c)
		g.Parts = append(g.Parts, c.ID)
	}
	return g
}

// given reads what a use gives for a prop of its component; the prop is nil where nothing is known of it.
func (r *reader) given(p *contract.Part, q *contract.Prop, value *syntax.Node, s *scope, list string) (contract.Given, bool) {
	if value == nil {
		return contract.Given{Value: encoded(true)}, true
	}
	if value.Is("string") {
		return contract.Given{Value: encoded(jsxString(value))}, true
	}
	n := bare(value)
	if o, ok := r.operand(n, s); ok && o.member == "" && o.orElse == nil {
		return contract.Given{Prop: o.prop}, true
	}
	if v, ok := constant(n); ok {
		if _, none := v.(nothing); none {
			return contract.Given{}, false
		}
		return contract.Given{Value: encoded(v)}, true
	}
	if q == nil {
		if n.Is("jsx_element", "jsx_self_closing_element", "jsx_fragment") {
			return r.standing(p, n, s)
		}
		return contract.Given{}, false
	}
	if n.Is("ternary_expression") {
		return r.givenCases(q, n, s)
	}
	if q.Kind() == contract.SlotKind {
		return r.standing(p, n, s)
	}
	if v, ok := r.valueOf(q, n, s); ok && v != nil {
		return contract.Given{Value: encoded(v)}, true
	}
	return contract.Given{}, false
}

// givenCases reads a value that depends on conditions: the first that holds wins, so that it is the contract's last.
func (r *reader) givenCases(q *contract.Prop, n *syntax.Node, s *scope) (out contract.Given, ok bool) {
	var cases []contract.GivenCase
	for n.Is("ternary_expression") {
		c, okC := r.test(n.Child("condition"), s)
		v, okV := r.valueOf(q, n.Child("consequence"), s)
		if !okC || len(c) != 1 || !okV || v == nil {
			return out, false
		}
		cases = append(cases, contract.GivenCase{When: contract.Of(c[0]...), Value: encoded(v)})
		n = bare(n.Child("alternative"))
	}
	slices.Reverse(cases)
	out.Cases = cases
	if o, is := r.operand(n, s); is && o.member == "" {
		out.Prop = o.prop
		return out, true
	}
	v, ok := r.valueOf(q, n, s)
	if ok && v != nil && !contract.Equal(v, q.Default()) {
		out.Value = encoded(v)
	}
	return out, ok
}

func encoded(v any) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // plain data
	}
	return text
}
