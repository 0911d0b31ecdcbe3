package color

import "math"

// Transfer functions between encoded and linear light, CSS Color 4, section 17.
// Each keeps the sign, for colours out of range.

var (
	to2_4    = newPower(2.4)
	root2_4  = newPower(1 / 2.4)
	toA98    = newPower(563.0 / 256)
	rootA98  = newPower(256.0 / 563)
	to1_8    = newPower(1.8)
	root1_8  = newPower(1 / 1.8)
	cubeRoot = newPower(1.0 / 3)
)

func srgbDecode(v float64) float64 {
	switch {
	case v > 0.04045:
		return to2_4.of((v + 0.055) * (1 / 1.055))
	case v < -0.04045:
		return -to2_4.of((0.055 - v) * (1 / 1.055))
	}
	return v * (1 / 12.92)
}

func srgbEncode(v float64) float64 {
	if abs := math.Abs(v); abs > 0.0031308 {
		return math.Copysign(1.055*root2_4.of(abs)-0.055, v)
	}
	return v * 12.92
}

func a98Decode(v float64) float64 { return math.Copysign(toA98.of(math.Abs(v)), v) }
func a98Encode(v float64) float64 { return math.Copysign(rootA98.of(math.Abs(v)), v) }

func prophotoDecode(v float64) float64 {
	if abs := math.Abs(v); abs > 16.0/512 {
		return math.Copysign(to1_8.of(abs), v)
	}
	return v / 16
}

func prophotoEncode(v float64) float64 {
	if abs := math.Abs(v); abs >= 1.0/512 {
		return math.Copysign(root1_8.of(abs), v)
	}
	return v * 16
}

// BT.1886's display gamma, as CSS Color 4 has it since 2025.
func rec2020Decode(v float64) float64 { return math.Copysign(to2_4.of(math.Abs(v)), v) }
func rec2020Encode(v float64) float64 { return math.Copysign(root2_4.of(math.Abs(v)), v) }

func cbrt(v float64) float64 {
	if v < 0 {
		return -cubeRoot.of(-v)
	}
	return cubeRoot.of(v)
}

// power raises numbers to one exponent, several times as fast as math.Pow: a
// table holds the answer for 128 numbers in each octave, the binomial series
// does the rest of the way, to the last bit or two.
type power struct {
	exponent float64
	series   [5]float64
	nodes    [octaves << mantissaBits]node
}

type node struct{ inverse, value float64 }

const (
	mantissaBits = 7
	octaves      = 18 // from 2^-16 up to 4
	lowest       = (1023 - 16) << mantissaBits
)

func newPower(exponent float64) *power {
	p := &power{exponent: exponent}
	term := 1.0
	for k := range p.series {
		term *= (exponent - float64(k)) / float64(k+1)
		p.series[k] = term
	}
	for i := range p.nodes {
		bits := uint64(lowest+i)<<(52-mantissaBits) | 1<<(51-mantissaBits) // the middle of its range
		x := math.Float64frombits(bits)
		p.nodes[i] = node{1 / x, math.Pow(x, exponent)}
	}
	return p
}

// of gives x to the exponent; x is not negative.
func (p *power) of(x float64) float64 {
	i := math.Float64bits(x)>>(52-mantissaBits) - lowest
	if i >= uint64(len(p.nodes)) {
		return math.Pow(x, p.exponent)
	}
	n := &p.nodes[i]
	u := x*n.inverse - 1
	s := &p.series
	// In pairs, so that the processor need not wait for each term.
	u2 := u * u
	return n.value * ((1 + u*s[0]) + u2*((s[1]+u*s[2])+u2*(s[3]+u*s[4])))
}
