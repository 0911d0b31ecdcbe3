package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
)

// MoveKind says what moved between code and contract.
type MoveKind string

const (
	ValueMoved    MoveKind = "value"
	PropAdded     MoveKind = "prop added"
	PropRemoved   MoveKind = "prop removed"
	PropRenamed   MoveKind = "prop renamed"
	PropRetyped   MoveKind = "prop retyped" // a list is a slot, a text a choice
	OptionAdded   MoveKind = "option added"
	OptionRemoved MoveKind = "option removed"
	OptionRenamed MoveKind = "option renamed"
	PartAdded     MoveKind = "part added"
	PartRemoved   MoveKind = "part removed"
	PartRenamed   MoveKind = "part renamed"
	PartMoved     MoveKind = "part moved" // into another part
	OrderMoved    MoveKind = "order"      // of what stands in a part
	CodeMoved     MoveKind = "code"       // a piece that no contract holds
)

// Side is who moved from what was last agreed, which is what was last written.
type Side string

const (
	CodeSide     Side = "code"
	ContractSide Side = "contract"
	SeveralSides Side = "several" // and not the same way
)

// Move is one thing that code and contract say otherwise than when the code was last written.
type Move struct {
	Key      string         `json:"key" doc:"The same for the same move in every reading"`
	Kind     MoveKind       `json:"kind" enum:"value,prop added,prop removed,prop renamed,prop retyped,option added,option removed,option renamed,part added,part removed,part renamed,part moved,order,code"`
	About    Subject        `json:"about"`
	Name     string         `json:"name" doc:"Of the part or prop"`
	Base     string         `json:"base" doc:"What was last written; empty for nothing"`
	Contract string         `json:"contract"`
	Code     string         `json:"code"`
	Side     Side           `json:"side" enum:"code,contract,several"`
	Facts    int            `json:"facts" doc:"How many facts it stands for"`
	At       *Position      `json:"at,omitempty" doc:"Where the code says it"`
	Unsure   string         `json:"unsure,omitempty" doc:"Why the code may mean it otherwise"`
	Bump     contract.Level `json:"bump" enum:"none,patch,minor,major" doc:"The version bump that taking the code's side asks for"`

	under map[Subject][3]string // what goes with it: base, contract, code
}

// Versions are three readings of one component, aligned: the code as it was last written, as it would be written now, and as it is.
type Versions struct{ Base, Contract, Code *Reading }

// Unsaid leaves purposes out of all versions that a contract does not say, and that code says as they are written for want of any, or not at all: nobody
// moved them. What it gives does the same to another reading of the code.
func (v Versions) Unsaid(known *contract.Contract) func(*Reading) {
	if v.Base == nil || v.Contract == nil || v.Code == nil {
		return func(*Reading) {}
	}
	made := map[string]string{} // by the prop's id; of the component itself when empty
	if known.Purpose == "" {
		made[""] = v.Contract.Contract.Purpose
	}
	known.EachProp(func(id string, p *contract.Prop) {
		if p.Purpose == "" {
			made[id] = ""
		}
	})
	v.Contract.Contract.EachProp(func(id string, p *contract.Prop) {
		if _, unsaid := made[id]; unsaid {
			made[id] = p.Purpose
		}
	})
	quiet := func(r *Reading) {
		if text, unsaid := made[""]; unsaid && r.Contract.Purpose == text {
			r.Contract.Purpose = ""
		}
		r.Contract.EachProp(func(id string, p *contract.Prop) {
			if text, unsaid := made[id]; unsaid && p.Purpose == text {
				p.Purpose = ""
			}
		})
	}
	for _, r := range []*Reading{v.Contract, v.Base, v.Code} {
		quiet(r)
	}
	return quiet
}

// Moves lists what moved, structure first. Parts and props that came, went or were moved are one move each, whatever is said of them.
func (v Versions) Moves() []Move {
	d := differing{v: v, values: map[Subject][3]string{}}
	for i, r := range []*Reading{v.Base, v.Contract, v.Code} {
		for _, f := range r.Facts() {
			three := d.values[f.About]
			three[i] = f.Value
			d.values[f.About] = three
		}
	}
	for i, r := range []*Reading{v.Base, v.Contract, v.Code} {
		for about, text := range r.unread {
			three := d.values[about]
			three[i] += text
			d.values[about] = three
		}
	}
	for about, three := range d.values {
		if three[1] == three[2] {
			delete(d.values, about)
		}
	}
	d.parts()
	d.props()
	d.options()
	for _, about := range d.subjects() {
		d.add(kindOfMove(about), about, d.values[about], 1)
	}
	slices.SortStableFunc(d.moves, func(a, b Move) int { return gravity(a.Kind) - gravity(b.Kind) })
	return d.moves
}

// gravity puts structure before values.
func gravity(k MoveKind) int {
	return slices.Index([]MoveKind{PropRemoved, PropRenamed, PropRetyped, OptionRemoved, OptionRenamed, PropAdded, OptionAdded, PartRemoved, PartAdded, PartMoved, PartRenamed, OrderMoved, ValueMoved, CodeMoved}, k)
}

func kindOfMove(about Subject) MoveKind {
	switch {
	case strings.HasPrefix(about.Property, codeOf):
		return CodeMoved
	case about.Kind == OfPart && about.Property == "class":
		return PartRenamed
	case about.Kind == OfProp && about.Property == "name":
		return PropRenamed
	case about.Kind == OfPart && about.Property == "children":
		return OrderMoved
	}
	return ValueMoved
}

type differing struct {
	v      Versions
	values map[Subject][3]string // base, contract, code; those that agree now are left out
	moves  []Move
}

// subjects lists what is left, in order.
func (d *differing) subjects() []Subject {
	out := make([]Subject, 0, len(d.values))
	for about := range d.values {
		out = append(out, about)
	}
	slices.SortFunc(out, compareSubjects)
	return out
}

func side(three [3]string) Side {
	switch {
	case three[0] == three[1]:
		return CodeSide
	case three[0] == three[2]:
		return ContractSide
	}
	return SeveralSides
}

func (d *differing) add(kind MoveKind, about Subject, three [3]string, facts int) {
	m := Move{Kind: kind, About: about, Base: three[0], Contract: three[1], Code: three[2], Side: side(three), Facts: facts, Bump: d.bumpOf(kind, about)}
	m.Key = string(kind) + " " + about.String()
	m.Name = d.nameOf(about)
	places := []Subject{about}
	switch about.Kind { // else where the thing itself is
	case OfProp:
		places = append(places, ofProp(about.ID, "type"))
	case OfPart:
		places = append(places, ofPart(about.ID, "element"))
	}
	for _, s := range places {
		if at, ok := d.v.Code.Places[s]; ok {
			m.At = &at
			break
		}
	}
	m.Unsure = d.v.Code.Unsure[about]
	d.moves = append(d.moves, m)
}

func (d *differing) nameOf(about Subject) string {
	for _, r := range []*Reading{d.v.Contract, d.v.Code, d.v.Base} {
		switch about.Kind {
		case OfPart:
			if p := r.Contract.Part(about.ID); p != nil {
				return p.Name
			}
		case OfProp:
			if p := r.Contract.Prop(about.ID); p != nil {
				return p.Name
			}
		}
	}
	return about.ID
}

// bumpOf gives the version bump that a move asks for where it comes to be in a release (Semantic Versioning 2.0.0).
func (d *differing) bumpOf(kind MoveKind, about Subject) contract.Level {
	switch kind {
	case PropRemoved, PropRenamed, PropRetyped, OptionRemoved, OptionRenamed:
		return contract.Major
	case PropAdded, OptionAdded:
		return contract.Minor
	case ValueMoved:
		if about.Kind == OfProp && slices.Contains([]string{"type", "required", "default"}, about.Property) {
			return d.propBump(about)
		}
	}
	return contract.Patch
}

// propBump asks the kind of a prop what a change of it asks of users.
func (d *differing) propBump(about Subject) contract.Level {
	old, now := d.v.Contract.Contract.Prop(about.ID), d.v.Code.Contract.Prop(about.ID)
	if old == nil || now == nil || old.Kind() != now.Kind() || about.Property == "type" {
		return contract.Major
	}
	changed := *old
	switch about.Property {
	case "required":
		changed.Required = now.Required
	case "default":
		changed.SetDefault(now.Default())
	}
	level := contract.Patch
	for _, c := range changed.Changes(old.Name, *old) {
		level = contract.Highest(level, c.Level)
	}
	return level
}

// take removes what is said of something, and gives how many facts that was.
func (d *differing) take(match func(Subject) bool) (n int) {
	for about := range d.values {
		if match(about) {
			delete(d.values, about)
			n++
		}
	}
	return n
}

// of is true of all that is said of one thing, the items of a list among it.
func of(kind SubjectKind, id string) func(Subject) bool {
	return func(s Subject) bool {
		return s.Kind == kind && (s.ID == id || kind == OfProp && strings.HasPrefix(s.ID, id+"."))
	}
}

// tree is what stands where in a contract.
type tree struct {
	parent   map[string]string
	children map[string][]string
	names    map[string]string
}

func treeOf(c *contract.Contract) tree {
	t := tree{map[string]string{}, map[string][]string{}, map[string]string{}}
	c.Walk(func(p, up *contract.Part) {
		t.names[p.ID] = p.Name
		if up != nil {
			t.parent[p.ID] = up.ID
			t.children[up.ID] = append(t.children[up.ID], p.ID)
		} else {
			t.parent[p.ID] = ""
		}
	})
	return t
}

func (t tree) has(id string) bool { _, ok := t.parent[id]; return ok }

// within tells where a part stands, in words.
func (t tree) within(id string) string {
	if up := t.parent[id]; up != "" {
		return "in " + t.names[up]
	}
	return ""
}

// parts finds parts that came, went, or stand in another.
func (d *differing) parts() {
	trees := [3]tree{treeOf(d.v.Base.Contract), treeOf(d.v.Contract.Contract), treeOf(d.v.Code.Contract)}
	var ids []string
	for _, r := range []*Reading{d.v.Base, d.v.Contract, d.v.Code} {
		r.Contract.Walk(func(p, _ *contract.Part) {
			if !slices.Contains(ids, p.ID) {
				ids = append(ids, p.ID)
			}
		})
	}
	structural := map[string]bool{} // parts that no order is asked of
	for _, id := range ids {
		there := [3]bool{trees[0].has(id), trees[1].has(id), trees[2].has(id)}
		where := [3]string{trees[0].within(id), trees[1].within(id), trees[2].within(id)}
		ups := [3]string{trees[0].parent[id], trees[1].parent[id], trees[2].parent[id]}
		for i, t := range there {
			if t && where[i] == "" {
				where[i] = "the root"
			}
		}
		about := ofPart(id, "")
		switch {
		case there[1] == there[2] && ups[1] == ups[2]:
			if !there[1] { // gone in both
				d.take(of(OfPart, id))
			}
			continue
		case there[1] != there[2]:
			structural[id] = true
			up := trees[2].parent[id]
			if there[1] {
				up = trees[1].parent[id]
			}
			inner := up != "" && (trees[1].has(up) != trees[2].has(up)) // it came or went with the part it stands in
			n := d.take(of(OfPart, id))
			if inner {
				continue
			}
			kind := PartAdded
			if there[1] && side([3]string{where[0], where[1], where[2]}) != ContractSide || !there[1] && there[0] {
				kind = PartRemoved
			}
			d.add(kind, about, where, max(n, 1))
		default:
			structural[id] = true
			d.add(PartMoved, about, where, 1)
		}
	}
	for about, three := range d.values {
		if about.Kind != OfPart || about.Property != "children" {
			continue
		}
		var orders [3]string
		for i := range three {
			orders[i] = strings.Join(slices.DeleteFunc(slices.Clone(trees[i].children[about.ID]), func(id string) bool { return structural[id] }), " ")
		}
		if orders[1] == orders[2] {
			delete(d.values, about)
		} else {
			d.values[about] = orders
		}
	}
	// what a use is given by parts that came or went is said by them
	d.take(func(s Subject) bool {
		if s.Kind != OfPart || !strings.HasPrefix(s.Property, "given ") {
			return false
		}
		three := d.values[s]
		words := append(strings.Fields(three[1]), strings.Fields(three[2])...)
		return len(words) > 0 && !slices.ContainsFunc(words, func(id string) bool { return !slices.Contains(ids, id) }) && slices.ContainsFunc(words, func(id string) bool { return structural[id] })
	})
}

// props finds props that came and went.
func (d *differing) props() {
	var ids []string
	for _, r := range []*Reading{d.v.Base, d.v.Contract, d.v.Code} {
		for _, p := range r.Contract.Props {
			if !slices.Contains(ids, p.ID) {
				ids = append(ids, p.ID)
			}
		}
	}
	typed := func(r *Reading, id string) string {
		if p := r.Contract.Prop(id); p != nil {
			return p.Type.TypeScript()
		}
		return ""
	}
	for _, id := range ids {
		three := [3]string{typed(d.v.Base, id), typed(d.v.Contract, id), typed(d.v.Code, id)}
		if (three[1] == "") == (three[2] == "") {
			if three[1] == "" {
				d.take(of(OfProp, id))
			} else {
				d.retyped(id)
			}
			continue
		}
		n := d.take(of(OfProp, id))
		kind := PropAdded
		if side(three) == CodeSide && three[2] == "" || side(three) == ContractSide && three[1] == "" || side(three) == SeveralSides && three[2] == "" {
			kind = PropRemoved
		}
		d.add(kind, ofProp(id, ""), three, max(n, 1))
	}
}

// retyped tells as one move that a prop is of another kind: with what is said of its values, its items, and of where parts show it.
func (d *differing) retyped(id string) {
	three, moved := d.values[ofProp(id, "type")]
	if !moved || three[1] == "" || three[2] == "" {
		return
	}
	shows := func(text string) bool { return text == id || text == "{"+id+"}" }
	under := map[Subject][3]string{}
	for about, said := range d.values {
		own := of(OfProp, id)(about) && (about.ID != id || about.Property != "name" && about.Property != "deprecated")
		if own || about.Kind == OfPart && slices.Contains([]string{"repeat", "content"}, about.Property) && (shows(said[1]) || shows(said[2])) {
			under[about] = said
		}
	}
	for about := range under {
		delete(d.values, about)
	}
	d.add(PropRetyped, ofProp(id, "type"), three, len(under))
	d.moves[len(d.moves)-1].under = under
}

const optionOf = "option "

// options finds options that came, went, or have another name: under which the same is said as was under the old one.
func (d *differing) options() {
	type change struct{ gone, came []Subject }
	byProp := map[string]*change{}
	for _, about := range d.subjects() {
		if about.Kind != OfProp || !strings.HasPrefix(about.Property, optionOf) {
			continue
		}
		if byProp[about.ID] == nil {
			byProp[about.ID] = &change{}
		}
		if three := d.values[about]; side(three) == CodeSide && three[2] == "" {
			byProp[about.ID].gone = append(byProp[about.ID].gone, about)
		} else if side(three) == CodeSide {
			byProp[about.ID].came = append(byProp[about.ID].came, about)
		}
	}
	for id, c := range byProp {
		for _, was := range c.gone {
			for _, now := range c.came {
				old, fresh := strings.TrimPrefix(was.Property, optionOf), strings.TrimPrefix(now.Property, optionOf)
				same := d.sameUnder(id, old, fresh)
				if same == nil || d.values[now] == [3]string{} {
					continue
				}
				for _, s := range same {
					delete(d.values, s)
				}
				delete(d.values, was)
				delete(d.values, now)
				d.add(OptionRenamed, Subject{Kind: OfProp, ID: id, Property: was.Property}, [3]string{old, old, fresh}, 2+len(same))
				break
			}
		}
	}
	for _, about := range d.subjects() {
		if about.Kind == OfProp && strings.HasPrefix(about.Property, optionOf) {
			three := d.values[about]
			delete(d.values, about)
			kind := OptionAdded
			if side(three) == CodeSide && three[2] == "" || side(three) == ContractSide && three[1] == "" {
				kind = OptionRemoved
			}
			d.add(kind, about, three, 1)
		}
	}
}

// sameUnder gives what is said under an option, where all of it is said in the code under another; nil where not, or where nothing is.
func (d *differing) sameUnder(prop, old, fresh string) (out []Subject) {
	under := func(s Subject, option string) bool {
		when, err := contract.ParseWhen(s.When)
		return err == nil && s.When != "" && when.Prop(prop) == contract.OptionValue(option)
	}
	count := 0
	for about, three := range d.values {
		switch {
		case under(about, old) && three[2] == "":
			when, _ := contract.ParseWhen(about.When)
			to := about
			to.When = when.With(contract.PropIs{Prop: prop, Value: contract.OptionValue(fresh)}).Key()
			if d.values[to][2] != three[0] {
				return nil
			}
			out = append(out, about, to)
			count++
		case under(about, old):
			return nil
		}
	}
	if q := d.v.Base.Contract.Prop(prop); count == 0 && q != nil && q.Default() == contract.OptionValue(old) { // nothing is said under the default
		if now := d.v.Code.Contract.Prop(prop); now != nil && now.Default() == contract.OptionValue(fresh) {
			return []Subject{ofProp(prop, "default")}
		}
	}
	return out
}
