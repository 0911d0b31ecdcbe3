package layout

import (
	"math"
	"slices"
)

// step is what lengths between things are most often a multiple of, px: common practice, no source.
const step = 4

// nearScale is how far what was drawn may be from a length of the scale and still be explained by it, px (half a px comes of centring): the sum over all
// gaps of a container may be twice that.
const nearScale = 0.45

// nearest gives the length of a scale, or without one the multiple of 4, nearest to a length.
func nearest(v float64, scale []float64) float64 {
	if len(scale) == 0 {
		return math.Round(v/step) * step
	}
	i, found := slices.BinarySearch(scale, v)
	switch {
	case found || i == 0:
		return scale[i]
	case i == len(scale) || v-scale[i-1] <= scale[i]-v:
		return scale[i-1]
	}
	return scale[i]
}

// onScale writes gaps and paddings that were drawn beside a length of the scale as that length, where it explains the drawing as
// well. What was drawn on whole px, and evenly, was meant so.
func (p *Part) onScale(scale []float64) {
	for _, v := range []*float64{&p.Padding.Top, &p.Padding.Right, &p.Padding.Bottom, &p.Padding.Left} {
		if s := nearest(*v, scale); *v != math.Round(*v) && math.Abs(s-*v) <= nearScale {
			*v = s
		}
	}
	if p.drawn != nil {
		p.Gap = p.gapOnScale(p.Gap, p.drawn.along, scale)
		p.Across = p.gapOnScale(p.Across, p.drawn.across, scale)
	}
}

func (p *Part) gapOnScale(gap float64, drawn []float64, scale []float64) float64 {
	if len(drawn) == 0 || gap < 0 || gap == math.Round(gap) && slices.Max(drawn)-slices.Min(drawn) < 0.05 {
		return gap
	}
	sum := 0.0
	for _, g := range drawn {
		sum += g
	}
	n := float64(len(drawn))
	if s := nearest(sum/n, scale); s >= slices.Min(drawn)-nearScale && s <= slices.Max(drawn)+nearScale && math.Abs(sum-n*s) <= 2*nearScale {
		return s
	}
	return gap
}
