package layout

import (
	"cmp"
	"math"
	"slices"
)

// gridTrack is a row or column while it is sized.
type gridTrack struct {
	declared    track // as written
	track       track // with percentages of unknown sizes as auto
	base, limit float64
	gap         float64 // before it
	at          float64
	empty       bool // a collapsed auto-fit track
	grows       bool // infinitely growable (12.5)
	planned     float64
	asked       bool // some item asked for its growth limit
	frozen      bool
}

// anything is no limits.
var anything = [2]float64{0, math.Inf(1)}

func isIntrinsic(l *length) bool { return l.kind != fixed && l.kind != fraction }

func (g *gridRun) total(l int) (sum float64) {
	for k := range g.tracks[l] {
		sum += g.tracks[l][k].base + g.tracks[l][k].gap
	}
	return sum
}

// size runs the track sizing algorithm (CSS Grid 2, 12.3 to 12.8) in one axis.
// room is NaN when sized by content: minimal says under a min-content
// constraint. bounds are the container's limits there.
func (g *gridRun) size(l int, room float64, minimal, stretch bool, bounds [2]float64) {
	least := bounds[0]
	tracks := g.tracks[l]
	flexible := false
	for k := range tracks {
		t := &tracks[k]
		low, high := t.declared.min, t.declared.max
		// Percentages of an unknown size are auto (7.2.1).
		if low.kind == fixed && isNaN(low.resolve(room)) {
			low = length{}
		}
		if high.kind == fixed && isNaN(high.resolve(room)) {
			high = length{}
		}
		t.track.min, t.track.max = low, high
		t.base, t.limit, t.grows = 0, math.Inf(1), false
		if low.kind == fixed {
			t.base = max(0, low.resolve(room))
		}
		if high.kind == fixed {
			t.limit = max(t.base, high.resolve(room))
		}
		flexible = flexible || high.kind == fraction
	}
	g.intrinsicTracks(l, room)
	for k := range tracks {
		if t := &tracks[k]; math.IsInf(t.limit, 1) {
			t.limit = t.base
		}
	}
	// 12.6: maximize.
	if !isNaN(room) {
		g.maximize(l, room-g.total(l))
	} else if !minimal {
		before := make([]float64, len(tracks))
		for k := range tracks {
			before[k] = tracks[k].base
			if tracks[k].track.max.kind != fraction {
				tracks[k].base = tracks[k].limit
			}
		}
		if flexible && g.total(l) > bounds[1] { // no more than the container may have
			for k := range tracks {
				tracks[k].base = before[k]
			}
			g.maximize(l, bounds[1]-g.total(l))
		}
	}
	if flexible {
		g.expand(l, room, minimal, least)
	}
	// 12.8: stretch auto tracks.
	free := room - g.total(l)
	if isNaN(room) && l == 1 && least > 0 {
		free = least - g.total(l)
	}
	if stretch && free > 0 {
		count := 0
		for k := range tracks {
			if tracks[k].track.max.kind == auto {
				count++
			}
		}
		for k := range tracks {
			if tracks[k].track.max.kind == auto {
				tracks[k].base += free / float64(count)
			}
		}
	}
}

func (g *gridRun) maximize(l int, free float64) {
	tracks := g.tracks[l]
	for free > 1e-9 {
		open := 0
		for k := range tracks {
			if tracks[k].limit > tracks[k].base {
				open++
			}
		}
		if open == 0 {
			return
		}
		share := free / float64(open)
		for k := range tracks {
			t := &tracks[k]
			if t.limit > t.base {
				add := min(share, t.limit-t.base)
				t.base += add
				free -= add
			}
		}
	}
}

// expand gives flexible tracks their share (12.7).
func (g *gridRun) expand(l int, room float64, minimal bool, least float64) {
	tracks := g.tracks[l]
	fraction := 0.0
	switch {
	case !isNaN(room):
		fraction = findFraction(tracks, room)
	case minimal:
	default:
		for k := range tracks {
			if f, ok := tracks[k].factor(); ok {
				fraction = max(fraction, tracks[k].base/max(1, f))
			}
		}
		for _, it := range g.items {
			spanned := tracks[it.at[l] : it.at[l]+it.span[l]]
			if !spansFlexible(spanned) {
				continue
			}
			_, high := g.contribution(it, l)
			for k := 1; k < len(spanned); k++ {
				high -= spanned[k].gap
			}
			fraction = max(fraction, findFractionOnly(spanned, high))
		}
		// What the container's minimum asks for.
		sum := 0.0
		for k := range tracks {
			if f, ok := tracks[k].factor(); ok {
				sum += max(tracks[k].base, fraction*f)
			} else {
				sum += tracks[k].base
			}
			sum += tracks[k].gap
		}
		if l == 1 && sum < least {
			fraction = findFraction(tracks, least)
		}
	}
	for k := range tracks {
		if f, ok := tracks[k].factor(); ok {
			tracks[k].base = max(tracks[k].base, fraction*f)
		}
	}
}

func (t *gridTrack) factor() (float64, bool) { return t.track.max.px, t.track.max.kind == fraction }

func spansFlexible(tracks []gridTrack) bool {
	return slices.ContainsFunc(tracks, func(t gridTrack) bool { return t.track.max.kind == fraction })
}

// findFraction gives the px of 1fr (12.7.1) with gaps counted.
func findFraction(tracks []gridTrack, room float64) float64 {
	for k := range tracks {
		room -= tracks[k].gap
	}
	return findFractionOnly(tracks, room)
}

func findFractionOnly(tracks []gridTrack, room float64) float64 {
	for k := range tracks {
		tracks[k].frozen = tracks[k].track.max.kind != fraction
	}
	for {
		left, factors := room, 0.0
		for k := range tracks {
			if tracks[k].frozen {
				left -= tracks[k].base
			} else {
				factors += tracks[k].track.max.px
			}
		}
		size := left / max(1, factors)
		again := false
		for k := range tracks {
			t := &tracks[k]
			if !t.frozen && size*t.track.max.px < t.base {
				t.frozen, again = true, true
			}
		}
		if !again {
			return max(0, size)
		}
	}
}

// contribution gives an item's min-content and max-content contribution to an
// axis, margins included.
func (g *gridRun) contribution(it *gridItem, l int) (low, high float64) {
	axis := g.axis(l)
	c := it.n
	if l == 0 {
		height := nan // where the row makes it
		if g.rows && c.inline == axis && g.fillsBlock(it) {
			m := g.s.marginsOf(c, nan)
			g.s.edges(c, nan)
			b := g.axis(1)
			low, high := g.s.limits(c, b, nan)
			height = clamp(max(c.sum(b), g.area(it, 1)-m[b][0]-m[b][1]), low, high)
		}
		return g.s.contribution(c, axis, [2]float64{nan, nan}, height)
	}
	if c.inline == axis {
		base := [2]float64{nan, nan}
		base[g.axis(0)] = g.area(it, 0)
		return g.s.contribution(c, axis, base, nan)
	}
	sp := g.itemSpace(it)
	r := g.s.layout(c, sp, false)
	size := r.size[axis] + it.margin[axis][0] + it.margin[axis][1] + it.shim[0] + it.shim[1]
	return size, size
}

// minimum gives an item's minimum contribution (12.5): its min size where its
// own size is automatic, which is 0 for what scrolls or spans flexible tracks.
func (g *gridRun) minimum(it *gridItem, l int, room float64) float64 {
	axis := g.axis(l)
	c := it.n
	low, _ := g.contribution(it, l)
	if v := c.preferredSize(axis, nan); !isNaN(v) || c.preferred[axis].kind != auto && c.preferred[axis].kind != fixed {
		return low
	}
	margins := it.margin[axis][0] + it.margin[axis][1]
	if c.min[axis].kind != auto {
		if g.s.edges(c, nan); l == 1 {
			g.s.edges(c, g.area(it, 0))
		}
		least, _ := g.s.limits(c, axis, nan)
		return least + margins
	}
	spanned := g.tracks[l][it.at[l] : it.at[l]+it.span[l]]
	automatic := !c.scrolls[axis] &&
		slices.ContainsFunc(spanned, func(t gridTrack) bool { return t.track.min.kind == auto }) &&
		(len(spanned) == 1 || !spansFlexible(spanned))
	if !automatic {
		return c.sum(axis) + margins
	}
	// A content-based minimum is no larger than fixed tracks allow (6.6).
	most := 0.0
	for k := range spanned {
		v := spanned[k].track.max.resolve(room)
		if isNaN(v) {
			return low
		}
		most += v
		if k > 0 {
			most += spanned[k].gap
		}
	}
	return min(low, max(most, c.sum(axis)+margins))
}

// intrinsicTracks resolves intrinsic track sizes (12.5).
func (g *gridRun) intrinsicTracks(l int, room float64) {
	tracks := g.tracks[l]
	type spanning struct {
		it       *gridItem
		flexible bool
	}
	var items []spanning
	for _, it := range g.items {
		spanned := tracks[it.at[l] : it.at[l]+it.span[l]]
		needs := slices.ContainsFunc(spanned, func(t gridTrack) bool {
			return isIntrinsic(&t.track.min) || isIntrinsic(&t.track.max) || t.track.max.kind == fraction
		})
		if needs {
			items = append(items, spanning{it, spansFlexible(spanned)})
		}
	}
	slices.SortStableFunc(items, func(a, b spanning) int {
		if a.flexible != b.flexible {
			if a.flexible {
				return 1
			}
			return -1
		}
		if a.flexible {
			return 0
		}
		return cmp.Compare(a.it.span[l], b.it.span[l])
	})
	for from := 0; from < len(items); {
		to := from + 1
		for to < len(items) && items[to].flexible == items[from].flexible && (items[from].flexible || items[to].it.span[l] == items[from].it.span[l]) {
			to++
		}
		group := items[from:to]
		flexible := group[0].flexible
		from = to
		apply := func(what func(*gridTrack) bool, size func(*gridItem) float64, limits bool, phase phase) {
			for k := range tracks {
				tracks[k].planned = 0
			}
			for _, e := range group {
				spanned := tracks[e.it.at[l] : e.it.at[l]+e.it.span[l]]
				affected := func(t *gridTrack) bool {
					return what(t) && (!flexible || t.track.max.kind == fraction)
				}
				any := false
				for k := range spanned {
					any = any || affected(&spanned[k])
				}
				if any {
					g.distribute(spanned, size(e.it), limits, phase, flexible, affected, room)
				}
			}
			for k := range tracks {
				t := &tracks[k]
				if limits {
					if t.planned > 0 || math.IsInf(t.limit, 1) && t.asked {
						if math.IsInf(t.limit, 1) {
							t.limit = t.base + t.planned
							t.grows = phase == intrinsicMaximums
						} else {
							t.limit += t.planned
						}
					}
					t.asked = false
				} else {
					t.base += t.planned
				}
			}
		}
		low := func(it *gridItem) float64 { v, _ := g.contribution(it, l); return v }
		high := func(it *gridItem) float64 { _, v := g.contribution(it, l); return v }
		apply(func(t *gridTrack) bool { return isIntrinsic(&t.track.min) }, func(it *gridItem) float64 { return g.minimum(it, l, room) }, false, intrinsicMinimums)
		apply(func(t *gridTrack) bool { return t.track.min.kind == minContent || t.track.min.kind == maxContent }, low, false, contentMinimums)
		apply(func(t *gridTrack) bool { return t.track.min.kind == maxContent }, high, false, maxContentMinimums)
		for k := range tracks {
			tracks[k].limit = max(tracks[k].limit, tracks[k].base)
		}
		if flexible {
			continue
		}
		apply(func(t *gridTrack) bool { return isIntrinsic(&t.track.max) }, low, true, intrinsicMaximums)
		apply(func(t *gridTrack) bool {
			return t.track.max.kind == maxContent || t.track.max.kind == auto || t.track.max.kind == fitContent
		}, high, true, maxContentMaximums)
		for k := range tracks {
			tracks[k].grows = false
		}
	}
}

type phase uint8

const (
	intrinsicMinimums phase = iota
	contentMinimums
	maxContentMinimums
	intrinsicMaximums
	maxContentMaximums
)

// fitLimit is how far fit-content() lets a track grow; without it there is no
// bound.
func (t *gridTrack) fitLimit(room float64) float64 {
	limit := t.track.max
	if limit.kind != fitContent {
		return math.Inf(1)
	}
	limit.kind = fixed
	if v := limit.resolve(room); !isNaN(v) {
		return v
	}
	return math.Inf(1)
}

// distribute spreads the space an item needs over the tracks it spans (12.5.1).
func (g *gridRun) distribute(spanned []gridTrack, size float64, limits bool, phase phase, flexible bool, affected func(*gridTrack) bool, room float64) {
	value := func(t *gridTrack) float64 {
		if limits && !math.IsInf(t.limit, 1) {
			return t.limit
		}
		return t.base
	}
	extra := size
	for k := range spanned {
		extra -= value(&spanned[k])
		if k > 0 {
			extra -= spanned[k].gap
		}
	}
	increase := make([]float64, len(spanned))
	if limits {
		for k := range spanned {
			if affected(&spanned[k]) {
				spanned[k].asked = true
			}
		}
	}
	if extra <= 0 {
		return
	}
	frozen := make([]bool, len(spanned))
	weight := func(k int) float64 {
		if flexible {
			return spanned[k].track.max.px
		}
		return 1
	}
	// Up to the limits first.
	ceiling := func(k int) float64 {
		t := &spanned[k]
		if limits {
			// Growth limits are not bounded while they grow without limit, else at themselves.
			if t.grows || math.IsInf(t.limit, 1) {
				return max(0, t.fitLimit(room)-value(t))
			}
			return 0
		}
		return min(t.limit, max(t.fitLimit(room), t.base)) - t.base
	}
	grow := func(open func(int) bool, bound func(int) float64) {
		for extra > 1e-9 {
			weights, count := 0.0, 0
			for k := range spanned {
				if open(k) && !frozen[k] {
					weights += weight(k)
					count++
				}
			}
			if count == 0 {
				return
			}
			share, spent, froze := extra, 0.0, false
			for k := range spanned {
				if !open(k) || frozen[k] {
					continue
				}
				part := share / float64(count)
				if weights > 0 {
					part = share * weight(k) / weights
				}
				if left := bound(k) - increase[k]; part >= left {
					part = max(0, left)
					frozen[k], froze = true, true
				}
				increase[k] += part
				spent += part
			}
			extra -= spent
			if !froze {
				break
			}
		}
	}
	isAffected := func(k int) bool { return affected(&spanned[k]) }
	grow(isAffected, ceiling)
	// Beyond the limits.
	if extra > 1e-9 {
		for k := range frozen {
			frozen[k] = false
		}
		beyond := isAffected
		candidates := func(k int) bool {
			if !isAffected(k) {
				return false
			}
			m := &spanned[k].track.max
			switch phase {
			case intrinsicMinimums, contentMinimums:
				return isIntrinsic(m)
			case maxContentMinimums:
				return m.kind == maxContent || m.kind == auto || m.kind == fitContent
			}
			return isIntrinsic(m)
		}
		some := false
		for k := range spanned {
			some = some || candidates(k)
		}
		if some {
			beyond = candidates
		}
		endless := func(int) float64 { return math.Inf(1) }
		if limits {
			endless = func(k int) float64 {
				return max(0, spanned[k].fitLimit(room)-value(&spanned[k]))
			}
		}
		grow(beyond, endless)
	}
	for k := range spanned {
		spanned[k].planned = max(spanned[k].planned, increase[k])
	}
}
