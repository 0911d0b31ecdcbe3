package survey

import "cobrik/core/design"

// Copies of a family are told from new things by what is the same in them beside the structure: names, words, paint.

// of what corresponds more than leastCopied has to be the same, and leastFamily how like the structures have to be where they group differently.
const (
	leastCopied   = 0.5
	leastFamily   = 0.8
	leastSameSize = 0.5 // of the outer measures
	leastSameLook = 0.7
)

// isCopyOf tells whether a shape is a copy of a drawn variant.
func isCopyOf(s, variant *shape) bool {
	if outside(variant, s) < leastSameSize || looksAlike(variant, s) < leastSameLook {
		return false
	}
	same, all := 0, 0
	var walk func(a, b *shape)
	walk = func(a, b *shape) {
		if all++; sameThing(a, b) {
			same++
		}
		for _, m := range matches(a, b) {
			if m.a >= 0 && m.b >= 0 {
				walk(a.children[m.a], b.children[m.b])
			}
		}
	}
	walk(variant, s)
	return float64(same) > leastCopied*float64(all)
}

// sameThing tells whether two layers have a name, words, or all of their paint and type in common.
func sameThing(a, b *shape) bool {
	if r := a.role(); r != "" && r == b.role() {
		return true
	}
	x, y := ground(a), ground(b)
	if a.what == words && b.what == words {
		return x.Text.Content == y.Text.Content || a.is == b.is && x.Fill == y.Fill && x.Text.FontFamily == y.Text.FontFamily
	}
	return a.is == b.is && (a.what == holder || a.what == block) && paints(x) && x.Fill == y.Fill && x.Stroke.Widths() == y.Stroke.Widths() && x.Corners() == y.Corners()
}

// familyOf finds the family that something drawn with other groups is a copy of; nil for none.
func (o *outline) familyOf(s *shape, near []Near) *design.Family {
	for _, n := range near {
		if n.Kind != NearFamily || n.Likeness < leastFamily {
			continue
		}
		f := o.doc.Family(n.ID)
		if s.root.family == f {
			continue
		}
		flat := flattened(s)
		for _, r := range o.roots {
			if r.family == f && isCopyOf(flat, flattened(r.top)) {
				return f
			}
		}
	}
	return nil
}

// flattened gives a shape whose containers that paint nothing are left out.
func flattened(s *shape) *shape {
	out := *s
	out.children = nil
	var put func(c *shape)
	put = func(c *shape) {
		if c.what == holder && (c.layer == nil || !paints(c.layer)) {
			for _, d := range c.children {
				put(d)
			}
			return
		}
		out.children = append(out.children, flattened(c))
	}
	for _, c := range s.children {
		put(c)
	}
	return &out
}
