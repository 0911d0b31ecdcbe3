package source

import (
	"slices"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/source/syntax"
)

// scope is what names mean in a function.
type scope struct {
	around *scope
	names  map[string]meaning
}

// meaning is what a name is bound to.
type meaning struct {
	kind  meaningKind
	prop  string       // id, or of a list's item "links"
	value *syntax.Node // of a constant
	in    *scope       // where the constant's own names are looked up
}

type meaningKind uint8

const (
	propValue  meaningKind = iota + 1
	propsWhole             // the object that holds all props
	restProps              // what is left of them
	listItem               // an item of a list, by the list's id
	listIndex              // its place
	constValue             // what an expression is, at the top of the module or in the function
	headingTag             // h1 to h6, by the number's id
	rootTag                // the element that a use makes of it
	partPlace              // what the ids of parts begin with
	classGiven             // the classes that a use gives
	machinery              // what a behaviour gives, or another hook
)

func (s *scope) find(name string) (meaning, bool) {
	for ; s != nil; s = s.around {
		if m, ok := s.names[name]; ok {
			return m, true
		}
	}
	return meaning{}, false
}

func (s *scope) inner() *scope { return &scope{s, map[string]meaning{}} }

// value gives what a name of the module begins with, wherever it is bound; nil for none.
func (m *module) value(name string) *syntax.Node {
	in, local := m.find(name)
	if in == nil {
		return nil
	}
	n := in.bound[local]
	if n.Is("variable_declarator") {
		return n.Child("value")
	}
	return n
}

// means follows a name: constants of the module are looked up, too.
func (r *reader) means(n *syntax.Node, s *scope) (meaning, bool) {
	if !n.Is("identifier", "shorthand_property_identifier") {
		return meaning{}, false
	}
	if m, ok := s.find(n.Text()); ok {
		return m, true
	}
	if v := r.moduleOf(n).value(n.Text()); v != nil {
		return meaning{kind: constValue, value: v}, true
	}
	return meaning{}, false
}

// moduleOf gives the module that a piece of code stands in.
func (r *reader) moduleOf(n *syntax.Node) *module { return r.code.module(n.Tree.Name) }

// operand is a prop's value in an expression.
type operand struct {
	prop   string
	member string // of it: length, or of an image src, alt, width or height
	orElse any    // what stands for it where it is empty; nil for nothing
}

// operand reads an expression that is a prop's value.
func (r *reader) operand(n *syntax.Node, s *scope) (operand, bool) {
	return r.operandAt(n, s, 0)
}

func (r *reader) operandAt(n *syntax.Node, s *scope, depth int) (operand, bool) {
	n = bare(n)
	if n == nil || depth > mostTypes {
		return operand{}, false
	}
	switch n.Kind {
	case "identifier", "shorthand_property_identifier":
		m, ok := r.means(n, s)
		switch {
		case !ok:
		case m.kind == propValue:
			return operand{prop: m.prop}, true
		case m.kind == constValue:
			return r.operandAt(m.value, m.in, depth+1)
		}
	case "member_expression":
		return r.memberOperand(n, s, depth)
	case "binary_expression":
		if op := n.Child("operator").Text(); op == "??" || op == "||" {
			o, ok := r.operandAt(n.Child("left"), s, depth+1)
			v, is := constant(n.Child("right"))
			if !ok || !is || o.member != "" {
				return operand{}, false
			}
			if op == "??" {
				r.stands(o.prop, n.Child("right"), s)
			} else if o.orElse == nil {
				o.orElse = v
			}
			return o, true
		}
	case "call_expression":
		if args := n.Child("arguments").Inner(); n.Child("function").Text() == "String" && len(args) == 1 {
			return r.operandAt(args[0], s, depth+1)
		}
	case "template_string":
		if inner := n.Inner(); len(inner) == 1 && inner[0].Is("template_substitution") {
			return r.operandAt(inner[0].Lead(), s, depth+1)
		}
	}
	return operand{}, false
}

func (r *reader) memberOperand(n *syntax.Node, s *scope, depth int) (operand, bool) {
	property := n.Child("property").Text()
	object := bare(n.Child("object"))
	m, ok := r.means(object, s)
	for ok && m.kind == constValue && bare(m.value).Is("identifier") && depth < mostTypes { // const item = other
		m, ok = r.means(bare(m.value), m.in)
		depth++
	}
	switch {
	case ok && (m.kind == propsWhole || m.kind == restProps):
		if r.out.Prop(property) != nil {
			return operand{prop: property}, true
		}
		return operand{}, false
	case ok && m.kind == listItem:
		id := m.prop + "." + property
		return operand{prop: id}, r.out.Prop(id) != nil
	}
	o, ok := r.operandAt(object, s, depth+1)
	if ok && o.member == "" {
		o.member = property
	}
	return o, ok && o.member == property
}

// test reads a condition; false where it asks of something that is no prop.
func (r *reader) test(n *syntax.Node, s *scope) (cond, bool) { return r.testAt(n, s, 0) }

func (r *reader) testAt(n *syntax.Node, s *scope, depth int) (cond, bool) {
	n = bare(n)
	if n == nil || depth > mostTypes {
		return nil, false
	}
	if v, ok := constant(n); ok {
		if truthy(v) {
			return always(), true
		}
		return nil, true
	}
	switch n.Kind {
	case "unary_expression":
		if n.Child("operator").Text() == "!" {
			c, ok := r.testAt(n.Child("argument"), s, depth+1)
			if !ok {
				return nil, false
			}
			return r.not(c)
		}
		return nil, false
	case "binary_expression":
		return r.binary(n, s, depth)
	case "ternary_expression":
		c, ok := r.testAt(n.Child("condition"), s, depth+1)
		then, okThen := r.testAt(n.Child("consequence"), s, depth+1)
		other, okOther := r.testAt(n.Child("alternative"), s, depth+1)
		none, okNot := r.not(c)
		return c.and(then).or(none.and(other)), ok && okThen && okOther && okNot
	case "call_expression":
		args := n.Child("arguments").Inner()
		if n.Child("function").Text() == "Boolean" && len(args) == 1 {
			return r.testAt(args[0], s, depth+1)
		}
		return nil, false
	case "identifier":
		if m, ok := r.means(n, s); ok && m.kind == constValue {
			return r.testAt(m.value, m.in, depth+1)
		}
	}
	o, ok := r.operandAt(n, s, depth+1)
	if !ok {
		return nil, false
	}
	return r.truth(o)
}

func truthy(v any) bool {
	switch v := v.(type) {
	case bool:
		return v
	case string:
		return v != ""
	case float64:
		return v != 0
	}
	return false
}

// truth is when a prop's value counts as true (ECMA-262, 7.1.2).
func (r *reader) truth(o operand) (cond, bool) {
	p := r.out.Prop(o.prop)
	if p == nil || o.orElse != nil && truthy(o.orElse) {
		return always(), p != nil
	}
	switch {
	case o.member == "length" && p.Kind() == contract.ListKind:
		return cond{{contract.PropSet{Prop: o.prop, Set: true}}}, true
	case o.member != "":
		return nil, false
	}
	switch p.Kind() {
	case contract.FlagKind:
		return cond{{contract.PropIs{Prop: o.prop, Value: contract.FlagValue(true)}}}, true
	case contract.ChoiceKind:
		if maybeNone(p) {
			break
		}
		var out cond
		for _, v := range p.Options() {
			if v != "" {
				out = append(out, []contract.Term{contract.PropIs{Prop: o.prop, Value: contract.OptionValue(v)}})
			}
		}
		if len(out) == len(p.Options()) {
			return always(), true
		}
		return out, true
	case contract.NumberKind:
		zero := contract.Bound{Kind: contract.Exclusive}
		return cond{{contract.NumberIs{Prop: o.prop, High: zero}}, {contract.NumberIs{Prop: o.prop, Low: zero}}}, true
	case contract.ListKind:
		return nil, false // an empty one counts as true
	}
	return cond{{contract.PropSet{Prop: o.prop, Set: true}}}, true
}

// maybeNone tells whether a choice may have no value: nothing says which it has where a use gives none.
func maybeNone(p *contract.Prop) bool {
	choice, ok := p.Type.(contract.Choice)
	return ok && choice.Initial == "" && !p.Required
}

// reversed turns a comparison round.
var reversed = map[string]string{"<": ">", ">": "<", "<=": ">=", ">=": "<="}

func (r *reader) binary(n *syntax.Node, s *scope, depth int) (cond, bool) {
	op := n.Child("operator").Text()
	left, right := n.Child("left"), n.Child("right")
	switch op {
	case "&&", "||":
		a, okA := r.testAt(left, s, depth+1)
		b, okB := r.testAt(right, s, depth+1)
		if op == "&&" {
			return a.and(b), okA && okB
		}
		return a.or(b), okA && okB
	case "??":
		o, ok := r.operandAt(n, s, depth+1)
		if !ok {
			return nil, false
		}
		return r.truth(o)
	}
	o, isOperand := r.operandAt(left, s, depth+1)
	v, isConstant := constant(right)
	if !isOperand || !isConstant {
		o, isOperand = r.operandAt(right, s, depth+1)
		v, isConstant = constant(left)
		if turned := reversed[op]; turned != "" {
			op = turned
		}
	}
	if !isOperand || !isConstant {
		return nil, false
	}
	return r.compared(o, op, v)
}

// compared is when a prop's value stands to a constant as an operator says.
func (r *reader) compared(o operand, op string, v any) (cond, bool) {
	p := r.out.Prop(o.prop)
	if p == nil || o.member != "" && o.member != "length" {
		return nil, false
	}
	negated := op == "!==" || op == "!="
	either := func(c cond) (cond, bool) {
		if negated {
			return r.not(c)
		}
		return c, true
	}
	equal := negated || op == "===" || op == "=="
	if o.member == "length" {
		if p.Kind() != contract.ListKind && p.Kind() != contract.TextKind || v != 0.0 && v != 1.0 {
			return nil, false
		}
		some := cond{{contract.PropSet{Prop: o.prop, Set: true}}}
		switch {
		case v == 0.0 && (op == ">" || negated), v == 1.0 && op == ">=":
			return some, true
		case v == 0.0 && (equal || op == "<="), v == 1.0 && op == "<":
			return r.not(some)
		}
		return nil, false
	}
	switch p.Kind() {
	case contract.FlagKind:
		if want, ok := v.(bool); ok && equal {
			return either(cond{{contract.PropIs{Prop: o.prop, Value: contract.FlagValue(want)}}})
		}
	case contract.ChoiceKind:
		if want, ok := v.(string); ok && equal {
			if !slices.Contains(p.Options(), want) {
				return either(nil) // TypeScript would not let it be
			}
			return either(cond{{contract.PropIs{Prop: o.prop, Value: contract.OptionValue(want)}}})
		}
		if _, none := v.(nothing); none && equal {
			return either(cond{{contract.PropSet{Prop: o.prop}}})
		}
	case contract.NumberKind:
		switch want := v.(type) {
		case nothing:
			if equal && p.Default() == nil {
				return either(cond{{contract.PropSet{Prop: o.prop, Set: false}}})
			}
			if equal {
				return either(nil)
			}
		case float64:
			exactly, beyond := contract.Bound{At: want, Kind: contract.Inclusive}, contract.Bound{At: want, Kind: contract.Exclusive}
			switch {
			case equal:
				return either(cond{{contract.NumberIs{Prop: o.prop, Low: exactly, High: exactly}}})
			case op == ">":
				return cond{{contract.NumberIs{Prop: o.prop, Low: beyond}}}, true
			case op == ">=":
				return cond{{contract.NumberIs{Prop: o.prop, Low: exactly}}}, true
			case op == "<":
				return cond{{contract.NumberIs{Prop: o.prop, High: beyond}}}, true
			case op == "<=":
				return cond{{contract.NumberIs{Prop: o.prop, High: exactly}}}, true
			}
		}
	default:
		none := v == nothing{} || v == ""
		if equal && none {
			return either(cond{{contract.PropSet{Prop: o.prop, Set: false}}})
		}
	}
	return nil, false
}

// written is a text and when it is that.
type written struct {
	text string
	when cond
}

// texts reads an expression that is one of a few texts, as a prop decides.
func (r *reader) texts(n *syntax.Node, s *scope) (out []written, ok bool) {
	return r.textsAt(n, s, 0)
}

func (r *reader) textsAt(n *syntax.Node, s *scope, depth int) (out []written, ok bool) {
	n = bare(n)
	if n == nil || depth > 20 {
		return nil, false
	}
	if v, is := constant(n); is {
		switch v := v.(type) {
		case string:
			return []written{{v, always()}}, true
		case float64:
			return []written{{contract.NumberValue(v).String(), always()}}, true
		}
		return []written{{"", always()}}, true
	}
	switch n.Kind {
	case "ternary_expression":
		c, okC := r.test(n.Child("condition"), s)
		none, okNot := r.not(c)
		then, okThen := r.textsAt(n.Child("consequence"), s, depth+1)
		other, okOther := r.textsAt(n.Child("alternative"), s, depth+1)
		if !okC || !okNot || !okThen || !okOther {
			return nil, false
		}
		for _, w := range then {
			out = append(out, written{w.text, w.when.and(c)})
		}
		for _, w := range other {
			out = append(out, written{w.text, w.when.and(none)})
		}
		return out, true
	case "template_string":
		out = []written{{"", always()}}
		for _, piece := range templatePieces(n) {
			more := []written{{piece.text, always()}}
			if piece.expression != nil {
				if more, ok = r.textsAt(piece.expression, s, depth+1); !ok {
					return nil, false
				}
			}
			if out, ok = crossed(out, more); !ok {
				return nil, false
			}
		}
		return out, true
	case "binary_expression":
		if n.Child("operator").Text() == "+" {
			a, okA := r.textsAt(n.Child("left"), s, depth+1)
			b, okB := r.textsAt(n.Child("right"), s, depth+1)
			if okA && okB {
				return crossed(a, b)
			}
			return nil, false
		}
	case "member_expression":
		if sheet := r.moduleSheet(bare(n.Child("object"))); sheet != "" {
			return []written{{moduleClass(sheet, n.Child("property").Text()), always()}}, true
		}
	case "subscript_expression": // a table by a prop's value
		return r.lookedUpTexts(n, s, depth)
	case "identifier":
		if m, is := r.means(n, s); is && m.kind == constValue {
			return r.textsAt(m.value, m.in, depth+1)
		}
	}
	o, is := r.operand(n, s)
	p := r.out.Prop(o.prop)
	if !is || p == nil || o.member != "" {
		return nil, false
	}
	switch p.Kind() {
	case contract.ChoiceKind:
		for _, option := range p.Options() {
			out = append(out, written{option, cond{{contract.PropIs{Prop: o.prop, Value: contract.OptionValue(option)}}}})
		}
		return out, true
	case contract.FlagKind:
		for _, v := range []bool{true, false} {
			out = append(out, written{contract.FlagValue(v).String(), cond{{contract.PropIs{Prop: o.prop, Value: contract.FlagValue(v)}}}})
		}
		return out, true
	}
	return nil, false
}

func (r *reader) lookedUpTexts(n *syntax.Node, s *scope, depth int) (out []written, ok bool) {
	if sheet := r.moduleSheet(bare(n.Child("object"))); sheet != "" {
		keys, ok := r.textsAt(n.Child("index"), s, depth+1)
		for _, k := range keys {
			if r.code.sheet(sheet).has(k.text) {
				out = append(out, written{moduleClass(sheet, k.text), k.when})
			} else {
				out = append(out, written{"", k.when})
			}
		}
		return out, ok
	}
	names, values, whole := r.table(n.Child("object"), s)
	if !whole || len(names) == 0 {
		return nil, false
	}
	keys, ok := r.textsAt(n.Child("index"), s, depth+1)
	if !ok {
		return nil, false
	}
	for _, k := range keys {
		if values[k.text] == nil {
			out = append(out, written{"", k.when})
			continue
		}
		inner, ok := r.textsAt(values[k.text], nil, depth+1)
		if !ok {
			return nil, false
		}
		for _, w := range inner {
			out = append(out, written{w.text, w.when.and(k.when)})
		}
	}
	return out, true
}

// table finds the object literal that a name, or an expression, is.
func (r *reader) table(n *syntax.Node, s *scope) (names []string, values map[string]*syntax.Node, whole bool) {
	n = bare(n)
	for range 8 {
		m, ok := r.means(n, s)
		if !ok || m.kind != constValue {
			break
		}
		n, s = bare(m.value), m.in
	}
	return entries(n)
}

func crossed(a, b []written) (out []written, ok bool) {
	if len(a)*len(b) > mostCases {
		return nil, false
	}
	for _, x := range a {
		for _, y := range b {
			if when := x.when.and(y.when); when != nil {
				out = append(out, written{x.text + y.text, when})
			}
		}
	}
	return out, true
}

type templatePiece struct {
	text       string
	expression *syntax.Node
}

// templatePieces cuts a template into its texts and expressions (ECMA-262, 13.2.8).
func templatePieces(n *syntax.Node) (out []templatePiece) {
	at := n.From + 1
	text := func(to int) {
		if to > at {
			out = append(out, templatePiece{text: unescaped(strings.ReplaceAll(string(n.Tree.Text[at:to]), "\r\n", "\n"))})
		}
	}
	for _, c := range n.Children {
		if c.Is("template_substitution") {
			text(c.From)
			if inner := c.Inner(); len(inner) > 0 {
				out = append(out, templatePiece{expression: inner[0]})
			}
			at = c.To
		}
	}
	text(n.To - 1)
	return out
}
