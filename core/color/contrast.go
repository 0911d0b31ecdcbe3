package color

// Over paints the colour over an opaque ground, in sRGB as browsers do
// (Compositing 1, 5.1, source over).
func (c Color) Over(ground Color) Color {
	a, top, under := c.opacity(), c.Mapped(SRGB).values(), ground.Mapped(SRGB).values()
	blend := func(t, u float64) float64 { return t*a + u*(1-a) }
	return Color{SRGB, [3]float64{blend(top.x, under.x), blend(top.y, under.y), blend(top.z, under.z)}, 1}
}

// Luminance is WCAG 2.2's relative luminance, from 0 for black to 1 for white.
// Alpha is not looked at. WCAG's threshold of 0.04045 is sRGB's own.
func (c Color) Luminance() float64 {
	v := linear(SRGB, each(c.Mapped(SRGB).values(), func(n float64) float64 { return min(max(n, 0), 1) }))
	return 0.2126*v.x + 0.7152*v.y + 0.0722*v.z
}

// Contrast is WCAG 2.2's contrast ratio, 1 to 21, of a colour on a ground. A
// colour that is not opaque is blended over its ground first; a ground that is
// not opaque over white.
func Contrast(text, ground Color) float64 {
	ground = ground.Over(Color{SRGB, [3]float64{1, 1, 1}, 1})
	a, b := text.Over(ground).Luminance(), ground.Luminance()
	return (max(a, b) + 0.05) / (min(a, b) + 0.05)
}

// Contrast's thresholds in WCAG 2.2: 1.4.3 (text), 1.4.6 (text, enhanced) and
// 1.4.11 (graphics and controls).
const (
	TextAA  = 4.5
	TextAAA = 7
	NonText = 3
)

// Mix gives the colour at a part of the way, 0 to 1, from one to another in sRGB, each weighed by
// how opaque it is (CSS Color 4, 12.3).
func Mix(from, to Color, part float64) Color {
	a, b := from.Mapped(SRGB), to.Mapped(SRGB)
	x, y := a.opacity()*(1-part), b.opacity()*part
	u, v := a.values(), b.values()
	alpha := x + y
	if alpha == 0 {
		return Color{SRGB, [3]float64{u.x, u.y, u.z}, 0}
	}
	mixed := func(p, q float64) float64 { return (p*x + q*y) / alpha }
	return Color{SRGB, [3]float64{mixed(u.x, v.x), mixed(u.y, v.y), mixed(u.z, v.z)}, alpha}
}
