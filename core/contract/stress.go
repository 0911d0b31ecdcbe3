package contract

import (
	"strings"
	"unicode/utf8"
)

// StressCase is a use that a component should bear: texts as people write them, lists as data has them, the other
// direction, a narrow place.
type StressCase struct {
	Name      string
	Values    Values
	Direction string  // ltr or rtl
	Width     float64 // px of the container; 0 for as it is
}

// longestWord is a compound as some languages have them; nothing in it lets a line break.
const longestWord = "Gemüsebeetbewässerungsgemeinschaftsversammlung"

// narrow is the width, px, at which content has to be there without scrolling in two directions (WCAG 2.2, 1.4.10).
const narrow = 320

// Stress lists what to look at a use of some values under; only what the component's props let happen.
func (c *Contract) Stress(values Values) []StressCase {
	var out []StressCase
	with := func(name string, change func(p Prop, v Value) (Value, bool)) {
		next, changed := values.With(nil), false
		for _, p := range c.Props {
			v, ok := change(p, values[p.ID])
			if !ok {
				continue
			}
			if changed = true; v == nil {
				delete(next, p.ID)
				continue
			}
			next[p.ID] = v
		}
		if changed && !c.AreApart(next) {
			out = append(out, StressCase{Name: name, Values: next, Direction: "ltr"})
		}
	}
	with("longest words", func(p Prop, v Value) (Value, bool) { return worded(p, longestWord), written(p) })
	with("twice the text", func(p Prop, v Value) (Value, bool) {
		if v == nil || v.String() == "" {
			return nil, false
		}
		return worded(p, v.String()+" "+v.String()), written(p)
	})
	with("no text", func(p Prop, _ Value) (Value, bool) { return worded(p, ""), written(p) })
	with("no picture", func(p Prop, v Value) (Value, bool) { return nil, p.Kind() == ImageKind && !p.Required && v != nil })
	for _, n := range []struct {
		name  string
		items int
	}{{"no items", 0}, {"one item", 1}, {"fifty items", 50}} {
		with(n.name, func(p Prop, v Value) (Value, bool) {
			l, ok := p.Type.(List)
			if !ok || n.items > l.limit() {
				return nil, false
			}
			return l.of(v, n.items), true
		})
	}
	return append(out, StressCase{Name: "right to left", Values: values, Direction: "rtl"}, StressCase{Name: "320 px wide", Values: values, Direction: "ltr", Width: narrow})
}

// written tells whether a prop is text that people write.
func written(p Prop) bool { return p.Kind() == TextKind || p.Kind() == RichKind }

// worded gives a text as a prop holds it, no longer than it allows.
func worded(p Prop, text string) Value {
	longest := 0
	switch t := p.Type.(type) {
	case Text:
		longest = t.Longest
	case Rich:
		if longest = t.Longest; text == "" {
			return RichValue{}
		}
	}
	if longest > 0 && utf8.RuneCountInString(text) > longest {
		text = strings.TrimSpace(string([]rune(text)[:longest]))
	}
	if p.Kind() == RichKind {
		return Plain(text)
	}
	return TextValue(text)
}

// of gives so many items: those of a value again and again, else what items are looked at with.
func (l List) of(v Value, n int) ListValue {
	items, _ := v.(ListValue)
	if len(items) == 0 {
		one := Values{}
		for _, p := range l.Items {
			if s := p.Shown(); s != nil {
				one[p.ID] = s
			}
		}
		items = ListValue{one}
	}
	out := make(ListValue, n)
	for i := range out {
		out[i] = items[i%len(items)].With(nil)
	}
	return out
}
