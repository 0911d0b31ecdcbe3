package react

import (
	"bytes"
	"encoding/json"
	"strings"

	"cobrik/core/contract"
	"cobrik/core/emit/ir"
)

// prop finds a prop by its key.
func (w writer) prop(key string) *ir.Prop {
	var found *ir.Prop
	each(w.m, func(p, _ *ir.Prop) {
		if p.Key == key {
			found = p
		}
	})
	return found
}

// given is the expression of what a use gave for a prop.
func (w writer) given(key string) string {
	if list, _, item := strings.Cut(key, "."); item {
		return w.n.items[list] + "." + w.prop(key).Name
	}
	return w.n.locals[key]
}

// value is the expression of a prop's value: its default where nothing was given.
func (w writer) value(key string) string {
	p := w.prop(key)
	if _, _, item := strings.Cut(key, "."); item && w.initial(p) != "" && p.Default() != contract.FlagValue(false) {
		return w.given(key) + " ?? " + w.initial(p)
	}
	return w.given(key)
}

// operand is a prop's value as one side of an operator.
func (w writer) operand(key string) string {
	if v := w.value(key); v != w.given(key) {
		return "(" + v + ")"
	}
	return w.given(key)
}

// initial is the expression of a prop's default; empty for none.
func (w writer) initial(p *ir.Prop) string {
	switch v := p.Default().(type) {
	case nil:
		return ""
	case contract.TextValue:
		if v == "" && p.Key != p.ID { // an item without a text shows none either way
			return ""
		}
		return quote(string(v))
	case contract.ListValue:
		return "[]"
	case contract.RichValue:
		if v.Inline() && len(v[0].Runs) == 1 && v[0].Runs[0] == (contract.Run{Text: v[0].Runs[0].Text}) {
			return quote(v[0].Runs[0].Text)
		}
		return w.n.defaults[p.Key]
	default:
		return literal(v)
	}
}

func literal(v contract.Value) string {
	switch v := v.(type) {
	case contract.FlagValue:
		return v.String()
	case contract.NumberValue:
		return v.String()
	}
	return quote(v.String())
}

// test is the expression of a term that asks of props.
func (w writer) test(t contract.Term) string {
	switch t := t.(type) {
	case contract.PropIs:
		switch t.Value {
		case contract.FlagValue(true):
			return w.operand(t.Prop)
		case contract.FlagValue(false):
			return "!" + w.operand(t.Prop)
		}
		return w.operand(t.Prop) + " === " + literal(t.Value)
	case contract.NumberIs:
		return w.bounds(t)
	case contract.PropSet:
		return w.isSet(t)
	case contract.InState:
		if w.hook != nil {
			return w.hook.inState(t.State, w.n.state)
		}
	}
	return "true"
}

func (w writer) bounds(t contract.NumberIs) string {
	of := w.operand(t.Prop)
	var tests []string
	if p := w.prop(t.Prop); !p.Required && p.Default() == nil {
		tests = append(tests, of+" !== undefined")
	}
	number := func(b contract.Bound) string { return contract.NumberValue(b.At).String() }
	if t.Low.Kind == contract.Inclusive && t.Low == t.High {
		return strings.Join(append(tests, of+" === "+number(t.Low)), " && ")
	}
	sign := map[contract.BoundKind]string{contract.Inclusive: "=", contract.Exclusive: ""}
	if t.Low.Kind != contract.NoBound {
		tests = append(tests, of+" >"+sign[t.Low.Kind]+" "+number(t.Low))
	}
	if t.High.Kind != contract.NoBound {
		tests = append(tests, of+" <"+sign[t.High.Kind]+" "+number(t.High))
	}
	return strings.Join(tests, " && ")
}

// isSet asks whether there is anything in a prop, as contract.IsSet does.
func (w writer) isSet(t contract.PropSet) string {
	of, equal := w.operand(t.Prop), " !== "
	if !t.Set {
		equal = " === "
	}
	switch w.prop(t.Prop).Kind() {
	case contract.ListKind:
		return of + ".length" + map[bool]string{true: " > 0", false: " === 0"}[t.Set]
	case contract.NumberKind, contract.ImageKind, contract.IconKind:
		return of + equal + "undefined"
	}
	if t.Set {
		return "Boolean(" + w.value(t.Prop) + ")"
	}
	return "!" + of
}

// quote writes a TypeScript string literal, in the quotes that need fewer escapes.
func quote(s string) string {
	double := encoded(s)
	if strings.Count(s, "\"") <= strings.Count(s, "'") {
		return double
	}
	inner := strings.ReplaceAll(double[1:len(double)-1], "\\\"", "\"")
	return "'" + strings.ReplaceAll(inner, "'", "\\'") + "'"
}

func encoded(v any) string {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		panic(err) // a string or a boolean
	}
	return strings.TrimSuffix(b.String(), "\n")
}

// comment keeps a text from ending the comment it stands in.
func comment(s string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(s), " "), "*/", "*\\/")
}
