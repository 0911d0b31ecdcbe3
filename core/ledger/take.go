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
	for _, m := range l.Moves() {
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
	draft.Tie(t.out, l.family)
	if found := t.out.Check(l.Tokens); found.Failed() {
		return nil, found
	}
	return t.out, found
}

// Merge gives a contract, made of the ledger's, what both sides changed, of the moves of these keys. Where there is no such value, that is a problem.
func (l *Ledger) Merge(c *contract.Contract, keys []string) (*contract.Contract, problem.List) {
	var found problem.List
	out := c.Clone()
	for _, key := range keys {
		moves := l.Moves()
		i := slices.IndexFunc(moves, func(m Move) bool { return m.Key == key && m.Merged != "" })
		if i < 0 {
			found.Errorf("move-unmerged", "", "take a side", "there is no value that has what both changed: %s", key)
			continue
		}
		out.SetValue(moves[i].Part, moves[i].Property, moves[i].when, moves[i].Merged)
	}
	found = append(found, out.Check(l.Tokens)...)
	if found.Failed() {
		return nil, found
	}
	return out, found
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
	choice, ok := p.Type.(contract.Choice)
	if !ok {
		return
	}
	choice.Options = slices.Clone(choice.Options)
	for i, o := range choice.Options {
		if o == old {
			choice.Options[i] = now
		}
	}
	if choice.Initial == old {
		choice.Initial = now
	}
	p.Type = choice
	for i, r := range c.Rules {
		if r.When.Prop(prop) == contract.OptionValue(old) {
			c.Rules[i].When = r.When.With(contract.PropIs{Prop: prop, Value: contract.OptionValue(now)})
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
	case OptionAdded, OptionRemoved:
		return t.option(m, p)
	case PropRemoved:
		t.dropProp(m.Property)
	case PropRenamed:
		i := slices.IndexFunc(f.Axes, func(a design.Axis) bool { return a.Name == m.To.Value })
		p.Axis = m.To.Value
		p.Name = contract.Free(contract.Identifier(m.To.Value, "choice"), "Choice", func(name string) bool {
			return contract.IsReserved(name) || slices.ContainsFunc(t.out.Props, func(q contract.Prop) bool { return q.ID != p.ID && strings.EqualFold(q.Name, name) })
		})
		if p.Kind() == contract.FlagKind && i >= 0 {
			for _, v := range f.Axes[i].Values {
				if contract.OptionOf(v) == contract.OptionOf(p.On) {
					p.On = v
				} else {
					p.Off = v
				}
			}
		}
	case PartRenamed:
		t.renamePart(m)
	case PropAdded:
		fresh, problems := draft.OfFamily(doc, f, t.ledger.Tokens, t.ledger.Components)
		if fresh == nil {
			return problems
		}
		if p := draft.PropOfAxis(fresh, m.Property); p != nil {
			t.addProp(*p)
		}
	case StateAdded:
		draft.AddState(t.out, m.Property, m.To.Value)
	case StateRemoved:
		t.dropState(m.Property, m.From.Value)
	case DefaultMoved:
		if p.Kind() == contract.ChoiceKind {
			p.SetDefault(contract.OptionValue(m.To.Value))
		} else if p.Kind() == contract.FlagKind {
			p.SetDefault(contract.FlagValue(m.To.Value == "true"))
		} else if icon, ok := p.Type.(contract.Icon); ok {
			icon.Initial = m.To.Value // none, or one by name
			p.Type = icon
		} else if part := t.out.Part(m.Part); p.Kind() == contract.RichKind && part != nil {
			l, _ := draft.LayerOf(f.Default().Root, part)
			if v := draft.TextOf(l); p.Type.Takes(v) {
				p.SetDefault(v)
			} else {
				p.SetDefault(contract.Plain(v.String()))
			}
		} else {
			p.SetDefault(contract.TextValue(m.To.Value))
		}
	case WidthAdded:
		draft.AddWidth(t.out, f, m.Property, m.To.Value, t.ledger.Tokens)
	case WidthRemoved:
		draft.DropWidth(t.out, m.From.Value)
	case DrawingMoved:
		t.redraw(m)
	case PartRemoved:
		t.dropPart(m.Part)
	case PartAdded:
		return t.addPart(doc, m.To.Value)
	}
	return found
}

// option adds or removes one of a choice's.
func (t *taker) option(m Move, p *contract.Prop) (found problem.List) {
	if icon, ok := p.Type.(contract.Icon); ok {
		return t.icon(m, p, icon)
	}
	choice, ok := p.Type.(contract.Choice)
	if !ok {
		return nil
	}
	choice.Options = slices.Clone(choice.Options)
	if m.Kind == OptionRemoved {
		if choice.Initial == m.From.Value {
			found.Errorf("option-default", "", "take the new default first", "%s is the default of %s", m.From.Value, p.Name)
			return found
		}
		choice.Options = slices.DeleteFunc(choice.Options, func(o string) bool { return o == m.From.Value })
		t.dropRules(func(r contract.Rule) bool { return r.When.Prop(p.ID) == contract.OptionValue(m.From.Value) })
	} else {
		choice.Options = append(choice.Options, m.To.Value)
		for _, a := range t.ledger.family.Axes {
			if a.Name == p.Axis {
				rank := func(o string) int {
					i := slices.IndexFunc(a.Values, func(v string) bool { return contract.OptionOf(v) == o })
					if i < 0 {
						return len(a.Values)
					}
					return i
				}
				slices.SortStableFunc(choice.Options, func(x, y string) int { return rank(x) - rank(y) })
			}
		}
	}
	p.Type = choice
	return nil
}

// icon adds or removes a drawing of an icon.
func (t *taker) icon(m Move, p *contract.Prop, icon contract.Icon) (found problem.List) {
	icon.Options = slices.Clone(icon.Options)
	if m.Kind == OptionRemoved {
		if icon.Initial == m.From.Value {
			found.Errorf("option-default", "", "take the new default first", "%s is the default of %s", m.From.Value, p.Name)
			return found
		}
		icon.Options = slices.DeleteFunc(icon.Options, func(o contract.NamedIcon) bool { return o.Name == m.From.Value })
		p.Type = icon
		return nil
	}
	t.out.Walk(func(part *contract.Part, _ *contract.Part) {
		if shows, ok := part.Content.(contract.IconOf); ok && shows.Prop == p.ID && icon.Named(m.To.Value) == nil {
			if drawn := draft.DrawnIcon(t.ledger.family, p.Axis, m.To.Value, part); drawn != nil {
				icon.Options = append(icon.Options, contract.NamedIcon{Name: m.To.Value, Vector: *drawn})
			}
		}
	})
	if icon.Named(m.To.Value) == nil {
		found.Errorf("icon-drawn", "", "draw it, or make nothing the default", "%s of %s draws nothing, and what is given nothing has the default", m.To.Value, p.Name)
	}
	p.Type = icon
	return found
}

// addProp adds a prop from a fresh draft under an id and a name of its own; it gives the
// id.
func (t *taker) addProp(p contract.Prop) string {
	p.ID = contract.Free(p.ID, "Prop", func(id string) bool { return t.out.Prop(id) != nil })
	p.Name = contract.Free(p.Name, "Prop", func(name string) bool {
		return slices.ContainsFunc(t.out.Props, func(q contract.Prop) bool { return strings.EqualFold(q.Name, name) })
	})
	t.out.Props = append(t.out.Props, p)
	return p.ID
}

// renamePart gives a part the name its layer has now; its id and all that refers to it stay.
func (t *taker) renamePart(m Move) {
	p := t.out.Part(m.Part)
	l, _ := draft.LayerOf(t.ledger.family.Default().Root, p)
	path, ok := draft.PathOf(t.ledger.family.Default().Root, l)
	if !ok {
		return
	}
	taken := map[string]bool{}
	t.out.Walk(func(q, _ *contract.Part) { taken[q.Name] = q != p })
	if p.ID != t.out.Root.ID {
		p.Name = contract.Free(contract.Identifier(l.Name, string(l.Kind)), "", func(name string) bool { return taken[name] })
	}
	was := p.Layer
	(&contract.Contract{Root: p}).Walk(func(q, _ *contract.Part) {
		if q == p {
			q.Layer = path
		} else if below, inside := strings.CutPrefix(q.Layer, was+"/"); inside {
			q.Layer = path + "/" + below
		}
	})
}

func (t *taker) dropRules(match func(contract.Rule) bool) {
	t.out.Rules = slices.DeleteFunc(t.out.Rules, match)
}

// dropProp removes a prop. Rules for its default stay, without the condition;
// others go.
func (t *taker) dropProp(id string) {
	p := t.out.Prop(id)
	t.dropRules(func(r contract.Rule) bool {
		v := r.When.Prop(id)
		return v != nil && v != p.Default()
	})
	for i := range t.out.Rules {
		t.out.Rules[i].When = t.out.Rules[i].When.WithoutProp(id)
	}
	for i := 0; i < len(t.out.Rules); {
		if r := t.out.Rules[i]; r.When.Always() {
			for property, v := range r.Set {
				t.out.SetValue(r.Part, property, contract.When{}, v)
			}
			t.out.Rules = slices.Delete(t.out.Rules, i, i+1)
			continue
		}
		i++
	}
	t.out.Walk(func(q, _ *contract.Part) { q.ShownWhen = q.ShownWhen.WithoutProp(id) })
	t.out.Props = slices.DeleteFunc(t.out.Props, func(p contract.Prop) bool { return p.ID == id })
	t.out.Prune()
}

// dropState removes a state that is no longer drawn, the rules for it, and the flag that sets
// it.
func (t *taker) dropState(axis, value string) {
	for _, s := range t.out.States {
		if s.Axis != axis || s.Value != value {
			continue
		}
		t.dropRules(func(r contract.Rule) bool {
			return slices.Contains(r.When.Terms(), contract.Term(contract.InState{State: s.State}))
		})
		if flag := t.out.StateFlag(s.State); flag != nil && slices.Contains(contract.DataStates, s.State) && flag.Axis == "" {
			t.dropProp(flag.ID)
		}
	}
	t.out.States = slices.DeleteFunc(t.out.States, func(s contract.DrawnState) bool { return s.Axis == axis && s.Value == value })
}

func (t *taker) dropPart(name string) {
	gone := map[string]bool{}
	mark := t.out.Part(name)
	t.out.Walk(func(p, parent *contract.Part) {
		if p == mark || parent != nil && gone[parent.ID] {
			gone[p.ID] = true
		}
	})
	t.out.Walk(func(p, _ *contract.Part) {
		p.Children = slices.DeleteFunc(p.Children, func(c *contract.Part) bool { return gone[c.ID] })
	})
	t.dropRules(func(r contract.Rule) bool { return gone[r.Part] })
	t.out.Props = slices.DeleteFunc(t.out.Props, func(p contract.Prop) bool { return gone[p.Part] })
	t.out.Prune()
}

// addPart takes a part and all below it, with their props, from a fresh draft.
func (t *taker) addPart(doc *design.Document, path string) (found problem.List) {
	fresh, problems := draft.OfFamily(doc, t.ledger.family, t.ledger.Tokens, t.ledger.Components)
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
		l, _ := draft.LayerOf(t.ledger.family.Default().Root, p)
		if at, ok := draft.PathOf(t.ledger.family.Default().Root, l); ok && at == above {
			parent = p
		}
	})
	if part == nil || parent == nil {
		found.Errorf("part-added", "", "draft the component again", "the layer %s cannot be placed in the contract", path)
		return found
	}
	ids, props := map[string]string{}, map[string]string{} // as drafted, to as they are here
	names := map[string]bool{}
	t.out.Walk(func(p, _ *contract.Part) { names[p.ID], names[p.Name] = true, true })
	(&contract.Contract{Root: part}).Walk(func(p, _ *contract.Part) {
		was := p.ID
		p.ID = contract.Free(p.ID, "", func(name string) bool { return names[name] })
		p.Name, names[p.ID] = p.ID, true
		ids[was], t.fresh[p.ID] = p.ID, true
	})
	parent.Children = slices.Insert(parent.Children, min(at, len(parent.Children)), part)
	for _, prop := range fresh.Props {
		if id, came := ids[prop.Part]; came {
			was := prop.ID
			prop.Part = id
			props[was] = t.addProp(prop)
		}
	}
	(&contract.Contract{Root: part}).Walk(func(p, _ *contract.Part) {
		if id := props[p.TextProp()]; id != "" {
			p.Content = contract.TextOf{Prop: id}
		}
		p.ShownWhen = renamedProps(p.ShownWhen, props)
	})
	for _, r := range fresh.Rules {
		if id, came := ids[r.Part]; came {
			r.Part, r.When = id, renamedProps(r.When, props)
			t.out.Rules = append(t.out.Rules, r)
		}
	}
	return found
}

// renamedProps gives a condition with props by their new ids.
func renamedProps(w contract.When, ids map[string]string) contract.When {
	var terms []contract.Term
	for _, term := range w.Terms() {
		if is, ok := term.(contract.PropIs); ok && ids[is.Prop] != "" {
			term = contract.PropIs{Prop: ids[is.Prop], Value: is.Value}
		}
		terms = append(terms, term)
	}
	return contract.Of(terms...)
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
		old[choices(l.Contract, k.Values, k)] = k
	}
	after := unread(Agreed{Contract: t.out, Tokens: l.Tokens}, l.family)
	cases := knownCases(t.out, l.family)
	want := map[string]map[string]*desire{}
	t.out.Walk(func(p, _ *contract.Part) {
		want[p.ID] = map[string]*desire{}
		for _, property := range moveProperties(p) {
			d := &desire{}
			for _, k := range cases {
				now, ok := after.pairOf(k, p, property)
				if !ok {
					continue
				}
				before, known := old[choices(l.Contract, t.asBefore(k.Values), k)]
				target := t.target(p, property, now, before, known)
				d.cells = append(d.cells, k.Cell(target))
				d.changed = d.changed || target != expressionOf(property, now.contract)
			}
			want[p.ID][property] = d
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
	if !known || t.fresh[p.ID] || t.cells[cellKey(p.ID, property, before.Key(l.Contract))] {
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
func (t *taker) asBefore(values contract.Values) contract.Values {
	out := contract.Values{}
	for _, p := range t.ledger.Contract.Props {
		v := values[p.ID]
		if v != nil {
			if old, renamed := t.renamed[p.ID+"="+v.String()]; renamed {
				v = contract.OptionValue(old)
			}
		}
		if v == nil || !p.Type.Takes(v) {
			v = p.Default()
		}
		out[p.ID] = v
	}
	return out
}

// choices names a case by its props that stand for axes, its state and its width.
func choices(c *contract.Contract, values contract.Values, k draft.Case) string {
	var axes []string
	for _, p := range c.Props {
		if p.Axis != "" {
			axes = append(axes, p.ID)
		}
	}
	width := ""
	if len(c.Widths) > 0 {
		width = k.Variant.Choices[c.Widths[0].Axis]
	}
	return values.Key(axes) + " :" + k.State + " @" + width
}

func expressionOf(property string, s Statement) string {
	if s.Expression != "" {
		return s.Expression
	}
	if strings.HasPrefix(property, givenFor) {
		return s.Value
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
	tree := contract.Resolve(t.out, contract.EnvOf(cases[0].Values), after.Tokens)
	t.out.Walk(func(p, _ *contract.Part) {
		for property := range want[p.ID] {
			known, _ := css.PropertyNamed(property)
			if r := tree.Find(p.ID).Values[property]; known.Inherited && r.Part != "" && r.Part != p.ID {
				heirs[r.Part+"\x00"+property] = append(heirs[r.Part+"\x00"+property], p.ID)
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
			setCells(t.out, source, property, first.cells)
			for _, name := range heirs[key] {
				done[name+"\x00"+property] = true
			}
		}
	}
	t.out.Walk(func(p, _ *contract.Part) {
		for _, property := range append(css.FactProperties(), givenProperties(p)...) {
			d := want[p.ID][property]
			if d == nil || !d.changed && property != "fill" || done[p.ID+"\x00"+property] {
				continue
			}
			if property == "fill" && !t.paintAsText(p, d) {
				continue
			}
			setCells(t.out, p.ID, property, d.cells)
			if property == "border-width" && p.Style["border-style"] == "" {
				t.out.SetValue(p.ID, "border-style", contract.When{}, "solid")
			}
		}
	})
}

// paintAsText writes currentColor for a fill that is the colour the part
// inherits, when it said so before. It tells whether the fill must be written.
func (t *taker) paintAsText(p *contract.Part, d *desire) bool {
	needed := false
	for i, k := range d.cells {
		r := contract.Resolve(t.out, k.Env(), t.ledger.Tokens).Find(p.ID)
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
	for _, w := range []string{m.Name, m.Property, m.When} {
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
