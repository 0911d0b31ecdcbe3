package survey

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/design"
)

// Things are gathered that stand loose beside each other: what lies on a box with it, then what stands by another thing in the same way again and
// again.

// gather makes shapes of loose siblings, given in the order they are painted.
func (o *outline) gather(list []*shape) []*shape {
	list = o.lying(list)
	for range 4 { // what was gathered may belong to more
		next := o.repeating(list)
		if len(next) == len(list) {
			break
		}
		list = next
	}
	return o.going(list)
}

// going takes into what was gathered what goes on in it: a thing of the look of its last, one step further down.
func (o *outline) going(list []*shape) []*shape {
	type place struct {
		exact uint64
		row   int
	}
	const high = 16.0
	loose := map[place][]int{}
	any := false
	for i, s := range list {
		if s.layer == nil {
			any = true
		} else if s.children == nil {
			k := place{s.exact, int(math.Floor(s.box.Y / high))}
			loose[k] = append(loose[k], i)
		}
	}
	if !any {
		return list
	}
	taken := map[int]bool{}
	for i := range list {
		for list[i].layer == nil {
			next := -1
			for exact, y := range nextIn(list[i]) {
				for row := int(math.Floor((y - near) / high)); row <= int(math.Floor((y+near)/high)); row++ {
					for _, j := range loose[place{exact, row}] {
						if !taken[j] && math.Abs(list[j].box.Y-y) <= near && (next < 0 || j < next) && standsUnder(list[i], list[j]) {
							next = j
						}
					}
				}
			}
			if next < 0 {
				break
			}
			taken[next] = true
			list[i] = o.together(list[i], list[next])
		}
	}
	out := list[:0:0]
	for i, s := range list {
		if !taken[i] {
			out = append(out, s)
		}
	}
	return out
}

// nextIn gives where the next thing would stand of each look of which something gathered ends with two or more, one under the other.
func nextIn(gathered *shape) map[uint64]float64 {
	foot := gathered.box.Y + gathered.box.Height
	out := map[uint64]float64{}
	for _, c := range gathered.children {
		if c.children != nil || c.box.Y+c.box.Height < foot-near {
			continue
		}
		before := math.Inf(-1)
		for _, d := range gathered.children {
			if d.exact == c.exact && d.box.Y < c.box.Y-near && edges(d.box.X, d.box.Width, c.box.X, c.box.Width) {
				before = max(before, d.box.Y)
			}
		}
		if !math.IsInf(before, -1) {
			out[c.exact] = 2*c.box.Y - before
		}
	}
	return out
}

// standsUnder tells whether a thing is in line with one of its look in something gathered.
func standsUnder(gathered, s *shape) bool {
	return slices.ContainsFunc(gathered.children, func(c *shape) bool {
		return c.exact == s.exact && edges(c.box.X, c.box.Width, s.box.X, s.box.Width)
	})
}

// lying puts things into the smallest box they lie on.
func (o *outline) lying(list []*shape) []*shape {
	under := newLevels(len(list))
	for i, s := range list {
		if canHold(s) {
			under.add(i, s.box)
		}
	}
	if under.count == 0 {
		return list
	}
	on := make([]int, len(list))
	held := make([][]*shape, len(list))
	any := false
	for i, s := range list {
		on[i] = -1
		best := math.Inf(1)
		under.at(s.box.X+s.box.Width/2, s.box.Y+s.box.Height/2, func(j int) {
			b := list[j].box
			area := b.Width * b.Height
			if j != i && area < best && liesOn(s.box, b) && s.box.Width*s.box.Height < 0.95*area && (j < i || list[j].layer.Fill == "" && len(list[j].layer.Fills) == 0) {
				best, on[i] = area, j
			}
		})
		any = any || on[i] >= 0
	}
	if !any {
		return list
	}
	// From the smallest on, so that a box is whole before it is put into another.
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Compare(list[a].box.Width*list[a].box.Height, list[b].box.Width*list[b].box.Height)
	})
	made := slices.Clone(list)
	for _, i := range order {
		if len(held[i]) > 0 {
			made[i] = o.laid(list[i], held[i])
		}
		if j := on[i]; j >= 0 {
			held[j] = append(held[j], made[i])
		}
	}
	var out []*shape
	for i, s := range made {
		if on[i] < 0 {
			out = append(out, s)
		}
	}
	return out
}

// canHold tells whether other things may lie on one: a box, a picture or a filled path.
func canHold(s *shape) bool {
	if s.children != nil {
		return false
	}
	switch s.what {
	case block:
		return paints(s.layer)
	case picture:
		return true
	}
	return s.what == drawing && s.layer.Kind == design.Vector && s.layer.Fill != ""
}

// liesOn tells whether most of a thing, and its middle, is on a box; what is on it may stick out, as a badge does.
func liesOn(a, b design.Rect) bool {
	x, y := a.X+a.Width/2, a.Y+a.Height/2
	return x >= b.X && x <= b.X+b.Width && y >= b.Y && y <= b.Y+b.Height && overlap(a, b)
}

// laid gives a box that holds what lies on it.
func (o *outline) laid(ground *shape, on []*shape) *shape {
	if len(on) > 1 {
		slices.SortStableFunc(on, func(a, b *shape) int { return cmp.Compare(along(a), along(b)) })
		on = o.gather(on)
	}
	s := o.new()
	*s = shape{layer: ground.layer, outer: ground.layer, box: ground.box, what: holder, is: ground.is, root: ground.root, children: on, loose: ground.layers()}
	switch ground.what {
	case drawing:
		s.is = o.named("box") // a box that was drawn as a path
	}
	for _, c := range on {
		s.loose = append(s.loose, c.layers()...)
	}
	o.settle(s)
	return s
}

// repeating joins each thing of one look with the thing of another that stands by it in the same way.
func (o *outline) repeating(list []*shape) []*shape {
	if len(list) < 4 {
		return list
	}
	looks := looksOf(list)
	pairs := beside(list, looks)
	taken := make([]bool, looks.count)
	joined := make([]int, len(list))
	for i := range joined {
		joined[i] = -1
	}
	any := false
	for _, p := range pairs {
		if taken[p.a] || taken[p.b] {
			continue
		}
		taken[p.a], taken[p.b] = true, true
		for _, m := range p.members {
			joined[m[1]] = m[0]
		}
		any = true
	}
	if !any {
		return list
	}
	with := map[int]*shape{}
	for i, j := range joined {
		if j >= 0 {
			with[j] = list[i]
		}
	}
	var out []*shape
	for i, s := range list {
		switch {
		case joined[i] >= 0:
		case with[i] != nil:
			out = append(out, o.together(s, with[i]))
		default:
			out = append(out, s)
		}
	}
	return out
}

// together gives a shape that nothing is drawn for, of two things that stand by each other; one that was gathered so takes the other in.
func (o *outline) together(a, b *shape) *shape {
	s := o.new()
	*s = shape{what: holder, is: o.named("group"), root: a.root, box: union(a.box, b.box)}
	for _, one := range []*shape{a, b} {
		if one.layer == nil {
			s.children = append(s.children, one.children...)
		} else {
			s.children = append(s.children, one)
		}
		s.loose = append(s.loose, one.layers()...)
	}
	o.settle(s)
	return s
}

func union(a, b design.Rect) design.Rect {
	x, y := min(a.X, b.X), min(a.Y, b.Y)
	return design.Rect{X: x, Y: y, Width: max(a.X+a.Width, b.X+b.Width) - x, Height: max(a.Y+a.Height, b.Y+b.Height) - y}
}

// looks are which of some things look the same: of one kind, and boxes and drawings of one measure at least.
type looks struct {
	of    []int // by thing
	size  []int // things of each look
	count int
}

func looksOf(list []*shape) looks {
	out := looks{of: make([]int, len(list))}
	first := map[uint64][]int{} // looks of each kind, by one of theirs
	one := []int{}
	for i, s := range list {
		found := -1
		for _, look := range first[s.exact] {
			if sameMeasure(s, list[one[look]]) {
				found = look
				break
			}
		}
		if found < 0 {
			found = out.count
			if len(first[s.exact]) < 32 {
				first[s.exact] = append(first[s.exact], found)
			}
			one, out.size = append(one, i), append(out.size, 0)
			out.count++
		}
		out.of[i] = found
		out.size[found]++
	}
	return out
}

// sameMeasure tells whether things that hold nothing share a measure, as bars share their width; texts always do.
func sameMeasure(a, b *shape) bool {
	const near = 3
	switch {
	case a.what == block || a.what == drawing:
		return math.Abs(a.box.Width-b.box.Width) <= near || math.Abs(a.box.Height-b.box.Height) <= near
	}
	return true
}

// pairing is two looks whose things stand by each other alike.
type pairing struct {
	a, b    int
	gap     float64
	members [][2]int // things of the one, and of the other
}

// beside finds the looks whose things stand by each other in one way, at least two times and nearly always, the closest first.
func beside(list []*shape, looks looks) []pairing {
	const neighbours = 6
	near := newSquares(list)
	found := map[[2]int][][2]int{}
	for i := range list {
		a := looks.of[i]
		if looks.size[a] < 2 {
			continue
		}
		near.around(i, neighbours, func(j int) bool {
			return looks.of[j] != a && looks.size[looks.of[j]] > 1 && mayJoin(list[i], list[j])
		}, func(j int) {
			b := looks.of[j]
			if a < b {
				found[[2]int{a, b}] = append(found[[2]int{a, b}], [2]int{i, j})
			} else {
				found[[2]int{b, a}] = append(found[[2]int{b, a}], [2]int{j, i})
			}
		})
	}
	var out []pairing
	for k, pairs := range found {
		slices.SortFunc(pairs, func(a, b [2]int) int { return cmp.Or(a[0]-b[0], a[1]-b[1]) })
		if p, ok := alike(list, looks, k[0], k[1], slices.Compact(pairs)); ok {
			out = append(out, p)
		}
	}
	slices.SortFunc(out, func(p, q pairing) int {
		return cmp.Or(cmp.Compare(p.gap, q.gap), cmp.Compare(p.a, q.a), cmp.Compare(p.b, q.b))
	})
	return out
}

// mayJoin tells whether two things may be parts of one: not two that hold something each, and not two pictures.
func mayJoin(a, b *shape) bool {
	shows := func(s *shape) bool { return s.what == drawing || s.what == picture }
	return (a.children == nil || b.children == nil) && !(shows(a) && shows(b)) && a.made == nil && b.made == nil
}

// alike finds the distance that most of some pairs stand at.
func alike(list []*shape, looks looks, a, b int, pairs [][2]int) (pairing, bool) {
	least := min(looks.size[a], looks.size[b])
	need := max(2, int(math.Ceil(0.8*float64(least))))
	if len(pairs) < need {
		return pairing{}, false
	}
	const cell = 5.0
	best := pairing{a: a, b: b, gap: math.Inf(1)}
	count := map[[2]int]int{}
	at := make([][2]float64, len(pairs))
	for anchor := range 9 {
		clear(count)
		for i, p := range pairs {
			from, to := list[p[0]].box, list[p[1]].box
			x, y := float64(anchor%3)/2, float64(anchor/3)/2
			at[i] = [2]float64{to.X + x*to.Width - from.X - x*from.Width, to.Y + y*to.Height - from.Y - y*from.Height}
			count[[2]int{int(math.Round(at[i][0] / cell)), int(math.Round(at[i][1] / cell))}]++
		}
		seen := map[[2]int]bool{}
		for i := range pairs {
			c := [2]int{int(math.Round(at[i][0] / cell)), int(math.Round(at[i][1] / cell))}
			if seen[c] {
				continue
			}
			seen[c] = true
			votes := 0
			for dx := -1; dx <= 1; dx++ {
				for dy := -1; dy <= 1; dy++ {
					votes += count[[2]int{c[0] + dx, c[1] + dy}]
				}
			}
			if votes < need {
				continue
			}
			if p, ok := standing(list, looks, a, b, pairs, at, at[i], need); ok && (p.gap < best.gap-1 || p.gap < best.gap+1 && len(p.members) > len(best.members)) {
				best = p
			}
		}
	}
	return best, best.members != nil
}

// standing takes the pairs that stand at one distance, each thing once, where they are closer to each other than to the next of their own look.
func standing(list []*shape, looks looks, a, b int, pairs [][2]int, at [][2]float64, want [2]float64, need int) (pairing, bool) {
	const near = 4.5
	out := pairing{a: a, b: b}
	from, to := map[int]bool{}, map[int]bool{}
	for i, p := range pairs {
		if math.Abs(at[i][0]-want[0]) <= near && math.Abs(at[i][1]-want[1]) <= near && !from[p[0]] && !to[p[1]] {
			from[p[0]], to[p[1]] = true, true
			out.members = append(out.members, p)
			out.gap += apart(list[p[0]].box, list[p[1]].box)
		}
	}
	if len(out.members) < need {
		return pairing{}, false
	}
	out.gap /= float64(len(out.members))
	sizes := 0.0
	for _, p := range out.members {
		x, y := list[p[0]].box, list[p[1]].box
		sizes += max(x.Width, x.Height) + max(y.Width, y.Height)
	}
	cells := len(out.members) > 2 && looks.size[a]%len(out.members) == 0 && looks.size[b]%len(out.members) == 0 && inRows(list, out.members) // of a table's rows
	if !cells && out.gap > max(12, 0.5*sizes/float64(len(out.members))) {
		return pairing{}, false
	}
	for _, p := range out.members { // the next of the same look is no closer than what it is joined with
		for _, q := range out.members {
			if p != q && len(out.members) <= 64 && apart(list[p[0]].box, list[q[1]].box) < out.gap-near {
				return pairing{}, false
			}
		}
	}
	return out, true
}

// inRows tells whether things stand beside those they are joined with, on one line.
func inRows(list []*shape, pairs [][2]int) bool {
	return !slices.ContainsFunc(pairs, func(p [2]int) bool {
		a, b := list[p[0]].box, list[p[1]].box
		return !edges(a.Y, a.Height, b.Y, b.Height)
	})
}

// apart is how far two boxes are from each other, px; 0 where they touch or lie on one another.
func apart(a, b design.Rect) float64 {
	x := max(0, max(a.X, b.X)-min(a.X+a.Width, b.X+b.Width))
	y := max(0, max(a.Y, b.Y)-min(a.Y+a.Height, b.Y+b.Height))
	return math.Hypot(x, y)
}
