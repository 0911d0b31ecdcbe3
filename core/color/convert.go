package color

import "math"

// vec is three components. As a struct it stays in registers; an array would not.
type vec struct{ x, y, z float64 }

type matrix [3]vec

func (m *matrix) times(v vec) vec {
	return vec{
		m[0].x*v.x + m[0].y*v.y + m[0].z*v.z,
		m[1].x*v.x + m[1].y*v.y + m[1].z*v.z,
		m[2].x*v.x + m[2].y*v.y + m[2].z*v.z,
	}
}

func cross(a, b vec) vec {
	return vec{a.y*b.z - a.z*b.y, a.z*b.x - a.x*b.z, a.x*b.y - a.y*b.x}
}

// inverse has the rows' cross products as columns; every matrix here is well
// away from singular.
func (m matrix) inverse() matrix {
	a, b, c := cross(m[1], m[2]), cross(m[2], m[0]), cross(m[0], m[1])
	det := m[0].x*a.x + m[0].y*a.y + m[0].z*a.z
	return matrix{{a.x / det, b.x / det, c.x / det}, {a.y / det, b.y / det, c.y / det}, {a.z / det, b.z / det, c.z / det}}
}

// after is the product: first b, then m.
func (m matrix) after(b matrix) matrix {
	columns := [3]vec{}
	for i, c := range [3]vec{{b[0].x, b[1].x, b[2].x}, {b[0].y, b[1].y, b[2].y}, {b[0].z, b[1].z, b[2].z}} {
		columns[i] = m.times(c)
	}
	x, y, z := columns[0], columns[1], columns[2]
	return matrix{{x.x, y.x, z.x}, {x.y, y.y, z.y}, {x.z, y.z, z.z}}
}

// CSS Color 4, section 17, "Sample code for color conversions": linear light to
// XYZ (D65 but for ProPhoto, which is relative to D50).
var (
	srgbToXYZ = matrix{
		{506752.0 / 1228815, 87881.0 / 245763, 12673.0 / 70218},
		{87098.0 / 409605, 175762.0 / 245763, 12673.0 / 175545},
		{7918.0 / 409605, 87881.0 / 737289, 1001167.0 / 1053270},
	}
	p3ToXYZ = matrix{
		{608311.0 / 1250200, 189793.0 / 714400, 198249.0 / 1000160},
		{35783.0 / 156275, 247089.0 / 357200, 198249.0 / 2500400},
		{0, 32229.0 / 714400, 5220557.0 / 5000800},
	}
	a98ToXYZ = matrix{
		{573536.0 / 994567, 263643.0 / 1420810, 187206.0 / 994567},
		{591459.0 / 1989134, 6239551.0 / 9945670, 374412.0 / 4972835},
		{53769.0 / 1989134, 351524.0 / 4972835, 4929758.0 / 4972835},
	}
	rec2020ToXYZ = matrix{
		{63426534.0 / 99577255, 20160776.0 / 139408157, 47086771.0 / 278816314},
		{26158966.0 / 99577255, 472592308.0 / 697040785, 8267143.0 / 139408157},
		{0, 19567812.0 / 697040785, 295819943.0 / 278816314},
	}
	prophotoToXYZ50 = matrix{
		{0.79776664490064230, 0.13518129740053308, 0.03134773412839220},
		{0.28807482881940130, 0.71183523424187300, 0.00008993693872564},
		{0, 0, 0.82510460251046020},
	}
	d50ToD65 = d65ToD50.inverse()
	d65ToD50 = matrix{ // linear Bradford
		{1.0479297925449969, 0.022946870601609652, -0.05019226628920524},
		{0.02962780877005599, 0.9904344267538799, -0.017073799063418826},
		{-0.009243040646204504, 0.015055191490298152, 0.7518742814281371},
	}
	xyzToLMS = matrix{
		{0.8190224379967030, 0.3619062600528904, -0.1288737815209879},
		{0.0329836539323885, 0.9292868615863434, 0.0361446663506424},
		{0.0481771893596242, 0.2642395317527308, 0.6335478284694309},
	}
	lmsToOKLab = matrix{
		{0.2104542683093140, 0.7936177747023054, -0.0040720430116193},
		{1.9779985324311684, -2.4285922420485799, 0.4505937096174110},
		{0.0259040424655478, 0.7827717124575296, -0.8086757549230774},
	}

	xyzToSRGB       = srgbToXYZ.inverse()
	xyzToP3         = p3ToXYZ.inverse()
	xyzToA98        = a98ToXYZ.inverse()
	xyzToRec2020    = rec2020ToXYZ.inverse()
	xyz50ToProphoto = prophotoToXYZ50.inverse()
	lmsToXYZ        = xyzToLMS.inverse()
	okLabToLMS      = lmsToOKLab.inverse()

	srgbToLMS   = xyzToLMS.after(srgbToXYZ)
	srgbToXYZ50 = d65ToD50.after(srgbToXYZ)
)

// To converts to another space. Components may leave the space's range: see
// Color.In and Color.Mapped. A missing component counts as 0; a hue that the
// result does not have is none (CSS Color 4, section 12.1).
func (c Color) To(space Space) (out Color) {
	if c.Space == space {
		return c
	}
	v := c.values()
	var to vec
	switch {
	case c.Space == SRGB && space == HSL:
		to = rgbToHSL(v)
	case c.Space <= HWB && space <= HWB: // sRGB and its forms
		to = fromSRGB(space, toSRGB(c.Space, v))
	case c.Space <= HWB && (space == OKLab || space == OKLCH):
		to = fromLMS(space, srgbToLMS.times(linear(c.Space, v)))
	case c.Space <= HWB && (space == Lab || space == LCH):
		to = fromXYZ50(space, srgbToXYZ50.times(linear(c.Space, v)))
	case c.Space == OKLCH && space == OKLab, c.Space == LCH && space == Lab:
		to = cartesian(v)
	case c.Space == OKLab && space == OKLCH, c.Space == Lab && space == LCH:
		to = polar(v)
	default:
		to = fromXYZ(space, toXYZ(c.Space, v))
	}
	out.Space, out.Alpha = space, c.Alpha
	to = powerless(space, to)
	out.V[0], out.V[1], out.V[2] = to.x, to.y, to.z
	return out
}

// linear gives linear-light sRGB for sRGB and its forms.
func linear(space Space, v vec) vec {
	switch space {
	case SRGBLinear:
		return v
	case SRGB:
	default:
		v = toSRGB(space, v)
	}
	return vec{srgbDecode(v.x), srgbDecode(v.y), srgbDecode(v.z)}
}

// powerless marks the hue of a colour without chroma as none. The thresholds
// are those of CSS Color 4 (7, 8, 9.3, 9.4).
func powerless(space Space, v vec) vec {
	switch space {
	case HSL:
		if v.y <= 0.001 {
			v.x = None
		}
	case HWB:
		if v.y+v.z >= 99.999 {
			v.x = None
		}
	case LCH:
		if v.y <= 0.0015 {
			v.z = None
		}
	case OKLCH:
		if v.y <= 0.000004 {
			v.z = None
		}
	}
	return v
}

func each(v vec, f func(float64) float64) vec { return vec{f(v.x), f(v.y), f(v.z)} }

// toSRGB gives gamma-encoded sRGB for sRGB and its forms.
func toSRGB(space Space, v vec) vec {
	switch space {
	case SRGBLinear:
		return each(v, srgbEncode)
	case HSL:
		return hslToRGB(v.x, v.y/100, v.z/100)
	case HWB:
		return hwbToRGB(v.x, v.y/100, v.z/100)
	}
	return v
}

func fromSRGB(space Space, v vec) vec {
	switch space {
	case SRGBLinear:
		return each(v, srgbDecode)
	case HSL:
		return rgbToHSL(v)
	case HWB:
		return rgbToHWB(v)
	}
	return v
}

func toXYZ(space Space, v vec) vec {
	switch space {
	case DisplayP3:
		return p3ToXYZ.times(each(v, srgbDecode))
	case A98:
		return a98ToXYZ.times(each(v, a98Decode))
	case ProPhoto:
		return d50ToD65.times(prophotoToXYZ50.times(each(v, prophotoDecode)))
	case Rec2020:
		return rec2020ToXYZ.times(each(v, rec2020Decode))
	case XYZD65:
		return v
	case XYZD50:
		return d50ToD65.times(v)
	case LCH:
		return d50ToD65.times(labToXYZ50(cartesian(v)))
	case Lab:
		return d50ToD65.times(labToXYZ50(v))
	case OKLCH:
		return lmsToXYZ.times(toLMS(cartesian(v)))
	case OKLab:
		return lmsToXYZ.times(toLMS(v))
	}
	return srgbToXYZ.times(linear(space, v))
}

func fromXYZ(space Space, v vec) vec {
	switch space {
	case SRGBLinear:
		return xyzToSRGB.times(v)
	case DisplayP3:
		return each(xyzToP3.times(v), srgbEncode)
	case A98:
		return each(xyzToA98.times(v), a98Encode)
	case ProPhoto:
		return each(xyz50ToProphoto.times(d65ToD50.times(v)), prophotoEncode)
	case Rec2020:
		return each(xyzToRec2020.times(v), rec2020Encode)
	case XYZD65:
		return v
	case XYZD50:
		return d65ToD50.times(v)
	case LCH, Lab:
		return fromXYZ50(space, d65ToD50.times(v))
	case OKLCH, OKLab:
		return fromLMS(space, xyzToLMS.times(v))
	}
	return fromSRGB(space, each(xyzToSRGB.times(v), srgbEncode))
}

func toLMS(lab vec) vec {
	return each(okLabToLMS.times(lab), func(v float64) float64 { return v * v * v })
}

func fromLMS(space Space, lms vec) vec {
	v := lmsToOKLab.times(vec{cbrt(lms.x), cbrt(lms.y), cbrt(lms.z)})
	if space == OKLCH {
		return polar(v)
	}
	return v
}

func cartesian(v vec) vec {
	sin, cos := math.Sincos(v.z * (math.Pi / 180))
	return vec{v.x, v.y * cos, v.y * sin}
}

func polar(v vec) vec {
	return vec{v.x, math.Sqrt(v.y*v.y + v.z*v.z), direction(v.y, v.z)}
}

// CSS Color 4, 9.1: the CIE's ε and κ as fractions, the D50 white of CSS.
const labEpsilon, labKappa = 216.0 / 24389, 24389.0 / 27

var (
	white50    = vec{0.3457 / 0.3585, 1, (1 - 0.3457 - 0.3585) / 0.3585}
	perWhite50 = vec{1 / white50.x, 1, 1 / white50.z}
)

func labToXYZ50(v vec) vec {
	f1 := (v.x + 16) / 116
	f0, f2 := v.y/500+f1, f1-v.z/200
	pick := func(f float64) float64 {
		if cube := f * f * f; cube > labEpsilon {
			return cube
		}
		return (116*f - 16) / labKappa
	}
	y := v.x / labKappa
	if v.x > labKappa*labEpsilon {
		y = f1 * f1 * f1
	}
	return vec{pick(f0) * white50.x, y * white50.y, pick(f2) * white50.z}
}

// fromXYZ50 gives Lab or LCH.
func fromXYZ50(space Space, v vec) vec {
	root := func(n float64) float64 {
		if n > labEpsilon {
			return cubeRoot.of(n)
		}
		return (labKappa*n + 16) / 116
	}
	f := vec{root(v.x * perWhite50.x), root(v.y), root(v.z * perWhite50.z)}
	lab := vec{116*f.y - 16, 500 * (f.x - f.y), 200 * (f.y - f.z)}
	if space == LCH {
		return polar(lab)
	}
	return lab
}

// hslToRGB follows CSS Color 4, 7.1.
func hslToRGB(h, s, l float64) vec {
	h = math.Mod(h, 360)
	if h < 0 {
		h += 360
	}
	f := func(n float64) float64 {
		k := math.Mod(n+h/30, 12)
		return l - s*min(l, 1-l)*max(-1, min(k-3, 9-k, 1))
	}
	return vec{f(0), f(8), f(4)}
}

// rgbToHSL follows CSS Color 4, 7.2, with its care for colours out of range.
func rgbToHSL(v vec) vec {
	r, g, b := v.x, v.y, v.z
	// The greatest and the least, how far the other two are apart, and where the hue is counted from.
	top, low, apart, from := r, g, g-b, 0.0
	switch {
	case r >= g && r >= b:
		if b < g {
			low = b
		} else if g < b {
			from = 360
		}
	case g >= b:
		top, low, apart, from = g, r, b-r, 120
		if b < r {
			low = b
		}
	default:
		top, apart, from = b, r-g, 240
		if r < g {
			low = r
		}
	}
	l, d := (top+low)*0.5, top-low
	var h, s float64
	if d != 0 {
		room := l
		if l > 0.5 {
			room = 1 - l
		}
		if room != 0 {
			s = d * 0.5 / room
		}
		h = apart*60/d + from
	}
	if s < 0 {
		h, s = h+180, -s
	}
	if h >= 360 {
		h -= 360
	}
	return vec{h, s * 100, l * 100}
}

// hwbToRGB follows CSS Color 4, 8.1.
func hwbToRGB(h, w, b float64) vec {
	if w+b >= 1 {
		grey := w / (w + b)
		return vec{grey, grey, grey}
	}
	return each(hslToRGB(h, 1, 0.5), func(v float64) float64 { return v*(1-w-b) + w })
}

// rgbToHWB follows CSS Color 4, 8.2.
func rgbToHWB(v vec) vec {
	return vec{rgbToHSL(v).x, min(v.x, v.y, v.z) * 100, (1 - max(v.x, v.y, v.z)) * 100}
}
