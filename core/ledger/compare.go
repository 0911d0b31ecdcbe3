package ledger

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"math"
	"slices"
	"strconv"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Sides is what Compare lays side by side.
type Sides struct {
	Contract *contract.Contract
	Tokens   *token.Set
	Kept     map[string]string // decided moves: Move.Key to Move.To
}

// Ledger compares one family with its contract. It reads each drawing and
// resolves each case once.
type Ledger struct {
	Sides
	family   *design.Family
	trees    map[string]*contract.Resolved
	drawings map[string]map[string]Statement
	moves    []Move
	kept     map[string]bool // cells of decided moves
}

// New prepares a ledger.
func New(s Sides, f *design.Family) *Ledger {
	l := &Ledger{Sides: s, family: f, trees: map[string]*contract.Resolved{}, drawings: map[string]map[string]Statement{}, kept: map[string]bool{}}
	l.moves = l.findMoves()
	for _, m := range l.moves {
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
func (l *Ledger) Moves() []Move { return l.moves }

// tree resolves a case; variants are told apart by id.
func (l *Ledger) tree(k draft.Case) *contract.Resolved {
	if t := l.trees[k.Variant.ID]; t != nil {
		return t
	}
	t := contract.ResolveAt(l.Contract, k.Values, k.Variant.Root.Bounds.Width, l.Tokens)
	l.trees[k.Variant.ID] = t
	return t
}

// drawing reads what a case draws of a part.
func (l *Ledger) drawing(k draft.Case, p *contract.Part) (layer *design.Layer, said map[string]Statement) {
	layer, parent := draft.LayerAt(k.Variant.Root, p.Layer)
	if layer == nil {
		return nil, nil
	}
	key := k.Variant.ID + "\x00" + p.Name
	said = l.drawings[key]
	if said == nil {
		said = drawn(p, layer, parent, l.Contract.Name, l.Tokens)
		l.drawings[key] = said
	}
	return layer, said
}

// Facts gives the facts of one case, part by part, in facet order. The
// measurement is nil while nothing is measured; the built side is silent then.
func (l *Ledger) Facts(k draft.Case, measured *Measurement) []Fact {
	var facts []Fact
	l.tree(k).Walk(func(r *contract.Resolved) {
		facts = append(facts, l.part(k, r, builtPart(measured, r.Part.Name), measured != nil)...)
	})
	// What the contract leaves to the content, such as a width, follows from
	// what it does say: it has moved with the first thing that did.
	follows := Verdict("")
	keptHere := false
	for i := range facts {
		fact := &facts[i]
		if fact.Verdict == DesignMoved && l.kept[cellKey(fact.Part, fact.Property, k.Key(l.Contract))] {
			fact.Verdict, fact.Kept, keptHere = Agree, true, true
		}
		if fact.Contract != nil && fact.Verdict != Agree && follows == "" {
			follows = fact.Verdict
		}
	}
	for i := range facts {
		fact := &facts[i]
		if fact.Contract != nil || fact.Verdict != CodeMoved {
			continue
		}
		if follows != "" {
			fact.Verdict = follows
		} else if keptHere {
			fact.Verdict, fact.Kept = Agree, true
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
	drawnShown := layer != nil && !layer.Hidden
	shown := Fact{Part: p.Name, Property: "shown", Facet: Shape, SaidBy: p.Name,
		Contract: &Statement{Value: strconv.FormatBool(r.Shown)}}
	if layer != nil {
		shown.Design = &Statement{Value: strconv.FormatBool(drawnShown)}
	}
	if isMeasured {
		shown.Built = &Statement{Value: strconv.FormatBool(built != nil)}
	}
	shown.Verdict = verdict(shown, layer == nil)
	facts := []Fact{shown}
	if !drawnShown || !r.Shown || isMeasured && built == nil {
		return facts
	}
	facts = append(facts, sizes(r, layer, built)...)
	for _, property := range css.FactProperties() {
		if !applies(p, property) {
			continue
		}
		known, _ := css.PropertyNamed(property)
		fact := Fact{Part: p.Name, Property: property, Facet: known.Facet}
		if d, ok := said[property]; ok {
			fact.Design = &d
		}
		c := Statement{Value: known.Initial}
		if v, ok := r.Values[property]; ok {
			c = statement(property, v.Expression, v.Value)
			fact.SaidBy, fact.When = v.Part, v.When.String()
		}
		if c.Value != "currentcolor" {
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
		fact.Verdict = verdict(fact, false)
		facts = append(facts, fact)
	}
	if p.Text != "" || p.Content != "" {
		fact := Fact{Part: p.Name, Property: "text", Facet: Content, SaidBy: p.Name, Contract: &Statement{Value: r.Text}}
		if layer.Text != nil {
			fact.Design = &Statement{Value: layer.Text.Content}
		}
		if built != nil {
			fact.Built = &Statement{Value: built.Text}
		}
		fact.Verdict = verdict(fact, false)
		facts = append(facts, fact)
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
func sizes(r *contract.Resolved, l *design.Layer, built *MeasuredPart) []Fact {
	var facts []Fact
	for _, axis := range []struct {
		property string
		drawn    float64
		measured func(design.Rect) float64
	}{
		{"width", l.Bounds.Width, func(b design.Rect) float64 { return b.Width }},
		{"height", l.Bounds.Height, func(b design.Rect) float64 { return b.Height }},
	} {
		fact := Fact{Part: r.Part.Name, Property: axis.property, Facet: css.Size, Design: &Statement{Value: css.FormatNumber(axis.drawn) + "px"}}
		if v, ok := r.Values[axis.property]; ok {
			if _, fixed := css.Pixels(v.Value); fixed {
				c := statement(axis.property, v.Expression, v.Value)
				fact.Contract, fact.SaidBy, fact.When = &c, v.Part, v.When.String()
			}
		}
		if built != nil {
			// Browsers lay out in 64ths of a px; a hundredth is enough to read.
			fact.Built = &Statement{Value: css.FormatNumber(math.Round(axis.measured(built.Box)*100)/100) + "px"}
		}
		fact.Verdict = verdict(fact, false)
		facts = append(facts, fact)
	}
	return facts
}

// verdict compares the sides that speak. What was agreed is the contract's
// word; where it is silent, the design's.
func verdict(f Fact, missing bool) Verdict {
	if missing {
		return Missing
	}
	switch {
	case f.Contract == nil && f.Design != nil && f.Built != nil && !same(f.Property, f.Design.Value, f.Built.Value):
		return CodeMoved
	case f.Contract == nil:
		return Agree
	}
	design := f.Design != nil && !sameStatement(f.Property, *f.Design, *f.Contract)
	built := f.Built != nil && !same(f.Property, f.Built.Value, f.Contract.Value)
	switch {
	case design && built:
		return BothMoved
	case design:
		return DesignMoved
	case built:
		return CodeMoved
	}
	return Agree
}

func cellKey(part, property, caseKey string) string {
	return part + "\x00" + property + "\x00" + caseKey
}
