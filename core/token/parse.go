package token

import (
	"slices"
	"strconv"
	"strings"

	"cobrik/core/color"
	"cobrik/core/jsontree"
	"cobrik/core/problem"
)

// place is where a piece of a token's value stands, for messages.
type place struct {
	t     *Token
	steps string // JSON Pointer below $value
}

func (p place) under(step string) place { return place{p.t, p.steps + "/" + problem.Token(step)} }

func (p place) pointer() string { return p.t.Pointer() + "/$value" + p.steps }

func (r *resolution) wrong(rule string, p place, n *jsontree.Node, fix, format string, args ...any) {
	r.errorf(rule, p.t.source, n, p.pointer(), fix, "the token "+p.t.Path+": "+format, args...)
}

// value reads a value of a type, or a reference to one; nil when it cannot be
// read, which has been reported.
func (r *resolution) value(p place, kind string, n *jsontree.Node) *Value {
	if n.Kind == jsontree.String || n.Kind == jsontree.Object {
		if v, isReference := r.reference(p, kind, n); isReference {
			return v
		}
	}
	switch kind {
	case "color":
		return r.color(p, n)
	case "dimension":
		return r.measure(p, kind, n, "px", "rem")
	case "duration":
		return r.measure(p, kind, n, "ms", "s")
	case "number":
		if f, ok := n.Float(); ok {
			return &Value{Type: kind, Literal: f}
		}
		r.wrong("token-value", p, n, "", "a number was expected, found %s", n.Short())
	case "boolean":
		if n.Kind == jsontree.Bool {
			return &Value{Type: kind, Literal: n.Text == "true"}
		}
		r.wrong("token-value", p, n, "", "true or false was expected, found %s", n.Short())
	case "fontWeight":
		return r.fontWeight(p, n)
	case "lineCap":
		return r.keyword(p, n, lineCaps)
	case "strokeStyle":
		if n.Kind == jsontree.Object {
			return r.composite(p, kind, n)
		}
		v := r.keyword(p, n, strokeStyles)
		if v != nil {
			v.Type = kind
		}
		return v
	case "fontFamily":
		if n.Kind == jsontree.String {
			return &Value{Type: kind, Items: []*Value{{Type: "family", Literal: n.Text}}}
		}
		return r.list(p, kind, n, 1, 100)
	case "family":
		if n.Kind == jsontree.String && n.Text != "" {
			return &Value{Type: kind, Literal: n.Text}
		}
		r.wrong("token-value", p, n, "", "a family's name was expected, found %s", n.Short())
	case "cubicBezier":
		v := r.list(p, kind, n, 4, 4)
		for i := 0; v != nil && i < 4; i += 2 {
			if x, ok := v.Items[i].End().Literal.(float64); ok && (x < 0 || x > 1) {
				r.wrong("token-value", p, n, "keep both x between 0 and 1", "the curve's x goes from 0 to 1, found %s", Number(x))
				return nil
			}
		}
		return v
	case "dashes":
		return r.list(p, kind, n, 1, 100)
	case "gradient":
		return r.list(p, kind, n, 1, 1000)
	case "shadow":
		if n.Kind == jsontree.Array {
			return r.list(p, kind, n, 1, 100)
		}
		return r.composite(p, kind, n)
	case "gradientStop":
		v := r.composite(p, kind, n)
		if v != nil {
			if at, ok := v.Part("position").End().Literal.(float64); ok && (at < 0 || at > 1) {
				r.warnf("token-position", p.t.source, n, p.pointer(), "place it between 0 and 1", "the token %s: a stop stands at 0 to 1 of a gradient; %s counts as %s", p.t.Path, Number(at), Number(min(max(at, 0), 1)))
			}
		}
		return v
	case "border", "transition", "typography":
		return r.composite(p, kind, n)
	}
	return nil
}

func (r *resolution) keyword(p place, n *jsontree.Node, words []string) *Value {
	if n.Kind == jsontree.String && slices.Contains(words, n.Text) {
		return &Value{Type: "keyword", Literal: n.Text}
	}
	r.wrong("token-value", p, n, "use one of "+strings.Join(words, ", "), "found %s", n.Short())
	return nil
}

// list reads a list of pieces. A reference to a list of the same type stands
// for its items' place.
func (r *resolution) list(p place, kind string, n *jsontree.Node, least, most int) *Value {
	if n.Kind != jsontree.Array || len(n.Children) < least || len(n.Children) > most {
		what := "a list"
		if least == most {
			what = "a list of " + strconv.Itoa(least)
		}
		r.wrong("token-value", p, n, "", "%s was expected, found %s", what, n.Short())
		return nil
	}
	v := &Value{Type: kind, Items: make([]*Value, 0, len(n.Children))}
	for i, c := range n.Children {
		piece := lists[kind]
		if kind == "fontFamily" && !isReference(c) {
			piece = "family"
		}
		item := r.value(p.under(strconv.Itoa(i)), piece, c)
		if item == nil {
			return nil
		}
		v.Items = append(v.Items, item)
		v.leaves += item.size()
	}
	return v
}

func (r *resolution) composite(p place, kind string, n *jsontree.Node) *Value {
	if n.Kind != jsontree.Object {
		r.wrong("token-value", p, n, "", "%s was expected, found %s", shapeOf(kind), n.Short())
		return nil
	}
	v := &Value{Type: kind}
	whole := true
	for _, f := range composites[kind] {
		c := n.Get(f.name)
		if c == nil {
			switch f.need {
			case required:
				r.wrong("token-part", p, n, "add "+f.name, "a %s has %s, found none", kind, f.name)
				whole = false
			case wanted:
				r.warnf("token-part", p.t.source, n, p.pointer(), "add "+f.name, "the token %s: the standard's %s has %s too", p.t.Path, kind, f.name)
			}
			continue
		}
		part := r.value(p.under(f.name), f.kind, c)
		if part == nil {
			whole = false
			continue
		}
		v.Parts = append(v.Parts, Part{f.name, part})
		v.leaves += part.size()
	}
	for _, c := range n.Children {
		if !slices.ContainsFunc(composites[kind], func(f field) bool { return f.name == c.Name }) {
			r.warnf("token-part", p.t.source, c, p.under(c.Name).pointer(), "remove it, or check its spelling", "the token %s: a %s has no %s", p.t.Path, kind, c.Name)
		}
	}
	if !whole {
		return nil
	}
	return v
}

func shapeOf(kind string) string {
	var names []string
	for _, f := range composites[kind] {
		if f.need != optional {
			names = append(names, `"`+f.name+`"`)
		}
	}
	return "an object with " + strings.Join(names, ", ")
}

// color reads the Color Module's object, or the hex string of older drafts.
func (r *resolution) color(p place, n *jsontree.Node) *Value {
	if n.Kind == jsontree.String {
		c, err := color.Parse(n.Text)
		if err != nil {
			r.wrong("token-value", p, n, "", "%s", err)
			return nil
		}
		r.olderValue(p, n, "write %s", colorNode(c).Append(nil, oneLine))
		return &Value{Type: "color", Literal: c}
	}
	parts := n.Get("components")
	space := n.Get("colorSpace")
	if space == nil || space.Kind != jsontree.String || parts == nil || parts.Kind != jsontree.Array || len(parts.Children) != 3 {
		r.wrong("token-value", p, n, "", `a colour is {"colorSpace": …, "components": [three numbers], "alpha": …}, found %s`, n.Short())
		return nil
	}
	named, err := color.SpaceNamed(space.Text)
	if err != nil {
		r.wrong("token-value", p.under("colorSpace"), space, "", "%s", err)
		return nil
	}
	var v [3]float64
	for i, c := range parts.Children {
		if c.Kind == jsontree.String && c.Text == "none" {
			v[i] = color.None
			continue
		}
		if f, ok := c.Float(); ok {
			v[i] = f
			continue
		}
		number := r.value(p.under("components").under(strconv.Itoa(i)), "number", c)
		if number == nil {
			return nil
		}
		v[i] = number.End().Literal.(float64)
	}
	alpha := 1.0
	if a := n.Get("alpha"); a != nil {
		number := r.value(p.under("alpha"), "number", a)
		if number == nil {
			return nil
		}
		alpha = number.End().Literal.(float64)
	}
	if what := named.Outside(v); what != "" {
		r.wrong("token-value", p.under("components"), parts, "", "%s", what)
		return nil
	}
	c, err := color.New(named, v, alpha)
	if err != nil {
		r.wrong("token-value", p, n, "", "%s", err)
		return nil
	}
	if hex := n.Get("hex"); hex != nil {
		opaque := c
		opaque.Alpha = 1
		if h, err := color.Parse(hex.Text); err != nil || len(hex.Text) != 7 {
			r.warnf("token-hex", p.t.source, hex, p.under("hex").pointer(), "write six digits, such as "+opaque.Hex(), "the token %s: hex is %s", p.t.Path, hex.Short())
		} else if c.In(color.SRGB) && color.Difference(h, opaque) > 1 {
			r.warnf("token-hex", p.t.source, hex, p.under("hex").pointer(), "write "+opaque.Hex(), "the token %s: hex is %s, but the components are %s", p.t.Path, hex.Text, opaque.Hex())
		}
	}
	return &Value{Type: "color", Literal: c}
}

// measure reads {"value": n, "unit": u}, or the string "16px" of older drafts.
func (r *resolution) measure(p place, kind string, n *jsontree.Node, units ...string) *Value {
	if n.Kind == jsontree.String {
		if m, ok := measureFrom(n.Text, units...); ok {
			r.olderValue(p, n, "write %s", measureNode(m).Append(nil, oneLine))
			return &Value{Type: kind, Literal: m}
		}
	}
	unit := n.Get("unit")
	if n.Get("value") != nil && unit != nil && unit.Kind == jsontree.String && slices.Contains(units, unit.Text) {
		for _, c := range n.Children {
			if c.Name != "value" && c.Name != "unit" {
				r.wrong("token-part", p.under(c.Name), c, "remove it, or check its spelling", "a %s has a value and a unit, found %s", kind, c.Name)
				return nil
			}
		}
		if m := r.value(p.under("value"), "number", n.Get("value")); m != nil {
			return &Value{Type: kind, Literal: Measure{m.End().Literal.(float64), unit.Text}}
		}
		return nil
	}
	r.wrong("token-value", p, n, "", `{"value": number, "unit": "%s"} was expected, found %s`, strings.Join(units, `" or "`), n.Short())
	return nil
}

func (r *resolution) fontWeight(p place, n *jsontree.Node) *Value {
	if f, ok := n.Float(); ok && f >= 1 && f <= 1000 {
		return &Value{Type: "fontWeight", Literal: Weight{Number: f}}
	}
	if n.Kind == jsontree.String {
		if f, ok := fontWeights[n.Text]; ok {
			return &Value{Type: "fontWeight", Literal: Weight{f, n.Text}}
		}
	}
	r.wrong("token-value", p, n, "", "a weight is a number from 1 to 1000 or a name such as semi-bold, found %s", n.Short())
	return nil
}

func (r *resolution) olderValue(p place, n *jsontree.Node, today string, args ...any) {
	noteOlder(&r.reports, p.t.source, n, p.pointer(), today, args...)
}

func noteOlder(r *reports, s *source, n *jsontree.Node, pointer, today string, args ...any) {
	r.warnf("token-older", s, n, pointer, "", "an older draft's form; today's standard: "+today, args...)
}
