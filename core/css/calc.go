package css

import (
	"errors"
	"fmt"
)

// math reads the arguments of a math function and its closing parenthesis (CSS
// Values 4, 10).
func (s *scanner) math(name string, depth int) (Value, error) {
	out := Calc{Op: name}
	for {
		v, err := s.sum(depth)
		if err != nil {
			return nil, err
		}
		out.Args = append(out.Args, v)
		s.space()
		if s.peek() != ',' {
			break
		}
		s.at++
	}
	if err := s.close(); err != nil {
		return nil, err
	}
	switch {
	case name == "calc" && len(out.Args) != 1:
		return nil, errors.New("calc() takes one calculation")
	case name == "clamp" && len(out.Args) != 3:
		return nil, errors.New("clamp() takes three values")
	}
	if _, err := typeOf(out); err != nil {
		return nil, err
	}
	return out, nil
}

// sum reads products joined by + and -, which have white space around them.
func (s *scanner) sum(depth int) (Value, error) {
	total, err := s.product(depth)
	for err == nil {
		from := s.at
		before := s.space()
		op := s.peek()
		if op != '+' && op != '-' {
			s.at = from
			break
		}
		s.at++
		if after := s.space(); !before || !after {
			return nil, fmt.Errorf("%c in a calculation needs a space on either side", op)
		}
		var next Value
		next, err = s.product(depth)
		total = Calc{string(op), []Value{total, next}}
	}
	return total, err
}

func (s *scanner) product(depth int) (Value, error) {
	total, err := s.term(depth)
	for err == nil {
		from := s.at
		s.space()
		op := s.peek()
		if op != '*' && op != '/' {
			s.at = from
			break
		}
		s.at++
		var next Value
		next, err = s.term(depth)
		total = Calc{string(op), []Value{total, next}}
	}
	return total, err
}

func (s *scanner) term(depth int) (Value, error) {
	if depth > maxNesting {
		return nil, fmt.Errorf("nested deeper than %d", maxNesting)
	}
	s.space()
	if s.peek() == '(' {
		s.at++
		v, err := s.sum(depth + 1)
		if err == nil {
			s.space()
			err = s.close()
		}
		return v, err
	}
	if s.at == len(s.text) || s.peek() == ')' || s.peek() == ',' {
		return nil, errors.New("a calculation lacks a value")
	}
	v, err := s.one(depth)
	if err != nil {
		return nil, err
	}
	switch v.(type) {
	case Number, Percent, Length, Dimension, Ref, Calc:
		return v, nil
	}
	return nil, fmt.Errorf("%s is not allowed in a calculation", v)
}

// quantity is the type of a calculation (CSS Values 4, 10.2).
type quantity string

const (
	unknown   quantity = "" // it holds a reference
	number    quantity = "a number"
	lengthy   quantity = "a length" // a length, a percentage, or both
	angular   quantity = "an angle"
	temporal  quantity = "a time"
	fractions quantity = "a fraction"
)

func typeOf(v Value) (quantity, error) {
	switch v := v.(type) {
	case Number:
		return number, nil
	case Percent, Length:
		return lengthy, nil
	case Dimension:
		switch v.Unit {
		case "s", "ms":
			return temporal, nil
		case "fr":
			return fractions, nil
		}
		return angular, nil
	case Calc:
		return v.quantity()
	}
	return unknown, nil
}

func (v Calc) quantity() (quantity, error) {
	types := make([]quantity, len(v.Args))
	for i, a := range v.Args {
		t, err := typeOf(a)
		if err != nil {
			return unknown, err
		}
		types[i] = t
	}
	first := types[0]
	switch v.Op {
	case "*":
		second := types[1]
		switch {
		case second == number || first == unknown && second == unknown:
			return first, nil
		case first == number || first == unknown:
			return second, nil
		case second == unknown:
			return first, nil
		}
		return unknown, fmt.Errorf("%s multiplies %s by %s", v, first, second)
	case "/":
		if types[1] != number && types[1] != unknown || v.Args[1] == Number(0) {
			return unknown, fmt.Errorf("%s divides by what is no number, or by 0", v)
		}
		return first, nil
	}
	for _, t := range types[1:] {
		switch {
		case first == unknown:
			first = t
		case t != unknown && t != first:
			return unknown, fmt.Errorf("%s mixes %s and %s", v, first, t)
		}
	}
	return first, nil
}

// Units gives the px of one unit of length; false when that is not known.
type Units func(unit string) (px float64, ok bool)

// Fixed gives the units that need no box to refer to: absolute ones, rem, and em
// for a font size. Sizes in px.
func Fixed(fontSize, rootSize float64) Units {
	return func(unit string) (float64, bool) {
		switch unit {
		case "px":
			return 1, true
		case "em":
			return fontSize, true
		case "rem":
			return rootSize, true
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
			return 16, true // 1/6 in (CSS Values 4, 6.2)
		}
		return 0, false
	}
}

// Reduce carries out what a calculation's operands allow: lengths in known units
// become px, sums of like kinds one value. What depends on a percentage or a
// token stays a calculation, in fewest terms where that is a sum.
func Reduce(v Value, units Units) Value {
	switch v := v.(type) {
	case Length:
		if px, ok := units(v.Unit); ok {
			return Length{v.N * px, "px"}
		}
	case Calc:
		args := make([]Value, len(v.Args))
		for i, a := range v.Args {
			args[i] = Reduce(a, units)
		}
		return reduced(Calc{v.Op, args})
	}
	return v
}

func reduced(c Calc) Value {
	a := c.Args[0]
	if c.Op == "calc" {
		if _, sum := a.(Calc); sum {
			return c
		}
		return a
	}
	if c.Op == "*" || c.Op == "/" {
		by, ok := c.Args[1].(Number)
		if !ok && c.Op == "*" {
			by, ok = a.(Number)
			a = c.Args[1]
		}
		if ok && c.Op == "/" {
			by = 1 / by
		}
		if n, scaled := scale(a, float64(by)); ok && scaled {
			return n
		}
		return c
	}
	for _, b := range c.Args[1:] {
		x, y, ok := alike(a, b)
		if !ok {
			return c
		}
		switch c.Op {
		case "+":
			a = withAmount(a, x+y)
		case "-":
			a = withAmount(a, x-y)
		case "min":
			a = withAmount(a, min(x, y))
		case "max":
			a = withAmount(a, max(x, y))
		}
	}
	if c.Op == "clamp" { // clamp(low, value, high) is max(low, min(value, high))
		low, value, _ := alike(c.Args[0], c.Args[1])
		_, high, _ := alike(c.Args[0], c.Args[2])
		return withAmount(a, max(low, min(value, high)))
	}
	return a
}

func scale(v Value, by float64) (Value, bool) {
	n, ok := amount(v)
	if !ok {
		return v, false
	}
	return withAmount(v, n*by), true
}

func amount(v Value) (float64, bool) {
	switch v := v.(type) {
	case Number:
		return float64(v), true
	case Percent:
		return float64(v), true
	case Length:
		return v.N, true
	case Dimension:
		return v.N, true
	}
	return 0, false
}

func withAmount(v Value, n float64) Value {
	switch v := v.(type) {
	case Number:
		return Number(n)
	case Percent:
		return Percent(n)
	case Length:
		return Length{n, v.Unit}
	case Dimension:
		return Dimension{n, v.Unit}
	}
	return v
}

// alike gives the amounts of two values of one kind and unit.
func alike(a, b Value) (x, y float64, ok bool) {
	x, okA := amount(a)
	y, okB := amount(b)
	return x, y, okA && okB && withAmount(a, 0) == withAmount(b, 0)
}
