package contract

import (
	"cmp"
	"maps"
	"slices"
)

// Cell is what one case says: of a property, or of anything compared by case.
type Cell struct {
	Values map[string]Value
	Text   string
}

// Cause is a group of cells that say the same, with the fewest props that
// decide it.
type Cause struct {
	When  Condition
	Text  string
	Cells []int // indexes of the cells
}

// Attribute groups cells by the fewest props that decide what they say. Cells
// that say nothing ("") are left out. Groups come in the order of the cells.
func (c *Contract) Attribute(cells []Cell) []Cause {
	t := c.tableOf(cells)
	deciding := t.causes()
	var out []Cause
	groups := map[string]int{}
	for i, k := range t.cells {
		if k.value == "" {
			continue
		}
		a := assignment{at: make([]int, len(t.domains))}
		for d := range a.at {
			a.at[d] = -1
			if slices.Contains(deciding, d) {
				a.at[d] = k.at[d]
			}
		}
		when := t.condition(a)
		key := when.String() + "\x00" + k.value
		g, ok := groups[key]
		if !ok {
			g = len(out)
			groups[key] = g
			out = append(out, Cause{When: when, Text: k.value})
		}
		out[g].Cells = append(out[g].Cells, i)
	}
	return out
}

// SetCells makes a part say of a property what the cells say, case by case,
// with the fewest rules. Rules of that part that set the property before are
// replaced; all else stays.
func (c *Contract) SetCells(part, property string, cells []Cell) {
	if p := c.Part(part); p != nil {
		c.setTable(p, property, c.tableOf(cells))
	}
}

func (c *Contract) tableOf(cells []Cell) *table {
	t := &table{domains: domainsOf(c)}
	for _, k := range cells {
		t.cells = append(t.cells, cell{place(t.domains, k.Values), k.Text})
	}
	return t
}

func (c *Contract) setTable(p *Part, property string, t *table) {
	base, ok := t.base()
	if !ok { // the defaults say nothing of it, as of the colour of a line that is not there
		if base = p.Style[property]; base == "" && len(t.cells) > 0 {
			base = t.cells[0].value
		}
	}
	c.forget(p.Name, property)
	// An inherited property is always said: what stands around is not known.
	if known, _ := PropertyNamed(property); base != "" && (base != InitialCSS(property) || known.Inherited) {
		if p.Style == nil {
			p.Style = Style{}
		}
		p.Style[property] = base
	}
	from := 0
	for _, a := range t.minimal(base) {
		from = c.place(Rule{Part: p.Name, When: t.condition(a), Set: Style{property: a.value}}, from) + 1
	}
	c.prune()
}

// forget removes all a part says of a property as drawn; what it says below a
// width stays.
func (c *Contract) forget(part, property string) {
	if p := c.Part(part); p != nil {
		delete(p.Style, property)
	}
	for _, r := range c.Rules {
		if r.Part == part && r.When.Below == 0 {
			delete(r.Set, property)
		}
	}
}

// prune removes rules that set nothing.
func (c *Contract) prune() {
	c.Rules = slices.DeleteFunc(c.Rules, func(r Rule) bool { return len(r.Set) == 0 })
}

// place puts a rule at or after an index: into a rule of the same part and
// condition where there is one, else before the first rule that ranks after it.
// It gives the index.
func (c *Contract) place(r Rule, from int) int {
	at := len(c.Rules)
	for i := from; i < len(c.Rules); i++ {
		if c.Rules[i].Part == r.Part && c.Rules[i].When.Equal(r.When) {
			maps.Copy(c.Rules[i].Set, r.Set)
			return i
		}
		if at == len(c.Rules) && c.compareRules(c.Rules[i], r) > 0 {
			at = i
		}
	}
	c.Rules = slices.Insert(c.Rules, at, r)
	return at
}

// compareRules ranks rules: those of all widths first, fewer conditions first, then by the order of props,
// of options, and of parts.
func (c *Contract) compareRules(a, b Rule) int {
	if a.When.Below != b.When.Below { // narrower wins
		switch {
		case a.When.Below == 0:
			return -1
		case b.When.Below == 0:
			return 1
		}
		return cmp.Compare(b.When.Below, a.When.Below)
	}
	if n := len(a.When.Props) - len(b.When.Props); n != 0 {
		return n
	}
	for _, p := range c.Props {
		x, inA := a.When.Props[p.Name]
		y, inB := b.When.Props[p.Name]
		switch {
		case inA && !inB:
			return -1
		case inB && !inA:
			return 1
		case x != y && p.Kind == Choice:
			return slices.Index(p.Options, string(x)) - slices.Index(p.Options, string(y))
		case x != y && x == "true":
			return 1
		case x != y:
			return -1
		}
	}
	return c.rank(a.Part) - c.rank(b.Part)
}

func (c *Contract) rank(part string) int {
	n, found := 0, 0
	c.Walk(func(p, _ *Part) {
		if p.Name == part {
			found = n
		}
		n++
	})
	return found
}

// outranks tells whether a rule of one condition has to stay after a rule of
// another: what holds below a width wins over what holds at all, and the
// narrower over the wider.
func outranks(a, b Condition) bool {
	return a.Below > 0 && (b.Below == 0 || b.Below > a.Below)
}

// SetValue sets one property of a part under a condition: in its style when the
// condition is empty, else in the rule with that condition: the last that sets
// the property, or the last at all, or a new one at the end. An empty value removes what was said there.
func (c *Contract) SetValue(part, property string, when Condition, value string) {
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
		c.prune()
	}
}
