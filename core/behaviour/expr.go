package behaviour

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// Expr is an expression over values, props and what an event brings: numbers, 'texts', true and false, names, + - * / %, comparisons, && || !, and
// min, max, round, floor, abs of numbers and In('state'). It reads as ECMAScript's expressions do, but that only what is of one kind is compared.
type Expr struct {
	op   string // number, text, flag, name, call, or an operator
	val  any
	name string
	args []*Expr
}

const (
	mostExpr  = 1_000 // bytes
	mostDepth = 50
)

// functions with how many arguments they take; -1 for any number.
var functions = map[string]int{"min": -1, "max": -1, "round": 1, "floor": 1, "abs": 1, "In": 1, "String": 1}

// levels of binary operators, the loosest first.
var levels = [][]string{{"||"}, {"&&"}, {"==", "!="}, {"<=", ">=", "<", ">"}, {"+", "-"}, {"*", "/", "%"}}

type exprParser struct {
	text  string
	at    int
	depth int
}

// ParseExpr reads an expression.
func ParseExpr(text string) (*Expr, error) {
	if len(text) > mostExpr {
		return nil, fmt.Errorf("it is longer than %d characters", mostExpr)
	}
	p := &exprParser{text: text}
	e, err := p.binary(0)
	if err != nil {
		return nil, err
	}
	if p.space(); p.at < len(p.text) {
		return nil, fmt.Errorf("%q is not expected at %d", p.text[p.at:min(len(p.text), p.at+10)], p.at+1)
	}
	return e, nil
}

func (p *exprParser) space() {
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n", p.text[p.at]) >= 0 {
		p.at++
	}
}

func (p *exprParser) takes(word string) bool {
	if p.space(); strings.HasPrefix(p.text[p.at:], word) {
		p.at += len(word)
		return true
	}
	return false
}

func (p *exprParser) binary(level int) (*Expr, error) {
	if level == len(levels) {
		return p.unary()
	}
	left, err := p.binary(level + 1)
	for err == nil {
		op := ""
		for _, one := range levels[level] {
			if op == "" && p.takes(one) {
				op = one
			}
		}
		if op == "" {
			return left, nil
		}
		var right *Expr
		if right, err = p.binary(level + 1); err == nil {
			left = &Expr{op: op, args: []*Expr{left, right}}
		}
	}
	return nil, err
}

func (p *exprParser) unary() (*Expr, error) {
	if p.depth++; p.depth > mostDepth {
		return nil, fmt.Errorf("it is nested deeper than %d", mostDepth)
	}
	defer func() { p.depth-- }()
	for _, op := range []string{"-", "!"} {
		if p.takes(op) {
			of, err := p.unary()
			return &Expr{op: "unary " + op, args: []*Expr{of}}, err
		}
	}
	if p.takes("(") {
		e, err := p.binary(0)
		if err == nil && !p.takes(")") {
			err = fmt.Errorf("a ) is missing at %d", p.at+1)
		}
		return e, err
	}
	return p.leaf()
}

func (p *exprParser) leaf() (*Expr, error) {
	p.space()
	rest := p.text[p.at:]
	switch {
	case rest == "":
		return nil, fmt.Errorf("something is missing at its end")
	case rest[0] == '\'' || rest[0] == '"':
		end := strings.IndexByte(rest[1:], rest[0])
		if end < 0 || strings.ContainsAny(rest[1:end+1], "\\\n") {
			return nil, fmt.Errorf("the text at %d does not end, or holds what none may", p.at+1)
		}
		p.at += end + 2
		return &Expr{op: "text", val: rest[1 : end+1]}, nil
	case rest[0] >= '0' && rest[0] <= '9' || rest[0] == '.':
		n := strings.IndexFunc(rest, func(r rune) bool { return (r < '0' || r > '9') && r != '.' })
		if n < 0 {
			n = len(rest)
		}
		v, err := strconv.ParseFloat(rest[:n], 64)
		if err != nil || math.IsInf(v, 0) {
			return nil, fmt.Errorf("%q is no number", rest[:n])
		}
		p.at += n
		return &Expr{op: "number", val: v}, nil
	}
	n := strings.IndexFunc(rest, func(r rune) bool {
		return r != '_' && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && (r < '0' || r > '9')
	})
	if n < 0 {
		n = len(rest)
	}
	name := rest[:n]
	if name == "true" || name == "false" {
		p.at += n
		return &Expr{op: "flag", val: name == "true"}, nil
	}
	if !isName(name) {
		return nil, fmt.Errorf("%q is not expected at %d", rest[:min(len(rest), 10)], p.at+1)
	}
	p.at += n
	takes, call := functions[name]
	if !p.takes("(") {
		return &Expr{op: "name", name: name}, nil
	}
	if !call {
		return nil, fmt.Errorf("there is no %s(…)", name)
	}
	e := &Expr{op: "call", name: name}
	for !p.takes(")") {
		if len(e.args) > 0 && !p.takes(",") {
			return nil, fmt.Errorf("a ) is missing at %d", p.at+1)
		}
		arg, err := p.binary(0)
		if err != nil {
			return nil, err
		}
		e.args = append(e.args, arg)
	}
	if takes >= 0 && len(e.args) != takes || len(e.args) == 0 {
		return nil, fmt.Errorf("%s takes other than %d", name, len(e.args))
	}
	return e, nil
}

// Names lists the values and props that an expression asks for.
func (e *Expr) Names() (out []string) {
	if e.op == "name" && e.name != "event" {
		out = append(out, e.name)
	}
	for _, a := range e.args {
		for _, n := range a.Names() {
			if !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	return out
}

// scope is what the names of an expression stand for.
type scope interface {
	value(name string) (any, bool)
	in(state string) bool
}

// value works an expression out. What cannot be, as the sum of a text and a flag, or what is no number, is an error (SCXML 5.9.2, error.execution).
func (e *Expr) value(s scope) (any, error) {
	switch e.op {
	case "number", "text", "flag":
		return e.val, nil
	case "name":
		v, ok := s.value(e.name)
		if !ok {
			return nil, fmt.Errorf("there is nothing called %s", e.name)
		}
		return v, nil
	case "&&", "||":
		left, err := e.args[0].flag(s)
		if err != nil || left == (e.op == "||") {
			return left, err
		}
		return e.args[1].flag(s)
	case "unary !":
		v, err := e.args[0].flag(s)
		return !v, err
	case "call":
		return e.call(s)
	}
	values := make([]any, len(e.args))
	for i, a := range e.args {
		var err error
		if values[i], err = a.value(s); err != nil {
			return nil, err
		}
	}
	switch e.op {
	case "==", "!=":
		return (values[0] == values[1]) == (e.op == "=="), nil
	case "+":
		if a, ok := values[0].(string); ok {
			if b, ok := values[1].(string); ok && len(a)+len(b) <= mostExpr {
				return a + b, nil
			}
		}
	}
	numbers, err := numbersOf(values, e.op)
	if err != nil {
		return nil, err
	}
	a := numbers[0]
	if e.op == "unary -" {
		return -a, nil
	}
	b := numbers[1]
	switch e.op {
	case "<":
		return a < b, nil
	case "<=":
		return a <= b, nil
	case ">":
		return a > b, nil
	case ">=":
		return a >= b, nil
	case "+":
		return sound(a+b, e.op)
	case "-":
		return sound(a-b, e.op)
	case "*":
		return sound(a*b, e.op)
	case "/":
		return sound(a/b, e.op)
	}
	return sound(math.Mod(a, b), e.op) // as ECMAScript's % (ECMA-262, 6.1.6.1.6)
}

func sound(n float64, op string) (any, error) {
	if math.IsNaN(n) || math.IsInf(n, 0) {
		return nil, fmt.Errorf("%s gives no number", op)
	}
	return n + 0, nil // no negative zero
}

func numbersOf(values []any, op string) ([]float64, error) {
	out := make([]float64, len(values))
	for i, v := range values {
		n, ok := v.(float64)
		if !ok {
			return nil, fmt.Errorf("%s takes numbers, and %v is none", strings.TrimPrefix(op, "unary "), v)
		}
		out[i] = n
	}
	return out, nil
}

func (e *Expr) flag(s scope) (bool, error) {
	v, err := e.value(s)
	if err != nil {
		return false, err
	}
	b, ok := v.(bool)
	if !ok {
		return false, fmt.Errorf("%v is neither true nor false", v)
	}
	return b, nil
}

func (e *Expr) call(s scope) (any, error) {
	values := make([]any, len(e.args))
	for i, a := range e.args {
		var err error
		if values[i], err = a.value(s); err != nil {
			return nil, err
		}
	}
	if e.name == "In" {
		id, _ := values[0].(string)
		return s.in(id), nil
	}
	n, err := numbersOf(values, e.name)
	if err != nil {
		return nil, err
	}
	switch e.name {
	case "String":
		return written(n[0]), nil
	case "min":
		return slices.Min(n), nil
	case "max":
		return slices.Max(n), nil
	case "round":
		return sound(math.Floor(n[0]+0.5), e.name) // as Math.round (ECMA-262, 21.3.2.28)
	case "floor":
		return sound(math.Floor(n[0]), e.name)
	}
	return math.Abs(n[0]), nil
}

// written gives a number as ECMAScript writes it (ECMA-262, 6.1.6.1.20).
func written(n float64) string {
	if a := math.Abs(n); n == 0 || a >= 1e-6 && a < 1e21 {
		return strconv.FormatFloat(n, 'f', -1, 64)
	}
	digits, exponent, _ := strings.Cut(strconv.FormatFloat(n, 'e', -1, 64), "e")
	return digits + "e" + exponent[:1] + strings.TrimLeft(exponent[1:], "0")
}
