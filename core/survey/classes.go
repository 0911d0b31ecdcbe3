package survey

import (
	"cmp"
	"slices"
)

// class is the shapes that are the same thing.
type class struct {
	id      int
	members []*shape
	model   *shape // the first; others are compared with it
}

// leastLook is how alike shapes of one structure have to stand and be set to be the same thing. Near-copies are as alike as their structures, times their
// looks: of two things held one may be missing, of three one may be another.
const (
	leastLook = 0.62
	leastBoth = 0.64
)

// classes tells shapes that hold others apart, the smallest first, so that what is the same inside counts as the same in what holds it. Shapes of one
// structure are compared by their looks with the first of each class alone; structures with those that share most with them.
func (o *outline) classes() []*class {
	byHeight := [][]*shape{}
	for _, r := range o.roots {
		o.heights(r.top, &byHeight)
	}
	known := &index{posts: map[uint64][]int{}}
	out := []*class{nil} // none is 0
	all, done := 0, 0
	for _, level := range byHeight {
		all += len(level)
	}
	for _, level := range byHeight {
		var order []uint64
		buckets := map[uint64][]*shape{}
		for _, s := range level {
			s.key = o.keyOf(s)
			if buckets[s.key] == nil {
				order = append(order, s.key)
			}
			buckets[s.key] = append(buckets[s.key], s)
		}
		slices.SortStableFunc(order, func(a, b uint64) int { return len(buckets[b]) - len(buckets[a]) })
		for _, key := range order {
			if done += len(buckets[key]); !o.goOn("what is alike", 0.08, 0.43, done, all) {
				return nil
			}
			var own []*class // of this structure
			for _, s := range buckets[key] {
				c := closest(own, s)
				if c == nil {
					if c = o.near(known, out, s); c == nil {
						c = &class{id: len(out), model: s}
						out = append(out, c)
						known.add(c.id, s)
					}
					if len(own) < mostLooks {
						own = append(own, c)
					}
				}
				s.class = c.id
				c.members = append(c.members, s)
			}
		}
		for _, s := range level { // what holds them is told apart by what they are
			s.key = o.hash(-label(s.class), nil)
		}
	}
	return out[1:]
}

// mostLooks bounds how many looks of one structure are told apart.
const mostLooks = 64

// closest finds the class that a shape looks most like; nil for none.
func closest(of []*class, s *shape) (out *class) {
	best := leastLook
	for _, c := range of {
		if l := looksAlike(c.model, s); l >= best {
			best, out = l, c
			if l > 0.95 {
				break
			}
		}
	}
	return out
}

// heights lists shapes by how deep what they hold goes.
func (o *outline) heights(s *shape, out *[][]*shape) int {
	if s.children == nil {
		return 0
	}
	h := 0
	for _, c := range s.children {
		h = max(h, o.heights(c, out)+1)
	}
	for len(*out) < h {
		*out = append(*out, nil)
	}
	(*out)[h-1] = append((*out)[h-1], s)
	return h
}

// keyOf puts what a shape holds in the order of what that is, and gives the key of its structure.
func (o *outline) keyOf(s *shape) uint64 {
	slices.SortStableFunc(s.children, func(a, b *shape) int {
		return cmp.Or(cmp.Compare(a.is, b.is), cmp.Compare(a.key, b.key), cmp.Compare(along(a), along(b)))
	})
	var held []uint64
	s.nodes = 1
	forAlike(s.children, func(c *shape) uint64 { return c.key }, func(c *shape) {
		held = append(held, c.key)
		s.nodes += c.nodes
	})
	return o.hash(s.is, held)
}

// index finds classes by what they hold.
type index struct {
	posts map[uint64][]int
}

// mostPosts bounds the classes noted for one thing held: what nearly everything holds tells nothing.
const mostPosts = 48

// traits are what a shape is found by: what it holds, and what that holds.
func traits(s *shape) (out []uint64) {
	for _, c := range s.children {
		out = append(out, c.key)
		for _, d := range c.children {
			out = append(out, d.key)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func (x *index) add(id int, s *shape) {
	for _, t := range traits(s) {
		if len(x.posts[t]) < mostPosts {
			x.posts[t] = append(x.posts[t], id)
		}
	}
}

// near finds the class of another structure that a shape is a near-copy of; nil for none.
func (o *outline) near(known *index, all []*class, s *shape) *class {
	shared := map[int]int{}
	for _, t := range traits(s) {
		for _, id := range known.posts[t] {
			shared[id]++
		}
	}
	s.walk(func(d *shape) bool { // what a thing holds is not that thing
		delete(shared, d.class)
		return true
	})
	most := 0
	for _, n := range shared {
		most = max(most, n)
	}
	candidates := make([]int, 0, len(shared))
	for id, n := range shared {
		if m := all[id].model; 3*n >= most && 3*min(m.nodes, s.nodes) > max(m.nodes, s.nodes) && min(m.nodes, s.nodes) > 1 {
			candidates = append(candidates, id)
		}
	}
	const mostCompared = 8
	slices.SortFunc(candidates, func(a, b int) int { return cmp.Or(shared[b]-shared[a], a-b) })
	var out *class
	best := leastBoth
	for _, id := range candidates[:min(len(candidates), mostCompared)] {
		l := inCommon(all[id].model, s)
		if l < best {
			continue
		}
		if l *= looksAlike(all[id].model, s); l >= best {
			best, out = l, all[id]
		}
	}
	return out
}

// inCommon says what share of what two shapes hold is the same, and of what they are: of more than two that are alike two count.
func inCommon(a, b *shape) float64 {
	count := map[uint64]int{}
	all, both := 2, 0
	if a.is == b.is {
		both++
	}
	key := func(s *shape) uint64 { return s.key }
	forAlike(a.children, key, func(c *shape) { count[c.key]++; all++ })
	var left []*shape
	forAlike(b.children, key, func(c *shape) {
		if all++; count[c.key] > 0 {
			count[c.key]--
			both++
		} else if c.what == words {
			left = append(left, c)
		}
	})
	// Texts of one size that are bolder or not are nearly the same.
	forAlike(a.children, key, func(c *shape) {
		if count[c.key] == 0 || c.what != words {
			return
		}
		i := slices.IndexFunc(left, func(o *shape) bool { return o.layer.Text.FontSize == c.layer.Text.FontSize })
		if i >= 0 {
			left = slices.Delete(left, i, i+1)
			count[c.key]--
			both++
		}
	})
	return 2 * float64(both) / float64(all)
}
