package draft

import (
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
