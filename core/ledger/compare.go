package ledger

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"math"
	"slices"
	"strconv"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Agreed is what was agreed so far.
type Agreed struct {
	Contract *contract.Contract
	Base     *contract.Contract // as it was last agreed; nil when nothing of the contract moved since
	Tokens   *token.Set         // of the theme that it was drawn in
	Theme    Theme              // that it is looked at in; the zero value is the one it was drawn in
	Kept     []Decision         // moves decided for the contract

	Components draft.Components // those of the design's other families
	Undrawn    bool             // there is no drawing, and the design says nothing of any part
}

// Theme is a choice of contexts with the tokens that these give.
type Theme struct {
	Choices map[string]string // by the modifier
	Tokens  *token.Set
}

// values are the tokens of the theme that is looked at.
func (s Agreed) values() *token.Set {
	if s.Theme.Tokens != nil {
		return s.Theme.Tokens
	}
	return s.Tokens
}

// elsewhere tells whether another theme is looked at than the one that was drawn.
func (s Agreed) elsewhere() bool { return s.Theme.Tokens != nil && s.Theme.Tokens != s.Tokens }

// env is the world of a case in the theme that is looked at.
func (s Agreed) env(k draft.Case) contract.Env {
	env := k.Env()
	env.Theme = s.Theme.Choices
	return env
}

// Ledger compares one family with its contract. It reads each drawing and
// resolves each case once.
type Ledger struct {
	Agreed
	family   *design.Family
	trees    map[string]*contract.Resolved
	bases    map[string]*contract.Resolved // the base's, by variant; none where it does not know the case
	drawings map[string]map[string]Statement
	styles   map[*design.Layer]contract.Style // as drawn, with tokens
	moves    []Move
	sought   bool                                  // the moves were
	kept     map[string]bool                       // cells of decided moves
	accesses map[string]map[string]contract.Access // by variant and the part's key
}

// New prepares a ledger.
func New(s Agreed, f *design.Family) *Ledger {
	l := unread(s, f)
	if s.Base != nil {
		for _, k := range draft.Cases(s.Base, f) { // an option it does not know is its default there
			l.bases[k.Variant.ID] = contract.Resolve(s.Base, s.env(k), s.values())
		}
	}
	if len(s.Kept) == 0 {
		return l // nobody asks for the moves yet, and no fact hangs on one
	}
	for _, m := range l.Moves() {
		if m.Kept {
			for _, k := range m.cells {
				l.kept[cellKey(m.Part, m.Property, k)] = true
			}
		}
	}
	return l
}

// Moves lists what the design says otherwise than the contract. Values are put
// together by the fewest props that decide them. Moves that were decided before,
// with the design still saying the same, are marked kept.
func (l *Ledger) Moves() []Move {
	if !l.sought {
		l.moves, l.sought = l.findMoves(), true
	}
	return l.moves
}

// unread is a ledger whose moves nobody looked for.
func unread(s Agreed, f *design.Family) *Ledger {
	return &Ledger{Agreed: s, family: f, trees: map[string]*contract.Resolved{}, bases: map[string]*contract.Resolved{},
		drawings: map[string]map[string]Statement{}, styles: map[*design.Layer]contract.Style{}, kept: map[string]bool{}, accesses: map[string]map[string]contract.Access{}}
}

// base gives what was agreed of a cell: what the base says, or the contract where it
// did not move. Nil when the base knows nothing of it.
func (l *Ledger) base(k draft.Case, part, property string) *Statement {
	tree := l.tree(k)
	if l.Base != nil {
		if tree = l.bases[k.Variant.ID]; tree == nil {
			return nil
		}
	}
	s, ok := contractSays(tree, part, property)
	if !ok {
		return nil
	}
	return &s
}

// contractSays gives what a contract says of a part's property in a case; false when it
// has no such part.
func contractSays(tree *contract.Resolved, part, property string) (Statement, bool) {
	r := tree.Find(part)
	if r == nil {
		return Statement{}, false
	}
	if q := givenProp(r.Part, property); q != nil {
		return Statement{Value: givenText(r.Given[q.ID])}, true
	}
	known, _ := css.PropertyNamed(property)
	said, ok := r.Values[property]
	if !ok {
		return Statement{Value: known.Initial}, true
	}
	s := statement(property, said.Expression, said.Value)
	if strings.EqualFold(s.Expression, "currentcolor") {
		s.Expression = r.Values["color"].Expression
	}
	return s, true
}

// tree resolves a case; variants are told apart by id.
func (l *Ledger) tree(k draft.Case) *contract.Resolved {
	if t := l.trees[k.Variant.ID]; t != nil {
		return t
	}
	t := contract.Resolve(l.Contract, l.env(k), l.values())
	l.trees[k.Variant.ID] = t
	return t
}

// drawing reads what a case draws of a part.
func (l *Ledger) drawing(k draft.Case, p *contract.Part) (layer *design.Layer, said map[string]Statement) {
	layer, parent := draft.LayerOf(k.Variant.Root, p)
	if layer == nil || l.Undrawn {
		return nil, nil
	}
	key := k.Variant.ID + "\x00" + p.ID
	said = l.drawings[key]
	if said == nil {
		said = drawn(p, layer, parent, l.Contract.Name, l.Tokens, l.values())
		l.drawings[key] = said
	}
	return layer, said
}

// style reads a layer's style with its tokens, once.
func (l *Ledger) style(layer, parent *design.Layer) contract.Style {
	out, known := l.styles[layer]
	if !known {
		out = draft.StyleWithTokens(layer, parent, l.Contract.Name, l.Tokens)
		l.styles[layer] = out
	}
	return out
}

// Facts gives the facts of one case, part by part, in facet order. The
// measurement is nil while nothing is measured; the built side is silent then.
func (l *Ledger) Facts(k draft.Case, measured *Measurement) []Fact {
	var facts []Fact
	var walk func(r *contract.Resolved)
	walk = func(r *contract.Resolved) {
		own := l.part(k, r, builtPart(measured, r.Key()), measured != nil)
		facts = append(facts, own...)
		gone := !r.Shown && own[0].Design != nil && own[0].Design.Value == "false"
		if gone || r.Values["display"].Value == "none" {
			return // all in it is gone with it
		}
		for _, c := range r.Children {
			walk(c)
		}
	}
	walk(l.tree(k))
	// What the contract leaves to the content, such as a width, follows from
	// what it does say: it has moved with the first thing that did.
	var first, kept *Fact
	for i := range facts {
		fact := &facts[i]
		if fact.Kept && kept == nil {
			kept = fact
		}
		if fact.Contract != nil && fact.Verdict != Agree && first == nil {
			first = fact
		}
	}
	for i := range facts {
		fact := &facts[i]
		switch {
		case fact.Contract != nil || fact.Verdict != CodeMoved:
		case first != nil:
			fact.Verdict, fact.Apart, fact.Follows = first.Verdict, first.Apart, first.Name+" · "+first.Property
		case kept != nil:
			fact.Verdict, fact.Kept, fact.Follows = Agree, true, kept.Name+" · "+kept.Property
		}
	}
	slices.SortStableFunc(facts, func(a, b Fact) int {
		return slices.Index(Facets, a.Facet) - slices.Index(Facets, b.Facet)
	})
	return facts
}

func builtPart(m *Measurement, name string) *MeasuredPart {
	if m == nil {
		return nil
	}
	for i := range m.Parts {
		if m.Parts[i].Part == name {
			return &m.Parts[i]
		}
	}
	return nil
}

func (l *Ledger) part(k draft.Case, r *contract.Resolved, built *MeasuredPart, isMeasured bool) []Fact {
	p := r.Part
	layer, said := l.drawing(k, p)
	undrawn := l.Undrawn || draft.Added(p)
	if key := r.Key(); key != p.ID && !undrawn { // one of several
		var parent *design.Layer
		if layer, parent = draft.ItemLayer(k.Variant.Root, l.Contract, r); layer != nil {
			said = drawn(p, layer, parent, l.Contract.Name, l.Tokens, l.values())
		}
	}
	there := r.Shown && r.Values["display"].Value != "none"
	drawnShown := layer != nil && !layer.Hidden || undrawn && there
	if built != nil && r.Shown && !there && built.Box.Width == 0 && built.Box.Height == 0 {
		built = nil // taken away by a rule, and indeed not to be seen
	}
	shown := Fact{Part: p.ID, Name: p.Name, Property: "shown", Facet: Shape, SaidBy: p.ID,
		Contract: &Statement{Value: strconv.FormatBool(there)}}
	if layer != nil {
		shown.Design = &Statement{Value: strconv.FormatBool(drawnShown)}
	}
	if isMeasured {
		shown.Built = &Statement{Value: strconv.FormatBool(built != nil)}
	}
	l.judge(k, &shown)
	if layer == nil && !undrawn {
		shown.Verdict = Missing
	}
	facts := []Fact{shown}
	if !drawnShown || !there || isMeasured && built == nil {
		return facts
	}
	facts = append(facts, l.sizes(k, r, layer, built)...)
	for _, property := range css.FactProperties() {
		if !applies(p, property) {
			continue
		}
		known, _ := css.PropertyNamed(property)
		fact := Fact{Part: p.ID, Name: p.Name, Property: property, Facet: known.Facet}
		if d, ok := said[property]; ok {
			fact.Design = &d
		}
		c := Statement{Value: known.Initial}
		if v, ok := r.Values[property]; ok {
			c = statement(property, v.Expression, v.Value)
			fact.SaidBy, fact.When, fact.WhenKey = v.Part, l.Contract.Words(v.When), v.When.Key()
		}
		silently := undrawn && c.Value == "" // what the browser begins with, which is no fact of the component
		if c.Value != "currentcolor" && !silently {
			fact.Contract = &c
		}
		if built != nil {
			if v, ok := built.Style[property]; ok {
				fact.Built = &Statement{Value: css.CanonicalText(property, v, 0)}
			}
		}
		if fact.Design == nil && property == "border-color" {
			continue // no line, no colour
		}
		if fact.Design == nil && fact.Contract == nil || silent(fact, known.Initial) {
			continue
		}
		l.judge(k, &fact)
		facts = append(facts, fact)
	}
	for _, property := range givenProperties(p) {
		both, ok := l.pairOf(k, p, property)
		q := givenProp(p, property)
		code := builtGiven(q, built)
		nobody := Statement{Value: givenText(q.Default())}
		if !ok || both.design == nobody && both.contract == nobody && (code == nil || *code == nobody) {
			continue
		}
		fact := Fact{Part: p.ID, Name: p.Name, Property: property, Facet: Props, SaidBy: p.ID, Design: &both.design, Contract: &both.contract, Built: code}
		l.judge(k, &fact)
		facts = append(facts, fact)
	}
	if p.IsText() {
		fact := Fact{Part: p.ID, Name: p.Name, Property: "text", Facet: Content, SaidBy: p.ID, Contract: &Statement{Value: r.Text}}
		if layer != nil && layer.Text != nil {
			fact.Design = &Statement{Value: layer.Text.Content}
		}
		if built != nil {
			fact.Built = &Statement{Value: built.Text}
		}
		l.judge(k, &fact)
		facts = append(facts, fact)
	}
	if p.Use() == nil {
		facts = append(facts, l.access(k, r, built)...)
	}
	return facts
}

// silent tells whether no side says more than the initial value.
func silent(f Fact, initial string) bool {
	for _, s := range []*Statement{f.Design, f.Contract, f.Built} {
		if s != nil && s.Value != initial {
			return false
		}
	}
	return true
}

// sizes compares the drawn box with the measured one. The contract speaks only
// where it fixes the size.
func (l *Ledger) sizes(k draft.Case, r *contract.Resolved, layer *design.Layer, built *MeasuredPart) []Fact {
	var facts []Fact
	var drawn design.Rect
	if layer != nil {
		drawn = layer.Bounds
	}
	for _, axis := range []struct {
		property string
		drawn    float64
		measured func(design.Rect) float64
	}{
		{"width", drawn.Width, func(b design.Rect) float64 { return b.Width }},
		{"height", drawn.Height, func(b design.Rect) float64 { return b.Height }},
	} {
		fact := Fact{Part: r.Part.ID, Name: r.Part.Name, Property: axis.property, Facet: css.Size}
		if layer != nil {
			fact.Design = &Statement{Value: css.FormatNumber(axis.drawn) + "px"}
		}
		if l.elsewhere() && layer != nil { // the drawing's sizes are those of the theme it was drawn in, but for what it fixes
			fact.Design = nil
			_, parent := draft.LayerOf(k.Variant.Root, r.Part)
			if expression := l.style(layer, parent)[axis.property]; expression != "" {
				if value := css.CanonicalText(axis.property, contract.ResolveTokens(expression, l.values()), 0); strings.HasSuffix(value, "px") {
					fact.Design = &Statement{Value: value}
				}
			}
		}
		if v, ok := r.Values[axis.property]; ok {
			if _, fixed := css.Pixels(v.Value); fixed {
				c := statement(axis.property, v.Expression, v.Value)
				fact.Contract, fact.SaidBy, fact.When, fact.WhenKey = &c, v.Part, l.Contract.Words(v.When), v.When.Key()
			}
		}
		if fact.Design == nil && fact.Contract == nil {
			continue
		}
		if built != nil {
			// Browsers lay out in 64ths of a px; a hundredth is enough to read.
			fact.Built = &Statement{Value: css.FormatNumber(math.Round(axis.measured(built.Box)*100)/100) + "px"}
		}
		l.judge(k, &fact)
		facts = append(facts, fact)
	}
	return facts
}

// judge says who moved of a fact. Sides that say the same agree, whatever was
// agreed before; else each is held against the base. What the contract is silent of has
// none: where design and code differ there, the code is told to have moved.
func (l *Ledger) judge(k draft.Case, f *Fact) {
	f.Verdict = Agree
	c := f.Contract
	if c == nil {
		if f.Design != nil && f.Built != nil && !same(f.Property, f.Design.Value, f.Built.Value) {
			f.Verdict = CodeMoved
		}
		return
	}
	built := func(s Statement) bool { return f.Built == nil || same(f.Property, f.Built.Value, s.Value) }
	drawn := func(s Statement) bool { return f.Design == nil || sameStatement(f.Property, *f.Design, s) }
	if drawn(*c) && built(*c) {
		return
	}
	base := *c
	if agreed := l.base(k, f.Part, f.Property); agreed != nil && f.Facet != Shape && f.Facet != Content && f.Facet != Access {
		base = *agreed
	}
	f.Kept = !drawn(*c) && l.kept[cellKey(f.Part, f.Property, k.Key(l.Contract))]
	moved := struct{ design, contract, code bool }{!f.Kept && !drawn(base), !sameStatement(f.Property, *c, base), !built(*c) && !built(base)}
	switch moved {
	case struct{ design, contract, code bool }{}:
		if !built(*c) {
			f.Verdict = CodeMoved
		} else if !f.Kept {
			f.Verdict = DesignMoved
		}
	case struct{ design, contract, code bool }{design: true}:
		f.Verdict = DesignMoved
	case struct{ design, contract, code bool }{contract: true}:
		f.Verdict = ContractMoved
	case struct{ design, contract, code bool }{code: true}:
		f.Verdict = CodeMoved
	default:
		f.Verdict = SeveralMoved
		f.Apart = moved.design && moved.contract && !drawn(*c) || moved.contract && moved.code ||
			moved.design && moved.code && f.Design != nil && !built(*f.Design)
	}
}

func cellKey(part, property, caseKey string) string {
	return part + "\x00" + property + "\x00" + caseKey
}
