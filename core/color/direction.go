package color

import "math"

// arcs holds the arc tangent, in degrees, of every 64th from 0 to 1.
var arcs = func() (t [65]float64) {
	for i := range t {
		t[i] = math.Atan(float64(i)/64) * (180 / math.Pi)
	}
	return t
}()

// direction is the angle of (a, b), in degrees from 0 up to 360; 0 for the
// origin. It is math.Atan2 in about half the time: the arc of the nearest 64th
// and the series of what is left, atan(z) - atan(z0) = atan((z-z0)/(1+z*z0)).
func direction(a, b float64) float64 {
	x, y := math.Abs(a), math.Abs(b)
	low, high := min(x, y), max(x, y)
	if high == 0 {
		return 0
	}
	z := low / high
	i := int(z*64 + 0.5)
	z0 := float64(i) * (1.0 / 64)
	u := (z - z0) / (1 + z*z0)
	u2 := u * u
	h := arcs[i] + (180/math.Pi)*u*(1-u2*(1.0/3-u2*(1.0/5-u2*(1.0/7))))
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
