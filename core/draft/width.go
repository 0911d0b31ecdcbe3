package draft

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/css"
	"cobrik/core/design"
	"cobrik/core/token"
)

// Words that designs have for widths, and for axes of them (common practice, no source).
var (
	widthWords     = []string{"wide", "narrow", "desktop", "laptop", "tablet", "mobile", "phone", "large-screen", "medium-screen", "small-screen"}
	widthAxisWords = []string{"screen", "viewport", "width", "breakpoint", "device"}
)

// drawnSpan is how wide the variants of one value of an axis were drawn, px.
type drawnSpan struct {
	value       string
	least, most float64
}

// widthSpans gives the widths that an axis draws, narrowest first; none when it is no axis of
// widths: its values are words for widths, or it is called one, and no two are drawn equally wide.
func widthSpans(a design.Axis, f *design.Family) (out []drawnSpan) {
	named := slices.ContainsFunc(contract.Words(a.Name), func(w string) bool { return slices.Contains(widthAxisWords, w) })
	for _, v := range a.Values {
		if !named && !slices.Contains(widthWords, strings.Join(contract.Words(v), "-")) {
			return nil
		}
		span := drawnSpan{value: v, least: math.Inf(1)}
		for _, k := range f.Variants {
			if k.Choices[a.Name] == v {
				span.least, span.most = min(span.least, k.Root.Bounds.Width), max(span.most, k.Root.Bounds.Width)
			}
		}
		if span.most == 0 {
			return nil
		}
		out = append(out, span)
	}
	slices.SortFunc(out, func(a, b drawnSpan) int { return int(math.Copysign(1, a.least-b.least)) })
	for i := 1; i < len(out); i++ {
		if out[i].least-out[i-1].most < 2 {
			return nil
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// widthAxis finds the axis of a family that draws widths; false for none.
func widthAxis(f *design.Family) (design.Axis, bool) {
	for _, a := range f.Axes {
		if widthSpans(a, f) != nil {
			return a, true
		}
	}
	return design.Axis{}, false
}

// filling makes a family that is drawn at several widths fill its container in each.
func filling(f *design.Family) *design.Family {
	if _, ok := widthAxis(f); !ok {
		return f
	}
	out := *f
	out.Variants = make([]*design.Variant, len(f.Variants))
	for i, v := range f.Variants {
		filled := *v
		root := *v.Root
		root.Sizing.Width = "fill"
		filled.Root = &root
		out.Variants[i] = &filled
	}
	return &out
}

// drawnWidths gives the widths of the container that each value of an axis is drawn for, the
// default first: every width once. One ends and the next begins at a token's width between the two,
// else halfway.
func drawnWidths(a design.Axis, f *design.Family, tokens *token.Set) (out []contract.DrawnWidth) {
	spans := widthSpans(a, f)
	for i, s := range spans {
		w := contract.DrawnWidth{Axis: a.Name, Value: s.value}
		if i > 0 {
			w.From = switchBetween(spans[i-1].most, s.least, tokens)
		}
		if i+1 < len(spans) {
			w.Below = switchBetween(s.most, spans[i+1].least, tokens)
		}
		out = append(out, w)
	}
	slices.SortStableFunc(out, func(x, y contract.DrawnWidth) int {
		switch {
		case x.Value == a.Default:
			return -1
		case y.Value == a.Default:
			return 1
		}
		return 0
	})
	return out
}

// DrawsWidths tells whether a contract has its widths from an axis.
func DrawsWidths(c *contract.Contract, axis string) bool {
	return len(c.Widths) > 0 && c.Widths[0].Axis == axis
}

// IsWidthAxis tells whether an axis of a family draws widths.
func IsWidthAxis(f *design.Family, a design.Axis) bool { return widthSpans(a, f) != nil }

// AddWidth gives a contract a width that an axis's value draws. It takes its place in the one that was drawn for
// such widths before; every other switch point stays.
func AddWidth(c *contract.Contract, f *design.Family, axis, value string, tokens *token.Set) {
	i := slices.IndexFunc(f.Axes, func(a design.Axis) bool { return a.Name == axis })
	if i < 0 {
		return
	}
	if len(c.Widths) == 0 {
		c.Widths = []contract.DrawnWidth{{Axis: axis, Value: f.Axes[i].Default}}
	}
	drawn := map[string]drawnSpan{}
	for _, s := range widthSpans(f.Axes[i], f) {
		drawn[s.value] = s
	}
	now, ok := drawn[value]
	at := slices.IndexFunc(c.Widths, func(w contract.DrawnWidth) bool { return w.Holds(now.least) })
	if !ok || at < 0 {
		return
	}
	was := c.Widths[at].Range
	below, above := was, was // the parts of it, on either side of where they meet
	beside, known := drawn[c.Widths[at].Value]
	narrower := known && now.most < beside.least
	switch {
	case narrower:
		below.Below = switchBetween(now.most, beside.least, tokens)
	case known:
		below.Below = switchBetween(beside.most, now.least, tokens)
	}
	if below.Below <= was.From || was.Below > 0 && below.Below >= was.Below { // its own is drawn at a width that people gave to another
		below.Below = math.Round(now.least)
		narrower = false
	}
	above.From = below.Below
	if narrower {
		below, above = above, below
	}
	added := contract.DrawnWidth{Axis: axis, Value: value, Range: above}
	c.Widths[at].Range = below
	c.Widths = append(c.Widths, added)
	slices.SortStableFunc(c.Widths[1:], func(x, y contract.DrawnWidth) int { return cmp.Compare(x.From, y.From) })
	c.MoveRange(was, below)
}

// DropWidth takes a width away that is no longer drawn, with the rules for it: the wider one beside it
// takes its place, else the narrower one.
func DropWidth(c *contract.Contract, value string) {
	at := slices.IndexFunc(c.Widths, func(w contract.DrawnWidth) bool { return w.Value == value })
	if at < 0 {
		return
	}
	gone := c.Widths[at].Range
	c.Widths = slices.Delete(slices.Clone(c.Widths), at, at+1)
	c.DropRange(gone)
	heir := slices.IndexFunc(c.Widths, func(w contract.DrawnWidth) bool { return gone.Below > 0 && w.From == gone.Below })
	if heir < 0 {
		heir = slices.IndexFunc(c.Widths, func(w contract.DrawnWidth) bool { return w.Below > 0 && w.Below == gone.From })
	}
	if heir >= 0 {
		was := c.Widths[heir].Range
		now := contract.Range{From: min(was.From, gone.From), Below: was.Below}
		if gone.Below == 0 {
			now.Below = 0
		}
		c.Widths[heir].Range = now
		c.MoveRange(was, now)
	}
	if len(c.Widths) == 1 {
		c.DropRange(c.Widths[0].Range) // nothing else is left to be told from
		c.Widths = nil
	}
}

// switchWords are words in the paths of tokens that switch points have (common practice, no source).
var switchWords = []string{"breakpoint", "breakpoints", "screen", "switch", "viewport", "container"}

func switchBetween(narrow, wide float64, tokens *token.Set) float64 {
	for _, t := range tokens.All() {
		words := contract.Words(t.Path)
		px, ok := css.Pixels(t.Value)
		if ok && px > narrow && px <= wide && slices.ContainsFunc(words, func(w string) bool { return slices.Contains(switchWords, w) }) {
			return px
		}
	}
	return math.Round((narrow + wide) / 2)
}
