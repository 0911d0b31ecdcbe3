package layout

import (
	"math"
	"slices"
)

// template gives the explicit tracks, automatic repetitions written out, and
// the range of auto-fit ones (7.2.3.2).
func (g *gridRun) template(l int, bounds [2]float64) (tracks []track, fit [2]int) {
	list := &g.grid.tracks[l]
	if len(list.repeat) == 0 {
		return list.before, fit
	}
	axis := g.axis(l)
	room, least := g.inner[axis], 0.0
	if l == 1 {
		if isNaN(room) && !math.IsInf(bounds[1], 1) {
			room = bounds[1]
		}
		least = bounds[0]
	} else {
		low, high := g.n.used(&g.n.min[axis], axis, g.percent), g.n.used(&g.n.max[axis], axis, g.percent)
		if v := g.n.used(&g.n.preferred[axis], axis, g.percent); !isNaN(v) {
			high = v
		}
		if isNaN(room) && !isNaN(high) {
			room = high - g.n.sum(axis)
		}
		if !isNaN(low) {
			least = low - g.n.sum(axis)
		}
	}
	count := 1
	if !isNaN(room) || least > 0 {
		size := func(tracks []track) (sum float64) {
			for _, t := range tracks {
				v := t.max.resolve(room)
				if isNaN(v) {
					v = t.min.resolve(room)
				} else if low := t.min.resolve(room); !isNaN(low) {
					v = max(v, low)
				}
				if !isNaN(v) {
					sum += v
				}
			}
			return sum + g.gap[l]*float64(len(tracks))
		}
		fixed := size(list.before) + size(list.after) - g.gap[l]
		each := max(1, size(list.repeat))
		if isNaN(room) { // enough to fill the minimum
			count = int(math.Ceil((least-fixed)/each - 1e-6))
		} else {
			count = int(math.Floor((room-fixed)/each + 1e-6))
		}
	}
	count = max(1, min(count, (maxTracks-len(list.before)-len(list.after))/len(list.repeat)))
	tracks = slices.Clone(list.before)
	for range count {
		tracks = append(tracks, list.repeat...)
	}
	if list.fit {
		fit = [2]int{len(list.before), len(tracks)}
	}
	return append(tracks, list.after...), fit
}

// resolvePlace gives start and span in one axis, counted from the first
// explicit line as 0; fixed is false for automatic placement (8.3).
func resolvePlace(p placement, explicit int) (start, span int, fixed bool) {
	line := func(v int) int {
		if v > 0 {
			return v - 1
		}
		return explicit + 1 + v
	}
	switch {
	case p.start != 0 && p.end != 0:
		a, b := line(p.start), line(p.end)
		if a > b {
			a, b = b, a
		}
		if a == b {
			b = a + 1
		}
		return a, b - a, true
	case p.start != 0:
		return line(p.start), max(1, p.endSpan), true
	case p.end != 0:
		span = max(1, p.startSpan)
		return line(p.end) - span, span, true
	case p.startSpan > 0:
		return 0, p.startSpan, false
	}
	return 0, max(1, p.endSpan), false
}

// occupancy remembers which cells are taken. Against hostile input it looks at
// a bounded number of cells; past them every cell counts as free.
type occupancy struct {
	cells map[[2]int]bool
	left  int
}

// maxCells bounds the cells one placement of items looks at.
const maxCells = 1 << 22

func (o *occupancy) free(at, span [2]int) bool {
	if o.left -= span[0] * span[1]; o.left < 0 {
		return true
	}
	for a := at[0]; a < at[0]+span[0]; a++ {
		for b := at[1]; b < at[1]+span[1]; b++ {
			if o.cells[[2]int{a, b}] {
				return false
			}
		}
	}
	return true
}

func (o *occupancy) take(it *gridItem) {
	if o.left -= it.span[0] * it.span[1]; o.left < 0 {
		return
	}
	for a := it.at[0]; a < it.at[0]+it.span[0]; a++ {
		for b := it.at[1]; b < it.at[1]+it.span[1]; b++ {
			o.cells[[2]int{a, b}] = true
		}
	}
}

// placeItems places every item (8.5) and gives the number of tracks an axis.
func (g *gridRun) placeItems() (counts [2]int) {
	minor, major := 0, 1 // items fill a row, then the next
	if g.grid.byCol {
		minor, major = 1, 0
	}
	fixed := make([][2]bool, len(g.items))
	first, last := [2]int{}, g.explicit
	for k, it := range g.items {
		for l := range 2 {
			it.at[l], it.span[l], fixed[k][l] = resolvePlace(it.n.place[l], g.explicit[l])
			if fixed[k][l] {
				first[l] = min(first[l], it.at[l])
				last[l] = max(last[l], it.at[l]+it.span[l])
			}
		}
	}
	// Count from the first track there is, explicit or not.
	for k, it := range g.items {
		for l := range 2 {
			if fixed[k][l] {
				it.at[l] -= first[l]
			}
		}
	}
	for l := range 2 {
		g.first[l] = -first[l]
		counts[l] = last[l] - first[l]
	}
	o := occupancy{map[[2]int]bool{}, maxCells}
	for k, it := range g.items {
		if fixed[k][0] && fixed[k][1] {
			o.take(it)
		}
	}
	// Items locked to a row.
	cursors := map[int]int{}
	for k, it := range g.items {
		if !fixed[k][major] || fixed[k][minor] {
			continue
		}
		from := 0
		if !g.grid.dense {
			from = cursors[it.at[major]]
		}
		for it.at[minor] = from; !o.free(it.at, it.span); {
			it.at[minor]++
		}
		o.take(it)
		cursors[it.at[major]] = it.at[minor] + it.span[minor]
		counts[minor] = max(counts[minor], it.at[minor]+it.span[minor])
	}
	for k, it := range g.items {
		if !fixed[k][minor] {
			counts[minor] = max(counts[minor], it.span[minor])
		}
	}
	// All others, behind a cursor.
	var cursor [2]int
	for k, it := range g.items {
		if fixed[k][major] {
			continue
		}
		if g.grid.dense {
			cursor = [2]int{}
		}
		if fixed[k][minor] {
			if it.at[minor] < cursor[minor] {
				cursor[major]++
			}
			cursor[minor] = it.at[minor]
			if g.grid.dense {
				cursor[major] = 0
			}
			for it.at[major] = cursor[major]; !o.free(it.at, it.span); {
				it.at[major]++
			}
			cursor[major] = it.at[major]
		} else {
			for {
				it.at[minor], it.at[major] = cursor[minor], cursor[major]
				if cursor[minor]+it.span[minor] > counts[minor] {
					cursor[minor], cursor[major] = 0, cursor[major]+1
					continue
				}
				if o.free(it.at, it.span) {
					break
				}
				cursor[minor]++
			}
		}
		o.take(it)
	}
	for _, it := range g.items {
		for l := range 2 {
			counts[l] = max(counts[l], it.at[l]+it.span[l])
		}
	}
	return counts
}

func (g *gridRun) makeTracks(l int, template []track, fit [2]int, count int) {
	autos := g.grid.autos[l]
	if len(autos) == 0 {
		autos = []track{{}}
	}
	g.tracks[l] = make([]gridTrack, count)
	for k := range g.tracks[l] {
		t := &g.tracks[l][k]
		switch e := k - g.first[l]; {
		case e >= 0 && e < len(template):
			t.declared = template[e]
			t.empty = e >= fit[0] && e < fit[1]
		case e >= 0:
			t.declared = autos[(e-len(template))%len(autos)]
		default: // before the template the pattern runs backwards
			t.declared = autos[((e%len(autos))+len(autos))%len(autos)]
		}
	}
	for _, it := range g.items {
		for k := it.at[l]; k < it.at[l]+it.span[l]; k++ {
			g.tracks[l][k].empty = false
		}
	}
	seen := false
	for k := range g.tracks[l] {
		t := &g.tracks[l][k]
		if t.empty {
			t.declared = track{px(0), px(0)}
			continue
		}
		if seen {
			t.gap = g.gap[l]
		}
		seen = true
	}
}
