package layout

import (
	"fmt"
	"math"
	"strings"

	"cobrik/core/css"
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
	kind kind
	px   float64
	more *relation // to a base; nil for most
}

// relation is how a length follows from its percentage base.
type relation struct {
	percent float64 // a ratio: 1 is 100%
	fn      *function
}

// share is a percentage of a base, and px.
func share(ratio, px float64) length {
	if ratio == 0 {
		return length{kind: fixed, px: px}
	}
	return length{kind: fixed, px: px, more: &relation{percent: ratio}}
}

func computed(f *function) length { return length{kind: fixed, more: &relation{fn: f}} }

func (l *length) percent() float64 {
	if l.more == nil {
		return 0
	}
	return l.more.percent
}

func (l *length) isFunction() bool { return l.more != nil && l.more.fn != nil }

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
func (l *length) relative() bool { return l.more != nil }

// resolve gives the px of a fixed length; NaN when it is a keyword, or needs a
// base that is not known.
func (l *length) resolve(base float64) float64 {
	if l.kind != fixed {
		return nan
	}
	if l.more == nil {
		return l.px
	}
	if l.more.fn != nil {
		return l.more.fn.resolve(base)
	}
	return l.px + l.more.percent*base
}

// orZero is resolve with unknown bases taken as 0, as margins and paddings are
// in intrinsic sizes (CSS Sizing 3, 5.2.1).
func (l *length) orZero(base float64) float64 {
	if l.kind != fixed {
		return 0
	}
	if l.more == nil {
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
	if px, ok := css.Fixed(m.font, m.root)(name); ok {
		return px, true
	}
	switch name {
	case "ch":
		return m.zero, true
	case "ex":
		return m.xHeight, true
	case "lh":
		return m.line, true
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

// sum is a calc() value: a number, or a length.
type sum struct {
	number   float64
	isNumber bool
	length   length
}

// readLength reads a length, percentage or math function (CSS Values 4, 10).
func readLength(text string, m *measures) (length, error) {
	v, err := css.ParseValue(text)
	if err != nil {
		return length{}, fmt.Errorf("%q is not a length: %w", text, err)
	}
	s, err := sumOf(v, m)
	if err != nil {
		return length{}, fmt.Errorf("%q is not a length: %w", text, err)
	}
	if s.isNumber {
		if v != css.Number(0) {
			return length{}, fmt.Errorf("%q has no unit", text)
		}
		return px(0), nil
	}
	return s.length, nil
}

// sumOf turns a value of CSS into px and percentages.
func sumOf(v css.Value, m *measures) (sum, error) {
	switch v := v.(type) {
	case css.Number:
		return sum{number: float64(v), isNumber: true}, nil
	case css.Percent:
		return sum{length: share(float64(v)/100, 0)}, nil
	case css.Length:
		size, ok := m.unit(v.Unit)
		if !ok {
			return sum{}, fmt.Errorf("%s has an unknown unit", v)
		}
		return sum{length: px(v.N * size)}, nil
	case css.Calc:
		args := make([]sum, len(v.Args))
		for i, a := range v.Args {
			var err error
			if args[i], err = sumOf(a, m); err != nil {
				return sum{}, err
			}
		}
		return calculate(v.Op, args)
	}
	return sum{}, fmt.Errorf("%s is no number", v)
}

func calculate(op string, args []sum) (sum, error) {
	out := args[0]
	switch op {
	case "*":
		if out.isNumber {
			return scale(args[1], out.number), nil
		}
		return scale(out, args[1].number), nil
	case "/":
		return scale(out, 1/args[1].number), nil // css refuses a 0
	case "clamp": // clamp(low, value, high) is max(low, min(value, high))
		inner, err := combine('m', args[1], args[2])
		if err != nil {
			return sum{}, err
		}
		return combine('M', out, inner)
	}
	how := map[string]byte{"min": 'm', "max": 'M'}[op]
	if how == 0 {
		how = '+'
	}
	for _, a := range args[1:] {
		if op == "-" {
			a = scale(a, -1)
		}
		var err error
		if out, err = combine(how, out, a); err != nil {
			return sum{}, err
		}
	}
	return out, nil
}

func scale(s sum, by float64) sum {
	if s.isNumber {
		return sum{number: s.number * by, isNumber: true}
	}
	if s.length.isFunction() {
		return sum{length: computed(&function{name: '*', args: []length{s.length}, by: by})}
	}
	s.length = share(s.length.percent()*by, s.length.px*by)
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
	case !a.length.isFunction() && !b.length.isFunction() && (how == '+' || !a.length.relative() && !b.length.relative()):
		return sum{length: share(a.length.percent()+b.length.percent(), pick(a.length.px, b.length.px))}, nil
	}
	return sum{length: computed(&function{name: how, args: []length{a.length, b.length}})}, nil
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
