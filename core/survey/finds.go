package survey

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/design"
)

// Kinds of finds.
const (
	Repeat = "repeat" // the same thing two times or more, that nobody made a family of
	List   = "list"   // layers of one look in a row, a column or a grid
	Copies = "copies" // of a family, without being uses of it
)

// Find is one thing that repeats.
type Find struct {
	ID       string   `json:"id"` // its kind and the first copy's
	Kind     string   `json:"kind"`
	Name     string   `json:"name"`             // proposed, as a component's
	Family   string   `json:"family,omitempty"` // id of the family that copies are of
	Inside   string   `json:"inside,omitempty"` // id of the find that all of its copies are in
	Members  []Member `json:"members"`          // in the order of pages, then as they are read
	Likeness float64  `json:"likeness"`         // of the copy that is least like the one that stands for all, 0 to 1
	Props    []Prop   `json:"props"`
	Nearest  []Near   `json:"nearest"`
}

// Member is one copy.
type Member struct {
	ID       string      `json:"id"`               // of the layer that holds it, or of the first of its loose layers
	Page     string      `json:"page,omitempty"`   // id
	Family   string      `json:"family,omitempty"` // id of the family it is drawn in, where that is no page
	Layers   []string    `json:"layers"`           // ids of the layers it is made of; of one that holds others that alone
	Box      design.Rect `json:"box"`              // on its page or in its variant, px
	Likeness float64     `json:"likeness"`         // to the copy that stands for all
	Edits    []Edit      `json:"edits,omitempty"`  // from that one to this
	Joined   bool        `json:"joined,omitempty"` // people said that it is one of the copies
	Made     []string    `json:"made,omitempty"`   // ids of layers of which people said that they are one thing
}

// found is a class that is told as a find.
type found struct {
	kind    string
	family  *design.Family
	members []*shape
	inside  *found
}

// finds tells which classes make a component: not every fragment of one that is found already, not what does no more than place others.
func (o *outline) finds(classes []*class) []*found {
	order := slices.Clone(classes)
	slices.SortStableFunc(order, func(a, b *class) int { return b.model.nodes - a.model.nodes })
	var out []*found
	for _, c := range order {
		f := o.ofClass(c)
		if f == nil || f.kind == Repeat && !isMade(f.members) && (placesOnly(f.members) || fragment(f)) {
			continue
		}
		for _, s := range f.members {
			s.copyOf = f
		}
		out = append(out, f)
	}
	return append(out, o.lists()...)
}

// ofClass gives a class as a find; nil where nothing repeats.
func (o *outline) ofClass(c *class) *found {
	f := &found{kind: Repeat}
	variants := map[*design.Family][]*shape{}
	for _, s := range c.members {
		switch r := s.root; {
		case r.page != nil:
			if !covers(s, r.page) {
				f.members = append(f.members, s)
			}
		case s == r.top:
			variants[r.family] = append(variants[r.family], s)
		case r.variant == r.family.Default(): // the others show the same parts again
			f.members = append(f.members, s)
		}
	}
	for _, family := range o.doc.Families {
		copied := slices.DeleteFunc(slices.Clone(f.members), func(s *shape) bool {
			return s.root.family == family || !s.joined && !slices.ContainsFunc(variants[family], func(v *shape) bool { return isCopyOf(s, v) })
		})
		if len(copied) > 0 && 2*len(copied) >= len(f.members) {
			f.kind, f.family, f.members = Copies, family, copied
			break
		}
	}
	if len(f.members) == 0 || f.kind == Repeat && len(f.members) < 2 && !isMade(f.members) {
		return nil
	}
	sortByPlace(f.members)
	return f
}

// isMade tells whether people said of one that it is one thing: once is enough then.
func isMade(members []*shape) bool {
	return slices.ContainsFunc(members, func(s *shape) bool { return s.made != nil })
}

// covers tells whether a shape is nearly all of its page.
func covers(s *shape, p *design.Page) bool {
	return s.box.Width*s.box.Height >= 0.9*p.Width*p.Height
}

// sortByPlace puts shapes in the order of their pages, then as they are read: row by row.
func sortByPlace(list []*shape) {
	slices.SortStableFunc(list, func(a, b *shape) int {
		return cmp.Or(a.root.order-b.root.order, cmp.Compare(a.box.Y+a.box.Height/2, b.box.Y+b.box.Height/2))
	})
	for from := 0; from < len(list); {
		first := list[from]
		to := from + 1
		for to < len(list) && list[to].root == first.root && list[to].box.Y < first.box.Y+first.box.Height && list[to].box.Y+list[to].box.Height/2 <= first.box.Y+first.box.Height {
			to++
		}
		slices.SortStableFunc(list[from:to], func(a, b *shape) int { return cmp.Compare(a.box.X, b.box.X) })
		from = to
	}
}

// placesOnly tells whether shapes do nothing but place others that are the same thing: rows of cards, or
// a chart's bars, are no component of their own.
func placesOnly(members []*shape) bool {
	return !slices.ContainsFunc(members, func(s *shape) bool {
		first := s.children[0]
		if s.layer != nil && paints(s.layer) || len(s.children) < 2 || first.class == 0 && (first.what != block || len(s.children) < 3) {
			return true
		}
		return slices.ContainsFunc(s.children, func(c *shape) bool { return c.class != first.class || c.is != first.is })
	})
}

// fragment tells whether every copy is in a copy of one other find, once at most; where there are more in each, it notes which it is in.
func fragment(f *found) bool {
	var in *found
	times := map[*shape]int{}
	for _, s := range f.members {
		around := copyAround(s)
		if around == nil || in != nil && around.copyOf != in {
			return false
		}
		in = around.copyOf
		times[around]++
	}
	for _, n := range times {
		if n > 1 {
			f.inside = in
			return false
		}
	}
	return true
}

// copyAround finds the innermost copy of a find that a shape is in; nil for none.
func copyAround(s *shape) *shape {
	for p := s.parent; p != nil; p = p.parent {
		if p.copyOf != nil {
			return p
		}
	}
	return nil
}

// lists finds layers that hold nothing and stand beside each other again and again, outside of what is found already.
func (o *outline) lists() (out []*found) {
	for _, r := range o.roots {
		if r.page == nil {
			continue
		}
		r.top.walk(func(s *shape) bool {
			if s.copyOf != nil {
				return false
			}
			var leaves []*shape
			for _, c := range s.children {
				if c.children == nil && c.what != use && c.what != place {
					leaves = append(leaves, c)
				}
			}
			for _, run := range rows(leaves) {
				same := slices.IndexFunc(out, func(f *found) bool { // in a container of the same kind
					other := f.members[0]
					return s.class > 0 && other.parent.class == s.class && other.root == run[0].root && other.is == run[0].is
				})
				if same < 0 {
					out = append(out, &found{kind: List, members: run})
				} else {
					out[same].members = append(out[same].members, run...)
				}
			}
			return true
		})
	}
	for _, f := range out {
		sortByPlace(f.members)
	}
	return out
}

// rows finds runs of leaves of one look.
func rows(leaves []*shape) (out [][]*shape) {
	if len(leaves) < 3 {
		return nil
	}
	paths := slices.DeleteFunc(slices.Clone(leaves), func(s *shape) bool { return s.what != drawing })
	rest := slices.DeleteFunc(slices.Clone(leaves), func(s *shape) bool { return s.what == drawing })
	groups := [][]*shape{}
	groups = append(groups, bySize(paths)...)
	if len(rest) > 0 {
		l := looksOf(rest)
		first := len(groups)
		groups = append(groups, make([][]*shape, l.count)...)
		for i, s := range rest {
			groups[first+l.of[i]] = append(groups[first+l.of[i]], s)
		}
	}
	for _, g := range groups {
		out = append(out, lined(g, g[0].what == drawing)...)
	}
	return out
}

// mostUnlike is how many times larger than another a picture of one gallery may be: a dot is an icon, too.
const mostUnlike = 10

// bySize parts drawings into those of about one size, by their larger sides.
func bySize(list []*shape) (out [][]*shape) {
	if len(list) == 0 {
		return nil
	}
	side := func(s *shape) float64 { return max(s.box.Width, s.box.Height, 1) }
	slices.SortStableFunc(list, func(a, b *shape) int { return cmp.Compare(side(a), side(b)) })
	from := 0
	for i := range list {
		if side(list[i]) > mostUnlike*side(list[from]) {
			out = append(out, list[from:i:i])
			from = i
		}
	}
	return append(out, list[from:])
}

// lined parts things of one look into rows and columns of three or more at even distances, and joins those that share one into grids. Things may lie in cells: each
// as it likes, in rows and columns that do not overlap.
func lined(list []*shape, cells bool) (out [][]*shape) {
	if len(list) < 3 {
		return nil
	}
	joined := make([]int, len(list))
	for i := range joined {
		joined[i] = i
	}
	var find func(i int) int
	find = func(i int) int {
		if joined[i] != i {
			joined[i] = find(joined[i])
		}
		return joined[i]
	}
	for _, down := range []bool{false, true} {
		for _, band := range bands(list, down, cells) {
			if even(list, band, down, cells) {
				for _, i := range band[1:] {
					joined[find(i)] = find(band[0])
				}
			}
		}
	}
	at := map[int]int{}
	for i, s := range list {
		r := find(i)
		if _, ok := at[r]; !ok {
			at[r] = len(out)
			out = append(out, nil)
		}
		out[at[r]] = append(out[at[r]], s)
	}
	return slices.DeleteFunc(out, func(run []*shape) bool { return len(run) < 3 })
}

// bands parts things, by index, into rows, or columns when they go down: each overlaps the first of its band by half, or, in cells, any of it.
func bands(list []*shape, down, cells bool) (out [][]int) {
	side := func(s *shape) (float64, float64) {
		if down {
			return s.box.X, s.box.Width
		}
		return s.box.Y, s.box.Height
	}
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, w := side(list[a])
		y, h := side(list[b])
		return cmp.Compare(x+w/2, y+h/2)
	})
	if cells {
		slices.SortStableFunc(order, func(a, b int) int {
			x, _ := side(list[a])
			y, _ := side(list[b])
			return cmp.Compare(x, y)
		})
		end := math.Inf(-1)
		for _, i := range order {
			at, size := side(list[i])
			if at >= end {
				out = append(out, nil)
			}
			out[len(out)-1] = append(out[len(out)-1], i)
			end = max(end, at+size)
		}
		return out
	}
	for _, i := range order {
		at, size := side(list[i])
		if n := len(out); n > 0 {
			first, firstSize := side(list[out[n-1][0]])
			if min(at+size, first+firstSize)-max(at, first) >= 0.5*min(size, firstSize)-0.01 || edges(at, size, first, firstSize) {
				out[n-1] = append(out[n-1], i)
				continue
			}
		}
		out = append(out, []int{i})
	}
	return out
}

// edges tells whether two things share a side or the middle on one axis.
func edges(at, size, other, otherSize float64) bool {
	return math.Abs(at-other) <= 3 || math.Abs(at+size-other-otherSize) <= 3 || math.Abs(at+size/2-other-otherSize/2) <= 3
}

// even tells whether the things of a band share a side or the middle, or lie in cells of one size, and stand at even distances: texts by the gaps
// between them in a row, all else from middle to middle.
func even(list []*shape, band []int, down, cells bool) bool {
	if len(band) < 3 {
		return false
	}
	along := func(s *shape) (float64, float64) {
		if down {
			return s.box.Y, s.box.Height
		}
		return s.box.X, s.box.Width
	}
	across := func(s *shape) (float64, float64) {
		if down {
			return s.box.X, s.box.Width
		}
		return s.box.Y, s.box.Height
	}
	slices.SortStableFunc(band, func(a, b int) int {
		x, _ := along(list[a])
		y, _ := along(list[b])
		return cmp.Compare(x, y)
	})
	var gaps, steps, starts []float64
	unlike := 0.0
	for n, i := range band {
		at, size := along(list[i])
		if !cells {
			a, s := across(list[band[0]])
			b, t := across(list[i])
			if !edges(a, s, b, t) {
				return false
			}
		}
		if n > 0 {
			before, beforeSize := along(list[band[n-1]])
			gaps = append(gaps, at-before-beforeSize)
			steps = append(steps, at+size/2-before-beforeSize/2)
			starts = append(starts, at-before)
			unlike = max(unlike, math.Abs(size-beforeSize))
			if at < before+beforeSize-near {
				return false
			}
		}
	}
	tolerance := 4.0
	if cells { // the gaps are as unlike as the things are
		tolerance += unlike
	}
	spread := func(of []float64) float64 { return slices.Max(of) - slices.Min(of) }
	if list[band[0]].what == words && down && unlike > near { // paragraphs are no list
		return false
	}
	return spread(steps) <= tolerance || spread(gaps) <= tolerance || spread(starts) <= tolerance
}
