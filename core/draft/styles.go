package draft

import (
	"cmp"
	"maps"
	"slices"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/problem"
	"cobrik/core/token"
)

// styles fills in the parts' styles and the rules.
func (d *drafter) styles() {
	tables := drawnTables(d.contract, d.family, d.tokens, &d.found)
	d.hoist(tables)
	d.contract.Walk(func(p, _ *contract.Part) {
		for _, property := range slices.SortedFunc(maps.Keys(tables[p.ID]), css.CompareProperties) {
			setTable(d.contract, p, property, tables[p.ID][property])
		}
	})
}

// partTables are the tables of a contract: part, property, table.
type partTables map[string]map[string]*table

// drawnTables reads what every variant draws, for every part and property.
func drawnTables(c *contract.Contract, f *design.Family, tokens *token.Set, found *problem.List) partTables {
	cases := Cases(c, f)
	domains := domainsOf(c)
	out := partTables{}
	c.Walk(func(p, _ *contract.Part) {
		_, icon := p.Content.(contract.IconOf)
		styles := make([]contract.Style, len(cases))
		all := map[string]bool{}
		for i, k := range cases {
			l, parent := LayerAt(k.Variant.Root, p.Layer)
			if l == nil {
				styles[i] = contract.Style{}
				continue
			}
			checkBindings(l, StyleOf(l, parent), tokens, found)
			checkFills(l, tokens, found)
			styles[i] = StyleWithTokens(l, parent, c.Name, tokens)
			if l.Hidden && p.Repeat == "" && p.ShownWhen.Always() && !icon { // a width takes it away
				styles[i]["display"] = "none"
			}
			for property := range styles[i] {
				all[property] = true
			}
		}
		out[p.ID] = map[string]*table{}
		for property := range all {
			t := &table{domains: domains}
			for i, k := range cases {
				if len(k.New) > 0 {
					continue
				}
				t.cells = append(t.cells, cell{position(domains, k.Cell("")), cmp.Or(styles[i][property], css.InitialText(property))})
			}
			out[p.ID][property] = t
		}
	})
	return out
}

// domainsOf lists the props that rules are found for with their values, defaults
// first, and at last the states that were drawn. Flags that show a layer say so by themselves.
func domainsOf(c *contract.Contract) []domain {
	var out []domain
	for _, p := range c.Props {
		if values := p.Type.Nameable(); values != nil && (p.Axis != "" || p.Kind() != contract.FlagKind) {
			out = append(out, domain{prop: p.ID, values: values})
		}
	}
	if len(c.Widths) > 0 {
		var widths []contract.Range
		for _, w := range c.Widths {
			widths = append(widths, w.Range)
		}
		out = append(out, domain{widths: widths})
	}
	if len(c.States) > 0 {
		states := []string{""}
		for _, s := range c.States {
			states = append(states, s.State)
		}
		out = append(out, domain{states: states})
	}
	return out
}

func position(domains []domain, k Cell) []int {
	at := make([]int, len(domains))
	for i, d := range domains {
		switch {
		case d.states != nil:
			at[i] = max(0, slices.Index(d.states, k.State))
		case d.widths != nil:
			at[i] = max(0, slices.IndexFunc(d.widths, func(r contract.Range) bool { return r.Holds(k.Width) }))
		default:
			at[i] = max(0, slices.Index(d.values, k.Values[d.prop]))
		}
	}
	return at
}

// hoist moves type and colour that every text of the component shares up to the
// root, from where CSS inherits it, and lets icons of the text's colour say so.
func (d *drafter) hoist(tables partTables) {
	var texts, vectors []string
	slotted := false
	d.contract.Walk(func(p, _ *contract.Part) {
		if _, slot := p.Content.(contract.SlotOf); slot {
			slotted = true
		}
		switch {
		case p.TextProp() != "":
			texts = append(texts, p.ID)
		case p.Element == "svg":
			vectors = append(vectors, p.ID)
		}
	})
	if len(texts) == 0 || texts[0] == d.contract.Root.ID {
		return
	}
	for property, first := range tables[texts[0]] {
		if p, _ := css.PropertyNamed(property); !p.Inherited || tables[d.contract.Root.ID][property] != nil {
			continue
		}
		if slotted && property == "white-space" { // what stands in a slot would break no more
			continue
		}
		shared := true
		for _, name := range texts[1:] {
			shared = shared && sameCells(first, tables[name][property])
		}
		if !shared {
			continue
		}
		tables[d.contract.Root.ID][property] = first
		if property == "color" {
			for _, name := range vectors {
				if fill := tables[name]["fill"]; sameCells(first, fill) {
					for i := range fill.cells {
						fill.cells[i].value = "currentColor"
					}
				}
			}
		}
	}
	for property := range tables[d.contract.Root.ID] {
		if p, _ := css.PropertyNamed(property); p.Inherited {
			for _, name := range texts {
				delete(tables[name], property)
			}
		}
	}
}

func sameCells(a, b *table) bool {
	return a != nil && b != nil && slices.EqualFunc(a.cells, b.cells, func(x, y cell) bool { return x.value == y.value })
}
