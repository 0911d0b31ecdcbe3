package survey

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/design"
)

// What a thing shows, where copies show different ones: texts, pictures, links, and how much of something it fills.

// content proposes a prop of what a spot shows, where copies show different things.
func (p *proposer) content(s *spot) {
	switch {
	case s.of != nil:
		p.list(s)
		return
	case s.unlike:
		p.add(s, p.slotName(s), "Slot", contract.SlotKind, func(i int) any { return idOf(s.cells[i]) })
		return
	}
	switch kind := s.kinds(); {
	case kind == 1<<words:
		p.text(s)
	case kind == 1<<picture || kind == 1<<drawing || kind == 1<<picture|1<<drawing:
		p.image(s)
	case kind == 1<<use:
		p.uses(s)
	case kind == 1<<place:
	}
	p.link(s)
	p.share(s)
}

// kinds is the set of what a spot shows in copies.
func (s *spot) kinds() (out int) {
	for _, c := range s.cells {
		if c != nil {
			out |= 1 << c.what
		}
	}
	return out
}

// differs tells whether copies that have a thing say different things of it.
func (s *spot) differs(say func(*shape) string) bool {
	first, said := "", false
	for _, c := range s.cells {
		if c == nil {
			continue
		}
		v := say(c)
		if said && v != first {
			return true
		}
		first, said = v, true
	}
	return false
}

// number is a text that is nothing but a number.
var number = regexp.MustCompile(`^[+-]?\d+([.,]\d+)?$`)

func (p *proposer) text(s *spot) {
	content := func(c *shape) string { return c.layer.Text.Content }
	if !s.differs(content) {
		return
	}
	rich, numbers := false, true
	for _, c := range s.cells {
		if c != nil {
			rich = rich || styled(c.layer.Text.Runs)
			numbers = numbers && number.MatchString(strings.TrimSpace(content(c)))
		}
	}
	kind := contract.TextKind
	switch {
	case rich:
		kind = contract.RichKind
	case numbers:
		kind = contract.NumberKind
	}
	p.add(s, p.name(s), "Text", kind, func(i int) any {
		if s.cells[i] == nil {
			return nil
		}
		return content(s.cells[i])
	})
}

func styled(runs []design.Run) bool {
	return slices.ContainsFunc(runs, func(r design.Run) bool { return r.Strong || r.Emphasis || r.Code || r.Link != "" })
}

func (p *proposer) image(s *spot) {
	if !s.differs(paths) {
		return
	}
	kind := contract.IconKind
	for _, c := range s.cells {
		if c != nil && (c.what == picture || !isIcon(c)) {
			kind = contract.ImageKind
		}
	}
	p.add(s, p.name(s), "Picture", kind, func(i int) any {
		c := s.cells[i]
		if c == nil {
			return nil
		}
		if c.layer.Image != nil && c.layer.Image.Asset != "" {
			return c.layer.Image.Asset
		}
		return c.id()
	})
}

// isIcon tells whether a drawing is small enough to be an icon.
func isIcon(s *shape) bool { return max(s.box.Width, s.box.Height) <= largestIcon }

// paths is what a drawing or a picture shows, wherever it stands and whatever its colours are.
func paths(s *shape) string {
	var b strings.Builder
	s.layer.Walk(func(l *design.Layer, _, _ float64) {
		switch {
		case l.Image != nil:
			b.WriteString(l.Image.Asset)
		case l.Vector != nil:
			for _, path := range l.Vector.Paths {
				b.WriteString(path.D)
			}
		}
		b.WriteByte(0)
	})
	return b.String()
}

func (p *proposer) link(s *spot) {
	to := func(c *shape) string {
		if c.outer == nil {
			return ""
		}
		return cmp.Or(c.outer.Link, c.layer.Link)
	}
	if !s.differs(to) {
		return
	}
	p.add(s, "href", "Link", contract.LinkKind, func(i int) any {
		if s.cells[i] == nil || to(s.cells[i]) == "" {
			return nil
		}
		return to(s.cells[i])
	})
}

// share proposes a number where a box fills what holds it to another share in each copy: from one edge on, over the other measure.
func (p *proposer) share(s *spot) {
	if s.around == nil || s.kinds() != 1<<block {
		return
	}
	if s.around.model.layer == nil {
		p.bar(s)
		return
	}
	if !paints(s.around.model.layer) {
		return
	}
	for _, across := range []bool{true, false} {
		shares := make([]float64, len(s.cells))
		least, most := 2.0, -1.0
		fits := true
		for i, c := range s.cells {
			if c == nil {
				continue
			}
			b, in := s.relative(i), s.around.cells[i].box
			at, size, room, other, otherRoom := b.X, b.Width, in.Width, b.Height, in.Height
			if !across {
				at, size, room, other, otherRoom = in.Height-b.Y-b.Height, b.Height, in.Height, b.Width, in.Width
			}
			fits = fits && math.Abs(at) <= near && math.Abs(other-otherRoom) <= 2*near && room > 0 && otherRoom < room
			shares[i] = size / room
			least, most = min(least, shares[i]), max(most, shares[i])
		}
		if !fits || most-least < 0.04 || least < 0 || most > 1.02 {
			continue
		}
		p.add(s, p.name(s), "Share", contract.NumberKind, func(i int) any {
			if s.cells[i] == nil {
				return nil
			}
			return math.Round(shares[i] * 100)
		})
		return
	}
}

// leastBar is from how much shorter a bar may be than the longest on that this says something.
const leastBar = 0.85

// bar proposes how long a bar is, of the longest, that stands loose with what is written at it: all are as thick, and nothing around them says how long they may be.
func (p *proposer) bar(s *spot) {
	for _, across := range []bool{true, false} {
		lengths := make([]float64, len(s.cells))
		longest, shortest, thickest, thinnest := 0.0, math.Inf(1), 0.0, math.Inf(1)
		for i, c := range s.cells {
			if c == nil {
				return
			}
			long, thick := c.box.Width, c.box.Height
			if !across {
				long, thick = thick, long
			}
			lengths[i] = long
			longest, shortest, thickest, thinnest = max(longest, long), min(shortest, long), max(thickest, thick), min(thinnest, thick)
		}
		if thickest-thinnest > near || shortest > leastBar*longest {
			continue
		}
		p.add(s, p.name(s), "Share", contract.NumberKind, func(i int) any { return math.Round(100 * lengths[i] / longest) })
		return
	}
}
