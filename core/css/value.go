// Package css reads the values of CSS once, into types, and holds the one table
// of the properties Cobrik knows: what they take, what they are at first, and
// how two of their values are compared.
package css

import (
	"math"
	"strconv"
	"strings"

	"cobrik/core/color"
)

// RootFontSize is the px of 1 rem unless somebody says otherwise: common
// practice, no source.
const RootFontSize = 16

// Value is one component value of CSS, or a List of several: a Keyword, String,
// Number, Percent, Length, Dimension, Color, Separator, Ref, Calc or Function. It is
// sealed; String writes it as a style sheet does, references in braces.
type Value interface {
	String() string
	isValue()
}

type (
	// Keyword is an identifier; those of CSS itself in lower case.
	Keyword string
	// String is a quoted string, without its quotes.
	String string
	// Number has no unit.
	Number float64
	// Percent is a percentage: 50 is 50%.
	Percent float64
	// Length is a distance in one of LengthUnits, in lower case.
	Length struct {
		N    float64
		Unit string
	}
	// Dimension is a number with any other known unit: fr, deg, ms …
	Dimension struct {
		N    float64
		Unit string
	}
	// Color is a colour and how it was written.
	Color struct {
		color.Color
		text string
	}
	// Separator stands between values: a comma or a slash.
	Separator byte
	// Ref refers to a design token by its path.
	Ref string
	// Calc is a math function or an operation within one (CSS Values 4, 10): Op is
	// calc, min, max, clamp, or one of + - * / between two values.
	Calc struct {
		Op   string
		Args []Value
	}
	// Function is any other function, its arguments with their separators.
	Function struct {
		Name string
		Args List
	}
	// List holds values in a row.
	List []Value
)

func (Keyword) isValue()   {}
func (String) isValue()    {}
func (Number) isValue()    {}
func (Percent) isValue()   {}
func (Length) isValue()    {}
func (Dimension) isValue() {}
func (Color) isValue()     {}
func (Separator) isValue() {}
func (Ref) isValue()       {}
func (Calc) isValue()      {}
func (Function) isValue()  {}
func (List) isValue()      {}

func (v Keyword) String() string   { return string(v) }
func (v String) String() string    { return Quote(string(v)) }
func (v Number) String() string    { return FormatNumber(float64(v)) }
func (v Percent) String() string   { return FormatNumber(float64(v)) + "%" }
func (v Length) String() string    { return FormatNumber(v.N) + v.Unit }
func (v Dimension) String() string { return FormatNumber(v.N) + v.Unit }
func (v Separator) String() string { return string(v) }
func (v Ref) String() string       { return "{" + string(v) + "}" }
func (v Function) String() string  { return v.Name + "(" + v.Args.String() + ")" }

func (v Color) String() string {
	if v.text == "" {
		return v.Key()
	}
	return v.text
}

func (v Calc) String() string {
	args := make([]string, len(v.Args))
	for i, a := range v.Args {
		args[i] = a.String()
		if inner, ok := a.(Calc); ok && len(v.Op) == 1 && len(inner.Op) == 1 {
			args[i] = "(" + args[i] + ")"
		}
	}
	if len(v.Op) == 1 {
		return args[0] + " " + v.Op + " " + args[1]
	}
	return v.Op + "(" + strings.Join(args, ", ") + ")"
}

func (v List) String() string {
	var b strings.Builder
	for i, one := range v {
		if i > 0 && one != Separator(',') {
			b.WriteByte(' ')
		}
		b.WriteString(one.String())
	}
	return b.String()
}

// Equal tells whether two values are the same, numbers and lengths within a
// tolerance, colours as they are seen.
func Equal(a, b Value, tolerance float64) bool {
	near := func(x, y float64) bool { return math.Abs(x-y) <= tolerance }
	all := func(x, y []Value) bool {
		if len(x) != len(y) {
			return false
		}
		for i := range x {
			if !Equal(x[i], y[i], tolerance) {
				return false
			}
		}
		return true
	}
	switch x := a.(type) {
	case Number:
		y, ok := b.(Number)
		return ok && near(float64(x), float64(y))
	case Percent:
		y, ok := b.(Percent)
		return ok && near(float64(x), float64(y))
	case Length:
		y, ok := b.(Length)
		return ok && x.Unit == y.Unit && near(x.N, y.N)
	case Dimension:
		y, ok := b.(Dimension)
		return ok && x.Unit == y.Unit && near(x.N, y.N)
	case Color:
		y, ok := b.(Color)
		return ok && x.Key() == y.Key()
	case Calc:
		y, ok := b.(Calc)
		return ok && x.Op == y.Op && all(x.Args, y.Args)
	case Function:
		y, ok := b.(Function)
		return ok && x.Name == y.Name && all(x.Args, y.Args)
	case List:
		y, ok := b.(List)
		return ok && all(x, y)
	}
	return a == b
}

// Refs lists the paths of the tokens a value refers to, in order.
func Refs(v Value) []string {
	var out []string
	walk(v, func(one Value) {
		if r, ok := one.(Ref); ok {
			out = append(out, string(r))
		}
	})
	return out
}

func walk(v Value, visit func(Value)) {
	visit(v)
	for _, one := range parts(v) {
		walk(one, visit)
	}
}

func parts(v Value) []Value {
	switch v := v.(type) {
	case Calc:
		return v.Args
	case Function:
		return v.Args
	case List:
		return v
	}
	return nil
}

// Map gives a value with every part replaced by what the function gives for it,
// inner parts first. A list within a list becomes part of it.
func Map(v Value, with func(Value) Value) Value {
	switch x := v.(type) {
	case Calc:
		args := make([]Value, len(x.Args))
		for i, a := range x.Args {
			args[i] = Map(a, with)
		}
		v = Calc{x.Op, args}
	case Function:
		v = Function{x.Name, mapList(x.Args, with)}
	case List:
		v = mapList(x, with)
	}
	return with(v)
}

func mapList(l List, with func(Value) Value) List {
	out := make(List, 0, len(l))
	for _, one := range l {
		mapped := Map(one, with)
		if many, ok := mapped.(List); ok {
			out = append(out, many...)
		} else {
			out = append(out, mapped)
		}
	}
	return out
}

// FormatNumber writes a number the short way CSS does, at most four decimals.
func FormatNumber(n float64) string {
	s := strconv.FormatFloat(n, 'f', 4, 64)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "-0" || s == "" {
		return "0"
	}
	return s
}

// Ident escapes what may not stand in an identifier that has begun (CSSOM 1,
// "serialize an identifier").
func Ident(name string) string {
	var b strings.Builder
	for _, r := range name {
		switch {
		case r == 0:
			b.WriteRune('\uFFFD')
		case r < 0x20 || r == 0x7f:
			b.WriteString("\\" + strconv.FormatInt(int64(r), 16) + " ")
		case r >= 0x80 || r == '-' || r == '_' || r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z':
			b.WriteRune(r)
		default:
			b.WriteByte('\\')
			b.WriteRune(r)
		}
	}
	return b.String()
}

// Quote writes a string as CSS does (CSSOM, 2.1: serialize a string).
func Quote(s string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range s {
		switch {
		case r == 0:
			b.WriteRune('\uFFFD')
		case r < 0x20 || r == 0x7f:
			b.WriteByte('\\')
			b.WriteString(strconv.FormatInt(int64(r), 16))
			b.WriteByte(' ')
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte('"')
	return b.String()
}
