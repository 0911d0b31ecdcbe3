package layout

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// kind says what a length means.
type kind uint8

const (
	auto kind = iota
	fixed
	minContent
	maxContent
	fitContent // also fit-content(limit) of a track
	none
	content
	fraction // fr of a track
)

// length is a CSS length, percentage or keyword with relative units already
// turned to px: its value is px + percent × base, or a function of such.
type length struct {
	kind    kind
	px      float64
	percent float64 // a ratio: 1 is 100%
	fn      *function
}

// function is min(), max() or clamp() over lengths that hold percentages.
type function struct {
	name byte // 'm'in, 'M'ax, '+', '*'
	args []length
	by   float64
}

var nan = math.NaN()

func isNaN(v float64) bool { return v != v }

func px(v float64) length { return length{kind: fixed, px: v} }

// relative tells whether the value depends on its percentage base.
func (l *length) relative() bool { return l.percent != 0 || l.fn != nil }

// resolve gives the px of a fixed length; NaN when it is a keyword, or needs a
// base that is not known.
func (l *length) resolve(base float64) float64 {
	if l.kind != fixed {
		return nan
	}
	if l.fn != nil {
		return l.fn.resolve(base)
	}
	if l.percent != 0 {
		return l.px + l.percent*base
	}
	return l.px
}

// orZero is resolve with unknown bases taken as 0, as margins and paddings are
// in intrinsic sizes (CSS Sizing 3, 5.2.1).
func (l *length) orZero(base float64) float64 {
	if l.kind != fixed {
		return 0
	}
	if l.fn == nil && l.percent == 0 {
		return l.px
	}
	if isNaN(base) {
		base = 0
	}
	return l.resolve(base)
}

func (f *function) resolve(base float64) float64 {
	v := f.args[0].resolve(base)
	for i := range f.args[1:] {
		w := f.args[i+1].resolve(base)
		switch f.name {
		case 'm':
			v = min(v, w)
		case 'M':
			v = max(v, w)
		case '+':
			v += w
		}
	}
	if f.name == '*' {
		v *= f.by
	}
	return v
}

// measures are what relative units refer to, in px.
type measures struct {
	font, root, zero, line  float64 // em, rem, ch, lh
	xHeight                 float64
	viewWidth, viewHeight   float64
	queryWidth, queryHeight float64 // of the nearest size container, else the viewport
	vertical                bool
	usedView                *bool // set when a unit of the viewport or a container was used
}

// unit gives the px of one unit; false when the unit is unknown.
func (m *measures) unit(name string) (float64, bool) {
	switch name {
	case "px":
		return 1, true
	case "em":
		return m.font, true
	case "rem":
		return m.root, true
	case "ch":
		return m.zero, true
	case "ex":
		return m.xHeight, true
	case "lh":
		return m.line, true
	case "in":
		return 96, true
	case "cm":
		return 96 / 2.54, true
	case "mm":
		return 96 / 25.4, true
	case "q":
		return 96 / 101.6, true
	case "pt":
		return 96.0 / 72, true
	case "pc":
		return 16, true
	}
	queryInline, queryBlock := m.queryWidth, m.queryHeight
	viewInline, viewBlock := m.viewWidth, m.viewHeight
	if m.vertical {
		queryInline, queryBlock, viewInline, viewBlock = queryBlock, queryInline, viewBlock, viewInline
	}
	if m.usedView != nil {
		*m.usedView = true
	}
	switch name {
	case "vw", "svw", "lvw", "dvw":
		return m.viewWidth / 100, true
	case "vh", "svh", "lvh", "dvh":
		return m.viewHeight / 100, true
	case "vi":
		return viewInline / 100, true
	case "vb":
		return viewBlock / 100, true
	case "vmin":
		return min(m.viewWidth, m.viewHeight) / 100, true
	case "vmax":
		return max(m.viewWidth, m.viewHeight) / 100, true
	case "cqw":
		return m.queryWidth / 100, true
	case "cqh":
		return m.queryHeight / 100, true
	case "cqi":
		return queryInline / 100, true
	case "cqb":
		return queryBlock / 100, true
	case "cqmin":
		return min(m.queryWidth, m.queryHeight) / 100, true
	case "cqmax":
		return max(m.queryWidth, m.queryHeight) / 100, true
	}
	return 0, false
}

// Bounds of one value, against hostile input.
const (
	maxValue   = 2000 // bytes
	maxNesting = 32
)

// largest is the most px a box is taken to measure; more is cut off, as
// browsers do.
const largest = 1 << 25

// sum is a calc() value: a number, or a length.
type sum struct {
	number   float64
	isNumber bool
	length   length
}

// readLength reads a length, percentage or math function (CSS Values 4, 10).
func readLength(text string, m *measures) (length, error) {
	s, err := readTerm(strings.TrimSpace(text), m, 0)
	if err != nil {
		return length{}, err
	}
	if s.isNumber {
		if s.number != 0 || strings.Contains(text, "(") {
			return length{}, fmt.Errorf("%q has no unit", text)
		}
		return px(0), nil
	}
	return s.length, nil
}

func readTerm(text string, m *measures, depth int) (sum, error) {
	if depth > maxNesting {
		return sum{}, fmt.Errorf("nested deeper than %d", maxNesting)
	}
	open := strings.IndexByte(text, '(')
	if open < 0 {
		return readNumber(text, m)
	}
	if !strings.HasSuffix(text, ")") {
		return sum{}, fmt.Errorf("%q lacks a closing parenthesis", text)
	}
	name, inner := strings.ToLower(text[:open]), text[open+1:len(text)-1]
	switch name {
	case "", "calc":
		return readSum(inner, m, depth+1)
	case "min", "max", "clamp":
		var args []sum
		for _, a := range split(inner, ',') {
			v, err := readSum(a, m, depth+1)
			if err != nil {
				return sum{}, err
			}
			args = append(args, v)
		}
		switch {
		case name == "clamp" && len(args) != 3:
			return sum{}, fmt.Errorf("clamp() takes three values")
		case name == "clamp":
			low, err := combine('m', args[1], args[2])
			if err != nil {
				return sum{}, err
			}
			return combine('M', args[0], low)
		}
		how := byte('m')
		if name == "max" {
			how = 'M'
		}
		out := args[0]
		var err error
		for _, a := range args[1:] {
			if out, err = combine(how, out, a); err != nil {
				return sum{}, err
			}
		}
		return out, nil
	}
	return sum{}, fmt.Errorf("%s() is not known", name)
}

func readNumber(text string, m *measures) (sum, error) {
	end := len(text)
	for end > 0 && (text[end-1] == '%' || text[end-1]|0x20 >= 'a' && text[end-1]|0x20 <= 'z') {
		end--
	}
	// "1e3" is a number whose exponent looks like a unit only without digits after it.
	v, err := strconv.ParseFloat(text[:end], 64)
	if err != nil || math.IsInf(v, 0) || isNaN(v) || end == 0 || strings.ContainsAny(text[:end], "xXpP_iInN") {
		return sum{}, fmt.Errorf("%q is not a length", text)
	}
	v = max(-largest, min(largest, v))
	switch unit := strings.ToLower(text[end:]); unit {
	case "":
		return sum{number: v, isNumber: true}, nil
	case "%":
		return sum{length: length{kind: fixed, percent: v / 100}}, nil
	default:
		size, ok := m.unit(unit)
		if !ok {
			return sum{}, fmt.Errorf("%q has an unknown unit", text)
		}
		return sum{length: px(v * size)}, nil
	}
}

// readSum reads products joined by + and -, which have white space around them.
func readSum(text string, m *measures, depth int) (sum, error) {
	words := split(text, ' ')
	if len(words) == 0 {
		return sum{}, fmt.Errorf("an empty calculation")
	}
	at := 0
	product := func() (sum, error) {
		// * and / need no white space around them.
		var factors []string
		var ops []byte
		for at < len(words) && words[at] != "+" && words[at] != "-" {
			for _, f := range splitOperators(words[at]) {
				if f == "*" || f == "/" {
					if len(factors) == len(ops) {
						return sum{}, fmt.Errorf("%q lacks a value before %s", text, f)
					}
					ops = append(ops, f[0])
					continue
				}
				if len(factors) > len(ops) {
					return sum{}, fmt.Errorf("%q lacks an operator before %s", text, f)
				}
				factors = append(factors, f)
			}
			at++
		}
		if len(factors) == 0 || len(factors) == len(ops) {
			return sum{}, fmt.Errorf("%q lacks a value", text)
		}
		out, err := readTerm(factors[0], m, depth+1)
		if err != nil {
			return sum{}, err
		}
		for i, op := range ops {
			by, err := readTerm(factors[i+1], m, depth+1)
			if err != nil {
				return sum{}, err
			}
			switch {
			case op == '*' && by.isNumber:
				out = scale(out, by.number)
			case op == '*' && out.isNumber:
				out = scale(by, out.number)
			case op == '/' && by.isNumber && by.number != 0:
				out = scale(out, 1/by.number)
			default:
				return sum{}, fmt.Errorf("%q multiplies or divides by what is no number, or by 0", text)
			}
		}
		return out, nil
	}
	total, err := product()
	if err != nil {
		return sum{}, err
	}
	for at < len(words) {
		minus := words[at] == "-"
		at++
		next, err := product()
		if err != nil {
			return sum{}, err
		}
		if minus {
			next = scale(next, -1)
		}
		if total, err = combine('+', total, next); err != nil {
			return sum{}, err
		}
	}
	return total, nil
}

func splitOperators(word string) []string {
	var out []string
	depth, start := 0, 0
	for i := range len(word) {
		switch c := word[i]; {
		case c == '(':
			depth++
		case c == ')':
			depth--
		case depth == 0 && (c == '*' || c == '/'):
			if i > start {
				out = append(out, word[start:i])
			}
			out = append(out, word[i:i+1])
			start = i + 1
		}
	}
	if start < len(word) {
		out = append(out, word[start:])
	}
	return out
}

func scale(s sum, by float64) sum {
	if s.isNumber {
		return sum{number: s.number * by, isNumber: true}
	}
	if s.length.fn != nil {
		return sum{length: length{kind: fixed, fn: &function{name: '*', args: []length{s.length}, by: by}}}
	}
	s.length.px *= by
	s.length.percent *= by
	return s
}

func combine(how byte, a, b sum) (sum, error) {
	if a.isNumber != b.isNumber {
		return sum{}, fmt.Errorf("a number and a length do not mix")
	}
	pick := func(x, y float64) float64 {
		switch how {
		case 'm':
			return min(x, y)
		case 'M':
			return max(x, y)
		}
		return x + y
	}
	switch {
	case a.isNumber:
		return sum{number: pick(a.number, b.number), isNumber: true}, nil
	case a.length.fn == nil && b.length.fn == nil && (how == '+' || a.length.percent == 0 && b.length.percent == 0):
		return sum{length: length{kind: fixed, px: pick(a.length.px, b.length.px), percent: a.length.percent + b.length.percent}}, nil
	}
	return sum{length: length{kind: fixed, fn: &function{name: how, args: []length{a.length, b.length}}}}, nil
}

// split cuts a value at a separator outside of parentheses; white space at the
// ends of the pieces goes, and empty pieces at a space.
func split(text string, at byte) []string {
	var out []string
	depth, start := 0, 0
	add := func(piece string) {
		if piece = strings.TrimSpace(piece); piece != "" || at != ' ' {
			out = append(out, piece)
		}
	}
	for i := range len(text) {
		switch c := text[i]; {
		case c == '(' || c == '[':
			depth++
		case c == ')' || c == ']':
			depth--
		case depth == 0 && (c == at || at == ' ' && (c == '\t' || c == '\n')):
			add(text[start:i])
			start = i + 1
		}
	}
	add(text[start:])
	return out
}
