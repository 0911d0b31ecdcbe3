package design

import (
	"image"
	"math"
)

// sheet holds pixels: red, green, blue and alpha, 0 to 1, premultiplied.
type sheet struct {
	w, h   int
	pixels [][4]float32
}

func newSheet(w, h int) *sheet { return &sheet{w, h, make([][4]float32, w*h)} }

// paint lays a shade over what is there, as much as the mask says.
func (s *sheet) paint(mask []float32, with shade) {
	for i, part := range mask {
		if part <= 0 {
			continue
		}
		c := with(i%s.w, i/s.w)
		under := &s.pixels[i]
		rest := 1 - c[3]*part
		for k := range under {
			under[k] = c[k]*part + under[k]*rest
		}
	}
}

// blend lays another sheet over this one (Compositing 1). The mask may be nil.
func (s *sheet) blend(over *sheet, mode string, opacity float32, mask []float32) {
	mix := blendOf(mode)
	for i := range over.pixels {
		part := opacity
		if mask != nil {
			part *= mask[i]
		}
		c, under := over.pixels[i], &s.pixels[i]
		if part <= 0 || c[3] <= 0 {
			continue
		}
		for k := range c {
			c[k] *= part
		}
		switch {
		case mode == "plus-lighter":
			for k := range under {
				under[k] = min(1, under[k]+c[k])
			}
			continue
		case mix != nil && under[3] > 0:
			var source, backdrop [3]float32
			for k := range 3 {
				source[k], backdrop[k] = c[k]/c[3], under[k]/under[3]
			}
			mixed := mix(backdrop, source)
			for k := range 3 {
				c[k] = c[3] * ((1-under[3])*source[k] + under[3]*mixed[k])
			}
		}
		for k := range under {
			under[k] = c[k] + under[k]*(1-c[3])
		}
	}
}

// blendOf gives how a mode mixes two colours; nil for normal (Compositing 1, blend modes).
func blendOf(mode string) func(backdrop, source [3]float32) [3]float32 {
	separable := func(f func(b, s float32) float32) func(b, s [3]float32) [3]float32 {
		return func(b, s [3]float32) (out [3]float32) {
			for k := range out {
				out[k] = f(b[k], s[k])
			}
			return out
		}
	}
	multiply := func(b, s float32) float32 { return b * s }
	screen := func(b, s float32) float32 { return b + s - b*s }
	hardLight := func(b, s float32) float32 {
		if s <= 0.5 {
			return multiply(b, 2*s)
		}
		return screen(b, 2*s-1)
	}
	switch mode {
	case "multiply":
		return separable(multiply)
	case "screen":
		return separable(screen)
	case "overlay":
		return separable(func(b, s float32) float32 { return hardLight(s, b) })
	case "darken":
		return separable(func(b, s float32) float32 { return min(b, s) })
	case "lighten":
		return separable(func(b, s float32) float32 { return max(b, s) })
	case "color-dodge":
		return separable(func(b, s float32) float32 {
			switch {
			case b == 0:
				return 0
			case s >= 1:
				return 1
			}
			return min(1, b/(1-s))
		})
	case "color-burn":
		return separable(func(b, s float32) float32 {
			switch {
			case b >= 1:
				return 1
			case s <= 0:
				return 0
			}
			return 1 - min(1, (1-b)/s)
		})
	case "hard-light":
		return separable(hardLight)
	case "soft-light":
		return separable(softLight)
	case "difference":
		return separable(func(b, s float32) float32 { return float32(math.Abs(float64(b - s))) })
	case "exclusion":
		return separable(func(b, s float32) float32 { return b + s - 2*b*s })
	case "hue":
		return func(b, s [3]float32) [3]float32 {
			return withLuminosity(withSaturation(s, saturation(b)), luminosity(b))
		}
	case "saturation":
		return func(b, s [3]float32) [3]float32 {
			return withLuminosity(withSaturation(b, saturation(s)), luminosity(b))
		}
	case "color":
		return func(b, s [3]float32) [3]float32 { return withLuminosity(s, luminosity(b)) }
	case "luminosity":
		return func(b, s [3]float32) [3]float32 { return withLuminosity(b, luminosity(s)) }
	}
	return nil
}

func softLight(b, s float32) float32 {
	if s <= 0.5 {
		return b - (1-2*s)*b*(1-b)
	}
	d := float32(math.Sqrt(float64(b)))
	if b <= 0.25 {
		d = ((16*b-12)*b + 4) * b
	}
	return b + (2*s-1)*(d-b)
}

func luminosity(c [3]float32) float32 { return 0.3*c[0] + 0.59*c[1] + 0.11*c[2] }

func saturation(c [3]float32) float32 { return max(c[0], c[1], c[2]) - min(c[0], c[1], c[2]) }

// withLuminosity moves a colour to a luminosity, and back into what can be shown.
func withLuminosity(c [3]float32, l float32) [3]float32 {
	d := l - luminosity(c)
	for k := range c {
		c[k] += d
	}
	l = luminosity(c)
	low, high := min(c[0], c[1], c[2]), max(c[0], c[1], c[2])
	for k := range c {
		if low < 0 {
			c[k] = l + (c[k]-l)*l/(l-low)
		}
		if high > 1 {
			c[k] = l + (c[k]-l)*(1-l)/(high-l)
		}
	}
	return c
}

// withSaturation stretches a colour to a saturation.
func withSaturation(c [3]float32, s float32) [3]float32 {
	low, span := min(c[0], c[1], c[2]), saturation(c)
	for k := range c {
		if span > 0 {
			c[k] = (c[k] - low) * s / span
		} else {
			c[k] = 0
		}
	}
	return c
}

// image gives the pixels as they are kept in files.
func (s *sheet) image() *image.NRGBA {
	out := image.NewNRGBA(image.Rect(0, 0, s.w, s.h))
	for i, c := range s.pixels {
		a := c[3]
		for k := range 4 {
			v := c[k]
			if k < 3 && a > 0 {
				v /= a
			}
			out.Pix[4*i+k] = uint8(math.Round(float64(min(max(v, 0), 1)) * 255))
		}
	}
	return out
}
