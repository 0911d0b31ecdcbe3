package ledger

import (
	"cmp"
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
	PartRenamed   MoveKind = "part renamed"
	PropRenamed   MoveKind = "prop renamed"
	StateAdded    MoveKind = "state added"
	StateRemoved  MoveKind = "state removed"
	DrawingMoved  MoveKind = "drawing"
	WidthAdded    MoveKind = "width added"
	WidthRemoved  MoveKind = "width removed"
)

// Side is who moved from what was agreed.
type Side string

const (
	DesignSide   Side = "design"
	ContractSide Side = "contract"
	SeveralSides Side = "several"
)

// Move is one thing the design says otherwise than the contract, over all the
// cases it holds for.
type Move struct {
	Key      string         `json:"key" doc:"The same for the same fact in every revision"`
	Kind     MoveKind       `json:"kind" enum:"value,option added,option removed,option renamed,prop added,prop removed,prop renamed,default,part added,part removed,part renamed,state added,state removed,drawing,width added,width removed"`
	Facet    css.Facet      `json:"facet" enum:"shape,props,size,space,paint,type,content,access"`
	Part     string         `json:"part,omitempty" doc:"Its id"`
	Name     string         `json:"name,omitempty" doc:"The part's name"`
	Property string         `json:"property"`
	When     string         `json:"when,omitempty" doc:"Conditions it holds under, in words; empty for all cases"`
	From     Statement      `json:"from" doc:"The contract's side"`
	To       Statement      `json:"to" doc:"The design's side"`
	Base     *Statement     `json:"base,omitempty" doc:"What was agreed, where both moved from it"`
	Merged   string         `json:"merged,omitempty" doc:"A value that has what both changed, where there is one"`
	Cases    int            `json:"cases" doc:"Drawn cases it changes"`
	In       []string       `json:"in,omitempty" doc:"Keys of the first of them"`
	Bump     contract.Level `json:"bump" enum:"none,patch,minor,major" doc:"The version bump that taking the design's side asks for"`
	Side     Side           `json:"side" enum:"design,contract,several" doc:"Who moved"`
	Kept     bool           `json:"kept,omitempty" doc:"It was decided to keep the contract's side"`
	Asked    bool           `json:"asked,omitempty" doc:"The contract moved, and the designer was asked to follow"`
	cells    []string       // keys of the cases
	fact     string         // names the move in every revision, whatever its condition
	when     contract.When
}

func (m Move) to() string   { return m.To.Expression + "|" + m.To.Value }
func (m Move) from() string { return m.From.Expression + "|" + m.From.Value }

func (l *Ledger) findMoves() []Move {
	moves := l.structure()
	cases := knownCases(l.Contract, l.family)
	l.Contract.Walk(func(p, _ *contract.Part) {
		for _, property := range moveProperties(p) {
			moves = append(moves, l.valueMoves(cases, p, property)...)
		}
	})
	for i := range moves {
		moves[i].Kept = l.decided(moves[i], Kept, moves[i].to())
		moves[i].Asked = moves[i].Side != DesignSide && l.decided(moves[i], Asked, moves[i].from())
	}
	return moves
}

// Outcome is what was decided of a move without changing the contract.
type Outcome string

const (
	// Kept holds on to the contract's side while the design says what it said then.
	Kept Outcome = "kept"
	// Asked waits for the design to follow while the contract says what it said then.
	Asked Outcome = "asked"
)

// Decision is what is remembered of a move that left the contract as it is.
type Decision struct {
	Outcome Outcome
	Move    string // names the move in every revision, whatever its condition
	When    string // key of the condition it was decided under
	Said    string // what the design said when it was kept, or the contract when it was asked
	Reason  string // in words; of an exception
}

// decided tells whether a move was decided so while a side said what it says now. A
// decision under some conditions covers moves under those and further ones: the cases
// of a move may be told apart anew.
func (l *Ledger) decided(m Move, outcome Outcome, said string) bool {
	for _, d := range l.Kept {
		if d.Outcome != outcome || d.Move != m.fact || d.Said != said {
			continue
		}
		when, err := contract.ParseWhen(d.When)
		if err == nil && when.Covers(m.when) {
			return true
		}
	}
	return false
}

// Said tells a move in a line: what it is of, and what both sides say.
func (m Move) Said() string {
	what := strings.Join(slices.DeleteFunc([]string{m.Name, m.Property, m.When}, func(s string) bool { return s == "" }), " · ")
	if m.Kind != ValueMoved {
		what += ", " + string(m.Kind)
	}
	from, to := m.From.Words(), m.To.Words()
	if m.Side == ContractSide {
		from, to = to, from
	}
	switch {
	case from == "" && to == "":
		return what
	case from == "":
		return what + ": " + to
	case to == "":
		return what + ": " + from + " is gone"
	}
	return what + ": " + from + " → " + to
}

// Condition is what a move of a value holds under.
func (m Move) Condition() contract.When { return m.when }

func (s Statement) said() css.Said { return css.Said{Text: s.Words(), Value: s.Value} }

// Words is a statement as people read it: with its references, where it has any.
func (s Statement) Words() string { return cmp.Or(s.Expression, s.Value) }

// Waiting counts the moves nobody has decided yet; those the designer was asked about
// wait for the design.
func Waiting(moves []Move) int {
	n := 0
	for _, m := range moves {
		if !m.Kept && !m.Asked {
			n++
		}
	}
	return n
}

// Keep gives what is stored when a move's contract side is kept, for a reason.
func (m Move) Keep(reason string) Decision {
	return Decision{Outcome: Kept, Move: m.fact, When: m.when.Key(), Said: m.to(), Reason: reason}
}

// Ask gives what is stored when the designer is asked to follow the contract.
func (m Move) Ask() Decision {
	return Decision{Outcome: Asked, Move: m.fact, When: m.when.Key(), Said: m.from()}
}

// moveProperties are the style properties compared for a part, sizes included
// where the drawing fixes them.
func moveProperties(p *contract.Part) []string {
	var out []string
	for _, property := range css.FactProperties() {
		if applies(p, property) || property == "width" || property == "height" {
			out = append(out, property)
		}
	}
	return append(out, givenProperties(p)...)
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
	c, _ := contractSays(l.tree(k), p.ID, property)
	if q := givenProp(p, property); q != nil {
		v := draft.GivenBy(layer, p.Use().Of())[q.ID]
		return pair{Statement{Value: givenText(v)}, c}, v != nil
	}
	if property == "width" || property == "height" {
		known, _ := css.PropertyNamed(property)
		_, parent := draft.LayerOf(k.Variant.Root, p)
		expression, fixed := l.style(layer, parent)[property]
		if !fixed && c == (Statement{Value: known.Initial}) {
			return pair{}, false
		}
		d := Statement{Value: known.Initial}
		if fixed {
			d = statement(property, expression, css.CanonicalText(property, contract.ResolveTokens(expression, l.values()), 0))
		}
		return pair{d, c}, true
	}
	d, ok := drawing[property]
	if !ok {
		return pair{}, false
	}
	return pair{d, c}, true
}

// side tells who moved of a cell in which design and contract differ.
func (l *Ledger) side(k draft.Case, p *contract.Part, property string, both pair) Side {
	base := l.base(k, p.ID, property)
	switch {
	case base == nil || sameStatement(property, both.contract, *base):
		return DesignSide
	case sameStatement(property, both.design, *base):
		return ContractSide
	}
	return SeveralSides
}

// mostKeys bounds how many cases a move names.
const mostKeys = 40

func (l *Ledger) valueMoves(cases []draft.Case, p *contract.Part, property string) []Move {
	cells := make([]draft.Cell, 0, len(cases))
	pairs := make([]pair, 0, len(cases))
	in := make([]draft.Case, 0, len(cases))
	differs := false
	for _, k := range cases {
		both, ok := l.pairOf(k, p, property)
		if !ok {
			continue
		}
		said := ""
		if !sameStatement(property, both.design, both.contract) {
			differs = true
			said = strings.Join([]string{string(l.side(k, p, property, both)), both.contract.Expression, both.contract.Value, both.design.Expression, both.design.Value}, "\x00")
		}
		cells = append(cells, k.Cell(said))
		pairs = append(pairs, both)
		in = append(in, k)
	}
	if !differs {
		return nil
	}
	var moves []Move
	known, _ := css.PropertyNamed(property)
	for _, cause := range draft.Attribute(l.Contract, cells) {
		both := pairs[cause.Cells[0]]
		side, _, _ := strings.Cut(cause.Text, "\x00")
		m := Move{Kind: ValueMoved, Facet: cmp.Or(known.Facet, Props), Part: p.ID, Name: p.Name, Property: property, When: l.Contract.Words(cause.When),
			From: both.contract, To: both.design, Cases: len(cause.Cells), Bump: contract.Patch, Side: Side(side), when: cause.When}
		if m.Side == SeveralSides {
			if m.Base = l.base(in[cause.Cells[0]], p.ID, property); m.Base != nil {
				m.Merged, _ = css.Merge(property, m.Base.said(), m.From.said(), m.To.said())
			}
		}
		m.fact = strings.Join([]string{"value", p.ID, property}, "|")
		m.Key = m.fact + "|" + cause.When.Key()
		for _, i := range cause.Cells {
			m.cells = append(m.cells, in[i].Key(l.Contract))
		}
		m.In = m.cells[:min(len(m.cells), mostKeys)]
		moves = append(moves, m)
	}
	return moves
}

// structure lists what is otherwise about axes, options, defaults and layers, with who
// moved: what was otherwise of the base, too, is the design's.
func (l *Ledger) structure() []Move {
	moves := l.differing()
	if l.Base == nil {
		return moves
	}
	before := map[string]Move{}
	for _, m := range unread(Agreed{Contract: l.Base, Tokens: l.Tokens}, l.family).differing() {
		before[m.Key] = m
	}
	for i, m := range moves {
		was, there := before[m.Key]
		switch {
		case !there:
			moves[i].Side = ContractSide
		case was.From != m.From:
			moves[i].Side = SeveralSides
		}
	}
	return moves
}

// differing lists axes, options, defaults and layers that came, went or were
// renamed.
func (l *Ledger) differing() []Move {
	s, f := l.Agreed, l.family
	var moves []Move
	add := func(kind MoveKind, facet css.Facet, part *contract.Part, property string, from, to string, cases int, bump contract.Level) {
		m := Move{Kind: kind, Facet: facet, Side: DesignSide, Property: property, From: Statement{Value: from}, To: Statement{Value: to}, Cases: cases, Bump: bump}
		if part != nil {
			m.Part, m.Name = part.ID, part.Name
		}
		m.Key = strings.Join([]string{string(kind), m.Part, property, from, to}, "|")
		if kind == DefaultMoved { // the same question, whatever the default is now
			m.Key = strings.Join([]string{string(kind), m.Part, property}, "|")
		}
		m.fact = m.Key
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
	renamedAxes := draft.RenamedAxes(s.Contract, f)
	axes := map[string]bool{}
	for _, a := range f.Axes {
		axes[a.Name] = true
		if draft.DrawsStates(s.Contract, a.Name) || draft.PropOfAxis(s.Contract, a.Name) == nil && len(s.Contract.States) == 0 && draft.IsStateAxis(a) {
			for _, v := range a.Values {
				if state := draft.StateWord(v); v != a.Default && state != "" && !s.draws(state) {
					add(StateAdded, Props, nil, a.Name, "", v, drawnWith(a.Name, contract.OptionOf(v)), contract.Minor)
				}
			}
			continue
		}
		if draft.DrawsWidths(s.Contract, a.Name) || draft.PropOfAxis(s.Contract, a.Name) == nil && len(s.Contract.Widths) == 0 && draft.IsWidthAxis(f, a) {
			for _, v := range a.Values {
				if known := slices.ContainsFunc(s.Contract.Widths, func(w contract.DrawnWidth) bool { return w.Value == v }); !known && (len(s.Contract.Widths) > 0 || v != a.Default) {
					add(WidthAdded, css.Size, nil, a.Name, "", v, drawnWith(a.Name, contract.OptionOf(v)), contract.Patch)
				}
			}
			continue
		}
		p := draft.PropOfAxis(s.Contract, a.Name)
		if p == nil {
			if p = renamedAxes[a.Name]; p != nil {
				axes[p.Axis] = true
				add(PropRenamed, Props, nil, p.ID, p.Axis, a.Name, len(f.Variants), contract.Major)
			} else {
				add(PropAdded, Props, nil, a.Name, "", strings.Join(a.Values, ", "), len(f.Variants)-drawnWith(a.Name, contract.OptionOf(a.Default)), contract.Minor)
				continue
			}
		}
		if p.Kind() == contract.FlagKind && slices.ContainsFunc(a.Values, func(v string) bool { return v != p.On && v != p.Off }) {
			// The axis is no flag any more: a choice takes its place.
			add(PropRemoved, Props, nil, p.ID, p.Name, "", len(f.Variants), contract.Major)
			add(PropAdded, Props, nil, a.Name, "", strings.Join(a.Values, ", "), len(f.Variants), contract.Minor)
			continue
		}
		added, removed, renamed := s.options(f, a, p)
		for _, r := range renamed {
			add(OptionRenamed, Props, nil, p.ID, r[0], r[1], drawnWith(a.Name, r[1]), contract.Major)
		}
		for _, o := range added {
			add(OptionAdded, Props, nil, p.ID, "", o, drawnWith(a.Name, o), contract.Minor)
		}
		// Before options go: the old default may be one of them.
		if want := axisDefault(a, p); !contract.Equal(want, p.Default()) && len(renamed) == 0 && (want == nil || p.Type.Takes(want) || slices.Contains(added, want.String())) {
			add(DefaultMoved, Props, nil, p.ID, valueText(p.Default()), valueText(want), drawnWith(a.Name, contract.OptionOf(a.Default)), contract.Major)
		}
		for _, o := range removed {
			add(OptionRemoved, Props, nil, p.ID, o, "", 0, contract.Major)
		}
	}
	for _, p := range s.Contract.Props {
		if p.Axis != "" && !axes[p.Axis] {
			add(PropRemoved, Props, nil, p.ID, p.Name, "", len(f.Variants), contract.Major)
		}
	}
	for _, drawn := range s.Contract.Widths {
		if !slices.ContainsFunc(f.Axes, func(a design.Axis) bool { return a.Name == drawn.Axis && slices.Contains(a.Values, drawn.Value) }) {
			add(WidthRemoved, css.Size, nil, drawn.Axis, drawn.Value, "", 0, contract.Patch)
		}
	}
	for _, drawn := range s.Contract.States {
		if !slices.ContainsFunc(f.Axes, func(a design.Axis) bool { return a.Name == drawn.Axis && slices.Contains(a.Values, drawn.Value) }) {
			bump := contract.Patch
			if slices.Contains(contract.DataStates, drawn.State) { // its flag goes with it
				bump = contract.Major
			}
			add(StateRemoved, Props, nil, drawn.Axis, drawn.Value, "", 0, bump)
		}
	}
	s.layers(f, add)
	s.drawings(f, add)
	return moves
}

// draws tells whether a state is drawn by an axis's value already.
func (s Agreed) draws(state string) bool {
	return slices.ContainsFunc(s.Contract.States, func(d contract.DrawnState) bool { return d.State == state })
}

func axisDefault(a design.Axis, p *contract.Prop) contract.Value {
	if p.Kind() == contract.FlagKind {
		return contract.FlagValue(a.Default == p.On)
	}
	if p.Kind() == contract.IconKind {
		if a.Default == p.Off {
			return nil
		}
		return contract.IconValue(contract.OptionOf(a.Default))
	}
	return contract.OptionValue(contract.OptionOf(a.Default))
}

// valueText writes a value, or nothing for none.
func valueText(v contract.Value) string {
	if v == nil {
		return ""
	}
	return v.String()
}

// options compares an axis's values with a choice's options. An option that
// went and one that came with the same looks in every case are one renamed.
func (s Agreed) options(f *design.Family, a design.Axis, p *contract.Prop) (added, removed []string, renamed [][2]string) {
	known := p.Options()
	if icon, ok := p.Type.(contract.Icon); ok {
		known = icon.Names()
	}
	var drawn []string
	for _, v := range a.Values {
		o := contract.OptionOf(v)
		if p.Kind() == contract.IconKind && v == p.Off {
			continue
		}
		drawn = append(drawn, o)
		if !slices.Contains(known, o) {
			added = append(added, o)
		}
	}
	if p.Kind() == contract.FlagKind {
		return nil, nil, nil
	}
	for _, o := range known {
		if !slices.Contains(drawn, o) {
			removed = append(removed, o)
		}
	}
	if p.Kind() == contract.IconKind {
		return added, removed, nil // one drawing in another's place is another
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
func (s Agreed) looksAlike(f *design.Family, p *contract.Prop, old, now string) bool {
	renamed := s.Contract.Clone()
	renameOption(renamed, p.ID, old, now)
	trial := unread(Agreed{Contract: renamed, Tokens: s.Tokens}, f)
	any := false
	for _, k := range knownCases(trial.Contract, f) {
		if k.Values[p.ID] != contract.OptionValue(now) {
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

// layers lists parts whose layer is gone or has another name, layers without a part, and
// texts drawn otherwise in the default variant.
func (s Agreed) layers(f *design.Family, add func(kind MoveKind, facet css.Facet, part *contract.Part, property, from, to string, cases int, bump contract.Level)) {
	base := f.Default()
	if base == nil {
		return
	}
	known := map[string]bool{}
	gone := map[string]bool{}
	s.Contract.Walk(func(p, parent *contract.Part) {
		if draft.Added(p) {
			return
		}
		l, _ := draft.LayerOf(base.Root, p)
		if l == nil {
			known[p.Layer] = true
			if parent == nil || !gone[parent.ID] { // a part goes with all below it
				bump := contract.Patch
				if p.TextProp() != "" || !p.ShownWhen.Always() {
					bump = contract.Major
				}
				add(PartRemoved, Shape, p, "part", p.Name, "", len(f.Variants), bump)
			}
			gone[p.ID] = true
			return
		}
		path, _ := draft.PathOf(base.Root, l)
		known[path] = true
		if lastStep(path) != lastStep(p.Layer) {
			add(PartRenamed, Shape, p, "name", lastStep(p.Layer), l.Name, len(f.Variants), contract.Patch)
		}
		if prop := s.Contract.Prop(p.TextProp()); prop != nil && prop.Default() != nil && l.Text != nil && prop.Default().String() != l.Text.Content {
			add(DefaultMoved, Content, p, prop.ID, prop.Default().String(), l.Text.Content, 1, contract.Patch)
		}
	})
	items := map[string]bool{} // lists, whose further items are told by the first
	s.Contract.Walk(func(p, parent *contract.Part) {
		if p.Repeat != "" && parent != nil {
			items[parent.Layer] = true
		}
	})
	for _, path := range draft.LayerPaths(base.Root) {
		if !known[path] && known[pathAbove(path)] && !items[pathAbove(path)] {
			add(PartAdded, Shape, nil, "part", "", path, len(f.Variants), contract.Minor)
		}
	}
}

func pathAbove(path string) string { return path[:max(0, strings.LastIndexByte(path, '/'))] }

func lastStep(path string) string { return path[strings.LastIndexByte(path, '/')+1:] }
