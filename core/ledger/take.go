package ledger

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"fmt"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/problem"
)

// Take gives the contract with the design's side of the named moves. Options,
// props and parts that come bring the values drawn for them. Rules are written
// anew, as few as can be, only for properties that change.
func (l *Ledger) Take(doc *design.Document, keys []string) (*contract.Contract, problem.List) {
	taken := map[string]bool{}
	for _, key := range keys {
		taken[key] = true
	}
	var found problem.List
	t := taker{ledger: l, out: l.Contract.Clone(), cells: map[string]bool{}, fresh: map[string]bool{}, renamed: map[string]string{}}
	for _, m := range l.moves {
		if !taken[m.Key] {
			continue
		}
		delete(taken, m.Key)
		if m.Kind == ValueMoved {
			for _, k := range m.cells {
				t.cells[cellKey(m.Part, m.Property, k)] = true
			}
			continue
		}
		found = append(found, t.structure(doc, m)...)
	}
	for key := range taken {
		found.Errorf("move-unknown", "", "read the ledger again", "there is no such move any more: %s", key)
	}
	if found.Failed() {
		return nil, found
	}
	t.values()
	if found := t.out.Check(l.Tokens); found.Failed() {
		return nil, found
	}
	return t.out, found
}

type taker struct {
	ledger *Ledger
	out    *contract.Contract
	cells  map[string]bool // value cells to take, by cellKey
	fresh  map[string]bool // parts that came: all they draw is taken
	// renamed maps "prop=option" as it is now to the option's old name.
	renamed map[string]string
}

func renameOption(c *contract.Contract, prop, old, now string) {
	p := c.Prop(prop)
	for i, o := range p.Options {
		if o == old {
			p.Options[i] = now
		}
	}
	if string(p.Default) == old {
		p.Default = contract.Value(now)
	}
	for _, r := range c.Rules {
		if r.When.Props[prop] == contract.Value(old) {
			r.When.Props[prop] = contract.Value(now)
		}
	}
}

func (t *taker) structure(doc *design.Document, m Move) (found problem.List) {
	f := t.ledger.family
	p := t.out.Prop(m.Property)
	switch m.Kind {
	case OptionRenamed:
		renameOption(t.out, m.Property, m.From.Value, m.To.Value)
		t.renamed[m.Property+"="+m.To.Value] = m.From.Value
	case OptionAdded:
		p.Options = append(p.Options, m.To.Value)
		for _, a := range f.Axes {
			if a.Name == p.Axis {
				rank := func(o string) int {
					i := slices.IndexFunc(a.Values, func(v string) bool { return contract.OptionOf(v) == o })
					if i < 0 {
						return len(a.Values)
					}
					return i
				}
				slices.SortStableFunc(p.Options, func(x, y string) int { return rank(x) - rank(y) })
			}
		}
	case OptionRemoved:
		if string(p.Default) == m.From.Value {
			found.Errorf("option-default", "", "take the new default first", "%s is the default of %s", m.From.Value, m.Property)
			return found
		}
		p.Options = slices.DeleteFunc(p.Options, func(o string) bool { return o == m.From.Value })
		t.dropRules(func(r contract.Rule) bool { return r.When.Props[m.Property] == contract.Value(m.From.Value) })
	case PropRemoved:
		t.dropProp(m.From.Value)
	case PropAdded:
		fresh, problems := draft.OfFamily(doc, f, t.ledger.Tokens)
		if fresh == nil {
			return problems
		}
		if p := axisProp(fresh, m.Property); p != nil {
			if t.out.Prop(p.Name) != nil {
				p.Name += "Choice"
			}
			t.out.Props = append(t.out.Props, *p)
		}
	case DefaultMoved:
		p.Default = contract.Value(m.To.Value)
	case PartRemoved:
		t.dropPart(m.Part)
	case PartAdded:
		return t.addPart(doc, m.To.Value)
	}
	return found
}

func (t *taker) dropRules(match func(contract.Rule) bool) {
	t.out.Rules = slices.DeleteFunc(t.out.Rules, match)
}

// dropProp removes a prop. Rules for its default stay, without the condition;
// others go.
func (t *taker) dropProp(name string) {
	p := t.out.Prop(name)
	t.dropRules(func(r contract.Rule) bool {
		v, ok := r.When.Props[name]
		return ok && v != p.Default
	})
	for i := range t.out.Rules {
		delete(t.out.Rules[i].When.Props, name)
	}
	for i := 0; i < len(t.out.Rules); {
		if r := t.out.Rules[i]; r.When.Always() {
			for property, v := range r.Set {
				t.out.SetValue(r.Part, property, contract.Condition{}, v)
			}
			t.out.Rules = slices.Delete(t.out.Rules, i, i+1)
			continue
		}
		i++
	}
	t.out.Props = slices.DeleteFunc(t.out.Props, func(p contract.Prop) bool { return p.Name == name })
}

func (t *taker) dropPart(name string) {
	gone := map[string]bool{}
	mark := t.out.Part(name)
	t.out.Walk(func(p, parent *contract.Part) {
		if p == mark || parent != nil && gone[parent.Name] {
			gone[p.Name] = true
		}
	})
	t.out.Walk(func(p, _ *contract.Part) {
		p.Children = slices.DeleteFunc(p.Children, func(c *contract.Part) bool { return gone[c.Name] })
	})
	t.dropRules(func(r contract.Rule) bool { return gone[r.Part] })
	t.out.Props = slices.DeleteFunc(t.out.Props, func(p contract.Prop) bool { return gone[p.Layer] })
}

// addPart takes a part and all below it, with their props, from a fresh draft.
func (t *taker) addPart(doc *design.Document, path string) (found problem.List) {
	fresh, problems := draft.OfFamily(doc, t.ledger.family, t.ledger.Tokens)
	if fresh == nil {
		return problems
	}
	above := path[:max(0, strings.LastIndexByte(path, '/'))]
	var parent, part *contract.Part
	at := 0
	fresh.Walk(func(p, up *contract.Part) {
		if p.Layer == path && up != nil {
			part, at = p, slices.Index(up.Children, p)
		}
	})
	t.out.Walk(func(p, _ *contract.Part) {
		if p.Layer == above {
			parent = p
		}
	})
	if part == nil || parent == nil {
		found.Errorf("part-added", "", "draft the component again", "the layer %s cannot be placed in the contract", path)
		return found
	}
	parent.Children = slices.Insert(parent.Children, min(at, len(parent.Children)), part)
	sub := &contract.Contract{Root: part}
	sub.Walk(func(p, _ *contract.Part) {
		t.fresh[p.Name] = true
		for _, prop := range fresh.Props {
			if prop.Layer != p.Name {
				continue
			}
			if t.out.Prop(prop.Name) != nil {
				found.Errorf("part-added", "", "rename the layer in the design", "the new part %s needs a prop %s, which is there already", p.Name, prop.Name)
				continue
			}
			t.out.Props = append(t.out.Props, prop)
		}
	})
	for _, r := range fresh.Rules {
		if t.fresh[r.Part] {
			t.out.Rules = append(t.out.Rules, r)
		}
	}
	return found
}

// desire is what each case should say of a part's property once taken.
type desire struct {
	cells   []draft.Cell
	changed bool
}

// values writes the properties whose desired values differ from what the
// contract now resolves to.
func (t *taker) values() {
	l := t.ledger
	old := map[string]draft.Case{} // by choices
	for _, k := range knownCases(l.Contract, l.family) {
		old[choices(l.Contract, k.Values)] = k
	}
	after := &Ledger{Sides: Sides{Contract: t.out, Tokens: l.Tokens}, family: l.family, trees: map[string]*contract.Resolved{}, drawings: map[string]map[string]Statement{}}
	cases := knownCases(t.out, l.family)
	want := map[string]map[string]*desire{}
	t.out.Walk(func(p, _ *contract.Part) {
		want[p.Name] = map[string]*desire{}
		for _, property := range moveProperties(p) {
			d := &desire{}
			for _, k := range cases {
				now, ok := after.pairOf(k, p, property)
				if !ok {
					continue
				}
				before, known := old[choices(l.Contract, t.asBefore(k.Values))]
				target := t.target(p, property, now, before, known)
				d.cells = append(d.cells, draft.Cell{Values: k.Values, Text: target})
				d.changed = d.changed || target != expressionOf(property, now.contract)
			}
			want[p.Name][property] = d
		}
	})
	t.write(after, cases, want)
}

// target gives what a cell should say: the design's word where it was taken, or
// where the part or option is new; else the contract's. A case with a new option
// is set beside the case with the option's default: what the design draws alike
// for both follows that one, decisions to keep included.
func (t *taker) target(p *contract.Part, property string, now pair, before draft.Case, known bool) string {
	l := t.ledger
	said := expressionOf(property, now.design)
	if !known || t.fresh[p.Name] || t.cells[cellKey(p.Name, property, before.Key(l.Contract))] {
		return said
	}
	was, ok := l.pairOf(before, p, property)
	if !ok || !sameStatement(property, was.design, now.design) {
		return said
	}
	return expressionOf(property, was.contract)
}

// asBefore gives a case's values in terms of the contract as it was: options
// that came are the default, options that were renamed have their old name.
func (t *taker) asBefore(values map[string]contract.Value) map[string]contract.Value {
	out := map[string]contract.Value{}
	for _, p := range t.ledger.Contract.Props {
		v, ok := values[p.Name]
		if old, renamed := t.renamed[p.Name+"="+string(v)]; renamed {
			v = contract.Value(old)
		}
		if !ok || p.Kind == contract.Choice && !slices.Contains(p.Options, string(v)) {
			v = p.Default
		}
		out[p.Name] = v
	}
	return out
}

// choices names a case by its props that stand for axes.
func choices(c *contract.Contract, values map[string]contract.Value) string {
	var words []string
	for _, p := range c.Props {
		if p.Axis != "" {
			words = append(words, p.Name+"="+string(values[p.Name]))
		}
	}
	return strings.Join(words, " ")
}

func expressionOf(property string, s Statement) string {
	if s.Expression != "" {
		return s.Expression
	}
	if known, _ := css.PropertyNamed(property); s.Value == known.Initial {
		return css.InitialText(property)
	}
	return css.DeclaredText(property, s.Value)
}

func (t *taker) write(after *Ledger, cases []draft.Case, want map[string]map[string]*desire) {
	if len(cases) == 0 {
		return
	}
	// Where texts inherit a property, it is written where they inherit it from,
	// if all of them still want the same.
	heirs := map[string][]string{}
	tree := contract.Resolve(t.out, cases[0].Values, after.Tokens)
	t.out.Walk(func(p, _ *contract.Part) {
		for property := range want[p.Name] {
			known, _ := css.PropertyNamed(property)
			if r := tree.Find(p.Name).Values[property]; known.Inherited && r.Part != "" && r.Part != p.Name {
				heirs[r.Part+"\x00"+property] = append(heirs[r.Part+"\x00"+property], p.Name)
			}
		}
	})
	done := map[string]bool{}
	for _, key := range sortedKeys(heirs) {
		source, property, _ := strings.Cut(key, "\x00")
		first := want[heirs[key][0]][property]
		alike, changed := true, false
		for _, name := range heirs[key] {
			d := want[name][property]
			changed = changed || d.changed
			alike = alike && slices.EqualFunc(d.cells, first.cells, func(a, b draft.Cell) bool { return a.Text == b.Text })
		}
		if changed && alike {
			draft.SetCells(t.out, source, property, first.cells)
			for _, name := range heirs[key] {
				done[name+"\x00"+property] = true
			}
		}
	}
	t.out.Walk(func(p, _ *contract.Part) {
		for _, property := range css.FactProperties() {
			d := want[p.Name][property]
			if d == nil || !d.changed && property != "fill" || done[p.Name+"\x00"+property] {
				continue
			}
			if property == "fill" && !t.paintAsText(p, d) {
				continue
			}
			draft.SetCells(t.out, p.Name, property, d.cells)
			if property == "border-width" && p.Style["border-style"] == "" {
				t.out.SetValue(p.Name, "border-style", contract.Condition{}, "solid")
			}
		}
	})
}

// paintAsText writes currentColor for a fill that is the colour the part
// inherits, when it said so before. It tells whether the fill must be written.
func (t *taker) paintAsText(p *contract.Part, d *desire) bool {
	needed := false
	for i, k := range d.cells {
		r := contract.Resolve(t.out, k.Values, t.ledger.Tokens).Find(p.Name)
		fill := r.Values["fill"].Expression
		inherits := strings.EqualFold(fill, "currentcolor")
		if inherits && r.Values["color"].Expression == k.Text {
			d.cells[i].Text = fill
		}
		// A fill that did not move stays as it was written.
		needed = needed || (inherits || d.changed) && d.cells[i].Text != fill
	}
	return needed
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// String names a move as a person reads it: "root · padding-inline · size=m".
func (m Move) String() string {
	words := []string{}
	for _, w := range []string{m.Part, m.Property, m.When} {
		if w != "" {
			words = append(words, w)
		}
	}
	return fmt.Sprintf("%s: %s → %s", strings.Join(words, " · "), or(m.From), or(m.To))
}

func or(s Statement) string {
	if s.Expression != "" {
		return s.Expression
	}
	if s.Value == "" {
		return "nothing"
	}
	return s.Value
}
