package survey

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/design"
)

// spot is one place in what all copies of a find have in common, and what stands there in each.
type spot struct {
	cells    []*shape // by copy; nil where nothing is there
	around   *spot
	model    *shape // of the copy that stands for all, or the first that has it
	children []*spot
	items    *spot   // of a list: one item for all, whose cells are every copy's items one after another
	of       [][]int // of a list: which of those each copy has
	unlike   bool    // what it holds in one copy has nothing to do with what it holds in another
}

// align lays copies over each other: what is the same thing in them becomes one spot.
func align(cells []*shape, around *spot) *spot {
	s := &spot{cells: cells, around: around, model: modelOf(cells)}
	if s.model.children == nil && !slices.ContainsFunc(cells, func(c *shape) bool { return c != nil && c.children != nil }) {
		return s
	}
	if s.unlike = around != nil && s.holdsUnlike(); s.unlike {
		return s
	}
	repeated := s.lists()
	columns := s.columns(repeated)
	for _, column := range columns {
		s.children = append(s.children, align(column, s))
	}
	s.children = append(s.children, s.listSpots(repeated)...)
	return s
}

// modelOf gives the copy that stands for all: of the structure that is most often there, the largest of those.
func modelOf(cells []*shape) (out *shape) {
	count := map[uint64]int{}
	for _, c := range cells {
		if c != nil {
			count[c.exact]++
		}
	}
	for _, c := range cells {
		if c != nil && (out == nil || count[c.exact] > count[out.exact] || count[c.exact] == count[out.exact] && c.exact != out.exact && c.nodes > out.nodes) {
			out = c
		}
	}
	return out
}

// holdsUnlike tells whether copies hold things of no likeness here.
func (s *spot) holdsUnlike() bool {
	all, matched := 0, 0
	for _, c := range s.cells {
		if c == nil || c == s.model {
			continue
		}
		if c.key == s.model.key {
			return false
		}
		for _, m := range matches(s.model, c) {
			all++
			if m.a >= 0 && m.b >= 0 && (s.model.children[m.a].key == c.children[m.b].key || s.model.children[m.a].is == c.children[m.b].is) {
				matched++
			}
		}
	}
	return all > 0 && float64(matched) < 0.34*float64(all)
}

// lists tells which of the things copies hold are items of a list, by their keys: of some copies there are more than of others, or there are three or more in a
// line everywhere.
func (s *spot) lists() map[uint64]bool {
	out := map[uint64]bool{}
	type run struct {
		least, most int
		of          []*shape // of the copy that has most
	}
	runs := map[uint64]*run{}
	copies := 0
	for _, c := range s.cells {
		if c == nil {
			continue
		}
		for from, i := 0, 1; i <= len(c.children); i++ {
			if i < len(c.children) && c.children[i].key == c.children[from].key {
				continue
			}
			k, n := c.children[from].key, i-from
			if runs[k] == nil {
				runs[k] = &run{least: n}
				if copies > 0 {
					runs[k].least = 0
				}
			}
			r := runs[k]
			if r.least = min(r.least, n); n > r.most {
				r.most, r.of = n, c.children[from:i]
			}
			from = i
		}
		copies++
		for k, r := range runs {
			if !slices.ContainsFunc(c.children, func(d *shape) bool { return d.key == k }) {
				r.least = 0
			}
		}
	}
	for k, r := range runs {
		composite := r.of[0].children != nil
		switch {
		case r.most < 2 || r.most < 3 && (!composite || r.least == r.most && !oneRole(r.of) || r.least == 0):
		case !composite && r.of[0].what != words && r.of[0].what != drawing && r.of[0].what != picture && r.of[0].what != use && r.least == r.most:
		case listed(r.of, r.least != r.most || composite):
			out[k] = true
		}
	}
	return out
}

// oneRole tells whether things are named alike.
func oneRole(list []*shape) bool {
	role := list[0].role()
	return role != "" && !slices.ContainsFunc(list, func(s *shape) bool { return s.role() != role })
}

// listed tells whether things stand as items of a list do: in a row, or, where that may be, in a column or a grid.
func listed(items []*shape, may bool) bool {
	row, column := true, true
	for _, c := range items {
		row = row && edges(c.box.Y, c.box.Height, items[0].box.Y, items[0].box.Height)
		column = column && edges(c.box.X, c.box.Width, items[0].box.X, items[0].box.Width)
	}
	if row && items[0].what == words && items[0].children == nil && !may {
		return evenGaps(items) // columns of a table stand at even places, links at even distances
	}
	if row || column && may {
		return true
	}
	return may && len(lined(slices.Clone(items), false)) == 1
}

// evenGaps tells whether things in a row leave the same room between each other.
func evenGaps(items []*shape) bool {
	sorted := slices.SortedFunc(slices.Values(items), func(a, b *shape) int { return cmp.Compare(a.box.X, b.box.X) })
	least, most := math.Inf(1), math.Inf(-1)
	for i, c := range sorted[1:] {
		gap := c.box.X - sorted[i].box.X - sorted[i].box.Width
		least, most = min(least, gap), max(most, gap)
	}
	return most-least <= near
}

// columns lays what copies hold beside each other, but for the items of lists: a column a thing.
func (s *spot) columns(repeated map[uint64]bool) (out [][]*shape) {
	type column struct {
		cells []*shape
		first *shape
		of    *shape // the copy that the first is in
	}
	var columns []*column
	add := func(c, of *shape, i int) {
		n := &column{cells: make([]*shape, len(s.cells)), first: c, of: of}
		n.cells[i] = c
		columns = append(columns, n)
	}
	bare := func(c *shape) *shape { // without the lists' items
		if len(repeated) == 0 {
			return c
		}
		b := *c
		b.children = slices.DeleteFunc(slices.Clone(c.children), func(d *shape) bool { return repeated[d.key] })
		return &b
	}
	model := bare(s.model)
	for _, c := range model.children {
		columns = append(columns, &column{cells: make([]*shape, len(s.cells)), first: c, of: s.model})
	}
	for i, cell := range s.cells {
		if cell == nil {
			continue
		}
		c := bare(cell)
		if cell == s.model {
			for j, d := range model.children {
				columns[j].cells[i] = d
			}
			continue
		}
		for _, m := range matches(model, c) {
			switch {
			case m.b < 0:
			case m.a >= 0:
				columns[m.a].cells[i] = c.children[m.b]
			default:
				d := c.children[m.b]
				var best *column
				most := 1.9
				for _, k := range columns[len(model.children):] {
					if k.cells[i] == nil {
						if score := corresponds(k.first, d, k.of, cell); score > most {
							most, best = score, k
						}
					}
				}
				if best != nil {
					best.cells[i] = d
				} else {
					add(d, cell, i)
				}
			}
		}
	}
	for _, k := range columns {
		out = append(out, k.cells)
	}
	return out
}

// listSpots makes a spot of each list.
func (s *spot) listSpots(repeated map[uint64]bool) (out []*spot) {
	var order []uint64
	for _, c := range s.cells {
		if c == nil {
			continue
		}
		for _, d := range c.children {
			if repeated[d.key] && !slices.Contains(order, d.key) {
				order = append(order, d.key)
			}
		}
	}
	for _, k := range order {
		l := &spot{cells: make([]*shape, len(s.cells)), around: s, of: make([][]int, len(s.cells))}
		var all []*shape
		for i, c := range s.cells {
			if c == nil {
				continue
			}
			var items []*shape
			for _, d := range c.children {
				if d.key == k {
					items = append(items, d)
				}
			}
			sortByPlace(items)
			for _, d := range items {
				if l.cells[i] == nil {
					l.cells[i] = d
				}
				l.of[i] = append(l.of[i], len(all))
				all = append(all, d)
			}
		}
		l.model = modelOf(l.cells)
		l.items = align(all, nil)
		out = append(out, l)
	}
	return out
}

// each visits a spot and those in it, the outer first; not what is in the items of lists.
func (s *spot) each(visit func(*spot)) {
	visit(s)
	for _, c := range s.children {
		c.each(visit)
	}
}

// relative is where a copy's thing stands in what holds it.
func (s *spot) relative(i int) design.Rect {
	c, around := s.cells[i], s.around.cells[i]
	return design.Rect{X: c.box.X - around.box.X, Y: c.box.Y - around.box.Y, Width: c.box.Width, Height: c.box.Height}
}

// overlap tells whether two boxes share most of the smaller one.
func overlap(a, b design.Rect) bool {
	w := min(a.X+a.Width, b.X+b.Width) - max(a.X, b.X)
	h := min(a.Y+a.Height, b.Y+b.Height) - max(a.Y, b.Y)
	return w > 0 && h > 0 && w*h >= 0.5*math.Min(a.Width*a.Height, b.Width*b.Height)
}
