package design

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// matrix is an SVG transform: x' = a·x + c·y + e, y' = b·x + d·y + f (SVG 2, 8.5).
type matrix struct{ a, b, c, d, e, f float64 }

var identity = matrix{a: 1, d: 1}

func (m matrix) times(n matrix) matrix {
	return matrix{m.a*n.a + m.c*n.b, m.b*n.a + m.d*n.b, m.a*n.c + m.c*n.d, m.b*n.c + m.d*n.d, m.a*n.e + m.c*n.f + m.e, m.b*n.e + m.d*n.f + m.f}
}

func (m matrix) at(x, y float64) (float64, float64) {
	return m.a*x + m.c*y + m.e, m.b*x + m.d*y + m.f
}

// inverse undoes the transform; one that flattens everything has none, and gives no change.
func (m matrix) inverse() matrix {
	det := m.a*m.d - m.b*m.c
	if det == 0 {
		return identity
	}
	return matrix{m.d / det, -m.b / det, -m.c / det, m.a / det, (m.c*m.f - m.d*m.e) / det, (m.b*m.e - m.a*m.f) / det}
}

// scale is how much longer lengths become, on average.
func (m matrix) scale() float64 { return math.Sqrt(math.Abs(m.a*m.d - m.b*m.c)) }

// square tells whether the axes stay axes, also where they change places or are mirrored.
func (m matrix) square() bool {
	small := 1e-9 * (math.Abs(m.a) + math.Abs(m.b) + math.Abs(m.c) + math.Abs(m.d))
	return math.Abs(m.b) <= small && math.Abs(m.c) <= small || math.Abs(m.a) <= small && math.Abs(m.d) <= small
}

// even tells whether all lengths are scaled alike, mirrored or not.
func (m matrix) even() bool {
	x, y := math.Hypot(m.a, m.b), math.Hypot(m.c, m.d)
	return math.Abs(x-y) <= 1e-3*max(x, y) && math.Abs(m.a*m.c+m.b*m.d) <= 1e-3*x*y
}

// flat tells whether the transform leaves nothing but a line.
func (m matrix) flat() bool { return math.Abs(m.a*m.d-m.b*m.c) < 1e-12 }

// rect gives the box around a box, transformed.
func (m matrix) rect(r Rect) Rect {
	o := newOutline()
	for _, p := range [4][2]float64{{r.X, r.Y}, {r.X + r.Width, r.Y}, {r.X, r.Y + r.Height}, {r.X + r.Width, r.Y + r.Height}} {
		o.reach(m.at(p[0], p[1]))
	}
	return o.bounds()
}

// turned gives the angle in degrees of a transform that only moves, turns and
// scales evenly.
func (m matrix) turned() (degrees float64, ok bool) {
	if math.Abs(m.a-m.d) > 1e-6*math.Abs(m.a)+1e-9 || math.Abs(m.b+m.c) > 1e-6*math.Abs(m.b)+1e-9 {
		return 0, false
	}
	return math.Atan2(m.b, m.a) * 180 / math.Pi, true
}

// readNumbers reads numbers separated by white space and commas.
func readNumbers(text string) ([]float64, error) {
	out, err := numbersUntil(text)
	if err != nil {
		return nil, err
	}
	return out, nil
}

// numbersUntil reads numbers as readNumbers does, up to what is none.
func numbersUntil(text string) ([]float64, error) {
	var out []float64
	for rest := text; ; {
		rest = strings.TrimLeft(rest, " ,\t\r\n")
		if rest == "" {
			return out, nil
		}
		n := numberLength(rest)
		v, err := strconv.ParseFloat(rest[:n], 64)
		if n == 0 || err != nil || math.IsInf(v, 0) || math.Abs(v) > 1e7 {
			return out, fmt.Errorf("%q is no number up to 10000000", rest[:min(len(rest), 20)])
		}
		out = append(out, v)
		rest = rest[n:]
	}
}

// numberLength is how many bytes of the text's start are a number (SVG 2, 9.3.9).
func numberLength(s string) int {
	i := 0
	if i < len(s) && (s[i] == '+' || s[i] == '-') {
		i++
	}
	digits := func() {
		for i < len(s) && s[i] >= '0' && s[i] <= '9' {
			i++
		}
	}
	digits()
	if i < len(s) && s[i] == '.' {
		i++
		digits()
	}
	if i < len(s) && (s[i] == 'e' || s[i] == 'E') {
		j := i
		i++
		if i < len(s) && (s[i] == '+' || s[i] == '-') {
			i++
		}
		if from := i; true {
			if digits(); i == from {
				i = j
			}
		}
	}
	return i
}

// outline is a path in absolute lines and cubic curves.
type outline struct {
	d                      strings.Builder
	left, top, right, down float64
	empty                  bool
}

func newOutline() *outline {
	return &outline{left: math.Inf(1), top: math.Inf(1), right: math.Inf(-1), down: math.Inf(-1), empty: true}
}

func (o *outline) reach(x, y float64) {
	o.left, o.right = min(o.left, x), max(o.right, x)
	o.top, o.down = min(o.top, y), max(o.down, y)
	o.empty = false
}

func (o *outline) bounds() Rect {
	return Rect{o.left, o.top, o.right - o.left, o.down - o.top}
}

func formatFixed(v float64) string { return strconv.FormatFloat(v, 'f', 9, 64) }

func short(v float64) string {
	return strconv.FormatFloat(math.Round(v*1000)/1000+0, 'f', -1, 64)
}

func (o *outline) write(command byte, points ...float64) {
	o.d.WriteByte(command)
	for i, v := range points {
		if i > 0 {
			o.d.WriteByte(' ')
		}
		o.d.WriteString(short(v))
	}
}

func (o *outline) move(x, y float64) { o.write('M', x, y) }

func (o *outline) line(x0, y0, x, y float64) {
	o.reach(x0, y0)
	o.reach(x, y)
	o.write('L', x, y)
}

// curve adds a cubic curve; its extremes are where the derivative is 0.
func (o *outline) curve(x0, y0, x1, y1, x2, y2, x, y float64) {
	o.reach(x0, y0)
	o.reach(x, y)
	for _, t := range append(extremes(x0, x1, x2, x), extremes(y0, y1, y2, y)...) {
		o.reach(bezier(x0, x1, x2, x, t), bezier(y0, y1, y2, y, t))
	}
	o.write('C', x1, y1, x2, y2, x, y)
}

func bezier(a, b, c, d, t float64) float64 {
	s := 1 - t
	return s*s*s*a + 3*s*s*t*b + 3*s*t*t*c + t*t*t*d
}

func extremes(a, b, c, d float64) []float64 {
	// 3(b-a), 6(c-2b+a), 3(d-3c+3b-a) are the derivative's coefficients.
	p, q, r := d-3*c+3*b-a, 2*(c-2*b+a), b-a
	var out []float64
	add := func(t float64) {
		if t > 0 && t < 1 {
			out = append(out, t)
		}
	}
	if math.Abs(p) < 1e-12 {
		if q != 0 {
			add(-r / q)
		}
		return out
	}
	if root := q*q - 4*p*r; root >= 0 {
		add((-q + math.Sqrt(root)) / (2 * p))
		add((-q - math.Sqrt(root)) / (2 * p))
	}
	return out
}

// maxSegments bounds one path.
const maxSegments = 50_000

// readPath turns path data (SVG 2, 9.3) into an outline, transformed. Where the data is wrong the outline ends before
// that (SVG 2, error handling in path data), and there is an error.
func readPath(d string, m matrix) (*outline, error) {
	o := newOutline()
	var x, y, startX, startY float64 // current and first point, as written
	var controlX, controlY float64   // last control point, for S and T
	var command, last byte
	segments := 0
	fail := func(at string) (*outline, error) {
		return o, fmt.Errorf("path data is wrong at %q", at[:min(len(at), 20)])
	}
	rest := d
	for {
		rest = strings.TrimLeft(rest, " ,\t\r\n")
		if rest == "" {
			return o, nil
		}
		if c := rest[0]; strings.IndexByte("MmZzLlHhVvCcSsQqTtAa", c) >= 0 {
			command, rest = c, rest[1:]
		} else if command == 0 || command|0x20 == 'z' {
			return fail(rest)
		}
		if last == 0 && command|0x20 != 'm' {
			return fail(rest)
		}
		if segments++; segments > maxSegments {
			return o, fmt.Errorf("the path has more than %d segments", maxSegments)
		}
		lower := command | 0x20
		count := map[byte]int{'m': 2, 'l': 2, 'h': 1, 'v': 1, 'c': 6, 's': 4, 'q': 4, 't': 2, 'a': 7, 'z': 0}[lower]
		var v [7]float64
		for i := range count {
			rest = strings.TrimLeft(rest, " ,\t\r\n")
			n := numberLength(rest)
			if lower == 'a' && (i == 3 || i == 4) && n > 0 { // flags are one digit
				n = 1
			}
			value, err := strconv.ParseFloat(rest[:n], 64)
			if err != nil || math.IsInf(value, 0) || math.Abs(value) > 1e7 {
				return fail(rest)
			}
			v[i], rest = value, rest[n:]
		}
		if command == lower && lower != 'z' { // relative
			switch lower {
			case 'h':
				v[0] += x
			case 'v':
				v[0] += y
			case 'a':
				v[5], v[6] = v[5]+x, v[6]+y
			default:
				for i := 0; i < count; i += 2 {
					v[i], v[i+1] = v[i]+x, v[i+1]+y
				}
			}
		}
		line := func(toX, toY float64) {
			ax, ay := m.at(x, y)
			bx, by := m.at(toX, toY)
			o.line(ax, ay, bx, by)
			x, y = toX, toY
		}
		curve := func(x1, y1, x2, y2, toX, toY float64) {
			ax, ay := m.at(x, y)
			bx, by := m.at(x1, y1)
			cx, cy := m.at(x2, y2)
			dx, dy := m.at(toX, toY)
			o.curve(ax, ay, bx, by, cx, cy, dx, dy)
			x, y = toX, toY
		}
		mirrored := func(among string) (float64, float64) {
			if strings.IndexByte(among, last) >= 0 {
				return 2*x - controlX, 2*y - controlY
			}
			return x, y
		}
		switch lower {
		case 'm':
			x, y = v[0], v[1]
			startX, startY = x, y
			o.move(m.at(x, y))
			command = 'L' | command&0x20 // what follows are lines
		case 'l':
			line(v[0], v[1])
		case 'h':
			line(v[0], y)
		case 'v':
			line(x, v[0])
		case 'c':
			controlX, controlY = v[2], v[3]
			curve(v[0], v[1], v[2], v[3], v[4], v[5])
		case 's':
			x1, y1 := mirrored("cs")
			controlX, controlY = v[0], v[1]
			curve(x1, y1, v[0], v[1], v[2], v[3])
		case 'q', 't':
			qx, qy, toX, toY := v[0], v[1], v[2], v[3]
			if lower == 't' {
				qx, qy = mirrored("qt")
				toX, toY = v[0], v[1]
			}
			controlX, controlY = qx, qy
			curve(x+(qx-x)*2/3, y+(qy-y)*2/3, toX+(qx-toX)*2/3, toY+(qy-toY)*2/3, toX, toY)
		case 'a':
			arc(x, y, v[0], v[1], v[2], v[3] != 0, v[4] != 0, v[5], v[6], curve, line)
		case 'z':
			if last == 'm' { // a dot, where the ends are round or square (SVG 2, 13.5.2)
				line(x, y)
			}
			o.d.WriteByte('Z')
			x, y = startX, startY
		}
		last = lower
	}
}

// arc turns an elliptical arc into curves of a quarter turn at most (SVG 2,
// appendix B.2).
func arc(x0, y0, rx, ry, degrees float64, large, sweep bool, x, y float64, curve func(x1, y1, x2, y2, x, y float64), line func(x, y float64)) {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || x0 == x && y0 == y {
		line(x, y)
		return
	}
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	dx, dy := (x0-x)/2, (y0-y)/2
	px, py := cos*dx+sin*dy, -sin*dx+cos*dy
	if over := px*px/(rx*rx) + py*py/(ry*ry); over > 1 {
		rx, ry = rx*math.Sqrt(over), ry*math.Sqrt(over)
	}
	part := (rx*rx*ry*ry - rx*rx*py*py - ry*ry*px*px) / (rx*rx*py*py + ry*ry*px*px)
	k := math.Sqrt(max(0, part))
	if large == sweep {
		k = -k
	}
	ox, oy := k*rx*py/ry, -k*ry*px/rx
	cx, cy := cos*ox-sin*oy+(x0+x)/2, sin*ox+cos*oy+(y0+y)/2
	from := math.Atan2((py-oy)/ry, (px-ox)/rx)
	turn := math.Atan2((-py-oy)/ry, (-px-ox)/rx) - from
	if sweep && turn < 0 {
		turn += 2 * math.Pi
	} else if !sweep && turn > 0 {
		turn -= 2 * math.Pi
	}
	pieces := max(1, int(math.Ceil(math.Abs(turn)/(math.Pi/2)-1e-9)))
	step := turn / float64(pieces)
	handle := 4.0 / 3 * math.Tan(step/4)
	point := func(u, v float64) (float64, float64) {
		return cx + cos*rx*u - sin*ry*v, cy + sin*rx*u + cos*ry*v
	}
	for i := range pieces {
		a := from + float64(i)*step
		s0, c0 := math.Sincos(a)
		s1, c1 := math.Sincos(a + step)
		x1, y1 := point(c0-handle*s0, s0+handle*c0)
		x2, y2 := point(c1+handle*s1, s1-handle*c1)
		ex, ey := point(c1, s1)
		if i == pieces-1 {
			ex, ey = x, y
		}
		curve(x1, y1, x2, y2, ex, ey)
	}
}
