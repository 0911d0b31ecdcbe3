package survey

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
	"cobrik/core/draft"
)

// Prop is one way in which the copies of a find differ, proposed as a prop.
type Prop struct {
	Name    string         `json:"name"`
	Kind    string         `json:"kind"` // as contracts have them
	Layer   string         `json:"layer,omitempty"`
	Default any            `json:"default,omitempty"`  // what the copy that stands for all says
	Options []string       `json:"options,omitempty"`  // of a choice
	Explain []Explained    `json:"explains,omitempty"` // what differs with it
	Items   []Prop         `json:"items,omitempty"`    // of a list's items
	Values  map[string]any `json:"values"`             // by copy; where a thing is not there, none
	Also    []Prop         `json:"also,omitempty"`     // props that became one with it
	Of      string         `json:"of,omitempty"`       // of what a use says: the axis or the layer of its family

	Layers map[string]string `json:"layers"` // by copy, the layer that says it
	place  design.Rect       // in the copy that stands for all
}

// Explained is one difference that a prop stands for.
type Explained struct {
	Layer    string `json:"layer"`    // in the copy that stands for all
	Property string `json:"property"` // of CSS; empty for whether it is there

	Layers map[string]string `json:"layers,omitempty"` // by copy
	Values map[string]string `json:"values,omitempty"` // by copy
}

// proposer reads props off copies that lie over each other.
type proposer struct {
	doc     *design.Document
	ids     []string // of the copies, or of a list's items
	names   map[string]bool
	props   []Prop
	traits  []trait
	largest float64 // size of the largest text
}

// trait is one property in which copies differ, with what each has; "" where the thing is not there.
type trait struct {
	at       *spot
	layer    string // in the copy that stands for all
	property string
	values   []string
	lengths  bool
}

// propose gives the props of copies.
func propose(doc *design.Document, ids []string, pattern *spot) []Prop {
	p := &proposer{doc: doc, ids: ids, names: map[string]bool{}}
	p.read(pattern)
	return p.written()
}

// read goes through the spots and notes what differs.
func (p *proposer) read(pattern *spot) {
	pattern.each(func(s *spot) {
		if s.model.what == words {
			p.largest = max(p.largest, s.model.layer.Text.FontSize)
		}
	})
	swapped := p.swapped(pattern)
	pattern.each(func(s *spot) {
		if s.around != nil && !swapped[s] {
			p.shown(s)
		}
		p.content(s)
		p.look(s)
	})
}

// written gives the props in the order in which they are read.
func (p *proposer) written() []Prop {
	p.choices()
	slices.SortStableFunc(p.props, func(a, b Prop) int {
		return cmp.Or(cmp.Compare(math.Round(a.place.Y/near), math.Round(b.place.Y/near)), cmp.Compare(a.place.X, b.place.X))
	})
	return p.props
}

// add proposes a prop of what a spot says in each copy; the name is the spot's, with a suffix where that is taken.
func (p *proposer) add(s *spot, name, suffix string, kind contract.Kind, value func(i int) any) *Prop {
	name = contract.Free(name, suffix, func(n string) bool { return contract.IsReserved(n) || p.names[strings.ToLower(n)] })
	p.names[strings.ToLower(name)] = true
	out := Prop{Name: name, Kind: string(kind), Layer: s.model.id(), Values: map[string]any{}, Layers: map[string]string{}, place: s.model.box}
	for i, c := range s.cells {
		if v := value(i); v != nil {
			out.Values[p.ids[i]] = v
			if out.Default == nil || c == s.model {
				out.Default = v
			}
		}
		if c != nil {
			out.Layers[p.ids[i]] = c.id()
		}
	}
	p.props = append(p.props, out)
	return &p.props[len(p.props)-1]
}

// name proposes the name of what a spot shows: what most copies call it, else what it is.
func (p *proposer) name(s *spot) string {
	count := map[string]int{}
	best := ""
	for _, c := range s.cells {
		if c == nil {
			continue
		}
		if r := c.role(); r != "" {
			if count[r]++; count[r] > count[best] {
				best = r
			}
		}
	}
	fallback := "part"
	switch s.model.what {
	case words:
		fallback = "text"
		if s.model.layer.Text.FontSize == p.largest {
			fallback = "title"
		}
	case drawing:
		fallback = "icon"
		if !isIcon(s.model) {
			fallback = "picture"
		}
	case picture:
		fallback = "picture"
	case use:
		fallback = "use"
		if f := p.doc.Family(s.model.layer.Instance.Family); f != nil {
			fallback = contract.Identifier(f.Name, "use")
		}
	}
	return contract.Identifier(best, fallback)
}

// slotName proposes the name of a place where copies show unlike things: what most of them call what is there.
func (p *proposer) slotName(s *spot) string {
	count := map[string]int{}
	for _, c := range s.cells {
		if c == nil {
			continue
		}
		if r := c.role(); r != "" {
			if count[r]++; 2*count[r] > len(s.cells) {
				return contract.Identifier(r, "content")
			}
		}
	}
	return "content"
}

// shown proposes a flag where a thing is in some copies alone.
func (p *proposer) shown(s *spot) {
	there := 0
	for i, c := range s.cells {
		if s.around.cells[i] == nil {
			continue // with what is around it
		}
		if c != nil {
			there++
		} else {
			there |= 1 << 30
		}
	}
	if there < 1<<30 || s.of != nil { // a list of none is a list
		return
	}
	made := p.add(s, "show"+contract.Capitalized(p.name(s)), "Flag", contract.FlagKind, func(i int) any {
		if s.around.cells[i] == nil {
			return nil
		}
		return s.cells[i] != nil
	})
	made.Explain = []Explained{{Layer: s.model.id(), Layers: made.Layers}}
	made.Default = s.around.model == nil || slices.Contains(s.cells, nil) && s.at(s.around.model) != nil
}

// at gives what a spot has in the copy whose thing around it is given.
func (s *spot) at(around *shape) *shape {
	for i, c := range s.around.cells {
		if c == around {
			return s.cells[i]
		}
	}
	return nil
}

// swapped proposes slots: of places where copies show things of no likeness.
func (p *proposer) swapped(pattern *spot) map[*spot]bool {
	out := map[*spot]bool{}
	pattern.each(func(s *spot) {
		for a, one := range s.children {
			for _, other := range s.children[a+1:] {
				if !out[one] && !out[other] && one.of == nil && other.of == nil && one.excludes(other) {
					out[one], out[other] = true, true
					joined := &spot{cells: slices.Clone(one.cells), around: s, model: one.model}
					for i, c := range other.cells {
						if c != nil {
							joined.cells[i] = c
						}
					}
					p.add(joined, p.slotName(joined), "Slot", contract.SlotKind, func(i int) any { return idOf(joined.cells[i]) })
				}
			}
		}
	})
	return out
}

func idOf(s *shape) any {
	if s == nil {
		return nil
	}
	return s.id()
}

// excludes tells whether each copy has one of two things, and never both, in the same place.
func (s *spot) excludes(other *spot) bool {
	var mine, theirs []design.Rect
	for i := range s.cells {
		if s.around.cells[i] == nil {
			continue
		}
		switch {
		case (s.cells[i] == nil) == (other.cells[i] == nil):
			return false
		case s.cells[i] != nil:
			mine = append(mine, s.relative(i))
		default:
			theirs = append(theirs, other.relative(i))
		}
	}
	return len(mine) > 0 && len(theirs) > 0 && overlap(mine[0], theirs[0])
}

// list proposes a list of the items that copies hold, each with what differs among all of them.
func (p *proposer) list(s *spot) {
	ids := make([]string, len(s.items.cells))
	for i, c := range s.items.cells {
		ids[i] = c.id()
	}
	inner := &proposer{doc: p.doc, ids: ids, names: map[string]bool{}}
	inner.read(s.items)
	inner.traits = slices.DeleteFunc(inner.traits, func(t trait) bool {
		all, ok := t.ofCopies(s)
		if ok { // what is the same for all items of a copy is the copy's
			p.traits = append(p.traits, all)
		}
		return ok
	})
	items := inner.written()
	name := "items"
	if n := p.name(&spot{cells: s.items.cells, model: s.items.model}); s.items.model.role() != "" {
		name = draft.Plural(n)
	}
	made := p.add(s, name, "List", contract.ListKind, func(i int) any {
		out := []any{}
		for _, j := range s.of[i] {
			out = append(out, itemOf(items, ids[j]))
		}
		return out
	})
	made.Items = items
}

// ofCopies gives a trait of items as one of the copies that hold them; false where items of one copy differ.
func (t trait) ofCopies(list *spot) (trait, bool) {
	out := trait{at: list, layer: t.layer, property: t.property, lengths: t.lengths, values: make([]string, len(list.of))}
	for i, items := range list.of {
		for _, j := range items {
			if v := t.values[j]; out.values[i] == "" {
				out.values[i] = v
			} else if v != "" && v != out.values[i] {
				return trait{}, false
			}
		}
	}
	return out, true
}

// itemOf gives one item: what its only prop says, or all by their names.
func itemOf(items []Prop, id string) any {
	if len(items) == 1 {
		return items[0].Values[id]
	}
	out := map[string]any{}
	for _, p := range items {
		if v := p.Values[id]; v != nil {
			out[p.Name] = v
		}
	}
	return out
}
