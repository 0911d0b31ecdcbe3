package contract

import "slices"

// outranks tells whether a rule of one condition has to stay after a rule of
// another: what holds below a width wins over what holds at all, and the
// narrower over the wider.
func outranks(a, b When) bool {
	return a.Below() > 0 && (b.Below() == 0 || b.Below() > a.Below())
}

// Declared gives what is said of a part's property where a condition holds: by the last rule that holds wherever it does, else by the part's own style. Empty for nothing.
func (c *Contract) Declared(part, property string, when When) string {
	p := c.Part(part)
	if p == nil {
		return ""
	}
	out := p.Style[property]
	for _, r := range c.Rules {
		if value, ok := r.Set[property]; ok && r.Part == part && r.When.Covers(when) {
			out = value
		}
	}
	return out
}

// SetValue sets one property of a part, by its id, under a condition: in its style when the
// condition is empty, else in the rule with that condition: the last that sets
// the property, or the last at all, or a new one at the end. An empty value removes what was said there.
func (c *Contract) SetValue(part, property string, when When, value string) {
	p := c.Part(part)
	if p == nil {
		return
	}
	if when.Always() {
		if value == "" {
			delete(p.Style, property)
			return
		}
		if p.Style == nil {
			p.Style = Style{}
		}
		p.Style[property] = value
		return
	}
	at := -1
	for i, r := range c.Rules {
		if r.Part == part && r.When.Equal(when) && (at < 0 || r.Set[property] != "" || c.Rules[at].Set[property] == "") {
			at = i
		}
	}
	switch {
	case at < 0 && value != "":
		at := len(c.Rules)
		for at > 0 && outranks(c.Rules[at-1].When, when) {
			at--
		}
		c.Rules = slices.Insert(c.Rules, at, Rule{Part: part, When: when, Set: Style{property: value}})
	case at >= 0 && value != "":
		c.Rules[at].Set[property] = value
	case at >= 0:
		delete(c.Rules[at].Set, property)
		c.Prune()
	}
}

// Prune removes rules that set nothing, and props that are no more from the groups that stand apart
// and from the saved cases.
func (c *Contract) Prune() {
	c.pruneCases()
	for i := range c.Apart {
		c.Apart[i] = slices.DeleteFunc(c.Apart[i], func(id string) bool { return c.Prop(id) == nil })
	}
	c.Apart = slices.DeleteFunc(c.Apart, func(group []string) bool { return len(group) < 2 })
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool { return len(r.Set) == 0 })
}
