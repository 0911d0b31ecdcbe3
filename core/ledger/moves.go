package ledger

import (
	"cobrik/core/css"
	"cobrik/core/draft"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// MoveKind says what moved.
type MoveKind string

const (
	ValueMoved    MoveKind = "value"
	OptionAdded   MoveKind = "option added"
	OptionRemoved MoveKind = "option removed"
	OptionRenamed MoveKind = "option renamed"
	PropAdded     MoveKind = "prop added"
	PropRemoved   MoveKind = "prop removed"
	DefaultMoved  MoveKind = "default"
	PartAdded     MoveKind = "part added"
	PartRemoved   MoveKind = "part removed"
)

// Move is one thing the design says otherwise than the contract, over all the
// cases it holds for.
type Move struct {
	Key      string    `json:"key" doc:"The same for the same fact in every revision"`
	Kind     MoveKind  `json:"kind"`
	Facet    css.Facet `json:"facet"`
	Part     string    `json:"part,omitempty"`
	Property string    `json:"property"`
	When     string    `json:"when,omitempty" doc:"Conditions it holds under; empty for all cases"`
	From     Statement `json:"from" doc:"The contract's side"`
	To       Statement `json:"to" doc:"The design's side"`
	Cases    int       `json:"cases" doc:"Drawn cases it changes"`
	Bump     Level     `json:"bump" doc:"The version bump that taking the design's side asks for"`
	Kept     bool      `json:"kept,omitempty" doc:"It was decided to keep the contract's side"`
	cells    []string  // keys of the cases
}

func (m Move) to() string { return m.To.Expression + "|" + m.To.Value }

func (l *Ledger) findMoves() []Move {
	moves := l.structure()
	cases := knownCases(l.Contract, l.family)
	l.Contract.Walk(func(p, _ *contract.Part) {
		for _, property := range moveProperties(p) {
			moves = append(moves, l.valueMoves(cases, p, property)...)
		}
	})
	for i := range moves {
		moves[i].Kept = l.wasKept(moves[i])
	}
	return moves
}

// wasKept tells whether a move was decided for the contract while the design
// said what it says now. A decision for some conditions covers moves under those
// and further ones: the cases of a move may be told apart anew.
func (l *Ledger) wasKept(m Move) bool {
	if l.Kept[m.Key] == m.to() {
		return true
	}
	head, when, _ := cutLast(m.Key)
	for key, to := range l.Kept {
		decidedHead, decidedWhen, _ := cutLast(key)
		if m.Kind == ValueMoved && to == m.to() && head == decidedHead && subset(conditions(decidedWhen), conditions(when)) {
			return true
		}
	}
	return false
}

func cutLast(key string) (head, tail string, found bool) {
	i := strings.LastIndexByte(key, '|')
	if i < 0 {
		return key, "", false
	}
	return key[:i], key[i+1:], true
}

func conditions(when string) []string {
	if when == "" {
		return nil
	}
	return strings.Split(when, " · ")
}

func subset(a, b []string) bool {
	return !slices.ContainsFunc(a, func(word string) bool { return !slices.Contains(b, word) })
}

// Waiting counts the moves nobody has decided yet.
func Waiting(moves []Move) int {
	n := 0
	for _, m := range moves {
		if !m.Kept {
			n++
		}
	}
	return n
}

// Decision gives what is stored when a move's contract side is kept.
func (m Move) Decision() (key, to string) { return m.Key, m.to() }

// moveProperties are the style properties compared for a part, sizes included
// where the drawing fixes them.
func moveProperties(p *contract.Part) []string {
	var out []string
	for _, property := range css.FactProperties() {
		if applies(p, property) || property == "width" || property == "height" {
			out = append(out, property)
		}
	}
	return out
}

func knownCases(c *contract.Contract, f *design.Family) []draft.Case {
	return slices.DeleteFunc(draft.Cases(c, f), func(k draft.Case) bool { return len(k.New) > 0 })
}

// pair is what both sides say of one cell.
type pair struct{ design, contract Statement }

// pairOf reads a cell: what the variant draws and what the contract resolves
// to. False where one of them has nothing to say.
func (l *Ledger) pairOf(k draft.Case, p *contract.Part, property string) (pair, bool) {
	layer, drawing := l.drawing(k, p)
	if layer == nil {
		return pair{}, false
	}
	r := l.tree(k).Find(p.Name)
	known, _ := css.PropertyNamed(property)
	said, ok := r.Values[property]
	c := Statement{Value: known.Initial}
	if ok {
		c = statement(property, said.Expression, said.Value)
	}
	if property == "width" || property == "height" {
		_, parent := draft.LayerAt(k.Variant.Root, p.Layer)
		expression, fixed := draft.StyleWithTokens(layer, parent, l.Contract.Name, l.Tokens)[property]
		if !fixed && !ok {
			return pair{}, false
		}
		d := Statement{Value: known.Initial}
		if fixed {
			d = statement(property, expression, css.CanonicalText(property, contract.ResolveTokens(expression, l.Tokens), 0))
		}
		return pair{d, c}, true
	}
	d, ok := drawing[property]
	if !ok {
		return pair{}, false
	}
	if strings.EqualFold(c.Expression, "currentcolor") {
		c.Expression = r.Values["color"].Expression
	}
	return pair{d, c}, true
}

func (l *Ledger) valueMoves(cases []draft.Case, p *contract.Part, property string) []Move {
	cells := make([]draft.Cell, 0, len(cases))
	pairs := make([]pair, 0, len(cases))
	keys := make([]string, 0, len(cases))
	differs := false
	for _, k := range cases {
		both, ok := l.pairOf(k, p, property)
		if !ok {
			continue
		}
		said := ""
		if !sameStatement(property, both.design, both.contract) {
			differs = true
			said = strings.Join([]string{both.contract.Expression, both.contract.Value, both.design.Expression, both.design.Value}, "\x00")
		}
		cells = append(cells, draft.Cell{Values: k.Values, Text: said})
		pairs = append(pairs, both)
		keys = append(keys, k.Key(l.Contract))
	}
	if !differs {
		return nil
	}
	var moves []Move
	known, _ := css.PropertyNamed(property)
	for _, cause := range draft.Attribute(l.Contract, cells) {
		both := pairs[cause.Cells[0]]
		m := Move{Kind: ValueMoved, Facet: known.Facet, Part: p.Name, Property: property, When: cause.When.String(),
			From: both.contract, To: both.design, Cases: len(cause.Cells), Bump: Patch}
		m.Key = strings.Join([]string{"value", m.Part, m.Property, m.When}, "|")
		for _, i := range cause.Cells {
			m.cells = append(m.cells, keys[i])
		}
		moves = append(moves, m)
	}
	return moves
}

// structure lists axes, options, defaults and layers that came, went or were
// renamed.
func (l *Ledger) structure() []Move {
	s, f := l.Sides, l.family
	var moves []Move
	add := func(kind MoveKind, facet css.Facet, part, property string, from, to string, cases int, bump Level) {
		m := Move{Kind: kind, Facet: facet, Part: part, Property: property, From: Statement{Value: from}, To: Statement{Value: to}, Cases: cases, Bump: bump}
		m.Key = strings.Join([]string{string(kind), part, property, from, to}, "|")
		if kind == DefaultMoved {
			m.Key = strings.Join([]string{string(kind), part, property}, "|")
		}
		moves = append(moves, m)
	}
	drawnWith := func(axis, option string) int {
		n := 0
		for _, v := range f.Variants {
			if contract.OptionOf(v.Choices[axis]) == option {
				n++
			}
		}
		return n
	}
	axes := map[string]bool{}
	for _, a := range f.Axes {
		axes[a.Name] = true
		p := axisProp(s.Contract, a.Name)
		if p == nil {
			add(PropAdded, Props, "", a.Name, "", strings.Join(a.Values, ", "), len(f.Variants)-drawnWith(a.Name, contract.OptionOf(a.Default)), Minor)
			continue
		}
		if p.Kind == contract.Flag && slices.ContainsFunc(a.Values, func(v string) bool { return v != p.On && v != p.Off }) {
			// The axis is no flag any more: a choice takes its place.
			add(PropRemoved, Props, "", p.Name, p.Name, "", len(f.Variants), Major)
			add(PropAdded, Props, "", a.Name, "", strings.Join(a.Values, ", "), len(f.Variants), Minor)
			continue
		}
		added, removed, renamed := s.options(f, a, p)
		for _, r := range renamed {
			add(OptionRenamed, Props, "", p.Name, r[0], r[1], drawnWith(a.Name, r[1]), Major)
		}
		for _, o := range added {
			add(OptionAdded, Props, "", p.Name, "", o, drawnWith(a.Name, o), Minor)
		}
		// Before options go: the old default may be one of them.
		if want := axisDefault(a, p); want != p.Default && len(renamed) == 0 && (p.Kind == contract.Flag || slices.Contains(p.Options, string(want)) || slices.Contains(added, string(want))) {
			add(DefaultMoved, Props, "", p.Name, string(p.Default), string(want), drawnWith(a.Name, contract.OptionOf(a.Default)), Major)
		}
		for _, o := range removed {
			add(OptionRemoved, Props, "", p.Name, o, "", 0, Major)
		}
	}
	for _, p := range s.Contract.Props {
		if p.Axis != "" && !axes[p.Axis] {
			add(PropRemoved, Props, "", p.Name, p.Name, "", len(f.Variants), Major)
		}
	}
	s.layers(f, add)
	return moves
}

func axisProp(c *contract.Contract, axis string) *contract.Prop {
	for i := range c.Props {
		if c.Props[i].Axis == axis {
			return &c.Props[i]
		}
	}
	return nil
}

func axisDefault(a design.Axis, p *contract.Prop) contract.Value {
	if p.Kind == contract.Flag {
		return contract.FlagValue(a.Default == p.On)
	}
	return contract.Value(contract.OptionOf(a.Default))
}

// options compares an axis's values with a choice's options. An option that
// went and one that came with the same looks in every case are one renamed.
func (s Sides) options(f *design.Family, a design.Axis, p *contract.Prop) (added, removed []string, renamed [][2]string) {
	if p.Kind != contract.Choice {
		return nil, nil, nil
	}
	var drawn []string
	for _, v := range a.Values {
		o := contract.OptionOf(v)
		drawn = append(drawn, o)
		if !slices.Contains(p.Options, o) {
			added = append(added, o)
		}
	}
	for _, o := range p.Options {
		if !slices.Contains(drawn, o) {
			removed = append(removed, o)
		}
	}
	for _, old := range slices.Clone(removed) {
		for _, now := range slices.Clone(added) {
			if s.looksAlike(f, p, old, now) {
				renamed = append(renamed, [2]string{old, now})
				removed = slices.DeleteFunc(removed, func(o string) bool { return o == old })
				added = slices.DeleteFunc(added, func(o string) bool { return o == now })
				break
			}
		}
	}
	return added, removed, renamed
}

// looksAlike tells whether the variants drawn for one option look as the
// contract has another, in every case.
func (s Sides) looksAlike(f *design.Family, p *contract.Prop, old, now string) bool {
	renamed := s.Contract.Clone()
	renameOption(renamed, p.Name, old, now)
	trial := &Ledger{Sides: Sides{Contract: renamed, Tokens: s.Tokens}, family: f, trees: map[string]*contract.Resolved{}, drawings: map[string]map[string]Statement{}}
	any := false
	for _, k := range knownCases(trial.Contract, f) {
		if k.Values[p.Name] != contract.Value(now) {
			continue
		}
		any = true
		alike := true
		trial.Contract.Walk(func(part, _ *contract.Part) {
			for _, property := range moveProperties(part) {
				if both, ok := trial.pairOf(k, part, property); ok && !same(property, both.design.Value, both.contract.Value) {
					alike = false
				}
			}
		})
		if !alike {
			return false
		}
	}
	return any
}

// layers lists parts whose layer is gone, layers without a part, and texts
// drawn otherwise in the default variant.
func (s Sides) layers(f *design.Family, add func(kind MoveKind, facet css.Facet, part, property, from, to string, cases int, bump Level)) {
	base := f.Default()
	if base == nil {
		return
	}
	known := map[string]bool{}
	gone := map[string]bool{}
	s.Contract.Walk(func(p, parent *contract.Part) {
		known[p.Layer] = true
		l, _ := draft.LayerAt(base.Root, p.Layer)
		if l == nil {
			if parent == nil || !gone[parent.Name] { // a part goes with all below it
				bump := Patch
				if p.Text != "" || p.Show != "" {
					bump = Major
				}
				add(PartRemoved, Shape, p.Name, "part", p.Name, "", len(f.Variants), bump)
			}
			gone[p.Name] = true
			return
		}
		if prop := s.Contract.Prop(p.Text); prop != nil && l.Text != nil && string(prop.Default) != l.Text.Content {
			add(DefaultMoved, Content, p.Name, prop.Name, string(prop.Default), l.Text.Content, 1, Patch)
		}
	})
	for _, path := range draft.LayerPaths(base.Root) {
		above := path[:max(0, strings.LastIndexByte(path, '/'))]
		if !known[path] && known[above] {
			add(PartAdded, Shape, "", "part", "", path, len(f.Variants), Minor)
		}
	}
}
