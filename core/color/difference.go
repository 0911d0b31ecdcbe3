package color

import "math"

// Difference is CIEDE2000 between two colours, from 0; about 1 is just
// noticeable. Alpha is not looked at. Sharma, Wu and Dalal, "The CIEDE2000
// Color-Difference Formula", 2005, with all weights 1.
func Difference(a, b Color) float64 {
	p, q := a.To(Lab).values(), b.To(Lab).values()
	return ciede2000(p, q)
}

func ciede2000(p, q vec) float64 {
	c1, c2 := math.Hypot(p.y, p.z), math.Hypot(q.y, q.z)
	g := 0.5 * (1 - seventh((c1+c2)/2))
	a1, a2 := (1+g)*p.y, (1+g)*q.y
	c1, c2 = math.Hypot(a1, p.z), math.Hypot(a2, q.z)
	h1, h2 := direction(a1, p.z), direction(a2, q.z)

	dl, dc, dh := q.x-p.x, c2-c1, 0.0
	if c1*c2 != 0 {
		switch dh = h2 - h1; {
		case dh > 180+opposite:
			dh -= 360
		case dh < -180-opposite:
			dh += 360
		}
	}
	dH := 2 * math.Sqrt(c1*c2) * math.Sin(radians(dh/2))

	l, c, h := (p.x+q.x)/2, (c1+c2)/2, h1+h2
	if c1*c2 != 0 {
		switch {
		case math.Abs(h1-h2) <= 180+opposite:
			h /= 2
		case h < 360:
			h = (h + 360) / 2
		default:
			h = (h - 360) / 2
		}
	}
	t := 1 - 0.17*math.Cos(radians(h-30)) + 0.24*math.Cos(radians(2*h)) +
		0.32*math.Cos(radians(3*h+6)) - 0.20*math.Cos(radians(4*h-63))
	sl := 1 + 0.015*sq(l-50)/math.Sqrt(20+sq(l-50))
	sc := 1 + 0.045*c
	sh := 1 + 0.015*c*t
	turn := 60 * math.Exp(-sq((h-275)/25))
	rt := -math.Sin(radians(turn)) * 2 * seventh(c)
	dl, dc, dH = dl/sl, dc/sc, dH/sh
	return math.Sqrt(dl*dl + dc*dc + dH*dH + rt*dc*dH)
}

// opposite is how far from 180° two opposite hues may come to be by rounding:
// the formula jumps there, and pair 14 of its authors' table stands on the edge.
const opposite = 1e-9

// seventh is sqrt(c⁷ / (c⁷ + 25⁷)).
func seventh(c float64) float64 {
	c7 := math.Pow(c, 7)
	return math.Sqrt(c7 / (c7 + 6103515625))
}

func radians(degrees float64) float64 { return degrees * (math.Pi / 180) }
