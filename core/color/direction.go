package color

import "math"

// arcs holds the arc tangent, in degrees, of every 128th from 0 to 1.
var arcs = func() (t [129]float64) {
	for i := range t {
		t[i] = math.Atan(float64(i)/128) * (180 / math.Pi)
	}
	return t
}()

// direction is the angle of (a, b), in degrees from 0 up to 360; 0 for the
// origin. It is math.Atan2 in about half the time: the arc of the nearest 128th
// and the series of what is left, atan(z) - atan(z0) = atan((z-z0)/(1+z*z0)).
func direction(a, b float64) float64 {
	x, y := math.Abs(a), math.Abs(b)
	low, high := min(x, y), max(x, y)
	if high == 0 {
		return 0
	}
	// The nearest 128th need not be told exactly: a quotient of single precision is sooner there.
	i := 0
	if high > 1e-30 && high < 1e30 {
		i = int(float32(low)/float32(high)*128 + 0.5)
	} else {
		i = int(low/high*128 + 0.5)
	}
	z0 := float64(i) * (1.0 / 128)
	u := (low - z0*high) / (high + z0*low)
	u2 := u * u
	h := arcs[i] + u*(180/math.Pi-u2*(180/math.Pi/3-u2*(180/math.Pi/5)))
	if y > x {
		h = 90 - h
	}
	if a < 0 {
		h = 180 - h
	}
	if b < 0 {
		h = 360 - h
	}
	if h >= 360 {
		return 0
	}
	return h
}
