package draft

import (
	"cmp"
	"cobrik/core/contract"
	"cobrik/core/css"
	"maps"
	"slices"
	"strings"
)

// Cell is what one case says: of a property, or of anything compared by case.
type Cell struct {
	Values contract.Values
	State  string  // empty for none
	Width  float64 // px of the container it is drawn for; 0 where widths are not told apart
	Text   string
}

// Env gives the environment of the cell.
func (c Cell) Env() contract.Env {
	env := contract.EnvOf(c.Values)
	if c.State != "" {
		env.States = []string{c.State}
	}
	env.Container = c.Width
	return env
}

// Cause is a group of cells that say the same, with the fewest props that
// decide it.
type Cause struct {
	When  contract.When
	Text  string
	Cells []int // indexes of the cells
}

// Attribute groups cells by the fewest props that decide what they say. Cells
// that say nothing ("") are left out. Groups come in the order of the cells.
func Attribute(c *contract.Contract, cells []Cell) []Cause {
	t := tableOf(c, cells)
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
		key := when.Key() + "\x00" + k.value
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
func SetCells(c *contract.Contract, part, property string, cells []Cell) {
	if p := c.Part(part); p != nil {
		setTable(c, p, property, tableOf(c, cells))
	}
}

func tableOf(c *contract.Contract, cells []Cell) *table {
	t := &table{domains: domainsOf(c)}
	for _, k := range cells {
		t.cells = append(t.cells, cell{position(t.domains, k), k.Text})
	}
	return t
}

func setTable(c *contract.Contract, p *contract.Part, property string, t *table) {
	base, ok := t.base()
	if !ok { // the defaults say nothing of it, as of the colour of a line that is not there
		if base = p.Style[property]; base == "" && len(t.cells) > 0 {
			base = t.cells[0].value
		}
	}
	forget(c, p.ID, property)
	// An inherited property is always said: what stands around is not known.
	if known, _ := css.PropertyNamed(property); base != "" && (base != css.InitialText(property) || known.Inherited) {
		if p.Style == nil {
			p.Style = contract.Style{}
		}
		p.Style[property] = base
	}
	from := 0
	for _, a := range t.minimal(base) {
		from = place(c, contract.Rule{Part: p.ID, When: t.condition(a), Set: contract.Style{property: a.value}}, from) + 1
	}
	c.Prune()
}

// forget removes all a part says of a property as drawn; what it says of what no
// drawing tells, such as a width or a theme, stays.
func forget(c *contract.Contract, part, property string) {
	if p := c.Part(part); p != nil {
		delete(p.Style, property)
	}
	for _, r := range c.Rules {
		if r.Part == part && isDrawn(c, r.When) {
			delete(r.Set, property)
		}
	}
}

// isDrawn tells whether a condition asks of nothing but what drawings tell apart: choices and
// flags of the component, and the states and widths that are drawn.
func isDrawn(c *contract.Contract, w contract.When) bool {
	return !slices.ContainsFunc(w.Terms(), func(t contract.Term) bool {
		switch t := t.(type) {
		case contract.PropIs:
			return strings.Contains(t.Prop, ".")
		case contract.Container:
			return t.Name != "" || !slices.ContainsFunc(c.Widths, func(w contract.DrawnWidth) bool { return w.Range == t.Range })
		case contract.InState:
			return !slices.ContainsFunc(c.States, func(s contract.DrawnState) bool { return s.State == t.State })
		}
		return true
	})
}

// place puts a rule at or after an index: into a rule of the same part and
// condition where there is one, else before the first rule that ranks after it.
// It gives the index.
func place(c *contract.Contract, r contract.Rule, from int) int {
	at := len(c.Rules)
	for i := from; i < len(c.Rules); i++ {
		if c.Rules[i].Part == r.Part && c.Rules[i].When.Equal(r.When) {
			maps.Copy(c.Rules[i].Set, r.Set)
			return i
		}
		if at == len(c.Rules) && compareRules(c, c.Rules[i], r) > 0 {
			at = i
		}
	}
	c.Rules = slices.Insert(c.Rules, at, r)
	return at
}

// compareRules ranks rules: those of all widths first, those of no state first, then by the order of states, fewer
// conditions first, then by the order of props, of their values, and of parts.
func compareRules(c *contract.Contract, a, b contract.Rule) int {
	if x, y := a.When.Below(), b.When.Below(); x != y { // narrower wins
		switch {
		case x == 0:
			return -1
		case y == 0:
			return 1
		}
		return cmp.Compare(y, x)
	}
	if x, y := isDrawn(c, a.When), isDrawn(c, b.When); x != y { // what people added stays behind what is drawn
		if x {
			return -1
		}
		return 1
	}
	if n := stateRank(a.When) - stateRank(b.When); n != 0 { // a state wins over what holds in none, a later over an earlier one
		return n
	}
	if n := len(a.When.Terms()) - len(b.When.Terms()); n != 0 {
		return n
	}
	for _, p := range c.Props {
		x, y := a.When.Prop(p.ID), b.When.Prop(p.ID)
		switch {
		case x != nil && y == nil:
			return -1
		case y != nil && x == nil:
			return 1
		case x != y:
			return valueRank(p, x) - valueRank(p, y)
		}
	}
	return rank(c, a.Part) - rank(c, b.Part)
}

// stateRank gives the place of the state that a condition asks for; 0 for none.
func stateRank(w contract.When) int {
	for _, t := range w.Terms() {
		if s, ok := t.(contract.InState); ok {
			return 1 + slices.Index(contract.States, s.State)
		}
	}
	return 0
}

// valueRank gives the place of a value among those of its prop: options in their
// order, a flag set after one that is not.
func valueRank(p contract.Prop, v contract.Value) int {
	if v == contract.FlagValue(true) {
		return 1
	}
	return slices.Index(p.Options(), v.String())
}

func rank(c *contract.Contract, part string) int {
	n, found := 0, 0
	c.Walk(func(p, _ *contract.Part) {
		if p.ID == part {
			found = n
		}
		n++
	})
	return found
}
