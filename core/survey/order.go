package survey

import (
	"cmp"
	"slices"

	"cobrik/core/contract"
)

// Kinds of pieces of a plan.
const (
	PieceFamily   = "family"
	PieceFind     = "find"
	PieceContract = "contract"
	PiecePage     = "page"
	PiecePlanned  = "planned"
)

// Piece is one thing of the plan: a component that is there, drawn or wanted, or a page.
type Piece struct {
	ID    string   `json:"id"` // of the family, find or page; the name of a contract or of what is planned
	Name  string   `json:"name"`
	Kind  string   `json:"kind"`
	Level int      `json:"level"` // 0 for what is made of nothing else
	Of    []string `json:"of"`    // ids of what it is made of
	Built bool     `json:"built"` // there is a contract of it
}

// Plan is what is to be built, each piece after those it is made of.
type Plan struct {
	Pieces []Piece    `json:"pieces"`
	Cycles [][]string `json:"cycles"` // ids of pieces that are made of each other
}

// plan says what is made of what: families, finds and contracts of each other, pages of them. Planned names are of parts that no drawing shows yet.
func (o *outline) plan(r *Reading, known Known, planned []string) Plan {
	var pieces []*Piece
	byID := map[string]*Piece{}
	named := map[string]*Piece{}
	add := func(id, name, kind string) *Piece {
		p := &Piece{ID: id, Name: name, Kind: kind, Of: []string{}}
		pieces = append(pieces, p)
		byID[id] = p
		if kind != PiecePage {
			if named[name] == nil {
				named[name] = p
			}
		}
		return p
	}
	for _, f := range o.doc.Families {
		add(f.ID, contract.ComponentName(f.Name), PieceFamily)
	}
	finds := map[*found]string{}
	for i, f := range o.repeated {
		if f.kind == Repeat {
			add(r.Finds[i].ID, r.Finds[i].Name, PieceFind)
		}
		finds[f] = r.Finds[i].ID
	}
	for _, c := range known.Contracts {
		p := named[c.Name]
		if p == nil {
			if p = add(c.Name, c.Name, PieceContract); c.Origin != nil && byID[c.Origin.Family] != nil {
				p = byID[c.Origin.Family]
				pieces = pieces[:len(pieces)-1]
				named[c.Name] = p
			}
		}
		p.Built = true
	}
	for _, c := range known.Contracts {
		for _, part := range c.UsedParts() {
			if of := named[part.Use().Component]; of != nil {
				named[c.Name].uses(of.ID)
			}
		}
	}
	for _, root := range o.roots {
		var p *Piece
		if root.page != nil {
			p = add("page:"+root.page.ID, root.page.Name, PiecePage)
		} else {
			p = byID[root.family.ID]
		}
		o.madeOf(p, root.top, byID, finds)
	}
	for _, name := range planned {
		if name = contract.ComponentName(name); named[name] == nil {
			add(name, name, PiecePlanned)
		}
	}
	return inBuildOrder(pieces, byID)
}

func (p *Piece) uses(id string) {
	if id != p.ID && !slices.Contains(p.Of, id) {
		p.Of = append(p.Of, id)
	}
}

// madeOf notes what a drawing is made of: uses, and copies of finds, which are made of what they hold.
func (o *outline) madeOf(p *Piece, top *shape, byID map[string]*Piece, finds map[*found]string) {
	var walk func(s *shape, of *Piece)
	walk = func(s *shape, of *Piece) {
		if s.what == use && byID[s.layer.Instance.Family] != nil {
			of.uses(s.layer.Instance.Family)
		}
		if s.copyOf != nil && s != top {
			id := finds[s.copyOf]
			if f := s.copyOf.family; f != nil {
				id = f.ID
			}
			if inner := byID[id]; inner != nil {
				of.uses(id)
				if s.copyOf.family == nil {
					of = inner
				} else {
					return // made of what the family is made of
				}
			}
		}
		for _, c := range s.children {
			walk(c, of)
		}
	}
	walk(top, p)
}

// inBuildOrder gives each piece its level, the longest way down to what is made of nothing else, and puts pieces after those they are made of. Those that are made of
// each other are of one level (strongly connected components: Tarjan 1972, "Depth-first search and linear graph algorithms").
func inBuildOrder(pieces []*Piece, byID map[string]*Piece) Plan {
	out := Plan{Pieces: []Piece{}, Cycles: [][]string{}}
	index, low := map[string]int{}, map[string]int{}
	on := map[string]bool{}
	var stack []*Piece
	var visit func(p *Piece)
	visit = func(p *Piece) {
		index[p.ID] = len(index) + 1
		low[p.ID] = index[p.ID]
		stack, on[p.ID] = append(stack, p), true
		for _, id := range p.Of {
			q := byID[id]
			if index[id] == 0 {
				visit(q)
				low[p.ID] = min(low[p.ID], low[id])
			} else if on[id] {
				low[p.ID] = min(low[p.ID], index[id])
			}
		}
		if low[p.ID] != index[p.ID] {
			return
		}
		from := slices.Index(stack, p)
		together := slices.Clone(stack[from:])
		stack = stack[:from]
		level := 0
		for _, m := range together {
			on[m.ID] = false
			for _, id := range m.Of {
				if !slices.Contains(together, byID[id]) {
					level = max(level, byID[id].Level+1)
				}
			}
		}
		var ids []string
		for _, m := range together {
			m.Level = level
			ids = append(ids, m.ID)
		}
		if len(together) > 1 {
			slices.Sort(ids)
			out.Cycles = append(out.Cycles, ids)
		}
	}
	for _, p := range pieces {
		if index[p.ID] == 0 {
			visit(p)
		}
	}
	last := func(p *Piece) int { // pages come after all components
		if p.Kind == PiecePage {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(pieces, func(a, b *Piece) int {
		return cmp.Or(last(a)-last(b), a.Level-b.Level, cmp.Compare(a.Name, b.Name))
	})
	for _, p := range pieces {
		out.Pieces = append(out.Pieces, *p)
	}
	return out
}
