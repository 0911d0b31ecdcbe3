package color

import "math"

// gamut gives the RGB space whose range a space shares; false for spaces
// without a range.
func gamut(space Space) (Space, bool) {
	switch space {
	case HSL, HWB:
		return SRGB, true
	case SRGB, SRGBLinear, DisplayP3, A98, ProPhoto, Rec2020:
		return space, true
	}
	return space, false
}

// slack is how far past its range a component may be from rounding alone.
const slack = 0.000075

// In tells whether a space can show the colour.
func (c Color) In(space Space) bool {
	rgb, bounded := gamut(space)
	if !bounded {
		return true
	}
	v := c.To(rgb).values()
	return min(v.x, v.y, v.z) >= -slack && max(v.x, v.y, v.z) <= 1+slack
}

// Mapped converts to a space and, where that cannot show the colour, lowers its
// OKLCH chroma until clipping makes no noticeable difference (CSS Color 4,
// section 13.2, "binary search gamut mapping with local MINDE").
func (c Color) Mapped(space Space) Color {
	rgb, bounded := gamut(space)
	if !bounded || c.In(space) {
		return c.To(space)
	}
	const justNoticeable, epsilon = 0.02, 0.0001
	current := c.To(OKLCH)
	lightness := current.V[0]
	if lightness >= 1 || lightness <= 0 {
		v := min(max(lightness, 0), 1)
		v = math.Round(v)
		return Color{rgb, [3]float64{v, v, v}, c.Alpha}.To(space)
	}
	clipped := current.clip(rgb)
	if differenceOK(clipped, current) < justNoticeable {
		return clipped.To(space)
	}
	low, high := 0.0, current.V[1]
	lowFits := true
	for high-low > epsilon {
		current.V[1] = (low + high) / 2
		if lowFits && current.In(rgb) {
			low = current.V[1]
			continue
		}
		clipped = current.clip(rgb)
		e := differenceOK(clipped, current)
		switch {
		case e >= justNoticeable:
			high = current.V[1]
		case justNoticeable-e < epsilon:
			return clipped.To(space)
		default:
			lowFits = false
			low = current.V[1]
		}
	}
	return clipped.To(space)
}

func (c Color) clip(rgb Space) Color {
	out := c.To(rgb)
	for i, v := range out.V {
		out.V[i] = min(max(v, 0), 1)
	}
	return out
}

// differenceOK is deltaEOK: the distance in OKLab (CSS Color 4, 13.1.1).
func differenceOK(a, b Color) float64 {
	p, q := a.To(OKLab).values(), b.To(OKLab).values()
	return math.Sqrt(sq(p.x-q.x) + sq(p.y-q.y) + sq(p.z-q.z))
}

func sq(v float64) float64 { return v * v }
