package react

import (
	"strconv"
	"strings"

	"cobrik/core/behaviour"
	"cobrik/core/emit/printer"
)

// scoped says how the names of an expression are written, and what asks whether a state is active.
type scoped struct {
	name func(name string) string
	in   func(state string) printer.Doc
}

// weights of operators, the loosest first (ECMA-262, 13).
var weights = map[string]int{"||": 1, "&&": 2, "==": 3, "!=": 3, "<": 4, "<=": 4, ">": 4, ">=": 4, "+": 5, "-": 5, "*": 6, "/": 6, "%": 6}

// expr lays an expression out: calls an argument a line, operators at the end of one, where it does not fit.
func (s scoped) expr(e *behaviour.Expr) printer.Doc {
	args := e.Args()
	switch op := e.Op(); op {
	case "number":
		return text(strconv.FormatFloat(e.Value().(float64), 'f', -1, 64))
	case "text":
		return text(quote(e.Value().(string)))
	case "flag":
		return text(strconv.FormatBool(e.Value().(bool)))
	case "name":
		return text(s.name(e.Name()))
	case "unary -", "unary !":
		return concat(text(strings.TrimPrefix(op, "unary ")), bracketed(s.expr(args[0]), weights[args[0].Op()] > 0 || args[0].Op() == "unary -"))
	case "call":
		if e.Name() == "In" {
			id, _ := args[0].Value().(string)
			return s.in(id)
		}
		list := make([]printer.Doc, len(args))
		for i, a := range args {
			list[i] = s.expr(a)
		}
		called := "Math." + e.Name()
		if e.Name() == "String" {
			called = "String"
		}
		return group(text(called+"("), indent(printer.SoftLine, commas(list)), printer.IfBreak(",", ""), printer.SoftLine, text(")"))
	}
	first, others := s.operands(e)
	return group(first, indent(others...))
}

// operands gives the first operand of a chain of operators, and the others with the operators before them. Between operators of one weight that are not the same there are
// brackets, as formatters have them.
func (s scoped) operands(e *behaviour.Expr) (first printer.Doc, others []printer.Doc) {
	left, right := e.Args()[0], e.Args()[1]
	mine := weights[e.Op()]
	chained := weights[left.Op()] == mine && mine != 3 && mine != 4 && (mine != 6 || left.Op() == e.Op() && e.Op() != "%")
	if chained {
		first, others = s.operands(left)
	} else {
		first = s.operand(left, mine, false)
	}
	op := e.Op()
	if op == "==" || op == "!=" {
		op += "="
	}
	return first, append(others, text(" "+op), printer.Line, s.operand(right, mine, true))
}

func (s scoped) operand(e *behaviour.Expr, around int, right bool) printer.Doc {
	mine := weights[e.Op()]
	equal := func(n int) bool { return n == 3 || n == 4 }
	apart := mine > 0 && (mine < around || mine == around || equal(mine) && equal(around) || around == 1 && mine == 2)
	return bracketed(s.expr(e), apart)
}

func bracketed(d printer.Doc, in bool) printer.Doc {
	if in {
		return concat(text("("), d, text(")"))
	}
	return d
}

// assigned writes what something becomes: an operator's operands stand below it where they do not fit beside it.
func (s scoped) assigned(to string, e *behaviour.Expr) printer.Doc {
	if weights[e.Op()] == 0 {
		return concat(text(to+" = "), s.expr(e), text(";"))
	}
	first, others := s.operands(e)
	return concat(group(text(to+" ="), indent(printer.Line, group(first, concat(others...)))), text(";"))
}

// line writes an expression on one line.
func (s scoped) line(e *behaviour.Expr) string {
	return strings.TrimSpace(printer.Print(s.expr(e), 1<<20))
}
