package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// matcher finds the parts that a selector selects, and when.
type matcher struct {
	r     *reader
	sheet *sheet
	rule  *styleRule
	told  bool
}

func (m *matcher) unread(what string) {
	m.told = true
	m.r.unread(m.rule.at, "selector", what+": "+shortened(m.rule.text))
}

// match tells when the compound at a place selects a part, and those before it what is around it.
func (m *matcher) match(s selector, at int, p *contract.Part) cond {
	own := m.compound(s[at], p)
	if len(own) == 0 || at == 0 {
		return own
	}
	switch s[at].combinator {
	case '+', '~':
		if len(m.any(s[at-1])) > 0 {
			m.unread("a part by what stands before it")
		}
		return nil
	case '>':
		if up := m.r.parents[p]; up != nil {
			return own.and(m.match(s, at-1, up))
		}
		return own.and(m.outside(s, at-1))
	}
	var around cond
	for up := m.r.parents[p]; up != nil; up = m.r.parents[up] {
		around = around.or(m.match(s, at-1, up))
	}
	return own.and(around.or(m.outside(s, at-1)))
}

// any gives when a compound selects any part at all.
func (m *matcher) any(c compound) (out cond) {
	m.r.out.Walk(func(p, _ *contract.Part) { out = out.or(m.compound(c, p)) })
	return out
}

// outside tells when compounds select what is around the component: the document, and what chooses themes and the direction.
func (m *matcher) outside(s selector, at int) cond {
	out := always()
	for ; at >= 0; at-- {
		c := s[at]
		if len(c.classes) > 0 || len(c.ids) > 0 || c.element != "" || c.tag != "" && c.tag != "html" && c.tag != "body" {
			return nil
		}
		for _, a := range c.attributes {
			modifier, is := strings.CutPrefix(a.name, "data-")
			switch {
			case a.name == "dir" && a.operator == "=":
				out = out.and(cond{{contract.Direction{Is: a.value}}})
			case is && a.operator == "=" && slices.Contains(m.r.o.Modifiers, modifier):
				out = out.and(cond{{contract.Theme{Modifier: modifier, Context: a.value}}})
			default:
				return nil
			}
		}
		for _, p := range c.pseudos {
			switch {
			case p.name == "root":
			case p.name == "is" || p.name == "where":
				var any cond
				for _, inner := range p.args {
					if last := inner[len(inner)-1]; last.plain() && len(inner) > 1 { // [data-b="c"] *
						inner = inner[:len(inner)-1]
					}
					any = any.or(m.outside(inner, len(inner)-1))
				}
				out = out.and(any)
			case strings.HasPrefix(p.text, ":dir("):
				out = out.and(cond{{contract.Direction{Is: strings.TrimSuffix(strings.TrimPrefix(p.text, ":dir("), ")")}}})
			default:
				return nil
			}
		}
	}
	return out
}

// plain tells whether a compound selects every element.
func (c compound) plain() bool {
	return c.tag == "" && len(c.classes)+len(c.ids)+len(c.attributes)+len(c.pseudos) == 0 && c.element == ""
}

// compound tells when a part is what is asked of one element.
func (m *matcher) compound(c compound, p *contract.Part) cond {
	out := always()
	if len(c.ids) > 0 || c.tag != "" && c.tag != elementOf(p) && !slices.Contains(p.As, c.tag) {
		return nil
	}
	for _, name := range c.classes {
		var has cond
		for _, own := range m.r.has[p] {
			if own.name == name && (own.sheet == m.sheet.name || own.sheet == "" && !strings.HasSuffix(m.sheet.name, ".module.css")) {
				has = has.or(own.when)
			}
		}
		if out = out.and(m.r.simplified(has)); len(out) == 0 {
			return nil
		}
	}
	for _, a := range c.attributes {
		if out = out.and(m.attribute(a, p)); len(out) == 0 {
			return nil
		}
	}
	for _, one := range c.pseudos {
		if out = out.and(m.pseudo(one, c, p)); len(out) == 0 {
			return nil
		}
	}
	return out
}

func elementOf(p *contract.Part) string {
	if p.Use() != nil {
		return ""
	}
	return p.Element
}

func (m *matcher) isRoot(p *contract.Part) bool { return p == m.r.out.Root }

// attribute tells when an attribute of a part is as asked: one that is a prop's decides by the prop.
func (m *matcher) attribute(a attributeTest, p *contract.Part) cond {
	if state := ir.StateBy(a.String()); state != "" && m.isRoot(p) {
		if bound, ok := p.Attributes[a.name]; ok && bound.Prop != "" {
			if q := m.r.out.Prop(bound.Prop); q != nil && q.Kind() == contract.FlagKind && strings.Join(contract.Words(q.Name), "-") != state {
				return cond{{contract.PropIs{Prop: bound.Prop, Value: contract.FlagValue(true)}}}
			}
		}
		return cond{{contract.InState{State: state}}}
	}
	bound, ok := p.Attributes[a.name]
	switch {
	case !ok && (a.name == "hidden" || a.name == "open"):
		return nil // as the behaviour, or the platform, has it
	case !ok:
		return nil
	case bound.Prop != "":
		q := m.r.out.Prop(bound.Prop)
		if q == nil || a.operator != "=" && !a.there {
			break
		}
		if a.there {
			c, _ := m.r.truth(operand{prop: bound.Prop})
			if q.Kind() == contract.ChoiceKind {
				return always()
			}
			return c
		}
		switch q.Kind() {
		case contract.FlagKind:
			return cond{{contract.PropIs{Prop: bound.Prop, Value: contract.FlagValue(a.value == "true")}}}
		case contract.ChoiceKind:
			if slices.Contains(q.Options(), a.value) {
				return cond{{contract.PropIs{Prop: bound.Prop, Value: contract.OptionValue(a.value)}}}
			}
			return nil
		}
	case a.there, a.operator == "=" && bound.Text == a.value:
		return always()
	case a.operator == "=":
		return nil
	}
	m.unread("a part by its attribute " + a.name)
	return nil
}

// String writes the test as a selector.
func (a attributeTest) String() string {
	if a.there {
		return "[" + a.name + "]"
	}
	return "[" + a.name + a.operator + `"` + a.value + `"]`
}

func (m *matcher) pseudo(one pseudo, c compound, p *contract.Part) cond {
	if state := ir.StateBy(one.text); state != "" {
		if m.isRoot(p) {
			return cond{{contract.InState{State: state}}}
		}
		m.unread("the state " + state + " of " + p.Name + ", which is not the root")
		return nil
	}
	switch one.name {
	case "is", "where", "global", "local":
		var any cond
		for _, s := range one.args {
			any = any.or(m.match(s, len(s)-1, p))
		}
		return any
	case "scope", "link", "any-link":
		return always()
	case "not":
		var any cond
		for _, s := range one.args {
			if last := s[len(s)-1]; len(last.attributes) == 1 && last.attributes[0].name == "hidden" {
				continue
			}
			any = any.or(m.match(s, len(s)-1, p))
		}
		if none, ok := m.r.not(any); ok {
			return none
		}
	case "dir":
		return cond{{contract.Direction{Is: strings.TrimSuffix(strings.TrimPrefix(one.text, ":dir("), ")")}}}
	case "root":
		return nil
	}
	m.unread("a part while it is " + one.text)
	return nil
}
