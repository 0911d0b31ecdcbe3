package token

import (
	"cobrik/core/color"
	"cobrik/core/css"
)

// Value is a token's value, or a piece of one (Format Module, 8 and 9; Color
// Module). Exactly one of To, Literal, Parts and Items is set.
type Value struct {
	Type  string // a type of the standard, or "boolean" or "keyword" for a piece without one
	Alias string // path of the token it points at; empty when it is said here
	To    *Value // what the alias leads to
	// Literal is a color.Color, a Measure (dimension, duration), a float64
	// (number), a Weight, a string (a family's name, a keyword) or a bool.
	Literal any
	Parts   []Part   // a composite's parts, in the standard's order
	Items   []*Value // a list: families, numbers of a curve, dashes, shadows, gradient stops
	Form    string   // how an output wants a colour written (color.Forms); empty in a set

	end    *Value // of a reference: the value that is said; nil when it was not remembered
	leaves int    // pieces that it comes to with every reference followed; 0 for one
}

// Reference is a value that points at a token, whose value is to.
func Reference(kind, path string, to *Value) *Value {
	end := to.End()
	return &Value{Type: kind, Alias: path, To: to, end: end, leaves: end.size()}
}

func (v *Value) size() int { return max(1, v.leaves) }

// Part is one named part of a composite.
type Part struct {
	Name  string
	Value *Value
}

// Measure is a number with its unit: px or rem, ms or s.
type Measure struct {
	Number float64
	Unit   string
}

// Weight is a font's weight, 1 to 1000, and the name it was given by, if any.
type Weight struct {
	Number float64
	Name   string
}

// End follows references to the value that is said.
func (v *Value) End() *Value {
	for v.To != nil {
		if v.end != nil {
			return v.end
		}
		v = v.To
	}
	return v
}

// Part finds a part by name; nil when it is not there.
func (v *Value) Part(name string) *Value {
	for _, p := range v.Parts {
		if p.Name == name {
			return p.Value
		}
	}
	return nil
}

// Color gives a colour's value; false when it is none.
func (v *Value) Color() (color.Color, bool) {
	c, ok := v.End().Literal.(color.Color)
	return c, ok
}

// plain gives the value in the form in which sides are compared; empty for
// types that are not.
func (v *Value) plain() string {
	end := v.End()
	switch literal := end.Literal.(type) {
	case color.Color:
		return literal.Key()
	case Measure:
		switch literal.Unit {
		case "rem":
			return css.FormatNumber(literal.Number*css.RootFontSize) + "px"
		case "px":
			return css.FormatNumber(literal.Number) + "px"
		}
	case float64:
		return css.FormatNumber(literal)
	case Weight:
		return css.FormatNumber(literal.Number)
	}
	switch end.Type {
	case "shadow":
		return css.CanonicalText("box-shadow", end.CSS(), 0)
	case "gradient":
		return css.CanonicalText("background-image", end.CSS(), 0)
	}
	if end.Type == "fontFamily" && len(end.Items) > 0 {
		name, _ := end.Flat().Items[0].Literal.(string)
		return name
	}
	return ""
}

// Map gives a copy in which every piece that is said has gone through a
// function, pieces of pieces first, also what references lead to. References
// stay references, and lead straight to the value.
func (v *Value) Map(change func(*Value) *Value) *Value {
	if v.To != nil {
		return Reference(v.Type, v.Alias, v.End().Map(change))
	}
	out := *v
	out.Parts, out.Items = nil, nil
	for _, p := range v.Parts {
		out.Parts = append(out.Parts, Part{p.Name, p.Value.Map(change)})
	}
	for _, item := range v.Items {
		out.Items = append(out.Items, item.Map(change))
	}
	return change(&out)
}

// Flat gives the value with every reference replaced by what it leads to; a
// list referred to from within a list of its kind becomes part of it.
func (v *Value) Flat() *Value {
	out := *v.End()
	parts, items := out.Parts, out.Items
	out.Parts, out.Items = nil, nil
	for _, p := range parts {
		out.Parts = append(out.Parts, Part{p.Name, p.Value.Flat()})
	}
	for _, item := range items {
		if item = item.Flat(); item.Type == out.Type && item.Items != nil {
			out.Items = append(out.Items, item.Items...)
		} else {
			out.Items = append(out.Items, item)
		}
	}
	return &out
}

// Types are the standard's types, simple ones first.
var Types = []string{"color", "dimension", "fontFamily", "fontWeight", "duration", "cubicBezier", "number",
	"strokeStyle", "border", "transition", "shadow", "gradient", "typography"}

// need says whether a composite has to hold a part.
type need uint8

const (
	required need = iota
	wanted        // the standard requires it; not there, it counts as nothing and is warned of
	optional
)

type field struct {
	name, kind string
	need       need
}

// composites are the parts of each composite type (Format Module, 9).
var composites = map[string][]field{
	"border":     {{"color", "color", required}, {"width", "dimension", required}, {"style", "strokeStyle", required}},
	"transition": {{"duration", "duration", required}, {"delay", "duration", wanted}, {"timingFunction", "cubicBezier", required}},
	"shadow": {{"color", "color", required}, {"offsetX", "dimension", required}, {"offsetY", "dimension", required},
		{"blur", "dimension", wanted}, {"spread", "dimension", wanted}, {"inset", "boolean", optional}},
	"typography": {{"fontFamily", "fontFamily", required}, {"fontSize", "dimension", required}, {"fontWeight", "fontWeight", wanted},
		{"letterSpacing", "dimension", wanted}, {"lineHeight", "number", wanted}},
	"strokeStyle":  {{"dashArray", "dashes", required}, {"lineCap", "lineCap", required}},
	"gradientStop": {{"color", "color", required}, {"position", "number", required}},
}

// lists are the types that are, or may be, lists of pieces of another.
var lists = map[string]string{"gradient": "gradientStop", "shadow": "shadow", "dashes": "dimension", "fontFamily": "fontFamily", "cubicBezier": "number"}

var (
	strokeStyles = []string{"solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset"}
	lineCaps     = []string{"round", "butt", "square"}
)

// fontWeights are the names the Format Module, 8.4, gives to numbers.
var fontWeights = map[string]float64{
	"thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
	"normal": 400, "regular": 400, "book": 400, "medium": 500, "semi-bold": 600, "demi-bold": 600,
	"bold": 700, "extra-bold": 800, "ultra-bold": 800, "black": 900, "heavy": 900,
	"extra-black": 950, "ultra-black": 950,
}
