package survey

import (
	"cmp"
	"math"
	"slices"

	"cobrik/core/draft"
)

// match is which of what two shapes hold corresponds; an index of -1 has no counterpart.
type match struct{ a, b int }

// mostMatched bounds the children that are tried each with each; of more, those that are alike are taken in their order.
const mostMatched = 24

// matches finds which of two shapes' children correspond: by what they are, their names and where they stand, not by the order of the list.
func matches(a, b *shape) []match {
	type candidate struct {
		match
		score float64
	}
	var tried []candidate
	doneA, doneB := make([]bool, len(a.children)), make([]bool, len(b.children))
	var out []match
	if len(a.children) > mostMatched || len(b.children) > mostMatched {
		byKey := map[uint64][]int{}
		for j, c := range b.children {
			byKey[c.key] = append(byKey[c.key], j)
		}
		for i, c := range a.children {
			if left := byKey[c.key]; len(left) > 0 {
				out = append(out, match{i, left[0]})
				doneA[i], doneB[left[0]] = true, true
				byKey[c.key] = left[1:]
			}
		}
	}
	left := 0
	for i, x := range a.children {
		if doneA[i] {
			continue
		}
		if left++; left > mostMatched {
			break
		}
		right := 0
		for j, y := range b.children {
			if doneB[j] {
				continue
			}
			if right++; right > mostMatched {
				break
			}
			if s := corresponds(x, y, a, b); s > 0 {
				tried = append(tried, candidate{match{i, j}, s})
			}
		}
	}
	slices.SortStableFunc(tried, func(x, y candidate) int { return cmp.Compare(y.score, x.score) })
	for _, c := range tried {
		if !doneA[c.a] && !doneB[c.b] {
			doneA[c.a], doneB[c.b] = true, true
			out = append(out, c.match)
		}
	}
	for i, done := range doneA {
		if !done {
			out = append(out, match{i, -1})
		}
	}
	for j, done := range doneB {
		if !done {
			out = append(out, match{-1, j})
		}
	}
	slices.SortStableFunc(out, func(x, y match) int { return cmp.Compare(uint(x.a), uint(y.a)) }) // those without a counterpart last
	return out
}

// corresponds says how well one thing in a shape stands for one in another; 0 where it cannot.
func corresponds(x, y, a, b *shape) float64 {
	score := 0.0
	switch {
	case x.key == y.key:
		score = 3
	case x.is == y.is:
		score = 2
	case x.what == y.what || (x.what == drawing || x.what == picture) && (y.what == drawing || y.what == picture):
		score = 1.2
	case (x.what == holder || x.what == block) && (y.what == holder || y.what == block):
		score = 1
	default:
		return 0
	}
	if n, m := x.role(), y.role(); n != "" && n == m {
		score++
	}
	return score + where(x, y, a, b)
}

// where says how alike two things stand in what holds them, 0 to 1.
func where(x, y, a, b *shape) float64 {
	across := axis(x.box.X-a.box.X, x.box.Width, a.box.Width, y.box.X-b.box.X, y.box.Width, b.box.Width)
	down := axis(x.box.Y-a.box.Y, x.box.Height, a.box.Height, y.box.Y-b.box.Y, y.box.Height, b.box.Height)
	return (across + down) / 2
}

// axis says how alike two things stand on one axis, by the start, the middle or the end, whichever is closest.
func axis(at, size, in, otherAt, otherSize, otherIn float64) float64 {
	start := math.Abs(at - otherAt)
	end := math.Abs((in - at - size) - (otherIn - otherAt - otherSize))
	middle := math.Abs((at + size/2 - in/2) - (otherAt + otherSize/2 - otherIn/2))
	off := max(0, min(start, end, middle)-near)
	return max(0, 1-off/max(10, 0.25*max(in, otherIn)))
}

// near is how far things may be apart that were meant alike, px.
const near = 4.5

// role is what the name of a shape's layer says it is for; nothing where a program gave it, or it is the text's own.
func (s *shape) role() string {
	if s.outer == nil || s.roleRead {
		return s.roleName
	}
	s.roleRead = true
	if s.roleName = draft.Role(s.outer); s.roleName == "" && s.layer != s.outer {
		s.roleName = draft.Role(s.layer)
	}
	return s.roleName
}

// looks alike is what tells things of one structure apart: how what corresponds in them stands and is set, 0 to 1. Colours and names are not asked.
func looksAlike(a, b *shape) float64 {
	total, parts := outside(a, b), 1.0
	if total < leastOutside {
		return 0
	}
	var walk func(a, b *shape)
	walk = func(a, b *shape) {
		for _, m := range matches(a, b) {
			if m.a < 0 || m.b < 0 {
				continue
			}
			x, y := a.children[m.a], b.children[m.b]
			total += (where(x, y, a, b) + measure(x, y, a, b)) / 2
			if parts++; parts < mostLooked {
				walk(x, y)
			}
		}
	}
	walk(a, b)
	return total / parts
}

// leastOutside is how alike the outer measures of two copies have to be: what lies is not what stands.
const leastOutside = 0.3

// mostLooked bounds the parts that are looked at in one comparison.
const mostLooked = 400

// outside compares the outer measures: things of one kind share one, or their proportions.
func outside(a, b *shape) float64 {
	ratio := func(x, y float64) float64 { return min(x, y) / max(x, y, 0.01) }
	w, h := ratio(a.box.Width, b.box.Width), ratio(a.box.Height, b.box.Height)
	return max(w, h) * (1 + min(w, h)) / 2
}

// measure compares how a text is set, or how large a thing is: as large as the other, or keeping the distances to the edges of what holds it.
func measure(x, y, a, b *shape) float64 {
	switch {
	case x.what == words && y.what == words:
		if x.is == y.is {
			return 1
		}
		return 0.4
	case x.what == holder && y.what == holder:
		return 1
	case x.what != y.what:
		return 0.5
	}
	one := func(size, in, otherSize, otherIn float64) float64 {
		off := max(0, min(math.Abs(size-otherSize), math.Abs((in-size)-(otherIn-otherSize)))-near)
		return max(0, 1-off/max(10, 0.5*max(size, otherSize)))
	}
	return (one(x.box.Width, a.box.Width, y.box.Width, b.box.Width) + one(x.box.Height, a.box.Height, y.box.Height, b.box.Height)) / 2
}
