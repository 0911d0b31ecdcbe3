package design

import (
	"image"
	"math"
	"strings"

	"golang.org/x/image/vector"
)

// coverage is how much of each pixel a filled path covers, 0 to 1, row by row (SVG 2, 13.4.2).
func coverage(d string, m matrix, w, h int, evenOdd bool) ([]float32, error) {
	o, err := readPath(d, m)
	if err != nil {
		return nil, err
	}
	whole := o.d.String()
	if !evenOdd {
		return covered(w, h, func(r *vector.Rasterizer) { trace(whole, r) }), nil
	}
	var out []float32
	for i, part := range strings.SplitAfter(whole, "Z") { // what is in two parts is in none; pen has one within the other
		if !strings.Contains(part, "M") {
			continue
		}
		one := covered(w, h, func(r *vector.Rasterizer) { trace(part, r) })
		if i == 0 {
			out = one
			continue
		}
		for k, a := range one {
			out[k] = max(out[k]-a, a-out[k])
		}
	}
	return out, nil
}

func covered(w, h int, fill func(*vector.Rasterizer)) []float32 {
	r := vector.NewRasterizer(w, h)
	fill(r)
	mask := image.NewAlpha(image.Rect(0, 0, w, h))
	r.Draw(mask, mask.Bounds(), image.Opaque, image.Point{})
	out := make([]float32, w*h)
	for i, a := range mask.Pix {
		out[i] = float32(a) / 255
	}
	return out
}

// trace follows an outline's own path data: M, L, C and Z.
func trace(d string, r *vector.Rasterizer) {
	for d != "" {
		command := d[0]
		end := strings.IndexAny(d[1:], "MLCZ") + 1
		if end == 0 {
			end = len(d)
		}
		v, err := readNumbers(d[1:end])
		if err != nil {
			return
		}
		f := func(i int) float32 { return float32(v[i]) }
		switch command {
		case 'M':
			r.ClosePath()
			r.MoveTo(f(0), f(1))
		case 'L':
			r.LineTo(f(0), f(1))
		case 'C':
			r.CubeTo(f(0), f(1), f(2), f(3), f(4), f(5))
		case 'Z':
			r.ClosePath()
		}
		d = d[end:]
	}
	r.ClosePath()
}

type point struct{ x, y float64 }

func (p point) plus(q point, by float64) point { return point{p.x + q.x*by, p.y + q.y*by} }

// line is a path without curves.
type line struct {
	points []point
	closed bool
}

// lines gives the paths of an outline with curves cut into pieces that nobody can tell from them.
func lines(d string, scale float64) (out []line) {
	var at point
	for d != "" {
		command := d[0]
		end := strings.IndexAny(d[1:], "MLCZ") + 1
		if end == 0 {
			end = len(d)
		}
		v, err := readNumbers(d[1:end])
		if err != nil {
			return out
		}
		d = d[end:]
		if command == 'M' {
			out = append(out, line{})
		}
		last := &out[len(out)-1]
		add := func(p point) {
			if n := len(last.points); n == 0 || math.Hypot(p.x-at.x, p.y-at.y) > 1e-6 {
				last.points, at = append(last.points, p), p
			}
		}
		switch command {
		case 'M', 'L':
			add(point{v[0], v[1]})
		case 'C':
			from := at
			n := 4 + int(math.Sqrt(scale*(math.Hypot(v[0]-from.x, v[1]-from.y)+math.Hypot(v[2]-v[0], v[3]-v[1])+math.Hypot(v[4]-v[2], v[5]-v[3])))*4)
			for i := 1; i <= min(n, 400); i++ {
				t := float64(i) / float64(min(n, 400))
				add(point{bezier(from.x, v[0], v[2], v[4], t), bezier(from.y, v[1], v[3], v[5], t)})
			}
		case 'Z':
			last.closed = true
			if n := len(last.points); n > 1 && math.Hypot(last.points[0].x-at.x, last.points[0].y-at.y) <= 1e-6 {
				last.points = last.points[:n-1]
			}
			at = last.points[0]
		}
	}
	return out
}

// miterLimit is SVG's own (SVG 2, 13.5.3).
const miterLimit = 4

// stroked is how much of each pixel a line along a path covers (SVG 2, 13.5). The line is made of
// pieces that overlap: a piece a segment, a join or an end.
func stroked(d string, m matrix, w, h int, width float64, cap, join string) ([]float32, error) {
	o, err := readPath(d, identity)
	if err != nil {
		return nil, err
	}
	half := width / 2
	return covered(w, h, func(r *vector.Rasterizer) {
		piece := func(points ...point) {
			area := 0.0
			turned := make([]point, len(points))
			for i, p := range points {
				turned[i].x, turned[i].y = m.at(p.x, p.y)
			}
			for i, p := range turned {
				next := turned[(i+1)%len(turned)]
				area += p.x*next.y - next.x*p.y
			}
			for i := range turned { // all the same way round: pieces that overlap must not take each other away
				p := turned[i]
				if area < 0 {
					p = turned[len(turned)-1-i]
				}
				if i == 0 {
					r.MoveTo(float32(p.x), float32(p.y))
				} else {
					r.LineTo(float32(p.x), float32(p.y))
				}
			}
			r.ClosePath()
		}
		round := func(at point, from, turn float64) {
			steps := max(2, int(math.Ceil(math.Abs(turn)*math.Sqrt(half*m.scale())*2)))
			points := []point{at}
			for i := range steps + 1 {
				sin, cos := math.Sincos(from + turn*float64(i)/float64(steps))
				points = append(points, point{at.x + half*cos, at.y + half*sin})
			}
			piece(points...)
		}
		for _, l := range lines(o.d.String(), m.scale()) {
			n := len(l.points)
			if n == 1 { // a dot where the ends are round or square (SVG 2, 13.5.2)
				p := l.points[0]
				switch cap {
				case "round":
					round(p, 0, 2*math.Pi)
				case "square":
					piece(point{p.x - half, p.y - half}, point{p.x + half, p.y - half}, point{p.x + half, p.y + half}, point{p.x - half, p.y + half})
				}
				continue
			}
			count := n - 1
			if l.closed {
				count = n
			}
			var along []point // direction of each segment
			for i := range count {
				a, b := l.points[i], l.points[(i+1)%n]
				long := math.Hypot(b.x-a.x, b.y-a.y)
				along = append(along, point{(b.x - a.x) / long, (b.y - a.y) / long})
			}
			for i, u := range along {
				a, b, side := l.points[i], l.points[(i+1)%n], point{-u.y, u.x}
				if !l.closed && cap == "square" {
					if i == 0 {
						a = a.plus(u, -half)
					}
					if i == count-1 {
						b = b.plus(u, half)
					}
				}
				piece(a.plus(side, half), b.plus(side, half), b.plus(side, -half), a.plus(side, -half))
			}
			for i := range count {
				if i == 0 && !l.closed {
					continue
				}
				u, v, at := along[(i+count-1)%count], along[i], l.points[i]
				turn := math.Atan2(u.x*v.y-u.y*v.x, u.x*v.x+u.y*v.y)
				outer := -half // the side that opens
				if turn < 0 {
					outer = half
				}
				from, to := at.plus(point{-u.y, u.x}, outer), at.plus(point{-v.y, v.x}, outer)
				switch {
				case join == "round":
					round(at, math.Atan2(from.y-at.y, from.x-at.x), turn)
				case join == "miter" && math.Abs(math.Cos(turn/2)) > 1.0/miterLimit:
					middle := point{from.x + to.x - 2*at.x, from.y + to.y - 2*at.y}
					if long := math.Hypot(middle.x, middle.y); long > 1e-9 {
						piece(at, from, at.plus(middle, half/math.Cos(turn/2)/long), to)
					}
				default:
					piece(at, from, to)
				}
			}
			if cap == "round" && !l.closed {
				for _, end := range []struct {
					at, u point
				}{{l.points[0], point{-along[0].x, -along[0].y}}, {l.points[n-1], along[count-1]}} {
					round(end.at, math.Atan2(end.u.y, end.u.x)-math.Pi/2, math.Pi)
				}
			}
		}
	}), nil
}

// blurred blurs a mask: a Gaussian of a deviation in pixels, across and then down (Filter Effects 1, feGaussianBlur).
func blurred(mask []float32, w, h int, deviation float64) {
	if deviation <= 0 {
		return
	}
	reach := int(math.Ceil(3 * deviation))
	kernel := make([]float32, 2*reach+1)
	sum := float32(0)
	for i := range kernel {
		x := float64(i - reach)
		kernel[i] = float32(math.Exp(-x * x / (2 * deviation * deviation)))
		sum += kernel[i]
	}
	for i := range kernel {
		kernel[i] /= sum
	}
	pass := func(count, length, across, along int) {
		row := make([]float32, length)
		for i := range count {
			for k := range row {
				row[k] = mask[i*across+k*along]
			}
			for k := range length {
				v := float32(0)
				for n, weight := range kernel {
					if at := k + n - reach; at >= 0 && at < length {
						v += row[at] * weight
					}
				}
				mask[i*across+k*along] = v
			}
		}
	}
	pass(h, w, w, 1)
	pass(w, h, 1, w)
}
